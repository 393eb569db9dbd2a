//! What a file is beside its contents, files that are not ours, full disks, little memory.

use super::Ground;
use crate::support::Said;
use std::fs::{self, File};
use std::os::unix::fs::MetadataExt;
use std::process::Stdio;

#[test]
fn a_file_with_other_names_is_left_alone_and_named() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    ground.repo.write("a.py", "a=2\n");
    fs::hard_link(ground.repo.path("a.py"), ground.outside("other.py")).unwrap();
    let said = ground.kanonix(&["mend"]);
    assert_eq!(said.status, 3, "{said:?}");
    assert!(said.err.contains("a.py: it has 2 names"), "{said:?}");
    assert_eq!(ground.repo.read("a.py"), "a=2\n");
    fs::remove_file(ground.outside("other.py")).unwrap();
    assert_eq!(ground.kanonix(&["mend"]).status, 0);
    assert_eq!(fs::metadata(ground.repo.path("a.py")).unwrap().nlink(), 1);
}

#[test]
fn an_owner_and_attributes_survive() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    ground.repo.write("a.py", "a=2\n");
    let path = ground.repo.path("a.py");
    // Only where the system lets us.
    let owned = std::os::unix::fs::chown(&path, Some(1234), Some(1234)).is_ok();
    let set = "import os, sys; os.setxattr(sys.argv[1], 'user.tide', b'slack')";
    let python = std::process::Command::new("python3").args(["-c", set]).arg(&path).status();
    let has_attribute = python.is_ok_and(|status| status.success());
    let said = ground.kanonix(&["mend"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert_eq!(ground.repo.read("a.py"), "a = 2\n");
    if owned {
        let found = fs::metadata(&path).unwrap();
        assert_eq!((found.uid(), found.gid()), (1234, 1234));
    }
    if has_attribute {
        let get = "import os, sys; sys.exit(os.getxattr(sys.argv[1], 'user.tide') != b'slack')";
        let kept = std::process::Command::new("python3").args(["-c", get]).arg(&path).status();
        assert!(kept.unwrap().success());
    }
}

#[test]
fn no_file_is_deleted_that_is_not_ours() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let names = [
        ".kanonix-1-abc",
        ".kanonix-999999-x",
        ".kanonix-0123456789abcdef0123456789abcdef",
    ];
    names.iter().for_each(|name| ground.repo.write(name, "precious\n"));
    ground.repo.write(".git/kanonix/undo/notes.json", "{}");
    ground.repo.write(&format!(".git/kanonix/undo/{}", "a".repeat(64)), "precious\n");
    ground.repo.write("a.py", "a=2\n");
    assert_eq!(ground.kanonix(&["mend"]).status, 0);
    assert_eq!(ground.kanonix(&["undo"]).status, 0);
    names.iter().for_each(|name| assert_eq!(ground.repo.read(name), "precious\n"));
    assert_eq!(ground.repo.read(".git/kanonix/undo/notes.json"), "{}");
    assert_eq!(ground.repo.read(&format!(".git/kanonix/undo/{}", "a".repeat(64))), "precious\n");
}

/// A run that is ended at one of its places.
fn cut_short(ground: &Ground, words: &[&str], place: usize) -> bool {
    let mut command = ground.command(env!("CARGO_BIN_EXE_kanonix"));
    command.args(words).env("KANONIX_END_AT", place.to_string());
    let status = command.stdout(Stdio::null()).stderr(Stdio::null()).status().unwrap();
    status.code().is_none()
}

fn staged(ground: &Ground) -> String {
    ground.repo.git(&["cat-file", "blob", ":a.py"])
}

