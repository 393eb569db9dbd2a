//! Files typed in a hurry and mended, to be read beside what their authors made of them.

use crate::corpus::{files, styles};
use anyhow::Context;
use kanonix_core::languages::{self, Language};
use kanonix_core::mend;
use kanonix_core::properties::{Chance, hurried};
use kanonix_core::text::{LineSet, unified_diff};
use std::path::{Path, PathBuf};

/// Files that are read whole have so many lines.
const LINES: std::ops::Range<usize> = 40..160;

/// Prints, of some files of a language, what mending makes of them once they are typed in a hurry, as a
/// difference from what it makes of what their authors wrote.
pub fn run(
    dir: &Path,
    language: &str,
    canon: Option<&Path>,
    seed: u64,
    count: usize,
    typed: bool,
) -> anyhow::Result<bool> {
    let language = languages::by_name(language).context("no such language")?;
    let styles = styles(canon)?;
    let mut files: Vec<(PathBuf, &'static Language)> = files(dir, Some(language))?;
    let mut chance = Chance(seed);
    let mut read = 0;
    while read < count && !files.is_empty() {
        let (path, language) = files.swap_remove(chance.below(files.len()));
        let text = std::fs::read_to_string(&path).unwrap_or_default();
        if !LINES.contains(&text.lines().count()) {
            continue;
        }
        let Some(hurried) = hurried(&text, language, &mut chance) else { continue };
        let mended = |text: &str| {
            let mended = mend(text, language, &styles[language.name], &LineSet::whole());
            mended.map_err(|difference| anyhow::anyhow!("{}: {difference}", path.display()))
        };
        read += 1;
        println!("==== {}", path.display());
        if typed {
            println!("{hurried}\n----");
        }
        println!("{}", unified_diff(&mended(&text)?.text, &mended(&hurried)?.text));
    }
    println!("{read} files");
    Ok(read == count)
}
