//! The canon: `kanonix.toml`, found from a file upwards to the repository's root.

use globset::{Glob, GlobSet, GlobSetBuilder};
use kanonix_core::languages::{self, Language};
use kanonix_core::style::{REGISTRY, Style, nearest};
use kanonix_core::text::Lines;
use std::collections::HashMap;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use thiserror::Error;
use toml_edit::{Document, Item, TableLike, Value};

/// The file's name.
pub const FILE_NAME: &str = "kanonix.toml";

/// The meaning of the settings that this program knows.
const EDITION: i64 = 1;

/// Files larger than this are left alone, unless `[files] largest` says otherwise. In bytes.
pub const LARGEST: u64 = 4 * 1024 * 1024;

/// Why a canon cannot be used. Nothing is judged then.
#[derive(Debug, Error)]
#[error("{place}: {message}\n{excerpt}")]
pub struct CanonError {
    /// Path, line and column.
    place: String,
    /// What is wrong, and what would be right.
    message: String,
    /// The line, with a mark under the place.
    excerpt: String,
}

impl CanonError {
    fn new(path: &Path, text: &str, span: Range<usize>, message: String) -> CanonError {
        let lines = Lines::new(text);
        let start = span.start.min(text.len());
        let (line, column) = lines.place(text, start);
        let source = text.lines().nth(line - 1).unwrap_or_default();
        let number = line.to_string();
        let room = source.chars().count().saturating_sub(column - 1).max(1);
        let length = text.get(span).map_or(1, |marked| marked.lines().next().unwrap_or("").chars().count());
        let mark = "^".repeat(length.clamp(1, room));
        let margin = " ".repeat(number.len());
        CanonError {
            place: format!("{}:{line}:{column}", path.display()),
            message,
            excerpt: format!(
                "  {number} | {source}\n  {margin} | {}{mark}",
                " ".repeat(column - 1)
            ),
        }
    }

    fn unreadable(path: &Path, problem: &std::io::Error) -> CanonError {
        CanonError {
            place: path.display().to_string(),
            message: format!("the canon cannot be read: {problem}"),
            excerpt: String::new(),
        }
    }
}

/// Which lines are in play by the canon's word.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Play {
    /// Lines touched since the base.
    #[default]
    Touched,
    /// All lines.
    Whole,
    /// Touched lines; all lines of a file that has none.
    TouchedOrWhole,
    /// None.
    Off,
}

/// What `[reach]` says.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Reach {
    /// For `check` and `mend` without a word about the reach.
    pub save: Option<Play>,
    /// For the commit gate.
    pub commit: Option<Play>,
    /// For the merge gate.
    pub merge: Option<Play>,
    /// Whether a stretch that does not parse stops.
    pub faults_stop: Option<bool>,
}

/// One value that the canon sets.
#[derive(Clone, Debug)]
struct Assignment {
    name: String,
    key: String,
    value: String,
}

/// One `kanonix.toml`.
pub struct Canon {
    /// The file.
    pub path: PathBuf,
    /// The folder that it governs.
    folder: PathBuf,
    /// What `[reach]` says.
    pub reach: Reach,
    /// The largest file that is judged, in bytes, if it says so.
    pub largest: Option<u64>,
    skip: GlobSet,
    languages: Vec<(globset::GlobMatcher, &'static Language)>,
    style: Vec<Assignment>,
    language_style: HashMap<&'static str, Vec<Assignment>>,
}

impl Canon {
    /// Reads a canon from its text.
    ///
    /// # Errors
    /// The first thing that is wrong, with its line.
    pub fn read(path: &Path, text: &str) -> Result<Canon, CanonError> {
        let document = Document::parse(text).map_err(|error| {
            let span = error.span().unwrap_or(0..0);
            let message = format!("this is not TOML: {}", error.message());
            CanonError::new(path, text, span, message)
        })?;
        let mut reading = Reading {
            path,
            text,
            canon: Canon {
                path: path.to_path_buf(),
                folder: path.parent().unwrap_or(Path::new("")).to_path_buf(),
                reach: Reach::default(),
                largest: None,
                skip: GlobSet::empty(),
                languages: Vec::new(),
                style: Vec::new(),
                language_style: HashMap::new(),
            },
        };
        reading.document(document.as_table())?;
        Ok(reading.canon)
    }

    fn apply(&self, language: &Language, style: &mut Style) {
        let own = self.language_style.get(language.name);
        for set in self.style.iter().chain(own.into_iter().flatten()) {
            // Checked when the canon was read.
            let _ = style.set(&set.name, &set.key, &set.value);
        }
    }

    /// The style that this canon alone gives a language.
    pub fn style(&self, language: &Language) -> Style {
        let mut style = language.style();
        self.apply(language, &mut style);
        style
    }

    fn skips(&self, path: &Path) -> bool {
        path.strip_prefix(&self.folder).is_ok_and(|inside| {
            inside.ancestors().any(|part| !part.as_os_str().is_empty() && self.skip.is_match(part))
        })
    }
}

struct Reading<'a> {
    path: &'a Path,
    text: &'a str,
    canon: Canon,
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

