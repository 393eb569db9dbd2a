//! What the grammars stumble over, and the languages have: each is shown a text of the same length in which
//! that is letters of a name, or blanks. What stands there stays as it is.

use crate::languages::masking::{LETTER, hide, words};
use memchr::memmem;
use std::ops::Range;

/// A text in which `using` is a name wherever nothing is declared by it, and so is a word of the language that a
/// module gives something out as: `export { ebb as if }`.
pub(super) fn names(text: &str) -> Option<String> {
    let shown = hide(text, None, undeclaring(text).chain(given_out(text)), LETTER);
    hide(text, shown, ends_before_elements(text), b';')
}

/// The end of a line behind a block, before one that begins with the elements of another list (`[...gauges]`):
/// what is before it is no such list, which the grammar takes it for.
fn ends_before_elements(text: &str) -> impl Iterator<Item = Range<usize>> {
    memmem::find_iter(text.as_bytes(), "[...").filter_map(|at| {
        let line = text[..at].trim_end_matches([' ', '\t']);
        let before = line.strip_suffix('\n')?;
        before.trim_end().ends_with('}').then_some(line.len() - 1..line.len())
    })
}

/// Words of the language behind `as`, at the end of a name that is given out.
fn given_out(text: &str) -> impl Iterator<Item = Range<usize>> {
    words(text, "as").filter_map(|word| {
        let name = text[word.end..].trim_start();
        let length = name.bytes().take_while(u8::is_ascii_lowercase).count();
        let start = text.len() - name.len();
        let ends = name[length..].trim_start().starts_with([',', '}']);
        (ends && RESERVED.contains(&&name[..length])).then(|| start..start + length)
    })
}

/// Words that are no names, nor types.
const RESERVED: [&str; 21] = [
    "case", "catch", "class", "delete", "do", "else", "enum", "export", "finally", "for", "if",
    "import", "in", "new", "return", "super", "switch", "throw", "try", "while", "with",
];

/// As [`types`]; and a line that begins with the types of a signature is another one, whatever the line before
/// ends with: the grammar is shown a semicolon in place of the line's end. The types of a
/// template's tag are one name, and what a loop declares by `using` is declared by another word.
pub(super) fn signatures(text: &str) -> Option<String> {
    let begins = memmem::find_iter(text.as_bytes(), "<").filter(|at| {
        let line = text[..*at].trim_end_matches([' ', '\t']);
        line.ends_with('\n') && begins_signature(&text[*at..])
    });
    let ends = begins.filter_map(|at| member_end(&text[..at])).map(|end| end..end + 1);
    let ends = ends.chain(ends_before_elements(text));
    let masked = hide(text, types(text), ends, b';');
    let tagged = memmem::find_iter(text.as_bytes(), ">`").filter_map(|at| types_of_tag(text, at));
    let masked = hide(text, masked, tagged, LETTER);
    // What a loop declares by it, it declares as by a word of the same length.
    let in_loops = words(text, "using").filter(|word| {
        let before = text[..word.start].trim_end();
        let head = before.strip_suffix('(').map(str::trim_end);
        declares(&text[word.end..]) && head.is_some_and(|head| head.ends_with("for"))
    });
    let in_loops: Vec<Range<usize>> = in_loops.collect();
    if in_loops.is_empty() {
        return masked;
    }
    let mut bytes = masked.unwrap_or_else(|| text.to_string()).into_bytes();
    in_loops.into_iter().for_each(|word| bytes[word].copy_from_slice(b"const"));
    String::from_utf8(bytes).ok()
}

