//! A language's grammar, and the project's own names for its kinds of node.

use super::comments::Comments;
use super::directives::Directives;
use super::kinds::{KindEntry, Kinds, Said};
use super::logical::{Lexis, LogicalLines};
use super::regrouping::Regrouping;
use super::tree::{NodeId, Tree};
use std::cell::RefCell;
use std::collections::HashMap;
use std::ops::{ControlFlow, Range};
use std::sync::OnceLock;
use tree_sitter::{Language, ParseOptions, ParseState, Parser, Point};

/// What the copying walk does with a kind of node.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Role {
    /// Copied with its children, by the rules laid out.
    Plain,
    /// As `Plain`, and its children are laid out each by itself: of those far from every line in
    /// play, nothing but where they stand has to be known.
    Body,
    /// As `Body`, and what it holds are statements or members: one of them is what a stretch costs
    /// that does not parse.
    Statements,
    /// As `Plain`, and where it holds one thing alone it is passed over: that thing stands in its place.
    Wrapper,
    /// One token, whatever is inside: strings, templates, regular expressions.
    Atom,
    /// One token that may stand anywhere.
    Comment,
    /// The mark that joins a line to the next one.
    Join,
    /// A text that begins with the end of the line that it is announced on, whatever else that line
    /// holds: one token, to the byte, which no rule sees.
    Heredoc,
    /// Text between markup: one token a line, without the blanks around it.
    Text,
    /// A bracketed stretch that the grammar leaves unread, read once more by itself: copied as what
    /// it is read as, or as one token where it is nothing that may be laid out.
    Unread,
}

impl Role {
    /// Whether rules see a tree as if it were not there.
    pub fn is_passed_over(self) -> bool {
        matches!(self, Role::Comment | Role::Join | Role::Heredoc)
    }

    /// Whether it is copied with its children.
    pub fn is_copied(self) -> bool {
        matches!(self, Role::Plain | Role::Wrapper) || self.is_body()
    }

    /// Whether its children are laid out each by itself.
    pub fn is_body(self) -> bool {
        matches!(self, Role::Body | Role::Statements)
    }
}

/// How a stretch between brackets is read that the grammar leaves unread.
#[derive(Debug)]
pub struct Reading {
    /// What makes a statement of it.
    pub end: &'static str,
    /// Whether what it is read as may be laid out, by the kinds of its parts, brackets included.
    pub accepts: fn(&[u16]) -> bool,
}

/// What a language says in which lines and indentation are syntax, so that the parser's tree can be
/// held against what the second reader finds.
#[derive(Debug)]
pub struct Indented {
    /// Whether a kind holds the lines of a block.
    pub is_block: fn(u16) -> bool,
    /// Whether a kind may begin a logical line without being the first thing in a block: a clause,
    /// a definition behind its decorators.
    pub goes_on: fn(u16) -> bool,
    /// What such a line begins with.
    pub words: &'static [&'static str],
    /// What brackets and strings look like.
    pub lexis: Lexis,
}

/// Words that are no names.
#[derive(Clone, Copy, Debug)]
pub struct Reserved {
    /// The words.
    pub words: &'static [&'static str],
    /// The tokens behind which one is a name all the same.
    pub behind: &'static [&'static str],
}

/// Where a construct ends if a line ends there, although a grammar may read on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Ending {
    /// Behind its first word (`return`).
    FirstWord,
    /// Before its two brackets (`Gauge[]`).
    Brackets,
}

/// Kinds of elements, or of what begins them, behind which a language allows no separator in a kind
/// of list, or in any.
pub type Last = &'static [(Option<u16>, u16)];

/// What opens, and what closes it.
pub type Pairs = &'static [(&'static str, &'static str)];

