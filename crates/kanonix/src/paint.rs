//! Colours, where a person looks on.

use crate::options::Color;
use std::io::IsTerminal;

/// Paints text for a terminal, or leaves it plain.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Paint {
    on: bool,
}

impl Paint {
    /// Paints if the option says so; left to itself, if the standard output is a terminal and
    /// `NO_COLOR` is not set.
    pub fn new(color: Color) -> Paint {
        let no_color = std::env::var_os("NO_COLOR").is_some_and(|value| !value.is_empty());
        let on = match color {
            Color::Always => true,
            Color::Never => false,
            Color::Auto => !no_color && std::io::stdout().is_terminal(),
        };
        Paint { on }
    }

    /// Whether anything is painted.
    pub fn is_on(self) -> bool {
        self.on
    }

    fn wrap(self, code: &str, text: &str) -> String {
        if self.on { format!("\x1b[{code}m{text}\x1b[0m") } else { text.to_string() }
    }

    /// A file's name, a heading.
    pub fn strong(self, text: &str) -> String {
        self.wrap("1", text)
    }

    /// What can be passed over.
    pub fn faint(self, text: &str) -> String {
        self.wrap("2", text)
    }

    /// What went well.
    pub fn good(self, text: &str) -> String {
        self.wrap("32", text)
    }

    /// What goes.
    pub fn gone(self, text: &str) -> String {
        self.wrap("31", text)
    }

    /// What stops.
    pub fn bad(self, text: &str) -> String {
        self.wrap("1;31", text)
    }

    /// A setting's name.
    pub fn name(self, text: &str) -> String {
        self.wrap("36", text)
    }

    /// The mark under a place.
    pub fn mark(self, text: &str) -> String {
        self.wrap("33", text)
    }
}
