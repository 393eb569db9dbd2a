//! Git, through its plumbing. Every call of the git program is here.

mod blobs;

pub use blobs::Blobs;
use std::collections::HashMap;
use std::ffi::OsString;
use std::io::Write;
use std::os::unix::ffi::OsStrExt;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
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
    #[error("git {command} failed: {message}")]
    Failed {
        /// The command's first words.
        command: String,
        /// What git said.
        message: String,
    },
    /// A revision that does not exist.
    #[error("there is no revision `{0}` in this repository")]
    NoRevision(String),
    /// A file that a commit does not have.
    #[error("there is no {0} in {1} at {2}")]
    NoFile(String, String, String),
    /// Another process holds the index.
    #[error(
        "another process holds git's index: wait until it is done; if there is none, remove {}",
        .0.display()
    )]
    Held(PathBuf),
    /// Two revisions without a common ancestor.
    #[error("`{0}` and HEAD have no commit in common")]
    NoMergeBase(String),
}

type Answer<T> = Result<T, GitError>;

/// A repository with a working tree.
#[derive(Clone, Debug)]
pub struct Repository {
    /// The working tree's top folder.
    pub root: PathBuf,
    /// The folder that holds this working tree's own git files.
    pub git_dir: PathBuf,
}

/// One path that differs between two trees, or a tree and the index, or a tree and the files.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Change {
    /// Its path now, from the root.
    pub path: PathBuf,
    /// The blob that it had in the base; `None` if it is new.
    pub base: Option<String>,
    /// The blob that it has now; `None` where git has not looked at the file.
    pub now: Option<String>,
    /// Git's mode of it now, in octal.
    pub mode: String,
    /// Whether it is in the middle of a merge.
    pub unmerged: bool,
}

/// What differs between a tree and the index, and the paths that the index does not have.
pub type Staged = (Vec<Change>, Vec<PathBuf>);

impl Change {
    /// Whether it is a submodule.
    pub fn is_submodule(&self) -> bool {
        self.mode == "160000"
    }

    /// Whether it is a symbolic link.
    pub fn is_link(&self) -> bool {
        self.mode == "120000"
    }
}

/// An answer's bytes as a path.
fn path_of(bytes: &[u8]) -> PathBuf {
    use std::os::unix::ffi::OsStringExt;
    PathBuf::from(OsString::from_vec(bytes.to_vec()))
}

fn run(command: &mut Command, what: &str) -> Answer<Vec<u8>> {
    let output = command.stdin(Stdio::null()).output().map_err(GitError::NotRun)?;
    if output.status.success() {
        return Ok(output.stdout);
    }
    let message = String::from_utf8_lossy(&output.stderr).trim().to_string();
    Err(GitError::Failed { command: what.into(), message })
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

/// The commits of a branch, one after the other, are looked at up to so many.
const MOST_STEPS: usize = 500;

/// How long another process that holds the index is waited for, and how often it is asked.
const LONGEST_WAIT: Duration = Duration::from_millis(1500);
const WAIT: Duration = Duration::from_millis(50);

/// As [`run`], with something to read.
fn run_with(command: &mut Command, what: &str, input: &[u8]) -> Answer<Vec<u8>> {
    command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped());
    let mut child = command.spawn().map_err(GitError::NotRun)?;
    let mut stdin = child.stdin.take();
    let output = std::thread::scope(|scope| {
        // Git may answer before it has read everything, or end early: both are told by its status.
        scope.spawn(move || stdin.as_mut().map(|stdin| stdin.write_all(input)));
        child.wait_with_output()
    });
    let output = output.map_err(GitError::NotRun)?;
    if output.status.success() {
        return Ok(output.stdout);
    }
    let message = String::from_utf8_lossy(&output.stderr).trim().to_string();
    Err(GitError::Failed { command: what.into(), message })
}

/// Git in a folder.
fn git_in(folder: &Path) -> Command {
    let mut command = Command::new("git");
    command.arg("-C").arg(folder).args(["-c", "core.quotePath=false"]);
    command
}

/// What differs between a tree and the index, wherever in the working tree git runs.
fn staged_since(git: &mut Command, base: &str) -> Answer<Staged> {
    git.args(["diff-index", "--cached", "--no-relative", "-z", "-M", "--no-ext-diff", base, "--"]);
    differences(git, "diff-index")
}

/// The changes that git lists, and the paths that are gone.
fn differences(git: &mut Command, what: &str) -> Answer<Staged> {
    let answer = run(git, what)?;
    let (mut changes, mut gone) = (Vec::new(), Vec::new());
    for Record { change, from, status } in records(&answer) {
        match (status, from) {
            (b'D', _) => {
                gone.push(change.path);
                continue;
            }
            (b'R', Some(from)) => gone.push(from),
            _ => {}
        }
        match changes.last_mut() {
            // An unmerged path is listed once more, with the file's own state.
            Some(last) if Change::same_path(last, &change) => last.unmerged |= change.unmerged,
            _ => changes.push(change),
        }
    }
    Ok((changes, gone))
}

