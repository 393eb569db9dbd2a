//! Sees when the last commit, the index or a canon changes, so that what is shown stays true.

use super::session::Event;
use kanonix_repo::canon;
use kanonix_repo::git::Repository;
use notify::{RecommendedWatcher, RecursiveMode, Watcher};
use std::collections::HashSet;
use std::path::{Path, PathBuf};
use std::sync::mpsc;

/// Git's files that tell of another commit or another index.
const OF_GIT: [&str; 4] = ["HEAD", "index", "ORIG_HEAD", "MERGE_HEAD"];

/// Follows the folders that matter to the open texts.
pub(super) struct Follower {
    watcher: Option<RecommendedWatcher>,
    followed: HashSet<PathBuf>,
}

impl Follower {
    /// Where the system tells of no changes, nothing is followed: what is asked for is read anew in
    /// any case.
    pub fn new(events: mpsc::Sender<Event>) -> Follower {
        let tell = move |event: notify::Result<notify::Event>| {
            let Ok(event) = event else { return };
            let counts = !event.kind.is_access() && event.paths.iter().any(|path| matters(path));
            if counts {
                let _ = events.send(Event::Changed);
            }
        };
        let watcher = notify::recommended_watcher(tell).ok();
        Follower { watcher, followed: HashSet::new() }
    }

    /// Follows all that decides how the files of a folder are mended.
    pub fn follow(&mut self, folder: &Path, repository: Option<&Repository>) {
        let root = repository.map(|repository| repository.root.as_path());
        for around in folder.ancestors() {
            self.watch(around);
            self.watch(&around.join(".kanonix"));
            if root.is_none_or(|root| around == root) {
                break;
            }
        }
        if let Some(repository) = repository {
            self.watch(&repository.git_dir);
            self.watch(&repository.git_dir.join("logs"));
        }
    }

    fn watch(&mut self, folder: &Path) {
        let Some(watcher) = &mut self.watcher else { return };
        if !self.followed.contains(folder)
            && folder.is_dir()
            && watcher.watch(folder, RecursiveMode::NonRecursive).is_ok()
        {
            self.followed.insert(folder.to_path_buf());
        }
    }
}

fn matters(path: &Path) -> bool {
    let name = path.file_name().unwrap_or_default().to_string_lossy();
    let folder = path.parent().and_then(Path::file_name).unwrap_or_default();
    canon::names().contains(&name.as_ref())
        || folder == ".kanonix"
        || OF_GIT.contains(&name.as_ref())
}
