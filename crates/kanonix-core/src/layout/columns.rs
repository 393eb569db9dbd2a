//! What neighbouring lines have lined up in columns stays so, where `columns` keeps it.

use super::agree::Neighbours;
use super::first_words::FirstWords;
use super::measure::{Measures, columns};
use super::plan::{Column, Gap, Group, GroupId, Plan, Want};
use crate::style::{Key, Setting, Style};
use crate::syntax::{Role, TokenId, Tree};
use crate::text::Lines;

/// On lines longer than this many bytes nothing is lined up. Bounds the work on hostile input.
const LONGEST: usize = 400;

/// More blanks than these line nothing up.
const WIDEST: usize = 100;

/// Which of its line's cells one is. Two lines may line up cells of one seat.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Debug)]
pub(super) struct Seat {
    pub kind: Column,
    /// How many brackets of its line are open around it.
    depth: i16,
    sort: Sort,
    /// How many such cells its line has before it.
    nth: usize,
}

impl Seat {
    /// Whether it is a sign's, or that of what stands behind one.
    pub fn is_signs(self) -> bool {
        matches!(self.sort, Sort::Sign | Sort::Behind)
    }
}

/// What a cell begins with.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Debug)]
enum Sort {
    Element,
    /// A key in brackets of its own: `[10]`.
    Key,
    Closer,
    /// The bracket of a block.
    Opener,
    /// `=`, `=>`.
    Sign,
    /// What stands behind a sign.
    Behind,
    /// A word that goes on with a construct, and what stands behind it.
    Word,
}

/// A place on a line where a column may be.
#[derive(Clone, Copy, Debug)]
pub(super) struct Cell {
    /// What begins there.
    pub token: TokenId,
    pub seat: Seat,
    /// Its own columns in the text, from where its line's first token begins to where it begins.
    start: usize,
    /// The same to where the cell ends that begins with it.
    end: usize,
    /// How far in its line is.
    indent: usize,
    /// How many blanks the text has before it, and how many it has where nothing is lined up.
    pub blanks: usize,
    pub usual: usize,
    /// The columns that will stand before these blanks, from the line's first token on, where
    /// nothing before them is lined up.
    before: usize,
    /// How many more they are by what is.
    pub moved: isize,
    /// How many more blanks it has by being lined up; until that is decided, by what it has.
    wider: isize,
    /// What it is lined up with.
    pub column: Option<Lined>,
    /// What opens the brackets that it is in, if that is on its line.
    pub bracket: Option<Bracket>,
    /// Whether nothing else is in them.
    pub is_alone: bool,
}

/// An opening bracket on a row.
#[derive(Clone, Copy, Debug)]
pub(super) struct Bracket {
    pub token: TokenId,
    /// Its own columns in the text, from where its line's first token begins to where it ends.
    end: usize,
    /// The same once what stands before it is mended, where nothing of that is lined up.
    mended: usize,
    /// How many of its row's cells stand before it.
    behind: usize,
}

/// A column that a cell begins or ends in.
#[derive(Clone, Copy, PartialEq, Eq, Debug)]
pub(super) struct Lined {
    pub column: usize,
    pub is_end: bool,
}

impl Cell {
    /// The column of its start, with as many blanks as it has, once what stands before them is mended.
    pub fn mended(&self) -> Option<usize> {
        Some(self.indent + self.stands()? + self.blanks)
    }

    /// The columns before its blanks.
    fn stands(&self) -> Option<usize> {
        usize::try_from(self.before as isize + self.moved).ok()
    }

    /// The column of its start or of its end.
    pub fn at(&self, is_end: bool) -> usize {
        self.indent + if is_end { self.end } else { self.start }
    }
}

/// A line with its cells.
pub(super) struct Row {
    /// Its first token.
    pub first: TokenId,
    pub cells: Vec<Cell>,
    /// Whether it is an element of a list, and no statement.
    pub is_element: bool,
    /// How much further in it will be.
    pub pad: isize,
    /// Which of the stretches between blank lines it is in.
    pub paragraph: usize,
}

impl Row {
    fn new(
        first: TokenId,
        mut cells: Vec<Cell>,
        is_element: bool,
        pad: isize,
        paragraph: usize,
    ) -> Row {
        let mut moved = pad;
        for cell in &mut cells {
            cell.moved = moved;
            moved += cell.wider;
        }
        Row { first, cells, is_element, pad, paragraph }
    }

    /// How far the bracket of a cell will move, if it stands in the column of another cell's, and how
    /// far that one will.
    pub fn shifts(&self, own: &Cell, other: (&Row, &Cell)) -> Option<(isize, isize)> {
        let (bracket, beside) = (own.bracket?, other.1.bracket?);
        let is_level = own.indent + bracket.end == other.1.indent + beside.end;
        is_level.then(|| (self.shift(bracket), other.0.shift(beside)))
    }

