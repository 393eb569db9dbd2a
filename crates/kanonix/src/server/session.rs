//! One client: its messages in, answers out. The session itself only keeps the texts as the client
//! has them; whatever takes longer is a job beside it.

mod notifications;
mod requests;
mod saving;
mod showing;

use super::follow::Follower;
use super::jobs::{Acting, Office, Trouble, Wishes};
use super::positions::Encoding;
use super::record::Record;
use super::texts::Texts;
use super::transport::{Incoming, Writer};
use crate::service::judging::sheltered;
use crate::server::address::Address;
use kanonix_core::Document;
use kanonix_repo::git::Repository;
use kanonix_repo::work::Desk;
use lsp_server::{ErrorCode, Message, Notification, Request, RequestId, Response};
use lsp_types::*;
use serde_json::{Value, json};
use saving::Saves;
use std::collections::{BTreeSet, HashMap, VecDeque};
use std::path::PathBuf;
use std::sync::{Arc, Mutex, mpsc};
use std::time::{Duration, Instant};

/// After a keystroke, nothing is shown anew for so long.
const PAUSE: Duration = Duration::from_millis(200);

/// So many jobs that can wait are under way at once: one core is left to those that cannot.
const MOST_LEISURELY: usize = 1;

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
    Answer(RequestId, Option<(Address, u64)>, Result<Value, Trouble>),
    /// What a job parsed.
    Parsed(Address, u64, Arc<Document<'static>>),
    /// What is to be shown beside a text's version.
    Found(Address, u64, i32, Result<Vec<Diagnostic>, Trouble>),
    /// A job that could wait is done, and the next one may begin.
    Room,
    /// Something that is wrong, beside an answer.
    Wrong(Trouble),
    /// Edits that somebody asked for by a command.
    Apply(Address, Vec<TextEdit>),
    /// The repository of a folder with an open text, if it is in one.
    Follow(PathBuf, Option<Repository>),
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
    saves: Saves,
    follower: Follower,
    record: Option<Record>,
    /// Requests without an answer yet, each with the token that its progress is told under.
    pending: HashMap<RequestId, Option<ProgressToken>>,
    /// What is asked of texts and can wait: diagnostics that a client pulls.
    waiting: VecDeque<(RequestId, Address)>,
    /// How many jobs are under way that can wait.
    leisurely: usize,
    /// When something has to be shown anew.
    due: HashMap<Address, Instant>,
    all_due: Option<Instant>,
    /// The last thing that was told to a person about all texts, and where it was found.
    told: Option<(String, BTreeSet<Address>)>,
    asked: i32,
}

/// What the client can do.
#[derive(Clone, Copy, Default)]
struct Client {
    pulls: bool,
    refreshes: bool,
    /// When the edits of an action are made.
    acting: Acting,
}

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
            saves: Saves::default(),
            record: None,
            pending: HashMap::new(),
            waiting: VecDeque::new(),
            leisurely: 0,
            due: HashMap::new(),
            all_due: None,
            told: None,
            asked: 0,
        }
    }

    /// Serves until the client goes.
    pub fn serve(mut self, queue: &mpsc::Receiver<Event>) -> End {
        loop {
            // What is due waits until there is room for it.
            let due = self.due.values().filter(|_| self.leisurely < MOST_LEISURELY);
            let next = due.chain(&self.all_due).min().copied();
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
                Event::Room => {
                    self.leisurely -= 1;
                    self.go_on();
                }
                Event::Wrong(trouble) => self.say(trouble, None),
                Event::Apply(uri, edits) => self.apply(&uri, edits),
                Event::Follow(folder, repository) => {
                    self.follower.follow(&folder, repository.as_ref());
                }
                Event::Changed => self.all_due = Some(Instant::now() + BURST),
            }
        }
    }

    fn office(&self) -> Office {
        Office {
            desk: self.desk.clone(),
            events: self.events.clone(),
            encoding: self.encoding,
            wishes: self.wishes,
            acting: self.client.acting,
        }
    }

    fn answer(
        &mut self,
        id: RequestId,
        of: Option<(Address, u64)>,
        result: Result<Value, Trouble>,
    ) {
        // A request that was cancelled has its answer already.
        let Some(token) = self.pending.remove(&id) else { return };
        if let Some(token) = token {
            self.progress(&token, json!({ "kind": "end" }));
        }
        let is_old = of.as_ref().is_some_and(|(uri, stamp)| {
            self.texts.get(uri).is_none_or(|open| open.stamp != *stamp)
        });
        let uri = of.map(|(uri, _)| uri);
        match result {
            Ok(_) if is_old => {
                let message = "the text has changed since";
                self.fail(id, ErrorCode::ContentModified, message);
            }
            Ok(value) => {
                self.is_right(uri.as_ref());
                let open = uri.as_ref().and_then(|uri| self.texts.get(uri));
                let text = open.map(|open| open.text.as_str());
                self.saves.answered(&id, uri.as_ref(), text, &value, self.encoding);
                self.reply(id, value);
            }
            Err(trouble) => {
                self.say(trouble, uri.as_ref());
                self.reply(id, Value::Null);
            }
        }
    }

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
    sheltered(work).unwrap_or_else(|message| Err(Trouble::Here(message)))
}

/// Jobs that cannot wait have a thread for themselves, also where there is one core.
pub(crate) const FEWEST_THREADS: usize = 2;

fn shown(typ: MessageType, message: &str) -> Message {
    let params = ShowMessageParams { typ, message: message.into() };
    Notification::new("window/showMessage".into(), json!(params)).into()
}

fn path_of(uri: &Uri) -> Option<PathBuf> {
    let path = Address::parse(uri.as_str())?.file()?;
    // Without a slash at its end.
    Some(path.components().collect())
}
