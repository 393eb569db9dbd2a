//! The canon that a proposal is written as: anew, or into the one that is there.

use super::Tree;
use super::aside::{Skip, of_part};
use super::finding::Finding;
use super::table::percent;
use crate::report::{count, number};
use kanonix_core::survey::{Answer, Part};
use kanonix_repo::canon::Canon;
use kanonix_repo::canon::editing::{Wish, in_quotes, set};
use kanonix_repo::work::WorkError;

/// The canon that is there, with the values that disturb less than its own.
pub(super) fn in_place(
    tree: &Tree,
    text: &str,
    findings: &[Finding],
    skip: &[Skip],
) -> anyhow::Result<String> {
    let mut now = text.to_string();
    if !skip.is_empty() {
        let canon = Canon::read(&tree.canon, text).map_err(WorkError::from)?;
        let all: Vec<String> = canon
            .skipped()
            .chain(skip.iter().map(|skip| skip.pattern.as_str()))
            .map(in_quotes)
            .collect();
        let path = vec!["files".into(), "skip".into()];
        let wish = Wish { path, value: format!("[{}]", all.join(", ")) };
        now = set(&now, &wish, None)?;
    }
    for finding in findings {
        for answer in &finding.answers {
            let style = Canon::read(&tree.canon, &now).map_err(WorkError::from)?;
            let style = style.style(finding.language);
            for (name, key, value) in &answer.values {
                let mut wanted = style.clone();
                // What a team lists itself, no survey has thought of.
                if style.lists(name, key) {
                    continue;
                }
                if wanted.set(name, key, value).is_ok() && wanted != style {
                    let names = ["style", finding.language.name, name, key];
                    let path = names.iter().filter(|name| !name.is_empty());
                    let path = path.map(|name| name.to_string()).collect();
                    let wish = Wish { path, value: value.clone() };
                    now = set(&now, &wish, Some(&said(answer)))?;
                }
            }
        }
    }
    // Where parts are agreed on already, somebody has thought about them.
    let has_parts = Canon::read(&tree.canon, text).map_err(WorkError::from)?.has_parts();
    if !has_parts {
        findings.iter().for_each(|finding| now.push_str(&parts(finding)));
    }
    Ok(now)
}

pub(super) fn canon_text(findings: &[Finding], skip: &[Skip]) -> String {
    let mut out = String::from(
        "# The agreed style of this repository. Everybody's editor, the commit gate and the build\n\
         # server read it here. What is not said follows each language's own community guide.\n\
         edition = 1\n\n\
         [reach]\n\
         save = \"touched\"                 # touched | whole | off\n\
         commit = \"touched\"               # touched | whole | off\n\
         merge = \"touched\"                # touched | whole | off\n\n\
         [files]\n",
    );
    match skip {
        [] => {
            let example = "# files that are left alone: \"third_party/**\"";
            out.push_str(&format!("{:32} {example}\n", "skip = []"));
        }
        skip => {
            out.push_str("skip = [\n");
            for Skip { pattern, why } in skip {
                let pattern = format!("    {},", in_quotes(pattern));
                out.push_str(&format!("{pattern:32} # {why}\n"));
            }
            out.push_str("]\n");
        }
    }
    for finding in findings {
        out.push_str(&format!(
            "\n{:32} # {}, {}\n",
            format!("[style.{}]", finding.language.name),
            finding.counted(),
            count(finding.lines, "line"),
        ));
        // What the community expects anyway needs no word, but for what everybody looks for.
        let looked_for = ["indent_size", "quotes", "max_line_length"];
        let told = finding.answers.iter().filter(|answer| {
            !answer.usual || looked_for.contains(&answer.name.as_str())
        });
        out.push_str(&settings(told));
    }
    findings.iter().for_each(|finding| out.push_str(&parts(finding)));
    out
}

/// The parts of the tree that have an agreement of their own.
fn parts(finding: &Finding) -> String {
    let mut out = String::new();
    for Part { unlike, changed, answers, .. } in &finding.parts {
        out.push_str(&format!(
            "\n{:32} # {} of its {} would change, with this {}\npaths = [{}]\n\n[part.style.{}]\n{}",
            "[[part]]",
            number(unlike.changed),
            count(unlike.lines, "line"),
            number(*changed),
            in_quotes(&of_part(unlike)),
            finding.language.name,
            settings(answers.iter()),
        ));
    }
    out
}

/// Lines of a canon for some answers, each with what speaks for it; of a table of keys one line.
fn settings<'a>(answers: impl Iterator<Item = &'a Answer>) -> String {
    let mut out = String::new();
    let mut tables: Vec<(&str, Vec<String>, Vec<String>)> = Vec::new();
    for answer in answers {
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
            let (entry, why) = (format!("{key} = {value}"), said(answer));
            match tables.iter_mut().find(|(table, ..)| table == name) {
                Some((_, entries, reasons)) => {
                    entries.push(entry);
                    reasons.push(why);
                }
                None => tables.push((name, vec![entry], vec![why])),
            }
        }
    }
    for (name, entries, mut reasons) in tables {
        let table = format!("{name} = {{ {} }}", entries.join(", "));
        reasons.dedup();
        out.push_str(&format!("{table:32} # {}\n", reasons.join("; ")));
    }
    out
}

/// What speaks for a proposal, in a few words.
fn said(answer: &Answer) -> String {
    let proposed = answer.proposed.as_str();
    match answer.shares.iter().find(|(name, share)| name == proposed && *share > 0.0) {
        Some((_, share)) if answer.places > 0 => {
            format!("{proposed} at {} of {}", percent(*share), count(answer.places, "place"))
        }
        _ => format!("{proposed} changes least"),
    }
}
