//! The arena: nodes in the order of a walk, parents before children, and their tokens.

use super::comments::Comments;
use super::copying::copied;
use super::directives::Directives;
use super::grammar::{Grammar, Last, Pairs, Role};
use super::kinds::{Kinds, Said};
use super::parsed::Parsed;
use super::window::Window;
use std::num::NonZeroU32;
use std::ops::Range;

/// A node, by its place in the walk; the root is 0.
pub type NodeId = u32;
/// A token, by its place in the text.
pub type TokenId = u32;

/// An inner node or a leaf.
#[derive(Clone, Copy, Debug)]
pub struct Node {
    /// The language's own number for its kind.
    pub kind: u16,
    /// The grammar's number for it, which tells kinds apart that no rule does.
    pub origin: u16,
    /// Whether it is a stretch that does not parse.
    pub fault: bool,
    /// Whether it is a text of blanks alone, which is shown and has no token.
    pub shown: bool,
    /// Whether it is one token here, as no line near it is in play.
    pub folded: bool,
    /// The node around it; the root's is the root.
    pub parent: NodeId,
    /// The next child of the node around it, which is never the root.
    pub(super) next: Option<NonZeroU32>,
    /// Its first token.
    pub first: TokenId,
    /// The token after its last one; equal to `first` where the node is empty.
    pub end: TokenId,
}

/// A leaf that is not blank.
#[derive(Clone, Copy, Debug)]
pub struct Token {
    /// First byte.
    pub start: u32,
    /// The byte after its last one; blanks at its end do not belong to it.
    pub end: u32,
    /// The language's own number for its kind.
    pub kind: u16,
    /// Comment, join, fault or plain.
    pub role: Role,
    /// Whether it lies in or beside a stretch that does not parse.
    pub fault: bool,
    /// Whether it holds a line break.
    pub multi_line: bool,
    /// Whether it is a later line of the comment that begins before it.
    pub continues: bool,
    /// Whether a line break stands between it and the token before it.
    pub broken: bool,
    /// Whether the grammar leaves it unread: it was read by itself. Nothing is added or taken away
    /// there, as whoever reads it may count its tokens.
    pub reread: bool,
    /// Whether it is a line that is no part of the program, with what is hidden behind it. Its role
    /// is a comment's.
    pub directive: bool,
}

impl Token {
    /// A token of these bytes, of which nothing else is said.
    pub(super) fn new(range: Range<usize>, kind: u16, role: Role) -> Token {
        Token {
            start: range.start as u32,
            end: range.end as u32,
            kind,
            role,
            fault: false,
            multi_line: false,
            continues: false,
            broken: false,
            reread: false,
            directive: false,
        }
    }
}

/// A text's tree, copied from what the parser found.
pub struct Tree {
    /// The nodes, parents before their children.
    pub nodes: Vec<Node>,
    /// The tokens, in the order of the text.
    pub tokens: Vec<Token>,
    /// Stretches that do not parse, in bytes; an empty one is a place where something is missing.
    pub faults: Vec<Range<usize>>,
    /// Which roles its tokens have, a bit for each.
    pub(super) roles: u16,
    /// Bytes before the text proper: 3 for each byte-order mark that it begins with.
    pub mark: usize,
    /// Tokens that stay as they stand, as disjoint ascending ranges: what a fault costs.
    pub kept: Vec<Range<usize>>,
    /// Whether the indentation of a line is syntax.
    pub indented: bool,
    /// Elements behind which the language allows no separator.
    pub(super) last: Last,
    /// Lists that end with none.
    pub(super) bare_end: Option<fn(&Tree, NodeId) -> bool>,
    /// What opens, and what closes it.
    pub(super) pairs: Pairs,
    /// Words that close, whatever opens.
    pub(super) closers: &'static [&'static str],
    /// Whether a line's end inside a token is part of what it says.
    pub line_ends_count: bool,
    /// Whether the common indentation of the later lines of a token says nothing, by its text.
    pub(super) margin: Option<fn(&str) -> bool>,
    /// How its language writes comments.
    pub comments: &'static Comments,
    /// How its language writes directives, if it has any.
    pub directives: Option<&'static Directives>,
    /// What its language says of each kind of node.
    pub kinds: &'static Kinds,
    /// What its language says of each node beyond its kind, a bit for each thing; empty where it says
    /// nothing.
    pub traits: Vec<u16>,
    /// Before which tokens white space shows, the blanks around comments counted together; empty
    /// where none does.
    pub shows: Vec<bool>,
    /// Whether each word of a text between markup is a token of its own, and not each of its lines.
    pub in_words: bool,
    /// The nodes that do not parse, or in which something is missing.
    pub(super) faulty: Vec<NodeId>,
}

