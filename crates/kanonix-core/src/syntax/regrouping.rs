//! Operations as a language reads them, where its grammar takes what follows one for a part of all of
//! it: `a == b.c.d` for the field `d` of `a == b.c`.

use super::tree::{Node, NodeId, Tree};
use std::num::NonZeroU32;

/// What a language says of its operations, which its grammar reads otherwise.
#[derive(Debug)]
pub struct Regrouping {
    /// The kind of an operation of two operands.
    pub operation: u16,
    /// The kinds of what follows an operand and belongs to it, and to no operation.
    pub behind: &'static [u16],
    /// The operators, weak ones first; those of a row bind alike.
    pub operators: &'static [&'static [&'static str]],
}

/// So many operators are regrouped at once. Bounds the work on hostile input.
const MOST_OPERATORS: usize = 256;

/// So many operations inside each other on the right are looked through.
const MOST_DEPTH: usize = 32;

/// A node of the new tree: one of the old one with all that it holds, or one that is made.
#[derive(Clone, Copy)]
enum Item {
    Old(NodeId),
    Made(usize),
}

/// A node that takes the place of one of the old tree, with other children.
struct Made {
    like: NodeId,
    children: Vec<Item>,
}

/// What operations are made of, in the order of the text.
enum Piece {
    Operand(Item),
    /// What the operator is made of, and the operation that it is one of.
    Operator(Vec<NodeId>, NodeId),
}

struct Regrouped<'a> {
    tree: &'a Tree,
    text: &'a str,
    rules: &'a Regrouping,
    made: Vec<Made>,
}

impl Tree {
    /// Gives operands what the grammar has given to operations, and operations their operands.
    pub(super) fn regroup(&mut self, rules: &Regrouping, text: &str) {
        let mut regrouped = Regrouped { tree: self, text, rules, made: Vec::new() };
        let mut tops: Vec<(NodeId, usize)> = Vec::new();
        let mut past = 0;
        for id in 0..self.nodes.len() as NodeId {
            if id >= past && regrouped.is_misread(id) {
                let top = regrouped.top(id);
                past = regrouped.spine(top).last().map_or(id, |last| *last) + 1;
                if tops.last().is_none_or(|(last, _)| *last != top) {
                    tops.extend(regrouped.operations(top).map(|made| (top, made)));
                }
            }
        }
        let made = regrouped.made;
        let mut behind = 0;
        for (top, _) in &tops {
            // What is inside another one is taken along.
            if (*top as usize) < behind {
                continue;
            }
            behind = self.end_of(*top);
            let nodes = self.rebuilt(*top, &tops, &made);
            // As many as before, or nothing is understood.
            if nodes.len() == behind - *top as usize {
                self.nodes[*top as usize..behind].copy_from_slice(&nodes);
            }
        }
    }

    /// The node behind all that a node holds.
    fn end_of(&self, node: NodeId) -> usize {
        let outside = |other: &Node| other.parent < node;
        let behind = &self.nodes[node as usize + 1..];
        node as usize + 1 + behind.iter().position(outside).unwrap_or(behind.len())
    }

    /// A node and all that it holds, with others in the place of some.
    fn rebuilt(&self, top: NodeId, tops: &[(NodeId, usize)], made: &[Made]) -> Vec<Node> {
        let old = &self.nodes[top as usize];
        let mut nodes: Vec<Node> = Vec::new();
        let mut last: Vec<Option<NodeId>> = Vec::new();
        let mut to_come: Vec<(Item, NodeId)> = vec![(Item::Old(top), old.parent)];
        while let Some((item, parent)) = to_come.pop() {
            let item = match item {
                Item::Old(old) => tops
                    .binary_search_by_key(&old, |(top, _)| *top)
                    .map_or(item, |place| Item::Made(tops[place].1)),
                Item::Made(_) => item,
            };
            let place = nodes.len();
            let id = top + place as NodeId;
            let like = match item {
                Item::Old(old) => old,
                Item::Made(place) => made[place].like,
            };
            let (first, end) = self.span(item, made);
            let next = if place == 0 { old.next } else { None };
            nodes.push(Node { parent, next, first, end, ..self.nodes[like as usize] });
            last.push(None);
            if place > 0
                && let Some(before) = last[(parent - top) as usize].replace(id)
            {
                nodes[(before - top) as usize].next = NonZeroU32::new(id);
            }
            let from = to_come.len();
            match item {
                Item::Old(old) => {
                    to_come.extend(self.children(old).map(|child| (Item::Old(child), id)));
                }
                Item::Made(place) => {
                    to_come.extend(made[place].children.iter().map(|child| (*child, id)));
                }
            }
            to_come[from..].reverse();
        }
        nodes
    }

    /// The first token of an item, and the one behind its last.
    fn span(&self, item: Item, made: &[Made]) -> (u32, u32) {
        let edge = |last: bool| {
            let mut item = item;
            loop {
                match item {
                    Item::Old(old) => return &self.nodes[old as usize],
                    Item::Made(place) => {
                        let children = &made[place].children;
                        item = if last { children[children.len() - 1] } else { children[0] };
                    }
                }
            }
        };
        (edge(false).first, edge(true).end)
    }
}

