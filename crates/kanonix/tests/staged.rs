//! Mending what is staged, and carrying the same change into the working file.

use crate::support::Repo;
use std::path::PathBuf;

/// What is staged under a path.
fn staged(repo: &Repo, path: &str) -> String {
    repo.git(&["cat-file", "blob", &format!(":{path}")])
}

/// A repository with `before` committed, `index` staged and `file` in the working tree.
fn partly(before: &str, index: &str, file: &str) -> Repo {
    let repo = Repo::with(&[("a.py", before)]);
    repo.write("a.py", index);
    repo.git(&["add", "a.py"]);
    repo.write("a.py", file);
    repo
}

#[test]
fn unstaged_changes_stay_unstaged_and_the_rest_is_mended_in_both() {
    let repo = partly(
        "a = 1\nb = 2\nc = 3\n",
        "a=1\nb = 2\nc = 3\n",
        "zero=0\na=1\nb = 2\nc=3\n",
    );
    repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "a.py"), "a = 1\nb = 2\nc = 3\n");
    assert_eq!(repo.read("a.py"), "zero=0\na = 1\nb = 2\nc=3\n");
}

#[test]
fn an_unstaged_change_on_the_same_line_stays_and_is_said() {
    let repo = partly("a = 1\nb = 2\n", "a=1\nb=2\n", "a=7\nb=2\n");
    let said = repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "a.py"), "a = 1\nb = 2\n");
    assert_eq!(repo.read("a.py"), "a=7\nb = 2\n");
    insta::assert_snapshot!(said.out, @"
    a.py  2 lines
        in the working file, 1 unstaged line is in the way and stays as it is; what is staged is mended
    2 lines in 1 file mended · take it back with: kanonix undo
    ");
}

#[test]
fn a_file_that_was_staged_and_then_deleted_is_mended_in_the_index_alone() {
    let repo = partly("a = 1\n", "a=1\n", "");
    std::fs::remove_file(repo.path("a.py")).unwrap();
    repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "a.py"), "a = 1\n");
    assert!(!repo.path("a.py").exists());
}

#[test]
fn renames_modes_and_odd_names_survive() {
    use std::os::unix::fs::PermissionsExt;
    let long = "level = 1\n".repeat(20);
    let repo = Repo::with(&[("a.py", &long)]);
    repo.git(&["mv", "a.py", "new\n\"name\" é.py"]);
    let path = "new\n\"name\" é.py";
    repo.write(path, format!("{long}b=2\n"));
    std::fs::set_permissions(repo.path(path), std::fs::Permissions::from_mode(0o755)).unwrap();
    repo.git(&["add", "--all"]);
    repo.mend(&["--staged"]);
    assert_eq!(repo.read(path), format!("{long}b = 2\n"));
    assert!(repo.git(&["ls-files", "-s", "-z"]).contains("100755"));
    assert_eq!(repo.git(&["diff", "--name-only"]), "");
}

#[test]
fn a_name_that_is_not_utf_8_is_mended() {
    use std::os::unix::ffi::OsStringExt;
    let repo = Repo::with(&[]);
    let name = std::ffi::OsString::from_vec(b"ebb\xff.py".to_vec());
    std::fs::write(repo.root().join(&name), "a=1\n").unwrap();
    repo.git(&["add", "--all"]);
    repo.mend(&["--staged"]);
    assert_eq!(std::fs::read_to_string(repo.root().join(&name)).unwrap(), "a = 1\n");
    assert_eq!(repo.git(&["diff", "--name-only"]), "");
}

