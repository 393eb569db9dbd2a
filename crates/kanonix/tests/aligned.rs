//! Touched lines beside code that somebody lined up by hand.

use crate::support::{Repo, edited};

/// The canon of a team that lines things up.
const LINED_UP: &str = "edition = 1\n[style]\nindent_size = 4\nwrap_align = \"keep\"\n\
                        close_bracket = \"keep\"\ncolumns = \"keep\"\nternary_place = \"keep\"\n";

/// What becomes of a file once some of it is another text, the rest of it untouched.
fn mended(canon: &str, name: &str, old: &str, from: &str, to: &str) -> String {
    edited(&[("kanonix.toml", canon), (name, old)], name, from, to)
}

/// A file in which only what was edited becomes something else: `wanted`.
fn alone(name: &str, old: &str, from: &str, to: &str, wanted: &str) {
    assert_eq!(mended(LINED_UP, name, old, from, to), old.replacen(from, wanted, 1), "{to}");
}

#[test]
fn arguments_under_the_first_one() {
    let old = "draw(quay,\n     mole,\n     lock)\n";
    alone("a.py", old, "mole,", "mole+1,", "mole + 1,");
    alone("a.py", old, "     mole,", "  mole,", "     mole,");
    alone("a.py", old, "     lock)", "     weir,\n  lock)", "     weir,\n     lock)");
    alone("a.py", old, "draw(quay,", "draw( quay,", "draw(quay,");
    alone("a.js", &old.replace(")\n", ");\n"), "     mole,", " mole,", "     mole,");
}

#[test]
fn parameters_under_the_first_one() {
    let old = "def ebb(low, high,\n        unit):\n    return low\n";
    alone("a.py", old, "        unit):", "        unit = 1):", "        unit=1):");
    let old = "function ebb(low, high,\n             unit) {\n    return low;\n}\n";
    alone(
        "a.js",
        old,
        "             unit)",
        "             unit , late)",
        "             unit, late)",
    );
}

#[test]
fn rows_of_a_collection() {
    let old = "rows = [1, 2, 3,\n        4, 5, 6,\n        7]\n";
    alone("a.py", old, "4, 5, 6,", "4,5,66,", "4, 5, 66,");
    alone("a.py", old, "        7]", "    7,8]", "        7, 8]");
    let old = "const rows = {a: 1, b: 2,\n              c: 3};\n";
    let wanted = "const rows = {a: 1, b: 2,\n              c: 4 };\n";
    assert_eq!(mended(LINED_UP, "a.js", old, "c: 3", "c:4"), wanted);
}

#[test]
fn a_closing_bracket_behind_the_last_element_or_under_it() {
    let old = "draw(\n    quay,\n    mole)\n";
    alone("a.py", old, "    mole)", "    mole , 1)", "    mole, 1)");
    let old = "draw(\n    quay,\n    mole\n    )\n";
    alone("a.py", old, "    mole\n    )", "    mole+1\n    )", "    mole + 1\n    )");
}

#[test]
fn operators_under_the_first_operand() {
    let old = "late = (ebb\n        + flood\n        + slack)\n";
    alone("a.py", old, "+ flood", "+flood*2", "+ flood * 2");
    let old = "if (low\n    && high) {\n    warn();\n}\n";
    let wanted = "if (low &&\n    higher) {\n    warn();\n}\n";
    assert_eq!(mended(LINED_UP, "a.js", old, "&& high)", "&&higher)"), wanted);
}

#[test]
fn signs_and_values_in_one_column() {
    let old = "quay  = 1\nmole  = 2\ntower = 3\nlock  = 4\n";
    alone("a.py", old, "mole  = 2", "mole = 22", "mole  = 22");
    alone("a.py", old, "tower = 3", "tower=33", "tower = 33");
    // What is too long for the column has the usual blank.
    alone("a.py", old, "mole  = 2", "lighthouse=2", "lighthouse = 2");
    let old = "NAMES = {\n    'm2':    1,\n    's2':    2,\n    'surge': 3,\n}\n";
    alone("a.py", old, "'s2':    2,", "'k1': 2,", "'k1':    2,");
    let old = "{\n  \"m2\":    1,\n  \"s2\":    2,\n  \"surge\": 3\n}\n";
    alone("a.json", old, "\"s2\":    2,", "\"s2\":22,", "\"s2\":    22,");
}

