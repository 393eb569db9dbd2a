//! Indentations, each text kept once.

use std::collections::HashMap;

/// An indentation, by its place in [`Indents`]; 0 is none.
pub type IndentId = u32;

/// The indentations that occur in a file, and what a step more makes of each.
pub struct Indents {
    /// The canon's step first.
    steps: Vec<String>,
    /// The step that deeper lines are indented by now, by its place in `steps`.
    current: usize,
    tab: usize,
    texts: Vec<String>,
    /// By step, then by indentation.
    deeper: Vec<Vec<Option<IndentId>>>,
    known: HashMap<String, IndentId>,
}

impl Indents {
    /// Knows only "none" yet.
    pub fn new(step: String, tab: usize) -> Indents {
        let mut indents = Indents {
            steps: Vec::new(),
            current: 0,
            tab,
            texts: Vec::new(),
            deeper: Vec::new(),
            known: HashMap::new(),
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
        let blanks = column.saturating_sub(self.columns(from));
        let text = format!("{}{}", self.text(from), " ".repeat(blanks));
        self.of(&text)
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

    /// Its columns.
    pub fn columns(&self, id: IndentId) -> usize {
        super::measure::columns(&self.texts[id as usize], self.tab)
    }
}
