//! The one way in which git is called.
//!
//! A repository may have been made by a stranger, and so may its configuration. Nothing that it
//! names is run: no hook, no watching program, no pager or editor, no external way to compare or
//! to fetch. What a user's surroundings say counts only as far as it redirects nothing, unless git
//! itself has started us. What filters and fetching need is said in [`Trust`].

use super::finding::{program_version, top_of};
use crate::system::{LONGEST, Process};
use super::{Answer, GitError, Repository};
use std::ffi::OsStr;
use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Output, Stdio};
use std::sync::OnceLock;
use std::sync::mpsc;
use std::time::{Duration, Instant};

/// How far a repository's own configuration is believed.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Trust {
    /// Git itself would use this repository where the user stands, or it is a linked working tree
    /// or a submodule of that one: its filters run, and what it left out is fetched.
    Own,
    /// It was found beneath, or elsewhere: nothing that it names is run, and nothing fetched.
    Found,
    /// It has no working tree, and was named on purpose.
    Bare,
}

/// What keeps git from running anything that a configuration names. Said behind the program, so
/// that it counts for everything that git starts in turn.
const GUARD: [&str; 6] = [
    "safe.bareRepository=explicit",
    "core.fsmonitor=false",
    "core.quotePath=false",
    "core.pager=cat",
    "core.editor=:",
    "protocol.ext.allow=never",
];

/// Git looks for hooks in this folder, which no system has.
const NO_HOOKS: &str = "core.hooksPath=/dev/null";

/// What may be fetched over: what git itself allows, and nothing that starts another program.
const PROTOCOLS: &str = "file:git:http:https:ssh";

/// What in the surroundings leads git to another repository, or has it read or run something else.
/// `git rev-parse --local-env-vars` lists most of them; what a user's settings are (`GIT_CONFIG_…`)
/// and how he reaches a server stays.
const REDIRECTING: [&str; 20] = [
    "GIT_ALTERNATE_OBJECT_DIRECTORIES",
    "GIT_ATTR_SOURCE",
    "GIT_COMMON_DIR",
    "GIT_CONFIG",
    "GIT_DIFF_OPTS",
    "GIT_DIR",
    "GIT_EXTERNAL_DIFF",
    "GIT_GLOB_PATHSPECS",
    "GIT_GRAFT_FILE",
    "GIT_ICASE_PATHSPECS",
    "GIT_IMPLICIT_WORK_TREE",
    "GIT_INDEX_FILE",
    "GIT_LITERAL_PATHSPECS",
    "GIT_NAMESPACE",
    "GIT_NOGLOB_PATHSPECS",
    "GIT_OBJECT_DIRECTORY",
    "GIT_PREFIX",
    "GIT_QUARANTINE_PATH",
    "GIT_SHALLOW_FILE",
    "GIT_WORK_TREE",
];

/// What git tells a hook of the repository that it runs it in.
const OF_A_HOOK: [&str; 8] = [
    "GIT_ALTERNATE_OBJECT_DIRECTORIES",
    "GIT_COMMON_DIR",
    "GIT_DIR",
    "GIT_INDEX_FILE",
    "GIT_OBJECT_DIRECTORY",
    "GIT_PREFIX",
    "GIT_QUARANTINE_PATH",
    "GIT_WORK_TREE",
];

/// Who says which repository this is about.
enum Told {
    /// Git, which has started us by a hook.
    ByHook,
    /// The user, who stands in no repository and names one by `GIT_DIR`.
    ByUser {
        git_dir: PathBuf,
        work_tree: Option<PathBuf>,
    },
}

static TOLD: OnceLock<Told> = OnceLock::new();

/// Says that this program may have been started by a hook of git, or where there is no working
/// tree: what git tells a hook counts then, and a user's `GIT_DIR` where he stands in no
/// repository. Nothing happens if neither is so.
pub fn may_be_told() {
    let is_set = |name| std::env::var_os(name).is_some();
    if is_set("GIT_INDEX_FILE") && (is_set("GIT_PREFIX") || is_set("GIT_EXEC_PATH")) {
        TOLD.get_or_init(|| Told::ByHook);
        return;
    }
    let Some(git_dir) = std::env::var_os("GIT_DIR") else { return };
    let stands_in_one = std::env::current_dir().is_ok_and(|here| top_of(&here).is_some());
    if let Ok(git_dir) = std::fs::canonicalize(git_dir)
        && !stands_in_one
    {
        let work_tree = std::env::var_os("GIT_WORK_TREE");
        let work_tree = work_tree.and_then(|folder| std::fs::canonicalize(folder).ok());
        TOLD.get_or_init(|| Told::ByUser { git_dir, work_tree });
    }
}

