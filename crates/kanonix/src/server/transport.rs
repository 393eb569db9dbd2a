//! Messages on the standard input and output, each behind its header.

use lsp_server::Message;
use std::io::{BufRead, Read, Write};
use std::sync::mpsc;
use std::time::Duration;

/// A header that goes on for longer than this is none.
const LONGEST_HEADER: u64 = 8 * 1024;

/// No message is as large as this.
const LARGEST: u64 = 512 * 1024 * 1024;

/// What came in.
pub(super) enum Incoming {
    Message(Message),
    /// A message that is none, and why; what comes behind it can be read.
    Nonsense(String),
}

/// Reads one message; `None` at the end.
///
/// # Errors
/// What was wrong where nothing behind it can be read any more.
pub(super) fn read(input: &mut impl BufRead) -> Result<Option<Incoming>, String> {
    let mut length: Option<u64> = None;
    let mut header = Vec::new();
    loop {
        header.clear();
        let read = input.by_ref().take(LONGEST_HEADER).read_until(b'\n', &mut header);
        match read.map_err(|error| error.to_string())? {
            0 if length.is_none() => return Ok(None),
            _ if !header.ends_with(b"\r\n") => return Err("a header was cut off".into()),
            2 => break,
            _ => {}
        }
        let line = String::from_utf8_lossy(&header);
        let Some((name, value)) = line.trim_end().split_once(':') else {
            return Err(format!("`{}` is no header of a message", line.trim_end()));
        };
        if name.eq_ignore_ascii_case("content-length") {
            length = value.trim().parse().ok().filter(|length| *length <= LARGEST);
            if length.is_none() {
                return Err(format!("`{}` is no length of a message", value.trim()));
            }
        }
    }
    let Some(length) = length else { return Err("a message has no Content-Length".into()) };
    let mut body = Vec::new();
    let read = input.by_ref().take(length).read_to_end(&mut body);
    if read.map_err(|error| error.to_string())? as u64 != length {
        return Err("a message was cut off".into());
    }
    Ok(Some(match serde_json::from_slice(&body) {
        Ok(message) => Incoming::Message(message),
        Err(error) => Incoming::Nonsense(error.to_string()),
    }))
}

/// Writes messages from a thread of its own, so that a client that does not read holds nobody up.
#[derive(Clone)]
pub(super) struct Writer {
    messages: mpsc::Sender<String>,
}

/// Whether all that was sent is written.
pub(super) struct Writing {
    done: mpsc::Receiver<()>,
}

/// A client that reads nothing is not waited for any longer than this at the end.
const LONGEST_WAIT: Duration = Duration::from_secs(1);

impl Writer {
    /// Calls `closed` if nothing can be written any more.
    pub fn new(closed: impl FnOnce() + Send + 'static) -> (Writer, Writing) {
        let (messages, queue) = mpsc::channel::<String>();
        let (done, is_done) = mpsc::channel();
        std::thread::spawn(move || {
            let mut output = std::io::stdout().lock();
            for body in queue {
                if body.is_empty() {
                    let _ = done.send(());
                    return;
                }
                let written = write!(output, "Content-Length: {}\r\n\r\n{body}", body.len());
                if written.and_then(|()| output.flush()).is_err() {
                    return closed();
                }
            }
        });
        (Writer { messages }, Writing { done: is_done })
    }

    /// Queues a message, which is written as `jsonrpc` 2.0.
    pub fn send(&self, message: &Message) {
        if let Ok(value) = serde_json::to_value(message) {
            self.send_value(value);
        }
    }

    pub fn send_value(&self, mut value: serde_json::Value) {
        value["jsonrpc"] = "2.0".into();
        let _ = self.messages.send(value.to_string());
    }

    /// Nothing is written any more after what was sent.
    pub fn end(&self) {
        let _ = self.messages.send(String::new());
    }
}

impl Writing {
    /// Waits shortly until everything is written.
    pub fn wait(&self) {
        let _ = self.done.recv_timeout(LONGEST_WAIT);
    }
}
