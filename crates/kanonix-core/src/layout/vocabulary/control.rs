//! Statements with a header in parentheses, and what stands behind them.

use crate::layout::plan::{Close, GroupId, Opens, Rows, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::Handed;
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId};

/// What a language calls the statements that stand behind a header.
#[derive(Clone, Copy, Debug)]
pub struct Headed {
    /// Its block.
    pub block: u16,
    /// Its statement of nothing but an end.
    pub empty: u16,
    /// Statements that no braces may be put around.
    pub bare: &'static [u16],
}

impl Planner<'_> {
    /// The parenthesis that a word asks something in.
    pub fn asks_in(&mut self, parens: NodeId) {
        self.parens(self.first(parens), self.choices.control_parens);
    }

    /// A condition without parentheses, behind which a body comes.
    pub fn asks(&mut self, condition: NodeId) {
        let first = self.first(condition);
        self.plan.conditions.push(first);
    }

    /// A condition between two words, behind which a body comes: `if ebb or flood then`. Where somebody
    /// gave it lines of its own, it keeps them, with both words beside it; and so does the word behind
    /// an operation (`is_operation`) of several lines.
    pub fn asks_between(
        &mut self,
        word: TokenId,
        condition: NodeId,
        closer: TokenId,
        is_operation: bool,
    ) {
        let first = self.first(condition);
        let closes = self.choices.remembers
            && self.broken_before(closer)
            && self.takes_lines(first, closer);
        if closes && self.broken_before(first) {
            let group = self.group(Shape::Chain, word, closer + 1);
            self.force(group);
            self.may_break(first, group, 1, 1, Setting::WordGap);
            return self.may_break(closer, group, 0, 1, Setting::WordGap);
        }
        self.asks(condition);
        if closes && is_operation {
            let chain = self.leading_chain(condition, Key::Condition);
            self.hand(condition, Handed::Chain(chain));
            let group = self.group(Shape::LastResort, closer - 1, closer + 1);
            self.stem(group, word);
            self.group_mut(group).tail = Some(chain);
            self.may_break(closer, group, 0, 1, Setting::WordGap);
        }
    }

    /// Whether nothing stands behind a node on its line.
    fn is_last_on_line(&self, node: NodeId) -> bool {
        let next = self.end(node);
        next as usize == self.tree.tokens.len() || self.broken_before(next)
    }

    /// The statement behind a header: a block, or a bare statement, which stays on the header's
    /// line or on the next one as it stands. `header` is the first token of the construct, `after`
    /// the one that the statement follows.
    pub fn headed(&mut self, body: NodeId, header: TokenId, after: TokenId, kinds: Headed) {
        let first = self.first(body);
        if self.is(body, kinds.block) {
            return self.open_block(body, header, Key::Control);
        }
        if self.is(body, kinds.empty) {
            return self.word(first, 0);
        }
        if self.broken_between(after, first) {
            let group = self.group(Shape::Block, after, self.end(body));
            self.stem(group, header);
            self.line(first, group, 1, Setting::FlatBlock);
            self.at_most(first, 0);
        } else if self.choices.brace_bare || !self.is_last_on_line(body) {
            self.stands_in_header(body, header, after);
            self.word(first, 1);
        } else {
            self.stands_in_header(body, header, after);
            // What has no room behind its header, and has some on the next line, stands there.
            let group = self.group(Shape::LastResort, after, self.end(body));
            self.stem(group, header);
            // A header that somebody broke keeps what stands behind it.
            self.group_mut(group).opens = match self.broken_between(header, after) {
                true => Opens::ToFit,
                false => Opens::BehindLines,
            };
            self.may_break(first, group, 1, 1, Setting::FlatBlock);
        }
        if !kinds.bare.contains(&self.kind(body)) {
            self.brace(after, body, kinds.block);
        }
    }

    /// `if (ebb) switch (level)`: what stands on its header's line may have its braces a step further in, as
    /// what a header holds.
    fn stands_in_header(&mut self, body: NodeId, header: TokenId, after: TokenId) {
        let last = self.end(body) - 1;
        if self.choices.remembers
            && self.token_text(last) == "}"
            && self.broken_before(last)
            && self.broken_before(header)
            && !self.broken_between(header, after)
            && self.present_column(last) == self.present_column(header) + self.choices.step
        {
            self.sets_apart(header, 2);
        }
    }

    /// `else` behind a statement: behind the brace before it, or on its own line. After a bare
    /// statement it stays where it stands, if nothing from there on takes several lines.
    pub fn or_else(
        &mut self,
        word: TokenId,
        node: NodeId,
        consequence: NodeId,
        kinds: Headed,
    ) {
        let header = self.first(node);
        if self.is(consequence, kinds.block) {
            return self.goes_on(word, header, true);
        }
        let opens = |inner: &NodeId| {
            self.first(*inner) > word
                && self.is(*inner, kinds.block)
                && !self.keeps_flat(*inner, Key::Control)
        };
        let lines = self.broken_between(word, self.end(node) - 1)
            || self.all_inside(node).any(|inner| opens(&inner));
        match lines && !self.is_reread(node) {
            true => self.follower(word, header),
            false => self.goes_on(word, header, false),
        }
    }

    /// What `else` holds. Another question goes on with it on its line, or right beneath a comment behind
    /// it; on a line of its own that is further in, it is what an `else` on such a line holds alone.
    pub fn otherwise(&mut self, word: TokenId, other: NodeId, is_question: bool, kinds: Headed) {
        let first = self.first(other);
        let is_alone = || {
            let is_below = self.broken_before(first) && self.is_further_in(first, word);
            is_below && self.else_begins_line(word) && !self.choices.brace_bare
        };
        if !is_question || is_alone() {
            return self.headed(other, word, word, kinds);
        }
        self.next_question(other, word);
    }

    /// The question that goes on with an `else`.
    pub fn next_question(&mut self, question: NodeId, word: TokenId) {
        match self.begins_behind_comment(self.first(question)) {
            true => self.stands_beneath(question, word),
            false => self.word(self.first(question), 1),
        }
    }

    /// A statement that begins a line as far in as its header, which is no block's.
    pub fn stands_beneath(&mut self, inner: NodeId, header: TokenId) {
        let (first, group) = (self.first(inner), self.group(Shape::Block, header, self.end(inner)));
        self.line(first, group, 0, Setting::FlatBlock);
        self.at_most(first, 0);
    }

    /// Whether a word that goes on behind a brace has a line of its own.
    pub fn else_begins_line(&self, word: TokenId) -> bool {
        self.choices.else_own_line.unwrap_or_else(|| self.broken_before(word))
    }

    /// `else`, `catch`, `finally`: behind the brace before it, or on its own line. After a bare
    /// statement it stays where it stands.
    pub fn goes_on(&mut self, word: TokenId, header: TokenId, after_block: bool) {
        self.begins_or_goes_on(word, header, self.choices.else_own_line.filter(|_| after_block));
    }

    /// A `do`'s `while`, in the same way.
    pub fn ends_loop(&mut self, word: TokenId, header: TokenId, after_block: bool) {
        self.begins_or_goes_on(word, header, self.choices.while_own_line.filter(|_| after_block));
    }

    /// On a line of its own or not, as that is agreed, or else as it stands.
    fn begins_or_goes_on(&mut self, word: TokenId, header: TokenId, agreed: Option<bool>) {
        // A comment may stand between the two, and end its line.
        let agreed = agreed.filter(|_| !self.begins_behind_comment(word));
        match agreed.unwrap_or_else(|| self.broken_before(word)) {
            true => self.follower(word, header),
            false => self.behind(word, Setting::ElseLine),
        }
    }

    /// What stands in the parentheses of `for (let i = 0; i < n; i++)`: a line may end behind each
    /// semicolon where something stands behind it. Where a condition has its closing bracket behind it,
    /// so have these, and the first of them stays behind the opening one.
    fn clauses(&mut self, parts: &[NodeId]) {
        let [opener, inner @ .., closer] = parts else { return };
        let Some(first) = inner.first().map(|first| self.first(*first)) else { return };
        self.asks_in(*opener);
        let (open, close) = (self.first(*opener), self.first(*closer));
        let gap = self.choices.parens_gap;
        let hugs = match self.choices.closes.of(Key::Condition) {
            Close::WithLast => true,
            Close::Keep => !self.broken_before(close),
            Close::OwnLine => false,
        };
        let (group, level) = match hugs {
            true => (self.group(Shape::Chain, first, close), self.choices.chain_steps),
            false => (self.group(Shape::List, open, close + 1), 1),
        };
        if hugs {
            let align = self.choices.aligns.of(Key::Condition);
            let own = self.group_mut(group);
            (own.align, own.rows) = (align, Rows::Any);
        }
        let mut after_end = false;
        for (index, part) in inner.iter().enumerate() {
            let token = self.first(*part);
            let is_end = self.token_text(token) == ";" || self.is_separator(*part);
            if index == 0 {
                let blanks = self.chosen(token, gap);
                match hugs {
                    true => self.flat(token, blanks, Setting::InnerGap),
                    false => self.may_break(token, group, level, blanks, Setting::InnerGap),
                }
            } else if is_end {
                // `for (int i = 0; ; i++)`
                let is_alone = after_end && index + 1 < inner.len();
                self.word(token, u8::from(is_alone));
            } else if after_end {
                self.may_break(token, group, level, 1, Setting::WordGap);
            } else {
                self.word(token, 1);
            }
            after_end = self.token_text(self.end(*part) - 1) == ";";
        }
        let blanks = self.chosen(close, gap);
        match self.gap_text(close) {
            // `for (; ebb; )`: people write either.
            "" | " " if after_end => self.keep_gap(close),
            _ if hugs => self.flat(close, blanks, Setting::InnerGap),
            _ => self.may_break(close, group, 0, blanks, Setting::InnerGap),
        }
    }

    /// `for (let i = 0; i < n; i++) …`
    pub fn counted_loop(&mut self, node: NodeId, parts: &[NodeId], kinds: Headed) {
        let Some((_, closer)) = self.parens_among(parts) else { return };
        self.clauses(&parts[1..closer + 1]);
        if let Some(inner) = parts.get(closer + 1) {
            self.headed(*inner, self.first(node), self.first(parts[closer]), kinds);
        }
    }

    /// `for (const gauge of gauges) …`
    pub fn loop_over(&mut self, node: NodeId, parts: &[NodeId], kinds: Headed) {
        let Some(closer) = self.each_of(parts) else { return };
        if let Some(inner) = parts.get(closer + 1) {
            self.headed(*inner, self.first(node), self.first(parts[closer]), kinds);
        }
    }

    /// `for (const gauge of gauges)`: words, no line ends between the parentheses. Gives the place of the
    /// closing one.
    pub fn each_of(&mut self, parts: &[NodeId]) -> Option<usize> {
        let (opener, closer) = self.parens_among(parts)?;
        self.words(&parts[..closer]);
        self.asks_in(parts[opener]);
        let gap = self.choices.parens_gap;
        for edge in [opener + 1, closer] {
            self.inside_bracket(self.first(parts[edge]), gap);
        }
        Some(closer)
    }

    /// The line of such a header goes on before the word in its midst where what follows that has no room
    /// behind it, and has some there.
    pub fn each_of_below(&mut self, parts: &[NodeId]) {
        let Some((opener, closer)) = self.parens_among(parts) else { return };
        let Some(word) = closer.checked_sub(2).filter(|word| *word > opener + 1) else { return };
        let (word, end) = (self.first(parts[word]), self.end(parts[closer]));
        let group = self.group(Shape::LastResort, word - 1, end);
        self.group_mut(group).opens = Opens::ToFit;
        // Further in than the body.
        self.may_break(word, group, 2, 1, Setting::WordGap);
    }

    /// The places of the parentheses that stand among some parts by themselves.
    fn parens_among(&self, parts: &[NodeId]) -> Option<(usize, usize)> {
        let place = |mark| {
            parts.iter().position(|part| {
                self.end(*part) == self.first(*part) + 1
                    && self.token_text(self.first(*part)) == mark
            })
        };
        Some((place("(")?, place(")")?))
    }

    /// What the header of a declaration says of other types, from its first clause on: lines break
    /// before all of them where it does not fit, and before each that `clause_line` gives a line. Gives
    /// the group of the former, over the tokens up to `end`.
    pub fn clauses_of(
        &mut self,
        header: TokenId,
        end: TokenId,
        clauses: &[(NodeId, Key)],
    ) -> GroupId {
        let group = self.group(Shape::Chain, header, end);
        self.group_mut(group).rows = Rows::Any;
        // Where the brace behind them comes up to them, they would seem to be lines of what it opens.
        let is_brace = self.tree.tokens.get(end as usize).is_some() && self.token_text(end) == "{";
        let begins_line = |key| self.begins_next_line(end, key);
        let comes_up = is_brace
            && self.broken_before(end)
            && !self.after_comment(end)
            && ![Key::Type, Key::Function].into_iter().any(begins_line);
        if !comes_up {
            self.stands_anywhere(group, Key::Declaration);
        }
        let level = self.choices.chain_steps;
        for (clause, kind) in clauses {
            let token = self.first(*clause);
            if self.style.is(Setting::ClauseLine, *kind, "own_line") {
                let block = self.group(Shape::Block, header, token);
                self.newline(token, block, level, Setting::ClauseLine);
            } else {
                self.may_break(token, group, level, 1, Setting::WordGap);
            }
        }
        group
    }

    /// `outer: for (…) …`
    pub fn labeled(&mut self, node: NodeId, colon: NodeId, inner: NodeId) {
        let (colon, first) = (self.first(colon), self.first(inner));
        self.word(colon, 0);
        if self.broken_between(colon, first) {
            let group = self.group(Shape::Block, self.first(node), self.end(node));
            self.line(first, group, 0, Setting::FlatBlock);
        } else {
            self.word(first, 1);
        }
    }
}
