//! Lines that change places before a text is laid out, or go.
//!
//! As with wraps, what is wanted is found in the text with the lines where they are to stand, and said
//! of the text as it stands.

use super::wrapping::Looked;
use super::{Document, MOST_ROUNDS};
use crate::layout::compare::{Comparison, Declared, Slip};
use crate::layout::moves::{Moves, Rearranged};
use crate::style::Style;
use crate::syntax::{TokenId, Tree};
use crate::text::{LineSet, compose};

impl Document<'_> {
    /// What is wanted once the lines have changed places that a comparison moves, or have gone. Where
    /// the text would be read otherwise, none does.
    pub(super) fn with_moves(
        &self,
        style: &Style,
        set: &LineSet,
        looked: &Looked,
        mut comparison: Comparison,
        rounds: usize,
    ) -> Comparison {
        let moves = std::mem::take(&mut comparison.moves);
        // What is kept as something went wrong keeps its place, too.
        let may_move = looked.kept.is_empty() && rounds > 0 && !moves.edits.is_empty();
        if may_move
            && let Some(moved) = self.moved(style, set, looked.tree, &moves, rounds)
        {
            return moved;
        }
        self.with_wraps(style, set, looked, comparison, MOST_ROUNDS)
    }

    fn moved(
        &self,
        style: &Style,
        set: &LineSet,
        tree: &Tree,
        moves: &Moves,
        rounds: usize,
    ) -> Option<Comparison> {
        let after = self.after(&moves.edits);
        let new = Tree::copy(&self.language.grammar, after.parsed.as_ref()?, &after.text, None);
        let dropped = moves.rearranged.iter().map(Rearranged::dropped).sum::<usize>();
        if !new.faults.is_empty() || new.tokens.len() + dropped != tree.tokens.len() {
            return None;
        }
        let set = set.carried_by(&moves.was);
        let looked = Looked { tree: &new, window: None, kept: &[] };
        let inner = after.sheet(&new, style).judge(&set);
        let inner = after.with_moves(style, &set, &looked, inner, rounds - 1);
        // Of each token of the moved text: which one it was.
        let old = |token: TokenId| {
            let start = moves.before(new.tokens.get(token as usize)?.start as usize)? as u32;
            let place = tree.tokens.binary_search_by_key(&start, |token| token.start).ok()?;
            Some(place as TokenId)
        };
        let of_inner = inner.declared.into_iter().map(|declared| declared.carried(old));
        let mut declared = of_inner.collect::<Option<Vec<Declared>>>()?;
        declared.sort_by_key(|declared| declared.token);
        let of_inner = inner.slips.into_iter().filter_map(|slip| {
            Some(Slip { offset: moves.before(slip.offset)?, ..slip })
        });
        let mut slips: Vec<Slip> = moves.slips.iter().cloned().chain(of_inner).collect();
        slips.sort_by_key(|slip| slip.offset);
        let edits = compose(self.text.len(), &moves.edits, &inner.edits);
        let rearranged = moves.rearranged.iter().cloned().chain(inner.rearranged).collect();
        Some(Comparison { edits, slips, declared, rearranged, ..Comparison::default() })
    }
}
