//! The proposal: what the code does already, what each value would cost, and the canon that
//! disturbs the least.

use super::super::replace_kept;
use super::{Total, Tree};
use crate::Status;
use crate::judging::Progress;
use crate::options::Settle;
use crate::paint::Paint;
use crate::report::{count, left_alone};
use crate::say::{errln, outln, outpart};
use anyhow::Context;
use kanonix_core::judge;
use kanonix_core::languages::{self, Language};
use kanonix_core::style::Style;
use kanonix_core::survey::{Answer, Survey};
use kanonix_core::text::{LineSet, Lines};
use kanonix_repo::canon::{Canon, FILE_NAME};
use kanonix_repo::canon::editing::{Wish, set};
use kanonix_repo::work::{Item, LeftAlone, NotLoaded, Selection, Why, WorkError};
use kanonix_repo::write::put;
use rayon::prelude::*;
use std::io::IsTerminal;
use std::path::Path;

/// So much of a repository is judged under every value of every setting, in bytes: a few seconds.
const MOST_BYTES: u64 = 2_500_000;

/// Of each language, at least so many files, if there are as many.
const FEWEST_FILES: usize = 40;

/// How many other values are priced in a row of the table that is read on a terminal.
const MOST_RIVALS: usize = 2;

pub(super) fn run(tree: &Tree, options: &Settle) -> anyhow::Result<Status> {
    let text = tree.text()?;
    let mut selection = tree.under(&[])?;
    let mut left = selection.left_alone.clone();
    left.forget(Why::UnknownLanguage);
    let findings = survey(&mut selection, &mut left);
    let paint = Paint::new(options.voice.color);
    let told = table(&findings, paint);
    let canon = match &text {
        Some(text) => in_place(tree, text, &findings)?,
        None => canon_text(&findings),
    };
    let shown = tree.shown(&tree.canon);
    if !options.write {
        // A person reads the table; the canon goes where the output does.
        let for_person = std::io::stdout().is_terminal() && !options.voice.quiet;
        if for_person {
            outpart!("{told}");
        } else if !options.voice.quiet {
            errln!("{told}");
        }
        if !for_person {
            outpart!("{canon}");
        }
        if !options.voice.quiet {
            if let Some(left) = left_alone(&left) {
                errln!("{left}");
            }
            let how = match text {
                Some(_) => "change it in its place with: kanonix settle --write",
                None => "put it in place with: kanonix settle --write",
            };
            let read = if for_person { "read the canon with: kanonix settle | more\n" } else { "" };
            errln!("\n{read}nothing is written; {how}");
        }
        return Ok(Status::Clean);
    }
    if !options.voice.quiet {
        outpart!("{told}");
    }
    if text.as_ref() == Some(&canon) {
        outln!("{shown} says so already");
        return Ok(Status::Clean);
    }
    write(tree, text.as_deref(), &canon)
        .with_context(|| format!("{shown} cannot be written"))?;
    outln!("the canon is in {shown}");
    outln!("read it, agree on it, commit it; then: kanonix gate install");
    Ok(Status::Clean)
}

fn write(tree: &Tree, old: Option<&str>, canon: &str) -> anyhow::Result<()> {
    match old {
        Some(old) => replace_kept(&tree.root, &tree.canon, old, canon),
        None => Ok(put(&tree.root, Path::new(FILE_NAME), canon.as_bytes(), 0o644)?),
    }
}

/// What was found of one language.
struct Finding {
    language: &'static Language,
    /// How many files there are, read or not.
    files: usize,
    /// How many of them were judged under every value.
    read: usize,
    /// Lines of all files.
    lines: usize,
    answers: Vec<Answer>,
    /// What a check of all lines counts under the proposal, in all files.
    proposed: Total,
    /// The same as the language's community has it.
    usual: Total,
}

/// What a file's lines come to under the proposal and as the community has it.
#[derive(Default)]
struct Measured {
    lines: usize,
    proposed: Total,
    usual: Total,
}

