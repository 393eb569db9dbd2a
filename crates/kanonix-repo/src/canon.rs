//! The canon: `kanonix.toml`, found from a file upwards to the repository's root.

pub mod editing;
pub mod editorconfig;
pub mod followed;
mod changes;
mod governing;
mod reading;
pub mod schema;
pub mod words;

pub use changes::{CanonChange, changes};
pub(crate) use governing::text_of;
pub use governing::{
    Agreed, Because, Canons, Governing, Idle, LARGEST_CANON, LayerId, NotRead, SaidAt, ReadCanon,
    Said,
};
use followed::Team;
use globset::GlobMatcher;
use kanonix_core::languages::Language;
use kanonix_core::style::{Slot, Style};
use kanonix_core::text::{Lines, visible};
use reading::Reading;
use std::cell::{Cell, RefCell};
use std::collections::HashMap;
use std::ops::Range;
use std::path::{Path, PathBuf};
use thiserror::Error;
use toml_edit::Document;

/// The file's name.
pub const FILE_NAME: &str = "kanonix.toml";

/// Reads the text of a file below a root that may say how others are laid out; `None` where there
/// is none.
///
/// # Errors
/// If it is no such file: a link out of the root, a pipe, larger than [`LARGEST_CANON`].
pub fn text_at(root: &Path, path: &Path) -> Result<Option<String>, CanonError> {
    governing::text_on_disk(root, path).map_err(|why| CanonError::unreadable(path, &why))
}

/// The names of the files that may say how other files are laid out.
pub fn names() -> [&'static str; 2] {
    [FILE_NAME, editorconfig::FILE_NAME]
}

/// Whether a path is that of a canon or of a followed canon's copy.
pub fn is_canon(path: &Path) -> bool {
    path.file_name().is_some_and(|name| name == FILE_NAME) || path.ends_with(followed::PATH)
}

/// The meaning of the settings that this program knows.
const EDITION: i64 = 1;

/// Files larger than this are left alone, unless `[files] largest` says otherwise. In bytes.
pub const LARGEST: u64 = 4 * 1024 * 1024;

/// So many characters before and behind a place are shown.
const LONGEST_EXCERPT: usize = 80;

/// Why a canon cannot be used. Nothing is judged then.
#[derive(Debug, Error)]
#[error("{}: {}{excerpt}{}", visible(.place), visible(.message), behind(.more))]
pub struct CanonError {
    /// Path, line and column.
    place: String,
    /// What is wrong, and what would be right.
    message: String,
    /// The line on a line of its own, with a mark under the place; or nothing.
    excerpt: String,
    /// What else is wrong.
    more: Vec<CanonError>,
}

/// So many things that are wrong are shown at once.
const MOST_SHOWN: usize = 12;

/// What else is wrong, each on lines of its own.
fn behind(more: &[CanonError]) -> String {
    let shown: String = more.iter()
        .take(MOST_SHOWN - 1)
        .map(|error| format!("\n{error}"))
        .collect();
    match more.len().saturating_sub(MOST_SHOWN - 1) {
        0 => shown,
        hidden => format!("{shown}\nand {hidden} more"),
    }
}

impl CanonError {
    fn new(path: &Path, text: &str, span: Range<usize>, message: String) -> CanonError {
        let lines = Lines::new(text);
        let start = span.start.min(text.len());
        let (line, column) = lines.place(text, start);
        let source = text.lines().nth(line - 1).unwrap_or_default();
        let number = line.to_string();
        // Of a long line, what is around the place is shown.
        let skipped = (column - 1).saturating_sub(LONGEST_EXCERPT);
        let source: String = source.chars().skip(skipped).take(2 * LONGEST_EXCERPT).collect();
        let inside = column - 1 - skipped;
        let before: String = source.chars().take(inside).collect();
        let before = visible(&before.replace('\t', " ")).chars().count();
        let rest: String = source.chars().skip(inside).collect();
        let marked = text.get(span).and_then(|marked| marked.lines().next()).unwrap_or_default();
        let width = |text: &str| visible(&text.replace('\t', " ")).chars().count();
        let mark = "^".repeat(width(marked).clamp(1, width(&rest).max(1)));
        let margin = " ".repeat(number.len());
        let source = visible(&source.replace('\t', " ")).into_owned();
        CanonError {
            place: format!("{}:{line}:{column}", path.display()),
            message,
            excerpt: format!(
                "\n  {number} | {source}\n  {margin} | {}{mark}",
                " ".repeat(before)
            ),
            more: Vec::new(),
        }
    }

