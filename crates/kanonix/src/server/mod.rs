//! `kanonix lsp`: a server of the Language Server Protocol 3.17 on the standard input and output.

mod actions;
mod address;
mod diagnostics;
mod follow;
mod jobs;
mod positions;
pub(crate) mod record;
mod session;
mod status;
mod texts;
mod transport;

use crate::Status;
use crate::say::errln;
pub(crate) use session::FEWEST_THREADS;
use session::{End, Event, Session};
use std::io::BufReader;
use std::sync::mpsc;
use transport::Writer;

/// Serves one client until it goes. As the protocol has it, an end that nobody announced is an
/// exit status of 1.
pub(crate) fn run() -> anyhow::Result<Status> {
    let (events, queue) = mpsc::channel();
    let incoming = events.clone();
    std::thread::spawn(move || {
        let mut input = BufReader::new(std::io::stdin());
        loop {
            let event = match transport::read(&mut input) {
                Ok(Some(incoming)) => Event::Incoming(incoming),
                Ok(None) => Event::Ended(None),
                Err(why) => Event::Ended(Some(why)),
            };
            let is_last = matches!(event, Event::Ended(_));
            if incoming.send(event).is_err() || is_last {
                return;
            }
        }
    });
    let closed = events.clone();
    let (writer, writing) = Writer::new(move || {
        let _ = closed.send(Event::Closed);
    });
    let end = Session::new(events, writer.clone()).serve(&queue);
    writer.end();
    writing.wait();
    match end {
        End::Announced => Ok(Status::Clean),
        End::Unannounced(why) => {
            if let Some(why) = why {
                errln!("kanonix lsp: the client cannot be understood any more: {why}");
            }
            Ok(Status::Slips)
        }
    }
}
