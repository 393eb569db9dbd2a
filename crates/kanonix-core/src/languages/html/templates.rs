//! What stands in pages that are templates: actions between `{{` and `}}`, control words between
//! `{%` and `%}`, comments between `{#` and `#}`. To the page they are words.

use std::ops::Range;

/// What opens an action, and what closes it.
const ACTIONS: [(&str, &str); 3] = [("{{", "}}"), ("{%", "%}"), ("{#", "#}")];

/// Whether a text may hold an action.
pub(super) fn may_hold(text: &str) -> bool {
    let finds = |mark: &str| memchr::memmem::find(text.as_bytes(), mark.as_bytes()).is_some();
    ACTIONS.iter().any(|(opens, _)| finds(opens))
}

/// How long the action is that a text begins with.
pub(super) fn action(text: &str) -> Option<usize> {
    if !text.starts_with('{') {
        return None;
    }
    let (opens, closes) = ACTIONS.iter().find(|(opens, _)| text.starts_with(opens))?;
    let inside = &text.as_bytes()[2..];
    let inside = &inside[..inside.len().min(LONGEST)];
    // What closes an action may stand in a comment.
    let comment = Some(inside).filter(|_| *opens == "{{").and_then(comment_end);
    let start = comment.unwrap_or_default();
    let behind = memchr::memmem::find(&inside[start..], closes.as_bytes())?;
    Some(2 + start + behind + closes.len())
}

/// Whether an action is a comment: `{# #}`, `{{/* */}}`, `{{! }}`.
pub(super) fn is_comment(action: &str) -> bool {
    let inside = action
        .strip_prefix("{{")
        .map(|inside| inside.trim_start_matches(TRIMS).trim_start());
    action.starts_with("{#")
        || inside.is_some_and(|inside| inside.starts_with("/*") || inside.starts_with('!'))
}

/// Where the mark stands that ends the comment which an action is, if that may hold what closes one.
fn comment_end(inside: &[u8]) -> Option<usize> {
    let first = inside.iter().position(|byte| !b" \t\r\n-~".contains(byte))?;
    let marks: [(&[u8], &[u8]); 2] = [(b"/*", b"*/"), (b"!--", b"--")];
    let (opens, closes) = marks.iter().find(|(opens, _)| inside[first..].starts_with(opens))?;
    let start = first + opens.len();
    Some(start + memchr::memmem::find(&inside[start..], closes)?)
}

/// Marks of an action that take away the blanks before or behind it, or leave them.
const TRIMS: [char; 4] = ['-', '~', '+', '='];

/// Whether a text that begins so is a page: behind actions and comments a tag comes first.
pub(super) fn begins_page(text: &str) -> bool {
    let mut rest = text.trim_start_matches('\u{feff}').trim_start();
    loop {
        let comment = rest.strip_prefix("<!--").and_then(|inside| inside.split_once("-->"));
        rest = match (action(rest), comment) {
            (Some(length), _) => rest[length..].trim_start(),
            (None, Some((_, behind))) => behind.trim_start(),
            (None, None) => break,
        };
    }
    let name = rest.strip_prefix('<').unwrap_or_default();
    let is_doctype = name.get(..8).is_some_and(|word| word.eq_ignore_ascii_case("!doctype"));
    is_doctype || name.starts_with(|c: char| c.is_ascii_alphabetic())
}

/// Which kind of template a text is.
pub(super) fn manner(text: &str) -> Option<&'static str> {
    let finds = |mark: &str| memchr::memmem::find(text.as_bytes(), mark.as_bytes()).is_some();
    match (finds("{%"), finds("{{")) {
        (true, _) => Some("a template, as it has `{% … %}`"),
        (false, true) => Some("a template, as it has `{{ … }}`"),
        _ => None,
    }
}

/// No action of people is longer, in bytes.
const LONGEST: usize = 1 << 14;

/// The actions of a text.
pub(super) fn actions(text: &str) -> Vec<Range<usize>> {
    let mut found = Vec::new();
    let mut at = 0;
    while let Some(next) = memchr::memchr(b'{', &text.as_bytes()[at..]) {
        let start = at + next;
        match action(&text[start..]) {
            Some(length) => {
                found.push(start..start + length);
                at = start + length;
            }
            None => at = start + 1,
        }
    }
    found
}

/// What a control word does to what stands around it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Control<'t> {
    /// Something begins, by this name.
    Opens(&'t str),
    /// Something begins that may have no end.
    MayOpen(&'t str),
    /// It goes on in another way.
    GoesOn,
    /// What was begun by this name ends.
    Closes(&'t str),
}

/// Words between `{{` and `}}` that begin what `{{ end }}` ends.
const OPENING: [&str; 5] = ["if", "range", "with", "block", "define"];

/// Words between `{%` and `%}` that begin what always has an end. Those that may have one are many.
const ENDED: [&str; 7] = ["if", "for", "with", "block", "macro", "unless", "ifchanged"];

/// Words that go on with what another one began.
const GOING_ON: [&str; 8] =
    ["else", "elseif", "elif", "elsif", "when", "plural", "pluralize", "empty"];

/// What a line does that is one action and nothing else but a comment behind it. `{{ if a }}` ends
/// with `{{ end }}`, `{{#if a}}` with `{{/if}}`, and `{% if a %}` with `{% endif %}`; there any word
/// may begin something.
pub(super) fn control(line: &str) -> Option<Control<'_>> {
    let (line, behind) = line.split_at(action(line)?);
    let behind = behind.trim_start();
    let is_alone =
        behind.is_empty() || (is_comment(behind) && action(behind) == Some(behind.len()));
    if !is_alone || is_comment(line) {
        return None;
    }
    let is_double = line.starts_with("{{");
    let inside = line[2..line.len() - 2].trim_matches(TRIMS).trim();
    if let Some(name) = inside.strip_prefix('#').filter(|_| is_double) {
        return Some(Control::Opens(first_word(name)));
    }
    if let Some(name) = inside.strip_prefix('/').filter(|_| is_double) {
        return Some(Control::Closes(first_word(name)));
    }
    match first_word(inside) {
        word if GOING_ON.contains(&word) => Some(Control::GoesOn),
        "end" if is_double => Some(Control::Closes("")),
        word if is_double => OPENING.contains(&word).then_some(Control::Opens("")),
        word if ENDED.contains(&word) => Some(Control::Opens(word)),
        word => Some(word.strip_prefix("end").map_or(Control::MayOpen(word), Control::Closes)),
    }
}

/// The word that a text begins with.
fn first_word(text: &str) -> &str {
    &text[..text.find(|c: char| !c.is_alphanumeric() && c != '_').unwrap_or(text.len())]
}
