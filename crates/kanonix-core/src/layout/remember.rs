//! What somebody chose: the text has a say in which groups are open.

use super::plan::{Align, Around, ByGroup, Close, Group, GroupId, Opens, Rows, Shape, Slight};
use super::planner::Planner;
use super::seen::Seen;
use crate::syntax::TokenId;

impl Planner<'_> {
    /// Gives the text its say.
    pub(super) fn ask_the_text(&mut self) {
        self.plan.sort_groups();
        let seen = self.seen();
        self.line_up(&seen);
        if self.choices.remembers {
            self.open_tables(&seen);
        }
        let anywhere = self.standing_anywhere();
        let in_tabs = self.take_columns(&anywhere);
        self.close_as_seen(&seen);
        self.set_conditions_apart();
        self.stand_in_steps(&anywhere, &in_tabs);
        self.go_on_further_in(&anywhere, &seen);
        match self.choices.remembers {
            true => self.remember(&seen),
            false => seen.ids().for_each(|id| self.plan.groups[id].slight = Slight::Never),
        }
    }

    /// Lists and chains that somebody opened stay open; a line after a sign stays broken if the
    /// whole does not fit on one.
    fn remember(&mut self, seen: &ByGroup<Seen>) {
        let around = self.nearest(|_| true);
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
            let is_torn = around[id].is_some_and(|around| self.is_torn(id, around, seen));
            let slight = match is_lined_up || is_row {
                true => Slight::Never,
                false => self.slight(id, around[id], seen),
            };
            let group = &mut self.plan.groups[id];
            group.slight = slight;
            if self.choices.rows && group.shape == Shape::List {
                // Lists that stand in rows keep them.
                group.rows = if ends > 0 { Rows::Kept } else { group.rows };
                // The bar before the first alternative begins the line that was the list's.
                group.force_if(broken && ends + joins == 0);
                continue;
            }
            let group = self.plan.groups[id];
            // Where most elements have a line of their own, the others should.
            let in_rows = match group.rows {
                // The last row has what is left.
                Rows::Bracketed if group.align.asks_the_text() => broken && joins + 1 >= ends,
                // One line alone is no rows of what has a line each elsewhere.
                Rows::Bracketed => {
                    broken && joins >= ends && (ends > 1 || group.around != Around::OneLine)
                }
                Rows::Even => broken && joins >= ends && ends > 1 && seen[id].is_even(),
                Rows::Shared => broken && joins > 0,
                Rows::Loose => ends > 0 && joins >= ends,
                Rows::Any => ends > 0 && joins > 0,
                Rows::Never | Rows::Kept => {
                    self.choices.rows && group.shape == Shape::Chain && ends > 0 && joins > 0
                }
            };
            let closer = group.end - 1;
            let closes_apart = group.close == Close::Keep
                && self.broken_before(closer)
                && !closer.checked_sub(1).is_some_and(|last| self.closes_a_line(last))
                && self.takes_lines(group.first + 1, closer);
            let is_beside = group.align != Align::Step && match group.shape {
                // Beside its bracket, what is kept stands under the first element.
                Shape::List if group.align == Align::Keep && ends > 0 => {
                    !broken && group.under.is_some()
                }
                Shape::List => (ends > 0 || closes_apart) && !broken,
                Shape::Chain => ends > 0 && joins > 0,
                _ => false,
            };
            // A brace behind a header is no value.
            let is_brace = group.opening.is_some_and(|gap| {
                group.end == gap + 1 && self.plan.gaps[gap as usize].level == 0
            });
            let is_hug = ends == 1 && self.begins_last_operand(&group, seen[id].row);
            let group = &mut self.plan.groups[id];
            match group.shape {
                Shape::Block => {}
                Shape::LastResort
                    if broken
                        && !is_brace
                        && matches!(group.opens, Opens::TooWide | Opens::Before | Opens::ToFit) =>
                {
                    group.opens = Opens::Again;
                }
                Shape::LastResort => {}
                // Somebody broke it where what is around it should have been broken.
                _ if is_torn => group.rows = Rows::Never,
                _ if in_rows || is_beside => {
                    group.shares = group.rows == Rows::Shared || group.align.asks_the_text();
                    group.rows = Rows::Kept;
                }
                _ => {
                    group.fills &= !broken;
                    group.force_if(broken && !group.closes && !is_hug && slight != Slight::Head);
                }
            }
            let is_chain = matches!(group.shape, Shape::Chain | Shape::Alternatives);
            if is_chain && group.around == Around::Blocks {
                group.around = Around::Lists;
            }
        }
        self.open_around_chains();
        self.break_weaker_first(seen, &around);
    }

    /// A table that begins beside its bracket, and stands under nothing, begins on a line of its own; and so
    /// do elements that have a line each, or fill several, unless they take no more than half a line together.
    fn open_tables(&mut self, seen: &ByGroup<Seen>) {
        for id in seen.ids().skip(1) {
            let group = &self.plan.groups[id];
            let may_have_rows = matches!(group.rows, Rows::Bracketed | Rows::Even | Rows::Shared);
            let is_full = seen[id].is_full() && !group.fills;
            let is_free = matches!(group.align, Align::Step | Align::Keep) && group.under.is_none();
            if group.shape == Shape::List
                && group.bracketed
                && may_have_rows
                && is_free
                && !group.reluctant
                // Bars are no brackets to begin a line behind.
                && self.tree.opens(self.token_text(group.first))
                && (seen[id].is_table()
                    || ((seen[id].is_column() || is_full)
                        && self.takes_half_a_line(group.first..group.end)))
                && let Some(opening) = group.opening
            {
                self.plan.gaps[opening as usize].chosen = true;
            }
        }
    }

    /// Whether a list is open in the midst of another one that is not: other elements follow behind it.
    fn is_torn(&self, id: GroupId, around: GroupId, seen: &ByGroup<Seen>) -> bool {
        let group = &self.plan.groups[id];
        let outer = &self.plan.groups[around];
        let is_list = |group: &Group| group.shape == Shape::List && group.bracketed;
        // Rows between brackets that have lines of their own are no list that broke somewhere.
        let stands_apart = || {
            seen[id].ends > 1
                && seen[id].joins > 0
                && self.broken_before(group.end - 1)
                && group.opening.is_some_and(|opening| self.broken_before(opening))
        };
        is_list(group)
            && is_list(outer)
            && (seen[id].ends > 0 && seen[around].ends == 0)
            && !stands_apart()
            && self.goes_on_behind(group.end, around)
            && group.slight != Slight::Never
            && self.is_slight(id)
    }

    /// Whether other elements of a list stand behind one that ends here, and behind its separator.
    fn goes_on_behind(&self, end: TokenId, list: GroupId) -> bool {
        end + 2 < self.plan.groups[list].end
            && self.plan.gaps[end as usize + 1].group == Some(list)
            && !self.plan.closes(end as usize + 1)
    }

    /// Whether a closing mark or word begins its line.
    fn closes_a_line(&self, token: TokenId) -> bool {
        self.tree.closes(self.token_text(token)) && self.broken_before(token)
    }

    /// Of each group the brackets or the block that it stands in.
    pub(super) fn brackets_around(&self) -> ByGroup<Option<GroupId>> {
        self.nearest(|group| group.bracketed || group.shape == Shape::Block)
    }

    /// Of each group the nearest one around it that is of some kind.
    fn nearest(&self, is_one: impl Fn(&Group) -> bool) -> ByGroup<Option<GroupId>> {
        let mut nearest = self.plan.groups.all(None);
        let mut around: Vec<GroupId> = Vec::new();
        for id in self.plan.order.iter().skip(1) {
            let own = &self.plan.groups[*id];
            while around.pop_if(|outer| self.plan.groups[*outer].end <= own.first).is_some() {}
            nearest[*id] = around.last().copied();
            if is_one(own) {
                around.push(*id);
            }
        }
        nearest
    }

    /// Operators that bind more strongly are not broken where the weaker ones around them are not, and
    /// neither is an element where its list is not, if that is by a single break: it is nobody's choice
    /// where the whole fits, unless lines stand as they were put.
    fn break_weaker_first(&mut self, seen: &ByGroup<Seen>, around: &ByGroup<Option<GroupId>>) {
        let is_chain = |group: &Group| group.shape == Shape::Chain && !group.bracketed;
        for id in seen.ids().skip(1).filter(|id| seen[*id].ends == 1) {
            let group = &self.plan.groups[id];
            let is_open = group.is_forced() || group.rows == Rows::Kept;
            let is_lone = is_chain(group)
                && !group.fills
                && group.rows != Rows::Loose
                && is_open
                && self.may_be_one_line(group)
                && self.has_one_break(group)
                && !self.has_rows_of_texts(group);
            let is_whole = |outer: GroupId| {
                let is_unbroken = seen[outer].ends == 0;
                let outer = &self.plan.groups[outer];
                (is_chain(outer) || (outer.shape == Shape::List && is_unbroken))
                    && outer.opening.is_some()
                    && !outer.is_forced()
                    && outer.rows != Rows::Kept
                    && !outer.align.asks_the_text()
            };
            if is_lone && around[id].is_some_and(is_whole) {
                let own = &mut self.plan.groups[id];
                (own.opens, own.rows) = (Opens::TooWide, Rows::Never);
            }
        }
    }

    /// Whether no more than one line ends inside a group: not where something in it has lines of its own.
    fn has_one_break(&self, group: &Group) -> bool {
        (group.first + 1..group.end).filter(|token| self.broken_before(*token)).nth(1).is_none()
    }

    /// Whether a line begins between two texts of a group.
    fn has_rows_of_texts(&self, group: &Group) -> bool {
        (group.first + 1..group.end)
            .any(|token| self.broken_before(token) && self.divides_texts(token))
    }

    /// A list is open around a chain with lines of its own behind which other elements come: they would
    /// stand at the end of its last line.
    fn open_around_chains(&mut self) {
        let is_chain = |id: &&GroupId| {
            let group = &self.plan.groups[**id];
            let is_open = group.is_forced() || group.rows == Rows::Kept;
            let is_chosen = group.slight == Slight::Never;
            group.shape == Shape::Chain && !group.bracketed && is_open && is_chosen
        };
        let chains: Vec<GroupId> = self.plan.order.iter().filter(is_chain).copied().collect();
        if chains.is_empty() {
            return;
        }
        let around = self.brackets_around();
        for id in chains {
            let Some(list) = around[id] else { continue };
            let (end, own) = (self.plan.groups[id].end, &self.plan.groups[list]);
            let is_free = own.shape == Shape::List
                && own.rows != Rows::Kept
                && own.align == Align::Step
                && own.opens == Opens::TooWide;
            if is_free && self.goes_on_behind(end, list) {
                self.plan.groups[list].force();
            }
        }
    }

    /// Whether a line of a chain begins with the bracket of its last operand, which opens in place of it.
    fn begins_last_operand(&self, group: &Group, line: Option<TokenId>) -> bool {
        let opener = group.stand_in.and_then(|gap| self.plan.group_of(gap as usize));
        !group.bracketed && opener.is_some_and(|opener| Some(opener.first) == line)
    }
}