/// One entry of a list of changes.
struct Record {
    change: Change,
    /// The path before a rename or a copy.
    from: Option<PathBuf>,
    /// Git's letter for what happened.
    status: u8,
}

/// The entries of a list of changes in git's raw format, ended by zero bytes.
fn records(answer: &[u8]) -> Vec<Record> {
    let mut fields = answer.split(|byte| *byte == 0);
    let mut records = Vec::new();
    while let Some(head) = fields.next().filter(|head| head.starts_with(b":")) {
        let head = String::from_utf8_lossy(&head[1..]).into_owned();
        let words: Vec<&str> = head.split(' ').collect();
        let [_, mode, base, now, status] = words[..] else { break };
        let Some(mut path) = fields.next() else { break };
        let mut from = None;
        if status.starts_with(['R', 'C']) {
            from = Some(path_of(path));
            path = fields.next().unwrap_or(path);
        }
        let blob = |name: &str| (!name.bytes().all(|b| b == b'0')).then(|| name.to_string());
        let change = Change {
            path: path_of(path),
            base: blob(base),
            now: blob(now),
            mode: mode.to_string(),
            unmerged: status.starts_with('U'),
        };
        let status = status.as_bytes().first().copied().unwrap_or(b'M');
        records.push(Record { change, from, status });
    }
    records
}

/// What the git program says of itself.
///
/// # Errors
/// If it cannot be run.
pub fn program_version() -> Answer<String> {
    let answer = run(Command::new("git").arg("--version"), "--version")?;
    Ok(String::from_utf8_lossy(&answer).trim().to_string())
}

impl Repository {
    /// The repository that a folder is in, if it is in one with a working tree.
    ///
    /// # Errors
    /// If git cannot be run, or refuses to open the repository.
    pub fn find(folder: &Path) -> Answer<Option<Repository>> {
        let mut command = Command::new("git");
        command.arg("-C").arg(folder);
        command.args(["rev-parse", "--show-toplevel", "--absolute-git-dir"]);
        match run(&mut command, "rev-parse") {
            Ok(answer) => {
                let mut lines = answer.split(|byte| *byte == b'\n');
                let (root, git_dir) = (lines.next(), lines.next());
                Ok(match (root, git_dir) {
                    (Some(root), Some(git_dir)) if !root.is_empty() => {
                        Some(Repository { root: path_of(root), git_dir: path_of(git_dir) })
                    }
                    _ => None,
                })
            }
            Err(GitError::Failed { message, .. })
                if message.contains("not a git repository") || message.contains("work tree") =>
            {
                Ok(None)
            }
            Err(error) => Err(error),
        }
    }

    /// As [`Repository::find`], with what [`Repository::staged`] says of the last commit, both
    /// asked at once. Without a last commit, nothing is said.
    ///
    /// # Errors
    /// As [`Repository::find`].
    pub fn find_with_staged(folder: &Path) -> Answer<Option<(Repository, Option<Staged>)>> {
        let (found, staged) = std::thread::scope(|scope| {
            let mut command = git_in(folder);
            let staged = scope.spawn(move || staged_since(&mut command, "HEAD"));
            (Repository::find(folder), staged.join())
        });
        let staged = staged.ok().and_then(Result::ok);
        Ok(found?.map(|repository| (repository, staged)))
    }

    fn git(&self) -> Command {
        git_in(&self.root)
    }

    /// The commit that a revision names.
    ///
    /// # Errors
    /// [`GitError::NoRevision`] if it names none.
    pub fn commit(&self, revision: &str) -> Answer<String> {
        let mut command = self.git();
        command.args(["rev-parse", "--verify", "--quiet", "--end-of-options"]);
        command.arg(format!("{revision}^{{commit}}"));
        match run(&mut command, "rev-parse") {
            Ok(answer) => Ok(String::from_utf8_lossy(&answer).trim().to_string()),
            Err(GitError::Failed { .. }) => Err(GitError::NoRevision(revision.into())),
            Err(error) => Err(error),
        }
    }

    /// The last commit, or `None` in a repository without one.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn head(&self) -> Answer<Option<String>> {
        match self.commit("HEAD") {
            Ok(commit) => Ok(Some(commit)),
            Err(GitError::NoRevision(_)) => Ok(None),
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
        let commit = self.commit(revision)?;
        let mut command = self.git();
        command.args(["merge-base", &commit, "HEAD"]);
        match run(&mut command, "merge-base") {
            Ok(answer) => Ok(String::from_utf8_lossy(&answer).trim().to_string()),
            Err(GitError::Failed { .. }) => Err(GitError::NoMergeBase(revision.into())),
            Err(error) => Err(error),
        }
    }

