//! Holds the wanted gaps against the present ones: edits, and slips with their reasons.

use super::Sheet;
use super::fill::{Filled, Filling};
use super::indent::Mixing;
use super::live::Live;
use super::measure::columns;
use super::moves::{Moves, Rearranged};
use super::plan::{Rewrite, TreeEdit, Want, Wrap};
use crate::style::{Key, Setting, Style};
use crate::syntax::TokenId;
use crate::text::{Edit, LineEnd, LineSet, Lines};
use std::borrow::Cow;

/// One place where the text departs from what is agreed.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Slip {
    /// The byte that a reader is pointed at.
    pub offset: usize,
    /// How many bytes from there on are meant; 0 for a single place.
    pub length: usize,
    /// The setting that asks for something else.
    pub setting: Setting,
    /// What is wanted, in a reader's words.
    pub message: String,
}

/// Edits in ascending order, and slips in ascending order of their places.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Comparison {
    /// What has to change.
    pub edits: Vec<Edit>,
    /// What has to change before that, so that the text can be laid out: statements are wrapped. If
    /// there is anything, the edits are those of a text that stays as it is.
    pub wraps: Wraps,
    /// What has to change places, or go, before that.
    pub moves: Moves,
    /// What changed places among the edits, or went, in the order in which it did.
    pub rearranged: Vec<Rearranged>,
    /// Why.
    pub slips: Vec<Slip>,
    /// The changes to tokens that are among the edits, ascending by token.
    pub declared: Vec<Declared>,
}

/// Statements that are wrapped.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Wraps {
    /// The brackets.
    pub edits: Vec<Edit>,
    /// Of each of them: the token that it stands behind.
    pub behind: Vec<TokenId>,
    /// The same as changes to the tree.
    pub declared: Vec<Declared>,
    /// Why.
    pub slips: Vec<Slip>,
}

/// A change to a token that takes place.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Declared {
    /// The token of the old text.
    pub token: TokenId,
    /// What becomes of it.
    pub change: TreeEdit,
}

impl Declared {
    /// The same of another text, of whose tokens `of` gives the one that each of them is.
    pub fn carried(self, of: impl Fn(TokenId) -> Option<TokenId>) -> Option<Declared> {
        let change = match self.change {
            TreeEdit::Wrap(wrap) => {
                TreeEdit::Wrap(Wrap { header: of(wrap.header)?, last: of(wrap.last)?, ..wrap })
            }
            TreeEdit::Take(text, source) => TreeEdit::Take(text, of(source)?),
            change => change,
        };
        Some(Declared { token: of(self.token)?, change })
    }
}

pub(super) fn compare(
    sheet: &Sheet,
    filling: &Filling,
    live: &Live,
    set: &LineSet,
    style: &Style,
) -> Comparison {
    let target = if style.is(Setting::EndOfLine, Key::Whole, "lf") {
        Some(LineEnd::Lf)
    } else if style.is(Setting::EndOfLine, Key::Whole, "crlf") {
        Some(LineEnd::CrLf)
    } else {
        None
    };
    // All of them are in play, or were turned away from what is agreed.
    let is_agreed = |from: LineEnd| target == Some(from);
    let converts = target.filter(|_| set.is_whole() || set.turned_from().is_some_and(is_agreed));
    let mixed = !set.is_whole() && sheet.lines.is_mixed();
    // How a file's lines end was settled before the last lines were pasted into it.
    let base = set.base().filter(|base| mixed && base.contains('\n'));
    let own = base.map_or(sheet.lines.line_end(), |base| Lines::new(base).line_end());
    let mut comparing = Comparing {
        sheet,
        filling,
        live,
        set,
        has_margins: sheet.tree.has_margins(sheet.text),
        indentation: Cow::Borrowed(""),
        converts,
        mixed: mixed.then_some(set),
        line_end: converts.unwrap_or(own),
        beside_operator: None,
        out: Comparison::default(),
    };
    if set.is_whole() {
        comparing.byte_order_mark(style);
    }
    let count = sheet.tree.tokens.len();
    for index in 0..=count {
        comparing.gap(index);
        if index < count {
            comparing.token(index);
        }
    }
    comparing.out.wraps = wraps(sheet, live, filling);
    comparing.out.moves = super::moves::find(sheet, live);
    comparing.out
}

