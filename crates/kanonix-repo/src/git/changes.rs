//! What differs: between two trees, a tree and the index, a tree and the files.

use crate::system::{bytes_of, path_of};
use super::finding::top_of;
use super::runner::{Trust, git_in, is_told, run, run_with};
use super::{Answer, GitError, Repository};
use std::collections::{BTreeSet, HashMap};
use std::path::{Path, PathBuf};
use std::process::Command;

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

/// What differs between a tree and what came of it, and the paths that are gone.
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

/// Git does not go into a submodule to see what is changed there: that would ask a git of its own,
/// with the submodule's configuration.
const CLOSED: &str = "--ignore-submodules=dirty";

/// Where a file came from is git's to say: from one that is gone or has changed as well, and is
/// much alike. The limit is said, so that no setting of git's makes another verdict elsewhere.
const MOVES: [&str; 3] = ["-M", "-C", "-l1000"];

/// Of more files that git does not know yet, nobody asks where they came from.
const MOST_NEW: usize = 2_000;

/// The commits of a branch, one after the other, are looked at up to so many.
const MOST_STEPS: usize = 500;

/// What differs between a tree and the index, wherever in the working tree git runs.
pub(super) fn staged_since(git: &mut Command, base: &str) -> Answer<Staged> {
    git.args(["diff-index", "--cached", "--no-relative", "-z", "--no-ext-diff"]);
    git.args(MOVES).args([CLOSED, base, "--"]);
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

impl Repository {
    /// As [`Repository::find`], with what [`Repository::staged`] says of the last commit, both
    /// asked at once. Without a last commit, nothing is said.
    ///
    /// # Errors
    /// As [`Repository::find`].
    pub fn find_with_staged(folder: &Path) -> Answer<Option<(Repository, Option<Staged>)>> {
        let top = match is_told() {
            true => folder.to_path_buf(),
            false => top_of(folder).unwrap_or(folder.to_path_buf()),
        };
        let (found, staged) = std::thread::scope(|scope| {
            let mut command = git_in(&top, Trust::Found);
            let staged = scope.spawn(move || staged_since(&mut command, "HEAD"));
            (Repository::find_any(folder), staged.join())
        });
        let staged = staged.ok().and_then(Result::ok);
        Ok(found?.map(|repository| (repository, staged)))
    }

    /// What differs between a tree and the files of the working tree, those files included that git
    /// does not know yet: one of them may have come from a file that is gone.
    ///
    /// # Errors
    /// If git fails.
    pub fn changed_files(&self, base: &str, new: &[PathBuf]) -> Answer<Vec<Change>> {
        let words = ["diff-index", "-z", "--no-ext-diff", CLOSED, base, "--"];
        if (1..=MOST_NEW).contains(&new.len())
            && let Some(index) = self.index_with(new)
        {
            let mut command = self.git();
            command.env("GIT_INDEX_FILE", index.path());
            // Where git cannot say it so, nothing is known of where they came from.
            if let Ok(changes) = self.changes_by(command, &words) {
                return Ok(changes);
            }
        }
        self.changes_by(self.git(), &words)
    }

    /// The files of the working tree that are not as the last commit has them, those included that git
    /// does not know and does not ignore.
    ///
    /// # Errors
    /// If git fails.
    pub fn uncommitted(&self) -> Answer<BTreeSet<PathBuf>> {
        let new = self.untracked()?;
        let known = match self.head()? {
            Some(head) => self.changed_files(&head, &[])?.into_iter().map(|own| own.path).collect(),
            None => self.tracked()?,
        };
        Ok(known.into_iter().chain(new).collect())
    }

    /// A copy of the index that announces these files, too, without their contents.
    fn index_with(&self, new: &[PathBuf]) -> Option<tempfile::NamedTempFile> {
        let mut ask = self.git();
        ask.args(["rev-parse", "--git-path", "index"]);
        let answer = run(&mut ask, "rev-parse").ok()?;
        let index = self.root.join(path_of(answer.strip_suffix(b"\n").unwrap_or(&answer)));
        let copy = tempfile::NamedTempFile::new().ok()?;
        if let Ok(found) = index.metadata() {
            std::fs::copy(&index, copy.path()).ok()?;
            // By its time git knows which files may have changed right behind it.
            copy.as_file().set_modified(found.modified().ok()?).ok()?;
        } else {
            // An empty file is no index; none at all is an empty one.
            std::fs::remove_file(copy.path()).ok()?;
        }
        let mut input = Vec::new();
        // A folder at the end of whose name is a stroke is a repository of its own.
        for path in new.iter().map(|path| bytes_of(path)) {
            if !path.ends_with(b"/") {
                input.extend_from_slice(path);
                input.push(0);
            }
        }
        let mut command = self.git();
        command.env("GIT_INDEX_FILE", copy.path()).arg("--literal-pathspecs");
        command.args(["add", "--intent-to-add", "--pathspec-from-file=-", "--pathspec-file-nul"]);
        run_with(&mut command, "add", &input).ok().map(|_| copy)
    }

    /// What differs between a tree and the index, and the paths that the index does not have.
    ///
    /// # Errors
    /// If git fails.
    pub fn staged(&self, base: &str) -> Answer<Staged> {
        staged_since(&mut self.git(), base)
    }

    /// What differs between two trees, and the paths that the second one does not have.
    ///
    /// # Errors
    /// If git fails.
    pub fn between(&self, base: &str, now: &str) -> Answer<Staged> {
        let mut git = self.git();
        git.arg("diff-tree").args(MOVES).args(["-r", "-z", "--no-ext-diff", base, now, "--"]);
        differences(&mut git, "diff-tree").map_err(|error| self.by_its_tree(error))
    }

    /// The files of a commit by one of these names, wherever they stand.
    ///
    /// # Errors
    /// If git fails.
    pub fn named_in(&self, commit: &str, names: &[&str]) -> Answer<Vec<PathBuf>> {
        let mut git = self.git();
        git.args(["ls-tree", "-r", "-z", "--name-only", "--full-tree", commit]);
        let answer = run(&mut git, "ls-tree").map_err(|error| self.by_its_tree(error))?;
        let paths = answer.split(|byte| *byte == 0).filter(|path| !path.is_empty()).map(path_of);
        let is_one = |path: &PathBuf| {
            names.iter().any(|name| path.file_name().is_some_and(|own| own == *name))
        };
        Ok(paths.filter(is_one).collect())
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
        trees.args(["diff-tree", "--stdin", "-r", "-z", "--no-commit-id", "--no-ext-diff"]);
        trees.args(MOVES);
        let answer = run_with(&mut trees, "diff-tree", input.as_bytes())?;
        for record in records(&answer) {
            let known = match (&record.from, record.status) {
                (Some(from), b'R') => ways.remove(from).unwrap_or_default(),
                (Some(from), _) => ways.get(from).cloned().unwrap_or_default(),
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

    /// Git names the commit whose tree it cannot read; what is damaged is the tree.
    pub(super) fn by_its_tree(&self, error: GitError) -> GitError {
        let GitError::Damaged { object, message } = error else { return error };
        let mut command = self.git();
        command.args(["rev-list", "--no-walk", "--format=%T", &object]);
        let said = run(&mut command, "rev-list").unwrap_or_default();
        let tree = String::from_utf8_lossy(&said).lines().nth(1).map(str::to_string);
        GitError::Damaged { object: tree.unwrap_or(object), message }
    }

    fn changes_by(&self, mut git: Command, words: &[&str]) -> Answer<Vec<Change>> {
        git.arg(words[0]).args(MOVES).args(&words[1..]);
        differences(&mut git, words[0]).map(|(changes, _)| changes)
    }
}

impl Change {
    fn same_path(&self, other: &Change) -> bool {
        self.path == other.path
    }
}
