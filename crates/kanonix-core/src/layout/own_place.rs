//! What does not stand where the code around it does: directives, and code that somebody commented out.

use super::fill::Filler;
use super::indent::IndentId;
use crate::style::{Key, Setting};
use crate::syntax::{Role, Token, Word};

/// Code is looked for beside a directive behind so many comments and other directives. Bounds the work
/// on hostile input.
const MOST_BETWEEN: usize = 64;

impl Filler<'_> {
    /// Where a directive stands, or code that somebody commented out, if not where the code does.
    pub(super) fn own_place(&mut self, index: usize) -> Option<IndentId> {
        let sheet = self.sheet;
        if self.is_at_margin(index) || self.is_commented_out(index) {
            return Some(self.indents.of(""));
        }
        let directive = sheet.tree.tokens.get(index).filter(|token| token.directive)?;
        let own = sheet.tree.directives?;
        let key = match own.word(&sheet.text[directive.start as usize..directive.end as usize]) {
            Word::Begins | Word::Divides | Word::Ends => Key::Condition,
            Word::Region => Key::Region,
            Word::Other => Key::Other,
        };
        if sheet.style.is(Setting::DirectiveIndent, key, "margin") {
            return Some(self.root);
        }
        let stays = sheet.style.is(Setting::DirectiveIndent, key, "keep")
            && (sheet.indentation_at(index).is_empty() || !self.stands_as_code(index));
        stays.then(|| self.present_line_indent(index))
    }

    /// Whether a comment would be none anywhere but at the very beginning of its line.
    fn is_at_margin(&self, index: usize) -> bool {
        let sheet = self.sheet;
        let token = sheet.tree.tokens.get(index).filter(|token| token.role == Role::Comment);
        let text = |token: &Token| &sheet.text[token.start as usize..token.end as usize];
        let mark = sheet.tree.comments.at_margin;
        mark.zip(token).is_some_and(|(mark, token)| text(token).starts_with(mark))
    }

    /// Whether a comment is code that an editor commented out: its mark stands at the text's margin, and
    /// behind the mark of one of the lines around it the code's own indentation does.
    fn is_commented_out(&self, index: usize) -> bool {
        let sheet = self.sheet;
        let marks = sheet.tree.comments;
        // What stands behind the mark at the margin.
        let behind = |at: usize| {
            let token = sheet.tree.tokens.get(at)?;
            let start = token.start as usize;
            let is_it = token.role == Role::Comment && !token.directive;
            if !is_it || !(start == 0 || sheet.text[..start].ends_with('\n')) {
                return None;
            }
            let text = &sheet.text[start..token.end as usize];
            // Some editors put the mark twice.
            let line = |mark: &&str| Some(text.strip_prefix(mark)?.trim_start_matches(mark));
            let block = |(opens, _): &(&'static str, _)| text.strip_prefix(opens);
            let line = marks.line.iter().filter(|_| !token.multi_line).find_map(line);
            line.or_else(|| marks.blocks.iter().find_map(block))
        };
        let is_code = |text: &str| text.starts_with("  ") || text.starts_with('\t');
        // Where the code around it stands at the margin, so does any comment.
        let Some(own) = behind(index).filter(|_| self.is_inside(index)) else { return false };
        let after = (index + 1..sheet.tree.tokens.len()).take(MOST_BETWEEN).map_while(behind);
        let before = (0..index).rev().take(MOST_BETWEEN).map_while(behind);
        is_code(own) || after.into_iter().any(is_code) || before.into_iter().any(is_code)
    }

    /// Whether the code around a comment begins further in than the text's margin. A bracket that ends a
    /// block, and what begins one, stand outside.
    fn is_inside(&self, index: usize) -> bool {
        let sheet = self.sheet;
        let [next, before] = self.code_around(index);
        let is_further_in = |at: usize| !sheet.indentation_at(at).is_empty();
        match (next.filter(|next| !sheet.plan.closes(*next)), before) {
            (Some(next), _) => is_further_in(next),
            (None, Some(before)) => {
                let group = next.and_then(|next| sheet.plan.group_of(next));
                let begins = group.is_some_and(|group| group.first as usize >= before);
                begins || is_further_in(before)
            }
            (None, None) => false,
        }
    }

    /// The nearest tokens behind and before a place that are no comments.
    fn code_around(&self, index: usize) -> [Option<usize>; 2] {
        let tokens = &self.sheet.tree.tokens;
        let is_code = |at: &usize| tokens[*at].role != Role::Comment;
        let next = (index..tokens.len()).take(MOST_BETWEEN).find(is_code);
        let before = (0..index).rev().take(MOST_BETWEEN).find(is_code);
        [next, before]
    }

    /// Whether a line of the text is as far in as the next line of code, or the one before.
    fn stands_as_code(&self, index: usize) -> bool {
        let sheet = self.sheet;
        let own = sheet.indentation_at(index);
        self.code_around(index).iter().flatten().any(|code| sheet.indentation_at(*code) == own)
    }
}
