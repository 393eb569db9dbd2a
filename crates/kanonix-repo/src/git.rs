//! Git, through its plumbing. Every call of the git program is here.
//!
//! [`runner`] is how git is called, and what it may not do; [`finding`] says which repository a
//! folder is in, [`commits`] which commits there are, [`changes`] what differs, [`index`] what is
//! staged, [`attributes`] what the repository says of a path, [`under_way`] what git is in the
//! middle of, and [`blobs`] what stands in commits; [`storing`] makes objects.

mod attributes;
mod blobs;
mod changes;
mod commits;
mod error;
mod fetching;
mod finding;
mod index;
mod runner;
mod storing;
mod under_way;

pub use blobs::{Blobs, Found};
pub use changes::{Change, Staged};
pub use commits::short_name;
pub use error::GitError;
pub use fetching::fetch_file;
pub use finding::{program_version, stand_in, top_of};
pub use index::Staging;
pub use runner::{Trust, may_be_told};
pub use under_way::UnderWay;
use crate::system::path_of;
use runner::{git_with_hooks, run};
use std::path::PathBuf;

type Answer<T> = Result<T, GitError>;

/// A repository with a working tree.
#[derive(Clone, Debug)]
pub struct Repository {
    /// The working tree's top folder.
    pub root: PathBuf,
    /// The folder that holds this working tree's own git files.
    pub git_dir: PathBuf,
    /// How far its configuration is believed.
    pub trust: Trust,
    /// Whether it has no working tree; its root is git's own folder then.
    pub is_bare: bool,
    /// Filters that are configured and not run.
    filters_off: Vec<String>,
}

impl Repository {
    /// The folder in which git looks for hooks.
    ///
    /// # Errors
    /// If git fails.
    pub fn hooks(&self) -> Answer<PathBuf> {
        let mut command = git_with_hooks(&self.root, self.trust);
        command.args(["rev-parse", "--git-path", "hooks"]);
        let answer = run(&mut command, "rev-parse")?;
        let path = path_of(answer.strip_suffix(b"\n").unwrap_or(&answer));
        Ok(self.root.join(path))
    }
}
