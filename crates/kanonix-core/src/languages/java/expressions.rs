//! Expressions, in the grammar's order.

use super::kinds::Kind;
use crate::layout::plan::Shape;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, Handed, Link, List, Operators};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// A chain of more calls than these is broken at its points.
const FEW_CALLS: usize = 2;

/// The rule for an expression; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::StringLiteral | Kind::CharacterLiteral => {}
        Kind::AssignmentExpression => {
            if let [_, sign, value] = parts {
                assigned(p, p.first(*sign), *value);
            }
        }
        Kind::BinaryExpression => binary_expression(p, node, parts),
        Kind::InstanceofExpression => instanceof_expression(p, node, parts),
        Kind::LambdaExpression => lambda_expression(p, node, parts),
        Kind::TernaryExpression => ternary_expression(p, node, parts),
        Kind::UnaryExpression => unary_expression(p, parts),
        Kind::CastExpression => cast_expression(p, node, parts),
        Kind::ParenthesizedExpression => parenthesized(p, node, parts),
        Kind::MethodInvocation => {
            chain(p, node);
            invocation(p, parts);
        }
        Kind::ExplicitConstructorInvocation => invocation(p, parts),
        Kind::FieldAccess => {
            chain(p, node);
            invocation(p, parts);
        }
        Kind::ArrayAccess => {
            chain(p, node);
            if let [_, opener, inner, closer] = parts {
                p.word(p.first(*opener), 0);
                p.inside_bracket(p.first(*inner), p.choices.brackets_gap);
                p.inside_bracket(p.first(*closer), p.choices.brackets_gap);
            }
        }
        Kind::ObjectCreationExpression => creation(p, node, parts),
        Kind::ArrayCreationExpression => array_creation(p, parts),
        Kind::ArrayInitializer | Kind::ElementValueArrayInitializer => {
            p.list(parts, List::new().collection().last_comma());
        }
        Kind::ArgumentList => arguments(p, parts),
        _ => return false,
    }
    true
}

/// A value after its sign.
pub(super) fn assigned(p: &mut Planner, sign: TokenId, value: NodeId) {
    p.assigned_in_steps(sign, value);
    // As the code conventions have it, higher levels are broken before lower ones; but a chain of calls
    // at its points.
    let is_call = matches!(
        Kind::at(p, value),
        Kind::MethodInvocation | Kind::ObjectCreationExpression
    );
    let links = p.links(value, link);
    if is_call && links.dots.len() <= FEW_CALLS && !links.by_hand {
        p.assigned_to_fit(value);
    }
}

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["||"]),
    (Key::Logic, &["&&"]),
    (Key::Shift, &["|"]),
    (Key::Shift, &["^"]),
    (Key::Shift, &["&"]),
    (Key::Compare, &["==", "!="]),
    (Key::Compare, &["<", ">", "<=", ">=", "instanceof"]),
    (Key::Shift, &["<<", ">>", ">>>"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/", "%"]),
];

/// `mark instanceof Gauge`, `mark instanceof final Gauge gauge`
fn instanceof_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    binary_expression(p, node, parts);
}

fn binary_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [left, operator, right, ..] = parts else { return };
    p.binary(Binary {
        stand_in: stand_in(p, *right, false),
        ..Binary::of(p, node, [*left, *operator, *right], OPERATORS)
    });
}

/// `level -> level * 2`
fn lambda_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, arrow, body] = parts else { return };
    let arrow = p.first(*arrow);
    p.word(arrow, 1);
    if p.is(*body, Kind::Block) {
        p.open_block(*body, p.first(node), Key::Lambda);
    } else {
        let hugs = matches!(
            Kind::at(p, *body),
            Kind::LambdaExpression | Kind::ParenthesizedExpression | Kind::TernaryExpression
        );
        p.given(arrow, *body, p.choices.chain_steps, hugs);
    }
}

/// `ebb ? 1 : 2`; a chain of them is broken together.
fn ternary_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, question, yes, colon, no] = parts else { return };
    let level = p.choices.chain_steps;
    let answers = [(*question, *yes), (*colon, *no)];
    let group = p.conditional(node, &answers, Some(Key::Logic), level);
    if p.is(*no, Kind::TernaryExpression) {
        p.hand(*no, Handed::Chain(group));
    }
}

/// `!ebb`, `-level`
fn unary_expression(p: &mut Planner, parts: &[NodeId]) {
    let [operator, operand] = parts else { return };
    let (sign, operand) = (p.token_text(p.first(*operator)), p.first(*operand));
    if sign == "!" {
        let doubled = p.token_text(operand) == "!";
        let blanks = if doubled { 0 } else { p.choices.not_gap };
        return p.flat(operand, blanks, Setting::NotGap);
    }
    let fuses = sign != "~" && p.token_text(operand).starts_with(sign);
    p.word(operand, u8::from(fuses));
}

