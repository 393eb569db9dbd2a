//! Chains of calls and fields, and where somebody broke them.

use crate::support::{becomes, java, lay_with};

#[test]
fn a_list_opens_around_a_chain_with_lines_of_its_own() {
    becomes("rust", &[(
        "fn a() {\n    read(self.buoy\n        .take()\n        .unwrap(), late)\n}\n",
        "fn a() {\n    read(\n        self.buoy\n            .take()\n            .unwrap(),\n        late,\n    )\n}\n",
    )]);
    becomes("javascript", &[(
        "read(buoy\n  .take()\n  .unwrap(), late);\n",
        "read(\n  buoy\n    .take()\n    .unwrap(),\n  late\n);\n",
    )]);
}

#[test]
fn a_chain_stays_as_somebody_opened_it() {
    let java_text = "b.readings(quay).since(night)\n        .sorted().first()\n        .show();\n";
    java(java_text, java_text);
    for (language, text) in [
        ("javascript", "buoys.open(quay)\n  .filter(live).map(level)\n  .forEach(show);\n"),
        (
            "python",
            "a = (\n    buoys.open(quay)\n    .filter(live).order_by(level)\n    .all()\n)\n",
        ),
        ("ruby", "buoys.open(quay)\n  .select(&:live).map(&:level)\n  .each(&show)\n"),
    ] {
        becomes(language, &[(text, text)]);
    }
    // Where a link stands behind lines, all have their own; and Rust's always do.
    becomes("javascript", &[(
        "buoys.filter(function (b) {\n  return b.live;\n}).map(level)\n  .forEach(show);\n",
        "buoys.filter(function (b) {\n  return b.live;\n})\n  .map(level)\n  .forEach(show);\n",
    )]);
    becomes("rust", &[(
        "fn a() {\n    buoys.iter()\n        .filter(live).map(level)\n        .collect()\n}\n",
        "fn a() {\n    buoys\n        .iter()\n        .filter(live)\n        .map(level)\n        .collect()\n}\n",
    )]);
}

#[test]
fn where_nothing_is_remembered_a_field_stands_behind_the_call_before_it() {
    let settings = [("list_wrap", "", "fit"), ("max_line_length", "", "50")];
    let text = "\
const tide = gauges
  .find(springTide)
  ?.instance.readNow(andThenAgain);
";
    let flat = text.replace("\n  ", "");
    let wanted = lay_with("javascript", &settings, &flat);
    assert_eq!(lay_with("javascript", &settings, text), wanted);
    assert_eq!(wanted, text.replace("\n  ?.instance", "?.instance\n  "));
}

#[test]
fn a_chain_of_two_calls_breaks_at_its_points_before_its_last_plain_arguments_open() {
    becomes("javascript", &[(
        "const names = await this.gauges.findAll({ where: { open: true }, limit: 20 }).then((all) => all.names);\n",
        "const names = await this.gauges\n  .findAll({ where: { open: true }, limit: 20 })\n  .then((all) => all.names);\n",
    )]);
    java(
        "String level = gauges.find(springTideAtTheOldQuay, surgeOfTheNight).readAll(fromTheEbb, untilTheFlood);\n",
        "String level = gauges.find(springTideAtTheOldQuay, surgeOfTheNight)\n        .readAll(fromTheEbb, untilTheFlood);\n",
    );
    becomes("javascript", &[(
        "expect(wrapper.find('TheTableOfTheTides').prop('levels')).toEqual({ first: 1, second: 2, third: 3 });\n",
        "expect(wrapper.find('TheTableOfTheTides').prop('levels')).toEqual({\n  first: 1,\n  second: 2,\n  third: 3\n});\n",
    )]);
}

