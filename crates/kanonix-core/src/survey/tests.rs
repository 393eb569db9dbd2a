//! What a survey finds and proposes.

use super::*;
use crate::languages;
use crate::style::Key;

/// Two answers that are well alone may be at odds with each other.
#[test]
fn what_makes_more_slips_than_was_expected_is_no_answer() {
    let lua = languages::by_name("lua").unwrap();
    let with = |slips: usize| {
        Survey { lines: 1_000, slips, ..Survey::new(lua, lua.style()) }
    };
    let before = with(20);
    assert!(!with(10).is_worse_than(&before, &[]));
    assert!(!with(23).is_worse_than(&before, &[]));
    assert!(with(24).is_worse_than(&before, &[]));
    // What is stricter than the code costs what it was said to cost.
    let question = &before.questions[0];
    let strict = Found { question, base: 0, chosen: 1, spares: -5 };
    assert!(!with(28).is_worse_than(&before, &[strict]));
    assert!(with(29).is_worse_than(&before, &[strict]));
}

/// What the answers to two questions say of each other may go round: the better answers stay.
#[test]
fn answers_that_go_round_end_with_the_better_ones() {
    let lua = languages::by_name("lua").unwrap();
    let texts = ["local ebb = 1\n"];
    let tight = {
        let mut style = lua.style();
        style.set("operator_gap", "product", "false").unwrap();
        style
    };
    // Each style finds the other one.
    let read = |better: &Style, base: Style| {
        let is_tight = base == tight;
        let slips = if base == *better { 9 } else { 10 };
        let mut survey = Survey { lines: 1_000, slips, ..Survey::new(lua, base) };
        let asked = survey.questions.iter().zip(&mut survey.prices);
        for (question, prices) in asked.filter(|(own, _)| own.name() == "operator_gap.product") {
            for (candidate, price) in question.candidates.iter().zip(prices) {
                let is_other = candidate.name == if is_tight { "true" } else { "false" };
                price.all = if is_other { 0 } else { 100 };
                price.own = price.all;
            }
        }
        survey
    };
    for better in [lua.style(), tight.clone()] {
        let settled = Survey::settle(&texts, lua, |_, base| read(&better, base));
        assert!(settled.base == better);
    }
}

/// Two answers that are well alone, and together are not: one after the other is looked at.
#[test]
fn where_all_answers_at_once_go_round_one_is_taken_alone() {
    let lua = languages::by_name("lua").unwrap();
    let gap = |style: &Style, key| style.flag(Setting::OperatorGap, key);
    let slips = |style: &Style| match (gap(style, Key::Product), gap(style, Key::Sum)) {
        (true, false) => 5,
        (false, true) => 12,
        _ => 20,
    };
    let read = |_: &[&str], base: Style| {
        let mut survey =
            Survey { lines: 1_000, slips: slips(&base), ..Survey::new(lua, base.clone()) };
        for (question, prices) in survey.questions.iter().zip(&mut survey.prices) {
            if !["operator_gap.product", "operator_gap.sum"].contains(&&*question.name()) {
                continue;
            }
            for (candidate, price) in question.candidates.iter().zip(prices) {
                price.all = if candidate.keeps { 100 } else { slips(&candidate.within(&base)) };
                price.own = price.all;
            }
        }
        survey
    };
    let settled = Survey::settle(&["local ebb = 1\n"], lua, read);
    assert_eq!(slips(&settled.base), 5);
}

#[test]
fn the_code_says_what_it_does() {
    let python = languages::by_name("python").unwrap();
    let mut survey = Survey::new(python, python.style());
    survey.read("def ebb(a):\n  if a:\n    return 'low'\n  return 'high'\n");
    let said: Vec<String> = survey
        .answers()
        .iter()
        .map(|answer| format!("{} {} {}", answer.name, answer.proposed, answer.price))
        .collect();
    insta::assert_debug_snapshot!(said);
}

