//! Gives every live gap its text, in one pass from the first token to the last.

use super::Sheet;
use super::choices;
use super::indent::{IndentId, Indents};
use super::live::Live;
use super::measure::columns;
use super::plan::{ByGroup, Counts, Gap, Group, GroupId, Shape, TreeEdit, Want, When};
use super::steps::{self, Steps};
use crate::style::{Key, Setting, Style};
use crate::syntax::Role;
use crate::text::LineSet;
use std::cell::OnceCell;
use std::collections::{HashMap, HashSet};

/// The stars of a comment stand no further in than this, behind its first line: under its mark or
/// one blank beside it.
const STAR_BLANKS: usize = 1;

/// What a gap becomes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Filled {
    /// What stands there.
    Present,
    /// So many blanks on one line.
    Blanks(u8),
    /// Line breaks, and then this indentation. What is `None` stays as it is.
    Lines {
        /// How many line breaks.
        breaks: Option<u32>,
        /// What the next token's line begins with.
        indent: Option<IndentId>,
        /// Whether blanks before the first line break go.
        trim: bool,
    },
}

/// What became of a group.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum State {
    /// Not reached, or not free to change its form.
    Still,
    Flat,
    Open,
    /// Open, but for the first gap: the first element stays behind the bracket.
    Beside,
    /// Open, with the lines of several elements that it has in the text.
    Rows,
    /// Open, with as many elements on a line as there is room for.
    Filled,
    /// The same without any brackets: the words of a text.
    Flowing,
    /// Open at its brackets, with all of its elements on the line between.
    Inner,
}

impl State {
    /// Whether its closing bracket has its own line, and what follows from that.
    pub(super) fn is_open(self) -> bool {
        matches!(self, State::Open | State::Beside | State::Filled | State::Inner)
    }
}

/// The gaps of one text under one line set.
pub struct Filling {
    /// One before each token, and one at the end of the file.
    pub gaps: Vec<Filled>,
    /// The indentations that the gaps name.
    pub indents: Indents,
    /// As far as a group's closing bracket goes.
    states: ByGroup<State>,
    live_tokens: Vec<bool>,
    /// Of each group, whether its closing bracket has its own line where the group is open.
    closes_apart: ByGroup<bool>,
}

impl Filling {
    /// Whether a group takes several lines.
    pub fn is_open(&self, group: GroupId) -> bool {
        self.states[group].is_open()
    }

    /// Whether a rewrite of this token takes place.
    pub fn applies(&self, token: usize, change: &TreeEdit) -> bool {
        let when = match change {
            TreeEdit::Respell(_) | TreeEdit::Reorder(_) | TreeEdit::Take(..) => When::Always,
            TreeEdit::Remove(when) | TreeEdit::Insert(_, when) => *when,
            TreeEdit::Wrap(_) => When::Always,
        };
        self.live_tokens[token]
            && match when {
                When::Always => true,
                When::Flat(group) => match self.states[group] {
                    State::Flat => true,
                    State::Still => false,
                    _ => !self.closes_apart[group],
                },
                When::Open(group) => self.states[group].is_open() && self.closes_apart[group],
            }
    }
}

/// Longer than any line.
const UNLIMITED: usize = usize::MAX / 2;

/// Where lines are as long as somebody makes them, none that is longer is made of several.
const LONGEST_JOINED: usize = 100;

