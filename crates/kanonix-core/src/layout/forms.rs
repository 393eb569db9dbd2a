//! Which form each group takes: flat, open, or in the rows that somebody laid out.

use super::fill::{Filler, State};
use super::slight::ends_line;
use super::plan::{Around, Group, GroupId, Opens, Rows, Shape, Slight, TreeEdit, Want, When};
use crate::syntax::Role;

/// How many elements of a list are looked at. Bounds the work on hostile input.
const MOST_ELEMENTS: usize = 256;

/// Whether several elements of a group may stand on one of its lines.
fn takes_one_row(group: &Group) -> bool {
    group.shape == Shape::List && !group.one_each
}

impl Filler<'_> {
    /// Decides a group's form, as far as it is free to change it.
    pub(super) fn decide(&mut self, id: GroupId, index: usize) {
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
            return;
        }
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
                Opens::Before if self.helps(id, index) => self.opened(id),
                Opens::Before if self.gives_way(id, index) => State::Flat,
                Opens::Before => self.opened(id),
                Opens::ToFit if self.fits_below(id, index) => self.opened(id),
                Opens::ToFit | Opens::TooWide if self.gives_way(id, index) => State::Flat,
                Opens::ToFit | Opens::TooWide
                    if self.keeps && (self.is_idle(id) || self.is_all_but_one(id)) =>
                {
                    State::Flat
                }
                Opens::ToFit | Opens::TooWide => self.opened(id),
            }
        };
        let opens_with = group.with.is_some_and(|around| self.state(around).is_open());
        self.states[id] = if state == State::Flat && opens_with { self.opened(id) } else { state };
        if self.states[id] == State::Open {
            self.open_alike(id);
        }
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
    fn closed_flat(&self, end: usize) -> usize {
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

    /// Whether opening a group would not help: it has one element, which is too long for a line of
    /// its own, too, and can be broken nowhere.
    fn is_idle(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.map(|gap| gap as usize) else { return false };
        let end = match group.shape {
            Shape::List if first == group.first as usize + 1 => group.end as usize - 1,
            Shape::LastResort => group.end as usize,
            _ => return false,
        };
        if first >= end || sheet.measures.next_break(first + 1) < end {
            return false;
        }
        let level = sheet.plan.gaps[first].level;
        let inside = self.inside_of(id, level);
        let width = sheet.measures.head(first, end);
        width.is_some_and(|width| self.indents.columns(inside) + width > self.max)
    }

    /// Whether all of a call, a chain or a value would fit but for one element, which is too long for a line
    /// of its own, too, and can be broken nowhere: nobody opens it for that.
    fn is_all_but_one(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let is_parenthesis = |token: u32| {
            let token = &sheet.tree.tokens[token as usize];
            &sheet.text[token.start as usize..token.end as usize] == "("
        };
        let is_call = group.shape == Shape::List && is_parenthesis(group.first);
        let is_value = group.shape == Shape::LastResort;
        let is_chain = group.shape == Shape::Chain && !group.bracketed;
        let Some(opening) = group.opening.map(|gap| gap as usize) else { return false };
        let (first, end) = (group.first as usize, group.end as usize);
        let Some(all) = sheet.measures.flat(first, end).filter(|_| is_call || is_chain || is_value)
        else {
            return false;
        };
        let inside = self.inner_column(id);
        let mut at = if is_chain { first } else { opening };
        for _ in 0..MOST_ELEMENTS {
            let next = match is_value {
                true => sheet.measures.next_break(at + 1),
                false => self.next_own(id, at),
            };
            let stop = next.min(end - usize::from(is_call));
            let width = sheet.measures.head(at, stop).unwrap_or(0);
            if inside + width > self.max && sheet.measures.next_break(at + 1) >= stop {
                return self.column + all + self.late_comma(end) <= self.max + width;
            }
            if next >= end || sheet.plan.closes(next) {
                break;
            }
            at = next;
        }
        false
    }

    /// Whether a value on the next line has to be opened there, too, and might as well be where it is:
    /// it ends with a list that begins on its first line.
    fn is_vain(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.map(|gap| gap as usize) else { return false };
        let end = group.end as usize;
        let stop = sheet.measures.next_break(first + 1);
        let ends_with = |list: GroupId| {
            let list = &sheet.plan.groups[list];
            // Rows that begin beside the bracket stand under what is there.
            let beside = list.rows == Rows::Kept
                && list.opening.is_some_and(|gap| !sheet.tree.broken(gap as usize, sheet.text));
            list.bracketed && list.shape == Shape::List && list.end as usize == end && !beside
        };
        let is_list = stop < end && sheet.plan.gaps[stop].group.is_some_and(ends_with);
        let inside = self.inside_of(id, sheet.plan.gaps[first].level);
        let column = self.indents.columns(inside);
        is_list
            && sheet.measures.flat(first, end).is_some_and(|width| column + width > self.max)
            && sheet
                .measures
                .head(group.first as usize, stop)
                .is_some_and(|width| self.column + width <= self.max)
    }

    /// Whether somebody put a value on the next line, or the only call of a chain, and the line would not be
    /// a short one with it. What opens a bracket or a block belongs behind its sign.
    fn is_chosen(&self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.filter(|_| group.opens == Opens::Again) else {
            return false;
        };
        let is_opener = |group: &Group| group.first == first && group.bracketed;
        let next = sheet.measures.next_break(first as usize + 1);
        let begins = next < group.end as usize && sheet.plan.group_of(next).is_some_and(is_opener);
        let short = match group.shape {
            Shape::LastResort => self.max / 4 * 3,
            _ => self.max / 2,
        };
        !begins && !self.ends_within(id, short)
    }

    /// Whether a value on the next line might as well begin where it belongs to: what it opens, and ends
    /// with, opens on its first line, and that fits there.
    fn hugs(&self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.filter(|_| group.closes) else { return false };
        let Some(stop) = sheet.measures.next_line(first as usize) else {
            return self.is_text_of_lines(id);
        };
        // Nothing but closing brackets stands behind it.
        let closes = |token: usize| {
            let token = &sheet.tree.tokens[token];
            sheet.tree.closes(&sheet.text[token.start as usize..token.end as usize])
        };
        let is_last = |inner: &Group| (inner.end as usize..group.end as usize).all(closes);
        let ends = sheet.plan.group_of(group.end as usize - 1);
        let ends_with_block = ends.is_some_and(|last| {
            last.shape == Shape::Block && last.end == group.end
        });
        let opens = |inner: &Group| match inner.shape {
            Shape::Block => ends_with_block || is_last(inner),
            // Parameters with a line each, behind which a block follows.
            Shape::List => is_last(inner) || (ends_with_block && inner.first == first),
            _ => inner.bracketed && inner.end == group.end && inner.first == first,
        };
        let head = || sheet.measures.head(group.first as usize, stop);
        stop < group.end as usize
            && sheet.plan.group_of(stop).is_some_and(opens)
            && head().is_some_and(|width| self.column + width <= self.max)
    }

    /// Whether a list has no room even for what stands before the parameters of its last element, of which
    /// there are several.
    fn is_full_before_last(&self, id: GroupId) -> bool {
        let (plan, measures) = (&self.sheet.plan, &self.sheet.measures);
        let group = &plan.groups[id];
        let last = self.last_element(id).filter(|_| group.shape == Shape::List && group.bracketed);
        last.is_some_and(|last| {
            let stop = measures.next_break(last + 1);
            let is_list = |inner: &GroupId| plan.groups[*inner].shape == Shape::List;
            let inner = plan.gaps.get(stop).and_then(|gap| gap.group).filter(is_list);
            let has_several = inner.is_some_and(|inner| {
                let next = self.next_own(inner, stop);
                next < plan.groups[inner].end as usize && !plan.closes(next)
            });
            let head = measures.head(group.first as usize, stop);
            has_several && head.is_some_and(|head| self.column + head > self.max)
        })
    }

    /// Whether a value is, or ends with, a text over several lines that opens on the value's first line, and
    /// has room where it is.
    fn is_text_of_lines(&self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let last = group.end as usize - 1;
        let token = &sheet.tree.tokens[last];
        token.multi_line
            && token.role == Role::Atom
            && sheet.measures.head(group.first as usize, last).is_some()
            && self.holds_its_lines(id)
    }

    /// Whether it helps to open a group before what is inside it: that fits then, or is a chain. Not
    /// where closing brackets follow that have no lines of their own.
    fn helps(&mut self, id: GroupId, index: usize) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.map(|gap| gap as usize) else { return false };
        let end = group.end as usize;
        let stop = sheet.measures.next_break(first + 1);
        let is_chain = |chain: GroupId| {
            let chain = &sheet.plan.groups[chain];
            chain.shape == Shape::Chain && !chain.bracketed && chain.end as usize == end
        };
        let is_flat = sheet.measures.flat(first, end).is_some();
        let is_chain =
            is_flat && stop < end && sheet.plan.gaps[stop].group.is_some_and(is_chain);
        self.fits_below(id, index)
            || (is_chain && self.closed_flat(end) == 0 && first >= index)
    }

    /// Whether all that is in a group fits on the next line. Not where closing brackets follow that have
    /// no lines of their own.
    fn fits_below(&mut self, id: GroupId, index: usize) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.map(|gap| gap as usize) else { return false };
        let end = group.end as usize;
        let Some(width) = sheet.measures.flat(first, end) else { return false };
        if self.closed_flat(end) > 0 || first < index {
            return false;
        }
        let inside = self.inside_of(id, sheet.plan.gaps[first].level);
        self.indents.columns(inside) + width + self.late_comma(end) <= self.max
    }

    /// Whether all that stands between the first and the last gap of a group fits on a line of its own.
    fn fits_inside(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.map(|gap| gap as usize) else { return false };
        let end = group.end as usize;
        let is_own = |gap: &usize| {
            let gap = &sheet.plan.gaps[*gap];
            gap.want == Want::Break && gap.group == Some(id)
        };
        let last = (first + 1..end).rev().find(is_own).unwrap_or(end);
        let inside = self.inner_column(id);
        sheet.measures.flat(first, last).is_none_or(|width| inside + width <= self.max)
    }

    /// Whether the last element of a list fits on a line of its own.
    fn last_fits(&mut self, id: GroupId) -> bool {
        let Some(last) = self.last_element(id) else { return false };
        let end = self.sheet.plan.groups[id].end as usize - 1;
        let column = self.inner_column(id);
        let width = self.sheet.measures.head(last, end);
        width.is_some_and(|width| column + width + self.late_comma(end) < self.max)
    }

    /// The token that the last element of a list begins with.
    fn last_element(&self, id: GroupId) -> Option<usize> {
        let plan = &self.sheet.plan;
        let group = &plan.groups[id];
        let mut last = group.opening? as usize;
        for _ in 0..MOST_ELEMENTS {
            let next = self.next_own(id, last);
            if next + 1 >= group.end as usize || plan.closes(next) {
                break;
            }
            last = next;
        }
        Some(last)
    }

    /// The form of a group that opens.
    fn opened(&mut self, id: GroupId) -> State {
        let group = &self.sheet.plan.groups[id];
        let is_list = takes_one_row(group);
        let fills = (is_list && self.fills)
            || (group.fills && (!is_list || self.is_worth_filling(id)));
        let is_beside = group.under.is_some() && group.under == group.opening;
        // One element beside its bracket, with the other one behind it, has no line to begin.
        let opening = group.opening.map(|gap| gap as usize).filter(|_| is_beside);
        if opening.is_some_and(|opening| self.next_own(id, opening) >= group.end as usize) {
            return State::Flat;
        }
        if is_list && self.row_first && self.row_fits(id) {
            State::Inner
        } else if fills {
            State::Filled
        } else if is_beside && self.fits_beside(id) {
            State::Beside
        } else {
            State::Open
        }
    }

    /// Whether the lines of a filled list would have two elements each, and more: fewer are no rows.
    fn is_worth_filling(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(opening) = group.opening.map(|gap| gap as usize) else { return false };
        let inside = self.inner_column(id);
        let (mut at, mut column, mut elements, mut lines) = (opening, inside, 0, 1);
        while elements < MOST_ELEMENTS && at < group.end as usize && !sheet.plan.closes(at) {
            let next = self.next_own(id, at);
            if elements > 0 {
                column += usize::from(sheet.plan.gaps[at].blanks);
                if self.overflows(id, at, column, inside) {
                    (column, lines) = (inside, lines + 1);
                }
            }
            column += sheet.measures.head(at, next).unwrap_or(0);
            (at, elements) = (next, elements + 1);
        }
        elements >= 2 * lines
    }

    /// The column at which the lines inside a group begin.
    pub(super) fn inner_column(&mut self, id: GroupId) -> usize {
        let group = &self.sheet.plan.groups[id];
        let Some(opening) = group.opening.map(|gap| gap as usize) else { return 0 };
        let first = group.first as usize;
        match group.under.map(|under| under as usize) {
            Some(under) if under == first => self.column,
            Some(under) if under == first + 1 => self.behind(first),
            _ => {
                let level = self.sheet.plan.gaps[opening].level;
                let inside = self.inside_of(id, level);
                self.indents.columns(inside)
            }
        }
    }

    /// The column of what stands behind a group's first token on its line.
    fn behind(&self, first: usize) -> usize {
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

    /// Whether no element of a list fits a step further in that does not fit behind its bracket.
    fn fits_beside(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let stem = self.stem_indent(Some(id));
        let level = sheet.plan.gaps[group.first as usize + 1].level;
        let inside = self.indents.deeper(stem, level);
        let (beside, below) = (self.behind(group.first as usize), self.indents.columns(inside));
        let mut start = group.first as usize + 1;
        for _ in 0..MOST_ELEMENTS {
            let end = self.next_own(id, start);
            let width = sheet.measures.flat(start, end);
            if width.is_some_and(|width| beside + width > self.max && below + width <= self.max) {
                return false;
            }
            if end >= group.end as usize {
                break;
            }
            start = end;
        }
        true
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
    fn overflows(&self, id: GroupId, index: usize, column: usize, inside: usize) -> bool {
        let end = self.next_own(id, index);
        let width = self.sheet.measures.flat(index, end);
        column > inside && width.is_some_and(|width| column + width > self.max)
    }

    /// Whether the word of a text that begins at a gap is too long for what is left of the line.
    fn has_no_room(&mut self, id: GroupId, index: usize) -> bool {
        let sheet = self.sheet;
        let gap = &sheet.plan.gaps[index];
        let inside = self.inside_of(id, gap.level);
        let column = self.column + usize::from(gap.blanks);
        match sheet.measures.flat(index, self.next_own(id, index)) {
            Some(width) => {
                column > self.indents.columns(inside) && column + width > self.max
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
        if group.shape != Shape::List || !sheet.tree.broken(opening, sheet.text) {
            return true;
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
        let raw = self.states[id];
        match self.state_at(index) {
            State::Still | State::Flat => false,
            State::Open => true,
            State::Beside => !is_opening,
            State::Inner => is_opening || closes,
            State::Flowing => self.has_no_room(id, index),
            State::Rows if closes => raw == State::Rows || sheet.tree.broken(index, sheet.text),
            State::Filled if closes => true,
            State::Rows if is_opening && group.under == group.opening => false,
            State::Filled if is_opening && group.shape == Shape::List => {
                group.under != group.opening
            }
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
                (!is_opening || group.shape != Shape::List)
                    && self.overflows(id, index, column, self.indents.columns(inside))
            }
        }
    }

    /// Whether what stands before a gap of a sum is a string with the end of a line at its end.
    fn ends_line(&self, id: GroupId, index: usize) -> bool {
        let sheet = self.sheet;
        let text = |token: usize| {
            let token = &sheet.tree.tokens[token];
            &sheet.text[token.start as usize..token.end as usize]
        };
        let is_sum = sheet.plan.groups[id].shape == Shape::Chain;
        let before = (index.saturating_sub(2)..index).rev().find(|token| {
            !matches!(text(*token), "+" | "..")
        });
        is_sum
            && before.is_some_and(|token| ends_line(text(token)))
    }

    /// Whether a group that does not fit leaves its lines to something inside it.
    fn gives_way(&mut self, id: GroupId, index: usize) -> bool {
        let group = &self.sheet.plan.groups[id];
        let measures = &self.sheet.measures;
        if group.around != Around::OneLine
            && measures.flat(index, group.end as usize).is_none()
            && self.holds_its_lines(id)
        {
            return true;
        }
        let stop = match group.shape {
            Shape::LastResort => {
                let opening = group.opening.map_or(0, |gap| gap as usize);
                measures.next_break((index + 2).max(opening + 1))
            }
            _ => match group.stand_in {
                Some(_) if group.own_line && self.last_fits(id) => return false,
                Some(gap) => gap as usize,
                None => return false,
            },
        };
        stop > index
            && stop < group.end as usize
            && measures.head(index, stop).is_some_and(|width| self.column + width <= self.max)
    }

    /// Whether all lines would fit that are inside a group whatever its form.
    pub(super) fn holds_its_lines(&self, id: GroupId) -> bool {
        let indent = self.indents.columns(self.line_indent);
        let sheet = self.sheet;
        sheet.measures.holds(&sheet.plan, id, self.column, indent, self.max)
    }

    /// The column of a comma that follows only because the list around it is open.
    fn late_comma(&self, end: usize) -> usize {
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
            State::Still if self.is_open_in_text(id) => State::Open,
            // Its lines are under the first element, which stays behind the bracket.
            State::Still
                if self.sheet.units.ragged[id]
                    && self.sheet.units.beneath[id]
                    && group.under.is_some()
                    && group.under == group.opening =>
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
