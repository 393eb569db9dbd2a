//! How style sheets are laid out: rules, selectors, declarations, values, at-rules.

use super::spelling;
use crate::languages::kinds::kinds;
use crate::layout::plan::{Align, GroupId, Rows, Shape, Slight, TreeEdit, When};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::Sort;
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, TokenId, Tree};

kinds! {
    statements { Stylesheet, Block, KeyframeBlockList }
    atoms { StringValue, ColorValue, IntegerValue, FloatValue }
    comments { Comment, JsComment }
    words { UnaryQuery, BinaryQuery }
    tight {
        ClassSelector, IdSelector, PseudoClassSelector, PseudoElementSelector, NamespaceSelector,
        ClassName, CallExpression, ParenthesizedQuery, SelectorQuery, AttributeSelector,
    }
    ruled {
        RuleSet, Selectors, Declaration, MediaStatement, SupportsStatement, ScopeStatement,
        KeyframesStatement, KeyframeBlock, AtRule, CharsetStatement, ImportStatement,
        NamespaceStatement, DescendantSelector, ChildSelector, SiblingSelector,
        AdjacentSiblingSelector, Arguments,
        FeatureQuery, BinaryExpression, ParenthesizedValue, GridValue,
    }
    marks {
        Colon = ":", OpenParen = "(", CloseParen = ")", Plus = "+", Minus = "-",
    }
    separators { Comma = ",", Semicolon = ";" }
}

/// A semicolon that ends nothing.
pub(super) const IDLE: &[&str] = &[";"];

/// In a dialect also the parenthesis behind a block that something is given in parentheses.
pub(super) const IDLE_OF_DIALECTS: &[&str] = &[";", ")"];

/// A comment of another language's, which a style sheet reads as part of what follows.
pub(super) fn foreign(kind: u16, text: &str) -> bool {
    Kind::of(kind) == Kind::JsComment || is_open_string(kind, text)
}

/// A string that ends on a line without a mark that joins the next one to it: its last quote is missing, and
/// the one that the grammar takes for it begins another one.
pub(super) fn is_open_string(kind: u16, text: &str) -> bool {
    let goes_on = |line: &str| {
        let line = line.strip_suffix('\r').unwrap_or(line);
        // Two marks are one that is meant.
        (line.len() - line.trim_end_matches('\\').len()) % 2 == 1
    };
    Kind::of(kind) == Kind::StringValue
        && text.rsplit_once('\n').is_some_and(|(before, _)| !before.split('\n').all(goes_on))
}

/// Inside a custom property, whose value is a text for whoever asks for it.
const IN_CUSTOM: u8 = 1;

/// Inside arguments that stay on their line.
const IN_FLAT: u8 = 2;

/// The rule for a node: a function a construct, named after it.
pub(super) fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    if p.context(node) == IN_CUSTOM && !p.is(node, Kind::Declaration) {
        parts.iter().skip(1).for_each(|part| p.keep_gap(p.first(*part)));
        return true;
    }
    match Kind::at(p, node) {
        Kind::Stylesheet => stylesheet(p, parts),
        Kind::Block | Kind::KeyframeBlockList => block(p, node, parts),
        Kind::RuleSet | Kind::KeyframeBlock => header(p, node, parts, Key::Type),
        Kind::MediaStatement
        | Kind::SupportsStatement
        | Kind::ScopeStatement
        | Kind::KeyframesStatement
        | Kind::AtRule
        | Kind::ImportStatement
        | Kind::NamespaceStatement => header(p, node, parts, Key::Control),
        // It is read byte by byte, before anything else is.
        Kind::CharsetStatement => p.keep(node),
        Kind::Selectors => selectors(p, node, parts),
        Kind::DescendantSelector
        | Kind::ChildSelector
        | Kind::SiblingSelector
        | Kind::AdjacentSiblingSelector => {
            parts.iter().skip(1).for_each(|part| apart(p, node, p.first(*part), 1));
        }
        Kind::GridValue => grid_value(p, parts),
        Kind::Declaration => declaration(p, node, parts),
        Kind::Arguments => arguments(p, node, parts),
        Kind::FeatureQuery => feature_query(p, parts),
        Kind::ParenthesizedValue => parenthesized(p, node, parts),
        Kind::BinaryExpression => binary_expression(p, node, parts),
        Kind::StringValue if p.is(p.parent(node), Kind::CharsetStatement) => {}
        Kind::StringValue => p.quotes(p.first(node), 0, Setting::Quotes),
        Kind::ColorValue => spelling::color(p, p.first(node)),
        Kind::IntegerValue | Kind::FloatValue => spelling::number(p, p.first(node)),
        _ => return false,
    }
    true
}

