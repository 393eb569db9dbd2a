//! Comments: the rules decide the gap between two constructs as if no comment stood between them,
//! and this pass divides that gap among the comments that do.

use super::choices::remembers;
use super::measure::columns;
use super::plan::{BareBlock, Gap, GroupId, Plan, Rows, Shape, Want};
use crate::style::{Key, Setting, Style};
use crate::syntax::{Role, Token, TokenId, Tree};
use crate::text::Lines;

/// So many comments behind one another on a line are looked past. Bounds the work on hostile input.
const MOST_ON_A_LINE: usize = 8;

/// Gives every comment its gap, and opens the groups that a comment keeps open.
pub(super) fn place(plan: &mut Plan, tree: &Tree, text: &str, style: &Style, lines: &Lines) {
    if !tree.has(Role::Comment) {
        return;
    }
    let mut placing = Placing {
        tree,
        text,
        lines,
        before: style.number(Setting::CommentGap, Key::Before).map(|blanks| blanks as u8),
        most: style.number(Setting::BlankLines, Key::Most).unwrap_or(1) as u8,
        remembers: remembers(style),
        step: columns(&style.indent_step(), style.tab_columns()).max(1),
        tab: style.tab_columns(),
        bare_blocks: std::mem::take(&mut plan.bare_blocks),
    };
    placing.bare_blocks.sort_by_key(|block| block.last);
    let mut at = 0;
    while at < tree.tokens.len() {
        if tree.tokens[at].role != Role::Comment {
            at += 1;
            continue;
        }
        let first = at;
        while at < tree.tokens.len() && tree.tokens[at].role == Role::Comment {
            at += 1;
        }
        placing.run(plan, first, at);
    }
    plan.bare_blocks = placing.bare_blocks;
}

struct Placing<'a> {
    tree: &'a Tree,
    text: &'a str,
    lines: &'a Lines,
    /// Blanks before a comment at a line's end; none where they stay.
    before: Option<u8>,
    /// Blank lines at most.
    most: u8,
    /// Whether what people wrote has a say.
    remembers: bool,
    /// The columns of a step, and of a tab.
    step: usize,
    tab: usize,
    /// Ascending by last token, outer ones first.
    bare_blocks: Vec<BareBlock>,
}

