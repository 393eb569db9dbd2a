//! What is put in parentheses where it does not fit its line: operations, and what is asked with two
//! answers.

use super::kinds::Kind;
use crate::layout::planner::Planner;
use crate::syntax::NodeId;

/// Declares parentheses around a value, a condition or what is given back.
pub(super) fn declare(p: &mut Planner, node: NodeId) {
    if stands_alone(p, node) && helps(p, node) {
        p.parenthesize(node, Kind::ParenthesizedExpression, false);
    }
}

/// Whether all that a statement gives or asks is this.
fn stands_alone(p: &Planner, node: NodeId) -> bool {
    let parent = p.parent(node);
    match Kind::at(p, parent) {
        Kind::Assignment
        | Kind::AugmentedAssignment
        | Kind::VariableStatement
        | Kind::ConstStatement
        | Kind::ReturnStatement => p.parts(parent).last() == Some(&node),
        Kind::IfStatement | Kind::ElifClause | Kind::WhileStatement => true,
        _ => false,
    }
}

/// Whether parentheses help. One operation that ends with brackets opens those.
fn helps(p: &Planner, node: NodeId) -> bool {
    let is_operation = |part: &NodeId| p.is(*part, Kind::BinaryOperator);
    match Kind::at(p, node) {
        Kind::BinaryOperator => {
            p.parts(node).iter().any(is_operation) || !p.ends_with_brackets(node)
        }
        kind => kind == Kind::ConditionalExpression,
    }
}
