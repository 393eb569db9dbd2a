//! The proposal: what the code does already, what each value would cost, and the canon that
//! disturbs the least.

use super::super::replace_kept;
use super::{Total, Tree, table, written};
use crate::Status;
use crate::service::Progress;
use crate::options::Settle;
use crate::paint::Paint;
use crate::report::{left_alone, width_of};
use crate::say::{errln, outln, outpart};
use anyhow::Context;
use kanonix_core::judge;
use kanonix_core::languages::{self, Language};
use kanonix_core::style::Style;
use kanonix_core::survey::{Answer, Survey, is_made};
use kanonix_core::text::{LineSet, Lines, visible};
use kanonix_repo::canon::FILE_NAME;
use kanonix_repo::work::{self, Item, LeftAlone, NotLoaded, Selection, Why};
use kanonix_repo::write::put;
use rayon::prelude::*;
use std::collections::BTreeSet;
use std::io::IsTerminal;
use std::path::{Path, PathBuf};

/// So much of a repository is judged under every value of every setting, in bytes: a few seconds.
const MOST_BYTES: u64 = 2_500_000;

/// Of each language, at least so many files, if there are as many.
const FEWEST_FILES: usize = 40;

/// A file's share of the work: it is judged under so many values of settings.
const STYLES: usize = 20;

pub(super) fn run(tree: &Tree, options: &Settle) -> anyhow::Result<Status> {
    let text = tree.text()?;
    let mut selection = tree.under(&[])?;
    let mut left = selection.left_alone.clone();
    let uncovered: Vec<PathBuf> = left.of(Why::UnknownLanguage).to_vec();
    left.forget(Why::UnknownLanguage);
    let made = set_aside_made(&mut selection);
    let findings = survey(&mut selection, &mut left);
    let skip = written::patterns(&made, &selection.items);
    // A person reads the table; the canon goes where the output does.
    let for_person = std::io::stdout().is_terminal() && !options.voice.quiet;
    let width = match for_person || options.write {
        true => width_of(&std::io::stdout()),
        false => width_of(&std::io::stderr()),
    };
    let mut told = table::table(&findings, Paint::new(options.voice.color), width);
    told.push_str(&table::beside(&made, &uncovered));
    let canon = match &text {
        Some(text) => written::in_place(tree, text, &findings, &skip)?,
        None => written::canon_text(&findings, &skip),
    };
    let shown = tree.shown(&tree.canon);
    let idle = idle(tree)?;
    if !options.write {
        if for_person {
            outpart!("{told}");
        } else if !options.voice.quiet {
            errln!("{}", told.trim_end_matches('\n'));
        }
        if !for_person {
            outpart!("{canon}");
        }
        if !options.voice.quiet {
            if let Some(left) = left_alone(&left) {
                errln!("{left}");
            }
            idle.iter().for_each(|idle| errln!("{idle}"));
            let how = match text {
                Some(_) => "change it in its place with: kanonix settle --write",
                None => "put it in place with: kanonix settle --write",
            };
            let read = if for_person { "read the canon with: kanonix settle | more\n" } else { "" };
            errln!("\n{read}nothing is written; {how}");
        }
        return Ok(Status::Clean);
    }
    if !options.voice.quiet {
        outpart!("{told}");
        idle.iter().for_each(|idle| errln!("{idle}"));
    }
    if text.as_ref() == Some(&canon) {
        outln!("{shown} says so already");
        return Ok(Status::Clean);
    }
    write(tree, text.as_deref(), &canon)
        .with_context(|| format!("{shown} cannot be written"))?;
    outln!("the canon is in {shown}");
    outln!("read it, agree on it, commit it; then: kanonix gate install");
    Ok(Status::Clean)
}

/// What is to be said of patterns that do nothing.
fn idle(tree: &Tree) -> anyhow::Result<Vec<String>> {
    let idle = work::idle_patterns(&tree.root)?;
    Ok(idle.iter().map(|idle| crate::report::idle(idle, |path| tree.shown(path))).collect())
}

/// Takes the files that no person wrote out of what is surveyed.
fn set_aside_made(selection: &mut Selection) -> Vec<Item> {
    let is_nobodys = |item: &Item| match selection.load(item) {
        Ok(loaded) => is_made(&loaded.text, item.language),
        Err(why) => matches!(why, NotLoaded::LeftAlone(Why::Minified)),
    };
    let made: Vec<bool> = selection.items.par_iter().map(is_nobodys).collect();
    let mut marks = made.into_iter();
    let is_made = |_: &mut Item| marks.next().unwrap_or(false);
    selection.items.extract_if(.., is_made).collect()
}

