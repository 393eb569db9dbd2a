//! A second reader, for languages in which lines and indentation are syntax.
//!
//! It knows logical lines, brackets, strings, comments and indentation, and nothing else. A parser
//! may be misled by a line inside brackets that stands further left than its block; where that may
//! be, it is given a text without those line breaks. And before anything is touched, parser and
//! reader have to agree about where every logical line stands. What brackets, strings and comments
//! look like is the language's to say ([`Lexis`]).

use super::comments::Comments;
use std::borrow::Cow;
use std::ops::Range;

/// A logical line: one statement or header, or several beside each other, with all the lines that
/// brackets and joins take along.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct LogicalLine {
    /// The first byte that is not blank.
    pub start: usize,
    /// How many blocks it is in.
    pub depth: u32,
}

/// What the second reader finds in a text.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct LogicalLines {
    /// In the order of the text.
    pub lines: Vec<LogicalLine>,
    /// Stretches that cannot be read, in bytes: a string or a bracket without an end, an
    /// indentation that no line around has.
    pub unread: Vec<Range<usize>>,
    /// Line breaks and comments inside brackets that could mislead a parser, ascending.
    masked: Vec<Range<usize>>,
    /// Those of them that are comments.
    pub hidden: Vec<Range<usize>>,
}

/// Whether a byte is part of a word, which neither opens nor ends anything.
fn is_in_word(byte: u8) -> bool {
    byte.is_ascii_alphanumeric() || byte == b'_'
}

/// What is open at a place of a logical line.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Open {
    /// A bracket, by its closing one.
    Bracket(u8),
    /// A string with expressions in it: its quote, and whether that stands three times.
    Text(u8, bool),
    /// An expression in such a string.
    Field,
    /// How the expression's value is written: behind a colon.
    Format,
}

/// What a language's brackets and strings look like, where indentation is syntax.
#[derive(Debug)]
pub struct Lexis {
    /// Pairs of brackets, inside of which a line's end means nothing.
    pub brackets: &'static [(u8, u8)],
    /// What a line ends with behind which a block has to follow.
    pub header: &'static str,
    /// What joins a line to the next one, at its end.
    pub join: Option<u8>,
    /// What a string begins and ends with.
    pub quotes: &'static [u8],
    /// Whether three of them begin a string over several lines.
    pub triple: bool,
    /// What takes the meaning of the next character away, in a string.
    pub escape: u8,
    /// Letters that may stand before a string's quote, and how many of them.
    pub prefixes: (&'static [u8], usize),
    /// Those among them that let a string hold expressions between braces.
    pub fields: &'static [u8],
    /// A tab leads to the next multiple of this column.
    pub tab: usize,
}

struct Reader<'a> {
    bytes: &'a [u8],
    lexis: &'a Lexis,
    comments: &'a Comments,
    at: usize,
    /// Of every open block: its column, and how many characters that are.
    indents: Vec<(usize, usize)>,
    /// Whether the logical line before ends with a colon, so that a block has to follow.
    is_header: bool,
    found: LogicalLines,
}

impl LogicalLines {
    /// Reads a text.
    pub fn read(text: &str, lexis: &Lexis, comments: &Comments) -> LogicalLines {
        let at = if text.starts_with('\u{feff}') { 3 } else { 0 };
        let bytes = text.as_bytes();
        let found = LogicalLines::default();
        let indents = vec![(0, 0)];
        let mut reader = Reader { bytes, lexis, comments, at, indents, is_header: false, found };
        while reader.at < bytes.len() {
            reader.line();
        }
        reader.found
    }

    /// The text as a parser should read it: of the same length, every place where it was.
    pub fn for_parser<'t>(&self, text: &'t str) -> Cow<'t, str> {
        let has_mark = text.starts_with('\u{feff}');
        if self.masked.is_empty() && !has_mark {
            return Cow::Borrowed(text);
        }
        let mut bytes = text.as_bytes().to_vec();
        if has_mark {
            // A byte-order mark is no indentation.
            bytes[..3].fill(b'\n');
        }
        for range in &self.masked {
            bytes[range.clone()].fill(b' ');
        }
        match String::from_utf8(bytes) {
            Ok(masked) => Cow::Owned(masked),
            // Whole comments and line breaks are masked, so this cannot be.
            Err(_) => Cow::Borrowed(text),
        }
    }

    /// Whether a parser may be misled.
    pub fn misleads(&self) -> bool {
        !self.masked.is_empty()
    }

    /// The bytes from the outermost logical line that holds an offset to the next outermost one.
    pub fn around(&self, offset: usize, end_of_text: usize) -> Range<usize> {
        let next = self.lines.partition_point(|line| line.start <= offset);
        let is_outer = |line: &&LogicalLine| line.depth == 0;
        let first = self.lines[..next].iter().rev().find(is_outer);
        let last = self.lines[next..].iter().find(is_outer);
        first.map_or(0, |line| line.start)..last.map_or(end_of_text, |line| line.start)
    }
}

