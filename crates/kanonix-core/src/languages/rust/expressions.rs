//! Expressions, in the grammar's order.

use super::blocks::block_behind;
use super::items::{attributes, header};
use super::kinds::Kind;
use crate::layout::plan::{Around, Counts, Opens, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, Handed, Link, Links, List, Operators};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// So many tokens of a chain are looked at. Bounds the work on hostile input.
const MOST_INSIDE: usize = 4096;

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::RangeExpression => range(p, parts),
        Kind::UnaryExpression => unary_expression(p, parts),
        Kind::ReferenceExpression => super::types::reference(p, parts),
        Kind::BinaryExpression | Kind::LetChain => binary_expression(p, node, parts),
        Kind::AssignmentExpression | Kind::CompoundAssignmentExpression => {
            assignment(p, node, parts);
        }
        Kind::TypeCastExpression => {
            p.words(parts);
            if let [value, word, _] = parts {
                let group = p.group(Shape::LastResort, p.end(*value) - 1, p.end(node));
                p.may_break(p.first(*word), group, 1, 1, Setting::WordGap);
            }
        }
        Kind::CallExpression => {
            chain(p, node);
            if let [called, arguments] = parts {
                match is_leaving(p, *called) {
                    true => p.word(p.first(*arguments), 1),
                    false => p.parens(p.first(*arguments), p.choices.call_parens),
                }
            }
        }
        Kind::TryExpression => {
            chain(p, node);
            match (parts, p.is_reread(node)) {
                // Somebody else's sign may begin so.
                ([_, sign], true) => p.keep_gap(p.first(*sign)),
                _ => p.tight(parts),
            }
        }
        Kind::AwaitExpression | Kind::FieldExpression => {
            chain(p, node);
            member(p, parts);
        }
        Kind::IndexExpression => index_expression(p, parts),
        Kind::Arguments
            if p.part(p.parent(node), 0).is_some_and(|called| is_leaving(p, called)) =>
        {
            tuple(p, parts, List::new());
        }
        Kind::Arguments => arguments(p, node, parts),
        Kind::ArrayExpression => array_expression(p, parts),
        Kind::ParenthesizedExpression => parenthesized_expression(p, parts),
        Kind::TupleExpression => tuple(p, parts, List::new()),
        Kind::UnitExpression => {
            p.list(parts, List::new());
        }
        // `{ level, unit: "m", ..tide }`
        Kind::FieldInitializerList => {
            p.list(parts, List::new().collection().last_comma().opens_around_lines());
        }
        Kind::ShorthandFieldInitializer => attributes(p, parts, None),
        Kind::FieldInitializer => field_initializer(p, parts),
        Kind::ClosureExpression => closure_expression(p, node, parts),
        Kind::ClosureParameters => closure_parameters(p, parts),
        _ => return false,
    }
    true
}

/// A value after a sign: on the same line, unless nothing else helps.
pub(super) fn assigned(p: &mut Planner, sign: NodeId, value: NodeId) {
    let blanks = p.beside(p.first(value), Key::Assign);
    p.assigned(p.first(sign), value, blanks, Setting::OperatorGap);
    // As the Rust style guide has it, what fits on the next line goes there.
    let is_call = matches!(
        Kind::at(p, value),
        Kind::CallExpression | Kind::TryExpression | Kind::AwaitExpression
    );
    let is_free = |links: Links| links.dots.len() == 1 && !links.by_hand;
    if is_call && links(p, value).is_none_or(is_free) {
        p.assigned_to_fit(value);
    }
}

/// The operation or the chain of calls that gives a value lines of its own, where there is one.
pub(super) fn breakable(p: &Planner, value: NodeId) -> Option<NodeId> {
    match Kind::at(p, value) {
        Kind::BinaryExpression | Kind::LetChain => Some(value),
        Kind::UnaryExpression | Kind::ReferenceExpression => {
            breakable(p, *p.parts(value).last()?)
        }
        Kind::ParenthesizedExpression => breakable(p, *p.parts(value).get(1)?),
        Kind::CallExpression
        | Kind::TryExpression
        | Kind::AwaitExpression
        | Kind::FieldExpression => links(p, value).map(|_| value),
        _ => None,
    }
}

/// Whether what stands before brackets is a word such as `return`: the grammar reads what it
/// returns as a call's arguments or an index.
fn is_leaving(p: &Planner, node: NodeId) -> bool {
    matches!(
        Kind::at(p, node),
        Kind::BreakExpression | Kind::ReturnExpression | Kind::YieldExpression
    )
}

/// `low..=high`; a number may end with a point of its own.
pub(super) fn range(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        let points = p.token_text(token - 1).ends_with('.') && p.token_text(token).starts_with('.');
        p.operator(token, Key::Range);
        if points {
            p.gap(token).blanks = 1;
        }
    }
}