/// What stands between the brackets of the types that end here, before a template, if there are members among
/// it: `styled(Tide)<{ ebb: boolean }>`.
fn types_of_tag(text: &str, end: usize) -> Option<Range<usize>> {
    let bytes = text.as_bytes();
    let solid = (0..=end).rev().filter(|at| !bytes[*at].is_ascii_whitespace());
    let mut depth = 0usize;
    for at in solid.take(LONGEST) {
        match bytes[at] {
            b'>' if !bytes[..at].ends_with(b"=") => depth += 1,
            b'<' => depth -= 1,
            _ => {}
        }
        if depth == 0 {
            let tag = text[..at].ends_with(|c: char| c.is_alphanumeric() || "_$)".contains(c));
            return (tag && text[at..end].contains('{')).then_some(at + 1..end);
        }
    }
    None
}

/// Whether a text begins with types in their brackets that parameters follow.
fn begins_signature(text: &str) -> bool {
    let is_name = |c: char| c.is_alphabetic() || matches!(c, '_' | '$');
    if !text[1..].trim_start().starts_with(is_name) {
        return false;
    }
    let mut depth = 0usize;
    let mut before = b' ';
    let solid = text.bytes().enumerate().filter(|(_, byte)| !byte.is_ascii_whitespace());
    for (at, byte) in solid.take(LONGEST) {
        match byte {
            b'<' => depth += 1,
            b'>' if before != b'=' => depth -= 1,
            b';' => return false,
            // Two of them join conditions.
            b'&' | b'|' if byte == before => return false,
            _ => {}
        }
        if depth == 0 {
            return text[at + 1..].starts_with('(');
        }
        before = byte;
    }
    false
}

/// Where the line ends that a text ends with, comments on lines of their own aside: if it ends a member of a
/// type, and has nothing behind that.
fn member_end(text: &str) -> Option<usize> {
    let is_comment = |line: &str| ["//", "/*", "*"].iter().any(|mark| line.starts_with(mark));
    let mut end = text.len();
    loop {
        let before = text[..end].trim_end();
        let line = before.rsplit('\n').next()?;
        let own = line.trim_start();
        if is_comment(own) {
            end = before.len() - own.len();
            continue;
        }
        let is_end = |c: char| c.is_alphanumeric() || "_$)]}>'\"".contains(c);
        let ends = own.ends_with(is_end) && !own.contains("//") && !own.ends_with("=>");
        return Some(before.len() + text[before.len()..].find('\n')?).filter(|_| ends);
    }
}

/// As [`names`]; and the marks of a parameter's variance are part of its name (`in out Tide`), as what a
/// parameter is named like a type is (`(any) => void`), and a module that a type is taken from is a name:
/// `typeof import("./tide")`. A quote that is escaped in a template's type is a letter of it.
fn types(text: &str) -> Option<String> {
    let mut hidden = variances(text);
    let quotes = memmem::find_iter(text.as_bytes(), "\\`").filter(|at| {
        let before = text.as_bytes()[..*at].iter().rev().take_while(|byte| **byte == b'\\');
        before.count() % 2 == 0
    });
    hidden.extend(quotes.map(|at| at..at + 2));
    hidden.extend(TYPES.iter().flat_map(|name| {
        words(text, name).filter(|word| {
            let behind = text[word.end..].trim_start().strip_prefix(')').unwrap_or_default();
            text[..word.start].trim_end().ends_with('(') && behind.trim_start().starts_with("=>")
        })
    }));
    hidden.extend(words(text, "typeof").filter_map(|word| {
        let rest = &text[word.end..];
        let name = rest.strip_prefix(" import(").filter(|rest| rest.starts_with(['\'', '"']))?;
        let length = name.find([')', '\n']).filter(|end| name[*end..].starts_with(')'))?;
        Some(word.end + " ".len()..word.end + " import(".len() + length + 1)
    }));
    hidden.extend(undeclaring(text).chain(given_out(text)));
    // A member without an end before it: `in: "quay"`
    hidden.extend(words(text, "in").filter(|word| {
        let behind = text[word.end..].trim_start();
        text[..word.start].trim_end_matches([' ', '\t']).ends_with('\n')
            && behind.strip_prefix('?').unwrap_or(behind).trim_start().starts_with(':')
    }));
    let of_all = |word: &Range<usize>| {
        text[word.end..].trim_start().starts_with('*')
            && text[..word.start].trim_end().ends_with("export")
    };
    // The grammar reads no more than two of these before a field.
    let words_before = "abstract override readonly ";
    let fields = memmem::find_iter(text.as_bytes(), words_before);
    hidden.extend(fields.map(|at| at..at + words_before.len()));
    hide(text, hide(text, None, hidden, LETTER), words(text, TYPE).filter(of_all), b' ')
}

