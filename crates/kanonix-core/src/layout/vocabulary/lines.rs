//! Statements that share a line, with marks between them that only end them.

use crate::layout::plan::{GroupId, TreeEdit, Want, When};
use crate::layout::planner::Planner;
use crate::style::Setting;
use crate::syntax::{NodeId, TokenId};

impl Planner<'_> {
    /// The statements that begin lines, where `is_end` says what stands between them. What stands on the
    /// line of another one is laid out with it, unless all of them stand on one line that is opened
    /// (`all`): what only ends them goes then.
    pub fn lines_of(
        &mut self,
        parts: &[NodeId],
        all: bool,
        is_end: fn(&Planner, NodeId) -> bool,
    ) -> Vec<NodeId> {
        let mut lines = Vec::new();
        let mut after_end = false;
        for (index, part) in parts.iter().enumerate() {
            let token = self.first(*part);
            let ends = is_end(self, *part);
            let follows = after_end
                && !all
                && !self.broken_before(token)
                && !self.after_comment(token);
            match index > 0 && (ends || follows) {
                true => self.word(token, u8::from(!ends)),
                false => {
                    if !ends {
                        self.line_ends_before(token, When::Always);
                    }
                    lines.push(*part);
                }
            }
            after_end = ends;
        }
        lines
    }

    /// A mark or a word that only ends what is on its line goes where what stands behind it there gets a
    /// line of its own.
    pub fn line_ends_before(&mut self, next: TokenId, when: When) {
        let Some(before) = next.checked_sub(1) else { return };
        if when == When::Always && self.broken_before(next) {
            return;
        }
        let text = self.token_text(before);
        let is_word = text.starts_with(char::is_alphabetic) && self.tree.separates(before);
        if text == ";" || is_word && when == When::Always {
            self.rewrite(before, TreeEdit::Remove(when), Setting::FlatBlock);
        }
        if is_word && when == When::Always {
            self.word(before, 0);
        }
    }

    /// The same where the gap before `next` says when its line begins.
    pub fn line_ends_at_gap(&mut self, next: TokenId) {
        let gap = *self.gap(next);
        match (gap.want, gap.group) {
            (Want::Line, _) => self.line_ends_before(next, When::Always),
            (Want::Break, Some(group)) => self.line_ends_before(next, When::Open(group)),
            _ => {}
        }
    }

    /// Statements on their header's line, whose last token is `opener`, as long as there is room.
    pub fn flat_lines(
        &mut self,
        opener: TokenId,
        own: &[NodeId],
        group: GroupId,
        is_end: fn(&Planner, NodeId) -> bool,
    ) {
        for (index, part) in own.iter().enumerate() {
            let token = self.first(*part);
            if is_end(self, *part) {
                self.word(token, 0);
            } else {
                self.may_break(token, group, 1, 1, Setting::FlatBlock);
                if index > 0 || token == opener + 1 {
                    self.line_ends_before(token, When::Open(group));
                }
            }
        }
    }
}
