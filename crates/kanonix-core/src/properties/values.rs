//! Values of the settings, to try a text with.

use super::Chance;
use crate::languages::Language;
use crate::style::{ValueKind, Setting, Slot, Style, keeps, slots};

pub(super) type Pair = (&'static str, &'static str, String, String);

fn values_of(slot: &Slot) -> Vec<String> {
    match slot.kind {
        ValueKind::List([]) => vec!["[]".into(), r#"["wide", "night"]"#.into()],
        ValueKind::Word(words) | ValueKind::List(words) | ValueKind::Patterns(words, _) => {
            words.iter().map(|word| word.to_string()).collect()
        }
        ValueKind::Flag | ValueKind::FlagOrKeep => vec!["true".into(), "false".into()],
        ValueKind::Number(20, ..) => vec!["40".into(), "79".into(), "120".into()],
        ValueKind::Number(least, most, _) => {
            (least.max(1)..=most.min(4)).map(|number| number.to_string()).collect()
        }
    }
}

/// Puts a value that keeps nothing in place of each that does.
pub(super) fn forget(style: &mut Style) {
    for (entry, slot) in slots() {
        if style.keeps(entry.setting, slot.key) {
            let strict = values_of(slot).into_iter().find(|value| !keeps(value));
            let set = strict.map(|value| style.set(entry.name, slot.key.name(), &value));
            debug_assert!(set.is_none_or(|set| set.is_ok()), "{} has such a value", entry.name);
        }
    }
}

/// Pairs of values that do not keep anything of what is there.
pub(super) fn pairs_of_values(language: &Language) -> Vec<Pair> {
    let mut pairs = Vec::new();
    for (entry, slot) in slots().filter(|(_, slot)| language.has_slot(slot)) {
        if matches!(
            entry.setting,
            Setting::BlankLines
                | Setting::TrimTrailingWhitespace
                | Setting::TabWidth
                // Where it does not show for one value, the other one keeps what came to be.
                | Setting::ShownSpace
        ) {
            continue;
        }
        let values = values_of(slot);
        let remembers = |value: &str| {
            let has_rows = matches!(value, "keep_open" | "rows");
            keeps(value) || (entry.setting == Setting::ListWrap && has_rows)
        };
        let forgets = |value: &&String| !remembers(value);
        for a in values.iter().filter(forgets) {
            for b in values.iter().filter(forgets).filter(|b| *b != a) {
                pairs.push((entry.name, slot.key.name(), a.clone(), b.clone()));
            }
        }
    }
    pairs
}

/// A style of a language in which some settings have other values, by chance.
pub fn some_style(language: &Language, chance: &mut Chance) -> Style {
    let mut style = language.style();
    for (entry, slot) in slots().filter(|(_, slot)| language.has_slot(slot)) {
        if chance.one_in(3) {
            let values = values_of(slot);
            // What a slot does not take, another draw may.
            let _ = style.set(entry.name, slot.key.name(), &values[chance.below(values.len())]);
        }
    }
    style
}
