//! What is worth opening: whether it helps, and whether something else should be opened in its place.

use super::fill::Filler;
use super::plan::{Around, Gap, Group, GroupId, Opens, Rows, Shape, Want};
use super::slight::LONGEST_LINE;
use crate::syntax::{Role, TokenId};

/// How many elements of a list are looked at. Bounds the work on hostile input.
const MOST_ELEMENTS: usize = 256;

/// A function has at most so many tokens before its parameters, and between these and its block.
const HEADED: usize = 3;

/// A function of at most so many tokens behind its parameters is set in with them.
const SHORT_BODY: usize = 32;

impl Filler<'_> {
    /// Whether opening a group would not help: it has one element, which is too long for a line of
    /// its own, too, and can be broken nowhere.
    pub(super) fn is_idle(&mut self, id: GroupId) -> bool {
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
    /// of its own, too, and can be broken nowhere: nobody opens it for that, unless the others take much of
    /// the line.
    pub(super) fn is_all_but_one(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let is_call =
            group.shape == Shape::List && sheet.token_text(group.first as usize) == "(";
        let is_value = group.shape == Shape::LastResort;
        // What stands in brackets on lines of its own is open anyway.
        let stands_apart = || {
            let before = group.first.checked_sub(1);
            self.line_start == group.first as usize
                && before.is_some_and(|at| sheet.tree.opens(sheet.token_text(at as usize)))
        };
        let is_chain = group.shape == Shape::Chain && !group.bracketed && !stands_apart();
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
            // What a chain begins with stays where it is.
            let column = if is_chain && at == first { self.column } else { inside };
            if column + width > self.max && sheet.measures.next_break(at + 1) >= stop {
                let full = self.column + all + self.late_comma(end);
                return full <= self.max + width && full <= column + width + self.max / 2;
            }
            if next >= end || sheet.plan.closes(next) {
                break;
            }
            at = next;
        }
        false
    }

    /// Whether a value on the next line has to be opened there, too, and might as well be where it is:
    /// it ends with a list that begins on its first line, and that nobody opened there.
    pub(super) fn is_vain(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.map(|gap| gap as usize) else { return false };
        let end = group.end as usize;
        let stop = sheet.measures.next_break(first + 1);
        let ends_with = |list: GroupId| {
            let beside = self.goes_on_beside(list);
            let list = &sheet.plan.groups[list];
            list.bracketed && list.shape == Shape::List && list.end as usize == end && !beside
        };
        let is_list = stop < end && sheet.plan.gaps[stop].group.is_some_and(ends_with);
        let inside = self.inside_of(id, sheet.plan.gaps[first].level);
        let column = self.indents.columns(inside);
        is_list
            && !sheet.tree.broken(stop, sheet.text)
            && sheet.measures.flat(first, end).is_some_and(|width| column + width > self.max)
            && sheet
                .measures
                .head(group.first as usize, stop)
                .is_some_and(|width| self.column + width <= self.max)
    }

    /// Whether the lines of a list begin beside its bracket, or do so in the text: they stand under what is
    /// there, and have the less room the further in that is.
    fn goes_on_beside(&self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let list = &sheet.plan.groups[id];
        let is_row = || {
            list.opening.is_some_and(|gap| !sheet.tree.broken(gap as usize, sheet.text))
        };
        self.may_begin_beside(id) || (list.rows == Rows::Kept && is_row())
    }

    /// Whether the only list that can be opened in a value ends before it does: what follows would hang on
    /// its closing bracket.
    pub(super) fn ends_behind_its_list(&self, id: GroupId) -> bool {
        let (plan, measures) = (&self.sheet.plan, &self.sheet.measures);
        let group = &plan.groups[id];
        let Some(first) = group.opening.filter(|_| group.shape == Shape::LastResort) else {
            return false;
        };
        let stop = measures.next_break(first as usize + 1);
        let list = plan.gaps.get(stop).and_then(|gap| gap.group).map(|list| &plan.groups[list]);
        list.is_some_and(|list| {
            // A literal opens, and a mark hangs well.
            list.shape == Shape::List
                && list.bracketed
                && list.first > first
                && list.end + 1 < group.end
                && measures.next_break(list.end as usize) >= group.end as usize
        })
    }

    /// Whether somebody put a value on the next line, or the only call of a chain, and the line would not be
    /// a short one with it. What opens a bracket or a block belongs behind its sign.
    pub(super) fn is_chosen(&self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.filter(|_| group.opens == Opens::Again) else {
            return false;
        };
        let is_opener = |group: &Group| group.first == first && group.bracketed;
        let next = sheet.measures.next_break(first as usize + 1);
        let begins = next < group.end as usize && sheet.plan.group_of(next).is_some_and(is_opener);
        let line = self.max.min(LONGEST_LINE);
        let short = match group.shape {
            Shape::LastResort => line / 4 * 3,
            _ => line / 2,
        };
        !begins && !self.ends_within(id, short)
    }

    /// Whether a value on the next line might as well begin where it belongs to: what it opens, and ends
    /// with, opens on its first line, and that fits there.
    pub(super) fn hugs(&self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(first) = group.opening.filter(|_| group.closes) else { return false };
        let Some(stop) = sheet.measures.next_line(first as usize) else {
            return self.is_text_of_lines(id);
        };
        // Nothing but closing brackets stands behind it.
        let closes = |token: usize| sheet.tree.closes(sheet.token_text(token));
        let is_last = |inner: &Group| (inner.end as usize..group.end as usize).all(closes);
        let ends = sheet.plan.group_of(group.end as usize - 1);
        let ends_with_block = ends.is_some_and(|last| {
            last.shape == Shape::Block && last.end == group.end
        });
        let is_open = || group.opens == Opens::Again && sheet.tree.broken(stop, sheet.text);
        let opens = |id: GroupId| {
            let inner = &sheet.plan.groups[id];
            match inner.shape {
                Shape::Block => ends_with_block || is_last(inner),
                Shape::List if self.goes_on_beside(id) => false,
                // Somebody opened a call there.
                Shape::List if inner.first > first && !ends_with_block && is_open() => false,
                // Parameters with a line each, behind which a block follows.
                Shape::List => is_last(inner) || (ends_with_block && inner.first == first),
                _ => inner.bracketed && inner.end == group.end && inner.first == first,
            }
        };
        let head = || sheet.measures.head(group.first as usize, stop);
        stop < group.end as usize
            && sheet.plan.gaps[stop].group.is_some_and(opens)
            && head().is_some_and(|width| self.column + width <= self.max)
    }

    /// Whether a list has no room for the parameters of its last element: none even for what stands before
    /// several of them, or, beside other elements and before a short body, for all of them, while they
    /// have a line's room inside the list. A long body stays where it is, and so does a single parameter
    /// behind what can be opened itself.
    pub(super) fn is_full_before_last(&mut self, id: GroupId) -> bool {
        let (plan, measures) = (&self.sheet.plan, &self.sheet.measures);
        let group = &plan.groups[id];
        let last = self.last_element(id).filter(|_| group.shape == Shape::List && group.bracketed);
        let Some(last) = last else { return false };
        let stop = measures.next_break(last + 1);
        let token = |index: u32| self.sheet.token_text(index as usize);
        let is_list = |inner: &GroupId| {
            let inner = &plan.groups[*inner];
            inner.shape == Shape::List
                && inner.first < group.end
                && matches!(token(inner.first), "(" | "[")
        };
        let inner = plan.gaps.get(stop).and_then(|gap| gap.group).filter(is_list);
        let Some(inner) = inner else { return false };
        let end = plan.groups[inner].end as usize;
        let is_full = |token: usize| {
            let head = measures.head(group.first as usize, token);
            head.is_some_and(|head| self.column + head > self.max)
        };
        let is_call = token(group.first) == "(";
        let is_beside = group.opening != Some(last as u32);
        let is_short = end < group.end as usize && group.end as usize - end <= SHORT_BODY;
        let own = measures.head(last, end).filter(|_| is_beside && is_short && is_call);
        let is_several = self.has_several(inner);
        (is_full(stop) && is_several)
            || (is_full(end)
                && own.is_some_and(|own| self.inner_column(id) + own <= self.max)
                && (is_several || self.is_plain_before(id, last)))
    }

    /// Whether none of a list's elements before one can be broken.
    fn is_plain_before(&self, id: GroupId, last: usize) -> bool {
        let sheet = self.sheet;
        let Some(first) = sheet.plan.groups[id].opening else { return false };
        let breaks = |at: &usize| Some(sheet.measures.next_break(*at + 1));
        let mut before = std::iter::successors(Some(first as usize), breaks).take(MOST_ELEMENTS);
        before
            .find(|at| *at >= last || sheet.plan.gaps[*at].group != Some(id))
            .is_some_and(|at| at >= last)
    }

    /// Whether a list is the one parameter, a name, of a function that stands behind other elements of a
    /// call and has a block: nobody gives it a line of its own.
    pub(super) fn is_lone_parameter(&self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let (plan, group) = (&sheet.plan, &sheet.plan.groups[id]);
        let (first, end) = (group.first as usize, group.end as usize);
        let text = |index: usize| sheet.token_text(index);
        if group.shape != Shape::List || !group.bracketed || first + 3 != end || text(first) != "("
        {
            return false;
        }
        let is_around = |group: &&Group| {
            group.shape == Shape::List && group.bracketed && group.end as usize > end
        };
        let begins = (first.saturating_sub(HEADED)..=first).rev().find(|at| {
            plan.group_of(*at).as_ref().is_some_and(is_around)
        });
        let opens = |at: usize| sheet.tree.opens(text(at));
        begins.is_some_and(|at| at > 0 && text(at - 1) == ",")
            && (end..sheet.tree.tokens.len().min(end + HEADED)).any(opens)
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
    pub(super) fn helps(&mut self, id: GroupId, index: usize) -> bool {
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
    pub(super) fn fits_below(&mut self, id: GroupId, index: usize) -> bool {
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

    /// Whether all that stands before the first gap of a group fits on this line.
    pub(super) fn has_room_before(&mut self, id: GroupId, index: usize) -> bool {
        let opening = self.sheet.plan.groups[id].opening.map_or(0, |gap| gap as usize);
        let width = (opening > index).then(|| self.sheet.measures.head(index, opening)).flatten();
        width.is_some_and(|width| self.column + width <= self.max)
    }

    /// Whether all that stands between the first and the last gap of a group fits on a line of its own.
    pub(super) fn fits_inside(&mut self, id: GroupId) -> bool {
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

    /// Whether the last element of a list fits on a line of its own, with the closing bracket where that
    /// stays behind it.
    pub(super) fn last_fits(&mut self, id: GroupId) -> bool {
        let Some(last) = self.last_element(id) else { return false };
        let (plan, measures) = (&self.sheet.plan, &self.sheet.measures);
        let end = plan.groups[id].end as usize;
        let width = match plan.closes_apart(id) {
            true => measures.head(last, end - 1).map(|width| width + self.late_comma(end - 1) + 1),
            false => measures.flat(last, end),
        };
        let column = self.inner_column(id);
        width.is_some_and(|width| column + width <= self.max)
    }

    /// Whether a list has more than one element.
    fn has_several(&self, list: GroupId) -> bool {
        let (plan, group) = (&self.sheet.plan, &self.sheet.plan.groups[list]);
        group.opening.is_some_and(|opening| {
            let next = self.next_own(list, opening as usize);
            next < group.end as usize && !plan.closes(next)
        })
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

    /// Whether the lines of a filled list would have two elements each, and more: fewer are no rows.
    pub(super) fn is_worth_filling(&mut self, id: GroupId) -> bool {
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

    /// Whether no element of a list fits a step further in that does not fit behind its bracket. A block in one
    /// keeps all of them where they are: they would move with it.
    pub(super) fn fits_beside(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let stem = self.stem_indent(Some(id));
        let level = sheet.plan.gaps[group.first as usize + 1].level;
        let inside = self.indents.deeper(stem, level);
        let (beside, below) = (self.behind(group.first as usize), self.indents.columns(inside));
        // A bracket that is beyond the limit itself leaves its line there.
        if self.column + sheet.measures.width(group.first as usize) > self.max {
            return true;
        }
        let (mut start, mut fits) = (group.first as usize + 1, true);
        for _ in 0..MOST_ELEMENTS {
            let end = self.next_own(id, start);
            match sheet.measures.flat(start, end) {
                Some(width) => fits &= beside + width <= self.max || below + width > self.max,
                None if self.holds_lines(start, end) => return true,
                // A list that is open for want of room.
                None => {}
            }
            if end >= group.end as usize {
                break;
            }
            start = end;
        }
        fits
    }

    /// Whether there is a block with something in it among these tokens, or one over several lines.
    fn holds_lines(&self, first: usize, end: usize) -> bool {
        let (gaps, tokens) = (&self.sheet.plan.gaps, &self.sheet.tree.tokens);
        let is_line = |gap: &Gap| gap.want == Want::Line && gap.inside;
        gaps[first + 1..end].iter().any(is_line)
            || tokens[first..end].iter().any(|token| token.multi_line)
    }

    /// Whether a group that does not fit leaves its lines to something inside it.
    pub(super) fn gives_way(&mut self, id: GroupId, index: usize) -> bool {
        let group = &self.sheet.plan.groups[id];
        let measures = &self.sheet.measures;
        if group.around != Around::OneLine
            && measures.flat(index, group.end as usize).is_none()
            && self.holds_its_lines(id)
        {
            return true;
        }
        if self.goes_on_behind_bracket(id, index) {
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

    /// Whether the only link of a chain that may begin a line follows a bracket that has one, as the several
    /// things that it ends have no room on the line that they begin on.
    fn goes_on_behind_bracket(&mut self, id: GroupId, index: usize) -> bool {
        let sheet = self.sheet;
        let (plan, group) = (&sheet.plan, &sheet.plan.groups[id]);
        let link = group.opening.filter(|_| group.shape == Shape::Chain).map(|gap| gap as usize);
        let Some(link) = link.filter(|link| *link > index + 1) else { return false };
        // An operator may end the bracket's line, if nothing before the bracket can be broken.
        let is_sign = !plan.closes(link - 1) && !sheet.tree.separates(link as TokenId - 1);
        let closer = if is_sign { link - 2 } else { link - 1 };
        let list = plan.gaps[closer].group.filter(|_| plan.closes(closer));
        let Some(list) = list.filter(|list| plan.closes_apart(*list)) else { return false };
        let own = &plan.groups[list];
        let first = sheet.measures.next_break(group.first as usize + 1);
        let opens = match is_sign || own.shape == Shape::Chain {
            true => own.opening == Some(first as TokenId) && !self.is_idle(list),
            false => self.has_several(list),
        };
        let is_full = |width: usize| self.column + width > self.max;
        opens
            && sheet.measures.head(index, link).is_some_and(is_full)
            && self.next_own(id, link) >= group.end as usize
    }

    /// Whether all lines would fit that are inside a group whatever its form.
    pub(super) fn holds_its_lines(&self, id: GroupId) -> bool {
        let indent = self.indents.columns(self.line_indent);
        let sheet = self.sheet;
        sheet.measures.holds(&sheet.plan, id, self.column, indent, self.max)
    }
}
