//! How TOML is laid out, in the order of its specification.

use crate::languages::kinds::kinds;
use crate::layout::plan::{GroupId, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{List, Sort};
use crate::style::{Key, Setting};
use crate::syntax::NodeId;

kinds! {
    statements { Document, Table, TableArrayElement }
    bodies { Array }
    atoms { String, QuotedKey }
    comments { Comment }
    tight { DottedKey }
    ruled { Pair, InlineTable }
    separators { Comma = "," }
}

/// The rule for a node: a function a construct, named after it.
pub(super) fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    match Kind::at(p, node) {
        Kind::Document => document(p, parts),
        Kind::Table | Kind::TableArrayElement => table(p, node, parts),
        Kind::Pair => pair(p, parts),
        Kind::String | Kind::QuotedKey => string(p, node),
        Kind::Array => _ = p.list(parts, List::new().collection().last_comma()),
        // Its line is its end.
        Kind::InlineTable => p.flat_list(parts),
        _ => return false,
    }
    true
}

fn document(p: &mut Planner, parts: &[NodeId]) {
    p.statements(parts, GroupId::ROOT, 0, |p, part| match Kind::at(p, part) {
        Kind::Table | Kind::TableArrayElement => Sort::Type,
        _ => Sort::Other,
    });
}

/// `[gauges.quay]`, and the pairs below it, no further in.
fn table(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let (header, pairs) = parts.split_at(parts.len().min(3));
    p.tight(header);
    let group = p.group(Shape::Block, p.first(node), p.end(node));
    p.statements(pairs, group, 0, |_, _| Sort::Other);
    if let Some(first) = pairs.first() {
        p.at_most(p.first(*first), p.choices.edge_blank);
    }
}

/// `level = 5.1`
fn pair(p: &mut Planner, parts: &[NodeId]) {
    for part in parts.iter().skip(1) {
        p.operator(p.first(*part), Key::Assign);
    }
}

/// A string on one line, in either kind of quotes where nothing in it is escaped: what a backslash
/// means depends on them.
fn string(p: &mut Planner, node: NodeId) {
    let token = p.first(node);
    let text = p.token_text(token);
    if !text.contains('\\') && !text.starts_with("\"\"\"") && !text.starts_with("'''") {
        p.quotes(token, 0, Setting::Quotes);
    }
}
