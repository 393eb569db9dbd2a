//! What always holds, as checks that run on any text: the tests run them over the samples, the
//! workshop over real code.
//!
//! Each check gives `None` where the property holds, and what was expected and what was found where
//! it does not.

mod broken;
mod chance;
mod hurried;
mod values;

use crate::languages::Language;
use crate::layout::Sheet;
use crate::style::{Key, Setting, Style, slots};
use crate::syntax::{Role, Tree};
use crate::text::{Edit, LineSet, Lines};
use crate::{Difference, Document, Outcome, judge, mend, mend_since};
use crate::layout::plan::{Align, Column, GroupId, Rows, Shape, Want};
use broken::broken_text;
pub use broken::holds_on_broken;
pub use chance::Chance;
pub use hurried::hurried;
use values::pairs_of_values;
pub use values::some_style;
use std::cell::Cell;
use std::collections::HashSet;

/// A property that does not hold on a text.
#[derive(Clone, Debug)]
pub struct Failure {
    /// What went wrong, in a line.
    pub what: String,
    /// What should have come out.
    pub expected: String,
    /// What came out.
    pub found: String,
    /// Whether nothing came out that is wrong: mending was refused, as it could not be proved.
    pub refused: bool,
}

impl Failure {
    fn of(what: &str, expected: &str, found: &str) -> Option<Failure> {
        (expected != found).then(|| Failure {
            what: what.into(),
            expected: expected.into(),
            found: found.into(),
            refused: false,
        })
    }

    fn unproved(what: &str, text: &str, difference: &Difference) -> Failure {
        let at = difference.offset().min(text.len());
        let (line, column) = Lines::new(text).place(text, at);
        let what = format!("{what}: at {line}:{column}, {difference}");
        Failure { what, expected: text.into(), found: text.into(), refused: true }
    }
}

/// A property's name and its check.
pub type Property = (&'static str, fn(&Case) -> Option<Failure>);

/// Every property, in the order of a report.
pub const ALL: &[Property] = &[
    ("same program", same_program),
    ("mended is clean", mended_is_clean),
    ("twice is once", twice_is_once),
    ("still lines stay", still_lines_stay),
    ("scramble", scramble),
    ("there and back", there_and_back),
    ("broken text", broken_text),
    ("part is whole", part_is_whole),
    ("step by step", step_by_step),
];

/// A text to check properties on.
pub struct Case<'a> {
    /// The text.
    pub text: &'a str,
    /// Its language.
    pub language: &'a Language,
    /// What is agreed.
    pub style: &'a Style,
    /// Where the choices of the checks start from; the same seed makes the same choices.
    pub seed: u64,
    tried: Cell<usize>,
}

