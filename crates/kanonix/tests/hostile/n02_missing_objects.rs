//! Objects that are missing or damaged. Missing is never empty, and what cannot be judged is never
//! clean.

use super::Ground;
use std::fs;
use std::path::PathBuf;

/// The file of a loose object.
fn object(ground: &Ground, name: &str) -> (String, PathBuf) {
    let hash = ground.repo.git(&["rev-parse", name]).trim().to_string();
    let path = ground.repo.path(".git/objects").join(&hash[..2]).join(&hash[2..]);
    (hash, path)
}

/// What becomes of an object.
#[derive(Clone, Copy, Debug)]
enum Damage {
    Missing,
    Emptied,
    Garbled,
}

const DAMAGES: [Damage; 3] = [Damage::Missing, Damage::Emptied, Damage::Garbled];

fn damage(path: &PathBuf, how: Damage) {
    let _ = std::process::Command::new("chmod").args(["u+w"]).arg(path).status();
    match how {
        Damage::Missing => fs::remove_file(path).unwrap(),
        Damage::Emptied => fs::write(path, "").unwrap(),
        Damage::Garbled => {
            let mut bytes = fs::read(path).unwrap();
            let last = bytes.len() - 1;
            bytes[last] ^= 0xff;
            bytes[last / 2] ^= 0xff;
            fs::write(path, bytes).unwrap();
        }
    }
}

/// A repository with a commit on `main`, one more on `tides`, and something staged.
fn ground() -> Ground {
    let ground = Ground::with(&[("deep/a.py", "a = 1\n"), ("deep/er/b.py", "b = 1\n")]);
    let repo = &ground.repo;
    repo.git(&["switch", "--quiet", "-c", "tides"]);
    repo.write("deep/a.py", "a = 2\n");
    repo.write("deep/kanonix.toml", "[style]\nindent_size = 2\n");
    repo.commit("two");
    repo.write("deep/a.py", "a=3\n");
    repo.git(&["add", "deep/a.py"]);
    ground
}

/// Damages an object in every way; the command must end with this status and name it.
fn is_said(name: &str, words: &[&str], status: i32) {
    for how in DAMAGES {
        let ground = ground();
        let (hash, path) = object(&ground, name);
        damage(&path, how);
        let said = ground.kanonix(words);
        let what = format!("{how:?} {name} {words:?}: {said:?}");
        assert_eq!(said.status, status, "{what}");
        assert!(said.err.contains(&hash) && said.err.contains("git fsck"), "{hash} {what}");
        if words[0] == "mend" {
            assert_eq!(ground.repo.read("deep/a.py"), "a=3\n", "{what}");
        }
    }
}

#[test]
fn a_blob_at_either_side_of_a_commit() {
    for words in [&["gate", "commit"][..], &["check", "--staged"], &["mend", "--staged"]] {
        is_said("HEAD:deep/a.py", words, 3);
        is_said(":deep/a.py", words, 3);
    }
}

#[test]
fn a_blob_at_either_side_of_a_merge() {
    for words in [&["gate", "merge", "--into", "main"][..], &["check", "--since", "main"]] {
        is_said("main:deep/a.py", words, 3);
    }
    is_said("tides:deep/a.py", &["gate", "merge", "--into", "main"], 3);
    is_said("HEAD:deep/a.py", &["check", "deep/a.py"], 3);
}

#[test]
fn a_tree_at_either_side() {
    for words in [&["gate", "commit"][..], &["check", "--staged"], &["mend", "--staged"]] {
        is_said("HEAD:deep", words, 3);
    }
    for tree in ["main:deep", "tides:deep", "main^{tree}", "tides^{tree}"] {
        is_said(tree, &["gate", "merge", "--into", "main"], 3);
    }
    is_said("HEAD:deep", &["check", "deep/a.py"], 3);
}

#[test]
fn a_commit_at_either_side() {
    is_said("main", &["gate", "merge", "--into", "main"], 3);
    is_said("tides", &["gate", "commit"], 3);
    is_said("tides", &["check"], 3);
    is_said("tides", &["mend", "--staged"], 3);
}

#[test]
fn a_canon_that_cannot_be_read_is_not_no_canon() {
    for name in ["HEAD:kanonix.toml", "HEAD:deep/kanonix.toml"] {
        for words in [
            &["gate", "commit"][..],
            &["mend", "--staged"],
            &["gate", "merge", "--into", "main"],
        ] {
            is_said(name, words, 2);
        }
    }
}

#[test]
fn a_repository_without_a_commit_is_not_a_damaged_one() {
    let ground = Ground::with(&[]);
    let repo = &ground.repo;
    repo.git(&["switch", "--quiet", "--orphan", "new"]);
    repo.write("a.py", "a=1\n");
    assert_eq!(ground.kanonix(&["check"]).status, 1);
    repo.git(&["add", "a.py"]);
    assert_eq!(ground.kanonix(&["gate", "commit"]).status, 1);
    // A branch that leads to a commit that is not there is no new branch.
    let gone = "0123456789012345678901234567890123456789";
    fs::write(repo.path(".git/refs/heads/new"), format!("{gone}\n")).unwrap();
    for words in [&["check"][..], &["gate", "commit"], &["check", "a.py"]] {
        let said = ground.kanonix(words);
        assert_eq!(said.status, 3, "{words:?} {said:?}");
        assert!(said.err.contains("git fsck"), "{said:?}");
    }
}
