//! Indentations, each text kept once; and what tabs and spaces in them stand for where both are mixed.

use super::measure::columns;
use crate::style::{Key, Setting, Style};
use std::borrow::Cow;
use std::collections::HashMap;
use std::sync::LazyLock;

/// So many columns an indentation has at the most that is read as if it was of spaces alone.
const MOST_READ: usize = 1024;

/// What such ones are read as.
static SPACES: LazyLock<String> = LazyLock::new(|| " ".repeat(MOST_READ));

/// Whether tabs and spaces are mixed in indentations.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Mixing {
    /// They are what their steps are.
    None,
    /// They are as many tabs as there is room for, each so many columns wide, and spaces behind them.
    TabsOf(usize),
}

impl Mixing {
    /// As a style has it. Where indentation is syntax, tabs and spaces are never mixed.
    pub fn of(style: &Style, is_syntax: bool) -> Mixing {
        match style.is(Setting::IndentStyle, Key::Whole, "mixed") && !is_syntax {
            true => Mixing::TabsOf(style.tab_columns()),
            false => Mixing::None,
        }
    }

    /// An indentation of the text: in spaces alone, where tabs stand for some of them.
    pub fn read(self, text: &str) -> &str {
        match self {
            Mixing::TabsOf(tab) if text.contains('\t') => {
                SPACES.get(..up_to_stops(text, tab)).unwrap_or(text)
            }
            _ => text,
        }
    }

    /// How one is written that is of spaces alone.
    pub fn written(self, spaces: &str) -> Cow<'_, str> {
        match self {
            Mixing::TabsOf(tab) if spaces.len() >= tab && !spaces.contains('\t') => {
                let (tabs, rest) = (spaces.len() / tab, spaces.len() % tab);
                Cow::Owned(["\t".repeat(tabs), " ".repeat(rest)].concat())
            }
            _ => Cow::Borrowed(spaces),
        }
    }
}

/// The columns of an indentation in which a tab goes up to the next stop.
fn up_to_stops(text: &str, tab: usize) -> usize {
    text.bytes().fold(0, |column, byte| match byte {
        b'\t' => (column / tab + 1) * tab,
        _ => column + 1,
    })
}

/// An indentation, by its place in [`Indents`]; 0 is none.
pub type IndentId = u32;

/// The indentations that occur in a file, and what a step more makes of each.
pub struct Indents {
    /// The canon's step first.
    steps: Vec<String>,
    /// The step that deeper lines are indented by now, by its place in `steps`.
    current: usize,
    tab: usize,
    mixing: Mixing,
    texts: Vec<String>,
    columns: Vec<usize>,
    /// How each is written, where that is otherwise.
    written: Vec<Option<String>>,
    /// By step, then by indentation.
    deeper: Vec<Vec<Option<IndentId>>>,
    known: HashMap<String, IndentId>,
    /// The last one that was asked for with so many blanks behind it, and what they make of it.
    behind: Option<(IndentId, usize, IndentId)>,
}

impl Indents {
    /// Knows only "none" yet.
    pub fn new(step: String, tab: usize, mixing: Mixing) -> Indents {
        let mut indents = Indents {
            steps: Vec::new(),
            current: 0,
            tab,
            mixing,
            texts: Vec::new(),
            columns: Vec::new(),
            written: Vec::new(),
            deeper: Vec::new(),
            known: HashMap::new(),
            behind: None,
        };
        indents.step_by(&step);
        indents.of("");
        indents
    }

    /// Indents deeper lines by this step from now on.
    pub fn step_by(&mut self, step: &str) {
        let known = self.steps.iter().position(|known| known == step);
        self.current = known.unwrap_or_else(|| {
            self.steps.push(step.to_string());
            self.deeper.push(Vec::new());
            self.steps.len() - 1
        });
    }

    /// The indentation with this text.
    pub fn of(&mut self, text: &str) -> IndentId {
        if let Some(id) = self.known.get(text) {
            return *id;
        }
        let id = self.texts.len() as IndentId;
        self.texts.push(text.to_string());
        self.columns.push(columns(text, self.tab));
        self.written.push(match self.mixing.written(text) {
            Cow::Owned(written) => Some(written),
            Cow::Borrowed(_) => None,
        });
        self.known.insert(text.to_string(), id);
        id
    }

