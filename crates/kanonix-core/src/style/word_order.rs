//! The order of words in an attribute, as a team lists it: groups of patterns.

use super::entry::Setting;
use super::keys::Key;
use super::value::{Style, Value};
use std::cmp::Ordering;
use std::collections::HashMap;

/// In a list of groups: where the words stand that no pattern knows.
const OTHERS: &str = "others";

/// In a list of groups: where the words stand that have a condition.
const WITH_CONDITION: &str = "with_condition";

/// A list of groups that a team may begin with.
#[derive(Debug)]
struct Ready {
    name: &'static str,
    groups: &'static [&'static str],
}

/// What a word says of the thing itself comes first; then its box, from outside to inside; then how
/// what is in it stands; then what decorates it.
static READY: &[Ready] = &[
    Ready {
        name: "box_model",
        groups: &[
            OTHERS,
            "static relative absolute fixed sticky top-* right-* bottom-* left-* inset-* z-*",
            "float-* clear-* order-* grow* shrink* basis-* col-* row-* self-*",
            "margin-* m-* mt-* mr-* mb-* ml-* mx-* my-*",
            "outline* border* rounded*",
            "padding-* p-* pt-* pr-* pb-* pl-* px-* py-*",
            "box-* size-* width-* w-* min-w-* max-w-* height-* h-* min-h-* max-h-* overflow-*",
            "block inline inline-* flex flex-* grid grid-* table table-* contents hidden",
            "columns-* gap-* items-* justify-* content-* align-* place-* space-*",
            "font-* text-* leading-* tracking-* uppercase lowercase capitalize italic underline",
            "color-* background-* bg-* fill-* stroke-* shadow* opacity-* visible invisible",
            "transform* transition* animate-* duration-* cursor-* pointer-*",
            WITH_CONDITION,
        ],
    },
    Ready { name: "by_name", groups: &[OTHERS, WITH_CONDITION] },
];

/// Where a word stands among others.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
struct Place {
    group: usize,
    /// The conditions before it, as the list has them; one that it does not have comes last.
    conditions: Vec<usize>,
    /// The group of the word without its conditions, and the place of its pattern there.
    inside: (usize, usize),
}

/// A style's groups, ready to put words in order.
#[derive(Debug)]
pub struct WordOrder {
    /// Words that are listed as they are, with group and place.
    words: HashMap<String, (usize, usize)>,
    /// Patterns, the closest first.
    patterns: Vec<(String, (usize, usize))>,
    others: Option<usize>,
    with_condition: Option<usize>,
    conditions: Vec<String>,
    by_name: bool,
}

impl WordOrder {
    /// What a style says; `None` where words keep their places.
    pub fn of(style: &Style) -> Option<WordOrder> {
        let groups: Vec<String> = match style.get(Setting::WordOrder, Key::Groups) {
            Value::List(groups) => groups.to_vec(),
            Value::Word(name) => {
                let ready = READY.iter().find(|ready| ready.name == name)?;
                ready.groups.iter().map(|group| group.to_string()).collect()
            }
            _ => return None,
        };
        let conditions = match style.get(Setting::WordOrder, Key::Conditions) {
            Value::List(conditions) => conditions.to_vec(),
            _ => Vec::new(),
        };
        let by_name = style.is(Setting::WordOrder, Key::Inside, "by_name");
        Some(WordOrder::new(&groups, conditions, by_name))
    }

    fn new(groups: &[String], conditions: Vec<String>, by_name: bool) -> WordOrder {
        let mut order = WordOrder {
            words: HashMap::new(),
            patterns: Vec::new(),
            others: None,
            with_condition: None,
            conditions,
            by_name,
        };
        for (group, patterns) in groups.iter().enumerate() {
            match patterns.trim() {
                OTHERS => order.others = Some(group),
                WITH_CONDITION => order.with_condition = Some(group),
                patterns => {
                    for (place, pattern) in patterns.split_whitespace().enumerate() {
                        let place = (group, place);
                        if pattern.contains('*') {
                            order.patterns.push((pattern.to_string(), place));
                        } else {
                            order.words.entry(pattern.to_string()).or_insert(place);
                        }
                    }
                }
            }
        }
        // The one with the most letters of its own says most about a word.
        let letters = |pattern: &str| pattern.chars().filter(|c| *c != '*').count();
        order.patterns.sort_by_key(|(pattern, _)| std::cmp::Reverse(letters(pattern)));
        order
    }

