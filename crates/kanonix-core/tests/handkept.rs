//! What people keep by hand, and would not see undone.

use crate::support::{becomes, lay_with, touched_with};

#[test]
fn a_bracket_behind_a_comma_stays_where_the_list_begins_beside_its_own() {
    becomes("python", &[
        (
            "marks = ((LOW, 'utf-8'),\n         (HIGH, 'utf-16-le'),)\n",
            "marks = ((LOW, 'utf-8'),\n         (HIGH, 'utf-16-le'))\n",
        ),
        (
            "opts = {\n    'low': 1,\n    'high': 2,}\n",
            "opts = {\n    'low': 1,\n    'high': 2,\n}\n",
        ),
    ]);
}

#[test]
fn a_condition_stands_further_in_than_its_body_where_no_bracket_parts_them() {
    becomes("python", &[
        (
            "if (\n    tide and ebb\n    and not storm):\n    warn()\n",
            "if (\n        tide and ebb\n        and not storm):\n    warn()\n",
        ),
        (
            "if (\n    tide and ebb\n    and not storm\n):\n    warn()\n",
            "if (\n    tide and ebb\n    and not storm\n):\n    warn()\n",
        ),
    ]);
    let style = [("close_bracket", "", "keep")];
    let text = "if (\n  tide &&\n  ebb) {\n  warn();\n}\n";
    let wanted = "if (\n    tide &&\n    ebb) {\n  warn();\n}\n";
    assert_eq!(lay_with("javascript", &style, text), wanted);
}

#[test]
fn a_list_whose_first_element_has_a_comment_before_it_stands_under_that() {
    let text = "mark(/* low */ ebb, floodTide, slackWater);\n";
    let beside = "mark(/* low */ ebb,\n     floodTide,\n     slackWater);\n";
    let bracket = [("max_line_length", "", "40"), ("wrap_align", "", "bracket")];
    let style = [&bracket[..], &[("close_bracket", "", "with_last")]].concat();
    assert_eq!(lay_with("javascript", &style, text), beside);
    assert_eq!(lay_with("javascript", &style, beside), beside);
    let style = [("wrap_align", "", "keep"), ("close_bracket", "", "with_last")];
    let element = "mark(/* low */ ebb,\n               flood,\n               slack);\n";
    for kept in [beside, element] {
        assert_eq!(lay_with("javascript", &style, kept), kept);
    }
}

#[test]
fn texts_one_after_another_stand_under_the_first_element_around_them() {
    let text = "doc.insert(0, 'the ebb\\n'\n           'and the flood\\n'\n           'and the slack\\n')\n";
    becomes("python", &[(text, text)]);
}

#[test]
fn blank_lines_divide_a_long_sum() {
    let sum = "top = (\n  // what was asked\n  asked.top +\n\n  // what is measured\n  measured.top +\n  shift\n);\n";
    becomes("javascript", &[(sum, sum)]);
    let sum = "top = (\n    asked\n    + measured\n\n    # by hand\n    + shift\n)\n";
    becomes("python", &[(sum, sum)]);
}

#[test]
fn an_operation_behind_a_comment_stands_in_its_parentheses_as_any_other() {
    for text in [
        "top = (\n  // what was asked\n  asked.top +\n  // and measured\n  measured.top\n);\n",
        "top = {\n  level: (\n    // what was asked\n    asked.top +\n    // and measured\n    measured.top * scale\n  ),\n};\n",
    ] {
        becomes("javascript", &[(text, text)]);
    }
}

#[test]
fn a_bracket_stands_as_far_in_as_what_it_holds_does() {
    let style = [("wrap_align", "", "any"), ("close_bracket", "", "keep")];
    let text = "var gauge = find(\"#gauge\").gauge({\n      source: data,\n      delay: 0\n    }),\n  menu = gauge.menu();\n";
    assert_eq!(lay_with("javascript", &style, text), text);
}

#[test]
fn a_header_stays_above_a_closing_bracket_that_is_further_in() {
    let style = [("wrap_align", "", "any"), ("close_bracket", "", "keep")];
    for closes in ["    ", "      "] {
        let text = |name: &str| {
            format!("function f() {{\n  {name}(\n      low,\n      high\n{closes});\n}}\n")
        };
        let (base, text) = (text("warn"), text("show"));
        assert_eq!(touched_with("javascript", &style, &base, &text), text);
    }
}

#[test]
fn a_row_in_play_leaves_the_line_before_it_as_it_stands() {
    let style = [
        ("list_wrap", "", "row_first"),
        ("flat_block", "lambda", "open"),
        ("wrap_align", "collection", "any"),
        ("close_bracket", "collection", "with_last"),
        ("indent_size", "", "4"),
    ];
    let text = |row: &str| {
        let next = "    { \"<Up>\", \"back\", back },\n";
        format!(
            "bind(\"tide\", {{\n    {{ \"<Tab>\", \"the next\",\n        {row} }},\n{next}}})\n"
        )
    };
    let (base, touched) = (text("function (w) w:up() end"), text("function (w) w:down() end"));
    let wanted = text("function (w)\n            w:down()\n        end");
    assert_eq!(touched_with("lua", &style, &base, &touched), wanted);
}