/// `(int) level`, `(Runnable & Serializable) task`
fn cast_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(closer) = p.position(parts, Kind::CloseParen) else { return };
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        match index {
            1 => p.inside_bracket(token, p.choices.parens_gap),
            _ if index == closer => p.inside_bracket(token, p.choices.parens_gap),
            _ if index == closer + 1 => p.behind_cast(node, token),
            _ => p.word(token, 1),
        }
    }
}

/// `(ebb || flood)`; broken inside its parentheses.
fn parenthesized(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [opener, inner, closer] = parts else { return };
    let group = p.enclosed(
        Shape::Chain,
        [*opener, *inner, *closer],
        p.choices.parens_gap,
        Key::Condition,
    );
    p.group_mut(group).stand_in = stand_in(p, *inner, true);
    p.group_mut(group).header = matches!(
        Kind::at(p, p.parent(node)),
        Kind::IfStatement
            | Kind::WhileStatement
            | Kind::SwitchExpression
            | Kind::SynchronizedStatement
    );
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
            Kind::ArrayInitializer => return p.inside(node),
            Kind::LambdaExpression if p.is(inner, Kind::Block) => {
                return p.flat_opening(inner, Key::Lambda);
            }
            Kind::LambdaExpression => only = true,
            Kind::ArrayCreationExpression => {}
            Kind::MethodInvocation | Kind::ObjectCreationExpression if only => {
                return p.inside(inner).filter(|_| p.is(inner, Kind::ArgumentList));
            }
            _ => return None,
        }
        node = inner;
    }
    None
}

/// `(level, gauge -> { … })`
fn arguments(p: &mut Planner, parts: &[NodeId]) {
    let elements = p.elements(parts);
    let stand_in = elements.last().and_then(|last| stand_in(p, *last, elements.len() == 1));
    // A last function's or class's block stays with its call.
    let is_block = |p: &Planner, node: NodeId| {
        let body = p.parts(node).last().map(|body| Kind::at(p, *body));
        matches!(
            (Kind::at(p, node), body),
            (Kind::LambdaExpression, Some(Kind::Block))
                | (Kind::ObjectCreationExpression, Some(Kind::ClassBody))
        )
    };
    let gives_call = |last: &NodeId| {
        let value = match p.is(*last, Kind::LambdaExpression) {
            true => p.parts(*last).last().copied(),
            false => Some(*last),
        };
        value.is_some_and(|value| {
            matches!(Kind::at(p, value), Kind::MethodInvocation | Kind::ObjectCreationExpression)
        })
    };
    let own_line = elements.last().is_some_and(gives_call);
    let list = List::new().stand_in(stand_in).own_line_if(own_line);
    p.list(parts, list.last_function(&elements, |one| is_block(p, *one)));
}

/// `gauge.<Level>read(2)`, `this(2)`, `gauge.level`: nothing around a point, unless a chain breaks
/// there.
fn invocation(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match Kind::at(p, *part) {
            Kind::ArgumentList => p.parens(token, p.choices.call_parens),
            _ => p.beside_dot(token),
        }
    }
}

/// `new Gauge(2) { … }`
fn creation(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    for pair in parts.windows(2) {
        let token = p.first(pair[1]);
        match (Kind::at(p, pair[0]), Kind::at(p, pair[1])) {
            (_, Kind::ArgumentList) => p.parens(token, p.choices.call_parens),
            (_, Kind::ClassBody) => p.open_brace(token, p.first(node), Key::Type),
            (_, Kind::Dot) | (Kind::Dot, _) => p.word(token, 0),
            _ => p.word(token, 1),
        }
    }
}

/// `new int[] { 1, 2 }`, `new int[2][]`
fn array_creation(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        let tight = matches!(Kind::at(p, *part), Kind::Dimensions | Kind::DimensionsExpr);
        let token = p.first(*part);
        match Kind::at(p, *part) {
            // Both are common, and no guide speaks of it.
            Kind::ArrayInitializer if !p.broken_before(token) => p.keep_gap(token),
            _ => p.word(token, u8::from(!tight)),
        }
    }
}

/// What a node is in a chain of calls.
fn link(p: &Planner, node: NodeId) -> Option<Link> {
    let parts = || p.parts(node);
    match Kind::at(p, node) {
        Kind::MethodInvocation => {
            let arguments = parts().last().copied().filter(|last| p.is(*last, Kind::ArgumentList))?;
            match p.part(node, 1).filter(|dot| p.is(*dot, Kind::Dot)) {
                Some(dot) => Some(Link::Invocation(p.first(dot), arguments)),
                None => Some(Link::Call(arguments)),
            }
        }
        Kind::FieldAccess => p.part(node, 1).map(|dot| Link::Method(p.first(dot))),
        Kind::ArrayAccess => Some(Link::Other),
        _ => None,
    }
}

/// `gauges.filter(…).map(…)`: the first call stays with a name.
fn chain(p: &mut Planner, node: NodeId) {
    let is_name = |p: &Planner, head| matches!(
        Kind::at(p, head),
        Kind::Identifier | Kind::This | Kind::Super
    );
    if let Some(links) = p.chain(node, link, is_name, Kind::ArgumentList) {
        p.lone_link(node, &links, Kind::ArgumentList);
    }
}
