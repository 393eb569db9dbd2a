//! A file's agreed values, read from words and checked against the registry.

use super::keys::Key;
use super::entry::{Entry, Setting, Slot, ValueKind};
use super::registry::{REGISTRY, entry, slots};
use std::sync::{Arc, LazyLock};
use thiserror::Error;

/// One value of one slot.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub enum Value {
    /// One of the slot's words.
    Word(&'static str),
    /// A number in the slot's range.
    Number(u32),
    /// A flag.
    Flag(bool),
    /// Strings of a team's own.
    List(Arc<[String]>),
}

impl std::fmt::Display for Value {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Value::Word(word) => f.write_str(word),
            Value::Number(number) => number.fmt(f),
            Value::Flag(flag) => flag.fmt(f),
            Value::List(strings) => {
                let quoted: Vec<String> = strings.iter().map(|s| format!("\"{s}\"")).collect();
                write!(f, "[{}]", quoted.join(", "))
            }
        }
    }
}

/// Why a name or a value is not one of the registry's.
#[derive(Debug, Error, PartialEq, Eq)]
pub enum StyleError {
    /// No setting, or no key of the setting's table, has this name.
    #[error("{whose} no {what} `{name}`{}", did_you_mean(.nearest))]
    UnknownName {
        /// "there is", or the setting and "has".
        whose: String,
        /// "setting" or "key".
        what: &'static str,
        /// What was written.
        name: String,
        /// The right name that is nearest to it.
        nearest: Option<&'static str>,
    },
    /// The slot does not take this value.
    #[error("`{slot}` cannot be {value}: it takes {takes}{}", did_you_mean(.nearest))]
    WrongValue {
        /// The setting, with its key after a point.
        slot: String,
        /// What was written.
        value: String,
        /// All that could have been written.
        takes: String,
        /// The right word that is nearest to it.
        nearest: Option<&'static str>,
    },
    /// A table stands where one value is wanted, or the other way round.
    #[error("`{name}` wants {wants}")]
    WrongShape {
        /// The setting.
        name: &'static str,
        /// "one value", or "a table with these keys".
        wants: String,
    },
}

fn did_you_mean(nearest: &Option<&'static str>) -> String {
    nearest.map(|word| format!("; did you mean `{word}`?")).unwrap_or_default()
}

/// The candidate that is our name for a plain word of the trade (`semicolon`), or that is fewest
/// single-character changes away from `word`, if it is near enough to be what was meant: at most a
/// third of the word, and two changes are always forgiven (a swap is two).
///
/// ```
/// use kanonix_core::style::nearest;
/// assert_eq!(nearest("qoutes", ["quotes", "charset"]), Some("quotes"));
/// assert_eq!(nearest("semicolon", ["statement_end", "charset"]), Some("statement_end"));
/// assert_eq!(nearest("tide", ["quotes", "charset"]), None);
/// ```
pub fn nearest<'a>(
    word: &str,
    candidates: impl IntoIterator<Item = &'a str>,
) -> Option<&'a str> {
    let candidates: Vec<&'a str> = candidates.into_iter().collect();
    if let Some(ours) = super::words::ours(word, &candidates) {
        return Some(ours);
    }
    candidates
        .into_iter()
        .map(|candidate| (changes(word, candidate), candidate))
        .filter(|(count, candidate)| *count <= (candidate.len().max(word.len()) / 3).max(2))
        .min_by_key(|(count, _)| *count)
        .map(|(_, candidate)| candidate)
}

/// The edit distance of Levenshtein, row by row.
fn changes(from: &str, to: &str) -> usize {
    let to: Vec<char> = to.chars().collect();
    let mut row: Vec<usize> = (0..=to.len()).collect();
    for (i, a) in from.chars().enumerate() {
        let mut diagonal = row[0];
        row[0] = i + 1;
        for (j, b) in to.iter().enumerate() {
            let replaced = diagonal + usize::from(a != *b);
            diagonal = row[j + 1];
            row[j + 1] = replaced.min(row[j] + 1).min(diagonal + 1);
        }
    }
    row[to.len()]
}

