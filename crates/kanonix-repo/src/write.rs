//! Writing a file so that nothing is lost: a temporary file beside it, flushed, and renamed over
//! it.

use std::fs;
use std::io::Write;
use std::path::Path;
use thiserror::Error;

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
    let mut file = tempfile::Builder::new().prefix(".kanonix-").tempfile_in(folder)?;
    file.write_all(new)?;
    file.as_file().set_permissions(permissions)?;
    file.as_file().sync_data()?;
    if fs::read(&path)? != read {
        return Err(WriteError::Changed);
    }
    file.persist(&path).map_err(|error| error.error)?;
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
