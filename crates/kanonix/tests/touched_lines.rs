//! What must happen to touched lines, case by case, with the built program and a real git.
//!
//! "Old" lines are committed, "touched" ones are not. The canon says 4 blanks, double quotes and
//! one blank around operators, unless a case says otherwise.

use crate::support::Repo;

#[test]
fn one_line_in_old_code_keeps_its_neighbours_indentation() {
    let old = "def ebb(a,b):\n  low='ebb'\n  total = a\n  return total,low\n";
    let repo = Repo::with(&[("ebb.py", old)]);
    repo.edit("ebb.py", "  total = a\n", "  total=a+b\n");
    repo.mend(&[]);
    let expected = "def ebb(a,b):\n  low='ebb'\n  total = a + b\n  return total,low\n";
    assert_eq!(repo.read("ebb.py"), expected);
}

#[test]
fn a_new_function_in_an_old_file_follows_the_canon() {
    let repo = Repo::with(&[(
        "tide.py",
        "def ebb(a):\n  return a*2\ndef flood(a):\n  return a*3\n",
    )]);
    repo.edit(
        "tide.py",
        "def flood",
        "def slack(a,b):\n  if a:\n     return 'x'\n  return b\ndef flood",
    );
    repo.mend(&[]);
    insta::assert_snapshot!(repo.read("tide.py"), @r#"
    def ebb(a):
      return a*2


    def slack(a, b):
      if a:
        return "x"
      return b


    def flood(a):
      return a*3
    "#);
}

#[test]
fn one_argument_of_an_open_call_is_mended_alone() {
    let old = "draw(\n  'quay',\n  level*2,\n  colour='red',\n  wide=1+1,\n)\n";
    let repo = Repo::with(&[("a.py", old)]);
    repo.edit("a.py", "  colour='red',\n", "  colour = 'blue',\n");
    let said = repo.mend(&[]);
    let expected = "draw(\n  'quay',\n  level*2,\n  colour=\"blue\",\n  wide=1+1,\n)\n";
    assert_eq!(repo.read("a.py"), expected);
    assert!(said.out.contains("1 line in 1 file mended"), "{}", said.out);
}

#[test]
fn a_call_that_no_longer_fits_is_laid_out_anew() {
    let old = "a=1\nwarn_the_keepers(\"quay\", level, limit, colour)\nb=2\n";
    let repo = Repo::with(&[("a.py", old)]);
    repo.edit("a.py", "colour)", "colour, quiet=False, keepers=everybody_on_duty)");
    repo.mend(&[]);
    insta::assert_snapshot!(repo.read("a.py"), @r#"
    a=1
    warn_the_keepers(
        "quay",
        level,
        limit,
        colour,
        quiet=False,
        keepers=everybody_on_duty
    )
    b=2
    "#);
}

#[test]
fn a_changed_header_leaves_its_body_alone() {
    let body: String = (0..100).map(|n| format!("  f( {n} )\n")).collect();
    let repo = Repo::with(&[("a.js", &format!("if(a){{\n{body}}}\n"))]);
    repo.edit("a.js", "if(a){", "if(a&&b){");
    repo.mend(&[]);
    assert_eq!(repo.read("a.js"), format!("if (a && b) {{\n{body}}}\n"));
}

#[test]
fn a_deleted_line_leaves_the_blank_lines_that_the_canon_wants() {
    let old = "def ebb():\n    pass\n\n\ndepth = 1\n\n\ndef flood():\n    pass\n";
    let repo = Repo::with(&[("a.py", old)]);
    repo.edit("a.py", "depth = 1\n", "");
    repo.mend(&[]);
    assert_eq!(repo.read("a.py"), "def ebb():\n    pass\n\n\ndef flood():\n    pass\n");
}

#[test]
fn a_changed_comment_mends_its_unit_only() {
    let old = "a=1 # one\nb=2 # two\n";
    let repo = Repo::with(&[("a.py", old)]);
    repo.edit("a.py", "# one", "#uno");
    repo.mend(&[]);
    assert_eq!(repo.read("a.py"), "a = 1  # uno\nb=2 # two\n");
}

#[test]
fn a_broken_line_stays_and_another_one_is_mended() {
    let repo = Repo::with(&[("a.py", "a = 1\nb = 2\nc = 3\n\n\ndef ebb():\n    return 1\n")]);
    repo.edit("a.py", "a = 1", "a=10");
    repo.edit("a.py", "    return 1", "    return 1 1 +");
    let said = repo.kanonix(&["check"]);
    assert_eq!(said.status, 1);
    assert!(said.out.contains("a.py:7:5: fault: "), "{}", said.out);
    assert_eq!(repo.kanonix(&["mend"]).status, 0);
    let text = repo.read("a.py");
    assert!(text.starts_with("a = 10\n") && text.ends_with("    return 1 1 +\n"), "{text}");
    assert_eq!(repo.kanonix(&["check"]).status, 0);
}

#[test]
fn faults_stop_where_the_canon_says_so() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.edit("kanonix.toml", "edition = 1\n", "edition = 1\nreach.faults = \"stop\"\n");
    repo.write("a.py", "a = 1 +\n");
    assert_eq!(repo.kanonix(&["check"]).status, 3);
}

#[test]
fn a_touched_line_in_a_tabbed_block_keeps_its_tabs() {
    let old = "function f(a) {\n\tlet b=a;\n\treturn b;\n}\n";
    let repo = Repo::with(&[("a.js", old)]);
    repo.edit("a.js", "let b=a;", "let b=a+1;");
    repo.mend(&[]);
    assert_eq!(repo.read("a.js"), "function f(a) {\n\tlet b = a + 1;\n\treturn b;\n}\n");
}

#[test]
fn windows_line_ends_stay_on_touched_lines_and_go_from_whole_files() {
    let repo = Repo::with(&[("a.py", "a = 1\r\nb = 2\r\nc=3\r\n")]);
    repo.edit("kanonix.toml", "[style]\n", "[style]\nend_of_line = \"lf\"\n");
    repo.edit("a.py", "b = 2", "b=2; d=4");
    repo.mend(&["a.py"]);
    assert_eq!(repo.read("a.py"), "a = 1\r\nb = 2\r\nd = 4\r\nc=3\r\n");
    repo.mend(&["--whole", "a.py"]);
    assert_eq!(repo.read("a.py"), "a = 1\nb = 2\nd = 4\nc = 3\n");
}

#[test]
fn lines_that_came_along_with_a_rename_are_old() {
    let old = "a=1\nb=2\nc=3\nd=4\ne=5\nf=6\n";
    let repo = Repo::with(&[("ebb.py", old)]);
    repo.git(&["mv", "ebb.py", "flood.py"]);
    repo.edit("flood.py", "c=3", "c=30");
    let expected = "a=1\nb=2\nc = 30\nd=4\ne=5\nf=6\n";
    repo.mend(&["flood.py"]);
    assert_eq!(repo.read("flood.py"), expected);
    repo.write("flood.py", old.replace("c=3", "c=30"));
    repo.mend(&[]);
    assert_eq!(repo.read("flood.py"), expected);
}

#[test]
fn staged_lines_are_mended_in_the_index() {
    let repo = Repo::with(&[("a.py", "a = 1\nb = 2\nc = 3\nd = 4\ne = 5\n")]);
    repo.edit("a.py", "a = 1", "a=10");
    repo.git(&["add", "a.py"]);
    repo.edit("a.py", "e = 5", "e=50");
    repo.mend(&["--staged"]);
    assert_eq!(repo.git(&["show", ":a.py"]), "a = 10\nb = 2\nc = 3\nd = 4\ne = 5\n");
    assert_eq!(repo.read("a.py"), "a = 10\nb = 2\nc = 3\nd = 4\ne=50\n");
}

#[test]
fn a_wholly_staged_file_is_mended_in_both_places() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("a.py", "a=10\n");
    repo.git(&["add", "a.py"]);
    repo.mend(&["--staged"]);
    assert_eq!(repo.git(&["show", ":a.py"]), "a = 10\n");
    assert_eq!(repo.read("a.py"), "a = 10\n");
    assert_eq!(repo.git(&["status", "--short"]), "M  a.py\n");
}