#[test]
fn a_call_before_the_last_one_is_not_opened_for_it() {
    java(
        "Support level = inferFrom(TideOfTheOldQuay.class).resolveReturnType(named(\"get\", TideOfTheOldQuay.class));\n",
        "Support level = inferFrom(TideOfTheOldQuay.class)\n        .resolveReturnType(named(\"get\", TideOfTheOldQuay.class));\n",
    );
    java(
        "Support level = new SupportOfTheTide().resolve(theOldQuay, surgeOfTheNight, riverBehindTheLock);\n",
        "Support level =\n        new SupportOfTheTide().resolve(theOldQuay, surgeOfTheNight, riverBehindTheLock);\n",
    );
    becomes("csharp", &[(
        "var level = InferFrom(typeof(TideOfTheOldQuay)).ResolveReturnType(Named(\"get\", typeof(TideOfTheOldQuay), surgeOfTheNight));\n",
        "var level = InferFrom(typeof(TideOfTheOldQuay))\n    .ResolveReturnType(Named(\"get\", typeof(TideOfTheOldQuay), surgeOfTheNight));\n",
    )]);
    becomes("rust", &[(
        "fn a() {\n    let level = quay.part(0).is_some_and(|left| tide.is_higher_than(left, surge_of_the_night, river));\n}\n",
        "fn a() {\n    let level = quay\n        .part(0)\n        .is_some_and(|left| tide.is_higher_than(left, surge_of_the_night, river));\n}\n",
    )]);
}

#[test]
fn blank_lines_divide_a_long_chain() {
    let chain = "tides\n  .filter(isHigh)\n\n  // by day\n  .map(toDay)\n\n  .sort();\n";
    becomes("javascript", &[(chain, chain)]);
}

#[test]
fn a_chain_breaks_at_its_points_around_a_block_before_its_last_link() {
    let wanted = "\
fn a() {
    let app = Router::new()
        .route(\"/gauges\", get(|| async {
            level()
        }))
        .route(\"/alarms\", post(alarm))
        .layer(cors);
    gauges.iter().filter(is_high).for_each(|gauge| {
        warn(gauge);
    });
}
";
    let joined = wanted
        .replace("\n        .", ".")
        .replace("        }))\n", "    }))")
        .replace("            level", "        level");
    becomes("rust", &[(&joined, wanted)]);
}

/// An operator behind a chain with lines of its own is not pulled up to the chain's last line: it would go
/// down again.
#[test]
fn an_operator_behind_a_chain_in_lines_stays_below_it() {
    let canon = [
        ("max_line_length", "", "60"),
        ("close_bracket", "", "with_last"),
        ("paren_gap", "call", "true"),
        ("wrap_indent", "chain", "4"),
        ("wrap_indent", "list", "3"),
    ];
    let text = "\
fn saltmarsh() {
    {
        assert!(gauges_of_the_quay.neighbors_of_tide(i).count() > 0);
    }
}
";
    insta::assert_snapshot!(lay_with("rust", &canon, text), @"
    fn saltmarsh() {
        {
            assert!(gauges_of_the_quay
                            .neighbors_of_tide (i)
                            .count ()
                            > 0);
        }
    }
    ");
}

/// What begins a line behind the end of a list in lines was put there.
#[test]
fn a_call_behind_the_end_of_a_list_in_lines_stays_where_it_is() {
    let text = "\
fn quay() -> Result<Level, TideError> {
    Err(Report {
        gauge: Gauge::Quay,
    }
    .into())
}
";
    assert_eq!(lay_with("rust", &[], text), text);
}

/// A line begins at one side of a dot alone, whatever else is kept.
#[test]
fn a_dot_has_no_line_of_its_own() {
    for (place, wanted) in [
        ("leads", "level = harbour\n  .gauges(low)\n  .map(high)\n"),
        ("trails", "level = harbour.\n  gauges(low).\n  map(high)\n"),
    ] {
        for text in [
            "level = harbour.\n  gauges(low).\n  map(high)\n",
            "level = harbour\n  .gauges(low)\n  .map(high)\n",
        ] {
            let style = [("dot_place", "", place), ("word_gap", "", "keep")];
            assert_eq!(lay_with("ruby", &style, text), wanted);
        }
    }
}

