//! Settings whose effect is easiest to see on their own.

use kanonix_core::style::{Style, Value, keeps, sample, slots};
use kanonix_core::survey::Survey;
use kanonix_core::text::{LineSet, apply, changed_lines};
use kanonix_core::{Decided, decided, judge, languages, mend};
use crate::support::{lay, lay_with, lines, style, touched_with};

#[test]
fn braces_are_put_around_bare_statements() {
    let laid = lay_with("javascript", &[("bare_body", "", "brace")], &lines(&[
        "if (a) b()",
        "else if (c) d",
        "else",
        "  // why",
        "  e; // beside",
        "for (;;) if (x) y; else z",
        "do w(); while (v)",
        "while (u);",
        "if (t) function s() {}",
        "if (r) { q }",
    ]));
    insta::assert_snapshot!(laid, @"
    if (a) {
      b()
    } else if (c) {
      d
    } else {
      // why
      e;
    } // beside
    for (;;) {
      if (x) {
        y;
      } else {
        z
      }
    }
    do {
      w();
    } while (v)
    while (u);
    if (t) function s() {}
    if (r) {
      q
    }
    ");
}

#[test]
fn braces_go_only_around_lines_in_play() {
    let style = style("javascript", &[("bare_body", "", "brace")]);
    let javascript = languages::by_name("javascript").unwrap();
    let text = "if (a) b()\nif (c) d()\n";
    let mended = mend(text, javascript, &style, &LineSet::of([1..2])).unwrap();
    assert_eq!(mended.text, "if (a) b()\nif (c) {\n  d()\n}\n");
    assert_eq!(mended.outcome.slips[0].message, "put braces around this statement");
}

#[test]
fn cases_stand_with_their_switch_or_one_step_in() {
    let text = "switch (a) { case 1: b(); break\n// why\ndefault: c() }\n";
    insta::assert_snapshot!(lay_with("javascript", &[("case_indent", "", "false")], text), @"
    switch (a) {
    case 1:
      b();
      break
    // why
    default:
      c()
    }
    ");
}

#[test]
fn gaps_before_parentheses() {
    let text = "if (a) b(c)\nfunction d(e) {}\nf = function(g) {}\nclass H { i(j) {} }\n";
    let turned = [
        ("paren_gap", "control", "false"),
        ("paren_gap", "call", "true"),
        ("paren_gap", "declaration", "true"),
        ("paren_gap", "lambda", "true"),
    ];
    insta::assert_snapshot!(lay_with("javascript", &turned, text), @"
    if(a) b (c)
    function d (e) {}
    f = function (g) {}
    class H {
      i (j) {}
    }
    ");
    let python = lay_with("python", &turned, "def a(b): return c(d)\n");
    assert_eq!(python, "def a (b):\n    return c (d)\n");
}

#[test]
fn further_lines_are_as_far_in_as_agreed() {
    let settings = [
        ("wrap_indent", "chain", "2"),
        ("wrap_indent", "declaration", "2"),
        ("not_gap", "", "true"),
    ];
    let text = lines(&["var a = !b,", "c;", "read()", ".map(d)", ".filter(e)"]);
    insta::assert_snapshot!(lay_with("javascript", &settings, &text), @"
    var a = ! b,
        c;
    read()
        .map(d)
        .filter(e)
    ");
}

#[test]
fn flat_blocks_are_kept_by_kind() {
    let settings = [("flat_block", "lambda", "keep"), ("flat_block", "case", "keep")];
    let text = "a(function() { return b })\nfunction c() { d() }\nswitch (e) {\ncase 1: f()\n}\n";
    insta::assert_snapshot!(lay_with("javascript", &settings, text), @"
    a(function() { return b })
    function c() {
      d()
    }
    switch (e) {
      case 1: f()
    }
    ");
}

#[test]
fn a_text_in_pieces_is_filled_unless_somebody_broke_it() {
    let narrow = [("max_line_length", "", "34")];
    let sum = "a = 'ebb and flood ' + level + ' metres, ' + unit + ' of it';\n";
    let filled = "a = 'ebb and flood ' + level +\n  ' metres, ' + unit + ' of it';\n";
    assert_eq!(lay_with("javascript", &narrow, sum), filled);
    let single = "a = 'ebb and ' +\n  level +\n  ' metres';\n";
    assert_eq!(lay("javascript", single), single);
    let rows = "a = 'ebb ' + level +\n  ' metres, ' + unit;\n";
    assert_eq!(lay("javascript", rows), rows);
    let names = "a = alpha + beta + gamma + delta + level;\n";
    let opened = "a = alpha +\n  beta +\n  gamma +\n  delta +\n  level;\n";
    assert_eq!(lay_with("javascript", &narrow, names), opened);
}

#[test]
fn rows_that_somebody_laid_out_stay_if_they_fit() {
    let grid = "a = [\n  1, 2, 3,\n  4, 5, 6,\n];\n";
    assert_eq!(lay("javascript", grid), grid);
    let call = "read(\n    gauge_at_the_old_quay, level, unit=metres_above_the_lowest_tide_of_the_year\n)\n";
    assert_eq!(lay("python", call), call);
    let noted = "a = [\n  1, 2, 3, // ebb\n  // flood\n  4, 5, 6\n];\n";
    assert_eq!(lay("javascript", noted), noted);
    // Most elements have a line of their own: so should the others.
    let mixed = "a = [\n  1,\n  2, 3,\n  4,\n];\n";
    assert_eq!(lay("javascript", mixed), "a = [\n  1,\n  2,\n  3,\n  4,\n];\n");
    let narrow = [("max_line_length", "", "20")];
    let long = "a = [\n  alpha, beta, gamma,\n  delta,\n];\n";
    let opened = "a = [\n  alpha,\n  beta,\n  gamma,\n  delta,\n];\n";
    assert_eq!(lay_with("javascript", &narrow, long), opened);
}

#[test]
fn a_line_after_a_sign_stays_broken_only_if_the_whole_does_not_fit() {
    let narrow = [("max_line_length", "", "30")];
    let text = lines(&["level =", "  2;", "level =", "  alpha(beta) || gamma(delta);"]);
    insta::assert_snapshot!(lay_with("javascript", &narrow, &text), @"
    level = 2;
    level =
      alpha(beta) || gamma(delta);
    ");
}

#[test]
fn nothing_is_opened_for_one_text_that_fits_nowhere() {
    let narrow = [("max_line_length", "", "40")];
    let text = lines(&[
        "warn(level, 'the gauge has not answered for so long');",
        "sum = 'the gauge has not answered for so long' + name;",
        "ebb(gauge.of(harbour), level.at(quay), 'the gauge has not answered for so long');",
        "warn('the gauge has not answered', level);",
        "warn(gauge.of(harbour_of_the_town), 'the gauge has not answered for so long');",
    ]);
    insta::assert_snapshot!(lay_with("javascript", &narrow, &text), @"
    warn(level, 'the gauge has not answered for so long');
    sum = 'the gauge has not answered for so long' + name;
    ebb(
      gauge.of(harbour),
      level.at(quay),
      'the gauge has not answered for so long'
    );
    warn(
      'the gauge has not answered',
      level
    );
    warn(
      gauge.of(harbour_of_the_town),
      'the gauge has not answered for so long'
    );
    ");
}

#[test]
fn a_last_value_on_its_own_line_puts_the_bracket_on_one_too() {
    let narrow = [("max_line_length", "", "40")];
    let text = "wait(() =>\n  expect(level.of(gauge)).toBe('high'))\n";
    insta::assert_snapshot!(lay_with("javascript", &narrow, text), @"
    wait(() =>
      expect(level.of(gauge)).toBe('high')
    )
    ");
}

#[test]
fn a_semicolon_before_a_line_guards_it() {
    let text = "a()\n;[b].map(c)\nd()\n;(e)()\n";
    assert_eq!(lay_with("javascript", &[("statement_end", "", "bare")], text), text);
    let semicolons = lay_with("javascript", &[("statement_end", "", "semicolon")], text);
    assert_eq!(semicolons, "a();\n[b].map(c);\nd();\n(e)();\n");
    // What nothing stands before is no end.
    let lone = "look(() => {\n  ;(e)();\n});\n";
    assert_eq!(lay_with("javascript", &[("statement_end", "", "semicolon")], lone), lone);
}

#[test]
fn a_comment_keeps_the_next_construct() {
    let laid = lay("javascript", &lines(&[
        "a=1",
        "// kanonix: keep",
        "b=[ 1,0,",
        "    0,1 ]",
        "c=2",
        "// kanonix: keep on",
        "d=3",
        "function  e( ){ f=4 }",
        "// kanonix: keep off",
        "g=5",
        "h({",
        "  i:6,",
        "  /* kanonix: keep */",
        "  j:7,",
        "  k:8",
        "})",
    ]));
    insta::assert_snapshot!(laid, @"
    a = 1
    // kanonix: keep
    b=[ 1,0,
        0,1 ]
    c = 2
    // kanonix: keep on
    d=3
    function  e( ){ f=4 }
    // kanonix: keep off
    g = 5
    h({
      i: 6,
      /* kanonix: keep */
      j:7,
      k: 8
    })
    ");
    let python = "# kanonix: keep\ndef  ebb( a ) :\n  return a\ndef flood(a) : return a\n";
    insta::assert_snapshot!(lay("python", python), @"
    # kanonix: keep
    def  ebb( a ) :
      return a


    def flood(a):
        return a
    ");
}

#[test]
fn lines_that_nothing_breaks_are_said_to_be_too_long() {
    let javascript = languages::by_name("javascript").unwrap();
    let style = style("javascript", &[("max_line_length", "", "20")]);
    let text = "// a comment as long as this\nread(alpha, beta, gamma)\nshort()\n";
    let outcome = judge(text, javascript, &style, &LineSet::whole());
    assert_eq!(outcome.long_lines, [0]);
    assert!(outcome.slips.iter().all(|slip| slip.offset > 28));
    assert!(judge(text, javascript, &style, &LineSet::of([2..3])).long_lines.is_empty());
}

#[test]
fn a_survey_finds_the_style_that_disturbs_least() {
    let javascript = languages::by_name("javascript").unwrap();
    let text = &lines(&[
        "function ebb (a) {",
        "    var b = 'x',",
        "        c;",
        "    if(a) return b;",
        "    return [ c ];",
        "}",
    ]);
    let survey = Survey::settle(&[&text.repeat(3)], javascript, |texts, base| {
        let mut survey = Survey::new(javascript, base);
        texts.iter().for_each(|text| survey.read(text));
        survey
    });
    let changed = |style: &Style| {
        let outcome = judge(text, javascript, style, &LineSet::whole());
        changed_lines(text, &apply(text, &outcome.edits))
    };
    assert_eq!(changed(&survey.style()), 0, "{:?}", survey.style());
    assert_eq!(changed(&javascript.style()), 5);
}

/// The samples that people are shown say what each value does.
#[test]
fn every_value_of_every_setting_lays_its_sample_out_in_its_own_way() {
    for (entry, slot) in slots() {
        let Some(sample) = sample(entry, slot) else {
            let known = languages::ALL.iter().any(|language| language.has_slot(slot));
            assert!(!known, "{} has no sample", slot.path(entry));
            continue;
        };
        let language = languages::by_name(sample.language).unwrap();
        assert!(language.has_slot(slot), "{}", sample.name);
        let mut seen: Vec<String> = Vec::new();
        for value in sample.shown(slot) {
            let mut style = language.style();
            for (name, key, value) in sample.with {
                style.set(name, key, value).unwrap();
            }
            style.set(entry.name, slot.key.name(), value).unwrap();
            let laid = mend(sample.text, language, &style, &LineSet::whole()).unwrap().text;
            let keeps = keeps(value) && seen.iter().any(|other| *other == laid);
            let same = seen.contains(&laid) && !keeps;
            let invisible = ["end_of_line", "charset"].contains(&entry.name);
            assert!(!same || invisible, "{} = {value}:\n{laid}", sample.name);
            seen.push(laid);
        }
    }
}

#[test]
fn a_line_that_is_joined_is_no_side_of_an_operator() {
    let style = style("javascript", &[("list_wrap", "", "fit")]);
    let language = languages::by_name("javascript").unwrap();
    let said = |text: &str| -> Vec<String> {
        let slips = judge(text, language, &style, &LineSet::whole()).slips;
        slips.into_iter().map(|slip| slip.message).collect()
    };
    assert_eq!(said("a = b+c;\n"), ["one space on each side of `+`"]);
    assert_eq!(said("a = b+\n  c;\n"), ["one space before `+`", "put `c` on the line before"]);
}

#[test]
fn of_mixed_line_ends_those_of_lines_in_play_are_mended() {
    let language = languages::by_name("javascript").unwrap();
    let text = "a = 1;\nb =2;\r\nc = 3;\r\nd = 4;\ne = 5;\n";
    let mended = mend(text, language, &language.style(), &LineSet::of([1..2])).unwrap();
    assert_eq!(mended.text, "a = 1;\nb = 2;\nc = 3;\r\nd = 4;\ne = 5;\n");
    let mended = mend(text, language, &language.style(), &LineSet::of([3..4])).unwrap();
    assert_eq!(mended.text, text);
}

#[test]
fn a_survey_counts_the_files_that_a_value_would_change() {
    let language = languages::by_name("javascript").unwrap();
    let mut survey = Survey::new(language, language.style());
    ["a = \"b\";\n", "a = 'b';\n", "a = 'b';\n", "a = b;\n"]
        .iter()
        .for_each(|text| survey.read(text));
    let answers = survey.answers();
    let quotes = answers.iter().find(|answer| answer.name == "quotes").unwrap();
    let files = |value: &str| quotes.costs.iter().find(|cost| cost.value == value).unwrap().files;
    assert_eq!(["double", "single", "keep"].map(files), [2, 1, 0]);
}

#[test]
fn a_quote_inside_a_text_of_three_quotes_ends_nothing() {
    let text = "a = \"\"\" \"(\" ' \\\" \"\"\"\nif a :\n    b( )\n";
    let laid = lay_with("python", &[], text);
    assert_eq!(laid, text.replace("a :", "a:").replace("( )", "()"));
}

#[test]
fn statements_may_share_the_line_that_somebody_put_them_on() {
    let keep = [("statement_line", "", "keep")];
    for (language, text, wanted) in [
        ("lua", "a = 1;b = 2   c = 3\n", "a = 1; b = 2 c = 3\n"),
        ("java", "class A {\n    int a;int b;\n}\n", "class A {\n    int a; int b;\n}\n"),
        ("csharp", "int a = 1;  warn(a);\n", "int a = 1; warn(a);\n"),
        ("css", "a {\n  top:0;left:0\n}\n", "a {\n  top: 0; left: 0;\n}\n"),
        // Behind the header of what is open.
        (
            "scss",
            "a { top: 0; left: 0;\n  color: red;\n}\n",
            "a {\n  top: 0; left: 0;\n  color: red;\n}\n",
        ),
        // On one line with the braces they are what `flat_block` speaks of.
        ("less", "a { top: 0; left: 0; }\n", "a {\n  top: 0;\n  left: 0;\n}\n"),
        // What has lines of its own shares none.
        ("lua", "f(function()\n  a()\nend) b()\n", "f(function()\n  a()\nend)\nb()\n"),
        (
            "java",
            "class A {\n    int a; void f() {}\n}\n",
            "class A {\n    int a;\n\n    void f() {}\n}\n",
        ),
        // Nor does what a comment stands before.
        (
            "css",
            "a {\n  top: 0; /* up */ left: 0;\n}\n",
            "a {\n  top: 0;\n  /* up */ left: 0;\n}\n",
        ),
    ] {
        assert_eq!(lay_with(language, &keep, text), wanted, "{language}");
        assert_eq!(lay_with(language, &keep, wanted), wanted, "{language}");
    }
    let apart = "a = 1\nb = 2\n";
    assert_eq!(lay_with("lua", &[], "a = 1; b = 2\n"), apart);
    assert_eq!(lay_with("lua", &keep, apart), apart);
}

#[test]
fn statements_that_have_no_room_on_one_line_have_one_each() {
    let style = [("statement_line", "", "keep"), ("max_line_length", "", "24")];
    let text = "warn(ebb); warn(flood); warn(slack)\n";
    assert_eq!(lay_with("lua", &style, text), "warn(ebb)\nwarn(flood)\nwarn(slack)\n");
    let base = "if a then\n  b = 1; c = 2\n  d = 3\nend\n";
    let touched =
        touched_with("lua", &[("statement_line", "", "keep")], base, &base.replace("b = 1", "b=1"));
    assert_eq!(touched, base);
}

#[test]
fn what_decides_a_line_is_said_with_its_keys() {
    let language = languages::by_name("typescript").unwrap();
    let style = style("typescript", &[("wrap_indent", "ternary", "3")]);
    let text = "\
const level = isSpringTide
  ? highest(
        gauge,
        !mole )
  : lowest;


let ebb = theLevelAtTheMole + theLevelAtTheQuayBehindTheMole +
  theLevelAtTheLockBehindTheQuayBehindTheMole;
";
    let said = |line: usize| {
        let value = |one: &Decided| one.key.as_ref().map(|(_, value)| format!(" = {value}"));
        let decided = decided(text, language, &style, line);
        let said = decided.iter().map(|one| one.name() + &value(one).unwrap_or_default());
        said.collect::<Vec<_>>().join("\n")
    };
    insta::assert_snapshot!(said(2), @"
    indent_size = 2
    wrap_indent.chain = 1
    wrap_indent.list = 1
    wrap_indent.ternary = 3
    wrap_align.call = step
    wrap_align.ternary = step
    list_wrap = keep_open
    word_gap = guide
    ");
    insta::assert_snapshot!(said(8), @"
    indent_size = 2
    wrap_indent.chain = 1
    wrap_indent.operator = chain
    wrap_align.condition = step
    operator_place = trails
    max_line_length = 100
    statement_end = keep
    ");
    let tabs = crate::support::style("typescript", &[("indent_style", "", "tab")]);
    let first = decided("{\n\tebb();\n}\n", language, &tabs, 1).remove(0);
    assert_eq!((first.name().as_str(), first.key.unwrap().1), ("indent_style", Value::Word("tab")));
}

/// Definitions that may stay on a line each stand together where somebody put them together.
#[test]
fn definitions_on_a_line_each_need_no_blank_lines() {
    let kept = [
        ("flat_block", "", "keep"),
        ("blank_lines", "between_functions", "1"),
        ("blank_lines", "between_members", "1"),
    ];
    for (language, text) in [
        ("css", ".ebb { color: navy; }\n.flood { color: red; }\n"),
        ("java", "class Gauge {\n    int ebb() { return 1; }\n    int flood() { return 2; }\n}\n"),
        ("javascript", "function ebb() { return 1; }\nfunction flood() { return 2; }\n"),
        ("javascript", "class Gauge {\n  ebb() { return 1; }\n  flood() { return 2; }\n}\n"),
        ("csharp", "class Gauge\n{\n    int Ebb() => 1;\n    int Flood() => 2;\n}\n"),
        ("lua", "function ebb() return 1 end\nfunction flood() return 2 end\n"),
    ] {
        assert_eq!(lay_with(language, &kept, text), text, "{language}");
    }
    // Where each is opened, they stand apart.
    let open = [("flat_block", "", "open")];
    let text = ".ebb { color: navy; }\n.flood { color: red; }\n";
    let wanted = ".ebb {\n  color: navy;\n}\n\n.flood {\n  color: red;\n}\n";
    assert_eq!(lay_with("css", &open, text), wanted);
}
