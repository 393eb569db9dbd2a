//! Which value of a setting is proposed, from what each of them costs.

use super::questions::Question;
use super::{Price, Survey};
use crate::style::{Key, Setting};

/// In a thousand lines: a value that is not the community's, and that few places speak for, has to
/// be cheaper by more than this; and one that keeps what is there is proposed where its best rival
/// would change so many lines more.
pub(super) const CLEARLY: f64 = 3.0;

/// In a thousand lines: what a value may cost that is stricter than the community's.
pub(super) const HARDLY: f64 = 1.0;

/// In a thousand lines: a difference in price that says nothing.
const NOISE: f64 = 0.2;

/// In fewer places than these, code says nothing for a value.
pub(super) const FEWEST_PLACES: usize = 5;

/// Share of the places that is most of them.
const AGREEING: f64 = 0.7;

/// Share of the places, or of the lines, that is nearly all of them.
const NEARLY_ALL: f64 = 0.9;

/// Share of the lines that could be broken which are no longer than lines may be, and of the edges of blocks
/// that have no more blank lines.
const FITTING: f64 = 0.99;

/// So many long lines, or edges, say nothing in a small body of code.
const FEW_LINES: usize = 2;

/// What teams argue about: settled by nearly all of the places, where the others do not clearly cost more
/// than to leave them as they stand.
const ARGUED: &[Setting] = &[Setting::Quotes, Setting::MarkupQuotes, Setting::StatementEnd];

/// How the values of one question compare.
pub(super) struct Choice<'s> {
    survey: &'s Survey,
    question: &'s Question,
    prices: &'s [Price],
    /// Where the community's value is among the candidates.
    usual: Option<usize>,
    /// At how many places each candidate is not what the code has.
    against: Vec<usize>,
    /// At how many places the setting says anything.
    pub(super) places: usize,
}

impl<'s> Choice<'s> {
    pub(super) fn new(survey: &'s Survey, question: &'s Question, prices: &'s [Price]) -> Self {
        let usual = question.in_style(&survey.usual);
        let candidates = question.candidates.iter().zip(prices);
        let keeping = candidates.clone().filter(|(c, _)| c.keeps).map(|(_, price)| price.all).min();
        // Of a setting that says "at least", and of the edges of blocks: what its other keys ask for.
        let is_edges = question.slot.key == Key::AtEdges;
        let least = || candidates.clone().map(|(_, price)| price.own).min().unwrap_or(0);
        let others = match question.probe {
            Some(_) => prices[0].own,
            None if is_edges => least(),
            None => 0,
        };
        // Slips that a value alone makes: more than one that keeps what is there, or else its own.
        let against: Vec<usize> = candidates
            .clone()
            .map(|(_, price)| keeping.map_or(price.own, |keep| price.all.saturating_sub(keep)))
            .map(|against| against.saturating_sub(others))
            .collect();
        let strict: Vec<usize> =
            candidates.zip(&against).filter(|((c, _), _)| !c.keeps).map(|(_, n)| *n).collect();
        let probed = question.probe.as_ref().and_then(|_| prices.last());
        let places = match (probed, &strict[..]) {
            _ if question.entry.setting == Setting::MaxLineLength => survey.lengths.breakable,
            // Every line has an end.
            _ if question.entry.setting == Setting::TrimTrailingWhitespace => survey.lines,
            _ if is_edges => survey.edges.max(strict.iter().copied().max().unwrap_or(0)),
            (Some(probed), _) => probed.own.saturating_sub(others),
            (None, [a, b]) => a + b,
            _ => strict.iter().copied().max().unwrap_or(0),
        };
        Choice { survey, question, prices, usual, against, places }
    }

    /// Which share of the places agrees with a candidate; of the lines that could be broken, which
    /// share is no longer.
    pub(super) fn share(&self, candidate: usize) -> f64 {
        if self.question.entry.setting == Setting::MaxLineLength {
            return self.survey.lengths.fitting[candidate] as f64 / self.places.max(1) as f64;
        }
        match self.places {
            0 => 1.0,
            places => places.saturating_sub(self.against[candidate]) as f64 / places as f64,
        }
    }

