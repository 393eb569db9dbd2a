//! Paths that somebody names: where they really are, and how they are written.

use super::WorkError;
use crate::git::{Repository, top_of};
use std::path::{Component, Path, PathBuf};

/// The folder above which nothing is looked for.
pub(super) fn root_of(repository: Option<&Repository>) -> PathBuf {
    match repository {
        Some(repository) => {
            std::fs::canonicalize(&repository.root).unwrap_or(repository.root.clone())
        }
        None => PathBuf::from("/"),
    }
}

/// A path as a person in a folder writes it.
pub fn shown_from(current: &Path, path: &Path) -> String {
    let mut up = PathBuf::new();
    for folder in current.ancestors() {
        if let Ok(inside) = path.strip_prefix(folder) {
            return up.join(inside).display().to_string();
        }
        up.push("..");
    }
    path.display().to_string()
}

/// A path that is there, without links and dots in it.
pub(super) fn present(current: &Path, path: &Path) -> Result<PathBuf, WorkError> {
    std::fs::canonicalize(current.join(path))
        .map_err(|_| WorkError::NoSuchPath(path.display().to_string()))
}

/// The folder of the first link on the way to a path that leads out of the repository which it
/// stands in: whoever made the repository chose where it leads.
pub(super) fn led_out(current: &Path, path: &Path) -> Option<PathBuf> {
    let mut real = if path.is_absolute() { PathBuf::from("/") } else { current.to_path_buf() };
    for part in path.components() {
        match part {
            Component::Normal(name) => {
                let next = real.join(name);
                let to = std::fs::canonicalize(&next).ok()?;
                if next.is_symlink() {
                    let folder = real.clone();
                    let stays = top_of(&folder).is_none_or(|top| to.starts_with(top));
                    if !stays {
                        return Some(folder);
                    }
                }
                real = to;
            }
            Component::ParentDir => {
                real.pop();
            }
            _ => {}
        }
    }
    None
}

/// A folder, or the one that a file is in.
pub(super) fn folder_of(path: &Path) -> PathBuf {
    if path.is_dir() { path.to_path_buf() } else { path.parent().unwrap_or(path).to_path_buf() }
}

/// Whether a path is in or below one of those that were named.
pub(super) fn in_scope(path: &Path, named: &[PathBuf]) -> bool {
    named.is_empty() || named.iter().any(|scope| path.starts_with(scope))
}
