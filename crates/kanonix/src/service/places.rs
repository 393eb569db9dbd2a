//! Where something is in a text, as persons and as programs count.

use kanonix_core::text::{Edit, Lines, become_of};
use percent_encoding::{AsciiSet, NON_ALPHANUMERIC, percent_encode};
use std::collections::HashSet;
use std::ops::Range;
use std::sync::Arc;

/// What is said of a stretch that does not parse.
pub(crate) const UNREAD: &str = "this does not parse and is left as it is";

/// A slip as a reader finds it.
#[derive(Clone, Debug)]
pub(crate) struct Place {
    /// One-based.
    pub line: u32,
    /// One-based, in characters.
    pub column: u32,
    /// How many characters are meant; 0 for a single place.
    pub length: u32,
    /// The setting that asks for something else, or `fault`.
    pub setting: &'static str,
    /// What is wanted. A large tree has many places that want the same.
    pub message: Arc<str>,
    /// The line as it stands; of a long one, the part around the place. Not for all places of a
    /// long list.
    pub source: Option<Box<str>>,
    /// The line as it should be, of the first place on it. Not for all places of a long list.
    pub wanted: Option<Box<str>>,
    /// How many characters of the line are left out before `source`.
    pub cut: u32,
    /// Where it begins and ends, as the editors' protocol counts: lines from 0, and on a line what
    /// comes before in UTF-16.
    pub start: (u32, u32),
    pub end: (u32, u32),
    /// What mends it: from where to where, and what stands there then. What mends one slip may mend
    /// others with it.
    pub fix: Option<Box<Fix>>,
}

/// What stays as it is in the path of an address.
const IN_PATHS: &AsciiSet =
    &NON_ALPHANUMERIC.remove(b'/').remove(b'-').remove(b'.').remove(b'_').remove(b'~');

/// A path, or what points at something in its file, as an address has it (RFC 3986).
pub(crate) fn in_address(path: &[u8]) -> String {
    percent_encode(path, IN_PATHS).to_string()
}

/// What stands between two places once they are mended.
#[derive(Clone, Debug)]
pub(crate) struct Fix {
    pub start: (u32, u32),
    pub end: (u32, u32),
    pub text: String,
}

/// Finds places as the editors' protocol counts them; those that come in order in one pass.
struct Counter<'a> {
    text: &'a str,
    lines: &'a Lines,
    /// The last place: offset, and what comes before on its line.
    last: (usize, u32),
}

impl Counter<'_> {
    fn place(&mut self, offset: usize) -> (u32, u32) {
        let offset = offset.min(self.text.len());
        let line = self.lines.line_of(offset);
        let start = self.lines.start(line);
        let (last, before) = self.last;
        let units = |stretch: &str| stretch.encode_utf16().count() as u32;
        let count = match last >= start && last <= offset {
            true => before + units(&self.text[last..offset]),
            false => units(&self.text[start..offset]),
        };
        self.last = (offset, count);
        (line as u32, count)
    }
}

/// Where each of some stretches begins and ends.
pub(crate) fn in_order(
    text: &str,
    lines: &Lines,
    stretches: &[Range<usize>],
) -> Vec<((u32, u32), (u32, u32))> {
    let counter = || Counter { text, lines, last: (0, 0) };
    let (mut starts, mut ends) = (counter(), counter());
    stretches.iter().map(|one| (starts.place(one.start), ends.place(one.end))).collect()
}

/// Which of the edits near a slip mend it: those inside what it names; of a gap, the one that ends
/// there, and of an operator's two gaps, also the one that begins behind it.
fn of_slip<'a>(text: &str, span: &Range<usize>, near: &[&'a Edit]) -> Vec<&'a Edit> {
    let chosen = |wanted: &dyn Fn(&Range<usize>) -> bool| -> Vec<&Edit> {
        near.iter().filter(|edit| wanted(&edit.range)).copied().collect()
    };
    let inside = chosen(&|range| range.start < span.end && range.end > span.start);
    if !inside.is_empty() {
        return inside;
    }
    let is_gap = |range: &Range<usize>| text[range.clone()].trim().is_empty();
    let before = chosen(&|range| {
        let behind = !span.is_empty() && range.start == span.end;
        is_gap(range) && (range.end == span.start || behind)
    });
    if !before.is_empty() {
        return before;
    }
    chosen(&|range| range.start == span.start)
}

