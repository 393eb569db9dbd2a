//! Which repository a folder is in.
//!
//! A repository counts if git has checked it out: a `.git` stands at its top. What merely looks
//! like one, a folder with `HEAD` and `objects` in somebody's tree, is a folder like any other. So
//! we look by ourselves first, and ask git only about what we have found.

use super::runner::{Trust, git_in, is_told, plain, run};
use super::{Answer, GitError, Repository, path_of};
use std::io::Read;
use std::path::{Path, PathBuf};
use std::sync::RwLock;

/// A `.git` file holds one short line.
const LARGEST_LINK: u64 = 4096;

/// Where the user stands, if it is not the current folder: what an editor has open.
static STANDS: RwLock<Vec<PathBuf>> = RwLock::new(Vec::new());

/// Says where the user stands: the folders that he has opened in an editor.
pub fn stand_in(folders: &[PathBuf]) {
    if let Ok(mut stands) = STANDS.write() {
        *stands = folders.to_vec();
    }
}

fn stands() -> Vec<PathBuf> {
    let said = STANDS.read().map(|stands| stands.clone()).unwrap_or_default();
    match said.is_empty() {
        true => std::env::current_dir().into_iter().collect(),
        false => said,
    }
}

/// The top of the working tree that a folder is in, by our own look.
pub fn top_of(folder: &Path) -> Option<PathBuf> {
    folder.ancestors().find(|around| is_checked_out(around)).map(Path::to_path_buf)
}

/// Whether git has checked out a working tree in this very folder.
fn is_checked_out(folder: &Path) -> bool {
    let git = folder.join(".git");
    match std::fs::metadata(&git) {
        Ok(found) if found.is_dir() => git.join("HEAD").symlink_metadata().is_ok(),
        Ok(found) if found.is_file() => link_in(&git).is_some(),
        _ => false,
    }
}

/// Whether a folder has what a repository without a working tree has.
fn is_bare(folder: &Path) -> bool {
    folder.join("HEAD").is_file()
        && ["objects", "refs"].iter().all(|name| folder.join(name).is_dir())
}

/// Where a `.git` file leads.
fn link_in(file: &Path) -> Option<PathBuf> {
    let target = first_line(file)?.strip_prefix("gitdir: ")?.to_string();
    let folder = file.parent()?;
    std::fs::canonicalize(folder.join(target)).ok()
}

fn first_line(file: &Path) -> Option<String> {
    let mut text = String::new();
    let is_file = file.metadata().is_ok_and(|found| found.is_file());
    let file = is_file.then(|| std::fs::File::open(file).ok()).flatten()?;
    file.take(LARGEST_LINK).read_to_string(&mut text).ok()?;
    Some(text.lines().next()?.to_string())
}

/// The folder that a working tree shares with those that are linked to it, and that holds its
/// submodules.
fn common_of(top: &Path) -> Option<PathBuf> {
    let git = top.join(".git");
    if git.is_dir() {
        return std::fs::canonicalize(git).ok();
    }
    let own = link_in(&git)?;
    match first_line(&own.join("commondir")) {
        Some(common) => std::fs::canonicalize(own.join(common)).ok(),
        None => Some(own),
    }
}

/// How far the configuration of a repository is believed.
fn trust(root: &Path, git_dir: &Path) -> Trust {
    let is_own = |stand: &PathBuf| {
        let stand = std::fs::canonicalize(stand).unwrap_or(stand.clone());
        let Some(top) = top_of(&stand) else { return false };
        top == root || common_of(&top).is_some_and(|common| git_dir.starts_with(common))
    };
    if is_told() || stands().iter().any(is_own) { Trust::Own } else { Trust::Found }
}

