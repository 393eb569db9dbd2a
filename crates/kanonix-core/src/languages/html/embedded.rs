//! Scripts and style sheets in pages.

use super::layout::Kind;
use super::templates;
use crate::languages::{Embeds, Passage};
use crate::syntax::{NodeId, Tree};

pub(super) const EMBEDS: Embeds =
    Embeds { languages: &["css", "scss", "less", "javascript", "json", "typescript"], find };

fn find(tree: &Tree, text: &str) -> Vec<Passage> {
    let elements = (0..tree.nodes.len() as NodeId).filter_map(|id| {
        let kind = Kind::of(tree.nodes[id as usize].kind);
        matches!(kind, Kind::ScriptElement | Kind::StyleElement).then_some((id, kind))
    });
    elements.filter_map(|(id, kind)| passage(tree, text, id, kind)).collect()
}

/// What stands in an element on lines of its own, or beside its tags on one line.
fn passage(tree: &Tree, text: &str, element: NodeId, kind: Kind) -> Option<Passage> {
    let of_kind = |kind: Kind| {
        let mut children = tree.children(element);
        children.find(|child| Kind::of(tree.nodes[*child as usize].kind) == kind)
    };
    let (start, raw) = (of_kind(Kind::StartTag)?, of_kind(Kind::RawText)?);
    let (start, raw) = (&tree.nodes[start as usize], &tree.nodes[raw as usize]);
    let token = tree.tokens.get(raw.first as usize).filter(|_| raw.end > raw.first)?;
    let (from, end) = (token.start as usize, token.end as usize);
    let bytes = match text[from..end].split_once('\n') {
        Some((beside, _)) if beside.trim().is_empty() => from + beside.len() + 1..end,
        Some(_) => return None,
        None => {
            let inside = text[from..end].trim();
            let start = from + (end - from - text[from..end].trim_start().len());
            start..start + inside.len()
        }
    };
    if bytes.is_empty() {
        return None;
    }
    // Who fills a template in may write anything there.
    if templates::may_hold(&text[from..end]) {
        return None;
    }
    let tag = tree.tokens[start.first as usize].start as usize..from;
    let language = language(&text[tag], kind)?;
    Some(Passage {
        token: raw.first,
        bytes,
        language,
        spelling: None,
        stem: start.first,
    })
}

/// The language of what stands behind a tag, as its `type` or its `lang` says it.
fn language(tag: &str, kind: Kind) -> Option<&'static str> {
    let said = attribute(tag, "lang").or_else(|| attribute(tag, "type")).unwrap_or_default();
    let said = said.trim().to_ascii_lowercase();
    let name = said.rsplit_once('/').map_or(said.as_str(), |(_, name)| name);
    match name {
        "" | "css" if kind == Kind::StyleElement => Some("css"),
        "scss" if kind == Kind::StyleElement => Some("scss"),
        "less" if kind == Kind::StyleElement => Some("less"),
        _ if kind == Kind::StyleElement => None,
        "" | "module" | "javascript" | "ecmascript" | "x-javascript" | "babel" | "jsx" | "js" => {
            Some("javascript")
        }
        "ts" | "typescript" => Some("typescript"),
        "json" | "importmap" | "speculationrules" => Some("json"),
        _ if name.ends_with("+json") => Some("json"),
        _ => None,
    }
}

/// What an attribute of a tag says.
fn attribute<'t>(tag: &'t str, name: &str) -> Option<&'t str> {
    let mut rest = tag;
    loop {
        let at = rest.find('=')?;
        let (before, value) = (&rest[..at], rest[at + 1..].trim_start());
        let (value, behind) = match value.chars().next()? {
            quote @ ('"' | '\'') => value[1..].split_once(quote)?,
            _ => value.split_at(value.find(|c: char| c.is_whitespace() || c == '>')?),
        };
        let own = before.split_whitespace().next_back().unwrap_or_default();
        if own.eq_ignore_ascii_case(name) {
            return Some(value);
        }
        rest = behind;
    }
}
