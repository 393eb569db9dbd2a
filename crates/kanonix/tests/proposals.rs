//! What `settle` proposes of code that is there: for whom it counts, and what it tells.

use crate::support::Repo;

/// A repository without a canon.
fn settled(files: &[(&str, &str)]) -> Repo {
    let repo = Repo::with(files);
    std::fs::remove_file(repo.path("kanonix.toml")).unwrap();
    repo
}

#[test]
fn a_proposal_that_costs_a_line_more_is_given_up_setting_by_setting_only() {
    // Single quotes in nearly all places; the community has no say in them, and keeps what is
    // there.
    let mut files: Vec<(String, String)> = (0..6)
        .map(|n| (format!("g{n}.rs"), format!("fn level_{n}() -> u8 {{\n    {n}\n}}\n")))
        .collect();
    let singles: String = (0..20).map(|n| format!("level_{n} = 'ebb'\n")).collect();
    files.push(("a.py".into(), singles.clone() + "odd = \"flood\"\n"));
    let files: Vec<(&str, &str)> =
        files.iter().map(|(path, text)| (path.as_str(), text.as_str())).collect();
    let repo = settled(&files);
    let said = repo.kanonix(&["settle"]);
    assert!(said.out.contains("quotes = \"single\""), "{}", said.out);
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    repo.write("b.py", "new = 'slack'\n");
    assert_eq!(repo.kanonix(&["check", "b.py"]).status, 0);
}

#[test]
fn files_that_no_person_wrote_have_no_say_and_are_proposed_as_skip() {
    let mine = "function ebb(a) {\n\treturn a;\n}\n\nfunction flood(a) {\n\treturn a;\n}\n";
    let dense = "function a(b){return b};".repeat(200);
    let repo = settled(&[
        ("siren.js", mine),
        ("dashboard/chart.js", mine),
        ("dashboard/chart.min.js", &dense),
        ("made/one.js", &dense),
        ("made/two.js", "// Generated from tides.idl, do not edit.\nlet  a=1;\n"),
        ("made/three.js", "// @generated\nlet  a=1;\n"),
        ("notes.txt", "ebb\n"),
        ("page.html", "<p>\n"),
        ("other.html", "<p>\n"),
        ("Makefile", "all:\n"),
    ]);
    let said = repo.kanonix(&["settle"]);
    insta::assert_snapshot!(said.err, @"
    javascript · 2 files · 14 lines
      setting      proposed  the code    instead, in lines
      indent_size  tab       100 % of 4  2 +4 · 3 +4 · 4 +4 · 8 +4
      the whole proposal would change 0 lines in 0 files
      as the community has it: 4 lines; 7 more settings as usual

    4 files that no person wrote had no say, and are proposed as skip:
      dashboard/chart.min.js
      made/one.js
      made/three.js
      made/two.js
    in no language that is known, so not covered: 2 .html, 1 .txt, 1 Makefile

    nothing is written; put it in place with: kanonix settle --write
    ");
    insta::assert_snapshot!(said.out, @r#"
    # The agreed style of this repository. Everybody's editor, the commit gate and the build
    # server read it here. What is not said follows each language's own community guide.
    edition = 1

    [reach]
    save = "touched"                 # touched | whole | off
    commit = "touched"               # touched | whole | off
    merge = "touched"                # touched | whole | off

    [files]
    skip = [                         # no person wrote these
        "/dashboard/chart.min.js",
        "made/**",
    ]

    [style.javascript]               # 2 files, 14 lines
    indent_style = "tab"             # tab at 100 % of 4 places
    "#);
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    assert_eq!(repo.kanonix(&["check", "--whole"]).status, 0);
    // Into a canon that is there, beside what it skips.
    repo.write("kanonix.toml", "edition = 1\n[files]\nskip = [\"notes.txt\"] # by hand\n");
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    let skip = "skip = [\"notes.txt\", \"/dashboard/chart.min.js\", \"made/**\"] # by hand";
    assert!(repo.read("kanonix.toml").contains(skip), "{}", repo.read("kanonix.toml"));
}

#[test]
fn numbers_are_told_as_a_person_writes_them() {
    let many: String = (0..1_200).map(|n| format!("level_{n} = 'ebb'\n")).collect();
    let repo = settled(&[("a.py", &many)]);
    let said = repo.kanonix(&["settle"]);
    insta::assert_snapshot!(said.err, @"
    python · 1 file · 1,200 lines
      setting  proposed  the code        instead, in lines
      quotes   single    100 % of 1,200  double +1,200 · keep +0
      the whole proposal would change 0 lines in 0 files
      as the community has it: 0 lines; 2 more settings as usual

    nothing is written; put it in place with: kanonix settle --write
    ");
}

#[test]
fn one_place_is_no_evidence() {
    let repo = settled(&[("a.py", "level = 'ebb'\n"), ("b.js", "ebb()\n")]);
    let said = repo.kanonix(&["settle"]);
    assert!(!said.out.contains("single") && !said.out.contains("bare"), "{}", said.out);
}

#[test]
fn patterns_that_do_nothing_are_said() {
    let canon = "edition = 1\n[files]\nskip = [\"old/**\", \"gauges\\\\made\"]\n\
                 language = { \"*.tide\" = \"json\" }\n[[part]]\npaths = [\"gauges\"]\n\
                 style.quotes = \"keep\"\n";
    let repo = Repo::with(&[("gauges/a.py", "a = 1\n"), ("kanonix.toml", canon)]);
    let expected = [
        "kanonix.toml:3: the pattern `old/**` matches no file here",
        "kanonix.toml:3: the pattern `gauges\\made` has a backslash: write `/` between folders",
        "kanonix.toml:4: the pattern `*.tide` matches no file here",
    ];
    let settle = repo.kanonix(&["settle"]).err;
    let explain = repo.kanonix(&["explain", "gauges/a.py"]).out;
    for line in expected {
        assert!(settle.contains(line), "{line}: {settle}");
        assert!(explain.contains(line), "{line}: {explain}");
    }
    assert!(!settle.contains("`gauges` "), "{settle}");
    let json = repo.kanonix(&["explain", "gauges/a.py", "--report", "json"]).out;
    let report: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!(report["idle_patterns"].as_array().unwrap().len(), 3);
}
