//! Statements, in the grammar's order.

use super::expressions::values;
use super::kinds::Kind;
use crate::layout::plan::{Column, GroupId, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Handed, List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// So many steps outward from a block are looked at. Bounds the work on hostile input.
const MOST_GUARDS: usize = 8;

/// The rule for a statement; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::Chunk => {
            p.may_share_lines();
            listed(p, parts, GroupId::ROOT, 0);
        }
        // What holds a block plans it.
        Kind::Block => {}
        Kind::FunctionDeclaration => function(p, node, parts, Key::Function),
        Kind::FunctionDefinition => function(p, node, parts, Key::Lambda),
        Kind::VariableDeclaration => p.words(parts),
        Kind::AssignmentStatement => {
            if let [_, sign, value] = parts {
                assigned(p, p.first(*sign), *value);
            }
        }
        Kind::ReturnStatement => {
            p.words(parts);
            if let [_, .., last] = parts
                && p.is(*last, Kind::Semicolon)
            {
                end_of(p, *last);
            }
        }
        Kind::DoStatement => {
            body(p, node, parts, p.first(parts[0]), Key::Control);
            if sets_names(p, p.first(node)) {
                p.word(p.first(node), 1);
            }
        }
        Kind::WhileStatement | Kind::ForStatement => {
            let Some(at) = p.position(parts, Kind::Do) else { return false };
            asks(p, &parts[..=at]);
            body(p, node, parts, p.first(parts[at]), Key::Control);
        }
        Kind::RepeatStatement => {
            let Some(at) = p.position(parts, Kind::Until) else { return false };
            p.words(&parts[at..]);
            body(p, node, &parts[..=at], p.first(node), Key::Control);
        }
        Kind::IfStatement => if_statement(p, node, parts),
        Kind::ElseifStatement | Kind::ElseStatement => alternative(p, node, parts),
        Kind::ForGenericClause => p.words(parts),
        Kind::ForNumericClause => {
            if let [_, sign, from, rest @ ..] = parts {
                assigned(p, p.first(*sign), *from);
                for part in rest {
                    p.word(p.first(*part), u8::from(!p.is(*part, Kind::Comma)));
                }
            }
        }
        Kind::VariableList => {
            for part in parts.iter().skip(1) {
                p.word(p.first(*part), u8::from(!p.is(*part, Kind::Comma)));
            }
        }
        Kind::ExpressionList => values(p, node, parts),
        Kind::Parameters => _ = p.list(parts, List::new().declaration()),
        _ => return false,
    }
    true
}

/// `level = 2`; a table may begin below its sign, and so do several values that have room there and none behind
/// it.
pub(super) fn assigned(p: &mut Planner, sign: TokenId, value: NodeId) {
    let are_several = p.is(value, Kind::ExpressionList) && p.parts(value).len() > 1;
    if are_several && p.choices.remembers && p.broken_before(sign) && !p.broken_before(sign + 1) {
        return assigned_below(p, sign, value);
    }
    p.operator(sign, Key::Assign);
    let table = match p.parts(value)[..] {
        [only] if p.is(value, Kind::ExpressionList) => only,
        _ => value,
    };
    let (brace, gap) = (p.first(table), p.beside(p.first(value), Key::Assign));
    match p.is(table, Kind::TableConstructor) && p.end(table) > brace + 2 {
        true if p.begins_next_line(brace, Key::Collection) => {
            p.open_values(table, sign - 1, Key::Collection);
        }
        true => p.behind_sign(brace, gap),
        false => p.assigned(sign, value, gap, Setting::OperatorGap),
    }
    if are_several {
        p.assigned_to_fit(value);
    }
}

/// Names on a line, and below them the sign with as many values: somebody put them under each other.
fn assigned_below(p: &mut Planner, sign: TokenId, value: NodeId) {
    p.operator(p.first(value), Key::Assign);
    let group = p.group(Shape::LastResort, sign - 1, p.end(value));
    p.force(group);
    let blanks = p.beside(sign, Key::Assign);
    p.may_break(sign, group, 1, blanks, Setting::OperatorGap);
}

/// Statements on lines of their own; a `;` stays with the one before it.
fn listed(p: &mut Planner, parts: &[NodeId], group: GroupId, level: u8) {
    p.statements(&without_ends(p, parts), group, level, sort);
    ends(p, parts);
}

fn without_ends(p: &Planner, parts: &[NodeId]) -> Vec<NodeId> {
    let own = parts.iter().enumerate();
    own.filter(|(index, part)| *index == 0 || !p.is(**part, Kind::Semicolon))
        .map(|(_, part)| *part)
        .collect()
}

fn is_end(p: &Planner, node: NodeId) -> bool {
    p.is(node, Kind::Semicolon)
}

/// What a statement is to the blank lines around it. Functions on one line stand together.
fn sort(p: &Planner, node: NodeId) -> Sort {
    let is_outermost = p.is(p.parent(node), Kind::Chunk);
    match Kind::at(p, node) {
        Kind::FunctionDeclaration if p.is_spread(node) => Sort::Function,
        Kind::VariableDeclaration if is_outermost && requires(p, node) => Sort::Import,
        _ => Sort::Other,
    }
}

