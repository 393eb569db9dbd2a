//! What the grammar takes for a cast: a name in parentheses before a sum's sign, `(ebb) - flood`. It is shown a
//! number in its place.

use crate::languages::masking::{FIGURE, hide, values_in_parentheses};

/// Words that a value follows.
const WORDS: &[&[u8]] = &[b"return", b"case", b"yield", b"assert", b"else", b"do"];

/// A text in which such names are numbers.
pub(super) fn masked(text: &str) -> Option<String> {
    hide(text, None, values_in_parentheses(text, b"+-", WORDS, is_primitive), FIGURE)
}

/// Whether a name is that of a type of numbers, which a value with a sign may be turned into.
fn is_primitive(name: &[u8]) -> bool {
    let types: [&[u8]; 7] = [b"byte", b"short", b"int", b"long", b"float", b"double", b"char"];
    types.contains(&name)
}
