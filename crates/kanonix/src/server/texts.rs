//! The texts that a client has open, as it has them.

use super::positions::{Encoding, Places};
use kanonix_core::Document;
use kanonix_core::languages::{self, Language};
use kanonix_core::text::Edit;
use lsp_types::TextDocumentContentChangeEvent;
use std::collections::{HashMap, VecDeque};
use std::path::{Path, PathBuf};
use std::sync::Arc;
use url::Url;

/// Of so many texts, what the parser found is kept; of more, it is found again when it is needed.
const MOST_PARSED: usize = 24;

/// One open text.
pub(super) struct OpenText {
    pub text: String,
    pub version: i32,
    /// Grows with every change.
    pub stamp: u64,
    pub identifier: String,
    /// What was parsed last, and what has been changed since.
    parsed: Option<Arc<Document<'static>>>,
    since: Vec<(u64, Edit)>,
    /// A tree of a text from before this one is of no use.
    replaced: u64,
}

/// A text as it was when something was asked of it.
pub(super) struct Snapshot {
    pub uri: Url,
    pub version: i32,
    pub stamp: u64,
    /// Where it is, or would be if it were a file.
    pub path: PathBuf,
    pub is_file: bool,
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

    /// What the client says of its language.
    pub fn language(&self) -> Option<&'static Language> {
        languages::of_identifier(&self.identifier)
    }
}

/// All open texts.
#[derive(Default)]
pub(super) struct Texts {
    open: HashMap<Url, OpenText>,
    /// Those that are parsed, the last one asked for last.
    recent: VecDeque<Url>,
    stamps: u64,
}

impl Texts {
    pub fn open(&mut self, uri: Url, identifier: String, version: i32, text: String) {
        self.stamps += 1;
        let open = OpenText {
            text,
            version,
            stamp: self.stamps,
            identifier,
            parsed: None,
            since: Vec::new(),
            replaced: self.stamps,
        };
        self.open.insert(uri, open);
    }

    pub fn close(&mut self, uri: &Url) {
        self.open.remove(uri);
        self.recent.retain(|other| other != uri);
    }

    pub fn get(&self, uri: &Url) -> Option<&OpenText> {
        self.open.get(uri)
    }

    pub fn all(&self) -> impl Iterator<Item = &Url> {
        self.open.keys()
    }

    /// Changes a text, one change after the other.
    pub fn change(
        &mut self,
        uri: &Url,
        version: i32,
        changes: Vec<TextDocumentContentChangeEvent>,
        encoding: Encoding,
    ) {
        let Some(open) = self.open.get_mut(uri) else { return };
        open.version = version;
        for change in changes {
            self.stamps += 1;
            open.stamp = self.stamps;
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

    pub fn snapshot(&self, uri: &Url, roots: &[PathBuf]) -> Option<Snapshot> {
        let open = self.open.get(uri)?;
        let language = languages::of_identifier(&open.identifier);
        let file = uri.to_file_path().ok();
        Some(Snapshot {
            uri: uri.clone(),
            version: open.version,
            stamp: open.stamp,
            is_file: file.is_some(),
            path: file.unwrap_or_else(|| untitled(roots, language)),
            identifier: open.identifier.clone(),
            text: open.text.clone(),
            parsed: open.parsed.clone(),
            since: open.since.iter().map(|(_, edit)| edit.clone()).collect(),
        })
    }

    /// Keeps what was parsed of a text as it was at a stamp.
    pub fn parsed(&mut self, uri: &Url, stamp: u64, document: Arc<Document<'static>>) {
        let Some(open) = self.open.get_mut(uri) else { return };
        if stamp < open.replaced {
            return;
        }
        open.since.retain(|(later, _)| *later > stamp);
        open.parsed = Some(document);
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
