//! What Kanonix knows of repositories: git, files, the canon, and writing so that nothing is lost.
//!
//! It knows no terminal. [`git`] is the only module that calls the git program; [`canon`] reads the
//! agreed style; [`work`] finds the files and the lines in play; [`write`] changes a file, and
//! [`undo`] keeps what was there before. [`system`] is the only one that knows the system: it opens
//! what a stranger may have made.

pub mod canon;
pub mod git;
pub mod system;
pub mod undo;
pub mod work;
pub mod write;

/// The folder in which a user's programs keep what they need from run to run.
pub fn state_folder() -> std::path::PathBuf {
    use std::path::PathBuf;
    let set = |name| std::env::var_os(name).map(PathBuf::from).filter(|path| path.is_absolute());
    set("XDG_STATE_HOME")
        .or_else(|| set("HOME").map(|home| home.join(".local/state")))
        .unwrap_or_else(std::env::temp_dir)
}
