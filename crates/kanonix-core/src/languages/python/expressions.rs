//! Expressions, patterns and types, in the order of the language reference.

use super::kinds::Kind;
use crate::layout::plan::{Align, Around, Counts, GroupId, Rows, Shape, Slight};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, Link, List, Operators};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The context of a node inside brackets, where a line may be broken.
const IN_BRACKETS: u8 = 1;

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    super::parentheses::declare(p, node);
    match kind {
        Kind::Parameters => bracketed(p, node, parts, List::new().declaration()),
        Kind::ArgumentList => argument_list(p, node, parts),
        Kind::DefaultParameter | Kind::KeywordArgument | Kind::KeywordPattern => {
            for part in parts.iter().skip(1) {
                p.operator(p.first(*part), Key::Default);
            }
        }
        Kind::TypedDefaultParameter => {
            p.pair(parts, Key::Type);
            if let [.., sign, value] = parts {
                p.sign(*sign, *value, Key::Assign);
            }
        }
        Kind::TypeParameter => type_parameter(p, node, parts),
        Kind::UnionType | Kind::UnionPattern => operands(p, parts, Key::Shift),
        Kind::ComplexPattern => operands(p, parts, Key::Sum),
        Kind::ClassPattern => class_pattern(p, node, parts),
        Kind::DictPattern => dict_pattern(p, node, parts),
        Kind::CasePattern => case_pattern(p, parts),
        Kind::Tuple | Kind::TuplePattern => tuple(p, node, parts),
        Kind::List | Kind::ListPattern | Kind::Set => {
            bracketed(p, node, parts, List::new().collection());
        }
        Kind::Dictionary => {
            bracketed(p, node, parts, List::new().collection().of_pairs());
        }
        Kind::ListComprehension
        | Kind::DictionaryComprehension
        | Kind::SetComprehension
        | Kind::GeneratorExpression => comprehension(p, node, parts),
        Kind::ParenthesizedExpression | Kind::ParenthesizedListSplat => {
            parenthesized(p, node, parts);
        }
        Kind::NamedExpression => operands(p, parts, Key::Assign),
        Kind::BooleanOperator | Kind::BinaryOperator => binary(p, node, parts),
        Kind::ComparisonOperator => comparison(p, node, parts),
        Kind::Lambda => lambda(p, parts),
        Kind::Assignment | Kind::AugmentedAssignment => assignment(p, parts),
        Kind::Attribute => {
            chain(p, node);
            attribute(p, parts);
        }
        Kind::Subscript => subscript(p, node, parts),
        Kind::Slice => slice(p, parts),
        Kind::Call => {
            chain(p, node);
            if let [_, arguments] = parts {
                p.parens(p.first(*arguments), p.choices.call_parens);
            }
        }
        Kind::ConditionalExpression => {
            p.conditional_by_words(node, parts, in_brackets(p, node));
        }
        Kind::ConcatenatedString => concatenated_string(p, node, parts),
        Kind::ExpressionList => p.commas(parts),
        Kind::String => string(p, node),
        _ => return false,
    }
    true
}

pub(super) fn in_brackets(p: &Planner, node: NodeId) -> bool {
    p.context(node) == IN_BRACKETS
}

/// A list in brackets.
fn bracketed(p: &mut Planner, node: NodeId, parts: &[NodeId], list: List) {
    p.set_context(node, IN_BRACKETS);
    p.list(parts, list.last_comma_if(!ends_in_starred_call(p, parts)));
}

/// `[*read(path)]`: the grammar reads the star as part of the called name here, and as what it is
/// once a comma follows, so a comma could not be proved to change nothing.
fn ends_in_starred_call(p: &Planner, parts: &[NodeId]) -> bool {
    let last = parts.iter().rev().skip(1).find(|part| !p.is(**part, Kind::Comma));
    last.is_some_and(|last| {
        p.token_text(p.first(*last)) == "*"
            && !matches!(Kind::at(p, *last), Kind::ListSplat | Kind::ListSplatPattern)
    })
}

