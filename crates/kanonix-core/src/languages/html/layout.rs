//! How pages are laid out: tags, attributes, and what stands in elements.

use super::controls;
use super::elements::{self, Display};
use super::habits::{Habits, is_further, usual_step};
use super::paragraphs;
use super::templates;
use crate::languages::kinds::kinds;
use crate::layout::plan::{Around, GroupId, MOST_STEPS, Rows, Shape, Slight};
use crate::layout::planner::Planner;
use crate::style::{Key, Setting};
use crate::syntax::{NodeId, Role, TokenId};

kinds! {
    statements { Document, Element }
    atoms { QuotedAttributeValue, RawText, Doctype }
    comments { Comment }
    texts { Text }
    tight { EndTag, ErroneousEndTag }
    plain { Entity, AttributeValue, AttributeName }
    ruled {
        ScriptElement, StyleElement, StartTag, SelfClosingTag, Attribute,
    }
    marks { SelfEnd = "/>" }
}

/// The rule for a node: a function a construct, named after it.
pub(super) fn rule(p: &mut Planner, node: NodeId, parts: &[NodeId]) -> bool {
    match Kind::at(p, node) {
        Kind::Document => document(p, node, parts),
        Kind::Element => element(p, node, parts),
        Kind::ScriptElement | Kind::StyleElement => raw_element(p, node, parts),
        Kind::StartTag | Kind::SelfClosingTag => tag(p, node, parts),
        Kind::Attribute => attribute(p, node, parts),
        Kind::QuotedAttributeValue => quoted(p, node),
        Kind::RawText | Kind::Doctype => {}
        _ => return false,
    }
    true
}

/// A place in an element, or in a page, where a line may end.
#[derive(Default)]
pub(super) struct Place {
    pub(super) token: TokenId,
    /// Whether it stands beside a part that has lines of its own.
    pub(super) beside_block: bool,
    /// Whether both of its neighbours are such parts, each on one line.
    pub(super) in_row: bool,
    /// Whether it stays as it stands where no line begins there.
    pub(super) stays: bool,
    /// Whether white space there is part of what stands before it: nothing has ended that.
    pub(super) goes_on: bool,
    /// The end tag of what follows, if that begins a line, too.
    pub(super) end_line: Option<TokenId>,
    /// Of a line that goes on with a text: what begins on the line that the text begins on, and how many
    /// steps further in than that it is.
    pub(super) hangs: Option<(TokenId, u8)>,
}

fn display(p: &Planner, node: NodeId) -> Display {
    elements::display(p.tree, node)
}

/// Whether white space before a token shows.
fn shows(p: &Planner, token: TokenId) -> bool {
    p.choices.everywhere || p.tree.shows(token)
}

/// The places before each of these children, those between the lines of a text, and the one before
/// what closes them.
fn places(
    p: &mut Planner,
    around: NodeId,
    children: &[NodeId],
    closing: Option<TokenId>,
) -> Vec<Place> {
    let mut places = Vec::with_capacity(children.len() + 1);
    // What stands before, with how it is drawn.
    let mut before: Option<(NodeId, Display)> = None;
    let mut goes_on = false;
    for child in children {
        let drawn = match p.choices.everywhere {
            true => Display::Inline,
            false => display(p, *child),
        };
        let is_before = |display| before.is_some_and(|(_, before)| before == display);
        let (own, beside) = (drawn == Display::Block, is_before(Display::Block));
        let is_flat = |node: NodeId| !p.is_spread(node);
        let keeps_rows = p.choices.remembers;
        let in_row = keeps_rows
            && own
            && beside
            && is_flat(*child)
            && before.is_some_and(|(before, _)| is_flat(before));
        let ends_line = drawn == Display::Break;
        // `<hr><br>`: the space behind a block is part of it.
        let is_behind = keeps_rows && ends_line;
        let beside_control = stands_beside_control(p, p.first(*child));
        let place = Place {
            token: p.first(*child),
            beside_block: (own || beside) && !goes_on && !is_behind && !beside_control,
            stays: in_row
                || goes_on
                || beside_control
                || ends_line
                || is_before(Display::Break),
            in_row,
            goes_on,
            end_line: end_line(p, *child),
            ..Place::default()
        };
        places.push(place);
        if p.is(*child, Kind::Text) {
            let inside = lines_of_actions(p, *child);
            places.extend((p.first(*child) + 1..p.end(*child)).map(|token| {
                let goes_on = goes_on || inside.contains(&token);
                Place { token, stays: goes_on, goes_on, ..Place::default() }
            }));
        }
        if goes_on {
            p.fix(*child);
        }
        goes_on |= elements::leaves_open(p.tree, p.text, *child);
        before = Some((*child, drawn));
    }
    end_chance_rows(p, &mut places);
    if p.choices.page_indents.of(Key::Text).is_none() {
        hang(p, around, &mut places);
    }
    if let Some(token) = closing {
        let mut beside_block =
            !goes_on && before.is_some_and(|(_, before)| before == Display::Block);
        if let ([child], [place, ..]) = (children, &mut places[..])
            && !elements::is_holder(p.tree, around)
            && hugs(p, *child, token)
        {
            (place.beside_block, beside_block) = (false, false);
        }
        places.push(Place { token, beside_block, stays: goes_on, goes_on, ..Place::default() });
    }
    places
}

