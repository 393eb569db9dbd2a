//! A summary for a review's comment, whatever happens under the size that reviews take.

use super::{Frame, count, left_alone, number};
use crate::Status;
use crate::service::judging::{Judged, Judgement};
use crate::service::places::Place;
use kanonix_core::text::visible;
use std::collections::BTreeMap;

/// Its largest size, in bytes: less than the least that a review takes.
const LARGEST: usize = 60_000;

/// What comes last has room in any case, in bytes.
const LAST: usize = 2_000;

/// So many slips are shown with their lines.
const MOST_SHOWN: usize = 20;

/// So many things are listed of each kind.
const MOST_LISTED: usize = 20;

/// So much of a line is shown, in characters.
const LONGEST_LINE: usize = 200;

pub(super) fn text(judgement: &Judgement, frame: &Frame) -> String {
    let mut page = Page::default();
    page.add(&format!("### Kanonix: {}\n\n", verdict(judgement, frame)));
    page.add(&merge(frame));
    page.list("Not judged", judgement.problems.iter().map(|(path, why)| {
        format!("{}: {}", code(path), plain(why))
    }));
    page.add(&settings(judgement));
    slips(judgement, &mut page);
    let places = |of: fn(&Judged) -> &[Place]| {
        let files = judgement.files.iter();
        let all = files.flat_map(move |file| of(file).iter().map(move |place| (file, place)));
        all.map(|(file, place)| {
            let at = format!("{}:{}", file.inside.display(), place.line);
            format!("{}: {}", code(&at), plain(&place.message))
        })
    };
    page.list("Does not parse", places(|file| &file.faults));
    page.list("Too long", places(|file| &file.long_lines));
    page.list("Notes", places(|file| &file.remarks));
    page.list("New comments that keep lines as they stand", places(|file| &file.new_keeps));
    let mut last = String::new();
    if judgement.slips() > 0 {
        last.push_str(&format!("Mend them with:\n\n```sh\n{}\n```\n", line(frame.mend)));
    }
    if let Some(left) = left_alone(&judgement.left_alone) {
        last.push_str(&format!("\n{}\n", plain(&left)));
    }
    page.end(&last)
}

/// A text that grows as far as there is room.
#[derive(Default)]
struct Page {
    text: String,
    is_cut: bool,
}

impl Page {
    /// Adds a whole piece, or none of it.
    fn add(&mut self, piece: &str) {
        match self.text.len() + piece.len() + LAST <= LARGEST {
            true => self.text.push_str(piece),
            false => self.is_cut = true,
        }
    }

    fn list(&mut self, title: &str, entries: impl Iterator<Item = String>) {
        let entries: Vec<String> = entries.collect();
        if entries.is_empty() {
            return;
        }
        self.add(&format!("**{title}**\n\n"));
        for entry in entries.iter().take(MOST_LISTED) {
            self.add(&format!("- {entry}\n"));
        }
        if entries.len() > MOST_LISTED {
            self.add(&format!("- and {} more\n", number(entries.len() - MOST_LISTED)));
        }
        self.add("\n");
    }

    fn end(mut self, last: &str) -> String {
        if self.is_cut {
            self.text.push_str("There is more than a comment has room for.\n\n");
        }
        let room = LARGEST.saturating_sub(self.text.len());
        let last: String = last.chars().take(room.min(LAST - 100) / 4).collect();
        self.text.push_str(&last);
        self.text
    }
}

fn verdict(judgement: &Judgement, frame: &Frame) -> String {
    let words = plain(frame.reach);
    let files = count(judgement.files.len(), "file");
    match (judgement.lines(), judgement.status()) {
        (0, Status::Clean) => format!("no slips in {files}, {words}"),
        (0, _) => format!("stopped, as something could not be judged, {words}"),
        (lines, _) => {
            let verb = if lines == 1 { "departs" } else { "depart" };
            format!("{} {verb} from the canon, {words}", count(lines, "line"))
        }
    }
}

/// By whose canon a branch was judged, and what it makes of the canon.
fn merge(frame: &Frame) -> String {
    let Some(story) = frame.merge else { return String::new() };
    let mut out = format!("{}.\n\n", first_upper(&plain(&story.judged_by())));
    let changes: Vec<_> = story.changes().collect();
    if changes.is_empty() {
        return out;
    }
    out.push_str("**The branch changes the canon**, which counts once it is merged:\n\n");
    for (path, what, how) in changes.iter().take(MOST_LISTED) {
        out.push_str(&format!("- {}: {} {}\n", code(path), code(what), plain(how)));
    }
    if changes.len() > MOST_LISTED {
        out.push_str(&format!("- and {} more\n", changes.len() - MOST_LISTED));
    }
    if let Some(own) = story.own_verdict() {
        out.push_str(&format!("\n{}.\n", first_upper(&own)));
    }
    out + "\n"
}

