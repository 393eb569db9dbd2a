//! What has to be done to one text so that it becomes another one: small edits, so that whatever
//! stands between them (a cursor, a mark, a fold) stays where it is.

use super::{Edit, common};
use imara_diff::{Algorithm, Diff, InternedInput, sources};
use std::ops::Range;

/// The ordered edits that make `new` of `old`.
///
/// ```
/// use kanonix_core::text::{apply, differences};
/// let edits = differences("ebb\na=1+2\n", "ebb\na = 1 + 2\n");
/// assert_eq!(edits.len(), 4);
/// assert_eq!(apply("ebb\na=1+2\n", &edits), "ebb\na = 1 + 2\n");
/// ```
pub fn differences(old: &str, new: &str) -> Vec<Edit> {
    let (start, old_end, new_end) = middle(old, new);
    // Whole lines, so that they can be compared.
    let start = old[..start].rfind('\n').map_or(0, |at| at + 1);
    let rest = old[old_end..].find('\n').map_or(old.len() - old_end, |at| at + 1);
    let (olds, news) = (&old[start..old_end + rest], &new[start..new_end + rest]);
    let old_lines: Vec<&str> = olds.split_inclusive('\n').collect();
    let new_lines: Vec<&str> = news.split_inclusive('\n').collect();
    let mut input: InternedInput<&str> = InternedInput::default();
    input.update_before(old_lines.iter().copied());
    input.update_after(new_lines.iter().copied());
    let diff = Diff::compute(Algorithm::Histogram, &input);
    let offsets = |lines: &[&str]| {
        let mut at = 0;
        let mut offsets = vec![0];
        offsets.extend(lines.iter().map(|line| {
            at += line.len();
            at
        }));
        offsets
    };
    let (old_at, new_at) = (offsets(&old_lines), offsets(&new_lines));
    let mut edits = Vec::new();
    for hunk in diff.hunks() {
        let stretch = |at: &[usize], lines: &Range<u32>| {
            at[lines.start as usize]..at[lines.end as usize]
        };
        let before = stretch(&old_at, &hunk.before);
        let after = &news[stretch(&new_at, &hunk.after)];
        let found = by_blanks(&olds[before.clone()], after);
        edits.extend(found.into_iter().map(|edit| Edit {
            range: start + before.start + edit.range.start..start + before.start + edit.range.end,
            text: edit.text,
        }));
    }
    edits
}

/// How many lines of `old` do not stand in `new` as they did. A place where lines only come in
/// between counts as one.
///
/// ```
/// use kanonix_core::text::changed_lines;
/// assert_eq!(changed_lines("ebb\n  flood\nslack\n", "ebb\nflood\nslack\n"), 1);
/// assert_eq!(changed_lines("ebb\nflood\n", "ebb\n\n\nflood\n"), 1);
/// assert_eq!(changed_lines("ebb(\n  a)\nslack\n", "ebb(a)\nslack\n"), 2);
/// ```
pub fn changed_lines(old: &str, new: &str) -> usize {
    let input = InternedInput::new(sources::lines(old), sources::lines(new));
    let diff = Diff::compute(Algorithm::Histogram, &input);
    diff.hunks().map(|hunk| hunk.before.len().max(1)).sum()
}

/// Where two texts begin to differ, and where they do no more.
fn middle(old: &str, new: &str) -> (usize, usize, usize) {
    let same = common::prefix(old.as_bytes(), new.as_bytes());
    let start = (0..=same).rev().find(|at| old.is_char_boundary(*at)).unwrap_or(0);
    let same = common::suffix(&old.as_bytes()[start..], &new.as_bytes()[start..]);
    let end = (old.len() - same..=old.len()).find(|at| old.is_char_boundary(*at));
    let end = end.unwrap_or(old.len());
    (start, end, new.len() - (old.len() - end))
}

/// The edits between two stretches that differ in blanks alone; else one edit for all of it.
fn by_blanks(old: &str, new: &str) -> Vec<Edit> {
    let is_blank = |byte: u8| matches!(byte, b' ' | b'\t' | b'\r' | b'\n');
    let (olds, news) = (old.as_bytes(), new.as_bytes());
    let run = |bytes: &[u8], from: usize| {
        from + bytes[from..].iter().take_while(|byte| is_blank(**byte)).count()
    };
    let mut edits: Vec<Edit> = Vec::new();
    let (mut a, mut b) = (0, 0);
    loop {
        let (a_end, b_end) = (run(olds, a), run(news, b));
        if olds[a..a_end] != news[b..b_end] {
            edits.push(Edit { range: a..a_end, text: new[b..b_end].into() });
        }
        (a, b) = (a_end, b_end);
        match (olds.get(a), news.get(b)) {
            (None, None) => return edits,
            (Some(one), Some(other)) if one == other => (a, b) = (a + 1, b + 1),
            _ => break,
        }
    }
    let (start, old_end, new_end) = middle(old, new);
    vec![Edit { range: start..old_end, text: new[start..new_end].into() }]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::text::apply;

    #[test]
    fn they_lead_from_one_text_to_the_other() {
        let texts = [
            ("", "a\n"),
            ("a\n", ""),
            ("a=b\nc\n", "a = b\nc\n"),
            ("'a'\nb\n", "\"a\"\nb\n"),
            ("é=1\nß\n", "è = 1\nß\n"),
            ("a\n\n\n\nb", "a\n\nb\n"),
            ("f(a,b)\n", "f(\n    a,\n    b,\n)\n"),
            ("aa", "aaa"),
            ("x\r\ny=1\r\n", "x\ny = 1\n"),
        ];
        for (old, new) in texts {
            let edits = differences(old, new);
            assert_eq!(apply(old, &edits), new, "{edits:?}");
            assert!(edits.windows(2).all(|pair| pair[0].range.end <= pair[1].range.start));
        }
    }

    #[test]
    fn what_stands_between_is_not_touched() {
        let edits = differences("level=h*2\n", "level = h * 2\n");
        assert!(edits.iter().all(|edit| edit.range.is_empty() && edit.text == " "), "{edits:?}");
    }
}
