//! One entry a setting.

mod blocks;
mod files;
mod gaps;
mod words;
mod wrapping;

use super::entry::{Entry, Setting, Slot, ValueKind};
use super::family::Family;
use super::keys::Key;

const fn one(family: Family, kind: ValueKind, default: &'static str) -> Slot {
    Slot { key: Key::Whole, family, about: "", kind, default }
}

const fn key(
    key: Key,
    family: Family,
    about: &'static str,
    kind: ValueKind,
    default: &'static str,
) -> Slot {
    Slot { key, family, about, kind, default }
}

/// The parts of the registry, in the order of [`Setting`].
const PARTS: [&[Entry]; 5] =
    [files::ENTRIES, blocks::ENTRIES, gaps::ENTRIES, words::ENTRIES, wrapping::ENTRIES];

/// How many settings there are.
const COUNT: usize = {
    let (mut count, mut part) = (0, 0);
    while part < PARTS.len() {
        count += PARTS[part].len();
        part += 1;
    }
    count
};

/// Every setting, in the order of [`Setting`].
pub static REGISTRY: [Entry; COUNT] = {
    let mut all = [PARTS[0][0]; COUNT];
    let (mut at, mut part) = (0, 0);
    while part < PARTS.len() {
        let mut own = 0;
        while own < PARTS[part].len() {
            all[at] = PARTS[part][own];
            (at, own) = (at + 1, own + 1);
        }
        part += 1;
    }
    all
};

/// The registry's entry of a setting.
pub fn entry(setting: Setting) -> &'static Entry {
    &REGISTRY[setting as usize]
}

impl Setting {
    /// The setting's name in the canon.
    pub fn name(self) -> &'static str {
        entry(self).name
    }
}

/// Every slot of every setting, with its setting, in the order of the registry.
pub fn slots() -> impl Iterator<Item = (&'static Entry, &'static Slot)> {
    REGISTRY.iter().flat_map(|entry| entry.slots.iter().map(move |slot| (entry, slot)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn entries_stand_in_the_order_of_the_settings() {
        for (index, entry) in REGISTRY.iter().enumerate() {
            assert_eq!(entry.setting as usize, index, "{}", entry.name);
        }
    }
}
