/// How a line ends.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LineEnd {
    /// Line feed.
    Lf,
    /// Carriage return and line feed.
    CrLf,
}

impl LineEnd {
    /// The characters themselves.
    pub fn as_str(self) -> &'static str {
        match self {
            LineEnd::Lf => "\n",
            LineEnd::CrLf => "\r\n",
        }
    }
}

/// Where the lines of a text begin. A line ends after its line feed.
pub struct Lines {
    starts: Vec<u32>,
    returns: usize,
}

impl Lines {
    /// Reads the text once.
    pub fn new(text: &str) -> Lines {
        let mut starts = Vec::with_capacity(text.len() / 24 + 1);
        starts.push(0);
        let bytes = text.as_bytes();
        let mut returns = 0;
        for at in memchr::memchr_iter(b'\n', bytes) {
            starts.push(at as u32 + 1);
            returns += usize::from(at > 0 && bytes[at - 1] == b'\r');
        }
        Lines { starts, returns }
    }

    /// The line that holds this byte; an offset at the text's end belongs to the last line.
    pub fn line_of(&self, offset: usize) -> usize {
        self.starts.partition_point(|start| *start as usize <= offset) - 1
    }

    /// The first byte of a line; past the last line, the last line's.
    pub fn start(&self, line: usize) -> usize {
        self.starts[line.min(self.starts.len() - 1)] as usize
    }

    /// How many lines there are; the empty rest after a final line break counts.
    pub fn count(&self) -> usize {
        self.starts.len()
    }

    /// The line end that most lines have. A text without line breaks ends its lines with `Lf`.
    pub fn line_end(&self) -> LineEnd {
        if self.returns * 2 > self.starts.len() - 1 { LineEnd::CrLf } else { LineEnd::Lf }
    }

    /// Whether some lines end in one way and some in the other.
    pub fn is_mixed(&self) -> bool {
        self.returns > 0 && self.returns < self.starts.len() - 1
    }

    /// One-based line and column (in characters) of an offset, for people.
    pub fn place(&self, text: &str, offset: usize) -> (usize, usize) {
        let line = self.line_of(offset);
        (line + 1, text[self.start(line)..offset].chars().count() + 1)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn offsets_and_lines_agree() {
        let text = "ebb\nflood\r\nslack";
        let lines = Lines::new(text);
        assert_eq!(lines.count(), 3);
        assert_eq!((lines.line_of(3), lines.line_of(4), lines.line_of(text.len())), (0, 1, 2));
        assert_eq!(lines.place(text, 6), (2, 3));
        assert_eq!(lines.line_end(), LineEnd::Lf);
        assert_eq!(Lines::new("a\r\nb\r\n").line_end(), LineEnd::CrLf);
    }
}
