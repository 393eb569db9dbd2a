//! Comments at the ends of neighbouring lines that are lined up with each other.

use super::measure::columns;
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
    /// The first token of its line.
    first: TokenId,
    /// How many blanks stand before it; none where it has the line.
    blanks: usize,
}

/// The comments at the ends of neighbouring lines that begin in one column.
pub(super) fn of_comments(
    tree: &Tree,
    text: &str,
    style: &Style,
    lines: &Lines,
) -> CommentColumns {
    let mut found = HashMap::new();
    if !style.is(Setting::Columns, Key::Comment, "keep") {
        return found;
    }
    let tab = style.tab_columns();
    let usual = style.number(Setting::CommentGap, Key::Before).unwrap_or(1) as usize;
    let mut seen: Vec<Comment> = Vec::new();
    let mut first = 0;
    for (index, token) in tree.tokens.iter().enumerate() {
        let begins = index == 0 || token.broken || tree.tokens[index - 1].multi_line;
        if begins {
            first = index as TokenId;
        }
        let ends = tree.tokens.get(index + 1).is_none_or(|next| next.broken);
        if token.role == Role::Comment && !token.continues && ends && !token.multi_line {
            let line = lines.line_of(token.start as usize);
            let column = columns(&text[lines.start(line)..token.start as usize], tab);
            let gap = tree.gap(index, text.len());
            let blanks = if first == index as TokenId { 0 } else { gap.len() };
            seen.push(Comment { token: index as TokenId, line, column, first, blanks });
        }
    }
    let agree = |a: Option<&Comment>, b: Option<&Comment>| match (a, b) {
        (Some(a), Some(b)) => {
            // One line between two that agree may do otherwise.
            let is_near = a.line < b.line && a.line + 2 >= b.line;
            let is_meant = a.blanks != b.blanks || a.blanks > usual.max(2);
            is_near && a.column == b.column && is_meant
        }
        _ => false,
    };
    let at = |place: Option<usize>| seen.get(place?);
    let own = |place: usize| {
        let (above, below) = (at(place.checked_sub(1)), at(Some(place + 1)));
        let (over, beyond) = (at(place.checked_sub(2)), at(Some(place + 2)));
        let agrees = [above, over].into_iter().any(|other| agree(other, Some(&seen[place])))
            || [below, beyond].into_iter().any(|other| agree(Some(&seen[place]), other));
        agrees.then_some(seen[place].column)
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
    for (place, own) in seen.iter().enumerate() {
        let (above, column) = (at(place.checked_sub(1)), joined[place]);
        let Some(column) = column else { continue };
        if own.first != own.token {
            let start = tree.tokens[own.first as usize].start as usize;
            let line = lines.start(lines.line_of(start));
            let indent = columns(&text[line..start], tab);
            let behind = column.saturating_sub(indent);
            found.insert(own.token, Place::Behind(own.first, behind));
        } else if let Some(above) = above.filter(|above| agree(Some(above), Some(own))) {
            // A line of its own stands where its block does, unless it goes on with the one above.
            let goes_on = matches!(found.get(&above.token), Some(Place::Under(_)));
            if above.first != above.token || goes_on {
                found.insert(own.token, Place::Under(above.token));
            }
        }
    }
    found
}
