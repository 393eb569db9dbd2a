//! What stays as somebody has it: by a setting that keeps it, or because it speaks of what is beside it.

use crate::support::{becomes, lay_with, style, touched_with};
use kanonix_core::text::LineSet;
use kanonix_core::{judge, languages, mend};

#[test]
fn what_is_kept_of_braces_words_and_commas_stays_where_it_is() {
    let keep = [("open_brace", "", "keep"), ("else_line", "", "keep")];
    let script = "function a()\n{\n  if (b) {\n    c();\n  }\n  else\n  {\n    d();\n  }\n}\n";
    assert_eq!(lay_with("javascript", &keep, script), script);
    let class = "class A\n{\n    int B { get; set; }\n\n    void C() {\n        d();\n    }\n}\n";
    assert_eq!(lay_with("csharp", &keep, class), class);
    let function =
        "fn a()\n{\n    let b = if c {\n        1\n    }\n    else {\n        2\n    };\n}\n";
    assert_eq!(lay_with("rust", &keep, function), function);
    let touched = touched_with("java", &keep, "class A\n{\n}\n", "class A\n{\nint b;\n}\n");
    assert_eq!(touched, "class A\n{\n    int b;\n}\n");
    let all = [("last_comma", "", "keep_all")];
    assert_eq!(lay_with("lua", &all, "tides = {low, high,}\n"), "tides = {low, high,}\n");
    let open = "tides = {low,\n  high,\n}\n";
    assert_eq!(lay_with("lua", &[("list_wrap", "", "fit"), all[0]], open), "tides = {low, high}\n");
}

#[test]
fn blanks_that_are_kept_stay_before_braces_and_comments_too() {
    let keep = [("word_gap", "", "keep"), ("pair_gap", "value", "keep")];
    let script = "if (quay){\n  read();\n}else{\n  run(class{});\n}\n\nconst gauge = {\n  shader: /* deep */`\n    ebb\n  `,\n  depth:/* low */1,\n};\n";
    assert_eq!(lay_with("javascript", &keep, script), script);
    let sheet = ".quay{\n  color:red;\n}\n";
    assert_eq!(lay_with("css", &keep, sheet), sheet);
    let brace = "if (quay)\n{\n  read();\n}\n";
    assert_eq!(lay_with("javascript", &keep, brace), "if (quay) {\n  read();\n}\n");
}

#[test]
fn a_block_with_a_blank_alone_in_it_stays_so_where_that_is_kept() {
    let keep = [("inner_gap", "block", "keep"), ("flat_block", "", "keep")];
    for (language, text) in [
        ("css", "@keyframes tide {\n  from { }\n  to {}\n}\n"),
        ("java", "class Gauge {\n    Gauge() { }\n\n    void read() {}\n}\n"),
        ("javascript", "function read() { }\nrun({}, []);\n"),
    ] {
        assert_eq!(lay_with(language, &keep, text), text);
        assert!(!lay_with(language, &[("flat_block", "", "keep")], text).contains("{ }"));
    }
}

/// The members of the last type of a row stay behind its bracket where somebody opened them there.
#[test]
fn the_members_of_a_last_type_open_behind_those_before_it() {
    let text = "type Gauges = Omit<TransactionRequest, 'from'> &\n  AccountParameter<TAccount> &\n  ChainParameter<TChain, TChainOverride, TransactionReceipt, SerializerOfAll> & {\n    level?: number\n  }\n";
    becomes(
        "typescript",
        &[
            (text, text),
            (&text.replace("  AccountP", "    AccountP").replace("    level", "  level"), text),
        ],
    );
}

