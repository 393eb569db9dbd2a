//! Directives: lines in a text that are no part of its program (`#region`), and the branches of which
//! only one is (`#if`).
//!
//! A grammar is shown a text of the same length without them, and the walk puts them back as comments
//! that have a line of their own. Of the branches of a condition all are shown, as long as each of
//! them is whole constructs of the same one; else just one that parses is. The others stay as they
//! stand, with no word about what they say.

use super::grammar::Grammar;
use std::ops::Range;
use tree_sitter::{Node, Tree};

/// What a language says of its directives.
#[derive(Debug)]
pub struct Directives {
    /// What such a line begins with.
    pub mark: u8,
    /// The words behind the mark that begin a condition, that begin its next branch, and that end it;
    /// each is the beginning of a word.
    pub conditions: [&'static [&'static str]; 3],
    /// The words that begin and end a stretch with a name.
    pub regions: &'static [&'static str],
    /// Where the string, the character or the comment ends that begins here, if one does.
    pub literal: fn(&[u8], usize) -> Option<usize>,
    /// Whether such a stretch is a comment.
    pub is_comment: fn(&[u8]) -> bool,
}

/// What a directive is to the lines around it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Word {
    /// It begins a condition.
    Begins,
    /// It begins another branch of one.
    Divides,
    /// It ends one.
    Ends,
    /// It begins or ends a stretch with a name.
    Region,
    /// Anything else.
    Other,
}

/// The branches of one condition.
#[derive(Debug)]
struct Condition {
    /// Its directives, by their places among all of them: the first, those between, the last.
    lines: Vec<usize>,
    /// Of each branch, what it holds.
    branches: Vec<Branch>,
    shown: Shown,
}

/// What stands between two directives of a condition.
#[derive(Clone, Debug)]
struct Branch {
    /// From its first to its last byte that is neither blank nor a comment.
    solid: Option<Range<usize>>,
    /// Whether every bracket in it has its other one in it, too.
    balanced: bool,
}

/// Which branches of a condition the parser is shown.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Shown {
    All,
    Only(usize),
    Nothing,
}

/// So many conditions inside one another are told apart; deeper ones are lines like any other.
const DEEPEST: usize = 64;

/// So many times a text is parsed with other branches.
const MOST_ROUNDS: usize = 6;

/// The directives of a text, and what of its branches is shown.
pub(super) struct Found<'a> {
    own: &'a Directives,
    text: &'a str,
    lines: Vec<Range<usize>>,
    conditions: Vec<Condition>,
}

impl Directives {
    /// Parses a text with directives, and says what the parser was not shown of it: each directive,
    /// with all that is hidden behind it. `None` where there are none; the tree is `None` where the
    /// parser gives up.
    pub(super) fn parse(
        &self,
        grammar: &Grammar,
        text: &str,
    ) -> Option<(Option<Tree>, Vec<Range<usize>>)> {
        let mut found = self.find(text)?;
        let mut rounds = 1;
        loop {
            let hidden = found.hidden();
            let shown = masked(text, &hidden);
            let tree = grammar.parse(grammar.masked(&shown).as_ref().unwrap_or(&shown), None);
            let Some(parsed) = tree.as_ref().filter(|_| rounds < MOST_ROUNDS) else {
                return Some((tree, hidden));
            };
            if !found.shows_otherwise(parsed.root_node()) {
                return Some((tree, hidden));
            }
            rounds += 1;
        }
    }

    /// Whether a text has a line that may be a directive.
    pub(super) fn may_be_in(&self, text: &str) -> bool {
        memchr::memchr_iter(self.mark, text.as_bytes()).any(|at| begins_line(text.as_bytes(), at))
    }

    /// Finds the directives of a text.
    fn find<'a>(&'a self, text: &'a str) -> Option<Found<'a>> {
        if !self.may_be_in(text) {
            return None;
        }
        let bytes = text.as_bytes();
        let mut lines = Vec::new();
        let mut at = 0;
        while at < bytes.len() {
            if bytes[at] == self.mark && begins_line(bytes, at) {
                let end = memchr::memchr(b'\n', &bytes[at..]).map_or(bytes.len(), |end| at + end);
                let solid = bytes[at..end].trim_ascii_end().len();
                lines.push(at..at + solid);
                at = end;
            } else {
                at = (self.literal)(bytes, at).unwrap_or(at + 1);
            }
        }
        if lines.is_empty() {
            return None;
        }
        let mut found = Found { own: self, text, lines, conditions: Vec::new() };
        found.pair();
        Some(found)
    }

