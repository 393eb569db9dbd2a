//! Writing a file so that nothing is lost: a temporary file beside it, flushed, and renamed over
//! it.

use std::fs;
use std::io::Write;
use std::path::Path;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::Duration;
use thiserror::Error;

/// What the temporary files begin with; the number of the process follows.
const TEMPORARY: &str = ".kanonix-";

/// A temporary file as old as this is nobody's any more, where no process can be asked.
const FORGOTTEN: Duration = Duration::from_secs(60 * 60);

/// A place at which a run may be cut short. Tests end the process at the one with the number in
/// `KANONIX_END_AT`, to see that nothing is lost wherever that happens.
pub(crate) fn may_end_here() {
    static PASSED: AtomicUsize = AtomicUsize::new(0);
    let wanted = std::env::var("KANONIX_END_AT").ok().and_then(|text| text.parse().ok());
    if wanted.is_some_and(|wanted: usize| PASSED.fetch_add(1, Ordering::SeqCst) + 1 == wanted) {
        std::process::abort();
    }
}

/// Takes away the temporary files that a run left in a folder that was cut short.
pub fn clear_up(folder: &Path) {
    let Ok(entries) = fs::read_dir(folder) else { return };
    for entry in entries.flatten() {
        let name = entry.file_name().to_string_lossy().into_owned();
        let Some(rest) = name.strip_prefix(TEMPORARY) else { continue };
        let Some(process) = rest.split('-').next().and_then(|text| text.parse::<u32>().ok()) else {
            continue;
        };
        let age = entry.metadata().ok().and_then(|file| file.modified().ok()?.elapsed().ok());
        let gone = match Path::new("/proc/self").exists() {
            true => !Path::new(&format!("/proc/{process}")).exists(),
            false => age.is_some_and(|age| age > FORGOTTEN),
        };
        if gone {
            let _ = fs::remove_file(entry.path());
        }
    }
}

/// Why a file was left as it is.
#[derive(Debug, Error)]
pub enum WriteError {
    /// Somebody else changed it in the meantime.
    #[error("it changed on disk while it was read; it is left as it is now")]
    Changed,
    /// The system refused.
    #[error("it cannot be written: {0}")]
    Refused(#[from] std::io::Error),
}

/// Replaces a file's contents, if they still are what was read. Its permissions stay.
///
/// # Errors
/// [`WriteError::Changed`] if the file is not what was read any more, [`WriteError::Refused`] if
/// the system does not let it be written. The file is untouched in both cases.
pub fn replace(path: &Path, read: &[u8], new: &[u8]) -> Result<(), WriteError> {
    let path = fs::canonicalize(path)?;
    let nowhere = || std::io::Error::from(std::io::ErrorKind::InvalidInput);
    let folder = path.parent().ok_or_else(nowhere)?;
    let permissions = fs::metadata(&path)?.permissions();
    if permissions.readonly() {
        return Err(WriteError::Refused(std::io::ErrorKind::PermissionDenied.into()));
    }
    may_end_here();
    let prefix = format!("{TEMPORARY}{}-", std::process::id());
    let mut file = tempfile::Builder::new().prefix(&prefix).tempfile_in(folder)?;
    file.write_all(new)?;
    may_end_here();
    file.as_file().set_permissions(permissions)?;
    file.as_file().sync_data()?;
    if fs::read(&path)? != read {
        return Err(WriteError::Changed);
    }
    may_end_here();
    file.persist(&path).map_err(|error| error.error)?;
    may_end_here();
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_file_that_changed_meanwhile_is_left_alone() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("levels.py");
        fs::write(&path, "ebb = 2\n").unwrap();
        let outcome = replace(&path, b"ebb=1\n", b"ebb = 1\n");
        assert!(matches!(outcome, Err(WriteError::Changed)));
        assert_eq!(fs::read(&path).unwrap(), b"ebb = 2\n");
        assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 1);
    }

    #[cfg(unix)]
    #[test]
    fn permissions_stay() {
        use std::os::unix::fs::PermissionsExt;
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("siren.js");
        fs::write(&path, "a\n").unwrap();
        fs::set_permissions(&path, fs::Permissions::from_mode(0o755)).unwrap();
        replace(&path, b"a\n", b"b\n").unwrap();
        assert_eq!(fs::metadata(&path).unwrap().permissions().mode() & 0o777, 0o755);
        assert_eq!(fs::read(&path).unwrap(), b"b\n");
    }
}
