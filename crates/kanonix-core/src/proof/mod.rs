//! The same program, before and after.
//!
//! The mended text is parsed again. The declared changes are made in what the old tree says
//! ([`program`]), and the new tree has to say the same, token by token and construct by construct;
//! blanks and positions are left out.

mod order;
mod program;

use crate::layout::compare::Declared;
use crate::layout::moves::Rearranged;
use crate::layout::plan::{TreeEdit, When};
use crate::syntax::{Grammar, Node, NodeId, TokenId, Tree};
use program::Program;
use thiserror::Error;

/// What differs between the two trees.
#[derive(Clone, Debug, Error, PartialEq, Eq)]
pub enum Difference {
    /// A token is another one, or in another place.
    #[error("`{}` became `{}`", shortened(.before), shortened(.after))]
    Token {
        /// Where it stood in the old text, in bytes.
        offset: usize,
        /// The token that was expected.
        before: String,
        /// The token that was found.
        after: String,
    },
    /// Something is behind an element that the language allows nothing behind.
    #[error("the language allows no `{added}` there")]
    Forbidden {
        /// Where the element begins in the old text, in bytes.
        offset: usize,
        /// What was added.
        added: &'static str,
    },
    /// What did not parse is another stretch.
    #[error("another stretch does not parse")]
    Fault {
        /// Where it begins in the old text, in bytes.
        offset: usize,
    },
    /// The same tokens mean something else.
    #[error("the same words are read as another construct")]
    Shape {
        /// Where the construct begins in the old text, in bytes.
        offset: usize,
    },
}

/// A token's first line, as far as a message has room for it.
fn shortened(token: &str) -> String {
    let line = token.lines().next().unwrap_or_default();
    let short: String = line.chars().take(LONGEST_QUOTE).collect();
    if short.len() < token.len() { format!("{short}…") } else { short }
}

/// So many characters of a token are shown.
const LONGEST_QUOTE: usize = 60;

impl Difference {
    /// The same in a text in which the compared one begins at a byte.
    pub(crate) fn moved(mut self, by: usize) -> Difference {
        match &mut self {
            Difference::Token { offset, .. }
            | Difference::Forbidden { offset, .. }
            | Difference::Fault { offset }
            | Difference::Shape { offset } => *offset += by,
        }
        self
    }

    /// Where in the old text the difference begins, in bytes.
    pub fn offset(&self) -> usize {
        match self {
            Difference::Token { offset, .. }
            | Difference::Forbidden { offset, .. }
            | Difference::Fault { offset }
            | Difference::Shape { offset } => *offset,
        }
    }
}

/// What is declared to be otherwise in the new text.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Changes<'a> {
    /// The changes to tokens, ascending by token.
    pub declared: &'a [Declared],
    /// What changes places, or goes, each in the order that the one before has made.
    pub rearranged: &'a [Rearranged],
}