/// `local quay = require "quay"`
fn requires(p: &Planner, node: NodeId) -> bool {
    let assignment = p.parts(node).last().copied();
    let value = assignment.and_then(|assignment| p.part(assignment, 2));
    value.is_some_and(|value| p.token_text(p.first(value)) == "require")
}

/// `local function ebb(level, ...) … end`, `function(level) … end`
fn function(p: &mut Planner, node: NodeId, parts: &[NodeId], key: Key) {
    let Some(at) = p.position(parts, Kind::Parameters) else { return };
    p.words(&parts[..=at]);
    let gap = match key {
        Key::Lambda => p.choices.lambda_parens,
        _ => p.choices.declaration_parens,
    };
    p.parens(p.first(parts[at]), gap);
    body(p, node, parts, p.end(parts[at]) - 1, key);
}

/// The statements between the last token of a header and a word that ends them.
fn body(p: &mut Planner, node: NodeId, parts: &[NodeId], opener: TokenId, key: Key) {
    let Some(end) = parts.last().copied() else { return };
    let own = statements(p, parts);
    if let Some(group) = p.flat_words(p.first(node), opener, p.first(end), key) {
        return flat(p, &own, group, p.first(end));
    }
    if own.is_empty() && !p.holds_lines(opener, p.first(end)) {
        return p.word(p.first(end), 1);
    }
    let lines = without_ends(p, &own);
    let group = p.word_block(p.first(node), &lines, end, sort);
    if p.is(node, Kind::FunctionDefinition) {
        p.stands_under(group, p.first(node), p.first(end));
    }
    ends(p, &own);
    let Some(first) = own.first().map(|first| p.first(*first)) else { return };
    guarded(p, node, &lines);
    p.bare_block(first, p.first(end), group);
}

/// So many tokens before a block are looked at. Bounds the work on hostile input.
const MOST_NAMES: usize = 32;

/// Whether a block stands on the line that declares what it gives values to: `local ebb, flood do`.
fn sets_names(p: &Planner, block: TokenId) -> bool {
    let mut before = (0..block).rev().take(MOST_NAMES);
    let is_name = |text: &str| text.starts_with(|c: char| c.is_alphabetic() || c == '_');
    !p.broken_before(block)
        && before
            .find(|token| {
                let text = p.token_text(*token);
                text == "local" || p.broken_before(*token) || !(is_name(text) || text == ",")
            })
            .is_some_and(|token| p.token_text(token) == "local")
}

/// Statements around which a block only asks whether they are there (`if connected then function ebb()
/// … end end`) may stand where it does, and so may those of a function around the file.
fn guarded(p: &mut Planner, node: NodeId, lines: &[NodeId]) {
    let first = lines.first().map(|first| p.first(*first));
    let is_namespace = is_guard(p, node, lines) || is_wrapper(p, node);
    if is_namespace && !p.indents_namespace(p.first(node), first) {
        p.stand_beside_namespace(lines);
    }
}

/// Whether a function stands in no block and has most of the file.
fn is_wrapper(p: &Planner, node: NodeId) -> bool {
    let outward = std::iter::successors(Some(p.parent(node)), |around| Some(p.parent(*around)));
    let is_end = |around: &NodeId| {
        let kind = Kind::at(p, *around);
        matches!(kind, Kind::Chunk | Kind::Block | Kind::FunctionDefinition)
    };
    let around = outward.take(MOST_GUARDS).find(is_end);
    p.is(node, Kind::FunctionDefinition)
        && around.is_some_and(|around| p.is(around, Kind::Chunk))
        && p.has_most(node)
}

/// Whether a block, or an arm of one, is around functions and in no other block but of its kind.
fn is_guard(p: &Planner, node: NodeId, own: &[NodeId]) -> bool {
    let mut around = node;
    for _ in 0..MOST_GUARDS {
        around = match Kind::at(p, around) {
            Kind::IfStatement
            | Kind::ElseifStatement
            | Kind::ElseStatement
            | Kind::DoStatement
            | Kind::Block => p.parent(around),
            kind => {
                return kind == Kind::Chunk
                    && own.iter().any(|part| p.is(*part, Kind::FunctionDeclaration));
            }
        };
    }
    false
}

/// A `;` stays with the statement before it, unless what stands behind it there gets a line of its own.
/// Before a parenthesis it says that nothing is called.
fn ends(p: &mut Planner, own: &[NodeId]) {
    for part in own.iter().skip(1) {
        if p.is(*part, Kind::Semicolon) {
            end_of(p, *part);
        }
    }
}

fn end_of(p: &mut Planner, mark: NodeId) {
    p.word(p.first(mark), 0);
    let next = p.end(mark);
    if (next as usize) < p.tree.tokens.len() && p.token_text(next) != "(" {
        p.line_ends_at_gap(next);
    }
}