impl Repository {
    /// The repository that a folder is in, if it is in one with a working tree.
    ///
    /// # Errors
    /// If git cannot be run, or refuses to open the repository; if it has its working tree
    /// elsewhere.
    pub fn find(folder: &Path) -> Answer<Option<Repository>> {
        let folder = std::fs::canonicalize(folder).unwrap_or(folder.to_path_buf());
        let top = match is_told() {
            // It has been said which repository this is about.
            true => folder.clone(),
            false => match top_of(&folder) {
                Some(top) => top,
                None => return Ok(None),
            },
        };
        let mut command = git_in(&top, Trust::Found);
        command.args(["rev-parse", "--show-toplevel", "--absolute-git-dir"]);
        let answer = match run(&mut command, "rev-parse") {
            Ok(answer) => answer,
            Err(GitError::Failed { message, .. })
                if message.contains("not a git repository") || message.contains("work tree") =>
            {
                return Ok(None);
            }
            Err(error) => return Err(error),
        };
        let mut lines = answer.split(|byte| *byte == b'\n');
        let (Some(root), Some(git_dir)) = (lines.next(), lines.next()) else { return Ok(None) };
        if root.is_empty() {
            return Ok(None);
        }
        let (root, git_dir) = (real(&path_of(root)), real(&path_of(git_dir)));
        if !is_told() && !is_checked_out(&root) {
            return Err(GitError::Elsewhere(top, root));
        }
        if !folder.starts_with(&root) || folder.starts_with(&git_dir) {
            return Ok(None);
        }
        let trust = trust(&root, &git_dir);
        let mut found =
            Repository { root, git_dir, trust, is_bare: false, filters_off: Vec::new() };
        if trust == Trust::Found {
            found.filters_off = found.filters()?;
        }
        Ok(Some(found))
    }

    /// A repository without a working tree, which somebody has named on purpose.
    pub(super) fn bare(folder: &Path) -> Repository {
        Repository {
            root: folder.to_path_buf(),
            git_dir: folder.to_path_buf(),
            trust: Trust::Bare,
            is_bare: true,
            filters_off: Vec::new(),
        }
    }

    /// As [`Repository::find`], where a working tree is not needed: also the repository without one
    /// that the user stands at the top of, in nobody's working tree, or that he names by `GIT_DIR`.
    ///
    /// # Errors
    /// As [`Repository::find`].
    pub fn find_any(folder: &Path) -> Answer<Option<Repository>> {
        let found = Repository::find(folder)?;
        let folder = real(folder);
        let is_bare = is_told() || (is_bare(&folder) && top_of(&folder).is_none());
        if found.is_some() || !is_bare {
            return Ok(found);
        }
        let mut command = git_in(&folder, Trust::Found);
        if !is_told() {
            command.arg("--git-dir").arg(&folder);
        }
        command.args(["rev-parse", "--is-bare-repository", "--absolute-git-dir"]);
        let answer = match run(&mut command, "rev-parse") {
            Ok(answer) => answer,
            Err(GitError::Failed { message, .. }) if message.contains("not a git repository") => {
                return Ok(None);
            }
            Err(error) => return Err(error),
        };
        let mut lines = answer.split(|byte| *byte == b'\n');
        match (lines.next(), lines.next()) {
            (Some(b"true"), Some(git_dir)) => {
                let root = real(&path_of(git_dir));
                let (git_dir, trust) = (root.clone(), Trust::Found);
                let filters_off = Vec::new();
                Ok(Some(Repository { root, git_dir, trust, is_bare: true, filters_off }))
            }
            _ => Ok(None),
        }
    }

    /// The names of the filters that are configured where this repository is.
    fn filters(&self) -> Answer<Vec<String>> {
        let mut command = self.git();
        command.args(["config", "--includes", "--null", "--name-only", "--get-regexp"]);
        command.arg(r"^filter\..*\.(clean|smudge|process)$");
        let answer = match run(&mut command, "config") {
            Ok(answer) => answer,
            // There are none.
            Err(GitError::Failed { message, .. }) if message.is_empty() => return Ok(Vec::new()),
            Err(error) => return Err(error),
        };
        let names = answer.split(|byte| *byte == 0).map(String::from_utf8_lossy);
        let driver = |name: std::borrow::Cow<str>| {
            let inner = name.strip_prefix("filter.")?;
            Some(inner.rsplit_once('.')?.0.to_string())
        };
        let mut drivers: Vec<String> = names.filter_map(driver).collect();
        drivers.sort();
        drivers.dedup();
        Ok(drivers)
    }
}

fn real(path: &Path) -> PathBuf {
    std::fs::canonicalize(path).unwrap_or(path.to_path_buf())
}

/// What the git program says of itself.
///
/// # Errors
/// If it cannot be run.
pub fn program_version() -> Answer<String> {
    let answer = run(plain(Trust::Found).arg("--version"), "--version")?;
    Ok(String::from_utf8_lossy(&answer).trim().to_string())
}
