//! What the elements are, by name: the HTML standard's section on rendering, and for drawings that
//! of SVG.

use super::layout::Kind;
use super::templates;
use crate::syntax::{Node, NodeId, Tree};
use std::sync::LazyLock;

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

/// What an element's name says of it, a bit for each: it begins and ends lines of its own.
const BLOCK: u16 = 1;
/// Its content is not a part of the line that it stands in.
const WORD: u16 = 1 << 1;
/// A line ends with it.
const BREAK: u16 = 1 << 2;
/// It is not drawn.
const HIDDEN: u16 = 1 << 3;
/// Nothing stands in it but other elements, or it draws nothing between them.
const HOLDER: u16 = 1 << 4;
/// White space in it stays as it is.
const EXACT: u16 = 1 << 5;
/// It holds nothing.
const VOID: u16 = 1 << 6;
/// It holds all of a page.
const PAGE: u16 = 1 << 7;
/// What is not drawn stands in no line of text in it.
const OUTERMOST: u16 = 1 << 8;
/// It is a drawing.
const DRAWING: u16 = 1 << 9;
/// A part of a drawing that holds a part of a page.
const FOREIGN: u16 = 1 << 10;
/// A part of a drawing in which text stands.
const DRAWN_TEXT: u16 = 1 << 11;
/// A part of a drawing whose text may be drawn as it stands.
const DRAWN_WORDS: u16 = 1 << 12;
/// Not said by its name: it is a drawing, or a part of one.
const IN_DRAWING: u16 = 1 << 13;
/// Not said by its name: a text stands in it, beside the elements that it holds.
const WITH_TEXT: u16 = 1 << 14;
/// Not said by its name: of a page, that white space in something in it stays as it is.
const HOLDS_EXACT: u16 = 1 << 15;

/// The names of which each is said.
const NAMED: [(u16, &[&str]); 13] = [
    (
        BLOCK,
        &[
            "address", "article", "aside", "blockquote", "body", "caption", "center", "col",
            "colgroup", "dd", "details", "dialog", "dir", "div", "dl", "dt", "fieldset",
            "figcaption", "figure", "footer", "form", "frame", "frameset", "h1", "h2", "h3", "h4",
            "h5", "h6", "head", "header", "hgroup", "hr", "html", "legend", "li", "listing",
            "main", "menu", "nav", "noframes", "ol", "optgroup", "option", "p", "plaintext", "pre",
            "search", "section", "summary", "table", "tbody", "td", "tfoot", "th", "thead", "tr",
            "ul", "xmp",
        ],
    ),
    (
        WORD,
        &[
            "audio", "button", "canvas", "iframe", "object", "select", "svg", "textarea", "video",
        ],
    ),
    (BREAK, &["br"]),
    (
        HIDDEN,
        &["base", "link", "meta", "noscript", "script", "style", "template", "title"],
    ),
    (
        HOLDER,
        &[
            "audio", "colgroup", "datalist", "dl", "frameset", "head", "html", "menu", "ol",
            "optgroup", "select", "table", "tbody", "tfoot", "thead", "tr", "ul", "video",
        ],
    ),
    // To a browser with frames, what stands beside them is a text and no elements.
    (EXACT, &["pre", "textarea", "listing", "xmp", "plaintext", "noframes", "noembed"]),
    (
        VOID,
        &[
            "area", "base", "basefont", "bgsound", "br", "col", "command", "embed", "frame", "hr",
            "image", "img", "input", "keygen", "link", "meta", "param", "source", "track", "wbr",
        ],
    ),
    (PAGE, &["html", "body"]),
    (OUTERMOST, &["head", "html"]),
    (DRAWING, &["svg"]),
    (FOREIGN, &["foreignobject"]),
    (DRAWN_TEXT, &["text", "textpath", "tspan", "foreignobject", "a", "title", "desc"]),
    (DRAWN_WORDS, &["text", "textpath", "tspan"]),
];

/// What names say, by the letter that they begin with.
static NAMES: LazyLock<[Vec<(&str, u16)>; 26]> = LazyLock::new(|| {
    let mut names = [const { Vec::new() }; 26];
    for (said, list) in NAMED {
        for name in list {
            let alike: &mut Vec<(&str, u16)> = &mut names[usize::from(name.as_bytes()[0] - b'a')];
            match alike.iter_mut().find(|(known, _)| known == name) {
                Some((_, all)) => *all |= said,
                None => alike.push((name, said)),
            }
        }
    }
    names
});

/// What the name that a tag begins with says.
fn said(tag: &str) -> u16 {
    said_by(name(tag))
}

