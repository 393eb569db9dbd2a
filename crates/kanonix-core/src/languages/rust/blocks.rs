//! Statements, blocks and what rules them, in the grammar's order.

use super::expressions::{assigned, breakable};
use super::items::header;
use super::kinds::Kind;
use super::patterns::ends_open;
use crate::layout::plan::{GroupId, Shape, TreeEdit, When};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Handed, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for a statement or for something with a block; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::EmptyStatement => {}
        Kind::LetDeclaration => let_declaration(p, node, parts),
        Kind::IfExpression => if_expression(p, node, parts),
        Kind::LetCondition => let_condition(p, node, parts),
        Kind::ElseClause => else_clause(p, node, parts),
        Kind::MatchExpression => match_expression(p, node, parts),
        Kind::MatchBlock => match_block(p, node, parts),
        Kind::MatchArm => match_arm(p, node, parts),
        Kind::MatchPattern => match_pattern(p, node, parts),
        Kind::WhileExpression | Kind::LoopExpression | Kind::ForExpression => {
            header(p, parts);
            ruled(p, node, parts, Key::Control);
        }
        Kind::ConstBlock
        | Kind::UnsafeBlock
        | Kind::AsyncBlock
        | Kind::GenBlock
        | Kind::TryBlock => {
            p.words(parts);
            if let [.., block] = parts {
                block_behind(p, *block, p.first(node), Key::Other, Key::Control);
            }
        }
        Kind::Block => block(p, node, parts),
        _ => return false,
    }
    true
}

/// What a statement is to the blank lines around it.
fn sort(p: &Planner, node: NodeId) -> Sort {
    match Kind::at(p, node) {
        Kind::AttributeItem => Sort::Lead,
        Kind::UseDeclaration | Kind::ExternCrateDeclaration => Sort::Import,
        Kind::FunctionItem | Kind::FunctionSignatureItem => {
            match Kind::at(p, p.parent(node)) {
                Kind::DeclarationList => Sort::Member,
                _ => Sort::Function,
            }
        }
        Kind::StructItem
        | Kind::UnionItem
        | Kind::EnumItem
        | Kind::TraitItem
        | Kind::ImplItem => Sort::Type,
        _ => Sort::Other,
    }
}

/// Statements; an empty one stays with the statement that it stands behind.
pub(super) fn statements(p: &mut Planner, parts: &[NodeId], block: GroupId, level: u8) {
    let is_behind = |p: &Planner, index: usize, part: NodeId| {
        p.is(part, Kind::EmptyStatement)
            && !p.broken_before(p.first(part))
            && parts[..index].iter().any(|before| !p.is(*before, Kind::AttributeItem))
    };
    let mut apart = Vec::with_capacity(parts.len());
    for (index, part) in parts.iter().enumerate() {
        match is_behind(p, index, *part) {
            true => p.word(p.first(*part), 0),
            false => apart.push(*part),
        }
    }
    p.statements(&apart, block, level, sort);
}

/// `{ … }` around statements or items, so many steps further in than the line of `stem`.
pub(super) fn enclosed_statements(p: &mut Planner, parts: &[NodeId], stem: TokenId, level: u8) {
    p.block(parts, stem, |p, inner, group| statements(p, inner, group, level));
}

/// `'ebb: { … }`
fn block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(brace) = p.position(parts, Kind::OpenBrace) else { return };
    header(p, &parts[..=brace]);
    let parts = &parts[brace..];
    if let [_, closer] = parts
        && p.is(p.parent(node), Kind::IfExpression)
        && p.end(p.parent(node)) > p.end(node)
    {
        // In front of an `else`.
        let group = p.group(Shape::Block, p.first(p.parent(node)), p.end(node));
        return p.line(p.first(*closer), group, 0, Setting::FlatBlock);
    }
    let handed = p.handed_block(node).or_else(|| {
        let alone = block_base(p, node) == p.first(node) && brace == 0;
        let flat = alone && is_value(p, node) && p.keeps_flat(node, Key::Value);
        flat.then(|| p.group(Shape::List, p.first(node), p.end(node)))
    });
    match handed {
        Some(group) => _ = p.flat_block(parts, group),
        None => enclosed_statements(p, parts, block_base(p, node), 1),
    }
}

/// The token whose line a block's lines count from: its header's first one.
fn block_base(p: &Planner, node: NodeId) -> TokenId {
    let parent = p.parent(node);
    match Kind::at(p, parent) {
        Kind::FunctionItem
        | Kind::IfExpression
        | Kind::ElseClause
        | Kind::WhileExpression
        | Kind::LoopExpression
        | Kind::ForExpression
        | Kind::ConstBlock
        | Kind::UnsafeBlock
        | Kind::AsyncBlock
        | Kind::GenBlock
        | Kind::TryBlock
        | Kind::ClosureExpression
        | Kind::LetDeclaration
        | Kind::MatchArm => p.first(parent),
        _ => p.first(node),
    }
}

