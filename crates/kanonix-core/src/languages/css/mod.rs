//! Style sheets: rules and at-rules, each with a block of declarations and of further rules; and two
//! dialects with variables.

mod dialects;
mod layout;
mod spelling;
#[cfg(test)]
mod tests;

use super::Language;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar};

/// `/* why */`; nothing else is one.
const COMMENTS: Comments = Comments { line: &[], blocks: &[("/*", "*/")], gutter: Some("*") };

/// Those of the dialects: `// why` as well.
const LINE_COMMENTS: Comments = Comments { line: &["//"], ..COMMENTS };

const FAMILIES: &[Family] = &[
    Family::Values,
    Family::Headers,
    Family::Types,
    Family::Blocks,
    Family::Pairs,
    Family::Quotes,
    Family::Sheets,
    Family::StatementEnd,
];

const DIALECT_FAMILIES: &[Family] = &[
    Family::Values,
    Family::Headers,
    Family::Types,
    Family::Blocks,
    Family::Pairs,
    Family::Quotes,
    Family::Sheets,
    Family::StatementEnd,
    Family::LineComments,
];

/// What the community's widely followed guides agree on: two spaces, one selector and one
/// declaration a line, each of these ended by a semicolon, and a blank line between rules.
const DEFAULTS: &[(Setting, Key, &str)] = &[
    (Setting::IndentSize, Key::Whole, "2"),
    (Setting::ListWrap, Key::Whole, "one_each"),
    (Setting::StatementEnd, Key::Whole, "semicolon"),
    (Setting::BlankLines, Key::BetweenTypes, "1"),
    (Setting::BlankLines, Key::Most, "1"),
];

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
    families: FAMILIES,
    defaults: DEFAULTS,
    samples: &[
        ("dashboard.css", include_str!("samples/dashboard.css")),
        ("hasty.css", include_str!("samples/hasty.css")),
    ],
};

pub(super) static SCSS: Language = Language {
    name: "scss",
    follows: Some("css"),
    suffixes: &["scss"],
    file_names: &[],
    interpreters: &[],
    identifiers: &["scss"],
    line_comment: Some("//"),
    grammar: Grammar::new(|| tree_sitter_css::LANGUAGE.into(), &layout::KINDS, &LINE_COMMENTS)
        .masking(dialects::scss),
    rule: layout::rule,
    contents: None,
    embeds: None,
    families: DIALECT_FAMILIES,
    defaults: DEFAULTS,
    samples: &[
        ("chart.scss", include_str!("samples/chart.scss")),
        ("hasty.scss", include_str!("samples/hasty.scss")),
    ],
};

pub(super) static LESS: Language = Language {
    name: "less",
    follows: Some("css"),
    suffixes: &["less"],
    file_names: &[],
    interpreters: &[],
    identifiers: &["less"],
    line_comment: Some("//"),
    grammar: Grammar::new(|| tree_sitter_css::LANGUAGE.into(), &layout::KINDS, &LINE_COMMENTS)
        .masking(dialects::less),
    rule: layout::rule,
    contents: None,
    embeds: None,
    families: DIALECT_FAMILIES,
    defaults: DEFAULTS,
    samples: &[
        ("hasty.less", include_str!("samples/hasty.less")),
        ("buoys.less", include_str!("samples/buoys.less")),
    ],
};
