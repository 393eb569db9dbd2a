//! The script language of a game engine, of its versions 3 and 4: indentation is syntax, and functions without
//! a name may hold lines inside brackets.

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
use kinds::{GOES_ON, KINDS, Kind, LEXIS, REGROUPING, goes_on, is_block};

pub(super) static LANGUAGE: Language = Language {
    name: "gdscript",
    follows: None,
    suffixes: &["gd"],
    file_names: &[],
    made_names: &[],
    interpreters: &["godot"],
    identifiers: &["gdscript"],
    line_comment: Some("#"),
    grammar: Grammar::new(|| tree_sitter_gdscript::LANGUAGE.into(), &KINDS, &Comments::HASH)
        .regrouped(&REGROUPING)
        .indented(Indented { is_block, goes_on, words: GOES_ON, lexis: LEXIS }),
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
        Family::NamelessFunctions,
        Family::Quotes,
        Family::StatementEnd,
    ],
    // "GDScript style guide" (the engine's documentation, docs.godotengine.org): tabs, lines of a hundred
    // columns, two steps where a line goes on and one in collections, a comma behind their last line, `and`
    // and `or` at the beginning of a line, parentheses around what goes on, double quotes, two blank lines
    // around functions and classes. Of what stands inside braces and before comments it says nothing: the
    // second is what its users do.
    defaults: &[
        (Setting::IndentStyle, Key::Whole, "tab"),
        (Setting::StatementEnd, Key::Whole, "bare"),
        (Setting::InnerGap, Key::Braces, "keep"),
        (Setting::ParenGap, Key::Lambda, "false"),
        (Setting::Quotes, Key::Whole, "double"),
        (Setting::LastComma, Key::Whole, "open_list"),
        (Setting::OperatorPlace, Key::Whole, "leads"),
        (Setting::WrapParens, Key::Whole, "add"),
        (Setting::WrapIndent, Key::Chain, "2"),
        (Setting::WrapIndent, Key::List, "2"),
        (Setting::WrapIndent, Key::Element, "0"),
        (Setting::WrapAlign, Key::Call, "any"),
        (Setting::WrapAlign, Key::Declaration, "any"),
        (Setting::CloseBracket, Key::Call, "keep"),
        (Setting::CloseBracket, Key::Declaration, "keep"),
        (Setting::CloseBracket, Key::Collection, "keep"),
        (Setting::CloseBracket, Key::Condition, "keep"),
        (Setting::BlankLines, Key::BetweenFunctions, "2"),
        (Setting::BlankLines, Key::BetweenTypes, "2"),
        (Setting::BlankLines, Key::BetweenMembers, "1"),
        (Setting::BlankLines, Key::AtEdges, "1"),
        (Setting::CommentGap, Key::Before, "2"),
        (Setting::Columns, Key::Comment, "keep"),
    ],
    samples: &[
        ("visitors.gd", include_str!("samples/visitors.gd")),
        ("hasty.gd", include_str!("samples/hasty.gd")),
        ("tables.gd", include_str!("samples/tables.gd")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    expressions::rule(p, node, kind, parts) || statements::rule(p, node, kind, parts)
}
