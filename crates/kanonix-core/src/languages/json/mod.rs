//! JSON, with comments where somebody writes them.

mod layout;
#[cfg(test)]
mod tests;

use super::Language;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar};

pub(super) static LANGUAGE: Language = Language {
    name: "json",
    follows: None,
    suffixes: &["json", "jsonc", "geojson", "webmanifest"],
    file_names: &[],
    made_names: &["package-lock.json", "npm-shrinkwrap.json"],
    interpreters: &[],
    identifiers: &["json", "jsonc"],
    line_comment: None,
    grammar: Grammar::new(
        || tree_sitter_json::LANGUAGE.into(),
        &layout::KINDS,
        &Comments::SLASHES,
    ),
    rule: layout::rule,
    contents: None,
    embeds: None,
    families: &[
        Family::Values,
        Family::LineComments,
        Family::Collections,
        Family::Pairs,
    ],
    // The data interchange format has no style guide; two blanks are what most tools write.
    defaults: &[
        (Setting::IndentSize, Key::Whole, "2"),
        (Setting::InnerGap, Key::Braces, "true"),
        (Setting::BlankLines, Key::Most, "1"),
    ],
    samples: &[
        ("gauges.json", include_str!("samples/gauges.json")),
        ("tables.json", include_str!("samples/tables.json")),
    ],
};
