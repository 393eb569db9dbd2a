//! What neighbouring lines have lined up.

use crate::support::{becomes, lay_with, touched};
use kanonix_core::judge;
use kanonix_core::languages::{self, Language};
use kanonix_core::text::LineSet;

fn css() -> &'static Language {
    languages::by_name("css").expect("a known language")
}

#[test]
fn numbers_end_in_one_column_where_most_of_their_rows_do() {
    let rows =
        "const A: [u8; 9] = [\n      0,   0,   1,\n      0, 255,   0,\n    255,   0,  16,\n];\n";
    becomes("rust", &[
        (rows, rows),
        (
            "const A: [u8; 12] = [\n    0,1,8,\n    17, 24, 32,\n    12, 19, 26,\n    27, 20,  6,\n];\n",
            "const A: [u8; 12] = [\n     0,  1,  8,\n    17, 24, 32,\n    12, 19, 26,\n    27, 20,  6,\n];\n",
        ),
        (
            "const A: [u8; 6] = [\n    17, 24, 32,\n    1, 2, 3,\n];\n",
            "const A: [u8; 6] = [\n    17, 24, 32,\n    1, 2, 3,\n];\n",
        ),
    ]);
    let spoilt = rows.replace("      0, 255,   0", "  0,255, 0");
    assert_eq!(touched("rust", rows, &spoilt), rows);
    let table =
        "local rows = {\n  { \"ebb\",   300 },\n  { \"flood\",   1 },\n  { \"storm\", 175 },\n  { \"slack\",   2 },\n}\n";
    becomes("lua", &[(table, table)]);
    assert_eq!(touched("lua", table, &table.replace("\"flood\",   1", "\"flood\",1")), table);
}

/// A sign is a part of its number: the figures stay below each other.
#[test]
fn numbers_behind_signs_end_in_one_column() {
    let rows = [
        "{x =  0, y = -1, z =  1}",
        "{x =  1, y =  0, z =  0}",
        "{x = -1, y =  0, z = -1}",
        "{x =  0, y =  1, z =  1}",
    ];
    let lua = format!("local rules = {{\n  {},\n}}\n", rows.join(",\n  "));
    becomes("lua", &[(&lua, &lua)]);
    let spoilt = lua.replace("{x = -1, y =  0, z = -1}", "{x=-1,y=0,z=-1}");
    assert_eq!(touched("lua", &lua, &spoilt), lua);
    let pairs = "const tide = {\n  ebb:   -1,\n  flood:  0,\n  slack: -2,\n  storm:  1,\n};\n";
    let keep = [("columns", "value", "keep")];
    assert_eq!(lay_with("javascript", &keep, pairs), pairs);
}

/// Rows whose first numbers stand too far left take all of their numbers along.
#[test]
fn numbers_behind_one_that_moves_move_with_it() {
    let rows = [
        "[ 611,  196,   -8,  -52]",
        "[ 196,  899,  -71,  -43]",
        "[-192,  113,   61,   49]",
        "[ 407, -192,    8,   44]",
        "[  -8,  -71,  411, -599]",
    ];
    let python = format!("tides = [\n    {},\n]\n", rows.join(",\n    "));
    let spoilt = python.replace("[ 611", "[611").replace("[ 196", "[196");
    becomes("python", &[(&python, &python), (&spoilt, &python)]);
}

