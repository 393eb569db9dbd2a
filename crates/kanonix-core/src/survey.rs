//! What a body of code mostly does already, setting by setting, and what each choice would cost.
//!
//! A value's price is the number of slips that it would make; the questions are the registry's own
//! settings. Prices come from judging the code under each value, so that a survey and a check can
//! never count differently.

mod choosing;
mod made;
mod parts;
mod questions;

pub use made::{is_made, is_minified, is_vendor_folder, made_name, notice};
pub use parts::{Left, Part, Parts, Unlike, settle_parts};

use crate::languages::Language;
use crate::layout::Sheet;
use crate::style::{REGISTRY, Setting, Style};
use crate::syntax::Tree;
use crate::text::LineSet;
use choosing::{CLEARLY, Choice, FEWEST_PLACES, HARDLY};
use questions::{Question, questions};

/// So many files, spread evenly, are enough to find the style from which all are asked.
const FIRST_FILES: usize = 24;

/// So often some of the code is asked again, and then all of it, each time from what was found before.
const LOOKS: (usize, usize) = (5, 3);

/// What one value costs.
#[derive(Clone, Copy, Debug, Default)]
struct Price {
    /// Slips of the setting itself.
    own: usize,
    /// All slips.
    all: usize,
    /// Lines that have slips.
    lines: usize,
    /// Files that have such lines.
    files: usize,
}

impl Price {
    fn add(&mut self, other: Price) {
        self.own += other.own;
        self.all += other.all;
        self.lines += other.lines;
        self.files += other.files;
    }
}

/// What a text's slips come to under one style.
struct Count {
    /// By setting.
    slips: Vec<usize>,
    /// Lines that have any.
    lines: usize,
}

/// How long the lines are that could be broken.
#[derive(Clone, Debug, Default)]
struct Lengths {
    /// How many there are.
    breakable: usize,
    /// Of each length that is asked about, how many are no longer.
    fitting: Vec<usize>,
}

/// What was found in a body of code in one language.
#[derive(Clone)]
pub struct Survey {
    /// How many files were read.
    pub files: usize,
    /// How many lines they have.
    pub lines: usize,
    language: &'static Language,
    /// What is expected: the community's style, or for a part of a tree that of the whole.
    usual: Style,
    base: Style,
    questions: Vec<Question>,
    /// By question and candidate; last, where there is one, the probe's.
    prices: Vec<Vec<Price>>,
    /// How many slips there are under the style that the prices count from.
    slips: usize,
    lengths: Lengths,
    /// How many blocks begin or end on a line of their own.
    edges: usize,
    /// Whether the style that the prices count from is the proposal.
    settled: bool,
    /// Settings that stay as the community has them, whatever was found.
    as_usual: Vec<String>,
}

/// What a look at the code found for a question.
#[derive(Clone, Copy)]
struct Found<'q> {
    question: &'q Question,
    /// The candidate that it looked from, and the one that it found.
    base: usize,
    chosen: usize,
    /// How many places fewer that changes.
    spares: isize,
}

impl Found<'_> {
    /// Whether it is another answer than the one before.
    fn is_new(&self) -> bool {
        self.chosen != self.base
    }

    /// Whether an answer waits for another new one: of two that speak for each other, the one that
    /// spares less.
    fn waits_for(&self, other: &Found) -> bool {
        match self.question.speaks_with(other.question) && self.spares != other.spares {
            true => self.spares < other.spares,
            false => self.question.waits_for(other.question),
        }
    }
}

/// One question's answer.
#[derive(Clone, Debug, PartialEq)]
pub struct Answer {
    /// The setting, with its key after a point, as a person calls it.
    pub name: String,
    /// Each candidate that does not keep what is there, with the share of places that agree with
    /// it, the best first.
    pub shares: Vec<(String, f64)>,
    /// How many places there are.
    pub places: usize,
    /// What is proposed.
    pub proposed: String,
    /// The proposal as setting, key and value.
    pub values: Vec<(&'static str, &'static str, String)>,
    /// How many places the proposal would change.
    pub price: usize,
    /// What each value costs while everything else is as proposed.
    pub costs: Vec<Cost>,
    /// Whether just this is expected.
    pub usual: bool,
    /// What is.
    pub expected: Option<String>,
    /// Whether teams argue about it, so that most places decide, whatever that costs.
    pub argued: bool,
}