/// Whether somebody put a token on the line of a control word before it, or that word behind what stands
/// there: `{% if ebb %}<p>Ebb</p>{% endif %}`.
fn stands_beside_control(p: &Planner, token: TokenId) -> bool {
    let Some(before) = token.checked_sub(1).filter(|_| !p.broken_before(token)) else {
        return false;
    };
    let (before, behind) = (p.token_text(before), p.token_text(token));
    let is_control = |action: &str| templates::control(action).is_some();
    let last = || templates::actions(before).pop().filter(|action| action.end == before.len());
    before.ends_with('}') && last().is_some_and(|action| is_control(&before[action]))
        || templates::action(behind).is_some_and(|length| is_control(&behind[..length]))
}

/// Whether an element of several lines is all that another one holds, and somebody put the tags of both
/// beside each other: `<div><pre>`. Lists and tables have their parts on lines of their own.
fn hugs(p: &Planner, child: NodeId, closing: TokenId) -> bool {
    p.choices.remembers
        && p.is_spread(child)
        && !p.broken_before(p.first(child))
        && !p.broken_before(closing)
}

/// Says of the lines that go on with a text how far in from its first one they are.
fn hang(p: &Planner, around: NodeId, places: &mut [Place]) {
    let mut begins = p.first(around);
    let outside = p.line_columns(begins);
    let mut begun = outside;
    let mut behind_tag = true;
    let mut behind_control = false;
    let canon = p.choices.step.max(1);
    let own = usual_step(p, around).unwrap_or(canon);
    for (index, place) in places.iter_mut().enumerate() {
        if !p.broken_before(place.token) || place.goes_on {
            continue;
        }
        let breaks = || p.gap_text(place.token).bytes().filter(|byte| *byte == b'\n').count();
        let is_control = controls::control_at(p, place.token).is_some();
        let is_behind = std::mem::replace(&mut behind_control, is_control);
        let is_apart = is_control || is_behind || breaks() > 1;
        if index == 0 || place.beside_block || is_apart {
            (begins, behind_tag) = (place.token, false);
            // Less far in than its element nothing begins that hangs on purpose.
            begun = p.line_columns(begins).max(outside);
            continue;
        }
        let further = p.line_columns(place.token).saturating_sub(begun);
        let is_meant = |step: &usize| further.is_multiple_of(*step) && further <= MOST_STEPS * step;
        let step = [own, canon].into_iter().find(is_meant);
        let steps = step.map_or(0, |step| (further / step) as u8);
        place.hangs = (steps > 0 || !behind_tag).then_some((begins, steps));
    }
}

/// A line that goes on with a text stands by the one that this begins on, wherever that is.
fn hanging_line(p: &mut Planner, place: &Place) -> bool {
    let Some((begins, steps)) = place.hangs else { return false };
    let text = p.group(Shape::Block, begins, place.token);
    match steps {
        0 => p.line_beside(place.token, text, Setting::WordGap),
        _ => {
            p.line(place.token, text, steps, Setting::WordGap);
            p.group_mut(text).like = Some(place.token);
        }
    }
    true
}

