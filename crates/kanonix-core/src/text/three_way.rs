//! A change of one text, carried into another text that was made from the same one.

use imara_diff::{Algorithm, Diff, InternedInput};
use std::ops::Range;

/// A text with a change carried into it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Carried {
    /// The text, with all of the change that found its place.
    pub text: Vec<u8>,
    /// The lines of `into`, counted from zero, that were in the way and stay as they are.
    pub in_the_way: Vec<Range<usize>>,
}

/// Lines of a text that replace lines of the base.
struct Hunk {
    base: Range<usize>,
    text: Range<usize>,
}

/// Carries what `changed` changes of `base` into `into`, which was made from `base` too. Where both
/// change the same lines, `into` keeps its own; where both change them alike, there is nothing to
/// carry. Works on bytes between line feeds, so that any encoding comes through.
///
/// ```
/// use kanonix_core::text::carry;
/// let carried = carry(b"a=1\nb=2\n", b"a = 1\nb = 2\n", b"a=1\nb=3\nc\n");
/// assert_eq!(carried.text, b"a = 1\nb=3\nc\n");
/// assert_eq!(carried.in_the_way, [1..3]);
/// ```
pub fn carry(base: &[u8], changed: &[u8], into: &[u8]) -> Carried {
    let (news, owns) = (lines(changed), lines(into));
    let (changes, mut own) = (hunks(base, changed), hunks(base, into).into_iter().peekable());
    let mut carried = Carried { text: Vec::with_capacity(into.len()), in_the_way: Vec::new() };
    // How far `into` is written, and how much later its lines are than the base's.
    let mut written = 0;
    let mut later: isize = 0;
    for change in changes {
        while let Some(hunk) = own.next_if(|hunk| is_before(&hunk.base, &change.base)) {
            later = hunk.text.end as isize - hunk.base.end as isize;
        }
        if let Some(hunk) = own.peek().filter(|hunk| !is_before(&change.base, &hunk.base)) {
            let alike = hunk.base == change.base
                && owns[hunk.text.clone()] == news[change.text.clone()];
            if !alike {
                carried.in_the_way.push(hunk.text.clone());
            }
            continue;
        }
        let place = |line: usize| (line as isize + later) as usize;
        let (from, to) = (place(change.base.start), place(change.base.end));
        owns[written..from].iter().for_each(|line| carried.text.extend_from_slice(line));
        news[change.text].iter().for_each(|line| carried.text.extend_from_slice(line));
        written = to;
    }
    owns[written..].iter().for_each(|line| carried.text.extend_from_slice(line));
    carried.in_the_way.dedup();
    carried
}

/// Whether a hunk lies before another, touching it at most.
fn is_before(one: &Range<usize>, other: &Range<usize>) -> bool {
    one.end < other.start
        || (one.end == other.start && !(one.is_empty() && other.is_empty()))
}

fn lines(text: &[u8]) -> Vec<&[u8]> {
    text.split_inclusive(|byte| *byte == b'\n').collect()
}

fn hunks(base: &[u8], text: &[u8]) -> Vec<Hunk> {
    let mut input: InternedInput<&[u8]> = InternedInput::default();
    input.update_before(lines(base).into_iter());
    input.update_after(lines(text).into_iter());
    let diff = Diff::compute(Algorithm::Histogram, &input);
    let mut hunks = Vec::new();
    for hunk in diff.hunks() {
        let base = hunk.before.start as usize..hunk.before.end as usize;
        let text = hunk.after.start as usize..hunk.after.end as usize;
        if base.len() == text.len() {
            // Line for line: what is in the way of one is not in the way of the next.
            hunks.extend(base.zip(text).map(|(base, text)| Hunk {
                base: base..base + 1,
                text: text..text + 1,
            }));
        } else {
            hunks.push(Hunk { base, text });
        }
    }
    hunks
}

#[cfg(test)]
mod tests {
    use super::*;

    fn carried(base: &str, changed: &str, into: &str) -> (String, Vec<Range<usize>>) {
        let carried = carry(base.as_bytes(), changed.as_bytes(), into.as_bytes());
        (String::from_utf8(carried.text).unwrap(), carried.in_the_way)
    }

    #[test]
    fn a_change_finds_its_place_among_other_changes() {
        let (text, way) = carried("a=1\nb\nc=2\n", "a = 1\nb\nc = 2\n", "x\na=1\ny\nc=2\nz\n");
        assert_eq!((text.as_str(), way.len()), ("x\na = 1\ny\nc = 2\nz\n", 0));
    }

    #[test]
    fn lines_that_are_gone_stay_gone() {
        let (text, way) = carried("a=1\nb=2\nc=3\n", "a = 1\nb = 2\nc = 3\n", "c=3\n");
        assert_eq!(text, "c = 3\n");
        assert_eq!(way, [0..0]);
    }

    #[test]
    fn the_same_change_twice_is_no_conflict() {
        let (text, way) = carried("a=1\n", "a = 1\n", "a = 1\n");
        assert_eq!((text.as_str(), way.len()), ("a = 1\n", 0));
    }

    #[test]
    fn two_insertions_at_one_place_are_one_too_many() {
        let (text, way) = carried("a\nb\n", "a\n\nb\n", "a\nx\nb\n");
        assert_eq!((text.as_str(), way), ("a\nx\nb\n", vec![1..2]));
    }

    #[test]
    fn a_text_without_changes_of_its_own_becomes_the_changed_one() {
        let (text, _) = carried("a\nb", "a\nb\n", "a\nb");
        assert_eq!(text, "a\nb\n");
    }
}
