//! Statements, in the grammar's order.

use super::declarations::stays_empty;
use super::kinds::Kind;
use crate::layout::plan::Shape;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Headed, Sort};
use crate::style::Key;
use crate::syntax::NodeId;

/// The rule for a statement; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::ExpressionStatement
        | Kind::LocalDeclarationStatement
        | Kind::ReturnStatement
        | Kind::ThrowStatement
        | Kind::BreakStatement
        | Kind::ContinueStatement
        | Kind::YieldStatement
        | Kind::GotoStatement => {
            p.words(parts);
            ends(p, parts);
        }
        Kind::EmptyStatement => {}
        Kind::Block => block(p, node, parts),
        Kind::IfStatement => if_statement(p, node, parts),
        Kind::WhileStatement | Kind::LockStatement => asking(p, node, parts),
        Kind::UsingStatement | Kind::FixedStatement => asking(p, node, parts),
        Kind::DoStatement => do_statement(p, node, parts),
        Kind::ForStatement => p.counted_loop(node, parts, HEADED),
        Kind::ForeachStatement => {
            p.loop_over(node, parts, HEADED);
            p.each_of_below(parts);
        }
        Kind::CheckedStatement | Kind::UnsafeStatement => {
            if let [_, inner] = parts {
                p.open_block(*inner, p.first(node), Key::Control);
            }
        }
        Kind::SwitchStatement => switch_statement(p, node, parts),
        Kind::SwitchBody => {
            let base = p.first(p.parent(node));
            if !stays_empty(p, parts, base) {
                p.cases(parts, base);
            }
        }
        Kind::SwitchSection => switch_section(p, node, parts),
        Kind::TryStatement => {
            for part in parts.iter().skip(1) {
                match Kind::at(p, *part) {
                    Kind::Block => p.open_block(*part, p.first(node), Key::Control),
                    _ => p.goes_on(p.first(*part), p.first(node), true),
                }
            }
        }
        Kind::CatchClause | Kind::FinallyClause => handler(p, node, parts),
        Kind::CatchDeclaration => {
            p.words(parts);
            if let [_, first, .., last] = parts {
                p.inside_bracket(p.first(*first), p.choices.parens_gap);
                p.inside_bracket(p.first(*last), p.choices.parens_gap);
            }
        }
        Kind::CatchFilterClause => _ = asked(p, parts),
        Kind::LabeledStatement => {
            if let [_, colon, inner] = parts {
                p.labeled(node, *colon, *inner);
                let token = p.first(*inner);
                if stands_further_out(p, node) && p.begins_line(token) {
                    p.gap(token).level = 1;
                }
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

/// Whether a block has no header.
fn stands_alone(p: &Planner, block: NodeId) -> bool {
    let around = p.parent(block);
    matches!(Kind::at(p, around), Kind::Block | Kind::GlobalStatement | Kind::LabeledStatement)
        || (p.is(around, Kind::SwitchSection) && p.begins_line(p.first(block)))
}

/// `{ … }` around statements.
pub(super) fn block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let alone = stands_alone(p, node);
    let flat = p.handed_block(node).or_else(|| {
        let stays = alone && p.keeps_flat(node, Key::Control);
        stays.then(|| p.group(Shape::List, p.first(node), p.end(node)))
    });
    let base = match alone && !p.is(p.parent(node), Kind::LabeledStatement) {
        true => p.first(node),
        false => p.first(p.parent(node)),
    };
    let is_empty = matches!(parts, [_, closer] if !p.broken_before(p.first(*closer)));
    match flat.filter(|_| !is_empty) {
        Some(group) => {
            for part in p.flat_block(parts, group) {
                if p.is(*part, Kind::EmptyStatement) && !p.is(parts[1], Kind::EmptyStatement) {
                    p.word(p.first(*part), 0);
                }
            }
        }
        None if stays_empty(p, parts, base) => {}
        None => p.block(parts, base, |p, inner, group| {
            p.statements(inner, group, 1, sort);
            for part in &inner[1..] {
                let first = p.first(*part);
                if p.is(*part, Kind::EmptyStatement) && !p.broken_before(first) {
                    p.word(first, 0);
                }
            }
            for part in inner {
                if p.is(*part, Kind::LabeledStatement) && stands_further_out(p, *part) {
                    p.gap(p.first(*part)).level = 0;
                }
            }
        }),
    }
}

/// Whether a label is as far in as the line that the block's brace is on: people write it there, or
/// where the statements are.
fn stands_further_out(p: &Planner, label: NodeId) -> bool {
    let (first, around) = (p.first(label), p.parent(label));
    p.is(around, Kind::Block)
        && p.broken_before(first)
        && p.line_indent(first) == p.line_indent(p.first(around))
}

fn sort(_: &Planner, _: NodeId) -> Sort {
    Sort::Other
}

/// What may stand behind a header.
const HEADED: Headed = Headed {
    block: Kind::Block as u16,
    empty: Kind::EmptyStatement as u16,
    bare: &[],
};

/// `(ebb && flood)` behind a word; gives the places of the two parentheses.
fn asked(p: &mut Planner, parts: &[NodeId]) -> Option<(usize, usize)> {
    let opener = p.position(parts, Kind::OpenParen)?;
    let closer = opener + p.position(&parts[opener..], Kind::CloseParen)?;
    p.asks_in(parts[opener]);
    if let [before, inner, behind] = parts[opener..=closer] {
        let gap = p.choices.parens_gap;
        let group = p.enclosed(Shape::Chain, [before, inner, behind], gap, Key::Condition);
        // A brace on the next line sets the body apart.
        let is_apart = parts.get(closer + 1).is_some_and(|body| {
            p.is(*body, Kind::Block) && p.begins_next_line(p.first(*body), Key::Control)
        });
        p.group_mut(group).header = !is_apart;
    }
    Some((opener, closer))
}

/// `while (ebb) …`, `lock (gauge) …`, `using (var log = Open()) …`: another one of the same kind stands
/// right beneath the first.
fn asking(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    let Some((_, closer)) = asked(p, parts) else { return };
    let Some(inner) = parts.get(closer + 1) else { return };
    let (first, before) = (p.first(*inner), p.first(parts[closer]));
    let stacks = matches!(Kind::at(p, node), Kind::UsingStatement | Kind::FixedStatement)
        && p.kind(*inner) == p.kind(node);
    if stacks && p.broken_before(first) {
        p.stands_beneath(*inner, p.first(node));
    } else {
        p.headed(*inner, p.first(node), before, HEADED);
    }
}

fn if_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some((_, closer)) = asked(p, parts) else { return };
    let [consequence, rest @ ..] = &parts[closer + 1..] else { return };
    let header = p.first(node);
    p.headed(*consequence, header, p.first(parts[closer]), HEADED);
    let [word, other] = rest else { return };
    let word = p.first(*word);
    p.or_else(word, node, *consequence, HEADED);
    p.otherwise(word, *other, p.is(*other, Kind::IfStatement), HEADED);
}

