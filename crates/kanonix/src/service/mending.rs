//! Mending the files of a selection, each with its proof.

use super::judging::{in_play, sheltered};
use kanonix_core::text::{Edit, LineSet, Lines, unified_diff};
use kanonix_core::{Difference, Document, Mended, judge};
use kanonix_repo::system::bytes_of;
use kanonix_repo::work::{InPlay, Item, Loaded, NotLoaded, Selection};
use std::path::Path;

/// What became of one file.
pub(crate) enum Done {
    /// With the places in play, by line and column, that do not parse.
    Clean { unread: Vec<(usize, usize)> },
    /// The old text and the new one, with those places of the new one.
    Mended {
        old: String,
        new: String,
        unread: Vec<(usize, usize)>,
        notes: Vec<String>,
        refused: Option<String>,
    },
    LeftAlone(kanonix_repo::work::Why),
    Problem(String),
}

/// A file once it is mended, unless something about it keeps it as it is.
pub(crate) fn mended_unless(
    selection: &Selection,
    item: &Item,
    kept: impl Fn(&Document) -> Option<String>,
) -> Done {
    sheltered(|| mended_but(selection, item, kept)).unwrap_or_else(Done::Problem)
}

fn mended_but(
    selection: &Selection,
    item: &Item,
    kept: impl Fn(&Document) -> Option<String>,
) -> Done {
    let loaded = match selection.load(item) {
        Ok(loaded) => loaded,
        Err(NotLoaded::LeftAlone(why)) => return Done::LeftAlone(why),
        Err(NotLoaded::Problem(reason)) => return Done::Problem(reason),
    };
    let document = Document::new(loaded.text.as_str(), item.language);
    if let Some(reason) = kept(&document) {
        return Done::Problem(reason);
    }
    match mend_loaded(item, &document, &loaded.play) {
        Ok(mended) if mended.text == loaded.text => Done::Clean {
            unread: unread(&loaded, &mended),
        },
        Ok(mended) => {
            let unread = unread(&loaded, &mended);
            let refused = mended.outcome.refused.as_ref();
            let refused = refused.map(|difference| unproved(item, &loaded.text, difference));
            let notes = dropped(mended.outcome.dropped()).into_iter().collect();
            Done::Mended { old: loaded.text, new: mended.text, unread, notes, refused }
        }
        Err(reason) => Done::Problem(reason),
    }
}

/// What is said of imports that go.
pub(crate) fn dropped(count: usize) -> Option<String> {
    let (imports, them) = match count {
        0 => return None,
        1 => ("1 import that nothing mentions goes".to_string(), "it"),
        _ => (format!("{count} imports that nothing mentions go"), "them"),
    };
    Some(format!("{imports}, as the canon asks; that nothing needs {them} is not proved"))
}

/// Where in the mended text stretches in play begin that do not parse.
fn unread(loaded: &Loaded, mended: &Mended) -> Vec<(usize, usize)> {
    if mended.outcome.faults.is_empty() {
        return Vec::new();
    }
    let set = loaded.play.lines(&loaded.text);
    let (old, new) = (Lines::new(&loaded.text), Lines::new(&mended.text));
    let faults = mended.outcome.faults.iter().filter(|fault| in_play(&set, &old, fault));
    faults.map(|fault| new.place(&mended.text, moved(fault.start, &mended.outcome.edits))).collect()
}

/// Where a place is once edits before it are made.
fn moved(offset: usize, edits: &[Edit]) -> usize {
    let before = edits.iter().take_while(|edit| edit.range.end <= offset);
    before.fold(offset, |at, edit| at + edit.text.len() - edit.range.len())
}

/// Mends the lines of a text that are in play.
pub(crate) fn mend_loaded(
    item: &Item,
    document: &Document,
    play: &InPlay,
) -> Result<Mended, String> {
    let mended = match play {
        InPlay::Since(bases) => document.mend_since(bases, &item.style),
        InPlay::Set(set) => document.mend(&item.style, set),
    };
    let mended = mended.map_err(|difference| unproved(item, document.text(), &difference))?;
    match mended.outcome.unjudged {
        Some(why) => Err(why.to_string()),
        None => Ok(mended),
    }
}

/// What is said of a statement that would be another program once it is mended.
pub(crate) fn unproved(item: &Item, text: &str, difference: &Difference) -> String {
    let at = difference.offset().min(text.len());
    let (line, column) = Lines::new(text).place(text, at);
    let faults = judge(text, item.language, &item.style, &LineSet::default()).faults;
    if let Some(fault) = faults.first() {
        let (fault, _) = Lines::new(text).place(text, fault.start);
        return format!(
            "line {fault} does not parse, and line {line} would be read otherwise once it is \
             mended; the statement there is left as it is. Mend line {fault} by hand first"
        );
    }
    format!(
        "{line}:{column}: mending would make this another program ({difference}); the statement is \
         left as it is. If it is a program of {}, please report it to Kanonix with its canon",
        item.language.name
    )
}

/// A file's change as `git apply` takes it.
pub(crate) fn patch(path: &Path, old: &str, new: &str) -> String {
    let name = |side: &str| quoted(&[side.as_bytes(), b"/", bytes_of(path)].concat());
    // Git reads a name with blanks up to a tab.
    let tab = if bytes_of(path).contains(&b' ') { "\t" } else { "" };
    let (before, after) = (name("a"), name("b"));
    // By the first line, git takes the paths for those from the top, wherever it stands.
    let head = format!("diff --git {before} {after}\n--- {before}{tab}\n+++ {after}{tab}\n");
    head + &unified_diff(old, new)
}

/// A name as git writes it: in quotes where a character of it would be read otherwise.
fn quoted(name: &[u8]) -> String {
    let is_plain = |byte: &u8| !matches!(byte, 0..0x20 | b'"' | b'\\' | 0x7f);
    if let Ok(text) = std::str::from_utf8(name)
        && name.iter().all(is_plain)
    {
        return text.to_string();
    }
    let mut quoted = String::from("\"");
    for byte in name {
        match byte {
            b'"' | b'\\' => quoted.extend(['\\', char::from(*byte)]),
            byte if is_plain(byte) && byte.is_ascii() => quoted.push(char::from(*byte)),
            byte => quoted.push_str(&format!("\\{byte:03o}")),
        }
    }
    quoted + "\""
}
