//! Lists that somebody laid out by hand: a touched element is mended, and nothing beside it.

use crate::support::edited;

/// The file after one edit and a mend.
fn mended(name: &str, old: &str, from: &str, to: &str) -> String {
    edited(&[(name, old)], name, from, to)
}

/// What is touched becomes this, and all else is as it was.
fn alone(name: &str, old: &str, from: &str, to: &str, wanted: &str) {
    assert_eq!(mended(name, old, from, to), old.replacen(from, wanted, 1));
}

#[test]
fn a_closing_bracket_behind_the_last_element_stays() {
    let old = "draw(a,\n     b,\n     c,\n     d)\n";
    alone("a.py", old, "b,", "b+1,", "b + 1,");
    let old = "rows = [\n  1,\n  2,\n  3]\n";
    alone("a.py", old, "  2,", "    2+0,", "  2 + 0,");
}

#[test]
fn one_of_sixty_lines_up_with_its_neighbours() {
    let rest: String = (0..60).map(|n| format!("          {n}*2,\n")).collect();
    let old = format!("levels = [-1,\n{rest}          60]\n");
    alone("a.py", &old, "          30*2,", "    30*3,", "          30 * 3,");
    // Where there is no neighbour but the first element, with that.
    alone("a.py", "draw(first,\n     x,\n)\n", "x,", "x+1,", "x + 1,");
}

#[test]
fn rows_that_are_not_touched_stay_as_they_are() {
    let old = "pairs = [\n    1,\n    2,3,\n    4,\n    5,6,\n]\n";
    alone("a.py", old, "4,", "4+4,", "4 + 4,");
    alone("a.py", old, "    2,3,", "    2,7,", "    2, 7,");
    alone("a.json", "[\n  1,\n  2,3,\n  4,\n  5\n]\n", "  2,3,", "  2,7,", "  2,\n  7,");
}

#[test]
fn a_row_of_names_is_touched_alone() {
    let old = "import { ebb,flood,\n    slack,neap,\n    spring } from './tides'\n";
    alone("a.js", old, "slack,neap,", "slack,  neap,", "slack, neap,");
    let old = "use tides::{\n    ebb,flood,\n    neap,slack,\n    spring,\n};\n";
    alone("a.rs", old, "    neap,slack,", "    neap,slack,turn,", "    neap, slack, turn,");
    let old = "format!(\n    \"{} {}\",\n    ebb,flood,\n    neap,slack,\n);\n";
    let old = format!("fn a() {{\n{old}}}\n");
    alone("a.rs", &old, "    ebb,flood,", "    ebb,  flood,", "    ebb, flood,");
}

#[test]
fn one_of_several_alternatives_is_touched_alone() {
    let old =
        "fn a(b: u8) {\n    match b {\n        1\n          | 2\n          | 3\n          | 4 \
               => c(),\n        _ => d(),\n    }\n}\n";
    alone("a.rs", old, "| 2", "|  20", "| 20");
    let old = "type Tide = Pick<\n  Gauge,\n  | 'ebb'\n  | 'flood'\n  | 'slack'\n>\n";
    let text = mended("a.ts", old, "| 'flood'", "|   'neap'");
    assert_eq!(text, old.replace("| 'flood'", "| \"neap\""));
}

#[test]
fn a_touched_bracket_brings_the_list_to_the_canon() {
    let old = "draw(a,\n     b,\n     c)\nb=1\n";
    assert_eq!(mended("a.js", old, "draw(a,", "draw(a+1,"), "draw(a + 1, b, c)\nb=1\n");
    assert_eq!(mended("a.js", old, "c)", "c+1)"), "draw(a, b, c + 1)\nb=1\n");
    // Where a guide has it either way, it stays lined up.
    let lined_up = "draw(a + 1,\n     b,\n     c)\nb=1\n";
    assert_eq!(mended("a.py", old, "draw(a,", "draw(a+1,"), lined_up);
    // But only as far as nothing else is in the way.
    let old = "listen(a,\n       b,function() {\n  go( 1 )\n})\n";
    let text = mended("a.js", old, "listen(a,", "listen( a,");
    assert_eq!(text, "listen(a, b, function() {\n  go( 1 )\n})\n");
}

#[test]
fn what_is_touched_and_wraps_takes_nothing_along() {
    let name = "a_gauge_far_out_in_the_estuary_of_the_river";
    let old = "draw(a,\n     b,\n     c,\n     d)\n";
    let long = format!("read({name}, {name}, {name}),");
    let wanted = format!("read(\n         {name},\n         {name},\n         {name}\n     ),");
    alone("a.py", old, "b,", &long, &wanted);
}
