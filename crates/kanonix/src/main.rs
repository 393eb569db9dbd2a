//! The program: one file a command, each with the same three steps: read the options, ask the core
//! or the repository, say the result.

mod commands;
mod options;
mod paint;
mod report;
mod say;
mod server;
mod service;

use crate::say::errln;
use clap::Parser;
use kanonix_core::text::visible_lines;
use kanonix_repo::git::{self, GitError};
use kanonix_repo::work::WorkError;
use options::{Command, Options};
use std::process::ExitCode;

/// How a run ends: the exit status.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Status {
    /// Nothing to say.
    Clean = 0,
    /// Slips.
    Slips = 1,
    /// The command or the canon is wrong.
    Wrong = 2,
    /// Something could not be read, proved or written; the rest was done.
    Incomplete = 3,
}

impl From<Status> for ExitCode {
    fn from(status: Status) -> ExitCode {
        ExitCode::from(status as u8)
    }
}

/// Files are judged by recursion-free code, but a parser's own stack grows with what it reads.
const WORKER_STACK: usize = 16 * 1024 * 1024;

/// A message in which paths below the current folder are said from there.
pub(crate) fn from_here(message: &str) -> String {
    match std::env::current_dir() {
        Ok(here) => message.replace(&format!("{}/", here.display()), ""),
        Err(_) => message.to_string(),
    }
}

/// How a run ends that this error has stopped. A name that leads nowhere is the command's mistake;
/// what is there and cannot be read is not.
fn status_of(error: &anyhow::Error) -> Status {
    let git = match error.downcast_ref::<WorkError>() {
        Some(WorkError::Git(git)) => Some(git),
        Some(_) => return Status::Wrong,
        None => error.downcast_ref::<GitError>(),
    };
    let is_wrong = match git {
        Some(git) => !git.is_unread(),
        None => error.downcast_ref::<options::BadOption>().is_some(),
    };
    if is_wrong { Status::Wrong } else { Status::Incomplete }
}

/// Starts the threads that files are judged on; whether they could be started.
fn threads(options: &Options) -> bool {
    let cores = std::thread::available_parallelism().map_or(1, usize::from);
    let fewest = match options.command {
        Some(Command::Lsp(_)) => server::FEWEST_THREADS,
        _ => 1,
    };
    let pool = rayon::ThreadPoolBuilder::new().stack_size(WORKER_STACK);
    pool.num_threads(cores.max(fewest)).build_global().is_ok()
}

fn main() -> ExitCode {
    let options = Options::parse();
    if !threads(&options) {
        errln!("kanonix: no threads can be started: the system has no memory for them");
        return Status::Incomplete.into();
    }
    if options.command.as_ref().is_some_and(Command::may_be_told) {
        git::may_be_told();
    }
    let outcome = match options.command {
        None => commands::help::run(None),
        Some(Command::Help(options)) => commands::help::run(options.command.as_deref()),
        Some(Command::Settle(options)) => commands::settle::run(&options),
        Some(Command::Check(options)) => commands::check::run(&options),
        Some(Command::Mend(options)) => commands::mend::run(&options),
        Some(Command::Undo(options)) => commands::undo::run(&options),
        Some(Command::Explain(options)) => commands::explain::run(&options),
        Some(Command::Watch(options)) => commands::watch::run(&options),
        Some(Command::Lsp(_)) => server::run(),
        Some(Command::Gate(options)) => commands::gate::run(&options),
        Some(Command::Tour(options)) => commands::tour::run(&options),
    };
    match outcome {
        Ok(status) => status.into(),
        Err(error) => {
            errln!("kanonix: {}", visible_lines(&from_here(&format!("{error:#}"))));
            status_of(&error).into()
        }
    }
}
