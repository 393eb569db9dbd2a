//! One client: its messages in, answers out. The session itself only keeps the texts as the client
//! has them; whatever takes longer is a job beside it.

use super::actions::{EXPLAIN, KINDS, MEND};
use super::diagnostics::SOURCE;
use super::follow::Follower;
use super::jobs::{Office, TYPED, Trouble, Wishes};
use super::positions::Encoding;
use super::record::Record;
use super::status::of_server;
use super::texts::{Snapshot, Texts};
use super::transport::{Incoming, Writer};
use kanonix_core::Document;
use kanonix_repo::work::{Desk, Reach};
use lsp_server::{ErrorCode, Message, Notification, Request, RequestId, Response};
use lsp_types::*;
use serde::Deserialize;
use serde_json::{Value, json};
use std::collections::HashMap;
use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError, mpsc};
use std::time::{Duration, Instant};
use url::Url;

/// After a keystroke, nothing is shown anew for so long.
const PAUSE: Duration = Duration::from_millis(200);

/// Changes of git or of a canon come in bursts.
const BURST: Duration = Duration::from_millis(60);

/// What a session waits for.
pub(crate) enum Event {
    Incoming(Incoming),
    /// The input has ended, cleanly or not.
    Ended(Option<String>),
    /// Nothing can be written any more.
    Closed,
    /// A job has an answer, of a text at a stamp if it is one of edits.
    Answer(RequestId, Option<(Url, u64)>, Result<Value, Trouble>),
    /// What a job parsed.
    Parsed(Url, u64, Arc<Document<'static>>),
    /// What is to be shown beside a text's version.
    Found(Url, u64, i32, Result<Vec<Diagnostic>, Trouble>),
    /// Something that is wrong, beside an answer.
    Wrong(Trouble),
    /// Edits that somebody asked for by a command.
    Apply(Url, Vec<TextEdit>),
    /// The last commit, the index or a canon has changed.
    Changed,
}

/// How far the client has come.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Phase {
    New,
    Ready,
    Down,
}

/// How a session ended.
pub(super) enum End {
    /// As the protocol has it.
    Announced,
    /// Without a word from the client.
    Unannounced(Option<String>),
}

pub(super) struct Session {
    events: mpsc::Sender<Event>,
    writer: Writer,
    phase: Phase,
    texts: Texts,
    roots: Vec<PathBuf>,
    desk: Arc<Mutex<Desk>>,
    encoding: Encoding,
    wishes: Wishes,
    client: Client,
    follower: Follower,
    record: Option<Record>,
    /// Requests without an answer yet, each with the token that its progress is told under.
    pending: HashMap<RequestId, Option<ProgressToken>>,
    /// When something has to be shown anew.
    due: HashMap<Url, Instant>,
    all_due: Option<Instant>,
    /// The last thing that was told to a person about all texts.
    told: Option<String>,
    asked: i32,
}

