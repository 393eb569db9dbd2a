//! `kanonix/status`: why a text is or is not mended, in the words of `kanonix explain`.

use super::jobs::{Office, Trouble};
use super::record::Record;
use super::texts::Snapshot;
use crate::report::story;
use crate::options::Color;
use crate::paint::Paint;
use serde_json::{Value, json};

/// What is known of the server itself.
pub(super) fn of_server(record: &Record) -> Value {
    json!({
        "version": record.version,
        "process": record.process,
        "roots": record.roots,
        "positionEncoding": record.position_encoding,
        "lastErrors": record.last_errors,
    })
}

impl Office {
    /// What is known of a text: as data and in words.
    pub fn status(&self, snapshot: &Snapshot, line: Option<usize>) -> Result<Value, Trouble> {
        let folder = snapshot.path.parent().unwrap_or(&snapshot.path);
        let text = Some(snapshot.text().to_string());
        match crate::service::story::told(
            folder,
            &snapshot.path,
            line,
            text,
            self.wishes.without_canon,
        ) {
            Ok(report) => Ok(json!({
                "length": snapshot.text().len(),
                "version": snapshot.version,
                "file": report,
                "text": story::text(&report, Paint::new(Color::Never)),
            })),
            Err(error) => Err(Trouble::Here(format!("{error:#}"))),
        }
    }
}
