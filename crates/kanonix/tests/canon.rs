//! The canon's layers, weakest first, and where `explain` says that each value comes from.

use crate::support::Repo;

const PYTHON: &str = "def ebb(a):\n    return a\n";

/// The settings that are not the community's, as `explain` lists them.
fn settings(repo: &Repo, path: &str) -> Vec<String> {
    let said = repo.kanonix(&["explain", path, "--report", "json"]);
    assert_eq!(said.status, 0, "{said:?}");
    let report: serde_json::Value = serde_json::from_str(&said.out).unwrap();
    let text = |value: &serde_json::Value| value.as_str().unwrap().to_string();
    let settings = report["settings"].as_array().unwrap().iter();
    settings
        .map(|one| {
            format!("{} {} {}", text(&one["setting"]), text(&one["value"]), text(&one["said_at"]))
        })
        .collect()
}

#[test]
fn each_layer_is_stronger_than_the_one_before() {
    let repo = Repo::with(&[("gauges/old/a.py", PYTHON)]);
    repo.write("kanonix.toml", "edition = 1\n");
    assert!(settings(&repo, "gauges/old/a.py").is_empty());
    let layers = [
        (".editorconfig", "[*.py]\nindent_size = 1\ntab_width = 4\n"),
        ("kanonix.toml", "edition = 1\nbasis = \"gnu\"\n"),
        ("kanonix.toml", "edition = 1\nbasis = \"gnu\"\n[style]\nindent_size = 3\n"),
        (
            "kanonix.toml",
            "edition = 1\nbasis = \"gnu\"\n[style]\nindent_size = 3\n[style.python]\n\
             indent_size = 5\n",
        ),
        ("gauges/kanonix.toml", "[style.python]\nindent_size = 6\n"),
        (
            "kanonix.toml",
            "edition = 1\n[style]\nindent_size = 3\n[[part]]\npaths = [\"gauges/**\"]\n\
             style.indent_size = 7\n",
        ),
        (
            "gauges/kanonix.toml",
            "[style.python]\nindent_size = 6\n\n[[part]]\npaths = [\"old\"]\n\
             style.python.indent_size = 8\n",
        ),
    ];
    let mut found = Vec::new();
    for (path, text) in layers {
        repo.write(path, text);
        let all = settings(&repo, "gauges/old/a.py");
        found.extend(all.into_iter().filter(|said| said.starts_with("indent_size")));
    }
    insta::assert_snapshot!(found.join("\n"), @"
    indent_size 1 .editorconfig:2
    indent_size 2 kanonix.toml:2
    indent_size 3 kanonix.toml:4
    indent_size 5 kanonix.toml:6
    indent_size 6 gauges/kanonix.toml:2
    indent_size 7 kanonix.toml:6
    indent_size 8 gauges/kanonix.toml:6
    ");
    repo.write("gauges/old/a.py", "def ebb(a):\n  return a\n");
    repo.mend(&["--whole", "gauges"]);
    assert_eq!(repo.read("gauges/old/a.py"), "def ebb(a):\n        return a\n");
}

#[test]
fn an_editorconfig_is_read_unless_the_canon_says_otherwise() {
    let repo = Repo::with(&[("a.py", PYTHON)]);
    repo.write(".editorconfig", "[*]\nmax_line_length = 60\n");
    repo.write("kanonix.toml", "edition = 1\n");
    assert_eq!(settings(&repo, "a.py"), ["max_line_length 60 .editorconfig:2"]);
    repo.write("kanonix.toml", "edition = 1\neditorconfig = false\n");
    assert!(settings(&repo, "a.py").is_empty());
}

#[test]
fn the_gate_reads_what_is_staged_of_every_layer() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write(".editorconfig", "[*]\nindent_size = 2\n");
    repo.write("a.py", "def ebb(a):\n  return a\n");
    repo.write("kanonix.toml", "edition = 1\n");
    repo.git(&["add", "a.py", "kanonix.toml"]);
    assert_eq!(repo.kanonix(&["gate", "commit"]).status, 1);
    repo.git(&["add", ".editorconfig"]);
    assert_eq!(repo.kanonix(&["gate", "commit"]).status, 0);
}

