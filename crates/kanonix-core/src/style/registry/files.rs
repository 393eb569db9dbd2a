//! Files, lines and what they are indented by.

use super::{one};
use crate::style::entry::{Entry, Setting, ValueKind};
use crate::style::family::Family;

pub(super) const ENTRIES: &[Entry] = &[
    Entry {
        setting: Setting::IndentStyle,
        name: "indent_style",
        about: "What indentation is made of: spaces, a tab a step, or tabs and spaces (`mixed`): as \
                many tabs as there is room for, `tab_width` columns each, and spaces up to where \
                a line begins. Where indentation is syntax, `mixed` is `space`. (EditorConfig, but \
                for `mixed`)",
        slots: &[one(Family::Text, ValueKind::Word(&["space", "tab", "mixed"]), "space")],
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
        about:
            "How many columns a line has before it is broken, where it can be. With `off`, lines \
                are as long as somebody makes them, and where `list_wrap` looks at the lines that \
                are there, what stands on several is put on one of 100 columns at most, or of as \
                many as the first of them has. (EditorConfig)",
        slots: &[one(Family::Text, ValueKind::Number(20, 1000, &["off"]), "100")],
        one_for_all: false,
    },
];
