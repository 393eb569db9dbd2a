//! Java 21: types, members and statements between braces.

mod declarations;
mod expressions;
mod kinds;
mod masking;
mod members;
mod statements;
#[cfg(test)]
mod tests;

use super::Language;
use crate::layout::planner::Planner;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, NodeId};
use kinds::{KINDS, Kind};

/// What a text over several lines begins with.
const TEXT_BLOCK: &str = "\"\"\"";

pub(super) static LANGUAGE: Language = Language {
    name: "java",
    follows: None,
    suffixes: &["java"],
    file_names: &[],
    made_names: &[],
    interpreters: &["java"],
    identifiers: &["java"],
    line_comment: Some("//"),
    grammar: Grammar::new(|| tree_sitter_java::LANGUAGE.into(), &KINDS, &Comments::SLASHES)
        .with_margins(|text| text.starts_with(TEXT_BLOCK))
        .masking(masking::masked),
    rule,
    contents: None,
    embeds: None,
    families: &[
        Family::LineComments,
        Family::Values,
        Family::SharedLines,
        Family::Collections,
        Family::LastComma,
        Family::Signs,
        Family::Expressions,
        Family::CompareMarks,
        Family::ApartParens,
        Family::ApartCalls,
        Family::EitherSide,
        Family::Headers,
        Family::Classes,
        Family::Definitions,
        Family::Defaults,
        Family::Members,
        Family::Fields,
        Family::Types,
        Family::LogicMarks,
        Family::Parentheses,
        Family::Ternaries,
        Family::TernaryPlaces,
        Family::Blocks,
        Family::InlineBlocks,
        Family::Braces,
        Family::DoLoops,
        Family::LambdaBraces,
        Family::Cases,
        Family::Lambdas,
        Family::ParenHeaders,
        Family::BareBodies,
        Family::Declarators,
        Family::Not,
        Family::Angles,
        Family::Casts,
        Family::Attributes,
        Family::NamedImports,
        Family::Throws,
        Family::Modifiers,
        Family::ReturnTypes,
    ],
    // "Code Conventions for the Java Programming Language" (its developers, 1999): four spaces, a
    // line is broken before an operator and goes on eight spaces further in, a closing bracket
    // follows what it closes, a blank line between methods, short comments near each other begin in
    // one column (5.1.3). Its 80 columns are 100 today. Where it says nothing, or people do otherwise
    // since (cases, blanks inside braces, the column that a broken list stands in), nothing is asked.
    defaults: &[
        (Setting::MaxLineLength, Key::Whole, "100"),
        (Setting::OperatorPlace, Key::Whole, "leads"),
        (Setting::InnerGap, Key::Braces, "keep"),
        (Setting::WrapAlign, Key::Call, "any"),
        (Setting::WrapAlign, Key::Declaration, "any"),
        (Setting::WrapAlign, Key::Condition, "any"),
        (Setting::WrapAlign, Key::Ternary, "any"),
        (Setting::CloseBracket, Key::Call, "with_last"),
        (Setting::CloseBracket, Key::Declaration, "with_last"),
        (Setting::CloseBracket, Key::Condition, "with_last"),
        (Setting::Columns, Key::Comment, "keep"),
        (Setting::Columns, Key::Value, "keep"),
        (Setting::BlankLines, Key::Most, "2"),
        (Setting::BlankLines, Key::AfterImports, "1"),
        (Setting::BlankLines, Key::BetweenFunctions, "1"),
        (Setting::BlankLines, Key::BetweenTypes, "1"),
        (Setting::BlankLines, Key::BetweenMembers, "1"),
        (Setting::WrapIndent, Key::Chain, "2"),
        (Setting::WrapIndent, Key::List, "2"),
    ],
    samples: &[
        ("Gauge.java", include_str!("samples/Gauge.java")),
        ("Hasty.java", include_str!("samples/Hasty.java")),
        ("Siren.java", include_str!("samples/Siren.java")),
        ("Tables.java", include_str!("samples/Tables.java")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    expressions::rule(p, node, kind, parts)
        || statements::rule(p, node, kind, parts)
        || declarations::rule(p, node, kind, parts)
}
