//! Patterns, in the grammar's order.

use super::expressions::{range, tuple};
use super::items::header;
use super::kinds::Kind;
use super::{is, may_rewrite};
use crate::layout::plan::{NO_GROUP, Rows, Shape};
use crate::layout::planner::{List, Planner};
use crate::style::Setting;
use crate::syntax::NodeId;

/// The rule for a pattern; says whether `kind` is one.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::GenericPattern | Kind::NegativeLiteral => p.tight(parts),
        Kind::TuplePattern => {
            tuple(p, node, parts);
        }
        Kind::SlicePattern => slice_pattern(p, node, parts),
        Kind::TupleStructPattern => tuple_struct_pattern(p, node, parts),
        Kind::StructPattern => struct_pattern(p, node, parts),
        Kind::FieldPattern => field_pattern(p, parts),
        Kind::MutPattern | Kind::RefPattern | Kind::CapturedPattern => p.words(parts),
        Kind::RangePattern => range(p, parts),
        Kind::ReferencePattern => super::types::reference(p, parts),
        Kind::OrPattern => or_pattern(p, node, parts),
        _ => return false,
    }
    true
}

/// `[first, .., last]`
fn slice_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let list = List {
        inner: p.choices.brackets_gap,
        collection: true,
        last_comma: may_rewrite(p, node),
        holds_lines: true,
        stand_in: 0,
    };
    p.list(parts, &[Kind::Comma as u16], list);
}

/// `Some(level)`
fn tuple_struct_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, rest @ ..] = parts else { return };
    p.word(p.first(rest[0]), 0);
    let list = List {
        inner: p.choices.parens_gap,
        last_comma: may_rewrite(p, node),
        holds_lines: true,
        ..List::PLAIN
    };
    p.list(rest, &[Kind::Comma as u16], list);
}

/// `Tide { level, .. }`
fn struct_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, rest @ ..] = parts else { return };
    p.word(p.first(rest[0]), 1);
    let is_rest = |part: &NodeId| is(p, *part, Kind::RemainingFieldPattern);
    let list = List {
        inner: p.choices.braces_gap,
        collection: true,
        last_comma: may_rewrite(p, node) && !parts.iter().any(is_rest),
        holds_lines: true,
        stand_in: 0,
    };
    let group = p.list(rest, &[Kind::Comma as u16], list);
    if group != NO_GROUP {
        p.group_mut(group).rows = Rows::Shared;
    }
}

/// Whether somebody has spread a pattern over lines, so that it ends with a bracket on its own.
pub(super) fn ends_open(p: &Planner, pattern: NodeId) -> bool {
    let mut node = pattern;
    loop {
        let parts = p.parts(node);
        let opener = parts.iter().position(|part| {
            let kind = Kind::of(p.kind(*part));
            matches!(kind, Kind::OpenParen | Kind::OpenBracket | Kind::OpenBrace)
        });
        let inner = opener.and_then(|opener| parts.get(opener + 1..parts.len() - 1));
        match inner {
            Some([first, ..]) if p.choices.keep_open && p.broken_before(p.first(*first)) => {
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
        && is(p, *colon, Kind::Colon)
    {
        p.assigned(p.first(*colon), *value, 1, Setting::WordGap);
    }
}

/// `Ebb | Flood`: behind a `let` a step further in.
fn or_pattern(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = match p.handed(node) {
        Some(group) => group,
        None => {
            let group = p.group(Shape::Chain, p.first(node), p.end(node));
            p.group_mut(group).rows = Rows::Loose;
            group
        }
    };
    let mut outer = p.parent(node);
    while is(p, outer, Kind::OrPattern) {
        outer = p.parent(outer);
    }
    let kind = Kind::of(p.kind(outer));
    let level = u8::from(matches!(kind, Kind::LetCondition | Kind::LetDeclaration));
    let gap = p.choices.operator_gap;
    match parts {
        [left, bar, right] => {
            if is(p, *left, Kind::OrPattern) {
                p.hand(*left, group);
            }
            p.alternative(p.first(*bar), group, level, gap);
            p.flat(p.first(*right), gap, Setting::OperatorGap);
        }
        [_, right] => p.flat(p.first(*right), gap, Setting::OperatorGap),
        _ => {}
    }
}
