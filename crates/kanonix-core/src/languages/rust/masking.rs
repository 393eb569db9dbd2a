//! What the grammar stumbles over: a macro that is named as a type of the language. It is shown a text of the
//! same length in which that is another name.

use memchr::memmem;

/// What is hidden: `str![]`.
const MACRO: &str = "str!";

/// What is shown in its place.
const NAME: &[u8] = b"xxx!";

/// A text as the grammar is shown it, where that is another one.
pub(super) fn names(text: &str) -> Option<String> {
    let is_letter = |c: char| c.is_alphanumeric() || c == '_';
    let is_macro = |at: &usize| {
        !text[..*at].ends_with(is_letter)
            && text[at + MACRO.len()..].starts_with(['[', '(', '{', ' '])
    };
    let mut all = memmem::find_iter(text.as_bytes(), MACRO).filter(is_macro).peekable();
    all.peek()?;
    let mut bytes = text.as_bytes().to_vec();
    all.for_each(|at| bytes[at..at + NAME.len()].copy_from_slice(NAME));
    String::from_utf8(bytes).ok()
}
