//! The settings that rules ask for at every turn, read once for a file.

use crate::style::{Key, Setting, Style, Value};

/// Each field is the setting of the same name, as a rule wants it.
#[derive(Clone, Copy, Debug)]
pub struct Choices {
    pub operator_gap: u8,
    pub parens_gap: u8,
    pub brackets_gap: u8,
    pub braces_gap: u8,
    pub markup_gap: u8,
    pub control_parens: u8,
    pub call_parens: u8,
    pub declaration_parens: u8,
    pub lambda_parens: Option<u8>,
    pub case_indent: bool,
    pub end_with_semicolon: bool,
    pub end_bare: bool,
    pub quotes: Option<char>,
    pub markup_quotes: Option<char>,
    pub max_line: usize,
    pub chain_steps: u8,
    pub declaration_steps: u8,
    pub element_steps: u8,
    pub not_gap: u8,
    pub angles_gap: u8,
    pub brace_bare: bool,
    pub operator_leads: bool,
    pub keep_words: bool,
    pub keep_open: bool,
    pub one_each: bool,
    pub else_own_line: bool,
    pub most_blank: u8,
    pub edge_blank: u8,
    pub add_last_comma: bool,
    pub drop_last_comma: bool,
}

impl Choices {
    pub(super) fn of(style: &Style) -> Choices {
        let lines = |key| style.number(Setting::BlankLines, key).unwrap_or(0) as u8;
        let comma = |word| style.is(Setting::LastComma, Key::Whole, word);
        let quote = |setting| match style.get(setting, Key::Whole) {
            Value::Word("double") => Some('"'),
            Value::Word("single") => Some('\''),
            _ => None,
        };
        Choices {
            operator_gap: u8::from(style.flag(Setting::OperatorGap, Key::Whole)),
            parens_gap: u8::from(style.flag(Setting::InnerGap, Key::Parens)),
            brackets_gap: u8::from(style.flag(Setting::InnerGap, Key::Brackets)),
            braces_gap: u8::from(style.flag(Setting::InnerGap, Key::Braces)),
            markup_gap: u8::from(style.flag(Setting::InnerGap, Key::Markup)),
            control_parens: u8::from(style.flag(Setting::ParenGap, Key::Control)),
            call_parens: u8::from(style.flag(Setting::ParenGap, Key::Call)),
            declaration_parens: u8::from(style.flag(Setting::ParenGap, Key::Declaration)),
            lambda_parens: match style.get(Setting::ParenGap, Key::Lambda) {
                Value::Flag(flag) => Some(u8::from(flag)),
                _ => None,
            },
            end_with_semicolon: style.is(Setting::StatementEnd, Key::Whole, "semicolon"),
            end_bare: style.is(Setting::StatementEnd, Key::Whole, "bare"),
            quotes: quote(Setting::Quotes),
            markup_quotes: quote(Setting::MarkupQuotes),
            max_line: style.number(Setting::MaxLineLength, Key::Whole).unwrap_or(u32::MAX) as usize,
            chain_steps: style.number(Setting::WrapIndent, Key::Chain).unwrap_or(1) as u8,
            declaration_steps: style.number(Setting::WrapIndent, Key::Declaration).unwrap_or(1)
                as u8,
            element_steps: style.number(Setting::WrapIndent, Key::Element).unwrap_or(1) as u8,
            not_gap: u8::from(style.flag(Setting::NotGap, Key::Whole)),
            angles_gap: u8::from(style.flag(Setting::InnerGap, Key::Angles)),
            case_indent: style.flag(Setting::CaseIndent, Key::Whole),
            brace_bare: style.is(Setting::BareBody, Key::Whole, "brace"),
            operator_leads: style.is(Setting::OperatorPlace, Key::Whole, "leads"),
            keep_words: style.is(Setting::WordGap, Key::Whole, "keep"),
            keep_open: style.is(Setting::ListWrap, Key::Whole, "keep_open"),
            one_each: style.is(Setting::ListWrap, Key::Whole, "one_each"),
            else_own_line: style.is(Setting::ElseLine, Key::Whole, "own_line"),
            most_blank: lines(Key::Most),
            edge_blank: lines(Key::AtEdges),
            add_last_comma: comma("open_list"),
            drop_last_comma: comma("never"),
        }
    }
}
