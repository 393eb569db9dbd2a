//! From a reach and some paths to the files that are judged.

mod adding;
mod differing;
mod text;

pub(super) use adding::beginning_of;
pub(super) use text::for_text;
use super::paths::{folder_of, led_out, present, root_of, shown_from};
use super::walking::{Met, walk};
use super::merging::Merging;
use super::{Base, Item, LeftAlone, Merge, Reach, Reader, Selection, Why, WorkError};
use super::from_git::{committed, needs_blobs, staged_in};
use crate::canon::{Canons, LayerId, Play, ReachTable, Spoken};
use crate::git::{Change, Repository, Staged};
use kanonix_core::languages::Language;
use kanonix_core::text::LineSet;
use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, OnceLock};

/// Which word of the canon's `[reach]` is asked for.
type Asked = fn(&ReachTable) -> Option<Spoken<Play>>;

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
    /// What is known of the merge, at its gate.
    pub(super) merging: Option<Merging>,
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

    /// What a merge would bring, in a repository that has been found already.
    pub fn merge(
        current: &Path,
        repository: Repository,
        merge: &Merge,
    ) -> Result<Selection, WorkError> {
        let current = std::fs::canonicalize(current)
            .map_err(|_| WorkError::NoSuchPath(current.display().to_string()))?;
        let reach = Reach::Merge(merge.clone());
        Selecting::in_repository(current, Some(repository), None, &reach)?.finish(&[], &reach)
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
        Selecting::in_repository(current, repository, changes, reach)
    }

    fn in_repository(
        current: PathBuf,
        repository: Option<Repository>,
        changes: Option<Staged>,
        reach: &Reach,
    ) -> Result<Selecting, WorkError> {
        let root = root_of(repository.as_ref());
        // Where there is no working tree, what is committed is judged.
        let is_bare = repository.as_ref().is_some_and(|repository| repository.is_bare);
        let committed_alone = is_bare || matches!(reach, Reach::Merge(_));
        let in_git = committed_alone || matches!(reach, Reach::Staged | Reach::Commit);
        let reader = || match &repository {
            Some(repository) if in_git => repository.blobs().map(Some),
            _ => Ok(None),
        };
        let (mut for_canons, blobs) = (reader()?, reader()?);
        let blobs = blobs.map(|blobs| Arc::new(Mutex::new(blobs)));
        let merging = match (&repository, &mut for_canons, reach) {
            (Some(repository), Some(reader), Reach::Merge(merge)) => {
                Some(Merging::begin(repository, reader, merge)?)
            }
            _ => None,
        };
        let judging = merging.as_ref().map_or("HEAD", Merging::judging);
        let mut staged = Vec::new();
        let canons = match (&repository, for_canons) {
            (Some(_), Some(reader)) if committed_alone => {
                committed(reader, &root, judging, None)
            }
            (Some(repository), Some(reader)) => {
                let changes = match changes {
                    Some(changes) => changes,
                    None => staged_in(repository)?,
                };
                let canons = committed(reader, &root, "HEAD", Some(&changes));
                staged = changes.0;
                canons
            }
            _ => Canons::on_disk(&root),
        };
        Ok(Selecting { staged, canons, merging, ..Selecting::beside(current, repository, blobs) })
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
            merging: None,
            instead_of_name: None,
            only_agreed: false,
        }
    }

    pub fn finish(self, paths: &[PathBuf], reach: &Reach) -> Result<Selection, WorkError> {
        // A merge has two canons: which one is wrong is said with it.
        let side = self.merging.as_ref().map(|merging| merging.side().to_string());
        self.finished(paths, reach).map_err(|error| match (side, error) {
            (Some(side), WorkError::Canon(error)) => WorkError::CanonOf(side, error),
            (_, error) => error,
        })
    }

    fn finished(mut self, paths: &[PathBuf], reach: &Reach) -> Result<Selection, WorkError> {
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
            Reach::Merge(_) => self.merged()?,
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
        let parents = match &self.repository {
            Some(repository) => repository.coming_in()?,
            None => Vec::new(),
        };
        Ok(Selection {
            parents,
            repository: self.repository,
            items: self.items,
            left_alone: self.left_alone,
            merging: self.merging,
            problems: self.problems,
            blobs,
            ahead: Mutex::default(),
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

    /// A path as a person in the current folder writes it.
    fn shown(&self, path: &Path) -> String {
        shown_from(&self.current, path)
    }
}
