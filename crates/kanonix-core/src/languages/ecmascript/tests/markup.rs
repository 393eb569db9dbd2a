//! How markup in JavaScript and TypeScript is laid out. A gap with a line break in it means nothing
//! there; one of blanks alone is shown, and stays.

use crate::languages::testing::{lay, lay_with, lines};

const NARROW: (&str, &str, &str) = ("max_line_length", "", "40");

#[test]
fn tags_and_attributes() {
    let laid = lay("javascript", &lines(&[
        "a = <br/>",
        "b = <p  kind='c'   {...d} >e</p>",
        "f = <g.h i:j='k' l={ m } n/>",
        "o = <></>",
        "q = <r s={<t/>} u={v=>w} />",
    ]));
    insta::assert_snapshot!(laid, @r#"
    a = <br />
    b = <p kind="c" {...d}>e</p>
    f = <g.h i:j="k" l={m} n />
    o = <></>
    q = <r s={<t />} u={v => w} />
    "#);
}

#[test]
fn the_two_marks_of_a_tag_without_a_name_stay_apart() {
    let text = "const a = <p>b< /></p>;\n";
    assert_eq!(lay_with("tsx", &[("inner_gap", "tag_end", "false")], text), text);
}

#[test]
fn attributes_open_one_a_line() {
    let text = "a = <Chart gauge={gauge} from={first} to={last}>{level}</Chart>\n";
    insta::assert_snapshot!(lay_with("javascript", &[NARROW], text), @"
    a = <Chart
      gauge={gauge}
      from={first}
      to={last}
    >
      {level}
    </Chart>
    ");
    let with_last = [NARROW, ("tag_end", "", "with_last")];
    insta::assert_snapshot!(lay_with("javascript", &with_last, text), @"
    a = <Chart
      gauge={gauge}
      from={first}
      to={last}>
      {level}
    </Chart>
    ");
}

#[test]
fn an_only_attribute_keeps_its_function_with_it() {
    let text = "a = <Chart onPick={level => { pick(level); draw(level) }} />\n";
    insta::assert_snapshot!(lay_with("javascript", &[NARROW], text), @"
    a = <Chart onPick={level => {
      pick(level);
      draw(level)
    }} />
    ");
}

#[test]
fn blanks_that_are_shown_stay() {
    let text = "a = <p>high  water at <b>noon</b> , low water <i>later</i></p>\n";
    let opened = "a = <p>\n  high  water at <b>noon</b> , low water <i>later</i>\n</p>\n";
    let max = ("max_line_length", "", "56");
    assert_eq!(lay_with("javascript", &[max], text), opened);
    // It fits no line.
    assert_eq!(lay_with("javascript", &[NARROW], text), text);
    let spread = "a = <p>\n   high <b>noon</b>,\n  low\n</p>\n";
    insta::assert_snapshot!(lay("javascript", spread), @"
    a = <p>
      high <b>noon</b>,
      low
    </p>
    ");
}

#[test]
fn children_open_where_nothing_is_shown_between_them() {
    let text = "a = <ul><li>high water</li><li>low water</li>{slack}</ul>\n";
    insta::assert_snapshot!(lay_with("javascript", &[NARROW], text), @"
    a = <ul>
      <li>high water</li>
      <li>low water</li>
      {slack}
    </ul>
    ");
}

#[test]
fn markup_over_lines_stands_between_its_parentheses() {
    let text = "function Panel() {\n  return (<p>\n    high\n  </p>)\n}\n";
    insta::assert_snapshot!(lay("javascript", text), @"
    function Panel() {
      return (
        <p>
          high
        </p>
      )
    }
    ");
}

#[test]
fn conditions_and_lists_stay_with_their_braces() {
    let text = lines(&[
        "a = <ul>",
        "  {open && <li>",
        "    high",
        "  </li>}",
        "  {open ? (<li>",
        "    high",
        "  </li>) : (<li>",
        "    low",
        "  </li>)}",
        "  {gauges.map(gauge => (<li>",
        "    {gauge}",
        "  </li>))}",
        "  {/* slack */}",
        "</ul>",
    ]);
    insta::assert_snapshot!(lay("javascript", &text), @"
    a = <ul>
      {open && <li>
        high
      </li>}
      {open ? (
        <li>
          high
        </li>
      ) : (
        <li>
          low
        </li>
      )}
      {gauges.map(gauge => (
        <li>
          {gauge}
        </li>
      ))}
      {/* slack */}
    </ul>
    ");
}

#[test]
fn quotes_and_gaps_of_markup_are_its_own() {
    let settings = [("markup_quotes", "", "single"), ("inner_gap", "markup", "true")];
    let laid = lay_with("javascript", &settings, "a = <p b=\"c\" d=\"e'f\" g={h}>{i}</p>\n");
    assert_eq!(laid, "a = <p b='c' d=\"e'f\" g={ h }>{ i }</p>\n");
}

#[test]
fn the_lines_of_a_text_stay_lines_where_lists_are_filled() {
    let text = "let a = <p>\n  Ebb <b>low</b>.\n  Slack\n</p>;\n";
    assert_eq!(lay_with("javascript", &[("list_wrap", "", "rows")], text), text);
}

#[test]
fn the_words_of_a_class_are_in_the_agreed_order() {
    let order = [("word_order", "groups", r#"["flex grid", "p-*"]"#)];
    let lay = |value: &str| {
        let laid = lay_with("javascript", &order, &format!("a = <p className={value} />;\n"));
        laid["a = <p className=".len()..laid.len() - " />;\n".len()].to_string()
    };
    let laid = [
        "'p-4 flex'",
        "{`p-4 flex`}",
        "{`p-4 flex ${b ? '}' : \"x {\"} p-4 flex p-${c} flex`}",
    ];
    assert_eq!(
        laid.map(lay),
        [
            "\"flex p-4\"",
            "{`flex p-4`}",
            "{`flex p-4 ${b ? '}' : \"x {\"} flex p-4 p-${c} flex`}",
        ]
    );
    let stays = [
        "{\"p-4 flex\"}",
        "{b ? `p-4 flex` : c}",
        "{`p-4\\tflex`}",
        "{`${b /* } p-4 flex */} p-4 flex`}",
        "{`${b ? `p-4 flex` : c} p-4 flex`}",
    ];
    assert_eq!(stays.map(lay), stays);
}

/// The bracket stands below a value that somebody put on its own line.
#[test]
fn a_function_in_markup_gives_its_value_on_its_own_line() {
    let text = "\
const a = (
  <Quay
    read={gauge =>
      readingOfTheNorthernGauge(gauge) + readingOfTheSouthernGauge(gauge, slackWaterAtNoon)
    }
    flood={() =>
      set({
        level: 2,
      })
    }
  />
);
";
    assert_eq!(lay("tsx", text), text);
}

/// An answer in parentheses has its lines inside them, as the other one has.
#[test]
fn an_answer_beside_markup_keeps_its_lines() {
    let text = "\
const a = low ? (
  <Ebb />
) : flood ? (
  <Flood level={level} />
) : (
  children
);
";
    assert_eq!(lay("tsx", text), text);
    let short = "const a = low ? (\n  level\n) : high;\n";
    assert_eq!(lay("tsx", short), "const a = low ? (level) : high;\n");
}

/// Markup behind the last of several conditions stays there where somebody opened it.
#[test]
fn markup_behind_conditions_on_lines_of_their_own_stays_behind_them() {
    let text = lines(&[
        "const a = (",
        "  <View>",
        "    {list &&",
        "      more &&",
        "      onChange && (",
        "        <View>",
        "          <Text>ebb</Text>",
        "        </View>",
        "      )}",
        "  </View>",
        ");",
    ]);
    assert_eq!(lay("tsx", &text), text);
    // What begins a line keeps it.
    let below =
        text.replace("onChange && (\n        <View>", "onChange &&\n      (\n        <View>");
    assert_eq!(lay("tsx", &below), below);
    let tight = text.replace("onChange && (", "onChange &&(");
    assert_eq!(lay_with("tsx", &[("operator_gap", "logic", "false")], &text), tight
        .replace("list &&", "list&&")
        .replace("more &&", "more&&")
        .replace("onChange &&", "onChange&&"));
}