/// What a word asks, and the word that ends that: `if ebb then`, `while ebb do`.
fn asks(p: &mut Planner, parts: &[NodeId]) {
    p.words(parts);
    if let [word, condition, closer] = parts {
        let is_operation = p.is(*condition, Kind::BinaryExpression);
        p.asks_between(p.first(*word), *condition, p.first(*closer), is_operation);
    }
}

/// The statements of the block among these parts.
fn statements(p: &Planner, parts: &[NodeId]) -> Vec<NodeId> {
    let block = p.position(parts, Kind::Block);
    block.map(|at| p.parts(parts[at])).unwrap_or_default()
}

/// Statements on their header's line, as long as there is room.
fn flat(p: &mut Planner, own: &[NodeId], group: GroupId, end: TokenId) {
    for part in without_ends(p, own) {
        p.may_break(p.first(part), group, 1, 1, Setting::FlatBlock);
    }
    p.flat_end(end, group);
    ends(p, own);
}

/// `if ebb then … elseif flood then … else … end`
fn if_statement(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(then) = p.position(parts, Kind::Then) else { return };
    let Some(end) = parts.last().copied() else { return };
    asks(p, &parts[..=then]);
    let is_other =
        |part: &&NodeId| matches!(Kind::at(p, **part), Kind::ElseifStatement | Kind::ElseStatement);
    let others: Vec<NodeId> = parts.iter().filter(is_other).copied().collect();
    if others.is_empty() {
        return body(p, node, parts, p.first(parts[then]), Key::Control);
    }
    let (header, opener, last) = (p.first(node), p.first(parts[then]), p.first(end));
    let own = statements(p, parts);
    if let Some(group) = p.flat_words(header, opener, last, Key::Control) {
        flat(p, &own, group, last);
        for other in others {
            let token = p.first(other);
            p.may_break(token, group, 0, 1, Setting::FlatBlock);
            p.gap(token).inside = true;
            p.hand(other, Handed::Block(group));
        }
        return;
    }
    let is_table = are_arms_flat(p, node, &others);
    let stays = is_table && p.stays_flat(header, opener, &own, Key::Control, is_end);
    if stays {
        p.column(opener, Column::Value);
    }
    let lines = if stays { Vec::new() } else { without_ends(p, &own) };
    let group = p.word_block(header, &lines, end, sort);
    ends(p, &own);
    if let Some(first) = lines.first() {
        let first = p.first(*first);
        guarded(p, node, &lines);
        p.bare_block(first, p.first(others[0]), group);
    } else if own.is_empty() {
        p.empty_block(header, opener);
    }
    let closing = others.last().copied();
    for other in others {
        let token = p.first(other);
        p.line(token, group, 0, Setting::FlatBlock);
        p.at_most(token, p.choices.edge_blank);
        if !is_table {
            continue;
        }
        let (opener, own) = arm(p, other);
        // The last of them may have the end of all on its line.
        let ends = closing == Some(other) && !p.broken_before(last);
        let closed = ends.then(|| p.flat_words(token, opener, last, Key::Control)).flatten();
        closed.into_iter().for_each(|group| p.flat_end(last, group));
        let flat = closed.or_else(|| p.flat_arm(token, opener, &own, Key::Control));
        if let Some(group) = flat {
            p.hand(other, Handed::Block(group));
        }
    }
}

/// Whether several arms of an `if` stand on the lines of their headers.
fn are_arms_flat(p: &Planner, node: NodeId, others: &[NodeId]) -> bool {
    let arms = std::iter::once(node).chain(others.iter().copied());
    p.are_arms_flat(arms.map(|node| {
        let (opener, own) = arm(p, node);
        (node, opener, own.last().copied())
    }))
}

/// The last token of an arm's header, and its statements.
fn arm(p: &Planner, node: NodeId) -> (TokenId, Vec<NodeId>) {
    let parts = p.parts(node);
    let then = p.position(&parts, Kind::Then).unwrap_or(0);
    (p.first(parts[then]), statements(p, &parts))
}

/// `elseif flood then …`, `else …`
fn alternative(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let then = p.position(parts, Kind::Then).unwrap_or(0);
    asks(p, &parts[..=then]);
    let own = statements(p, parts);
    if let Some(group) = p.handed_block(node) {
        if then > 0 {
            p.column(p.first(parts[then]), Column::Value);
        }
        for part in without_ends(p, &own) {
            p.may_break(p.first(part), group, 1, 1, Setting::FlatBlock);
        }
        return ends(p, &own);
    }
    let Some(first) = own.first().map(|first| p.first(*first)) else {
        return p.empty_block(p.first(node), p.first(parts[then]));
    };
    let group = p.group(Shape::Block, p.first(node), p.end(node));
    listed(p, &own, group, 1);
    guarded(p, node, &without_ends(p, &own));
    p.at_most(first, p.choices.edge_blank);
    p.bare_block(first, p.end(node), group);
}
