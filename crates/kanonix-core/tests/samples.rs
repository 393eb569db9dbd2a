//! The languages' samples: how they are laid out, and the properties on them under every value of
//! every setting.

use kanonix_core::languages::{self, Language};
use kanonix_core::{judge, mend};
use kanonix_core::properties::{self, Case, Failure};
use kanonix_core::style::{Key, ValueKind, Slot, Style, slots};
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
        ValueKind::List([]) => vec!["[]".into(), r#"["wide", "night"]"#.into()],
        ValueKind::Word(words) | ValueKind::List(words) | ValueKind::Patterns(words, _) => {
            words.iter().map(|word| word.to_string()).collect()
        }
        ValueKind::Flag => vec!["true".into(), "false".into()],
        ValueKind::FlagOrKeep => vec!["true".into(), "false".into(), "keep".into()],
        ValueKind::Number(least, most, words) => {
            let numbers = [least, 2.clamp(least, most), 60.clamp(least, most)];
            let numbers = numbers.iter().map(u32::to_string);
            numbers.chain(words.iter().map(|word| word.to_string())).collect()
        }
    }
}

/// Every so many-th of the properties is tried on a sample, in turn: each of them on many samples
/// and many values, not all on all.
const TURNS: usize = 5;

/// Tries the properties whose turn it is on the samples, and adds how much each of them tried.
fn holds(language: &Language, style: &Style, what: &str, turn: Option<usize>, tried: &mut [usize]) {
    for (seed, (name, text)) in language.samples.iter().enumerate() {
        let case = Case::new(text, language, style, seed as u64);
        for (number, (property, check)) in properties::ALL.iter().enumerate() {
            if turn.is_some_and(|turn| (number + seed + turn) % TURNS > 0) {
                continue;
            }
            passes(check(&case), || format!("{name}, {what}: {property}"));
            tried[number] += case.tried();
        }
    }
}

fn passes(failure: Option<Failure>, of: impl Fn() -> String) {
    if let Some(Failure { what, expected, found, .. }) = failure {
        panic!("{}: {what}\n--- expected\n{expected}\n--- found\n{found}", of());
    }
}

/// How much each property tried in one language.
fn holds_in(language: &Language) -> Vec<usize> {
    let mut tried = vec![0; properties::ALL.len()];
    holds(language, &language.style(), "defaults", None, &mut tried);
    let own = slots().filter(|(_, slot)| language.has_slot(slot));
    let all = own.flat_map(|(entry, slot)| {
        values(slot).into_iter().map(move |value| (entry, slot, value))
    });
    for (turn, (entry, slot, value)) in all.enumerate() {
        let mut style = language.style();
        style.set(entry.name, slot.key.name(), &value).unwrap();
        let what = format!("{} = {value}", slot.path(entry));
        holds(language, &style, &what, Some(turn), &mut tried);
    }
    tried
}

/// The same work in each language, side by side.
fn in_each<T: Send>(work: impl Fn(&'static Language) -> T + Sync) -> Vec<(&'static Language, T)> {
    std::thread::scope(|scope| {
        let work = &work;
        let begun: Vec<_> =
            languages::ALL.iter().map(|one| (*one, scope.spawn(move || work(one)))).collect();
        begun.into_iter().map(|(language, done)| (language, done.join().unwrap())).collect()
    })
}

#[test]
fn the_properties_hold_under_every_value_of_every_setting() {
    for (language, tried) in in_each(holds_in) {
        for ((property, _), tried) in properties::ALL.iter().zip(tried) {
            assert!(tried >= FEWEST_TRIED, "{}: {property} tried {tried}", language.name);
        }
    }
}

/// So much each property tries at least in each language.
const FEWEST_TRIED: usize = 10;

#[test]
fn every_pair_of_values_goes_there_and_back() {
    let tried = in_each(|language| {
        let style = language.style();
        (0..properties::pairs(language))
            .map(|number| {
                // Each pair on one of the samples, in turn.
                let (name, text) = language.samples[number % language.samples.len()];
                let case = Case::new(text, language, &style, 0);
                passes(properties::goes_there_and_back(&case, number), || name.to_string());
                case.tried()
            })
            .sum::<usize>()
    });
    for (language, tried) in tried {
        assert_eq!(tried, properties::pairs(language), "{}", language.name);
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
            if !language.has_slot(slot) {
                continue;
            }
            let mut texts: Vec<Vec<String>> = values(slot)
                .iter()
                .map(|value| {
                    let mut style = language.style();
                    if entry.name == "indent_size" {
                        style.set("indent_style", "", "space").unwrap();
                    }
                    if slot.key == Key::Block {
                        style.set("flat_block", "", "keep").unwrap();
                    }
                    if matches!(slot.key, Key::Inside | Key::Conditions) {
                        let groups = r#"["p-* flex", "with_condition"]"#;
                        style.set("word_order", "groups", groups).unwrap();
                    }
                    style.set(entry.name, slot.key.name(), value).unwrap();
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

/// In so many texts the gaps of a sample get their comments: far enough from one another.
const APART: usize = 12;

/// A comment in every gap of every sample, each of the language's kinds in turn, where the language
/// allows one: it stays where it is, and a second look finds nothing.
#[test]
fn comments_survive_wherever_they_stand() {
    let (mut wrong, mut tried) = (Vec::new(), 0);
    for language in languages::ALL {
        let style = language.style();
        let marks = language.grammar.comments();
        let blocks = marks.blocks.iter().map(|(open, close)| format!("{open} why {close}"));
        let lines = marks.line.iter().map(|mark| format!("{mark} why\n"));
        let comments: Vec<String> = blocks.chain(lines).collect();
        let parses = |text: &str| judge(text, language, &style, &LineSet::of([])).faults.is_empty();
        for (name, text) in language.samples {
            for (turn, comment) in comments.iter().enumerate() {
                let noted = |gaps: &[usize]| {
                    let ends = gaps.iter().copied().chain([text.len()]);
                    let begins = [0].into_iter().chain(gaps.iter().copied());
                    let pieces: Vec<&str> =
                        begins.zip(ends).map(|(begin, end)| &text[begin..end]).collect();
                    pieces.join(comment)
                };
                let gaps = properties::gaps(text, language);
                let free: Vec<usize> = gaps.into_iter()
                    .skip(turn)
                    .step_by(comments.len())
                    .filter(|at| parses(&noted(&[*at])))
                    .collect();
                for first in 0..APART {
                    let some: Vec<usize> = free.iter()
                        .copied()
                        .skip(first)
                        .step_by(APART)
                        .collect();
                    let noted = noted(&some);
                    if !parses(&noted) {
                        continue;
                    }
                    tried += some.len();
                    match mend(&noted, language, &style, &LineSet::whole()) {
                        Err(difference) => wrong.push(format!("{name}: {difference}")),
                        Ok(mended) => {
                            let again = judge(&mended.text, language, &style, &LineSet::whole());
                            if let Some(slip) = again.slips.first() {
                                let around = mended.text.get(slip.offset.saturating_sub(40)..);
                                let around: String = around
                                    .iter()
                                    .flat_map(|text| text.chars())
                                    .take(80)
                                    .collect();
                                wrong.push(format!("{name}: {around:?}: {}", slip.message));
                            }
                        }
                    }
                }
            }
        }
    }
    assert!(wrong.is_empty(), "{} {:#?}", wrong.len(), &wrong[..wrong.len().min(40)]);
    assert!(tried > 8_000, "{tried}");
}
