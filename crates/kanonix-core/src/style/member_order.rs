//! The order of the members of a type, as a team lists it: patterns of words.

use super::entry::Setting;
use super::keys::Key;
use super::value::{Style, Value};

/// A list of patterns that a team may begin with.
const BY_KIND: (&str, &[&str]) = (
    "by_kind",
    &[
        "constant",
        "static field",
        "field",
        "initializer",
        "constructor",
        "finalizer",
        "delegate",
        "event",
        "property",
        "indexer",
        "operator",
        "method",
        "type",
    ],
);

/// The words that may stand in place of a list.
pub(super) const READY: &[&str] = &["keep", BY_KIND.0];

/// The words that a pattern may be made of: what a member is, who sees it, whose it is.
pub(super) const WORDS: &[&str] = &[
    "constant",
    "field",
    "initializer",
    "constructor",
    "finalizer",
    "delegate",
    "event",
    "property",
    "indexer",
    "operator",
    "method",
    "type",
    "public",
    "protected",
    "internal",
    "package",
    "private",
    "static",
    "instance",
];

/// A style's patterns, ready to rank members.
#[derive(Debug)]
pub struct MemberOrder {
    patterns: Vec<Vec<String>>,
}

impl MemberOrder {
    /// Whether a style has an order of members.
    pub fn is_asked(style: &Style) -> bool {
        !style.keeps(Setting::MemberOrder, Key::Whole)
    }

    /// What a style says; `None` where members keep their places.
    pub fn of(style: &Style) -> Option<MemberOrder> {
        let words = |pattern: &str| pattern.split_whitespace().map(str::to_string).collect();
        let patterns = match style.get(Setting::MemberOrder, Key::Whole) {
            Value::List(patterns) => patterns.iter().map(|pattern| words(pattern)).collect(),
            Value::Word(name) if name == BY_KIND.0 => {
                BY_KIND.1.iter().map(|pattern| words(pattern)).collect()
            }
            _ => return None,
        };
        Some(MemberOrder { patterns })
    }

    /// The place of the pattern with the most words of those that say nothing else than what is so
    /// of a member. What no pattern names comes last.
    ///
    /// ```
    /// use kanonix_core::{languages, style::MemberOrder};
    /// let mut style = languages::by_name("java").unwrap().style();
    /// style.set("member_order", "", r#"["field", "method", "private method"]"#).unwrap();
    /// let order = MemberOrder::of(&style).unwrap();
    /// let ranks = [&["private", "field"], &["public", "method"], &["private", "method"]];
    /// assert_eq!(ranks.map(|words| order.rank(words)), [0, 1, 2]);
    /// assert_eq!(order.rank(&["type"]), 3);
    /// ```
    pub fn rank(&self, words: &[&str]) -> usize {
        let known = |pattern: &&Vec<String>| pattern.iter().all(|word| words.contains(&&word[..]));
        let most = self.patterns.iter().filter(known).map(Vec::len).max();
        let place = self.patterns.iter().position(|pattern| {
            Some(pattern.len()) == most && known(&pattern)
        });
        place.unwrap_or(self.patterns.len())
    }
}