    /// A message about a place whose text is not at hand.
    fn said(place: String, message: String) -> CanonError {
        CanonError { place, message, excerpt: String::new(), more: Vec::new() }
    }

    /// All that is wrong in one canon.
    fn all(mut wrong: Vec<CanonError>) -> Result<(), CanonError> {
        if wrong.is_empty() {
            return Ok(());
        }
        let mut first = wrong.remove(0);
        first.more = wrong;
        Err(first)
    }

    /// What is wrong first, without its place.
    pub fn message(&self) -> &str {
        &self.message
    }

    pub(crate) fn unreadable(path: &Path, why: &NotRead) -> CanonError {
        let message = match why {
            NotRead::LeadsOut => "it is a link that leads out of the repository, and is not \
                                  followed: put a file in its place"
            .into(),
            NotRead::NotThis(what) => format!("it cannot be read: {what}"),
            NotRead::Git(error) => format!("it cannot be read: {error}"),
        };
        CanonError::said(path.display().to_string(), message)
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
    /// None.
    Off,
}

/// Which saves in an editor mend, by what made the editor save.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct SaveReasons {
    /// Somebody asked for it.
    pub manual: bool,
    /// The editor did it by itself, after a while.
    pub after_delay: bool,
    /// The editor did it by itself, as somebody went elsewhere.
    pub focus_out: bool,
}

impl Default for SaveReasons {
    fn default() -> SaveReasons {
        SaveReasons { manual: true, after_delay: false, focus_out: false }
    }
}

/// A value that a canon gives, and the line that gives it, counted from 1.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Spoken<T> {
    /// The value.
    pub value: T,
    /// The line.
    pub line: usize,
}

/// What `[reach]` says.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct ReachTable {
    /// For `check` and `mend` without a word about the reach.
    pub save: Option<Spoken<Play>>,
    /// For the commit gate.
    pub commit: Option<Spoken<Play>>,
    /// For the merge gate.
    pub merge: Option<Spoken<Play>>,
    /// For a save of a file that is in no repository to compare it with.
    pub save_without_git: Option<Spoken<Play>>,
    /// Which saves in an editor mend.
    pub save_reasons: Option<Spoken<SaveReasons>>,
    /// Whether a stretch that does not parse stops.
    pub faults_stop: Option<Spoken<bool>>,
    /// Whether a line stops that is too long and cannot be broken.
    pub long_lines_stop: Option<Spoken<bool>>,
    /// Whether a file stops that could be read before, and cannot be now.
    pub unreadable_stops: Option<Spoken<bool>>,
    /// Whether a new comment stops that asks for lines to be kept.
    pub new_keeps_stop: Option<Spoken<bool>>,
}

/// One value that is given to a setting.
#[derive(Clone, Debug)]
struct Assignment {
    name: String,
    key: String,
    value: String,
    line: usize,
}

/// A pattern for paths, as somebody wrote it.
#[derive(Clone, Debug)]
pub struct Pattern {
    /// The pattern's own text.
    pub text: String,
    /// The line that it stands on, counted from 1.
    pub line: usize,
    glob: GlobMatcher,
}

/// Which language files are that a pattern names, or a program after `#!`.
struct Naming {
    pattern: Result<Pattern, (String, usize)>,
    language: &'static Language,
}

/// What a table of styles says: of every language, and of single ones.
#[derive(Default)]
struct Styles {
    every: Vec<Assignment>,
    own: HashMap<&'static str, Vec<Assignment>>,
}

impl Styles {
    /// What is said of a language, the weakest first.
    fn of(&self, language: &Language) -> impl Iterator<Item = &Assignment> {
        let followed = language.follows.and_then(|name| self.own.get(name));
        let own = self.own.get(language.name);
        self.every.iter().chain(followed.into_iter().chain(own).flatten())
    }
}

/// A part of the tree with its own agreement.
#[derive(Default)]
struct Part {
    paths: Vec<Pattern>,
    reach: ReachTable,
    style: Styles,
}

