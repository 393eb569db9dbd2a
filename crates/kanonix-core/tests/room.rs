//! What gives way where a line has no room: headers, values, tables, and what has no brackets of its own.

use crate::support::{becomes, lay_with};

#[test]
fn without_a_limit_lines_are_as_long_as_somebody_makes_them() {
    let off = [("max_line_length", "", "off")];
    let words: Vec<String> = (1..9).map(|number| format!("reading_of_quay_{number}")).collect();
    let long = format!("warn({}, {})\n", words.join(", "), words.join(", "));
    assert_eq!(lay_with("python", &off, &long), long);
    // What somebody broke is not put on one line that is longer than most people's.
    let open = format!("warn(\n    {},\n)\n", words.join(",\n    "));
    assert_eq!(lay_with("python", &off, &open), open);
    let torn = format!("warn({},\n{}\n)\n", words[..4].join(", "), words[4..].join(", "));
    let style = [off[0], ("wrap_align", "", "step"), ("close_bracket", "", "own_line")];
    assert_eq!(lay_with("python", &style, &torn), open.replace(",\n)", "\n)"));
    let short = "warn(ebb,\nflood)\n";
    assert_eq!(lay_with("python", &off, short), "warn(ebb, flood)\n");
    let fit = [off[0], ("list_wrap", "", "fit")];
    assert_eq!(lay_with("python", &fit, &open), format!("warn({})\n", words.join(", ")));
}

/// Lines that somebody made long stay so in what has several of them, too.
#[test]
fn without_a_limit_the_lines_of_a_list_are_as_long_as_somebody_made_them() {
    let rows = [("max_line_length", "", "off"), ("list_wrap", "", "rows")];
    let words: Vec<String> = (1..9).map(|number| format!("reading_of_quay_{number}")).collect();
    let all = words.join(", ");
    let list = format!("warn(first, {all},\n     {all},\n     last)\n");
    assert_eq!(lay_with("python", &rows, &list), list);
    let inner = format!("warn(answer_of({all},\n               last))\n");
    assert_eq!(lay_with("python", &rows, &inner), inner);
    let keeps = [("max_line_length", "", "off")];
    let sum = format!("level = warn({all}) +\\\n    1\n");
    assert_eq!(lay_with("python", &keeps, &sum), sum.replace("+\\", "+ \\"));
}

/// Nothing is opened around a text whose own lines are too long, and its lines are nobody's breaks.
#[test]
fn a_text_of_long_lines_stays_where_it_begins() {
    let long = "ebb and flood ".repeat(9);
    let off = [("max_line_length", "", "off")];
    for (language, open, close, end) in [
        ("lua", "[[", "]]", ""),
        ("python", "\"\"\"", "\"\"\"", ""),
        ("javascript", "`", "`", ";"),
        ("ruby", "\"", "\"", ""),
    ] {
        let text = format!("{open}Tides.\n   {long}.{close}");
        let text = format!("warn({text}){end}\nwarn(level, {text}){end}\n");
        assert_eq!(lay_with(language, &[], &text), text, "{language}");
        assert_eq!(lay_with(language, &off, &text), text, "{language}");
    }
}

/// A name stands below its type where one line has no room for both, and somebody put it there.
#[test]
fn a_name_stands_below_its_type_where_there_is_no_room_for_it() {
    let narrow = [("max_line_length", "", "50")];
    for language in ["java", "csharp"] {
        let (open, steps) = match language {
            "java" => (" {\n", "        "),
            _ => ("\n{\n", "    "),
        };
        let of = |member: &str| format!("class Quay{open}{member}}}\n");
        let field =
            of(&format!("    ReadingOfTheNorthernGauge\n    {steps}readingOfTheNorthernGauge;\n"));
        assert_eq!(lay_with(language, &narrow, &field), field);
        assert_eq!(
            lay_with(language, &[], &field),
            of("    ReadingOfTheNorthernGauge readingOfTheNorthernGauge;\n")
        );
        let method = of(&format!(
            "    abstract ReadingOfTheNorthernGauge\n    {steps}readNorthernGauge(int at);\n"
        ));
        assert_eq!(lay_with(language, &narrow, &method), method);
        if language == "java" {
            // No type stands before what makes a value of one.
            let made = of("    @Made\n    Quay() {\n    }\n");
            assert_eq!(lay_with(language, &[], &made), made);
        }
        let short = of("    int\n      ebb;\n");
        assert_eq!(lay_with(language, &narrow, &short), of("    int ebb;\n"));
    }
}

