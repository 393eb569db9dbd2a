//! The changes to tokens that rules declare.

use crate::layout::Sheet;
use crate::layout::plan::{GroupId, Import, Remark, Rewrite, TooLong, TreeEdit, When, Wrap, Wrapped};
use crate::layout::planner::Planner;
use crate::style::{Key, Setting, Value};
use crate::syntax::{NodeId, Role, TokenId};
use std::collections::HashSet;
use std::ops::Range;

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
        self.plan.rewrites.push(Rewrite { token, change, setting, message: String::new() });
    }

    /// Declares another spelling of a token, and says what is wanted.
    pub fn respell(&mut self, token: TokenId, spelt: String, setting: Setting, message: &str) {
        self.spell(token, TreeEdit::Respell(spelt), setting, message.into());
    }

    fn spell(&mut self, token: TokenId, change: TreeEdit, setting: Setting, message: String) {
        self.plan.rewritten[token as usize] = true;
        self.plan.rewrites.push(Rewrite { token, change, setting, message });
    }

    /// How a token is spelt after what is declared so far.
    fn spelling(&self, token: TokenId) -> &str {
        let mut declared = self.plan.rewrites.iter().rev();
        let spelt = declared.find_map(|rewrite| match &rewrite.change {
            TreeEdit::Respell(spelt) | TreeEdit::Reorder(spelt) if rewrite.token == token => {
                Some(spelt.as_str())
            }
            _ => None,
        });
        spelt.filter(|_| self.plan.rewritten[token as usize]).unwrap_or(self.token_text(token))
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
    /// make a block of it. Where a condition of the preprocessor stands between, one of them would be
    /// there in some of its branches only.
    pub fn brace(&mut self, header: TokenId, statement: NodeId, block: impl Into<u16>) {
        let is_divided = |last: TokenId| {
            let between = &self.tree.tokens[header as usize..last as usize];
            between.iter().any(|token| token.directive)
        };
        if self.choices.brace_bare
            && let Some(last) = self.tree.last_solid(statement)
            && !is_divided(last)
        {
            let (brackets, setting) = (("{", Some("}")), Setting::BareBody);
            let becomes = Wrapped::Inside(block.into());
            self.plan.wraps.push(Wrap {
                header,
                last,
                brackets,
                becomes,
                setting,
                around: None,
            });
        }
    }

    /// Declares a mark before the first of several alternatives, which is alike then, where they do not
    /// fit the line that they stand on; it makes a `block` of it.
    pub fn lead(
        &mut self,
        (first, group): (NodeId, GroupId),
        mark: &'static str,
        block: impl Into<u16>,
        setting: Setting,
    ) {
        let (token, end) = (self.first(first), self.plan.groups[group].end);
        let is_one_line = token > 0 && !self.broken_between(token - 1, end - 1);
        let Some(last) = self.tree.last_solid(first).filter(|_| is_one_line) else { return };
        self.plan.wraps.push(Wrap {
            header: token - 1,
            last,
            brackets: (mark, None),
            becomes: Wrapped::Inside(block.into()),
            setting,
            around: Some(TooLong { group, rigid: false }),
        });
    }

    /// Declares one blank, or none, after the mark that a comment begins with. Only where the mark
    /// is followed by a word, or by one blank and a word: what somebody has set off further, or
    /// marked otherwise, stays, and so does code that was commented out, by how it ends.
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
        if self.tree.comments.is_told(rest) || rest.trim_end().ends_with([';', '{', '}']) {
            return;
        }
        let body = rest.strip_prefix(' ').unwrap_or(rest);
        let spelt = format!("{mark}{}{body}", if wanted { " " } else { "" });
        if body.starts_with(char::is_alphanumeric) && (rest.len() == body.len()) == wanted {
            let message = match wanted {
                true => "one space after the comment's mark",
                false => "no space after the comment's mark",
            };
            self.respell(token, spelt, Setting::CommentGap, message);
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
            let message = match wanted {
                '"' => "use double quotes",
                _ => "use single quotes",
            };
            self.respell(token, spelt, setting, message);
        }
    }

    /// Declares the order of the words before a declaration, where `modifier_order` asks for the one
    /// of the language's guide. They change places among themselves; what stands between them stays.
    pub fn order_modifiers(&mut self, words: &[TokenId], guide: &[&str]) {
        let [first, .., last] = words else { return };
        let is_asked = self.style.is(Setting::ModifierOrder, Key::Whole, "guide");
        if !is_asked || self.broken_between(*first, *last) {
            return;
        }
        let place = |token: &TokenId| {
            guide.iter().position(|word| *word == self.token_text(*token)).unwrap_or(guide.len())
        };
        let mut ordered = words.to_vec();
        ordered.sort_by_key(place);
        let spelt: Vec<&str> = ordered.iter().map(|token| self.token_text(*token)).collect();
        let message = format!("put the words in the order `{}`", spelt.join(" "));
        for ((token, taken), text) in words.iter().zip(&ordered).zip(spelt) {
            if token != taken {
                let change = TreeEdit::Take(text.to_string(), *taken);
                self.spell(*token, change, Setting::ModifierOrder, message.clone());
            }
        }
    }

    /// An import of one name, which goes if nothing mentions that and `unused_imports` says so.
    pub fn imports_name(&mut self, import: NodeId, name: NodeId) {
        if Sheet::drops_imports(self.style) {
            let (first, end) = (self.first(import), self.end(import));
            self.plan.imports.push(Import { first, end, name: self.end(name) - 1 });
        }
    }

    /// Whether there is an agreed order of words.
    pub fn orders_words(&self) -> bool {
        self.word_order().is_some()
    }

    /// Declares the agreed order of the words that stand between a token's first and last byte.
    /// `held` says which stretches of its text are somebody else's to say: they keep their places,
    /// with the words that touch them, and the words on each side are put in order by themselves.
    pub fn order_words(&mut self, token: TokenId, held: &[Range<usize>]) {
        let Some(order) = self.word_order() else { return };
        let text = self.token_text(token);
        if text.len() < 2 {
            return;
        }
        let mut spelt = String::with_capacity(text.len());
        let mut doubled: Vec<Range<usize>> = Vec::new();
        let mut done = 0;
        for words in stretches(text, 1..text.len() - 1, held) {
            let own: Vec<&str> = words.iter().map(|word| &text[word.clone()]).collect();
            let mut seen = HashSet::new();
            let again = |word: &&Range<usize>| !seen.insert(&text[(*word).clone()]);
            doubled.extend(words.iter().filter(again).cloned());
            for (place, word) in words.iter().zip(order.sorted(&own)) {
                spelt.push_str(&text[done..place.start]);
                spelt.push_str(word);
                done = place.end;
            }
        }
        spelt.push_str(&text[done..]);
        let start = self.tree.tokens[token as usize].start as usize;
        let remarks = doubled.into_iter().map(|word| Remark {
            about: "doubled_word",
            message: format!("`{}` stands here twice", &text[word.clone()]),
            bytes: word.start + start..word.end + start,
        });
        let remarks: Vec<Remark> = remarks.collect();
        if spelt != text {
            let words = spelt[1..spelt.len() - 1].split_whitespace().collect::<Vec<_>>().join(" ");
            let message = format!("put the words in the agreed order: `{}`", shortened(&words));
            // The same between the quotes that are wanted.
            let quotes = self.spelling(token);
            let (first, last) = (&quotes[..1], &quotes[quotes.len() - 1..]);
            let spelt = format!("{first}{}{last}", &spelt[1..spelt.len() - 1]);
            self.spell(token, TreeEdit::Reorder(spelt), Setting::WordOrder, message);
        }
        self.plan.remarks.extend(remarks);
    }
}

