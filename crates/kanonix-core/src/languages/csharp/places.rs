//! Places in memory that the grammar does not read: what a pointer points to where that is more than a name
//! (`*(int*)p`, `*(p + 1)`), and a call that something is assigned to (`Next(ref a) = 1`). It is shown another
//! operator, or an element of a name, in their place.

use crate::languages::masking::{LETTER, LONGEST, hide, is_letter, opener, word_before};
use std::ops::Range;

/// Words that a value, or a statement, follows.
pub(super) const WORDS: &[&[u8]] = &[
    b"return", b"await", b"ref", b"else", b"do", b"case", b"in", b"when",
];

/// Words before brackets that a statement follows.
const HEADERS: [&[u8]; 9] = [
    b"if", b"while", b"for", b"foreach", b"switch", b"using", b"lock", b"fixed", b"catch",
];

/// So many marks stand before a name, and so many links behind it, at most. Bounds the work on hostile input.
const MOST: usize = 16;

/// What is shown in place of what.
#[derive(Default)]
struct Shown {
    letters: Vec<Range<usize>>,
    operators: Vec<Range<usize>>,
    openers: Vec<Range<usize>>,
    closers: Vec<Range<usize>>,
}

/// A text in which such places are others, and what is hidden already stays so.
pub(super) fn elsewhere(text: &str, before: Option<String>) -> Option<String> {
    let bytes = text.as_bytes();
    let mut shown = Shown::default();
    for at in memchr::memchr2_iter(b'*', b')', bytes) {
        match bytes[at] {
            b')' => shown.assigned_call(bytes, at),
            _ => shown.target(bytes, at),
        }
    }
    let letters = hide(text, before, shown.letters, LETTER);
    let operators = hide(text, letters, shown.operators, b'~');
    let openers = hide(text, operators, shown.openers, b'[');
    hide(text, openers, shown.closers, b']')
}

impl Shown {
    /// A call that ends with the bracket at a place.
    fn assigned_call(&mut self, bytes: &[u8], close: usize) {
        if !is_assigned(bytes, close + 1) {
            return;
        }
        let Some(open) = opener(bytes, close) else { return };
        let before = bytes[..open].trim_ascii_end();
        let types = parameters(before).unwrap_or(before.len());
        let word = word_before(&bytes[..types]);
        let is_called = !HEADERS.contains(&word) && !WORDS.contains(&word) && word != b"var";
        if word.is_empty() || !is_called {
            return;
        }
        if types < before.len() {
            self.letters.push(types..before.len());
        }
        self.element(bytes, open..close + 1);
    }

    /// What a star at a place says to be pointed to.
    fn target(&mut self, bytes: &[u8], star: usize) {
        if !is_prefix(bytes, star) {
            return;
        }
        let Some(target) = Target::behind(bytes, star) else { return };
        if !is_assigned(bytes, target.end) {
            if !target.is_plain {
                self.operators.push(star..star + 1);
            }
            return;
        }
        if target.is_plain && target.step.is_none() {
            return;
        }
        self.letters.push(star..target.start);
        self.letters.extend(target.step.clone());
        if bytes[target.start] == b'(' && target.is_group {
            self.element(bytes, target.start..target.end);
        }
    }

    /// Brackets behind a name, which has an element there.
    fn element(&mut self, bytes: &[u8], group: Range<usize>) {
        let inside = &bytes[group.start + 1..group.end - 1];
        if inside.trim_ascii().is_empty() {
            return self.letters.push(group);
        }
        self.openers.push(group.start..group.start + 1);
        self.closers.push(group.end - 1..group.end);
    }
}

/// What stands behind a star that is no product's.
struct Target {
    /// Where the name, or the bracket, begins behind all marks and types.
    start: usize,
    end: usize,
    /// Whether it is a name with its members and elements.
    is_plain: bool,
    /// Whether it is something in brackets, and nothing behind them.
    is_group: bool,
    /// The `++` at its end.
    step: Option<Range<usize>>,
}

impl Target {
    fn behind(bytes: &[u8], star: usize) -> Option<Target> {
        let (mut start, mut is_plain) = (star + 1, true);
        let mut group = None;
        for _ in 0..MOST {
            start = solid(bytes, start);
            match bytes.get(start)? {
                b'*' | b'&' => start += 1,
                b'+' | b'-' if is_step(bytes, start) => (start, is_plain) = (start + 2, false),
                b'-' | b'~' => start += 1,
                b'(' => {
                    let end = closer(bytes, start)?;
                    is_plain = false;
                    if !bytes[..end - 1].trim_ascii_end().ends_with(b"*") {
                        group = Some(end);
                        break;
                    }
                    start = end;
                }
                byte if is_letter(byte) => break,
                _ => return None,
            }
        }
        let mut end = group.unwrap_or_else(|| name_end(bytes, start));
        let mut step = None;
        for _ in 0..MOST {
            match bytes.get(end) {
                Some(b'(' | b'[') => end = closer(bytes, end)?,
                Some(b'.') => end = name_end(bytes, end + 1),
                Some(b'-') if bytes.get(end + 1) == Some(&b'>') => end = name_end(bytes, end + 2),
                Some(b'+' | b'-') if is_step(bytes, end) => {
                    step = Some(end..end + 2);
                    end += 2;
                    break;
                }
                _ => break,
            }
        }
        Some(Target { start, end, is_plain, is_group: group == Some(end), step })
    }
}

