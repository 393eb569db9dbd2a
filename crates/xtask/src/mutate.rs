//! Whether the tests would notice: the core with one small mistake at a time.

use super::git::git;
use anyhow::{Context, Result, bail};
use kanonix_core::properties::Chance;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::{Duration, Instant};

/// What stands in the code, and what a mistake would make of it.
const MISTAKES: &[(&str, &str)] = &[
    (" == ", " != "),
    (" != ", " == "),
    (" < ", " <= "),
    (" <= ", " < "),
    (" > ", " >= "),
    (" >= ", " > "),
    (" && ", " || "),
    (" || ", " && "),
    (" + 1", ""),
    (" - 1", ""),
    (" += ", " -= "),
    (".max(", ".min("),
    (".min(", ".max("),
    (".is_some()", ".is_none()"),
    (".is_some_and(", ".is_none_or("),
    (".is_none_or(", ".is_some_and("),
    (".any(", ".all("),
    (".all(", ".any("),
    ("if !", "if "),
    ("return;", ""),
    ("true", "false"),
    ("false", "true"),
];

/// A mistake that may be made.
struct Place {
    file: PathBuf,
    /// Its first byte in the file.
    at: usize,
    mistake: (&'static str, &'static str),
}

/// Makes mistakes that are chosen by chance, one at a time, in a checkout of its own, and runs the
/// core's tests; prints those that no test noticed, each with how many were tried by then. Says whether each was noticed.
pub fn run(seconds: u64, seed: u64, target: &Path) -> Result<bool> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let folder = tempfile::tempdir()?;
    let checkout = folder.path().join("checkout");
    let place = checkout.to_string_lossy().into_owned();
    git(&root, &["clone", "--quiet", &root.to_string_lossy(), &place])?;
    let places = places(&checkout.join("crates/kanonix-core/src"))?;
    if !passes(&checkout, target)? {
        bail!("the tests fail before any mistake is made");
    }
    let (mut chance, end) = (Chance(seed), Instant::now() + Duration::from_secs(seconds));
    let (mut tried, mut unnoticed) = (0, 0);
    while Instant::now() < end {
        let Place { file, at, mistake: (right, wrong) } = &places[chance.below(places.len())];
        let text = std::fs::read_to_string(file)?;
        let (before, after) = text.split_at(*at);
        std::fs::write(file, format!("{before}{wrong}{}", &after[right.len()..]))?;
        let passed = passes(&checkout, target)?;
        std::fs::write(file, &text)?;
        tried += 1;
        if passed {
            unnoticed += 1;
            let line = before.lines().count().max(1);
            let name = file.strip_prefix(&checkout).unwrap_or(file).display();
            let shown = text.lines().nth(line - 1).unwrap_or_default().trim();
            let (wrong, right) = (wrong.trim(), right.trim());
            println!("{tried}. {name}:{line}: `{wrong}` for `{right}`: {shown}");
        }
    }
    println!("{tried} mistakes of {} that may be made, {unnoticed} unnoticed", places.len());
    Ok(unnoticed == 0)
}

/// Every place outside of tests and comments where a mistake may be made.
fn places(folder: &Path) -> Result<Vec<Place>> {
    let mut places = Vec::new();
    for entry in ignore::Walk::new(folder) {
        let file = entry?.into_path();
        let name = file.to_string_lossy();
        if !name.ends_with(".rs") || name.contains("/tests") || name.contains("/samples/") {
            continue;
        }
        let text = std::fs::read_to_string(&file)?;
        let code = text.split("#[cfg(test)]\nmod tests {").next().unwrap_or_default();
        let mut start = 0;
        for line in code.split_inclusive('\n') {
            let is_code = !line.trim_start().starts_with("//") && !line.contains('"');
            for mistake in MISTAKES.iter().filter(|_| is_code) {
                let found = line.match_indices(mistake.0);
                let place = |(at, _)| Place {
                    file: file.clone(),
                    at: start + at,
                    mistake: *mistake,
                };
                places.extend(found.map(place));
            }
            start += line.len();
        }
    }
    Ok(places)
}

/// Whether the core's tests pass; what does not compile, or does not end, is noticed.
fn passes(checkout: &Path, target: &Path) -> Result<bool> {
    let mut tests = Command::new("timeout")
        .current_dir(checkout)
        .args([
            "400",
            env!("CARGO"),
            "test",
            "--quiet",
            "-p",
            "kanonix-core",
            "--lib",
            "--test",
            "all",
        ])
        .env("CARGO_TARGET_DIR", target)
        .stdout(std::process::Stdio::null())
        .stderr(std::process::Stdio::null())
        .spawn()
        .context("the tests cannot be run")?;
    Ok(tests.wait()?.success())
}
