//! The commit gate under everything that git calls a hook for.

use crate::support::{Repo, Said};

/// A repository whose gate mends what is staged.
fn mending() -> Repo {
    let repo = Repo::with(&[("a.py", "a = 1\n"), ("b.py", "b = 1\n")]);
    assert_eq!(repo.kanonix(&["gate", "install", "--mend"]).status, 0);
    repo
}

fn commit(repo: &Repo, words: &[&str]) -> Said {
    repo.try_git(&[&["commit", "-m", "Warn earlier"], words].concat())
}

fn committed(repo: &Repo, path: &str) -> String {
    repo.git(&["cat-file", "blob", &format!("HEAD:{path}")])
}

#[test]
fn a_gate_that_mends_lets_the_mended_commit_through() {
    let repo = mending();
    repo.write("a.py", "a=2\n");
    repo.git(&["add", "a.py"]);
    repo.write("a.py", "a=2\nb=3\n");
    let said = commit(&repo, &[]);
    assert_eq!(said.status, 0, "{said:?}");
    assert_eq!(committed(&repo, "a.py"), "a = 2\n");
    assert_eq!(repo.read("a.py"), "a = 2\nb=3\n");
}

#[test]
fn it_works_for_all_files_at_once_and_for_an_amended_commit() {
    let repo = mending();
    repo.write("a.py", "a=2\n");
    assert_eq!(commit(&repo, &["-a"]).status, 0);
    assert_eq!(committed(&repo, "a.py"), "a = 2\n");
    assert_eq!(repo.git(&["status", "--short", "-uno"]), "");
    repo.write("a.py", "a=3\n");
    assert_eq!(commit(&repo, &["-a", "--amend"]).status, 0);
    assert_eq!(committed(&repo, "a.py"), "a = 3\n");
    assert_eq!(repo.git(&["status", "--short", "-uno"]), "");
}

#[test]
fn a_commit_of_named_paths_is_stopped_and_not_mended_behind_gits_back() {
    let repo = mending();
    repo.write("a.py", "a=2\n");
    repo.write("b.py", "b=2\n");
    repo.git(&["add", "b.py"]);
    let said = commit(&repo, &["a.py"]);
    assert_eq!(said.status, 1, "{said:?}");
    assert!(said.err.contains("a.py:1:2") && !said.err.contains("b.py"), "{said:?}");
    assert_eq!(repo.read("a.py"), "a=2\n");
    repo.mend(&["a.py"]);
    assert_eq!(commit(&repo, &["a.py"]).status, 0);
    assert_eq!(committed(&repo, "b.py"), "b = 1\n");
}

#[test]
fn it_works_in_a_repository_without_a_commit_and_with_another_index() {
    let repo = Repo::new();
    repo.kanonix(&["gate", "install"]);
    repo.write("a.py", "a=1\n");
    repo.git(&["add", "a.py"]);
    assert_eq!(commit(&repo, &[]).status, 1);
    let mut other = repo.command("git");
    other.args(["-c", "core.hooksPath=/dev/null", "commit", "-q", "-m", "first"]);
    assert!(other.status().unwrap().success());
    repo.write("a.py", "a=2\n");
    let with_other_index = |words: &[&str]| {
        let mut git = repo.command("git");
        git.args(words).env("GIT_INDEX_FILE", repo.path(".git/other"));
        git.stderr(std::process::Stdio::null()).status().unwrap().success()
    };
    assert!(with_other_index(&["read-tree", "HEAD"]));
    assert!(with_other_index(&["add", "a.py"]));
    assert!(!with_other_index(&["commit", "-q", "-m", "second"]));
    repo.write("a.py", "a = 2\n");
    assert!(with_other_index(&["add", "a.py"]));
    assert!(with_other_index(&["commit", "-q", "-m", "second"]));
}

#[test]
fn a_rebase_and_a_cherry_pick_go_through_the_gate_unharmed() {
    let repo = Repo::with(&[("a.py", "a=1\n\n\n\nb = 1\n")]);
    repo.git(&["switch", "--quiet", "-c", "tides"]);
    repo.write("a.py", "a=1\n\n\n\nb = 2\n");
    repo.commit("two");
    repo.git(&["switch", "--quiet", "main"]);
    repo.write("c.py", "c=1\n");
    repo.commit("old slips");
    repo.kanonix(&["gate", "install"]);
    repo.git(&["cherry-pick", "tides"]);
    repo.git(&["switch", "--quiet", "tides"]);
    repo.git(&["rebase", "--quiet", "main"]);
    assert_eq!(committed(&repo, "a.py"), "a=1\n\n\n\nb = 2\n");
}

