//! `kanonix gate`: where a commit or a merge is stopped.

mod hooks;
mod status;
mod target;

use super::{here, reach_in_words, wishes};
use crate::Status;
use crate::options::{BadOption, Gate, GateCommand, GateMerge, GateReport, Mend};
use crate::report::{self, Frame, MergeStory, count};
use crate::service::judging::{Judgement, Wishes, judge_items};
use crate::say::errln;
use anyhow::bail;
use kanonix_core::text::visible;
use kanonix_repo::git::{Repository, short_name};
use kanonix_repo::work::{CanonOf, JudgedBy, Merge, Reach, WorkError, select, select_merge};
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
            commit(&options.rest)
        }
        GateCommand::Merge(options) => merge(options),
    }
}

/// Judges what a commit would bring in.
fn commit(options: &GateReport) -> anyhow::Result<Status> {
    let begun = Instant::now();
    let selection = select(&here()?, &[], &Reach::Commit)?;
    let judgement = judge_items(&selection, wishes(&options.report, false));
    let headline = headline(&judgement, "that you are committing");
    let is_silent = judgement.is_silent();
    verdict(&Reach::Commit, &judgement, headline, None, options, is_silent)?;
    say_time(begun, options);
    Ok(judgement.status())
}

/// Judges what a merge would bring in.
fn merge(options: &GateMerge) -> anyhow::Result<Status> {
    let begun = Instant::now();
    let here = here()?;
    let repository = Repository::find_any(&here)?.ok_or(WorkError::NoRepository("a merge gate"))?;
    let target = target::target(options.into.as_deref(), &repository)?;
    let canon_of = match options.canon_of.as_str() {
        "branch" => CanonOf::Branch,
        _ => CanonOf::Target,
    };
    let asked = Merge { into: target.revision, canon_of };
    let reach = Reach::Merge(asked.clone());
    let selection = select_merge(&here, repository.clone(), &asked)?;
    let judgement = judge_items(&selection, wishes(&options.rest.report, false));
    let Some(merging) = &selection.merging else { bail!("this merge has no target") };
    // Where the branch changes the canon, what would hold then is worth knowing.
    let own = match merging.judged_by == JudgedBy::Target && !merging.changes.is_empty() {
        true => {
            let own = Merge { canon_of: CanonOf::Branch, ..asked };
            Some(judge_items(&select_merge(&here, repository, &own)?, Wishes::default()))
        }
        false => None,
    };
    let story = MergeStory { merging, because: target.because.as_deref(), own: own.as_ref() };
    let headline = headline(&judgement, &format!("changed since {}", short_name(&merging.into)));
    verdict(&reach, &judgement, headline, Some(&story), &options.rest, false)?;
    say_time(begun, &options.rest);
    Ok(judgement.status())
}

/// The gate's first line, where it stops for lines.
fn headline(judgement: &Judgement, which: &str) -> Option<String> {
    let lines = judgement.lines();
    let verb = if lines == 1 { "departs" } else { "depart" };
    if lines > 0 {
        let lines = count(lines, "line");
        return Some(format!("kanonix: stopped, {lines} {which} {verb} from the canon"));
    }
    let (files, stops) = (judgement.problems.len(), judgement.status() != Status::Clean);
    stops.then(|| match files {
        0 => "kanonix: stopped, for what is said below".into(),
        1 => "kanonix: stopped, a file cannot be judged".into(),
        _ => format!("kanonix: stopped, {files} files cannot be judged"),
    })
}

fn verdict(
    reach: &Reach,
    judgement: &Judgement,
    headline: Option<String>,
    merge: Option<&MergeStory>,
    options: &GateReport,
    is_silent: bool,
) -> anyhow::Result<()> {
    if is_silent && options.report.is_empty() {
        return Ok(());
    }
    let (words, again) = reach_in_words(reach, true);
    // What mends goes by the branch's own canon.
    let mend = match merge.filter(|merge| merge.own.is_some()) {
        Some(merge) => format!(
            "kanonix gate merge --into {} --report patch | git apply",
            visible(short_name(&merge.merging.into))
        ),
        None => format!("kanonix mend{again}"),
    };
    let rest = format!("kanonix check{again}");
    let frame = Frame { reach: &words, headline, mend: &mend, rest: Some(&rest), merge };
    report::write(judgement, &frame, &options.report, &options.voice)
}

fn say_time(begun: Instant, options: &GateReport) {
    if begun.elapsed() > LONG && !options.voice.quiet {
        errln!("kanonix: judged in {:.1} s", begun.elapsed().as_secs_f64());
    }
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
