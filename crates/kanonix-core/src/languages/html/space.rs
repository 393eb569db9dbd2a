//! Where white space shows: between words of a text, and between a word and what stands in its
//! line. How much of it there is never does.

use super::elements::{self, Display};
use super::layout::Kind;
use super::templates;
use crate::syntax::{NodeId, Role, Tree};

/// Before which tokens white space shows.
pub(super) fn shows(tree: &Tree, text: &str) -> Vec<bool> {
    let count = tree.tokens.len();
    // Of each token: whether it begins a part of a page, and whether the white space before it, or
    // behind it, is gone.
    let mut begins = vec![false; count];
    let mut gone_before = vec![false; count];
    let mut gone_behind = vec![false; count];
    let mut ends_nothing: Vec<NodeId> = Vec::new();
    for id in 0..tree.nodes.len() as NodeId {
        let node = &tree.nodes[id as usize];
        if node.end == node.first {
            continue;
        }
        let (first, last) = (node.first as usize, node.end as usize - 1);
        let is_flow = |node: NodeId| node == 0 || elements::is_element(tree, node);
        let is = |kind: Kind| node.kind == kind as u16;
        if id > 0 && !is(Kind::StartTag) && !node.fault && is_flow(node.parent) {
            begins[first] = true;
            if is(Kind::Text) {
                begins[first..=last].fill(true);
            }
        }
        if id > 0 && !elements::is_element(tree, id) && !is(Kind::Doctype) {
            continue;
        }
        let display = elements::display(tree, id);
        let is_holder = id == 0 || elements::is_holder(tree, id);
        if id == 0 || matches!(display, Display::Block | Display::Break) {
            gone_before[first] = true;
            gone_behind[last] |= !elements::holds_the_page(tree, id);
            if elements::goes_on_behind(tree, text, id) {
                ends_nothing.push(id);
            }
        }
        let edges_gone = (matches!(display, Display::Block | Display::Word) || is_holder)
            && !elements::is_drawn_text(tree, id);
        for child in tree.children(id) {
            let part = &tree.nodes[child as usize];
            let tag = Kind::of(part.kind);
            if part.end == part.first || id == 0 {
                continue;
            }
            if edges_gone && tag == Kind::StartTag {
                gone_behind[part.end as usize - 1] = true;
            }
            if edges_gone && tag == Kind::EndTag {
                gone_before[part.first as usize] = true;
            }
        }
    }
    let closing = ends_nothing.iter().filter_map(|id| tree.children(*id).last());
    let closing: Vec<usize> = closing.map(|tag| tree.nodes[tag as usize].first as usize).collect();
    let mut before: Option<usize> = None;
    let mut shows = vec![false; count];
    for token in 0..count {
        if tree.tokens[token].role == Role::Comment {
            continue;
        }
        let gone = gone_before[token] || before.is_none_or(|before| gone_behind[before]);
        shows[token] = begins[token] && (!gone || closing.contains(&token));
        before = Some(token);
    }
    shows
}

/// A page in which actions of a template are words, and the signs that stand for themselves in a
/// text are something that the grammar reads as one: `2 > 1`, `ebb & flood`.
pub(super) fn masked(text: &str) -> Option<String> {
    let bytes = text.as_bytes();
    let mut masked: Option<Vec<u8>> = None;
    let actions = if templates::may_hold(text) { templates::actions(text) } else { Vec::new() };
    for action in &actions {
        let shown = masked.get_or_insert_with(|| bytes.to_vec());
        shown[action.clone()].fill(b'x');
        if is_behind_name(&text[..action.start])
            && templates::control(&text[action.clone()]).is_some()
        {
            // `<li{% if high %} class="high"{% endif %}>`: no part of the name.
            shown[action.start] = b'_';
        }
    }
    // What is hidden once is not looked at again.
    let hidden = masked.clone().and_then(|bytes| String::from_utf8(bytes).ok());
    let text = hidden.as_deref().unwrap_or(text);
    let bytes = text.as_bytes();
    let mut at = 0;
    while let Some(next) = memchr::memchr3(b'<', b'>', b'&', &bytes[at..]) {
        let place = at + next;
        let rest = &text[place..];
        match bytes[place] {
            b'<' if let Some(end) = instruction(rest).map(|length| place + length) => {
                let shown = masked.get_or_insert_with(|| bytes.to_vec());
                let inside = shown[place + 4..end - 3].iter_mut();
                inside.filter(|byte| !byte.is_ascii_whitespace()).for_each(|byte| *byte = b'x');
                shown[place..place + 4].copy_from_slice(b"<!--");
                shown[end - 3..end].copy_from_slice(b"-->");
                at = end;
            }
            b'<' => match markup(rest) {
                Some(length) => at = place + length,
                None => {
                    masked.get_or_insert_with(|| bytes.to_vec())[place] = b'x';
                    at = place + 1;
                }
            },
            b'&' if is_reference(rest) => at = place + 1,
            _ => {
                masked.get_or_insert_with(|| bytes.to_vec())[place] = b'x';
                at = place + 1;
            }
        }
    }
    masked.and_then(|bytes| String::from_utf8(bytes).ok())
}

