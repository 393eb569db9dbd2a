//! What is wanted in every gap, and why: flat arrays over the tokens.

use crate::style::Setting;
use crate::syntax::{TokenId, Tree};
use std::cmp::Reverse;
use std::collections::{BTreeMap, HashMap};
use std::num::NonZeroU32;
use std::ops::Range;

/// So many steps further in may a line stand that goes on with another one.
pub const MOST_STEPS: usize = 4;

/// A group of a [`Plan`].
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct GroupId(NonZeroU32);

impl GroupId {
    /// The group that holds a file's outermost units; it begins at no token and is never indented.
    pub const ROOT: GroupId = GroupId(NonZeroU32::MIN);
}

/// Something for each group of a plan, in the order of their making.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ByGroup<T>(Vec<T>);

impl<T> ByGroup<T> {
    /// One more group.
    fn push(&mut self, of: T) -> GroupId {
        let id = NonZeroU32::MIN.saturating_add(self.0.len() as u32);
        self.0.push(of);
        GroupId(id)
    }

    /// The same for each of the same groups.
    pub fn all<U: Clone>(&self, of: U) -> ByGroup<U> {
        ByGroup(vec![of; self.0.len()])
    }

    /// The groups, in the order of their making.
    pub fn ids(&self) -> impl Iterator<Item = GroupId> + use<T> {
        (1..=self.0.len() as u32).filter_map(NonZeroU32::new).map(GroupId)
    }

    /// What there is for each of them.
    pub fn iter(&self) -> std::slice::Iter<'_, T> {
        self.0.iter()
    }
}

impl<T> std::ops::Index<GroupId> for ByGroup<T> {
    type Output = T;

    fn index(&self, id: GroupId) -> &T {
        &self.0[id.0.get() as usize - 1]
    }
}

impl<T> std::ops::IndexMut<GroupId> for ByGroup<T> {
    fn index_mut(&mut self, id: GroupId) -> &mut T {
        &mut self.0[id.0.get() as usize - 1]
    }
}

/// What a gap wants.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Want {
    /// What stands there: no rule knows better.
    Keep,
    /// The same, but that a line which begins there goes with the one that the group's stem stands on.
    GoWith,
    /// So many blanks, never a line break.
    Flat,
    /// A line break if the gap's group is open, else so many blanks.
    Break,
    /// A line break, and a unit starts here.
    Line,
    /// A line break inside a unit.
    Newline,
}

impl Want {
    /// Whether what stands there stays.
    pub fn keeps(self) -> bool {
        matches!(self, Want::Keep | Want::GoWith)
    }
}

/// What neighbouring lines may have lined up.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Column {
    /// Nothing.
    None,
    /// A sign, or the value behind one.
    Value,
    /// The elements of lists.
    Table,
}

/// What is wanted between a token and the one before it.
#[derive(Clone, Copy, Debug)]
pub struct Gap {
    /// What kind of gap.
    pub want: Want,
    /// How many blanks, where there is no line break.
    pub blanks: u8,
    /// Steps of indentation beyond the line that the group's stem stands on.
    pub level: u8,
    /// How many of them are its author's choice: a comment above may stand less far in.
    pub by_choice: u8,
    /// Whether what starts here is inside the group, as opposed to closing it.
    pub inside: bool,
    /// The fewest blank lines, where a line starts.
    pub least: u8,
    /// The most blank lines, where a line starts.
    pub most: u8,
    /// As `least`, for the part of it that the element before asks for, so that comments between
    /// the two come after it.
    pub least_after: u8,
    /// The setting that decides the blanks.
    pub setting: Setting,
    /// The setting that decides the line break.
    pub breaks: Setting,
    /// The group that the gap belongs to: every one of its lines has one.
    pub group: Option<GroupId>,
    /// What neighbouring lines may have lined up there.
    pub column: Column,
    /// Whether somebody broke the line on the other side of the operator beside it.
    pub chosen: bool,
}

impl Gap {
    /// The gap that no rule has spoken for.
    pub const KEPT: Gap = Gap {
        want: Want::Keep,
        blanks: 0,
        level: 0,
        by_choice: 0,
        inside: false,
        least: 0,
        most: 0,
        least_after: 0,
        setting: Setting::WordGap,
        breaks: Setting::WordGap,
        group: None,
        column: Column::None,
        chosen: false,
    };

