//! What a fault costs: the stretches of a tree that stay as they stand.

use super::grammar::{Ending, Grammar, Indented, Role};
use super::logical::LogicalLines;
use super::tree::{Node, NodeId, TokenId, Tree};
use std::ops::Range;

impl Tree {
    /// Some constructs end where a line ends (`return`), although a grammar may read on.
    pub(super) fn end_lines(&mut self, ending: fn(u16) -> Option<Ending>, text: &str) {
        for id in 0..self.nodes.len() {
            let Node { kind, first, end, .. } = self.nodes[id];
            let Some(ending) = ending(kind).filter(|_| end >= first + 2) else { continue };
            let solid = |token: &TokenId| self.tokens[*token as usize].role != Role::Comment;
            let next = match ending {
                Ending::FirstWord => (first + 1..end).find(solid),
                Ending::Brackets => end.checked_sub(2).filter(|token| *token > first),
            };
            let Some(next) = next else { continue };
            let before = (first..next).rev().find(solid).unwrap_or(first);
            let (from, to) = (self.tokens[before as usize].end, self.tokens[next as usize].start);
            let mark = &text[to as usize..self.tokens[next as usize].end as usize];
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
        let whole = start.map_or(tokens.start, |start| start.min(tokens.start))..last.map_or(
            tokens.end,
            |last| last.max(tokens.end),
        );
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
    pub(super) fn pay(&mut self, grammar: &Grammar, lines: Option<&LogicalLines>, text: &str) {
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
    pub(super) fn hold_against(&mut self, lines: &LogicalLines, indented: &Indented, text: &str) {
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
            *token = (
                depths[id],
                token.1 || node.fault || in_block || (indented.goes_on)(node.kind),
            );
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
                let start = if range.len() > 1 && end == range.end {
                    range.end - 1
                } else {
                    range.start
                };
                self.faults.push(start.min(end)..end);
            }
            let (first, last) =
                (
                    lines.around(range.start, text.len()),
                    lines.around(end.saturating_sub(1), text.len()),
                );
            self.keep(first.start..last.end.max(end));
        }
        self.faults.sort_by_key(|fault| (fault.start, fault.end));
    }

    fn is_folded_token(&self, token: TokenId) -> bool {
        let node = self.nodes.partition_point(|node| node.first < token);
        let of_token = self.nodes[node..].iter().take_while(|node| node.first == token);
        of_token.into_iter().any(|node| node.folded)
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
