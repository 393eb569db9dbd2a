//! Widths: whether something fits is one subtraction of running sums.

use super::plan::{Around, Group, GroupId, Plan, Rows, Shape, TreeEdit, Want, When};
use crate::style::Setting;
use crate::syntax::{Role, TokenId, Tree};

/// How many stretches between forced line breaks a group is asked about before it counts as one
/// that cannot stay flat around them. Bounds the work on hostile input.
const MOST_STRETCHES: usize = 64;

/// Opens every list that has a line break inside it and may not stay flat around one, so that
/// whatever is around it can count on that.
pub fn force(plan: &mut Plan, tree: &Tree, text: &str) {
    let mut breaks = Vec::with_capacity(tree.tokens.len() + 1);
    // Of each list in rows, how many of the breaks are its own.
    let mut own = plan.groups.all(0u32);
    let mut count = 0u32;
    for (index, token) in tree.tokens.iter().enumerate() {
        // Before each token: how many breaks lie at or before its gap, tokens over lines included.
        let ends_line = plan.ends_line(index, tree, text);
        count += u32::from(ends_line);
        if let Some(group) = plan.gaps[index].group
            && ends_line
            && plan.groups[group].rows == Rows::Kept
        {
            own[group] += 1;
        }
        breaks.push(count);
        count += u32::from(token.multi_line);
    }
    breaks.push(count);
    for id in plan.groups.ids() {
        let group = &mut plan.groups[id];
        if group.shape == Shape::List && group.around == Around::OneLine {
            let inner = breaks[group.end as usize - 1] - breaks[group.first as usize];
            group.force_if(inner > own[id]);
        }
    }
}

/// Running sums over a plan, in columns, as if the file were one line.
pub struct Measures {
    /// Where each token begins.
    start: Vec<u32>,
    /// Where each token ends; a token over several lines ends with its first line.
    end: Vec<u32>,
    /// Columns of the last line of each token over several lines.
    tails: Vec<(u32, u32)>,
    /// By gap: the nearest gap from here on, itself included, where a line may end.
    next_break: Vec<u32>,
    /// By token: the nearest place from here on where a line must end: twice the token for a gap,
    /// one more for a token over several lines.
    next_forced: Vec<u32>,
}

impl Measures {
    /// Measures every token and gap once.
    pub fn new(plan: &Plan, tree: &Tree, text: &str, tab: usize) -> Measures {
        let count = tree.tokens.len();
        let mut measures = Measures {
            start: Vec::with_capacity(count),
            end: Vec::with_capacity(count),
            tails: Vec::new(),
            next_break: vec![count as u32; count + 1],
            next_forced: vec![u32::MAX; count + 1],
        };
        // Where no character is wider or narrower than its byte.
        let is_plain = text.is_ascii() && !text.as_bytes().contains(&b'\t');
        let mut column = 0u32;
        for (index, token) in tree.tokens.iter().enumerate() {
            let gap = &plan.gaps[index];
            column = column.saturating_add(match gap.want {
                Want::Keep | Want::GoWith => {
                    let present = &text[tree.gap(index, text.len())];
                    if present.contains('\n') { 0 } else { columns(present, tab) as u32 }
                }
                Want::Newline => 0,
                _ => u32::from(gap.blanks),
            });
            measures.start.push(column);
            let token_text = || &text[token.start as usize..token.end as usize];
            let mut width = if token.multi_line {
                let (first, rest) = token_text().split_once('\n').unwrap_or((token_text(), ""));
                let last = rest.rsplit('\n').next().unwrap_or_default();
                measures.tails.push((index as u32, columns(last, tab) as u32));
                columns(first.trim_end_matches('\r'), tab) as u32
            } else if is_plain || (token.role == Role::Plain && token_text().is_ascii()) {
                token.end - token.start
            } else {
                columns(token_text(), tab) as u32
            };
            for rewrite in plan.rewrites_of(index) {
                match &rewrite.change {
                    TreeEdit::Remove(When::Always | When::Flat(_)) => width = 0,
                    TreeEdit::Insert(text, When::Always) => width += text.len() as u32,
                    TreeEdit::Respell(text) | TreeEdit::Take(text, _) if !token.multi_line => {
                        width = columns(text, tab) as u32;
                    }
                    // Only the quotes differ, each as wide as the other.
                    TreeEdit::Respell(_) | TreeEdit::Reorder(_) | TreeEdit::Take(..) => {}
                    TreeEdit::Insert(..) | TreeEdit::Remove(When::Open(_)) | TreeEdit::Wrap(_) => {}
                }
            }
            column = column.saturating_add(width);
            measures.end.push(column);
        }
        measures.find_ends(plan, tree, text);
        measures
    }

    /// Gives gaps, in the order of the text, so many columns more than they had.
    pub fn widen(&mut self, gaps: &[(TokenId, i32)]) {
        let ends = gaps.iter().skip(1).map(|(token, _)| *token as usize);
        let mut further = 0i32;
        for ((token, wider), end) in gaps.iter().zip(ends.chain([self.start.len()])) {
            further = further.saturating_add(*wider);
            let from = *token as usize;
            for column in self.start[from..end].iter_mut().chain(&mut self.end[from..end]) {
                *column = column.saturating_add_signed(further);
            }
        }
    }