/// What is lined up between brackets goes where these go: all of them with it, or none.
#[test]
fn what_is_in_brackets_moves_with_them() {
    let rows = "gauges.add (\"mole\",  true);\ngauges.add (\"quay\",  true);\ngauges.add (\"weir1\", true);\n";
    becomes("csharp", &[(rows, &rows.replace(" (", "("))]);
    let levels = "\
ebb      = levels([ 1,  2], mask=[1, 0])
flood    = levels([10, 20], mask=[1, 0])
expected = levels([11, 22], mask=[1, 0])
";
    becomes("python", &[(levels, "\
ebb = levels([1, 2], mask=[1, 0])
flood = levels([10, 20], mask=[1, 0])
expected = levels([11, 22], mask=[1, 0])
")]);
}

/// A column goes with what stands before it where that becomes much shorter in all of its rows, and stays
/// where one of them stays, or hardly anything changes.
#[test]
fn a_column_is_drawn_in_with_what_stands_before_it() {
    let of = |rows: &[&str]| format!("class Gauge {{\n    {}\n}}\n", rows.join("\n    "));
    let spread = of(&[
        "private int          level    = 1;",
        "private String       name     = null;",
        "private boolean      isHigh   = true;",
    ]);
    let wanted = of(&[
        "private int level      = 1;",
        "private String name    = null;",
        "private boolean isHigh = true;",
    ]);
    becomes("java", &[(&spread, &wanted.replace(" =", "   ="))]);
    let one_stays = of(&["private int          level = 1;", "private String nameOfQuay  = null;"]);
    let wanted = of(&["private int level          = 1;", "private String nameOfQuay  = null;"]);
    becomes("java", &[(&one_stays, &wanted)]);
    let hardly = of(&["int [] level   = f(1);", "int [] highest = f(2);"]);
    becomes("java", &[(&hardly, &hardly.replace("int []", "int[]").replace(" =", "  ="))]);
}

/// Lists in unlike brackets have nothing in common.
#[test]
fn a_pair_in_a_list_is_lined_up_with_no_list_in_it() {
    let text = "\
table = masked(data=[([[1, 2], [3, 4]], 1)],
               mask=[([[False, True], [True, False]], False)],
               type=[('ebb', '<i4', (2, 2)), ('flood', float)])
";
    let spread = text.replace("data=", "data = ").replace("mask=", "mask = ");
    let spread = spread.replace("type=", "type = ").replace("(2, 2)", "(2,2)");
    becomes("python", &[(&spread, text)]);
}

#[test]
fn a_name_with_and_without_a_prefix_ends_in_one_column_where_most_of_its_rows_do() {
    let lined_up = "\
.gauge {
  -webkit-user-select: none;
     -moz-user-select: none;
      -ms-user-select: none;
          user-select: none;
  color: navy;
}
";
    let flat = ".gauge {\n  -webkit-hyphens: auto;\n  hyphens: auto;\n  -x-hyphens: auto;\n}\n";
    // Two names.
    let unlike = ".gauge {\n  -webkit-hyphens: auto;\n           width: 1em;\n}\n";
    for language in ["css", "scss", "less"] {
        becomes(language, &[
            (lined_up, lined_up),
            (flat, flat),
            (unlike, &unlike.replace("           width", "  width")),
        ]);
    }
    let style = [("columns", "prefix", "none")];
    let bare: String =
        lined_up.lines().map(|line| format!("{}\n", line.trim_start())).collect();
    let plain = bare.replace("\n-", "\n  -").replace("\nu", "\n  u").replace("\nc", "\n  c");
    assert_eq!(lay_with("css", &style, lined_up), plain);
    // With the block, in another step, and behind tabs.
    let wide = lined_up.replace("\n  ", "\n    ");
    assert_eq!(lay_with("css", &[], &wide), lined_up);
    let tabs = lined_up.replace("\n  ", "\n\t");
    assert_eq!(lay_with("css", &[("indent_style", "", "tab")], lined_up), tabs);
}

#[test]
fn a_line_in_play_joins_names_with_prefixes_that_are_lined_up() {
    let base = "\
.gauge {
  -webkit-user-select: none;
     -moz-user-select: none;
          user-select: none;
}
";
    let text = base.replace("          user", "      -ms-user-select: none;\n          user");
    for blanks in ["", "  ", "          "] {
        let typed = text.replace("      -ms", &format!("{blanks}-ms"));
        assert_eq!(touched("css", base, &typed), text);
    }
    let spoilt = base.replace("          user", "  user");
    assert_eq!(touched("css", base, &spoilt), base);
    let slips = judge(&spoilt, css(), &css().style(), &LineSet::of([3..4])).slips;
    let said: Vec<&str> = slips.iter().map(|slip| slip.message.as_str()).collect();
    assert_eq!(said, ["line the end of `user-select` up with the lines around it"]);
}