    /// The group and the place of the pattern that knows a word best.
    fn known(&self, word: &str) -> Option<(usize, usize)> {
        let listed = self.words.get(word).copied();
        listed.or_else(|| {
            let mut patterns = self.patterns.iter();
            patterns.find_map(|(pattern, place)| matches(pattern, word).then_some(*place))
        })
    }

    /// Where a word stands; `None` where it keeps its place.
    fn place(&self, word: &str) -> Option<Place> {
        let (conditions, plain) = split_conditions(word);
        let group = match self.with_condition {
            Some(group) if !conditions.is_empty() => group,
            _ => {
                let known = self.known(word).or(self.others.map(|others| (others, 0)))?;
                return Some(Place { group: known.0, conditions: Vec::new(), inside: known });
            }
        };
        let rank = |condition: &&str| {
            let place = self.conditions.iter().position(|own| own == condition);
            place.unwrap_or(self.conditions.len())
        };
        let last = (usize::MAX, 0);
        let others = self.others.map_or(last, |others| (others, 0));
        let inside = self.known(plain).unwrap_or(others);
        Some(Place { group, conditions: conditions.iter().map(rank).collect(), inside })
    }

    /// The same words as they are to stand.
    ///
    /// ```
    /// use kanonix_core::{languages, style::WordOrder};
    /// let mut style = languages::by_name("html").unwrap().style();
    /// style.set("word_order", "groups", r#"["others", "flex grid", "p-*"]"#).unwrap();
    /// let order = WordOrder::of(&style).unwrap();
    /// assert_eq!(order.sorted(&["p-4", "card", "flex"]), ["card", "flex", "p-4"]);
    /// ```
    pub fn sorted<'w>(&self, words: &[&'w str]) -> Vec<&'w str> {
        let places: Vec<Option<Place>> = words.iter().map(|word| self.place(word)).collect();
        let free: Vec<usize> = (0..words.len()).filter(|at| places[*at].is_some()).collect();
        let mut moved = free.clone();
        moved.sort_by(|a, b| self.compare((words[*a], &places[*a]), (words[*b], &places[*b])));
        let mut sorted = words.to_vec();
        for (to, from) in free.into_iter().zip(moved) {
            sorted[to] = words[from];
        }
        sorted
    }

    fn compare(&self, a: (&str, &Option<Place>), b: (&str, &Option<Place>)) -> Ordering {
        let group = |place: &Option<Place>| place.as_ref().map(|place| place.group);
        let conditions = |place: &Option<Place>| place
            .as_ref()
            .map(|place| place.conditions.clone());
        let inside = |place: &Option<Place>| match place {
            Some(place) if self.by_name => Some((place.inside.0, 0)),
            place => place.as_ref().map(|place| place.inside),
        };
        let names = |word| split_conditions(word).0;
        group(a.1)
            .cmp(&group(b.1))
            .then_with(|| conditions(a.1).cmp(&conditions(b.1)))
            .then_with(|| names(a.0).cmp(&names(b.0)).then(inside(a.1).cmp(&inside(b.1))))
            .then_with(|| by_name(a.0, b.0))
    }
}

/// The conditions before a word, and the word: `night:wide:flex`. What stands in brackets is part
/// of the word.
fn split_conditions(word: &str) -> (Vec<&str>, &str) {
    let (mut conditions, mut rest, mut depth) = (Vec::new(), 0, 0usize);
    for (at, byte) in word.bytes().enumerate() {
        match byte {
            b'[' | b'(' => depth += 1,
            b']' | b')' => depth = depth.saturating_sub(1),
            b':' if depth == 0 && at > rest => {
                conditions.push(&word[rest..at]);
                rest = at + 1;
            }
            _ => {}
        }
    }
    (conditions, &word[rest..])
}

/// Whether a pattern, in which `*` stands for any letters, knows a word.
fn matches(pattern: &str, word: &str) -> bool {
    let mut parts = pattern.split('*');
    let first = parts.next().unwrap_or_default();
    let Some(mut rest) = word.strip_prefix(first) else { return false };
    let mut parts: Vec<&str> = parts.collect();
    let Some(last) = parts.pop() else { return rest.is_empty() };
    for part in parts {
        let Some(at) = rest.find(part) else { return false };
        rest = &rest[at + part.len()..];
    }
    rest.ends_with(last)
}

