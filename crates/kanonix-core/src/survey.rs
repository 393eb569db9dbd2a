//! What a body of code mostly does already, setting by setting, and what each choice would cost.
//!
//! A value's price is the number of slips that it would make; the questions are the registry's own
//! settings. Prices come from judging the code under each value, so that a survey and a check can
//! never count differently.

mod made;

pub use made::is_made;

use crate::Outcome;
use crate::languages::Language;
use crate::layout::Sheet;
use crate::style::{Entry, ValueKind, REGISTRY, Setting, Slot, Style, slots};
use crate::syntax::Tree;
use crate::text::LineSet;

/// Settings that are not a matter of how code is laid out, or that no price can decide: whoever
/// wants them says so.
const NOT_ASKED: &[Setting] = &[
    Setting::IndentStyle,
    Setting::TabWidth,
    Setting::EndOfLine,
    Setting::Charset,
    Setting::TrimTrailingWhitespace,
    Setting::WordGap,
    Setting::BareBody,
];

/// A value that remembers what is there is proposed where its best rival would make more slips than
/// this in a thousand lines. Quotes and statement ends are settled by most places all the same.
const STRICT_COSTS: f64 = 3.0;

/// Share of the places that is most of them.
const AGREEING: f64 = 0.7;

/// Below so many slips in a thousand lines, a difference in price says nothing against what the
/// community expects.
const NOISE: f64 = 0.2;

/// So many files, spread evenly, are enough to find the style from which all are asked.
const FIRST_FILES: usize = 24;

/// So many slips say nothing in a small body of code.
const FEW: usize = 2;

/// In fewer places than these, code says nothing.
const FEWEST_PLACES: usize = 2;

/// What teams argue about: settled by the most, whatever it costs.
const ARGUED: &[Setting] = &[Setting::Quotes, Setting::MarkupQuotes, Setting::StatementEnd];

/// A value of a setting, with the settings that it is made of.
#[derive(Clone, Debug)]
struct Candidate {
    name: String,
    /// Whether it keeps what is there.
    keeps: bool,
    values: Vec<(&'static str, &'static str, String)>,
}

/// A decision that a survey prepares.
#[derive(Clone)]
struct Question {
    entry: &'static Entry,
    slot: &'static Slot,
    candidates: Vec<Candidate>,
}

impl Question {
    fn new(entry: &'static Entry, slot: &'static Slot) -> Question {
        let words = |words: &[&str]| words.iter().map(|word| word.to_string()).collect();
        let values: Vec<String> = match (entry.setting, slot.kind) {
            (Setting::IndentSize, _) => words(&["2", "3", "4", "8", "tab"]),
            (Setting::MaxLineLength, _) => words(&["79", "80", "88", "100", "120", "140"]),
            (Setting::CommentGap, ValueKind::Number(..)) => words(&["1", "2"]),
            (_, ValueKind::Number(least, ..)) => {
                (least..least.max(1) + 2).map(|number| number.to_string()).collect()
            }
            (_, ValueKind::Word(all)) => words(all),
            (_, ValueKind::Flag) => words(&["true", "false"]),
            (_, ValueKind::FlagOrKeep) => words(&["true", "false", "keep"]),
        };
        let candidate = |name: String| {
            let tabs = entry.setting == Setting::IndentSize && name == "tab";
            let values = match tabs {
                true => vec![("indent_style", "", "tab".to_string())],
                false => vec![(entry.name, slot.key.name(), name.clone())],
            };
            Candidate { keeps: name.starts_with("keep"), name, values }
        };
        Question { entry, slot, candidates: values.into_iter().map(candidate).collect() }
    }
}

fn questions(language: &Language) -> Vec<Question> {
    let asked = slots().filter(|(entry, slot)| {
        language.has_slot(slot) && !NOT_ASKED.contains(&entry.setting)
    });
    asked
        .map(|(entry, slot)| Question::new(entry, slot))
        .filter(|question| {
            // Where a language of lines has one way only, there is nothing to ask.
            let asked = question.entry.setting;
            let mut defaults = language.defaults.iter();
            !defaults.any(|(setting, _, value)| {
                asked == *setting && asked == Setting::StatementEnd && *value == "bare"
            })
        })
        .collect()
}

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

