//! Links that a repository brings: nothing is written through them.

use super::{Ground, link};
use std::fs;

fn team(ground: &Ground) -> String {
    let team = ground.outside("team");
    fs::create_dir_all(&team).unwrap();
    let shown = team.display().to_string();
    ground.repo.git(&["-C", &shown, "init", "--quiet", "--initial-branch=main", "."]);
    fs::write(team.join("kanonix.toml"), "[style]\nquotes = \"single\"\n").unwrap();
    ground.repo.git(&["-C", &shown, "add", "."]);
    ground.repo.git(&["-C", &shown, "commit", "--quiet", "-m", "agree"]);
    shown
}

/// Everything outside is as it was.
fn untouched(ground: &Ground) {
    assert_eq!(fs::read_to_string(ground.outside("victim/v.py")).unwrap(), "v=1\n");
    let mut names: Vec<_> =
        fs::read_dir(ground.outside("victim")).unwrap().map(|e| e.unwrap().file_name()).collect();
    names.sort();
    assert_eq!(names, ["v.py"], "something was written outside");
}

fn victim(ground: &Ground) -> std::path::PathBuf {
    let victim = ground.outside("victim");
    fs::create_dir_all(&victim).unwrap();
    fs::write(victim.join("v.py"), "v=1\n").unwrap();
    victim
}

#[test]
fn a_followed_copy_is_kept_in_no_linked_folder() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let (victim, team) = (victim(&ground), team(&ground));
    ground.repo.write("kanonix.toml", format!("[team]\nfollow = '{team}'\n"));
    link(&victim, ground.repo.path(".kanonix"));
    for words in [&["settle", "--follow"][..], &["settle", "--refresh", "--write"]] {
        let said = ground.kanonix(words);
        assert_ne!(said.status, 0, "{said:?}");
        untouched(&ground);
    }
    // A linked file in a folder that is none is refused as well.
    fs::remove_file(ground.repo.path(".kanonix")).unwrap();
    link(victim.join("v.py"), ground.repo.path(".kanonix/followed.toml"));
    let said = ground.kanonix(&["settle", "--follow"]);
    assert_ne!(said.status, 0, "{said:?}");
    untouched(&ground);
    fs::remove_file(ground.repo.path(".kanonix/followed.toml")).unwrap();
    assert_eq!(ground.kanonix(&["settle", "--follow"]).status, 0);
    assert_eq!(ground.kanonix(&["check", "--whole"]).status, 0);
}

#[test]
fn a_shared_hook_is_put_into_no_linked_folder() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let victim = victim(&ground);
    link(&victim, ground.repo.path(".kanonix"));
    let said = ground.kanonix(&["gate", "install", "--shared"]);
    assert_eq!(said.status, 3, "{said:?}");
    untouched(&ground);
    fs::remove_file(ground.repo.path(".kanonix")).unwrap();
    link(&victim, ground.repo.path(".kanonix/hooks"));
    assert_eq!(ground.kanonix(&["gate", "install", "--shared"]).status, 3);
    untouched(&ground);
    fs::remove_file(ground.repo.path(".kanonix/hooks")).unwrap();
    // A hook that is a link belongs to somebody: it is kept under another name, and not written to.
    link(victim.join("v.py"), ground.repo.path(".kanonix/hooks/pre-commit"));
    ground.kanonix(&["gate", "install", "--shared"]);
    untouched(&ground);
}

#[test]
fn a_canon_that_is_a_link_is_not_written_to() {
    let ground = Ground::with(&[("a.py", "a='1'\n")]);
    victim(&ground);
    fs::remove_file(ground.repo.path("kanonix.toml")).unwrap();
    link(ground.outside("victim/v.py"), ground.repo.path("kanonix.toml"));
    for words in [&["settle", "--write"][..], &["settle", "--set", "quotes=double", "--write"]] {
        let said = ground.kanonix(words);
        assert_eq!(said.status, 2, "{said:?}");
        assert!(said.err.contains("leads out of the repository"), "{said:?}");
        untouched(&ground);
    }
    // To nowhere, it would be made there.
    fs::remove_file(ground.repo.path("kanonix.toml")).unwrap();
    link(ground.outside("victim/new.toml"), ground.repo.path("kanonix.toml"));
    assert_eq!(ground.kanonix(&["settle", "--write"]).status, 2);
    untouched(&ground);
    // Inside, it is one more name of a file that is there.
    fs::remove_file(ground.repo.path("kanonix.toml")).unwrap();
    ground.repo.write("config/style.toml", "edition = 1\n");
    link("config/style.toml", ground.repo.path("kanonix.toml"));
    let said = ground.kanonix(&["settle", "--set", "quotes=double", "--write"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert!(ground.repo.read("config/style.toml").contains("quotes = \"double\""));
    assert!(ground.repo.path("kanonix.toml").is_symlink());
}

#[test]
fn a_file_behind_a_linked_folder_is_left_alone() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let victim = victim(&ground);
    link(&victim, ground.repo.path("out"));
    link(victim.join("v.py"), ground.repo.path("w.py"));
    for words in [
        &["mend", "--whole", "out/v.py"][..],
        &["mend", "out/v.py"],
        &["mend", "--whole", "out"],
        &["mend", "--whole", "w.py"],
        &["mend", "--whole"],
        &["mend"],
        &["mend", "--lines", "1", "out/v.py"],
    ] {
        let said = ground.kanonix(words);
        untouched(&ground);
        assert!(said.status == 0 || said.status == 2, "{words:?} {said:?}");
    }
    // The same where a repository is behind the link.
    ground.repo.git(&["-C", &victim.display().to_string(), "init", "--quiet"]);
    let said = ground.kanonix(&["mend", "--whole", "out/v.py"]);
    assert_eq!(fs::read_to_string(victim.join("v.py")).unwrap(), "v=1\n", "{said:?}");
    // What stays inside is one more name.
    ground.repo.write("lib/b.py", "b=1\n");
    link("lib", ground.repo.path("same"));
    assert_eq!(ground.kanonix(&["mend", "--whole", "same/b.py"]).status, 0);
    assert_eq!(ground.repo.read("lib/b.py"), "b = 1\n");
    assert!(ground.repo.path("same").is_symlink());
}

#[test]
fn what_is_kept_for_undo_goes_through_no_link() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let victim = victim(&ground);
    link(&victim, ground.repo.path(".git/kanonix"));
    ground.repo.write("a.py", "a=1\n");
    let said = ground.kanonix(&["mend"]);
    assert_eq!(said.status, 3, "{said:?}");
    assert_eq!(ground.repo.read("a.py"), "a=1\n");
    untouched(&ground);
}
