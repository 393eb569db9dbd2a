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
        let parted = self.commit(revision).and_then(|commit| self.left_at(revision, &commit));
        parted.map_err(|error| self.with_hint(revision, error))
    }

    /// As [`Repository::merge_base`], of a revision whose commit is known.
    ///
    /// # Errors
    /// If the two have nothing in common.
    pub fn parted(&self, revision: &str, commit: &str) -> Answer<String> {
        self.left_at(revision, commit).map_err(|error| self.with_hint(revision, error))
    }

    /// The commit of a revision that a branch is to be merged into.
    ///
    /// # Errors
    /// If there is no such revision.
    pub fn target(&self, revision: &str) -> Answer<String> {
        self.commit(revision).map_err(|error| self.with_hint(revision, error))
    }

    /// The full name of a branch as this clone has it: the remote's, rather than its own.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn branch(&self, name: &str) -> Answer<Option<String>> {
        let names = self.references()?;
        let of_remote = |known: &&String| {
            let rest = known.strip_prefix("refs/remotes/");
            rest.and_then(|rest| rest.split_once('/')).is_some_and(|(_, branch)| branch == name)
        };
        let origin = format!("refs/remotes/origin/{name}");
        let own = format!("refs/heads/{name}");
        let found = names
            .iter()
            .find(|known| **known == origin)
            .or_else(|| names.iter().find(of_remote))
            .or_else(|| names.iter().find(|known| **known == own));
        Ok(found.cloned())
    }

    /// The default branch of the remote that this clone was made from.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn remotes_branch(&self) -> Answer<Option<String>> {
        let mut command = self.git();
        command.args(["symbolic-ref", "--quiet", "refs/remotes/origin/HEAD"]);
        match run(&mut command, "symbolic-ref") {
            Ok(answer) => Ok(Some(String::from_utf8_lossy(&answer).trim().to_string())),
            Err(GitError::Failed { .. }) => Ok(None),
            Err(error) => Err(error),
        }
    }

    fn references(&self) -> Answer<Vec<String>> {
        let words = ["for-each-ref", "--format=%(refname)", "refs/heads", "refs/remotes"];
        let answer = run(self.git().args(words), words[0])?;
        Ok(String::from_utf8_lossy(&answer).lines().map(str::to_string).collect())
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
            return match error {
                GitError::NoMergeBase(_) => GitError::TooShallow(revision.into()),
                _ => GitError::Shallow(revision.into()),
            };
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

    fn left_at(&self, revision: &str, commit: &str) -> Answer<String> {
        let mut command = self.git();
        command.args(["merge-base", commit, "HEAD"]);
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

/// A revision as people write it: `origin/main` for `refs/remotes/origin/main`.
pub fn short_name(revision: &str) -> &str {
    let prefixes = ["refs/remotes/", "refs/heads/"];
    prefixes.iter().find_map(|prefix| revision.strip_prefix(prefix)).unwrap_or(revision)
}
