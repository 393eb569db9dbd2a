//! What somebody chose, and what nobody would have: in each language that has the construct, a text
//! and what its own style makes of it.

use crate::support::{becomes, java, lay_with, touched, touched_with};
use kanonix_core::text::LineSet;
use kanonix_core::{languages, mend};

#[test]
fn a_single_break_in_a_short_line_is_nobodys_choice() {
    java("draw(low, high + 3, low\n        + 4, high);\n", "draw(low, high + 3, low + 4, high);\n");
    java("for (int i = 0; i\n       < COUNT; i++) {}\n", "for (int i = 0; i < COUNT; i++) {}\n");
    java("warn(level,\n        gauge.name());\n", "warn(level, gauge.name());\n");
    java("warn(\n        level, gauge.name());\n", "warn(level, gauge.name());\n");
    java("Map<\n        Gauge, Level> levels;\n", "Map<Gauge, Level> levels;\n");
    becomes("rust", &[
        (
            "fn a() {\n    if level\n        >= 7\n    {\n        b();\n    }\n}\n",
            "fn a() {\n    if level >= 7 {\n        b();\n    }\n}\n",
        ),
        (
            "impl Tide\n    for Buoy\n{\n    const A: u8 = 1;\n}\n",
            "impl Tide for Buoy {\n    const A: u8 = 1;\n}\n",
        ),
        (
            "fn a() {\n    read(self\n        .buoy\n        .name());\n}\n",
            "fn a() {\n    read(self.buoy.name());\n}\n",
        ),
        ("impl Tide for Buoys<\n    'a, A\n> {}\n", "impl Tide for Buoys<'a, A> {}\n"),
    ]);
    becomes("python", &[
        ("while (level ==\n    high):\n    warn()\n", "while (level == high):\n    warn()\n"),
        ("warn(\n    len(gauges)\n)\n", "warn(len(gauges))\n"),
        ("rows = [[0, 1], [1,\n    2, 3]]\n", "rows = [[0, 1], [1, 2, 3]]\n"),
    ]);
    becomes("lua", &[
        ("function warn(level\n)\n  ring()\nend\n", "function warn(level)\n  ring()\nend\n"),
        ("print(\"at \" ..\n  quay)\n", "print(\"at \" .. quay)\n"),
        ("return level,\n  quay\n", "return level, quay\n"),
    ]);
    becomes(
        "ruby",
        &[
            ("warn('ebb'\n)\n", "warn('ebb')\n"),
            ("def warn(\n      low, high)\nend\n", "def warn(low, high)\nend\n"),
        ],
    );
    becomes("typescript", &[
        ("type Warn = (\n  level: Level\n) => void;\n", "type Warn = (level: Level) => void;\n"),
        ("const [\n  low\n] = levels;\n", "const [low] = levels;\n"),
    ]);
    becomes("tsx", &[(
        "const a = (\n  <Gauge\n    level={1}\n  />\n);\n",
        "const a = (\n  <Gauge level={1} />\n);\n",
    )]);
    becomes("html", &[("<a\n  href=\"/tides\">tides</a>\n", "<a href=\"/tides\">tides</a>\n")]);
    becomes(
        "css",
        &[("a {\n  border:1px\n    solid red;\n}\n", "a {\n  border: 1px solid red;\n}\n")],
    );
}

#[test]
fn what_somebody_chose_stays() {
    // Each operand, each element, each link on a line of its own; conditions; what stands under
    // something; rows of texts; what makes a long line.
    java(
        "int sum = low\n        + high\n        - neap;\n",
        "int sum = low\n        + high\n        - neap;\n",
    );
    java("boolean c = low\n        && high;\n", "boolean c = low\n        && high;\n");
    java("warn(low,\n     high);\n", "warn(low,\n     high);\n");
    for (language, text) in [
        ("javascript", "warn(\n  low,\n  high\n);\n"),
        ("javascript", "const a = [\n  1, 2\n];\n"),
        ("javascript", "import {\n  low,\n} from './tide';\n"),
        ("javascript", "const a = ebb &&\n  flood;\n"),
        ("javascript", "const a = 'ebb\\n' +\n  'flood';\n"),
        ("css", "a {\n  grid-template-areas:\n    \"a b\"\n    \"c d\";\n}\n"),
        ("tsx", "const a = (\n  <Gauge\n    level={1}\n    quiet\n  />\n);\n"),
        ("rust", "fn a() {\n    buoys\n        .iter()\n        .map(level)\n}\n"),
    ] {
        becomes(language, &[(text, text)]);
    }
}

