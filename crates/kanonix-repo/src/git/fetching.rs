//! Another repository's files.

use super::runner::{Trust, plain, run};
use super::{Answer, GitError, Repository};
use std::path::Path;

/// A file of another repository, as a revision of it has it, with the commit's name. The repository
/// is fetched once, into a folder that goes away again; what is configured in the repository around
/// us has no say.
///
/// # Errors
/// If git cannot reach it, or it has no such revision or file.
pub fn fetch_file(from: &str, revision: Option<&str>, file: &str) -> Answer<(String, String)> {
    let folder = tempfile::tempdir().map_err(GitError::NotRun)?;
    let copy = folder.path().join("copy.git");
    let mut clone = plain(Trust::Bare);
    clone.current_dir(folder.path()).args(["-c", "core.hooksPath=/dev/null", "clone", "--quiet"]);
    clone.args(["--bare", "--template=", "--", from]).arg(&copy);
    run(&mut clone, "clone")?;
    let copy = Repository::bare(&copy);
    let commit = copy.commit(revision.unwrap_or("HEAD"))?;
    let mut blobs = copy.blobs()?;
    match blobs.at(&commit, Path::new(file))? {
        Some(blob) => Ok((commit, String::from_utf8_lossy(&blobs.read(&blob)?).into_owned())),
        None => Err(GitError::NoFile(file.into(), from.into(), commit)),
    }
}
