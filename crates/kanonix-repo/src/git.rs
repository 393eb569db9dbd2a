//! Git, through its plumbing. Every call of the git program is here.
//!
//! [`runner`] is how git is called, and what it may not do; [`finding`] says which repository a
//! folder is in; [`changes`] what differs, [`under_way`] what git is in the middle of, and [`blobs`]
//! what stands in commits.

mod blobs;
mod changes;
mod fetching;
mod finding;
mod patience;
mod runner;
mod under_way;

pub use blobs::Blobs;
pub use changes::{Change, Staged};
pub use fetching::fetch_file;
pub use finding::{program_version, stand_in, top_of};
pub use runner::{Trust, may_be_told};
pub use under_way::UnderWay;
use runner::{git_with_hooks, run, run_with};
use kanonix_core::style::nearest;
use kanonix_core::text::visible;
use std::ffi::OsString;
use std::os::unix::ffi::OsStrExt;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};
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
    fn failed(command: &str, message: String) -> GitError {
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

type Answer<T> = Result<T, GitError>;

/// A repository with a working tree.
#[derive(Clone, Debug)]
pub struct Repository {
    /// The working tree's top folder.
    pub root: PathBuf,
    /// The folder that holds this working tree's own git files.
    pub git_dir: PathBuf,
    /// How far its configuration is believed.
    pub trust: Trust,
    /// Whether it has no working tree; its root is git's own folder then.
    pub is_bare: bool,
    /// Filters that are configured and not run.
    filters_off: Vec<String>,
}

/// An answer's bytes as a path.
fn path_of(bytes: &[u8]) -> PathBuf {
    use std::os::unix::ffi::OsStringExt;
    PathBuf::from(OsString::from_vec(bytes.to_vec()))
}

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

    /// The line of an ignore file that keeps git from seeing a path, as `FILE:LINE: PATTERN`.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn ignored(&self, path: &Path) -> Answer<Option<String>> {
        let mut command = self.git();
        command.args(["check-ignore", "-v", "--"]).arg(path);
        match run(&mut command, "check-ignore") {
            Ok(answer) => {
                let line = answer.split(|byte| *byte == b'\t').next().unwrap_or_default();
                let said = String::from_utf8_lossy(line).into_owned();
                // A pattern with `!` says that it is not ignored.
                let parts: Vec<&str> = said.splitn(3, ':').collect();
                let [file, number, pattern] = parts[..] else { return Ok(None) };
                let ignores = !pattern.starts_with('!');
                Ok(ignores.then(|| format!("{file}:{number}: {pattern}")))
            }
            Err(GitError::Failed { .. }) => Ok(None),
            Err(error) => Err(error),
        }
    }

    /// Whether git writes a file's line ends otherwise than it keeps them, or may.
    ///
    /// # Errors
    /// If git fails.
    pub fn converts_line_ends(&self, path: &Path) -> Answer<bool> {
        let mut command = self.git();
        command.args(["check-attr", "-z", "text", "eol", "--"]).arg(path);
        let answer = run(&mut command, "check-attr")?;
        let fields: Vec<&[u8]> = answer.split(|byte| *byte == 0).collect();
        let value = |name: &[u8]| {
            let found = fields.chunks(3).find(|field| field.get(1) == Some(&name));
            found.and_then(|field| field.get(2).copied()).unwrap_or(b"unspecified")
        };
        let unsaid = |value: &[u8]| value == b"unspecified";
        match value(b"text") {
            b"unset" => Ok(false),
            text if !unsaid(text) || !unsaid(value(b"eol")) => Ok(true),
            _ => {
                let mut command = self.git();
                command.args(["config", "--default=false", "--get", "core.autocrlf"]);
                Ok(run(&mut command, "config")?.trim_ascii() != b"false")
            }
        }
    }

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

    /// Stores a text as a blob, as it is.
    ///
    /// # Errors
    /// If git fails.
    pub fn store(&self, text: &[u8]) -> Answer<String> {
        let mut command = self.git();
        command.args(["hash-object", "-w", "--stdin", "--no-filters"]);
        let answer = run_with(&mut command, "hash-object", text)?;
        Ok(String::from_utf8_lossy(&answer).trim().to_string())
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

    /// Stores files as blobs, as they are on disk, in the order of their paths.
    ///
    /// # Errors
    /// If git fails, or one of them cannot be read.
    pub fn store_files(&self, paths: &[&Path]) -> Answer<Vec<String>> {
        if paths.iter().any(|path| path.as_os_str().as_bytes().contains(&b'\n')) {
            let read = |path: &Path| {
                std::fs::read(path).map_err(|error| GitError::Unreadable(path.into(), error))
            };
            return paths.iter().map(|path| self.store(&read(path)?)).collect();
        }
        let mut input = Vec::new();
        for path in paths {
            input.extend_from_slice(path.as_os_str().as_bytes());
            input.push(b'\n');
        }
        let mut command = self.git();
        command.args(["hash-object", "-w", "--no-filters", "--stdin-paths"]);
        let answer = run_with(&mut command, "hash-object", &input)?;
        Ok(String::from_utf8_lossy(&answer).lines().map(str::to_string).collect())
    }

    /// A blob as git writes it into the working file at a path: line ends, encodings and filters
    /// as the attributes have them.
    ///
    /// # Errors
    /// If git fails, or there are filters that are not run here.
    pub fn as_in_working_file(&self, blob: &str, path: &Path) -> Answer<Vec<u8>> {
        if !self.filters_off.is_empty() {
            return Err(GitError::Filtered(path.into(), self.root.clone()));
        }
        let mut command = self.git();
        let mut option = OsString::from("--path=");
        option.push(path);
        command.args(["cat-file", "--filters"]).arg(option).arg(blob);
        run(&mut command, "cat-file")
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
            input.extend_from_slice(entry.path.as_os_str().as_bytes());
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

    /// The folder in which git looks for hooks.
    ///
    /// # Errors
    /// If git fails.
    pub fn hooks(&self) -> Answer<PathBuf> {
        let mut command = git_with_hooks(&self.root, self.trust);
        command.args(["rev-parse", "--git-path", "hooks"]);
        let answer = run(&mut command, "rev-parse")?;
        let path = path_of(answer.strip_suffix(b"\n").unwrap_or(&answer));
        Ok(self.root.join(path))
    }
}
