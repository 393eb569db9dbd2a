//! What the grammar misreads: a value of a type with parameters that is made from one name and filled,
//! `new Gauge<Tide>(level) { … }`, which it takes for comparisons and a cast, and a name in parentheses before
//! a sign, `(ebb) - flood`, which it takes for a cast. It is shown a name in place of such a type, which stays
//! as it is, and a number in place of such a name.

use super::places;
use crate::languages::masking::{FIGURE, LETTER, hide, values_in_parentheses, words};
use std::ops::Range;

/// A type of people has no more characters than these.
const LONGEST: usize = 200;

/// A text in which such types are names, values that the grammar takes for types are numbers, and places that
/// it does not read are others.
pub(super) fn masked(text: &str) -> Option<String> {
    let types = words(text, "new").filter_map(|word| parameters(text, word.end));
    let values = values_in_parentheses(text, b"+-*&", places::WORDS, places::is_type);
    let shown = hide(text, hide(text, None, types, LETTER), values, FIGURE);
    places::elsewhere(text, shown)
}

/// The parameters of the type behind a place, with their brackets, if the grammar would misread it.
fn parameters(text: &str, at: usize) -> Option<Range<usize>> {
    let is_name = |c: char| c.is_alphanumeric() || "_.@".contains(c);
    let name = text[at..].trim_start();
    let start = text.len() - name.trim_start_matches(is_name).len();
    let types = text[start..].trim_start();
    let open = text.len() - types.len();
    let mut depth = 0usize;
    let mut ends = |c: char| {
        match c {
            '<' => depth += 1,
            '>' => depth = depth.saturating_sub(1),
            _ => {}
        }
        depth == 0
    };
    let solid = types.char_indices().filter(|(_, c)| !c.is_whitespace()).take(LONGEST);
    let mut inside = solid.take_while(|(_, c)| is_name(*c) || "<>?,[]".contains(*c));
    let (last, _) = inside.find(|(_, c)| ends(*c)).filter(|(last, _)| *last > 0)?;
    let end = open + last + 1;
    let only = text[end..].trim_start().strip_prefix('(')?.trim_start();
    let behind = only.trim_start_matches(is_name);
    let is_filled = behind.trim_start().strip_prefix(')')?.trim_start().starts_with('{');
    (behind.len() < only.len() && is_filled).then_some(start..end)
}