/// `-level`, `!quiet`
fn unary_expression(p: &mut Planner, parts: &[NodeId]) {
    let [sign, value] = parts else { return };
    let token = p.first(*value);
    match p.is(*sign, Kind::Bang) {
        true => p.flat(token, p.choices.not_gap, Setting::NotGap),
        false => p.word(token, 0),
    }
}

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["||"]),
    (Key::Logic, &["&&"]),
    (Key::Compare, &["==", "!=", "<", ">", "<=", ">="]),
    (Key::Shift, &["|"]),
    (Key::Shift, &["^"]),
    (Key::Shift, &["&"]),
    (Key::Shift, &["<<", ">>"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "%"]),
];

/// Whether an operand is a range that goes on with what stands behind the operator: the grammar
/// reads `low..-high` as `low..` less `high`, and the `=` of a `..=high` as a sign of its own.
fn is_begun_range(p: &Planner, left: NodeId) -> bool {
    p.is(left, Kind::RangeExpression) && p.token_text(p.end(left) - 1) == ".."
}

/// `level = 2`, `level += surge`
fn assignment(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, sign, value] = parts else { return };
    if is_begun_range(p, *left) {
        return p.tight(parts);
    }
    p.operator(p.first(*sign), Key::Assign);
    assigned(p, *sign, *value);
    if p.is_reread(node) {
        // A name and its value, rather than a statement.
        if let Some(group) = p.gap(p.first(*value)).group {
            p.by_hand(group);
        }
    }
}

/// `level + surge`, and conditions with a `let` among them, which stand side by side.
fn binary_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    if p.is(node, Kind::LetChain) {
        let group = p.chain_of(node);
        p.hand(node, Handed::Chain(group));
        let first = parts[0];
        let operator = p.part(first, 1).map(|operator| p.token_text(p.first(operator)));
        if p.is(first, Kind::BinaryExpression) && operator == Some("&&") {
            p.hand(first, Handed::Chain(group));
        }
    }
    for triple in parts.windows(3).step_by(2) {
        let [left, operator, right] = triple else { continue };
        if is_begun_range(p, *left) {
            p.word(p.first(*operator), 0);
            p.word(p.first(*right), 0);
            continue;
        }
        p.binary(Binary::of(p, node, [*left, *operator, *right], OPERATORS));
        // A chain with lines of its own is no part of a line of operands.
        let breaks = |operand: &&NodeId| {
            let of_several = |links: Links| {
                let broken = links.dots.iter().filter(|dot| p.broken_beside(**dot)).count();
                links.by_hand && broken > 1
            };
            links(p, **operand).is_some_and(of_several)
        };
        if [left, right].iter().any(breaks) {
            let (before, after) = (p.gap(p.first(*operator)).group, p.gap(p.first(*right)).group);
            if let Some(group) = before.into_iter().chain(after).min() {
                p.force(group);
            }
        }
    }
}

fn link(p: &Planner, node: NodeId) -> Option<Link> {
    match Kind::at(p, node) {
        Kind::AwaitExpression | Kind::FieldExpression => {
            p.part(node, 1).map(|dot| Link::Field(p.first(dot)))
        }
        Kind::CallExpression => p.part(node, 1).map(Link::Call),
        Kind::TryExpression | Kind::GenericFunction => Some(Link::Other),
        _ => None,
    }
}

/// The links of the chain that ends with `node`; `None` if it has no place for a line to end.
fn links(p: &Planner, node: NodeId) -> Option<Links> {
    worth_breaking(p, p.links(node, link))
}

/// The links that may begin a line, if there are some.
fn worth_breaking(p: &Planner, mut links: Links) -> Option<Links> {
    // The first links stay with what begins a line and is no longer than a step, unless somebody broke
    // them off.
    let is_name = matches!(Kind::at(p, links.head), Kind::Identifier | Kind::SelfValue);
    let head = p.first(links.head);
    let step = p.style.indent_columns();
    let stays = |dot: &&TokenId| {
        // A token has a column at the least.
        let own = (head..**dot).take(step + 1);
        let is_short = own.map(|token| p.token_text(token).len()).sum::<usize>() <= step;
        let is_apart =
            p.broken_between(head, **dot - 1) || (links.by_hand && p.broken_before(**dot));
        is_short && !is_apart
    };
    let keeps = keeps_links(p, &links);
    let is_index = |dot: TokenId| p.token_text(dot + 1).starts_with(|c: char| c.is_ascii_digit());
    let stays = |dot: &&TokenId| (keeps || is_index(**dot)) && stays(dot);
    let staying = links.dots.iter().take_while(stays).count();
    links.dots.drain(..staying);
    let worth = links.by_hand || links.dots.len() > usize::from(is_name && staying == 0);
    (!links.dots.is_empty() && worth).then_some(links)
}