    fn find_ends(&mut self, plan: &Plan, tree: &Tree, text: &str) {
        let count = tree.tokens.len();
        for index in (0..count).rev() {
            let gap = &plan.gaps[index];
            let token = &tree.tokens[index];
            let kept_break = gap.want.keeps() && tree.broken(index, text);
            let beside = token.role == Role::Comment && gap.setting == Setting::CommentGap;
            let after_lines = index > 0 && tree.tokens[index - 1].multi_line;
            let may_end =
                !(gap.want.keeps() || gap.want == Want::Flat)
                || kept_break
                || beside
                || after_lines;
            let group = plan.group_of(index);
            // Rows that somebody laid out stay, whoever else could be opened.
            let has_rows = |group: &Group| {
                let opening = group.opening.filter(|_| group.rows == Rows::Kept);
                opening.is_some_and(|gap| tree.broken(gap as usize, text))
            };
            let waits = gap.want == Want::Break
                && group.is_some_and(|group| group.waits() && !has_rows(group));
            let may_end = may_end && !waits;
            self.next_break[index] =
                if may_end { index as u32 } else { self.next_break[index + 1] };
            let must_end = plan.ends_line(index, tree, text);
            // What lies ahead of the token before this one: this gap, or what lies ahead of it.
            if token.multi_line {
                self.next_forced[index] = 2 * index as u32 + 1;
            }
            if index > 0 {
                self.next_forced[index - 1] =
                    if must_end { 2 * index as u32 } else { self.next_forced[index] };
            }
        }
    }

    /// Columns of a token that stands on one line, or of its first line.
    pub fn width(&self, token: usize) -> usize {
        (self.end[token] - self.start[token]) as usize
    }

    /// Columns of the last line of a token over several lines.
    pub fn tail(&self, token: usize) -> usize {
        let found = self.tails.binary_search_by_key(&(token as u32), |(token, _)| *token);
        found.map_or(0, |index| self.tails[index].1 as usize)
    }

    /// Columns of the tokens `first..end` on one line.
    fn span(&self, first: usize, end: usize) -> usize {
        (self.end[end - 1].saturating_sub(self.start[first])) as usize
    }

    /// Columns of what follows `end` on the same line whatever is decided.
    fn trailing(&self, end: usize) -> usize {
        let stop = self.next_break[end] as usize;
        if stop > end { (self.end[stop - 1] - self.end[end - 1]) as usize } else { 0 }
    }

    /// Columns from the end of what stands before the token `from` to the end of what stands before
    /// `to`.
    pub fn between(&self, from: usize, to: usize) -> usize {
        (self.end[to - 1] - self.end[from - 1]) as usize
    }

    /// The nearest gap from `from` on where a line may end.
    pub fn next_break(&self, from: usize) -> usize {
        self.next_break[from] as usize
    }

    /// The nearest gap behind a token where a line must end, if no token over several lines stands before
    /// it.
    pub fn next_line(&self, token: usize) -> Option<usize> {
        let forced = self.next_forced[token];
        (forced % 2 == 0).then_some(forced as usize / 2)
    }

    /// The columns that the tokens `first..end` and what must follow them take on one line; `None`
    /// if they cannot stand on one line.
    pub fn flat(&self, first: usize, end: usize) -> Option<usize> {
        ((self.next_forced[first] as usize) >= 2 * end)
            .then(|| self.span(first, end) + self.trailing(end))
    }

    /// The columns of the tokens `first..stop`, if no line must end among them.
    pub fn head(&self, first: usize, stop: usize) -> Option<usize> {
        ((self.next_forced[first] as usize) >= 2 * stop).then(|| self.span(first, stop))
    }

    /// Whether a group can stay flat around things inside it that take several lines: every stretch
    /// between forced line breaks must fit by itself.
    pub fn holds(
        &self,
        plan: &Plan,
        group: GroupId,
        column: usize,
        indent: usize,
        max: usize,
    ) -> bool {
        let group = &plan.groups[group];
        let (mut at, end) = (group.first as usize, group.end as usize);
        let mut column = column;
        for _ in 0..MOST_STRETCHES {
            let forced = self.next_forced[at] as usize;
            if forced >= 2 * end {
                return column + self.span(at, end) + self.trailing(end) <= max;
            }
            let stop = forced / 2;
            if forced % 2 == 1 {
                if column + self.span(at, stop + 1) > max {
                    return false;
                }
                at = stop + 1;
                // What follows a text's last line, where that is too long itself, tells nothing.
                column = Some(self.tail(stop)).filter(|tail| *tail <= max).unwrap_or(0);
                if at < end {
                    column += (self.start[at] - self.end[stop]) as usize;
                }
            } else {
                if column + self.span(at, stop) > max {
                    return false;
                }
                let gap = &plan.gaps[stop];
                at = stop;
                if let Some(inner) = plan.group_of(stop) {
                    if inner.shape != Shape::Block && group.around != Around::Lists {
                        return false;
                    }
                    let closer = &plan.gaps[inner.end as usize - 1];
                    let closes = closer.group == gap.group && closer.level == 0;
                    at = (inner.end as usize - usize::from(closes)).max(stop);
                }
                column = indent;
            }
            if at >= end {
                return column + self.trailing(end) <= max;
            }
        }
        false
    }
}

/// How many columns a stretch of one line takes: one a character, and for a tab as many as `tab`.
pub fn columns(text: &str, tab: usize) -> usize {
    if text.is_ascii() {
        let tabs = if tab == 1 { 0 } else { text.bytes().filter(|byte| *byte == b'\t').count() };
        text.len() + tabs * (tab - 1)
    } else {
        text.chars().map(|c| if c == '\t' { tab } else { 1 }).sum()
    }
}
