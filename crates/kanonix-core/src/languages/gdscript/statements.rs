//! Statements, in the order of the language's reference.

use super::expressions::IN_BRACKETS;
use super::kinds::Kind;
use crate::layout::plan::{GroupId, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for a statement; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::Source => p.bare_statements(parts, GroupId::ROOT, 0, sort),
        // The statement that holds them plans them. In brackets, a line ends where one of theirs does.
        Kind::Body | Kind::ClassBody | Kind::MatchBody => p.set_context(node, 0),
        Kind::Annotations => annotations(p, node, parts),
        Kind::SignalStatement | Kind::ClassNameStatement => header(p, node, parts),
        Kind::VariableStatement
        | Kind::ExportVariableStatement
        | Kind::OnreadyVariableStatement
        | Kind::ConstStatement => header(p, node, parts),
        Kind::Setget => setget(p, node, parts),
        Kind::EnumDefinition => header(p, node, parts),
        Kind::Enumerator => {
            if let [_, sign, value] = parts {
                p.sign(*sign, *value, Key::Assign);
            }
        }
        Kind::IfStatement
        | Kind::ElifClause
        | Kind::ElseClause
        | Kind::ForStatement
        | Kind::WhileStatement
        | Kind::MatchStatement
        | Kind::PatternSection
        | Kind::SetBody
        | Kind::GetBody
        | Kind::ClassDefinition
        | Kind::FunctionDefinition
        | Kind::ConstructorDefinition
        | Kind::Lambda => compound(p, node, kind, parts),
        Kind::Parameters => {
            p.set_context(node, IN_BRACKETS);
            p.list(parts, List::new().declaration());
        }
        Kind::TypedParameter => p.pair(parts, Key::Type),
        Kind::DefaultParameter => {
            if let [_, sign, value] = parts {
                p.sign(*sign, *value, Key::Default);
            }
        }
        Kind::TypedDefaultParameter => {
            if parts.len() > 3 {
                p.pair(parts, Key::Type);
            }
            if let [.., sign, value] = parts {
                p.sign(*sign, *value, Key::Default);
            }
        }
        _ => return false,
    }
    true
}

/// What a statement is to the blank lines around it.
fn sort(p: &Planner, node: NodeId) -> Sort {
    let in_class = p.is(p.parent(node), Kind::ClassBody);
    match Kind::at(p, node) {
        Kind::FunctionDefinition | Kind::ConstructorDefinition if in_class => Sort::Member,
        Kind::FunctionDefinition | Kind::ConstructorDefinition => Sort::Function,
        Kind::ClassDefinition => Sort::Type,
        Kind::ConstStatement if brings_in(p, node) => Sort::Import,
        // Before what it says more of.
        Kind::Annotation if leads(p, node) => Sort::Lead,
        _ => Sort::Other,
    }
}

/// `const Boat = preload("res://boat.gd")`
fn brings_in(p: &Planner, node: NodeId) -> bool {
    let value = p.parts(node).last().copied();
    value.is_some_and(|value| p.token_text(p.first(value)) == "preload")
}

/// Whether an annotation stands right above a declaration.
fn leads(p: &Planner, node: NodeId) -> bool {
    let name = p.part(node, 1).map(|name| p.token_text(p.first(name)));
    name.is_some_and(|name| name != "tool") && p.gap_text(p.end(node)).matches('\n').count() == 1
}

/// `@export @onready`, on one line or on several.
fn annotations(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        p.as_it_stands(p.first(node), p.first(*part));
    }
}

