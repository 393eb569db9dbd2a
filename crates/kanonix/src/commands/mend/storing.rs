//! Writing mended texts back: into files, and into the index with the working files behind it.
//!
//! What is replaced is kept first. Working files are written before the index, so that a run that
//! is cut short can simply be run again.

use super::super::as_typed;
use super::Done;
use crate::report::count;
use kanonix_core::text::{carry, changed_lines};
use kanonix_repo::git::{Repository, Staging};
use kanonix_repo::undo::{Changing, Store};
use kanonix_repo::work::{Item, Selection, Source};
use kanonix_repo::write;

/// What becomes of one item.
struct Writing {
    /// Its place among all of them.
    place: usize,
    change: Changing,
    note: Option<String>,
}

/// Writes every mended text, or says what kept it.
pub(crate) fn store(selection: &Selection, done: &mut [(&Item, Done)]) -> anyhow::Result<()> {
    let mut writings = Vec::new();
    let mut problems = Vec::new();
    for (place, (item, done)) in done.iter().enumerate() {
        let Done::Mended { old, new, .. } = done else { continue };
        match planned(selection, item, old, new) {
            Ok((change, note)) => writings.push(Writing { place, change, note }),
            Err(reason) => problems.push((place, reason)),
        }
    }
    if let Some(repository) = &selection.repository
        && writings.iter().any(|writing| writing.change.index.is_some())
    {
        repository.wait_for_index()?;
    }
    let changes: Vec<Changing> = writings.iter().map(|writing| writing.change.clone()).collect();
    if changes.is_empty() {
        return say(done, Vec::new(), problems);
    }
    let undo = Store::of(selection.repository.as_ref());
    let _held = undo.hold()?;
    let keeping = undo.keep(&as_typed(), &changes)?;
    let mut staged = Vec::new();
    for (index, writing) in writings.iter().enumerate() {
        let change = &writing.change;
        let written = match &change.file {
            Some((old, new)) if old != new => {
                write::replace(&change.path, old, new, keeping.temporary(index))
            }
            _ => Ok(()),
        };
        match written {
            Ok(()) => staged.extend(change.index.as_ref().map(|(_, new)| new.clone())),
            Err(error) => problems.push((writing.place, error.to_string())),
        }
    }
    if let Some(repository) = &selection.repository {
        repository.stage(&staged)?;
    }
    keeping.done()?;
    say(done, writings, problems)
}

/// Notes and problems, each with its item.
fn say(
    done: &mut [(&Item, Done)],
    writings: Vec<Writing>,
    problems: Vec<(usize, String)>,
) -> anyhow::Result<()> {
    for writing in writings {
        if let (_, Done::Mended { notes, .. }) = &mut done[writing.place] {
            notes.extend(writing.note);
        }
    }
    for (place, reason) in problems {
        done[place].1 = Done::Problem(reason);
    }
    Ok(())
}

/// What has to be written for one item, and what a person should know about it.
fn planned(
    selection: &Selection,
    item: &Item,
    old: &str,
    new: &str,
) -> Result<(Changing, Option<String>), String> {
    let mut change = Changing {
        path: item.path.clone(),
        file: None,
        index: None,
        lines: changed_lines(old, new),
    };
    let (Source::Staged { blob, mode }, Some(repository)) = (&item.source, &selection.repository)
    else {
        change.file = Some((old.as_bytes().to_vec(), new.as_bytes().to_vec()));
        return Ok((change, None));
    };
    let staging = |blob: &str| Staging {
        path: item.inside.clone(),
        mode: mode.clone(),
        blob: blob.to_string(),
    };
    let mended = repository.store(new.as_bytes()).map_err(|error| error.to_string())?;
    change.index = Some((staging(blob), staging(&mended)));
    let Some(working) = selection.working_text(item)? else { return Ok((change, None)) };
    if working == old.as_bytes() {
        change.file = Some((working, new.as_bytes().to_vec()));
        return Ok((change, None));
    }
    let (text, in_the_way) = carried(repository, item, blob, &mended, &working)?;
    change.file = Some((working, text));
    let note = (in_the_way > 0).then(|| {
        let lines = count(in_the_way, "unstaged line");
        let stay = match in_the_way {
            1 => "is in the way and stays as it is",
            _ => "are in the way and stay as they are",
        };
        format!("in the working file, {lines} {stay}; what is staged is mended")
    });
    Ok((change, note))
}

/// The working file with the same change carried into it, and how many lines were in the way.
fn carried(
    repository: &Repository,
    item: &Item,
    old: &str,
    new: &str,
    working: &[u8],
) -> Result<(Vec<u8>, usize), String> {
    let as_file = |blob: &str| {
        repository.as_in_working_file(blob, &item.inside).map_err(|error| error.to_string())
    };
    let carried = carry(&as_file(old)?, &as_file(new)?, working);
    let lines = carried.in_the_way.iter().map(|range| range.len().max(1)).sum();
    Ok((carried.text, lines))
}