#[test]
fn cells_of_a_table() {
    let old = "rows = [\n    [ 1,  20],\n    [10,   2],\n    [ 5, 200],\n]\n";
    alone("a.py", old, "[10,   2],", "[11,3],", "[11,   3],");
    alone("a.py", old, "[ 5, 200],", "[ 5,201],", "[ 5, 201],");
}

#[test]
fn comments_at_the_ends_of_lines() {
    let old = "quay = 1      # north\nmole = 22     # head\nlock = 3      # inner\n";
    alone("a.py", old, "mole = 22     # head", "mole=222 # head", "mole = 222    # head");
    // A lone one has the usual gap.
    let old = "quay = 1      # north\nmole = 2\n";
    alone("a.py", old, "quay = 1      # north", "quay = 2      # north", "quay = 2  # north");
    let old = "quay = 1  # north\n          # and south\nmole = 2\n";
    alone("a.py", old, "# and south", "#and south", "# and south");
}

#[test]
fn a_conditional_as_a_table() {
    let old =
        "const tide = phase > 0 ? 'rising' :\n             phase < 0 ? 'falling' :\n             \
               'slack';\n";
    alone(
        "a.js",
        old,
        "phase < 0 ? 'falling' :",
        "phase<1 ? 'falling' :",
        "phase < 1 ? 'falling' :",
    );
}

#[test]
fn a_block_keeps_its_step_behind_a_header_that_is_old() {
    let old = "def ebb():\n  return 1\n\n\ndef flood():\n  return 2\n";
    alone("a.py", old, "  return 2", "  late=2\n  return late", "  late = 2\n  return late");
}

#[test]
fn lines_that_may_stand_anywhere_stand_where_most_of_them_do() {
    let canon = &LINED_UP.replace("wrap_align = \"keep\"", "wrap_align = \"any\"");
    let own = |name: &str, old: &str, from: &str, to: &str, wanted: &str| {
        assert_eq!(mended(canon, name, old, from, to), old.replacen(from, wanted, 1), "{to}");
    };
    let old = "NAMES = [\n        'quay',\n        'mole',\n        'lock',\n]\n";
    own("a.py", old, "        'mole',", "    'mole' ,", "        'mole',");
    own(
        "a.py",
        old,
        "        'quay',",
        "  'weir',\n        'quay',",
        "        'weir',\n        'quay',",
    );
    // What is moved with the line that it begins on goes along.
    let old = "if low:\n    draw(\n       quay,\n       mole)\n";
    let moved = "draw(\n   quay,\n   mole)\n";
    assert_eq!(mended(canon, "a.py", old, old, moved), moved);
    let old = "let low = 1,\n  high = 2,\n  slack = 3;\n";
    own("a.ts", old, "  high = 2,", "      high=2,", "  high = 2,");
    let old = "fn ebb() {\n    draw(\n      quay,\n      mole,\n    );\n}\n";
    own("a.rs", old, "      mole,", "    mole ,", "      mole,");
    let old = "draw(quay,\n     mole,\n     lock);\n";
    own("a.ts", old, "     mole", "  mole", "     mole");
}

#[test]
fn what_is_not_touched_stays_beside_it() {
    let old = "draw(quay ,\n     mole ,\n     lock )\nrows  = [1,2]\nlate  = 3\nebb   = 4\n";
    alone("a.py", old, "mole ,", "mole , 1,", "mole, 1,");
    alone("a.py", old, "late  = 3", "late = 33", "late  = 33");
}

#[test]
fn a_minified_file_is_left_alone_and_said() {
    let code = "function a(b){return b}".repeat(80);
    let repo = Repo::with(&[("kanonix.toml", LINED_UP), ("a.js", &code)]);
    repo.edit("a.js", "return b", "return c");
    let said = repo.kanonix(&["mend"]);
    assert_eq!((said.status, repo.read("a.js").len()), (0, code.len()), "{}", said.err);
    assert!(said.out.contains("minified") || said.err.contains("minified"), "{}", said.out);
    repo.write("kanonix.toml", LINED_UP.to_string() + "[files]\nminified = \"format\"\n");
    repo.mend(&[]);
    assert!(repo.read("a.js").lines().count() > 80);
}
