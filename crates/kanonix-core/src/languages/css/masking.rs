//! What the grammar of plain sheets stumbles over: variables, mixins and conditions of sheets that have
//! them; and of all sheets addresses without quotes, what old browsers asked for, what only newer ones are
//! asked for (features between signs, what is around an element), parts of a percent, some ways to count
//! elements, letters by their number, what an attribute's case says, semicolons that end nothing, and letters
//! that no English word has.
//! Each such stretch is a word to it: it is shown a sheet of the same length in which that is made of
//! letters. What stands in a stretch stays as it is.

mod at_rules;
mod selectors;
mod values;

use crate::languages::masking::LETTER;
use std::ops::Range;

/// A dialect.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Dialect {
    /// None.
    Plain,
    /// `$tide: 2px;`, `@include ebb;`
    Scss,
    /// `@tide: 2px;`, `.ebb();`
    Less,
}

/// A sheet without variables of a dialect, as the grammar is shown it.
pub(super) fn plain(text: &str) -> Option<String> {
    Masking::of(text, Dialect::Plain).filter(|masked| masked != text)
}

/// A sheet with `$` before its variables, as the grammar is shown it.
pub(super) fn scss(text: &str) -> Option<String> {
    Masking::of(text, Dialect::Scss)
}

/// A sheet with `@` before its variables, as the grammar is shown it.
pub(super) fn less(text: &str) -> Option<String> {
    Masking::of(text, Dialect::Less)
}

/// What the value of a filter of one old browser begins with.
const PROGRAM: &[u8] = b"progid:";

/// What hides a semicolon that ends nothing, and the parenthesis behind a block that is given to something.
const BLANK: u8 = b' ';

struct Masking {
    bytes: Vec<u8>,
    dialect: Dialect,
    /// How many brackets were looked for to the end of the text in vain.
    unclosed: usize,
    /// How deep in braces a place is.
    depth: usize,
    /// How deep those blocks are that stand in parentheses, from outside to inside, and where what they are
    /// given to begins.
    given: Vec<(usize, usize)>,
}

/// So many are looked for; no sheet of people has more that are not closed.
const MOST_UNCLOSED: usize = 64;

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'_') || byte >= 0x80
}

/// So many bytes may a selector count elements in.
const LONGEST: usize = 1_000;

/// Where a pair of brackets ends that begins at a byte, if it does.
fn pair_in(bytes: &[u8], at: usize, opens: u8, closes: u8) -> Option<usize> {
    let mut depth = 0usize;
    for (end, byte) in bytes.iter().enumerate().skip(at) {
        if *byte == opens {
            depth += 1;
        } else if *byte == closes {
            depth -= 1;
            if depth == 0 {
                return Some(end + 1);
            }
        }
    }
    None
}

impl Masking {
    fn of(text: &str, dialect: Dialect) -> Option<String> {
        let bytes = text.as_bytes().to_vec();
        let mut masking = Masking { bytes, dialect, unclosed: 0, depth: 0, given: Vec::new() };
        let mut at = text.len() - text.trim_start_matches('\u{feff}').len();
        // Whether a statement has begun and not ended, and whether a block in parentheses has ended.
        let (mut is_open, mut was_given) = (false, false);
        while at < masking.bytes.len() {
            at = match masking.bytes[at] {
                b')' if std::mem::take(&mut was_given) => {
                    masking.bytes[at] = BLANK;
                    at + 1
                }
                byte @ (b'{' | b'}' | b';') => {
                    if byte == b';' && !is_open {
                        masking.bytes[at] = BLANK;
                    }
                    is_open = false;
                    was_given = masking.brace(at);
                    at + 1
                }
                byte if byte.is_ascii_whitespace() => at + 1,
                _ => match masking.comment(at) {
                    Some(end) => end,
                    None => {
                        (is_open, was_given) = (true, false);
                        masking.statement(at)
                    }
                },
            };
        }
        // What no English word has is a letter of a name, which not every place of the grammar knows.
        let mark = "\u{feff}";
        let start = if masking.starts_with(0, mark.as_bytes()) { mark.len() } else { 0 };
        masking.bytes[start..].iter_mut().filter(|b| !b.is_ascii()).for_each(|b| *b = LETTER);
        String::from_utf8(masking.bytes).ok()
    }

