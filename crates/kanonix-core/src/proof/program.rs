//! What a tree says: its tokens, and the constructs that carry meaning. Declared changes are made
//! here, in what the old tree says; the new tree has to say exactly that.

use super::Difference;
use crate::layout::compare::Declared;
use crate::layout::plan::{TreeEdit, Wrap, Wrapped};
use crate::syntax::{NodeId, Role, Said, Token, TokenId, Tree};
use std::borrow::Cow;
use std::collections::{HashMap, HashSet};
use std::ops::Range;

/// A token, and where it stands.
struct Leaf<'a> {
    /// The token of the tree that it is, or stands behind.
    token: TokenId,
    role: Role,
    text: Cow<'a, str>,
    /// Whether each blank in it counts, though it is no part of the program.
    exact: bool,
    /// Whether the common indentation of its later lines says nothing.
    margin: bool,
    /// The blanks beside a text between markup, as far as they are shown.
    shown: (&'a str, &'a str),
    /// Whether there is white space before it, where that shows.
    apart: Option<bool>,
    /// Its first byte.
    offset: usize,
}

/// A node that carries meaning.
struct Construct {
    /// Our kind, and the grammar's beside it. A block that was wrapped has only ours, and its
    /// brackets have neither: their tokens say what they are.
    kind: (Option<u16>, Option<u16>),
    /// The tokens of the tree that it is made of, or the one behind which it stands.
    tokens: Range<TokenId>,
    /// How many constructs it stands in.
    depth: u32,
    /// Where it begins, in bytes.
    offset: usize,
}

/// What a tree says.
pub(super) struct Program<'a> {
    tree: &'a Tree,
    leaves: Vec<Leaf<'a>>,
    /// In the order of the walk.
    constructs: Vec<Construct>,
    length: usize,
}

impl<'a> Program<'a> {
    /// What a tree says once these changes are made, which are ascending by token.
    pub fn new(tree: &'a Tree, text: &'a str, declared: &'a [Declared]) -> Program<'a> {
        let wraps: Vec<&Wrap> = declared
            .iter()
            .filter_map(|declared| match &declared.change {
                TreeEdit::Wrap(wrap) => Some(wrap),
                _ => None,
            })
            .collect();
        let taken = taken(tree, text, declared);
        let constructs = constructs(tree, text.len(), &wraps, &taken);
        Program {
            tree,
            leaves: leaves(tree, text, declared, wraps, &taken),
            constructs,
            length: text.len(),
        }
    }

    /// The same with these tokens in their order and no others, and the constructs with them; nothing
    /// stands for all in the order that they are in.
    pub fn in_order(mut self, tokens: &[TokenId]) -> Program<'a> {
        if !tokens.is_empty() {
            let mut places = vec![None; self.tree.tokens.len()];
            tokens.iter().enumerate().for_each(|(place, token)| {
                places[*token as usize] = Some(place);
            });
            let place = |token: TokenId| places.get(token as usize).copied().flatten();
            self.leaves.retain(|leaf| place(leaf.token).is_some());
            self.leaves.sort_by_key(|leaf| place(leaf.token));
            self.constructs.retain_mut(|construct| {
                let first = construct.tokens.clone().find(|token| place(*token).is_some());
                construct.tokens.start = first.unwrap_or(construct.tokens.start);
                first.is_some() || construct.tokens.is_empty()
            });
            let behind = usize::MAX;
            self.constructs.sort_by_key(|construct| {
                place(construct.tokens.start).unwrap_or(behind)
            });
        }
        self
    }

