//! What the grammar stumbles over, and the language has: it is shown a script of the same length in which
//! that is a word, or a comment. What stands there stays as it is.

use crate::languages::masking::{FIGURE, LETTER};
use std::ops::Range;

/// No word of people is longer.
const LONGEST: usize = 1_000;

/// A script as the grammar is shown it, where that is another one.
pub(super) fn masked(text: &str) -> Option<String> {
    let mut shown = text.as_bytes().to_vec();
    hide_imports(text, &mut shown);
    hide_attributes(text, &mut shown);
    hide_answers(&mut shown);
    hide_words(&mut shown);
    hide_joined(&mut shown);
    hide_signs(&mut shown);
    hide_types(&mut shown);
    hide_listed_types(&mut shown);
    hide_names_of_types(&mut shown);
    hide_operators(&mut shown);
    hide_choices(&mut shown);
    hide_calls_of_bases(&mut shown);
    hide_labels(&mut shown);
    hide_scopes(&mut shown);
    hide_line_ends(&mut shown);
    hide_idle_joins(&mut shown);
    hide_units(&mut shown);
    String::from_utf8(shown).ok().filter(|shown| shown != text)
}

/// What brings names in stands before what a script asks for, which the grammar does not read: comments
/// stand there.
fn hide_imports(text: &str, shown: &mut [u8]) {
    let is_import = |line: &str| {
        let word = line.split([' ', '\t']).next().unwrap_or_default();
        word.eq_ignore_ascii_case("using")
    };
    let (mut at, mut found, mut in_comment) = (0, Vec::new(), false);
    for line in text.split_inclusive('\n') {
        let own = line.trim_start_matches('\u{feff}');
        let start = at + line.len() - own.len();
        at += line.len();
        in_comment |= own.trim_start().starts_with("<#");
        if in_comment {
            in_comment = !own.contains("#>");
        } else if is_import(own) {
            found.push(start);
        } else if !own.trim().is_empty() && !own.trim_start().starts_with('#') {
            let own = own.trim_start();
            let asks = own.starts_with('[')
                || own.get(..5).is_some_and(|word| word.eq_ignore_ascii_case("param"));
            found.iter().filter(|_| asks).for_each(|start| shown[*start] = b'#');
            return;
        }
    }
}

/// Attributes on lines of their own above a class, which the grammar does not read: comments stand there.
fn hide_attributes(text: &str, shown: &mut [u8]) {
    let begins_with = |line: &str, word: &str| {
        line.get(..word.len()).is_some_and(|own| own.eq_ignore_ascii_case(word))
            && !line[word.len()..].starts_with(|c: char| c.is_alphanumeric() || c == '_')
    };
    let (mut at, mut above) = (0, Vec::new());
    for line in text.split_inclusive('\n') {
        let own = line.trim();
        let start = at + line.len() - line.trim_start().len();
        at += line.len();
        if own.starts_with('[') && own.ends_with(")]") {
            above.push(start);
            continue;
        }
        if begins_with(own, "class") || begins_with(own, "enum") {
            above.iter().for_each(|start| shown[*start] = b'#');
        }
        above.clear();
    }
}

