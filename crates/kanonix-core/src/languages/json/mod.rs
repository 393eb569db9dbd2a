//! JSON, with comments where somebody writes them.

mod layout;

use super::Language;
use crate::syntax::{Comments, Grammar};

pub(super) static LANGUAGE: Language = Language {
    name: "json",
    follows: None,
    suffixes: &["json", "jsonc", "geojson", "webmanifest"],
    file_names: &[],
    interpreters: &[],
    identifiers: &["json", "jsonc"],
    line_comment: None,
    grammar: Grammar::new(
        || tree_sitter_json::LANGUAGE.into(),
        &layout::KINDS,
        &Comments::SLASHES,
    ),
    rule: layout::rule,
    // The data interchange format has no style guide; two blanks are what most tools write.
    defaults: &[
        ("indent_size", "", "2"),
        ("inner_gap", "braces", "true"),
        ("blank_lines", "most", "1"),
    ],
    without: &[
        "blank_lines.after_imports",
        "blank_lines.between_functions",
        "blank_lines.between_members",
        "blank_lines.between_types",
        "inner_gap.angles",
        "inner_gap.markup",
        "inner_gap.parens",
        "open_brace",
        "else_line",
        "flat_block",
        "bare_body",
        "case_indent",
        "paren_gap",
        "operator_gap",
        "not_gap",
        "wrap_indent",
        "operator_place",
        "quotes",
        "markup_quotes",
        "tag_end",
        "statement_end",
        "last_comma",
    ],
    samples: &[("gauges.json", include_str!("samples/gauges.json"))],
};