/// One behind a statement speaks of that, unless one stands before the first.
#[test]
fn a_comment_between_two_statements_of_a_block_on_one_line_goes_with_one_of_them() {
    becomes(
        "css",
        &[
            (
                ".quay { color: red; /* 1 */ left: 0; /* 2 */ }\n",
                ".quay {\n  color: red; /* 1 */\n  left: 0; /* 2 */\n}\n",
            ),
            (
                ".quay { /* 1 */ color: red; /* 2 */ left: 0; }\n",
                ".quay {\n  /* 1 */ color: red;\n  /* 2 */ left: 0;\n}\n",
            ),
        ],
    );
    becomes(
        "javascript",
        &[
            (
                "function f() { ebb(); /* low */ flood(); }\n",
                "function f() {\n  ebb(); /* low */\n  flood();\n}\n",
            ),
        ],
    );
}

/// A comment at a brace's column speaks of the word that goes on behind it, on whichever line that is.
#[test]
fn a_comment_at_the_column_of_a_brace_speaks_of_what_goes_on_behind_it() {
    let behind = "if (ebb) {\n  fall();\n// The water rises.\n} else {\n  rise();\n}\n";
    assert_eq!(lay_with("javascript", &[], behind), behind);
    let below = behind.replace("} else", "}\nelse");
    let own_line = [("else_line", "", "own_line")];
    assert_eq!(lay_with("javascript", &own_line, behind), below);
    assert_eq!(lay_with("javascript", &[], &below), behind);
}

/// A closing bracket that is kept stays behind the last element of a table that somebody began on a line of
/// its own.
#[test]
fn a_kept_bracket_stays_behind_a_table() {
    let keep = [("close_bracket", "", "keep"), ("list_wrap", "", "rows")];
    let table = "warn(\n  a, b, c,\n  d, e, f,\n  g, h, i);\n";
    assert_eq!(lay_with("javascript", &keep, table), table);
    let apart = table.replace("i)", "i\n)");
    assert_eq!(lay_with("javascript", &keep, &apart), apart);
}

/// A loop's condition behind its block is no other branch: `else` may begin a line where it does not.
#[test]
fn the_condition_behind_a_loop_has_its_own_word() {
    let (behind, below) = ("} while (ebb);\n", "}\nwhile (ebb);\n");
    let text = |end: &str| format!(
        "do {{\n  wait();\n{end}if (a) {{\n  b();\n}}\nelse {{\n  c();\n}}\n"
    );
    let branch = ("else_line", "branch", "own_line");
    for (word, text_of, wanted) in [
        ("with_brace", below, behind),
        ("own_line", behind, below),
        ("keep", behind, behind),
        ("keep", below, below),
    ] {
        let style = [branch, ("else_line", "while", word)];
        assert_eq!(lay_with("javascript", &style, &text(text_of)), text(wanted), "{word}");
    }
    // Where it is said for both, it is; people write either in C#.
    assert_eq!(
        lay_with("javascript", &[("else_line", "", "own_line")], &text(behind)),
        text(below)
    );
    let keeps = "class A\n{\n    void B()\n    {\n        do\n        {\n            C();\n        } while (ebb);\n        do\n        {\n            C();\n        }\n        while (flood);\n    }\n}\n";
    becomes("csharp", &[(keeps, keeps)]);
    let shell = "do {\n    Wait-Tide\n} until ($ebb)\nif ($ebb) {\n    Stop-Tide\n}\nelse {\n    Start-Tide\n}\n";
    assert_eq!(lay_with("powershell", &[branch], shell), shell);
}

/// A closing bracket that has to go under what a sign leads is not under the elements for that.
#[test]
fn a_kept_bracket_behind_a_sign_comes_to_rest() {
    let keep = [("close_bracket", "call", "keep")];
    let old = "const shown = ebb\n  ? low\n  : lookup(\n    name,\n    tide,\n  );\n";
    let edited = old.replace(");", "); // now");
    let once = old.replace("  );", "    ); // now");
    assert_eq!(touched_with("javascript", &keep, old, &edited), once);
    assert_eq!(touched_with("javascript", &keep, old, &once), once);
}

