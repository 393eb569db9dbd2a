//! What the grammar of plain sheets stumbles over: variables, mixins and conditions of sheets that have
//! them; and of all sheets addresses without quotes, what old browsers asked for, what only newer ones are
//! asked for (features between signs, what is around an element), parts of a percent, some ways to count
//! elements, letters by their number, what an attribute's case says, semicolons that end nothing, and letters
//! that no English word has.
//! Each such stretch is a word to it: it is shown a sheet of the same length in which that is made of
//! letters. What stands in a stretch stays as it is.

use crate::languages::masking::{FIGURE, LETTER};
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

/// At-rules whose preludes are those of plain sheets.
const PLAIN: [&[u8]; 12] = [
    b"charset", b"container", b"font-face", b"keyframes", b"layer", b"media", b"namespace", b"page",
    b"property", b"scope", b"starting-style", b"supports",
];

/// What the value of a filter of one old browser begins with.
const PROGRAM: &[u8] = b"progid:";

/// What hides a semicolon that ends nothing.
const BLANK: u8 = b' ';

struct Masking {
    bytes: Vec<u8>,
    dialect: Dialect,
    /// How many brackets were looked for to the end of the text in vain.
    unclosed: usize,
}

/// So many are looked for; no sheet of people has more that are not closed.
const MOST_UNCLOSED: usize = 64;

/// Parentheses inside one another that are looked into; deeper ones are one word.
const DEEPEST: usize = 16;

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b'_') || byte >= 0x80
}

/// So many bytes may a selector count elements in.
const LONGEST: usize = 1_000;

/// So many digits has a colour.
const MOST_HEX: usize = 8;

/// So many digits has a letter's number.
const MOST_DIGITS: usize = 6;

/// What counts them has a shorter name.
const LONGEST_NAME: usize = 32;

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
        let mut masking = Masking { bytes: text.as_bytes().to_vec(), dialect, unclosed: 0 };
        let mut at = text.len() - text.trim_start_matches('\u{feff}').len();
        // Whether a statement has begun and not ended.
        let mut is_open = false;
        while at < masking.bytes.len() {
            at = match masking.bytes[at] {
                byte @ (b'{' | b'}' | b';') => {
                    if byte == b';' && !is_open {
                        masking.bytes[at] = BLANK;
                    }
                    is_open = false;
                    at + 1
                }
                byte if byte.is_ascii_whitespace() => at + 1,
                _ => match masking.comment(at) {
                    Some(end) => end,
                    None => {
                        is_open = true;
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
        if depth > 0 {
            // What is not closed is for the grammar to stumble over.
            return at;
        }
        // A comment behind it is none of its own.
        let head = start..solid;
        let end = self.byte(at);
        if end == b'}' && self.byte(start) == b'@' && self.byte(solid).is_ascii_whitespace() {
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

    /// Names of a line, of which the grammar reads one: `[ebb flood]`.
    fn names(&mut self, value: Range<usize>) {
        let inside = &self.bytes[value.start + 1..value.end];
        let length = inside.iter().take_while(|byte| is_word(**byte) || **byte == b' ').count();
        if inside.get(length) == Some(&b']') && inside[..length].trim_ascii().contains(&b' ') {
            self.bytes[value.start..value.start + length + 2].fill(LETTER);
        }
    }

    /// `#000\9`, `2px\0/`: a mark that only one old browser passes over is a part of what it stands behind.
    fn mark(&mut self, start: usize, at: usize) {
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
    fn empty_fallbacks(&mut self, value: Range<usize>) {
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
    fn empty_fallback(&mut self, comma: usize) {
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

    /// Whether nothing but a name stands in a range.
    fn is_name(&self, range: Range<usize>) -> bool {
        let name = self.bytes[range].trim_ascii_end();
        !name.is_empty() && name.iter().all(|byte| is_word(*byte))
    }

    /// `@include ebb($tide)`: a word and its prelude, which is one.
    fn at_rule(&mut self, head: Range<usize>) {
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
                self.ranges(prelude);
            }
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

    /// Features between signs, `(40em <= width < 60em)`, each with its parentheses.
    fn ranges(&mut self, prelude: Range<usize>) {
        let mut at = prelude.start;
        while at < prelude.end {
            let is_sign = matches!(self.bytes[at], b'<' | b'>' | b'=');
            let Some(open) = is_sign.then(|| self.around(prelude.start..at)).flatten() else {
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
            false => self.ranges(prelude),
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

    /// What stands before a block.
    fn selector(&mut self, head: Range<usize>) {
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
                b' ' if self.dialect == Dialect::Less && self.starts_with(at, b" when ") => {
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

    /// A declaration's value.
    fn value(&mut self, range: Range<usize>) {
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