/// Whether a short name keeps the first links of its chain: it begins a line, a sign before it aside, or
/// somebody opened the chain otherwise, or the last call, for which nothing is broken off.
fn keeps_links(p: &Planner, links: &Links) -> bool {
    let is_broken = |token: TokenId| p.choices.remembers && p.broken_before(token);
    let begins = |token: TokenId| p.begins_line(token) || is_broken(token);
    let head = p.first(links.head);
    let is_sign = |token: &TokenId| matches!(p.token_text(*token), "*" | "&" | "!" | "-");
    begins(head)
        || head.checked_sub(1).filter(is_sign).is_some_and(begins)
        || links.arguments.is_some_and(|list| is_broken(p.first(list) + 1))
        || links.by_hand
}

/// Whether there is but one call, of what is nothing but names and points: `self.gauge.level()`.
fn is_lone(p: &Planner, links: &Links) -> bool {
    let is_name = |text: &str| text.starts_with(|c: char| c.is_alphabetic() || c == '_');
    let is_path = |text: &str| matches!(text, "." | "::") || is_name(text);
    let last = links.dots.last().copied().unwrap_or_default();
    (p.first(links.head)..last).all(|token| is_path(p.token_text(token)))
}

/// Whether a link before the last one holds a block: `route("/", get(|| async { … })).layer(…)`. No link
/// stands on the line that ends it.
fn holds_block(p: &Planner, links: &Links) -> bool {
    let (Some(first), Some(last)) = (links.dots.first(), links.dots.last()) else { return false };
    let begins_block = |word: &str| matches!(word, "|" | "||" | "async" | "move" | "unsafe");
    (*first..*last).take(MOST_INSIDE).any(|token| {
        p.token_text(token) == "{" && begins_block(p.token_text(token - 1))
    })
}

/// `gauges.iter().map(…)?`: broken before each link. The outermost node of the chain plans its
/// breaks; the nodes inside it know that they are part of one.
fn chain(p: &mut Planner, node: NodeId) {
    if p.is_link(node) {
        return;
    }
    let all = p.links(node, link);
    p.hand_links(&all);
    let Some(links) = worth_breaking(p, all) else { return };
    let group = p.chain_of(node);
    p.group_mut(group).counts = Counts::Beneath;
    if let (Some(last), [_]) = (links.arguments, &links.dots[..]) {
        p.group_mut(group).stand_in = p.inside(last);
    }
    p.break_links(&links, group);
    if links.by_hand && is_lone(p, &links) {
        let own = p.group_mut(group);
        (own.opens, own.closes) = (Opens::Again, true);
    }
    if holds_block(p, &links) {
        p.group_mut(group).around = Around::OneLine;
    }
    for dot in links.dots {
        if joins_numbers(p, dot) && !p.gap_text(dot).is_empty() {
            p.gap(dot).blanks = 1;
        }
    }
}

/// `gauge.level`, `reading.await`: nothing around the point, unless a chain breaks there or a
/// number stands before it, which may be a tuple's field (`tide.0 .1`).
fn member(p: &mut Planner, parts: &[NodeId]) {
    let [object, dot, name] = parts else { return };
    let dot = p.first(*dot);
    if matches!(Kind::at(p, *object), Kind::IntegerLiteral | Kind::FloatLiteral) {
        return;
    }
    p.beside_dot(p.first(*name));
    match joins_numbers(p, dot) && !p.is_breakable(dot) {
        true => p.keep_gap(dot),
        false => p.beside_dot(dot),
    }
}

/// Whether a point stands between two numbers.
fn joins_numbers(p: &Planner, dot: TokenId) -> bool {
    let is_number = |token: TokenId| {
        let is_there = (token as usize) < p.tree.tokens.len();
        is_there && p.token_text(token).starts_with(|c: char| c.is_ascii_digit())
    };
    dot > 0 && is_number(dot - 1) && is_number(dot + 1)
}

/// `gauges[0]`
fn index_expression(p: &mut Planner, parts: &[NodeId]) {
    let [value, opener, index, closer] = parts else { return };
    let leaving = is_leaving(p, *value);
    p.word(p.first(*opener), u8::from(leaving));
    let group = p.group(Shape::LastResort, p.first(*opener), p.end(*closer));
    for (part, level) in [(index, 1), (closer, 0)] {
        let blanks = p.chosen(p.first(*part), p.choices.brackets_gap);
        p.may_break(p.first(*part), group, level, blanks, Setting::InnerGap);
    }
}

/// The elements of a bracketed list, without its separators and attributes.
fn elements(p: &Planner, parts: &[NodeId]) -> Vec<NodeId> {
    let mut elements = p.elements(parts);
    elements.retain(|part| !p.is(*part, Kind::AttributeItem));
    elements
}

