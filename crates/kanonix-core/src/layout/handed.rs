//! What a rule hands on to nodes that are visited later.

use super::plan::{GroupId, Shape};
use super::planner::Planner;
use crate::syntax::NodeId;

/// So many statements around one are looked at. Bounds the work on hostile input.
const MOST_AROUND: usize = 32;

/// What a node is handed by the rule of one around it, which has said something for it already.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Handed {
    /// It goes on with this chain instead of beginning one of its own.
    Chain(GroupId),
    /// It is a link of a chain that the outermost node of that has planned.
    Link,
    /// It is a block whose statements stand on its header's line as long as this list is flat.
    Block(GroupId),
    /// It is a statement in such a block.
    Statement(GroupId),
    /// Lines that begin inside it belong to this group, which something around it has.
    Lines(GroupId),
}

impl Planner<'_> {
    /// Hands something to a node that is visited later.
    pub fn hand(&mut self, node: NodeId, handed: Handed) {
        self.handed[node as usize] = Some(handed);
    }

    /// The chain that a node goes on with, if one was handed to it.
    pub fn handed_chain(&self, node: NodeId) -> Option<GroupId> {
        match self.handed[node as usize] {
            Some(Handed::Chain(group)) => Some(group),
            _ => None,
        }
    }

    /// Whether a node is a link of a chain that is planned.
    pub fn is_link(&self, node: NodeId) -> bool {
        self.handed[node as usize] == Some(Handed::Link)
    }

    /// The list that a block is, as long as it is flat.
    pub fn handed_block(&self, node: NodeId) -> Option<GroupId> {
        match self.handed[node as usize] {
            Some(Handed::Block(group)) => Some(group),
            _ => None,
        }
    }

    /// The list that the block around a statement is, as long as it is flat; of one that ends another one
    /// (`while (ebb) wait();`), the list that is around that.
    pub fn handed_statement(&self, node: NodeId) -> Option<GroupId> {
        let end = self.end(node);
        let around = std::iter::successors(Some(node), |node| Some(self.parent(*node)));
        let ending = around.take(MOST_AROUND).take_while(|around| self.end(*around) == end);
        let mut handed = ending.map(|around| self.handed[around as usize]);
        handed.find_map(|handed| match handed {
            Some(Handed::Statement(group)) => Some(group),
            _ => None,
        })
    }

    /// The group that lines inside a node belong to.
    pub fn handed_lines(&self, node: NodeId) -> Option<GroupId> {
        match self.handed[node as usize] {
            Some(Handed::Lines(group)) => Some(group),
            _ => None,
        }
    }

    /// The chain that a node goes on with, or else one of its own.
    pub fn chain_of(&mut self, node: NodeId) -> GroupId {
        let (first, end) = (self.first(node), self.end(node));
        self.handed_chain(node).unwrap_or_else(|| self.group(Shape::Chain, first, end))
    }
}
