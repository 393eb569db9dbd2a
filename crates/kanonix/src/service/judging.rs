//! Judging a selection of files, as many at a time as there are cores.

use crate::Status;
use super::progress::Progress;
use super::places::{Finder, Place, UNREAD, WITH_SOURCE, add_fixes, in_order, wanted};
use super::mending::{mend_loaded, patch};
use kanonix_core::style::{Key, Setting};
use kanonix_core::text::{LineSet, Lines};
use kanonix_core::{Document, Keep, Remark, keeps};
use kanonix_repo::work::{Item, LeftAlone, NotLoaded, Selection, Was, Why};
use rayon::prelude::*;
use std::ops::Range;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::PathBuf;

/// What was found in one file.
#[derive(Default)]
pub(crate) struct Judged {
    pub shown: String,
    /// Its path from the repository's root, or as it was given outside of one.
    pub inside: PathBuf,
    pub language: &'static str,
    pub slips: Vec<Place>,
    pub faults: Vec<Place>,
    /// Lines that are too long and that mending leaves as they are.
    pub long_lines: Vec<Place>,
    /// What else is said of its lines and never stops.
    pub remarks: Vec<Place>,
    /// New comments that ask for lines to be kept as they stand.
    pub new_keeps: Vec<Place>,
    pub older: usize,
    /// What would be mended, as `git apply` takes it, where that was asked for.
    pub patch: Option<String>,
    /// Whether one of these keeps the run from ending well.
    pub stops: bool,
}

/// What was found in all of them.
#[derive(Default)]
pub(crate) struct Judgement {
    /// Every file that was judged, ordered by path.
    pub files: Vec<Judged>,
    pub left_alone: LeftAlone,
    /// Path and reason.
    pub problems: Vec<(String, String)>,
    /// What is said of a file that does not stop: path and words.
    pub notes: Vec<(String, String)>,
    /// The top of the repository, if it is in one.
    pub root: Option<PathBuf>,
}

/// What is asked for beside the slips on the lines in play.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Wishes {
    /// The number of slips on the other lines.
    pub older: bool,
    /// What would be mended.
    pub patches: bool,
    /// The lines of all slips, however many there are.
    pub sources: bool,
}

impl Judged {
    /// All that is said about the file, in the order of its lines.
    pub fn places(&self) -> Vec<&Place> {
        let all = self.slips.iter().chain(&self.faults).chain(&self.long_lines);
        let all = all.chain(&self.remarks).chain(&self.new_keeps);
        let mut places: Vec<&Place> = all.collect();
        places.sort_by_key(|place| (place.line, place.column));
        places
    }
}

impl Judgement {
    pub fn slips(&self) -> usize {
        self.files.iter().map(|file| file.slips.len()).sum()
    }

    pub fn older(&self) -> usize {
        self.files.iter().map(|file| file.older).sum()
    }

    pub fn new_keeps(&self) -> impl Iterator<Item = (&Judged, &Place)> {
        self.files.iter().flat_map(|file| file.new_keeps.iter().map(move |place| (file, place)))
    }

    /// Whether there is nothing that somebody who commits would want to know.
    pub fn is_silent(&self) -> bool {
        self.status() == Status::Clean
            && self.notes.is_empty()
            && self.new_keeps().next().is_none()
    }

    /// How many lines have slips.
    pub fn lines(&self) -> usize {
        let lines = |file: &Judged| {
            let mut lines: Vec<u32> = file.slips.iter().map(|slip| slip.line).collect();
            lines.dedup();
            lines.len()
        };
        self.files.iter().map(lines).sum()
    }

    /// How a run with this judgement ends.
    pub fn status(&self) -> Status {
        if self.is_incomplete() {
            Status::Incomplete
        } else if self.slips() > 0 {
            Status::Slips
        } else {
            Status::Clean
        }
    }

    /// Whether anything could not be judged, or something stops that no mending helps against.
    fn is_incomplete(&self) -> bool {
        !self.problems.is_empty()
            || self.files.iter().any(|file| file.stops)
    }
}

/// Does some work on one text; a fault of Kanonix in it costs the answer and nothing else.
pub(crate) fn sheltered<T>(work: impl FnOnce() -> T) -> Result<T, String> {
    catch_unwind(AssertUnwindSafe(work)).map_err(|_| {
        "this is a fault of Kanonix, and nothing is said or written here: please report it with the \
         text and its canon"
        .into()
    })
}