#[test]
fn a_touched_line_is_joined_only_with_what_is_in_play() {
    let base = "a = [\n  [1, 2],\n  [3, 4],\n];\nlevel = low\n  + high;\n";
    let text = base.replace("3, 4", "3,4");
    assert_eq!(touched("javascript", base, &text), base);
    let text = base.replace("high", "neap");
    let wanted = "a = [\n  [1, 2],\n  [3, 4],\n];\nlevel = low + neap;\n";
    assert_eq!(touched("javascript", base, &text), wanted);
}

#[test]
fn parentheses_come_around_a_touched_statement_alone() {
    let long =
        "level = spring_tide_at_the_old_quay + surge_of_the_last_night + neap_tide_at_the_mole\n";
    let base = format!("{long}low = 1\n");
    let text = format!("{long}low = {}", &long["level = ".len()..]);
    let broken = "low = (\n    spring_tide_at_the_old_quay\n    + surge_of_the_last_night\n    + neap_tide_at_the_mole\n)\n";
    let wanted = format!("{long}{broken}");
    assert_eq!(touched("python", &base, &text), wanted);
}

#[test]
fn a_value_begins_behind_its_sign_where_it_opens_there() {
    java(
        "int a =\n        switch (b) {\n            case 1 -> 2;\n            default -> 3;\n        };\n",
        "int a = switch (b) {\n    case 1 -> 2;\n    default -> 3;\n};\n",
    );
    java(
        "Runnable a =\n    () -> {\n        ring();\n    };\n",
        "Runnable a = () -> {\n    ring();\n};\n",
    );
    becomes("rust", &[
        (
            "fn a() {\n    let b =\n        match c {\n            d => e,\n        };\n}\n",
            "fn a() {\n    let b = match c {\n        d => e,\n    };\n}\n",
        ),
        (
            "fn a() {\n    b =\n        if c {\n            1\n        } else {\n            2\n        };\n}\n",
            "fn a() {\n    b = if c {\n        1\n    } else {\n        2\n    };\n}\n",
        ),
    ]);
    becomes("lua", &[(
        "local a =\n  function()\n    ring()\n  end\n",
        "local a = function()\n  ring()\nend\n",
    )]);
    becomes("javascript", &[
        (
            "const a =\n  function () {\n    ring();\n  };\n",
            "const a = function () {\n  ring();\n};\n",
        ),
        ("const a =\n  {\n    low: 1\n  };\n", "const a = {\n  low: 1\n};\n"),
    ]);
    becomes("javascript", &[(
        "const a =\n  tides.map(function () {\n    ring();\n  });\n",
        "const a = tides.map(function () {\n  ring();\n});\n",
    )]);
    // One of several, and what does not end with what it opens.
    for stays in [
        "Gauge.low =\nGauge.high = function () {\n  ring();\n};\n",
        "const a =\n  tides.map(function () {\n    ring();\n  }) + high;\n",
    ] {
        becomes("javascript", &[(stays, stays)]);
    }
    // Both are common there.
    let below = "a =\n  if b\n    1\n  else\n    2\n  end\n";
    becomes("ruby", &[(below, below)]);
}

#[test]
fn what_stays_as_it_stands_is_as_wide_on_both_sides() {
    becomes("lua", &[
        ("a = x^ 1\n", "a = x^1\n"),
        ("a = {id = 1 }\n", "a = {id = 1}\n"),
        ("a = {  id = 1}\n", "a = { id = 1 }\n"),
    ]);
    becomes("powershell", &[
        ("param  (\n    [bool]$Quiet =$True\n)\n", "param (\n    [bool]$Quiet = $True\n)\n"),
        ("while ($a) { continue  }\n", "while ($a) { continue }\n"),
    ]);
}

