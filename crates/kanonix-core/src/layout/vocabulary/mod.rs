//! Combinators that several languages share: what an operator, a chain of calls, an assignment or a
//! block of statements looks like is the engine's to know.

mod blocks;
mod chains;
mod lists;
mod rewrites;

pub use crate::layout::handed::Handed;
pub use blocks::Sort;
pub use chains::{Link, Links};
pub use lists::List;

use crate::layout::plan::{Counts, GroupId, Shape};
use crate::layout::planner::Planner;
use crate::style::Setting;
use crate::syntax::{NodeId, Role, TokenId};

/// An operator with two operands.
#[derive(Clone, Copy, Debug)]
pub struct Binary {
    /// The node of the operation.
    pub node: NodeId,
    /// Its left operand.
    pub left: NodeId,
    /// First token of the operator.
    pub operator: TokenId,
    /// Its right operand.
    pub right: NodeId,
    /// Operators of one number are broken together.
    pub precedence: fn(&str) -> u8,
    /// Whether the line may be broken here at all.
    pub breakable: bool,
    /// Whether the operator is a word, which always has blanks.
    pub word: bool,
    /// The first gap that may be broken inside the right operand in the chain's place.
    pub stand_in: Option<TokenId>,
}

/// What stands between two parts of a header.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Between {
    /// Nothing.
    Nothing,
    /// One blank.
    Blank,
    /// What is wanted around a sign.
    Sign,
    /// What is wanted before the parameters of a declaration.
    Parameters,
    /// What is wanted inside brackets.
    Inside,
}

