//! Where strings, characters and comments end, which a line that begins with `#` may stand in.

/// So many strings inside one another are told apart.
const DEEPEST: usize = 16;

/// Where the string, the character or the comment ends that begins here, if one does.
pub(super) fn literal(text: &[u8], at: usize) -> Option<usize> {
    stretch(text, at, 0)
}

/// Whether such a stretch is a comment.
pub(super) fn is_comment(stretch: &[u8]) -> bool {
    stretch.starts_with(b"//") || stretch.starts_with(b"/*")
}

fn stretch(text: &[u8], at: usize, depth: usize) -> Option<usize> {
    let rest = &text[at..];
    match rest.first()? {
        b'/' if rest.starts_with(b"//") => {
            Some(memchr::memchr(b'\n', rest).map_or(text.len(), |end| at + end))
        }
        b'/' if rest.starts_with(b"/*") => {
            let end = memchr::memmem::find(&rest[2..], b"*/");
            Some(end.map_or(text.len(), |end| at + end + 4))
        }
        b'\'' => Some(on_line(text, at + 1, b'\'')),
        b'"' | b'@' | b'$' => string(text, at, depth),
        _ => None,
    }
}

/// What ends with this mark, or with its line.
fn on_line(text: &[u8], mut at: usize, mark: u8) -> usize {
    while let Some(byte) = text.get(at) {
        match byte {
            b'\\' => at += 1,
            b'\n' => return at,
            byte if *byte == mark => return at + 1,
            _ => {}
        }
        at += 1;
    }
    text.len()
}

/// A string of any kind, behind `@` and `$`.
fn string(text: &[u8], start: usize, depth: usize) -> Option<usize> {
    let prefix = text[start..].iter().take_while(|byte| matches!(byte, b'@' | b'$')).count();
    let quotes = &text[start + prefix..];
    let count = quotes.iter().take_while(|byte| **byte == b'"').count();
    let prefix = &text[start..start + prefix];
    let mut at = start + prefix.len() + 1;
    let verbatim = prefix.contains(&b'@');
    let holes = prefix.contains(&b'$');
    match count {
        0 => return None,
        // As many quotes end it.
        3.. if !verbatim => {
            let end = memchr::memmem::find(&quotes[count..], &quotes[..count]);
            return Some(end.map_or(text.len(), |end| text.len() - quotes.len() + end + 2 * count));
        }
        _ => {}
    }
    while let Some(byte) = text.get(at) {
        let doubled = text.get(at + 1) == Some(byte);
        match byte {
            b'"' if verbatim && doubled => at += 1,
            b'"' => return Some(at + 1),
            b'\\' if !verbatim => at += 1,
            b'\n' if !verbatim => return Some(at),
            b'{' if holes && doubled => at += 1,
            b'{' if holes && depth < DEEPEST => {
                at = hole(text, at + 1, verbatim, depth + 1);
                continue;
            }
            _ => {}
        }
        at += 1;
    }
    Some(text.len())
}

/// What stands in a string between braces; gives the place behind the closing one.
fn hole(text: &[u8], mut at: usize, verbatim: bool, depth: usize) -> usize {
    let mut open = 1;
    while let Some(byte) = text.get(at) {
        match byte {
            b'{' => open += 1,
            b'}' => open -= 1,
            b'\n' if !verbatim => return at,
            _ => {
                if let Some(end) = stretch(text, at, depth) {
                    at = end;
                    continue;
                }
            }
        }
        at += 1;
        if open == 0 {
            return at;
        }
    }
    text.len()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn strings_end_where_they_end() {
        let wholes = [
            "\"ebb \\\" flood\"",
            "@\"ebb \\\"",
            "@\"ebb \"\" \n#if flood\"",
            "$\"ebb {gauges[\"east\"]} {{\"",
            "$@\"ebb\n#if {gauges[\"east\"]}\"",
            "\"\"\"\n#if \"\" ebb\n\"\"\"",
            "$$\"\"\"\"ebb \"\"\" {{1}}\"\"\"\"",
            "'\\''",
            "// ebb \"",
            "/* ebb\n#if */",
            "\"\"",
        ];
        for whole in wholes {
            let text = format!("{whole}\n#if");
            assert_eq!(literal(text.as_bytes(), 0), Some(whole.len()), "{whole}");
        }
        assert_eq!(literal(b"@class", 0), None);
        assert_eq!(literal(b"\"never ends", 0), Some(11));
    }
}
