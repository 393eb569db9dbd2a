//! What is as far in as it was, where that was by steps that are others by now.

use super::fill::Filler;
use super::indent::IndentId;
use super::measure::columns;
use super::plan::{GroupId, MOST_STEPS, Shape};
use super::units::Unit;
use std::collections::HashMap;

impl Filler<'_> {
    /// As how many steps the columns were meant by which a line stands further in than that of a
    /// stem: where the block around has got the canon's step and had another one, by which the line
    /// is further in, too, or where the steps are tabs by now. More than the canon asks for is not
    /// made wider still, and what stands under something, or beyond all steps, was not meant as steps.
    pub(super) fn steps_of_old(
        &mut self,
        stem: usize,
        now: IndentId,
        row: usize,
        level: u8,
    ) -> Option<u8> {
        let sheet = self.sheet;
        let rest = self.row_indentation(row).strip_prefix(sheet.indentation_at(stem))?;
        let further = columns(rest, self.tab);
        let steps_of = |step: usize| {
            let steps = further / step;
            (further % step == 0 && (1..=MOST_STEPS).contains(&steps)).then_some(steps)
        };
        let has = self.indents.step_columns(now);
        let old = self.step_before(stem, now).filter(|had| *had != has);
        let by_old = old.and_then(|had| {
            steps_of(had).filter(|steps| had > has || *steps == usize::from(level))
        });
        let in_tabs = self.indents.has_tabs_behind(now) && rest.contains(' ');
        let steps = by_old.or_else(|| steps_of(has).filter(|_| in_tabs))?;
        let is_under = steps > 1 && self.is_under(stem, row);
        u8::try_from(steps).ok().filter(|_| !is_under)
    }

    /// Whether a line begins under something of those that it goes on with.
    fn is_under(&mut self, stem: usize, row: usize) -> bool {
        if let Some(known) = self.stands_under.get(&row) {
            return *known;
        }
        let sheet = self.sheet;
        let first = sheet.units.all[sheet.units.of_token[stem] as usize].first as usize;
        let column = self.present_column(row);
        let is_over = |token: usize| {
            !sheet.tree.tokens[token].broken && self.present_column(token) == column
        };
        let is_under = (first..row).any(is_over);
        self.stands_under.insert(row, is_under);
        is_under
    }

    /// How many columns the line of a stem was further in than what it is a step further in than by
    /// now.
    fn step_before(&mut self, stem: usize, now: IndentId) -> Option<usize> {
        let sheet = self.sheet;
        let unit = &sheet.units.all[sheet.units.of_token[stem] as usize];
        let own = self.indent_of[unit.first as usize].filter(|own| *own == now)?;
        let Some(block) = unit.group.filter(|group| *group != GroupId::ROOT) else {
            return self.usual_step();
        };
        let had = self.old_step(unit, block)?;
        let outer = self.indent_of[sheet.plan.groups[block].stem as usize]?;
        (self.indents.deeper(outer, 1) == own).then_some(had)
    }

    /// How many columns a unit is further in than the header of the block that it is a line of.
    fn old_step(&self, unit: &Unit, block: GroupId) -> Option<usize> {
        let is_first_step = unit.begins_line && unit.inside && unit.level == 1;
        let head = self.sheet.plan.groups[block].stem as usize;
        let before = |token: usize| columns(self.sheet.indentation_at(token), self.tab);
        let had = before(unit.first as usize).checked_sub(before(head));
        had.filter(|had| is_first_step && *had > 0)
    }

    /// How many columns most lines in blocks are further in than these blocks' headers, where all of
    /// them get the canon's step.
    fn usual_step(&self) -> Option<usize> {
        if !self.set.is_whole() {
            return None;
        }
        *self.usual_step.get_or_init(|| {
            let mut counts: HashMap<usize, usize> = HashMap::new();
            for unit in self.sheet.units.all.iter().filter(|unit| !unit.fixed) {
                let is_block = |group: &GroupId| {
                    self.sheet.plan.groups[*group].shape == Shape::Block && *group != GroupId::ROOT
                };
                let step = unit.group.filter(is_block).and_then(|block| self.old_step(unit, block));
                step.into_iter().for_each(|step| *counts.entry(step).or_default() += 1);
            }
            let all: usize = counts.values().sum();
            let most = counts.into_iter().find(|(_, count)| count * 2 > all);
            most.map(|(step, _)| step)
        })
    }
}
