//! What git is in the middle of: a merge, a rebase, a cherry-pick, a revert.

use super::{Answer, GitError, Repository};
use std::io::ErrorKind;

/// What git is in the middle of.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum UnderWay {
    /// Another branch comes in.
    Merge,
    /// Commits are put on top of others, one after the other.
    Rebase,
    /// Another commit's change comes in.
    CherryPick,
    /// A commit's change is taken back.
    Revert,
}

impl UnderWay {
    /// For a message: "a merge".
    pub fn as_str(self) -> &'static str {
        match self {
            UnderWay::Merge => "a merge",
            UnderWay::Rebase => "a rebase",
            UnderWay::CherryPick => "a cherry-pick",
            UnderWay::Revert => "a revert",
        }
    }
}

/// Git's own notes, as its documentation names them: each holds commits, one a line.
const NOTES: [(UnderWay, &str); 4] = [
    (UnderWay::Merge, "MERGE_HEAD"),
    (UnderWay::Rebase, "REBASE_HEAD"),
    (UnderWay::CherryPick, "CHERRY_PICK_HEAD"),
    (UnderWay::Revert, "REVERT_HEAD"),
];

/// Folders that are there as long as a rebase is under way; its note may stay for longer.
const REBASING: [&str; 2] = ["rebase-merge", "rebase-apply"];

impl Repository {
    /// What git is in the middle of, if it is.
    pub fn under_way(&self) -> Option<UnderWay> {
        if self.is_rebasing() {
            return Some(UnderWay::Rebase);
        }
        let stands = |note: &&(UnderWay, &str)| self.git_dir.join(note.1).exists();
        let kept = |note: &&(UnderWay, &str)| note.0 != UnderWay::Rebase;
        NOTES.iter().filter(kept).find(stands).map(|(what, _)| *what)
    }

    fn is_rebasing(&self) -> bool {
        REBASING.iter().any(|folder| self.git_dir.join(folder).is_dir())
    }

    /// The commits whose lines come in while something is under way: what they have is nobody's own
    /// work here. Of a commit that is taken back, what was there before it.
    ///
    /// # Errors
    /// If git's own note of them cannot be read.
    pub fn coming_in(&self) -> Answer<Vec<String>> {
        let mut commits = Vec::new();
        for (what, note) in NOTES {
            if what == UnderWay::Rebase && !self.is_rebasing() {
                continue;
            }
            let path = self.git_dir.join(note);
            let text = match std::fs::read_to_string(&path) {
                Ok(text) => text,
                Err(error) if error.kind() == ErrorKind::NotFound => continue,
                Err(error) => return Err(GitError::Unreadable(path, error)),
            };
            for commit in text.lines().map(str::trim).filter(|line| !line.is_empty()) {
                match what {
                    UnderWay::Revert => match self.commit(&format!("{commit}^")) {
                        Ok(before) => commits.push(before),
                        // The first commit of all has none before it.
                        Err(GitError::NoRevision(_)) => {}
                        Err(error) => return Err(error),
                    },
                    _ => commits.push(commit.to_string()),
                }
            }
        }
        Ok(commits)
    }
}
