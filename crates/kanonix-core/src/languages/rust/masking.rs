//! What the grammar stumbles over: a macro that is named as a type of the language, a lifetime before the
//! trait that it goes with, and a mark that macros alone are given. It is shown another name, or mark.

use crate::languages::masking::{LETTER, hide, words};
use memchr::{memchr_iter, memmem};
use std::ops::Range;

/// A text as the grammar is shown it, where that is another one.
pub(super) fn names(text: &str) -> Option<String> {
    let is_macro = |rest: &str| rest.starts_with('!') && !rest.starts_with("!=");
    let macros = words(text, "str").filter(|name| is_macro(text[name.end..].trim_start()));
    let shown = hide(text, None, macros.chain(lifetimes(text)), LETTER);
    hide(text, shown, marks(text), b'!')
}

/// `'a + ` in `dyn 'a + Gauge`.
fn lifetimes(text: &str) -> impl Iterator<Item = Range<usize>> + '_ {
    memmem::find_iter(text.as_bytes(), "dyn '").filter_map(|at| {
        let start = at + "dyn ".len();
        let rest = &text[start + 1..];
        let name = rest.len()
            - rest.trim_start_matches(|c: char| c.is_alphanumeric() || c == '_').len();
        let behind = rest[name..].trim_start_matches(' ').strip_prefix('+')?;
        let bound = behind.trim_start_matches(' ');
        let begins_name = bound.starts_with(|c: char| c.is_alphabetic());
        (name > 0 && begins_name).then(|| start..text.len() - bound.len())
    })
}

/// `~` beside the bracket of what a macro is given: `Token![~]`.
fn marks(text: &str) -> impl Iterator<Item = Range<usize>> + '_ {
    let bytes = text.as_bytes();
    let is_mark = |at: &usize| {
        let before = at.checked_sub(1).map(|before| bytes[before]);
        before == Some(b'[') || matches!(bytes.get(at + 1), Some(b']' | b')'))
    };
    memchr_iter(b'~', bytes).filter(is_mark).map(|at| at..at + 1)
}
