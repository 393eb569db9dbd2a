//! Expressions, in the grammar's order.

use super::kinds::Kind;
use crate::layout::plan::{Column, Rows, Shape, Slight};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, Handed, Link, List, Operators};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["and", "or"]),
    (Key::Logic, &["||"]),
    (Key::Logic, &["&&"]),
    (Key::Compare, &["<=>", "==", "===", "!=", "=~", "!~"]),
    (Key::Compare, &["<", ">", "<=", ">="]),
    (Key::Shift, &["|", "^"]),
    (Key::Shift, &["&"]),
    (Key::Shift, &["<<", ">>"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "%"]),
    (Key::Power, &["**"]),
];

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::String => string(p, node),
        Kind::Call => call(p, node, parts),
        Kind::ArgumentList => arguments(p, parts),
        Kind::ElementReference => element_reference(p, node, parts),
        Kind::Lambda => lambda(p, parts),
        Kind::Array => _ = p.list(parts, List::new().collection().last_comma()),
        Kind::Hash => _ = p.list(parts, List::new().collection().last_comma().of_pairs()),
        Kind::StringArray | Kind::SymbolArray => _ = p.list(parts, List::new().words()),
        Kind::Pair => pair(p, parts),
        Kind::Assignment | Kind::OperatorAssignment => {
            if let [_, sign, value] = parts {
                assigned(p, p.first(*sign), *value);
            }
        }
        Kind::RightAssignmentList => values(p, parts),
        Kind::DestructuredLeftAssignment => p.flat_list(parts),
        Kind::Conditional => conditional(p, node, parts),
        Kind::Range => {
            for part in parts.iter().skip(1) {
                let token = p.first(*part);
                match p.choices.operator_gaps.of(Key::Range) {
                    Some(blanks) => p.flat(token, blanks, Setting::OperatorGap),
                    None => p.keep_gap(token),
                }
            }
        }
        Kind::Return | Kind::Yield | Kind::Break | Kind::Next | Kind::Redo | Kind::Retry => {
            jump(p, parts);
        }
        Kind::Binary => binary(p, node, parts),
        Kind::Unary => unary(p, parts),
        Kind::ParenthesizedStatements => parenthesized(p, parts),
        Kind::ChainedString => p.words(parts),
        // It is laid out as what it holds.
        Kind::Pattern => {}
        _ => return false,
    }
    true
}

/// `level = 2`
pub(super) fn assigned(p: &mut Planner, sign: TokenId, value: NodeId) {
    p.operator(sign, Key::Assign);
    let gap = p.beside(p.first(value), Key::Assign);
    p.assigned(sign, value, gap, Setting::OperatorGap);
    may_stay_below(p, value);
}

/// `level =` before an `if`, a `case` or a `begin` is as common as both on one line.
fn may_stay_below(p: &mut Planner, value: NodeId) {
    if let Some(group) = p.gap(p.first(value)).group {
        p.group_mut(group).closes = false;
    }
}

/// Quotes of the other kind hold what may be written in either: nothing that is escaped or put in.
fn string(p: &mut Planner, node: NodeId) {
    let token = p.first(node);
    if !p.token_text(token).contains(['\\', '#', '\n']) {
        p.quotes(token, 0, Setting::Quotes);
    }
}

/// Values one after another, without brackets: a line may end behind each comma.
pub(super) fn values(p: &mut Planner, parts: &[NodeId]) {
    let [first, .., last] = parts else { return };
    let group = p.group(Shape::Chain, p.first(*first), p.end(*last));
    let stand_in = stand_in(p, *last);
    let own = p.group_mut(group);
    (own.rows, own.stand_in, own.slight) = (Rows::Any, stand_in, Slight::Half);
    p.stands_anywhere(group, Key::Call);
    let mut after_comma = false;
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match p.is(*part, Kind::Comma) {
            true => p.word(token, 0),
            false if after_comma => {
                p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap);
            }
            false => p.word(token, 1),
        }
        after_comma = p.is(*part, Kind::Comma);
    }
}

/// Whether arguments stand in parentheses of their own, and not behind a blank.
fn are_enclosed(p: &Planner, arguments: NodeId) -> bool {
    let opener = p.part(arguments, 0);
    opener.is_some_and(|part| is_parenthesis(p, part))
}

fn is_parenthesis(p: &Planner, part: NodeId) -> bool {
    let first = p.first(part);
    p.end(part) == first + 1 && p.token_text(first) == "("
}

/// `yield level`, `yield(level)`
fn jump(p: &mut Planner, parts: &[NodeId]) {
    if let [_, arguments] = parts {
        let blanks = u8::from(!are_enclosed(p, *arguments));
        p.word(p.first(*arguments), blanks);
    }
}

