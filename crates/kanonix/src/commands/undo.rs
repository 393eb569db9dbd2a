//! `kanonix undo`: puts back what the last run changed.

use super::{here, take_back};
use crate::Status;
use crate::options::Undo;
use crate::paint::Paint;
use crate::report::{ago, count};
use crate::say::{errln, outln};
use kanonix_core::text::visible;
use kanonix_repo::git::Repository;
use kanonix_repo::undo::{PutBack, Store};
use kanonix_repo::work::shown_from;

/// So many files of a run are named in the list.
const NAMED: usize = 3;

pub(crate) fn run(options: &Undo) -> anyhow::Result<Status> {
    let here = here()?;
    let store = Store::of(Repository::find(&here).unwrap_or(None).as_ref());
    let paint = Paint::new(options.color);
    if options.list {
        list(&store, &here, paint);
        return Ok(Status::Clean);
    }
    if let Some(status) = take_back(&store, &here)? {
        return Ok(status);
    }
    let Some((run, done)) = store.put_back()? else {
        outln!("there is nothing to put back");
        return Ok(Status::Clean);
    };
    for path in &done.files {
        outln!("{}", paint.strong(&visible(&shown_from(&here, path))));
    }
    let files = count(done.files.len(), "file");
    outln!("{files} as before `{}`, {}", visible(&run.command), ago(run.when));
    for (path, reason) in &done.refused {
        errln!("kanonix: {}: {}", visible(&shown_from(&here, path)), visible(reason));
    }
    Ok(status(&done))
}

/// How it went.
pub(super) fn status(done: &PutBack) -> Status {
    if done.refused.is_empty() { Status::Clean } else { Status::Incomplete }
}

fn list(store: &Store, here: &std::path::Path, paint: Paint) {
    let runs = store.runs();
    if runs.is_empty() {
        outln!("there is nothing to put back");
    }
    for run in runs {
        let (files, lines) = run.size();
        outln!(
            "{:>14}  {}  {} in {}",
            ago(run.when),
            paint.strong(&format!("{:28}", visible(&run.command))),
            count(lines, "line"),
            count(files, "file")
        );
        let paths = run.paths();
        let names: Vec<String> = paths
            .iter()
            .take(NAMED)
            .map(|path| visible(&shown_from(here, path)).into_owned())
            .collect();
        let more = match paths.len().saturating_sub(NAMED) {
            0 => String::new(),
            more => format!(" and {more} more"),
        };
        outln!("{:>14}  {}", "", paint.faint(&format!("{}{more}", names.join(", "))));
    }
}