/// Brackets around statements that stand without, header and statement being live, and around what
/// does not fit its line.
fn wraps(sheet: &Sheet, live: &Live, filling: &Filling) -> Wraps {
    let mut wraps = Wraps::default();
    let mut added: Vec<(TokenId, &'static str)> = Vec::new();
    let is_wanted = |wrap: &&Wrap| {
        is_in_play(sheet, live, wrap)
            && wrap.around.is_none_or(|around| {
                filling.is_open(around.group) && (!around.rigid || fits_inside(sheet, wrap))
            })
    };
    for wrap in sheet.plan.wraps.iter().filter(is_wanted) {
        let (open, close) = wrap.brackets;
        added.push((wrap.header, open));
        added.extend(close.map(|close| (wrap.last, close)));
        wraps.declared.push(Declared { token: wrap.header, change: TreeEdit::Wrap(*wrap) });
        let token = &sheet.tree.tokens[wrap.header as usize + 1];
        wraps.slips.push(Slip {
            offset: token.start as usize,
            length: 0,
            setting: wrap.setting,
            message: match (close, wrap.around) {
                (None, _) => format!("put `{open}` before the first alternative, too"),
                (_, Some(_)) => "put parentheses around this, which does not fit its line".into(),
                (_, None) => "put braces around this statement".into(),
            },
        });
    }
    added.sort_by_key(|(token, _)| *token);
    for (token, bracket) in added {
        let end = sheet.tree.tokens[token as usize].end as usize;
        wraps.edits.push(Edit { range: end..end, text: format!(" {bracket}") });
        wraps.behind.push(token);
    }
    wraps
}

/// Whether what is wrapped fits a line of its own, a step further in.
fn fits_inside(sheet: &Sheet, wrap: &Wrap) -> bool {
    let (header, tab) = (wrap.header as usize, sheet.style.tab_columns());
    let width = sheet.measures.head(header + 1, wrap.last as usize + 1);
    let step = columns(&sheet.style.indent_step(), tab);
    let inside = columns(sheet.indentation_at(header), tab) + step;
    let max = sheet.style.number(Setting::MaxLineLength, Key::Whole).unwrap_or(u32::MAX) as usize;
    width.is_some_and(|width| inside + width <= max)
}

/// Whether a statement may be wrapped: all of it is live, and so is the word that would follow the
/// closing bracket on its line.
fn is_in_play(sheet: &Sheet, live: &Live, wrap: &Wrap) -> bool {
    let next = wrap.last + 1;
    let goes_on = sheet.plan.gaps[next as usize].breaks == Setting::ElseLine;
    live.all(wrap.header, next + u32::from(goes_on))
}

struct Comparing<'a> {
    sheet: &'a Sheet<'a>,
    filling: &'a Filling,
    live: &'a Live,
    set: &'a LineSet,
    /// Whether a token's later lines may have a common indentation that says nothing.
    has_margins: bool,
    /// What the line is indented by once it is written that is being compared.
    indentation: Cow<'a, str>,
    converts: Option<LineEnd>,
    /// The lines in play, where lines end in either way: these end as most do.
    mixed: Option<&'a LineSet>,
    line_end: LineEnd,
    /// The last slip, if it is of the blanks beside an operator: its gap, and how many are wanted.
    beside_operator: Option<(usize, u8)>,
    out: Comparison,
}

/// The parts of a gap that holds a line break.
struct Parts<'a> {
    trailing: &'a str,
    breaks: usize,
    indent: &'a str,
    blanks_between: bool,
}

impl<'a> Parts<'a> {
    fn of(gap: &'a str) -> Parts<'a> {
        let mut bytes = gap.bytes();
        let is_break = |byte: u8| byte == b'\n';
        let (Some(first), Some(last)) =
            (bytes.clone().position(is_break), bytes.rposition(is_break))
        else {
            return Parts { trailing: "", breaks: 0, indent: gap, blanks_between: false };
        };
        let trailing = gap[..first].trim_end_matches('\r');
        let indent = &gap[last + 1..];
        if first == last {
            return Parts { trailing, breaks: 1, indent, blanks_between: false };
        }
        let middle = &gap[first + 1..last + 1];
        Parts {
            trailing,
            breaks: gap.bytes().filter(|byte| *byte == b'\n').count(),
            indent,
            blanks_between: middle.contains([' ', '\t']),
        }
    }
}

impl<'a> Comparing<'a> {
    fn slip(&mut self, offset: usize, length: usize, setting: Setting, message: String) {
        if setting != Setting::OperatorGap {
            self.beside_operator = None;
        }
        self.out.slips.push(Slip { offset, length, setting, message });
    }

