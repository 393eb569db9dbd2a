//! Python 3, as its 3.12 grammar has it.

mod expressions;
mod kinds;
mod statements;

use super::Language;
use crate::layout::planner::Planner;
use crate::syntax::{Comments, Grammar, Indented, NodeId};
use kinds::{GOES_ON, KINDS, Kind, foreign, goes_on, is_block};

pub(super) static LANGUAGE: Language = Language {
    name: "python",
    follows: None,
    suffixes: &["py", "pyi", "pyw"],
    file_names: &[],
    interpreters: &["python", "pypy"],
    identifiers: &["python"],
    line_comment: Some("#"),
    grammar: Grammar::new(|| tree_sitter_python::LANGUAGE.into(), &KINDS, &Comments::HASH)
        .indented(Indented { is_block, goes_on, words: GOES_ON })
        .without(foreign),
    rule,
    // PEP 8, "Style Guide for Python Code". It allows a trailing comma and leaves quotes open.
    defaults: &[
        ("max_line_length", "", "79"),
        ("statement_end", "", "bare"),
        ("operator_place", "", "leads"),
        ("wrap_indent", "element", "0"),
        ("blank_lines", "between_functions", "2"),
        ("blank_lines", "between_types", "2"),
        ("blank_lines", "between_members", "1"),
        ("blank_lines", "at_edges", "1"),
        ("comment_gap", "before", "2"),
        ("comment_gap", "after_mark", "true"),
    ],
    without: &[
        "paren_gap.control",
        "paren_gap.lambda",
        "inner_gap.angles",
        "inner_gap.markup",
        "open_brace",
        "flat_block.lambda",
        "flat_block.value",
        "wrap_indent.declaration",
        "else_line",
        "bare_body",
        "case_indent",
        "markup_quotes",
        "not_gap",
        "tag_end",
    ],
    samples: &[
        ("ingest.py", include_str!("samples/ingest.py")),
        ("report.py", include_str!("samples/report.py")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    expressions::rule(p, node, kind, parts) || statements::rule(p, node, kind, parts)
}
