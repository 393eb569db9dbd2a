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
fn blanks_at_lines_ends_stay_where_many_lines_have_some() {
    let of = |with: usize| {
        let line = |n| format!("level_{n} = ebb{}\n", if n < with { "  " } else { "" });
        let repo = settled(&[("a.py", &(0..1000).map(line).collect::<String>())]);
        assert_eq!(repo.kanonix(&["settle", "--write"]).status, 0);
        repo.read("kanonix.toml")
    };
    assert!(!of(4).contains("trim_trailing_whitespace"), "a few go");
    let said = "trim_trailing_whitespace = false # false changes least";
    assert!(of(30).contains(said), "{}", of(30));
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
        ("viewer/Quay.Designer.cs", "class  Quay { }\n"),
        ("viewer/Mole.Designer.cs", "class  Mole { }\n"),
        ("package-lock.json", "{}\n"),
        ("notes.txt", "ebb\n"),
        ("page.html", "<p>\n"),
        ("other.html", "<p>\n"),
        ("Makefile", "all:\n"),
    ]);
    let said = repo.kanonix(&["settle"]);
    insta::assert_snapshot!(said.err, @"
    javascript · 2 files · 14 lines
      undisputed: indent_size tab, 7 more settings as the community has it
      the whole proposal would change 0 lines in 0 files; as the community has it: 4 lines

    html · 2 files · 2 lines
      the whole proposal would change 0 lines in 0 files; as the community has it: 0 lines

    7 files that no person wrote had no say, and are proposed as skip:
      dashboard/chart.min.js
      made/one.js
      made/three.js
      made/two.js
      package-lock.json
      viewer/Mole.Designer.cs
      viewer/Quay.Designer.cs
    in no language that is known, so not covered: 1 .txt, 1 Makefile

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
    skip = [
        "*.Designer.cs",             # 2 files, no person wrote them, as their names say
        "package-lock.json",         # no person wrote it, as its name says
        "/dashboard/chart.min.js",   # no person wrote it
        "made/**",                   # 3 files, no person wrote them
    ]

    [style.javascript]               # 2 files, 14 lines
    indent_style = "tab"             # tab at 100 % of 4 places

    [style.html]                     # 2 files, 2 lines
    "#);
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    assert_eq!(repo.kanonix(&["check", "--whole"]).status, 0);
    // Into a canon that is there, beside what it skips.
    repo.write("kanonix.toml", "edition = 1\n[files]\nskip = [\"notes.txt\"] # by hand\n");
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    let skip = "skip = [\"notes.txt\", \"*.Designer.cs\", \"package-lock.json\", \"/dashboard/chart.min.js\", \"made/**\"] # by hand";
    assert!(repo.read("kanonix.toml").contains(skip), "{}", repo.read("kanonix.toml"));
}

