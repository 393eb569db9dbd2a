//! What somebody chose: the text has a say in which groups are open.

use super::plan::{Around, Opens, Rows, Shape, Want};
use super::planner::Planner;
use crate::syntax::{Role, TokenId};

impl Planner<'_> {
    /// Lists and chains that somebody opened stay open; a line after a sign stays broken if the
    /// whole does not fit on one.
    pub(super) fn remember(&mut self) {
        // Of each group: at how many of its gaps a line ends, and at how many none does. Where most
        // elements have a line of their own, the others should.
        let mut seen = self.plan.groups.all((0u32, 0u32));
        for (token, gap) in self.plan.gaps.iter().enumerate() {
            // The closing bracket has its own line in any case.
            if let Some(group) = gap.group
                && gap.want == Want::Break
                && !self.plan.closes(token)
            {
                let (ends, joins) = &mut seen[group];
                match self.opened_before(token as TokenId) {
                    true => *ends += 1,
                    false => *joins += 1,
                }
            }
        }
        for id in seen.ids().skip(1) {
            let (ends, joins) = seen[id];
            let broken = self.plan.groups[id].opening.is_some_and(|gap| self.opened_before(gap));
            let group = &mut self.plan.groups[id];
            let in_rows = match group.rows {
                Rows::Bracketed => broken && joins >= ends,
                Rows::Shared => broken && joins > 0,
                Rows::Loose => ends > 0 && joins >= ends,
                Rows::Never | Rows::Kept => false,
            };
            match group.shape {
                Shape::Block => {}
                Shape::LastResort if broken && group.opens == Opens::TooWide => {
                    group.opens = Opens::Again;
                }
                Shape::LastResort => {}
                _ if in_rows => group.rows = Rows::Kept,
                _ => group.force_if(broken),
            }
            let is_chain = matches!(group.shape, Shape::Chain | Shape::Alternatives);
            if is_chain && group.around == Around::Blocks {
                group.around = Around::Lists;
            }
        }
    }

    /// Whether a line ends before a token or before one of the comments right before it.
    fn opened_before(&self, token: TokenId) -> bool {
        let mut at = token;
        while !self.broken_before(at) {
            if at == 0 || self.tree.tokens[at as usize - 1].role != Role::Comment {
                return false;
            }
            at -= 1;
        }
        true
    }
}
