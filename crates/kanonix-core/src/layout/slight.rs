//! Breaks that nobody chooses: a single one, in what ends within half a line without it, or in what fits
//! its line where something around it should have been broken first.

use super::fill::Filler;
use super::plan::{Align, ByGroup, Group, GroupId, Shape, Slight};
use super::planner::Planner;
use super::seen::Seen;
use crate::syntax::{Role, TokenId};

/// How far behind a group the end of its line is looked for. Bounds the work on hostile input.
const MOST_BEHIND: usize = 256;

/// Half of a longer line is no short one.
pub(super) const LONGEST_LINE: usize = 100;

/// Most code ends its lines here at the latest, whatever its limit.
const USUAL_LINE: usize = 80;

/// Whether a text has the end of a line at its end.
pub(super) fn ends_line(text: &str) -> bool {
    text.ends_with("\\n\"") || text.ends_with("\\n'")
}

impl Planner<'_> {
    /// Whether a token is a text in quotes.
    pub(super) fn is_text(&self, token: TokenId) -> bool {
        let is_prefix = |c: char| c.is_ascii_alphabetic() || matches!(c, '@' | '$');
        self.tree.tokens[token as usize].role == Role::Atom
            && self.token_text(token).trim_start_matches(is_prefix).starts_with(['"', '\'', '`'])
    }

    /// Whether the tokens of a group may stand on one line: there is room for them, and none asks for the
    /// line's end.
    pub(super) fn may_be_one_line(&self, group: &Group) -> bool {
        // A token has a column at the least.
        let count = (group.end - group.first) as usize;
        count > 0
            && count <= self.choices.max_line
            && self.tree.tokens[group.first as usize..group.end as usize]
                .iter()
                .all(|token| token.role != Role::Comment && !token.multi_line)
    }

    /// Which break in a group is nobody's choice, by what the text has of it and what is around it.
    pub(super) fn slight(
        &self,
        id: GroupId,
        around: Option<GroupId>,
        seen: &ByGroup<Seen>,
    ) -> Slight {
        let group = &self.plan.groups[id];
        let may_close = group.slight != Slight::Never && !self.choices.rows;
        if may_close && seen[id].joins == 0 && self.ends_with_block(group) {
            Slight::Head
        } else if group.slight == Slight::Never || seen[id].ends != 1 || !self.is_slight(id) {
            Slight::Never
        } else if let Some(slight) = self.row_inside(group, seen[id].joins) {
            slight
        } else if group.slight == Slight::Row {
            Slight::Never
        } else if around.is_some_and(|around| self.is_weaker(group, around, seen[around].ends)) {
            Slight::Usual
        } else {
            Slight::Half
        }
    }

    /// Where all that a list holds stands on a line of its own: several elements, or one short argument.
    fn row_inside(&self, group: &Group, joins: u32) -> Option<Slight> {
        let opening = group.opening.filter(|_| group.bracketed && group.shape == Shape::List)?;
        let start = |token: TokenId| self.tree.tokens[token as usize].start as usize;
        let is_short = || start(group.end - 1) - start(opening) <= LONGEST_LINE / 2;
        match (joins, group.slight) {
            _ if !self.broken_before(opening) || group.align == Align::Any => None,
            (0, Slight::Half) if is_short() => Some(Slight::Usual),
            (0, _) => None,
            (_, Slight::Row) if self.collects(group) => None,
            _ => Some(Slight::Whole),
        }
    }

    /// Whether a list holds things one by one: it has its lines by choice.
    fn collects(&self, group: &Group) -> bool {
        self.token_text(group.first).ends_with(['{', '['])
    }

    /// Whether each element of a list begins a line, and a block ends the last one.
    fn ends_with_block(&self, group: &Group) -> bool {
        let is_open = |opening: TokenId| self.broken_before(opening);
        let ends = |last: TokenId| {
            let block = self.plan.group_of(last as usize);
            self.plan.closes(last as usize) && block.is_some_and(|own| own.shape == Shape::Block)
        };
        // Before the closing bracket, and a comma.
        let before = |token: TokenId| token.checked_sub(1);
        let last = || match before(group.end - 1) {
            Some(comma) if self.tree.separates(comma) => before(comma),
            last => last,
        };
        group.shape == Shape::List
            && group.bracketed
            && !self.collects(group)
            && group.align == Align::Step
            && group.opening.is_some_and(is_open)
            && last().is_some_and(ends)
    }

    /// Whether something around a group, in which so many lines end, would have to be broken before it.
    fn is_weaker(&self, group: &Group, around: GroupId, ends: u32) -> bool {
        let around = &self.plan.groups[around];
        match around.shape {
            _ if group.fills => false,
            // Lists that stand anywhere have their lines by choice.
            _ if group.shape == Shape::List && group.align == Align::Any => false,
            Shape::Chain if group.slight == Slight::Usual && !around.bracketed => true,
            Shape::Chain | Shape::List => ends == 0 && group.end < around.end,
            _ => false,
        }
    }

    /// Whether a group may be broken by chance: it is so at its own gaps alone.
    pub(super) fn is_slight(&self, id: GroupId) -> bool {
        let group = &self.plan.groups[id];
        if !self.may_be_one_line(group) {
            return false;
        }
        let closes = group.bracketed || self.plan.closes(group.end as usize - 1);
        let closer = if closes { group.end - 1 } else { group.end };
        let mut is_broken = false;
        for token in group.first..group.end {
            let breaks = token > group.first && token != closer && self.broken_before(token);
            let is_choice = || {
                (group.shape == Shape::Chain && self.divides_texts(token))
                    || self.ends_text(token)
                    || !self.is_beside_own(id, token)
            };
            if (breaks && is_choice())
                || (token > group.first + 1 && self.holds_choice(group, token))
            {
                return false;
            }
            is_broken |= breaks;
        }
        is_broken
    }

    /// Whether a line that begins in a group begins at a gap of its own, or on the other side of the mark
    /// there.
    fn is_beside_own(&self, id: GroupId, line: TokenId) -> bool {
        (line.saturating_sub(1)..line + 2).any(|token| {
            let gap = self.plan.gaps.get(token as usize).filter(|gap| gap.group == Some(id));
            gap.is_some_and(|gap| token == line || gap.chosen)
        })
    }

    /// Whether a line begins between two texts, beside the operator there: nobody wrote two for one line.
    pub(super) fn divides_texts(&self, line: TokenId) -> bool {
        let is_text = |token: Option<TokenId>| {
            token.is_some_and(|token| {
                (token as usize) < self.tree.tokens.len() && self.is_text(token)
            })
        };
        // The operator ends the line before, or begins this one.
        (is_text(line.checked_sub(2)) && is_text(Some(line)))
            || (is_text(line.checked_sub(1)) && is_text(line.checked_add(1)))
    }

    /// Whether what stands before the sign before a line is a text with the end of a line at its end: a
    /// line of a text is a line of the code.
    fn ends_text(&self, line: TokenId) -> bool {
        (line.saturating_sub(2)..line).any(|token| ends_line(self.token_text(token)))
    }

    /// Whether the gap before a token belongs to something inside a group that is open by somebody's
    /// choice.
    fn holds_choice(&self, group: &Group, token: TokenId) -> bool {
        let inner = self.plan.group_of(token as usize).filter(|own| own.first != group.first);
        inner.is_some_and(Group::is_forced)
    }
}

