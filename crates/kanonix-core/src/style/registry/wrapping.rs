//! Lists and chains over several lines, blank lines, comments and columns.

use super::{key, one};
use crate::style::entry::{Entry, Setting, ValueKind};
use crate::style::family::Family;
use crate::style::keys::Key;

const ALIGN: ValueKind = ValueKind::Word(&["step", "bracket", "keep", "any"]);
const CLOSE: ValueKind = ValueKind::Word(&["own_line", "with_last", "keep"]);
const COLUMNS: ValueKind = ValueKind::Word(&["none", "keep"]);
const BLANKS: ValueKind = ValueKind::Number(0, 8, &[]);

pub(super) const ENTRIES: &[Entry] = &[
    Entry {
        setting: Setting::ListWrap,
        name: "list_wrap",
        about: "When a list is spread over lines, one element a line: only when it does not fit \
                (`fit`), always if it is a collection of two or more (`one_each`), or also when \
                somebody broke its first line there, or laid a table out beside its bracket \
                (`keep_open`). The last goes for chains of calls and operators, and for a \
                value on the line below its sign, too; a single break is nobody's choice in \
                what is no longer than half a line of 100 columns at most, or a value's in \
                three quarters of one, and wherever there is room where all arguments stand on \
                one line inside their brackets, or something around it is not broken that \
                should be before it. With `rows`, a list that does not fit has as many elements \
                on a line as there is room for, and keeps the lines that it has, as chains do \
                theirs; with `row_first`, all of them on one line inside its brackets, where \
                there is room.",
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
                element, which stays behind the bracket, the sign or the \
                tag's name (`bracket`), as the first of them does \
                (`keep`: one of the two, or for operators beneath the element whose line they go on \
                with), or in whichever column most of them do (`any`: one that stands alone, \
                some steps in or under something; where the block around them gets another step, \
                they go with it; operators further in by whole steps go on with the line above). \
                Operators line up with their first operand. One word for all kinds, or a table.",
        slots: &[
            key(Key::Call, Family::Expressions, "arguments of a call", ALIGN, "step"),
            key(
                Key::Declaration,
                Family::Definitions,
                "parameters of a function, and what it throws",
                ALIGN,
                "step",
            ),
            key(Key::Collection, Family::Collections, "collections", ALIGN, "step"),
            key(
                Key::Condition,
                Family::Expressions,
                "operators, as in a condition, and clauses of a loop behind their bracket",
                ALIGN,
                "step",
            ),
            key(
                Key::Ternary,
                Family::Ternaries,
                "the answers of a condition: `a ? b : c`",
                ALIGN,
                "step",
            ),
            key(Key::Value, Family::Sheets, "the values of a property", ALIGN, "step"),
            key(Key::Attribute, Family::Markup, "the attributes of a tag", ALIGN, "step"),
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
                "one thing in parentheses, as a condition, and the clauses of a loop",
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
                Key::Operator,
                Family::Expressions,
                "operators alone, as in a condition: not at all further in (`0`), so many steps, or as \
                 many as `chain` says",
                ValueKind::Number(0, 4, &["chain"]),
                "chain",
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
            key(
                Key::Ternary,
                Family::TernaryPlaces,
                "what is opened behind the sign of an answer that begins a line, from there: with 2 it is \
                 a step further in than the answer",
                ValueKind::Number(1, 4, &[]),
                "1",
            ),
            key(
                Key::Union,
                Family::Alternatives,
                "what is opened behind the bar of an alternative that begins a line, from there",
                ValueKind::Number(1, 4, &[]),
                "1",
            ),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::WrapParens,
        name: "wrap_parens",
        about: "Where a line may end inside brackets only: whether what does not fit, and has no \
                brackets of its own that are worth opening, is put in parentheses (`add`) and \
                broken there, or stays without (`keep`): values, conditions, what a function \
                gives, what an assertion says, imported names. None are ever taken away.",
        slots: &[
            one(Family::LinesInBrackets, ValueKind::Word(&["add", "keep"]), "keep"),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::LeadingBar,
        name: "leading_bar",
        about:
            "Whether a type of several alternatives that does not fit its line gets a bar before \
                the first of them, too (`add`), so that each has a line behind one, or is left as it \
                begins (`keep`). None is ever taken away.",
        slots: &[one(Family::Alternatives, ValueKind::Word(&["add", "keep"]), "add")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::BlankLines,
        name: "blank_lines",
        about:
            "How many blank lines stand between things. Definitions that stand on a line each, and \
                may stay there (`flat_block`), need none; behind a comment that has as many above \
                it, one is enough.",
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
            key(Key::BetweenMembers, Family::Members, "at least, around a method", BLANKS, "0"),
            key(Key::BetweenFields, Family::Fields, "at least, around a field", BLANKS, "0"),
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
                "before a comment at a line's end; kept, there is one at least",
                ValueKind::Number(1, 8, &["keep"]),
                "1",
            ),
            key(
                Key::AfterMark,
                Family::LineComments,
                "one space after the mark, or none; a comment that ends as code does, with `;`, `{` \
                 or `}`, stays as it is",
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
                play that stands among them, as far as it fits; or not known (`none`). Numbers \
                in a table may end in one column. One word for all kinds, or a table.",
        slots: &[
            key(Key::Comment, Family::Text, "comments at the ends of lines", COLUMNS, "none"),
            key(
                Key::Value,
                Family::Values,
                "signs and the values behind them, and blocks on the lines of their headers",
                COLUMNS,
                "none",
            ),
            key(
                Key::Table,
                Family::Collections,
                "elements of lists, and the closing brackets of collections, and of calls where \
                 `inner_gap` keeps what parentheses have inside",
                COLUMNS,
                "keep",
            ),
            key(
                Key::Prefix,
                Family::Sheets,
                "the ends of a declaration's name, above and below the same with a browser's prefix",
                COLUMNS,
                "keep",
            ),
        ],
        one_for_all: true,
    },
];
