//! Bad input: one clear message, the right exit status, and nothing lost.

use crate::support::Repo;

/// What a command says, with the temporary folder's name taken out.
fn wrong(repo: &Repo, words: &[&str]) -> String {
    let said = repo.kanonix(words);
    assert_eq!(said.out, "", "{said:?}");
    let err = said.err.replace(&repo.root().display().to_string(), "ROOT");
    format!("{err}exit status {}", said.status)
}

#[test]
fn a_misspelt_setting_is_shown_in_its_place_and_nothing_is_formatted() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("kanonix.toml", "[style]\nindent_size = 4\nqoutes = \"double\"\n");
    repo.write("a.py", "a=1\n");
    insta::assert_snapshot!(wrong(&repo, &["mend"]), @r#"
    kanonix: kanonix.toml:3:1: there is no setting or language `qoutes`; did you mean `quotes`?
      3 | qoutes = "double"
        | ^^^^^^
    exit status 2
    "#);
    assert_eq!(repo.read("a.py"), "a=1\n");
}

#[test]
fn a_canon_that_is_no_toml_is_shown_in_its_place() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("kanonix.toml", "[style\n");
    insta::assert_snapshot!(wrong(&repo, &["check"]), @"
    kanonix: kanonix.toml:1:7: this is not TOML: unclosed table, expected `]`
      1 | [style
        |       ^
    exit status 2
    ");
}

#[test]
fn a_path_that_is_not_there_is_named() {
    let repo = Repo::with(&[]);
    insta::assert_snapshot!(wrong(&repo, &["check", "gauges/none.py"]), @r"
    kanonix: gauges/none.py: there is no such file or folder
    exit status 2
    ");
}

#[test]
fn an_unknown_revision_is_named() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    insta::assert_snapshot!(wrong(&repo, &["check", "--since", "mian"]), @r"
    kanonix: there is no revision `mian` in this repository; did you mean `main`?
    exit status 2
    ");
}

#[test]
fn outside_of_a_repository_whole_files_are_judged_and_a_gate_says_what_it_needs() {
    let folder = Repo::plain();
    folder.write("a.py", "a=1\nb=2\n");
    folder.mend(&["--whole"]);
    assert_eq!(folder.read("a.py"), "a = 1\nb = 2\n");
    insta::assert_snapshot!(wrong(&folder, &["check", "--staged"]), @r"
    kanonix: this is not inside a git repository: --staged needs one. Outside of one, use --whole or --lines
    exit status 2
    ");
    insta::assert_snapshot!(wrong(&folder, &["gate", "install"]), @r"
    kanonix: this is not inside a git repository: a gate needs one
    exit status 2
    ");
}

#[test]
fn lines_want_one_file_and_a_range() {
    let repo = Repo::with(&[("a.py", "a=1\nb=2\nc=3\n")]);
    assert!(wrong(&repo, &["check", "--lines", "1-2"]).contains("exactly one file"));
    assert!(wrong(&repo, &["check", "--lines", "0-2", "a.py"]).contains("is no range of lines"));
    repo.mend(&["--lines", "1,3-9", "a.py"]);
    assert_eq!(repo.read("a.py"), "a = 1\nb=2\nc = 3\n");
}

#[test]
fn a_detached_head_is_a_base_like_any_other() {
    let repo = Repo::with(&[("a.py", "a=1\nb=2\n")]);
    repo.git(&["checkout", "--quiet", "--detach"]);
    repo.edit("a.py", "b=2", "b=3");
    repo.mend(&[]);
    assert_eq!(repo.read("a.py"), "a=1\nb = 3\n");
}

#[test]
fn a_file_in_the_middle_of_a_merge_is_left_as_it_is() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.fork("a.py", "a=2\n", "a=3\n");
    assert_ne!(repo.try_git(&["merge", "other"]).status, 0);
    let before = repo.read("a.py");
    let said = repo.kanonix(&["mend"]);
    assert_eq!(said.status, 3, "{said:?}");
    assert!(said.err.contains("a.py: it is in the middle of a merge"), "{said:?}");
    assert_eq!(repo.read("a.py"), before);
}

#[test]
fn standard_input_always_comes_out_again() {
    let repo = Repo::with(&[("a.py", "a=1\nb=2\n")]);
    let mended = repo.kanonix_reads(&["mend", "--stdin", "a.py"], b"a=1\nb=20\n");
    assert_eq!(String::from_utf8_lossy(&mended.stdout), "a=1\nb = 20\n");
    let new = repo.kanonix_reads(&["mend", "--stdin", "new.py"], b"a=1\n");
    assert_eq!(String::from_utf8_lossy(&new.stdout), "a = 1\n");
    let whole = repo.kanonix_reads(&["mend", "--whole", "--stdin", "a.py"], b"a=1\nb=2\n");
    assert_eq!(String::from_utf8_lossy(&whole.stdout), "a = 1\nb = 2\n");
    let unknown = repo.kanonix_reads(&["mend", "--stdin", "notes.txt"], b"a=1\n");
    assert_eq!(String::from_utf8_lossy(&unknown.stdout), "a=1\n");

    let latin = repo.kanonix_reads(&["mend", "--stdin", "a.py"], b"a = '\xe9'\n");
    assert_eq!(latin.stdout, b"a = '\xe9'\n");
    assert_eq!(latin.status.code(), Some(3));
    insta::assert_snapshot!(String::from_utf8_lossy(&latin.stderr), @"kanonix: standard input is not UTF-8 (byte 6); it is passed on as it came");

    repo.write("kanonix.toml", "[stile]\n");
    let wrong = repo.kanonix_reads(&["mend", "--stdin", "a.py"], b"a=1\n");
    assert_eq!((wrong.stdout.as_slice(), wrong.status.code()), (&b"a=1\n"[..], Some(2)));
}

#[cfg(unix)]
#[test]
fn a_file_that_may_not_be_read_or_written_is_named_and_the_rest_is_done() {
    use std::os::unix::fs::PermissionsExt;
    let repo = Repo::with(&[("a.py", "a = 1\n"), ("b.py", "b = 1\n")]);
    repo.write("a.py", "a=2\n");
    repo.write("b.py", "b=2\n");
    let permissions = std::fs::Permissions::from_mode;
    let mode = |mode| std::fs::set_permissions(repo.path("a.py"), permissions(mode));
    mode(0o444).unwrap();
    let said = repo.kanonix(&["mend"]);
    assert_eq!(said.status, 3, "{said:?}");
    assert!(said.err.contains("a.py: it cannot be written"), "{said:?}");
    assert_eq!((repo.read("a.py").as_str(), repo.read("b.py").as_str()), ("a=2\n", "b = 2\n"));
    mode(0o000).unwrap();
    if std::fs::read(repo.path("a.py")).is_err() {
        // Not so for somebody who may read everything.
        let said = repo.kanonix(&["check", "--whole"]);
        assert_eq!(said.status, 3, "{said:?}");
        assert!(said.err.contains("a.py: it cannot be read"), "{said:?}");
    }
    mode(0o644).unwrap();
}

#[test]
fn a_file_that_does_not_parse_anywhere_is_a_fault_and_stays() {
    let repo = Repo::with(&[]);
    let text = "))) this ((( is = no { program\n";
    repo.write("a.js", text);
    let said = repo.kanonix(&["mend"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert_eq!(repo.read("a.js"), text);
    let said = repo.kanonix(&["check"]);
    assert_eq!(said.status, 0);
    assert!(said.out.contains("a.js:1:1: fault: this does not parse"), "{said:?}");
}

#[test]
fn odd_files_neither_stop_nor_change() {
    let repo = Repo::with(&[]);
    let odd: [(&str, &[u8]); 7] = [
        ("empty.py", b""),
        ("blank.py", b"  \n\n  "),
        ("mark.py", b"\xef\xbb\xbfa = 1\n"),
        ("returns.py", b"a = 1\rb = 2\r"),
        ("feed.py", b"a = 1\n\x0c\nb = 2\n"),
        ("comment.js", b"// ebb"),
        ("empty.json", b""),
    ];
    for (path, text) in odd {
        repo.write(path, text);
        let said = repo.kanonix(&["mend", "--whole", path]);
        assert_eq!(said.status, 0, "{path}: {said:?}");
        let again = repo.kanonix(&["check", "--whole", path]);
        assert_eq!(again.status, 0, "{path}: {again:?}");
        let kept = std::fs::read(repo.path(path)).unwrap();
        let solid = |bytes: &[u8]| -> Vec<u8> {
            bytes.iter().copied().filter(|byte| !byte.is_ascii_whitespace()).collect()
        };
        assert_eq!(solid(&kept), solid(text), "{path}");
    }
    assert_eq!(repo.read("mark.py"), "\u{feff}a = 1\n");
    assert_eq!(repo.read("feed.py"), "a = 1\n\u{c}\nb = 2\n");
    assert_eq!(repo.read("comment.js"), "// ebb\n");
}