    /// So many blanks.
    pub fn flat(blanks: u8, setting: Setting) -> Gap {
        Gap { want: Want::Flat, blanks, setting, breaks: setting, ..Gap::KEPT }
    }
}

/// What a group's lines are.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shape {
    /// Holds units of its own; its lines are always apart.
    Block,
    /// Opens with one element a line; each of them is a unit then.
    List,
    /// Opens at every one of its gaps, without making units.
    Chain,
    /// As a chain, but each of its parts stands for itself, as a unit.
    Alternatives,
    /// Opens only when nothing inside it can be opened instead.
    LastResort,
}

impl Shape {
    /// Whether each of its lines is a unit.
    pub fn has_units(self) -> bool {
        matches!(self, Shape::List | Shape::Alternatives)
    }
}

/// When a group opens.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Opens {
    /// Always.
    Always,
    /// When it does not fit, and nothing inside it opens in its place.
    TooWide,
    /// When it does not fit, and before anything inside it does: where what is in it fits then, or is
    /// a chain, whose lines would stand at its side.
    Before,
    /// When it does not fit, and before anything inside it does, where all that is in it fits then; else
    /// as `TooWide`.
    ToFit,
    /// Before anything inside it does, where that brings what stands before its gap and what stands behind
    /// it to one line each; else never.
    Halves,
    /// As `ToFit`, and where what it belongs to has begun on another line.
    BehindLines,
    /// As that, unless the line begins with a closing bracket: the brace behind a header. Never behind what has
    /// no room itself.
    BehindHeader,
    /// When it does not fit, and what stands inside it does then: a sentence.
    ForOneLine,
    /// When it does not fit, as somebody opened it before.
    Again,
    /// By hand alone: opening it would not make its longest part shorter. But for a list that has no room
    /// for what stands before the parameters of its last element, if those are several.
    ByHand,
}

/// Which break in a group is nobody's choice, and up to where its line goes on without it. A rule says
/// which may be, and what the text has, and what stands around the group, which one is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Slight {
    /// None.
    Never,
    /// One behind an opening bracket, with all that is inside on the next line.
    Row,
    /// Any, up to half a line.
    Half,
    /// As `Half`, but where something around it should be broken before it, up to where most code ends its
    /// lines, whatever its limit.
    Usual,
    /// Any, as far as there is room.
    Whole,
    /// Those before the elements of a list, as far as there is room for all up to the block that ends the
    /// last one.
    Head,
}

/// What a group may stay flat around.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Around {
    /// Nothing that takes several lines.
    OneLine,
    /// Blocks, and tokens over several lines.
    Blocks,
    /// Those, and lists that are open. Only where its own open form is remembered, too (`list_wrap
    /// = "keep_open"`), or else a second look would close what the first one opened.
    Lists,
}

/// What the lines of a group count their steps from, beside its stem.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Counts {
    /// Nothing else.
    Steps,
    /// So many steps where its first token begins a line.
    Leading(u8),
    /// None where its head takes several lines: they stand right beneath that.
    Beneath,
    /// The place where its stem stands, which need not begin its line.
    Stem,
}

/// Where the lines of an open group stand.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Align {
    /// Steps further in.
    Step,
    /// Under the first element or operand.
    Bracket,
    /// As the first of them that the text has: one of the two.
    Keep,
    /// As most of them do that the text has, in whichever column.
    Any,
}

impl Align {
    /// Whether the text has a say in it.
    pub fn asks_the_text(self) -> bool {
        matches!(self, Align::Keep | Align::Any)
    }
}

/// Where the closing bracket of an open group stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Close {
    /// On a line of its own.
    OwnLine,
    /// Behind the last element.
    WithLast,
    /// As it does.
    Keep,
}