    /// So many steps deeper.
    pub fn deeper(&mut self, from: IndentId, steps: u8) -> IndentId {
        let mut id = from;
        for _ in 0..steps {
            let known = &mut self.deeper[self.current];
            if known.len() <= id as usize {
                known.resize(id as usize + 1, None);
            }
            id = match known[id as usize] {
                Some(next) => next,
                None => {
                    let text = self.beyond(&self.texts[id as usize]);
                    let next = self.of(&text);
                    self.deeper[self.current][id as usize] = Some(next);
                    next
                }
            };
        }
        id
    }

    /// The columns of a step behind an indentation.
    pub fn step_columns(&mut self, from: IndentId) -> usize {
        let deeper = self.deeper(from, 1);
        self.columns(deeper) - self.columns(from)
    }

    /// An indentation and blanks up to a column.
    pub fn up_to(&mut self, from: IndentId, column: usize) -> IndentId {
        self.behind(from, column.saturating_sub(self.columns(from)))
    }

    /// An indentation and so many blanks. The later lines of a comment ask for the same ones in turn.
    pub fn behind(&mut self, from: IndentId, blanks: usize) -> IndentId {
        match self.behind {
            Some((known, count, id)) if (known, count) == (from, blanks) => id,
            _ => {
                let id = self.further(from, &" ".repeat(blanks));
                self.behind = Some((from, blanks, id));
                id
            }
        }
    }

    /// An indentation and some more text.
    pub fn further(&mut self, from: IndentId, text: &str) -> IndentId {
        self.of(&format!("{}{text}", self.text(from)))
    }

    /// Whether a step behind an indentation is one of tabs.
    pub fn has_tabs_behind(&mut self, from: IndentId) -> bool {
        let deeper = self.deeper(from, 1);
        self.text(deeper).ends_with('\t')
    }

    /// An indentation and a step more. Tabs and spaces never meet in it: where the step is of the
    /// other kind, one that is known of the indentation's own kind takes its place, or a tab, or as
    /// many spaces as a tab is wide.
    fn beyond(&self, text: &str) -> String {
        let is_tab = |text: &str| text.ends_with('\t');
        let fits = |step: &&String| text.is_empty() || is_tab(step) == is_tab(text);
        let own = [&self.steps[self.current]].into_iter().chain(&self.steps).find(fits);
        match own {
            Some(step) => format!("{text}{step}"),
            None if is_tab(text) => format!("{text}\t"),
            None => format!("{text}{}", " ".repeat(self.tab)),
        }
    }

    /// Its text.
    pub fn text(&self, id: IndentId) -> &str {
        &self.texts[id as usize]
    }

    /// What the text is to have in its place.
    pub fn written(&self, id: IndentId) -> &str {
        self.written[id as usize].as_deref().unwrap_or_else(|| self.text(id))
    }

    /// Its columns.
    pub fn columns(&self, id: IndentId) -> usize {
        self.columns[id as usize]
    }
}

#[cfg(test)]
mod tests {
    use super::Mixing;

    #[test]
    fn tabs_stand_for_as_many_spaces_as_go_up_to_the_next_stop() {
        let mixed = Mixing::TabsOf(8);
        assert_eq!(mixed.read("\t  "), " ".repeat(10));
        assert_eq!(mixed.read("   \t "), " ".repeat(9));
        assert_eq!(mixed.read("    "), "    ");
        assert_eq!(mixed.written(&" ".repeat(10)), "\t  ");
        assert_eq!(mixed.written(&" ".repeat(16)), "\t\t");
        assert_eq!(mixed.written("       "), "       ");
        assert_eq!(Mixing::None.read("\t  "), "\t  ");
        // What nobody writes stays as it is.
        let deep = "\t".repeat(200);
        assert_eq!(mixed.read(&deep), deep);
    }
}
