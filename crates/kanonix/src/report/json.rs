//! The JSON report; `docs/report.schema.json` describes it.

use super::Frame;
use crate::service::judging::Judgement;
use crate::service::places::Place;
use serde::Serialize;
use std::path::{Component, Path, PathBuf};

#[derive(Serialize)]
struct Report<'a> {
    version: u32,
    reach: &'a str,
    counts: Counts,
    files: Vec<File<'a>>,
    left_alone: Vec<LeftAlone>,
    problems: Vec<Problem<'a>>,
}

#[derive(Serialize)]
struct Counts {
    slips: usize,
    files_with_slips: usize,
    files: usize,
    older_slips: usize,
    faults: usize,
    long_lines: usize,
}

/// A file that was not judged, and why.
#[derive(Serialize)]
struct LeftAlone {
    path: String,
    because: &'static str,
}

#[derive(Serialize)]
struct File<'a> {
    path: String,
    language: &'a str,
    slips: Vec<Slip<'a>>,
    faults: Vec<Slip<'a>>,
    long_lines: Vec<Slip<'a>>,
    older_slips: usize,
}

#[derive(Serialize)]
struct Slip<'a> {
    start: Position,
    end: Position,
    setting: &'a str,
    message: &'a str,
    #[serde(skip_serializing_if = "Option::is_none")]
    replace: Option<Replace<'a>>,
}

/// A place as the editors' protocol has it: the line and what comes before on it, both from 0, in
/// units of UTF-16.
#[derive(Serialize)]
struct Position {
    line: u32,
    character: u32,
}

#[derive(Serialize)]
struct Replace<'a> {
    start: Position,
    end: Position,
    with: &'a str,
}

#[derive(Serialize)]
struct Problem<'a> {
    path: String,
    message: &'a str,
}

fn position((line, character): (u32, u32)) -> Position {
    Position { line, character }
}

fn slips(places: &[Place]) -> Vec<Slip<'_>> {
    places
        .iter()
        .map(|place| Slip {
            start: position(place.start),
            end: position(place.end),
            setting: place.setting,
            message: &place.message,
            replace: place.fix.as_ref().map(|fix| Replace {
                start: position(fix.start),
                end: position(fix.end),
                with: &fix.text,
            }),
        })
        .collect()
}

/// A path from the repository's root, or as it was given outside of one.
fn inside(judgement: &Judgement, path: &Path) -> String {
    let path = match &judgement.root {
        Some(root) => path.strip_prefix(root).unwrap_or(path),
        None => path,
    };
    path.display().to_string()
}

/// A path as it was shown, from the repository's root.
fn from_root(judgement: &Judgement, shown: &str) -> String {
    let Some(here) = judgement.root.as_ref().and_then(|_| std::env::current_dir().ok()) else {
        return shown.into();
    };
    let mut whole = PathBuf::new();
    for part in here.join(shown).components() {
        match part {
            Component::ParentDir => _ = whole.pop(),
            Component::CurDir => {}
            part => whole.push(part),
        }
    }
    inside(judgement, &whole)
}

pub(super) fn text(judgement: &Judgement, frame: &Frame) -> anyhow::Result<String> {
    let report = Report {
        version: 1,
        reach: frame.reach,
        counts: Counts {
            slips: judgement.slips(),
            files_with_slips: judgement.files.iter().filter(|f| !f.slips.is_empty()).count(),
            files: judgement.files.len(),
            older_slips: judgement.older(),
            faults: judgement.files.iter().map(|file| file.faults.len()).sum(),
            long_lines: judgement.files.iter().map(|file| file.long_lines.len()).sum(),
        },
        files: judgement
            .files
            .iter()
            .map(|file| File {
                path: file.inside.display().to_string(),
                language: file.language,
                slips: slips(&file.slips),
                faults: slips(&file.faults),
                long_lines: slips(&file.long_lines),
                older_slips: file.older,
            })
            .collect(),
        left_alone: judgement
            .left_alone
            .iter()
            .flat_map(|(why, paths)| paths.iter().map(move |path| (why, path)))
            .map(|(why, path)| LeftAlone {
                path: inside(judgement, path),
                because: why.as_str(),
            })
            .collect(),
        problems: judgement
            .problems
            .iter()
            .map(|(path, message)| Problem { path: from_root(judgement, path), message })
            .collect(),
    };
    Ok(serde_json::to_string_pretty(&report)? + "\n")
}
