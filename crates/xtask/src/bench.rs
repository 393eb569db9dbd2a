//! Speed, as ratios measured in one run.

use anyhow::Result;
use kanonix_core::judge;
use kanonix_core::languages::{self, Language};
use kanonix_core::text::LineSet;
use std::path::Path;
use std::time::{Duration, Instant};

/// How often each file is gone through; the fastest round counts.
const ROUNDS: usize = 5;

/// Prints, for each language, how fast judging whole files is next to a bare parse of them, on one
/// thread.
pub fn run(dir: &Path) -> Result<bool> {
    println!(
        "{:12} {:>6} {:>9} {:>10} {:>10} {:>22}",
        "language", "files", "bytes", "parse", "judge", "throughput of parse"
    );
    let (mut all_parse, mut all_judge) = (Duration::ZERO, Duration::ZERO);
    for language in languages::ALL {
        let texts = texts(dir, language)?;
        if texts.is_empty() {
            continue;
        }
        let style = language.style();
        let whole = LineSet::whole();
        let (parse, judged) = fastest(
            &texts,
            &|text| language.grammar.bare_parse(text),
            &|text| judge(text, language, &style, &whole).slips.len(),
        );
        all_parse += parse;
        all_judge += judged;
        let bytes: usize = texts.iter().map(String::len).sum();
        let ratio = 100.0 * parse.as_secs_f64() / judged.as_secs_f64();
        let (name, files) = (language.name, texts.len());
        println!("{name:12} {files:>6} {bytes:>9} {parse:>10.1?} {judged:>10.1?} {ratio:>20.0} %");
    }
    let ratio = 100.0 * all_parse.as_secs_f64() / all_judge.as_secs_f64();
    println!("{:29} {all_parse:>10.1?} {all_judge:>10.1?} {ratio:>20.0} %", "all");
    Ok(true)
}

pub(crate) fn texts(dir: &Path, language: &Language) -> Result<Vec<String>> {
    let mut texts = Vec::new();
    for entry in ignore::WalkBuilder::new(dir).standard_filters(false).hidden(true).build() {
        let path = entry?.into_path();
        let name = path.file_name().unwrap_or_default().to_string_lossy();
        let is_its = languages::of_file(&name).is_some_and(|found| found.name == language.name);
        if is_its && let Ok(text) = std::fs::read_to_string(&path) {
            texts.push(text);
        }
    }
    Ok(texts)
}

/// The times of two ways to go through the texts, each text's fastest round counting: what else the
/// machine does then tells as little as it can.
fn fastest(texts: &[String], one: Work, other: Work) -> (Duration, Duration) {
    let time = |work: Work, text: &str| {
        let start = Instant::now();
        std::hint::black_box(work(text));
        start.elapsed()
    };
    let mut sums = (Duration::ZERO, Duration::ZERO);
    for text in texts {
        let mut best = (Duration::MAX, Duration::MAX);
        for _ in 0..ROUNDS {
            best = (best.0.min(time(one, text)), best.1.min(time(other, text)));
        }
        sums = (sums.0 + best.0, sums.1 + best.1);
    }
    sums
}

type Work<'a> = &'a dyn Fn(&str) -> usize;
