//! Which files are looked at, and which of their lines are in play.

mod desk;
mod explain;
mod from_git;
mod idle;
mod loading;
mod merging;
mod paths;
mod select;
mod walking;

pub use desk::Desk;
pub use explain::{Alone, Explained, Occasion, explain};
pub use idle::idle_patterns;
pub use merging::{JudgedBy, Merging};
pub use paths::shown_from;
pub use walking::{Met, is_visible, walk};

use crate::canon::{CanonError, Play, SaveReasons};
use crate::git::{Blobs, GitError, Repository};
use kanonix_core::languages::Language;
use kanonix_core::style::Style;
use kanonix_core::text::{Bases, LineSet, visible};
use std::collections::{BTreeMap, HashMap};
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, OnceLock};
use thiserror::Error;

/// Which lines somebody asked for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Reach {
    /// What the canon's `save` says, else lines touched since the last commit.
    Save,
    /// What the canon's `save` says of a save that nobody asked to mend more than is sure: without
    /// a repository, no line is known to be touched, and without a canon, nothing is agreed.
    Saved {
        /// Whether the community's style counts where nothing is agreed.
        without_canon: bool,
    },
    /// Lines staged for the next commit; the staged contents are read, not the files.
    Staged,
    /// As `Staged`, as far as the canon's `commit` goes.
    Commit,
    /// Lines touched since HEAD left this revision, the files' contents.
    Since(String),
    /// Lines that the commits of a branch changed, as far as the canon's `merge` goes; the
    /// committed contents are read.
    Merge(Merge),
    /// These zero-based lines of the one named file.
    Lines(Vec<Range<usize>>),
    /// All lines.
    Whole,
}

/// A branch that is to be merged.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Merge {
    /// The revision that it is to be merged into.
    pub into: String,
    /// Whose canon judges.
    pub canon_of: CanonOf,
}

/// Whose canon judges what a branch brings.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum CanonOf {
    /// That of what it is to be merged into; its own, where nothing is agreed there.
    #[default]
    Target,
    /// Its own.
    Branch,
}

/// Why a whole run cannot be begun.
#[derive(Debug, Error)]
pub enum WorkError {
    /// The canon is wrong.
    #[error(transparent)]
    Canon(#[from] CanonError),
    /// The canon of one side of a merge is wrong.
    #[error("in {}: {}", visible(.0), .1)]
    CanonOf(String, CanonError),
    /// Git could not say.
    #[error(transparent)]
    Git(#[from] GitError),
    /// A path that is not there.
    #[error("{}: there is no such file or folder", visible(.0))]
    NoSuchPath(String),
    /// A reach that only a repository has.
    #[error(
        "this is not inside a git repository: {0} needs one. Outside of one, use --whole or --lines"
    )]
    NoRepository(&'static str),
    /// No lines, no files, and no repository to say which are touched.
    #[error(
        "this is not inside a git repository, so no line is known to be touched: name the files, or \
         say --whole for all lines of all files below"
    )]
    NothingTouched,
    /// No lines, and a repository that has no files to look at.
    #[error(
        "this git repository has no working tree: say which commits are meant with --since, or use \
         kanonix gate merge"
    )]
    NoWorkingTree,
    /// Lines without the one file that they are of.
    #[error("--lines goes with exactly one file")]
    LinesOfOneFile,
    /// A path in another repository than the first one.
    #[error(
        "{} is not in the repository at {}: run Kanonix once for each repository",
        visible(.0),
        visible(.1)
    )]
    OtherRepository(String, String),
}

/// Why a file is left alone. None of these is anybody's mistake.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Why {
    /// No language is known for it.
    UnknownLanguage,
    /// The canon's `[files] skip`.
    Skipped,
    /// It is larger than the canon's `[files] largest`.
    TooLarge,
    /// Most of it is on lines longer than a person writes, and the canon's `[files] minified` does
    /// not say otherwise.
    Minified,
    /// It holds a zero byte.
    Binary,
    /// It is not in UTF-8.
    NotUtf8,
    /// It is a link out of the repository.
    Link,
    /// It is a pipe, a socket or a device.
    Special,
    /// It is a repository of its own.
    Submodule,
    /// The canon's `[reach]` says `off`.
    Off,
    /// No canon and no `.editorconfig` speaks of it, and nobody has asked for it by hand.
    NotAgreed,
}

impl Why {
    /// For a count: "2 binary".
    pub fn as_str(self) -> &'static str {
        match self {
            Why::UnknownLanguage => "in no known language",
            Why::Skipped => "skipped by the canon",
            Why::TooLarge => "too large",
            Why::Minified => "minified (`[files] minified = \"format\"` lays them out)",
            Why::Binary => "binary",
            Why::NotUtf8 => "not in UTF-8",
            Why::Link => "linking out of the repository",
            Why::Special => "no plain file",
            Why::Submodule => "in a submodule",
            Why::Off => "out of reach by the canon",
            Why::NotAgreed => "without a canon",
        }
    }
}

/// Which files were left alone, and why.
#[derive(Clone, Debug, Default)]
pub struct LeftAlone(BTreeMap<Why, Vec<PathBuf>>);

impl LeftAlone {
    /// Adds a file.
    pub fn add(&mut self, why: Why, path: &Path) {
        self.0.entry(why).or_default().push(path.to_path_buf());
    }

    /// Takes those away that are left alone for a reason.
    pub fn forget(&mut self, why: Why) {
        self.0.remove(&why);
    }

    /// The files that are left alone for a reason.
    pub fn of(&self, why: Why) -> &[PathBuf] {
        self.0.get(&why).map_or(&[], Vec::as_slice)
    }

    /// How many there are for a reason.
    pub fn count(&self, why: Why) -> usize {
        self.of(why).len()
    }

