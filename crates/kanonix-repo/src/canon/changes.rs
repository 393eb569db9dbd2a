//! What one version of a file that says how others are laid out says otherwise than another one.

use super::editorconfig;
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use toml_edit::{Document, Item, Value};

/// One thing that is said otherwise.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct CanonChange {
    /// The file, from the repository's root.
    pub path: PathBuf,
    /// What it is about: a table and its key (`style.python.quotes`), a section and its property.
    pub what: String,
    /// What was said before, if anything was.
    pub before: Option<String>,
    /// What is said now, if anything is.
    pub after: Option<String>,
}

/// What is said about something: one value, or for a list one of its elements.
type Words = BTreeMap<(String, Option<String>), String>;

/// What differs between two versions of a file, in the order of the names; the whole file where one
/// of them cannot be read. `None` is a file that is not there.
pub fn changes(path: &Path, before: Option<&str>, after: Option<&str>) -> Vec<CanonChange> {
    let words = |text: Option<&str>| match path.ends_with(editorconfig::FILE_NAME) {
        true => Some(properties(text.unwrap_or_default())),
        false => said(text.unwrap_or_default()),
    };
    let change = |what: &str, before: Option<&String>, after: Option<&String>| CanonChange {
        path: path.to_path_buf(),
        what: what.into(),
        before: before.cloned(),
        after: after.cloned(),
    };
    let (Some(old), Some(new)) = (words(before), words(after)) else {
        let whole = "the whole file".to_string();
        return vec![change(&whole, before.map(|_| &whole), after.map(|_| &whole))];
    };
    let names: BTreeSet<_> = old.keys().chain(new.keys()).collect();
    let differs = names.into_iter().filter(|name| old.get(name) != new.get(name));
    differs.map(|name| change(&name.0, old.get(name), new.get(name))).collect()
}

/// What a canon says, by its tables and keys; `None` if it is no TOML.
fn said(text: &str) -> Option<Words> {
    let document = Document::parse(text).ok()?;
    let mut words = Words::new();
    for (key, item) in document.as_table().iter() {
        add(&mut words, key, item);
    }
    Some(words)
}

fn add(words: &mut Words, name: &str, item: &Item) {
    if let Some(table) = item.as_table_like() {
        for (key, item) in table.iter() {
            add(words, &format!("{name}.{key}"), item);
        }
    } else if let Some(tables) = item.as_array_of_tables() {
        for table in tables.iter() {
            // A part is known by its paths, wherever it stands among the others.
            let paths = table.get("paths").map(|paths| plain(&paths.to_string()));
            let part = format!("{name} {}", paths.unwrap_or_default());
            words.insert((part.clone(), None), "there".into());
            for (key, item) in table.iter().filter(|(key, _)| *key != "paths") {
                add(words, &format!("{part}.{key}"), item);
            }
        }
    } else if let Some(Value::Array(list)) = item.as_value() {
        for element in list.iter() {
            let element = plain(&element.to_string());
            words.insert((name.into(), Some(element.clone())), element);
        }
    } else {
        words.insert((name.into(), None), plain(&item.to_string()));
    }
}

/// A value without the blanks and comments around it.
fn plain(text: &str) -> String {
    let value = text.trim().parse::<Value>().map(|value| value.decorated("", "").to_string());
    value.unwrap_or_else(|_| text.trim().to_string())
}

/// What an `.editorconfig` file says, by its sections and properties.
fn properties(text: &str) -> Words {
    let mut words = Words::new();
    let mut section = String::new();
    for line in text.trim_start_matches('\u{feff}').lines().map(str::trim) {
        if let Some(name) = editorconfig::section_name(line) {
            section = format!("[{name}] ");
        } else if !line.starts_with(['#', ';'])
            && let Some((name, value)) = line.split_once('=')
        {
            let what = format!("{section}{}", name.trim().to_ascii_lowercase());
            words.insert((what, None), value.trim().to_string());
        }
    }
    words
}

#[cfg(test)]
mod tests {
    use super::*;

    fn told(path: &str, before: Option<&str>, after: Option<&str>) -> String {
        let told = changes(Path::new(path), before, after).into_iter().map(|change| {
            let word = |word: Option<String>| word.unwrap_or_else(|| "-".into());
            format!("{}: {} > {}\n", change.what, word(change.before), word(change.after))
        });
        told.collect()
    }

    #[test]
    fn each_word_of_a_canon_that_is_another_one_is_told() {
        let before =
            "edition = 1\n[style]\nindent_size = 4\n[style.python]\nquotes = \"double\" # two\n\
                      [files]\nskip = [\"a/**\", \"b/**\"]\n[[part]]\npaths = [\"old\"]\nreach = \"off\"\n";
        let after =
            "edition = 1\n[style]\nindent_size = 4 # four\n[style.python]\nquotes='single'\n\
                     [files]\nskip = [\n  \"b/**\", \"c/**\"]\n[reach]\nmerge = \"off\"\n[[part]]\n\
                     paths = [\"old\"]\nreach = \"whole\"\n[[part]]\npaths = [\"new\"]\nstyle = { quotes = \"keep\" }\n";
        insta::assert_snapshot!(told("kanonix.toml", Some(before), Some(after)), @r#"
        files.skip: "a/**" > -
        files.skip: - > "c/**"
        part ["new"]: - > there
        part ["new"].style.quotes: - > "keep"
        part ["old"].reach: "off" > "whole"
        reach.merge: - > "off"
        style.python.quotes: "double" > "single"
        "#);
        assert_eq!(told("kanonix.toml", Some(before), Some(before)), "");
        assert_eq!(told("kanonix.toml", Some("edition = 1"), None), "edition: 1 > -\n");
        let broken = told("kanonix.toml", Some("edition = 1"), Some("[style"));
        assert_eq!(broken, "the whole file: the whole file > the whole file\n");
    }

    #[test]
    fn so_is_each_property_of_an_editorconfig() {
        let before = "root = true\n[*.py]\nindent_size = 4\n";
        let after = "root = true\n[*.py]\nIndent_Size=2\n[*.js]\nindent_style = tab\n";
        insta::assert_snapshot!(told(".editorconfig", Some(before), Some(after)), @"
        [*.js] indent_style: - > tab
        [*.py] indent_size: 4 > 2
        ");
    }
}