impl Filler<'_> {
    /// Whether a break in a group is nobody's choice: it would end within half a line, however long lines
    /// may be, and what stands behind it within all of one; or wherever there is room.
    pub(super) fn is_broken_by_chance(&self, id: GroupId) -> bool {
        match self.sheet.plan.groups[id].slight {
            Slight::Never | Slight::Row => false,
            Slight::Half => self.ends_within(id, self.max.min(LONGEST_LINE) / 2),
            Slight::Usual => {
                self.would_end(id).is_some_and(|(_, line)| line <= self.max.min(USUAL_LINE))
            }
            Slight::Whole => self.ends_within(id, self.max),
            Slight::Head => self.ends_with_its_block(id),
        }
    }

    /// Whether the first line that begins inside a list is in the block that ends its last element, and
    /// there is room for all before it.
    fn ends_with_its_block(&self, id: GroupId) -> bool {
        let sheet = self.sheet;
        let (first, end) = (sheet.plan.groups[id].first, sheet.plan.groups[id].end);
        let Some(line) = sheet.measures.next_line(first as usize) else { return false };
        // Nothing but a comma stands between its end and the list's.
        let is_last = |block: &Group| {
            block.shape == Shape::Block && block.end < end && block.end + 2 >= end
        };
        let head = sheet.measures.head(first as usize, line);
        line < end as usize
            && sheet.plan.group_of(line).is_some_and(is_last)
            && head.is_some_and(|head| self.column + head <= self.max)
            && self.holds_its_lines(id)
    }

    /// Whether a group would end within so many columns, and what stands behind it within a line.
    pub(super) fn ends_within(&self, id: GroupId, columns: usize) -> bool {
        self.would_end(id).is_some_and(|(end, line)| end <= columns && line <= self.max)
    }

    /// The columns that a group, and the line that it is on, would end at, were it flat: what stands behind
    /// it on its line in the text, and what will whatever is decided.
    fn would_end(&self, id: GroupId) -> Option<(usize, usize)> {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let (first, end) = (group.first as usize, group.end as usize);
        let count = sheet.tree.tokens.len();
        let ends = |token: &usize| *token == count || sheet.tree.broken(*token, sheet.text);
        let next = (end..count + 1).take(MOST_BEHIND).find(ends)?;
        let width = sheet.measures.width(first) + sheet.measures.between(first + 1, end);
        let ends_at = self.column + width;
        let next = next.max(sheet.measures.next_break(end));
        let behind = sheet.measures.between(end, next) + self.closed_flat(end);
        Some((ends_at, ends_at + behind + self.late_comma(end)))
    }
}
