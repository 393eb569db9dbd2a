//! What the grammar stumbles over, and the language has: it is shown a script of the same length in which
//! that is a word, or a comment. What stands there stays as it is.

mod types;
mod words;

use crate::languages::masking::LETTER;
use std::ops::Range;

/// No word of people is longer.
const LONGEST: usize = 1_000;

/// A script as the grammar is shown it, where that is another one.
pub(super) fn masked(text: &str) -> Option<String> {
    let mut shown = text.as_bytes().to_vec();
    hide_imports(text, &mut shown);
    hide_attributes(text, &mut shown);
    hide_answers(&mut shown);
    words::hide(&mut shown);
    types::hide(&mut shown);
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

fn is_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_' || byte >= 0x80
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
