//! Reading one canon: every name and value is checked, and what is wrong is shown in its place.

use super::{Assignment, Canon, CanonError, EDITION, Play};
use globset::{Glob, GlobSetBuilder};
use kanonix_core::languages;
use kanonix_core::style::{REGISTRY, Style, StyleError, nearest, slots};
use std::ops::Range;
use std::path::Path;
use toml_edit::{Item, TableLike, Value};

/// A canon that is being read.
pub(super) struct Reading<'a> {
    pub path: &'a Path,
    pub text: &'a str,
    pub canon: Canon,
}

type Read<T = ()> = Result<T, CanonError>;

impl Reading<'_> {
    fn error<T>(&self, span: Option<Range<usize>>, message: impl Into<String>) -> Read<T> {
        Err(CanonError::new(self.path, self.text, span.unwrap_or(0..0), message.into()))
    }

    /// The place of a key, to be pointed at.
    fn key_span(&self, table: &dyn TableLike, key: &str) -> Option<Range<usize>> {
        table.get_key_value(key).and_then(|(key, _)| key.span())
    }

    fn unknown<T>(
        &self,
        table: &dyn TableLike,
        what: &str,
        key: &str,
        known: impl IntoIterator<Item = &'static str>,
    ) -> Read<T> {
        let near = nearest(key, known).map(|word| format!("; did you mean `{word}`?"));
        let message = format!("there is no {what} `{key}`{}", near.unwrap_or_default());
        self.error(self.key_span(table, key), message)
    }

    fn table<'t>(&self, item: &'t Item, name: &str) -> Read<&'t dyn TableLike> {
        match item.as_table_like() {
            Some(table) => Ok(table),
            None => self.error(item.span(), format!("`{name}` wants a table")),
        }
    }

    /// Reads the whole document.
    pub fn document(&mut self, table: &dyn TableLike) -> Read {
        const KNOWN: [&str; 5] = ["edition", "needs", "reach", "files", "style"];
        for (key, item) in table.iter() {
            match key {
                "edition" => self.edition(item)?,
                "needs" => self.needs(item)?,
                "reach" => self.reach(self.table(item, key)?)?,
                "files" => self.files(self.table(item, key)?)?,
                "style" => self.style(self.table(item, key)?)?,
                _ if REGISTRY.iter().any(|entry| entry.name == key) => {
                    let message = format!("`{key}` is a setting: it belongs under `[style]`");
                    return self.error(self.key_span(table, key), message);
                }
                _ => return self.unknown(table, "table or key", key, KNOWN),
            }
        }
        Ok(())
    }

    fn edition(&self, item: &Item) -> Read {
        match item.as_integer() {
            Some(EDITION) => Ok(()),
            Some(newer) if newer > EDITION => {
                let message = format!(
                    "this canon is of edition {newer}, and this program knows edition {EDITION}: \
                     a newer Kanonix is needed"
                );
                self.error(item.span(), message)
            }
            _ => self.error(item.span(), format!("`edition` cannot be this: it takes {EDITION}")),
        }
    }

    fn needs(&self, item: &Item) -> Read {
        let numbers = |text: &str| -> Option<Vec<u32>> {
            text.trim().split('.').map(|part| part.parse().ok()).collect()
        };
        let wanted = item.as_str().and_then(|text| numbers(text.strip_prefix(">=")?));
        let Some(wanted) = wanted else {
            return self.error(item.span(), "`needs` takes the oldest version: `\">=0.1\"`");
        };
        let own = env!("CARGO_PKG_VERSION");
        if numbers(own).unwrap_or_default() < wanted {
            let needs = item.as_str().unwrap_or_default();
            let message = format!("this canon needs Kanonix {needs}, and this is {own}");
            return self.error(item.span(), message);
        }
        Ok(())
    }

    fn reach(&mut self, table: &dyn TableLike) -> Read {
        for (key, item) in table.iter() {
            match key {
                "save" => self.canon.reach.save = Some(self.play(item, key, true)?),
                "commit" => self.canon.reach.commit = Some(self.play(item, key, false)?),
                "merge" => self.canon.reach.merge = Some(self.play(item, key, false)?),
                "faults" => {
                    let word = self.one_of(item, key, &["stop", "pass"])?;
                    self.canon.reach.faults_stop = Some(word == "stop");
                }
                "long_lines" => {
                    let word = self.one_of(item, key, &["stop", "pass"])?;
                    self.canon.reach.long_lines_stop = Some(word == "stop");
                }
                _ => {
                    let known = ["save", "commit", "merge", "faults", "long_lines"];
                    return self.unknown(table, "key of `[reach]`", key, known);
                }
            }
        }
        Ok(())
    }

    fn one_of(&self, item: &Item, key: &str, words: &'static [&'static str]) -> Read<&'static str> {
        let text = item.as_str().unwrap_or_default();
        match words.iter().find(|word| **word == text) {
            Some(word) => Ok(word),
            None => {
                let listed: Vec<String> = words.iter().map(|word| format!("`{word}`")).collect();
                let near = nearest(text, words.iter().copied());
                let near = near.map(|word| format!("; did you mean `{word}`?")).unwrap_or_default();
                let message = format!(
                    "`{key}` cannot be {}: it takes {}{near}",
                    written(item),
                    listed.join(", ")
                );
                self.error(item.span(), message)
            }
        }
    }

    fn play(&self, item: &Item, key: &str, for_saving: bool) -> Read<Play> {
        const ALL: &[&str] = &["touched", "whole", "off", "touched-or-whole"];
        let words = if for_saving { ALL } else { &ALL[..3] };
        Ok(match self.one_of(item, key, words)? {
            "whole" => Play::Whole,
            "off" => Play::Off,
            "touched-or-whole" => Play::TouchedOrWhole,
            _ => Play::Touched,
        })
    }

    fn files(&mut self, table: &dyn TableLike) -> Read {
        for (key, item) in table.iter() {
            match key {
                "skip" => self.skip(item)?,
                "largest" => match item.as_integer().map(u64::try_from) {
                    Some(Ok(bytes)) => self.canon.largest = Some(bytes),
                    _ => return self.error(item.span(), "`largest` takes a number of bytes"),
                },
                "language" => self.languages(self.table(item, key)?)?,
                _ => {
                    let known = ["skip", "largest", "language"];
                    return self.unknown(table, "key of `[files]`", key, known);
                }
            }
        }
        Ok(())
    }

    fn glob(&self, pattern: &str, span: Option<Range<usize>>) -> Read<Glob> {
        // A pattern without a slash means a file's name, wherever it is.
        let anchored = match pattern.trim_end_matches('/') {
            inside if inside.contains('/') => inside.trim_start_matches('/').to_string(),
            name => format!("**/{name}"),
        };
        match Glob::new(&anchored) {
            Ok(glob) => Ok(glob),
            Err(error) => self.error(span, format!("`{pattern}` is no pattern: {}", error.kind())),
        }
    }

    fn skip(&mut self, item: &Item) -> Read {
        let Some(patterns) = item.as_array() else {
            return self.error(item.span(), "`skip` takes a list of patterns");
        };
        let mut set = GlobSetBuilder::new();
        for pattern in patterns {
            let Some(text) = pattern.as_str() else {
                return self.error(pattern.span(), "a pattern is a string");
            };
            set.add(self.glob(text, pattern.span())?);
        }
        match set.build() {
            Ok(set) => self.canon.skip = set,
            Err(error) => return self.error(item.span(), error.to_string()),
        }
        Ok(())
    }

    fn languages(&mut self, table: &dyn TableLike) -> Read {
        for (pattern, item) in table.iter() {
            let glob = self.glob(pattern, self.key_span(table, pattern))?;
            let name = item.as_str().unwrap_or_default();
            let Some(language) = languages::by_name(name) else {
                let near = nearest(name, language_names());
                let near = near.map(|word| format!("; did you mean `{word}`?")).unwrap_or_default();
                let message = format!("there is no language {}{near}", written(item));
                return self.error(item.span(), message);
            };
            self.canon.languages.push((glob.compile_matcher(), language));
        }
        Ok(())
    }

    fn style(&mut self, table: &dyn TableLike) -> Read {
        for (name, item) in table.iter() {
            if let Some(language) = languages::by_name(name) {
                let own = self.table(item, &format!("style.{name}"))?;
                for (setting, item) in own.iter() {
                    let idle = |key| {
                        slots().any(|(entry, slot)| entry.name == setting && slot.key == key)
                            && !language.has(setting, key)
                    };
                    if REGISTRY.iter().any(|entry| entry.name == setting)
                        && !language.has(setting, "")
                    {
                        let message = format!("`{setting}` means nothing in {name}");
                        return self.error(self.key_span(own, setting), message);
                    }
                    let table = item.as_table_like();
                    let keys = table.into_iter().flat_map(|table| table.iter());
                    if let Some((key, _)) = keys.into_iter().find(|(key, _)| idle(key)) {
                        let message = format!("`{setting}.{key}` means nothing in {name}");
                        let span = table.and_then(|table| self.key_span(table, key));
                        return self.error(span, message);
                    }
                    let read = self.setting(own, setting, item, Vec::new())?;
                    self.canon.language_style.entry(language.name).or_default().extend(read);
                }
            } else {
                let read = self.setting(table, name, item, language_names())?;
                self.canon.style.extend(read);
            }
        }
        Ok(())
    }

    /// The values that one setting is given; a table gives one for each of its keys.
    fn setting(
        &self,
        table: &dyn TableLike,
        name: &str,
        item: &Item,
        other_names: Vec<&'static str>,
    ) -> Read<Vec<Assignment>> {
        if !REGISTRY.iter().any(|entry| entry.name == name) {
            let what = if other_names.is_empty() { "setting" } else { "setting or language" };
            let known = REGISTRY.iter().map(|entry| entry.name).chain(other_names);
            return self.unknown(table, what, name, known);
        }
        let mut probe = Style::default();
        let mut read = Vec::new();
        let mut set = |key: &str, item: &Item, key_span: Option<Range<usize>>| -> Read {
            let Some(value) = plain(item) else {
                return self.error(item.span(), format!("`{name}` cannot be {}", written(item)));
            };
            match probe.set(name, key, &value) {
                Ok(()) => {
                    read.push(Assignment { name: name.into(), key: key.into(), value });
                    Ok(())
                }
                Err(error @ StyleError::UnknownName { .. }) => {
                    self.error(key_span, error.to_string())
                }
                Err(error) => self.error(item.span(), error.to_string()),
            }
        };
        match item.as_table_like() {
            Some(inner) => {
                for (key, item) in inner.iter() {
                    set(key, item, self.key_span(inner, key))?;
                }
            }
            None => set("", item, self.key_span(table, name))?,
        }
        Ok(read)
    }
}

fn language_names() -> Vec<&'static str> {
    languages::ALL.iter().map(|language| language.name).collect()
}

/// A value as the registry reads it.
fn plain(item: &Item) -> Option<String> {
    match item.as_value()? {
        Value::String(text) => Some(text.value().clone()),
        Value::Integer(number) => Some(number.value().to_string()),
        Value::Boolean(flag) => Some(flag.value().to_string()),
        _ => None,
    }
}

/// A value as somebody wrote it, for a message.
fn written(item: &Item) -> String {
    match plain(item) {
        Some(text) => format!("`{text}`"),
        None => "a value of this kind".into(),
    }
}