    fn byte_order_mark(&mut self, style: &Style) {
        let wanted = style.is(Setting::Charset, Key::Whole, "utf-8-bom");
        let mark = if wanted { "\u{feff}" } else { "" };
        let present = &self.sheet.text[..self.sheet.tree.mark];
        // A system looks for `#!` at the very start of a program.
        let first = self.sheet.tree.tokens.first().filter(|token| token.start == 0);
        let starts_program =
            first.is_some_and(|token| self.sheet.text[..token.end as usize].starts_with("#!"));
        if style.is(Setting::Charset, Key::Whole, "keep") || present == mark || starts_program {
            return;
        }
        let message = match wanted {
            true => "begin the file with one byte-order mark",
            false => "no byte-order mark",
        };
        self.out.edits.push(Edit { range: 0..present.len(), text: mark.to_string() });
        self.slip(0, 0, Setting::Charset, message.into());
    }

    fn token(&mut self, index: usize) {
        let token = &self.sheet.tree.tokens[index];
        if !token.multi_line && !self.sheet.plan.rewritten[index] {
            return;
        }
        let (start, end) = (token.start as usize, token.end as usize);
        let respelt = |rewrite: &Rewrite| rewrite.change.respells();
        let rewrites = self.sheet.plan.rewrites_of(index);
        if token.multi_line && !rewrites.iter().any(respelt) {
            self.lines_inside(index);
        }
        // Each spelling goes on from the one before.
        let last = rewrites.iter().rposition(respelt);
        for (number, rewrite) in rewrites.iter().enumerate() {
            if !self.filling.applies(index, &rewrite.change) {
                continue;
            }
            let text = &self.sheet.text[start..end];
            let (range, new, message) = match &rewrite.change {
                change if change.respells() && Some(number) != last => {
                    self.slip(start, end - start, rewrite.setting, rewrite.message.clone());
                    continue;
                }
                TreeEdit::Respell(new) | TreeEdit::Reorder(new) | TreeEdit::Take(new, _) => {
                    let new = match self.converts {
                        Some(wanted) => new.replace("\r\n", "\n").replace('\n', wanted.as_str()),
                        None => new.clone(),
                    };
                    (start..end, new, rewrite.message.clone())
                }
                TreeEdit::Remove(_) => {
                    let message = match text {
                        "," => "drop the `,` after the last element".into(),
                        _ => format!("drop this `{text}`"),
                    };
                    (start..end, String::new(), message)
                }
                TreeEdit::Wrap(_) => continue,
                TreeEdit::Insert(new, _) => {
                    (end..end, new.to_string(), format!("put `{new}` after {}", quoted(text)))
                }
            };
            self.out.edits.push(Edit { range: range.clone(), text: new });
            let change = rewrite.change.clone();
            self.out.declared.push(Declared { token: index as TokenId, change });
            self.slip(range.start, range.len(), rewrite.setting, message);
        }
    }

    /// Lines inside a token: how they end, for whole files that are converted, and what they are
    /// indented by, where they move with the line that the token begins on.
    fn lines_inside(&mut self, index: usize) {
        let sheet = self.sheet;
        let token = &sheet.tree.tokens[index];
        let (start, end) = (token.start as usize, token.end as usize);
        let is_free = !sheet.tree.keeps(index);
        let converts = self.converts.filter(|_| is_free && !sheet.tree.line_ends_count);
        let shift = self.shift_inside(index).filter(|_| is_free);
        let text = &sheet.text[start..end];
        for (at, _) in text.match_indices('\n') {
            let has_return = text[..at].ends_with('\r');
            if let Some(wanted) = converts
                && has_return != (wanted == LineEnd::CrLf)
            {
                let from = start + at - usize::from(has_return);
                let range = from..start + at + 1;
                self.out.edits.push(Edit { range, text: wanted.as_str().into() });
                self.slip(from, 0, Setting::EndOfLine, line_end_message(wanted));
            }
            if let Some((before, after)) = &shift
                && text[at + 1..].lines().next().is_some_and(|line| !line.trim().is_empty())
            {
                let from = start + at + 1;
                let range = from..from + before.len();
                self.out.edits.push(Edit { range, text: after.clone() });
            }
        }
        let last = &text[text.rfind('\n').map_or(0, |at| at + 1)..];
        let own = &last[..last.len() - last.trim_start_matches([' ', '\t']).len()];
        self.indentation = match shift {
            Some((before, after)) => Cow::Owned(after + &own[before.len()..]),
            None => Cow::Borrowed(own),
        };
    }