#[test]
fn a_table_that_begins_beside_its_bracket_has_a_line_there() {
    // Lines of equally many are a table, as rows that begin on a line of their own are.
    becomes("javascript", &[
        (
            "tide = [1, 0, 0,\n  0, 1, 0,\n  0, 0, 1];\n",
            "tide = [\n  1, 0, 0,\n  0, 1, 0,\n  0, 0, 1\n];\n",
        ),
        (
            "const tides = { ebb: 1, low: 2, flood: 3,\n  high: 4, slack: 5, storm: 6,\n  calm: 7, neap: 8, spring: 9 };\n",
            "const tides = {\n  ebb: 1, low: 2, flood: 3,\n  high: 4, slack: 5, storm: 6,\n  calm: 7, neap: 8, spring: 9\n};\n",
        ),
    ]);
    becomes("python", &[
        (
            "tide = [1, 0, 0,\n  0, 1, 0,\n  0, 0, 1]\n",
            "tide = [\n    1, 0, 0,\n    0, 1, 0,\n    0, 0, 1\n]\n",
        ),
    ]);
    becomes("rust", &[
        (
            "const TIDE: [u8; 9] = [1, 0, 0,\n    0, 1, 0,\n    0, 0, 1];\n",
            "const TIDE: [u8; 9] = [\n    1, 0, 0,\n    0, 1, 0,\n    0, 0, 1\n];\n",
        ),
    ]);
    becomes("java", &[
        (
            "class Quay {\n    int[] tide = {1, 0, 0,\n       0, 1, 0,\n       0, 0, 1};\n}\n",
            "class Quay {\n    int[] tide = {\n        1, 0, 0,\n        0, 1, 0,\n        0, 0, 1\n    };\n}\n",
        ),
    ]);
    becomes("csharp", &[
        (
            "class Quay\n{\n    int[] tide = {1, 0, 0,\n       0, 1, 0,\n       0, 0, 1};\n}\n",
            "class Quay\n{\n    int[] tide =\n    {\n        1, 0, 0,\n        0, 1, 0,\n        0, 0, 1\n    };\n}\n",
        ),
    ]);
    becomes("lua", &[
        (
            "local tide = {1, 0, 0,\n  0, 1, 0,\n  0, 0, 1}\n",
            "local tide = {\n  1, 0, 0,\n  0, 1, 0,\n  0, 0, 1\n}\n",
        ),
    ]);
    becomes("gdscript", &[
        (
            "var tide = [1, 0, 0,\n	0, 1, 0,\n	0, 0, 1]\n",
            "var tide = [\n	1, 0, 0,\n	0, 1, 0,\n	0, 0, 1\n]\n",
        ),
    ]);
    becomes("javascript", &[
        (
            "tide = [1, 0, 0,\n  0, 1, 0];\n",
            "tide = [1, 0, 0, 0, 1, 0];\n",
        ),
    ]);
}

#[test]
fn names_in_rows_keep_them_in_every_list() {
    // Imports, exports and patterns are lists as others are; one row of pairs is none.
    becomes("javascript", &[
        (
            "import {\n  ebb, flood, surge,\n  level, quay, buoy,\n} from './tides.js';\n",
            "import {\n  ebb, flood, surge,\n  level, quay, buoy,\n} from './tides.js';\n",
        ),
        (
            "export {\n  ebb, flood, surge,\n  level, quay, buoy,\n};\n",
            "export {\n  ebb, flood, surge,\n  level, quay, buoy,\n};\n",
        ),
        (
            "const {\n  ebb, flood, surge,\n  level, quay, buoy,\n} = tides;\n",
            "const {\n  ebb, flood, surge,\n  level, quay, buoy,\n} = tides;\n",
        ),
        (
            "warn({\n  ebb: 1, flood: 2, surge: 3,\n});\n",
            "warn({\n  ebb: 1,\n  flood: 2,\n  surge: 3,\n});\n",
        ),
        (
            "warn({\n  ebb: 1, flood: 2, surge: 3,\n  level: 4, quay: 5,\n  buoy: 6, alarm: 7, reef: 8\n});\n",
            "warn({\n  ebb: 1,\n  flood: 2,\n  surge: 3,\n  level: 4,\n  quay: 5,\n  buoy: 6,\n  alarm: 7,\n  reef: 8\n});\n",
        ),
    ]);
    becomes("rust", &[
        (
            "use tide::{\n    Ebb, Flood, Surge,\n    Level, Quay, Buoy,\n};\n",
            "use tide::{\n    Ebb, Flood, Surge,\n    Level, Quay, Buoy,\n};\n",
        ),
    ]);
}

