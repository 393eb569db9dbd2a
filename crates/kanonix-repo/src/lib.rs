//! What Kanonix knows of repositories: git, files, the canon, and writing so that nothing is lost.
//!
//! It knows no terminal. [`git`] is the only module that calls the git program; [`canon`] reads the
//! agreed style; [`work`] finds the files and the lines in play; [`write`] changes a file,
//! and [`undo`] keeps what was there before.

pub mod canon;
pub mod git;
pub mod undo;
pub mod work;
pub mod write;