    /// The commits that are being merged into HEAD, while a merge is going on.
    pub fn merged(&self) -> Vec<String> {
        let text = std::fs::read_to_string(self.git_dir.join("MERGE_HEAD")).unwrap_or_default();
        text.lines().map(str::to_string).collect()
    }

    /// What differs between a tree and the files of the working tree.
    ///
    /// # Errors
    /// If git fails.
    pub fn changed_files(&self, base: &str) -> Answer<Vec<Change>> {
        self.changes(&["diff-index", "-z", "-M", "--no-ext-diff", base, "--"])
    }

    /// What differs between a tree and the index, and the paths that the index does not have.
    ///
    /// # Errors
    /// If git fails.
    pub fn staged(&self, base: &str) -> Answer<Staged> {
        staged_since(&mut self.git(), base)
    }

    /// What differs between two trees.
    ///
    /// # Errors
    /// If git fails.
    pub fn between(&self, base: &str, now: &str) -> Answer<Vec<Change>> {
        self.changes(&["diff-tree", "-r", "-z", "-M", "--no-ext-diff", base, now, "--"])
    }

    /// Of every file that the commits between `base` and HEAD changed, by its path in HEAD: the
    /// blobs that it had after each of them, the oldest first. Of a merge, its first parent counts.
    ///
    /// # Errors
    /// If git fails.
    pub fn ways(&self, base: &str) -> Answer<HashMap<PathBuf, Vec<String>>> {
        let mut list = self.git();
        list.args(["rev-list", "--first-parent", "--reverse", &format!("{base}..HEAD")]);
        let commits = run(&mut list, "rev-list")?;
        let commits = String::from_utf8_lossy(&commits).into_owned();
        let commits: Vec<&str> = commits.lines().collect();
        let mut ways: HashMap<PathBuf, Vec<String>> = HashMap::new();
        // A single step is the whole way; one of very many is not gone again.
        if !(2..=MOST_STEPS).contains(&commits.len()) {
            return Ok(ways);
        }
        // Each commit beside the one before it; the first one beside its own first parent.
        let first = self.commit(&format!("{}^", commits[0])).unwrap_or_else(|_| base.to_string());
        let before = std::iter::once(first.as_str()).chain(commits.iter().copied());
        let pairs = commits.iter().zip(before);
        let input: String = pairs.map(|(commit, before)| format!("{commit} {before}\n")).collect();
        let mut trees = self.git();
        trees.args(["diff-tree", "--stdin", "-r", "-z", "-M", "--no-commit-id", "--no-ext-diff"]);
        let answer = run_with(&mut trees, "diff-tree", input.as_bytes())?;
        for record in records(&answer) {
            let known = match (&record.from, record.status) {
                (Some(from), b'R') => ways.remove(from).unwrap_or_default(),
                _ => ways.remove(&record.change.path).unwrap_or_default(),
            };
            if let (Some(now), false) = (record.change.now, record.status == b'D') {
                let mut known = known;
                known.push(now);
                ways.insert(record.change.path, known);
            }
        }
        Ok(ways)
    }

    fn changes(&self, words: &[&str]) -> Answer<Vec<Change>> {
        differences(self.git().args(words), words[0]).map(|(changes, _)| changes)
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
            let read = |path: &&Path| std::fs::read(path).map_err(GitError::NotRun);
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
    /// If git fails.
    pub fn as_in_working_file(&self, blob: &str, path: &Path) -> Answer<Vec<u8>> {
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
        let mut command = self.git();
        command.args(["rev-parse", "--git-path", "hooks"]);
        let answer = run(&mut command, "rev-parse")?;
        let path = path_of(answer.strip_suffix(b"\n").unwrap_or(&answer));
        Ok(self.root.join(path))
    }
}

impl Change {
    fn same_path(&self, other: &Change) -> bool {
        self.path == other.path
    }
}

/// A file of another repository, as a revision of it has it, with the commit's name. The repository
/// is fetched once, into a folder that goes away again.
///
/// # Errors
/// If git cannot reach it, or it has no such revision or file.
pub fn fetch_file(from: &str, revision: Option<&str>, file: &str) -> Answer<(String, String)> {
    let folder = tempfile::tempdir().map_err(GitError::NotRun)?;
    let mut clone = Command::new("git");
    clone.args(["clone", "--quiet", "--bare", "--", from]).arg(folder.path());
    run(clone.env("GIT_TERMINAL_PROMPT", "0"), "clone")?;
    let copy =
        Repository { root: folder.path().to_path_buf(), git_dir: folder.path().to_path_buf() };
    let commit = copy.commit(revision.unwrap_or("HEAD"))?;
    match copy.blobs()?.read(format!("{commit}:{file}").as_bytes())? {
        Some(bytes) => Ok((commit, String::from_utf8_lossy(&bytes).into_owned())),
        None => Err(GitError::NoFile(file.into(), from.into(), commit)),
    }
}
