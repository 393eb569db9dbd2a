//! What a body of code mostly does already, setting by setting.
//!
//! A value's price is the number of slips that it would make; a setting's places are the ones that
//! its values disagree about. Both come from judging the code under each value, so that a survey
//! and a check can never count differently.

use crate::languages::Language;
use crate::layout::Sheet;
use crate::style::{Setting, Style};
use crate::syntax::Tree;
use crate::text::LineSet;
use std::collections::BTreeMap;

/// A value of a setting, or of several that are decided together.
#[derive(Clone, Copy, Debug)]
pub struct Candidate {
    /// How a person calls it.
    pub name: &'static str,
    /// Setting and value, for the canon.
    pub values: &'static [(&'static str, &'static str)],
}

/// A decision that a survey prepares.
#[derive(Clone, Copy, Debug)]
pub struct Question {
    /// How a person calls it.
    pub name: &'static str,
    /// The settings whose slips are its price.
    pub prices: &'static [Setting],
    /// What can be chosen.
    pub candidates: &'static [Candidate],
    /// Whether an agreement far from all places counts as "the community is divided here too".
    pub may_keep: bool,
}

/// What is asked of every language that has the settings.
pub const QUESTIONS: &[Question] = &[
    Question {
        name: "indent_size",
        prices: &[Setting::IndentSize, Setting::IndentStyle],
        candidates: &[
            Candidate { name: "2", values: &[("indent_size", "2")] },
            Candidate { name: "4", values: &[("indent_size", "4")] },
            Candidate { name: "8", values: &[("indent_size", "8")] },
            Candidate { name: "tab", values: &[("indent_style", "\"tab\"")] },
        ],
        may_keep: false,
    },
    Question {
        name: "quotes",
        prices: &[Setting::Quotes],
        candidates: &[
            Candidate { name: "double", values: &[("quotes", "\"double\"")] },
            Candidate { name: "single", values: &[("quotes", "\"single\"")] },
        ],
        may_keep: true,
    },
    Question {
        name: "statement_end",
        prices: &[Setting::StatementEnd],
        candidates: &[
            Candidate { name: "semicolon", values: &[("statement_end", "\"semicolon\"")] },
            Candidate { name: "bare", values: &[("statement_end", "\"bare\"")] },
        ],
        may_keep: true,
    },
    Question {
        name: "open_brace",
        prices: &[Setting::OpenBrace],
        candidates: &[
            Candidate { name: "same_line", values: &[("open_brace", "\"same_line\"")] },
            Candidate { name: "next_line", values: &[("open_brace", "\"next_line\"")] },
        ],
        may_keep: false,
    },
];

/// Line lengths that a survey proposes.
pub const LENGTHS: &[usize] = &[79, 88, 100, 120];

/// Share of the lines that must fit a proposed length.
const FITTING: f64 = 0.99;

/// Share of the places that must agree before a value is proposed where the language has none.
const AGREEING: f64 = 0.6;

/// The answers of a body of code in one language.
#[derive(Clone, Debug, Default)]
pub struct Survey {
    /// How many files were read.
    pub files: usize,
    /// How many lines they have.
    pub lines: usize,
    prices: BTreeMap<(usize, usize), usize>,
    longer: BTreeMap<usize, usize>,
}

/// One question's answer.
#[derive(Clone, Debug, PartialEq)]
pub struct Answer {
    /// The setting, as a person calls it.
    pub name: &'static str,
    /// Each candidate with the share of places that agree with it, the best first.
    pub shares: Vec<(&'static str, f64)>,
    /// How many places there are.
    pub places: usize,
    /// What is proposed: setting and value for the canon.
    pub proposed: Vec<(String, String)>,
    /// How many places the proposal would change.
    pub price: usize,
}

impl Survey {
    /// Reads one more file. Call it from as many threads as there are surveys; [`Survey::join`]
    /// brings them together.
    pub fn read(&mut self, text: &str, language: &Language) {
        let Some(tree) = Tree::parse(&language.grammar, text) else { return };
        if tree.nodes.first().is_none_or(|root| root.fault) {
            return;
        }
        self.files += 1;
        for line in text.lines() {
            self.lines += 1;
            let columns = line.chars().count();
            for length in LENGTHS {
                *self.longer.entry(*length).or_default() += usize::from(columns > *length);
            }
        }
        for (q, question) in QUESTIONS.iter().enumerate() {
            if !asked(question, language) {
                continue;
            }
            for (c, candidate) in question.candidates.iter().enumerate() {
                let style = with(language.style(), candidate);
                let slips = Sheet::new(&tree, text, &style, language.rule).judge(&LineSet::whole());
                let price =
                    slips.slips.iter().filter(|slip| question.prices.contains(&slip.setting));
                *self.prices.entry((q, c)).or_default() += price.count();
            }
        }
    }

