//! The core of Kanonix: text in, edits out.
//!
//! It knows no files, no git, no clock, no terminal and no threads. One call, [`judge`], takes a
//! text, its language, the agreed style and the lines in play, and gives the edits that make those
//! lines follow the style, the slips that these edits mend, and the stretches that do not parse.
//!
//! ```
//! use kanonix_core::{judge, languages, text::{LineSet, apply}};
//! let python = languages::by_name("python").unwrap();
//! let text = "level=h+2\nebb=level\n";
//! let outcome = judge(text, python, &python.style(), &LineSet::of([0..1]));
//! assert_eq!(outcome.slips[0].message, "one space on each side of `=`");
//! assert_eq!(apply(text, &outcome.edits), "level = h + 2\nebb=level\n");
//! ```
//!
//! Arrows run one way: [`languages`] to [`layout`] to [`syntax`] to [`text`], with [`style`] beside
//! them; [`proof`] holds the result against what was there.

#[cfg(test)]
extern crate self as kanonix_core;

mod document;
pub mod languages;
pub mod layout;
pub mod proof;
pub mod properties;
pub mod style;
pub mod survey;
pub mod syntax;
pub mod text;

pub use document::Document;
pub use document::deciding::Decided;
use document::embedded::Inner;
use languages::Language;
use layout::Sheet;
pub use layout::kept::Keep;
pub use layout::compare::Slip;
pub use layout::plan::Remark;
use layout::compare::Declared;
use layout::moves::Rearranged;
pub use proof::Difference;
use std::ops::Range;
use style::Style;
use syntax::Tree;
use text::{Bases, Edit, LineSet};
use thiserror::Error;

/// Why there is no verdict about a text.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Error)]
pub enum Unjudged {
    /// The parser gave up: it takes more steps than any text of people does.
    #[error("reading it takes too long, so it is not judged and stays as it is")]
    Parser,
    /// Each mending found more to mend.
    #[error(
        "mending it does not come to an end, so it stays as it is. Please report it to Kanonix with \
         its canon"
    )]
    Rounds,
}

/// What is said about a text.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Outcome {
    /// What makes the live lines follow the style.
    pub edits: Vec<Edit>,
    /// The places where they do not, in the order of the text.
    pub slips: Vec<Slip>,
    /// Stretches that do not parse, in bytes; an empty one is a place where something is missing.
    pub faults: Vec<Range<usize>>,
    /// Zero-based lines in play that are longer than agreed, and that mending leaves as they are.
    pub long_lines: Vec<usize>,
    /// What else is said of lines in play.
    pub remarks: Vec<Remark>,
    /// Slips on lines that are not live, if they were asked for.
    pub older: usize,
    /// What could not be proved when the text was mended: the statement there stays as it is.
    pub refused: Option<Difference>,
    /// Why nothing is said at all.
    pub unjudged: Option<Unjudged>,
    declared: Vec<Declared>,
    rearranged: Vec<Rearranged>,
    /// What was found in other languages.
    embedded: Vec<Inner>,
}

impl Outcome {
    /// Whether nothing has to change.
    pub fn is_clean(&self) -> bool {
        self.edits.is_empty()
    }

    /// How many constructs go, as the style asks. The program says something else without them: that
    /// they may go is not proved, only that nothing else does.
    pub fn dropped(&self) -> usize {
        let dropped = self.rearranged.iter().map(|change| match change {
            Rearranged::Order(_) => 0,
            Rearranged::Dropped(constructs) => constructs.len(),
        });
        dropped.sum()
    }

    /// The same without anything that has to change.
    fn without_edits(self) -> Outcome {
        let Outcome { faults, long_lines, remarks, .. } = self;
        Outcome { faults, long_lines, remarks, ..Outcome::default() }
    }
}

/// Judges the lines of `set`.
pub fn judge(text: &str, language: &Language, style: &Style, set: &LineSet) -> Outcome {
    Document::new(text, language).judge(style, set)
}

/// As [`judge`], and counts the slips on all the other lines too.
pub fn judge_with_older(text: &str, language: &Language, style: &Style, set: &LineSet) -> Outcome {
    Document::new(text, language).judge_with_older(style, set)
}

/// A text that follows the style on the live lines, with its proof.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Mended {
    /// The whole text; the old one where nothing had to change.
    pub text: String,
    /// What was judged before it changed.
    pub outcome: Outcome,
}

/// Mends the lines of `set`, and proves that the program is the same.
///
/// # Errors
/// The [`Difference`] that the mended text would make. It is a fault of Kanonix, never of the text.
pub fn mend(
    text: &str,
    language: &Language,
    style: &Style,
    set: &LineSet,
) -> Result<Mended, Difference> {
    Document::new(text, language).mend(style, set)
}

/// Mends the lines of `text` that `base` does not have, until a comparison with `base` finds
/// nothing more to mend.
///
/// # Errors
/// As [`mend`].
pub fn mend_since(
    base: &str,
    text: &str,
    language: &Language,
    style: &Style,
) -> Result<Mended, Difference> {
    Document::new(text, language).mend_since(&Bases::of([base]), style)
}

/// The comments of a text that ask for something to be kept as it stands.
///
/// ```
/// use kanonix_core::{keeps, languages};
/// let python = languages::by_name("python").unwrap();
/// let keeps = keeps("a=1  # kanonix: keep\nb = 'kanonix: keep'\n", python);
/// assert!(keeps.len() == 1 && keeps[0].comment == (5..20) && keeps[0].is_ended);
/// ```
pub fn keeps(text: &str, language: &Language) -> Vec<Keep> {
    if !Sheet::may_keep(text) {
        return Vec::new();
    }
    let Some(tree) = Tree::parse(&language.grammar, text) else { return Vec::new() };
    let mut keeps = Sheet::keeps(&tree, text);
    for passage in language.embeds.iter().flat_map(|embeds| (embeds.find)(&tree, text)) {
        let Some(inner) = languages::by_name(passage.language) else { continue };
        let start = passage.bytes.start;
        keeps.extend(self::keeps(&text[passage.bytes], inner).into_iter().map(|keep| Keep {
            comment: keep.comment.start + start..keep.comment.end + start,
            ..keep
        }));
    }
    keeps.sort_by_key(|keep| keep.comment.start);
    keeps
}

/// What decides the gaps of a zero-based line, in the order of the line.
pub fn decided(
    text: &str,
    language: &Language,
    style: &Style,
    line: usize,
) -> Vec<Decided> {
    Document::new(text, language).decided(style, line)
}

/// Reads the plan of a text: how many units there are, how many of them hold a construct that no
/// rule knows, and the first lines of such constructs. For the workshop.
pub fn kept_units(text: &str, language: &Language) -> (usize, usize, Vec<usize>) {
    let style = language.style();
    let Some(tree) = Tree::parse(&language.grammar, text) else { return (0, 0, Vec::new()) };
    if tree.nodes.first().is_none_or(|root| root.fault) {
        return (1, 0, Vec::new());
    }
    let sheet = Sheet::new(&tree, text, &style, language.rule);
    let (units, kept) = sheet.kept();
    (units, kept, sheet.kept_places().collect())
}
