//! What is put in parentheses where it does not fit its line: what has no brackets worth opening.

use super::kinds::Kind;
use crate::layout::planner::Planner;
use crate::syntax::NodeId;

/// A chain of more calls than these is broken at its points.
const FEW_CALLS: usize = 2;

/// Declares parentheses around a value, a condition or what is given back.
pub(super) fn declare(p: &mut Planner, node: NodeId) {
    if stands_alone(p, node)
        && let Some(rigid) = rigidity(p, node)
    {
        p.parenthesize(node, Kind::ParenthesizedExpression, rigid);
    }
}

/// Whether all that a statement gives, asks or goes through is this.
fn stands_alone(p: &Planner, node: NodeId) -> bool {
    let parent = p.parent(node);
    match Kind::at(p, parent) {
        Kind::Assignment | Kind::AugmentedAssignment | Kind::ReturnStatement => {
            p.parts(parent).last() == Some(&node)
        }
        Kind::IfStatement
        | Kind::ElifClause
        | Kind::WhileStatement
        | Kind::AssertStatement => true,
        Kind::ForStatement => {
            p.first(node).checked_sub(1).is_some_and(|before| p.token_text(before) == "in")
        }
        _ => false,
    }
}

/// Whether parentheses help, and if they do, whether that is only where all of it fits a line in them.
fn rigidity(p: &Planner, node: NodeId) -> Option<bool> {
    match Kind::at(p, node) {
        Kind::BooleanOperator | Kind::BinaryOperator | Kind::ComparisonOperator => {
            (!is_one_operation(p, node) || !p.ends_with_brackets(node)).then_some(false)
        }
        Kind::ConditionalExpression | Kind::ConcatenatedString => Some(false),
        Kind::Call | Kind::Attribute | Kind::Subscript => {
            let (calls, worth) = calls(p, node);
            let rigid = calls <= FEW_CALLS;
            match worth {
                0 => Some(rigid),
                1 if p.ends_with_brackets(node) => None,
                _ => (calls > 1).then_some(rigid),
            }
        }
        _ => None,
    }
}

/// Whether neither operand of an operation is one itself.
fn is_one_operation(p: &Planner, node: NodeId) -> bool {
    let parts = p.parts(node);
    let is_operation = |part: &NodeId| {
        matches!(
            Kind::at(p, *part),
            Kind::BooleanOperator | Kind::BinaryOperator | Kind::ComparisonOperator
        )
    };
    parts.len() == 3 && !parts.iter().any(is_operation)
}

/// How many calls a chain has, and how many of its brackets are worth opening.
fn calls(p: &Planner, mut node: NodeId) -> (usize, usize) {
    let (mut calls, mut worth) = (0, 0);
    loop {
        match Kind::at(p, node) {
            Kind::Call => calls += 1,
            Kind::Attribute | Kind::Subscript => {}
            _ => return (calls, worth),
        }
        worth += usize::from(p.ends_with_brackets(node));
        let Some(before) = p.part(node, 0) else { return (calls, worth) };
        node = before;
    }
}
