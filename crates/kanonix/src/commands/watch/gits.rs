//! What git writes into the working tree is no save: another commit that is checked out, a stash
//! that is put back, a merge.

use kanonix_repo::git::{Repository, UnderWay};
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

/// Files of git that change only when it brings other contents into the working tree.
const OF_GIT: [&str; 7] = [
    "stash",
    "MERGE_HEAD",
    "AUTO_MERGE",
    "REBASE_HEAD",
    "CHERRY_PICK_HEAD",
    "REVERT_HEAD",
    "rebase-merge",
];

pub(super) struct Gits {
    repository: Repository,
    root: PathBuf,
    git_dir: PathBuf,
    /// The last commit.
    head: Option<String>,
}

impl Gits {
    pub fn new(repository: Repository) -> Gits {
        let real = |path: &Path| std::fs::canonicalize(path).unwrap_or(path.to_path_buf());
        let (root, git_dir) = (real(&repository.root), real(&repository.git_dir));
        let head = repository.head().unwrap_or(None);
        Gits { repository, root, git_dir, head }
    }

    /// The working tree's top folder.
    pub fn root(&self) -> &Path {
        &self.root
    }

    /// The folders that show what git does.
    pub fn folders(&self) -> Vec<PathBuf> {
        let inside = ["", "refs", "logs", "logs/refs"];
        inside.iter().map(|folder| self.git_dir.join(folder)).collect()
    }

    pub fn is_inside(&self, path: &Path) -> bool {
        path.starts_with(&self.git_dir)
    }

    /// What git is in the middle of.
    pub fn under_way(&self) -> Option<UnderWay> {
        self.repository.under_way()
    }

    /// Whether git is at work: it holds its index.
    pub fn is_busy(&self) -> bool {
        self.git_dir.join("index.lock").exists()
    }

    /// Whether what happened to these paths was git's doing.
    pub fn has_written(&mut self, paths: &BTreeSet<PathBuf>) -> bool {
        let own: Vec<&PathBuf> = paths.iter().filter(|path| self.is_inside(path)).collect();
        if own.is_empty() {
            return false;
        }
        let head = self.repository.head().unwrap_or(None);
        let moved = head != self.head;
        self.head = head;
        let brings = |path: &&PathBuf| {
            let name = path.file_name().unwrap_or_default().to_string_lossy();
            OF_GIT.contains(&name.trim_end_matches(".lock"))
        };
        moved || own.iter().any(|path| brings(path))
    }

    /// Those of these files that somebody may have saved.
    pub fn saved(&self, files: &[PathBuf]) -> Vec<PathBuf> {
        let inside = files.iter().filter_map(|file| file.strip_prefix(&self.root).ok());
        let inside: Vec<PathBuf> = inside.map(Path::to_path_buf).collect();
        if inside.is_empty() {
            return Vec::new();
        }
        let differing = self.repository.differing(&inside).unwrap_or_default();
        let paths: BTreeSet<PathBuf> =
            differing.into_iter().map(|path| self.root.join(path)).collect();
        paths.into_iter().filter(|path| path.is_file()).collect()
    }
}
