//! Expressions and patterns, in the grammar's order.

use super::kinds::Kind;
use super::types::{assigned, leads_with_bar, signature};
use crate::layout::plan::{Around, GroupId, Shape, Slight};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, Handed, Link, List, Operators};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        // A brace behind an arrow opens a block, whatever else the grammar can make of it.
        Kind::ArrowFunction if parts.last().is_some_and(|body| p.is(*body, Kind::Object)) => {
            p.fix(node);
        }
        Kind::ArrowFunction => arrow_function(p, node, parts),
        Kind::FormalParameters => formal_parameters(p, node, parts),
        Kind::ParenthesizedExpression => parenthesized(p, node, parts),
        Kind::Object => object(p, parts, List::new()),
        Kind::ObjectPattern => object(p, parts, List::new().names()),
        Kind::Pair | Kind::PairPattern => pair(p, parts),
        Kind::ComputedPropertyName => inside(p, parts, p.choices.brackets_gap),
        Kind::Array => array(p, parts, List::new()),
        Kind::ArrayPattern => array(p, parts, List::new().names()),
        Kind::ObjectAssignmentPattern | Kind::AssignmentPattern => {
            if let [_, sign, value] = parts {
                p.sign(*sign, *value, Key::Default);
            }
        }
        Kind::CallExpression => {
            chain(p, node);
            call(p, parts);
            begins_below(p, parts);
        }
        Kind::NewExpression => new_expression(p, parts),
        Kind::Arguments => arguments(p, node, parts),
        Kind::MemberExpression => {
            chain(p, node);
            member_expression(p, parts);
        }
        Kind::SubscriptExpression => {
            chain(p, node);
            subscript_expression(p, parts);
            begins_below(p, parts);
        }
        Kind::AssignmentExpression | Kind::AugmentedAssignmentExpression => {
            assignment(p, node, parts);
        }
        Kind::TernaryExpression => ternary_expression(p, node, parts),
        Kind::BinaryExpression if ends_above(p, parts, &[Kind::ArrowFunction]) => p.fix(node),
        Kind::BinaryExpression => binary_expression(p, node, parts),
        Kind::UnaryExpression => unary_expression(p, parts),
        Kind::YieldExpression => yield_expression(p, parts),
        // The attribute around it says which quotes it has.
        Kind::String if p.is(p.parent(node), Kind::JsxAttribute) => {}
        Kind::String => p.quotes(p.first(node), 0, Setting::Quotes),
        _ => return false,
    }
    true
}

/// `[a]`: one element between two brackets.
fn inside(p: &mut Planner, parts: &[NodeId], blanks: Option<u8>) {
    for part in parts.iter().skip(1) {
        p.inside_bracket(p.first(*part), blanks);
    }
}

/// `async (level) => level * 2`
fn arrow_function(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [head @ .., sign, body] = parts else { return };
    signature(p, head);
    if let [word, parameters, ..] = head
        && p.is(*parameters, Kind::FormalParameters)
        && !p.is(*word, Kind::TypeParameters)
    {
        p.word(p.first(*parameters), 1);
    }
    let sign = p.first(*sign);
    p.word(sign, 1);
    let steps = u8::from(!gives_function_beneath(p, node, *body));
    if p.is(*body, Kind::StatementBlock) {
        p.open_block(*body, p.first(node), Key::Lambda);
    } else if let Some(group) = p.handed_lines(node) {
        p.may_break(p.first(*body), group, steps, 1, Setting::WordGap);
    } else {
        p.given(sign, *body, steps, hugs(p, *body));
    }
}

/// Whether a function that begins a line gives another one that begins the next, as far in as it is: one
/// argument a line.
fn gives_function_beneath(p: &Planner, node: NodeId, body: NodeId) -> bool {
    let (first, inner) = (p.first(node), p.first(body));
    p.choices.remembers
        && p.is(body, Kind::ArrowFunction)
        && p.broken_before(first)
        && p.broken_before(inner)
        && p.line_columns(first) == p.line_columns(inner)
}

/// Whether a value is such functions one below the other.
pub(super) fn is_column_of_functions(p: &Planner, value: NodeId) -> bool {
    let body = p.parts(value).last().copied();
    p.is(value, Kind::ArrowFunction)
        && body.is_some_and(|body| gives_function_beneath(p, value, body))
}

