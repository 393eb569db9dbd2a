//! The canon that a proposal is written as: anew, or into the one that is there.

use super::Tree;
use super::proposal::Finding;
use super::table::percent;
use crate::report::count;
use kanonix_core::survey::Answer;
use kanonix_repo::canon::Canon;
use kanonix_repo::canon::editing::{Wish, in_quotes, set};
use kanonix_repo::work::{Item, WorkError};
use std::collections::BTreeMap;
use std::path::Path;

/// In a folder of so many files that no person wrote, and no other ones, the folder is named.
const MANY: usize = 3;

/// The patterns that leave these files alone, and none of the others.
pub(super) fn patterns(made: &[Item], others: &[Item]) -> Vec<String> {
    let folder = |item: &Item| item.inside.parent().unwrap_or(Path::new("")).to_path_buf();
    let mut folders: BTreeMap<_, Vec<&Item>> = BTreeMap::new();
    made.iter().for_each(|item| folders.entry(folder(item)).or_default().push(item));
    let mut patterns = Vec::new();
    for (folder, items) in folders {
        let is_below = |other: &Item| other.inside.starts_with(&folder);
        let is_named = folder.as_os_str().is_empty() || others.iter().any(is_below);
        if items.len() < MANY || is_named {
            // From the root down, wherever else there is a file of the name.
            let path = |item: &&Item| format!("/{}", escaped(&item.inside));
            patterns.extend(items.iter().map(path));
        } else {
            patterns.push(format!("{}/**", escaped(&folder)));
        }
    }
    patterns
}

/// A path as a pattern for itself.
fn escaped(path: &Path) -> String {
    let special = |c: char| matches!(c, '*' | '?' | '[' | ']' | '{' | '}');
    let one = |c: char| if special(c) { format!("[{c}]") } else { c.to_string() };
    path.to_string_lossy().chars().map(one).collect()
}

/// The canon that is there, with the values that disturb less than its own.
pub(super) fn in_place(
    tree: &Tree,
    text: &str,
    findings: &[Finding],
    skip: &[String],
) -> anyhow::Result<String> {
    let mut now = text.to_string();
    if !skip.is_empty() {
        let canon = Canon::read(&tree.canon, text).map_err(WorkError::from)?;
        let all: Vec<String> =
            canon.skipped().chain(skip.iter().map(String::as_str)).map(in_quotes).collect();
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
    Ok(now)
}

pub(super) fn canon_text(findings: &[Finding], skip: &[String]) -> String {
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
            out.push_str("skip = [                         # no person wrote these\n");
            skip.iter().for_each(|path| out.push_str(&format!("    {},\n", in_quotes(path))));
            out.push_str("]\n");
        }
    }
    for finding in findings {
        out.push_str(&format!(
            "\n{:32} # {}, {}\n",
            format!("[style.{}]", finding.language.name),
            count(finding.files, "file"),
            count(finding.lines, "line"),
        ));
        let mut tables: Vec<(&str, Vec<String>, Vec<String>)> = Vec::new();
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
