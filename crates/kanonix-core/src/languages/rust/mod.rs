//! Rust, as its edition of 2024 has it.

mod blocks;
mod expressions;
mod items;
mod kinds;
mod masking;
mod patterns;
mod types;
#[cfg(test)]
mod tests;

use super::Language;
use crate::layout::planner::Planner;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, NodeId, Reading};
use kinds::{KINDS, Kind, LAST, accepts};

pub(super) static LANGUAGE: Language = Language {
    name: "rust",
    follows: None,
    suffixes: &["rs"],
    file_names: &[],
    made_names: &[],
    interpreters: &["rust-script", "cargo"],
    identifiers: &["rust"],
    line_comment: Some("//"),
    grammar: Grammar::new(|| tree_sitter_rust::LANGUAGE.into(), &KINDS, &Comments::SLASHES)
        .masking(masking::names)
        .with_reading(Reading { end: ";", accepts })
        .ending_lists(LAST),
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
        Family::ApartParens,
        Family::ApartCalls,
        Family::EitherSide,
        Family::Headers,
        Family::Classes,
        Family::Definitions,
        Family::Members,
        Family::Types,
        Family::Pairs,
        Family::Ranges,
        Family::Annotations,
        Family::LogicMarks,
        Family::Blocks,
        Family::InlineBlocks,
        Family::Braces,
        Family::LambdaBraces,
        Family::Cases,
        Family::Lambdas,
        Family::Namespaces,
        Family::OtherBlocks,
        Family::ValueBlocks,
        Family::Angles,
        Family::Not,
    ],
    // The Rust Style Guide, as it stands beside the language's reference.
    defaults: &[
        (Setting::InnerGap, Key::Braces, "true"),
        (Setting::OperatorPlace, Key::Whole, "leads"),
        (Setting::LastComma, Key::Whole, "open_list"),
        (Setting::FlatBlock, Key::Value, "keep"),
        (Setting::BlankLines, Key::Most, "1"),
    ],
    samples: &[
        ("gauge.rs", include_str!("samples/gauge.rs")),
        ("alarm.rs", include_str!("samples/alarm.rs")),
        ("watch.rs", include_str!("samples/watch.rs")),
        ("tables.rs", include_str!("samples/tables.rs")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    items::rule(p, node, kind, parts)
        || blocks::rule(p, node, kind, parts)
        || expressions::rule(p, node, kind, parts)
        || patterns::rule(p, node, kind, parts)
        || types::rule(p, node, kind, parts)
}