#[test]
fn a_value_goes_below_its_sign_before_something_hangs_on_its_bracket() {
    // The only list ends before the value does.
    becomes("javascript", &[
        (
            "const levelOfTheOldQuay = levelsOfAllTheGaugesAtTheOldQuay(firstGauge, lastGauge).highest.metres.rounded;\n",
            "const levelOfTheOldQuay =\n  levelsOfAllTheGaugesAtTheOldQuay(firstGauge, lastGauge).highest.metres.rounded;\n",
        ),
    ]);
    becomes("lua", &[
        (
            "local levelOfTheOldQuay = levelsOfAllTheGaugesAtTheOldQuay(firstGauge, lastGauge).highest.metres.rounded.and_shown_to_us\n",
            "local levelOfTheOldQuay =\n  levelsOfAllTheGaugesAtTheOldQuay(firstGauge, lastGauge).highest.metres.rounded.and_shown_to_us\n",
        ),
    ]);
    becomes("typescript", &[
        (
            "const levelOfTheOldQuay = levelsOfAllTheGaugesAtTheOldQuay(firstGauge, lastGauge)[highest].metres.rounded;\n",
            "const levelOfTheOldQuay =\n  levelsOfAllTheGaugesAtTheOldQuay(firstGauge, lastGauge)[highest].metres.rounded;\n",
        ),
    ]);
}

#[test]
fn a_class_goes_below_its_name_before_what_it_comes_from_is_torn() {
    becomes("javascript", &[
        (
            "class GaugeOfTheOldQuay extends GaugeOfSomeQuayThatMayWarnAndRingWhereTheLevelIsHighOrLowForLongAndSo {\n  read() {}\n}\n",
            "class GaugeOfTheOldQuay\n  extends GaugeOfSomeQuayThatMayWarnAndRingWhereTheLevelIsHighOrLowForLongAndSo {\n  read() {}\n}\n",
        ),
    ]);
    becomes("typescript", &[
        (
            "class GaugeOfTheOldQuay extends GaugeOfSomeQuay<Level, Metres> implements Warns, Rings, IsReadByTheOffice {\n  read() {}\n}\n",
            "class GaugeOfTheOldQuay\n  extends GaugeOfSomeQuay<Level, Metres>\n  implements Warns, Rings, IsReadByTheOffice {\n  read() {}\n}\n",
        ),
    ]);
    becomes("javascript", &[
        (
            "class Gauge extends mixed({\n  low: 1,\n}) {\n  read() {}\n}\n",
            "class Gauge extends mixed({\n  low: 1,\n}) {\n  read() {}\n}\n",
        ),
    ]);
}

