//! Expressions, in the grammar's order.

use super::declarations::{go_on, stays_empty};
use super::kinds::Kind;
use crate::layout::plan::{Align, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, Handed, Link, List, Operators};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId, Tree};

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::StringLiteral
        | Kind::CharacterLiteral
        | Kind::VerbatimStringLiteral
        | Kind::RawStringLiteral
        | Kind::InterpolatedStringExpression => {}
        Kind::AssignmentExpression | Kind::WithInitializer => {
            if let [_, sign, value] = parts {
                assigned(p, p.first(*sign), *value, p.first(node));
            }
        }
        Kind::LetClause => {
            if let [_, name, sign, value] = parts {
                p.word(p.first(*name), 1);
                assigned(p, p.first(*sign), *value, p.first(node));
            }
        }
        Kind::BinaryExpression | Kind::IsExpression | Kind::AsExpression => {
            binary_expression(p, node, parts);
        }
        Kind::IsPatternExpression => is_pattern(p, node, parts),
        Kind::ConditionalExpression => conditional_expression(p, node, parts),
        Kind::LambdaExpression => lambda_expression(p, node, parts),
        Kind::AnonymousMethodExpression => anonymous_method(p, node, parts),
        Kind::PrefixUnaryExpression => prefix_unary(p, parts),
        Kind::RangeExpression => {
            for part in parts.iter().skip(1) {
                let token = p.first(*part);
                match p.choices.operator_gaps.of(Key::Range) {
                    Some(blanks) => p.flat(token, blanks, Setting::OperatorGap),
                    None => p.keep_gap(token),
                }
            }
        }
        // Both are common, and no guide speaks of it.
        Kind::SpreadElement => parts.iter().skip(1).for_each(|part| p.keep_gap(p.first(*part))),
        Kind::CastExpression => {
            if let [_, inner, closer, value] = parts {
                p.inside_bracket(p.first(*inner), p.choices.parens_gap);
                p.inside_bracket(p.first(*closer), p.choices.parens_gap);
                p.behind_cast(node, p.first(*value));
            }
        }
        Kind::ParenthesizedExpression => parenthesized(p, parts),
        Kind::InvocationExpression
        | Kind::MemberAccessExpression
        | Kind::ElementAccessExpression
        | Kind::ConditionalAccessExpression => {
            chain(p, node);
            access(p, parts);
        }
        Kind::MemberBindingExpression => p.tight(parts),
        Kind::ObjectCreationExpression | Kind::ImplicitObjectCreationExpression => {
            creation(p, node, parts);
        }
        Kind::ArrayCreationExpression
        | Kind::StackallocExpression
        | Kind::ImplicitArrayCreationExpression
        | Kind::ImplicitStackallocExpression => array_creation(p, node, parts),
        Kind::InitializerExpression => {
            let with = p.handed_block(node);
            if stays_empty(p, parts, p.first(node)) {
                return true;
            }
            p.list(parts, List::new().collection().last_comma().with(with));
        }
        Kind::AnonymousObjectCreationExpression => {
            let list = List::new().collection().last_comma();
            braced(p, node, parts, 1, list);
        }
        Kind::SwitchExpression => braced(p, node, parts, 2, List::new().members().last_comma()),
        Kind::WithExpression => {
            braced(p, node, parts, 2, List::new().collection().last_comma());
        }
        Kind::SwitchExpressionArm => {
            p.words(parts);
            if let [.., arrow, value] = parts {
                p.given(p.first(*arrow), *value, 1, hugs(p, *value));
            }
        }
        Kind::CollectionExpression => {
            p.list(parts, List::new().collection().last_comma());
        }
        Kind::TupleExpression | Kind::ArgumentList => arguments(p, parts),
        Kind::BracketedArgumentList | Kind::ElementBindingExpression => {
            let is_name = p.is_one_token(&p.elements(parts));
            p.list(parts, List::new().by_hand_if(is_name));
        }
        Kind::Argument => argument(p, parts),
        Kind::DefaultExpression
        | Kind::SizeofExpression
        | Kind::TypeofExpression
        | Kind::CheckedExpression
        | Kind::MakerefExpression
        | Kind::ReftypeExpression
        | Kind::RefvalueExpression => word_call(p, parts),
        Kind::QueryExpression => query(p, node, parts),
        Kind::OrderByClause => {
            p.words(parts);
            for part in parts {
                if p.is_separator(*part) {
                    p.word(p.first(*part), 0);
                }
            }
        }
        _ => return false,
    }
    true
}

