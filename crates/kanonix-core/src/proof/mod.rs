//! The same program, before and after.
//!
//! The mended text is parsed again, and both trees are compared leaf by leaf and shape by shape,
//! leaving out blanks, positions and the tokens that a rewrite declared.

use crate::layout::compare::Declared;
use crate::layout::plan::TreeEdit;
use crate::syntax::{Grammar, NodeId, Role, Said, Token, TokenId, Tree};
use std::borrow::Cow;
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

/// Proves that the tree `new` of `after` is the program of `before`, but for the `declared`
/// changes.
pub(crate) fn prove(
    tree: &Tree,
    before: &str,
    new: &Tree,
    after: &str,
    declared: &[Declared],
) -> Result<(), Difference> {
    nothing_is_forbidden(tree, declared)?;
    let added = tokens_agree(tree, before, new, after, declared)?;
    shapes_agree(tree, before, new, after, &added)?;
    faults_agree(tree, before, new, after)
}

/// No separator is added where the language allows none, although the grammar would read it.
fn nothing_is_forbidden(tree: &Tree, declared: &[Declared]) -> Result<(), Difference> {
    let separators: Vec<(TokenId, &'static str)> = declared
        .iter()
        .filter_map(|declared| match declared.change {
            TreeEdit::Insert(text, _) if text == "," => {
                Some((declared.token, text))
            }
            _ => None,
        })
        .collect();
    if separators.is_empty() || tree.last.is_empty() {
        return Ok(());
    }
    for (id, node) in tree.nodes.iter().enumerate().filter(|(_, node)| node.end > node.first) {
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
        (Some(tree), Some(new)) => prove(&tree, before, &new, after, &[]).is_ok(),
        _ => false,
    }
}

fn tokens_agree(
    tree: &Tree,
    before: &str,
    new: &Tree,
    after: &str,
    declared: &[Declared],
) -> Result<Vec<TokenId>, Difference> {
    let mut added = Vec::new();
    let mut found = new.tokens.iter().enumerate();
    let mut declared = declared.iter().peekable();
    for (index, token) in tree.tokens.iter().enumerate() {
        let text = &before[token.start as usize..token.end as usize];
        let mut expected = Some(Cow::Borrowed(text));
        let mut appended = Vec::new();
        while let Some(change) = declared.next_if(|d| d.token as usize == index) {
            match &change.change {
                TreeEdit::Respell(new) => expected = Some(Cow::Borrowed(new.as_str())),
                TreeEdit::Remove(_) => expected = None,
                TreeEdit::Insert(text, _) => appended.push(
                    *text,
                ),
            }
        }
        let wanted = expected.into_iter().map(|text| (token.role, text));
        let expected = wanted.clone().count();
        let appended = appended.into_iter().map(|text| (Role::Plain, Cow::Borrowed(text)));
        for (place, (role, text)) in wanted.chain(appended).enumerate() {
            let next = found.next();
            if place >= expected {
                added.extend(next.map(|(index, _)| index as TokenId));
            }
            let same = next.is_some_and(|(_, new)| {
                let leaf = &after[new.start as usize..new.end as usize];
                new.role == role
                    && same_leaf(role, &text, leaf, tree.line_ends_count)
                    && (role != Role::Text || shown(before, token) == shown(after, new))
            });
            if !same {
                return Err(Difference::Token {
                    offset: token.start as usize,
                    before: text.into_owned(),
                    after: next.map_or(String::new(), |(_, new)| {
                        after[new.start as usize..new.end as usize].to_string()
                    }),
                });
            }
        }
    }
    match found.next() {
        None => Ok(added),
        Some((_, new)) => Err(Difference::Token {
            offset: before.len(),
            before: String::new(),
            after: after[new.start as usize..new.end as usize].to_string(),
        }),
    }
}

/// The blanks before and after a text between markup, as far as they are shown: those that stand
/// on its line with something beyond them.
fn shown<'a>(text: &'a str, token: &Token) -> (&'a str, &'a str) {
    let before = &text[..token.start as usize];
    let solid = before.trim_end_matches([' ', '\t']);
    let leading = if solid.ends_with('\n') { "" } else { &before[solid.len()..] };
    let after = &text[token.end as usize..];
    let solid = after.trim_start_matches([' ', '\t']);
    let trailing = &after[..after.len() - solid.len()];
    let trailing = if solid.starts_with(['\r', '\n']) { "" } else { trailing };
    (leading, trailing)
}

