//! What a selection reads from git: canons of a commit or of the index, and contents at once.

use super::{Base, Item, Source, WorkError};
use crate::canon::{Canons, NotRead, text_of};
use crate::git::{Blobs, Change, Repository, Staged};
use std::collections::HashMap;
use std::path::{Path, PathBuf};

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

/// The canons of the last commit, or of the index: where that differs from the commit, its own
/// blobs, and else the commit's, so that git need not read a large index once more.
pub(super) fn committed(mut blobs: Blobs, root: &Path, staged: Option<&Staged>) -> Canons {
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
            None => blobs.at("HEAD", inside).map_err(NotRead::Git)?,
        };
        match blob {
            Some(blob) => text_of(blobs.read(&blob).map_err(NotRead::Git)?).map(Some),
            None => Ok(None),
        }
    };
    Canons::from(root, Box::new(read))
}

/// So many files are read from git at once; of more, each when it is judged.
pub(super) const FEW: usize = 64;

/// The staged or committed contents and the bases of some items, by the blobs' names. Where one of
/// them cannot be read, each is asked for by itself, and says so.
pub(super) fn at_once(blobs: &mut Blobs, items: &[Item]) -> HashMap<String, Vec<u8>> {
    let mut names: Vec<&String> = Vec::new();
    for item in items {
        if let Source::Staged { blob, .. } | Source::Committed { blob } = &item.source {
            names.push(blob);
        }
        if let Base::Blob(blob) = &item.base {
            names.push(blob);
        }
    }
    let asked: Vec<&str> = names.iter().map(|name| name.as_str()).collect();
    let Ok(texts) = blobs.read_all(&asked) else { return HashMap::new() };
    names.into_iter().cloned().zip(texts).collect()
}

pub(super) fn needs_blobs(item: &Item) -> bool {
    item.source != Source::File || matches!(item.base, Base::Blob(_) | Base::At(_))
}
