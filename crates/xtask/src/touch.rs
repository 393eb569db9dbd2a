//! One element touched in one list of each file: no other line may change.

use crate::corpus::{files, styles};
use kanonix_core::judge;
use kanonix_core::languages::{self, Language};
use kanonix_core::properties::{Chance, element_lines};
use kanonix_core::style::Style;
use kanonix_core::text::{LineSet, apply, unified_diff};
use rayon::prelude::*;
use std::path::{Path, PathBuf};

/// One file in so many may have a slip on another line.
const MOST: usize = 200;

/// What became of the other lines of one file.
struct Touched {
    language: &'static str,
    path: PathBuf,
    line: usize,
    /// What would be changed, if any of it is on another line.
    spilt: Option<String>,
}

/// Prints how many files of each language were tried, and in how many another line would change;
/// whether these are few enough.
pub fn run(dir: &Path, canon: Option<&Path>, seed: u64, show: usize) -> anyhow::Result<bool> {
    let styles = styles(canon)?;
    let files = files(dir, None)?;
    let looked = files.par_iter().enumerate().filter_map(|(index, (path, language))| {
        let text = std::fs::read_to_string(path).ok()?;
        let chance = Chance(seed ^ (index as u64 + 1).wrapping_mul(0x9e37_79b9_7f4a_7c15));
        touch(path, language, &styles[language.name], &text, chance)
    });
    let touched: Vec<Touched> = looked.collect();
    anyhow::ensure!(!touched.is_empty(), "there is no list of several lines in {}", dir.display());
    println!("{:12} {:>6} {:>6}", "language", "files", "spilt");
    let mut few = true;
    for language in languages::ALL {
        let own: Vec<&Touched> =
            touched.iter().filter(|file| file.language == language.name).collect();
        let spilt: Vec<&&Touched> = own.iter().filter(|file| file.spilt.is_some()).collect();
        if own.is_empty() {
            continue;
        }
        println!("{:12} {:>6} {:>6}", language.name, own.len(), spilt.len());
        few &= spilt.len() * MOST < own.len().max(MOST);
        for file in spilt.iter().take(show) {
            println!("\n{}:{}", file.path.display(), file.line + 1);
            println!("{}", file.spilt.as_deref().unwrap_or_default());
        }
    }
    Ok(few)
}

fn touch(
    path: &Path,
    language: &'static Language,
    style: &Style,
    text: &str,
    mut chance: Chance,
) -> Option<Touched> {
    let mut lists = element_lines(text, language, style);
    if lists.is_empty() {
        return None;
    }
    let list = lists.swap_remove(chance.below(lists.len()));
    let line = list[chance.below(list.len())];
    let outcome = judge(text, language, style, &LineSet::of([line..line + 1]));
    let mended = apply(text, &outcome.edits);
    let set = LineSet::between(&mended, text);
    let others = set.ranges().any(|range| range != (line..line + 1));
    let spilt = others.then(|| unified_diff(text, &mended));
    Some(Touched { language: language.name, path: path.to_path_buf(), line, spilt })
}