impl Slot {
    /// Reads a value that is written as `text` (a word, a number, `true` or `false`).
    pub fn read(&self, entry: &Entry, text: &str) -> Result<Value, StyleError> {
        let known = |words: &[&'static str]| words.iter().copied().find(|word| *word == text);
        let flag = || text.parse().ok().map(Value::Flag);
        let value = match self.kind {
            ValueKind::Word(words) => known(words).map(Value::Word),
            ValueKind::Flag => flag(),
            ValueKind::FlagOrKeep => flag().or_else(|| known(&["keep"]).map(Value::Word)),
            ValueKind::Number(least, most, words) => {
                let number = text.parse().ok().filter(|n| (least..=most).contains(n));
                number.map(Value::Number).or_else(|| known(words).map(Value::Word))
            }
            ValueKind::List(words) => list(text).or_else(|| known(words).map(Value::Word)),
            ValueKind::Patterns(words, parts) => {
                let is_known = |pattern: &String| {
                    pattern.split_whitespace().all(|word| parts.contains(&word))
                        && !pattern.trim().is_empty()
                };
                let patterns = list(text).filter(|value| match value {
                    Value::List(patterns) => patterns.iter().all(is_known),
                    _ => false,
                });
                patterns.or_else(|| known(words).map(Value::Word))
            }
        };
        value.ok_or_else(|| StyleError::WrongValue {
            slot: self.path(entry),
            value: format!("`{text}`"),
            takes: self.takes(),
            nearest: match self.kind {
                ValueKind::Patterns(words, parts) => {
                    let mut own = text.split(|c: char| !c.is_alphanumeric() && c != '_');
                    own.find(|word| !word.is_empty() && !parts.contains(word))
                        .and_then(|word| nearest(word, parts.iter().chain(words).copied()))
                }
                ValueKind::Word(words)
                | ValueKind::Number(_, _, words)
                | ValueKind::List(words) => {
                    nearest(text, words.iter().copied())
                }
                _ => None,
            },
        })
    }

    /// The name under which the canon knows this slot: `quotes`, `blank_lines.most`.
    pub fn path(&self, entry: &Entry) -> String {
        match self.key {
            Key::Whole => entry.name.to_string(),
            key => format!("{}.{}", entry.name, key.name()),
        }
    }

    /// The words that it takes.
    pub fn words(&self) -> Vec<&'static str> {
        match self.kind {
            ValueKind::Word(words)
            | ValueKind::Number(_, _, words)
            | ValueKind::List(words)
            | ValueKind::Patterns(words, _) => words.to_vec(),
            ValueKind::Flag => vec!["true", "false"],
            ValueKind::FlagOrKeep => vec!["true", "false", "keep"],
        }
    }

    /// The values that it takes, for a sentence.
    pub fn takes(&self) -> String {
        let listed = |words: &[&str]| {
            words.iter().map(|word| format!("`{word}`")).collect::<Vec<_>>().join(", ")
        };
        match self.kind {
            ValueKind::Word(words) => listed(words),
            ValueKind::Flag => listed(&["true", "false"]),
            ValueKind::FlagOrKeep => listed(&["true", "false", "keep"]),
            ValueKind::Number(least, most, []) => format!("a number from {least} to {most}"),
            ValueKind::Number(least, most, words) => {
                format!("a number from {least} to {most}, or {}", listed(words))
            }
            ValueKind::Patterns(words, parts) => format!(
                "a list of patterns made of the words {}; or {}",
                listed(parts),
                listed(words)
            ),
            ValueKind::List([]) => "a list of strings without quotes in them".into(),
            ValueKind::List(words) => {
                format!("a list of strings without quotes in them, or {}", listed(words))
            }
        }
    }
}

/// The strings of a list as a canon writes it on one line: `["ebb", "flood"]`.
fn list(text: &str) -> Option<Value> {
    let inside = text.strip_prefix('[')?.strip_suffix(']')?;
    let strings = match inside {
        "" => Vec::new(),
        _ => inside.strip_prefix('"')?.strip_suffix('"')?.split("\", \"").collect(),
    };
    let is_plain = |string: &&str| !string.contains(['"', '\\', '\n', '\r']);
    let strings: Vec<String> =
        strings.iter().filter(|s| is_plain(s)).map(|s| s.to_string()).collect();
    (inside.matches('"').count() == 2 * strings.len()).then(|| Value::List(strings.into()))
}