#[test]
fn what_python_has_no_brackets_for_gets_some() {
    // Imported names; what an assertion says, rather than what it asks; what a function gives.
    becomes("python", &[
        (
            "from tidewatch.gauges.harbour import HarbourGauge, EstuaryGauge, LighthouseGauge\n",
            "from tidewatch.gauges.harbour import (\n    HarbourGauge,\n    EstuaryGauge,\n    LighthouseGauge\n)\n",
        ),
        (
            "from tidewatch.gauges.harbour_of_the_old_town_of_saltmarsh_by_the_sea import Gauge\n",
            "from tidewatch.gauges.harbour_of_the_old_town_of_saltmarsh_by_the_sea import (\n    Gauge\n)\n",
        ),
        (
            "from tidewatch.gauges.harbour_of_the_old_town_of_saltmarsh_by_the_sea_and_so_on import *\n",
            "from tidewatch.gauges.harbour_of_the_old_town_of_saltmarsh_by_the_sea_and_so_on import *\n",
        ),
        (
            "assert gauge.level_at_the_quay == level_that_is_expected, \"the level is not what was expected\"\n",
            "assert gauge.level_at_the_quay == level_that_is_expected, (\n    \"the level is not what was expected\"\n)\n",
        ),
        (
            "assert gauge.level_at_the_quay_of_the_old_town == level_that_is_expected_of_the_gauge, \"no\"\n",
            "assert (\n    gauge.level_at_the_quay_of_the_old_town\n    == level_that_is_expected_of_the_gauge\n), \"no\"\n",
        ),
        (
            "warns = lambda gauge: gauge.level_at_the_quay > highest_level and not gauge.has_warned_before\n",
            "warns = lambda gauge: (\n    gauge.level_at_the_quay > highest_level and not gauge.has_warned_before\n)\n",
        ),
        (
            "text = \"The level at the old quay is above %s, the highest one that there is.\" % gauge.highest_level\n",
            "text = (\n    \"The level at the old quay is above %s, the highest one that there is.\"\n    % gauge.highest_level\n)\n",
        ),
    ]);
}

#[test]
fn a_short_block_stays_where_what_is_around_it_is_broken() {
    becomes("rust", &[
        (
            "fn a() {\n    let app = Router::new().route(\"/gauges\", get(|| async { list_gauges().await })).route(\"/levels\", get(levels));\n}\n",
            "fn a() {\n    let app = Router::new()\n        .route(\"/gauges\", get(|| async { list_gauges().await }))\n        .route(\"/levels\", get(levels));\n}\n",
        ),
    ]);
    becomes("lua", &[
        (
            "local levels = map(filter(gauges, function(gauge) return gauge.active end), function(gauge) return gauge.level end, last)\n",
            "local levels = map(\n  filter(gauges, function(gauge) return gauge.active end),\n  function(gauge) return gauge.level end,\n  last\n)\n",
        ),
    ]);
}

#[test]
fn messages_begin_lines_with_the_calls_before_them() {
    becomes("ruby", &[
        (
            "levels = gauges.select { |gauge| gauge.active && gauge.level > lowest }.map { |gauge| gauge.level }.sort.reverse.first(10)\n",
            "levels = gauges.select { |gauge| gauge.active && gauge.level > lowest }\n  .map { |gauge| gauge.level }\n  .sort\n  .reverse\n  .first(10)\n",
        ),
    ]);
}

#[test]
fn a_header_breaks_before_the_word_in_its_midst() {
    // Further in than the body; and behind the types that a method is for.
    becomes("java", &[
        (
            "class Quay {\n    void read() {\n        for (Map.Entry<String, GaugeOfSomeQuay<Level, Alarm>> entry : gaugesByTheNamesOfTheirQuays.entrySet()) {\n            warn(entry);\n        }\n    }\n\n    static <G extends GaugeOfSomeQuay, A extends AlarmOfSomeQuayOfTheTown> List<G> gaugesThatWarnAtOnce(List<G> gauges, A alarm) {\n        return gauges;\n    }\n}\n",
            "class Quay {\n    void read() {\n        for (Map.Entry<String, GaugeOfSomeQuay<Level, Alarm>> entry\n                : gaugesByTheNamesOfTheirQuays.entrySet()) {\n            warn(entry);\n        }\n    }\n\n    static <G extends GaugeOfSomeQuay, A extends AlarmOfSomeQuayOfTheTown>\n            List<G> gaugesThatWarnAtOnce(List<G> gauges, A alarm) {\n        return gauges;\n    }\n}\n",
        ),
    ]);
    becomes("csharp", &[
        (
            "class Quay\n{\n    void Read()\n    {\n        foreach (KeyValuePair<string, GaugeOfSomeQuay<Level, Alarm>> entry in this.GaugesByName.OfAllTheQuays(low, high)) { }\n    }\n}\n",
            "class Quay\n{\n    void Read()\n    {\n        foreach (KeyValuePair<string, GaugeOfSomeQuay<Level, Alarm>> entry\n                in this.GaugesByName.OfAllTheQuays(low, high)) { }\n    }\n}\n",
        ),
    ]);
}

