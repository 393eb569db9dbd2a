//! How JSON is laid out, in the grammar's order.

use crate::layout::plan::ROOT;
use crate::layout::planner::{List, Planner};
use crate::style::Setting;
use crate::syntax::{NodeId, Role, kinds};

kinds! {
    nodes {
        Document = "document",
        Object = "object",
        Pair = "pair",
        Array = "array",
        String = "string",
        Comment = "comment",
    }
    marks { Comma = "," }
}

/// What the copying walk does with a kind.
pub(super) fn role(kind: u16) -> Role {
    match Kind::of(kind) {
        Kind::String => Role::Atom,
        Kind::Comment => Role::Comment,
        Kind::Document | Kind::Object | Kind::Array => Role::Statements,
        _ => Role::Plain,
    }
}

/// The rule for a node.
pub(super) fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    match Kind::of(p.kind(node)) {
        Kind::Document => document(p, node, parts),
        Kind::Object => object(p, parts),
        Kind::Pair => pair(p, parts),
        Kind::Array => array(p, parts),
        Kind::Comment => p.comment_mark(p.first(node), "//"),
        _ => {}
    }
}

/// `{ "level": 2 }`, alone in its file; some files hold one value a line.
fn document(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    for part in parts {
        p.line(p.first(*part), ROOT, 0, Setting::BlankLines);
    }
    let end = p.end(node);
    p.line(end, ROOT, 0, Setting::InsertFinalNewline);
}

/// `{ "high": 5.1, "low": -0.4 }`
fn object(p: &mut Planner, parts: &[NodeId]) {
    let inner = p.choices.braces_gap;
    p.list(parts, &[Kind::Comma as u16], List { inner, collection: true, ..List::PLAIN });
}

/// `"high": 5.1`
fn pair(p: &mut Planner, parts: &[NodeId]) {
    if let [_, colon, value] = parts {
        p.word(p.first(*colon), 0);
        p.word(p.first(*value), 1);
    }
}

/// `[1.2, 1.4, 1.9]`
fn array(p: &mut Planner, parts: &[NodeId]) {
    let inner = p.choices.brackets_gap;
    let list = List { inner, collection: true, holds_lines: true, ..List::PLAIN };
    p.list(parts, &[Kind::Comma as u16], list);
}
