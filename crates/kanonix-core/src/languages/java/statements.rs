//! Statements, in the grammar's order.

use super::declarations::sort;
use super::kinds::Kind;
use crate::layout::plan::{GroupId, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Headed, List};
use crate::style::Key;
use crate::syntax::NodeId;

/// The rule for a statement; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::ExpressionStatement
        | Kind::ReturnStatement
        | Kind::ThrowStatement
        | Kind::BreakStatement
        | Kind::ContinueStatement
        | Kind::YieldStatement
        | Kind::AssertStatement => {
            p.words(parts);
            ends(p, parts);
        }
        Kind::Block | Kind::ConstructorBody => block(p, node, parts),
        Kind::IfStatement => if_statement(p, node, parts),
        Kind::WhileStatement | Kind::SynchronizedStatement => {
            if let [_, condition, inner] = parts {
                p.asks_in(*condition);
                p.headed(*inner, p.first(node), p.end(*condition) - 1, HEADED);
            }
        }
        Kind::DoStatement => do_statement(p, node, parts),
        Kind::ForStatement => p.counted_loop(node, parts, HEADED),
        Kind::EnhancedForStatement => {
            p.loop_over(node, parts, HEADED);
            p.each_of_below(parts);
        }
        Kind::TryStatement | Kind::TryWithResourcesStatement => try_statement(p, node, parts),
        Kind::ResourceSpecification => _ = p.list(parts, List::new()),
        Kind::CatchClause | Kind::FinallyClause => handler(p, node, parts),
        Kind::LabeledStatement => {
            if let [_, colon, inner] = parts {
                p.labeled(node, *colon, *inner);
            }
        }
        Kind::SwitchExpression => {
            if let [_, value, cases] = parts {
                p.asks_in(*value);
                p.open_brace(p.first(*cases), p.first(node), Key::Control);
            }
        }
        Kind::SwitchBlock => p.cases(parts, p.first(p.parent(node))),
        Kind::SwitchBlockStatementGroup => switch_group(p, node, parts),
        Kind::SwitchRule => switch_rule(p, node, parts),
        Kind::SwitchLabel => {
            for part in parts.iter().skip(1) {
                p.word(p.first(*part), u8::from(!p.is(*part, Kind::Comma)));
            }
        }
        _ => return false,
    }
    true
}

/// Nothing before the semicolon at a statement's end.
pub(super) fn ends(p: &mut Planner, parts: &[NodeId]) {
    if let [_, .., last] = parts
        && p.is(*last, Kind::Semicolon)
    {
        p.word(p.first(*last), 0);
    }
}

/// Statements in a block, or members of a type; an empty one stays with the one before it.
pub(super) fn listed(p: &mut Planner, parts: &[NodeId], group: GroupId, level: u8) {
    let own: Vec<NodeId> = parts
        .iter()
        .enumerate()
        .filter(|(index, part)| *index == 0 || !p.is(**part, Kind::Semicolon))
        .map(|(_, part)| *part)
        .collect();
    p.statements(&own, group, level, sort);
    for part in parts.iter().skip(1) {
        if p.is(*part, Kind::Semicolon) {
            p.word(p.first(*part), 0);
        }
    }
}

/// Whether a block has no header.
fn stands_alone(p: &Planner, block: NodeId) -> bool {
    matches!(
        Kind::at(p, p.parent(block)),
        Kind::Program
            | Kind::Block
            | Kind::ConstructorBody
            | Kind::ClassBody
            | Kind::EnumBodyDeclarations
            | Kind::SwitchBlockStatementGroup
            | Kind::LabeledStatement
    )
}

/// `{ … }` around statements.
fn block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let flat = p.handed_block(node).or_else(|| {
        let alone = stands_alone(p, node) && p.keeps_flat(node, Key::Control);
        alone.then(|| p.group(Shape::List, p.first(node), p.end(node)))
    });
    let parent = p.parent(node);
    let base = match stands_alone(p, node) && !p.is(parent, Kind::LabeledStatement) {
        true => p.first(node),
        false => p.first(parent),
    };
    match flat {
        Some(group) => {
            let inner = p.flat_block(parts, group);
            p.flat_statements(&inner, group, HEADED.empty);
        }
        None if p.stays_empty(parts, base) => {}
        None => p.block(parts, base, |p, inner, group| listed(p, inner, group, 1)),
    }
}

/// What may stand behind a header.
const HEADED: Headed = Headed {
    block: Kind::Block as u16,
    empty: Kind::Semicolon as u16,
    bare: &[],
};

fn if_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, condition, consequence, rest @ ..] = parts else { return };
    let header = p.first(node);
    p.asks_in(*condition);
    p.headed(*consequence, header, p.end(*condition) - 1, HEADED);
    let [word, other] = rest else { return };
    let word = p.first(*word);
    p.or_else(word, node, *consequence, HEADED);
    p.otherwise(word, *other, p.is(*other, Kind::IfStatement), HEADED);
}

/// `do { … } while (ebb);`
fn do_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [word, inner, while_word, condition, ..] = parts else { return };
    p.headed(*inner, p.first(node), p.first(*word), HEADED);
    p.ends_loop(p.first(*while_word), p.first(node), p.is(*inner, Kind::Block));
    p.asks_in(*condition);
    ends(p, parts);
}

/// `try (Log log = open()) { … } catch (Storm storm) { … }`
fn try_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        match Kind::at(p, *part) {
            Kind::ResourceSpecification => p.asks_in(*part),
            Kind::Block => p.open_block(*part, p.first(node), Key::Control),
            _ => p.goes_on(p.first(*part), p.first(node), true),
        }
    }
}

/// `catch (Storm storm) { … }`, `finally { … }`
fn handler(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some((block, header)) = parts.split_last() else { return };
    for pair in header.windows(2) {
        let token = p.first(pair[1]);
        if p.is(pair[1], Kind::OpenParen) {
            p.asks_in(pair[1]);
        } else {
            p.inside_bracket(token, p.choices.parens_gap);
        }
    }
    p.open_block(*block, p.first(node), Key::Control);
}

/// `case EBB: case FLOOD: …`
fn switch_group(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(last) = parts.iter().rposition(|part| p.is(*part, Kind::Colon)) else { return };
    for pair in parts[..=last].windows(2) {
        let token = p.first(pair[1]);
        match Kind::at(p, pair[1]) {
            Kind::Colon => p.word(token, 0),
            // A label behind another one stays on its line, or has its own.
            _ => p.as_it_stands(p.first(node), token),
        }
    }
    let colon = p.first(parts[last]);
    p.case_body(node, colon, &parts[last + 1..], HEADED, listed);
}

/// `case EBB, FLOOD -> warn();`
fn switch_rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, arrow, result] = parts else { return };
    let arrow = p.first(*arrow);
    p.word(arrow, 1);
    match Kind::at(p, *result) {
        Kind::Block => p.open_block(*result, p.first(node), Key::Control),
        _ => p.given(arrow, *result, 1, false),
    }
}