#[test]
fn a_line_that_goes_on_stands_so_many_steps_in_or_under_something() {
    becomes("lua", &[(
        "local buoys = Gauges:new()\n             :port(8080)\n             :open()\nwarn(\n     springTideAtTheOldQuay, surgeOfTheNight, river)\n",
        "local buoys = Gauges:new()\n             :port(8080)\n             :open()\nwarn(\n  springTideAtTheOldQuay, surgeOfTheNight, river)\n",
    )]);
}

#[test]
fn a_comma_leaves_a_flat_list() {
    becomes("typescript", &[
        ("warn(low, high,);\n", "warn(low, high);\n"),
        ("const warn = <T,>(level: T,) => level;\n", "const warn = <T,>(level: T) => level;\n"),
        ("const [, high, , ] = levels;\n", "const [, high, ,] = levels;\n"),
    ]);
    becomes("python", &[
        ("a = (low,)\n", "a = (low,)\n"),
        ("a = levels[low,]\n", "a = levels[low,]\n"),
        ("warn(low, high,)\n", "warn(low, high)\n"),
    ]);
}

#[test]
fn a_semicolon_begins_a_line_only_before_what_might_go_on() {
    becomes("javascript", &[
        ("ring()\n;return\n", "ring();\nreturn\n"),
        ("ring()\n;[low].map(warn)\n", "ring()\n;[low].map(warn)\n"),
    ]);
}

#[test]
fn a_row_in_play_stays_one_where_all_of_its_list_would_be_filled() {
    let old = "\
const gauges = new Set([
  'ebb', 'flood', 'neap',
  'spring', 'slack', 'bar',
  'quay',
]);
";
    let text = old.replace("'spring', 'slack'", "'spring','slack'");
    for wrap in ["fit", "row_first", "rows", "keep_open"] {
        let settings = [
            ("list_wrap", "", wrap),
            ("max_line_length", "", "28"),
            ("quotes", "", "keep"),
        ];
        assert_eq!(touched_with("javascript", &settings, old, &text), old, "{wrap}");
    }
}

#[test]
fn a_value_that_somebody_put_on_the_next_line_stays_there_unless_it_is_short() {
    let long = "Level springTideAtTheOldQuay =\n        gauges.levelAt(theOldQuay, surgeOfTheNight, river);\n";
    java(long, long);
    java("Level low =\n        gauges.lowest(quay);\n", "Level low = gauges.lowest(quay);\n");
    let wide = "Map<String, Gauge> gaugesOfTheHarbour =\n        new HashMap<>(gaugesOfTheTown, northern);\n";
    java(wide, wide);
}

#[test]
fn what_brings_its_own_brackets_opens_them_alone() {
    becomes("javascript", &[
        ("tide(\n  function () {\n    ring();\n  }\n);\n", "tide(function () {\n  ring();\n});\n"),
        ("tide(\n  {\n    low: 1,\n  }\n);\n", "tide({\n  low: 1,\n});\n"),
    ]);
    becomes("lua", &[(
        "tide(\n  function()\n    ring()\n  end\n)\n",
        "tide(function()\n  ring()\nend)\n",
    )]);
    becomes("typescript", &[(
        "type A = Pick<Gauge, 'low'> &\n  {\n    high: Level;\n  };\n",
        "type A = Pick<Gauge, 'low'> & {\n  high: Level;\n};\n",
    )]);
}

