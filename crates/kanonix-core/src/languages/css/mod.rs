//! Style sheets: rules and at-rules, each with a block of declarations and of further rules.

mod layout;
mod spelling;
#[cfg(test)]
mod tests;

use super::Language;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar};

/// `/* why */`; nothing else is one.
const COMMENTS: Comments = Comments { line: &[], blocks: &[("/*", "*/")], gutter: Some("*") };

pub(super) static LANGUAGE: Language = Language {
    name: "css",
    follows: None,
    suffixes: &["css"],
    file_names: &[],
    interpreters: &[],
    identifiers: &["css"],
    line_comment: None,
    grammar: Grammar::new(|| tree_sitter_css::LANGUAGE.into(), &layout::KINDS, &COMMENTS)
        .without(layout::foreign),
    rule: layout::rule,
    contents: None,
    embeds: None,
    families: &[
        Family::Values,
        Family::Headers,
        Family::Types,
        Family::Blocks,
        Family::Pairs,
        Family::Quotes,
        Family::Sheets,
        Family::StatementEnd,
    ],
    // What the community's widely followed guides agree on: two spaces, one selector and one
    // declaration a line, each of these ended by a semicolon, and a blank line between rules.
    defaults: &[
        (Setting::IndentSize, Key::Whole, "2"),
        (Setting::ListWrap, Key::Whole, "one_each"),
        (Setting::StatementEnd, Key::Whole, "semicolon"),
        (Setting::BlankLines, Key::BetweenTypes, "1"),
        (Setting::BlankLines, Key::Most, "1"),
    ],
    samples: &[
        ("dashboard.css", include_str!("samples/dashboard.css")),
        ("hasty.css", include_str!("samples/hasty.css")),
    ],
};