/// Fills the live gaps of `sheet`.
pub(super) fn fill(sheet: &Sheet, live: &Live, set: &LineSet, style: &Style) -> Filling {
    let tab = style.tab_columns();
    let limit = style.number(Setting::MaxLineLength, Key::Whole);
    let keeps = choices::remembers(style);
    let mut filler = Filler {
        sheet,
        live,
        set,
        tab,
        max: limit.map_or(UNLIMITED, |columns| columns as usize),
        joined: if limit.is_none() && keeps { LONGEST_JOINED } else { UNLIMITED },
        trim: style.flag(Setting::TrimTrailingWhitespace, Key::Whole),
        final_line: style.flag(Setting::InsertFinalNewline, Key::Whole),
        keeps,
        gaps: vec![Filled::Present; sheet.tree.tokens.len() + 1],
        indents: Indents::new(style.indent_step(), tab, sheet.mixing),
        steps: match set.is_whole() || live.nothing() {
            true => Steps::canon(style.indent_step()),
            false => Steps::new(sheet, live, set, style),
        },
        body_steps: HashMap::new(),
        usual_step: OnceCell::new(),
        replaced: OnceCell::new(),
        line_starts: Vec::new(),
        stands_under: HashMap::new(),
        states: sheet.plan.groups.all(State::Still),
        fills: style.is(Setting::ListWrap, Key::Whole, "rows"),
        row_first: style.is(Setting::ListWrap, Key::Whole, "row_first"),
        alike: HashSet::new(),
        leading: sheet.plan.groups.all(false),
        under: sheet.plan.groups.all(None),
        below: sheet.plan.groups.all(false),
        beneath: sheet.plan.groups.all(false),
        indent_of: vec![None; sheet.tree.tokens.len()],
        last_comment: None,
        line_start: 0,
        column: 0,
        line_indent: 0,
        root: 0,
        flat_until: 0,
    };
    filler.root = filler.indents.of(sheet.depth);
    filler.run();
    let mut states = sheet.plan.groups.all(State::Still);
    for group in sheet.plan.groups.ids() {
        if !filler.keeps_form(group) {
            states[group] = filler.closing_state(group);
        }
    }
    let live_tokens = sheet.units.of_token.iter().map(|unit| live.unit[*unit as usize]).collect();
    let mut closes_apart = sheet.plan.groups.all(true);
    for group in sheet.plan.groups.ids().skip(1) {
        closes_apart[group] = sheet.plan.closes_apart(group);
    }
    Filling { gaps: filler.gaps, indents: filler.indents, states, live_tokens, closes_apart }
}

pub(super) struct Filler<'a> {
    pub(super) sheet: &'a Sheet<'a>,
    pub(super) live: &'a Live,
    pub(super) set: &'a LineSet,
    pub(super) tab: usize,
    pub(super) max: usize,
    /// How long a line may be that is made of several, where lines have no limit otherwise.
    pub(super) joined: usize,
    trim: bool,
    final_line: bool,
    /// Whether the text has a say.
    pub(super) keeps: bool,
    /// Whether a list that does not fit has as many elements on a line as there is room for.
    pub(super) fills: bool,
    /// Whether such a list has all of them on one inner line, if there is room.
    pub(super) row_first: bool,
    pub(super) gaps: Vec<Filled>,
    pub(super) indents: Indents,
    steps: Steps,
    /// Of blocks whose header is not live, the step of their bodies.
    body_steps: HashMap<GroupId, String>,
    /// By how many columns most blocks are set in in the text, once somebody has asked.
    pub(super) usual_step: OnceCell<Option<usize>>,
    /// What the lines that stood in the place of others were indented by, once somebody has asked.
    pub(super) replaced: OnceCell<HashMap<usize, String>>,
    /// Lines that were asked about, and whether they stand under something.
    pub(super) stands_under: HashMap<usize, bool>,
    pub(super) states: ByGroup<State>,
    /// Records that open with their neighbours.
    pub(super) alike: HashSet<GroupId>,
    /// Of each group, whether its first token begins a line.
    pub(super) leading: ByGroup<bool>,
    /// Of each group that is lined up, the indentation that its lines have.
    pub(super) under: ByGroup<Option<IndentId>>,
    /// Of each list that would begin beside its bracket, whether it has no room there.
    pub(super) below: ByGroup<bool>,
    /// Of each chain, whether its head takes several lines.
    beneath: ByGroup<bool>,
    /// By token: the indentation of the line that it stands on, where it is live.
    pub(super) indent_of: Vec<Option<IndentId>>,
    /// The tokens that lines begin with, where some of them are signs that what opens behind them stands
    /// further in than.
    pub(super) line_starts: Vec<usize>,
    /// The last live comment, the indentation of its line and its column.
    pub(super) last_comment: Option<(usize, IndentId, usize)>,
    /// The token that the line begins with.
    pub(super) line_start: usize,
    /// Columns before the next token.
    pub(super) column: usize,
    pub(super) line_indent: IndentId,
    /// What the outermost lines are indented by.
    pub(super) root: IndentId,
    /// Tokens before this one are in a group that fits.
    pub(super) flat_until: usize,
}