/// `do { … } while (ebb);`
fn do_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [word, inner, while_word, rest @ ..] = parts else { return };
    p.headed(*inner, p.first(node), p.first(*word), HEADED);
    p.ends_loop(p.first(*while_word), p.first(node), p.is(*inner, Kind::Block));
    asked(p, rest);
    ends(p, parts);
}

/// `switch (level) { … }`
fn switch_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, value @ .., cases] = parts else { return };
    match value {
        [tuple] => p.asks_in(*tuple),
        _ => _ = asked(p, value),
    }
    p.open_brace(p.first(*cases), p.first(node), Key::Control);
}

/// `case 2 when ebb: …`
fn switch_section(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(colon) = p.position(parts, Kind::Colon) else { return };
    p.words(&parts[..colon]);
    let mark = p.first(parts[colon]);
    p.word(mark, 0);
    let inner = &parts[colon + 1..];
    let Some(first) = inner.first().copied() else {
        return p.empty_block(p.first(node), mark);
    };
    let token = p.first(first);
    if p.keeps_flat(node, Key::Case) {
        return p.flat_case(mark, inner, HEADED.empty);
    }
    let group = p.group(Shape::Block, mark, p.end(node));
    p.stem(group, p.first(node));
    p.statements(inner, group, 1, sort);
    p.at_most(token, p.choices.edge_blank);
    p.bare_block(token, p.end(node), group);
    if !p.is(first, Kind::Block) {
        return p.begins_beside_case(first, &inner[1..]);
    }
    if inner.len() > 1 {
        return p.case_block(first, &inner[1..], p.first(node));
    }
    // A block that is all of its case is as far in as that is, or a step further, as it stands.
    let is_further = p.broken_before(token) && p.is_further_in(token, p.first(node));
    if !is_further {
        p.open_block(first, p.first(node), Key::Control);
    }
}

/// `catch (Storm storm) when (storm.High) { … }`, `finally { … }`
fn handler(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some((inner, header)) = parts.split_last() else { return };
    for part in header.iter().skip(1) {
        match Kind::at(p, *part) {
            Kind::CatchDeclaration => p.asks_in(*part),
            _ => p.word(p.first(*part), 1),
        }
    }
    p.open_block(*inner, p.first(node), Key::Control);
}
