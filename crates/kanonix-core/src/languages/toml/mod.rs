//! TOML 1.0: one value a line, so that a line's end is syntax everywhere but in an array.

mod layout;
#[cfg(test)]
mod tests;

use super::Language;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar};

pub(super) static LANGUAGE: Language = Language {
    name: "toml",
    follows: None,
    suffixes: &["toml"],
    // Lock files are TOML, too; programs write them, and nobody reads them.
    file_names: &["Pipfile"],
    made_names: &[],
    interpreters: &[],
    identifiers: &["toml"],
    line_comment: Some("#"),
    grammar: Grammar::new(
        || tree_sitter_toml_ng::LANGUAGE.into(),
        &layout::KINDS,
        &Comments::HASH,
    )
    // "Parsers should feel free to normalize newlines": not all of them do.
    .counting_line_ends(),
    rule: layout::rule,
    contents: None,
    embeds: None,
    families: &[
        Family::Values,
        Family::LineComments,
        Family::Collections,
        Family::LastComma,
        Family::Signs,
        Family::Types,
        Family::Quotes,
    ],
    // The format has no style guide; this is how its own specification writes its examples, and 98
    // of 100 tables in the wild: a blank line before each, blanks inside braces, one around the
    // sign.
    defaults: &[
        (Setting::InnerGap, Key::Braces, "true"),
        (Setting::BlankLines, Key::BetweenTypes, "1"),
        (Setting::BlankLines, Key::Most, "1"),
    ],
    samples: &[
        ("gauges.toml", include_str!("samples/gauges.toml")),
        ("siren.toml", include_str!("samples/siren.toml")),
        ("hasty.toml", include_str!("samples/hasty.toml")),
        ("tables.toml", include_str!("samples/tables.toml")),
    ],
};