    /// Whether a new tree says the same.
    pub fn agrees(&self, new: &Program) -> Result<(), Difference> {
        let mut found = new.leaves.iter();
        for leaf in &self.leaves {
            let next = found.next();
            if !next.is_some_and(|new| leaf.is(new, self.tree.line_ends_count)) {
                return Err(Difference::Token {
                    offset: leaf.offset,
                    before: leaf.text.to_string(),
                    after: next.map_or(String::new(), |new| new.text.to_string()),
                });
            }
        }
        if let Some(new) = found.next() {
            return Err(Difference::Token {
                offset: self.length,
                before: String::new(),
                after: new.text.to_string(),
            });
        }
        let mut found = new.constructs.iter();
        for construct in &self.constructs {
            if !found.next().is_some_and(|new| construct.is(new)) {
                return Err(Difference::Shape { offset: construct.offset });
            }
        }
        match found.next() {
            None => Ok(()),
            Some(_) => Err(Difference::Shape { offset: self.length }),
        }
    }
}

impl Leaf<'_> {
    fn is(&self, new: &Leaf, line_ends_count: bool) -> bool {
        let role = if self.exact { Role::Plain } else { self.role };
        (self.role, self.exact) == (new.role, new.exact)
            && (same_leaf(role, &self.text, &new.text, line_ends_count)
                || self.margin && same_but_margin(&self.text, &new.text, line_ends_count))
            && (self.role != Role::Text || self.shown == new.shown)
            && self.apart == new.apart
    }
}

impl Construct {
    fn is(&self, new: &Construct) -> bool {
        let agrees = |wanted: Option<u16>, found: Option<u16>| wanted.is_none() || wanted == found;
        agrees(self.kind.0, new.kind.0)
            && agrees(self.kind.1, new.kind.1)
            && self.depth == new.depth
    }
}

/// The tokens, with what is respelt, removed and put behind others.
fn leaves<'a>(
    tree: &'a Tree,
    text: &'a str,
    declared: &'a [Declared],
    mut wraps: Vec<&'a Wrap>,
    taken: &HashMap<TokenId, TokenId>,
) -> Vec<Leaf<'a>> {
    wraps.sort_by_key(|wrap| wrap.last);
    let mut closing = wraps.into_iter().peekable();
    let mut changes = declared.iter().peekable();
    let mut leaves = Vec::with_capacity(tree.tokens.len() + declared.len());
    for (index, token) in tree.tokens.iter().enumerate() {
        let (range, offset) = (token.start as usize..token.end as usize, token.start as usize);
        let mut own = Some(Cow::Borrowed(&text[range.clone()]));
        let (mut behind, mut opening) = (Vec::new(), None);
        while let Some(change) = changes.next_if(|change| change.token as usize == index) {
            match &change.change {
                TreeEdit::Respell(new) => own = Some(Cow::Borrowed(new.as_str())),
                TreeEdit::Reorder(new) if has_same_words(&text[range.clone()], new) => {
                    own = Some(Cow::Borrowed(new.as_str()));
                }
                // What is no order of the same words is not what was declared.
                TreeEdit::Reorder(_) => {}
                TreeEdit::Take(..) => {
                    if let Some(source) = taken.get(&(index as TokenId)) {
                        let source = &tree.tokens[*source as usize];
                        own = Some(Cow::Borrowed(
                            &text[source.start as usize..source.end as usize],
                        ));
                    }
                }
                TreeEdit::Remove(_) => own = None,
                TreeEdit::Insert(text, _) => behind.push(*text),
                TreeEdit::Wrap(wrap) => opening = Some(wrap.brackets.0),
            }
        }
        while let Some(wrap) = closing.next_if(|wrap| wrap.last as usize == index) {
            behind.extend(wrap.brackets.1);
        }
        behind.extend(opening);
        let own = own.map(|own| Leaf {
            token: index as TokenId,
            role: token.role,
            exact: token.directive,
            margin: tree.has_margin(token, text),
            text: own,
            shown: if tree.shows.is_empty() { shown(text, token) } else { ("", "") },
            apart: tree.shows(index as TokenId).then(|| is_apart(tree, text, index)),
            offset,
        });
        let made = |text| Leaf {
            token: index as TokenId,
            role: Role::Plain,
            exact: false,
            margin: false,
            text: Cow::Borrowed(text),
            shown: ("", ""),
            apart: None,
            offset,
        };
        leaves.extend(own.into_iter().chain(behind.into_iter().map(made)));
    }
    leaves
}

