//! What a language's rules write on, and the words of which all the others are made.
//!
//! A rule is given a node and its parts, and says what is wanted in the gaps between them. Suppose
//! that a language of the tides has a call, and that this is one:
//!
//! ```text
//! warn(level, "high")
//! ```
//!
//! Its node has four parts: `warn`, and the list `(`, `level` and `,` and `"high"`, `)`; the list
//! is a node of its own, with a rule of its own. The rule for the call decides one gap, the one
//! before the parenthesis, by the setting that asks for it:
//!
//! ```text
//! let [_, arguments] = parts else { return };
//! p.flat(p.first(*arguments), p.choices.call_parens, Setting::ParenGap);
//! ```
//!
//! *Flat*: so many blanks, and never a line break. The rule for the list begins a *group*, a range
//! of tokens that is laid out together, and says where it may be broken:
//!
//! ```text
//! let group = p.group(Shape::List, p.first(opener), p.end(closer));
//! p.may_break(p.first(level), group, 1, 0, Setting::InnerGap);   // one step in; flat, no blank
//! p.word(p.first(comma), 0);                                     // never broken
//! p.may_break(p.first(high), group, 1, 1, Setting::WordGap);     // one step in; flat, one blank
//! p.may_break(p.first(closer), group, 0, 0, Setting::InnerGap);  // where the group's line stands
//! ```
//!
//! That is all: whether the group is open, and what its lines are indented by, is decided once all
//! rules have spoken. If it does not fit, or somebody opened it, every one of its gaps is a line:
//!
//! ```text
//! warn(
//!     level,
//!     "high"
//! )
//! ```
//!
//! What is a line whatever the width is a [`Planner::line`]: it begins a *unit*, which is mended by
//! itself (a statement). A *newline* is a line inside a unit. A *rewrite* changes a token (the
//! comma that is wanted behind `"high"` where the list is open).
//!
//! Nobody writes these words for a list: [`vocabulary`](super::vocabulary) says it in one call, and
//! a language's table says it for constructs that are nothing but words, or nothing but commas.

use super::choices::Choices;
use super::first_words::is_number;
use super::handed::Handed;
use super::indent::Mixing;
use super::measure::columns;
use super::plan::{BareBlock, Column, Gap, Group, GroupId, Opens, Plan, Shape, Want};
use crate::style::{Key, MemberOrder, Setting, Style, WordOrder};
use crate::syntax::{NodeId, Role, Said, TokenId, Tree};
use std::cell::OnceCell;
use std::ops::Range;
use std::rc::Rc;

/// A language's rule for a node: it is given the node's children that are not comments, joins or
/// empty, and says whether it knows the construct. One that it does not know is kept as it stands.
pub type Rule = fn(&mut Planner, NodeId, &[NodeId]) -> bool;

/// What a language's rules write on. The driver visits every node once, parents first; a rule
/// decides the gaps between its own node's children and nothing else.
pub struct Planner<'a> {
    /// The text's tree.
    pub tree: &'a Tree,
    /// The text.
    pub text: &'a str,
    /// The agreed values.
    pub style: &'a Style,
    /// The values that rules ask for at every turn.
    pub choices: Choices,
    mixing: Mixing,
    pub(super) plan: Plan,
    /// A word that each node's rule leaves for its children, starting as its parent's.
    context: Vec<u8>,
    /// What a node is handed by the rule of one around it.
    pub(super) handed: Vec<Option<Handed>>,
    /// The order of words, once one asks for it.
    word_order: OnceCell<Option<Rc<WordOrder>>>,
    /// The order of members, once a type asks for it.
    member_order: OnceCell<Option<Rc<MemberOrder>>>,
    /// Of which brackets only one has a blank inside, once somebody asks.
    one_sided: OnceCell<[bool; BRACKETS.len()]>,
}

/// Pairs of brackets.
const BRACKETS: [(&str, &str); 3] = [("(", ")"), ("[", "]"), ("{", "}")];

/// So many are several.
const SEVERAL: usize = 5;

/// No more parts have most nodes.
const MOST_PARTS: usize = 8;

/// Half of the longest line that most code has.
const HALF_LINE: usize = 50;

/// How deep constructs are laid out; what is nested deeper is kept as it stands. Nobody reads so
/// far in, and a step of indentation for each level would make a file grow with its square.
const DEEPEST: u32 = 1000;

