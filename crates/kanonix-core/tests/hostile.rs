//! Input that nobody writes by hand: it must end, without a panic and without losing anything.

use kanonix_core::languages;
use kanonix_core::mend;
use kanonix_core::text::LineSet;

fn survives(language: &str, text: &str) {
    let language = languages::by_name(language).unwrap();
    let solid = |text: &str| text.chars().filter(|c| !c.is_whitespace()).count();
    let mended = mend(
        text,
        language,
        &language.style(),
        &LineSet::whole(),
    ).unwrap();
    assert!(mended.outcome.refused.is_none(), "a change was not proved");
    let mended = mended.text;
    assert_eq!(solid(&mended), solid(text));
    let again = mend(&mended, language, &language.style(), &LineSet::whole()).unwrap();
    assert!(again.text == mended, "mending twice is not mending once");
}

#[test]
fn a_hundred_thousand_nested_brackets() {
    let nested = |open: &str, close: &str| open.repeat(100_000) + &close.repeat(100_000) + "\n";
    survives("json", &nested("[", "]"));
    survives("python", &format!("x = {}", nested("[", "]")));
    survives("javascript", &format!("x = {}", nested("[", "]")));
    survives("rust", &format!("const X: u8 = {}", nested("(", ")").replace('\n', ";\n")));
    let macros = ["b!( ", " )"].map(|bracket| bracket.repeat(20_000)).concat();
    survives("rust", &format!("fn a() {{ {macros}; }}"));
}

#[test]
fn brackets_that_are_never_closed() {
    for language in ["javascript", "python", "json", "rust"] {
        survives(language, &"([{".repeat(20_000));
    }
}

#[test]
fn chains_without_end() {
    survives("rust", &format!("fn a() {{ a{}; }}\n", ".b()?".repeat(20_000)));
    survives("rust", &format!("const X: u8 = a{};\n", " | a".repeat(20_000)));
    survives("javascript", &format!("a{}\n", "+a".repeat(20_000)));
    survives("javascript", &format!("a{}\n", ".b()".repeat(20_000)));
    survives("javascript", &format!("x = {}a\n", "!".repeat(20_000)));
    survives("javascript", &format!("x = {}a\n", "b => ".repeat(20_000)));
    survives("javascript", &format!("if(a){{}}{}\n", "else if(a){}".repeat(5_000)));
    survives("python", &format!("x = {}a\n", "not ".repeat(20_000)));
}

#[test]
fn a_line_of_a_million_characters() {
    survives("json", &format!("[{}1]\n", "1,".repeat(500_000)));
    survives("python", &format!("x = '{}'\n", "a".repeat(1_000_000)));
}

#[test]
fn odd_characters_stay() {
    survives("python", "a = 1\u{a0}\n\x0cb=2\r\nc=3\rd=4");
    survives("javascript", "\u{feff}a\u{a0}=1\u{2028}b=2");
    survives("javascript", "let \u{1F30A}\u{301} = '\u{1F30A}';\0");
    survives("json", "\u{feff}");
    survives("javascript", "    a()");
    survives("javascript", "  \n \t a()  ");
}

#[test]
fn words_of_the_shell_without_end() {
    let times = 20_000;
    for part in [
        "/a", "\\a", "$a/b", "}\\a", "${a}\\b", ".\"#", ",a.b", "[a.b,", "1M", "1MB", ".end",
    ] {
        survives("powershell", &part.repeat(times));
    }
}

#[test]
fn dialects_of_style_sheets_without_end() {
    let times = 5_000;
    let texts = [
        format!("a {{ b: {}; }}\n", "url(a ".repeat(times)),
        format!("a {{ b: {}; }}\n", "#{a ".repeat(times)),
        format!("a {{ b: {}; }}\n", "@{a ".repeat(times)),
        format!("a {{ b: {}c{}; }}\n", "(".repeat(times), ")".repeat(times)),
        format!("a {{ b: {}c{}; }}\n", "d(".repeat(times), ")".repeat(times)),
        format!(".{} {} {{ b: c; }}\n", "a".repeat(times), "(".repeat(times)),
        format!("a{} {{ b: {}; }}\n", "&".repeat(times), "~\"c\" ".repeat(times)),
        format!("{}{{ }}\n", "@if ".repeat(times)),
        format!("a {{ b: {}{}", "url(".repeat(times), " ".repeat(times)),
        "a { b: ) (; c: (\")\"; d: \"(\" (\n".into(),
        ".a {".repeat(times),
        "/*".repeat(times),
        "//\n".repeat(times),
    ];
    for name in ["css", "scss", "less"] {
        for text in &texts {
            survives(name, text);
        }
    }
}

#[test]
fn directives_without_end() {
    survives("csharp", &("#if A\n".repeat(5_000) + &"#endif\n".repeat(5_000)));
    survives("csharp", &"#if A\nebb();\n#else\nflood(;\n#endif\n".repeat(1_000));
    survives("csharp", &"#if A\nif (a) {\n#else\nif (b) {\n#endif\nc(); }\n".repeat(1_000));
    survives("csharp", &("class A {\n".to_string() + &"#endif\n#else\n".repeat(5_000) + "}\n"));
    survives("csharp", &("var a = $\"{".repeat(10_000) + "\n#if A\n"));
    survives("csharp", &format!("var a = b{};\n", ".C()".repeat(20_000)));
    survives("csharp", &"new A { b = ".repeat(5_000));
    survives("csharp", &format!("var a = {}1;\n", "(int)".repeat(5_000)));
}

#[test]
fn texts_without_end_are_filled() {
    let language = languages::by_name("html").unwrap();
    let mut style = language.style();
    style.set("text_fill", "", "width").unwrap();
    let nested = "<b>ebb ".repeat(3_000) + &"</b>".repeat(3_000) + "\n";
    for text in [nested, "<p>".to_string() + &"ebb ".repeat(100_000) + "\n"] {
        let mended = mend(&text, language, &style, &LineSet::whole()).unwrap();
        assert!(mended.outcome.refused.is_none(), "a change was not proved");
    }
}
