//! Markup inside expressions, in the grammar's order.
//!
//! Between two pieces of markup a gap with a line break in it means nothing, and one of blanks
//! alone is text that is shown. The first may be laid out, the second stays.

use super::kinds::Kind;
use crate::layout::plan::{Around, Opens, Shape, Slight};
use crate::layout::planner::Planner;
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, Role, TokenId};
use std::ops::Range;

/// The rule for markup; says whether `kind` is some.
pub(super) fn rule(p: &mut Planner, node: NodeId, kind: Kind, parts: &[NodeId]) -> bool {
    match kind {
        Kind::JsxElement => element(p, node, parts),
        Kind::JsxOpeningElement | Kind::JsxSelfClosingElement => tag(p, node, parts, kind),
        Kind::JsxAttribute => attribute(p, parts),
        Kind::JsxExpression => expression(p, node, parts),
        _ => return false,
    }
    true
}

fn is_text(p: &Planner, node: NodeId) -> bool {
    matches!(Kind::at(p, node), Kind::JsxText | Kind::HtmlCharacterReference)
}

/// The context of markup in the middle of a sentence.
const IN_SENTENCE: u8 = 1;

/// Whether text goes on before or behind a node on its line, or around what it is in, so that a
/// line break inside it would tear the sentence apart.
fn in_sentence(p: &Planner, node: NodeId) -> bool {
    let is_text = |token: Option<TokenId>| {
        let token = token.and_then(|token| p.tree.tokens.get(token as usize));
        token.is_some_and(|token| token.role == Role::Text)
    };
    let (first, end) = (p.first(node), p.end(node));
    p.context(node) == IN_SENTENCE
        || (is_text(first.checked_sub(1)) && !p.broken_before(first))
        || (is_text(Some(end)) && !p.broken_before(end))
}

/// `<p>ebb at {time}</p>`: its children each on their line, or all of it on one.
fn element(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, children @ .., closing] = parts else { return };
    let close = p.first(*closing);
    if children.is_empty() {
        if p.broken_before(close) || p.gap_text(close).is_empty() {
            p.word(close, 0);
        }
        return;
    }
    let group = p.group(Shape::List, p.first(node), p.end(node));
    let own = p.group_mut(group);
    // The lines of a text are no elements of a row.
    (own.around, own.one_each) = (Around::OneLine, true);
    let stays = in_sentence(p, node);
    if stays {
        p.by_hand(group);
    }
    p.set_context(node, if stays { IN_SENTENCE } else { 0 });
    let mut spread = false;
    let mut forced = false;
    // The gaps that may be broken, each with whether it is inside the element, and beside a text, or
    // beside something over several lines.
    let mut gaps: Vec<(TokenId, bool, bool, bool)> = Vec::new();
    let (mut before_is_text, mut before_takes_lines) = (false, false);
    for (index, child) in children.iter().enumerate() {
        let text = is_text(p, *child);
        let inner = index > 0;
        let takes_lines = p.takes_lines(p.first(*child) + 1, p.end(*child));
        gaps.push((
            p.first(*child),
            inner,
            before_is_text || text,
            before_takes_lines || takes_lines,
        ));
        for token in p.first(*child) + 1..p.end(*child) {
            if text {
                gaps.push((token, true, true, false));
            }
        }
        (before_is_text, before_takes_lines) = (text, takes_lines);
    }
    for (token, inner, beside_text, _) in &gaps {
        let broken = p.broken_before(*token);
        spread |= broken;
        forced |= broken && *inner && *beside_text;
    }
    spread |= p.broken_before(close);
    forced |= p.choices.remembers && spread;
    let shown = |p: &Planner, token: TokenId| {
        let text = p.gap_text(token);
        !text.is_empty() && !text.contains('\n')
    };
    let edges_shown = shown(p, gaps[0].0) || shown(p, close);
    for (token, inner, beside_text, beside_lines) in gaps {
        let broken = p.broken_before(token);
        let keeps = spread && p.choices.remembers && !beside_lines;
        let holds = match inner {
            true => !broken && (beside_text || keeps),
            false => edges_shown && !broken,
        };
        if shown(p, token) {
            // Part of the text that is shown.
        } else if holds {
            p.word(token, 0);
        } else {
            p.may_break(token, group, 1, 0, Setting::WordGap);
        }
    }
    p.at_most(p.first(children[0]), p.choices.edge_blank);
    if shown(p, close) {
        // Part of the text that is shown.
    } else if edges_shown && !p.broken_before(close) {
        p.word(close, 0);
    } else {
        p.may_break(close, group, 0, 0, Setting::WordGap);
        p.at_most(close, p.choices.edge_blank);
    }
    if forced {
        p.force(group);
    } else if children.iter().any(|child| is_text(p, *child)) {
        let own = p.group_mut(group);
        own.opens = if stays { Opens::ByHand } else { Opens::ForOneLine };
    }
}

