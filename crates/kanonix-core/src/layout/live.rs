//! Which units and gaps are in play, and what the live ones line up with.

use super::plan::{ByGroup, Counts, GroupId, Plan};
use super::units::{Unit, Units};
use crate::text::LineSet;

/// What is live under one line set.
pub struct Live {
    /// By unit.
    pub unit: Vec<bool>,
    /// By unit: whether its indentation alone is in play.
    pub moved: Vec<bool>,
    /// By unit: the unit whose present indentation it takes, byte for byte.
    pub anchor: Vec<Option<u32>>,
    /// How many tokens before each token are not live.
    still_before: Vec<u32>,
}

impl Live {
    /// Marks the units that the line set touches, and finds their anchors; `indented` says that the
    /// indentation of a line is syntax, and `is_beside` whether two units are as far in as each other.
    pub fn new(
        plan: &Plan,
        units: &Units,
        set: &LineSet,
        indented: bool,
        is_beside: &dyn Fn(usize, usize) -> bool,
    ) -> Live {
        let unit = live_units(plan, units, set);
        let mut still_before = Vec::with_capacity(units.of_token.len() + 1);
        let mut still = 0;
        still_before.push(0);
        for index in &units.of_token {
            still += u32::from(!unit[*index as usize]);
            still_before.push(still);
        }
        let moves = |(unit, live): (&Unit, &bool)| {
            !live && !unit.fixed && unit.begins_line && set.is_moved(unit.first_line as usize)
        };
        let moved: Vec<bool> = match set.has_moved() {
            true => units.all.iter().zip(&unit).map(moves).collect(),
            false => vec![false; unit.len()],
        };
        let anchor = if still == 0 {
            vec![None; unit.len()]
        } else {
            let held = held_in_place(plan, units, set, &unit, &moved, is_beside);
            anchors(plan, units, &unit, &moved, indented, &held)
        };
        Live { unit, moved, anchor, still_before }
    }

    /// Whether every token of `first..end` is live.
    pub fn all(&self, first: u32, end: u32) -> bool {
        self.still_before[first as usize] == self.still_before[end as usize]
    }

    /// Whether no token is live.
    pub fn nothing(&self) -> bool {
        self.still_before.last().copied() == Some(self.still_before.len() as u32 - 1)
    }
}

/// A unit is live if a line of its own is touched, or if it shares a line with one that is. A ragged
/// list is in play as a whole with its opening or its closing bracket.
pub(super) fn live_units(plan: &Plan, units: &Units, set: &LineSet) -> Vec<bool> {
    let mut live: Vec<bool> = (0..units.all.len())
        .map(|unit| {
            !units.all[unit].fixed && units.own_lines(unit).any(|lines| set.touches(lines))
        })
        .collect();
    let shares = |index: usize| !units.all[index].begins_line && !units.all[index].fixed;
    loop {
        for index in 1..live.len() {
            live[index] |= shares(index) && live[index - 1];
        }
        for index in (1..live.len()).rev() {
            live[index - 1] |= shares(index) && live[index] && !units.all[index - 1].fixed;
        }
        // What comes into play with a list may share its lines with something else.
        if set.is_whole() || !spread(plan, units, &mut live) {
            return live;
        }
    }
}

/// Where a ragged list's opening or closing bracket is live, so are its rows, as far as the unit
/// goes that they are rows of. Says whether any came into play.
fn spread(plan: &Plan, units: &Units, live: &mut [bool]) -> bool {
    let of = |token: u32| units.of_token[token as usize] as usize;
    let ragged = plan.groups.iter().zip(units.ragged.iter()).filter(|(_, is)| **is);
    // Of each such list: its rows, and one of the brackets that may bring them into play.
    let mut waiting: Vec<(std::ops::Range<usize>, usize)> = ragged
        .flat_map(|(group, _)| {
            let rows = of(group.first)..of(group.end - 1) + 1;
            [rows.start, rows.end - 1].map(|end| (rows.clone(), end))
        })
        .collect();
    let (mut grows, mut grew) = (true, false);
    while grows {
        grows = false;
        waiting.retain(|(rows, end)| {
            let stretch = units.all[*end].stretch;
            if !live[*end] {
                return true;
            }
            for row in rows.clone() {
                let unit = &units.all[row];
                let joins = !live[row] && unit.stretch == stretch && !unit.fixed;
                live[row] |= joins;
                grows |= joins;
            }
            false
        });
        grew |= grows;
    }
    grew
}

