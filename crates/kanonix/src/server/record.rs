//! What a server leaves behind for a person who asks why nothing happens: who it serves, and what
//! went wrong last.

use serde::{Deserialize, Serialize};
use std::path::{Path, PathBuf};
use std::time::{Duration, SystemTime, UNIX_EPOCH};

/// So many errors are remembered.
const MOST_ERRORS: usize = 20;

/// Records older than this are of no use.
const EXPIRES: Duration = Duration::from_secs(7 * 24 * 60 * 60);

/// Something that went wrong.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub(crate) struct Wrong {
    /// In seconds since 1970.
    pub when: u64,
    pub message: String,
}

/// One server.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub(crate) struct Record {
    pub process: u32,
    pub version: String,
    /// In seconds since 1970.
    pub since: u64,
    /// What the client calls itself.
    pub client: String,
    pub roots: Vec<PathBuf>,
    pub position_encoding: String,
    pub last_errors: Vec<Wrong>,
}

impl Record {
    pub fn new(client: String, roots: Vec<PathBuf>, position_encoding: &str) -> Record {
        let record = Record {
            process: std::process::id(),
            version: env!("CARGO_PKG_VERSION").into(),
            since: now(),
            client,
            roots,
            position_encoding: position_encoding.into(),
            last_errors: Vec::new(),
        };
        sweep(&folder());
        record.write();
        record
    }

    /// Remembers an error; the same one twice in a row counts once.
    pub fn add(&mut self, message: &str) {
        if self.last_errors.last().is_some_and(|last| last.message == message) {
            return;
        }
        self.last_errors.push(Wrong { when: now(), message: message.into() });
        let surplus = self.last_errors.len().saturating_sub(MOST_ERRORS);
        self.last_errors.drain(..surplus);
        self.write();
    }

    /// Whether the server still runs, where the system can be asked.
    pub fn runs(&self) -> bool {
        Path::new(&format!("/proc/{}", self.process)).exists()
    }

    fn write(&self) {
        let folder = folder();
        let path = folder.join(format!("{}.json", self.process));
        let written = serde_json::to_string(self).map(|text| {
            std::fs::create_dir_all(&folder).and_then(|()| std::fs::write(&path, text))
        });
        // A record is a convenience: without one the server works all the same.
        let _ = written;
    }
}

/// Every record that is there, the newest server first.
pub(crate) fn records() -> Vec<Record> {
    let Ok(entries) = std::fs::read_dir(folder()) else { return Vec::new() };
    let mut records: Vec<Record> =
        entries.flatten().filter_map(|entry| read(entry.path())).collect();
    records.sort_by_key(|record| std::cmp::Reverse((record.since, record.process)));
    records
}

fn read(path: PathBuf) -> Option<Record> {
    serde_json::from_str(&std::fs::read_to_string(path).ok()?).ok()
}

fn folder() -> PathBuf {
    kanonix_repo::state_folder().join("kanonix/editors")
}

fn sweep(folder: &Path) {
    let Ok(entries) = std::fs::read_dir(folder) else { return };
    for entry in entries.flatten() {
        let age = entry.metadata().ok().and_then(|file| file.modified().ok()?.elapsed().ok());
        // Its name alone does not make it one of ours.
        let is_record = || read(entry.path()).is_some();
        if age.is_some_and(|age| age > EXPIRES) && is_record() {
            let _ = std::fs::remove_file(entry.path());
        }
    }
}

fn now() -> u64 {
    SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |since| since.as_secs())
}
