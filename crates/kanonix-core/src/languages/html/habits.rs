//! Whether what stands in elements is further in than they are, and by how much, as most of a page has it.
//! A page leaves that to its elements.

use super::elements;
use super::space::markup;
use super::templates::{self, Control};
use crate::layout::planner::Planner;
use crate::style::Key;
use crate::syntax::{NodeId, TokenId};
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
        let may_hold = templates::may_hold(p.text);
        let ends: HashSet<&str> = lines
            .iter()
            .filter(|_| may_hold)
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

    /// Leaves them to the elements of a page.
    pub(super) fn leave(&self, p: &mut Planner, page: NodeId) {
        let keys = [Key::Root, Key::Element, Key::Text, Key::Control].into_iter();
        let word: u8 = keys.filter(|key| self.indents(*key)).map(|key| 1 << bit(key)).sum();
        let step = STEPS.iter().position(|step| Some(*step) == self.step()).unwrap_or(0) as u8;
        p.set_context(page, word | step << STEP);
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
    fn indents(&self, key: Key) -> bool {
        let more = match key {
            Key::Root => self.root,
            Key::Element => self.element,
            Key::Text => self.text,
            _ => self.control,
        };
        more >= 0
    }

    /// By how many columns most of what is further in is that.
    fn step(&self) -> Option<usize> {
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

/// The place of a kind of content in the word that a page leaves for its elements: whether most of
/// it is further in.
fn bit(key: Key) -> u8 {
    match key {
        Key::Root => 0,
        Key::Element => 1,
        Key::Text => 2,
        _ => 3,
    }
}

/// In the word that a page leaves for its elements: which of these is the step by which most of it is
/// further in, if one is.
const STEP: u8 = 4;
const STEPS: [usize; 8] = [0, 1, 2, 3, 4, 5, 6, 8];

/// By how many columns most of a page's content is further in.
pub(super) fn usual_step(p: &Planner, node: NodeId) -> Option<usize> {
    let step = STEPS[usize::from(p.context(node) >> STEP & 0b111)];
    (step > 0).then_some(step)
}

/// Whether most lines of what begins at some places are further in than the line of a token; else
/// what most of the page has. One line more is most of them where all stand in or no step further in.
pub(super) fn is_further(
    p: &Planner,
    node: NodeId,
    key: Key,
    line: TokenId,
    places: impl Iterator<Item = TokenId>,
) -> bool {
    let (own, columns) = (p.line_columns(line), columns(p, places));
    match columns[..] {
        [one] if one == own => false,
        [one] if one == own + p.choices.step => true,
        _ => most(&columns, own).unwrap_or_else(|| p.context(node) >> bit(key) & 1 == 1),
    }
}

/// The same where it is clear.
pub(super) fn most_are_further(
    p: &Planner,
    line: TokenId,
    places: impl Iterator<Item = TokenId>,
) -> Option<bool> {
    most(&columns(p, places), p.line_columns(line))
}

/// Where the lines begin of these places at which some do.
fn columns(p: &Planner, places: impl Iterator<Item = TokenId>) -> Vec<usize> {
    places.filter(|token| p.broken_before(*token)).map(|token| p.line_columns(token)).collect()
}

/// Whether most of some columns are behind another one, and not by one line alone.
fn most(columns: &[usize], own: usize) -> Option<bool> {
    let further = columns.iter().filter(|column| **column > own).count();
    let beside = columns.len() - further;
    (further.abs_diff(beside) > 1).then_some(further > beside)
}
