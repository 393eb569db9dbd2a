//! What somebody chose, and what nobody would have: in each language that has the construct, a text
//! and what its own style makes of it.

use crate::support::{lay_with, touched};

/// Holds each text against what is made of it, and that against itself.
fn becomes(language: &str, pairs: &[(&str, &str)]) {
    for (text, wanted) in pairs {
        assert_eq!(lay_with(language, &[], text), *wanted, "{language}");
        assert_eq!(lay_with(language, &[], wanted), *wanted, "{language}, once more");
    }
}

/// A Java or C# method's statements.
fn method(statements: &str) -> String {
    let lines = statements.lines().map(|line| format!("        {line}\n"));
    format!("class A {{\n    void b() {{\n{}    }}\n}}\n", lines.collect::<String>())
}

fn java(text: &str, wanted: &str) {
    becomes("java", &[(&method(text), &method(wanted))]);
}

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
    let long = "warn(springTideAtTheOldQuay, surgeOfTheNight\n        + river);\n";
    java(long, long);
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
fn alternatives_behind_bars_open_around_lines() {
    becomes("typescript", &[(
        "type A = | {\n  b: string;\n} | {\n  c: string;\n};\n",
        "type A =\n  | {\n    b: string;\n  }\n  | {\n    c: string;\n  };\n",
    )]);
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
        ("const [, high, , ] = levels;\n", "const [, high,,] = levels;\n"),
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