/// A grammar with its table from the parser's kinds to the language's own.
pub struct Grammar {
    load: fn() -> Language,
    kinds: &'static Kinds,
    comments: &'static Comments,
    reading: Option<Reading>,
    indented: Option<Indented>,
    /// Whether the grammar reads something that the language does not have.
    foreign: Option<fn(u16, &str) -> bool>,
    /// Elements behind which the language allows no separator.
    last: Last,
    /// Whether no element of a list may be followed by one, if it is the last.
    bare_end: Option<fn(&Tree, NodeId) -> bool>,
    /// What opens, and what closes it.
    pairs: Pairs,
    /// Words that close, whatever opens.
    closers: &'static [&'static str],
    /// Whether a line's end inside a token is part of what it says.
    line_ends_count: bool,
    /// Whether the common indentation of a token's later lines says nothing.
    margin: Option<fn(&str) -> bool>,
    /// Where no line may end in a kind.
    one_line: Option<fn(u16) -> Option<Ending>>,
    /// Whether all of a construct is one token, by its kind and its text.
    exact: Option<(u16, fn(&str) -> bool)>,
    /// Whether what a construct holds behind its first part stands beside it in truth.
    alone: Option<(u16, fn(&str) -> bool)>,
    /// Whether something that the grammar asks for may be missing behind a text.
    may_lack: Option<fn(&str) -> bool>,
    /// How many constructs lack the end that they need.
    unfinished: Option<fn(&Tree, &str) -> usize>,
    /// What the grammar takes for parts of operations that belong to their operands.
    regrouping: Option<&'static Regrouping>,
    /// Whether a text is only understood as a whole.
    whole: Option<fn(&str) -> bool>,
    /// What is said of each node beyond its kind.
    traits: Option<fn(&Tree, &str) -> Vec<u16>>,
    /// Before which tokens white space shows.
    shows: Option<fn(&Tree, &str) -> Vec<bool>>,
    /// Which stretches of a text no word ends in, where its words may be looked at one by one.
    uncut: Option<fn(&str) -> Vec<Range<usize>>>,
    /// What the parser is shown in place of a text, of the same length.
    masked: Option<fn(&str) -> Option<String>>,
    /// How lines look that are no part of the program.
    directives: Option<&'static Directives>,
    /// What joins a line to the next one where the grammar takes it for a blank.
    join: Option<&'static str>,
    /// Words that the grammar takes for names and that are none.
    reserved: Option<Reserved>,
    /// Words that the grammar reads and has nothing for.
    unnamed: &'static [&'static str],
    /// Words that it is shown blanks in place of.
    hidden_words: &'static [&'static str],
    /// What a text without a statement is, which the grammar does not read.
    idle: Option<&'static str>,
    loaded: OnceLock<Loaded>,
}

pub(super) struct Loaded {
    pub language: Language,
    /// The language's own kind and its role, by the parser's kind.
    pub table: Vec<(u16, Role)>,
}

impl Grammar {
    /// A grammar that is loaded on first use.
    pub const fn new(
        load: fn() -> Language,
        kinds: &'static Kinds,
        comments: &'static Comments,
    ) -> Grammar {
        let loaded = OnceLock::new();
        let (reading, indented, foreign, one_line) = (None, None, None, None);
        let (exact, alone, may_lack, whole, shows) = (None, None, None, None, None);
        let (masked, uncut, directives, margin, join) = (None, None, None, None, None);
        let (line_ends_count, pairs, reserved) = (false, BRACKETS, None);
        let (last, closers, unnamed): (Last, &[&str], &[&str]) = (&[], &[], &[]);
        let hidden_words = &[];
        let idle = None;
        Grammar {
            load,
            kinds,
            comments,
            reading,
            indented,
            foreign,
            last,
            bare_end: None,
            pairs,
            closers,
            line_ends_count,
            margin,
            one_line,
            exact,
            alone,
            may_lack,
            unfinished: None,
            regrouping: None,
            whole,
            traits: None,
            shows,
            uncut,
            masked,
            directives,
            join,
            reserved,
            unnamed,
            hidden_words,
            idle,
            loaded,
        }
    }

    /// The same, with elements behind which the language allows no separator, although the grammar
    /// reads one.
    pub const fn ending_lists(mut self, last: Last) -> Grammar {
        self.last = last;
        self
    }

    /// Elements behind which the language allows no separator.
    pub(super) fn last(&self) -> Last {
        self.last
    }

    /// The same, with lists that end with no separator, although the grammar reads one.
    pub const fn ending_bare(mut self, lists: fn(&Tree, NodeId) -> bool) -> Grammar {
        self.bare_end = Some(lists);
        self
    }

    /// Which lists end with no separator.
    pub(super) fn bare_end(&self) -> Option<fn(&Tree, NodeId) -> bool> {
        self.bare_end
    }

