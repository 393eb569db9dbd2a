//! What is wanted in every gap, and why: flat arrays over the tokens.

use crate::style::Setting;
use crate::syntax::{TokenId, Tree};

/// A group, by its place in [`Plan::groups`].
pub type GroupId = u32;

/// The group that holds a file's outermost units; it begins at no token and is never indented.
pub const ROOT: GroupId = 0;

/// Stands in for a group where there is none.
pub const NO_GROUP: GroupId = u32::MAX;

/// What a gap wants.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Want {
    /// What stands there: no rule knows better.
    Keep,
    /// So many blanks, never a line break.
    Flat,
    /// A line break if the gap's group is open, else so many blanks.
    Break,
    /// A line break, and a unit starts here.
    Line,
    /// A line break inside a unit.
    Newline,
}

/// What is wanted between a token and the one before it.
#[derive(Clone, Copy, Debug)]
pub struct Gap {
    /// What kind of gap.
    pub want: Want,
    /// How many blanks, where there is no line break.
    pub blanks: u8,
    /// Steps of indentation beyond the line that the group's base stands on.
    pub level: u8,
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
    /// The group that the gap belongs to.
    pub group: GroupId,
}

impl Gap {
    /// The gap that no rule has spoken for.
    pub const KEPT: Gap = Gap {
        want: Want::Keep,
        blanks: 0,
        level: 0,
        inside: false,
        least: 0,
        most: 0,
        least_after: 0,
        setting: Setting::WordGap,
        breaks: Setting::WordGap,
        group: NO_GROUP,
    };

    /// So many blanks.
    pub fn flat(blanks: u8, setting: Setting) -> Gap {
        Gap { want: Want::Flat, blanks, setting, breaks: setting, ..Gap::KEPT }
    }
}

/// How a group behaves when it does not fit on its line.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shape {
    /// Holds units of its own; its lines are always apart.
    Block,
    /// Opens with one element a line; each of them is a unit then.
    List,
    /// Opens at every one of its gaps, mostly without making units.
    Chain,
    /// Opens only when nothing inside it can be opened instead.
    LastResort,
}

/// A range of tokens that is laid out together.
#[derive(Clone, Copy, Debug)]
pub struct Group {
    /// Its first token.
    pub first: TokenId,
    /// The token after its last one.
    pub end: TokenId,
    /// Its first gap that may be broken; 0 until there is one. The group counts as open in the text
    /// if that gap is broken.
    pub opening: TokenId,
    /// What it does when it does not fit.
    pub shape: Shape,
    /// Whether it is open whatever its width.
    pub forced: bool,
    /// Whether it may stay flat around something inside it that takes several lines.
    pub holds_lines: bool,
    /// Whether it may also stay flat around a list that is open. Only where its own open form is
    /// remembered (`list_wrap = "keep_open"`), or else a second look would close what the first one
    /// opened.
    pub holds_lists: bool,
    /// Whether it is opened only by hand: opening it would not make its longest part shorter.
    pub stays: bool,
    /// Whether it opens, where it does not fit, if somebody opened it before.
    pub remembers: bool,
    /// Whether what stands before it on its line is broken rather than it.
    pub reluctant: bool,
    /// The first gap inside its last element that may be broken in its place; 0 if there is none.
    pub stand_in: TokenId,
    /// The level of a chain's gaps where its first token begins a line; `None` where that makes no
    /// difference.
    pub leading_level: Option<u8>,
    /// Whether the lines of a chain stand right beneath its head where that takes several lines.
    pub beneath: bool,
    /// Whether each of its lines is a unit: of every list, and of a chain whose parts stand for
    /// themselves.
    pub of_units: bool,
    /// The token whose line the group's levels count from.
    pub base: TokenId,
    /// A group in its last element: where that is open, the closing bracket has its own line too.
    pub tail: GroupId,
    /// Whether several elements may stand on one of its lines.
    pub rows: Rows,
}

/// Lines of several elements in a list.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Rows {
    /// None: one element a line, or all on one.
    Never,
    /// As they stand, if somebody broke the line after the opening bracket.
    Bracketed,
    /// As `Bracketed`, however few elements share a line.
    Shared,
    /// As they stand.
    Loose,
    /// There are some.
    Kept,
}

impl Group {
    /// A group over the tokens `first..end`, as its shape has it.
    pub fn new(shape: Shape, first: TokenId, end: TokenId) -> Group {
        Group {
            first,
            end,
            opening: 0,
            shape,
            forced: shape == Shape::Block,
            holds_lines: shape != Shape::Block,
            holds_lists: matches!(shape, Shape::List | Shape::LastResort),
            stays: false,
            remembers: false,
            reluctant: false,
            stand_in: 0,
            leading_level: None,
            beneath: false,
            of_units: shape == Shape::List,
            base: first,
            tail: NO_GROUP,
            rows: Rows::Never,
        }
    }

