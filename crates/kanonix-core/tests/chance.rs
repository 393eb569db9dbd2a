//! What is made of lines that were typed in a hurry: breaks that nobody would choose go, and others come
//! where a careful person has them.

use crate::support::{becomes, java};

#[test]
fn what_a_function_ends_stays_behind_its_brackets() {
    // Two of them have their lines by choice.
    let two =
        "later.then(\n  function () {\n    warn();\n  },\n  function () {\n    ring();\n  }\n);\n";
    becomes("javascript", &[(two, two)]);
    // A break behind the bracket of a call that a last function ends is nobody's choice where its head fits.
    becomes("javascript", &[
        (
            "test(\n  'ebb at the quay',\n  () => {\n    warn();\n  }\n);\n",
            "test('ebb at the quay', () => {\n  warn();\n});\n",
        ),
        (
            "setTimeout(\n  () => {\n    warn();\n  },\n  100\n);\n",
            "setTimeout(\n  () => {\n    warn();\n  },\n  100\n);\n",
        ),
    ]);
    becomes("rust", &[
        (
            "fn a() {\n    bench.iter(\n        || {\n            warn();\n        },\n    );\n}\n",
            "fn a() {\n    bench.iter(|| {\n        warn();\n    });\n}\n",
        ),
    ]);
}

#[test]
fn one_row_inside_brackets_goes_back_between_them() {
    // All arguments, or one short one, on a line of their own, in what fits with them.
    becomes("javascript", &[
        (
            "Object.freeze(\n  exports, level, { value: true }\n);\n",
            "Object.freeze(exports, level, { value: true });\n",
        ),
    ]);
    becomes("rust", &[
        (
            "use tide::time::{\n    Ebb, Flood\n};\nfn poll(\n    self: Pin<&mut Self>, level: &mut Level\n) {}\n",
            "use tide::time::{Ebb, Flood};\nfn poll(self: Pin<&mut Self>, level: &mut Level) {}\n",
        ),
        (
            "fn a() {\n    for (\n        level, quay\n    ) in levels {}\n    let a = zeros((\n        low, high\n    ));\n    let b = Level::new(\n        read(low),\n    );\n}\n",
            "fn a() {\n    for (level, quay) in levels {}\n    let a = zeros((low, high));\n    let b = Level::new(read(low));\n}\n",
        ),
    ]);
    becomes("typescript", &[
        (
            "let level: Tide<\n  Level, typeof surge\n>;\n",
            "let level: Tide<Level, typeof surge>;\n",
        ),
    ]);
    becomes("python", &[
        (
            "warn(\n    gauge, level, unit=metres\n)\n",
            "warn(gauge, level, unit=metres)\n",
        ),
    ]);
}

#[test]
fn what_is_inside_is_not_broken_before_what_is_around_it() {
    // A list or a chain that is broken inside another one that is not.
    java(
        "assertEquals(\"the tide of the old quay\", gauge.level()\n        .ofTheNight());\n",
        "assertEquals(\"the tide of the old quay\", gauge.level().ofTheNight());\n",
    );
    java(
        "boolean c = low && high && tideOfTheOldQuayAtNight\n        != surge;\n",
        "boolean c = low && high && tideOfTheOldQuayAtNight != surge;\n",
    );
    becomes("lua", &[
        (
            "rules = {{'ebb', ebb}, {'flood', flood}, {'the highest tide', highest}, {\n  'the lowest tide', lowest\n}, {'surge', surge}}\n",
            "rules = {\n  {'ebb', ebb},\n  {'flood', flood},\n  {'the highest tide', highest},\n  {'the lowest tide', lowest},\n  {'surge', surge}\n}\n",
        ),
    ]);
    becomes("gdscript", &[
        (
            "func a():\n\tview.draw(quay + Tide(0, 3), 6.0 + level, 0.0, TAU, 16, Shade(\n\t\t\t1,\n\t\t\t1,\n\t\t\t0.6\n\t), 1.0, springTide, theSurgeOfTheNight)\n",
            "func a():\n\tview.draw(\n\t\t\tquay + Tide(0, 3),\n\t\t\t6.0 + level,\n\t\t\t0.0,\n\t\t\tTAU,\n\t\t\t16,\n\t\t\tShade(1, 1, 0.6),\n\t\t\t1.0,\n\t\t\tspringTide,\n\t\t\ttheSurgeOfTheNight\n\t)\n",
        ),
    ]);
}

#[test]
fn what_stands_beside_its_bracket_stands_under_it_or_in_lines() {
    becomes("python", &[
        (
            "LEVELS = (spring_tide_at_the_quay,\n    neap_tide_at_the_quay, surge_of_the_night, river_behind_the_lock)\n",
            "LEVELS = (\n    spring_tide_at_the_quay,\n    neap_tide_at_the_quay,\n    surge_of_the_night,\n    river_behind_the_lock)\n",
        ),
    ]);
}

