//! Statements that are wrapped where lines are syntax: brackets around something change no other line, so
//! nothing but the wrapped lines is laid out again.

use super::Document;
use super::wrapping::Looked;
use crate::layout::compare::{Comparison, Declared, Slip, Wraps};
use crate::style::{Setting, Style};
use crate::syntax::{Parsed, Role, TokenId, Tree, Window};
use crate::text::{Edit, LineSet, compose};
use std::ops::Range;

impl Document<'_> {
    /// As [`Document::with_wraps`], with a look at the wrapped lines alone. `None` where those around them
    /// may have a say, or where that is no less to look at.
    pub(super) fn with_wraps_in_part(
        &self,
        style: &Style,
        set: &LineSet,
        looked: &Looked,
        comparison: &Comparison,
        rounds: usize,
    ) -> Option<Comparison> {
        let Looked { tree, kept, .. } = looked;
        let is_plain = tree.faults.is_empty() && tree.kept.is_empty() && !tree.in_words;
        if self.looks_all_around || !set.is_whole() || !kept.is_empty() || !is_plain {
            return None;
        }
        let parsed = self.parsed.as_ref()?;
        let stretches = self.wrapped_lines(parsed, tree, comparison)?;
        let window = Window::of_stretches(stretches.clone());
        let part = Tree::copy(&self.language.grammar, parsed, &self.text, Some(&window));
        if !part.is_folded() {
            return None;
        }
        let wraps = carried_wraps(&comparison.wraps, tree, &part)?;
        let near = Looked { tree: &part, window: Some(&window), kept: &[] };
        let inner = self.laid_out_with(style, set, &near, &wraps, rounds)?;
        let mut inner = self.put_together(&part, &wraps, inner)?;
        inner.declared = carried(&inner.declared, &part, tree)?;
        Some(self.merged(tree, &stretches, comparison, inner))
    }

    /// The logical lines that something is wrapped on, each up to what follows it. `None` where what
    /// stands in one may be lined up with its neighbours, or may line them up.
    fn wrapped_lines(
        &self,
        parsed: &Parsed,
        tree: &Tree,
        comparison: &Comparison,
    ) -> Option<Vec<Range<usize>>> {
        let mut stretches: Vec<Range<usize>> = Vec::new();
        for declared in &comparison.wraps.declared {
            let start = tree.tokens[declared.token as usize].start as usize;
            if stretches.last().is_some_and(|last| start < last.end) {
                continue;
            }
            let line = parsed.logical_line(start)?;
            let behind = tree.tokens.partition_point(|token| (token.start as usize) < line.end);
            // A comment behind the line belongs to what is around it.
            let last = &tree.tokens[behind.checked_sub(1)?];
            let text = &self.text[line.start..last.end as usize];
            let has_columns = text.lines().any(|line| line.trim().contains("  "));
            if last.role == Role::Comment || has_columns {
                return None;
            }
            let next = tree.tokens.get(behind);
            let end = next.map_or(self.text.len(), |next| next.start as usize);
            stretches.push(line.start..end);
        }
        let is_column = |slip: &Slip| {
            let inside = |own: &Range<usize>| own.contains(&slip.offset);
            slip.setting == Setting::Columns && stretches.iter().any(inside)
        };
        (!comparison.slips.iter().any(is_column)).then_some(stretches)
    }

    /// What is said of a text, but inside the stretches what is said of those.
    fn merged(
        &self,
        tree: &Tree,
        stretches: &[Range<usize>],
        all: &Comparison,
        inner: Comparison,
    ) -> Comparison {
        let is_inside = |start: usize, end: usize| {
            let next = stretches.partition_point(|own| own.end < end);
            stretches.get(next).is_some_and(|own| own.start <= start)
        };
        let mut edits = chosen(&all.edits, inner.edits, |edit: &Edit| {
            is_inside(edit.range.start, edit.range.end)
        });
        let mut slips = chosen(&all.slips, inner.slips, |slip: &Slip| {
            is_inside(slip.offset, slip.offset)
        });
        let mut declared = chosen(&all.declared, inner.declared, |declared: &Declared| {
            let token = &tree.tokens[declared.token as usize];
            is_inside(token.start as usize, token.end as usize)
        });
        slips.sort_by_key(|slip| slip.offset);
        declared.sort_by_key(|declared| declared.token);
        // Those that touch are one.
        edits.sort_by_key(|edit| (edit.range.start, edit.range.end));
        let edits = compose(self.text.len(), &[], &edits);
        Comparison { edits, slips, declared, ..Comparison::default() }
    }
}

/// The same wraps, by the tokens of another tree of the same text.
fn carried_wraps(wraps: &Wraps, from: &Tree, to: &Tree) -> Option<Wraps> {
    let behind = wraps.behind.iter().map(|token| carried_token(*token, from, to));
    Some(Wraps {
        behind: behind.collect::<Option<Vec<_>>>()?,
        declared: carried(&wraps.declared, from, to)?,
        ..wraps.clone()
    })
}

fn carried(declared: &[Declared], from: &Tree, to: &Tree) -> Option<Vec<Declared>> {
    let each = declared.iter().cloned();
    each.map(|own| own.carried(|token| carried_token(token, from, to))).collect()
}

fn carried_token(token: TokenId, from: &Tree, to: &Tree) -> Option<TokenId> {
    let start = from.tokens.get(token as usize)?.start;
    let place = to.tokens.binary_search_by_key(&start, |token| token.start).ok()?;
    Some(place as TokenId)
}

/// Those of all that are not inside, and those of the stretches that are.
fn chosen<T: Clone>(all: &[T], of_stretches: Vec<T>, is_inside: impl Fn(&T) -> bool) -> Vec<T> {
    let outside = all.iter().filter(|own| !is_inside(own)).cloned();
    let inside = of_stretches.into_iter().filter(|own| is_inside(own));
    outside.chain(inside).collect()
}