/// What one value costs: what a check of all lines would then count.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Cost {
    /// The value, as a person calls it.
    pub value: String,
    /// Lines that have slips.
    pub lines: usize,
    /// Files that have such lines.
    pub files: usize,
}

impl Survey {
    /// A survey that asks about each setting while all the others are as in `base`.
    pub fn new(language: &'static Language, base: Style) -> Survey {
        let questions = questions(language);
        let values = |question: &Question| {
            question.candidates.len() + usize::from(question.probe.is_some())
        };
        let prices = questions.iter().map(|q| vec![Price::default(); values(q)]).collect();
        let lengths = Lengths { breakable: 0, fitting: vec![0; lengths(&questions).count()] };
        Survey {
            files: 0,
            lines: 0,
            language,
            usual: language.style(),
            base,
            questions,
            prices,
            slips: 0,
            lengths,
            edges: 0,
            settled: false,
            as_usual: Vec::new(),
        }
    }

    /// The same survey with one setting left as the community has it. Its prices are those of the
    /// whole proposal until they are asked for [again](Survey::price_again).
    fn with_usual(&self, name: &str) -> Survey {
        let mut other = self.clone();
        other.as_usual.push(name.to_string());
        other
    }

    /// Gives up answers, one after the other, as long as all of them cost more than the community's style;
    /// what everybody argues about stays. The costs are lines that have slips. Whether any was given up.
    pub fn give_up(
        &mut self,
        usual: usize,
        proposed: usize,
        cost: impl Fn(&Style) -> usize,
    ) -> bool {
        let mut now = proposed;
        for answer in self.answers().into_iter().filter(|own| !own.usual && !own.argued) {
            if now <= usual {
                break;
            }
            let other = self.with_usual(&answer.name);
            let without = cost(&other.style());
            if without < now {
                (*self, now) = (other, without);
            }
        }
        now < proposed
    }

    /// Looks once more at what each value costs while everything else is as proposed.
    pub fn price_again(&mut self, texts: &[&str], read: impl Fn(&[&str], Style) -> Survey) {
        let as_usual = std::mem::take(&mut self.as_usual);
        let style = {
            Survey { as_usual: as_usual.clone(), ..self.clone() }.style()
        };
        let usual = self.usual.clone();
        *self = Survey { settled: true, as_usual, usual, ..read(texts, style) };
    }

    /// Looks at a body of code several times, each time from what it found before: at some of it
    /// from the community's style on, then at all of it. What is proposed is what the last look
    /// counted from, so that the prices are those of the proposal. `read` reads texts from a style,
    /// on as many threads as its caller likes.
    pub fn settle(
        texts: &[&str],
        language: &'static Language,
        read: impl Fn(&[&str], Style) -> Survey,
    ) -> Survey {
        Survey::settle_beside(texts, language.style(), read)
    }

    /// The same for a part of a tree, where another style is expected than the community's.
    fn settle_beside(
        texts: &[&str],
        usual: Style,
        read: impl Fn(&[&str], Style) -> Survey,
    ) -> Survey {
        let read = |texts: &[&str], base: Style| {
            Survey { usual: usual.clone(), ..read(texts, base) }
        };
        let step = texts.len().div_ceil(FIRST_FILES).max(1);
        let some: Vec<&str> = texts.iter().copied().step_by(step).collect();
        // How far in lines are is seen once it is clear how far in the whole file is.
        let mut start = usual.clone();
        for setting in ["namespace_indent", "page_indent"] {
            start.set(setting, "", "keep").expect("a value of the registry");
        }
        let look = |texts: &[&str], style: Style, again: usize| -> Survey {
            let mut survey = read(texts, style);
            let mut before: Option<Survey> = None;
            for _ in 0..again {
                let found = survey.found();
                let style = Survey::with(usual.clone(), &found);
                if style == survey.base {
                    return survey;
                }
                // Round and round it goes: from the better one of both on, one answer is enough.
                if let Some(before) = before.take_if(|before| before.base == style) {
                    survey = if before.slips < survey.slips { before } else { survey };
                    break;
                }
                let next = read(texts, style);
                if !next.is_worse_than(&survey, &found) {
                    before = Some(std::mem::replace(&mut survey, next));
                    continue;
                }
                // The answers are at odds with each other: one of them is enough for now.
                match survey.with_best(1) {
                    Some(style) => survey = read(texts, style),
                    None => break,
                }
            }
            for _ in 0..again {
                let worth = (survey.lines as f64 * HARDLY / 1000.0) as isize;
                let Some(style) = survey.with_best(worth.max(FEWEST_PLACES as isize)) else {
                    break
                };
                let next = read(texts, style);
                if next.slips >= survey.slips {
                    break;
                }
                survey = next;
            }
            Survey { settled: true, ..survey }
        };
        let mut survey = look(&some, start, LOOKS.0);
        let found = survey.style();
        // Where some of it was all of it, it has been read.
        if step > 1 || found != survey.base {
            survey = look(texts, found, LOOKS.1);
        }
        Survey { settled: true, ..survey }
    }