    /// Whether its own gaps are no place for a line to end as long as another one is.
    pub fn waits(&self) -> bool {
        self.reluctant && !self.forced
    }
}

/// A change to a token, declared by a rewrite.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Change {
    /// Another spelling of the same value.
    Respell(String),
    /// The token goes.
    Drop,
    /// The token goes where this group is flat.
    DropIfFlat(GroupId),
    /// The token goes where this group is open.
    DropIfOpen(GroupId),
    /// This text follows the token.
    Append(&'static str),
    /// This text follows the token where this group is open.
    AppendIfOpen(&'static str, GroupId),
}

impl Change {
    /// Whether it puts something behind its token.
    pub fn is_behind(&self) -> bool {
        matches!(self, Change::Append(_) | Change::AppendIfOpen(..))
    }

    /// Whether it takes its token away.
    pub fn takes_away(&self) -> bool {
        matches!(self, Change::Drop | Change::DropIfFlat(_) | Change::DropIfOpen(_))
    }
}

/// A change, its token and the setting that asks for it.
#[derive(Clone, Debug)]
pub struct Rewrite {
    /// The token that it is about.
    pub token: TokenId,
    /// What becomes of it.
    pub change: Change,
    /// Why.
    pub setting: Setting,
}

/// Brackets that a rewrite puts around a statement, which becomes a block.
#[derive(Clone, Copy, Debug)]
pub struct Wrap {
    /// The token that the opening one follows.
    pub header: TokenId,
    /// The token that the closing one follows.
    pub last: TokenId,
    /// The opening and the closing one.
    pub brackets: (&'static str, &'static str),
    /// Why.
    pub setting: Setting,
}

/// A block that ends where its last statement ends, without a closing bracket.
#[derive(Clone, Copy, Debug)]
pub struct BareBlock {
    /// Its first token that is not a comment.
    pub first: TokenId,
    /// Its last token that is not a comment.
    pub last: TokenId,
    /// The block.
    pub group: GroupId,
}

/// Everything that the rules have said about one text.
pub struct Plan {
    /// One gap before each token, and one at the end of the file.
    pub gaps: Vec<Gap>,
    /// In the order of their making.
    pub groups: Vec<Group>,
    /// Ascending by token once the plan is finished.
    pub rewrites: Vec<Rewrite>,
    /// Statements to be wrapped; the text is laid out once they are.
    pub wraps: Vec<Wrap>,
    /// Blocks without a closing bracket, outer ones first.
    pub bare_blocks: Vec<BareBlock>,
    /// Per token: whether a rewrite names it.
    pub rewritten: Vec<bool>,
    /// Tokens that stay as they stand, as their grammar reads them by their lines.
    pub fixed: Vec<std::ops::Range<usize>>,
    /// Constructs that no rule knows, by a token of theirs.
    pub kept: Vec<TokenId>,
}

impl Plan {
    /// A plan in which everything is kept.
    pub fn new(tokens: usize) -> Plan {
        let mut groups = Vec::with_capacity(tokens / 6 + 1);
        groups.push(Group::new(Shape::Block, 0, tokens as TokenId));
        Plan {
            gaps: vec![Gap::KEPT; tokens + 1],
            groups,
            rewrites: Vec::new(),
            wraps: Vec::new(),
            bare_blocks: Vec::new(),
            rewritten: vec![false; tokens],
            fixed: Vec::new(),
            kept: Vec::new(),
        }
    }

    /// Whether a gap is the one before its group's closing bracket.
    pub fn closes(&self, index: usize) -> bool {
        let gap = &self.gaps[index];
        let group = self.groups.get(gap.group as usize);
        !gap.inside && group.is_some_and(|group| group.end as usize == index + 1)
    }

    /// Whether a line must end at a gap, whatever the width.
    pub fn ends_line(&self, index: usize, tree: &Tree, text: &str) -> bool {
        let gap = &self.gaps[index];
        match gap.want {
            Want::Line | Want::Newline => true,
            Want::Break => {
                let group = &self.groups[gap.group as usize];
                group.forced || (group.rows == Rows::Kept && tree.broken(index, text))
            }
            Want::Keep => tree.broken(index, text),
            Want::Flat => false,
        }
    }

    /// The changes to one token, in the order in which they were declared.
    pub fn rewrites_of(&self, token: usize) -> &[Rewrite] {
        if !self.rewritten[token] {
            return &[];
        }
        let from = self.rewrites.partition_point(|rewrite| (rewrite.token as usize) < token);
        let len = self.rewrites[from..].partition_point(|r| r.token as usize == token);
        &self.rewrites[from..from + len]
    }
}
