//! What stands under something before it: the lines of a list under its first element, and comments
//! under those of their neighbours.

use super::comment_columns::Place;
use super::fill::Filler;
use super::indent::IndentId;
use super::measure::columns;
use super::plan::{Counts, Gap, GroupId, Shape};

impl<'a> Filler<'a> {
    /// The indentation of a line that begins at a gap: under what its group is lined up with, or
    /// steps deeper than the group's first line.
    pub(super) fn inside(&mut self, index: usize, gap: &Gap) -> IndentId {
        if self.goes_back(index, gap) {
            return self.present_line_indent(index);
        }
        let own = gap.level - gap.by_choice;
        if let Some(indent) = gap.group.and_then(|group| self.by_the_text(group, own)) {
            return self.indents.deeper(indent, gap.by_choice);
        }
        let (stem, level) = (self.stem_indent(gap.group), self.level(index, gap));
        self.indents.deeper(stem, level)
    }

    /// Whether the line that a line goes on with was moved by itself and goes back to where it stood in the
    /// base: the other one is where it was.
    fn goes_back(&mut self, index: usize, gap: &Gap) -> bool {
        let sheet = self.sheet;
        let line_of = |token: usize| sheet.lines.line_of(sheet.tree.tokens[token].start as usize);
        let is_touched = |line: usize| self.set.touches(line..line + 1);
        let Some(group) = gap.group.filter(|_| !self.set.is_whole()) else { return false };
        let stem = sheet.plan.groups[group].stem as usize;
        let head = line_of(stem);
        if !sheet.tree.broken(index, sheet.text) || !is_touched(head) || is_touched(line_of(index))
        {
            return false;
        }
        let replaced = self.replaced.get_or_init(|| {
            let indentation = |line: &str| {
                sheet.mixing.read(&line[..line.len() - line.trim_start().len()]).to_string()
            };
            let lines = self.set.replaced(sheet.text).into_iter();
            lines.map(|(at, line)| (at, indentation(line))).collect()
        });
        let Some(stood) = replaced.get(&head) else { return false };
        let now = self.indent_of[stem].filter(|_| stood != sheet.indentation_at(stem));
        now.is_some_and(|now| self.indents.text(now) == stood)
    }

    /// The indentation of a group's lines where the text has a say in it: under what they are lined
    /// up with, or as far in as they are.
    pub(super) fn by_the_text(&mut self, id: GroupId, level: u8) -> Option<IndentId> {
        let group = &self.sheet.plan.groups[id];
        match (self.under[id], group.like) {
            _ if group.counts == Counts::Stem => None,
            // Operators have no closing bracket.
            _ if level == 0 && (group.bracketed || group.shape != Shape::Chain) => {
                if group.closes_under {
                    return self.under_opener(id);
                }
                let closer = group.like_closer? as usize;
                Some(self.as_far_in(id, closer, 1))
            }
            (Some(under), _) => Some(under),
            (None, Some(row)) => Some(self.as_far_in(id, row as usize, level)),
            (None, None) => None,
        }
    }

    /// The indentation of a group's closing bracket under its opening one.
    fn under_opener(&mut self, id: GroupId) -> Option<IndentId> {
        let group = &self.sheet.plan.groups[id];
        let blanks = usize::from(self.sheet.plan.gaps[group.opening? as usize].blanks);
        let column = self.indents.columns(self.under[id]?).checked_sub(1 + blanks)?;
        let stem = self.stem_indent(Some(id));
        Some(self.indents.up_to(stem, column))
    }

    /// The indentation of a group's lines.
    pub(super) fn inside_of(&mut self, id: GroupId, level: u8) -> IndentId {
        self.by_the_text(id, level).unwrap_or_else(|| {
            let stem = self.stem_indent(Some(id));
            self.indents.deeper(stem, level)
        })
    }

    /// The indentation of a group's lines that are as far in from its first one as a line is in the
    /// text; the canon has them so many steps further in.
    fn as_far_in(&mut self, id: GroupId, row: usize, level: u8) -> IndentId {
        let stem = self.sheet.plan.groups[id].stem as usize;
        let now = match self.steps_behind_sign(stem) {
            0 => self.stem_indent(Some(id)),
            _ => self.line_indent_of(stem),
        };
        let (old, own) = (self.sheet.indentation_at(stem), self.row_indentation(row));
        if let Some(steps) = self.steps_of_old(stem, now, row, level) {
            return self.indents.deeper(now, steps);
        }
        let in_tabs = self.indents.has_tabs_behind(now);
        let is_ours = |rest: &&str| in_tabs || !rest.contains('\t');
        match own.strip_prefix(old).filter(is_ours) {
            Some(rest) => self.indents.further(now, rest),
            None => {
                let further = columns(own, self.tab).saturating_sub(columns(old, self.tab));
                self.indents.up_to(now, self.indents.columns(now) + further)
            }
        }
    }