#[test]
fn where_the_code_is_divided_nothing_is_asked() {
    let python = languages::by_name("python").unwrap();
    let mut survey = Survey::new(python, python.style());
    survey.read("a = 'low'\nb = \"high\"\n");
    assert!(survey.style().is(Setting::Quotes, Key::Whole, "keep"));
}

#[test]
fn where_nobody_keeps_to_a_limit_none_is_proposed() {
    let python = languages::by_name("python").unwrap();
    let limit = |words: usize| {
        let mut survey = Survey::new(python, python.style());
        survey.read(&format!("warn({})\n", ["the_level"].repeat(words).join(", ")).repeat(9));
        survey.style().number(Setting::MaxLineLength, Key::Whole)
    };
    assert_eq!((limit(10), limit(15), limit(25)), (Some(120), Some(200), None));
}

#[test]
fn what_the_community_keeps_is_kept_where_that_spares_a_line() {
    let lua = languages::by_name("lua").unwrap();
    let proposed = |odd: &str| {
        let mut survey = Survey::new(lua, lua.style());
        let beside = "warn(ebb,\n     flood)\n".repeat(40);
        let below = "warn(\n  ebb,\n  flood)\n".repeat(20);
        survey.read(&[&beside, &below, odd].concat());
        let answers = survey.answers().into_iter();
        answers.filter(|own| own.name == "wrap_align.call").map(|own| own.proposed).next()
    };
    // Neither a step further in nor under the first one.
    assert_eq!(proposed("warn(ebb,\n       flood,\n       slack)\n"), Some("any".to_string()));
    assert_eq!(proposed(""), Some("keep".to_string()));
}

/// Of a few long lines, two that are longer say as much as those that fit.
#[test]
fn a_limit_that_is_narrower_than_the_communitys_needs_many_lines() {
    let css = languages::by_name("css").unwrap();
    let limit = |short: usize| {
        let rule = |words: usize| {
            format!(".gauge {{\n  font: {};\n}}\n\n", vec!["\"Tide Sans\""; words].join(", "))
        };
        let mut survey = Survey::new(css, css.style());
        survey.read(&[rule(4).repeat(short), rule(7).repeat(2)].concat());
        survey.style().number(Setting::MaxLineLength, Key::Whole)
    };
    assert_eq!((limit(7), limit(250)), (Some(100), Some(80)));
}

/// What stands on its header's line is opened where it does not fit: a limit that most of it keeps is
/// proposed.
#[test]
fn a_flat_block_has_its_say_on_how_long_lines_are() {
    let css = languages::by_name("css").unwrap();
    let rule = format!(".gauge {{ content: \"{}\"; }}\n", "tide ".repeat(20));
    let mut style = css.style();
    style.set("flat_block", "type", "keep").unwrap();
    let mut survey = Survey::new(css, style);
    survey.read(&rule.repeat(20));
    assert_eq!(survey.style().number(Setting::MaxLineLength, Key::Whole), Some(140));
}

#[test]
fn of_blank_lines_at_edges_as_many_are_proposed_as_nearly_all_edges_keep_to() {
    let csharp = languages::by_name("csharp").unwrap();
    let most = |open: usize| {
        let (tight, edge) = (
            "    void A()\n    {\n        b();\n    }\n\n",
            "    void C()\n    {\n\n        d();\n    }\n\n",
        );
        let members = tight.repeat(400 - open) + &edge.repeat(open);
        let mut survey = Survey::new(csharp, csharp.style());
        survey.read(&format!(
            "class Gauge\n{{\n{}}}\n",
            members.trim_end_matches('\n').to_string() + "\n"
        ));
        let answers = survey.answers();
        let told = answers.iter().find(|answer| answer.name == "blank_lines.at_edges").cloned();
        let places = told.map(|answer| answer.places);
        (survey.style().number(Setting::BlankLines, Key::AtEdges), places)
    };
    assert_eq!((most(4), most(40)), ((Some(0), Some(802)), (Some(1), Some(802))));
}