    /// The candidates that keep nothing, the cheapest first; between equals, what the community
    /// expects, then, of blank lines, the most.
    pub(super) fn strict(&self) -> Vec<usize> {
        let candidates = &self.question.candidates;
        let mut order: Vec<usize> =
            (0..candidates.len()).filter(|c| !candidates[*c].keeps).collect();
        let counts_lines = self.question.entry.setting == Setting::BlankLines;
        let rank = |c: usize| if counts_lines { usize::MAX - c } else { c };
        order.sort_by_key(|c| (self.prices[*c].all, Some(*c) != self.usual, rank(*c)));
        order
    }

    /// The candidates that keep nothing, in the order in which they are told: the longest lines
    /// that are asked for say least.
    pub(super) fn told(&self) -> Vec<usize> {
        match (self.question.entry.setting, self.line_length()) {
            (Setting::MaxLineLength, Some(fitting)) => vec![fitting],
            _ => self.strict(),
        }
    }

    /// How many slips one value makes more than another, in a thousand.
    fn more(&self, one: usize, other: usize) -> f64 {
        let (one, other) = (self.prices[one].all, self.prices[other].all);
        self.in_a_thousand(one as f64 - other as f64)
    }

    /// So many places, in a thousand lines.
    fn in_a_thousand(&self, places: f64) -> f64 {
        places * 1000.0 / self.survey.lines.max(1) as f64
    }

    /// Whether one value makes clearly more slips than another: in a thousand lines, and in as many
    /// places as speak for anything. For one odd line nothing is left as it stands.
    fn is_clearly_more(&self, one: usize, other: usize) -> bool {
        let more = self.prices[one].all.saturating_sub(self.prices[other].all);
        more >= FEWEST_PLACES && self.more(one, other) > CLEARLY
    }

    /// Whether one value makes hardly more slips than another: in a thousand lines, or in fewer places
    /// than speak for anything.
    fn is_hardly_more(&self, one: usize, other: usize) -> bool {
        let more = self.prices[one].all.saturating_sub(self.prices[other].all);
        more < FEWEST_PLACES || self.more(one, other) <= HARDLY
    }

    /// Whether the code says anything about it.
    fn is_silent(&self) -> bool {
        let candidates = &self.prices[..self.question.candidates.len()];
        let is_of_lines = matches!(
            self.question.entry.setting,
            Setting::MaxLineLength | Setting::TrimTrailingWhitespace
        );
        let is_asked_of_all = is_of_lines || self.question.slot.key == Key::AtEdges;
        candidates.iter().all(|price| price.all == candidates[0].all)
            && (self.places == 0 || is_asked_of_all)
    }

    /// Whether most places speak for a value, and there are enough of them.
    fn agrees(&self, candidate: usize, share: f64) -> bool {
        self.places >= FEWEST_PLACES && self.share(candidate) >= share
    }

    /// Whether nearly all places decide, though the others cost something.
    pub(super) fn is_argued(&self) -> bool {
        ARGUED.contains(&self.question.entry.setting)
    }

    /// The place of the candidate that is proposed; `None` where the code says nothing.
    pub(super) fn proposed(&self) -> Option<usize> {
        if self.is_silent() {
            return None;
        }
        if self.question.entry.setting == Setting::MaxLineLength {
            return self.line_length();
        }
        if self.question.probe.is_some() {
            return self.at_least();
        }
        if self.question.slot.key == Key::AtEdges {
            return self.at_most();
        }
        let best = *self.strict().first()?;
        let keeping = self.keeping();
        let Some(keeping) = keeping else { return Some(self.against_usual(best)) };
        if self.is_argued()
            && self.agrees(best, NEARLY_ALL)
            && !self.is_clearly_more(best, keeping)
        {
            return Some(best);
        }
        if let Some(usual) = self.usual.filter(|usual| self.question.candidates[*usual].keeps) {
            // The community keeps it: only what hardly costs anything, and most places do, is
            // stricter.
            let is_stricter = match self.question.entry.setting {
                Setting::ListWrap => self.is_clearly_more(usual, best),
                _ => {
                    self.agrees(best, AGREEING)
                        && self.is_hardly_more(best, usual)
                        && self.is_asked()
                }
            };
            let keeps_less = self.more(keeping, usual) <= NOISE;
            return Some(match is_stricter {
                true => best,
                false if keeps_less => keeping,
                false => usual,
            });
        }
        let costs = self.more(best, keeping);
        // Where the code is divided, nothing is asked.
        let is_divided = self.strict().len() > 1
            && self.places >= FEWEST_PLACES
            && !self.agrees(best, AGREEING)
            && self.prices[best].all >= self.prices[keeping].all + FEWEST_PLACES;
        // Nor is it where more than a few do otherwise, and changing them costs something.
        let is_mixed = self.places >= FEWEST_PLACES
            && !self.agrees(best, NEARLY_ALL)
            && self.prices[best].all >= self.prices[keeping].all + FEWEST_PLACES
            && costs > HARDLY;
        let keeps = self.is_clearly_more(best, keeping) || is_divided || is_mixed;
        Some(if keeps { keeping } else { self.against_usual(best) })
    }