/// Whether we have been told which repository this is about.
pub(super) fn is_told() -> bool {
    TOLD.get().is_some()
}

/// Git in a folder, which reads and starts nothing on its own account.
pub(super) fn git_in(folder: &Path, trust: Trust) -> Command {
    let mut command = plain(trust);
    command.arg("-C").arg(folder).args(["-c", NO_HOOKS]);
    command
}

/// As [`git_in`], to be asked where the hooks are: the one question that they count for.
pub(super) fn git_with_hooks(folder: &Path, trust: Trust) -> Command {
    let mut command = plain(trust);
    command.arg("-C").arg(folder);
    command
}

/// Git in no folder in particular.
pub(super) fn plain(trust: Trust) -> Command {
    let mut command = Command::new("git");
    command.arg("--no-pager");
    for said in GUARD {
        command.args(["-c", said]);
    }
    for name in REDIRECTING {
        if !(is_told() && OF_A_HOOK.contains(&name)) {
            command.env_remove(name);
        }
    }
    if let Some(Told::ByUser { git_dir, work_tree }) = TOLD.get() {
        // Wherever git is then run.
        command.env("GIT_DIR", git_dir);
        if let Some(work_tree) = work_tree {
            command.env("GIT_WORK_TREE", work_tree);
        }
    }
    command.env("GIT_OPTIONAL_LOCKS", "0").env("GIT_TERMINAL_PROMPT", "0");
    // Its messages are read in English, whatever the user's are; how his texts are encoded stays.
    if let Some(all) = std::env::var_os("LC_ALL") {
        command.env("LC_CTYPE", all);
    }
    command.env_remove("LC_ALL").env_remove("LANGUAGE").env("LC_MESSAGES", "C");
    match trust {
        Trust::Found => command.env("GIT_NO_LAZY_FETCH", "1").env("GIT_ALLOW_PROTOCOL", "none"),
        // Somebody who allows less keeps his word.
        Trust::Own | Trust::Bare if std::env::var_os("GIT_ALLOW_PROTOCOL").is_none() => {
            command.env("GIT_ALLOW_PROTOCOL", PROTOCOLS)
        }
        Trust::Own | Trust::Bare => &mut command,
    };
    command
}

impl Repository {
    /// Git in this repository.
    pub(super) fn git(&self) -> Command {
        let mut command = git_in(&self.root, self.trust);
        if self.is_bare {
            command.arg("--git-dir").arg(&self.git_dir);
        }
        let keys = [("clean", ""), ("smudge", ""), ("process", ""), ("required", "false")];
        let drivers = self.filters_off.iter();
        let off = drivers.flat_map(|driver| keys.map(|(key, value)| (driver, key, value)));
        // By the surroundings, behind what the user says there himself: a driver's name may hold
        // any character, and an option would be split at some of them.
        let known = std::env::var("GIT_CONFIG_COUNT").ok().and_then(|text| text.parse().ok());
        let mut count: usize = known.unwrap_or(0);
        for (driver, key, value) in off {
            command.env(format!("GIT_CONFIG_KEY_{count}"), format!("filter.{driver}.{key}"));
            command.env(format!("GIT_CONFIG_VALUE_{count}"), value);
            count += 1;
            command.env("GIT_CONFIG_COUNT", count.to_string());
        }
        command
    }
}

/// Git is asked what keeps it once it takes longer than this.
const LONG: Duration = Duration::from_secs(2);

/// Runs a command that reads nothing from us.
pub(super) fn run(command: &mut Command, what: &str) -> Answer<Vec<u8>> {
    command.stdin(Stdio::null());
    answer_of(start(command)?, command, what)
}

/// As [`run`], with something to read.
pub(super) fn run_with(command: &mut Command, what: &str, input: &[u8]) -> Answer<Vec<u8>> {
    command.stdin(Stdio::piped());
    let mut child = start(command)?;
    let mut stdin = child.stdin.take();
    std::thread::scope(|scope| {
        // Git may answer before it has read everything, or end early: both are told by its status.
        scope.spawn(move || stdin.as_mut().map(|stdin| stdin.write_all(input)));
        answer_of(child, command, what)
    })
}

fn start(command: &mut Command) -> Answer<Child> {
    command.stdout(Stdio::piped()).stderr(Stdio::piped());
    command.spawn().map_err(GitError::NotRun)
}

/// Why a git was ended.
enum Ended {
    /// It waited for this pipe, which stands where git reads what to ignore.
    ByPipe(PathBuf),
    /// It did not come to an end.
    TooLong,
}