impl Placing<'_> {
    /// The comment tokens `first..next` stand between two constructs; `next` is the token after
    /// them, or the end of the file.
    fn run(&self, plan: &mut Plan, first: usize, next: usize) {
        let wanted = plan.gaps[next];
        let starts: Vec<usize> =
            (first..next).filter(|at| !self.tree.tokens[*at].continues).collect();
        if self.tree.tokens.get(next).is_some_and(|token| token.role == Role::Heredoc) {
            // They end the line on which that is announced.
            starts.iter().for_each(|at| plan.gaps[*at] = self.beside(*at));
            return;
        }
        for at in first..next {
            if self.tree.tokens[at].continues {
                plan.gaps[at] = self.later_line(plan, at);
            }
        }
        match wanted.want {
            Want::Line => {
                self.between_lines(plan, &starts, next, wanted);
                if starts.iter().any(|at| self.tree.tokens[*at].directive) {
                    // No line is asked for beside one that is no part of the program.
                    starts.iter().chain([&next]).for_each(|at| plan.gaps[*at].least = 0);
                }
            }
            Want::Break => self.between_elements(plan, &starts, next, wanted),
            // The line that begins behind them begins anyway (a brace's).
            Want::Newline if starts.iter().all(|at| self.ends_line(*at)) => {
                // Before what closes, they belong to what stands inside.
                let level = wanted.level.max(u8::from(self.is_closing(next)));
                for at in starts {
                    plan.gaps[at] = match self.begins_line(at) {
                        true => Gap { level, ..wanted },
                        false => self.beside(at),
                    };
                }
            }
            // The bracket is behind the last element, and behind what is said of that on its line.
            Want::Flat if wanted.breaks == Setting::CloseBracket && self.are_inside(&starts) => {
                let gap = Gap::flat(1, Setting::CommentGap);
                starts.iter().for_each(|at| plan.gaps[*at] = gap);
            }
            _ => {
                for at in starts {
                    plan.gaps[at] = Gap::KEPT;
                }
                plan.gaps[next] = Gap::KEPT;
            }
        }
    }

    /// Whether a comment between two lines of a block that stand on one line speaks of what is before it:
    /// none stands before the first of them, as all would if they spoke of what is behind them.
    fn speaks_of_last(&self, plan: &Plan, at: usize, wanted: Gap) -> bool {
        let Some(group) = wanted.group.filter(|group| *group != GroupId::ROOT) else {
            return false
        };
        let first = plan.groups[group].first as usize + 1;
        let is_first = |token: &Token| token.role == Role::Comment;
        first < at && !self.begins_line(first) && !self.tree.tokens.get(first).is_some_and(is_first)
    }

    /// Whether all of these comments stand on the line of an element before them, and may have something
    /// behind them there.
    fn are_inside(&self, starts: &[usize]) -> bool {
        let before = starts[0].checked_sub(1).map(|before| &self.tree.tokens[before]);
        let text = |token: &Token| &self.text[token.start as usize..token.end as usize];
        let is_behind = before.is_some_and(|before| !self.tree.opens(text(before)));
        is_behind && starts.iter().all(|at| !self.begins_line(*at) && self.has_end(*at))
    }

    /// Whether a token is a closing bracket.
    fn is_closing(&self, at: usize) -> bool {
        self.tree.tokens.get(at).is_some_and(|token| {
            self.tree.closes(&self.text[token.start as usize..token.end as usize])
        })
    }

    /// Whether a comment before a block's closing bracket speaks of the word behind that (`}
    /// else`): somebody put it at the bracket's column.
    fn speaks_of_follower(&self, plan: &Plan, at: usize, closer: usize) -> bool {
        let follower = closer + 1;
        let is_word = |token: &Token| {
            self.text[token.start as usize..].starts_with(char::is_alphabetic)
        };
        let goes_on = |gap: &Gap| gap.want == Want::Flat || gap.breaks == Setting::ElseLine;
        self.tree.tokens.get(follower).is_some_and(is_word)
            && goes_on(&plan.gaps[follower])
            && self.column(at) == self.column(closer)
    }

    /// Whether a comment behind a block is its own, by how far in it stands; `next` is what follows,
    /// unless that is a bracket around the block.
    fn is_inside(&self, at: usize, block: &BareBlock, next: Option<usize>) -> bool {
        let column = self.column(at);
        let is_below = |header: TokenId| {
            column > self.indent(header as usize)
                && next.is_none_or(|next| column > self.column(next))
        };
        block.first.is_some_and(|first| column >= self.column(first as usize))
            || block.header.is_some_and(is_below)
    }

    /// A later line of a starred comment keeps its distance from the first one, if that begins a
    /// line.
    fn later_line(&self, plan: &Plan, at: usize) -> Gap {
        let start = (0..at).rev().find(|before| !self.tree.tokens[*before].continues).unwrap_or(0);
        if !self.begins_line(start) || plan.gaps[at].want == Want::Newline {
            return Gap::KEPT;
        }
        Gap { want: Want::Newline, breaks: Setting::IndentSize, ..Gap::KEPT }
    }

    /// By how many steps somebody put a comment less far in than what it stands above, where that stands
    /// further in by choice.
    fn less_far_in(&self, at: usize, next: usize, wanted: &Gap) -> u8 {
        if wanted.by_choice == 0 {
            return 0;
        }
        let less = self.column(next).saturating_sub(self.column(at));
        match less.is_multiple_of(self.step) {
            true => wanted.by_choice.min((less / self.step) as u8),
            false => 0,
        }
    }

    fn between_lines(&self, plan: &mut Plan, starts: &[usize], next: usize, wanted: Gap) {
        let mut open = self.blocks_that_end(starts[0]);
        let is_closer = plan.closes(next);
        let inline = |at: &usize| !self.begins_line(*at) && !self.ends_line(*at);
        let is_outermost = wanted.group == Some(GroupId::ROOT);
        if wanted.level == 0 && !is_closer && !is_outermost && starts.iter().any(inline) {
            // Between a bracket and a word that may follow it (`} /* … */ else`).
            starts.iter().chain([&next]).for_each(|at| plan.gaps[*at] = Gap::KEPT);
            return;
        }
        let mut asked_after = wanted.least_after;
        let mut attached = None;
        // What belongs to what is above it, and has blank lines behind it already.
        let trailing = self.trailing(starts, next);
        for (index, at) in starts.iter().enumerate() {
            if !self.begins_line(*at) {
                plan.gaps[*at] = self.beside(*at);
                if !self.ends_line(*at) && !is_closer && !self.speaks_of_last(plan, *at, wanted) {
                    // An inline comment before something on the same line.
                    plan.gaps[*at] = if *at == starts[0] { wanted } else { Gap::KEPT };
                }
                attached = None;
                continue;
            }
            let less = self.less_far_in(*at, next, &wanted);
            let mut gap = Gap {
                level: wanted.level - less,
                by_choice: 0,
                least: 0,
                most: self.most,
                least_after: 0,
                ..wanted
            };
            if is_closer && self.speaks_of_follower(plan, *at, next) {
                // It stands where the bracket does.
            } else if is_closer {
                gap.level = wanted.group.map_or(1, |group| plan.groups[group].inner);
                gap.inside = true;
            } else if *at == starts[0] {
                // What holds at a block's edge holds for the first comment there.
                gap.most = wanted.most;
                plan.gaps[next].most = self.most.max(wanted.most);
            }
            while let Some(block) = open.pop() {
                if self.is_inside(*at, &block, (!is_closer).then_some(next)) {
                    gap.group = Some(block.group);
                    gap.level = plan.groups[block.group].inner;
                    gap.inside = true;
                    open.push(block);
                    break;
                }
            }
            if open.is_empty() && index >= trailing {
                gap.least = std::mem::take(&mut asked_after);
                gap.most = gap.most.max(gap.least);
            }
            if attached.is_none() || self.blank_lines_before(*at) > 0 {
                attached = open.is_empty().then_some(*at);
            }
            plan.gaps[*at] = gap;
        }
        let last = starts[starts.len() - 1];
        // A bracket has its own line, even where a comment stands before it.
        let closes_beside =
            !self.begins_line(last) && (is_closer || self.speaks_of_last(plan, last, wanted));
        if !self.ends_line(last) && !closes_beside && next < self.tree.tokens.len() {
            plan.gaps[next] = self.inline(next);
        } else if let Some(attached) = attached
            && self.blank_lines_before(next) == 0
            && next < self.tree.tokens.len()
        {
            let gap = &mut plan.gaps[attached];
            gap.least = gap.least.max(wanted.least);
            gap.most = gap.most.max(gap.least);
            plan.gaps[next].least = 0;
            plan.gaps[next].most = 0;
        } else if let Some(attached) = attached
            && self.remembers
            && plan.gaps[attached].least >= wanted.least
        {
            // What stands as far from what is above it as both ask for is a heading: one line sets it off.
            plan.gaps[next].least = wanted.least.min(1);
        }
    }

    /// How many comments stand right below what is above them, with blank lines between them and what is
    /// below.
    fn trailing(&self, starts: &[usize], next: usize) -> usize {
        if self.blank_lines_before(starts[0]) > 0 || next == self.tree.tokens.len() {
            return 0;
        }
        let is_apart = |at: &usize| self.blank_lines_before(*at) > 0;
        match starts.iter().position(is_apart) {
            Some(count) => count,
            None if is_apart(&next) => starts.len(),
            None => 0,
        }
    }

    fn between_elements(&self, plan: &mut Plan, starts: &[usize], next: usize, wanted: Gap) {
        let Some(group) = wanted.group else { return };
        let is_closer = plan.closes(next);
        // In rows that somebody laid out, a line ends behind such a comment anyway.
        let in_rows = plan.groups[group].rows == Rows::Kept;
        // Nothing flows around what ends its line.
        plan.groups[group].fills &= !starts.iter().any(|at| self.ends_line(*at));
        let most = match plan.groups[group].shape {
            Shape::List => self.most.max(wanted.most),
            _ => wanted.most,
        };
        for at in starts {
            // What holds at a list's edge holds for what stands there.
            let is_alone = starts[0] == plan.groups[group].first as usize + 1;
            let is_edge = *at == starts[0] && (!is_closer || is_alone);
            let mut gap = Gap { most: if is_edge { wanted.most } else { most }, ..wanted };
            if self.begins_line(*at) {
                // What follows it on its line may follow it on any other.
                gap.level = if is_closer { 1 } else { wanted.level };
                gap.inside |= is_closer;
                plan.groups[group].force_if(self.ends_line(*at) && !in_rows);
                if self.tree.tokens[*at].directive {
                    // It has a line of its own, whatever the form of the group.
                    gap.want = match plan.groups[group].shape.has_units() {
                        true => Want::Line,
                        false => Want::Newline,
                    };
                }
            } else if is_closer && self.has_end(*at) {
                let opener = plan.groups[group].first as usize;
                gap = match *at == opener + 1 {
                    true => self.inline(*at),
                    false if self.ends_line(*at) => self.beside(*at),
                    false => Gap::flat(1, Setting::CommentGap),
                };
            } else if self.ends_line(*at) {
                gap = self.beside(*at);
            } else if *at != starts[0] {
                gap = self.inline(*at);
            }
            let opening = &mut plan.groups[group].opening;
            if gap.want == Want::Break && opening.is_some_and(|gap| gap as usize > *at) {
                *opening = Some(*at as u32);
            }
            plan.gaps[*at] = gap;
        }
        if !is_closer {
            plan.gaps[next].most = most;
        }
        let last = starts[starts.len() - 1];
        if self.ends_line(last) {
            // A comment with an end of its own may stand before the closing bracket on its line.
            let may_close = is_closer && !self.begins_line(last) && self.has_end(last);
            plan.groups[group].force_if(!may_close && !in_rows);
        } else if !is_closer {
            plan.gaps[next] = self.inline(next);
        } else if starts[0] == plan.groups[group].first as usize + 1 {
            // Nothing but comments between two brackets.
            plan.gaps[next].blanks = self.inline(next).blanks;
        }
    }

    /// The gap before a comment that follows code on its line.
    fn beside(&self, at: usize) -> Gap {
        let gap = |blanks| Gap::flat(blanks, Setting::CommentGap);
        match self.before {
            _ if at == 0 => gap(0),
            _ if self.touches(at) => gap(0),
            Some(blanks) => gap(blanks),
            None if self.present(at).is_empty() || self.begins_line(at) => gap(1),
            None => Gap { want: Want::Keep, ..gap(1) },
        }
    }

    /// Whether a comment touches what stands before it by choice: another one (`]]--`), or where the language
    /// has that, anything, if it has an end of its own (`</div><!-- /tides -->`).
    fn touches(&self, at: usize) -> bool {
        let is_comment = self.tree.tokens[at - 1].role == Role::Comment;
        let may_touch = is_comment || (self.tree.comments.touching && self.has_end(at));
        may_touch && self.present(at).is_empty()
    }

    /// The gap after an inline comment: a blank if there is one.
    fn inline(&self, at: usize) -> Gap {
        let blanks = u8::from(!self.present(at).is_empty());
        Gap::flat(blanks, Setting::CommentGap)
    }

    fn present(&self, at: usize) -> &str {
        &self.text[self.tree.gap(at, self.text.len())]
    }

    fn begins_line(&self, at: usize) -> bool {
        at == 0 || self.present(at).contains('\n')
    }

    /// Whether the comment that starts at this token is the last thing on its line, but for others.
    fn ends_line(&self, at: usize) -> bool {
        let mut after = at + 1;
        for _ in 0..=MOST_ON_A_LINE {
            while after < self.tree.tokens.len() && self.tree.tokens[after].continues {
                after += 1;
            }
            let Some(token) = self.tree.tokens.get(after) else { return true };
            if self.present(after).contains('\n') {
                return true;
            }
            if token.role != Role::Comment {
                return false;
            }
            after += 1;
        }
        false
    }

    /// Whether something may follow the comment on its line.
    fn has_end(&self, at: usize) -> bool {
        self.tree.comments.closer(&self.text[self.tree.tokens[at].start as usize..]).is_some()
    }

    fn blank_lines_before(&self, at: usize) -> usize {
        self.present(at).matches('\n').count().saturating_sub(1)
    }

    /// The column at which a token stands in the text.
    fn column(&self, token: usize) -> usize {
        let start = self.tree.tokens[token].start as usize;
        columns(&self.text[self.lines.start(self.lines.line_of(start))..start], self.tab)
    }

    /// The column at which a token's line begins.
    fn indent(&self, token: usize) -> usize {
        let start = self.lines.start(self.lines.line_of(self.tree.tokens[token].start as usize));
        let line = &self.text[start..];
        columns(&line[..line.len() - line.trim_start_matches([' ', '\t']).len()], self.tab)
    }

    /// The blocks without a bracket whose last token stands right before this one, outer ones
    /// first.
    fn blocks_that_end(&self, before: usize) -> Vec<BareBlock> {
        let Some(last) = before.checked_sub(1) else { return Vec::new() };
        let from = self.bare_blocks.partition_point(|block| (block.last as usize) < last);
        let blocks = self.bare_blocks[from..].iter();
        blocks.take_while(|block| block.last as usize == last).copied().collect()
    }
}
