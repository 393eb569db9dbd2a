//! What is shown without being asked for: diagnostics, troubles, edits that a command asked for.

use super::super::jobs::Trouble;
use super::{Event, Session, guarded, shown};
use lsp_types::*;
use serde_json::{Value, json};
use std::collections::BTreeSet;
use std::time::Instant;
use url::Url;

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
        let due: Vec<Url> =
            self.due.iter().filter(|(_, due)| **due <= now).map(|(uri, _)| uri.clone()).collect();
        for uri in due {
            self.due.remove(&uri);
            let Some(snapshot) = self.texts.snapshot(&uri, &self.roots) else { continue };
            if self.client.pulls {
                continue;
            }
            let office = self.office();
            rayon::spawn(move || {
                let found = guarded(|| office.diagnostics(&snapshot));
                let (stamp, version) = (snapshot.stamp, snapshot.version);
                let _ = office.events.send(Event::Found(uri, stamp, version, found));
            });
        }
    }

    pub(super) fn found(
        &mut self,
        uri: Url,
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
        uri: &Url,
        version: Option<i32>,
        diagnostics: Vec<Diagnostic>,
    ) {
        let Ok(uri) = uri.as_str().parse() else { return };
        let params = PublishDiagnosticsParams { uri, diagnostics, version };
        self.notify("textDocument/publishDiagnostics", json!(params));
    }

    /// Says what is wrong, and in which text, if in one. What concerns all texts is told to a
    /// person once, until it changes or is right again.
    pub(super) fn say(&mut self, trouble: Trouble, uri: Option<&Url>) {
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
    pub(super) fn is_right(&mut self, uri: Option<&Url>) {
        let is_one = |(_, texts): &(String, BTreeSet<Url>)| uri.is_some_and(|u| texts.contains(u));
        if self.told.as_ref().is_some_and(is_one) {
            self.told = None;
        }
    }

    pub(super) fn apply(&mut self, uri: &Url, edits: Vec<TextEdit>) {
        let changes = json!({ uri.as_str(): edits });
        self.ask("workspace/applyEdit", json!({ "edit": { "changes": changes } }));
    }
}
