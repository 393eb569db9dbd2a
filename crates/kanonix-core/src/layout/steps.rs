//! By which steps code is indented: the canon's, or in a file that is indented otherwise its own.

use super::Sheet;
use super::indent::Mixing;
use super::live::Live;
use super::plan::{GroupId, Shape};
use super::units::Unit;
use crate::style::{Key, Setting, Style};
use crate::text::LineSet;
use std::collections::HashMap;

/// So many units behind a header show how its body is indented.
const MOST_BEHIND: usize = 8;

/// No more spaces than these are a step; more of them line something up.
const WIDEST: usize = 8;

/// A step is one of a file's if one in so many of its places has it.
const OFTEN: usize = 4;

/// The step by which each unit's deeper lines are indented, where that is not the canon's.
pub(super) struct Steps {
    canon: String,
    /// The file's own, if it is clearly another one.
    own: Option<String>,
    /// How often each step is seen in the lines that are not in play.
    seen: HashMap<String, usize>,
    /// By unit: whether its step is the file's own.
    by_unit: Vec<bool>,
}

impl Steps {
    /// The steps of a text whose lines are all in play, or of one without a live line: the canon's.
    pub(super) fn canon(step: String) -> Steps {
        Steps { canon: step, own: None, seen: HashMap::new(), by_unit: Vec::new() }
    }

    /// Looks at the base for what the file is indented by, or where nothing is known of it at the
    /// lines that are not in play.
    pub(super) fn new(sheet: &Sheet, live: &Live, set: &LineSet, style: &Style) -> Steps {
        let canon = style.indent_step();
        let seen = seen_in(sheet, set, style);
        let all: usize = seen.values().sum();
        let most = seen.iter().max_by_key(|(step, count)| (**count, std::cmp::Reverse(step.len())));
        let own = most.filter(|(step, count)| **count * 2 > all && **step != canon);
        let own = own.map(|(step, _)| step.clone());
        let by_unit = match &own {
            Some(_) => by_unit(sheet, live, &canon),
            None => Vec::new(),
        };
        Steps { canon, own, seen, by_unit }
    }

    /// The step of a unit.
    pub(super) fn of_unit(&self, unit: usize) -> &str {
        match &self.own {
            Some(own) if self.by_unit[unit] => own,
            _ => &self.canon,
        }
    }

    /// The step of the body of an old header, where it has this one now: that, if it is one of the
    /// file's or the canon's, else the file's own.
    pub(super) fn of_old<'s>(&'s self, present: Option<&'s str>) -> &'s str {
        let all: usize = self.seen.values().sum();
        let is_one = |step: &str| self.seen.get(step).is_some_and(|count| count * OFTEN >= all);
        let known = |step: &&str| *step == self.canon || is_one(step);
        present.filter(known).unwrap_or(self.own.as_ref().unwrap_or(&self.canon))
    }
}

impl Sheet<'_> {
    /// Whether so many lines of the base are further in by other steps than the canon's that what stands
    /// inside tokens may be what says so.
    pub fn has_doubtful_steps(&self, set: &LineSet, style: &Style) -> bool {
        if set.is_whole() || set.is_empty() {
            return false;
        }
        let seen = seen_in(self, set, style);
        let all: usize = seen.values().sum();
        seen.get(&style.indent_step()).copied().unwrap_or(0) * 3 < all * 2
    }
}

/// How often lines are further in by each step: those of the base, or where nothing is known of it those
/// of the text that are not in play.
fn seen_in(sheet: &Sheet, set: &LineSet, style: &Style) -> HashMap<String, usize> {
    let canon = style.indent_step();
    // What goes on with a line may be several steps further in, as the canon has it.
    let several: Vec<String> = [Key::Chain, Key::Operator, Key::List]
        .into_iter()
        .filter_map(|key| style.number(Setting::WrapIndent, key))
        .filter(|steps| *steps > 1)
        .map(|steps| canon.repeat(steps as usize))
        .collect();
    let mixing = sheet.mixing;
    let in_tags = sheet.tree.opens("<") && !sheet.tree.opens("{");
    let opens = if in_tags { is_tag } else { may_open };
    let is_text = |line: usize| set.is_inside_token(line);
    let seen = match set.base() {
        Some(base) => seen(base, &canon, &several, mixing, opens, is_text),
        None => seen(sheet.text, &canon, &several, mixing, opens, |line| {
            set.touches(line..line + 1) || is_text(line)
        }),
    };
    seen.into_iter().map(|(step, count)| (step.to_string(), count)).collect()
}