/// What shares a line where most others have one each does so by chance.
fn end_chance_rows(p: &Planner, places: &mut [Place]) {
    let joins = |place: &&Place| place.in_row && !p.broken_before(place.token);
    let begins = |place: &&Place| place.beside_block && p.broken_before(place.token);
    if places.iter().filter(joins).count() < places.iter().filter(begins).count() {
        for place in places.iter_mut().filter(|place| place.in_row) {
            (place.in_row, place.stays) = (false, false);
        }
    }
}

/// The end tag of an element, if that begins a line.
fn end_line(p: &Planner, node: NodeId) -> Option<TokenId> {
    let last = p.tree.children(node).last().filter(|last| p.is(*last, Kind::EndTag))?;
    Some(p.first(last)).filter(|tag| p.broken_before(*tag))
}

/// The lines of a text that go on with an action.
pub(super) fn lines_of_actions(p: &Planner, node: NodeId) -> Vec<TokenId> {
    let tokens = p.first(node)..p.end(node);
    let byte = |token: TokenId| p.tree.tokens[token as usize].start as usize;
    let (start, end) = (byte(tokens.start), p.tree.tokens[tokens.end as usize - 1].end as usize);
    let text = &p.text[start..end];
    if tokens.len() < 2 || !templates::may_hold(text) {
        return Vec::new();
    }
    let actions = templates::actions(text);
    let goes_on = |token: &TokenId| {
        let at = byte(*token) - start;
        actions.iter().any(|action| action.start < at && at < action.end)
    };
    tokens.filter(goes_on).collect()
}

fn document(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    Habits::of(p).leave(p, node);
    controls::fix_torn(p);
    let places = places(p, node, parts, None);
    paragraphs::fill(p, parts, 0);
    let levels = controls::levels(p, node, &places);
    for (index, place) in places.into_iter().enumerate() {
        if p.flows(place.token) {
            continue;
        }
        if place.token != 0 && !begins_line(p, &place) {
            stays(p, &place);
        } else if !hanging_line(p, &place) {
            match &levels {
                Some(levels) => {
                    p.line(place.token, GroupId::ROOT, levels[index], line_setting(p, &place));
                }
                None => p.keep_gap(place.token),
            }
        }
    }
    if parts.last().is_some_and(|last| elements::leaves_open(p.tree, p.text, *last)) {
        p.keep_end();
    }
}

/// Whether a line begins at a place of something that has several: where one does, and around what
/// has lines of its own, unless that stands in a row with others.
pub(super) fn begins_line(p: &Planner, place: &Place) -> bool {
    (p.broken_before(place.token) && !place.goes_on)
        || (place.beside_block
            && !place.in_row
            && !p.choices.keeps_elements
            && !shows(p, place.token))
}

/// Which setting asks for the line that begins at a place.
fn line_setting(p: &Planner, place: &Place) -> Setting {
    match place.beside_block && !p.broken_before(place.token) {
        true => Setting::ElementLine,
        false => Setting::WordGap,
    }
}

/// What stands on the line before stays there: with a blank or without where that shows.
fn stays(p: &mut Planner, place: &Place) {
    let token = place.token;
    if place.stays || (place.beside_block && p.choices.keeps_elements) {
        p.keep_gap(token);
    } else {
        let apart = shows(p, token) && !p.gap_text(token).is_empty();
        p.word(token, u8::from(apart));
    }
}

