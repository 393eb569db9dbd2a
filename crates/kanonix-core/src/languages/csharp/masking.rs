//! What the grammar misreads: some types with parameters, which it takes for comparisons (and casts), and a
//! name in parentheses before a sign, `(ebb) - flood`, which it takes for a cast. It is shown a name in place
//! of such a type, which stays as it is, and a number in place of such a name. A text's end it does not see
//! behind marks of its own that stand for one, `$@"{gauge}"""`: it is shown letters in their place.

use super::places;
use crate::languages::masking::{
    FIGURE,
    LETTER,
    hide,
    is_call,
    is_letter,
    opener,
    values_in_parentheses,
    word_before,
};
use std::ops::Range;

/// A type of people has no more characters than these.
const LONGEST: usize = 200;

/// A text in which such types are names, values that the grammar takes for types are numbers, and places that
/// it does not read are others.
pub(super) fn masked(text: &str) -> Option<String> {
    let types = memchr::memchr_iter(b'<', text.as_bytes()).filter_map(|at| parameters(text, at));
    let values = values_in_parentheses(text, b"+-*&", places::WORDS, places::is_type);
    let shown = hide(text, hide(text, None, types, LETTER), values, FIGURE);
    places::elsewhere(text, hide(text, shown, quotes_before_ends(text.as_bytes()), LETTER))
}

/// Doubled quotes between a value and the end of a text in which a backslash is one.
fn quotes_before_ends(bytes: &[u8]) -> Vec<Range<usize>> {
    let mut found = Vec::new();
    let mut from = 0;
    let next = |from: usize| memchr::memchr(b'"', bytes.get(from..)?).map(|at| from + at);
    while let Some(begin) = next(from) {
        from = begin + 1;
        if !bytes[..begin].ends_with(b"$@") && !bytes[..begin].ends_with(b"@$") {
            continue;
        }
        let (mut depth, mut value_end) = (0usize, None);
        while let Some(byte) = bytes.get(from) {
            let is_doubled = bytes.get(from + 1) == Some(byte);
            match byte {
                b'"' if depth == 0 && !is_doubled => break,
                b'"' if depth == 0 => from += 1,
                b'"' => from = inner_end(bytes, from),
                b'{' | b'}' if depth == 0 && is_doubled => from += 1,
                b'{' => depth += 1,
                b'}' => {
                    depth = depth.saturating_sub(1);
                    value_end = (depth == 0).then_some(from + 1);
                }
                _ if depth == 0 => value_end = None,
                _ => {}
            }
            from += 1;
        }
        if from < bytes.len() {
            found.extend(value_end.filter(|end| *end < from).map(|end| end..from));
        }
        from += 1;
    }
    found
}

/// The quote that ends a text inside a value, or the end of its line.
fn inner_end(bytes: &[u8], begin: usize) -> usize {
    let mut at = begin + 1;
    while bytes.get(at).is_some_and(|byte| !b"\"\n".contains(byte)) {
        at += if bytes[at] == b'\\' { 2 } else { 1 };
    }
    at
}

/// The parameters that begin at a place, with their brackets, if the grammar would misread their type.
fn parameters(text: &str, at: usize) -> Option<Range<usize>> {
    let before = text.as_bytes()[..at].trim_ascii_end();
    let part_of_name = |byte: &u8| is_letter(byte) || b".:".contains(byte);
    let name = before.iter().rev().take(LONGEST).take_while(|byte| part_of_name(byte)).count();
    let (lead, name) = before.split_at(before.len() - name);
    let is_misread = danger(lead.trim_ascii_end(), name)?;
    let end = closed(text, at)?;
    is_misread(&text[at..end], text[end..].trim_start()).then_some(at..end)
}

/// What tells by some parameters and what stands behind them whether the grammar misreads them.
type Danger = fn(&str, &str) -> bool;

/// In which danger a type is by its name and what stands before it: as that of each element,
/// `foreach (Gauge<Tide> gauge in …)`, where something is made of it or called with it, most of all behind a
/// cast, `(Level)new Gauge<Tide>(level)`, and where a value is compared with it, `is Quay.Gauge<Tide> gauge`.
fn danger(lead: &[u8], name: &[u8]) -> Option<Danger> {
    let word = word_before(lead);
    let bracket = lead.strip_suffix(b"(").map(|header| word_before(header.trim_ascii_end()));
    match word {
        _ if name.is_empty() => None,
        b"new" => {
            let is_cast = lead[..lead.len() - word.len()].trim_ascii_end().ends_with(b")");
            Some(if is_cast { is_called } else { is_made })
        }
        b"is" | b"case" if name.contains(&b'.') => Some(|types, behind| {
            behind.starts_with('[') || is_name(types, behind)
        }),
        b"is" | b"case" => Some(|_, behind| behind.starts_with('[')),
        _ if matches!(bracket, Some(b"foreach" | b"is")) => Some(is_name),
        _ if lead.ends_with(b")") => {
            let cast = opener(lead, lead.len() - 1)?;
            (!is_call(lead, cast, places::WORDS)).then_some(is_called)
        }
        _ => None,
    }
}

/// Whether a name stands behind.
fn is_name(_: &str, behind: &str) -> bool {
    behind.starts_with(is_part_of_name)
}

/// Whether parentheses with something in them stand behind.
fn is_called(_: &str, behind: &str) -> bool {
    let inside = behind.strip_prefix('(').map(str::trim_start);
    inside.is_some_and(|inside| !inside.starts_with(')'))
}

/// Whether parentheses with something in them stand behind, and either a type with parentheses is among the
/// parameters, or one name is in them, and a brace behind.
fn is_made(types: &str, behind: &str) -> bool {
    let Some(only) = behind.strip_prefix('(').map(str::trim_start) else { return false };
    let last = only.trim_start_matches(is_part_of_name);
    let closer = last.trim_start().strip_prefix(')').map(str::trim_start);
    let is_filled = closer.is_some_and(|behind| behind.starts_with('{'));
    (types.contains('(') && !only.starts_with(')')) || (last.len() < only.len() && is_filled)
}

/// Where the brackets that begin at a place have ended, if nothing but types is in them.
fn closed(text: &str, open: usize) -> Option<usize> {
    let mut depth = 0usize;
    let mut ends = |c: char| {
        match c {
            '<' => depth += 1,
            '>' => depth = depth.saturating_sub(1),
            _ => {}
        }
        depth == 0
    };
    let solid = text[open..].char_indices().filter(|(_, c)| !c.is_whitespace()).take(LONGEST);
    let mut inside = solid.take_while(|(_, c)| is_part_of_name(*c) || "<>?,[]()".contains(*c));
    inside.find(|(_, c)| ends(*c)).map(|(last, _)| open + last + 1)
}

fn is_part_of_name(c: char) -> bool {
    c.is_alphanumeric() || "_.@".contains(c)
}