/// The anchor rule: a live unit takes the present indentation of the nearest unit of the same block
/// that is not live, above first, then below. Where there is none, a unit that holds units that are
/// not live stays where they show that it stands.
fn anchors(
    plan: &Plan,
    units: &Units,
    live: &[bool],
    moved: &[bool],
    indented: bool,
    held: &[Option<u32>],
) -> Vec<Option<u32>> {
    let count = units.all.len();
    let fixed = |index: usize| {
        let unit = &units.all[index];
        // Where indentation is syntax, a block stands as what does not parse in it does.
        let stands = !unit.fixed || (indented && unit.fault);
        !live[index] && !moved[index] && unit.begins_line && !unit.comment && stands
    };
    let takes_anchor = |index: usize| {
        let unit = &units.all[index];
        (live[index] || moved[index])
            && unit.group.is_some()
            && (unit.inside || unit.group == Some(GroupId::ROOT))
    };
    let mut anchor: Vec<Option<u32>> = vec![None; count];
    // What a unit shows for others of its block is a unit that stands where it belongs.
    let mut assign = |shows: &dyn Fn(usize) -> Option<u32>, over_own: bool| {
        for backwards in [false, true] {
            let mut nearest: ByGroup<Option<(u32, u8)>> = plan.groups.all(None);
            for step in 0..count {
                let index = if backwards { count - 1 - step } else { step };
                let unit = &units.all[index];
                let Some(group) = unit.group else { continue };
                if takes_anchor(index)
                    && anchor[index].is_none()
                    && (over_own || held[index].is_none())
                {
                    let beside = nearest[group].filter(|(_, level)| *level == unit.level);
                    anchor[index] = beside.map(|(shown, _)| shown);
                }
                if let Some(shown) = shows(index).filter(|_| unit.inside || group == GroupId::ROOT)
                {
                    nearest[group] = Some((shown, unit.level));
                }
            }
        }
    };
    assign(&|index| fixed(index).then_some(index as u32), true);
    assign(&|index| held[index].filter(|_| units.all[index].begins_line), false);
    for (index, own) in held.iter().enumerate() {
        if anchor[index].is_none() && takes_anchor(index) {
            anchor[index] = *own;
        }
    }
    anchor
}

/// The live units that hold units that are not live, and whose indentation shows where such a unit
/// stands: its closing line's if that is not live, and the one that it begins with is, else its own.
fn held_in_place(
    plan: &Plan,
    units: &Units,
    set: &LineSet,
    live: &[bool],
    moved: &[bool],
    is_beside: &dyn Fn(usize, usize) -> bool,
) -> Vec<Option<u32>> {
    let mut held: Vec<Option<u32>> = vec![None; units.all.len()];
    for index in (0..units.all.len()).rev() {
        let unit = &units.all[index];
        // What moves shows nothing, and neither does what goes to where its closing line stands.
        let stays = |at: u32| is_beside(at as usize, index);
        let shows = !moved[index] && (!live[index] || held[index].is_some_and(stays));
        let group = unit.group.filter(|group| shows && *group != GroupId::ROOT);
        let Some(group) = group else { continue };
        let stem = plan.groups[group].stem as usize;
        let header = units.of_token[stem] as usize;
        if header == index || !live[header] || !units.all[header].begins_line {
            continue;
        }
        let closes = !unit.inside && !live[index] && unit.begins_line;
        // One that stands under a part of its header's line shows where that part stands, and one further in
        // nothing.
        let group = &plan.groups[group];
        let is_behind_sign = plan.signs.contains_key(&units.all[header].first);
        let is_under = group.like_closer.is_some() || group.closes_under;
        let is_further_in = unit.level > 0 || is_under || is_behind_sign;
        let closes = closes && group.counts != Counts::Stem && !is_further_in;
        let Unit { first, first_line, last_line, .. } = units.all[header];
        let line = first_line as usize;
        let begins_touched = stem == first as usize && set.touches(line..line + 1);
        if closes && (first_line == last_line || begins_touched) {
            held[header] = Some(index as u32);
        } else if held[header].is_none() {
            held[header] = Some(header as u32);
        }
    }
    held
}
