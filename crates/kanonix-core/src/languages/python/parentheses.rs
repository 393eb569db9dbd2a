//! What is put in parentheses where it does not fit its line: what has no brackets worth opening.

use super::kinds::Kind;
use crate::layout::planner::Planner;
use crate::syntax::NodeId;

/// A chain of more calls than these is broken at its points.
const FEW_CALLS: usize = 2;

/// Declares parentheses around a value, a condition or what is given back.
pub(super) fn declare(p: &mut Planner, node: NodeId) {
    if !stands_alone(p, node) {
        return;
    }
    if let Some(rigid) = rigidity(p, node) {
        p.parenthesize(node, Kind::ParenthesizedExpression, rigid);
    } else if is_bare_tuple(p, node) {
        p.enlist(node, Kind::Tuple);
    }
}

/// Declares parentheses around all names that are imported by one line, unless that imports all there are.
pub(super) fn import(p: &mut Planner, parts: &[NodeId]) {
    let Some(word) = parts.iter().rposition(|part| p.token_text(p.first(*part)) == "import") else {
        return;
    };
    let names = &parts[word + 1..];
    if names.first().is_some_and(|name| p.token_text(p.first(*name)) != "*") {
        p.parenthesize_parts(names);
    }
}

/// Whether a node is several values with commas between them, each an element of a tuple.
fn is_bare_tuple(p: &Planner, node: NodeId) -> bool {
    let parts = p.parts(node);
    let is_starred = |part: &NodeId| p.token_text(p.first(*part)) == "*";
    p.is(node, Kind::ExpressionList) && parts.len() > 2 && !parts.iter().any(is_starred)
}

/// Whether all that a statement gives, asks or goes through is this.
fn stands_alone(p: &Planner, node: NodeId) -> bool {
    let parent = p.parent(node);
    match Kind::at(p, parent) {
        Kind::Assignment | Kind::AugmentedAssignment | Kind::ReturnStatement => {
            is_last(p, parent, node)
        }
        Kind::Yield => !super::expressions::in_brackets(p, node) && is_last(p, parent, node),
        Kind::RaiseStatement => p.part(parent, 1) == Some(node) && is_last(p, parent, node),
        Kind::IfStatement | Kind::ElifClause | Kind::WhileStatement => true,
        Kind::AssertStatement => (p.part(parent, 1) == Some(node)) != says_below(p, parent),
        Kind::Lambda => !super::expressions::in_brackets(p, node) && gives_last(p, parent, node),
        Kind::ForStatement => {
            p.first(node).checked_sub(1).is_some_and(|before| p.token_text(before) == "in")
        }
        _ => false,
    }
}

fn is_last(p: &Planner, parent: NodeId, node: NodeId) -> bool {
    p.parts(parent).last() == Some(&node)
}

/// Whether a statement ends with a function that gives this.
fn gives_last(p: &Planner, lambda: NodeId, node: NodeId) -> bool {
    let holder = p.parent(lambda);
    is_last(p, lambda, node)
        && is_last(p, holder, lambda)
        && matches!(Kind::at(p, holder), Kind::Assignment | Kind::ReturnStatement)
}

/// Whether what an assertion says goes to the next line rather than what it asks, which fits its own.
fn says_below(p: &Planner, assertion: NodeId) -> bool {
    let [word, _, comma, _] = p.parts(assertion)[..] else { return false };
    p.fits_as_it_stands(p.first(word), p.end(comma), " (".len())
}

/// Whether parentheses help, and if they do, whether that is only where all of it fits a line in them.
fn rigidity(p: &Planner, node: NodeId) -> Option<bool> {
    match Kind::at(p, node) {
        Kind::BooleanOperator | Kind::BinaryOperator | Kind::ComparisonOperator => {
            let has_texts = p.part(node, 0).is_some_and(|left| p.is(
                left,
                Kind::ConcatenatedString,
            ));
            let opens = !has_texts && is_one_operation(p, node) && p.ends_with_brackets(node);
            (!opens).then_some(false)
        }
        Kind::ConditionalExpression | Kind::ConcatenatedString => Some(false),
        Kind::String => p.is(p.parent(node), Kind::AssertStatement).then_some(true),
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
