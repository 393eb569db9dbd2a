//! A language that nobody writes: blocks between words, comments with marks of their own, no braces
//! around code. A table and a page of rules have to be enough; whatever the engine believes of
//! other languages shows here. It is read by a grammar that happens to read it.

use super::kinds::kinds;
use super::{Language, testing};
use crate::layout::plan::GroupId;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, List, Operators, Sort};
use crate::properties::{self, Case};
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, NodeId};
use crate::text::LineSet;
use crate::{judge, mend};

kinds! {
    statements { Chunk, Block }
    bodies { TableConstructor }
    atoms { String }
    comments { Comment }
    commas { VariableList, ExpressionList }
    words { ReturnStatement, VariableDeclaration }
    tight { DotIndexExpression, FunctionCall }
    ruled {
        FunctionDeclaration, IfStatement, ElseStatement, WhileStatement, Parameters, Arguments,
        AssignmentStatement, Field, BinaryExpression,
    }
    marks { Then = "then", Do = "do" }
    separators { Comma = "," }
}

static TIDES: Language = Language {
    name: "tides",
    follows: None,
    suffixes: &["tides"],
    file_names: &[],
    interpreters: &[],
    identifiers: &[],
    line_comment: Some("--"),
    grammar: Grammar::new(
        || tree_sitter_lua::LANGUAGE.into(),
        &KINDS,
        &Comments { line: &["--"], blocks: &[("--[[", "]]")], ..Comments::NONE },
    )
    .opening(&[
        ("(", ")"),
        ("{", "}"),
        ("function", "end"),
        ("if", "end"),
        ("while", "end"),
    ]),
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
        Family::Definitions,
        Family::Quotes,
    ],
    defaults: &[
        (Setting::InnerGap, Key::Braces, "true"),
        (Setting::BlankLines, Key::BetweenFunctions, "1"),
    ],
    samples: &[("harbour.tides", SAMPLE)],
};

const SAMPLE: &str = "\
-- What the harbour master does.
local high = 5.1

function warn(keepers, level)
    if level > high and not quiet then
        siren.sound(keepers, { tone = \"long\", times = 3 }) --[[ not at night ]]
    else
        while level < high do
            level = level + rise * 2
        end
    end
    return level, keepers
end
";

fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    match Kind::at(p, node) {
        Kind::Chunk => {
            p.statements(parts, GroupId::ROOT, 0, sort);
        }
        // What holds a block plans it.
        Kind::Block => {}
        Kind::FunctionDeclaration => {
            header(p, parts);
            body(p, node, parts);
        }
        Kind::IfStatement | Kind::WhileStatement => {
            header(p, parts);
            body(p, node, parts);
        }
        Kind::ElseStatement => {
            if let [word, block] = parts {
                let group = p.group(crate::layout::plan::Shape::Block, p.first(*word), p.end(node));
                p.statements(&p.parts(*block), group, 1, sort);
                p.bare_block(p.first(*block), p.end(node), group);
            }
        }
        Kind::Parameters | Kind::Arguments => _ = p.list(parts, List::new()),
        Kind::TableConstructor => _ = p.list(parts, List::new().collection().last_comma()),
        Kind::AssignmentStatement | Kind::Field => {
            parts.iter().skip(1).for_each(|part| p.operator(p.first(*part), Key::Assign));
        }
        Kind::BinaryExpression => {
            let [left, operator, right] = parts else { return false };
            let operator = p.first(*operator);
            p.binary(Binary {
                node,
                left: *left,
                operator,
                right: *right,
                operators: OPERATORS,
                breakable: true,
                may_lead: true,
                stand_in: None,
            });
        }
        Kind::String => p.quotes(p.first(node), 0, Setting::Quotes),
        _ => return false,
    }
    true
}

fn sort(p: &Planner, node: NodeId) -> Sort {
    if p.is(node, Kind::FunctionDeclaration) { Sort::Function } else { Sort::Other }
}

/// The operators, weak ones first.
const OPERATORS: Operators = &[
    (Key::Logic, &["or"]),
    (Key::Logic, &["and"]),
    (Key::Compare, &["<", ">"]),
    (Key::Sum, &["+", "-"]),
    (Key::Product, &["*", "/"]),
];

/// The words up to the first block.
fn header(p: &mut Planner, parts: &[NodeId]) {
    let end = p.position(parts, Kind::Block).unwrap_or(parts.len().saturating_sub(1));
    p.words(&parts[..end]);
    if let Some(at) = p.position(parts, Kind::Parameters) {
        p.parens(p.first(parts[at]), p.choices.declaration_parens);
    }
}

fn body(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let Some(end) = parts.last() else { return };
    let block = p.position(parts, Kind::Block).map(|at| p.parts(parts[at])).unwrap_or_default();
    let group = p.word_block(p.first(node), &block, *end, sort);
    if let Some(at) = p.position(parts, Kind::ElseStatement) {
        p.line(p.first(parts[at]), group, 0, Setting::FlatBlock);
    }
}

#[test]
fn a_table_and_a_page_of_rules_are_enough() {
    let lay = |text: &str| mend(text, &TIDES, &TIDES.style(), &LineSet::whole()).unwrap().text;
    assert_eq!(lay(SAMPLE), SAMPLE);
    let hasty = "\
--[[ in a
     hurry ]] local  high=5.1
function warn( keepers,level ) if level>high and not quiet then siren . sound(keepers,{tone='long',times=3})
else while level<high do level=level+rise*2 end end return level,keepers end -- done
";
    insta::assert_snapshot!(lay(hasty), @"
    --[[ in a
         hurry ]] local high = 5.1

    function warn(keepers, level)
        if level > high and not quiet then
            siren.sound(keepers, { tone = 'long', times = 3 })
        else
            while level < high do
                level = level + rise * 2
            end
        end
        return level, keepers
    end -- done
    ");
}

#[test]
fn every_property_holds_on_it() {
    let style = TIDES.style();
    for (property, check) in properties::ALL {
        let mut tried = 0;
        for seed in 0..48 {
            let case = Case::new(SAMPLE, &TIDES, &style, seed);
            if let Some(failure) = check(&case) {
                panic!("{property}: {}\n{}\n{}", failure.what, failure.expected, failure.found);
            }
            tried += case.tried();
        }
        assert!(tried > 4, "{property}: {tried}");
    }
}

#[test]
fn a_word_without_its_other_one_keeps_what_it_may_have_opened() {
    for (broken, kept) in [
        ("function f()\nif a then\ny=2\nend\nz=3\n", "function f()\nif a then\ny=2\nend\nz=3\n"),
        ("x=1\nend\ny=2\nz=3\n", "x=1\nend\ny=2\nz = 3\n"),
    ] {
        let outcome = judge(broken, &TIDES, &TIDES.style(), &LineSet::whole());
        assert!(!outcome.faults.is_empty());
        let mended = mend(broken, &TIDES, &TIDES.style(), &LineSet::whole()).unwrap().text;
        assert_eq!(mended, kept);
    }
}

#[test]
fn only_touched_lines_change() {
    let text = testing::lines(&["x=1", "if x>1 then", "y=2", "  z=3", "end"]);
    let mended = mend(&text, &TIDES, &TIDES.style(), &LineSet::of([2..3])).unwrap().text;
    assert_eq!(mended, testing::lines(&["x=1", "if x>1 then", "  y = 2", "  z=3", "end"]));
}
