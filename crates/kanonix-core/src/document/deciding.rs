//! Which settings decide what stands before the tokens of a line, and by which of their keys.
//!
//! The plan knows the setting of each gap. Which key of its table it was, and whether a line begins where
//! it does by a setting of lines that go on with others, is found by trying: a key decides where another
//! value of it would have something else there.

use super::Document;
use crate::layout::PLACES;
use crate::style::{Key, Setting, Slot, Style, Value, ValueKind, entry};
use crate::text::{Edit, LineSet};
use std::ops::Range;

/// What decides what stands before a token.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Decided {
    /// The language of the line: what stands in a page may be in another one than that.
    pub language: &'static str,
    /// The byte that the token begins at.
    pub offset: usize,
    /// The setting.
    pub setting: Setting,
    /// Its key and what that says; none where no other value of a single one has anything else there.
    pub key: Option<(Key, Value)>,
}

impl Decided {
    /// The setting as a canon names it, with its key after a point.
    pub fn name(&self) -> String {
        let entry = entry(self.setting);
        let own = self.key.as_ref().map(|(key, _)| *key);
        let slot = entry.slots.iter().find(|slot| Some(slot.key) == own);
        slot.map_or(entry.name.into(), |slot| slot.path(entry))
    }
}

/// Whether a setting decides how far in a line is beside the step of indentation, or what it begins with, if
/// anything there would be otherwise without it.
fn may_decide(setting: Setting) -> bool {
    matches!(setting, Setting::WrapIndent | Setting::WrapAlign) || PLACES.contains(&setting)
}

/// So many lines on either side are tried with a line.
const AROUND: usize = 40;

impl Document<'_> {
    /// What decides the gaps of a zero-based line, in the order of the line.
    pub fn decided(&self, style: &Style, line: usize) -> Vec<Decided> {
        if let Some((inner, own)) = self.embedded_at(style, line) {
            let decided = inner.decided(own.style(), line - own.lines.start).into_iter();
            return decided
                .map(|one| Decided { offset: one.offset + own.start(), ..one })
                .collect();
        }
        let Some(parsed) = &self.parsed else { return Vec::new() };
        let tree = self.tree(parsed, style, None);
        if tree.nodes.first().is_none_or(|root| root.fault) {
            return Vec::new();
        }
        let gaps = self.sheet(&tree, style).decided(line);
        let language = self.language.name;
        let mut trying = Trying::new(self, style, line);
        let mut decided = Vec::new();
        // A step is a tab, however wide that is.
        let tabs = style.is(Setting::IndentStyle, Key::Whole, "tab");
        for (gap, setting) in gaps {
            let setting = match setting {
                Setting::IndentSize if tabs => Setting::IndentStyle,
                setting => setting,
            };
            let offset = gap.end;
            let of = |setting: Setting, key| {
                let value = style.get(setting, key);
                Decided { language, offset, setting, key: Some((key, value)) }
            };
            let keys = match entry(setting).slots {
                [only] if !may_decide(setting) => vec![only.key],
                _ => trying.keys(setting, &gap),
            };
            if keys.is_empty() && !may_decide(setting) {
                decided.push(Decided { language, offset, setting, key: None });
            }
            decided.extend(keys.into_iter().map(|key| of(setting, key)));
        }
        decided
    }
}

/// What a text would be under other values.
struct Trying<'a> {
    document: &'a Document<'a>,
    style: &'a Style,
    lines: LineSet,
    /// What is wanted as it is agreed.
    agreed: Vec<Edit>,
    /// What would be wanted otherwise, by settings that were asked for.
    others: Vec<(Setting, Vec<(Key, Vec<Edit>)>)>,
}

impl<'a> Trying<'a> {
    fn new(document: &'a Document<'a>, style: &'a Style, line: usize) -> Trying<'a> {
        let lines = LineSet::of([line.saturating_sub(AROUND)..line + AROUND]);
        let agreed = document.judge(style, &lines).edits;
        Trying { document, style, lines, agreed, others: Vec::new() }
    }

    /// The keys of a setting that decide a gap.
    fn keys(&mut self, setting: Setting, gap: &Range<usize>) -> Vec<Key> {
        let known = self.others.iter().position(|(of, _)| *of == setting);
        let place = known.unwrap_or_else(|| {
            self.others.push((setting, self.tried(setting)));
            self.others.len() - 1
        });
        let mut keys = Vec::new();
        for (key, edits) in &self.others[place].1 {
            let there = |edit: &&Edit| edit.range.start <= gap.end && gap.start <= edit.range.end;
            let is_other = !edits.iter().filter(there).eq(self.agreed.iter().filter(there));
            if is_other && !keys.contains(key) {
                keys.push(*key);
            }
        }
        keys
    }

    /// What is wanted under each other value of a setting's keys.
    fn tried(&self, setting: Setting) -> Vec<(Key, Vec<Edit>)> {
        let mut tried = Vec::new();
        let language = self.document.language;
        for slot in entry(setting).slots.iter().filter(|slot| language.has_slot(slot)) {
            for value in others(slot, &self.style.get(setting, slot.key)) {
                let mut style = self.style.clone();
                let set = style.set(setting.name(), slot.key.name(), &value);
                if set.is_ok() {
                    tried.push((slot.key, self.document.judge(&style, &self.lines).edits));
                }
            }
        }
        tried
    }
}

/// The other values of a slot; of its numbers, those beside it, and of lists the words.
fn others(slot: &Slot, own: &Value) -> Vec<String> {
    let numbers = match (&slot.kind, own) {
        (ValueKind::Number(least, most, _), Value::Number(own)) => {
            own.saturating_sub(1).max(*least)..=own.saturating_add(1).min(*most)
        }
        (ValueKind::Number(least, ..), _) => *least..=*least,
        _ => 1..=0,
    };
    let words = slot.words().into_iter().map(str::to_string);
    let all = words.chain(numbers.map(|number| number.to_string()));
    all.filter(|value| *value != own.to_string()).collect()
}
