//! Comments and blank lines, and other canons than the community's.

use super::rust;
use crate::languages::testing::{lay, lay_with, lines};

#[test]
fn comments_and_what_they_document() {
    insta::assert_snapshot!(rust(&[
        "//! Of the file, with a blank at its end. ",
        "",
        "",
        "",
        "use a; // beside",
        "/// Of the item. ",
        "#[b]",
        "/** Also",
        "  * of it. */",
        "fn c( /* none */ ) {",
        "    // First of all.",
        "",
        "    d(",
        "      e, // the first",
        "      // the second",
        "      f );",
        "  if g {",
        "  } // of the if",
        "  // of the else",
        "  else { h( ) }",
        "}",
    ]), @"
    //! Of the file, with a blank at its end. 

    use a; // beside
    /// Of the item. 
    #[b]
    /** Also
     * of it. */
    fn c( /* none */ ) {
        // First of all.

        d(
            e, // the first
            // the second
            f,
        );
        if g {
        } // of the if
      // of the else
      else {
          h()
      }
    }
    ");
}

#[test]
fn blank_lines() {
    insta::assert_snapshot!(rust(&[
        "mod a {",
        "",
        "    use b;",
        "",
        "",
        "",
        "    #[c]",
        "",
        "    fn d() {",
        "",
        "    }",
        "",
        "}",
    ]), @"
    mod a {
        use b;

        #[c]
        fn d() {}
    }
    ");
}

#[test]
fn a_flat_block_is_one_of_a_value() {
    let text = lines(&[
        "fn a() -> u8 {",
        "    let b = if c { d } else { e };",
        "    let f = || -> u8 { g() };",
        "    if h { i } else { j }",
        "}",
    ]);
    assert_eq!(lay("rust", &text), text);
    insta::assert_snapshot!(lay_with("rust", &[("flat_block", "value", "open")], &text), @"
    fn a() -> u8 {
        let b = if c {
            d
        } else {
            e
        };
        let f = || -> u8 {
            g()
        };
        if h {
            i
        } else {
            j
        }
    }
    ");
}

#[test]
fn other_canons() {
    let settings = [
        ("open_brace", "", "next_line"),
        ("else_line", "", "own_line"),
        ("case_indent", "", "false"),
        ("list_wrap", "", "fit"),
        ("flat_block", "", "open"),
        ("inner_gap", "parens", "true"),
        ("paren_gap", "declaration", "true"),
        ("operator_place", "", "trails"),
        ("max_line_length", "", "60"),
    ];
    insta::assert_snapshot!(lay_with("rust", &settings, &lines(&[
        "impl A { fn b(c: u8) { if d { e() } else { f() } } }",
        "fn g() { match h { 1 => 2, _ => { i() } } }",
        "fn j() { let k = long_name_of_something + another_long_name + third; }",
        "fn m() { n(|| { o(); }); unsafe { p(); } mod q { use r; } }",
    ])), @"
    impl A
    {
        fn b ( c: u8 )
        {
            if d
            {
                e()
            }
            else
            {
                f()
            }
        }
    }
    fn g ()
    {
        match h
        {
        1 => 2,
        _ =>
        {
            i()
        }
        }
    }
    fn j ()
    {
        let k = long_name_of_something +
            another_long_name +
            third;
    }
    fn m ()
    {
        n( ||
        {
            o();
        } );
        unsafe
        {
            p();
        }
        mod q
        {
            use r;
        }
    }
    ");
}

#[test]
fn a_chain_with_lines_of_its_own_is_no_part_of_a_line_of_operands() {
    let laid = rust(&[
        "fn a() {",
        "    if b && c.d()",
        "        .e()",
        "        .g() {",
        "        f();",
        "    }",
        "}",
    ]);
    let wanted = [
        "fn a() {",
        "    if b",
        "        && c.d()",
        "            .e()",
        "            .g()",
        "    {",
        "        f();",
        "    }",
        "}",
    ];
    assert_eq!(laid, lines(&wanted));
}

#[test]
fn an_inner_attribute_is_no_programs_first_line() {
    let mark = [("charset", "", "utf-8-bom")];
    let text = "#![allow(a)]\nfn f() {}\n";
    assert_eq!(lay_with("rust", &mark, text), format!("\u{feff}{text}"));
    let program = "#!/usr/bin/env python3\na = 1\n";
    assert_eq!(lay_with("python", &mark, program), program);
}

/// A colon that touched two others would not be read as one.
#[test]
fn a_path_from_the_root_keeps_its_distance_from_a_colon() {
    let canon = [("pair_gap", "value", "none"), ("pair_gap", "type", "none")];
    let text = "fn a(b:C, d: ::e::F) {\n    let g: ::h::I<_> = j;\n}\n";
    assert_eq!(lay_with("rust", &canon, text), text);
}
