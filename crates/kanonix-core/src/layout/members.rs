//! Members of a type that change places, so that they stand in the order that is agreed.
//!
//! A member goes with the comments right above it and behind it, in whole lines, and only if all of
//! them are in play; the others stay in the order that they have. What two members are worth when the
//! type comes to life may ask for one of them to stand before the other.

use super::Sheet;
use super::compare::{Slip, quoted};
use super::live::Live;
use super::moves::{Chunk, Moves, Rearranged};
use super::plan::{Member, Worth};
use crate::style::Setting;
use crate::syntax::{Role, TokenId};
use std::cmp::Reverse;
use std::collections::{BinaryHeap, HashSet};
use std::ops::Range;

/// Neighbouring members in another order.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Reordered {
    /// The tokens of each of them, comments included, where they stand: one behind the other.
    pub members: Vec<Range<TokenId>>,
    /// Which of them stands at each place then.
    pub order: Vec<usize>,
    /// Pairs of them of which the first has to stand before the second.
    pub held: Vec<(usize, usize)>,
}

/// A member with the comments that go with it.
struct Piece<'p> {
    member: &'p Member,
    tokens: Range<TokenId>,
    /// Whole lines.
    bytes: Range<usize>,
    is_one_line: bool,
    live: bool,
}

/// What has to change places on live lines.
pub(super) fn moves(sheet: &Sheet, live: &Live) -> Moves {
    let mut moves = Moves::default();
    if sheet.plan.bodies.is_empty() || !sheet.tree.faults.is_empty() {
        return moves;
    }
    let mut bodies: Vec<&Vec<Member>> = sheet.plan.bodies.iter().collect();
    bodies.sort_by_key(|members| members[0].first);
    let mut chunks = Vec::new();
    let mut done = 0;
    for run in bodies.into_iter().flat_map(|members| runs(sheet, live, members)) {
        // What is inside a type that changes places waits for its turn.
        let start = run[0].bytes.start;
        if start < done || !run.iter().any(|piece| piece.live) {
            continue;
        }
        let held = held(sheet, &run);
        let Some(order) = arranged(&run, &held) else { continue };
        chunks.push(Chunk::Old { bytes: done..start, stays: true });
        done = run[run.len() - 1].bytes.end;
        let stays = staying(&run, &order);
        put(sheet, &run, &order, &stays, &mut chunks);
        moves.slips.extend(slips(sheet, &run, &order, &stays));
        let members = run.iter().map(|piece| piece.tokens.clone()).collect();
        moves.rearranged.push(Rearranged::Order(Reordered { members, order, held }));
    }
    if moves.rearranged.is_empty() {
        return moves;
    }
    chunks.push(Chunk::Old { bytes: done..sheet.text.len(), stays: true });
    moves.slips.sort_by_key(|slip| slip.offset);
    moves.write(sheet, chunks);
    moves
}

/// The members of a type in runs that nothing divides: no directive, and no comment that stands by
/// itself. A member that shares a line with another one is in none.
fn runs<'p>(sheet: &Sheet, live: &Live, members: &'p [Member]) -> Vec<Vec<Piece<'p>>> {
    let tree = sheet.tree;
    let mut runs: Vec<Vec<Piece>> = vec![Vec::new()];
    for member in members {
        let mut tokens = member.first..member.end;
        while tokens.start > 0 && goes_with(sheet, tokens.start) {
            tokens.start -= 1;
        }
        while is_comment(sheet, tokens.end) && !tree.broken(tokens.end as usize, sheet.text) {
            tokens.end += 1;
        }
        let behind = runs.last().and_then(|run| run.last());
        let is_next = behind.is_none_or(|before: &Piece| before.tokens.end == tokens.start);
        let own = tokens.start as usize..tokens.end as usize;
        let is_plain = !tree.tokens[own].iter().any(|token| token.directive);
        let lines = lines_of(sheet, &tokens).filter(|_| is_plain);
        if !is_next || lines.is_none() {
            runs.push(Vec::new());
        }
        let Some((bytes, is_one_line)) = lines else { continue };
        let live = live.all(tokens.start, tokens.end);
        let piece = Piece { member, tokens, bytes, is_one_line, live };
        runs.last_mut().expect("there is one at least").push(piece);
    }
    runs.retain(|run| run.len() > 1);
    runs
}

fn is_comment(sheet: &Sheet, token: TokenId) -> bool {
    let token = sheet.tree.tokens.get(token as usize);
    token.is_some_and(|token| token.role == Role::Comment && !token.directive)
}

