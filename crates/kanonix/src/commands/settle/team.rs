//! `--follow` and `--refresh`: the canon of another repository, kept as a copy beside our own.

use super::Tree;
use crate::Status;
use crate::options::{BadOption, Settle};
use crate::paint::Paint;
use crate::say::outln;
use anyhow::Context;
use kanonix_core::languages;
use kanonix_core::style::slots;
use kanonix_repo::canon::followed::{Followed, PATH, Team};
use kanonix_repo::canon::{Canon, FILE_NAME, text_at};
use kanonix_repo::git::fetch_file;
use kanonix_repo::work::WorkError;
use kanonix_repo::write::put;
use std::path::Path;

/// Fetches the followed canon and keeps its copy.
pub(super) fn follow(tree: &Tree, options: &Settle) -> anyhow::Result<Status> {
    let team = team(tree)?;
    let copy = fetch(tree, &team)?;
    write(tree, &copy)?;
    if !options.voice.quiet {
        outln!("the canon of {} is kept in {PATH}, as of {}", from(&team), copy.commit);
        outln!("commit it, so that every clone and the build server judge alike");
    }
    Ok(Status::Clean)
}

/// Fetches the followed canon and says what it would change; takes it with `--write`.
pub(super) fn refresh(tree: &Tree, options: &Settle) -> anyhow::Result<Status> {
    let team = team(tree)?;
    let path = Followed::path(&tree.root);
    let old = text_at(&tree.root, &path).map_err(WorkError::from)?;
    let old = old.and_then(|text| Followed::read(&text));
    let Some(old) = old.filter(|old| old.from == team.follow) else {
        let message = format!("there is no copy of {} yet: kanonix settle --follow", from(&team));
        return Err(BadOption(message).into());
    };
    let new = fetch(tree, &team)?;
    let paint = Paint::new(options.voice.color);
    let moves = old.at != team.at;
    if old.text == new.text {
        outln!("{} says nothing new at {}", from(&team), new.commit);
        if options.write && (moves || old.commit != new.commit) {
            write(tree, &new)?;
        }
        return Ok(Status::Clean);
    }
    let since = match (&old.at, moves) {
        (Some(at), true) => at,
        _ => &old.commit,
    };
    outln!("{} has changed since {since}", paint.strong(&from(&team)));
    for line in differences(tree, &old, &new)? {
        outln!("  {line}");
    }
    // As it was, whichever version the canon asks for by now.
    let was = Followed { at: team.at.clone(), ..old };
    let before = tree.total(&[(path.clone(), was.write())])?;
    let after = tree.total(&[(path, new.write())])?;
    outln!("a check of all lines counts {} now, and then {}", before.said(), after.said());
    if options.write {
        write(tree, &new)?;
        outln!("taken: {PATH} is as of {}", new.commit);
    } else {
        outln!("nothing is written; take it with: kanonix settle --refresh --write");
    }
    Ok(Status::Clean)
}

/// What our canon follows.
fn team(tree: &Tree) -> anyhow::Result<Team> {
    let canon = match tree.text()? {
        Some(text) => Canon::read(&tree.canon, &text).map_err(WorkError::from)?.team,
        None => None,
    };
    canon.ok_or_else(|| {
        let message = format!(
            "{} follows nobody: say whom with\n  [team]\n  follow = \"PATH or address\"",
            tree.shown(&tree.canon)
        );
        BadOption(message).into()
    })
}

fn from(team: &Team) -> String {
    match &team.at {
        Some(at) => format!("{} at {at}", team.follow),
        None => team.follow.clone(),
    }
}

fn fetch(tree: &Tree, team: &Team) -> anyhow::Result<Followed> {
    // A folder counts from the canon that names it.
    let folder = tree.root.join(&team.follow);
    let address = match folder.exists() {
        true => folder.to_string_lossy().into_owned(),
        false => team.follow.clone(),
    };
    let (commit, text) = fetch_file(&address, team.at.as_deref(), FILE_NAME)
        .with_context(|| format!("{} cannot be followed", from(team)))?;
    Canon::read(&folder.join(FILE_NAME), &text).map_err(WorkError::from)?;
    Ok(Followed { from: team.follow.clone(), at: team.at.clone(), commit, text })
}

fn write(tree: &Tree, copy: &Followed) -> anyhow::Result<()> {
    put(&tree.root, Path::new(PATH), copy.write().as_bytes(), 0o644)
        .with_context(|| format!("{} cannot be written", Followed::path(&tree.root).display()))
}

/// Which settings have other values, and in which languages.
fn differences(tree: &Tree, old: &Followed, new: &Followed) -> anyhow::Result<Vec<String>> {
    let path = Followed::path(&tree.root);
    let read = |text: &str| Canon::read(&path, text).map_err(WorkError::from);
    let (old, new) = (read(&old.text)?, read(&new.text)?);
    let mut out = Vec::new();
    for language in languages::ALL {
        let (before, after) = (old.style(language), new.style(language));
        for (entry, slot) in slots() {
            let has = language.has_slot(slot);
            let value = |style: &kanonix_core::style::Style| style.get(entry.setting, slot.key);
            let (was, is) = (value(&before), value(&after));
            if has && was != is {
                let name = slot.path(entry);
                out.push(format!("style.{}.{name}: {was} becomes {is}", language.name));
            }
        }
    }
    if out.is_empty() {
        out.push("no setting has another value".into());
    }
    Ok(out)
}