/// Blanks before comments set no numbers off.
#[test]
fn numbers_before_comments_begin_where_they_do() {
    let text = "\
const A: [u8; 5] = [
    20, // ebb
    0,  // flood
    46, // slack
    1,  // storm
    30, // quay
];
";
    assert_eq!(lay_with("rust", &[("columns", "", "keep")], text), text);
}

#[test]
fn the_ends_of_blocks_on_the_lines_of_their_headers_may_be_lined_up() {
    let style = [("columns", "", "keep"), ("flat_block", "", "keep")];
    for (language, text) in [
        ("lua", "keys = {\n  { \"k\", function(w) w:up()   end },\n  { \"j\", function(w) w:down() end },\n}\n"),
        ("ruby", "def low; x      end\ndef high; x + 2 end\n"),
        ("ruby", "low  = ebb.map { |x| x + 1   }\nhigh = ebb.map { |x| x + 100 }\n"),
        ("javascript", "if (a)  { low();  }\nif (bb) { high(); }\n"),
        ("javascript", "switch (a) {\n  case 1:   low(); break;\n  case 200: high(); break;\n}\n"),
    ] {
        assert_eq!(lay_with(language, &style, text), text);
    }
}

#[test]
fn a_line_that_is_mended_stays_lined_up_with_one_that_is_not() {
    let text = "warn(\"-u\", \"--quay Q\",   \"where\")\nwarn( \"-k\", \"--key KEY\",  \"who\")\n";
    becomes("ruby", &[(text, &text.replace("( ", "("))]);
}