    /// The same for a language in which other things than brackets open and close: words.
    pub const fn opening(mut self, pairs: Pairs) -> Grammar {
        self.pairs = pairs;
        self
    }

    /// The same, with words that close what no word by itself tells to be open.
    pub const fn closing(mut self, closers: &'static [&'static str]) -> Grammar {
        self.closers = closers;
        self
    }

    /// Those words.
    pub(super) fn closers(&self) -> &'static [&'static str] {
        self.closers
    }

    /// What opens, closes and separates in it, as far as that is one character.
    pub fn marks(&self) -> Vec<u8> {
        let pairs = self.pairs.iter().flat_map(|(opener, closer)| [*opener, *closer]);
        let separators = self.kinds.entries.iter().filter(|kind| kind.said == Said::Separator);
        let all = pairs.chain(separators.filter_map(|kind| kind.name));
        all.filter(|mark| mark.len() == 1).flat_map(str::bytes).collect()
    }

    /// The words that do nothing but separate.
    pub fn words_that_separate(&self) -> Vec<&'static str> {
        let separators = self.kinds.entries.iter().filter(|kind| kind.said == Said::Separator);
        separators.filter_map(|kind| kind.name).filter(|name| name.len() > 1).collect()
    }

    /// What opens, and what closes it.
    pub(super) fn pairs(&self) -> Pairs {
        self.pairs
    }

    /// The same for a language that does not say that a line's end inside a token is the same
    /// however it is written: it stays as it stands.
    pub const fn counting_line_ends(mut self) -> Grammar {
        self.line_ends_count = true;
        self
    }

    /// The same for a language in which lines and indentation are syntax.
    pub const fn indented(mut self, indented: Indented) -> Grammar {
        self.indented = Some(indented);
        self
    }

    /// The same, with tokens over several lines whose later lines move with the line that they begin
    /// on: their common indentation says nothing.
    pub const fn with_margins(mut self, margin: fn(&str) -> bool) -> Grammar {
        self.margin = Some(margin);
        self
    }

    /// Whether a token is such a one, where any is.
    pub(super) fn margin(&self) -> Option<fn(&str) -> bool> {
        self.margin
    }

    /// The same, with kinds that end where a line ends in a certain place, although the grammar
    /// reads on: they do not parse then.
    pub const fn ending_lines(mut self, one_line: fn(u16) -> Option<Ending>) -> Grammar {
        self.one_line = Some(one_line);
        self
    }

    /// Those kinds, where there are some.
    pub(super) fn one_line(&self) -> Option<fn(u16) -> Option<Ending>> {
        self.one_line
    }

    /// The same, with constructs of a kind that are one token, by their text: what is inside stays as it
    /// stands, whatever the grammar makes of it.
    pub const fn with_exact(mut self, kind: u16, exact: fn(&str) -> bool) -> Grammar {
        self.exact = Some((kind, exact));
        self
    }

    /// Whether all of a construct is one token.
    pub(super) fn is_exact(&self, kind: u16, text: &str, range: &Range<usize>) -> bool {
        self.exact.is_some_and(|(exact, is_it)| exact == kind && is_it(&text[range.clone()]))
    }

    /// The same, with constructs of a kind that end with their first part, by their text, although the grammar
    /// reads on: what it reads inside them stands behind them.
    pub const fn with_alone(mut self, kind: u16, alone: fn(&str) -> bool) -> Grammar {
        self.alone = Some((kind, alone));
        self
    }

    /// The kind of which some end with their first part, and whether one does.
    pub(super) fn alone(&self) -> Option<(u16, fn(&str) -> bool)> {
        self.alone
    }

    /// The same, where by what stands before it something may be missing that the grammar asks for.
    pub const fn lacking(mut self, may_lack: fn(&str) -> bool) -> Grammar {
        self.may_lack = Some(may_lack);
        self
    }

    /// Whether something may be missing behind a text.
    pub(super) fn may_lack(&self, before: &str) -> bool {
        self.may_lack.is_some_and(|may_lack| may_lack(before))
    }

    /// The same, with operations that the grammar reads otherwise than the language does.
    pub const fn regrouped(mut self, regrouping: &'static Regrouping) -> Grammar {
        self.regrouping = Some(regrouping);
        self
    }

    /// How operations are read, where the grammar does otherwise.
    pub(super) fn regrouping(&self) -> Option<&'static Regrouping> {
        self.regrouping
    }

    /// The same for a language in which a text may say far from a line how that is laid out:
    /// nothing of it is folded then.
    pub const fn seen_whole(mut self, whole: fn(&str) -> bool) -> Grammar {
        self.whole = Some(whole);
        self
    }

    /// Whether nothing of a text may be folded.
    pub fn is_seen_whole(&self, text: &str) -> bool {
        self.whole.is_some_and(|whole| whole(text))
    }

    /// The same for a language whose grammar reads constructs without the end that they need as if they
    /// had it, as far as something else ends.
    pub const fn with_unfinished(mut self, unfinished: fn(&Tree, &str) -> usize) -> Grammar {
        self.unfinished = Some(unfinished);
        self
    }

    /// How many constructs of a text lack the end that they need: whoever writes them is not done.
    pub fn unfinished(&self, tree: &Tree, text: &str) -> usize {
        self.unfinished.map_or(0, |unfinished| unfinished(tree, text))
    }

    /// The same for a language that says more of a node than its kind: a bit for each thing said.
    pub const fn with_traits(mut self, traits: fn(&Tree, &str) -> Vec<u16>) -> Grammar {
        self.traits = Some(traits);
        self
    }

    /// What is said of each node, if anything is.
    pub(super) fn traits(&self, tree: &Tree, text: &str) -> Option<Vec<u16>> {
        self.traits.map(|traits| traits(tree, text))
    }

    /// The same for a language in which white space may show: whether there is some before a token
    /// is part of what the text says then, and how much of it is not.
    pub const fn showing(mut self, shows: fn(&Tree, &str) -> Vec<bool>) -> Grammar {
        self.shows = Some(shows);
        self
    }

    /// Before which tokens white space shows, where it may at all.
    pub(super) fn shows(&self, tree: &Tree, text: &str) -> Option<Vec<bool>> {
        self.shows.map(|shows| shows(tree, text))
    }

    /// The same for a language whose texts may be filled: no word ends in these stretches of one.
    pub const fn with_words(mut self, uncut: fn(&str) -> Vec<Range<usize>>) -> Grammar {
        self.uncut = Some(uncut);
        self
    }

    /// In which stretches of a text no word ends, if its texts may be filled.
    pub(super) fn uncut(&self, text: &str) -> Option<Vec<Range<usize>>> {
        self.uncut.map(|uncut| uncut(text))
    }

    /// The same for a grammar that stumbles over what its language allows: the parser is shown a
    /// text of the same length, where there is something to hide from it.
    pub const fn masking(mut self, masked: fn(&str) -> Option<String>) -> Grammar {
        self.masked = Some(masked);
        self
    }

    /// What the parser is shown in place of a text, where that is another one.
    pub(super) fn masked(&self, text: &str) -> Option<String> {
        self.masked.and_then(|masked| masked(text))
    }

    /// The same for a language with lines that are no part of the program, and branches of which
    /// only one is.
    pub const fn with_directives(mut self, directives: &'static Directives) -> Grammar {
        self.directives = Some(directives);
        self
    }

    /// The same for a grammar that takes the mark that joins a line to the next one for a blank.
    pub const fn with_joins(mut self, mark: &'static str) -> Grammar {
        self.join = Some(mark);
        self
    }

    /// That mark, if the grammar does.
    pub(super) fn join(&self) -> Option<&'static str> {
        self.join
    }

    /// How its directives look, if it has any.
    pub(super) fn directives(&self) -> Option<&'static Directives> {
        self.directives
    }

    /// The same, with atoms and comments that the grammar reads and the language does not have, by
    /// kind and text: they are stretches that do not parse.
    pub const fn without(mut self, foreign: fn(u16, &str) -> bool) -> Grammar {
        self.foreign = Some(foreign);
        self
    }

    /// The same, with words that the grammar takes for names and that are none, but behind certain
    /// tokens: they are stretches that do not parse.
    pub const fn reserving(mut self, reserved: Reserved) -> Grammar {
        self.reserved = Some(reserved);
        self
    }

    /// Those words, where there are some.
    pub(super) fn reserved(&self) -> Option<&Reserved> {
        self.reserved.as_ref()
    }

    /// The same for a grammar that has no leaf for some of the words that it reads, in either case.
    pub const fn naming(mut self, words: &'static [&'static str]) -> Grammar {
        self.unnamed = words;
        self
    }

    /// The same for one that is shown blanks in place of some words, in texts that are masked.
    pub const fn hiding(mut self, words: &'static [&'static str]) -> Grammar {
        self.hidden_words = words;
        self
    }

    /// The words that no leaf of a text says.
    pub(super) fn without_leaf(&self, is_masked: bool) -> &'static [&'static str] {
        if is_masked && self.unnamed.is_empty() { self.hidden_words } else { self.unnamed }
    }

    /// The same for a grammar that reads no text without a statement: that is of this kind, its comments aside.
    pub const fn idle_as(mut self, kind: &'static str) -> Grammar {
        self.idle = Some(kind);
        self
    }

    /// That kind, by our number and the parser's.
    pub(super) fn idle(&self) -> Option<(u16, u16)> {
        let origin = self.loaded().language.id_for_node_kind(self.idle?, true);
        Some((self.loaded().table.get(origin as usize)?.0, origin))
    }

    /// The same, with a way to read what the grammar leaves unread.
    pub const fn with_reading(mut self, reading: Reading) -> Grammar {
        self.reading = Some(reading);
        self
    }

    /// What lines and indentation mean, where they are syntax.
    pub(super) fn lines(&self) -> Option<&Indented> {
        self.indented.as_ref()
    }

    /// What the second reader finds in a text, where lines and indentation are syntax.
    pub fn logical_lines(&self, text: &str) -> Option<LogicalLines> {
        let indented = self.indented.as_ref()?;
        Some(LogicalLines::read(text, &indented.lexis, self.comments))
    }

    /// Whether the indentation of a line is syntax.
    pub fn is_indented(&self) -> bool {
        self.indented.is_some()
    }

    /// Whether an atom is nothing that the language has.
    pub(super) fn is_foreign(&self, kind: u16, text: &str) -> bool {
        self.foreign.is_some_and(|foreign| foreign(kind, text))
    }

    /// Whether a line's end inside a token is part of what it says.
    pub(super) fn counts_line_ends(&self) -> bool {
        self.line_ends_count
    }

    /// How its comments are written.
    pub fn comments(&self) -> &'static Comments {
        self.comments
    }

    /// What the walk does with a kind of the language's own.
    pub(super) fn role(&self, kind: u16) -> Role {
        self.kinds.said(kind).role()
    }

    /// Its table of kinds.
    pub fn kinds(&self) -> &'static Kinds {
        self.kinds
    }

    /// The names in the table that the grammar does not have.
    pub fn unknown_kinds(&self) -> Vec<&'static str> {
        let language = (self.load)();
        let entries = self.kinds.entries.split_last().map_or(&[][..], |(_, entries)| entries);
        let is_unknown = |entry: &&KindEntry| {
            let names = entry.grammar_names();
            names.iter().all(|(name, named)| language.id_for_node_kind(name, *named) == 0)
        };
        entries.iter().filter(is_unknown).map(|entry| entry.own).collect()
    }

    /// The language's number for a comment.
    pub(super) fn comment(&self) -> u16 {
        let other = self.kinds.entries.len() as u16 - 1;
        (0..other).find(|kind| self.role(*kind) == Role::Comment).unwrap_or(other)
    }

    /// What a stretch between brackets is if it is read by itself: the tree of it as a statement.
    /// `None` where that does not parse or is nothing to lay out. The construct itself is the first
    /// child of the tree's first child.
    pub(super) fn read_again(&self, stretch: &str) -> Option<tree_sitter::Tree> {
        let reading = self.reading.as_ref()?;
        let tree = self.parse(&format!("{stretch}{}", reading.end), None)?;
        let root = tree.root_node();
        let inner = root.child(0)?.child(0)?;
        let table = &self.loaded().table;
        let mut cursor = inner.walk();
        let entry = |node: tree_sitter::Node| table.get(node.kind_id() as usize);
        let children = inner.children(&mut cursor);
        let kinds: Option<Vec<u16>> = children.map(|node| entry(node).map(|e| e.0)).collect();
        let is_whole = inner.byte_range() == (0..stretch.len());
        let accepted = is_whole && !root.has_error() && (reading.accepts)(&kinds?);
        drop(cursor);
        accepted.then_some(tree)
    }

    pub(super) fn loaded(&self) -> &Loaded {
        self.loaded.get_or_init(|| {
            let language = (self.load)();
            let entries = self.kinds.entries;
            let names: HashMap<(String, bool), u16> = (0u16..)
                .zip(entries)
                .flat_map(|(kind, entry)| {
                    entry.grammar_names().into_iter().map(move |name| (name, kind))
                })
                .collect();
            let own = |id: u16| {
                let name = language.node_kind_for_id(id).unwrap_or_default().to_string();
                let kind = names.get(&(name, language.node_kind_is_named(id))).copied();
                kind.unwrap_or(entries.len() as u16 - 1)
            };
            let table = (0..language.node_kind_count() as u16)
                .map(|id| (own(id), self.role(own(id))))
                .collect();
            Loaded { language, table }
        })
    }

    /// The parser's own tree and nothing else: what benches compare with.
    pub fn bare_parse(&self, text: &str) -> usize {
        if let Some(found) = self.directives().and_then(|own| own.parse(self, text)) {
            return found.0.map_or(0, |tree| tree.root_node().end_byte());
        }
        let masked = self.masked(text);
        let tree = self.parse(masked.as_deref().unwrap_or(text), None);
        tree.map_or(0, |tree| tree.root_node().end_byte())
    }

    /// The parser's own tree; `old` is one of the same text but for the places that it was told of.
    pub(super) fn parse(
        &self,
        text: &str,
        old: Option<&tree_sitter::Tree>,
    ) -> Option<tree_sitter::Tree> {
        // By steps and not by a clock: the verdict is the same on every machine.
        let most = LEAST_STEPS + text.len() / BYTES_A_STEP;
        PARSER.with_borrow_mut(|parser| self.parse_within(most, parser, text, old))
    }

    /// The same by a parser that has read other texts before, if it takes no more steps than these.
    fn parse_within(
        &self,
        most: usize,
        parser: &mut Parser,
        text: &str,
        old: Option<&tree_sitter::Tree>,
    ) -> Option<tree_sitter::Tree> {
        // So it forgets the text before, too, which it would go on with where it gave that up.
        parser.set_language(&self.loaded().language).ok()?;
        let mut left = most;
        let mut progress = |_: &ParseState| match left.checked_sub(1) {
            Some(rest) => {
                left = rest;
                ControlFlow::Continue(())
            }
            None => ControlFlow::Break(()),
        };
        let options = ParseOptions::new().progress_callback(&mut progress);
        let mut read = |at: usize, _: Point| text.as_bytes().get(at..).unwrap_or_default();
        parser.parse_with_options(&mut read, old, Some(options))
    }
}