/// Whether the token before this one is a comment on a line of its own, right above it.
fn goes_with(sheet: &Sheet, token: TokenId) -> bool {
    let breaks = |gap: TokenId| sheet.present(gap as usize).matches('\n').count();
    is_comment(sheet, token - 1) && breaks(token) == 1 && (token == 1 || breaks(token - 1) > 0)
}

/// The lines of some tokens, if nothing else stands on them; and whether it is one.
pub(super) fn lines_of(sheet: &Sheet, tokens: &Range<TokenId>) -> Option<(Range<usize>, bool)> {
    let (first, next) = (tokens.start as usize, tokens.end as usize);
    let is_apart = |gap: usize| gap == 0 || sheet.tree.broken(gap, sheet.text);
    let last = sheet.tree.tokens.get(next.checked_sub(1)?)?;
    let ends = sheet.lines.line_of(last.end as usize - 1);
    let begins = sheet.lines.line_of(sheet.tree.tokens[first].start as usize);
    if !is_apart(first) || !is_apart(next) || ends + 1 >= sheet.lines.count() {
        return None;
    }
    Some((sheet.lines.start(begins)..sheet.lines.start(ends + 1), begins == ends))
}

/// Which members have to stand before which others.
fn held(sheet: &Sheet, run: &[Piece]) -> Vec<(usize, usize)> {
    let word = |token: TokenId| sheet.token_text(token as usize);
    let mentions: Vec<HashSet<&str>> = run
        .iter()
        .map(|piece| piece.member.value.iter().flat_map(|range| range.clone()).map(word).collect())
        .collect();
    let is_worth = |at: &usize| run[*at].member.worth != Worth::Nothing;
    let names = |at: usize| run[at].member.names.iter().map(|name| word(*name));
    let mut held = Vec::new();
    for second in 0..run.len() {
        for first in 0..second {
            if run[first].member.is_static != run[second].member.is_static {
                continue;
            }
            let worth = (run[first].member.worth, run[second].member.worth);
            let may_ask = match worth {
                (Worth::Place, Worth::Place) => true,
                (Worth::Runs, other) | (other, Worth::Runs) => {
                    !matches!(other, Worth::Nothing | Worth::Known)
                }
                _ => false,
            };
            let asks = is_worth(&first) && names(second).any(|name| mentions[first].contains(name))
                || is_worth(&second) && names(first).any(|name| mentions[second].contains(name));
            if may_ask || asks {
                held.push((first, second));
            }
        }
    }
    held
}

/// The order that the members are to stand in; `None` if it is the one that they have.
///
/// Live ones are put in order, and each of them then goes beside one of its kind, where the fewest
/// others stand on the wrong side of it, as near as that is; the others stay in the order that they
/// have.
fn arranged(run: &[Piece], held: &[(usize, usize)]) -> Option<Vec<usize>> {
    let (moving, still): (Vec<usize>, Vec<usize>) = (0..run.len()).partition(|at| run[*at].live);
    let rank = |at: usize| run[at].member.rank;
    let mut slots: Vec<Vec<usize>> = vec![Vec::new(); still.len() + 1];
    let mut least = 0;
    for at in in_order(&moving, rank, held) {
        let place = |of: usize| still.binary_search(&of).ok();
        let before = held.iter().filter(|(_, second)| *second == at);
        let before = before.filter_map(|(first, _)| place(*first)).max();
        let behind = held.iter().filter(|(first, _)| *first == at);
        let behind = behind.filter_map(|(_, second)| place(*second)).min();
        let from = before.map_or(0, |before| before + 1).max(least);
        let to = behind.unwrap_or(still.len());
        let own = still.partition_point(|still| *still < at);
        // How many stand on the wrong side, from place to place.
        let mut wrong = still.iter().filter(|still| rank(**still) < rank(at)).count();
        let is_alike = |slot: usize| still.get(slot).is_some_and(|still| rank(*still) == rank(at));
        let mut best: Option<(bool, usize, usize, usize)> = None;
        for slot in 0..=still.len() {
            if (from..=to).contains(&slot) {
                let is_apart = !is_alike(slot) && !slot.checked_sub(1).is_some_and(is_alike);
                let found = (is_apart, wrong, slot.abs_diff(own), slot);
                best = Some(best.map_or(found, |best| best.min(found)));
            }
            if let Some(next) = still.get(slot) {
                wrong += usize::from(rank(*next) > rank(at));
                wrong -= usize::from(rank(*next) < rank(at));
            }
        }
        least = best?.3;
        slots[least].push(at);
    }
    let mut order = Vec::with_capacity(run.len());
    for (slot, own) in slots.into_iter().enumerate() {
        order.extend(own);
        order.extend(still.get(slot));
    }
    (!order.is_sorted()).then_some(order)
}

