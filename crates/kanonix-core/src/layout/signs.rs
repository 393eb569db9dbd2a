//! Signs that begin a line, what opens behind which is further in than they are: those of the answers to a
//! condition, and the bars between types.

use super::fill::Filler;

impl Filler<'_> {
    /// How many steps further in than its line is what a token behind the sign that begins it opens.
    pub(super) fn steps_behind_sign(&self, token: usize) -> u8 {
        let line = self.line_starts.partition_point(|start| *start <= token).checked_sub(1);
        let sign = line.map(|line| self.line_starts[line]).filter(|sign| *sign < token);
        let steps = sign.and_then(|sign| self.sheet.plan.signs.get(&(sign as u32)));
        steps.copied().unwrap_or(0)
    }

    /// Remembers where lines begin, if what opens on one may be further in.
    pub(super) fn begins_line(&mut self, index: usize, is_live: bool) {
        if self.sheet.plan.signs.is_empty() {
            return;
        }
        let begins = match is_live {
            true => self.line_start == index,
            false => self.sheet.tree.broken(index, self.sheet.text),
        };
        if begins {
            self.line_starts.push(index);
        }
    }
}