#[test]
fn an_open_value_opens_what_it_is_one_of_several_in() {
    becomes("python", &[(
        "a = {'low': {'at': 1}, 'high': {\n    'at': 2,\n}}\n",
        "a = {\n    'low': {'at': 1},\n    'high': {\n        'at': 2,\n    }\n}\n",
    )]);
    becomes("ruby", &[(
        "a = { low: { at: 1 }, high: {\n  at: 2\n} }\n",
        "a = {\n  low: { at: 1 },\n  high: {\n    at: 2\n  }\n}\n",
    )]);
    becomes("lua", &[(
        "a = {low = {at = 1}, high = {\n  at = 2\n}}\n",
        "a = {\n  low = {at = 1},\n  high = {\n    at = 2\n  }\n}\n",
    )]);
    becomes("gdscript", &[(
        "var a = {\"low\": {\"at\": 1}, \"high\": {\n\t\"at\": 2,\n}}\n",
        "var a = {\n\t\"low\": {\"at\": 1},\n\t\"high\": {\n\t\t\"at\": 2,\n\t},\n}\n",
    )]);
}

#[test]
fn short_texts_are_rows_as_numbers_are() {
    let texts = "'ebb', 'flood', 'neap', 'spring', 'slack', 'surge', 'swell', 'tide', 'wave', 'wake', 'bore', 'race'";
    becomes("javascript", &[(
        &format!("const a = [{texts}];\n"),
        "const a = [\n  'ebb', 'flood', 'neap', 'spring', 'slack', 'surge', 'swell', 'tide', 'wave', 'wake', 'bore',\n  'race'\n];\n",
    )]);
    let opened = "a = [\n    'ebb',\n    'flood',\n    'neap',\n    'slack',\n]\n";
    becomes("python", &[(opened, opened)]);
}

#[test]
fn nothing_stays_beside_a_bracket_behind_a_comment() {
    for close in ["own_line", "with_last", "keep"] {
        let canon = [("wrap_align", "", "bracket"), ("close_bracket", "", close)];
        let laid = lay_with(
            "python",
            &canon,
            "def a(  # why\n      low,\n      high):\n    pass\n",
        );
        assert!(laid.starts_with("def a(  # why\n    low,\n    high"), "{laid}");
    }
}

#[test]
fn a_touched_bracket_stands_as_the_line_does_that_a_text_of_several_lines_begins_on() {
    let base = "tide(\n    1, [[\n  ebb\n]], {\n      low, -- why\n    })\n";
    let text = base.replace("    })", "})");
    let canon = [("wrap_align", "", "bracket")];
    let laid = touched_with("lua", &canon, base, &text);
    assert_eq!(laid, base);
}

#[test]
fn a_row_that_is_touched_is_not_drawn_behind_a_block() {
    let base =
        "a = { low = function()\n    ring()\n  end,\n\n  high = function()\n    ring()\n  end\n}\n";
    let lines = LineSet::of([0..1, 4..5]);
    let lua = languages::by_name("lua").unwrap();
    let mended = mend(base, lua, &lua.style(), &lines).unwrap();
    assert!(mended.text.contains("end,\n\n"), "{}", mended.text);
}

#[test]
fn a_comment_behind_a_line_is_no_part_of_its_width() {
    let why = "the gauge at the old quay is read at night and its level said in metres and in feet";
    for (language, line) in [
        ("python", "level = read(quay, night)  #"),
        ("javascript", "level = read(quay, night); //"),
        ("rust", "const LEVEL: u8 = read(QUAY, NIGHT); //"),
        ("lua", "level = read(quay, night) --"),
        ("ruby", "level = read(quay, night) #"),
    ] {
        let text = format!("{line} {why} {why}\n");
        becomes(language, &[(&text, &text)]);
    }
}

#[test]
fn a_bracket_closes_with_the_last_of_what_stands_beside_it() {
    let bracket = |text: &str| lay_with(
        "javascript",
        &[("wrap_align", "", "bracket"), ("max_line_length", "", "40")],
        text,
    );
    let wanted = "warn('storm surge at the north quay',\n     level);\n";
    assert_eq!(bracket("warn('storm surge at the north quay', level);\n"), wanted);
    assert_eq!(bracket("warn(\n  'storm surge at the north quay',\n  level\n);\n"), wanted);
}

