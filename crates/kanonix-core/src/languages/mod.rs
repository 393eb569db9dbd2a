//! The languages, one folder each: the grammar, the rules and the samples.
//!
//! A new language is a new folder and one line in `languages!`. A language names no other language.

mod kinds;
mod masking;
#[cfg(test)]
mod made_up;
#[cfg(test)]
#[path = "../../tests/support/mod.rs"]
mod testing;

use crate::document::spelling::Spelling;
use crate::layout::planner::Rule;
use crate::style::{Family, Key, REGISTRY, Setting, Slot, Style};
use crate::syntax::{Grammar, TokenId, Tree};
use std::ops::Range;

/// All that the engine needs to know about a language.
pub struct Language {
    /// Its name in the canon.
    pub name: &'static str,
    /// The language whose part of the canon holds for it too, weaker than its own.
    pub follows: Option<&'static str>,
    /// Endings of its files' names, without the first point.
    pub suffixes: &'static [&'static str],
    /// Whole names of its files.
    pub file_names: &'static [&'static str],
    /// In small letters, the names of its files that programs write and write again, or the ends of these from
    /// a point on.
    pub made_names: &'static [&'static str],
    /// Programs that run it, as a file's first line names them behind `#!`, without a version.
    pub interpreters: &'static [&'static str],
    /// Its names in the Language Server Protocol, where an editor knows no file name.
    pub identifiers: &'static [&'static str],
    /// What begins a comment that ends with its line, if anything does.
    pub line_comment: Option<&'static str>,
    /// Its grammar.
    pub grammar: Grammar,
    /// The rule for a node.
    pub(crate) rule: Rule,
    /// What the text of a file says of it.
    pub contents: Option<Contents>,
    /// What may stand in it in other languages.
    pub embeds: Option<Embeds>,
    /// The settings that mean anything in it.
    pub families: &'static [Family],
    /// What its community does otherwise than the registry's defaults.
    pub defaults: &'static [(Setting, Key, &'static str)],
    /// Small files in it: a name and a text each.
    pub samples: &'static [(&'static str, &'static str)],
}

/// What texts say of themselves.
pub struct Contents {
    /// Endings of names that leave the language open.
    pub suffixes: &'static [&'static str],
    /// Whether a text that begins so is in it.
    pub(crate) begins: fn(&str) -> bool,
    /// What else a text is, as a person calls it.
    pub(crate) manner: fn(&str) -> Option<&'static str>,
}

/// What may stand in a text in other languages.
pub struct Embeds {
    /// The names of these.
    pub languages: &'static [&'static str],
    /// Finds it, in ascending order.
    pub(crate) find: fn(&Tree, &str) -> Vec<Passage>,
}

/// Whole lines of a text that are in another language, or a part of one line.
pub(crate) struct Passage {
    /// The token that they are in.
    pub token: TokenId,
    /// From the first byte of their first line to where the token ends; where that is on one line,
    /// the token without the blanks around it.
    pub bytes: Range<usize>,
    /// The language's name.
    pub language: &'static str,
    /// How they are spelt, where that is otherwise than they read.
    pub spelling: Option<&'static Spelling>,
    /// The token whose line they are as far in as, or a step further.
    pub stem: TokenId,
}

