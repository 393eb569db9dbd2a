//! Chains: calls and fields one after another, and what is asked with two answers.

use crate::layout::plan::GroupId;
use crate::layout::planner::Planner;
use crate::layout::vocabulary::Handed;
use crate::style::Setting;
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

impl Planner<'_> {
    /// The links of the chain that ends with `node`, by what `link` says of each node.
    pub fn links(&self, node: NodeId, link: fn(&Planner, NodeId) -> Option<Link>) -> Links {
        let (mut dots, mut inner) = (Vec::new(), Vec::new());
        let (mut head, mut called, mut arguments) = (node, false, None);
        while let Some(kind) = link(self, head) {
            match kind {
                Link::Call(own) if dots.is_empty() && arguments.is_none() => arguments = Some(own),
                Link::Field(dot) => dots.push(dot),
                Link::Method(dot) if called => dots.push(dot),
                Link::Call(_) | Link::Method(_) | Link::Other => {}
            }
            called = matches!(kind, Link::Call(_));
            if head != node {
                inner.push(head);
            }
            match self.part(head, 0) {
                Some(next) => head = next,
                None => break,
            }
        }
        dots.reverse();
        let by_hand = self.choices.keep_open && dots.iter().any(|dot| self.broken_before(*dot));
        Links { dots, by_hand, head, arguments, inner }
    }

    /// The nodes of a chain know that the outermost one plans it.
    pub fn hand_links(&mut self, links: &Links) {
        for node in &links.inner {
            self.hand(*node, Handed::Link);
        }
    }

    /// The lines of a chain: each of these marks begins one, where it is open.
    pub fn break_links(&mut self, links: &Links, group: GroupId) {
        if links.by_hand {
            self.force(group);
        }
        for dot in &links.dots {
            self.may_break(*dot, group, self.choices.chain_steps, 0, Setting::WordGap);
        }
    }

    /// `ebb ? 1 : 2`: a chain is broken before its signs, and goes on with what stands behind the last
    /// of them, where that is one as well.
    pub fn conditional(
        &mut self,
        node: NodeId,
        signs: &[NodeId],
        blanks: u8,
        level: u8,
        setting: Setting,
    ) -> GroupId {
        let group = self.chain_of(node);
        for sign in signs {
            let token = self.first(*sign);
            let blanks = self.unfused(token, blanks);
            self.may_break(token, group, level, blanks, setting);
        }
        group
    }
}
