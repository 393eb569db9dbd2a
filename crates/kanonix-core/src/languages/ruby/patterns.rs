//! The patterns of `case … in`, in the grammar's order.

use super::expressions::{named, values};
use super::kinds::Kind;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::List;
use crate::syntax::NodeId;

/// The rule for a pattern; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::ArrayPattern | Kind::FindPattern | Kind::HashPattern => bracketed(p, parts),
        Kind::KeywordPattern => named(p, parts),
        Kind::AlternativePattern => p.words(parts),
        Kind::ParenthesizedPattern => p.flat_list(parts),
        Kind::ExpressionReferencePattern => p.tight(parts),
        _ => return false,
    }
    true
}

/// `[low, *]`, `{ level: Integer }`, `Gauge(name:)`, or the same without brackets.
fn bracketed(p: &mut Planner, parts: &[NodeId]) {
    let opens = |part: &NodeId| matches!(p.token_text(p.first(*part)), "[" | "(" | "{");
    match parts.iter().take(2).position(opens) {
        Some(at) if p.end(parts[at]) == p.first(parts[at]) + 1 => {
            if at == 1 {
                p.word(p.first(parts[1]), 0);
            }
            p.list(&parts[at..], List::new().collection());
        }
        _ => values(p, parts),
    }
}
