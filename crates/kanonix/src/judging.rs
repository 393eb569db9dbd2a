//! Judging a selection of files, as many at a time as there are cores.

use crate::Status;
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use kanonix_core::languages::Language;
use kanonix_core::style::{Setting, Style};
use kanonix_core::text::{Edit, LineSet, Lines, become_of};
use kanonix_core::{Outcome, judge, judge_with_older};
use kanonix_repo::work::{Item, LeftAlone, NotLoaded, Selection};
use rayon::prelude::*;
use std::collections::HashSet;
use std::io::IsTerminal;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::{Duration, Instant};

/// A slip as a reader finds it.
#[derive(Clone, Debug)]
pub(crate) struct Place {
    /// One-based.
    pub line: u32,
    /// One-based, in characters.
    pub column: u32,
    /// How many characters are meant; 0 for a single place.
    pub length: u32,
    /// The setting that asks for something else, or `fault`.
    pub setting: &'static str,
    /// What is wanted. A large tree has many places that want the same.
    pub message: Arc<str>,
    /// The line as it stands; of a long one, the part around the place. Not for all places of a
    /// long list.
    pub source: Option<Box<str>>,
    /// The line as it should be, of the first place on it. Not for all places of a long list.
    pub wanted: Option<Box<str>>,
    /// How many characters of the line are left out before `source`.
    pub cut: u32,
}

/// What was found in one file.
#[derive(Default)]
pub(crate) struct Judged {
    pub shown: String,
    pub language: &'static str,
    pub slips: Vec<Place>,
    pub faults: Vec<Place>,
    /// Lines that are too long and that mending leaves as they are.
    pub long_lines: Vec<Place>,
    pub older: usize,
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
}

