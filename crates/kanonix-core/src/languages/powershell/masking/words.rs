//! Words of commands and names of members, of which the grammar reads less than there is.

use super::types::assembly;
use super::{LONGEST, is_word};
use crate::languages::masking::LETTER;
use std::ops::Range;

/// Hides what the grammar does not read of them.
pub(super) fn hide(shown: &mut [u8]) {
    hide_words(shown);
    hide_joined(shown);
    hide_signs(shown);
}

/// Words with a variable in a path (`$root\cmd`) or before other marks, commands with their module before
/// them, and names of types and members that are not written as names.
fn hide_words(shown: &mut [u8]) {
    let mut at = 0;
    let may_hide = |byte: &u8| matches!(byte, b'\\' | b'/' | b',' | b'.' | b'@' | b'*');
    while let Some(found) = shown[at..].iter().position(may_hide) {
        let mark = at + found;
        at = mark + 1;
        let hidden = match shown[mark] {
            b'/' if begins_command(shown, mark) => {
                shown[mark] = b'\\';
                None
            }
            b'\\' | b'/' => path(shown, mark),
            b',' => assembly(shown, mark),
            b'@' | b'*' => rest_of_word(shown, mark),
            _ => member(shown, mark),
        };
        if let Some(hidden) = hidden {
            at = hidden.end;
            shown[hidden].fill(LETTER);
        }
    }
}

/// Whether a byte ends a word, in an argument of a command.
fn ends_word(byte: u8) -> bool {
    let is_mark = matches!(
        byte,
        b'"' | b'&'..=b')' | b',' | b';' | b'<' | b'>' | b'[' | b']' | b'`' | b'{'..=b'}'
    );
    is_mark || byte.is_ascii_whitespace()
}

/// Whether a slash is the first of a command's path: `./quay`.
fn begins_command(shown: &[u8], mark: usize) -> bool {
    let start = shown[..mark].iter().rposition(|byte| *byte != b'.').map_or(0, |at| at + 1);
    let before = shown[..start].trim_ascii_end();
    let begins_line = shown[before.len()..start].contains(&b'\n') || before.is_empty();
    (1..=2).contains(&(mark - start))
        && (begins_line || before.ends_with(b"&") || before.ends_with(b"|"))
        && shown.get(mark + 1).is_some_and(|next| is_word(*next))
}

/// `@$quay`, or in a command's arguments `*`, behind a variable: `$user@$quay`, `$prefix*`.
fn rest_of_word(shown: &[u8], mark: usize) -> Option<Range<usize>> {
    let least = mark.saturating_sub(LONGEST);
    let name = shown[least..mark].iter().rev().take_while(|byte| is_word(**byte)).count();
    let is_behind = name > 0 && shown[..mark - name].ends_with(b"$");
    let goes_on = |byte: &u8| *byte == b'$' || is_word(*byte);
    let is_read = match shown[mark] {
        b'@' => !shown.get(mark + 1).is_some_and(goes_on),
        _ => !is_argument(shown, mark),
    };
    let most = (mark + LONGEST).min(shown.len());
    (is_behind && !is_read).then(|| mark..path_end(&shown[..most], mark))
}

/// `\cmd` or `/cmd` behind a variable, or `\cmd` behind the module of a command.
fn path(shown: &mut [u8], mark: usize) -> Option<Range<usize>> {
    let (least, most) = (mark.saturating_sub(LONGEST), (mark + LONGEST).min(shown.len()));
    let end = path_end(&shown[..most], mark);
    // Nothing is divided by a name; nor is anything behind the name of a command.
    let begins_name = |byte: &u8| byte.is_ascii_alphabetic() || *byte == b'*';
    let goes_on = |byte: &u8| *byte == b'$' || byte.is_ascii_digit();
    let next = shown.get(mark + 1);
    let is_path = shown[mark] == b'\\'
        || next.is_some_and(begins_name)
        || (next.is_some_and(goes_on) && is_argument(shown, mark));
    if !is_path {
        return None;
    }
    if shown[..mark].last() == Some(&b'}') {
        let start = least + shown[least..mark].iter().rposition(|byte| *byte == b'{')?;
        let is_name = |byte: &u8| is_word(*byte) || *byte == b':';
        if !shown[..start].ends_with(b"$") || !shown[start + 1..mark - 1].iter().all(is_name) {
            return None;
        }
        (shown[start], shown[mark - 1]) = (LETTER, LETTER);
        return Some(mark..end);
    }
    let start = shown[least..mark].iter().rposition(|byte| ends_word(*byte));
    let start = start.map_or(least, |at| least + at + 1);
    let before = &shown[start..mark];
    let is_module = || {
        let is_command = |byte: &u8| is_word(*byte) || *byte == b'-';
        let last = shown[..start].trim_ascii_end().last();
        shown[mark] == b'\\'
            && before.iter().all(|byte| is_word(*byte) || *byte == b'.')
            && shown[mark + 1..end].iter().all(is_command)
            && (shown[..start].ends_with(b"\n") || last.is_none_or(|last| b";|{(=".contains(last)))
    };
    let is_hidden = before.last().is_some_and(|last| is_word(*last))
        && (before[0] == b'$' || before.windows(2).any(|two| two == b":$") || is_module());
    is_hidden.then_some(mark..end)
}