#[test]
fn the_hook_from_before_gets_its_arguments_input_and_status() {
    use std::os::unix::fs::PermissionsExt;
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let earlier = "#!/bin/sh\necho \"$@\" > seen\ncat >> seen\nexit \"$(cat status)\"\n";
    repo.write(".git/hooks/pre-commit", earlier);
    let executable = std::fs::Permissions::from_mode(0o755);
    std::fs::set_permissions(repo.path(".git/hooks/pre-commit"), executable).unwrap();
    repo.kanonix(&["gate", "install"]);
    repo.write("status", "9");
    let mut hook = repo.command(repo.path(".git/hooks/pre-commit").to_str().unwrap());
    repo.write("input", "the input\n");
    let input = std::fs::File::open(repo.path("input")).unwrap();
    let status = hook.args(["one", "two words"]).stdin(input).status().unwrap();
    assert_eq!(status.code(), Some(9));
    assert_eq!(repo.read("seen"), "one two words\nthe input\n");
    repo.kanonix(&["gate", "remove"]);
    assert_eq!(repo.read(".git/hooks/pre-commit"), earlier);
}

#[test]
fn a_repository_carries_its_gate_for_everyone() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let said = repo.kanonix(&["gate", "install", "--shared"]);
    assert!(said.out.contains("git config core.hooksPath .kanonix/hooks"), "{said:?}");
    let hook = repo.read(".kanonix/hooks/pre-commit");
    assert!(!hook.contains(&repo.root().display().to_string()) && !hook.contains("target"));
    repo.commit("gate");
    repo.git(&["config", "core.hooksPath", ".kanonix/hooks"]);
    let status = repo.kanonix(&["gate", "status"]).out;
    assert!(status.contains("a commit now: would go through"), "{status}");
    repo.kanonix(&["gate", "remove"]);
    assert!(!repo.path(".kanonix").exists());
}

#[test]
fn without_the_program_the_hook_says_what_to_install() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let hook = |words: &[&str]| {
        repo.kanonix(&[&["gate", "install", "--shared"], words].concat());
        let mut hook = repo.command("/bin/sh");
        hook.arg(".kanonix/hooks/pre-commit").env("PATH", "/usr/bin:/bin");
        let output = hook.output().unwrap();
        let err = String::from_utf8_lossy(&output.stderr).into_owned();
        format!("{err}status {}", output.status.code().unwrap())
    };
    insta::assert_snapshot!([hook(&[]), hook(&["--pass-without"])].join("\n"), @"
    kanonix: the program is not on the path, so this commit cannot be judged.
    Install Kanonix, or take the gate out: delete .kanonix/hooks/pre-commit
    status 1
    kanonix: the program is not on the path, so the commit is let through unjudged.
    Install Kanonix, or take the gate out: delete .kanonix/hooks/pre-commit
    status 0
    ");
}

#[test]
fn the_status_says_what_is_there_and_what_would_happen() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let status = || repo.kanonix(&["gate", "status"]).out.replace(
        &format!("{}/", repo.root().display()),
        "",
    );
    let mut all = status();
    repo.kanonix(&["gate", "install", "--mend"]);
    repo.write("a.py", "a=2\n");
    repo.git(&["add", "a.py"]);
    all.push_str(&status());
    let hook = repo.read(".git/hooks/pre-commit");
    repo.write(".git/hooks/pre-commit", hook + "# more\n");
    all.push_str(&status());
    insta::assert_snapshot!(all, @"
    commit gate: not installed; put it in with: kanonix gate install
    a commit now: would go through
    commit gate: in .git/hooks/pre-commit
    does: it mends what is staged, and stops what is left
    current: yes
    a commit now: 1 line would be mended first
    commit gate: in .git/hooks/pre-commit
    does: it mends what is staged, and stops what is left
    current: no, install it again
    a commit now: 1 line would be mended first
    ");
}