    /// What the later lines of a token begin with, and what they are to, if they move with the line
    /// that it begins on: all of them are in play, and stand at least as far in.
    fn shift_inside(&self, index: usize) -> Option<(&'a str, String)> {
        let sheet = self.sheet;
        let token = &sheet.tree.tokens[index];
        if !sheet.tree.has_margin(token, sheet.text) {
            return None;
        }
        let line = |byte: u32| sheet.lines.line_of(byte as usize);
        let unit = sheet.units.of_token[index] as usize;
        let mut lines = line(token.start)..line(token.end - 1) + 1;
        let is_in_play =
            self.live.moved[unit] || lines.all(|line| self.set.touches(line..line + 1));
        let before = sheet.present_indentation(index);
        let text = &sheet.text[token.start as usize..token.end as usize];
        let mut later = text.lines().skip(1).filter(|line| !line.trim().is_empty());
        let moves = is_in_play && before != self.indentation;
        (moves && later.all(|line| line.starts_with(before)))
            .then(|| (before, self.indentation.to_string()))
    }

    /// Remembers what a line is indented by that begins in a gap.
    fn begin_line(&mut self, index: usize, present: &'a str, filled: Filled) {
        let begins = |breaks: usize| breaks > 0 || index == 0;
        match filled {
            Filled::Present => {
                let parts = Parts::of(present);
                if begins(parts.breaks) {
                    self.indentation = Cow::Borrowed(parts.indent);
                }
            }
            Filled::Blanks(_) => {}
            Filled::Lines { breaks, indent, .. } => {
                let parts = Parts::of(present);
                if begins(breaks.map_or(parts.breaks, |count| count as usize)) {
                    self.indentation = Cow::Borrowed(match indent {
                        Some(id) => self.filling.indents.written(id),
                        None if parts.breaks > 0 || index == 0 => parts.indent,
                        None => "",
                    });
                }
            }
        }
    }

    fn gap(&mut self, index: usize) {
        let filled = self.filling.gaps[index];
        let range = self.sheet.tree.gap(index, self.sheet.text.len());
        if let Filled::Blanks(count) = filled
            && self.sheet.text.as_bytes()[range.clone()] == BLANKS[..usize::from(count)]
        {
            return;
        }
        let present = &self.sheet.text[range.clone()];
        if self.has_margins {
            self.begin_line(index, present, filled);
        }
        match filled {
            Filled::Present => {
                let kept = self.sheet.tree.keeps_gap(index);
                if self.changes_ends(index, present) && !kept {
                    self.lines(index, present, None, None, false);
                }
            }
            Filled::Blanks(count) => {
                self.out.edits.push(Edit { range, text: " ".repeat(usize::from(count)) });
                self.blanks_slip(index, present, count);
            }
            Filled::Lines { breaks, indent, trim } => {
                self.lines(index, present, breaks, indent, trim);
            }
        }
    }