#[test]
fn in_a_repository_without_a_commit_every_line_is_touched() {
    let repo = Repo::new();
    repo.write("a.py", "a=1\nb=2\n");
    repo.git(&["add", "a.py"]);
    assert_eq!(repo.kanonix(&["check", "--staged"]).status, 1);
    repo.mend(&[]);
    assert_eq!(repo.read("a.py"), "a = 1\nb = 2\n");
}

#[test]
fn the_inside_of_a_string_is_never_rewritten() {
    let old = "def ebb():\n    return f(\"\"\"\n  one   \n  two\n\"\"\",a)\n";
    let repo = Repo::with(&[("a.py", old)]);
    repo.edit("a.py", "  two\n", "  two  \n");
    repo.mend(&[]);
    let expected = "def ebb():\n    return f(\"\"\"\n  one   \n  two  \n\"\"\", a)\n";
    assert_eq!(repo.read("a.py"), expected);
}

#[test]
fn a_statement_over_several_lines_is_mended_whole() {
    let old = "level = (ebb+\n    flood+\n  slack)\nb=2\n";
    let repo = Repo::with(&[("a.py", old)]);
    repo.edit("a.py", "    flood+\n", "    flood-\n");
    repo.mend(&[]);
    assert_eq!(repo.read("a.py"), "level = (ebb\n    + flood\n    - slack)\nb=2\n");
}