    /// What a directive is, by its word.
    pub fn word(&self, line: &str) -> Word {
        let word = line[1..].trim_start_matches([' ', '\t']);
        let is = |words: &[&str]| words.iter().any(|own| word.starts_with(own));
        let [begins, divides, ends] = self.conditions;
        match () {
            () if is(ends) => Word::Ends,
            () if is(divides) => Word::Divides,
            () if is(begins) => Word::Begins,
            () if is(self.regions) => Word::Region,
            () => Word::Other,
        }
    }

    /// What a branch holds.
    fn branch(&self, text: &str, range: Range<usize>) -> Branch {
        let bytes = &text.as_bytes()[..range.end];
        let (mut solid, mut open): (Option<Range<usize>>, Vec<u8>) = (None, Vec::new());
        let mut balanced = true;
        let mut at = range.start;
        while at < bytes.len() {
            if bytes[at] == self.mark && begins_line(bytes, at) {
                at = memchr::memchr(b'\n', &bytes[at..]).map_or(bytes.len(), |end| at + end);
                continue;
            }
            let literal = (self.literal)(bytes, at).map(|end| end.min(bytes.len()));
            let end = literal.unwrap_or(at + 1);
            let is_blank = bytes[at].is_ascii_whitespace()
                || (literal.is_some() && (self.is_comment)(&bytes[at..end]));
            if !is_blank {
                solid.get_or_insert(at..end).end = end;
            }
            match (literal, bytes[at]) {
                (None, opener @ (b'(' | b'[' | b'{')) => open.push(opener),
                (None, closer @ (b')' | b']' | b'}')) => {
                    let opener = match closer {
                        b')' => b'(',
                        b']' => b'[',
                        _ => b'{',
                    };
                    balanced &= open.pop() == Some(opener);
                }
                _ => {}
            }
            at = end;
        }
        Branch { solid, balanced: balanced && open.is_empty() }
    }
}

impl Found<'_> {
    /// Finds which directives belong together. One without its others is a line like any other.
    fn pair(&mut self) {
        let mut open: Vec<Vec<usize>> = Vec::new();
        for (index, line) in self.lines.iter().enumerate() {
            match self.own.word(&self.text[line.clone()]) {
                Word::Begins => open.push(vec![index]),
                Word::Divides => {
                    if let Some(lines) = open.last_mut() {
                        lines.push(index);
                    }
                }
                Word::Ends => {
                    let Some(mut lines) = open.pop() else { continue };
                    if open.len() >= DEEPEST {
                        continue;
                    }
                    lines.push(index);
                    let between = lines.windows(2);
                    let branches: Vec<Branch> = between
                        .map(|pair| {
                            let inside = self.lines[pair[0]].end..self.lines[pair[1]].start;
                            self.own.branch(self.text, inside)
                        })
                        .collect();
                    let crosses =
                        branches.len() > 1 && branches.iter().any(|branch| !branch.balanced);
                    let shown = if crosses { Shown::Only(0) } else { Shown::All };
                    self.conditions.push(Condition { lines, branches, shown });
                }
                Word::Region | Word::Other => {}
            }
        }
    }

    /// What the parser is not shown: the directives, and the branches that are hidden, each with
    /// the directive before it.
    fn hidden(&self) -> Vec<Range<usize>> {
        let mut hidden = self.lines.clone();
        for condition in &self.conditions {
            let line = |place: usize| &self.lines[condition.lines[place]];
            let last = condition.branches.len();
            let behind = |from: usize, to: usize| {
                let before = self.text[..line(to).start].trim_ascii_end().len();
                line(from).start..before.max(line(from).end)
            };
            match condition.shown {
                Shown::All => {}
                Shown::Only(own) => {
                    hidden.extend((own > 0).then(|| behind(0, own)));
                    hidden.extend((own + 1 < last).then(|| behind(own + 1, last)));
                }
                Shown::Nothing => hidden.push(behind(0, last)),
            }
        }
        hidden.sort_by_key(|range| (range.start, std::cmp::Reverse(range.end)));
        // What lies in a hidden branch is part of it.
        let mut end = 0;
        hidden.retain(|range| {
            let is_outside = range.start >= end;
            end = end.max(range.end);
            is_outside
        });
        hidden
    }

    /// Shows other branches of the conditions that the parser does not get along with. Says whether
    /// there are any.
    fn shows_otherwise(&mut self, root: Node) -> bool {
        let (faults, hidden) = (faults(root), self.hidden());
        let mut changes = false;
        for index in 0..self.conditions.len() {
            let around = self.around(index);
            let first = self.lines[self.conditions[index].lines[0]].start;
            let next = hidden.partition_point(|range| range.end <= first);
            let is_hidden = hidden.get(next).is_some_and(|range| range.start < first);
            if is_hidden {
                continue;
            }
            let touches = |fault: &Range<usize>| {
                fault.start <= around.end && around.start <= fault.end
            };
            let condition = &self.conditions[index];
            let crosses = condition.shown == Shown::All && condition.crosses(root);
            if crosses || faults.iter().any(touches) {
                let next = condition.next();
                changes |= next.is_some();
                let shown = next.unwrap_or(condition.shown);
                self.conditions[index].shown = shown;
            }
        }
        changes
    }

    /// A condition, with the last byte before it that is not blank and the line behind it that is
    /// not: where a parser stumbles over one, it may say that it did there.
    fn around(&self, condition: usize) -> Range<usize> {
        let lines = &self.conditions[condition].lines;
        let first = self.lines[lines[0]].start;
        let end = self.lines[lines[lines.len() - 1]].end;
        let behind = self.text.len() - self.text[end..].trim_ascii_start().len();
        let line = memchr::memchr(b'\n', &self.text.as_bytes()[behind..]);
        self.text[..first].trim_ascii_end().len()..line.map_or(self.text.len(), |at| behind + at)
    }
}

