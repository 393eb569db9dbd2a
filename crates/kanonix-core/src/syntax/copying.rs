//! The walk that copies what the parser found into the arena.

use super::grammar::{Grammar, Reserved, Role};
use super::parsed::Parsed;
use super::put_back::comments_alone;
use super::tree::{BLANKS, Node, NodeId, Token, TokenId, Tree};
use super::window::Window;
use std::num::NonZeroU32;
use std::ops::Range;
use tree_sitter::{Node as Found, TreeCursor};

/// The kind of a stretch that does not parse: no table has it.
const UNPARSED: u16 = u16::MAX;

/// Copies what the parser found, as it found it; with a window, what is far from these bytes is folded.
pub(super) fn copied(
    grammar: &Grammar,
    parsed: &Parsed,
    text: &str,
    window: Option<&Window>,
) -> Tree {
    let expected = if window.is_some() { 1 << 10 } else { text.len() / 6 + 16 };
    let hidden: &[Range<usize>] =
        parsed.lines.as_ref().map_or(&parsed.directives, |lines| &lines.hidden);
    let (join, unnamed) = (grammar.join(), grammar.without_leaf(parsed.masked));
    let mut copy = Copying {
        text,
        tree: Tree {
            nodes: Vec::with_capacity(expected * 3 / 2),
            tokens: Vec::with_capacity(expected),
            faults: Vec::new(),
            roles: 0,
            mark: text.len() - text.trim_start_matches('\u{feff}').len(),
            kept: Vec::new(),
            indented: grammar.is_indented(),
            last: grammar.last(),
            bare_end: grammar.bare_end(),
            pairs: grammar.pairs(),
            closers: grammar.closers(),
            line_ends_count: grammar.counts_line_ends(),
            margin: grammar.margin(),
            comments: grammar.comments(),
            directives: grammar.directives(),
            kinds: grammar.kinds(),
            traits: Vec::new(),
            shows: Vec::new(),
            in_words: false,
            faulty: Vec::new(),
        },
        window,
        has_faults: parsed.tree.root_node().has_error(),
        missing: false,
        ends: &BLANKS,
        offset: 0,
        line: 0..0,
        readings: 0,
        may_miss: !hidden.is_empty() || join.is_some() || !unnamed.is_empty(),
        hidden,
        directives: !parsed.directives.is_empty(),
        comment: grammar.comment(),
        masks: parsed.masked,
        join,
        reserved: grammar.reserved(),
        unnamed,
        complete: usize::MAX,
    };
    let idle = grammar.idle().filter(|_| copy.has_faults);
    match idle.and_then(|kind| Some((kind, comments_alone(grammar, parsed, text)?))) {
        Some((kind, comments)) => copy.idle(kind, comments),
        None => {
            let mut branches = Vec::new();
            let root = parsed.tree.root_node();
            copy.copy(grammar, (root, root.kind_id()), &mut branches);
            copy.walk(grammar, branches);
        }
    }
    copy.tree
}

pub(super) struct Copying<'a> {
    pub(super) text: &'a str,
    pub(super) tree: Tree,
    /// What is copied whole, if not all of it is.
    window: Option<&'a Window>,
    /// Whether anything in the text does not parse.
    has_faults: bool,
    /// Whether something is missing right before the next token.
    missing: bool,
    /// What does not belong to a leaf at its end.
    ends: &'static [char],
    /// Where the tree that is copied begins in the text.
    offset: usize,
    /// A stretch up to the end of its line, to look for the next one but once.
    line: Range<usize>,
    /// How many readings of a stretch the copied tree is inside of.
    readings: usize,
    /// Whether the parser's tree may lack something that has to be put back.
    may_miss: bool,
    /// Comments that the parser was not shown, those to come.
    pub(super) hidden: &'a [Range<usize>],
    /// Whether they are directives.
    pub(super) directives: bool,
    /// The language's number for a comment.
    pub(super) comment: u16,
    /// Whether the parser was shown another text: a word where several lines stand.
    masks: bool,
    /// What joins a line to the next one where the parser takes it for a blank.
    pub(super) join: Option<&'static str>,
    /// Words that the parser takes for names and that are none.
    reserved: Option<&'a Reserved>,
    /// Words that the parser reads and has no leaf for.
    pub(super) unnamed: &'static [&'static str],
    /// The last place before which nothing is to be put back any more: several nodes begin at one.
    pub(super) complete: usize,
}

/// How many stretches inside one another are read again; deeper ones are one token. Each reading
/// takes in those inside it once more.
const MOST_READINGS: usize = 8;

/// A node whose children are being copied.
pub(super) struct Open {
    node: NodeId,
    /// Its child that was copied last.
    last: Option<NodeId>,
    /// Whether something in it does not parse that no child of it has so far.
    hides_fault: bool,
}

