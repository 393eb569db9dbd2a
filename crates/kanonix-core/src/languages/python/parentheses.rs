//! Parentheses around what does not fit its line, and has no brackets worth opening there.

use super::kinds::Kind;
use crate::layout::planner::Planner;
use crate::syntax::NodeId;

/// So many tokens are hardly worth a line of their own.
const TRIVIAL: u32 = 5;

/// A chain of more calls than these is broken at its points.
const FEW_CALLS: usize = 2;

/// Declares parentheses around a value, a condition or what is given back, if `wrap_parens` asks for
/// them, for where it does not fit. What somebody has opened stays as it was opened.
pub(super) fn declare(p: &mut Planner, node: NodeId) {
    let first = p.first(node);
    let asks = p.choices.add_parens && first > 0 && stands_alone(p, node);
    if asks
        && !p.broken_between(first - 1, p.end(node) - 1)
        && let Some(rigid) = rigidity(p, node)
    {
        p.parenthesize(node, Kind::ParenthesizedExpression, rigid);
    }
}

/// Whether all that a statement gives, asks or goes through is this.
fn stands_alone(p: &Planner, node: NodeId) -> bool {
    let parent = p.parent(node);
    let is_last = p.parts(parent).last() == Some(&node);
    match Kind::at(p, parent) {
        Kind::Assignment | Kind::AugmentedAssignment | Kind::ReturnStatement => is_last,
        Kind::IfStatement
        | Kind::ElifClause
        | Kind::WhileStatement
        | Kind::AssertStatement => true,
        Kind::ForStatement => p.token_text(p.first(node) - 1) == "in",
        _ => false,
    }
}

/// Whether parentheses help, and if they do, whether that is only where all of it fits a line in them.
fn rigidity(p: &Planner, node: NodeId) -> Option<bool> {
    match Kind::at(p, node) {
        Kind::BooleanOperator | Kind::BinaryOperator | Kind::ComparisonOperator => {
            let is_one = operations(p, node) == 1;
            let last = p.parts(node).last().copied()?;
            (!is_one || !ends_with_brackets(p, last)).then_some(false)
        }
        Kind::ConditionalExpression | Kind::ConcatenatedString => Some(false),
        Kind::Call | Kind::Attribute | Kind::Subscript => {
            let (calls, worth) = calls(p, node);
            let rigid = calls <= FEW_CALLS;
            match worth {
                0 => Some(rigid),
                1 if ends_with_brackets(p, node) => None,
                _ => (calls > 1).then_some(rigid),
            }
        }
        _ => None,
    }
}

fn is_operation(p: &Planner, node: NodeId) -> bool {
    matches!(
        Kind::at(p, node),
        Kind::BooleanOperator | Kind::BinaryOperator | Kind::ComparisonOperator
    )
}

/// How many operations there are in one, itself included, as far as that matters: one, or more.
fn operations(p: &Planner, node: NodeId) -> usize {
    let parts = p.parts(node);
    let inner = parts.iter().filter(|part| is_operation(p, **part)).count();
    1 + inner + parts.len().saturating_sub(3)
}

/// How many calls a chain has, and how many of its brackets are worth opening.
fn calls(p: &Planner, mut node: NodeId) -> (usize, usize) {
    let (mut calls, mut worth) = (0, 0);
    loop {
        let parts = p.parts(node);
        match Kind::at(p, node) {
            Kind::Call => calls += 1,
            Kind::Attribute | Kind::Subscript => {}
            _ => return (calls, worth),
        }
        worth += usize::from(ends_with_brackets(p, node));
        let Some(before) = parts.first() else { return (calls, worth) };
        node = *before;
    }
}

/// Whether brackets with more than a name or a number in them end something.
fn ends_with_brackets(p: &Planner, node: NodeId) -> bool {
    let parts = p.parts(node);
    let inside = match Kind::at(p, node) {
        Kind::Call => parts.last().map(|arguments| p.parts(*arguments)).unwrap_or_default(),
        Kind::Attribute => return false,
        Kind::Subscript => parts.get(1..).unwrap_or_default().to_vec(),
        kind if is_operation(p, node) || kind == Kind::NotOperator => {
            return parts.last().is_some_and(|last| ends_with_brackets(p, *last));
        }
        _ => parts,
    };
    let closes = inside.last().is_some_and(|last| {
        matches!(p.token_text(p.end(*last) - 1), ")" | "]" | "}")
            && p.end(*last) == p.first(*last) + 1
    });
    let tokens = inside.iter().map(|part| p.end(*part) - p.first(*part)).sum::<u32>();
    closes && tokens > TRIVIAL
}
