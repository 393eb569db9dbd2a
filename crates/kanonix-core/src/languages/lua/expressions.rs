//! Expressions, in the grammar's order.

use super::kinds::Kind;
use super::statements::assigned;
use crate::layout::plan::{Column, Rows, Shape, Slight};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, Link, List, Operators};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["or"]),
    (Key::Logic, &["and"]),
    (Key::Compare, &["<", ">", "<=", ">=", "~=", "=="]),
    (Key::Shift, &["|"]),
    (Key::Shift, &["~"]),
    (Key::Shift, &["&"]),
    (Key::Shift, &["<<", ">>"]),
    (Key::Sum, &[".."]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "//", "%"]),
    (Key::Power, &["^"]),
];

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::String => p.quotes(p.first(node), 0, Setting::Quotes),
        Kind::TableConstructor => {
            // Functions that begin lines of their own are not drawn together.
            let elements = p.elements(parts);
            let begins_line = |element: &NodeId| p.broken_before(p.first(*element));
            let spread = p.choices.remembers
                && elements.len() > 1
                && elements[1..].iter().all(begins_line);
            // What opens the table of a name opens the one around its fields.
            let holds_open_table = elements.len() > 1 && elements.iter().any(|field| {
                match p.parts(*field)[..] {
                    [_, .., value] => p.is(value, Kind::TableConstructor) && p.is_spread(value),
                    _ => false,
                }
            });
            let list = List::new().collection().last_comma().with(p.handed_block(node));
            p.list(parts, list.opens_around_lines_if(spread || holds_open_table));
        }
        Kind::Field => field(p, parts),
        Kind::Arguments => arguments(p, parts),
        Kind::FunctionCall => {
            chain(p, node);
            if let [_, arguments] = parts {
                call(p, p.first(*arguments));
            }
        }
        Kind::DotIndexExpression | Kind::MethodIndexExpression => {
            chain(p, node);
            for part in parts.iter().skip(1) {
                p.beside_dot(p.first(*part));
            }
        }
        Kind::BracketIndexExpression => {
            chain(p, node);
            if let [_, opener, inner, closer] = parts {
                p.word(p.first(*opener), 0);
                bracketed(p, *inner, *closer);
            }
        }
        Kind::ParenthesizedExpression => {
            if let [opener, inner, closer] = parts {
                let gap = p.choices.parens_gap;
                let group =
                    p.enclosed(Shape::Chain, [*opener, *inner, *closer], gap, Key::Condition);
                p.group_mut(group).stand_in = stand_in(p, *inner);
            }
        }
        Kind::BinaryExpression => binary_expression(p, node, parts),
        Kind::UnaryExpression => {
            if let [operator, operand] = parts {
                let is_word = p.token_text(p.first(*operator)) == "not";
                let operand = p.first(*operand);
                // Two of them begin a comment.
                let fuses = p.token_text(operand - 1) == p.token_text(operand);
                p.word(operand, u8::from(is_word || fuses));
            }
        }
        _ => return false,
    }
    true
}

/// Values behind a sign or a word, one after another.
pub(super) fn values(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.group(Shape::Chain, p.first(node), p.end(node));
    let is_name = |part: &NodeId| matches!(
        Kind::at(p, *part),
        Kind::Comma | Kind::Identifier | Kind::DotIndexExpression
    );
    // `local ebb, flood = tide.ebb, tide.flood`
    let fills = p.is(p.parent(node), Kind::AssignmentStatement) && parts.iter().all(is_name);
    let own = p.group_mut(group);
    (own.rows, own.slight, own.fills) = (Rows::Any, Slight::Half, fills);
    p.stands_anywhere(group, Key::Call);
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match p.is(*part, Kind::Comma) {
            true => p.word(token, 0),
            false => p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap),
        }
    }
}

/// What stands between two brackets; a long one inside them would be read with them.
fn bracketed(p: &mut Planner, inner: NodeId, closer: NodeId) {
    let is_long = p.token_text(p.first(inner)).starts_with('[');
    let gap = if is_long { Some(1) } else { p.choices.brackets_gap };
    p.inside_bracket(p.first(inner), gap);
    p.inside_bracket(p.first(closer), gap);
}