#[test]
fn what_git_converts_on_the_way_to_the_file_is_converted() {
    let repo = Repo::with(&[(".gitattributes", "*.py text eol=crlf\n")]);
    repo.write("a.py", "a=1\r\nb = 2\r\n");
    repo.git(&["add", "a.py"]);
    repo.write("a.py", "a=1\r\nb = 2\r\nc=3\n");
    repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "a.py"), "a = 1\nb = 2\n");
    assert_eq!(repo.read("a.py"), "a = 1\r\nb = 2\r\nc=3\n");
    repo.write(".gitattributes", "*.py text working-tree-encoding=UTF-16LE-BOM\n");
    let wide = |text: &str| {
        let units = std::iter::once(0xfeff).chain(text.encode_utf16());
        units.flat_map(u16::to_le_bytes).collect::<Vec<u8>>()
    };
    repo.write("w.py", wide("a=1\nb=2\n"));
    repo.git(&["add", "w.py"]);
    repo.write("w.py", wide("a=1\nb=2\nc=3\n"));
    repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "w.py"), "a = 1\nb = 2\n");
    assert_eq!(std::fs::read(repo.path("w.py")).unwrap(), wide("a = 1\nb = 2\nc=3\n"));
}

#[test]
fn a_filter_on_the_way_to_the_file_is_run() {
    let repo = Repo::with(&[(".gitattributes", "*.py filter=tide\n")]);
    repo.git(&["config",  "filter.tide.clean", "sed s/QUAY/KEY/"]);
    repo.git(&["config", "filter.tide.smudge", "sed s/KEY/QUAY/"]);
    repo.write("a.py", "a='QUAY'\n");
    repo.git(&["add", "a.py"]);
    repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "a.py"), "a = \"KEY\"\n");
    assert_eq!(repo.read("a.py"), "a = \"QUAY\"\n");
    assert_eq!(repo.git(&["diff", "--name-only"]), "");
}

#[test]
fn a_sparse_checkout_and_newer_indexes_stay_as_they_are() {
    let repo = Repo::with(&[("in/a.py", "a = 1\n"), ("out/b.py", "b = 1\n")]);
    repo.git(&["update-index", "--index-version", "4"]);
    repo.git(&["update-index", "--split-index"]);
    repo.git(&["sparse-checkout", "set", "in"]);
    repo.write("blob", "b=2\n");
    let blob = repo.git(&["hash-object", "-w", "blob"]);
    std::fs::remove_file(repo.path("blob")).unwrap();
    let entry = format!("100644,{},out/b.py", blob.trim());
    repo.git(&["update-index", "--cacheinfo", &entry]);
    repo.git(&["update-index", "--skip-worktree", "out/b.py"]);
    repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "out/b.py"), "b = 2\n");
    assert!(!repo.path("out/b.py").exists());
    assert_eq!(repo.git(&["diff", "--name-only"]), "");
    repo.git(&["fsck", "--strict"]);
}

#[test]
fn an_index_that_is_held_is_waited_for_and_then_said() {
    let repo = partly("a = 1\n", "a=1\n", "a=1\n");
    repo.write(".git/index.lock", "");
    let said = repo.kanonix(&["mend", "--staged"]);
    assert_ne!(said.status, 0);
    assert!(said.err.contains("another process holds git's index"), "{said:?}");
    assert_eq!((staged(&repo, "a.py"), repo.read("a.py")), ("a=1\n".into(), "a=1\n".into()));
    std::fs::remove_file(repo.path(".git/index.lock")).unwrap();
    repo.mend(&["--staged"]);
}

#[test]
fn of_a_merge_only_lines_that_no_parent_has_are_judged() {
    let repo = Repo::with(&[("a.py", "a = 1\n\n\n\n\nb = 2\n")]);
    repo.git(&["switch", "--quiet", "-c", "side"]);
    repo.write("a.py", "a=1\n\n\n\n\nb = 2\n");
    repo.write("new.py", "n=1\n");
    repo.commit("side");
    repo.git(&["switch", "--quiet", "main"]);
    repo.write("a.py", "a = 1\n\n\n\n\nb=2\n");
    repo.commit("main");
    repo.git(&["merge", "--no-commit", "--no-ff", "side"]);
    assert_eq!(repo.kanonix(&["gate", "commit"]).status, 0);
    repo.write("a.py", "a=1\nc=3\n\n\n\n\nb=2\n");
    repo.git(&["add", "a.py"]);
    let said = repo.kanonix(&["gate", "commit"]);
    assert_eq!(said.out, "a.py:2:2: operator_gap: one space on each side of `=`\n");
    repo.mend(&["--staged"]);
    assert!(staged(&repo, "a.py").starts_with("a=1\nc = 3\n"));
}