#[test]
fn rows_keep_the_lines_that_they_have_around_a_text_of_several_lines() {
    let rows = [("list_wrap", "", "rows")];
    let text = "ask(\n  \"level\",\n  [[\n    of the tide\n  ]], {\n    1, 2\n  })\n";
    assert_eq!(lay_with("lua", &rows, text), text);
}

#[test]
fn what_stands_behind_unlike_brackets_is_lined_up_by_chance() {
    becomes("lua", &[(
        "ident, at = decode( level, at)\nhigh, at = unpacked( \"B\", level, at)\n",
        "ident, at = decode(level, at)\nhigh, at = unpacked(\"B\", level, at)\n",
    )]);
}

#[test]
fn a_comment_with_a_line_of_its_own_keeps_it_among_rows() {
    let text = "local ww = {\n  tabs = notebook(),\n  -- Status bar\n  bar = 1,\n  level = 2\n}\n";
    let rows = [("list_wrap", "", "rows")];
    assert_eq!(lay_with("lua", &rows, text), text);
}

#[test]
fn a_comment_above_a_touched_line_shows_how_far_in_the_body_is() {
    let text = "mod a {\n  fn b() {}\n}\n\nmod c {\n  fn d() {}\n}\n\nmod e {\n    /// Why.\n  fn f() {}\n}\n";
    let base = text.replace("  fn f", "    fn e");
    let wanted = text.replace("  fn f", "    fn f");
    assert_eq!(touched("rust", &base, text), wanted);
}

#[test]
fn a_sentence_that_fits_nowhere_is_left() {
    let long = "a = <p>The level of the tide at the north quay is far too high for anybody to go out with a small boat today.</p>;\n";
    becomes("tsx", &[
        (long, long),
        (
            "a = <p className=\"warning\">The level of the tide at the north quay is far too high for any small boat.</p>;\n",
            "a = <p className=\"warning\">\n  The level of the tide at the north quay is far too high for any small boat.\n</p>;\n",
        ),
    ]);
}

#[test]
fn records_in_one_list_look_alike() {
    let long = "the gauge was mended in the morning and read by hand until noon, as the log has it";
    becomes("json", &[(
        &format!("[{{\"quay\":\"north\"}},{{\"quay\":\"south\",\"note\":\"{long}\"}}]\n"),
        &format!("[\n  {{\n    \"quay\": \"north\"\n  }},\n  {{\n    \"quay\": \"south\",\n    \"note\": \"{long}\"\n  }}\n]\n"),
    )]);
    becomes("python", &[(
        &format!("a = [{{'quay': 'north'}}, {{'quay': 'south', 'note': '{long}'}}]\n"),
        &format!("a = [\n    {{\n        'quay': 'north'\n    }},\n    {{\n        'quay': 'south',\n        'note': '{long}'\n    }}\n]\n"),
    )]);
    let by_hand = "a = [\n  { quay: 'north' },\n  {\n    quay: 'south',\n    level: 2,\n  },\n];\n";
    becomes("javascript", &[(by_hand, by_hand)]);
    let short = "a = [\n  { quay: 'north' },\n  { quay: 'south' },\n];\n";
    becomes("javascript", &[(short, short)]);
}

#[test]
fn a_value_on_the_next_line_stays_there_with_lines_of_its_own() {
    let asked = "warning =\n  action && action.level === LEVELS.HIGH\n    ? 'a storm surge at the quay'\n    : 'nothing to be said';\n";
    let call = "warning =\n  office.levelOf(\n    'the gauge at the old quay, measured by hand',\n    'and the one at the mole',\n  );\n";
    let all = "isLit =\n  isNight(office.clock.now()) &&\n  buoy.lamp.isMended();\n";
    becomes("javascript", &[
        (asked, asked),
        (all, all),
        ("gauge =\n  {\n    a: 1,\n  };\n", "gauge = {\n  a: 1,\n};\n"),
        (call, call),
    ]);
}

