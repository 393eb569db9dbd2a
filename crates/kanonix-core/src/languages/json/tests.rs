//! How JSON is laid out.

use crate::languages::testing::{lay, lay_with, lines};

#[test]
fn values_on_their_lines() {
    let laid = lay("json", &lines(&[
        "{\"a\":1,\"b\" : [1,2 ,3],",
        "\"c\":{ },\"d\":[ ]}",
    ]));
    insta::assert_snapshot!(laid, @r#"{ "a": 1, "b": [1, 2, 3], "c": {}, "d": [] }"#);
}

#[test]
fn opened_by_hand_stays_open() {
    let laid = lay("json", &lines(&[
        "{",
        "\"a\":{",
        "\"b\":1},\"c\":[",
        "1,2]}",
    ]));
    insta::assert_snapshot!(laid, @r#"
    {
      "a": {
        "b": 1
      },
      "c": [
        1, 2
      ]
    }
    "#);
}

#[test]
fn only_what_does_not_fit_is_opened() {
    let settings = [
        ("list_wrap", "", "fit"),
        ("max_line_length", "", "40"),
    ];
    let laid = lay_with("json", &settings, &lines(&[
        "{",
        "\"short\": {\"a\": 1, \"b\": [1, 2]},",
        "\"long\": {\"aaaaaaaaaa\": 1, \"bbbbbbbbbbbbb\": [1, 2, 3]}}",
    ]));
    insta::assert_snapshot!(laid, @r#"
    {
      "short": { "a": 1, "b": [1, 2] },
      "long": {
        "aaaaaaaaaa": 1,
        "bbbbbbbbbbbbb": [1, 2, 3]
      }
    }
    "#);
}

#[test]
fn each_on_its_own_line() {
    let settings = [
        ("list_wrap", "", "one_each"),
    ];
    let laid = lay_with("json", &settings, &lines(&[
        "{\"a\": [1, 2], \"b\": [3], \"c\": {\"d\": 1}}",
    ]));
    insta::assert_snapshot!(laid, @r#"
    {
      "a": [
        1,
        2
      ],
      "b": [3],
      "c": { "d": 1 }
    }
    "#);
}

#[test]
fn comments() {
    let laid = lay("json", &lines(&[
        "// before",
        "{ // after the bracket",
        "\"a\":1, /* beside */ \"b\":2",
        "// at the end",
        "}",
        "// after",
    ]));
    insta::assert_snapshot!(laid, @r#"
    // before
    { // after the bracket
      "a": 1,
      /* beside */ "b": 2
      // at the end
    }
    // after
    "#);
}