#[test]
fn files_in_conflict_are_named_and_left_alone() {
    let repo = Repo::with(&[("a.py", "a = 1\n"), ("b.py", "b = 1\n")]);
    repo.fork("a.py", "a = 2\n", "a = 3\n");
    assert_ne!(repo.try_git(&["merge", "other"]).status, 0);
    repo.write("b.py", "b=2\n");
    repo.git(&["add", "b.py"]);
    let before = repo.read("a.py");
    let said = repo.kanonix(&["mend", "--staged"]);
    assert_eq!(said.status, 3);
    assert!(said.err.contains("a.py: it is in the middle of a merge"), "{said:?}");
    assert_eq!((repo.read("a.py"), staged(&repo, "b.py")), (before, "b = 2\n".into()));
}

#[test]
fn undo_puts_files_and_index_back_and_refuses_what_was_changed_since() {
    let repo = partly("a = 1\nb = 2\n", "a=1\nb = 2\n", "a=1\nb=2\n");
    repo.write("c.py", "c=3\n");
    repo.git(&["add", "c.py"]);
    repo.mend(&["--staged"]);
    let list = repo.kanonix(&["undo", "--list"]).out;
    insta::assert_snapshot!(list, @"
    just now  kanonix mend --staged         2 lines in 2 files
              a.py, c.py
    ");
    repo.write("c.py", "c = 4\n");
    let said = repo.kanonix(&["undo"]);
    assert_eq!(said.status, 3);
    insta::assert_snapshot!(said.out + &said.err, @"
    a.py
    1 file as before `kanonix mend --staged`, just now
    kanonix: c.py: it was changed since, and stays as it is
    ");
    assert_eq!((staged(&repo, "a.py").as_str(), repo.read("a.py").as_str()), (
        "a=1\nb = 2\n",
        "a=1\nb=2\n",
    ));
    assert_eq!((staged(&repo, "c.py").as_str(), repo.read("c.py").as_str()), (
        "c = 3\n",
        "c = 4\n",
    ));
    repo.write("c.py", "c = 3\n");
    assert_eq!(repo.kanonix(&["undo"]).status, 0);
    assert_eq!((staged(&repo, "c.py"), repo.read("c.py")), ("c=3\n".into(), "c=3\n".into()));
    assert_eq!(repo.kanonix(&["undo"]).out, "there is nothing to put back\n");
}

#[test]
fn undo_goes_back_run_by_run_and_works_outside_of_a_repository() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("a.py", "a=2\n");
    repo.mend(&[]);
    repo.write("a.py", "a = 2\nb=3\n");
    repo.mend(&[]);
    repo.kanonix(&["undo"]);
    assert_eq!(repo.read("a.py"), "a = 2\nb=3\n");
    repo.write("a.py", "a = 2\n");
    repo.kanonix(&["undo"]);
    assert_eq!(repo.read("a.py"), "a=2\n");

    let folder = Repo::plain();
    folder.write("a.py", "a=1\n");
    folder.mend(&["a.py"]);
    assert_eq!(folder.kanonix(&["undo"]).status, 0);
    assert_eq!(folder.read("a.py"), "a=1\n");
}

#[test]
fn what_settle_writes_can_be_taken_back_too() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.kanonix(&["settle", "--write", "--set", "quotes=single"]);
    assert!(repo.read("kanonix.toml").contains("\"single\""));
    assert_eq!(repo.kanonix(&["undo"]).status, 0);
    assert_eq!(repo.read("kanonix.toml"), crate::support::CANON);
}

#[test]
fn entries_expire() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("a.py", "a=2\n");
    repo.mend(&[]);
    let folder = repo.path(".git/kanonix/undo");
    let entries = std::fs::read_dir(&folder).unwrap();
    let paths = entries.map(|entry| entry.unwrap().path());
    let journal = paths.filter(|path| path.extension().is_some()).next().unwrap();
    let text = std::fs::read_to_string(&journal).unwrap();
    let (_, rest) = text.split_once(',').unwrap();
    std::fs::remove_file(&journal).unwrap();
    let journal = folder.join("000001000000000000000000-1.json");
    std::fs::write(&journal, format!("{{\"when\":1000000000,{rest}")).unwrap();
    assert_eq!(repo.kanonix(&["undo", "--list"]).out, "there is nothing to put back\n");
    repo.write("a.py", "a=3\n");
    repo.mend(&[]);
    assert!(!journal.exists());
}

