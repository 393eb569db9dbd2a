//! What stands before a block.

use super::{Dialect, LONGEST, Masking, is_word, pair_in};
use crate::languages::masking::{FIGURE, LETTER};
use std::ops::Range;

/// So many digits has a letter's number.
const MOST_DIGITS: usize = 6;

/// What counts them has a shorter name.
const LONGEST_NAME: usize = 32;

impl Masking {
    /// What stands before a block.
    pub(super) fn selector(&mut self, head: Range<usize>) {
        let is_plain = self.dialect == Dialect::Plain;
        if !is_plain && self.byte(head.end - 1) == b':' {
            // `font: { size: 2px; }`
            self.bytes[head.end - 1] = LETTER;
        }
        let (mut at, mut is_first) = (head.start, true);
        while at < head.end {
            if matches!(self.bytes[at], b'"' | b'\'' | b'/')
                && let Some(end) = self.closed(at)
            {
                at = end;
                continue;
            }
            if self.bytes[at] == b'(' {
                self.count(head.start..at, at);
            }
            let next = self.byte(at + 1);
            let before = if at > head.start { self.bytes[at - 1] } else { 0 };
            match self.bytes[at] {
                // `12.5%` of the way
                b'.' if next.is_ascii_digit() => self.bytes[at] = b'0',
                b'\\' => self.escape(at),
                b']' => self.flag(head.start..at),
                // `[class *= "ebb"]`, which behind a blank could be any element
                b'*' if next == b'=' => self.bytes[at] = b'^',
                b'&' if !is_plain && matches!(before, b')' | b']') => {
                    self.join(head.start, at, is_word(next));
                }
                b'&' if self.goes_on(head.start..at) => self.bytes[at] = LETTER,
                _ if is_plain => {}
                // `:not(.quay)#{$ebb}`: an interpolation
                LETTER if matches!(before, b')' | b']') => self.bytes[at] = b'.',
                // `quay > { … }`: what stands in the block has it before it
                b'>' | b'~' | b'+' if self.ends(at + 1..head.end) => self.bytes[at] = b'*',
                b',' if is_word(before) && self.trimmed(at + 1..head.end).is_empty() => {
                    self.bytes[at] = LETTER;
                }
                b'&' if is_word(next) || next == b'&' => self.bytes[at] = LETTER,
                b'~' if matches!(next, b'"' | b'\'') => {
                    let end = self.closed(at + 1).unwrap_or(head.end).min(head.end);
                    self.hide(at..end);
                }
                b'%' if is_word(next) && !before.is_ascii_digit() => self.bytes[at] = b'.',
                b'$' | b'@' => self.bytes[at] = LETTER,
                // `.ebb(@tide) when (@tide > 2)`
                b'(' if std::mem::take(&mut is_first)
                    && self.dialect == Dialect::Less
                    && self.defines(head.start..at) => {
                    return self.hide(at..head.end);
                }
                b' ' if self.dialect == Dialect::Less
                    && self.starts_with(at, b" when")
                    && b" (".contains(&self.byte(at + 5)) => {
                    return self.hide(at..head.end);
                }
                _ => {}
            }
            at += 1;
        }
    }

    /// Whether nothing stands in a range, or another selector begins there.
    fn ends(&self, range: Range<usize>) -> bool {
        let rest = self.bytes[range].trim_ascii_start();
        rest.is_empty() || rest[0] == b','
    }

    /// What is around goes on behind brackets: `select[multiple]&`, `:not(.ebb)&-quay`.
    fn join(&mut self, start: usize, at: usize, is_name: bool) {
        if is_name {
            self.bytes[at] = b'.';
            return;
        }
        let closes = self.bytes[at - 1];
        let opens = if closes == b')' { b'(' } else { b'[' };
        let mut depth = 0usize;
        let from = start.max(at.saturating_sub(LONGEST));
        let open = (from..at).rev().find(|at| {
            depth += usize::from(self.bytes[*at] == closes);
            depth -= usize::from(self.bytes[*at] == opens);
            depth == 0
        });
        if let Some(open) = open {
            self.bytes[open..=at].fill(LETTER);
        }
    }

    /// The letter behind an attribute's value that says whether case counts is part of that:
    /// `[type="search" i]`.
    fn flag(&mut self, inside: Range<usize>) {
        let inside = self.trimmed(inside);
        let flag = inside.end.saturating_sub(1);
        let value = self.trimmed(inside.start.min(flag)..flag).end;
        if value == inside.start || !matches!(self.bytes[flag], b'i' | b'I' | b's' | b'S') {
            return;
        }
        match self.bytes[value - 1] {
            quote @ (b'"' | b'\'') => {
                self.bytes[value - 1..flag].fill(LETTER);
                self.bytes[flag] = quote;
            }
            byte if is_word(byte) && value < flag => self.bytes[value..flag].fill(LETTER),
            _ => {}
        }
    }

    /// The blank that ends a letter's number is part of the name that goes on behind it: `.\35 00px`.
    fn escape(&mut self, at: usize) {
        let digits = self.bytes[at + 1..].iter().take(MOST_DIGITS);
        let end = at + 1 + digits.take_while(|byte| byte.is_ascii_hexdigit()).count();
        if end > at + 1 && self.byte(end) == b' ' && is_word(self.byte(end + 1)) {
            self.bytes[at..=end].fill(LETTER);
        }
    }

    /// What of the elements that a selector counts in parentheses the grammar does not read: `(2n - 1)`,
    /// `(even of .quay, .buoy)`; and behind other names than these two, any of it.
    fn count(&mut self, head: Range<usize>, at: usize) {
        let name = &self.bytes[head.start.max(at.saturating_sub(LONGEST_NAME))..head.end];
        let name = name.iter().rposition(|byte| *byte == b':').map(|colon| &name[colon..]);
        let is_read = match name {
            Some(b":nth-child" | b":nth-last-child") => true,
            Some(name) if name.starts_with(b":nth-") => false,
            _ => return,
        };
        let most = &self.bytes[..self.bytes.len().min(at + LONGEST)];
        let Some(end) = pair_in(most, at, b'(', b')') else { return };
        let inside = self.trimmed(at + 1..end - 1);
        if !is_read {
            return self.hide(inside);
        }
        let of = memchr::memmem::find(&self.bytes[inside.clone()], b" of ");
        let of = of.map_or(inside.end, |of| inside.start + of);
        let counted = &self.bytes[inside.start..of];
        if self.dialect != Dialect::Plain && counted.contains(&LETTER) {
            // `#{$quay}n + 1`
            return self.bytes[inside.start..of].fill(FIGURE);
        }
        for sign in inside.start..of {
            match self.bytes[sign] {
                b'-' if sign > inside.start => self.bytes[sign] = b'+',
                b'+' if sign == inside.start => self.bytes[sign] = b'-',
                _ => {}
            }
        }
        let list = self.trimmed((of + 4).min(inside.end)..inside.end);
        if self.bytes[list.clone()].contains(&b',') {
            self.hide(list.clone());
            self.bytes[list.start] = b'.';
        }
    }

    /// Whether a selector has begun in a range and goes on behind it.
    fn goes_on(&self, range: Range<usize>) -> bool {
        let before = self.bytes[range].trim_ascii_end().last();
        before.is_some_and(|byte| !b",>+~/(".contains(byte))
    }

    /// Whether what stands before a parenthesis is the name of a mixin.
    fn defines(&self, head: Range<usize>) -> bool {
        matches!(self.bytes[head.start], b'.' | b'#')
            && self.is_name(head.start + 1..head.end)
    }
}
