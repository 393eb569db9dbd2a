//! The folders that are watched: all that no ignore file keeps out, the new ones too.

use anyhow::Context;
use kanonix_repo::work::{Met, is_visible, walk};
use notify::{RecommendedWatcher, RecursiveMode, Watcher};
use std::collections::HashSet;
use std::path::{Path, PathBuf};

pub(super) struct Folders {
    watcher: RecommendedWatcher,
    watched: HashSet<PathBuf>,
}

impl Folders {
    /// Watches a folder and all in it; `tell` is called with what something happened to.
    pub fn watch(
        folder: &Path,
        tell: impl Fn(Vec<PathBuf>) + Send + 'static,
    ) -> anyhow::Result<Folders> {
        let told = move |event: notify::Result<notify::Event>| {
            if let Ok(event) = event
                && !event.kind.is_access()
            {
                tell(event.paths);
            }
        };
        let mut folders =
            Folders { watcher: notify::recommended_watcher(told)?, watched: HashSet::new() };
        for met in walk(folder) {
            let Met::Folder(folder) = met else { continue };
            let watched = folders.watcher.watch(&folder, RecursiveMode::NonRecursive);
            watched.with_context(|| {
                format!(
                    "{} cannot be watched. Watch a smaller folder, or let the system watch more of \
                     them",
                    folder.display()
                )
            })?;
            folders.watched.insert(folder);
        }
        Ok(folders)
    }

    pub fn count(&self) -> usize {
        self.watched.len()
    }

    /// Watches one folder that is there, not what is in it.
    pub fn add_one(&mut self, folder: &Path) {
        if folder.is_dir() {
            let _ = self.watcher.watch(folder, RecursiveMode::NonRecursive);
        }
    }

    /// Watches a folder that is new, unless it is ignored, and gives the files that are in it by
    /// now.
    pub fn add(&mut self, folder: &Path) -> Vec<PathBuf> {
        let mut files = Vec::new();
        if !is_visible(folder) {
            return files;
        }
        for met in walk(folder) {
            match met {
                Met::Folder(path) => {
                    self.add_one(&path);
                    self.watched.insert(path);
                }
                Met::File(path) => files.push(path),
                _ => {}
            }
        }
        files
    }
}
