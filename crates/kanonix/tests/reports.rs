//! The reports for build servers and reviews, held against what reads them.

use crate::support::{CANON, Repo};
use quick_junit::{NonSuccessKind, Report, TestCaseStatus};
use serde_json::Value;

/// A repository in which everything is touched that a report may say: slips behind letters of
/// several units, a stretch that does not parse, a line that is too long, a comment that keeps
/// lines, and a file that cannot be read.
fn told() -> Repo {
    let repo = Repo::with(&[("gauges/a.py", "level = 1\n"), ("lost.py", "level = 1\n")]);
    repo.write("kanonix.toml", format!("{CANON}[reach]\nunreadable = \"stop\"\n"));
    let long = format!("# {}\n", "tide".repeat(40));
    repo.write(
        "gauges/a.py",
        format!("level = 1\nname = 'ebb'\nø = '😀' +2\n# kanonix: keep\nx=1\n{long}"),
    );
    repo.write("ångström gauge/b.py", "level = 1\nlow=2\n");
    repo.write("broken.py", "level = 1\nlow = (2\n");
    repo.write("lost.py", "level = 1\n\0\n");
    repo
}

fn sarif(repo: &Repo) -> Value {
    let said = repo.kanonix(&["check", "--report", "sarif"]);
    let log: Value = serde_json::from_str(&said.out).unwrap();
    // A bracket too many in one of its patterns makes that no pattern.
    let schema = include_str!("standards/sarif-2.1.0.schema.json").replace("{2}]?$", "{2}$");
    let schema: Value = serde_json::from_str(&schema).unwrap();
    jsonschema::validate(&schema, &log).unwrap();
    log["runs"][0].clone()
}

fn results(run: &Value) -> &Vec<Value> {
    run["results"].as_array().unwrap()
}

fn address(result: &Value) -> &str {
    result["locations"][0]["physicalLocation"]["artifactLocation"]["uri"].as_str().unwrap()
}

