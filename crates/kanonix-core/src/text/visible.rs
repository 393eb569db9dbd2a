//! Text of strangers, shown to a person or in a line of a report.

use std::borrow::Cow;
use std::fmt::Write;

/// A text that does nothing where it is shown: what controls a terminal, turns the direction of
/// writing around or ends a line is spelt out. Used for every name, message and source line that is
/// printed; formats in which nothing is lost (JSON) have it as it is.
///
/// ```
/// use kanonix_core::text::visible;
/// assert_eq!(visible("gauges/ebb.py"), "gauges/ebb.py");
/// assert_eq!(visible("a\u{1b}[2J\nb\u{202e}c"), "a\\u{1b}[2J\\nb\\u{202e}c");
/// ```
pub fn visible(text: &str) -> Cow<'_, str> {
    if !text.chars().any(acts) {
        return Cow::Borrowed(text);
    }
    let mut out = String::with_capacity(text.len() + 8);
    for c in text.chars() {
        match c {
            '\n' => out.push_str("\\n"),
            '\r' => out.push_str("\\r"),
            '\t' => out.push_str("\\t"),
            c if acts(c) => {
                let _ = write!(out, "\\u{{{:x}}}", c as u32);
            }
            c => out.push(c),
        }
    }
    Cow::Owned(out)
}

/// As [`visible`], of a text of several lines that we have made: their ends stay.
pub fn visible_lines(text: &str) -> Cow<'_, str> {
    if !text.chars().any(|c| c != '\n' && acts(c)) {
        return Cow::Borrowed(text);
    }
    let lines: Vec<Cow<str>> = text.split('\n').map(visible).collect();
    Cow::Owned(lines.join("\n"))
}

/// Whether a character does something where it is shown: controls, line ends, and those of the
/// Unicode Bidirectional Algorithm (UAX 9) that have no shape.
fn acts(c: char) -> bool {
    c.is_control()
        || matches!(c, '\u{61c}' | '\u{200e}' | '\u{200f}' | '\u{2028}' | '\u{2029}')
        || matches!(c, '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}')
}