/// `level = 2`, `["level"] = 2`, `2`
fn field(p: &mut Planner, parts: &[NodeId]) {
    match parts {
        [_, name, closer, sign, value] => {
            bracketed(p, *name, *closer);
            if p.is(*name, Kind::Number) {
                p.column(p.first(*name), Column::Table);
            }
            assigned(p, p.first(*sign), *value);
        }
        [_, sign, value] => assigned(p, p.first(*sign), *value),
        _ => {}
    }
}

/// `(level, { ebb = 1 })`; a table or a string stands without parentheses as somebody put it there.
fn arguments(p: &mut Planner, parts: &[NodeId]) {
    let [_, .., _] = parts else { return };
    let elements = p.elements(parts);
    let stand_in = last_stand_in(p, &elements, 0);
    let is_function = |node: &NodeId| p.is(*node, Kind::FunctionDefinition);
    let list = List::new().stand_in(stand_in).closes_around_one_if(stand_in.is_some());
    p.list(parts, list.last_function(&elements, is_function));
}

/// What stands before the arguments of a call.
fn call(p: &mut Planner, arguments: TokenId) {
    match p.token_text(arguments) {
        "(" => p.parens(arguments, p.choices.call_parens),
        _ if matches!(p.gap_text(arguments), "" | " ") => p.keep_gap(arguments),
        _ => p.word(arguments, 1),
    }
}

/// How many calls around a table are asked whether they are the only argument of the next one.
const STAND_IN_DEPTH: usize = 8;

/// Where the last of some arguments can be broken in place of the whole list: that is also inside the only
/// one, if that is a call of such a list.
fn last_stand_in(p: &Planner, elements: &[NodeId], depth: usize) -> Option<TokenId> {
    let last = *elements.last()?;
    stand_in(p, last).or_else(|| {
        let is_lone_call = elements.len() == 1 && p.is(last, Kind::FunctionCall);
        let called = is_lone_call.then(|| p.parts(last).last().copied()).flatten()?;
        let inner = p.elements(&p.parts(called));
        (depth < STAND_IN_DEPTH && last_stand_in(p, &inner, depth + 1).is_some())
            .then(|| p.inside(called))
            .flatten()
    })
}

/// Where a last argument can be broken in place of the whole list: inside its table, or behind the header
/// of its function.
fn stand_in(p: &Planner, node: NodeId) -> Option<TokenId> {
    match Kind::at(p, node) {
        Kind::TableConstructor => p.inside(node),
        Kind::FunctionDefinition => {
            let parts = p.parts(node);
            let parameters = parts.get(p.position(&parts, Kind::Parameters)?)?;
            Some(p.end(*parameters))
        }
        // `words{ "ebb" }`: a call of one table.
        Kind::FunctionCall => match p.parts(*p.parts(node).last()?)[..] {
            [only] => stand_in(p, only),
            _ => None,
        },
        _ => None,
    }
}

/// What a node is in a chain of calls.
fn link(p: &Planner, node: NodeId) -> Option<Link> {
    match Kind::at(p, node) {
        Kind::FunctionCall => p.parts(node).last().map(|arguments| Link::Call(*arguments)),
        Kind::MethodIndexExpression | Kind::DotIndexExpression => {
            p.part(node, 1).map(|dot| Link::Method(p.first(dot)))
        }
        Kind::BracketIndexExpression => Some(Link::Other),
        _ => None,
    }
}

/// `gauges:filter(low):map(level)`
fn chain(p: &mut Planner, node: NodeId) {
    p.chain(node, link, |p, head| p.is(head, Kind::Identifier), Kind::Arguments);
}

fn binary_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, sign, right] = parts else { return };
    let operator = p.first(*sign);
    p.binary(Binary {
        breakable: p.token_text(operator) != "^",
        stand_in: stand_in(p, *right),
        ..Binary::of(p, node, [*left, *sign, *right], OPERATORS)
    });
    // A number takes points that touch it for its own.
    let ends = |token: TokenId| p.token_text(token).ends_with(|c: char| c.is_ascii_alphanumeric());
    if p.token_text(operator) == ".." && p.is(last_of(p, *left), Kind::Number) && ends(operator - 1)
    {
        p.set_apart(operator);
    }
}

/// The node that ends a node.
fn last_of(p: &Planner, node: NodeId) -> NodeId {
    let mut node = node;
    while let Some(last) = p.parts(node).last() {
        node = *last;
    }
    node
}
