//! What the grammar stumbles over: a macro that is named as a type of the language, a lifetime before the
//! trait that it goes with, a mark that macros alone are given, and what is said of a field of a pattern. It is
//! shown another name, or mark, or a comment.

use crate::languages::masking::{LETTER, LONGEST, hide, is_letter, words};
use memchr::{memchr_iter, memmem};
use std::ops::Range;

/// A text as the grammar is shown it, where that is another one.
pub(super) fn names(text: &str) -> Option<String> {
    let is_macro = |rest: &str| rest.starts_with('!') && !rest.starts_with("!=");
    let macros = words(text, "str").filter(|name| is_macro(text[name.end..].trim_start()));
    let shown = hide(text, None, macros.chain(lifetimes(text)), LETTER);
    let shown = hide(text, shown, marks(text), b'!');
    let attributes: Vec<Range<usize>> = attributes(text).collect();
    if attributes.is_empty() {
        return shown;
    }
    let mut bytes = shown.unwrap_or_else(|| text.to_string()).into_bytes();
    for attribute in attributes {
        let (start, end) = (attribute.start, attribute.end);
        bytes[attribute].fill(LETTER);
        bytes[start..start + 2].copy_from_slice(b"/*");
        bytes[end - 2..end].copy_from_slice(b"*/");
    }
    String::from_utf8(bytes).ok()
}

/// `#[cfg(tide)]` before a field of a pattern, where the grammar reads but comments.
fn attributes(text: &str) -> impl Iterator<Item = Range<usize>> + '_ {
    let bytes = text.as_bytes();
    memmem::find_iter(bytes, "#[").filter_map(move |at| {
        let before = bytes[..at].trim_ascii_end().last();
        let end = closing(bytes, at + 1)?;
        let field = bytes[end..].trim_ascii_start();
        let name = field.iter().take_while(|byte| is_letter(byte)).count();
        let behind = field[name..].trim_ascii_start().first();
        let is_field = before.is_some_and(|byte| b"{,".contains(byte))
            && name > 0
            && behind.is_some_and(|byte| b",:}".contains(byte));
        (is_field && is_in_pattern(bytes, end)).then_some(at..end)
    })
}

/// Whether the braces around a place end a pattern: something is matched, or taken apart, by it.
fn is_in_pattern(bytes: &[u8], at: usize) -> bool {
    let mut depth = 0usize;
    let closes = |byte: &u8| {
        let closes = depth == 0 && *byte == b'}';
        depth = match byte {
            b'{' => depth + 1,
            b'}' => depth.saturating_sub(1),
            _ => depth,
        };
        closes || *byte == b';'
    };
    let end = bytes[at..].iter().take(LONGEST).position(closes).map(|length| at + length);
    let Some(end) = end.filter(|end| bytes[*end] == b'}') else { return false };
    let behind = bytes[end + 1..].trim_ascii_start();
    behind.starts_with(b"=>") || (behind.starts_with(b"=") && !behind.starts_with(b"=="))
}

/// Where the brackets end that open at a place, on their line.
fn closing(bytes: &[u8], open: usize) -> Option<usize> {
    let mut depth = 0usize;
    let closes = |byte: &u8| {
        depth = depth + usize::from(*byte == b'[') - usize::from(*byte == b']');
        depth == 0 || *byte == b'\n'
    };
    let end = open + bytes[open..].iter().take(LONGEST).position(closes)?;
    (bytes[end] == b']').then_some(end + 1)
}

/// `'a + ` in `dyn 'a + Gauge`.
fn lifetimes(text: &str) -> impl Iterator<Item = Range<usize>> + '_ {
    memmem::find_iter(text.as_bytes(), "dyn '").filter_map(|at| {
        let start = at + "dyn ".len();
        let rest = &text[start + 1..];
        let name = rest.len()
            - rest.trim_start_matches(|c: char| c.is_alphanumeric() || c == '_').len();
        let behind = rest[name..].trim_start_matches(' ').strip_prefix('+')?;
        let bound = behind.trim_start_matches(' ');
        let begins_name = bound.starts_with(|c: char| c.is_alphabetic());
        (name > 0 && begins_name).then(|| start..text.len() - bound.len())
    })
}

/// `~` beside the bracket of what a macro is given: `Token![~]`.
fn marks(text: &str) -> impl Iterator<Item = Range<usize>> + '_ {
    let bytes = text.as_bytes();
    let is_mark = |at: &usize| {
        let before = at.checked_sub(1).map(|before| bytes[before]);
        before == Some(b'[') || matches!(bytes.get(at + 1), Some(b']' | b')'))
    };
    memchr_iter(b'~', bytes).filter(is_mark).map(|at| at..at + 1)
}