#[test]
fn how_far_the_gate_reaches_is_the_canons_to_say() {
    let repo = Repo::with(&[("a.py", "a=1\nb = 1\n")]);
    repo.write("a.py", "a=1\nb = 2\n");
    repo.git(&["add", "a.py"]);
    let status = |reach: &str| {
        repo.write("kanonix.toml", format!("[reach]\ncommit = \"{reach}\"\n"));
        repo.git(&["add", "kanonix.toml"]);
        repo.kanonix(&["gate", "commit"]).status
    };
    assert_eq!([status("touched"), status("whole"), status("off")], [0, 1, 0]);
}

#[test]
fn a_gate_that_took_long_says_so() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("a.py", "a = 2\n");
    repo.git(&["add", "a.py"]);
    assert_eq!(repo.kanonix(&["gate", "commit"]).err, "");
    // A git that takes its time stands before the real one.
    let slow = "#!/bin/sh\ncase \" $* \" in *' diff-index '*) sleep 1.1 ;; esac\n\
                PATH=${PATH#*:} exec git \"$@\"\n";
    repo.write("slow/git", slow);
    let mut allowed = std::fs::metadata(repo.path("slow/git")).unwrap().permissions();
    std::os::unix::fs::PermissionsExt::set_mode(&mut allowed, 0o755);
    std::fs::set_permissions(repo.path("slow/git"), allowed).unwrap();
    let path = format!("{}:{}", repo.path("slow").display(), std::env::var("PATH").unwrap());
    let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
    let output = command.env("PATH", path).args(["gate", "commit"]).output().unwrap();
    let said = String::from_utf8_lossy(&output.stderr).into_owned();
    assert!(output.status.success() && said.starts_with("kanonix: judged in "), "{said}");
}

#[test]
fn the_gate_judges_the_same_from_a_folder_inside() {
    let repo = Repo::with(&[("a.py", "a = 1\n"), ("in/b.py", "b = 1\n")]);
    repo.git(&["config", "diff.relative", "true"]);
    repo.write("a.py", "a=2\n");
    repo.write("in/b.py", "b=2\n");
    repo.git(&["add", "--all"]);
    let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
    let output = command.current_dir(repo.path("in")).args(["gate", "commit"]).output().unwrap();
    let said = String::from_utf8_lossy(&output.stderr).into_owned()
        + &String::from_utf8_lossy(&output.stdout);
    assert!(said.contains("../a.py:1:2") && said.contains("b.py:1:2"), "{said}");
}

/// What a script reads of the status, and how it ends.
fn status_of(repo: &Repo) -> (i32, serde_json::Value) {
    let said = repo.kanonix(&["gate", "status", "--report", "json"]);
    (said.status, serde_json::from_str(&said.out).unwrap())
}

#[test]
fn a_script_can_ask_for_the_status() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let (status, said) = status_of(&repo);
    assert_eq!(
        (status, &said["installed"], &said["commit_now"]),
        (1, &false.into(), &"passes".into())
    );
    repo.kanonix(&["gate", "install"]);
    repo.write("a.py", "a=2\n");
    repo.git(&["add", "a.py"]);
    let (status, said) = status_of(&repo);
    assert_eq!((status, &said["current"], &said["lines"]), (0, &true.into(), &1.into()));
    assert_eq!(
        (&said["commit_now"], &said["hook"]),
        (&"stops".into(), &".git/hooks/pre-commit".into())
    );
    let hook = repo.read(".git/hooks/pre-commit");
    repo.write(".git/hooks/pre-commit", hook + "# more\n");
    assert_eq!(status_of(&repo).0, 1);
}

