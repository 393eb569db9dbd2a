//! Reading one canon: every name and value is checked, and what is wrong is shown in its place.

use super::followed::Team;
use super::{
    Assignment,
    Canon,
    CanonError,
    EDITION,
    Naming,
    Part,
    Pattern,
    Play,
    ReachTable,
    SaveReasons,
    Spoken,
    Styles,
};
use globset::Glob;
use kanonix_core::languages::{self, Language};
use kanonix_core::style::{BASES, REGISTRY, Style, StyleError, nearest, slots};
use kanonix_core::text::Lines;
use std::cell::{Cell, RefCell};
use std::ops::Range;
use std::path::Path;
use toml_edit::{Item, TableLike, Value};

/// A canon that is being read.
pub(super) struct Reading<'a> {
    pub path: &'a Path,
    pub text: &'a str,
    pub canon: Canon,
    /// How many patterns there are so far.
    pub patterns: Cell<usize>,
    /// What is wrong so far.
    pub wrong: RefCell<Vec<CanonError>>,
}

/// So many patterns and parts may a canon have.
const MOST_PATTERNS: usize = 2000;
const MOST_PARTS: usize = 500;

/// How long a pattern may be, in bytes, and how deep its braces.
pub(super) const LONGEST_PATTERN: usize = 1024;
pub(super) const DEEPEST_PATTERN: usize = 8;

/// How many braces of a pattern stand inside one another at most.
pub(super) fn nesting(pattern: &str) -> usize {
    let (mut depth, mut deepest) = (0usize, 0);
    for byte in pattern.bytes() {
        match byte {
            b'{' => depth += 1,
            b'}' => depth = depth.saturating_sub(1),
            _ => {}
        }
        deepest = deepest.max(depth);
    }
    deepest
}

type Read<T = ()> = Result<T, CanonError>;

/// Every table and key at a canon's top.
pub(super) const TOP: [&str; 9] =
    ["edition", "needs", "editorconfig", "basis", "team", "reach", "files", "style", "part"];
/// Every key of `[reach]`.
pub(super) const REACH: [&str; 9] = [
    "save",
    "save_without_git",
    "save_reasons",
    "commit",
    "merge",
    "faults",
    "long_lines",
    "unreadable",
    "new_keeps",
];

/// What makes an editor save.
pub(super) const SAVE_REASONS: [&str; 3] = ["manual", "after_delay", "focus_out"];
/// Every key of `[files]`.
pub(super) const FILES: [&str; 4] = ["skip", "largest", "minified", "language"];