impl<'a> Case<'a> {
    /// A text in a language, under a style; the checks choose by the seed.
    pub fn new(text: &'a str, language: &'a Language, style: &'a Style, seed: u64) -> Case<'a> {
        Case { text, language, style, seed, tried: Cell::new(0) }
    }

    /// How much the checks have tried since this was asked last: texts, lines, gaps that were
    /// spoilt, pairs of values. A property that has tried nothing has not held.
    pub fn tried(&self) -> usize {
        self.tried.take()
    }

    fn tries(&self, more: usize) {
        self.tried.set(self.tried.get() + more);
    }

    fn chance(&self, salt: u64) -> Chance {
        Chance(self.seed ^ salt.wrapping_mul(0x2545_f491_4f6c_dd1d))
    }

    fn whole(&self, text: &str) -> Result<String, Failure> {
        match mend(text, self.language, self.style, &LineSet::whole()) {
            Ok(mended) => match mended.outcome.refused {
                Some(difference) => Err(Failure::unproved("whole", text, &difference)),
                None => Ok(mended.text),
            },
            Err(difference) => Err(Failure::unproved("whole", text, &difference)),
        }
    }

    /// The tree that a text is laid out by.
    fn tree(&self, text: &str) -> Option<Tree> {
        let mut tree = Tree::parse(&self.language.grammar, text)?;
        if Sheet::looks_at_words(self.style) {
            tree.split_texts(&self.language.grammar, text);
        }
        Some(tree)
    }

    /// Whether all of the text parses.
    fn parses(&self) -> bool {
        judge(self.text, self.language, self.style, &LineSet::of([])).faults.is_empty()
    }

    /// Some lines of the text, by chance.
    fn some_lines(&self, salt: u64) -> LineSet {
        let mut chance = self.chance(salt);
        let count = Lines::new(self.text).count();
        let picks = 1 + count / 40;
        LineSet::of((0..picks.min(30)).map(|_| {
            let first = chance.below(count);
            first..first + 1 + chance.below(3)
        }))
    }

    /// The text with some of its lines made a little different, as an editor's user would.
    fn edited(&self, salt: u64) -> String {
        let mut chance = self.chance(salt);
        let mut out = String::with_capacity(self.text.len());
        let lines: Vec<&str> = self.text.split_inclusive('\n').collect();
        for (index, line) in lines.iter().enumerate() {
            let is_blank = line.trim().is_empty();
            match chance.below(60) {
                kind @ 0..EDITS => out.push_str(&edited(line, kind)),
                3 if is_blank => {}
                4 if is_blank && index + 1 < lines.len() => {
                    out.push_str(line);
                    out.push_str(line);
                }
                _ => out.push_str(line),
            }
        }
        out
    }

    /// The text with one of its lines made a little different.
    fn edited_once(&self, salt: u64) -> String {
        let mut chance = self.chance(salt);
        let mut lines: Vec<&str> = self.text.split_inclusive('\n').collect();
        if lines.is_empty() {
            return String::new();
        }
        let at = chance.below(lines.len());
        let own = lines[at];
        let line = Some(edited(own, chance.below(EDITS))).filter(|line| line != own);
        let line = line.unwrap_or_else(|| edited(own, EDITS - 1));
        lines[at] = &line;
        lines.concat()
    }
}

/// In so many ways a line is made a little different.
const EDITS: usize = 3;

/// A line as somebody writes it who does not look.
fn edited(line: &str, kind: usize) -> String {
    match kind {
        0 => line.replace(" = ", "=").replace(", ", ","),
        1 => line.replace(" = ", "  =  "),
        _ => format!("{}  \n", line.trim_end()),
    }
}

/// A text with faults may be read otherwise once its good parts are laid out. It is left alone
/// then.
fn same_program(case: &Case) -> Option<Failure> {
    case.tries(1);
    case.whole(case.text).err().filter(|_| case.parses())
}

fn mended_is_clean(case: &Case) -> Option<Failure> {
    let whole = match case.whole(case.text) {
        Ok(whole) => whole,
        Err(_) => return None,
    };
    let outcome = judge(&whole, case.language, case.style, &LineSet::whole());
    case.tries(1);
    if let Some(slip) = outcome.slips.first() {
        let (line, column) = Lines::new(&whole).place(&whole, slip.offset);
        let what = format!("whole: {line}:{column} {}: {}", slip.setting.name(), slip.message);
        let again = crate::text::apply(&whole, &outcome.edits);
        return Some(Failure { what, expected: whole, found: again, refused: false });
    }
    let one_by_one = (0..SINGLE_EDITS).map(|salt| case.edited_once(20 + salt));
    [case.edited(2)].into_iter().chain(one_by_one).find_map(|text| touched_is_clean(case, &text))
}

/// So many lines are made different each by itself: what a line in play does beside others hides
/// what it does alone.
const SINGLE_EDITS: u64 = 6;

fn touched_is_clean(case: &Case, text: &str) -> Option<Failure> {
    let mended = match mend_since(case.text, text, case.language, case.style) {
        Ok(mended) => mended.text,
        Err(difference) => return Some(Failure::unproved("touched", text, &difference)),
    };
    let set = LineSet::between(case.text, &mended);
    case.tries(set.ranges().count());
    let outcome = judge(&mended, case.language, case.style, &set);
    let slip = outcome.slips.first()?;
    let (line, column) = Lines::new(&mended).place(&mended, slip.offset);
    let what = format!("touched: {line}:{column} {}: {}", slip.setting.name(), slip.message);
    let again = crate::text::apply(&mended, &outcome.edits);
    Some(Failure { what, expected: mended, found: again, refused: false })
}

fn twice_is_once(case: &Case) -> Option<Failure> {
    let once = case.whole(case.text).ok()?;
    case.tries(1);
    match case.whole(&once) {
        Ok(twice) => Failure::of("whole", &once, &twice),
        Err(failure) => Some(failure),
    }
}

fn still_lines_stay(case: &Case) -> Option<Failure> {
    let set = case.some_lines(4);
    let mended = match mend(case.text, case.language, case.style, &set) {
        Ok(mended) => mended.text,
        Err(difference) => return Some(Failure::unproved("lines", case.text, &difference)),
    };
    let tree = case.tree(case.text)?;
    if tree.nodes.first().is_none_or(|root| root.fault) {
        return Failure::of("a file that does not parse", case.text, &mended);
    }
    let sheet = Sheet::new(&tree, case.text, case.style, case.language.rule);
    let live = LineSet::of(sheet.live_lines(&set));
    // To the byte, but for the line break that the last line gets or loses.
    let bare = |line: &str| line.trim_end_matches('\n').trim_end_matches('\r').to_string();
    let is_same = |found: &str, line: &str| {
        found == line
            || (found.ends_with('\n') != line.ends_with('\n') && bare(found) == bare(line))
    };
    let mut rest = mended.split_inclusive('\n');
    for (index, line) in case.text.split_inclusive('\n').enumerate() {
        let is_still = !live.touches(index..index + 1) && !set.touches(index..index + 1);
        if !is_still || line.trim().is_empty() {
            continue;
        }
        case.tries(1);
        if !rest.any(|found| is_same(found, line)) {
            let what = format!("line {} is gone or changed", index + 1);
            return Failure::of(&what, case.text, &mended);
        }
    }
    None
}

/// Spoils the gaps of some units of a text that follows the style, calls those lines touched, and
/// mends them: the text must come back.
fn scramble(case: &Case) -> Option<Failure> {
    let clean = case.whole(case.text).ok()?;
    // Where lines end in either way, a touched one ends as most do.
    if Lines::new(&clean).is_mixed() {
        return None;
    }
    let (spoilt, gaps) = spoil(&clean, case)?;
    case.tries(gaps);
    let mended = match mend_since(&clean, &spoilt, case.language, case.style) {
        Ok(mended) => mended.text,
        Err(difference) => return Some(Failure::unproved("spoilt", &spoilt, &difference)),
    };
    Failure::of("the spoilt text did not come back", &clean, &mended)
}

/// Bytes that spoiling may add to a line.
const ROOM: usize = 30;

/// The clean text with some units' gaps spoilt without a change of meaning, and how many of them:
/// other blanks where there are some, line breaks where an element of a list begins, and other
/// indentation where it is no syntax.
fn spoil(clean: &str, case: &Case) -> Option<(String, usize)> {
    let mut chance = case.chance(5);
    let tree = case.tree(clean)?;
    if !tree.faults.is_empty() {
        return None;
    }
    let sheet = Sheet::new(&tree, clean, case.style, case.language.rule);
    let plan = sheet.plan();
    let units = sheet.unit_tokens();
    let mut out = clean.to_string();
    let mut spoilt = 0;
    let short = slots().filter(|(entry, _)| entry.setting == Setting::FlatBlock);
    // A flat block that is spread over lines is not short any more.
    let keeps_flat =
        short.into_iter().any(|(_, slot)| case.style.is(Setting::FlatBlock, slot.key, "keep"));
    let keeps = |setting: Setting| {
        let mut of = slots().filter(|(entry, _)| entry.setting == setting);
        of.any(|(_, slot)| case.style.keeps(setting, slot.key))
    };
    let keeps_columns = keeps(Setting::Columns);
    let lines = Lines::new(clean);
    let max = case.style.number(Setting::MaxLineLength, Key::Whole).unwrap_or(u32::MAX) as usize;
    let all_shows = case.language.has("shown_space", "")
        && case.style.is(Setting::ShownSpace, Key::Whole, "everywhere");
    // A block that stands on too long a line is not short either.
    let has_room = |at: usize| {
        let start = lines.start(lines.line_of(at));
        let line = clean[start..].lines().next().unwrap_or_default();
        !keeps_flat || line.len() + ROOM <= max
    };
    // What begins in another column may come to stand above lines that then seem to stand under it.
    let gaps = plan.gaps.iter().zip(&tree.tokens).filter(|(_, token)| token.broken);
    let broken: HashSet<GroupId> = gaps.filter_map(|(gap, _)| gap.group).collect();
    let line_first = |at: usize| (0..=at).rev().find(|at| tree.tokens[*at].broken).unwrap_or(0);
    let asks: HashSet<usize> = plan
        .groups
        .ids()
        .filter(|id| plan.groups[*id].align.asks_the_text())
        .flat_map(|id| {
            let group = &plan.groups[id];
            let first = group.first as usize;
            let under = group.opening.filter(|_| broken.contains(&id));
            let moves = under.map_or(0..0, |head| line_first(head as usize) + 1..head as usize + 1);
            moves.chain([first])
        })
        .collect();
    for unit in units.iter().rev() {
        if !chance.one_in(12) {
            continue;
        }
        for index in (unit.start + 1..unit.end).rev() {
            let gap = &plan.gaps[index];
            let beside_comment = tree.tokens[index].role == Role::Comment
                || tree.tokens[index - 1].role == Role::Comment
                || tree.tokens[index - 1].role == Role::Join
                || tree.tokens[index].role == Role::Join;
            let range = tree.gap(index, clean.len());
            let present = &clean[range.clone()];
            let is_kept = gap.want.keeps()
                || keeps(gap.setting)
                || (gap.column != Column::None
                    && keeps_columns
                    && !is_alone(clean, &lines, range.start));
            if beside_comment || present.contains('\n') || is_kept || asks.contains(&index) {
                continue;
            }
            let first_of_list = matches!(gap.want, Want::Break)
                && plan.group_of(index).is_some_and(|g| g.opening == Some(index as u32));
            let may_break = gap.want == Want::Break
                && !first_of_list
                && gap.setting == Setting::WordGap
                && gap.blanks > 0
                && !keeps_flat
                && plan.group_of(index).is_some_and(|group| {
                    group.shape == Shape::List
                        && group.rows != Rows::Kept
                        && group.align == Align::Step
                });
            // Between the attributes of a tag nothing shows.
            let shows = tree.shows(index as u32) || (all_shows && gap.want != Want::Break);
            let may_widen = (!present.is_empty() || !shows && !fuses(clean, range.start))
                && has_room(range.start);
            let new = match chance.below(6) {
                0 if may_widen => format!("{present}  "),
                1 if may_break => "\n   ".to_string(),
                2 if present == " " && !shows && !word_on_both_sides(clean, &range) =>
                    String::new(),
                _ => continue,
            };
            let glued = new.is_empty() && fuses_when_glued(clean, &range);
            if new != present && !glued {
                out.replace_range(range, &new);
                spoilt += 1;
            }
        }
    }
    let holds = spoilt > 0 && crate::proof::same(&case.language.grammar, clean, &out);
    holds.then_some((out, spoilt))
}

/// Whether the line of a place has no other beside it that it could be lined up with: between blank lines, none
/// is as far in.
fn is_alone(text: &str, lines: &Lines, at: usize) -> bool {
    let line = lines.line_of(at);
    let indent = |line: usize| {
        let all = text[lines.start(line)..].lines().next().unwrap_or_default();
        let inner = all.trim_start_matches([' ', '\t']);
        (!inner.is_empty()).then_some(all.len() - inner.len())
    };
    let is_beside = |other: &usize| indent(*other) >= indent(line);
    let above = (0..line).rev().take_while(|other| indent(*other).is_some());
    let below = (line + 1..lines.count()).take_while(|other| indent(*other).is_some());
    !above.chain(below).any(|other| is_beside(&other))
}

/// Whether a blank at this place could split what is one word to a reader, or one mark.
fn fuses(text: &str, at: usize) -> bool {
    let before = text[..at].chars().next_back();
    let after = text[at..].chars().next();
    let is_word = |c: Option<char>| c.is_some_and(|c| c.is_alphanumeric() || c == '_');
    let is_mark = |c: Option<char>| c.is_some_and(|c| "+-*/<>=!&|?^.:".contains(c));
    (is_word(before) && is_word(after)) || (is_mark(before) && is_mark(after))
}

fn word_on_both_sides(text: &str, range: &std::ops::Range<usize>) -> bool {
    let before = text[..range.start].chars().next_back();
    let after = text[range.end..].chars().next();
    let is_word = |c: Option<char>| {
        c.is_some_and(
            |c| c.is_alphanumeric() || matches!(c, '_' | '$' | '"' | '\'' | '`' | '#' | '%'),
        )
    };
    // A word behind a dash may be the name of something.
    let mut rest = text[range.end..].chars();
    let is_named = rest.next() == Some('-') && rest.next().is_some_and(char::is_alphabetic);
    is_word(before) && (is_word(after) || is_named)
}

fn fuses_when_glued(text: &str, range: &std::ops::Range<usize>) -> bool {
    let before = text[..range.start].chars().next_back();
    let after = text[range.end..].chars().next();
    let is_bracket = |c: char| matches!(c, '(' | ')' | '[' | ']' | '{' | '}' | ',');
    let is_mark = |c: Option<char>| c.is_some_and(|c| !c.is_alphanumeric() && !is_bracket(c));
    (is_mark(before) && is_mark(after)) || before.is_some_and(|c| c.is_ascii_digit())
}

/// Pairs of values that do not keep anything of what is there.
fn there_and_back(case: &Case) -> Option<Failure> {
    let mut chance = case.chance(6);
    let pairs = pairs(case.language);
    (0..PAIRS_PER_FILE).find_map(|_| goes_there_and_back(case, chance.below(pairs)))
}

/// How many pairs of values there are in a language for [`goes_there_and_back`].
pub fn pairs(language: &Language) -> usize {
    pairs_of_values(language).len()
}

/// The property *there and back* for one pair of values, by its number.
pub fn goes_there_and_back(case: &Case, number: usize) -> Option<Failure> {
    if !case.parses() {
        return None;
    }
    // What is in other languages remembers by their settings.
    let mut base = case.style.clone().alone();
    // A list opened by hand remembers; so do blank lines and commas, which an open list has and a
    // flat one has not.
    base.set("list_wrap", "", "fit").ok()?;
    base.set("blank_lines", "most", "0").ok()?;
    base.set("flat_block", "", "open").ok()?;
    base.set("word_gap", "", "guide").ok()?;
    base.set("trim_trailing_whitespace", "", "true").ok()?;
    values::forget(&mut base);
    // Parentheses that were put around something stay, and so does a bar.
    base.set("wrap_parens", "", "keep").ok()?;
    base.set("leading_bar", "", "keep").ok()?;
    let (name, key, a, b) = pairs_of_values(case.language).swap_remove(number);
    let (mut first, mut second) = (base.clone(), base);
    first.set(name, key, &a).ok()?;
    second.set(name, key, &b).ok()?;
    let lay = |text: &str, style: &Style| {
        let mended = mend(text, case.language, style, &LineSet::whole());
        mended.map(|mended| mended.text).map_err(|difference| {
            let what = format!("{name} {key} {a} and {b}");
            Failure::unproved(&what, text, &difference)
        })
    };
    let round = || -> Result<(String, String), Failure> {
        // Which line ends a text had is not known once it has no line left.
        let once = lay(&case.text.replace("\r\n", "\n"), &first)?;
        let back = lay(&lay(&once, &second)?, &first)?;
        Ok((once, back))
    };
    case.tries(1);
    match round() {
        Ok((once, back)) => {
            let what = format!("{name} {key}: {a}, then {b}, then {a}");
            Failure::of(&what, &once, &back)
        }
        Err(failure) => Some(failure),
    }
}

/// How many pairs of values a file is laid out under.
const PAIRS_PER_FILE: usize = 3;

/// Where each token of a text begins, in bytes: the places before which a comment may stand.
pub fn gaps(text: &str, language: &Language) -> Vec<usize> {
    let tree = Tree::parse(&language.grammar, text);
    tree.map_or(Vec::new(), |tree| tree.tokens.iter().map(|token| token.start as usize).collect())
}

/// Of each list of a text without faults, the zero-based lines inside it that hold one element or
/// more, and nothing of another one.
pub fn element_lines(text: &str, language: &Language, style: &Style) -> Vec<Vec<usize>> {
    match Tree::parse(&language.grammar, text) {
        Some(tree) if tree.faults.is_empty() => {
            Sheet::new(&tree, text, style, language.rule).element_lines()
        }
        _ => Vec::new(),
    }
}

/// How many sets of lines are looked at by themselves, and how many changes are followed.
const PARTS_PER_FILE: usize = 4;

/// What is said of a few lines does not depend on how much around them is looked at.
fn part_is_whole(case: &Case) -> Option<Failure> {
    let mut chance = case.chance(8);
    let count = Lines::new(case.text).count();
    let edited = case.edited(8);
    for part in 0..=PARTS_PER_FILE {
        let first = chance.below(count);
        let (text, set) = match part {
            0 => (edited.as_str(), LineSet::between(case.text, &edited)),
            1 => (case.text, LineSet::whole()),
            _ => (case.text, LineSet::of([first..first + 1 + chance.below(4)])),
        };
        case.tries(1);
        let document = Document::new(text, case.language);
        let part = document.judge(case.style, &set);
        let whole = document.judge_all_around(case.style, &set);
        let said = |outcome: &Outcome| {
            let edits = outcome.edits.clone();
            (edits, outcome.slips.clone(), outcome.faults.clone(), outcome.long_lines.clone())
        };
        if said(&part) != said(&whole) {
            let apply = |outcome: &Outcome| crate::text::apply(text, &outcome.edits);
            return Some(Failure {
                what: format!("line {} by itself", first + 1),
                expected: apply(&whole),
                found: apply(&part),
                refused: false,
            });
        }
    }
    None
}

/// A text that is followed from change to change is read as if it were read for the first time.
fn step_by_step(case: &Case) -> Option<Failure> {
    let mut chance = case.chance(9);
    let mut document = Document::in_steps(case.text, case.language);
    for _ in 0..PARTS_PER_FILE {
        let edit = some_edit(document.text(), &mut chance);
        let at = edit.range.start;
        document.change(&[edit]);
        let fresh = Document::new(document.text(), case.language);
        let line = Lines::new(document.text()).line_of(at);
        let set = LineSet::of([line..line + 1]);
        case.tries(1);
        let (known, new) = (document.mend(case.style, &set), fresh.mend(case.style, &set));
        let what = format!("line {} of a followed text", line + 1);
        match (known, new) {
            (Ok(known), Ok(new)) => {
                if let Some(failure) = Failure::of(&what, &new.text, &known.text) {
                    return Some(failure);
                }
            }
            (Err(_), Err(_)) => {}
            (Err(difference), _) | (_, Err(difference)) => {
                return Some(Failure::unproved(&what, document.text(), &difference));
            }
        }
    }
    None
}

/// A stretch of one line that goes, is typed once more, or gets blanks.
fn some_edit(text: &str, chance: &mut Chance) -> Edit {
    let boundary = |at: usize| (0..=at).rev().find(|at| text.is_char_boundary(*at)).unwrap_or(0);
    let from = boundary(chance.below(text.len() + 1));
    let line = text[from..].find('\n').map_or(text.len(), |end| from + end);
    let to = boundary((from + chance.below(12)).min(line)).max(from);
    let new = match chance.below(4) {
        0 => String::new(),
        1 => text[from..to].repeat(2),
        2 => format!("{}  ", &text[from..to]),
        _ => text[from..to].replace(' ', ""),
    };
    Edit { range: from..to, text: new }
}