/// Declares the folders, each with its feature and the languages in it.
macro_rules! languages {
    ($($feature:literal $folder:ident { $($language:ident = $name:literal),* })*) => {
        $(#[cfg(feature = $feature)] mod $folder;)*

        /// Every language, in the order in which a survey lists them.
        pub static ALL: &[&Language] = &[
            $($(#[cfg(feature = $feature)] &$folder::$language,)*)*
        ];

        /// The name of every language, those included that this program is built without: a canon
        /// may speak of them.
        pub const NAMES: &[&str] = &[$($($name),*),*];
    };
}

languages! {
    "ecmascript" ecmascript { JAVASCRIPT = "javascript", TYPESCRIPT = "typescript", TSX = "tsx" }
    "python" python { LANGUAGE = "python" }
    "java" java { LANGUAGE = "java" }
    "csharp" csharp { LANGUAGE = "csharp" }
    "lua" lua { LANGUAGE = "lua" }
    "gdscript" gdscript { LANGUAGE = "gdscript" }
    "ruby" ruby { LANGUAGE = "ruby" }
    "powershell" powershell { LANGUAGE = "powershell" }
    "json" json { LANGUAGE = "json" }
    "rust" rust { LANGUAGE = "rust" }
    "toml" toml { LANGUAGE = "toml" }
    "css" css { LANGUAGE = "css", SCSS = "scss", LESS = "less" }
    "html" html { LANGUAGE = "html" }
}

/// The language of this name.
pub fn by_name(name: &str) -> Option<&'static Language> {
    ALL.iter().copied().find(|language| language.name == name)
}

/// The language of a file, by the last part of its path.
///
/// ```
/// use kanonix_core::languages;
/// assert_eq!(languages::of_file("siren.mjs").map(|l| l.name), Some("javascript"));
/// assert!(languages::of_file("siren.tide").is_none());
/// ```
pub fn of_file(name: &str) -> Option<&'static Language> {
    let suffixes = || name.match_indices('.').map(|(at, _)| &name[at + 1..]);
    ALL.iter().copied().find(|language| {
        language.file_names.contains(&name)
            || suffixes().any(|suffix| language.suffixes.contains(&suffix))
    })
}

/// Whether a file's name leaves its language to what stands in it.
pub fn is_open(name: &str) -> bool {
    ALL.iter().any(|language| language.may_be_named(name))
}

/// The language of a file whose name leaves it open, by how its text begins.
///
/// ```
/// use kanonix_core::languages::of_beginning;
/// let name = |text| of_beginning("alarms.tmpl", text).map(|language| language.name);
/// assert_eq!(name("{{ define \"alarms\" }}\n<ul>"), Some("html"));
/// assert_eq!(name("alarms: {{ .All }}"), None);
/// ```
pub fn of_beginning(name: &str, text: &str) -> Option<&'static Language> {
    let mut open = ALL.iter().copied().filter(|language| language.may_be_named(name));
    open.find(|language| language.contents.as_ref().is_some_and(|own| (own.begins)(text)))
}

/// The language that the Language Server Protocol calls so.
pub fn of_identifier(identifier: &str) -> Option<&'static Language> {
    ALL.iter().copied().find(|language| language.identifiers.contains(&identifier))
}

/// The program that the first line of a text (`#!/usr/bin/env python3`) says it is run by, without its
/// folder and its version.
///
/// ```
/// use kanonix_core::languages::interpreter;
/// assert_eq!(interpreter("#!/usr/bin/env -S python3.12 -u"), Some("python"));
/// assert_eq!(interpreter("# a note"), None);
/// ```
pub fn interpreter(text: &str) -> Option<&str> {
    let words = text.lines().next()?.strip_prefix("#!")?.split_whitespace();
    let name = |word: &str| word.rsplit('/').next().map(str::len).map(|len| word.len() - len);
    let is_word = |word: &&str| !word.starts_with('-') && !word.contains('=');
    for word in words.filter(is_word) {
        let program = &word[name(word).unwrap_or(0)..];
        if program != "env" {
            return Some(program.trim_end_matches(|c: char| c.is_ascii_digit() || c == '.'));
        }
    }
    None
}

/// The language of a file that this program runs.
pub fn of_interpreter(program: &str) -> Option<&'static Language> {
    ALL.iter().copied().find(|language| language.interpreters.contains(&program))
}

impl Language {
    /// The values that its community expects where nobody has agreed on anything.
    pub fn style(&self) -> Style {
        let mut style = Style::default();
        for (setting, key, value) in self.defaults {
            let set = style.set(setting.name(), key.name(), value);
            set.expect("a language's defaults are the registry's values");
        }
        self.embedded().fold(style, |style, inner| style.embedding(inner.name, inner.style()))
    }

