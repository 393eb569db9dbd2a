//! The languages' samples: how they are laid out, and the properties on them under every value of
//! every setting.

use kanonix_core::languages::{self, Language};
use kanonix_core::{judge, mend};
use kanonix_core::properties::{self, Case};
use kanonix_core::style::{Kind, Slot, Style, slots};
use kanonix_core::text::LineSet;

#[test]
fn samples_are_laid_out() {
    for language in languages::ALL {
        for (name, text) in language.samples {
            let mended = mend(text, language, &language.style(), &LineSet::whole()).unwrap();
            assert!(mended.outcome.faults.is_empty(), "{name}");
            insta::assert_snapshot!(*name, mended.text);
        }
    }
}

fn values(slot: &Slot) -> Vec<String> {
    match slot.kind {
        Kind::Word(words) => words.iter().map(|word| word.to_string()).collect(),
        Kind::Flag => vec!["true".into(), "false".into()],
        Kind::FlagOrKeep => vec!["true".into(), "false".into(), "keep".into()],
        Kind::Number(least, most, words) => {
            let numbers = [least, 2.clamp(least, most), 60.clamp(least, most)];
            let numbers = numbers.iter().map(u32::to_string);
            numbers.chain(words.iter().map(|word| word.to_string())).collect()
        }
    }
}

fn holds(language: &Language, style: &Style, what: &str) {
    for (seed, (name, text)) in language.samples.iter().enumerate() {
        let case = Case { text, language, style, seed: seed as u64 };
        for (property, check) in properties::ALL {
            if let Some(failure) = check(&case) {
                panic!(
                    "{name}, {what}: {property}: {}\n--- expected\n{}\n--- found\n{}",
                    failure.what, failure.expected, failure.found
                );
            }
        }
    }
}

#[test]
fn the_properties_hold_under_every_value_of_every_setting() {
    for language in languages::ALL {
        holds(language, &language.style(), "defaults");
        for (entry, slot) in slots().filter(|(entry, slot)| language.has(entry.name, slot.key)) {
            for value in values(slot) {
                let mut style = language.style();
                style.set(entry.name, slot.key, &value).unwrap();
                holds(language, &style, &format!("{} = {value}", slot.path(entry)));
            }
        }
    }
}

/// Settings of whole files and of columns, which have tests of their own.
const QUIET: [&str; 4] = ["tab_width", "charset", "end_of_line", "insert_final_newline"];

#[test]
fn every_setting_changes_some_sample_of_every_language_that_has_it() {
    // A setting that nothing reads would be a promise that nobody keeps.
    let mut idle = Vec::new();
    for language in languages::ALL {
        for (entry, slot) in slots().filter(|(entry, _)| !QUIET.contains(&entry.name)) {
            if !language.has(entry.name, slot.key) {
                continue;
            }
            let mut texts: Vec<Vec<String>> = values(slot)
                .iter()
                .map(|value| {
                    let mut style = language.style();
                    style.set(entry.name, slot.key, value).unwrap();
                    let lay = |text: &str| {
                        mend(text, language, &style, &LineSet::whole()).unwrap().text
                    };
                    language.samples.iter().map(|(_, text)| lay(text)).collect()
                })
                .collect();
            texts.dedup();
            if texts.len() == 1 {
                idle.push(format!("{} {}", language.name, slot.path(entry)));
            }
        }
    }
    assert!(idle.is_empty(), "{idle:#?}");
}

/// A comment in every gap of every sample, where the language allows one: it stays where it is, and
/// a second look finds nothing.
#[test]
fn comments_survive_wherever_they_stand() {
    let mut wrong = Vec::new();
    for language in languages::ALL {
        let style = language.style();
        let comments: &[&str] = match language.name {
            "python" => &["# why\n"],
            _ => &["/* why */", "// why\n"],
        };
        for (name, text) in language.samples {
            for at in properties::gaps(text, language) {
                for comment in comments {
                    let noted = format!("{}{comment}{}", &text[..at], &text[at..]);
                    if !judge(&noted, language, &style, &LineSet::of([])).faults.is_empty() {
                        continue;
                    }
                    let place = || format!("{name}: {:?}", &noted[at.saturating_sub(20)..at + 30]);
                    match mend(&noted, language, &style, &LineSet::whole()) {
                        Err(difference) => wrong.push(format!("{}: {difference}", place())),
                        Ok(mended) => {
                            let again = judge(&mended.text, language, &style, &LineSet::whole());
                            if let Some(slip) = again.slips.first() {
                                wrong.push(format!("{}: {}", place(), slip.message));
                            }
                        }
                    }
                }
            }
        }
    }
    assert!(wrong.is_empty(), "{} {:#?}", wrong.len(), &wrong[..wrong.len().min(40)]);
}
