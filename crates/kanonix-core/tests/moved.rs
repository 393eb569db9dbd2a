//! Lines whose nesting changed: in play for their indentation, and for nothing else.

use kanonix_core::text::LineSet;
use kanonix_core::{judge, languages, mend_since};
use crate::support::{lines, style, touched_with};

/// The text after mending what it changes in its base; a second look must find nothing.
fn mend(language: &str, base: &[&str], text: &[&str]) -> String {
    let (base, text) = (lines(base), lines(text));
    let style = style(language, &[]);
    let language = languages::by_name(language).unwrap();
    let mended = mend_since(&base, &text, language, &style).unwrap().text;
    let again = judge(&mended, language, &style, &LineSet::between(&base, &mended));
    assert_eq!(again.slips, [], "{mended}");
    mended
}

#[test]
fn code_in_a_new_block_moves_in() {
    let base = ["a( 1 )", "if (b) {", "  c( 2 )", "}", "d( 3 )"];
    let text = ["if(e) {", "a( 1 )", "if (b) {", "  c( 2 )", "}", "}", "d( 3 )"];
    insta::assert_snapshot!(mend("javascript", &base, &text), @"
    if (e) {
      a( 1 )
      if (b) {
        c( 2 )
      }
    }
    d( 3 )
    ");
}

#[test]
fn code_in_a_new_else_and_in_a_new_function_moves_in() {
    let base = ["if (a) {", "  b( 1 )", "}", "c( 2 )", "d( 3 )"];
    let text = ["if (a) {", "  b( 1 )", "} else {", "c( 2 )", "d( 3 )", "}"];
    insta::assert_snapshot!(mend("javascript", &base, &text), @"
    if (a) {
      b( 1 )
    } else {
      c( 2 )
      d( 3 )
    }
    ");
    let text = ["if (a) {", "  b( 1 )", "}", "run(function() {", "c( 2 )", "d( 3 )", "})"];
    insta::assert_snapshot!(mend("typescript", &base, &text), @"
    if (a) {
      b( 1 )
    }
    run(function() {
      c( 2 )
      d( 3 )
    })
    ");
}

#[test]
fn what_was_old_keeps_its_own_steps() {
    let base = ["if (a) {", "     b( 1 )", "     if (c) {", "        d( 2 )", "     }", "}"];
    let text: Vec<&str> = ["while(e) {"].into_iter().chain(base).chain(["}"]).collect();
    insta::assert_snapshot!(mend("javascript", &base, &text), @"
    while (e) {
      if (a) {
           b( 1 )
           if (c) {
              d( 2 )
           }
      }
    }
    ");
}

#[test]
fn a_line_that_changed_as_well_is_mended_whole() {
    let base = ["a( 1 )", "b( 2 )"];
    let text = ["if (c) {", "  a( 1 )", "  b( 4 )", "}"];
    insta::assert_snapshot!(mend("javascript", &base, &text), @"
    if (c) {
      a( 1 )
      b(4)
    }
    ");
}

#[test]
fn a_string_over_lines_does_not_move_inside() {
    let base = ["a = `one", "  two`", "b()"];
    let text = ["if (c) {", "a = `one", "  two`", "}", "b()"];
    insta::assert_snapshot!(mend("javascript", &base, &text), @"
    if (c) {
      a = `one
      two`
    }
    b()
    ");
}

#[test]
fn a_comment_with_stars_moves_with_its_lines() {
    let base = ["/**", " * why", " */", "a( 1 )"];
    let text = ["if (c) {", "/**", " * why", " */", "a( 1 )", "}"];
    insta::assert_snapshot!(mend("javascript", &base, &text), @"
    if (c) {
      /**
       * why
       */
      a( 1 )
    }
    ");
}

#[test]
fn code_that_leaves_its_block_moves_out() {
    let base = ["def ebb(a):", "    if a:", "        b( 1 )", "        c( 2 )", "    d()"];
    let text = ["def ebb(a):", "    b( 1 )", "    c( 2 )", "    d()"];
    insta::assert_snapshot!(mend("python", &base, &text), @"
    def ebb(a):
        b( 1 )
        c( 2 )
        d()
    ");
    let base = ["if (a) {", "  b( 1 )", "  c( 2 )", "}"];
    let text = ["  b( 1 )", "  c( 2 )"];
    insta::assert_snapshot!(mend("javascript", &base, &text), @"
    b( 1 )
    c( 2 )
    ");
}

#[test]
fn an_object_that_is_wrapped_moves_in() {
    let base = ["a = {", "  b:1,", "  c:2", "}"];
    let text = ["a = {", "  d: {", "  b:1,", "  c:2", "  }", "}"];
    insta::assert_snapshot!(mend("javascript", &base, &text), @"
    a = {
      d: {
        b:1,
        c:2
      }
    }
    ");
}

/// Beside tabs, spaces line things up: a block in them is no sign that the file is indented by spaces.
#[test]
fn a_block_that_is_lined_up_shows_no_steps() {
    let base = "\
watch(gauges,
      (a) => {
              low()
              if (b) {
                      high()
              }
      })
if (flood) {
\tcall(1)
}
";
    let text = base.replace("(flood) {\n\tcall(1)", "(flood ) {\n  call( 1 )");
    let canon = [
        ("indent_style", "", "tab"),
        ("indent_size", "", "8"),
        ("wrap_align", "", "bracket"),
    ];
    assert_eq!(touched_with("javascript", &canon, base, &text), base);
}
