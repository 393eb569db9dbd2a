//! A temporary repository with a real git, and the built program to run in it.

#![allow(dead_code, reason = "each test file uses its own part")]

pub mod client;
pub mod random;

use std::fs;
use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::{Command, Output, Stdio};
use tempfile::TempDir;

/// A repository (or a plain folder) that goes away with the test.
pub struct Repo {
    folder: TempDir,
    root: PathBuf,
    /// Where programs keep what they need from run to run.
    state: TempDir,
}

/// What a command said.
#[derive(Debug)]
pub struct Said {
    pub status: i32,
    pub out: String,
    pub err: String,
}

/// The canon of the cases: 4 blanks, double quotes, blanks around operators.
pub const CANON: &str = "\
edition = 1
[style]
quotes = \"double\"
indent_size = 4
[files]
skip = [\"third_party/**\"]
";

/// What becomes of a file among these once some of it is another text, the rest of it untouched.
pub fn edited(files: &[(&str, &str)], name: &str, from: &str, to: &str) -> String {
    let repo = Repo::with(files);
    repo.edit(name, from, to);
    repo.mend(&[]);
    repo.read(name)
}

/// Of a file, each case by itself: what stands there, what somebody makes of it, and what becomes of that
/// by what the language's community expects. Nothing else in the file changes.
pub fn each_touched(name: &str, text: &str, cases: &[(&str, &str, &str)]) {
    let canon = ("kanonix.toml", "edition = 1\n");
    for (from, to, wanted) in cases {
        let mended = edited(&[canon, (name, text)], name, from, to);
        assert_eq!(mended, text.replacen(from, wanted, 1), "{to}");
    }
}

impl Repo {
    /// A repository with the canon of the cases and nothing committed.
    pub fn new() -> Repo {
        let repo = Repo::plain();
        repo.git(&["init", "--quiet", "--initial-branch=main", "."]);
        repo.write("kanonix.toml", CANON);
        repo
    }

    /// A repository in which these files are committed.
    pub fn with(files: &[(&str, &str)]) -> Repo {
        let repo = Repo::new();
        for (path, text) in files {
            repo.write(path, text);
        }
        repo.commit("before");
        repo
    }

    /// A folder that is no repository.
    pub fn plain() -> Repo {
        let folder = tempfile::tempdir().unwrap();
        let root = fs::canonicalize(folder.path()).unwrap();
        Repo { folder, root, state: tempfile::tempdir().unwrap() }
    }

    pub fn path(&self, path: &str) -> PathBuf {
        self.root.join(path)
    }

    pub fn root(&self) -> &Path {
        &self.root
    }

    /// The user's own folder.
    pub fn state(&self) -> &Path {
        self.state.path()
    }

    pub fn write(&self, path: &str, text: impl AsRef<[u8]>) {
        let path = self.path(path);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(path, text).unwrap();
    }

    pub fn read(&self, path: &str) -> String {
        String::from_utf8(fs::read(self.path(path)).unwrap()).unwrap()
    }

    /// Replaces a stretch of a file that occurs in it.
    pub fn edit(&self, path: &str, old: &str, new: &str) {
        let text = self.read(path);
        assert!(text.contains(old), "{old:?} is not in {path}");
        self.write(path, text.replacen(old, new, 1));
    }

    pub fn command(&self, program: &str) -> Command {
        let mut command = Command::new(program);
        command.current_dir(&self.root);
        for (name, _) in std::env::vars_os() {
            if name.to_string_lossy().starts_with("GIT_") {
                command.env_remove(name);
            }
        }
        command
            .env_remove("NO_COLOR")
            .env("XDG_STATE_HOME", self.state.path())
            .env("GIT_CONFIG_GLOBAL", "/dev/null")
            .env("GIT_CONFIG_NOSYSTEM", "1")
            .env("GIT_AUTHOR_NAME", "Keeper")
            .env("GIT_AUTHOR_EMAIL", "keeper@saltmarsh.example")
            .env("GIT_COMMITTER_NAME", "Keeper")
            .env("GIT_COMMITTER_EMAIL", "keeper@saltmarsh.example");
        command
    }

    pub fn try_git(&self, words: &[&str]) -> Said {
        said(self.command("git").args(words).stdin(Stdio::null()).output().unwrap())
    }

    pub fn git(&self, words: &[&str]) -> String {
        let said = self.try_git(words);
        assert_eq!(said.status, 0, "git {words:?}: {}", said.err);
        said.out
    }

    pub fn commit(&self, message: &str) {
        self.git(&["add", "--all"]);
        self.git(&["commit", "--quiet", "--no-verify", "--allow-empty", "-m", message]);
    }

    /// Commits one text of a file on the branch `other` and another one on `main`, where it stays.
    pub fn fork(&self, path: &str, other: &str, main: &str) {
        self.git(&["switch", "--quiet", "-c", "other"]);
        self.write(path, other);
        self.commit("other");
        self.git(&["switch", "--quiet", "main"]);
        self.write(path, main);
        self.commit("main");
    }

    pub fn kanonix(&self, words: &[&str]) -> Said {
        let mut command = self.command(env!("CARGO_BIN_EXE_kanonix"));
        said(command.args(words).stdin(Stdio::null()).output().unwrap())
    }

    pub fn kanonix_reads(&self, words: &[&str], input: &[u8]) -> Output {
        let mut command = self.command(env!("CARGO_BIN_EXE_kanonix"));
        command.args(words).stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped());
        let mut child = command.spawn().unwrap();
        child.stdin.take().unwrap().write_all(input).unwrap();
        child.wait_with_output().unwrap()
    }

    /// Mends what is touched; then a check with the same words must find nothing.
    pub fn mend(&self, words: &[&str]) -> Said {
        let mended = self.kanonix(&[&["mend"], words].concat());
        assert_eq!(mended.status, 0, "{mended:?}");
        let again = self.kanonix(&[&["check"], words].concat());
        assert_eq!((again.status, again.out.as_str()), (0, ""), "after mending: {again:?}");
        mended
    }
}

