//! Lines that stand at another nesting depth than before: somebody wrapped them in a block, or took
//! the block away. They are in play for their indentation alone.

use super::Sheet;
use super::live::live_units;
use super::plan::{GroupId, Shape};
use crate::text::LineSet;
use std::collections::HashMap;

impl Sheet<'_> {
    /// Whether a live unit opens or closes a block or an open list, or one may be gone, so that
    /// what is in it may have moved.
    pub fn reshapes(&self, set: &LineSet) -> bool {
        if set.unwraps() {
            return true;
        }
        let live = live_units(&self.plan, &self.units, set);
        let is_live = |token: u32| live[self.units.of_token[token as usize] as usize];
        self.plan.groups.iter().skip(1).any(|group| {
            let holds_units = match group.shape {
                Shape::Block => true,
                Shape::List => {
                    group.opening.is_some_and(|gap| self.tree.broken(gap as usize, self.text))
                }
                Shape::Chain | Shape::Alternatives | Shape::LastResort => false,
            };
            holds_units
                && group.end > group.first
                && (is_live(group.first) || is_live(group.end - 1))
        })
    }

    /// Of every line that begins a unit: the unit's nesting depth and its last line.
    fn depths(&self) -> HashMap<usize, (u32, usize)> {
        let mut depths: Vec<u32> = Vec::with_capacity(self.units.all.len());
        let mut by_line = HashMap::new();
        for (index, unit) in self.units.all.iter().enumerate() {
            let depth = match unit.group {
                None | Some(GroupId::ROOT) => u32::from(unit.level),
                Some(group) => {
                    let stem = self.plan.groups[group].stem as usize;
                    let holder = self.units.of_token[stem] as usize;
                    let around = if holder < index { depths[holder] } else { 0 };
                    // A ragged list's rows are where its lines are, and go with them.
                    let is_row = self.units.ragged[group];
                    around + if is_row { 0 } else { u32::from(unit.level) }
                }
            };
            depths.push(depth);
            if unit.begins_line {
                by_line.insert(unit.first_line as usize, (depth, unit.last_line as usize));
            }
        }
        by_line
    }

    /// The line set with the lines that are those of `base` but for their nesting, in play for
    /// their indentation alone.
    pub fn with_moved(&self, set: &LineSet, base: &Sheet) -> LineSet {
        let (before, now) = (base.depths(), self.depths());
        let alike = LineSet::alike_but_indented(base.text, self.text);
        let is_alike = |line: usize| alike.binary_search_by_key(&line, |(_, new)| *new).is_ok();
        let mut moved = Vec::new();
        for (old, new) in &alike {
            if let (Some((before, _)), Some((now, last))) = (before.get(old), now.get(new))
                && before != now
                && (*new..last + 1).all(is_alike)
            {
                moved.extend(*new..last + 1);
            }
        }
        moved.dedup();
        set.with_moved(moved)
    }
}
