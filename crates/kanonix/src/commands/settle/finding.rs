//! What is found in a tree: of each language, what its files do already, what other values would
//! cost, and which parts of the tree are written otherwise.

use super::Total;
use crate::report::count;
use crate::service::Progress;
use crate::say::errln;
use kanonix_core::Document;
use kanonix_core::languages::{self, Language};
use kanonix_core::style::Style;
use kanonix_core::survey::{
    Answer,
    Left,
    Part,
    Parts,
    Survey,
    Unlike,
    notice,
    settle_parts,
};
use kanonix_core::text::{LineSet, Lines, apply, changed_lines, visible};
use kanonix_repo::work::{Item, LeftAlone, NotLoaded, Selection};
use rayon::prelude::*;
use std::collections::BTreeSet;
use std::sync::atomic::{AtomicUsize, Ordering};

/// So much of a repository is judged under every value of every setting, in bytes: a few seconds.
const MOST_BYTES: u64 = 2_500_000;

/// Of each language, at least so many files, if there are as many.
const FEWEST_FILES: usize = 40;

/// A file's share of the work: it is judged under so many values of settings.
const STYLES: usize = 20;

/// What was found of one language.
pub(super) struct Finding {
    pub language: &'static Language,
    /// Where it has no files of its own: how many others it stands in.
    pub within: usize,
    /// How many files there are, read or not.
    pub files: usize,
    /// How many of them were judged under every value.
    pub read: usize,
    /// Lines of all files.
    pub lines: usize,
    pub answers: Vec<Answer>,
    /// Parts of the tree that have an agreement of their own.
    pub parts: Vec<Part>,
    /// Those that somebody else wrote, by their notices.
    pub foreign: Vec<Unlike>,
    /// What a check of all lines counts under the proposal, in all files of its own.
    pub proposed: Total,
    /// The same as the language's community has it.
    pub usual: Total,
}

impl Finding {
    /// How many files there are, in words.
    pub fn counted(&self) -> String {
        match self.files {
            0 => format!("in {}", count(self.within, "page")),
            files => count(files, "file"),
        }
    }
}

/// Surveys everything that is selected, language by language. What cannot be read is said, or goes
/// to what is left alone.
pub(super) fn find(selection: &Selection, left: &mut LeftAlone) -> Vec<Finding> {
    let bytes: u64 = selection.items.iter().map(size).sum();
    let share = bytes.div_ceil(MOST_BYTES).max(1) as usize;
    let progress = Progress::new(selection.items.len(), STYLES + 1);
    let mut findings = Vec::new();
    // What is proposed for the languages so far, which may stand in those to come.
    let mut known: Vec<(&str, Style)> = Vec::new();
    for language in languages::ALL {
        let items: Vec<&Item> =
            selection.items.iter().filter(|item| item.language.name == language.name).collect();
        // What stands in files of other languages speaks where there are none of its own.
        let inner = match items.is_empty() {
            true => stretches(selection, language),
            false => Vec::new(),
        };
        if items.is_empty() && inner.is_empty() {
            continue;
        }
        // Spread evenly over the sorted list, so that every corner of a large tree has its say.
        let step = share.min((items.len() / FEWEST_FILES).max(1));
        let mut texts = texts(selection, &items, step);
        texts.extend(inner.iter().flatten().cloned());
        let all: Vec<&str> = texts.iter().map(String::as_str).collect();
        let looks = AtomicUsize::new(0);
        let read = |texts: &[&str], base: Style| {
            // The second look is at all of them.
            let is_second = looks.fetch_add(1, Ordering::Relaxed) == 1;
            read(texts, language, base, || {
                if is_second {
                    progress.advance(STYLES * step);
                }
            })
        };
        let mut survey = Survey::settle(&all, language, read);
        let with_inner = |style: Style| {
            language.embedded().fold(style, |style, inner| {
                let found = known.iter().find(|(name, _)| *name == inner.name);
                let own = found.map_or_else(|| inner.style(), |(_, style)| style.clone());
                style.embedding(inner.name, own)
            })
        };
        let measured = |style: &Style| measure(selection, &items, &with_inner(style.clone()));
        let usual = Measured::total(&measured(&language.style()));
        let mut proposed = measured(&survey.style());
        let cost = |style: &Style| Measured::total(&measured(style)).lines;
        if survey.give_up(usual.lines, Measured::total(&proposed).lines, cost) {
            proposed = measured(&survey.style());
            survey.price_again(&all, read);
        }
        let whole = with_inner(survey.style());
        let (parts, foreign) = parts(selection, &items, &whole, &mut proposed);
        known.push((language.name, survey.style()));
        progress.advance(items.len());
        let total = Measured::total(&proposed);
        let inner_lines = inner.iter().flatten().map(|text| text.lines().count());
        let lines = proposed.iter().map(|file| file.lines).chain(inner_lines).sum();
        for (file, item) in proposed.into_iter().zip(&items) {
            match file.failed {
                Some(NotLoaded::LeftAlone(why)) => left.add(why, &item.path),
                Some(NotLoaded::Problem(reason)) => {
                    errln!("kanonix: {}: {reason}", visible(&item.path.display().to_string()));
                }
                None => {}
            }
        }
        findings.push(Finding {
            language,
            within: inner.len(),
            files: items.len(),
            read: survey.files,
            lines,
            answers: survey.answers(),
            parts,
            foreign,
            proposed: total,
            usual,
        });
    }
    progress.end();
    findings
}

