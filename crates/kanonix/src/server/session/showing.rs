//! What is shown without being asked for: diagnostics, troubles, edits that a command asked for.

use super::super::jobs::{Office, Trouble};
use super::{Event, MOST_LEISURELY, Session, guarded, shown};
use crate::server::address::Address;
use lsp_server::ErrorCode;
use lsp_types::*;
use serde_json::{Value, json};
use std::collections::BTreeSet;
use std::time::Instant;

impl Session {
    pub(super) fn show_what_is_due(&mut self) {
        let now = Instant::now();
        if self.all_due.is_some_and(|due| due <= now) {
            self.all_due = None;
            // What was wrong may be right now, or wrong in another way.
            if self.client.pulls && self.client.refreshes {
                self.ask("workspace/diagnostic/refresh", Value::Null);
            } else {
                self.due.extend(self.texts.all().map(|uri| (uri.clone(), now)));
            }
        }
        if self.client.pulls {
            self.due.retain(|_, due| *due > now);
        }
        self.go_on();
    }

    /// Begins jobs that can wait, as far as there is room: what the client pulls, then what is due to
    /// be shown. A text is copied when its turn comes, as it is then.
    pub(super) fn go_on(&mut self) {
        while self.leisurely < MOST_LEISURELY {
            if let Some((id, uri)) = self.waiting.pop_front() {
                // Cancelled in the meantime, or closed.
                if !self.pending.contains_key(&id) {
                    continue;
                }
                let Some(snapshot) = self.texts.snapshot(&uri, &self.roots) else {
                    self.pending.remove(&id);
                    self.fail(id, ErrorCode::InvalidParams, &format!("{uri} is not open"));
                    continue;
                };
                self.at_leisure(move |office| {
                    let found = guarded(|| office.diagnostics(&snapshot));
                    let items = found.unwrap_or_else(|trouble| {
                        let _ = office.events.send(Event::Wrong(trouble));
                        Vec::new()
                    });
                    let answer = Ok(json!({ "kind": "full", "items": items }));
                    let _ = office.events.send(Event::Answer(id, None, answer));
                });
                continue;
            }
            let now = Instant::now();
            let due = self.due.iter().filter(|(_, due)| **due <= now);
            let Some(uri) = due.min_by_key(|(_, due)| **due).map(|(uri, _)| uri.clone()) else {
                return;
            };
            self.due.remove(&uri);
            let Some(snapshot) = self.texts.snapshot(&uri, &self.roots) else { continue };
            self.at_leisure(move |office| {
                let found = guarded(|| office.diagnostics(&snapshot));
                let (stamp, version) = (snapshot.stamp, snapshot.version);
                let _ = office.events.send(Event::Found(uri, stamp, version, found));
            });
        }
    }

    fn at_leisure(&mut self, work: impl FnOnce(&Office) + Send + 'static) {
        self.leisurely += 1;
        let office = self.office();
        rayon::spawn(move || {
            work(&office);
            let _ = office.events.send(Event::Room);
        });
    }

    pub(super) fn found(
        &mut self,
        uri: Address,
        stamp: u64,
        version: i32,
        found: Result<Vec<Diagnostic>, Trouble>,
    ) {
        if self.texts.get(&uri).is_none_or(|open| open.stamp != stamp) {
            return;
        }
        match found {
            Ok(diagnostics) => {
                self.is_right(Some(&uri));
                self.publish(&uri, Some(version), diagnostics);
            }
            Err(trouble) => {
                self.say(trouble, Some(&uri));
                self.publish(&uri, Some(version), Vec::new());
            }
        }
    }

    pub(super) fn publish(
        &mut self,
        uri: &Address,
        version: Option<i32>,
        diagnostics: Vec<Diagnostic>,
    ) {
        let Ok(uri) = uri.as_str().parse() else { return };
        let params = PublishDiagnosticsParams { uri, diagnostics, version };
        self.notify("textDocument/publishDiagnostics", json!(params));
    }

    /// Says what is wrong, and in which text, if in one. What concerns all texts is told to a
    /// person once, until it changes or is right again.
    pub(super) fn say(&mut self, trouble: Trouble, uri: Option<&Address>) {
        let message = match trouble {
            Trouble::Everywhere(message) => {
                if self.told.as_ref().is_none_or(|(told, _)| *told != message) {
                    self.writer.send(&shown(MessageType::ERROR, &message));
                    self.told = Some((message.clone(), BTreeSet::new()));
                }
                if let Some((_, texts)) = &mut self.told {
                    texts.extend(uri.cloned());
                }
                message
            }
            Trouble::Here(message) => {
                let params = LogMessageParams { typ: MessageType::WARNING, message };
                self.notify("window/logMessage", json!(params));
                params.message
            }
        };
        if let Some(record) = &mut self.record {
            record.add(&message);
        }
    }

    /// Where something was wrong that concerned all texts, it is not any more; should it come
    /// again, it is told again.
    pub(super) fn is_right(&mut self, uri: Option<&Address>) {
        let is_one = |(_, texts): &(String, BTreeSet<Address>)| uri.is_some_and(|u| texts.contains(
            u,
        ));
        if self.told.as_ref().is_some_and(is_one) {
            self.told = None;
        }
    }

    pub(super) fn apply(&mut self, uri: &Address, edits: Vec<TextEdit>) {
        let changes = json!({ uri.as_str(): edits });
        self.ask("workspace/applyEdit", json!({ "edit": { "changes": changes } }));
    }
}