/// What a case of a `switch` is in double quotes, of which the grammar reads a word: `"low tide" { … }`.
fn hide_answers(shown: &mut [u8]) {
    let places: Vec<usize> = memchr::memchr_iter(b'"', shown).collect();
    let mut read = 0;
    for open in places {
        let line = shown[..open].iter().rposition(|byte| !b" \t".contains(byte));
        if open < read || line.is_some_and(|at| !b"\n{};".contains(&shown[at])) {
            continue;
        }
        let mut at = open + 1;
        while at < shown.len() && !b"\"\n".contains(&shown[at]) {
            at += if shown[at] == b'`' { 2 } else { 1 };
        }
        read = at;
        let is_case = shown.get(at) == Some(&b'"')
            && shown[at + 1..].trim_ascii_start().first() == Some(&b'{');
        if is_case {
            let ends = |byte: &&mut u8| byte.is_ascii_whitespace() || b"(){};&".contains(byte);
            shown[open..at].iter_mut().filter(ends).for_each(|byte| *byte = LETTER);
        }
    }
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

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
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

/// `, Tide.Gauges` in `[Tide.Gauges.Buoy, Tide.Gauges]`: where a type is from, and of which version.
fn assembly(shown: &[u8], mark: usize) -> Option<Range<usize>> {
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

/// Operators that the grammar does not know, which are shown as ones of the same length that it does.
fn hide_operators(shown: &mut [u8]) {
    let mut at = 0;
    while let Some(found) = memchr::memchr(b'-', &shown[at..]) {
        let start = at + found;
        at = start + 1;
        let length = shown[at..].iter().take_while(|byte| is_word(**byte)).count();
        let own = shown[at..at + length].to_ascii_lowercase();
        let known: &[u8] = match &own[..] {
            b"cin" | b"iin" => b"ceq",
            b"cnotin" | b"inotin" => b"cmatch",
            _ => continue,
        };
        if !shown[..start].last().is_some_and(|before| is_word(*before)) {
            shown[at..at + length].copy_from_slice(known);
        }
    }
}

/// `$low ?? $high` and `$ebb ? $low : $high`, which newer shells have: other operators between values are shown.
fn hide_choices(shown: &mut [u8]) {
    let is_apart = |shown: &[u8], mark: Range<usize>| {
        let before = mark.start.checked_sub(1).map(|before| shown[before]);
        before == Some(b' ') && shown.get(mark.end) == Some(&b' ')
    };
    let places: Vec<usize> = memchr::memchr_iter(b'?', shown).collect();
    for at in places {
        if is_apart(shown, at..at + 2) && shown[at + 1] == b'?' {
            shown[at..at + 2].copy_from_slice(b"-f");
        } else if is_apart(shown, at..at + 1)
            && shown[..at]
                .iter()
                .rfind(|byte| **byte != b' ')
                .is_some_and(|byte| !b"|\r\n".contains(byte))
            && let Some(colon) = other_answer(&shown[at + 1..])
        {
            shown[at] = b'+';
            shown[at + 1 + colon] = b'+';
        }
    }
}

/// Where the colon stands before the other answer of a question, on its line.
fn other_answer(behind: &[u8]) -> Option<usize> {
    let (mut depth, mut asked) = (0usize, 0usize);
    for (at, part) in behind.windows(3).enumerate().take(LONGEST) {
        match part {
            [_, b'\n', _] => return None,
            [_, b'(' | b'{' | b'[', _] => depth += 1,
            [_, b')' | b'}' | b']', _] => depth = depth.checked_sub(1)?,
            b" ? " if depth == 0 => asked += 1,
            b" : " if depth == 0 && asked == 0 => return Some(at + 1),
            b" : " if depth == 0 => asked -= 1,
            _ => {}
        }
    }
    None
}

/// `: base($level)` behind what makes an object, which the grammar does not read: a comment stands there, but not
/// in another one, which its end would end.
fn hide_calls_of_bases(shown: &mut [u8]) {
    let places: Vec<usize> = memchr::memmem::find_iter(shown, b"base(").collect();
    let (mut seen, mut in_comment) = (0, false);
    for word in places {
        for mark in shown[seen..word].windows(2) {
            in_comment = mark == b"<#" || (in_comment && mark != b"#>");
        }
        seen = word;
        if in_comment {
            continue;
        }
        let before = shown[..word].trim_ascii_end();
        let Some((b':', head)) = before.split_last() else { continue };
        let (start, open) = (head.len(), word + b"base".len());
        let most = (open + LONGEST).min(shown.len());
        if head.trim_ascii_end().ends_with(b")")
            && let Some(end) = end_of_arguments(&shown[..most], open)
        {
            shown[start..end].fill(LETTER);
            shown[start..start + 2].copy_from_slice(b"<#");
            shown[end - 2..end].copy_from_slice(b"#>");
        }
    }
}

/// Where the arguments end that begin at a byte, on its line.
fn end_of_arguments(shown: &[u8], open: usize) -> Option<usize> {
    let mut depth = 0usize;
    for (at, byte) in shown.iter().enumerate().skip(open) {
        match byte {
            b'(' => depth += 1,
            b')' if depth == 1 => return Some(at + 1),
            b')' => depth -= 1,
            b'\n' => return None,
            _ => {}
        }
    }
    None
}

/// The name of a loop that is left, which is shown with the colon that nobody has to write there.
fn hide_labels(shown: &mut [u8]) {
    for word in [&b"break "[..], b"continue "] {
        let places: Vec<usize> = memchr::memmem::find_iter(shown, word).collect();
        for place in places {
            let label = place + word.len();
            let is_alone = !shown[..place].last().is_some_and(|before| is_word(*before));
            let begins = shown.get(label).is_some_and(|own| own.is_ascii_alphabetic());
            let length = shown[label..].iter().take_while(|byte| is_word(**byte)).count();
            let behind = shown[label + length..].iter().find(|byte| !b" \t".contains(byte));
            let ends = behind.is_none_or(|behind| b"\r\n;}".contains(behind));
            if is_alone && begins && ends && length > 1 {
                shown[label] = b':';
            }
        }
    }
}

/// The end of a line before `else` and its like, with which the grammar ends a statement that is a value:
/// blanks stand there.
fn hide_line_ends(shown: &mut [u8]) {
    let places: Vec<usize> = memchr::memchr_iter(b'}', shown).collect();
    for brace in places {
        let behind = &shown[brace + 1..];
        let blanks = behind.iter().take_while(|byte| byte.is_ascii_whitespace()).count();
        let word = behind[blanks..].iter().take_while(|byte| is_word(**byte)).count();
        let word = &behind[blanks..blanks + word];
        let goes_on = GOES_ON.iter().any(|own| own.as_bytes().eq_ignore_ascii_case(word));
        // A comment ends with its line.
        let line = shown[brace.saturating_sub(LONGEST)..brace].rsplit(|byte| *byte == b'\n').next();
        if goes_on && !line.unwrap_or_default().contains(&b'#') {
            let gap = &mut shown[brace + 1..brace + 1 + blanks];
            gap.iter_mut().filter(|byte| b"\r\n".contains(byte)).for_each(|byte| *byte = b' ');
        }
    }
}

/// A back tick at the end of a line that nothing goes on behind, as the block or the paragraph ends there: a blank.
fn hide_idle_joins(shown: &mut [u8]) {
    let places: Vec<usize> = memchr::memchr_iter(b'`', shown).collect();
    for place in places {
        let line_end = |rest: &[u8]| match rest {
            [b'\r', b'\n', ..] => 2,
            [b'\n', ..] => 1,
            _ => 0,
        };
        let behind = &shown[place + 1..];
        let length = line_end(behind);
        let next = behind[length..].trim_ascii_start().first();
        let is_idle = line_end(&behind[length..]) > 0 || next == Some(&b'}');
        if length > 0 && is_idle && shown[..place].ends_with(b" ") {
            shown[place] = b' ';
        }
    }
}

/// What goes on with a statement behind a block.
const GOES_ON: &[&str] = &["else", "elseif", "catch", "finally"];

/// `$using:env:QUAY`: a name with two scopes before it, of which the grammar reads one.
fn hide_scopes(shown: &mut [u8]) {
    let places: Vec<usize> = memchr::memmem::find_iter(shown, b"$using:").collect();
    for place in places {
        let name = place + b"$using:".len();
        let length = shown[name..].iter().take_while(|byte| is_word(**byte)).count();
        let behind = &shown[name + length..];
        if length > 0 && behind.starts_with(b":") && behind.get(1).is_some_and(|own| is_word(*own))
        {
            shown[name + length] = LETTER;
        }
    }
}

/// `1MB`, which the grammar does not read everywhere: a number without its unit.
fn hide_units(shown: &mut [u8]) {
    let mut at = 1;
    while let Some(found) = shown.get(at..).and_then(|rest| memchr::memchr2(b'B', b'b', rest)) {
        let end = at + found;
        at = end + 1;
        let is_unit = end > 1
            && b"KMGTPkmgtp".contains(&shown[end - 1])
            && shown[end - 2].is_ascii_digit()
            && !shown.get(end + 1).is_some_and(|next| is_word(*next));
        if !is_unit {
            continue;
        }
        let digits = shown[..end - 1].iter().rev().take_while(|byte| byte.is_ascii_digit()).count();
        if !shown[..end - 1 - digits].last().is_some_and(|before| is_word(*before)) {
            shown[end - 1..=end].fill(b'0');
        }
    }
}
