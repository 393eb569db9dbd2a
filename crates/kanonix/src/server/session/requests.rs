//! What a client asks, and the job that answers each of it.

use super::super::actions::{ACT, Asked, EXPLAIN, KINDS, MEND};
use super::super::diagnostics::SOURCE;
use super::super::jobs::{Acting, Office, TYPED, Trouble};
use super::super::positions::Encoding;
use super::super::record::Record;
use super::super::status::of_server;
use super::super::texts::Snapshot;
use super::{Client, Event, Phase, Session, guarded, path_of, shown};
use crate::server::address::Address;
use kanonix_repo::work::Reach;
use lsp_server::{ErrorCode, Request, RequestId};
use lsp_types::*;
use serde::Deserialize;
use serde_json::{Value, json};

#[derive(Deserialize)]
#[serde(rename_all = "camelCase")]
struct RangesParams {
    text_document: TextDocumentIdentifier,
    ranges: Vec<Range>,
    work_done_token: Option<ProgressToken>,
}

#[derive(Deserialize)]
#[serde(rename_all = "camelCase")]
struct StatusParams {
    text_document: Option<TextDocumentIdentifier>,
    /// Zero-based, as everywhere in the protocol.
    line: Option<usize>,
}

/// A job's work.
type Work = Box<dyn FnOnce(&Office, &Snapshot) -> Result<Value, Trouble> + Send>;

impl Session {
    pub(super) fn request(&mut self, request: Request) {
        let (id, method) = (request.id.clone(), request.method.clone());
        match (self.phase, method.as_str()) {
            (Phase::New, "initialize") => return self.initialize(request),
            (Phase::New, _) => {
                let message = "the first request is `initialize`";
                return self.fail(id, ErrorCode::ServerNotInitialized, message);
            }
            (Phase::Down, _) => {
                let message = "nothing is answered after `shutdown`";
                return self.fail(id, ErrorCode::InvalidRequest, message);
            }
            (Phase::Ready, "initialize") => {
                let message = "`initialize` was asked before";
                return self.fail(id, ErrorCode::InvalidRequest, message);
            }
            (Phase::Ready, _) => {}
        }
        if let Err(why) = self.dispatch(request) {
            self.fail(id, ErrorCode::InvalidParams, &format!("{method}: {why}"));
        }
    }

    fn dispatch(&mut self, request: Request) -> Result<(), serde_json::Error> {
        let Request { id, method, params } = request;
        match method.as_str() {
            "shutdown" => {
                self.phase = Phase::Down;
                self.reply(id, Value::Null);
            }
            "textDocument/willSaveWaitUntil" => {
                let asked: WillSaveTextDocumentParams = serde_json::from_value(params)?;
                let reason = asked.reason;
                if let Some(uri) = Address::parse(asked.text_document.uri.as_str()) {
                    self.look_at_saved(&uri);
                }
                if !self.saves.offered {
                    self.reply(id, Value::Null);
                    return Ok(());
                }
                self.saves.begin(&id);
                self.edits(id, &asked.text_document, None, move |office, text| {
                    office.mend_saved(text, reason)
                });
            }
            "textDocument/formatting" => {
                let asked: DocumentFormattingParams = serde_json::from_value(params)?;
                let reach = if self.wishes.whole { Reach::Whole } else { Reach::Save };
                let token = asked.work_done_progress_params.work_done_token;
                self.edits(id, &asked.text_document, token, move |office, text| {
                    office.mend(text, &reach)
                });
            }
            "textDocument/rangeFormatting" => {
                let asked: DocumentRangeFormattingParams = serde_json::from_value(params)?;
                let token = asked.work_done_progress_params.work_done_token;
                let reach = Reach::Lines(vec![lines_of(&asked.range)]);
                self.edits(id, &asked.text_document, token, move |office, text| {
                    office.mend(text, &reach)
                });
            }
            "textDocument/rangesFormatting" => {
                let asked: RangesParams = serde_json::from_value(params)?;
                let reach = Reach::Lines(asked.ranges.iter().map(lines_of).collect());
                let token = asked.work_done_token;
                self.edits(id, &asked.text_document, token, move |office, text| {
                    office.mend(text, &reach)
                });
            }
            "textDocument/onTypeFormatting" => {
                let asked: DocumentOnTypeFormattingParams = serde_json::from_value(params)?;
                let TextDocumentPositionParams { text_document, position } =
                    asked.text_document_position;
                let typed = asked.ch;
                self.edits(id, &text_document, None, move |office, text| {
                    office.mend_typed(text, position, &typed)
                });
            }
            "textDocument/diagnostic" => {
                let asked: DocumentDiagnosticParams = serde_json::from_value(params)?;
                let uri = asked.text_document.uri.as_str();
                match Address::parse(uri).filter(|uri| self.texts.get(uri).is_some()) {
                    Some(uri) => {
                        self.pending.insert(id.clone(), None);
                        self.waiting.push_back((id, uri));
                        self.go_on();
                    }
                    None => {
                        let message = format!("{uri} is not open");
                        self.fail(id, ErrorCode::InvalidParams, &message);
                    }
                }
            }
            "textDocument/codeAction" => {
                let asked: CodeActionParams = serde_json::from_value(params)?;
                let text_document = asked.text_document.clone();
                self.job(id, &text_document, None, true, move |office, text| {
                    Ok(json!(office.actions(text, &asked)?))
                });
            }
            "codeAction/resolve" => {
                let action: CodeAction = serde_json::from_value(params)?;
                let asked: Asked = serde_json::from_value(action.data.clone().unwrap_or_default())?;
                let Ok(uri) = asked.uri.parse() else {
                    self.fail(id, ErrorCode::InvalidParams, "this is no action of ours");
                    return Ok(());
                };
                self.job(id, &TextDocumentIdentifier { uri }, None, true, move |office, text| {
                    Ok(json!(office.resolve(text, action, &asked)?))
                });
            }
            "workspace/executeCommand" => {
                let asked: ExecuteCommandParams = serde_json::from_value(params)?;
                return self.command(id, asked);
            }
            "kanonix/status" => {
                let asked: StatusParams = serde_json::from_value(params)?;
                let server = self.record.as_ref().map(of_server).unwrap_or_default();
                let Some(text_document) = asked.text_document else {
                    self.reply(id, server);
                    return Ok(());
                };
                self.job(id, &text_document, None, false, move |office, text| {
                    let mut status = office.status(text, asked.line.map(|line| line + 1))?;
                    status["server"] = server;
                    Ok(status)
                });
            }
            other => {
                let message = format!("there is no request `{other}` here");
                self.fail(id, ErrorCode::MethodNotFound, &message);
            }
        }
        Ok(())
    }

