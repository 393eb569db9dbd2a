//! Style sheets: rules and at-rules, each with a block of declarations and of further rules; and two
//! dialects with variables.

mod layout;
mod masking;
mod spelling;
#[cfg(test)]
mod tests;

use super::Language;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar};

/// `/* why */`; nothing else is one.
const COMMENTS: Comments = Comments {
    blocks: &[("/*", "*/")],
    gutter: Some("*"),
    ..Comments::NONE
};

/// Those of the dialects: `// why` as well.
const LINE_COMMENTS: Comments = Comments { line: &["//"], ..COMMENTS };

/// Of a dialect; the last one is of dialects alone.
const DIALECT_FAMILIES: &[Family] = &[
    Family::Values,
    Family::Headers,
    Family::Classes,
    Family::Types,
    Family::Blocks,
    Family::InlineBlocks,
    Family::Pairs,
    Family::Quotes,
    Family::Sheets,
    Family::StatementEnd,
    Family::SharedLines,
    Family::LineComments,
];

const FAMILIES: &[Family] = DIALECT_FAMILIES.split_last().expect("some families").1;

/// What the community's widely followed guides agree on: two spaces, one selector and one
/// declaration a line, each of these ended by a semicolon, and a blank line between rules.
const DEFAULTS: &[(Setting, Key, &str)] = &[
    (Setting::IndentSize, Key::Whole, "2"),
    (Setting::ListWrap, Key::Whole, "one_each"),
    (Setting::StatementEnd, Key::Whole, "semicolon"),
    // People put a value below the first one as often as a step further in.
    (Setting::WrapAlign, Key::Value, "any"),
    (Setting::BlankLines, Key::BetweenTypes, "1"),
    (Setting::BlankLines, Key::Most, "1"),
];

pub(super) static LANGUAGE: Language = Language {
    name: "css",
    follows: None,
    suffixes: &["css"],
    file_names: &[],
    made_names: &[],
    interpreters: &[],
    identifiers: &["css"],
    line_comment: None,
    grammar: Grammar::new(|| tree_sitter_css::LANGUAGE.into(), &layout::KINDS, &COMMENTS)
        .without(layout::foreign)
        .naming(layout::IDLE)
        .lacking(layout::may_lack_value)
        .showing(layout::shows)
        .masking(masking::plain),
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

pub(super) static SCSS: Language = dialect(
    &["scss"],
    masking::scss,
    &[
        ("chart.scss", include_str!("samples/chart.scss")),
        ("hasty.scss", include_str!("samples/hasty.scss")),
    ],
);

pub(super) static LESS: Language = dialect(
    &["less"],
    masking::less,
    &[
        ("hasty.less", include_str!("samples/hasty.less")),
        ("buoys.less", include_str!("samples/buoys.less")),
    ],
);

/// A dialect, by its name, which its files end in as well.
const fn dialect(
    name: &'static [&'static str; 1],
    masked: fn(&str) -> Option<String>,
    samples: &'static [(&'static str, &'static str)],
) -> Language {
    Language {
        name: name[0],
        follows: Some("css"),
        suffixes: name,
        file_names: &[],
        made_names: &[],
        interpreters: &[],
        identifiers: name,
        line_comment: Some("//"),
        grammar: Grammar::new(|| tree_sitter_css::LANGUAGE.into(), &layout::KINDS, &LINE_COMMENTS)
            .without(layout::is_open_string)
            .naming(layout::IDLE_OF_DIALECTS)
            .lacking(layout::may_lack_value)
            .showing(layout::shows)
            .masking(masked),
        rule: layout::rule,
        contents: None,
        embeds: None,
        families: DIALECT_FAMILIES,
        defaults: DEFAULTS,
        samples,
    }
}
