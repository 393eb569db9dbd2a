//! Rows that somebody chose: texts in pieces, tables among arguments, and what goes on beside a bracket
//! or below a sign.

use crate::support::{becomes, lay, lay_with, method, touched_with};
use kanonix_core::text::LineSet;
use kanonix_core::{Document, languages};

#[test]
fn a_line_that_ends_between_two_texts_was_chosen() {
    let style = [
        ("wrap_align", "call", "bracket"),
        ("max_line_length", "", "100"),
        ("operator_place", "", "trails"),
    ];
    let lua = "warn(\"quay\", \"the surge is \" ..\n  \"near\")\n";
    let script = "warn(\"quay\", \"the surge is \" +\n  \"near\");\n";
    let java = method("warn(\"quay\", \"the surge is \" +\n        \"near\");\n");
    for (language, text) in [("lua", lua), ("javascript", script), ("java", java.as_str())] {
        assert_eq!(lay_with(language, &style, text), text, "{language}");
    }
}

#[test]
fn chains_keep_their_lines_where_lists_have_rows() {
    let rows = [("list_wrap", "", "rows"), ("wrap_align", "", "step")];
    let text = method("\
if (readings.size() == 1 && !readings.get(0).isDry()
        && harbour.knows(readings.get(0))) {
    int level = readings.get(0).level() >= HIGH_WATER
            ? readings.get(0).level() : 0;
}
readings(quay).filter(reading -> !reading.isDry())
        .map(Reading::level).forEach(levels::add);
");
    assert_eq!(lay_with("java", &rows, &text), text);
    let open = lay_with("java", &rows[1..], &text);
    assert!(!open.contains("? readings.get(0).level() : 0;"), "{open}");
}

#[test]
fn what_is_declared_together_may_stand_below_its_word() {
    let script = "var\n  ebb = 1,\n  flood = 2;\nlet surge = 3,\n  level;\n";
    let java = "class Quay {\n    private static final int\n            EBB = 1,\n            FLOOD = 2;\n}\n";
    let sharp = "class Quay\n{\n    private const int\n        Ebb = 1,\n        Flood = 2;\n}\n";
    for (language, text) in [("javascript", script), ("java", java), ("csharp", sharp)] {
        assert_eq!(lay(language, text), text);
        let fit = lay_with(language, &[("list_wrap", "", "fit")], text);
        assert!(fit.lines().count() < text.lines().count(), "{fit}");
    }
}

