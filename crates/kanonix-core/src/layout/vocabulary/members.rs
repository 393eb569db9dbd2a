//! The members of a type, as far as their order is agreed.

use crate::layout::plan::{Member, Worth};
use crate::layout::planner::Planner;
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
