//! The values of declarations.

use super::{Dialect, Masking, is_word};
use crate::languages::masking::LETTER;
use std::ops::Range;

/// So many digits has a colour.
const MOST_HEX: usize = 8;

/// Parentheses inside one another that are looked into; deeper ones are one word.
const DEEPEST: usize = 16;

impl Masking {
    /// Names of a line, of which the grammar reads one: `[ebb flood]`.
    pub(super) fn names(&mut self, value: Range<usize>) {
        let inside = &self.bytes[value.start + 1..value.end];
        let length = inside.iter().take_while(|byte| is_word(**byte) || **byte == b' ').count();
        if inside.get(length) == Some(&b']') && inside[..length].trim_ascii().contains(&b' ') {
            self.bytes[value.start..value.start + length + 2].fill(LETTER);
        }
    }

    /// `#000\9`, `2px\0/`: a mark that only one old browser passes over is a part of what it stands behind.
    pub(super) fn mark(&mut self, start: usize, at: usize) {
        if at == start || !is_word(self.byte(at - 1)) {
            // A letter by its number: `\f26e`
            if self.byte(at + 1).is_ascii_alphanumeric() {
                self.bytes[at] = LETTER;
            }
            return;
        }
        let end = at + 1 + usize::from(self.byte(at + 1).is_ascii_digit());
        let end = end + usize::from(self.byte(end) == b'/');
        let before = &self.bytes[start..at];
        let digits = before.iter().rev().take_while(|byte| byte.is_ascii_hexdigit()).count();
        if end == at + 1 {
            return;
        }
        if before[..before.len() - digits].ends_with(b"#") {
            match digits + end - at <= MOST_HEX {
                true => self.bytes[at..end].fill(b'0'),
                false => self.bytes[at - digits - 1..end].fill(LETTER),
            }
        } else if self.byte(end - 1) == b'/' {
            self.bytes[end - 1] = LETTER;
        }
    }

    /// What stands for a variable that is not there may be nothing: `var(--tide,)`.
    pub(super) fn empty_fallbacks(&mut self, value: Range<usize>) {
        let mut at = value.start;
        while at < value.end {
            match self.closed(at) {
                Some(end) => at = end,
                None => {
                    if self.byte(at) == b',' {
                        self.empty_fallback(at);
                    }
                    at += 1;
                }
            }
        }
    }

    /// A comma behind which nothing stands is a part of the word before it.
    pub(super) fn empty_fallback(&mut self, comma: usize) {
        let mut at = comma + 1;
        loop {
            at += self.bytes[at..].iter().take_while(|byte| byte.is_ascii_whitespace()).count();
            match self.starts_with(at, b"/*").then(|| self.comment(at)).flatten() {
                Some(end) => at = end,
                None => break,
            }
        }
        if self.byte(at) == b')' && comma > 0 && is_word(self.byte(comma - 1)) {
            self.bytes[comma] = LETTER;
        }
    }

