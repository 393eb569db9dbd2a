//! The proof: it lets layout through, and nothing that means something else.

use kanonix_core::languages;
use kanonix_core::proof::same;

fn is_same(language: &str, before: &str, after: &str) -> bool {
    same(&languages::by_name(language).unwrap().grammar, before, after)
}

#[test]
fn blanks_and_line_breaks_are_layout() {
    assert!(is_same("python", "f(a,b)\n", "f(\n    a, b\n)\n"));
    assert!(is_same("javascript", "if(a){b}", "if (a) {\n  b\n}\n"));
    assert!(is_same("json", "{\"a\":[1,2]}", "{\n  \"a\": [1, 2]\n}\n"));
    assert!(is_same("python", "a = \"\"\"x\r\ny\"\"\"\n", "a = \"\"\"x\ny\"\"\"\n"));
}

#[test]
fn indentation_is_syntax_where_the_language_says_so() {
    let before = "if a:\n    b\n    c\n";
    assert!(is_same("python", before, "if a:\n  b\n  c\n"));
    assert!(!is_same("python", before, "if a:\n    b\nc\n"));
    assert!(!is_same("python", before, "if a:\n    b\n  c\n"));
}

#[test]
fn a_line_break_is_syntax_where_a_statement_may_end() {
    assert!(!is_same("javascript", "return a\n", "return\na\n"));
    assert!(!is_same("javascript", "a\n(b)\n", "a;\n(b)\n"));
    assert!(!is_same("python", "a = b + c\n", "a = b\n+ c\n"));
}

#[test]
fn no_token_may_come_go_or_change() {
    assert!(!is_same("python", "f(a, b)\n", "f(b, a)\n"));
    assert!(!is_same("python", "f(a)\n", "f(a,)\n"));
    assert!(!is_same("python", "a = 'x'\n", "a = 'y'\n"));
    assert!(!is_same("javascript", "a + +b", "a ++b"));
    assert!(!is_same("json", "[1]", "[1, 1]"));
    assert!(!is_same("python", "a = \" x\"\n", "a = \"x\"\n"));
}

#[test]
fn comments_keep_their_words_and_their_order() {
    assert!(is_same("javascript", "/*\n   * a\n */\nb", "/*\n * a\n */\nb"));
    assert!(!is_same("javascript", "a // b\nc", "a // c\nc"));
    assert!(!is_same("python", "# a\nb\n", "b\n# a\n"));
    assert!(!is_same("python", "# a\nb\n", "b\n"));
}

#[test]
fn a_directive_is_no_comment() {
    let before = "class A {\n#if B\nint c;\n#else\nint d\n#endif\n}\n";
    assert!(is_same("csharp", before, "class A\n{\n#if B\n    int c;\n#else\nint d\n#endif\n}\n"));
    assert!(!is_same("csharp", before, "class A {\n#if B\nint c;\n#else\nint  d\n#endif\n}\n"));
    assert!(!is_same("csharp", before, "class A {\n#if  B\nint c;\n#else\nint d\n#endif\n}\n"));
    assert!(!is_same("csharp", before, "class A {\nint c;\n#if B\n#else\nint d\n#endif\n}\n"));
    // One that begins a line is another one than one that does not.
    assert!(!is_same("csharp", "#if A\nb();\n#endif\n", "#if A b();\n#endif\n"));
}
