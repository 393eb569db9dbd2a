//! Repositories without a working tree, and those that `GIT_DIR` names: the gates and
//! `check --since` work there as they do in a clone.

use crate::support::{Repo, Said, said_in_time};

/// A branch `work` that has left `main` by one line, and a bare copy of the repository.
fn served() -> (Repo, Repo) {
    let repo = Repo::with(&[("gauges/a.py", "a = 1\n"), ("b.py", "b=1\n")]);
    repo.git(&["switch", "--quiet", "-c", "work"]);
    repo.edit("gauges/a.py", "a = 1\n", "a = 1\nc=2\n");
    repo.commit("work");
    let server = Repo::plain();
    server.git(&["clone", "--quiet", "--bare", repo.root().to_str().unwrap(), "tides.git"]);
    server.git(&["-C", "tides.git", "symbolic-ref", "HEAD", "refs/heads/work"]);
    (repo, server)
}

/// What the program says in a folder, with these surroundings.
fn run(server: &Repo, folder: &str, words: &[&str], surroundings: &[(&str, &str)]) -> Said {
    let mut command = server.command(env!("CARGO_BIN_EXE_kanonix"));
    command.current_dir(server.path(folder)).args(words).envs(surroundings.iter().copied());
    said_in_time(command)
}

#[test]
fn at_its_top_the_gates_judge_what_is_committed() {
    let (_, server) = served();
    for words in [&["gate", "merge", "--into", "main"][..], &["check", "--since", "main"]] {
        let said = run(&server, "tides.git", words, &[]);
        assert_eq!(said.status, 1, "{said:?}");
        assert!(said.out.starts_with("gauges/a.py:2:2: operator_gap:"), "{said:?}");
    }
    let clean = run(&server, "tides.git", &["check", "--since", "work"], &[]);
    assert_eq!(clean.status, 0, "{clean:?}");
    let none = run(&server, "tides.git", &["gate", "merge", "--into", "nowhere"], &[]);
    assert!(none.status == 2 && none.err.contains("no revision `nowhere`"), "{none:?}");
    // Nothing is staged there.
    assert_eq!(run(&server, "tides.git", &["gate", "commit"], &[]).status, 0);
    // Its own canon counts, and no file of the folder around.
    server.write("kanonix.toml", "this is no canon");
    let said = run(&server, "tides.git", &["check", "--since", "main"], &[]);
    assert_eq!(said.status, 1, "{said:?}");
}

#[test]
fn git_dir_names_a_repository_where_there_is_none_around() {
    let (repo, server) = served();
    server.write("elsewhere/note", "");
    let merge = ["gate", "merge", "--into", "main"];
    let at = server.path("tides.git");
    let bare = [("GIT_DIR", at.to_str().unwrap())];
    let said = run(&server, "elsewhere", &merge, &bare);
    assert!(said.status == 1 && said.out.contains("gauges/a.py:2:2"), "{said:?}");
    assert_eq!(run(&server, "", &merge, &[("GIT_DIR", "tides.git")]).status, 1);
    // With a working tree beside it, as some keep their settings.
    let (git, tree) = (repo.path(".git"), server.path("elsewhere"));
    let with_tree = [("GIT_DIR", git.to_str().unwrap()), ("GIT_WORK_TREE", tree.to_str().unwrap())];
    server.write("elsewhere/b.py", "b=2\n");
    server.write("elsewhere/gauges/a.py", "a = 1\nc=2\n");
    server.write("elsewhere/kanonix.toml", repo.read("kanonix.toml"));
    let said = run(&server, "elsewhere", &["check", "--since", "main"], &with_tree);
    assert!(said.status == 1 && said.out.contains("b.py:1:2"), "{said:?}");
    repo.write("b.py", "b=3\n");
    repo.git(&["add", "b.py"]);
    let said = run(&server, "elsewhere", &["gate", "commit"], &with_tree);
    assert!(said.status == 1 && said.out.contains("b.py:1:2"), "{said:?}");
    // In a clone, the surroundings do not lead anywhere else.
    let other = Repo::with(&[("a.py", "a = 1\n")]);
    let mut command = other.command(env!("CARGO_BIN_EXE_kanonix"));
    command.args(merge).env("GIT_DIR", server.path("tides.git"));
    assert_eq!(said_in_time(command).status, 0);
    // What is no repository is none.
    assert_eq!(run(&server, "elsewhere", &merge, &[("GIT_DIR", "note")]).status, 3);
    assert_eq!(run(&server, "elsewhere", &merge, &[("GIT_DIR", "nothing")]).status, 2);
    assert_eq!(run(&server, "elsewhere", &merge, &[]).status, 2);
}

#[test]
fn what_needs_a_working_tree_says_so() {
    let (_, server) = served();
    for words in [&["check"][..], &["mend"], &["gate", "install"]] {
        let said = run(&server, "tides.git", words, &[]);
        assert!(said.status == 2 && said.err.contains("git repository"), "{words:?}: {said:?}");
    }
    let said = run(&server, "tides.git", &["check"], &[]);
    assert!(said.err.contains("no working tree") && said.err.contains("--since"), "{said:?}");
}