    /// Passes a brace, and says whether it ends a block in parentheses.
    fn brace(&mut self, at: usize) -> bool {
        match self.bytes[at] {
            b'{' => self.depth += 1,
            b'}' => {
                let given = self.given.pop_if(|(depth, _)| *depth == self.depth);
                self.depth = self.depth.saturating_sub(1);
                let Some((_, start)) = given else { return false };
                let is_closed = self.bytes[at + 1..].trim_ascii_start().starts_with(b")");
                if !is_closed {
                    // For the grammar to stumble over.
                    self.bytes[start] = b'(';
                }
                return is_closed;
            }
            _ => {}
        }
        false
    }

    fn byte(&self, at: usize) -> u8 {
        self.bytes.get(at).copied().unwrap_or(0)
    }

    fn starts_with(&self, at: usize, mark: &[u8]) -> bool {
        self.bytes[at.min(self.bytes.len())..].starts_with(mark)
    }

    /// Makes one word of a stretch; comments in it stay.
    fn hide(&mut self, range: Range<usize>) {
        let (mut start, mut at) = (range.start, range.start);
        while at < range.end {
            let end = match self.byte(at) {
                b'/' => self.comment(at),
                b'"' | b'\'' => self.closed(at),
                _ => None,
            };
            match end {
                Some(end) if self.byte(at) == b'/' => {
                    let piece = self.trimmed(start..at);
                    self.bytes[piece].fill(LETTER);
                    (start, at) = (end, end);
                }
                Some(end) => at = end,
                None => at += 1,
            }
        }
        let piece = self.trimmed(start.min(range.end)..range.end);
        self.bytes[piece].fill(LETTER);
    }

    /// A range without the blanks around it.
    fn trimmed(&self, range: Range<usize>) -> Range<usize> {
        let inside = &self.bytes[range.clone()];
        let before = inside.len() - inside.trim_ascii_start().len();
        let start = (range.start + before).min(range.end);
        start..start + inside.trim_ascii().len()
    }

    /// Where a comment ends that begins at a byte. One that ends with its line becomes one that plain
    /// sheets have, or where it is too short for that, is left to a grammar that knows it.
    fn comment(&mut self, at: usize) -> Option<usize> {
        let find = |from: usize, mark: &[u8]| {
            let found = memchr::memmem::find(&self.bytes[from..], mark);
            found.map_or(self.bytes.len(), |found| from + found)
        };
        if self.starts_with(at, b"/*") {
            return Some((find(at + 2, b"*/") + 2).min(self.bytes.len()));
        }
        if self.dialect == Dialect::Plain || !self.starts_with(at, b"//") {
            return None;
        }
        let end = find(at, b"\n");
        let length = self.bytes[at..end].trim_ascii_end().len();
        if length >= 4 {
            let inside = &mut self.bytes[at + 2..at + length];
            inside.iter_mut().filter(|b| !b.is_ascii_whitespace()).for_each(|b| *b = LETTER);
            self.bytes[at + 1] = b'*';
            self.bytes[at + length - 2..at + length].copy_from_slice(b"*/");
        }
        Some(end)
    }

    /// Where something ends that hides what stands in it: a string, a comment, an interpolation, an
    /// address. The last two are words to the grammar.
    #[inline]
    fn closed(&mut self, at: usize) -> Option<usize> {
        let may_hide = matches!(self.byte(at), b'"' | b'\'' | b'/' | b'#' | b'@' | b'(');
        may_hide.then(|| self.end_of_hiding(at)).flatten()
    }