#[test]
fn one_element_beside_its_bracket_begins_a_line_where_it_has_no_room() {
    let text = "if level:\n    if high:\n        readings.append(reading.shifted(off))\n";
    let below =
        "if level:\n    if high:\n        readings.append(\n            reading.shifted(off))\n";
    let longer =
        "if level:\n    if high:\n        readings.append(readings_that_are_long_enough)\n";
    for close in ["keep", "own_line", "with_last"] {
        let style = [
            ("wrap_align", "", "bracket"),
            ("max_line_length", "", "40"),
            ("last_comma", "", "open_list"),
            ("close_bracket", "", close),
        ];
        assert_eq!(lay_with("python", &style, text), below, "{close}");
        assert_eq!(lay_with("python", &style, below), below, "{close}");
        // Where it would be too long on a line of its own, too, it stays.
        assert_eq!(lay_with("python", &style, longer), longer, "{close}");
    }
}

#[test]
fn what_has_no_room_beside_its_bracket_begins_below_it() {
    let text = "call(first,\n     second_of_three,\n     third);\nmuchLongerNamed.call(first,\n                     second_of_three,\n                     third);\n";
    let below = "call(first,\n     second_of_three,\n     third);\nmuchLongerNamed.call(\n  first,\n  second_of_three,\n  third);\n";
    let style = [("wrap_align", "", "bracket"), ("max_line_length", "", "32")];
    assert_eq!(lay_with("javascript", &style, text), below);
    assert_eq!(lay_with("javascript", &style, below), below);

    // Not where something before it may be broken.
    let rows = [
        ("wrap_align", "", "bracket"),
        ("list_wrap", "", "rows"),
        ("max_line_length", "", "25"),
    ];
    let text = "f(\"the\" + find(at).level(quay));\n";
    let below = "f(\"the\" +\n  find(at).level(quay));\n";
    assert_eq!(lay_with("javascript", &rows, text), below);
    assert_eq!(lay_with("javascript", &rows, below), below);
    // What is one operation breaks where it stands, and a block does not move.
    let narrow = [
        ("wrap_align", "", "bracket"),
        ("list_wrap", "", "rows"),
        ("max_line_length", "", "40"),
    ];
    let text = "if (first_condition || second_condition_of) {\n  f();\n}\ndefine([\"first\", \"second\", \"third\"], function() {\n  f();\n});\n";
    let wanted = "if (first_condition ||\n    second_condition_of) {\n  f();\n}\ndefine([\"first\", \"second\", \"third\"], function() {\n  f();\n});\n";
    assert_eq!(lay_with("javascript", &narrow, text), wanted);
}

/// Lines that an element has for want of room are no reason for its list to begin elsewhere.
#[test]
fn what_is_open_for_want_of_room_leaves_its_list_where_it_begins() {
    let canon = [
        ("indent_size", "", "8"),
        ("max_line_length", "", "60"),
        ("inner_gap", "parens", "true"),
        ("inner_gap", "brackets", "true"),
        ("paren_gap", "declaration", "true"),
        ("pair_gap", "type", "both"),
        ("pair_gap", "value", "both"),
        ("list_wrap", "", "rows"),
        ("wrap_align", "declaration", "bracket"),
        ("wrap_align", "collection", "bracket"),
        ("wrap_align", "call", "bracket"),
        ("wrap_indent", "chain", "4"),
        ("wrap_indent", "list", "3"),
        ("wrap_indent", "declaration", "2"),
        ("wrap_indent", "element", "2"),
    ];
    let text = "\
async def _watch_many_gauges_(
    thegauge: tide.abc.Saltgage[StreamT],
    harbour_nursery: tide.Nursery,
    harbour: Harbour[StreamT],
) -> Never:
    pass
";
    insta::assert_snapshot!(lay_with("python", &canon, text), @"
    async def _watch_many_gauges_ (
                            thegauge : tide.abc.Saltgage[
                                                    StreamT ],
                            harbour_nursery : tide.Nursery,
                            harbour : Harbour[ StreamT ],
    ) -> Never:
            pass
    ");
}