    /// Adds another survey of the same language.
    pub fn join(mut self, other: Survey) -> Survey {
        self.files += other.files;
        self.lines += other.lines;
        for (key, count) in other.prices {
            *self.prices.entry(key).or_default() += count;
        }
        for (length, count) in other.longer {
            *self.longer.entry(length).or_default() += count;
        }
        self
    }

    /// The answer to each question that the language has and the code says anything about.
    pub fn answers(&self, language: &Language) -> Vec<Answer> {
        let mut answers: Vec<Answer> = QUESTIONS
            .iter()
            .enumerate()
            .filter(|(_, question)| asked(question, language))
            .filter_map(|(q, question)| self.answer(q, question))
            .collect();
        answers.extend(self.length(language));
        answers
    }

    fn answer(&self, q: usize, question: &Question) -> Option<Answer> {
        let price = |c: usize| self.prices.get(&(q, c)).copied().unwrap_or(0);
        let all: Vec<usize> = (0..question.candidates.len()).map(price).collect();
        // Of two values, each place follows one. Of more, the worst one says how many places there
        // are.
        let places = match all[..] {
            [a, b] => a + b,
            _ => all.iter().copied().max().unwrap_or(0),
        };
        if places == 0 {
            return None;
        }
        let share = |c: usize| (places - price(c)) as f64 / places as f64;
        let mut order: Vec<usize> = (0..all.len()).collect();
        order.sort_by_key(|c| price(*c));
        let best = order[0];
        let divided = question.may_keep && share(best) < AGREEING;
        let values = question.candidates[best].values.iter();
        let proposed = match divided {
            true => vec![(question.name.to_string(), "\"keep\"".to_string())],
            false => values.map(|(name, value)| (name.to_string(), value.to_string())).collect(),
        };
        Some(Answer {
            name: question.name,
            shares: order.iter().map(|c| (question.candidates[*c].name, share(*c))).collect(),
            places,
            proposed,
            price: if divided { 0 } else { price(best) },
        })
    }

    /// The length that the community expects, if the lines fit it; else the next one that they fit.
    fn length(&self, language: &Language) -> Option<Answer> {
        if self.lines == 0 {
            return None;
        }
        let longer = |length: &usize| self.longer.get(length).copied().unwrap_or(0);
        let share = |length: &usize| 1.0 - longer(length) as f64 / self.lines as f64;
        let usual = language.style().number(Setting::MaxLineLength, "").unwrap_or(0) as usize;
        let chosen = LENGTHS.iter().find(|length| **length >= usual && share(length) >= FITTING);
        let chosen = chosen.or(LENGTHS.last())?;
        let names = ["79", "88", "100", "120"];
        Some(Answer {
            name: "max_line_length",
            shares: LENGTHS.iter().zip(names).map(|(length, name)| (name, share(length))).collect(),
            places: self.lines,
            proposed: vec![("max_line_length".into(), chosen.to_string())],
            price: longer(chosen),
        })
    }
}

/// Whether a language has the settings of a question, each with more than one value in it.
fn asked(question: &Question, language: &Language) -> bool {
    let fixed = |name: &str| {
        language.defaults.iter().any(|(setting, _, _)| *setting == name)
            && name == "statement_end"
    };
    let names = question.candidates.iter().flat_map(|candidate| candidate.values);
    names.into_iter().all(|(name, _)| language.has(name) && !fixed(name))
}

fn with(mut style: Style, candidate: &Candidate) -> Style {
    for (name, value) in candidate.values {
        style.set(name, "", value.trim_matches('"')).expect("a candidate is one of the values");
    }
    style
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::languages;

    #[test]
    fn the_code_says_what_it_does() {
        let python = languages::by_name("python").unwrap();
        let mut survey = Survey::default();
        survey.read("def ebb(a):\n  if a:\n    return 'low'\n  return 'high' + \"tide\"\n", python);
        let answers = survey.answers(python);
        let proposed: Vec<_> = answers.iter().flat_map(|answer| &answer.proposed).collect();
        insta::assert_debug_snapshot!(proposed, @r#"
        [
            (
                "indent_size",
                "2",
            ),
            (
                "quotes",
                "\"single\"",
            ),
            (
                "max_line_length",
                "79",
            ),
        ]
        "#);
    }
}