    fn end_of_hiding(&mut self, at: usize) -> Option<usize> {
        match self.byte(at) {
            quote @ (b'"' | b'\'') => {
                let mut end = at + 1;
                while end < self.bytes.len() && !matches!(self.bytes[end], b'\n') {
                    match self.bytes[end] {
                        // It goes on in the next line, which the grammar does not know.
                        b'\\' if matches!(self.bytes.get(end + 1), Some(b'\n' | b'\r')) => {
                            let is_one = self.bytes[end + 1] == b'\n';
                            let next = (end + if is_one { 2 } else { 3 }).min(self.bytes.len());
                            self.bytes[end..next].fill(LETTER);
                            end = next - 1;
                        }
                        b'\\' => end += 1,
                        byte if byte == quote => return Some(end + 1),
                        // The grammar looks ahead for these, wherever they stand.
                        b'{' | b'}' | b';' if self.dialect != Dialect::Plain => {
                            self.bytes[end] = LETTER;
                        }
                        _ => {}
                    }
                    end += 1;
                }
                Some(end.min(self.bytes.len()))
            }
            b'/' => self.comment(at),
            b'#' | b'@' if self.dialect != Dialect::Plain && self.byte(at + 1) == b'{' => {
                let end = self.pair(at + 1, b'{', b'}')?;
                self.bytes[at..end].fill(LETTER);
                Some(end)
            }
            b'(' if at >= 3 && self.bytes[at - 3..at].eq_ignore_ascii_case(b"url") => {
                let mut inside = self.bytes[at + 1..].iter();
                let first = inside.find(|byte| !byte.is_ascii_whitespace())?;
                if matches!(first, b'"' | b'\'' | b'$' | b'@' | b')') {
                    return None;
                }
                let end = self.pair(at, b'(', b')')?;
                let inside = self.trimmed(at + 1..end - 1);
                self.bytes[inside].fill(LETTER);
                Some(end)
            }
            _ => None,
        }
    }

    /// Where a pair of brackets ends, if it does.
    fn pair(&mut self, at: usize, opens: u8, closes: u8) -> Option<usize> {
        if self.unclosed == MOST_UNCLOSED {
            return None;
        }
        let end = pair_in(&self.bytes, at, opens, closes);
        self.unclosed += usize::from(end.is_none());
        end
    }

    /// Hides what is to be hidden of a statement, up to its block or its end, and says where that
    /// is.
    fn statement(&mut self, start: usize) -> usize {
        let (mut at, mut depth) = (start, 0usize);
        let (mut colon, mut solid) = (None, start);
        while at < self.bytes.len() {
            if let Some(end) = self.closed(at) {
                if self.byte(at) != b'/' {
                    solid = end;
                }
                at = end;
                continue;
            }
            match self.bytes[at] {
                // A script, whose marks are its own.
                b'`' if self.dialect == Dialect::Less => {
                    let end = memchr::memchr(b'`', &self.bytes[at + 1..]);
                    at += end.map_or(0, |end| end + 1);
                }
                b'(' => depth += 1,
                b')' => depth = depth.saturating_sub(1),
                b'{' | b'}' => break,
                b';' if depth == 0 => break,
                b':' if depth == 0 => colon = colon.or(Some(at)),
                _ => {}
            }
            if !self.bytes[at].is_ascii_whitespace() {
                solid = at + 1;
            }
            at += 1;
        }
        // A comment behind it is none of its own.
        let head = start..solid;
        let end = self.byte(at);
        if depth > 0 {
            // What else is not closed is for the grammar to stumble over.
            if self.dialect == Dialect::Less && depth == 1 && end == b'{' && self.gives(&head) {
                self.hide(head);
                self.given.push((self.depth + 1, start));
            }
            return at;
        }
        let is_mixin = self.dialect == Dialect::Less && b".#&".contains(&self.byte(start));
        let wants_end = is_mixin || self.byte(start) == b'@';
        if end == b'}' && wants_end && self.byte(solid).is_ascii_whitespace() {
            // The grammar wants an end where the brace is one.
            self.bytes[solid] = b';';
        }
        match (self.byte(start), colon) {
            (b'@', Some(colon))
                if self.dialect == Dialect::Less && self.is_name(start + 1..colon) =>
            {
                self.bytes[start] = LETTER;
                match end {
                    b'{' => self.bytes[colon] = LETTER,
                    _ => self.value(colon + 1..head.end),
                }
            }
            (b'@', _) => self.at_rule(head),
            // A value in braces, whose end is the declaration's.
            _ if end == b'{' && self.starts_with(start, b"--") => {
                let Some(end) = self.pair(at, b'{', b'}') else { return at };
                self.bytes[at..end].fill(LETTER);
                return end;
            }
            _ if end == b'{' => self.selector(head),
            _ if self.dialect == Dialect::Plain => self.declaration(start, colon, head.end),
            (b'.' | b'#' | b'&', _) => {
                // A mixin that is called: to the grammar an at-rule of its own.
                self.hide(head.clone());
                self.bytes[head.start] = b'@';
            }
            (_, Some(colon)) => {
                for at in start..colon {
                    if matches!(self.bytes[at], b'$' | b'@' | b'.' | b'\\') {
                        self.bytes[at] = LETTER;
                    }
                }
                self.value(colon + 1..head.end);
            }
            _ => {}
        }
        at
    }

