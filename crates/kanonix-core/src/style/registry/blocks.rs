//! Blocks, braces, and where lines stand that are not just further in.

use super::{key, one};
use crate::style::entry::{Entry, Setting, ValueKind};
use crate::style::family::Family;
use crate::style::keys::Key;
use crate::style::member_order::{READY, WORDS};

const BRACE: ValueKind =
    ValueKind::Word(&["same_line", "next_line", "next_line_if_broken", "keep"]);
const GOES_ON: ValueKind = ValueKind::Word(&["with_brace", "own_line", "keep"]);
const ANNOTATION: ValueKind = ValueKind::Word(&["keep", "own_line", "same_line"]);
const CLAUSE: ValueKind = ValueKind::Word(&["fit", "own_line"]);
const DIRECTIVE: ValueKind = ValueKind::Word(&["keep", "code", "margin"]);
const FLAT: ValueKind = ValueKind::Word(&["open", "keep"]);

pub(super) const ENTRIES: &[Entry] = &[
    Entry {
        setting: Setting::OpenBrace,
        name: "open_brace",
        about: "Where the brace stands that opens a block: at the end of its header's line, or on \
                a line of its own, or on one where the header takes several lines, or where it \
                is. One word for all kinds of block, or a table.",
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
            key(Key::Lambda, Family::LambdaBraces, "functions without a name", BRACE, "same_line"),
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
                "values: `new Gauge { … }`, a table behind its sign, the arms of a `switch` that is a \
                 value",
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
        about: "Whether a word that goes on behind a brace stands on the line of that or on its own, \
                or where it is. One word for both kinds, or a table.",
        slots: &[
            key(Key::Branch, Family::Braces, "`else`, `catch`, `finally`", GOES_ON, "with_brace"),
            key(Key::While, Family::DoLoops, "a `do`'s `while`", GOES_ON, "with_brace"),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::FlatBlock,
        name: "flat_block",
        about: "A block that stands on its header's line and fits there: opened all the same, or \
                kept as it stands. One word for all kinds of block, or a table. A body of \
                Python that is nothing but `...` always stays. Where words open blocks, what is behind \
                one of several headers (`else`) is kept where another one's is, too.",
        slots: &[
            key(Key::Type, Family::Classes, "classes", FLAT, "open"),
            key(
                Key::Function,
                Family::Definitions,
                "functions and methods with a name",
                FLAT,
                "open",
            ),
            key(Key::Control, Family::Headers, "`if`, `for`, `try` and the like", FLAT, "open"),
            key(Key::Case, Family::Members, "what a `case` does", FLAT, "open"),
            key(Key::Lambda, Family::Lambdas, "functions without a name", FLAT, "open"),
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
        slots: &[one(Family::BareBodies, ValueKind::Word(&["keep", "brace"]), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::CaseIndent,
        name: "case_indent",
        about: "Whether the cases of a `switch` are one step further in than the `switch`; with `keep`, \
                as the first of them stands.",
        slots: &[one(Family::Cases, ValueKind::FlagOrKeep, "true")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::AccessIndent,
        name: "access_indent",
        about:
            "Where a word stands that says who may use the members behind it (`private`): beside \
                them all; a step out, as far in as its class; or beside those before it, and those \
                behind it are a step further in, right below it.",
        slots: &[one(
            Family::AccessWords,
            ValueKind::Word(&["beside", "out", "members_in", "keep"]),
            "beside",
        )],
        one_for_all: false,
    },
    Entry {
        setting: Setting::NamespaceIndent,
        name: "namespace_indent",
        about:
            "Whether what a namespace holds is one step further in: a function around the file, whose \
                body has three fifths of it and stands in no other block, and one inside that \
                which is called at once; a module around classes; a block around functions of \
                the file.",
        slots: &[one(Family::Wrappers, ValueKind::FlagOrKeep, "true")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::RuleIndent,
        name: "rule_indent",
        about:
            "Whether a rule of a style sheet stands some steps further in than what it is in, below the \
                rule that it says more of: no rule does, or those that stand so. A comment above one may \
                stand less far in then.",
        slots: &[one(Family::Sheets, ValueKind::Word(&["none", "keep"]), "none")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::PageIndent,
        name: "page_indent",
        about:
            "Whether what stands in an element of a page is one step further in than its tags. With \
                `keep` it is where most of its lines are, or those of the page; a line that goes on with a text \
                stays up to four steps further in than the one that the text begins on. One word for all kinds, or \
                a table.",
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
        setting: Setting::ElementLine,
        name: "element_line",
        about:
            "Whether an element that begins and ends a line where a page is drawn (a paragraph, a list, a \
                table, a heading) does so in the file, too, or stands beside others where somebody put it \
                there.",
        slots: &[one(Family::Pages, ValueKind::Word(&["own_line", "keep"]), "own_line")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::StatementLine,
        name: "statement_line",
        about:
            "Whether each statement, or each declaration of a style sheet, has a line of its own, or \
                those that somebody put on a line together share it as long as there is room.",
        slots: &[one(
            Family::SharedLines,
            ValueKind::Word(&["own_line", "keep"]),
            "own_line",
        )],
        one_for_all: false,
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
            key(Key::Type, Family::Attributes, "before types", ANNOTATION, "own_line"),
            key(
                Key::Function,
                Family::Attributes,
                "before methods and properties",
                ANNOTATION,
                "own_line",
            ),
            key(Key::Value, Family::Attributes, "before fields and variables", ANNOTATION, "keep"),
        ],
        one_for_all: true,
    },
    Entry {
        setting: Setting::ReturnTypeLine,
        name: "return_type_line",
        about: "Where the name of a function stands that has the type of what it returns before \
                it: behind that, on a line of its own below it (without a body, behind it), or as \
                it does.",
        slots: &[
            one(
                Family::ReturnTypes,
                ValueKind::Word(&["with_name", "own_line", "keep"]),
                "with_name",
            ),
        ],
        one_for_all: false,
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
        setting: Setting::MemberOrder,
        name: "member_order",
        about:
            "The order of the members of a type, by patterns (`[\"constant\", \"field\", \"public \
                method\", \"method\"]`), of which the one with the most words has a member; what no \
                pattern names comes last. `by_kind` is a list to begin with. Only a member all of \
                whose lines are in play moves, with the comments right above it. Initial values keep \
                their order where it may matter, and nothing passes a directive or a comment that \
                stands by itself.",
        slots: &[one(Family::Modifiers, ValueKind::Patterns(READY, WORDS), "keep")],
        one_for_all: false,
    },
    Entry {
        setting: Setting::UnusedImports,
        name: "unused_imports",
        about:
            "Whether an import of one name goes that nothing else in the file mentions, in code or in \
                comments (`drop`). The file says something else without it: no proof is given of that, \
                and `mend` says how many went. Only one that has its lines to itself, all of them in \
                play, goes.",
        slots: &[one(Family::NamedImports, ValueKind::Word(&["keep", "drop"]), "keep")],
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
];