/// Which token takes the place of which, as far as some change places among themselves: anything else
/// is not what may be declared.
fn taken(tree: &Tree, text: &str, declared: &[Declared]) -> HashMap<TokenId, TokenId> {
    let takes = declared.iter().filter_map(|declared| match &declared.change {
        TreeEdit::Take(new, source) => {
            let token = tree.tokens.get(*source as usize)?;
            let is_it = &text[token.start as usize..token.end as usize] == new.as_str();
            is_it.then_some((declared.token, *source))
        }
        _ => None,
    });
    let taken: HashMap<TokenId, TokenId> = takes.collect();
    let sources: HashSet<TokenId> = taken.values().copied().collect();
    let is_whole = sources.len() == taken.len()
        && sources.iter().all(|one| taken.contains_key(one));
    if is_whole { taken } else { HashMap::new() }
}

/// Whether two values between quotes hold the same words, each as often.
fn has_same_words(before: &str, after: &str) -> bool {
    let words = |value: &str| -> Option<Vec<String>> {
        let inside = value.get(1..value.len().checked_sub(1)?)?;
        let mut words: Vec<String> = inside.split_whitespace().map(str::to_string).collect();
        words.sort_unstable();
        Some(words)
    };
    words(before).is_some() && words(before) == words(after)
}

/// The nodes that carry meaning, and the blocks that statements are wrapped in. Comments may stand
/// in another node once lines are laid out, and separators, of which a last one may come or go, are
/// held by the comparison of tokens.
fn constructs(
    tree: &Tree,
    length: usize,
    wraps: &[&Wrap],
    taken: &HashMap<TokenId, TokenId>,
) -> Vec<Construct> {
    let is_leaf = |id: &NodeId| {
        let node = &tree.nodes[*id as usize];
        node.end == node.first + 1 && tree.children(*id).next().is_none()
    };
    let leaf_of: HashMap<TokenId, NodeId> = match taken.is_empty() {
        true => HashMap::new(),
        false => (0..tree.nodes.len() as NodeId)
            .filter(is_leaf)
            .map(|id| (tree.nodes[id as usize].first, id))
            .collect(),
    };
    let mut depths = vec![0; tree.nodes.len()];
    let mut constructs = Vec::with_capacity(tree.nodes.len());
    let mut wraps = wraps.iter().peekable();
    // The last token of each wrapped statement around the node, and its closing bracket.
    let mut open: Vec<(TokenId, Construct)> = Vec::new();
    for (id, node) in tree.nodes.iter().enumerate() {
        let is_loose = tree.kinds.said(node.kind) == Said::Loose;
        if id > 0 {
            depths[id] = depths[node.parent as usize] + u32::from(!is_loose);
        }
        while let Some((_, bracket)) = open.pop_if(|(last, _)| *last < node.first) {
            constructs.push(bracket);
        }
        let token = tree.tokens.get(node.first as usize);
        let offset = token.map_or(length, |token| token.start as usize);
        let is_it = |wrap: &&&Wrap| {
            // A comment behind the header comes into the block, too.
            let solid = |token: &TokenId| tree.tokens[*token as usize].role != Role::Comment;
            let first = (wrap.header + 1..=wrap.last).find(solid);
            let is_all = || tree.last_solid(id as NodeId) == Some(wrap.last);
            first == Some(node.first) && (wrap.becomes == Wrapped::Beside || is_all())
        };
        if let Some(wrap) = wraps.next_if(is_it) {
            let depth = depths[id];
            let (construct, inside) = match wrap.becomes {
                Wrapped::Inside(kind) | Wrapped::Instead(kind) => (Some(kind), depth + 1),
                Wrapped::Beside => (None, depth),
            };
            let bracket = |token| {
                let tokens = token..token + 1;
                Construct { kind: (None, None), tokens, depth: inside, offset }
            };
            constructs.extend(construct.map(|kind| {
                let tokens = node.first..node.end;
                Construct { kind: (Some(kind), None), tokens, depth, offset }
            }));
            constructs.push(bracket(node.first));
            open.extend(wrap.brackets.1.map(|_| (wrap.last, bracket(wrap.last))));
            match wrap.becomes {
                Wrapped::Instead(_) => continue,
                Wrapped::Inside(_) => depths[id] += 1,
                Wrapped::Beside => {}
            }
        }
        if is_loose {
            continue;
        }
        if tree.children(id as NodeId).next().is_none() {
            let own = token.filter(|_| node.end > node.first);
            let is_meant = own.map_or(node.shown, |token| {
                !token.role.is_passed_over()
                    && tree.kinds.said(node.kind) != Said::Separator
            });
            if !is_meant {
                continue;
            }
        }
        // Of a token that another one takes the place of, that one's.
        let source = taken.get(&node.first).filter(|_| is_leaf(&(id as NodeId)));
        let meant = source.and_then(|source| leaf_of.get(source));
        let tokens = node.first..node.end;
        let node = meant.map_or(node, |leaf| &tree.nodes[*leaf as usize]);
        let kind = (Some(node.kind), Some(node.origin));
        constructs.push(Construct { kind, tokens, depth: depths[id], offset });
    }
    constructs.extend(open.into_iter().rev().map(|(_, bracket)| bracket));
    constructs
}