/// Whether a block is nothing but one value.
fn is_value(p: &Planner, block: NodeId) -> bool {
    match p.parts(block)[..] {
        [_, value, _] => !matches!(
            Kind::at(p, value),
            Kind::ExpressionStatement
                | Kind::LetDeclaration
                | Kind::EmptyStatement
                | Kind::Block
                | Kind::Label
        ),
        _ => false,
    }
}

/// A block behind a header, by the key that `open_brace` knows it by, and by the one that
/// `flat_block` does unless it is nothing but a value.
pub(super) fn block_behind(
    p: &mut Planner,
    block: NodeId,
    header: TokenId,
    key: Key,
    flat: Key,
) {
    let is_value = matches!(key, Key::Other | Key::Lambda) && is_value(p, block);
    p.open_block_as(block, header, key, if is_value { Key::Value } else { flat });
}

/// The block behind a condition, a pattern or a value: behind it on its line, or on a line of its
/// own where that goes on over several lines of its own.
fn ruled(p: &mut Planner, node: NodeId, parts: &[NodeId], key: Key) {
    let [.., value, block] = parts else { return };
    let header = p.first(node);
    block_behind(p, *block, header, key, key);
    brace_behind(p, *value, *block, header, key);
}

/// Where a header's last value goes on over several lines, the brace behind it has a line of its
/// own.
fn brace_behind(p: &mut Planner, value: NodeId, block: NodeId, header: TokenId, key: Key) {
    let brace = p.first(block);
    if !p.style.is(Setting::OpenBrace, key, "same_line") || p.handed_block(block).is_some() {
        return;
    }
    let tail = match p.is(value, Kind::LetCondition) {
        true => {
            let group = p.group(Shape::LastResort, p.first(value), p.end(value));
            p.stem(group, header);
            p.hand(value, Handed::Lines(group));
            Some(group)
        }
        false => hand_chain(p, value, header),
    };
    let group = behind(p, brace, header, tail, Setting::OpenBrace);
    if p.is(value, Kind::LetCondition)
        && let Some(pattern) = p.part(value, 1)
        && ends_open(p, pattern)
    {
        p.force(group);
    }
}

/// A value behind a sign, in the group of what it belongs to: where the value goes on over several
/// lines, so does that.
fn assigned_in(p: &mut Planner, group: GroupId, value: NodeId, stem: TokenId) {
    let first = p.first(value);
    let blanks = p.beside(first, Key::Assign);
    p.may_break(first, group, 1, blanks, Setting::OperatorGap);
    let tail = hand_chain(p, value, stem);
    p.group_mut(group).tail = tail;
}

/// A chain for the operation or the chain of calls in a value, with a stem of its own, if there is
/// one.
fn hand_chain(p: &mut Planner, value: NodeId, stem: TokenId) -> Option<GroupId> {
    let inner = breakable(p, value)?;
    let group = p.group(Shape::Chain, p.first(inner), p.end(inner));
    p.stem(group, stem);
    p.hand(inner, Handed::Chain(group));
    Some(group)
}

/// What stands behind a header has a line of its own where all of it but this would fit, and where
/// the group `tail` before it goes on over several lines.
pub(super) fn behind(
    p: &mut Planner,
    token: TokenId,
    header: TokenId,
    tail: Option<GroupId>,
    setting: Setting,
) -> GroupId {
    let group = p.group(Shape::LastResort, token - 1, token + 1);
    p.stem(group, header);
    p.group_mut(group).tail = tail;
    p.may_break(token, group, 0, 1, setting);
    group
}

/// `let Some(level) = gauge.level() else { … };`
fn let_declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    header(p, parts);
    let Some(sign) = p.position(parts, Kind::Equals) else { return };
    let Some(&value) = parts.get(sign + 1) else { return };
    let [.., other, block, _] = parts else { return };
    if !p.is(*other, Kind::Else) {
        return assigned(p, parts[sign], value);
    }
    let (header, other) = (p.first(node), p.first(*other));
    // As the style guide has it, the block stays on its line where all of the statement does.
    match p.line_fits(p.first(*block)) {
        true => block_behind(p, *block, header, Key::Other, Key::Control),
        false => p.open_block_as(*block, header, Key::Other, Key::Control),
    }
    let group = p.group(Shape::LastResort, p.first(parts[sign]), p.end(value));
    p.stem(group, header);
    assigned_in(p, group, value, header);
    match p.else_begins_line(other) {
        true => p.follower(other, header),
        false => {
            let own = behind(p, other, header, Some(group), Setting::ElseLine);
            if ends_open(p, parts[1]) {
                p.force(own);
            }
        }
    }
}

/// `if let Some(level) = gauge.level() && level > high { … } else { … }`
fn if_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    let [_, condition, consequence, rest @ ..] = parts else { return };
    let header = p.first(node);
    if let [other] = rest
        && let Some(alternative) = p.part(*other, 1)
        && stands_as_value(p, node, *consequence, alternative)
    {
        let group = p.group(Shape::List, p.first(*consequence), p.end(node));
        p.stem(group, header);
        p.hand(*consequence, Handed::Block(group));
        p.hand(alternative, Handed::Block(group));
        p.flat(p.first(*consequence), 1, Setting::OpenBrace);
        return p.behind(p.first(*other), Setting::ElseLine);
    }
    block_behind(p, *consequence, header, Key::Control, Key::Control);
    brace_behind(p, *condition, *consequence, header, Key::Control);
    if let Some(other) = rest.first() {
        let token = p.first(*other);
        match p.else_begins_line(token) {
            true => p.follower(token, header),
            false => p.behind(token, Setting::ElseLine),
        }
    }
}

