//! The texts that a client has open, as it has them.

use super::positions::{Encoding, Places};
use crate::server::address::Address;
use kanonix_core::Document;
use kanonix_core::languages::{self, Language};
use kanonix_core::text::Edit;
use lsp_types::TextDocumentContentChangeEvent;
use std::collections::{HashMap, VecDeque};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicU64, Ordering};

/// Of so many texts, what the parser found is kept; of more, it is found again when it is needed.
const MOST_PARSED: usize = 24;

/// One open text.
pub(super) struct OpenText {
    pub text: String,
    pub version: i32,
    /// Grows with every change.
    pub stamp: u64,
    /// The same, for jobs to see that their text is outdated.
    latest: Arc<AtomicU64>,
    pub identifier: String,
    /// What was parsed last, at which stamp, and what has been changed since.
    parsed: Option<(u64, Arc<Document<'static>>)>,
    since: Vec<(u64, Edit)>,
    /// A tree of a text from before this one is of no use.
    replaced: u64,
}

/// A text as it was when something was asked of it.
pub(super) struct Snapshot {
    pub uri: Address,
    pub version: i32,
    pub stamp: u64,
    /// Where it is, or would be if it were a file.
    pub path: PathBuf,
    pub is_file: bool,
    latest: Arc<AtomicU64>,
    identifier: String,
    text: String,
    parsed: Option<Arc<Document<'static>>>,
    since: Vec<Edit>,
}

impl Snapshot {
    /// The text in a language, parsed from where it changed if it can be.
    pub fn document(&self, language: &'static Language) -> Document<'static> {
        match &self.parsed {
            Some(parsed) if std::ptr::eq(parsed.language(), language) => {
                let mut document = (**parsed).clone();
                if !self.since.is_empty() {
                    document.change(&self.since);
                }
                document
            }
            _ => Document::in_steps(self.text.clone(), language),
        }
    }

    pub fn text(&self) -> &str {
        &self.text
    }

    /// Whether the client has changed or closed the text since: nobody waits for what is found.
    pub fn is_outdated(&self) -> bool {
        self.latest.load(Ordering::Relaxed) != self.stamp
    }

    /// What the client says of its language.
    pub fn language(&self) -> Option<&'static Language> {
        languages::of_identifier(&self.identifier)
    }
}

/// All open texts.
#[derive(Default)]
pub(super) struct Texts {
    open: HashMap<Address, OpenText>,
    /// Those that are parsed, the last one asked for last.
    recent: VecDeque<Address>,
    stamps: u64,
}

impl Texts {
    pub fn open(&mut self, uri: Address, identifier: String, version: i32, text: String) {
        self.stamps += 1;
        let open = OpenText {
            text,
            version,
            stamp: self.stamps,
            latest: Arc::new(AtomicU64::new(self.stamps)),
            identifier,
            parsed: None,
            since: Vec::new(),
            replaced: self.stamps,
        };
        self.open.insert(uri, open);
    }

    pub fn close(&mut self, uri: &Address) {
        if let Some(closed) = self.open.remove(uri) {
            closed.latest.store(u64::MAX, Ordering::Relaxed);
        }
        self.recent.retain(|other| other != uri);
    }

    pub fn get(&self, uri: &Address) -> Option<&OpenText> {
        self.open.get(uri)
    }

    pub fn all(&self) -> impl Iterator<Item = &Address> {
        self.open.keys()
    }

    /// Changes a text, one change after the other.
    pub fn change(
        &mut self,
        uri: &Address,
        version: i32,
        changes: Vec<TextDocumentContentChangeEvent>,
        encoding: Encoding,
    ) {
        let Some(open) = self.open.get_mut(uri) else { return };
        open.version = version;
        for change in changes {
            self.stamps += 1;
            open.stamp = self.stamps;
            open.latest.store(self.stamps, Ordering::Relaxed);
            let Some(range) = change.range else {
                open.text = change.text;
                open.parsed = None;
                open.since.clear();
                open.replaced = self.stamps;
                continue;
            };
            let range = Places::new(&open.text, encoding).bytes(range);
            open.text.replace_range(range.clone(), &change.text);
            if open.parsed.is_some() {
                open.since.push((self.stamps, Edit { range, text: change.text }));
            } else {
                // What is being parsed now is of a text that can be followed no more.
                open.replaced = self.stamps;
            }
        }
    }