#[test]
fn a_record_of_types_has_its_parts_right_behind_them() {
    let text = "record Quay<T>(T low, T high) implements Tide<T> {\n}\n";
    becomes("java", &[(text, text)]);
}

#[test]
fn a_bare_body_goes_below_a_header_of_several_lines() {
    // Not where somebody broke the header and left the body behind it.
    becomes("java", &[
        (
            "class Quay {\n    void read() {\n        if (gauge.isActive() && gauge.level() > gauge.highestLevelOfTheYear() && !gauge.hasWarnedBefore()) warn();\n    }\n}\n",
            "class Quay {\n    void read() {\n        if (gauge.isActive()\n                && gauge.level() > gauge.highestLevelOfTheYear()\n                && !gauge.hasWarnedBefore())\n            warn();\n    }\n}\n",
        ),
        (
            "class Quay {\n    void read() {\n        if (gauge.isActive()\n                && gauge.level() > 3) warn();\n    }\n}\n",
            "class Quay {\n    void read() {\n        if (gauge.isActive()\n                && gauge.level() > 3) warn();\n    }\n}\n",
        ),
    ]);
}

#[test]
fn fields_of_operands_are_no_fields_of_operations() {
    // The grammar reads `a.b.c == d.e.f` as `(a.b.c == d.e).f`.
    becomes("gdscript", &[
        (
            "func read():\n	return gauge.quay.level == other.quay.level or gauge.quay.unit == other.quay.unit_of_it or gauge.low\n",
            "func read():\n	return (\n			gauge.quay.level == other.quay.level\n			or gauge.quay.unit == other.quay.unit_of_it\n			or gauge.low\n	)\n",
        ),
        (
            "func read():\n	if not gauge.quay.level == other.quay.level and gauge.quay.unit not in units.of.all or gauge.quay.low and x:\n		pass\n",
            "func read():\n	if (\n			not gauge.quay.level == other.quay.level and gauge.quay.unit not in units.of.all\n			or gauge.quay.low and x\n	):\n		pass\n",
        ),
    ]);
}

/// A call that is broken by chance comes back to its line only if the comma behind it, which the list around it
/// has because it is open, has room there, too.
#[test]
fn the_comma_of_an_open_list_needs_room() {
    let raised = |text: &str| {
        format!("class Gauge:\n    def read(self):\n        if True:\n            raise LookupError(\n{text}            ) from error\n")
    };
    // Eighty columns on one line, and one less.
    let text = |name: &str| {
        raised(&format!("                'There is no {name} known for {{gauge}}'.format(\n                    gauge=gauge\n                ),\n"))
    };
    let wide = text("sluice gate");
    becomes("python", &[
        (&wide, &wide),
        (
            &text("water gate"),
            &raised(
                "                'There is no water gate known for {gauge}'.format(gauge=gauge),\n",
            ),
        ),
    ]);
}

/// A short function goes to a line of its own before its parameters have one each. A long one stays.
#[test]
fn a_short_function_is_set_in_before_its_parameters_are_torn() {
    let narrow = [("max_line_length", "", "46")];
    let hasty = "watch(tides.ofTheOldQuay, function (ebb, flood) { warn(ebb) });\n";
    let wanted =
        "watch(\n  tides.ofTheOldQuay,\n  function (ebb, flood) {\n    warn(ebb)\n  }\n);\n";
    assert_eq!(lay_with("javascript", &narrow, hasty), wanted);
    let body = "    warn(ebb, flood, surge);\n".repeat(5);
    let long = format!("watch(tides.ofTheOldQuay, function (ebb, flood) {{\n{body}}});\n");
    let torn = format!(
        "watch(tides.ofTheOldQuay, function (\n  ebb,\n  flood\n) {{\n{}}});\n",
        body.replace("    ", "  ")
    );
    assert_eq!(lay_with("javascript", &narrow, &long), torn);
}