#[test]
fn a_shared_gate_goes_in_beside_a_teams_own_hooks() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("hooks/pre-commit", "#!/bin/sh\necho own >> said\n");
    repo.write("hooks/commit-msg", "#!/bin/sh\necho message >> said\n");
    for hook in ["hooks/pre-commit", "hooks/commit-msg"] {
        let mut command = repo.command("chmod");
        assert!(command.args(["+x", hook]).status().unwrap().success());
    }
    repo.git(&["config", "core.hooksPath", "hooks"]);
    let said = repo.kanonix(&["gate", "install", "--shared"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert!(!repo.path(".kanonix").exists() && !said.out.contains("git config"), "{said:?}");
    let (status, said) = status_of(&repo);
    assert_eq!((status, &said["earlier"], &said["carried"]), (0, &true.into(), &"hooks".into()));
    // The shared hook finds the program on the path.
    let program = std::path::Path::new(env!("CARGO_BIN_EXE_kanonix"));
    let path = std::env::var("PATH").unwrap();
    let mut command = repo.command("git");
    command.env("PATH", format!("{}:{path}", program.parent().unwrap().display()));
    assert!(command.args(["commit", "-q", "--allow-empty", "-m", "x"]).status().unwrap().success());
    assert_eq!(repo.read("said"), "own\nmessage\n");
    repo.git(&["add", "--all"]);
    // A clone that does not use the folder is told so.
    repo.git(&["config", "--unset", "core.hooksPath"]);
    let (status, said) = status_of(&repo);
    assert_eq!((status, &said["installed"], &said["carried"]), (1, &false.into(), &"hooks".into()));
}

#[test]
fn hooks_outside_of_the_tree_are_not_switched_off() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let elsewhere = tempfile::tempdir().unwrap();
    repo.git(&["config", "core.hooksPath", elsewhere.path().to_str().unwrap()]);
    let said = repo.kanonix(&["gate", "install", "--shared"]);
    assert!(said.status == 2 && said.err.contains("switch them off"), "{said:?}");
    assert!(!repo.path(".kanonix").exists());
}

#[test]
fn a_shallow_clone_and_a_revision_that_is_not_there_are_said() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.git(&["branch", "trunk"]);
    let said = repo.kanonix(&["gate", "merge", "--into", "trnk"]);
    assert!(said.status == 2 && said.err.contains("did you mean `trunk`?"), "{said:?}");
    repo.commit("second");
    let clone = Repo::plain();
    let from = format!("file://{}", repo.root().display());
    clone.git(&["clone", "--quiet", "--depth=1", &from, "."]);
    for revision in ["trunk", "HEAD~1"] {
        let said = clone.kanonix(&["check", "--since", revision]);
        assert!(said.status == 2 && said.err.contains("git fetch --unshallow"), "{said:?}");
    }
    let whole = Repo::plain();
    whole.git(&["clone", "--quiet", &from, "."]);
    let said = whole.kanonix(&["check", "--since", "trunk"]);
    assert!(said.err.contains("did you mean `origin/trunk`?"), "{said:?}");
}

#[test]
fn many_new_files_in_deep_folders_do_not_hold_the_gate_up() {
    let repo = Repo::with(&[]);
    repo.kanonix(&["gate", "install"]);
    let folder = "a_folder_with_a_long_name_for_the_gauges_of_the_northern_coast".to_string();
    let deep = vec![folder; 34].join("/");
    for number in 0..70 {
        repo.write(&format!("{deep}/gauge_{number}"), "#!/usr/bin/env python3\na = 1\n");
    }
    repo.git(&["add", "--all"]);
    assert_eq!(commit(&repo, &[]).status, 0);
}

#[test]
fn git_may_speak_another_language() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let real = String::from_utf8(
        repo.command("sh").args(["-c", "command -v git"]).output().unwrap().stdout,
    )
    .unwrap();
    let bin = tempfile::tempdir().unwrap();
    let wrapper = format!(
        "#!/bin/sh\nif [ -n \"$LC_ALL$LANGUAGE\" ] || [ \"$LC_MESSAGES\" != C ]; then\n\
         echo 'Schwerwiegend: kein Git-Repository' >&2; exit 128\nfi\nexec {} \"$@\"\n",
        real.trim()
    );
    std::fs::write(bin.path().join("git"), wrapper).unwrap();
    let mut chmod = repo.command("chmod");
    assert!(chmod.arg("+x").arg(bin.path().join("git")).status().unwrap().success());
    let path = format!("{}:{}", bin.path().display(), std::env::var("PATH").unwrap());
    let plain = Repo::plain();
    plain.write("a.py", "a=1\n");
    repo.write("a.py", "a=2\n");
    for (folder, words) in [
        (&plain, &["check", "a.py"][..]),
        (&repo, &["check"]),
        (&repo, &["check", "--since", "HEAD"]),
    ] {
        let mut command = folder.command(env!("CARGO_BIN_EXE_kanonix"));
        command.env("PATH", &path).env("LC_ALL", "de_DE.UTF-8").env("LANGUAGE", "de");
        let output = command.args(words).output().unwrap();
        assert_eq!(output.status.code(), Some(1), "{words:?}: {output:?}");
    }
}