/// The blanks before and after a text between markup, as far as they are shown: those that stand
/// on its line with something beyond them.
fn shown<'a>(text: &'a str, token: &Token) -> (&'a str, &'a str) {
    if token.role != Role::Text {
        return ("", "");
    }
    let before = &text[..token.start as usize];
    let solid = before.trim_end_matches([' ', '\t']);
    let leading = if solid.ends_with('\n') { "" } else { &before[solid.len()..] };
    let after = &text[token.end as usize..];
    let solid = after.trim_start_matches([' ', '\t']);
    let trailing = &after[..after.len() - solid.len()];
    let trailing = if solid.starts_with(['\r', '\n']) { "" } else { trailing };
    (leading, trailing)
}

/// Whether white space stands between a token and the one before it that is not a comment.
fn is_apart(tree: &Tree, text: &str, token: usize) -> bool {
    let is_comment = |token: usize| tree.tokens[token].role == Role::Comment;
    let comments = (0..token).rev().take_while(|before| is_comment(*before)).count();
    (token - comments..=token).any(|at| !tree.gap(at, text.len()).is_empty())
}

/// Whether two tokens are the same but for the common indentation of their later lines.
fn same_but_margin(before: &str, after: &str, line_ends_count: bool) -> bool {
    let (before, after) = (without_margin(before), without_margin(after));
    same_leaf(Role::Plain, &before, &after, line_ends_count)
}

/// A token without the common indentation of its later lines; blank ones have none.
fn without_margin(text: &str) -> String {
    let later = || text.split('\n').skip(1).filter(|line| !line.trim().is_empty());
    let blanks = |line: &str| line.len() - line.trim_start_matches([' ', '\t']).len();
    let common = later().map(|line| &line[..blanks(line)]).reduce(|common, line| {
        let same = common.bytes().zip(line.bytes()).take_while(|(a, b)| a == b).count();
        &common[..same]
    });
    let common = common.unwrap_or_default();
    let bare = |line: &str| line.strip_prefix(common).unwrap_or(line).to_string();
    let (first, rest) = text.split_once('\n').unwrap_or((text, ""));
    let rest: Vec<String> = rest.split('\n').map(bare).collect();
    format!("{first}\n{}", rest.join("\n"))
}

/// Line ends inside a token count where the language does not say otherwise; blanks inside a
/// comment never do.
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