/// The link behind a call whose arguments have lines of their own goes on behind their bracket.
#[test]
fn a_lone_link_goes_on_behind_the_bracket_of_an_open_call() {
    let narrow = [("max_line_length", "", "40")];
    let text = "Quay:warn(\"the surge of the night\", level, high):run()\n";
    let wanted = "Quay:warn(\n  \"the surge of the night\",\n  level,\n  high\n):run()\n";
    assert_eq!(lay_with("lua", &narrow, text), wanted);
    // Where the call has room, the link has a line.
    let text = "Quay:warn(\"the surge\", level, high):run(fast)\n";
    let wanted = "Quay:warn(\"the surge\", level, high)\n  :run(fast)\n";
    assert_eq!(lay_with("lua", &narrow, text), wanted);
}

/// A call that is all that another one is called with has a line of its own where it fits there, with what
/// closes behind it; where it does not, or somebody opened it, its own arguments have the lines.
#[test]
fn a_call_in_a_call_has_its_own_line_where_it_fits() {
    let layouts: [(&str, &str, &str, &str); 3] = [
        ("javascript", "", "  ", "\n);\n"),
        ("java", "        ", "        ", ");\n"),
        ("csharp", "        ", "    ", ");\n"),
    ];
    for (language, margin, step, close) in layouts {
        let (begin, end) = match language {
            "javascript" => ("", ""),
            "java" => ("class G {\n    void l() {\n", "    }\n}\n"),
            _ => ("class G\n{\n    void L()\n    {\n", "    }\n}\n"),
        };
        let text = |call: &str| format!("{begin}{margin}{call}{end}");
        let lay = |max: usize, text: &str| {
            lay_with(language, &[("max_line_length", "", &max.to_string())], text)
        };
        let flat = text("warnEverybody(read(quay, mole, pier));\n");
        let call = format!("{margin}{step}read(quay, mole, pier)");
        let fits = call.len() + if close.starts_with('\n') { 1 } else { 2 };
        assert_eq!(lay(fits, &flat), text(&format!("warnEverybody(\n{call}{close}")));
        let shared = lay(fits - 1, &flat);
        let opened = format!("warnEverybody(read(\n{margin}{step}quay,\n{margin}{step}mole,\n");
        assert!(shared.contains(&opened), "{shared}");
        assert_eq!(lay(fits, &shared), shared);
    }
}

/// A lone operator goes on behind the bracket that its first operand is opened at.
#[test]
fn a_lone_operator_goes_on_behind_an_open_bracket() {
    let canon = [("max_line_length", "", "40")];
    let lone = "low = (tide === \"ebb\" ? quay() : mole()) || none;\n";
    let wanted = "low = (\n  tide === \"ebb\" ? quay() : mole()\n) || none;\n";
    assert_eq!(lay_with("javascript", &canon, lone), wanted);
    assert_eq!(lay_with("javascript", &canon, wanted), wanted);
    // Two of them have lines of their own, and so has one behind what is broken elsewhere.
    let several = lay_with("javascript", &canon, &lone.replace("none", "none || other"));
    assert!(several.contains("\n) ||\n"), "{several}");
    let product = "low = tide_at_the_quay * (surge_of_the_night + neap) - ebb;\n";
    assert!(lay_with("javascript", &canon, product).contains("neap) -\n"));
    let called = "low = read(\n  the_gauge_of_the_mole_at_noon\n) % { at: quay }\n";
    assert_eq!(lay_with("ruby", &canon, called), called);
    let idle = "low = read(the_gauge_of_the_mole_and_of_both_quays) %\n  { at: quay }\n";
    assert_eq!(lay_with("ruby", &canon, idle), idle);
    let listed = "low = [\n  quay,\n  mole_of_the_harbour,\n] & gauges_that_ring\n";
    assert_eq!(lay_with("ruby", &canon, listed), listed);
}