/// `(level, unit="m", *rest)`; a single generator may stand without parentheses of its own.
fn argument_list(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.set_context(node, IN_BRACKETS);
    let stand_in = match p.elements(parts)[..] {
        [only] => inside_literal(p, only),
        _ => None,
    };
    p.list(parts, List::new().last_comma().stand_in(stand_in));
}

/// The first gap inside a display with something in it.
fn inside_literal(p: &Planner, node: NodeId) -> Option<TokenId> {
    matches!(
        Kind::at(p, node),
        Kind::List
            | Kind::Dictionary
            | Kind::Set
            | Kind::ListComprehension
            | Kind::DictionaryComprehension
            | Kind::SetComprehension
    )
    .then(|| p.inside(node))
    .flatten()
}

/// Operands and operators in turn, on one line.
fn operands(p: &mut Planner, parts: &[NodeId], key: Key) {
    for part in parts.iter().skip(1) {
        p.operator(p.first(*part), key);
    }
    // A sign before the first operand belongs to it.
    if parts.first().is_some_and(|part| p.token_text(p.first(*part)) == "-") && parts.len() > 1 {
        p.word(p.first(parts[1]), 0);
    }
}

/// `Gauge(kind="float")`
fn class_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    if let [_, list @ ..] = parts
        && let Some(opener) = list.first()
    {
        p.word(p.first(*opener), 0);
        bracketed(p, node, list, List::new());
    }
}

/// `{"kind": kind, **rest}`
fn dict_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.set_context(node, IN_BRACKETS);
    p.list(parts, List::new().collection().opens_around_lines());
    for pair in parts.windows(2) {
        let [before, part] = pair else { continue };
        if p.is(*part, Kind::Colon) {
            p.before_pair_sign(p.first(*part), Key::Value);
        } else if p.is(*before, Kind::Colon) {
            p.after_pair_sign(p.first(*part), Key::Value);
        }
    }
}

/// `-1`, `ebb`
fn case_pattern(p: &mut Planner, parts: &[NodeId]) {
    match parts {
        [sign, number] if p.token_text(p.first(*sign)) == "-" => p.word(p.first(*number), 0),
        _ => p.commas(parts),
    }
}

/// `[str]` behind a generic type; as in a subscript, a comma at its end would make it a tuple.
fn type_parameter(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.set_context(node, IN_BRACKETS);
    p.list(parts, List::new().reluctant_if(is_given_back(p, node)));
}

/// Types that are deeper in one, each by several nodes, are not asked about.
const DEEPEST_TYPE: usize = 40;

/// Whether a type, or a part of one, is what a function with parameters gives back: these open first.
fn is_given_back(p: &Planner, node: NodeId) -> bool {
    let mut at = node;
    for _ in 0..DEEPEST_TYPE {
        let around = p.parent(at);
        match Kind::at(p, around) {
            Kind::FunctionDefinition => {
                let before = |steps: TokenId| {
                    p.first(at).checked_sub(steps).map_or("", |token| p.token_text(token))
                };
                return before(1) == "->" && before(2) == ")" && before(3) != "(";
            }
            Kind::Type
            | Kind::GenericType
            | Kind::TypeParameter
            | Kind::Subscript
            | Kind::BinaryOperator
            | Kind::UnionType => at = around,
            _ => return false,
        }
    }
    false
}

/// `(1, 2)`; the comma of a single element makes the tuple and always stays.
fn tuple(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.set_context(node, IN_BRACKETS);
    let single = parts.len() <= 4;
    let may_have_comma = !single && !ends_in_starred_call(p, parts);
    p.list(parts, List::new().collection().last_comma_if(may_have_comma));
}

/// `[level for level in levels if level]`; broken before each clause.
fn comprehension(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.set_context(node, IN_BRACKETS);
    let [opener, body, clauses @ .., closer] = parts else { return };
    let group = enclosed(p, [*opener, *body, *closer], Key::Collection);
    p.group_mut(group).rows = Rows::Bracketed;
    for clause in clauses {
        p.may_break(p.first(*clause), group, 1, 1, Setting::WordGap);
    }
}