impl<'a> Planner<'a> {
    /// An empty plan over `tree`.
    pub(super) fn new(tree: &'a Tree, text: &'a str, style: &'a Style) -> Planner<'a> {
        Planner {
            tree,
            text,
            style,
            choices: Choices::of(style),
            mixing: Mixing::of(style, tree.indented),
            plan: Plan::new(tree.tokens.len()),
            context: vec![0; tree.nodes.len()],
            handed: vec![None; tree.nodes.len()],
            word_order: OnceCell::new(),
            member_order: OnceCell::new(),
            one_sided: OnceCell::new(),
        }
    }

    /// The agreed order of words, if there is one.
    pub(super) fn word_order(&self) -> Option<Rc<WordOrder>> {
        self.word_order.get_or_init(|| WordOrder::of(self.style).map(Rc::new)).clone()
    }

    /// The agreed order of members, if there is one.
    pub(super) fn member_order(&self) -> Option<Rc<MemberOrder>> {
        self.member_order.get_or_init(|| MemberOrder::of(self.style).map(Rc::new)).clone()
    }

    /// Visits every node with the language's rule.
    pub(super) fn run(mut self, rule: Rule) -> Plan {
        let mut parts = Vec::new();
        let mut depth: Vec<u32> = vec![0; self.tree.nodes.len()];
        // Comments may be all that there is.
        self.line(
            self.tree.tokens.len() as TokenId,
            GroupId::ROOT,
            0,
            Setting::InsertFinalNewline,
        );
        for node in 0..self.tree.nodes.len() as NodeId {
            let n = &self.tree.nodes[node as usize];
            if node > 0 {
                self.context[node as usize] = self.context[n.parent as usize];
                depth[node as usize] = depth[n.parent as usize] + 1;
            }
            if depth[node as usize] > DEEPEST {
                if depth[node as usize] == DEEPEST + 1 && n.end > n.first {
                    self.keep(node);
                }
                continue;
            }
            let is_leaf = self.tree
                .nodes
                .get(node as usize + 1)
                .is_none_or(|next| next.parent != node);
            if is_leaf && !self.tree.kinds.said(n.kind).may_decide_alone() {
                continue;
            }
            if !n.fault && n.end > n.first && !n.folded {
                parts.clear();
                self.gather(node, &mut parts);
                self.visit(node, &parts, rule);
            }
        }
        self.hold_shown();
        self.ask_the_text();
        // What is put behind a token comes after what is made of the token itself.
        self.plan.rewrites.sort_by_key(|rewrite| (rewrite.token, rewrite.change.is_behind()));
        self.plan
    }

    /// White space that shows is there or not as it stands, whatever a rule has said.
    fn hold_shown(&mut self) {
        for token in 0..self.tree.shows.len() as TokenId {
            if !self.tree.shows(token) || self.gap(token).want.keeps() {
                continue;
            }
            let is_apart = !self.gap_text(token).is_empty();
            let gap = self.gap(token);
            match is_apart {
                true => gap.blanks = gap.blanks.max(1),
                false => *gap = Gap::flat(0, gap.setting),
            }
        }
    }

    /// Lays a node out as the language's table says, or by its rule.
    fn visit(&mut self, node: NodeId, parts: &[NodeId], rule: Rule) {
        match self.tree.kinds.said(self.kind(node)) {
            Said::Words => self.words(parts),
            Said::Tight => self.tight(parts),
            Said::Commas => self.commas(parts),
            Said::Pair => self.pair(parts, Key::Value),
            Said::Comment => self.comment_marks(self.first(node)),
            Said::Plain
            | Said::Mark
            | Said::Separator
            | Said::Join
            | Said::Heredoc
            | Said::Text => {}
            // A word or a mark that no rule names.
            Said::Ruled | Said::Wrapper | Said::Loose | Said::Body | Said::Statements
                if parts.is_empty() =>
            {}
            // What could not be passed over, as something in it does not parse.
            Said::Wrapper | Said::Loose if parts.len() == 1 => {}
            Said::Ruled
            | Said::Wrapper
            | Said::Loose
            | Said::Body
            | Said::Statements
            | Said::Atom
            | Said::Unread => {
                if !rule(self, node, parts) && self.end(node) > self.first(node) + 1 {
                    self.keep(node);
                }
            }
        }
        if self.is_reread(node) {
            self.keep_touching(parts);
        }
    }

    /// Marks that touch go on touching where the grammar leaves them unread, and two that do not
    /// stay apart: whoever reads them may tell the two from one.
    fn keep_touching(&mut self, parts: &[NodeId]) {
        for part in parts.iter().skip(1) {
            let token = self.first(*part);
            if self.are_marks(token) || self.is_between_numbers(token) {
                match self.gap_text(token).is_empty() {
                    true => self.word(token, 0),
                    false => self.gap(token).blanks = 1,
                }
            }
        }
    }

    /// Whether the gap before a token is on one side of a point with a number on both: `pair.0.1`,
    /// where two numbers may be one.
    fn is_between_numbers(&self, token: TokenId) -> bool {
        let is_number = |token: Option<TokenId>| {
            token.is_some_and(|token| {
                (token as usize) < self.tree.tokens.len()
                    && self.token_text(token).starts_with(|c: char| c.is_ascii_digit())
            })
        };
        let is_point = |point: TokenId| {
            self.token_text(point) == "."
                && is_number(point.checked_sub(1))
                && is_number(point.checked_add(1))
        };
        is_point(token) || token.checked_sub(1).is_some_and(is_point)
    }

    // ---- reading -----------------------------------------------------------------------------

    /// A node's own number for its kind.
    pub fn kind(&self, node: NodeId) -> u16 {
        self.tree.nodes[node as usize].kind
    }

    /// Whether a node is of this kind.
    pub fn is(&self, node: NodeId, kind: impl Into<u16>) -> bool {
        self.kind(node) == kind.into()
    }

    /// The place of the first part of a kind.
    pub fn position(&self, parts: &[NodeId], kind: impl Into<u16>) -> Option<usize> {
        let kind = kind.into();
        parts.iter().position(|part| self.kind(*part) == kind)
    }

    /// Whether a node is a mark that ends an element or a statement.
    pub fn is_separator(&self, node: NodeId) -> bool {
        self.tree.kinds.said(self.kind(node)) == Said::Separator
    }

    /// What stands between the first and the last of these parts, without separators.
    pub fn elements(&self, parts: &[NodeId]) -> Vec<NodeId> {
        let [_, inner @ .., _] = parts else { return Vec::new() };
        inner.iter().copied().filter(|part| !self.is_separator(*part)).collect()
    }

    /// Whether the grammar leaves a node unread.
    pub fn is_reread(&self, node: NodeId) -> bool {
        self.tree.tokens.get(self.first(node) as usize).is_some_and(|token| token.reread)
    }

    /// The node around it.
    pub fn parent(&self, node: NodeId) -> NodeId {
        self.tree.nodes[node as usize].parent
    }

    /// Its first token.
    pub fn first(&self, node: NodeId) -> TokenId {
        self.tree.nodes[node as usize].first
    }

    /// The token after its last one.
    pub fn end(&self, node: NodeId) -> TokenId {
        self.tree.nodes[node as usize].end
    }

    /// The children that are not comments, joins or empty.
    pub fn parts(&self, node: NodeId) -> Vec<NodeId> {
        let mut parts = Vec::with_capacity(MOST_PARTS);
        self.gather(node, &mut parts);
        parts
    }

    /// One of a node's parts, by its place among them.
    pub fn part(&self, node: NodeId, place: usize) -> Option<NodeId> {
        self.tree.children(node).filter(|child| self.is_part(*child)).nth(place)
    }

    fn gather(&self, node: NodeId, parts: &mut Vec<NodeId>) {
        parts.extend(self.tree.children(node).filter(|child| self.is_part(*child)));
    }

    fn is_part(&self, child: NodeId) -> bool {
        let n = &self.tree.nodes[child as usize];
        // A block may begin with a comment.
        let is_body = || self.tree.kinds.said(n.kind).role().is_body();
        n.end > n.first
            && (!self.tree.tokens[n.first as usize].role.is_passed_over() || is_body())
    }

    /// The text of a token.
    pub fn token_text(&self, token: TokenId) -> &'a str {
        let token = &self.tree.tokens[token as usize];
        &self.text[token.start as usize..token.end as usize]
    }