fn stylesheet(p: &mut Planner, parts: &[NodeId]) {
    p.may_share_lines();
    p.statements(parts, GroupId::ROOT, 0, sort);
    continuations(p, parts);
    rules_below(p, parts);
}

/// So many steps further in than what it is in may a rule stand.
const MOST_STEPS: usize = 8;

/// Rules that stand further in than the others do so by choice, below the rule that they say more of:
/// a step more than that at the most.
fn rules_below(p: &mut Planner, statements: &[NodeId]) {
    if !p.style.is(Setting::RuleIndent, Key::Whole, "keep") {
        return;
    }
    let [first, rest @ ..] = statements else { return };
    let (base, step) = (p.present_column(p.first(*first)), p.choices.step);
    let mut above = 0;
    for statement in rest {
        let token = p.first(*statement);
        if sort(p, *statement) != Sort::Type || !p.broken_before(token) {
            above = 0;
            continue;
        }
        let further = p.present_column(token).saturating_sub(base);
        above = match further.is_multiple_of(step) {
            true => (further / step).min(above + 1).min(MOST_STEPS),
            false => 0,
        };
        let gap = p.gap(token);
        (gap.level, gap.by_choice) = (gap.level + above as u8, above as u8);
    }
}

/// `} @else {`: beside the brace that somebody put it behind, or on a line of its own, which may have a blank
/// one before it. A semicolon that ends nothing stays where it
/// is, and so does the parenthesis behind a block.
fn continuations(p: &mut Planner, statements: &[NodeId]) {
    for statement in statements.iter().skip(1) {
        let token = p.first(*statement);
        match p.token_text(token) {
            "@else" => {}
            ";" | ")" => {
                p.keep_gap(token);
                continue;
            }
            _ => continue,
        }
        if !p.broken_before(token) {
            p.word(token, 1);
        }
    }
}

/// At-rules of the dialects that are done where they stand.
const DONE_HERE: [&str; 6] = ["@if", "@else", "@each", "@for", "@while", "@include"];

/// What has a block stands apart, but for what is done here in a condition or by a name.
fn sort(p: &Planner, node: NodeId) -> Sort {
    let last = p.parts(node).last().copied();
    match Kind::at(p, node) {
        Kind::KeyframeBlock => Sort::Other,
        Kind::ImportStatement => Sort::Import,
        Kind::AtRule if DONE_HERE.contains(&p.token_text(p.first(node))) => Sort::Other,
        Kind::RuleSet if p.is_one_line(node, Key::Type) => Sort::Other,
        Kind::RuleSet if last.is_some_and(|last| is_given(p, last)) => Sort::Other,
        _ if last.is_some_and(|last| is_block(p, last)) => Sort::Type,
        _ => Sort::Other,
    }
}

fn is_block(p: &Planner, node: NodeId) -> bool {
    matches!(Kind::at(p, node), Kind::Block | Kind::KeyframeBlockList)
}

/// Whether a block stands in the parentheses of what it is given to: `.ebb({ color: navy; })`.
fn is_given(p: &Planner, block: NodeId) -> bool {
    let before = p.first(block).checked_sub(1).map(|token| p.token_text(token));
    before.is_some_and(|before| before.ends_with(['(', ',']))
}

/// `{ color: navy; }`
fn block(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    match p.handed_block(node) {
        Some(group) => {
            p.flat_block(parts, group);
        }
        None => {
            let stem = p.first(p.parent(node));
            p.block(parts, stem, |p, inner, group| {
                p.statements(inner, group, 1, sort);
                continuations(p, inner);
                rules_below(p, inner);
                names_with_prefixes(p, inner);
            });
        }
    }
}

