//! JavaScript: modules, scripts and what the language standard has.

mod expressions;
mod kinds;
mod statements;

use super::Language;
use crate::layout::planner::Planner;
use crate::syntax::{Grammar, NodeId};
use kinds::{ENTRIES, Kind, role};

pub(super) static LANGUAGE: Language = Language {
    name: "javascript",
    suffixes: &["js", "mjs", "cjs"],
    file_names: &[],
    grammar: Grammar::new(|| tree_sitter_javascript::LANGUAGE.into(), ENTRIES, role),
    rule,
    // The language standard has no style guide; where its community is divided, nothing is asked.
    defaults: &[("indent_size", "", "2"), ("inner_gap", "braces", "true")],
    without: &[],
    samples: &[
        ("siren.js", include_str!("samples/siren.js")),
        ("dashboard.mjs", include_str!("samples/dashboard.mjs")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId) {
    let kind = Kind::of(p.kind(node));
    if !statements::rule(p, node, kind) && !expressions::rule(p, node, kind) {
        unknown(p, node, kind);
    }
}

/// A construct that no rule knows is kept as it stands.
fn unknown(p: &mut Planner, node: NodeId, kind: Kind) {
    let is_markup = matches!(kind, Kind::JsxElement | Kind::JsxSelfClosingElement);
    if is_markup || p.end(node) > p.first(node) + 1 {
        p.keep(node);
    }
}
