//! The commands, one file each.

pub(crate) mod check;
pub(crate) mod explain;
pub(crate) mod gate;
pub(crate) mod help;
pub(crate) mod mend;
pub(crate) mod settle;
pub(crate) mod tour;
pub(crate) mod undo;
pub(crate) mod watch;

use crate::Status;
use crate::options::{ReportKind, ReportOption, Voice};
use crate::service::judging::Wishes;
use crate::say::errln;
use kanonix_core::text::{changed_lines, visible};
use kanonix_repo::git::{Repository, short_name};
use kanonix_repo::undo::{Changing, Store};
use kanonix_repo::work::{Merge, Reach, Selection, shown_from};
use std::path::Path;

/// A reach in a sentence, and the options that ask for it.
pub(crate) fn reach_in_words(reach: &Reach, in_repository: bool) -> (String, String) {
    match reach {
        Reach::Save | Reach::Saved { .. } if in_repository => (
            "on touched lines".into(),
            String::new(),
        ),
        Reach::Save | Reach::Saved { .. } | Reach::Whole => {
            ("on all lines".into(), " --whole".into())
        }
        Reach::Staged | Reach::Commit => ("on staged lines".into(), " --staged".into()),
        Reach::Since(revision) | Reach::Merge(Merge { into: revision, .. }) => {
            let revision = visible(short_name(revision));
            (format!("on lines touched since {revision}"), format!(" --since {revision}"))
        }
        Reach::Lines(ranges) => {
            let said: Vec<String> =
                ranges.iter().map(|range| format!("{}-{}", range.start + 1, range.end)).collect();
            let said = said.join(",");
            (format!("on lines {said}"), format!(" --lines {said}"))
        }
    }
}

/// Says once that what is judged follows nobody's agreement, where that is so.
pub(crate) fn say_if_not_agreed(selection: &Selection, voice: &Voice) {
    if !voice.quiet && selection.items.iter().any(|item| !item.is_agreed) {
        errln!(
            "kanonix: nothing has been agreed here yet (there is no kanonix.toml and no \
             .editorconfig): this goes by what each language's community expects. Propose a canon \
             with: kanonix settle"
        );
    }
}

/// What the reports that were asked for want to know.
pub(crate) fn wishes(reports: &[ReportOption], older: bool) -> Wishes {
    let wants = |kind| reports.iter().any(|report| report.kind == kind);
    Wishes { older, patches: wants(ReportKind::Patch), sources: wants(ReportKind::Sarif) }
}

/// The current folder.
pub(crate) fn here() -> anyhow::Result<std::path::PathBuf> {
    use anyhow::Context;
    std::env::current_dir().context("there is no current folder")
}

/// Paths as they are written behind a command.
pub(crate) fn as_arguments(paths: &[std::path::PathBuf]) -> String {
    paths.iter().map(|path| format!(" {}", visible(&path.display().to_string()))).collect()
}

/// Replaces a file below a root that is there, and keeps what it was for `kanonix undo`.
pub(crate) fn replace_kept(root: &Path, path: &Path, old: &str, new: &str) -> anyhow::Result<()> {
    let path = kanonix_repo::system::files::inside(root, path)?;
    let folder = path.parent().unwrap_or(root);
    let repository = Repository::find(folder).unwrap_or(None);
    let store = Store::of(repository.as_ref());
    let _held = store.hold()?;
    let change = Changing {
        path: path.clone(),
        file: Some((old.into(), new.into())),
        index: None,
        lines: changed_lines(old, new),
    };
    let writing = store.keep(&as_typed(), &[change])?;
    let written =
        kanonix_repo::write::replace(&path, old.as_bytes(), new.as_bytes(), writing.temporary(0));
    writing.done()?;
    Ok(written?)
}

/// Takes back what a run has changed that was cut short, and says so; how that went, if there was
/// one.
pub(crate) fn take_back(store: &Store, here: &Path) -> anyhow::Result<Option<Status>> {
    let Some(back) = store.take_back()? else { return Ok(None) };
    let files = crate::report::count(back.files.len(), "file");
    errln!("kanonix: an earlier run was cut short; {files} it had begun are as before");
    for (path, reason) in &back.refused {
        errln!("kanonix: {}: {}", visible(&shown_from(here, path)), visible(reason));
    }
    Ok(Some(undo::status(&back)))
}

/// The command, as somebody typed it.
pub(crate) fn as_typed() -> String {
    let words: Vec<String> = std::env::args().skip(1).collect();
    format!("kanonix {}", words.join(" "))
}
