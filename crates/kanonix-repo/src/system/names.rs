//! Paths as the bytes that the system knows them by.

use std::ffi::OsString;
use std::os::unix::ffi::{OsStrExt, OsStringExt};
use std::path::{Path, PathBuf};

/// Bytes as a path.
pub fn path_of(bytes: &[u8]) -> PathBuf {
    PathBuf::from(OsString::from_vec(bytes.to_vec()))
}

/// A path's bytes.
pub fn bytes_of(path: &Path) -> &[u8] {
    path.as_os_str().as_bytes()
}