impl<'a> Changes<'a> {
    /// These changes to tokens.
    pub fn of(declared: &'a [Declared]) -> Changes<'a> {
        Changes { declared, ..Changes::default() }
    }
}

/// Proves that the tree `new` of `after` is the program of `before`, but for these changes.
pub(crate) fn prove(
    tree: &Tree,
    before: &str,
    new: &Tree,
    after: &str,
    changes: Changes,
) -> Result<(), Difference> {
    nothing_is_forbidden(tree, changes.declared)?;
    let order = order::of(tree, changes.rearranged)?;
    let wanted = Program::new(tree, before, changes.declared).in_order(&order);
    wanted.agrees(&Program::new(new, after, &[]))?;
    faults_agree(tree, before, new, after)
}

/// No separator is added where the language allows none, although the grammar would read it.
fn nothing_is_forbidden(tree: &Tree, declared: &[Declared]) -> Result<(), Difference> {
    let separators: Vec<(TokenId, &'static str)> = declared
        .iter()
        .filter_map(|declared| match declared.change {
            TreeEdit::Insert(text, When::Open(_)) | TreeEdit::Insert(text @ ",", _) => {
                Some((declared.token, text))
            }
            _ => None,
        })
        .collect();
    if separators.is_empty() || !tree.forbids_separators() {
        return Ok(());
    }
    // What ends with its list is no element of it.
    let is_inside = |node: &Node| {
        node.end > node.first && tree.nodes[node.parent as usize].end > node.end
    };
    for (id, node) in tree.nodes.iter().enumerate().filter(|(_, node)| is_inside(node)) {
        let behind = separators.iter().find(|(token, _)| *token == node.end - 1);
        if let Some((_, added)) = behind
            && !tree.may_be_followed(node.parent, id as NodeId)
        {
            let offset = tree.tokens[node.first as usize].start as usize;
            return Err(Difference::Forbidden { offset, added });
        }
    }
    Ok(())
}

/// What does not parse stays, to the byte, and nothing else comes to it.
fn faults_agree(tree: &Tree, before: &str, new: &Tree, after: &str) -> Result<(), Difference> {
    let mut found = new.faults.iter();
    for fault in &tree.faults {
        let same = found
            .next()
            .is_some_and(|new| after.get(new.clone()) == before.get(fault.clone()));
        if !same {
            return Err(Difference::Fault { offset: fault.start });
        }
    }
    match found.next() {
        None => Ok(()),
        Some(fault) => {
            // The tokens are the same by now, but for some marks.
            let at = new.tokens.partition_point(|token| (token.end as usize) <= fault.start);
            let share = at * tree.tokens.len() / new.tokens.len().max(1);
            let offset = tree.tokens.get(share).map_or(before.len(), |token| token.start as usize);
            Err(Difference::Fault { offset })
        }
    }
}

/// Whether two texts are the same program, blanks aside.
pub fn same(grammar: &Grammar, before: &str, after: &str) -> bool {
    match (Tree::parse(grammar, before), Tree::parse(grammar, after)) {
        (Some(tree), Some(new)) => prove(&tree, before, &new, after, Changes::default()).is_ok(),
        _ => false,
    }
}

#[cfg(all(test, feature = "ecmascript"))]
mod tests {
    use super::*;
    use crate::languages;
    use crate::layout::plan::{Wrap, Wrapped};
    use crate::style::Setting;
    use crate::syntax::Token;
    use std::ops::Range;

    /// What the mended text is to the old one, where a comma is declared behind a token.
    fn with_comma(language: &str, before: &str, behind: &str) -> Result<(), Difference> {
        let grammar = &languages::by_name(language).unwrap().grammar;
        let at = before.find(behind).unwrap() + behind.len();
        let after = format!("{},{}", &before[..at], &before[at..]);
        let (tree, new) =
            (Tree::parse(grammar, before).unwrap(), Tree::parse(grammar, &after).unwrap());
        let token = tree.tokens.iter().position(|token| token.end as usize == at).unwrap();
        let declared = [
            Declared { token: token as TokenId, change: TreeEdit::Insert(",", When::Always) },
        ];
        prove(&tree, before, &new, &after, Changes::of(&declared))
    }

    /// What `if (a) b;` with braces around its statement is to it, where they are said to make
    /// this.
    fn wrapped(block: &str, after: &str) -> Result<(), Difference> {
        wrapped_by(block, after, Wrapped::Inside)
    }

    fn wrapped_by(
        block: &str,
        after: &str,
        becomes: fn(u16) -> Wrapped,
    ) -> Result<(), Difference> {
        let grammar = &languages::by_name("javascript").unwrap().grammar;
        let before = "if (a) b;";
        let (tree, new) =
            (Tree::parse(grammar, before).unwrap(), Tree::parse(grammar, after).unwrap());
        let entries = grammar.kinds().entries;
        let block = entries.iter().position(|entry| entry.own == block).unwrap() as u16;
        let wrap = Wrap {
            header: 3,
            last: 5,
            brackets: ("{", Some("}")),
            becomes: becomes(block),
            setting: Setting::BareBody,
            around: None,
        };
        let declared = [Declared { token: 3, change: TreeEdit::Wrap(wrap) }];
        prove(&tree, before, &new, after, Changes::of(&declared))
    }

    #[test]
    fn a_wrapped_statement_becomes_the_block_that_was_declared_and_no_other_construct() {
        assert_eq!(wrapped("StatementBlock", "if (a) { b; }"), Ok(()));
        assert_eq!(wrapped("ClassBody", "if (a) { b; }"), Err(Difference::Shape { offset: 7 }));
        assert!(wrapped("StatementBlock", "if (a) b;").is_err());
        assert!(wrapped("StatementBlock", "if (a) { } b;").is_err());
        let object = wrapped("StatementBlock", "if (a) ({ b; })");
        assert!(object.is_err());
        // What is said to take the statement's place does not hold it.
        assert!(wrapped_by("StatementBlock", "if (a) { b; }", Wrapped::Instead).is_err());
        // Nor are brackets beside it a block around it.
        assert!(wrapped_by("StatementBlock", "if (a) { b; }", |_| Wrapped::Beside).is_err());
    }

    #[test]
    fn what_the_language_forbids_is_refused_although_the_grammar_reads_it() {
        let in_script = |before: &str, behind: &str| with_comma("javascript", before, behind);
        assert_eq!(in_script("function f(a, b) {}", "b"), Ok(()));
        let forbidden = Difference::Forbidden { offset: 14, added: "," };
        assert_eq!(in_script("function f(a, ...b) {}", "...b"), Err(forbidden));
        assert!(in_script("let [...all] = a;", "all").is_err());
    }

    #[test]
    #[cfg(feature = "csharp")]
    fn what_ends_a_list_may_be_forbidden_in_some_of_its_kind() {
        let entry = "var levels = new Table { { mole, 2 } };";
        let forbidden = Difference::Forbidden { offset: 33, added: "," };
        assert_eq!(with_comma("csharp", entry, "2"), Err(forbidden));
        assert_eq!(with_comma("csharp", entry, "2 }"), Ok(()));
        assert_eq!(with_comma("csharp", "int[,] rows = { { 1, 2 } };", "2"), Ok(()));
    }

    #[test]
    #[cfg(feature = "java")]
    fn what_goes_is_a_whole_construct_and_nothing_else_does() {
        let grammar = &languages::by_name("java").unwrap().grammar;
        let before = "import a.B;\nimport a.C;\nclass D {}\n";
        let drop = |tokens: Range<TokenId>, after: &str| {
            let (tree, new) =
                (Tree::parse(grammar, before).unwrap(), Tree::parse(grammar, after).unwrap());
            let rearranged = [Rearranged::Dropped(vec![tokens])];
            let said = Changes { rearranged: &rearranged, ..Changes::default() };
            prove(&tree, before, &new, after, said)
        };
        assert_eq!(drop(0..5, "import a.C;\nclass D {}\n"), Ok(()));
        assert_eq!(drop(5..10, "import a.B;\nclass D {}\n"), Ok(()));
        assert!(drop(0..5, "import a.B;\nclass D {}\n").is_err());
        assert!(drop(0..5, "class D {}\n").is_err());
        assert!(drop(0..4, "import a.C;\nclass D {}\n").is_err());
        assert!(drop(0..10, "class D {}\n").is_err());
    }

    #[test]
    fn an_order_of_words_holds_the_same_words() {
        let grammar = &languages::by_name("javascript").unwrap().grammar;
        let before = "a = <p b=\"c d\" />;";
        let order = |after: &str| {
            let after = format!("a = <p b={after} />;");
            let (tree, new) =
                (Tree::parse(grammar, before).unwrap(), Tree::parse(grammar, &after).unwrap());
            let is_value = |token: &Token| before[token.start as usize..].starts_with("\"c d");
            let token = tree.tokens.iter().position(is_value).unwrap() as TokenId;
            let spelt = after["a = <p b=".len()..after.len() - " />;".len()].to_string();
            let declared = [Declared { token, change: TreeEdit::Reorder(spelt) }];
            prove(&tree, before, &new, &after, Changes::of(&declared))
        };
        assert_eq!(order("\"d c\""), Ok(()));
        assert_eq!(order("'d c'"), Ok(()));
        for other in ["\"d d\"", "\"dc\"", "\"d c c\"", "\"d\""] {
            assert!(order(other).is_err(), "{other}");
        }
    }
}
