//! Lines that are no part of the program, and the code around them.

use crate::languages::testing::{lay, lay_with};

#[test]
fn a_statement_that_a_condition_divides_gets_no_braces() {
    let brace = |body: &str| {
        let text = format!("if (ebb)\n{body}");
        lay_with("csharp", &[("bare_body", "", "brace")], &text)
    };
    let divided = "#if SALT\n    Warn(1);\n#else\n    Warn(2);\n#endif\n";
    assert_eq!(brace(divided), format!("if (ebb)\n{divided}"));
    let inside = "    Warn(\n#if SALT\n        1);\n#else\n        2);\n#endif\n";
    assert_eq!(brace(inside), format!("if (ebb)\n{inside}"));
    assert_eq!(brace("    Warn(1);\n"), "if (ebb)\n{\n    Warn(1);\n}\n");
}

#[test]
fn directives_are_no_part_of_the_program() {
    insta::assert_snapshot!(lay("csharp", "\
#define SALT
using  A;
#if SALT
using  B;
#elif PEPPER
using  C;
#endif
class Quay{
  #region Levels
#if SALT
  int  level;
#else
  long  level;
#endif
  #endregion
#pragma warning disable 1
void F(){
string text=@\"
#if NOT
\";
#if A
if(a){
#else
if  (  b){
#endif
  c( );
}
#if B
else
d( );
#endif
var e=new E{
#if C
F=1,
#endif
G=2};
}}
#if NEVER
what is ( this?
#endif
"), @r#"
    #define SALT
    using A;
    #if SALT
    using B;
    #elif PEPPER
    using C;
    #endif
    class Quay
    {
        #region Levels
    #if SALT
        int level;
    #else
        long level;
    #endif
        #endregion
    #pragma warning disable 1
        void F()
        {
            string text = @"
    #if NOT
    ";
    #if A
            if (a)
            {
    #else
    if  (  b){
    #endif
                c();
            }
    #if B
            else
                d();
    #endif
            var e = new E
            {
    #if C
                F = 1,
    #endif
                G = 2
            };
        }
    }
    #if NEVER
    what is ( this?
    #endif
    "#);
}

#[test]
fn a_directive_stands_where_its_setting_says() {
    let text =
        "class Quay\n{\n#if SALT\n    int level;\n  #endif\n    #region Alarms\n    int high;\n    \
                #endregion\n#pragma warning disable 1\n    int low;\n}\n";
    for (kind, values) in [
        ("condition", [("code", "    #if SALT", "    #endif"), ("margin", "#if SALT", "#endif")]),
        (
            "region",
            [("margin", "#region Alarms", "#endregion"), ("code", "    #region", "    #endr")],
        ),
    ] {
        for (value, first, last) in values {
            let laid = lay_with("csharp", &[("directive_indent", kind, value)], text);
            assert!(laid.contains(&format!("\n{first}")), "{kind} = {value}\n{laid}");
            assert!(laid.contains(&format!("\n{last}")), "{kind} = {value}\n{laid}");
        }
    }
    assert_eq!(lay("csharp", text), text);
    let other = lay_with("csharp", &[("directive_indent", "other", "code")], text);
    assert!(other.contains("\n    #pragma"), "{other}");
}

#[test]
fn a_directive_goes_with_the_code_that_it_stands_as() {
    let before =
        "class Quay\n{\n    void F()\n    {\n        #if SALT\n        a();\n        #endif\n#if B\n        \
                  b();\n#endif\n    }\n}\n";
    let after =
        "class Quay\n{\n    void F()\n    {\n        if (c)\n        {\n        #if SALT\n        a();\n        \
                 #endif\n#if B\n        b();\n#endif\n        }\n    }\n}\n";
    let wanted =
        "class Quay\n{\n    void F()\n    {\n        if (c)\n        {\n            #if SALT\n            a();\n            \
                  #endif\n#if B\n            b();\n#endif\n        }\n    }\n}\n";
    assert_eq!(lay("csharp", before), before);
    assert_eq!(lay("csharp", after), wanted);
}