/// The words of a part of a text, in runs between what is held.
fn stretches(text: &str, part: Range<usize>, held: &[Range<usize>]) -> Vec<Vec<Range<usize>>> {
    let mut is_held = vec![false; text.len()];
    held.iter().for_each(|range| is_held[range.clone()].fill(true));
    let is_blank = |at: &usize| !is_held[*at] && text.as_bytes()[*at].is_ascii_whitespace();
    let mut stretches = Vec::new();
    let mut own = Vec::new();
    let mut at = part.start;
    while let Some(start) = (at..part.end).find(|at| !is_blank(at)) {
        at = (start..part.end).find(is_blank).unwrap_or(part.end);
        if is_held[start..at].contains(&true) {
            stretches.push(std::mem::take(&mut own));
        } else {
            own.push(start..at);
        }
    }
    stretches.push(own);
    stretches
}

/// The words that a message has room for.
fn shortened(words: &str) -> String {
    match words.char_indices().nth(LONGEST_SHOWN) {
        Some((at, _)) => format!("{} …", words[..at].trim_end()),
        None => words.to_string(),
    }
}

/// So many characters of an order are shown.
const LONGEST_SHOWN: usize = 60;

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_stand_in_runs_between_what_is_held() {
        let text = "\"a b {x y} c{z}d e\tf {q}\"";
        let held = [5..10, 12..15, 21..24].map(|range| {
            assert!(text[range.clone()].starts_with('{') && text[range.clone()].ends_with('}'));
            range
        });
        let found: Vec<Vec<&str>> = stretches(text, 1..text.len() - 1, &held)
            .into_iter()
            .map(|words| words.into_iter().map(|word| &text[word]).collect())
            .collect();
        assert_eq!(found, [vec!["a", "b"], vec![], vec!["e", "f"], vec![]]);
    }
}
