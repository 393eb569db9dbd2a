//! What the grammar stumbles over: a macro that is named as a type of the language. It is shown another name.

use crate::languages::masking::{LETTER, hide, words};

/// A text as the grammar is shown it, where that is another one: `str![]`.
pub(super) fn names(text: &str) -> Option<String> {
    let is_macro = |rest: &str| rest.starts_with('!') && !rest.starts_with("!=");
    let names = words(text, "str").filter(|name| is_macro(text[name.end..].trim_start()));
    hide(text, None, names, LETTER)
}
