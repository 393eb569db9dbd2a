//! A few lines for each setting that its values lay out differently.

use super::{Entry, ValueKind, Slot};

/// A few lines in one language.
#[derive(Clone, Copy, Debug)]
pub struct Sample {
    /// The setting, with its key after a point.
    pub name: &'static str,
    /// The language's name.
    pub language: &'static str,
    /// The values that are shown; none for all that there are.
    pub values: &'static [&'static str],
    /// What else has to be agreed for the values to show: setting, key and value.
    pub with: &'static [(&'static str, &'static str, &'static str)],
    /// The lines as somebody wrote them.
    pub text: &'static str,
}

const NARROW: &[(&str, &str, &str)] = &[("max_line_length", "", "28")];

/// Where a brace may stand whose header takes one line.
const PLACES: &[&str] = &["same_line", "next_line", "keep"];

const fn of(name: &'static str, language: &'static str, text: &'static str) -> Sample {
    Sample { name, language, values: &[], with: &[], text }
}

const fn narrow(name: &'static str, language: &'static str, text: &'static str) -> Sample {
    Sample { with: NARROW, ..of(name, language, text) }
}

const fn some(values: &'static [&'static str], sample: Sample) -> Sample {
    Sample { values, ..sample }
}

const FUNCTIONS: &str = "def ebb():\n    pass\ndef flow():\n    pass\n";

const METHODS: &str = "class Gauge:\n    def read(self):\n        pass\n    def warn(self):\n\
                       \x20       pass\n";

const CLASSES: &str = "class Gauge:\n    level = 1\nclass Siren:\n    level = 2\n";

