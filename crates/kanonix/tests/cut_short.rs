//! A run that ends at any moment, and two runs at once: nothing is lost, and the next run goes on.

use std::process::Stdio;
use crate::support::Repo;

const MOST_PLACES: usize = 40;

/// Two files, both staged with slips, one of them with an unstaged line more.
fn prepared() -> Repo {
    let repo = Repo::with(&[("a.py", "a = 1\n"), ("b.py", "b = 1\n")]);
    repo.write("a.py", "a=2\n");
    repo.write("b.py", "b=2\n");
    repo.git(&["add", "--all"]);
    repo.write("b.py", "b=2\nc=3\n");
    repo
}

fn texts(repo: &Repo) -> [String; 4] {
    let staged = |path: &str| repo.git(&["cat-file", "blob", &format!(":{path}")]);
    [staged("a.py"), staged("b.py"), repo.read("a.py"), repo.read("b.py")]
}

#[test]
#[cfg_attr(not(debug_assertions), ignore = "a program that is built to be used cannot be ended so")]
fn a_run_that_is_cut_short_leaves_every_file_wholly_old_or_wholly_new() {
    let old = texts(&prepared());
    let new = ["a = 2\n", "b = 2\n", "a = 2\n", "b = 2\nc=3\n"].map(str::to_string);
    let mut ended = 0;
    for place in 1..MOST_PLACES {
        let repo = prepared();
        let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
        command.args(["mend", "--staged"]).env("KANONIX_END_AT", place.to_string());
        let status = command.stdout(Stdio::null()).stderr(Stdio::null()).status().unwrap();
        if status.code().is_some() {
            assert_eq!(texts(&repo), new);
            break;
        }
        ended += 1;
        for (found, (old, new)) in texts(&repo).iter().zip(old.iter().zip(&new)) {
            assert!(found == old || found == new, "place {place}: {found:?}");
        }
        repo.git(&["fsck", "--strict"]);
        repo.git(&["status"]);
        repo.mend(&["--staged"]);
        assert_eq!(texts(&repo), new, "place {place}");
        let left = std::fs::read_dir(repo.root()).unwrap();
        let left = left.filter(|entry| {
            entry.as_ref().unwrap().file_name().to_string_lossy().starts_with(".kanonix-")
        });
        assert_eq!(left.count(), 0, "place {place}");
    }
    assert!(ended > 8, "{ended}");
}

#[test]
fn two_runs_at_once_lose_nothing() {
    let lines: String = (0..400).map(|n| format!("level_{n}={n}\n")).collect();
    let repo = Repo::with(&[("a.py", "")]);
    repo.write("a.py", &lines);
    let start = || {
        let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
        command.args(["mend"]).stdout(Stdio::piped()).stderr(Stdio::piped()).spawn().unwrap()
    };
    let both = [start(), start(), start()];
    for run in both {
        let output = run.wait_with_output().unwrap();
        let err = String::from_utf8_lossy(&output.stderr);
        let known = err.is_empty() || err.contains("it changed on disk while it was read");
        assert!(known && err.lines().count() <= 1, "{err}");
    }
    assert_eq!(repo.read("a.py"), lines.replace('=', " = "));
}
