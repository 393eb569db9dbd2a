//! Lines that came from elsewhere: files that were moved without telling git, copies, splits, and
//! what a merge, a rebase, a cherry-pick or a revert brings in.

use crate::support::Repo;
use crate::support::client::{Client, uri};

/// Old code with slips on every line.
fn old(from: usize, to: usize) -> String {
    (from..to).map(|number| format!("level_of_the_gauge_{number}={number}\n")).collect()
}

/// The lines in which the mended file differs from what was written.
fn mended_lines(repo: &Repo, path: &str) -> Vec<String> {
    let before = repo.read(path);
    let said = repo.kanonix(&["mend"]);
    assert_eq!(said.status, 0, "{said:?}");
    let after = repo.read(path);
    let pairs = before.lines().zip(after.lines());
    pairs.filter(|(before, after)| before != after).map(|(_, after)| after.to_string()).collect()
}

/// What each gate says of it once it is staged, and committed on a branch.
fn gates(repo: &Repo) -> [i32; 2] {
    repo.git(&["add", "--all"]);
    let commit = repo.kanonix(&["gate", "commit"]).status;
    repo.git(&["switch", "--quiet", "-c", "work"]);
    repo.git(&["commit", "--quiet", "--no-verify", "-m", "work"]);
    [commit, repo.kanonix(&["gate", "merge", "--into", "main"]).status]
}

#[test]
fn the_lines_of_a_file_that_was_moved_are_old() {
    let repo = Repo::with(&[("a.py", &old(0, 40))]);
    std::fs::create_dir(repo.path("in")).unwrap();
    std::fs::rename(repo.path("a.py"), repo.path("in/b.py")).unwrap();
    repo.edit("in/b.py", "level_of_the_gauge_7=7\n", "level=7\n");
    assert!(!repo.git(&["status", "--short"]).contains('R'), "git was told");
    let index = std::fs::read(repo.path(".git/index")).unwrap();
    assert_eq!(repo.kanonix(&["check", "in/b.py"]).out.lines().count(), 1);
    assert_eq!(repo.kanonix(&["check"]).out.lines().count(), 1);
    assert_eq!(mended_lines(&repo, "in/b.py"), ["level = 7"]);
    assert_eq!(std::fs::read(repo.path(".git/index")).unwrap(), index, "the index is as it was");
    assert_eq!(gates(&repo), [0, 0]);
}

#[test]
fn a_save_in_an_editor_knows_it_too() {
    let repo = Repo::with(&[("a.py", &old(0, 40))]);
    std::fs::rename(repo.path("a.py"), repo.path("b.py")).unwrap();
    let mut client = Client::of(&repo);
    let uri = uri(&repo, "b.py");
    client.open(&uri, "python", &old(0, 40));
    client.edit(&uri, "level_of_the_gauge_7=7\n", "level=7\n");
    client.save(&uri);
    let expected = old(0, 40).replace("level_of_the_gauge_7=7\n", "level = 7\n");
    assert_eq!(repo.read("b.py"), expected);
    assert_eq!(gates(&repo), [0, 0]);
}

#[test]
fn the_lines_of_a_copy_and_of_a_split_are_old_where_git_finds_them() {
    let repo = Repo::with(&[("a.py", &old(0, 40)), ("c.py", &old(50, 90))]);
    // A copy of a file that has changed, too.
    repo.write("b.py", format!("{}new=1\n", old(0, 40)));
    repo.write("a.py", format!("{}new=2\n", old(0, 40)));
    // Two parts of one that is gone.
    std::fs::remove_file(repo.path("c.py")).unwrap();
    repo.write("d.py", format!("{}new=3\n", old(50, 78)));
    repo.write("e.py", format!("{}new=4\n", old(65, 90)));
    let slips = repo.kanonix(&["check", "--report", "lines"]).out;
    let slips: Vec<&str> = slips.lines().filter_map(|line| line.split(':').next()).collect();
    assert_eq!(slips, ["a.py", "b.py", "d.py", "e.py"]);
    assert_eq!(repo.kanonix(&["mend"]).status, 0);
    assert!(repo.read("e.py").ends_with("level_of_the_gauge_89=89\nnew = 4\n"));
    assert_eq!(gates(&repo), [0, 0]);
}