    /// How far a bracket will move.
    pub fn shift(&self, bracket: Bracket) -> isize {
        let before = bracket.behind.checked_sub(1).map(|at| &self.cells[at]);
        let moved = before.map_or(self.pad, |cell| cell.moved + cell.wider);
        bracket.mended as isize + moved - bracket.end as isize
    }

    /// Gives one of its cells so many blanks more than it has where nothing is lined up.
    pub fn widen(&mut self, at: usize, wider: isize) {
        let further = wider - self.cells[at].wider;
        self.cells[at].wider = wider;
        if further != 0 {
            self.cells[at + 1..].iter_mut().for_each(|cell| cell.moved += further);
        }
    }
}

/// Gives the gaps of lined-up signs, values and elements as many blanks as that takes.
pub(super) fn place(
    plan: &mut Plan,
    tree: &Tree,
    text: &str,
    style: &Style,
    lines: &Lines,
    measures: &mut Measures,
    first_words: &FirstWords,
) {
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
        return;
    }
    let max = style.number(Setting::MaxLineLength, Key::Whole).unwrap_or(u32::MAX) as usize;
    let is_list = |group: &&Group| group.bracketed && group.is_beside();
    let mut heads: Vec<TokenId> =
        plan.groups.iter().filter(is_list).filter_map(|group| group.under).collect();
    heads.retain(|token| !tree.tokens[*token as usize].broken);
    heads.sort_unstable();
    let tab = style.tab_columns();
    let page = Page { tree, text, lines, measures, first_words, heads, tab, max };
    let runs = page.runs(plan, &set_off, &is_kept);
    let mut lined_up: Vec<_> =
        runs.into_iter().flat_map(|rows| Neighbours::new(&page, rows).blanks()).collect();
    lined_up.sort_unstable();
    let mut wider = Vec::with_capacity(lined_up.len());
    for (token, blanks) in lined_up {
        let gap = &mut plan.gaps[token as usize];
        wider.push((token, blanks as i32 - i32::from(gap.blanks)));
        (gap.blanks, gap.setting) = (blanks as u8, Setting::Columns);
    }
    measures.widen(&wider);
}

/// What is asked of a text at every turn.
pub(super) struct Page<'a> {
    pub tree: &'a Tree,
    text: &'a str,
    lines: &'a Lines,
    measures: &'a Measures,
    pub first_words: &'a FirstWords,
    /// The first elements of lists that are lined up with them.
    heads: Vec<TokenId>,
    tab: usize,
    max: usize,
}

