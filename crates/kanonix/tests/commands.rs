//! The commands as people meet them: reports, the survey, the gates, the tour.

use serde_json::Value;
use std::fs;
use std::path::Path;
use crate::support::{Repo, Said};

const OLD: &str = "def level(h):\n    return h*2\n\n\ndef ebb(h):\n    return level(h)-1\n";

fn touched() -> Repo {
    let repo = Repo::with(&[("gauges/ingest.py", OLD), ("alarms/siren.js", "let a=1;\n")]);
    repo.edit("gauges/ingest.py", "return h*2", "return  h*'2'");
    repo.write("alarms/new.js", "if(a){b()}\n");
    repo
}

#[test]
fn check_writes_a_line_a_slip_and_changes_nothing() {
    let repo = touched();
    let said = repo.kanonix(&["check"]);
    insta::assert_snapshot!(said.out, @"
    alarms/new.js:1:3: paren_gap: one space before `(`
    alarms/new.js:1:6: word_gap: one space before `{`
    alarms/new.js:1:7: flat_block: put `b` on its own line
    alarms/new.js:1:10: flat_block: put `}` on its own line
    gauges/ingest.py:2:13: word_gap: one space before `h`
    gauges/ingest.py:2:14: operator_gap: one space on each side of `*`
    gauges/ingest.py:2:15: quotes: use double quotes
    ");
    insta::assert_snapshot!(said.err, @"
    7 slips in 2 of 2 files, on touched lines · 1 older slip left alone
    mend them with: kanonix mend
    ");
    assert_eq!(said.status, 1);
    assert_eq!(repo.git(&["diff", "--stat"]).lines().count(), 2);
}

#[test]
fn all_lines_are_mended_with_a_word_about_what_is_not_committed() {
    let repo = touched();
    let refused = repo.kanonix(&["mend", "--whole", "--committed"]);
    insta::assert_snapshot!(refused.err, @"kanonix: 2 files have changes that are not committed: commit them or set them aside, or leave out --committed; nothing is written");
    assert_eq!((refused.status, refused.out.as_str()), (2, ""));
    let mended = repo.kanonix(&["mend", "--whole"]);
    insta::assert_snapshot!(mended.err, @"2 files have changes that are not committed; as they are now, kanonix undo brings them back");
    repo.kanonix(&["undo"]);
    assert_eq!(repo.read("alarms/new.js"), "if(a){b()}\n");
    repo.git(&["add", "."]);
    repo.git(&["commit", "-qm", "all"]);
    let mended = repo.kanonix(&["mend", "--whole", "--committed"]);
    assert_eq!((mended.status, mended.err.as_str()), (0, ""));
    assert!(repo.read("alarms/new.js").starts_with("if (a) {\n"));
    assert_eq!(repo.kanonix(&["mend", "--committed"]).status, 2);
}

#[test]
fn on_a_terminal_slips_are_grouped_and_marked() {
    let said = touched().kanonix(&["check", "--color", "always", "gauges"]);
    let plain = said.out.replace("\x1b[0m", "").replace("\x1b[1m", "").replace("\x1b[2m", "");
    let plain = plain.replace("\x1b[36m", "").replace("\x1b[33m", "").replace("\x1b[32m", "");
    insta::assert_snapshot!(plain, @"
    gauges/ingest.py:2
      now     return  h*'2'
                      ^^^^^
      wanted  return h * \"2\"
      word_gap      one space before `h`
      operator_gap  one space on each side of `*`
      quotes        use double quotes

    3 slips in 1 of 1 file, on touched lines · 1 older slip left alone
    mend them with: kanonix mend gauges
    ");
}

#[test]
fn the_json_report_says_the_same() {
    let repo = touched();
    let reports = ["--report", "json", "--report", "lines=slips.txt"];
    let said = repo.kanonix(&[&["check", "gauges"], &reports[..]].concat());
    assert_eq!(said.status, 1);
    insta::assert_snapshot!(said.out);
    assert_eq!(repo.read("slips.txt").lines().count(), 3);
    let wrong = repo.kanonix(&["check", "--report", "jsn"]);
    assert_eq!(wrong.status, 2);
}

/// A text in which every `replace` of a file's slips is carried out, each once.
fn replaced(text: &str, file: &Value) -> String {
    let lines: Vec<&str> = text.split_inclusive('\n').collect();
    let offset = |place: &Value| {
        let line = place["line"].as_u64().unwrap() as usize;
        let before: usize = lines[..line].iter().map(|line| line.len()).sum();
        let units = place["character"].as_u64().unwrap() as usize;
        let rest: Vec<u16> = lines.get(line).unwrap_or(&"").encode_utf16().collect();
        before + String::from_utf16(&rest[..units]).unwrap().len()
    };
    let replaces = file["slips"].as_array().unwrap().iter().map(|slip| &slip["replace"]);
    let mut edits: Vec<(usize, usize, String)> = replaces
        .map(|one| {
            let with = one["with"].as_str().unwrap().to_string();
            (offset(&one["start"]), offset(&one["end"]), with)
        })
        .collect();
    edits.sort();
    edits.dedup();
    let mut text = text.to_string();
    for (start, end, with) in edits.into_iter().rev() {
        text.replace_range(start..end, &with);
    }
    text
}

#[test]
fn the_json_report_holds_what_mends_each_slip() {
    let repo = touched();
    repo.write("in/a.py", "é = 'é'+  f( '𝄞','b' )\n");
    repo.write("in/picture.png", "\u{0}");
    let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
    command.current_dir(repo.path("in")).args(["check", "--report", "json"]);
    let out = String::from_utf8(command.output().unwrap().stdout).unwrap();
    let report: Value = serde_json::from_str(&out).unwrap();
    let schema = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/report.schema.json");
    let schema: Value = serde_json::from_str(&fs::read_to_string(schema).unwrap()).unwrap();
    jsonschema::validate(&schema, &report).unwrap();
    let files = report["files"].as_array().unwrap();
    let file = files.iter().find(|file| file["path"] == "in/a.py").expect("from the root");
    assert!(file["slips"].as_array().unwrap().len() > 4, "{file}");
    let expected = replaced(&repo.read("in/a.py"), file);
    let left = report["left_alone"].as_array().unwrap();
    assert!(left.iter().any(|one| one["path"] == "in/picture.png"), "{left:?}");
    repo.kanonix(&["mend"]);
    assert_eq!(repo.read("in/a.py"), expected);
}

#[test]
fn mend_reports_the_slips_that_it_mends() {
    let repo = touched();
    let checked = repo.kanonix(&["check"]).out;
    let said = repo.kanonix(&["mend", "--report", "lines", "--report", "json=mended.json"]);
    assert_eq!((said.status, said.out), (0, checked));
    assert!(repo.read("mended.json").contains("\"slips\": 7"));
    assert_eq!(repo.kanonix(&["check", "gauges", "alarms"]).out, "");
}

#[test]
fn a_dry_run_prints_what_git_applies() {
    let repo = touched();
    repo.write("alarms/with blank.js", "a=1");
    let said = repo.kanonix(&["mend", "--dry-run"]);
    assert_eq!((said.status, repo.read("alarms/new.js").as_str()), (0, "if(a){b()}\n"));
    repo.write("change.patch", &said.out);
    repo.git(&["apply", "change.patch"]);
    assert_eq!(repo.read("alarms/new.js"), "if (a) {\n    b()\n}\n");
    assert_eq!(repo.read("alarms/with blank.js"), "a = 1\n");
    assert_eq!(repo.kanonix(&["check"]).status, 0);
}

#[test]
fn since_a_revision_all_the_branch_touched_is_in_play() {
    let repo = Repo::with(&[("a.py", "a=1\nb=2\nc=3\n")]);
    repo.git(&["switch", "--quiet", "-c", "tides"]);
    repo.edit("a.py", "a=1", "a=10");
    repo.commit("one");
    repo.edit("a.py", "b=2", "b=20");
    repo.write("new.py", "n=1\n");
    assert_eq!(repo.kanonix(&["check"]).out.lines().count(), 2);
    repo.mend(&["--since", "main"]);
    assert_eq!(repo.read("a.py"), "a = 10\nb = 20\nc=3\n");
    assert_eq!(repo.read("new.py"), "n = 1\n");
}

#[test]
fn the_canon_says_how_far_save_and_commit_reach() {
    let repo = Repo::with(&[("a.py", "a=1\nb=2\n")]);
    repo.edit("a.py", "b=2", "b=3");
    let reach = "edition = 1\n[reach]\nsave = \"whole\"\ncommit = \"off\"\n";
    repo.edit("kanonix.toml", "edition = 1\n", reach);
    assert_eq!(repo.kanonix(&["check"]).out.lines().count(), 2);
    repo.git(&["add", "."]);
    assert_eq!(repo.kanonix(&["gate", "commit"]).status, 0);
    repo.edit("kanonix.toml", "save = \"whole\"", "save = \"off\"");
    let said = repo.kanonix(&["check"]);
    assert_eq!((said.status, said.out.as_str()), (0, ""));
}

#[test]
fn a_canon_nearer_to_the_file_has_the_last_word() {
    let repo = Repo::with(&[("deep/a.py", "a = 1\n")]);
    repo.write("deep/kanonix.toml", "[style]\nquotes = \"single\"\n");
    repo.write("deep/a.py", "a = \"1\"\n");
    repo.write("b.py", "b = '1'\n");
    repo.mend(&[]);
    assert_eq!(repo.read("deep/a.py"), "a = '1'\n");
    assert_eq!(repo.read("b.py"), "b = \"1\"\n");
}

#[test]
fn files_that_git_ignores_are_not_met() {
    let repo = Repo::with(&[(".gitignore", "made/\n")]);
    repo.write("made/a.py", "a=1\n");
    assert_eq!(repo.kanonix(&["check", "--whole"]).out, "");
    assert_eq!(repo.kanonix(&["check"]).out, "");
}

#[test]
fn settle_proposes_what_the_code_does_and_writes_only_when_asked() {
    let repo = Repo::with(&[
        ("a.py", "def ebb(a):\n  if a:\n    return 'x'\n  return 'y'\n"),
        (
            "b.js",
            "function ebb(a)\n{\n    return \"x\"\n}\n\nfunction flood()\n{\n    return \"y\"\n}\n",
        ),
    ]);
    assert_eq!(repo.kanonix(&["settle"]).status, 0);
    assert_eq!(repo.read("kanonix.toml"), crate::support::CANON);
    std::fs::remove_file(repo.path("kanonix.toml")).unwrap();
    let said = repo.kanonix(&["settle"]);
    insta::assert_snapshot!(said.out);
    assert!(!repo.path("kanonix.toml").exists());
    assert_eq!(repo.kanonix(&["settle", "--write"]).status, 0);
    assert_eq!(repo.read("kanonix.toml"), said.out);
    assert_eq!(repo.kanonix(&["check"]).status, 0);
}

fn commit(repo: &Repo) -> Said {
    repo.try_git(&["commit", "-m", "Warn earlier"])
}

#[test]
fn the_commit_gate_judges_what_is_staged_and_not_the_files() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    assert_eq!(repo.kanonix(&["gate", "install"]).status, 0);
    repo.write("a.py", "a=2\n");
    repo.git(&["add", "a.py"]);
    repo.write("a.py", "a = 2\n");
    let stopped = commit(&repo);
    assert_eq!(stopped.status, 1);
    insta::assert_snapshot!(stopped.err, @"
    a.py:1:2: operator_gap: one space on each side of `=`
    kanonix: stopped, 1 line that you are committing departs from the canon
    1 slip in 1 of 1 file, on staged lines
    mend them with: kanonix mend --staged
    ");
    repo.git(&["add", "a.py"]);
    repo.write("a.py", "a=3\n");
    assert_eq!(commit(&repo).status, 0);
}

#[test]
fn the_gate_keeps_the_hook_that_is_there_and_puts_it_back() {
    use std::os::unix::fs::PermissionsExt;
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let hook = "#!/bin/sh\necho earlier >> ran\nexit \"$(cat status)\"\n";
    repo.git(&["config", "core.hooksPath", "hooks"]);
    repo.write("hooks/pre-commit", hook);
    let executable = std::fs::Permissions::from_mode(0o755);
    std::fs::set_permissions(repo.path("hooks/pre-commit"), executable).unwrap();
    repo.write("status", "0");
    repo.kanonix(&["gate", "install"]);
    repo.kanonix(&["gate", "install"]);
    repo.write("a.py", "a=2\n");
    repo.git(&["add", "a.py"]);
    assert_eq!(commit(&repo).status, 1);
    assert_eq!(repo.read("ran"), "earlier\n");
    repo.mend(&["--staged"]);
    repo.write("status", "7");
    assert_eq!(commit(   &repo).status, 1);
    repo.write("status", "0");
    assert_eq!(commit(   &repo).status, 0);
    assert!(repo.kanonix(&["gate", "status"]).out.contains("after the hook from before"));
    repo.kanonix(&["gate", "remove"]);
    assert_eq!(repo.read("hooks/pre-commit"), hook);
    assert_eq!(std::fs::read_dir(repo.path("hooks")).unwrap().count(), 1);
}

#[test]
fn the_gate_works_in_a_linked_worktree() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.git(&["worktree", "add", "--quiet", "linked"]);
    let linked = ["-C", "linked"];
    repo.kanonix(&["gate", "install"]);
    repo.write("linked/a.py", "a=2\n");
    repo.git(&[&linked[..], &["add", "a.py"]].concat());
    let stopped = repo.try_git(&[&linked[..], &["commit", "-m", "x"]].concat());
    assert_eq!(stopped.status, 1, "{stopped:?}");
    assert!(stopped.err.contains("a.py:1:2: operator_gap"), "{stopped:?}");
}

#[test]
fn the_merge_gate_judges_commits_and_nothing_else() {
    let repo = Repo::with(&[("a.py", "a=1\nb=2\n")]);
    repo.git(&["switch", "--quiet", "-c", "tides"]);
    repo.edit("a.py", "b=2", "b=3");
    repo.commit("three");
    repo.write("a.py", "a = 1\nb = 3\n");
    let stopped = repo.kanonix(&["gate", "merge", "--into", "main"]);
    assert_eq!(stopped.status, 1);
    assert_eq!(stopped.out, "a.py:2:2: operator_gap: one space on each side of `=`\n");
    assert!(stopped.err.contains("kanonix mend --since main"), "{stopped:?}");
    repo.commit("mended");
    assert_eq!(repo.kanonix(&["gate", "merge", "--into", "main"]).status, 0);
    let unknown = repo.kanonix(&["gate", "merge", "--into", "nowhere"]);
    assert_eq!(unknown.status, 2);
}

#[test]
fn the_tour_goes_through_the_whole_job() {
    let repo = Repo::plain();
    let said = repo.kanonix(&["tour", "--keep", "kept"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert_eq!(said.out.matches("(exit status 1)").count(), 4, "{}", said.out);
    let log = repo.git(&["-C", "kept", "log", "--format=%s"]);
    insta::assert_snapshot!(log, @"
    Follow the canon
    Let the keepers sleep
    Say how low it was
    Show the next tide
    Warn earlier in a storm
    Round the offsets
    Agree on a canon
    What we have
    ");
    let again = repo.kanonix(&["tour", "--keep", "kept"]);
    assert_eq!(again.status, 2, "{again:?}");
}

#[test]
fn alone_it_prints_a_short_help() {
    let said = Repo::plain().kanonix(&[]);
    assert_eq!(said.status, 0);
    for group in ["for the lead", "every day", "at the gate"] {
        assert!(said.out.contains(group));
    }
}

#[test]
fn long_lines_are_said_and_stop_only_where_the_canon_says_so() {
    let long = format!("// {}\n", "high water ".repeat(12).trim());
    let repo = Repo::with(&[("a.js", "")]);
    repo.write("a.js", &long);
    let said = repo.kanonix(&["check"]);
    assert_eq!(said.status, 0);
    insta::assert_snapshot!(said.out, @"a.js:1:101: long_line: the line is too long, and mending cannot help");
    repo.write(
        "kanonix.toml",
        format!("{}[reach]\nlong_lines = \"stop\"\n", crate::support::CANON),
    );
    let said = repo.kanonix(&["check"]);
    assert_eq!(said.status, 3);
    assert!(said.err.contains("1 line is too long and cannot be broken"), "{}", said.err);
}

#[test]
fn markup_in_typescript_follows_typescripts_part_of_the_canon() {
    let repo = Repo::with(&[("a.tsx", "")]);
    let own = "[style.typescript]\nquotes = \"single\"\n[style.tsx]\nindent_size = 3\n";
    repo.write("kanonix.toml", format!("{}{own}", crate::support::CANON));
    repo.write("a.tsx", "function A() {\n  return <p>{\"b\"}</p>\n}\n");
    repo.kanonix(&["mend"]);
    assert_eq!(repo.read("a.tsx"), "function A() {\n   return <p>{'b'}</p>\n}\n");
}

#[test]
fn every_word_of_the_canon_is_explained() {
    let repo = touched();
    let said = repo.kanonix(&["explain"]);
    assert_eq!(said.status, 0, "{said:?}");
    let words: Vec<&str> =
        said.out.lines().filter_map(|line| line.strip_prefix("  ")?.split(' ').next()).collect();
    assert!(words.len() > 40, "{words:?}");
    for word in words {
        let said = repo.kanonix(&["explain", word]);
        assert!(said.status == 0 && said.out.starts_with(word), "{word}: {said:?}");
        assert_eq!(repo.kanonix(&["explain", word, "--report", "json"]).status, 0, "{word}");
    }
    for (path, name) in [
        ("style.python.quotes", "quotes"),
        ("[reach]", "reach"),
        ("save", "reach.save"),
    ] {
        assert!(repo.kanonix(&["explain", path]).out.starts_with(name), "{path}");
    }
    for (asked, wanted) in [
        ("semicolon", "did you mean `statement_end`?"),
        ("gauges", "is a folder"),
        ("gauges/ingest.py:99", "there is no line 99"),
    ] {
        let said = repo.kanonix(&["explain", asked]);
        assert!(said.status == 2 && said.err.contains(wanted), "{asked}: {said:?}");
    }
}

#[test]
fn help_is_a_command_too() {
    let repo = Repo::plain();
    assert_eq!(repo.kanonix(&["help"]).out, repo.kanonix(&[]).out);
    assert_eq!(repo.kanonix(&["help", "mend"]).out, repo.kanonix(&["mend", "--help"]).out);
    assert_eq!(repo.kanonix(&["help", "wend"]).status, 2);
}

#[test]
fn a_wish_that_is_wrong_is_said_of_its_option() {
    let repo = touched();
    for (words, wanted) in [
        (["settle", "--set", "quotes=dubble"], "--set quotes=dubble: `quotes` cannot be `dubble`"),
        (["settle", "--price", "semicolon=bare"], "did you mean `statement_end`?"),
    ] {
        let said = repo.kanonix(&words);
        assert!(said.status == 2 && said.err.contains(wanted), "{said:?}");
        assert!(!said.err.contains("kanonix.toml:"), "{said:?}");
    }
    repo.kanonix(&["settle", "--write", "--set", "files.skip=[out/**, *.made.js]"]);
    assert!(repo.read("kanonix.toml").contains("skip = [\"out/**\", \"*.made.js\"]"));
}

#[test]
fn a_canon_with_several_errors_shows_them_all() {
    let repo = touched();
    repo.write(
        "kanonix.toml",
        "semicolons = true\n[style]\nquotes = 3\n[style.js]\n[reach]\nsave = \"all\"\n",
    );
    let said = repo.kanonix(&["check"]);
    assert_eq!(said.status, 2);
    for line in ["kanonix.toml:1:1", "kanonix.toml:3:10", "kanonix.toml:4:8", "kanonix.toml:6:8"] {
        assert!(said.err.contains(line), "{line}: {said:?}");
    }
}

#[test]
fn mending_says_where_it_did_not_read() {
    let repo = Repo::with(&[("a.ts", "let low  = 1;\nexport type  ** from './tide';\n")]);
    let said = repo.kanonix(&["mend", "--whole"]);
    insta::assert_snapshot!(said.out, @"
    a.ts  1 line
    a.ts:2:17: fault: this does not parse and is left as it is
    1 line in 1 file mended · take it back with: kanonix undo
    ");
    assert_eq!(repo.read("a.ts"), "let low = 1;\nexport type  ** from './tide';\n");
    assert!(!repo.kanonix(&["mend", "--whole", "--dry-run"]).out.contains("fault"));
}