/// `<p>The tide is <b>high</b>.</p>`
fn element(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    if p.is_link(node) {
        return;
    }
    let Some((start, children)) = parts.split_first() else { return };
    let (closing, children) = match children.split_last() {
        Some((last, rest)) if p.is(*last, Kind::EndTag) => (Some(p.first(*last)), rest),
        _ => (None, children),
    };
    let places = places(p, node, children, closing);
    if p.choices.fills_text {
        let level = depth(p, node, &places);
        paragraphs::fill(p, children, level);
    }
    if is_spread(p, &places) {
        return spread(p, node, *start, &places, closing);
    }
    let stays_flat = |p: &Planner, place: &Place| shows(p, place.token);
    let (first, end) = (p.first(node), p.end(node));
    let keeps = p.choices.keeps_elements;
    let holds_blocks = !keeps && places.iter().any(|place| place.beside_block);
    let may_open = closing.is_some()
        && !children.is_empty()
        && places.first().is_some_and(|first| !stays_flat(p, first));
    let group = may_open.then(|| p.group(Shape::List, first, end));
    if let Some(group) = group {
        let own = p.group_mut(group);
        own.around = if holds_blocks { Around::OneLine } else { Around::Lists };
        own.stem = first;
        own.one_each = true;
        // Text alone is hardly shorter for standing between its tags.
        if !holds_blocks && (p.choices.remembers || keeps) {
            p.by_hand(group);
        }
    }
    let edges = [places.first(), places.last()].map(|place| place.map(|place| place.token));
    let inner = group.map_or(0, |_| depth(p, node, &places));
    for place in &places {
        if p.flows(place.token) {
            continue;
        }
        let is_edge = edges.contains(&Some(place.token));
        match group {
            Some(group)
                if !stays_flat(p, place)
                    && !place.goes_on
                    && (is_edge || place.beside_block) =>
            {
                let is_closing = Some(place.token) == closing;
                let blanks = u8::from(!is_edge && !p.gap_text(place.token).is_empty());
                let level = if is_closing { 0 } else { inner };
                p.may_break(place.token, group, level, blanks, Setting::WordGap);
                p.gap(place.token).inside = !is_closing;
                if holds_blocks {
                    p.gap(place.token).breaks = Setting::ElementLine;
                }
                if is_edge {
                    p.at_most(place.token, p.choices.edge_blank);
                }
            }
            _ => stays(p, place),
        }
    }
}

/// `<script>warn();</script>`: what stands in it is no markup, and begins right behind its tag.
fn raw_element(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    if let [_, inside, _] = parts {
        p.word(p.first(*inside), 0);
    }
    let Some(closing) = parts.last().map(|last| p.first(*last)) else { return };
    if parts.len() < 2 || !p.broken_before(closing) {
        return p.keep_gap(closing);
    }
    let group = p.group(Shape::Block, p.first(node), p.end(node));
    p.line(closing, group, 0, Setting::WordGap);
    p.at_most(closing, p.choices.edge_blank);
}

/// Whether an element takes several lines. A text alone that somebody put on lines of its own may
/// come back to that of its tags, where the canon asks nobody.
fn is_spread(p: &Planner, places: &[Place]) -> bool {
    let broken = |place: &Place| p.broken_before(place.token) && !p.flows(place.token);
    if p.choices.remembers {
        return places.iter().any(broken);
    }
    let [first, inner @ .., last] = places else { return places.iter().any(broken) };
    let stays = |place: &Place| broken(place) && shows(p, place.token);
    places.iter().any(|place| place.beside_block)
        || inner.iter().any(broken)
        || stays(first)
        || stays(last)
}

/// What somebody laid out over several lines: each of them stays one.
fn spread(
    p: &mut Planner,
    node: NodeId,
    start: NodeId,
    places: &[Place],
    closing: Option<TokenId>,
) {
    let group = p.group(Shape::Block, p.first(node), p.end(node));
    let edge = p.choices.edge_blank;
    let level = if in_sentence(p, start, places, closing) { 0 } else { depth(p, node, places) };
    let Some(levels) = controls::levels(p, node, places) else { return p.fix(node) };
    let end = closing.unwrap_or(p.end(node));
    let is_comment = |token: TokenId| p.tree.tokens[token as usize].role == Role::Comment;
    if level > 0 && (closing.is_none() || is_comment(end - 1)) {
        // The last comments of what it holds are no part of what stands behind them.
        match places.first().filter(|first| first.token < end) {
            Some(first) => p.block_below(p.first(node), first.token, end, group),
            None => p.empty_block(p.first(node), p.end(start) - 1),
        }
    }
    for (index, place) in places.iter().enumerate() {
        if p.flows(place.token) {
            continue;
        }
        let is_closing = Some(place.token) == closing;
        if !begins_line(p, place) && !(is_closing && closes_apart(p, places, place)) {
            stays(p, place);
            continue;
        }
        if hanging_line(p, place) {
            continue;
        }
        let setting = line_setting(p, place);
        match levels.get(index).copied().unwrap_or(0).saturating_add(level) {
            _ if is_closing => p.line(place.token, group, 0, setting),
            0 => p.line_beside(place.token, group, setting),
            level => p.line(place.token, group, level, setting),
        }
        if index == 0 || is_closing {
            p.at_most(place.token, edge);
        }
    }
}