/// How many constructs around it a bracket is looked for in.
const STAND_IN_DEPTH: usize = 8;

/// Where the last argument can be broken in place of the whole list: inside its literal, or, if it
/// is the only one, its own arguments.
fn stand_in(p: &Planner, last: NodeId, only: bool) -> Option<TokenId> {
    let mut node = last;
    for _ in 0..STAND_IN_DEPTH {
        let inner = *p.parts(node).last()?;
        match Kind::at(p, node) {
            Kind::ClosureExpression if p.is(inner, Kind::Block) => {
                return p.keeps_flat(inner, Key::Lambda).then(|| p.first(inner) + 1);
            }
            Kind::ClosureExpression | Kind::ReferenceExpression | Kind::UnaryExpression => {}
            Kind::ArrayExpression | Kind::TupleExpression if only => return p.inside(node),
            Kind::StructExpression | Kind::CallExpression | Kind::MacroInvocation if only => {
                return p.inside(inner);
            }
            Kind::TryExpression if only => {
                node = p.part(node, 0)?;
                continue;
            }
            _ => return None,
        }
        node = inner;
    }
    None
}

/// Whether an argument is a method's call that nobody broke: `gauge.read(2)?`.
fn is_method(p: &Planner, argument: NodeId) -> bool {
    let is_broken =
        p.choices.remembers && p.broken_between(p.first(argument), p.end(argument) - 1);
    let call = match p.is(argument, Kind::TryExpression) {
        true => p.part(argument, 0),
        false => Some(argument),
    };
    let call = call.filter(|call| p.is(*call, Kind::CallExpression) && !is_broken);
    let called = call.and_then(|call| p.part(call, 0));
    called.is_some_and(|called| p.is(called, Kind::FieldExpression))
}

/// `(level, |gauge| …)`
pub(super) fn arguments(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let elements = elements(p, parts);
    let last = elements.last();
    let stand_in = last.and_then(|last| stand_in(p, *last, elements.len() == 1));
    let ends_with_block = |element: &NodeId| {
        let last = p.parts(*element).last().copied();
        last.is_some_and(|last| matches!(Kind::at(p, last), Kind::Block | Kind::MatchBlock))
    };
    let before = &elements[..elements.len().saturating_sub(1)];
    // A block stays with its call where nothing follows it.
    let opens = before.iter().any(ends_with_block);
    let list = List::new().last_comma().opens_around_lines_if(opens).stand_in(stand_in);
    if !p.is(node, Kind::TokenTree) {
        p.list(parts, list.own_line_if(last.is_some_and(|last| is_method(p, *last))));
    } else {
        let is_plain = |element: &NodeId| match Kind::at(p, *element) {
            Kind::AssignmentExpression => {
                p.part(*element, 2).is_some_and(|value| p.is(value, Kind::StringLiteral))
            }
            kind => matches!(
                kind,
                Kind::Identifier
                    | Kind::ScopedIdentifier
                    | Kind::CallExpression
                    | Kind::StringLiteral
            ),
        };
        let is_attribute = p.is(p.parent(node), Kind::Attribute);
        let stays = is_attribute && !elements.iter().all(is_plain);
        // Texts and what they are made of stand as somebody has set them.
        p.list(parts, list.shared_rows().by_hand_if(stays));
    }
    attributes(p, parts, None);
}

/// `[low, high]`, `[0.0; 24]`
pub(super) fn array_expression(p: &mut Planner, parts: &[NodeId]) {
    let list = match p.position(parts, Kind::Semicolon) {
        Some(_) => List::new(),
        None => List::new().collection().last_comma(),
    };
    p.list(parts, list);
    attributes(p, parts, None);
}

/// `(ebb || flood)`: broken inside what it holds, not at its parentheses.
fn parenthesized_expression(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        p.inside_bracket(p.first(*part), p.choices.parens_gap);
    }
}

/// `(low, high)`: the comma behind the only element of a tuple is part of it.
pub(super) fn tuple(p: &mut Planner, parts: &[NodeId], list: List) {
    let several = elements(p, parts).len() > 1;
    p.list(parts, list.collection().last_comma_if(several));
    attributes(p, parts, None);
}

/// `level: 5.1`
fn field_initializer(p: &mut Planner, parts: &[NodeId]) {
    header(p, parts);
    attributes(p, parts, None);
    if let [.., colon, value] = parts {
        p.broken_pair(*colon, *value, Key::Value);
    }
}

/// `async move |level| -> bool { … }`
fn closure_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    if let [.., body] = parts
        && p.is(*body, Kind::Block)
    {
        block_behind(p, *body, p.first(node), Key::Lambda, Key::Lambda);
    }
}

/// `|level, (low, high)|`
fn closure_parameters(p: &mut Planner, parts: &[NodeId]) {
    p.list(parts, List::new());
}
