//! `kanonix explain`: why a file or a line is treated so, and what a setting does.

mod editor;
pub(crate) mod place;
mod setting;
mod words;

use crate::Status;
use crate::options::{BadOption, Explain};
use kanonix_core::languages;
use kanonix_core::style::{REGISTRY, nearest};
use kanonix_repo::canon::words::{WORDS, word_at};
use std::path::Path;

pub(crate) fn run(options: &Explain) -> anyhow::Result<Status> {
    let here = super::here()?;
    if options.editor {
        return editor::run(&here, options);
    }
    let Some(asked) = options.what.as_deref() else { return words::list(options) };
    let (path, line) = split_line(&here, asked);
    if here.join(path).exists() {
        if here.join(path).is_dir() {
            let message = format!(
                "{path} is a folder: explain takes one file, or a word of the canon; `kanonix check \
                 --whole {path}` says what is in it"
            );
            return Err(BadOption(message).into());
        }
        return place::run(&here, Path::new(path), line, options);
    }
    // A setting may be written with all that leads to it: style.python.quotes.
    let bare = asked.strip_prefix("style.").unwrap_or(asked);
    let bare = match bare.split_once('.') {
        Some((language, setting)) if languages::by_name(language).is_some() => setting,
        _ => bare,
    };
    let (name, key) = bare.split_once('.').unwrap_or((bare, ""));
    if let Some(entry) = REGISTRY.iter().find(|entry| entry.name == name)
        && (key.is_empty() || entry.slots.iter().any(|slot| slot.key.name() == key))
    {
        return setting::run(entry, key, options);
    }
    if let Some(word) = word_at(asked) {
        return words::one(word, options);
    }
    let settings = REGISTRY.iter().map(|entry| entry.name);
    let known = settings.chain(WORDS.iter().map(|word| word.path));
    let last = asked.rsplit('.').next().unwrap_or(asked);
    let near = nearest(name, known.clone()).or_else(|| nearest(last, known));
    let near = near.map(|name| format!("; did you mean `{name}`?")).unwrap_or_default();
    let message = format!(
        "there is neither a file nor a word of the canon `{asked}`{near} All words are listed by: \
         kanonix explain"
    );
    Err(BadOption(message.replace("` All", "`. All")).into())
}

/// A path and a line counted from 1, if one is written behind it.
fn split_line<'a>(here: &Path, asked: &'a str) -> (&'a str, Option<usize>) {
    match asked.rsplit_once(':') {
        Some((path, line)) if !here.join(asked).exists() => match line.parse() {
            Ok(line) if line > 0 => (path, Some(line)),
            _ => (asked, None),
        },
        _ => (asked, None),
    }
}