#[test]
fn sarif_follows_the_standards_schema_and_names_every_place_exactly() {
    let repo = told();
    let run = sarif(&repo);
    let places: Vec<String> = results(&run)
        .iter()
        .map(|result| {
            let region = &result["locations"][0]["physicalLocation"]["region"];
            let number = |name: &str| region[name].as_u64().unwrap();
            format!(
                "{} {}:{}-{}:{} {} {}",
                address(result),
                number("startLine"),
                number("startColumn"),
                number("endLine"),
                number("endColumn"),
                result["ruleId"].as_str().unwrap(),
                result["level"].as_str().unwrap()
            )
        })
        .collect();
    insta::assert_snapshot!(places.join("\n"), @"
    gauges/a.py 2:8-2:13 quotes error
    gauges/a.py 3:5-3:9 quotes error
    gauges/a.py 3:11-3:11 operator_gap error
    gauges/a.py 4:1-4:16 new_keep note
    gauges/a.py 6:80-6:163 long_line warning
    %C3%A5ngstr%C3%B6m%20gauge/b.py 2:4-2:5 operator_gap error
    ");
    // Every rule that is named is there, with its help.
    let rules = run["tool"]["driver"]["rules"].as_array().unwrap();
    for result in results(&run) {
        let rule = &rules[result["ruleIndex"].as_u64().unwrap() as usize];
        assert_eq!(rule["id"], result["ruleId"]);
        let help = rule["help"]["text"].as_str().unwrap();
        assert!(help.contains("kanonix explain ") && help.len() > 40, "{help}");
    }
    let invocation = &run["invocations"][0];
    assert_eq!(invocation["executionSuccessful"], false);
    assert_eq!(invocation["exitCode"], 3);
    let notes = invocation["toolExecutionNotifications"].as_array().unwrap();
    let told: Vec<String> = notes
        .iter()
        .map(|note| {
            let uri = &note["locations"][0]["physicalLocation"]["artifactLocation"]["uri"];
            format!("{} {}: {}", note["level"], uri, note["message"]["text"])
        })
        .collect();
    insta::assert_snapshot!(told.join("\n"), @r#"
    "warning" "broken.py": "this does not parse and is left as it is"
    "error" "lost.py": "a zero byte has come into it, so it cannot be judged: mend that, or agree on `[reach] unreadable = \"pass\"`"
    "#);
}

/// A file's text with the fixes of a SARIF log made in it, whose columns count units of UTF-16.
fn fixed(text: &str, run: &Value, uri: &str) -> String {
    let mut lines: Vec<Vec<u16>> =
        text.split_inclusive('\n').map(|line| line.encode_utf16().collect()).collect();
    let fixes = results(run).iter().filter(|result| address(result) == uri);
    let mut regions: Vec<&Value> = fixes
        .flat_map(|result| result["fixes"].as_array())
        .flatten()
        .collect();
    regions.dedup();
    for fix in regions.into_iter().rev() {
        let replacement = &fix["artifactChanges"][0]["replacements"][0];
        let number = |name: &str| replacement["deletedRegion"][name].as_u64().unwrap() as usize - 1;
        assert_eq!(number("startLine"), number("endLine"));
        let new = replacement["insertedContent"]["text"].as_str().unwrap().encode_utf16();
        lines[number("startLine")].splice(number("startColumn")..number("endColumn"), new);
    }
    lines.iter().map(|line| String::from_utf16(line).unwrap()).collect()
}

#[test]
fn the_fixes_of_sarif_are_what_mending_does() {
    let repo = told();
    std::fs::remove_file(repo.path("lost.py")).unwrap();
    let before = repo.read("gauges/a.py");
    let fixed = fixed(&before, &sarif(&repo), "gauges/a.py");
    repo.kanonix(&["mend"]);
    assert_eq!(fixed, repo.read("gauges/a.py"));
    assert!(fixed.contains("ø = \"😀\" + 2\n"), "{fixed}");
}

#[test]
fn a_result_is_known_again_wherever_its_line_goes() {
    let prints = |repo: &Repo| -> Vec<String> {
        let run = sarif(repo);
        let prints = results(&run).iter();
        prints.map(|result| result["partialFingerprints"]["kanonix/v1"].to_string()).collect()
    };
    let repo = told();
    repo.write("gauges/a.py", "a='ebb'\nb='ebb'\na='ebb'\n");
    let before = prints(&repo);
    let mut alone = before.clone();
    alone.sort();
    alone.dedup();
    assert_eq!(alone.len(), before.len(), "two results have one fingerprint");
    repo.write("gauges/a.py", "import tides\n\n\na='ebb'\nb='ebb'\n\n    \na='ebb'\n");
    let after = prints(&repo);
    assert!(after.len() > before.len());
    assert!(before.iter().all(|print| after.contains(print)), "{before:?} {after:?}");
    // Another line is another result, however it stands.
    repo.write("gauges/a.py", "a='flood'\n");
    assert!(prints(&repo).iter().filter(|print| before.contains(print)).count() <= 1);
}

#[test]
fn junit_is_read_by_its_library() {
    let repo = told();
    repo.write("bell\u{7}.py", "a='\u{8}'\n");
    let said = repo.kanonix(&["check", "--report", "junit"]);
    let report = Report::deserialize_from_str(&said.out).unwrap();
    assert_eq!((report.tests, report.failures, report.errors), (5, 3, 1));
    let cases = &report.test_suites[0].test_cases;
    let told: Vec<String> = cases
        .iter()
        .map(|case| match &case.status {
            TestCaseStatus::Success { .. } => format!("{}: well", case.name.as_str()),
            TestCaseStatus::NonSuccess { kind, message, description, .. } => {
                let kind = if *kind == NonSuccessKind::Error { "error" } else { "failure" };
                let lines = description.as_ref().map_or(0, |said| said.lines().count());
                let message = message.as_ref().map_or("", |message| message.as_str());
                format!("{}: {kind}, {message}, {lines} lines", case.name.as_str())
            }
            other => format!("{other:?}"),
        })
        .collect();
    insta::assert_snapshot!(told.join("\n"), @r#"
    bell.py: failure, 2 slips, 2 lines
    broken.py: well
    gauges/a.py: failure, 3 slips, 5 lines
    ångström gauge/b.py: failure, 1 slip, 1 lines
    lost.py: error, a zero byte has come into it, so it cannot be judged: mend that, or agree on `[reach] unreadable = "pass"`, 0 lines
    "#);
}

#[test]
fn junit_says_what_stops_without_a_slip() {
    let repo = Repo::with(&[("a.py", "level = 1\n")]);
    repo.write("kanonix.toml", format!("{CANON}[reach]\nfaults = \"stop\"\n"));
    repo.write("a.py", "level = (1\n");
    let said = repo.kanonix(&["check", "--report", "junit"]);
    assert!(
        said.status == 3 && said.out.contains("message=\"it stops without a slip\""),
        "{said:?}"
    );
    assert!(said.out.contains("a.py:1:1: fault: "), "{said:?}");
}

#[test]
fn a_summary_for_a_review_stays_small_whatever_happens() {
    let repo = told();
    let said = repo.kanonix(&["check", "--report", "markdown"]);
    insta::assert_snapshot!(said.out);
    let line = "low='`````' +'@everybody <script>' +['**bold**', \"| a table |\"]\n";
    for number in 0..60 {
        let name = format!("{}/```{number}<b>.py", "a long name ".repeat(19));
        repo.write(&name, line.repeat(400));
    }
    let said = repo.kanonix(&["check", "--report", "markdown"]);
    assert!(said.out.len() < 60_000, "{}", said.out.len());
    assert!(said.out.contains("\nkanonix mend\n```"), "{}", &said.out[said.out.len() - 400..]);
    assert!(said.out.contains("| `operator_gap` | ") && said.out.contains("| `quotes` | "));
    // What strangers wrote is code, and calls nobody.
    let mut fence: Option<String> = None;
    for line in said.out.lines() {
        let marks: String = line.chars().take_while(|letter| *letter == '`').collect();
        match &fence {
            None if marks.len() > 2 && line.ends_with("diff") => fence = Some(marks),
            Some(open) if *open == line => fence = None,
            Some(_) => {}
            None => {
                let words: String = line.split('`').step_by(2).collect();
                assert!(!words.contains("@everybody") && !words.contains("<script"), "{line}");
            }
        }
    }
    assert_eq!(fence, None);
}

#[test]
fn a_patch_is_taken_by_git_in_the_tree_in_the_index_and_in_a_subfolder() {
    let repo = Repo::with(&[("gauges/a.py", "level = 1\n"), ("gauges/deep/b.py", "level = 1")]);
    let names = ["gauges/a.py", "gauges/deep/b.py", "gauges/tab\there.py", "gauges/\"ö\" \\n.py"];
    let slips = || {
        for name in names {
            repo.write(name, "level = 1\nname = 'ebb'\nlow=2");
        }
    };
    let mended = "level = 1\nname = \"ebb\"\nlow = 2\n";
    let patch = |folder: &str, words: &[&str]| {
        let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
        command
            .current_dir(repo.path(folder))
            .args(words)
            .args(["--report", "patch=../../p.patch"]);
        command.output().unwrap();
        repo.read("p.patch")
    };
    let apply = |folder: &str, words: &[&str]| {
        let mut git = repo.command("git");
        git.current_dir(repo.path(folder)).args(["apply"]).args(words).arg("../../p.patch");
        assert!(git.status().unwrap().success(), "{words:?}");
    };
    slips();
    let in_tree = patch("gauges/deep", &["check", "../.."]);
    assert!(in_tree.contains("diff --git"), "{in_tree}");
    // From a subfolder, git takes what is in it, and all of it from the top.
    apply("gauges/deep", &[]);
    assert_eq!(repo.read("gauges/deep/b.py"), mended);
    assert_eq!(repo.read("gauges/a.py"), "level = 1\nname = 'ebb'\nlow=2");
    repo.write("gauges/deep/b.py", "level = 1\nname = 'ebb'\nlow=2");
    std::fs::create_dir_all(repo.path("one/two")).unwrap();
    repo.git(&["apply", "p.patch"]);
    names.iter().for_each(|name| assert_eq!(repo.read(name), mended, "{name}"));
    // What is staged, with other changes in the tree.
    slips();
    repo.git(&["add", "gauges"]);
    repo.write("gauges/a.py", "level = 1\nname = 'ebb'\nlow=2\nhigh=3\n");
    patch("gauges/deep", &["gate", "commit"]);
    repo.git(&["apply", "--cached", "p.patch"]);
    names.iter().for_each(|name| {
        assert_eq!(repo.git(&["cat-file", "blob", &format!(":{name}")]), mended, "{name}");
    });
    assert_eq!(repo.read("gauges/a.py"), "level = 1\nname = 'ebb'\nlow=2\nhigh=3\n");
    assert_eq!(repo.kanonix(&["gate", "commit"]).status, 0);
}

#[test]
fn one_run_writes_all_of_them() {
    let repo = told();
    let kinds = ["lines", "json", "sarif", "junit", "markdown", "patch"];
    let asked: Vec<String> = kinds
        .iter()
        .map(|kind| format!("--report={kind}=out.{kind}"))
        .collect();
    let words: Vec<&str> = ["check"].into_iter().chain(asked.iter().map(String::as_str)).collect();
    let said = repo.kanonix(&words);
    assert_eq!(said.status, 3);
    for kind in kinds {
        let text = repo.read(&format!("out.{kind}"));
        assert!(text.len() > 100, "{kind}: {text}");
        let alone = repo.kanonix(&["check", "gauges", "broken.py", "--report", kind]);
        assert!(!alone.out.is_empty(), "{kind}");
    }
    let wrong = repo.kanonix(&["check", "--report", "xml"]);
    assert!(
        wrong.status == 2 && wrong.err.contains("write one of lines, json, sarif"),
        "{wrong:?}"
    );
}