/// These members by their ranks, each behind those that it has to stand behind.
fn in_order(
    members: &[usize],
    rank: impl Fn(usize) -> usize,
    held: &[(usize, usize)],
) -> Vec<usize> {
    let place = |of: usize| members.binary_search(&of).ok();
    let mut waits_for = vec![0; members.len()];
    let mut leads: Vec<Vec<usize>> = vec![Vec::new(); members.len()];
    for (first, second) in held {
        if let (Some(first), Some(second)) = (place(*first), place(*second)) {
            leads[first].push(second);
            waits_for[second] += 1;
        }
    }
    let next = |at: usize| Reverse((rank(members[at]), at));
    let mut free: BinaryHeap<_> =
        (0..members.len()).filter(|at| waits_for[*at] == 0).map(next).collect();
    let mut order = Vec::with_capacity(members.len());
    while let Some(Reverse((_, at))) = free.pop() {
        order.push(members[at]);
        for second in std::mem::take(&mut leads[at]) {
            waits_for[second] -= 1;
            if waits_for[second] == 0 {
                free.push(next(second));
            }
        }
    }
    order
}

/// The lines of a run in their order, with what is between them.
fn put(
    sheet: &Sheet,
    run: &[Piece],
    order: &[usize],
    stays: &[bool],
    chunks: &mut Vec<Chunk>,
) {
    let end = sheet.lines.line_end().as_str();
    for (place, at) in order.iter().enumerate() {
        let piece = &run[*at];
        if let Some(before) = place.checked_sub(1).map(|before| order[before]) {
            let above = &run[before];
            if before + 1 == *at {
                let bytes = above.bytes.end..piece.bytes.start;
                chunks.push(Chunk::Old { bytes, stays: stays[before] && stays[*at] });
            } else {
                // Short ones stand together if they did with others, or are of a kind.
                let is_close = |at: usize| {
                    let beside = |at: usize| run[at].bytes.end == run[at + 1].bytes.start;
                    at.checked_sub(1).is_some_and(beside) || (at + 1 < run.len() && beside(at))
                };
                let is_kind = above.member.rank == piece.member.rank;
                let is_short = above.is_one_line && piece.is_one_line;
                let together = is_short && (is_kind || (is_close(before) && is_close(*at)));
                chunks.push(Chunk::New(if together { String::new() } else { end.to_string() }));
            }
        }
        chunks.push(Chunk::Old { bytes: piece.bytes.clone(), stays: stays[*at] });
    }
}

/// A slip for each member that has to move past another one, as few as that takes.
fn slips(sheet: &Sheet, run: &[Piece], order: &[usize], stays: &[bool]) -> Vec<Slip> {
    let name = |at: usize| {
        let token = &sheet.tree.tokens[run[at].member.names[0] as usize];
        (token.start as usize, &sheet.text[token.start as usize..token.end as usize])
    };
    let mut slips = Vec::new();
    for (place, at) in order.iter().enumerate().filter(|(_, at)| !stays[**at]) {
        let (offset, own) = name(*at);
        let (side, other) = match place {
            0 => ("before", order[1]),
            _ => ("behind", order[place - 1]),
        };
        let message = format!("put {} {side} {}", quoted(own), quoted(name(other).1));
        let setting = Setting::MemberOrder;
        slips.push(Slip { offset, length: own.len(), setting, message });
    }
    slips
}

/// Which members stay where they are: all that are not live, and of the others as many as follow each
/// other.
fn staying(run: &[Piece], order: &[usize]) -> Vec<bool> {
    let weight = |at: usize| match run[at].live {
        true => 1,
        false => run.len() + 1,
    };
    // Of each place: the heaviest row of members that ends there, and the place before.
    let mut best: Vec<(usize, Option<usize>)> = Vec::with_capacity(order.len());
    for (place, at) in order.iter().enumerate() {
        let earlier = (0..place).filter(|before| order[*before] < *at);
        let before = earlier.max_by_key(|before| (best[*before].0, Reverse(*before)));
        let so_far = before.map_or(0, |before| best[before].0);
        best.push((so_far + weight(*at), before));
    }
    let mut stays = vec![false; run.len()];
    let mut next = (0..order.len()).max_by_key(|place| (best[*place].0, Reverse(*place)));
    while let Some(place) = next {
        stays[order[place]] = true;
        next = best[place].1;
    }
    stays
}
