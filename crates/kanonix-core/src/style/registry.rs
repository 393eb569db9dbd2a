//! One entry a setting.

use super::entry::{Entry, Setting, Slot, ValueKind};
use super::family::Family;
use super::keys::Key;

const fn one(family: Family, kind: ValueKind, default: &'static str) -> Slot {
    Slot { key: Key::Whole, family, about: "", kind, default }
}

const fn key(
    key: Key,
    family: Family,
    about: &'static str,
    kind: ValueKind,
    default: &'static str,
) -> Slot {
    Slot { key, family, about, kind, default }
}

const BRACE: ValueKind = ValueKind::Word(&["same_line", "next_line"]);
const ANNOTATION: ValueKind = ValueKind::Word(&["keep", "own_line", "same_line"]);
const CLAUSE: ValueKind = ValueKind::Word(&["fit", "own_line"]);
const DIRECTIVE: ValueKind = ValueKind::Word(&["keep", "code", "margin"]);
const FLAT: ValueKind = ValueKind::Word(&["open", "keep"]);
const SIDES: ValueKind = ValueKind::Word(&["after", "both", "none", "keep"]);
const ALIGN: ValueKind = ValueKind::Word(&["step", "bracket", "keep", "any"]);
const CLOSE: ValueKind = ValueKind::Word(&["own_line", "with_last", "keep"]);
const COLUMNS: ValueKind = ValueKind::Word(&["none", "keep"]);
const BLANKS: ValueKind = ValueKind::Number(0, 8, &[]);