    fn document(&mut self, table: &dyn TableLike) -> Read {
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
                _ => {
                    let known = ["save", "commit", "merge", "faults"];
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
                    if REGISTRY.iter().any(|entry| entry.name == setting) && !language.has(setting)
                    {
                        let message = format!("`{setting}` means nothing in {name}");
                        return self.error(self.key_span(own, setting), message);
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
                Err(error @ kanonix_core::style::StyleError::UnknownName { .. }) => {
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

/// Gives the text of the canon at a path, or `None` where there is none.
pub type ReadCanon = Box<dyn FnMut(&Path) -> std::io::Result<Option<String>> + Send>;

/// The canons of a tree, each read once.
pub struct Canons {
    /// No canon is looked for above this folder.
    root: PathBuf,
    source: ReadCanon,
    known: HashMap<PathBuf, Option<Arc<Canon>>>,
}

/// All that the canons say about one file.
#[derive(Clone, Default)]
pub struct Governing {
    /// Outermost first.
    canons: Vec<Arc<Canon>>,
}

impl Canons {
    /// The canons at and below `root`, as they are on disk.
    pub fn on_disk(root: &Path) -> Canons {
        Canons::from(root, Box::new(|path| match std::fs::read_to_string(path) {
            Ok(text) => Ok(Some(text)),
            Err(problem) if problem.kind() == std::io::ErrorKind::NotFound => Ok(None),
            Err(problem) => Err(problem),
        }))
    }

    /// The canons at and below `root`, read elsewhere: from the index, or from a commit.
    pub fn from(root: &Path, source: ReadCanon) -> Canons {
        Canons { root: root.to_path_buf(), source, known: HashMap::new() }
    }

    /// The canons that govern a file (an absolute path), from the root down.
    ///
    /// # Errors
    /// The first canon on the way that is wrong.
    pub fn governing(&mut self, file: &Path) -> Result<Governing, CanonError> {
        let mut canons = Vec::new();
        for folder in file.ancestors().skip(1) {
            if !folder.starts_with(&self.root) {
                break;
            }
            if let Some(canon) = self.of_folder(folder)? {
                canons.push(canon);
            }
        }
        canons.reverse();
        Ok(Governing { canons })
    }

    fn of_folder(&mut self, folder: &Path) -> Result<Option<Arc<Canon>>, CanonError> {
        if let Some(known) = self.known.get(folder) {
            return Ok(known.clone());
        }
        let path = folder.join(FILE_NAME);
        let canon = match (self.source)(&path) {
            Ok(Some(text)) => Some(Arc::new(Canon::read(&path, &text)?)),
            Ok(None) => None,
            Err(problem) => return Err(CanonError::unreadable(&path, &problem)),
        };
        self.known.insert(folder.to_path_buf(), canon.clone());
        Ok(canon)
    }
}

impl Governing {
    /// The style of a file in this language.
    pub fn style(&self, language: &Language) -> Style {
        let mut style = language.style();
        for canon in &self.canons {
            canon.apply(language, &mut style);
        }
        style
    }

    /// The language of a file: the nearest canon's word, else its name's.
    pub fn language(&self, path: &Path) -> Option<&'static Language> {
        for canon in self.canons.iter().rev() {
            let inside = path.strip_prefix(&canon.folder).unwrap_or(path);
            if let Some((_, language)) = canon.languages.iter().find(|(glob, _)| glob.is_match(inside)) {
                return Some(language);
            }
        }
        languages::of_file(&path.file_name()?.to_string_lossy())
    }

    /// Whether a canon says that a file is left alone.
    pub fn skips(&self, path: &Path) -> bool {
        self.canons.iter().any(|canon| canon.skips(path))
    }

    /// The largest file that is judged, in bytes.
    pub fn largest(&self) -> u64 {
        self.canons.iter().rev().find_map(|canon| canon.largest).unwrap_or(LARGEST)
    }

    /// What the nearest canon that speaks of it says.
    pub fn reach<T>(&self, of: fn(&Reach) -> Option<T>) -> Option<T> {
        self.canons.iter().rev().find_map(|canon| of(&canon.reach))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(text: &str) -> Result<Canon, CanonError> {
        Canon::read(Path::new("kanonix.toml"), text)
    }

    fn message(text: &str) -> String {
        read(text).err().expect("a wrong canon").to_string()
    }

    #[test]
    fn a_language_has_the_last_word() {
        let canon = read("[style]\nindent_size = 2\n[style.python]\nindent_size = 8\n").unwrap();
        let size = |name| canon.style(languages::by_name(name).unwrap()).indent_columns();
        assert_eq!((size("python"), size("javascript")), (8, 2));
    }

    #[test]
    fn what_is_wrong_is_shown_with_its_place() {
        let wrong = [
            "[style]\nqoutes = \"double\"\n",
            "[style.python]\nquotes = \"dubble\"\n",
            "[style.pyhton]\nquotes = \"double\"\n",
            "[style]\nblank_lines = { mots = 1 }\n",
            "[style]\nindent_size = [4]\n",
            "[style.json]\nquotes = \"double\"\n",
            "quotes = \"double\"\n",
            "[reach]\nsave = \"touch\"\n",
            "[files]\nskip = [\"a[\"]\n",
            "[files]\nlanguage = { \"*.tide\" = \"jsn\" }\n",
            "edition = 2\n",
            "needs = \">=9.1\"\n",
            "[style\n",
        ];
        let shown: Vec<String> = wrong.iter().map(|text| message(text)).collect();
        insta::assert_snapshot!(shown.join("\n"));
    }

    #[test]
    fn patterns_skip_files_and_folders() {
        let canon = read("[files]\nskip = [\"third_party/**\", \"*.made.*\", \"old\"]\n").unwrap();
        let skips = |path: &str| canon.skips(Path::new(path));
        assert!(skips("third_party/a/b.py") && skips("deep/x.made.js") && skips("old/a.py"));
        assert!(!skips("gauges/ingest.py"));
    }
}