/// One `kanonix.toml`.
pub struct Canon {
    /// The file.
    pub path: PathBuf,
    /// The folder that it governs.
    folder: PathBuf,
    /// What `[reach]` says.
    pub reach: ReachTable,
    /// The largest file that is judged, in bytes, if it says so.
    pub largest: Option<Spoken<u64>>,
    /// Whether minified files are laid out, if it says so.
    pub minified: Option<Spoken<bool>>,
    /// The canon of other people that it goes on from.
    pub team: Option<Team>,
    editorconfig: Option<bool>,
    skip: Vec<Pattern>,
    languages: Vec<Naming>,
    basis: Vec<Assignment>,
    style: Styles,
    parts: Vec<Part>,
}

impl Canon {
    /// Reads a canon from its text.
    ///
    /// # Errors
    /// All that is wrong, each with its line.
    pub fn read(path: &Path, text: &str) -> Result<Canon, CanonError> {
        let document = Document::parse(text).map_err(|error| {
            let span = error.span().unwrap_or(0..0);
            let message = format!("this is not TOML: {}", error.message());
            CanonError::new(path, text, span, message)
        })?;
        let mut reading = Reading {
            path,
            text,
            patterns: Cell::new(0),
            wrong: RefCell::default(),
            canon: Canon {
                path: path.to_path_buf(),
                folder: path.parent().unwrap_or(Path::new("")).to_path_buf(),
                reach: ReachTable::default(),
                largest: None,
                minified: None,
                team: None,
                editorconfig: None,
                skip: Vec::new(),
                languages: Vec::new(),
                basis: Vec::new(),
                style: Styles::default(),
                parts: Vec::new(),
            },
        };
        reading.document(document.as_table());
        CanonError::all(reading.wrong.take())?;
        Ok(reading.canon)
    }

    /// What this canon alone says of a language, the weakest first; its parts aside.
    fn said_of(&self, language: &Language) -> impl Iterator<Item = &Assignment> {
        self.basis.iter().chain(self.style.of(language))
    }

    /// The style that this canon alone gives a language.
    pub fn style(&self, language: &Language) -> Style {
        let mut style = language.style();
        for said in self.said_of(language) {
            // Checked when the canon was read.
            let has = |slot: &Slot| language.has_slot(slot);
            let _ = style.set_where(has, &said.name, &said.key, &said.value);
        }
        language
            .embedded()
            .fold(style, |style, inner| style.embedding(inner.name, self.style(inner)))
    }

    /// Whether it has parts of the tree with an agreement of their own.
    pub fn has_parts(&self) -> bool {
        !self.parts.is_empty()
    }

    /// The patterns of `[files] skip`, as somebody wrote them.
    pub fn skipped(&self) -> impl Iterator<Item = &str> {
        self.skip.iter().map(|pattern| pattern.text.as_str())
    }

    /// Every pattern for paths that this canon has.
    fn patterns(&self) -> impl Iterator<Item = &Pattern> {
        let named = self.languages.iter().filter_map(|naming| naming.pattern.as_ref().ok());
        let of_parts = self.parts.iter().flat_map(|part| &part.paths);
        self.skip.iter().chain(named).chain(of_parts)
    }

    /// The pattern of `[files] skip` that matches a path.
    fn skips(&self, path: &Path) -> Option<&Pattern> {
        let inside = path.strip_prefix(&self.folder).ok()?;
        self.skip.iter().find(|pattern| pattern.matches(inside))
    }
}

impl Pattern {
    /// Whether it matches a path or a folder that the path is in.
    fn matches(&self, inside: &Path) -> bool {
        let named = |part: &&Path| !part.as_os_str().is_empty();
        inside.ancestors().filter(named).any(|part| self.glob.is_match(part))
    }
}

impl Part {
    fn covers(&self, inside: &Path) -> bool {
        self.paths.iter().any(|pattern| pattern.matches(inside))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    use kanonix_core::languages;

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
        let skips = |path: &str| canon.skips(Path::new(path)).is_some();
        assert!(skips("third_party/a/b.py") && skips("deep/x.made.js") && skips("old/a.py"));
        assert!(!skips("gauges/ingest.py"));
    }
}
