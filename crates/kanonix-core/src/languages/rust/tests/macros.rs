//! What stands between a macro's brackets.

use super::rust;
use crate::languages::testing::{lay, lay_with, lines};

#[test]
fn macros_of_expressions_and_items_are_laid_out() {
    insta::assert_snapshot!(rust(&[
        "macro_rules! a { ( $b:expr ) => { $b  +  1 } ; () => {}; }",
        "thread_local!{ static C:u8=const{1}; }",
        "fn d() {",
        "println!( \"{}\",e+f ( 1 ) );let g=vec! [ 1,2 ];",
        "assert_eq!(left_side_of_the_comparison(one, two, three), right_side_of_the_comparison(four, five), \"{} of {}\", six, seven);",
        "    write!(",
        "  h, \"{} {}\",",
        "  i, j,",
        ")?;",
        "}",
    ]), @r#"
    macro_rules! a {
        ( $b:expr ) => { $b  +  1 };
        () => {};
    }
    thread_local! {
        static C: u8 = const { 1 };
    }
    fn d() {
        println!("{}", e + f(1));
        let g = vec![1, 2];
        assert_eq!(
            left_side_of_the_comparison(one, two, three),
            right_side_of_the_comparison(four, five),
            "{} of {}",
            six,
            seven
        );
        write!(
            h, "{} {}",
            i, j,
        )?;
    }
    "#);
}

#[test]
fn other_macros_are_kept_as_they_stand() {
    let text = lines(&[
        "fn a() {",
        "    select! {",
        "      b = c  => d,",
        "           else => e }",
        "    matches!(f,Some( g )  if g>1);",
        "    json!({ \"h\" : [1,2] });",
        "}",
    ]);
    assert_eq!(lay("rust", &text), text);
}

#[test]
fn a_macro_is_given_the_tokens_that_it_was_given() {
    let settings = [
        ("last_comma", "", "never"),
        ("operator_gap", "", "false"),
        ("inner_gap", "angles", "true"),
    ];
    let laid = lay_with("rust", &settings, &lines(&[
        "fn a() {",
        "    b!(c::<Vec<Vec<u8>>>(d, e,), f == -1, |g| &&h, match i { _ => 1, },);",
        "    c::<Vec<Vec<u8>>>(",
        "        d, e,",
        "    );",
        "}",
    ]));
    insta::assert_snapshot!(laid, @"
    fn a() {
        b!(c::< Vec< Vec< u8 >>>(d, e,), f== -1, |g| &&h, match i {
            _ => 1,
        },);
        c::< Vec< Vec< u8 > > >(d, e);
    }
    ");
}

#[test]
fn two_numbers_around_a_point_are_not_made_one() {
    let text = "fn a() {\n    b!(tide .0 . 1);\n    b!(tide.0. 1);\n    b!(tide .0.1);\n}\n";
    let wanted = text.replace("tide .", "tide.");
    assert_eq!(lay("rust", text), wanted);
}

#[test]
fn macros_inside_macros() {
    // Deeper than any reading goes: the innermost are kept.
    let depth = 40;
    let text = format!("fn a() {{ {}1{}; }}\n", "b!( ".repeat(depth), " )".repeat(depth));
    let laid = lay("rust", &text);
    assert!(laid.starts_with("fn a() {\n    b!(b!(b!("), "{laid}");
    assert!(laid.contains("b!( b!( b!( 1 ) ) )"), "{laid}");
}