/// A range of tokens that is laid out together.
#[derive(Clone, Copy, Debug)]
pub struct Group {
    /// Its first token.
    pub first: TokenId,
    /// The token after its last one.
    pub end: TokenId,
    /// Its first gap that may be broken, once there is one. The group counts as open in the text if
    /// that gap is broken.
    pub opening: Option<TokenId>,
    /// What its lines are.
    pub shape: Shape,
    /// When it opens.
    pub opens: Opens,
    /// What it may stay flat around.
    pub around: Around,
    /// Whether what stands before it on its line is broken rather than it.
    pub reluctant: bool,
    /// The first gap inside its last element that may be broken in its place.
    pub stand_in: Option<TokenId>,
    /// Whether it opens all the same where its last element fits on a line of its own.
    pub own_line: bool,
    /// Whether it closes where it fits, though somebody opened it; a value, where its first line does.
    pub closes: bool,
    /// Which break in it is no choice of somebody's.
    pub slight: Slight,
    /// The token whose line the group's levels count from.
    pub stem: TokenId,
    /// What they count from besides.
    pub counts: Counts,
    /// How many steps the lines between its first and its last one are in.
    pub inner: u8,
    /// Whether it is the parentheses of a header, behind which a body comes.
    pub header: bool,
    /// Whether it begins with an opening bracket and ends with a closing one.
    pub bracketed: bool,
    /// Where its lines stand.
    pub align: Align,
    /// Where its closing bracket stands.
    pub close: Close,
    /// The token that they stand under in place of that, once it is known.
    pub under: Option<TokenId>,
    /// Where they stand under nothing: the token of a line that they are as far in as.
    pub like: Option<TokenId>,
    /// Its closing bracket, where that is as far in from the group's first line as it is in the text.
    pub like_closer: Option<TokenId>,
    /// Whether its closing bracket stands on a line of its own under the opening one, beside which its first
    /// element does.
    pub closes_under: bool,
    /// A group in its last element: where that is open, the closing bracket has its own line too.
    pub tail: Option<GroupId>,
    /// A group around it with which it opens.
    pub with: Option<GroupId>,
    /// Whether several elements may stand on one of its lines.
    pub rows: Rows,
    /// Whether it has as many elements on a line as there is room for, where nobody broke it.
    pub fills: bool,
    /// Whether each of its elements has to have a line of its own.
    pub one_each: bool,
    /// Whether rows are rows however few elements share a line.
    pub shares: bool,
    /// Whether it is a text, with as many words on each line as there is room for.
    pub flows: bool,
}

/// Lines of several elements in a list.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Rows {
    /// None: one element a line, or all on one.
    Never,
    /// As they stand, if somebody broke the line after the opening bracket.
    Bracketed,
    /// As `Bracketed`, where all lines have equally many.
    Even,
    /// As `Bracketed`, however few elements share a line.
    Shared,
    /// As they stand.
    Loose,
    /// As they stand, wherever the line is broken and wherever it is not.
    Any,
    /// There are some.
    Kept,
}

impl Group {
    /// Whether its lines stand under its first element, or the comment before that, which stays beside
    /// what it is behind.
    pub fn is_beside(&self) -> bool {
        let is_opening = self.under == self.opening;
        let is_before = self.bracketed
            && self.under < self.opening
            && self.under > Some(self.first);
        self.under.is_some() && (is_opening || is_before)
    }

    /// A group over the tokens `first..end`, as its shape has it.
    pub fn new(shape: Shape, first: TokenId, end: TokenId) -> Group {
        Group {
            first,
            end,
            opening: None,
            shape,
            opens: match shape {
                Shape::Block => Opens::Always,
                _ => Opens::TooWide,
            },
            around: match shape {
                Shape::Block => Around::OneLine,
                Shape::List | Shape::LastResort => Around::Lists,
                Shape::Chain | Shape::Alternatives => Around::Blocks,
            },
            reluctant: false,
            stand_in: None,
            own_line: false,
            closes: false,
            slight: Slight::Never,
            stem: first,
            counts: Counts::Steps,
            inner: 1,
            header: false,
            bracketed: false,
            align: Align::Step,
            close: Close::OwnLine,
            under: None,
            like: None,
            like_closer: None,
            closes_under: false,
            tail: None,
            with: None,
            rows: Rows::Never,
            fills: false,
            one_each: false,
            shares: false,
            flows: false,
        }
    }