fn said_by(name: &str) -> u16 {
    let letter = name.bytes().next().map_or(0, |letter| letter.to_ascii_lowercase());
    let Some(names) = NAMES.get(usize::from(letter.wrapping_sub(b'a'))) else { return 0 };
    let own = names.iter().find(|(known, _)| known.eq_ignore_ascii_case(name));
    own.map_or(0, |(_, said)| *said)
}

/// What is said of each node of a page.
pub(super) fn traits(tree: &Tree, text: &str) -> Vec<u16> {
    let mut traits = vec![0; tree.nodes.len()];
    let mut all: u16 = 0;
    for (id, node) in tree.nodes.iter().enumerate() {
        let around: u16 = traits[node.parent as usize];
        let mut own = if around & FOREIGN == 0 { around & IN_DRAWING } else { 0 };
        if is_element(tree, id as NodeId)
            && let Some(token) = tree.tokens.get(node.first as usize)
        {
            own |= said(&text[token.start as usize..]);
        }
        if own & DRAWING != 0 {
            own |= IN_DRAWING;
        }
        traits[id] = own;
        all |= own;
        if around & (HOLDER | WITH_TEXT) == HOLDER && is_text(tree, text, node) {
            traits[node.parent as usize] |= WITH_TEXT;
        }
    }
    if let (Some(page), true) = (traits.first_mut(), all & EXACT != 0) {
        *page |= HOLDS_EXACT;
    }
    traits
}

/// Whether a part of a page is a text, and not only actions of a template.
fn is_text(tree: &Tree, text: &str, node: &Node) -> bool {
    match Kind::of(node.kind) {
        Kind::Entity => true,
        Kind::Text if node.end > node.first => {
            let tokens = [node.first, node.end - 1].map(|token| tree.tokens[token as usize]);
            let own = &text[tokens[0].start as usize..tokens[1].end as usize];
            let solid = |text: &str| text.bytes()
                .filter(|byte| !byte.is_ascii_whitespace())
                .count();
            let actions = templates::actions(own).into_iter();
            solid(own) > actions.map(|action| solid(&own[action])).sum::<usize>()
        }
        _ => false,
    }
}

/// Whether an element holds nothing.
pub(super) fn is_alone(text: &str) -> bool {
    said(text) & VOID != 0
}

/// Whether all of an element stays as it stands.
pub(super) fn is_exact(text: &str) -> bool {
    let name = name(text);
    said_by(name) & EXACT != 0 || (name.eq_ignore_ascii_case("iframe") && holds_some(text))
}

/// Whether something stands between an element's tags, which is a text and no elements to a browser.
fn holds_some(element: &str) -> bool {
    let inside = element.rfind("</").map_or(element, |end| &element[..end]);
    let behind_tag = inside.rsplit('>').next().unwrap_or_default();
    inside.matches('<').count() > 1 || !behind_tag.trim().is_empty()
}

/// Whether such an element has no end tag: it goes on, white space and all, as far as something
/// else ends it.
pub(super) fn is_unclosed(tree: &Tree, text: &str, node: NodeId) -> bool {
    if !has(tree, node, EXACT) {
        return false;
    }
    let own = &tree.nodes[node as usize];
    let Some(token) = tree.tokens.get(own.first as usize) else { return false };
    let own_text = &text[token.start as usize..token.end as usize];
    let is_own = |(at, _): &(usize, &str)| {
        name(&own_text[*at..]).eq_ignore_ascii_case(name(own_text))
    };
    let ends = own_text.match_indices("</").filter(is_own).count();
    let all = own_text.match_indices('<').filter(is_own).count();
    all > 2 * ends
}

/// Elements whose end tags may be left out: the HTML standard's section on optional tags.
const ENDING_THEMSELVES: &[&str] = &[
    "body", "caption", "colgroup", "dd", "dt", "head", "html", "li", "optgroup", "option", "p",
    "rp", "rt", "tbody", "td", "tfoot", "th", "thead", "tr",
];

/// How many elements have no end tag that need one, and how many end tags end nothing.
pub(super) fn unfinished(tree: &Tree, text: &str) -> usize {
    let is_unfinished = |id: NodeId| match Kind::of(tree.nodes[id as usize].kind) {
        Kind::ErroneousEndTag => true,
        Kind::Element => {
            let parts = || tree.children(id).map(|part| Kind::of(tree.nodes[part as usize].kind));
            let token = tree.tokens.get(tree.nodes[id as usize].first as usize);
            let own = token.map_or("", |token| name(&text[token.start as usize..]));
            parts().next() == Some(Kind::StartTag)
                && parts().last() != Some(Kind::EndTag)
                && !has(tree, id, VOID)
                && !ENDING_THEMSELVES.iter().any(|known| known.eq_ignore_ascii_case(own))
        }
        _ => false,
    };
    (0..tree.nodes.len() as NodeId).filter(|id| is_unfinished(*id)).count()
}