#[test]
fn a_few_places_are_no_evidence() {
    let python = languages::by_name("python").unwrap();
    let quotes = |text: &str| {
        let mut survey = Survey::new(python, python.style());
        survey.read(text);
        survey.style().is(Setting::Quotes, Key::Whole, "single")
    };
    assert!(!quotes("a = 'low'\nb = 'high'\n") && quotes(&"a = 'low'\n".repeat(5)));
}

#[test]
fn steps_of_tabs_and_spaces_are_found_and_told_only_where_there_are_some() {
    let of = |deep: &str| {
        let body = format!("if high then\n    if quiet then\n{deep}wake()\n    end\nend\n");
        let text = body.repeat(20);
        let lua = languages::by_name("lua").unwrap();
        let mut survey = Survey::new(lua, lua.style());
        survey.read(&text);
        let answer =
            survey.answers().into_iter().find(|answer| answer.name == "indent_size").unwrap();
        let told = answer.costs.iter().any(|cost| cost.value.ends_with("mixed"));
        (answer.proposed, survey.style().tab_columns(), told)
    };
    assert_eq!(of("\t"), ("4 mixed".to_string(), 8, true));
    assert_eq!(of("        "), ("4".to_string(), 4, false));
}

/// What nearly all have is proposed, unless the others are clearly more than a few lines.
#[test]
fn quotes_are_left_where_to_change_them_costs_too_much() {
    let lua = languages::by_name("lua").unwrap();
    let quotes = |others: usize| {
        let mut survey = Survey::new(lua, lua.style());
        survey.read(&"a = \"low\"\n".repeat(2000 - others));
        survey.read(&"a = 'low'\n".repeat(others));
        survey.style().get(Setting::Quotes, Key::Whole).to_string()
    };
    assert_eq!([5, 10].map(quotes), ["double", "keep"]);
}

#[test]
fn a_step_of_one_column_is_found_and_none_is_told_that_nothing_has() {
    let python = languages::by_name("python").unwrap();
    let mut survey = Survey::new(python, python.style());
    survey.read(&"def ebb():\n low()\n high()\n\n\n".repeat(5));
    let answers = survey.answers();
    let step = answers.iter().find(|answer| answer.name == "indent_size").unwrap();
    assert_eq!(step.proposed, "1");
    let told: Vec<&str> = step.costs.iter().map(|cost| cost.value.as_str()).collect();
    assert_eq!(told, ["1", "4"]);
}

#[test]
fn what_is_lined_up_in_columns_was_put_there() {
    let script = languages::by_name("javascript").unwrap();
    let proposed = |pairs: usize| {
        let mut survey = Survey::new(script, script.style());
        let pair = "let a = 1;   // the ebb\nlet bb = 2;  // the flood\n\nlet c;\n";
        survey.read(&pair.repeat(pairs));
        // So many lines that nothing else would be kept for as few places.
        for _ in 0..15 {
            survey.read(&"let a = 1;\n".repeat(200));
        }
        survey.style().is(Setting::Columns, Key::Comment, "keep")
    };
    assert!(proposed(3) && !proposed(1));
}

/// Blanks that line comments up say nothing of those that lone comments have.
#[test]
fn blanks_before_comments_are_kept_where_they_come_as_they_may() {
    let proposed = |language: &str, text: &str| {
        let language = languages::by_name(language).unwrap();
        let mut survey = Survey::new(language, language.style());
        (0..15).for_each(|_| survey.read(&text.repeat(10)));
        let style = survey.style();
        let of = |setting, key| style.get(setting, key).to_string();
        (of(Setting::Columns, Key::Comment), of(Setting::CommentGap, Key::Before))
    };
    let lined_up = "let a = 1;   // the ebb\nlet bb = 2;  // the flood\n\nlet c;\n\n";
    let (columns, before) = proposed("javascript", lined_up);
    assert_eq!((columns.as_str(), before.as_str()), ("keep", "1"));
    let mixed = "let a = 1; // ebb\n\nlet b = 2;  // flood\n\n";
    assert_eq!(proposed("javascript", mixed).1, "keep");
}

