//! The lead's command: proposals, prices, changes in place, and canons of other teams.

use std::collections::BTreeSet;
use crate::support::Repo;

/// A repository whose files keep several styles.
fn divided() -> Repo {
    let repo = Repo::with(&[
        ("a.py", "def ebb(a):\n  if a:\n    return 'x'\n  return \"y\"\n"),
        ("b.py", "level=read( 'low' )\nhigh = read('high')\n"),
        (
            "c.js",
            "function ebb(a)\n{\n    return \"x\"\n}\n\nfunction slack()\n{\n    ebb()\n}\n\nwarn('a', [ 1 ])\n",
        ),
    ]);
    std::fs::remove_file(repo.path("kanonix.toml")).unwrap();
    repo
}

/// How many lines in how many files a check of all lines counts.
fn counted(repo: &Repo) -> String {
    let said = repo.kanonix(&["check", "--whole", "--report", "lines"]).out;
    let place = |line: &str| {
        let mut parts = line.split(':');
        Some((parts.next()?.to_string(), parts.next()?.to_string()))
    };
    let lines: BTreeSet<(String, String)> = said.lines().filter_map(place).collect();
    let files: BTreeSet<&String> = lines.iter().map(|(path, _)| path).collect();
    format!("{} lines in {} files", lines.len(), files.len())
}

#[test]
fn a_price_is_what_a_check_then_counts() {
    let repo = divided();
    let wishes = [
        "style.quotes=single",
        "style.python.quotes=double",
        "javascript.indent_size=8",
        "python.blank_lines.between_functions=0",
        "style.inner_gap.brackets=true",
        "max_line_length=20",
    ];
    repo.write("kanonix.toml", "edition = 1\n");
    for wish in wishes {
        repo.write("kanonix.toml", "edition = 1\n");
        let now = counted(&repo);
        let said = repo.kanonix(&["settle", "--price", wish]);
        assert_eq!(said.status, 0, "{said:?}");
        assert!(said.out.contains(&now), "{now}: {}", said.out);
        assert_eq!(repo.kanonix(&["settle", "--write", "--set", wish]).status, 0);
        let row = said.out.lines().last().unwrap();
        let then = counted(&repo);
        assert!(row.contains(&then), "{wish}: {then}: {row}");
    }
}

