//! Which form each group takes: flat, open, or in the rows that somebody laid out.

use super::fill::{Filler, State};
use super::plan::{Around, GroupId, Opens, Rows, Shape, TreeEdit, Want, When};

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
        if !self.live.all(group.first, group.end) {
            let broken = self.sheet.tree.broken(first, self.sheet.text);
            self.leading[id] = first == 0 || broken;
            return;
        }
        let fits = |width: usize| self.column + width + self.late_comma(end) <= self.max;
        self.states[id] = if end <= self.flat_until {
            State::Flat
        } else if group.is_forced() {
            State::Open
        } else if group.rows == Rows::Kept {
            if self.rows_fit(id) { State::Rows } else { State::Open }
        } else if measures.flat(first, end).is_some_and(fits) {
            self.flat_until = end;
            State::Flat
        } else {
            match group.opens {
                Opens::ByHand => State::Flat,
                Opens::Always | Opens::Again => State::Open,
                Opens::TooWide if self.gives_way(id, index) => State::Flat,
                Opens::TooWide if self.keeps && self.is_idle(id) => State::Flat,
                Opens::TooWide => State::Open,
            }
        };
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
        let stem = self.stem_indent(Some(id));
        let inside = self.indents.deeper(stem, sheet.plan.gaps[first].level);
        let width = sheet.measures.head(first, end);
        width.is_some_and(|width| self.indents.columns(inside) + width > self.max)
    }

    /// Whether each of the lines that a group has in the text fits.
    fn rows_fit(&mut self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(opening) = group.opening else { return false };
        let stem = self.stem_indent(Some(id));
        let inside = self.indents.deeper(stem, sheet.plan.gaps[opening as usize].level);
        let indent = self.indents.columns(inside);
        let (mut start, mut column) = (group.first as usize, self.column);
        let mut elements = 0;
        for index in group.first as usize + 1..group.end as usize + 1 {
            let gap = &sheet.plan.gaps[index];
            let is_own = gap.want == Want::Break && gap.group == Some(id);
            let is_end = index == group.end as usize;
            elements += usize::from(is_own);
            if !is_end && !(is_own && sheet.tree.broken(index, sheet.text)) {
                continue;
            }
            let width = sheet.measures.flat(start, index);
            if width.map_or(elements > 1, |width| column + width > self.max) {
                return false;
            }
            (start, column, elements) = (index, indent, 0);
        }
        true
    }

    /// Whether a group that does not fit leaves its lines to something inside it.
    fn gives_way(&self, id: GroupId, index: usize) -> bool {
        let group = &self.sheet.plan.groups[id];
        let measures = &self.sheet.measures;
        let indent = self.indents.columns(self.line_indent);
        if group.around != Around::OneLine
            && measures.flat(index, group.end as usize).is_none()
            && measures.holds(&self.sheet.plan, id, self.column, indent, self.max)
        {
            return true;
        }
        let stop = match group.shape {
            Shape::LastResort => {
                let opening = group.opening.map_or(0, |gap| gap as usize);
                measures.next_break((index + 2).max(opening + 1))
            }
            _ => match group.stand_in {
                Some(gap) => gap as usize,
                None => return false,
            },
        };
        stop > index
            && stop < group.end as usize
            && measures.head(index, stop).is_some_and(|width| self.column + width <= self.max)
    }

    /// The column of a comma that follows only because the list around it is open.
    fn late_comma(&self, end: usize) -> usize {
        let sheet = self.sheet;
        let is_open = |group: GroupId| self.state(group) == State::Open;
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
        opening.is_some_and(|gap| self.sheet.tree.broken(gap as usize, self.sheet.text))
    }
}