/// The words, names and signs of a declaration or a header, and a value behind them.
fn header(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let start = p.first(node);
    for pair in parts.windows(2) {
        let [before, part] = pair else { continue };
        let token = p.first(*part);
        match (Kind::at(p, *before), Kind::at(p, *part)) {
            (Kind::Annotations, _) => p.as_it_stands(start, token),
            (_, Kind::Parameters) => match p.is(node, Kind::Lambda) {
                true if p.is(*before, Kind::FuncWord) => p.parens(token, p.choices.lambda_parens),
                _ => p.parens(token, p.choices.declaration_parens),
            },
            (_, Kind::Comma) => p.word(token, 0),
            // The colon of a block.
            (_, Kind::Colon) if Some(part) == parts.last() => p.word(token, 0),
            (_, Kind::Colon) => p.before_pair_sign(token, Key::Type),
            (Kind::Colon, _) => p.after_pair_sign(token, Key::Type),
            (_, Kind::Equals | Kind::InferredType) | (Kind::Equals | Kind::InferredType, _) => {
                p.operator(token, Key::Assign);
            }
            (_, Kind::Setget) if p.token_text(token) == ":" => p.word(token, 0),
            (_, Kind::Arguments) => p.word(token, 0),
            _ if p.token_text(token) == "." || p.token_text(token - 1) == "." => p.word(token, 0),
            _ => p.word(token, 1),
        }
    }
}

/// `: set = drift, get = drifts`, `setget drift, drifts`, or accessors on lines of their own.
fn setget(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let is_accessor = |part: &&NodeId| matches!(Kind::at(p, **part), Kind::SetBody | Kind::GetBody);
    let accessors: Vec<NodeId> = parts.iter().filter(is_accessor).copied().collect();
    if let Some(first) = accessors.first().map(|first| p.first(*first)) {
        let group = p.group(Shape::Block, p.first(p.parent(node)), p.end(node));
        p.statements(&accessors, group, 1, |_, _| Sort::Other);
        p.at_most(first, p.choices.edge_blank);
        return p.bare_block(first, p.end(node), group);
    }
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        match p.is(*part, Kind::Comma) {
            true => p.word(token, 0),
            false if p.broken_before(token) => p.keep_gap(token),
            false => p.word(token, 1),
        }
    }
}

/// A header, its colon, its block, and the clauses that follow it.
fn compound(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) {
    let is_block = |part: &NodeId| matches!(
        Kind::at(p, *part),
        Kind::Body | Kind::ClassBody | Kind::MatchBody
    );
    let Some(block_at) = parts.iter().position(is_block) else { return header(p, node, parts) };
    let (head, rest) = parts.split_at(block_at);
    if kind == Kind::PatternSection {
        p.commas(head);
        if let Some(colon) = head.last() {
            p.word(p.first(*colon), 0);
        }
    } else {
        header(p, node, head);
    }
    let Some(colon) = head.last().map(|colon| p.first(*colon)) else { return };
    let start = start(p, node, parts);
    block(p, rest[0], start, colon, kind);
    // `else` and the like: lines of their own, as far in as the header.
    for clause in &rest[1..] {
        let group = p.group(Shape::Block, start, p.first(*clause));
        let token = p.first(*clause);
        p.line(token, group, 0, Setting::ElseLine);
    }
}

/// The token whose line the lines of a block count from: behind annotations on lines of their own, the first
/// word of the header.
fn start(p: &Planner, node: NodeId, parts: &[NodeId]) -> TokenId {
    match parts {
        [first, second, ..] if p.is(*first, Kind::Annotations) => p.first(*second),
        _ => p.first(node),
    }
}

/// The statements under a header: one step further in than it, and never on its line unless `flat_block`
/// keeps them there.
fn block(p: &mut Planner, node: NodeId, header: TokenId, colon: TokenId, kind: Kind) {
    let parts = p.parts(node);
    let Some(first) = parts.first().map(|part| p.first(*part)) else { return };
    let end = p.end(node);
    let one = parts.iter().filter(|part| !p.is(**part, Kind::Semicolon)).count() == 1;
    let key = match kind {
        Kind::FunctionDefinition | Kind::ConstructorDefinition => Key::Function,
        Kind::ClassDefinition => Key::Type,
        Kind::PatternSection => Key::Case,
        // What follows it on its line could not follow a line of its body.
        Kind::Lambda if !p.broken_between(colon, first) => return p.word(first, 1),
        _ => Key::Control,
    };
    if one && p.keeps_flat(node, key) && !p.broken_between(colon, first) {
        return p.word(first, 1);
    }
    let group = p.group(Shape::Block, header, end);
    p.bare_statements(&parts, group, 1, sort);
    p.at_most(first, p.choices.edge_blank);
    p.bare_block(first, end, group);
}