    fn may_be_named(&self, name: &str) -> bool {
        let suffix = name.rsplit_once('.').map(|(_, suffix)| suffix);
        let suffixes = self.contents.iter().flat_map(|own| own.suffixes);
        suffix.is_some_and(|suffix| suffixes.into_iter().any(|own| *own == suffix))
    }

    /// What a text in it is besides, as a person calls it: a template of some kind.
    pub fn manner(&self, text: &str) -> Option<&'static str> {
        self.contents.as_ref().and_then(|own| (own.manner)(text))
    }

    /// The languages that may stand in it.
    pub fn embedded(&self) -> impl Iterator<Item = &'static Language> {
        self.embeds.iter().flat_map(|embeds| embeds.languages).filter_map(|name| by_name(name))
    }

    /// Whether a key of a setting, or a setting that is one value, means anything in it.
    pub fn has_slot(&self, slot: &Slot) -> bool {
        slot.family == Family::Text || self.families.contains(&slot.family)
    }

    /// The same by name; an empty key asks about the setting as a whole.
    pub fn has(&self, setting: &str, key: &str) -> bool {
        let slots = REGISTRY.iter().filter(|entry| entry.name == setting).flat_map(|e| e.slots);
        let mut asked = slots.filter(|slot| key.is_empty() || slot.key.name() == key);
        asked.any(|slot| self.has_slot(slot))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::syntax::{KindEntry, Kinds, Said};
    use std::collections::HashSet;
    use std::path::Path;

    #[test]
    fn every_language_has_a_name_that_is_known() {
        assert!(ALL.iter().all(|language| NAMES.contains(&language.name)));
    }

    /// The languages that share each table of kinds.
    fn tables() -> Vec<(&'static Kinds, Vec<&'static Language>)> {
        let mut tables: Vec<(&Kinds, Vec<&Language>)> = Vec::new();
        for language in ALL.iter().copied() {
            let kinds = language.grammar.kinds();
            match tables.iter_mut().find(|(table, _)| std::ptr::eq(*table, kinds)) {
                Some((_, languages)) => languages.push(language),
                None => tables.push((kinds, vec![language])),
            }
        }
        tables
    }

    #[test]
    fn a_table_names_only_what_a_grammar_has() {
        for (kinds, languages) in tables() {
            let unknown = |language: &Language| language.grammar.unknown_kinds();
            let mut nowhere = unknown(languages[0]);
            nowhere.retain(|kind| languages.iter().all(|other| unknown(other).contains(kind)));
            assert!(nowhere.is_empty(), "{}: {nowhere:?}", kinds.file);
        }
    }

    #[test]
    fn a_rule_names_each_kind_that_a_table_leaves_to_rules() {
        for (kinds, _) in tables() {
            let table = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").join(kinds.file);
            let sources = std::fs::read_dir(table.parent().unwrap()).unwrap();
            let rules: String = sources
                .map(|entry| entry.unwrap().path())
                .filter(|path| path.extension().is_some_and(|suffix| suffix == "rs"))
                .map(|path| std::fs::read_to_string(path).unwrap())
                .collect();
            let words: HashSet<&str> =
                rules.split(|c: char| !c.is_alphanumeric() && c != ':').collect();
            let entries = kinds.entries.split_last().unwrap().1;
            assert!(!entries.is_empty(), "{}", kinds.file);
            let is_idle = |entry: &&KindEntry| {
                matches!(entry.said, Said::Ruled | Said::Mark)
                    && !words.contains(format!("Kind::{}", entry.own).as_str())
            };
            let idle: Vec<&str> = entries.iter().filter(is_idle).map(|entry| entry.own).collect();
            assert!(idle.is_empty(), "{}: {idle:?}", kinds.file);
        }
    }

    #[test]
    fn defaults_are_values_of_settings_that_a_language_has() {
        for language in ALL {
            language.style();
            for (setting, key, _) in language.defaults {
                assert!(language.has(setting.name(), key.name()), "{setting:?} {key:?}");
            }
        }
    }
}
