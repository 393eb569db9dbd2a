//! Indentations, each text kept once.

use std::collections::HashMap;

/// An indentation, by its place in [`Indents`]; 0 is none.
pub type IndentId = u32;

/// The indentations that occur in a file, and what a step more makes of each.
pub struct Indents {
    step: String,
    tab: usize,
    texts: Vec<String>,
    deeper: Vec<Option<IndentId>>,
    known: HashMap<String, IndentId>,
}

impl Indents {
    /// Knows only "none" yet.
    pub fn new(step: String, tab: usize) -> Indents {
        let mut indents = Indents {
            step,
            tab,
            texts: Vec::new(),
            deeper: Vec::new(),
            known: HashMap::new(),
        };
        indents.of("");
        indents
    }

    /// The indentation with this text.
    pub fn of(&mut self, text: &str) -> IndentId {
        if let Some(id) = self.known.get(text) {
            return *id;
        }
        let id = self.texts.len() as IndentId;
        self.texts.push(text.to_string());
        self.deeper.push(None);
        self.known.insert(text.to_string(), id);
        id
    }

    /// So many steps deeper.
    pub fn deeper(&mut self, from: IndentId, steps: u8) -> IndentId {
        let mut id = from;
        for _ in 0..steps {
            id = match self.deeper[id as usize] {
                Some(next) => next,
                None => {
                    let text = format!("{}{}", self.texts[id as usize], self.step);
                    let next = self.of(&text);
                    self.deeper[id as usize] = Some(next);
                    next
                }
            };
        }
        id
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