fn write(tree: &Tree, old: Option<&str>, canon: &str) -> anyhow::Result<()> {
    match old {
        Some(old) => replace_kept(&tree.root, &tree.canon, old, canon),
        None => Ok(put(&tree.root, Path::new(FILE_NAME), canon.as_bytes(), 0o644)?),
    }
}

/// What was found of one language.
pub(super) struct Finding {
    pub language: &'static Language,
    /// How many files there are, read or not.
    pub files: usize,
    /// How many of them were judged under every value.
    pub read: usize,
    /// Lines of all files.
    pub lines: usize,
    pub answers: Vec<Answer>,
    /// What a check of all lines counts under the proposal, in all files.
    pub proposed: Total,
    /// The same as the language's community has it.
    pub usual: Total,
}

/// What the files of one language come to under one style.
#[derive(Default)]
struct Measured {
    lines: usize,
    total: Total,
    failed: Vec<(NotLoaded, PathBuf)>,
}

fn survey(selection: &mut Selection, left: &mut LeftAlone) -> Vec<Finding> {
    let size = |item: &Item| std::fs::metadata(&item.path).map_or(0, |file| file.len());
    let bytes: u64 = selection.items.iter().map(size).sum();
    let share = bytes.div_ceil(MOST_BYTES).max(1) as usize;
    let progress = Progress::new(selection.items.len(), STYLES + 1);
    let mut findings = Vec::new();
    for language in languages::ALL {
        let items: Vec<&Item> =
            selection.items.iter().filter(|item| item.language.name == language.name).collect();
        if items.is_empty() {
            continue;
        }
        // Spread evenly over the sorted list, so that every corner of a large tree has its say.
        let step = share.min((items.len() / FEWEST_FILES).max(1));
        let load = |item: &&Item| selection.load(item).ok().map(|loaded| loaded.text);
        let texts: Vec<String> = items.par_iter().step_by(step).filter_map(load).collect();
        let all: Vec<&str> = texts.iter().map(String::as_str).collect();
        let looks = std::sync::atomic::AtomicUsize::new(0);
        let read = |texts: &[&str], base: Style| {
            // The second look is at all of them.
            let is_second = looks.fetch_add(1, std::sync::atomic::Ordering::Relaxed) == 1;
            read(texts, language, base, || {
                if is_second {
                    progress.advance(STYLES * step);
                }
            })
        };
        let mut survey = Survey::settle(&all, language, read);
        let measured = |style: &Style| measure(selection, &items, style);
        let usual = measured(&language.style());
        let mut proposed = measured(&survey.style());
        // Where it costs more than the community's word, it is given up setting by setting.
        let given_up = survey
            .answers()
            .into_iter()
            .filter(|answer| !answer.usual && !answer.argued);
        let mut gave_up = false;
        for answer in given_up {
            if proposed.total.lines <= usual.total.lines {
                break;
            }
            let other = survey.with_usual(&answer.name);
            let without = measured(&other.style());
            if without.total.lines < proposed.total.lines {
                (survey, proposed, gave_up) = (other, without, true);
            }
        }
        if gave_up {
            survey.price_again(&all, read);
        }
        progress.advance(items.len());
        for (failed, path) in proposed.failed {
            match failed {
                NotLoaded::LeftAlone(why) => left.add(why, &path),
                NotLoaded::Problem(reason) => {
                    errln!("kanonix: {}: {reason}", visible(&path.display().to_string()));
                }
            }
        }
        findings.push(Finding {
            language,
            files: items.len(),
            read: survey.files,
            lines: proposed.lines,
            answers: survey.answers(),
            proposed: proposed.total,
            usual: usual.total,
        });
    }
    progress.end();
    findings
}

/// What a check of all lines counts in these files under a style.
fn measure(selection: &Selection, items: &[&Item], style: &Style) -> Measured {
    let one = |item: &&Item| match selection.load(item) {
        Ok(loaded) => {
            let lines = Lines::new(&loaded.text);
            let outcome = judge(&loaded.text, item.language, style, &LineSet::whole());
            let slips = outcome.slips.iter().map(|slip| lines.line_of(slip.offset));
            let slips = slips.collect::<BTreeSet<usize>>().len();
            Measured {
                lines: loaded.text.lines().count(),
                total: Total { lines: slips, files: usize::from(slips > 0) },
                failed: Vec::new(),
            }
        }
        Err(why) => Measured { failed: vec![(why, item.path.clone())], ..Measured::default() },
    };
    items.par_iter().map(one).reduce(Measured::default, Measured::join)
}

impl Measured {
    fn join(mut self, other: Measured) -> Measured {
        self.lines += other.lines;
        self.total.lines += other.total.lines;
        self.total.files += other.total.files;
        self.failed.extend(other.failed);
        self
    }
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
