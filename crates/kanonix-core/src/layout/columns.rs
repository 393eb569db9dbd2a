//! What neighbouring lines have lined up in columns stays so, where `columns` keeps it.

use super::first_numbers::{FirstNumbers, is_number};
use super::measure::{Measures, columns};
use super::plan::{Column, Group, Plan, Want};
use crate::style::{Key, Setting, Style};
use crate::syntax::{Role, TokenId, Tree};
use crate::text::Lines;

/// On lines longer than this many bytes nothing is lined up. Bounds the work on hostile input.
const LONGEST: usize = 400;

/// More blanks than these line nothing up.
const WIDEST: usize = 100;

/// So many rows on each side say whether a column of numbers is lined up.
const MOST_NEAR: usize = 16;

/// So many on each side say where its numbers end.
const BESIDE: usize = 3;

/// A place on a line where a column may be.
#[derive(Clone, Copy, Debug)]
struct Cell {
    /// What begins there.
    token: TokenId,
    kind: Column,
    /// Its own columns in the text, from where its line's first token begins to where it begins.
    start: usize,
    /// The same to where the cell ends that begins with it.
    end: usize,
    /// How far in its line is.
    indent: usize,
    /// How many blanks the text has before it, and how many it has where nothing is lined up.
    blanks: usize,
    usual: usize,
    /// The columns that will stand before these blanks, from the line's first token on.
    before: usize,
}

impl Cell {
    /// The column of its start, with as many blanks as it has, once what stands before them is mended.
    fn mended(&self, moved: isize) -> Option<usize> {
        let before = usize::try_from(self.before as isize + moved).ok()?;
        Some(self.indent + before + self.blanks)
    }

    /// The column of its start or of its end.
    fn at(&self, is_end: bool) -> usize {
        self.indent + if is_end { self.end } else { self.start }
    }
}

/// What of a cell may stand in one column with others.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Side {
    /// Its start, as it stands.
    Start,
    /// Its end.
    End,
    /// Its start, as it will stand once what is before it is mended.
    Mended,
}

/// A line with its cells.
struct Row {
    /// Its first token.
    first: TokenId,
    cells: Vec<Cell>,
    /// The row above that it may be lined up with, by its place.
    above: Option<usize>,
    /// Whether it is an element of a list, and no statement.
    is_element: bool,
    /// How many columns later ones are moved by those that are decided.
    moved: isize,
}

/// Gives the gaps of lined-up signs, values and elements as many blanks as that takes. Says whether
/// there were any.
pub(super) fn place(
    plan: &mut Plan,
    tree: &Tree,
    text: &str,
    style: &Style,
    lines: &Lines,
    measures: &Measures,
    first_numbers: &FirstNumbers,
) -> bool {
    let keeps = |key| style.is(Setting::Columns, key, "keep");
    let (keeps_values, keeps_tables) = (keeps(Key::Value), keeps(Key::Table));
    let is_kept = |kind| match kind {
        Column::Value => keeps_values,
        Column::Table => keeps_tables,
        Column::None => false,
    };
    // Where every gap is as wide as it would be, nothing is set off.
    let is_set_off = |index: usize| {
        let gap = &plan.gaps[index];
        is_kept(gap.column)
            && !tree.tokens[index].broken
            && tree.gap(index, text.len()).len() != usize::from(gap.blanks)
    };
    let set_off: Vec<usize> = (0..tree.tokens.len()).filter(|at| is_set_off(*at)).collect();
    if set_off.is_empty() {
        return false;
    }
    let max = style.number(Setting::MaxLineLength, Key::Whole).unwrap_or(u32::MAX) as usize;
    let is_list = |group: &&Group| group.bracketed && group.is_beside();
    let mut heads: Vec<TokenId> =
        plan.groups.iter().filter(is_list).filter_map(|group| group.under).collect();
    heads.retain(|token| !tree.tokens[*token as usize].broken);
    heads.sort_unstable();
    let tab = style.tab_columns();
    let page = Page { tree, text, lines, measures, first_numbers, heads, tab, max };
    let mut rows = page.rows(plan, &set_off, &is_kept);
    let most = rows.iter().map(|row| row.cells.len()).max().unwrap_or(0);
    let mut any = false;
    for place in 0..most {
        let wanted = page.wanted(&rows, place);
        for (row, blanks) in wanted {
            let cell = rows[row].cells[place];
            if blanks != cell.usual {
                let gap = &mut plan.gaps[cell.token as usize];
                (gap.blanks, gap.setting) = (blanks as u8, Setting::Columns);
                rows[row].moved += blanks as isize - cell.usual as isize;
                any = true;
            }
        }
    }
    any
}

