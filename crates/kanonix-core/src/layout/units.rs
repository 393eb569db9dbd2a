//! Units: the runs of tokens between two places where something starts a line of its own.

use super::plan::{ByGroup, GroupId, Plan, Rows, Want};
use crate::syntax::{Role, Tree};
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
    pub group: Option<GroupId>,
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
    pub ragged: ByGroup<bool>,
    /// The lines of texts that stand behind the line that announces them, each with its unit: touching them
    /// brings nothing into play.
    pub within: Vec<(u32, Range<u32>)>,
    /// Which groups have a line that begins with an element behind the first one.
    pub beneath: ByGroup<bool>,
}

/// Finds the units: a unit starts at every wanted line, and at every line on which an element of a
/// list begins in the text as it stands.
pub(super) fn find(plan: &Plan, tree: &Tree, text: &str, lines: &Lines) -> Units {
    let kept = super::kept::ranges(plan, tree, text);
    let mut kept = joined(kept).into_iter().peekable();
    let (ragged, beneath) = broken_lists(plan, tree);
    let mut units = Units {
        all: Vec::with_capacity(tree.tokens.len() / 5 + 1),
        of_token: Vec::with_capacity(tree.tokens.len()),
        ragged,
        beneath,
        within: Vec::new(),
    };
    let (mut stretches, mut line) = (0, 0);
    let mut unit: Option<Unit> = None;
    let keeps = !tree.kept.is_empty();
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
            Want::Break => has_units(plan, index) && token.broken,
            _ => false,
        };
        let on_new_line = index == 0 || token.broken || tree.tokens[index - 1].multi_line;
        let first_line = match on_new_line {
            true => advance(&mut line, token.start as usize),
            false => line as u32,
        };
        if starts || index == 0 {
            let is_ragged = gap.group.is_some_and(|group| units.ragged[group]);
            let is_row = starts && gap.want == Want::Break && is_ragged;
            stretches += u32::from(!is_row);
            let next = Unit {
                first: index as u32,
                end: index as u32,
                group: if starts { gap.group } else { None },
                level: if starts { gap.level } else { 0 },
                inside: starts && gap.inside,
                first_line,
                last_line: first_line,
                begins_line: index == 0 || token.broken,
                fault: false,
                fixed: false,
                comment: true,
                stretch: stretches,
            };
            units.end(unit.replace(next), index);
        }
        let last_line =
            if token.multi_line { advance(&mut line, token.end as usize - 1) } else { first_line };
        if token.role == Role::Heredoc {
            units.within.push((units.all.len() as u32, first_line + 1..last_line + 1));
        }
        let Some(unit) = &mut unit else { continue };
        unit.last_line = last_line;
        while kept.peek().is_some_and(|range| range.end <= index) {
            kept.next();
        }
        unit.fault |= token.fault || (keeps && tree.keeps(index));
        unit.fixed |= token.fault || kept.peek().is_some_and(|range| range.start <= index);
        unit.comment &= token.role == Role::Comment;
    }
    units.end(unit, tree.tokens.len());
    units
}

impl Units {
    /// A unit ends before a token.
    fn end(&mut self, unit: Option<Unit>, end: usize) {
        let Some(unit) = unit else { return };
        self.of_token.resize(end, self.all.len() as u32);
        self.all.push(Unit { end: end as u32, ..unit });
    }

    /// The lines of a unit that are not those of such a text, in runs.
    pub fn own_lines(&self, unit: usize) -> impl Iterator<Item = Range<usize>> + '_ {
        let lines = self.all[unit].first_line as usize..self.all[unit].last_line as usize + 1;
        let from = self.within.partition_point(|(of, _)| (*of as usize) < unit);
        let within = self.within[from..].iter().take_while(move |(of, _)| *of as usize == unit);
        let mut start = lines.start;
        let ends = within.map(|(_, lines)| lines.start as usize..lines.end as usize);
        ends.chain([lines.end..lines.end]).map(move |inside| {
            let own = start..inside.start.max(start);
            start = inside.end.max(start);
            own
        })
    }
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

/// Whether each line of a gap's group is a unit.
fn has_units(plan: &Plan, gap: usize) -> bool {
    plan.group_of(gap).is_some_and(|group| group.shape.has_units())
}

/// Which groups are lists that are broken at some of their gaps and not at others, and not in rows
/// that are to be kept; and which groups are broken before an element that is not the first one.
fn broken_lists(plan: &Plan, tree: &Tree) -> (ByGroup<bool>, ByGroup<bool>) {
    // Of each group: whether one of its gaps is broken, and whether one is not.
    let mut seen = plan.groups.all((false, false));
    let mut beneath = plan.groups.all(false);
    for (index, (gap, token)) in plan.gaps.iter().zip(&tree.tokens).enumerate() {
        let Some(id) = gap.group.filter(|_| gap.want == Want::Break) else { continue };
        let group = &plan.groups[id];
        if token.broken && gap.inside && group.opening != Some(index as u32) {
            beneath[id] = true;
        }
        if group.shape.has_units() {
            match token.broken {
                true => seen[id].0 = true,
                false => seen[id].1 = true,
            }
        }
    }
    let mut ragged = plan.groups.all(false);
    for id in plan.groups.ids() {
        ragged[id] = seen[id] == (true, true) && plan.groups[id].rows != Rows::Kept;
    }
    (ragged, beneath)
}
