//! What a fault costs: the stretches of a tree that stay as they stand.

use super::grammar::{Ending, Grammar, Indented, Pairs, Role};
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
    /// body that is the statement which has the body, and at the top what stands beside it.
    pub(super) fn pay(&mut self, grammar: &Grammar, lines: Option<&LogicalLines>, text: &str) {
        // Where lines are syntax, they say which bracket is meant.
        if !self.faulty.is_empty() && lines.is_none() {
            self.keep_unpaired(grammar.pairs(), text);
        }
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
                first = before.map_or(first, |node| self.nodes[node as usize].first as usize);
                end = after.map_or(end, |node| self.nodes[node as usize].end as usize);
            }
            self.keep_tokens(first..end.max(first));
            if cost == fault && let Some(lines) = lines {
                let at = self.tokens.get(first).map_or(0, |token| token.start as usize);
                self.keep(lines.around(at, usize::MAX));
            }
        }
    }

    /// Keeps all that a bracket without its other one may have ended or begun: which of the brackets
    /// around it is the one too many, nobody knows, and the parser only guesses. So it is with words
    /// that open and close.
    fn keep_unpaired(&mut self, pairs: Pairs, text: &str) {
        // What is open: what would close it, and the token.
        let mut open: Vec<(&str, usize)> = Vec::new();
        let mut kept: Vec<Range<usize>> = Vec::new();
        for (at, token) in self.tokens.iter().enumerate() {
            let own = &text[token.start as usize..token.end as usize];
            let is_mark = matches!(token.role, Role::Plain | Role::Join)
                && pairs.iter().any(|(opener, closer)| own == *opener || own == *closer);
            if !token.fault && !is_mark {
                continue;
            }
            for word in words_and_marks(own) {
                if let Some((_, closer)) = pairs.iter().find(|(opener, _)| *opener == word) {
                    open.push((*closer, at));
                    continue;
                }
                if !pairs.iter().any(|(_, closer)| *closer == word) {
                    continue;
                }
                let Some(found) = open.iter().rposition(|(closer, _)| *closer == word) else {
                    kept.push(0..at + 1);
                    continue;
                };
                if let Some((_, first)) = open.get(found + 1) {
                    kept.push(*first..at + 1);
                }
                open.truncate(found);
            }
        }
        if let Some((_, first)) = open.first() {
            kept.push(*first..self.tokens.len());
        }
        for mut tokens in kept {
            for top in self.children(0) {
                let Node { first, end, .. } = self.nodes[top as usize];
                let whole = first as usize..end as usize;
                if whole.start < tokens.end && tokens.start < whole.end {
                    tokens = whole.start.min(tokens.start)..whole.end.max(tokens.end);
                }
            }
            self.keep_tokens(tokens);
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
            let (first, last) = (
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

/// The words of a stretch, and each character that is of none.
fn words_and_marks(stretch: &str) -> impl Iterator<Item = &str> {
    let is_of_word = |c: char| c.is_alphanumeric() || c == '_';
    let mut rest = stretch;
    std::iter::from_fn(move || {
        rest = rest.trim_start();
        let first = rest.chars().next()?;
        let end = match is_of_word(first) {
            true => rest.find(|c: char| !is_of_word(c)).unwrap_or(rest.len()),
            false => first.len_utf8(),
        };
        let (word, after) = rest.split_at(end);
        rest = after;
        Some(word)
    })
}