/// One sample for each key of each setting, in the registry's order.
pub static SAMPLES: &[Sample] = &[
    of("indent_style", "javascript", "if (ebb) {\n  if (low) {\n    warn();\n  }\n}\n"),
    some(&["2", "4", "8"], of("indent_size", "python", "def ebb(a):\n    return a\n")),
    Sample {
        values: &["4", "8"],
        with: &[("indent_style", "", "tab"), ("max_line_length", "", "28")],
        ..of("tab_width", "javascript", "if (ebb) {\n\twarn(theKeepers, level);\n}\n")
    },
    of("end_of_line", "python", "a = 1\n"),
    of("charset", "python", "a = 1\n"),
    of("trim_trailing_whitespace", "python", "a = 1   \nb = 2\n"),
    of("insert_final_newline", "python", "a = 1"),
    some(
        &["24", "60"],
        of("max_line_length", "javascript", "warn(keepers, level, siren);\n"),
    ),
    narrow(
        "open_brace.type",
        "java",
        "class Gauge {\n    int ebb;\n}\n\nclass Buoy extends Gauge\n        implements Ebb\n{\n    int \
         flood;\n}\n",
    ),
    narrow(
        "open_brace.function",
        "java",
        "class Gauge {\n    int ebb(int a) {\n        return a;\n    }\n\n    int flood(int level)\n            \
         throws Storm\n    {\n        return -level;\n    }\n}\n",
    ),
    narrow(
        "open_brace.control",
        "java",
        "class Gauge {\n    {\n        if (ebb) {\n            warn();\n        }\n        if (ebb > flood\n                \
         && low)\n        {\n            ring();\n        }\n    }\n}\n",
    ),
    some(PLACES, of("open_brace.lambda", "javascript", "listen(() => {\n  warn();\n});\n")),
    some(
        PLACES,
        of(
            "open_brace.accessor",
            "csharp",
            "class Gauge\n{\n    int Ebb\n    {\n        get { return ebb; }\n    }\n}\n",
        ),
    ),
    some(
        PLACES,
        of("open_brace.collection", "csharp", "var a = new Gauge\n{\n    Level = 2,\n};\n"),
    ),
    some(PLACES, of("open_brace.namespace", "rust", "mod gauges {\n    use tide::Ebb;\n}\n")),
    some(PLACES, of("open_brace.other", "rust", "unsafe {\n    open();\n}\n")),
    of(
        "else_line.while",
        "javascript",
        "do {\n  listen();\n} while (ebb);\ndo {\n  listen();\n}\nwhile (flood);\n",
    ),
    of(
        "else_line.branch",
        "javascript",
        "if (ebb) {\n  low();\n} else if (flood) {\n  high();\n}\nelse {\n  still();\n}\n",
    ),
    of("flat_block.type", "javascript", "class Gauge {\n  static { open(); }\n}\n"),
    of("flat_block.function", "javascript", "function ebb(a) { return a; }\n"),
    of("flat_block.control", "javascript", "if (ebb) { warn(); }\n"),
    of("flat_block.case", "javascript", "switch (a) {\n  case 1: warn(); break;\n}\n"),
    of("flat_block.lambda", "javascript", "listen(() => { warn(); });\n"),
    of("flat_block.accessor", "csharp", "class Gauge\n{\n    int Ebb { get; set; }\n}\n"),
    of("flat_block.value", "rust", "let a = if ebb { low } else { high };\n"),
    of("bare_body", "javascript", "if (ebb) warn();\n"),
    of("case_indent", "javascript", "switch (a) {\n  case 1:\n    warn();\n}\n"),
    of(
        "access_indent",
        "ruby",
        "class Gauge\n  def ebb\n    1\n  end\n\n  private\n\n  def flood\n    2\n  end\nend\n",
    ),
    of(
        "namespace_indent",
        "javascript",
        "(function () {\nwarn(springTide, level);\nwarn(neapTide, level);\n})();\n",
    ),
    of(
        "rule_indent",
        "css",
        ".tide {\n  color: navy;\n}\n\n  .tide .ebb {\n    color: gray;\n  }\n",
    ),
    of("page_indent.root", "html", "<html>\n<body>\n<p>ebb</p>\n</body>\n</html>\n"),
    of("page_indent.element", "html", "<div>\n<p>ebb</p>\n</div>\n"),
    of("page_indent.control", "html", "{{ if .Ebb }}\n<p>low</p>\n{{ end }}\n"),
    of("element_line", "html", "<ul><li>ebb</li>\n<li>flood</li></ul>\n"),
    of("statement_line", "lua", "ebb = 1; flood = 2\n"),
    of("page_indent.text", "html", "<p>\nThe tide\nis high\n</p>\n"),
    of(
        "page_indent.embedded",
        "html",
        "<style>\np {\n  color: navy;\n}\n</style>\n",
    ),
    of("directive_indent.condition", "csharp", "{\n  #if DEBUG\n    Warn();\n  #endif\n}\n"),
    of("directive_indent.region", "csharp", "{\n  #region Alarms\n    Warn();\n  #endregion\n}\n"),
    of("directive_indent.other", "csharp", "{\n  #pragma warning disable\n    Warn();\n}\n"),
    of("annotation_line.type", "java", "@Tide\nclass Gauge {\n}\n@Tide class Siren {\n}\n"),
    of(
        "annotation_line.function",
        "java",
        "class Gauge {\n    @Tide int ebb() {\n    }\n\n    @Tide\n    int flow() {\n    }\n}\n",
    ),
    of(
        "annotation_line.value",
        "java",
        "class Gauge {\n    @Tide int ebb;\n    @Tide\n    int flow;\n}\n",
    ),
    of(
        "return_type_line",
        "csharp",
        "class Gauge\n{\n    int\n    Ebb()\n    {\n    }\n\n    int Flow()\n    {\n    }\n}\n",
    ),
    of("modifier_order", "java", "class Gauge {\n    static final public int EBB = 2;\n}\n"),
    of(
        "member_order",
        "java",
        "class Gauge {\n    int ebb() {\n        return level;\n    }\n\n    int level;\n}\n",
    ),
    of(
        "unused_imports",
        "java",
        "import tide.Buoy;\nimport tide.Gauge;\n\nclass Mole {\n    Gauge gauge;\n}\n",
    ),
    of("clause_line.base", "java", "class Gauge extends Station {\n}\n"),
    of("clause_line.throws", "java", "class Gauge {\n    void ebb() throws Storm {\n    }\n}\n"),
    of("clause_line.where", "csharp", "class Gauge<T> where T : Level\n{\n}\n"),
    of("inner_gap.parens", "javascript", "warn(level);\n"),
    of("inner_gap.brackets", "javascript", "let a = [1, 2];\n"),
    of("inner_gap.braces", "javascript", "let a = { level: 1 };\n"),
    of("inner_gap.block", "rust", "let a = if ebb { low } else { high };\n"),
    of("inner_gap.markup", "javascript", "let a = <Gauge level={low} />;\n"),
    of("inner_gap.tag_end", "javascript", "let a = <Gauge unit=\"m\"/>;\n"),
    of("inner_gap.angles", "typescript", "let a: Set<Gauge>;\n"),
    of("paren_gap.control", "javascript", "if (ebb) {\n  warn();\n}\n"),
    of("paren_gap.call", "javascript", "warn(level);\n"),
    of("paren_gap.declaration", "javascript", "function ebb(a) {\n  return a;\n}\n"),
    of(
        "paren_gap.lambda",
        "javascript",
        "let a = function () {};\nlet b = function() {};\n",
    ),
    of("paren_gap.cast", "java", "int a = (int) level;\n"),
    of("operator_gap.power", "javascript", "let a = h ** 2 + 1;\n"),
    of("operator_gap.product", "javascript", "let a = h * 2 + 1;\n"),
    of("operator_gap.sum", "javascript", "let a = h * 2 + 1;\n"),
    of("operator_gap.shift", "javascript", "let a = EBB | FLOOD;\n"),
    of("operator_gap.range", "rust", "let a = low..high;\n"),
    of("operator_gap.compare", "javascript", "let a = h < 2 && ebb;\n"),
    of("operator_gap.logic", "javascript", "let a = h < 2 && ebb;\n"),
    of("operator_gap.assign", "javascript", "let a = h;\nlet b =h;\n"),
    of("operator_gap.default", "python", "def ebb(a=1):\n    return low(b=a)\n"),
    of("pair_gap.value", "javascript", "let a = { level: 1, unit : \"m\" };\n"),
    of("pair_gap.type", "typescript", "let a: number, b : string;\n"),
    of("not_gap", "javascript", "warn(!ebb);\n"),
    narrow("operator_place", "javascript", "let late = spring + neap + surge;\n"),
    of("dot_place", "ruby", "gauges.\n  select(&:live?)\n  .map(&:level)\n"),
    narrow("ternary_place", "javascript", "let late = spring\n  ? surge : neapTide;\n"),
    of("shown_space", "html", "<div>\n<p>Ebb</p><p>Flood\nand slack</p>\n</div>\n"),
    narrow("text_fill", "html", "<p>\n  Ebb,\n  flood and slack <b>water</b> in turn\n</p>\n"),
    of("word_gap", "javascript", "warn(a,b , c);\n"),
    of("quotes", "javascript", "warn('low', \"high\");\n"),
    of("markup_quotes", "javascript", "let a = <Gauge unit='m' name=\"quay\" />;\n"),
    narrow("tag_end", "javascript", "let a = <Gauge unit=\"m\" level={low} />;\n"),
    of("word_order.groups", "html", "<p class=\"text-sm p-4 wide:p-8 high flex m-2\">Ebb</p>\n"),
    Sample {
        with: &[("word_order", "groups", r#"["p-* m-* flex"]"#)],
        ..of("word_order.inside", "html", "<p class=\"m-2 flex p-4\">Ebb</p>\n")
    },
    Sample {
        values: &["[]", r#"["wide", "night"]"#],
        with: &[("word_order", "groups", r#"["flex p-*", "with_condition"]"#)],
        ..of(
            "word_order.conditions",
            "html",
            "<p class=\"night:flex wide:p-4 wide:flex flex\">Ebb</p>\n",
        )
    },
    of("letter_case.color", "css", "p {\n  color: #A0c8F0;\n}\n"),
    of("letter_case.unit", "css", "p {\n  margin: 2PX;\n}\n"),
    of("letter_case.keyword", "powershell", "If ($high -EQ 3) {\n    warn\n}\n"),
    of("leading_zero", "css", "p {\n  margin: .5em 0.5em;\n}\n"),
    of("statement_end", "javascript", "warn(low);\nwarn(high)\n"),
    of("last_comma", "javascript", "warn(\n  low,\n  high\n);\nlook(\n  low,\n);\nask(ebb,);\n"),
    narrow(
        "list_wrap",
        "javascript",
        "warn([1, 2], a);\nwarn(\n  low,\n  high\n);\nlet a = [spring, surge, neap];\nlet b = [springTide, surge, neap, low];\n",
    ),
    narrow("wrap_align.call", "javascript", "warn(springTide,\n     surgeAtNight, level);\n"),
    narrow(
        "wrap_align.declaration",
        "javascript",
        "function ebb(springTide,\n             surge, level) {}\n",
    ),
    narrow(
        "wrap_align.collection",
        "javascript",
        "let a = [springTide,\n         surge, level];\n",
    ),
    narrow(
        "wrap_align.condition",
        "javascript",
        "warn(springTide +\n     surgeAtNight + level);\n",
    ),
    narrow(
        "wrap_align.value",
        "css",
        "a {\n  font-family: \"Tide Sans\", Saltmarsh,\n               serif;\n}\n",
    ),
    narrow(
        "wrap_align.attribute",
        "html",
        "<input name=\"level\" type=\"number\"\n       disabled title=\"The level\">\n",
    ),
    narrow("wrap_align.ternary", "javascript", "level = ebb ? springTide : surgeAtNight;\n"),
    of("close_bracket.call", "javascript", "warn(\n  low,\n  high);\n"),
    of("close_bracket.declaration", "javascript", "function ebb(\n  low,\n  high) {}\n"),
    of("close_bracket.collection", "javascript", "let a = [\n  low,\n  high];\n"),
    of("close_bracket.condition", "javascript", "let a = (\n  low &&\n  high);\n"),
    Sample {
        values: &["1", "2"],
        ..narrow("wrap_indent.chain", "javascript", "gauges.filter(low).map(level).sort();\n")
    },
    Sample {
        values: &["1", "2"],
        ..narrow("wrap_indent.list", "javascript", "warn(levelAtTheQuay, levelAtTheMole);\n")
    },
    narrow("wrap_indent.operator", "lua", "if springTide > high and surge > 2 then warn() end\n"),
    some(&["1", "2"], of("wrap_indent.declaration", "javascript", "let a = 1,\n  b = 2;\n")),
    Sample {
        values: &["0", "1"],
        ..narrow(
            "wrap_indent.element",
            "javascript",
            "warn(springTide + surgeAtNight + neap, a);\n",
        )
    },
    some(
        &["1", "2"],
        of(
            "wrap_indent.ternary",
            "javascript",
            "level = ebb\n  ? {\n    low: 2,\n  }\n  : high;\n",
        ),
    ),
    some(
        &["1", "2"],
        of(
            "wrap_indent.union",
            "typescript",
            "type Tide =\n  | {\n    level: number;\n  }\n  | Slack;\n",
        ),
    ),
    narrow("leading_bar", "typescript", "type Tide = 'spring' | 'neap' | 'ebb' | 'flood';\n"),
    narrow("wrap_parens", "python", "level = spring_tide + surge_at_night\n"),
    some(&["1", "2"], of("blank_lines.most", "python", "a = 1\n\n\n\nb = 2\n")),
    some(&["0", "1"], of("blank_lines.after_imports", "python", "import os\na = 1\n")),
    some(&["1", "2"], of("blank_lines.between_functions", "python", FUNCTIONS)),
    some(&["1", "2"], of("blank_lines.between_types", "python", CLASSES)),
    some(&["0", "1"], of("blank_lines.between_members", "python", METHODS)),
    some(
        &["0", "1"],
        of("blank_lines.between_fields", "java", "class Gauge {\n    int ebb;\n    int flow;\n}\n"),
    ),
    some(
        &["0", "1"],
        of("blank_lines.at_edges", "javascript", "if (ebb) {\n\n  warn();\n\n}\n"),
    ),
    some(&["1", "2", "keep"], of("comment_gap.before", "python", "a = 1    # metres\n")),
    of("comment_gap.after_mark", "python", "#metres\na = 1\n# feet\n"),
    of("columns.comment", "python", "a = 1       # metres\nbcd = 2     # feet\n"),
    of("columns.value", "python", "ebb   = 1\nflood = 2\n"),
    of("columns.table", "python", "a = [\n    [1,  20],\n    [10, 2],\n]\n"),
    of(
        "columns.prefix",
        "css",
        "a {\n  -moz-hyphens: auto;\n       hyphens: auto;\n}\n",
    ),
];

/// The sample of a key of a setting, if any language has it.
pub fn sample(entry: &Entry, slot: &Slot) -> Option<&'static Sample> {
    let name = slot.path(entry);
    SAMPLES.iter().find(|sample| sample.name == name)
}

impl Sample {
    /// The values that are shown of a slot.
    pub fn shown(&self, slot: &Slot) -> Vec<&'static str> {
        match slot.kind {
            _ if !self.values.is_empty() => self.values.to_vec(),
            ValueKind::Number(..) => vec![slot.default],
            _ => slot.words(),
        }
    }
}