#[test]
fn two_statements_on_a_touched_line_get_a_line_each() {
    let repo = Repo::with(&[("a.py", "c=0\n"), ("a.js", "c=0;\n")]);
    repo.write("a.py", "c=0\na=1; b=2\n");
    repo.write("a.js", "c=0;\na=1; b=2;\n");
    repo.mend(&[]);
    assert_eq!(repo.read("a.py"), "c=0\na = 1\nb = 2\n");
    assert_eq!(repo.read("a.js"), "c=0;\na = 1;\nb = 2;\n");
}

#[test]
fn a_touched_last_line_gets_its_line_break() {
    let repo = Repo::with(&[("a.py", "a=1\nb = 2\n")]);
    repo.write("a.py", "a=1\nb = 3");
    repo.mend(&[]);
    assert_eq!(repo.read("a.py"), "a=1\nb = 3\n");
}

#[cfg(unix)]
#[test]
fn what_is_no_file_of_ours_is_left_alone_and_counted() {
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    let elsewhere = Repo::plain();
    elsewhere.write("other.py", "x=1\n");
    std::os::unix::fs::symlink(elsewhere.path("other.py"), repo.path("link.py")).unwrap();
    repo.write("picture.py", b"a\0b");
    repo.write("latin.py", b"a = '\xe9'\n");
    repo.write("large.py", "a=1\n".repeat(1_100_000));
    repo.write("notes.txt", "a=1\n");
    repo.write("third_party/b.py", "b=1\n");
    let inner = repo.path("module");
    std::fs::create_dir(&inner).unwrap();
    repo.git(&["-C", "module", "init", "--quiet"]);
    repo.write("module/c.py", "c=1\n");
    let said = repo.kanonix(&["check", "--whole"]);
    assert_eq!((said.status, said.out.as_str()), (0, ""), "{said:?}");
    let counted = said.err.lines().find(|line| line.contains("left alone")).unwrap_or_default();
    insta::assert_snapshot!(counted, @"files left alone: 1 in no known language, 1 skipped by the canon, 1 too large, 1 binary, 1 not in UTF-8, 1 linking out of the repository, 1 in a submodule");
    assert_eq!(elsewhere.read("other.py"), "x=1\n");
    let named = repo.kanonix(&["mend", "link.py"]);
    assert_eq!(named.status, 0, "{named:?}");
    assert_eq!(elsewhere.read("other.py"), "x=1\n");
}

