//! `kanonix mend`: rewrites slips, and nothing else.

pub(crate) mod storing;

use super::{here, reach_in_words, say_if_not_agreed, take_back, wishes};
use crate::Status;
use crate::service::judging::{judge_items, sheltered};
use crate::service::places::UNREAD;
use crate::service::mending::{
    Done,
    dropped,
    mend_loaded,
    mended_unless,
    patch,
    unproved,
};
use crate::options::{Mend, ReportOption};
use crate::paint::Paint;
use crate::report::{self, Frame, count, left_alone};
use crate::say::errln;
use kanonix_core::Document;
use kanonix_core::text::{changed_lines, visible};
use kanonix_repo::undo::Store;
use kanonix_repo::work::{Item, LeftAlone, NotLoaded, Reach, Selection, select, select_as};
use rayon::prelude::*;
use std::io::{IsTerminal, Read};
use std::path::Path;

pub(crate) fn run(options: &Mend) -> anyhow::Result<Status> {
    match &options.stdin {
        Some(path) => standard_input(path, &options.reach.reach()),
        None => files(options),
    }
}

fn files(options: &Mend) -> anyhow::Result<Status> {
    let reach = options.reach.reach();
    let here = here()?;
    let mut selection = select(&here, &options.paths, &reach)?;
    if !options.dry_run && take_back(&Store::of(selection.repository.as_ref()), &here)?.is_some() {
        selection = select(&here, &options.paths, &reach)?;
    }
    say_if_not_agreed(&selection, &options.voice);
    if options.reach.whole && !may_write_all(options, &selection)? {
        return Ok(Status::Wrong);
    }
    let (words, _) = reach_in_words(&reach, selection.repository.is_some());
    if !options.report.is_empty() {
        let frame = Frame {
            reach: &words,
            headline: None,
            mend: "kanonix mend",
            rest: None,
            merge: None,
        };
        let judgement = judge_items(&selection, wishes(&options.report, true));
        report::write_asked(&mut std::io::stdout(), &judgement, &frame, &options.report)?;
    }
    let quiet = options.voice.quiet || options.report.iter().any(ReportOption::takes_output);
    let mut done: Vec<(&Item, Done)> =
        selection.items.par_iter().map(|item| (item, mended(&selection, item))).collect();
    if !options.dry_run {
        storing::store(&selection, &mut done)?;
    }
    let paint = Paint::new(options.voice.color);
    let mut left: LeftAlone = selection.left_alone.clone();
    let mut problems = selection.problems.clone();
    let mut out = String::new();
    let (mut files, mut lines) = (0, 0);
    let widest = done.iter().map(|(item, _)| visible(&item.shown).chars().count());
    let widest = widest.max().unwrap_or(0).min(60);
    for (item, done) in done {
        match done {
            Done::Clean { unread } => out.push_str(&not_read(item, &unread, options.dry_run)),
            Done::LeftAlone(why) => left.add(why, &item.path),
            Done::Problem(reason) => problems.push((item.shown.clone(), reason)),
            Done::Mended { old, new, unread, notes, refused } => {
                problems.extend(refused.map(|reason| (item.shown.clone(), reason)));
                files += 1;
                let changed = changed_lines(&old, &new);
                lines += changed;
                if options.dry_run {
                    out.push_str(&painted(&patch(&item.inside, &old, &new), paint));
                } else {
                    let name = format!("{:widest$}", visible(&item.shown));
                    out.push_str(&format!("{}  {}\n", paint.strong(&name), count(changed, "line")));
                }
                for note in notes {
                    match options.dry_run {
                        // A patch has no room for it.
                        true => errln!("kanonix: {}: {note}", visible(&item.shown)),
                        false => out.push_str(&format!("    {note}\n")),
                    }
                }
                out.push_str(&not_read(item, &unread, options.dry_run));
            }
        }
    }
    if !options.dry_run && !quiet {
        let summary = match files {
            0 => paint.good(&format!("nothing to mend {words}")),
            _ => format!(
                "{} in {} mended · take it back with: kanonix undo",
                count(lines, "line"),
                count(files, "file")
            ),
        };
        out.push_str(&format!("{summary}\n"));
        if let Some(left) = left_alone(&left) {
            out.push_str(&format!("{}\n", paint.faint(&left)));
        }
    }
    if options.dry_run || !quiet {
        report::to(&mut std::io::stdout(), &out)?;
    }
    for (path, reason) in &problems {
        errln!("kanonix: {}: {}", visible(path), visible(reason));
    }
    Ok(if problems.is_empty() { Status::Clean } else { Status::Incomplete })
}

