//! The watcher, while other programs save.

use std::io::{BufRead, BufReader, Read};
use std::process::{Child, Stdio};
use std::sync::mpsc;
use std::time::{Duration, Instant};
use crate::support::Repo;

const OLD: &str = "a = 'ebb'\nb=1\n";

/// Nothing takes as long as this.
const LONGEST_WAIT: Duration = Duration::from_secs(20);
/// So long nothing happens where nothing is to happen.
const STILL: Duration = Duration::from_millis(400);

struct Watcher {
    child: Child,
    lines: mpsc::Receiver<String>,
}

impl Watcher {
    fn of(repo: &Repo) -> Watcher {
        let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
        command.arg("watch").stdout(Stdio::piped()).stderr(Stdio::piped());
        let mut child = command.spawn().unwrap();
        let output = BufReader::new(child.stdout.take().unwrap());
        let (tell, lines) = mpsc::channel();
        std::thread::spawn(move || {
            for line in output.lines().map_while(Result::ok) {
                if tell.send(line).is_err() {
                    return;
                }
            }
        });
        let watcher = Watcher { child, lines };
        let first = watcher.line();
        assert!(first.starts_with("watching "), "{first}");
        watcher
    }

    fn line(&self) -> String {
        self.lines.recv_timeout(LONGEST_WAIT).expect("a line")
    }

    /// Nothing more is said for a while.
    fn is_still(&self) -> bool {
        self.lines.recv_timeout(STILL).is_err()
    }

    /// Ends it as a terminal does; the rest of what it said, on both ways, comes with the status.
    fn end(mut self) -> (i32, String, String) {
        let process = self.child.id().to_string();
        std::process::Command::new("kill").args(["-INT", &process]).status().unwrap();
        let status = self.child.wait().unwrap().code().unwrap_or(-1);
        let mut said = String::new();
        self.child.stderr.take().unwrap().read_to_string(&mut said).unwrap();
        (status, self.lines.iter().collect::<Vec<_>>().join("\n"), said)
    }
}

