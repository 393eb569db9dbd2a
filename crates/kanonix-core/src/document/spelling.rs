//! A passage that is spelt otherwise in the text around it than it reads, as one in a string is.

use std::borrow::Cow;
use std::fmt;
use std::ops::Range;

/// How passages are spelt.
pub(crate) struct Spelling {
    /// What such a spelling is called.
    pub name: &'static str,
    /// How many bytes at the beginning of a spelt text belong together, and what they say; none where nobody
    /// can tell.
    pub read: fn(&str) -> Option<(usize, Cow<'_, str>)>,
    /// How a text is spelt.
    pub write: fn(&str) -> String,
}

impl PartialEq for Spelling {
    fn eq(&self, other: &Spelling) -> bool {
        self.name == other.name
    }
}

impl Eq for Spelling {}

impl fmt::Debug for Spelling {
    fn fmt(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str(self.name)
    }
}

/// A passage as it reads, and where what it says stands as it is spelt.
pub(super) struct Spelt {
    /// What it says.
    pub text: String,
    /// What is spelt otherwise, in ascending order.
    others: Vec<Other>,
}

/// A stretch that is spelt otherwise than it reads.
struct Other {
    read: Range<usize>,
    spelt: Range<usize>,
}

impl Spelt {
    /// Reads a passage; none where its spelling does not say anything.
    pub(super) fn read(bytes: &str, spelling: Option<&Spelling>) -> Option<Spelt> {
        let Some(spelling) = spelling else {
            return Some(Spelt { text: bytes.into(), others: Vec::new() });
        };
        let (mut text, mut others) = (String::with_capacity(bytes.len()), Vec::new());
        let mut at = 0;
        while at < bytes.len() {
            let (length, says) = (spelling.read)(&bytes[at..]).filter(|(length, _)| *length > 0)?;
            let spelt = at..at + length;
            let read = text.len()..text.len() + says.len();
            if bytes.get(spelt.clone())? != says {
                others.push(Other { read, spelt });
            }
            text.push_str(&says);
            at += length;
        }
        Some(Spelt { text, others })
    }

    /// The byte of the spelling at which a byte of what it says begins.
    pub(super) fn place(&self, byte: usize) -> usize {
        let next = self.others.partition_point(|other| other.read.start <= byte);
        match next.checked_sub(1).map(|before| &self.others[before]) {
            Some(other) if byte == other.read.start => other.spelt.start,
            Some(other) => other.spelt.end + byte.saturating_sub(other.read.end),
            None => byte,
        }
    }

    /// The bytes of the spelling that say these.
    pub(super) fn places(&self, bytes: &Range<usize>) -> Range<usize> {
        self.place(bytes.start)..self.place(bytes.end)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Two letters for a line's end, and three for a quote.
    const LETTERS: Spelling = Spelling {
        name: "letters",
        read: |text| match text.as_bytes() {
            [b'\\', b'n', ..] => Some((2, "\n".into())),
            [b'\\', b'q', b'q', ..] => Some((3, "\"".into())),
            [b'\\', ..] => None,
            _ => Some((1, text.get(..1)?.into())),
        },
        write: |text| text.replace('\n', "\\n").replace('"', "\\qq"),
    };

    #[test]
    fn every_byte_has_its_place() {
        let spelt = Spelt::read(r"a\n\qqb\n", Some(&LETTERS)).unwrap();
        assert_eq!(spelt.text, "a\n\"b\n");
        let places: Vec<usize> = (0..=spelt.text.len()).map(|byte| spelt.place(byte)).collect();
        assert_eq!(places, [0, 1, 3, 6, 7, 9]);
        assert_eq!(spelt.places(&(1..3)), 1..6);
        assert_eq!((LETTERS.write)(&spelt.text), r"a\n\qqb\n");
    }

    #[test]
    fn what_nobody_can_read_says_nothing() {
        assert!(Spelt::read(r"a\x", Some(&LETTERS)).is_none());
        assert_eq!(Spelt::read(r"a\x", None).unwrap().text, r"a\x");
    }
}