/// A community that takes a list as it stands is not left for a value that a part of the code does
/// not have.
#[test]
fn what_the_community_keeps_stays_kept_where_the_code_is_mixed() {
    let ruby = languages::by_name("ruby").unwrap();
    let align = |other: usize| {
        let step = "tides = {\n  low: 1,\n  high: 2\n}\n".repeat(60);
        let bracket = "tides = { low: 1,\n          high: 2,\n          slack: 3 }\n";
        let mut survey = Survey::new(ruby, ruby.style());
        survey.read(&(step + &bracket.repeat(other)));
        survey.read(&"a = 1\n".repeat(3600));
        let style = survey.style();
        style.get(Setting::WrapAlign, Key::Collection).to_string()
    };
    assert_eq!((align(0).as_str(), align(1).as_str()), ("step", "step"));
    assert_eq!(align(10), "keep");
}

#[test]
fn of_two_answers_that_speak_for_each_other_the_one_that_spares_more_comes_first() {
    let html = languages::by_name("html").unwrap();
    let mut base = html.style();
    base.set("indent_size", "", "4").unwrap();
    base.set("page_indent", "", "true").unwrap();
    let page = "<html>\n<body>\n    <p>ebb</p>\n    <div>\n        <p>low</p>\n    </div>\n</body>\n</html>\n";
    let mut survey = Survey::new(html, base);
    (0..5).for_each(|_| survey.read(page));
    // In steps of two columns, most lines would stand where they do, too.
    let style = survey.style();
    let root = style.get(Setting::PageIndent, Key::Root).to_string();
    assert_eq!((style.indent_columns(), root.as_str()), (4, "false"));
}

/// Types at the margin and wide steps leave as many methods where they are as steps of two columns do.
#[test]
fn how_wide_a_step_is_comes_before_where_a_namespace_has_its_types() {
    let csharp = languages::by_name("csharp").unwrap();
    let member = "    void Ebb()\n    {\n      Low();\n    }\n\n";
    let text = format!(
        "namespace Tides\n{{\n  class Quay\n  {{\n{}    int level;\n  }}\n}}\n",
        member.repeat(4)
    );
    let read = |texts: &[&str], style: Style| {
        let mut survey = Survey::new(csharp, style);
        texts.iter().for_each(|text| survey.read(text));
        survey
    };
    let style = Survey::settle(&[text.as_str(); 3], csharp, read).style();
    assert_eq!(style.indent_columns(), 2);
    assert!(
        style.is(Setting::NamespaceIndent, Key::Whole, "keep")
            || style.flag(Setting::NamespaceIndent, Key::Whole)
    );
}

#[test]
fn a_setting_may_be_left_as_the_community_has_it() {
    let python = languages::by_name("python").unwrap();
    let mut survey = Survey::new(python, python.style());
    survey.read(&"a = 'low'\nc = f( 1 )\n".repeat(5));
    let gap = |survey: &Survey| survey.style().flag(Setting::InnerGap, Key::Parens);
    assert!(survey.style().is(Setting::Quotes, Key::Whole, "single") && gap(&survey));
    let left = survey.with_usual("inner_gap.parens");
    assert!(left.style().is(Setting::Quotes, Key::Whole, "single") && !gap(&left));
}

/// What it spares may all be other settings' slips.
#[test]
fn no_value_is_proposed_that_the_settings_own_places_speak_against() {
    let typescript = languages::by_name("typescript").unwrap();
    let is_next_line = |own: usize| {
        let new = Survey::new(typescript, typescript.style());
        let mut survey = Survey { lines: 1_000, ..new };
        let asked = survey.questions.iter().zip(&mut survey.prices);
        for (question, prices) in asked.filter(|(asked, _)| asked.name() == "open_brace.lambda") {
            for (candidate, price) in question.candidates.iter().zip(prices) {
                (price.own, price.all) = match &candidate.name[..] {
                    "next_line" => (own, 10),
                    _ => (2, 60),
                };
            }
        }
        survey.style().is(Setting::OpenBrace, Key::Lambda, "next_line")
    };
    assert!(is_next_line(2) && !is_next_line(40));
}
