//! Operators, and the alternatives and answers that they stand before.

use crate::support::{becomes, lay, lay_with};

#[test]
fn alternatives_behind_bars_open_around_lines() {
    becomes("typescript", &[(
        "type A = | {\n  b: string;\n} | {\n  c: string;\n};\n",
        "type A =\n  | {\n      b: string;\n    }\n  | {\n      c: string;\n    };\n",
    )]);
}

#[test]
fn the_weaker_operator_is_broken_first() {
    becomes("javascript", &[
        (
            "const a = tide &&\n  tide.level ? tide : {};\n",
            "const a = tide && tide.level ? tide : {};\n",
        ),
        (
            "if (tide.level *\n  tide.range === level || surge) ring();\n",
            "if (tide.level * tide.range === level || surge) ring();\n",
        ),
    ]);
    becomes("lua", &[("local a = tide or\n  surge\n", "local a = tide or\n  surge\n")]);
    let texts = "raise ValueError(\"no gauge \"\n                 \"at: \" + name)\n";
    becomes("python", &[(texts, texts)]);
}

#[test]
fn alternatives_that_fit_are_broken_by_nobody() {
    becomes("typescript", &[
        (
            "interface A {\n  tide: 'ebb'\n    | 'flood';\n}\n",
            "interface A {\n  tide: 'ebb' | 'flood';\n}\n",
        ),
        ("type A = | 'ebb' | 'flood';\n", "type A =\n  | 'ebb'\n  | 'flood';\n"),
    ]);
    becomes("rust", &[(
        "fn a() {\n    match b {\n        Ebb\n        | Flood => 1,\n    }\n}\n",
        "fn a() {\n    match b {\n        Ebb | Flood => 1,\n    }\n}\n",
    )]);
}

#[test]
fn answers_on_the_lines_of_their_conditions_are_a_table() {
    let lua = "if a == 1 then b()\nelseif a == 2 then c() -- why\nelse d()\nend\n";
    becomes("lua", &[
        (lua, lua),
        ("if a then b()\nelse\n  c()\nend\n", "if a then\n  b()\nelse\n  c()\nend\n"),
    ]);
    let ruby = "level = if a == 1 then :low\n        elsif a == 2 then :high\n        else :none\n        end\n";
    becomes("ruby", &[
        (ruby, ruby),
        ("if a then b\nelsif c\n  d\nend\n", "if a\n  b\nelsif c\n  d\nend\n"),
        ("begin a\nrescue Fog\n  b\nend\n", "begin\n  a\nrescue Fog\n  b\nend\n"),
    ]);
}

#[test]
fn where_lines_stand_as_they_were_put_the_stronger_operator_may_be_broken() {
    let keep = [("wrap_align", "", "keep"), ("max_line_length", "", "40")];
    let text = "a = level > 4 and buoy.lamp.is_lit and\n    tide.is_low or tide.is_turning\n";
    assert_eq!(lay_with("lua", &keep, text), text);
    let step = [("wrap_align", "", "step"), ("max_line_length", "", "40")];
    let wanted = "a = level > 4 and\n  buoy.lamp.is_lit and\n  tide.is_low or\n  tide.is_turning\n";
    assert_eq!(lay_with("lua", &step, text), wanted);
}

#[test]
fn a_sign_at_the_end_of_a_line_has_as_many_blanks_as_before_it() {
    let keep = [("operator_gap", "", "keep")];
    let text = "print(\"at \"..quay..\n  \" the gauge of the north mole stands at \"..level)\n";
    assert_eq!(lay_with("lua", &keep, text), text);
}

/// A weaker operator does not bind more closely, by its blanks, than a stronger one beside it.
#[test]
fn an_operator_that_is_kept_tight_opens_with_a_stronger_one() {
    let keep = [("operator_gap", "sum", "keep")];
    assert_eq!(lay_with("lua", &keep, "tide = ebb*2-1\n"), "tide = ebb * 2 - 1\n");
    assert_eq!(lay_with("lua", &keep, "tide = ebb*-2-4+7\n"), "tide = ebb * -2 - 4 + 7\n");
    assert_eq!(lay_with("lua", &keep, "tide = 7+4-ebb*2\n"), "tide = 7 + 4 - ebb * 2\n");
    assert_eq!(lay_with("lua", &keep, "tide = 7+4-(ebb*2)\n"), "tide = 7+4-(ebb * 2)\n");
    for kept in ["tide = ebb-1\n", "tide = (ebb * 2)-1\n", "tide = ebb * 2-1\n"] {
        assert_eq!(lay_with("lua", &keep, kept), kept);
    }
}

/// Where the blanks beside an operator differ, the ones that it goes on with are asked, however far they are.
#[test]
fn an_operator_with_a_blank_on_one_side_is_like_those_around_it() {
    let keep = [("operator_gap", "", "keep")];
    let text = "warn(\"at \"..quay..\" (\".. level ..\") now\")\n";
    let wanted = "warn(\"at \"..quay..\" (\"..level..\") now\")\n";
    assert_eq!(lay_with("lua", &keep, text), wanted);
}

