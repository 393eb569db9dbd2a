//! Words and marks that are rewritten.

use super::{key, one};
use crate::style::entry::{Entry, Setting, ValueKind};
use crate::style::family::Family;
use crate::style::keys::Key;

const CLOSE: ValueKind = ValueKind::Word(&["own_line", "with_last", "keep"]);
const COMMA: ValueKind = ValueKind::Word(&["never", "open_list", "keep", "keep_all"]);

pub(super) const ENTRIES: &[Entry] = &[
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
            key(
                Key::Keyword,
                Family::AnyCase,
                "the words of the language, and operators that are words: `If`, `-EQ`",
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
                otherwise join on; before a bracket, `bare` has it at that line's beginning. A \
                language of lines, as Python, has none either way.",
        slots: &[
            one(Family::StatementEnd, ValueKind::Word(&["semicolon", "bare", "keep"]), "keep"),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::LastComma,
        name: "last_comma",
        about:
            "Whether a comma, or the mark that a list has between its elements, follows the last \
                one of a list that is spread over lines. A list on one line has none, unless all of \
                them are kept (`keep_all`).",
        slots: &[one(Family::LastComma, COMMA, "keep")],
        one_for_all: false,
    },
];