#[test]
fn several_prices_make_a_table() {
    let repo = divided();
    let said = repo.kanonix(&["settle", "--price", "quotes=single", "--price", "indent_size=2"]);
    insta::assert_snapshot!(said.out, @"
    what a check of all lines would count
      as each community has it  9 lines in 3 files
      quotes=single             9 lines in 3 files  no more and no fewer lines
      indent_size=2             6 lines in 2 files  3 fewer lines
    ");
}

#[test]
fn the_prices_of_the_proposal_are_what_a_check_then_counts() {
    let repo = divided();
    let proposed = repo.kanonix(&["settle"]);
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    let totals = proposed.err.lines().filter_map(|line| {
        let (_, rest) = line.split_once("would change ")?;
        rest.split(' ').next()?.parse::<usize>().ok()
    });
    let total: usize = totals.sum();
    assert!(counted(&repo).starts_with(&format!("{total} lines")), "{}", proposed.err);
    insta::assert_snapshot!(proposed.err, @"
    javascript · 1 file · 11 lines
      undisputed: indent_size 4, open_brace.function next_line, inner_gap.brackets true, 8 more settings
        as the community has it
      the whole proposal would change 0 lines in 0 files; as the community has it: 5 lines

    python · 2 files · 6 lines
      setting           proposed  the code                    instead, in lines
      inner_gap.parens  false     false 67 %, true 33 % of 6  true +2 · keep +0
      undisputed: indent_size 2, 5 more settings as the community has it
      the whole proposal would change 1 line in 1 file; as the community has it: 4 lines

    nothing is written; put it in place with: kanonix settle --write
    ");
}

#[test]
fn a_canon_that_is_there_is_changed_in_its_place() {
    let repo = divided();
    repo.write(
        "kanonix.toml",
        "# Agreed in March.\nedition = 1\n\n[style]\nquotes = \"double\" # long fought over\n",
    );
    let shown = repo.kanonix(&["settle", "--set", "quotes=single"]);
    insta::assert_snapshot!(shown.out + &shown.err, @r#"
    --- kanonix.toml
    +++ kanonix.toml
    @@ -2,5 +2,5 @@
     # Agreed in March.
     edition = 1
     
     [style]
    -quotes = "double" # long fought over
    +quotes = "single" # long fought over

    a check of all lines counts 10 lines in 3 files now, and then 9 lines in 3 files
    nothing is written; add --write
    "#);
    assert!(repo.read("kanonix.toml").contains("\"double\""));
    repo.kanonix(&["settle", "--write", "--set", "quotes=single", "--set", "json.indent_size=4"]);
    insta::assert_snapshot!(repo.read("kanonix.toml"), @r#"
    # Agreed in March.
    edition = 1

    [style]
    quotes = "single" # long fought over

    [style.json]
    indent_size = 4
    "#);
    assert_eq!(repo.kanonix(&["settle", "--write", "--quiet"]).status, 0);
    insta::assert_snapshot!(repo.read("kanonix.toml"), @r#"
    # Agreed in March.
    edition = 1

    [style]
    quotes = "single" # long fought over

    [style.json]
    indent_size = 4

    [style.javascript]
    indent_size = 4 # 4 at 100 % of 2 places
    open_brace = { function = "next_line" }
    inner_gap = { brackets = true }
    quotes = "keep" # keep changes least

    [style.python]
    indent_size = 2 # 2 at 100 % of 3 places
    quotes = "keep" # keep changes least
    "#);
}

#[test]
fn what_cannot_be_settled_is_said() {
    let repo = divided();
    let mut all = String::new();
    for words in [
        &["--price", "quotes"][..],
        &["--price", "qoutes=single"],
        &["--price", "quotes=sngle"],
        &["--set", "quotes=single", "--write"],
        &["--follow"],
    ] {
        let said = repo.kanonix(&[&["settle"], words].concat());
        let err = said.err.replace(&format!("{}/", repo.root().display()), "");
        all.push_str(&format!("{err}status {}\n", said.status));
    }
    insta::assert_snapshot!(all, @r#"
    kanonix: --price quotes: `quotes` is no NAME=VALUE: write style.python.quotes=double
    status 2
    kanonix: --price qoutes=single: there is no setting or language `qoutes`; did you mean `quotes`?
    status 2
    kanonix: --price quotes=sngle: `quotes` cannot be `sngle`: it takes `double`, `single`, `keep`; did you mean `single`?
    status 2
    kanonix: there is no kanonix.toml yet; write one with: kanonix settle --write
    status 2
    kanonix: kanonix.toml follows nobody: say whom with
      [team]
      follow = "PATH or address"
    status 2
    "#);
}

/// Two repositories: one whose canon is followed, and one that follows it.
fn following() -> (Repo, Repo) {
    let team = Repo::with(&[
        ("kanonix.toml", "edition = 1\n[style.python]\nquotes = \"single\"\n"),
    ]);
    team.git(&["tag", "v1"]);
    let repo = Repo::with(&[("a.py", "a = 'x'\n")]);
    let follow = team.root().display();
    repo.write("kanonix.toml", format!("[team]\nfollow = \"{follow}\"\nat = \"v1\"\n"));
    (team, repo)
}

#[test]
fn a_followed_canon_is_kept_as_a_copy_and_judged_by_offline() {
    let (team, repo) = following();
    assert_eq!(repo.kanonix(&["check"]).status, 2);
    let said = repo.kanonix(&["settle", "--follow"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert!(repo.read(".kanonix/followed.toml").contains("# at: v1\n# commit: "));
    repo.commit("follow");
    drop(team);
    repo.write("a.py", "a = \"y\"\n");
    assert_eq!(repo.kanonix(&["check"]).status, 1);
    let said = repo.kanonix(&["explain", "a.py"]).out;
    assert!(said.contains("quotes  single  .kanonix/followed.toml:8"), "{said}");
    // Our own word is stronger.
    repo.edit("kanonix.toml", "[team]", "[style]\nquotes = \"double\"\n[team]");
    assert_eq!(repo.kanonix(&["check"]).status, 0);
}

#[test]
fn what_a_newer_canon_would_change_is_shown_before_it_is_taken() {
    let (team, repo) = following();
    repo.edit("kanonix.toml", "at = \"v1\"\n", "");
    assert_eq!(repo.kanonix(&["settle", "--follow"]).status, 0);
    let before = repo.read(".kanonix/followed.toml");
    team.edit("kanonix.toml", "single", "double");
    team.commit("other quotes");
    let names = |text: &str| {
        let text = text.replace(&team.root().display().to_string(), "TEAM");
        let hash = |word: &str| word.len() == 40 && word.bytes().all(|b| b.is_ascii_hexdigit());
        let words = text.split_inclusive([' ', '\n']).map(|word| match hash(word.trim()) {
            true => word.replace(word.trim(), "COMMIT"),
            false => word.to_string(),
        });
        words.collect::<String>()
    };
    insta::assert_snapshot!(names(&repo.kanonix(&["settle", "--refresh"]).out), @"
    TEAM has changed since COMMIT
      style.python.quotes: single becomes double
    a check of all lines counts 0 lines in 0 files now, and then 1 line in 1 file
    nothing is written; take it with: kanonix settle --refresh --write
    ");
    assert_eq!(repo.read(".kanonix/followed.toml"), before);
    repo.kanonix(&["settle", "--refresh", "--write"]);
    assert_eq!(repo.kanonix(&["check", "--whole"]).status, 1);
    insta::assert_snapshot!(names(&repo.kanonix(&["settle", "--refresh"]).out), @"TEAM says nothing new at COMMIT");
}

#[test]
fn moving_to_another_version_is_shown_before_it_is_taken() {
    let (team, repo) = following();
    repo.kanonix(&["settle", "--follow"]);
    team.edit("kanonix.toml", "single", "double");
    team.commit("other quotes");
    team.git(&["tag", "v2"]);
    let before = repo.read(".kanonix/followed.toml");
    repo.edit("kanonix.toml", "\"v1\"", "\"v2\"");
    let said = repo.kanonix(&["check"]);
    assert!(said.status == 2 && said.err.contains("kanonix settle --refresh"), "{said:?}");
    let said = repo.kanonix(&["settle", "--refresh"]);
    assert_eq!(said.status, 0, "{said:?}");
    for wanted in [
        "at v2 has changed since v1",
        "quotes: single becomes double",
        "0 lines in 0 files now, and then 1 line in 1 file",
        "nothing is written",
    ] {
        assert!(said.out.contains(wanted), "{wanted}: {said:?}");
    }
    assert_eq!(repo.read(".kanonix/followed.toml"), before);
    assert_eq!(repo.kanonix(&["settle", "--refresh", "--write"]).status, 0);
    assert!(repo.read(".kanonix/followed.toml").contains("# at: v2\n"));
    assert_eq!(repo.kanonix(&["check", "--whole"]).status, 1);
}

#[test]
fn a_copy_that_was_edited_or_is_of_another_canon_is_refused() {
    let (team, repo) = following();
    repo.kanonix(&["settle", "--follow"]);
    let copy = repo.read(".kanonix/followed.toml");
    let mut all = String::new();
    let mut check = |repo: &Repo| {
        let said = repo.kanonix(&["check"]);
        let err = said.err.replace(&team.root().display().to_string(), "TEAM");
        let err = err.replace(&repo.root().display().to_string(), "ROOT");
        all.push_str(&format!("{err}status {}\n", said.status));
    };
    repo.edit(".kanonix/followed.toml", "single", "double");
    check(&repo);
    repo.write(".kanonix/followed.toml", copy.replace('\n', "\r\n"));
    check(&repo);
    repo.write(".kanonix/followed.toml", &copy);
    repo.edit("kanonix.toml", "v1", "v2");
    check(&repo);
    let said = repo.kanonix(&["settle", "--follow"]);
    all.push_str(&said.err.replace(&team.root().display().to_string(), "TEAM"));
    insta::assert_snapshot!(all, @r#"
    kanonix: .kanonix/followed.toml:1:1: this copy was edited by hand: change the canon that it is of, or put your own word into kanonix.toml, and take it anew with kanonix settle --follow
      1 | # A copy: `kanonix settle --follow` made it. Do not edit it; change the canon that it is of.
        | ^
    status 2
    no slips in 0 files, on touched lines
    files left alone: 1 in no known language
    status 0
    kanonix: kanonix.toml:2:10: the copy in .kanonix/followed.toml is of TEAM at v1: see what the other one would change with kanonix settle --refresh, and take it with kanonix settle --refresh --write
      2 | follow = "TEAM"
        |          ^^^^^^^^^^^^^^^^^
    status 2
    kanonix: TEAM at v2 cannot be followed: there is no revision `v2` in this repository
    "#);
}

#[test]
fn the_schema_takes_every_canon_and_refuses_the_wrong_ones() {
    let repo = Repo::plain();
    let schema = repo.kanonix(&["settle", "--schema"]).out;
    let schema: serde_json::Value = serde_json::from_str(&schema).unwrap();
    let validator = jsonschema::validator_for(&schema).unwrap();
    let as_json = |text: &str| -> serde_json::Value {
        let table: toml::Table = text.parse().unwrap();
        serde_json::to_value(table).unwrap()
    };
    let canons = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../xtask/canons");
    let mut right: Vec<String> = std::fs::read_dir(canons)
        .unwrap()
        .map(|file| std::fs::read_to_string(file.unwrap().path()).unwrap())
        .collect();
    assert!(right.len() >= 6);
    right.push(crate::support::CANON.into());
    right.push("needs = \">=0.1\"\neditorconfig = false\nbasis = \"allman\"\n".into());
    right.push("[team]\nfollow = \"../style\"\nat = \"v1\"\n".into());
    right.push(
        "[[part]]\npaths = [\"a\"]\nreach = \"off\"\nstyle.python.quotes = \"keep\"\n".into(),
    );
    let proposed = divided();
    right.push(proposed.kanonix(&["settle"]).out);
    for text in right {
        let errors: Vec<String> =
            validator.iter_errors(&as_json(&text)).map(|error| error.to_string()).collect();
        assert!(errors.is_empty(), "{text}\n{errors:?}");
    }
    let wrong = [
        "[stlye]\nquotes = \"double\"\n",
        "[style]\nqoutes = \"double\"\n",
        "[style]\nquotes = \"dubble\"\n",
        "[style]\nindent_size = true\n",
        "[style]\nindent_size = 17\n",
        "[style]\nopen_brace = { lambada = \"next_line\" }\n",
        "[style.pyhton]\nquotes = \"double\"\n",
        "[style.python]\nopen_brace = \"next_line\"\n",
        "[style.python]\nparen_gap = { control = true }\n",
        "[files]\nskip = \"a\"\n",
        "[files]\nlanguage = { \"*.tide\" = \"jsn\" }\n",
        "basis = \"almann\"\n",
        "[[part]]\nreach = \"off\"\n",
        "[team]\nat = \"v1\"\n",
        "edition = 2\n",
        "needs = \"0.1\"\n",
        "[reach]\nsave_without_git = \"touched\"\n",
        "[style]\noperator_place = \"before\"\n",
    ];
    for text in wrong {
        assert!(!validator.is_valid(&as_json(text)), "{text}");
        let repo = Repo::with(&[]);
        repo.write("kanonix.toml", text);
        assert_eq!(repo.kanonix(&["check"]).status, 2, "{text}");
    }
}
