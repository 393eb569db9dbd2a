//! What a change of ours moves in everybody's code: the program of a revision and today's lay the
//! same files out, and the lines that differ are counted.

use super::git::git;
use anyhow::{Context, Result, bail};
use kanonix_core::languages;
use kanonix_core::text::unified_diff;
use std::path::{Path, PathBuf};
use std::process::Command;

/// Lines of one file's diff that are shown.
const SHOWN_LINES: usize = 14;

/// Lays out the samples, and the files of `dir`, with the program of `revision` and with today's;
/// prints how many lines differ, with `show` examples. Says whether nothing moved.
pub fn run(revision: &str, dir: Option<&Path>, canon: Option<&Path>, show: usize) -> Result<bool> {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let folder = tempfile::tempdir()?;
    let old = program_of(&root, revision, folder.path())?;
    let new = build(&root, &root.join("target"))?;
    let files = files(dir)?;
    let (before, after) = (folder.path().join("before"), folder.path().join("after"));
    for (program, place) in [(&old, &before), (&new, &after)] {
        lay_out(program, place, &files, canon)?;
    }
    let (mut moved, mut lines, mut examples) = (0, 0, Vec::new());
    for (name, _) in &files {
        let read = |place: &Path| std::fs::read_to_string(place.join(name)).unwrap_or_default();
        let (was, is) = (read(&before), read(&after));
        if was == is {
            continue;
        }
        let diff = unified_diff(&was, &is);
        let added = |line: &&str| line.starts_with('+');
        let removed = |line: &&str| line.starts_with('-');
        let differ = diff.lines().filter(added).count().max(diff.lines().filter(removed).count());
        moved += 1;
        lines += differ;
        if examples.len() < show {
            let shown: Vec<&str> = diff.lines().take(SHOWN_LINES).collect();
            examples.push(format!("\n{}\n  {}", name.display(), shown.join("\n  ")));
        }
    }
    let count = files.len();
    println!("since {revision}: {lines} lines in {moved} of {count} files are laid out otherwise");
    examples.iter().for_each(|example| println!("{example}"));
    Ok(moved == 0)
}

/// The samples and the files of a folder, each with a name of its own.
fn files(dir: Option<&Path>) -> Result<Vec<(PathBuf, String)>> {
    let mut files = Vec::new();
    for language in languages::ALL {
        for (name, text) in language.samples {
            files.push((Path::new("samples").join(language.name).join(name), text.to_string()));
        }
    }
    let Some(dir) = dir else { return Ok(files) };
    for (path, _) in super::corpus::files(dir, None)? {
        if let Ok(text) = std::fs::read_to_string(&path) {
            files.push((path.strip_prefix(dir).unwrap_or(&path).to_path_buf(), text));
        }
    }
    Ok(files)
}

/// Writes the files into a new folder and mends them there.
fn lay_out(
    program: &Path,
    place: &Path,
    files: &[(PathBuf, String)],
    canon: Option<&Path>,
) -> Result<()> {
    for (name, text) in files {
        let path = place.join(name);
        std::fs::create_dir_all(path.parent().unwrap_or(place))?;
        std::fs::write(path, text)?;
    }
    if let Some(canon) = canon {
        std::fs::copy(canon, place.join(kanonix_repo::canon::FILE_NAME))?;
    }
    let output = Command::new(program)
        .current_dir(place)
        .args(["mend", "--whole", "--quiet", "."])
        .output()
        .with_context(|| format!("{} cannot be run", program.display()))?;
    // What it could not mend, it says; the rest was done.
    match output.status.code() {
        Some(2) | None => bail!("{}", String::from_utf8_lossy(&output.stderr)),
        _ => Ok(()),
    }
}

/// The program as a revision has it, built in a checkout that goes away again.
fn program_of(root: &Path, revision: &str, folder: &Path) -> Result<PathBuf> {
    let checkout = folder.join("checkout");
    let place = checkout.to_string_lossy().into_owned();
    git(root, &["worktree", "add", "--detach", "--quiet", &place, revision])?;
    let built = build(&checkout, &root.join("target/moved"));
    let copied = built.and_then(|built| {
        let copy = folder.join("kanonix-before");
        std::fs::copy(&built, &copy)?;
        Ok(copy)
    });
    git(root, &["worktree", "remove", "--force", &place])?;
    copied
}

/// Builds the program of a checkout.
fn build(checkout: &Path, target: &Path) -> Result<PathBuf> {
    let status = Command::new(env!("CARGO"))
        .current_dir(checkout)
        .args(["build", "--release", "--quiet", "-p", "kanonix"])
        .env("CARGO_TARGET_DIR", target)
        .status()?;
    match status.success() {
        true => Ok(target.join("release/kanonix")),
        false => bail!("the program of {} cannot be built", checkout.display()),
    }
}
