//! Why git did not do what it was asked.

use kanonix_core::text::visible;
use std::path::{Path, PathBuf};
use thiserror::Error;

/// Why git did not do what it was asked.
#[derive(Debug, Error)]
pub enum GitError {
    /// The program is not there, or cannot be started.
    #[error(
        "git cannot be run: {0}. Kanonix asks git which lines are touched; install git, or name the \
         lines with --whole or --lines"
    )]
    NotRun(std::io::Error),
    /// It does not know what it was asked.
    #[error(
        "{} is too old for this: it does not know what was asked of it; Kanonix needs git 2.26 or \
         newer",
        visible(.0)
    )]
    TooOld(String),
    /// It ran and failed.
    #[error("git {command} failed: {}", visible(.message))]
    Failed {
        /// The command's first words.
        command: String,
        /// What git said.
        message: String,
    },
    /// A revision that does not exist.
    #[error("there is no revision `{}` in this repository", visible(.0))]
    NoRevision(String),
    /// As that, where another one may have been meant.
    #[error("there is no revision `{}` in this repository; did you mean `{}`?", visible(.0), visible(.1))]
    NoRevisionBut(String, String),
    /// A history that a shallow clone does not have.
    #[error(
        "this clone is shallow and does not have the history of `{}`: deepen it with `git fetch \
         --unshallow origin '+refs/heads/*:refs/remotes/origin/*'`, and name the branch as git does \
         then (origin/main)",
        visible(.0)
    )]
    Shallow(String),
    /// A shallow clone that ends before two histories meet.
    #[error(
        "this clone is shallow and ends before HEAD and `{}` meet: deepen it with `git fetch \
         --deepen=100`, again if need be, or get all of it with `git fetch --unshallow`",
        visible(.0)
    )]
    TooShallow(String),
    /// A file that a commit does not have.
    #[error("there is no {} in {} at {}", visible(.0), visible(.1), visible(.2))]
    NoFile(String, String, String),
    /// It did not come to an end.
    #[error("git {0} took longer than ten minutes, and was ended: see what it does with `git {0}`")]
    TooLong(String),
    /// Another process holds the index.
    #[error(
        "another process holds git's index: wait until it is done; if there is none, remove {}",
        shown(.0)
    )]
    Held(PathBuf),
    /// Two revisions without a common ancestor.
    #[error("`{}` and HEAD have no commit in common", visible(.0))]
    NoMergeBase(String),
    /// An object that is named somewhere and is not there, or cannot be read.
    #[error(
        "the object {} is missing or damaged in this repository{}: look at it with `git fsck`",
        visible(.object),
        said(.message)
    )]
    Damaged {
        /// Its hash, or the revision that leads to it.
        object: String,
        /// What git said.
        message: String,
    },
    /// Something in a file's place that is none: a pipe, a device, a link out of the repository.
    #[error(
        "{} is a pipe, a device or a link out of the repository: take it away, git would read it",
        shown(.0)
    )]
    Special(PathBuf),
    /// A repository whose configuration has its working tree somewhere else.
    #[error(
        "the repository at {} has its working tree at {}: it is left alone; run Kanonix there",
        shown(.0),
        shown(.1)
    )]
    Elsewhere(PathBuf, PathBuf),
    /// A filter that is not run.
    #[error(
        "{} goes through a filter of the repository at {}, which is run only for somebody who \
         stands in it: run Kanonix there",
        shown(.0),
        shown(.1)
    )]
    Filtered(PathBuf, PathBuf),
    /// A file that cannot be read.
    #[error("{} cannot be read: {}", shown(.0), .1)]
    Unreadable(PathBuf, std::io::Error),
}

/// A path in a message.
fn shown(path: &Path) -> String {
    visible(&path.display().to_string()).into_owned()
}

fn said(message: &str) -> String {
    if message.is_empty() { String::new() } else { format!(" ({})", visible(message)) }
}

impl GitError {
    /// Whether something could not be read that is there, as opposed to something that was asked
    /// for and does not exist.
    pub fn is_unread(&self) -> bool {
        matches!(
            self,
            GitError::Failed { .. }
                | GitError::Damaged { .. }
                | GitError::Special(_)
                | GitError::Filtered(..)
                | GitError::Unreadable(..)
                | GitError::Held(_)
                | GitError::TooLong(_)
        )
    }

    /// What git said when it failed: damage, where it names an object.
    pub(super) fn failed(command: &str, message: String) -> GitError {
        let is_hash = |word: &&str| {
            matches!(word.len(), 40 | 64) && word.bytes().all(|byte| byte.is_ascii_hexdigit())
        };
        let mut words = message.split(|c: char| !c.is_ascii_alphanumeric());
        match words.find(is_hash).map(str::to_string) {
            Some(object) => GitError::Damaged { object, message },
            None => GitError::Failed { command: command.into(), message },
        }
    }
}
