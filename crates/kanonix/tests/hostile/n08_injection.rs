//! Names, revisions, code and canons that would do something where they are shown.

use super::Ground;
use crate::support::Said;

/// What a name may hold that does something: a cleared screen, a line of its own, a title, writing
/// turned around.
const EVIL: &str = "a\u{1b}[2J\u{202e}\ngauges/clean.py:1:1: quotes: all is well\r\u{9b}31m.py";

/// Nothing acts but the ends of our own lines and, where it is painted, our colours.
fn is_harmless(said: &Said, what: &dyn std::fmt::Debug) {
    let all = format!("{}{}", said.out, said.err);
    let colours = ["\u{1b}[0m", "\u{1b}[1m", "\u{1b}[2m", "\u{1b}[1;31m"];
    let mut plain = all.clone();
    for colour in colours
        .into_iter()
        .map(String::from)
        .chain((31..37).map(|n| format!("\u{1b}[{n}m")))
    {
        plain = plain.replace(&colour, "");
    }
    let acts = |c: char| (c.is_control() && c != '\n') || ('\u{202a}'..='\u{202e}').contains(&c);
    assert!(!plain.contains(acts), "{what:?}: {all:?}");
    let forged = all.lines().find(|line| line.starts_with("gauges/clean.py"));
    assert!(forged.is_none(), "{what:?}: {all:?}");
}

#[test]
fn a_name_forges_no_line() {
    let ground = Ground::with(&[("b.py", "b = 1\n")]);
    ground.repo.write(EVIL, "a='\u{1b}]0;title\u{7}\u{202e}'\n\tb=1\nc = = 1\n");
    ground.repo.git(&["add", "--all"]);
    for words in [
        &["check"][..],
        &["check", "--whole"],
        &["check", "--whole", "--color", "always"],
        &["check", "--staged"],
        &["check", "--report", "lines"],
        &["gate", "commit", "--color", "always"],
        &["mend", "--dry-run", "--color", "always"],
        &["explain", EVIL],
        &["mend"],
        &["undo", "--list"],
        &["undo"],
    ] {
        let said = ground.kanonix(words);
        is_harmless(&said, &words);
    }
    // What programs read is exact.
    let said = ground.kanonix(&["check", "--report", "json"]);
    let report: serde_json::Value = serde_json::from_str(&said.out).unwrap();
    let paths: Vec<&str> =
        report["files"].as_array().unwrap().iter().filter_map(|f| f["path"].as_str()).collect();
    assert!(paths.contains(&EVIL), "{paths:?}");
}

#[test]
fn a_revision_and_a_path_that_are_not_there_are_shown_harmlessly() {
    let ground = Ground::with(&[("b.py", "b = 1\n")]);
    for words in [
        &["check", "--since", EVIL][..],
        &["gate", "merge", "--into", EVIL],
        &["check", EVIL],
    ] {
        let said = ground.kanonix(words);
        assert_eq!(said.status, 2, "{said:?}");
        is_harmless(&said, &words);
    }
}

#[test]
fn a_wrong_canon_is_shown_harmlessly() {
    let ground = Ground::with(&[("b.py", "b = 1\n")]);
    for canon in [
        "[style]\n\"quo\\u001b[2J\\ntes\" = \"double\"\n".to_string(),
        format!("[style]\nquotes = \"{}\" # \u{202e}\n", "\u{202e}dubble"),
        "[files]\nskip = [\"a[\\u001b\\n\"]\n".to_string(),
        "x\u{1b}[2J\n".to_string(),
    ] {
        ground.repo.write("kanonix.toml", &canon);
        let said = ground.kanonix(&["check"]);
        assert_eq!(said.status, 2, "{canon:?} {said:?}");
        is_harmless(&said, &canon);
    }
}
