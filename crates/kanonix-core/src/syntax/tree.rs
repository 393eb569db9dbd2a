//! The arena: nodes in the order of a walk, parents before children, and their tokens.

use super::grammar::{Grammar, Indented, Role};
use super::logical::LogicalLines;
use super::parsed::Parsed;
use super::window::Window;
use std::ops::Range;
use tree_sitter::TreeCursor;

/// A node, by its place in the walk; the root is 0.
pub type NodeId = u32;
/// A token, by its place in the text.
pub type TokenId = u32;

/// "No such node."
const NONE: u32 = u32::MAX;

/// An inner node or a leaf.
#[derive(Clone, Copy, Debug)]
pub struct Node {
    /// The language's own number for its kind.
    pub kind: u16,
    /// Whether it is a stretch that does not parse.
    pub fault: bool,
    /// Whether it is a text of blanks alone, which is shown and has no token.
    pub shown: bool,
    /// Whether it is one token here, as no line near it is in play.
    pub folded: bool,
    /// The node around it; the root's is the root.
    pub parent: NodeId,
    next: NodeId,
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
    /// The nodes that do not parse, or in which something is missing.
    faulty: Vec<NodeId>,
}

impl Tree {
    /// Parses `text`. Gives `None` only if the parser itself refuses, which it does for no text.
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
                faulty: Vec::new(),
            },
            window,
            missing: false,
            ends: &BLANKS,
            offset: 0,
            readings: 0,
            hidden: parsed.lines.as_ref().map_or(&[], |lines| &lines.hidden),
            comment: grammar.comment(),
        };
        copy.walk(grammar, parsed.tree.walk(), Vec::new());
        let mut tree = copy.tree;
        if let Some(is_one_line) = grammar.one_line() {
            tree.end_lines(is_one_line, text);
        }
        if let (Some(lines), Some(indented)) = (&parsed.lines, grammar.lines()) {
            tree.hold_against(lines, indented, text);
        }
        tree.pay(grammar, parsed.lines.as_deref(), text);
        tree
    }

    /// Some constructs end with their first word where a line ends behind that (`return`), although a
    /// grammar may read on.
    fn end_lines(&mut self, is_one_line: fn(u16) -> bool, text: &str) {
        for id in 0..self.nodes.len() {
            let Node { kind, first, end, .. } = self.nodes[id];
            if end < first + 2 || !is_one_line(kind) {
                continue;
            }
            let solid = |token: &TokenId| self.tokens[*token as usize].role != Role::Comment;
            let Some(second) = (first + 1..end).find(solid) else { continue };
            let (from, to) = (self.tokens[first as usize].end, self.tokens[second as usize].start);
            let mark = &text[to as usize..self.tokens[second as usize].end as usize];
            if mark != ";" && text[from as usize..to as usize].contains('\n') {
                self.faults.push(self.bytes(id as NodeId));
                self.faulty.push(id as NodeId);
            }
        }
        self.faults.sort_by_key(|fault| (fault.start, fault.end));
    }

    /// Keeps what lies in these bytes as it stands.
    pub fn keep(&mut self, bytes: Range<usize>) {
        let first = self.tokens.partition_point(|token| token.end as usize <= bytes.start);
        let end = self.tokens.partition_point(|token| (token.start as usize) < bytes.end);
        self.keep_tokens(first..end);
    }

    /// Whether a token stays as it stands, for a fault around it.
    pub fn keeps(&self, token: usize) -> bool {
        let next = self.kept.partition_point(|known| known.end <= token);
        self.kept.get(next).is_some_and(|known| known.start <= token)
    }

    /// Whether the gap before a token stays as it stands, for a fault around it.
    pub fn keeps_gap(&self, before: usize) -> bool {
        let next = self.kept.partition_point(|known| known.end <= before);
        self.kept.get(next).is_some_and(|known| known.start < before)
    }

    fn keep_tokens(&mut self, tokens: Range<usize>) {
        if tokens.is_empty() {
            return;
        }
        let first = self.kept.partition_point(|known| known.end < tokens.start);
        let end = self.kept.partition_point(|known| known.start <= tokens.end);
        let start = self.kept.get(first..end).and_then(|all| all.first()).map(|known| known.start);
        let last = self.kept.get(first..end).and_then(|all| all.last()).map(|known| known.end);
        let whole = start.map_or(tokens.start, |start| start.min(tokens.start))
            ..last.map_or(tokens.end, |last| last.max(tokens.end));
        self.kept.splice(first..end, [whole]);
    }

    /// The bytes of the innermost statement or member that an offset is in; of the outermost one
    /// where `outermost` says so.
    pub fn statement(&self, grammar: &Grammar, offset: usize, outermost: bool) -> Range<usize> {
        let at = self.tokens.partition_point(|token| token.end as usize <= offset);
        let token = at.min(self.tokens.len().saturating_sub(1)) as TokenId;
        let holds = |node: &Node| node.first <= token && token < node.end;
        let mut found = None;
        let mut node = 0;
        while let Some(child) = self.children(node).find(|id| holds(&self.nodes[*id as usize])) {
            let is_statement = grammar.role(self.nodes[node as usize].kind) == Role::Statements;
            if is_statement && !(outermost && found.is_some()) {
                found = Some(child);
            }
            node = child;
        }
        match found {
            Some(node) => self.bytes(node),
            None => 0..usize::MAX,
        }
    }

    fn bytes(&self, node: NodeId) -> Range<usize> {
        let Node { first, end, .. } = self.nodes[node as usize];
        if first == end {
            return 0..0;
        }
        let (first, last) = (self.tokens[first as usize], self.tokens[end as usize - 1]);
        first.start as usize..last.end as usize
    }

    /// Keeps the statement or member around each fault, with all that is in it: how a stretch that
    /// does not parse is repaired decides what is around it. Of a fault between the statements of a
    /// body that is the statement which has the body, and at the top what stands beside it; where it
    /// holds a bracket without its other one, all that this may have ended or begun.
    fn pay(&mut self, grammar: &Grammar, lines: Option<&LogicalLines>, text: &str) {
        for fault in std::mem::take(&mut self.faulty) {
            let holds = |node: NodeId| {
                grammar.role(self.nodes[node as usize].kind) == Role::Statements
            };
            let climb = |mut at: NodeId| loop {
                let parent = self.nodes[at as usize].parent;
                if at == 0 || holds(parent) {
                    return (at, parent);
                }
                at = parent;
            };
            let (mut cost, mut body) = climb(fault);
            if cost == fault && body != 0 {
                (cost, body) = climb(body);
            }
            let Node { first, end, .. } = self.nodes[cost as usize];
            let (mut first, mut end) = (first as usize, end as usize);
            if cost == fault && body == 0 {
                let mut before: Option<NodeId> = None;
                let mut after = None;
                for sibling in self.children(0) {
                    let node = &self.nodes[sibling as usize];
                    let is_solid = node.first < node.end
                        && self.tokens[node.first as usize].role != Role::Comment;
                    if is_solid && (node.end as usize) <= first && sibling < fault {
                        before = Some(sibling);
                    } else if is_solid && sibling > fault && after.is_none() {
                        after = Some(sibling);
                    }
                }
                // A bracket that nothing opens or closes: which one is meant, nobody knows.
                let (closes, opens) = unpaired(text, self.bytes(cost));
                first = match before {
                    _ if closes => 0,
                    Some(node) => self.nodes[node as usize].first as usize,
                    None => first,
                };
                end = match after {
                    _ if opens => self.tokens.len(),
                    Some(node) => self.nodes[node as usize].end as usize,
                    None => end,
                };
            }
            self.keep_tokens(first..end.max(first));
            if cost == fault && let Some(lines) = lines {
                let at = self.tokens.get(first).map_or(0, |token| token.start as usize);
                self.keep(lines.around(at, usize::MAX));
            }
        }
    }

    /// Holds the tree against what the second reader finds: every logical line begins a statement
    /// that stands as many blocks deep. What stands otherwise is a fault, with all that is around.
    fn hold_against(&mut self, lines: &LogicalLines, indented: &Indented, text: &str) {
        let mut unread: Vec<Range<usize>> = lines.unread.clone();
        let mut depths: Vec<u32> = Vec::with_capacity(self.nodes.len());
        // By token: how deep it stands, and whether a logical line may begin with it.
        let mut of_token: Vec<(u32, bool)> = vec![(0, false); self.tokens.len()];
        for (id, node) in self.nodes.iter().enumerate() {
            let around = if id == 0 { 0 } else { depths[node.parent as usize] };
            depths.push(around + u32::from(id > 0 && (indented.is_block)(node.kind)));
            if node.first == node.end {
                continue;
            }
            let token = &mut of_token[node.first as usize];
            let parent = &self.nodes[node.parent as usize];
            let in_block = node.parent == 0 || (indented.is_block)(parent.kind);
            *token = (depths[id], token.1 || node.fault || in_block || (indented.goes_on)(node.kind));
        }
        let mut next = 0;
        let mut previous = None;
        let mut folded_at = 0;
        for line in &lines.lines {
            while self.tokens.get(next).is_some_and(|token| (token.end as usize) <= line.start) {
                next += 1;
            }
            let token = self.tokens.get(next);
            let agrees = token.is_some_and(|token| {
                let begins = token.start as usize == line.start;
                let (depth, starts) = of_token[next];
                if begins {
                    folded_at = line.depth;
                }
                if self.is_folded_token(next as TokenId) && !begins {
                    // What is folded is one statement: it goes on deeper, or with such a word.
                    let rest = &text[line.start..];
                    let goes_on = || indented.words.iter().any(|word| rest.starts_with(word));
                    return line.depth > folded_at || (line.depth == folded_at && goes_on());
                }
                token.fault || (begins && starts && depth == line.depth)
            });
            if !agrees {
                unread.push(previous.unwrap_or(line.start)..line.start + 1);
            }
            previous = Some(line.start);
        }
        for range in unread {
            let end = range.end.min(text.len());
            if !self.faults.iter().any(|fault| fault.start < end && range.start < fault.end) {
                let start = if range.len() > 1 && end == range.end { range.end - 1 } else { range.start };
                self.faults.push(start.min(end)..end);
            }
            let (first, last) =
                (lines.around(range.start, text.len()), lines.around(end.saturating_sub(1), text.len()));
            self.keep(first.start..last.end.max(end));
        }
        self.faults.sort_by_key(|fault| (fault.start, fault.end));
    }

    fn is_folded_token(&self, token: TokenId) -> bool {
        let node = self.nodes.partition_point(|node| node.first < token);
        let of_token = self.nodes[node..].iter().take_while(|node| node.first == token);
        of_token.into_iter().any(|node| node.folded)
    }

    /// Whether anything is folded.
    pub fn is_folded(&self) -> bool {
        self.nodes.iter().any(|node| node.folded)
    }

    /// The children of a node, comments included.
    pub fn children(&self, node: NodeId) -> impl Iterator<Item = NodeId> + '_ {
        let first = node + 1;
        let has_any = self.nodes.get(first as usize).is_some_and(|child| child.parent == node);
        let mut next = if has_any { first } else { NONE };
        std::iter::from_fn(move || {
            let now = next;
            (now != NONE).then(|| {
                next = self.nodes[now as usize].next;
                now
            })
        })
    }

    /// The last token of a node that is not a comment, if there is one.
    pub fn last_solid(&self, node: NodeId) -> Option<TokenId> {
        let Node { first, end, .. } = self.nodes[node as usize];
        (first..end).rev().find(|token| self.tokens[*token as usize].role != Role::Comment)
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

/// Whether a stretch holds a bracket that closes what was not opened in it, and one that it leaves
/// open.
fn unpaired(text: &str, range: Range<usize>) -> (bool, bool) {
    let (mut depth, mut closes) = (0usize, false);
    for byte in text.get(range).unwrap_or_default().bytes() {
        match byte {
            b'(' | b'[' | b'{' => depth += 1,
            b')' | b']' | b'}' if depth == 0 => closes = true,
            b')' | b']' | b'}' => depth -= 1,
            _ => {}
        }
    }
    (closes, depth > 0)
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
    /// The language's number for a comment.
    comment: u16,
}

/// How many stretches inside one another are read again; deeper ones are one token. Each reading
/// takes in those inside it once more.
const MOST_READINGS: usize = 8;

/// An open node, its child that was copied last, and how many of its children are to come.
type Open = (NodeId, NodeId, usize);

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
                None => (u16::MAX, Role::Atom, node.is_error()),
            };
            while let Some(comment) = self.hidden.first()
                && comment.end <= node.start_byte()
            {
                self.hidden = &self.hidden[1..];
                let id = self.node(self.comment, false, &mut open);
                self.leaf(id, comment.clone(), self.comment, Role::Comment, false, false);
            }
            let id = self.node(kind, is_error, &mut open);
            let parent = self.tree.nodes[id as usize].parent;
            let children = node.child_count();
            let folded = match folds.last_mut() {
                Some((body, folds)) if *body == parent => folds.pop().unwrap_or(false),
                _ => false,
            };
            let range = node.start_byte() + self.offset..node.end_byte() + self.offset;
            if folded {
                self.fold(id, range, kind);
            } else if role == Role::Unread {
                self.unread(grammar, id, range, kind, node.has_error());
            } else if (role == Role::Plain || role.is_body())
                && children > 0
                && cursor.goto_first_child()
            {
                open.push((id, NONE, children as usize - 1));
                if let (true, Some(window), 0) = (role.is_body(), self.window, self.readings) {
                    let mut folded = window.folded(cursor.clone(), table, self.text);
                    folded.reverse();
                    folds.push((id, folded));
                }
                continue;
            } else {
                let role = if role.is_body() { Role::Plain } else { role };
                // A string whose end is missing has its fault inside.
                let is_error = is_error
                    || (role == Role::Atom && children > 0 && node.has_error())
                    || (role == Role::Atom && grammar.is_foreign(kind, &self.text[range.clone()]))
                    || (role == Role::Comment && is_open(&self.text[range.clone()]));
                let is_missing = range.is_empty() && node.is_missing();
                // What the grammar reads in a comment is a text of the program, blanks and all.
                self.ends = match role {
                    Role::Comment if node.named_child_count() > 0 => &LINE_ENDS,
                    _ => &BLANKS,
                };
                self.leaf(id, range, kind, role, is_error, is_missing);
            }
            loop {
                let Some((done, _, to_come)) = open.last_mut() else { return };
                if *to_come > 0 && cursor.goto_next_sibling() {
                    *to_come -= 1;
                    break;
                }
                folds.pop_if(|(body, _)| *body == *done);
                self.tree.nodes[*done as usize].end = self.tree.tokens.len() as TokenId;
                open.pop();
                cursor.goto_parent();
            }
        }
    }

    /// A new node, the next child of the innermost open one.
    fn node(&mut self, kind: u16, fault: bool, open: &mut [Open]) -> NodeId {
        let id = self.tree.nodes.len() as NodeId;
        let parent = open.last().map_or(0, |(parent, ..)| *parent);
        if let Some((_, last, _)) = open.last_mut() {
            if *last != NONE {
                self.tree.nodes[*last as usize].next = id;
            }
            *last = id;
        }
        let first = self.tree.tokens.len() as TokenId;
        self.tree.nodes.push(super::Node {
            kind,
            fault,
            shown: false,
            folded: false,
            parent,
            next: NONE,
            first,
            end: first,
        });
        id
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
            self.walk(grammar, cursor, vec![(node, NONE, parts - 1)]);
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
            self.tree.faults.push(range.clone());
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
        };
        self.missing = false;
        if is_error && let Some(last) = tokens.last_mut() {
            last.fault = true;
        }
        if !matches!(role, Role::Plain | Role::Join) && solid.contains('\n') {
            if role == Role::Comment && is_starred(solid) {
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
        tokens.push(token);
    }
}

/// Blanks and line ends as the languages know them; others are text.
const BLANKS: [char; 4] = [' ', '\t', '\r', '\n'];

const LINE_ENDS: [char; 2] = ['\r', '\n'];

/// Whether a block comment has no end: a grammar may read it up to the end of the text.
fn is_open(comment: &str) -> bool {
    comment.starts_with("/*") && (comment.len() < 4 || !comment.ends_with("*/"))
}

/// Whether every later line of a block comment begins with a star, so that the lines may be moved
/// together.
fn is_starred(comment: &str) -> bool {
    comment.starts_with("/*")
        && comment.lines().skip(1).all(|line| line.trim_start_matches([' ', '\t']).starts_with('*'))
}