    /// A declaration's value.
    pub(super) fn value(&mut self, range: Range<usize>) {
        let range = self.trimmed(range);
        let mut at = range.start;
        while at < range.end {
            if let Some(end) = self.closed(at) {
                at = end;
                continue;
            }
            let (before, next) = (if at > 0 { self.bytes[at - 1] } else { 0 }, self.byte(at + 1));
            match self.bytes[at] {
                b':' | b'=' | b'<' | b'>' | b'{' => return self.hide(range),
                b'$' | b'&' | b'@' => {
                    self.bytes[at] = LETTER;
                    if before == b'.' {
                        self.bytes[at - 1] = LETTER;
                    }
                }
                // `~"calc(1px - @{tide})"`
                b'~' if matches!(next, b'"' | b'\'') => {
                    let end = self.closed(at + 1).unwrap_or(range.end).min(range.end);
                    self.hide(at..end);
                }
                b'~' if next == b'`' => self.bytes[at] = LETTER,
                b'`' => {
                    let end = memchr::memchr(b'`', &self.bytes[at + 1..range.end]);
                    let end = end.map_or(range.end, |end| at + end + 2);
                    self.hide(at..end);
                }
                b'!' if self.bytes[at..range.end] != *b"!important" => self.bytes[at] = LETTER,
                // `e(%("%d", @ebb))`
                b'%' if next == b'(' => self.bytes[at] = LETTER,
                // `translate(- $quay)`
                b'-' if (matches!(before, b'(' | b',') || at == range.start) && next == b' ' => {
                    self.bytes[at..at + 2].fill(LETTER);
                }
                // `.ebb(@tide)`
                b'.' if self.dialect == Dialect::Less
                    && (before.is_ascii_whitespace() || at == range.start)
                    && next.is_ascii_alphabetic() => {
                    self.bytes[at] = LETTER;
                }
                b'%' if before.is_ascii_whitespace() && next.is_ascii_whitespace() => {
                    self.bytes[at] = b'*';
                }
                b'.' if before.is_ascii_alphanumeric() && next.is_ascii_alphabetic() => {
                    self.bytes[at] = LETTER;
                }
                b',' => self.empty_fallback(at),
                b'\\' => self.mark(range.start, at),
                b'[' => self.names(at..range.end),
                b'.' if self.starts_with(at, b"...") => self.hide(at..(at + 3).min(range.end)),
                b'(' => {
                    let end = self.pair(at, b'(', b')').unwrap_or(range.end).min(range.end);
                    if self.is_foreign(at..end) {
                        self.hide(at..end);
                    }
                }
                _ => {}
            }
            at += 1;
        }
    }

    /// Whether a plain sheet has nothing like what stands in these parentheses: a map, a condition,
    /// a list without a name before it.
    fn is_foreign(&self, group: Range<usize>) -> bool {
        if group.len() < 2 {
            return true;
        }
        let before = if group.start > 0 { self.bytes[group.start - 1] } else { 0 };
        let is_call = is_word(before) && before != b'-';
        if before == b'-' || (!is_call && self.trimmed(group.start + 1..group.end - 1).is_empty()) {
            return true;
        }
        let inside = &self.bytes[self.trimmed(group.start + 1..group.end - 1)];
        let is_list = inside.iter().all(|byte| is_word(*byte) || b" %.\n\"'".contains(byte));
        if !is_call && is_list && inside.contains(&b' ') {
            return true;
        }
        let (mut depth, mut quote, mut last) = (0usize, None, 0);
        for at in group.clone() {
            let byte = self.bytes[at];
            match (quote, byte) {
                (Some(open), _) if open == byte => quote = None,
                (Some(_), _) => {}
                (None, b'"' | b'\'') => quote = Some(byte),
                (None, b'(') if depth == DEEPEST => return true,
                (None, b'(') => depth += 1,
                (None, b')') if last == b',' => return true,
                (None, b')') => depth = depth.saturating_sub(1),
                (None, b':' | b'=' | b'<' | b'>' | b'{' | b'/') if byte != b'/' => return true,
                (None, b'/') if matches!(self.byte(at + 1), b'/' | b'*') => return true,
                (None, b',') if depth == 1 && !is_call => return true,
                (None, b'a' | b'o' | b'n') if is_condition(&self.bytes[at - 1..group.end]) => {
                    return true;
                }
                _ => {}
            }
            if !byte.is_ascii_whitespace() {
                last = byte;
            }
        }
        false
    }
}

/// Whether a word of conditions follows the first byte.
fn is_condition(text: &[u8]) -> bool {
    !is_word(text[0])
        && [&b"and"[..], b"or", b"not"].iter().any(|word| {
            let rest = text[1..].strip_prefix(*word);
            rest.is_some_and(|rest| rest.first().is_some_and(|byte| !is_word(*byte)))
        })
}