/// Whether what an expression begins with, one of these kinds, ends its statement with its line: what stands
/// below it is another one, although the grammar goes on with it.
fn ends_above(p: &Planner, parts: &[NodeId], kinds: &[Kind]) -> bool {
    matches!(parts, [first, next, ..]
        if p.broken_before(p.first(*next)) && kinds.contains(&Kind::at(p, *first)))
}

/// What is neither called nor looked into, whatever stands below it.
const WHOLE: [Kind; 4] = [
    Kind::ArrowFunction,
    Kind::UpdateExpression,
    Kind::AsExpression,
    Kind::SatisfiesExpression,
];

/// `i++` or `() => {}`, and `(ebb)` or `[ebb]` on the line below, where it stays.
fn begins_below(p: &mut Planner, parts: &[NodeId]) {
    if ends_above(p, parts, &WHOLE) {
        p.keep_gap(p.first(parts[1]));
    }
}

/// A call, or an arrow function that gives what one does.
fn gives_call(p: &Planner, node: NodeId) -> bool {
    let goes_on = matches!(Kind::at(p, node), Kind::ArrowFunction | Kind::AwaitExpression);
    let value = if goes_on { p.parts(node).last().copied() } else { Some(node) };
    value.is_some_and(|value| {
        matches!(Kind::at(p, value), Kind::CallExpression | Kind::NewExpression)
    })
}

/// Whether what an arrow function gives opens on the arrow's line.
fn hugs(p: &Planner, body: NodeId) -> bool {
    matches!(
        Kind::at(p, body),
        Kind::ArrowFunction
            | Kind::FunctionExpression
            | Kind::Array
            | Kind::ParenthesizedExpression
            | Kind::TemplateString
            | Kind::TernaryExpression
            | Kind::JsxElement
            | Kind::JsxSelfClosingElement
    )
}

/// `(level, { ebb } = {}, ...rest)`
fn formal_parameters(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let stand_in = match p.elements(parts)[..] {
        [only] => inside_literal(p, only),
        _ => None,
    };
    let may_have_comma = !is_setter(p, node);
    // Alternatives stand deeper than the parameter that they are the type of.
    let has_bars = p.elements(parts).iter().any(|parameter| {
        let annotation = p.parts(*parameter).last().copied();
        let value = annotation.and_then(|annotation| p.parts(annotation).last().copied());
        value.is_some_and(|value| leads_with_bar(p, value))
    });
    let list = List::new()
        .declaration()
        .last_comma_if(may_have_comma)
        .stand_in(stand_in)
        .closes_around_one_if(stand_in.is_some());
    p.list(parts, list.opens_around_lines_if(has_bars));
}

/// Whether these are the parameters of `set level(value)`: exactly one, and no comma.
fn is_setter(p: &Planner, parameters: NodeId) -> bool {
    let method = p.parent(parameters);
    p.parts(method)
        .iter()
        .any(|part| p.token_text(p.first(*part)) == "set" && p.end(*part) == p.first(*part) + 1)
        && p.parts(method).iter().position(|part| *part == parameters).is_some_and(|at| at >= 2)
}

/// `(ebb || flood)`; broken inside its parentheses.
fn parenthesized(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [opener, inner, .., closer] = parts else { return };
    p.tight(&parts[1..parts.len() - 1]);
    let is_markup = is_markup(p, *inner);
    let shape = if is_markup { Shape::List } else { Shape::Chain };
    let group = p.enclosed(
        shape,
        [*opener, *inner, *closer],
        p.choices.parens_gap,
        Key::Condition,
    );
    if is_markup {
        p.group_mut(group).around = Around::OneLine;
    } else if is_open_answer(p, node) {
        p.group_mut(group).slight = Slight::Never;
    } else {
        p.group_mut(group).stand_in = stand_in(p, *inner, true);
        p.group_mut(group).own_line = gives_call(p, *inner);
        p.group_mut(group).header = matches!(
            Kind::at(p, p.parent(node)),
            Kind::IfStatement | Kind::WhileStatement | Kind::SwitchStatement
        );
    }
}