/// What `[files] minified` takes.
pub(super) const MINIFIED: [&str; 2] = ["skip", "format"];
/// Every word for lines in play.
pub(super) const PLAYS: [&str; 3] = ["touched", "whole", "off"];
/// Those for files without a history.
pub(super) const WITHOUT_GIT: [&str; 2] = ["off", "whole"];
/// What stops or passes.
pub(super) const STOPS: [&str; 2] = ["stop", "pass"];
/// What stops or is said.
pub(super) const SAID: [&str; 2] = ["say", "stop"];

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
        let message = format!("there is no {what} `{key}`{}", did_you_mean(key, known));
        self.error(self.key_span(table, key), message)
    }

    fn table<'t>(&self, item: &'t Item, name: &str) -> Read<&'t dyn TableLike> {
        match item.as_table_like() {
            Some(table) => Ok(table),
            None => self.error(item.span(), format!("`{name}` wants a table")),
        }
    }

    /// Notes what is wrong, and goes on with the rest.
    fn note(&self, read: Read) {
        self.wrong.borrow_mut().extend(read.err());
    }

    /// Reads the whole document.
    pub fn document(&mut self, table: &dyn TableLike) {
        for (key, item) in table.iter() {
            let read = self.top(table, key, item);
            self.note(read);
        }
    }

    fn top(&mut self, table: &dyn TableLike, key: &str, item: &Item) -> Read {
        match key {
            "edition" => self.edition(item)?,
            "needs" => self.needs(item)?,
            "editorconfig" => match item.as_bool() {
                Some(read) => self.canon.editorconfig = Some(read),
                None => return self.wrong_flag(item, key),
            },
            "basis" => self.basis(item)?,
            "team" => self.team(self.table(item, key)?, self.key_span(table, key))?,
            "reach" => self.canon.reach = self.reach(self.table(item, key)?),
            "files" => self.files(self.table(item, key)?),
            "style" => self.canon.style = self.style(self.table(item, key)?),
            "part" => self.parts(item)?,
            _ if REGISTRY.iter().any(|entry| entry.name == key) => {
                let message = format!("`{key}` is a setting: it belongs under `[style]`");
                return self.error(self.key_span(table, key), message);
            }
            _ => {
                let settings = REGISTRY.iter().map(|entry| entry.name);
                let known = TOP.into_iter().chain(settings);
                return self.unknown(table, "table or key", key, known);
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

    fn wrong_flag<T>(&self, item: &Item, key: &str) -> Read<T> {
        let message = format!("`{key}` cannot be {}: it takes `true`, `false`", written(item));
        self.error(item.span(), message)
    }

    fn basis(&mut self, item: &Item) -> Read {
        let name = item.as_str().unwrap_or_default();
        let Some(basis) = BASES.iter().find(|basis| basis.name == name) else {
            let names: Vec<String> =
                BASES.iter().map(|basis| format!("`{}`", basis.name)).collect();
            let near = did_you_mean(name, BASES.iter().map(|basis| basis.name));
            let written = written(item);
            let message =
                format!("`basis` cannot be {written}: it takes {}{near}", names.join(", "));
            return self.error(item.span(), message);
        };
        let line = self.line(item.span());
        let said = |(name, key, value): &(&str, &str, &str)| Assignment {
            name: name.to_string(),
            key: key.to_string(),
            value: value.to_string(),
            line,
        };
        self.canon.basis = basis.values.iter().map(said).collect();
        Ok(())
    }

    fn team(&mut self, table: &dyn TableLike, span: Option<Range<usize>>) -> Read {
        let (mut follow, mut at) = (None, None);
        for (key, item) in table.iter() {
            let text = match (key, item.as_str()) {
                ("follow" | "at", Some(text)) if !text.is_empty() && !text.contains('\n') => text,
                ("follow", _) => {
                    let takes = "the folder or the address of a git repository";
                    return self.error(item.span(), format!("`follow` takes {takes}"));
                }
                ("at", _) => return self.error(item.span(), "`at` takes a tag or a commit"),
                _ => return self.unknown(table, "key of `[team]`", key, ["follow", "at"]),
            };
            match key {
                "follow" => follow = Some((text.to_string(), item.span())),
                _ => at = Some(text.to_string()),
            }
        }
        let Some((follow, span)) = follow else {
            return self.error(span, "`[team]` wants `follow`: whose canon this one goes on from");
        };
        self.canon.team = Some(Team { follow, at, span: span.unwrap_or(0..0) });
        Ok(())
    }

    fn parts(&mut self, item: &Item) -> Read {
        let Some(tables) = item.as_array_of_tables() else {
            return self.error(item.span(), "a part of the tree is a table of its own: `[[part]]`");
        };
        for (count, table) in tables.iter().enumerate() {
            if count == MOST_PARTS {
                let message = format!("a canon may have {MOST_PARTS} parts, and this one has more");
                return self.error(table.span(), message);
            }
            let mut part = Part::default();
            for (key, item) in table.iter() {
                match key {
                    "paths" => part.paths = self.patterns(item, "paths")?,
                    "reach" => {
                        part.reach = match item.as_table_like() {
                            Some(table) => self.reach(table),
                            None => {
                                let said = Some(self.play(item, key, &PLAYS)?);
                                ReachTable {
                                    save: said,
                                    commit: said,
                                    merge: said,
                                    ..ReachTable::default()
                                }
                            }
                        };
                    }
                    "style" => part.style = self.style(self.table(item, key)?),
                    _ => {
                        let known = ["paths", "reach", "style"];
                        return self.unknown(table, "key of `[[part]]`", key, known);
                    }
                }
            }
            if part.paths.is_empty() {
                let message = "a `[[part]]` wants `paths`: a list of patterns for its files";
                return self.error(table.span(), message);
            }
            self.canon.parts.push(part);
        }
        Ok(())
    }

    /// The line of a place, counted from 1.
    fn line(&self, span: Option<Range<usize>>) -> usize {
        Lines::new(self.text).line_of(span.map_or(0, |span| span.start)) + 1
    }

    fn reach(&self, table: &dyn TableLike) -> ReachTable {
        let mut reach = ReachTable::default();
        for (key, item) in table.iter() {
            let read = self.occasion(&mut reach, table, key, item);
            self.note(read);
        }
        reach
    }

    fn occasion(
        &self,
        reach: &mut ReachTable,
        table: &dyn TableLike,
        key: &str,
        item: &Item,
    ) -> Read {
        match key {
            "save" => reach.save = Some(self.play(item, key, &PLAYS)?),
            "save_without_git" => {
                reach.save_without_git = Some(self.play(item, key, &WITHOUT_GIT)?);
            }
            "save_reasons" => reach.save_reasons = Some(self.save_reasons(item, key)?),
            "commit" => reach.commit = Some(self.play(item, key, &PLAYS)?),
            "merge" => reach.merge = Some(self.play(item, key, &PLAYS)?),
            "faults" => reach.faults_stop = Some(self.stops(item, key, &STOPS)?),
            "long_lines" => reach.long_lines_stop = Some(self.stops(item, key, &STOPS)?),
            "unreadable" => reach.unreadable_stops = Some(self.stops(item, key, &STOPS)?),
            "new_keeps" => reach.new_keeps_stop = Some(self.stops(item, key, &SAID)?),
            _ => return self.unknown(table, "key of `[reach]`", key, REACH),
        }
        Ok(())
    }

    fn save_reasons(&self, item: &Item, key: &str) -> Read<Spoken<SaveReasons>> {
        let Some(words) = item.as_array() else {
            let message = format!("`{key}` is a list of words: `[\"manual\"]`");
            return self.error(item.span(), message);
        };
        let mut value = SaveReasons { manual: false, after_delay: false, focus_out: false };
        for word in words {
            let word = Item::Value(word.clone());
            match self.one_of(&word, key, &SAVE_REASONS)? {
                "after_delay" => value.after_delay = true,
                "focus_out" => value.focus_out = true,
                _ => value.manual = true,
            }
        }
        Ok(Spoken { value, line: self.line(item.span()) })
    }

    fn stops(&self, item: &Item, key: &str, words: &'static [&'static str]) -> Read<Spoken<bool>> {
        let value = self.one_of(item, key, words)? == "stop";
        Ok(Spoken { value, line: self.line(item.span()) })
    }

    fn one_of(&self, item: &Item, key: &str, words: &'static [&'static str]) -> Read<&'static str> {
        let text = item.as_str().unwrap_or_default();
        match words.iter().find(|word| **word == text) {
            Some(word) => Ok(word),
            None => {
                let listed: Vec<String> = words.iter().map(|word| format!("`{word}`")).collect();
                let near = did_you_mean(text, words.iter().copied());
                let message = format!(
                    "`{key}` cannot be {}: it takes {}{near}",
                    written(item),
                    listed.join(", ")
                );
                self.error(item.span(), message)
            }
        }
    }

    fn play(
        &self,
        item: &Item,
        key: &str,
        words: &'static [&'static str],
    ) -> Read<Spoken<Play>> {
        let value = match self.one_of(item, key, words)? {
            "whole" => Play::Whole,
            "off" => Play::Off,
            _ => Play::Touched,
        };
        Ok(Spoken { value, line: self.line(item.span()) })
    }

    fn files(&mut self, table: &dyn TableLike) {
        for (key, item) in table.iter() {
            let read = self.about_files(table, key, item);
            self.note(read);
        }
    }

    fn about_files(&mut self, table: &dyn TableLike, key: &str, item: &Item) -> Read {
        match key {
            "skip" => self.canon.skip = self.patterns(item, "skip")?,
            "largest" => match item.as_integer().map(u64::try_from) {
                Some(Ok(value)) => {
                    let line = self.line(item.span());
                    self.canon.largest = Some(Spoken { value, line });
                }
                _ => return self.error(item.span(), "`largest` takes a number of bytes"),
            },
            "minified" => {
                let word = item.as_str().filter(|word| MINIFIED.contains(word));
                let Some(word) = word else {
                    return self.error(item.span(), "`minified` takes `skip` or `format`");
                };
                let line = self.line(item.span());
                self.canon.minified = Some(Spoken { value: word == "format", line });
            }
            "language" => self.languages(self.table(item, key)?)?,
            _ => return self.unknown(table, "key of `[files]`", key, FILES),
        }
        Ok(())
    }

    fn pattern(&self, text: &str, span: Option<Range<usize>>) -> Read<Pattern> {
        self.patterns.set(self.patterns.get() + 1);
        if self.patterns.get() > MOST_PATTERNS {
            let message = format!(
                "a canon may have {MOST_PATTERNS} patterns, and this one has more"
            );
            return self.error(span, message);
        }
        if text.len() > LONGEST_PATTERN || nesting(text) > DEEPEST_PATTERN {
            let message = format!(
                "a pattern may be {LONGEST_PATTERN} bytes long and have {DEEPEST_PATTERN} braces \
                 inside one another: this one has more"
            );
            return self.error(span, message);
        }
        // A pattern without a slash means a file's name, wherever it is.
        let anchored = match text.trim_end_matches('/') {
            inside if inside.contains('/') => inside.trim_start_matches('/').to_string(),
            name => format!("**/{name}"),
        };
        match Glob::new(&anchored) {
            Ok(glob) => Ok(Pattern {
                text: text.to_string(),
                line: self.line(span),
                glob: glob.compile_matcher(),
            }),
            Err(error) => self.error(span, format!("`{text}` is no pattern: {}", error.kind())),
        }
    }

    fn patterns(&self, item: &Item, key: &str) -> Read<Vec<Pattern>> {
        let Some(patterns) = item.as_array() else {
            return self.error(item.span(), format!("`{key}` takes a list of patterns"));
        };
        let mut read = Vec::new();
        for pattern in patterns {
            let Some(text) = pattern.as_str() else {
                return self.error(pattern.span(), "a pattern is a string");
            };
            read.push(self.pattern(text, pattern.span())?);
        }
        Ok(read)
    }

    fn languages(&mut self, table: &dyn TableLike) -> Read {
        for (pattern, item) in table.iter() {
            let span = self.key_span(table, pattern);
            let pattern = match pattern.strip_prefix("#!") {
                Some(program) => Err((program.to_string(), self.line(span))),
                None => Ok(self.pattern(pattern, span)?),
            };
            let name = item.as_str().unwrap_or_default();
            let Some(language) = languages::by_name(name) else {
                if languages::NAMES.contains(&name) {
                    continue;
                }
                let near = did_you_mean(name, language_names());
                let message = format!("there is no language {}{near}", written(item));
                return self.error(item.span(), message);
            };
            self.canon.languages.push(Naming { pattern, language });
        }
        Ok(())
    }

    fn style(&self, table: &dyn TableLike) -> Styles {
        let mut styles = Styles::default();
        for (name, item) in table.iter() {
            let Some(language) = languages::by_name(name) else {
                if languages::NAMES.contains(&name) {
                    continue;
                }
                match self.setting(table, name, item, language_names()) {
                    Ok(read) => styles.every.extend(read),
                    Err(error) => self.note(Err(error)),
                }
                continue;
            };
            match self.table(item, &format!("style.{name}")) {
                Ok(own) => {
                    for (setting, item) in own.iter() {
                        match self.setting_of(language, own, setting, item) {
                            Ok(read) => styles.own.entry(language.name).or_default().extend(read),
                            Err(error) => self.note(Err(error)),
                        }
                    }
                }
                Err(error) => self.note(Err(error)),
            }
        }
        styles
    }

    /// The values that one setting of a language is given.
    fn setting_of(
        &self,
        language: &Language,
        own: &dyn TableLike,
        setting: &str,
        item: &Item,
    ) -> Read<Vec<Assignment>> {
        let idle = |key| {
            slots().any(|(entry, slot)| entry.name == setting && slot.key.name() == key)
                && !language.has(setting, key)
        };
        if REGISTRY.iter().any(|entry| entry.name == setting)
            && !language.has(setting, "")
        {
            let message = format!("`{setting}` means nothing in {}", language.name);
            return self.error(self.key_span(own, setting), message);
        }
        let table = item.as_table_like();
        let keys = table.into_iter().flat_map(|table| table.iter());
        if let Some((key, _)) = keys.into_iter().find(|(key, _)| idle(key)) {
            let message = format!("`{setting}.{key}` means nothing in {}", language.name);
            let span = table.and_then(|table| self.key_span(table, key));
            return self.error(span, message);
        }
        self.setting(own, setting, item, Vec::new())
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
                let mut slots = slots();
                let known = slots.find(
                    |(entry, slot)| entry.name == name && slot.key.name() == key,
                );
                let message = match known {
                    Some((entry, slot)) => {
                        let (path, takes) = (slot.path(entry), slot.takes());
                        format!("`{path}` cannot be {}: it takes {takes}", written(item))
                    }
                    None => format!("`{name}` cannot be {}", written(item)),
                };
                return self.error(item.span(), message);
            };
            match probe.set(name, key, &value) {
                Ok(()) => {
                    let line = self.line(item.span());
                    read.push(Assignment { name: name.into(), key: key.into(), value, line });
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
                    self.note(set(key, item, self.key_span(inner, key)));
                }
            }
            None => set("", item, self.key_span(table, name))?,
        }
        Ok(read)
    }
}

/// A question to end a message with, if one of the right words is near enough.
fn did_you_mean(word: &str, known: impl IntoIterator<Item = &'static str>) -> String {
    nearest(word, known).map(|word| format!("; did you mean `{word}`?")).unwrap_or_default()
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
        Value::Array(strings) => {
            let quoted = |string: &Value| Some(format!("\"{}\"", string.as_str()?));
            let strings: Option<Vec<String>> = strings.iter().map(quoted).collect();
            Some(format!("[{}]", strings?.join(", ")))
        }
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