#[test]
fn a_lone_call_stays_below_the_name_that_somebody_put_it_under() {
    let text = method("\
Captor<DashboardRequest> captorOfTheHarbour = Captor
        .forClass(DashboardRequest.class);
");
    assert_eq!(lay("java", &text), text);
    let short = method("ebb = tide\n        .level();\n");
    assert_eq!(lay("java", &short), method("ebb = tide.level();\n"));
}

#[test]
fn a_header_has_the_room_that_what_leads_it_on_lines_of_its_own_does_not_take() {
    let why = format!("\"{}\"", "the tide is too slow for this one ".repeat(4));
    let java = format!("@Ignored({why})\nclass QuayOfTheNorthernHarbour extends Gauge {{}}\n");
    let sharp = format!("[Ignored({why})]\nclass QuayOfTheNorthernHarbour : Gauge\n{{\n}}\n");
    assert_eq!(lay("java", &java), java);
    assert_eq!(lay("csharp", &sharp), sharp);
}

#[test]
fn what_a_type_implements_is_broken_before_what_the_last_of_it_is_for() {
    let long = "class QuayOfTheNorthernHarbour extends Gauge implements Named, Dated, Builder<Parameters<? extends Report>> {}\n";
    assert_eq!(lay_with("java", &[("max_line_length", "", "60")], long), "\
class QuayOfTheNorthernHarbour
        extends Gauge
        implements Named,
                Dated,
                Builder<Parameters<? extends Report>> {}
");
}

#[test]
fn rows_between_brackets_on_lines_of_their_own_are_a_table_before_other_arguments_too() {
    let table = "local days = token(day, any({\n  'ebb', 'flood',\n  'spring', 'neap'\n}, true))\n";
    becomes("lua", &[
        (table, table),
        ("warn({\n  'ebb', 'flood'\n}, true)\n", "warn({'ebb', 'flood'}, true)\n"),
    ]);
    let table = "warn([\n  'ebb', 'flood',\n  'spring', 'neap'\n], true);\n";
    becomes("javascript", &[(table, table)]);
}

#[test]
fn what_holds_things_one_by_one_is_not_closed_around_a_block() {
    let table = "setmetatable(tide, {\n  __index = function()\n    return 7\n  end\n})\n";
    becomes("lua", &[
        (table, table),
        ("warn(\n  function()\n    ring()\n  end\n)\n", "warn(function()\n  ring()\nend)\n"),
    ]);
    let table = "fn a() {\n    put(&[\n        0,\n        match unit {\n            _ => 1,\n        },\n    ]);\n}\n";
    becomes("rust", &[(table, table)]);
}

#[test]
fn an_operation_beside_its_bracket_goes_on_further_in_than_the_elements_under_it() {
    let style = [("wrap_align", "call", "bracket"), ("wrap_align", "condition", "step")];
    let text = "warn(\"the surge at the north quay is \" ..\n  \"very near\",\n  7)\n";
    let wanted = [
        "warn(\"the surge at the north quay is \" ..",
        "       \"very near\",",
        "     7)",
        "",
    ];
    assert_eq!(lay_with("lua", &style, text), wanted.join("\n"));
    // With nothing beneath it, it goes on from its line.
    let alone = "warn(\"the surge at the north quay is \" ..\n  \"very near\")\n";
    assert_eq!(lay_with("lua", &style, alone), alone);
}

#[test]
fn a_sign_without_a_blank_on_one_side_has_as_many_as_those_that_it_goes_on_with() {
    let keep = [("operator_gap", "", "keep")];
    for (text, wanted) in [
        ("a = \"at \" ..quay..\" stands \"..level\n", "a = \"at \"..quay..\" stands \"..level\n"),
        ("a = \"at \" ..quay .. \" stands \" .. b\n", "a = \"at \" .. quay .. \" stands \" .. b\n"),
        ("a = low ..high\n", "a = low .. high\n"),
    ] {
        assert_eq!(lay_with("lua", &keep, text), wanted);
        assert_eq!(lay_with("lua", &keep, wanted), wanted);
    }
}

#[test]
fn an_operator_begins_or_ends_a_line_as_those_around_it_do() {
    let narrow = [("max_line_length", "", "40")];
    let text =
        "a = north_quay_level +\n  south_quay_level * surge_of_the_day * 2 +\n  mole_level\n";
    let wanted = [
        "a = north_quay_level +",
        "  south_quay_level *",
        "    surge_of_the_day *",
        "    2 +",
        "  mole_level",
        "",
    ];
    assert_eq!(lay_with("lua", &narrow, text), wanted.join("\n"));
}

#[test]
fn rows_beside_their_bracket_keep_a_value_below_its_sign_and_end_before_theirs() {
    let rows = [("list_wrap", "", "rows"), ("max_line_length", "", "60")];
    let below = [
        "local request =",
        "  perform_request(buffer, header, method, on_push,",
        "                  on_push_context, request_context)",
        "",
    ];
    let below = below.join("\n");
    assert_eq!(lay_with("lua", &rows, &below), below);
    let hanging = "local quay = tide_gauges({ level = 7,\n  name = 'north', mole = 'east',\n  buoy = 'west' })\n";
    assert_eq!(lay_with("lua", &rows, hanging), hanging);
}

#[test]
fn what_is_alone_below_its_bracket_stays_there_where_others_would_stand_beside_it() {
    let style = [
        ("wrap_align", "call", "bracket"),
        ("max_line_length", "", "60"),
        ("operator_place", "", "trails"),
    ];
    let alone = [
        "throw new TideError(",
        "        \"the gauge stands at \" + level + \" and \" +",
        "        \"the surge at \" + surge);",
        "",
    ];
    let alone = method(&alone.join("\n"));
    assert_eq!(lay_with("java", &style, &alone), alone);
    let two = method("warn(\n        \"the gauge at the north quay\", \"stands very high\");\n");
    let wanted = method("warn(\"the gauge at the north quay\",\n     \"stands very high\");\n");
    assert_eq!(lay_with("java", &style, &two), wanted);
}

#[test]
fn many_elements_on_each_of_several_lines_are_rows_though_they_begin_beside_their_brace() {
    let words = |count: usize| vec!["\"a word too long to be filled\""; count].join(", ");
    let field = |rows: [String; 3], [open, close]: [&str; 2]| {
        let rows = rows.join(",\n        ");
        format!("class A {{\n    String[] tides = {{{open}{rows}{close}}};\n}}\n")
    };
    let rows = [words(5), words(6), words(4)];
    let beside = field(rows.clone(), ["", ""]);
    let below = field(rows, ["\n        ", "\n    "]);
    let style = [("max_line_length", "", "200")];
    assert_eq!(lay_with("java", &style, &beside), below);
    assert_eq!(lay_with("java", &style, &below), below);
}

#[test]
fn a_table_opens_inside_the_call_that_is_the_only_argument_of_another() {
    let text = "assert.is_true(stands_at(quay.north.gauge, { level = 7, surge = 2 }))\n";
    let wanted = [
        "assert.is_true(stands_at(quay.north.gauge, {",
        "  level = 7,",
        "  surge = 2",
        "}))",
        "",
    ];
    let narrow = [("max_line_length", "", "60")];
    assert_eq!(lay_with("lua", &narrow, text), wanted.join("\n"));
}

#[test]
fn blocks_on_the_lines_of_their_headers_stay_lined_up() {
    let shell = [
        "if ($Low)  { $lamp = 1 }",
        "if ($High) { $lamp = 2; Ring }",
        "",
    ];
    let keep = [("columns", "value", "keep"), ("flat_block", "", "keep")];
    assert_eq!(lay_with("powershell", &keep, &shell.join("\n")), shell.join("\n"));
    let touched = [
        "if ($Springs)  { $Springs  = 1 }",
        "if ($Neaps) { $Neaps = 1 }",
        "if ($Surge)    { $Surge    = 1 }",
        "if ($Flood)    { $Flood    = 1 }",
        "",
    ];
    let joined = touched.join("\n").replace("Neaps) { $Neaps =", "Neaps)    { $Neaps    =");
    assert_eq!(lay_with("powershell", &keep, &touched.join("\n")), joined);
    let class = [
        "class Gauge",
        "{",
        "    public int Level   { get; set; }",
        "    public string Quay { get; set; } = \"north\";",
        "}",
        "",
    ];
    assert_eq!(lay_with("csharp", &keep, &class.join("\n")), class.join("\n"));
    let none = [("columns", "", "none"), ("flat_block", "", "keep")];
    let plain = "if ($Low) { $lamp = 1 }\nif ($High) { $lamp = 2; Ring }\n";
    assert_eq!(lay_with("powershell", &none, &shell.join("\n")), plain);
}

#[test]
fn a_list_that_is_broken_here_and_there_is_one_however_few_lines_are_touched() {
    let tides: String = (0..40).map(|tide| format!("tide_{tide}:1,\n")).collect();
    let text = format!("f({{ root:\n{{\n}}\n,\n{tides}last:1\n}});\n");
    let javascript = languages::by_name("javascript").expect("a language that there is");
    let document = Document::new(text.as_str(), javascript);
    let (style, last) = (javascript.style(), text.lines().count());
    let set = LineSet::of([last - 2..last]);
    let (near, all) = (document.judge(&style, &set), document.judge_all_around(&style, &set));
    assert_eq!((&near.edits, &near.slips), (&all.edits, &all.slips));
    assert!(near.edits.len() > 40, "all of its lines");
}

/// Where the first of several rows begins beside the bracket and has no room there, it begins below: the others
/// would hang on the lines of what is in it.
#[test]
fn a_first_row_without_room_begins_below_its_bracket() {
    let methods = "class G {\n    void l() {\n";
    for (language, begin, margin, step, end) in [
        ("lua", "", "", "  ", ")\n"),
        ("ruby", "", "", "  ", ")\n"),
        ("java", methods, "        ", "                ", ");\n    }\n}\n"),
    ] {
        let head = format!("{margin}view_the_harbour(rect(quay, mole, pier, tide),");
        let text = format!("{begin}{head}\n{step}color(low){end}");
        let lay = |max: usize, text: &str| {
            lay_with(language, &[("max_line_length", "", &max.to_string())], text)
        };
        assert_eq!(lay(head.len(), &text), text);
        let below = text.replace("harbour(", &format!("harbour(\n{step}"));
        assert_eq!(lay(head.len() - 1, &text), below);
        assert_eq!(lay(head.len() - 1, &below), below);
        // Where that row alone is in play, the other one stays as it is.
        let base = text.replace("mole, ", "");
        let style = [("max_line_length", "", &*(head.len() - 1).to_string())];
        assert_eq!(touched_with(language, &style, &base, &text), below);
    }
}

/// What gives way to others stays in its rows, and what is in them opens for its own row alone.
#[test]
fn type_arguments_in_rows_stay_in_them() {
    let rows = [("list_wrap", "", "rows"), ("max_line_length", "", "60")];
    let text = "\
type Tide = Gauge<
  Quay,
  Level<Ebb, Extract<Flood, Record<Moon, Slack>>>,
  Read<Ebb, Flood>,
  Slack
>;
const read = dual<
  <A>(of: Gauge<A>, at: Quay<A>) => Level<A, Moon | Slack>
>(2);
";
    assert_eq!(lay_with("typescript", &rows, text), text);
}

/// Alternatives that begin below the bracket of a list leave its other bracket a line, in rows as elsewhere.
#[test]
fn a_list_around_alternatives_in_rows_closes_on_its_own_line() {
    let text = "\
const gauge = useGauge<
  | Buoy
  | Tide
  | null
>(null);
";
    for wrap in ["rows", "keep_open"] {
        assert_eq!(lay_with("typescript", &[("list_wrap", "", wrap)], text), text, "{wrap}");
    }
}