/// Says how many files have changes that are not committed before all lines are mended; with
/// `--committed` there may be none.
fn may_write_all(options: &Mend, selection: &Selection) -> anyhow::Result<bool> {
    let Some(repository) = &selection.repository else {
        if options.committed {
            errln!("kanonix: --committed asks git, and this is no repository; nothing is written");
        }
        return Ok(!options.committed);
    };
    if !options.committed && (options.dry_run || options.voice.quiet) {
        return Ok(true);
    }
    let open = repository.uncommitted()?.len();
    if open == 0 {
        return Ok(true);
    }
    let have = if open == 1 { "has" } else { "have" };
    let said = format!("{} {have} changes that are not committed", count(open, "file"));
    match options.committed {
        true => errln!("kanonix: {said}: commit them or set them aside, or leave out --committed; nothing is written"),
        false => errln!("{said}; as they are now, kanonix undo brings them back"),
    }
    Ok(!options.committed)
}

/// What is said of the places that do not parse; a patch has no room for it.
fn not_read(item: &Item, places: &[(usize, usize)], is_patch: bool) -> String {
    let shown = visible(&item.shown);
    let line = |(line, column): &(usize, usize)| {
        format!("{shown}:{line}:{column}: fault: {UNREAD}\n")
    };
    if is_patch { String::new() } else { places.iter().map(line).collect() }
}

fn mended(selection: &Selection, item: &Item) -> Done {
    mended_unless(selection, item, |_| None)
}

/// A patch as a person reads it; plain where nobody looks on.
fn painted(patch: &str, paint: Paint) -> String {
    if !std::io::stdout().is_terminal() && !paint.is_on() {
        return patch.to_string();
    }
    let lines = patch.split_inclusive('\n').map(|line| {
        let bare = visible(&line.trim_end_matches(['\n', '\r']).replace('\t', "    ")).into_owned();
        let bare = bare.as_str();
        match line.as_bytes().first() {
            _ if ["diff --git ", "--- ", "+++ "].iter().any(|head| line.starts_with(head)) => {
                paint.strong(bare) + "\n"
            }
            Some(b'+') => paint.good(bare) + "\n",
            Some(b'-') => paint.gone(bare) + "\n",
            Some(b'@') => paint.name(bare) + "\n",
            _ => bare.to_string() + "\n",
        }
    });
    lines.collect()
}

/// `mend --stdin PATH`: whatever happens, the text comes out again.
fn standard_input(path: &Path, reach: &Reach) -> anyhow::Result<Status> {
    let mut bytes = Vec::new();
    std::io::stdin().lock().read_to_end(&mut bytes)?;
    let (out, outcome) = mend_text(path, reach, bytes);
    report::bytes_to(&mut std::io::stdout().lock(), &out)?;
    outcome
}

fn mend_text(path: &Path, reach: &Reach, bytes: Vec<u8>) -> (Vec<u8>, anyhow::Result<Status>) {
    let text = match String::from_utf8(bytes) {
        Ok(text) => text,
        Err(error) => {
            let at = error.utf8_error().valid_up_to();
            errln!(
                "kanonix: standard input is not UTF-8 (byte {}); it is passed on as it came",
                at + 1
            );
            return (error.into_bytes(), Ok(Status::Incomplete));
        }
    };
    let mend = || -> anyhow::Result<(Option<String>, Status)> {
        let selection = select_as(&here()?, path, reach)?;
        let Some(item) = selection.items.first() else { return Ok((None, Status::Clean)) };
        let loaded = match selection.take(item, text.clone()) {
            Ok(loaded) => loaded,
            Err(NotLoaded::LeftAlone(_)) => return Ok((None, Status::Clean)),
            Err(NotLoaded::Problem(reason)) => {
                anyhow::bail!("{}: {reason}", visible(&item.shown))
            }
        };
        let document = Document::new(loaded.text.as_str(), item.language);
        match mend_loaded(item, &document, &loaded.play) {
            Ok(mended) => {
                let mut status = Status::Clean;
                if let Some(note) = dropped(mended.outcome.dropped()) {
                    errln!("kanonix: {}: {note}", visible(&item.shown));
                }
                if let Some(difference) = &mended.outcome.refused {
                    let said = unproved(item, &loaded.text, difference);
                    errln!("kanonix: {}: {}", visible(&item.shown), visible(&said));
                    status = Status::Incomplete;
                }
                Ok((Some(mended.text), status))
            }
            Err(reason) => anyhow::bail!("{}: {reason}", visible(&item.shown)),
        }
    };
    match sheltered(mend).unwrap_or_else(|fault| Err(anyhow::anyhow!(fault))) {
        Ok((mended, status)) => (mended.unwrap_or(text).into_bytes(), Ok(status)),
        Err(error) => (text.into_bytes(), Err(error)),
    }
}
