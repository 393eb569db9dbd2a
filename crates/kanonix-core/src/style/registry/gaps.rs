//! Blanks on a line.

use super::{key, one};
use crate::style::entry::{Entry, Setting, ValueKind};
use crate::style::family::Family;
use crate::style::keys::Key;

const SIDES: ValueKind = ValueKind::Word(&["after", "both", "none", "keep"]);

pub(super) const ENTRIES: &[Entry] = &[
    Entry {
        setting: Setting::InnerGap,
        name: "inner_gap",
        about:
            "One space inside brackets that stand on one line, none, or as it stands: kept is what \
                somebody put behind the opening one, and two that close together stay so, as does one \
                right behind a semicolon; before a number there may be room for its sign, and a file in \
                which hardly any closing one has a space has none there. In brackets that hold nothing \
                stands none, unless it is kept.",
        slots: &[
            key(Key::Parens, Family::Expressions, "`( a )`", ValueKind::FlagOrKeep, "false"),
            key(Key::Brackets, Family::Collections, "`[ a ]`", ValueKind::FlagOrKeep, "false"),
            key(Key::Braces, Family::Collections, "`{ a }`", ValueKind::FlagOrKeep, "false"),
            key(
                Key::Block,
                Family::InlineBlocks,
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
            key(Key::Call, Family::ApartCalls, "`call (a)`", ValueKind::FlagOrKeep, "false"),
            key(
                Key::Declaration,
                Family::ApartParens,
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
        about: "One space on each side of an operator with two operands, or none, or as it stands: \
                where one side has a space and the other has none, both have what those around it \
                have. Words that are operators always have them. One word for all of them, or a \
                table, strong ones first.",
        slots: &[
            key(Key::Power, Family::Powers, "`a ** b`", ValueKind::FlagOrKeep, "true"),
            key(Key::Product, Family::Expressions, "`a * b`", ValueKind::FlagOrKeep, "true"),
            key(Key::Sum, Family::Expressions, "`a + b`", ValueKind::FlagOrKeep, "true"),
            key(
                Key::Shift,
                Family::CompareMarks,
                "`a << b`, and what joins bits or types: `a | b`",
                ValueKind::FlagOrKeep,
                "true",
            ),
            key(Key::Range, Family::Ranges, "`a..b`", ValueKind::FlagOrKeep, "false"),
            key(Key::Compare, Family::CompareMarks, "`a < b`", ValueKind::FlagOrKeep, "true"),
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
                own, or stays where somebody broke it; where nobody did, it stands as those around it do.",
        slots: &[one(Family::EitherSide, ValueKind::Word(&["leads", "trails", "keep"]), "trails")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::TernaryPlace,
        name: "ternary_place",
        about: "Where the signs of a condition with two answers stand at which a line is broken: \
                they lead the next line, trail on their own, or stay where somebody broke it.",
        slots: &[
            one(Family::TernaryPlaces, ValueKind::Word(&["leads", "trails", "keep"]), "leads"),
        ],
        one_for_all: false,
    },
    Entry {
        setting: Setting::DotPlace,
        name: "dot_place",
        about: "Where the dot stands at which a chain of calls is broken: it leads the next line, \
                trails on its own, or stays where somebody broke it.",
        slots: &[one(Family::Dots, ValueKind::Word(&["leads", "trails", "keep"]), "leads")],
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
        about: "The lines of a page's text: as they stand, or each with as many words \
                as `max_line_length` has room for, from one blank line, line break element or \
                block to the next. No line ends where no white space shows, and none where \
                `shown_space = \"everywhere\"`.",
        slots: &[one(Family::Pages, ValueKind::Word(&["keep", "width"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::WordGap,
        name: "word_gap",
        about: "The gaps that no other setting decides (after commas, between words, before \
                parentheses and braces): one space or none, as the language's guide has it, or kept.",
        slots: &[one(Family::Text, ValueKind::Word(&["guide", "keep"]), "guide")],
        one_for_all: false,
    },
];