    fn lines(
        &mut self,
        index: usize,
        present: &str,
        breaks: Option<u32>,
        indent: Option<u32>,
        trim: bool,
    ) {
        let parts = Parts::of(present);
        if parts.trailing.is_empty()
            && !parts.blanks_between
            && !self.changes_ends(index, present)
            && breaks.is_none_or(|count| count as usize == parts.breaks)
            && parts.breaks > 0
            && indent.is_none_or(|id| self.filling.indents.written(id) == parts.indent)
        {
            return;
        }
        let range = self.sheet.tree.gap(index, self.sheet.text.len());
        let is_start = index == 0;
        let is_end = index == self.sheet.tree.tokens.len();
        let was_one_line = parts.breaks == 0;
        let breaks = breaks.map_or(parts.breaks, |count| count as usize);
        let filling = self.filling;
        let wanted_indent = match indent {
            Some(id) if breaks > 0 || is_start => filling.indents.written(id),
            Some(_) => "",
            None if was_one_line && breaks > 0 && !is_start => "",
            None => parts.indent,
        };
        let recount = breaks != parts.breaks;
        let clean = trim || recount;
        let ends = self.changes_ends(index, present);
        let wanted = if !clean && !recount && !ends {
            // Only the indentation can differ.
            let kept = present.len() - parts.indent.len();
            [&present[..kept], wanted_indent].concat()
        } else {
            let mut wanted = String::with_capacity(present.len() + wanted_indent.len() + breaks);
            // Blanks at the end of a line that goes would begin the next one.
            let keeps_trailing = !trim && !was_one_line && breaks > 0;
            if keeps_trailing {
                wanted.push_str(parts.trailing);
            }
            let end = self.line_end.as_str();
            if recount || (trim && parts.blanks_between) {
                // The line before may not be in play: its own end stays.
                let own = present.find('\n').filter(|at| {
                    self.converts.is_none() && !self.is_wrong(range.start + at)
                });
                let first = own.map_or(end, |at| &present[parts.trailing.len()..at + 1]);
                wanted.push_str(if breaks > 0 { first } else { "" });
                wanted.push_str(&end.repeat(breaks.saturating_sub(1)));
            } else if ends {
                let before = present.find('\n').map_or("", |at| &present[..at]);
                let from = before.trim_end_matches('\r').len();
                let to = present.rfind('\n').map_or(0, |at| at + 1);
                let mut at = range.start + from;
                for piece in present[from..to].split_inclusive('\n') {
                    match self.mixed.is_some() && !self.is_wrong(at + piece.len() - 1) {
                        true => wanted.push_str(piece),
                        false => {
                            wanted.push_str(piece.trim_end_matches(['\r', '\n']));
                            wanted.push_str(end);
                        }
                    }
                    at += piece.len();
                }
            } else {
                let from = parts.trailing.len();
                wanted.push_str(&present[from..present.len() - parts.indent.len()]);
            }
            wanted.push_str(wanted_indent);
            wanted
        };
        if wanted == present {
            return;
        }
        let before = self.out.slips.len();
        if trim && !was_one_line && (!parts.trailing.is_empty() || parts.blanks_between) {
            let length = parts.trailing.len();
            let message = "no spaces at the line's end".to_string();
            self.slip(range.start, length, Setting::TrimTrailingWhitespace, message);
        }
        if recount {
            self.recount_slip(index, &parts, breaks, is_end);
        }
        if !was_one_line && breaks > 0 && wanted_indent != parts.indent && !is_end {
            self.indent_slip(index, parts.indent, wanted_indent);
        } else if is_start && wanted_indent != parts.indent {
            self.indent_slip(index, parts.indent, wanted_indent);
        }
        if self.out.slips.len() == before {
            let (setting, message) = match ends {
                true => (Setting::EndOfLine, line_end_message(self.line_end)),
                false => (Setting::TrimTrailingWhitespace, "no spaces at the line's end".into()),
            };
            self.slip(range.start, 0, setting, message);
        }
        self.out.edits.push(Edit { range, text: wanted });
    }

    /// Whether a line ends in a gap in another way than it should.
    fn changes_ends(&self, index: usize, present: &str) -> bool {
        if self.converts.is_some() {
            return present.contains('\n');
        }
        let start = self.sheet.tree.gap(index, self.sheet.text.len()).start;
        self.mixed.is_some()
            && present.match_indices('\n').any(|(at, _)| self.is_wrong(start + at))
    }

    /// Whether the line that is ended by this line feed is in play, and ends otherwise than most.
    fn is_wrong(&self, feed: usize) -> bool {
        let has_return = self.sheet.text[..feed].ends_with('\r');
        let line = self.sheet.lines.line_of(feed);
        (has_return != (self.line_end == LineEnd::CrLf))
            && self.mixed.is_some_and(|set| set.touches(line..line + 1))
    }

