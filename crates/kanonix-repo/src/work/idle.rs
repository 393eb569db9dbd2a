//! Patterns of canons that do nothing.

use super::WorkError;
use super::walking::{Met, walk};
use crate::canon::{Canons, FILE_NAME, Idle};
use crate::git::top_of;
use std::path::{Path, PathBuf};

/// The patterns that match none of the files below a tree's top, or have a backslash: of the canons
/// that govern a file, or of all canons of the tree that a folder is in.
///
/// # Errors
/// If a canon is wrong.
pub fn idle_patterns(path: &Path) -> Result<Vec<Idle>, WorkError> {
    let path = std::fs::canonicalize(path).unwrap_or(path.to_path_buf());
    let folder = if path.is_dir() { path.as_path() } else { path.parent().unwrap_or(&path) };
    let top = top_of(folder).unwrap_or(folder.to_path_buf());
    let files: Vec<PathBuf> = walk(&top)
        .filter_map(|met| match met {
            Met::File(path) | Met::Link(path) => Some(path),
            _ => None,
        })
        .collect();
    let mut canons = Canons::on_disk(&top);
    let mut idle = Vec::new();
    let is_canon = |file: &&PathBuf| file.file_name().is_some_and(|name| name == FILE_NAME);
    let asked: Vec<&PathBuf> = match path.is_dir() {
        true => files.iter().filter(is_canon).collect(),
        false => vec![&path],
    };
    for file in asked {
        for found in canons.governing(file)?.idle(&files) {
            if !idle.contains(&found) {
                idle.push(found);
            }
        }
    }
    Ok(idle)
}
