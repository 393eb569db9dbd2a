//! Units that are not in play, and those that are for their indentation alone: what becomes of the gaps
//! before them and in them.

use super::fill::{Filled, Filler, is_blank};
use super::indent::IndentId;
use super::plan::{GroupId, Want};

impl Filler<'_> {
    /// What stands before a unit that is not in play, where something of that is.
    pub(super) fn before_still_unit(&mut self, index: usize) {
        let sheet = self.sheet;
        let unit = &sheet.units.all[sheet.units.of_token[index] as usize];
        let after_fault = index > 0
            && sheet.units.all[sheet.units.of_token[index - 1] as usize].fault;
        let present = sheet.present(index);
        if unit.fixed || after_fault || !is_blank(present) {
            return;
        }
        if !present.contains('\n') && index > 0 {
            // It shares a line with a unit that is not live either, or follows a live one that ends
            // on its line; both stay together unless the one before is live.
            let before = sheet.units.of_token[index - 1] as usize;
            if !self.live.unit[before] || sheet.plan.gaps[index].want != Want::Line {
                return;
            }
        }
        let breaks = self.breaks_before(index);
        let trim = self.trims_before(index);
        let indent = self.moved_to(index);
        self.gaps[index] = Filled::Lines { breaks, indent, trim };
    }

    /// The indentation of a unit that is in play for it alone: what its place asks for, or, inside
    /// another such unit, as far from that one as before.
    fn moved_to(&mut self, index: usize) -> Option<IndentId> {
        let sheet = self.sheet;
        let unit_index = sheet.units.of_token[index] as usize;
        if !self.live.moved[unit_index] {
            return None;
        }
        let gap = sheet.plan.gaps[index];
        let present = self.present_line_indent(index);
        let group = gap.group?;
        let stem = sheet.plan.groups[group].stem as usize;
        let holder = sheet.units.of_token[stem] as usize;
        let indent = match self.live.anchor[unit_index] {
            _ if let Some(indent) = self.own_place(index) => indent,
            Some(anchor) => {
                let first = sheet.units.all[anchor as usize].first;
                self.present_line_indent(first as usize)
            }
            None if group != GroupId::ROOT && self.live.moved[holder] => {
                self.shifted(present, sheet.units.all[holder].first as usize)
            }
            None => self.inside(index, &gap),
        };
        self.indent_of[index] = Some(indent);
        Some(indent)
    }

    /// An indentation moved as far as the unit that begins at `first` moves.
    pub(super) fn shifted(&mut self, present: IndentId, first: usize) -> IndentId {
        let before = self.present_line_indent(first);
        let (text, from) = (self.indents.text(present).to_string(), self.indents.text(before));
        let to = self.indent_of[first];
        match (text.strip_prefix(from), to) {
            (Some(rest), Some(to)) => {
                let moved = format!("{}{rest}", self.indents.text(to));
                self.indents.of(&moved)
            }
            _ => present,
        }
    }

    /// The later lines of a unit that moves go with it.
    pub(super) fn shift(&mut self, index: usize) {
        let sheet = self.sheet;
        let present = sheet.present(index);
        if !present.contains('\n') || !is_blank(present) {
            return;
        }
        let first = sheet.units.all[sheet.units.of_token[index] as usize].first as usize;
        let line = self.present_line_indent(index);
        let indent = self.shifted(line, first);
        self.gaps[index] = Filled::Lines { breaks: None, indent: Some(indent), trim: false };
    }
}
