//! `kanonix settle`: surveys the code and proposes a canon.

use super::here;
use crate::Status;
use crate::options::Settle;
use crate::paint::Paint;
use crate::report::{count, left_alone};
use anyhow::Context;
use kanonix_core::languages::{self, Language};
use kanonix_core::survey::{Answer, Survey};
use kanonix_repo::canon::FILE_NAME;
use kanonix_repo::work::{LeftAlone, NotLoaded, Reach, Selection, select};
use rayon::prelude::*;
use std::io::Write;

/// Of each language, so many files are read: enough for a share of places, in a few seconds.
const MOST_FILES: usize = 400;

pub(crate) fn run(options: &Settle) -> anyhow::Result<Status> {
    let here = here()?;
    let repository = kanonix_repo::git::Repository::find(&here).unwrap_or(None);
    let root = repository.map_or(here.clone(), |repository| repository.root);
    let place = options.path.clone().unwrap_or_else(|| root.clone());
    let mut selection = select(&here, &[place], &Reach::Whole)?;
    let unknown = kanonix_repo::work::Why::UnknownLanguage;
    let mut left = selection.left_alone.clone();
    left.remove(&unknown);
    let findings = survey(&mut selection, &mut left);
    let paint = Paint::new(options.voice.color);
    let canon = canon_text(&findings);
    let path = root.join(FILE_NAME);
    if !options.write {
        if !options.voice.quiet {
            eprintln!("{}", table(&findings, paint));
        }
        print!("{canon}");
        if !options.voice.quiet {
            if let Some(left) = left_alone(&left) {
                eprintln!("{left}");
            }
            eprintln!("\nnothing is written; put it in place with: kanonix settle --write");
        }
        return Ok(Status::Clean);
    }
    if !options.voice.quiet {
        print!("{}", table(&findings, paint));
    }
    match std::fs::OpenOptions::new().write(true).create_new(true).open(&path) {
        Ok(mut file) => {
            file.write_all(canon.as_bytes())
                .with_context(|| format!("{} cannot be written", path.display()))?;
            println!("the canon is in {}", path.display());
            println!("read it, agree on it, commit it; then: kanonix gate install");
            Ok(Status::Clean)
        }
        Err(error) if error.kind() == std::io::ErrorKind::AlreadyExists => {
            eprintln!(
                "kanonix: there is a canon already, and it stays: {}\n\
                 see the proposal with: kanonix settle",
                path.display()
            );
            Ok(Status::Wrong)
        }
        Err(error) => Err(error).with_context(|| format!("{} cannot be written", path.display())),
    }
}

/// What was found of one language.
struct Finding {
    language: &'static Language,
    files: usize,
    survey: Survey,
    answers: Vec<Answer>,
}

fn survey(selection: &mut Selection, left: &mut LeftAlone) -> Vec<Finding> {
    let mut findings = Vec::new();
    for language in languages::ALL {
        let items: Vec<_> =
            selection.items.iter().filter(|item| item.language.name == language.name).collect();
        if items.is_empty() {
            continue;
        }
        // Spread evenly over the sorted list, so that every corner of a large tree has its say.
        let step = items.len().div_ceil(MOST_FILES);
        let read: Vec<Result<Survey, NotLoaded>> = items
            .par_iter()
            .step_by(step)
            .map(|item| {
                let loaded = selection.load(item)?;
                let mut survey = Survey::default();
                survey.read(&loaded.text, language);
                Ok(survey)
            })
            .collect();
        let mut survey = Survey::default();
        for one in read {
            match one {
                Ok(one) => survey = survey.join(one),
                Err(NotLoaded::LeftAlone(why)) => *left.entry(why).or_default() += 1,
                Err(NotLoaded::Problem(reason)) => eprintln!("kanonix: {reason}"),
            }
        }
        let answers = survey.answers(language);
        findings.push(Finding { language, files: items.len(), survey, answers });
    }
    findings
}

fn percent(share: f64) -> String {
    // Never round up to all, nor down to nothing.
    let whole = (share * 100.0).round();
    match whole {
        whole if whole >= 100.0 && share < 1.0 => "over 99 %".into(),
        whole if whole < 1.0 && share > 0.0 => "under 1 %".into(),
        whole => format!("{whole} %"),
    }
}

fn table(findings: &[Finding], paint: Paint) -> String {
    let mut out = String::new();
    for finding in findings {
        let sampled = if finding.survey.files < finding.files {
            format!(", {} of them read", finding.survey.files)
        } else {
            String::new()
        };
        out.push_str(&format!(
            "{} · {}{sampled} · {}\n",
            paint.strong(finding.language.name),
            count(finding.files, "file"),
            count(finding.survey.lines, "line"),
        ));
        let head = format!(
            "  {:16}  {:44}  {:12}  {}",
            "setting", "the code already says", "proposed", "would change"
        );
        out.push_str(&format!("{}\n", paint.faint(&head)));
        for answer in &finding.answers {
            let shares: Vec<String> = answer
                .shares
                .iter()
                .take(3)
                .map(|(name, share)| format!("{name}: {}", percent(*share)))
                .collect();
            let proposed = answer.proposed.iter().map(|(_, value)| value.trim_matches('"'));
            let proposed: Vec<&str> = proposed.collect();
            out.push_str(&format!(
                "  {}  {:44}  {:12}  {}\n",
                paint.name(&format!("{:16}", answer.name)),
                shares.join("   "),
                proposed.join(" "),
                count(answer.price, "place"),
            ));
        }
    }
    out
}

fn canon_text(findings: &[Finding]) -> String {
    let mut out = String::from(
        "# The agreed style of this repository. Everybody's editor, the commit gate and the build\n\
         # server read it here. What is not said follows each language's own community guide.\n\
         edition = 1\n\n\
         [reach]\n\
         save = \"touched\"                 # touched | whole | touched-or-whole | off\n\
         commit = \"touched\"               # touched | whole | off\n\
         merge = \"touched\"                # touched | whole | off\n\n\
         [files]\n\
         skip = []                        # files that are left alone: \"third_party/**\"\n",
    );
    for finding in findings {
        out.push_str(&format!(
            "\n{:32} # {}, {}\n",
            format!("[style.{}]", finding.language.name),
            count(finding.files, "file"),
            count(finding.survey.lines, "line"),
        ));
        for answer in &finding.answers {
            let said = match answer.name {
                "max_line_length" => {
                    let fits = answer.places - answer.price;
                    let share = fits as f64 / answer.places.max(1) as f64;
                    format!("{} of {} fit", percent(share), count(answer.places, "line"))
                }
                _ => {
                    let share = answer.shares.first().map_or(0.0, |(_, share)| *share);
                    let name = answer.shares.first().map_or("", |(name, _)| name);
                    format!("{name} at {} of {}", percent(share), count(answer.places, "place"))
                }
            };
            for (name, value) in &answer.proposed {
                let setting = format!("{name} = {value}");
                out.push_str(&format!("{setting:32} # {said}\n"));
            }
        }
    }
    out
}
