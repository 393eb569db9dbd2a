//! Whether the edits that answer a save meet the text that they are for.
//!
//! The protocol wants a client to tell every change before it asks what a save should change. Some
//! ask first, and write our edits into a text that has gone on in the meantime. The server cannot
//! see that when it answers; it sees it afterwards, and answers such a client no more.

use super::super::positions::{Encoding, Places};
use super::Session;
use super::shown;
use crate::server::address::Address;
use kanonix_core::text::{Edit, apply};
use lsp_server::RequestId;
use lsp_types::{ClientInfo, MessageType, TextEdit};
use serde_json::Value;
use std::collections::{HashMap, HashSet};
use std::hash::{DefaultHasher, Hash, Hasher};

/// Clients, as they name themselves, that are known to ask before they have told what was typed
/// last.
const EARLY: [&str; 1] = ["Eglot"];

/// Said once to a person whose client turns out to be one of them.
const TOLD: &str = "this editor asks Kanonix what a save should change before it tells what was \
    typed last, so a save may have written an edit in a wrong place: look at the last one, and undo \
    it if need be. Nothing is mended on save any more in this session. Set `mendOnSave` to false and \
    have the editor format before it saves: see docs/editors.md";

/// What is known of how the client saves.
#[derive(Default)]
pub(super) struct Saves {
    /// Whether it is offered to ask.
    pub offered: bool,
    /// Requests on save that have no answer yet.
    asked: HashSet<RequestId>,
    /// By text, as sums: what it was when the last edits were answered, and what they make of it.
    answered: HashMap<Address, (u64, u64)>,
}

impl Saves {
    /// What is offered to a client: an option decides, else what is known of it. One that does not
    /// say what it is may be any.
    pub fn offer(&mut self, wish: Option<bool>, client: Option<&ClientInfo>) {
        let is_known = client.is_some_and(|client| !EARLY.contains(&client.name.as_str()));
        self.offered = wish.unwrap_or(is_known);
    }

    pub fn begin(&mut self, id: &RequestId) {
        self.asked.insert(id.clone());
    }

    /// Remembers what an answer to a save should make of the text.
    pub fn answered(
        &mut self,
        id: &RequestId,
        uri: Option<&Address>,
        text: Option<&str>,
        value: &Value,
        encoding: Encoding,
    ) {
        let (true, Some(uri), Some(text)) = (self.asked.remove(id), uri, text) else { return };
        let edits: Vec<TextEdit> = serde_json::from_value(value.clone()).unwrap_or_default();
        if edits.is_empty() {
            self.answered.remove(uri);
            return;
        }
        let places = Places::new(text, encoding);
        let in_bytes = |edit: TextEdit| Edit {
            range: places.bytes(edit.range),
            text: edit.new_text,
        };
        let edits: Vec<Edit> = edits.into_iter().map(in_bytes).collect();
        self.answered.insert(uri.clone(), (sum(text), sum(&apply(text, &edits))));
    }

    /// Sees a text that the client has changed.
    pub fn changed(&mut self, uri: &Address, text: &str) {
        if self.answered.get(uri).is_some_and(|(_, after)| *after == sum(text)) {
            self.answered.remove(uri);
        }
    }

    /// Whether a text that is saved, or is about to be, is what the last answer made of it, or what
    /// it was when that was asked for.
    fn holds(&mut self, uri: &Address, text: &str) -> bool {
        let before = self.answered.remove(uri).map(|(before, _)| before);
        before.is_none_or(|before| before == sum(text))
    }

    pub fn closed(&mut self, uri: &Address) {
        self.answered.remove(uri);
    }
}

impl Session {
    /// Looks whether the last edits on save have met their text; if not, there are no more.
    pub(super) fn look_at_saved(&mut self, uri: &Address) {
        let Some(open) = self.texts.get(uri) else { return };
        if !self.saves.holds(uri, &open.text) && self.saves.offered {
            self.saves.offered = false;
            self.writer.send(&shown(MessageType::WARNING, TOLD));
            if let Some(record) = &mut self.record {
                record.add(TOLD);
            }
        }
    }
}

fn sum(text: &str) -> u64 {
    let mut hasher = DefaultHasher::new();
    text.hash(&mut hasher);
    hasher.finish()
}
