//! From a reach and some paths to the files that are judged.

use super::paths::{folder_of, in_scope, led_out, present, root_of, shown_from};
use super::walking::{Met, walk};
use super::{Base, Item, LeftAlone, Reach, Reader, Selection, Source, UNMERGED, Why, WorkError};
use super::from_git::{FEW, at_once, committed, needs_blobs, staged_in};
use crate::canon::{Canons, Governing, LayerId, Play, Reach as Said, Spoken};
use crate::files::{self, Unread};
use crate::git::{Change, GitError, Repository};
use kanonix_core::languages::Language;
use kanonix_core::text::LineSet;
use std::collections::{HashMap, HashSet};
use std::io::Read;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

/// A first line longer than this names no program. In bytes.
const LONGEST_FIRST_LINE: u64 = 256;

/// Which word of the canon's `[reach]` is asked for.
type Asked = fn(&Said) -> Option<Spoken<Play>>;

/// What tells one agreed style from another: language, folder, and what else speaks of the file.
type StyleKey = (&'static str, PathBuf, Vec<LayerId>);

pub(super) struct Selecting {
    current: PathBuf,
    repository: Option<Repository>,
    root: PathBuf,
    canons: Canons,
    /// What differs between the last commit and the index, where that was asked for.
    staged: Vec<Change>,
    items: Vec<Item>,
    left_alone: LeftAlone,
    problems: Vec<(String, String)>,
    styles: HashMap<StyleKey, Arc<kanonix_core::style::Style>>,
    /// By path from the root: the blobs of a file's versions since the base, the oldest first.
    ways: HashMap<PathBuf, Vec<String>>,
    /// The language of a text whose name says nothing.
    instead_of_name: Option<&'static Language>,
    /// Whether files are left alone for which nothing is agreed.
    only_agreed: bool,
    /// Reads the contents, and the first lines of files whose names say nothing.
    blobs: Option<Reader>,
}

impl Selecting {
    pub fn begin(current: &Path, paths: &[PathBuf], reach: &Reach) -> Result<Selecting, WorkError> {
        let current = std::fs::canonicalize(current)
            .map_err(|_| WorkError::NoSuchPath(current.display().to_string()))?;
        let first = match paths.first() {
            Some(path) => {
                let whole = present(&current, path)?;
                // A link belongs to the repository that it stands in, wherever it leads.
                match led_out(&current, path) {
                    Some(folder) => folder,
                    None => folder_of(&whole),
                }
            }
            None => current.clone(),
        };
        Selecting::in_folder(current, &first, reach)
    }

    fn in_folder(current: PathBuf, folder: &Path, reach: &Reach) -> Result<Selecting, WorkError> {
        let mut changes = None;
        let repository = match reach {
            // Without a repository to ask, whole files need no git at all.
            Reach::Whole | Reach::Lines(_) => Repository::find(folder).unwrap_or(None),
            Reach::Staged | Reach::Commit => {
                let found = Repository::find_with_staged(folder)?;
                found.map(|(repository, staged)| {
                    changes = staged;
                    repository
                })
            }
            Reach::Since(_) | Reach::Merge(_) => Repository::find_any(folder)?,
            _ => Repository::find(folder)?,
        };
        let root = root_of(repository.as_ref());
        // Where there is no working tree, what is committed is judged.
        let is_bare = repository.as_ref().is_some_and(|repository| repository.is_bare);
        let committed_alone = is_bare || matches!(reach, Reach::Merge(_));
        let in_git = committed_alone || matches!(reach, Reach::Staged | Reach::Commit);
        let reader = || match &repository {
            Some(repository) if in_git => repository.blobs().map(Some),
            _ => Ok(None),
        };
        let (for_canons, blobs) = (reader()?, reader()?);
        let blobs = blobs.map(|blobs| Arc::new(Mutex::new(blobs)));
        let mut staged = Vec::new();
        let canons = match (&repository, for_canons) {
            (Some(_), Some(reader)) if committed_alone => committed(reader, &root, None),
            (Some(repository), Some(reader)) => {
                let changes = match changes {
                    Some(changes) => changes,
                    None => staged_in(repository)?,
                };
                let canons = committed(reader, &root, Some(&changes));
                staged = changes.0;
                canons
            }
            _ => Canons::on_disk(&root),
        };
        Ok(Selecting { staged, canons, ..Selecting::beside(current, repository, blobs) })
    }

    /// Reads this text in place of the canon at a path.
    pub fn instead(&mut self, path: &Path, text: &str) {
        let folder = path.parent().and_then(|folder| std::fs::canonicalize(folder).ok());
        let path = match (folder, path.file_name()) {
            (Some(folder), Some(name)) => folder.join(name),
            _ => path.to_path_buf(),
        };
        self.canons.instead(&path, text);
    }

    /// What is known of a repository before anything is asked, or outside of one.
    fn beside(
        current: PathBuf,
        repository: Option<Repository>,
        blobs: Option<Reader>,
    ) -> Selecting {
        let root = root_of(repository.as_ref());
        Selecting {
            canons: Canons::on_disk(&root),
            staged: Vec::new(),
            blobs,
            current,
            repository,
            root,
            items: Vec::new(),
            left_alone: LeftAlone::default(),
            problems: Vec::new(),
            styles: HashMap::new(),
            ways: HashMap::new(),
            instead_of_name: None,
            only_agreed: false,
        }
    }

    pub fn finish(mut self, paths: &[PathBuf], reach: &Reach) -> Result<Selection, WorkError> {
        self.only_agreed = *reach == Reach::Saved { without_canon: false };
        let named = self.named(paths)?;
        if named.is_empty() && !paths.is_empty() {
            self.canons.governing(&self.root.join("any"))?;
            return self.end();
        }
        match reach {
            Reach::Whole => self.whole(&named)?,
            Reach::Lines(ranges) => {
                let [file] = &named[..] else { return Err(WorkError::LinesOfOneFile) };
                if file.is_dir() {
                    return Err(WorkError::LinesOfOneFile);
                }
                self.file(file, Base::Lines(LineSet::of(ranges.clone())))?;
            }
            Reach::Save | Reach::Saved { .. } if self.repository.is_none() => {
                if named.is_empty() || named.iter().any(|path| path.is_dir()) {
                    return Err(match Repository::find_any(&self.current)? {
                        Some(_) => WorkError::NoWorkingTree,
                        None => WorkError::NothingTouched,
                    });
                }
                match reach {
                    Reach::Save => self.whole(&named)?,
                    _ => {
                        for path in &named {
                            self.saved(path, Base::Unknown)?;
                        }
                    }
                }
            }
            Reach::Save | Reach::Saved { .. } => self.touched(&named)?,
            Reach::Staged => self.staged(&named, |_| None)?,
            Reach::Commit => self.staged(&named, |reach| reach.commit)?,
            Reach::Since(revision) if self.is_bare() => {
                self.commits_since(&named, revision, |reach| reach.save)?;
            }
            Reach::Since(revision) => self.since(&named, revision)?,
            Reach::Merge(revision) => self.commits_since(&[], revision, |reach| reach.merge)?,
        }
        // A wrong canon is said even where nothing is judged.
        self.canons.governing(&self.root.join("any"))?;
        self.end()
    }

    fn end(mut self) -> Result<Selection, WorkError> {
        self.items.sort_by(|a, b| a.path.cmp(&b.path));
        self.items.dedup_by(|a, b| a.path == b.path);
        let blobs = match &self.repository {
            Some(repository) if self.items.iter().any(needs_blobs) => match self.blobs.take() {
                Some(blobs) => Some(blobs),
                None => Some(Arc::new(Mutex::new(repository.blobs()?))),
            },
            _ => None,
        };
        let read = match &blobs {
            Some(blobs) if self.items.len() <= FEW => {
                let mut blobs = blobs.lock().unwrap_or_else(|poisoned| poisoned.into_inner());
                at_once(&mut blobs, &self.items)
            }
            _ => HashMap::new(),
        };
        let parents = match &self.repository {
            Some(repository) => repository.coming_in()?,
            None => Vec::new(),
        };
        Ok(Selection {
            parents,
            repository: self.repository,
            items: self.items,
            left_alone: self.left_alone,
            problems: self.problems,
            blobs,
            read,
            unmerged: OnceLock::new(),
        })
    }

    /// The paths that were named, whole. None of them may be missing or in another repository; a
    /// link that leads out of the repository is left alone.
    fn named(&mut self, paths: &[PathBuf]) -> Result<Vec<PathBuf>, WorkError> {
        let mut named = Vec::new();
        for path in paths {
            let whole = present(&self.current, path)?;
            if led_out(&self.current, path).is_some() {
                self.leave(Why::Link, &self.current.join(path));
            } else if whole.starts_with(&self.root) {
                named.push(whole);
            } else {
                let shown = path.display().to_string();
                return Err(WorkError::OtherRepository(shown, self.root.display().to_string()));
            }
        }
        Ok(named)
    }

    fn repository(&self, what: &'static str) -> Result<&Repository, WorkError> {
        self.repository.as_ref().ok_or(WorkError::NoRepository(what))
    }

    fn leave(&mut self, why: Why, path: &Path) {
        self.left_alone.add(why, path);
    }

    fn whole(&mut self, named: &[PathBuf]) -> Result<(), WorkError> {
        let here = [self.current.clone()];
        for path in if named.is_empty() { &here[..] } else { named } {
            self.walk(path)?;
        }
        Ok(())
    }

    fn walk(&mut self, path: &Path) -> Result<(), WorkError> {
        if !path.is_dir() {
            return self.file(path, Base::Whole);
        }
        for met in walk(path) {
            match met {
                Met::Folder(_) => {}
                Met::File(path) => self.file(&path, Base::Whole)?,
                Met::Link(path) => self.link(&path),
                Met::Special(path) => self.leave(Why::Special, &path),
                Met::Module(path) => self.leave(Why::Submodule, &path),
                Met::Unread(path, why) => self.problems.push((self.shown(&path), why)),
            }
        }
        Ok(())
    }

    /// A link inside the repository leads to a file that is met by itself; others are left alone.
    fn link(&mut self, path: &Path) {
        let inside = std::fs::canonicalize(path).is_ok_and(|to| to.starts_with(&self.root));
        if !inside || self.repository.is_none() {
            self.leave(Why::Link, path);
        }
    }

    fn touched(&mut self, named: &[PathBuf]) -> Result<(), WorkError> {
        let repository = self.repository("this")?.clone();
        let files_only = !named.is_empty() && named.iter().all(|path| path.is_file());
        if files_only {
            // No need to ask about any other file.
            for path in named {
                self.saved(path, Base::At("HEAD".into()))?;
            }
            return Ok(());
        }
        self.files_since(&repository, repository.head()?, named)
    }

    fn since(&mut self, named: &[PathBuf], revision: &str) -> Result<(), WorkError> {
        let repository = self.repository("--since")?.clone();
        let base = repository.merge_base(revision)?;
        self.ways = repository.ways(&base)?;
        self.files_since(&repository, Some(base), named)
    }

    /// The files that differ from a commit, and those that git does not know.
    fn files_since(
        &mut self,
        repository: &Repository,
        base: Option<String>,
        named: &[PathBuf],
    ) -> Result<(), WorkError> {
        let mut new = repository.untracked()?;
        let mut known = HashSet::new();
        match base {
            Some(base) => {
                for change in repository.changed_files(&base, &new)? {
                    let path = self.root.join(&change.path);
                    if !in_scope(&path, named) || self.is_special(&change, &path) {
                        continue;
                    }
                    known.insert(change.path);
                    self.saved(&path, change.base.map_or(Base::New, Base::Blob))?;
                }
            }
            None => new.extend(repository.tracked()?),
        }
        for inside in new.into_iter().filter(|inside| !known.contains(inside)) {
            let path = self.root.join(inside);
            if !in_scope(&path, named) {
                continue;
            }
            match path.symlink_metadata().map(|found| found.file_type()) {
                Ok(kind) if kind.is_symlink() => self.link(&path),
                Ok(kind) if kind.is_file() => self.saved(&path, Base::New)?,
                Ok(kind) if !kind.is_dir() => self.leave(Why::Special, &path),
                _ => {}
            }
        }
        Ok(())
    }

    /// Says what git keeps under a path that is no file of text to be judged.
    fn is_special(&mut self, change: &Change, path: &Path) -> bool {
        if change.unmerged {
            self.problems.push((self.shown(path), UNMERGED.into()));
            return true;
        }
        if change.is_submodule() {
            self.leave(Why::Submodule, path);
            return true;
        }
        if change.is_link() || path.is_symlink() {
            self.link(path);
            return true;
        }
        false
    }

    fn staged(
        &mut self,
        named: &[PathBuf],
        play: Asked,
    ) -> Result<(), WorkError> {
        self.repository("--staged")?;
        for change in std::mem::take(&mut self.staged) {
            let path = self.root.join(&change.path);
            if in_scope(&path, named) && !self.is_special_in_git(&change, &path) {
                let source = change.now.clone().map(|blob| Source::Staged {
                    blob,
                    mode: change.mode.clone(),
                });
                self.blob(&path, change, source, play)?;
            }
        }
        Ok(())
    }

    fn is_bare(&self) -> bool {
        self.repository.as_ref().is_some_and(|repository| repository.is_bare)
    }

    /// The files that the commits since a revision have changed, as the last of them has them.
    fn commits_since(
        &mut self,
        named: &[PathBuf],
        revision: &str,
        play: Asked,
    ) -> Result<(), WorkError> {
        let repository = self.repository("a merge gate")?.clone();
        let base = repository.merge_base(revision)?;
        self.ways = repository.ways(&base)?;
        for change in repository.between(&base, "HEAD")? {
            let path = self.root.join(&change.path);
            if in_scope(&path, named) && !self.is_special_in_git(&change, &path) {
                let source = change.now.clone().map(|blob| Source::Committed { blob });
                self.blob(&path, change, source, play)?;
            }
        }
        Ok(())
    }

    fn is_special_in_git(&mut self, change: &Change, path: &Path) -> bool {
        if change.is_link() {
            self.leave(Why::Link, path);
            return true;
        }
        (change.unmerged || change.is_submodule()) && self.is_special(change, path)
    }

    fn blob(
        &mut self,
        path: &Path,
        change: Change,
        source: Option<Source>,
        play: Asked,
    ) -> Result<(), WorkError> {
        let Some(source) = source else { return Ok(()) };
        let base = change.base.map_or(Base::New, Base::Blob);
        self.add(path, source, base, play)
    }

    /// A file of the working tree, as far as the canon's `save` goes.
    fn saved(&mut self, path: &Path, base: Base) -> Result<(), WorkError> {
        self.add(path, Source::File, base, |reach| reach.save)
    }

    /// A file of the working tree, whatever the canon's `[reach]` says.
    fn file(&mut self, path: &Path, base: Base) -> Result<(), WorkError> {
        self.add(path, Source::File, base, |_| None)
    }

    fn add(
        &mut self,
        path: &Path,
        source: Source,
        base: Base,
        play: Asked,
    ) -> Result<(), WorkError> {
        let canon = self.canons.governing(path)?;
        let Some(language) = self.language(&canon, path, &source)? else {
            // Our own files are read, not judged.
            let name = path.file_name().unwrap_or_default();
            if !crate::canon::names().iter().any(|own| name == *own) {
                self.leave(Why::UnknownLanguage, path);
            }
            return Ok(());
        };
        if self.only_agreed && canon.is_empty() {
            self.leave(Why::NotAgreed, path);
            return Ok(());
        }
        let play = canon.reach(path, play).map(|(play, _)| play).unwrap_or_default();
        let whole = |(play, _)| play == Play::Whole;
        let base = match base {
            Base::Unknown if canon.reach(path, |r| r.save_without_git).is_some_and(whole) => {
                Base::Whole
            }
            base => base,
        };
        if canon.skips(path).is_some() || play == Play::Off {
            self.leave(if play == Play::Off { Why::Off } else { Why::Skipped }, path);
            return Ok(());
        }
        let folder = path.parent().unwrap_or(path).to_path_buf();
        let style = self.styles.entry((language.name, folder, canon.layers(path)));
        let style = style.or_insert_with(|| Arc::new(canon.style(path, language))).clone();
        let inside = path.strip_prefix(&self.root).unwrap_or(path).to_path_buf();
        self.items.push(Item {
            way: self.ways.remove(&inside).unwrap_or_default(),
            path: path.to_path_buf(),
            inside,
            shown: self.shown(path),
            language,
            style,
            source,
            faults_stop: canon.reach(path, |r| r.faults_stop).is_some_and(|(stop, _)| stop),
            long_lines_stop: canon
                .reach(path, |r| r.long_lines_stop)
                .is_some_and(|(stop, _)| stop),
            is_agreed: !canon.is_empty(),
            save_reasons: canon
                .reach(path, |r| r.save_reasons)
                .map(|(reasons, _)| reasons)
                .unwrap_or_default(),
            base,
            play,
            largest: canon.largest().0,
        });
        Ok(())
    }

    /// The language of a file; only one whose name says nothing is opened for it.
    fn language(
        &mut self,
        canon: &Governing,
        path: &Path,
        source: &Source,
    ) -> Result<Option<&'static Language>, WorkError> {
        if self.instead_of_name.is_some() {
            return Ok(self.instead_of_name);
        }
        let (repository, blobs) = (&self.repository, &mut self.blobs);
        let (mut problem, mut unread) = (None, None);
        let first_line = || match source {
            Source::File => match files::open(path) {
                Ok(file) => first_line_of(file),
                Err(Unread::Refused(error)) => {
                    unread = Some(format!("what language it is in cannot be read: {error}"));
                    None
                }
                Err(_) => None,
            },
            Source::Staged { blob, .. } | Source::Committed { blob } => {
                let mut read = || -> Result<Vec<u8>, GitError> {
                    let reader = match (&*blobs, repository) {
                        (Some(reader), _) => reader.clone(),
                        (None, Some(repository)) => Arc::new(Mutex::new(repository.blobs()?)),
                        (None, None) => return Ok(Vec::new()),
                    };
                    let reader = blobs.insert(reader);
                    reader.lock().unwrap_or_else(PoisonError::into_inner).read(blob)
                };
                match read() {
                    Ok(bytes) => first_line_of(&bytes[..]),
                    Err(error) => {
                        problem = Some(error);
                        None
                    }
                }
            }
        };
        let found = canon.language(path, first_line)?.map(|(language, _)| language);
        self.problems.extend(unread.map(|why| (shown_from(&self.current, path), why)));
        match problem {
            // A text whose first line is not known is in no known language for no good reason.
            Some(error) => Err(error.into()),
            None => Ok(found),
        }
    }

    /// A path as a person in the current folder writes it.
    fn shown(&self, path: &Path) -> String {
        shown_from(&self.current, path)
    }
}