/// Whether a chain's first call stays with what the chain begins with: `gauge`, `Tide::Gauge`.
fn is_name(p: &Planner, head: NodeId) -> bool {
    matches!(Kind::at(p, head), Kind::Identifier | Kind::Constant | Kind::ScopeResolution)
}

/// `gauge.level(now) { |level| … }`
fn call(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    // A lone link begins a line where somebody put it there.
    if let Some(links) = p.chain(node, link, is_name, Kind::ArgumentList)
        && links.by_hand
    {
        p.lone_link(node, &links, Kind::ArgumentList);
    }
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match Kind::at(p, *part) {
            // A sign right behind a name would be another one behind a blank.
            Kind::ArgumentList if p.token_text(token) == "&" && p.gap_text(token).is_empty() => {
                p.keep_gap(token);
                if p.end(*part) == token + 1 {
                    p.keep_gap(token + 1);
                }
            }
            Kind::ArgumentList if !are_enclosed(p, *part) => p.word(token, 1),
            Kind::Block | Kind::DoBlock => p.word(token, 1),
            _ => p.beside_dot(token),
        }
    }
}

/// What a node is in a chain of calls. What is given nothing begins a line behind what is.
fn link(p: &Planner, node: NodeId) -> Option<Link> {
    match Kind::at(p, node) {
        Kind::ElementReference => Some(Link::Other),
        Kind::Call => {
            let parts = p.parts(node);
            let [_, dot, rest @ ..] = &parts[..] else { return None };
            let dot = p.first(*dot);
            if !matches!(p.token_text(dot), "." | "&.") {
                return None;
            }
            let arguments = rest.iter().find(|part| {
                p.is(**part, Kind::ArgumentList) && are_enclosed(p, **part)
            });
            // Behind a point, `(` calls what is before that.
            if let Some(arguments) = arguments.filter(|own| p.first(**own) == dot + 1) {
                return Some(Link::Call(*arguments));
            }
            let by_hand = p.choices.remembers && p.broken_beside(dot);
            let is_given = rest.len() > 1 || by_hand;
            Some(match arguments {
                Some(arguments) => Link::Invocation(dot, *arguments),
                None if is_given => Link::Field(dot),
                None => Link::Message(dot),
            })
        }
        _ => None,
    }
}

/// `(level, ebb: 1)`, or the same without parentheses, as somebody wrote it; `(level, &)` hands on a block
/// that has no name.
fn arguments(p: &mut Planner, parts: &[NodeId]) {
    if !parts.first().is_some_and(|first| is_parenthesis(p, *first)) {
        return values(p, parts);
    }
    let elements = p.elements(parts);
    let stand_in = elements.last().and_then(|last| stand_in(p, *last));
    p.list(parts, List::new().stand_in(stand_in));
    let hands_on = |last: &NodeId| {
        p.is(*last, Kind::BlockArgument) && p.end(*last) == p.first(*last) + 1
    };
    // A blank behind it would make an operator of it.
    if let (Some(closer), true) = (parts.last(), elements.last().is_some_and(hands_on)) {
        p.word(p.first(*closer), 0);
    }
}

/// Where a last argument can be broken in place of the whole list: inside its brackets, or behind the header
/// of its block.
fn stand_in(p: &Planner, node: NodeId) -> Option<TokenId> {
    match Kind::at(p, node) {
        Kind::Hash | Kind::Array | Kind::StringArray | Kind::SymbolArray => p.inside(node),
        Kind::Pair => p.parts(node).last().and_then(|value| stand_in(p, *value)),
        Kind::Lambda => {
            let block = p.parts(node).last().copied()?;
            let parts = p.parts(block);
            let parameters = parts.iter().find(|part| p.is(**part, Kind::BlockParameters));
            Some(parameters.map_or(p.first(block) + 1, |parameters| p.end(*parameters)))
        }
        _ => None,
    }
}

/// `levels[1, 2]`
fn element_reference(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.chain(node, link, is_name, Kind::ArgumentList);
    let is_bracket = |part: &NodeId| p.token_text(p.first(*part)) == "[";
    let closes = |part: &NodeId| p.token_text(p.first(*part)) == "]";
    let (Some(opener), Some(closer)) =
        (parts.iter().skip(1).position(is_bracket), parts.iter().rposition(closes))
    else {
        return;
    };
    let opener = opener + 1;
    p.word(p.first(parts[opener]), 0);
    let inside = p.elements(&parts[opener..=closer]);
    let is_name = p.is_one_token(&inside);
    p.list(&parts[opener..=closer], List::new().by_hand_if(is_name));
    for part in &parts[closer + 1..] {
        p.word(p.first(*part), 1);
    }
}