/// Whether an answer of a condition is in parentheses, as the other one is that has lines inside them:
/// `low ? (…) : (level)`.
fn is_open_answer(p: &Planner, node: NodeId) -> bool {
    let around = p.parent(node);
    let mut answers = p.parts(around).into_iter().skip(1);
    let is_open = |answer: NodeId| p.is(answer, Kind::ParenthesizedExpression)
        && p.is_spread(answer);
    p.choices.remembers
        && p.is(around, Kind::TernaryExpression)
        && answers.any(|answer| answer != node && is_open(answer))
        && p.part(around, 0) != Some(node)
}

/// The first gap inside an object or an array with something in it.
fn inside_literal(p: &Planner, node: NodeId) -> Option<TokenId> {
    match Kind::at(p, node) {
        Kind::Object | Kind::Array | Kind::ObjectPattern | Kind::ArrayPattern => p.inside(node),
        Kind::AssignmentPattern | Kind::RequiredParameter | Kind::OptionalParameter => {
            inside_literal(p, p.part(node, 0)?)
        }
        _ => None,
    }
}

fn object(p: &mut Planner, parts: &[NodeId], list: List) {
    p.list(parts, list.collection().last_comma().opens_around_lines());
}

/// `high: 5.1`
fn pair(p: &mut Planner, parts: &[NodeId]) {
    if let [_, colon, value] = parts {
        p.broken_pair(*colon, *value, Key::Value);
    }
}

/// `[1, , 2]`; a comma after a hole is no last comma.
fn array(p: &mut Planner, parts: &[NodeId], list: List) {
    let is_comma = |p: &Planner, part: NodeId| p.is(part, Kind::Comma);
    let is_hole = |p: &Planner, pair: &[NodeId]| {
        is_comma(p, pair[1]) && (is_comma(p, pair[0]) || pair[0] == parts[0])
    };
    let has_holes = parts.windows(2).any(|pair| is_hole(p, pair));
    p.list(parts, list.collection().last_comma_if(!has_holes));
    // A hole stands as an element would.
    for pair in parts.windows(2) {
        if is_hole(p, pair) {
            let comma = p.first(pair[1]);
            match is_comma(p, pair[0]) {
                true => p.word(comma, 1),
                false => p.inside_bracket(comma, p.choices.brackets_gap),
            }
        }
    }
}

/// How many constructs around it a literal is looked for in.
const STAND_IN_DEPTH: usize = 8;

/// Where the last argument can be broken in place of the whole list: inside its literal, the body
/// of its arrow function, or, if it is the only one, its own arguments.
pub(super) fn stand_in(p: &Planner, last: NodeId, only: bool) -> Option<TokenId> {
    let (mut node, mut only) = (last, only);
    for _ in 0..STAND_IN_DEPTH {
        if let Some(gap) = inside_literal(p, node) {
            return Some(gap);
        }
        if is_markup(p, node) {
            return super::markup::opening(p, node);
        }
        let parts = p.parts(node);
        let inner = *parts.last()?;
        match Kind::at(p, node) {
            Kind::ArrowFunction | Kind::FunctionExpression
                if p.is(inner, Kind::StatementBlock) =>
            {
                return p.flat_opening(inner, Key::Lambda);
            }
            Kind::ArrowFunction => only = true,
            Kind::AwaitExpression | Kind::UnaryExpression => {}
            Kind::ParenthesizedExpression if only => {
                node = *parts.get(1)?;
                continue;
            }
            Kind::CallExpression | Kind::NewExpression if only => {
                return p.inside(inner).filter(|_| p.is(inner, Kind::Arguments));
            }
            _ => return None,
        }
        node = inner;
    }
    None
}

/// `(level, { quiet: true })`
fn arguments(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let elements = p.elements(parts);
    let last = elements.last();
    let stand_in = last.and_then(|last| stand_in(p, *last, elements.len() == 1));
    let called = p.part(p.parent(node), 0);
    let imports = called.is_some_and(|called| p.is(called, Kind::ImportFunction));
    let stays = stays_with_its_call(p, &elements);
    let list = List::new()
        .last_comma_if(!imports)
        .stand_in(stand_in)
        .closes_around_one_if(last.is_some_and(|last| brings_brackets(p, *last)))
        .own_line_if(last.is_some_and(|last| {
            gives_call(p, *last) || (is_function(p, *last) && follows_function(p, &elements))
        }))
        .by_hand_if(stays)
        .reluctant_if(
            p.is_one_short_value(&elements) && called.is_some_and(|of| follows_literal(p, of)),
        );
    let Some(group) = p.list(parts, list) else { return };
    if let Some(last) = elements.last() {
        ends_below_value(p, group, *last);
    }
}

