//! The files that differ: from the last commit, from a base, between commits, and what is staged.

use super::{Asked, Selecting};
use crate::git::{Change, Repository};
use crate::work::paths::in_scope;
use crate::work::{Base, Source, UNMERGED, Why, WorkError};
use std::collections::HashSet;
use std::path::{Path, PathBuf};

impl Selecting {
    pub(super) fn touched(&mut self, named: &[PathBuf]) -> Result<(), WorkError> {
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

    pub(super) fn since(&mut self, named: &[PathBuf], revision: &str) -> Result<(), WorkError> {
        let repository = self.repository("--since")?.clone();
        let base = repository.merge_base(revision)?;
        self.ways = repository.ways(&base)?;
        self.files_since(&repository, Some(base), named)
    }

    /// The files that differ from a commit, and those that git does not know.
    pub(super) fn files_since(
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
    pub(super) fn is_special(&mut self, change: &Change, path: &Path) -> bool {
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

    pub(super) fn staged(
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

    pub(super) fn is_bare(&self) -> bool {
        self.repository.as_ref().is_some_and(|repository| repository.is_bare)
    }

    /// The files that the commits since a revision have changed, as the last of them has them.
    pub(super) fn commits_since(
        &mut self,
        named: &[PathBuf],
        revision: &str,
        play: Asked,
    ) -> Result<(), WorkError> {
        let repository = self.repository("--since")?.clone();
        let base = repository.merge_base(revision)?;
        let (changes, _) = repository.between(&base, "HEAD")?;
        self.ways = repository.ways(&base)?;
        self.committed(changes, named, play)
    }

    /// What a branch brings to what it is merged into.
    pub(super) fn merged(&mut self) -> Result<(), WorkError> {
        let repository = self.repository("a merge gate")?.clone();
        let Some(merging) = &mut self.merging else { return Ok(()) };
        let base = repository.parted(&merging.into, &merging.target)?;
        let (ways, between) = std::thread::scope(|scope| {
            let ways = scope.spawn(|| repository.ways(&base));
            let between = repository.between(&base, "HEAD");
            (ways.join(), between)
        });
        let (changes, gone) = between?;
        self.ways = ways.unwrap_or_else(|_| repository.ways(&base))?;
        let paths = changes.iter().map(|change| &change.path).chain(&gone);
        merging.compare_canons(&repository, &self.root, &base, paths)?;
        self.committed(changes, &[], |reach| reach.merge)
    }

    fn committed(
        &mut self,
        changes: Vec<Change>,
        named: &[PathBuf],
        play: Asked,
    ) -> Result<(), WorkError> {
        for change in changes {
            let path = self.root.join(&change.path);
            if in_scope(&path, named) && !self.is_special_in_git(&change, &path) {
                let source = change.now.clone().map(|blob| Source::Committed { blob });
                self.blob(&path, change, source, play)?;
            }
        }
        Ok(())
    }

    pub(super) fn is_special_in_git(&mut self, change: &Change, path: &Path) -> bool {
        if change.is_link() {
            self.leave(Why::Link, path);
            return true;
        }
        (change.unmerged || change.is_submodule()) && self.is_special(change, path)
    }

    pub(super) fn blob(
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
}
