//! What a branch is merged into, whose canon judges it, and what it makes of the canon.

use super::from_git::{committed, plain_at};
use super::{CanonOf, Merge, WorkError};
use crate::canon::{CanonChange, CanonError, NotRead, changes, followed, names, text_of};
use crate::git::{Blobs, Repository, short_name};
use std::path::{Path, PathBuf};

/// By whose canon a branch was judged.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum JudgedBy {
    /// That of what it is merged into.
    Target,
    /// Its own, as somebody has asked for that.
    Branch,
    /// Its own, as nothing is agreed where it is merged.
    BranchAlone,
}

/// A branch and what it is merged into.
#[derive(Clone, Debug)]
pub struct Merging {
    /// The revision, as it was named.
    pub into: String,
    /// Its commit.
    pub target: String,
    /// Whose canon judges.
    pub judged_by: JudgedBy,
    /// What the branch makes otherwise in the canon, in any of its files.
    pub changes: Vec<CanonChange>,
}

impl Merging {
    /// Finds out whose canon judges.
    pub(super) fn begin(
        repository: &Repository,
        blobs: &mut Blobs,
        merge: &Merge,
    ) -> Result<Merging, WorkError> {
        let target = match blobs.commit(&merge.into) {
            Ok(Some(commit)) => commit,
            // Why not is asked of git itself.
            _ => repository.target(&merge.into)?,
        };
        let judged_by = match merge.canon_of {
            CanonOf::Branch => JudgedBy::Branch,
            CanonOf::Target if has_canon(repository, blobs, &target)? => JudgedBy::Target,
            CanonOf::Target => JudgedBy::BranchAlone,
        };
        Ok(Merging { into: merge.into.clone(), target, judged_by, changes: Vec::new() })
    }

    /// The commit whose canon judges.
    pub(super) fn judging(&self) -> &str {
        match self.judged_by {
            JudgedBy::Target => &self.target,
            JudgedBy::Branch | JudgedBy::BranchAlone => "HEAD",
        }
    }

    /// The side whose canon judges, in a message.
    pub(super) fn side(&self) -> &str {
        match self.judged_by {
            JudgedBy::Target => short_name(&self.into),
            JudgedBy::Branch | JudgedBy::BranchAlone => BRANCH,
        }
    }

    /// Finds out what the branch makes otherwise in the canon since `base`. Its own canon has to be
    /// one, too: it is the one that holds once it is merged.
    pub(super) fn compare_canons<'p>(
        &mut self,
        repository: &Repository,
        root: &Path,
        base: &str,
        paths: impl Iterator<Item = &'p PathBuf>,
    ) -> Result<(), WorkError> {
        let mut touched: Vec<&PathBuf> = paths.filter(|path| says_something(path)).collect();
        touched.sort();
        touched.dedup();
        if touched.is_empty() {
            return Ok(());
        }
        let mut blobs = repository.blobs()?;
        let mut own = committed(repository.blobs()?, root, "HEAD", None);
        for path in touched {
            let is_copy = path.ends_with(followed::PATH);
            let folder = path.parent().unwrap_or(Path::new(""));
            let folder = if is_copy { folder.parent().unwrap_or(folder) } else { folder };
            let broken = |error| WorkError::CanonOf(BRANCH.into(), error);
            own.governing(&root.join(folder).join("any")).map_err(broken)?;
            let before = text_in(&mut blobs, base, path)
                .map_err(|error| WorkError::CanonOf(short_name(&self.into).into(), error))?;
            let after = text_in(&mut blobs, "HEAD", path).map_err(broken)?;
            self.changes.extend(changes(path, before.as_deref(), after.as_deref()));
        }
        Ok(())
    }
}

/// The side that is judged.
const BRANCH: &str = "the branch";

/// Whether a file may say how others are laid out.
fn says_something(path: &Path) -> bool {
    names().iter().any(|name| path.file_name().is_some_and(|own| own == *name))
        || path.ends_with(followed::PATH)
}

/// Whether anything is agreed anywhere in a commit.
fn has_canon(
    repository: &Repository,
    blobs: &mut Blobs,
    commit: &str,
) -> Result<bool, WorkError> {
    for name in names() {
        if blobs.found_at(commit, Path::new(name))?.is_some() {
            return Ok(true);
        }
    }
    Ok(!repository.named_in(commit, &names())?.is_empty())
}

fn text_in(blobs: &mut Blobs, commit: &str, path: &Path) -> Result<Option<String>, CanonError> {
    let mut read = || match plain_at(blobs, commit, path)? {
        Some(blob) => text_of(blobs.read(&blob).map_err(NotRead::Git)?).map(Some),
        None => Ok(None),
    };
    read().map_err(|why| CanonError::unreadable(path, &why))
}