/// `<Chart gauge={gauge} quiet>`: its attributes one a line once they do not fit.
fn tag(p: &mut Planner, node: NodeId, parts: &[NodeId], kind: Kind) {
    let Some(first) = parts.iter().position(|part| {
        matches!(Kind::at(p, *part), Kind::JsxAttribute | Kind::JsxExpression)
    }) else {
        match (kind, parts) {
            // Without a name, the two marks would be another one side by side.
            (Kind::JsxSelfClosingElement, [_, end]) => p.keep_gap(p.first(*end)),
            (Kind::JsxSelfClosingElement, [.., end]) => {
                p.tight(parts);
                p.inside_bracket(p.first(*end), p.choices.tag_end_gap);
            }
            _ => p.tight(parts),
        }
        return;
    };
    p.tight(&parts[..first]);
    let (attributes, end) = parts[first..].split_at(parts.len() - first - 1);
    let Some(end) = end.first().filter(|_| !attributes.is_empty()) else { return };
    let end = p.first(*end);
    let tag_end = p.end(parts[parts.len() - 1]);
    let group = p.group(Shape::List, p.first(parts[0]), tag_end);
    let only = attributes.len() == 1;
    let alone = kind == Kind::JsxSelfClosingElement;
    let mut stays = p.context(node) == IN_SENTENCE || (alone && in_sentence(p, node));
    if only {
        let stand_in = stand_in(p, attributes[0]);
        let own = p.group_mut(group);
        (own.stand_in, own.slight) = (stand_in, Slight::Half);
        stays |= has_plain_value(p, attributes[0]);
    } else {
        p.group_mut(group).around = Around::OneLine;
    }
    if stays {
        p.by_hand(group);
    }
    p.lines_up(group, p.first(attributes[0]), Key::Attribute);
    for attribute in attributes {
        p.may_break(p.first(*attribute), group, 1, 1, Setting::WordGap);
        p.at_most(p.first(*attribute), 0);
    }
    let blanks = match kind {
        Kind::JsxSelfClosingElement => p.chosen(end, p.choices.tag_end_gap),
        _ => 0,
    };
    if p.tag_ends_apart(end) || p.after_comment(end) {
        p.may_break(end, group, 0, blanks, Setting::TagEnd);
        p.gap(end).breaks = Setting::TagEnd;
        p.at_most(end, 0);
    } else {
        p.flat(end, blanks, Setting::TagEnd);
    }
    for token in end + 1..tag_end {
        p.word(token, 0);
    }
}

/// Whether an attribute's value is a string, which no line break makes shorter.
fn has_plain_value(p: &Planner, attribute: NodeId) -> bool {
    p.parts(attribute).last().is_some_and(|value| p.is(*value, Kind::String))
}

