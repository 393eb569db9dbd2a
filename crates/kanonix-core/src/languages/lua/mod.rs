//! Lua 5.1 to 5.4, and the numbers of its common just-in-time dialect: blocks between words.

mod expressions;
mod kinds;
mod statements;
#[cfg(test)]
mod tests;

use super::Language;
use crate::layout::planner::Planner;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, NodeId};
use kinds::{KINDS, Kind};

/// `-- why`, and long brackets of any level that people use.
const COMMENTS: Comments = Comments {
    line: &["--"],
    blocks: &[
        ("--[[", "]]"),
        ("--[=[", "]=]"),
        ("--[==[", "]==]"),
        ("--[===[", "]===]"),
        ("--[====[", "]====]"),
    ],
    ..Comments::NONE
};

pub(super) static LANGUAGE: Language = Language {
    name: "lua",
    follows: None,
    suffixes: &["lua", "rockspec"],
    file_names: &[],
    made_names: &[],
    interpreters: &["lua", "luajit"],
    identifiers: &["lua"],
    line_comment: Some("--"),
    grammar: Grammar::new(|| tree_sitter_lua::LANGUAGE.into(), &KINDS, &COMMENTS)
        .opening(&[
            ("(", ")"),
            ("[", "]"),
            ("{", "}"),
            ("function", "end"),
            ("if", "end"),
            ("do", "end"),
            ("repeat", "until"),
        ])
        .masking(joined),
    rule,
    contents: None,
    embeds: None,
    families: &[
        Family::LineComments,
        Family::Wrappers,
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
        Family::Definitions,
        Family::Powers,
        Family::Parentheses,
        Family::NamelessFunctions,
        Family::Lambdas,
        Family::Quotes,
        Family::Initializers,
    ],
    // "Lua Style Guide" (the community's own wiki, lua-users.org/wiki/LuaStyleGuide): two spaces a step,
    // blanks around operators and behind commas. It leaves quotes, blocks on one line and the blanks
    // inside braces open, and so do its readers.
    defaults: &[
        (Setting::IndentSize, Key::Whole, "2"),
        (Setting::InnerGap, Key::Braces, "keep"),
        (Setting::OperatorGap, Key::Power, "keep"),
        (Setting::FlatBlock, Key::Function, "keep"),
        (Setting::FlatBlock, Key::Control, "keep"),
        (Setting::FlatBlock, Key::Lambda, "keep"),
        (Setting::LastComma, Key::Whole, "keep"),
        (Setting::WrapAlign, Key::Call, "any"),
        (Setting::WrapAlign, Key::Declaration, "any"),
        (Setting::WrapAlign, Key::Condition, "any"),
        (Setting::OpenBrace, Key::Collection, "keep"),
        (Setting::CloseBracket, Key::Call, "keep"),
        (Setting::CloseBracket, Key::Declaration, "keep"),
        (Setting::CloseBracket, Key::Condition, "keep"),
        (Setting::OperatorPlace, Key::Whole, "keep"),
        (Setting::BlankLines, Key::AtEdges, "1"),
        (Setting::Columns, Key::Comment, "keep"),
        (Setting::Columns, Key::Value, "keep"),
    ],
    samples: &[
        ("gauge.lua", include_str!("samples/gauge.lua")),
        ("hasty.lua", include_str!("samples/hasty.lua")),
        ("tables.lua", include_str!("samples/tables.lua")),
        ("wrapped.lua", include_str!("samples/wrapped.lua")),
    ],
};

/// A text as the grammar is shown it, where a string goes on behind a line end of two bytes: the mark that
/// says so (`\\`) stands right before the second one, the only one that the grammar knows.
fn joined(text: &str) -> Option<String> {
    let joins: Vec<usize> = text.match_indices("\\\r\n").map(|(at, _)| at).collect();
    let mut bytes = (!joins.is_empty()).then(|| text.as_bytes().to_vec())?;
    for at in joins {
        let before = text[..at].len() - text[..at].trim_end_matches('\\').len();
        // Two of them stand for one.
        if before % 2 == 0 {
            bytes[at..at + 2].copy_from_slice(b" \\");
        }
    }
    String::from_utf8(bytes).ok()
}

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    expressions::rule(p, node, kind, parts) || statements::rule(p, node, kind, parts)
}
