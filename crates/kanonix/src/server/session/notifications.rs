//! What a client tells: texts that open, change and close, and what it would rather have.

use super::super::diagnostics::SOURCE;
use super::super::jobs::Trouble;
use super::{BURST, Event, PAUSE, Phase, Session, path_of};
use crate::server::address::Address;
use lsp_server::{ErrorCode, Notification, RequestId};
use lsp_types::*;
use serde_json::{Value, json};
use std::path::PathBuf;
use std::sync::PoisonError;
use std::time::Instant;

impl Session {
    pub(super) fn notification(&mut self, notification: Notification) {
        if self.phase != Phase::Ready {
            return;
        }
        let Notification { method, params } = notification;
        if let Err(error) = self.notified(&method, params) {
            self.say(Trouble::Here(format!("{method}: {error}")), None);
        }
    }

    fn notified(&mut self, method: &str, params: Value) -> Result<(), serde_json::Error> {
        match method {
            "textDocument/didOpen" => {
                let opened: DidOpenTextDocumentParams = serde_json::from_value(params)?;
                let TextDocumentItem { uri, language_id, version, text } = opened.text_document;
                let Some(uri) = Address::parse(uri.as_str()) else { return Ok(()) };
                self.follow(&uri);
                self.texts.open(uri.clone(), language_id, version, text);
                self.due.insert(uri, Instant::now());
            }
            "textDocument/didChange" => {
                let changed: DidChangeTextDocumentParams = serde_json::from_value(params)?;
                let VersionedTextDocumentIdentifier { uri, version } = changed.text_document;
                let Some(uri) = Address::parse(uri.as_str()) else { return Ok(()) };
                self.texts.change(&uri, version, changed.content_changes, self.encoding);
                if let Some(open) = self.texts.get(&uri) {
                    self.saves.changed(&uri, &open.text);
                }
                self.due.insert(uri, Instant::now() + PAUSE);
            }
            "textDocument/didSave" => {
                let saved: DidSaveTextDocumentParams = serde_json::from_value(params)?;
                if let Some(uri) = Address::parse(saved.text_document.uri.as_str()) {
                    self.look_at_saved(&uri);
                    self.due.insert(uri, Instant::now());
                }
            }
            "textDocument/didClose" => {
                let closed: DidCloseTextDocumentParams = serde_json::from_value(params)?;
                let Some(uri) = Address::parse(closed.text_document.uri.as_str()) else {
                    return Ok(())
                };
                self.texts.close(&uri);
                self.saves.closed(&uri);
                self.due.remove(&uri);
                if !self.client.pulls {
                    self.publish(&uri, None, Vec::new());
                }
            }
            "workspace/didChangeWorkspaceFolders" => {
                let changed: DidChangeWorkspaceFoldersParams = serde_json::from_value(params)?;
                let paths = |folders: &[WorkspaceFolder]| -> Vec<PathBuf> {
                    folders.iter().filter_map(|folder| path_of(&folder.uri)).collect()
                };
                let gone = paths(&changed.event.removed);
                self.roots.retain(|root| !gone.contains(root));
                self.roots.extend(paths(&changed.event.added));
                kanonix_repo::git::stand_in(&self.roots);
            }
            "workspace/didChangeConfiguration" => {
                self.wish(params.get("settings"));
                self.all_due = Some(Instant::now());
            }
            "workspace/didChangeWatchedFiles" => self.all_due = Some(Instant::now() + BURST),
            "$/cancelRequest" => {
                let id = match params.get("id") {
                    Some(Value::Number(number)) => number.as_i64().map(|id| (id as i32).into()),
                    Some(Value::String(text)) => Some(RequestId::from(text.clone())),
                    _ => None,
                };
                if let Some(id) = id
                    && let Some(token) = self.pending.remove(&id)
                {
                    if let Some(token) = token {
                        self.progress(&token, json!({ "kind": "end" }));
                    }
                    self.fail(id, ErrorCode::RequestCanceled, "cancelled");
                }
            }
            _ => {}
        }
        Ok(())
    }

    /// Takes over what a client asks for once and for all: under the program's name, or bare.
    pub(super) fn wish(&mut self, settings: Option<&Value>) {
        let Some(settings) = settings else { return };
        let settings = settings.get(SOURCE).unwrap_or(settings);
        if let Some(older) = settings.get("olderSlips").and_then(Value::as_bool) {
            self.wishes.older_slips = older;
        }
        if let Some(without) = settings.get("withoutCanon").and_then(Value::as_str) {
            self.wishes.without_canon = without == "mend";
        }
        if let Some(on_save) = settings.get("mendOnSave").and_then(Value::as_bool) {
            self.wishes.mend_on_save = Some(on_save);
        }
        if let Some(formatting) = settings.get("formatting").and_then(Value::as_str) {
            self.wishes.whole = formatting == "whole";
        }
    }

    fn follow(&self, uri: &Address) {
        let Some(path) = uri.file() else { return };
        let Some(folder) = path.parent().and_then(|folder| std::fs::canonicalize(folder).ok())
        else {
            return;
        };
        // Git is asked beside the thread that holds the texts.
        let (desk, events) = (self.desk.clone(), self.events.clone());
        rayon::spawn(move || {
            let mut desk = desk.lock().unwrap_or_else(PoisonError::into_inner);
            let repository = desk.repository(&folder).unwrap_or(None);
            let _ = events.send(Event::Follow(folder, repository));
        });
    }
}
