//! Which commits there are, and where two of them parted.

use super::runner::run;
use super::{Answer, GitError, Repository};
use kanonix_core::style::nearest;

impl Repository {
    /// The commit that a revision names.
    ///
    /// # Errors
    /// [`GitError::NoRevision`] if it names none.
    pub fn commit(&self, revision: &str) -> Answer<String> {
        let ask = |name: String| {
            let mut command = self.git();
            command.args(["rev-parse", "--verify", "--quiet", "--end-of-options", &name]);
            let answer = run(&mut command, "rev-parse")?;
            Ok(String::from_utf8_lossy(&answer).trim().to_string())
        };
        match ask(format!("{revision}^{{commit}}")) {
            Err(GitError::Failed { message, .. } | GitError::Damaged { message, .. }) => {
                // A name that leads to something that is not there is no unknown name.
                match ask(revision.to_string()) {
                    Ok(object) => Err(GitError::Damaged { object, message }),
                    Err(GitError::Damaged { object, message }) => {
                        Err(GitError::Damaged { object, message })
                    }
                    Err(_) => Err(GitError::NoRevision(revision.into())),
                }
            }
            said => said,
        }
    }

    /// The last commit, or `None` in a repository without one.
    ///
    /// # Errors
    /// If git cannot be run, or there is one and it cannot be read.
    pub fn head(&self) -> Answer<Option<String>> {
        match self.commit("HEAD") {
            Ok(commit) => Ok(Some(commit)),
            Err(GitError::NoRevision(_)) if self.is_unborn()? => Ok(None),
            Err(GitError::NoRevision(_)) => {
                Err(GitError::Damaged { object: "HEAD".into(), message: String::new() })
            }
            Err(error) => Err(error),
        }
    }

    /// Whether HEAD names a branch that has no commit yet.
    fn is_unborn(&self) -> Answer<bool> {
        let mut command = self.git();
        command.args(["symbolic-ref", "--quiet", "HEAD"]);
        let Ok(branch) = run(&mut command, "symbolic-ref") else { return Ok(false) };
        let branch = String::from_utf8_lossy(&branch).trim().to_string();
        let mut command = self.git();
        command.args(["show-ref", "--verify", "--", &branch]);
        match run(&mut command, "show-ref") {
            Ok(_) => Ok(false),
            Err(GitError::Failed { message, .. }) => Ok(message.contains("not a valid ref")),
            Err(error) => Err(error),
        }
    }

    /// The name of the empty tree in this repository's hash format.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn empty_tree(&self) -> Answer<String> {
        let mut command = self.git();
        command.args(["hash-object", "-t", "tree", "--stdin"]);
        let answer = run(&mut command, "hash-object")?;
        Ok(String::from_utf8_lossy(&answer).trim().to_string())
    }

    /// The commit at which HEAD left a revision.
    ///
    /// # Errors
    /// If there is no such revision, or the two have nothing in common.
    pub fn merge_base(&self, revision: &str) -> Answer<String> {
        self.left_at(revision).map_err(|error| self.with_hint(revision, error))
    }

    /// Why a revision leads to nothing here, and what may have been meant.
    fn with_hint(&self, revision: &str, error: GitError) -> GitError {
        if !matches!(error, GitError::NoRevision(_) | GitError::NoMergeBase(_)) {
            return error;
        }
        let asked = |words: &[&str]| {
            let answer = run(self.git().args(words), words[0]).unwrap_or_default();
            String::from_utf8_lossy(&answer).into_owned()
        };
        if asked(&["rev-parse", "--is-shallow-repository"]).trim() == "true" {
            return GitError::Shallow(revision.into());
        }
        if matches!(error, GitError::NoMergeBase(_)) {
            return error;
        }
        let names = asked(&["for-each-ref", "--format=%(refname:short)"]);
        let remote = names
            .lines()
            .find(|name| name.strip_suffix(revision).is_some_and(|rest| rest.ends_with('/')));
        match remote.or_else(|| nearest(revision, names.lines())) {
            Some(near) => GitError::NoRevisionBut(revision.into(), near.into()),
            None => error,
        }
    }

    fn left_at(&self, revision: &str) -> Answer<String> {
        let commit = self.commit(revision)?;
        let mut command = self.git();
        command.args(["merge-base", &commit, "HEAD"]);
        match run(&mut command, "merge-base") {
            Ok(answer) => Ok(String::from_utf8_lossy(&answer).trim().to_string()),
            // Git says nothing where it has looked at all commits.
            Err(GitError::Failed { message, .. }) if message.is_empty() => {
                Err(GitError::NoMergeBase(revision.into()))
            }
            Err(error) => Err(error),
        }
    }
}