/// What was found in a body of code in one language.
#[derive(Clone)]
pub struct Survey {
    /// How many files were read.
    pub files: usize,
    /// How many lines they have.
    pub lines: usize,
    language: &'static Language,
    base: Style,
    questions: Vec<Question>,
    prices: Vec<Vec<Price>>,
    /// The prices once everything is as proposed.
    settled: Option<Vec<Vec<Price>>>,
    /// Settings that stay as the community has them, whatever was found.
    as_usual: Vec<String>,
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
    /// Whether the language's community expects just this.
    pub usual: bool,
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
        let prices = questions
            .iter()
            .map(|question| vec![Price::default(); question.candidates.len()])
            .collect();
        Survey {
            files: 0,
            lines: 0,
            language,
            base,
            questions,
            prices,
            settled: None,
            as_usual: Vec::new(),
        }
    }

    /// The same survey with one setting left as the community has it. Its prices are those of the
    /// whole proposal until they are asked for [again](Survey::price_again).
    pub fn with_usual(&self, name: &str) -> Survey {
        let mut other = self.clone();
        other.as_usual.push(name.to_string());
        other
    }

    /// Looks once more at what each value costs while everything else is as proposed.
    pub fn price_again(&mut self, texts: &[&str], read: impl Fn(&[&str], Style) -> Survey) {
        self.settled = Some(read(texts, self.style()).prices);
    }

    /// Looks at a body of code three times: at some of it from the community's style, at all of it
    /// from what that found, and once more from what it then proposes, for the prices. `read` reads
    /// texts from a style, on as many threads as its caller likes.
    pub fn settle(
        texts: &[&str],
        language: &'static Language,
        read: impl Fn(&[&str], Style) -> Survey,
    ) -> Survey {
        let step = texts.len().div_ceil(FIRST_FILES).max(1);
        let some: Vec<&str> = texts.iter().copied().step_by(step).collect();
        let first = read(&some, language.style());
        let mut second = read(texts, first.style());
        let proposed = second.style();
        let settled = match proposed == second.base {
            true => second.prices.clone(),
            false => read(texts, proposed).prices,
        };
        second.settled = Some(settled);
        second
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
        for (question, prices) in self.questions.iter().zip(&mut self.prices) {
            for (candidate, price) in question.candidates.iter().zip(prices) {
                let style = with(&self.base, candidate);
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

    /// Adds another survey of the same language, begun with the same style.
    pub fn join(mut self, other: Survey) -> Survey {
        self.files += other.files;
        self.lines += other.lines;
        for (mine, theirs) in self.prices.iter_mut().zip(other.prices) {
            for (mine, theirs) in mine.iter_mut().zip(theirs) {
                mine.add(theirs);
            }
        }
        self
    }

    /// The answer to each question that the code says anything about.
    pub fn answers(&self) -> Vec<Answer> {
        let asked = self.questions.iter().zip(&self.prices).zip(self.settled());
        asked
            .filter_map(|((question, prices), settled)| {
                let mut answer = self.answer(question, prices, false)?;
                // Once all else is as proposed, the community's word may cost no more.
                let price = |name: &str| {
                    let place = question.candidates.iter().position(|c| c.name == name);
                    place.map(|place| settled[place].lines)
                };
                let usual = self.answer(question, prices, true).filter(|usual| {
                    self.settled.is_some() && price(&usual.proposed) <= price(&answer.proposed)
                });
                answer = usual.filter(|_| !answer.argued).unwrap_or(answer);
                let costs = question.candidates.iter().zip(settled);
                answer.costs = costs
                    .map(|(candidate, price)| Cost {
                        value: candidate.name.clone(),
                        lines: price.lines,
                        files: price.files,
                    })
                    .collect();
                Some(answer)
            })
            .collect()
    }

    /// Whether the guide of the language's community says itself that this stays as it stands.
    fn guide_keeps(&self, question: &Question) -> bool {
        let asked = (question.entry.setting, question.slot.key, "keep");
        self.language.defaults.contains(&asked)
    }

    fn settled(&self) -> &[Vec<Price>] {
        self.settled.as_ref().unwrap_or(&self.prices)
    }

    /// The style that disturbs the code least: the answers, and where the code says nothing, what
    /// the community expects.
    pub fn style(&self) -> Style {
        let mut style = self.language.style();
        for answer in self.answers() {
            set_all(&mut style, &answer.values);
        }
        style
    }

    /// What is proposed where the code says anything; with `as_usual`, what the community expects.
    fn answer(
        &self,
        question: &Question,
        prices: &[Price],
        as_usual: bool,
    ) -> Option<Answer> {
        let cheapest = prices.iter().map(|price| price.all).min()?;
        if prices.iter().all(|price| price.all == cheapest) {
            return None;
        }
        let per_thousand = |slips: usize| slips as f64 * 1000.0 / self.lines.max(1) as f64;
        let default = self.language.style();
        let is_usual = |c: &usize| with(&default, &question.candidates[*c]) == default;
        let strict: Vec<usize> =
            (0..prices.len()).filter(|c| !question.candidates[*c].keeps).collect();
        let mut order = strict.clone();
        // Between equals, what the community expects; then, of blank lines, the most.
        let counts_lines = question.entry.setting == Setting::BlankLines;
        let rank = |c: usize| if counts_lines { usize::MAX - c } else { c };
        order.sort_by_key(|c| (prices[*c].all, !is_usual(c), rank(*c)));
        let mut best = order[0];
        if let Some(usual) = order.iter().copied().find(is_usual)
            && per_thousand(prices[usual].all - prices[best].all) <= NOISE
        {
            best = usual;
        } else if question.entry.setting == Setting::MaxLineLength {
            // The shortest that costs hardly more than the cheapest.
            let hardly = |c: &usize| {
                let more = prices[*c].all - prices[best].all;
                more <= FEW || per_thousand(more) <= NOISE
            };
            best = strict.iter().copied().find(hardly).unwrap_or(best);
        }
        let keeping = (0..prices.len()).find(|c| question.candidates[*c].keeps);
        let own: Vec<usize> = strict.iter().map(|c| prices[*c].own).collect();
        let places = match own[..] {
            [a, b] => a + b,
            _ => own.iter().copied().max().unwrap_or(0),
        };
        if places < FEWEST_PLACES && own.iter().any(|own| *own > 0) {
            return None;
        }
        let share = |c: usize| match places {
            0 => 1.0,
            _ => places.saturating_sub(prices[c].own) as f64 / places as f64,
        };
        let argued = ARGUED.contains(&question.entry.setting);
        let agrees = argued && share(best) >= AGREEING;
        let lists = question.entry.setting == Setting::ListWrap;
        let name = question.slot.path(question.entry);
        let left = as_usual || self.as_usual.contains(&name);
        let usual = (0..prices.len()).find(is_usual).filter(|_| left);
        let chosen = match keeping {
            _ if usual.is_some() => usual?,
            // Nobody is divided over lists: what was opened by hand stays, unless that costs more.
            // What a language's guide wants kept is kept, too.
            Some(keeping)
                if (lists || self.guide_keeps(question))
                    && prices[keeping].all <= prices[best].all =>
            {
                keeping
            }
            Some(keeping)
                if (lists || !agrees)
                    && per_thousand(prices[best].all.saturating_sub(prices[keeping].all))
                        > STRICT_COSTS =>
            {
                keeping
            }
            _ => best,
        };
        let candidate = &question.candidates[chosen];
        Some(Answer {
            name,
            shares: order
                .iter()
                .map(|c| (question.candidates[*c].name.clone(), share(*c)))
                .collect(),
            places,
            proposed: candidate.name.clone(),
            values: candidate.values.clone(),
            price: prices[chosen].own,
            costs: Vec::new(),
            usual: is_usual(&chosen),
            argued,
        })
    }
}

/// The zero-based lines of `text` that its outcome would change.
pub fn changed_lines(text: &str, outcome: &Outcome) -> Vec<usize> {
    let lines = crate::text::Lines::new(text);
    let edits = outcome.edits.iter();
    let mut changed: Vec<usize> = edits
        .flat_map(|edit| {
            let last = edit.range.end.max(edit.range.start);
            lines.line_of(edit.range.start)..lines.line_of(last) + 1
        })
        .collect();
    changed.sort_unstable();
    changed.dedup();
    changed
}

fn with(style: &Style, candidate: &Candidate) -> Style {
    let mut style = style.clone();
    set_all(&mut style, &candidate.values);
    style
}

/// Sets a candidate's values; a size of indentation says that it is not of tabs.
fn set_all(style: &mut Style, values: &[(&'static str, &'static str, String)]) {
    for (name, key, value) in values {
        style.set(name, key, value).expect("a candidate is one of the values");
        if *name == "indent_size" {
            style.set("indent_style", "", "space").expect("a value of the registry");
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::languages;
    use crate::style::Key;

    #[test]
    fn the_code_says_what_it_does() {
        let python = languages::by_name("python").unwrap();
        let mut survey = Survey::new(python, python.style());
        survey.read("def ebb(a):\n  if a:\n    return 'low'\n  return 'high'\n");
        let said: Vec<String> = survey
            .answers()
            .iter()
            .map(|answer| format!("{} {} {}", answer.name, answer.proposed, answer.price))
            .collect();
        insta::assert_debug_snapshot!(said);
    }

    #[test]
    fn where_the_code_is_divided_nothing_is_asked() {
        let python = languages::by_name("python").unwrap();
        let mut survey = Survey::new(python, python.style());
        survey.read("a = 'low'\nb = \"high\"\n");
        assert!(survey.style().is(Setting::Quotes, Key::Whole, "keep"));
    }

    #[test]
    fn one_place_is_no_evidence() {
        let python = languages::by_name("python").unwrap();
        let quotes = |text: &str| {
            let mut survey = Survey::new(python, python.style());
            survey.read(text);
            survey.answers().iter().any(|answer| answer.name == "quotes")
        };
        assert!(!quotes("a = 'low'\n") && quotes("a = 'low'\nb = 'high'\n"));
    }

    #[test]
    fn a_setting_may_be_left_as_the_community_has_it() {
        let python = languages::by_name("python").unwrap();
        let mut survey = Survey::new(python, python.style());
        survey.read("a = 'low'\nb = 'high'\nc = f( 1 )\nd = f( 2 )\n");
        let gap = |survey: &Survey| survey.style().flag(Setting::InnerGap, Key::Parens);
        assert!(survey.style().is(Setting::Quotes, Key::Whole, "single") && gap(&survey));
        let left = survey.with_usual("inner_gap.parens");
        assert!(left.style().is(Setting::Quotes, Key::Whole, "single") && !gap(&left));
    }
}