/// The steps by which a text's lines are further in than the line before them.
fn seen<'t>(
    text: &'t str,
    canon: &str,
    several: &[String],
    mixing: Mixing,
    may_open: fn(&str) -> bool,
    says_nothing: impl Fn(usize) -> bool,
) -> HashMap<&'t str, usize> {
    let mut seen = HashMap::new();
    // The indentation of the line before, if it may open a block, and whether it does.
    let mut before: Option<(&str, bool)> = None;
    for (number, line) in text.split('\n').enumerate() {
        let solid = line.trim_start_matches([' ', '\t']);
        if solid.trim_end().is_empty() {
            continue;
        }
        if says_nothing(number) {
            before = None;
            continue;
        }
        let indentation = mixing.read(&line[..line.len() - solid.len()]);
        // Spaces behind a tab line something up, and what is deeper there goes on with them.
        let is_plain = |step: &&str| step.contains('\t') || !indentation.contains('\t');
        let step = before.and_then(|(before, opens)| {
            // Beside tabs, spaces line things up, and blocks in these are as far in as they are.
            let is_lined_up = canon == "\t" && before.starts_with(' ');
            let step = indentation.strip_prefix(before).filter(|_| !is_lined_up);
            step.filter(|step| opens || !several.iter().any(|several| several == step))
        });
        if let Some(step) = step.filter(|step| is_step(step)).filter(is_plain) {
            *seen.entry(step).or_default() += 1;
        }
        let line = solid.trim_end();
        before = may_open(line).then_some((indentation, line.ends_with(['{', ':'])));
    }
    seen
}

/// Whether a line may be followed by a deeper one where tags open what lines are in: it is such a tag.
/// Those of a text may be anywhere.
fn is_tag(line: &str) -> bool {
    let tag = line.strip_prefix('<').and_then(|line| line.strip_suffix('>'));
    tag.is_some_and(|tag| {
        tag.starts_with(char::is_alphabetic) && !tag.ends_with('/') && !tag.contains('<')
    })
}

/// Whether a line may be followed by a deeper one. What stands behind an open bracket is lined up
/// with that, and what goes on behind a comma or an operator, with anything.
fn may_open(line: &str) -> bool {
    match line.chars().next_back() {
        Some('{' | '(' | '[' | ':') => true,
        Some(last) if last == ')' || last.is_alphanumeric() => {
            let count = |marks: [char; 3]| line.matches(marks).count();
            count(['(', '[', '{']) <= count([')', ']', '}'])
        }
        _ => false,
    }
}

/// One tab, or a few spaces. A single one comes from a comment with stars.
fn is_step(step: &str) -> bool {
    step == "\t" || ((2..=WIDEST).contains(&step.len()) && step.bytes().all(|byte| byte == b' '))
}

/// Of each unit whether its step is the file's own. What is new and stands together is indented by
/// one of the two: the canon's where its author used that throughout, else the file's own. Blocks
/// say which; where there are none, open lists.
fn by_unit(sheet: &Sheet, live: &Live, canon: &str) -> Vec<bool> {
    let units = &sheet.units.all;
    let in_play = |unit: usize| live.unit[unit] || live.moved[unit];
    let mut own = vec![false; units.len()];
    let mut start = 0;
    while start < units.len() {
        let rest = (start..units.len()).find(|unit| !in_play(*unit));
        let end = rest.unwrap_or(units.len());
        if end > start {
            let uses = |shape: Shape| uses(sheet, live, start..end, shape, canon);
            let body = || steps_of_body(sheet, start..end, canon);
            let is_canon = uses(Shape::Block).or_else(|| uses(Shape::List)).or_else(body);
            own[start..end].fill(is_canon != Some(true));
        }
        start = end + 1;
    }
    own
}

/// Whether the body behind some units, which is not in play, is indented by the canon's step; nothing if
/// they have none.
fn steps_of_body(sheet: &Sheet, units: std::ops::Range<usize>, canon: &str) -> Option<bool> {
    let behind = sheet.units.all.iter().skip(units.end).take(MOST_BEHIND);
    behind.filter(|unit| unit.begins_line && !unit.fixed).find_map(|unit| {
        let group = &sheet.plan.groups[group_of(unit)?];
        let holder = sheet.units.of_token[group.stem as usize] as usize;
        let base = units.contains(&holder).then(|| {
            sheet.indentation_at(sheet.units.all[holder].first as usize)
        })?;
        let is_block = group.shape == Shape::Block;
        let step = sheet.indentation_at(unit.first as usize).strip_prefix(base);
        step.filter(|_| is_block).map(|step| step == canon)
    })
}

/// Whether the groups of a shape that some units hold are all indented by the canon's step;
/// nothing if there are none.
fn uses(
    sheet: &Sheet,
    live: &Live,
    units: std::ops::Range<usize>,
    shape: Shape,
    canon: &str,
) -> Option<bool> {
    let mut all = None;
    for index in units.clone() {
        let unit = &sheet.units.all[index];
        let of = group_of(unit).filter(|_| unit.begins_line && live.anchor[index].is_none());
        let Some(id) = of else { continue };
        let group = &sheet.plan.groups[id];
        let holder = sheet.units.of_token[group.stem as usize] as usize;
        if group.shape != shape || !units.contains(&holder) {
            continue;
        }
        // A list on a later line of its statement may stand elsewhere once that is laid out.
        let first = sheet.units.all[holder].first as usize;
        let of = |token: usize| sheet.lines.line_of(sheet.tree.tokens[token].start as usize);
        if of(first) == of(group.stem as usize) && !sheet.units.ragged[id] {
            let base = sheet.indentation_at(first);
            let step = sheet.indentation_at(unit.first as usize).strip_prefix(base);
            all = Some(all.unwrap_or(true) && step == Some(canon));
        }
    }
    all
}

/// The group whose first line a unit is one step deeper than, if there is one.
pub(super) fn group_of(unit: &Unit) -> Option<GroupId> {
    unit.group.filter(|group| unit.inside && unit.level == 1 && *group != GroupId::ROOT)
}
