//! At-rules, and what they ask for.

use super::{Dialect, LONGEST, Masking, is_word};
use crate::languages::masking::{FIGURE, LETTER};
use std::ops::Range;

/// At-rules whose preludes are those of plain sheets.
const PLAIN: [&[u8]; 12] = [
    b"charset", b"container", b"font-face", b"keyframes", b"layer", b"media", b"namespace", b"page",
    b"property", b"scope", b"starting-style", b"supports",
];

impl Masking {
    /// `@include ebb($tide)`: a word and its prelude, which is one.
    pub(super) fn at_rule(&mut self, head: Range<usize>) {
        let is_end = |at: &usize| !is_word(self.bytes[*at]);
        let name = head.start + 1..(head.start + 1..head.end).find(is_end).unwrap_or(head.end);
        let prelude = self.trimmed(name.end..head.end);
        self.query(name.clone(), prelude.clone());
        let own = &self.bytes[name.clone()];
        let bare = own.strip_prefix(b"-").and_then(|rest| rest.splitn(2, |b| *b == b'-').nth(1));
        if self.dialect == Dialect::Plain {
            // `@-moz-document url-prefix()`, `@define-color quay #fff;`
            let is_known = PLAIN.contains(&bare.unwrap_or(own)) || own == b"import";
            let is_unread = || self.bytes[prelude.clone()].iter().any(|byte| b"@#(".contains(byte));
            if bare == Some(b"document") || !is_known && is_unread() {
                self.hide(prelude);
            }
            return;
        }
        if PLAIN.contains(&bare.unwrap_or(own)) {
            let is_animation = bare.unwrap_or(own) == b"keyframes";
            if is_animation && self.makes_blocks(prelude.end) {
                self.bytes[name.start] = LETTER;
            }
            if is_animation && !prelude.is_empty() {
                self.bytes[prelude].fill(LETTER);
                return;
            }
            for at in prelude.clone() {
                if matches!(self.bytes[at], b'$' | b'@') {
                    self.bytes[at] = LETTER;
                }
            }
            self.calls(prelude);
            return;
        }
        let is_made = self.bytes[prelude.clone()].iter().any(|byte| b",$@".contains(byte));
        let is_simple = own == b"import" && !is_made;
        for at in name {
            if self.bytes[at].is_ascii_digit() {
                self.bytes[at] = LETTER;
            }
        }
        if !is_simple || self.byte(prelude.start) == b'(' {
            // What stands on both sides of a comment is one word, with it.
            self.bytes[prelude].fill(LETTER);
        }
    }

    /// Whether what a block holds is made by a dialect's rules.
    fn makes_blocks(&self, head: usize) -> bool {
        let block = self.bytes[head..].trim_ascii_start().strip_prefix(b"{");
        let first = block.and_then(|block| block.trim_ascii_start().first());
        first.is_some_and(|first| b"@$".contains(first))
    }

    /// Calls with what they are given, in what is asked for: `(min-width: map.get($widths, quay))`.
    fn calls(&mut self, prelude: Range<usize>) {
        let mut at = prelude.start;
        while at < prelude.end {
            let is_call = self.byte(at) == b'(' && at > prelude.start && is_word(self.byte(at - 1));
            let end = is_call.then(|| self.pair(at, b'(', b')')).flatten();
            let Some(end) = end.filter(|end| *end <= prelude.end) else {
                at += 1;
                continue;
            };
            let name = self.bytes[prelude.start..at].iter().rev();
            let length = name.take_while(|byte| is_word(**byte) || **byte == b'.').count();
            let name = &self.bytes[at - length..at];
            if name.contains(&b'.') {
                self.bytes[at - length..end].fill(LETTER);
            }
            at = end;
        }
    }

    /// What the grammar does not read of what some rules ask for.
    fn query(&mut self, name: Range<usize>, prelude: Range<usize>) {
        match &self.bytes[name] {
            b"media" => {
                // `(min-width: 0\0)`, which one old browser asks for
                for at in prelude.clone() {
                    if self.bytes[at] == b'\\' && self.byte(at + 1).is_ascii_digit() {
                        self.bytes[at] = FIGURE;
                    }
                }
                self.groups(prelude, b"<>=");
            }
            // `(background-blend-mode: difference, normal)`
            b"supports" => self.groups(prelude, b","),
            b"container" => self.container(prelude),
            b"import" => self.conditions(prelude),
            // `@layer quay.ebb`
            b"layer" => {
                let is_point = |byte: &&mut u8| **byte == b'.';
                self.bytes[prelude].iter_mut().filter(is_point).for_each(|byte| *byte = LETTER);
            }
            // `@page :first`
            b"page" if self.bytes[prelude.clone()].contains(&b':') => self.hide(prelude),
            _ => {}
        }
    }

    /// Features with some signs in them, `(40em <= width < 60em)`, each with its parentheses.
    fn groups(&mut self, prelude: Range<usize>, signs: &[u8]) {
        let mut at = prelude.start;
        while at < prelude.end {
            let is_sign = signs.contains(&self.bytes[at]);
            let open = is_sign.then(|| self.around(prelude.start..at)).flatten();
            // The commas of a call are read.
            let is_read = |open: &usize| self.bytes[at] == b',' && is_word(self.bytes[*open - 1]);
            let Some(open) = open.filter(|open| !is_read(open)) else {
                at += 1;
                continue;
            };
            let end = self.pair(open, b'(', b')').filter(|end| *end <= prelude.end);
            // Something in quotes has a bracket of its own.
            let Some(end) = end else { return };
            self.hide(open..end);
            at = end;
        }
    }

    /// The parenthesis that a stretch ends inside of.
    fn around(&self, range: Range<usize>) -> Option<usize> {
        let mut depth = 0usize;
        let from = range.start.max(range.end.saturating_sub(LONGEST));
        (from..range.end).rev().find(|at| match self.bytes[*at] {
            b'(' if depth == 0 => true,
            b'(' => {
                depth -= 1;
                false
            }
            b')' => {
                depth += 1;
                false
            }
            _ => false,
        })
    }

    /// What is asked of an element around: with its name, or of its own properties, all that is asked.
    fn container(&mut self, prelude: Range<usize>) {
        let asked = &self.bytes[prelude.clone()];
        let is_named = !asked.starts_with(b"(") && !asked.starts_with(b"not ");
        let asks_style = memchr::memmem::find(asked, b"style(").is_some();
        // `(width > #{$quay})`
        let is_made = self.dialect != Dialect::Plain
            && asked.windows(4).any(|four| four == [LETTER; 4]);
        match is_named || asks_style || is_made {
            true => self.hide(prelude),
            false => self.groups(prelude, b"<>="),
        }
    }

    /// What an imported sheet is asked for, behind its address: `layer(quay) supports(display: grid)`.
    fn conditions(&mut self, prelude: Range<usize>) {
        let at = prelude.start;
        let address = match self.byte(at) {
            b'"' | b'\'' => self.closed(at),
            _ if self.starts_with(at, b"url(") => self.pair(at + 3, b'(', b')'),
            _ => None,
        };
        let Some(address) = address.filter(|end| *end < prelude.end) else { return };
        let rest = self.trimmed(address..prelude.end);
        let asked = &self.bytes[rest.clone()];
        if asked.starts_with(b"layer(") || memchr::memmem::find(asked, b"supports(").is_some() {
            self.hide(rest);
        }
    }
}