#[test]
fn lines_that_are_mended_by_as_much_join_one_that_stays() {
    let text = "\
field(0.3, \"offset\", told(\"Offset\"), at[1])
field(3.6, \"scale\",  told(\"Scale\"),  at[2])
field(6.9, \"seed\",   told(\"Seed\"),   at[6])
field(9.1, \"step\",   told(\"Step\"),   at[9])
";
    let spoilt = text.replace("\"scale\"", "\"scale\"  ")
        .replace("6.9", "6.9  ")
        .replace("9.1", "9.1  ");
    becomes("lua", &[(text, text), (&spoilt, text)]);
    // Where no other stays, they stay where they are.
    let all = spoilt.replace("0.3", "0.3  ");
    becomes("lua", &[(&all, &text.replace(" told", "   told"))]);
}

#[test]
fn the_closing_brackets_of_rows_may_be_lined_up() {
    let text = "\
local tides = {
  { 1, \"ebb\"         },
  { 2, \"flood\"       },
  { 3, \"slack water\" },
}
";
    becomes("lua", &[(text, text)]);
    assert_eq!(touched("lua", text, &text.replace("\"ebb\"         }", "\"ebb\"}")), text);
    // As many blanks behind as many columns line nothing up.
    let chance = "local tides = {\n  {1, \"ebb\" },\n  {2, \"low\" },\n}\n";
    let style = [("inner_gap", "braces", "false")];
    assert_eq!(lay_with("lua", &style, chance), chance.replace(" }", "}"));
}

/// What stands in brackets before a sign moves it to no other place in its row.
#[test]
fn rows_line_up_what_is_alike_in_them() {
    let text = "\
class Tides
{
    public void Add(string item)                       {tides.Add(item);}
    public void Clear()                                {tides.Clear();}
    public bool Contains(string item)                  {return tides.Contains(item);}
    public void CopyTo(string[] tides, int firstIndex) {tides.CopyTo(tides, firstIndex);}
    public int Count                                   {get {return tides.Count;}}
}
";
    let style = [("inner_gap", "block", "false")];
    assert_eq!(lay_with("csharp", &style, text), text);
    // A word behind a statement is not lined up with the sign of another one.
    let unlike = "raise \"ebb\"     unless a\nb = a\nraise \"flood\"   unless b\n";
    becomes("ruby", &[(unlike, unlike)]);
}

#[test]
fn numbers_in_brackets_end_in_one_column() {
    let keys = "local tides = {\n  [ 1] = ebb,\n  [ 2] = low,\n  [12] = slack,\n}\n";
    becomes("lua", &[(keys, keys), ("a = t[ 1]\nb = t[12]\n", "a = t[1]\nb = t[12]\n")]);
    assert_eq!(touched("lua", keys, &keys.replace("[ 2]", "[2]")), keys);
    // Room for a sign is no blank that the closing bracket asks for.
    let signs = "\
class A
{
    V[] all = new V[]
    {
        new V(-1.0f, -1.0f,  1.0f, ebb),
        new V( 1.0f, -1.0f,  1.0f, ebb),
        new V( 1.0f,  1.0f,  1.0f, low),
    };
}
";
    assert_eq!(lay_with("csharp", &[("inner_gap", "parens", "keep")], signs), signs);
}

#[test]
fn a_comment_behind_what_is_mended_joins_one_that_stays() {
    let text = "local low = 1      -- metres\nlocal slack = 2    -- hours\n";
    for spoilt in ["low    = 1", "low=1", "low =  1"] {
        let spoilt = text.replace("low = 1", spoilt);
        assert_eq!(touched("lua", text, &spoilt), text);
        becomes("lua", &[(&spoilt, text)]);
    }
    // One that touches its statement stands in no column.
    let beside = "low = 0.32 -- ebb\nslack = 1--none\n";
    becomes("lua", &[(beside, &beside.replace("1--", "1 --"))]);
}

/// A comma that goes where its list is flat stands in one that is open, whatever form that has.
#[test]
fn a_last_comma_counts_before_a_comment() {
    let text = "\
enum Tide
{
    Ebb = 11,   // low
    Flood = 12, // high
    Slack = 3,  // none
}
";
    let style = [("list_wrap", "", "rows"), ("columns", "comment", "keep")];
    assert_eq!(lay_with("csharp", &style, text), text);
    let spoilt = text.replace("Slack = 3", "Slack  =  3");
    assert_eq!(lay_with("csharp", &style, &spoilt), text);
}

#[test]
fn kept_blanks_before_comments_are_one_at_least() {
    let text = "a = 1     # low\nb = 2  # high\n\nc = 3\t# slack\nd = 4# none\n";
    let style = [("comment_gap", "before", "keep"), ("columns", "comment", "none")];
    assert_eq!(lay_with("ruby", &style, text), text.replace("4#", "4 #"));
    assert_eq!(
        lay_with("ruby", &style, &text.replace("b = 2", "b  =  2")),
        text.replace("4#", "4 #")
    );
}

/// However many rows in a row have as many blanks: they stand in the column of those above and below.
#[test]
fn comments_of_rows_that_are_as_wide_stay_in_the_column_of_the_others() {
    let rows = ["1000, -- a", "740,  -- b", "690,  -- c", "930,  -- d", "700,  -- e", "620,  -- f"];
    let text = |rows: &[&str]| format!("t = {{\n  {}\n}}\n", rows.join("\n  "));
    // Without the first one, nothing sets them off.
    let alike = text(&rows[1..]);
    becomes("lua", &[
        (&text(&rows), &text(&rows)),
        (&alike, &alike.replace("  --", " --")),
    ]);
}

/// A key in brackets of its own is lined up with such keys, and not with what others are called with.
#[test]
fn a_key_is_in_no_column_of_arguments() {
    let keys = "t = {\n  [ 1] = ebb( 0,  1),\n  [10] = ebb(10, -1),\n}\n";
    assert_eq!(lay_with("lua", &[], keys), keys);
    let text = "t = {\n  [0] = ebb(0, 1),\n  ebb( 0, -1),\n  ebb(-1,  0),\n}\n";
    assert_eq!(lay_with("lua", &[], text), text);
}

/// Where a canon leaves blanks inside parentheses alone, the closing ones of rows stand in a column, too.
#[test]
fn closing_parentheses_of_rows_may_be_lined_up() {
    let keep = [("inner_gap", "parens", "keep"), ("word_gap", "", "keep")];
    let text = "\
ebb( \"low\"   )
ebb( \"slack\" )

check(ebb, 2   )
check(flood, 10)

warn(ebb )
warn(low)
";
    let wanted = text.replace("ebb )", "ebb)");
    assert_eq!(lay_with("lua", &keep, text), wanted);
    let none = wanted.replace("( ", "(").replace("   )", ")");
    assert_eq!(lay_with("lua", &[], text), none.replace(" )", ")"));
    let tables = "ebb({ low,   }, 1)\nebb({ low, 2 }, 2)\n";
    assert_eq!(lay_with("lua", &[("last_comma", "", "keep_all")], tables), tables);
}

/// A row between blank lines has no neighbour but the one beyond them.
#[test]
fn a_sign_between_blank_lines_stays_under_the_one_beyond_them() {
    let lone = "local sleep     = 2\n\nlocal numpad_a  = 3\nlocal numpad_bc = 4\n\n-- alone\n\nlocal ebb       = 5\n\nlocal tide      = 6\n";
    becomes("lua", &[
        (lone, lone),
        // Nobody is there, or stands elsewhere.
        ("local sleep   = 2\n\nf(2)\n", "local sleep = 2\n\nf(2)\n"),
        (
            "local sleep   = 2\n\nf(2)\n\nlocal ebb     = 2\n",
            "local sleep = 2\n\nf(2)\n\nlocal ebb = 2\n",
        ),
        ("local sleep   = 2\n\nlocal ebb    = 3\n", "local sleep = 2\n\nlocal ebb = 3\n"),
        // What is beyond is moved itself.
        (
            "local sleep   = 2\n\nlocal ebb     = 3\nlocal b = 4\n",
            "local sleep = 2\n\nlocal ebb = 3\nlocal b = 4\n",
        ),
    ]);
    let touched_row = lone.replace("local ebb       = 5", "local ebb       =5");
    assert_eq!(touched("lua", lone, &touched_row), lone);
}

/// What closes goes on with the row that opened it: keys stay lined up around values of several lines.
#[test]
fn rows_around_lines_that_close_stay_lined_up() {
    let hooks = "\
HOOKS = {
  :gauge     => {
    :after_reset => [],
    :after_read  => [],
  },
  :buoy      => {
    :post_init   => [],
  },
  :documents => {
    :post_init => [],
  },
}
";
    // A row alone is not lined up with anything.
    let wanted = hooks.replace(":post_init   => []", ":post_init => []");
    becomes("ruby", &[(hooks, &wanted), (&wanted, &wanted)]);
    let spoilt = wanted.replace(":buoy      => {", ":buoy => {");
    assert_eq!(touched("ruby", &wanted, &spoilt), wanted);
}

/// What stands alone in its brackets ends in one column with others by chance; numbers do on purpose.
#[test]
fn what_is_alone_in_brackets_is_lined_up_with_no_end() {
    let numbers = "Raise(  2);\nRaise(128);\nRaise( 16);\n";
    becomes("csharp", &[(numbers, numbers)]);
    becomes("lua", &[(
        "assert(t == s2 )\nassert( s == t )\nassert( t == s )\n",
        "assert(t == s2)\nassert(s == t)\nassert(t == s)\n",
    )]);
}
