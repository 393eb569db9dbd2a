//! Patterns, in the grammar's order.

use super::declarations::stays_empty;
use super::kinds::Kind;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, List, Operators};
use crate::style::Key;
use crate::syntax::NodeId;

/// The rule for a pattern; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::AndPattern | Kind::OrPattern => {
            if let [left, operator, right] = parts {
                p.binary(Binary::of(p, node, [*left, *operator, *right], OPERATORS));
            }
        }
        Kind::ListPattern => {
            let closer = p.position(parts, Kind::CloseBracket).unwrap_or(parts.len() - 1);
            p.list(&parts[..=closer], List::new());
            p.words(&parts[closer..]);
        }
        Kind::RecursivePattern => {
            p.words(parts);
            for pair in parts.windows(2) {
                if p.is(pair[1], Kind::PositionalPatternClause) {
                    p.parens(p.first(pair[1]), p.choices.call_parens);
                }
            }
        }
        // `is { }` is a pattern of its own.
        Kind::PropertyPatternClause if stays_empty(p, parts, p.first(node)) => {}
        Kind::PositionalPatternClause | Kind::PropertyPatternClause => {
            p.list(parts, List::new());
        }
        Kind::Subpattern => p.pair(parts, Key::Value),
        Kind::ParenthesizedPattern
        | Kind::ParenthesizedVariableDesignation
        | Kind::TuplePattern => p.flat_list(parts),
        _ => return false,
    }
    true
}

/// The operators of patterns, weak ones first.
const OPERATORS: Operators = &[(Key::Logic, &["or"]), (Key::Logic, &["and"])];