/// Judges every item.
pub(crate) fn judge_items(selection: &Selection, wishes: Wishes) -> Judgement {
    let progress = Progress::new(selection.items.len(), 1);
    let one = |item: &Item| {
        let judged = sheltered(|| judge_item(selection, item, wishes));
        progress.advance(1);
        judged.unwrap_or_else(|fault| Err((item.shown.clone(), NotLoaded::Problem(fault))))
    };
    let judged: Vec<Result<Judged, (String, NotLoaded)>> =
        selection.items.par_iter().map(one).collect();
    let judged = judged.into_iter().zip(&selection.items);
    progress.end();
    let mut judgement = Judgement {
        files: Vec::with_capacity(judged.len()),
        left_alone: selection.left_alone.clone(),
        problems: selection.problems.clone(),
        notes: Vec::new(),
        root: selection.repository.as_ref().map(|repository| repository.root.clone()),
    };
    for (one, item) in judged {
        match one {
            Ok(file) => judgement.files.push(file),
            Err((path, NotLoaded::LeftAlone(why))) => {
                match unreadable(selection, item, why) {
                    Ok(Some(words)) if item.unreadable_stops => {
                        let next = "mend that, or agree on `[reach] unreadable = \"pass\"`";
                        judgement.problems.push((path, format!("{words}: {next}")));
                        continue;
                    }
                    Ok(words) => judgement.notes.extend(words.map(|words| (path, words))),
                    Err(reason) => judgement.problems.push((path, reason)),
                }
                judgement.left_alone.add(why, &item.path);
            }
            Err((path, NotLoaded::Problem(reason))) => judgement.problems.push((path, reason)),
        }
    }
    judgement
}

/// What is said of a file that could be read as text before, or is new, and cannot be.
fn unreadable(selection: &Selection, item: &Item, why: Why) -> Result<Option<String>, String> {
    let what = match why {
        Why::Binary => "a zero byte has come into it",
        Why::NotUtf8 => "bytes that are not UTF-8 have come into it",
        Why::TooLarge => "it has become larger than `[files] largest`",
        Why::Minified => "its lines have become longer than a person writes (`[files] minified`)",
        _ => return Ok(None),
    };
    match selection.was(item) {
        // A large or a minified file that comes as it is, is data.
        Ok(Was::New) if matches!(why, Why::TooLarge | Why::Minified) => Ok(None),
        Ok(Was::Readable | Was::New) => Ok(Some(format!("{what}, so it cannot be judged"))),
        Ok(Was::Unreadable | Was::Unknown) => Ok(None),
        Err(NotLoaded::Problem(reason)) => Err(reason),
        Err(NotLoaded::LeftAlone(_)) => Ok(None),
    }
}

/// The comments that keep lines which nothing kept before, in bytes, each with what is said of it:
/// those on new lines, and those whose end is gone.
fn new_keeps(
    selection: &Selection,
    item: &Item,
    text: &str,
) -> Result<Vec<(Range<usize>, &'static str)>, NotLoaded> {
    let found = keeps(text, item.language);
    if found.is_empty() {
        return Ok(Vec::new());
    }
    let Some(brought) = selection.brought(item, text)? else { return Ok(Vec::new()) };
    let open = |keeps: &[Keep]| keeps.iter().filter(|keep| !keep.is_ended).count();
    let mut lost_ends = false;
    if open(&found) > 0 {
        let before = selection.before(item)?.unwrap_or_default();
        lost_ends = open(&found) > open(&keeps(&before, item.language));
    }
    let lines = Lines::new(text);
    let said = |Keep { comment, is_ended }: Keep| {
        let at = lines.line_of(comment.start)..lines.line_of(comment.end) + 1;
        match brought.touches(at) {
            true => Some((comment, "this new comment keeps what follows as it stands")),
            false if lost_ends && !is_ended => Some((
                comment,
                "the end of what this comment keeps was taken away: it keeps more lines than before",
            )),
            false => None,
        }
    };
    Ok(found.into_iter().filter_map(said).collect())
}

