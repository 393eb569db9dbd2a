//! What is known about a setting, and what values it takes.

use super::family::Family;
use super::keys::Key;

/// A setting, as the reason of a decision and the index of its registry entry.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
#[repr(u8)]
#[expect(missing_docs, reason = "each is described by its registry entry")]
pub enum Setting {
    IndentStyle,
    IndentSize,
    TabWidth,
    EndOfLine,
    Charset,
    TrimTrailingWhitespace,
    InsertFinalNewline,
    MaxLineLength,
    OpenBrace,
    ElseLine,
    FlatBlock,
    BareBody,
    CaseIndent,
    AccessIndent,
    NamespaceIndent,
    RuleIndent,
    PageIndent,
    ElementLine,
    StatementLine,
    DirectiveIndent,
    AnnotationLine,
    ReturnTypeLine,
    ModifierOrder,
    MemberOrder,
    UnusedImports,
    ClauseLine,
    InnerGap,
    ParenGap,
    OperatorGap,
    PairGap,
    NotGap,
    OperatorPlace,
    TernaryPlace,
    DotPlace,
    ShownSpace,
    TextFill,
    WordGap,
    Quotes,
    MarkupQuotes,
    TagEnd,
    WordOrder,
    LetterCase,
    LeadingZero,
    StatementEnd,
    LastComma,
    ListWrap,
    WrapAlign,
    CloseBracket,
    WrapIndent,
    WrapParens,
    LeadingBar,
    BlankLines,
    CommentGap,
    Columns,
}

/// What values a setting (or one key of its table) takes.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ValueKind {
    /// One of these words.
    Word(&'static [&'static str]),
    /// `true` or `false`.
    Flag,
    /// `true`, `false`, or the word `keep`.
    FlagOrKeep,
    /// A whole number from the first to the second, both included, or one of the words.
    Number(u32, u32, &'static [&'static str]),
    /// A list of strings, or one of the words.
    List(&'static [&'static str]),
    /// A list of patterns, each made of some of the second words; or one of the first words.
    Patterns(&'static [&'static str], &'static [&'static str]),
}

/// One value that a style holds: a whole setting, or one key of a setting that is a table.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Slot {
    /// The key in the setting's table, if it is one.
    pub key: Key,
    /// What a language has to have for it to mean anything there.
    pub family: Family,
    /// What this key decides; empty where the setting's own text says it.
    pub about: &'static str,
    /// Which values it takes.
    pub kind: ValueKind,
    /// The value where a language's community says nothing else.
    pub default: &'static str,
}

/// All that is known about a setting.
#[derive(Clone, Copy, Debug)]
pub struct Entry {
    /// The setting that this is the entry of.
    pub setting: Setting,
    /// Its name in the canon.
    pub name: &'static str,
    /// What it means, in one or two sentences.
    pub about: &'static str,
    /// Its one value, or the keys of its table.
    pub slots: &'static [Slot],
    /// Whether one word may stand for the whole table.
    pub one_for_all: bool,
}
