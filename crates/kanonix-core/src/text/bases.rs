//! What the lines of a text are compared with to find those in play.

use super::LineSet;
use super::line_set::turned_from;

/// The texts that a text is compared with, and the way from the first of them to it.
///
/// A line is in play if none of the texts has it. Where the versions in between are known, a line
/// that came through all of them unchanged is not in play either, however a comparison of the first
/// with the last pairs them: what each step let pass, all of them together let pass.
///
/// ```
/// use kanonix_core::text::Bases;
/// let parents = Bases::of(["a\nb\n", "b\nc\n"]);
/// assert!(parents.lines("a\nb\nc\nd\n").touches(3..4) && !parents.lines("a\nd\n").touches(0..1));
/// ```
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Bases {
    texts: Vec<String>,
    way: Vec<String>,
    /// Whether line ends say nothing, as they are not kept as they are written.
    any_line_ends: bool,
}

impl Bases {
    /// These texts: one, or the parents of a merge. Without any, every line is in play.
    pub fn of(texts: impl IntoIterator<Item = impl Into<String>>) -> Bases {
        Bases { texts: texts.into_iter().map(Into::into).collect(), ..Bases::default() }
    }

    /// One more text, none of whose lines is in play.
    pub fn push(&mut self, text: String) {
        self.texts.push(text);
    }

    /// The versions between the first text and the one that is looked at, the oldest first.
    pub fn by_way_of(self, way: Vec<String>) -> Bases {
        Bases { way, ..self }
    }

    /// The same for a text whose line ends are not kept as they are written: that all of them end
    /// otherwise says nothing.
    pub fn with_any_line_ends(self) -> Bases {
        Bases { any_line_ends: true, ..self }
    }

    /// Whether all lines of `text` end in another way than all lines of these did.
    pub fn is_turned(&self, text: &str) -> bool {
        let mut texts = self.texts.iter();
        !self.texts.is_empty() && texts.all(|base| turned_from(base, text).is_some())
    }

    /// The lines of `text` in play.
    pub fn lines(&self, text: &str) -> LineSet {
        match self.any_line_ends {
            true => self.in_play(text).with_any_line_ends(),
            false => self.in_play(text),
        }
    }

    fn in_play(&self, text: &str) -> LineSet {
        let mut sets = self.texts.iter().map(|base| LineSet::between(base, text));
        let Some(first) = sets.next() else { return LineSet::whole() };
        let set = sets.fold(first, LineSet::shared);
        match (self.way.is_empty(), self.texts.first()) {
            (false, Some(base)) if !set.is_empty() => {
                let steps = self.way.iter().map(String::as_str).chain([text]);
                set.without(&LineSet::carried(base, steps))
            }
            _ => set,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_came_all_the_way_is_not_in_play() {
        let (base, text) = ("a\nb\n", "b\na\n");
        let touched = |bases: &Bases| [0, 1].map(|line| bases.lines(text).touches(line..line + 1));
        let direct = Bases::of([base]);
        let way = if touched(&direct)[0] { "b\n" } else { "a\n" };
        assert_ne!(touched(&direct), [false, false]);
        assert_eq!(touched(&direct.by_way_of(vec![way.into()])), [false, false]);
    }

    #[test]
    fn a_text_is_turned_only_if_it_is_beside_every_base() {
        let turned = |bases: &[&str]| Bases::of(bases.iter().copied()).is_turned("a\r\nb\r\n");
        assert!(turned(&["a\n"]) && turned(&["a\n", "b\n"]));
        assert!(!turned(&["a\n", "b\r\n"]) && !turned(&[]));
    }
}
