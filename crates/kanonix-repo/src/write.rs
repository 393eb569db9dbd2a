//! Writing a file so that nothing is lost: a temporary file beside it, flushed, and renamed over
//! it.
//!
//! What a file is beside its contents stays: permissions, owner, extended attributes. Where that
//! cannot be, the file is left alone, as it is where it has other names (hard links): an editor
//! that writes into the file itself would keep them, but could leave it torn; one that renames, as
//! we do, would part them.

use crate::system::files::{Folder, Unread, parts};
use crate::system::{give_attributes, give_owner, names_of, permissions};
use std::ffi::OsStr;
use std::fs::File;
use std::io::{self, Read, Write};
use std::path::Path;
use thiserror::Error;

/// A place at which a run may be cut short. Tests end the process at the one with the number in
/// `KANONIX_END_AT`, to see that nothing is lost wherever that happens; a program that is built to
/// be used does not know it.
#[cfg(debug_assertions)]
pub(crate) fn may_end_here() {
    use std::sync::atomic::{AtomicUsize, Ordering};
    static PASSED: AtomicUsize = AtomicUsize::new(0);
    let wanted = std::env::var("KANONIX_END_AT").ok().and_then(|text| text.parse().ok());
    if wanted.is_some_and(|wanted: usize| PASSED.fetch_add(1, Ordering::SeqCst) + 1 == wanted) {
        std::process::abort();
    }
}

#[cfg(not(debug_assertions))]
pub(crate) fn may_end_here() {}

