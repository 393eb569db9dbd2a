//! What somebody chose: the text has a say in which groups are open.

use super::plan::{Align, Around, ByGroup, Close, Group, GroupId, Opens, Rows, Shape};
use super::planner::Planner;
use super::seen::Seen;
use crate::syntax::TokenId;
use std::cmp::Reverse;

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
    /// is by a single break: it is nobody's choice where the whole fits, unless lines stand as they were
    /// put.
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
                    && !outer.align.asks_the_text()
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
}