    /// Reads one more file. Call it from as many threads as there are surveys; [`Survey::join`]
    /// brings them together.
    pub fn read(&mut self, text: &str) {
        let Some(tree) = Tree::parse(&self.language.grammar, text) else { return };
        if tree.nodes.first().is_none_or(|root| root.fault) {
            return;
        }
        self.files += 1;
        self.lines += text.lines().count();
        let judge = |style: &Style| -> Count {
            let sheet = Sheet::new(&tree, text, style, self.language.rule);
            let mut slips = vec![0; REGISTRY.len()];
            let mut lines: Vec<usize> = Vec::new();
            for slip in sheet.judge(&LineSet::whole()).slips {
                slips[slip.setting as usize] += 1;
                lines.push(sheet.lines().line_of(slip.offset));
            }
            lines.sort_unstable();
            lines.dedup();
            Count { slips, lines: lines.len() }
        };
        let usual = judge(&self.base);
        self.slips += usual.slips.iter().sum::<usize>();
        let sheet = Sheet::new(&tree, text, &self.base, self.language.rule);
        self.edges += sheet.edges();
        // What does not fit is open already, but where lines are as long as they like.
        let mut boundless = self.base.clone();
        boundless.set("max_line_length", "", "off").expect("a value of the registry");
        let sheet = Sheet::new(&tree, text, &boundless, self.language.rule);
        self.measure(&sheet.breakable_widths());
        for (question, prices) in self.questions.iter().zip(&mut self.prices) {
            let candidates = question.candidates.iter().chain(&question.probe);
            for (candidate, price) in candidates.zip(prices) {
                let style = question.priced(candidate, &self.base);
                let own;
                let count = if style == self.base {
                    &usual
                } else {
                    own = judge(&style);
                    &own
                };
                let setting = question.entry.setting;
                let tabs = match setting {
                    Setting::IndentSize => count.slips[Setting::IndentStyle as usize],
                    _ => 0,
                };
                price.add(Price {
                    own: count.slips[setting as usize] + tabs,
                    all: count.slips.iter().sum(),
                    lines: count.lines,
                    files: usize::from(count.lines > 0),
                });
            }
        }
    }

    /// Counts the lines that could be broken, by how long they are.
    fn measure(&mut self, widths: &[usize]) {
        let asked: Vec<usize> = lengths(&self.questions).collect();
        for width in widths {
            self.lengths.breakable += 1;
            for (length, fitting) in asked.iter().zip(&mut self.lengths.fitting) {
                *fitting += usize::from(width <= length);
            }
        }
    }

    /// Adds another survey of the same language, begun with the same style.
    pub fn join(mut self, other: Survey) -> Survey {
        self.files += other.files;
        self.lines += other.lines;
        for (mine, theirs) in self.prices.iter_mut().zip(other.prices) {
            for (mine, theirs) in mine.iter_mut().zip(theirs) {
                mine.add(theirs);
            }
        }
        self.slips += other.slips;
        self.edges += other.edges;
        self.lengths.breakable += other.lengths.breakable;
        for (mine, theirs) in self.lengths.fitting.iter_mut().zip(other.lengths.fitting) {
            *mine += theirs;
        }
        self
    }

    /// The answer to each question that the code says anything about.
    pub fn answers(&self) -> Vec<Answer> {
        let asked = self.questions.iter().zip(&self.prices);
        asked.filter_map(|(question, prices)| self.answer(question, prices)).collect()
    }