    fn command(&mut self, id: RequestId, asked: ExecuteCommandParams) -> serde_json::Result<()> {
        let mut arguments = asked.arguments.into_iter();
        let uri: Uri = serde_json::from_value(arguments.next().unwrap_or_default())?;
        let text_document = TextDocumentIdentifier { uri };
        let argument = arguments.next().unwrap_or_default();
        let token = asked.work_done_progress_params.work_done_token;
        match asked.command.as_str() {
            MEND => {
                let reach = match argument.as_str() {
                    Some("whole") => Reach::Whole,
                    _ => Reach::Save,
                };
                self.job(id, &text_document, token, true, move |office, text| {
                    office.apply(text, office.mend(text, &reach)?);
                    Ok(Value::Null)
                });
            }
            ACT => {
                let asked: Asked = serde_json::from_value(argument)?;
                self.job(id, &text_document, token, true, move |office, text| {
                    office.apply(text, office.edits_for(text, &asked)?);
                    Ok(Value::Null)
                });
            }
            EXPLAIN => {
                let line = argument.as_u64().map(|line| line as usize);
                let writer = self.writer.clone();
                self.job(id, &text_document, None, false, move |office, text| {
                    let said = office.status(text, line)?["text"].take();
                    writer.send(&shown(MessageType::INFO, said.as_str().unwrap_or_default()));
                    Ok(said)
                });
            }
            other => {
                let message = format!("there is no command `{other}` here");
                self.fail(id, ErrorCode::InvalidParams, &message);
            }
        }
        Ok(())
    }

    /// A job whose answer is the edits of a text, which hold for the text as it is now.
    fn edits(
        &mut self,
        id: RequestId,
        text: &TextDocumentIdentifier,
        token: Option<ProgressToken>,
        work: impl FnOnce(&Office, &Snapshot) -> Result<Vec<TextEdit>, Trouble> + Send + 'static,
    ) {
        self.job(id, text, token, true, move |office, text| {
            let edits = work(office, text)?;
            Ok(if edits.is_empty() { Value::Null } else { json!(edits) })
        });
    }

