//! Ruby: blocks between words and between braces, and texts that stand on the lines after the one that they
//! are announced on.

mod declarations;
mod expressions;
mod kinds;
mod patterns;
mod statements;
#[cfg(test)]
mod tests;

use super::Language;
use crate::layout::planner::Planner;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, NodeId, Reserved};
use kinds::{KINDS, Kind};

/// `# why`; `=begin` and `=end` are what they are at the margin alone.
const COMMENTS: Comments = Comments { at_margin: Some("=begin"), ..Comments::HASH };

pub(super) static LANGUAGE: Language = Language {
    name: "ruby",
    follows: None,
    suffixes: &["rb", "rake", "gemspec", "ru", "rbw", "jbuilder", "podspec", "thor"],
    file_names: &[
        "Gemfile", "Rakefile", "Guardfile", "Capfile", "Vagrantfile", "Brewfile", "Podfile",
        "Fastfile", "Thorfile", ".irbrc", ".pryrc",
    ],
    made_names: &[],
    interpreters: &["ruby", "jruby", "rake"],
    identifiers: &["ruby"],
    line_comment: Some("#"),
    grammar: Grammar::new(|| tree_sitter_ruby::LANGUAGE.into(), &KINDS, &COMMENTS)
        .with_joins("\\")
        .closing(&["end"])
        .reserving(Reserved {
            words: &["end"],
            behind: &[".", "&.", "::", "def", "alias", "undef"],
        })
        .counting_line_ends(),
    rule,
    contents: None,
    embeds: None,
    families: &[
        Family::LineComments,
        Family::Values,
        Family::Collections,
        Family::LastComma,
        Family::Signs,
        Family::Expressions,
        Family::CompareMarks,
        Family::Dots,
        Family::Headers,
        Family::Definitions,
        Family::Defaults,
        Family::Classes,
        Family::Types,
        Family::Members,
        Family::Cases,
        Family::AccessWords,
        Family::Wrappers,
        Family::Powers,
        Family::Ranges,
        Family::Ternaries,
        Family::LogicMarks,
        Family::Parentheses,
        Family::NamelessFunctions,
        Family::Lambdas,
        Family::InlineBlocks,
        Family::Quotes,
    ],
    // "The Ruby Style Guide" (the community's own, rubystyle.guide): two spaces a step, a case as far in
    // as its `case`, blanks around operators but for powers and ranges, inside the braces of hashes and
    // blocks and in no other bracket, a leading dot, a blank line between methods. It leaves quotes and
    // last commas open; a line ends behind an operator, as the language has it.
    defaults: &[
        (Setting::IndentSize, Key::Whole, "2"),
        (Setting::MaxLineLength, Key::Whole, "120"),
        (Setting::InnerGap, Key::Braces, "true"),
        (Setting::InnerGap, Key::Block, "true"),
        (Setting::ParenGap, Key::Lambda, "false"),
        (Setting::OperatorGap, Key::Power, "false"),
        (Setting::CaseIndent, Key::Whole, "false"),
        (Setting::FlatBlock, Key::Type, "keep"),
        (Setting::FlatBlock, Key::Control, "keep"),
        (Setting::FlatBlock, Key::Case, "keep"),
        (Setting::FlatBlock, Key::Lambda, "keep"),
        (Setting::LastComma, Key::Whole, "keep"),
        (Setting::WrapAlign, Key::Call, "any"),
        (Setting::WrapAlign, Key::Declaration, "any"),
        (Setting::WrapAlign, Key::Collection, "any"),
        (Setting::WrapAlign, Key::Condition, "any"),
        (Setting::WrapAlign, Key::Ternary, "any"),
        (Setting::CloseBracket, Key::Call, "keep"),
        (Setting::CloseBracket, Key::Declaration, "keep"),
        (Setting::CloseBracket, Key::Collection, "keep"),
        (Setting::CloseBracket, Key::Condition, "keep"),
        (Setting::BlankLines, Key::BetweenMembers, "1"),
        (Setting::BlankLines, Key::BetweenFunctions, "1"),
        (Setting::BlankLines, Key::AtEdges, "1"),
        (Setting::Columns, Key::Comment, "keep"),
        (Setting::Columns, Key::Value, "keep"),
    ],
    samples: &[
        ("report.rb", include_str!("samples/report.rb")),
        ("hasty.rb", include_str!("samples/hasty.rb")),
        ("tables.rb", include_str!("samples/tables.rb")),
        ("wrapped.rb", include_str!("samples/wrapped.rb")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    expressions::rule(p, node, kind, parts)
        || statements::rule(p, node, kind, parts)
        || declarations::rule(p, node, kind, parts)
        || patterns::rule(p, kind, parts)
}