/// The first gap inside an element or a tag that may be broken.
pub(super) fn opening(p: &Planner, node: NodeId) -> Option<TokenId> {
    let parts = p.parts(node);
    let tag = match Kind::at(p, node) {
        Kind::JsxElement => p.parts(*parts.first()?),
        _ => parts.clone(),
    };
    let attribute = |part: &&NodeId| {
        matches!(Kind::at(p, **part), Kind::JsxAttribute | Kind::JsxExpression)
    };
    let first = tag.iter().find(attribute).or(parts.get(1).filter(|_| tag != parts));
    first.map(|part| p.first(*part))
}

/// Where an only attribute's value may be broken in place of the tag.
fn stand_in(p: &Planner, attribute: NodeId) -> Option<TokenId> {
    let value = match p.parts(attribute)[..] {
        [_, _, value] if p.is(attribute, Kind::JsxAttribute) => value,
        _ => attribute,
    };
    match p.parts(value)[..] {
        [_, inner, _] if p.is(value, Kind::JsxExpression) => {
            super::expressions::stand_in(p, inner, true)
        }
        _ => None,
    }
}

/// `unit="m"`, `level={level}`
fn attribute(p: &mut Planner, parts: &[NodeId]) {
    p.tight(parts);
    let [name, _, value] = parts else { return };
    if p.is(*value, Kind::String) {
        p.quotes(p.first(*value), 0, Setting::MarkupQuotes);
    }
    if matches!(p.token_text(p.first(*name)), "class" | "className") {
        words(p, *value);
    }
}

/// `"wide quiet"`, or the plain words of ``{`wide ${quiet}`}``: in the agreed order.
fn words(p: &mut Planner, value: NodeId) {
    let inner = match p.parts(value)[..] {
        [_, inner, _] if p.is(value, Kind::JsxExpression) => inner,
        _ => value,
    };
    match Kind::at(p, inner) {
        Kind::String if inner == value => p.order_words(p.first(value), &[]),
        Kind::TemplateString => {
            let token = p.first(inner);
            let text = p.token_text(token);
            // An escape may be a blank.
            if !text.contains('\\') {
                let held = substitutions(text);
                p.order_words(token, &held);
            }
        }
        _ => {}
    }
}

/// What stands in a template for a value: `${quiet}`. All of the rest where that is not plain to
/// see: in another template, or beside what may be a comment.
fn substitutions(text: &str) -> Vec<Range<usize>> {
    let (mut held, mut at) = (Vec::new(), 0);
    while let Some(next) = text[at..].find("${") {
        let start = at + next;
        at = substitution_end(&text[start..]).map_or(text.len(), |end| start + end);
        held.push(start..at);
    }
    held
}

/// Where a value ends that a text begins with.
fn substitution_end(text: &str) -> Option<usize> {
    let (mut depth, mut quote) = (0usize, None);
    for (at, byte) in text.bytes().enumerate().skip(1) {
        match byte {
            b'\\' | b'`' => return None,
            _ if quote.is_some() => quote = quote.filter(|own| *own != byte),
            b'\'' | b'"' => quote = Some(byte),
            b'/' => return None,
            b'{' => depth += 1,
            b'}' if depth == 1 => return Some(at + 1),
            b'}' => depth -= 1,
            _ => {}
        }
    }
    None
}

/// `{ level }`; broken inside its braces where nothing inside it can be broken instead.
fn expression(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let gap = p.choices.markup_gap;
    let [opener, inner, closer] = parts else {
        if let [_, closer] = parts {
            let tokens = p.end(node) - p.first(node);
            p.inside_bracket(p.first(*closer), if tokens > 2 { gap } else { Some(0) });
        }
        return;
    };
    let group = p.enclosed(Shape::Chain, [*opener, *inner, *closer], gap, Key::Condition);
    p.group_mut(group).stand_in = super::expressions::stand_in(p, *inner, true);
    p.group_mut(group).closes = super::expressions::brings_brackets(p, *inner);
    super::expressions::ends_below_value(p, group, *inner);
    if in_sentence(p, node) {
        p.by_hand(group);
    }
    p.set_context(node, 0);
}
