//! The JSON report; `docs/report.schema.json` describes it.

use super::Frame;
use crate::judging::{Judgement, Place};
use serde::Serialize;
use std::collections::BTreeMap;

#[derive(Serialize)]
struct Report<'a> {
    version: u32,
    reach: &'a str,
    summary: Summary,
    files: Vec<File<'a>>,
    left_alone: BTreeMap<&'static str, usize>,
    problems: Vec<Problem<'a>>,
}

#[derive(Serialize)]
struct Summary {
    slips: usize,
    files_with_slips: usize,
    files: usize,
    older_slips: usize,
    faults: usize,
    long_lines: usize,
}

#[derive(Serialize)]
struct File<'a> {
    path: &'a str,
    language: &'a str,
    slips: Vec<Slip<'a>>,
    faults: Vec<Slip<'a>>,
    long_lines: Vec<Slip<'a>>,
    older_slips: usize,
}

#[derive(Serialize)]
struct Slip<'a> {
    line: u32,
    column: u32,
    length: u32,
    setting: &'a str,
    message: &'a str,
}

#[derive(Serialize)]
struct Problem<'a> {
    path: &'a str,
    message: &'a str,
}

fn slips(places: &[Place]) -> Vec<Slip<'_>> {
    places
        .iter()
        .map(|place| Slip {
            line: place.line,
            column: place.column,
            length: place.length,
            setting: place.setting,
            message: &place.message,
        })
        .collect()
}

pub(super) fn text(judgement: &Judgement, frame: &Frame) -> anyhow::Result<String> {
    let report = Report {
        version: 1,
        reach: frame.reach,
        summary: Summary {
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
                path: &file.shown,
                language: file.language,
                slips: slips(&file.slips),
                faults: slips(&file.faults),
                long_lines: slips(&file.long_lines),
                older_slips: file.older,
            })
            .collect(),
        left_alone: judgement.left_alone.iter().map(|(why, n)| (why.as_str(), *n)).collect(),
        problems: judgement
            .problems
            .iter()
            .map(|(path, message)| Problem { path, message })
            .collect(),
    };
    Ok(serde_json::to_string_pretty(&report)? + "\n")
}