/// Of two functions that a call is given, each has a line of its own where it fits there.
#[test]
fn a_function_behind_a_function_has_its_own_line_where_it_fits() {
    let canon = [("max_line_length", "", "60"), ("flat_block", "lambda", "keep")];
    let lua = "ask(function () return low end, function (why) warn(why, low) end)\n";
    let wanted =
        "ask(\n  function () return low end,\n  function (why) warn(why, low) end\n)\n";
    assert_eq!(lay_with("lua", &canon, lua), wanted);
    let longer = lua.replace("warn(why, low)", "warn(why, low, the_gauge_of_the_mole)");
    assert!(lay_with("lua", &canon, &longer).contains("end, function (why)\n  warn("));
    let begin = "class G\n{\n    void L()\n    {\n";
    let csharp = format!(
        "{begin}        Ask(a => {{ Look(a); }}, why => {{ Warn(why, Low); }});\n    }}\n}}\n"
    );
    let wanted = csharp
        .replace("Ask(a", "Ask(\n            a")
        .replace(", why =", ",\n            why =");
    assert_eq!(lay_with("csharp", &[("max_line_length", "", "56")], &csharp), wanted);
}

/// What is asked has its own line inside its parentheses where a call fits there.
#[test]
fn a_condition_that_is_a_call_has_its_own_line_where_it_fits() {
    let canon = [("max_line_length", "", "40")];
    let asks = "if (harbour.has_gauge(at_the_quay, low)) {\n  look();\n}\n";
    let wanted = "if (\n  harbour.has_gauge(at_the_quay, low)\n) {\n  look();\n}\n";
    assert_eq!(lay_with("javascript", &canon, asks), wanted);
    assert_eq!(lay_with("javascript", &canon, wanted), wanted);
    let longer = lay_with("javascript", &canon, &asks.replace("low", "at_the_mole"));
    assert!(longer.starts_with("if (harbour.has_gauge(\n  at_the_quay,\n"), "{longer}");
}

/// A text over several lines begins behind its sign, however long its first line is; where somebody put it on
/// the next line, it is there.
#[test]
fn a_text_over_several_lines_stays_behind_its_sign() {
    let narrow = [("max_line_length", "", "40")];
    for text in [
        "const high = `the gauge at the quay of the harbour\n  is high\n`;\n",
        "const high = {\n  mole: `the gauge at the quay, or not\n  is high\n`,\n  quay: 1,\n};\n",
        "const high =\n  `the gauge at the quay of the harbour\n  is high\n`;\n",
    ] {
        assert_eq!(lay_with("javascript", &narrow, text), text);
    }
}

/// One parameter has no line of its own: a short body goes into the call's list with it, a long one stays, and
/// the line with it.
#[test]
fn the_one_parameter_of_a_last_element_has_no_line_of_its_own() {
    let name = "the water stands as high at the mole as it does at the quay ".repeat(2);
    let call = |body: &str| format!("report(\"{}\", function(level) {{\n{body}}});\n", &name[..80]);
    let short = call("  warn(level);\n");
    let opened = format!(
        "report(\n  \"{}\",\n  function(level) {{\n    warn(level);\n  }}\n);\n",
        &name[..80]
    );
    let long = call(&"  warn(level, 1, 2, 3);\n".repeat(5));
    let broken = long.replace("(level) {", "(\n  level\n) {");
    becomes("javascript", &[(&short, &opened), (&long, &long), (&broken, &long)]);
    let names = ["tides", "gauges", "alarms", "harbours"];
    let paths = names.map(|name| format!("  \"./the/water/at/{name}\""));
    let list = format!(
        "define([\n{}\n], function(level) {{\n  warn(level);\n}});\n",
        paths.join(",\n")
    );
    becomes("javascript", &[(&list, &list)]);
    let declared = format!("function {}(\n  level\n) {{\n  warn(level);\n}}\n", "rise".repeat(22));
    becomes("javascript", &[(&declared, &declared)]);
}

/// What is too long beside its bracket and below it stays where somebody put it.
#[test]
fn a_text_that_is_too_long_either_way_stays_where_it_is() {
    let canon = [("max_line_length", "", "50")];
    for text in [
        "warn(\n  'the tide is higher than it was for years, at last'\n);\n",
        "warn('the tide is higher than it was for years, at last');\n",
    ] {
        assert_eq!(lay_with("typescript", &canon, text), text);
    }
    let fits = "warn(\n  'the tide is high'\n);\n";
    assert_eq!(lay_with("typescript", &canon, fits), "warn('the tide is high');\n");
}