impl Filler<'_> {
    fn run(&mut self) {
        let sheet = self.sheet;
        let count = sheet.tree.tokens.len();
        let (mut next_group, mut next_head) = (0, 0);
        let begins = |at: usize| {
            let group = sheet.plan.order.get(at);
            group.map_or(usize::MAX, |group| sheet.plan.groups[*group].first as usize)
        };
        let mut next_begins = begins(next_group);
        for index in 0..count {
            let unit_index = sheet.units.of_token[index] as usize;
            let unit = &sheet.units.all[unit_index];
            let is_live = self.live.unit[unit_index];
            let starts_unit = unit.first as usize == index;
            if starts_unit {
                self.indents.step_by(self.steps.of_unit(unit_index));
            }
            if !is_live {
                if starts_unit {
                    self.before_still_unit(index);
                } else if self.live.moved[unit_index] {
                    self.shift(index);
                }
                self.begins_line(index, false);
                self.line_up(index, &mut next_head, false);
                continue;
            }
            if starts_unit {
                self.before_live_unit(index, unit_index);
            } else {
                self.inner_gap(index);
            }
            self.indent_of[index] = Some(self.line_indent);
            self.begins_line(index, true);
            self.line_up(index, &mut next_head, true);
            while next_begins <= index {
                let group = sheet.plan.order[next_group];
                if next_begins == index && group != GroupId::ROOT {
                    self.leading[group] = self.line_start == index;
                    self.decide(group, index);
                }
                next_group += 1;
                next_begins = begins(next_group);
            }
            self.pass_token(index);
        }
        self.end_of_file(count);
    }

    /// Moves past a token.
    fn pass_token(&mut self, index: usize) {
        let token = &self.sheet.tree.tokens[index];
        if token.role == Role::Comment && !token.continues {
            self.last_comment = Some((index, self.line_indent, self.column));
        }
        if token.multi_line {
            self.column = self.sheet.measures.tail(index);
        } else {
            self.column += self.sheet.measures.width(index) + self.open_comma(index);
        }
    }

    /// The columns of a comma at or behind a token that is there because the list around it is open.
    fn open_comma(&self, index: usize) -> usize {
        let plan = &self.sheet.plan;
        let comes = plan.rewrites_of(index).iter().any(|rewrite| match rewrite.change {
            TreeEdit::Remove(When::Flat(group)) => {
                self.states[group] == State::Still
                    || (self.state(group) != State::Flat && plan.closes_apart(group))
            }
            TreeEdit::Insert(_, When::Open(group)) => {
                self.states[group].is_open() && plan.closes_apart(group)
            }
            _ => false,
        });
        usize::from(comes)
    }

    // ---- indentation ---------------------------------------------------------------------------

    /// The indentation that a group's levels count from.
    pub(super) fn stem_indent(&mut self, group: Option<GroupId>) -> IndentId {
        match group {
            None | Some(GroupId::ROOT) => self.root,
            Some(group) => {
                let Group { stem, counts, .. } = self.sheet.plan.groups[group];
                let token = stem as usize;
                let column = self.under[group].filter(|_| counts == Counts::Stem);
                let column = column.or_else(|| self.beside_its_bracket(group));
                column.unwrap_or_else(|| {
                    let line = self.line_indent_of(token);
                    self.indents.deeper(line, self.steps_behind_sign(token))
                })
            }
        }
    }

    /// The indentation of the line that a token stands on.
    pub(super) fn line_indent_of(&mut self, token: usize) -> IndentId {
        self.indent_of[token].unwrap_or_else(|| self.present_line_indent(token))
    }

    /// The column of the element that a chain is, where that stays behind the bracket of its list, and the
    /// other elements stand under it: the chain's lines stand further in than they do.
    fn beside_its_bracket(&self, chain: GroupId) -> Option<IndentId> {
        let plan = &self.sheet.plan;
        let own = &plan.groups[chain];
        let list = plan.gaps[own.first as usize].group.filter(|list| {
            plan.groups[*list].opening == Some(own.first)
                && matches!(self.state(*list), State::Beside | State::Filled | State::Rows)
                && self.begins_beside(*list)
        });
        let is_plain_chain = own.shape == Shape::Chain
            && !own.bracketed
            && own.stem == own.first
            && own.like.is_none();
        list.filter(|_| is_plain_chain).and_then(|list| self.under[list])
    }

    /// The indentation of the line on which a token stands in the text.
    pub(super) fn present_line_indent(&mut self, token: usize) -> IndentId {
        self.indents.of(self.sheet.indentation_at(token))
    }

    // ---- gaps inside a live unit ----------------------------------------------------------------

    fn inner_gap(&mut self, index: usize) {
        let sheet = self.sheet;
        let gap = &sheet.plan.gaps[index];
        let is_comment = sheet.tree.tokens[index].role == Role::Comment;
        if gap.want == Want::Flat && !is_comment {
            let bytes = &sheet.text.as_bytes()[sheet.tree.gap(index, sheet.text.len())];
            if matches!(bytes, b"" | b" ") {
                return self.blanks(index, gap.blanks);
            }
        }
        let present = sheet.present(index);
        if is_comment && let Some(blanks) = self.lines_up_comment(index, present) {
            return self.blanks(index, blanks);
        }
        if !is_blank(present) {
            return self.keep(index, present);
        }
        let is_broken = self.sheet.tree.broken(index, self.sheet.text);
        let token = &self.sheet.tree.tokens[index];
        let open = match gap.want {
            Want::Keep => return self.keep(index, present),
            Want::GoWith => return self.go_with(index, present, gap.group),
            Want::Flat => false,
            // A line always starts a unit, and so is never inside one.
            Want::Line | Want::Newline => true,
            Want::Break => match gap.group.map_or(State::Still, |group| self.states[group]) {
                State::Still
                    if self.sheet.plan.group_of(index).is_none_or(|g| g.shape != Shape::List) =>
                {
                    if is_broken {
                        return self.keep(index, present);
                    }
                    gap.chosen
                }
                _ => self.is_line(index),
            },
        };
        if !open {
            if is_broken && self.sheet.tree.ends_its_line(index - 1, self.sheet.text) {
                return self.keep(index, present);
            }
            return self.blanks(index, gap.blanks);
        }
        let indent = if token.continues {
            // As far behind the line on which the comment begins as it was, or one blank.
            let first = self.last_comment.map_or(index, |(first, ..)| first);
            let begin = sheet.indentation_at(first);
            let blanks = sheet.indentation_at(index).strip_prefix(begin).map(str::len);
            let blanks = blanks.filter(|blanks| *blanks <= STAR_BLANKS).unwrap_or(1);
            self.indents.behind(self.line_indent, blanks)
        } else {
            let own = self.own_place(index);
            self.line_indent = own.unwrap_or_else(|| self.inside(index, gap));
            self.line_indent
        };
        self.line_start = index;
        let blank_lines = breaks_in(present).saturating_sub(1);
        let breaks = blank_lines.min(u32::from(gap.most)) + 1;
        self.gaps[index] =
            Filled::Lines { breaks: Some(breaks), indent: Some(indent), trim: self.trim };
        self.column = self.indents.columns(indent);
    }

    fn blanks(&mut self, index: usize, blanks: u8) {
        self.gaps[index] = Filled::Blanks(blanks);
        self.column += usize::from(blanks);
    }

    /// How many steps a line is in that begins at a gap.
    pub(super) fn level(&mut self, index: usize, gap: &Gap) -> u8 {
        let Some(id) = gap.group.filter(|group| *group != GroupId::ROOT) else { return gap.level };
        let group = &self.sheet.plan.groups[id];
        match group.counts {
            Counts::Leading(level) if self.leading[id] && gap.inside => level + gap.by_choice,
            Counts::Beneath => {
                if group.opening == Some(index as u32) {
                    let head = &self.sheet.tree.tokens[group.first as usize..index];
                    let goes_on = self.line_start > group.first as usize;
                    self.beneath[id] = goes_on || head.iter().any(|token| token.multi_line);
                }
                if self.beneath[id] { 0 } else { gap.level }
            }
            Counts::Steps | Counts::Leading(_) | Counts::Stem => gap.level,
        }
    }

    fn keep(&mut self, index: usize, present: &str) {
        self.gaps[index] = Filled::Present;
        match present.rfind('\n') {
            Some(at) => {
                self.column = columns(&present[at + 1..], self.tab);
                self.line_indent = self.present_line_indent(index);
                self.line_start = index;
            }
            None => self.column += columns(present, self.tab),
        }
    }

    /// A line that goes with the one that its group's stem stands on, and is never less far in.
    fn go_with(&mut self, index: usize, present: &str, group: Option<GroupId>) {
        self.keep(index, present);
        let Some(group) = group.filter(|_| self.line_start == index) else { return };
        let stem = self.sheet.plan.groups[group].stem as usize;
        let least = self.present_line_indent(stem);
        let is_less = !self.indents.text(self.line_indent).starts_with(self.indents.text(least));
        let from = if is_less { least } else { self.line_indent };
        let indent = self.shifted(from, stem);
        if indent != self.line_indent {
            self.line_indent = indent;
            self.column = self.indents.columns(indent);
            self.gaps[index] =
                Filled::Lines { breaks: None, indent: Some(indent), trim: self.trim };
        }
    }

    // ---- gaps before units --------------------------------------------------------------------

    fn before_live_unit(&mut self, index: usize, unit_index: usize) {
        let sheet = self.sheet;
        let gap = sheet.plan.gaps[index];
        let present = sheet.present(index);
        let after_fault = index > 0
            && sheet.units.all[sheet.units.of_token[index - 1] as usize].fault;
        let opened = gap.group.filter(|group| {
            sheet.plan.groups[*group].opening == Some(index as u32)
        });
        if let Some(group) = opened {
            self.decide_within(group);
        }
        let joins = gap.want == Want::Break
            && gap.group.is_some_and(|group| match self.states[group] {
                State::Flat => true,
                State::Open => false,
                State::Rows
                | State::Beside
                | State::Filled
                | State::Flowing
                | State::Inner => !self.is_line(index),
                // A row behind what holds units of its own is none of the bracket's, and one behind a row that
                // is not in play leaves that its line.
                State::Still => {
                    let bracket = sheet.plan.groups[group].first as usize;
                    let bracket = &sheet.units.all[sheet.units.of_token[bracket] as usize];
                    let before = sheet.units.of_token[index.saturating_sub(1)] as usize;
                    sheet.units.ragged[group]
                        && !sheet.plan.groups[group].is_forced()
                        && self.live.unit[before]
                        && !self.keeps_form(group)
                        && self.state_at(index) == State::Flat
                        && bracket.stretch == sheet.units.all[unit_index].stretch
                }
            });
        if joins && is_blank(present) && !after_fault {
            // The list around it is flat now: it is no unit any more.
            return self.inner_gap(index);
        }
        if !is_blank(present) || after_fault {
            self.keep(index, present);
            self.line_indent = self.present_line_indent(index);
            if !present.contains('\n') {
                self.column = self.present_column(index);
            }
            return;
        }
        let anchor =
            self.live.anchor[unit_index].filter(|_| !sheet.comments.contains_key(&(index as u32)));
        let indent = match anchor {
            _ if let Some(indent) = self.own_place(index) => indent,
            Some(anchor) => {
                let first = sheet.units.all[anchor as usize].first;
                self.present_line_indent(first as usize)
            }
            None if index == 0 && gap.group.is_none() => self.root,
            None if let Some(indent) = self.under_comment(index) => indent,
            None if self.is_lined_up(index) || self.closes_what_stays(index) => {
                self.present_line_indent(index)
            }
            None => self.placed(index, unit_index),
        };
        let indent = self.behind_its_first_word(index, anchor, indent);
        self.line_start = index;
        self.line_indent = indent;
        self.column = self.indents.columns(indent);
        let breaks = self.breaks_before(index);
        self.gaps[index] =
            Filled::Lines { breaks, indent: Some(indent), trim: self.trims_before(index) };
    }

    /// Where a unit stands that lines up with nothing: so many steps deeper than its group's first
    /// line. A block whose header is not live keeps its body's present step, if that is one of the
    /// file's or the canon's.
    fn placed(&mut self, index: usize, unit_index: usize) -> IndentId {
        let sheet = self.sheet;
        let gap = sheet.plan.gaps[index];
        if let Some(indent) = gap.group.and_then(|group| self.by_the_text(group, gap.level)) {
            return indent;
        }
        let (stem, level) = (self.stem_indent(gap.group), self.level(index, &gap));
        let Some(group) = steps::group_of(&sheet.units.all[unit_index]) else {
            return self.indents.deeper(stem, level);
        };
        let holder = sheet.plan.groups[group].stem as usize;
        if self.live.unit[sheet.units.of_token[holder] as usize] {
            return self.indents.deeper(stem, level);
        }
        let header = self.indents.text(stem);
        // A comment above it that is not in play shows better how far in the body is.
        let above = (0..index).rev().take_while(|at| sheet.tree.tokens[*at].role == Role::Comment);
        let is_still = |at: &usize| !self.live.unit[sheet.units.of_token[*at] as usize];
        let shown = above
            .filter(|at| sheet.tree.broken(*at, sheet.text) && is_still(at))
            .find_map(|at| sheet.indentation_at(at).strip_prefix(header))
            .filter(|step| !step.is_empty());
        let present = shown.or(sheet.indentation_at(index).strip_prefix(header));
        let step = self.steps.of_old(present).to_string();
        let step = self.body_steps.entry(group).or_insert(step).clone();
        self.indents.step_by(&step);
        let indent = self.indents.deeper(stem, level);
        self.indents.step_by(self.steps.of_unit(unit_index));
        indent
    }

    /// The line breaks before a unit, if they are live.
    pub(super) fn breaks_before(&self, index: usize) -> Option<u32> {
        let sheet = self.sheet;
        let gap = &sheet.plan.gaps[index];
        let present = breaks_in(sheet.present(index));
        let missing = present == 0 && index > 0;
        if !missing && !self.blank_lines_are_live(index) {
            return None;
        }
        if index == 0 {
            return Some(0);
        }
        let most = u32::from(gap.most.max(gap.least));
        Some(present.saturating_sub(1).clamp(u32::from(gap.least), most) + 1)
    }

    /// Blank lines are live when a touched blank line or a seam lies in the gap, its ends included,
    /// or when the lines on both sides are touched.
    fn blank_lines_are_live(&self, index: usize) -> bool {
        if self.set.is_whole() {
            return true;
        }
        let sheet = self.sheet;
        let first = match index {
            0 => 0,
            _ => sheet.lines.line_of(sheet.tree.tokens[index - 1].end as usize) + 1,
        };
        let token = sheet.tree.tokens.get(index);
        let last = token.map_or(sheet.lines.count(), |t| sheet.lines.line_of(t.start as usize));
        (last > first && self.set.touches(first..last))
            || self.set.has_seam(first, last)
            || (first == last
                && first > 0
                && self.set.touches(first - 1..first)
                && self.set.touches(last..last + 1))
    }

    /// Blanks at a line's end are live when the line is touched, or when the unit that ends there
    /// is live.
    pub(super) fn trims_before(&self, index: usize) -> bool {
        if !self.trim || index == 0 {
            return self.trim && self.blank_lines_are_live(index);
        }
        let sheet = self.sheet;
        let unit = sheet.units.of_token[index - 1] as usize;
        if self.live.unit[unit] {
            return true;
        }
        let line = sheet.lines.line_of(sheet.tree.tokens[index - 1].end as usize);
        self.set.touches(line..line + 1)
    }

    fn end_of_file(&mut self, count: usize) {
        let sheet = self.sheet;
        let present = sheet.present(count);
        if !is_blank(present) {
            return;
        }
        let last_unit = sheet.units.all.last();
        let is_fault = last_unit.is_some_and(|unit| unit.fault);
        let last_line = last_unit.map_or(0, |unit| unit.last_line as usize);
        let seen = self.set.touches(last_line..sheet.lines.count())
            || (count > 0 && self.blank_lines_are_live(count));
        if is_fault || !seen || sheet.plan.keeps_end {
            return;
        }
        if count == 0 {
            // A file of blanks: nothing to end.
            self.gaps[0] = Filled::Lines { breaks: None, indent: None, trim: self.trim };
            return;
        }
        let breaks = u32::from(self.final_line);
        self.gaps[count] = Filled::Lines { breaks: Some(breaks), indent: Some(0), trim: self.trim };
    }
}

/// Whether a gap's text is blanks, tabs and line breaks only. Others (a form feed, a no-break
/// space) are somebody's, and stay.
pub(super) fn is_blank(text: &str) -> bool {
    let mut returns = false;
    let blank = text.bytes().all(|byte| {
        returns |= byte == b'\r';
        matches!(byte, b' ' | b'\t' | b'\n' | b'\r')
    });
    blank && (!returns || !text.replace("\r\n", "").contains('\r'))
}

fn breaks_in(gap: &str) -> u32 {
    gap.bytes().filter(|byte| *byte == b'\n').count() as u32
}