/// Letter by letter; numbers by what they come to.
fn by_name(a: &str, b: &str) -> Ordering {
    let (mut left, mut right) = (a, b);
    loop {
        let digits = |text: &str| text.len()
            - text.trim_start_matches(|c: char| c.is_ascii_digit()).len();
        let (own, other) = (digits(left), digits(right));
        if own > 0 && other > 0 {
            let (number, than) = (&left[..own], &right[..other]);
            let (plain, plain_than) = (
                number.trim_start_matches('0'),
                than.trim_start_matches('0'),
            );
            let order = plain.len().cmp(&plain_than.len()).then(plain.cmp(plain_than));
            if order.is_ne() {
                return order;
            }
            (left, right) = (&left[own..], &right[other..]);
            continue;
        }
        let (mut of_left, mut of_right) = (left.chars(), right.chars());
        match (of_left.next(), of_right.next()) {
            (Some(one), Some(other)) if one == other => {
                (left, right) = (of_left.as_str(), of_right.as_str());
            }
            // The same numbers may be written in two ways.
            (None, None) => return a.cmp(b),
            (one, other) => return one.cmp(&other),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn order(groups: &[&str], conditions: &[&str], by_name: bool) -> WordOrder {
        let owned = |words: &[&str]| words.iter().map(|word| word.to_string()).collect::<Vec<_>>();
        WordOrder::new(&owned(groups), owned(conditions), by_name)
    }

    fn sorted(order: &WordOrder, words: &str) -> String {
        order.sorted(&words.split_whitespace().collect::<Vec<_>>()).join(" ")
    }

    #[test]
    fn words_stand_by_group_and_inside_one_as_listed() {
        let listed = order(&["grid flex", "p-* m-*"], &[], false);
        assert_eq!(sorted(&listed, "m-1 flex p-10 p-9 grid"), "grid flex p-9 p-10 m-1");
        let named = order(&["grid flex", "p-* m-*"], &[], true);
        assert_eq!(sorted(&named, "p-10 grid m-1 flex p-9"), "flex grid m-1 p-9 p-10");
    }

    #[test]
    fn a_word_that_no_pattern_knows_keeps_its_place_unless_the_list_has_one() {
        let groups = ["flex", "p-*"];
        assert_eq!(sorted(&order(&groups, &[], false), "p-1 card flex"), "flex card p-1");
        let groups = ["flex", "others", "p-*"];
        assert_eq!(sorted(&order(&groups, &[], false), "p-1 card flex ape"), "flex ape card p-1");
    }

    #[test]
    fn the_pattern_that_says_most_about_a_word_has_it() {
        let order = order(&["text-*", "text-left text-ri*"], &[], false);
        assert_eq!(sorted(&order, "text-right text-left text-b"), "text-b text-left text-right");
    }

    #[test]
    fn words_with_a_condition_stand_together_condition_by_condition() {
        let groups = ["flex", "p-*", "with_condition"];
        let order = order(&groups, &["wide", "night"], false);
        assert_eq!(
            sorted(&order, "night:wide:flex wide:p-1 night:p-1 p-1 odd:flex wide:flex flex"),
            "flex p-1 wide:flex wide:p-1 night:p-1 night:wide:flex odd:flex"
        );
        let none = super::tests::order(&["flex", "p-*"], &[], false);
        assert_eq!(sorted(&none, "p-1 wide:flex flex"), "flex wide:flex p-1");
    }

    #[test]
    fn brackets_hide_a_colon() {
        assert_eq!(split_conditions("a:[b:c]:d"), (vec!["a", "[b:c]"], "d"));
        assert_eq!(split_conditions("[--a:b]"), (vec![], "[--a:b]"));
        assert_eq!(split_conditions(":a"), (vec![], ":a"));
    }

    #[test]
    fn a_star_stands_for_any_letters() {
        let known = ["m-*", "*-m", "a*b*c", "*"].map(|pattern| {
            ["m-", "m-4", "a-m", "abc", "axbyc", "ac"].map(|word| matches(pattern, word))
        });
        assert_eq!(
            known,
            [
                [true, true, false, false, false, false],
                [false, false, true, false, false, false],
                [false, false, false, true, true, false],
                [true; 6],
            ]
        );
    }
}
