//! What a file is beside its contents: its names, its owner and its extended attributes.

use rustix::fs::{XattrFlags, fgetxattr, flistxattr, fsetxattr};
use std::ffi::{CStr, CString};
use std::fs::{File, Metadata, Permissions};
use std::io;
use std::os::unix::fs::{MetadataExt, PermissionsExt};
use std::path::Path;

/// Permissions, by the system's number for them.
pub fn permissions(mode: u32) -> Permissions {
    Permissions::from_mode(mode)
}

/// Whether the system would run a file.
pub fn is_program(file: &Path) -> bool {
    file.metadata().is_ok_and(|found| found.permissions().mode() & 0o111 != 0)
}

/// How many names a file has.
pub fn names_of(state: &Metadata) -> u64 {
    state.nlink()
}

/// Gives a file the owner of another one.
pub fn give_owner(made: &File, state: &Metadata) -> io::Result<()> {
    let own = made.metadata()?;
    match (own.uid(), own.gid()) == (state.uid(), state.gid()) {
        true => Ok(()),
        false => std::os::unix::fs::fchown(made, Some(state.uid()), Some(state.gid())),
    }
}

/// The largest name list and value of extended attributes, in bytes, as Linux has it.
const LARGEST_ATTRIBUTE: usize = 64 * 1024;

/// Gives a file the extended attributes of another one.
pub fn give_attributes(from: &File, to: &File) -> io::Result<()> {
    let mut names = vec![0; LARGEST_ATTRIBUTE];
    let length = match flistxattr(from, &mut names[..]) {
        Ok(length) => length,
        // A file system without them.
        Err(rustix::io::Errno::NOTSUP | rustix::io::Errno::NOSYS) => return Ok(()),
        Err(error) => return Err(error.into()),
    };
    for name in names[..length].split(|byte| *byte == 0).filter(|name| !name.is_empty()) {
        let name = CString::new(name).map_err(|_| io::ErrorKind::InvalidData)?;
        let value = attribute(from, &name)?;
        // What a system gives every new file needs not be given.
        if attribute(to, &name).is_ok_and(|own| own == value) {
            continue;
        }
        fsetxattr(to, name.as_c_str(), &value, XattrFlags::empty())?;
    }
    Ok(())
}

fn attribute(file: &File, name: &CStr) -> io::Result<Vec<u8>> {
    let mut value = vec![0; LARGEST_ATTRIBUTE];
    let length = fgetxattr(file, name, &mut value[..])?;
    value.truncate(length);
    Ok(value)
}