    /// What stands between a token and the one before it.
    pub fn gap_text(&self, token: TokenId) -> &'a str {
        &self.text[self.tree.gap(token as usize, self.text.len())]
    }

    /// How many blanks stand before a token, or the comments before it, if nothing else does.
    pub fn present_blanks(&self, token: TokenId) -> Option<u8> {
        let tokens = &self.tree.tokens[..token as usize];
        let comments = tokens.iter().rev().take_while(|token| token.role == Role::Comment).count();
        let gap = self.gap_text(token - comments as TokenId);
        gap.bytes().all(|byte| byte == b' ').then(|| u8::try_from(gap.len()).ok()).flatten()
    }

    /// Whether the text has a line break between a token and the one before it.
    pub fn broken_before(&self, token: TokenId) -> bool {
        self.tree.broken(token as usize, self.text)
    }

    /// What the line of the text begins with on which a token stands.
    pub fn line_indent(&self, token: TokenId) -> &'a str {
        let own = &self.tree.tokens[token as usize];
        if own.broken {
            return self.mixing.read(self.tree.indentation(token as usize, self.text));
        }
        let start = own.start as usize;
        let line = &self.text[self.text[..start].rfind('\n').map_or(0, |at| at + 1)..];
        self.mixing.read(&line[..line.len() - line.trim_start_matches([' ', '\t']).len()])
    }

    /// At which column of its line a token stands in the text.
    pub(super) fn stands_at(&self, token: TokenId) -> usize {
        let start = self.tree.tokens[token as usize].start as usize;
        let line = self.text[..start].rfind('\n').map_or(0, |at| at + 1);
        columns(&self.text[line..start], self.choices.tab)
    }

    /// Whether a node's tokens stand on more than one line.
    pub fn is_spread(&self, node: NodeId) -> bool {
        let n = &self.tree.nodes[node as usize];
        let (Some(first), Some(last)) = (
            self.tree.tokens.get(n.first as usize),
            self.tree.tokens.get((n.end as usize).wrapping_sub(1)),
        ) else {
            return false;
        };
        self.text[first.start as usize..last.end as usize].contains('\n')
    }

    /// Whether tokens take more than half a line.
    pub fn takes_half_a_line(&self, tokens: Range<TokenId>) -> bool {
        let tokens = &self.tree.tokens[tokens.start as usize..tokens.end as usize];
        let widths = tokens.iter().map(|token| (token.end - token.start) as usize);
        let sum = widths.scan(0, |sum, width| {
            *sum += width;
            Some(*sum)
        });
        sum.take(HALF_LINE + 1).any(|sum| sum > HALF_LINE)
    }

    /// Whether a definition stands on one line, and may stay there: such ones need no blank lines.
    pub fn is_one_line(&self, node: NodeId, key: Key) -> bool {
        self.style.is(Setting::FlatBlock, key, "keep")
            && !self.is_spread(node)
            && self.line_fits(self.first(node))
    }

    /// The word that a node's rule left for its children.
    pub fn context(&self, node: NodeId) -> u8 {
        self.context[node as usize]
    }

    /// Leaves a word for a node's children.
    pub fn set_context(&mut self, node: NodeId, word: u8) {
        self.context[node as usize] = word;
    }

    /// Whether a block of this kind that stands on one line, and on one that fits, stays there.
    pub fn keeps_flat(&self, node: NodeId, key: Key) -> bool {
        self.style.is(Setting::FlatBlock, key, "keep")
            && !self.is_spread(node)
            && self.may_stay_flat(self.first(node), self.end(node), key)
    }

    /// Whether a block on one line may stay there: the line is no longer than lines may be; or the block
    /// gives a value and takes less than half of one: what is around it is broken rather than it.
    pub(super) fn may_stay_flat(&self, first: TokenId, end: TokenId, key: Key) -> bool {
        let is_short = || {
            let start = self.tree.tokens[first as usize].start;
            let width = self.tree.tokens[end as usize - 1].end - start;
            width as usize <= self.choices.max_line / 2
        };
        self.line_fits(first) || (matches!(key, Key::Lambda | Key::Value) && is_short())
    }

    /// Whether the line of the text on which a token begins is no longer than lines may be.
    pub fn line_fits(&self, token: TokenId) -> bool {
        let max = self.choices.max_line;
        let start = self.tree.tokens[token as usize].start as usize;
        let before = self.text[..start].chars().rev().take_while(|c| *c != '\n');
        let after = self.text[start..].chars().take_while(|c| !matches!(c, '\r' | '\n'));
        before.chain(after).take(max.saturating_add(1)).count() <= max
    }

    /// The blanks inside a bracket, on one line; `None` for as many as there are.
    pub fn inner_gap(&self, bracket: TokenId) -> Option<u8> {
        match self.token_text(bracket).bytes().last() {
            Some(b'(' | b')') => self.choices.parens_gap,
            Some(b'[' | b']') => self.choices.brackets_gap,
            Some(b'{' | b'}') => self.choices.braces_gap,
            Some(b'<' | b'>') => self.choices.angles_gap,
            _ => Some(0),
        }
    }

    // ---- gaps --------------------------------------------------------------------------------

    /// The gap before a token.
    pub fn gap(&mut self, token: TokenId) -> &mut Gap {
        &mut self.plan.gaps[token as usize]
    }

    /// So many blanks before a token, by a setting.
    pub fn flat(&mut self, token: TokenId, blanks: u8, setting: Setting) {
        *self.gap(token) = Gap::flat(blanks, setting);
    }

    /// Blanks that no other setting decides.
    pub fn word(&mut self, token: TokenId, blanks: u8) {
        *self.gap(token) =
            if self.choices.keep_words { Gap::KEPT } else { Gap::flat(blanks, Setting::WordGap) };
    }

    /// The gap before an opening parenthesis.
    pub fn parens(&mut self, token: TokenId, blanks: Option<u8>) {
        let blanks = self.chosen(token, blanks);
        self.flat(token, blanks, Setting::ParenGap);
    }

    /// The gap before the value that is given a type: what somebody put on a line of its own stays there.
    pub fn behind_cast(&mut self, cast: NodeId, value: TokenId) {
        if self.choices.remembers && self.broken_before(value) {
            let group = self.group(Shape::Block, self.first(cast), self.end(cast));
            self.newline(value, group, self.choices.chain_steps, Setting::ParenGap);
        } else {
            self.parens(value, self.choices.cast_gap);
        }
    }

    /// The gap inside a bracket, in which no line ends.
    pub fn inside_bracket(&mut self, token: TokenId, blanks: Option<u8>) {
        let blanks = self.chosen(token, blanks);
        self.flat(token, blanks, Setting::InnerGap);
    }

    /// The gap before the closing one of two brackets that hold nothing: none, or what is kept inside them.
    pub fn inside_nothing(&mut self, opener: TokenId, closer: TokenId) {
        let blanks = self.inner_gap(opener).map(|_| 0);
        self.inside_bracket(closer, blanks);
    }

    /// So many blanks before a token, or one if there are some.
    pub fn chosen(&self, token: TokenId, blanks: Option<u8>) -> u8 {
        blanks.unwrap_or_else(|| self.present_blanks(token).unwrap_or(0).min(1))
    }

    /// So many blanks inside both of a construct's brackets; kept, they are as behind the opening one,
    /// where that does not end a line. A closing one right behind another one or a semicolon stays so, and so
    /// does a number that has room for its sign alone.
    pub fn inside_both(&self, first: TokenId, closer: TokenId, blanks: Option<u8>) -> Option<u8> {
        let present = || {
            let (opens, closes) = (self.present_blanks(first), self.present_blanks(closer));
            let stays = || {
                self.token_text(closer - 1).ends_with([')', ']', '}', ';'])
                    || is_number(self.token_text(first))
                    || self.is_one_sided(closer)
            };
            match closes == Some(0) && opens > closes && stays() {
                true => None,
                false => opens.or(closes),
            }
        };
        blanks.or_else(|| present().map(|blanks| blanks.min(1)))
    }

    /// Whether the brackets of a text that have a blank behind the opening one have none before the closing
    /// one: somebody means it, where there are several and hardly any others.
    fn is_one_sided(&self, closer: TokenId) -> bool {
        let kind = BRACKETS.iter().position(|(_, closes)| self.token_text(closer) == *closes);
        kind.is_some_and(|kind| self.one_sided.get_or_init(|| self.one_sided_brackets())[kind])
    }

    fn one_sided_brackets(&self) -> [bool; BRACKETS.len()] {
        BRACKETS.map(|(opens, closes)| {
            let tokens = || 1..self.tree.tokens.len() as TokenId;
            let has_blanks = |token: &TokenId| self.present_blanks(*token) > Some(0);
            let opened = tokens().filter(|token| self.token_text(token - 1) == opens);
            let closed = tokens().filter(|token| self.token_text(*token) == closes);
            let (opened, closed) = (opened.filter(has_blanks), closed.filter(has_blanks));
            let most = opened.count();
            most >= SEVERAL && closed.count() * SEVERAL < most
        })
    }

    /// A gap that is broken when its group is open.
    pub fn may_break(
        &mut self,
        token: TokenId,
        group: GroupId,
        level: u8,
        blanks: u8,
        setting: Setting,
    ) {
        let blanks = match setting {
            Setting::WordGap if self.choices.keep_words => {
                self.present_blanks(token).unwrap_or(blanks)
            }
            _ => blanks,
        };
        let opening = &mut self.group_mut(group).opening;
        *opening = Some(opening.map_or(token, |gap| token.min(gap)));
        let breaks = match self.plan.groups[group].shape {
            Shape::List | Shape::Block => Setting::ListWrap,
            _ => Setting::MaxLineLength,
        };
        *self.gap(token) = Gap {
            want: Want::Break,
            blanks,
            level,
            inside: level > 0,
            setting,
            breaks,
            group: Some(group),
            most: self.choices.most_blank,
            ..Gap::KEPT
        };
        if self.plan.groups[group].shape != Shape::List {
            self.gap(token).most = 0;
        }
    }

    /// A line that starts a unit, so many steps deeper than the line of the block's first token.
    pub fn line(&mut self, token: TokenId, block: GroupId, level: u8, breaks: Setting) {
        *self.gap(token) = Gap {
            want: Want::Line,
            blanks: 1,
            level,
            by_choice: 0,
            inside: level > 0,
            least: 0,
            most: self.choices.most_blank,
            least_after: 0,
            setting: breaks,
            breaks,
            group: Some(block),
            column: Column::None,
            chosen: false,
        };
    }

    /// A line that starts a unit inside a block, as far in as the block's first line.
    pub fn line_beside(&mut self, token: TokenId, block: GroupId, breaks: Setting) {
        self.line(token, block, 0, breaks);
        self.gap(token).inside = true;
    }

    /// A line break inside a unit, at the indentation of the group's first line and so many steps.
    pub fn newline(&mut self, token: TokenId, group: GroupId, level: u8, breaks: Setting) {
        *self.gap(token) = Gap {
            want: Want::Newline,
            level,
            group: Some(group),
            breaks,
            setting: breaks,
            ..Gap::KEPT
        };
    }

    /// The fewest blank lines before a line: asked for by the element after the gap, and by the one
    /// before it.
    pub fn blank_lines(&mut self, token: TokenId, before: u8, after: u8) {
        let gap = self.gap(token);
        gap.least = gap.least.max(before).max(after);
        gap.least_after = gap.least_after.max(after);
        gap.most = gap.most.max(gap.least);
    }

    /// Neighbouring lines may have lined something up at a gap.
    pub fn column(&mut self, token: TokenId, column: Column) {
        self.gap(token).column = column;
    }

    /// At most so many blank lines before a line.
    pub fn at_most(&mut self, token: TokenId, lines: u8) {
        let gap = self.gap(token);
        gap.most = gap.most.min(lines);
    }

    /// All of a node stays as it stands.
    pub fn fix(&mut self, node: NodeId) {
        self.fix_tokens(self.first(node)..self.end(node));
    }

    /// The lines that these tokens stand on stay as they are.
    pub fn fix_tokens(&mut self, tokens: Range<TokenId>) {
        self.plan.fixed.add(tokens);
    }

    /// Whether a token is among those that stay as they stand so far.
    pub fn is_fixed(&self, token: TokenId) -> bool {
        self.plan.fixed.around(token).is_some()
    }

    /// Says that these tokens, which begin neighbouring rows, are one name with several beginnings: some people
    /// line up its ends.
    pub fn one_name(&mut self, rows: Vec<TokenId>) {
        self.plan.names.push(rows);
    }

    /// The file's end stays as it stands.
    pub fn keep_end(&mut self) {
        self.plan.keeps_end = true;
    }

    /// A gap that stays as it stands.
    pub fn keep_gap(&mut self, token: TokenId) {
        *self.gap(token) = Gap::KEPT;
    }

    /// The same, but that a line which begins there goes with the one that a group's stem stands on.
    pub fn go_with(&mut self, token: TokenId, group: GroupId) {
        *self.gap(token) = Gap { want: Want::GoWith, group: Some(group), ..Gap::KEPT };
    }

    /// Keeps every gap of a node as it stands, and counts it.
    pub fn keep(&mut self, node: NodeId) {
        let first = self.first(node);
        self.plan.kept.push(first);
    }

    // ---- groups ------------------------------------------------------------------------------

    /// A group over the tokens `first..end`.
    pub fn group(&mut self, shape: Shape, first: TokenId, end: TokenId) -> GroupId {
        self.plan.add(Group::new(shape, first, end))
    }

    /// Opens a group whatever its width.
    pub fn force(&mut self, group: GroupId) {
        self.plan.groups[group].force();
    }

    /// A group opens by hand alone, unless something has opened it already.
    pub fn by_hand(&mut self, group: GroupId) {
        let group = &mut self.plan.groups[group];
        if !group.is_forced() {
            group.opens = Opens::ByHand;
        }
    }

    /// A group as it stands so far.
    pub fn group_mut(&mut self, group: GroupId) -> &mut Group {
        &mut self.plan.groups[group]
    }

    /// The line that a group's levels count from, where it is not its first token's.
    pub fn stem(&mut self, group: GroupId, token: TokenId) {
        self.plan.groups[group].stem = token;
    }

    /// How far a chain's lines are in that begins at `first`, where that begins a line: not at all
    /// inside parentheses of its own and behind a sign, and as `wrap_indent` says in a list.
    pub fn leading_level(&self, first: TokenId) -> Option<u8> {
        let gap = &self.plan.gaps[first as usize];
        let group = self.plan.group_of(first as usize).filter(|_| gap.want == Want::Break)?;
        let is_comment = |token: TokenId| self.tree.tokens[token as usize].role == Role::Comment;
        match group.shape {
            Shape::LastResort => Some(0),
            Shape::List => Some(self.choices.element_steps),
            Shape::Chain | Shape::Alternatives
                if group.first < first && (group.first + 1..first).all(is_comment) =>
            {
                Some(0)
            }
            _ => None,
        }
    }

    /// Whether a rule has said that a line may be broken before this token.
    pub fn is_breakable(&self, token: TokenId) -> bool {
        self.plan.gaps[token as usize].want == Want::Break
    }

    /// Whether a rule has said that a token is a word of a text that is filled, behind the first one.
    pub fn flows(&self, token: TokenId) -> bool {
        let is_text = |group: GroupId| self.plan.groups[group].flows;
        self.plan.gaps[token as usize].group.is_some_and(is_text)
    }

    /// Whether a rule has said that a line begins with this token, whatever the width.
    pub fn begins_line(&self, token: TokenId) -> bool {
        matches!(self.plan.gaps[token as usize].want, Want::Line | Want::Newline)
    }

    /// Remembers that a block has no closing bracket: the comments after its last token may still
    /// be its own. The block takes the tokens from `first` to the last before `end` that is not a
    /// comment.
    pub fn bare_block(&mut self, first: TokenId, end: TokenId, group: GroupId) {
        self.ends_bare(None, first, end, group);
    }

    /// The same of a block that has all comments which stand further in than its header and than what
    /// follows it, too.
    pub fn block_below(&mut self, header: TokenId, first: TokenId, end: TokenId, group: GroupId) {
        self.ends_bare(Some(header), first, end, group);
    }

    fn ends_bare(&mut self, header: Option<TokenId>, first: TokenId, end: TokenId, group: GroupId) {
        let solid = |token: &TokenId| self.tree.tokens[*token as usize].role != Role::Comment;
        if let Some(last) = (first..end).rev().find(solid) {
            self.plan.bare_blocks.push(BareBlock { first: Some(first), header, last, group });
        }
    }

    /// Remembers that nothing stands behind a header, whose first token is `header` and whose last
    /// one `opener`: comments there are all that its block has, where they stand further in.
    pub fn empty_block(&mut self, header: TokenId, opener: TokenId) {
        let behind = self.tree.tokens.get(opener as usize + 1);
        if behind.is_some_and(|token| token.role == Role::Comment) {
            let group = self.group(Shape::Block, opener, opener + 1);
            self.stem(group, header);
            let block = BareBlock { first: None, header: Some(header), last: opener, group };
            self.plan.bare_blocks.push(block);
        }
    }
}
