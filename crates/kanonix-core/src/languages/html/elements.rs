//! What the elements are, by name: the HTML standard's section on rendering, and for drawings that
//! of SVG.

use super::layout::Kind;
use crate::syntax::{NodeId, Tree};

/// Where white space around an element, or inside it, is gone once a page is drawn.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Display {
    /// It stands in a line of text: white space around it and inside it shows.
    Inline,
    /// It begins and ends lines of its own: nothing shows around it, nor at its inner edges.
    Block,
    /// It stands in a line of text like a word; nothing shows at its inner edges.
    Word,
    /// A line ends with it.
    Break,
    /// It is not drawn, so white space around it is that of what is beside it.
    Hidden,
}

/// Elements that begin and end lines of their own.
const BLOCKS: &[&str] = &[
    "address", "article", "aside", "blockquote", "body", "caption", "center", "col", "colgroup",
    "dd", "details", "dialog", "dir", "div", "dl", "dt", "fieldset", "figcaption", "figure",
    "footer", "form", "frame", "frameset", "h1", "h2", "h3", "h4", "h5", "h6", "head", "header",
    "hgroup", "hr", "html", "legend", "li", "listing", "main", "menu", "nav", "noframes", "ol",
    "optgroup", "option", "p", "plaintext", "pre", "search", "section", "summary", "table", "tbody",
    "td", "tfoot", "th", "thead", "tr", "ul", "xmp",
];

/// Elements whose content is not a part of the line that they stand in.
const WORDS: &[&str] =
    &["audio", "button", "canvas", "iframe", "object", "select", "svg", "textarea", "video"];

/// Elements that are not drawn.
const HIDDEN: &[&str] =
    &["base", "link", "meta", "noscript", "script", "style", "template", "title"];

/// Elements in which nothing stands but other elements, or that draw nothing between them.
const HOLDERS: &[&str] = &[
    "audio", "colgroup", "datalist", "dl", "frameset", "head", "html", "menu", "ol", "optgroup",
    "select", "table", "tbody", "tfoot", "thead", "tr", "ul", "video",
];

/// Parts of drawings in which text stands.
const DRAWN_TEXT: &[&str] = &["text", "textpath", "tspan", "foreignobject", "a", "title", "desc"];

/// Elements in which white space stays as it is.
const EXACT: &[&str] = &["pre", "textarea", "listing", "xmp", "plaintext"];

/// Elements that hold nothing.
const VOID: &[&str] = &[
    "area", "base", "basefont", "bgsound", "br", "col", "command", "embed", "frame", "hr", "image",
    "img", "input", "keygen", "link", "meta", "param", "source", "track", "wbr",
];

/// Whether a construct is an element that holds nothing.
pub(super) fn is_alone(kind: u16, text: &str) -> bool {
    Kind::of(kind) == Kind::Element && has_name(text, VOID)
}

/// Whether all of a construct stays as it stands.
pub(super) fn is_exact(kind: u16, text: &str) -> bool {
    Kind::of(kind) == Kind::Element && has_name(text, EXACT)
}

/// Whether such an element has no end tag: it goes on, white space and all, as far as something
/// else ends it.
pub(super) fn is_unclosed(tree: &Tree, text: &str, node: NodeId) -> bool {
    let own = &tree.nodes[node as usize];
    let Some(token) = tree.tokens.get(own.first as usize) else { return false };
    let own_text = &text[token.start as usize..token.end as usize];
    let is_own = |(at, _): &(usize, &str)| {
        name(&own_text[*at..]).eq_ignore_ascii_case(name(own_text))
    };
    let ends = own_text.match_indices("</").filter(is_own).count();
    let all = own_text.match_indices('<').filter(is_own).count();
    is_exact(own.kind, own_text) && all > 2 * ends
}

/// Whether white space behind an element is still part of such a one inside it: neither the end of
/// a page nor that of an element without an end tag ends it.
pub(super) fn leaves_open(tree: &Tree, text: &str, node: NodeId) -> bool {
    let is_tag = |child: NodeId| Kind::of(tree.nodes[child as usize].kind) == Kind::EndTag;
    let mut at = node;
    while let Some(last) = tree.children(at).last() {
        if !is_tag(last) {
            at = last;
        } else if holds_the_page(tree, text, at)
            && let Some(before) = tree.children(at).filter(|child| !is_tag(*child)).last()
        {
            at = before;
        } else {
            break;
        }
    }
    is_unclosed(tree, text, at)
}

