//! Statements, in the order of the language reference.

use super::kinds::Kind;
use crate::layout::plan::{GroupId, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Between, List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// The rule for a statement; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::Module => module(p, parts),
        Kind::ImportFromStatement | Kind::FutureImportStatement => import_from(p, parts),
        Kind::TypeAliasStatement => type_alias(p, parts),
        Kind::IfStatement
        | Kind::ElifClause
        | Kind::ElseClause
        | Kind::MatchStatement
        | Kind::CaseClause
        | Kind::ForStatement
        | Kind::WhileStatement
        | Kind::TryStatement
        | Kind::ExceptClause
        | Kind::FinallyClause
        | Kind::WithStatement
        | Kind::FunctionDefinition
        | Kind::ClassDefinition => compound(p, node, kind, parts),
        Kind::WithClause => with_clause(p, parts),
        Kind::DecoratedDefinition => decorated_definition(p, node, parts),
        // The statement that holds a block plans it.
        Kind::Block => {}
        _ => return false,
    }
    true
}

fn module(p: &mut Planner, parts: &[NodeId]) {
    listed(p, parts, GroupId::ROOT, 0);
}

/// Statements of one block. A semicolon after one of them goes, as each has its own line and the
/// language wants none there; only `keep` leaves it.
fn listed(p: &mut Planner, parts: &[NodeId], group: GroupId, level: u8) {
    let in_class = parts.first().is_some_and(|part| {
        let holder = p.parent(p.parent(*part));
        group != GroupId::ROOT && p.is(holder, Kind::ClassDefinition)
    });
    let sort = if group == GroupId::ROOT {
        sort_in_module
    } else if in_class {
        sort_in_class
    } else {
        |_: &Planner, _| Sort::Other
    };
    p.bare_statements(parts, group, level, sort);
}

fn sort_in_module(p: &Planner, node: NodeId) -> Sort {
    match Kind::at(p, node) {
        Kind::ImportStatement | Kind::ImportFromStatement | Kind::FutureImportStatement => {
            Sort::Import
        }
        // As PEP 8 has it, what is left out may stand without blank lines between.
        Kind::FunctionDefinition if is_stub(p, node) => Sort::Other,
        Kind::FunctionDefinition => Sort::Function,
        Kind::ClassDefinition => Sort::Type,
        Kind::DecoratedDefinition => {
            let defined = p.parts(node).into_iter().last();
            defined.map_or(Sort::Other, |defined| sort_in_module(p, defined))
        }
        _ => Sort::Other,
    }
}

fn sort_in_class(p: &Planner, node: NodeId) -> Sort {
    match sort_in_module(p, node) {
        Sort::Function => Sort::Member,
        _ => Sort::Other,
    }
}

/// `from .levels import ebb, flood as rising`
fn import_from(p: &mut Planner, parts: &[NodeId]) {
    p.commas(parts);
    if let Some(opener) = p.position(parts, Kind::OpenParen) {
        p.list(&parts[opener..], List::new().collection().last_comma().opens_around_lines());
    } else {
        super::parentheses::import(p, parts);
    }
}

/// `type Levels = list[float]`
fn type_alias(p: &mut Planner, parts: &[NodeId]) {
    p.words(parts);
    if let [.., sign, value] = parts {
        p.sign(*sign, *value, Key::Assign);
    }
}

/// A header, its colon, its block, and the clauses that follow it.
fn compound(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) {
    let Some(block_at) = p.position(parts, Kind::Block) else {
        return header(p, kind, parts);
    };
    let (head, rest) = parts.split_at(block_at);
    header(p, kind, head);
    let Some(colon) = head.last().map(|colon| p.first(*colon)) else { return };
    let start = p.first(node);
    block(p, rest[0], start, colon, kind);
    // `else`, `except` and the like: lines of their own, as far in as the header.
    for clause in &rest[1..] {
        let group = p.group(Shape::Block, start, p.first(*clause));
        let token = p.first(*clause);
        p.line(token, group, 0, Setting::ElseLine);
    }
}

fn header(p: &mut Planner, kind: Kind, parts: &[NodeId]) {
    let is_arrow = |p: &Planner, part: NodeId| p.token_text(p.first(part)) == "->";
    p.header(parts, |p, before, part| match Kind::at(p, part) {
        _ if is_arrow(p, before) || is_arrow(p, part) => Between::Blank,
        Kind::Parameters => Between::Parameters,
        Kind::ArgumentList if kind == Kind::ClassDefinition => Between::Parameters,
        Kind::Star if kind == Kind::ExceptClause => Between::Nothing,
        Kind::TypeParameter | Kind::Colon | Kind::Comma => Between::Nothing,
        _ => Between::Blank,
    });
}

/// The statements under a header: one step further in than it, and never on its line unless
/// `flat_block` keeps them there.
fn block(p: &mut Planner, node: NodeId, header: TokenId, colon: TokenId, kind: Kind) {
    let parts = p.parts(node);
    let Some(first) = parts.first().map(|part| p.first(*part)) else { return };
    let end = p.end(node);
    let one = parts.iter().filter(|part| !p.is(**part, Kind::Semicolon)).count() == 1;
    let key = match kind {
        Kind::FunctionDefinition => Key::Function,
        Kind::ClassDefinition => Key::Type,
        Kind::CaseClause => Key::Case,
        _ => Key::Control,
    };
    let stays = p.keeps_flat(node, key) || is_left_out(p, node);
    if one && stays && !p.broken_between(colon, first) {
        return p.word(first, 1);
    }
    let group = p.group(Shape::Block, header, end);
    listed(p, &parts, group, 1);
    let edge = p.choices.edge_blank;
    p.at_most(first, if kind == Kind::ClassDefinition { edge } else { edge.min(1) });
    p.bare_block(first, end, group);
}

/// Whether a block is nothing but `...`: what it would do is said elsewhere.
fn is_left_out(p: &Planner, block: NodeId) -> bool {
    let first = p.first(block);
    p.end(block) == first + 1 && p.token_text(first) == "..."
}

/// Whether a function has such a body on its own line.
fn is_stub(p: &Planner, function: NodeId) -> bool {
    let body = p.parts(function).last().copied();
    body.is_some_and(|body| {
        p.is(body, Kind::Block) && is_left_out(p, body) && !p.broken_before(p.first(body))
    })
}

/// `with open(a) as b, (c):`
fn with_clause(p: &mut Planner, parts: &[NodeId]) {
    if parts.first().is_some_and(|part| p.is(*part, Kind::OpenParen)) {
        p.list(parts, List::new().last_comma().opens_around_lines());
    } else {
        p.commas(parts);
    }
}

fn decorated_definition(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.group(Shape::Block, p.first(node), p.end(node));
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        p.line(token, group, 0, Setting::BlankLines);
        p.at_most(token, 0);
    }
}
