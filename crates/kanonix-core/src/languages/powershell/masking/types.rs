//! Names of types, of which the grammar reads the simple ones.

use super::is_word;
use crate::languages::masking::{FIGURE, LETTER};
use std::ops::Range;

/// Hides what the grammar does not read of them.
pub(super) fn hide(shown: &mut [u8]) {
    hide_types(shown);
    hide_listed_types(shown);
    hide_names_of_types(shown);
}

/// `, Tide.Gauges` in `[Tide.Gauges.Buoy, Tide.Gauges]`: where a type is from, and of which version.
pub(super) fn assembly(shown: &[u8], mark: usize) -> Option<Range<usize>> {
    let is_name = |byte: &u8| is_word(*byte) || *byte == b'.';
    let start = shown[..mark].iter().rposition(|byte| !is_name(byte))?;
    let before = start.checked_sub(1).map(|at| shown[at]);
    let is_type = shown[start] == b'['
        && before.is_none_or(|before| !is_word(before) && !b")]$".contains(&before))
        && shown[start + 1..mark].contains(&b'.')
        && shown[start + 1].is_ascii_alphabetic();
    if !is_type {
        return None;
    }
    let blanks = |at: usize| at + shown[at..].iter().take_while(|byte| **byte == b' ').count();
    let name = |at: usize| at + shown[at..].iter().take_while(|byte| is_name(byte)).count();
    let mut at = mark;
    while shown.get(at) == Some(&b',') {
        let own = blanks(at + 1);
        at = name(own);
        if at == own {
            return None;
        }
        let sign = blanks(at);
        if shown.get(sign) == Some(&b'=') {
            at = name(blanks(sign + 1));
        }
    }
    (shown.get(at) == Some(&b']')).then_some(mark..at)
}

/// What a function gives back, of which the grammar reads no more than one.
const GIVES: &[u8] = b"OutputType";

/// The types in `[OutputType([bool], [Tide.Gauge])]`, which are words.
fn hide_types(shown: &mut [u8]) {
    let blanks = |shown: &[u8], at: usize| {
        let rest = shown.get(at..).unwrap_or_default();
        at + rest.iter().take_while(|byte| byte.is_ascii_whitespace()).count()
    };
    let mut at = 0;
    while let Some(found) = memchr::memchr(b'[', &shown[at..]) {
        at = blanks(shown, at + found + 1);
        let own = shown.get(at..at + GIVES.len());
        if !own.is_some_and(|own| own.eq_ignore_ascii_case(GIVES)) {
            continue;
        }
        at = blanks(shown, at + GIVES.len());
        if shown.get(at) != Some(&b'(') {
            continue;
        }
        at = blanks(shown, at + 1);
        loop {
            let rest = &shown[at.min(shown.len())..];
            let is_type = |byte: &u8| is_word(*byte) || *byte == b'.';
            let name = rest.iter().skip(1).take_while(|byte| is_type(byte)).count();
            match rest.first() {
                Some(b'[') if rest.get(name + 1) == Some(&b']') => {
                    shown[at..at + name + 2].fill(LETTER);
                    at = blanks(shown, at + name + 2);
                }
                Some(b',') => at = blanks(shown, at + 1),
                _ => break,
            }
        }
    }
}

/// A type with a comma behind it, `@([string], $level)`, which the grammar takes for one that what follows is
/// turned into: a number stands there. The types that are caught (`catch [Ebb], [Flood]`) are read.
fn hide_listed_types(shown: &mut [u8]) {
    // The comma behind the last one that is in no list.
    let (mut at, mut unlisted) = (0, None);
    while let Some(found) = memchr::memchr(b'[', &shown[at..]) {
        let start = at + found;
        at = start + 1;
        let end = end_of_type(shown, start + 1, &mut Vec::new(), DEEPEST);
        let Some(end) = end.filter(|end| shown.get(*end) == Some(&b']')) else { continue };
        let behind = shown[end + 1..].trim_ascii_start();
        if behind.first() != Some(&b',') {
            continue;
        }
        let before = shown[..start].trim_ascii_end();
        let is_listed = match before.last() {
            Some(b'(' | b'=') => true,
            Some(b',') => unlisted != Some(before.len() - 1),
            _ => false,
        };
        match is_listed {
            true => shown[start..=end].fill(FIGURE),
            false => unlisted = Some(shown.len() - behind.len()),
        }
    }
}

/// So many types inside one another have a name that is looked into.
const DEEPEST: usize = 16;

/// What of the name of a type is no word to the grammar: how many it is made of (``List`1[Gauge]``), a type
/// that stands in another one (`[Quay+Gauge]`), brackets around what it is made of (`[Func[[Gauge]]]`).
fn hide_names_of_types(shown: &mut [u8]) {
    let mut at = 0;
    while let Some(found) = memchr::memchr(b'[', &shown[at..]) {
        let start = at + found;
        at = start + 1;
        if shown[..start].last().is_some_and(|before| is_word(*before) || b")]$".contains(before)) {
            continue;
        }
        let mut hidden = Vec::new();
        let end = end_of_type(shown, start + 1, &mut hidden, DEEPEST);
        if end.is_some_and(|end| shown.get(end) == Some(&b']')) {
            hidden.into_iter().for_each(|range: Range<usize>| shown[range].fill(LETTER));
        }
    }
}

/// Where the name of a type ends, and what of it is no word to the grammar.
fn end_of_type(
    shown: &[u8],
    start: usize,
    hidden: &mut Vec<Range<usize>>,
    deepest: usize,
) -> Option<usize> {
    let byte = |at: usize| shown.get(at).copied().unwrap_or(0);
    let blanks = |at: usize| at + shown[at..].iter().take_while(|byte| **byte == b' ').count();
    if deepest == 0 || !(byte(start).is_ascii_alphabetic() || byte(start) == b'_') {
        return None;
    }
    let mut at = start;
    loop {
        at += match byte(at) {
            b'.' => 1,
            own if is_word(own) => 1,
            b'+' if is_word(byte(at + 1)) => {
                hidden.push(at..at + 1);
                1
            }
            b'`' if byte(at + 1).is_ascii_digit() => {
                let digits = shown[at + 1..].iter().take_while(|byte| byte.is_ascii_digit());
                let length = 1 + digits.count();
                hidden.push(at..at + length);
                length
            }
            _ => break,
        };
    }
    while byte(at) == b'[' {
        at = blanks(at + 1);
        while byte(at) != b']' {
            at = match byte(at) {
                b',' => at + 1,
                b'[' => {
                    let end = end_of_type(shown, at + 1, hidden, deepest - 1)?;
                    if byte(end) != b']' {
                        return None;
                    }
                    hidden.extend([at..at + 1, end..end + 1]);
                    end + 1
                }
                _ => end_of_type(shown, at, hidden, deepest - 1)?,
            };
            at = blanks(at);
        }
        at += 1;
    }
    Some(at)
}
