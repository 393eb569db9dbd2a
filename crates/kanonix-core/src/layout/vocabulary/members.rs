//! The members of a type: their order, as far as it is agreed, and where they stand behind words that say who
//! may use them.

use crate::layout::choices::AccessIndent;
use crate::layout::plan::{Member, Shape, Worth};
use crate::layout::planner::Planner;
use crate::style::Setting;
use crate::syntax::{NodeId, TokenId};
use std::ops::Range;

/// What a rule says of a member.
pub struct Described {
    /// What it is, who sees it and whose it is, in the words of `member_order`.
    pub words: Vec<&'static str>,
    /// The names that it declares.
    pub names: Vec<TokenId>,
    /// What it is worth when the type comes to life.
    pub worth: Worth,
    /// The tokens that say that: initial values, or a block.
    pub value: Vec<Range<TokenId>>,
}

impl Planner<'_> {
    /// The members of a type, where their order is agreed. One that is not described keeps its
    /// place, and no other one comes past it.
    pub fn order_members(
        &mut self,
        members: &[NodeId],
        describe: impl Fn(&Self, NodeId) -> Option<Described>,
    ) {
        let Some(order) = self.member_order() else { return };
        let mut bodies = vec![Vec::new()];
        for member in members {
            let Some(own) = describe(self, *member) else {
                bodies.push(Vec::new());
                continue;
            };
            let first = self.first(*member);
            let member = Member {
                first,
                end: self.end(*member),
                rank: order.rank(&own.words),
                is_static: own.words.contains(&"static"),
                names: if own.names.is_empty() { vec![first] } else { own.names },
                worth: own.worth,
                value: own.value,
            };
            bodies.last_mut().expect("there is one at least").push(member);
        }
        self.plan.bodies.extend(bodies.into_iter().filter(|members| members.len() > 1));
    }

    /// Words that say who may use the members behind them, among the members of a block that ends with
    /// `closer`: where they stand, and where those behind them do.
    pub fn access_words(
        &mut self,
        members: &[NodeId],
        closer: TokenId,
        is_word: impl Fn(&Self, NodeId) -> bool,
    ) {
        if self.choices.access_indent == AccessIndent::Beside {
            return;
        }
        let mut rest = members;
        while let Some(at) = rest.iter().position(|member| is_word(self, *member)) {
            let word = rest[at];
            rest = &rest[at + 1..];
            let next = rest.iter().position(|member| is_word(self, *member));
            let own = &rest[..next.unwrap_or(rest.len())];
            match self.access_place(word, own.first().copied(), closer) {
                AccessIndent::Out => self.stand_at(word, 0, Setting::AccessIndent),
                AccessIndent::MembersIn => {
                    let end = next.map_or(closer, |next| self.first(rest[next]));
                    self.members_in(word, own, end);
                }
                AccessIndent::Beside | AccessIndent::Keep => {}
            }
        }
    }

    /// Members behind such a word are a block of its own, which ends before `end`.
    fn members_in(&mut self, word: NodeId, members: &[NodeId], end: TokenId) {
        let (Some(first), Some(last)) = (members.first(), members.last()) else { return };
        let (word, first) = (self.first(word), self.first(*first));
        let group = self.group(Shape::Block, word, self.end(*last));
        for member in members {
            self.stand_at(*member, 1, Setting::AccessIndent);
            self.gap(self.first(*member)).group = Some(group);
        }
        self.gap(first).least = 0;
        if self.choices.access_indent == AccessIndent::MembersIn {
            // As below a header.
            self.at_most(first, 0);
        }
        self.bare_block(first, end, group);
    }

    /// Where such a word stands, before its first member and the end of its block.
    fn access_place(&self, word: NodeId, next: Option<NodeId>, closer: TokenId) -> AccessIndent {
        if self.choices.access_indent != AccessIndent::Keep {
            return self.choices.access_indent;
        }
        let column = |token: TokenId| self.broken_before(token).then(|| self.stands_at(token));
        let Some(own) = column(self.first(word)) else { return AccessIndent::Beside };
        let next = next.and_then(|next| column(self.first(next)));
        match column(closer) {
            Some(closer) if own <= closer => AccessIndent::Out,
            _ if next.is_some_and(|next| next > own) => AccessIndent::MembersIn,
            _ => AccessIndent::Beside,
        }
    }

    /// What values come to when a type comes to life: nothing where there are none.
    pub fn worth(&self, values: &[NodeId], is_plain: impl Fn(&Self, NodeId) -> bool) -> Worth {
        let all = values.iter().flat_map(|value| self.all_inside(*value).chain([*value]));
        match values {
            [] => Worth::Nothing,
            _ if all.into_iter().all(|node| is_plain(self, node)) => Worth::Plain,
            _ => Worth::Runs,
        }
    }

    /// The nodes inside a node, each before what is in it.
    pub fn all_inside(&self, node: NodeId) -> impl Iterator<Item = NodeId> {
        let end = self.end(node);
        let nodes = node + 1..self.tree.nodes.len() as NodeId;
        nodes.take_while(move |inner| self.first(*inner) < end)
    }
}