    pub fn snapshot(&self, uri: &Address, roots: &[PathBuf]) -> Option<Snapshot> {
        let open = self.open.get(uri)?;
        let language = languages::of_identifier(&open.identifier);
        let file = uri.file();
        Some(Snapshot {
            uri: uri.clone(),
            version: open.version,
            stamp: open.stamp,
            latest: open.latest.clone(),
            is_file: file.is_some(),
            path: file.unwrap_or_else(|| untitled(roots, language)),
            identifier: open.identifier.clone(),
            text: open.text.clone(),
            parsed: open.parsed.as_ref().map(|(_, document)| document.clone()),
            since: open.since.iter().map(|(_, edit)| edit.clone()).collect(),
        })
    }

    /// Keeps what was parsed of a text as it was at a stamp.
    pub fn parsed(&mut self, uri: &Address, stamp: u64, document: Arc<Document<'static>>) {
        let Some(open) = self.open.get_mut(uri) else { return };
        // Jobs end in any order: what was parsed later counts.
        let known = open.parsed.as_ref().map_or(0, |(known, _)| *known);
        if stamp < open.replaced.max(known) {
            return;
        }
        open.since.retain(|(later, _)| *later > stamp);
        open.parsed = Some((stamp, document));
        self.recent.retain(|other| other != uri);
        self.recent.push_back(uri.clone());
        while self.recent.len() > MOST_PARSED {
            let Some(oldest) = self.recent.pop_front() else { break };
            if let Some(open) = self.open.get_mut(&oldest) {
                open.parsed = None;
                open.since.clear();
                open.replaced = open.stamp;
            }
        }
    }
}

/// Where a text without a file would be: in the first folder that the client works in.
fn untitled(roots: &[PathBuf], language: Option<&Language>) -> PathBuf {
    let folder = roots.first().cloned().or_else(|| std::env::current_dir().ok());
    let suffix = language.and_then(|language| language.suffixes.first()).unwrap_or(&"txt");
    folder.unwrap_or_else(|| Path::new("/").to_path_buf()).join(format!("untitled.{suffix}"))
}

#[cfg(test)]
mod tests {
    use super::*;
    use lsp_types::{Position, Range};

    fn change(line: u32, text: &str) -> TextDocumentContentChangeEvent {
        let at = Position { line, character: 0 };
        let range = Some(Range { start: at, end: at });
        TextDocumentContentChangeEvent { range, range_length: None, text: text.into() }
    }

    #[test]
    fn what_was_parsed_is_of_use_in_whatever_order_it_comes() {
        let python = languages::by_name("python").unwrap();
        let uri = Address::parse("file:///tide/a.py").unwrap();
        let mut texts = Texts::default();
        texts.open(uri.clone(), "python".into(), 1, "a = 1\n".into());
        let parse = |texts: &Texts| {
            let snapshot = texts.snapshot(&uri, &[]).unwrap();
            let document = snapshot.document(python);
            assert_eq!(document.text(), texts.get(&uri).unwrap().text);
            (snapshot.stamp, Arc::new(document))
        };
        let first = parse(&texts);
        texts.parsed(&uri, first.0, first.1.clone());
        texts.change(&uri, 2, vec![change(1, "b = 2\n")], Encoding::Utf16);
        let second = parse(&texts);
        texts.change(&uri, 3, vec![change(0, "c = 3\n")], Encoding::Utf16);
        texts.parsed(&uri, second.0, second.1);
        parse(&texts);
        texts.parsed(&uri, first.0, first.1);
        let third = parse(&texts);
        texts.change(&uri, 4, vec![change(2, "d = 4\n")], Encoding::Utf16);
        texts.parsed(&uri, third.0, third.1);
        assert_eq!(parse(&texts).1.text(), "c = 3\na = 1\nd = 4\nb = 2\n");
    }
}