/// A lone link begins a line where it fits there; where its arguments have to open all the same, they do so
/// behind the call before it.
#[test]
fn a_lone_link_that_fits_nowhere_opens_its_arguments_where_it_is() {
    let canon = [("max_line_length", "", "50")];
    let of = |call: &str| format!("class G {{\n    void l() {{\n        {call}\n    }}\n}}\n");
    for (text, wanted) in [
        (
            "given(quay()).warn(high, low, mole, the_pier);",
            "given(quay())\n                .warn(high, low, mole, the_pier);",
        ),
        (
            "given(quay()).warn(high, low, mole_of_the_town, pier);",
            "given(quay()).warn(\n                high,\n                low,\n                \
                mole_of_the_town,\n                pier);",
        ),
    ] {
        let (text, wanted) = (of(text), of(wanted));
        assert_eq!(lay_with("java", &canon, &text), wanted);
        assert_eq!(lay_with("java", &canon, &wanted), wanted);
    }
}

/// A word between two operands is an operator as any other: the line is broken there, and not at the calls
/// before it.
#[test]
fn a_line_is_broken_at_an_operator_that_is_a_word() {
    let canon = [("max_line_length", "", "50")];
    let java = |lines: &str| format!("class G {{\n    void l() {{\n        {lines}\n    }}\n}}\n");
    let csharp = |lines: &str| format!(
        "class G\n{{\n    void L()\n    {{\n        {lines}\n    }}\n}}\n"
    );
    for (language, text, wanted) in [
        (
            "java",
            java("return quay().gauges(low).first() instanceof Tide;"),
            java("return quay().gauges(low).first()\n                instanceof Tide;"),
        ),
        (
            "java",
            java("return a.gauge() instanceof Tide t && t.isHigh();"),
            java("return a.gauge() instanceof Tide t\n                && t.isHigh();"),
        ),
        (
            "csharp",
            csharp("level = Quay().Gauges(low).First() as TidalGauge;"),
            csharp("level = Quay().Gauges(low).First()\n            as TidalGauge;"),
        ),
        (
            "csharp",
            csharp("return Quay().Gauges(low).First() is not Tide tide;"),
            csharp("return Quay().Gauges(low).First()\n            is not Tide tide;"),
        ),
        (
            "csharp",
            csharp("return Quay().Gauges(low).First() is Tide or Ebb;"),
            csharp("return Quay().Gauges(low).First() is Tide\n            or Ebb;"),
        ),
    ] {
        assert_eq!(lay_with(language, &canon, &text), wanted);
        assert_eq!(lay_with(language, &canon, &wanted), wanted);
    }
}

/// Operators that are all that a call holds go on behind its bracket, unless they fit on the next line;
/// where somebody put them there, they stay.
#[test]
fn operators_alone_in_a_call_begin_where_somebody_put_them() {
    let canon = [("max_line_length", "", "50")];
    let of = |call: &str| format!("class G {{\n    void l() {{\n        {call}\n    }}\n}}\n");
    for (text, wanted) in [
        (
            "check(quay.gauges().first() == mole.gauges().last());",
            "check(quay.gauges().first()\n                == mole.gauges().last());",
        ),
        (
            "check(\n                quay.gauges().first()\n                    == mole.gauges().last());",
            "check(\n                quay.gauges().first()\n                    == mole.gauges().last());",
        ),
        (
            "checkBoth(quay.gauges() == mole.gauges(9));",
            "checkBoth(\n                quay.gauges() == mole.gauges(9));",
        ),
    ] {
        let (text, wanted) = (of(text), of(wanted));
        assert_eq!(lay_with("java", &canon, &text), wanted);
        assert_eq!(lay_with("java", &canon, &wanted), wanted);
    }
}