/// Whether the end tag of what somebody opened has a line, although it has none: it holds elements alone,
/// the first of which begins one.
fn closes_apart(p: &Planner, places: &[Place], closing: &Place) -> bool {
    let is_text = |place: &Place| p.tree.tokens[place.token as usize].role == Role::Text;
    places.first().is_some_and(|first| p.broken_before(first.token))
        && places.len() > 1
        && !closing.goes_on
        && !p.choices.keeps_elements
        && !shows(p, closing.token)
        && !places.iter().any(is_text)
}

/// Whether an element goes on with a sentence over a line's end: neither of its tags stands apart.
fn in_sentence(
    p: &Planner,
    start: NodeId,
    places: &[Place],
    closing: Option<TokenId>,
) -> bool {
    let opens = places.first().is_some_and(|first| p.broken_before(first.token));
    let closes = closing.is_none_or(|closing| p.broken_before(closing));
    !opens && !closes && shows(p, places.first().map_or(p.first(start), |first| first.token))
}

/// How many steps further in what an element holds is.
fn depth(p: &Planner, node: NodeId, places: &[Place]) -> u8 {
    let own = p.tree.tokens[p.first(node) as usize].start as usize;
    let is_root = elements::name(&p.text[own..]).eq_ignore_ascii_case("html");
    let is_text = |child: NodeId| matches!(Kind::at(p, child), Kind::Text | Kind::Entity);
    let holds_text = p.tree.children(node).any(is_text);
    let key = match holds_text && !places.iter().any(|place| place.beside_block) {
        _ if is_root => Key::Root,
        true => Key::Text,
        false => Key::Element,
    };
    let closing = p.tree.children(node).last().filter(|last| p.is(*last, Kind::EndTag));
    let closing = closing.map(|tag| p.first(tag));
    let own_line = |place: &Place| Some(place.token).filter(|_| place.hangs.is_none());
    let keep = || {
        // What control words hold may be further in than they are.
        let held = controls::are_held(p, places).into_iter();
        let own = places.iter().zip(held).filter(|(_, held)| !held).map(|(place, _)| place);
        let inner = own.filter(|place| Some(place.token) != closing);
        let lines = inner.flat_map(|place| [own_line(place), place.end_line]).flatten();
        is_further(p, node, key, p.first(node), lines)
    };
    // Tags that a template writes or leaves out stand around what is there anyway.
    let is_optional = stands_beside_control(p, p.first(node))
        && places.first().is_some_and(|first| stands_beside_control(p, first.token));
    let wanted = p.choices.page_indents.of(key).filter(|_| !is_optional);
    u8::from(wanted.unwrap_or_else(keep))
}

/// In the word that a page leaves for its elements: what it is left for is a tag that stays as it
/// stands.
const STAYS: u8 = 1 << 7;

/// Whether an action of a template stands between the attributes of a tag.
fn holds_action(p: &Planner, attributes: &[NodeId]) -> bool {
    let is_word = |token: &TokenId| !p.token_text(*token).starts_with(['"', '\'']);
    attributes.iter().any(|attribute| {
        let tokens = p.first(*attribute)..p.end(*attribute);
        tokens.filter(is_word).any(|token| templates::may_hold(p.token_text(token)))
    })
}

/// Whether a template makes the name of a tag: it is a text to all others.
fn has_made_name(p: &Planner, tag: NodeId) -> bool {
    p.token_text(p.first(tag) + 1).starts_with('{')
}

/// Whether an action of a template takes several lines in a tag.
fn has_spread_action(p: &Planner, node: NodeId) -> bool {
    let [start, end] = [p.first(node), p.end(node) - 1].map(|at| &p.tree.tokens[at as usize]);
    let text = &p.text[start.start as usize..end.end as usize];
    templates::actions(text).into_iter().any(|action| text[action].contains('\n'))
}

/// Whether something right behind a tag's name is a part of that to a browser: `<who@tide.example>`.
fn touches_name(p: &Planner, attributes: &[NodeId]) -> bool {
    attributes.first().is_some_and(|first| p.gap_text(p.first(*first)).is_empty())
}

