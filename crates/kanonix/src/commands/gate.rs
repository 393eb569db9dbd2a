//! `kanonix gate`: where a commit or a merge is stopped.

use super::{here, reach_in_words};
use crate::Status;
use crate::judging::judge_all;
use crate::options::{BadOption, Gate, GateCommand, GateReport};
use crate::report::{self, Frame, count};
use anyhow::{Context, bail};
use kanonix_repo::git::Repository;
use kanonix_repo::work::{Reach, select};
use std::fs;
use std::path::{Path, PathBuf};

/// A hook that we put there says so.
const MARK: &str = "# Put here by: kanonix gate install";

/// Where a hook goes that was there before.
const EARLIER: &str = "pre-commit.before-kanonix";

pub(crate) fn run(options: &Gate) -> anyhow::Result<Status> {
    match &options.gate {
        GateCommand::Install => install(),
        GateCommand::Remove => remove(),
        GateCommand::Status => status(),
        GateCommand::Commit(report) => judge(&Reach::Commit, report),
        GateCommand::Merge(options) => judge(&Reach::Merge(options.into.clone()), &options.rest),
    }
}

/// Judges what a commit or a merge would bring in.
fn judge(reach: &Reach, options: &GateReport) -> anyhow::Result<Status> {
    let selection = select(&here()?, &[], reach)?;
    let judgement = judge_all(&selection);
    let (words, again) = reach_in_words(reach, true);
    let mend = format!("kanonix mend{again}");
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
    let frame = Frame { reach: &words, headline, mend: &mend };
    if !(is_clean && *reach == Reach::Commit && options.report.is_empty()) {
        report::write(&judgement, &frame, &options.report, &options.voice)?;
    }
    Ok(judgement.status())
}

fn repository() -> anyhow::Result<Repository> {
    match Repository::find(&here()?)? {
        Some(repository) => Ok(repository),
        None => bail!(BadOption("this is not inside a git repository: a gate needs one".into())),
    }
}

fn hook_text(program: &Path) -> String {
    // Inside single quotes, a shell reads everything but a single quote as it stands.
    let program = program.display().to_string().replace('\'', "'\\''");
    format!(
        r#"#!/bin/sh
{MARK}
# Taken out again by: kanonix gate remove
earlier="$(dirname "$0")/{EARLIER}"
if [ -x "$earlier" ]; then
    "$earlier" "$@" || exit $?
fi
if command -v kanonix >/dev/null 2>&1; then
    exec kanonix gate commit
fi
if [ -x '{program}' ]; then
    exec '{program}' gate commit
fi
echo "kanonix: the program is not on the path, so this commit cannot be judged." >&2
echo "Install Kanonix, or take the gate out: delete $0" >&2
exit 1
"#
    )
}

fn is_ours(hook: &Path) -> bool {
    fs::read(hook).is_ok_and(|text| String::from_utf8_lossy(&text).contains(MARK))
}

fn install() -> anyhow::Result<Status> {
    let repository = repository()?;
    let folder = repository.hooks()?;
    let hook = folder.join("pre-commit");
    let earlier = folder.join(EARLIER);
    fs::create_dir_all(&folder)
        .with_context(|| format!("the hooks folder {} cannot be made", folder.display()))?;
    let mut kept = earlier.exists();
    if hook.symlink_metadata().is_ok() && !is_ours(&hook) {
        if kept {
            bail!(
                "there are a hook {} and an earlier one {}: put one of them elsewhere first",
                hook.display(),
                earlier.display()
            );
        }
        fs::rename(&hook, &earlier).with_context(|| format!("{} cannot be kept", hook.display()))?;
        kept = true;
    }
    let program = std::env::current_exe().unwrap_or_else(|_| PathBuf::from("kanonix"));
    write_hook(&hook, &hook_text(&program))?;
    println!("the commit gate is in {}", hook.display());
    if kept {
        println!("the hook that was there runs first; it is kept as {}", earlier.display());
    }
    if !folder.starts_with(&repository.root) && !folder.starts_with(&repository.git_dir) {
        println!("this folder is shared: every repository that uses it is judged from now on");
    }
    println!("take it out again with: kanonix gate remove");
    Ok(Status::Clean)
}

fn write_hook(hook: &Path, text: &str) -> anyhow::Result<()> {
    let problem = || format!("the hook {} cannot be written", hook.display());
    fs::write(hook, text).with_context(problem)?;
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        fs::set_permissions(hook, fs::Permissions::from_mode(0o755)).with_context(problem)?;
    }
    Ok(())
}

fn remove() -> anyhow::Result<Status> {
    let folder = repository()?.hooks()?;
    let hook = folder.join("pre-commit");
    if !is_ours(&hook) {
        println!("there is no commit gate in {}", folder.display());
        return Ok(Status::Clean);
    }
    let earlier = folder.join(EARLIER);
    let problem = || format!("the hook {} cannot be taken out", hook.display());
    if earlier.symlink_metadata().is_ok() {
        fs::rename(&earlier, &hook).with_context(problem)?;
        println!("the commit gate is out of {}; the hook from before is back", folder.display());
    } else {
        fs::remove_file(&hook).with_context(problem)?;
        println!("the commit gate is out of {}", folder.display());
    }
    Ok(Status::Clean)
}

fn status() -> anyhow::Result<Status> {
    let folder = repository()?.hooks()?;
    let hook = folder.join("pre-commit");
    match (is_ours(&hook), folder.join(EARLIER).exists()) {
        (true, true) => println!("commit gate: in {}, after the hook from before", hook.display()),
        (true, false) => println!("commit gate: in {}", hook.display()),
        (false, _) => println!("commit gate: not installed; put it in with: kanonix gate install"),
    }
    Ok(Status::Clean)
}
