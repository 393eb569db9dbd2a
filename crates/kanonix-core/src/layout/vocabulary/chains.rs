//! Chains: calls and fields one after another, and what is asked with two answers.

use crate::layout::plan::{Counts, GroupId, Opens, Rows, Shape, Slight};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::Handed;
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// What a node is in a chain of calls and fields (`gauges.iter().map(…)`).
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Link {
    /// A call of what is before it, with its arguments.
    Call(NodeId),
    /// A field of what is before it, behind this mark, which may begin a line.
    Field(TokenId),
    /// The same, but the mark may begin a line only where the field is called.
    Method(TokenId),
    /// A method that is given nothing, behind this mark, which may begin a line behind one that is.
    Message(TokenId),
    /// A method of what is before it, behind a mark that may begin a line, with its arguments.
    Invocation(TokenId, NodeId),
    /// Something else that goes on with what is before it.
    Other,
}

/// The chain that ends with a node.
#[derive(Clone, Debug)]
pub struct Links {
    /// The marks that may begin a line, in the order of the text.
    pub dots: Vec<TokenId>,
    /// Whether somebody broke one of them off, and it has a say.
    pub by_hand: bool,
    /// What the chain begins with.
    pub head: NodeId,
    /// The arguments of the call that the chain ends with, if it ends with one.
    pub arguments: Option<NodeId>,
    /// The nodes of the chain, but for the outermost one.
    inner: Vec<NodeId>,
}

/// So many conditionals that go on with each other are looked at. Bounds the work on hostile input.
const MOST_ANSWERS: usize = 64;

