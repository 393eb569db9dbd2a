//! The commands, one file each.

pub(crate) mod check;
pub(crate) mod explain;
pub(crate) mod gate;
pub(crate) mod help;
pub(crate) mod mend;
pub(crate) mod settle;
pub(crate) mod tour;
pub(crate) mod undo;

use kanonix_repo::work::Reach;

/// A reach in a sentence, and the options that ask for it.
pub(crate) fn reach_in_words(reach: &Reach, in_repository: bool) -> (String, String) {
    match reach {
        Reach::Save if in_repository => ("on touched lines".into(), String::new()),
        Reach::Save | Reach::Whole => ("on all lines".into(), " --whole".into()),
        Reach::Staged | Reach::Commit => ("on staged lines".into(), " --staged".into()),
        Reach::Since(revision) | Reach::Merge(revision) => {
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

/// The current folder.
pub(crate) fn here() -> anyhow::Result<std::path::PathBuf> {
    use anyhow::Context;
    std::env::current_dir().context("there is no current folder")
}

/// Paths as they are written behind a command.
pub(crate) fn as_arguments(paths: &[std::path::PathBuf]) -> String {
    paths.iter().map(|path| format!(" {}", path.display())).collect()
}