/// `-webkit-hyphens: auto;` above `hyphens: auto;`: one name, whose ends some people line up.
fn names_with_prefixes(p: &mut Planner, statements: &[NodeId]) {
    if !p.style.is(Setting::Columns, Key::Prefix, "keep") {
        return;
    }
    let begins = |statement: NodeId| {
        p.is(statement, Kind::Declaration) && p.broken_before(p.first(statement))
    };
    let name = |statement: NodeId| without_prefix(p.token_text(p.first(statement)));
    let is_one = |first: &NodeId, second: &NodeId| {
        begins(*first) && begins(*second) && name(*first) == name(*second)
    };
    let runs: Vec<Vec<TokenId>> = statements
        .chunk_by(is_one)
        .filter(|run| run.len() > 1)
        .map(|run| run.iter().map(|statement| p.first(*statement)).collect())
        .collect();
    runs.into_iter().for_each(|run| p.one_name(run));
}

/// The name of a property without what names the browsers that know it: `-moz-hyphens`.
fn without_prefix(name: &str) -> &str {
    let rest = name.strip_prefix('-').filter(|rest| !rest.starts_with('-'));
    rest.and_then(|rest| rest.split_once('-')).map_or(name, |(_, name)| name)
}

/// What stands before a block or an end: `@media (width: 60em) {`, `@import url(tide.css);`
fn header(p: &mut Planner, node: NodeId, parts: &[NodeId], key: Key) {
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        let before = parts[index - 1];
        if is_block(p, *part) {
            p.open_block(*part, p.first(node), key);
            if is_given(p, *part) {
                p.keep_gap(token);
            }
        } else if p.is_separator(*part) || is_inside(p, before, *part) {
            p.word(token, 0);
        } else if p.is(node, Kind::KeyframeBlock) && p.is_separator(before) {
            apart(p, node, token, 0);
        } else {
            p.word(token, 1);
        }
    }
    if let Some(last) = parts.last()
        && !is_block(p, *last)
        && !p.is_separator(*last)
    {
        add_end(p, node);
        if !p.choices.end_with_semicolon {
            // It ends with the blank before the brace.
            p.set_apart(p.end(node));
        }
    }
}

/// What somebody put on a line of its own, so many steps further in than what it is a part of begins, stays
/// there; elsewhere there is a blank before it.
fn apart(p: &mut Planner, node: NodeId, token: TokenId, steps: u8) {
    if p.broken_before(token) {
        let group = p.group(Shape::Block, p.first(node), p.end(node));
        p.newline(token, group, steps, Setting::WordGap);
    } else {
        p.word(token, 1);
    }
}

/// Whether two neighbours are a parenthesis and what stands inside it.
fn is_inside(p: &Planner, before: NodeId, part: NodeId) -> bool {
    p.is(before, Kind::OpenParen) || p.is(part, Kind::CloseParen)
}

/// `.gauge, .buoy`: one a line, or as `list_wrap` has it.
fn selectors(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let group = p.group(Shape::List, p.first(node), p.end(node));
    let own = p.group_mut(group);
    // However short they are: people give each its line.
    (own.rows, own.slight) = (Rows::Loose, Slight::Never);
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        if p.is_separator(*part) {
            p.word(token, 0);
        } else if p.is_separator(parts[index - 1]) {
            p.may_break(token, group, 0, 1, Setting::WordGap);
            // The last one is no closing bracket, though it may be one word.
            p.gap(token).inside = true;
        }
    }
    if p.choices.one_each {
        p.force(group);
    }
}

/// `font: 12px/1.5 "Tide Sans", serif;`: broken at its commas, or in the rows that it stands in.
fn declaration(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    // What only one old browser reads stays as it was written for that, and what another declaration has
    // begun in, as the first one has no end.
    let texts = || parts.iter().map(|part| p.token_text(p.first(*part)));
    if texts().next().is_some_and(|name| name.starts_with('*'))
        || texts().skip(2).any(begins_declaration)
    {
        return parts.iter().skip(1).for_each(|part| p.keep_gap(p.first(*part)));
    }
    // `--tide:;`, which to some browsers is another thing than `--tide: ;`.
    if let [name, sign, rest @ ..] = parts
        && may_lack_value(&p.text[..p.tree.tokens[p.first(*sign) as usize].end as usize])
        && rest.iter().all(|part| p.is(*part, Kind::Semicolon) || p.end(*part) == p.first(*part))
    {
        return (p.end(*name)..p.end(node)).for_each(|token| p.keep_gap(token));
    }
    // No pair: the value's own commas and rows say where it begins a line.
    if let [_, sign, value, ..] = parts {
        p.before_pair_sign(p.first(*sign), Key::Value);
        p.after_pair_sign(p.first(*value), Key::Value);
    }
    let is_custom = parts
        .first()
        .is_some_and(|name| p.token_text(p.first(*name)).starts_with("--"));
    let values = parts.get(2..).unwrap_or_default();
    let end = values.iter().position(|part| p.is(*part, Kind::Semicolon)).unwrap_or(values.len());
    let (values, last) = values.split_at(end);
    if is_custom {
        p.set_context(node, IN_CUSTOM);
        values.iter().skip(1).for_each(|value| p.keep_gap(p.first(*value)));
    } else {
        value(p, node, values);
    }
    match last.first() {
        Some(end) => {
            p.flat(p.first(*end), 0, Setting::StatementEnd);
            if p.choices.end_bare && is_last(p, node) {
                p.rewrite(p.first(*end), TreeEdit::Remove(When::Always), Setting::StatementEnd);
            }
        }
        None => add_end(p, node),
    }
}