    fn recount_slip(&mut self, index: usize, parts: &Parts, breaks: usize, is_end: bool) {
        let range = self.sheet.tree.gap(index, self.sheet.text.len());
        if is_end {
            let (setting, message) = match (parts.breaks, breaks) {
                (0, _) => (Setting::InsertFinalNewline, "end the file with a line break".into()),
                (_, 0) => (Setting::InsertFinalNewline, "no line break at the file's end".into()),
                (there, _) => {
                    let extra = there - 1;
                    (Setting::BlankLines, format!("no blank lines at the file's end, not {extra}"))
                }
            };
            let at = self.sheet.tree.tokens.last().map_or(0, |token| token.start as usize);
            return self.slip(range.start.max(at), 0, setting, message);
        }
        if parts.breaks == 0 && index > 0 {
            let gap = &self.sheet.plan.gaps[index];
            let place = match gap.want {
                Want::Line => "its own line",
                Want::Newline => "the next line",
                _ => "its own line, like the rest of its list or chain",
            };
            let (short, more) = short(self.begun_text(index));
            let message = ["put `", short, more, "` on ", place].concat();
            return self.slip(range.end, 0, gap.breaks, message);
        }
        let there = parts.breaks.saturating_sub(usize::from(index > 0));
        let wanted = breaks.saturating_sub(usize::from(index > 0));
        let message = format!("{} before this, not {there}", count_of(wanted, "blank line"));
        self.slip(range.end, 0, Setting::BlankLines, message);
    }

    fn indent_slip(&mut self, index: usize, present: &str, wanted: &str) {
        let offset = self.sheet.tree.gap(index, self.sheet.text.len()).end;
        let gap = &self.sheet.plan.gaps[index];
        let head = self.sheet.plan.group_of(index).and_then(|group| group.under);
        if let Some(head) = head.filter(|_| gap.inside && gap.want == Want::Break) {
            let (short, more) = short(self.sheet.token_text(head as usize));
            let message = ["line up with `", short, more, "` above"].concat();
            return self.slip(offset, 0, Setting::WrapAlign, message);
        }
        let place = self.sheet.first_words.get(&(index as TokenId));
        if place.is_some_and(|place| place.pad != place.present) {
            let (short, more) = short(self.sheet.token_text(index));
            let message =
                ["line the end of `", short, more, "` up with the lines around it"].concat();
            return self.slip(offset, 0, Setting::Columns, message);
        }
        let mixing = self.sheet.mixing;
        let columns = |text: &str| mixing.read(text).len();
        let is_further = match mixing {
            Mixing::None => {
                let kinds = |(blanks, tabs): (usize, usize)| (blanks > 0, tabs > 0);
                let is_alike = || kinds(made_of(present)) == kinds(made_of(wanted));
                present.len() != wanted.len() && is_alike()
            }
            Mixing::TabsOf(_) => columns(present) != columns(wanted),
        };
        let is_size = is_further || present.is_empty() || wanted.is_empty();
        let setting = if is_size { Setting::IndentSize } else { Setting::IndentStyle };
        let said = if is_size && mixing == Mixing::None { width } else { parts };
        let mut message = String::with_capacity(64);
        message.push_str("indent by ");
        said(&mut message, wanted);
        message.push_str(", not by ");
        said(&mut message, present);
        self.slip(offset, 0, setting, message);
    }

    fn blanks_slip(&mut self, index: usize, present: &str, wanted: u8) {
        let gap = &self.sheet.plan.gaps[index];
        if gap.setting == Setting::OperatorGap && !present.contains('\n') {
            let before = self.beside_operator.replace((index, wanted));
            if before == Some((index.wrapping_sub(1), wanted)) {
                self.beside_operator = None;
                return self.both_sides(index - 1, wanted);
            }
        }
        let (short, more) = short(self.sheet.token_text(index));
        let is_lined_up = gap.setting == Setting::Columns
            || (gap.setting == Setting::CommentGap && wanted > gap.blanks);
        let (setting, message) = if is_lined_up && !present.contains('\n') {
            (Setting::Columns, ["line `", short, more, "` up with the lines around it"].concat())
        } else if present.contains('\n') {
            (gap.breaks, ["put `", short, more, "` on the line before"].concat())
        } else {
            (gap.setting, [&spaces(wanted), " before `", short, more, "`"].concat())
        };
        self.slip(self.sheet.tree.tokens[index].start as usize, 0, setting, message);
    }

