//! What a selection reads from git: canons of a commit or of the index, and contents at once.

use super::{Base, Item, Source, WorkError};
use crate::canon::{Canons, NotRead, text_of};
use crate::git::{Blobs, Change, Found, Repository, Staged};
use crate::system::path_of;
use std::collections::HashMap;
use std::path::{Component, Path, PathBuf};

/// What differs between the last commit and the index; everything, where there is no commit.
pub(super) fn staged_in(repository: &Repository) -> Result<Staged, WorkError> {
    match repository.staged("HEAD") {
        Ok(changes) => Ok(changes),
        Err(error) => match repository.head()? {
            Some(_) => Err(error.into()),
            None => Ok(repository.staged(&repository.empty_tree()?)?),
        },
    }
}

/// The canons of a commit, or of the index: where that differs from the commit, its own
/// blobs, and else the commit's, so that git need not read a large index once more.
pub(super) fn committed(
    mut blobs: Blobs,
    root: &Path,
    commit: &str,
    staged: Option<&Staged>,
) -> Canons {
    let commit = commit.to_string();
    let top = root.to_path_buf();
    let mut own: HashMap<PathBuf, Option<Change>> = HashMap::new();
    if let Some((changes, gone)) = staged {
        own.extend(gone.iter().map(|path| (path.clone(), None)));
        own.extend(changes.iter().map(|change| (change.path.clone(), Some(change.clone()))));
    }
    let read = move |path: &Path| {
        let inside = path.strip_prefix(&top).unwrap_or(path);
        let blob = match own.get(inside) {
            Some(None) => None,
            Some(Some(change)) if change.is_link() => return Err(NotRead::LeadsOut),
            Some(Some(change)) => change.now.clone(),
            None => plain_at(&mut blobs, &commit, inside)?,
        };
        match blob {
            Some(blob) => text_of(blobs.read(&blob).map_err(NotRead::Git)?).map(Some),
            None => Ok(None),
        }
    };
    Canons::from(root, Box::new(read))
}

/// So many links lead on from one another.
const MOST_LINKS: usize = 8;

/// The blob of the plain file that a commit has at a path, or at the end of the links there; as on
/// disk, none of them may lead out of the tree.
pub(super) fn plain_at(
    blobs: &mut Blobs,
    commit: &str,
    path: &Path,
) -> Result<Option<String>, NotRead> {
    let mut path = path.to_path_buf();
    for _ in 0..MOST_LINKS {
        let link = match blobs.found_at(commit, &path).map_err(NotRead::Git)? {
            Some(Found::File(blob)) => return Ok(Some(blob)),
            Some(Found::Link(blob)) => blobs.read(&blob).map_err(NotRead::Git)?,
            None => return Ok(None),
        };
        path.pop();
        for part in path_of(&link).components() {
            match part {
                Component::Normal(name) => path.push(name),
                Component::CurDir => {}
                Component::ParentDir if path.pop() => {}
                _ => return Err(NotRead::LeadsOut),
            }
        }
    }
    Err(NotRead::NotThis("its links lead on and on".into()))
}

pub(super) fn needs_blobs(item: &Item) -> bool {
    item.source != Source::File || matches!(item.base, Base::Blob(_) | Base::At(_))
}
