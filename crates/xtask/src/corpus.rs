//! The engine's properties over every file of a folder.

use anyhow::{Context, bail};
use kanonix_core::languages::{self, Language};
use kanonix_core::properties::{self, Case, Failure};
use kanonix_core::text::{LineSet, unified_diff};
use kanonix_core::{judge, kept_units, mend, style::Style};
use super::witness;
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::{Path, PathBuf};

/// In so many files of a language, a property may have nothing to try.
const FEW: usize = 20;

/// Lines of a failure's diff that are shown.
const SHOWN_LINES: usize = 24;

/// What was found in one file.
struct Found {
    language: &'static str,
    path: PathBuf,
    bytes: usize,
    parses: bool,
    units: usize,
    kept: Vec<String>,
    kept_count: usize,
    slips: usize,
    failures: Vec<(usize, Failure)>,
    /// How much each property tried.
    tried: Vec<usize>,
    /// What another parser says of the mended text, if there is one that reads the language.
    witness: Option<Result<(), String>>,
}

/// So many files have choices of their own under each seed.
const FILES: u64 = 1 << 32;

/// Prints the table, and says whether every property holds; `shown` is how many failures of each are
/// shown, and whether the constructs are that no rule knows.
pub fn run(
    dir: &Path,
    language: Option<&str>,
    canon: Option<&Path>,
    seed: u64,
    shown: (usize, bool),
) -> anyhow::Result<bool> {
    let (show, list_kept) = shown;
    let styles = styles(canon)?;
    let only = match language {
        Some(name) => match languages::by_name(name) {
            Some(language) => Some(language),
            None => bail!("there is no language {name}"),
        },
        None => None,
    };
    let files = files(dir, only)?;
    std::panic::set_hook(Box::new(|_| {}));
    let mut found: Vec<Found> = files
        .par_iter()
        .enumerate()
        .filter_map(|(index, (path, language))| {
            let text = std::fs::read_to_string(path).ok()?;
            let seed = seed.wrapping_mul(FILES).wrapping_add(index as u64);
            Some(examine(path, language, &styles[language.name], &text, seed))
        })
        .collect();
    found.sort_by(|a, b| a.path.cmp(&b.path));
    table(&found);
    if list_kept {
        kept_table(&found);
    }
    for (number, (name, _)) in properties::ALL.iter().enumerate() {
        let failed = found.iter().flat_map(|file| {
            let failures = file.failures.iter().filter(move |(which, _)| *which == number);
            failures.map(move |(_, failure)| (file, failure))
        });
        for (file, failure) in failed.take(show) {
            println!("\n{name}: {}\n  {}", file.path.display(), failure.what);
            let diff = unified_diff(&failure.expected, &failure.found);
            for line in diff.lines().take(SHOWN_LINES) {
                println!("  {line}");
            }
        }
    }
    let agrees = witnessed(&found, show) && all_tried(&found);
    Ok(agrees && found.iter().all(|file| file.failures.is_empty()))
}

/// Every file of a folder in a known language, or in this one, ordered by path.
pub(crate) fn files(
    dir: &Path,
    only: Option<&Language>,
) -> anyhow::Result<Vec<(PathBuf, &'static Language)>> {
    let mut files: Vec<(PathBuf, &'static Language)> = Vec::new();
    for entry in ignore::WalkBuilder::new(dir).standard_filters(false).hidden(true).build() {
        let path = entry?.into_path();
        let name = path.file_name().unwrap_or_default().to_string_lossy().into_owned();
        if let Some(language) = languages::of_file(&name)
            && only.is_none_or(|only| only.name == language.name)
            && path.is_file()
        {
            files.push((path, language));
        }
    }
    files.sort_by(|a, b| a.0.cmp(&b.0));
    Ok(files)
}

pub(crate) fn styles(canon: Option<&Path>) -> anyhow::Result<BTreeMap<&'static str, Style>> {
    let canon = match canon {
        Some(path) => {
            let text = std::fs::read_to_string(path)
                .with_context(|| format!("cannot read {}", path.display()))?;
            Some(kanonix_repo::canon::Canon::read(path, &text)?)
        }
        None => None,
    };
    Ok(languages::ALL
        .iter()
        .map(|language| {
            let style = match &canon {
                Some(canon) => canon.style(language),
                None => language.style(),
            };
            (language.name, style)
        })
        .collect())
}

fn examine(
    path: &Path,
    language: &'static Language,
    style: &Style,
    text: &str,
    seed: u64,
) -> Found {
    let mut found = Found {
        language: language.name,
        path: path.to_path_buf(),
        bytes: text.len(),
        parses: false,
        units: 0,
        kept: Vec::new(),
        kept_count: 0,
        slips: 0,
        failures: Vec::new(),
        tried: Vec::new(),
        witness: None,
    };
    let looked = catch_unwind(AssertUnwindSafe(|| {
        let outcome = judge(text, language, style, &LineSet::whole());
        let (units, kept, places) = kept_units(text, language);
        (outcome, units, kept, places)
    }));
    if let Ok((outcome, units, kept, places)) = looked {
        found.parses = outcome.faults.is_empty();
        found.slips = outcome.slips.len();
        found.units = units;
        found.kept_count = kept;
        found.kept = places
            .into_iter()
            .map(|at| text[at..].lines().next().unwrap_or_default().chars().take(60).collect())
            .collect();
    }
    let case = Case::new(text, language, style, seed);
    for (number, (_, check)) in properties::ALL.iter().enumerate() {
        let failure = catch_unwind(AssertUnwindSafe(|| check(&case))).unwrap_or_else(|panic| {
            let what = panic
                .downcast_ref::<String>()
                .cloned()
                .or_else(|| panic.downcast_ref::<&str>().map(|text| text.to_string()));
            Some(Failure {
                what: format!("panic: {}", what.unwrap_or_default()),
                expected: String::new(),
                found: String::new(),
                refused: false,
            })
        });
        if let Some(failure) = failure {
            found.failures.push((number, failure));
        }
        found.tried.push(case.tried());
    }
    if let Ok(mended) = mend(text, language, style, &LineSet::whole()) {
        let judged = witness::same(language, style, text, &mended.text);
        found.witness = judged.map(|judged| judged.map_err(|error| error.to_string()));
    }
    found
}

