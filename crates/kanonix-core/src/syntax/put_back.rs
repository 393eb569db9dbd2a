//! What the parser was not shown, or has no leaf for, is put back into the copied tree.

use super::copying::{Copying, Open};
use super::grammar::{Grammar, Role};
use super::parsed::Parsed;
use super::tree::{BLANKS, TokenId};
use std::ops::Range;

/// The kind of a mark that joins lines and that the grammar has no kind for: no table has it.
const JOIN: u16 = u16::MAX - 1;

/// That of a word that the grammar has no leaf for.
const WORD: u16 = u16::MAX - 2;

/// The comments of a text that has nothing else.
pub(super) fn comments_alone(
    grammar: &Grammar,
    parsed: &Parsed,
    text: &str,
) -> Option<Vec<Range<usize>>> {
    let mut comments = Vec::new();
    let root = parsed.tree.root_node();
    for node in root.children(&mut root.walk()) {
        let kind = grammar.loaded().table.get(node.kind_id() as usize);
        let range = node.byte_range();
        if kind.is_some_and(|(_, role)| *role == Role::Comment) {
            comments.push(range);
        } else if !text[range].trim_matches(BLANKS).is_empty() {
            return None;
        }
    }
    Some(comments)
}

impl Copying<'_> {
    /// A text of this kind with comments and without a statement.
    pub(super) fn idle(&mut self, kind: (u16, u16), comments: Vec<Range<usize>>) {
        let root = self.node(kind, false, None);
        let mut open = Open::new(root, false);
        for comment in comments {
            let id = self.node((self.comment, 0), false, Some(&mut open));
            self.leaf(id, comment, self.comment, Role::Comment, false, false);
        }
        self.tree.nodes[root as usize].end = self.tree.tokens.len() as TokenId;
    }

    /// All of it that stands before a place, or what a node there begins with: the next children of the node
    /// around it.
    #[inline]
    pub(super) fn put_all_back(
        &mut self,
        before: usize,
        range: &Range<usize>,
        around: Option<&mut Open>,
    ) {
        if self.complete != range.start {
            if !self.stands_beside(range) {
                self.put_back_between(before, range, around);
            }
            if !range.is_empty() {
                self.complete = range.start;
            }
        }
    }

    /// Whether there are but blanks between the last token and a node that begins with something else.
    fn stands_beside(&self, range: &Range<usize>) -> bool {
        let bytes = self.text.as_bytes();
        let at = self.tree.tokens.last().map_or(self.tree.mark, |last| last.end as usize);
        let begins = |byte: &u8| {
            *byte > b' ' && self.join.is_none_or(|mark| mark.as_bytes()[0] != *byte)
        };
        (range.is_empty() || bytes.get(range.start).is_some_and(begins))
            && bytes.get(at..range.start).is_none_or(|gap| gap.iter().all(|byte| *byte <= b' '))
    }

    fn put_back_between(
        &mut self,
        before: usize,
        range: &Range<usize>,
        mut around: Option<&mut Open>,
    ) {
        self.put_back(before, around.as_deref_mut());
        self.put_joins_back(range, around.as_deref_mut());
        self.put_words_back(range.start, around);
    }

    /// Comments that the parser was not shown and that end before a place are the next children of
    /// the innermost open node.
    pub(super) fn put_back(&mut self, before: usize, mut around: Option<&mut Open>) {
        while let Some(comment) = self.hidden.first()
            && comment.end <= before
        {
            self.hidden = &self.hidden[1..];
            let id = self.node((self.comment, 0), false, around.as_deref_mut());
            self.leaf(id, comment.clone(), self.comment, Role::Comment, false, false);
            if let Some(token) = self.tree.tokens.last_mut() {
                token.directive = self.directives;
            }
        }
    }

    /// Whether there is nothing in a stretch but blanks and marks that join lines.
    pub(super) fn is_blank(&self, range: &Range<usize>) -> bool {
        self.solid_start(range) == range.end
    }

    /// Where a stretch begins but for blanks and marks that join lines.
    fn solid_start(&self, range: &Range<usize>) -> usize {
        let mut rest = self.text[range.clone()].trim_start_matches(BLANKS);
        while let Some(behind) = self.join.and_then(|mark| rest.strip_prefix(mark)) {
            rest = behind.trim_start_matches(BLANKS);
        }
        range.end - rest.len()
    }

    /// Marks that join lines and stand between the last token and where a node begins in truth are the
    /// next children of the innermost open node.
    fn put_joins_back(&mut self, range: &Range<usize>, mut around: Option<&mut Open>) {
        let Some(mark) = self.join else { return };
        let mut at = self.tree.tokens.last().map_or(self.tree.mark, |last| last.end as usize);
        let before = self.solid_start(range);
        while let Some(found) = self.text.get(at..before).and_then(|gap| gap.find(mark)) {
            let start = at + found;
            at = start + mark.len();
            let id = self.node((JOIN, 0), false, around.as_deref_mut());
            self.leaf(id, start..at, JOIN, Role::Join, false, false);
        }
    }

    /// Words that stand alone between the last token and a place are the next children of the innermost open
    /// node.
    pub(super) fn put_words_back(&mut self, before: usize, around: Option<&mut Open>) {
        if self.unnamed.is_empty() {
            return;
        }
        let from = self.tree.tokens.last().map_or(self.tree.mark, |last| last.end as usize);
        let gap = self.text.as_bytes().get(from..before).unwrap_or_default();
        if gap.iter().any(|byte| *byte > b' ') {
            self.put_back_words_between(from, before, around);
        }
    }

    fn put_back_words_between(
        &mut self,
        from: usize,
        before: usize,
        mut around: Option<&mut Open>,
    ) {
        let Some(gap) = self.text.get(from..before) else { return };
        let mut at = from + gap.len() - gap.trim_start_matches(BLANKS).len();
        let (mut rest, mut words) = (gap.trim_matches(BLANKS), Vec::new());
        while !rest.is_empty() {
            let begins = |word: &&&str| {
                rest.get(..word.len()).is_some_and(|own| own.eq_ignore_ascii_case(word))
            };
            let Some(word) = self.unnamed.iter().find(begins) else { return };
            words.push(at..at + word.len());
            let behind = &rest[word.len()..];
            rest = behind.trim_start_matches(BLANKS);
            at += word.len() + behind.len() - rest.len();
        }
        for word in words {
            let id = self.node((WORD, 0), false, around.as_deref_mut());
            self.leaf(id, word, WORD, Role::Plain, false, false);
        }
    }
}