/// What the client can do.
#[derive(Clone, Copy, Default)]
struct Client {
    pulls: bool,
    refreshes: bool,
}

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
    pub fn new(events: mpsc::Sender<Event>, writer: Writer) -> Session {
        Session {
            writer,
            follower: Follower::new(events.clone()),
            events,
            phase: Phase::New,
            texts: Texts::default(),
            roots: Vec::new(),
            desk: Arc::default(),
            encoding: Encoding::Utf16,
            wishes: Wishes::default(),
            client: Client::default(),
            record: None,
            pending: HashMap::new(),
            due: HashMap::new(),
            all_due: None,
            told: None,
            asked: 0,
        }
    }

    /// Serves until the client goes.
    pub fn serve(mut self, queue: &mpsc::Receiver<Event>) -> End {
        loop {
            let next = self.due.values().chain(&self.all_due).min().copied();
            let event = match next {
                Some(due) => {
                    match queue.recv_timeout(due.saturating_duration_since(Instant::now())) {
                        Ok(event) => event,
                        Err(mpsc::RecvTimeoutError::Timeout) => {
                            self.show_what_is_due();
                            continue;
                        }
                        Err(_) => return End::Unannounced(None),
                    }
                }
                None => match queue.recv() {
                    Ok(event) => event,
                    Err(_) => return End::Unannounced(None),
                },
            };
            match event {
                Event::Incoming(Incoming::Message(Message::Request(request))) => {
                    self.request(request);
                }
                Event::Incoming(Incoming::Message(Message::Notification(notification))) => {
                    if notification.method == "exit" {
                        return match self.phase {
                            Phase::Down => End::Announced,
                            _ => End::Unannounced(None),
                        };
                    }
                    self.notification(notification);
                }
                // Nothing is asked of a client whose answer is needed.
                Event::Incoming(Incoming::Message(Message::Response(_))) => {}
                Event::Incoming(Incoming::Nonsense(why)) => {
                    self.writer.send_value(json!({
                        "id": null,
                        "error": { "code": ErrorCode::ParseError as i32, "message": why },
                    }));
                }
                Event::Ended(why) => return End::Unannounced(why),
                Event::Closed => return End::Unannounced(None),
                Event::Answer(id, of, result) => self.answer(id, of, result),
                Event::Parsed(uri, stamp, document) => self.texts.parsed(&uri, stamp, document),
                Event::Found(uri, stamp, version, found) => self.found(uri, stamp, version, found),
                Event::Wrong(trouble) => self.say(trouble),
                Event::Apply(uri, edits) => self.apply(&uri, edits),
                Event::Changed => self.all_due = Some(Instant::now() + BURST),
            }
        }
    }

    // ---- requests ----------------------------------------------------------------------------

    fn request(&mut self, request: Request) {
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
                self.job(id, &asked.text_document, None, false, |office, text| {
                    let items = office.diagnostics(text).unwrap_or_else(|trouble| {
                        let _ = office.events.send(Event::Wrong(trouble));
                        Vec::new()
                    });
                    Ok(json!({ "kind": "full", "items": items }))
                });
            }
            "textDocument/codeAction" => {
                let asked: CodeActionParams = serde_json::from_value(params)?;
                let text_document = asked.text_document.clone();
                self.job(id, &text_document, None, true, move |office, text| {
                    Ok(json!(office.actions(text, &asked)?))
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
        match asked.command.as_str() {
            MEND => {
                let reach = match argument.as_str() {
                    Some("whole") => Reach::Whole,
                    _ => Reach::Save,
                };
                let token = asked.work_done_progress_params.work_done_token;
                self.job(id, &text_document, token, true, move |office, text| {
                    let edits = office.mend(text, &reach)?;
                    if !edits.is_empty() {
                        let _ = office.events.send(Event::Apply(text.uri.clone(), edits));
                    }
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
        let uri = Url::parse(text.uri.as_str()).ok();
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

    fn office(&self) -> Office {
        Office {
            desk: self.desk.clone(),
            events: self.events.clone(),
            encoding: self.encoding,
            wishes: self.wishes,
        }
    }

    fn answer(
        &mut self,
        id: RequestId,
        of: Option<(Url, u64)>,
        result: Result<Value, Trouble>,
    ) {
        // A request that was cancelled has its answer already.
        let Some(token) = self.pending.remove(&id) else { return };
        if let Some(token) = token {
            self.progress(&token, json!({ "kind": "end" }));
        }
        let is_old = of.is_some_and(|(uri, stamp)| {
            self.texts.get(&uri).is_none_or(|open| open.stamp != stamp)
        });
        match result {
            Ok(_) if is_old => {
                let message = "the text has changed since";
                self.fail(id, ErrorCode::ContentModified, message);
            }
            Ok(value) => self.reply(id, value),
            Err(trouble) => {
                self.say(trouble);
                self.reply(id, Value::Null);
            }
        }
    }

    fn initialize(&mut self, request: Request) {
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
        let workspace = asked.capabilities.workspace.as_ref();
        self.client = Client {
            pulls: text.is_some_and(|text| text.diagnostic.is_some()),
            refreshes: workspace
                .and_then(|workspace| workspace.diagnostic.as_ref())
                .and_then(|diagnostic| diagnostic.refresh_support)
                .unwrap_or(false),
        };
        let folders = asked.workspace_folders.unwrap_or_default();
        self.roots = folders.iter().filter_map(|folder| path_of(&folder.uri)).collect();
        #[allow(deprecated, reason = "older clients name one root")]
        if self.roots.is_empty()
            && let Some(root) = asked.root_uri.as_ref().and_then(path_of)
        {
            self.roots.push(root);
        }
        self.wish(asked.initialization_options.as_ref());
        let client = asked.client_info.map_or("unknown".into(), |client| match client.version {
            Some(version) => format!("{} {version}", client.name),
            None => client.name,
        });
        self.record = Some(Record::new(client, self.roots.clone(), self.encoding.as_str()));
        self.phase = Phase::Ready;
        self.reply(request.id, capabilities(self.encoding));
    }

    // ---- notifications -----------------------------------------------------------------------

    fn notification(&mut self, notification: Notification) {
        if self.phase != Phase::Ready {
            return;
        }
        let Notification { method, params } = notification;
        if let Err(error) = self.notified(&method, params) {
            self.say(Trouble::Here(format!("{method}: {error}")));
        }
    }

    fn notified(&mut self, method: &str, params: Value) -> Result<(), serde_json::Error> {
        match method {
            "textDocument/didOpen" => {
                let opened: DidOpenTextDocumentParams = serde_json::from_value(params)?;
                let TextDocumentItem { uri, language_id, version, text } = opened.text_document;
                let Ok(uri) = Url::parse(uri.as_str()) else { return Ok(()) };
                self.follow(&uri);
                self.texts.open(uri.clone(), language_id, version, text);
                self.due.insert(uri, Instant::now());
            }
            "textDocument/didChange" => {
                let changed: DidChangeTextDocumentParams = serde_json::from_value(params)?;
                let VersionedTextDocumentIdentifier { uri, version } = changed.text_document;
                let Ok(uri) = Url::parse(uri.as_str()) else { return Ok(()) };
                self.texts.change(&uri, version, changed.content_changes, self.encoding);
                self.due.insert(uri, Instant::now() + PAUSE);
            }
            "textDocument/didSave" => {
                let saved: DidSaveTextDocumentParams = serde_json::from_value(params)?;
                if let Ok(uri) = Url::parse(saved.text_document.uri.as_str()) {
                    self.due.insert(uri, Instant::now());
                }
            }
            "textDocument/didClose" => {
                let closed: DidCloseTextDocumentParams = serde_json::from_value(params)?;
                let Ok(uri) = Url::parse(closed.text_document.uri.as_str()) else { return Ok(()) };
                self.texts.close(&uri);
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
    fn wish(&mut self, settings: Option<&Value>) {
        let Some(settings) = settings else { return };
        let settings = settings.get(SOURCE).unwrap_or(settings);
        if let Some(older) = settings.get("olderSlips").and_then(Value::as_bool) {
            self.wishes.older_slips = older;
        }
        if let Some(formatting) = settings.get("formatting").and_then(Value::as_str) {
            self.wishes.whole = formatting == "whole";
        }
    }

    fn follow(&mut self, uri: &Url) {
        let Ok(path) = uri.to_file_path() else { return };
        let Some(folder) = path.parent().and_then(|folder| std::fs::canonicalize(folder).ok())
        else {
            return;
        };
        let mut desk = self.desk.lock().unwrap_or_else(PoisonError::into_inner);
        let repository = desk.repository(&folder).unwrap_or(None);
        self.follower.follow(&folder, repository.as_ref());
    }

    // ---- showing -----------------------------------------------------------------------------

    fn show_what_is_due(&mut self) {
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

    fn found(
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
            Ok(diagnostics) => self.publish(&uri, Some(version), diagnostics),
            Err(trouble) => {
                self.say(trouble);
                self.publish(&uri, Some(version), Vec::new());
            }
        }
    }

    fn publish(&mut self, uri: &Url, version: Option<i32>, diagnostics: Vec<Diagnostic>) {
        let Ok(uri) = uri.as_str().parse() else { return };
        let params = PublishDiagnosticsParams { uri, diagnostics, version };
        self.notify("textDocument/publishDiagnostics", json!(params));
    }

    /// Says what is wrong. What concerns all texts is told to a person once, until it changes.
    fn say(&mut self, trouble: Trouble) {
        let message = match trouble {
            Trouble::Everywhere(message) => {
                if self.told.as_ref() != Some(&message) {
                    self.writer.send(&shown(MessageType::ERROR, &message));
                    self.told = Some(message.clone());
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

    fn apply(&mut self, uri: &Url, edits: Vec<TextEdit>) {
        let changes = json!({ uri.as_str(): edits });
        self.ask("workspace/applyEdit", json!({ "edit": { "changes": changes } }));
    }

    // ---- writing -----------------------------------------------------------------------------

    fn reply(&self, id: RequestId, value: Value) {
        self.writer.send(&Response::new_ok(id, value).into());
    }

    fn fail(&self, id: RequestId, code: ErrorCode, message: &str) {
        self.writer.send(&Response::new_err(id, code as i32, message.into()).into());
    }

    fn notify(&self, method: &str, params: Value) {
        self.writer.send(&Notification::new(method.into(), params).into());
    }

    fn ask(&mut self, method: &str, params: Value) {
        self.asked += 1;
        let id = RequestId::from(format!("kanonix-{}", self.asked));
        self.writer.send(&Request::new(id, method.into(), params).into());
    }

    fn progress(&self, token: &ProgressToken, value: Value) {
        self.notify("$/progress", json!({ "token": token, "value": value }));
    }
}

/// Does some work; a fault of Kanonix in it costs its answer and nothing else.
fn guarded<T>(work: impl FnOnce() -> Result<T, Trouble>) -> Result<T, Trouble> {
    let done = std::panic::catch_unwind(std::panic::AssertUnwindSafe(work));
    done.unwrap_or_else(|_| {
        let message = "this is a fault of Kanonix: please report it with the text and its canon";
        Err(Trouble::Here(message.into()))
    })
}

fn shown(typ: MessageType, message: &str) -> Message {
    let params = ShowMessageParams { typ, message: message.into() };
    Notification::new("window/showMessage".into(), json!(params)).into()
}

/// The lines of a range; one that ends before a line's first character ends with the line before.
fn lines_of(range: &Range) -> std::ops::Range<usize> {
    let (start, end) = (range.start.min(range.end), range.start.max(range.end));
    let first = start.line as usize;
    let whole_lines = end.character == 0 && end.line > start.line;
    first..(end.line as usize + usize::from(!whole_lines)).max(first + 1)
}

fn path_of(uri: &Uri) -> Option<PathBuf> {
    let path = Url::parse(uri.as_str()).ok()?.to_file_path().ok()?;
    // Without a slash at its end.
    Some(path.components().collect())
}

fn capabilities(encoding: Encoding) -> Value {
    json!({
        "capabilities": {
            "positionEncoding": encoding.as_str(),
            "textDocumentSync": {
                "openClose": true,
                "change": TextDocumentSyncKind::INCREMENTAL,
                "willSaveWaitUntil": true,
                "save": true,
            },
            "documentFormattingProvider": { "workDoneProgress": true },
            "documentRangeFormattingProvider": { "workDoneProgress": true, "rangesSupport": true },
            "documentOnTypeFormattingProvider": {
                "firstTriggerCharacter": TYPED[0],
                "moreTriggerCharacter": &TYPED[1..],
            },
            "codeActionProvider": { "codeActionKinds": KINDS },
            "executeCommandProvider": { "commands": [MEND, EXPLAIN], "workDoneProgress": true },
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