fn judge_item(
    selection: &Selection,
    item: &Item,
    wishes: Wishes,
) -> Result<Judged, (String, NotLoaded)> {
    let named = |reason| (item.shown.clone(), reason);
    let loaded = selection.load(item).map_err(named)?;
    let set = loaded.play.lines(&loaded.text);
    let text = &loaded.text;
    let document = Document::new(text.as_str(), item.language);
    let outcome = match wishes.older {
        true => document.judge_with_older(&item.style, &set),
        false => document.judge(&item.style, &set),
    };
    let keeps = new_keeps(selection, item, text).map_err(named)?;
    if let Some(why) = outcome.unjudged {
        return Err((item.shown.clone(), NotLoaded::Problem(why.to_string())));
    }
    if outcome.slips.is_empty()
        && outcome.faults.is_empty()
        && outcome.long_lines.is_empty()
        && outcome.remarks.is_empty()
        && keeps.is_empty()
    {
        return Ok(Judged {
            shown: item.shown.clone(),
            inside: item.inside.clone(),
            language: item.language.name,
            older: outcome.older,
            ..Judged::default()
        });
    }
    let with_source = wishes.sources || outcome.slips.len() <= WITH_SOURCE;
    let mut finder = Finder::new(text, with_source);
    let faults = outcome
        .faults
        .iter()
        .filter(|fault| in_play(&set, &finder.lines, fault))
        .cloned()
        .collect::<Vec<_>>();
    let max = item.style.number(Setting::MaxLineLength, Key::Whole).unwrap_or(0) as usize;
    let long_lines: Vec<Place> = outcome
        .long_lines
        .iter()
        .map(|line| {
            let start = finder.lines.start(*line);
            let rest = text[start..].lines().next().unwrap_or_default();
            let over = rest.char_indices().nth(max).map_or(rest.len(), |(at, _)| at);
            let message = "the line is too long, and mending cannot help".to_string();
            let end = start + rest.len();
            let (from, to) = in_order(text, &finder.lines, &[start + over..end])[0];
            let place = finder.place(start + over, 0, "long_line", message);
            Place { start: from, end: to, ..place }
        })
        .collect();
    let remarks: Vec<Place> = outcome
        .remarks
        .iter()
        .map(|Remark { bytes, about, message }| {
            let (start, end) = in_order(text, &finder.lines, std::slice::from_ref(bytes))[0];
            let place = finder.place(bytes.start, bytes.len(), about, message.clone());
            Place { start, end, ..place }
        })
        .collect();
    let new_keeps: Vec<Place> = keeps
        .into_iter()
        .map(|(keep, message)| {
            let (start, end) = in_order(text, &finder.lines, std::slice::from_ref(&keep))[0];
            let place = finder.place(keep.start, keep.len(), "new_keep", message.into());
            Place { start, end, ..place }
        })
        .collect();
    let patch = match wishes.patches && !outcome.edits.is_empty() {
        true => {
            let mended = mend_loaded(item, &document, &loaded.play)
                .map_err(|reason| named(NotLoaded::Problem(reason)))?;
            Some(patch(&item.inside, text, &mended.text))
        }
        false => None,
    };
    let edits = outcome.edits;
    let spans: Vec<Range<usize>> =
        outcome.slips.iter().map(|slip| slip.offset..slip.offset + slip.length).collect();
    let mut slips: Vec<Place> = outcome
        .slips
        .into_iter()
        .map(|slip| finder.place(slip.offset, slip.length, slip.setting.name(), slip.message))
        .collect();
    add_fixes(text, &finder.lines, &spans, &edits, &mut slips);
    if with_source {
        let mut last = 0;
        for slip in slips.iter_mut().filter(|slip| slip.cut == 0) {
            if std::mem::replace(&mut last, slip.line) != slip.line {
                slip.wanted = wanted(text, &finder.lines, &edits, slip.line as usize - 1);
            }
        }
    }
    let fault_places = in_order(text, &finder.lines, &faults);
    let stops = (item.faults_stop && !faults.is_empty())
        || (item.long_lines_stop && !long_lines.is_empty())
        || (item.new_keeps_stop && !new_keeps.is_empty());
    Ok(Judged {
        shown: item.shown.clone(),
        inside: item.inside.clone(),
        language: item.language.name,
        slips,
        faults: faults
            .into_iter()
            .zip(fault_places)
            .map(|(fault, (start, end))| {
                let message = match fault.is_empty() {
                    true => "something is missing here: this does not parse and is left as it is",
                    false => UNREAD,
                };
                let place = finder.place(fault.start, fault.len(), "fault", message.into());
                Place { start, end, ..place }
            })
            .collect(),
        long_lines,
        remarks,
        new_keeps,
        patch,
        older: outcome.older,
        stops,
    })
}

/// Whether a stretch has a line in play.
pub(super) fn in_play(set: &LineSet, lines: &Lines, stretch: &Range<usize>) -> bool {
    let last = lines.line_of(stretch.end.max(stretch.start + 1) - 1);
    set.touches(lines.line_of(stretch.start)..last + 1)
}
