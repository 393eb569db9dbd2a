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
    let is_letter = |byte: &u8| byte.is_ascii_alphanumeric()
        || b"_$".contains(byte)
        || *byte >= 0x80;
    let all = memmem::find_iter(text.as_bytes(), word).map(move |at| at..at + word.len());
    all.filter(move |range| {
        let (before, behind) = (&text.as_bytes()[..range.start], &text.as_bytes()[range.end..]);
        !before.last().is_some_and(is_letter) && !behind.first().is_some_and(is_letter)
    })
}
