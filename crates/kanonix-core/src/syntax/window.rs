//! The part of a text that is looked at closely, where only a few of its lines are in play.

use super::grammar::{Grammar, Role};
use super::kinds::Said;
use crate::text::{Edit, LineSet, Lines};
use std::ops::Range;
use tree_sitter::Node as Found;

/// So many constructs beside one that is looked at are looked at too, and so many at both ends of
/// a body: what is wanted between two constructs depends on both, and on what they end with, and
/// what lines up on the lines beside them.
const BESIDE: usize = 6;

/// Ascending ranges of bytes that are looked at closely, each apart from the next.
#[derive(Clone, Debug)]
pub struct Window {
    ranges: Vec<Range<usize>>,
}

impl Window {
    /// The touched lines of a set, and those beside its seams; `None` if all of them are.
    pub fn of(set: &LineSet, lines: &Lines, text: &str) -> Option<Window> {
        if set.is_whole() || set.has_moved() {
            return None;
        }
        let bytes = |first: usize, end: usize| {
            let end = if end < lines.count() { lines.start(end) } else { text.len() };
            lines.start(first.min(lines.count() - 1))..end
        };
        let touched = set.ranges().map(|range| bytes(range.start.saturating_sub(1), range.end + 1));
        let seams = set.seams().map(|seam| bytes(seam.saturating_sub(1), seam + 1));
        let mut all: Vec<Range<usize>> = touched.chain(seams).collect();
        all.sort_by_key(|range| range.start);
        let mut ranges: Vec<Range<usize>> = Vec::new();
        for range in all {
            match ranges.last_mut() {
                Some(last) if last.end >= range.start => last.end = last.end.max(range.end),
                _ => ranges.push(range),
            }
        }
        Some(Window { ranges })
    }

    /// The same stretches after these ordered edits of the text.
    pub fn after(&self, edits: &[Edit]) -> Window {
        let moved = |offset: usize, with: bool| {
            let done = |edit: &&Edit| match with {
                true => edit.range.start <= offset,
                false => edit.range.end < offset,
            };
            let done = edits.iter().take_while(done);
            done.fold(offset, |at, edit| (at + edit.text.len()).saturating_sub(edit.range.len()))
        };
        let ranges = self.ranges.iter();
        Window {
            ranges: ranges.map(|r| moved(r.start, false)..moved(r.end, true)).collect(),
        }
    }

    fn touches(&self, range: &Range<usize>) -> bool {
        let next = self.ranges.partition_point(|own| own.end < range.start);
        self.ranges.get(next).is_some_and(|own| own.start <= range.end)
    }

    /// Which children of a body that has some are folded. A list that is broken at some of its gaps and not
    /// at others is laid out as one.
    pub(super) fn folded(
        &self,
        body: Found,
        grammar: &Grammar,
        text: &str,
        is_list: bool,
    ) -> Vec<bool> {
        let bytes = text.as_bytes();
        let mut cursor = body.walk();
        cursor.goto_first_child();
        // Of each child: whether it may be folded; none for what stands between the others.
        let mut may: Vec<Option<bool>> = Vec::new();
        // Of each child: whether it is in the window, comments and marks too.
        let mut near: Vec<bool> = Vec::new();
        let mut last_end: Option<usize> = None;
        // Whether each element begins a line, and what ends them.
        let mut begin_lines = true;
        loop {
            let node = cursor.node();
            let range = node.byte_range();
            let entry = grammar.loaded().table.get(node.kind_id() as usize);
            let role = entry.map(|(_, role)| *role);
            let is_solid = role.is_some_and(Role::is_copied) && node.child_count() > 0;
            let begins = |end| memchr::memchr(b'\n', &bytes[end..range.start.max(end)]).is_some();
            let begins_line = last_end.is_some_and(begins);
            // A separator stands on the line of what it ends.
            let separates =
                entry.is_some_and(|(kind, _)| grammar.kinds().said(*kind) == Said::Separator);
            let last = may.iter_mut().rev().flatten().next();
            if let Some(may) = last.filter(|_| !separates) {
                *may &= begins_line;
            }
            let touches = self.touches(&range);
            near.push(touches);
            may.push(is_solid.then(|| begins_line && !touches && !node.has_error()));
            let is_last = !cursor.goto_next_sibling();
            begin_lines &= begins_line || !(is_solid || is_last);
            last_end = Some(trimmed_end(bytes, &range));
            if is_last {
                break;
            }
        }
        if is_list && !begin_lines {
            return vec![false; may.len()];
        }
        let solid: Vec<usize> = (0..may.len()).filter(|index| may[*index].is_some()).collect();
        let is_near = |place: usize| {
            let first = solid[place.saturating_sub(BESIDE)];
            let last = solid.get(place + BESIDE).copied().unwrap_or(may.len() - 1);
            place < BESIDE
                || place + BESIDE >= solid.len()
                || near[first..=last].contains(&true)
                || solid[place - BESIDE..=place + BESIDE].iter().any(|at| may[*at] == Some(false))
        };
        let mut folded = vec![false; may.len()];
        for (place, index) in solid.iter().enumerate() {
            folded[*index] = !is_near(place);
        }
        folded
    }
}

/// Where a node ends but for the blanks that some grammars take along.
fn trimmed_end(bytes: &[u8], range: &Range<usize>) -> usize {
    let solid = bytes[range.clone()].trim_ascii_end();
    range.start + solid.len()
}
