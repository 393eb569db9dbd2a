//! Combinators that several languages share: what an operator, a chain of calls, an assignment or a
//! block of statements looks like is the engine's to know.

mod blocks;
mod chains;
mod control;
mod lines;
mod lists;
mod members;
mod operators;
mod parentheses;
mod rewrites;

pub use crate::layout::handed::Handed;
pub use blocks::Sort;
pub use chains::{Link, Links};
pub use control::Headed;
pub use lists::List;
pub use members::Described;
pub use operators::{Binary, Operators};

use crate::layout::plan::{Align, Close, Column, Counts, GroupId, Opens, Shape, Slight};
use crate::layout::planner::Planner;
use crate::style::{Key, Setting, Value};
use crate::syntax::{NodeId, Role, TokenId};

/// What stands between two parts of a header.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Between {
    /// Nothing.
    Nothing,
    /// One blank.
    Blank,
    /// What is wanted around a sign of this kind.
    Sign(Key),
    /// What is wanted before the sign of a name and its type.
    BeforeColon,
    /// What is wanted behind it.
    AfterColon,
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
                Between::Sign(key) => self.operator(token, key),
                Between::BeforeColon => self.before_pair_sign(token, Key::Type),
                Between::AfterColon => self.after_pair_sign(token, Key::Type),
                Between::Parameters => self.parens(token, self.choices.declaration_parens),
                Between::Inside => {
                    // One of the two is a bracket.
                    let (before, own) = (self.inner_gap(token - 1), self.inner_gap(token));
                    let gap = before.and_then(|before| Some(before.max(own?)));
                    self.inside_bracket(token, gap);
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

    /// The first token of one of several alternatives, each of which stands for itself: touching
    /// one of them touches no other.
    pub fn alternative(&mut self, token: TokenId, group: GroupId, level: u8, blanks: u8) {
        self.may_break(token, group, level, blanks, Setting::OperatorGap);
        self.gap(token).inside = true;
        self.group_mut(group).shape = Shape::Alternatives;
    }

    /// What opens behind a sign that begins its line is so many steps further in than it.
    pub fn sets_apart(&mut self, sign: TokenId, steps: u8) {
        if steps > 1 {
            self.plan.signs.insert(sign, steps - 1);
        }
    }

    /// The lines of a chain right behind such a sign are a step further in than that, under what it begins
    /// with.
    pub fn counts_from_sign(&mut self, chain: GroupId) {
        let sign = self.plan.groups[chain].first.checked_sub(1);
        if let Some(sign) = sign.filter(|sign| self.plan.signs.contains_key(sign)) {
            self.stem(chain, sign);
        }
    }

    /// `a, b, c` on one line.
    pub fn commas(&mut self, parts: &[NodeId]) {
        for part in parts.iter().skip(1) {
            let token = self.first(*part);
            let blanks = u8::from(!self.is_separator(*part));
            self.word(token, blanks);
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

    /// A chain over a node, whose lines know whether they begin with it, and where those of a kind
    /// of list stand.
    pub fn leading_chain(&mut self, node: NodeId, key: Key) -> GroupId {
        let (first, end) = (self.first(node), self.end(node));
        let leading = self.leading_level(first);
        let group = self.group(Shape::Chain, first, end);
        let align = self.choices.aligns.of(key);
        let own = self.group_mut(group);
        own.counts = leading.map_or(Counts::Steps, Counts::Leading);
        own.align = align;
        group
    }

    /// The lines of a group without brackets stand as far in as they do, where those of a kind of
    /// list may stand anywhere.
    pub fn stands_anywhere(&mut self, group: GroupId, key: Key) {
        if self.choices.aligns.of(key) == Align::Any {
            self.group_mut(group).align = Align::Any;
        }
    }

    /// The lines of a list without brackets stand where those of a kind of list do: under this element, its
    /// first one, or further in.
    pub fn lines_up(&mut self, group: GroupId, element: TokenId, key: Key) {
        let align = self.choices.aligns.of(key);
        let own = self.group_mut(group);
        (own.align, own.under) = (align, Some(element).filter(|_| align != Align::Step));
    }

    /// The first gap inside a node that begins and ends with a bracket, if there is something in
    /// it.
    pub fn inside(&self, node: NodeId) -> Option<TokenId> {
        (self.end(node) > self.first(node) + 2).then(|| self.first(node) + 1)
    }

    /// What follows something on its line or stands on the next one, as it stands. There it stands
    /// for itself, right under what it follows.
    pub fn as_it_stands(&mut self, start: TokenId, token: TokenId) {
        if self.broken_before(token) {
            let group = self.group(Shape::Block, start, token);
            let own = self.group_mut(group);
            (own.counts, own.under) = (Counts::Stem, Some(start));
            self.line_beside(token, group, Setting::WordGap);
            self.at_most(token, 0);
        } else {
            self.word(token, 1);
        }
    }

    /// What follows an annotation that leads a declaration of a kind: on the next line or on its own,
    /// as `annotation_line` has it.
    pub fn annotated(&mut self, start: TokenId, token: TokenId, kind: Key) {
        match self.style.get(Setting::AnnotationLine, kind) {
            Value::Word("own_line") => {
                let group = self.group(Shape::Block, start, token);
                self.line_beside(token, group, Setting::AnnotationLine);
                self.at_most(token, 0);
            }
            Value::Word("same_line") if !self.after_comment(token) => {
                self.behind(token, Setting::AnnotationLine);
            }
            _ => self.as_it_stands(start, token),
        }
    }

    /// One thing between two brackets, broken inside them. Returns the group. `key` is how
    /// `wrap_align` and `close_bracket` know it.
    pub fn enclosed(
        &mut self,
        shape: Shape,
        [opener, inner, closer]: [NodeId; 3],
        blanks: Option<u8>,
        key: Key,
    ) -> GroupId {
        let (first, inner, last) = (self.first(opener), self.first(inner), self.first(closer));
        let group = self.group(shape, first, last + 1);
        let align = self.choices.aligns.of(key);
        // Where the closing one stays with what it closes, so does the opening one.
        let stays = self.choices.closes.of(key) == Close::WithLast;
        let own = self.group_mut(group);
        (own.align, own.bracketed) = (align, true);
        own.opens = if stays { Opens::ByHand } else { Opens::TooWide };
        own.closes = stays;
        own.slight = if shape == Shape::Chain { Slight::Half } else { Slight::Never };
        let blanks = self.inside_both(inner, last, blanks);
        let before = self.chosen(inner, blanks);
        self.may_break(inner, group, 1, before, Setting::InnerGap);
        self.close(last, group, blanks, Some(key));
        group
    }

    /// Whether a comment stands right before a token.
    pub fn after_comment(&self, token: TokenId) -> bool {
        let before = token.checked_sub(1).map(|before| &self.tree.tokens[before as usize]);
        before.is_some_and(|before| before.role == Role::Comment)
    }

    /// Whether the line before a token is a comment's, or ends with one that has no other end.
    pub(in crate::layout) fn below_comment(&self, token: TokenId) -> bool {
        let before = token.saturating_sub(1) as usize;
        self.after_comment(token)
            && (self.tree.broken(before, self.text) || self.tree.ends_its_line(before, self.text))
    }

    /// Whether a comment stands right before a token and ends the line before it.
    pub(in crate::layout) fn begins_behind_comment(&self, token: TokenId) -> bool {
        self.after_comment(token) && self.broken_before(token)
    }

    /// Whether the `>` of an open tag, or its like, stands on a line of its own.
    pub fn tag_ends_apart(&self, end: TokenId) -> bool {
        match self.style.get(Setting::TagEnd, Key::Whole) {
            Value::Word("own_line") => true,
            Value::Word("keep") => self.broken_before(end),
            _ => false,
        }
    }

    /// At least one blank before a token, whatever has been said of it.
    pub fn set_apart(&mut self, token: TokenId) {
        let gap = self.gap(token);
        gap.blanks = gap.blanks.max(1);
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
        // No language makes anything of these; whoever reads tokens by itself sees whether they touch.
        let stay_apart = match before {
            Some(b'=') => !after.is_some_and(|after| b"=<>~".contains(&after)),
            Some(b'^' | b'*' | b'/' | b'%') => matches!(after, Some(b'+' | b'-' | b'@')),
            _ => false,
        };
        let may_touch = after == Some(b':') || !self.tree.tokens[token as usize].reread;
        is_mark(before) && is_mark(after) && !(stay_apart && may_touch)
    }

    /// `level = 2`: a value that goes on as far in as a chain does where nothing else helps.
    pub fn assigned_in_steps(&mut self, sign: TokenId, value: NodeId) {
        self.operator(sign, Key::Assign);
        let gap = self.beside(self.first(value), Key::Assign);
        self.assigned(sign, value, gap, Setting::OperatorGap);
        let level = self.choices.chain_steps;
        self.gap(self.first(value)).level = level;
    }

    /// What a function without a block gives, behind its arrow: on the next line, so many steps
    /// further in, where the whole does not fit, before anything in it is broken, or where somebody put
    /// several lines of it there. What opens on the arrow's line (`hugs`) stays there.
    pub fn given(&mut self, arrow: TokenId, value: NodeId, steps: u8, hugs: bool) {
        self.assigned(arrow, value, 1, Setting::WordGap);
        let first = self.first(value);
        let stays = self.choices.remembers && self.broken_before(first) && self.is_spread(value);
        let gap = self.gap(first);
        gap.level = steps;
        if let Some(group) = gap.group.filter(|_| !hugs) {
            let own = self.group_mut(group);
            own.opens = Opens::Before;
            own.closes &= !stays;
        }
    }

    /// A value after its sign goes to the next line, where it fits there, before anything in it is broken.
    pub fn assigned_to_fit(&mut self, value: NodeId) {
        let first = self.first(value);
        if let Some(group) = self.gap(first).group {
            self.group_mut(group).opens = Opens::ToFit;
        }
    }

    /// What stands before a value and its sign is broken rather than the line between the two.
    pub fn assigned_last(&mut self, value: NodeId) {
        let first = self.first(value);
        if let Some(group) = self.gap(first).group {
            self.group_mut(group).reluctant = true;
        }
    }

    /// A value after a sign (`=`, `=>`): on the same line, unless nothing else helps.
    pub fn assigned(&mut self, sign: TokenId, value: NodeId, blanks: u8, setting: Setting) {
        let (first, end) = (self.first(value), self.end(value));
        let group = self.group(Shape::LastResort, sign, end);
        // `low =` on the line before `high = …` is one of several.
        self.group_mut(group).closes = self.kind(value) != self.kind(self.parent(value));
        let blanks = self.unfused(first, blanks);
        self.may_break(first, group, 1, blanks, setting);
        if matches!(setting, Setting::OperatorGap | Setting::PairGap) {
            self.column(first, Column::Value);
        }
    }
}
