//! The arena: nodes in the order of a walk, parents before children, and their tokens.

use super::comments::Comments;
use super::directives::Directives;
use super::grammar::{Grammar, Last, Role};
use super::kinds::Kinds;
use super::parsed::Parsed;
use super::window::Window;
use std::num::NonZeroU32;
use std::ops::Range;
use tree_sitter::TreeCursor;

/// A node, by its place in the walk; the root is 0.
pub type NodeId = u32;
/// A token, by its place in the text.
pub type TokenId = u32;

/// The kind of a stretch that does not parse: no table has it.
const UNPARSED: u16 = u16::MAX;

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
    next: Option<NonZeroU32>,
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

/// A text's tree, copied from what the parser found.
pub struct Tree {
    /// The nodes, parents before their children.
    pub nodes: Vec<Node>,
    /// The tokens, in the order of the text.
    pub tokens: Vec<Token>,
    /// Stretches that do not parse, in bytes; an empty one is a place where something is missing.
    pub faults: Vec<Range<usize>>,
    /// Bytes before the text proper: 3 if it begins with a byte-order mark.
    pub mark: usize,
    /// Tokens that stay as they stand, as disjoint ascending ranges: what a fault costs.
    pub kept: Vec<Range<usize>>,
    /// Whether the indentation of a line is syntax.
    pub indented: bool,
    /// Elements behind which the language allows no separator.
    pub last: Last,
    /// Whether a line's end inside a token is part of what it says.
    pub line_ends_count: bool,
    /// How its language writes comments.
    pub comments: &'static Comments,
    /// How its language writes directives, if it has any.
    pub directives: Option<&'static Directives>,
    /// What its language says of each kind of node.
    pub kinds: &'static Kinds,
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
        let expected = if window.is_some() { 1 << 10 } else { text.len() / 8 + 16 };
        let mut copy = Copying {
            text,
            tree: Tree {
                nodes: Vec::with_capacity(expected),
                tokens: Vec::with_capacity(expected),
                faults: Vec::new(),
                mark: if text.starts_with('\u{feff}') { 3 } else { 0 },
                kept: Vec::new(),
                indented: grammar.is_indented(),
                last: grammar.last(),
                line_ends_count: grammar.counts_line_ends(),
                comments: grammar.comments(),
                directives: grammar.directives(),
                kinds: grammar.kinds(),
                shows: Vec::new(),
                in_words: false,
                faulty: Vec::new(),
            },
            window,
            missing: false,
            ends: &BLANKS,
            offset: 0,
            readings: 0,
            hidden: parsed.lines.as_ref().map_or(&parsed.directives, |lines| &lines.hidden),
            directives: !parsed.directives.is_empty(),
            comment: grammar.comment(),
            masks: grammar.masks(),
        };
        copy.walk(grammar, parsed.tree.walk(), Vec::new());
        let mut tree = copy.tree;
        if let Some(alone) = grammar.alone() {
            tree.lift(alone, text);
        }
        if let Some(ending) = grammar.one_line() {
            tree.end_lines(ending, text);
        }
        if let (Some(lines), Some(indented)) = (&parsed.lines, grammar.lines()) {
            tree.hold_against(lines, indented, text);
        }
        tree.pay(grammar, parsed.lines.as_deref(), text);
        if let Some(shows) = grammar.shows(&tree, text) {
            tree.shows = shows;
        }
        tree
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
    fn lift(&mut self, alone: fn(u16, &str) -> bool, text: &str) {
        for id in 1..self.nodes.len() {
            let own = self.nodes[id];
            let Some(token) = self.tokens.get(own.first as usize) else { continue };
            let first = self.children(id as NodeId).next();
            let Some(first) = first.filter(|_| alone(own.kind, &text[token.start as usize..]))
            else {
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

    /// Whether the language allows a separator behind an element, as the last thing in a list.
    pub fn may_be_followed(&self, list: NodeId, element: NodeId) -> bool {
        let kind = |node: NodeId| self.nodes[node as usize].kind;
        !self.last.iter().any(|(of, last)| {
            of.is_none_or(|of| of == kind(list))
                && (kind(element) == *last
                    || self.children(element).next().is_some_and(|first| kind(first) == *last))
        })
    }

    /// The last token of a node that is not a comment, if there is one.
    pub fn last_solid(&self, node: NodeId) -> Option<TokenId> {
        let Node { first, end, .. } = self.nodes[node as usize];
        (first..end).rev().find(|token| self.tokens[*token as usize].role != Role::Comment)
    }

    /// Whether white space shows before a token.
    pub fn shows(&self, token: TokenId) -> bool {
        self.shows.get(token as usize).copied().unwrap_or(false)
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

struct Copying<'a> {
    text: &'a str,
    tree: Tree,
    /// What is copied whole, if not all of it is.
    window: Option<&'a Window>,
    /// Whether something is missing right before the next token.
    missing: bool,
    /// What does not belong to a leaf at its end.
    ends: &'static [char],
    /// Where the tree that is copied begins in the text.
    offset: usize,
    /// How many readings of a stretch the copied tree is inside of.
    readings: usize,
    /// Comments that the parser was not shown, those to come.
    hidden: &'a [Range<usize>],
    /// Whether they are directives.
    directives: bool,
    /// The language's number for a comment.
    comment: u16,
    /// Whether the parser may have been shown a word where several lines stand.
    masks: bool,
}

/// How many stretches inside one another are read again; deeper ones are one token. Each reading
/// takes in those inside it once more.
const MOST_READINGS: usize = 8;

/// A node whose children are being copied.
struct Open {
    node: NodeId,
    /// Its child that was copied last.
    last: Option<NodeId>,
    /// How many of its children are to come.
    to_come: usize,
    /// Whether something in it does not parse that no child of it has so far.
    hides_fault: bool,
}

impl Copying<'_> {
    /// Copies what the cursor is on, as the next child of the innermost open node.
    fn walk(&mut self, grammar: &Grammar, mut cursor: TreeCursor, mut open: Vec<Open>) {
        let table = &grammar.loaded().table;
        // Which of the children of an open body are folded, those to come last.
        let mut folds: Vec<(NodeId, Vec<bool>)> = Vec::new();
        loop {
            let node = cursor.node();
            // The parser's number for a stretch that does not parse is beyond all the others.
            let (kind, role, is_error) = match table.get(node.kind_id() as usize) {
                Some((kind, role)) => (*kind, *role, false),
                None => (UNPARSED, Role::Atom, node.is_error()),
            };
            self.put_back(node.start_byte(), &mut open);
            let id = self.node((kind, node.kind_id()), is_error, &mut open);
            if let Some(around) = open.last_mut() {
                around.hides_fault &= !node.has_error() && !node.is_missing();
            }
            let parent = self.tree.nodes[id as usize].parent;
            let children = node.child_count();
            let folded = match folds.last_mut() {
                Some((body, folds)) if *body == parent => folds.pop().unwrap_or(false),
                _ => false,
            };
            let range = node.start_byte() + self.offset..node.end_byte() + self.offset;
            if folded {
                self.fold(id, range, kind);
            } else if grammar.is_exact(kind, &self.text[range.clone()]) {
                self.leaf(id, range, kind, Role::Atom, node.has_error(), false);
            } else if role == Role::Unread {
                self.unread(grammar, id, range, kind, node.has_error());
            } else if (role == Role::Plain || role.is_body())
                && children > 0
                && cursor.goto_first_child()
            {
                let (to_come, hides_fault) = (children as usize - 1, node.has_error());
                open.push(Open { node: id, last: None, to_come, hides_fault });
                if let (true, Some(window), 0) = (role.is_body(), self.window, self.readings) {
                    let mut folded = window.folded(cursor.clone(), grammar, self.text);
                    folded.reverse();
                    folds.push((id, folded));
                }
                continue;
            } else {
                let is_foreign = matches!(role, Role::Atom | Role::Comment)
                    && grammar.is_foreign(kind, &self.text[range.clone()]);
                let role = match role {
                    _ if is_foreign => Role::Atom,
                    role if role.is_body() => Role::Plain,
                    role => role,
                };
                // A string whose end is missing has its fault inside.
                let is_error = is_error
                    || (role == Role::Atom && children > 0 && node.has_error())
                    || is_foreign
                    || (role == Role::Comment
                        && grammar.comments().is_open(&self.text[range.clone()]));
                // What is missing in it may have no name.
                let is_missing = range.is_empty() && (node.is_missing() || node.has_error());
                // A line end that may not stand there is a place where something else is missing.
                let is_blank = is_error && self.text[range.clone()].trim_matches(BLANKS).is_empty();
                let is_missing = is_missing || is_blank;
                // What the grammar reads in a comment is a text of the program, blanks and all.
                self.ends = match role {
                    Role::Comment if node.named_child_count() > 0 => &LINE_ENDS,
                    _ => &BLANKS,
                };
                self.leaf(id, range, kind, role, is_error, is_missing);
            }
            if open.is_empty() && !self.hidden.is_empty() {
                // Nothing but what the parser was not shown.
                open.push(Open { node: id, last: None, to_come: 0, hides_fault: false });
            }
            loop {
                if let [root] = &open[..]
                    && (root.to_come, self.readings) == (0, 0)
                {
                    self.put_back(usize::MAX, &mut open);
                }
                let Some(done) = open.last_mut() else { return };
                if done.to_come > 0 && cursor.goto_next_sibling() {
                    done.to_come -= 1;
                    break;
                }
                let (node, hides_fault) = (done.node, done.hides_fault);
                folds.pop_if(|(body, _)| *body == node);
                if hides_fault {
                    self.misses(node);
                }
                self.tree.nodes[node as usize].end = self.tree.tokens.len() as TokenId;
                open.pop();
                cursor.goto_parent();
            }
        }
    }

    /// Comments that the parser was not shown and that end before a place are the next children of
    /// the innermost open node.
    fn put_back(&mut self, before: usize, open: &mut [Open]) {
        while let Some(comment) = self.hidden.first()
            && comment.end <= before
        {
            self.hidden = &self.hidden[1..];
            let id = self.node((self.comment, 0), false, open);
            self.leaf(id, comment.clone(), self.comment, Role::Comment, false, false);
            if let Some(token) = self.tree.tokens.last_mut() {
                token.directive = self.directives;
            }
        }
    }

    /// A new node of a kind, by the language's number and the grammar's: the next child of the
    /// innermost open one.
    fn node(&mut self, kind: (u16, u16), fault: bool, open: &mut [Open]) -> NodeId {
        let id = self.tree.nodes.len() as NodeId;
        let parent = open.last().map_or(0, |open| open.node);
        if let Some(around) = open.last_mut() {
            if let Some(before) = around.last.replace(id) {
                self.tree.nodes[before as usize].next = NonZeroU32::new(id);
            }
        }
        let first = self.tree.tokens.len() as TokenId;
        let (kind, origin) = kind;
        self.tree.nodes.push(super::Node {
            kind,
            origin,
            fault,
            shown: false,
            folded: false,
            parent,
            next: None,
            first,
            end: first,
        });
        id
    }

    /// Something is missing in a node that the grammar has no name for: the end of a line.
    fn misses(&mut self, node: NodeId) {
        let end = self.tree.tokens.last().map_or(0, |token| token.end as usize);
        self.tree.faulty.push(node);
        self.tree.faults.push(end..end);
        if let Some(last) = self.tree.tokens.last_mut() {
            last.fault = true;
        }
    }

    /// Hidden comments inside what is one token are part of it.
    fn pass_hidden(&mut self, end: usize) {
        let passed = self.hidden.partition_point(|comment| comment.start < end);
        self.hidden = &self.hidden[passed..];
    }

    /// A stretch that the grammar leaves unread: what it is read as by itself, or one token.
    fn unread(
        &mut self,
        grammar: &Grammar,
        node: NodeId,
        range: Range<usize>,
        kind: u16,
        is_error: bool,
    ) {
        let is_deep = self.readings == MOST_READINGS;
        let stretch = &self.text[range.clone()];
        let read = if is_deep || is_error { None } else { grammar.read_again(stretch) };
        let Some(tree) = read else {
            return self.leaf(node, range, kind, Role::Atom, is_error, false);
        };
        let mut cursor = tree.walk();
        let goes_in = cursor.goto_first_child() && cursor.goto_first_child();
        let parts = cursor.node().child_count() as usize;
        if goes_in && cursor.goto_first_child() {
            let outside = std::mem::replace(&mut self.offset, range.start);
            self.readings += 1;
            self.walk(
                grammar,
                cursor,
                vec![Open { node, last: None, to_come: parts - 1, hides_fault: false }],
            );
            self.readings -= 1;
            self.offset = outside;
        }
    }

    /// One token for all of a node.
    fn fold(&mut self, node: NodeId, range: Range<usize>, kind: u16) {
        self.pass_hidden(range.end);
        let solid = self.text[range.clone()].trim_end_matches(BLANKS);
        let fault = std::mem::take(&mut self.missing);
        self.push(Token {
            start: range.start as u32,
            end: (range.start + solid.len()) as u32,
            kind,
            role: Role::Plain,
            fault,
            multi_line: solid.contains('\n'),
            continues: false,
            broken: false,
            reread: false,
            directive: false,
        });
        let folded = &mut self.tree.nodes[node as usize];
        folded.folded = true;
        folded.end = self.tree.tokens.len() as TokenId;
    }

    /// One token for each line of a text that is not blank.
    fn lines_of_text(&mut self, node: NodeId, range: Range<usize>, kind: u16) {
        let mut at = range.start;
        self.tree.nodes[node as usize].shown = !self.text[range.clone()].contains('\n');
        for line in self.text[range].split_inclusive('\n') {
            let body = line.trim_matches(BLANKS);
            let start = at + line.len() - line.trim_start_matches(BLANKS).len();
            at += line.len();
            if !body.is_empty() {
                let fault = std::mem::take(&mut self.missing);
                self.push(Token {
                    start: start as u32,
                    end: (start + body.len()) as u32,
                    kind,
                    role: Role::Text,
                    fault,
                    multi_line: false,
                    continues: false,
                    broken: false,
                    reread: false,
                    directive: false,
                });
            }
        }
        self.tree.nodes[node as usize].end = self.tree.tokens.len() as TokenId;
    }

    fn leaf(
        &mut self,
        node: NodeId,
        range: Range<usize>,
        kind: u16,
        role: Role,
        is_error: bool,
        is_missing: bool,
    ) {
        self.pass_hidden(range.end);
        if is_missing || is_error {
            self.tree.faulty.push(node);
        }
        let tokens = &mut self.tree.tokens;
        if is_missing {
            self.tree.faults.push(range.start..range.start);
            self.missing = true;
            // What is missing may be missed before the comments, too.
            for last in tokens.iter_mut().rev() {
                last.fault = true;
                if last.role != Role::Comment {
                    break;
                }
            }
            return;
        }
        if role == Role::Text {
            return self.lines_of_text(node, range, kind);
        }
        let mut solid = &self.text[range.clone()];
        if solid.ends_with(self.ends) {
            // A grammar's leaf may take blanks along at its end; they belong to the gap.
            solid = solid.trim_end_matches(self.ends);
        }
        if solid.is_empty() {
            return;
        }
        if is_error {
            self.tree.faults.push(range.start..range.start + solid.len());
        }
        let mut token = Token {
            start: range.start as u32,
            end: (range.start + solid.len()) as u32,
            kind,
            role,
            fault: is_error || self.missing,
            multi_line: false,
            continues: false,
            broken: false,
            reread: false,
            directive: false,
        };
        self.missing = false;
        if is_error && let Some(last) = tokens.last_mut() {
            last.fault = true;
        }
        let may_be_long = match role {
            Role::Plain => self.masks,
            role => role != Role::Join,
        };
        if may_be_long && solid.contains('\n') {
            if role == Role::Comment && self.tree.comments.has_gutter(solid) {
                let mut at = range.start;
                for line in solid.split_inclusive('\n') {
                    let inner = line.trim_end_matches(self.ends);
                    let body = inner.trim_start_matches([' ', '\t']);
                    token.start = (at + inner.len() - body.len()) as u32;
                    token.end = (at + inner.len()) as u32;
                    self.push(token);
                    token.continues = true;
                    at += line.len();
                }
                self.tree.nodes[node as usize].end = self.tree.tokens.len() as TokenId;
                return;
            }
            token.multi_line = true;
        }
        self.push(token);
        self.tree.nodes[node as usize].end = self.tree.tokens.len() as TokenId;
    }

    fn push(&mut self, mut token: Token) {
        let tokens = &mut self.tree.tokens;
        let before = tokens.last().map_or(self.tree.mark, |before| before.end as usize);
        let gap = self.text.as_bytes().get(before..token.start as usize).unwrap_or_default();
        token.broken = gap.contains(&b'\n');
        token.reread = self.readings > 0;
        tokens.push(token);
    }
}

/// Blanks and line ends as the languages know them; others are text.
const BLANKS: [char; 4] = [' ', '\t', '\r', '\n'];

const LINE_ENDS: [char; 2] = ['\r', '\n'];