    /// The style that disturbs the code least: the answers, and where the code says nothing, what
    /// the community expects.
    pub fn style(&self) -> Style {
        Survey::with(self.usual.clone(), &self.found())
    }

    /// A style with what was found.
    fn with(mut style: Style, found: &[Found]) -> Style {
        for own in found {
            own.question.candidates[own.chosen].set(&mut style);
        }
        style
    }

    /// Whether this makes clearly more slips than the survey before it, and than what that has found would
    /// make if no answer changed another one.
    fn is_worse_than(&self, before: &Survey, found: &[Found]) -> bool {
        let spared: isize = found.iter().map(|own| own.spares).sum();
        let expected = (before.slips as isize - spared).max(before.slips as isize);
        (self.slips as isize - expected) as f64 > self.lines as f64 * CLEARLY / 1000.0
    }

    /// The style that it counts from, with the one new answer that spares most places, if those are so many.
    fn with_best(&self, least: isize) -> Option<Style> {
        let new = self.found().into_iter().filter(Found::is_new);
        let best = new.max_by_key(|own| own.spares).filter(|own| own.spares >= least)?;
        Some(Survey::with(self.base.clone(), &[best]))
    }

    /// What was found for each question that the code says anything about.
    fn found(&self) -> Vec<Found<'_>> {
        let asked = self.questions.iter().zip(&self.prices);
        let mut found: Vec<Found> = asked
            .filter_map(|(question, prices)| {
                let chosen = self.chosen(question, &Choice::new(self, question, prices))?;
                let base = question.in_style(&self.base).unwrap_or(chosen);
                let spares = prices[base].all as isize - prices[chosen].all as isize;
                Some(Found { question, base, chosen, spares })
            })
            .collect();
        // An answer that changes another question is looked at by itself.
        let new: Vec<Found> = found.iter().filter(|own| own.is_new()).copied().collect();
        for own in &mut found {
            if new.iter().any(|other| own.waits_for(other)) {
                (own.chosen, own.spares) = (own.base, 0);
            }
        }
        found
    }

    /// The place of the candidate that is proposed.
    fn chosen(&self, question: &Question, choice: &Choice) -> Option<usize> {
        if self.as_usual.contains(&question.name()) {
            return question.in_style(&self.usual);
        }
        let proposed = choice.proposed()?;
        Some(if self.settled { question.in_style(&self.base)? } else { proposed })
    }

    fn answer(&self, question: &Question, prices: &[Price]) -> Option<Answer> {
        let choice = Choice::new(self, question, prices);
        let chosen = self.chosen(question, &choice)?;
        let candidate = &question.candidates[chosen];
        let usual = question.in_style(&self.usual);
        // A step that nothing in the code has is nobody's alternative, nor is one of tabs and spaces where the
        // same of spaces alone is no further from the code.
        let costs_less = |place: usize| {
            let plain = question.plain(place);
            plain.is_none_or(|plain| prices[place].all < prices[plain].all)
        };
        let is_told = |place: usize| {
            question.entry.setting != Setting::IndentSize
                || place == chosen
                || Some(place) == usual
                || (choice.share(place) > 0.0 && costs_less(place))
        };
        Some(Answer {
            name: question.name(),
            shares: choice
                .told()
                .iter()
                .map(|c| (question.candidates[*c].name.clone(), choice.share(*c)))
                .collect(),
            places: choice.places,
            proposed: candidate.name.clone(),
            values: candidate.values.clone(),
            price: prices[chosen].own,
            costs: question
                .candidates
                .iter()
                .zip(prices)
                .enumerate()
                .filter(|(place, _)| is_told(*place))
                .map(|(_, (candidate, price))| Cost {
                    value: candidate.name.clone(),
                    lines: price.lines,
                    files: price.files,
                })
                .collect(),
            usual: usual == Some(chosen),
            expected: usual.map(|usual| question.candidates[usual].name.clone()),
            argued: choice.is_argued(),
        })
    }
}

/// The lengths of lines that are asked about; the last of them is none.
fn lengths(questions: &[Question]) -> impl Iterator<Item = usize> {
    let asked = questions.iter().filter(|q| q.entry.setting == Setting::MaxLineLength);
    asked.flat_map(|question| &question.candidates).map(|c| c.name.parse().unwrap_or(usize::MAX))
}

#[cfg(test)]
mod tests;
