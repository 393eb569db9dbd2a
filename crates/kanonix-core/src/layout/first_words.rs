//! What begins neighbouring rows and ends in one column: the numbers of `  0, 255` above `255,   0`, and
//! the names of `        hyphens: auto` below `-webkit-hyphens: auto`.

use super::measure::columns;
use super::plan::{GroupId, Plan, Shape, Want};
use crate::style::{Key, Setting, Style};
use crate::syntax::{Role, TokenId, Tree};
use crate::text::Lines;
use std::collections::{BTreeMap, HashMap};

/// No row is set in further than this.
const WIDEST: usize = 24;

/// Where such a row stands.
#[derive(Clone, Copy, Debug)]
pub(super) struct FirstWord {
    /// How many columns further in it should be than the rows around it are.
    pub pad: usize,
    /// The same in the text.
    pub present: usize,
    /// The column of those rows in the text.
    pub base: usize,
}

/// The rows that begin with such a number or name, by their first tokens.
pub(super) type FirstWords = HashMap<TokenId, FirstWord>;

/// What begins a row, with its columns in the text.
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

/// The rows most of whose first numbers or names end in one column, as far as `columns` keeps those.
pub(super) fn find(
    plan: &Plan,
    tree: &Tree,
    text: &str,
    style: &Style,
    lines: &Lines,
) -> FirstWords {
    let mut found = HashMap::new();
    let column = |token: TokenId, byte: usize| {
        let line = lines.line_of(tree.tokens[token as usize].start as usize);
        columns(&text[lines.start(line)..byte], style.tab_columns())
    };
    if style.is(Setting::Columns, Key::Table, "keep") {
        numbers(plan, tree, text, column).into_values().for_each(|rows| place(&rows, &mut found));
    }
    for names in &plan.names {
        let row = |name: &TokenId| {
            let token = &tree.tokens[*name as usize];
            let (start, end) = (token.start as usize, token.end as usize);
            let (start, end) = (column(*name, start), column(*name, end));
            Row { token: *name, start, end, sets_off: false }
        };
        place(&names.iter().map(row).collect::<Vec<_>>(), &mut found);
    }
    found
}

/// The rows that begin with numbers, by their lists.
fn numbers(
    plan: &Plan,
    tree: &Tree,
    text: &str,
    column: impl Fn(TokenId, usize) -> usize,
) -> BTreeMap<GroupId, Vec<Row>> {
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
            let at = |byte: usize| column(index as TokenId, byte);
            let (start, end) = (at(token.start as usize), at(end));
            let behind = (next + 1..tree.tokens.len()).take_while(|at| !tree.tokens[*at].broken);
            let sets_off = behind
                .filter(|at| tree.tokens[*at].role != Role::Comment)
                .any(|at| tree.separates(at as TokenId - 1) && tree.gap(at, text.len()).len() > 1);
            let row = Row { token: index as TokenId, start, end, sets_off };
            lists.entry(id).or_default().push(row);
        }
    }
    lists
}

/// Says where rows should stand, if most of what they begin with ends in one column and some of them are set
/// in for that, or later numbers are.
fn place(rows: &[Row], found: &mut FirstWords) {
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
        found.insert(row.token, FirstWord { pad, present, base });
    }
}
