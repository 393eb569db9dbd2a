//! Texts that are filled: as many words on a line as there is room for, where the canon asks for
//! that. The words of a paragraph and of the elements in its sentences are filled together.

use super::elements::{self, Display};
use super::layout::{Kind, lines_of_actions};
use super::templates;
use crate::layout::plan::{Counts, GroupId, Shape};
use crate::layout::planner::Planner;
use crate::layout::vocabulary::Handed;
use crate::style::Setting;
use crate::syntax::{NodeId, TokenId};

/// Fills the paragraphs among the children of a node. Lines that follow a paragraph's first one are
/// as far in as that, or `level` steps where it begins behind a tag.
pub(super) fn fill(p: &mut Planner, children: &[NodeId], level: u8) {
    if !p.choices.fills_text {
        return;
    }
    let mut rest = children;
    while let Some(first) = rest.iter().position(|child| is_filled(p, *child, DEEPEST)) {
        rest = &rest[first..];
        let length = (1..rest.len()).find(|at| ends(p, rest[at - 1], rest[*at]));
        let (own, behind) = rest.split_at(length.unwrap_or(rest.len()));
        paragraphs(p, own, level);
        rest = behind;
    }
}

/// Whether a paragraph ends before a part that follows another one.
fn ends(p: &Planner, before: NodeId, part: NodeId) -> bool {
    !is_filled(p, part, DEEPEST) || p.first(part) != p.end(before)
}

/// So many elements inside one another are part of a paragraph; nobody writes more.
const DEEPEST: usize = 32;

/// Whether all of a part may be filled: a text, or an element in a line of text, with at most so
/// many inside one another.
fn is_filled(p: &Planner, node: NodeId, deepest: usize) -> bool {
    match Kind::at(p, node) {
        Kind::Text => !p.tree.nodes[node as usize].fault && lines_of_actions(p, node).is_empty(),
        Kind::Entity => true,
        Kind::Element => match elements::display(p.tree, node) {
            Display::Inline if deepest > 0 => {
                let parts = p.parts(node);
                let has_all = parts.last().is_some_and(|last| p.is(*last, Kind::EndTag))
                    || parts.len() == 1;
                let follow = |pair: &[NodeId]| p.first(pair[1]) == p.end(pair[0]);
                has_all
                    && parts.windows(2).all(follow)
                    && parts.iter().all(|part| {
                        is_tag(p, *part) || is_filled(p, *part, deepest - 1)
                    })
                    && !elements::leaves_open(p.tree, p.text, node)
            }
            Display::Word => is_short(p, node),
            _ => false,
        },
        _ => false,
    }
}

/// Whether an element that is drawn as one word may be a word of a paragraph: not where it stands open, and
/// not where it holds something and is so long that it may have to open.
fn is_short(p: &Planner, node: NodeId) -> bool {
    let holds = p.parts(node).len() > 1;
    let is_open = p.choices.remembers && p.is_spread(node);
    !is_open && !(holds && p.takes_half_a_line(p.first(node)..p.end(node)))
}

fn is_tag(p: &Planner, node: NodeId) -> bool {
    matches!(Kind::at(p, node), Kind::StartTag | Kind::SelfClosingTag | Kind::EndTag)
}

/// Fills parts that follow one another, from one blank line or control word to the next.
fn paragraphs(p: &mut Planner, parts: &[NodeId], level: u8) {
    let tokens: Vec<TokenId> = parts.iter().flat_map(|part| words(p, *part)).collect();
    let mut start = 0;
    for at in 1..=tokens.len() {
        if at < tokens.len() && !stands_apart(p, tokens[at - 1], tokens[at]) {
            continue;
        }
        let end = match tokens.get(at) {
            Some(next) => *next,
            None => parts.last().map_or(0, |last| p.end(*last)),
        };
        paragraph(p, &tokens[start..at], end, level);
        start = at;
    }
    for part in parts {
        link(p, *part);
    }
}

/// Whether two words are of two paragraphs: with a blank line between them, or where one of them is
/// a control word that does not touch the other.
fn stands_apart(p: &Planner, before: TokenId, token: TokenId) -> bool {
    let is_control = |token: TokenId| templates::control(p.token_text(token)).is_some();
    let gap = p.gap_text(token);
    let breaks = gap.bytes().filter(|byte| *byte == b'\n').count();
    breaks > 1 || (!gap.is_empty() && (is_control(before) || is_control(token)))
}

/// The tokens in a part that a line may begin with.
fn words(p: &Planner, node: NodeId) -> Vec<TokenId> {
    match Kind::at(p, node) {
        Kind::Text => (p.first(node)..p.end(node)).collect(),
        Kind::Element if elements::display(p.tree, node) == Display::Inline => {
            p.parts(node).into_iter().flat_map(|part| words(p, part)).collect()
        }
        _ => vec![p.first(node)],
    }
}

/// Fills words up to a token: a line may end where white space shows.
fn paragraph(p: &mut Planner, words: &[TokenId], end: TokenId, level: u8) {
    let Some(first) = words.first() else { return };
    let mut group: Option<GroupId> = None;
    for token in &words[1..] {
        if p.gap_text(*token).is_empty() {
            p.word(*token, 0);
            continue;
        }
        let group = *group.get_or_insert_with(|| {
            let group = p.group(Shape::Chain, *first, end);
            let own = p.group_mut(group);
            own.counts = Counts::Leading(0);
            own.flows = true;
            group
        });
        p.may_break(*token, group, level, 1, Setting::WordGap);
        p.gap(*token).inside = true;
        p.gap(*token).breaks = Setting::TextFill;
    }
}

/// The elements of a paragraph have been planned with it.
fn link(p: &mut Planner, node: NodeId) {
    if p.is(node, Kind::Element) && elements::display(p.tree, node) == Display::Inline {
        p.hand(node, Handed::Link);
        for part in p.parts(node) {
            link(p, part);
        }
    }
}