impl Judged {
    /// All that is said about the file, in the order of its lines.
    pub fn places(&self) -> Vec<&Place> {
        let all = self.slips.iter().chain(&self.faults).chain(&self.long_lines);
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

/// A zero-based line as it is once its text is mended.
fn wanted(text: &str, lines: &Lines, edits: &[Edit], line: usize) -> Option<Box<str>> {
    let start = lines.start(line);
    let line = text[start..].lines().next()?;
    let blank = line.len() - line.trim_start().len();
    let solid = start + blank..start + line.trim_end().len().max(blank);
    (!solid.is_empty()).then(|| become_of(text, edits, solid).into_boxed_str())
}

/// A bar on the standard error, once a run takes long and a person is watching.
pub(crate) struct Progress {
    bar: ProgressBar,
    begun: Instant,
    done: AtomicUsize,
}

/// A run that takes no longer needs no bar.
const LONG: Duration = Duration::from_millis(500);

impl Progress {
    /// So many steps are to come.
    pub fn new(steps: usize) -> Progress {
        let bar = ProgressBar::with_draw_target(Some(steps as u64), ProgressDrawTarget::hidden());
        let style = ProgressStyle::with_template("{bar:40} {pos} of {len} files, {eta} to go");
        let bar = match style {
            Ok(style) => bar.with_style(style),
            Err(_) => bar,
        };
        Progress { bar, begun: Instant::now(), done: AtomicUsize::new(0) }
    }

    /// So many more steps are done.
    pub fn advance(&self, steps: usize) {
        let done = self.done.fetch_add(steps, Ordering::Relaxed) + steps;
        if self.begun.elapsed() >= LONG {
            if self.bar.is_hidden() && std::io::stderr().is_terminal() {
                self.bar.set_draw_target(ProgressDrawTarget::stderr());
            }
            self.bar.set_position(done as u64);
        }
    }

    /// Takes the bar away.
    pub fn end(&self) {
        self.bar.finish_and_clear();
    }
}

/// Judges every item, and counts the slips on the lines that are not in play.
pub(crate) fn judge_all(selection: &Selection) -> Judgement {
    judge_each(selection, judge_with_older)
}

/// Judges every item, and nothing but the lines in play: a gate has no time for more.
pub(crate) fn judge_in_play(selection: &Selection) -> Judgement {
    judge_each(selection, judge)
}

/// Does some work on one text; a fault of Kanonix in it costs the answer and nothing else.
pub(crate) fn sheltered<T>(work: impl FnOnce() -> T) -> Result<T, String> {
    catch_unwind(AssertUnwindSafe(work)).map_err(|_| {
        "this is a fault of Kanonix, and nothing is said or written here: please report it with the \
         text and its canon"
            .into()
    })
}

/// How a text is judged.
type Judge = fn(&str, &Language, &Style, &LineSet) -> Outcome;

fn judge_each(selection: &Selection, judge: Judge) -> Judgement {
    let progress = Progress::new(selection.items.len());
    let one = |item: &Item| {
        let judged = sheltered(|| judge_item(selection, item, judge));
        progress.advance(1);
        judged.unwrap_or_else(|fault| Err((item.shown.clone(), NotLoaded::Problem(fault))))
    };
    let judged: Vec<Result<Judged, (String, NotLoaded)>> =
        selection.items.par_iter().map(one).collect();
    progress.end();
    let mut judgement = Judgement {
        files: Vec::with_capacity(judged.len()),
        left_alone: selection.left_alone.clone(),
        problems: selection.problems.clone(),
    };
    for one in judged {
        match one {
            Ok(file) => judgement.files.push(file),
            Err((_, NotLoaded::LeftAlone(why))) => {
                *judgement.left_alone.entry(why).or_default() += 1;
            }
            Err((path, NotLoaded::Problem(reason))) => judgement.problems.push((path, reason)),
        }
    }
    judgement
}

fn judge_item(
    selection: &Selection,
    item: &Item,
    judge: Judge,
) -> Result<Judged, (String, NotLoaded)> {
    let loaded = selection.load(item).map_err(|reason| (item.shown.clone(), reason))?;
    let set = loaded.play.lines(&loaded.text);
    let text = &loaded.text;
    let outcome = judge(text, item.language, &item.style, &set);
    if let Some(why) = outcome.unjudged {
        return Err((item.shown.clone(), NotLoaded::Problem(why.to_string())));
    }
    if outcome.slips.is_empty() && outcome.faults.is_empty() && outcome.long_lines.is_empty() {
        return Ok(Judged {
            shown: item.shown.clone(),
            language: item.language.name,
            older: outcome.older,
            ..Judged::default()
        });
    }
    let with_source = outcome.slips.len() <= WITH_SOURCE;
    let mut finder = Finder {
        text,
        lines: Lines::new(text),
        last: (0, 0, 1),
        with_source,
        said: HashSet::new(),
    };
    let in_play = |lines: &Lines, fault: &std::ops::Range<usize>| {
        let last = lines.line_of(fault.end.max(fault.start + 1) - 1);
        set.touches(lines.line_of(fault.start)..last + 1)
    };
    let faults = outcome
        .faults
        .iter()
        .filter(|fault| in_play(&finder.lines, fault))
        .cloned()
        .collect::<Vec<_>>();
    let max = item.style.number(Setting::MaxLineLength, "").unwrap_or(0) as usize;
    let long_lines: Vec<Place> = outcome
        .long_lines
        .iter()
        .map(|line| {
            let start = finder.lines.start(*line);
            let rest = text[start..].lines().next().unwrap_or_default();
            let over = rest.char_indices().nth(max).map_or(rest.len(), |(at, _)| at);
            let message = "the line is too long, and mending cannot help".to_string();
            finder.place(start + over, 0, "long_line", message)
        })
        .collect();
    let edits = match outcome.first.is_empty() {
        true => outcome.edits.clone(),
        false => outcome.first.clone(),
    };
    let mut slips: Vec<Place> = outcome
        .slips
        .into_iter()
        .map(|slip| finder.place(slip.offset, slip.length, slip.setting.name(), slip.message))
        .collect();
    if with_source {
        let mut last = 0;
        for slip in slips.iter_mut().filter(|slip| slip.cut == 0) {
            if std::mem::replace(&mut last, slip.line) != slip.line {
                slip.wanted = wanted(text, &finder.lines, &edits, slip.line as usize - 1);
            }
        }
    }
    let stops = (item.faults_stop && !faults.is_empty())
        || (item.long_lines_stop && !long_lines.is_empty());
    Ok(Judged {
        shown: item.shown.clone(),
        language: item.language.name,
        slips,
        faults: faults
            .into_iter()
            .map(|fault| {
                let message = match fault.is_empty() {
                    true => "something is missing here: this does not parse and is left as it is",
                    false => "this does not parse and is left as it is",
                };
                finder.place(fault.start, fault.len(), "fault", message.into())
            })
            .collect(),
        long_lines,
        older: outcome.older,
        stops,
    })
}

/// Up to so many slips are shown with their lines; a longer list is for going through, not for
/// reading.
pub(crate) const WITH_SOURCE: usize = 40;

/// How much of a line around a place is kept for showing it, in characters.
const AROUND: usize = 120;

/// Finds lines and columns; places that come in the order of the text are found in one pass over
/// it.
struct Finder<'a> {
    text: &'a str,
    lines: Lines,
    /// The last place: offset, start of its line, one-based column.
    last: (usize, usize, usize),
    /// Whether the lines are kept for showing.
    with_source: bool,
    /// The messages so far, each kept once.
    said: HashSet<Arc<str>>,
}

impl Finder<'_> {
    fn place(
        &mut self,
        offset: usize,
        length: usize,
        setting: &'static str,
        message: String,
    ) -> Place {
        let offset = offset.min(self.text.len());
        let line = self.lines.line_of(offset);
        let start = self.lines.start(line);
        let (last, last_start, last_column) = self.last;
        let column = if start == last_start && offset >= last {
            last_column + self.text[last..offset].chars().count()
        } else {
            self.text[start..offset].chars().count() + 1
        };
        self.last = (offset, start, column);
        let meant = self.text.get(offset..offset + length).unwrap_or_default();
        let length = meant.lines().next().unwrap_or_default().chars().take(AROUND).count();
        // A long line is cut on both sides of the place.
        let cut = column.saturating_sub(AROUND);
        let from = self.text[start..offset].char_indices().rev().nth(AROUND - 2);
        let from = if cut > 0 { start + from.map_or(0, |(at, _)| at) } else { start };
        let rest = self.text[from..].chars().take(2 * AROUND);
        let source = self.with_source.then(|| {
            let line: String = rest.take_while(|c| *c != '\n').collect();
            line.into_boxed_str()
        });
        let message = match self.said.get(message.as_str()) {
            Some(said) => said.clone(),
            None => {
                let message: Arc<str> = message.into();
                self.said.insert(message.clone());
                message
            }
        };
        let (line, column) = (line as u32 + 1, column as u32);
        let (length, cut) = (length as u32, cut as u32);
        Place { line, column, length, setting, message, source, wanted: None, cut }
    }
}