/// A blank line that a sheet in a page begins with is one of the sheet's: where that stays as it is, so does its
/// end.
#[test]
fn line_ends_of_what_does_not_parse_in_a_page_stay() {
    let ends = [("end_of_line", "", "crlf")];
    let sheet = [ends[0], ("rule_indent", "", "keep")];
    let page = style("html", &ends).embedding("css", style("css", &sheet));
    let html = languages::by_name("html").unwrap();
    let text = "<html>\r\n<head>\r\n<style>\r\n\ntable.ebb\n{ mar}\ntable.tide\n{ border-collapse:collapse;\n}\ntable.tide tr\n{ vertical-align: text-top;\n}\ntable.tide td,th\n{ padding: 2px 1em;</style>\r\n</head>\r\n</html>\r\n";
    let mended = mend(text, html, &page, &LineSet::whole()).unwrap();
    assert_eq!(judge(&mended.text, html, &page, &LineSet::whole()).slips, [], "{}", mended.text);
}

/// Where the blanks before a comment are kept, as many in every row are no column, and the last row of a list
/// keeps its own, too.
#[test]
fn comments_keep_their_distance() {
    let keep = [("comment_gap", "before", "keep")];
    let rows = "\
enum Tide
{
    Low = 0x3,        /* a */
    SlackWater = 0x4,        /* b */
    Ebb = 0x5,        /* c */
    High = 0x6        /* d */
}
";
    assert_eq!(lay_with("csharp", &keep, rows), rows);
    let one = [("comment_gap", "before", "1"), ("columns", "comment", "none")];
    assert_eq!(lay_with("csharp", &one, rows), rows.replace("        /*", " /*"));
    let uneven = "a = 1;   // low\nbcd = 22;   // slack\nef = 3;   // high\n";
    assert_eq!(lay_with("javascript", &keep, uneven), uneven);
    let lined = "a = 1;      // low\nbcd = 2345; // slack\nef = 3;     // high\n";
    let moved = lined.replace("a = 1; ", "a =1; ");
    assert_eq!(lay_with("javascript", &keep, &moved), lined);
}

/// What stands on the line of a case stays there where that is kept, though more stands below it.
#[test]
fn the_first_statement_of_a_case_stays_beside_it() {
    let keep = [("flat_block", "case", "keep")];
    let text = "switch (tide) {\n  case 1: warn();\n    break;\n  default: rest();\n}\n";
    assert_eq!(lay_with("javascript", &keep, text), text);
    let opened = text.replace("1: warn", "1:\n    warn");
    let below = "switch (tide) {\n  case 1: warn();\n          break;\n  default: rest();\n}\n";
    assert_eq!(lay_with("javascript", &keep, below), opened);
    let open = opened.replace("default: rest", "default:\n    rest");
    assert_eq!(lay_with("javascript", &[("flat_block", "case", "open")], text), open);
    let section = "\
class Gauge
{
    void Read()
    {
        switch (tide)
        {
            case 1: Warn();
                break;
            case 2:
                if (ebb)
                    Warn();
                break;
        }
    }
}
";
    let hasty = section.replace("case 2:\n                if", "case 2: if");
    assert_eq!(lay_with("csharp", &keep, &section.replace("Warn()", "Warn( )")), section);
    assert_eq!(lay_with("csharp", &keep, &hasty), section);
}

/// What is given a type may stand on the line below that.
#[test]
fn a_value_stays_below_its_type() {
    let text = "class Gauge {\n    void read() {\n        Tide[] tides = (Tide[])\n                tides(ebb, flood);\n        x = (int) y;\n    }\n}\n";
    becomes(
        "java",
        &[(text, text), (&text.replace("                tides", "          tides"), text)],
    );
    let sharp = "class Gauge\n{\n    void Read()\n    {\n        Tide[] tides = (Tide[])\n            Tides(ebb, flood);\n    }\n}\n";
    becomes("csharp", &[(sharp, sharp)]);
    let joined = lay_with("csharp", &[("list_wrap", "", "fit")], sharp);
    assert!(joined.contains("(Tide[])Tides(ebb, flood);"));
}
