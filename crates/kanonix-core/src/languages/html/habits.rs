//! Whether what stands in elements is further in than they are, as most of a page has it.

use super::elements;
use super::space::markup;
use super::templates::{self, Control};
use crate::style::Key;

/// How often each kind of content is further in, less how often it is not.
#[derive(Default)]
pub(super) struct Habits {
    root: i32,
    element: i32,
    text: i32,
    control: i32,
}

impl Habits {
    /// Those of a page.
    pub(super) fn of(text: &str) -> Habits {
        let mut habits = Habits::default();
        let mut at = 0;
        while let Some(next) = memchr::memchr(b'<', &text.as_bytes()[at..]) {
            let start = at + next;
            let Some(length) = markup(&text[start..]) else {
                at = start + 1;
                continue;
            };
            at = start + length;
            habits.note(text, start);
        }
        if templates::may_hold(text) {
            habits.note_controls(text);
        }
        habits
    }

    /// Whether most of what `page_indent` knows by a key is further in.
    pub(super) fn indents(&self, key: Key) -> bool {
        let more = match key {
            Key::Root => self.root,
            Key::Element => self.element,
            Key::Text => self.text,
            _ => self.control,
        };
        more >= 0
    }

    /// Looks at the lines behind those that are a control word.
    fn note_controls(&mut self, text: &str) {
        let indent = |line: &str| line.len() - line.trim_start().len();
        let ends = |name: &str| {
            let mut lines = text.lines().map(str::trim);
            lines.any(|line| templates::control(line) == Some(Control::Closes(name)))
        };
        let mut lines = text.lines().filter(|line| !line.trim().is_empty()).peekable();
        while let Some(line) = lines.next() {
            if let (Some(Control::Opens(name)), Some(next)) =
                (templates::control(line.trim()), lines.peek())
                && ends(name)
            {
                self.control += match indent(next).cmp(&indent(line)) {
                    std::cmp::Ordering::Greater => 1,
                    std::cmp::Ordering::Equal => -1,
                    std::cmp::Ordering::Less => 0,
                };
            }
        }
    }

    /// Looks at the line behind the tag that stands at a byte.
    fn note(&mut self, text: &str, start: usize) {
        let tag = &text[start..];
        if tag.starts_with("</") || !elements::is_block(tag) {
            return;
        }
        let Some(end) = tag_end(tag) else { return };
        let (rest, later) = tag[end..].split_once('\n').unwrap_or(("", ""));
        let rest = rest.trim();
        // What closes on its line shows nothing, and what begins there is looked at by itself.
        if rest.contains("</") || elements::is_block(rest) {
            return;
        }
        let Some(line) = later.split('\n').find(|line| !line.trim().is_empty()) else { return };
        let solid = line.trim_start();
        if solid.starts_with("</") || solid.starts_with("<!--") {
            return;
        }
        let own_line = &text[text[..start].rfind('\n').map_or(0, |at| at + 1)..start];
        if !own_line.trim().is_empty() {
            return;
        }
        let further = line.len() - solid.len();
        let count = match further.cmp(&own_line.len()) {
            std::cmp::Ordering::Greater => 1,
            std::cmp::Ordering::Equal => -1,
            std::cmp::Ordering::Less => return,
        };
        if elements::name(tag).eq_ignore_ascii_case("html") {
            self.root += count;
        } else if elements::is_block(solid) {
            self.element += count;
        } else {
            self.text += count;
        }
    }
}

/// Where a start tag ends.
fn tag_end(tag: &str) -> Option<usize> {
    let mut quote: Option<char> = None;
    let end = tag.find(|c| match quote {
        Some(open) => {
            quote = quote.filter(|_| c != open);
            false
        }
        None if matches!(c, '"' | '\'') => {
            quote = Some(c);
            false
        }
        None => c == '>',
    })?;
    Some(end + 1)
}
