//! Comments at the ends of neighbouring lines that are lined up with each other.

use super::measure::{Measures, columns};
use super::plan::{Plan, TreeEdit, When};
use crate::style::{Key, Setting, Style};
use crate::syntax::{Role, TokenId, Tree};
use crate::text::Lines;
use std::collections::HashMap;

/// Where a comment stands that is lined up with others.
#[derive(Clone, Copy, Debug)]
pub(super) enum Place {
    /// So many columns behind the first token of its line, which is this one.
    Behind(TokenId, usize),
    /// On a line of its own, under the one that begins with this token.
    Under(TokenId),
}

/// The comments that are lined up, by their tokens.
pub(super) type CommentColumns = HashMap<TokenId, Place>;

/// A comment behind which its line ends.
struct Comment {
    token: TokenId,
    line: usize,
    column: usize,
    /// Its column with as many blanks as it has, once what stands before them is mended.
    mended: usize,
    /// The first token of its line.
    first: TokenId,
    /// How many blanks stand before it; none where it has the line.
    blanks: usize,
}

/// The comments at the ends of neighbouring lines that begin in one column.
pub(super) fn of_comments(
    plan: &Plan,
    tree: &Tree,
    text: &str,
    style: &Style,
    lines: &Lines,
    measures: &Measures,
) -> CommentColumns {
    let mut found = HashMap::new();
    if !tree.has(Role::Comment) || !style.is(Setting::Columns, Key::Comment, "keep") {
        return found;
    }
    let tab = style.tab_columns();
    let usual = style.number(Setting::CommentGap, Key::Before).map(|blanks| blanks as usize);
    let column = |at: usize| columns(&text[lines.start(lines.line_of(at))..at], tab);
    let begins = |token: TokenId| tree.tokens[token as usize].start as usize;
    let mut seen: Vec<Comment> = Vec::new();
    let begins_line = |at: &usize| {
        *at == 0 || tree.tokens[*at].broken || tree.tokens[*at - 1].multi_line
    };
    for (index, token) in tree.tokens.iter().enumerate() {
        let ends = || tree.tokens.get(index + 1).is_none_or(|next| next.broken);
        if token.role == Role::Comment && !token.continues && !token.multi_line && ends() {
            let first = (0..=index).rev().find(begins_line).unwrap_or(0) as TokenId;
            let line = lines.line_of(token.start as usize);
            let stands = column(token.start as usize);
            let gap = tree.gap(index, text.len());
            let is_behind = first != index as TokenId;
            let blanks = if is_behind { gap.len() } else { 0 };
            let before = if is_behind { measures.head(first as usize, index) } else { None };
            let mended = before.map_or(stands, |before| {
                column(begins(first)) + before + open_comma(plan, index - 1) + blanks
            });
            let token = index as TokenId;
            seen.push(Comment { token, line, column: stands, mended, first, blanks });
        }
    }
    let may_agree = |a: &Comment, b: &Comment| {
        // One line between two that agree may do otherwise.
        let is_near = a.line.abs_diff(b.line) <= 2 && a.line != b.line;
        // Where each has the blanks that somebody gave it, as many in a row show nothing.
        let is_meant = |usual: usize| a.blanks > usual.max(2);
        is_near && (a.blanks != b.blanks || usual.is_some_and(is_meant))
    };
    let agree = |a: &Comment, b: &Comment| may_agree(a, b) && a.column == b.column;
    // A line that is mended joins one that stays.
    let will_agree = |a: &Comment, b: &Comment| {
        may_agree(a, b)
            && a.mended == b.mended
            && [a, b].iter().any(|stays| stays.column == stays.mended)
    };
    let own = |place: usize| {
        let own = &seen[place];
        let beside = || {
            let near = (place.saturating_sub(2)..place).chain(place + 1..place + 3);
            near.filter_map(|at| seen.get(at))
        };
        let stands = beside().any(|other| agree(own, other)).then_some(own.column);
        stands.or_else(|| beside().any(|other| will_agree(own, other)).then_some(own.mended))
    };
    let mut joined: Vec<Option<usize>> = (0..seen.len()).map(own).collect();
    let are_neighbours = |above: usize, below: usize| {
        seen.get(below).is_some_and(|other| seen[above].line + 1 == other.line)
    };
    let decided = joined.clone();
    for place in 1..seen.len().saturating_sub(1) {
        let is_between = are_neighbours(place - 1, place) && are_neighbours(place, place + 1);
        if decided[place].is_none() && is_between && decided[place - 1] == decided[place + 1] {
            joined[place] = decided[place - 1];
        }
    }
    // What stands in the column of lined-up ones right above or below it is of them, however many lines in
    // a row have as many blanks.
    let join = |joined: &mut [Option<usize>], from: usize, place: usize| {
        if joined[place].is_none() && joined[from] == Some(seen[place].column) {
            joined[place] = joined[from];
        }
    };
    for place in (1..seen.len()).filter(|place| are_neighbours(place - 1, *place)) {
        join(&mut joined, place - 1, place);
    }
    for place in (1..seen.len()).rev().filter(|place| are_neighbours(place - 1, *place)) {
        join(&mut joined, place, place - 1);
    }
    for (place, own) in seen.iter().enumerate() {
        let Some(joined) = joined[place] else { continue };
        let above = place.checked_sub(1).map(|above| &seen[above]);
        if own.first != own.token {
            let behind = joined.saturating_sub(column(begins(own.first)));
            found.insert(own.token, Place::Behind(own.first, behind));
        } else if let Some(above) = above.filter(|above| agree(above, own)) {
            // A line of its own stands where its block does, unless it goes on with the one above.
            let goes_on = matches!(found.get(&above.token), Some(Place::Under(_)));
            if above.first != above.token || goes_on {
                found.insert(own.token, Place::Under(above.token));
            }
        }
    }
    found
}

/// The columns of a comma at or behind a token that is there because its list is open.
fn open_comma(plan: &Plan, token: usize) -> usize {
    let comes = plan.rewrites_of(token).iter().any(|rewrite| match rewrite.change {
        TreeEdit::Remove(When::Flat(group)) | TreeEdit::Insert(_, When::Open(group)) => {
            plan.closes_apart(group)
        }
        _ => false,
    });
    usize::from(comes)
}