#[test]
fn a_part_may_be_out_of_reach() {
    let repo = Repo::with(&[("old/a.py", "a = 1\n"), ("b.py", "b = 1\n")]);
    repo.write("kanonix.toml", "[[part]]\npaths = [\"old/**\"]\nreach = \"off\"\n");
    repo.write("old/a.py", "a=2\n");
    repo.write("b.py", "b=2\n");
    assert_eq!(repo.kanonix(&["check"]).out.lines().count(), 1);
    let said = repo.kanonix(&["explain", "old/a.py"]).out;
    assert!(
        said.contains("left alone  it is out of reach by the canon (kanonix.toml:3)"),
        "{said}"
    );
}

#[test]
fn a_template_is_a_page_by_what_stands_in_it() {
    let repo = Repo::new();
    repo.write(
        "a.tmpl",
        "{{ define \"a\" }}\n<!-- low -->\n<ul ><li>{{ .Ebb }}</li></ul>\n{{ end }}\n",
    );
    repo.write("b.j2", "{# tides #}\n<ul >{% if ebb %}<li>a</li>{% endif %}</ul>\n");
    repo.write("c.yaml.j2", "ebb: {{ ebb }}\n");
    repo.write("d.html", "<p>{{ .Ebb }}</p>\n");
    repo.write("e.html", "<p>Ebb</p>\n");
    let language = |name: &str| {
        let told = repo.kanonix(&["explain", name]).out;
        told.lines().find(|line| line.contains("language")).unwrap_or_default().to_string()
    };
    insta::assert_snapshot!(
        ["a.tmpl", "b.j2", "c.yaml.j2", "d.html", "e.html"].map(language).join("\n"),
        @"
        language    html, by what it begins with; a template, as it has `{{ … }}`
        language    html, by what it begins with; a template, as it has `{% … %}`
        language    unknown, no language is known for it
        language    html, by its name; a template, as it has `{{ … }}`
        language    html, by its name
        "
    );
    let checked = repo.kanonix(&["check", "--whole"]);
    assert!(checked.out.contains("a.tmpl:3") && checked.out.contains("b.j2:2"), "{}", checked.out);
}