impl Planner<'_> {
    /// The links of the chain that ends with `node`, by what `link` says of each node.
    pub fn links(&self, node: NodeId, link: fn(&Planner, NodeId) -> Option<Link>) -> Links {
        let (mut dots, mut inner) = (Vec::new(), Vec::new());
        let (mut head, mut called, mut arguments) = (node, false, None);
        let mut is_field_before = false;
        let mut messages: Vec<TokenId> = Vec::new();
        // What somebody broke off has a say where that is remembered.
        let has_say = self.choices.remembers;
        while let Some(kind) = link(self, head) {
            match kind {
                Link::Call(own) if dots.is_empty() && arguments.is_none() => arguments = Some(own),
                Link::Invocation(dot, own) => {
                    if dots.is_empty() && arguments.is_none() {
                        arguments = Some(own);
                    }
                    dots.append(&mut messages);
                    dots.push(dot);
                }
                Link::Field(dot) => {
                    dots.append(&mut messages);
                    dots.push(dot);
                }
                Link::Message(dot) => messages.push(dot),
                Link::Method(dot) if called => dots.push(dot),
                // The fields before a call are on its line, where somebody put the first of them there.
                Link::Method(dot) if has_say && is_field_before && self.broken_beside(dot) => {
                    if let Some(call) = dots.last_mut().filter(|call| !self.broken_beside(**call)) {
                        *call = dot;
                    }
                }
                Link::Call(_) | Link::Method(_) | Link::Other => {}
            }
            called = matches!(kind, Link::Call(_));
            is_field_before = matches!(kind, Link::Method(_));
            if head != node {
                inner.push(head);
            }
            match self.part(head, 0) {
                Some(next) => head = next,
                None => break,
            }
        }
        dots.reverse();
        let by_hand = has_say && dots.iter().any(|dot| self.broken_beside(*dot));
        Links { dots, by_hand, head, arguments, inner }
    }

    /// Whether somebody broke the line on one of a mark's two sides.
    pub fn broken_beside(&self, mark: TokenId) -> bool {
        self.broken_before(mark) || self.broken_before(mark + 1)
    }

    /// The nodes of a chain know that the outermost one plans it.
    pub fn hand_links(&mut self, links: &Links) {
        for node in &links.inner {
            self.hand(*node, Handed::Link);
        }
    }

    /// `gauges.filter(…).map(…)`: a chain of calls and fields, broken before each of them. Its outermost
    /// node plans the breaks; the nodes inside it know that they are part of one. The first call stays
    /// with what the chain begins with where `is_name` says so of that; where somebody broke the chain,
    /// it stays where it stood. `arguments` is the kind of a call's. Gives the links that are too few for a
    /// chain.
    pub fn chain(
        &mut self,
        node: NodeId,
        link: fn(&Planner, NodeId) -> Option<Link>,
        is_name: fn(&Planner, NodeId) -> bool,
        arguments: impl Into<u16>,
    ) -> Option<Links> {
        if self.is_link(node) {
            return None;
        }
        let arguments = arguments.into();
        let mut links = self.links(node, link);
        self.hand_links(&links);
        let calls = links.dots.len();
        let first = *links.dots.first()?;
        let stays = match links.by_hand {
            true => !self.broken_beside(first),
            false => {
                (is_name(self, links.head) && first == self.end(links.head))
                    || (calls == 2 && self.is_message_behind_list(node, arguments))
            }
        };
        if stays {
            links.dots.remove(0);
        }
        if calls < 2 || links.dots.is_empty() {
            return Some(links);
        }
        let group = self.group(Shape::Chain, self.first(node), self.end(node));
        if calls == 2 {
            self.group_mut(group).stand_in = self.inside_last(node, arguments);
        }
        self.break_links_as_opened(&links, group);
        None
    }

    /// Whether a method that is given nothing stands behind one that is given several things: these have the
    /// lines then, and it goes on behind their bracket.
    fn is_message_behind_list(&self, node: NodeId, arguments: u16) -> bool {
        let last = |node: NodeId| self.parts(node).last().copied();
        let list = self.part(node, 0).and_then(last).filter(|list| self.is(*list, arguments));
        let is_message = last(node).is_some_and(|last| !self.is(last, arguments));
        is_message && list.is_some_and(|list| self.elements(&self.parts(list)).len() > 1)
    }

    /// `found(gauge).level()`: a lone link behind a call may begin a line, so that the call before it is
    /// not opened for it; one behind a name does where somebody put it there. The links are what
    /// [`Planner::chain`] has left.
    pub fn lone_link(&mut self, node: NodeId, links: &Links, arguments: impl Into<u16>) {
        let arguments = arguments.into();
        let [dot] = links.dots[..] else { return };
        let is_behind_call = self.token_text(dot - 1) == ")";
        if !is_behind_call && !links.by_hand {
            return;
        }
        let group = self.group(Shape::Chain, self.first(node), self.end(node));
        if !is_behind_call {
            let begins = self.begins_link(dot);
            self.stands_anywhere(group, Key::Call);
            self.group_mut(group).slight = Slight::Half;
            self.may_break(begins, group, self.choices.chain_steps, 0, Setting::WordGap);
            self.gap(begins).chosen = self.broken_beside(dot);
            return;
        }
        // What does not fit behind its dot either is opened where it is.
        let last = self.parts(node).last().copied().filter(|last| self.is(*last, arguments));
        let stand_in = last.and_then(|last| self.inside(last));
        let own = self.group_mut(group);
        (own.stand_in, own.own_line) = (stand_in, true);
        self.break_links_as_opened(links, group);
    }

    /// The first gap inside the last call's arguments, if these may open in place of what is around them:
    /// the last of them ends with a bracket.
    fn inside_last(&self, node: NodeId, arguments: u16) -> Option<TokenId> {
        let last = self.parts(node).last().copied().filter(|last| self.is(*last, arguments))?;
        let closer = self.end(last) - 1;
        let ends = closer.checked_sub(1).is_some_and(|before| {
            self.tree.closes(self.token_text(before)) || self.tree.separates(before)
        });
        let opens = ends || self.begins_line(closer);
        if opens { self.inside(last) } else { None }
    }

    /// The gap before a dot, or before the name behind one: nothing, unless the line may be broken
    /// there. Where it may be on the dot's other side, no line that is there is kept.
    pub fn beside_dot(&mut self, token: TokenId) {
        if self.is_breakable(token) {
            return;
        }
        let is_name = self.token_text(token).starts_with(|c: char| c.is_alphanumeric() || c == '_');
        let other = if is_name { token - 1 } else { token + 1 };
        match self.is_breakable(other) {
            true => {
                let kept = self.present_blanks(token).filter(|_| self.choices.keep_words);
                self.flat(token, kept.unwrap_or(0), Setting::WordGap);
            }
            false => self.word(token, 0),
        }
    }

    /// The lines of a chain: each of these marks begins one, where it is open.
    pub fn break_links(&mut self, links: &Links, group: GroupId) {
        self.stands_anywhere(group, Key::Call);
        self.group_mut(group).slight = Slight::Half;
        if links.by_hand {
            self.force(group);
        }
        for dot in &links.dots {
            let begins = self.begins_link(*dot);
            let other = if begins == *dot { dot + 1 } else { *dot };
            self.gap(other).breaks = Setting::DotPlace;
            self.may_break(begins, group, self.choices.chain_steps, 0, Setting::WordGap);
            // Blank lines divide a long chain.
            self.gap(begins).most = self.choices.most_blank.min(1);
        }
    }

    /// The same, but what somebody opened stays as it was opened, unless a link stands on the line that
    /// ends what the one before it holds.
    pub fn break_links_as_opened(&mut self, links: &Links, group: GroupId) {
        self.break_links(links, group);
        let joins = |dot: &TokenId| !self.broken_beside(*dot);
        let closes = |token: &TokenId| self.tree.closes(self.token_text(*token));
        let is_behind_lines = |dot: &TokenId| {
            let closers = (0..*dot).rev().take_while(closes);
            joins(dot) && closers.into_iter().any(|closer| self.broken_before(closer))
        };
        let dots = &links.dots;
        // Behind the name.
        let is_call = |dot: &TokenId| {
            let opener = dot + 2;
            (opener as usize) < self.tree.tokens.len() && self.tree.opens(self.token_text(opener))
        };
        if let [first, rest @ ..] = &dots[..]
            && !joins(first)
            && let Some(last) = rest.last()
            && !self.broken_between(*first, *last)
            && dots.iter().all(is_call)
            && !self.choices.rows
        {
            // One call begins a line and all of the others follow: nobody means that.
            let own = self.group_mut(group);
            (own.opens, own.closes) = (Opens::TooWide, true);
            return;
        }
        if !links.by_hand || !dots.iter().any(joins) || dots.iter().any(is_behind_lines) {
            return;
        }
        for dot in dots {
            let begins = self.begins_link(*dot);
            self.gap(begins).chosen = self.broken_beside(*dot);
        }
        let own = self.group_mut(group);
        (own.opens, own.rows) = (Opens::TooWide, Rows::Any);
    }

    /// What begins the line of a link: its dot, or the name behind it. A comment stays on its side.
    fn begins_link(&self, dot: TokenId) -> TokenId {
        let name = dot + 1;
        let (leads, trails) = (self.broken_before(dot), self.broken_before(name));
        let wanted = self.choices.dot_leads.unwrap_or(leads || !trails);
        let leads = self.after_comment(dot) || (wanted && !self.after_comment(name));
        if leads { dot } else { name }
    }

    /// `1 if ebb else 2`: broken before its words, where a line may end at all; one that goes on with
    /// another one behind its `else` is a table, an answer and its condition on each line.
    pub fn conditional_by_words(&mut self, node: NodeId, parts: &[NodeId], may_break: bool) {
        self.words(parts);
        let ([_, if_word, _, else_word, last], true) = (parts, may_break) else { return };
        let handed = self.handed_chain(node);
        let goes_on = self.goes_on_as(node);
        let group = handed.unwrap_or_else(|| self.leading_chain(node, Key::Condition));
        let level = self.choices.chain_steps;
        let is_table = handed.is_some() || goes_on;
        for word in Some(if_word).filter(|_| !is_table).into_iter().chain([else_word]) {
            self.may_break(self.first(*word), group, level, 1, Setting::WordGap);
        }
        if goes_on {
            self.hand(*last, Handed::Chain(group));
        }
    }

    /// `ebb ? 1 : 2`: a chain is broken beside its signs, each of which has its value behind it,
    /// and goes on with what stands behind the last of them, where that is one as well. `key` is
    /// the kind of operators that they are; without one they are words. Where somebody broke it at
    /// one of them, it stays open: at all of them, unless `ternary_place` keeps it, or several of
    /// them are a table, a condition and its answer on each line.
    pub fn conditional(
        &mut self,
        node: NodeId,
        answers: &[(NodeId, NodeId)],
        key: Option<Key>,
        level: u8,
    ) -> GroupId {
        self.answers(node, answers, key, level, self.choices.ternary_leads)
    }

    /// The same where the signs lead their lines, or trail, or stay.
    pub fn answers(
        &mut self,
        node: NodeId,
        answers: &[(NodeId, NodeId)],
        key: Option<Key>,
        level: u8,
        sign_leads: Option<bool>,
    ) -> GroupId {
        let group = match self.handed_chain(node) {
            Some(group) => group,
            None => {
                // The answers stand deeper than their question, wherever that begins.
                let group = self.leading_chain(node, Key::Ternary);
                self.group_mut(group).counts = Counts::Steps;
                self.counts_from_sign(group);
                group
            }
        };
        let is_broken = |(sign, value): &(NodeId, NodeId)| {
            self.broken_before(self.first(*sign)) || self.broken_before(self.first(*value))
        };
        let broken: Vec<bool> = answers.iter().map(is_broken).collect();
        let is_table = self.broken_between(self.first(node), self.end(node) - 1)
            && (broken.first(), broken.last()) == (Some(&false), Some(&true))
            && (self.handed_chain(node).is_some() || self.goes_on_as(node));
        let stays = sign_leads.is_none() || is_table || self.choices.rows;
        let is_open = broken.contains(&true) || (!is_table && self.is_broken_further_on(node));
        let is_row = self.is_row_of_answers(node, answers, group);
        for (index, ((sign, value), own)) in answers.iter().zip(broken).enumerate() {
            let (sign, value) = (self.first(*sign), self.first(*value));
            if is_row && index + 1 < answers.len() {
                for token in [sign, value] {
                    let blanks = key.map_or(1, |key| self.beside(token, key));
                    self.flat(token, blanks, Setting::OperatorGap);
                }
                continue;
            }
            let (leads, trails) = (self.broken_before(sign), self.broken_before(value));
            // A comment stays on its side of the sign.
            let (before, behind) = (self.after_comment(sign), self.after_comment(value));
            let wanted = sign_leads.unwrap_or(leads || !trails);
            // One behind a sign that leads its line leaves it there.
            let stays_there = behind && leads;
            let (at, other) = match before || stays_there || (wanted && !behind) {
                true => (sign, value),
                false => (value, sign),
            };
            let blanks = |p: &Self, token| key.map_or(1, |key| p.beside(token, key));
            let setting = if key.is_some() { Setting::OperatorGap } else { Setting::WordGap };
            match stays_there {
                true => {
                    self.keep_gap(other);
                    self.force(group);
                }
                false => self.flat(other, blanks(self, other), setting),
            }
            self.gap(other).breaks = Setting::TernaryPlace;
            self.may_break(at, group, level, blanks(self, at), setting);
            if at == sign {
                self.sets_apart(sign, self.choices.answer_steps);
            }
            self.gap(at).chosen = self.choices.remembers && if stays { own } else { is_open };
        }
        if stays {
            self.group_mut(group).rows = Rows::Any;
        }
        group
    }

    /// Whether several conditionals stand on one line and this one has room for its condition and its
    /// answer on a line of its own: they become a table where they do not fit theirs.
    fn is_row_of_answers(
        &self,
        node: NodeId,
        answers: &[(NodeId, NodeId)],
        group: GroupId,
    ) -> bool {
        let own = &self.plan.groups[group];
        let (first, end) = (self.first(node), own.end);
        let is_nested = self.handed_chain(node).is_some() || self.goes_on_as(node);
        let Some((_, answer)) = answers.first().filter(|_| is_nested) else { return false };
        let column = match own.first == first {
            true => self.stands_at(first),
            false => self.stands_at(own.first) + 1,
        };
        let at = |token: TokenId| &self.tree.tokens[token as usize];
        let width = at(self.end(*answer) - 1).end.saturating_sub(at(first).start) as usize;
        !self.broken_between(own.first, end - 1) && column + width < self.choices.max_line
    }

    /// Whether somebody broke one of the conditionals that a conditional goes on with at its signs.
    fn is_broken_further_on(&self, node: NodeId) -> bool {
        let is_sign = |part: &NodeId| {
            let first = self.first(*part);
            self.end(*part) == first + 1 && matches!(self.token_text(first), "?" | ":")
        };
        let is_broken = |sign: NodeId| {
            self.broken_before(self.first(sign)) || self.broken_before(self.end(sign))
        };
        let mut node = node;
        for _ in 0..MOST_ANSWERS {
            let Some(last) = self.parts(node).last().copied() else { return false };
            if self.kind(last) != self.kind(node) {
                return false;
            }
            node = last;
            if self.parts(node).into_iter().filter(is_sign).any(is_broken) {
                return true;
            }
        }
        false
    }

    /// Whether the last part of a node is one like it.
    fn goes_on_as(&self, node: NodeId) -> bool {
        let last = self.parts(node).last().copied();
        last.is_some_and(|last| self.kind(last) == self.kind(node))
    }
}
