//! A language that nobody writes: blocks between words, comments with marks of their own, no braces
//! around code. A table and a page of rules have to be enough; whatever the engine believes of
//! other languages shows here. It is read by a grammar that happens to read it.

use super::kinds::kinds;
use super::{Embeds, Language, Passage, testing};
use crate::document::spelling::Spelling;
use crate::layout::plan::GroupId;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Binary, List, Operators, Sort};
use crate::properties::{self, Case};
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar, NodeId, TokenId, Tree};
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
    made_names: &[],
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
    embeds: Some(Embeds { languages: &["javascript"], find: scripts }),
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
script(\"let low = 1;\\nif (low) {\\n  wail(\\\"ebb\\\");\\n}\")

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
            p.binary(Binary::of(p, node, [*left, *operator, *right], OPERATORS));
        }
        Kind::String => p.quotes(p.first(node), 0, Setting::Quotes),
        _ => return false,
    }
    true
}

fn sort(p: &Planner, node: NodeId) -> Sort {
    if p.is(node, Kind::FunctionDeclaration) { Sort::Function } else { Sort::Other }
}

/// What `script` is called with.
fn scripts(tree: &Tree, text: &str) -> Vec<Passage> {
    let token_text = |at: usize| {
        let token = &tree.tokens[at];
        &text[token.start as usize..token.end as usize]
    };
    let is_script = |at: &usize| {
        token_text(at - 2) == "script"
            && token_text(at - 1) == "("
            && token_text(*at).starts_with('"')
    };
    let passage = |at: usize| Passage {
        token: at as TokenId,
        bytes: tree.tokens[at].start as usize + 1..tree.tokens[at].end as usize - 1,
        language: "javascript",
        spelling: Some(&ESCAPED),
        stem: at as TokenId,
    };
    (2..tree.tokens.len()).filter(is_script).map(passage).collect()
}

/// A backslash before quotes and itself, and for the end of a line.
const ESCAPED: Spelling = Spelling {
    name: "escaped",
    read: |text| {
        let mut chars = text.chars();
        match (chars.next()?, chars.next()) {
            ('\\', Some('n')) => Some((2, "\n".into())),
            ('\\', Some(mark @ ('"' | '\\'))) => Some((2, mark.to_string().into())),
            ('\\', _) => None,
            (plain, _) => Some((plain.len_utf8(), text[..plain.len_utf8()].into())),
        }
    },
    write: |text| text.replace('\\', r"\\").replace('"', "\\\"").replace('\n', r"\n"),
};

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

/// What is escaped in a text is laid out by its own language, and spelt as the text asks for.
#[test]
fn a_script_in_a_text_is_laid_out_as_it_reads() {
    let lay = |text: &str| mend(text, &TIDES, &TIDES.style(), &LineSet::whole()).unwrap().text;
    let text = "script( \"let ebb=\\\"low\\\";\\nif(ebb){\\nwail( 'é\\\\n' )\\n}\" )\n";
    let laid = lay(text);
    insta::assert_snapshot!(laid, @r#"script("let ebb = \"low\";\nif (ebb) {\n  wail('é\\n')\n}")"#);
    assert_eq!(lay(&laid), laid);
    let slips = judge(text, &TIDES, &TIDES.style(), &LineSet::whole()).slips;
    assert!(slips.iter().all(|slip| slip.offset + slip.length <= text.len()));
    let at = |slip: &crate::Slip| text[slip.offset..].chars().take(4).collect::<String>();
    insta::assert_debug_snapshot!(slips.iter().map(at).collect::<Vec<_>>(), @r#"
    [
        "\"let",
        "=\\\"l",
        "(ebb",
        "{\\nw",
        "wail",
        "'é\\\\",
        ")\\n}",
        ")\n",
    ]
    "#);
    // What does not parse there is a fault in the text around it, and what nobody can read is a text.
    let faults = judge("script(\"if (\\n\")\n", &TIDES, &TIDES.style(), &LineSet::whole()).faults;
    assert!(faults.iter().all(|fault| fault.start >= 8 && fault.end <= 14), "{faults:?}");
    assert!(!faults.is_empty());
    assert_eq!(lay("script(\"a=\\q1\")\n"), "script(\"a=\\q1\")\n");
    // The text keeps its own quotes while what is in it is spelt anew.
    let mut single = TIDES.style();
    single.set("quotes", "", "single").unwrap();
    let mended = mend("a=\"b\"\nscript(\"a=1\")\n", &TIDES, &single, &LineSet::whole()).unwrap();
    assert_eq!(mended.text, "a = 'b'\nscript(\"a = 1\")\n");
}

/// Only what was touched is laid out of it, though all of it is one line.
#[test]
fn of_a_script_in_a_text_only_touched_lines_change() {
    let before = "script(\"a=1\\nb=2\\nc=3\")\n";
    let now = before.replace("b=2", "b=4");
    let set = LineSet::between(before, &now);
    let mended = mend(&now, &TIDES, &TIDES.style(), &set).unwrap().text;
    assert_eq!(mended, before.replace("b=2", "b = 4"));
}