    fn job(
        &mut self,
        id: RequestId,
        text: &TextDocumentIdentifier,
        token: Option<ProgressToken>,
        holds_for_now: bool,
        work: impl FnOnce(&Office, &Snapshot) -> Result<Value, Trouble> + Send + 'static,
    ) {
        let uri = Address::parse(text.uri.as_str());
        let snapshot = uri.as_ref().and_then(|uri| self.texts.snapshot(uri, &self.roots));
        let Some(snapshot) = snapshot else {
            let message = format!("{} is not open", text.uri.as_str());
            return self.fail(id, ErrorCode::InvalidParams, &message);
        };
        if let Some(token) = &token {
            self.progress(token, json!({ "kind": "begin", "title": "Kanonix" }));
        }
        self.pending.insert(id.clone(), token);
        let office = self.office();
        let work: Work = Box::new(work);
        rayon::spawn(move || {
            let of = holds_for_now.then(|| (snapshot.uri.clone(), snapshot.stamp));
            let result = guarded(|| work(&office, &snapshot));
            let _ = office.events.send(Event::Answer(id, of, result));
        });
    }

    fn initialize(&mut self, request: Request) {
        // The protocol says `diagnostics`, the types' package `diagnostic`.
        let place = "/capabilities/workspace/diagnostics/refreshSupport";
        let refreshes = request.params.pointer(place).and_then(Value::as_bool).unwrap_or(false);
        let asked: InitializeParams = match serde_json::from_value(request.params) {
            Ok(asked) => asked,
            Err(error) => {
                let message = format!("initialize: {error}");
                return self.fail(request.id, ErrorCode::InvalidParams, &message);
            }
        };
        let general = asked.capabilities.general.as_ref();
        let offered = general.and_then(|general| general.position_encodings.as_deref());
        self.encoding = Encoding::negotiated(offered);
        let text = asked.capabilities.text_document.as_ref();
        let pulls = text.is_some_and(|text| text.diagnostic.is_some());
        let support = text.and_then(|text| text.code_action.as_ref()?.resolve_support.as_ref());
        let resolves = support.is_some_and(|support| support
            .properties
            .iter()
            .any(|p| p == "edit"));
        let workspace = asked.capabilities.workspace.as_ref();
        let applies = workspace.and_then(|workspace| workspace.apply_edit) == Some(true);
        let acting = match (resolves, applies) {
            (true, _) => Acting::Resolved,
            (false, true) => Acting::Commanded,
            (false, false) => Acting::AtOnce,
        };
        self.client = Client { pulls, refreshes, acting };
        let folders = asked.workspace_folders.unwrap_or_default();
        self.roots = folders.iter().filter_map(|folder| path_of(&folder.uri)).collect();
        #[allow(deprecated, reason = "older clients name one root")]
        if self.roots.is_empty()
            && let Some(root) = asked.root_uri.as_ref().and_then(path_of)
        {
            self.roots.push(root);
        }
        kanonix_repo::git::stand_in(&self.roots);
        self.wish(asked.initialization_options.as_ref());
        self.saves.offer(self.wishes.mend_on_save, asked.client_info.as_ref());
        let client = asked.client_info.map_or("unknown".into(), |client| match client.version {
            Some(version) => format!("{} {version}", client.name),
            None => client.name,
        });
        self.record = Some(Record::new(client, self.roots.clone(), self.encoding.as_str()));
        self.phase = Phase::Ready;
        self.reply(request.id, capabilities(self.encoding, self.saves.offered));
    }
}

/// The lines of a range; one that ends before a line's first character ends with the line before.
fn lines_of(range: &Range) -> std::ops::Range<usize> {
    let (start, end) = (range.start.min(range.end), range.start.max(range.end));
    let first = start.line as usize;
    let whole_lines = end.character == 0 && end.line > start.line;
    first..(end.line as usize + usize::from(!whole_lines)).max(first + 1)
}

fn capabilities(encoding: Encoding, on_save: bool) -> Value {
    json!({
        "capabilities": {
            "positionEncoding": encoding.as_str(),
            "textDocumentSync": {
                "openClose": true,
                "change": TextDocumentSyncKind::INCREMENTAL,
                "willSaveWaitUntil": on_save,
                "save": true,
            },
            "documentFormattingProvider": { "workDoneProgress": true },
            "documentRangeFormattingProvider": { "workDoneProgress": true, "rangesSupport": true },
            "documentOnTypeFormattingProvider": {
                "firstTriggerCharacter": TYPED[0],
                "moreTriggerCharacter": &TYPED[1..],
            },
            "codeActionProvider": { "codeActionKinds": KINDS, "resolveProvider": true },
            "executeCommandProvider": { "commands": [ACT, MEND, EXPLAIN], "workDoneProgress": true },
            "diagnosticProvider": {
                "identifier": SOURCE,
                "interFileDependencies": false,
                "workspaceDiagnostics": false,
            },
            "workspace": {
                "workspaceFolders": { "supported": true, "changeNotifications": true },
            },
        },
        "serverInfo": { "name": SOURCE, "version": env!("CARGO_PKG_VERSION") },
    })
}
