//! The index: which files git knows, what is staged of them, and staging.

use super::runner::{run, run_with};
use super::{Answer, GitError, Repository};
use crate::system::{bytes_of, path_of};
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

/// A blob that is to be staged.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Staging {
    /// The path, from the root.
    pub path: PathBuf,
    /// Git's mode of the file, in octal.
    pub mode: String,
    /// The blob's hash.
    pub blob: String,
}

/// How long another process that holds the index is waited for, and how often it is asked.
const LONGEST_WAIT: Duration = Duration::from_millis(1500);
const WAIT: Duration = Duration::from_millis(50);

impl Repository {
    /// Which of these paths somebody may have saved: those that differ from what is staged, and
    /// those that git neither tracks nor ignores.
    ///
    /// # Errors
    /// If git fails.
    pub fn differing(&self, paths: &[PathBuf]) -> Answer<Vec<PathBuf>> {
        let mut found = Vec::new();
        for words in [
            &["diff-files", "--name-only", "-z", "--no-relative"][..],
            &["ls-files", "-z", "--others", "--exclude-standard"],
        ] {
            let mut command = self.git();
            command.arg("--literal-pathspecs").args(words).arg("--").args(paths);
            let answer = run(&mut command, words[0])?;
            let paths = answer.split(|byte| *byte == 0).filter(|path| !path.is_empty());
            found.extend(paths.map(path_of));
        }
        Ok(found)
    }

    /// Files that git neither tracks nor ignores, in or below these paths.
    ///
    /// # Errors
    /// If git fails.
    pub fn untracked(&self) -> Answer<Vec<PathBuf>> {
        self.listed(&["ls-files", "-z", "--others", "--exclude-standard"])
    }

    /// Files that git tracks.
    ///
    /// # Errors
    /// If git fails.
    pub fn tracked(&self) -> Answer<Vec<PathBuf>> {
        self.listed(&["ls-files", "-z", "--cached"])
    }

    /// Files with conflicts that are not resolved yet.
    ///
    /// # Errors
    /// If git fails.
    pub fn unmerged(&self) -> Answer<Vec<PathBuf>> {
        let answer = run(self.git().args(["ls-files", "-z", "--unmerged"]), "ls-files")?;
        let entries = answer.split(|byte| *byte == 0);
        Ok(entries
            .filter_map(|entry| entry.splitn(2, |byte| *byte == b'\t').nth(1))
            .map(path_of)
            .collect())
    }

    fn listed(&self, words: &[&str]) -> Answer<Vec<PathBuf>> {
        let answer = run(self.git().args(words), words[0])?;
        let paths = answer.split(|byte| *byte == 0).filter(|path| !path.is_empty());
        Ok(paths.map(path_of).collect())
    }

    /// The blob that is staged under a path, if one is.
    ///
    /// # Errors
    /// If git fails.
    pub fn staged_blob(&self, path: &Path) -> Answer<Option<String>> {
        let mut command = self.git();
        command.args(["--literal-pathspecs", "ls-files", "-s", "-z", "--"]).arg(path);
        let answer = run(&mut command, "ls-files")?;
        let first = answer.split(|byte| *byte == 0).next().unwrap_or_default();
        let first = String::from_utf8_lossy(first);
        Ok(first.split(' ').nth(1).map(str::to_string))
    }

    /// Waits, shortly, until no other process holds the index.
    ///
    /// # Errors
    /// [`GitError::Held`] if one holds it for long.
    pub fn wait_for_index(&self) -> Answer<()> {
        let mut command = self.git();
        command.args(["rev-parse", "--git-path", "index"]);
        let answer = run(&mut command, "rev-parse")?;
        let mut lock = answer.strip_suffix(b"\n").unwrap_or(&answer).to_vec();
        lock.extend_from_slice(b".lock");
        let lock = self.root.join(path_of(&lock));
        let begun = Instant::now();
        while lock.exists() {
            if begun.elapsed() > LONGEST_WAIT {
                return Err(GitError::Held(lock));
            }
            std::thread::sleep(WAIT);
        }
        Ok(())
    }

    /// Stages blobs under their paths, all of them or none. Another process that holds the index
    /// is waited for, shortly.
    ///
    /// # Errors
    /// If git fails, for instance as the index is held for long.
    pub fn stage(&self, entries: &[Staging]) -> Answer<()> {
        if entries.is_empty() {
            return Ok(());
        }
        let hidden = self.hidden(entries)?;
        let mut input = Vec::new();
        for entry in entries {
            input.extend_from_slice(format!("{} {} 0\t", entry.mode, entry.blob).as_bytes());
            input.extend_from_slice(bytes_of(&entry.path));
            input.push(0);
        }
        crate::write::may_end_here();
        self.update_index(&["-z", "--index-info"], &input)?;
        crate::write::may_end_here();
        if !hidden.is_empty() {
            self.update_index(&["-z", "--skip-worktree", "--stdin"], &hidden)?;
        }
        Ok(())
    }

    /// Which of these paths a sparse checkout keeps out of the working tree, each with a zero byte
    /// behind it.
    fn hidden(&self, entries: &[Staging]) -> Answer<Vec<u8>> {
        let absent = |entry: &&Staging| self.root.join(&entry.path).symlink_metadata().is_err();
        let absent: Vec<&Staging> = entries.iter().filter(absent).collect();
        let mut hidden = Vec::new();
        if absent.is_empty() {
            return Ok(hidden);
        }
        let mut command = self.git();
        command.args(["--literal-pathspecs", "ls-files", "-t", "-z", "--"]);
        command.args(absent.iter().map(|entry| &entry.path));
        for line in run(&mut command, "ls-files")?.split(|byte| *byte == 0) {
            if let Some(path) = line.strip_prefix(b"S ") {
                hidden.extend_from_slice(path);
                hidden.push(0);
            }
        }
        Ok(hidden)
    }

    fn update_index(&self, words: &[&str], input: &[u8]) -> Answer<()> {
        let begun = Instant::now();
        loop {
            let mut command = self.git();
            command.arg("update-index").args(words);
            match run_with(&mut command, "update-index", input) {
                Ok(_) => return Ok(()),
                Err(GitError::Failed { message, .. }) if message.contains("index.lock") => {
                    if begun.elapsed() > LONGEST_WAIT {
                        return Err(GitError::Held(self.git_dir.join("index.lock")));
                    }
                    std::thread::sleep(WAIT);
                }
                Err(error) => return Err(error),
            }
        }
    }
}