/// What is in brackets goes on as what is around them does.
#[test]
fn operators_in_brackets_lead_or_trail_as_those_around_them() {
    let keep = [("operator_place", "", "keep"), ("max_line_length", "", "36")];
    let text = "level = spring_tide *\n  (of_the_old_quay + surge_of_the_night)\n";
    let wanted =
        "level = spring_tide *\n  (\n    of_the_old_quay +\n    surge_of_the_night\n  )\n";
    assert_eq!(lay_with("lua", &keep, text), wanted);
}

#[test]
fn a_comment_behind_a_sign_keeps_it_on_its_side() {
    becomes("javascript", &[(
        "a = b ? // why\n            c : // else\n            d;\n",
        "a = b ? // why\n  c : // else\n  d;\n",
    )]);
}

#[test]
fn every_alternative_that_needs_a_line_has_a_bar() {
    let long =
        "'storm surge' | 'thick fog' | 'drifting ice' | 'a very low tide' | 'no news of the buoy' | 'calm'";
    let bars = |indent: &str| long.split(" | ")
        .map(|one| format!("{indent}| {one}\n"))
        .collect::<String>();
    let (alias, parameter) = (bars("  "), bars("    "));
    becomes("typescript", &[
        (&format!("type Warning = {long};\n"), &format!("type Warning =\n{};\n", alias.trim_end())),
        (
            &format!("function warn(of: {long}) {{}}\n"),
            &format!("function warn(\n  of:\n{parameter}) {{}}\n"),
        ),
    ]);
    let keep = [("leading_bar", "", "keep")];
    let wanted = format!("type Warning = {};\n", long.replace(" |", "\n  |"));
    assert_eq!(lay_with("typescript", &keep, &format!("type Warning = {long};\n")), wanted);
}

#[test]
fn questions_behind_answers_are_a_table() {
    becomes("javascript", &[
        (
            "a = level > high ? 'a storm surge at the quay' : level > low ? 'the tide is high' : 'the tide is low';\n",
            "a = level > high ? 'a storm surge at the quay'\n  : level > low ? 'the tide is high'\n  : 'the tide is low';\n",
        ),
        (
            "a = level > high ? 'storm surge' : level > low\n  ? 'high' : 'low';\n",
            "a = level > high\n  ? 'storm surge'\n  : level > low\n  ? 'high'\n  : 'low';\n",
        ),
    ]);
}

/// What stands below its operator was put there, though a bracket might follow it.
#[test]
fn a_bracket_below_its_operator_stays_there() {
    let text = "log = _('The gauge %{name} of the harbour does not answer since yesterday') %\n  { name: gauge.name }\n";
    becomes("ruby", &[(text, text)]);
    let text =
        "quay.marks = quay.marks or -- none were there before\n  { low = 1.0, high = 2.0 }\n";
    becomes("lua", &[(text, text)]);
}

/// The answers of a condition stand where they are agreed, wherever its operators do.
#[test]
fn answers_stand_where_they_are_agreed() {
    for language in ["javascript", "java", "csharp", "ruby"] {
        let (begin, end) = match language {
            "java" | "csharp" => ("class G {\n    int l(int a) {\n", "    }\n}\n"),
            _ => ("", ""),
        };
        let margin = if begin.is_empty() { "" } else { "        " };
        let step = if language == "javascript" || language == "ruby" { "  " } else { "    " };
        let text = |further: &str| match language {
            "ruby" => format!("level = a < 1 ?\n{further}2 :\n{further}3\n"),
            _ => format!(
                "{begin}{margin}level = a < 1\n{margin}{further}? 2\n{margin}{further}: 3;\n{end}"
            ),
        };
        let canon = |align| {
            vec![
                ("wrap_align", "condition", "step"),
                ("wrap_align", "ternary", align),
                ("wrap_indent", "chain", "1"),
                ("open_brace", "type", "same_line"),
                ("open_brace", "function", "same_line"),
            ]
            .into_iter()
            .filter(|(name, ..)| language != "ruby" || *name != "open_brace")
            .collect::<Vec<_>>()
        };
        let under = " ".repeat("level = ".len());
        for (align, from, to) in [
            ("step", text(&under), text(step)),
            ("bracket", text(step), text(&under)),
            ("keep", text(&under), text(&under)),
            ("keep", text(step), text(step)),
        ] {
            assert_eq!(lay_with(language, &canon(align), &from), to, "{language}, {align}");
        }
    }
}

/// A comment behind the sign of an answer stays there, and the sign stays where it is.
#[test]
fn a_comment_behind_the_sign_of_an_answer_leaves_it_at_its_line() {
    let text = "\
level = ebb
  ? low
  : // as nobody
    // has read it
    high;
tide = ebb
  ? low
  : /* nobody's */ high;
";
    assert_eq!(lay("javascript", text), text);
}

/// A comment behind a sign that leads its line leaves both there, wherever signs are agreed to stand.
#[test]
fn a_comment_behind_the_sign_of_an_answer_stays_with_it() {
    let text = "\
type Gauge<T> = 0 extends 1 & T
  ? T
  : // the others float
    never;
";
    for place in ["leads", "trails"] {
        for wrap in ["fit", "keep_open"] {
            let canon = [("ternary_place", "", place), ("list_wrap", "", wrap)];
            let mended = lay_with("typescript", &canon, text);
            assert!(mended.contains("\n  : // the others float\n"), "{place} {wrap}: {mended}");
            assert_eq!(lay_with("typescript", &canon, &mended), mended);
        }
    }
}
