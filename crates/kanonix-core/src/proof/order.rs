//! Members that change places: which ones, and whether they may.

use super::Difference;
use crate::layout::members::Reordered;
use crate::syntax::{NodeId, Role, TokenId, Tree};
use std::ops::Range;

/// The tokens of a tree in the order in which they stand once members have changed places; nothing
/// where none does. Each of them has to be a whole member of the same construct, with comments, and
/// the ones that are held have to follow each other as they did.
pub(super) fn of(tree: &Tree, reordered: &[Reordered]) -> Result<Vec<TokenId>, Difference> {
    if reordered.is_empty() {
        return Ok(Vec::new());
    }
    let mut tokens: Vec<TokenId> = (0..tree.tokens.len() as TokenId).collect();
    for change in reordered {
        let place = |range: &Range<TokenId>| range.start as usize..range.end as usize;
        let refused = |at: usize| {
            let start = change.members.get(at).map_or(0, |range| range.start);
            let token = tokens.get(start as usize).copied().unwrap_or_default();
            let offset = tree.tokens.get(token as usize).map_or(0, |token| token.start as usize);
            Difference::Shape { offset }
        };
        let mut seen = change.order.clone();
        seen.sort_unstable();
        let is_order = seen.iter().copied().eq(0..change.members.len());
        let follow = change.members.windows(2).all(|pair| pair[0].end == pair[1].start);
        if !is_order || !follow {
            return Err(refused(0));
        }
        let mut home = None;
        for (at, range) in change.members.iter().enumerate() {
            let own = tokens.get(place(range)).ok_or_else(|| refused(at))?;
            let parent = home_of(tree, own).ok_or_else(|| refused(at))?;
            if *home.get_or_insert(parent) != parent {
                return Err(refused(at));
            }
        }
        let mut places = vec![0; change.order.len()];
        change.order.iter().enumerate().for_each(|(place, at)| places[*at] = place);
        if let Some((first, _)) = change.held.iter().find(|(first, second)| {
            places[*first] > places[*second]
        }) {
            return Err(refused(*first));
        }
        let (Some(first), Some(last)) = (change.members.first(), change.members.last()) else {
            continue;
        };
        let moved = change.order.iter().flat_map(|at| &tokens[place(&change.members[*at])]);
        let moved: Vec<TokenId> = moved.copied().collect();
        tokens.splice(first.start as usize..last.end as usize, moved);
    }
    Ok(tokens)
}

/// The construct that these tokens, comments aside, are a whole child of.
fn home_of(tree: &Tree, tokens: &[TokenId]) -> Option<NodeId> {
    let solid = |token: &&TokenId| tree.tokens[**token as usize].role != Role::Comment;
    let first = *tokens.iter().find(solid)?;
    // A member whose own members have changed places begins and ends as it did.
    let last = *tokens.iter().rev().find(solid)?;
    let from = tree.nodes.partition_point(|node| node.first < first);
    let own = tree.nodes[from..].iter().take_while(|node| node.first == first).enumerate();
    let mut own = own.map(|(at, node)| (from + at, node));
    let (_, member) = own.find(|(id, _)| tree.last_solid(*id as NodeId) == Some(last))?;
    Some(member.parent)
}