/// What is asked of a text at every turn.
struct Page<'a> {
    tree: &'a Tree,
    text: &'a str,
    lines: &'a Lines,
    measures: &'a Measures,
    first_numbers: &'a FirstNumbers,
    /// The first elements of lists that are lined up with them.
    heads: Vec<TokenId>,
    tab: usize,
    max: usize,
}

impl Page<'_> {
    /// The lines that have cells, each with the one above that it may be lined up with: the last
    /// one that is as far in, without a blank line or one further out between them. Between blank
    /// lines that hold nothing of what is set off, nothing is looked for.
    fn rows(
        &self,
        plan: &Plan,
        set_off: &[usize],
        is_kept: &dyn Fn(Column) -> bool,
    ) -> Vec<Row> {
        let tokens = &self.tree.tokens;
        let mut rows: Vec<Row> = Vec::new();
        // The rows that a later one may be lined up with: how far in, and which.
        let mut open: Vec<(usize, usize)> = Vec::new();
        let mut first = 0;
        while first < tokens.len() {
            let is_below_blank = self.is_below_blank(first);
            if is_below_blank || first == 0 {
                let next = (first + 1..tokens.len())
                    .find(|at| tokens[*at].broken && self.is_below_blank(*at))
                    .unwrap_or(tokens.len());
                let near = set_off.partition_point(|at| *at < first);
                if set_off.get(near).is_none_or(|at| *at >= next) {
                    first = next;
                    continue;
                }
            }
            let next = (first + 1..tokens.len()).find(|at| tokens[*at].broken);
            let end = next.unwrap_or(tokens.len());
            let line = self.lines.line_of(tokens[first].start as usize);
            if tokens[end - 1].end as usize - self.lines.start(line) > LONGEST {
                first = end;
                open.clear();
                continue;
            }
            let indent = self.row_column(first).0;
            if is_below_blank {
                open.clear();
            }
            let is_comment = tokens[first].role == Role::Comment;
            if !is_comment {
                open.retain(|(depth, _)| *depth <= indent);
            }
            let mut start = first;
            while start < end {
                // A list's first element that stays behind its bracket begins a row, too.
                let is_head = |at: &usize| self.heads.binary_search(&(*at as TokenId)).is_ok();
                let stop = (start + 1..end).find(is_head).unwrap_or(end);
                let (depth, moved) = self.row_column(start);
                let cells = self.cells(plan, start, stop, depth, is_kept);
                if !is_comment {
                    let beside = open.iter().rev().find(|(own, _)| *own == depth);
                    let above = beside.map(|(_, row)| *row);
                    open.retain(|(own, _)| *own < depth);
                    if !cells.is_empty() {
                        open.push((depth, rows.len()));
                        let is_element = plan.group_of(start).is_some_and(|group| group.bracketed);
                        let first = start as TokenId;
                        rows.push(Row { first, cells, above, is_element, moved });
                    }
                }
                start = stop;
            }
            first = end;
        }
        rows
    }

    /// Whether the line above that of a token is blank.
    fn is_below_blank(&self, token: usize) -> bool {
        let gap = self.text.as_bytes().get(self.tree.gap(token, self.text.len()));
        gap.is_some_and(|gap| gap.iter().filter(|byte| **byte == b'\n').count() > 1)
    }

    fn cells(
        &self,
        plan: &Plan,
        first: usize,
        end: usize,
        indent: usize,
        is_kept: &dyn Fn(Column) -> bool,
    ) -> Vec<Cell> {
        let mut cells = Vec::new();
        for index in first + 1..end {
            let gap = &plan.gaps[index];
            if self.tree.tokens[index - 1].multi_line {
                break;
            }
            let present = &self.text[self.tree.gap(index, self.text.len())];
            let plain = present.bytes().all(|byte| byte == b' ') && present.len() <= WIDEST;
            let takes = matches!(gap.want, Want::Flat | Want::Break) && is_kept(gap.column);
            if !takes || !plain {
                continue;
            }
            let Some(before) = self.measures.head(first, index) else { break };
            let start = self.column(index).saturating_sub(indent);
            let stop = self.cell_end(plan, index, end);
            cells.push(Cell {
                token: index as TokenId,
                kind: gap.column,
                start,
                end: self.end_column(stop).saturating_sub(indent),
                indent,
                blanks: present.len(),
                usual: usize::from(gap.blanks),
                before,
            });
        }
        cells
    }

    /// The last token of the cell that begins with a token: what stands before the separator, the
    /// closing bracket or the line's end.
    fn cell_end(&self, plan: &Plan, token: usize, end: usize) -> usize {
        let group = plan.gaps[token].group;
        let closer = group.map(|group| plan.groups[group].end as usize - 1);
        let next = (token + 1..end).find(|at| {
            let gap = &plan.gaps[*at];
            let goes_on = gap.column == Column::Value && plan.gaps[token].column == Column::Value;
            Some(*at) == closer || (gap.group == group && group.is_some()) || goes_on
        });
        let last = next.unwrap_or(end) - 1;
        let text = &self.tree.tokens[last];
        let is_mark = matches!(&self.text[text.start as usize..text.end as usize], "," | ";");
        if is_mark && last > token { last - 1 } else { last }
    }

    /// How many blanks each cell in one place of the rows has, by row.
    fn wanted(&self, rows: &[Row], place: usize) -> Vec<(usize, usize)> {
        let mut below: Vec<Option<usize>> = vec![None; rows.len()];
        for (index, row) in rows.iter().enumerate() {
            if let Some(above) = row.above {
                below[above].get_or_insert(index);
            }
        }
        let next = |row: usize| below[row];
        let joining = self.joining(rows, &next, place);
        let own = |row: usize| {
            if joining[row] {
                return Some((rows[row].cells.get(place)?.mended(rows[row].moved)?, false));
            }
            [Side::Start, Side::End, Side::Mended].into_iter().find_map(|side| {
                let column = self.lined_up(rows, &next, row, place, side)?;
                Some((column, side == Side::End))
            })
        };
        let mut columns: Vec<Option<(usize, bool)>> = (0..rows.len()).map(own).collect();
        let fits = |row: usize, other: usize, (column, is_end): (usize, bool)| {
            let (Some(own), Some(cell)) = (rows[row].cells.get(place), rows[other].cells.get(place))
            else {
                return false;
            };
            own.kind == cell.kind && self.blanks(&rows[row], own, column, is_end).is_some()
        };
        // One between two that agree joins them.
        let decided = columns.clone();
        let by_end = |row: &usize| matches!(decided[*row], Some((_, true)));
        for row in (0..rows.len()).filter(|row| !by_end(row)) {
            let by_end = self.number_column(rows, &next, row, place).filter(|column| {
                fits(row, row, *column)
            });
            if let (Some(above), Some(below)) = (rows[row].above, next(row)) {
                let common = decided[above].filter(|_| decided[above] == decided[below]);
                let common = common.filter(|column| fits(row, above, *column));
                columns[row] = columns[row].or(common);
            }
            columns[row] = by_end.or(columns[row]);
        }
        // And so does a list's first or last element beside two that agree.
        let is_value = |row: usize| {
            rows[row].cells.get(place).is_some_and(|cell| cell.kind == Column::Value)
        };
        let is_alike = |row: usize, other: usize| {
            rows[row].cells.len() == rows[other].cells.len()
        };
        for row in (0..rows.len()).filter(|row| rows[*row].is_element) {
            if columns[row].is_some() {
                continue;
            }
            let (above, below) = (rows[row].above, next(row));
            let beside = match (above, below) {
                (Some(above), None) => Some((above, rows[above].above)),
                (None, Some(below)) => Some((below, next(below))),
                _ => None,
            };
            let Some((beside, Some(beyond))) = beside else { continue };
            let joins = (is_value(row) && below.is_none()) || is_alike(row, beside);
            let common = decided[beside].filter(|_| joins && decided[beside] == decided[beyond]);
            columns[row] = common.filter(|column| fits(row, beside, *column));
        }
        let blanks = |(row, column): (usize, &Option<(usize, bool)>)| {
            let (column, is_end) = (*column)?;
            let cell = rows[row].cells.get(place)?;
            Some((row, self.blanks(&rows[row], cell, column, is_end)?))
        };
        columns.iter().enumerate().filter_map(blanks).collect()
    }

    /// Which rows stand in one column with each other alone, are moved by as much, and so come to
    /// stand in the column of a row beside them that stays.
    fn joining(
        &self,
        rows: &[Row],
        next: &dyn Fn(usize) -> Option<usize>,
        place: usize,
    ) -> Vec<bool> {
        let mut joining = vec![false; rows.len()];
        let stands_and_will = |row: &usize| {
            let cell = rows[*row].cells.get(place)?;
            Some((cell.at(false), cell.mended(rows[*row].moved)?))
        };
        for head in (0..rows.len()).filter(|row| rows[*row].above.is_none()) {
            let chain: Vec<usize> = std::iter::successors(Some(head), |row| next(*row)).collect();
            for alike in chain.chunk_by(|row, below| stands_and_will(row) == stands_and_will(below))
            {
                let moves = stands_and_will(&alike[0]).is_some_and(|(stands, will)| stands != will);
                let joins = |row: usize| {
                    self.lined_up(rows, next, row, place, Side::Mended).is_some()
                };
                if moves && alike.len() > 1 && (joins(alike[0]) || joins(alike[alike.len() - 1])) {
                    alike.iter().for_each(|row| joining[*row] = true);
                }
            }
        }
        joining
    }

    /// The column in which most of the numbers near one end, if some of them are set off for that, or their
    /// rows' first numbers are.
    fn number_column(
        &self,
        rows: &[Row],
        next: &dyn Fn(usize) -> Option<usize>,
        row: usize,
        place: usize,
    ) -> Option<(usize, bool)> {
        let cell = |row: usize| {
            let cell = rows[row].cells.get(place)?;
            is_number(self.token_text(cell.token)).then_some(cell)
        };
        cell(row)?;
        let near = |most: usize| -> Vec<&Cell> {
            let before = std::iter::successors(rows[row].above, |row| rows[*row].above);
            let behind = std::iter::successors(next(row), |row| next(*row));
            before.take(most).chain(behind.take(most)).filter_map(cell).collect()
        };
        let beside = near(BESIDE);
        let agreeing = |end: usize| beside.iter().filter(|cell| cell.at(true) == end).count();
        let ends = beside.iter().map(|cell| cell.at(true));
        let end = ends.max_by_key(|end| agreeing(*end))?;
        let is_common = agreeing(end) > 1 && agreeing(end) * 2 > beside.len();
        // As many figures in each say nothing, and neither do those that nothing sets off.
        let near = near(MOST_NEAR).into_iter().chain(cell(row));
        let agreeing: Vec<&Cell> = near.filter(|cell| cell.at(true) == end).collect();
        let is_set_off = || {
            self.first_numbers.contains_key(&rows[row].first)
                || (agreeing.iter().any(|cell| cell.at(false) != agreeing[0].at(false))
                    && agreeing.iter().any(|cell| cell.blanks > cell.usual.max(1)))
        };
        (is_common && is_set_off()).then_some((end, true))
    }

    /// The column that a cell has in common with the one above it or below it, unless all of them
    /// have as many blanks as if nothing was lined up.
    fn lined_up(
        &self,
        rows: &[Row],
        next: &dyn Fn(usize) -> Option<usize>,
        row: usize,
        place: usize,
        side: Side,
    ) -> Option<usize> {
        let own = rows[row].cells.get(place)?;
        let is_end = side == Side::End;
        let column = match side {
            Side::Mended => own.mended(rows[row].moved)?,
            Side::Start | Side::End => own.at(is_end),
        };
        // What begins with a bracket is lined up there.
        if is_end && self.tree.opens(self.token_text(own.token)) {
            return None;
        }
        let agrees = |other: Option<usize>| {
            let other_row = &rows[other?];
            let cell = other_row.cells.get(place)?;
            let is_level = match side {
                // A line that is mended joins one that stays.
                Side::Mended => {
                    cell.mended(other_row.moved) == Some(column)
                        && (own.at(false) == column || cell.at(false) == column)
                }
                Side::Start | Side::End => cell.at(is_end) == column,
            };
            let is_one = cell.kind == own.kind && is_level;
            // As many blanks behind as many columns line nothing up, unless there are several.
            let is_meant = cell.blanks != own.blanks || own.blanks > own.usual.max(1);
            // Words of unlike lines end in one column by chance, and elements of unlike lists stand
            // in one.
            let kind = |token: TokenId| self.tree.tokens[token as usize].kind;
            let is_list = own.kind == Column::Table;
            let (before, own_before) = (cell.token.saturating_sub(1), own.token.saturating_sub(1));
            // What stands right behind a bracket is lined up with what does behind one in its column.
            let is_beside = || {
                !self.tree.opens(self.token_text(own_before))
                    || self.column(before as usize) == self.column(own_before as usize)
            };
            let is_meant =
                is_meant && (!is_list || (kind(before) == kind(own_before) && is_beside()));
            let is_alike = || kind(other_row.first) == kind(rows[row].first);
            let may_be_chance = is_end || (is_list && !is_alike());
            let is_meant = is_meant
                && (!may_be_chance
                    || [cell, own].iter().all(|of| is_number(self.token_text(of.token)))
                    || cell.token - other_row.first == own.token - rows[row].first);
            let fits = self.blanks(other_row, cell, column, is_end).is_some()
                && self.blanks(&rows[row], own, column, is_end).is_some();
            (is_one && is_meant && fits).then_some(column)
        };
        // One line between two that agree may do otherwise.
        let above = rows[row].above;
        let (over, below) = (above.and_then(|above| rows[above].above), next(row));
        let beyond = below.and_then(next);
        [above, below, over, beyond].into_iter().find_map(agrees)
    }

    /// How many blanks bring a cell to a column, if it fits there.
    fn blanks(&self, row: &Row, cell: &Cell, column: usize, is_end: bool) -> Option<usize> {
        let before = usize::try_from(cell.before as isize + row.moved).ok()?;
        let width = if is_end { cell.end.saturating_sub(cell.start) } else { 0 };
        let blanks = column.checked_sub(cell.indent + before + width)?;
        let least = cell.usual;
        let token = cell.token as usize;
        let stop = self.measures.next_break(token + 1);
        let rest = self.measures.head(token, stop).unwrap_or(0);
        let fits = blanks == least || cell.indent + before + blanks + rest <= self.max;
        (blanks >= least && blanks <= WIDEST && fits && row.first < cell.token).then_some(blanks)
    }

    fn token_text(&self, token: TokenId) -> &str {
        let token = &self.tree.tokens[token as usize];
        &self.text[token.start as usize..token.end as usize]
    }

    /// The column at which a row begins in the text, and how much further in its first token will be.
    fn row_column(&self, first: usize) -> (usize, isize) {
        match self.first_numbers.get(&(first as TokenId)) {
            Some(number) => (number.base, number.pad as isize),
            None => (self.column(first), 0),
        }
    }

    /// The column at which a token begins in the text.
    fn column(&self, token: usize) -> usize {
        let start = self.tree.tokens[token].start as usize;
        columns(&self.text[self.lines.start(self.lines.line_of(start))..start], self.tab)
    }

    /// The column at which a token ends.
    fn end_column(&self, token: usize) -> usize {
        let (start, end) = (self.tree.tokens[token].start, self.tree.tokens[token].end as usize);
        let line = self.lines.start(self.lines.line_of(start as usize));
        columns(self.text[line..end].split('\n').next().unwrap_or_default(), self.tab)
    }
}