impl Condition {
    /// What is shown of it next, where this does not parse.
    fn next(&self) -> Option<Shown> {
        let has_other = self.branches.len() > 1;
        match self.shown {
            Shown::All if has_other => Some(Shown::Only(0)),
            Shown::All => Some(Shown::Nothing),
            Shown::Only(own) if own + 1 < self.branches.len() => Some(Shown::Only(own + 1)),
            Shown::Only(_) | Shown::Nothing => None,
        }
    }

    /// Whether its branches are anything but whole constructs of the same one.
    fn crosses(&self, root: Node) -> bool {
        if self.branches.len() < 2 {
            return false;
        }
        let mut holders = self.branches.iter().filter_map(|branch| branch.solid.clone());
        let first = holders.next().map(|solid| holder(root, solid));
        first.is_some_and(
            |first| first.is_none() || holders.any(|solid| holder(root, solid) != first),
        )
    }
}

/// The construct that a stretch is whole parts of.
fn holder(root: Node, solid: Range<usize>) -> Option<usize> {
    let mut node = root.descendant_for_byte_range(solid.start, solid.end)?;
    if node.byte_range() == solid {
        while node.byte_range() == solid
            && let Some(around) = node.parent()
        {
            node = around;
        }
        return Some(node.id());
    }
    let mut cursor = node.walk();
    let (mut begins, mut ends) = (false, false);
    for child in node.children(&mut cursor) {
        begins |= child.start_byte() == solid.start;
        ends |= child.end_byte() == solid.end;
    }
    (begins && ends).then(|| node.id())
}

/// What does not parse.
fn faults(root: Node) -> Vec<Range<usize>> {
    let mut faults = Vec::new();
    if !root.has_error() {
        return faults;
    }
    let mut cursor = root.walk();
    loop {
        let node = cursor.node();
        if node.is_error() || node.is_missing() {
            faults.push(node.byte_range());
        } else if node.has_error() && cursor.goto_first_child() {
            continue;
        }
        while !cursor.goto_next_sibling() {
            if !cursor.goto_parent() {
                return faults;
            }
        }
    }
}

/// A text of the same length without these stretches.
fn masked(text: &str, hidden: &[Range<usize>]) -> String {
    let mut masked = String::with_capacity(text.len());
    let mut done = 0;
    for range in hidden {
        masked.push_str(&text[done..range.start]);
        let bytes = text[range.clone()].bytes();
        masked.extend(bytes.map(|byte| if byte == b'\n' { '\n' } else { ' ' }));
        done = range.end;
    }
    masked.push_str(&text[done..]);
    masked
}

/// Whether nothing but blanks and marks of the byte order stands before a place on its line.
fn begins_line(bytes: &[u8], at: usize) -> bool {
    let mut before = &bytes[..at];
    loop {
        before = match before {
            [rest @ .., b' ' | b'\t'] | [rest @ .., 0xef, 0xbb, 0xbf] => rest,
            [.., byte] => return *byte == b'\n',
            [] => return true,
        };
    }
}
