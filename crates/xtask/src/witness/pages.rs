//! A page as a browser lays it out: the standard's own parser reads it, and white space is
//! collapsed as the rules for lines of text have it. What stands here of elements is written down
//! anew, so that it can speak against the program's list.

use anyhow::Result;
use html5ever::tendril::TendrilSink;
use markup5ever_rcdom::{Handle, NodeData, RcDom};
use std::collections::HashMap;

/// Elements that are drawn in a line of text.
const IN_LINE: &[&str] = &[
    "a", "abbr", "acronym", "applet", "b", "bdi", "bdo", "big", "blink", "cite", "code", "data",
    "del", "dfn", "em", "font", "i", "ins", "kbd", "label", "map", "mark", "nobr", "output",
    "picture", "q", "rb", "rp", "rt", "rtc", "ruby", "s", "samp", "slot", "small", "span", "strike",
    "strong", "sub", "sup", "time", "tt", "u", "var", "noscript", "datalist", "text", "tspan",
];

/// Elements that are drawn in a line of text like a word.
const WORDS: &[&str] = &[
    "area", "audio", "button", "canvas", "embed", "iframe", "img", "input", "meter", "object",
    "progress", "select", "svg", "math", "textarea", "video", "wbr",
];

/// Elements that are not drawn at all.
const HIDDEN: &[&str] = &[
    "base", "link", "meta", "param", "script", "source", "style", "template", "title", "track",
];

/// The page, one piece a line.
pub(super) fn read(text: &str) -> Result<String> {
    let mut options = html5ever::ParseOpts::default();
    // What is there for browsers without scripts is read as markup, too.
    options.tree_builder.scripting_enabled = false;
    let page = html5ever::parse_document(RcDom::default(), options).one(text);
    let mut drawn = Drawn { pieces: Vec::new(), blank: None, at_start: true };
    drawn.children(&page.document);
    Ok(drawn.said())
}

/// Marks the piece of an element in a line that holds nothing, or white space that is gone.
const IDLE: char = '\0';

/// A page in which actions of a template are comments, as they may stand where no text may; in tags
/// they are words.
pub(super) fn without_actions(text: &str) -> String {
    let (mut out, mut at, mut quote, mut in_tag) = (String::new(), 0, None, false);
    while let Some(c) = text[at..].chars().next() {
        let rest = &text[at..];
        let closes = [("{{", "}}"), ("{%", "%}"), ("{#", "#}")];
        let closes = closes.iter().find(|(opens, _)| rest.starts_with(opens));
        if let Some(end) = closes.and_then(|(_, closes)| rest.find(closes)) {
            let action = &rest[..end + 2];
            // In a tag it is a word that holds no sign which would end that.
            let word: String = action.bytes().map(|byte| format!("{byte:02x}")).collect();
            out += &match (in_tag, quote) {
                (true, Some(_)) => word,
                (true, None) => format!(" x{word} "),
                _ => format!("<!--{action}-->"),
            };
            at += action.len();
            continue;
        }
        match (quote, c) {
            (Some(open), _) if open == c => quote = None,
            (None, '"' | '\'') if in_tag => quote = Some(c),
            (None, '>') => in_tag = false,
            (None, '<') => in_tag = rest[1..].starts_with(|c: char| c.is_alphabetic() || c == '/'),
            _ => {}
        }
        out.push(c);
        at += c.len_utf8();
    }
    out
}

struct Drawn {
    pieces: Vec<String>,
    /// Where the blank goes that has been read, should anything follow it on its line.
    blank: Option<usize>,
    /// Whether nothing stands on the line yet.
    at_start: bool,
}

impl Drawn {
    fn children(&mut self, node: &Handle) {
        for child in node.children.borrow().iter() {
            self.node(child);
        }
    }

    fn node(&mut self, node: &Handle) {
        match &node.data {
            NodeData::Document => self.children(node),
            NodeData::Doctype { name, .. } => self.pieces.push(format!("<!{name}>")),
            NodeData::Comment { contents } => {
                let solid: String = contents.chars().filter(|c| !c.is_whitespace()).collect();
                self.pieces.push(format!("<!--{solid}-->"));
            }
            NodeData::ProcessingInstruction { contents, .. } => {
                self.pieces.push(format!("<?{contents}>"));
            }
            NodeData::Text { contents } => self.text(&contents.borrow()),
            NodeData::Element { name, attrs, .. } => {
                let name = name.local.to_string();
                let mut tag = format!("<{name}");
                for attribute in attrs.borrow().iter() {
                    // By the standard, the words of a class are a set.
                    let mut words: Vec<&str> = attribute.value.split_ascii_whitespace().collect();
                    words.sort_unstable();
                    tag += &match &*attribute.name.local {
                        "class" => format!(" class={words:?}"),
                        name => format!(" {name}={:?}", &*attribute.value),
                    };
                }
                self.element(node, &name, tag);
            }
        }
    }