/// A last function whose value somebody put on its own line: the closing bracket has one too.
pub(super) fn ends_below_value(p: &mut Planner, group: GroupId, last: NodeId) {
    let Some((sign, value)) = value_on_own_line(p, last) else { return };
    let tail = p.group(Shape::LastResort, sign, p.end(last));
    p.hand(last, Handed::Lines(tail));
    let own = p.group_mut(group);
    (own.tail, own.stand_in, own.own_line) = (Some(tail), Some(value), false);
}

/// Whether what is called is a member of a literal: `[low, high].join`.
fn follows_literal(p: &Planner, called: NodeId) -> bool {
    let head = p.part(called, 0).filter(|_| p.is(called, Kind::MemberExpression));
    head.is_some_and(|head| matches!(Kind::at(p, head), Kind::Array | Kind::Object))
}

/// Whether an argument opens, and ends, with its own brackets: nobody wants two pairs around its lines.
pub(super) fn brings_brackets(p: &Planner, argument: NodeId) -> bool {
    let is_literal = matches!(Kind::at(p, argument), Kind::Object | Kind::Array);
    let gives_lines = is_function(p, argument) && p.token_text(p.end(argument) - 1) == "}";
    is_literal || gives_lines
}

/// Whether a last function's block stays with its call: after a title alone, and where a literal
/// or the function's parameters can be broken instead. One a line, the block's statements would
/// only be further in.
fn stays_with_its_call(p: &Planner, arguments: &[NodeId]) -> bool {
    let [before @ .., last] = arguments else { return false };
    if !is_function(p, *last) || follows_function(p, arguments) {
        return false;
    }
    let is_title = |node: NodeId| {
        matches!(Kind::at(p, node), Kind::String | Kind::TemplateString)
    };
    let takes_parameters = |node: NodeId| {
        let parts = p.parts(node);
        let parameters = p.position(&parts, Kind::FormalParameters);
        parameters.is_some_and(|at| p.elements(&p.parts(parts[at])).len() > 1)
    };
    matches!(before, [title] if is_title(*title))
        || before.iter().any(|element| inside_literal(p, *element).is_some())
        || (!before.is_empty() && takes_parameters(*last))
}

/// Whether one of the arguments before the last one is a function.
fn follows_function(p: &Planner, arguments: &[NodeId]) -> bool {
    let before = arguments.split_last().map(|(_, before)| before);
    before.is_some_and(|before| before.iter().any(|element| is_function(p, *element)))
}

/// A function whose body is a block.
fn is_function(p: &Planner, node: NodeId) -> bool {
    let body = p.parts(node).last().copied();
    matches!(Kind::at(p, node), Kind::FunctionExpression | Kind::ArrowFunction)
        && body.is_some_and(|body| p.is(body, Kind::StatementBlock))
}

/// The sign of an arrow function whose value stands on the next line, and that value.
fn value_on_own_line(p: &Planner, node: NodeId) -> Option<(TokenId, TokenId)> {
    if !p.choices.remembers || !p.is(node, Kind::ArrowFunction) {
        return None;
    }
    let parts = p.parts(node);
    let [.., sign, body] = parts[..] else { return None };
    let value = p.first(body);
    let own_line = !p.is(body, Kind::StatementBlock) && p.broken_before(value);
    own_line.then(|| (p.first(sign), value))
}

/// `warn(level)`
fn call(p: &mut Planner, parts: &[NodeId]) {
    p.tight(parts);
    if let [.., arguments] = parts
        && p.is(*arguments, Kind::Arguments)
    {
        // Where the grammar takes a word for a name, nobody knows which of the two it is.
        match p.token_text(p.first(*arguments) - 1) {
            "await" => p.keep_gap(p.first(*arguments)),
            _ => p.parens(p.first(*arguments), p.choices.call_parens),
        }
    }
}

