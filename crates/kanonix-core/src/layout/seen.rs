//! What the text has: which gaps of a group somebody broke, and where its lines stand.

use super::measure::columns;
use super::plan::{ByGroup, Want};
use super::planner::Planner;
use crate::syntax::{Role, TokenId};

/// What the text has of a group's gaps, but for the one before its closing bracket: that has its
/// own line in any case.
#[derive(Clone, Copy, Default)]
pub(super) struct Seen {
    /// At how many of them a line ends.
    pub ends: u32,
    /// At how many none does.
    pub joins: u32,
    /// The first token that begins a line.
    pub row: Option<TokenId>,
    /// How many elements stand on the first of its lines, and on the one that is being read.
    across: u32,
    run: u32,
    /// Whether a line before the last one has more or fewer than the first.
    is_ragged: bool,
}

impl Seen {
    /// Reads one more gap.
    fn read(&mut self, ends: bool) {
        match ends {
            true => {
                self.end_row();
                (self.ends, self.run) = (self.ends + 1, 1);
            }
            false => (self.joins, self.run) = (self.joins + 1, self.run + 1),
        }
    }

    fn end_row(&mut self) {
        match self.across {
            _ if self.run == 0 => {}
            0 => self.across = self.run,
            across => self.is_ragged |= across != self.run,
        }
    }

    /// Whether its elements stand in lines of equally many; of the last one, at the most.
    pub fn is_even(&self) -> bool {
        self.across > 1 && !self.is_ragged && self.run <= self.across
    }

    /// Whether they are a table of several lines, most of them full.
    pub fn is_table(&self) -> bool {
        self.is_even() && self.ends > 1 && self.joins > self.ends
    }

    /// Whether they stand in several lines with many on each.
    pub fn is_full(&self) -> bool {
        self.ends > 1 && self.joins > 3 * self.ends
    }

    /// Whether each but the first begins a line, several times.
    pub fn is_column(&self) -> bool {
        self.ends > 1 && self.joins == 1
    }
}

impl Planner<'_> {
    pub(super) fn seen(&self) -> ByGroup<Seen> {
        let mut seen = self.plan.groups.all(Seen::default());
        for (token, gap) in self.plan.gaps.iter().enumerate() {
            if let Some(group) = gap.group
                && gap.want == Want::Break
                && !self.plan.closes(token)
            {
                let seen = &mut seen[group];
                let ends = gap.chosen || self.opened_before(token as TokenId);
                seen.read(ends);
                if ends {
                    seen.row.get_or_insert(self.begins_row(token as TokenId));
                }
            }
        }
        seen
    }

    /// The token that begins the line at a gap: where somebody broke it on the other side of an
    /// operator, that is another one.
    pub(super) fn begins_row(&self, token: TokenId) -> TokenId {
        let beside = [token + 1, token.saturating_sub(1)];
        let broken = |token: &TokenId| {
            (*token as usize) < self.tree.tokens.len() && self.broken_before(*token)
        };
        let beside = || beside.into_iter().find(broken);
        self.line_with_comments(token).or_else(beside).unwrap_or(token)
    }

    /// Whether a line ends before a token or before one of the comments right before it.
    pub(super) fn opened_before(&self, token: TokenId) -> bool {
        self.line_with_comments(token).is_some()
    }

    /// What begins the line that a token begins, comments before it on that line aside.
    fn line_with_comments(&self, token: TokenId) -> Option<TokenId> {
        let mut at = token;
        while !self.broken_before(at) {
            if at == 0 || self.tree.tokens[at as usize - 1].role != Role::Comment {
                return None;
            }
            at -= 1;
        }
        Some(at)
    }

    /// The token that begins the line of a token in the text.
    pub(super) fn line_first(&self, token: TokenId) -> TokenId {
        (1..token + 1).rev().find(|first| self.broken_before(*first)).unwrap_or(0)
    }

    /// How many columns stand before a token in the text.
    pub fn present_column(&self, token: TokenId) -> usize {
        let start = self.tree.tokens[token as usize].start as usize;
        let line = self.text[..start].rfind('\n').map_or(0, |at| at + 1);
        columns(&self.text[line..start], self.choices.tab)
    }

    /// Whether a line ends among these tokens, or in one of them.
    pub fn takes_lines(&self, first: TokenId, end: TokenId) -> bool {
        (first..end).any(|token| {
            self.broken_before(token) || self.tree.tokens[token as usize].multi_line
        })
    }
}