impl Open {
    pub(super) fn new(node: NodeId, hides_fault: bool) -> Open {
        Open { node, last: None, hides_fault }
    }
}

/// The same, with what there is to copy.
struct Branch<'tree> {
    open: Open,
    children: Children<'tree>,
    /// Which of its children are folded, if any are, those to come last.
    folds: Option<Box<Vec<bool>>>,
}

/// The children of a node that are to come.
struct Children<'tree> {
    of: Found<'tree>,
    next: u32,
    count: u32,
    /// Of many, one is gone to from the one before it; of a few, each is found from their node for less.
    cursor: Option<Box<TreeCursor<'tree>>>,
}

/// So many children of a node are few.
const FEW: u32 = 24;

impl<'tree> Children<'tree> {
    fn of(node: Found<'tree>, count: u32) -> Children<'tree> {
        let cursor = (count > FEW).then(|| Box::new(node.walk()));
        Children { of: node, next: 0, count, cursor }
    }

    fn next(&mut self) -> Option<Found<'tree>> {
        if self.next == self.count {
            return None;
        }
        self.next += 1;
        let Some(cursor) = &mut self.cursor else { return self.of.child(self.next - 1) };
        let goes_on = match self.next {
            1 => cursor.goto_first_child(),
            _ => cursor.goto_next_sibling(),
        };
        goes_on.then(|| cursor.node())
    }
}