/// Whether a value may be missing behind a text: that of what is a team's own, `--tide:;`.
pub(super) fn may_lack_value(before: &str) -> bool {
    let name = before.trim_end().strip_suffix(':').unwrap_or_default().trim_end();
    let is_part = |byte: &u8| byte.is_ascii_alphanumeric() || b"-_".contains(byte) || *byte >= 0x80;
    let length = name.bytes().rev().take_while(is_part).count();
    name[name.len() - length..].starts_with("--")
}

/// What ends with its block ends with a semicolon, unless a text without its end has taken that in.
fn add_end(p: &mut Planner, node: NodeId) {
    if !p.token_text(p.end(node) - 1).ends_with(';') {
        p.end_with_semicolon(node);
    }
}

/// Whether a word of a value is a property with what ends its name.
fn begins_declaration(value: &str) -> bool {
    let is_name = |name: &str| {
        let mut letters = name.bytes();
        !name.is_empty() && letters.all(|byte| byte.is_ascii_lowercase() || byte == b'-')
    };
    value.split_once(':').is_some_and(|(name, _)| is_name(name) && name != "progid")
}

/// Whether nothing but the closing brace follows a declaration.
fn is_last(p: &Planner, node: NodeId) -> bool {
    match p.parts(p.parent(node))[..] {
        [.., last, end] => last == node && p.token_text(p.first(end)) == "}",
        _ => false,
    }
}

/// Values with their commas.
fn value(p: &mut Planner, node: NodeId, values: &[NodeId]) {
    let Some((first, rest)) = values.split_first() else { return };
    let end = p.end(values[values.len() - 1]);
    let is_row = |pair: &[NodeId]| {
        !pair.iter().any(|part| p.is_separator(*part)) && p.broken_before(p.first(pair[1]))
    };
    let rows = values.windows(2).filter(|pair| is_row(pair)).count();
    let has_lines = values.windows(2).any(|pair| {
        p.is_separator(pair[0]) && p.broken_before(p.first(pair[1]))
    });
    if rows > 1 || (rows == 1 && !has_lines && !is_short(p, node)) {
        // A grid, or something else that somebody laid out in rows.
        let group = p.group(Shape::Block, p.first(node), end);
        let begins = p.broken_before(p.first(*first));
        for part in if begins { values } else { rest } {
            row(p, group, p.first(*part));
        }
        return;
    }
    let commas = rest.iter().filter(|part| p.is_separator(**part)).count();
    let group = p.group(Shape::List, p.first(node), end);
    p.group_mut(group).rows = Rows::Loose;
    let begins = p.broken_before(p.first(*first));
    let any = rest.iter().any(|part| p.broken_before(p.first(*part)));
    let remembers = p.choices.remembers;
    let align = p.choices.aligns.of(Key::Value);
    let stays = align == Align::Bracket;
    let may_be_below = commas > 0 && (begins || !any || !remembers);
    if (stays || !begins) && commas > 0 {
        p.lines_up(group, p.first(*first), Key::Value);
    }
    if !stays && (may_be_below || (begins && remembers)) {
        let token = p.first(*first);
        let blanks = match p.choices.pair_gaps.of(Key::Value) {
            Some(_) => p.gap(token).blanks,
            None => p.present_blanks(token).unwrap_or(1),
        };
        p.may_break(token, group, 1, blanks, Setting::PairGap);
    }
    let mut behind_comma = false;
    for part in rest {
        let token = p.first(*part);
        if p.is_separator(*part) {
            p.word(token, 0);
            behind_comma = true;
        } else if behind_comma {
            p.may_break(token, group, 1, 1, Setting::WordGap);
            behind_comma = false;
        } else {
            beside(p, token);
        }
    }
}

