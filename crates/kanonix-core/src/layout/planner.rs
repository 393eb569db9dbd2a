//! The vocabulary in which the languages speak: what a rule calls to say how a construct is laid
//! out.

use super::choices::Choices;
use super::plan::{
    Around, BareBlock, Change, Gap, Group, GroupId, Opens, Plan, Rewrite, Rows, Shape, Want, Wrap,
};
use crate::style::{Key, Setting, Style, Value};
use crate::syntax::{NodeId, Role, Said, TokenId, Tree};

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
    plan: Plan,
    /// A word that each node's rule leaves for its children, starting as its parent's.
    context: Vec<u8>,
    /// What a node is handed by the rule of one around it.
    handed: Vec<Option<Handed>>,
}

/// What a node is handed by the rule of one around it, which has said something for it already.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Handed {
    /// It goes on with this chain instead of beginning one of its own.
    Chain(GroupId),
    /// It is a link of a chain that the outermost node of that has planned.
    Link,
    /// It is a block whose statements stand on its header's line as long as this list is flat.
    Block(GroupId),
    /// It is a statement in such a block.
    Statement(GroupId),
    /// Lines that begin inside it belong to this group, which something around it has.
    Lines(GroupId),
}

/// How deep constructs are laid out; what is nested deeper is kept as it stands. Nobody reads so
/// far in, and a step of indentation for each level would make a file grow with its square.
const DEEPEST: u32 = 1000;

/// How a bracketed list is laid out.
#[derive(Clone, Copy, Debug, Default)]
pub struct List {
    tight: bool,
    collection: bool,
    last_comma: bool,
    closed: bool,
    stand_in: Option<TokenId>,
    rows: Option<Rows>,
    by_hand: bool,
    reluctant: bool,
}

impl List {
    /// A list that may stay flat around something of several lines inside it.
    pub fn new() -> List {
        List::default()
    }

    /// A collection, which `list_wrap = "one_each"` always opens.
    pub fn collection(self) -> List {
        List { collection: true, ..self }
    }

    /// A comma may be added behind its last element, and taken away.
    pub fn last_comma(self) -> List {
        self.last_comma_if(true)
    }

    /// The same where something is so.
    pub fn last_comma_if(self, last_comma: bool) -> List {
        List { last_comma, ..self }
    }

    /// It opens where something inside it takes several lines.
    pub fn opens_around_lines(self) -> List {
        self.opens_around_lines_if(true)
    }

    /// The same where something is so.
    pub fn opens_around_lines_if(self, closed: bool) -> List {
        List { closed, ..self }
    }

    /// Nothing stands inside its brackets beside the first and the last element.
    pub fn tight(self) -> List {
        List { tight: true, ..self }
    }

    /// Its last element is broken at this gap in its place.
    pub fn stand_in(self, gap: Option<TokenId>) -> List {
        List { stand_in: gap, ..self }
    }

    /// Several elements may share a line, however few they are.
    pub fn shared_rows(self) -> List {
        List { rows: Some(Rows::Shared), ..self }
    }

    /// It opens by hand alone.
    pub fn by_hand(self) -> List {
        self.by_hand_if(true)
    }

    /// The same where something is so.
    pub fn by_hand_if(self, by_hand: bool) -> List {
        List { by_hand, ..self }
    }

    /// What stands before it on its line is broken rather than it.
    pub fn reluctant(self) -> List {
        List { reluctant: true, ..self }
    }
}

impl<'a> Planner<'a> {
    /// An empty plan over `tree`.
    pub(super) fn new(tree: &'a Tree, text: &'a str, style: &'a Style) -> Planner<'a> {
        Planner {
            tree,
            text,
            style,
            choices: Choices::of(style),
            plan: Plan::new(tree.tokens.len()),
            context: vec![0; tree.nodes.len()],
            handed: vec![None; tree.nodes.len()],
        }
    }

    /// Visits every node with the language's rule.
    pub(super) fn run(mut self, rule: Rule) -> Plan {
        let mut parts = Vec::new();
        let mut depth: Vec<u32> = vec![0; self.tree.nodes.len()];
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
            if !n.fault && n.end > n.first && !n.folded {
                parts.clear();
                self.gather(node, &mut parts);
                self.visit(node, &parts, rule);
            }
        }
        if self.choices.keep_open {
            self.remember();
        }
        // What is put behind a token comes after what is made of the token itself.
        self.plan.rewrites.sort_by_key(|rewrite| (rewrite.token, rewrite.change.is_behind()));
        self.plan
    }