/// What a running git answers. One that takes long is ended if it waits for a pipe, and in any case
/// after so much time.
fn answer_of(child: Child, command: &Command, what: &str) -> Answer<Vec<u8>> {
    answer_within(child, command, what, LONGEST)
}

fn answer_within(
    child: Child,
    command: &Command,
    what: &str,
    longest: Duration,
) -> Answer<Vec<u8>> {
    let process = Process::of(&child);
    let (done, is_done) = mpsc::channel::<()>();
    let folder = folder_of(command);
    let looked = folder.clone();
    let (output, ended) = std::thread::scope(|scope| {
        let watch = scope.spawn(move || {
            let still_runs = |time: Duration| {
                matches!(is_done.recv_timeout(time), Err(mpsc::RecvTimeoutError::Timeout))
            };
            if !still_runs(longest.min(LONG)) {
                return None;
            }
            let end = process.ender();
            if !still_runs(Duration::ZERO) {
                return None;
            }
            let ended = match looked.and_then(|folder| first_pipe(&folder)) {
                Some(pipe) => Ended::ByPipe(pipe),
                None if still_runs(longest.saturating_sub(LONG)) => Ended::TooLong,
                None => return None,
            };
            end();
            Some(ended)
        });
        let output = child.wait_with_output();
        drop(done);
        (output, watch.join().unwrap_or(None))
    });
    let output: Output = output.map_err(GitError::NotRun)?;
    match ended {
        Some(Ended::ByPipe(pipe)) => return Err(GitError::Special(pipe)),
        Some(Ended::TooLong) => return Err(GitError::TooLong(what.into())),
        None => {}
    }
    let message = String::from_utf8_lossy(&output.stderr).trim().to_string();
    match output.status.success() {
        true => match folder.and_then(|folder| leads_out(&folder, &message)) {
            Some(path) => Err(GitError::Special(path)),
            None => Ok(output.stdout),
        },
        false if knows_not(&message) => match program_version() {
            Ok(version) => Err(GitError::TooOld(version)),
            Err(_) => Err(GitError::failed(what, message)),
        },
        false => Err(GitError::failed(what, message)),
    }
}

/// Whether git says that it does not know a word of what it was asked.
fn knows_not(message: &str) -> bool {
    let first = message.lines().next().unwrap_or_default().to_ascii_lowercase();
    let said = ["unknown option", "unknown switch", "is not a git command"];
    said.iter().any(|words| first.contains(words))
}

/// A file of a repository that git would not follow, as it is a link that leads out of it. One that
/// stays inside is nothing to git, and no more to us.
fn leads_out(folder: &Path, message: &str) -> Option<PathBuf> {
    message.lines().find_map(|line| {
        let (_, rest) = line.split_once("unable to access '")?;
        let (name, _) = rest.split_once('\'')?;
        let path = folder.join(name);
        let is_link = path.starts_with(folder) && path.is_symlink();
        let stays = std::fs::canonicalize(&path).is_ok_and(|to| to.starts_with(folder));
        (is_link && !stays).then_some(path)
    })
}

/// The folder behind `-C`.
fn folder_of(command: &Command) -> Option<PathBuf> {
    let mut words = command.get_args().skip_while(|word| *word != OsStr::new("-C"));
    words.nth(1).map(PathBuf::from)
}

/// Names of files in which git reads what to ignore and how files are treated.
const READ_BY_GIT: [&str; 2] = [".gitignore", ".gitattributes"];

/// How long such a pipe is looked for.
const LONGEST_LOOK: Duration = Duration::from_secs(5);

/// The first pipe, socket or device below a folder that stands under the name of a file that git
/// reads.
fn first_pipe(folder: &Path) -> Option<PathBuf> {
    let begun = Instant::now();
    let mut folders = vec![folder.to_path_buf()];
    while let Some(folder) = folders.pop() {
        if begun.elapsed() > LONGEST_LOOK {
            return None;
        }
        for entry in folder.read_dir().into_iter().flatten().flatten() {
            let Ok(kind) = entry.file_type() else { continue };
            let name = entry.file_name();
            if kind.is_dir() && name != ".git" {
                folders.push(entry.path());
            } else if !kind.is_file()
                && !kind.is_symlink()
                && !kind.is_dir()
                && READ_BY_GIT.iter().any(|known| name == *known)
            {
                return Some(entry.path());
            }
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_does_not_come_to_an_end_is_ended() {
        let mut endless = Command::new("sleep");
        endless.arg("600").stdin(Stdio::null());
        let child = start(&mut endless).unwrap();
        let said = answer_within(child, &endless, "log", Duration::from_millis(300));
        assert!(matches!(said, Err(GitError::TooLong(what)) if what == "log"));
    }
}
