//! Members that change places, and constructs that go: which ones, and whether they may.

use super::Difference;
use crate::layout::members::Reordered;
use crate::layout::moves::Rearranged;
use crate::syntax::{NodeId, Role, TokenId, Tree};
use std::ops::Range;

/// The tokens of a tree in the order in which they stand once members have changed places, without those
/// that have gone; nothing where none does. What moves or goes has to be whole constructs, with comments
/// or without, members that move have to be ones of the same construct, and those that are held have to
/// follow each other as they did.
pub(super) fn of(tree: &Tree, rearranged: &[Rearranged]) -> Result<Vec<TokenId>, Difference> {
    if rearranged.is_empty() {
        return Ok(Vec::new());
    }
    let mut tokens: Vec<TokenId> = (0..tree.tokens.len() as TokenId).collect();
    for change in rearranged {
        match change {
            Rearranged::Order(reordered) => put_in_order(tree, &mut tokens, reordered)?,
            Rearranged::Dropped(gone) => drop_all(tree, &mut tokens, gone)?,
        }
    }
    Ok(tokens)
}

fn put_in_order(
    tree: &Tree,
    tokens: &mut Vec<TokenId>,
    change: &Reordered,
) -> Result<(), Difference> {
    let refused = |tokens: &[TokenId], at: usize| {
        refused(tree, tokens, change.members.get(at).map_or(0, |range| range.start))
    };
    let mut seen = change.order.clone();
    seen.sort_unstable();
    let is_order = seen.iter().copied().eq(0..change.members.len());
    let follow = change.members.windows(2).all(|pair| pair[0].end == pair[1].start);
    if !is_order || !follow {
        return Err(refused(tokens, 0));
    }
    let mut home = None;
    for (at, range) in change.members.iter().enumerate() {
        let own = tokens.get(places(range)).ok_or_else(|| refused(tokens, at))?;
        let parent = home_of(tree, own).ok_or_else(|| refused(tokens, at))?;
        if *home.get_or_insert(parent) != parent {
            return Err(refused(tokens, at));
        }
    }
    let mut new_places = vec![0; change.order.len()];
    change.order.iter().enumerate().for_each(|(place, at)| new_places[*at] = place);
    if let Some((first, _)) = change.held.iter().find(|(first, second)| {
        new_places[*first] > new_places[*second]
    }) {
        return Err(refused(tokens, *first));
    }
    let (Some(first), Some(last)) = (change.members.first(), change.members.last()) else {
        return Ok(());
    };
    let moved = change.order.iter().flat_map(|at| &tokens[places(&change.members[*at])]);
    let moved: Vec<TokenId> = moved.copied().collect();
    tokens.splice(first.start as usize..last.end as usize, moved);
    Ok(())
}

fn drop_all(
    tree: &Tree,
    tokens: &mut Vec<TokenId>,
    gone: &[Range<TokenId>],
) -> Result<(), Difference> {
    // From the last one to the first, none moves another one.
    for range in gone.iter().rev() {
        let own = tokens.get(places(range)).and_then(|own| home_of(tree, own));
        own.ok_or_else(|| refused(tree, tokens, range.start))?;
        tokens.drain(places(range));
    }
    Ok(())
}

fn places(range: &Range<TokenId>) -> Range<usize> {
    range.start as usize..range.end as usize
}

fn refused(tree: &Tree, tokens: &[TokenId], start: TokenId) -> Difference {
    let token = tokens.get(start as usize).copied().unwrap_or_default();
    let offset = tree.tokens.get(token as usize).map_or(0, |token| token.start as usize);
    Difference::Shape { offset }
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
