//! `--price`: what single choices would cost. `--set`: a choice, put into the canon that is there.

use super::super::replace_kept;
use super::{Total, Tree};
use crate::Status;
use crate::options::{BadOption, Settle};
use crate::paint::Paint;
use crate::say::{errln, outln, outpart};
use anyhow::Context;
use kanonix_core::text::unified_diff;
use kanonix_repo::canon::Canon;
use kanonix_repo::canon::editing::{Wish, set, with_their_own};
use kanonix_repo::work::WorkError;

/// What is priced where nothing is agreed yet.
const NOTHING: &str = "edition = 1\n";

/// Prints what each of the asked values would change, next to what is agreed now.
pub(super) fn price(tree: &Tree, options: &Settle) -> anyhow::Result<Status> {
    let text = tree.text()?;
    let today = if text.is_some() { "as agreed now" } else { "as each community has it" };
    let text = text.unwrap_or_else(|| NOTHING.into());
    let now = tree.total(&[(tree.canon.clone(), text.clone())])?;
    let mut rows: Vec<(&str, Total)> = Vec::new();
    for wish in &options.price {
        let with = changed(tree, &text, std::slice::from_ref(wish), "--price")?;
        rows.push((wish, tree.total(&[(tree.canon.clone(), with)])?));
    }
    let paint = Paint::new(options.voice.color);
    let names = rows.iter().map(|(name, _)| name.len());
    let width = names.chain([today.len()]).max().unwrap_or(0);
    let totals = rows.iter().map(|(_, total)| total.said().len());
    let widest = totals.chain([now.said().len()]).max().unwrap_or(0);
    outln!("{}", paint.faint("what a check of all lines would count"));
    outln!("  {today:width$}  {:>widest$}", now.said());
    for (name, total) in rows {
        let difference = match total.lines as i64 - now.lines as i64 {
            0 => "no more and no fewer lines".to_string(),
            1 => "1 more line".to_string(),
            -1 => "1 fewer line".to_string(),
            more if more > 0 => format!("{more} more lines"),
            fewer => format!("{} fewer lines", -fewer),
        };
        let name = paint.name(&format!("{name:width$}"));
        outln!("  {name}  {:>widest$}  {}", total.said(), paint.faint(&difference));
    }
    if !options.voice.quiet {
        say_what_is_left(&text, &options.price, "--price");
    }
    Ok(Status::Clean)
}

/// Changes the canon that is there; without `--write`, only shows how.
pub(super) fn set_values(tree: &Tree, options: &Settle) -> anyhow::Result<Status> {
    let shown = tree.shown(&tree.canon);
    let Some(text) = tree.text()? else {
        let message = format!("there is no {shown} yet; write one with: kanonix settle --write");
        return Err(BadOption(message).into());
    };
    let with = changed(tree, &text, &options.set, "--set")?;
    if !options.voice.quiet {
        say_what_is_left(&text, &options.set, "--set");
    }
    if with == text {
        outln!("{shown} says so already");
        return Ok(Status::Clean);
    }
    if options.write {
        replace_kept(&tree.root, &tree.canon, &text, &with)
            .with_context(|| format!("{shown} cannot be written"))?;
        outln!("{shown} is changed: {}", options.set.join(", "));
        return Ok(Status::Clean);
    }
    outpart!("--- {shown}\n+++ {shown}\n{}", unified_diff(&text, &with));
    if !options.voice.quiet {
        let now = tree.total(&[(tree.canon.clone(), text)])?;
        let then = tree.total(&[(tree.canon.clone(), with)])?;
        errln!("\na check of all lines counts {} now, and then {}", now.said(), then.said());
        errln!("nothing is written; add --write");
    }
    Ok(Status::Clean)
}

/// The text of a canon in which these wishes are fulfilled, and which can be read. What is wrong in
/// a wish is said of the option that it stands behind.
fn changed(tree: &Tree, text: &str, wishes: &[String], option: &str) -> anyhow::Result<String> {
    Canon::read(&tree.canon, text).map_err(WorkError::from)?;
    let mut with = text.to_string();
    for asked in wishes {
        let wrong = |message: &str| BadOption(format!("{option} {asked}: {message}"));
        let wish = Wish::read(asked).map_err(|error| wrong(&error.to_string()))?;
        with = set(&with, &wish, None).map_err(|error| wrong(&error.to_string()))?;
        Canon::read(&tree.canon, &with).map_err(|error| wrong(error.message()))?;
    }
    Ok(with)
}

/// Says which languages a wish for all of them leaves as they are, as their tables have the setting, too.
fn say_what_is_left(text: &str, wishes: &[String], option: &str) {
    for wish in wishes.iter().filter_map(|asked| Wish::read(asked).ok()) {
        let own = with_their_own(text, &wish);
        let Some(first) = own.first() else { continue };
        let keep = if own.len() == 1 { "keeps its" } else { "keep their" };
        let (names, setting, path) = (own.join(", "), &wish.path[1], wish.path[1..].join("."));
        let instead = format!("{option} {first}.{path}={}", wish.value);
        errln!("{names} {keep} own `{setting}`; of one language: {instead}");
    }
}