/// `->(level) { … }`
fn lambda(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match p.is(*part, Kind::LambdaParameters) && p.token_text(token) == "(" {
            true => p.parens(token, p.choices.lambda_parens),
            false => p.word(token, 1),
        }
    }
}

/// A name, a colon right behind it, and a value, if there is one.
pub(super) fn named(p: &mut Planner, parts: &[NodeId]) {
    if let [_, colon, value @ ..] = parts {
        p.word(p.first(*colon), 0);
        value.iter().for_each(|value| p.word(p.first(*value), 1));
    }
}

/// `level: 2`, `"level" => 2`, `level:`
fn pair(p: &mut Planner, parts: &[NodeId]) {
    match parts {
        [_, sign, value] if p.token_text(p.first(*sign)) == "=>" => {
            p.sign(*sign, *value, Key::Assign);
            p.stays_below(p.first(*sign), *value, Setting::OperatorGap);
            may_stay_below(p, *value);
        }
        [_, colon, value @ ..] => {
            named(p, parts);
            for value in value {
                p.column(p.first(*value), Column::Value);
                p.stays_below(p.first(*colon), *value, Setting::WordGap);
                may_stay_below(p, *value);
            }
        }
        _ => {}
    }
}

/// `ebb ? 1 : 2`
fn conditional(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, question, yes, colon, no] = parts else { return };
    let level = p.choices.chain_steps;
    let answers = [(*question, *yes), (*colon, *no)];
    // Before a sign no line may end; otherwise it stays in the lines that somebody gave it.
    let group = p.answers(node, &answers, None, level, Some(false));
    p.group_mut(group).rows = Rows::Any;
    for (sign, value) in answers {
        let (sign, value) = (p.first(sign), p.first(value));
        let is_broken = p.broken_before(sign) || p.broken_before(value);
        p.gap(value).chosen = is_broken && p.choices.remembers;
    }
    if p.is(*no, Kind::Conditional) {
        p.hand(*no, Handed::Chain(group));
    }
}

fn binary(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, operator, right] = parts else { return };
    let (sign, value) = (p.first(*operator), p.first(*right));
    p.binary(Binary {
        may_lead: false,
        stand_in: stand_in(p, *right),
        ..Binary::of(p, node, [*left, *operator, *right], OPERATORS)
    });
    let (text, before) = (p.token_text(sign), p.token_text(sign - 1));
    let is_end = (text.starts_with('!') && before.ends_with(|c: char| c.is_alphanumeric()))
        || (text.starts_with('=') && before.starts_with(':'));
    if is_end {
        // What touches a name may be its end.
        p.set_apart(sign);
    }
    if p.broken_before(sign) || before.ends_with(['?', '!']) {
        // Where it touches what is behind it, it may be what the name before it is called with.
        p.set_apart(value);
    }
    if text == "&" && p.gap_text(value).is_empty() && !p.broken_before(sign) {
        // It might hand on a block.
        p.keep_gap(sign);
        return p.keep_gap(value);
    }
    if matches!(text, "<<" | "%" | "&") {
        // What touches what is behind it may announce a text, open a string, or hand on a block.
        [sign, value].into_iter().for_each(|token| p.set_apart(token));
    }
}

/// `!ebb`, `-level`, `not ebb`, `defined?(ebb)`
fn unary(p: &mut Planner, parts: &[NodeId]) {
    let [operator, operand] = parts else { return };
    let is_word = p.token_text(p.first(*operator)).starts_with(char::is_alphabetic);
    let operand = p.first(*operand);
    let is_number = p.token_text(operand).starts_with(|c: char| c.is_ascii_digit());
    match is_word {
        // `- 2.abs` is not `-2.abs`: a sign that touches a number is a part of that.
        false if is_number => p.keep_gap(operand),
        true if p.token_text(operand) == "(" && p.gap_text(operand).is_empty() => {
            p.keep_gap(operand);
        }
        _ => p.word(operand, u8::from(is_word)),
    }
}

/// `(level)`, or several statements on one line; on several they stay as they stand.
fn parenthesized(p: &mut Planner, parts: &[NodeId]) {
    match parts {
        [opener, inner, closer] => {
            let gap = p.choices.parens_gap;
            let group = p.enclosed(Shape::Chain, [*opener, *inner, *closer], gap, Key::Condition);
            p.group_mut(group).stand_in = stand_in(p, *inner);
        }
        [_, inner @ .., closer] => {
            for part in inner.iter().chain([closer]) {
                p.keep_gap(p.first(*part));
            }
        }
        _ => {}
    }
}
