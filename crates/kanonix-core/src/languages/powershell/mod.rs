//! The shell whose commands are verbs and nouns: commands with arguments between blanks, pipelines,
//! script blocks, and types between brackets.

mod expressions;
mod kinds;
mod masking;
mod statements;
#[cfg(test)]
mod tests;

use super::Language;
use crate::layout::planner::Planner;
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, NodeId, Tree};
use kinds::{KINDS, Kind};

/// `# why` and `<# why #>`; what a script asks of the shell, and the regions of an editor.
const COMMENTS: Comments = Comments {
    blocks: &[("<#", "#>")],
    told: &["requires", "region", "endregion"],
    ..Comments::HASH
};

pub(super) static LANGUAGE: Language = Language {
    name: "powershell",
    follows: None,
    suffixes: &["ps1", "psm1", "psd1"],
    file_names: &[],
    made_names: &[],
    interpreters: &["pwsh", "powershell"],
    identifiers: &["powershell"],
    line_comment: Some("#"),
    grammar: Grammar::new(|| tree_sitter_powershell::LANGUAGE.into(), &KINDS, &COMMENTS)
        .opening(&[("(", ")"), ("[", "]"), ("{", "}"), ("@(", ")"), ("$(", ")"), ("@{", "}")])
        .with_joins("`")
        .naming(&["class", "enum"])
        .idle_as("program")
        .masking(masking::masked)
        .showing(shows)
        .with_margins(|text| text.starts_with("<#"))
        .counting_line_ends(),
    rule,
    contents: None,
    embeds: None,
    families: &[
        Family::LineComments,
        Family::Values,
        Family::Collections,
        Family::Signs,
        Family::Expressions,
        Family::ApartParens,
        Family::Headers,
        Family::Definitions,
        Family::Defaults,
        Family::Classes,
        Family::Types,
        Family::Members,
        Family::Cases,
        Family::Blocks,
        Family::InlineBlocks,
        Family::Braces,
        Family::DoLoops,
        Family::ParenHeaders,
        Family::Parentheses,
        Family::Lambdas,
        Family::Casts,
        Family::AnyCase,
    ],
    // "The PowerShell Best Practices and Style Guide" (the community's own,
    // poshcode.gitbook.io/powershell-practice-and-style): four spaces a step, an opening brace at the end
    // of its line, `else` behind the brace, blanks around operators and inside the braces of blocks, none
    // inside parentheses. What stands between a type and its variable is as people have it.
    defaults: &[
        (Setting::MaxLineLength, Key::Whole, "115"),
        (Setting::InnerGap, Key::Braces, "keep"),
        (Setting::InnerGap, Key::Block, "keep"),
        (Setting::ParenGap, Key::Declaration, "keep"),
        (Setting::ParenGap, Key::Cast, "keep"),
        (Setting::OperatorGap, Key::Default, "keep"),
        (Setting::FlatBlock, Key::Type, "keep"),
        (Setting::FlatBlock, Key::Function, "keep"),
        (Setting::FlatBlock, Key::Control, "keep"),
        (Setting::FlatBlock, Key::Case, "keep"),
        (Setting::FlatBlock, Key::Lambda, "keep"),
        (Setting::WrapAlign, Key::Call, "any"),
        (Setting::WrapAlign, Key::Declaration, "any"),
        (Setting::WrapAlign, Key::Collection, "any"),
        (Setting::WrapAlign, Key::Condition, "any"),
        (Setting::CloseBracket, Key::Call, "keep"),
        (Setting::CloseBracket, Key::Declaration, "keep"),
        (Setting::CloseBracket, Key::Collection, "keep"),
        (Setting::CloseBracket, Key::Condition, "keep"),
        (Setting::BlankLines, Key::Most, "2"),
        (Setting::BlankLines, Key::BetweenFunctions, "1"),
        (Setting::BlankLines, Key::BetweenTypes, "1"),
        (Setting::BlankLines, Key::BetweenMembers, "1"),
        (Setting::BlankLines, Key::AtEdges, "1"),
        (Setting::Columns, Key::Comment, "keep"),
        (Setting::Columns, Key::Value, "keep"),
    ],
    samples: &[
        ("gauge.ps1", include_str!("samples/gauge.ps1")),
        ("hasty.ps1", include_str!("samples/hasty.ps1")),
        ("tables.ps1", include_str!("samples/tables.ps1")),
        ("wrapped.ps1", include_str!("samples/wrapped.ps1")),
    ],
};

/// The rule for a node: a function a construct, named after it.
fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    let kind = Kind::at(p, node);
    parts.iter().for_each(|part| keyword(p, *part));
    expressions::rule(p, node, kind, parts) || statements::rule(p, node, kind, parts)
}

/// A word of the language, or an operator that is a word, in lower case.
fn keyword(p: &mut Planner, part: NodeId) {
    let kind = Kind::at(p, part);
    if !matches!(kind, Kind::Other | Kind::Param | Kind::SwitchClauseCondition) {
        return;
    }
    let token = p.first(part);
    let text = p.token_text(token);
    let is_word = kind != Kind::SwitchClauseCondition || text.eq_ignore_ascii_case("default");
    if is_word
        && p.end(part) == token + 1
        && text.bytes().any(|byte| byte.is_ascii_uppercase())
        && p.style.is(Setting::LetterCase, Key::Keyword, "lower")
    {
        let spelt = text.to_ascii_lowercase();
        p.respell(token, spelt, Setting::LetterCase, "write the word in lower case");
    }
}

/// Whether a kind has brackets of its own, inside which blanks say nothing.
fn is_bracketed(kind: Kind) -> bool {
    matches!(
        kind,
        Kind::ParenthesizedExpression
            | Kind::SubExpression
            | Kind::ArrayExpression
            | Kind::ScriptBlockExpression
            | Kind::HashLiteralExpression
            | Kind::ArgumentList
    )
}

/// Before which tokens white space shows: it stands between the arguments of a command.
fn shows(tree: &Tree, _: &str) -> Vec<bool> {
    let mut shows = vec![false; tree.tokens.len()];
    let mut inside = vec![false; tree.nodes.len()];
    for (id, node) in tree.nodes.iter().enumerate() {
        let kind = Kind::of(node.kind);
        let parent = &tree.nodes[node.parent as usize];
        let around = id > 0 && inside[node.parent as usize];
        let begins = Kind::of(parent.kind) == Kind::Command && parent.first == node.first;
        let is_argument = tree.tokens.get(node.first as usize).is_some_and(|token| {
            around && node.end > node.first && !begins && !token.role.is_passed_over()
        });
        if is_argument {
            shows[node.first as usize] = true;
        }
        inside[id] = (around && !is_bracketed(kind)) || kind == Kind::Command;
    }
    shows
}