/// One path whose text is somewhere else. `find` gives the repository of a folder, and a reader of
/// its objects if one is there already.
pub(super) fn for_text(
    current: &Path,
    path: &Path,
    language: Option<&'static Language>,
    reach: &Reach,
    find: impl FnOnce(&Path) -> Result<(Option<Repository>, Option<Reader>), WorkError>,
) -> Result<Selection, WorkError> {
    let missing = |path: &Path| WorkError::NoSuchPath(path.display().to_string());
    let current = std::fs::canonicalize(current).map_err(|_| missing(current))?;
    let whole = current.join(path);
    let (Some(folder), Some(name)) = (whole.parent(), whole.file_name()) else {
        return Err(missing(path));
    };
    let folder = std::fs::canonicalize(folder).map_err(|_| missing(folder))?;
    let (repository, blobs) = match find(&folder) {
        Ok(found) => found,
        // Without a repository to ask, whole files need no git at all.
        Err(_) if matches!(reach, Reach::Whole | Reach::Lines(_)) => (None, None),
        Err(error) => return Err(error),
    };
    let mut selecting = Selecting::beside(current, repository, blobs);
    selecting.instead_of_name = language;
    selecting.only_agreed = *reach == Reach::Saved { without_canon: false };
    let whole = folder.join(name);
    match reach {
        Reach::Whole => selecting.file(&whole, Base::Whole)?,
        Reach::Lines(ranges) => {
            selecting.file(&whole, Base::Lines(LineSet::of(ranges.clone())))?;
        }
        Reach::Since(revision) => {
            let repository = selecting.repository("--since")?;
            let base = repository.merge_base(revision)?;
            let ways = repository.ways(&base)?;
            selecting.ways = ways;
            selecting.saved(&whole, Base::At(base))?;
        }
        Reach::Saved { .. } if selecting.repository.is_none() => {
            selecting.saved(&whole, Base::Unknown)?;
        }
        _ if selecting.repository.is_none() => selecting.file(&whole, Base::Whole)?,
        _ => {
            selecting.saved(&whole, Base::At("HEAD".into()))?;
        }
    }
    selecting.end()
}

/// The first line of a text, if it is short enough to name a program.
pub(super) fn first_line_of(text: impl Read) -> Option<String> {
    let mut bytes = Vec::new();
    text.take(LONGEST_FIRST_LINE).read_to_end(&mut bytes).ok()?;
    let line = bytes.split(|byte| *byte == b'\n').next()?;
    Some(String::from_utf8_lossy(line).trim_end_matches('\r').to_string())
}
