//! A language's kinds of node: the project's own names for the grammar's, and what its table says of
//! each.

use super::grammar::Role;

/// What a language's table says of a kind of node.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Said {
    /// A rule lays it out.
    Ruled,
    /// Its parts have one blank between them.
    Words,
    /// Its parts have nothing between them.
    Tight,
    /// Its parts stand on one line, separators right behind what they end.
    Commas,
    /// A name, a mark right behind it and a value: `level: 2`.
    Pair,
    /// There is nothing to decide inside it.
    Plain,
    /// A word or a mark that rules tell from others.
    Mark,
    /// A mark that ends an element or a statement: it carries no meaning of its own.
    Separator,
    /// [`Role::Body`], which a rule lays out.
    Body,
    /// [`Role::Statements`], which a rule lays out.
    Statements,
    /// [`Role::Wrapper`]; a rule lays out one around several things.
    Wrapper,
    /// A wrapper that the grammar puts around several things in one place and leaves out in another: it
    /// carries no meaning.
    Loose,
    /// [`Role::Atom`].
    Atom,
    /// [`Role::Comment`].
    Comment,
    /// [`Role::Join`].
    Join,
    /// [`Role::Heredoc`].
    Heredoc,
    /// [`Role::Text`].
    Text,
    /// [`Role::Unread`].
    Unread,
}

impl Said {
    /// Whether there may be something to decide about a node of such a kind that holds no others.
    pub fn may_decide_alone(self) -> bool {
        matches!(self, Said::Atom | Said::Unread | Said::Comment)
    }

    /// What the copying walk does with such a kind.
    pub fn role(self) -> Role {
        match self {
            Said::Body => Role::Body,
            Said::Statements => Role::Statements,
            Said::Wrapper | Said::Loose => Role::Wrapper,
            Said::Atom => Role::Atom,
            Said::Comment => Role::Comment,
            Said::Join => Role::Join,
            Said::Heredoc => Role::Heredoc,
            Said::Text => Role::Text,
            Said::Unread => Role::Unread,
            _ => Role::Plain,
        }
    }
}

/// A kind of node.
#[derive(Debug)]
pub struct KindEntry {
    /// The project's name for it.
    pub own: &'static str,
    /// The grammar's, where that is not the same in words with underscores between them.
    pub name: Option<&'static str>,
    /// What the table says of it.
    pub said: Said,
}

impl KindEntry {
    /// The grammar's names for it, each with whether it is one of a construct, as opposed to a mark or
    /// a keyword. Two words side by side may be either.
    pub fn grammar_names(&self) -> Vec<(String, bool)> {
        let name = self.name.map_or_else(|| snake(self.own), str::to_string);
        match self.said {
            Said::Mark | Said::Separator => vec![(name, false)],
            _ if name.contains(' ') => vec![(name.clone(), true), (name, false)],
            _ => vec![(name, true)],
        }
    }
}

/// `FunctionItem` is `function_item`.
fn snake(name: &str) -> String {
    let mut words = String::new();
    for (at, letter) in name.char_indices() {
        if letter.is_ascii_uppercase() && at > 0 {
            words.push('_');
        }
        words.push(letter.to_ascii_lowercase());
    }
    words
}

/// A language's table.
#[derive(Debug)]
pub struct Kinds {
    /// The kinds by their numbers; the last one stands for all that the table does not have.
    pub entries: &'static [KindEntry],
    /// The file that the table is in.
    pub file: &'static str,
}

impl Kinds {
    /// What the table says of a kind, by its number.
    pub fn said(&self, kind: u16) -> Said {
        self.entries.get(kind as usize).map_or(Said::Ruled, |entry| entry.said)
    }
}