fn new_expression(p: &mut Planner, parts: &[NodeId]) {
    if let [_, rest @ ..] = parts
        && let Some(class) = rest.first()
    {
        call(p, rest);
        p.word(p.first(*class), 1);
    }
}

/// What a node is in a chain of calls. A point right behind a number would be its own.
fn link(p: &Planner, node: NodeId) -> Option<Link> {
    match Kind::at(p, node) {
        Kind::CallExpression => p.parts(node).last().map(|arguments| Link::Call(*arguments)),
        Kind::MemberExpression => match (p.part(node, 0), p.part(node, 1)) {
            (Some(head), Some(dot)) if !p.is(head, Kind::Number) => {
                Some(Link::Method(p.first(dot)))
            }
            _ => Some(Link::Other),
        },
        Kind::SubscriptExpression => Some(Link::Other),
        _ => None,
    }
}

/// `gauges.filter(…).map(…)`: a chain of calls, broken before each of them. The outermost node of
/// the chain plans its breaks; the nodes inside it know that they are part of one.
fn chain(p: &mut Planner, node: NodeId) {
    p.chain(node, link, stands_short, Kind::Arguments);
}

/// Whether a chain's first call stays with the name that it begins with.
fn stands_short(p: &Planner, head: NodeId) -> bool {
    let name = p.token_text(p.first(head));
    match Kind::at(p, head) {
        Kind::This | Kind::Super => true,
        Kind::Identifier => {
            name.len() <= p.style.indent_columns() || name.starts_with(char::is_uppercase)
        }
        _ => false,
    }
}

/// `gauge.level`: nothing around the point, unless a chain breaks there or a number stands before
/// it.
fn member_expression(p: &mut Planner, parts: &[NodeId]) {
    let [object, dot, rest @ ..] = parts else { return };
    let dot = p.first(*dot);
    if p.is(*object, Kind::Number) {
        return;
    }
    p.beside_dot(dot);
    for part in rest {
        p.beside_dot(p.first(*part));
    }
}

/// `gauges[0]`
fn subscript_expression(p: &mut Planner, parts: &[NodeId]) {
    let is = |part: &NodeId, bracket: &str| {
        p.end(*part) == p.first(*part) + 1 && p.token_text(p.first(*part)) == bracket
    };
    let opener = parts.iter().skip(1).position(|part| is(part, "[")).map(|at| at + 1);
    let closer = parts.iter().rposition(|part| is(part, "]"));
    let (Some(opener), Some(closer)) = (opener, closer) else { return };
    for part in &parts[1..=opener] {
        p.word(p.first(*part), 0);
    }
    // Nobody opens them but by hand.
    let inside = [opener + 1, closer].map(|part| p.first(parts[part]));
    if p.choices.remembers && p.broken_before(inside[0]) {
        p.list(&parts[opener..=closer], List::new().by_hand());
        return;
    }
    for token in inside {
        p.inside_bracket(token, p.choices.brackets_gap);
    }
}

/// Whether one of several names that get the same value stands beneath the one before: as somebody
/// put it, and where nobody broke the line, from the second break on.
fn stands_beneath(p: &Planner, node: NodeId, sign: NodeId, value: NodeId) -> bool {
    let (sign, first) = (p.first(sign), p.first(value));
    match p.broken_between(sign, first) {
        true => p.line_indent(first).len() <= p.line_indent(sign).len(),
        false => p.is(p.parent(node), Kind::AssignmentExpression),
    }
}

/// `level = 2`, `level += 2`
fn assignment(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    if let [.., _, sign, value] = parts {
        p.words(&parts[..parts.len() - 2]);
        assigned(p, p.first(*sign), *value);
        if p.is(*value, Kind::AssignmentExpression) && stands_beneath(p, node, *sign, *value) {
            p.gap(p.first(*value)).level = 0;
        }
    }
}