/// A file that somebody else saves after it was read and before it is written.
#[cfg(unix)]
#[test]
fn a_file_that_changes_meanwhile_is_left_alone() {
    use std::os::unix::fs::PermissionsExt;
    let repo = Repo::with(&[("a.py", "a = 1\n")]);
    repo.write("a.py", "a=2\n");
    // The base is read after the file itself: a git that takes its time stands in for the other
    // writer.
    let path = std::env::var("PATH").unwrap();
    let real = std::env::split_paths(&path).map(|folder| folder.join("git"));
    let real = real.into_iter().find(|git| git.exists()).unwrap();
    let slow = format!(
        "#!/bin/sh\ncase \"$*\" in *cat-file*) sleep 1; echo 'b=3' > '{}';; esac\nexec '{}' \"$@\"\n",
        repo.path("a.py").display(),
        real.display(),
    );
    repo.write("slow/git", slow);
    let executable = std::fs::Permissions::from_mode(0o755);
    std::fs::set_permissions(repo.path("slow/git"), executable).unwrap();
    let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
    let output = command
        .args(["mend", "a.py"])
        .env("PATH", format!("{}:{path}", repo.path("slow").display()))
        .output()
        .unwrap();
    let err = String::from_utf8_lossy(&output.stderr);
    assert_eq!(output.status.code(), Some(3), "{err}");
    assert!(err.contains("a.py: it changed on disk while it was read"), "{err}");
    assert_eq!(repo.read("a.py"), "b=3\n");
}

#[test]
fn a_call_keeps_its_form_around_a_callback_that_is_not_touched() {
    let old = "listen('quay',function( level ){\n\tlog( level )\n\treturn  1\n})\n";
    let repo = Repo::with(&[("a.js", old)]);
    repo.edit("a.js", "'quay'", "'mole',2");
    repo.mend(&[]);
    let expected = "listen(\"mole\", 2, function(level) {\n\tlog( level )\n\treturn  1\n})\n";
    assert_eq!(repo.read("a.js"), expected);
}

#[test]
fn one_line_of_a_callback_does_not_make_its_call_live() {
    let old = "listen( 'quay',function( level ){\n\tlog( level )\n\treturn  1\n} )\n";
    let repo = Repo::with(&[("a.js", old)]);
    repo.edit("a.js", "return  1", "return  level*2");
    repo.mend(&[]);
    assert_eq!(repo.read("a.js"), old.replace("return  1", "return level * 2"));
}