#[test]
fn a_file_that_is_new_is_all_new() {
    let repo = Repo::with(&[("a.py", &old(0, 40))]);
    std::fs::remove_file(repo.path("a.py")).unwrap();
    repo.write("b.py", "tide=1\nebb=2\n");
    assert_eq!(repo.kanonix(&["check"]).out.lines().count(), 2);
}

/// A conflict about one line, resolved by hand, with another line of one's own; `theirs` holds a
/// line that departs from the canon.
fn resolved(repo: &Repo, words: &[&str]) {
    assert_ne!(repo.try_git(words).status, 0, "there should be a conflict");
    let said = repo.kanonix(&["mend"]);
    assert!(said.err.contains("in the middle of a merge"), "{said:?}");
    let text = repo.read("a.py");
    let kept = |line: &&str| !["<<<<<<<", "=======", ">>>>>>>"].iter().any(|m| line.starts_with(m));
    let text: Vec<&str> = text.lines().filter(kept).collect();
    repo.write("a.py", format!("{}\nmine=1\n", text.join("\n")));
}

fn forked() -> Repo {
    let repo = Repo::with(&[("a.py", &old(0, 4))]);
    let ours = old(0, 4).replace("level_of_the_gauge_2=2", "ours = 2");
    let theirs = old(0, 4).replace("level_of_the_gauge_2=2", "theirs=2");
    repo.fork("a.py", &theirs, &ours);
    repo
}

#[test]
fn what_comes_in_is_nobodys_own() {
    for words in [
        &["merge", "other"][..],
        &["cherry-pick", "other"],
        &["rebase", "other"],
    ] {
        let repo = forked();
        resolved(&repo, words);
        assert_eq!(mended_lines(&repo, "a.py"), ["mine = 1"], "{words:?}");
        assert!(repo.read("a.py").contains("theirs=2\n"), "{words:?}");
        assert_eq!(repo.kanonix(&["check"]).status, 0, "{words:?}");
        repo.git(&["add", "--all"]);
        assert_eq!(repo.kanonix(&["gate", "commit"]).status, 0, "{words:?}");
        // All lines are still all lines.
        assert_eq!(repo.kanonix(&["check", "--whole"]).status, 1, "{words:?}");
    }
}

#[test]
fn what_a_revert_brings_back_is_nobodys_own() {
    let repo = Repo::with(&[("a.py", &old(0, 4))]);
    repo.write("a.py", old(0, 4).replace("level_of_the_gauge_2=2", "first = 2"));
    repo.commit("first");
    repo.write("a.py", old(0, 4).replace("level_of_the_gauge_2=2", "second = 2"));
    repo.commit("second");
    resolved(&repo, &["revert", "HEAD~1"]);
    assert_eq!(mended_lines(&repo, "a.py"), ["mine = 1"]);
    assert!(repo.read("a.py").contains("level_of_the_gauge_2=2\n"));
}

#[test]
fn after_it_is_done_a_stale_note_means_nothing() {
    let repo = forked();
    resolved(&repo, &["rebase", "other"]);
    repo.git(&["add", "--all"]);
    let mut command = repo.command("git");
    command.env("GIT_EDITOR", "true").args(["rebase", "--continue"]);
    assert!(command.output().unwrap().status.success());
    repo.write(".git/REBASE_HEAD", repo.git(&["rev-parse", "other"]));
    repo.write("a.py", repo.read("a.py").replace("mine=1", "theirs=2"));
    assert_eq!(repo.kanonix(&["check"]).out.lines().count(), 1);
}