/// Why a file was left as it is.
#[derive(Debug, Error)]
pub enum WriteError {
    /// Somebody else changed it in the meantime.
    #[error("it changed on disk while it was read; it is left as it is now")]
    Changed,
    /// It is no plain file, or a link is in the way.
    #[error("{0}: nothing is written through that")]
    NoFile(Unread),
    /// It has other names.
    #[error(
        "it has {0} names (hard links), which writing would part; it is left as it is. Mend it in \
         an editor, or give it one name"
    )]
    HardLinks(u64),
    /// It would not be the same file any more.
    #[error("its {0} would be lost: {1}; it is left as it is")]
    Lost(&'static str, io::Error),
    /// The system refused.
    #[error("it cannot be written: {0}")]
    Refused(#[from] io::Error),
}

impl From<Unread> for WriteError {
    fn from(why: Unread) -> WriteError {
        match why {
            Unread::Refused(error) => WriteError::Refused(error),
            Unread::Missing => WriteError::Refused(io::ErrorKind::NotFound.into()),
            why => WriteError::NoFile(why),
        }
    }
}

/// Replaces a file's contents, if they still are what was read. All else of it stays. The path is a
/// real one; the temporary file beside it has the given name, which nothing else has.
///
/// # Errors
/// Why the file is left as it is.
pub fn replace(
    path: &Path,
    read: &[u8],
    new: &[u8],
    temporary: &str,
) -> Result<(), WriteError> {
    let (folder, name) = parts(path)?;
    let folder = Folder::open(folder).map_err(Unread::from)?;
    let old = folder.file(name)?;
    let state = old.metadata()?;
    if state.permissions().readonly() {
        return Err(WriteError::Refused(io::ErrorKind::PermissionDenied.into()));
    }
    if names_of(&state) > 1 {
        return Err(WriteError::HardLinks(names_of(&state)));
    }
    may_end_here();
    let temporary = OsStr::new(temporary);
    let made = folder.create(temporary)?;
    may_end_here();
    let written = filled(&made, &old, new).and_then(|()| {
        may_end_here();
        match is_still(&folder, name, read)? {
            true => Ok(folder.rename(temporary, name)?),
            false => Err(WriteError::Changed),
        }
    });
    if written.is_err() {
        let _ = folder.remove(temporary);
    }
    may_end_here();
    written
}

/// Writes the contents, and makes the file what the old one is.
fn filled(mut made: &File, old: &File, new: &[u8]) -> Result<(), WriteError> {
    let state = old.metadata()?;
    made.write_all(new)?;
    give_owner(made, &state).map_err(|error| WriteError::Lost("owner", error))?;
    give_attributes(old, made).map_err(|error| WriteError::Lost("extended attributes", error))?;
    made.set_permissions(state.permissions())?;
    made.sync_data()?;
    Ok(())
}

/// Whether a file still has the contents that were read.
fn is_still(folder: &Folder, name: &OsStr, read: &[u8]) -> Result<bool, WriteError> {
    let mut now = Vec::with_capacity(read.len() + 1);
    folder.file(name)?.take(read.len() as u64 + 1).read_to_end(&mut now)?;
    Ok(now == read)
}

/// Makes a file below a folder, and the folders on the way. A plain file that is there is replaced;
/// anything else stays, and so does all that is behind a link.
///
/// # Errors
/// Why it is not written.
pub fn put(root: &Path, inside: &Path, text: &[u8], mode: u32) -> Result<(), WriteError> {
    let (Some(parent), Some(name)) = (inside.parent(), inside.file_name()) else {
        return Err(io::Error::from(io::ErrorKind::InvalidInput).into());
    };
    let folder = Folder::make(root, parent).map_err(Unread::from)?;
    let there = match folder.file(name) {
        Ok(_) => true,
        Err(Unread::Missing) => false,
        Err(why) => return Err(why.into()),
    };
    let temporary = temporary();
    let temporary = OsStr::new(&temporary);
    let mut made = folder.create(temporary)?;
    let written = made
        .write_all(text)
        .and_then(|()| made.set_permissions(permissions(mode)))
        .and_then(|()| made.sync_data())
        .and_then(|()| match there {
            true => folder.rename(temporary, name),
            false => folder.rename_new(temporary, name),
        });
    if written.is_err() {
        let _ = folder.remove(temporary);
    }
    Ok(written?)
}

/// Makes a folder below another one, and those on the way; none of them may be a link.
///
/// # Errors
/// Why there is none.
pub fn folder_at(root: &Path, inside: &Path) -> Result<(), WriteError> {
    Folder::make(root, inside).map_err(Unread::from)?;
    Ok(())
}

/// A name that no file has.
pub fn temporary() -> String {
    use std::hash::{BuildHasher, Hasher, RandomState};
    let chance = || RandomState::new().build_hasher().finish();
    format!(".kanonix-{:016x}{:016x}", chance(), chance())
}

#[cfg(test)]
mod tests {
    use super::*;
    use rustix::fs::{XattrFlags, fgetxattr, fsetxattr};
    use std::fs;
    use std::os::unix::fs::PermissionsExt;

    fn real(folder: &tempfile::TempDir, name: &str) -> std::path::PathBuf {
        fs::canonicalize(folder.path()).unwrap().join(name)
    }

    #[test]
    fn a_file_that_changed_meanwhile_is_left_alone() {
        let folder = tempfile::tempdir().unwrap();
        let path = real(&folder, "levels.py");
        fs::write(&path, "ebb = 2\n").unwrap();
        let outcome = replace(&path, b"ebb=1\n", b"ebb = 1\n", &temporary());
        assert!(matches!(outcome, Err(WriteError::Changed)));
        assert_eq!(fs::read(&path).unwrap(), b"ebb = 2\n");
        assert_eq!(fs::read_dir(folder.path()).unwrap().count(), 1);
    }

    #[test]
    fn permissions_stay_and_so_do_attributes() {
        let folder = tempfile::tempdir().unwrap();
        let path = real(&folder, "siren.js");
        fs::write(&path, "a\n").unwrap();
        fs::set_permissions(&path, fs::Permissions::from_mode(0o755)).unwrap();
        let name = c"user.keeper";
        let file = File::open(&path).unwrap();
        let has_attributes = fsetxattr(&file, name, b"tide", XattrFlags::empty()).is_ok();
        replace(&path, b"a\n", b"b\n", &temporary()).unwrap();
        assert_eq!(fs::metadata(&path).unwrap().permissions().mode() & 0o777, 0o755);
        assert_eq!(fs::read(&path).unwrap(), b"b\n");
        if has_attributes {
            let mut value = [0; 4];
            fgetxattr(&File::open(&path).unwrap(), name, &mut value[..]).unwrap();
            assert_eq!(&value, b"tide");
        }
    }

    #[test]
    fn a_file_with_two_names_and_a_link_stay() {
        let folder = tempfile::tempdir().unwrap();
        let (path, other) = (real(&folder, "a.py"), real(&folder, "b.py"));
        fs::write(&path, "a\n").unwrap();
        fs::hard_link(&path, &other).unwrap();
        let outcome = replace(&path, b"a\n", b"b\n", &temporary());
        assert!(matches!(outcome, Err(WriteError::HardLinks(2))), "{outcome:?}");
        fs::remove_file(&other).unwrap();
        std::os::unix::fs::symlink(&path, &other).unwrap();
        let outcome = replace(&other, b"a\n", b"b\n", &temporary());
        assert!(matches!(outcome, Err(WriteError::NoFile(Unread::Link))), "{outcome:?}");
        assert_eq!(fs::read(&path).unwrap(), b"a\n");
    }
}