impl Tree {
    /// Parses `text`. Gives `None` if the parser gives up.
    pub fn parse(grammar: &Grammar, text: &str) -> Option<Tree> {
        Parsed::new(grammar, text).map(|parsed| Tree::copy(grammar, &parsed, text, None))
    }

    /// Copies what the parser found; with a window, what is far from these bytes is folded.
    pub fn copy(grammar: &Grammar, parsed: &Parsed, text: &str, window: Option<&Window>) -> Tree {
        let mut tree = copied(grammar, parsed, text, window);
        if let Some((kind, alone)) = grammar.alone() {
            tree.lift(kind, alone, text);
        }
        if let Some(rules) = grammar.regrouping() {
            tree.regroup(rules, text);
        }
        if let Some(ending) = grammar.one_line() {
            tree.end_lines(ending, text);
        }
        if let (Some(lines), Some(indented)) = (&parsed.lines, grammar.lines()) {
            tree.hold_against(lines, indented, text);
        }
        tree.pay(grammar, parsed.lines.as_deref(), text);
        if let Some(traits) = grammar.traits(&tree, text) {
            tree.traits = traits;
        }
        if let Some(shows) = grammar.shows(&tree, text) {
            tree.shows = shows;
        }
        tree
    }

    /// Whether a token has a role.
    pub fn has(&self, role: Role) -> bool {
        self.roles & (1 << role as u16) != 0
    }

    /// Whether there are tokens whose later lines have a common indentation that says nothing.
    pub fn has_margins(&self, text: &str) -> bool {
        self.margin.is_some() && self.tokens.iter().any(|token| self.has_margin(token, text))
    }

    /// Whether the common indentation of a token's later lines says nothing.
    pub fn has_margin(&self, token: &Token, text: &str) -> bool {
        let is_it = |margin: fn(&str) -> bool| {
            token.multi_line && margin(&text[token.start as usize..token.end as usize])
        };
        self.margin.is_some_and(is_it)
    }

    /// Makes each word of the texts between markup a token of its own, where each of their lines is
    /// one.
    pub fn split_texts(&mut self, grammar: &Grammar, text: &str) {
        let Some(uncut) = grammar.uncut(text) else { return };
        let is_cut = |at: usize| {
            let next = uncut.partition_point(|range| range.end <= at);
            uncut.get(next).is_none_or(|range| range.start >= at)
        };
        let mut tokens = Vec::with_capacity(self.tokens.len() * 2);
        // Of each token: which one it is now, or the first of its words.
        let mut places: Vec<TokenId> = Vec::with_capacity(self.tokens.len() + 1);
        for token in &self.tokens {
            places.push(tokens.len() as TokenId);
            let (mut start, end) = (token.start as usize, token.end as usize);
            if token.role == Role::Text {
                let mut at = start;
                while let Some(next) = text[at..end].find(BLANKS) {
                    let stop = at + next;
                    at = end - text[stop..end].trim_start_matches(BLANKS).len();
                    if is_cut(stop) {
                        let broken = token.broken && start == token.start as usize;
                        tokens.push(Token {
                            start: start as u32,
                            end: stop as u32,
                            broken,
                            ..*token
                        });
                        start = at;
                    }
                }
            }
            let broken = token.broken && start == token.start as usize;
            tokens.push(Token { start: start as u32, broken, ..*token });
        }
        places.push(tokens.len() as TokenId);
        self.tokens = tokens;
        for node in &mut self.nodes {
            node.first = places[node.first as usize];
            node.end = places[node.end as usize];
        }
        for range in &mut self.kept {
            *range = places[range.start] as usize..places[range.end] as usize;
        }
        self.in_words = true;
        if let Some(shows) = grammar.shows(self, text) {
            self.shows = shows;
        }
    }

    /// Moves what stands behind the first part of a construct out of it, where that ends with this
    /// part.
    fn lift(&mut self, kind: u16, alone: fn(&str) -> bool, text: &str) {
        for id in 1..self.nodes.len() {
            if self.nodes[id].kind != kind {
                continue;
            }
            let own = self.nodes[id];
            let Some(token) = self.tokens.get(own.first as usize) else { continue };
            let first = self.children(id as NodeId).next();
            let Some(first) = first.filter(|_| alone(&text[token.start as usize..])) else {
                continue;
            };
            let Some(behind) = self.nodes[first as usize].next.take() else { continue };
            self.nodes[id].end = self.nodes[first as usize].end;
            self.nodes[id].next = Some(behind);
            let mut last = behind.get() as usize;
            self.nodes[last].parent = own.parent;
            while let Some(next) = self.nodes[last].next {
                last = next.get() as usize;
                self.nodes[last].parent = own.parent;
            }
            self.nodes[last].next = own.next;
        }
    }

