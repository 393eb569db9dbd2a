//! Rust, as its edition of 2024 has it.

mod blocks;
mod expressions;
mod items;
mod kinds;
mod patterns;
mod types;

use super::Language;
use crate::layout::planner::Planner;
use crate::syntax::{Comments, Grammar, NodeId, Reading};
use kinds::{ENTRIES, Kind, accepts, role};

pub(super) static LANGUAGE: Language = Language {
    name: "rust",
    follows: None,
    suffixes: &["rs"],
    file_names: &[],
    interpreters: &["rust-script", "cargo"],
    identifiers: &["rust"],
    line_comment: Some("//"),
    grammar: Grammar::new(|| tree_sitter_rust::LANGUAGE.into(), ENTRIES, role, &Comments::SLASHES)
        .with_reading(Reading { end: ";", accepts }),
    rule,
    // The Rust Style Guide, as it stands beside the language's reference.
    defaults: &[
        ("inner_gap", "braces", "true"),
        ("operator_place", "", "leads"),
        ("last_comma", "", "open_list"),
        ("flat_block", "value", "keep"),
        ("blank_lines", "most", "1"),
    ],
    without: &[
        "bare_body",
        "paren_gap.control",
        "paren_gap.lambda",
        "inner_gap.markup",
        "markup_quotes",
        "quotes",
        "statement_end",
        "tag_end",
        "wrap_indent.declaration",
    ],
    samples: &[
        ("gauge.rs", include_str!("samples/gauge.rs")),
        ("alarm.rs", include_str!("samples/alarm.rs")),
        ("watch.rs", include_str!("samples/watch.rs")),
    ],
};

/// The word that what stands in a macro's brackets is left with: no token may be added or taken
/// away there, as the macro may count them.
const IN_MACRO: u8 = 1;

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let kind = Kind::of(p.kind(node));
    if parts.is_empty() && !matches!(kind, Kind::LineComment) {
        // A word, a mark, or what only a macro can read, which is kept as it stands.
        if matches!(kind, Kind::TokenTree | Kind::MacroRule) {
            p.keep(node);
        }
        return;
    }
    let known = items::rule(p, node, kind, parts)
        || blocks::rule(p, node, kind, parts)
        || expressions::rule(p, node, kind, parts)
        || patterns::rule(p, node, kind, parts)
        || types::rule(p, node, kind, parts);
    if !known && p.end(node) > p.first(node) + 1 {
        p.keep(node);
    }
    if !may_rewrite(p, node) {
        keep_marks(p, parts);
    }
}

/// A macro is told which marks touch: two that do go on touching, and two that do not stay apart.
fn keep_marks(p: &mut Planner, parts: &[NodeId]) {
    let is_mark = |byte: Option<&u8>| byte.is_some_and(|byte| b"+-*/<>=!&|?^.:".contains(byte));
    for part in parts.iter().skip(1) {
        let token = p.first(*part);
        let (before, after) = (p.token_text(token - 1), p.token_text(token));
        if is_mark(before.as_bytes().last()) && is_mark(after.as_bytes().first()) {
            match p.gap_text(token).is_empty() {
                true => p.word(token, 0),
                false => p.gap(token).blanks = 1,
            }
        }
    }
}

fn is(p: &Planner, node: NodeId, kind: Kind) -> bool {
    Kind::of(p.kind(node)) == kind
}

/// The place of the first part of a kind.
fn position(p: &Planner, parts: &[NodeId], kind: Kind) -> Option<usize> {
    parts.iter().position(|part| is(p, *part, kind))
}

/// Whether tokens may be added or taken away in a node.
fn may_rewrite(p: &Planner, node: NodeId) -> bool {
    p.context(node) != IN_MACRO
}
