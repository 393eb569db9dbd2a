//! Laying out small texts.

#![allow(dead_code, reason = "each test file uses its own part")]

use kanonix_core::languages;
use kanonix_core::style::Style;
use kanonix_core::text::LineSet;
use kanonix_core::{judge, mend, mend_since};

/// A text of these lines.
pub fn lines(lines: &[&str]) -> String {
    lines.iter().flat_map(|line| [*line, "\n"]).collect()
}

/// A language's own style with some values of its own.
pub fn style(language: &str, settings: &[(&str, &str, &str)]) -> Style {
    let mut style = languages::by_name(language).unwrap().style();
    for (name, key, value) in settings {
        style.set(name, key, value).unwrap();
    }
    style
}

/// The text with what it has and `base` does not mended.
pub fn touched(language: &str, base: &str, text: &str) -> String {
    touched_with(language, &[], base, text)
}

/// The same under some values of its own; nothing may be left to mend.
pub fn touched_with(
    language: &str,
    settings: &[(&str, &str, &str)],
    base: &str,
    text: &str,
) -> String {
    let style = style(language, settings);
    let language = languages::by_name(language).unwrap();
    let mended = mend_since(base, text, language, &style).unwrap().text;
    let again = judge(&mended, language, &style, &LineSet::between(base, &mended));
    assert_eq!(again.slips, [], "{mended}");
    mended
}

/// The stretches of a text that do not parse.
pub fn faults(language: &str, text: &str) -> Vec<std::ops::Range<usize>> {
    let language = languages::by_name(language).unwrap();
    judge(text, language, &language.style(), &LineSet::of([])).faults
}

/// The whole text under the language's own style.
pub fn lay(language: &str, text: &str) -> String {
    lay_with(language, &[], text)
}

/// The whole text; it must parse, be proved, and have no slips afterwards.
pub fn lay_with(language: &str, settings: &[(&str, &str, &str)], text: &str) -> String {
    let style = style(language, settings);
    let language = languages::by_name(language).unwrap();
    let mended = mend(text, language, &style, &LineSet::whole()).unwrap();
    assert!(mended.outcome.faults.is_empty(), "{:?}", mended.outcome.faults);
    let again = judge(&mended.text, language, &style, &LineSet::whole());
    assert_eq!(again.slips, [], "{}", mended.text);
    mended.text
}

/// Holds each text against what is made of it, and that against itself.
pub fn becomes(language: &str, pairs: &[(&str, &str)]) {
    for (text, wanted) in pairs {
        assert_eq!(lay_with(language, &[], text), *wanted, "{language}");
        assert_eq!(lay_with(language, &[], wanted), *wanted, "{language}, once more");
    }
}

/// A Java or C# method's statements.
pub fn method(statements: &str) -> String {
    let lines = statements.lines().map(|line| format!("        {line}\n"));
    format!("class A {{\n    void b() {{\n{}    }}\n}}\n", lines.collect::<String>())
}

/// The same for the statements of a Java method.
pub fn java(text: &str, wanted: &str) {
    becomes("java", &[(&method(text), &method(wanted))]);
}

/// Mends the lines that are marked with a `>` at their start. The first line is empty.
pub fn mend_marked(language: &str, settings: &[(&str, &str, &str)], marked: &str) -> String {
    let mut lines = Vec::new();
    let mut text = String::new();
    for (number, line) in marked.lines().skip(1).enumerate() {
        if line.starts_with('>') {
            lines.push(number..number + 1);
        }
        text.push_str(line.get(1..).unwrap_or_default());
        text.push('\n');
    }
    let style = style(language, settings);
    let language = languages::by_name(language).unwrap();
    mend(&text, language, &style, &LineSet::of(lines)).unwrap().text
}