/// The name that a tag begins with.
pub(super) fn name(tag: &str) -> &str {
    let rest = tag.trim_start_matches(['<', '/']);
    let is_part = |byte: u8| byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b':');
    &rest[..rest.bytes().position(|byte| !is_part(byte)).unwrap_or(rest.len())]
}

/// Whether a tag is one of an element that begins and ends lines of its own.
pub(super) fn is_block(tag: &str) -> bool {
    tag.starts_with('<') && has_name(tag, BLOCKS)
}

fn has_name(tag: &str, names: &[&str]) -> bool {
    let own = name(tag);
    names.iter().any(|name| name.eq_ignore_ascii_case(own))
}

/// The text of an element from its first byte on.
fn text_of<'t>(tree: &Tree, text: &'t str, node: NodeId) -> &'t str {
    let first = tree.nodes[node as usize].first as usize;
    tree.tokens.get(first).map_or("", |token| &text[token.start as usize..])
}

/// Whether a node is an element of any kind.
pub(super) fn is_element(tree: &Tree, node: NodeId) -> bool {
    let kind = Kind::of(tree.nodes[node as usize].kind);
    matches!(kind, Kind::Element | Kind::ScriptElement | Kind::StyleElement)
}

/// Whether nothing stands in an element but other elements, so that white space between these is
/// gone.
pub(super) fn is_holder(tree: &Tree, text: &str, node: NodeId) -> bool {
    if !is_element(tree, node) {
        return false;
    }
    let own = text_of(tree, text, node);
    has_name(own, HOLDERS) || (is_in_drawing(tree, text, node) && !has_name(own, DRAWN_TEXT))
}

/// Whether a part of a drawing holds text, which may be drawn as it stands.
pub(super) fn is_drawn_text(tree: &Tree, text: &str, node: NodeId) -> bool {
    has_name(text_of(tree, text, node), &["text", "textpath", "tspan"])
        && is_in_drawing(tree, text, node)
}

/// Whether a node is a drawing, or a part of one.
fn is_in_drawing(tree: &Tree, text: &str, node: NodeId) -> bool {
    let mut at = node;
    while at != 0 {
        let own = text_of(tree, text, at);
        if is_element(tree, at) && has_name(own, &["svg"]) {
            return true;
        }
        if is_element(tree, at) && has_name(own, &["foreignobject"]) && at != node {
            return false;
        }
        at = tree.nodes[at as usize].parent;
    }
    false
}

/// Whether an element is one that holds all of a page. Its tags may be left out, or doubled: what
/// is written behind it belongs to it all the same.
pub(super) fn holds_the_page(tree: &Tree, text: &str, node: NodeId) -> bool {
    is_element(tree, node) && has_name(text_of(tree, text, node), &["html", "body"])
}

/// Whether a page goes on behind the end of such an element, which ends nothing then.
pub(super) fn goes_on_behind(tree: &Tree, text: &str, node: NodeId) -> bool {
    let last = tree.nodes[node as usize].end as usize - 1;
    let rest = text[tree.tokens[last].end as usize..].trim_start();
    let is_end = |rest: &str| rest.is_empty() || ["</", "<!--"].iter().any(|s| rest.starts_with(s));
    holds_the_page(tree, text, node) && !is_end(rest)
}

/// How a part of a page is drawn.
pub(super) fn display(tree: &Tree, text: &str, node: NodeId) -> Display {
    if Kind::of(tree.nodes[node as usize].kind) == Kind::Doctype {
        return Display::Block;
    }
    if !is_element(tree, node) {
        return Display::Inline;
    }
    let own = text_of(tree, text, node);
    let parent = tree.nodes[node as usize].parent;
    if has_name(own, &["br"]) {
        Display::Break
    } else if has_name(own, HIDDEN) {
        let outermost = parent == 0 || has_name(text_of(tree, text, parent), &["head", "html"]);
        if outermost { Display::Block } else { Display::Hidden }
    } else if has_name(own, BLOCKS) || (parent != 0 && is_holder(tree, text, parent)) {
        Display::Block
    } else if has_name(own, WORDS) {
        Display::Word
    } else {
        Display::Inline
    }
}