impl Reader<'_> {
    fn peek(&self, ahead: usize) -> u8 {
        self.bytes.get(self.at + ahead).copied().unwrap_or(0)
    }

    /// Goes behind a line break, if there is one here.
    fn line_break(&mut self) -> bool {
        match self.peek(0) {
            b'\r' if self.peek(1) == b'\n' => self.at += 2,
            b'\r' | b'\n' if self.at < self.bytes.len() => self.at += 1,
            _ => return false,
        }
        true
    }

    /// Goes behind the blanks at the beginning of a line; gives the column, and another one by which
    /// tabs and blanks are told apart.
    fn blanks(&mut self) -> (usize, usize) {
        let (mut column, mut characters) = (0, 0);
        loop {
            match self.peek(0) {
                b' ' => column += 1,
                b'\t' => column = (column / self.lexis.tab + 1) * self.lexis.tab,
                0x0c => (column, characters) = (0, 0),
                _ => return (column, characters),
            }
            characters += 1;
            self.at += 1;
        }
    }

    /// Whether a comment begins here.
    fn is_comment(&self) -> bool {
        let rest = &self.bytes[self.at..];
        self.comments.line.iter().any(|mark| rest.starts_with(mark.as_bytes()))
    }

    /// Goes to the end of the line that a comment is on.
    fn comment(&mut self) {
        let rest = &self.bytes[self.at..];
        self.at += memchr::memchr2(b'\n', b'\r', rest).unwrap_or(rest.len());
    }

    /// Reads one line that may begin a logical one, and that with all of its lines.
    fn line(&mut self) {
        let (column, characters) = self.blanks();
        if self.is_comment() {
            self.comment();
            self.line_break();
            return;
        }
        if self.at == self.bytes.len() || self.line_break() {
            return;
        }
        let start = self.at;
        let last = self.indents.last().copied().unwrap_or_default();
        // Tabs and blanks may be mixed as long as no line's depth depends on how wide a tab is.
        let mut stands = (column > last.0) == self.is_header;
        if column == last.0 {
            stands &= characters == last.1;
        } else if column > last.0 {
            stands &= characters > last.1;
            self.indents.push((column, characters));
        } else {
            while self.indents.last().is_some_and(|indent| indent.0 > column) {
                self.indents.pop();
            }
            if self.indents.last() != Some(&(column, characters)) {
                stands = false;
                self.indents.push((column, characters));
            }
        }
        let depth = self.indents.len() as u32 - 1;
        self.found.lines.push(LogicalLine { start, depth });
        let read = self.code(column);
        if !read || !stands {
            let solid = self.bytes[start..self.at].trim_ascii_end();
            self.found.unread.push(start..start + solid.len());
        }
    }

    /// Reads up to the end of the logical line; whether all of it could be read.
    fn code(&mut self, indentation: usize) -> bool {
        let mut open: Vec<Open> = Vec::new();
        let mut good = true;
        let mut misled = false;
        let mut last = self.at;
        let (masks, hides) = (self.found.masked.len(), self.found.hidden.len());
        while self.at < self.bytes.len() {
            if let Some(Open::Text(quote, triple)) = open.last().copied() {
                good &= self.text(&mut open, quote, triple);
                continue;
            }
            if open.last() == Some(&Open::Format) {
                good &= self.format(&mut open);
                continue;
            }
            match self.peek(0) {
                byte if is_in_word(byte) => {
                    let rest = &self.bytes[self.at..];
                    self.at += rest.iter()
                        .position(|byte| !is_in_word(*byte))
                        .unwrap_or(rest.len());
                    last = self.at - 1;
                }
                b'\r' | b'\n' if open.is_empty() => {
                    self.line_break();
                    break;
                }
                b'\r' | b'\n' => {
                    let from = self.at;
                    self.line_break();
                    self.found.masked.push(from..self.at);
                    let (column, _) = self.blanks();
                    let is_blank = matches!(self.peek(0), b'\r' | b'\n' | 0);
                    misled |= column < indentation && !is_blank;
                }
                byte if Some(byte) == self.lexis.join => {
                    self.at += 1;
                    if !self.line_break() {
                        good = false;
                    }
                }
                _ if self.is_comment() => {
                    let from = self.at;
                    self.comment();
                    if !open.is_empty() {
                        self.found.masked.push(from..self.at);
                        self.found.hidden.push(from..self.at);
                    }
                }
                byte if self.closer_of(byte).is_some() => {
                    let closer = self.closer_of(byte).unwrap_or(byte);
                    self.opens_as(&mut open, Open::Bracket(closer));
                }
                byte if self.lexis.brackets.iter().any(|(_, closer)| *closer == byte) => {
                    last = self.at;
                    self.at += 1;
                    let field = byte == b'}' && open.last() == Some(&Open::Field);
                    if field || open.last() == Some(&Open::Bracket(byte)) {
                        open.pop();
                    } else {
                        good = false;
                    }
                }
                b':' if open.last() == Some(&Open::Field) => self.opens_as(&mut open, Open::Format),
                byte if self.lexis.quotes.contains(&byte) => {
                    last = self.at;
                    good &= self.string(&mut open);
                }
                b' ' | b'\t' | 0x0c => self.at += 1,
                _ => {
                    last = self.at;
                    self.at += 1;
                }
            }
        }
        let end = (last + 1).min(self.bytes.len());
        self.is_header = self.bytes[..end].ends_with(self.lexis.header.as_bytes());
        if !misled {
            self.found.masked.truncate(masks);
            self.found.hidden.truncate(hides);
        }
        // A join joins nothing to nothing.
        good && open.is_empty() && self.bytes.get(last).copied() != self.lexis.join
    }

    /// What closes a bracket, if this byte is one that opens.
    fn closer_of(&self, byte: u8) -> Option<u8> {
        let pair = self.lexis.brackets.iter().find(|(opener, _)| *opener == byte);
        pair.map(|(_, closer)| *closer)
    }

    fn opens_as(&mut self, open: &mut Vec<Open>, what: Open) {
        self.at += 1;
        open.push(what);
    }

    /// A string that begins with the quote here: to its end, or into one that holds expressions.
    fn string(&mut self, open: &mut Vec<Open>) -> bool {
        let quote = self.peek(0);
        let triple = self.lexis.triple && self.peek(1) == quote && self.peek(2) == quote;
        let before = &self.bytes[..self.at];
        let letters = before.iter().rev().take_while(|byte| byte.is_ascii_alphabetic()).count();
        let (rest, prefix) = before.split_at(before.len() - letters);
        let (known, most) = self.lexis.prefixes;
        let is_prefix = letters <= most
            && prefix.iter().all(|byte| known.contains(byte))
            && !rest.last().is_some_and(|byte| {
                byte.is_ascii_alphanumeric() || *byte == b'_' || !byte.is_ascii()
            });
        let holds_fields = is_prefix && prefix.iter().any(|byte| self.lexis.fields.contains(byte));
        self.at += if triple { 3 } else { 1 };
        if holds_fields {
            open.push(Open::Text(quote, triple));
            return true;
        }
        loop {
            let rest = &self.bytes[self.at..];
            let next = match triple {
                true => memchr::memchr2(quote, self.lexis.escape, rest),
                false => memchr::memchr3(quote, self.lexis.escape, b'\n', rest),
            };
            let Some(next) = next else {
                self.at = self.bytes.len();
                return false;
            };
            self.at += next;
            match self.peek(0) {
                byte if byte == self.lexis.escape => self.escape(),
                b'\n' => return false,
                _ if self.ends(quote, triple) => return true,
                _ => self.at += 1,
            }
        }
    }

    /// What escapes, and what it speaks of.
    fn escape(&mut self) {
        self.at += 1;
        if !self.line_break() {
            self.at = (self.at + 1).min(self.bytes.len());
        }
    }

    /// Goes behind the end of a string, if it is here.
    fn ends(&mut self, quote: u8, triple: bool) -> bool {
        let ends = !triple || (self.peek(1) == quote && self.peek(2) == quote);
        if ends {
            self.at += if triple { 3 } else { 1 };
        }
        ends
    }

    /// The text of a string that holds expressions, up to the next one or to its end.
    fn text(&mut self, open: &mut Vec<Open>, quote: u8, triple: bool) -> bool {
        match self.peek(0) {
            byte if byte == self.lexis.escape => self.escape(),
            b'{' | b'}' if self.peek(1) == self.peek(0) => self.at += 2,
            b'{' => self.opens_as(open, Open::Field),
            b'\n' if !triple => {
                open.clear();
                return false;
            }
            byte if byte == quote && self.ends(quote, triple) => {
                open.pop();
            }
            _ => self.at += 1,
        }
        true
    }

    /// How an expression's value is written, up to the end of the expression.
    fn format(&mut self, open: &mut Vec<Open>) -> bool {
        match self.peek(0) {
            b'{' => self.opens_as(open, Open::Field),
            b'}' => {
                self.at += 1;
                open.pop();
                open.pop();
            }
            byte if matches!(byte, b'\n' | b'\r') || self.lexis.quotes.contains(&byte) => {
                // The string ends here, or it has three quotes: what is around decides.
                let around = open.iter().rev().find_map(|open| match open {
                    Open::Text(quote, triple) => Some((*quote, *triple)),
                    _ => None,
                });
                match around {
                    Some((quote, triple)) if triple || quote != self.peek(0) => self.at += 1,
                    _ => {
                        open.clear();
                        self.at += 1;
                        return false;
                    }
                }
            }
            _ => self.at += 1,
        }
        true
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const LEXIS: Lexis = Lexis {
        brackets: &[(b'(', b')'), (b'[', b']'), (b'{', b'}')],
        header: ":",
        join: Some(b'\\'),
        quotes: b"\"'",
        triple: true,
        escape: b'\\',
        prefixes: (b"rf", 2),
        fields: b"f",
        tab: 8,
    };

    fn read(text: &str) -> LogicalLines {
        LogicalLines::read(text, &LEXIS, &Comments::HASH)
    }

    fn depths(text: &str) -> Vec<(&str, u32)> {
        let read = read(text);
        let word = |at: usize| text[at..].split_whitespace().next().unwrap_or_default();
        read.lines.iter().map(|line| (word(line.start), line.depth)).collect()
    }

    #[test]
    fn brackets_strings_and_joins_take_lines_along() {
        let text = "\
if ebb:
    call(a,
b)
    level = 1 + \\
  2
    text = '''
no line
'''
# a note
class Gauge:
\tf'{x[\"a\"]:>{w}} {{' # note
";
        let found = [("if", 0), ("call(a,", 1), ("level", 1), ("text", 1), ("class", 0)];
        assert_eq!(depths(text)[..5], found);
        assert_eq!(depths(text)[5].1, 1);
        assert!(read(text).unread.is_empty());
    }

    /// A language of the tides: blocks behind `does`, notes behind two marks, no join, one quote.
    #[test]
    fn what_opens_joins_and_comments_is_the_languages() {
        let tides = Lexis {
            brackets: &[(b'<', b'>')],
            header: "does",
            join: None,
            quotes: b"|",
            triple: false,
            escape: b'^',
            prefixes: (b"", 0),
            fields: b"",
            tab: 4,
        };
        let notes = Comments { line: &["--"], ..Comments::NONE };
        let text = "ebb does\n\tcall < -- a note\n1 > # |no ^| note|\n-- ( [\nflow ( \\\n";
        let read = LogicalLines::read(text, &tides, &notes);
        let depths: Vec<u32> = read.lines.iter().map(|line| line.depth).collect();
        assert_eq!((depths, read.unread.len()), (vec![0, 1, 0], 0));
        assert_eq!(&text[read.hidden[0].clone()], "-- a note");
    }

    #[test]
    fn what_could_mislead_is_masked_and_keeps_its_place() {
        let text = "def f():\n    g(a, # first\nb)\n    h(\n        c)\n";
        let found = read(text);
        let masked = found.for_parser(text);
        assert_eq!(masked, "def f():\n    g(a,         b)\n    h(\n        c)\n");
        assert_eq!(&text[found.hidden[0].clone()], "# first");
        assert!(!read("h(\nc)\n").misleads());
    }

    #[test]
    fn what_cannot_be_read_is_said() {
        for text in [
            "a = 'ebb\nb = 1\n",
            "a = (1\nb = 1\n",
            "if a:\n    b\n  c\n",
            "a = )\n",
            "a \\ b\n",
            "a\n  b\n",
            "if a:\nb\n",
            "if a:\n        b\n\tc\n",
        ] {
            assert_eq!(read(text).unread.len(), 1, "{text:?}");
        }
    }
}