/// How many slips there are of each setting.
fn settings(judgement: &Judgement) -> String {
    let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
    for slip in judgement.files.iter().flat_map(|file| &file.slips) {
        *counts.entry(slip.setting).or_default() += 1;
    }
    if counts.is_empty() {
        return String::new();
    }
    let mut counts: Vec<(&str, usize)> = counts.into_iter().collect();
    counts.sort_by_key(|(name, times)| (std::cmp::Reverse(*times), *name));
    let rows = counts.iter().map(|(name, times)| format!("| `{name}` | {} |\n", number(*times)));
    format!("| setting | slips |\n|---|---:|\n{}\n", rows.collect::<String>())
}

/// The first slips, each with its line as it is and as it should be.
fn slips(judgement: &Judgement, page: &mut Page) {
    let mut shown = 0;
    for file in &judgement.files {
        for places in file.slips.chunk_by(|a, b| a.line == b.line) {
            if shown == MOST_SHOWN {
                return;
            }
            shown += 1;
            let first = &places[0];
            let at = format!("{}:{}", file.inside.display(), first.line);
            let mut wishes: Vec<String> = places
                .iter()
                .map(|place| format!("{} (`{}`)", plain(&place.message), place.setting))
                .collect();
            wishes.dedup();
            let mut piece = format!("{}: {}\n\n", code(&at), wishes.join("; "));
            let now = places.iter().find_map(|place| place.source.as_deref());
            let wanted = places.iter().find_map(|place| place.wanted.as_deref());
            if let (Some(now), Some(wanted)) = (now, wanted)
                && now.trim_end() != wanted.trim_end()
            {
                let removed = format!("- {}\n", line(now));
                let added = wanted.lines().take(8).map(|wanted| format!("+ {}\n", line(wanted)));
                piece.push_str(&fenced(&format!("{removed}{}", added.collect::<String>())));
            }
            page.add(&piece);
        }
    }
}

/// A line that a stranger wrote, as far as there is room for it.
fn line(text: &str) -> String {
    let text = visible(&text.replace(['\t', '\r'], " ")).into_owned();
    super::cut_at(&text, LONGEST_LINE)
}

/// A block of code behind a fence that is longer than any inside.
fn fenced(code: &str) -> String {
    let fence = "`".repeat(longest_run(code).max(2) + 1);
    format!("{fence}diff\n{code}{fence}\n\n")
}

/// A word of code: whatever a stranger wrote in it stays code.
fn code(word: &str) -> String {
    let word = line(word);
    let marks = "`".repeat(longest_run(&word) + 1);
    match word.starts_with('`') || word.ends_with('`') {
        true => format!("{marks} {word} {marks}"),
        false => format!("{marks}{word}{marks}"),
    }
}

/// How many back-ticks stand side by side at most.
fn longest_run(text: &str) -> usize {
    text.split(|c| c != '`').map(str::len).max().unwrap_or(0)
}

/// Words in which nothing is a mark of the page but the back-ticks around code.
fn plain(words: &str) -> String {
    let words = line(words);
    let parts: Vec<&str> = words.split('`').collect();
    if parts.len() % 2 == 0 {
        return escaped(&words.replace('`', "'"));
    }
    let part = |(index, part): (usize, &&str)| match index % 2 {
        0 => escaped(part),
        _ => code(part),
    };
    parts.iter().enumerate().map(part).collect()
}

fn escaped(words: &str) -> String {
    let mut out = String::new();
    for letter in words.chars() {
        match letter {
            '<' => out.push_str("&lt;"),
            '&' => out.push_str("&amp;"),
            // A name behind this mark would call somebody.
            '@' => out.push_str("&#64;"),
            '\\' | '*' | '_' | '[' | ']' | '#' | '|' | '~' | '!' => {
                out.push('\\');
                out.push(letter);
            }
            letter => out.push(letter),
        }
    }
    out
}

fn first_upper(words: &str) -> String {
    let mut letters = words.chars();
    match letters.next() {
        Some(first) => first.to_uppercase().chain(letters).collect(),
        None => String::new(),
    }
}
