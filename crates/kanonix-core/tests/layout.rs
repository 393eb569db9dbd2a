//! How the engine lays things out: a small text before, the settings, the text after.

use kanonix_core::languages;
use kanonix_core::text::LineSet;
use kanonix_core::judge;
use crate::support::{becomes, java, lay_with, lines, mend_marked, style, touched_with};

fn lay(language: &str, text: &str) -> String {
    lay_with(language, &[("max_line_length", "", "40")], text)
}

#[test]
fn a_list_opens_when_it_does_not_fit_or_somebody_opened_it() {
    insta::assert_snapshot!(lay("javascript", &lines(&[
        "f(alpha, beta);",
        "f(",
        "alphaAlpha, betaBeta);",
        "f(alpha,",
        "beta);",
        "f(alphaAlphaAlpha, betaBetaBeta, gammaGamma);",
    ])), @"
    f(alpha, beta);
    f(alphaAlpha, betaBeta);
    f(alpha, beta);
    f(
      alphaAlphaAlpha,
      betaBetaBeta,
      gammaGamma
    );
    ");
    let fit = [("list_wrap", "", "fit")];
    assert_eq!(lay_with("javascript", &fit, "f(\n  alpha,\n  beta\n);\n"), "f(alpha, beta);\n");
    let each = [("list_wrap", "", "one_each")];
    insta::assert_snapshot!(lay_with("javascript", &each, "f([1, 2], [3]);\n"), @"
    f([
      1,
      2
    ], [3]);
    ");
}

#[test]
fn the_last_literal_or_block_stays_with_its_call() {
    insta::assert_snapshot!(lay("javascript", &lines(&[
        "draw(levels, {colour: 'red', width: 2, animated: true})",
        "wait(100, function(){ go() })",
        "wait(function(){ go() }, 100)",
        "x = await f({a: aaaaaaaaaaaaaaaa, b: bbbbbbbbbbbbb})",
    ])), @"
    draw(levels, {
      colour: 'red',
      width: 2,
      animated: true
    })
    wait(100, function() {
      go()
    })
    wait(function() {
      go()
    }, 100)
    x = await f({
      a: aaaaaaaaaaaaaaaa,
      b: bbbbbbbbbbbbb
    })
    ");
}

#[test]
fn chains_are_broken_together() {
    insta::assert_snapshot!(lay("javascript", &lines(&[
        "const all = levels.filter(isHigh).map(asText).join(comma)",
        "if (aaaaaaaaaaaaa && bbbbbbbbbbbbbbb && cccccccc || d) f()",
        "x = isHigh ? 'the water is high' : isLow ? 'low' : 'slack'",
    ])), @"
    const all = levels
      .filter(isHigh)
      .map(asText)
      .join(comma)
    if (
      aaaaaaaaaaaaa &&
      bbbbbbbbbbbbbbb &&
      cccccccc ||
      d
    )
      f()
    x = isHigh ? 'the water is high'
      : isLow ? 'low'
      : 'slack'
    ");
    insta::assert_snapshot!(lay("python", &lines(&[
        "total = (aaaaaaaaaaaaaaa + bbbbbbbbbbbbbbb - ccccccc * ddd)",
    ])), @"
    total = (
        aaaaaaaaaaaaaaa
        + bbbbbbbbbbbbbbb
        - ccccccc * ddd
    )
    ");
}

#[test]
fn an_assignment_breaks_after_its_sign_only_when_nothing_else_helps() {
    insta::assert_snapshot!(lay("javascript", &lines(&[
        "const aVeryLongNameForAThing = anotherVeryLongName;",
        "const aVeryLongName = read(someArgument, more);",
    ])), @"
    const aVeryLongNameForAThing =
      anotherVeryLongName;
    const aVeryLongName = read(
      someArgument,
      more
    );
    ");
}

#[test]
fn comments_stay_in_their_place() {
    insta::assert_snapshot!(lay("javascript", &lines(&[
        "f(a, // first",
        "  b /* second */, /* third */ c)",
        "if (a) { // why",
        "  // before",
        "  b()",
        "// after",
        "}",
        "// between",
        "else { /* nothing */ }",
        "  /*",
        "   * starred",
        "     * lines",
        "   */",
        "last() // end",
    ])), @"
    f(
      a, // first
      b /* second */,
      /* third */ c
    )
    if (a) { // why
      // before
      b()
      // after
    }
    // between
    else { /* nothing */ }
    /*
     * starred
     * lines
     */
    last() // end
    ");
}

#[test]
fn a_comment_belongs_to_the_block_that_it_is_indented_like() {
    insta::assert_snapshot!(lay("python", &lines(&[
        "def f():",
        "  if a:",
        "    b()",
        "    # in the if",
        "  # in the function",
        "# outside",
        "c()",
    ])), @"
    def f():
        if a:
            b()
            # in the if
        # in the function


    # outside
    c()
    ");
}

#[test]
fn comments_are_all_that_a_block_holds_where_they_stand_further_in_than_its_header() {
    for (language, text) in [
        ("lua", "if a then\n  -- why\nelseif b then\n  -- nor here\nelse\n  c()\nend\n"),
        ("lua", "if a then\n-- of what follows\nelse\n  c()\nend\n"),
        ("ruby", "if a\n  # why\nelsif b\n  # nor here\nelse\n  c\nend\n"),
        ("ruby", "begin\n  # why\nrescue Storm\n  # lost\nensure\n  # all of it\nend\n"),
        ("ruby", "case a\nwhen 1\n  # why\nwhen 2\n# of what follows\nelse\n  c\nend\n"),
        ("javascript", "switch (a) {\n  case 1:\n    // why\n  // of what follows\n  case 2:\n    b();\n  default:\n    // nothing\n}\n"),
    ] {
        becomes(language, &[(text, text)]);
    }
    let cases = "switch (a) {\n    case 1:\n        // why\n    case 2:\n        b();\n        break;\n    default:\n        // nothing\n}\n";
    java(cases, cases);
    let text = "class A\n{\n    void B()\n    {\n        switch (a)\n        {\n            case 1:\n                // why\n            case 2:\n                b();\n                break;\n        }\n    }\n}\n";
    becomes("csharp", &[(text, text)]);
}

#[test]
fn blank_lines_follow_what_stands_on_both_sides() {
    insta::assert_snapshot!(lay("python", &lines(&[
        "import a",
        "",
        "",
        "",
        "",
        "x = 1",
        "# about f",
        "def f():",
        "    pass",
        "@g",
        "",
        "def h():",
        "    y = 1",
        "",
        "",
        "",
        "    z = 2",
        "class A:",
        "    def a(self): pass",
        "    def b(self): pass",
    ])), @"
    import a


    x = 1


    # about f
    def f():
        pass


    @g
    def h():
        y = 1


        z = 2


    class A:
        def a(self):
            pass

        def b(self):
            pass
    ");
}

#[test]
fn braces_and_elses_stand_where_they_are_wanted() {
    let settings = [("open_brace", "", "next_line"), ("else_line", "", "own_line")];
    insta::assert_snapshot!(lay_with("javascript", &settings, &lines(&[
        "class A { m() { try { a() } catch (e) { b() } } }",
        "call(function () { if (a) { b } else if (c) { d } else { e } })",
    ])), @"
    class A
    {
      m()
      {
        try
        {
          a()
        }
        catch (e)
        {
          b()
        }
      }
    }
    call(function ()
    {
      if (a)
      {
        b
      }
      else if (c)
      {
        d
      }
      else
      {
        e
      }
    })
    ");
}

/// A header takes several lines where one begins behind its annotations; one that ends with a closing bracket
/// on its own line needs no more to set it off from what it holds.
#[test]
fn a_brace_may_stand_below_a_header_of_several_lines() {
    let settings = [("open_brace", "", "next_line_if_broken"), ("max_line_length", "", "40")];
    insta::assert_snapshot!(lay_with("java", &settings, "\
class Gauge {
    @Tide(value = 2) // the ebb's
    @Override int low(int level)
    {
        return level;
    }
    void ebb(int level, int other) throws Storm, Flood {
        if (level > other && other > highest || low) {
            warn();
        }
    }
    void flood() { try { go(); } catch (LowTideException | HighTide e) { warn(); } }
}
"), @"
    class Gauge {
        @Tide(value = 2) // the ebb's
        @Override
        int low(int level) {
            return level;
        }

        void ebb(int level, int other)
                throws Storm, Flood
        {
            if (level > other
                    && other > highest
                    || low)
            {
                warn();
            }
        }

        void flood() {
            try {
                go();
            } catch (LowTideException | HighTide e) {
                warn();
            }
        }
    }
    ");
    insta::assert_snapshot!(lay_with("typescript", &settings, "\
@Tide({ low: true })
export class Gauge extends TideStation implements Ebb, Flood {
  ebb(level: number, other: number, low: number) { return level; }
}
"), @"
    @Tide({ low: true })
    export class Gauge
      extends TideStation
      implements Ebb, Flood
    {
      ebb(
        level: number,
        other: number,
        low: number
      ) {
        return level;
      }
    }
    ");
    insta::assert_snapshot!(lay_with("less", &settings, "\
.ebb,
[flood] { color: red; }
.slack { color: blue; }
"), @"
    .ebb,
    [flood]
    {
      color: red;
    }

    .slack {
      color: blue;
    }
    ");
    // One line in play is a header's last one, or stands under it.
    let text = "void ebb(int level)\n        throws Storm {\n    go();\n}\n";
    let wanted = "void ebb(int level)\n        throws Storm\n{\n    go();\n}\n";
    let base = text.replace("Storm {", "Storm  {");
    assert_eq!(touched_with("java", &settings, &base, text), wanted);
}

#[test]
fn a_semicolon_goes_only_where_the_next_line_stays_apart() {
    let bare = [("statement_end", "", "bare")];
    insta::assert_snapshot!(lay_with("javascript", &bare, &lines(&[
        "a();",
        "(b)();",
        "c();",
        "[d].e();",
        "for (;;) { f(); }",
        "class G { h = 1; get; i() {} }",
        "while (j);",
    ])), @"
    a()
    ;(b)()
    c()
    ;[d].e()
    for (;;) {
      f()
    }
    class G {
      h = 1
      get;
      i() {}
    }
    while (j);
    ");
    insta::assert_snapshot!(lay_with("javascript", &bare, &lines(&[
        "function k() {",
        "  if (!l) return",
        "  ;(m).n()",
        "  ;[o].p()",
        "  q()",
        "  ;",
        "}",
    ])), @"
    function k() {
      if (!l) return
      ;(m).n()
      ;[o].p()
      q()
    }
    ");
    // What stands behind the semicolon, or only looks as if it went on with the line, leaves it there.
    let stays = "a = 1; // one\n(b)()\nc = 2;\n++d\n";
    assert_eq!(lay_with("javascript", &bare, stays), stays);
    let semicolon = [("statement_end", "", "semicolon")];
    insta::assert_snapshot!(lay_with("javascript", &semicolon, &lines(&[
        "import a from 'a'",
        "let b = () => {}",
        "class G { h = 1",
        " i() {} }",
        "function j() { return }",
        "do k()",
        "while (l)",
        "export default class {}",
    ])), @"
    import a from 'a';
    let b = () => {};
    class G {
      h = 1;
      i() {}
    }
    function j() {
      return;
    }
    do k();
    while (l);
    export default class {}
    ");
}

#[test]
fn last_commas_come_and_go_with_the_form_of_their_list() {
    let add = [
        ("last_comma", "", "open_list"),
        ("list_wrap", "", "fit"),
        ("max_line_length", "", "30"),
    ];
    insta::assert_snapshot!(lay_with("javascript", &add, &lines(&[
        "f(a, b,)",
        "f(alphaAlpha, betaBeta, ...gammaGamma)",
        "function g(alphaAlpha, betaBeta, ...gamma) {}",
        "h = [aaaaaaaaaaa, bbbbbbbbbbbbb, , ]",
    ])), @"
    f(a, b)
    f(
      alphaAlpha,
      betaBeta,
      ...gammaGamma,
    )
    function g(
      alphaAlpha,
      betaBeta,
      ...gamma
    ) {}
    h = [
      aaaaaaaaaaa,
      bbbbbbbbbbbbb, ,
    ]
    ");
    let typed = "def f(a: Optional[LongNameOfAType[AndItsParameter]]) -> None: pass\n";
    insta::assert_snapshot!(lay_with("python", &add, typed), @"
    def f(
        a: Optional[
            LongNameOfAType[
                AndItsParameter
            ]
        ],
    ) -> None:
        pass
    ");
    let never = [("last_comma", "", "never")];
    insta::assert_snapshot!(lay_with("python", &never, &lines(&[
        "a = (1,)",
        "b = (1, 2,)",
        "c[1,]",
        "f(a, b,)",
    ])), @"
    a = (1,)
    b = (1, 2)
    c[1,]
    f(a, b)
    ");
}

#[test]
fn quotes_change_only_where_nothing_inside_is_a_quote() {
    let double = [("quotes", "", "double")];
    let text = "a = 'x'\nb = 'it\\'s'\nc = 'say \"x\"'\nd = rb'x'\ne = '''x'''\nf = f'{x}'\n";
    insta::assert_snapshot!(lay_with("python", &double, text), @r#"
    a = "x"
    b = 'it\'s'
    c = 'say "x"'
    d = rb"x"
    e = '''x'''
    f = f"{x}"
    "#);
}

#[test]
fn operators_without_gaps_never_become_others() {
    let tight = [("operator_gap", "", "false")];
    let text = &lines(&[
        "a = b + +c - -d + ++e;",
        "f = g-- > h;",
        "i = j / /k/.l;",
        "m = n ? .5 : o;",
        "p = q in r;",
        "s = 1 .t;",
    ]);
    insta::assert_snapshot!(lay_with("javascript", &tight, text), @"
    a=b+ +c- -d+ ++e;
    f=g-- >h;
    i=j/ /k/.l;
    m=n? .5:o;
    p=q in r;
    s=1 .t;
    ");
}

#[test]
fn a_joined_line_is_indented_from_its_statement() {
    insta::assert_snapshot!(lay("python", &lines(&[
        "assert a, \\",
        "              b",
        "if c and \\",
        "   d:",
        "  e",
    ])), @r#"
    assert a, \
        b
    if c and \
       d:
        e
    "#);
}

#[test]
fn a_live_unit_lines_up_with_its_neighbours() {
    insta::assert_snapshot!(mend_marked("javascript", &[], "
 function f() {
    let a=1;
>let b=2;
    return b;
 }
>function g() {
>return 1;
>}
"), @"
    function f() {
       let a=1;
       let b = 2;
       return b;
    }
    function g() {
       return 1;
    }
    ");
}

#[test]
fn a_header_stays_where_its_untouched_body_shows_that_it_stands() {
    insta::assert_snapshot!(mend_marked("python", &[], "
 def f():
>  if a==1:
     b=1
     c=2
"), @"
    def f():
      if a == 1:
        b=1
        c=2
    ");
}

#[test]
fn a_list_keeps_its_form_around_elements_that_are_not_touched() {
    let fit = [("list_wrap", "", "fit")];
    insta::assert_snapshot!(mend_marked("python", &fit, "
>f(  
   a=1,
   b  =  2,
 )
"), @"
    f(
      a=1,
      b  =  2,
    )
    ");
}

#[test]
fn slips_say_what_is_wanted_and_why() {
    let python = languages::by_name("python").unwrap();
    let text = "a=1;b = f( 2 )\nif a :\n   c = 'x' \n\n\n\n\nd = [1,2]";
    let style = style("python", &[("quotes", "", "double")]);
    let outcome = judge(text, python, &style, &LineSet::whole());
    let said: Vec<String> = outcome
        .slips
        .iter()
        .map(|slip| format!("{:>2} {}: {}", slip.offset, slip.setting.name(), slip.message))
        .collect();
    insta::assert_snapshot!(said.join("\n"));
}

#[test]
fn markup_that_begins_a_file_stands_in_no_sentence() {
    let text = "<Panel gauges={gauges} level={level} limit={limit} />;\n";
    insta::assert_snapshot!(lay("javascript", text), @"
    <Panel
      gauges={gauges}
      level={level}
      limit={limit}
    />;
    ");
}

#[test]
fn no_construct_of_the_samples_is_without_a_rule() {
    let mut units = 0;
    for language in languages::ALL {
        for (name, text) in language.samples {
            let (all, kept, lines) = kanonix_core::kept_units(text, language);
            // Rust's hold macros whose arguments are no Rust.
            let most = usize::from(name.ends_with(".rs"));
            assert!(kept <= most, "{name} {lines:?}");
            units += all;
        }
    }
    assert!(units > 100, "{units} units");
}

#[test]
fn nothing_is_kept_by_a_comment_in_a_text_that_does_not_parse() {
    let python = languages::by_name("python").unwrap();
    let keep = |text: &str| kanonix_core::Document::new(text, python).keep(&python.style(), 0);
    assert_eq!(keep("a=1\n").map(|edit| edit.text), Some("# kanonix: keep\n".to_string()));
    assert_eq!(keep("a=1\n\n\ndef f(:\n    b=2\n"), None);
}

#[test]
fn a_text_that_comes_to_mislead_a_parser_is_read_anew() {
    let python = languages::by_name("python").unwrap();
    let text = "if a:\n    b = (1,\n         2)\n    c=3\n";
    let mut document = kanonix_core::Document::in_steps(text, python);
    let at = text.find("         2").unwrap();
    document.change(&[kanonix_core::text::Edit { range: at..at + 9, text: String::new() }]);
    let anew = judge(document.text(), python, &python.style(), &LineSet::whole());
    assert!(anew.faults.is_empty(), "{:?}", anew.faults);
    assert_eq!(document.judge(&python.style(), &LineSet::whole()), anew);
}

#[test]
fn each_comment_of_a_file_of_comments_is_touched_by_itself() {
    let settings = [("comment_gap", "after_mark", "false")];
    for (language, mark) in [("javascript", "//"), ("python", "#"), ("rust", "//")] {
        let marked = format!("\n>{mark} ebb \n {mark} flood \n {mark} ebb \n");
        let mended = mend_marked(language, &settings, &marked);
        assert_eq!(mended, format!("{mark}ebb\n{mark} flood \n{mark} ebb \n"));
    }
}

/// What ends as code does was commented out.
#[test]
fn code_that_was_commented_out_keeps_what_is_behind_its_mark() {
    let text = "//flood();\n//if (ebb) {\n//}\nb(); //ebb\n";
    let spaced = [("comment_gap", "after_mark", "true")];
    assert_eq!(lay_with("javascript", &spaced, text), text.replace("//ebb", "// ebb"));
    let tight = [("comment_gap", "after_mark", "false")];
    let text = "// flood();\nb(); // ebb\n";
    assert_eq!(lay_with("javascript", &tight, text), "// flood();\nb(); //ebb\n");
}
