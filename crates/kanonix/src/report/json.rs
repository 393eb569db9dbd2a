//! The JSON report; `docs/report.schema.json` describes it.

use super::{Frame, MergeStory, from_root, inside};
use crate::Status;
use crate::service::judging::Judgement;
use crate::service::places::Place;
use kanonix_repo::work::JudgedBy;
use serde::Serialize;

#[derive(Serialize)]
struct Report<'a> {
    version: u32,
    reach: &'a str,
    counts: Counts,
    files: Vec<File<'a>>,
    left_alone: Vec<LeftAlone>,
    problems: Vec<Problem<'a>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    merge: Option<Merge<'a>>,
}

#[derive(Serialize)]
struct Merge<'a> {
    into: &'a str,
    target: &'a str,
    #[serde(skip_serializing_if = "Option::is_none")]
    named_by: Option<&'a str>,
    canon_of: &'static str,
    canon_changes: Vec<CanonChange<'a>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    under_own_canon: Option<OwnVerdict>,
}

#[derive(Serialize)]
struct CanonChange<'a> {
    path: String,
    what: &'a str,
    before: Option<&'a str>,
    after: Option<&'a str>,
}

#[derive(Serialize)]
struct OwnVerdict {
    slips: usize,
    stops: bool,
}

impl<'a> Merge<'a> {
    fn of(story: &MergeStory<'a>) -> Merge<'a> {
        let merging = story.merging;
        Merge {
            into: &merging.into,
            target: &merging.target,
            named_by: story.because,
            canon_of: match merging.judged_by {
                JudgedBy::Target => "target",
                JudgedBy::Branch => "branch",
                JudgedBy::BranchAlone => "branch, as the target has none",
            },
            canon_changes: merging
                .changes
                .iter()
                .map(|change| CanonChange {
                    path: change.path.display().to_string(),
                    what: &change.what,
                    before: change.before.as_deref(),
                    after: change.after.as_deref(),
                })
                .collect(),
            under_own_canon: story.own.map(|own| OwnVerdict {
                slips: own.slips(),
                stops: own.status() != Status::Clean,
            }),
        }
    }
}

#[derive(Serialize)]
struct Counts {
    slips: usize,
    files_with_slips: usize,
    files: usize,
    older_slips: usize,
    faults: usize,
    long_lines: usize,
    remarks: usize,
    new_keeps: usize,
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
    remarks: Vec<Slip<'a>>,
    new_keeps: Vec<Slip<'a>>,
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
            remarks: judgement.files.iter().map(|file| file.remarks.len()).sum(),
            new_keeps: judgement.new_keeps().count(),
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
                remarks: slips(&file.remarks),
                new_keeps: slips(&file.new_keeps),
                older_slips: file.older,
            })
            .collect(),
        left_alone: judgement
            .left_alone
            .iter()
            .flat_map(|(why, paths)| paths.iter().map(move |path| (why, path)))
            .map(|(why, path)| LeftAlone {
                path: inside(judgement, path).display().to_string(),
                because: why.as_str(),
            })
            .collect(),
        problems: judgement
            .problems
            .iter()
            .map(|(path, message)| Problem {
                path: from_root(judgement, path).display().to_string(),
                message,
            })
            .collect(),
        merge: frame.merge.map(Merge::of),
    };
    Ok(serde_json::to_string_pretty(&report)? + "\n")
}