#[test]
fn what_a_run_replaced_outside_of_a_repository_goes_with_its_journal() {
    let folder = Repo::plain();
    let entries = || -> Vec<PathBuf> {
        let entries = std::fs::read_dir(folder.state().join("kanonix/undo")).unwrap();
        entries.map(|entry| entry.unwrap().path()).collect()
    };
    let contents = || {
        let is_content = |path: &&PathBuf| path.file_name().unwrap().len() == 64;
        entries().iter().filter(is_content).count()
    };
    folder.write("kanonix.toml", "edition = 1\n");
    folder.write("a.py", "a=1\n");
    folder.kanonix(&["mend", "--whole", "a.py"]);
    folder.write("a.py", "a=2\n");
    folder.kanonix(&["mend", "--whole", "a.py"]);
    assert_eq!(contents(), 2);
    let first = entries().into_iter().filter(|path| path.extension().is_some()).min().unwrap();
    std::fs::rename(&first, first.with_file_name("000001000000000000000000-1.json")).unwrap();
    folder.write("a.py", "a=3\n");
    folder.kanonix(&["mend", "--whole", "a.py"]);
    assert_eq!(contents(), 2, "the first one is gone, and the others are there");
    assert_eq!(folder.kanonix(&["undo"]).status, 0);
    assert_eq!(folder.read("a.py"), "a=3\n");
}

#[test]
fn a_file_that_is_only_meant_to_be_added_has_nothing_staged() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("b.py", "b=1\n");
    repo.git(&["add", "--intent-to-add", "b.py"]);
    repo.mend(&["--staged"]);
    assert_eq!(repo.read("b.py"), "b=1\n");
}

#[test]
fn a_linked_worktree_has_an_index_of_its_own() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.git(&["worktree", "add", "--quiet", "linked"]);
    repo.write("linked/a.py", "a=2\n");
    repo.git(&["-C", "linked", "add", "a.py"]);
    let mut mend = repo.command(env!("CARGO_BIN_EXE_kanonix"));
    mend.args(["mend", "--staged", "--quiet"]).current_dir(repo.path("linked"));
    assert!(mend.status().unwrap().success());
    assert_eq!(repo.git(&["-C", "linked", "cat-file", "blob", ":a.py"]), "a = 2\n");
    assert_eq!((repo.read("linked/a.py"), repo.read("a.py")), ("a = 2\n".into(), "a = 1\n".into()));
}

#[test]
fn line_ends_that_git_converts_by_its_configuration_stay_converted() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.git(&["config", "core.autocrlf", "true"]);
    repo.write("a.py", "a=1\r\nb = 2\r\n");
    repo.git(&["add", "a.py"]);
    repo.write("a.py", "a=1\r\nb = 2\r\nc=3\r\n");
    repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "a.py"), "a = 1\nb = 2\n");
    assert_eq!(repo.read("a.py"), "a = 1\r\nb = 2\r\nc=3\r\n");
}

#[test]
fn hunks_that_were_picked_one_by_one_are_mended_alone() {
    let lines = "level = 1\n".repeat(12);
    let repo = Repo::with(&[("a.py", &lines)]);
    repo.write("a.py", format!("first=0\n{lines}last=9\n"));
    let mut add = repo.command("git");
    add.args(["add", "--patch", "a.py"]).stdin(std::process::Stdio::piped());
    let mut add = add.stdout(std::process::Stdio::null()).spawn().unwrap();
    std::io::Write::write_all(&mut add.stdin.take().unwrap(), b"y\nn\n").unwrap();
    assert!(add.wait().unwrap().success());
    repo.mend(&["--staged"]);
    assert_eq!(staged(&repo, "a.py"), format!("first = 0\n{lines}"));
    assert_eq!(repo.read("a.py"), format!("first = 0\n{lines}last=9\n"));
}
