//! Records that are elements of one list look alike: all of them are flat, or all of them open.

use super::fill::Filler;
use super::plan::{GroupId, Shape};

/// So many elements of a list are looked at. Bounds the work on hostile input.
const MOST: usize = 1024;

impl Filler<'_> {
    /// Where one of the records that a list opens around has no room on its line, all of them open. Not
    /// where somebody opened some of them and left others.
    pub(super) fn open_alike(&mut self, id: GroupId) {
        let sheet = self.sheet;
        let group = &sheet.plan.groups[id];
        let Some(opening) = group.opening.filter(|_| group.shape == Shape::List) else { return };
        let inside = self.inner_column(id);
        let (mut records, mut is_too_wide) = (Vec::new(), false);
        let mut at = opening as usize;
        while at < group.end as usize && !sheet.plan.closes(at) {
            let next = self.next_own(id, at);
            let Some(record) = self.record(at, next) else { return };
            let own = &sheet.plan.groups[record];
            let width = sheet.measures.flat(at, own.end as usize);
            let stands_free = self.live.all(own.first, own.end)
                && !(self.keeps && sheet.plan.is_opened(record, sheet.tree));
            let Some(width) = width.filter(|_| stands_free && records.len() < MOST) else { return };
            is_too_wide |= inside + width + usize::from(next < group.end as usize) > self.max;
            records.push(record);
            at = next;
        }
        if is_too_wide && records.len() > 1 {
            self.alike.extend(records);
        }
    }

    /// The record that an element is, between two gaps of a list.
    fn record(&self, at: usize, next: usize) -> Option<GroupId> {
        let sheet = self.sheet;
        let token = &sheet.tree.tokens[at];
        if !sheet.text[token.start as usize..token.end as usize].ends_with('{') {
            return None;
        }
        let from = sheet
            .plan
            .order
            .partition_point(|id| (sheet.plan.groups[*id].first as usize) < at);
        let own = sheet.plan.order[from..].iter().take_while(|id| {
            sheet.plan.groups[**id].first as usize == at
        });
        own.copied().find(|id| {
            let group = &sheet.plan.groups[*id];
            let ends = group.end as usize + 1 >= next && group.end as usize <= next;
            group.shape == Shape::List && group.bracketed && !group.fills && ends
        })
    }
}