fn said(output: Output) -> Said {
    Said {
        status: output.status.code().unwrap_or(-1),
        out: String::from_utf8_lossy(&output.stdout).into_owned(),
        err: String::from_utf8_lossy(&output.stderr).into_owned(),
    }
}

/// Nothing that is not stuck takes as long as this, however much else the machine does.
const LONGEST_RUN: std::time::Duration = std::time::Duration::from_secs(150);

/// What a command says; one that does not end fails the test.
pub fn said_in_time(mut command: Command) -> Said {
    command.stdin(Stdio::null()).stdout(Stdio::piped()).stderr(Stdio::piped());
    let mut child = command.spawn().unwrap();
    let (mut out, mut err) = (child.stdout.take().unwrap(), child.stderr.take().unwrap());
    let read = |from: &mut dyn std::io::Read| {
        let mut bytes = Vec::new();
        from.read_to_end(&mut bytes).unwrap();
        String::from_utf8_lossy(&bytes).into_owned()
    };
    std::thread::scope(|scope| {
        let (out, err) = (scope.spawn(|| read(&mut out)), scope.spawn(|| read(&mut err)));
        let begun = std::time::Instant::now();
        let status = loop {
            if let Some(status) = child.try_wait().unwrap() {
                break status.code().unwrap_or(-1);
            }
            if begun.elapsed() > LONGEST_RUN {
                let _ = child.kill();
                panic!("{command:?} does not end");
            }
            std::thread::sleep(std::time::Duration::from_millis(5));
        };
        Said { status, out: out.join().unwrap(), err: err.join().unwrap() }
    })
}

/// Every file of a language below a folder: name, text and language.
pub fn code(folder: &Path) -> Vec<(PathBuf, String, &'static kanonix_core::languages::Language)> {
    let walk = ignore::WalkBuilder::new(folder).sort_by_file_path(Ord::cmp).build();
    let files = walk.flatten().map(ignore::DirEntry::into_path).filter(|path| path.is_file());
    let read = |path: PathBuf| {
        let name = path.file_name()?.to_str()?;
        let language = kanonix_core::languages::of_file(name)?;
        Some((path.clone(), fs::read_to_string(path).ok()?, language))
    };
    files.filter_map(read).collect()
}

/// The files of the demo repository.
pub fn demo() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/tidewatch")
}

/// A number from the environment, or another one.
pub fn times(name: &str, usual: usize) -> usize {
    std::env::var(name).ok().and_then(|text| text.parse().ok()).unwrap_or(usual)
}