#[test]
#[cfg_attr(not(debug_assertions), ignore = "a program that is built to be used cannot be ended so")]
fn what_was_cut_short_is_taken_back_by_undo_and_by_the_next_run() {
    let mut ended = 0;
    for place in 1..30 {
        let ground = Ground::with(&[("a.py", "a = 1\n")]);
        ground.repo.write("a.py", "a=2\n");
        ground.repo.git(&["add", "a.py"]);
        ground.repo.write("a.py", "a=2\nb=3\n");
        if !cut_short(&ground, &["mend", "--staged"], place) {
            break;
        }
        ended += 1;
        let is_open = fs::read_dir(ground.repo.path(".git/kanonix/undo")).unwrap().flatten();
        let is_open = is_open.filter(|e| e.file_name().to_string_lossy().ends_with(".open.json"));
        let is_open = is_open.count() > 0;
        let said = ground.kanonix(if place % 2 == 0 {
            &["undo"]
        } else {
            &["mend", "b.py", "--whole"]
        });
        if is_open && place % 2 == 0 {
            assert!(said.err.contains("cut short"), "{place}: {said:?}");
            assert_eq!(ground.repo.read("a.py"), "a=2\nb=3\n", "{place}");
            assert_eq!(staged(&ground), "a=2\n", "{place}");
        }
        ground.repo.git(&["fsck", "--strict"]);
        assert_eq!(ground.kanonix(&["mend", "--staged"]).status, 0);
        assert_eq!(
            (ground.repo.read("a.py").as_str(), staged(&ground).as_str()),
            ("a = 2\nb=3\n", "a = 2\n")
        );
        assert_eq!(ground.kanonix(&["undo"]).status, 0);
        assert_eq!(
            (ground.repo.read("a.py").as_str(), staged(&ground).as_str()),
            ("a=2\nb=3\n", "a=2\n")
        );
    }
    assert!(ended > 5, "{ended}");
}

#[test]
#[cfg_attr(not(debug_assertions), ignore = "a program that is built to be used cannot be ended so")]
fn what_cannot_be_taken_back_is_said() {
    // The last place of a run at which a file has been written, and the run is not done.
    for place in (1..30).rev() {
        let ground = Ground::with(&[("a.py", "a = 1\n")]);
        ground.repo.write("a.py", "a=2\n");
        if cut_short(&ground, &["mend"], place) {
            assert_eq!(ground.repo.read("a.py"), "a = 2\n");
            ground.repo.write("a.py", "a = 3\n");
            let said = ground.kanonix(&["undo"]);
            assert_eq!(said.status, 3, "{said:?}");
            assert!(said.err.contains("a.py: it was changed since"), "{said:?}");
            assert_eq!(ground.repo.read("a.py"), "a = 3\n");
            return;
        }
    }
    panic!("no run was cut short");
}

fn to_full_disk(ground: &Ground, words: &[&str]) -> Option<i32> {
    let mut command = ground.command(env!("CARGO_BIN_EXE_kanonix"));
    let full = File::options().write(true).open("/dev/full").unwrap();
    command.args(words).stdout(full).stderr(Stdio::piped()).output().unwrap().status.code()
}

#[test]
fn a_full_disk_is_said() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    ground.repo.write("a.py", "a=2\n");
    for words in [
        &["mend", "--dry-run"][..],
        &["check", "--report", "json"],
        &["check"],
        &["explain", "a.py"],
        &["settle"],
        &["explain", "quotes"],
        &["mend", "--stdin", "a.py"],
    ] {
        let status = if words[1..].contains(&"--stdin") {
            let mut command = ground.command(env!("CARGO_BIN_EXE_kanonix"));
            let full = File::options().write(true).open("/dev/full").unwrap();
            let text = File::open(ground.repo.path("a.py")).unwrap();
            command.args(words).stdin(text).stdout(full).stderr(Stdio::null());
            command.status().unwrap().code()
        } else {
            to_full_disk(&ground, words)
        };
        assert_eq!(status, Some(3), "{words:?}");
    }
    let said = ground.kanonix(&["check", "--report", "json=/dev/full"]);
    assert_eq!(said.status, 3, "{said:?}");
}