/// Adds where the slips begin and end, and what mends them.
pub(crate) fn add_fixes(
    text: &str,
    lines: &Lines,
    spans: &[Range<usize>],
    edits: &[Edit],
    slips: &mut [Place],
) {
    let counter = || Counter { text, lines, last: (0, 0) };
    let (mut starts, mut ends) = (counter(), counter());
    let (mut fix_starts, mut fix_ends) = (counter(), counter());
    for (span, slip) in spans.iter().zip(slips) {
        slip.start = starts.place(span.start);
        slip.end = ends.place(span.end);
        let first = edits.partition_point(|edit| edit.range.end < span.start);
        let near = edits[first..].iter().take_while(|edit| edit.range.start <= span.end);
        let near = of_slip(text, span, &near.collect::<Vec<_>>());
        let (Some(one), Some(last)) = (near.first(), near.last()) else { continue };
        let (from, to) = (one.range.start, last.range.end);
        let (mut new, mut at) = (String::new(), from);
        for edit in near {
            new.push_str(&text[at..edit.range.start]);
            new.push_str(&edit.text);
            at = edit.range.end;
        }
        let (start, end) = (fix_starts.place(from), fix_ends.place(to));
        slip.fix = Some(Box::new(Fix { start, end, text: new }));
    }
}

/// A zero-based line as it is once its text is mended.
pub(crate) fn wanted(text: &str, lines: &Lines, edits: &[Edit], line: usize) -> Option<Box<str>> {
    let start = lines.start(line);
    let line = text[start..].lines().next()?;
    let blank = line.len() - line.trim_start().len();
    let solid = start + blank..start + line.trim_end().len().max(blank);
    (!solid.is_empty()).then(|| become_of(text, edits, solid).into_boxed_str())
}

/// Up to so many slips are shown with their lines; a longer list is for going through, not for
/// reading.
pub(crate) const WITH_SOURCE: usize = 40;

/// How much of a line around a place is kept for showing it, in characters.
const AROUND: usize = 120;

/// Finds lines and columns; places that come in the order of the text are found in one pass over
/// it.
pub(crate) struct Finder<'a> {
    text: &'a str,
    pub lines: Lines,
    /// The last place: offset, start of its line, one-based column.
    last: (usize, usize, usize),
    /// Whether the lines are kept for showing.
    with_source: bool,
    /// The messages so far, each kept once.
    said: HashSet<Arc<str>>,
}

impl Finder<'_> {
    pub fn new(text: &str, with_source: bool) -> Finder<'_> {
        let said = HashSet::new();
        Finder { text, lines: Lines::new(text), last: (0, 0, 1), with_source, said }
    }

    pub fn place(
        &mut self,
        offset: usize,
        length: usize,
        setting: &'static str,
        message: String,
    ) -> Place {
        let offset = offset.min(self.text.len());
        let line = self.lines.line_of(offset);
        let start = self.lines.start(line);
        let (last, last_start, last_column) = self.last;
        let column = if start == last_start && offset >= last {
            last_column + self.text[last..offset].chars().count()
        } else {
            self.text[start..offset].chars().count() + 1
        };
        self.last = (offset, start, column);
        let meant = self.text.get(offset..offset + length).unwrap_or_default();
        let length = meant.lines().next().unwrap_or_default().chars().take(AROUND).count();
        // A long line is cut on both sides of the place.
        let cut = column.saturating_sub(AROUND);
        let from = self.text[start..offset].char_indices().rev().nth(AROUND - 2);
        let from = if cut > 0 { start + from.map_or(0, |(at, _)| at) } else { start };
        let rest = self.text[from..].chars().take(2 * AROUND);
        let source = self.with_source.then(|| {
            let line: String = rest.take_while(|c| *c != '\n').collect();
            line.into_boxed_str()
        });
        let message = match self.said.get(message.as_str()) {
            Some(said) => said.clone(),
            None => {
                let message: Arc<str> = message.into();
                self.said.insert(message.clone());
                message
            }
        };
        let (line, column) = (line as u32 + 1, column as u32);
        let (length, cut) = (length as u32, cut as u32);
        Place {
            line,
            column,
            length,
            setting,
            message,
            source,
            wanted: None,
            cut,
            start: (line - 1, 0),
            end: (line - 1, 0),
            fix: None,
        }
    }
}
