//! `kanonix gate`: where a commit or a merge is stopped.

mod hooks;
mod status;

use super::{here, reach_in_words};
use crate::Status;
use crate::service::judging::judge_in_play;
use crate::options::{BadOption, Gate, GateCommand, GateReport, Mend};
use crate::report::{self, Frame, count};
use crate::say::errln;
use anyhow::bail;
use kanonix_repo::git::Repository;
use kanonix_repo::work::{Reach, select};
use std::time::{Duration, Instant};

/// A gate that takes no longer says nothing of its time.
const LONG: Duration = Duration::from_secs(1);

pub(crate) fn run(options: &Gate) -> anyhow::Result<Status> {
    match &options.gate {
        GateCommand::Install(options) => hooks::install(options),
        GateCommand::Remove => hooks::remove(),
        GateCommand::Status(options) => status::run(options),
        GateCommand::Commit(options) => {
            if options.mend {
                mend_staged(&options.rest)?;
            }
            judge(&Reach::Commit, &options.rest)
        }
        GateCommand::Merge(options) => judge(&Reach::Merge(options.into.clone()), &options.rest),
    }
}

/// Judges what a commit or a merge would bring in.
fn judge(reach: &Reach, options: &GateReport) -> anyhow::Result<Status> {
    let begun = Instant::now();
    let selection = select(&here()?, &[], reach)?;
    let judgement = judge_in_play(&selection);
    let (words, again) = reach_in_words(reach, true);
    let mend = format!("kanonix mend{again}");
    let rest = format!("kanonix check{again}");
    let lines = judgement.lines();
    let verb = if lines == 1 { "departs" } else { "depart" };
    let headline = (lines > 0).then(|| match reach {
        Reach::Merge(into) => {
            let lines = count(lines, "line");
            format!("kanonix: stopped, {lines} changed since {into} {verb} from the canon")
        }
        _ => {
            let lines = count(lines, "line");
            format!("kanonix: stopped, {lines} that you are committing {verb} from the canon")
        }
    });
    let is_clean = judgement.status() == Status::Clean;
    let frame = Frame { reach: &words, headline, mend: &mend, rest: Some(&rest) };
    if !(is_clean && *reach == Reach::Commit && options.report.is_empty()) {
        report::write(&judgement, &frame, &options.report, &options.voice)?;
    }
    if begun.elapsed() > LONG && !options.voice.quiet {
        errln!("kanonix: judged in {:.1} s", begun.elapsed().as_secs_f64());
    }
    Ok(judgement.status())
}

/// Mends what is staged, for a hook that lets through what is left clean. A commit of named paths
/// has an index of its own, which git throws away: mended there, the next commit would undo it.
fn mend_staged(options: &GateReport) -> anyhow::Result<()> {
    let index = std::env::var_os("GIT_INDEX_FILE").unwrap_or_default();
    let name = std::path::Path::new(&index).file_name().unwrap_or_default().to_string_lossy();
    if name.starts_with("next-index") {
        return Ok(());
    }
    let mut voice = options.voice.clone();
    voice.quiet = true;
    super::mend::run(&Mend::staged(voice)).map(|_| ())
}

fn repository() -> anyhow::Result<Repository> {
    match Repository::find(&here()?)? {
        Some(repository) => Ok(repository),
        None => bail!(BadOption("this is not inside a git repository: a gate needs one".into())),
    }
}
