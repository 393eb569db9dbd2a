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