#[test]
fn wrapped_code_gets_its_indentation_and_nothing_else() {
    let old = "function ebb(a) {\n  const b = a+1\n  call(a,\n       b)\n  \
               for (c of a) {\n    d( c )\n  }\n}\n";
    let repo = Repo::with(&[("a.js", old)]);
    repo.edit("a.js",         "  const b", "  if(a) {\n  const b");
    repo.edit("a.js", "    d( c )\n  }\n", "    d( c )\n  }\n  }\n");
    repo.mend(&[]);
    insta::assert_snapshot!(repo.read("a.js"), @"
    function ebb(a) {
      if (a) {
        const b = a+1
        call(a,
             b)
        for (c of a) {
          d( c )
        }
      }
    }
    ");
    assert_eq!(repo.kanonix(&["check"]).status, 0);
}

#[test]
fn code_that_an_editor_reindented_with_its_new_block_keeps_its_other_slips() {
    let old = "def ebb(a):\n    b=a\n    return [ b ]\n";
    let repo = Repo::with(&[("a.py", old)]);
    repo.edit("a.py", "    b=a\n    return", "    if a :\n        b=a\n        return");
    repo.mend(&[]);
    let expected = "def ebb(a):\n    if a:\n        b=a\n        return [ b ]\n";
    assert_eq!(repo.read("a.py"), expected);
    assert_eq!(repo.kanonix(&["check"]).status, 0);
}

#[test]
fn code_whose_block_is_taken_away_moves_back() {
    let old = "if (a) {\n    b( 1 )\n    c( 2 )\n}\n";
    let repo = Repo::with(&[("a.js", old)]);
    repo.write("a.js", "    b( 1 )\n    c( 2 )\nd()\n");
    repo.mend(&[]);
    assert_eq!(repo.read("a.js"), "b( 1 )\nc( 2 )\nd()\n");
}

#[test]
fn a_pasted_line_ends_as_its_file_does() {
    for (own, pasted) in [("\r\n", "\n"), ("\n", "\r\n")] {
        let line = |text: &str, end: &str| format!("{text}{end}");
        let old = line("a = 1", own) + &line("b=2", own) + &line("c = 3", own);
        let repo = Repo::with(&[("a.py", &old)]);
        let new = |end: &str| line("d = 4", end) + &line("# note", end) + &line("e = [", end);
        let rest = |end: &str| line("    5,", end) + &line("]", end);
        let text = |end: &str| line("a = 1", own)
            + &new(end)
            + &rest(end)
            + &old[old.find('b').unwrap()..];
        repo.write("a.py", text(pasted));
        let slips = repo.kanonix(&["check"]).out;
        assert_eq!(slips.matches("end_of_line: end the line with").count(), 5, "{slips}");
        repo.mend(&[]);
        assert_eq!(repo.read("a.py"), text(own));
    }
    // An older line that ends otherwise is nobody's business.
    let repo = Repo::with(&[("a.py", "a = 1\nb = 2\r\nc = 3\nd = 4\n")]);
    repo.edit("a.py", "d = 4", "d=4");
    repo.mend(&[]);
    assert_eq!(repo.read("a.py"), "a = 1\nb = 2\r\nc = 3\nd = 4\n");
}

#[test]
fn a_file_turned_from_one_line_end_to_the_other_is_turned_back() {
    let (lf, crlf) = ("a = 1\nb=2\n# c\n", "a = 1\r\nb=2\r\n# c\r\n");
    for (agreed, own, other) in [("lf", lf, crlf), ("crlf", crlf, lf)] {
        let repo = Repo::with(&[("a.py", own)]);
        repo.write("kanonix.toml", format!("edition = 1\n[style]\nend_of_line = \"{agreed}\"\n"));
        repo.git(&["add", "kanonix.toml"]);
        repo.write("a.py", other);
        let slips = repo.kanonix(&["check"]);
        assert_eq!((slips.status, slips.out.matches("end_of_line").count()), (1, 3), "{slips:?}");
        repo.git(&["add", "a.py"]);
        assert_eq!(repo.kanonix(&["gate", "commit"]).status, 1);
        repo.mend(&["a.py"]);
        assert_eq!(repo.read("a.py"), own);
        // Nothing is agreed, or it was turned to what is.
        repo.write("kanonix.toml", "edition = 1\n[style]\nend_of_line = \"keep\"\n");
        repo.write("a.py", other);
        assert_eq!(repo.kanonix(&["check"]).status, 0);
        let to = if agreed == "lf" { "crlf" } else { "lf" };
        repo.write("kanonix.toml", format!("edition = 1\n[style]\nend_of_line = \"{to}\"\n"));
        assert_eq!(repo.kanonix(&["check", "a.py"]).status, 0);
    }
    // Git writes them so itself.
    for attribute in ["*.py text=auto\n", "*.py eol=crlf\n", ""] {
        let repo = Repo::with(&[("a.py", lf), ("kanonix.toml", "[style]\nend_of_line = \"lf\"\n")]);
        match attribute {
            "" => drop(repo.git(&["config", "core.autocrlf", "true"])),
            text => repo.write(".gitattributes", text),
        }
        repo.write("a.py", crlf);
        let said = repo.kanonix(&["check", "a.py"]);
        assert_eq!(said.status, 0, "{attribute}: {said:?}");
    }
}

#[test]
fn a_stretch_that_is_kept_is_not_mended_when_it_is_touched() {
    let repo = Repo::with(&[("a.js", "// kanonix: keep\ntable = [ 1,0,\n          0,1 ]\nb()\n")]);
    repo.edit("a.js", "1,0,", "1,2,");
    repo.edit("a.js", "b()", "b( )");
    repo.mend(&[]);
    let expected = "// kanonix: keep\ntable = [ 1,2,\n          0,1 ]\nb()\n";
    assert_eq!(repo.read("a.js"), expected);
}
