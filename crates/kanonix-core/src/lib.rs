//! The core of Kanonix: text in, edits out.
//!
//! It knows no files, no git, no clock, no terminal and no threads. One call, [`judge`], takes a
//! text, its language, the agreed style and the lines in play, and gives the edits that make those
//! lines follow the style, the slips that these edits mend, and the stretches that do not parse.
//!
//! ```
//! use kanonix_core::{judge, languages, text::{LineSet, apply}};
//! let python = languages::by_name("python").unwrap();
//! let text = "level=h*2\nebb=level\n";
//! let outcome = judge(text, python, &python.style(), &LineSet::of([0..1]));
//! assert_eq!(outcome.slips[0].message, "one blank on each side of `=`");
//! assert_eq!(apply(text, &outcome.edits), "level = h * 2\nebb=level\n");
//! ```
//!
//! Arrows run one way: [`languages`] to [`layout`] to [`syntax`] to [`text`], with [`style`] beside
//! them; [`proof`] holds the result against what was there.

pub mod languages;
pub mod layout;
pub mod proof;
pub mod properties;
pub mod style;
pub mod survey;
pub mod syntax;
pub mod text;

use languages::Language;
use layout::Sheet;
pub use layout::compare::Slip;
use layout::compare::{Comparison, Declared};
pub use proof::Difference;
use std::ops::Range;
use style::Style;
use syntax::Tree;
use text::{Edit, LineSet, apply};

/// What is said about a text.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Outcome {
    /// What makes the live lines follow the style.
    pub edits: Vec<Edit>,
    /// The places where they do not, in the order of the text.
    pub slips: Vec<Slip>,
    /// Stretches that do not parse, in bytes; an empty one is a place where something is missing.
    pub faults: Vec<Range<usize>>,
    /// Slips on lines that are not live, if they were asked for.
    pub older: usize,
    declared: Vec<Declared>,
}

/// How often a mended text is compared with its base again. A second round is rare: it takes a
/// comparison that pairs other lines after the first.
const MOST_ROUNDS: usize = 16;

/// Judges the lines of `set`.
pub fn judge(text: &str, language: &Language, style: &Style, set: &LineSet) -> Outcome {
    match Tree::parse(&language.grammar, text) {
        Some(tree) => judge_tree(&tree, text, language, style, set, false),
        None => Outcome::default(),
    }
}

/// As [`judge`], and counts the slips on all the other lines too.
pub fn judge_with_older(text: &str, language: &Language, style: &Style, set: &LineSet) -> Outcome {
    match Tree::parse(&language.grammar, text) {
        Some(tree) => judge_tree(&tree, text, language, style, set, true),
        None => Outcome::default(),
    }
}

fn judge_tree(
    tree: &Tree,
    text: &str,
    language: &Language,
    style: &Style,
    set: &LineSet,
    count_older: bool,
) -> Outcome {
    let faults = tree.faults.clone();
    if tree.nodes.first().is_none_or(|root| root.fault) {
        return Outcome { faults, ..Outcome::default() };
    }
    let sheet = Sheet::new(tree, text, style, language.rule);
    let Comparison { edits, slips, declared } = sheet.judge(set);
    let older = if count_older && !set.is_whole() {
        sheet.judge(&LineSet::whole()).slips.len().saturating_sub(slips.len())
    } else {
        0
    };
    Outcome { edits, slips, faults, older, declared }
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
    let Some(tree) = Tree::parse(&language.grammar, text) else {
        return Ok(Mended { text: text.into(), outcome: Outcome::default() });
    };
    let outcome = judge_tree(&tree, text, language, style, set, false);
    if outcome.edits.is_empty() {
        return Ok(Mended { text: text.into(), outcome });
    }
    let mended = apply(text, &outcome.edits);
    proof::prove(&language.grammar, &tree, text, &mended, &outcome.declared)?;
    Ok(Mended { text: mended, outcome })
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
    let mut mended = mend(text, language, style, &LineSet::between(base, text))?;
    for _ in 1..MOST_ROUNDS {
        if mended.outcome.edits.is_empty() {
            break;
        }
        let again = mend(&mended.text, language, style, &LineSet::between(base, &mended.text))?;
        if again.outcome.edits.is_empty() {
            break;
        }
        mended.text = again.text;
    }
    Ok(mended)
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