/// Whether an `if` is a value that stands on one line: one value in each block, and not itself a
/// statement.
fn stands_as_value(p: &Planner, node: NodeId, consequence: NodeId, alternative: NodeId) -> bool {
    let outer = p.parent(node);
    let is_statement = p.is(outer, Kind::ExpressionStatement) && {
        let list = p.parent(outer);
        let is_last = p.end(outer) + 1 == p.end(list) && !p.is(list, Kind::SourceFile);
        p.end(outer) != p.end(node) || !is_last
    };
    !is_statement
        && !p.is(outer, Kind::ElseClause)
        && p.is(alternative, Kind::Block)
        && is_value(p, consequence)
        && is_value(p, alternative)
        && p.keeps_flat(node, Key::Value)
}

/// `let Some(level) = gauge.level()`, in a condition.
fn let_condition(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    header(p, parts);
    let [.., sign, value] = parts else { return };
    match p.handed_lines(node) {
        Some(group) => {
            let stem = p.group_mut(group).stem;
            assigned_in(p, group, *value, stem);
        }
        None => assigned(p, *sign, *value),
    }
}

fn else_clause(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, inner] = parts else { return };
    match p.is(*inner, Kind::Block) {
        true if p.handed_block(*inner).is_some() => p.flat(p.first(*inner), 1, Setting::OpenBrace),
        true => block_behind(p, *inner, p.first(node), Key::Control, Key::Control),
        false => p.next_question(*inner, p.first(node)),
    }
}

fn match_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    if let [_, value, cases] = parts {
        p.open_brace(p.first(*cases), p.first(node), Key::Control);
        brace_behind(p, *value, *cases, p.first(node), Key::Control);
    }
}

/// The arms of a `match`, each on its line.
fn match_block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.cases(parts, p.first(p.parent(node)));
    if let [_, .., last, _] = parts {
        last_arm(p, *last);
    }
}

/// The comma behind the last arm, where its value is no block.
fn last_arm(p: &mut Planner, arm: NodeId) {
    let parts = p.parts(arm);
    let comma = parts.last().copied().filter(|part| p.is(*part, Kind::Comma));
    let value = parts.iter().rev().find(|part| !p.is(**part, Kind::Comma));
    if value.is_none_or(|value| p.is(*value, Kind::Block)) {
        return;
    }
    match comma {
        Some(comma) if p.choices.drop_last_comma => {
            p.rewrite(p.first(comma), TreeEdit::Remove(When::Always), Setting::LastComma);
        }
        None if p.choices.add_last_comma => {
            if let Some(token) = p.tree.last_solid(arm) {
                p.rewrite(token, TreeEdit::Insert(",", When::Always), Setting::LastComma);
            }
        }
        _ => {}
    }
}

/// `Some(level) if level > high => warn(level),`
fn match_arm(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(pattern) = p.position(parts, Kind::MatchPattern) else { return };
    for part in parts.iter().take(pattern + 1).skip(1) {
        let group = p.group(Shape::Block, p.first(node), p.first(*part));
        p.newline(p.first(*part), group, 0, Setting::WordGap);
    }
    let [arrow, value, rest @ ..] = &parts[pattern + 1..] else { return };
    let (arrow, first) = (p.first(*arrow), p.first(*value));
    p.word(arrow, 1);
    if p.is(*value, Kind::Block) {
        block_behind(p, *value, p.first(parts[pattern]), Key::Control, Key::Case);
        guard(p, parts[pattern], Some(*value));
    } else {
        let group = p.group(Shape::LastResort, arrow, p.end(*value));
        p.may_break(first, group, 1, 1, Setting::WordGap);
        guard(p, parts[pattern], None);
    }
    if let [comma] = rest {
        p.word(p.first(*comma), 0);
    }
}

/// `Some(level) if level > high`: the guard may have lines of its own.
fn match_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    p.words(parts);
    if let Some(group) = p.handed_lines(node)
        && let Some(word) = p.position(parts, Kind::If)
    {
        p.may_break(p.first(parts[word]), group, 1, 1, Setting::WordGap);
    }
}

/// Where a pattern's guard has lines of its own, the brace behind it has one, too.
fn guard(p: &mut Planner, pattern: NodeId, block: Option<NodeId>) {
    if p.position(&p.parts(pattern), Kind::If).is_none() {
        return;
    }
    let block = block.filter(|block| {
        p.handed_block(*block).is_none()
            && p.style.is(Setting::OpenBrace, Key::Control, "same_line")
    });
    let end = block.map_or(p.end(pattern), |block| p.first(block) + 1);
    let group = p.group(Shape::Chain, p.first(pattern), end);
    p.hand(pattern, Handed::Lines(group));
    if let Some(block) = block {
        p.may_break(p.first(block), group, 0, 1, Setting::OpenBrace);
    }
}
