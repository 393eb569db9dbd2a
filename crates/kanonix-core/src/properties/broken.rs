//! Texts in which something does not parse.

use super::{Case, Chance, Failure};
use crate::layout::Sheet;
use crate::style::{Key, Setting, WordOrder};
use crate::syntax::Tree;
use crate::text::{LineSet, Lines};
use crate::{Outcome, judge, mend};

/// How often a text is broken in one way or another.
const BREAKS_PER_FILE: usize = 4;

/// A text in which something is missing, doubled or in the wrong place: nothing of it may be lost,
/// its faults stay as they are, and what is mended is clean and stays so.
pub(super) fn broken_text(case: &Case) -> Option<Failure> {
    let mut chance = case.chance(7);
    for _ in 0..BREAKS_PER_FILE {
        let broken = broken(case, &mut chance)?;
        case.tries(1);
        if let Some(failure) = holds_on_broken(&broken, case) {
            return Some(failure);
        }
    }
    None
}

/// What holds on any text, whether it parses or not.
pub fn holds_on_broken(broken: &str, case: &Case) -> Option<Failure> {
    let whole = LineSet::whole();
    let outcome = judge(broken, case.language, case.style, &whole);
    let mended = match mend(broken, case.language, case.style, &whole) {
        Ok(mended) => mended,
        Err(difference) => return Some(Failure::unproved("broken", broken, &difference)),
    };
    if let Some(difference) = mended.outcome.refused {
        return Some(Failure::unproved("broken", broken, &difference));
    }
    if !is_all_there(&solid(broken, case), &solid(&mended.text, case), case) {
        return Failure::of("something was lost", broken, &mended.text);
    }
    let again = judge(&mended.text, case.language, case.style, &whole);
    let faults = |text: &str, outcome: &Outcome| -> Vec<String> {
        let faults = outcome.faults.iter();
        faults.map(|fault| text.get(fault.clone()).unwrap_or_default().to_string()).collect()
    };
    if faults(broken, &outcome) != faults(&mended.text, &again) {
        return Failure::of("faults came, went or changed", broken, &mended.text);
    }
    if let Some(slip) = again.slips.first() {
        let (line, column) = Lines::new(&mended.text).place(&mended.text, slip.offset);
        let what = format!("broken: {line}:{column} {}: {}", slip.setting.name(), slip.message);
        let expected = crate::text::apply(&mended.text, &again.edits);
        return Some(Failure { what, expected, found: mended.text, refused: false });
    }
    match mend(&mended.text, case.language, case.style, &whole) {
        Ok(twice) => Failure::of("broken, mended twice", &mended.text, &twice.text),
        Err(difference) => Some(Failure::unproved("broken, twice", &mended.text, &difference)),
    }
}

/// The letters of a text; in no order where words or members have one that is agreed, and without what other
/// agreements are about, nor words that only end what is before them.
fn solid(text: &str, case: &Case) -> Vec<char> {
    let asks = |setting: Setting, key: Key| {
        case.style.all().any(|style| !style.keeps(setting, key))
    };
    let zeros = asks(Setting::LeadingZero, Key::Whole);
    let ends = case.language.grammar.words_that_separate();
    let words = text.split(|c: char| !c.is_alphanumeric()).filter(|word| !ends.contains(word));
    let mut solid: Vec<char> = words
        .flat_map(str::chars)
        .filter(|c| !(zeros && *c == '0'))
        .collect();
    if [Key::Color, Key::Unit, Key::Keyword].iter().any(|key| asks(Setting::LetterCase, *key)) {
        solid.iter_mut().for_each(char::make_ascii_lowercase);
    }
    let orders = [Setting::ModifierOrder, Setting::MemberOrder];
    let is_ordered = case.style.all().any(|style| WordOrder::of(style).is_some());
    if is_ordered || orders.iter().any(|one| asks(*one, Key::Whole)) {
        solid.sort_unstable();
    }
    solid
}

/// Whether these letters are those that there were; where imports go that nothing mentions, some of those.
fn is_all_there(before: &[char], after: &[char], case: &Case) -> bool {
    if !case.style.all().any(Sheet::drops_imports) {
        return before == after;
    }
    let mut before = before.iter();
    after.iter().all(|letter| before.any(|old| old == letter))
}

/// The text with a stretch missing, or a line or a token missing, doubled or swapped with the next.
fn broken(case: &Case, chance: &mut Chance) -> Option<String> {
    let text = case.text;
    if chance.one_in(3) {
        let at = |at: usize| (0..=at).rev().find(|at| text.is_char_boundary(*at));
        let from = at(chance.below(text.len() + 1))?;
        let to = at((from + chance.below(40)).min(text.len()))?.max(from);
        return Some(format!("{}{}", &text[..from], &text[to..]));
    }
    let ranges: Vec<std::ops::Range<usize>> = if chance.one_in(2) {
        let lines = Lines::new(text);
        let ends = (1..lines.count()).map(|line| lines.start(line)).chain([text.len()]);
        (0..lines.count()).map(|line| lines.start(line)).zip(ends).map(|(a, b)| a..b).collect()
    } else {
        let tree = Tree::parse(&case.language.grammar, text)?;
        tree.tokens.iter().map(|token| token.start as usize..token.end as usize).collect()
    };
    let index = chance.below(ranges.len());
    let one = ranges.get(index)?.clone();
    let other = ranges.get(index + 1).cloned().unwrap_or(one.end..one.end);
    let (before, after) = (&text[..one.start], &text[other.end..]);
    let (first, gap, next) = (&text[one.clone()], &text[one.end..other.start], &text[other]);
    Some(match chance.below(3) {
        0 => format!("{before}{gap}{next}{after}"),
        1 => format!("{before}{first}{first}{gap}{next}{after}"),
        _ => format!("{before}{next}{gap}{first}{after}"),
    })
}