    /// Opens it whatever its width.
    pub fn force(&mut self) {
        self.opens = Opens::Always;
    }

    /// Opens it whatever its width, where something is so.
    pub fn force_if(&mut self, forced: bool) {
        if forced {
            self.force();
        }
    }

    /// Whether it is open whatever its width.
    pub fn is_forced(&self) -> bool {
        self.opens == Opens::Always
    }

    /// Whether its own gaps are no place for a line to end as long as another one is.
    pub fn waits(&self) -> bool {
        self.reluctant && !self.is_forced()
    }
}

/// When a declared change takes place.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum When {
    /// Always.
    Always,
    /// Where this group is flat, or its closing bracket has no line of its own.
    Flat(GroupId),
    /// Where this group is open.
    Open(GroupId),
}

/// A change to the tree, declared by a rewrite: the proof makes it in the old tree, and holds that
/// against the new one.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum TreeEdit {
    /// Another spelling of the same value.
    Respell(String),
    /// The same words in another order; or that after another spelling.
    Reorder(String),
    /// Another token takes its place, with its text: some change places among themselves.
    Take(String, TokenId),
    /// The token goes.
    Remove(When),
    /// This text follows the token.
    Insert(&'static str, When),
    /// What stands behind the token is wrapped.
    Wrap(Wrap),
}

impl TreeEdit {
    /// Whether it puts something behind its token.
    pub fn is_behind(&self) -> bool {
        matches!(self, TreeEdit::Insert(..) | TreeEdit::Wrap(_))
    }

    /// Whether its token is spelt otherwise.
    pub fn respells(&self) -> bool {
        matches!(self, TreeEdit::Respell(_) | TreeEdit::Reorder(_) | TreeEdit::Take(..))
    }

    /// The group by whose form it takes place, if by any.
    pub fn group(&self) -> Option<GroupId> {
        match self {
            TreeEdit::Insert(_, When::Flat(group) | When::Open(group))
            | TreeEdit::Remove(When::Flat(group) | When::Open(group)) => Some(*group),
            _ => None,
        }
    }

    /// Whether it takes its token away.
    pub fn takes_away(&self) -> bool {
        matches!(self, TreeEdit::Remove(_))
    }
}

/// A change, its token and the setting that asks for it.
#[derive(Clone, Debug)]
pub struct Rewrite {
    /// The token that it is about.
    pub token: TokenId,
    /// What becomes of it.
    pub change: TreeEdit,
    /// Why.
    pub setting: Setting,
    /// What is wanted, in a reader's words, where the change itself does not say it.
    pub message: String,
}

/// What a member of a type is worth when the type comes to life, which is when the order of its
/// members may matter.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Worth {
    /// Nothing.
    Nothing,
    /// What is known before anything runs.
    Known,
    /// A value that nothing has to run for.
    Plain,
    /// Whatever runs may ask for the others.
    Runs,
    /// A place among the others: where the members lie is part of what they say.
    Place,
}

/// A member of a type whose members have an agreed order.
#[derive(Clone, Debug)]
pub struct Member {
    /// Its first token.
    pub first: TokenId,
    /// The token after its last one.
    pub end: TokenId,
    /// Where it stands among the others.
    pub rank: usize,
    /// Whether it is the type's, and not each of its objects'.
    pub is_static: bool,
    /// The names that it declares, or its first word.
    pub names: Vec<TokenId>,
    /// What it is worth when the type comes to life.
    pub worth: Worth,
    /// The tokens that say that.
    pub value: Vec<Range<TokenId>>,
}

/// An import of one name, which does nothing by itself.
#[derive(Clone, Debug)]
pub struct Import {
    /// Its first token.
    pub first: TokenId,
    /// The token after its last one.
    pub end: TokenId,
    /// The name that it brings into the text.
    pub name: TokenId,
}

/// Something that is said, and that no mending changes.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Remark {
    /// The bytes of the text that are meant.
    pub bytes: Range<usize>,
    /// What kind of thing is said: a word of `check`.
    pub about: &'static str,
    /// What is said.
    pub message: String,
}

