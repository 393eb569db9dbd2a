//! The settings that rules ask for at every turn, read once for a file.

use super::plan::{Align, Close};
use crate::style::{Key, Setting, Style, Value};

/// Whether the text has a say in which groups are open.
pub(super) fn remembers(style: &Style) -> bool {
    let is = |word| style.is(Setting::ListWrap, Key::Whole, word);
    is("keep_open") || is("rows")
}

/// The kinds of operators, as `operator_gap` has them.
const OPERATORS: [Key; 9] = [
    Key::Power,
    Key::Product,
    Key::Sum,
    Key::Shift,
    Key::Range,
    Key::Compare,
    Key::Logic,
    Key::Assign,
    Key::Default,
];

/// How many blanks stand beside an operator of each kind; `None` for as many as there are.
#[derive(Clone, Copy, Debug)]
pub struct OperatorGaps([Option<u8>; OPERATORS.len()]);

impl OperatorGaps {
    fn of_style(style: &Style) -> OperatorGaps {
        OperatorGaps(OPERATORS.map(|key| match style.get(Setting::OperatorGap, key) {
            Value::Flag(flag) => Some(u8::from(flag)),
            _ => None,
        }))
    }

    /// Those of one kind.
    pub fn of(&self, key: Key) -> Option<u8> {
        let place = OPERATORS.iter().position(|own| *own == key);
        self.0[place.expect("a key of `operator_gap`")]
    }
}

/// How many blanks stand before and behind the sign of a pair; `None` for as many as there are.
#[derive(Clone, Copy, Debug)]
pub struct PairGaps {
    of_value: Option<(u8, u8)>,
    of_type: Option<(u8, u8)>,
}

impl PairGaps {
    fn of_style(style: &Style) -> PairGaps {
        let of = |key| match style.get(Setting::PairGap, key) {
            Value::Word("after") => Some((0, 1)),
            Value::Word("both") => Some((1, 1)),
            Value::Word("none") => Some((0, 0)),
            _ => None,
        };
        PairGaps { of_value: of(Key::Value), of_type: of(Key::Type) }
    }

    /// Those of a key and its value, or of a name and its type.
    pub fn of(&self, key: Key) -> Option<(u8, u8)> {
        if key == Key::Type { self.of_type } else { self.of_value }
    }
}

/// The kinds of lists that may be closed in another way.
const CLOSED: [Key; 4] = [Key::Call, Key::Declaration, Key::Collection, Key::Condition];

/// Those that may be lined up.
const LINED_UP: [Key; 7] = [
    Key::Call,
    Key::Declaration,
    Key::Collection,
    Key::Condition,
    Key::Ternary,
    Key::Value,
    Key::Attribute,
];

fn of_list<T: Copy, const N: usize>(of: &[T; N], keys: &[Key; N], key: Key) -> T {
    of[keys.iter().position(|own| *own == key).expect("a kind of list")]
}

/// Where the lines of each kind of open list stand.
#[derive(Clone, Copy, Debug)]
pub struct Aligns([Align; LINED_UP.len()]);

impl Aligns {
    /// What a style says.
    pub fn of_style(style: &Style) -> Aligns {
        Aligns(LINED_UP.map(|key| match style.get(Setting::WrapAlign, key) {
            Value::Word("bracket") => Align::Bracket,
            Value::Word("keep") => Align::Keep,
            Value::Word("any") => Align::Any,
            _ => Align::Step,
        }))
    }

    /// Those of one kind.
    pub fn of(&self, key: Key) -> Align {
        of_list(&self.0, &LINED_UP, key)
    }
}

/// Where the closing bracket of each kind of list stands.
#[derive(Clone, Copy, Debug)]
pub struct Closes([Close; CLOSED.len()]);

impl Closes {
    fn of_style(style: &Style) -> Closes {
        Closes(CLOSED.map(|key| match style.get(Setting::CloseBracket, key) {
            Value::Word("with_last") => Close::WithLast,
            Value::Word("keep") => Close::Keep,
            _ => Close::OwnLine,
        }))
    }

    /// Those of one kind.
    pub fn of(&self, key: Key) -> Close {
        of_list(&self.0, &CLOSED, key)
    }
}

/// Where words stand that say who may use the members behind them.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum AccessIndent {
    /// As far in as all members.
    Beside,
    /// As far in as what their type begins with.
    Out,
    /// As far in as the members before them; those behind them are a step further in.
    MembersIn,
    /// As they stand.
    Keep,
}