    /// The files, by reason.
    pub fn iter(&self) -> impl Iterator<Item = (Why, &[PathBuf])> {
        self.0.iter().map(|(why, paths)| (*why, paths.as_slice()))
    }
}

/// Where an item's text is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Source {
    /// In the file.
    File,
    /// In the index, with its git mode.
    Staged {
        /// The blob's hash.
        blob: String,
        /// Git's mode of the file, in octal.
        mode: String,
    },
    /// In a commit.
    Committed {
        /// The blob's hash.
        blob: String,
    },
}

/// What an item's text is compared with.
#[derive(Clone, Debug, PartialEq, Eq)]
enum Base {
    /// Nothing: all of it is in play.
    Whole,
    /// There is no earlier version: all of it is in play but what comes in by a merge.
    New,
    /// Nobody knows: nothing is in play.
    Unknown,
    /// These lines.
    Lines(LineSet),
    /// This blob.
    Blob(String),
    /// Whatever this revision has at the path, or had before a rename.
    At(String),
}

/// A file to judge.
#[derive(Clone)]
pub struct Item {
    /// Its absolute path.
    pub path: PathBuf,
    /// Its path from the repository's root, or as it was given outside of one.
    pub inside: PathBuf,
    /// Its path as a person reads it, from the current folder.
    pub shown: String,
    /// Its language.
    pub language: &'static Language,
    /// What is agreed for it.
    pub style: Arc<Style>,
    /// Where its text is.
    pub source: Source,
    /// Whether a stretch that does not parse stops.
    pub faults_stop: bool,
    /// Whether a line stops that is too long and cannot be broken.
    pub long_lines_stop: bool,
    /// Whether it stops that it cannot be read any more.
    pub unreadable_stops: bool,
    /// Whether a new comment stops that asks for lines to be kept.
    pub new_keeps_stop: bool,
    /// Whether a canon or an `.editorconfig` governs it.
    pub is_agreed: bool,
    /// Which saves in an editor mend it.
    pub save_reasons: SaveReasons,
    base: Base,
    /// The blobs of its versions between the base and what is judged, the oldest first.
    way: Vec<String>,
    play: Play,
    largest: u64,
    skips_minified: bool,
}

/// Which lines of a text are in play.
#[derive(Clone, Debug)]
pub enum InPlay {
    /// Those that are in play beside these bases.
    Since(Bases),
    /// These.
    Set(LineSet),
}

impl InPlay {
    /// The lines of `text`.
    pub fn lines(&self, text: &str) -> LineSet {
        match self {
            InPlay::Since(bases) => bases.lines(text),
            InPlay::Set(set) => set.clone(),
        }
    }
}

/// A file's text and what is in play.
pub struct Loaded {
    /// The text.
    pub text: String,
    /// Its lines in play.
    pub play: InPlay,
}

/// What a file was before.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Was {
    /// It is new.
    New,
    /// A text that is judged.
    Readable,
    /// Something that is left alone.
    Unreadable,
    /// Nobody has asked.
    Unknown,
}

/// Why an item has no text.
#[derive(Debug)]
pub enum NotLoaded {
    /// It is left alone.
    LeftAlone(Why),
    /// It should have been read, and could not be.
    Problem(String),
}

/// A reader of git objects that several selections share.
type Reader = Arc<Mutex<Blobs>>;

/// The files of one run.
pub struct Selection {
    /// The repository, if the run is in one.
    pub repository: Option<Repository>,
    /// What is judged, ordered by path.
    pub items: Vec<Item>,
    /// What was left alone before anything was read.
    pub left_alone: LeftAlone,
    /// What is known of the merge, at its gate.
    pub merging: Option<Merging>,
    /// What should have been judged and cannot be: path and reason.
    pub problems: Vec<(String, String)>,
    /// The commits that come in, where a merge or the like is under way.
    parents: Vec<String>,
    blobs: Option<Reader>,
    /// What was read ahead, by its blobs' names.
    ahead: Mutex<HashMap<String, Vec<u8>>>,
    unmerged: OnceLock<Result<Vec<PathBuf>, String>>,
}

/// Said of a file with conflicts.
const UNMERGED: &str = "it is in the middle of a merge: resolve it first; it is left as it is";

/// Finds the files for a reach. Without paths, all that the reach can name; `--whole` then means
/// the current folder.
///
/// # Errors
/// What keeps the whole run from beginning.
pub fn select(current: &Path, paths: &[PathBuf], reach: &Reach) -> Result<Selection, WorkError> {
    select::Selecting::begin(current, paths, reach)?.finish(paths, reach)
}

/// What a branch brings to what it is to be merged into, in a repository that has been found
/// already.
///
/// # Errors
/// As [`select`].
pub fn select_merge(
    current: &Path,
    repository: Repository,
    merge: &Merge,
) -> Result<Selection, WorkError> {
    select::Selecting::merge(current, repository, merge)
}

/// As [`select`] for all lines, as if these texts stood at these paths: canons that nobody has
/// written yet.
///
/// # Errors
/// As [`select`].
pub fn select_under(
    current: &Path,
    paths: &[PathBuf],
    texts: &[(PathBuf, String)],
) -> Result<Selection, WorkError> {
    let mut selecting = select::Selecting::begin(current, paths, &Reach::Whole)?;
    for (path, text) in texts {
        selecting.instead(path, text);
    }
    selecting.finish(paths, &Reach::Whole)
}

/// As [`select`] for one path whose text is somewhere else: the file need not be there.
///
/// # Errors
/// As [`select`].
pub fn select_as(current: &Path, path: &Path, reach: &Reach) -> Result<Selection, WorkError> {
    select::for_text(current, path, None, reach, |folder| Ok((Repository::find(folder)?, None)))
}
