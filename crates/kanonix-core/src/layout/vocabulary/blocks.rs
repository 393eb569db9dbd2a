//! Blocks, what stands in them line by line, and the brackets around them.

use crate::layout::measure::columns;
use crate::layout::plan::{
    Align, Around, Column, Counts, Gap, GroupId, Opens, Shape, TreeEdit, Want, When,
};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::{Handed, Headed, List};
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, Role, TokenId};
use std::ops::Range;

/// What a statement is to the blank lines around it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Sort {
    /// Brings names in from elsewhere.
    Import,
    /// Declares a function.
    Function,
    /// Declares a class.
    Type,
    /// Declares a function inside a class.
    Member,
    /// Declares what a type or its objects hold.
    Field,
    /// Stands on a line of its own before what it belongs to.
    Lead,
    /// Does so where a function stands right below it.
    Above,
    /// Says more of what stands right above it.
    Trail,
    /// Anything else.
    Other,
}

/// So many arms of one construct are looked at. Bounds the work on hostile input.
const MOST_ARMS: usize = 200;

impl Planner<'_> {
    /// Says of a language that its statements may share a line, where `statement_line` has it so.
    pub fn may_share_lines(&mut self) {
        self.choices.statement_breaks = Setting::StatementLine;
        self.choices.shares_lines = self.style.is(Setting::StatementLine, Key::Whole, "keep");
    }

    /// Statements, each on a line of its own, with the blank lines between them.
    pub fn statements(
        &mut self,
        parts: &[NodeId],
        block: GroupId,
        level: u8,
        sort: fn(&Planner, NodeId) -> Sort,
    ) {
        let sorts = self.sorts(parts, sort);
        let mut before: Option<Sort> = None;
        // The first of the lines that belong to the statement to come.
        let mut lead: Option<TokenId> = None;
        // Those that share the line of one before them.
        let mut row: Option<(GroupId, usize)> = None;
        for (index, part) in parts.iter().enumerate() {
            let token = self.first(*part);
            if let Some((group, _)) = row.filter(|(_, end)| index < *end) {
                self.may_break(token, group, 0, 1, Setting::StatementLine);
                before = Some(sorts[index]);
                continue;
            }
            // The first ones may stand behind the block's header, where others have lines of their own.
            let is_broken = |part: &NodeId| self.broken_before(self.first(*part));
            let begins = || token == 0
                || is_broken(part)
                || index == 0 && parts.iter().any(is_broken);
            row = match self.choices.shares_lines && begins() {
                true => self.shared_line(&parts[index..], &sorts[index..]),
                false => None,
            }
            .map(|(group, count)| (group, index + count));
            let breaks = match index {
                0 => Setting::FlatBlock,
                _ => self.choices.statement_breaks,
            };
            match level {
                0 if block != GroupId::ROOT => self.line_beside(token, block, breaks),
                _ => self.line(token, block, level, breaks),
            }
            if lead.is_some() {
                self.at_most(token, 0);
            }
            let first = *lead.get_or_insert(token);
            let now = sorts[index];
            if now == Sort::Lead {
                continue;
            }
            lead = None;
            match (before, now) {
                (Some(before), Sort::Trail) if before != Sort::Import => continue,
                (Some(before), _) => self.blank_lines_between(first, before, now),
                (None, _) => {}
            }
            before = Some(now);
        }
    }

    /// The list of the statements that somebody put on the line of the first one, and how many they are.
    fn shared_line(&mut self, parts: &[NodeId], sorts: &[Sort]) -> Option<(GroupId, usize)> {
        let is_short = |at: usize| {
            matches!(sorts[at], Sort::Other | Sort::Field | Sort::Import)
                && !self.is_spread(parts[at])
        };
        let is_comment = |token: TokenId| self.tree.tokens[token as usize].role == Role::Comment;
        let stands_beside = |at: &usize| {
            let (end, next) = (self.end(parts[at - 1]), self.first(parts[*at]));
            is_short(at - 1)
                && is_short(*at)
                && !self.broken_between(end - 1, next)
                && !(end..next).any(is_comment)
        };
        let count = 1 + (1..parts.len()).take_while(stands_beside).count();
        (count > 1).then(|| {
            let (first, end) = (self.first(parts[0]), self.end(parts[count - 1]));
            let group = self.group(Shape::List, first, end);
            let own = self.group_mut(group);
            (own.around, own.one_each) = (Around::OneLine, true);
            (group, count)
        })
    }

    /// What statements are, by what stands right below them.
    fn sorts(&self, parts: &[NodeId], sort: fn(&Planner, NodeId) -> Sort) -> Vec<Sort> {
        let mut sorts: Vec<Sort> = parts.iter().map(|part| sort(self, *part)).collect();
        for index in (0..parts.len()).rev() {
            if sorts[index] != Sort::Above {
                continue;
            }
            let led = sorts.get(index + 1);
            let is_led = matches!(led, Some(Sort::Lead | Sort::Function | Sort::Member));
            let is_right_below = |next: &NodeId| {
                let token = self.first(*next);
                self.end(parts[index]) == token && self.gap_text(token).matches('\n').count() == 1
            };
            let leads = is_led && parts.get(index + 1).is_some_and(is_right_below);
            sorts[index] = if leads { Sort::Lead } else { Sort::Other };
        }
        sorts
    }

    /// The same where each statement has its own line and needs no mark behind it: one goes, unless
    /// `statement_end` keeps it.
    pub fn bare_statements(
        &mut self,
        parts: &[NodeId],
        block: GroupId,
        level: u8,
        sort: fn(&Planner, NodeId) -> Sort,
    ) {
        let (ends, own): (Vec<NodeId>, Vec<NodeId>) =
            parts.iter().copied().partition(|part| self.is_separator(*part));
        self.statements(&own, block, level, sort);
        for end in ends {
            let token = self.first(end);
            self.flat(token, 0, Setting::StatementEnd);
            if !self.style.is(Setting::StatementEnd, Key::Whole, "keep") {
                self.rewrite(token, TreeEdit::Remove(When::Always), Setting::StatementEnd);
            }
        }
    }

    /// The opening and the closing token of a pair of brackets and what stands between; an empty
    /// pair is laid out at once.
    pub fn bracketed<'n>(
        &mut self,
        parts: &'n [NodeId],
    ) -> Option<(TokenId, TokenId, &'n [NodeId])> {
        match parts {
            [opener, inner @ .., closer] if !inner.is_empty() => {
                Some((self.first(*opener), self.first(*closer), inner))
            }
            [_, closer] if self.is_breakable(self.first(*closer)) => None,
            [opener, closer] if self.first(*closer) == self.end(*opener) => {
                let blanks = self.choices.block_gap.map(|_| 0);
                self.inside_bracket(self.first(*closer), blanks);
                None
            }
            _ => {
                self.list(parts, List::new());
                None
            }
        }
    }

    /// A block between brackets, whose lines count from the line of `stem`: `inside` lays out what
    /// stands in it, unless it is empty.
    pub fn block(
        &mut self,
        parts: &[NodeId],
        stem: TokenId,
        inside: impl FnOnce(&mut Self, &[NodeId], GroupId),
    ) {
        let Some((opener, closer, inner)) = self.bracketed(parts) else {
            // Comments alone count from there, too.
            if let [opener, closer] = parts
                && let Some(group) = self.gap(self.first(*closer)).group
                && self.plan.groups[group].first == self.first(*opener)
            {
                self.stem(group, stem);
            }
            return;
        };
        let group = self.group(Shape::Block, opener, closer + 1);
        self.stem(group, stem);
        inside(self, inner, group);
        let edge = self.choices.edge_blank;
        let first = self.first(inner[0]);
        self.at_most(first, edge);
        self.line(closer, group, 0, Setting::FlatBlock);
        self.at_most(closer, edge);
    }

    /// Statements between a header and a word on a line of its own that ends them (`end`); there
    /// may be none. Gives their group.
    pub fn word_block(
        &mut self,
        header: TokenId,
        statements: &[NodeId],
        word: NodeId,
        sort: fn(&Planner, NodeId) -> Sort,
    ) -> GroupId {
        let word = self.first(word);
        let group = self.group(Shape::Block, header, word + 1);
        self.statements(statements, group, 1, sort);
        let edge = self.choices.edge_blank;
        if let Some(first) = statements.first().map(|first| self.first(*first)) {
            self.at_most(first, edge);
        }
        self.line(word, group, 0, Setting::FlatBlock);
        self.at_most(word, edge);
        group
    }

    /// The lines of a block count from where its header begins, and not from the line of that, where
    /// somebody put the word that ends it right under the header: `x = if ebb` with `end` under `if`.
    pub fn stands_under(&mut self, group: GroupId, header: TokenId, word: TokenId) {
        if self.choices.remembers
            && self.broken_before(word)
            && !self.broken_before(header)
            && self.stands_at(header) == self.stands_at(word)
        {
            let own = self.group_mut(group);
            (own.stem, own.counts, own.under) = (header, Counts::Stem, Some(header));
        }
    }

    /// Whether what stands between a header and a word that ends it (`end`) takes lines of its own.
    /// A comment between them that nothing breaks needs none.
    pub fn holds_lines(&self, opener: TokenId, word: TokenId) -> bool {
        match word > opener + 1 {
            true => self.broken_between(opener, word),
            false => self.choices.remembers && self.broken_before(word),
        }
    }

    /// The group of statements between the last token of a header and a word that ends them, where
    /// `flat_block` keeps them on the header's line: a list, as long as they fit there.
    pub fn flat_words(
        &mut self,
        header: TokenId,
        opener: TokenId,
        word: TokenId,
        key: Key,
    ) -> Option<GroupId> {
        if word <= opener + 1 {
            return None;
        }
        self.flat_group(header, opener, word, key)
    }

    /// The same for statements that nothing on their line ends: what goes on behind them (`else`) has a
    /// line of its own.
    pub fn flat_arm(
        &mut self,
        header: TokenId,
        opener: TokenId,
        own: &[NodeId],
        key: Key,
    ) -> Option<GroupId> {
        let last = own.last().map(|last| self.end(*last) - 1).filter(|last| *last > opener)?;
        self.flat_group(header, opener, last, key)
    }

    fn flat_group(
        &mut self,
        header: TokenId,
        opener: TokenId,
        last: TokenId,
        key: Key,
    ) -> Option<GroupId> {
        let is_comment = |token: TokenId| self.tree.tokens[token as usize].role == Role::Comment;
        let is_flat = self.style.is(Setting::FlatBlock, key, "keep")
            && !(opener + 1..last).any(is_comment)
            && !self.broken_between(opener, last)
            // Behind a condition of several lines, nobody sees what it is a condition for.
            && !(key == Key::Control && self.broken_between(header, opener))
            && self.may_stay_flat(opener, last + 1, key);
        is_flat.then(|| {
            let group = self.group(Shape::List, opener, last + 1);
            self.stem(group, header);
            let own = self.group_mut(group);
            (own.around, own.one_each) = (Around::OneLine, true);
            group
        })
    }

    /// Keeps statements on the line of their header, whose last token is `opener`, as long as there is
    /// room, where `flat_block` does.
    pub fn stays_flat(
        &mut self,
        header: TokenId,
        opener: TokenId,
        own: &[NodeId],
        key: Key,
        is_end: fn(&Planner, NodeId) -> bool,
    ) -> bool {
        let Some(group) = self.flat_arm(header, opener, own, key) else { return false };
        self.flat_lines(opener, own, group, is_end);
        true
    }

    /// Whether several arms of a construct (`else`) have a line each, with the header, whose last token
    /// comes first, and what is behind it: a table of answers. One alone is nobody's way.
    pub fn are_arms_flat(
        &self,
        arms: impl Iterator<Item = (NodeId, TokenId, Option<NodeId>)>,
    ) -> bool {
        let is_flat = |(arm, opener, last): &(NodeId, TokenId, Option<NodeId>)| {
            let end = last.map_or(*opener, |last| self.end(last) - 1);
            let begins_line = self.broken_before(self.first(*arm));
            begins_line && end > *opener && !self.broken_between(*opener, end)
        };
        arms.take(MOST_ARMS).filter(is_flat).nth(1).is_some()
    }

    /// The word that ends what stands on its header's line, as long as this list fits there.
    pub fn flat_end(&mut self, word: TokenId, group: GroupId) {
        self.may_break(word, group, 0, 1, Setting::FlatBlock);
        self.column(word, Column::Value);
    }

    /// What stands between brackets on its header's line, as long as this list fits there.
    pub fn flat_block<'n>(&mut self, parts: &'n [NodeId], list: GroupId) -> &'n [NodeId] {
        let Some((_, closer, inner)) = self.bracketed(parts) else { return &[] };
        let own = self.group_mut(list);
        (own.around, own.one_each) = (Around::OneLine, true);
        for part in &inner[1..] {
            self.may_break(self.first(*part), list, 1, 1, Setting::FlatBlock);
        }
        let first = self.first(inner[0]);
        let inside = self.inside_both(first, closer, self.choices.block_gap);
        for (token, level) in [(first, 1), (closer, 0)] {
            let blanks = self.chosen(token, inside);
            self.may_break(token, list, level, blanks, Setting::InnerGap);
            self.gap(token).breaks = Setting::FlatBlock;
            self.column(token, Column::Value);
        }
        inner
    }

    /// A word that goes on with a construct behind one of its blocks (`else`), on a line of its
    /// own.
    pub fn follower(&mut self, word: TokenId, header: TokenId) {
        let group = self.group(Shape::Block, header, word);
        self.line(word, group, 0, Setting::ElseLine);
        self.at_most(word, 0);
    }

    /// The blank lines that two neighbours ask for.
    pub fn blank_lines_between(&mut self, token: TokenId, before: Sort, after: Sort) {
        let around = |sort| match sort {
            Sort::Function => Some(Key::BetweenFunctions),
            Sort::Type => Some(Key::BetweenTypes),
            Sort::Member => Some(Key::BetweenMembers),
            Sort::Field => Some(Key::BetweenFields),
            Sort::Import | Sort::Other | Sort::Lead | Sort::Above | Sort::Trail => None,
        };
        let lines = |p: &Self, key: Option<Key>| {
            let number = key.and_then(|key| p.style.number(Setting::BlankLines, key));
            number.unwrap_or(0) as u8
        };
        let mut asked_after = lines(self, around(before));
        if before == Sort::Import && after != Sort::Import {
            asked_after = lines(self, Some(Key::AfterImports));
        }
        let asked_before = lines(self, around(after));
        if asked_after > 0 || asked_before > 0 {
            self.blank_lines(token, asked_before, asked_after);
        }
    }

    /// The brace that opens a block, behind its header or on the next line. `header` is the first
    /// token of the construct, `key` the kind of block that `open_brace` knows.
    pub fn open_brace(&mut self, brace: TokenId, header: TokenId, key: Key) {
        // Behind a comment that ends its line there is no other place.
        let begins_line = self.begins_behind_comment(brace);
        if begins_line || self.begins_next_line(brace, key) {
            let group = self.group(Shape::Block, header, brace + 1);
            self.newline(brace, group, 0, Setting::OpenBrace);
        } else if self.style.is(Setting::OpenBrace, key, "next_line_if_broken") {
            let group = self.group(Shape::LastResort, brace - 1, brace + 1);
            let stem = self.behind_annotations(header, brace);
            self.stem(group, stem);
            self.group_mut(group).opens = Opens::BehindHeader;
            self.may_break(brace, group, 0, 1, Setting::OpenBrace);
        } else {
            self.behind(brace, Setting::OpenBrace);
        }
    }

    /// Where a header begins behind the annotations that may lead it: `@Tide(high)`, `[Tide]`.
    pub fn behind_annotations(&self, header: TokenId, end: TokenId) -> TokenId {
        let behind = |open: TokenId| {
            let mut depth = 0usize;
            let closes = |token: &TokenId| {
                let text = self.token_text(*token);
                depth += usize::from(self.tree.opens(text));
                depth -= usize::from(self.tree.closes(text));
                depth == 0
            };
            (open..end).find(closes).map_or(end, |closer| closer + 1)
        };
        let mut at = header;
        while at < end {
            at = match self.token_text(at) {
                _ if self.tree.tokens[at as usize].role == Role::Comment => at + 1,
                "[" => behind(at),
                "@" => {
                    let name = |token: &TokenId| (token - at) % 2 == 0
                        && self.token_text(*token) != ".";
                    match (at + 1..end).find(name) {
                        Some(open) if self.token_text(open) == "(" => behind(open),
                        next => next.unwrap_or(end),
                    }
                }
                _ => return at,
            };
        }
        end
    }

    /// What stands one blank behind something on its line, as `breaks` has it. That the blank is
    /// there or not is no evidence for where it stands.
    pub fn behind(&mut self, token: TokenId, breaks: Setting) {
        let gap = match self.choices.keep_words && !self.broken_before(token) {
            true => Gap::KEPT,
            false => Gap::flat(1, Setting::WordGap),
        };
        *self.gap(token) = Gap { breaks, ..gap };
    }

    /// The brace of a value right behind its sign, as `open_brace` has it.
    pub fn behind_sign(&mut self, brace: TokenId, blanks: u8) {
        let blanks = self.unfused(brace, blanks);
        *self.gap(brace) =
            Gap { breaks: Setting::OpenBrace, ..Gap::flat(blanks, Setting::OperatorGap) };
        self.column(brace, Column::Value);
    }

    /// As [`Planner::open_brace`] for a block that `flat_block` may keep on its header's line. It
    /// is handed its group then.
    pub fn open_block(&mut self, block: NodeId, header: TokenId, key: Key) {
        self.open_block_as(block, header, key, key);
    }

    /// As [`Planner::open_block`] for a block that `flat_block` knows by another key, `flat`.
    pub fn open_block_as(&mut self, block: NodeId, header: TokenId, key: Key, flat: Key) {
        if let Some(group) = self.open_braces(self.first(block), self.end(block), header, key, flat)
        {
            self.hand(block, Handed::Block(group));
        }
    }

    /// The same for braces that are no node of their own. Gives the group of what stays on its header's
    /// line.
    pub fn open_braces(
        &mut self,
        brace: TokenId,
        end: TokenId,
        header: TokenId,
        key: Key,
        flat: Key,
    ) -> Option<GroupId> {
        let next_line = self.begins_next_line(brace, key);
        if next_line && end == brace + 2 && !self.broken_before(end - 1) {
            // Two braces with nothing between them need no line.
            self.behind(brace, Setting::OpenBrace);
            return None;
        }
        let is_flat = self.style.is(Setting::FlatBlock, flat, "keep")
            && !self.broken_between(brace, end - 1)
            && self.may_stay_flat(brace, end, flat)
            && !(next_line && self.broken_before(brace));
        if !is_flat {
            self.open_brace(brace, header, key);
            return None;
        }
        if !next_line {
            self.behind(brace, Setting::OpenBrace);
            self.column(brace, Column::Value);
            return Some(self.group(Shape::List, brace, end));
        }
        // Where it does not fit after all, its brace is on the next line.
        let group = self.group(Shape::List, brace - 1, end);
        self.stem(group, header);
        self.may_break(brace, group, 0, 1, Setting::OpenBrace);
        self.column(brace, Column::Value);
        Some(group)
    }

    /// The first gap that is broken of a block that is kept on its header's line, should it not
    /// fit there; `None` for a block that is not.
    pub fn flat_opening(&self, block: NodeId, key: Key) -> Option<TokenId> {
        let brace = self.first(block);
        let next_line = self.begins_next_line(brace, key);
        let flat = self.keeps_flat(block, key) && !(next_line && self.broken_before(brace));
        flat.then_some(if next_line { brace } else { brace + 1 })
    }

    /// The brace that opens a list of values (`new Gauge { … }`), behind what they are for, or, where
    /// the list is open, on the next line. Gives the group that the list opens with then.
    pub fn open_list(
        &mut self,
        brace: TokenId,
        end: TokenId,
        header: TokenId,
        key: Key,
    ) -> Option<GroupId> {
        let stays = self.stays_apart(brace, end, key);
        if !(stays || self.begins_next_line(brace, key)) || end <= brace + 2 {
            self.behind(brace, Setting::OpenBrace);
            return None;
        }
        let group = self.group(Shape::List, brace - 1, end);
        self.stem(group, header);
        let own = self.group_mut(group);
        (own.around, own.one_each) = (Around::OneLine, true);
        let is_further = stays && self.is_further_in(brace, header);
        self.may_break(brace, group, u8::from(is_further), 1, Setting::OpenBrace);
        Some(group)
    }

    /// Whether the brace of a collection stays on a line of its own though others have none: its elements
    /// stand beside it, and would come to stand far to the right.
    fn stays_apart(&self, brace: TokenId, end: TokenId, key: Key) -> bool {
        self.choices.remembers
            && key == Key::Collection
            && self.style.is(Setting::OpenBrace, key, "same_line")
            && self.choices.aligns.of(key) != Align::Step
            && self.broken_before(brace)
            && !self.broken_before(brace + 1)
            && self.broken_between(brace + 1, end - 1)
    }

    /// As [`Planner::open_list`] for a list that is a node of its own, which is handed the group.
    pub fn open_values(&mut self, list: NodeId, header: TokenId, key: Key) {
        if let Some(group) = self.open_list(self.first(list), self.end(list), header, key) {
            self.hand(list, Handed::Block(group));
        }
    }

    /// The first gap that is broken of such a list, should it not fit on its line.
    pub fn values_opening(&self, list: NodeId, key: Key) -> Option<TokenId> {
        let first = self.inside(list)?;
        let brace = first - 1;
        let begins = self.begins_next_line(brace, key)
            || self.stays_apart(brace, self.end(list), key);
        Some(if begins { brace } else { first })
    }

    /// Two braces with nothing between them stay on two lines where somebody put them there: people
    /// write either, and no guide speaks of it. Says whether they do.
    pub fn stays_empty(&mut self, parts: &[NodeId], base: TokenId) -> bool {
        let [opener, closer] = parts else { return false };
        let (opener, closer) = (self.first(*opener), self.first(*closer));
        let stays = self.choices.remembers && self.broken_before(closer);
        if stays {
            let group = self.group(Shape::Block, opener, closer + 1);
            self.stem(group, base);
            self.line(closer, group, 0, Setting::FlatBlock);
            self.at_most(closer, self.choices.edge_blank);
        }
        stays
    }

    /// Whether what stands between a namespace's braces is a step further in, where its first line
    /// begins with `first` and its header's with `base`.
    pub fn indents_namespace(&self, base: TokenId, first: Option<TokenId>) -> bool {
        let is_inside = || first.is_none_or(|first| self.stands_further_in(first, base));
        self.choices.namespace_indent.unwrap_or_else(is_inside)
    }

    /// Whether a token that begins a line stands further in than the line that `base` is on, and not right
    /// below `base`. One that begins none does.
    fn stands_further_in(&self, token: TokenId, base: TokenId) -> bool {
        !self.broken_before(token)
            || (self.is_further_in(token, base) && self.stands_at(token) != self.stands_at(base))
    }

    /// Whether a token that begins a line stands further in than the line that `base` is on.
    pub fn is_further_in(&self, token: TokenId, base: TokenId) -> bool {
        self.stands_at(token) > columns(self.line_indent(base), self.choices.tab)
    }

    /// Whether a node has three fifths of the file's words: no setting adds some or takes any away.
    pub fn has_most(&self, node: NodeId) -> bool {
        let count = self.tree.tokens.len() as TokenId;
        let (first, end) = (self.first(node), self.end(node));
        let is_word = |token: &TokenId| {
            let first = self.token_text(*token).chars().next();
            first.is_some_and(|first| first.is_alphanumeric() || "_$\"'`".contains(first))
        };
        let words = |tokens: Range<TokenId>| tokens.filter(is_word).count();
        // A small one is not looked at, or many of them would be looked at again and again.
        (end - first) * 3 >= count && words(first..end) * 5 >= words(0..count) * 3
    }

    /// Whether the brace of a block stands on a line of its own, where the block is open.
    pub fn begins_next_line(&self, brace: TokenId, key: Key) -> bool {
        match self.style.keeps(Setting::OpenBrace, key) {
            true => self.broken_before(brace),
            false => self.style.is(Setting::OpenBrace, key, "next_line"),
        }
    }

    /// The cases of a `switch` or the arms of a `match`, each on a line of its own, between two
    /// braces whose header begins at `header`.
    pub fn cases(&mut self, parts: &[NodeId], header: TokenId) {
        self.block(parts, header, |p, cases, group| {
            p.statements(cases, group, 1, |_, _| Sort::Other);
            p.indent_cases(cases, header);
        });
    }

    /// A block that a case begins with and that `rest` of its statements stand behind: it begins behind the
    /// case's mark, or is as far in as they are. Where all of that is no further in than the case, and is
    /// remembered, it stays so.
    pub fn case_block(&mut self, block: NodeId, rest: &[NodeId], case: TokenId) {
        let first = self.first(block);
        let is_beside = |part: &NodeId| {
            let token = self.first(*part);
            self.broken_before(token) && !self.stands_further_in(token, case)
        };
        let stays = self.choices.remembers
            && rest.iter().all(is_beside)
            && (!self.broken_before(first) || is_beside(&block));
        if stays {
            self.stand_beside(rest, Setting::CaseIndent);
        }
        if stays || !self.begins_next_line(first, Key::Control) {
            self.open_block(block, case, Key::Control);
        }
    }

    /// What stands behind the mark of a case: a block alone, or statements that `listed` lists.
    pub fn case_body(
        &mut self,
        case: NodeId,
        mark: TokenId,
        inner: &[NodeId],
        kinds: Headed,
        listed: fn(&mut Planner, &[NodeId], GroupId, u8),
    ) {
        let [first, rest @ ..] = inner else { return self.empty_block(self.first(case), mark) };
        let (header, begins_with_block) = (self.first(case), self.is(*first, kinds.block));
        if begins_with_block && rest.is_empty() {
            return self.open_block(*first, header, Key::Control);
        }
        if self.keeps_flat(case, Key::Case) {
            return self.flat_case(mark, inner, kinds.empty);
        }
        let group = self.group(Shape::Block, mark, self.end(case));
        self.stem(group, header);
        listed(self, inner, group, 1);
        self.at_most(self.first(*first), self.choices.edge_blank);
        self.bare_block(self.first(*first), self.end(case), group);
        match begins_with_block {
            true => self.case_block(*first, rest, header),
            false => self.begins_beside_case(*first, rest),
        }
    }

    /// `case 1: warn();` above `break;`: the first statement of a case stays on its line where what stands
    /// there is kept, and the others have theirs further in.
    pub fn begins_beside_case(&mut self, first: NodeId, rest: &[NodeId]) {
        let token = self.first(first);
        let has_line = |part: &NodeId| {
            let next = self.first(*part);
            self.broken_before(next) && self.stands_at(next) != self.stands_at(token)
        };
        let stays = self.style.is(Setting::FlatBlock, Key::Case, "keep")
            && !self.broken_before(token)
            && !self.broken_between(token, self.end(first) - 1)
            && !rest.is_empty()
            && rest.iter().all(has_line);
        if stays {
            self.behind(token, Setting::FlatBlock);
        }
    }

    /// Statements that stay on their header's line if they fit there; an empty one stays with the one before
    /// it.
    pub fn flat_statements(&mut self, statements: &[NodeId], group: GroupId, empty: u16) {
        for (index, part) in statements.iter().enumerate() {
            let token = self.first(*part);
            if index > 0 && self.is(*part, empty) {
                self.word(token, 0);
            } else if index > 0 || self.gap(token).group != Some(group) {
                self.may_break(token, group, 1, 1, Setting::FlatBlock);
            }
            if index + 1 < statements.len() {
                self.hand(*part, Handed::Statement(group));
            }
        }
    }

    /// The statements of a case on the line of its mark, as long as there is room.
    pub fn flat_case(&mut self, mark: TokenId, statements: &[NodeId], empty: u16) {
        let (Some(first), Some(last)) = (statements.first(), statements.last()) else { return };
        let (first, group) = (self.first(*first), self.group(Shape::List, mark, self.end(*last)));
        self.group_mut(group).one_each = true;
        self.flat_statements(statements, group, empty);
        self.at_most(first, 0);
        self.column(first, Column::Value);
    }

    /// Cases that begin lines are as far in as what they are cases of, unless `case_indent` has them
    /// further in, or keeps the first of them so.
    pub fn indent_cases(&mut self, cases: &[NodeId], header: TokenId) {
        let is_inside = || {
            cases.first().is_none_or(|first| self.stands_further_in(self.first(*first), header))
        };
        if !self.choices.case_indent.unwrap_or_else(is_inside) {
            self.stand_beside(cases, Setting::CaseIndent);
        }
    }

    /// What a namespace holds between words is as far in as these are, and a comment behind the last
    /// of it is, too.
    pub fn stand_beside_namespace(&mut self, parts: &[NodeId]) {
        self.stand_beside(parts, Setting::NamespaceIndent);
        let first = parts.first().map(|first| self.first(*first));
        if let Some(group) = first.and_then(|first| self.gap(first).group) {
            self.plan.groups[group].inner = 0;
        }
    }

    /// Of some parts, those that begin lines are as far in as what they stand in.
    fn stand_beside(&mut self, parts: &[NodeId], setting: Setting) {
        for part in parts {
            self.stand_at(*part, 0, setting);
        }
    }

    /// A part that begins a line is some steps further in than what it stands in.
    pub(super) fn stand_at(&mut self, part: NodeId, steps: u8, setting: Setting) {
        let token = self.first(part);
        let gap = self.gap(token);
        if gap.want == Want::Line {
            (gap.level, gap.breaks) = (steps, setting);
        }
    }
}
