//! Places in a text as the protocol counts them.

use kanonix_core::text::Edit;
use lsp_types::{Position, PositionEncodingKind, Range, TextEdit};
use std::ops;

/// In what a place on a line is counted.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Encoding {
    Utf8,
    Utf16,
    Utf32,
}

impl Encoding {
    /// The first one that both sides know; without a word from the client, the protocol's own.
    pub fn negotiated(offered: Option<&[PositionEncodingKind]>) -> Encoding {
        let known = offered.unwrap_or_default().iter().find_map(|kind| match kind.as_str() {
            "utf-8" => Some(Encoding::Utf8),
            "utf-16" => Some(Encoding::Utf16),
            "utf-32" => Some(Encoding::Utf32),
            _ => None,
        });
        known.unwrap_or(Encoding::Utf16)
    }

    pub fn as_str(self) -> &'static str {
        match self {
            Encoding::Utf8 => "utf-8",
            Encoding::Utf16 => "utf-16",
            Encoding::Utf32 => "utf-32",
        }
    }

    fn width(self, c: char) -> usize {
        match self {
            Encoding::Utf8 => c.len_utf8(),
            Encoding::Utf16 => c.len_utf16(),
            Encoding::Utf32 => 1,
        }
    }
}

/// A text with the places where its lines begin: after `\n`, `\r\n` and a lone `\r`.
pub(super) struct Places<'a> {
    text: &'a str,
    starts: Vec<usize>,
    encoding: Encoding,
}

impl<'a> Places<'a> {
    pub fn new(text: &'a str, encoding: Encoding) -> Places<'a> {
        let bytes = text.as_bytes();
        let mut starts = vec![0];
        for at in memchr::memchr2_iter(b'\n', b'\r', bytes) {
            if bytes[at] == b'\n' || bytes.get(at + 1) != Some(&b'\n') {
                starts.push(at + 1);
            }
        }
        Places { text, starts, encoding }
    }

    /// A line without its end.
    fn line(&self, line: usize) -> ops::Range<usize> {
        let start = self.starts[line];
        let end = self.starts.get(line + 1).copied().unwrap_or(self.text.len());
        start..start + self.text[start..end].trim_end_matches(['\r', '\n']).len()
    }

    /// The byte at a place. One beyond the line's end is the line's end; one beyond the text's end
    /// is the text's end.
    pub fn offset(&self, position: Position) -> usize {
        let line = position.line as usize;
        if line >= self.starts.len() {
            return self.text.len();
        }
        let range = self.line(line);
        let mut left = position.character as usize;
        for (at, c) in self.text[range.clone()].char_indices() {
            let width = self.encoding.width(c);
            if left < width {
                return range.start + at;
            }
            left -= width;
        }
        range.end
    }

    /// The bytes between two places, whichever of them comes first.
    pub fn bytes(&self, range: Range) -> ops::Range<usize> {
        let (one, other) = (self.offset(range.start), self.offset(range.end));
        one.min(other)..one.max(other)
    }

    pub fn position(&self, offset: usize) -> Position {
        let line = self.starts.partition_point(|start| *start <= offset) - 1;
        let before = &self.text[self.starts[line]..offset];
        let character: usize = match self.encoding {
            Encoding::Utf8 => before.len(),
            _ if before.is_ascii() => before.len(),
            encoding => before.chars().map(|c| encoding.width(c)).sum(),
        };
        Position { line: line as u32, character: character as u32 }
    }

    pub fn range(&self, bytes: ops::Range<usize>) -> Range {
        Range { start: self.position(bytes.start), end: self.position(bytes.end) }
    }

    pub fn edits(&self, edits: &[Edit]) -> Vec<TextEdit> {
        let edit = |edit: &Edit| TextEdit {
            range: self.range(edit.range.clone()),
            new_text: edit.text.clone(),
        };
        edits.iter().map(edit).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_encoding_counts_its_own_way_and_finds_back() {
        let text = "ebb\né𝄞x\r\nß\rend";
        let expected = [(Encoding::Utf8, 6), (Encoding::Utf16, 3), (Encoding::Utf32, 2)];
        for (encoding, character) in expected {
            let places = Places::new(text, encoding);
            let x = text.find('x').unwrap();
            assert_eq!(places.position(x), Position { line: 1, character });
            for (offset, _) in text.char_indices().filter(|(_, c)| !"\r\n".contains(*c)) {
                assert_eq!(places.offset(places.position(offset)), offset);
            }
            assert_eq!(places.position(text.find("end").unwrap()).line, 3);
        }
    }

    #[test]
    fn places_out_of_range_are_brought_back() {
        let places = Places::new("ebb\n𝄞\n", Encoding::Utf16);
        let at = |line, character| places.offset(Position { line, character });
        assert_eq!((at(0, 99), at(1, 1), at(9, 9)), (3, 4, 9));
        let end = Position { line: 0, character: 3 };
        let turned = Range { start: end, end: Position { line: 0, character: 1 } };
        assert_eq!(places.bytes(turned), 1..3);
    }
}