/// So many columns are a short declaration.
const SHORT: usize = 50;

/// Whether a declaration is so short that nobody breaks it, and holds no texts that are rows.
fn is_short(p: &Planner, node: NodeId) -> bool {
    let tokens = || (p.first(node)..p.end(node)).map(|token| p.token_text(token));
    let is_row = |text: &str| text.starts_with(['"', '\'', '[']) || text.contains('\n');
    let width: usize = tokens().map(|text| text.len() + 1).sum();
    width <= SHORT
        && !tokens().any(is_row)
        && !p.token_text(p.first(node)).starts_with("grid")
}

/// The gap between two values: what touches is one (`12px/1.5`), whatever a grammar makes of it.
fn beside(p: &mut Planner, token: TokenId) {
    let text = p.token_text(token);
    let closed = token.checked_sub(1).is_some_and(|before| p.token_text(before).ends_with(')'));
    // Behind a parenthesis a word, or a number, is another one, whether it touches that or not.
    let begins = |c: char| c.is_alphanumeric() || matches!(c, '$' | '@' | '"' | '\'' | '!' | '.');
    let is_apart = text.starts_with('!') || (closed && text.starts_with(begins));
    let touches = p.gap_text(token).is_empty() && !is_apart;
    p.word(token, u8::from(!touches));
}

/// What stands on its own line a step further in, or on the line before, as it does. What closes behind a
/// comment is no row.
fn row(p: &mut Planner, group: GroupId, token: TokenId) {
    if p.broken_before(token) {
        let level = u8::from(!p.token_text(token).starts_with(')'));
        p.newline(token, group, level, Setting::WordGap);
    } else if p.token_text(token) == "," {
        p.word(token, 0);
    } else {
        beside(p, token);
    }
}

/// `(0, 12px)`; what stands in `url(…)` is one text.
fn arguments(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let name = p.first(node).checked_sub(1).map(|token| p.token_text(token));
    if name.is_some_and(|name| name.eq_ignore_ascii_case("url")) {
        return parts.iter().skip(1).for_each(|part| p.keep_gap(p.first(*part)));
    }
    let holds_lines = holds_lines(p, node);
    let is_open = holds_lines || p.choices.remembers && p.is_spread(node);
    let is_word = p.end(node) <= p.first(node) + 3;
    let group = (is_open || !is_word && may_open(p, node)).then(|| {
        let group = p.group(Shape::List, p.first(node), p.end(node));
        let align = if p.choices.remembers { Align::Any } else { Align::Step };
        let rows = if holds_lines { Rows::Any } else { Rows::Loose };
        let own = p.group_mut(group);
        (own.bracketed, own.rows, own.align) = (true, rows, align);
        if holds_lines {
            p.force(group);
        }
        group
    });
    if group.is_none() {
        p.set_context(node, IN_FLAT);
    }
    for (index, part) in parts.iter().enumerate().skip(1) {
        let (token, before) = (p.first(*part), parts[index - 1]);
        let blanks = match (p.is_separator(before), is_inside(p, before, *part)) {
            _ if p.is_separator(*part) => None,
            (true, _) => Some(1),
            (false, true) => Some(0),
            (false, false) => {
                beside(p, token);
                continue;
            }
        };
        match (group, blanks) {
            (Some(group), Some(blanks)) => {
                let level = u8::from(!p.is(*part, Kind::CloseParen));
                p.may_break(token, group, level, blanks, Setting::WordGap);
            }
            _ => p.word(token, blanks.unwrap_or(0)),
        }
    }
}

/// Whether somebody has opened arguments around selectors, or around a sum on several lines, which stay there.
fn holds_lines(p: &Planner, node: NodeId) -> bool {
    let Some(first) = p.inside(node).filter(|first| p.broken_before(*first)) else { return false };
    let is_mark = |token: TokenId, marks: &[&str]| marks.contains(&p.token_text(token));
    let goes_on = |token: TokenId| {
        p.broken_before(token) && !is_mark(token, &[")"]) && !is_mark(token - 1, &[",", "("])
    };
    p.is(p.parent(node), Kind::PseudoClassSelector)
        || (first + 1..p.end(node) - 1).any(goes_on)
}

