//! Judging a selection of files, as many at a time as there are cores.

use kanonix_core::judge_with_older;
use kanonix_core::text::Lines;
use kanonix_repo::work::{Item, LeftAlone, NotLoaded, Selection};
use rayon::prelude::*;

/// A slip as a reader finds it.
#[derive(Clone, Debug)]
pub(crate) struct Place {
    /// One-based.
    pub line: usize,
    /// One-based, in characters.
    pub column: usize,
    /// How many characters are meant; 0 for a single place.
    pub length: usize,
    /// The setting that asks for something else, or `fault`.
    pub setting: &'static str,
    /// What is wanted.
    pub message: String,
    /// The line as it stands.
    pub source: String,
}

/// What was found in one file.
pub(crate) struct Judged {
    pub shown: String,
    pub language: &'static str,
    pub slips: Vec<Place>,
    pub faults: Vec<Place>,
    pub older: usize,
    pub faults_stop: bool,
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
            let mut lines: Vec<usize> = file.slips.iter().map(|slip| slip.line).collect();
            lines.dedup();
            lines.len()
        };
        self.files.iter().map(lines).sum()
    }

    /// Whether anything could not be judged, or does not parse where that stops.
    pub fn is_incomplete(&self) -> bool {
        !self.problems.is_empty()
            || self.files.iter().any(|file| file.faults_stop && !file.faults.is_empty())
    }
}

/// Judges every item.
pub(crate) fn judge_all(selection: &Selection) -> Judgement {
    let judged: Vec<Result<Judged, (String, NotLoaded)>> =
        selection.items.par_iter().map(|item| judge_item(selection, item)).collect();
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

fn judge_item(selection: &Selection, item: &Item) -> Result<Judged, (String, NotLoaded)> {
    let loaded = selection.load(item).map_err(|reason| (item.shown.clone(), reason))?;
    let set = loaded.play.lines(&loaded.text);
    let text = &loaded.text;
    let outcome = judge_with_older(text, item.language, &item.style, &set);
    let lines = Lines::new(text);
    let place = |offset: usize, length: usize, setting: &'static str, message: String| {
        let (line, column) = lines.place(text, offset.min(text.len()));
        let start = lines.start(line - 1);
        let source = text[start..].lines().next().unwrap_or_default().to_string();
        let meant = text.get(offset..offset + length).unwrap_or_default();
        let length = meant.lines().next().unwrap_or_default().chars().count();
        Place { line, column, length, setting, message, source }
    };
    Ok(Judged {
        shown: item.shown.clone(),
        language: item.language.name,
        slips: outcome
            .slips
            .into_iter()
            .map(|slip| place(slip.offset, slip.length, slip.setting.name(), slip.message))
            .collect(),
        faults: outcome
            .faults
            .iter()
            .filter(|fault| {
                let last = lines.line_of(fault.end.max(fault.start + 1) - 1);
                set.touches(lines.line_of(fault.start)..last + 1)
            })
            .map(|fault| {
                let message = match fault.is_empty() {
                    true => "something is missing here: this does not parse and is left as it is",
                    false => "this does not parse and is left as it is",
                };
                place(fault.start, fault.len(), "fault", message.into())
            })
            .collect(),
        older: outcome.older,
        faults_stop: item.faults_stop,
    })
}
