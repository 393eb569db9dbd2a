//! Pages: elements and what is written between them, where white space may show.

mod controls;
mod elements;
mod embedded;
mod habits;
mod layout;
mod paragraphs;
mod space;
mod templates;
#[cfg(test)]
mod tests;

use super::{Contents, Language};
use crate::style::{Family, Key, Setting};
use crate::syntax::{Comments, Grammar};

/// `<!-- why -->`, and what a program that is no browser asks for first.
const COMMENTS: Comments = Comments {
    blocks: &[("<!--", "-->"), ("<?xml ", ">")],
    touching: true,
    ..Comments::NONE
};

pub(super) static LANGUAGE: Language = Language {
    name: "html",
    follows: None,
    suffixes: &[
        "html",
        "htm",
        "xhtml",
        "gohtml",
        "twig",
        "liquid",
        "html.tmpl",
        "html.gotmpl",
        "html.j2",
        "html.jinja",
        "html.jinja2",
    ],
    file_names: &[],
    made_names: &[],
    interpreters: &[],
    identifiers: &["html"],
    line_comment: None,
    grammar: Grammar::new(|| tree_sitter_html::LANGUAGE.into(), &layout::KINDS, &COMMENTS)
        .opening(&[("<", ">")])
        .with_exact(layout::Kind::Element as u16, elements::is_exact)
        .with_alone(layout::Kind::Element as u16, elements::is_alone)
        .seen_whole(templates::may_hold)
        .with_traits(elements::traits)
        .with_unfinished(elements::unfinished)
        .showing(space::shows)
        .masking(space::masked)
        .with_words(templates::actions),
    rule: layout::rule,
    contents: Some(Contents {
        suffixes: &["tmpl", "gotmpl", "j2", "jinja", "jinja2"],
        begins: templates::begins_page,
        manner: templates::manner,
    }),
    embeds: Some(embedded::EMBEDS),
    families: &[Family::Markup, Family::Pages],
    // What the community's guides agree on: two spaces, double quotes, and no say about the lines
    // of a text.
    defaults: &[
        (Setting::IndentSize, Key::Whole, "2"),
        (Setting::TagEnd, Key::Whole, "with_last"),
        // Attributes stand under the first one as often as a step further in.
        (Setting::WrapAlign, Key::Attribute, "any"),
        (Setting::InnerGap, Key::TagEnd, "keep"),
        (Setting::BlankLines, Key::Most, "1"),
    ],
    samples: &[
        ("tides.html", include_str!("samples/tides.html")),
        ("hasty.html", include_str!("samples/hasty.html")),
        ("alarms.html.tmpl", include_str!("samples/alarms.html.tmpl")),
    ],
};
