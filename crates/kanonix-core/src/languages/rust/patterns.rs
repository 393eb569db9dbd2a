//! Patterns, in the grammar's order.

use super::expressions::{range, tuple};
use super::items::header;
use super::kinds::Kind;
use crate::layout::plan::{Rows, Shape, Slight};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Handed, List};
use crate::style::{Key, Setting};
use crate::syntax::NodeId;

/// The rule for a pattern; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::TuplePattern => tuple(p, parts, List::new()),
        // `[first, .., last]`
        Kind::SlicePattern => _ = p.list(parts, List::new().collection().last_comma()),
        Kind::TupleStructPattern => tuple_struct_pattern(p, parts),
        Kind::StructPattern => struct_pattern(p, parts),
        Kind::FieldPattern => field_pattern(p, parts),
        Kind::RangePattern => range(p, parts),
        Kind::ReferencePattern => super::types::reference(p, parts),
        Kind::OrPattern => or_pattern(p, node, parts),
        _ => return false,
    }
    true
}

/// `Some(level)`
fn tuple_struct_pattern(p: &mut Planner, parts: &[NodeId]) {
    let [_, rest @ ..] = parts else { return };
    p.word(p.first(rest[0]), 0);
    p.list(rest, List::new().last_comma());
}

/// `Tide { level, .. }`
fn struct_pattern(p: &mut Planner, parts: &[NodeId]) {
    let [_, rest @ ..] = parts else { return };
    p.word(p.first(rest[0]), 1);
    p.list(rest, List::new().collection().last_comma().shared_rows());
}

/// Whether somebody has spread a pattern over lines, so that it ends with a bracket on its own.
pub(super) fn ends_open(p: &Planner, pattern: NodeId) -> bool {
    let mut node = pattern;
    loop {
        let parts = p.parts(node);
        let opener = parts.iter().position(|part| {
            let kind = Kind::at(p, *part);
            matches!(kind, Kind::OpenParen | Kind::OpenBracket | Kind::OpenBrace)
        });
        let inner = opener.and_then(|opener| parts.get(opener + 1..parts.len() - 1));
        match inner {
            Some([first, ..]) if p.choices.remembers && p.broken_before(p.first(*first)) => {
                return true;
            }
            Some([.., last]) => node = *last,
            _ => return false,
        }
    }
}

/// `level: Some(level)`
fn field_pattern(p: &mut Planner, parts: &[NodeId]) {
    header(p, parts);
    if let [.., colon, value] = parts
        && p.is(*colon, Kind::Colon)
    {
        p.assigned(p.first(*colon), *value, 1, Setting::WordGap);
    }
}

/// `Ebb | Flood`: behind a `let` a step further in.
fn or_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = match p.handed_chain(node) {
        Some(group) => group,
        None => {
            let group = p.group(Shape::Chain, p.first(node), p.end(node));
            let own = p.group_mut(group);
            (own.rows, own.slight) = (Rows::Loose, Slight::Half);
            group
        }
    };
    let mut outer = p.parent(node);
    while p.is(outer, Kind::OrPattern) {
        outer = p.parent(outer);
    }
    let kind = Kind::at(p, outer);
    let level = u8::from(matches!(kind, Kind::LetCondition | Kind::LetDeclaration));
    match parts {
        [left, bar, right] => {
            if p.is(*left, Kind::OrPattern) {
                p.hand(*left, Handed::Chain(group));
            }
            let gap = p.beside(p.first(*bar), Key::Shift);
            p.alternative(p.first(*bar), group, level, gap);
            p.operator(p.first(*right), Key::Shift);
        }
        [_, right] => p.operator(p.first(*right), Key::Shift),
        _ => {}
    }
}