/// One thing between two brackets.
fn enclosed(p: &mut Planner, parts: [NodeId; 3], key: Key) -> GroupId {
    let blanks = p.inner_gap(p.first(parts[0]));
    p.enclosed(Shape::Chain, parts, blanks, key)
}

/// `(ebb or flood)`; broken inside its parentheses.
fn parenthesized(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.set_context(node, IN_BRACKETS);
    let [opener, inner, closer] = parts else { return };
    let group = enclosed(p, [*opener, *inner, *closer], Key::Condition);
    p.group_mut(group).stand_in = inside_literal(p, *inner);
    p.group_mut(group).header = matches!(
        Kind::at(p, p.parent(node)),
        Kind::IfStatement | Kind::ElifClause | Kind::WhileStatement
    );
    if p.is(*inner, Kind::ConcatenatedString) && p.group_mut(group).align == Align::Step {
        p.group_mut(group).around = Around::OneLine;
    }
}

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["or"]),
    (Key::Logic, &["and"]),
    (Key::Shift, &["|"]),
    (Key::Shift, &["^"]),
    (Key::Shift, &["&"]),
    (Key::Shift, &["<<", ">>"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "//", "%", "@"]),
    (Key::Power, &["**"]),
];

fn binary(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, operator, right] = parts else { return };
    p.binary(Binary {
        breakable: in_brackets(p, node),
        stand_in: inside_literal(p, *right),
        ..Binary::of(p, node, [*left, *operator, *right], OPERATORS)
    });
}

/// `low < level <= high`, `level is not None`
fn comparison(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let breakable = in_brackets(p, node);
    let group = breakable.then(|| p.leading_chain(node, Key::Condition));
    if let Some(group) = group {
        p.group_mut(group).slight = Slight::Usual;
    }
    for pair in parts[1..].chunks(2) {
        let [operator, right] = pair else { continue };
        let (operator, right) = (p.first(*operator), p.first(*right));
        let is_word = p.token_text(operator).starts_with(|c: char| c.is_ascii_alphabetic());
        let beside = |token| match is_word {
            true => 1,
            false => p.beside(token, Key::Compare),
        };
        let (before, after) = (beside(operator), beside(right));
        let setting = if is_word { Setting::WordGap } else { Setting::OperatorGap };
        match group {
            Some(group) => {
                p.break_beside(group, node, (operator, before), (right, after), setting);
            }
            None => {
                p.flat(operator, before, setting);
                p.flat(right, after, setting);
            }
        }
    }
}

/// `lambda level, unit="m": level`
fn lambda(p: &mut Planner, parts: &[NodeId]) {
    let Some(colon) = p.position(parts, Kind::Colon) else { return };
    p.words(&parts[..colon]);
    p.word(p.first(parts[colon]), 0);
    if let Some(body) = parts.get(colon + 1) {
        p.word(p.first(*body), 1);
    }
}

/// `level: float = 2`, `level += 2`
fn assignment(p: &mut Planner, parts: &[NodeId]) {
    for pair in parts.windows(2) {
        let [before, part] = pair else { continue };
        let token = p.first(*part);
        if p.is(*part, Kind::Colon) {
            p.before_pair_sign(token, Key::Type);
        } else if p.is(*before, Kind::Colon) {
            p.after_pair_sign(token, Key::Type);
        } else {
            p.operator(token, Key::Assign);
        }
    }
}

fn link(p: &Planner, node: NodeId) -> Option<Link> {
    match Kind::at(p, node) {
        Kind::Call => p.parts(node).last().map(|arguments| Link::Call(*arguments)),
        Kind::Attribute => p.part(node, 1).map(|dot| Link::Method(p.first(dot))),
        Kind::Subscript => Some(Link::Other),
        _ => None,
    }
}

