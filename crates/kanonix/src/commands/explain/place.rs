//! `kanonix explain PATH`: why a file, or a line of it, is treated as it is.

use crate::Status;
use crate::options::{BadOption, Explain};
use crate::paint::Paint;
use crate::report::{count, story};
use crate::say::{outln, outpart};
use crate::service::story::told;
use kanonix_core::text::visible;
use kanonix_repo::work;
use std::path::Path;

pub(super) fn run(
    here: &Path,
    path: &Path,
    line: Option<usize>,
    options: &Explain,
) -> anyhow::Result<Status> {
    let mut report = told(here, path, line, None, false)?;
    let folder = std::fs::canonicalize(here).unwrap_or(here.to_path_buf());
    let idle = work::idle_patterns(&here.join(path))?;
    let said = |idle| crate::report::idle(idle, |path| work::shown_from(&folder, path));
    report.idle_patterns = idle.iter().map(said).collect();
    if let (Some(asked), Some(lines)) = (line, report.lines)
        && asked > lines
    {
        let lines = count(lines, "line");
        let message = format!("{} has {lines}: there is no line {asked}", visible(&report.path));
        return Err(BadOption(message).into());
    }
    if options.is_json() {
        outln!("{}", serde_json::to_string_pretty(&report)?);
    } else {
        outpart!("{}", story::text(&report, Paint::new(options.color)));
    }
    Ok(Status::Clean)
}
