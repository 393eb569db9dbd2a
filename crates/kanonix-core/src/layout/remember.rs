//! What somebody chose: the text has a say in which groups are open, and in where their lines
//! stand.

use super::plan::{
    Align,
    Around,
    ByGroup,
    Close,
    Counts,
    Gap,
    Group,
    GroupId,
    Opens,
    Rows,
    Shape,
    Want,
};
use super::measure::columns;
use super::planner::Planner;
use crate::syntax::{Role, TokenId};
use std::cmp::Reverse;
use std::collections::{BTreeMap, HashSet};

/// What the text has of a group's gaps, but for the one before its closing bracket: that has its
/// own line in any case.
#[derive(Clone, Copy, Default)]
struct Seen {
    /// At how many of them a line ends.
    ends: u32,
    /// At how many none does.
    joins: u32,
    /// The first token that begins a line.
    row: Option<TokenId>,
}

/// So many steps further in may a line stand that goes on with another one.
const MOST_STEPS: usize = 4;

impl Planner<'_> {
    /// Gives the text its say.
    pub(super) fn ask_the_text(&mut self) {
        let seen = self.seen();
        self.line_up(&seen);
        self.take_columns();
        self.set_conditions_apart();
        self.close_as_seen(&seen);
        match self.choices.remembers {
            true => self.remember(&seen),
            false => seen.ids().for_each(|id| self.plan.groups[id].slight = false),
        }
    }

    fn seen(&self) -> ByGroup<Seen> {
        let mut seen = self.plan.groups.all(Seen::default());
        for (token, gap) in self.plan.gaps.iter().enumerate() {
            if let Some(group) = gap.group
                && gap.want == Want::Break
                && !self.plan.closes(token)
            {
                let seen = &mut seen[group];
                match gap.chosen || self.opened_before(token as TokenId) {
                    true => {
                        seen.ends += 1;
                        seen.row.get_or_insert(self.begins_row(token as TokenId));
                    }
                    false => seen.joins += 1,
                }
            }
        }
        seen
    }

    /// Finds what the lines of each group stand under. Kept is what the first of them stands under:
    /// the first element of a list, the first operand of a chain, or the first of its marks.
    fn line_up(&mut self, seen: &ByGroup<Seen>) {
        for id in seen.ids().skip(1) {
            let group = self.plan.groups[id];
            let Some(opening) = group.opening else { continue };
            let head = match group.shape {
                Shape::List | Shape::Chain if group.bracketed => opening,
                Shape::Chain => group.first,
                _ => continue,
            };
            // Behind a comment that ends its line, nothing stays beside a bracket.
            let stays = head == group.first || !self.begins_behind_comment(head);
            self.plan.groups[id].under = match (group.align, seen[id].row) {
                (Align::Step, _) | (Align::Keep | Align::Any, None) => None,
                (Align::Bracket, _) => Some(head).filter(|_| stays),
                (Align::Keep | Align::Any, Some(row)) => {
                    let column = self.present_column(row);
                    let is_over = |token: &TokenId| {
                        let stands = || {
                            let columns = [
                                self.present_column(*token),
                                self.planned_column(*token),
                            ];
                            columns.contains(&column)
                        };
                        *token < row && stands()
                    };
                    // Under what begins the line, a line would be no further in.
                    let is_margin = group.shape == Shape::Chain
                        && group.counts == Counts::Steps
                        && self.line_first(head) == head;
                    let heads = [Some(head).filter(|_| !is_margin), Some(opening)];
                    heads.into_iter().flatten().find(is_over)
                }
            };
            if let (Some(row), Align::Keep, Shape::Chain) = (seen[id].row, group.align, group.shape)
                && !group.bracketed
                && self.present_column(row) == self.line_columns(head)
                && self.plan.gaps[self.line_first(head) as usize].want == Want::Break
            {
                // It stands beneath the element that it goes on.
                self.plan.groups[id].like = Some(row);
            }
        }
    }

    /// Finds how far in the lines of each group are that may stand anywhere, and stand under
    /// nothing: as most of them, or else the first.
    fn take_columns(&mut self) {
        let mut rows: BTreeMap<GroupId, Vec<(usize, TokenId)>> = BTreeMap::new();
        for (token, gap) in self.plan.gaps.iter().enumerate() {
            let Some(id) = gap.group.filter(|_| gap.want == Want::Break && gap.level > 0) else {
                continue;
            };
            let group = &self.plan.groups[id];
            if group.align == Align::Any
                && group.under.is_none()
                && self.opened_before(token as TokenId)
            {
                let row = self.begins_row(token as TokenId);
                rows.entry(id).or_default().push((self.present_column(row), row));
            }
        }
        for (id, rows) in rows {
            let first = self.line_first(self.plan.groups[id].stem);
            let stem = self.line_columns(first);
            let mut counts: BTreeMap<usize, usize> = BTreeMap::new();
            rows.iter().for_each(|(column, _)| *counts.entry(*column).or_default() += 1);
            let most = counts.values().max().copied();
            let mut usual = rows.iter().filter(|(column, _)| counts.get(column).copied() == most);
            // What is hardly further in than its stem's line was never meant to stand there, nor what
            // stands alone where it is neither so many steps in nor under anything.
            let step = self.choices.step;
            let is_meant = |column: usize, row: TokenId| {
                let steps = (column - stem) / step;
                let is_step = (column - stem).is_multiple_of(step) && steps <= MOST_STEPS;
                let stands = |token: TokenId| {
                    self.present_column(token) == column && self.planned_column(token) == column
                };
                let is_under = || (first..row).any(stands);
                // How wide a tab was where somebody lined something up, nobody knows.
                let is_tabbed = || self.line_indent(row).contains('\t');
                is_step || most > Some(1) || is_tabbed() || is_under()
            };
            let is_meant = |(column, row): &&(usize, TokenId)| {
                *column >= stem + step && is_meant(*column, *row)
            };
            self.plan.groups[id].like = usual.next().filter(is_meant).map(|(_, row)| *row);
        }
    }

    /// The lines of a condition that begins behind its parenthesis, or behind a word, stand further in
    /// than the body behind it.
    fn set_conditions_apart(&mut self) {
        let headers = self.plan.groups.iter().filter(|group| group.header).map(|g| g.first + 1);
        let headers: HashSet<TokenId> =
            headers.chain(self.plan.conditions.iter().copied()).collect();
        if headers.is_empty() {
            return;
        }
        for gap in &mut self.plan.gaps {
            let Some(group) = gap.group.map(|group| &self.plan.groups[group]) else { continue };
            let is_condition = group.shape == Shape::Chain && !group.bracketed;
            if gap.level > 0 && is_condition && headers.contains(&group.first) {
                gap.level = gap.level.max(2);
            }
        }
    }

    /// Where a closing bracket is to stay, and stands behind the last element of an open list, it
    /// does.
    fn close_as_seen(&mut self, seen: &ByGroup<Seen>) {
        for id in seen.ids().skip(1) {
            let group = &self.plan.groups[id];
            let closer = group.end - 1;
            let is_with_last =
                group.close == Close::Keep && seen[id].ends > 0 && !self.opened_before(closer);
            if group.close != Close::Keep || !self.plan.closes(closer as usize) {
                continue;
            }
            if is_with_last && !self.after_comment(closer) {
                let gap = self.gap(closer);
                *gap = Gap { breaks: gap.breaks, ..Gap::flat(gap.blanks, gap.setting) };
            } else if let (Some(row), Some(opening)) = (seen[id].row, group.opening)
                && self.broken_before(closer)
                && self.present_column(row) == self.present_column(closer)
            {
                // It stands under the elements.
                let level = self.gap(opening).level;
                self.gap(closer).level = level;
            }
        }
    }

    /// Lists and chains that somebody opened stay open; a line after a sign stays broken if the
    /// whole does not fit on one.
    fn remember(&mut self, seen: &ByGroup<Seen>) {
        for id in seen.ids().skip(1) {
            let Seen { ends, joins, .. } = seen[id];
            let broken = self.plan.groups[id].opening.is_some_and(|gap| {
                self.plan.gaps[gap as usize].chosen || self.opened_before(gap)
            });
            // What stands under what it goes on with was put there.
            let own = &self.plan.groups[id];
            let is_lined_up = own.under.is_some() && (own.shape == Shape::Chain || !broken);
            // Texts have rows.
            let is_row = own.fills && own.shape == Shape::Chain && joins > 0;
            let slight = ends == 1 && !is_lined_up && !is_row && self.is_slight(id);
            let group = &mut self.plan.groups[id];
            group.slight = slight;
            if self.choices.rows && group.shape == Shape::List {
                // Lists that stand in rows keep them.
                group.rows = if ends > 0 { Rows::Kept } else { group.rows };
                continue;
            }
            let group = self.plan.groups[id];
            // Where most elements have a line of their own, the others should.
            let in_rows = match group.rows {
                Rows::Bracketed if group.align.asks_the_text() => broken && joins > 0,
                Rows::Bracketed => broken && joins >= ends,
                Rows::Shared => broken && joins > 0,
                Rows::Loose => ends > 0 && joins >= ends,
                Rows::Any => ends > 0 && joins > 0,
                Rows::Never | Rows::Kept => false,
            };
            let closer = group.end - 1;
            let closes_apart = group.close == Close::Keep
                && self.broken_before(closer)
                && self.takes_lines(group.first + 1, closer);
            let is_beside = group.align != Align::Step && match group.shape {
                Shape::List => (ends > 0 || closes_apart) && !broken,
                Shape::Chain => ends > 0 && joins > 0,
                _ => false,
            };
            let is_hug = ends == 1 && self.begins_last_operand(&group, seen[id].row);
            let group = &mut self.plan.groups[id];
            match group.shape {
                Shape::Block => {}
                Shape::LastResort
                    if broken
                        && matches!(group.opens, Opens::TooWide | Opens::Before | Opens::ToFit) =>
                {
                    group.opens = Opens::Again;
                }
                Shape::LastResort => {}
                _ if in_rows || is_beside => {
                    group.shares = group.rows == Rows::Shared || group.align.asks_the_text();
                    group.rows = Rows::Kept;
                }
                _ => {
                    group.fills &= !broken;
                    group.force_if(broken && !group.closes && !is_hug);
                }
            }
            let is_chain = matches!(group.shape, Shape::Chain | Shape::Alternatives);
            if is_chain && group.around == Around::Blocks {
                group.around = Around::Lists;
            }
        }
        self.open_around_chains();
        self.break_weaker_first(seen);
    }

    /// Operators that bind more strongly are not broken where the weaker ones around them are not, if that
    /// is by a single break: it is nobody's choice where the whole fits.
    fn break_weaker_first(&mut self, seen: &ByGroup<Seen>) {
        let is_chain = |group: &Group| group.shape == Shape::Chain && !group.bracketed;
        let is_lone = |id: &GroupId| {
            let group = &self.plan.groups[*id];
            let is_open = group.is_forced() || group.rows == Rows::Kept;
            is_chain(group)
                && !group.fills
                && group.rows != Rows::Loose
                && is_open
                && seen[*id].ends == 1
                && self.may_be_one_line(group)
        };
        let lone: Vec<GroupId> = self.plan.groups.ids().skip(1).filter(is_lone).collect();
        if lone.is_empty() {
            return;
        }
        let mut ids: Vec<GroupId> = self.plan.groups.ids().skip(1).collect();
        self.sort_by_place(&mut ids);
        let mut around: Vec<GroupId> = Vec::new();
        for id in ids {
            let first = self.plan.groups[id].first;
            while around.pop_if(|outer| self.plan.groups[*outer].end <= first).is_some() {}
            let is_inside = around.last().is_some_and(|outer| {
                let outer = &self.plan.groups[*outer];
                is_chain(outer)
                    && outer.opening.is_some()
                    && !outer.is_forced()
                    && outer.rows != Rows::Kept
            });
            around.push(id);
            if is_inside && lone.binary_search(&id).is_ok() {
                let own = &mut self.plan.groups[id];
                (own.opens, own.rows) = (Opens::TooWide, Rows::Never);
            }
        }
    }

    /// A list is open around a chain with lines of its own behind which other elements come: they would
    /// stand at the end of its last line.
    fn open_around_chains(&mut self) {
        let all = || self.plan.groups.ids().skip(1);
        let is_chain = |id: &GroupId| {
            let group = &self.plan.groups[*id];
            let is_open = group.is_forced() || group.rows == Rows::Kept;
            group.shape == Shape::Chain && !group.bracketed && is_open && !group.slight
        };
        let mut chains: Vec<GroupId> = all().filter(is_chain).collect();
        if chains.is_empty() {
            return;
        }
        let is_list = |id: &GroupId| {
            let group = &self.plan.groups[*id];
            group.bracketed || group.shape == Shape::Block
        };
        let mut lists: Vec<GroupId> = all().filter(is_list).collect();
        self.sort_by_place(&mut chains);
        self.sort_by_place(&mut lists);
        let mut lists = lists.into_iter().peekable();
        let mut around: Vec<GroupId> = Vec::new();
        for id in chains {
            let (first, end) = (self.plan.groups[id].first, self.plan.groups[id].end);
            while let Some(list) = lists.next_if(|list| self.plan.groups[*list].first < first) {
                around.push(list);
            }
            while around.pop_if(|list| self.plan.groups[*list].end <= first).is_some() {}
            let Some(list) = around.last().copied() else { continue };
            let own = &self.plan.groups[list];
            let is_free = own.shape == Shape::List
                && own.rows != Rows::Kept
                && own.align == Align::Step
                && own.opens == Opens::TooWide;
            // Behind its separator.
            let goes_on = end + 2 < own.end
                && self.plan.gaps[end as usize + 1].group == Some(list)
                && !self.plan.closes(end as usize + 1);
            if is_free && goes_on {
                self.plan.groups[list].force();
            }
        }
    }

    /// Groups in the order in which they begin, outer ones first.
    fn sort_by_place(&self, ids: &mut [GroupId]) {
        ids.sort_by_key(|id| {
            let group = &self.plan.groups[*id];
            (group.first, Reverse(group.end))
        });
    }

    /// Whether a line of a chain begins with the bracket of its last operand, which opens in place of it.
    fn begins_last_operand(&self, group: &Group, line: Option<TokenId>) -> bool {
        let opener = group.stand_in.and_then(|gap| self.plan.group_of(gap as usize));
        !group.bracketed && opener.is_some_and(|opener| Some(opener.first) == line)
    }

    /// Whether a line ends among these tokens, or in one of them.
    fn takes_lines(&self, first: TokenId, end: TokenId) -> bool {
        (first..end).any(|token| {
            self.broken_before(token) || self.tree.tokens[token as usize].multi_line
        })
    }

    /// The token that begins the line at a gap: where somebody broke it on the other side of an
    /// operator, that is another one.
    fn begins_row(&self, token: TokenId) -> TokenId {
        let beside = [token + 1, token.saturating_sub(1)];
        let broken = |token: &TokenId| {
            (*token as usize) < self.tree.tokens.len() && self.broken_before(*token)
        };
        let beside = || beside.into_iter().find(broken);
        self.line_with_comments(token).or_else(beside).unwrap_or(token)
    }

    /// Whether a line ends before a token or before one of the comments right before it.
    fn opened_before(&self, token: TokenId) -> bool {
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
    fn line_first(&self, token: TokenId) -> TokenId {
        (1..token + 1).rev().find(|first| self.broken_before(*first)).unwrap_or(0)
    }

    /// How many columns will stand before a token on its line, if that goes on as it does in the
    /// text.
    fn planned_column(&self, token: TokenId) -> usize {
        let first = self.line_first(token);
        let width = |at: TokenId| {
            let gap = &self.plan.gaps[at as usize];
            let blanks = match gap.want {
                Want::Flat | Want::Break => usize::from(gap.blanks),
                _ => self.gap_text(at).len(),
            };
            let text = self.token_text(at - 1);
            blanks + columns(text.rsplit('\n').next().unwrap_or_default(), self.choices.tab)
        };
        self.present_column(first) + (first + 1..token + 1).map(width).sum::<usize>()
    }

    /// How many columns of indentation the line of a token has in the text.
    fn line_columns(&self, token: TokenId) -> usize {
        columns(self.line_indent(token), self.choices.tab)
    }

    /// How many columns stand before a token in the text.
    fn present_column(&self, token: TokenId) -> usize {
        let start = self.tree.tokens[token as usize].start as usize;
        let line = self.text[..start].rfind('\n').map_or(0, |at| at + 1);
        columns(&self.text[line..start], self.choices.tab)
    }
}
