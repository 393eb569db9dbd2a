//! Statements that are wrapped where lines are syntax: brackets around something change no other line, so
//! nothing but the wrapped statements is laid out again, each as a text of its own.

use super::Document;
use super::wrapping::Looked;
use crate::layout::compare::{Comparison, Declared, Slip};
use crate::style::{Key, Setting, Style, Value};
use crate::syntax::{Parsed, Role, Token, TokenId, Tree};
use crate::text::{Edit, LineSet, Lines, compose};
use std::ops::Range;

/// A statement on a line of its own.
struct Statement {
    tokens: Range<TokenId>,
    bytes: Range<usize>,
    /// What its line is indented by.
    indentation: String,
}

impl Document<'_> {
    /// As [`Document::with_wraps`], with a look at the wrapped statements alone. `None` where those around
    /// them may have a say.
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
        let statements = self.wrapped_statements(self.parsed.as_ref()?, tree, comparison)?;
        let inside = style.clone().inside();
        let end = match style.get(Setting::EndOfLine, Key::Whole) {
            Value::Word("lf") => "\n",
            Value::Word("crlf") => "\r\n",
            _ => Lines::new(&self.text).line_end().as_str(),
        };
        let mut inner = Comparison::default();
        for statement in &statements {
            let own = self.laid_out_alone(&inside, tree, statement, end, rounds)?;
            inner.edits.extend(own.edits);
            inner.slips.extend(own.slips);
            inner.declared.extend(own.declared);
        }
        Some(self.merged(&statements, comparison, inner))
    }

    /// The statements in which something is wrapped. `None` where one is more than a line, or moves, or
    /// where what stands in one may be lined up with its neighbours.
    fn wrapped_statements(
        &self,
        parsed: &Parsed,
        tree: &Tree,
        comparison: &Comparison,
    ) -> Option<Vec<Statement>> {
        let mut statements: Vec<Statement> = Vec::new();
        let columns = comparison.slips.iter().filter(|slip| slip.setting == Setting::Columns);
        let mut columns: Vec<usize> = columns.map(|slip| slip.offset).collect();
        columns.sort_unstable();
        for declared in &comparison.wraps.declared {
            if statements.last().is_some_and(|last| declared.token < last.tokens.end) {
                continue;
            }
            let start = tree.tokens[declared.token as usize].start as usize;
            let line = parsed.logical_line(start)?;
            let place = |at: usize| tree.tokens.partition_point(|own| (own.start as usize) < at);
            let (first, mut behind) = (place(line.start), place(line.end));
            // Comments below the line belong to what is around it.
            let is_below = |token: &Token| token.role == Role::Comment && token.broken;
            while behind > first && is_below(&tree.tokens[behind - 1]) {
                behind -= 1;
            }
            let last = &tree.tokens[behind.checked_sub(1)?];
            let bytes = tree.tokens[first].start as usize..last.end as usize;
            let before = &self.text[..bytes.start];
            let indentation = &before[before.rfind('\n').map_or(tree.mark, |end| end + 1)..];
            let edits = &comparison.edits;
            let line_start = bytes.start - indentation.len();
            let next = edits.partition_point(|edit| edit.range.end < line_start);
            let moves = edits.get(next).is_some_and(|edit| edit.range.start <= bytes.start);
            let next = columns.partition_point(|offset| *offset < bytes.start);
            let is_in_columns = columns.get(next).is_some_and(|offset| *offset < bytes.end);
            let sets_off = |at: usize| tree.gap(at, self.text.len()).len() > 1;
            let stands_alone = indentation.trim_matches([' ', '\t']).is_empty()
                && last.role != Role::Comment
                && !self.text[bytes.clone()].contains('\n')
                && !(first + 1..behind).any(sets_off)
                && !moves
                && !is_in_columns;
            if !stands_alone {
                return None;
            }
            let tokens = first as TokenId..behind as TokenId;
            statements.push(Statement { tokens, indentation: indentation.into(), bytes });
        }
        Some(statements)
    }

    /// What is wanted of a statement, said of the text around it, in which lines end so.
    fn laid_out_alone(
        &self,
        style: &Style,
        tree: &Tree,
        statement: &Statement,
        end: &str,
        rounds: usize,
    ) -> Option<Comparison> {
        let Statement { tokens, bytes, indentation } = statement;
        // Where it stands on its line counts.
        let start = bytes.start - indentation.len();
        let text = [&self.text[start..bytes.end], end].concat();
        let alone = Document {
            parsed: Parsed::of_a_line(&self.language.grammar, &text),
            text: text.into(),
            looks_all_around: true,
            depth: indentation.clone(),
            ..*self
        };
        let own = alone.tree(alone.parsed.as_ref()?, style, None);
        let around = tree.tokens[tokens.start as usize..tokens.end as usize].iter();
        let starts = around.map(|token| (token.start as usize - start, token.kind));
        if !own.faults.is_empty()
            || !starts.eq(own.tokens.iter().map(|token| (token.start as usize, token.kind)))
        {
            return None;
        }
        let (set, looked) = (LineSet::whole(), Looked { tree: &own, window: None, kept: &[] });
        let found = alone.sheet(&own, style).judge(&set);
        let found = alone.with_wraps(style, &set, &looked, found, rounds);
        if !found.wraps.edits.is_empty() {
            return None;
        }
        let edits = found.edits.into_iter().map(|Edit { range, text }| {
            let range = range.start + start..range.end + start;
            Edit { range, text }
        });
        let slips = found.slips.into_iter().map(|slip| {
            Slip { offset: slip.offset + start, ..slip }
        });
        let declared = found.declared.into_iter().map(|own| {
            own.carried(|token| Some(token + tokens.start))
        });
        Some(Comparison {
            edits: edits.collect(),
            slips: slips.collect(),
            declared: declared.collect::<Option<Vec<Declared>>>()?,
            ..Comparison::default()
        })
    }

    /// What is said of a text, but inside some statements what is said of those.
    fn merged(
        &self,
        statements: &[Statement],
        all: &Comparison,
        inner: Comparison,
    ) -> Comparison {
        let holds = |start: usize, end: usize| {
            let next = statements.partition_point(|own| own.bytes.end < end);
            statements.get(next).is_some_and(|own| own.bytes.start <= start)
        };
        let ends = |at: usize| {
            statements.binary_search_by_key(&at, |own| own.bytes.end).is_ok()
        };
        let is_outside = |edit: &&Edit| {
            let Range { start, end } = edit.range;
            !holds(start, end) || ends(start)
        };
        let is_apart = |slip: &&Slip| !holds(slip.offset, slip.offset) || ends(slip.offset);
        let is_other = |declared: &&Declared| {
            let next = statements.partition_point(|own| own.tokens.end <= declared.token);
            !statements.get(next).is_some_and(|own| own.tokens.contains(&declared.token))
        };
        let Comparison { mut edits, mut slips, mut declared, .. } = inner;
        edits.extend(all.edits.iter().filter(is_outside).cloned());
        slips.extend(all.slips.iter().filter(is_apart).cloned());
        declared.extend(all.declared.iter().filter(is_other).cloned());
        slips.sort_by_key(|slip| slip.offset);
        declared.sort_by_key(|declared| declared.token);
        // Those that touch are one.
        edits.sort_by_key(|edit| (edit.range.start, edit.range.end));
        let edits = compose(self.text.len(), &[], &edits);
        Comparison { edits, slips, declared, ..Comparison::default() }
    }
}
