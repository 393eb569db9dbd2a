//! How colours and numbers are spelt.

use crate::layout::planner::Planner;
use crate::style::{Key, Setting, Value};
use crate::syntax::TokenId;

/// Units with letters of their own in upper case.
const UNITS: [&str; 3] = ["Q", "Hz", "kHz"];

/// `#a0c8f0`
pub(super) fn color(p: &mut Planner, token: TokenId) {
    let text = p.token_text(token);
    if !text.bytes().any(|byte| byte.is_ascii_alphabetic()) {
        return;
    }
    let (spelt, message) = match p.style.get(Setting::LetterCase, Key::Color) {
        Value::Word("lower") => (text.to_ascii_lowercase(), "write the colour in lower case"),
        Value::Word("upper") => (text.to_ascii_uppercase(), "write the colour in upper case"),
        _ => return,
    };
    if spelt != text {
        p.respell(token, spelt, Setting::LetterCase, message);
    }
}

/// `0.5em`
pub(super) fn number(p: &mut Planner, token: TokenId) {
    let text = p.token_text(token);
    let end = number_end(text);
    let (number, unit) = text.split_at(end);
    let spelt = match UNITS.iter().find(|known| known.eq_ignore_ascii_case(unit)) {
        Some(known) => (*known).to_string(),
        None => unit.to_ascii_lowercase(),
    };
    let is_lower =
        spelt != unit && p.style.is(Setting::LetterCase, Key::Unit, "lower");
    let unit = if is_lower { &spelt } else { unit };
    if is_lower {
        p.respell(
            token,
            format!("{number}{unit}"),
            Setting::LetterCase,
            "write the unit in lower case",
        );
    }
    let (sign, digits) = number.split_at(usize::from(number.starts_with(['+', '-'])));
    if !digits.starts_with('.') && !digits.starts_with("0.") {
        return;
    }
    let Value::Flag(wanted) = p.style.get(Setting::LeadingZero, Key::Whole) else { return };
    let (spelt, message) = match (digits.strip_prefix("0."), digits.starts_with('.')) {
        (Some(rest), _) if !wanted => (format!("{sign}.{rest}"), "no zero before the point"),
        // What touches the sign would have another number before it.
        (_, true) if wanted && !touches(p, token) => {
            (format!("{sign}0{digits}"), "put a zero before the point")
        }
        _ => return,
    };
    p.respell(token, format!("{spelt}{unit}"), Setting::LeadingZero, message);
}

/// Whether a token stands right behind a letter or a digit.
fn touches(p: &Planner, token: TokenId) -> bool {
    let before = token.checked_sub(1).map(|before| p.token_text(before));
    p.gap_text(token).is_empty()
        && before.is_some_and(|text| text.ends_with(|c: char| c.is_alphanumeric() || c == '_'))
}

/// Where the unit of a number begins.
fn number_end(text: &str) -> usize {
    let digits = |from: usize| {
        let rest = &text[from..];
        from + rest.len() - rest.trim_start_matches(|c: char| c.is_ascii_digit()).len()
    };
    let mut end = digits(usize::from(text.starts_with(['+', '-'])));
    if text[end..].starts_with('.') {
        end = digits(end + 1);
    }
    if text[end..].starts_with(['e', 'E']) {
        let sign = usize::from(text[end + 1..].starts_with(['+', '-']));
        let power = digits(end + 1 + sign);
        if power > end + 1 + sign {
            end = power;
        }
    }
    end
}