/// A value after its sign; `header` begins what it is assigned in.
pub(super) fn assigned(p: &mut Planner, sign: TokenId, value: NodeId, header: TokenId) {
    if p.is(value, Kind::InitializerExpression) {
        p.operator(sign, Key::Assign);
        return p.open_values(value, header, Key::Collection);
    }
    p.assigned_in_steps(sign, value);
}

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["??"]),
    (Key::Logic, &["||"]),
    (Key::Logic, &["&&"]),
    (Key::Shift, &["|"]),
    (Key::Shift, &["^"]),
    (Key::Shift, &["&"]),
    (Key::Compare, &["==", "!="]),
    (Key::Compare, &["<", ">", "<=", ">=", "is", "as"]),
    (Key::Shift, &["<<", ">>", ">>>"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "%"]),
];

fn binary_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, operator, right] = parts else { return };
    p.binary(Binary {
        stand_in: stand_in(p, *right, false),
        ..Binary::of(p, node, [*left, *operator, *right], OPERATORS)
    });
}

/// `mark is Gauge gauge`; a pattern that has parts is broken between them.
fn is_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let has_parts = parts.last().is_some_and(|pattern| {
        matches!(
            Kind::at(p, *pattern),
            Kind::RecursivePattern
                | Kind::ListPattern
                | Kind::AndPattern
                | Kind::OrPattern
                | Kind::ParenthesizedPattern
        )
    });
    // `mark is Ebb || mark is Flood`, which the grammar reads as if the signs were the pattern's.
    let signs = parts.last().filter(|pattern| p.is(**pattern, Kind::ConstantPattern));
    let signs = signs.and_then(|pattern| p.part(*pattern, 0));
    match signs.filter(|signs| p.is(*signs, Kind::BinaryExpression)) {
        Some(signs) => {
            let group = match p.handed_chain(node) {
                Some(group) => group,
                None => p.leading_chain(node, Key::Condition),
            };
            p.hand(signs, Handed::Chain(group));
            p.words(parts);
        }
        None if has_parts => p.words(parts),
        None => binary_expression(p, node, parts),
    }
}

/// `ebb ? 1 : 2`; a chain of them is broken together.
fn conditional_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, question, yes, colon, no] = parts else { return };
    let level = p.choices.chain_steps;
    let answers = [(*question, *yes), (*colon, *no)];
    let group = p.conditional(node, &answers, Some(Key::Logic), level);
    if p.is(*no, Kind::ConditionalExpression) {
        p.hand(*no, Handed::Chain(group));
    }
}

/// Whether what stands behind an arrow opens on its line.
pub(super) fn hugs(p: &Planner, value: NodeId) -> bool {
    match Kind::at(p, value) {
        Kind::LambdaExpression
        | Kind::AnonymousMethodExpression
        | Kind::AnonymousObjectCreationExpression
        | Kind::ParenthesizedExpression
        | Kind::ConditionalExpression
        | Kind::CollectionExpression
        | Kind::SwitchExpression
        | Kind::WithExpression => true,
        _ => p.parts(value).last().is_some_and(|last| p.is(*last, Kind::InitializerExpression)),
    }
}

/// `async level => level * 2`, `(int level) => { … }`
fn lambda_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [head @ .., arrow, body] = parts else { return };
    p.words(head);
    let arrow = p.first(*arrow);
    p.word(arrow, 1);
    if p.is(*body, Kind::Block) {
        return p.open_block(*body, p.first(node), Key::Lambda);
    }
    p.given(arrow, *body, p.choices.chain_steps, hugs(p, *body));
}

/// `delegate (int level) { … }`
fn anonymous_method(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    for part in parts.iter().skip(1) {
        match Kind::at(p, *part) {
            Kind::ParameterList => p.parens(p.first(*part), p.choices.lambda_parens),
            Kind::Block => p.open_block(*part, p.first(node), Key::Lambda),
            _ => {}
        }
    }
}

/// `!ebb`, `-level`, `*level`, `^1`
fn prefix_unary(p: &mut Planner, parts: &[NodeId]) {
    let [operator, operand] = parts else { return };
    let (sign, operand) = (p.token_text(p.first(*operator)), p.first(*operand));
    if sign == "!" {
        let doubled = p.token_text(operand) == "!";
        let blanks = if doubled { 0 } else { p.choices.not_gap };
        return p.flat(operand, blanks, Setting::NotGap);
    }
    let fuses = matches!(sign, "+" | "-" | "&") && p.token_text(operand).starts_with(sign);
    p.word(operand, u8::from(fuses));
}

