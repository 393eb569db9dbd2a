//! The changes to tokens that rules declare.

use crate::layout::plan::{Rewrite, TreeEdit, When, Wrap};
use crate::layout::planner::Planner;
use crate::style::{Key, Setting, Value};
use crate::syntax::{NodeId, Role, TokenId};

impl Planner<'_> {
    /// Declares a change to a token. One that follows a comment is never taken away: the comment
    /// would be left behind with nothing to end its line. Nor is anything added or taken away where
    /// the grammar leaves it unread.
    pub fn rewrite(&mut self, token: TokenId, change: TreeEdit, setting: Setting) {
        let is_reread = |token: TokenId| {
            self.tree.tokens.get(token as usize).is_some_and(|token| token.reread)
        };
        let comes = change.is_behind() && is_reread(token) && is_reread(token + 1);
        if comes || (change.takes_away() && is_reread(token)) {
            return;
        }
        let before = token.checked_sub(1).map(|before| self.tree.tokens[before as usize].role);
        if change.takes_away() && before == Some(Role::Comment) {
            return;
        }
        self.plan.rewritten[token as usize] = true;
        self.plan.rewrites.push(Rewrite { token, change, setting });
    }

    /// A semicolon behind a statement that has none, where `statement_end` wants one.
    pub fn end_with_semicolon(&mut self, node: NodeId) {
        if self.choices.end_with_semicolon
            && let Some(token) = self.tree.last_solid(node)
        {
            self.rewrite(token, TreeEdit::Insert(";", When::Always), Setting::StatementEnd);
        }
    }

    /// Declares braces around the statement behind `header`, if `bare_body` asks for them; they
    /// make a block of it.
    pub fn brace(&mut self, header: TokenId, statement: NodeId, block: impl Into<u16>) {
        if self.choices.brace_bare
            && let Some(last) = self.tree.last_solid(statement)
        {
            let (brackets, setting) = (("{", "}"), Setting::BareBody);
            let block = block.into();
            self.plan.wraps.push(Wrap { header, last, brackets, block, setting });
        }
    }

    /// Declares one blank, or none, after the mark that a comment begins with. Only where the mark
    /// is followed by a word, or by one blank and a word: what somebody has set off further, or
    /// marked otherwise, stays.
    pub(in crate::layout) fn comment_marks(&mut self, token: TokenId) {
        let Value::Flag(wanted) = self.style.get(Setting::CommentGap, Key::AfterMark) else {
            return
        };
        let text = self.token_text(token);
        let marks = self.tree.comments.line.iter();
        let Some((mark, rest)) = marks.filter_map(|m| Some((m, text.strip_prefix(m)?))).next()
        else {
            return;
        };
        let body = rest.strip_prefix(' ').unwrap_or(rest);
        let spelt = format!("{mark}{}{body}", if wanted { " " } else { "" });
        if body.starts_with(char::is_alphanumeric) && (rest.len() == body.len()) == wanted {
            self.rewrite(token, TreeEdit::Respell(spelt), Setting::CommentGap);
        }
    }

    /// Declares another spelling of a string whose quotes are `mark`, after a prefix of `prefix`
    /// bytes, if `setting` asks for the other kind and the string holds neither kind inside.
    pub fn quotes(&mut self, token: TokenId, prefix: usize, setting: Setting) {
        let wanted = match setting {
            Setting::MarkupQuotes => self.choices.markup_quotes,
            _ => self.choices.quotes,
        };
        let Some(wanted) = wanted else { return };
        let text = self.token_text(token);
        let Some(quoted) = text.get(prefix..) else { return };
        let quote = quoted.chars().next().unwrap_or_default();
        if quoted.len() < 2 || quote == wanted || !quoted.ends_with(quote) {
            return;
        }
        let inside = &quoted[1..quoted.len() - 1];
        if !inside.contains(['"', '\'']) {
            let spelt = format!("{}{wanted}{inside}{wanted}", &text[..prefix]);
            self.rewrite(token, TreeEdit::Respell(spelt), setting);
        }
    }
}