#[test]
fn pairs_have_a_line_each_where_most_of_them_do() {
    becomes("python", &[
        (
            "levels = {\n    \"spring\": 5,\n    \"neap\": 3, \"surge\": 2,\n    \"river\": 1,\n    \"ebb\": 0,\n}\n",
            "levels = {\n    \"spring\": 5,\n    \"neap\": 3,\n    \"surge\": 2,\n    \"river\": 1,\n    \"ebb\": 0,\n}\n",
        ),
    ]);
}

#[test]
fn a_chain_is_not_broken_at_its_first_link_alone() {
    becomes("javascript", &[
        (
            "const names = gauges\n  .ofTheOldQuay().filter((gauge) => gauge.isOpen());\n",
            "const names = gauges.ofTheOldQuay().filter((gauge) => gauge.isOpen());\n",
        ),
        (
            "harbour()\n  .gauges(quay)\n  .levels.tap((level) => warn(level));\n",
            "harbour()\n  .gauges(quay)\n  .levels.tap((level) => warn(level));\n",
        ),
    ]);
}

#[test]
fn what_a_short_call_follows_opens_before_it() {
    becomes("javascript", &[
        (
            "const drawn = [[springTideAtTheOldQuay, surgeOfTheNight].join(' '), 'river behind the lock'].join(',');\n",
            "const drawn = [\n  [springTideAtTheOldQuay, surgeOfTheNight].join(' '),\n  'river behind the lock'\n].join(',');\n",
        ),
        (
            "const { spring = false, neap = false, low = 0, high = 100, step = 1, level = 0, ...others } = tides.all;\n",
            "const {\n  spring = false,\n  neap = false,\n  low = 0,\n  high = 100,\n  step = 1,\n  level = 0,\n  ...others\n} = tides.all;\n",
        ),
        (
            "const level = measure('the tide of the old quay at night and by day, in metres and in feet', async (tide, { quay, hour }) => {\n  return tide;\n});\n",
            "const level = measure(\n  'the tide of the old quay at night and by day, in metres and in feet',\n  async (tide, { quay, hour }) => {\n    return tide;\n  }\n);\n",
        ),
    ]);
}

#[test]
fn a_line_that_only_holds_an_opening_bracket_goes() {
    // However long the lines inside are.
    let long = format!("local level =\n  [[\n{}]]\n", "tide ".repeat(20));
    becomes(
        "lua",
        &[(&long, &long.replace("=\n  ", "= ")), ("local a =\n  [[\n]]\n", "local a = [[\n]]\n")],
    );
    becomes("javascript", &[
        (
            "const item =\n  css`\n    margin: 0;\n  `;\n",
            "const item = css`\n    margin: 0;\n  `;\n",
        ),
    ]);
    becomes("typescript", &[
        (
            "const has =\n  (\n    level: Level,\n    quay: Quay\n  ) => {\n    return level;\n  };\n",
            "const has = (\n  level: Level,\n  quay: Quay\n) => {\n  return level;\n};\n",
        ),
        (
            "function Panel(\n  {\n    level,\n    quay,\n  }: PanelProps\n) {}\n",
            "function Panel({\n  level,\n  quay,\n}: PanelProps) {}\n",
        ),
    ]);
    becomes("tsx", &[
        (
            "const a = (\n  <Provider\n    values={\n      [\n        [Tide, level],\n        [Quay, name],\n      ]\n    }\n  />\n);\n",
            "const a = (\n  <Provider\n    values={[\n      [Tide, level],\n      [Quay, name],\n    ]}\n  />\n);\n",
        ),
    ]);
}

#[test]
fn lines_in_markup_have_one_thing_each_where_one_takes_several() {
    becomes("tsx", &[
        (
            "const a = (\n  <p>\n    {low && (\n      <b />\n    )}{high && (\n      <i />\n    )}\n  </p>\n);\n",
            "const a = (\n  <p>\n    {low && (\n      <b />\n    )}\n    {high && (\n      <i />\n    )}\n  </p>\n);\n",
        ),
    ]);
}

#[test]
fn a_comment_behind_an_answer_leaves_the_next_one_its_place() {
    becomes("javascript", &[
        (
            "const level = low === 1\n  ? ebb // at the quay\n      : flood;\n",
            "const level = low === 1\n  ? ebb // at the quay\n  : flood;\n",
        ),
    ]);
}