    /// Two slips on the two sides of one operator are one to a reader.
    fn both_sides(&mut self, operator: usize, wanted: u8) {
        let (short, more) = short(self.sheet.token_text(operator));
        let message = [&spaces(wanted), " on each side of `", short, more, "`"].concat();
        let token = &self.sheet.tree.tokens[operator];
        if let Some(last) = self.out.slips.last_mut() {
            last.message = message;
            last.length = (token.end - token.start) as usize;
        }
    }

    /// What a line begins with that begins with a token: a tag's bracket says nothing without the name.
    fn begun_text(&self, token: usize) -> &'a str {
        let (own, tokens) = (self.sheet.token_text(token), &self.sheet.tree.tokens);
        let end = tokens[token].end;
        let name = tokens
            .get(token + 1)
            .filter(|next| matches!(own, "<" | "</") && next.start == end);
        &self.sheet.text[tokens[token].start as usize..name.map_or(end, |name| name.end) as usize]
    }
}

/// More blanks than any setting asks for.
const BLANKS: [u8; 256] = [b' '; 256];

/// "one space", "no space".
fn spaces(count: u8) -> Cow<'static, str> {
    match count {
        0 => "no space".into(),
        1 => "one space".into(),
        count => count_of(usize::from(count), "space").into(),
    }
}

fn line_end_message(wanted: LineEnd) -> String {
    match wanted {
        LineEnd::Lf => "end the line with a line feed".into(),
        LineEnd::CrLf => "end the line with carriage return and line feed".into(),
    }
}

fn count_of(of: usize, what: &str) -> String {
    let mut out = String::new();
    count(&mut out, of, what);
    out
}

/// Says how many there are of something.
fn count(out: &mut String, of: usize, what: &str) {
    match of {
        0 => out.push_str("no"),
        1 => out.push_str("one"),
        2 => out.push_str("two"),
        _ => push_number(out, of),
    }
    out.push(' ');
    out.push_str(what);
    if of > 1 {
        out.push('s');
    }
}

/// A token's text, short enough for a message.
pub(super) fn quoted(text: &str) -> String {
    let (short, more) = short(text);
    ["`", short, more, "`"].concat()
}

/// The beginning of a token's text, and what says that it goes on.
fn short(text: &str) -> (&str, &'static str) {
    if text.len() <= MOST_QUOTED && !text.contains('\n') {
        return (text, "");
    }
    let line = text.lines().next().unwrap_or_default();
    let short = line.char_indices().nth(MOST_QUOTED).map_or(line, |(at, _)| &line[..at]);
    (short, if short.len() < text.len() { "…" } else { "" })
}

/// So many characters of a token stand in a message.
const MOST_QUOTED: usize = 24;

/// Says an indentation's width, as a person counts it.
fn width(out: &mut String, indent: &str) {
    match made_of(indent) {
        (blanks, 0) => push_number(out, blanks),
        _ => parts(out, indent),
    }
}

/// Says a number, small as it mostly is.
fn push_number(out: &mut String, number: usize) {
    let digit = |of: usize| char::from_digit((of % 10) as u32, 10).unwrap_or_default();
    match number {
        0..10 => out.push(digit(number)),
        10..100 => out.extend([digit(number / 10), digit(number)]),
        _ => out.push_str(&number.to_string()),
    }
}

/// How many blanks and how many tabs an indentation is made of.
fn made_of(indent: &str) -> (usize, usize) {
    let tabs = indent.bytes().filter(|byte| *byte == b'\t').count();
    (indent.len() - tabs, tabs)
}

/// Says an indentation's make-up.
fn parts(out: &mut String, indent: &str) {
    let (blanks, tabs) = made_of(indent);
    if tabs > 0 {
        count(out, tabs, "tab");
    }
    if tabs > 0 && blanks > 0 {
        out.push_str(" and ");
    }
    if blanks > 0 || tabs == 0 {
        count(out, blanks, "space");
    }
}
