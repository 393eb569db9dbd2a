//! Which form each group takes: flat, open, or in the rows that somebody laid out.

use super::fill::{Filler, State};
use super::slight::ends_line;
use super::plan::{Group, GroupId, Opens, Rows, Shape, Slight, TreeEdit, Want, When};
use crate::syntax::{Role, Token, TokenId};

/// Whether several elements of a group may stand on one of its lines.
fn takes_one_row(group: &Group) -> bool {
    group.shape == Shape::List && !group.one_each
}

/// So many tokens of a line are looked at. Bounds the work on hostile input.
const MOST_ON_A_LINE: u32 = 1_000;

/// So many columns have to be gained where an element is put below a bracket and still has no room.
const GAIN: usize = 4;

impl Filler<'_> {
    /// Decides a group's form, as far as it is free to change it.
    pub(super) fn decide(&mut self, id: GroupId, index: usize) {
        let limit = self.max;
        self.max = self.max_of(id);
        if self.max < limit {
            self.max = self.max.max(self.first_line(id));
        }
        self.decide_within_limit(id, index);
        self.max = limit;
    }

    /// Whether lines are as long as somebody makes them.
    fn is_boundless(&self) -> bool {
        self.joined < self.max
    }

    /// How long the lines of a group may be: where there is no limit, what stands on one line may stay there,
    /// and what does not is laid out as if there were one.
    fn max_of(&self, id: GroupId) -> usize {
        if !self.is_boundless() {
            return self.max;
        }
        let group = &self.sheet.plan.groups[id];
        let tokens = &self.sheet.tree.tokens[group.first as usize..group.end as usize];
        let line = |byte: u32| self.sheet.lines.line_of(byte as usize);
        let is_one_line = match tokens {
            [first, .., last] => line(first.start) == line(last.start),
            _ => true,
        };
        // The lines of a text are its own.
        let mut gaps = group.first as usize + 1..group.end as usize;
        let mut is_unbroken = || {
            tokens.len() <= MOST_ON_A_LINE as usize && !gaps.any(|gap| self.sheet.broken(gap))
        };
        if is_one_line || is_unbroken() { self.max } else { self.joined }
    }

    /// How long the line is that a group begins on, up to where the text breaks it: nobody made it longer
    /// than they like.
    fn first_line(&self, id: GroupId) -> usize {
        let sheet = self.sheet;
        let (first, end) = {
            let group = &sheet.plan.groups[id];
            (group.first as usize, group.end.min(group.first + MOST_ON_A_LINE) as usize)
        };
        let ends = |token: &usize| sheet.tree.broken(*token, sheet.text);
        let next = (first + 1..end).find(ends).unwrap_or(end);
        self.column + sheet.measures.width(first) + sheet.measures.between(first + 1, next)
    }

    fn decide_within_limit(&mut self, id: GroupId, index: usize) {
        let group = &self.sheet.plan.groups[id];
        let measures = &self.sheet.measures;
        let (first, end) = (group.first as usize, group.end as usize);
        if group.shape == Shape::Block {
            self.states[id] = State::Open;
            return;
        }
        if group.flows && self.live.all(group.first, group.end) {
            self.states[id] = State::Flowing;
            return;
        }
        if !self.live.all(group.first, group.end) {
            let broken = self.sheet.tree.broken(first, self.sheet.text);
            self.leading[id] = first == 0 || broken;
            self.below[id] = self.first_row_is_full(id);
            return;
        }
        self.below[id] = match self.may_begin_beside(id) {
            true => self.is_put_below(id) || (!self.fits_beside(id) && !self.holds_a_chain(id)),
            false => self.first_row_is_full(id),
        };
        let fits = |width: usize| {
            self.column + width + self.late_comma(end) + self.closed_flat(end) <= self.max
        };
        // A list in rows keeps the lines that it has, whatever opens it.
        let in_rows = self.fills && group.rows == Rows::Kept && group.shape == Shape::List;
        let state = if end <= self.flat_until {
            State::Flat
        } else if self.is_broken_by_chance(id) {
            self.flat_until = if group.slight == Slight::Head { self.flat_until } else { end };
            State::Flat
        } else if (group.is_forced() && !in_rows)
            || group.slight == Slight::Head
            || self.alike.contains(&id)
        {
            self.opened(id)
        } else if self.is_behind_lines(group) {
            self.opened(id)
        } else if group.rows == Rows::Kept {
            if self.rows_fit(id) { State::Rows } else { self.opened(id) }
        } else if measures.flat(first, end).is_some_and(fits) && !self.is_chosen(id) {
            self.flat_until = end;
            State::Flat
        } else {
            match group.opens {
                Opens::ByHand if self.is_full_before_last(id) => self.opened(id),
                Opens::ByHand => State::Flat,
                Opens::ForOneLine if self.fits_inside(id) => self.opened(id),
                Opens::ForOneLine => State::Flat,
                Opens::Again if self.is_vain(id) || self.hugs(id) => State::Flat,
                Opens::Always | Opens::Again => self.opened(id),
                _ if self.is_text_alone(id) => State::Flat,
                Opens::Before if self.helps(id, index) => self.opened(id),
                Opens::Before if self.gives_way(id, index) => State::Flat,
                Opens::Before => self.opened(id),
                Opens::BehindHeader if self.column > self.max => State::Flat,
                Opens::ToFit | Opens::BehindLines | Opens::BehindHeader
                    if self.fits_below(id, index) =>
                {
                    self.opened(id)
                }
                Opens::Halves if self.has_room_before(id, index) && self.fits_below(id, index) => {
                    self.opened(id)
                }
                Opens::Halves => State::Flat,
                Opens::TooWide if self.ends_behind_its_list(id) && self.fits_below(id, index) => {
                    self.opened(id)
                }
                Opens::TooWide if self.is_lone_chain(id) => {
                    match self.is_put_below(id) || !self.goes_on_behind_its_bracket(id, index) {
                        true => self.opened(id),
                        false => State::Flat,
                    }
                }
                _ if self.gives_way(id, index) => State::Flat,
                _ if self.keeps && self.is_lone_parameter(id) => State::Flat,
                // What is too long either way stays as somebody put it.
                _ if self.keeps
                    && !self.is_open_in_text(id)
                    && (self.is_idle(id) || self.is_all_but_one(id)) => {
                    State::Flat
                }
                Opens::ToFit | Opens::BehindLines | Opens::BehindHeader | Opens::TooWide => {
                    self.opened(id)
                }
            }
        };
        let opens_with = group.with.is_some_and(|around| self.state(around).is_open());
        self.states[id] = if state == State::Flat && opens_with { self.opened(id) } else { state };
        if self.states[id] == State::Open {
            self.open_alike(id);
        }
    }

    /// Whether a group opens as what it belongs to has begun on another line.
    fn is_behind_lines(&self, group: &Group) -> bool {
        let start = self.line_start;
        let closes = || self.sheet.tree.closes(self.sheet.token_text(start));
        let opens = match group.opens {
            Opens::BehindLines => true,
            Opens::BehindHeader => !closes(),
            _ => false,
        };
        opens && start > group.stem as usize
    }

    /// Decides the form of an open list whose brackets are not in play, where all that stands
    /// between them is: whether that is one row.
    pub(super) fn decide_within(&mut self, id: GroupId) {
        let group = &self.sheet.plan.groups[id];
        let opening = group.opening.unwrap_or(group.first);
        let may_change = self.states[id] == State::Still && group.rows != Rows::Kept;
        if may_change
            && self.row_first
            && takes_one_row(group)
            && self.is_open_in_text(id)
            && self.live.all(opening, group.end - 1)
            && self.row_fits(id)
        {
            self.states[id] = State::Inner;
        }
    }

    /// The columns of what follows on the same line behind closing brackets that might have lines
    /// of their own, but have not, as the groups around have given way.
    pub(super) fn closed_flat(&self, end: usize) -> usize {
        let sheet = self.sheet;
        let mut columns = 0;
        let mut stop = sheet.measures.next_break(end);
        while stop < sheet.tree.tokens.len()
            && sheet.plan.closes(stop)
            && sheet.plan.gaps[stop].want == Want::Break
            && sheet.plan.gaps[stop].group.is_some_and(|group| {
                self.states[group] == State::Flat && self.closing_state(group) == State::Flat
            })
        {
            let next = sheet.measures.next_break(stop + 1);
            columns += sheet.measures.between(stop, next);
            stop = next;
        }
        columns
    }

    /// The form of a group that opens.
    fn opened(&mut self, id: GroupId) -> State {
        let group = &self.sheet.plan.groups[id];
        let is_list = takes_one_row(group);
        let fills = (is_list && self.fills)
            || (group.fills && (!is_list || self.is_worth_filling(id)));
        let is_beside = self.begins_beside(id);
        // One element beside its bracket, with the other one behind it, has no line to begin.
        let opening = group.opening.map(|gap| gap as usize).filter(|_| is_beside);
        if opening.is_some_and(|opening| self.next_own(id, opening) >= group.end as usize) {
            return State::Flat;
        }
        if is_list && self.row_first && self.row_fits(id) {
            State::Inner
        } else if fills {
            State::Filled
        } else if is_beside {
            State::Beside
        } else {
            State::Open
        }
    }

    /// Whether the rows that a list keeps begin behind its bracket, where the first element has no room by
    /// now, but has some on a line of its own, or has lines itself: the rows that follow would hang on those.
    fn first_row_is_full(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(opening) = group.opening.map(|gap| gap as usize) else { return false };
        let is_row = group.rows == Rows::Kept
            && group.shape == Shape::List
            && group.bracketed
            && !self.may_begin_beside(id)
            && !sheet.broken(opening);
        let next = if is_row { self.next_own(id, opening) } else { group.end as usize };
        let is_lone = next >= group.end as usize || sheet.plan.closes(next);
        if is_lone || !self.live.all(group.first, next as TokenId) {
            return false;
        }
        let Some(width) = sheet.measures.flat(opening, next) else { return false };
        let (beside, below) = (self.behind(group.first as usize), self.inner_column(id));
        let has_lines = sheet.measures.next_break(opening + 1) < next;
        beside + width > self.max
            && (below + width <= self.max || (has_lines && below + GAIN <= beside))
    }

    /// Whether the lines of a list are to stand under its first element, which stays beside the bracket.
    pub(super) fn may_begin_beside(&self, id: GroupId) -> bool {
        self.sheet.plan.groups[id].is_beside()
    }

    /// Whether a value is a text over several lines: nobody puts that on the next line for its first one.
    fn is_text_alone(&self, id: GroupId) -> bool {
        let group = &self.sheet.plan.groups[id];
        let is_text = |token: &Token| token.multi_line && token.role == Role::Atom;
        group.shape == Shape::LastResort
            && group.opening.is_some_and(|first| {
                first + 1 == group.end && is_text(&self.sheet.tree.tokens[first as usize])
            })
    }

    /// Whether all that a group holds is one thing.
    fn is_alone(&self, id: GroupId, first: usize) -> bool {
        self.next_own(id, first) >= self.sheet.plan.groups[id].end as usize
    }

    /// Whether somebody put the one thing that a group holds below its bracket: nothing else would stand
    /// under it beside that.
    fn is_put_below(&self, id: GroupId) -> bool {
        let group = &self.sheet.plan.groups[id];
        self.keeps
            && self.is_open_in_text(id)
            && group.opening.is_some_and(|gap| self.is_alone(id, gap as usize))
    }

    /// Whether that is a chain, in a list whose bracket closes behind it.
    fn is_lone_chain(&self, id: GroupId) -> bool {
        let group = &self.sheet.plan.groups[id];
        group.shape == Shape::List
            && group.bracketed
            && !self.sheet.plan.closes_apart(id)
            && self.holds_a_chain(id)
    }

    /// Whether a chain that is all that a list holds is broken where it stands: its first row has room
    /// behind the bracket, and the whole has none on a line of its own.
    fn goes_on_behind_its_bracket(&mut self, id: GroupId, index: usize) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let opening = group.opening.map_or(index, |gap| gap as usize);
        let mut row = opening + 1..group.end as usize;
        let ends = row.find(|token| self.keeps && sheet.broken(*token));
        let link = ends.unwrap_or_else(|| sheet.measures.next_break(opening + 1));
        sheet.measures.head(index, link).is_some_and(|width| self.column + width <= self.max)
            && !self.last_fits(id)
    }

    /// Whether all that a group holds is one chain, which may be broken where it stands.
    fn holds_a_chain(&self, id: GroupId) -> bool {
        let (plan, measures) = (&self.sheet.plan, &self.sheet.measures);
        let group = &plan.groups[id];
        let Some(first) = group.opening.map(|gap| gap as usize) else { return false };
        let is_lone = self.is_alone(id, first);
        let inner = plan.gaps.get(measures.next_break(first + 1)).and_then(|gap| gap.group);
        let is_chain = |inner: GroupId| {
            let inner = &plan.groups[inner];
            inner.shape == Shape::Chain && !inner.bracketed && inner.first as usize == first
        };
        is_lone && inner.is_some_and(is_chain)
    }

    /// Whether they do.
    pub(super) fn begins_beside(&self, id: GroupId) -> bool {
        self.may_begin_beside(id) && !self.below[id]
    }

    /// The column at which the lines inside a group begin.
    pub(super) fn inner_column(&mut self, id: GroupId) -> usize {
        let group = &self.sheet.plan.groups[id];
        let Some(opening) = group.opening.map(|gap| gap as usize) else { return 0 };
        let first = group.first as usize;
        match group.under.map(|under| under as usize) {
            Some(under) if under == first => self.column,
            Some(under) if under == first + 1 && !self.below[id] => self.behind(first),
            _ => {
                let level = self.sheet.plan.gaps[opening].level;
                let inside = self.inside_of(id, level);
                self.indents.columns(inside)
            }
        }
    }

    /// The column of what stands behind a group's first token on its line.
    pub(super) fn behind(&self, first: usize) -> usize {
        let gap = &self.sheet.plan.gaps[first + 1];
        self.column + self.sheet.measures.width(first) + usize::from(gap.blanks)
    }

    /// Whether all elements of a list fit on one line inside its brackets.
    fn row_fits(&mut self, id: GroupId) -> bool {
        let group = &self.sheet.plan.groups[id];
        let Some(opening) = group.opening.map(|gap| gap as usize) else { return false };
        let column = self.inner_column(id);
        let end = group.end as usize - usize::from(self.sheet.plan.closes(group.end as usize - 1));
        let comma = self.late_comma(end);
        opening < end
            && self
                .sheet
                .measures
                .flat(opening, end)
                .is_some_and(|width| column + width + comma <= self.max)
    }

    /// The next gap of a group behind a token that may be broken, or the group's end.
    pub(super) fn next_own(&self, id: GroupId, from: usize) -> usize {
        let (plan, end) = (&self.sheet.plan, self.sheet.plan.groups[id].end as usize);
        let is_own = |index: &usize| {
            plan.gaps[*index].want == Want::Break && plan.gaps[*index].group == Some(id)
        };
        (from + 1..end).find(is_own).unwrap_or(end)
    }

    /// Whether an element of rows, behind a gap, would be too long at a column and begins further
    /// in than the lines do.
    pub(super) fn overflows(
        &self,
        id: GroupId,
        index: usize,
        column: usize,
        inside: usize,
    ) -> bool {
        // What stands on a line without a limit is not too long for it.
        if self.is_boundless() && !self.sheet.broken(index) {
            return false;
        }
        let end = self.next_own(id, index);
        let width = self.sheet.measures.flat(index, end);
        column > inside && width.is_some_and(|width| column + width > self.max_of(id))
    }

    /// Whether the word of a text that begins at a gap is too long for what is left of the line.
    fn has_no_room(&mut self, id: GroupId, index: usize) -> bool {
        let sheet = self.sheet;
        let gap = &sheet.plan.gaps[index];
        let inside = self.inside_of(id, gap.level);
        let column = self.column + usize::from(gap.blanks);
        match sheet.measures.flat(index, self.next_own(id, index)) {
            Some(width) => {
                column > self.indents.columns(inside) && column + width > self.max_of(id)
            }
            // It takes several lines, and stands where it does.
            None => sheet.tree.broken(index, sheet.text),
        }
    }

    /// Whether a group may stay in the rows that it has in the text: where the line is broken
    /// behind the bracket, none of several elements has lines inside it, and there are still as
    /// many elements that share a line once those that are too long are broken.
    fn rows_fit(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(opening) = group.opening.map(|gap| gap as usize) else { return false };
        if group.shape != Shape::List || !sheet.broken(opening) {
            return !self.may_begin_beside(id) || !self.below[id];
        }
        let inside = self.inner_column(id);
        let (mut at, mut column, mut row) = (opening, inside, opening);
        let (mut ends, mut joins, mut elements) = (1, 0, 1);
        while at < group.end as usize {
            let next = self.next_own(id, at);
            column += sheet.measures.head(at, next).unwrap_or(0);
            let is_last = next >= group.end as usize || sheet.plan.closes(next);
            let ends_row = is_last || sheet.broken(next);
            let blanks = if is_last { 0 } else { usize::from(sheet.plan.gaps[next].blanks) };
            let wraps = !is_last && self.overflows(id, next, column + blanks, inside);
            // Where a comment stands, a line ends anyway.
            let beside_comment = !is_last
                && (next - 1..next + 1).any(|at| sheet.tree.tokens[at].role == Role::Comment);
            if ends_row || wraps {
                if !self.fills && elements > 1 && sheet.measures.flat(row, next).is_none() {
                    return false;
                }
                ends += u32::from(!is_last && !beside_comment);
                (column, row, elements) = (inside, next, 1);
            } else {
                joins += 1;
                column += blanks;
                elements += 1;
            }
            if is_last {
                break;
            }
            at = next;
        }
        joins >= ends || sheet.plan.groups[id].shares || self.fills
    }

    /// Whether a line begins at a gap of a group that is in its final form.
    pub(super) fn is_line(&mut self, index: usize) -> bool {
        let sheet = self.sheet;
        let Some(id) = sheet.plan.gaps[index].group else { return false };
        let group = &sheet.plan.groups[id];
        let closes = sheet.plan.closes(index);
        let is_opening = group.opening == Some(index as u32);
        // A list without brackets has begun before its first line ends.
        let begins = is_opening
            && group.shape == Shape::List
            && (group.bracketed || sheet.plan.gaps[index].level > 0);
        let raw = self.states[id];
        match self.state_at(index) {
            State::Still | State::Flat => false,
            State::Open => true,
            State::Beside => !is_opening,
            State::Inner => is_opening || closes,
            State::Flowing => self.has_no_room(id, index),
            State::Rows if closes => raw == State::Rows || sheet.tree.broken(index, sheet.text),
            State::Filled if closes => true,
            State::Rows if is_opening && self.begins_beside(id) => false,
            State::Rows if is_opening && self.below[id] => true,
            State::Filled if begins => !self.begins_beside(id),
            State::Rows if sheet.broken(index) => true,
            // What ends with the end of a line is a line of the text.
            State::Filled if self.ends_line(id, index) => true,
            // A comment with a line of its own keeps it.
            State::Filled
                if sheet.tree.broken(index, sheet.text)
                    && sheet.tree.tokens[index - 1..]
                        .iter()
                        .take(2)
                        .any(|token| token.role == Role::Comment) =>
            {
                true
            }
            State::Rows | State::Filled => {
                let level = sheet.plan.gaps[index].level;
                let inside = self.inside_of(id, level);
                let column = self.column + usize::from(sheet.plan.gaps[index].blanks);
                !begins && self.overflows(id, index, column, self.indents.columns(inside))
            }
        }
    }

    /// Whether what stands before a gap of a sum is a string with the end of a line at its end.
    fn ends_line(&self, id: GroupId, index: usize) -> bool {
        let sheet = self.sheet;
        let text = |token: usize| sheet.token_text(token);
        let is_sum = sheet.plan.groups[id].shape == Shape::Chain;
        let before = (index.saturating_sub(2)..index).rev().find(|token| {
            !matches!(text(*token), "+" | "..")
        });
        is_sum
            && before.is_some_and(|token| ends_line(text(token)))
    }

    /// The column of a comma that follows only because the list around it is open.
    pub(super) fn late_comma(&self, end: usize) -> usize {
        let sheet = self.sheet;
        let is_open = |group: GroupId| {
            self.state(group).is_open() && sheet.plan.closes_apart(group)
        };
        let last = sheet.plan.rewrites_of(end - 1).iter();
        let next = (end < sheet.tree.tokens.len()).then(|| sheet.plan.rewrites_of(end));
        let comes = last.chain(next.into_iter().flatten()).any(|rewrite| match rewrite.change {
            TreeEdit::Insert(_, When::Open(group)) => rewrite.token as usize == end - 1
                && is_open(group),
            TreeEdit::Remove(When::Flat(group)) => rewrite.token as usize == end && is_open(group),
            _ => false,
        });
        usize::from(comes)
    }

    /// What became of a group; of one that is not free to change, the form that it has.
    pub(super) fn state(&self, id: GroupId) -> State {
        let group = &self.sheet.plan.groups[id];
        match self.states[id] {
            State::Still if group.rows == Rows::Kept => State::Rows,
            // It would be filled if all of it were in play.
            State::Still
                if group.fills && group.shape == Shape::List && self.is_open_in_text(id) =>
            {
                State::Filled
            }
            State::Still if self.is_open_in_text(id) => State::Open,
            // Its lines are under the first element, which stays behind the bracket.
            State::Still
                if self.sheet.units.ragged[id]
                    && self.sheet.units.beneath[id]
                    && self.may_begin_beside(id) =>
            {
                State::Beside
            }
            State::Still => State::Flat,
            state => state,
        }
    }

    /// Whether a group is a ragged list neither of whose brackets is in play: it stays as it is.
    pub(super) fn keeps_form(&self, id: GroupId) -> bool {
        let units = &self.sheet.units;
        let group = &self.sheet.plan.groups[id];
        let is_live = |token: u32| self.live.unit[units.of_token[token as usize] as usize];
        self.states[id] == State::Still
            && units.ragged[id]
            && !is_live(group.first)
            && !is_live(group.end - 1)
    }

    /// What became of the group of a gap, as far as the gap goes.
    pub(super) fn state_at(&self, index: usize) -> State {
        match self.sheet.plan.gaps[index].group {
            Some(group) if self.sheet.plan.closes(index) => self.closing_state(group),
            Some(group) => self.state(group),
            None => State::Still,
        }
    }

    /// What became of a group as far as its closing bracket goes, which follows the group's tail.
    pub(super) fn closing_state(&self, id: GroupId) -> State {
        match (self.state(id), self.sheet.plan.groups[id].tail) {
            (State::Flat, Some(tail)) => self.closing_state(tail),
            (state, _) => state,
        }
    }

    /// Whether a group is open in the text.
    fn is_open_in_text(&self, group: GroupId) -> bool {
        let opening = self.sheet.plan.groups[group].opening;
        opening.is_some_and(|gap| self.sheet.broken(gap as usize))
    }
}