/// Line ends inside a token count where the language does not say otherwise; blanks inside a comment
/// never do.
fn same_leaf(role: Role, before: &str, after: &str, line_ends_count: bool) -> bool {
    if before == after {
        return true;
    }
    if role == Role::Comment {
        let solid =
            |text: &str| -> String { text.chars().filter(|c| !c.is_whitespace()).collect() };
        return solid(before) == solid(after);
    }
    !line_ends_count
        && before.contains('\n')
        && before.replace("\r\n", "\n") == after.replace("\r\n", "\n")
}

/// `added` are the new tokens that a rewrite declared, ascending; what begins with one of them is
/// not in the old tree.
fn shapes_agree(
    tree: &Tree,
    before: &str,
    new: &Tree,
    after: &str,
    added: &[TokenId],
) -> Result<(), Difference> {
    let mut old_walk = Walk::new(tree, before, &[]);
    let mut new_walk = Walk::new(new, after, added);
    loop {
        match (old_walk.next(), new_walk.next()) {
            (None, None) => return Ok(()),
            (Some(old), Some(new)) if (old.0, old.1) == (new.0, new.1) => {}
            (Some((_, _, offset)), _) => return Err(Difference::Shape { offset }),
            (None, _) => return Err(Difference::Shape { offset: before.len() }),
        }
    }
}

/// The nodes that carry meaning, each with its kind (ours, and the grammar's beside it), its depth and
/// where it begins.
struct Walk<'a> {
    tree: &'a Tree,
    text: &'a str,
    next: usize,
    depth: Vec<u32>,
    added: &'a [TokenId],
}

impl<'a> Walk<'a> {
    fn new(tree: &'a Tree, text: &'a str, added: &'a [TokenId]) -> Walk<'a> {
        Walk { tree, text, next: 0, depth: vec![0; tree.nodes.len()], added }
    }
}

impl Iterator for Walk<'_> {
    type Item = ((u16, u16), u32, usize);

    fn next(&mut self) -> Option<((u16, u16), u32, usize)> {
        loop {
            let id = self.next;
            let node = self.tree.nodes.get(id)?;
            self.next += 1;
            if id > 0 {
                self.depth[id] = self.depth[node.parent as usize] + 1;
            }
            if node.end > node.first && self.added.binary_search(&node.first).is_ok() {
                self.depth[id] = self.depth[node.parent as usize];
                continue;
            }
            let kind = (node.kind, node.origin);
            let is_leaf = self.tree.children(id as NodeId).next().is_none();
            let token = self.tree.tokens.get(node.first as usize);
            let offset = token.map_or(self.text.len(), |token| token.start as usize);
            if is_leaf {
                let Some(token) = token.filter(|_| node.end > node.first) else {
                    if node.shown {
                        return Some((kind, self.depth[id], offset));
                    }
                    continue;
                };
                // Separators are held by the comparison of tokens; a last one may come or go.
                if matches!(token.role, Role::Comment | Role::Join)
                    || self.tree.kinds.said(node.kind) == Said::Separator
                {
                    continue;
                }
            }
            return Some((kind, self.depth[id], offset));
        }
    }
}

#[cfg(all(test, feature = "ecmascript"))]
mod tests {
    use super::*;
    use crate::languages;
    use crate::layout::plan::When;

    /// What the mended text is to the old one, where a comma is declared behind a token.
    fn with_comma(before: &str, behind: &str) -> Result<(), Difference> {
        let grammar = &languages::by_name("javascript").unwrap().grammar;
        let at = before.find(behind).unwrap() + behind.len();
        let after = format!("{},{}", &before[..at], &before[at..]);
        let (tree, new) =
            (Tree::parse(grammar, before).unwrap(), Tree::parse(grammar, &after).unwrap());
        let token = tree.tokens.iter().position(|token| token.end as usize == at).unwrap();
        let declared = [
            Declared { token: token as TokenId, change: TreeEdit::Insert(",", When::Always) },
        ];
        prove(&tree, before, &new, &after, &declared)
    }

    #[test]
    fn what_the_language_forbids_is_refused_although_the_grammar_reads_it() {
        assert_eq!(with_comma("function f(a, b) {}", "b"), Ok(()));
        let forbidden = Difference::Forbidden { offset: 14, added: "," };
        assert_eq!(with_comma("function f(a, ...b) {}", "...b"), Err(forbidden));
        assert!(with_comma("let [...all] = a;", "all").is_err());
    }
}
