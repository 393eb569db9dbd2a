//! Brace traditions of the trade, as sets of values that a canon may begin with.

/// A named tradition.
#[derive(Debug)]
pub struct Basis {
    /// Its name in the canon.
    pub name: &'static str,
    /// Where it comes from, in a sentence.
    pub about: &'static str,
    /// What it says: setting, key and value.
    pub values: &'static [(&'static str, &'static str, &'static str)],
}

/// Every tradition that a canon may begin with.
pub static BASES: &[Basis] = &[
    Basis {
        name: "kernighan_ritchie",
        about: "As in \"The C Programming Language\": a function's brace on its own line, every \
                other one behind its header.",
        values: &[
            ("open_brace", "", "same_line"),
            ("open_brace", "function", "next_line"),
            ("else_line", "", "with_brace"),
        ],
    },
    Basis {
        name: "one_true_brace",
        about: "Every brace behind its header, and braces around single statements too.",
        values: &[
            ("open_brace", "", "same_line"),
            ("else_line", "", "with_brace"),
            ("bare_body", "", "brace"),
        ],
    },
    Basis {
        name: "allman",
        about: "Every brace on a line of its own, as Eric Allman wrote it.",
        values: &[("open_brace", "", "next_line"), ("else_line", "", "own_line")],
    },
    Basis {
        name: "stroustrup",
        about: "As in \"The C++ Programming Language\": a function's brace on its own line, every \
                other one behind its header, and `else` on its own line.",
        values: &[
            ("open_brace", "", "same_line"),
            ("open_brace", "function", "next_line"),
            ("else_line", "branch", "own_line"),
        ],
    },
    Basis {
        name: "gnu",
        about: "As in the GNU coding standards: braces on lines of their own, a space before every \
                parenthesis, two spaces a step, operators at the start of a line.",
        values: &[
            ("open_brace", "", "next_line"),
            ("else_line", "", "own_line"),
            ("paren_gap", "control", "true"),
            ("paren_gap", "call", "true"),
            ("paren_gap", "declaration", "true"),
            ("paren_gap", "lambda", "true"),
            ("operator_place", "", "leads"),
            ("indent_style", "", "space"),
            ("indent_size", "", "2"),
            ("max_line_length", "", "79"),
        ],
    },
];

#[cfg(test)]
mod tests {
    use super::*;
    use crate::style::Style;

    #[test]
    fn a_basis_speaks_only_of_what_the_registry_knows() {
        for basis in BASES {
            let mut style = Style::default();
            for (name, key, value) in basis.values {
                style.set(name, key, value).unwrap();
            }
        }
    }
}
