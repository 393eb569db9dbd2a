//! Where the lines of a group stand that the text has a say in: how far in, under what, and where
//! its closing bracket is.

use super::measure::columns;
use super::plan::{Align, ByGroup, Close, Counts, Gap, Group, GroupId, MOST_STEPS, Shape, Want};
use super::planner::Planner;
use super::seen::Seen;
use crate::syntax::{Role, TokenId};
use std::cmp::Reverse;
use std::collections::{BTreeMap, HashMap, HashSet};

impl Planner<'_> {
    /// Finds what the lines of each group stand under. Kept is what the first of them stands under:
    /// the first element of a list, the first operand of a chain, or the first of its marks.
    pub(super) fn line_up(&mut self, seen: &ByGroup<Seen>) {
        for id in seen.ids().skip(1) {
            let group = self.plan.groups[id];
            let Some(opening) = group.opening else { continue };
            let head = match group.shape {
                Shape::List | Shape::Chain if group.bracketed => opening,
                Shape::Chain => group.first,
                Shape::List => match group.under {
                    Some(element) => element,
                    None => continue,
                },
                _ => continue,
            };
            // Behind a comment that ends its line, nothing stays beside a bracket.
            let stays = head == group.first || !self.begins_behind_comment(head);
            let begin = if group.bracketed { self.begun_by(head, group.first) } else { head };
            self.plan.groups[id].under = match (group.align, seen[id].row) {
                (Align::Step, _) | (Align::Keep | Align::Any, None) => None,
                (Align::Bracket, _) => Some(begin).filter(|_| stays),
                (Align::Keep | Align::Any, Some(row)) if self.is_in_steps(&group, row) => None,
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
                    let heads = [begin, head].map(|head| Some(head).filter(|_| !is_margin));
                    let heads = heads.into_iter().chain([Some(opening)]);
                    heads.flatten().find(is_over)
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
        self.line_up_with_lists(seen);
    }

    /// Whether a line of a group is further in by tabs alone where the canon's steps are tabs. It may stand
    /// under something by chance; who lines something up puts spaces there.
    fn is_in_steps(&self, group: &Group, row: TokenId) -> bool {
        let Some(steps) = self.tabs_further(group, row) else { return false };
        let is_one = match group.align {
            Align::Any => usize::from(steps) <= MOST_STEPS,
            _ => steps == self.plan.gaps[row as usize].level,
        };
        is_one && self.style.indent_step().starts_with('\t')
    }

    /// How many tabs a line of a group is further in than the one that its levels count from, if nothing
    /// else is between them.
    fn tabs_further(&self, group: &Group, row: TokenId) -> Option<u8> {
        tabs_further(self.line_indent(self.line_first(group.stem)), self.line_indent(row))
    }

    /// What the first element behind a bracket begins with on its line: the comment before it, where
    /// there is one.
    fn begun_by(&self, element: TokenId, bracket: TokenId) -> TokenId {
        let tokens = &self.tree.tokens;
        let goes_on = |token: &TokenId| {
            let before = &tokens[*token as usize - 1];
            let is_comment = before.role == Role::Comment && !before.multi_line;
            is_comment && !tokens[*token as usize].broken
        };
        let behind = (bracket + 2..=element).rev().take_while(goes_on).last();
        behind.map_or(element, |token| token - 1)
    }

    /// A chain whose lines stand under nothing of its own may stand under the first element of the list
    /// around it.
    fn line_up_with_lists(&mut self, seen: &ByGroup<Seen>) {
        let is_lost = |id: &GroupId| {
            let group = &self.plan.groups[*id];
            group.shape == Shape::Chain
                && !group.bracketed
                && group.align.asks_the_text()
                && group.under.is_none()
                && group.like.is_none()
                && seen[*id].row.is_some()
        };
        let lost: Vec<GroupId> = seen.ids().skip(1).filter(is_lost).collect();
        if lost.is_empty() {
            return;
        }
        let around = self.brackets_around();
        for id in lost {
            let list = around[id].map(|list| &self.plan.groups[list]);
            let element =
                list.filter(|list| list.shape == Shape::List).and_then(|list| list.opening);
            if let (Some(element), Some(row)) = (element, seen[id].row)
                && element < self.plan.groups[id].first
                && !self.broken_before(element)
                && self.present_column(element) == self.present_column(row)
            {
                self.plan.groups[id].under = Some(element);
            }
        }
    }

    /// The gaps at which lines may begin that may stand anywhere, and their groups.
    pub(super) fn standing_anywhere(&self) -> Vec<(TokenId, GroupId)> {
        let groups = &self.plan.groups;
        let is_such = |gap: &Gap| is_row(gap).then_some(gap.group).flatten();
        let rows = self.plan.gaps.iter().enumerate();
        let rows = rows.filter_map(|(token, gap)| Some((token as TokenId, is_such(gap)?)));
        rows.filter(|(_, id)| groups[*id].align == Align::Any).collect()
    }

    /// Finds how far in the lines of each group are that may stand anywhere, and stand under
    /// nothing: as most of them, or else the first. Gives the groups whose lines are so many tabs
    /// further in, and so as many steps, however wide the canon's are.
    pub(super) fn take_columns(
        &mut self,
        anywhere: &[(TokenId, GroupId)],
    ) -> HashMap<GroupId, u8> {
        let mut rows: BTreeMap<GroupId, Vec<(usize, TokenId)>> = BTreeMap::new();
        for (token, id) in anywhere {
            if self.plan.groups[*id].under.is_none() && self.opened_before(*token) {
                let row = self.begins_row(*token);
                rows.entry(*id).or_default().push((self.present_column(row), row));
            }
        }
        let mut in_tabs: HashMap<GroupId, u8> = HashMap::new();
        for (id, rows) in rows {
            let first = self.line_first(self.plan.groups[id].stem);
            let stem = self.line_columns(first);
            let most = most_frequent(rows.iter().map(|(column, _)| *column));
            let usual = most.and_then(|(most, _)| rows.iter().find(|(column, _)| *column == most));
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
                let agree = most.is_some_and(|(_, count)| count > 1);
                is_step || agree || is_tabbed() || is_under()
            };
            let is_meant = |(column, row): &&(usize, TokenId)| {
                *column >= stem + step && is_meant(*column, *row)
            };
            let usual = usual.copied();
            let group = &self.plan.groups[id];
            let tabs = usual.and_then(|(_, row)| self.tabs_further(group, row));
            let closer = group.end - 1;
            let closes_deeper = || {
                group.bracketed && self.broken_before(closer) && self.present_column(closer) > stem
            };
            if let Some(steps) = tabs.filter(|steps| usize::from(*steps) <= MOST_STEPS)
                && !closes_deeper()
            {
                in_tabs.insert(id, steps);
                continue;
            }
            let like = usual.as_ref().filter(is_meant).copied();
            // What goes on with a declared name stands further in with all of its lines.
            let closes_so = |(column, _): (usize, TokenId)| {
                let closes = self.present_column(closer);
                group.bracketed
                    && self.broken_before(closer)
                    && closes > stem
                    && closes + step == column
            };
            let like_closer = like.filter(|row| closes_so(*row)).map(|_| closer);
            let group = &mut self.plan.groups[id];
            (group.like, group.like_closer) = (like.map(|(_, row)| row), like_closer);
        }
        in_tabs
    }

    /// Puts the lines of groups so many steps further in.
    pub(super) fn stand_in_steps(
        &mut self,
        anywhere: &[(TokenId, GroupId)],
        in_tabs: &HashMap<GroupId, u8>,
    ) {
        if in_tabs.is_empty() {
            return;
        }
        for (token, id) in anywhere {
            if let Some(steps) = in_tabs.get(id) {
                self.gap(*token).level = *steps;
            }
        }
    }

    /// Of operators whose lines may stand anywhere, those that are some steps further in than most of them
    /// go on with the line above, and stay so.
    pub(super) fn go_on_further_in(
        &mut self,
        anywhere: &[(TokenId, GroupId)],
        seen: &ByGroup<Seen>,
    ) {
        let mut rows: BTreeMap<GroupId, Vec<TokenId>> = BTreeMap::new();
        for (token, id) in anywhere {
            let group = &self.plan.groups[*id];
            if group.shape == Shape::Chain && !group.bracketed && seen[*id].ends > 1 {
                rows.entry(*id).or_default().push(*token);
            }
        }
        for (id, tokens) in rows {
            let is_row = |token: &&TokenId| self.opened_before(**token);
            let column = |token: &TokenId| self.present_column(self.begins_row(*token));
            let columns = tokens.iter().filter(is_row).map(column);
            let usual = match self.plan.groups[id].under.and(seen[id].row) {
                Some(row) => Some(self.present_column(row)),
                None => most_frequent(columns).map(|(column, _)| column),
            };
            let Some(usual) = usual else { continue };
            let mut further = 0;
            let steps: Vec<(TokenId, u8)> = tokens
                .iter()
                .map(|token| {
                    if self.opened_before(*token) {
                        let more = column(token).saturating_sub(usual);
                        let steps = more / self.choices.step;
                        let is_steps = more.is_multiple_of(self.choices.step);
                        further = if is_steps && steps <= MOST_STEPS { steps as u8 } else { 0 };
                    }
                    (*token, further)
                })
                .collect();
            for (token, further) in steps {
                let gap = self.gap(token);
                (gap.level, gap.by_choice) = (gap.level + further, further);
            }
        }
    }

    /// The lines of a condition that begins behind its parenthesis, or behind a word, stand further in
    /// than the body behind it; so do those of one whose closing parenthesis has no line of its own.
    pub(super) fn set_conditions_apart(&mut self) {
        let headers = self.plan.groups.iter().filter(|group| group.header).map(|g| g.first + 1);
        let headers: HashSet<TokenId> =
            headers.chain(self.plan.conditions.iter().copied()).collect();
        if headers.is_empty() {
            return;
        }
        let mut apart = self.plan.groups.all(false);
        for id in self.plan.groups.ids() {
            let group = &self.plan.groups[id];
            let is_condition = group.shape == Shape::Chain
                && !group.bracketed
                && headers.contains(&group.first);
            apart[id] = is_condition || (group.header && !self.plan.closes_apart(id));
        }
        for gap in self.plan.gaps.iter_mut().filter(|gap| gap.level == 1) {
            if gap.group.is_some_and(|id| apart[id]) {
                gap.level = 2;
            }
        }
    }

    /// Where a closing bracket is to stay, and stands behind the last element of an open list, it
    /// does.
    pub(super) fn close_as_seen(&mut self, seen: &ByGroup<Seen>) {
        // What ends a block where no bracket does has a line of its own.
        let blocks = self.plan.groups.iter().filter(|group| group.shape == Shape::Block);
        let ends: HashSet<TokenId> =
            blocks.filter(|_| self.tree.indented).map(|block| block.end).collect();
        for id in seen.ids().skip(1) {
            let group = &self.plan.groups[id];
            let (stem, closer) = (group.stem, group.end - 1);
            let is_beside = group.under.is_some()
                && group.under == group.opening
                && !ends.contains(&closer);
            // A table that begins beside its bracket is opened on both sides.
            let opens = group.opening.is_some_and(|gap| {
                self.plan.gaps[gap as usize].chosen && !self.opened_before(gap)
            });
            let keeps = group.close == Close::Keep && !(group.bracketed && opens);
            // Rows that go on behind the opening bracket may end before the closing one.
            let is_hanging = self.choices.rows
                && seen[id].ends > 0
                && group.shape == Shape::List
                && group.bracketed
                && !opens
                && group.opening.is_some_and(|first| !self.opened_before(first))
                && !self.opened_before(closer);
            let is_beside = is_beside || is_hanging;
            if !(keeps || is_beside) || !self.plan.closes(closer as usize) {
                continue;
            }
            let is_with_last = match keeps && seen[id].ends > 0 {
                true => {
                    // Where a comma follows what begins on a line of its own, the bracket has one, too.
                    let begins = group.opening.is_some_and(|first| self.opened_before(first));
                    let is_spread = begins && self.tree.separates(closer - 1);
                    !self.opened_before(closer) && !is_spread
                }
                false => is_beside,
            };
            if is_with_last && !self.below_comment(closer) {
                let gap = self.gap(closer);
                *gap = Gap { breaks: gap.breaks, ..Gap::flat(gap.blanks, gap.setting) };
            } else if let (Some(row), Some(opening)) = (seen[id].row, group.opening)
                && keeps
                && self.broken_before(closer)
            {
                let closes = self.present_column(closer);
                if self.present_column(row) == closes && closes > self.opens_from(stem) {
                    // It stands under the elements, and not under what the list belongs to.
                    let level = self.gap(opening).level;
                    self.gap(closer).level = level;
                } else if is_beside
                    && group.bracketed
                    && group.first == opening - 1
                    && closes == self.present_column(group.first)
                {
                    self.plan.groups[id].closes_under = true;
                }
            }
        }
    }

    /// The column from which what a token opens is further in: where its line begins, and further in
    /// behind a sign that does.
    fn opens_from(&self, token: TokenId) -> usize {
        let sign = self.plan.signs.get(&self.line_first(token));
        let steps = sign.map_or(0, |steps| usize::from(*steps));
        self.line_columns(token) + steps * self.choices.step
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
    pub fn line_columns(&self, token: TokenId) -> usize {
        self.columns_of(self.line_indent(token))
    }

    /// How many columns a stretch of one line takes.
    pub fn columns_of(&self, text: &str) -> usize {
        columns(text, self.choices.tab)
    }
}

/// How many tabs one indentation is deeper than another, if nothing else is between them.
pub(super) fn tabs_further(from: &str, to: &str) -> Option<u8> {
    let further = to.strip_prefix(from)?;
    let is_tabs = !further.is_empty() && further.bytes().all(|byte| byte == b'\t');
    u8::try_from(further.len()).ok().filter(|_| is_tabs)
}

/// Whether a line of a group may begin at a gap, and not only its closing bracket.
fn is_row(gap: &Gap) -> bool {
    gap.want == Want::Break && gap.inside
}

/// The number that is there most often, the first of several, and how often that is.
fn most_frequent(all: impl Iterator<Item = usize>) -> Option<(usize, usize)> {
    let mut counts: HashMap<usize, (usize, usize)> = HashMap::new();
    for (at, one) in all.enumerate() {
        counts.entry(one).or_insert((0, at)).0 += 1;
    }
    let most = counts.into_iter().max_by_key(|(_, (count, at))| (*count, Reverse(*at)));
    most.map(|(one, (count, _))| (one, count))
}