fn survey(selection: &mut Selection, left: &mut LeftAlone) -> Vec<Finding> {
    let size = |item: &Item| std::fs::metadata(&item.path).map_or(0, |file| file.len());
    let bytes: u64 = selection.items.iter().map(size).sum();
    let share = bytes.div_ceil(MOST_BYTES).max(1) as usize;
    let progress = Progress::new(2 * selection.items.len());
    let mut findings = Vec::new();
    for language in languages::ALL {
        let items: Vec<&Item> =
            selection.items.iter().filter(|item| item.language.name == language.name).collect();
        if items.is_empty() {
            continue;
        }
        // Spread evenly over the sorted list, so that every corner of a large tree has its say.
        let step = share.min((items.len() / FEWEST_FILES).max(1));
        let load = |item: &&Item| selection.load(item).ok().map(|loaded| loaded.text);
        let texts: Vec<String> = items.par_iter().step_by(step).filter_map(load).collect();
        let all: Vec<&str> = texts.iter().map(String::as_str).collect();
        let survey = Survey::settle(&all, language, |texts, base| read(texts, language, base));
        progress.advance(items.len());
        let measured = |style: &Style| {
            let one = |item: &&Item| {
                progress.advance(1);
                measure(selection, item, style)
            };
            items.par_iter().map(one).collect::<Vec<_>>()
        };
        let mut total = Measured::default();
        for (one, item) in measured(&survey.style()).into_iter().zip(&items) {
            match one {
                Ok(one) => total.add(&one),
                Err(NotLoaded::LeftAlone(why)) => left.add(why, &item.path),
                Err(NotLoaded::Problem(reason)) => errln!("kanonix: {reason}"),
            }
        }
        // Where the sample misleads, the community's word costs less.
        let misled = total.proposed.lines > total.usual.lines;
        findings.push(Finding {
            language,
            files: items.len(),
            read: survey.files,
            lines: total.lines,
            answers: if misled { Vec::new() } else { survey.answers() },
            proposed: if misled { total.usual } else { total.proposed },
            usual: total.usual,
        });
    }
    progress.end();
    findings
}

/// Judges one file under the proposal and as its language's community has it.
fn measure(selection: &Selection, item: &Item, style: &Style) -> Result<Measured, NotLoaded> {
    let text = selection.load(item)?.text;
    let lines = Lines::new(&text);
    let total = |style: &Style| {
        let outcome = judge(&text, item.language, style, &LineSet::whole());
        let mut slips: Vec<usize> =
            outcome.slips.iter().map(|slip| lines.line_of(slip.offset)).collect();
        slips.dedup();
        Total { lines: slips.len(), files: usize::from(!slips.is_empty()) }
    };
    Ok(Measured {
        lines: text.lines().count(),
        proposed: total(style),
        usual: total(&item.language.style()),
    })
}

impl Measured {
    fn add(&mut self, other: &Measured) {
        self.lines += other.lines;
        for (mine, theirs) in [(&mut self.proposed, other.proposed), (&mut self.usual, other.usual)]
        {
            mine.lines += theirs.lines;
            mine.files += theirs.files;
        }
    }
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
        let sampled = match finding.read < finding.files {
            true => format!(", the prices from {} of them", finding.read),
            false => String::new(),
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
            "  {:29}  {:28}  {:>6}  {:10}  {}",
            "setting", "the code already says", "places", "proposed", "another value would change"
        );
        if !told.is_empty() {
            out.push_str(&format!("{}\n", paint.faint(&head)));
        }
        for answer in told {
            out.push_str(&row(answer, paint));
        }
        let others = match silent.len() {
            0 => String::new(),
            others => format!("; {} as usual", count(others, "more setting")),
        };
        out.push_str(&format!(
            "  the whole proposal would change {} (as the community has it: {}){others}\n",
            finding.proposed.said(),
            count(finding.usual.lines, "line"),
        ));
    }
    out
}

fn row(answer: &Answer, paint: Paint) -> String {
    let rivals = answer.shares.len() > 1;
    let shares: Vec<String> = answer
        .shares
        .iter()
        .filter(|_| rivals)
        .take(2)
        .map(|(name, share)| format!("{name}: {}", percent(*share)))
        .collect();
    let places = match answer.places {
        0 => String::new(),
        places => count(places, "").trim_end_matches([' ', 's']).to_string(),
    };
    let most = match std::io::stdout().is_terminal() {
        true => MOST_RIVALS,
        false => usize::MAX,
    };
    let said = |lines: usize, files: usize| Total { lines, files }.said();
    let mut others: Vec<_> =
        answer.costs.iter().filter(|cost| cost.value != answer.proposed).collect();
    others.sort_by_key(|cost| cost.lines);
    let others: Vec<String> = others
        .iter()
        .take(most)
        .map(|cost| format!("{}: {}", cost.value, said(cost.lines, cost.files)))
        .collect();
    format!(
        "  {}  {:28}  {places:>6}  {:10}  {}\n",
        paint.name(&format!("{:29}", answer.name)),
        shares.join("  "),
        answer.proposed,
        others.join(" · "),
    )
}

/// The canon that is there, with the values that disturb less than its own.
fn in_place(tree: &Tree, text: &str, findings: &[Finding]) -> anyhow::Result<String> {
    let mut now = text.to_string();
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
        for (name, entries, reasons) in tables {
            let table = format!("{name} = {{ {} }}", entries.join(", "));
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