/// Whether a star at a place stands before a value rather than between two.
fn is_prefix(bytes: &[u8], star: usize) -> bool {
    let stars = bytes[..star].iter().rev().take(MOST).take_while(|byte| **byte == b'*').count();
    let first = star - stars;
    let before = bytes[..first].trim_ascii_end();
    match before.last() {
        // A comment's line, or its beginning.
        _ if stars == MOST => false,
        Some(b'/') => before.len() < first,
        None | Some(b'.' | b']' | b'"' | b'\'' | b'\\' | b'#') => false,
        Some(b')') => opener(bytes, before.len() - 1).is_some_and(|open| {
            let header = word_before(bytes[..open].trim_ascii_end());
            let is_cast = || is_type(&bytes[open + 1..before.len() - 1]);
            // `sizeof(int)` is no cast.
            HEADERS.contains(&header)
                || ((header.is_empty() || WORDS.contains(&header)) && is_cast())
        }),
        // `level++`, `level!`
        Some(b'+' | b'-' | b'!') if ends_value(before) => false,
        Some(byte) if is_letter(byte) => WORDS.contains(&word_before(before)),
        Some(_) => true,
    }
}

/// Whether a mark that stands behind a value ends a text.
fn ends_value(text: &[u8]) -> bool {
    let value = match text {
        [value @ .., b'+', b'+'] | [value @ .., b'-', b'-'] | [value @ .., b'!'] => value,
        _ => return false,
    };
    value.last().is_some_and(|byte| is_letter(byte) || b")]".contains(byte))
}

/// Whether what stands in brackets can only be a type: one that the language has, or a pointer.
pub(super) fn is_type(inside: &[u8]) -> bool {
    const TYPES: [&[u8]; 14] = [
        b"byte", b"sbyte", b"short", b"ushort", b"int", b"uint", b"long", b"ulong", b"float",
        b"double",
        b"char", b"bool", b"decimal", b"object",
    ];
    let inside = inside.trim_ascii();
    TYPES.contains(&inside) || inside.ends_with(b"*")
}

/// Whether something is assigned to what ends at a place.
fn is_assigned(bytes: &[u8], end: usize) -> bool {
    let behind = &bytes[solid(bytes, end)..];
    let sign = match behind {
        [b'+' | b'-' | b'*' | b'/' | b'%' | b'&' | b'|' | b'^', rest @ ..] => rest,
        [b'<', b'<', rest @ ..] | [b'>', b'>', rest @ ..] | [b'?', b'?', rest @ ..] => rest,
        rest => rest,
    };
    sign.first() == Some(&b'=') && !matches!(sign.get(1), Some(b'=' | b'>'))
}

/// Where the parameters of a type begin that a text ends with.
fn parameters(text: &[u8]) -> Option<usize> {
    let mut depth = 0usize;
    for (at, byte) in text.iter().enumerate().rev().take(LONGEST) {
        match byte {
            b'>' => depth += 1,
            b'<' => depth = depth.checked_sub(1)?,
            _ if depth == 0 => return None,
            byte if is_letter(byte) || b" .,?[]*".contains(byte) => {}
            _ => return None,
        }
        if depth == 0 {
            return Some(at);
        }
    }
    None
}

/// The end of what a bracket begins.
fn closer(bytes: &[u8], open: usize) -> Option<usize> {
    let mut depth = 0usize;
    for (at, byte) in bytes.iter().enumerate().skip(open).take(LONGEST) {
        match byte {
            b'(' | b'[' => depth += 1,
            b')' | b']' => depth = depth.checked_sub(1)?,
            b'"' | b'\'' | b';' | b'{' | b'}' => return None,
            _ => {}
        }
        if depth == 0 {
            return Some(at + 1);
        }
    }
    None
}

fn name_end(bytes: &[u8], start: usize) -> usize {
    start + bytes[start..].iter().take_while(|byte| is_letter(byte)).count()
}

/// Where something stands behind a place.
fn solid(bytes: &[u8], from: usize) -> usize {
    from + bytes[from..].iter().take_while(|byte| byte.is_ascii_whitespace()).count()
}

fn is_step(bytes: &[u8], at: usize) -> bool {
    bytes.get(at + 1) == Some(&bytes[at])
}
