//! What is shown beside the lines of an open text.

use super::jobs::{Opened, Office, Trouble};
use super::positions::Places;
use super::texts::Snapshot;
use crate::service::places::UNREAD;
use crate::server::address::Address;
use kanonix_core::style::entry;
use kanonix_core::text::LineSet;
use kanonix_core::{Outcome, Slip};
use lsp_types::{CodeDescription, Diagnostic, DiagnosticSeverity, NumberOrString};
use std::path::PathBuf;
use std::sync::OnceLock;

/// Who says so.
pub(super) const SOURCE: &str = "kanonix";

/// What the settings mean, for the links to lead to.
const SETTINGS: &str = include_str!("../../../../docs/settings.md");

impl Office {
    /// The slips and faults of a text.
    pub fn diagnostics(&self, snapshot: &Snapshot) -> Result<Vec<Diagnostic>, Trouble> {
        // What is found for an outdated text is shown to nobody.
        if snapshot.is_outdated() {
            return Ok(Vec::new());
        }
        let Some(case) = self.case(snapshot, &self.saved())? else { return Ok(Vec::new()) };
        if snapshot.is_outdated() {
            return Ok(Vec::new());
        }
        let outcome = case.judge();
        let text = case.document.text();
        let places = Places::new(text, self.encoding);
        let mut found: Vec<Diagnostic> =
            outcome.slips.iter().map(|slip| of_slip(&places, slip, false)).collect();
        if self.wishes.older_slips {
            let all = case.document.judge(&case.item.style, &LineSet::whole());
            let older = all.slips.iter().filter(|slip| !outcome.slips.contains(slip));
            found.extend(older.map(|slip| of_slip(&places, slip, true)));
        }
        found.extend(faults(&case, &outcome, &places));
        Ok(found)
    }
}

/// A slip as the protocol has it.
pub(super) fn of_slip(places: &Places, slip: &Slip, older: bool) -> Diagnostic {
    let entry = entry(slip.setting);
    let age = if older { " (older)" } else { "" };
    Diagnostic {
        range: places.range(slip.offset..slip.offset + slip.length),
        severity: Some(DiagnosticSeverity::HINT),
        code: Some(NumberOrString::String(entry.name.into())),
        code_description: documentation(entry.name),
        source: Some(SOURCE.into()),
        message: format!("{}{age}\n{}: {}", slip.message, entry.name, entry.about),
        ..Diagnostic::default()
    }
}

/// The stretches that do not parse, as far as they concern lines in play.
fn faults(case: &Opened, outcome: &Outcome, places: &Places) -> Vec<Diagnostic> {
    let text = case.document.text();
    let set = case.play.lines(text);
    let lines = kanonix_core::text::Lines::new(text);
    let in_play = |fault: &&std::ops::Range<usize>| {
        let last = lines.line_of(fault.end.max(fault.start + 1) - 1);
        set.touches(lines.line_of(fault.start)..last + 1)
    };
    let as_said = |fault: &std::ops::Range<usize>| Diagnostic {
        range: places.range(fault.clone()),
        severity: Some(DiagnosticSeverity::WARNING),
        code: Some(NumberOrString::String("fault".into())),
        source: Some(SOURCE.into()),
        message: UNREAD.into(),
        ..Diagnostic::default()
    };
    let unjudged = outcome.unjudged.map(|why| Diagnostic {
        message: why.to_string(),
        ..as_said(&(0..0))
    });
    outcome.faults.iter().filter(in_play).map(as_said).chain(unjudged).collect()
}

/// A link to what a setting means, in a file that stands where programs keep such things.
fn documentation(setting: &str) -> Option<CodeDescription> {
    static WRITTEN: OnceLock<Option<PathBuf>> = OnceLock::new();
    let file = WRITTEN.get_or_init(|| {
        let folder = kanonix_repo::state_folder().join("kanonix");
        let path = folder.join("settings.md");
        if std::fs::read_to_string(&path).ok().as_deref() != Some(SETTINGS) {
            std::fs::create_dir_all(&folder).ok()?;
            std::fs::write(&path, SETTINGS).ok()?;
        }
        Some(path)
    });
    let link = Address::of_file(file.as_ref()?, Some(setting))?;
    Some(CodeDescription { href: link.as_str().parse().ok()? })
}