#[test]
fn code_behind_a_doubled_mark_at_the_margin_was_commented_out() {
    let text = "class Gauge:\n    def ebb(self):\n        low()\n\n##    def flood(self):\n##        high()\n\n    def slack(self):\n##        high()\n        low()\n";
    becomes("python", &[(text, text)]);
}

/// What was as many steps further in as the blocks around it goes with their step.
#[test]
fn a_list_in_steps_goes_with_the_step_of_its_file() {
    let old = "\
function rise(gauge)
    local tide = read(
        gauge,
        4
    )
    if tide > 0 then
        warn(
            gauge,
            tide)
    end
end
watch(
    harbour,
    2)
";
    let new = old.replace("    ", "  ");
    becomes("lua", &[(old, &new)]);
    // What is in no block was never more than its file's usual step further in.
    becomes("lua", &[("watch(\n    harbour,\n    2)\n", "watch(\n    harbour,\n    2)\n")]);
    // Two narrow steps are one wide one already.
    let narrow = "function Watch {\n  Read-Tide `\n    -Gauge 4 `\n    -Harbour 2\n}\n";
    let wide = "function Watch {\n    Read-Tide `\n        -Gauge 4 `\n        -Harbour 2\n}\n";
    becomes("powershell", &[(narrow, wide)]);
    // Steps are tabs where the canon's are; what stands under something stays under it.
    let lined_up = "if ebb then\n    warn(gauge,\n         tide)\nend\n";
    let tabs = [("indent_style", "", "tab"), ("tab_width", "", "4")];
    assert_eq!(lay_with("lua", &tabs, old), old.replace("    ", "\t"));
    assert_eq!(lay_with("lua", &tabs, lined_up), lined_up.replace("\n    ", "\n\t"));
    // So are those that somebody types as spaces among tabs.
    let base = "if ebb then\n\twarn(gauge)\nend\n";
    let typed = "if ebb then\n\twarn(\n\t    gauge,\n\t    tide)\nend\n";
    assert_eq!(touched_with("lua", &tabs, base, typed), typed.replace("    ", "\t"));
    // Where the lines around are not in play, their step is the file's.
    let touched_line = old.replace("4\n", "5\n");
    assert_eq!(touched_with("lua", &[], old, &touched_line), touched_line);
}

/// A bracket in the column of the elements belongs to them only where they are further in than what
/// the list belongs to.
#[test]
fn a_bracket_below_elements_at_the_margin_stands_under_its_statement() {
    becomes("python", &[
        (
            "tide = read(\ngauge,\n4\n) + read(\nebb,\n2\n)\n",
            "tide = read(\n    gauge,\n    4\n) + read(\n    ebb,\n    2\n)\n",
        ),
        (
            "tide = read(\n        gauge,\n        4\n        )\n",
            "tide = read(\n    gauge,\n    4\n    )\n",
        ),
    ]);
}

/// In a sum whose lines stand anywhere, those that are further in go on with the line above.
#[test]
fn an_operator_that_is_further_in_goes_on_with_the_line_above() {
    let style = [("wrap_align", "condition", "any"), ("list_wrap", "", "rows")];
    let sum = "tide =\n  ebb ..\n  flood ..\n      slack ..\n  spring ..\n      neap\n";
    let under =
        "rings = (ebb and flood\n          and slack\n            and spring\n          and neap)\n";
    for text in [sum, under] {
        assert_eq!(lay_with("lua", &style, text), text);
    }
    let moved = lay_with("lua", &style, &format!("do\n{sum}end\n"));
    assert_eq!(moved, format!("do\n  {}\nend\n", sum.trim_end().replace('\n', "\n  ")));
    // What goes on with such a line, and gets one of its own, stands beside it.
    let style = [("wrap_align", "condition", "any"), ("max_line_length", "", "24")];
    let joined = sum.replace("slack ..", "slack_tide .. surge ..");
    let apart = sum.replace("slack ..", "slack_tide ..\n      surge ..");
    assert_eq!(lay_with("lua", &style, &joined), apart);
    // Most of the lines say where the others stand, and no half step is one.
    let odd = "tide =\n  ebb ..\n  flood ..\n     slack ..\n  spring\n";
    assert_eq!(lay_with("lua", &style, odd), odd.replace("     slack", "  slack"));
    assert_eq!(
        lay_with("lua", &[("wrap_align", "condition", "step")], sum),
        sum.replace("      ", "  ")
    );
}