/// Brackets that a rewrite puts around a statement, which becomes a block.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Wrap {
    /// The token that the opening one follows.
    pub header: TokenId,
    /// The token that the closing one follows.
    pub last: TokenId,
    /// The opening and the closing one; a mark that leads has none.
    pub brackets: (&'static str, Option<&'static str>),
    /// What it makes of what it is put around.
    pub becomes: Wrapped,
    /// Why.
    pub setting: Setting,
    /// The group that it is put around only where that does not fit its line.
    pub around: Option<TooLong>,
}

/// What is made of what brackets are put around; constructs by the language's numbers for them.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Wrapped {
    /// A construct that holds it.
    Inside(u16),
    /// A construct that takes its place.
    Instead(u16),
    /// Nothing: the brackets stand beside it, in what it is part of.
    Beside,
}

/// What a wrap waits for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct TooLong {
    /// What does not fit.
    pub group: GroupId,
    /// Whether it has to fit a step further in then, as no line may end in it there, either.
    pub rigid: bool,
}

/// A block that ends where its last statement ends, without a closing bracket.
#[derive(Clone, Copy, Debug)]
pub struct BareBlock {
    /// Its first token that is not a comment, if it has statements: what is as far in is of the block.
    pub first: Option<TokenId>,
    /// The first token of the header than which all of the block's comments are further in.
    pub header: Option<TokenId>,
    /// Its last token that is not a comment, or its header's.
    pub last: TokenId,
    /// The block.
    pub group: GroupId,
}

/// Ranges of tokens; those that overlap or touch are one.
///
/// ```
/// use kanonix_core::layout::plan::TokenRanges;
/// let mut kept = TokenRanges::default();
/// [4..6, 9..12, 14..15, 5..9, 20..20].into_iter().for_each(|tokens| kept.add(tokens));
/// assert_eq!(kept.iter().collect::<Vec<_>>(), [4..12, 14..15]);
/// assert_eq!([3, 4, 11, 12].map(|token| kept.around(token)), [None, Some(4), Some(4), None]);
/// ```
#[derive(Clone, Debug, Default)]
pub struct TokenRanges(BTreeMap<TokenId, TokenId>);

impl TokenRanges {
    /// One more.
    pub fn add(&mut self, tokens: Range<TokenId>) {
        let Range { mut start, mut end } = tokens;
        if start == end {
            return;
        }
        while let Some((first, last)) = self.0.range(..=end).next_back()
            && *last >= start
        {
            let first = *first;
            (start, end) = (start.min(first), end.max(*last));
            self.0.remove(&first);
        }
        self.0.insert(start, end);
    }

    /// Where the one begins that a token is in.
    pub fn around(&self, token: TokenId) -> Option<TokenId> {
        let (start, end) = self.0.range(..=token).next_back()?;
        (token < *end).then_some(*start)
    }

    /// All of them, in the order of the text.
    pub fn iter(&self) -> impl Iterator<Item = Range<TokenId>> + '_ {
        self.0.iter().map(|(start, end)| *start..*end)
    }
}

/// Everything that the rules have said about one text.
pub struct Plan {
    /// One gap before each token, and one at the end of the file.
    pub gaps: Vec<Gap>,
    /// In the order of their making.
    pub groups: ByGroup<Group>,
    /// The groups by their first token, outer ones first: the root, and then the others.
    pub order: Vec<GroupId>,
    /// Ascending by token once the plan is finished.
    pub rewrites: Vec<Rewrite>,
    /// In the order of the text.
    pub remarks: Vec<Remark>,
    /// Statements to be wrapped; the text is laid out once they are.
    pub wraps: Vec<Wrap>,
    /// Members whose order is agreed, in runs that none of them leaves.
    pub bodies: Vec<Vec<Member>>,
    /// Imports that go if nothing mentions them, in the order of the text.
    pub imports: Vec<Import>,
    /// The first tokens of conditions that no parentheses stand around and a body comes behind.
    pub conditions: Vec<TokenId>,
    /// Signs that may begin a line, with the steps by which what stands behind them is further in than they
    /// are.
    pub signs: HashMap<TokenId, u8>,
    /// Blocks without a closing bracket, outer ones first.
    pub bare_blocks: Vec<BareBlock>,
    /// Per token: whether a rewrite names it.
    pub rewritten: Vec<bool>,
    /// Tokens that stay as they stand, as their grammar reads them by their lines.
    pub fixed: TokenRanges,
    /// The first tokens of neighbouring rows that say one thing under names with several beginnings.
    pub names: Vec<Vec<TokenId>>,
    /// Constructs that no rule knows, by a token of theirs.
    pub kept: Vec<TokenId>,
    /// Whether what stands behind the last token is part of what it says.
    pub keeps_end: bool,
}