    /// Whether the line ends behind a token, as that is a comment with no other end.
    pub fn ends_its_line(&self, token: usize, text: &str) -> bool {
        let own = &self.tokens[token];
        if own.role != Role::Comment {
            return false;
        }
        let first = (0..=token).rev().find(|at| !self.tokens[*at].continues).unwrap_or(token);
        let comment = &text[self.tokens[first].start as usize..own.end as usize];
        self.comments.closer(comment).is_none_or(|close| !comment.ends_with(close))
    }

    /// Whether anything is folded.
    pub fn is_folded(&self) -> bool {
        self.nodes.iter().any(|node| node.folded)
    }

    /// The children of a node, comments included.
    pub fn children(&self, node: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        let first = node + 1;
        let has_any = self.nodes.get(first as usize).is_some_and(|child| child.parent == node);
        let mut next = NonZeroU32::new(first).filter(|_| has_any);
        std::iter::from_fn(move || {
            let now = next?.get();
            next = self.nodes[now as usize].next;
            Some(now)
        })
    }

    /// Whether there are lists that the language allows no last separator in.
    pub fn forbids_separators(&self) -> bool {
        !self.last.is_empty() || self.bare_end.is_some()
    }

    /// Whether the language allows a separator behind an element, as the last thing in a list.
    pub fn may_be_followed(&self, list: NodeId, element: NodeId) -> bool {
        let kind = |node: NodeId| self.nodes[node as usize].kind;
        let ends_bare = self.bare_end.is_some_and(|ends_bare| ends_bare(self, list));
        !ends_bare && !self.last.iter().any(|(of, last)| {
            of.is_none_or(|of| of == kind(list))
                && (kind(element) == *last
                    || self.children(element).next().is_some_and(|first| kind(first) == *last))
        })
    }

    /// Whether a token ends an element or a statement and does nothing else.
    pub fn separates(&self, token: TokenId) -> bool {
        self.kinds.said(self.tokens[token as usize].kind) == Said::Separator
    }

    /// Whether a mark or a word opens something.
    pub fn opens(&self, word: &str) -> bool {
        self.pairs.iter().any(|(opener, _)| *opener == word)
    }

    /// Whether a mark or a word closes something.
    pub fn closes(&self, word: &str) -> bool {
        self.pairs.iter().any(|(_, closer)| *closer == word) || self.closers.contains(&word)
    }

    /// The last token of a node that rules see, if there is one.
    pub fn last_solid(&self, node: NodeId) -> Option<TokenId> {
        let Node { first, end, .. } = self.nodes[node as usize];
        (first..end).rev().find(|token| !self.tokens[*token as usize].role.is_passed_over())
    }

    /// Whether white space shows before a token.
    pub fn shows(&self, token: TokenId) -> bool {
        self.shows.get(token as usize).copied().unwrap_or(false)
    }

    /// The indentation of a token that begins its line.
    pub fn indentation<'t>(&self, token: usize, text: &'t str) -> &'t str {
        let gap = self.gap(token, text.len());
        let bytes = text.as_bytes();
        let last = bytes[gap.clone()].iter().rposition(|byte| *byte == b'\n');
        let line = gap.start + last.map_or(0, |at| at + 1);
        let blanks = bytes[line..].iter().take_while(|byte| matches!(byte, b' ' | b'\t'));
        &text[line..line + blanks.count()]
    }

    /// Whether a line break stands before a token; `tokens.len()` asks for the end of the file.
    pub fn broken(&self, before: usize, text: &str) -> bool {
        match self.tokens.get(before) {
            Some(token) => token.broken,
            None => text[self.gap(before, text.len())].contains('\n'),
        }
    }

    /// The bytes between a token and the one before it; `tokens.len()` asks for the end of the
    /// file.
    pub fn gap(&self, before: usize, text_len: usize) -> Range<usize> {
        let start = match before {
            0 => self.mark,
            _ => self.tokens[before - 1].end as usize,
        };
        let end = self.tokens.get(before).map_or(text_len, |token| token.start as usize);
        start..end.max(start)
    }
}

/// Blanks and line ends as the languages know them; others are text.
pub(super) const BLANKS: [char; 4] = [' ', '\t', '\r', '\n'];