/// `(12px + 1em)`; a sum that somebody opened the parentheses around stays there.
fn parenthesized(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, inner, .., closer] = parts else { return p.tight(parts) };
    let (first, closer) = (p.first(*inner), p.first(*closer));
    if !p.broken_before(first) || !p.broken_before(closer) {
        return p.tight(parts);
    }
    let group = p.group(Shape::Block, p.first(node), p.end(node));
    p.newline(first, group, 1, Setting::WordGap);
    p.newline(closer, group, 0, Setting::WordGap);
}

/// Whether arguments may be spread over lines for want of room: those of a call that is all of a value, or all
/// that stands between two commas, and of a rule.
fn may_open(p: &Planner, node: NodeId) -> bool {
    let call = p.parent(node);
    if p.context(node) == IN_FLAT {
        return false;
    }
    match Kind::at(p, call) {
        Kind::PseudoClassSelector | Kind::PseudoElementSelector => return false,
        Kind::CallExpression => {}
        _ => return true,
    }
    let before = p.first(call).checked_sub(1).map(|before| p.token_text(before));
    let after = p.tree.tokens.get(p.end(call) as usize).map(|_| p.token_text(p.end(call)));
    let begins = before.is_some_and(|before| [":", ",", "("].contains(&before));
    let is_last = after.is_none_or(|after| {
        [",", ")", ";", "{", "}"].contains(&after) || after.starts_with('!')
    });
    is_last && (begins || p.is(p.parent(call), Kind::AtRule))
}

/// `[full-start main]`
fn grid_value(p: &mut Planner, parts: &[NodeId]) {
    for (index, part) in parts.iter().enumerate().skip(1) {
        let is_inside = index == 1 || index + 1 == parts.len() || p.is_separator(*part);
        p.word(p.first(*part), if is_inside { 0 } else { 1 });
    }
}

/// `(min-width: 40em)`
fn feature_query(p: &mut Planner, parts: &[NodeId]) {
    for (index, part) in parts.iter().enumerate().skip(1) {
        let token = p.first(*part);
        if p.is(*part, Kind::Colon) {
            p.before_pair_sign(token, Key::Value);
        } else if p.is(parts[index - 1], Kind::Colon) {
            p.after_pair_sign(token, Key::Value);
        } else {
            p.word(token, if is_inside(p, parts[index - 1], *part) { 0 } else { 1 });
        }
    }
}

/// `100% - 2em`: a sign that adds has a blank on each side; another one stands as it does.
fn binary_expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, sign, value] = parts else { return };
    for part in [sign, value] {
        match is_sum(p.tree, *sign) {
            true => apart(p, node, p.first(*part), 1),
            false => p.keep_gap(p.first(*part)),
        }
    }
}

fn is_sum(tree: &Tree, sign: NodeId) -> bool {
    matches!(Kind::of(tree.nodes[sign as usize].kind), Kind::Plus | Kind::Minus)
}

/// Before which tokens white space shows: a sum is none where it is missing on one side of its sign, and
/// `not(` is the name of a function.
pub(super) fn shows(tree: &Tree, text: &str) -> Vec<bool> {
    let mut shows = Vec::new();
    let mut show = |token: TokenId| {
        shows.resize(tree.tokens.len(), false);
        shows[token as usize] = true;
    };
    for (id, node) in tree.nodes.iter().enumerate() {
        let mut parts = tree.children(id as NodeId).skip(1);
        match Kind::of(node.kind) {
            Kind::BinaryExpression => {
                if let (Some(sign), Some(value)) = (parts.next(), parts.next())
                    && is_sum(tree, sign)
                {
                    for part in [sign, value] {
                        show(tree.nodes[part as usize].first);
                    }
                }
            }
            Kind::UnaryQuery | Kind::BinaryQuery => {
                let firsts = parts.map(|part| tree.nodes[part as usize].first);
                firsts.filter(|token| may_be_called(tree, text, *token)).for_each(&mut show);
            }
            _ => {}
        }
    }
    shows
}

/// Whether a token is a parenthesis behind a word, which is a function's name where it touches that.
fn may_be_called(tree: &Tree, text: &str, token: TokenId) -> bool {
    let Some(before) = token.checked_sub(1) else { return false };
    let word = &text[..tree.tokens[before as usize].end as usize];
    text[tree.tokens[token as usize].start as usize..].starts_with('(')
        && word.ends_with(|last: char| last.is_alphanumeric())
}
