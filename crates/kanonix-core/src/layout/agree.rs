//! Which cells of neighbouring rows stand in one column, or will once they are mended.

use super::columns::{Cell, Lined, Page, Seat, Row};
use super::first_words::is_number;
use super::plan::Column;
use crate::syntax::TokenId;
use std::collections::BTreeMap;

/// So many rows on each side say whether a column of numbers is lined up.
const MOST_NEAR: usize = 16;

/// So many blanks more than there were before what is lined up draw it in.
const MUCH: usize = 4;

/// So many on each side say where its numbers end.
const BESIDE: usize = 3;

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

/// Rows one after another that may be lined up.
pub(super) struct Neighbours<'a> {
    page: &'a Page<'a>,
    rows: Vec<Row>,
    /// What the cells of the seat that is looked at are, and which of each row's cells has it.
    kind: Column,
    places: Vec<Option<usize>>,
}

impl Neighbours<'_> {
    pub fn new<'a>(page: &'a Page<'a>, rows: Vec<Row>) -> Neighbours<'a> {
        let places = vec![None; rows.len()];
        Neighbours { page, rows, kind: Column::None, places }
    }

    /// How many blanks what is lined up has before it, where those are not as many as if it was not.
    pub fn blanks(mut self) -> Vec<(TokenId, usize)> {
        let is_set_off = |row: &Row| {
            row.cells.iter().any(|cell| cell.blanks != cell.usual)
                || self.page.first_words.contains_key(&row.first)
        };
        if self.rows.len() < 2 || !self.rows.iter().any(is_set_off) {
            return Vec::new();
        }
        for (seat, places) in self.seats() {
            self.kind = seat.kind;
            places.iter().for_each(|(row, at)| self.places[*row] = Some(*at));
            let rows: Vec<usize> = places.into_iter().map(|(row, _)| row).collect();
            self.line_up(&rows);
            rows.iter().for_each(|row| self.places[*row] = None);
        }
        let mut blanks = Vec::new();
        for row in &mut self.rows {
            let mut moved = row.pad;
            for at in 0..row.cells.len() {
                row.cells[at].moved = moved;
                let cell = row.cells[at];
                let lined = cell.column.and_then(|lined| self.page.blanks(row, &cell, lined));
                if let Some(wanted) = lined.filter(|wanted| *wanted != cell.usual) {
                    moved += wanted as isize - cell.usual as isize;
                    blanks.push((cell.token, wanted));
                }
            }
        }
        blanks
    }

    /// The seats that there are, each with the rows that have it and which of their cells that is.
    /// What stands further left in the rows that have most comes first.
    fn seats(&self) -> Vec<(Seat, Vec<(usize, usize)>)> {
        let mut seats: BTreeMap<Seat, Vec<(usize, usize)>> = BTreeMap::new();
        for (row, own) in self.rows.iter().enumerate() {
            for (at, cell) in own.cells.iter().enumerate() {
                seats.entry(cell.seat).or_default().push((row, at));
            }
        }
        let mut seats: Vec<_> = seats.into_iter().collect();
        seats.sort_by_cached_key(|(_, places)| places.iter().map(|(_, at)| *at).max());
        seats
    }

    /// A row's cell of the seat that is looked at.
    fn cell(&self, row: usize) -> Option<&Cell> {
        let at = (*self.places.get(row)?)?;
        Some(&self.rows[row].cells[at])
    }

    /// What a row's cell is lined up with, as far as that is decided.
    fn decided(&self, row: usize) -> Option<Lined> {
        self.cell(row)?.column
    }

    /// Whether no blank line stands between two rows.
    fn is_together(&self, row: usize, other: usize) -> bool {
        self.rows[row].paragraph == self.rows[other].paragraph
    }

    /// The row above one, up to a blank line.
    fn above(&self, row: usize) -> Option<usize> {
        row.checked_sub(1).filter(|above| self.is_together(*above, row))
    }

    /// The row below one, down to a blank line.
    fn below(&self, row: usize) -> Option<usize> {
        Some(row + 1).filter(|below| *below < self.rows.len() && self.is_together(*below, row))
    }

    /// Decides what the cells of the seat are lined up with, which these rows have.
    fn line_up(&mut self, rows: &[usize]) {
        let (apart, rows): (Vec<usize>, Vec<usize>) =
            rows.iter().partition(|row| self.falls_apart(**row));
        self.decide(&apart, &vec![None; apart.len()]);
        let rows = &rows[..];
        let joining = self.joining(rows);
        let mut own: Vec<Option<Lined>> = rows
            .iter()
            .zip(&joining)
            .map(|(row, joins)| {
                if *joins {
                    let column = self.cell(*row)?.mended()?;
                    return Some(Lined { column, is_end: false });
                }
                [Side::Start, Side::End, Side::Mended].into_iter().find_map(|side| {
                    let column = self.lined_up(*row, side)?;
                    Some(Lined { column, is_end: side == Side::End })
                })
            })
            .collect();
        self.draw_in(rows, &mut own);
        self.decide(rows, &own);
        let joined: Vec<Option<Lined>> =
            rows.iter().zip(own).map(|(row, own)| self.joined(*row, own)).collect();
        self.decide(rows, &joined);
        let alone: Vec<Option<Lined>> = rows
            .iter()
            .zip(joined)
            .map(|(row, joined)| joined.or_else(|| self.beyond_blank(*row)))
            .collect();
        self.decide(rows, &alone);
    }

    /// The column in which the sign of a row between blank lines stands, if that of the one beyond
    /// them does, too, and stays there.
    fn beyond_blank(&self, row: usize) -> Option<Lined> {
        let is_alone = |row: usize| self.above(row).is_none() && self.below(row).is_none();
        let own = self.cell(row)?;
        if !own.seat.is_signs() || !is_alone(row) {
            return None;
        }
        let lined = Lined { column: own.at(false), is_end: false };
        let agrees = |other: &usize| {
            let Some(cell) = self.cell(*other) else { return false };
            let stays = cell.blanks == cell.usual
                || cell.column == Some(lined)
                || (cell.column.is_none() && is_alone(*other));
            stays
                && cell.at(false) == lined.column
                && self.is_meant((&self.rows[row], own), (&self.rows[*other], cell), false)
                && self.page.blanks(&self.rows[*other], cell, lined).is_some()
                && self.page.blanks(&self.rows[row], own, lined).is_some()
        };
        let beside = [row.checked_sub(1), Some(row + 1)].into_iter().flatten();
        beside.filter(|other| *other < self.rows.len()).any(|other| agrees(&other)).then_some(lined)
    }

    /// Remembers what the cells of the seat are lined up with, and moves those behind them.
    fn decide(&mut self, rows: &[usize], columns: &[Option<Lined>]) {
        for (row, lined) in rows.iter().zip(columns) {
            let Some(at) = self.places[*row] else { continue };
            let row = &mut self.rows[*row];
            let cell = row.cells[at];
            let blanks = lined.and_then(|lined| self.page.blanks(row, &cell, lined));
            let further = blanks.map_or(0, |blanks| blanks as isize - cell.usual as isize);
            row.cells[at].column = *lined;
            row.widen(at, further);
        }
    }

    /// What a row's cell is lined up with: numbers by their ends, and what is lined up with none by
    /// itself as those beside it are.
    fn joined(&self, row: usize, own: Option<Lined>) -> Option<Lined> {
        if let Some(own) = own.filter(|own| own.is_end) {
            // A row that moves takes its numbers to where most of them end.
            let will_end = |cell: &Cell| Some(cell.mended()? + cell.at(true) - cell.at(false));
            let end = self.cell(row).and_then(will_end);
            let moved = self.number_column(row).filter(|most| Some(most.column) == end);
            return moved.or(Some(own));
        }
        let fits = |lined: &Lined| {
            let cell = self.cell(row);
            cell.is_some_and(|cell| self.page.blanks(&self.rows[row], cell, *lined).is_some())
        };
        let agreed = |beside: usize, beyond: usize| {
            let lined = self.decided(beside)?;
            let is_level = self.stays_level(row, beside) && self.stays_level(row, beyond);
            let agrees = self.decided(beyond) == Some(lined) && is_level;
            (agrees && fits(&lined)).then_some(lined)
        };
        let from_neighbours = || match (self.above(row), self.below(row)) {
            (Some(above), Some(below)) => agreed(above, below),
            // A list's first or last element joins two beside it.
            (above, below) if self.rows[row].is_element => {
                let (beside, beyond) = match below {
                    Some(below) => (below, self.below(below)?),
                    None => (above?, self.above(above?)?),
                };
                let is_alike = self.rows[row].cells.len() == self.rows[beside].cells.len();
                let joins = is_alike || (self.kind == Column::Value && below.is_none());
                agreed(beside, beyond).filter(|_| joins)
            }
            _ => None,
        };
        let by_end = self.number_column(row).filter(fits);
        by_end.or(own).or_else(from_neighbours)
    }

    /// Which rows stand in one column with each other alone, are moved by as much, and so come to
    /// stand in the column of a row beside them that stays.
    fn joining(&self, rows: &[usize]) -> Vec<bool> {
        let stands_and_will = |row: usize| {
            let cell = self.cell(row)?;
            Some((cell.at(false), cell.mended()?))
        };
        let is_alike = |row: &usize, below: &usize| {
            self.below(*row) == Some(*below) && stands_and_will(*row) == stands_and_will(*below)
        };
        let mut joining = Vec::with_capacity(rows.len());
        for alike in rows.chunk_by(is_alike) {
            let (first, last) = (alike[0], alike[alike.len() - 1]);
            let moves = stands_and_will(first).is_some_and(|(stands, will)| stands != will);
            let joins = |row: usize| self.lined_up(row, Side::Mended).is_some();
            let joins = moves && first != last && (joins(first) || joins(last));
            joining.resize(joining.len() + alike.len(), joins);
        }
        joining
    }

    /// A row's cell, if it is a number.
    fn number(&self, row: usize) -> Option<&Cell> {
        self.cell(row).filter(|cell| is_number(self.page.token_text(cell.token)))
    }

    /// The numbers in so many rows before a row and behind it, whose brackets move as its own does.
    fn numbers_near(&self, row: usize, most: usize) -> impl Iterator<Item = &Cell> {
        let is_near = move |other: &usize| self.is_together(row, *other);
        let before = (0..row).rev().take(most).take_while(is_near);
        let behind = (row + 1..self.rows.len()).take(most).take_while(is_near);
        let level = move |other: usize| {
            let number = self.number(other)?;
            self.stays_level(row, other).then_some(number)
        };
        before.chain(behind).filter_map(level)
    }

    /// The column in which most of the numbers near one end, if some of them are set off for that, or their
    /// rows' first numbers are.
    fn number_column(&self, row: usize) -> Option<Lined> {
        let own = self.number(row)?;
        let beside: Vec<usize> =
            self.numbers_near(row, BESIDE).map(|cell| cell.at(true)).collect();
        let agreeing = |end: usize| beside.iter().filter(|other| **other == end).count();
        let column = beside.iter().copied().max_by_key(|end| agreeing(*end))?;
        let is_common = agreeing(column) > 1 && agreeing(column) * 2 > beside.len();
        if !is_common || !self.is_set_off(row, own, column) {
            return None;
        }
        let around = row.saturating_sub(BESIDE)..(row + BESIDE + 1).min(self.rows.len());
        let mut shifts = around.filter(|other| *other != row).filter_map(|o| self.shifts(row, o));
        let shift = shifts.next().map_or(0, |(own, _)| own);
        Some(Lined { column: column.checked_add_signed(shift)?, is_end: true })
    }

    /// Whether something sets off the numbers that end in a column: as many figures in each say nothing.
    fn is_set_off(&self, row: usize, own: &Cell, column: usize) -> bool {
        let agreeing = || {
            let near = self.numbers_near(row, MOST_NEAR).chain([own]);
            near.filter(|cell| cell.at(true) == column)
        };
        // One blank sets a value off from its sign.
        let few = usize::from(self.kind == Column::Value);
        let differ = || {
            let mut starts = agreeing().map(|cell| cell.at(false));
            starts.next().is_some_and(|first| starts.any(|start| start != first))
        };
        // One blank more before each of them leaves room for the sign of one that has some.
        let is_signed = |cell: &Cell| self.page.token_text(cell.token).starts_with(['-', '+']);
        let has_room = |cell: &Cell| cell.blanks == cell.usual + 1 && !is_signed(cell);
        self.page.first_words.contains_key(&self.rows[row].first)
            || (agreeing().any(|cell| cell.blanks > cell.usual.max(few)) && differ())
            || (is_signed(own) && agreeing().all(has_room))
    }

    /// The column that a row's cell has in common with the one above it or below it, unless all of
    /// them have as many blanks as if nothing was lined up.
    fn lined_up(&self, row: usize, side: Side) -> Option<usize> {
        let own_row = &self.rows[row];
        let own = self.cell(row)?;
        let is_end = side == Side::End;
        // What begins with a bracket is lined up there.
        if is_end && self.page.tree.opens(self.page.token_text(own.token)) {
            return None;
        }
        let agrees = |other: Option<usize>| {
            let cell = self.cell(other?)?;
            let other_row = &self.rows[other?];
            let shift = match self.shifts(row, other?) {
                Some((own, other)) if own != other => return None,
                shifts => shifts.map_or(0, |(own, _)| own),
            };
            let column = match side {
                Side::Mended => own.mended()?,
                Side::Start | Side::End => own.at(is_end).checked_add_signed(shift)?,
            };
            let is_level = match side {
                // A line that is mended joins one that stays.
                Side::Mended => {
                    cell.mended() == Some(column)
                        && (own.at(false) == column || cell.at(false) == column)
                }
                Side::Start | Side::End => cell.at(is_end) == own.at(is_end),
            };
            let lined = Lined { column, is_end };
            let agrees = is_level
                && self.is_meant((own_row, own), (other_row, cell), is_end)
                && self.page.blanks(other_row, cell, lined).is_some()
                && self.page.blanks(own_row, own, lined).is_some();
            agrees.then_some(column)
        };
        // One line between two that agree may do otherwise.
        let (above, below) = (self.above(row), self.below(row));
        let over = above.and_then(|above| self.above(above));
        let beyond = below.and_then(|below| self.below(below));
        [above, below, over, beyond].into_iter().find_map(agrees)
    }

    /// Where what stands before a column becomes much shorter in all of its rows, it goes with that: it is as
    /// far behind the longest as it was.
    fn draw_in(&self, rows: &[usize], lined: &mut [Option<Lined>]) {
        if self.kind != Column::Value {
            return;
        }
        let mut start = 0;
        for column in rows.chunk_by(|row, below| {
            let column = |row: usize| Some(self.cell(row)?.at(false));
            self.below(*row) == Some(*below) && column(*row) == column(*below)
        }) {
            let lined = &mut lined[start..start + column.len()];
            start += column.len();
            // How many columns each becomes shorter by, and how many blanks more than it needs it had.
            let shorter = |row: &usize| {
                let cell = self.cell(*row)?;
                let shorter = cell.at(false).checked_sub(cell.mended()?)?;
                Some((shorter, cell.blanks.checked_sub(cell.usual)?))
            };
            let Some(all) = column.iter().map(shorter).collect::<Option<Vec<_>>>() else {
                continue
            };
            let at = self
                .cell(column[0])
                .map(|cell| Lined { column: cell.at(false), is_end: false });
            let is_one = lined.iter().all(|own| *own == at);
            let before = all.iter().map(|(_, spare)| *spare).min().unwrap_or(0);
            let behind = all.iter().map(|(shorter, spare)| shorter + spare).min().unwrap_or(0);
            let moves = all.len() > 1 && is_one && all.iter().all(|(shorter, _)| *shorter > 0);
            if moves && behind >= before + MUCH {
                lined.iter_mut().flatten().for_each(|own| own.column -= behind - before);
            }
        }
    }

    /// How far the bracket that a row's cell is in will move, and the one of another row's cell that
    /// stands in its column: what is in both moves with them.
    fn shifts(&self, row: usize, other: usize) -> Option<(isize, isize)> {
        let (own, cell) = (self.cell(row)?, self.cell(other)?);
        let is_table = self.kind == Column::Table;
        is_table.then(|| self.rows[row].shifts(own, (&self.rows[other], cell))).flatten()
    }

    /// Whether the bracket that a row's cell is in leaves others that stand in its column.
    fn falls_apart(&self, row: usize) -> bool {
        let bracket = self.cell(row).and_then(|cell| cell.bracket);
        if bracket.is_none_or(|bracket| self.rows[row].shift(bracket) == 0) {
            return false;
        }
        let level = |other: usize| self.shifts(row, other);
        let before = (0..row).rev().take(MOST_NEAR).map_while(level);
        let behind = (row + 1..self.rows.len()).take(MOST_NEAR).map_while(level);
        before.chain(behind).any(|(own, other)| own != other)
    }

    /// Whether such brackets move by as much.
    fn stays_level(&self, row: usize, other: usize) -> bool {
        self.shifts(row, other).is_none_or(|(own, other)| own == other)
    }

    /// Whether it is no chance that the cells of two rows stand in one column.
    fn is_meant(&self, own: (&Row, &Cell), other: (&Row, &Cell), is_end: bool) -> bool {
        let (tree, page) = (self.page.tree, self.page);
        let ((own_row, own), (other_row, cell)) = (own, other);
        // As many blanks behind as many columns line nothing up, unless there are several.
        if cell.blanks == own.blanks && own.blanks <= own.usual.max(1) {
            return false;
        }
        // One blank before the bracket of a statement is a slip more often than a column.
        let closes = tree.closes(page.token_text(own.token));
        if closes && own.usual == 0 && cell.blanks.max(own.blanks) == 1 && !own_row.is_element {
            return false;
        }
        // Words of unlike lines end in one column by chance, and elements of unlike lists stand in one.
        let kind = |token: TokenId| tree.tokens[token as usize].kind;
        let is_list = self.kind == Column::Table;
        let (before, own_before) = (cell.token.saturating_sub(1), own.token.saturating_sub(1));
        // What stands right behind a bracket is lined up with what does behind one in its column.
        let is_beside = || {
            !tree.opens(page.token_text(own_before))
                || page.column(before as usize) == page.column(own_before as usize)
        };
        if is_list && !closes && !(kind(before) == kind(own_before) && is_beside()) {
            return false;
        }
        let opener = |cell: &Cell| cell.bracket.map(|bracket| page.token_text(bracket.token));
        if is_list && own.bracket.is_some() && cell.bracket.is_some() && opener(own) != opener(cell)
        {
            return false;
        }
        let are_numbers = || [cell, own].iter().all(|of| is_number(page.token_text(of.token)));
        if is_end && (cell.is_alone || own.is_alone) && !are_numbers() {
            return false;
        }
        let may_be_chance = is_end || (is_list && kind(other_row.first) != kind(own_row.first));
        !may_be_chance
            || are_numbers()
            || cell.token - other_row.first == own.token - own_row.first
    }
}