/// `gauges.filter(…).order_by(…)` inside brackets: broken before each call.
fn chain(p: &mut Planner, node: NodeId) {
    if p.is_link(node) {
        return;
    }
    let links = p.links(node, link);
    p.hand_links(&links);
    let worth = links.dots.len() > 2 || (links.dots.len() == 2 && links.by_hand);
    if worth && in_brackets(p, node) {
        let group = p.leading_chain(node, Key::Condition);
        p.break_links_as_opened(&links, group);
    }
}

fn attribute(p: &mut Planner, parts: &[NodeId]) {
    let [object, dot, name] = parts else { return };
    if p.is(*object, Kind::Integer) || p.is(*object, Kind::Float) {
        return;
    }
    p.beside_dot(p.first(*dot));
    p.beside_dot(p.first(*name));
}

/// `levels[1:, 2]`; a comma at its end would make it a tuple.
fn subscript(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    chain(p, node);
    let [_, brackets @ ..] = parts else { return };
    let Some(opener) = brackets.first() else { return };
    p.word(p.first(*opener), 0);
    p.set_context(node, IN_BRACKETS);
    // A line of its own makes no name and no number shorter.
    let is_trivial = matches!(brackets, [_, inner, _] if p.end(*inner) == p.first(*inner) + 1);
    let is_given_back = is_given_back(p, node);
    p.list(brackets, List::new().by_hand_if(is_trivial).reluctant_if(is_given_back));
}

/// `first:last:step`: nothing around the colons of plain bounds, a blank on each side of the
/// others, as PEP 8 has it for the operator with the lowest priority. Of names with points, calls
/// and signs it says nothing: colons with the same on each side of them stay as they stand.
fn slice(p: &mut Planner, parts: &[NodeId]) {
    let is_plain = |p: &Planner, part: NodeId| {
        matches!(Kind::at(p, part), Kind::Identifier | Kind::Integer | Kind::Colon)
    };
    let is_open = |p: &Planner, part: NodeId| {
        is_plain(p, part)
            || matches!(
                Kind::at(p, part),
                Kind::Attribute | Kind::UnaryOperator | Kind::Call | Kind::Subscript
            )
    };
    let both_colons =
        |p: &Planner, pair: &[NodeId]| p.is(pair[0], Kind::Colon) && p.is(pair[1], Kind::Colon);
    let present: Vec<&str> = parts
        .windows(2)
        .filter(|pair| !both_colons(p, pair))
        .map(|pair| p.gap_text(p.first(pair[1])))
        .collect();
    let alike = present.windows(2).all(|pair| pair[0] == pair[1]);
    let plain = parts.iter().all(|part| is_plain(p, *part));
    let open = !plain && parts.iter().all(|part| is_open(p, *part));
    if open && alike && present.first().is_some_and(|gap| matches!(*gap, "" | " ")) {
        for pair in parts.windows(2).filter(|pair| !both_colons(p, pair)).collect::<Vec<_>>() {
            p.keep_gap(p.first(pair[1]));
        }
        return;
    }
    let gap = u8::from(!plain && !open);
    for pair in parts.windows(2) {
        let blanks = if both_colons(p, pair) { 0 } else { gap };
        p.word(p.first(pair[1]), blanks);
    }
}

/// `"ebb" "flood"`: one a line inside brackets, where they stand so.
fn concatenated_string(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    if !in_brackets(p, node) {
        return;
    }
    let group = p.leading_chain(node, Key::Condition);
    p.group_mut(group).counts = Counts::Leading(0);
    p.group_mut(group).rows = Rows::Loose;
    for part in parts.iter().skip(1) {
        p.may_break(p.first(*part), group, 1, 1, Setting::WordGap);
    }
}

/// A string's quotes; three of them are a documentation string's, and stay.
fn string(p: &mut Planner, node: NodeId) {
    let token = p.first(node);
    let text = p.token_text(token);
    let prefix = text.bytes().take_while(u8::is_ascii_alphabetic).count();
    let quoted = &text[prefix..];
    if !quoted.starts_with("\"\"\"") && !quoted.starts_with("'''") {
        p.quotes(token, prefix, Setting::Quotes);
    }
}