    /// Lays a node out as the language's table says, or by its rule.
    fn visit(&mut self, node: NodeId, parts: &[NodeId], rule: Rule) {
        match self.tree.kinds.said(self.kind(node)) {
            Said::Words => self.words(parts),
            Said::Tight => self.tight(parts),
            Said::Commas => self.commas(parts),
            Said::Pair => self.pair(parts),
            Said::Comment => self.comment_marks(self.first(node)),
            Said::Plain | Said::Mark | Said::Separator | Said::Join | Said::Text => {}
            // A word or a mark that no rule names.
            Said::Ruled | Said::Body | Said::Statements if parts.is_empty() => {}
            Said::Ruled | Said::Body | Said::Statements | Said::Atom | Said::Unread => {
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
            if self.are_marks(token) {
                match self.gap_text(token).is_empty() {
                    true => self.word(token, 0),
                    false => self.gap(token).blanks = 1,
                }
            }
        }
    }

    /// Lists and chains that somebody opened stay open; a line after a sign stays broken if the
    /// whole does not fit on one.
    fn remember(&mut self) {
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
        let mut parts = Vec::new();
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
        n.end > n.first
            && !matches!(self.tree.tokens[n.first as usize].role, Role::Comment | Role::Join)
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

    /// Whether the text has a line break between a token and the one before it.
    pub fn broken_before(&self, token: TokenId) -> bool {
        self.tree.broken(token as usize, self.text)
    }

    /// What the line of the text begins with on which a token stands.
    pub fn line_indent(&self, token: TokenId) -> &'a str {
        let start = self.tree.tokens[token as usize].start as usize;
        let line = &self.text[self.text[..start].rfind('\n').map_or(0, |at| at + 1)..];
        &line[..line.len() - line.trim_start_matches([' ', '\t']).len()]
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

    /// The word that a node's rule left for its children.
    pub fn context(&self, node: NodeId) -> u8 {
        self.context[node as usize]
    }

    /// Leaves a word for a node's children.
    pub fn set_context(&mut self, node: NodeId, word: u8) {
        self.context[node as usize] = word;
    }

    /// Hands something to a node that is visited later.
    pub fn hand(&mut self, node: NodeId, handed: Handed) {
        self.handed[node as usize] = Some(handed);
    }

    /// The chain that a node goes on with, if one was handed to it.
    pub fn handed_chain(&self, node: NodeId) -> Option<GroupId> {
        match self.handed[node as usize] {
            Some(Handed::Chain(group)) => Some(group),
            _ => None,
        }
    }

    /// Whether a node is a link of a chain that is planned.
    pub fn is_link(&self, node: NodeId) -> bool {
        self.handed[node as usize] == Some(Handed::Link)
    }

    /// The list that a block is, as long as it is flat.
    pub fn handed_block(&self, node: NodeId) -> Option<GroupId> {
        match self.handed[node as usize] {
            Some(Handed::Block(group)) => Some(group),
            _ => None,
        }
    }

    /// The list that the block around a statement is, as long as it is flat.
    pub fn handed_statement(&self, node: NodeId) -> Option<GroupId> {
        match self.handed[node as usize] {
            Some(Handed::Statement(group)) => Some(group),
            _ => None,
        }
    }

    /// The group that lines inside a node belong to.
    pub fn handed_lines(&self, node: NodeId) -> Option<GroupId> {
        match self.handed[node as usize] {
            Some(Handed::Lines(group)) => Some(group),
            _ => None,
        }
    }

    /// The chain that a node goes on with, or else one of its own.
    pub fn chain_of(&mut self, node: NodeId) -> GroupId {
        let (first, end) = (self.first(node), self.end(node));
        self.handed_chain(node).unwrap_or_else(|| self.group(Shape::Chain, first, end))
    }

    /// Whether a block of this kind that stands on one line, and on one that fits, stays there.
    pub fn keeps_flat(&self, node: NodeId, key: Key) -> bool {
        self.style.is(Setting::FlatBlock, key, "keep")
            && !self.is_spread(node)
            && self.line_fits(self.first(node))
    }

    /// Whether the line of the text on which a token begins is no longer than lines may be.
    fn line_fits(&self, token: TokenId) -> bool {
        let max = self.choices.max_line;
        let start = self.tree.tokens[token as usize].start as usize;
        let before = self.text[..start].chars().rev().take_while(|c| *c != '\n');
        let after = self.text[start..].chars().take_while(|c| !matches!(c, '\r' | '\n'));
        before.chain(after).take(max.saturating_add(1)).count() <= max
    }

    /// The blanks inside a bracket of a flat list.
    pub fn inner_gap(&self, opener: TokenId) -> u8 {
        match self.token_text(opener) {
            "(" => self.choices.parens_gap,
            "[" => self.choices.brackets_gap,
            "{" => self.choices.braces_gap,
            "<" => self.choices.angles_gap,
            _ => 0,
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
    pub fn parens(&mut self, token: TokenId, blanks: u8) {
        self.flat(token, blanks, Setting::ParenGap);
    }

    /// The gap that `operator_gap` decides.
    pub fn operator(&mut self, token: TokenId) {
        self.flat(token, self.choices.operator_gap, Setting::OperatorGap);
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
            inside: level > 0,
            least: 0,
            most: self.choices.most_blank,
            least_after: 0,
            setting: breaks,
            breaks,
            group: Some(block),
        };
    }

    /// A line that starts a unit inside a block, as far in as the block's first line.
    pub fn line_beside(&mut self, token: TokenId, block: GroupId, breaks: Setting) {
        self.line(token, block, 0, breaks);
        self.gap(token).inside = true;
    }

    /// A line break inside a unit, at the indentation of the group's first line and so many steps.
    pub fn newline(&mut self, token: TokenId, group: GroupId, level: u8, breaks: Setting) {
        *self.gap(token) =
            Gap { want: Want::Newline, level, group: Some(group), breaks, setting: breaks, ..Gap::KEPT };
    }

    /// The fewest blank lines before a line: asked for by the element after the gap, and by the one
    /// before it.
    pub fn blank_lines(&mut self, token: TokenId, before: u8, after: u8) {
        let gap = self.gap(token);
        gap.least = gap.least.max(before).max(after);
        gap.least_after = gap.least_after.max(after);
        gap.most = gap.most.max(gap.least);
    }

    /// At most so many blank lines before a line.
    pub fn at_most(&mut self, token: TokenId, lines: u8) {
        let gap = self.gap(token);
        gap.most = gap.most.min(lines);
    }

    /// All of a node stays as it stands.
    pub fn fix(&mut self, node: NodeId) {
        let tokens = self.first(node) as usize..self.end(node) as usize;
        self.plan.fixed.push(tokens);
    }

    /// A gap that stays as it stands.
    pub fn keep_gap(&mut self, token: TokenId) {
        *self.gap(token) = Gap::KEPT;
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
    pub fn base(&mut self, group: GroupId, token: TokenId) {
        self.plan.groups[group].base = token;
    }

    /// How far a chain's lines are in that begins at `first`, where that begins a line: not at all
    /// inside parentheses of its own and behind a sign, and as `wrap_indent` says in a list.
    pub fn leading_level(&self, first: TokenId) -> Option<u8> {
        let gap = &self.plan.gaps[first as usize];
        let group = self.plan.group_of(first as usize).filter(|_| gap.want == Want::Break)?;
        match group.shape {
            Shape::LastResort => Some(0),
            Shape::List => Some(self.choices.element_steps),
            Shape::Chain | Shape::Alternatives if group.first + 1 == first => Some(0),
            _ => None,
        }
    }

    /// Whether a rule has said that a line may be broken before this token.
    pub fn is_breakable(&self, token: TokenId) -> bool {
        self.plan.gaps[token as usize].want == Want::Break
    }

    /// Remembers that a block has no closing bracket: the comments after its last token may still
    /// be its own. The block takes the tokens from `first` to the last before `end` that is not a
    /// comment.
    pub fn bare_block(&mut self, first: TokenId, end: TokenId, group: GroupId) {
        let solid = |token: &TokenId| self.tree.tokens[*token as usize].role != Role::Comment;
        if let Some(last) = (first..end).rev().find(solid) {
            self.plan.bare_blocks.push(BareBlock { first, last, group });
        }
    }

    /// A bracketed list: `parts` begins with the opening bracket, ends with the closing one, and
    /// has the elements and separators between them. Returns its group, unless a bracket is missing.
    pub fn list(&mut self, parts: &[NodeId], list: List) -> Option<GroupId> {
        let (&opener, &closer) = match (parts.first(), parts.last()) {
            (Some(first), Some(last)) if parts.len() > 1 => (first, last),
            _ => return None,
        };
        let group = self.group(Shape::List, self.first(opener), self.end(closer));
        let inner = &parts[1..parts.len() - 1];
        let elements = inner.iter().filter(|part| !self.is_separator(**part)).count();
        let gap = if list.tight { 0 } else { self.inner_gap(self.first(opener)) };
        let own = self.group_mut(group);
        own.around = if list.closed { Around::OneLine } else { Around::Lists };
        own.stand_in = list.stand_in;
        own.rows = list.rows.unwrap_or(Rows::Bracketed);
        own.reluctant = list.reluctant;
        own.opens = if list.by_hand { Opens::ByHand } else { Opens::TooWide };
        if elements == 0 && inner.is_empty() {
            let (first, last) = (self.first(opener), self.first(closer));
            if last == first + 1 {
                self.flat(last, 0, Setting::InnerGap);
            } else {
                self.may_break(last, group, 0, 0, Setting::InnerGap);
            }
            return Some(group);
        }
        let mut after_separator = true;
        for (index, part) in inner.iter().enumerate() {
            let token = self.first(*part);
            if self.is_separator(*part) {
                self.word(token, 0);
                after_separator = true;
            } else if after_separator {
                let (blanks, setting) = match index {
                    0 => (gap, Setting::InnerGap),
                    _ => (1, Setting::WordGap),
                };
                self.may_break(token, group, 1, blanks, setting);
                after_separator = false;
            }
        }
        let first = self.first(inner[0]);
        self.at_most(first, self.choices.edge_blank);
        let last = self.first(closer);
        self.may_break(last, group, 0, gap, Setting::InnerGap);
        self.at_most(last, self.choices.edge_blank);
        if self.choices.one_each && list.collection && elements > 1 {
            self.force(group);
        }
        if list.last_comma {
            self.last_comma(inner, last, group);
        }
        Some(group)
    }

    fn last_comma(&mut self, inner: &[NodeId], closer: TokenId, group: GroupId) {
        let Some(&last) = inner.last() else { return };
        let is_comma = self.is_separator(last);
        let (add, drop) = (self.choices.add_last_comma, self.choices.drop_last_comma);
        if is_comma && inner.len() > 1 {
            let comma = self.first(last);
            if drop {
                self.rewrite(comma, Change::Drop, Setting::LastComma);
            } else if add || self.broken_before(closer) {
                self.rewrite(comma, Change::DropIfFlat(group), Setting::LastComma);
            }
        } else if !is_comma && add {
            let Some(token) = self.tree.last_solid(last) else { return };
            self.rewrite(token, Change::AppendIfOpen(",", group), Setting::LastComma);
        }
    }

    // ---- rewrites ----------------------------------------------------------------------------

    /// Declares a change to a token. One that follows a comment is never taken away: the comment
    /// would be left behind with nothing to end its line. Nor is anything added or taken away where
    /// the grammar leaves it unread.
    pub fn rewrite(&mut self, token: TokenId, change: Change, setting: Setting) {
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

    /// Declares braces around the statement behind `header`, if `bare_body` asks for them.
    pub fn brace(&mut self, header: TokenId, statement: NodeId) {
        if self.choices.brace_bare
            && let Some(last) = self.tree.last_solid(statement)
        {
            let (brackets, setting) = (("{", "}"), Setting::BareBody);
            self.plan.wraps.push(Wrap { header, last, brackets, setting });
        }
    }

    /// Declares one blank, or none, after the mark that a comment begins with. Only where the mark
    /// is followed by a word, or by one blank and a word: what somebody has set off further, or
    /// marked otherwise, stays.
    fn comment_marks(&mut self, token: TokenId) {
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
            self.rewrite(token, Change::Respell(spelt), Setting::CommentGap);
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
            self.rewrite(token, Change::Respell(spelt), setting);
        }
    }
}