/// Whether a place is in an argument of a command that its line begins with: `Copy-Item $quay/$gauge ebb`,
/// `& $copy $gauge*`.
fn is_argument(shown: &[u8], at: usize) -> bool {
    let least = at.saturating_sub(LONGEST);
    // `${quay}/32`
    let is_braced = shown[..at].ends_with(b"}");
    let braces = is_braced.then(|| shown[least..at].iter().rposition(|byte| *byte == b'{'));
    let at = braces.flatten().map_or(at, |brace| least + brace);
    let start = shown[least..at].iter().rposition(|byte| b"\n(){};=|\"'".contains(byte));
    let line = shown[start.map_or(least, |start| least + start + 1)..at].trim_ascii_start();
    if line.starts_with(b"& ") {
        return true;
    }
    let command = line.split(|byte| *byte == b' ').next().unwrap_or_default();
    let mut words = command.split(|byte| *byte == b'-');
    let is_word = |word: &[u8]| !word.is_empty() && word.iter().all(u8::is_ascii_alphabetic);
    // A line may go on with a parameter; operators have small letters.
    let leads = |word: &[u8]| is_word(word) || word.is_empty() && command[1].is_ascii_uppercase();
    command.len() > 1
        && words.next().is_some_and(leads)
        && words.next().is_some_and(is_word)
        && words.next().is_none()
}

/// Where a path ends that goes on at a mark; what it asks for (`\$(Get-Name $_)`) is a part of it.
fn path_end(shown: &[u8], mark: usize) -> usize {
    let mut at = mark;
    while let Some(length) = shown[at..].iter().position(|byte| ends_word(*byte)) {
        at += length;
        if !shown[mark..at].ends_with(b"$") || shown[at] != b'(' {
            return at;
        }
        let Some(end) = pair_end(shown, at, b"()") else { return at };
        at = end;
    }
    shown.len()
}

/// `"#text"` behind a point, or a word of the language; a block on the line of what it is given to
/// (`.Where{ $_ -gt 2 }`). Another quote behind a point may end a text.
fn member(shown: &[u8], mark: usize) -> Option<Range<usize>> {
    let before = *shown[..mark].last()?;
    if !is_word(before) && !b")]".contains(&before) {
        return None;
    }
    let rest = &shown[mark + 1..];
    let length = rest.iter().take_while(|byte| is_word(**byte)).count();
    let takes_block = rest.get(length) == Some(&b'{');
    if takes_block && length > 0 && !rest[..length].eq_ignore_ascii_case(b"foreach") {
        let open = mark + 1 + length;
        return pair_end(shown, open, b"{}").map(|end| open..end);
    }
    // `.foreach{ … }` is read.
    if !takes_block
        && WORDS.iter().any(|word| word.as_bytes().eq_ignore_ascii_case(&rest[..length]))
    {
        return Some(mark + 1..mark + 1 + length);
    }
    let quote = *rest.first().filter(|byte| matches!(byte, b'"' | b'\''))?;
    let inside = &rest[1..];
    let length = inside.iter().position(|byte| *byte == quote || b"\n$`".contains(byte))?;
    let is_member = inside.starts_with(b"#") && inside[length] == quote;
    is_member.then_some(mark + 1..mark + length + 3)
}

