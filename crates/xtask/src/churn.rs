//! How much of well-kept code the settled canon would still change, package by package.

use anyhow::{Result, bail};
use kanonix_core::{Document, judge};
use kanonix_core::languages::{self, Language};
use kanonix_core::style::Style;
use kanonix_core::survey::{
    Left,
    Part,
    Parts,
    Survey,
    Unlike,
    is_made, made_name,
    notice,
    settle_parts,
};
use kanonix_core::text::{LineSet, Lines, apply, changed_lines, unified_diff};
use rayon::prelude::*;
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

/// One package: a folder directly under the one that is asked about.
struct Package {
    name: String,
    language: &'static Language,
    files: usize,
    lines: usize,
    changed: usize,
    said: String,
    kinds: BTreeMap<String, (usize, Vec<String>)>,
}

impl Package {
    fn churn(&self) -> f64 {
        1000.0 * self.changed as f64 / self.lines.max(1) as f64
    }
}

/// Prints the table of packages, and the most frequent kinds of change with `show` examples each.
pub fn run(
    dir: &Path,
    language: Option<&str>,
    usual: bool,
    show: usize,
    diff: bool,
) -> Result<bool> {
    let mut packages = Vec::new();
    let mut folders: Vec<PathBuf> = std::fs::read_dir(dir)?
        .filter_map(|entry| Some(entry.ok()?.path()))
        .filter(|path| path.is_dir())
        .collect();
    folders.sort();
    for folder in folders {
        for candidate in languages::ALL {
            if language.is_none_or(|name| name == candidate.name) {
                packages.extend(package(&folder, candidate, usual, diff)?);
            }
        }
    }
    if packages.is_empty() {
        bail!("{} has no folders with code in a known language", dir.display());
    }
    for language in languages::ALL {
        let mut own: Vec<&Package> =
            packages.iter().filter(|package| package.language.name == language.name).collect();
        if !own.is_empty() {
            own.sort_by(|a, b| a.churn().total_cmp(&b.churn()));
            table(&own, show);
        }
    }
    Ok(true)
}

fn package(
    folder: &Path,
    language: &'static Language,
    usual: bool,
    diff: bool,
) -> Result<Option<Package>> {
    let files = super::corpus::files(folder, Some(language))?;
    let read = files.into_iter().filter_map(|(path, _)| {
        let inside = path.strip_prefix(folder).ok()?.to_string_lossy().into_owned();
        Some((inside, std::fs::read_to_string(path).ok()?))
    });
    let files: Vec<(String, String)> = read
        .filter(|(inside, text)| {
            let name = inside.rsplit('/').next().unwrap_or_default();
            made_name(name, language).is_none()
                && !is_made(text, language)
                && judge(text, language, &language.style(), &LineSet::of([])).faults.is_empty()
        })
        .collect();
    if files.is_empty() {
        return Ok(None);
    }
    let texts: Vec<&str> = files.iter().map(|(_, text)| text.as_str()).collect();
    let style = match usual {
        true => language.style().alone(),
        false => {
            // What stands in it in other languages is settled where those are.
            let survey = |texts: &[&str], base: Style| survey(texts, language, base.alone());
            let mut settled = Survey::settle(&texts, language, survey);
            let cost = |style: &Style| slipping_lines(&texts, language, &style.clone().alone());
            let (usual, proposed) = (cost(&language.style()), cost(&settled.style()));
            settled.give_up(usual, proposed, cost);
            settled.style().alone()
        }
    };
    let (parts, foreign) = match usual {
        true => (Vec::new(), Vec::new()),
        false => Tree { files: &files, language }.parts(&style),
    };
    let mut styles = vec![&style; files.len()];
    for part in &parts {
        part.unlike.files.iter().for_each(|file| styles[*file] = &part.style);
    }
    if diff {
        println!("=== {} {}", folder.display(), said(&language.style(), &style));
        for (text, style) in texts.iter().zip(&styles) {
            let outcome = judge(text, language, style, &LineSet::whole());
            print!("{}", unified_diff(text, &apply(text, &outcome.edits)));
        }
    }
    let skipped: Vec<usize> = foreign.iter().flat_map(|part| part.files.iter().copied()).collect();
    let measured: Vec<_> = texts
        .par_iter()
        .zip(&styles)
        .enumerate()
        .filter(|(file, _)| !skipped.contains(file))
        .map(|(_, one)| one)
        .map(|(text, style)| measure(text, language, style))
        .collect();
    let own = parts.iter().map(|part| {
        let Unlike { path, changed, .. } = &part.unlike;
        format!(" [{path}: {changed} -> {} {}]", part.changed, said(&style, &part.style))
    });
    let others = foreign.iter().map(|part| format!(" [{}: {} skipped]", part.path, part.changed));
    let mut package = Package {
        name: folder.file_name().unwrap_or_default().to_string_lossy().into_owned(),
        language,
        files: texts.len(),
        lines: (0..texts.len())
            .filter(|file| !skipped.contains(file))
            .map(|file| texts[file].lines().count())
            .sum(),
        changed: 0,
        said: [said(&language.style(), &style)].into_iter().chain(own).chain(others).collect(),
        kinds: BTreeMap::new(),
    };
    for (changed, kinds) in measured {
        package.changed += changed;
        for (kind, example) in kinds {
            let (count, examples) = package.kinds.entry(kind).or_default();
            *count += 1;
            examples.push(example);
        }
    }
    Ok(Some(package))
}