/// What stands behind the block that a case begins with is as far in as that: by a step, or not at all.
#[test]
fn what_is_behind_a_block_of_a_case_stays_beside_it() {
    let cases = |inner: &str| format!(
        "switch (level)\n{{\n    {}\n}}\n",
        inner.replace('\n', "\n    ")
    );
    let next_line = [("open_brace", "control", "next_line")];
    let beside = cases("case 1:\n{\n    warn();\n}\nbreak;\ncase 2:\n    mark();\n    break;");
    let same_line = cases("case 1: {\n    warn();\n}\nbreak;\ncase 2:\n    mark();\n    break;")
        .replace("(level)\n{", "(level) {");
    let further = cases("case 1:\n    {\n        warn();\n    }\n    break;");
    for language in ["csharp", "java"] {
        assert_eq!(lay_with(language, &next_line, &beside), beside);
        assert_eq!(lay_with(language, &next_line, &further), further);
        assert_eq!(lay_with(language, &next_line, &same_line), beside);
        let style = [("open_brace", "control", "same_line")];
        assert_eq!(lay_with(language, &style, &beside), same_line);
    }
}

/// The next question below its `else` goes on with it, and does so beneath a comment; one that is further in is
/// all that an `else` on a line of its own holds.
#[test]
fn a_question_below_its_else_goes_on_with_it() {
    let text = "if (a)\n{\n    b();\n}\nelse\nif (c)\n{\n    d();\n}\n";
    let chained = text.replace("else\nif", "else if");
    let inside = "if (a)\n{\n    b();\n}\nelse\n    if (c)\n    {\n        d();\n    }\n";
    becomes("csharp", &[(text, &chained), (inside, inside)]);
    let below = "if (a) {\n  b();\n} else // ebb\nif (c) {\n  d();\n}\n";
    becomes("javascript", &[(below, below), (&below.replace("\n}", "\n    }"), below)]);
    let rust =
        "fn a() {\n    if b {\n        c()\n    } else // ebb\n    if d {\n        e()\n    }\n}\n";
    becomes("rust", &[(rust, rust)]);
}

/// A closing bracket may stand under the opening one, which is beside its first element.
#[test]
fn a_bracket_stays_under_the_one_that_it_closes() {
    let text = "def read(self,\n         ebb=(),\n         flood=None,\n        ):\n    pass\n";
    becomes("python", &[
        (text, text),
        (&text.replace("read(self", "read( self"), text),
        (
            "x   =  mark(ebb,\n            flood,\n           )\n",
            "x = mark(ebb,\n         flood,\n        )\n",
        ),
    ]);
}

/// Blank lines between comments, and between those and what they do not speak of, stay inside a list as they
/// do inside a block; none stand at its edges.
#[test]
fn comments_of_a_list_stay_apart() {
    let list = "\
[
  // all of these

  // slack
  low,
  ebb,

  // high,

  // what comes
  // later
]";
    let edges = list.replacen("[\n", "[\n\n", 1).replace("\n]", "\n\n]");
    let alone = "[\n  // low\n\n  // high\n]";
    let alone_with_edges = alone.replacen("[\n", "[\n\n", 1).replace("\n]", "\n\n]");
    for (list, edges) in [(list, edges), (alone, alone_with_edges)] {
        let (text, wanted) = (format!("tides = {edges};\n"), format!("tides = {list};\n"));
        becomes("javascript", &[(&text, &wanted)]);
    }
    let members = "\
enum Tide
{
    // As the office has them.

    Low,

    // High,

    // Ebb,
}
";
    becomes("csharp", &[(members, members)]);
}

/// `if (ebb) switch (level)`: what stands on its header's line, with its braces a step further in.
#[test]
fn what_a_header_holds_on_its_line_may_stand_further_in() {
    let text = "\
class Gauge
{
    void Read()
    {
        if (ebb) switch (level)
            {
                case 1:
                    Warn();
                    break;
            }
        if (ebb) switch (level)
        {
            case 1:
                break;
        }
    }
}
";
    let hasty = text.replace("                    Warn();", "                  Warn( );");
    becomes("csharp", &[(text, text), (&hasty, text)]);
    let beneath = lay_with("csharp", &[("list_wrap", "", "fit"), ("flat_block", "", "keep")], text);
    assert!(beneath.contains(
        "        if (ebb) switch (level)\n        {\n            case 1:\n                Warn"
    ));
}

/// Where many brackets have a blank behind the opening one and none before the closing one, that is meant.
#[test]
fn brackets_of_a_text_may_have_a_blank_on_one_side() {
    let keep = [("inner_gap", "parens", "keep")];
    let rows = |count: usize| "mark( ebb, 1);\n".repeat(count);
    assert_eq!(lay_with("javascript", &keep, &rows(5)), rows(5));
    assert_eq!(lay_with("javascript", &keep, &rows(4)), rows(4).replace("1)", "1 )"));
    let mixed = rows(5) + &"mark( ebb );\n".repeat(2);
    assert_eq!(lay_with("javascript", &keep, &mixed), mixed.replace("1)", "1 )"));
    assert_eq!(lay_with("javascript", &[], &rows(5)), rows(5).replace("( ", "("));
}
