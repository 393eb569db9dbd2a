//! What is asked of a body of code: the registry's own settings, each with the values that may
//! answer.

use crate::languages::Language;
use crate::style::{Entry, Key, Setting, Slot, Style, ValueKind, keeps, slots};

/// Settings that are not a matter of how code is laid out, or that no price can decide: whoever
/// wants them says so.
const NOT_ASKED: &[Setting] = &[
    Setting::IndentStyle,
    Setting::TabWidth,
    Setting::EndOfLine,
    Setting::Charset,
    Setting::BareBody,
    Setting::WrapParens,
    Setting::LeadingBar,
    Setting::ShownSpace,
    Setting::MemberOrder,
    Setting::UnusedImports,
];

/// What the name of a size of indentation ends with that is made of tabs and spaces.
const MIXED: &str = " mixed";

/// How wide a tab is where it is more than a step.
const USUAL_TAB: &str = "8";

/// More blank lines than anybody has.
const NEVER: &str = "8";

/// A value of a setting, with the settings that it is made of.
#[derive(Clone, Debug)]
pub(super) struct Candidate {
    pub(super) name: String,
    /// Whether it keeps what is there.
    pub(super) keeps: bool,
    pub(super) values: Vec<(&'static str, &'static str, String)>,
}

impl Candidate {
    fn new(entry: &'static Entry, slot: &'static Slot, name: String) -> Candidate {
        let is_size = entry.setting == Setting::IndentSize;
        let values = match name.strip_suffix(MIXED).filter(|_| is_size) {
            Some(size) => vec![
                ("indent_style", "", "mixed".to_string()),
                ("tab_width", "", USUAL_TAB.to_string()),
                (entry.name, slot.key.name(), size.to_string()),
            ],
            None if is_size && name == "tab" => vec![("indent_style", "", name.clone())],
            None => vec![(entry.name, slot.key.name(), name.clone())],
        };
        let lets_be = entry.setting == Setting::TrimTrailingWhitespace && name == "false";
        Candidate { keeps: keeps(&name) || name == "keep_open" || lets_be, name, values }
    }

    /// A style with its values; a size of indentation alone says that it is not of tabs.
    pub(super) fn set(&self, style: &mut Style) {
        if let [("indent_size", ..)] = self.values[..] {
            style.set("indent_style", "", "space").expect("a value of the registry");
        }
        for (name, key, value) in &self.values {
            style.set(name, key, value).expect("a candidate is one of the values");
        }
    }

    pub(super) fn within(&self, style: &Style) -> Style {
        let mut style = style.clone();
        self.set(&mut style);
        style
    }
}

/// A decision that a survey prepares.
#[derive(Clone)]
pub(super) struct Question {
    pub(super) entry: &'static Entry,
    pub(super) slot: &'static Slot,
    pub(super) candidates: Vec<Candidate>,
    /// Of a setting that says "at least": a value that no place has, so that its price counts them.
    pub(super) probe: Option<Candidate>,
}

impl Question {
    fn new(entry: &'static Entry, slot: &'static Slot) -> Question {
        let words = |words: &[&str]| words.iter().map(|word| word.to_string()).collect();
        let values: Vec<String> = match (entry.setting, slot.kind) {
            (Setting::IndentSize, _) => words(&[
                "1", "2", "3", "4", "8", "tab", "2 mixed", "3 mixed", "4 mixed",
            ]),
            (Setting::MaxLineLength, _) => words(&[
                "79",
                "80",
                "88",
                "100",
                "120",
                "140",
                "160",
                "200",
                "off",
            ]),
            (Setting::CommentGap, ValueKind::Number(..)) => words(&["1", "2", "keep"]),
            (_, ValueKind::Number(least, _, others)) => {
                let numbers = (least..least.max(1) + 2).map(|number| number.to_string());
                numbers.chain(words(others)).collect()
            }
            _ => words(&slot.words()),
        };
        let is_at_least = entry.setting == Setting::BlankLines
            && !matches!(slot.key, Key::Most | Key::AtEdges);
        Question {
            entry,
            slot,
            candidates: values.into_iter().map(|v| Candidate::new(entry, slot, v)).collect(),
            probe: is_at_least.then(|| Candidate::new(entry, slot, NEVER.into())),
        }
    }