    /// A declaration of a plain sheet, with a mark before its property for browsers that read on. What is
    /// the team's own (`--tide`) is kept as it stands.
    fn declaration(&mut self, start: usize, colon: Option<usize>, end: usize) {
        let Some(colon) = colon else { return };
        if self.starts_with(start, b"--") {
            return self.empty_fallbacks(colon + 1..end);
        }
        if self.byte(start) == b'*' && self.is_name(start + 1..colon) {
            self.bytes[start] = LETTER;
        }
        // `wid\th`, for browsers that read a letter there
        self.bytes[start..colon]
            .iter_mut()
            .filter(|byte| **byte == b'\\')
            .for_each(|b| *b = LETTER);
        let value = self.trimmed(colon + 1..end);
        let first = self.bytes[value.clone()].get(..PROGRAM.len());
        if first.is_some_and(|word| word.eq_ignore_ascii_case(PROGRAM)) {
            return self.hide(value);
        }
        // Up to here, parentheses have nothing to hide.
        let mut plain = 0;
        let mut at = value.start;
        while at < value.end {
            if let Some(end) = self.closed(at) {
                at = end;
                continue;
            }
            match self.byte(at) {
                b'!' if self.bytes[at..value.end] != *b"!important" => self.bytes[at] = LETTER,
                // The name of a colour, as desktops have it: `@tide_color`
                b'@' if self.byte(at + 1).is_ascii_alphabetic() => self.bytes[at] = LETTER,
                b',' => self.empty_fallback(at),
                b'\\' => self.mark(value.start, at),
                b'[' => self.names(at..value.end),
                // `alpha(opacity = 70)`, `if(style(--tide: high): 2em; else: 1em)`
                b'(' if at >= plain => {
                    let end = self.pair(at, b'(', b')').unwrap_or(value.end).min(value.end);
                    match self.bytes[at..end].iter().any(|byte| b"=<>:;".contains(byte)) {
                        true => self.hide(at..end),
                        false => plain = end,
                    }
                }
                _ => {}
            }
            at += 1;
        }
    }

    /// Whether a block is given to what begins with a name: `.ebb({`, `each(@tides, {`.
    fn gives(&self, head: &Range<usize>) -> bool {
        let (first, last) = (self.byte(head.start), self.byte(head.end - 1));
        (is_word(first) || b".#".contains(&first)) && b"(,".contains(&last)
    }

    /// Whether nothing but a name stands in a range.
    fn is_name(&self, range: Range<usize>) -> bool {
        let name = self.bytes[range].trim_ascii_end();
        !name.is_empty() && name.iter().all(|byte| is_word(*byte))
    }
}