/// Every setting, in the order of [`Setting`].
pub static REGISTRY: &[Entry] = &[
    Entry {
        setting: Setting::IndentStyle,
        name: "indent_style",
        about: "What a step of indentation is made of. (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Word(&["space", "tab"]), "space")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::IndentSize,
        name: "indent_size",
        about: "How many columns a step of indentation is wide; `tab` takes `tab_width`. \
                (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Number(1, 16, &["tab"]), "4")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::TabWidth,
        name: "tab_width",
        about: "How many columns a tab counts. (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Number(1, 16, &[]), "4")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::EndOfLine,
        name: "end_of_line",
        about: "How lines end. Only whole files are converted: a touched line keeps the ends that \
                its file mostly has. `keep` leaves them alone. (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Word(&["lf", "crlf", "keep"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::Charset,
        name: "charset",
        about: "Whether a file in UTF-8 begins with a byte-order mark; decided for whole files \
                only. (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Word(&["utf-8", "utf-8-bom", "keep"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::TrimTrailingWhitespace,
        name: "trim_trailing_whitespace",
        about: "No spaces or tabs at the end of a line, except inside strings. (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Flag, "true")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::InsertFinalNewline,
        name: "insert_final_newline",
        about: "Whether the last line ends with a line break. (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Flag, "true")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::MaxLineLength,
        name: "max_line_length",
        about: "How many columns a line has before it is broken, where it can be. (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Number(20, 1000, &["off"]), "100")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::OpenBrace,
        name: "open_brace",
        about: "Where the brace stands that opens a block: at the end of its header's line, or on \
                a line of its own. One word for all kinds of block, or a table.",
        slots: &[
            key(Key::Type, Family::Blocks, "classes", BRACE, "same_line"),
            key(
                Key::Function,
                Family::Braces,
                "functions and methods with a name",
                BRACE,
                "same_line",
            ),
            key(
                Key::Control,
                Family::Blocks,
                "`if`, `for`, `try` and the like",
                BRACE,
                "same_line",
            ),
            key(Key::Lambda, Family::Braces, "functions without a name", BRACE, "same_line"),
            key(
                Key::Accessor,
                Family::Accessors,
                "properties: `{ get; set; }`",
                BRACE,
                "same_line",
            ),
            key(
                Key::Collection,
                Family::Initializers,
                "values: `new Gauge { … }`, the arms of a `switch` that is a value",
                BRACE,
                "same_line",
            ),
            key(Key::Namespace, Family::Namespaces, "namespaces and modules", BRACE, "same_line"),
            key(Key::Other, Family::OtherBlocks, "any other block", BRACE, "same_line"),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::ElseLine,
        name: "else_line",
        about: "Whether `else`, `catch`, `finally` and a `do`'s `while` stand on the line of the \
                brace before them or on their own.",
        slots: &[one(Family::Braces, ValueKind::Word(&["with_brace", "own_line"]), "with_brace")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::FlatBlock,
        name: "flat_block",
        about: "A block that stands on its header's line and fits there: opened all the same, or \
                kept as it stands. One word for all kinds of block, or a table.",
        slots: &[
            key(Key::Type, Family::Headers, "classes", FLAT, "open"),
            key(
                Key::Function,
                Family::Definitions,
                "functions and methods with a name",
                FLAT,
                "open",
            ),
            key(Key::Control, Family::Headers, "`if`, `for`, `try` and the like", FLAT, "open"),
            key(Key::Case, Family::Definitions, "what a `case` does", FLAT, "open"),
            key(Key::Lambda, Family::Braces, "functions without a name", FLAT, "open"),
            key(Key::Accessor, Family::Accessors, "properties: `{ get; set; }`", FLAT, "keep"),
            key(
                Key::Value,
                Family::ValueBlocks,
                "blocks of one value: `if a { b } else { c }`",
                FLAT,
                "open",
            ),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::BareBody,
        name: "bare_body",
        about: "A single statement that an `if`, `else`, `for`, `while` or `do` rules without \
                braces: kept so, or put into braces.",
        slots: &[one(Family::ParenHeaders, ValueKind::Word(&["keep", "brace"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::CaseIndent,
        name: "case_indent",
        about: "Whether the cases of a `switch` are one step further in than the `switch`.",
        slots: &[one(Family::Braces, ValueKind::Flag, "true")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::NamespaceIndent,
        name: "namespace_indent",
        about:
            "Whether what a namespace holds is one step further in: a function around the file, whose \
                body has three fifths of it and stands in no other block, and one inside that \
                which is called at once.",
        slots: &[one(Family::Wrappers, ValueKind::FlagOrKeep, "true")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::PageIndent,
        name: "page_indent",
        about:
            "Whether what stands in an element of a page is one step further in than its tags. With \
                `keep` it is where most of its lines are, or those of the page. One word for all kinds, or a table.",
        slots: &[
            key(Key::Root, Family::Pages, "`head` and `body`", ValueKind::FlagOrKeep, "keep"),
            key(
                Key::Element,
                Family::Pages,
                "elements with lines of their own",
                ValueKind::FlagOrKeep,
                "true",
            ),
            key(Key::Text, Family::Pages, "the lines of a text", ValueKind::FlagOrKeep, "keep"),
            key(
                Key::Control,
                Family::Pages,
                "what stands between two control words of a template",
                ValueKind::FlagOrKeep,
                "keep",
            ),
            key(
                Key::Embedded,
                Family::Pages,
                "scripts and style sheets in a page",
                ValueKind::FlagOrKeep,
                "keep",
            ),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::DirectiveIndent,
        name: "directive_indent",
        about:
            "Where lines stand that are no part of the program: as far in as the code around them, at the \
                file's margin, or as they stand; one that stands as the code does goes with it then. One \
                word for all kinds, or a table.",
        slots: &[
            key(Key::Condition, Family::Directives, "`#if` and its like", DIRECTIVE, "keep"),
            key(Key::Region, Family::Directives, "`#region` and its end", DIRECTIVE, "keep"),
            key(Key::Other, Family::Directives, "any other: `#pragma`", DIRECTIVE, "keep"),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::AnnotationLine,
        name: "annotation_line",
        about: "Whether an annotation or attribute that leads a declaration has a line of its own, \
                stands on the line of what it belongs to, or as it does. One word for all kinds, or \
                a table.",
        slots: &[
            key(Key::Type, Family::Attributes, "before types", ANNOTATION, "keep"),
            key(
                Key::Function,
                Family::Attributes,
                "before methods and properties",
                ANNOTATION,
                "keep",
            ),
            key(Key::Value, Family::Attributes, "before fields and variables", ANNOTATION, "keep"),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::ModifierOrder,
        name: "modifier_order",
        about:
            "The order of the words before a declaration (`public static`): as they stand, or the \
                one that the language's guide has. The others around them keep their places.",
        slots: &[one(Family::Modifiers, ValueKind::Word(&["keep", "guide"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::ClauseLine,
        name: "clause_line",
        about: "Whether what the header of a declaration says of other types has a line of its own \
                always, or only where the header does not fit on one (`fit`). One word for all \
                kinds, or a table.",
        slots: &[
            key(
                Key::Base,
                Family::Attributes,
                "what a type or a constructor builds on: `extends A`, `: base(a)`",
                CLAUSE,
                "fit",
            ),
            key(Key::Throws, Family::Throws, "`throws Storm`", CLAUSE, "fit"),
            key(Key::Where, Family::Accessors, "`where T : Gauge`", CLAUSE, "fit"),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::InnerGap,
        name: "inner_gap",
        about: "One space inside brackets that stand on one line, none, or as it stands.",
        slots: &[
            key(Key::Parens, Family::Expressions, "`( a )`", ValueKind::FlagOrKeep, "false"),
            key(Key::Brackets, Family::Collections, "`[ a ]`", ValueKind::FlagOrKeep, "false"),
            key(Key::Braces, Family::Collections, "`{ a }`", ValueKind::FlagOrKeep, "false"),
            key(
                Key::Block,
                Family::Blocks,
                "`{ a }` around statements",
                ValueKind::FlagOrKeep,
                "true",
            ),
            key(
                Key::Markup,
                Family::MarkupExpressions,
                "`{ a }` in markup",
                ValueKind::FlagOrKeep,
                "false",
            ),
            key(
                Key::TagEnd,
                Family::Markup,
                "before the `/>` of a tag",
                ValueKind::FlagOrKeep,
                "true",
            ),
            key(
                Key::Angles,
                Family::Angles,
                "`< a >` around types",
                ValueKind::FlagOrKeep,
                "false",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::ParenGap,
        name: "paren_gap",
        about:
            "One space before an opening parenthesis, or behind the closing one of a cast; none, or \
                as it stands.",
        slots: &[
            key(
                Key::Control,
                Family::ParenHeaders,
                "`if (a)`, `while (a)` and the like",
                ValueKind::FlagOrKeep,
                "true",
            ),
            key(Key::Call, Family::Expressions, "`call (a)`", ValueKind::FlagOrKeep, "false"),
            key(
                Key::Declaration,
                Family::Definitions,
                "`function name (a)`, methods",
                ValueKind::FlagOrKeep,
                "false",
            ),
            key(
                Key::Lambda,
                Family::NamelessFunctions,
                "`function (a)`, without a name",
                ValueKind::FlagOrKeep,
                "keep",
            ),
            key(
                Key::Cast,
                Family::Casts,
                "behind a cast: `(int) a`",
                ValueKind::FlagOrKeep,
                "true",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::OperatorGap,
        name: "operator_gap",
        about: "One space on each side of an operator with two operands, or none, or as it stands. \
                Words that are operators always have them. One word for all of them, or a table, \
                strong ones first.",
        slots: &[
            key(Key::Power, Family::Powers, "`a ** b`", ValueKind::FlagOrKeep, "true"),
            key(Key::Product, Family::Expressions, "`a * b`", ValueKind::FlagOrKeep, "true"),
            key(Key::Sum, Family::Expressions, "`a + b`", ValueKind::FlagOrKeep, "true"),
            key(
                Key::Shift,
                Family::Expressions,
                "`a << b`, and what joins bits or types: `a | b`",
                ValueKind::FlagOrKeep,
                "true",
            ),
            key(Key::Range, Family::Ranges, "`a..b`", ValueKind::FlagOrKeep, "false"),
            key(Key::Compare, Family::Expressions, "`a < b`", ValueKind::FlagOrKeep, "true"),
            key(
                Key::Logic,
                Family::LogicMarks,
                "`a && b`, `a ? b : c`",
                ValueKind::FlagOrKeep,
                "true",
            ),
            key(Key::Assign, Family::Signs, "`a = b`", ValueKind::FlagOrKeep, "true"),
            key(
                Key::Default,
                Family::Defaults,
                "a parameter's default value, an argument's name",
                ValueKind::FlagOrKeep,
                "true",
            ),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::PairGap,
        name: "pair_gap",
        about: "The space around the sign between a key and its value: behind it (`a: b`), on both \
                sides, nowhere, or as it stands. One word for both kinds, or a table.",
        slots: &[
            key(Key::Value, Family::Pairs, "a key and its value", SIDES, "after"),
            key(Key::Type, Family::Annotations, "a name and its type", SIDES, "after"),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::NotGap,
        name: "not_gap",
        about: "One space after the `!` that negates.",
        slots: &[one(Family::Not, ValueKind::Flag, "false")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::OperatorPlace,
        name: "operator_place",
        about:
            "Where the operator stands at which a line is broken: it leads the next line, trails on its \
                own, or stays where somebody broke it.",
        slots: &[one(Family::Expressions, ValueKind::Word(&["leads", "trails", "keep"]), "trails")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::TernaryPlace,
        name: "ternary_place",
        about: "Where the signs of a condition with two answers stand at which a line is broken: \
                they lead the next line, trail on their own, or stay where somebody broke it.",
        slots: &[
            one(Family::Ternaries, ValueKind::Word(&["leads", "trails", "keep"]), "leads"),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::ShownSpace,
        name: "shown_space",
        about:
            "Where white space in a page shows, so that none is added and none is taken away: in a \
                line of text (`inline`), where elements stand in it or not as the HTML standard has \
                them, or beside every element (`everywhere`), for pages whose style sheets have them \
                otherwise.",
        slots: &[one(Family::Pages, ValueKind::Word(&["inline", "everywhere"]), "inline")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::TextFill,
        name: "text_fill",
        about: "The lines of a page's text: as they stand, or each with as many words as                 `max_line_length` has room for, from one blank line, line break element or block to                 the next. No line ends where no white space shows, and none where                 `shown_space = \"everywhere\"`.",
        slots: &[one(Family::Pages, ValueKind::Word(&["keep", "width"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::WordGap,
        name: "word_gap",
        about: "The gaps that no other setting decides (after commas, between words, before \
                parentheses): one space or none, as the language's guide has it, or kept.",
        slots: &[one(Family::Text, ValueKind::Word(&["guide", "keep"]), "guide")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::Quotes,
        name: "quotes",
        about: "Which quotes a string has. A string that holds either kind keeps its own.",
        slots: &[one(Family::Quotes, ValueKind::Word(&["double", "single", "keep"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::MarkupQuotes,
        name: "markup_quotes",
        about: "Which quotes an attribute's value has in markup. One that holds either kind keeps \
                its own.",
        slots: &[one(Family::Markup, ValueKind::Word(&["double", "single", "keep"]), "double")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::TagEnd,
        name: "tag_end",
        about: "Where the `>` stands of a tag whose attributes are spread over lines: on its own \
                line, behind the last attribute, or as it does.",
        slots: &[one(Family::Markup, CLOSE, "own_line")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::WordOrder,
        name: "word_order",
        about: "The order of the words in a `class` attribute, by groups of patterns (`\"flex grid \
                p-*\"`), of which the one that says most about a word has it. What an expression \
                or a template's action makes of a class keeps its place.",
        slots: &[
            key(
                Key::Groups,
                Family::Markup,
                "the groups; `\"others\"` among them is where words stand that no pattern knows \
                 (without it they keep their places), `\"with_condition\"` is where `wide:flex` and \
                 the like do. `box_model` and `by_name` are lists to begin with",
                ValueKind::List(&["keep", "box_model", "by_name"]),
                "keep",
            ),
            key(
                Key::Inside,
                Family::Markup,
                "words of one group: as it lists its patterns, or by name",
                ValueKind::Word(&["listed", "by_name"]),
                "listed",
            ),
            key(
                Key::Conditions,
                Family::Markup,
                "the conditions in their order; others come behind them, by name",
                ValueKind::List(&[]),
                "[]",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::LetterCase,
        name: "letter_case",
        about: "Upper and lower case where a language has them mean the same.",
        slots: &[
            key(
                Key::Color,
                Family::Sheets,
                "the letters of a colour: `#a0c8f0`",
                ValueKind::Word(&["lower", "upper", "keep"]),
                "keep",
            ),
            key(
                Key::Unit,
                Family::Sheets,
                "the unit of a number: `2px`; `Q`, `Hz` and `kHz` as the standard writes them",
                ValueKind::Word(&["lower", "keep"]),
                "keep",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::LeadingZero,
        name: "leading_zero",
        about: "Whether a zero stands before the point of a number that is less than one.",
        slots: &[one(Family::Sheets, ValueKind::FlagOrKeep, "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::StatementEnd,
        name: "statement_end",
        about: "Whether a statement ends with a semicolon. It stays where the next line would \
                otherwise join on. A language of lines, as Python, has none either way.",
        slots: &[
            one(Family::StatementEnd, ValueKind::Word(&["semicolon", "bare", "keep"]), "keep"),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::LastComma,
        name: "last_comma",
        about: "Whether a comma follows the last element of a list that is spread over lines. A \
                list on one line has none.",
        slots: &[one(Family::LastComma, ValueKind::Word(&["never", "open_list", "keep"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::ListWrap,
        name: "list_wrap",
        about: "When a list is spread over lines, one element a line: only when it does not fit \
                (`fit`), always if it is a collection of two or more (`one_each`), or also when \
                somebody broke its first line there (`keep_open`). The last goes for chains of \
                calls and operators too. With `rows`, a list that does not fit has as many \
                elements on a line as there is room for, and keeps the lines that it has; with \
                `row_first`, all of them on one line inside its brackets, where there is room.",
        slots: &[
            one(
                Family::Text,
                ValueKind::Word(&["fit", "one_each", "keep_open", "rows", "row_first"]),
                "keep_open",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::WrapAlign,
        name: "wrap_align",
        about: "Where the lines of an open list stand: a step further in (`step`), under its first \
                element, which stays behind the bracket (`bracket`), as the first of them does \
                (`keep`: one of the two, or for operators beneath the element whose line they go on \
                with), or in whichever column most of them do (`any`). \
                Operators line up with their first operand. One word for all kinds, or a table.",
        slots: &[
            key(Key::Call, Family::Expressions, "arguments of a call", ALIGN, "step"),
            key(Key::Declaration, Family::Definitions, "parameters of a function", ALIGN, "step"),
            key(Key::Collection, Family::Collections, "collections", ALIGN, "step"),
            key(
                Key::Condition,
                Family::Expressions,
                "operators, as in a condition",
                ALIGN,
                "step",
            ),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::CloseBracket,
        name: "close_bracket",
        about: "Where the closing bracket of an open list stands: on a line of its own, behind the \
                last element, or as it does. One word for all kinds, or a table.",
        slots: &[
            key(Key::Call, Family::Expressions, "arguments of a call", CLOSE, "own_line"),
            key(
                Key::Declaration,
                Family::Definitions,
                "parameters of a function",
                CLOSE,
                "own_line",
            ),
            key(Key::Collection, Family::Collections, "collections", CLOSE, "own_line"),
            key(
                Key::Condition,
                Family::Parentheses,
                "one thing in parentheses, as a condition",
                CLOSE,
                "own_line",
            ),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::WrapIndent,
        name: "wrap_indent",
        about: "How many steps a line is further in that goes on with what the line before began.",
        slots: &[
            key(
                Key::Chain,
                Family::Expressions,
                "calls and operators one after another",
                ValueKind::Number(1, 4, &[]),
                "1",
            ),
            key(
                Key::List,
                Family::Expressions,
                "the arguments of a call and the parameters of a function, beside their closing \
                 bracket",
                ValueKind::Number(1, 4, &[]),
                "1",
            ),
            key(
                Key::Declaration,
                Family::Declarators,
                "further names of one declaration",
                ValueKind::Number(1, 4, &[]),
                "1",
            ),
            key(
                Key::Element,
                Family::Expressions,
                "operators in an element of a list",
                ValueKind::Number(0, 4, &[]),
                "1",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::BlankLines,
        name: "blank_lines",
        about: "How many blank lines stand between things.",
        slots: &[
            key(Key::Most, Family::Text, "at most, anywhere", BLANKS, "2"),
            key(Key::AfterImports, Family::Definitions, "at least, after the imports", BLANKS, "0"),
            key(
                Key::BetweenFunctions,
                Family::Definitions,
                "at least, around a function",
                BLANKS,
                "0",
            ),
            key(
                Key::BetweenTypes,
                Family::Types,
                "at least, around a class, a table, or a style sheet's rule",
                BLANKS,
                "0",
            ),
            key(Key::BetweenMembers, Family::Definitions, "at least, around a method", BLANKS, "0"),
            key(
                Key::AtEdges,
                Family::Text,
                "at most, at the start and the end of a block",
                BLANKS,
                "0",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::CommentGap,
        name: "comment_gap",
        about: "The space around a comment's mark.",
        slots: &[
            key(
                Key::Before,
                Family::Text,
                "before a comment at a line's end",
                ValueKind::Number(1, 8, &[]),
                "1",
            ),
            key(
                Key::AfterMark,
                Family::LineComments,
                "one space after the mark, or none",
                ValueKind::FlagOrKeep,
                "keep",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::Columns,
        name: "columns",
        about: "What neighbouring lines have lined up in columns: kept, and joined by a line in \
                play that stands among them, as far as it fits; or not known (`none`). One word \
                for all kinds, or a table.",
        slots: &[
            key(Key::Comment, Family::Text, "comments at the ends of lines", COLUMNS, "none"),
            key(Key::Value, Family::Values, "signs and the values behind them", COLUMNS, "none"),
            key(Key::Table, Family::Collections, "elements of lists", COLUMNS, "keep"),
        ],
        one_for_all: true,
    },
];

/// The registry's entry of a setting.
pub fn entry(setting: Setting) -> &'static Entry {
    &REGISTRY[setting as usize]
}

impl Setting {
    /// The setting's name in the canon.
    pub fn name(self) -> &'static str {
        entry(self).name
    }
}

/// Every slot of every setting, with its setting, in the order of the registry.
pub fn slots() -> impl Iterator<Item = (&'static Entry, &'static Slot)> {
    REGISTRY.iter().flat_map(|entry| entry.slots.iter().map(move |slot| (entry, slot)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn entries_stand_in_the_order_of_the_settings() {
        for (index, entry) in REGISTRY.iter().enumerate() {
            assert_eq!(entry.setting as usize, index, "{}", entry.name);
        }
    }
}
