//! Python 3, as its 3.12 grammar has it.

mod expressions;
mod kinds;
mod parentheses;
mod statements;
#[cfg(test)]
mod tests;

use super::Language;
use crate::layout::planner::Planner;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, Indented, NodeId};
use kinds::{GOES_ON, KINDS, Kind, LEXIS, foreign, goes_on, is_block};

pub(super) static LANGUAGE: Language = Language {
    name: "python",
    follows: None,
    suffixes: &["py", "pyi", "pyw"],
    file_names: &[],
    made_names: &[],
    interpreters: &["python", "pypy"],
    identifiers: &["python"],
    line_comment: Some("#"),
    grammar: Grammar::new(|| tree_sitter_python::LANGUAGE.into(), &KINDS, &Comments::HASH)
        .indented(Indented { is_block, goes_on, words: GOES_ON, lexis: LEXIS })
        .without(foreign),
    rule,
    contents: None,
    embeds: None,
    families: &[
        Family::Values,
        Family::LineComments,
        Family::Collections,
        Family::LastComma,
        Family::Signs,
        Family::Expressions,
        Family::CompareMarks,
        Family::LinesInBrackets,
        Family::ApartParens,
        Family::ApartCalls,
        Family::EitherSide,
        Family::Headers,
        Family::Classes,
        Family::Definitions,
        Family::Members,
        Family::Types,
        Family::Pairs,
        Family::Powers,
        Family::Annotations,
        Family::Defaults,
        Family::Parentheses,
        Family::Quotes,
        Family::StatementEnd,
    ],
    // PEP 8, "Style Guide for Python Code". It allows a trailing comma and leaves quotes open.
    defaults: &[
        (Setting::MaxLineLength, Key::Whole, "79"),
        (Setting::StatementEnd, Key::Whole, "bare"),
        (Setting::OperatorPlace, Key::Whole, "leads"),
        (Setting::WrapIndent, Key::Element, "0"),
        (Setting::WrapAlign, Key::Call, "keep"),
        (Setting::WrapAlign, Key::Declaration, "keep"),
        (Setting::WrapAlign, Key::Collection, "keep"),
        (Setting::WrapAlign, Key::Condition, "keep"),
        (Setting::CloseBracket, Key::Call, "keep"),
        (Setting::CloseBracket, Key::Declaration, "keep"),
        (Setting::CloseBracket, Key::Collection, "keep"),
        (Setting::CloseBracket, Key::Condition, "keep"),
        (Setting::WrapParens, Key::Whole, "add"),
        (Setting::OperatorGap, Key::Power, "keep"),
        (Setting::OperatorGap, Key::Default, "false"),
        (Setting::BlankLines, Key::BetweenFunctions, "2"),
        (Setting::BlankLines, Key::BetweenTypes, "2"),
        (Setting::BlankLines, Key::BetweenMembers, "1"),
        (Setting::BlankLines, Key::AtEdges, "1"),
        (Setting::CommentGap, Key::Before, "2"),
        (Setting::CommentGap, Key::AfterMark, "true"),
    ],
    samples: &[
        ("ingest.py", include_str!("samples/ingest.py")),
        ("report.py", include_str!("samples/report.py")),
        ("tables.py", include_str!("samples/tables.py")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    expressions::rule(p, node, kind, parts) || statements::rule(p, node, kind, parts)
}
