//! Units: the runs of tokens between two places where something starts a line of its own.

use super::plan::{GroupId, NO_GROUP, Plan, Rows, Want};
use crate::syntax::Tree;
use crate::text::Lines;
use std::ops::Range;

/// A run of tokens that is laid out together and starts its own line: the smallest thing that is
/// mended.
#[derive(Clone, Copy, Debug)]
pub struct Unit {
    /// Its first token.
    pub first: u32,
    /// The token after its last one.
    pub end: u32,
    /// The block or open list that it stands in.
    pub group: GroupId,
    /// How many steps it is indented from that group's first line.
    pub level: u8,
    /// Whether it is inside that group, as opposed to closing it.
    pub inside: bool,
    /// Zero-based line of its first byte.
    pub first_line: u32,
    /// Zero-based line of its last byte.
    pub last_line: u32,
    /// Whether nothing but blanks stands before it on its line.
    pub begins_line: bool,
    /// Whether a stretch that does not parse is in it.
    pub fault: bool,
    /// Whether it stays whatever is in play: for a fault, or because somebody asked for it.
    pub fixed: bool,
    /// Whether it is a comment and nothing else.
    pub comment: bool,
    /// Which of the text's stretches it is of that are one unit but for the rows of ragged lists.
    pub stretch: u32,
}

/// The units of a text, in its order, and the unit of each token.
pub struct Units {
    /// In the order of the text.
    pub all: Vec<Unit>,
    /// By token.
    pub of_token: Vec<u32>,
    /// By group: whether it is a list that is broken at some of its gaps and not at others, in rows
    /// that the canon has no name for.
    pub ragged: Vec<bool>,
}

/// Finds the units: a unit starts at every wanted line, and at every line on which an element of a
/// list begins in the text as it stands.
pub(super) fn find(plan: &Plan, tree: &Tree, text: &str, lines: &Lines) -> Units {
    let kept = super::kept::ranges(plan, tree, text);
    let mut kept = joined(kept).into_iter().peekable();
    let mut units = Units {
        all: Vec::with_capacity(tree.tokens.len() / 5 + 1),
        of_token: Vec::with_capacity(tree.tokens.len()),
        ragged: ragged_lists(plan, tree, text),
    };
    let mut stretches = 0;
    let mut line = 0;
    let advance = |line: &mut usize, offset: usize| {
        while *line + 1 < lines.count() && lines.start(*line + 1) <= offset {
            *line += 1;
        }
        *line as u32
    };
    for (index, token) in tree.tokens.iter().enumerate() {
        let gap = &plan.gaps[index];
        let starts = match gap.want {
            Want::Line => true,
            Want::Break => has_units(plan, gap.group) && tree.broken(index, text),
            _ => false,
        };
        let on_new_line = index == 0 || token.broken || tree.tokens[index - 1].multi_line;
        let first_line = match on_new_line {
            true => advance(&mut line, token.start as usize),
            false => line as u32,
        };
        if starts || index == 0 {
            let begins_line = index == 0 || token.broken;
            let is_row = starts && gap.want == Want::Break && units.ragged[gap.group as usize];
            stretches += u32::from(!is_row);
            units.all.push(Unit {
                first: index as u32,
                end: index as u32,
                group: if starts { gap.group } else { NO_GROUP },
                level: if starts { gap.level } else { 0 },
                inside: starts && gap.inside,
                first_line,
                last_line: first_line,
                begins_line,
                fault: false,
                fixed: false,
                comment: true,
                stretch: stretches,
            });
        }
        let last_line =
            if token.multi_line { advance(&mut line, token.end as usize - 1) } else { first_line };
        if let Some(unit) = units.all.last_mut() {
            unit.end = index as u32 + 1;
            unit.last_line = last_line;
            while kept.peek().is_some_and(|range| range.end <= index) {
                kept.next();
            }
            unit.fault |= token.fault || tree.keeps(index);
            unit.fixed |= token.fault || kept.peek().is_some_and(|range| range.start <= index);
            unit.comment &= token.role == crate::syntax::Role::Comment;
        }
        units.of_token.push(units.all.len() as u32 - 1);
    }
    units
}

/// The same ranges, ascending and disjoint.
fn joined(mut ranges: Vec<Range<usize>>) -> Vec<Range<usize>> {
    ranges.sort_by_key(|range| range.start);
    let mut out: Vec<Range<usize>> = Vec::with_capacity(ranges.len());
    for range in ranges {
        match out.last_mut() {
            Some(last) if last.end >= range.start => last.end = last.end.max(range.end),
            _ => out.push(range),
        }
    }
    out
}

fn has_units(plan: &Plan, group: GroupId) -> bool {
    plan.groups[group as usize].of_units
}

/// Which groups are lists that are broken at some of their gaps and not at others, and not in rows
/// that are to be kept.
fn ragged_lists(plan: &Plan, tree: &Tree, text: &str) -> Vec<bool> {
    let mut broken = vec![false; plan.groups.len()];
    let mut joined = vec![false; plan.groups.len()];
    for (index, gap) in plan.gaps.iter().enumerate().take(tree.tokens.len()) {
        if gap.want == Want::Break && has_units(plan, gap.group) {
            let is_broken = tree.broken(index, text);
            broken[gap.group as usize] |= is_broken;
            joined[gap.group as usize] |= !is_broken;
        }
    }
    let in_rows = |group: usize| plan.groups[group].rows == Rows::Kept;
    (0..plan.groups.len()).map(|id| broken[id] && joined[id] && !in_rows(id)).collect()
}
