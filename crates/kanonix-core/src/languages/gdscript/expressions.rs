//! Expressions, in the grammar's order.

use super::kinds::Kind;
use crate::layout::plan::Shape;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, List, Operators};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The context of a node inside brackets, where a line may be broken.
pub(super) const IN_BRACKETS: u8 = 1;

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["or", "||"]),
    (Key::Logic, &["and", "&&"]),
    (Key::Compare, &["<", "<=", "==", "!=", ">=", ">"]),
    (Key::Shift, &["|"]),
    (Key::Shift, &["&"]),
    (Key::Shift, &["^"]),
    (Key::Shift, &["<<", ">>"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "%"]),
    (Key::Power, &["**"]),
];

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    super::parentheses::declare(p, node);
    match kind {
        Kind::String => string(p, node),
        Kind::StringName | Kind::NodePath | Kind::GetNode => {}
        Kind::Array | Kind::Dictionary | Kind::EnumeratorList => {
            let open = parts.iter().any(|part| p.is(*part, Kind::PatternOpenEnding));
            let list = List::new().collection().last_comma_if(!open);
            bracketed(p, node, parts, list.of_pairs_if(kind == Kind::Dictionary));
        }
        Kind::Pair => pair(p, parts),
        Kind::Arguments => arguments(p, node, parts),
        Kind::SubscriptArguments => bracketed(p, node, parts, List::new()),
        Kind::Call | Kind::AttributeCall => {
            if let [_, arguments] = parts {
                p.parens(p.first(*arguments), p.choices.call_parens);
            }
        }
        Kind::Subscript | Kind::AttributeSubscript => p.tight(parts),
        Kind::Attribute => attribute(p, node, parts),
        Kind::ParenthesizedExpression => parenthesized(p, node, parts),
        Kind::BinaryOperator => binary(p, node, parts),
        Kind::UnaryOperator => {
            if let [operator, operand] = parts {
                let is_word = p.token_text(p.first(*operator)) == "not";
                p.word(p.first(*operand), u8::from(is_word));
            }
        }
        Kind::ConditionalExpression => {
            p.conditional_by_words(node, parts, in_brackets(p, node));
        }
        Kind::Assignment | Kind::AugmentedAssignment => {
            for part in parts.iter().skip(1) {
                p.operator(p.first(*part), Key::Assign);
            }
        }
        _ => return false,
    }
    true
}

fn in_brackets(p: &Planner, node: NodeId) -> bool {
    p.context(node) == IN_BRACKETS
}

/// A string's quotes; three of them stay, and so do those of a raw string.
fn string(p: &mut Planner, node: NodeId) {
    let token = p.first(node);
    let text = p.token_text(token);
    let is_long = text.starts_with("\"\"\"") || text.starts_with("'''");
    if !is_long && !text.contains('\\') {
        p.quotes(token, 0, Setting::Quotes);
    }
}

/// A list in brackets. Behind a function over several lines everything stays as it stands: its last line
/// ends where somebody ended it.
fn bracketed(
    p: &mut Planner,
    node: NodeId,
    parts: &[NodeId],
    list: List,
) {
    p.set_context(node, IN_BRACKETS);
    let lines = |part: &NodeId| ends_with_lines(p, *part);
    let behind: Vec<TokenId> = parts
        .windows(2)
        .filter(|pair| lines(&pair[0]))
        .map(|pair| p.first(pair[1]))
        .collect();
    let list = if behind.is_empty() { list } else { list.last_comma_if(false) };
    let Some(group) = p.list(parts, list) else { return };
    for token in behind {
        match p.broken_before(token) {
            true => p.newline(token, group, 0, Setting::CloseBracket),
            false => p.keep_gap(token),
        }
    }
}

/// Whether a node ends with a function whose body has lines of its own.
fn ends_with_lines(p: &Planner, node: NodeId) -> bool {
    let mut at = node;
    loop {
        if p.is(at, Kind::Body) && p.is_spread(at) && p.broken_before(p.first(at)) {
            return true;
        }
        match p.parts(at).last() {
            Some(last) => at = *last,
            None => return false,
        }
    }
}

/// `(level, 1.0)`
fn arguments(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let elements = p.elements(parts);
    let stand_in = elements.last().and_then(|last| stand_in(p, *last));
    bracketed(p, node, parts, List::new().stand_in(stand_in));
}

/// Where a last argument can be broken in place of the whole list: inside its brackets, or behind the header
/// of its function.
fn stand_in(p: &Planner, node: NodeId) -> Option<TokenId> {
    match Kind::at(p, node) {
        Kind::Array | Kind::Dictionary => p.inside(node),
        Kind::Lambda if ends_with_lines(p, node) => {
            let body = p.parts(node).last().copied()?;
            p.is(body, Kind::Body).then(|| p.first(body))
        }
        _ => None,
    }
}

/// `"level": 2`, `level = 2`
fn pair(p: &mut Planner, parts: &[NodeId]) {
    match parts {
        [_, sign, value] if p.is(*sign, Kind::Equals) => p.sign(*sign, *value, Key::Assign),
        _ => p.pair(parts, Key::Value),
    }
}

/// `gauge.filter(low).map(level)`: in brackets it is broken where somebody broke it.
fn attribute(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let is_dot = |part: &NodeId| p.token_text(p.first(*part)) == ".";
    let dots: Vec<TokenId> =
        parts.iter().skip(1).filter(|part| is_dot(part)).map(|part| p.first(*part)).collect();
    let by_hand = dots.iter().any(|dot| p.broken_before(*dot)) && p.choices.remembers;
    p.tight(parts);
    if by_hand && in_brackets(p, node) {
        let group = p.leading_chain(node, Key::Condition);
        p.stands_anywhere(group, Key::Call);
        p.force(group);
        for dot in dots.into_iter().filter(|dot| p.broken_before(*dot)).collect::<Vec<_>>() {
            p.may_break(dot, group, p.choices.chain_steps, 0, Setting::WordGap);
        }
    }
}

/// `(ebb or flood)`; broken inside its parentheses.
fn parenthesized(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.set_context(node, IN_BRACKETS);
    let [opener, inner, closer] = parts else { return };
    if ends_with_lines(p, *inner) {
        p.keep_gap(p.first(*inner));
        return p.keep_gap(p.first(*closer));
    }
    let gap = p.choices.parens_gap;
    let group = p.enclosed(Shape::Chain, [*opener, *inner, *closer], gap, Key::Condition);
    p.group_mut(group).stand_in = stand_in(p, *inner);
    let level = p.choices.list_steps;
    p.gap(p.first(*inner)).level = level;
}

/// `level > 2`, `gauge is not Buoy`
fn binary(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, operator, .., right] = parts else { return };
    if parts.len() > 3 {
        return p.words(parts);
    }
    p.binary(Binary {
        breakable: in_brackets(p, node),
        stand_in: stand_in(p, *right),
        ..Binary::of(p, node, [*left, *operator, *right], OPERATORS)
    });
}