/// `ebb ? 1 : 2`; a chain of them is broken together.
fn ternary_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, question, yes, colon, no] = parts else { return };
    let level = p.choices.chain_steps;
    // With a line break before a comment, a parser may not see that the sign behind it goes on: breaks
    // stay as they are.
    let (kept, answers): (Vec<_>, Vec<_>) =
        [(*question, *yes), (*colon, *no)].into_iter().partition(|(sign, _)| {
            p.after_comment(p.first(*sign))
        });
    let group = p.conditional(node, &answers, Some(Key::Logic), level);
    for (sign, value) in kept {
        match p.broken_before(p.first(sign)) {
            true => p.newline(p.first(sign), group, level, Setting::IndentSize),
            false => p.keep_gap(p.first(sign)),
        }
        p.operator(p.first(value), Key::Logic);
    }
    if p.is(*no, Kind::TernaryExpression) && !stands_deeper(p, *no, p.first(*colon)) {
        p.hand(*no, Handed::Chain(group));
    }
}

/// Whether somebody put the lines of what follows a colon further in than the colon's.
pub(super) fn stands_deeper(p: &Planner, node: NodeId, colon: TokenId) -> bool {
    let question = p.parts(node).iter().skip(1).map(|part| p.first(*part)).find(|token| {
        p.token_text(*token) == "?"
    });
    p.choices.remembers
        && question.is_some_and(|question| {
            p.broken_before(question)
                && p.broken_before(colon)
                && p.gap_text(question).rsplit('\n').next().map(str::len)
                    > p.gap_text(colon).rsplit('\n').next().map(str::len)
        })
}

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["||", "??"]),
    (Key::Logic, &["&&"]),
    (Key::Shift, &["|"]),
    (Key::Shift, &["^"]),
    (Key::Shift, &["&"]),
    (Key::Compare, &["==", "!=", "===", "!=="]),
    (Key::Compare, &["<", ">", "<=", ">=", "in", "instanceof"]),
    (Key::Shift, &["<<", ">>", ">>>"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "%"]),
    (Key::Power, &["**"]),
];

fn binary_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, operator, right] = parts else { return };
    let text = p.token_text(p.first(*operator));
    let opens_angle = |p: &Planner| {
        p.is(*left, Kind::BinaryExpression)
            && p.part(*left, 1).is_some_and(|sign| p.token_text(p.first(sign)) == "<")
    };
    if text == ">" && opens_angle(p) {
        // `a < b > c` may be types to a compiler, depending on the line break behind it.
        return p.keep(node);
    }
    if text == "<" && p.is(p.parent(node), Kind::BinaryExpression) {
        let outer = p.part(p.parent(node), 1);
        if outer.is_some_and(|sign| p.token_text(p.first(sign)) == ">") {
            return p.keep(node);
        }
    }
    p.binary(Binary {
        stand_in: stand_in(p, *right, false),
        ..Binary::of(p, node, [*left, *operator, *right], OPERATORS)
    });
    // Markup that somebody opened behind the last of several conditions stays there.
    let first = p.first(*right);
    if p.choices.remembers
        && p.is_breakable(first)
        && !p.broken_before(first)
        && is_markup_in_lines(p, *right)
    {
        let blanks = p.gap(first).blanks;
        p.flat(first, blanks, Setting::OperatorGap);
    }
}

/// Whether an expression is markup in parentheses that begins on a line of its own.
fn is_markup_in_lines(p: &Planner, node: NodeId) -> bool {
    let inner = p.part(node, 1).filter(|_| p.is(node, Kind::ParenthesizedExpression));
    inner.is_some_and(|inner| is_markup(p, inner) && p.broken_before(p.first(inner)))
}

fn is_markup(p: &Planner, node: NodeId) -> bool {
    matches!(Kind::at(p, node), Kind::JsxElement | Kind::JsxSelfClosingElement)
}

/// `!ebb`, `typeof level`
fn unary_expression(p: &mut Planner, parts: &[NodeId]) {
    if let [operator, operand] = parts {
        let is_word = p.token_text(p.first(*operator)).bytes().all(|b| b.is_ascii_alphabetic());
        let operand = p.first(*operand);
        let sign = p.token_text(operand - 1);
        let fuses = p.token_text(operand).starts_with(sign);
        if sign == "!" {
            let doubled = p.token_text(operand) == "!";
            let blanks = if doubled { 0 } else { p.choices.not_gap };
            return p.flat(operand, blanks, Setting::NotGap);
        }
        p.word(operand, u8::from(is_word || (fuses && sign != "~")));
    }
}

/// `yield* readings`
fn yield_expression(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        p.word(p.first(*part), u8::from(!p.is(*part, Kind::Star)));
    }
}