/// The parts of the tree that the proposal disturbs more than the rest. What their files come to
/// under agreements of their own takes the place of what they came to; what is to be left alone
/// comes to nothing.
fn parts(
    selection: &Selection,
    items: &[&Item],
    whole: &Style,
    proposed: &mut [Measured],
) -> (Vec<Part>, Vec<Unlike>) {
    let paths: Vec<String> =
        items.iter().map(|item| item.inside.to_string_lossy().replace('\\', "/")).collect();
    let left: Vec<Left> = paths
        .iter()
        .zip(&*proposed)
        .map(|(path, file)| {
            Left { path, lines: file.lines, code: file.code, changed: file.changed }
        })
        .collect();
    let tree = OneLanguage { selection, items };
    let (parts, foreign) = settle_parts(&left, whole, &tree);
    for part in &parts {
        let now = measure(selection, &tree.items_of(&part.unlike), &part.style);
        part.unlike.files.iter().zip(now).for_each(|(file, now)| proposed[*file] = now);
    }
    for file in foreign.iter().flat_map(|part| &part.files) {
        proposed[*file] = Measured { lines: proposed[*file].lines, ..Measured::default() };
    }
    (parts, foreign)
}

/// The files of one language.
struct OneLanguage<'s> {
    selection: &'s Selection,
    items: &'s [&'s Item],
}

impl OneLanguage<'_> {
    fn items_of(&self, part: &Unlike) -> Vec<&Item> {
        part.files.iter().map(|file| self.items[*file]).collect()
    }
}

impl Parts for OneLanguage<'_> {
    fn texts(&self, part: &Unlike) -> Vec<String> {
        let items = self.items_of(part);
        let bytes: u64 = items.iter().map(|item| size(item)).sum();
        texts(self.selection, &items, bytes.div_ceil(MOST_BYTES).max(1) as usize)
    }

    fn read(&self, texts: &[&str], base: Style) -> Survey {
        read(texts, self.items[0].language, base, || {})
    }

    fn changed(&self, part: &Unlike, style: &Style) -> usize {
        measure(self.selection, &self.items_of(part), style).iter().map(|file| file.changed).sum()
    }

    fn notices(&self) -> Vec<Option<String>> {
        let one = |item: &&Item| notice(&self.selection.load(item).ok()?.text);
        self.items.par_iter().map(one).collect()
    }
}

fn size(item: &Item) -> u64 {
    std::fs::metadata(&item.path).map_or(0, |file| file.len())
}

/// The texts of every so many-th of some files.
fn texts(selection: &Selection, items: &[&Item], step: usize) -> Vec<String> {
    let load = |item: &&Item| selection.load(item).ok().map(|loaded| loaded.text);
    items.par_iter().step_by(step).filter_map(load).collect()
}

/// What stands in files of other languages, on lines of its own: of each file that holds some.
fn stretches(selection: &Selection, language: &Language) -> Vec<Vec<String>> {
    let holds = |item: &&Item| item.language.embedded().any(|inner| inner.name == language.name);
    let of = |item: &Item| {
        let text = selection.load(item).ok()?.text;
        let passages = Document::new(text.as_str(), item.language).passages().into_iter();
        let own = passages.filter(|(inner, _)| inner.name == language.name);
        let texts: Vec<String> = own.filter_map(|(_, said)| outdented(&said)).collect();
        (!texts.is_empty()).then_some(texts)
    };
    selection.items.par_iter().filter(holds).filter_map(of).collect()
}

/// Lines without the indentation that all of them have.
fn outdented(lines: &str) -> Option<String> {
    let blanks = |line: &str| line.len() - line.trim_start_matches([' ', '\t']).len();
    let solid = || lines.lines().filter(|line| !line.trim().is_empty());
    let least = solid().map(blanks).min()?;
    let is_spread = lines.contains('\n');
    let outdented = lines.lines().map(|line| line.get(least..).unwrap_or_default());
    is_spread.then(|| outdented.collect::<Vec<_>>().join("\n").trim_end().to_string() + "\n")
}

/// What all lines of a file come to under one style.
#[derive(Default)]
struct Measured {
    lines: usize,
    /// Lines that are neither blank nor a comment's.
    code: usize,
    /// Lines that have slips, as a check counts them.
    slips: usize,
    /// Lines that a mend changes.
    changed: usize,
    failed: Option<NotLoaded>,
}

impl Measured {
    fn total(files: &[Measured]) -> Total {
        Total {
            lines: files.iter().map(|file| file.slips).sum(),
            files: files.iter().filter(|file| file.slips > 0).count(),
        }
    }
}

fn measure(selection: &Selection, items: &[&Item], style: &Style) -> Vec<Measured> {
    let one = |item: &&Item| match selection.load(item) {
        Ok(loaded) => {
            let text = loaded.text;
            let document = Document::new(&*text, item.language);
            let outcome = document.judge(style, &LineSet::whole());
            let lines = Lines::new(&text);
            let slips = outcome.slips.iter().map(|slip| lines.line_of(slip.offset));
            Measured {
                lines: text.lines().count(),
                code: document.code_lines(),
                slips: slips.collect::<BTreeSet<usize>>().len(),
                changed: changed_lines(&text, &apply(&text, &outcome.edits)),
                failed: None,
            }
        }
        Err(why) => Measured { failed: Some(why), ..Measured::default() },
    };
    items.par_iter().map(one).collect()
}

fn read(
    texts: &[&str],
    language: &'static Language,
    base: Style,
    done: impl Fn() + Sync,
) -> Survey {
    let new = || Survey::new(language, base.clone());
    let one = |text: &&str| {
        let mut survey = new();
        survey.read(text);
        done();
        survey
    };
    texts.par_iter().map(one).reduce(new, Survey::join)
}