fn tried(files: &[&Found], number: usize) -> usize {
    files.iter().map(|file| file.tried[number]).sum()
}

/// Whether every property tried something in every language.
fn all_tried(found: &[Found]) -> bool {
    languages::ALL.iter().all(|language| {
        let files: Vec<&Found> =
            found.iter().filter(|file| file.language == language.name && file.parses).collect();
        let idle = |number: &usize| tried(&files, *number) == 0;
        let idle = (0..properties::ALL.len()).filter(|_| files.len() > FEW).find(idle);
        if let Some(number) = idle {
            println!("\n{}: *{}* tried nothing", language.name, properties::ALL[number].0);
        }
        idle.is_none()
    })
}

fn table(found: &[Found]) {
    print!(
        "{:12} {:>6} {:>9} {:>6} {:>8} {:>6} {:>7} {:>8}",
        "language", "files", "bytes", "parse", "units", "kept", "kept %", "slips"
    );
    for (name, _) in properties::ALL {
        print!(" {name:>16}");
    }
    println!();
    for language in languages::ALL {
        let files: Vec<&Found> =
            found.iter().filter(|file| file.language == language.name).collect();
        if files.is_empty() {
            continue;
        }
        let sum = |of: fn(&Found) -> usize| files.iter().map(|file| of(file)).sum::<usize>();
        let (units, kept) = (sum(|file| file.units), sum(|file| file.kept_count));
        print!(
            "{:12} {:>6} {:>9} {:>6} {:>8} {:>6} {:>7.2} {:>8}",
            language.name,
            files.len(),
            sum(|file| file.bytes),
            sum(|file| usize::from(file.parses)),
            units,
            kept,
            100.0 * kept as f64 / units.max(1) as f64,
            sum(|file| file.slips),
        );
        for number in 0..properties::ALL.len() {
            let fails = |file: &&&Found| file.failures.iter().any(|(which, _)| *which == number);
            print!(" {:>16}", files.iter().filter(fails).count());
        }
        print!("\n{:70}", "  of so many that were tried");
        for number in 0..properties::ALL.len() {
            print!(" {:>16}", tried(&files, number));
        }
        println!();
    }
}

/// What the judges of their own say; whether they find the same program in every file.
fn witnessed(found: &[Found], show: usize) -> bool {
    let judged: Vec<(&Found, &Result<(), String>)> =
        found.iter().filter_map(|file| Some((file, file.witness.as_ref()?))).collect();
    if judged.is_empty() {
        return true;
    }
    let failed = judged.iter().filter_map(|(file, said)| Some((file, said.as_ref().err()?)));
    let failed: Vec<_> = failed.collect();
    println!("another parser reads {} files: {} differ", judged.len(), failed.len());
    for (file, error) in failed.iter().take(show) {
        println!("  {}: {error}", file.path.display());
    }
    failed.is_empty()
}

fn kept_table(found: &[Found]) {
    let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
    for place in found.iter().flat_map(|file| &file.kept) {
        *counts.entry(place).or_default() += 1;
    }
    let mut counts: Vec<_> = counts.into_iter().collect();
    counts.sort_by_key(|(_, count)| std::cmp::Reverse(*count));
    println!("\nkept as it stands, by first line");
    for (line, count) in counts.iter().take(40) {
        println!("{count:>8}  {line}");
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// What each language does under one of the workshop's canons.
    fn canon(name: &str) -> BTreeMap<&'static str, Style> {
        let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("canons");
        styles(Some(&folder.join(format!("{name}.toml")))).unwrap()
    }

    #[test]
    fn the_workshops_canons_can_be_read_and_differ() {
        let mut seen = vec![styles(None).unwrap()];
        for name in ["quay", "mole", "lock", "buoy", "weir", "fender"] {
            let found = canon(name);
            assert!(!seen.contains(&found), "{name}");
            seen.push(found);
        }
    }

    /// These three agree with no language's community in anything.
    #[test]
    fn every_setting_has_another_value_in_three_canons() {
        let own = styles(None).unwrap();
        for name in ["quay", "mole", "lock"] {
            let styles = canon(name);
            for language in languages::ALL {
                let (style, own) = (&styles[language.name], &own[language.name]);
                for (entry, slot) in kanonix_core::style::slots() {
                    let has = language.has_slot(slot);
                    let value = style.get(entry.setting, slot.key);
                    let differs = value != own.get(entry.setting, slot.key);
                    let place = format!("{name}, {}: {}", language.name, slot.path(entry));
                    assert!(!has || differs, "{place} is {value}");
                }
            }
        }
    }

    #[test]
    fn the_properties_hold_on_the_demo() {
        let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
        assert!(run(&demo, None, None, 0, (1, false)).unwrap());
    }
}
