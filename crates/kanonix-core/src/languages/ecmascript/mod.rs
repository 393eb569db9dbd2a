//! The languages of the ECMAScript standard: JavaScript with markup, and TypeScript without and
//! with it. They share their rules, as they share their constructs; each has its own grammar.

mod classes;
mod expressions;
mod kinds;
mod markup;
mod masking;
mod statements;
mod types;
#[cfg(test)]
mod tests;

use super::Language;
use crate::layout::planner::Planner;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, NodeId};
use kinds::{KINDS, Kind, LAST, ends_lines};

/// What a language standard has that has no style guide, types last: where its community is divided,
/// nothing is asked.
const DEFAULTS: &[(Setting, Key, &str)] = &[
    (Setting::IndentSize, Key::Whole, "2"),
    (Setting::InnerGap, Key::Braces, "true"),
    (Setting::WrapIndent, Key::Ternary, "2"),
    (Setting::WrapIndent, Key::Union, "2"),
];

/// What they have, markup first and types last: not all of them have both.
const FAMILIES: &[Family] = &[
    Family::Markup,
    Family::MarkupExpressions,
    Family::LineComments,
    Family::Values,
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
    Family::Pairs,
    Family::Powers,
    Family::LogicMarks,
    Family::Defaults,
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
    Family::Wrappers,
    Family::Declarators,
    Family::Not,
    Family::Quotes,
    Family::StatementEnd,
    Family::Angles,
    Family::Annotations,
    Family::Alternatives,
];

const fn grammar(load: fn() -> tree_sitter::Language) -> Grammar {
    Grammar::new(load, &KINDS, &Comments::SLASHES).ending_lines(ends_lines).ending_lists(LAST)
}

pub(super) static JAVASCRIPT: Language = Language {
    name: "javascript",
    follows: None,
    suffixes: &["js", "mjs", "cjs", "jsx"],
    file_names: &[],
    made_names: &[],
    interpreters: &["node", "nodejs", "bun"],
    identifiers: &["javascript", "javascriptreact"],
    line_comment: Some("//"),
    grammar: grammar(|| tree_sitter_javascript::LANGUAGE.into()).masking(masking::names),
    rule,
    contents: None,
    embeds: None,
    families: FAMILIES.split_at(FAMILIES.len() - 3).0,
    defaults: DEFAULTS.split_at(3).0,
    samples: &[
        ("siren.js", include_str!("samples/siren.js")),
        ("dashboard.mjs", include_str!("samples/dashboard.mjs")),
        ("panel.jsx", include_str!("samples/panel.jsx")),
        ("tables.js", include_str!("samples/tables.js")),
        ("wrapped.js", include_str!("samples/wrapped.js")),
    ],
};

pub(super) static TYPESCRIPT: Language = Language {
    name: "typescript",
    follows: None,
    suffixes: &["ts", "mts", "cts"],
    file_names: &[],
    made_names: &[],
    interpreters: &["deno", "ts-node", "tsx"],
    identifiers: &["typescript"],
    line_comment: Some("//"),
    grammar: grammar(|| tree_sitter_typescript::LANGUAGE_TYPESCRIPT.into())
        .hiding(&[masking::TYPE])
        .masking(masking::signatures),
    rule,
    contents: None,
    embeds: None,
    families: FAMILIES.split_at(2).1,
    defaults: DEFAULTS,
    samples: &[
        ("forecast.ts", include_str!("samples/forecast.ts")),
        ("tables.ts", include_str!("samples/tables.js")),
        ("wrapped.ts", include_str!("samples/wrapped.js")),
        ("siren.ts", include_str!("samples/siren.js")),
        ("dashboard.ts", include_str!("samples/dashboard.mjs")),
    ],
};

pub(super) static TSX: Language = Language {
    name: "tsx",
    follows: Some("typescript"),
    suffixes: &["tsx"],
    file_names: &[],
    made_names: &[],
    interpreters: &[],
    identifiers: &["typescriptreact"],
    line_comment: Some("//"),
    grammar: grammar(|| tree_sitter_typescript::LANGUAGE_TSX.into())
        .hiding(&[masking::TYPE])
        .masking(masking::signatures),
    rule,
    contents: None,
    embeds: None,
    families: FAMILIES,
    defaults: DEFAULTS,
    samples: &[
        ("chart.tsx", include_str!("samples/chart.tsx")),
        ("tables.tsx", include_str!("samples/tables.js")),
        ("wrapped.tsx", include_str!("samples/wrapped.js")),
        ("panel.tsx", include_str!("samples/panel.jsx")),
        ("siren.tsx", include_str!("samples/siren.js")),
        ("dashboard.tsx", include_str!("samples/dashboard.mjs")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    expressions::rule(p, node, kind, parts)
        || statements::rule(p, node, kind, parts)
        || classes::rule(p, node, kind, parts)
        || types::rule(p, node, kind, parts)
        || markup::rule(p, node, kind, parts)
}