impl Copying<'_> {
    /// Copies what is in these nodes of the parser's, the innermost one last.
    fn walk<'tree>(&mut self, grammar: &Grammar, mut branches: Vec<Branch<'tree>>) {
        let table = &grammar.loaded().table;
        // Then a word or a mark is one wherever it stands.
        let is_whole = !self.has_faults && self.reserved.is_none();
        while let Some(branch) = branches.last_mut() {
            let Some(next) = branch.children.next() else {
                self.close(&mut branches);
                continue;
            };
            if branch.folds.as_mut().is_some_and(|folds| folds.pop() == Some(true)) {
                self.folded(next, table, &mut branch.open);
                continue;
            }
            let origin = next.kind_id();
            match table.get(origin as usize) {
                Some((kind, Role::Plain)) if is_whole && next.child_count() == 0 => {
                    let range = next.start_byte() + self.offset..next.end_byte() + self.offset;
                    if self.may_miss {
                        self.put_all_back(next.start_byte(), &range, Some(&mut branch.open));
                    }
                    self.word((*kind, origin), range, Some(&mut branch.open));
                }
                _ => self.copy(grammar, (next, origin), &mut branches),
            }
        }
    }

    /// All of the innermost node is copied.
    fn close(&mut self, branches: &mut Vec<Branch>) {
        let is_outermost = branches.len() == 1 && self.readings == 0;
        let Some(Branch { mut open, .. }) = branches.pop() else { return };
        if is_outermost {
            self.put_back(usize::MAX, Some(&mut open));
            self.put_words_back(self.text.len(), Some(&mut open));
        }
        if open.hides_fault {
            self.misses(open.node);
        }
        self.tree.nodes[open.node as usize].end = self.tree.tokens.len() as TokenId;
    }

    /// Copies a node of the parser's as the next child of the innermost one; if it has children to copy it is the
    /// innermost one then.
    fn copy<'tree>(
        &mut self,
        grammar: &Grammar,
        (mut node, mut origin): (Found<'tree>, u16),
        branches: &mut Vec<Branch<'tree>>,
    ) {
        let table = &grammar.loaded().table;
        let mut around = branches.last_mut().map(|branch| &mut branch.open);
        let mut entry = table.get(origin as usize);
        if let Some((_, Role::Wrapper)) = entry {
            (node, origin) = self.pass_wrappers(node, table);
            entry = table.get(origin as usize);
        }
        // The parser's number for a stretch that does not parse is beyond all the others.
        let (kind, role, is_error) = match entry {
            Some((kind, role)) => (*kind, *role, false),
            None => (UNPARSED, Role::Atom, node.is_error()),
        };
        let range = node.start_byte() + self.offset..node.end_byte() + self.offset;
        if self.may_miss {
            // A text that is announced begins with the end of a line, and is all its own.
            let end = if role == Role::Heredoc { range.start } else { range.end };
            let begins = range.start..end;
            self.put_all_back(node.start_byte(), &begins, around.as_deref_mut());
        }
        // Nothing is said of each node that holds for all of them.
        let has_error = self.has_faults && node.has_error();
        if self.has_faults && let Some(around) = around.as_deref_mut() {
            around.hides_fault = around.hides_fault && !has_error && !node.is_missing();
        }
        let is_copied = role.is_copied();
        let children = match is_copied || has_error {
            true => node.child_count(),
            false => 0,
        };
        let is_leaf = role == Role::Plain && children == 0 && !range.is_empty();
        if is_leaf && !has_error && self.reserved.is_none() {
            return self.word((kind, origin), range, around);
        }
        let id = self.node((kind, origin), is_error, around.as_deref_mut());
        if children > 0 && grammar.is_exact(kind, self.text, &range) {
            self.leaf(id, range, kind, Role::Atom, has_error, false);
        } else if role == Role::Unread {
            self.unread(grammar, id, range, kind, has_error);
        } else if role == Role::Wrapper && self.is_blank(&range) {
            // Blanks that the grammar reads.
        } else if is_copied && children > 0 {
            let folds = match (role.is_body(), self.window, self.readings) {
                (true, Some(window), 0) => {
                    let mut folds = window.folded(node, grammar, self.text, role == Role::Body);
                    folds.reverse();
                    Some(Box::new(folds))
                }
                _ => None,
            };
            let (open, children) = (Open::new(id, has_error), Children::of(node, children));
            branches.push(Branch { open, children, folds });
        } else {
            self.one_token(grammar, id, node, (kind, role), is_error, has_error);
        }
        if branches.is_empty() && !self.hidden.is_empty() {
            // Nothing but what the parser was not shown.
            let (open, children) = (Open::new(id, false), Children::of(node, 0));
            branches.push(Branch { open, children, folds: None });
        }
    }

    /// A node of which nothing is laid out inside it.
    fn one_token(
        &mut self,
        grammar: &Grammar,
        id: NodeId,
        node: Found,
        (kind, role): (u16, Role),
        is_error: bool,
        has_error: bool,
    ) {
        let range = node.start_byte() + self.offset..node.end_byte() + self.offset;
        let is_foreign = matches!(role, Role::Atom | Role::Comment)
            && grammar.is_foreign(kind, &self.text[range.clone()]);
        let role = match role {
            _ if is_foreign => Role::Atom,
            _ if role.is_copied() => Role::Plain,
            role => role,
        };
        // A string whose end is missing has its fault inside.
        let is_error = is_error
            || (role == Role::Plain && self.is_reserved(&range) && node.is_named())
            || (role == Role::Atom && has_error && node.child_count() > 0)
            || is_foreign
            || (role == Role::Comment && grammar.comments().is_open(&self.text[range.clone()]));
        // What is missing in it may have no name.
        let is_missing = range.is_empty()
            && (has_error || node.is_missing())
            && !grammar.may_lack(&self.text[..range.start]);
        // A line end that may not stand there is a place where something else is missing.
        let is_blank = is_error && self.text[range.clone()].trim_matches(BLANKS).is_empty();
        let is_missing = is_missing || is_blank;
        // What the grammar reads in a comment is a text of the program, blanks and all.
        self.ends = match role {
            Role::Comment if node.named_child_count() > 0 => &LINE_ENDS,
            _ => &BLANKS,
        };
        self.leaf(id, range, kind, role, is_error, is_missing);
        self.ends = &BLANKS;
    }

    /// One token for a node that is far from what is in play.
    fn folded(&mut self, node: Found, table: &[(u16, Role)], around: &mut Open) {
        let origin = node.kind_id();
        let (kind, is_error) = match table.get(origin as usize) {
            Some((kind, _)) => (*kind, false),
            None => (UNPARSED, node.is_error()),
        };
        let range = node.byte_range();
        if self.may_miss {
            self.put_all_back(range.start, &range, Some(&mut *around));
        }
        let id = self.node((kind, origin), is_error, Some(&mut *around));
        if self.has_faults {
            around.hides_fault &= !node.has_error() && !node.is_missing();
        }
        self.fold(id, range, kind);
    }

    /// What wrappers around one thing alone hold, with the parser's number for its kind.
    fn pass_wrappers<'tree>(
        &self,
        mut node: Found<'tree>,
        table: &[(u16, Role)],
    ) -> (Found<'tree>, u16) {
        loop {
            let kind = node.kind_id();
            let is_wrapper =
                table.get(kind as usize).is_some_and(|(_, role)| *role == Role::Wrapper);
            let is_passed = is_wrapper
                && node.child_count() == 1
                && !(self.has_faults && node.has_error());
            match is_passed.then(|| node.child(0)).flatten() {
                Some(inner) => node = inner,
                None => return (node, kind),
            }
        }
    }

    /// Whether a name is a word that may be none there.
    fn is_reserved(&self, range: &Range<usize>) -> bool {
        let Some(reserved) = self.reserved else { return false };
        let text = |token: &Token| &self.text[token.start as usize..token.end as usize];
        reserved.words.contains(&&self.text[range.clone()])
            && !self.tree.tokens.last().is_some_and(|last| reserved.behind.contains(&text(last)))
    }

    /// A new node of a kind, by the language's number and the grammar's: the next child of the
    /// innermost open one.
    pub(super) fn node(
        &mut self,
        kind: (u16, u16),
        fault: bool,
        around: Option<&mut Open>,
    ) -> NodeId {
        let id = self.tree.nodes.len() as NodeId;
        let (parent, before) = match around {
            Some(around) => (around.node, around.last.replace(id)),
            None => (0, None),
        };
        if let Some(before) = before {
            self.tree.nodes[before as usize].next = NonZeroU32::new(id);
        }
        let first = self.tree.tokens.len() as TokenId;
        let (kind, origin) = kind;
        self.tree.nodes.push(Node {
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
    #[inline]
    fn pass_hidden(&mut self, end: usize) {
        if self.hidden.is_empty() {
            return;
        }
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
        let inner = tree.root_node().child(0).and_then(|statement| statement.child(0));
        if let Some(inner) = inner {
            let (open, children) = (
                Open::new(node, false),
                Children::of(inner, inner.child_count()),
            );
            let outside = std::mem::replace(&mut self.offset, range.start);
            self.readings += 1;
            self.walk(grammar, vec![Branch { open, children, folds: None }]);
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
            fault,
            multi_line: solid.contains('\n'),
            ..Token::new(range.start..range.start + solid.len(), kind, Role::Plain)
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
            let is_solid = |byte: &u8| !matches!(byte, b' ' | b'\t' | b'\r' | b'\n');
            let start = line.as_bytes().iter().position(is_solid);
            let end = line.as_bytes().iter().rposition(is_solid);
            if let (Some(start), Some(last)) = (start, end) {
                let fault = std::mem::take(&mut self.missing);
                self.push(Token {
                    fault,
                    ..Token::new(at + start..at + last + 1, kind, Role::Text)
                });
            }
            at += line.len();
        }
        self.tree.nodes[node as usize].end = self.tree.tokens.len() as TokenId;
    }

    /// A word or a mark, of which nothing more is to be known: the next child of a node, and its token.
    fn word(&mut self, kind: (u16, u16), range: Range<usize>, around: Option<&mut Open>) {
        self.pass_hidden(range.end);
        let id = self.node(kind, false, around);
        let solid = self.solid(&range, &BLANKS);
        if solid == 0 {
            return;
        }
        let end = range.start + solid;
        let fault = std::mem::take(&mut self.missing);
        let multi_line = self.masks && self.text[range.start..end].contains('\n');
        self.push(Token { fault, multi_line, ..Token::new(range.start..end, kind.0, Role::Plain) });
        self.tree.nodes[id as usize].end = self.tree.tokens.len() as TokenId;
    }

    /// How long a leaf is but for blanks at its end, which a grammar may take along and which belong
    /// to the gap.
    #[inline]
    fn solid(&self, range: &Range<usize>, ends: &[char]) -> usize {
        match self.text.as_bytes()[..range.end].last() {
            Some(last) if *last > b' ' => range.len(),
            _ => self.text[range.clone()].trim_end_matches(ends).len(),
        }
    }

    pub(super) fn leaf(
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
        let ends_line = role == Role::Heredoc && self.text[..range.start].ends_with('\r');
        let range = range.start - usize::from(ends_line)..range.end;
        if is_missing {
            self.tree.faults.push(range.start..range.start);
            self.missing = true;
            // What is missing may be missed before the comments, too.
            for last in self.tree.tokens.iter_mut().rev() {
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
        let solid = &self.text[range.start..range.start + self.solid(&range, self.ends)];
        if solid.is_empty() {
            return;
        }
        if is_error {
            self.tree.faults.push(range.start..range.start + solid.len());
        }
        let mut token = Token {
            fault: is_error || self.missing,
            ..Token::new(range.start..range.start + solid.len(), kind, role)
        };
        self.missing = false;
        if is_error && let Some(last) = self.tree.tokens.last_mut() {
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

    #[inline]
    fn push(&mut self, mut token: Token) {
        let tokens = &mut self.tree.tokens;
        let before = tokens.last().map_or(self.tree.mark, |before| before.end as usize);
        token.broken = self.line_end_behind(before) < token.start as usize;
        token.reread = self.readings > 0;
        self.tree.roles |= 1 << token.role as u16;
        self.tree.tokens.push(token);
    }

    /// The first end of a line at or behind a place; the end of the text if there is none.
    #[inline]
    fn line_end_behind(&mut self, at: usize) -> usize {
        if !self.line.contains(&at) {
            let rest = self.text.as_bytes().get(at..).unwrap_or_default();
            self.line = at..memchr::memchr(b'\n', rest).map_or(usize::MAX, |length| at + length);
        }
        self.line.end
    }
}

const LINE_ENDS: [char; 2] = ['\r', '\n'];
