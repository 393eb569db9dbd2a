//! What a grammar is shown in place of a text: one of the same length, in which something is hidden.

use memchr::memmem;
use std::ops::Range;

/// What hides a byte of a name: a letter of one.
pub(super) const LETTER: u8 = b'x';

/// What hides some stretches of a text by a byte, and what is hidden already by letters; nothing if nothing is.
pub(super) fn hide(
    text: &str,
    before: Option<String>,
    hidden: impl IntoIterator<Item = Range<usize>>,
    byte: u8,
) -> Option<String> {
    let mut hidden = hidden.into_iter().peekable();
    if hidden.peek().is_none() {
        return before;
    }
    let mut bytes = before.unwrap_or_else(|| text.to_string()).into_bytes();
    hidden.for_each(|range| bytes[range].fill(byte));
    String::from_utf8(bytes).ok()
}

/// Where a word stands by itself.
pub(super) fn words<'t>(
    text: &'t str,
    word: &'static str,
) -> impl Iterator<Item = Range<usize>> + 't {
    let all = memmem::find_iter(text.as_bytes(), word).map(move |at| at..at + word.len());
    all.filter(move |range| {
        let (before, behind) = (&text.as_bytes()[..range.start], &text.as_bytes()[range.end..]);
        !before.last().is_some_and(is_letter) && !behind.first().is_some_and(is_letter)
    })
}

/// Brackets that are looked at are no further apart. Bounds the work on hostile input.
pub(super) const LONGEST: usize = 2_000;

/// What hides a byte of a name that could be a type's: a figure of a number, which is none.
pub(super) const FIGURE: u8 = b'1';

/// Names in parentheses before one of these signs, which some grammars take for a type that a value with a
/// sign is turned into: `(ebb) - flood`. By their languages only what can be no value is a type there
/// (`is_type`), and nothing is called that stands behind one of some words (`leads`).
pub(super) fn values_in_parentheses(
    text: &str,
    signs: &'static [u8],
    leads: &'static [&'static [u8]],
    is_type: fn(&[u8]) -> bool,
) -> impl Iterator<Item = Range<usize>> {
    let bytes = text.as_bytes();
    memchr::memchr_iter(b')', bytes).filter_map(move |close| {
        let behind = bytes[close + 1..].trim_ascii_start();
        let sign = behind.first().filter(|byte| signs.contains(byte))?;
        let is_step = |next: &u8| next == sign && b"+-".contains(next);
        let is_one = behind.get(1).is_some_and(|next| !is_step(next) && !b"=>".contains(next));
        let part_of_name = |byte: &u8| is_letter(byte) || *byte == b'.' || *byte == b' ';
        let open = bytes[..close].iter().rposition(|byte| !part_of_name(byte))?;
        let inside = &bytes[open + 1..close];
        let name = inside.trim_ascii();
        let start = open + 1 + (inside.len() - inside.trim_ascii_start().len());
        let begins = name.first().is_some_and(|first| is_letter(first) && !first.is_ascii_digit());
        let is_name = bytes[open] == b'(' && begins && !name.contains(&b' ') && !is_type(name);
        (is_one && is_name && !is_call(bytes, open, leads)).then(|| start..start + name.len())
    })
}

/// Whether something is called by an opening bracket.
pub(super) fn is_call(bytes: &[u8], open: usize, leads: &[&[u8]]) -> bool {
    let before = bytes[..open].trim_ascii_end();
    match before.last() {
        Some(b']' | b'"' | b'\'') => true,
        Some(b')') => opener(bytes, before.len() - 1).is_none_or(|open| {
            bytes[..open].trim_ascii_end().last().is_some_and(|byte| {
                is_letter(byte) || b")]".contains(byte)
            })
        }),
        Some(byte) if is_letter(byte) => !leads.contains(&word_before(before)),
        _ => false,
    }
}

/// The bracket that another one ends: nothing where they are far apart, or not in one expression.
pub(super) fn opener(bytes: &[u8], close: usize) -> Option<usize> {
    let (mut at, mut depth) = (close + 1, 0usize);
    while at > 0 && close < at + LONGEST {
        at -= 1;
        match bytes[at] {
            b')' => depth += 1,
            b'(' if depth == 1 => return Some(at),
            b'(' => depth -= 1,
            quote @ (b'"' | b'\'') => {
                let from = at.saturating_sub(LONGEST);
                let before = &bytes[from..at];
                let line = memchr::memrchr(b'\n', before).map_or(0, |end| end + 1);
                at = from + line + memchr::memrchr(quote, &before[line..])?;
            }
            b';' | b'{' | b'}' => return None,
            _ => {}
        }
    }
    None
}

/// The word that a text ends with.
pub(super) fn word_before(bytes: &[u8]) -> &[u8] {
    let start = bytes.iter().rposition(|byte| !is_letter(byte)).map_or(0, |at| at + 1);
    &bytes[start..]
}

/// Whether a byte is one of a name, or of a number.
pub(super) fn is_letter(byte: &u8) -> bool {
    byte.is_ascii_alphanumeric() || b"_@$".contains(byte) || *byte >= 0x80
}

#[cfg(test)]
mod tests {
    use crate::languages::testing::lay;

    /// By the language, a name in parentheses before a sum's sign is a value, and no type that one is turned
    /// into.
    #[test]
    fn a_name_in_parentheses_is_a_value_before_a_sign() {
        let both = [
            "(ebb) + 1",
            "(ebb) - b * c",
            "(a.b) + (c) - d",
            "(ebb) & 1",
            "f(a) - b",
            "y > (a) - b",
        ];
        let java = ["(Level) (a) + b", "(int) -1", "(a) -> b"];
        let csharp = [
            "(Level)(a) + b", "(int)-1", "(object)-1", "(ebb) * 2", "f<T>(a) - b", "(ebb)--",
            "!(a) && (b)", "(a) && !b",
        ];
        let comes_back = |language: &str, before: &str, value: &str| {
            let of = |value: &str| format!("{before}{value};\n}}\n");
            assert_eq!(lay(language, &of(&value.replace(' ', ""))), of(value));
            assert_eq!(lay(language, &of(value)), of(value));
        };
        for value in both.iter().chain(&java) {
            comes_back("java", "class Gauge {\n    int level = ", value);
        }
        for value in both.iter().chain(&csharp) {
            comes_back("csharp", "class Gauge\n{\n    int Level = ", value);
        }
    }
}