impl Plan {
    /// A plan in which everything is kept.
    pub fn new(tokens: usize) -> Plan {
        let mut groups = ByGroup(Vec::with_capacity(tokens / 6 + 1));
        groups.push(Group::new(Shape::Block, 0, tokens as TokenId));
        Plan {
            gaps: vec![Gap::KEPT; tokens + 1],
            groups,
            order: Vec::new(),
            rewrites: Vec::new(),
            remarks: Vec::new(),
            wraps: Vec::new(),
            bodies: Vec::new(),
            imports: Vec::new(),
            conditions: Vec::new(),
            signs: HashMap::new(),
            bare_blocks: Vec::new(),
            rewritten: vec![false; tokens],
            fixed: TokenRanges::default(),
            names: Vec::new(),
            kept: Vec::new(),
            keeps_end: false,
        }
    }

    /// One more group.
    pub fn add(&mut self, group: Group) -> GroupId {
        self.groups.push(group)
    }

    /// Puts the groups that there are in the order of the text.
    pub fn sort_groups(&mut self) {
        if self.order.len() < self.groups.0.len() {
            let place = |group: &Group| (group.first, Reverse(group.end));
            let ids = self.groups.ids().zip(self.groups.iter());
            let mut placed: Vec<_> = ids.map(|(id, group)| (place(group), id)).collect();
            // They are made in nearly this order, which a stable sort makes use of.
            placed.sort();
            self.order = placed.into_iter().map(|(_, id)| id).collect();
        }
    }

    /// The group of a gap.
    pub fn group_of(&self, gap: usize) -> Option<&Group> {
        self.gaps[gap].group.map(|group| &self.groups[group])
    }

    /// Whether a gap is the one before its group's closing bracket.
    pub fn closes(&self, index: usize) -> bool {
        let is_last = |group: &Group| group.end as usize == index + 1;
        !self.gaps[index].inside && self.group_of(index).is_some_and(is_last)
    }

    /// Whether a group's closing bracket has its own line where the group is open.
    pub fn closes_apart(&self, group: GroupId) -> bool {
        self.gaps[self.groups[group].end as usize - 1].want == Want::Break
    }

    /// Whether a line must end at a gap, whatever the width.
    #[inline]
    pub fn ends_line(&self, index: usize, tree: &Tree, text: &str) -> bool {
        let gap = &self.gaps[index];
        match gap.want {
            Want::Line | Want::Newline => true,
            Want::Break => self.group_of(index).is_some_and(|group| {
                group.is_forced()
                    || (group.rows == Rows::Kept && (gap.chosen || tree.broken(index, text)))
            }),
            Want::Keep | Want::GoWith => tree.broken(index, text),
            Want::Flat => false,
        }
    }

    /// Whether a group is broken in the text at the first gap where it may be.
    pub fn is_opened(&self, group: GroupId, tree: &Tree) -> bool {
        let opening = self.groups[group].opening;
        opening.is_some_and(|opening| tree.tokens[opening as usize].broken)
    }

    /// The changes to one token, in the order in which they were declared.
    #[inline]
    pub fn rewrites_of(&self, token: usize) -> &[Rewrite] {
        if self.rewritten[token] { self.found_rewrites(token) } else { &[] }
    }

    fn found_rewrites(&self, token: usize) -> &[Rewrite] {
        let from = self.rewrites.partition_point(|rewrite| (rewrite.token as usize) < token);
        let len = self.rewrites[from..].partition_point(|r| r.token as usize == token);
        &self.rewrites[from..from + len]
    }
}