/// `<a href="/tides" class="quiet">`: its attributes one a line once they do not fit.
fn tag(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    let [_, name, attributes @ .., end] = parts else { return p.tight(parts) };
    if has_made_name(p, node) || holds_action(p, attributes) || touches_name(p, attributes) {
        p.set_context(node, p.context(node) | STAYS);
        let parts = parts.iter().skip(1).map(|part| p.first(*part)).collect::<Vec<TokenId>>();
        if has_spread_action(p, node) {
            return parts.into_iter().for_each(|part| p.keep_gap(part));
        }
        let group = p.group(Shape::Block, p.first(node), p.end(node));
        return parts.into_iter().for_each(|part| p.go_with(part, group));
    }
    p.word(p.first(*name), 0);
    let end_token = p.first(*end);
    let blanks = match p.is(*end, Kind::SelfEnd) {
        // A slash beside a value without quotes would be a part of it.
        true if ends_bare(p, attributes) => 1,
        true => p.chosen(end_token, p.choices.tag_end_gap),
        false => 0,
    };
    if attributes.is_empty() {
        return p.flat(end_token, blanks, Setting::InnerGap);
    }
    let group = p.group(Shape::List, p.first(node), p.end(node));
    let own = p.group_mut(group);
    (own.around, own.slight) = (Around::Lists, Slight::Half);
    let in_line = stands_in_line(p, node);
    // One alone is hardly shorter on a line of its own.
    if p.is_link(p.parent(node)) || in_line || attributes.len() == 1 {
        p.by_hand(group);
    }
    if in_line && p.choices.remembers {
        p.group_mut(group).rows = Rows::Any;
    }
    // In a sentence they go on as that does.
    let first = p.first(attributes[0]);
    if !(in_line && p.broken_before(first)) {
        p.lines_up(group, first, Key::Attribute);
    }
    let level = u8::from(!(in_line && goes_on_as_text(p, node, attributes)));
    for attribute in attributes {
        p.may_break(p.first(*attribute), group, level, 1, Setting::WordGap);
        p.at_most(p.first(*attribute), 0);
    }
    if p.tag_ends_apart(end_token) {
        p.may_break(end_token, group, 0, blanks, Setting::TagEnd);
        p.gap(end_token).breaks = Setting::TagEnd;
        p.at_most(end_token, 0);
    } else {
        p.flat(end_token, blanks, Setting::InnerGap);
        p.gap(end_token).breaks = Setting::TagEnd;
    }
}

/// Whether the last attribute has a value without quotes.
fn ends_bare(p: &Planner, attributes: &[NodeId]) -> bool {
    let last = attributes.last().and_then(|last| p.parts(*last).last().copied());
    last.is_some_and(|value| p.is(value, Kind::AttributeValue))
}

/// Whether a tag stands in the middle of a sentence, or ends with one.
fn stands_in_line(p: &Planner, node: NodeId) -> bool {
    let (first, end) = (p.first(node), p.end(node));
    let goes_on = |token: TokenId| {
        (token as usize) < p.tree.tokens.len() && p.tree.shows(token) && !p.broken_before(token)
    };
    goes_on(first) || goes_on(end)
}

/// Whether somebody laid out a tag as the text that it stands in: its second line is as far in as the one that
/// it begins on.
fn goes_on_as_text(p: &Planner, node: NodeId, attributes: &[NodeId]) -> bool {
    let mut tokens = attributes.iter().map(|attribute| p.first(*attribute));
    let second = tokens.find(|token| p.broken_before(*token));
    p.choices.remembers
        && second.is_some_and(|second| p.line_columns(second) == p.line_columns(p.first(node)))
}

/// `"quiet"`: the words of a `class` are in the agreed order.
fn quoted(p: &mut Planner, node: NodeId) {
    let token = p.first(node);
    if !has_made_name(p, p.parent(p.parent(node))) {
        p.quotes(token, 0, Setting::MarkupQuotes);
    }
    if !p.orders_words() {
        return;
    }
    let name = p.part(p.parent(node), 0).map(|name| p.token_text(p.first(name)));
    if name.is_some_and(|name| name.eq_ignore_ascii_case("class")) {
        let text = p.token_text(token);
        let actions = templates::actions(text);
        let is_outside = |at: usize| !actions.iter().any(|action| action.contains(&at));
        // Those are signs of templates that nobody reads here.
        let mut signs = text.match_indices(['<', '{', '}', '$']);
        if !signs.any(|(at, _)| is_outside(at)) {
            p.order_words(token, &actions);
        }
    }
}

/// `class="quiet"`
fn attribute(p: &mut Planner, node: NodeId, parts: &[NodeId]) {
    if p.context(node) & STAYS == 0 {
        p.tight(parts);
    }
}
