//! Whether what stands in elements is further in than they are, and by how much, as most of a page has it.

use super::elements;
use super::space::markup;
use super::templates::{self, Control};
use crate::layout::planner::Planner;
use crate::style::Key;
use std::cmp::Ordering;
use std::collections::HashSet;

/// How often each kind of content is further in, less how often it is not.
#[derive(Default)]
pub(super) struct Habits {
    root: i32,
    element: i32,
    text: i32,
    control: i32,
    /// How often content is so many columns further in.
    further: [u32; WIDEST + 1],
}

/// No more columns than these are a step.
const WIDEST: usize = 8;

impl Habits {
    /// Those of a page.
    pub(super) fn of(p: &Planner) -> Habits {
        let mut habits = Habits::default();
        // What each line is indented by, and what stands on it.
        let lines: Vec<(&str, &str)> = p.text
            .lines()
            .map(|line| line.split_at(line.len() - line.trim_ascii_start().len()))
            .map(|(indent, inner)| (indent, inner.trim_ascii_end()))
            .filter(|(_, inner)| !inner.is_empty())
            .collect();
        let ends: HashSet<&str> = lines
            .iter()
            .filter_map(|(_, line)| match templates::control(line)? {
                Control::Closes(name) => Some(name),
                _ => None,
            })
            .collect();
        for pair in lines.windows(2) {
            if let Some(content) = content(pair[0].1, pair[1].1, &ends) {
                let (outer, inner) = (p.columns_of(pair[0].0), p.columns_of(pair[1].0));
                *habits.of_content(content) += match inner.cmp(&outer) {
                    Ordering::Greater => 1,
                    Ordering::Equal => -1,
                    Ordering::Less => 0,
                };
                // What goes on with a text hangs by as much as its author likes.
                let further = inner.saturating_sub(outer);
                if content != Key::Text && further <= WIDEST {
                    habits.further[further] += 1;
                }
            }
        }
        habits
    }

    fn of_content(&mut self, key: Key) -> &mut i32 {
        match key {
            Key::Root => &mut self.root,
            Key::Element => &mut self.element,
            Key::Text => &mut self.text,
            _ => &mut self.control,
        }
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

    /// By how many columns most of what is further in is that.
    pub(super) fn step(&self) -> Option<usize> {
        let all: u32 = self.further[1..].iter().sum();
        (1..=WIDEST).find(|step| self.further[*step] * 2 > all)
    }
}

/// What a line begins, if the next one stands in it: by the key that `page_indent` has for that.
fn content(line: &str, next: &str, ends: &HashSet<&str>) -> Option<Key> {
    if let Some(Control::Opens(name) | Control::MayOpen(name)) = templates::control(line) {
        return ends.contains(name).then_some(Key::Control);
    }
    if line.starts_with("</") || !elements::is_block(line) {
        return None;
    }
    let rest = line.get(markup(line)? ..)?;
    // What closes on its line shows nothing, and what begins there does not stand on its own.
    let shows = line.len() > rest.len()
        && line[..line.len() - rest.len()].ends_with('>')
        && !rest.contains("</")
        && !elements::is_block(rest.trim_start());
    if !shows || next.starts_with("</") || next.starts_with("<!--") {
        return None;
    }
    Some(match elements::is_block(next) {
        _ if elements::name(line).eq_ignore_ascii_case("html") => Key::Root,
        true => Key::Element,
        false => Key::Text,
    })
}