/// How many lines have slips under a style.
fn slipping_lines(texts: &[&str], language: &Language, style: &Style) -> usize {
    let of = |text: &&str| {
        let (outcome, lines) = (judge(text, language, style, &LineSet::whole()), Lines::new(text));
        let slipping = outcome.slips.iter().map(|slip| lines.line_of(slip.offset));
        slipping.collect::<BTreeSet<usize>>().len()
    };
    texts.par_iter().map(of).sum()
}

fn survey(texts: &[&str], language: &'static Language, base: Style) -> Survey {
    let read = texts.par_iter().map(|text| {
        let mut survey = Survey::new(language, base.clone());
        survey.read(text);
        survey
    });
    let empty = || Survey::new(language, base.clone());
    read.reduce(empty, Survey::join)
}

/// The files of a package: their paths and texts.
struct Tree<'t> {
    files: &'t [(String, String)],
    language: &'static Language,
}

impl Tree<'_> {
    /// What is proposed for folders and files that are unlike the others.
    fn parts(&self, style: &Style) -> (Vec<Part>, Vec<Unlike>) {
        let one = |(path, text)| {
            let changed = self.changed_in(text, style);
            let code = Document::new(text, self.language).code_lines();
            Left { path, lines: str::lines(text).count(), code, changed }
        };
        let files = self.files.par_iter().map(|(path, text)| (path.as_str(), text.as_str()));
        settle_parts(&files.map(one).collect::<Vec<_>>(), style, self)
    }

    fn changed_in(&self, text: &str, style: &Style) -> usize {
        let outcome = judge(text, self.language, style, &LineSet::whole());
        changed_lines(text, &apply(text, &outcome.edits))
    }
}

impl Parts for Tree<'_> {
    fn texts(&self, part: &Unlike) -> Vec<String> {
        part.files.iter().map(|file| self.files[*file].1.clone()).collect()
    }

    fn read(&self, texts: &[&str], base: Style) -> Survey {
        survey(texts, self.language, base)
    }

    fn changed(&self, part: &Unlike, style: &Style) -> usize {
        let texts = part.files.par_iter().map(|file| &self.files[*file].1);
        texts.map(|text| self.changed_in(text, style)).sum()
    }

    fn notices(&self) -> Vec<Option<String>> {
        self.files.iter().map(|(_, text)| notice(text)).collect()
    }
}

/// The settings in which a style differs from another.
fn said(own: &Style, style: &Style) -> String {
    let differs = kanonix_core::style::slots().filter_map(|(entry, slot)| {
        let value = style.get(entry.setting, slot.key);
        let differs = value != own.get(entry.setting, slot.key);
        differs.then(|| format!("{}={value}", slot.path(entry)))
    });
    differs.collect::<Vec<_>>().join(" ")
}

type Kinds = Vec<(String, String)>;

/// How many lines change, and of each slip its kind and its line before and after.
fn measure(text: &str, language: &Language, style: &Style) -> (usize, Kinds) {
    let outcome = judge(text, language, style, &LineSet::whole());
    let mended = apply(text, &outcome.edits);
    let changed = changed_lines(text, &mended);
    let lines = Lines::new(text);
    let mut kinds: Kinds = Vec::new();
    for slip in outcome.slips {
        let line = lines.line_of(slip.offset);
        let mut delta = 0isize;
        for edit in outcome.edits.iter().take_while(|edit| edit.range.end <= slip.offset) {
            delta += edit.text.len() as isize - edit.range.len() as isize;
        }
        let at = (slip.offset as isize + delta).max(0) as usize;
        let before = around(text, lines.start(line));
        let new_line = mended.get(..at).map_or(0, |head| head.rfind('\n').map_or(0, |at| at + 1));
        let after = around(&mended, new_line);
        kinds.push((
            slip.setting.name().to_string(),
            format!("{}\n{before}\n    becomes\n{after}", slip.message),
        ));
    }
    (changed, kinds)
}

/// The line that starts here, and the one after it.
fn around(text: &str, start: usize) -> String {
    let lines = text.get(start..).unwrap_or_default().lines().take(2);
    lines.map(|line| format!("        {line}")).collect::<Vec<_>>().join("\n")
}

fn table(packages: &[&Package], show: usize) {
    println!("\n{}", packages[0].language.name);
    println!("{:28} {:>6} {:>8} {:>8} {:>10}", "package", "files", "lines", "changed", "per 1000");
    for package in packages {
        println!(
            "{:28} {:>6} {:>8} {:>8} {:>10.1}  {}",
            package.name,
            package.files,
            package.lines,
            package.changed,
            package.churn(),
            package.said
        );
    }
    let [low, high] = [(packages.len() - 1) / 2, packages.len() / 2];
    let median = (packages[low].churn() + packages[high].churn()) / 2.0;
    let worst = packages[packages.len() - 1].churn();
    println!("median {median:.1}, worst {worst:.1}");
    let mut kinds: BTreeMap<&str, (usize, Vec<(&str, &str)>)> = BTreeMap::new();
    for package in packages {
        for (kind, (count, examples)) in &package.kinds {
            let entry = kinds.entry(kind).or_default();
            entry.0 += count;
            entry.1.extend(examples.iter().map(|text| (package.name.as_str(), text.as_str())));
        }
    }
    let mut kinds: Vec<_> = kinds.into_iter().collect();
    kinds.sort_by_key(|(_, (count, _))| std::cmp::Reverse(*count));
    for (kind, (count, examples)) in kinds.iter().take(if show > 0 { 8 } else { 0 }) {
        println!("\n{count:>8}  {kind}");
        let step = examples.len().div_ceil(show).max(1);
        for (package, example) in examples.iter().step_by(step) {
            println!("      {package}: {example}");
        }
    }
}