impl Page<'_> {
    /// The lines that have cells, together with those above that they may be lined up with: the
    /// last one that is as far in, without one further out between them. Between blank lines that
    /// hold nothing of what is set off, nothing is looked for.
    fn runs(
        &self,
        plan: &Plan,
        set_off: &[usize],
        is_kept: &dyn Fn(Column) -> bool,
    ) -> Vec<Vec<Row>> {
        let tokens = &self.tree.tokens;
        let mut runs: Vec<Vec<Row>> = Vec::new();
        // The runs that a later row may belong to: how far in, and which.
        let mut open: Vec<(usize, usize)> = Vec::new();
        let (mut first, mut paragraph) = (0, 0);
        while first < tokens.len() {
            let is_below_blank = self.is_below_blank(first);
            paragraph += usize::from(is_below_blank);
            if is_below_blank || first == 0 {
                let next = (first + 1..tokens.len())
                    .find(|at| tokens[*at].broken && self.is_below_blank(*at))
                    .unwrap_or(tokens.len());
                let near = set_off.partition_point(|at| *at < first);
                if set_off.get(near).is_none_or(|at| *at >= next) {
                    if tokens[first..next].iter().any(|token| token.role != Role::Comment) {
                        open.clear();
                    }
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
            let is_comment = tokens[first].role == Role::Comment;
            let closes = self.tree.closes(self.token_text(first as TokenId));
            if !is_comment {
                open.retain(|(depth, _)| *depth <= indent);
            }
            let mut start = first;
            while start < end {
                // A list's first element that stays behind its bracket begins a row, too.
                let next = self.heads.partition_point(|head| *head as usize <= start);
                let stop = self.heads.get(next).map_or(end, |head| end.min(*head as usize));
                let (depth, moved) = self.row_column(start);
                let cells = self.cells(plan, start, stop, depth, is_kept);
                // What closes goes on with the row that opened it.
                if !is_comment && !(closes && cells.is_empty()) {
                    let beside = open.iter().rev().find(|(own, _)| *own == depth);
                    let run = beside.map_or(runs.len(), |(_, run)| *run);
                    open.retain(|(own, _)| *own < depth);
                    if !cells.is_empty() {
                        open.push((depth, run));
                        let is_element = plan.group_of(start).is_some_and(|group| group.bracketed);
                        if run == runs.len() {
                            runs.push(Vec::new());
                        }
                        let row =
                            Row::new(start as TokenId, cells, is_element, moved, paragraph);
                        runs[run].push(row);
                    }
                }
                start = stop;
            }
            first = end;
        }
        runs
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
        let mut cells: Vec<Cell> = Vec::new();
        let last = (first + 1..end).rev().find(|at| is_kept(plan.gaps[*at].column));
        let Some(last) = last else { return cells };
        let (mut depth, mut brackets) = (0i16, Vec::new());
        for index in first + 1..=last {
            let gap = &plan.gaps[index];
            if self.tree.opens(self.token_text(index as TokenId - 1)) {
                depth += 1;
                let bracket = |mended| Bracket {
                    token: index as TokenId - 1,
                    end: self.end_column(index - 1).saturating_sub(indent),
                    mended,
                    behind: cells.len(),
                };
                brackets.push(self.measures.head(first, index).map(bracket));
            }
            if self.tree.closes(self.token_text(index as TokenId)) {
                depth -= 1;
                brackets.pop();
            }
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
            let sort = self.sort(gap, index as TokenId);
            let is_alone = self.tree.opens(self.token_text(index as TokenId - 1))
                && stop + 1 < end
                && self.tree.closes(self.token_text(stop as TokenId + 1));
            let mut seat = Seat { kind: gap.column, depth, sort, nth: 0 };
            let is_such = |cell: &&Cell| Seat { nth: 0, ..cell.seat } == seat;
            seat.nth = cells.iter().rev().find(is_such).map_or(0, |cell| cell.seat.nth + 1);
            cells.push(Cell {
                token: index as TokenId,
                seat,
                start,
                end: self.end_column(stop).saturating_sub(indent),
                indent,
                blanks: present.len(),
                usual: usize::from(gap.blanks),
                before,
                moved: 0,
                wider: present.len().saturating_sub(usize::from(gap.blanks)) as isize,
                column: None,
                bracket: brackets.last().copied().flatten(),
                is_alone,
            });
        }
        cells
    }

    fn sort(&self, gap: &Gap, token: TokenId) -> Sort {
        let (word, before) = (self.token_text(token), self.token_text(token - 1));
        let is_mark = |byte: u8| b"=:<>+-*/%&|^!?~".contains(&byte);
        let is_sign = |word: &str| !word.is_empty() && word.bytes().all(is_mark);
        match gap.column {
            _ if self.tree.closes(word) => Sort::Closer,
            Column::Table if gap.group.is_none() => Sort::Key,
            Column::Table | Column::None => Sort::Element,
            Column::Value if is_sign(before) => Sort::Behind,
            Column::Value if self.tree.opens(word) => Sort::Opener,
            Column::Value if is_sign(word) => Sort::Sign,
            Column::Value => Sort::Word,
        }
    }

    /// The last token of the cell that begins with a token: what stands before the separator, the
    /// closing bracket, a comment, the end of what it is in or that of the line.
    fn cell_end(&self, plan: &Plan, token: usize, end: usize) -> usize {
        let gap = &plan.gaps[token];
        let inside = |group: GroupId| {
            let group = &plan.groups[group];
            group.end as usize - usize::from(group.bracketed)
        };
        let end = gap.group.map_or(end, |group| end.min(inside(group).max(token + 1)));
        let next = (token + 1..end).find(|at| {
            let other = &plan.gaps[*at];
            let goes_on = other.column == Column::Value && gap.column == Column::Value;
            let is_closed = gap.group.is_none()
                && gap.column == Column::Table
                && self.tree.closes(self.token_text(*at as TokenId));
            let is_other = self.tree.tokens[*at].role == Role::Comment
                || (other.group == gap.group && gap.group.is_some());
            is_other || goes_on || is_closed
        });
        let last = next.unwrap_or(end) - 1;
        let text = &self.tree.tokens[last];
        let is_mark = matches!(&self.text[text.start as usize..text.end as usize], "," | ";");
        if is_mark && last > token { last - 1 } else { last }
    }

    /// How many blanks bring a cell to a column, if it fits there.
    pub fn blanks(&self, row: &Row, cell: &Cell, lined: Lined) -> Option<usize> {
        let before = cell.stands()?;
        let width = if lined.is_end { cell.end.saturating_sub(cell.start) } else { 0 };
        let blanks = lined.column.checked_sub(cell.indent + before + width)?;
        let least = cell.usual;
        let token = cell.token as usize;
        let stop = self.measures.next_break(token + 1);
        let rest = self.measures.head(token, stop).unwrap_or(0);
        let fits = blanks == least || cell.indent + before + blanks + rest <= self.max;
        (blanks >= least && blanks <= WIDEST && fits && row.first < cell.token).then_some(blanks)
    }

    pub fn token_text(&self, token: TokenId) -> &str {
        let token = &self.tree.tokens[token as usize];
        &self.text[token.start as usize..token.end as usize]
    }

    /// The column at which a row begins in the text, and how much further in its first token will be.
    fn row_column(&self, first: usize) -> (usize, isize) {
        match self.first_words.get(&(first as TokenId)) {
            Some(place) => (place.base, place.pad as isize),
            None => (self.column(first), 0),
        }
    }

    /// The column at which a token begins in the text.
    pub fn column(&self, token: usize) -> usize {
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