    fn element(&mut self, node: &Handle, name: &str, tag: String) {
        let is = |names: &[&str]| names.contains(&name);
        if is(&["pre", "textarea", "listing", "xmp", "plaintext"]) {
            let is_block = name != "textarea";
            if is_block {
                self.line()
            } else {
                self.word()
            }
            self.pieces.push(tag);
            self.exact(node);
            return if is_block { self.line() } else { self.at_start = false };
        }
        if is(HIDDEN) {
            self.pieces.push(tag);
            let inner = match node.children.borrow().first().map(|child| &child.data) {
                Some(NodeData::Text { contents }) => contents.borrow().to_string(),
                _ => String::new(),
            };
            match name {
                "style" => self.pieces.push(super::css(&inner).unwrap_or(inner)),
                // What it says is its own language's to prove; that nothing is lost shows here.
                "script" => {
                    let solid = |c: &char| !c.is_whitespace() && !"\"';,{}()".contains(*c);
                    self.pieces.push(inner.chars().filter(solid).collect());
                }
                "title" => {
                    self.pieces.push(inner.split_whitespace().collect::<Vec<_>>().join(" "));
                }
                _ => {
                    let mut own = Drawn { pieces: Vec::new(), blank: None, at_start: true };
                    own.children(node);
                    self.pieces.append(&mut own.pieces);
                }
            }
            return;
        }
        if is(IN_LINE) {
            let (count, blank) = (self.pieces.len() + 1, self.blank);
            self.pieces.push(tag);
            self.children(node);
            let holds_nothing = self.pieces.len() == count && self.blank == blank;
            match holds_nothing {
                true => self.pieces[count - 1].insert(0, IDLE),
                false => self.pieces.push(format!("</{name}")),
            }
        } else if is(WORDS) {
            self.word();
            self.pieces.push(tag);
            let outside = std::mem::replace(&mut self.at_start, true);
            self.children(node);
            (self.at_start, self.blank) = (outside && name == "wbr", None);
            self.pieces.push(format!("</{name}"));
        } else {
            self.line();
            self.pieces.push(tag);
            self.children(node);
            self.line();
            self.pieces.push(format!("</{name}"));
        }
    }

    /// The pieces, without idle elements that are there once more: around white space a browser begins
    /// again what was never ended.
    fn said(self) -> String {
        let mut times: HashMap<&str, usize> = HashMap::new();
        for piece in &self.pieces {
            *times.entry(piece.trim_start_matches(IDLE)).or_default() += 1;
        }
        let is_copy = |piece: &&String| {
            piece.strip_prefix(IDLE).is_some_and(|tag| times[tag] > 1)
        };
        let said: Vec<&str> =
            self.pieces.iter().filter(|piece| !is_copy(piece)).map(String::as_str).collect();
        said.join("\n")
    }

    /// A line of text ends, or begins.
    fn line(&mut self) {
        (self.blank, self.at_start) = (None, true);
    }

    /// Something other than a blank follows on the line.
    fn word(&mut self) {
        if let Some(place) = self.blank.take() {
            self.pieces.insert(place, "blank".into());
        }
        self.at_start = false;
    }

    fn text(&mut self, text: &str) {
        let mut word = String::new();
        for c in text.chars() {
            if matches!(c, ' ' | '\t' | '\n' | '\r' | '\u{c}') {
                if !word.is_empty() {
                    self.pieces.push(std::mem::take(&mut word));
                }
                if !self.at_start && self.blank.is_none() {
                    self.blank = Some(self.pieces.len());
                }
            } else {
                if word.is_empty() {
                    self.word();
                }
                word.push(c);
            }
        }
        if !word.is_empty() {
            self.pieces.push(word);
        }
    }

    /// What stands in an element in which white space stays as it is.
    fn exact(&mut self, node: &Handle) {
        for child in node.children.borrow().iter() {
            match &child.data {
                NodeData::Text { contents } => {
                    self.pieces.push(format!("{:?}", contents.borrow().to_string()));
                }
                NodeData::Element { name, .. } => {
                    self.pieces.push(format!("<{}", name.local));
                    self.exact(child);
                    self.pieces.push(format!("</{}", name.local));
                }
                _ => {}
            }
        }
    }
}
