//! What the parser found in a text, kept from one version of the text to the next.

use super::grammar::Grammar;
use super::logical::LogicalLines;
use crate::text::Edit;
use std::ops::Range;
use std::sync::Arc;
use tree_sitter::{InputEdit, Point};

/// A text's own tree as the parser has it.
#[derive(Clone)]
pub struct Parsed {
    pub(super) tree: tree_sitter::Tree,
    /// What the second reader finds, where lines are syntax.
    pub(super) lines: Option<Arc<LogicalLines>>,
    /// Whether the parser was shown another text, in which something is hidden from it.
    pub(super) masked: bool,
    /// Directives that the parser was not shown, and what is hidden with them.
    pub(super) directives: Arc<[Range<usize>]>,
}

impl Parsed {
    /// Parses a text. Gives `None` if the parser gives up.
    pub fn new(grammar: &Grammar, text: &str) -> Option<Parsed> {
        if let Some((tree, hidden)) = grammar.directives().and_then(|own| own.parse(grammar, text))
        {
            return Some(Parsed {
                tree: tree?,
                lines: None,
                masked: grammar.masked(text).is_some(),
                directives: hidden.into(),
            });
        }
        let directives = Arc::new([]);
        let Some(lines) = grammar.logical_lines(text) else {
            let masked = grammar.masked(text);
            let tree = grammar.parse(masked.as_deref().unwrap_or(text), None)?;
            return Some(Parsed { tree, lines: None, masked: masked.is_some(), directives });
        };
        let tree = grammar.parse(&lines.for_parser(text), None)?;
        Some(Parsed { tree, lines: Some(Arc::new(lines)), masked: false, directives })
    }

    /// Parses one line as it stands in a block, of a grammar for which lines are syntax.
    pub fn of_a_line(grammar: &Grammar, text: &str) -> Option<Parsed> {
        let tree = grammar.parse(text, None)?;
        Some(Parsed { tree, lines: None, masked: false, directives: Arc::new([]) })
    }

    /// Tells the tree of one edit of the text `before` that it is of.
    pub fn edit(&mut self, before: &str, edit: &Edit) {
        self.edit_at(point(before, edit.range.start), before, edit);
    }

    /// The same of ordered edits that do not overlap.
    pub fn edit_all(&mut self, before: &str, edits: &[Edit]) {
        let mut at = (0, Point { row: 0, column: 0 });
        let mut starts = Vec::with_capacity(edits.len());
        for edit in edits {
            at = (edit.range.start, behind(at.1, &before[at.0..edit.range.start]));
            starts.push(at.1);
        }
        // From the last one to the first, no edit moves another one.
        for (edit, start) in edits.iter().zip(starts).rev() {
            self.edit_at(start, before, edit);
        }
    }

    fn edit_at(&mut self, start: Point, before: &str, edit: &Edit) {
        self.tree.edit(&InputEdit {
            start_byte: edit.range.start,
            old_end_byte: edit.range.end,
            new_end_byte: edit.range.start + edit.text.len(),
            start_position: start,
            old_end_position: behind(start, &before[edit.range.clone()]),
            new_end_position: behind(start, &edit.text),
        });
    }

    /// Parses the text that is there after all edits that it was told of: what none of them touches
    /// is taken over.
    pub fn again(&self, grammar: &Grammar, after: &str) -> Option<Parsed> {
        // How a stretch that does not parse is read depends on what was read before it, and what is
        // hidden from the parser, on all of the text.
        let hides = || {
            let directives = grammar.directives();
            self.masked
                || grammar.masked(after).is_some()
                || !self.directives.is_empty()
                || directives.is_some_and(|own| own.may_be_in(after))
        };
        if self.has_faults() || self.misleads() || hides() {
            return Parsed::new(grammar, after);
        }
        let lines = self.lines.as_ref().and_then(|_| grammar.logical_lines(after)).map(Arc::new);
        let has_mark = lines.is_some() && after.starts_with('\u{feff}');
        if has_mark || lines.as_ref().is_some_and(|lines| lines.misleads()) {
            return Parsed::new(grammar, after);
        }
        let tree = grammar.parse(after, Some(&self.tree))?;
        let parsed = Parsed { tree, lines, masked: false, directives: Arc::new([]) };
        if parsed.has_faults() { Parsed::new(grammar, after) } else { Some(parsed) }
    }

    /// Whether a stretch does not parse.
    pub fn has_faults(&self) -> bool {
        let unread = self.lines.as_ref().is_some_and(|lines| !lines.unread.is_empty());
        unread || self.tree.root_node().has_error()
    }

    /// The bytes from where the logical line begins that an offset is on, to where the next one does; none
    /// where lines are no syntax.
    pub fn logical_line(&self, offset: usize) -> Option<Range<usize>> {
        let lines = &self.lines.as_ref()?.lines;
        let next = lines.partition_point(|line| line.start <= offset);
        let start = lines.get(next.checked_sub(1)?)?.start;
        Some(start..lines.get(next).map_or(usize::MAX, |line| line.start))
    }

    /// Whether the parser was given another text, as this one could mislead it.
    fn misleads(&self) -> bool {
        self.lines.as_ref().is_some_and(|lines| lines.misleads())
    }
}

fn point(text: &str, offset: usize) -> Point {
    behind(Point { row: 0, column: 0 }, &text[..offset])
}

/// Where a text ends that begins at a point; columns in bytes.
fn behind(start: Point, text: &str) -> Point {
    match memchr::memrchr(b'\n', text.as_bytes()) {
        Some(last) => Point {
            row: start.row + memchr::memchr_iter(b'\n', text.as_bytes()).count(),
            column: text.len() - last - 1,
        },
        None => Point { row: start.row, column: start.column + text.len() },
    }
}
