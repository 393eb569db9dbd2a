//! Parentheses around what does not fit its line, where lines may end inside brackets only.

use crate::layout::plan::{Shape, TooLong, Wrap, Wrapped};
use crate::layout::measure::columns;
use crate::layout::planner::Planner;
use crate::style::Setting;
use crate::syntax::{NodeId, TokenId};

/// So many tokens between two brackets are hardly worth a line of their own.
const TRIVIAL: usize = 3;

/// Unless they take so many bytes.
const LONG: u32 = 40;

impl Planner<'_> {
    /// Declares parentheses around a value behind something on its line, if `wrap_parens` asks for them,
    /// for where it does not fit that; where `rigid` says that no line may end in it even then, only if
    /// it fits one of its own. What somebody has opened stays as it was opened.
    pub fn parenthesize(&mut self, value: NodeId, block: impl Into<u16>, rigid: bool) {
        self.put_in_parentheses(value, value, Wrapped::Inside(block.into()), rigid);
    }

    /// The same around elements that become those of a list in parentheses.
    pub fn enlist(&mut self, elements: NodeId, list: impl Into<u16>) {
        self.put_in_parentheses(elements, elements, Wrapped::Instead(list.into()), false);
    }

    /// The same around elements that stay parts of what they stand in.
    pub fn parenthesize_parts(&mut self, parts: &[NodeId]) {
        if let (Some(first), Some(last)) = (parts.first(), parts.last()) {
            self.put_in_parentheses(*first, *last, Wrapped::Beside, parts.len() == 1);
        }
    }

    fn put_in_parentheses(&mut self, from: NodeId, to: NodeId, becomes: Wrapped, rigid: bool) {
        let (first, end) = (self.first(from), self.end(to));
        let is_one_line = first > 0 && !self.broken_between(first - 1, end - 1);
        let asks = self.choices.add_parens && is_one_line;
        let Some(last) = self.tree.last_solid(to).filter(|_| asks) else { return };
        let group = self.group(Shape::Chain, first, end);
        self.plan.wraps.push(Wrap {
            header: first - 1,
            last,
            brackets: ("(", Some(")")),
            becomes,
            setting: Setting::WrapParens,
            around: Some(TooLong { group, rigid }),
        });
    }

    /// Whether tokens that stand on one line end with so many columns left of it.
    pub fn fits_as_it_stands(&self, first: TokenId, end: TokenId, left: usize) -> bool {
        let bytes = self.tree.tokens[first as usize].start..self.tree.tokens[end as usize - 1].end;
        let text = &self.text[bytes.start as usize..bytes.end as usize];
        !text.contains('\n')
            && self.present_column(first) + columns(text, self.choices.tab) + left
                <= self.choices.max_line
    }

    /// Whether a node ends with brackets that hold more than a name, a number or a short text.
    pub fn ends_with_brackets(&self, node: NodeId) -> bool {
        let (mut depth, mut inside) = (0, 0);
        for token in (self.first(node)..self.end(node)).rev() {
            match self.token_text(token) {
                word if self.tree.closes(word) => depth += 1,
                word if self.tree.opens(word) => depth -= 1,
                _ => {}
            }
            match depth {
                0 => {
                    let last = self.tree.tokens[self.end(node) as usize - 1].start;
                    let width = last.saturating_sub(self.tree.tokens[token as usize].end);
                    return inside > TRIVIAL || (inside > 0 && width > LONG);
                }
                _ => inside += usize::from(token + 1 < self.end(node)),
            }
        }
        false
    }
}