/// What the grammar does not read before a star: `export type * from "./tide"`.
pub(super) const TYPE: &str = "type";

/// Where `using` is a name.
fn undeclaring(text: &str) -> impl Iterator<Item = Range<usize>> {
    words(text, "using").filter(|word| !declares(&text[word.end..]))
}

/// Whether what follows a word is a name on its line, which it declares.
fn declares(rest: &str) -> bool {
    let name = rest.trim_start_matches([' ', '\t']);
    let is_name = name.starts_with(|c: char| c.is_alphabetic() || c == '_' || c == '$');
    let is_operator = ["in ", "instanceof "].iter().any(|word| name.starts_with(word));
    is_name && !is_operator && name.len() < rest.len()
}

/// Types that parameters are named like.
const TYPES: [&str; 5] = ["any", "boolean", "number", "object", "string"];

/// The marks of variance before the names of parameters, in the lists of what is declared: `interface Gauge<`.
fn variances(text: &str) -> Vec<Range<usize>> {
    let mut hidden = Vec::new();
    for declared in ["interface", "class", "type"] {
        let mut read = 0;
        for word in words(text, declared) {
            if word.start < read {
                continue;
            }
            let name = text[word.end..].trim_start();
            let list = name.trim_start_matches(|c: char| c.is_alphanumeric() || "_$".contains(c));
            if list.starts_with('<') {
                read = marks_in(text, text.len() - list.len(), &mut hidden);
            }
        }
    }
    hidden
}

/// Finds the marks in a list, and where that ends.
fn marks_in(text: &str, open: usize, hidden: &mut Vec<Range<usize>>) -> usize {
    let bytes = text.as_bytes();
    let (mut depth, mut at) = (0usize, open);
    while at < bytes.len().min(open + LONGEST_LIST) {
        match bytes[at] {
            b'<' | b'(' | b'[' | b'{' => depth += 1,
            b'>' if bytes[at - 1] == b'=' => {}
            b'>' | b')' | b']' | b'}' => depth -= 1,
            _ => {}
        }
        if depth == 0 {
            break;
        }
        if depth == 1 && matches!(bytes[at], b'<' | b',') {
            let own = behind_comments(&text[at + 1..]);
            let start = text.len() - own.len();
            let second = own.strip_prefix("in ").unwrap_or(own);
            let name = second.strip_prefix("out ").unwrap_or(second);
            let length = own.len() - name.len();
            let is_name = name.starts_with(|c: char| c.is_alphabetic() || "_$".contains(c));
            if length > 0 && is_name && !name.starts_with("extends ") {
                hidden.push(start..start + length);
            }
        }
        at += 1;
    }
    at
}

/// A text but for the blanks and comments that it begins with.
fn behind_comments(text: &str) -> &str {
    let mut rest = text.trim_start();
    loop {
        let end = match rest {
            _ if rest.starts_with("//") => rest.find('\n'),
            _ if rest.starts_with("/*") => rest.find("*/").map(|end| end + 2),
            _ => return rest,
        };
        let Some(end) = end else { return rest };
        rest = rest[end..].trim_start();
    }
}

/// No list of types before a template, or of a signature of people is longer, in bytes but for blanks.
const LONGEST: usize = 1_000;

/// No list of parameters of what is declared is.
const LONGEST_LIST: usize = 20_000;
