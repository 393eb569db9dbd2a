//! The canon's own words: all of them, and those that are no setting.

use super::setting::wrapped;
use crate::Status;
use crate::options::Explain;
use crate::paint::Paint;
use crate::say::outln;
use kanonix_core::style::REGISTRY;
use kanonix_repo::canon::words::{WORDS, Word, bases};
use serde_json::json;

/// What is said of a word in a list takes one line of a terminal.
const WIDTH: usize = 80;

/// Lists every setting and every other word.
pub(super) fn list(options: &Explain) -> anyhow::Result<Status> {
    if options.is_json() {
        let settings: Vec<_> = REGISTRY
            .iter()
            .map(|entry| json!({ "name": entry.name, "about": entry.about }))
            .collect();
        let words: Vec<_> = WORDS.iter().map(as_json).collect();
        let report = json!({ "version": 1, "settings": settings, "words": words });
        outln!("{}", serde_json::to_string_pretty(&report)?);
        return Ok(Status::Clean);
    }
    let paint = Paint::new(options.color);
    let names = REGISTRY.iter().map(|entry| entry.name).chain(WORDS.iter().map(|word| word.path));
    let width = names.map(str::len).max().unwrap_or(0);
    let row = |name: &str, about: &str| {
        let about = first_sentence(about, WIDTH.saturating_sub(width + 4));
        outln!("  {}  {about}", paint.name(&format!("{name:width$}")));
    };
    outln!("{}", paint.faint("settings, under [style] or [style.LANGUAGE]"));
    REGISTRY.iter().for_each(|entry| row(entry.name, entry.about));
    outln!("\n{}", paint.faint("the other words of kanonix.toml"));
    WORDS.iter().for_each(|word| row(word.path, word.about));
    outln!("\nkanonix explain WORD says more of each");
    Ok(Status::Clean)
}

/// Says what one word takes and means.
pub(super) fn one(word: &'static Word, options: &Explain) -> anyhow::Result<Status> {
    if options.is_json() {
        let mut report = as_json(word);
        report["version"] = json!(1);
        outln!("{}", serde_json::to_string_pretty(&report)?);
        return Ok(Status::Clean);
    }
    let paint = Paint::new(options.color);
    outln!("{}\n{}\n  takes {}", paint.strong(word.path), wrapped(word.about), word.takes);
    if word.path == "basis" {
        outln!();
        let width = bases().map(|(name, _)| name.len()).max().unwrap_or(0);
        for (name, about) in bases() {
            outln!("  {}  {about}", paint.name(&format!("{name:width$}")));
        }
    }
    let inner = WORDS.iter().filter(|inner| {
        inner.path.strip_prefix(word.path).is_some_and(|rest| rest.starts_with('.'))
    });
    for (number, inner) in inner.enumerate() {
        if number == 0 {
            outln!();
        }
        outln!("  {}  {}", paint.name(&format!("{:20}", inner.path)), inner.about);
    }
    Ok(Status::Clean)
}

fn as_json(word: &Word) -> serde_json::Value {
    json!({ "name": word.path, "takes": word.takes, "about": word.about })
}

/// The first sentence, cut where it is too long.
fn first_sentence(text: &str, width: usize) -> String {
    let sentence = text.split_inclusive(". ").next().unwrap_or(text).trim_end();
    let sentence = sentence.trim_end_matches('.');
    if sentence.chars().count() <= width {
        return sentence.into();
    }
    let cut: String = sentence.chars().take(width.saturating_sub(2)).collect();
    let whole = cut.rfind(' ').map_or(cut.as_str(), |end| &cut[..end]);
    format!("{} …", whole.trim_end_matches([',', ':', ';']))
}
