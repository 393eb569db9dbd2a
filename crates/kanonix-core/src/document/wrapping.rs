//! Statements that are wrapped in brackets before they are laid out.
//!
//! What is wanted is found in the text with the brackets in it, and said of the text as it stands:
//! the edits of both steps are put together, so that one proof holds for all of them.

use super::Document;
use crate::layout::compare::{Comparison, Declared, Slip, Wraps};
use crate::style::Style;
use crate::syntax::{TokenId, Tree, Window};
use crate::text::{LineSet, compose, place_before};
use std::ops::Range;

/// How a text was looked at.
pub(super) struct Looked<'a> {
    pub tree: &'a Tree,
    pub window: Option<&'a Window>,
    pub kept: &'a [Range<usize>],
}

impl Document<'_> {
    /// What is wanted once the statements are wrapped that a comparison wraps. No line is added, so
    /// the same lines are in play. Where the text would be read otherwise, nothing is wrapped.
    pub(super) fn with_wraps(
        &self,
        style: &Style,
        set: &LineSet,
        looked: &Looked,
        comparison: Comparison,
        rounds: usize,
    ) -> Comparison {
        if comparison.wraps.edits.is_empty() || rounds == 0 {
            return comparison;
        }
        if let Some(in_part) = self.with_wraps_in_part(style, set, looked, &comparison, rounds) {
            return in_part;
        }
        let wraps = &comparison.wraps;
        match self.laid_out_with(style, set, looked, wraps, rounds) {
            Some(inner) => self.put_together(looked.tree, wraps, inner).unwrap_or(comparison),
            None => comparison,
        }
    }

    /// What is wanted in the text with the brackets, said of that.
    pub(super) fn laid_out_with(
        &self,
        style: &Style,
        set: &LineSet,
        looked: &Looked,
        wraps: &Wraps,
        rounds: usize,
    ) -> Option<Comparison> {
        let Looked { tree, window, kept } = looked;
        let after = self.after_in_steps(&wraps.edits);
        let window = window.filter(|_| tree.is_folded()).map(|window| window.after(&wraps.edits));
        let grammar = &self.language.grammar;
        let mut new = Tree::copy(grammar, after.parsed.as_ref()?, &after.text, window.as_ref());
        let moved = |offset: usize| {
            let before = wraps.edits.iter().take_while(|edit| edit.range.end <= offset);
            offset.saturating_add(before.map(|edit| edit.text.len()).sum())
        };
        let kept: Vec<Range<usize>> =
            kept.iter().map(|range| moved(range.start)..moved(range.end)).collect();
        kept.iter().for_each(|range| new.keep(range.clone()));
        let is_same = new.faults.len() == tree.faults.len()
            && new.tokens.len() == tree.tokens.len() + wraps.behind.len();
        if !is_same {
            return None;
        }
        let inner = after.sheet(&new, style).judge(set);
        let looked = Looked { tree: &new, window: window.as_ref(), kept: &kept };
        Some(after.with_wraps(style, set, &looked, inner, rounds - 1))
    }

    /// The wraps and what is wanted behind them, said of the text as it stands.
    pub(super) fn put_together(
        &self,
        tree: &Tree,
        wraps: &Wraps,
        inner: Comparison,
    ) -> Option<Comparison> {
        // Of each token of the wrapped text: which one it was.
        let mut was: Vec<Option<TokenId>> = Vec::new();
        let mut added = wraps.behind.iter().peekable();
        for token in 0..tree.tokens.len() as TokenId {
            was.push(Some(token));
            while added.next_if(|behind| **behind == token).is_some() {
                was.push(None);
            }
        }
        let old = |token: TokenId| was.get(token as usize).copied().flatten();
        let of_inner = inner.declared.into_iter().map(|declared| declared.carried(old));
        let mut declared = of_inner.collect::<Option<Vec<Declared>>>()?;
        declared.extend(wraps.declared.iter().cloned());
        declared.sort_by_key(|declared| declared.token);
        let length = self.text.len();
        let of_inner = inner.slips.into_iter().filter_map(|slip| {
            let (offset, is_new) = place_before(length, &wraps.edits, slip.offset);
            (!is_new).then_some(Slip { offset, ..slip })
        });
        let mut slips: Vec<Slip> = wraps.slips.iter().cloned().chain(of_inner).collect();
        slips.sort_by_key(|slip| slip.offset);
        let edits = compose(length, &wraps.edits, &inner.edits);
        Some(Comparison { edits, slips, declared, ..Comparison::default() })
    }
}