impl AccessIndent {
    fn of_style(style: &Style) -> AccessIndent {
        match style.get(Setting::AccessIndent, Key::Whole) {
            Value::Word("out") => AccessIndent::Out,
            Value::Word("members_in") => AccessIndent::MembersIn,
            Value::Word("keep") => AccessIndent::Keep,
            _ => AccessIndent::Beside,
        }
    }
}

/// Whether each kind of what elements hold is further in; `None` for as it is.
#[derive(Clone, Copy, Debug)]
pub struct PageIndents([Option<bool>; CONTENTS.len()]);

/// The kinds of what elements hold, as `page_indent` has them.
const CONTENTS: [Key; 5] = [Key::Root, Key::Element, Key::Text, Key::Embedded, Key::Control];

impl PageIndents {
    fn of_style(style: &Style) -> PageIndents {
        PageIndents(CONTENTS.map(|key| match style.get(Setting::PageIndent, key) {
            Value::Flag(flag) => Some(flag),
            _ => None,
        }))
    }

    /// Those of one kind.
    pub fn of(&self, key: Key) -> Option<bool> {
        self.0[CONTENTS.iter().position(|own| *own == key).expect("a key of `page_indent`")]
    }
}

/// Each field is the setting of the same name, as a rule wants it.
#[derive(Clone, Copy, Debug)]
pub struct Choices {
    pub operator_gaps: OperatorGaps,
    pub pair_gaps: PairGaps,
    pub parens_gap: Option<u8>,
    pub brackets_gap: Option<u8>,
    pub braces_gap: Option<u8>,
    pub block_gap: Option<u8>,
    pub markup_gap: Option<u8>,
    pub tag_end_gap: Option<u8>,
    pub control_parens: Option<u8>,
    pub call_parens: Option<u8>,
    pub declaration_parens: Option<u8>,
    pub lambda_parens: Option<u8>,
    /// Blanks behind a cast.
    pub cast_gap: Option<u8>,
    pub case_indent: Option<bool>,
    pub access_indent: AccessIndent,
    pub namespace_indent: Option<bool>,
    pub page_indents: PageIndents,
    /// Whether elements stay beside others.
    pub keeps_elements: bool,
    /// Whether statements that somebody put on one line share it.
    pub shares_lines: bool,
    /// The setting that gives a statement a line of its own.
    pub statement_breaks: Setting,
    pub everywhere: bool,
    /// Whether texts between markup are filled.
    pub fills_text: bool,
    pub end_with_semicolon: bool,
    pub end_bare: bool,
    pub quotes: Option<char>,
    pub markup_quotes: Option<char>,
    pub max_line: usize,
    pub chain_steps: u8,
    /// How many steps further in operators are.
    pub operator_steps: u8,
    /// How many steps further in arguments and parameters are.
    pub list_steps: u8,
    pub declaration_steps: u8,
    pub element_steps: u8,
    /// How many steps further in than the sign of an answer is what opens behind it.
    pub answer_steps: u8,
    /// The same behind the bar of an alternative.
    pub union_steps: u8,
    pub not_gap: u8,
    pub angles_gap: Option<u8>,
    pub brace_bare: bool,
    /// Whether what does not fit its line is put in parentheses.
    pub add_parens: bool,
    /// Whether alternatives that do not fit theirs get a bar before the first one.
    pub add_bar: bool,
    pub operator_leads: Option<bool>,
    pub ternary_leads: Option<bool>,
    pub dot_leads: Option<bool>,
    pub keep_words: bool,
    pub tab: usize,
    /// Columns of a step.
    pub step: usize,
    /// Whether the text has a say in what is open.
    pub remembers: bool,
    pub rows: bool,
    pub aligns: Aligns,
    pub closes: Closes,
    pub one_each: bool,
    /// Whether what goes on behind a brace has a line of its own; `None` where it stays.
    pub else_own_line: Option<bool>,
    /// The same of a `do`'s `while`.
    pub while_own_line: Option<bool>,
    pub most_blank: u8,
    pub edge_blank: u8,
    pub add_last_comma: bool,
    pub drop_last_comma: bool,
    /// Whether a comma stays at the end of a list on one line.
    pub keeps_flat_comma: bool,
}