/// A value for every slot of the registry.
///
/// ```
/// use kanonix_core::{languages, style::{Key, Setting, Value}};
/// let mut style = languages::by_name("python").unwrap().style();
/// style.set("quotes", "", "double").unwrap();
/// assert_eq!(style.get(Setting::Quotes, Key::Whole), Value::Word("double"));
/// ```
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Style {
    values: Vec<Value>,
    /// Those of what stands in the text in other languages, by their names.
    embedded: Vec<(&'static str, Style)>,
}

impl Default for Style {
    /// The registry's defaults, before any language has its say.
    fn default() -> Style {
        let values = slots()
            .map(|(entry, slot)| {
                slot.read(entry, slot.default).expect("a default is one of the slot's values")
            })
            .collect();
        Style { values, embedded: Vec::new() }
    }
}

/// Where the values of each setting begin.
static OFFSETS: LazyLock<Vec<usize>> = LazyLock::new(|| {
    REGISTRY
        .iter()
        .scan(0, |next, entry| {
            let start = *next;
            *next += entry.slots.len();
            Some(start)
        })
        .collect()
});

fn offset(setting: Setting) -> usize {
    OFFSETS[setting as usize]
}

/// Whether a value is one that keeps what is there.
pub fn keeps(value: &str) -> bool {
    matches!(value, "keep" | "keep_all" | "any")
}

impl Style {
    /// Sets one slot by its name and its key, from the text of a value. With an empty key, a table
    /// that allows it is set as a whole.
    pub fn set(&mut self, name: &str, key: &str, text: &str) -> Result<(), StyleError> {
        let entry = REGISTRY.iter().find(|entry| entry.name == name).ok_or_else(|| {
            StyleError::UnknownName {
                whose: "there is".into(),
                what: "setting",
                name: name.into(),
                nearest: nearest(name, REGISTRY.iter().map(|entry| entry.name)),
            }
        })?;
        let start = offset(entry.setting);
        let is_table = entry.slots[0].key != Key::Whole;
        if is_table && key.is_empty() {
            if !entry.one_for_all {
                let keys: Vec<_> = entry.slots.iter().map(|slot| slot.key.name()).collect();
                let wants = format!("a table with {}", keys.join(", "));
                return Err(StyleError::WrongShape { name: entry.name, wants });
            }
            for (index, slot) in entry.slots.iter().enumerate() {
                self.values[start + index] = Slot { key: Key::Whole, ..*slot }.read(entry, text)?;
            }
            return Ok(());
        }
        if !is_table && !key.is_empty() {
            let wants = "one value, not a table".to_string();
            return Err(StyleError::WrongShape { name: entry.name, wants });
        }
        let index = entry.slots.iter().position(|slot| slot.key.name() == key).ok_or_else(|| {
            StyleError::UnknownName {
                whose: format!("`{name}` has"),
                what: "key",
                name: key.into(),
                nearest: nearest(key, entry.slots.iter().map(|slot| slot.key.name())),
            }
        })?;
        self.values[start + index] = entry.slots[index].read(entry, text)?;
        Ok(())
    }

    /// As [`Style::set`], but for slots of which `has` is not so: they stay what they are.
    ///
    /// # Errors
    /// As [`Style::set`].
    pub fn set_where(
        &mut self,
        has: impl Fn(&Slot) -> bool,
        name: &str,
        key: &str,
        text: &str,
    ) -> Result<(), StyleError> {
        let places = Style::decided(name, key);
        let before = self.values[places.clone()].to_vec();
        self.set(name, key, text)?;
        for ((place, value), (_, slot)) in places
            .clone()
            .zip(before)
            .zip(slots().skip(places.start))
        {
            if !has(slot) {
                self.values[place] = value;
            }
        }
        Ok(())
    }

    /// The places, in the order of [`slots`], that setting this name and key decides.
    pub fn decided(name: &str, key: &str) -> std::ops::Range<usize> {
        let Some(entry) = REGISTRY.iter().find(|entry| entry.name == name) else { return 0..0 };
        let start = offset(entry.setting);
        match entry.slots.iter().position(|slot| slot.key.name() == key) {
            Some(index) => start + index..start + index + 1,
            None => start..start + entry.slots.len(),
        }
    }

    /// The style itself, and those of what is embedded in its texts.
    pub fn all(&self) -> impl Iterator<Item = &Style> {
        std::iter::once(self).chain(self.embedded.iter().map(|(_, style)| style))
    }

    /// The style of what stands in the text in another language. Where there is none, that stays as
    /// it stands.
    pub fn embedded(&self, language: &str) -> Option<&Style> {
        let mut known = self.embedded.iter();
        known.find_map(|(name, style)| (*name == language).then_some(style))
    }

    /// The same, with this style for another language.
    pub fn embedding(mut self, language: &'static str, style: Style) -> Style {
        self.embedded.retain(|(name, _)| *name != language);
        self.embedded.push((language, style.inside()));
        self
    }

    /// The same for a text inside a file: what is agreed about a file's ends is not about what stands
    /// inside one.
    pub fn inside(mut self) -> Style {
        for (setting, value) in [("insert_final_newline", "true"), ("charset", "keep")] {
            self.set(setting, "", value).expect("values of the registry");
        }
        self
    }

    /// The same for the text alone: what stands in it in other languages stays as it stands.
    pub fn alone(mut self) -> Style {
        self.embedded.clear();
        self
    }

    /// Whether a slot, by its setting's name and its key, is given a list of a team's own.
    pub fn lists(&self, name: &str, key: &str) -> bool {
        self.values[Style::decided(name, key)].iter().any(|value| matches!(value, Value::List(_)))
    }

    /// One slot's value.
    ///
    /// # Panics
    /// If the setting has no such key: which one has which is the program's own, never a person's.
    pub fn get(&self, setting: Setting, key: Key) -> Value {
        let index = entry(setting).slots.iter().position(|slot| slot.key == key);
        self.values[offset(setting) + index.expect("a key of the registry")].clone()
    }

    /// Whether a setting keeps what is there.
    pub fn keeps(&self, setting: Setting, key: Key) -> bool {
        matches!(self.get(setting, key), Value::Word(word) if keeps(word))
    }

    /// A word's slot compared with a word.
    pub fn is(&self, setting: Setting, key: Key, word: &str) -> bool {
        matches!(self.get(setting, key), Value::Word(own) if own == word)
    }

    /// A flag.
    pub fn flag(&self, setting: Setting, key: Key) -> bool {
        self.get(setting, key) == Value::Flag(true)
    }

    /// A number; a word in its place gives `None`.
    pub fn number(&self, setting: Setting, key: Key) -> Option<u32> {
        match self.get(setting, key) {
            Value::Number(number) => Some(number),
            _ => None,
        }
    }

    /// Columns of one step of indentation.
    pub fn indent_columns(&self) -> usize {
        let size = self.number(Setting::IndentSize, Key::Whole);
        size.unwrap_or(self.tab_columns() as u32) as usize
    }

    /// Columns of a tab.
    pub fn tab_columns(&self) -> usize {
        self.number(Setting::TabWidth, Key::Whole).unwrap_or(4) as usize
    }

    /// The text of one step of indentation.
    pub fn indent_step(&self) -> String {
        if self.is(Setting::IndentStyle, Key::Whole, "tab") {
            "\t".into()
        } else {
            " ".repeat(self.indent_columns())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn message(name: &str, key: &str, text: &str) -> String {
        Style::default().set(name, key, text).unwrap_err().to_string()
    }

    #[test]
    fn wrong_names_and_values_say_what_would_be_right() {
        insta::assert_snapshot!(
            [
                message("qoutes", "", "double"),
                message("quotes", "", "doubled"),
                message("blank_lines", "mots", "1"),
                message("blank_lines", "", "1"),
                message("max_line_length", "", "7"),
                message("quotes", "inner", "double"),
                message("word_order", "groups", "by_nam"),
                message("word_order", "groups", "[a b]"),
                message("word_order", "conditions", "keep"),
            ]
            .join("\n"),
            @"
        there is no setting `qoutes`; did you mean `quotes`?
        `quotes` cannot be `doubled`: it takes `double`, `single`, `keep`; did you mean `double`?
        `blank_lines` has no key `mots`; did you mean `most`?
        `blank_lines` wants a table with most, after_imports, between_functions, between_types, between_members, between_fields, at_edges
        `max_line_length` cannot be `7`: it takes a number from 20 to 1000, or `off`
        `quotes` wants one value, not a table
        `word_order.groups` cannot be `by_nam`: it takes a list of strings without quotes in them, or `keep`, `box_model`, `by_name`; did you mean `by_name`?
        `word_order.groups` cannot be `[a b]`: it takes a list of strings without quotes in them, or `keep`, `box_model`, `by_name`
        `word_order.conditions` cannot be `keep`: it takes a list of strings without quotes in them
        "
        );
    }

    #[test]
    fn a_list_is_written_as_it_is_read() {
        let mut style = Style::default();
        for text in ["[]", r#"["ebb"]"#, r#"["ebb flood", "others"]"#] {
            style.set("word_order", "groups", text).unwrap();
            assert_eq!(style.get(Setting::WordOrder, Key::Groups).to_string(), text);
        }
    }

    #[test]
    fn one_word_sets_every_kind_of_brace() {
        let mut style = Style::default();
        style.set("open_brace", "", "next_line").unwrap();
        assert!(style.is(Setting::OpenBrace, Key::Lambda, "next_line"));
    }
}