impl Drop for Watcher {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

fn repo() -> Repo {
    Repo::with(&[("a.py", OLD), ("in/b.py", OLD), (".gitignore", "out/\n*.made.py\n")])
}

/// Waits until a file reads so.
fn becomes(repo: &Repo, path: &str, wanted: &str) {
    let begun = Instant::now();
    while repo.read(path) != wanted {
        assert!(begun.elapsed() < LONGEST_WAIT, "{path}: {:?}", repo.read(path));
        std::thread::sleep(Duration::from_millis(2));
    }
}

#[test]
fn a_save_is_mended_on_its_touched_lines_and_said_in_a_line() {
    let repo = repo();
    let watcher = Watcher::of(&repo);
    repo.write("in/b.py", "a='slack'\nb=1\n");
    assert_eq!(watcher.line(), "in/b.py  1 line");
    assert_eq!(repo.read("in/b.py"), "a = \"slack\"\nb=1\n");
    // Its own write is no save.
    assert!(watcher.is_still());
    assert_eq!(repo.kanonix(&["undo"]).status, 0);
    assert_eq!(repo.read("in/b.py"), "a='slack'\nb=1\n");
    let (status, rest, _) = watcher.end();
    assert_eq!(status, 0);
    assert!(rest.ends_with("mended"), "{rest}");
}

#[test]
fn a_file_that_is_renamed_into_place_is_saved_too() {
    let repo = repo();
    let watcher = Watcher::of(&repo);
    repo.write(".a.py.new", "a=2\nb=1\n");
    std::fs::rename(repo.path(".a.py.new"), repo.path("a.py")).unwrap();
    assert_eq!(watcher.line(), "a.py  1 line");
    assert_eq!(repo.read("a.py"), "a = 2\nb=1\n");
}

#[test]
fn a_burst_is_one_run() {
    let repo = repo();
    let watcher = Watcher::of(&repo);
    for n in 0..10 {
        repo.write("a.py", format!("a={n}\nb=1\n"));
        repo.write("in/b.py", format!("a={n}\nb=1\n"));
    }
    let mut lines = [watcher.line(), watcher.line()];
    lines.sort();
    assert_eq!(lines, ["a.py  1 line", "in/b.py  1 line"]);
    assert_eq!(repo.kanonix(&["undo", "--list"]).out.lines().count(), 2);
    becomes(&repo, "a.py", "a = 9\nb=1\n");
}

#[test]
fn new_folders_are_followed_and_ignored_files_are_not() {
    let repo = repo();
    let watcher = Watcher::of(&repo);
    repo.write("new/deep/c.py", "c=1\n");
    assert_eq!(watcher.line(), "new/deep/c.py  1 line");
    repo.write("new/deep/d.py", "d=1\n");
    assert_eq!(watcher.line(), "new/deep/d.py  1 line");
    repo.write("out/e.py", "e=1\n");
    repo.write("f.made.py", "f=1\n");
    repo.write("third_party/g.py", "g=1\n");
    assert!(watcher.is_still());
    assert_eq!(repo.read("out/e.py"), "e=1\n");
}

#[test]
fn what_git_writes_is_no_save() {
    let repo = repo();
    repo.git(&["checkout", "--quiet", "-b", "other"]);
    repo.write("a.py", "a=3\nb=1\nc=1\n");
    repo.write("in/b.py", "x=1\n");
    repo.commit("other");
    repo.git(&["checkout", "--quiet", "main"]);
    let watcher = Watcher::of(&repo);
    let still = |what: &str, words: &[&str]| {
        repo.try_git(words);
        assert!(watcher.is_still(), "{what}");
    };
    still("a checkout", &["checkout", "--quiet", "other"]);
    still("and back", &["checkout", "--quiet", "main"]);
    still("a file of another commit", &["checkout", "--quiet", "other", "--", "a.py"]);
    still("reset", &["reset", "--quiet", "--hard"]);
    still("a merge", &["merge", "--quiet", "other"]);
    assert_eq!(repo.read("in/b.py"), "x=1\n");
    repo.write("a.py", "a=4\nb=1\nc=1\n");
    assert_eq!(watcher.line(), "a.py  1 line");
    // A commit alone does not make the next save git's.
    repo.commit("mine");
    assert!(watcher.is_still());
    repo.write("a.py", "a=5\nb=1\nc=1\n");
    assert_eq!(watcher.line(), "a.py  1 line");
    repo.write("a.py", "a = 5\nb=1\nc=6\n");
    assert_eq!(watcher.line(), "a.py  1 line");
    still("a stash", &["stash", "--quiet"]);
    still("a stash that is put back", &["stash", "pop", "--quiet"]);
    assert_eq!(repo.read("a.py"), "a = 5\nb=1\nc = 6\n");
}

#[test]
fn what_does_not_parse_or_has_conflicts_is_left_alone() {
    let repo = repo();
    let watcher = Watcher::of(&repo);
    repo.write("a.py", "a=1\nb=(1\n");
    assert!(watcher.is_still());
    assert_eq!(repo.read("a.py"), "a=1\nb=(1\n");
    repo.write("a.py", "a=1\nb=(1)\n");
    assert_eq!(watcher.line(), "a.py  2 lines");
    repo.git(&["checkout", "--quiet", "--", "a.py"]);
    repo.fork("a.py", "a = 'one'\nb=1\n", "a = 'two'\nb=1\n");
    watcher.lines.try_iter().count();
    repo.try_git(&["merge", "other"]);
    assert!(watcher.is_still());
    repo.write("a.py", repo.read("a.py") + "c=1\n");
    assert!(watcher.is_still());
    assert!(repo.read("a.py").ends_with("c=1\n"));
    let (status, _, said) = watcher.end();
    assert_eq!(status, 0);
    assert!(said.contains("a.py: line 2 does not parse: it is left as it is"), "{said}");
}

#[test]
fn a_folder_that_is_not_there_is_said() {
    let repo = repo();
    let said = repo.kanonix(&["watch", "tide"]);
    assert_eq!(said.status, 2);
    assert!(said.err.contains("there is no such folder"), "{}", said.err);
    let said = repo.kanonix(&["watch", "a.py"]);
    assert!(said.status == 2 && said.err.contains("watch takes a folder"), "{}", said.err);
}

#[test]
fn while_a_merge_is_under_way_nothing_is_written() {
    let repo = repo();
    repo.fork("in/b.py", "b='theirs'\n", "b = 'ours'\n");
    repo.try_git(&["merge", "other"]);
    let watcher = Watcher::of(&repo);
    repo.write("a.py", "a='ebb'\n");
    repo.write("in/b.py", "b='both'\n");
    assert!(watcher.is_still());
    assert_eq!(
        (repo.read("a.py"), repo.read("in/b.py")),
        ("a='ebb'\n".into(), "b='both'\n".into())
    );
    let (status, _, said) = watcher.end();
    assert_eq!(status, 0);
    assert_eq!(said.matches("a merge is under way").count(), 1, "{said}");
}
