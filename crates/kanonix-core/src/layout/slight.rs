//! Breaks that nobody chooses: a single one, in what ends within half a line without it.

use super::fill::Filler;
use super::plan::{Group, GroupId};
use super::planner::Planner;
use crate::syntax::{Role, TokenId};

/// How far behind a group the end of its line is looked for. Bounds the work on hostile input.
const MOST_BEHIND: usize = 256;

/// Half of a longer line is no short one.
const LONGEST_LINE: usize = 100;

/// Whether a text has the end of a line at its end.
pub(super) fn ends_line(text: &str) -> bool {
    text.ends_with("\\n\"") || text.ends_with("\\n'")
}

impl Planner<'_> {
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

    /// Whether a group may be broken by chance: nothing else in it is.
    pub(super) fn is_slight(&self, id: GroupId) -> bool {
        let group = &self.plan.groups[id];
        if !group.slight || !self.may_be_one_line(group) {
            return false;
        }
        let closes = group.bracketed || self.plan.closes(group.end as usize - 1);
        let closer = if closes { group.end - 1 } else { group.end };
        let mut is_broken = false;
        for token in group.first..group.end {
            let breaks = token > group.first && token != closer && self.broken_before(token);
            let is_second = breaks && std::mem::replace(&mut is_broken, true);
            if is_second
                || (breaks && self.ends_text(token))
                || (token > group.first + 1 && self.holds_choice(group, token))
            {
                return false;
            }
        }
        is_broken
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
    /// Whether a group would end within half a line, however long lines may be, and what stands behind
    /// it within all of one.
    pub(super) fn ends_within_half(&self, id: GroupId) -> bool {
        self.ends_within(id, self.max.min(LONGEST_LINE) / 2)
    }

    /// Whether a group would end within so many columns, and what stands behind it within a line.
    pub(super) fn ends_within(&self, id: GroupId, columns: usize) -> bool {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let (first, end) = (group.first as usize, group.end as usize);
        let count = sheet.tree.tokens.len();
        let ends = |token: &usize| *token == count || sheet.tree.broken(*token, sheet.text);
        let Some(next) = (end..count + 1).take(MOST_BEHIND).find(ends) else { return false };
        let width = sheet.measures.width(first) + sheet.measures.between(first + 1, end);
        let behind = sheet.measures.between(end, next);
        self.column + width <= columns && self.column + width + behind <= self.max
    }
}