    /// Whether a stricter value than the community's is a team's to want: what its guide keeps
    /// itself is not asked about, but for what everybody argues about.
    fn is_asked(&self) -> bool {
        let asked = (self.question.entry.setting, self.question.slot.key, "keep");
        !self.survey.language.defaults.contains(&asked)
    }

    /// The value that keeps what is there: where several do, the one that keeps least, unless
    /// another is clearly cheaper.
    fn keeping(&self) -> Option<usize> {
        let candidates = &self.question.candidates;
        let keeping = (0..candidates.len()).filter(|c| candidates[*c].keeps);
        keeping.reduce(|one, other| if self.is_clearly_more(one, other) { other } else { one })
    }

    /// The cheapest value, or the community's where that costs hardly more, or few places speak
    /// against it, or where the setting's own places speak for it and others are all that it costs.
    fn against_usual(&self, best: usize) -> usize {
        let Some(usual) = self.usual.filter(|usual| !self.question.candidates[*usual].keeps) else {
            return best;
        };
        let own = self.prices[best].own.saturating_sub(self.prices[usual].own);
        if own >= FEWEST_PLACES && self.in_a_thousand(own as f64) > CLEARLY {
            return usual;
        }
        let is_cheaper = match self.agrees(best, AGREEING) {
            true => self.more(usual, best) > NOISE,
            // Where no place speaks for it, a slip or two of other settings do not, either.
            false if self.places == 0 => self.is_clearly_more(usual, best),
            false => self.more(usual, best) > CLEARLY,
        };
        if is_cheaper { best } else { usual }
    }

    /// The smallest length that nearly all of the lines keep which could be broken, or another one where
    /// that disturbs fewer lines: what is too long is broken, and what was broken for less may be joined.
    fn line_length(&self) -> Option<usize> {
        let lengths = &self.survey.lengths;
        let beyond = |candidate: usize| lengths.breakable - lengths.fitting[candidate];
        let smallest = (self.places >= FEWEST_PLACES).then(|| self.first_that_fits(beyond))?;
        let last = self.question.candidates.len() - 1;
        (smallest..last + 1).chain((0..smallest).rev()).reduce(|best, other| {
            // Some limit is better than none, and one that nearly all lines keep than a narrower one.
            let enough = if other == last || other < smallest { HARDLY } else { NOISE };
            let spared = self.prices[best].lines.saturating_sub(self.prices[other].lines);
            let is_worth_it = self.in_a_thousand(spared as f64) > enough;
            if spared >= FEWEST_PLACES && is_worth_it { other } else { best }
        })
    }

    /// The first candidate that nearly all places keep to, by how many do not, or the last one. What is
    /// narrower than the community's has to be kept by more than a handful.
    fn first_that_fits(&self, beyond: impl Fn(usize) -> usize) -> usize {
        let last = self.question.candidates.len() - 1;
        let few = |candidate: &usize| {
            let is_few = self.usual.is_none_or(|usual| *candidate >= usual)
                && beyond(*candidate) <= FEW_LINES;
            is_few || beyond(*candidate) as f64 <= self.places as f64 * (1.0 - FITTING)
        };
        (0..last).find(few).unwrap_or(last)
    }

    /// Of the blank lines at the edges of blocks: as many as the community expects, or the fewest that
    /// nearly all edges keep to where those are more.
    fn at_most(&self) -> Option<usize> {
        if self.places < FEWEST_PLACES {
            return self.usual;
        }
        Some(self.first_that_fits(|candidate| self.against[candidate])).max(self.usual)
    }

    /// Of a setting that says "at least": the most that nine places in ten have.
    fn at_least(&self) -> Option<usize> {
        if self.places < FEWEST_PLACES {
            return self.usual;
        }
        let is_most = |candidate: &usize| {
            self.share(*candidate) >= NEARLY_ALL && !self.is_clearly_more(*candidate, 0)
        };
        (0..self.question.candidates.len()).rev().find(is_most).or(Some(0))
    }
}