impl Planner<'_> {
    /// The words, names and marks of a header, by what is between each two of them.
    pub fn header(
        &mut self,
        parts: &[NodeId],
        between: impl Fn(&Self, NodeId, NodeId) -> Between,
    ) {
        for pair in parts.windows(2) {
            let token = self.first(pair[1]);
            match between(self, pair[0], pair[1]) {
                Between::Nothing => self.word(token, 0),
                Between::Blank => self.word(token, 1),
                Between::Sign => self.operator(token),
                Between::Parameters => self.parens(token, self.choices.declaration_parens),
                Between::Inside => {
                    // One of the two is a bracket.
                    let gap = self.inner_gap(token - 1).max(self.inner_gap(token));
                    self.flat(token, gap, Setting::InnerGap);
                }
            }
        }
    }

    /// Words and values with one blank between them.
    pub fn words(&mut self, parts: &[NodeId]) {
        for part in parts.iter().skip(1) {
            let token = self.first(*part);
            self.word(token, 1);
        }
    }

    /// Parts with nothing between them.
    pub fn tight(&mut self, parts: &[NodeId]) {
        for part in parts.iter().skip(1) {
            let token = self.first(*part);
            self.word(token, 0);
        }
    }

    /// The first token of one of several alternatives, each of which stands for itself: touching one
    /// of them touches no other.
    pub fn alternative(&mut self, token: TokenId, group: GroupId, level: u8, blanks: u8) {
        self.may_break(token, group, level, blanks, Setting::OperatorGap);
        self.gap(token).inside = true;
        self.group_mut(group).shape = Shape::Alternatives;
    }

    /// `a, b, c` on one line.
    pub fn commas(&mut self, parts: &[NodeId]) {
        for part in parts.iter().skip(1) {
            let token = self.first(*part);
            let blanks = u8::from(!self.is_separator(*part));
            self.word(token, blanks);
        }
    }

    /// `level: 2`: a name, a mark right behind it, and a value.
    pub fn pair(&mut self, parts: &[NodeId]) {
        if let [_, mark, value, ..] = parts {
            self.word(self.first(*mark), 0);
            self.word(self.first(*value), 1);
        }
    }

    /// Whether the text has a line break between the end of one token and the start of a later one.
    pub fn broken_between(&self, from: TokenId, to: TokenId) -> bool {
        let tokens = &self.tree.tokens;
        match (tokens.get(from as usize), tokens.get(to as usize)) {
            (Some(from), Some(to)) if from.end <= to.start => {
                self.text[from.end as usize..to.start as usize].contains('\n')
            }
            _ => false,
        }
    }

    /// A chain over a node, whose lines know whether they begin with it.
    pub fn leading_chain(&mut self, node: NodeId) -> GroupId {
        let (first, end) = (self.first(node), self.end(node));
        let leading = self.leading_level(first);
        let group = self.group(Shape::Chain, first, end);
        self.group_mut(group).counts = leading.map_or(Counts::Steps, Counts::Leading);
        group
    }

    /// An operator with two operands; operators of one precedence are broken together.
    pub fn binary(&mut self, binary: Binary) {
        let Binary { node, left, operator, right, precedence, breakable, word, stand_in } = binary;
        let level = self.choices.chain_steps;
        let right_first = self.first(right);
        let blanks = if word { 1 } else { self.choices.operator_gap };
        let setting = if word { Setting::WordGap } else { Setting::OperatorGap };
        let before_blanks = self.unfused(operator, blanks);
        let after_blanks = self.unfused(right_first, blanks);
        if !breakable {
            self.flat(operator, before_blanks, setting);
            self.flat(right_first, after_blanks, setting);
            return;
        }
        let group = match self.handed_chain(node) {
            Some(group) => group,
            None => {
                let group = self.leading_chain(node);
                self.group_mut(group).stand_in = stand_in;
                group
            }
        };
        let goes_on = self.kind(left) == self.kind(node)
            && self.part(left, 1).is_some_and(|inner| {
                let inner = self.token_text(self.first(inner));
                precedence(inner) == precedence(self.token_text(operator))
            });
        if goes_on {
            self.hand(left, Handed::Chain(group));
        }
        // A comment beside the operator stays on its side.
        let (commented, other) = (self.after_comment(operator), self.after_comment(right_first));
        if commented || (self.choices.operator_leads && !other) {
            self.may_break(operator, group, level, before_blanks, setting);
            self.flat(right_first, after_blanks, setting);
        } else {
            self.flat(operator, before_blanks, setting);
            self.may_break(right_first, group, level, after_blanks, setting);
        }
    }

    /// The first gap inside a node that begins and ends with a bracket, if there is something in it.
    pub fn inside(&self, node: NodeId) -> Option<TokenId> {
        (self.end(node) > self.first(node) + 2).then(|| self.first(node) + 1)
    }

    /// What follows something on its line or stands on the next one, as it stands.
    pub fn as_it_stands(&mut self, start: TokenId, token: TokenId) {
        if self.broken_before(token) {
            let group = self.group(Shape::Block, start, token);
            self.newline(token, group, 0, Setting::WordGap);
        } else {
            self.word(token, 1);
        }
    }

    /// One thing between two brackets, broken inside them. Returns the group.
    pub fn enclosed(
        &mut self,
        shape: Shape,
        opener: NodeId,
        inner: NodeId,
        closer: NodeId,
    ) -> GroupId {
        let blanks = self.inner_gap(self.first(opener));
        self.enclosed_with(shape, opener, inner, closer, blanks)
    }

    /// As [`Planner::enclosed`], with so many blanks inside the brackets.
    pub fn enclosed_with(
        &mut self,
        shape: Shape,
        opener: NodeId,
        inner: NodeId,
        closer: NodeId,
        blanks: u8,
    ) -> GroupId {
        let (first, inner, last) = (self.first(opener), self.first(inner), self.first(closer));
        let group = self.group(shape, first, last + 1);
        self.may_break(inner, group, 1, blanks, Setting::InnerGap);
        self.may_break(last, group, 0, blanks, Setting::InnerGap);
        group
    }

    /// Whether a comment stands right before a token.
    pub fn after_comment(&self, token: TokenId) -> bool {
        let before = token.checked_sub(1).map(|before| &self.tree.tokens[before as usize]);
        before.is_some_and(|before| before.role == Role::Comment)
    }

    /// A blank where two marks would otherwise become another one.
    pub fn unfused(&self, token: TokenId, blanks: u8) -> u8 {
        if blanks > 0 || token == 0 { blanks } else { u8::from(self.are_marks(token)) }
    }

    /// Whether a token and the one before it meet with marks that may make another one.
    pub fn are_marks(&self, token: TokenId) -> bool {
        const MARKS: &[u8] = b"+-*/<>=!&|?%^~.:@";
        let before = self.token_text(token - 1).bytes().last();
        let after = self.token_text(token).bytes().next();
        let is_mark = |byte: Option<u8>| byte.is_some_and(|byte| MARKS.contains(&byte));
        is_mark(before) && is_mark(after)
    }

    /// A value after a sign (`=`, `=>`): on the same line, unless nothing else helps.
    pub fn assigned(&mut self, sign: TokenId, value: NodeId, blanks: u8, setting: Setting) {
        let (first, end) = (self.first(value), self.end(value));
        let group = self.group(Shape::LastResort, sign, end);
        let blanks = self.unfused(first, blanks);
        self.may_break(first, group, 1, blanks, setting);
    }
}