    /// The same with the candidates that anybody has in a language: a line is a column shorter than a
    /// round number only where the community says so.
    fn as_told_in(mut self, language: &Language) -> Question {
        let usual = language.style().number(Setting::MaxLineLength, Key::Whole);
        let is_odd = |candidate: &Candidate| {
            self.entry.setting == Setting::MaxLineLength
                && candidate.name == "79"
                && usual != Some(79)
        };
        self.candidates.retain(|candidate| !is_odd(candidate));
        self
    }

    /// The setting, with its key after a point, as a person calls it.
    pub(super) fn name(&self) -> String {
        self.slot.path(self.entry)
    }

    /// The style that says what a candidate costs beside the others: what stays on its header's
    /// line does so with the blanks that it has, as those are another question.
    pub(super) fn priced(&self, candidate: &Candidate, base: &Style) -> Style {
        let mut style = candidate.within(base);
        if self.entry.setting == Setting::FlatBlock {
            style.set("inner_gap", "block", "keep").expect("a value of the registry");
        }
        style
    }

    /// Whether an answer to it waits for one to another question, which says what it is about: how
    /// many steps lines are in comes before how wide a step is (in a page it is the other way
    /// round) and where else they may stand, columns before the blanks that make them, and what
    /// stays on its line before what is in it.
    pub(super) fn waits_for(&self, other: &Question) -> bool {
        match other.entry.setting {
            Setting::WrapIndent => self.entry.setting == Setting::WrapAlign,
            Setting::Columns => matches!(
                self.entry.setting,
                Setting::PairGap | Setting::OperatorGap | Setting::CommentGap
            ),
            Setting::FlatBlock => self.slot.key == Key::Block,
            Setting::NamespaceIndent => self.entry.setting == Setting::IndentSize,
            // What is no step further in shows nothing of how wide one is.
            Setting::IndentSize => self.entry.setting == Setting::PageIndent,
            Setting::PageIndent if other.slot.key == Key::Element => {
                self.entry.setting == Setting::PageIndent && self.slot.key != Key::Element
            }
            _ => false,
        }
    }

    /// Whether an answer to one of both says something else once the other has one: how wide a step is,
    /// and what is one further in of a page or of a namespace.
    pub(super) fn speaks_with(&self, other: &Question) -> bool {
        let is_inside = |setting| matches!(setting, Setting::PageIndent | Setting::NamespaceIndent);
        match (self.entry.setting, other.entry.setting) {
            (Setting::PageIndent, Setting::PageIndent) => self.slot.key != other.slot.key,
            (Setting::IndentSize, other) => is_inside(other),
            (own, Setting::IndentSize) => is_inside(own),
            _ => false,
        }
    }

    /// Of a size of indentation made of tabs and spaces: the place of the same one of spaces alone.
    pub(super) fn plain(&self, place: usize) -> Option<usize> {
        let size = self.candidates[place].name.strip_suffix(MIXED)?;
        self.candidates.iter().position(|candidate| candidate.name == size)
    }

    /// The place of the candidate that a style has.
    pub(super) fn in_style(&self, style: &Style) -> Option<usize> {
        self.candidates.iter().position(|candidate| candidate.within(style) == *style)
    }
}

/// What is asked about a language.
pub(super) fn questions(language: &Language) -> Vec<Question> {
    let asked = slots().filter(|(entry, slot)| {
        let has_answers = slot.kind != ValueKind::List(&[]);
        language.has_slot(slot) && has_answers && !NOT_ASKED.contains(&entry.setting)
    });
    asked
        .map(|(entry, slot)| Question::new(entry, slot))
        .map(|question| question.as_told_in(language))
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
