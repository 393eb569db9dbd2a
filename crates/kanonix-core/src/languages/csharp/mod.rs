//! C# 12: types, members and statements between braces on lines of their own, and directives.

mod declarations;
mod expressions;
mod kinds;
mod lexis;
mod masking;
mod members;
mod patterns;
mod places;
mod statements;
#[cfg(test)]
mod tests;

use super::Language;
use crate::layout::planner::Planner;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Directives, Grammar, NodeId};
use kinds::{KINDS, Kind};

/// `#if` and its like, `#region`, `#pragma` and the others.
static DIRECTIVES: Directives = Directives {
    mark: b'#',
    conditions: [&["if"], &["elif", "else"], &["endif"]],
    regions: &["region", "endregion"],
    literal: lexis::literal,
    is_comment: lexis::is_comment,
};

/// What a text begins with whose lines lose what they have in common with its last one.
const RAW_TEXT: &str = "\"\"\"";

pub(super) static LANGUAGE: Language = Language {
    name: "csharp",
    follows: None,
    suffixes: &["cs", "csx"],
    file_names: &[],
    made_names: &[".designer.cs", ".g.cs", ".g.i.cs", ".generated.cs"],
    interpreters: &[],
    identifiers: &["csharp"],
    line_comment: Some("//"),
    grammar: Grammar::new(|| tree_sitter_c_sharp::LANGUAGE.into(), &KINDS, &Comments::SLASHES)
        .counting_line_ends()
        .ending_bare(expressions::is_entry)
        .with_margins(|text| text.starts_with(RAW_TEXT))
        .without(is_misplaced)
        .with_directives(&DIRECTIVES)
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
        Family::NamelessFunctions,
        Family::Declarators,
        Family::Defaults,
        Family::Not,
        Family::Pairs,
        Family::Ranges,
        Family::Angles,
        Family::Casts,
        Family::Attributes,
        Family::Modifiers,
        Family::ReturnTypes,
        Family::Wrappers,
        Family::Namespaces,
        Family::Accessors,
        Family::Initializers,
        Family::Directives,
    ],
    // "Common C# code conventions" (the language's own documentation): four spaces, each brace on a
    // line of its own, a line is broken before an operator and goes on one step further in, a blank
    // line between methods and properties. Its 65 columns are for its own pages; 120 is what people
    // write for. Where it says nothing, nothing is asked.
    defaults: &[
        (Setting::MaxLineLength, Key::Whole, "120"),
        (Setting::OpenBrace, Key::Type, "next_line"),
        (Setting::OpenBrace, Key::Function, "next_line"),
        (Setting::OpenBrace, Key::Control, "next_line"),
        (Setting::OpenBrace, Key::Lambda, "next_line"),
        (Setting::OpenBrace, Key::Accessor, "next_line"),
        (Setting::OpenBrace, Key::Collection, "next_line"),
        (Setting::OpenBrace, Key::Namespace, "next_line"),
        (Setting::ElseLine, Key::Branch, "own_line"),
        (Setting::ElseLine, Key::While, "keep"),
        (Setting::FlatBlock, Key::Type, "keep"),
        (Setting::FlatBlock, Key::Function, "keep"),
        (Setting::FlatBlock, Key::Lambda, "keep"),
        (Setting::OperatorPlace, Key::Whole, "leads"),
        (Setting::DirectiveIndent, Key::Region, "code"),
        (Setting::InnerGap, Key::Braces, "true"),
        (Setting::ParenGap, Key::Cast, "false"),
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
    ],
    samples: &[
        ("Gauge.cs", include_str!("samples/Gauge.cs")),
        ("Hasty.cs", include_str!("samples/Hasty.cs")),
        ("Siren.cs", include_str!("samples/Siren.cs")),
        ("Tables.cs", include_str!("samples/Tables.cs")),
    ],
};

/// A directive that the grammar reads does not begin its line: the language has no such thing.
fn is_misplaced(kind: u16, _: &str) -> bool {
    matches!(
        Kind::of(kind),
        Kind::PreprocRegion
            | Kind::PreprocEndregion
            | Kind::PreprocLine
            | Kind::PreprocPragma
            | Kind::PreprocNullable
            | Kind::PreprocError
            | Kind::PreprocWarning
            | Kind::PreprocDefine
            | Kind::PreprocUndef
            | Kind::PreprocIf
    )
}

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    expressions::rule(p, node, kind, parts)
        || patterns::rule(p, node, kind, parts)
        || statements::rule(p, node, kind, parts)
        || declarations::rule(p, node, kind, parts)
}
