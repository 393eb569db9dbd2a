//! What a setting does: its meaning, its values, and the same lines under each of them.

use crate::Status;
use crate::options::Explain;
use crate::paint::Paint;
use crate::say::{outln, outpart};
use kanonix_core::languages::{self, Language};
use kanonix_core::mend;
use kanonix_core::style::{Entry, Sample, Slot, sample};
use kanonix_core::text::LineSet;
use serde::Serialize;

/// Columns between two samples side by side.
const BETWEEN: usize = 4;

/// Columns that samples may take where there is no terminal to ask.
const WIDTH: usize = 100;

/// All that is said about one key of a setting.
#[derive(Serialize)]
struct Explained {
    name: String,
    about: String,
    takes: String,
    /// By language.
    defaults: Vec<(&'static str, String)>,
    sample: Option<Shown>,
}

/// A sample under each value.
#[derive(Serialize)]
struct Shown {
    language: &'static str,
    values: Vec<Laid>,
}

#[derive(Serialize)]
struct Laid {
    value: &'static str,
    text: String,
}

pub(super) fn run(entry: &'static Entry, key: &str, options: &Explain) -> anyhow::Result<Status> {
    let asked = |slot: &&Slot| key.is_empty() || slot.key.name() == key;
    let all: Vec<Explained> =
        entry.slots.iter().filter(asked).map(|slot| explained(entry, slot)).collect();
    if options.is_json() {
        let report = serde_json::json!({
            "version": 1,
            "setting": entry.name,
            "about": entry.about,
            "keys": all,
        });
        outln!("{}", serde_json::to_string_pretty(&report)?);
        return Ok(Status::Clean);
    }
    let paint = Paint::new(options.color);
    outln!("{}\n{}", paint.strong(entry.name), wrapped(entry.about));
    for one in &all {
        outpart!("\n{}", text(one, entry, paint));
    }
    // The first one that has the first key.
    let language = all.first().and_then(|one| one.defaults.first());
    let language = language.map_or("python", |(name, _)| *name);
    // Of a value that is not there already.
    let value = all.first().and_then(|one| {
        let values = &one.sample.as_ref()?.values;
        let mut own = one.defaults.iter();
        let own = own.find(|(name, _)| *name == language).map(|(_, value)| value.as_str());
        values.iter().find(|laid| Some(laid.value) != own).or(values.first())
    });
    let value = value.map_or("…", |laid| laid.value);
    let name = all.first().map_or(entry.name, |one| one.name.as_str());
    outln!("\n{}", paint.faint("what would it cost here?"));
    outln!("  kanonix settle --price style.{language}.{name}={value}");
    Ok(Status::Clean)
}

fn explained(entry: &'static Entry, slot: &'static Slot) -> Explained {
    let has = |l: &&&Language| l.has_slot(slot);
    let default = |language: &&'static Language| {
        (language.name, language.style().get(entry.setting, slot.key).to_string())
    };
    Explained {
        name: slot.path(entry),
        about: slot.about.into(),
        takes: slot.takes(),
        defaults: languages::ALL.iter().filter(has).map(default).collect(),
        sample: sample(entry, slot).and_then(|sample| shown(entry, slot, sample)),
    }
}

fn shown(entry: &Entry, slot: &Slot, sample: &'static Sample) -> Option<Shown> {
    let language = languages::by_name(sample.language)?;
    let lay = |value: &'static str| {
        let mut style = language.style();
        for (name, key, value) in sample.with {
            style.set(name, key, value).ok()?;
        }
        style.set(entry.name, slot.key.name(), value).ok()?;
        let text = mend(sample.text, language, &style, &LineSet::whole()).ok()?.text;
        Some(Laid { value, text })
    };
    let values = sample.shown(slot).into_iter().filter_map(lay).collect();
    Some(Shown { language: language.name, values })
}

