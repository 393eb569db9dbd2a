//! `kanonix settle`: surveys the code and proposes a canon.

use super::here;
use crate::Status;
use crate::options::Settle;
use crate::paint::Paint;
use crate::report::{count, left_alone};
use anyhow::Context;
use kanonix_core::languages::{self, Language};
use kanonix_core::style::Style;
use kanonix_core::judge;
use kanonix_core::survey::{Answer, Survey, changed_lines};
use kanonix_core::text::LineSet;
use kanonix_repo::canon::FILE_NAME;
use kanonix_repo::work::{LeftAlone, Loaded, NotLoaded, Reach, Selection, select};
use rayon::prelude::*;
use std::io::Write;

/// Of each language, so many files are judged under every value of every setting: enough for a
/// share of places, in a few seconds.
const MOST_FILES: usize = 120;

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
    /// How many files there are, read or not.
    files: usize,
    read: usize,
    lines: usize,
    answers: Vec<Answer>,
    /// How many lines of those that were read the whole proposal would change.
    changed: usize,
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
        let loaded: Vec<Result<Loaded, NotLoaded>> =
            items.par_iter().step_by(step).map(|item| selection.load(item)).collect();
        let mut texts = Vec::new();
        for one in loaded {
            match one {
                Ok(loaded) => texts.push(loaded.text),
                Err(NotLoaded::LeftAlone(why)) => *left.entry(why).or_default() += 1,
                Err(NotLoaded::Problem(reason)) => eprintln!("kanonix: {reason}"),
            }
        }
        let all: Vec<&str> = texts.iter().map(String::as_str).collect();
        let survey = Survey::settle(&all, language, |texts, base| read(texts, language, base));
        let style = survey.style();
        let changed = |text: &String| {
            changed_lines(text, &judge(text, language, &style, &LineSet::whole())).len()
        };
        findings.push(Finding {
            language,
            files: items.len(),
            read: survey.files,
            lines: survey.lines,
            answers: survey.answers(),
            changed: texts.par_iter().map(changed).sum(),
        });
    }
    findings
}

fn read(texts: &[&str], language: &'static Language, base: Style) -> Survey {
    let new = || Survey::new(language, base.clone());
    let one = |text: &&str| {
        let mut survey = new();
        survey.read(text);
        survey
    };
    texts.par_iter().map(one).reduce(new, Survey::join)
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
        let sampled = if finding.read < finding.files {
            format!(", {} of them read", finding.read)
        } else {
            String::new()
        };
        out.push_str(&format!(
            "{} · {}{sampled} · {}\n",
            paint.strong(finding.language.name),
            count(finding.files, "file"),
            count(finding.lines, "line"),
        ));
        let (told, silent): (Vec<&Answer>, Vec<&Answer>) =
            finding.answers.iter().partition(|answer| !answer.usual || answer.price > 0);
        let head = format!(
            "  {:29}  {:38}  {:12}  {}",
            "setting", "the code already says", "proposed", "would change"
        );
        if !told.is_empty() {
            out.push_str(&format!("{}\n", paint.faint(&head)));
        }
        for answer in told {
            let rivals = answer.shares.len() > 1;
            let shares: Vec<String> = answer
                .shares
                .iter()
                .filter(|_| rivals)
                .take(3)
                .map(|(name, share)| format!("{name}: {}", percent(*share)))
                .collect();
            out.push_str(&format!(
                "  {}  {:38}  {:12}  {}\n",
                paint.name(&format!("{:29}", answer.name)),
                shares.join("   "),
                answer.proposed,
                count(answer.price, "place"),
            ));
        }
        let others = match silent.len() {
            0 => String::new(),
            others => format!("{others} more are as usual and change nothing; "),
        };
        out.push_str(&format!(
            "  {others}the whole proposal would change {} of {}\n",
            count(finding.changed, "").trim_end_matches([' ', 's']),
            count(finding.lines, "line"),
        ));
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
            count(finding.lines, "line"),
        ));
        let mut tables: Vec<(&str, Vec<String>)> = Vec::new();
        for answer in &finding.answers {
            // What the community expects anyway needs no word, but for what everybody looks for.
            let looked_for = ["indent_size", "quotes", "max_line_length"];
            if answer.usual && !looked_for.contains(&answer.name.as_str()) {
                continue;
            }
            for (name, key, value) in &answer.values {
                let value = match value.parse::<u32>().is_ok() || value.parse::<bool>().is_ok() {
                    true => value.clone(),
                    false => format!("\"{value}\""),
                };
                if key.is_empty() {
                    let setting = format!("{name} = {value}");
                    out.push_str(&format!("{setting:32} # {}\n", said(answer)));
                    continue;
                }
                let entry = format!("{key} = {value}");
                match tables.iter_mut().find(|(table, _)| table == name) {
                    Some((_, entries)) => entries.push(entry),
                    None => tables.push((name, vec![entry])),
                }
            }
        }
        for (name, entries) in tables {
            out.push_str(&format!("{name} = {{ {} }}\n", entries.join(", ")));
        }
    }
    out
}

/// What speaks for a proposal, in a few words.
fn said(answer: &Answer) -> String {
    let Some((name, share)) = answer.shares.first() else { return String::new() };
    match answer.places {
        0 => format!("{name} changes least"),
        places => format!("{name} at {} of {}", percent(*share), count(places, "place")),
    }
}
