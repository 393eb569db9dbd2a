//! What one parser takes for the same program and another one does not.

use super::Ground;

/// Mends a text whole; it must be the same to a second mend.
fn mended(path: &str, canon: &str, text: &str) -> String {
    let ground = Ground::with(&[]);
    ground.repo.write("kanonix.toml", canon);
    ground.repo.write(path, text);
    let said = ground.kanonix(&["mend", "--whole", path]);
    assert!(said.status == 0, "{text:?}: {said:?}");
    let once = ground.repo.read(path);
    ground.kanonix(&["mend", "--whole", path]);
    assert_eq!(ground.repo.read(path), once);
    once
}

const PLAIN: &str = "edition = 1\n";

/// A line inside brackets that stands further left than its block, broken behind or before each of
/// these.
#[test]
fn a_line_inside_brackets_ends_no_block() {
    for inside in [
        "a and\nb", "a or\nb", "a +\nb", "a.\nb", "a\n.b", "a for\na in b", "a for a\nin b",
        "a for a in\nb", "a if\nb else c", "a if b\nelse c", "a if b else\nc", "lambda\n: a",
        "lambda:\na", "a=\nb", "a, # note\nb", "a,\n# note\nb", "a,\n\"\"\"\n b\n\"\"\"", "a[\nb]",
        "a[b\n]", "*\na", "**\na", "not\na", "await\na", "a:=\nb", "a\n,b", "a,\n\n\nb", "a\n",
    ] {
        let text = format!("def f(self):\n    x = g({inside})\n    y=1\nclass C:\n    path=None\n    def h(self): pass\n");
        let out = mended("a.py", PLAIN, &text);
        assert!(out.contains("\n    y = 1\n"), "{inside:?}: {out}");
        assert!(out.contains("\nclass C:\n    path = None\n"), "{inside:?}: {out}");
        assert!(out.contains("\n    def h(self):\n        pass\n"), "{inside:?}: {out}");
    }
    let text = "if a:\n    from m import (\nb)\n    c=1\nclass C:\n    path=None\n";
    assert_eq!(
        mended("a.py", PLAIN, text),
        "if a:\n    from m import (\n        b)\n    c = 1\n\n\nclass C:\n    path = None\n"
    );
}

#[test]
fn the_same_where_one_line_is_touched() {
    let old = "class B:\n    def f(self):\n        return g(a and\nb)\nclass C:\n    path=None\n";
    let ground = Ground::with(&[("a.py", old)]);
    ground.repo.edit("a.py", "path=None", "path=1");
    assert_eq!(ground.kanonix(&["mend"]).status, 0);
    assert_eq!(ground.repo.read("a.py"), old.replace("path=None", "path = 1"));
    ground.repo.edit("a.py", "g(a and", "g(c and");
    assert_eq!(ground.kanonix(&["mend"]).status, 0);
    let out = ground.repo.read("a.py");
    assert!(out.contains("        return g(c\n            and b)\n"), "{out}");
    assert!(out.contains("\nclass C:\n    path = 1\n"), "{out}");
}

/// Python's own reader, where there is one.
fn parses(text: &str) -> bool {
    let program = "import ast, sys; ast.parse(sys.argv[1])";
    let command = std::process::Command::new("python3").args(["-c", program, text]).output();
    command.map_or(true, |output| output.status.success())
}

#[test]
fn a_body_with_a_fault_stays_where_it_stands() {
    for (body, fault, repaired) in [
        ("x = = 1\n  y=2\n", "x = = 1", "x = 1"),
        ("y=2\n  x = = 1\n  z=3\n", "x = = 1", "x = 1"),
        ("x = (\n  y=2\n", "x = (\n", "x = 0\n"),
        ("if a\n    z=1\n  y=2\n", "if a\n", "if a:\n"),
        ("class\n  y=2\n", "class\n", "pass\n"),
        ("x = 'ebb\n  y=2\n", "'ebb\n", "'ebb'\n"),
    ] {
        let text = format!("a=1\ndef f():\n  {body}b=2\n");
        let ground = Ground::with(&[]);
        ground.repo.write("a.py", &text);
        ground.kanonix(&["mend", "--whole", "a.py"]);
        let out = ground.repo.read("a.py");
        assert!(out.contains(fault), "{text}\n{out}");
        let inside = out.lines().filter(|line| line.contains("y"));
        inside.for_each(|line| assert!(line.starts_with("  y"), "{text}\n{out}"));
        let repaired = out.replace(fault, repaired);
        assert!(parses(&repaired), "{repaired}");
    }
}

#[test]
fn blanks_of_a_line_that_goes_do_not_begin_the_next_one() {
    let canon = "[style]\ntrim_trailing_whitespace = false\n";
    assert_eq!(mended("a.py", canon, "   \nimport json\n"), "import json\n");
}

/// Where a line ends behind such a word, the statement ends, although a grammar may read on.
#[test]
fn what_ends_with_its_line_is_not_joined() {
    for word in ["return", "throw", "break", "continue"] {
        let text = format!("for (;;) {{\n    call(function () {{\n    {word}\n    (a)\n}})\n}}\n");
        let ground = Ground::with(&[]);
        ground.repo.write("a.js", &text);
        ground.kanonix(&["mend", "--whole", "a.js"]);
        let out = ground.repo.read("a.js");
        assert!(out.lines().any(|line| line.trim_end().ends_with(word)), "{out}");
    }
}

#[test]
fn back_quotes_are_no_string() {
    let text = "a = `b`\nc='d'\n";
    let ground = Ground::with(&[]);
    ground.repo.write("a.py", text);
    ground.kanonix(&["mend", "--whole", "a.py"]);
    assert!(ground.repo.read("a.py").starts_with("a = `b`\n"));
    assert!(ground.kanonix(&["check", "--whole", "a.py"]).err.contains("does not parse"));
}

#[test]
fn no_comma_is_put_where_the_language_forbids_one() {
    let canon = "[style]\nlast_comma = \"open_list\"\nmax_line_length = 40\n";
    for text in [
        "function flood(level: number, ...rest: number[]): void {}\n",
        "type Flood = (level: number, ...rest: number[]) => void;\n",
        "class Gauge { flood(level: number, ...rest: number[]) {} }\n",
        "interface Gauge { new (level: number, ...rest: number[]): Gauge }\n",
        "declare function flood(level: number, ...rest: number[]): void;\n",
        "abstract class Gauge { abstract flood(level: number, ...rest: number[]): void }\n",
        "const flood = (level: number, ...rest: number[]) => level;\n",
        "class Gauge { set aVeryLongNameOfALevelThatIs(theValueThatIsSet: number) {} }\n",
        "const { level, other, ...remainingOnes } = readings;\n",
        "type Flood = [level: number, ...remainingOnes: number[]];\n",
    ] {
        let out = mended("a.ts", canon, text);
        assert!(out.lines().count() > 2, "nothing was opened: {out}");
        let behind_rest = out.lines().find(
            |line| line.contains("...") || line.contains("theValue"),
        );
        assert!(!behind_rest.unwrap().trim_end().ends_with(','), "{out}");
    }
    for text in [
        "function flood(aVeryLongLevel, ...allTheOthers) {}\n",
        "const { level, other, another, ...rest } = readings;\n",
        "class Gauge { set aVeryLongNameOfALevel(theValueThatIsSet) {} }\n",
    ] {
        let out = mended("a.js", canon, text);
        let behind_rest = out.lines().find(
            |line| line.contains("...") || line.contains("theValue"),
        );
        assert!(!behind_rest.unwrap().trim_end().ends_with(','), "{out}");
    }
}
