//! The commit gate in a repository's hooks: put in, looked at, taken out.

use super::repository;
use crate::{Status, from_here};
use crate::options::{BadOption, GateInstall};
use crate::say::outln;
use anyhow::{Context, bail};
use kanonix_repo::canon::Canons;
use kanonix_repo::system::files;
use kanonix_repo::git::Repository;
use kanonix_repo::write::{folder_at, put};
use std::fs;
use std::path::{Path, PathBuf};

/// A hook that we put there says so.
const MARK: &str = "# Put here by: kanonix gate install";

/// Where a hook goes that was there before.
pub(super) const EARLIER: &str = "pre-commit.before-kanonix";

/// Where a repository carries its hooks for everyone.
pub(super) const SHARED: &str = ".kanonix/hooks";

/// Whether a hook of ours mends what is staged.
pub(super) fn mends(text: &str) -> bool {
    text.contains(&format!("{MARK} --mend"))
}

/// The hook. It needs a shell, and the program on the path or where it was at installation.
fn hook_text(program: Option<&Path>, options: &GateInstall) -> String {
    let words = if options.mend { "gate commit --mend" } else { "gate commit" };
    let said = if options.mend { " --mend" } else { "" };
    // Inside single quotes, a shell reads everything but a single quote as it stands.
    let own = program.map_or(String::new(), |program| {
        let program = program.display().to_string().replace('\'', "'\\''");
        format!("if [ -x '{program}' ]; then\n    exec '{program}' {words}\nfi\n")
    });
    let (status, what) = match options.pass_without {
        true => (0, "the commit is let through unjudged"),
        false => (1, "this commit cannot be judged"),
    };
    format!(
        r#"#!/bin/sh
{MARK}{said}
# Taken out again by: kanonix gate remove
earlier="$(dirname "$0")/{EARLIER}"
if [ -x "$earlier" ]; then
    "$earlier" "$@" || exit $?
fi
if command -v kanonix >/dev/null 2>&1; then
    exec kanonix {words}
fi
{own}echo "kanonix: the program is not on the path, so {what}." >&2
echo "Install Kanonix, or take the gate out: delete $0" >&2
exit {status}
"#
    )
}

/// A hook is not larger than this, in bytes.
const LARGEST: u64 = 1024 * 1024;

/// A hook's text, if a plain file is there.
pub(super) fn text_of(hook: &Path) -> Option<String> {
    let folder = fs::canonicalize(hook.parent()?).ok()?;
    let bytes = files::read(&folder.join(hook.file_name()?), LARGEST).ok()?;
    Some(String::from_utf8_lossy(&bytes).into_owned())
}

pub(super) fn is_ours(hook: &Path) -> bool {
    text_of(hook).is_some_and(|text| text.contains(MARK))
}

/// The hooks folder, made where it is not there yet. One that is in the tree may not be behind a
/// link, as whoever made the tree chose where that leads.
fn made(repository: &Repository, folder: &Path) -> anyhow::Result<(PathBuf, PathBuf)> {
    let problem = || format!("the hooks folder {} cannot be made", folder.display());
    let is_own = folder.starts_with(&repository.git_dir);
    if let (false, Ok(inside)) = (is_own, folder.strip_prefix(&repository.root)) {
        return Ok((repository.root.clone(), inside.to_path_buf()));
    }
    fs::create_dir_all(folder).with_context(problem)?;
    Ok((fs::canonicalize(folder).with_context(problem)?, PathBuf::new()))
}

/// Whether a hooks folder is git's own, or the one that we carry in the tree.
pub(super) fn is_gits_own(repository: &Repository, hooks: &Path) -> bool {
    // A linked working tree has its folder among those of the one that it is linked to.
    let around = repository.git_dir.parent().filter(|folder| folder.ends_with("worktrees"));
    let common = around.and_then(Path::parent).unwrap_or(&repository.git_dir);
    hooks == common.join("hooks") || hooks == repository.root.join(SHARED)
}