#[test]
fn a_body_that_has_no_room_behind_its_header_goes_below_it() {
    java(
        "if (springTide.isAbove(theOldQuay)) level = tides.between(springTide.first(), springTide.last(), hour);\n",
        "if (springTide.isAbove(theOldQuay))\n    level = tides.between(springTide.first(), springTide.last(), hour);\n",
    );
}

#[test]
fn values_of_a_style_are_apart() {
    becomes("css", &[
        (
            "a {\n  transition:margin 0s\n    0.2s,\n    opacity 0.2s ease-in, width 1s;\n  background:linear-gradient(rgba(1,2,3,0.8)0%,rgba(4,5,6,0.8)100%);\n}\n",
            "a {\n  transition: margin 0s 0.2s, opacity 0.2s ease-in, width 1s;\n  background: linear-gradient(rgba(1, 2, 3, 0.8) 0%, rgba(4, 5, 6, 0.8) 100%);\n}\n",
        ),
    ]);
}

#[test]
fn a_closing_bracket_stands_where_its_opening_one_says() {
    becomes("lua", &[
        (
            "it(\"ebb\", function()\n  warn()\nend\n)\n",
            "it(\"ebb\", function()\n  warn()\nend)\n",
        ),
    ]);
    becomes("gdscript", &[
        (
            "const A := {\n\t\"low\": 1,\n\t\"high\": 2,}\n",
            "const A := {\n\t\"low\": 1,\n\t\"high\": 2,\n}\n",
        ),
    ]);
}

#[test]
fn a_last_table_of_words_opens_alone() {
    becomes("lua", &[
        (
            "local keyword = token(KEYWORD, words{'springTide', 'neapTide', 'surge', 'river', 'ebb', 'flood', 'lowest', 'highest'})\n",
            "local keyword = token(KEYWORD, words{\n  'springTide', 'neapTide', 'surge', 'river', 'ebb', 'flood', 'lowest', 'highest'\n})\n",
        ),
    ]);
}

#[test]
fn a_name_behind_its_point_and_a_lone_attribute_are_drawn_up() {
    becomes("powershell", &[
        (
            "$level = $tide.\n      levels.first;\n",
            "$level = $tide.levels.first;\n",
        ),
    ]);
    becomes("html", &[
        (
            "<link rel=\"stylesheet\"\n   href=\"/tides.css\">\n",
            "<link rel=\"stylesheet\" href=\"/tides.css\">\n",
        ),
    ]);
}

#[test]
fn numbers_that_nothing_sets_off_are_in_no_column() {
    becomes("gdscript", &[
        (
            "@export_range(0.02,1.0,0.01) var a: float = 1\n@export_range(0.0,5.0,0.01) var b: float = 2\n@export_range(0.1,1.0,0.01) var c: float = 2\n",
            "@export_range(0.02, 1.0, 0.01) var a: float = 1\n@export_range(0.0, 5.0, 0.01) var b: float = 2\n@export_range(0.1, 1.0, 0.01) var c: float = 2\n",
        ),
    ]);
}

#[test]
fn an_annotation_has_a_line_before_what_it_belongs_to() {
    becomes("csharp", &[
        (
            "class A\n{\n    [Test] public void Rises()\n    {\n    }\n}\n",
            "class A\n{\n    [Test]\n    public void Rises()\n    {\n    }\n}\n",
        ),
    ]);
}

#[test]
fn what_stands_between_bars_is_a_list_and_a_brace_stands_behind_its_header() {
    becomes("rust", &[
        (
            "fn a() {\n    levels.for_each(|level\n , quay| warn(level));\n    look(|\n| {\n        warn();\n    });\n}\n",
            "fn a() {\n    levels.for_each(|level, quay| warn(level));\n    look(|| {\n        warn();\n    });\n}\n",
        ),
        (
            "fn a() {\n    if self.tide_of_the_old_quay() || level::<Quay>() == 0 || !level.is_low_enough_for_us()\n    {\n        return;\n    }\n}\n",
            "fn a() {\n    if self.tide_of_the_old_quay() || level::<Quay>() == 0 || !level.is_low_enough_for_us() {\n        return;\n    }\n}\n",
        ),
    ]);
}

#[test]
fn a_sign_before_a_number_stands_beside_the_operator_before_it() {
    becomes("lua", &[
        (
            "local a = P('ebb')^\n  -1\nlocal b = level - -1\n",
            "local a = P('ebb')^-1\nlocal b = level - -1\n",
        ),
    ]);
}

#[test]
fn a_function_on_one_line_is_none_over_lines_for_a_bracket_in_it() {
    becomes("gdscript", &[
        (
            "func f():\n\t(\n\t\tfunc () -> void: ebb.emit(\n\t\t\tday)\n\t).call_deferred()\n",
            "func f():\n\t(func() -> void: ebb.emit(day)).call_deferred()\n",
        ),
    ]);
}