fn text(one: &Explained, entry: &Entry, paint: Paint) -> String {
    let mut out = String::new();
    if one.name != entry.name {
        out.push_str(&format!("{}  {}\n", paint.name(&one.name), one.about));
    }
    out.push_str(&format!("{}\n", wrapped(&format!("takes {}", one.takes))));
    out.push_str(&format!("{}\n", wrapped(&defaults(one))));
    if let Some(sample) = &one.sample {
        out.push('\n');
        out.push_str(&samples(sample, paint));
    }
    out
}

/// A sentence in lines that fit, two blanks in.
pub(super) fn wrapped(text: &str) -> String {
    let mut out = String::from(" ");
    let mut column = 1;
    for word in text.split_whitespace() {
        let width = word.chars().count() + 1;
        if column + width > WIDTH.min(room()) {
            out.push_str("\n ");
            column = 1;
        }
        out.push_str(&format!(" {word}"));
        column += width;
    }
    out
}

/// Columns that there are.
fn room() -> usize {
    terminal_size::terminal_size().map_or(WIDTH, |(width, _)| usize::from(width.0))
}

/// "by default `2`", or "by default `2`; in python `4`".
fn defaults(one: &Explained) -> String {
    if one.defaults.is_empty() {
        return "no language has it yet".into();
    }
    let mut values: Vec<(&str, Vec<&str>)> = Vec::new();
    for (language, value) in &one.defaults {
        match values.iter_mut().find(|(known, _)| known == value) {
            Some((_, languages)) => languages.push(language),
            None => values.push((value, vec![language])),
        }
    }
    let said: Vec<String> = values
        .iter()
        .map(|(value, languages)| format!("`{value}` in {}", languages.join(", ")))
        .collect();
    format!("by default {}", said.join("; "))
}

/// Samples beside each other where there is room, else below each other.
fn samples(sample: &Shown, paint: Paint) -> String {
    let room = room();
    let blocks: Vec<(String, Vec<String>)> = sample
        .values
        .iter()
        .map(|laid| (laid.value.to_string(), visible(&laid.text)))
        .collect();
    let width = |(value, lines): &(String, Vec<String>)| {
        let lines = lines.iter().map(|line| line.chars().count());
        lines.chain([value.chars().count()]).max().unwrap_or(0)
    };
    let total: usize = blocks.iter().map(|block| width(block) + BETWEEN).sum();
    let mut out = String::new();
    if total <= room {
        let height = blocks.iter().map(|(_, lines)| lines.len()).max().unwrap_or(0);
        let mut row = |of: &dyn Fn(&(String, Vec<String>)) -> (String, bool)| {
            let mut line = String::new();
            for block in &blocks {
                let (text, is_head) = of(block);
                let blanks = (width(block) + BETWEEN).saturating_sub(text.chars().count());
                line.push_str(&if is_head { paint.mark(&text) } else { text });
                line.push_str(&" ".repeat(blanks));
            }
            out.push_str(&format!("    {}\n", line.trim_end()));
        };
        row(&|(value, _)| (value.clone(), true));
        for at in 0..height {
            row(&|(_, lines)| (lines.get(at).cloned().unwrap_or_default(), false));
        }
    } else {
        for (value, lines) in &blocks {
            out.push_str(&format!("    {}\n", paint.mark(value)));
            out.extend(lines.iter().map(|line| format!("      {line}\n")));
        }
    }
    out
}

/// A text's lines, with what nobody sees made visible.
fn visible(text: &str) -> Vec<String> {
    let shown = text.replace('\u{feff}', "‹byte-order mark›").replace('\t', "→   ");
    let mut lines: Vec<String> = shown
        .split_inclusive('\n')
        .map(|line| {
            let body = line.trim_end_matches('\n');
            let (body, end) = match body.strip_suffix('\r') {
                Some(body) => (body, "␍␊"),
                None => (body, ""),
            };
            let solid = body.trim_end_matches(' ');
            format!("{solid}{}{end}", "·".repeat(body.len() - solid.len()))
        })
        .collect();
    if !shown.ends_with('\n') && let Some(last) = lines.last_mut() {
        last.push_str("‹no line break›");
    }
    lines
}