    /// The indentation of a row in the text, but for what its first number or name is set in by.
    pub(super) fn row_indentation(&self, row: usize) -> &'a str {
        let own = self.sheet.indentation_at(row);
        let present = self.sheet.first_words.get(&(row as u32)).map_or(0, |place| place.present);
        let plain = own.len() - own.trim_end_matches(' ').len();
        &own[..own.len() - plain.min(present)]
    }

    /// Remembers where a token stands, for the groups that are lined up with it; `next` is the
    /// place among those that comes next.
    #[inline]
    pub(super) fn line_up(&mut self, index: usize, next: &mut usize, is_live: bool) {
        if self.sheet.heads.get(*next).is_some_and(|(token, _)| *token as usize <= index) {
            self.line_up_groups(index, next, is_live);
        }
    }

    fn line_up_groups(&mut self, index: usize, next: &mut usize, is_live: bool) {
        let heads = &self.sheet.heads;
        while let Some((token, group)) = heads.get(*next).filter(|head| head.0 as usize <= index) {
            *next += 1;
            let begins_line = match is_live {
                true => self.line_start == index,
                false => self.sheet.tree.broken(index, self.sheet.text),
            };
            if begins_line && self.sheet.plan.groups[*group].first != *token {
                continue;
            }
            let (line, column) = match is_live {
                true => (self.line_indent, self.column),
                false => (self.present_line_indent(index), self.present_column(index)),
            };
            self.under[*group] = Some(self.indents.up_to(line, column));
        }
    }

    /// The column at which a token stands in the text.
    pub(super) fn present_column(&self, token: usize) -> usize {
        let start = self.sheet.tree.tokens[token].start as usize;
        let line = self.sheet.lines.start(self.sheet.lines.line_of(start));
        columns(&self.sheet.text[line..start], self.tab)
    }

    /// How many blanks a comment at a line's end has that is lined up with its neighbours.
    pub(super) fn lines_up_comment(&self, index: usize, present: &str) -> Option<u8> {
        let Place::Behind(first, behind) = self.sheet.comments.get(&(index as u32))? else {
            return None;
        };
        if self.line_start != *first as usize || present.contains('\n') {
            return None;
        }
        let indent = self.indents.columns(self.line_indent);
        let blanks = (indent + behind).checked_sub(self.column)?;
        let usual = usize::from(self.sheet.plan.gaps[index].blanks);
        (blanks >= usual).then(|| u8::try_from(blanks).ok()).flatten()
    }

    /// The indentation of a comment's own line that goes on with the comment at the end of the one
    /// above.
    pub(super) fn under_comment(&mut self, index: usize) -> Option<IndentId> {
        let Place::Under(above) = *self.sheet.comments.get(&(index as u32))? else { return None };
        let above = above as usize;
        match self.last_comment {
            Some((token, line, column)) if token == above => Some(self.indents.up_to(line, column)),
            _ => {
                let line = self.present_line_indent(above);
                Some(self.indents.up_to(line, self.present_column(above)))
            }
        }
    }

    /// The indentation of a row whose first number or name ends where its neighbours' do, from what the rows
    /// around it are indented by, or the unit that it lines up with is.
    pub(super) fn behind_its_first_word(
        &mut self,
        index: usize,
        anchor: Option<u32>,
        indent: IndentId,
    ) -> IndentId {
        let sheet = self.sheet;
        let place = |token: u32| sheet.first_words.get(&token);
        let own = place(index as u32).map_or(0, |place| place.pad);
        let present = anchor
            .and_then(|anchor| place(sheet.units.all[anchor as usize].first))
            .map_or(0, |place| place.present);
        if own == present {
            return indent;
        }
        let text = self.indents.text(indent);
        let plain = text.len() - text.trim_end_matches(' ').len();
        let text = text[..text.len() - plain.min(present)].to_string();
        let column = columns(&text, self.tab) + own;
        let indent = self.indents.of(&text);
        self.indents.up_to(indent, column)
    }

    /// Whether a row of a ragged list that keeps its form begins under the list's first element.
    pub(super) fn is_lined_up(&self, index: usize) -> bool {
        let sheet = self.sheet;
        let gap = &sheet.plan.gaps[index];
        let group = gap.group.filter(|group| gap.inside && self.keeps_form(*group));
        let Some(first) = group.and_then(|group| sheet.plan.groups[group].opening) else {
            return false;
        };
        let first = first as usize;
        !sheet.tree.broken(first, sheet.text)
            && self.present_column(first) == self.present_column(index)
    }

    /// Whether a bracket's own line is not touched, though one is that goes on behind it, and neither is
    /// what it closes.
    pub(super) fn closes_what_stays(&self, index: usize) -> bool {
        let sheet = self.sheet;
        let closes = |_: &GroupId| index > 0 && sheet.plan.closes(index);
        let Some(id) = sheet.plan.gaps[index].group.filter(closes) else { return false };
        let line = sheet.lines.line_of(sheet.tree.tokens[index].start as usize);
        let stays = |token: usize| {
            let unit = sheet.units.of_token[token] as usize;
            !self.live.unit[unit] && !self.live.moved[unit]
        };
        !self.set.touches(line..line + 1)
            && stays(index - 1)
            && stays(sheet.plan.groups[id].stem as usize)
    }
}