impl Regrouped<'_> {
    fn kind(&self, node: NodeId) -> u16 {
        self.tree.nodes[node as usize].kind
    }

    fn is_operation(&self, node: NodeId) -> bool {
        self.kind(node) == self.rules.operation
    }

    fn is_behind(&self, node: NodeId) -> bool {
        self.rules.behind.contains(&self.kind(node))
    }

    fn first_child(&self, node: NodeId) -> Option<NodeId> {
        self.tree.children(node).next()
    }

    /// Whether something that belongs to an operand holds an operation.
    fn is_misread(&self, node: NodeId) -> bool {
        self.is_behind(node)
            && self.first_child(node).is_some_and(|first| self.is_operation(first))
    }

    /// The outermost of the operations that a node is part of.
    fn top(&self, mut node: NodeId) -> NodeId {
        loop {
            let parent = self.tree.nodes[node as usize].parent;
            let is_part = self.is_operation(parent)
                || (self.is_behind(parent) && self.first_child(parent) == Some(node));
            if node == 0 || !is_part {
                return node;
            }
            node = parent;
        }
    }

    /// A node and what is in it, from the outside to the inside, each being the first part of the one
    /// before it.
    fn spine(&self, top: NodeId) -> Vec<NodeId> {
        let is_part = |node: &NodeId| self.is_operation(*node) || self.is_behind(*node);
        std::iter::successors(Some(top), |node| self.first_child(*node).filter(is_part)).collect()
    }

    /// The operations of a node in their order, if all of them are understood.
    fn operations(&mut self, top: NodeId) -> Option<usize> {
        let mut pieces = Vec::new();
        self.take_apart(top, &mut pieces, 0)?;
        let mut operands: Vec<Item> = Vec::new();
        let mut operators: Vec<(usize, Vec<NodeId>, NodeId)> = Vec::new();
        for piece in pieces {
            match piece {
                Piece::Operand(item) => operands.push(item),
                Piece::Operator(parts, like) => {
                    let row = self.row(&parts)?;
                    while let Some(before) = operators.pop_if(|(before, ..)| *before >= row) {
                        self.put_together(&mut operands, before)?;
                    }
                    operators.push((row, parts, like));
                }
            }
        }
        while let Some(before) = operators.pop() {
            self.put_together(&mut operands, before)?;
        }
        match operands[..] {
            [Item::Made(made)] => Some(made),
            _ => None,
        }
    }

    fn put_together(
        &mut self,
        operands: &mut Vec<Item>,
        (_, operator, like): (usize, Vec<NodeId>, NodeId),
    ) -> Option<()> {
        let (right, left) = (operands.pop()?, operands.pop()?);
        let mut children = vec![left];
        children.extend(operator.into_iter().map(Item::Old));
        children.push(right);
        operands.push(self.make(like, children));
        Some(())
    }

    fn make(&mut self, like: NodeId, children: Vec<Item>) -> Item {
        self.made.push(Made { like, children });
        Item::Made(self.made.len() - 1)
    }

    /// The row of an operator, of which the first word tells.
    fn row(&self, parts: &[NodeId]) -> Option<usize> {
        let token = &self.tree.tokens[self.tree.nodes[*parts.first()? as usize].first as usize];
        let text = &self.text[token.start as usize..token.end as usize];
        self.rules.operators.iter().position(|row| row.contains(&text))
    }

    /// What a node is made of: operands with all that belongs to them, and operators.
    fn take_apart(&mut self, top: NodeId, pieces: &mut Vec<Piece>, depth: usize) -> Option<()> {
        let mut spine = self.spine(top);
        // What belongs to the first operand is no matter here.
        while spine.pop_if(|node| self.is_behind(*node)).is_some() {}
        let Some(innermost) = spine.last().copied().filter(|_| depth < MOST_DEPTH) else {
            pieces.push(Piece::Operand(Item::Old(top)));
            return Some(());
        };
        pieces.push(Piece::Operand(Item::Old(self.first_child(innermost)?)));
        while let Some(node) = spine.pop() {
            if self.tree.nodes[node as usize].fault || pieces.len() > 2 * MOST_OPERATORS {
                return None;
            }
            let behind: Vec<NodeId> = self.tree.children(node).skip(1).collect();
            if self.is_behind(node) {
                let Some(Piece::Operand(last)) = pieces.pop() else { return None };
                let children = [last].into_iter().chain(behind.into_iter().map(Item::Old));
                let operand = self.make(node, children.collect());
                pieces.push(Piece::Operand(operand));
                continue;
            }
            let (right, operator) = behind.split_last()?;
            let is_word = |part: &NodeId| {
                let part = &self.tree.nodes[*part as usize];
                let role = self.tree.tokens.get(part.first as usize).map(|token| token.role);
                part.end == part.first + 1 && role.is_some_and(|role| !role.is_passed_over())
            };
            if operator.is_empty() || !operator.iter().all(is_word) {
                return None;
            }
            pieces.push(Piece::Operator(operator.to_vec(), node));
            match self.is_operation(*right) {
                true => self.take_apart(*right, pieces, depth + 1)?,
                false => pieces.push(Piece::Operand(Item::Old(*right))),
            }
        }
        Some(())
    }
}