pub(super) fn install(options: &GateInstall) -> anyhow::Result<Status> {
    let repository = repository()?;
    if Canons::on_disk(&repository.root).governing(&repository.root.join("any"))?.is_empty() {
        bail!(BadOption(
            "nothing has been agreed here yet, so there is nothing to stop a commit for: propose a \
             canon with `kanonix settle`, write it with `kanonix settle --write`, and commit it"
            .into()
        ));
    }
    let hooks = repository.hooks()?;
    let beside = options.shared && !is_gits_own(&repository, &hooks);
    if beside && !hooks.starts_with(&repository.root) {
        bail!(BadOption(format!(
            "this clone's hooks are in {} (core.hooksPath), outside of the tree, and a shared gate \
             would switch them off: install it without --shared, or take core.hooksPath away first",
            hooks.display()
        )));
    }
    let folder = match options.shared {
        // A team that keeps hooks in the tree keeps them on.
        true if !beside => repository.root.join(SHARED),
        _ => hooks,
    };
    let hook = folder.join("pre-commit");
    let earlier = folder.join(EARLIER);
    let (base, inside) = made(&repository, &folder)?;
    folder_at(&base, &inside)
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
    // What everybody shares knows nothing of this machine.
    let program = (!options.shared).then_some(program.as_path());
    put(&base, &inside.join("pre-commit"), hook_text(program, options).as_bytes(), 0o755)
        .with_context(|| format!("the hook {} cannot be written", hook.display()))?;
    outln!("the commit gate is in {}", from_here(&hook.display().to_string()));
    if kept {
        outln!(
            "the hook that was there runs first; it is kept as {}",
            from_here(&earlier.display().to_string())
        );
    }
    if beside {
        let inside = folder.strip_prefix(&repository.root).unwrap_or(&folder);
        outln!(
            "it is beside the hooks that are there: commit it; each clone uses it whose \
             core.hooksPath is {}",
            inside.display()
        );
        return Ok(Status::Clean);
    }
    if options.shared {
        outln!("commit it; each clone then runs once:\n    git config core.hooksPath {SHARED}");
        return Ok(Status::Clean);
    }
    if !folder.starts_with(&repository.root) && !folder.starts_with(&repository.git_dir) {
        outln!("this folder is shared: every repository that uses it is judged from now on");
    }
    outln!("take it out again with: kanonix gate remove");
    Ok(Status::Clean)
}

pub(super) fn remove() -> anyhow::Result<Status> {
    let repository = repository()?;
    let mut folders = vec![repository.hooks()?];
    let shared = repository.root.join(SHARED);
    if !folders.contains(&shared) {
        folders.push(shared);
    }
    let mut removed = false;
    for folder in &folders {
        removed |= remove_from(folder)?;
    }
    if !removed {
        outln!("there is no commit gate in {}", from_here(&folders[0].display().to_string()));
    }
    Ok(Status::Clean)
}

fn remove_from(folder: &Path) -> anyhow::Result<bool> {
    let hook = folder.join("pre-commit");
    if !is_ours(&hook) {
        return Ok(false);
    }
    let earlier = folder.join(EARLIER);
    let problem = || format!("the hook {} cannot be taken out", hook.display());
    let shown = from_here(&folder.display().to_string());
    if earlier.symlink_metadata().is_ok() {
        fs::rename(&earlier, &hook).with_context(problem)?;
        outln!("the commit gate is out of {shown}; the hook from before is back");
    } else {
        fs::remove_file(&hook).with_context(problem)?;
        outln!("the commit gate is out of {shown}");
    }
    if folder.ends_with(SHARED) {
        // Folders that held nothing else go, too.
        let _ = fs::remove_dir(folder);
        let _ = folder.parent().map(fs::remove_dir);
    }
    Ok(true)
}

/// Whether a hook is what this program would write today.
pub(super) fn is_current(text: &str, mend: bool) -> bool {
    let program = std::env::current_exe().unwrap_or_else(|_| PathBuf::from("kanonix"));
    let shapes = [(false, false), (false, true), (true, false), (true, true)];
    shapes.iter().any(|(shared, pass_without)| {
        let options = GateInstall { mend, shared: *shared, pass_without: *pass_without };
        let program = (!shared).then_some(program.as_path());
        hook_text(program, &options) == text
    })
}