/// Whether a text ends with the name of a start tag.
fn is_behind_name(text: &str) -> bool {
    let before = text.trim_end_matches(|c: char| c.is_ascii_alphanumeric() || c == '-');
    let is_name = text[before.len()..].starts_with(|c: char| c.is_ascii_alphabetic());
    is_name && before.ends_with('<')
}

/// How long what a text begins with is, where that is a comment to a page that is written otherwise: which
/// version of which language it is in, or what some browsers read (`<![if gte IE 9]>`).
fn instruction(text: &str) -> Option<usize> {
    let is_other = text.starts_with("<![") && !text.starts_with("<![CDATA[")
        || text.starts_with("<! ");
    let is_one = is_other || text.starts_with("<?xml ");
    if !is_one {
        return None;
    }
    let length = memchr::memchr(b'>', text.as_bytes())? + 1;
    (length >= SHORTEST).then_some(length)
}

/// No comment is shorter.
const SHORTEST: usize = "<!---->".len();

/// How long the tag, comment or element is that a text begins with, of an element whose content is
/// no markup all of it.
pub(super) fn markup(text: &str) -> Option<usize> {
    if let Some(comment) = text.strip_prefix("<!--") {
        return Some(comment.find("-->").map_or(text.len(), |end| "<!--".len() + end + "-->".len()));
    }
    let second = text.as_bytes().get(1)?;
    if !second.is_ascii_alphabetic() && !matches!(second, b'/' | b'!' | b'?') {
        return None;
    }
    let end = tag_end(text.as_bytes()).unwrap_or(text.len());
    let is_raw = |raw: &&&str| raw.eq_ignore_ascii_case(elements::name(text));
    let may_be_raw = second.eq_ignore_ascii_case(&b's');
    let Some(raw) = ["script", "style"].iter().find(|raw| may_be_raw && is_raw(raw)) else {
        return Some(end);
    };
    let closes = |at: &usize| {
        let name = text.as_bytes().get(at + 2..at + 2 + raw.len());
        text[*at..].starts_with("</")
            && name.is_some_and(|name| name.eq_ignore_ascii_case(raw.as_bytes()))
    };
    let closing = memchr::memchr_iter(b'<', &text.as_bytes()[end..])
        .map(|at| end + at)
        .find(closes);
    Some(closing.unwrap_or(text.len()))
}

/// Where the tag ends that a text begins with: a bracket in quotes is none.
fn tag_end(text: &[u8]) -> Option<usize> {
    let mut at = 0;
    loop {
        at += memchr::memchr3(b'>', b'"', b'\'', &text[at..])? + 1;
        match text[at - 1] {
            b'>' => return Some(at),
            quote => at += memchr::memchr(quote, &text[at..])? + 1,
        }
    }
}

/// Whether a text begins with a reference to a character.
fn is_reference(text: &str) -> bool {
    let rest = &text[1..];
    let (digits, is_digit): (&str, fn(u8) -> bool) =
        match rest.strip_prefix("#x").or_else(|| rest.strip_prefix("#X")) {
            Some(hex) => (hex, |byte| byte.is_ascii_hexdigit()),
            None => match rest.strip_prefix('#') {
                Some(decimal) => (decimal, |byte| byte.is_ascii_digit()),
                None => return rest.starts_with(|c: char| c.is_ascii_alphabetic()),
            },
        };
    digits.bytes().next().is_some_and(is_digit)
}