/// Whether white space behind an element is still part of such a one inside it: neither the end of
/// a page nor that of an element without an end tag ends it, nor that of what stands in a line.
pub(super) fn leaves_open(tree: &Tree, text: &str, node: NodeId) -> bool {
    if !has(tree, 0, HOLDS_EXACT) {
        return false;
    }
    let is_tag = |child: NodeId| Kind::of(tree.nodes[child as usize].kind) == Kind::EndTag;
    let ends = |node: NodeId| has(tree, node, BLOCK | WORD | HOLDER) && !holds_the_page(tree, node);
    let mut at = node;
    while let Some(last) = tree.children(at).last() {
        if !is_tag(last) {
            at = last;
        } else if !ends(at)
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
    let is_mark = |byte: &u8| matches!(byte, b'<' | b'/');
    let bytes = tag.as_bytes();
    let start = bytes.iter().take_while(|byte| is_mark(byte)).count();
    let length = bytes[start..].iter().take_while(|byte| IN_NAMES[**byte as usize]).count();
    &tag[start..start + length]
}

/// Which bytes are parts of a name: asked of every tag.
const IN_NAMES: [bool; 256] = {
    let mut parts = [false; 256];
    let mut byte = 0u8;
    while byte < 0x80 {
        parts[byte as usize] = byte.is_ascii_alphanumeric() || matches!(byte, b'-' | b':');
        byte += 1;
    }
    parts
};

/// Whether a tag is one of an element that begins and ends lines of its own.
pub(super) fn is_block(tag: &str) -> bool {
    tag.starts_with('<') && said(tag) & BLOCK != 0
}

/// Whether one of these is said of a node.
fn has(tree: &Tree, node: NodeId, traits: u16) -> bool {
    tree.traits[node as usize] & traits != 0
}

/// Whether a node is an element of any kind.
pub(super) fn is_element(tree: &Tree, node: NodeId) -> bool {
    let kind = tree.nodes[node as usize].kind;
    [Kind::Element, Kind::ScriptElement, Kind::StyleElement].iter().any(|own| *own as u16 == kind)
}

/// Whether nothing stands in an element but other elements, so that white space between these is
/// gone. Where a text stands beside them all the same, it shows.
pub(super) fn is_holder(tree: &Tree, node: NodeId) -> bool {
    let is_plain_drawing = has(tree, node, IN_DRAWING) && !has(tree, node, DRAWN_TEXT);
    let holds = has(tree, node, HOLDER) && !has(tree, node, WITH_TEXT);
    is_element(tree, node) && (holds || is_plain_drawing)
}

/// Whether a part of a drawing holds text, which may be drawn as it stands.
pub(super) fn is_drawn_text(tree: &Tree, node: NodeId) -> bool {
    has(tree, node, DRAWN_WORDS) && has(tree, node, IN_DRAWING)
}

/// Whether an element is one that holds all of a page. Its tags may be left out, or doubled: what
/// is written behind it belongs to it all the same.
pub(super) fn holds_the_page(tree: &Tree, node: NodeId) -> bool {
    has(tree, node, PAGE)
}

/// Whether a page goes on behind the end of such an element, which ends nothing then.
pub(super) fn goes_on_behind(tree: &Tree, text: &str, node: NodeId) -> bool {
    if !holds_the_page(tree, node) {
        return false;
    }
    let last = tree.nodes[node as usize].end as usize - 1;
    let rest = text[tree.tokens[last].end as usize..].trim_start();
    !rest.is_empty() && !["</", "<!--"].iter().any(|sign| rest.starts_with(sign))
}

/// How a part of a page is drawn.
pub(super) fn display(tree: &Tree, node: NodeId) -> Display {
    let own = &tree.nodes[node as usize];
    if Kind::of(own.kind) == Kind::Doctype {
        return Display::Block;
    }
    if !is_element(tree, node) {
        return Display::Inline;
    }
    let parent = own.parent;
    if has(tree, node, BREAK) {
        Display::Break
    } else if has(tree, node, HIDDEN) {
        let outermost = parent == 0 || has(tree, parent, OUTERMOST);
        if outermost { Display::Block } else { Display::Hidden }
    } else if has(tree, node, BLOCK) || (parent != 0 && is_holder(tree, parent)) {
        Display::Block
    } else if has(tree, node, WORD) {
        Display::Word
    } else {
        Display::Inline
    }
}