/// `(ebb || flood)`; broken inside its parentheses.
fn parenthesized(p: &mut Planner, parts: &[NodeId]) {
    let [opener, inner, closer] = parts else { return };
    let gap = p.choices.parens_gap;
    let group = p.enclosed(Shape::Chain, [*opener, *inner, *closer], gap, Key::Condition);
    p.group_mut(group).stand_in = stand_in(p, *inner, true);
}

/// How many constructs around it a literal is looked for in.
const STAND_IN_DEPTH: usize = 8;

/// Where the last argument can be broken in place of the whole list: inside its literal, the body
/// of its lambda or, if it is the only one, its own arguments.
fn stand_in(p: &Planner, last: NodeId, only: bool) -> Option<TokenId> {
    let (mut node, mut only) = (last, only);
    for _ in 0..STAND_IN_DEPTH {
        let inner = *p.parts(node).last()?;
        match Kind::at(p, node) {
            Kind::InitializerExpression => return p.values_opening(node, Key::Collection),
            Kind::CollectionExpression => return p.inside(node),
            Kind::LambdaExpression | Kind::AnonymousMethodExpression
                if p.is(inner, Kind::Block) =>
            {
                return p.flat_opening(inner, Key::Lambda);
            }
            Kind::LambdaExpression => only = true,
            Kind::Argument
            | Kind::AwaitExpression
            | Kind::ArrayCreationExpression
            | Kind::ImplicitArrayCreationExpression => {}
            Kind::ObjectCreationExpression | Kind::ImplicitObjectCreationExpression
                if p.is(inner, Kind::InitializerExpression) =>
            {}
            Kind::InvocationExpression
            | Kind::ObjectCreationExpression
            | Kind::ImplicitObjectCreationExpression
                if only =>
            {
                return p.inside(inner).filter(|_| p.is(inner, Kind::ArgumentList));
            }
            _ => return None,
        }
        node = inner;
    }
    None
}

/// Whether an argument is a function whose block stays with its call.
fn is_function(p: &Planner, argument: NodeId) -> bool {
    let Some(value) = p.parts(argument).last().copied() else { return false };
    let body = p.parts(value).last().map(|body| Kind::at(p, *body));
    matches!(Kind::at(p, value), Kind::LambdaExpression | Kind::AnonymousMethodExpression)
        && body == Some(Kind::Block)
}

/// `(level, gauge => { … })`
fn arguments(p: &mut Planner, parts: &[NodeId]) {
    let elements = p.elements(parts);
    let stand_in = elements.last().and_then(|last| stand_in(p, *last, elements.len() == 1));
    let gives_call = |last: &NodeId| {
        let mut value = p.parts(*last).last().copied();
        let goes_on = |value: &NodeId| {
            matches!(Kind::at(p, *value), Kind::LambdaExpression | Kind::AwaitExpression)
        };
        if let Some(outer) = value.filter(goes_on) {
            value = p.parts(outer).last().copied();
        }
        value.is_some_and(|value| {
            matches!(
                Kind::at(p, value),
                Kind::InvocationExpression
                    | Kind::ObjectCreationExpression
                    | Kind::ImplicitObjectCreationExpression
            )
        })
    };
    let own_line = elements.last().is_some_and(gives_call);
    let list = List::new().stand_in(stand_in).own_line_if(own_line);
    p.list(parts, list.last_function(&elements, |one| is_function(p, *one)));
}

/// `level`, `at: 2`, `out int level`
fn argument(p: &mut Planner, parts: &[NodeId]) {
    p.words(parts);
    if let [_, sign, _, ..] = parts
        && p.is(*sign, Kind::Colon)
    {
        p.pair(parts, Key::Value);
    }
}

/// `typeof(Gauge)`, `default`
fn word_call(p: &mut Planner, parts: &[NodeId]) {
    let [_, opener, inner @ ..] = parts else { return };
    p.commas(inner);
    p.parens(p.first(*opener), p.choices.call_parens);
    for edge in inner.first().into_iter().chain(inner.last()) {
        p.inside_bracket(p.first(*edge), p.choices.parens_gap);
    }
}

