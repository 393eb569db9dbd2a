//! Numbers at the beginnings of neighbouring rows that end in one column: `  0, 255` above `255,   0`.

use super::measure::columns;
use super::plan::{GroupId, Plan, Shape, Want};
use crate::style::{Key, Setting, Style};
use crate::syntax::{Role, TokenId, Tree};
use crate::text::Lines;
use std::collections::{BTreeMap, HashMap};

/// No number is set in further than this.
const WIDEST: usize = 24;

/// Where a row of such a list stands.
#[derive(Clone, Copy, Debug)]
pub(super) struct FirstNumber {
    /// How many columns further in it should be than the list's rows are.
    pub pad: usize,
    /// The same in the text.
    pub present: usize,
    /// The column of the list's rows in the text.
    pub base: usize,
}

/// The rows that begin with such a number, by their first tokens.
pub(super) type FirstNumbers = HashMap<TokenId, FirstNumber>;

/// A number that begins a row, with its columns in the text.
struct Row {
    token: TokenId,
    start: usize,
    end: usize,
    /// Whether something on its line is set off.
    sets_off: bool,
}

/// Whether a number begins here, or its sign.
pub(super) fn is_number(text: &str) -> bool {
    let behind = text.strip_prefix(['-', '+', '.']).unwrap_or(text);
    matches!(text, "-" | "+") || behind.starts_with(|first: char| first.is_ascii_digit())
}

/// The rows of lists most of whose first numbers end in one column, if `columns` keeps tables.
pub(super) fn find(
    plan: &Plan,
    tree: &Tree,
    text: &str,
    style: &Style,
    lines: &Lines,
) -> FirstNumbers {
    let mut found = HashMap::new();
    if !style.is(Setting::Columns, Key::Table, "keep") {
        return found;
    }
    let tab = style.tab_columns();
    let mut lists: BTreeMap<GroupId, Vec<Row>> = BTreeMap::new();
    for (index, token) in tree.tokens.iter().enumerate().filter(|(_, token)| token.broken) {
        let gap = &plan.gaps[index];
        let Some(id) = gap.group.filter(|_| gap.want == Want::Break && gap.inside) else {
            continue
        };
        let group = &plan.groups[id];
        let own = |at: usize| {
            let token = tree.tokens.get(at)?;
            Some((token.end as usize, &text[token.start as usize..token.end as usize]))
        };
        let Some((mut end, number)) = own(index).filter(|(_, own)| is_number(own)) else {
            continue
        };
        let mut next = index + 1;
        if matches!(number, "-" | "+") {
            let Some((last, _)) = own(next).filter(|(_, own)| is_number(own)) else { continue };
            (end, next) = (last, next + 1);
        }
        // What goes on behind it is no number.
        let ends = own(next).is_some_and(|(_, mark)| {
            tree.separates(next as TokenId) || tree.closes(mark)
        });
        if group.shape == Shape::List && group.bracketed && ends {
            let line = lines.start(lines.line_of(token.start as usize));
            let at = |byte: usize| columns(&text[line..byte], tab);
            let (start, end) = (at(token.start as usize), at(end));
            let behind = (next + 1..tree.tokens.len()).take_while(|at| !tree.tokens[*at].broken);
            let sets_off = behind
                .filter(|at| tree.tokens[*at].role != Role::Comment)
                .any(|at| tree.separates(at as TokenId - 1) && tree.gap(at, text.len()).len() > 1);
            let row = Row { token: index as TokenId, start, end, sets_off };
            lists.entry(id).or_default().push(row);
        }
    }
    for rows in lists.into_values() {
        place(&rows, &mut found);
    }
    found
}

/// Says where the rows of a list should stand, if most of its first numbers end in one column and some
/// of them are set in for that, or later ones are.
fn place(rows: &[Row], found: &mut FirstNumbers) {
    let mut ends: BTreeMap<usize, usize> = BTreeMap::new();
    rows.iter().for_each(|row| *ends.entry(row.end).or_default() += 1);
    let most = ends.into_iter().max_by_key(|(_, count)| *count);
    let Some((end, _)) = most.filter(|(_, count)| *count > 1 && count * 2 > rows.len()) else {
        return;
    };
    let agreeing = || rows.iter().filter(|row| row.end == end);
    let Some(base) = agreeing().map(|row| row.start).min() else { return };
    if agreeing().all(|row| row.start == base) && !agreeing().any(|row| row.sets_off) {
        return;
    }
    for row in rows {
        let pad = (end - base).saturating_sub(row.end - row.start).min(WIDEST);
        let present = row.start.saturating_sub(base);
        found.insert(row.token, FirstNumber { pad, present, base });
    }
}