thread_local! {
    // A parser takes longer to make than what stands in a macro takes to read.
    static PARSER: RefCell<Parser> = RefCell::new(Parser::new());
}

/// What opens and closes in most languages.
const BRACKETS: Pairs = &[("(", ")"), ("[", "]"), ("{", "}")];

/// A parser may take so many times a hundred steps, and so many more as the text is long. No text
/// of people, nor one that was spoilt by chance, takes a hundred for forty bytes.
const LEAST_STEPS: usize = 5_000;
const BYTES_A_STEP: usize = 4;

#[cfg(test)]
mod tests {
    use super::*;
    use crate::languages;

    #[test]
    fn a_text_behind_one_that_was_given_up_is_read_from_its_beginning() {
        let mut parser = Parser::new();
        let mut read = |name: &str, most: usize, text: &str| {
            let grammar = &languages::by_name(name).unwrap().grammar;
            let tree = grammar.parse_within(most, &mut parser, text, None);
            tree.map(|tree| tree.root_node().to_sexp())
        };
        let long = "ebb(1);\n".repeat(5_000);
        for (name, text) in [("javascript", "tide = 2;\n"), ("python", "tide = 2\n")] {
            let fresh = read(name, LEAST_STEPS, text);
            assert!(fresh.is_some());
            assert_eq!(read("javascript", 3, &long), None);
            assert_eq!(read(name, LEAST_STEPS, text), fresh);
        }
    }
}