#[test]
fn a_language_is_found_by_name_by_pattern_and_by_first_line() {
    let repo = Repo::with(&[]);
    repo.write(
        "kanonix.toml",
        "[files]\nlanguage = { \"*.tide\" = \"json\", \"#!tidesh\" = \"python\" }\n",
    );
    repo.write("a.py", PYTHON);
    repo.write("level.tide", "{}\n");
    repo.write("ingest", "#!/usr/bin/env -S python3.12 -u\na = 1\n");
    repo.write("watch", "#!/opt/tide/bin/tidesh\na = 1\n");
    repo.write("notes", "no program\n");
    let line = |path: &str| {
        let said = repo.kanonix(&["explain", path]).out;
        said.lines().nth(1).unwrap().trim().to_string()
    };
    let lines: Vec<String> = ["a.py", "level.tide", "ingest", "watch", "notes"].map(line).into();
    insta::assert_snapshot!(lines.join("\n"), @"
    language    python, by its name
    language    json, `*.tide` at kanonix.toml:2
    language    python, by its first line
    language    python, `#!tidesh` at kanonix.toml:2
    language    unknown, no language is known for it
    ");
    repo.write("ingest", "#!/usr/bin/python3\na=1\n");
    repo.mend(&[]);
    assert_eq!(repo.read("ingest"), "#!/usr/bin/python3\na = 1\n");
    repo.write("ingest", "#!/usr/bin/python3\na=2\n");
    repo.git(&["add", "ingest"]);
    assert_eq!(repo.kanonix(&["check", "--staged"]).status, 1);
}

#[test]
fn explain_says_why_a_file_is_left_alone() {
    let repo = Repo::with(&[(".gitignore", "made/\n")]);
    repo.write(
        "kanonix.toml",
        "[files]\nskip = [\n  \"third_party/**\",\n]\nlargest = 40\n",
    );
    for (path, text) in [
        ("third_party/a.py", &b"a = 1\n"[..]),
        ("long.py", b"a = 'a long text that goes on and on and on'\n"),
        ("binary.py", b"a\0b\n"),
        ("latin.py", b"# caf\xe9\n"),
        ("notes.txt", b"notes\n"),
        ("made/a.py", b"a = 1\n"),
        ("broken.py", b"a = (\nb = 1\n"),
    ] {
        repo.write(path, text);
    }
    std::os::unix::fs::symlink("/etc/hostname", repo.path("out.py")).unwrap();
    let mut all = String::new();
    for path in [
        "third_party/a.py",
        "long.py",
        "binary.py",
        "latin.py",
        "notes.txt",
        "made/a.py",
        "broken.py",
        "out.py",
    ] {
        all.push_str(&repo.kanonix(&["explain", path]).out);
        all.push('\n');
    }
    insta::assert_snapshot!(all, @"
    third_party/a.py
      language    python, by its name
      left alone  it is skipped by the canon: third_party/** (kanonix.toml:3)
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml

    every setting is as the language's community has it

    long.py
      language    python, by its name
      left alone  it is too large: 45 bytes, at most 40 (kanonix.toml:5)
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml

    every setting is as the language's community has it

    binary.py
      language    python, by its name
      left alone  it is binary
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml

    every setting is as the language's community has it

    latin.py
      language    python, by its name
      left alone  it is not in UTF-8
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml

    every setting is as the language's community has it

    notes.txt
      language    unknown, no language is known for it
      left alone  it is in no known language
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml

    made/a.py
      language    python, by its name
      formatted   yes
      ignored     .gitignore:1: made/ (only --whole and its own name reach it)
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml

    every setting is as the language's community has it

    broken.py
      language    python, by its name
      formatted   yes, but for what does not parse (see below)
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml

    every setting is as the language's community has it

    1 fault
           1:3  this does not parse; it stays as it is

    out.py
      language    python, by its name
      left alone  it is linking out of the repository
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml

    every setting is as the language's community has it
    ");
}

#[test]
fn explain_says_what_decides_a_line_and_what_is_wanted_there() {
    let repo = Repo::with(&[("a.py", "def ebb(a):\n    return a\n\n\nlevel=ebb( 'x' )\n")]);
    insta::assert_snapshot!(repo.kanonix(&["explain", "a.py:5"]).out, @"
    a.py
      language    python, by its name
      formatted   yes
      saving      touched lines
      commit      touched lines
      merge       touched lines
      canon       kanonix.toml
                  kanonix.toml:6: the pattern `third_party/**` matches no file here

    settings that are not the community's
      quotes  double  kanonix.toml:3  otherwise keep

    line 5 is laid out by
      indent_size          4      column 1                        kanonix.toml:4
      statement_end        bare   column 1                        the community's
      operator_gap.assign  true   columns 6, 7                    the community's
      paren_gap.call       false  column 10                       the community's
      inner_gap.parens     false  columns 12, 16                  the community's
    what is wanted on it
      column 6    one space on each side of `=`  operator_gap.assign  the community's
      column 12   no space before `'x'`          inner_gap.parens     the community's
      column 12   use double quotes              quotes               kanonix.toml:3
      column 16   no space before `)`            inner_gap.parens     the community's
    ");
}

/// What `explain` says of a place on the second line of a file, and nothing that it says of the file.
fn of_the_second_line(repo: &Repo, place: &str) -> String {
    let said = repo.kanonix(&["explain", place]).out;
    let rows = said.lines().skip_while(|line| !line.starts_with("line 2"));
    rows.collect::<Vec<_>>().join("\n")
}

#[test]
fn explain_names_the_key_that_decides_and_the_line_that_says_it() {
    let repo = Repo::with(&[
        ("kanonix.toml", "[style]\ninner_gap = { braces = false }\nwrap_indent = { chain = 2 }\n"),
        ("a.js", "const ebb = gauges\n    .map( low )\n    .filter(isEbb)\n    .map(low);\n"),
    ]);
    insta::assert_snapshot!(of_the_second_line(&repo, "a.js:2"), @"
    line 2 is laid out by
      indent_size         2      column 5                        the community's
      wrap_indent.chain   2      column 5                        kanonix.toml:3
      max_line_length     100    column 5                        the community's
      word_gap            guide  column 6                        the community's
      paren_gap.call      false  column 9                        the community's
      inner_gap.parens    false  columns 11, 15                  the community's
    what is wanted on it
      column 11   no space before `low`  inner_gap.parens  the community's
      column 15   no space before `)`    inner_gap.parens  the community's
    ");
}

#[test]
fn explain_says_of_a_script_in_a_page_what_its_own_language_says() {
    let canon = "[style.html]\nindent_size = 4\n\n[style.javascript]\nquotes = \"double\"\n";
    let page = "<script>\nebb( 'low' );\n</script>\n";
    let repo = Repo::with(&[("kanonix.toml", canon), ("a.html", page)]);
    insta::assert_snapshot!(of_the_second_line(&repo, "a.html:2"), @"
    line 2 is laid out by
      indent_size         2      column 1                        the community's
      flat_block                 column 1                        the community's
      paren_gap.call      false  column 4                        the community's
      inner_gap.parens    false  columns 6, 12                   the community's
      statement_end       keep   column 13                       the community's
    what is wanted on it
      column 6    no space before `'low'`  inner_gap.parens  the community's
      column 6    use double quotes        quotes            kanonix.toml:5
      column 12   no space before `)`      inner_gap.parens  the community's
    ");
}

#[test]
fn explain_lays_the_same_lines_out_under_each_value() {
    let repo = Repo::plain();
    let of_one_language = repo.kanonix(&["explain", "flat_block.value"]).out;
    assert!(of_one_language.contains("--price style.rust.flat_block.value=open"));
    // A language that has another key than the first is not asked for that one.
    let of_several = repo.kanonix(&["explain", "letter_case"]).out;
    assert!(of_several.contains("--price style.css.letter_case.color=lower"));
    insta::assert_snapshot!(repo.kanonix(&["explain", "operator_gap"]).out, @"
    operator_gap
      One space on each side of an operator with two operands, or none, or as it stands: where one side
      has a space and the other has none, both have what those around it have. Words that are operators
      always have them. One word for all of them, or a table, strong ones first.

    operator_gap.power  `a ** b`
      takes `true`, `false`, `keep`
      by default `true` in javascript, typescript, tsx, gdscript; `keep` in python, lua; `false` in ruby

        true                   false                keep
        let a = h ** 2 + 1;    let a = h**2 + 1;    let a = h ** 2 + 1;

    operator_gap.product  `a * b`
      takes `true`, `false`, `keep`
      by default `true` in javascript, typescript, tsx, python, java, csharp, lua, gdscript, ruby,
      powershell, rust

        true                  false               keep
        let a = h * 2 + 1;    let a = h*2 + 1;    let a = h * 2 + 1;

    operator_gap.sum  `a + b`
      takes `true`, `false`, `keep`
      by default `true` in javascript, typescript, tsx, python, java, csharp, lua, gdscript, ruby,
      powershell, rust

        true                  false               keep
        let a = h * 2 + 1;    let a = h * 2+1;    let a = h * 2 + 1;

    operator_gap.shift  `a << b`, and what joins bits or types: `a | b`
      takes `true`, `false`, `keep`
      by default `true` in javascript, typescript, tsx, python, java, csharp, lua, gdscript, ruby, rust

        true                    false                 keep
        let a = EBB | FLOOD;    let a = EBB|FLOOD;    let a = EBB | FLOOD;

    operator_gap.range  `a..b`
      takes `true`, `false`, `keep`
      by default `false` in csharp, ruby, rust

        true                    false                 keep
        let a = low .. high;    let a = low..high;    let a = low..high;

    operator_gap.compare  `a < b`
      takes `true`, `false`, `keep`
      by default `true` in javascript, typescript, tsx, python, java, csharp, lua, gdscript, ruby, rust

        true                     false                  keep
        let a = h < 2 && ebb;    let a = h<2 && ebb;    let a = h < 2 && ebb;

    operator_gap.logic  `a && b`, `a ? b : c`
      takes `true`, `false`, `keep`
      by default `true` in javascript, typescript, tsx, java, csharp, ruby, rust

        true                     false                  keep
        let a = h < 2 && ebb;    let a = h < 2&&ebb;    let a = h < 2 && ebb;

    operator_gap.assign  `a = b`
      takes `true`, `false`, `keep`
      by default `true` in javascript, typescript, tsx, python, java, csharp, lua, gdscript, ruby,
      powershell, rust, toml

        true          false       keep
        let a = h;    let a=h;    let a = h;
        let b = h;    let b=h;    let b =h;

    operator_gap.default  a parameter's default value, an argument's name
      takes `true`, `false`, `keep`
      by default `true` in javascript, typescript, tsx, java, csharp, gdscript, ruby; `false` in python;
      `keep` in powershell

        true                     false                  keep
        def ebb(a = 1):          def ebb(a=1):          def ebb(a=1):
            return low(b = a)        return low(b=a)        return low(b=a)

    what would it cost here?
      kanonix settle --price style.javascript.operator_gap.power=false
    ");
    insta::assert_snapshot!(repo.kanonix(&["explain", "wrap_indent.chain"]).out, @"
    wrap_indent
      How many steps a line is further in that goes on with what the line before began.

    wrap_indent.chain  calls and operators one after another
      takes a number from 1 to 4
      by default `1` in javascript, typescript, tsx, python, csharp, lua, ruby, powershell, rust; `2` in
      java, gdscript

        1                 2
        gauges            gauges
          .filter(low)        .filter(low)
          .map(level)         .map(level)
          .sort();            .sort();

    what would it cost here?
      kanonix settle --price style.javascript.wrap_indent.chain=2
    ");
    let json = repo.kanonix(&["explain", "quotes", "--report", "json"]).out;
    let report: serde_json::Value = serde_json::from_str(&json).unwrap();
    assert_eq!(report["keys"][0]["sample"]["values"][1]["value"], "single");
}

#[test]
fn what_cannot_be_explained_is_said() {
    let repo = Repo::with(&[("gauges/a.py", PYTHON)]);
    let said: Vec<String> = ["qoutes", "gauges", "gauges/b.py"]
        .map(|what| repo.kanonix(&["explain", what]))
        .iter()
        .map(|said| format!("{}status {}", said.err, said.status))
        .collect();
    insta::assert_snapshot!(said.join("\n"), @"
    kanonix: there is neither a file nor a word of the canon `qoutes`; did you mean `quotes`? All words are listed by: kanonix explain
    status 2
    kanonix: gauges is a folder: explain takes one file, or a word of the canon; `kanonix check --whole gauges` says what is in it
    status 2
    kanonix: there is neither a file nor a word of the canon `gauges/b.py`. All words are listed by: kanonix explain
    status 2
    ");
}

/// Every wrong canon is one message, with its place and a way on.
#[test]
fn every_wrong_canon_is_shown_in_its_place() {
    let repo = Repo::with(&[("a.py", "a = 1\n"), ("b.tide", "b")]);
    let wrong = [
        "[stlye]\nquotes = \"double\"\n",
        "[style]\nqoutes = \"double\"\n",
        "[style]\nquotes = \"dubble\"\n",
        "[style]\nindent_size = true\n",
        "[style]\nopen_brace = { lambada = \"next_line\" }\n",
        "[style.pyhton]\nquotes = \"double\"\n",
        "[style.python]\nopen_brace = \"next_line\"\n",
        "[style.python]\nparen_gap = { control = true }\n",
        "[files]\nskip = [\"a[\"]\n",
        "[files]\nskip = \"a\"\n",
        "[files]\nlanguage = { \"*.tide\" = \"jsn\" }\n",
        "[files]\nlanguage = { \"*.tide\" = \"json\", \"b.*\" = \"python\" }\n",
        "basis = \"almann\"\n",
        "editorconfig = \"no\"\n",
        "[[part]]\nreach = \"off\"\n",
        "[[part]]\npaths = [\"old\"]\nraech = \"off\"\n",
        "part = 1\n",
        "[team]\nat = \"v1\"\n",
        "[team]\nfollow = 1\n",
        "[team]\nfollow = \"../style\"\n",
        "edition = 2\n",
        "needs = \">=99.1\"\n",
    ];
    let mut all = String::new();
    for text in wrong {
        repo.write("kanonix.toml", text);
        let said = repo.kanonix(&["check", "--whole"]);
        assert_eq!((said.status, said.out.as_str()), (2, ""), "{text}: {said:?}");
        all.push_str(&said.err.replace(&format!("{}/", repo.root().display()), ""));
        all.push('\n');
    }
    insta::assert_snapshot!(all, @r#"
    kanonix: kanonix.toml:1:2: there is no table or key `stlye`; did you mean `style`?
      1 | [stlye]
        |  ^^^^^

    kanonix: kanonix.toml:2:1: there is no setting or language `qoutes`; did you mean `quotes`?
      2 | qoutes = "double"
        | ^^^^^^

    kanonix: kanonix.toml:2:10: `quotes` cannot be `dubble`: it takes `double`, `single`, `keep`; did you mean `double`?
      2 | quotes = "dubble"
        |          ^^^^^^^^

    kanonix: kanonix.toml:2:15: `indent_size` cannot be `true`: it takes a number from 1 to 16, or `tab`
      2 | indent_size = true
        |               ^^^^

    kanonix: kanonix.toml:2:16: `open_brace` has no key `lambada`; did you mean `lambda`?
      2 | open_brace = { lambada = "next_line" }
        |                ^^^^^^^

    kanonix: kanonix.toml:1:8: there is no setting or language `pyhton`; did you mean `python`?
      1 | [style.pyhton]
        |        ^^^^^^

    kanonix: kanonix.toml:2:1: `open_brace` means nothing in python
      2 | open_brace = "next_line"
        | ^^^^^^^^^^

    kanonix: kanonix.toml:2:15: `paren_gap.control` means nothing in python
      2 | paren_gap = { control = true }
        |               ^^^^^^^

    kanonix: kanonix.toml:2:9: `a[` is no pattern: unclosed character class; missing ']'
      2 | skip = ["a["]
        |         ^^^^

    kanonix: kanonix.toml:2:8: `skip` takes a list of patterns
      2 | skip = "a"
        |        ^^^

    kanonix: kanonix.toml:2:25: there is no language `jsn`; did you mean `json`?
      2 | language = { "*.tide" = "jsn" }
        |                         ^^^^^

    kanonix: kanonix.toml:2: b.tide is in two languages: `b.*` says python here, and `*.tide` says json at kanonix.toml:2. Make one of the patterns narrower

    kanonix: kanonix.toml:1:9: `basis` cannot be `almann`: it takes `kernighan_ritchie`, `one_true_brace`, `allman`, `stroustrup`, `gnu`; did you mean `allman`?
      1 | basis = "almann"
        |         ^^^^^^^^

    kanonix: kanonix.toml:1:16: `editorconfig` cannot be `no`: it takes `true`, `false`
      1 | editorconfig = "no"
        |                ^^^^

    kanonix: kanonix.toml:1:1: a `[[part]]` wants `paths`: a list of patterns for its files
      1 | [[part]]
        | ^^^^^^^^

    kanonix: kanonix.toml:3:1: there is no key of `[[part]]` `raech`; did you mean `reach`?
      3 | raech = "off"
        | ^^^^^

    kanonix: kanonix.toml:1:8: a part of the tree is a table of its own: `[[part]]`
      1 | part = 1
        |        ^

    kanonix: kanonix.toml:1:2: `[team]` wants `follow`: whose canon this one goes on from
      1 | [team]
        |  ^^^^

    kanonix: kanonix.toml:2:10: `follow` takes the folder or the address of a git repository
      2 | follow = 1
        |          ^

    kanonix: kanonix.toml:2:10: there is no copy of the canon of ../style yet: run kanonix settle --follow
      2 | follow = "../style"
        |          ^^^^^^^^^^

    kanonix: kanonix.toml:1:11: this canon is of edition 2, and this program knows edition 1: a newer Kanonix is needed
      1 | edition = 2
        |           ^

    kanonix: kanonix.toml:1:9: this canon needs Kanonix >=99.1, and this is 0.1.0
      1 | needs = ">=99.1"
        |         ^^^^^^^^
    "#);
    repo.git(&["add", "--all"]);
    assert_eq!(repo.kanonix(&["gate", "commit"]).status, 2);
}

/// What an agreement is written in is not what it is about, unless it says so itself.
#[test]
fn the_canon_is_not_judged_unless_it_names_itself() {
    let repo = Repo::plain();
    repo.write("kanonix.toml", "[style]\nquotes='double'\n");
    repo.write("gauges.toml",  "level=1\n");
    let found = repo.kanonix(&["check", "--whole"]).out;
    assert!(found.contains("gauges.toml:1:6") && !found.contains("kanonix.toml"), "{found}");
    let told = repo.kanonix(&["explain", "kanonix.toml"]).out;
    assert!(told.contains("a canon is not judged by itself"), "{told}");
    repo.write(
        "kanonix.toml",
        "[files]\nlanguage = { \"kanonix.toml\" = \"toml\" }\n[style]\nquotes='double'\n",
    );
    let found = repo.kanonix(&["check", "--whole"]).out;
    assert!(found.contains("kanonix.toml:4:8: quotes: use double quotes"), "{found}");
}

/// A value for all languages is none for those that have their own.
#[test]
fn a_price_says_which_languages_keep_their_own_value() {
    let canon = "edition = 1\n[style.python]\nmax_line_length = 100\n";
    let repo = Repo::with(&[("kanonix.toml", canon), ("a.py", "a = 1\n")]);
    let own = "python keeps its own `max_line_length`; of one language: ";
    let priced = repo.kanonix(&["settle", "--price", "max_line_length=80"]);
    assert!(priced.err.contains(&format!("{own}--price python.max_line_length=80")), "{priced:?}");
    let set = repo.kanonix(&["settle", "--set", "max_line_length=80"]);
    assert!(set.err.contains(&format!("{own}--set python.max_line_length=80")), "{set:?}");
    for asked in ["python.max_line_length=80", "quotes=double"] {
        let priced = repo.kanonix(&["settle", "--price", asked]);
        assert!(!priced.err.contains("own `"), "{priced:?}");
    }
}