/// Words of a command's arguments that begin as an operator does, `->` and, in a list, `--quay`.
fn hide_signs(shown: &mut [u8]) {
    let places: Vec<usize> = memchr::memchr_iter(b'-', shown).collect();
    for place in places {
        let behind = &shown[place + 1..];
        let is_arrow = behind.starts_with(b"> ")
            && shown[..place].ends_with(b" ")
            && is_argument(shown, place);
        let is_listed = behind.starts_with(b"-")
            && behind.get(1).is_some_and(u8::is_ascii_alphabetic)
            && shown[..place].trim_ascii_end().ends_with(b",");
        if is_arrow || is_listed {
            shown[place..place + 2].fill(LETTER);
        }
    }
}

/// Texts and what is asked for, put together to one word of a command's arguments, of which the grammar reads the
/// first: `Write-Host "Loading "$gauge".tar"`.
fn hide_joined(shown: &mut [u8]) {
    let places: Vec<usize> = memchr::memchr2_iter(b'"', b'\'', shown).collect();
    let mut read = 0;
    for place in places {
        let next = shown.get(place + 1).copied().unwrap_or(b' ');
        let is_behind_name = place > 0 && is_word(shown[place - 1]) && !ends_word(next);
        if place < read || !(next == b'$' || is_behind_name) {
            continue;
        }
        let least = place.saturating_sub(LONGEST);
        let start = shown[least..place].iter().rposition(|byte| *byte == b'\n');
        let start = start.map_or(least, |at| least + at + 1);
        let most = (place + LONGEST).min(shown.len());
        read = memchr::memchr(b'\n', &shown[place..most]).map_or(most, |length| place + length);
        let mut at = start;
        while at < read {
            let (end, pieces) = joined(&shown[..read], at);
            let word = at..end;
            // A text that does not end on its line.
            if pieces == 0 && b"\"'".contains(&shown[at]) {
                break;
            }
            if pieces > 1 && shown[word.clone()].contains(&b'$') && is_argument(shown, at) {
                shown[word].fill(LETTER);
            }
            at = end + 1;
        }
    }
}

/// Where what is put together at a place ends, and of how many texts and values it is: one, where there is more.
fn joined(line: &[u8], start: usize) -> (usize, usize) {
    let (mut at, mut pieces) = (start, 0);
    while let Some(byte) = line.get(at) {
        let end = match byte {
            b'"' | b'\'' => text_end(line, at),
            b'$' if line.get(at + 1) == Some(&b'(') => pair_end(line, at + 1, b"()"),
            b'$' => {
                let length = line[at + 1..]
                    .iter()
                    .take_while(|byte| is_word(**byte) || **byte == b':');
                Some(at + 1 + length.count())
            }
            _ => None,
        };
        match end {
            Some(end) => (at, pieces) = (end, pieces + 1),
            None if pieces == 0 => return (at, 0),
            None => return (at, if ends_word(*byte) { pieces } else { 1 }),
        }
    }
    (at, pieces)
}

/// Where a text ends that begins at a quote, on its line.
fn text_end(line: &[u8], open: usize) -> Option<usize> {
    let quote = line[open];
    let mut at = open + 1;
    loop {
        at = match line.get(at)? {
            b'`' if quote == b'"' => at + 2,
            b'$' if quote == b'"' && line.get(at + 1) == Some(&b'(') => {
                pair_end(line, at + 1, b"()")?
            }
            byte if *byte == quote && line.get(at + 1) == Some(&quote) => at + 2,
            byte if *byte == quote => return Some(at + 1),
            _ => at + 1,
        };
    }
}

/// Where brackets end on the line that they open on.
fn pair_end(shown: &[u8], open: usize, brackets: &[u8; 2]) -> Option<usize> {
    let mut depth = 0usize;
    let closes = |byte: &u8| {
        depth += usize::from(*byte == brackets[0]);
        depth -= usize::from(*byte == brackets[1]);
        depth == 0 || *byte == b'\n'
    };
    let end = open + shown[open..].iter().take(LONGEST).position(closes)? + 1;
    let inside = &shown[open..end];
    // A quote in it that is not closed may end a text around it.
    let is_whole = |quote: u8| inside.iter().filter(|byte| **byte == quote).count() % 2 == 0;
    let is_closed = inside.last() == Some(&brackets[1]);
    (is_closed && is_whole(b'\'') && is_whole(b'"')).then_some(end)
}

/// Words of the language that members are named after.
const WORDS: &[&str] = &[
    "begin", "break", "catch", "class", "continue", "data", "do", "else", "elseif", "end", "enum",
    "exit", "filter", "finally", "for", "foreach", "function", "if", "in", "param", "process",
    "return", "switch", "throw", "trap", "try", "until", "using", "while",
];