/// Where what is inside brackets stays as it is, so is a blank in such as hold nothing.
#[test]
fn a_blank_in_brackets_that_hold_nothing_is_kept_where_blanks_are() {
    for (language, text) in [
        ("javascript", "a = [ ];\nb = { };\nc( );\n"),
        ("python", "a = [ ]\nb = { }\nc( )\n"),
        ("lua", "a = { }\nb( )\n"),
        ("ruby", "a = [ ]\nb = { }\nc( )\n"),
        ("powershell", "$a = @( )\n$b = @{ }\n"),
        ("toml", "a = [ ]\nb = { }\n"),
    ] {
        let gaps = |value| ["parens", "brackets", "braces"].map(|key| ("inner_gap", key, value));
        let known = languages::by_name(language).unwrap();
        let canon = |value| {
            let has = |key: &str| known.style().set("inner_gap", key, "keep").is_ok();
            gaps(value).into_iter().filter(|(_, key, _)| has(key)).collect::<Vec<_>>()
        };
        let tight = text.replace("[ ]", "[]").replace("{ }", "{}").replace("( )", "()");
        for (value, from, to) in [
            ("keep", text, text),
            ("keep", &tight, &tight),
            ("true", text, &tight),
        ] {
            assert_eq!(lay_with(language, &canon(value), from), to, "{language}, {value}");
        }
    }
}

/// The sign behind an argument's name has its own blanks, those of attributes and annotations too.
#[test]
fn the_sign_behind_an_arguments_name_is_asked_about_alone() {
    for (language, text) in [
        ("java", "@Gauge(name = \"quay\", step = 2)\nclass Tide {\n    int level = 2;\n}\n"),
        ("csharp", "[Gauge(Name = \"quay\", Step = 2)]\nclass Tide\n{\n    int level = 2;\n}\n"),
    ] {
        let tight = text.replace("me = \"", "me=\"").replace("tep = ", "tep=");
        let canon = |value| [("operator_gap", "default", value)];
        assert_eq!(lay_with(language, &canon("false"), text), tight);
        assert_eq!(lay_with(language, &canon("keep"), &tight), tight);
        assert_eq!(lay_with(language, &[], &tight), text);
    }
}

/// What opens behind a sign that begins its line is a step further in than what stands behind it, if the canon
/// says so: lists, blocks and links, but not the operators, which go on with what is there.
#[test]
fn what_opens_behind_a_sign_is_as_far_in_as_agreed() {
    let far = "\
level = ebb
  ? {
      low: 1,
      high: 2,
    }
  : quay(() => {
      rise();
    });
tide = ebb
  ? gauges
      .filter(low)
      .map(high)
  : mole +
    surge +
    wind;
next = ebb
  ? flood
    ? 1
    : 2
  : 3;
";
    let near = far.replace("\n    }", "\n  }").replace("\n      ", "\n    ");
    for (steps, wanted) in [("1", &*near), ("2", far)] {
        let canon = [("wrap_indent", "ternary", steps)];
        for text in [&near, far] {
            assert_eq!(lay_with("javascript", &canon, text), wanted);
        }
        // A line that is touched, among others that are not, stands as they do.
        let pressed = wanted.replace("      rise", "rise").replace("    rise", "rise");
        assert_eq!(touched_with("javascript", &canon, wanted, &pressed), wanted);
    }
}

/// The value of a last function on a line of its own, as somebody put it, stays there, though it is a call.
#[test]
fn a_call_that_a_last_function_gives_stays_on_its_own_line() {
    let text = "const low = gauges.some(gauge =>\n  quays.some(quay => quay.isLow(gauge))\n);\n";
    assert_eq!(lay_with("javascript", &[("max_line_length", "", "60")], text), text);
}

/// Brackets around an index are opened by hand alone, and stay open where that was.
#[test]
fn an_index_is_opened_by_hand_alone() {
    let narrow = [("max_line_length", "", "40")];
    for text in [
        "rise(levels[\n  level > 2 ? 'at the quay' : 'low'\n]);\n",
        "const high =\n  levelsAtTheQuay['of the mole'];\n",
    ] {
        assert_eq!(lay_with("javascript", &narrow, text), text);
    }
}
