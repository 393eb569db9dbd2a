//! Links, pipes and devices in the place of what says something: refused by name, and never shown.

use super::{Ground, link, pipe};
use std::fs;

const SECRET: &str = "TIDE_SECRET=slack-water";

/// Every file that says something about others, with the status of a run that cannot read it.
const SAYS: [(&str, i32); 6] = [
    ("kanonix.toml", 2),
    ("deep/kanonix.toml", 2),
    (".editorconfig", 2),
    ("deep/.editorconfig", 2),
    (".gitignore", 3),
    ("deep/.gitignore", 3),
];

fn ground() -> Ground {
    let ground = Ground::with(&[("deep/a.py", "a=1\n")]);
    fs::write(ground.outside("secret"), format!("{SECRET}\n")).unwrap();
    ground.repo.write("deep/a.py", "a=1\nb=2\n");
    ground
}

/// The commands say which file it is, and nothing of what stands in it.
fn is_refused(ground: &Ground, path: &str, status: i32) {
    for words in [&["check", "--whole"][..], &["check"], &["mend"], &["explain", "deep/a.py"]] {
        // A named file is judged whatever is ignored.
        if path.ends_with(".gitignore") && words[0] == "explain" {
            continue;
        }
        let said = ground.kanonix(words);
        let all = format!("{}{}", said.out, said.err);
        assert!(!all.contains("slack-water"), "{path} {words:?}: {said:?}");
        assert_eq!(said.status, status, "{path} {words:?}: {said:?}");
        assert!(said.err.contains(path), "{path} {words:?}: {said:?}");
    }
}

#[test]
fn a_link_out_of_the_repository_is_refused() {
    for (path, status) in SAYS {
        let ground = ground();
        let _ = fs::remove_file(ground.repo.path(path));
        link(ground.outside("secret"), ground.repo.path(path));
        is_refused(&ground, path, status);
    }
    let ground = ground();
    ground.repo.write("kanonix.toml", "[team]\nfollow = \"../team\"\n");
    link(ground.outside("secret"), ground.repo.path(".kanonix/followed.toml"));
    is_refused(&ground, ".kanonix/followed.toml", 2);
}

#[test]
fn the_surroundings_are_not_printed() {
    let ground = ground();
    fs::remove_file(ground.repo.path("kanonix.toml")).unwrap();
    link("/proc/self/environ", ground.repo.path("kanonix.toml"));
    let mut command = ground.command(env!("CARGO_BIN_EXE_kanonix"));
    command.arg("check").env("TIDE_SECRET", "slack-water");
    let said = ground.said(command, &"environ");
    assert_eq!(said.status, 2);
    assert!(!said.err.contains("slack-water"), "{said:?}");
}

#[test]
fn a_device_and_a_pipe_are_not_opened() {
    for (path, status) in SAYS {
        let ground = ground();
        let _ = fs::remove_file(ground.repo.path(path));
        link("/dev/zero", ground.repo.path(path));
        is_refused(&ground, path, status);
        fs::remove_file(ground.repo.path(path)).unwrap();
        pipe(ground.repo.path(path));
        is_refused(&ground, path, status);
    }
}

#[test]
fn what_is_larger_than_the_limit_is_refused() {
    for (path, status) in [SAYS[0], SAYS[1], SAYS[3]] {
        let ground = ground();
        let comments = format!("# {}\n", "x".repeat(1022)).repeat(1025);
        ground.repo.write(path, comments);
        is_refused(&ground, path, status);
    }
    let ground = ground();
    ground.repo.write("deep/.gitignore", "# a\n".repeat(300_000));
    let said = ground.kanonix(&["check", "--whole"]);
    assert_eq!(said.status, 3, "{said:?}");
    assert!(said.err.contains("deep/.gitignore"), "{said:?}");
}

#[test]
fn a_canon_that_links_inside_counts() {
    let ground = ground();
    ground.repo.write("config/style.toml", "[style]\nquotes = \"single\"\n");
    fs::remove_file(ground.repo.path("kanonix.toml")).unwrap();
    link("config/style.toml", ground.repo.path("kanonix.toml"));
    ground.repo.write("deep/b.py", "b = \"1\"\n");
    let said = ground.kanonix(&["check", "deep/b.py"]);
    assert!(
        said.out.contains("use single quotes") || said.out.contains("single quotes"),
        "{said:?}"
    );
}

#[test]
fn pipes_sockets_and_devices_in_the_tree_are_left_alone() {
    let ground = ground();
    pipe(ground.repo.path("deep/pipe.py"));
    pipe(ground.repo.path("deep/tool"));
    let _socket = std::os::unix::net::UnixListener::bind(ground.repo.path("deep/s.py")).unwrap();
    for words in [
        &["check", "--whole"][..],
        &["check"],
        &["mend"],
        &["check", "deep/pipe.py"],
        &["check", "--whole", "deep/pipe.py", "deep/tool"],
        &["explain", "deep/pipe.py"],
        &["explain", "deep/tool"],
        &["settle"],
    ] {
        let said = ground.kanonix(words);
        assert!(said.status < 2, "{words:?}: {said:?}");
    }
    let said = ground.kanonix(&["check", "--whole"]);
    assert!(said.err.contains("3 no plain file"), "{said:?}");
}
