use std::ops::Range;

/// Replaces the bytes of `range` by `text`.
///
/// The edits of one outcome never overlap and stand in ascending order; where two begin at the same
/// offset, the first of them is an insertion.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Edit {
    /// Bytes of the old text that go.
    pub range: Range<usize>,
    /// What stands there afterwards.
    pub text: String,
}

/// The text after all of `edits`, which must be ordered as [`Edit`] says.
///
/// ```
/// use kanonix_core::text::{Edit, apply};
/// let edit = Edit { range: 5..6, text: " = ".into() };
/// assert_eq!(apply("level=2", &[edit]), "level = 2");
/// ```
pub fn apply(text: &str, edits: &[Edit]) -> String {
    let grown: usize = edits.iter().map(|edit| edit.text.len()).sum();
    let mut out = String::with_capacity(text.len() + grown);
    let mut done = 0;
    for edit in edits {
        out.push_str(&text[done..edit.range.start]);
        out.push_str(&edit.text);
        done = edit.range.end;
    }
    out.push_str(&text[done..]);
    out
}

/// What becomes of a stretch of one line under `edits`, from the start of the line that it then
/// begins on to where it then ends.
///
/// ```
/// use kanonix_core::text::{Edit, become_of};
/// let edits = [Edit { range: 1..3, text: "\n  ".into() }, Edit { range: 6..6, text: ";".into() }];
/// assert_eq!(become_of("a\n b()", &edits, 3..6), "  b();");
/// ```
pub fn become_of(text: &str, edits: &[Edit], stretch: Range<usize>) -> String {
    let place = |offset: usize| {
        let before = edits.iter().take_while(|edit| edit.range.end <= offset);
        before.fold(offset, |place, edit| place + edit.text.len() - edit.range.len())
    };
    let after = apply(text, edits);
    let (start, end) = (place(stretch.start), place(stretch.end));
    let start = after[..start].rfind('\n').map_or(0, |at| at + 1);
    after[start..end.max(start)].to_string()
}

/// A stretch of a text after some edits: one of the old text, or what an edit has put there.
#[derive(Clone, Debug)]
enum Piece<'a> {
    Old(Range<usize>),
    New(&'a str),
}

fn pieces(length: usize, edits: &[Edit]) -> Vec<Piece<'_>> {
    let mut pieces = Vec::with_capacity(2 * edits.len() + 1);
    let mut at = 0;
    for edit in edits {
        pieces.push(Piece::Old(at..edit.range.start));
        pieces.push(Piece::New(&edit.text));
        at = edit.range.end;
    }
    pieces.push(Piece::Old(at..length));
    pieces
}

impl<'a> Piece<'a> {
    fn len(&self) -> usize {
        match self {
            Piece::Old(range) => range.len(),
            Piece::New(text) => text.len(),
        }
    }

    /// What lies before an offset, and the rest.
    fn split(&self, at: usize) -> (Piece<'a>, Piece<'a>) {
        match self {
            Piece::Old(range) => {
                let middle = range.start + at;
                (Piece::Old(range.start..middle), Piece::Old(middle..range.end))
            }
            Piece::New(text) => (Piece::New(&text[..at]), Piece::New(&text[at..])),
        }
    }
}

/// The edits of a text of so many bytes that do at once what `first` does, and then `second` to the
/// text that `first` has made.
///
/// ```
/// use kanonix_core::text::{Edit, apply, compose};
/// let first = [Edit { range: 6..6, text: " {".into() }, Edit { range: 8..8, text: " }".into() }];
/// let second = [Edit { range: 8..9, text: "\n  ".into() }, Edit { range: 10..11, text: "\n".into() }];
/// let both = compose(8, &first, &second);
/// assert_eq!(apply("if (a) b", &both), "if (a) {\n  b\n}");
/// ```
pub fn compose<'e>(length: usize, first: &'e [Edit], second: &'e [Edit]) -> Vec<Edit> {
    let mut left = pieces(length, first).into_iter();
    let mut next = left.next();
    let mut kept: Vec<Piece> = Vec::new();
    let mut at = 0;
    // Goes on to an offset of the text between, and keeps what is passed, or not.
    let mut pass = |to: usize, keep: bool, kept: &mut Vec<Piece<'e>>| {
        while at < to {
            let Some(piece) = next.take() else { return };
            let (passed, rest) = piece.split(piece.len().min(to - at));
            at += passed.len();
            next = if rest.len() > 0 { Some(rest) } else { left.next() };
            kept.extend(keep.then_some(passed));
        }
    };
    let mut new: Vec<(usize, &str)> = Vec::new();
    for edit in second {
        pass(edit.range.start, true, &mut kept);
        new.push((kept.len(), &edit.text));
        pass(edit.range.end, false, &mut kept);
    }
    pass(usize::MAX, true, &mut kept);
    // Put together from what is kept and what is new.
    let (mut out, mut done, mut pending) = (Vec::new(), 0, String::new());
    let mut new = new.into_iter().peekable();
    for (index, piece) in kept.into_iter().map(Some).chain([None]).enumerate() {
        while let Some((_, text)) = new.next_if(|(place, _)| *place == index) {
            pending.push_str(text);
        }
        let old = match piece {
            Some(Piece::New(text)) => {
                pending.push_str(text);
                continue;
            }
            Some(Piece::Old(range)) if range.is_empty() => continue,
            Some(Piece::Old(range)) => range,
            None => length..length,
        };
        if old.start > done || !pending.is_empty() {
            out.push(Edit { range: done..old.start, text: std::mem::take(&mut pending) });
        }
        done = old.end;
    }
    out
}

/// Where a place in the text after `edits` was before: where the edit begins, for one inside what it
/// has put there, and whether it is such a place.
pub fn place_before(length: usize, edits: &[Edit], offset: usize) -> (usize, bool) {
    let (mut at, mut old) = (0, 0);
    for piece in pieces(length, edits) {
        let is_here = offset < at + piece.len();
        match piece {
            Piece::Old(range) if is_here => return (range.start + offset - at, false),
            Piece::New(_) if is_here => return (old, true),
            Piece::Old(range) => {
                at += range.len();
                old = range.end;
            }
            Piece::New(text) => at += text.len(),
        }
    }
    (length, false)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn two_steps_are_one() {
        let text = "abcdefghij";
        let edit = |range: Range<usize>, text: &str| Edit { range, text: text.into() };
        let firsts = [
            vec![],
            vec![edit(0..0, "XY")],
            vec![edit(2..4, ""), edit(6..6, "123")],
            vec![edit(3..3, "("), edit(7..9, ")"), edit(10..10, "!")],
        ];
        for first in &firsts {
            let between = apply(text, first);
            for start in 0..=between.len() {
                for end in start..=between.len() {
                    let second = [edit(start..end, "-"), edit(between.len()..between.len(), "+")];
                    let both = compose(text.len(), first, &second);
                    assert_eq!(apply(text, &both), apply(&between, &second), "{both:?}");
                    let ordered = both.windows(2).all(|two| two[0].range.end <= two[1].range.start);
                    assert!(ordered, "{both:?}");
                }
            }
        }
    }

    #[test]
    fn a_place_is_where_it_was() {
        let edits = [Edit { range: 2..4, text: "12345".into() }];
        let places: Vec<_> = [0, 2, 6, 7, 12].map(|at| place_before(10, &edits, at)).to_vec();
        assert_eq!(places, [(0, false), (2, true), (2, true), (4, false), (9, false)]);
    }
}
