//! `kanonix explain`: why a file or a line is treated so, and what a setting does.

mod editor;
pub(crate) mod place;
mod setting;

use crate::Status;
use crate::options::{BadOption, Explain};
use kanonix_core::style::{REGISTRY, nearest, slots};
use std::path::Path;

pub(crate) fn run(options: &Explain) -> anyhow::Result<Status> {
    let here = super::here()?;
    let Some(asked) = options.what.as_deref() else { return editor::run(&here, options) };
    let (name, key) = asked.split_once('.').unwrap_or((asked, ""));
    if let Some(entry) = REGISTRY.iter().find(|entry| entry.name == name)
        && (key.is_empty() || entry.slots.iter().any(|slot| slot.key == key))
        && !here.join(asked).exists()
    {
        return setting::run(entry, key, options);
    }
    match split_line(&here, asked) {
        (path, line) if here.join(path).exists() => {
            if here.join(path).is_dir() {
                let message = format!("{path} is a folder: explain takes one file, or a setting");
                return Err(BadOption(message).into());
            }
            place::run(&here, Path::new(path), line, options)
        }
        _ => {
            let names = slots().map(|(entry, slot)| slot.path(entry));
            let names: Vec<String> =
                names.chain(REGISTRY.iter().map(|entry| entry.name.to_string())).collect();
            let known = REGISTRY.iter().map(|entry| entry.name);
            let near = nearest(name, known).map(|name| format!("; did you mean `{name}`?"));
            let message = match names.iter().any(|known| known == asked) {
                true => format!("`{asked}` is not here"),
                false => format!(
                    "there is neither a file nor a setting `{asked}`{}",
                    near.unwrap_or_default()
                ),
            };
            Err(BadOption(message).into())
        }
    }
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
