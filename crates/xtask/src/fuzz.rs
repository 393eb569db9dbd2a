//! Texts that nobody would write: strangers' code with something missing, doubled, swapped or put
//! in, under canons and on lines chosen by chance, with every property. The same seed finds the same.

use crate::corpus::files;
use kanonix_core::languages::Language;
use kanonix_core::properties::{ALL, Case, Chance, Failure, holds_on_broken, some_style};
use kanonix_core::style::{Style, slots};
use kanonix_core::text::unified_diff;
use rayon::prelude::*;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::{Path, PathBuf};
use std::sync::Mutex;
use std::sync::atomic::{AtomicU64, AtomicUsize, Ordering};
use std::time::{Duration, Instant};

/// Lines of a file that are taken at most: small texts, so that many are tried.
const MOST_LINES: usize = 24;

/// Changes to one text at most.
const MOST_CHANGES: usize = 4;

/// The names of what is held, in the order of the report: the properties, and what holds on any
/// text.
fn names() -> Vec<&'static str> {
    ALL.iter().map(|(name, _)| *name).chain(["any text"]).collect()
}

/// A find: which property, and how.
struct Find {
    property: &'static str,
    file: PathBuf,
    /// The values that are not the community's.
    canon: String,
    failure: Failure,
}

/// Tries texts for so long; whether all held. Each find is written as a small file into `out`.
pub fn run(dir: &Path, seconds: u64, seed: u64, out: &Path, show: usize) -> anyhow::Result<bool> {
    let files = files(dir, None)?;
    let sources: Vec<(&'static Language, String)> = files
        .iter()
        .filter_map(|(path, language)| Some((*language, std::fs::read_to_string(path).ok()?)))
        .filter(|(_, text)| !text.is_empty())
        .collect();
    anyhow::ensure!(!sources.is_empty(), "there is no code in {}", dir.display());
    std::panic::set_hook(Box::new(|_| {}));
    let begun = Instant::now();
    let until = Duration::from_secs(seconds);
    let names = names();
    let tried: Vec<AtomicUsize> = names.iter().map(|_| AtomicUsize::new(0)).collect();
    let (next, slowest) = (AtomicU64::new(0), AtomicU64::new(0));
    let finds: Mutex<Vec<Find>> = Mutex::new(Vec::new());
    (0..rayon::current_num_threads()).into_par_iter().for_each(|_| {
        while begun.elapsed() < until {
            let number = next.fetch_add(1, Ordering::Relaxed);
            let mut chance = Chance(seed ^ number.wrapping_mul(0x9e37_79b9_7f4a_7c15));
            let (language, source) = &sources[chance.below(sources.len())];
            let text = changed(part(source, &mut chance), source, &mut chance);
            let style = some_style(language, &mut chance);
            let case = Case::new(&text, language, &style, chance.next());
            let at = Instant::now();
            // One property in full, and what holds on any text.
            let which = chance.below(ALL.len());
            for place in [which, ALL.len()] {
                let held = catch_unwind(AssertUnwindSafe(|| match ALL.get(place) {
                    Some((_, check)) => check(&case),
                    None => holds_on_broken(&text, &case),
                }));
                tried[place].fetch_add(1, Ordering::Relaxed);
                let failure = held.unwrap_or_else(|panic| {
                    let said = panic.downcast_ref::<String>().cloned();
                    let said = said.or(panic.downcast_ref::<&str>().map(|text| text.to_string()));
                    Some(Failure {
                        what: format!("panic: {}", said.unwrap_or_default()),
                        expected: text.clone(),
                        found: String::new(),
                        refused: false,
                    })
                });
                if let Some(failure) = failure {
                    let suffix = language.suffixes.first().unwrap_or(&"txt");
                    let file = out.join(format!("{seed}-{number}.{suffix}"));
                    let property = names[place];
                    let mut finds = finds.lock().unwrap_or_else(|held| held.into_inner());
                    let _ = std::fs::create_dir_all(out);
                    let _ = std::fs::write(&file, &text);
                    finds.push(Find { property, file, canon: canon_of(language, &style), failure });
                }
            }
            slowest.fetch_max(at.elapsed().as_millis() as u64, Ordering::Relaxed);
        }
    });
    let finds = finds.into_inner().unwrap_or_else(|held| held.into_inner());
    let cases = next.load(Ordering::Relaxed);
    println!(
        "{cases} texts of {} files in {} s, seed {seed}; the slowest took {} ms",
        sources.len(),
        begun.elapsed().as_secs(),
        slowest.load(Ordering::Relaxed)
    );
    for (place, name) in names.iter().enumerate() {
        let of_this = finds.iter().filter(|find| find.property == *name);
        let (refused, failed): (Vec<&Find>, Vec<&Find>) = of_this.partition(|f| f.failure.refused);
        println!(
            "{name:>18}: {:>8} tried, {} failed, {} refused",
            tried[place].load(Ordering::Relaxed),
            failed.len(),
            refused.len()
        );
    }
    for find in finds.iter().take(show) {
        println!("\n{}: {}\n  {}", find.property, find.file.display(), find.failure.what);
        println!("  under {}", find.canon);
        for line in unified_diff(&find.failure.expected, &find.failure.found).lines().take(16) {
            println!("  {line}");
        }
    }
    // What is refused stays as it is, and says so: a wish, not a fault.
    Ok(finds.iter().all(|find| find.failure.refused))
}

/// The values of a style that are not the language's own.
fn canon_of(language: &Language, style: &Style) -> String {
    let usual = language.style();
    let values = slots().filter_map(|(entry, slot)| {
        let value = style.get(entry.setting, slot.key);
        let name = slot.path(entry);
        (value != usual.get(entry.setting, slot.key)).then(|| format!("{name}={value}"))
    });
    values.collect::<Vec<_>>().join(" ")
}

/// Some lines of a text.
fn part(text: &str, chance: &mut Chance) -> String {
    let lines: Vec<&str> = text.split_inclusive('\n').collect();
    let from = if chance.one_in(2) { 0 } else { chance.below(lines.len()) };
    lines[from..].iter().take(1 + chance.below(MOST_LINES)).copied().collect()
}

/// What may be put in anywhere.
const GARBAGE: [&str; 28] = [
    "(",
    ")",
    "[",
    "]",
    "{",
    "}",
    "\"",
    "'",
    "`",
    ",",
    ";",
    ":",
    "=",
    "\\",
    "\t",
    "\n",
    "\r",
    "\r\n",
    "\u{c}",
    "\u{feff}",
    "#",
    "//",
    "/*",
    "*/",
    "\"\"\"",
    "<",
    "é",
    "\u{2028}",
];

/// A text with some changes of tokens, lines and bytes; sometimes as it was.
fn changed(mut text: String, source: &str, chance: &mut Chance) -> String {
    for _ in 0..chance.below(MOST_CHANGES + 1) {
        let boundary = |at: usize| (0..=at)
            .rev()
            .find(|at| text.is_char_boundary(*at))
            .unwrap_or(0);
        let at = boundary(chance.below(text.len() + 1));
        let end = boundary((at + chance.below(30)).min(text.len())).max(at);
        let line = text[..at].rfind('\n').map_or(0, |end| end + 1);
        let line_end = text[at..].find('\n').map_or(text.len(), |end| at + end + 1);
        match chance.below(9) {
            0 => text.replace_range(at..end, ""),
            1 => text.insert_str(at, GARBAGE[chance.below(GARBAGE.len())]),
            2 => text.replace_range(line..line_end, ""),
            3 => text.insert_str(line, &text[line..line_end].to_string()),
            4 => text.insert_str(line, [" ", "  ", "\t", "    "][chance.below(4)]),
            5 => {
                let solid = text[line..].trim_start_matches([' ', '\t']).len();
                let solid = text.len() - solid;
                text.replace_range(line..solid, "");
            }
            6 => text.insert(at, '\n'),
            7 => {
                // A line from elsewhere.
                let lines: Vec<&str> = source.split_inclusive('\n').collect();
                text.insert_str(line, lines[chance.below(lines.len())]);
            }
            _ => text = text.replace('\n', "\r\n").replace("\r\r\n", "\r\n"),
        }
    }
    text
}
