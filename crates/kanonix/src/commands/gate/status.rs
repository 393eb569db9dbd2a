//! `kanonix gate status`: what is installed in this clone, and what a commit would meet now.

use super::hooks::{EARLIER, SHARED, is_current, is_gits_own, is_ours, mends, text_of};
use super::repository;
use crate::Status;
use crate::service::judging::{Wishes, judge_items};
use crate::options::GateStatus;
use crate::report::count;
use crate::say::outln;
use kanonix_repo::system::is_program;
use kanonix_repo::git::Repository;
use kanonix_repo::work::{Reach, select};
use serde::Serialize;
use std::path::Path;

/// What is known of the gate in a clone.
#[derive(Serialize)]
struct Report {
    version: u32,
    /// Whether git runs our hook here.
    installed: bool,
    /// Whether it is what this program would put there.
    current: bool,
    /// The file that git runs, or would.
    hook: String,
    /// Whether another hook is in its place.
    other_hook: bool,
    /// Whether a hook from before runs first.
    earlier: bool,
    /// Whether it mends what is staged.
    mends: bool,
    /// The folder that the tree carries for everybody, if it does.
    carried: Option<String>,
    /// `passes`, `stops`, or `mends`.
    commit_now: &'static str,
    /// How many staged lines depart from the canon.
    lines: usize,
}

pub(super) fn run(options: &GateStatus) -> anyhow::Result<Status> {
    let repository = repository()?;
    let report = report(&repository)?;
    match options.report.as_str() {
        "json" => outln!("{}", serde_json::to_string_pretty(&report)?),
        _ => say(&report),
    }
    Ok(if report.installed && report.current { Status::Clean } else { Status::Slips })
}

fn report(repository: &Repository) -> anyhow::Result<Report> {
    let folder = repository.hooks()?;
    let hook = folder.join("pre-commit");
    let text = text_of(&hook).unwrap_or_default();
    let installed = is_ours(&hook) && is_program(&hook);
    let mends = installed && mends(&text);
    // Where a team keeps its hooks is its own choice.
    let tracked = repository.tracked()?.into_iter().filter(|path| path.ends_with("pre-commit"));
    let mut carried = tracked.map(|path| repository.root.join(path)).chain([
        repository.root.join(SHARED).join("pre-commit"),
        hook.clone(),
    ]);
    let carried = carried.find(|hook| {
        let in_tree = hook.starts_with(&repository.root) && !hook.starts_with(&repository.git_dir);
        in_tree && is_ours(hook)
    });
    let carried = carried.as_deref().and_then(Path::parent);
    let inside = |path: &Path| path.strip_prefix(&repository.root).unwrap_or(path).to_path_buf();
    let judgement = judge_items(&select(&repository.root, &[], &Reach::Commit)?, Wishes::default());
    let commit_now = match judgement.status() {
        _ if !installed => "passes",
        Status::Clean => "passes",
        Status::Slips if mends => "mends",
        _ => "stops",
    };
    Ok(Report {
        version: 1,
        installed,
        current: installed && is_current(&text, mends),
        other_hook: !is_ours(&hook) && hook.exists(),
        earlier: installed && folder.join(EARLIER).exists(),
        mends,
        carried: carried.map(|folder| inside(folder).display().to_string()),
        commit_now,
        lines: judgement.lines(),
        hook: match is_gits_own(repository, &folder) || folder.starts_with(&repository.root) {
            true => inside(&hook).display().to_string(),
            false => hook.display().to_string(),
        },
    })
}

fn say(report: &Report) {
    let hook = &report.hook;
    let lines = count(report.lines, "line");
    if report.installed {
        let after = if report.earlier { ", after the hook from before" } else { "" };
        outln!("commit gate: in {hook}{after}");
        outln!("does: {}", match report.mends {
            true => "it mends what is staged, and stops what is left",
            false => "it stops",
        });
        outln!("current: {}", if report.current { "yes" } else { "no, install it again" });
    } else if report.other_hook {
        outln!("commit gate: not installed; another hook is in {hook}");
        outln!("put the gate before it with: kanonix gate install");
    } else {
        outln!("commit gate: not installed; put it in with: kanonix gate install");
    }
    if let (false, Some(carried)) = (report.installed, &report.carried) {
        outln!("this repository carries one, which this clone does not use yet:");
        outln!("    git config core.hooksPath {carried}");
    }
    outln!("a commit now: {}", match report.commit_now {
        "mends" => format!("{lines} would be mended first"),
        "stops" if report.lines == 0 => "would be stopped; see kanonix check --staged".into(),
        "stops" => format!("would be stopped, for {lines}; see kanonix check --staged"),
        _ if report.lines > 0 => format!(
            "would go through, with {lines} that depart from the canon"
        ),
        _ => "would go through".into(),
    });
}