/// `gauge.Read(2)`, `gauge?.Level`, `gauges[0]`: nothing around a point, unless a chain breaks there.
fn access(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match Kind::at(p, *part) {
            Kind::ArgumentList => p.parens(token, p.choices.call_parens),
            _ => p.beside_dot(token),
        }
    }
}

/// `new Gauge(2) { Level = 3 }`, `new(2)`
fn creation(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        match Kind::at(p, *part) {
            Kind::ArgumentList => p.parens(p.first(*part), p.choices.call_parens),
            Kind::InitializerExpression => {
                p.open_values(*part, p.first(node), Key::Collection);
            }
            _ => p.word(p.first(*part), 1),
        }
    }
}

/// Whether braces are an entry of a collection that is filled as it is made: `{ "mole", 2 }`. The language
/// allows no comma behind the last value there, unlike in rows of arrays.
pub(super) fn is_entry(tree: &Tree, node: NodeId) -> bool {
    let around = |at: NodeId| tree.nodes[at as usize].parent;
    let kind = |at: NodeId| Kind::of(tree.nodes[at as usize].kind);
    let is_braces = |at: &NodeId| kind(*at) == Kind::InitializerExpression;
    if !is_braces(&node) || !is_braces(&around(node)) {
        return false;
    }
    let outward = std::iter::successors(Some(around(node)), |at| Some(around(*at)));
    let filled = outward.skip_while(is_braces).next().map(kind);
    matches!(
        filled,
        Some(
            Kind::ObjectCreationExpression
                | Kind::ImplicitObjectCreationExpression
                | Kind::AssignmentExpression
        )
    )
}

/// `new int[] { 1, 2 }`, `new[] { 1 }`, `stackalloc int[2]`
fn array_creation(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match Kind::at(p, *part) {
            Kind::InitializerExpression => {
                p.open_values(*part, p.first(node), Key::Collection);
            }
            kind => p.word(token, u8::from(kind == Kind::ArrayType)),
        }
    }
}

/// `new { Level = 2 }`, `gauge with { Level = 2 }`, `level switch { … }`: words, and from `brace` on a
/// list whose braces are no node of their own.
fn braced(p: &mut Planner, node: NodeId, parts: &[NodeId], brace: usize, list: List) {
    let Some((head, values)) = parts.split_at_checked(brace) else { return };
    p.words(head);
    let Some(opener) = values.first().map(|opener| p.first(*opener)) else { return };
    let with = p.open_list(opener, p.end(node), p.first(node), Key::Collection);
    if stays_empty(p, values, p.first(node)) {
        return;
    }
    p.list(values, list.with(with));
    go_on(p, values);
    for pair in values.windows(3) {
        if p.is(pair[1], Kind::Equals) {
            assigned(p, p.first(pair[1]), pair[2], p.first(pair[0]));
        }
    }
}

/// `from gauge in gauges where gauge.Ebb select gauge`: each part under the first, where the whole
/// does not fit.
fn query(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.leading_chain(node, Key::Condition);
    p.group_mut(group).align = Align::Bracket;
    let mut before = Kind::Other;
    for part in parts.iter().skip(1) {
        let (token, kind) = (p.first(*part), Kind::at(p, *part));
        match before {
            Kind::Into => p.word(token, 1),
            _ => p.may_break(token, group, p.choices.chain_steps, 1, Setting::WordGap),
        }
        before = kind;
    }
}

/// What a node is in a chain of calls.
fn link(p: &Planner, node: NodeId) -> Option<Link> {
    match Kind::at(p, node) {
        Kind::InvocationExpression => p.part(node, 1).map(Link::Call),
        Kind::ConditionalAccessExpression
            if p.part(node, 2).is_some_and(|part| p.is(part, Kind::ElementBindingExpression)) =>
        {
            Some(Link::Other)
        }
        Kind::MemberAccessExpression | Kind::ConditionalAccessExpression => {
            p.part(node, 1).map(|mark| Link::Method(p.first(mark)))
        }
        Kind::ElementAccessExpression => Some(Link::Other),
        _ => None,
    }
}

/// `gauges.Where(…).Select(…)`: the first call stays with a name.
fn chain(p: &mut Planner, node: NodeId) {
    let is_name = |p: &Planner, head| matches!(
        Kind::at(p, head),
        Kind::Identifier | Kind::This | Kind::Base
    );
    if let Some(links) = p.chain(node, link, is_name, Kind::ArgumentList) {
        p.lone_link(node, &links, Kind::ArgumentList);
    }
}