#[test]
fn numbers_are_told_as_a_person_writes_them() {
    let many: String = (0..1_200).map(|n| format!("level_{n} = 'ebb'\n")).collect();
    let repo = settled(&[("a.py", &many)]);
    let said = repo.kanonix(&["settle"]);
    insta::assert_snapshot!(said.err, @"
    python · 1 file · 1,200 lines
      undisputed: quotes single, 2 more settings as the community has it
      the whole proposal would change 0 lines in 0 files; as the community has it: 0 lines

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

/// So many functions, each indented by so many spaces.
fn functions(name: &str, indent: usize) -> String {
    let indent = " ".repeat(indent);
    let one = |n: usize| format!("function {name}{n}(a) {{\n{indent}return a + {n};\n}}\n");
    (0..25).map(one).collect::<Vec<_>>().join("\n")
}

/// Code in no style, under a notice of its own.
fn somebody_elses() -> String {
    let one = |n: usize| {
        let indent = " ".repeat(n % 7);
        format!("function sun{n}(a) {{\n{indent}return a  + {n};\n }}\n")
    };
    let body = (0..60).map(one).collect::<Vec<_>>().join("\n");
    format!("/* Copyright 2009 The Sundial Society */\n{body}")
}

#[test]
fn a_folder_that_is_written_otherwise_is_proposed_as_a_part() {
    let files: Vec<(String, String)> = (0..9)
        .map(|n| (format!("src/gauge{n}.js"), functions("level", 2)))
        .chain((0..3).map(|n| (format!("old/buoy{n}.js"), functions("drift", 4))))
        .chain([("src/third_party/chart.js".into(), functions("draw", 8))])
        .chain([("src/sun.js".into(), somebody_elses())])
        .collect();
    let files: Vec<(&str, &str)> =
        files.iter().map(|(path, text)| (path.as_str(), text.as_str())).collect();
    let repo = settled(&files);
    let said = repo.kanonix(&["settle"]);
    insta::assert_snapshot!(said.err, @"
    javascript · 13 files · 1,428 lines
      setting           proposed  the code                      instead, in lines
      indent_size       2         2 56 %, others 44 % of 420    4 +151 · 1 +225 · 3 +225
      operator_gap.sum  keep      true 86 %, false 14 % of 420  true +9 · false +234
      undisputed: statement_end semicolon, blank_lines.between_functions 1, 4 more settings as the
        community has it
      old/ is written otherwise, 75 of its 297 lines would change, 0 as a [[part]] with indent_size 4
      src/sun.js is written otherwise, 111 of its 240 lines would change, so it is proposed as skip: its
        copyright notice is another one
      the whole proposal would change 0 lines in 0 files; as the community has it: 195 lines

    1 file of other people's, by the name of their folder, had no say, and is proposed as skip:
      src/third_party/

    nothing is written; put it in place with: kanonix settle --write
    ");
    insta::assert_snapshot!(said.out.split_once("[files]").unwrap().1, @r#"
    skip = [
        "src/third_party/**",        # 1 file, other people's by the folder's name
        "/src/sun.js",               # 111 of its 240 lines would change, and its copyright notice is another one
    ]

    [style.javascript]               # 13 files, 1,428 lines
    indent_size = 2                  # 2 at 56 % of 420 places
    statement_end = "semicolon"      # semicolon at 100 % of 360 places
    operator_gap = { sum = "keep" }  # keep changes least
    blank_lines = { between_functions = 1 } # 1 at 100 % of 347 places

    [[part]]                         # 75 of its 297 lines would change, with this 0
    paths = ["old/**"]

    [part.style.javascript]
    indent_size = 4                  # 4 at 100 % of 75 places
    "#);
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    assert_eq!(repo.kanonix(&["check", "--whole"]).status, 0);
    // Where parts are agreed on, none is added.
    let canon = repo.read("kanonix.toml").replace("indent_size = 4 ", "indent_size = 3 ");
    repo.write("kanonix.toml", &canon);
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    assert_eq!(repo.read("kanonix.toml").matches("[[part]]").count(), 1);
}

/// What counts in steps is asked anew where a step is another one, however few lines have it.
#[test]
fn a_part_with_another_step_says_how_many_of_them_its_lines_are_further_in() {
    // Variables of one declaration stand under each other.
    let variables = |indent: usize| {
        let (own, further) = (" ".repeat(indent), " ".repeat(indent + 4));
        format!("function ebb(a) {{\n{own}var low = a,\n{further}high = a;\n}}\n\n")
    };
    let files: Vec<(String, String)> = (0..9)
        .map(|n| (
            format!("src/gauge{n}.js"),
            variables(2).repeat(9) + &functions("level", 2).repeat(3),
        ))
        .chain([("old/buoy.js".into(), variables(4).repeat(6) + &functions("drift", 4).repeat(9))])
        .collect();
    let files: Vec<(&str, &str)> =
        files.iter().map(|(path, text)| (path.as_str(), text.as_str())).collect();
    let repo = settled(&files);
    let said = repo.kanonix(&["settle"]).out;
    assert!(said.contains("wrap_indent = { declaration = 2 }"), "{said}");
    insta::assert_snapshot!(said.split_once("[[part]]").unwrap().1.trim_start(), @r#"
    # 237 of its 921 lines would change, with this 0
    paths = ["/old/buoy.js"]

    [part.style.javascript]
    indent_size = 4                  # 4 at 100 % of 237 places
    wrap_indent = { declaration = 1 } # 1 changes least
    "#);
}
