//! The proposal: what the code does already, what each value would cost, and the canon that
//! disturbs the least.

use super::super::replace_kept;
use super::aside::{Skip, patterns, set_aside};
use super::finding::find;
use super::{Tree, table, written};
use crate::Status;
use crate::options::Settle;
use crate::paint::Paint;
use crate::report::{left_alone, width_of};
use crate::say::{errln, outln, outpart};
use anyhow::Context;
use kanonix_repo::canon::FILE_NAME;
use kanonix_repo::work::{self, Why};
use kanonix_repo::write::put;
use std::io::IsTerminal;
use std::path::{Path, PathBuf};

pub(super) fn run(tree: &Tree, options: &Settle) -> anyhow::Result<Status> {
    let text = tree.text()?;
    let mut selection = tree.under(&[])?;
    let mut left = selection.left_alone.clone();
    let uncovered: Vec<PathBuf> = left.of(Why::UnknownLanguage).to_vec();
    left.forget(Why::UnknownLanguage);
    let aside = set_aside(&mut selection);
    let findings = find(&selection, &mut left);
    let mut skip = patterns(&aside, &selection.items);
    skip.extend(findings.iter().flat_map(|finding| &finding.foreign).map(Skip::foreign));
    // A person reads the table; the canon goes where the output does.
    let for_person = std::io::stdout().is_terminal() && !options.voice.quiet;
    let width = match for_person || options.write {
        true => width_of(&std::io::stdout()),
        false => width_of(&std::io::stderr()),
    };
    let mut told = table::table(&findings, Paint::new(options.voice.color), width);
    told.push_str(&table::beside(&aside, &uncovered));
    let canon = match &text {
        Some(text) => written::in_place(tree, text, &findings, &skip)?,
        None => written::canon_text(&findings, &skip),
    };
    let shown = tree.shown(&tree.canon);
    let idle = idle(tree)?;
    if !options.write {
        if for_person {
            outpart!("{told}");
        } else if !options.voice.quiet {
            errln!("{}", told.trim_end_matches('\n'));
        }
        if !for_person {
            outpart!("{canon}");
        }
        if !options.voice.quiet {
            if let Some(left) = left_alone(&left) {
                errln!("{left}");
            }
            idle.iter().for_each(|idle| errln!("{idle}"));
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
        idle.iter().for_each(|idle| errln!("{idle}"));
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

/// What is to be said of patterns that do nothing.
fn idle(tree: &Tree) -> anyhow::Result<Vec<String>> {
    let idle = work::idle_patterns(&tree.root)?;
    Ok(idle.iter().map(|idle| crate::report::idle(idle, |path| tree.shown(path))).collect())
}

fn write(tree: &Tree, old: Option<&str>, canon: &str) -> anyhow::Result<()> {
    match old {
        Some(old) => replace_kept(&tree.root, &tree.canon, old, canon),
        None => Ok(put(&tree.root, Path::new(FILE_NAME), canon.as_bytes(), 0o644)?),
    }
}
