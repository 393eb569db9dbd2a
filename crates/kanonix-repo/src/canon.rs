//! The canon: `kanonix.toml`, found from a file upwards to the repository's root.

mod reading;

use globset::GlobSet;
use kanonix_core::languages::{self, Language};
use kanonix_core::style::Style;
use kanonix_core::text::Lines;
use reading::Reading;
use std::collections::HashMap;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use thiserror::Error;
use toml_edit::Document;

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
        let marked = text.get(span).and_then(|marked| marked.lines().next()).unwrap_or_default();
        let length = marked.chars().count();
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
    /// Whether a line stops that is too long and cannot be broken.
    pub long_lines_stop: Option<bool>,
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
        let followed = language.follows.and_then(|name| self.language_style.get(name));
        let own = self.language_style.get(language.name);
        let own = followed.into_iter().chain(own).flatten();
        for set in self.style.iter().chain(own) {
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
            let named = canon.languages.iter().find(|(glob, _)| glob.is_match(inside));
            if let Some((_, language)) = named {
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