impl Choices {
    pub(super) fn of(style: &Style) -> Choices {
        let lines = |key| style.number(Setting::BlankLines, key).unwrap_or(0) as u8;
        let chain_steps = style.number(Setting::WrapIndent, Key::Chain).unwrap_or(1) as u8;
        let comma = |word| style.is(Setting::LastComma, Key::Whole, word);
        let quote = |setting| match style.get(setting, Key::Whole) {
            Value::Word("double") => Some('"'),
            Value::Word("single") => Some('\''),
            _ => None,
        };
        let kept = |setting| match style.get(setting, Key::Whole) {
            Value::Flag(flag) => Some(flag),
            _ => None,
        };
        let gap = |setting, key| match style.get(setting, key) {
            Value::Flag(flag) => Some(u8::from(flag)),
            _ => None,
        };
        let leads = |setting| match style.get(setting, Key::Whole) {
            Value::Word("leads") => Some(true),
            Value::Word("trails") => Some(false),
            _ => None,
        };
        let goes_on = |key| match style.get(Setting::ElseLine, key) {
            Value::Word("own_line") => Some(true),
            Value::Word("with_brace") => Some(false),
            _ => None,
        };
        Choices {
            operator_gaps: OperatorGaps::of_style(style),
            pair_gaps: PairGaps::of_style(style),
            parens_gap: gap(Setting::InnerGap, Key::Parens),
            brackets_gap: gap(Setting::InnerGap, Key::Brackets),
            braces_gap: gap(Setting::InnerGap, Key::Braces),
            block_gap: gap(Setting::InnerGap, Key::Block),
            markup_gap: gap(Setting::InnerGap, Key::Markup),
            tag_end_gap: gap(Setting::InnerGap, Key::TagEnd),
            control_parens: gap(Setting::ParenGap, Key::Control),
            call_parens: gap(Setting::ParenGap, Key::Call),
            declaration_parens: gap(Setting::ParenGap, Key::Declaration),
            lambda_parens: gap(Setting::ParenGap, Key::Lambda),
            cast_gap: gap(Setting::ParenGap, Key::Cast),
            end_with_semicolon: style.is(Setting::StatementEnd, Key::Whole, "semicolon"),
            end_bare: style.is(Setting::StatementEnd, Key::Whole, "bare"),
            quotes: quote(Setting::Quotes),
            markup_quotes: quote(Setting::MarkupQuotes),
            max_line: style.number(Setting::MaxLineLength, Key::Whole).unwrap_or(u32::MAX) as usize,
            chain_steps,
            operator_steps: style
                .number(Setting::WrapIndent, Key::Operator)
                .map_or(chain_steps, |steps| steps as u8),
            list_steps: style.number(Setting::WrapIndent, Key::List).unwrap_or(1) as u8,
            declaration_steps: style.number(Setting::WrapIndent, Key::Declaration).unwrap_or(1)
                as u8,
            element_steps: style.number(Setting::WrapIndent, Key::Element).unwrap_or(1) as u8,
            answer_steps: style.number(Setting::WrapIndent, Key::Ternary).unwrap_or(1) as u8,
            union_steps: style.number(Setting::WrapIndent, Key::Union).unwrap_or(1) as u8,
            not_gap: u8::from(style.flag(Setting::NotGap, Key::Whole)),
            angles_gap: gap(Setting::InnerGap, Key::Angles),
            namespace_indent: kept(Setting::NamespaceIndent),
            keeps_elements: style.is(Setting::ElementLine, Key::Whole, "keep"),
            shares_lines: false,
            statement_breaks: Setting::StatementEnd,
            page_indents: PageIndents::of_style(style),
            everywhere: style.is(Setting::ShownSpace, Key::Whole, "everywhere"),
            fills_text: style.is(Setting::TextFill, Key::Whole, "width")
                && style.is(Setting::ShownSpace, Key::Whole, "inline"),
            case_indent: kept(Setting::CaseIndent),
            access_indent: AccessIndent::of_style(style),
            add_parens: style.is(Setting::WrapParens, Key::Whole, "add"),
            add_bar: style.is(Setting::LeadingBar, Key::Whole, "add"),
            brace_bare: style.is(Setting::BareBody, Key::Whole, "brace"),
            ternary_leads: leads(Setting::TernaryPlace),
            dot_leads: leads(Setting::DotPlace),
            operator_leads: leads(Setting::OperatorPlace),
            keep_words: style.is(Setting::WordGap, Key::Whole, "keep"),
            tab: style.tab_columns(),
            step: crate::layout::measure::columns(&style.indent_step(), style.tab_columns()),
            remembers: remembers(style),
            rows: style.is(Setting::ListWrap, Key::Whole, "rows"),
            aligns: Aligns::of_style(style),
            closes: Closes::of_style(style),
            one_each: style.is(Setting::ListWrap, Key::Whole, "one_each"),
            else_own_line: goes_on(Key::Branch),
            while_own_line: goes_on(Key::While),
            most_blank: lines(Key::Most),
            edge_blank: lines(Key::AtEdges),
            add_last_comma: comma("open_list"),
            drop_last_comma: comma("never"),
            keeps_flat_comma: comma("keep_all"),
        }
    }
}