#[test]
fn a_reader_that_goes_away_is_no_panic() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    ground.repo.write("a.py", "a=2\n");
    for (words, status) in [
        ("", 0),
        ("help", 0),
        ("help mend", 0),
        ("--version", 0),
        ("check", 1),
        ("check --report json", 1),
        ("mend --dry-run", 0),
        ("mend --stdin a.py < a.py", 0),
        ("undo --list", 0),
        ("explain", 0),
        ("explain quotes", 0),
        ("explain reach --report json", 0),
        ("explain a.py --report json", 0),
        ("explain --editor", 0),
        ("settle", 0),
        ("settle --schema", 0),
        ("settle --price quotes=single", 0),
        ("gate status", 1),
        ("gate merge --into HEAD --report json", 0),
        ("gate install", 0),
        ("gate remove", 0),
        ("undo", 0),
        ("mend", 0),
    ] {
        // The reader is gone before anything is written.
        let script = format!(
            "'{}' {words} > >(exec <&-; sleep 0.2); exit $?",
            env!("CARGO_BIN_EXE_kanonix")
        );
        let mut command = ground.command("bash");
        command.args(["-c", &script]);
        let said: Said = ground.said(command, &words);
        assert_eq!(said.status, status, "{words}: {said:?}");
        assert!(!said.err.contains("panicked"), "{words}: {said:?}");
    }
}

#[test]
fn with_little_memory_the_program_ends() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let lines: String = (0..4_000).map(|n| format!("level_{n}=[{n},{n}]\n")).collect();
    ground.repo.write("a.py", &lines);
    for kilobytes in [20_000, 40_000, 60_000, 100_000, 200_000] {
        for words in ["check --whole", "mend --dry-run", "settle"] {
            let script = format!(
                "ulimit -v {kilobytes}; '{}' {words} >/dev/null",
                env!("CARGO_BIN_EXE_kanonix")
            );
            let mut command = ground.command("bash");
            // The standard library's own report of where it ran out of memory may wait for itself.
            command.args(["-c", &script]).env_remove("RUST_BACKTRACE");
            // That it ends is what is shown; how, the system decides.
            ground.said(command, &script);
        }
    }
    assert_eq!(ground.repo.read("a.py"), lines);
}

#[test]
fn a_zero_byte_is_the_same_to_everybody() {
    let ground = Ground::with(&[]);
    let text = b"a=1\n\0\n";
    ground.repo.write("a.py", text);
    let said = ground.kanonix(&["check", "--whole", "a.py"]);
    assert!(said.status == 0 && said.err.contains("1 binary"), "{said:?}");
    let out = ground.repo.kanonix_reads(&["mend", "--whole", "--stdin", "a.py"], text);
    assert_eq!(out.stdout, text);
}

#[test]
fn a_canon_below_a_folder_with_an_odd_name_counts_at_the_gate() {
    let ground = Ground::with(&[]);
    for folder in ["ebb\nflood", "with \"quotes\"", "tide\tmark", "\u{e9}bb", " ", "a:b", "HEAD:"] {
        let canon = format!("{folder}/kanonix.toml");
        ground.repo.write(&canon, "[style]\nquotes = \"single\"\n");
        ground.repo.commit("canon");
        ground.repo.write(&format!("{folder}/a.py"), "a = \"1\"\n");
        ground.repo.git(&["add", "--all"]);
        let said = ground.kanonix(&["gate", "commit"]);
        assert!(said.status == 1 && said.out.contains("single quotes"), "{folder:?}: {said:?}");
        ground.repo.git(&["rm", "-r", "--quiet", "--force", "--cached", "."]);
        ground.repo.git(&["commit", "--quiet", "--no-verify", "-m", "out"]);
        fs::remove_dir_all(ground.repo.path(folder)).unwrap();
        ground.repo.git(&["add", "--all"]);
        ground.repo.git(&["commit", "--quiet", "--no-verify", "--allow-empty", "-m", "again"]);
    }
}
