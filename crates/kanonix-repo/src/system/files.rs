//! Files and folders of a tree that a stranger may have made.
//!
//! A path that is handed in here is a real one: whoever asks has resolved it, and has seen that it
//! stays where it may. From the system's top down to the file, no link is followed any more, so
//! that nothing is read or written elsewhere if one is put into the way. Nothing is opened but
//! plain files: a pipe would be waited for, a device never ends.

use rustix::fs::{AtFlags, CWD, FileType, Mode, OFlags, RenameFlags, Stat};
use std::ffi::OsStr;
use std::fs::File;
use std::io::{self, Read};
use std::os::fd::OwnedFd;
use std::path::{Component, Path, PathBuf};
use thiserror::Error;

/// Why a file is not read.
#[derive(Debug, Error)]
pub enum Unread {
    /// There is none.
    #[error("there is no such file")]
    Missing,
    /// It is a link, or a link is in the way.
    #[error("it is a link, or it is behind one")]
    Link,
    /// It is no plain file.
    #[error("it is a {0}")]
    Special(&'static str),
    /// It is larger than what was asked for, in bytes.
    #[error("it is larger than {0} bytes")]
    TooLarge(u64),
    /// The system refused.
    #[error("{0}")]
    Refused(io::Error),
}

impl From<io::Error> for Unread {
    fn from(error: io::Error) -> Unread {
        match rustix::io::Errno::from_io_error(&error) {
            Some(rustix::io::Errno::NOENT) => Unread::Missing,
            Some(rustix::io::Errno::LOOP) => Unread::Link,
            _ => Unread::Refused(error),
        }
    }
}

impl From<Unread> for io::Error {
    fn from(why: Unread) -> io::Error {
        match why {
            Unread::Missing => io::ErrorKind::NotFound.into(),
            Unread::Refused(error) => error,
            other => io::Error::other(other.to_string()),
        }
    }
}

/// An open folder.
pub(crate) struct Folder {
    handle: OwnedFd,
}

const FOLDER: OFlags =
    OFlags::DIRECTORY.union(OFlags::RDONLY).union(OFlags::NOFOLLOW).union(OFlags::CLOEXEC);

/// Nothing is waited for.
const PLAIN: OFlags =
    OFlags::NOFOLLOW.union(OFlags::NONBLOCK).union(OFlags::NOCTTY).union(OFlags::CLOEXEC);

impl Folder {
    /// Opens a folder by its real path.
    ///
    /// # Errors
    /// If it is not there, or a link is in the way.
    pub fn open(path: &Path) -> io::Result<Folder> {
        #[cfg(target_os = "linux")]
        {
            use rustix::fs::{ResolveFlags, openat2};
            use rustix::io::Errno;
            match openat2(CWD, path, FOLDER, Mode::empty(), ResolveFlags::NO_SYMLINKS) {
                Ok(handle) => return Ok(Folder { handle }),
                // A system that does not know how, or may not: one step after the other.
                // And what is no folder may be a link.
                Err(Errno::NOSYS | Errno::PERM | Errno::INVAL | Errno::NOTDIR) => {}
                Err(error) => return Err(error.into()),
            }
        }
        Folder::step_by_step(path)
    }

    /// As [`Folder::open`], and makes the folders of `inside` that are not there yet.
    ///
    /// # Errors
    /// As [`Folder::open`], or if one cannot be made.
    pub fn make(path: &Path, inside: &Path) -> io::Result<Folder> {
        let mut folder = Folder::open(path)?;
        for part in inside.components() {
            let Component::Normal(name) = part else {
                return Err(io::ErrorKind::InvalidInput.into());
            };
            folder = match folder.enter(name) {
                Err(error) if error.kind() == io::ErrorKind::NotFound => {
                    let made =
                        rustix::fs::mkdirat(&folder.handle, name, Mode::from_raw_mode(0o777));
                    match made {
                        // Another run may have made it in the meantime.
                        Ok(()) | Err(rustix::io::Errno::EXIST) => folder.enter(name)?,
                        Err(error) => return Err(error.into()),
                    }
                }
                found => found?,
            };
        }
        Ok(folder)
    }

    fn step_by_step(path: &Path) -> io::Result<Folder> {
        let handle = rustix::fs::openat(CWD, "/", FOLDER, Mode::empty())?;
        let mut folder = Folder { handle };
        for part in path.components() {
            match part {
                Component::RootDir => {}
                Component::Normal(name) => folder = folder.enter(name)?,
                _ => return Err(io::ErrorKind::InvalidInput.into()),
            }
        }
        Ok(folder)
    }

    fn enter(&self, name: &OsStr) -> io::Result<Folder> {
        let handle = rustix::fs::openat(&self.handle, name, FOLDER, Mode::empty());
        let handle = handle.map_err(|error| match self.state(name) {
            // A link that is asked to be a folder is said to be none.
            Ok(state) if kind_of(&state) == FileType::Symlink => rustix::io::Errno::LOOP,
            _ => error,
        });
        Ok(Folder { handle: handle? })
    }

    /// What stands under a name, a link not followed.
    pub fn state(&self, name: &OsStr) -> io::Result<Stat> {
        Ok(rustix::fs::statat(&self.handle, name, AtFlags::SYMLINK_NOFOLLOW)?)
    }

    /// Opens a plain file for reading.
    ///
    /// # Errors
    /// Why it is not one.
    pub fn file(&self, name: &OsStr) -> Result<File, Unread> {
        is_plain(&self.state(name)?)?;
        let flags = PLAIN.union(OFlags::RDONLY);
        let handle = rustix::fs::openat(&self.handle, name, flags, Mode::empty());
        let file = File::from(handle.map_err(io::Error::from)?);
        // What was looked at may have been another one.
        is_plain(&rustix::fs::fstat(&file).map_err(io::Error::from)?)?;
        Ok(file)
    }

    /// Makes a file that is not there yet, for nobody else to read.
    pub fn create(&self, name: &OsStr) -> io::Result<File> {
        let flags = PLAIN.union(OFlags::WRONLY).union(OFlags::CREATE).union(OFlags::EXCL);
        let mode = Mode::from_raw_mode(0o600);
        Ok(File::from(rustix::fs::openat(&self.handle, name, flags, mode)?))
    }

    /// Gives a file another name, in the place of what had it.
    pub fn rename(&self, from: &OsStr, to: &OsStr) -> io::Result<()> {
        Ok(rustix::fs::renameat(&self.handle, from, &self.handle, to)?)
    }

    /// As [`Folder::rename`], if nothing has the name.
    pub fn rename_new(&self, from: &OsStr, to: &OsStr) -> io::Result<()> {
        let flags = RenameFlags::NOREPLACE;
        match rustix::fs::renameat_with(&self.handle, from, &self.handle, to, flags) {
            Err(rustix::io::Errno::NOSYS | rustix::io::Errno::INVAL) => {
                // Two names for a moment, and none of them anybody else's.
                rustix::fs::linkat(&self.handle, from, &self.handle, to, AtFlags::empty())?;
                self.remove(from)
            }
            done => Ok(done?),
        }
    }

    /// Takes a file away.
    pub fn remove(&self, name: &OsStr) -> io::Result<()> {
        Ok(rustix::fs::unlinkat(&self.handle, name, AtFlags::empty())?)
    }
}

fn kind_of(state: &Stat) -> FileType {
    FileType::from_raw_mode(state.st_mode)
}

/// Whether it is a plain file, or what else it is.
fn is_plain(state: &Stat) -> Result<(), Unread> {
    match kind_of(state) {
        FileType::RegularFile => Ok(()),
        FileType::Symlink => Err(Unread::Link),
        FileType::Directory => Err(Unread::Special("folder")),
        FileType::Fifo => Err(Unread::Special("pipe")),
        FileType::Socket => Err(Unread::Special("socket")),
        _ => Err(Unread::Special("device")),
    }
}

/// Opens a plain file by its real path.
///
/// # Errors
/// Why it is not one.
pub fn open(path: &Path) -> Result<File, Unread> {
    let (folder, name) = parts(path)?;
    Folder::open(folder)?.file(name)
}

/// Reads a plain file by its real path, up to so many bytes.
///
/// # Errors
/// Why it is not read.
pub fn read(path: &Path, largest: u64) -> Result<Vec<u8>, Unread> {
    let file = open(path)?;
    let size = file.metadata()?.len();
    if size > largest {
        return Err(Unread::TooLarge(largest));
    }
    let mut bytes = Vec::with_capacity(size as usize + 1);
    // It may grow while it is read.
    file.take(largest.saturating_add(1)).read_to_end(&mut bytes)?;
    match bytes.len() as u64 > largest {
        true => Err(Unread::TooLarge(largest)),
        false => Ok(bytes),
    }
}

/// A path's folder and name.
pub(crate) fn parts(path: &Path) -> io::Result<(&Path, &OsStr)> {
    match (path.parent(), path.file_name()) {
        (Some(folder), Some(name)) if path.is_absolute() => Ok((folder, name)),
        _ => Err(io::ErrorKind::InvalidInput.into()),
    }
}

/// The real path of a file that somebody names below a folder: a link is followed as long as it
/// stays inside of that.
///
/// # Errors
/// [`Unread::Link`] if it leads out, [`Unread::Missing`] if there is nothing.
pub fn inside(root: &Path, path: &Path) -> Result<PathBuf, Unread> {
    let real = match std::fs::canonicalize(path) {
        Ok(real) => real,
        // A link to nowhere is there, and leads out as far as anybody knows.
        Err(_) if path.is_symlink() => return Err(Unread::Link),
        Err(error) => return Err(error.into()),
    };
    match real.starts_with(root) {
        true => Ok(real),
        false => Err(Unread::Link),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::os::unix::fs::symlink;

    #[test]
    fn no_link_is_followed_and_no_pipe_opened() {
        let folder = tempfile::tempdir().unwrap();
        let root = std::fs::canonicalize(folder.path()).unwrap();
        std::fs::create_dir(root.join("gauges")).unwrap();
        std::fs::write(root.join("gauges/a.py"), "a\n").unwrap();
        symlink(root.join("gauges"), root.join("link")).unwrap();
        symlink("a.py", root.join("gauges/b.py")).unwrap();
        assert_eq!(read(&root.join("gauges/a.py"), 2).unwrap(), b"a\n");
        assert!(matches!(read(&root.join("gauges/a.py"), 1), Err(Unread::TooLarge(1))));
        assert!(matches!(read(&root.join("gauges/b.py"), 9), Err(Unread::Link)));
        assert!(matches!(read(&root.join("link/a.py"), 9), Err(Unread::Link)));
        assert!(matches!(read(&root.join("gauges/c.py"), 9), Err(Unread::Missing)));
        assert!(matches!(read(&root.join("gauges"), 9), Err(Unread::Special("folder"))));
        assert!(matches!(read(Path::new("/dev/zero"), 9), Err(Unread::Special("device"))));
        let by_steps = |path: &str| Folder::step_by_step(&root.join(path)).map(|_| ());
        assert!(by_steps("gauges").is_ok());
        let error = Unread::from(by_steps("link").unwrap_err());
        assert!(matches!(error, Unread::Link), "{error:?}");
        assert!(Folder::make(&root, Path::new("link/new")).is_err());
        assert!(Folder::make(&root, Path::new("new/er")).is_ok());
        assert!(matches!(inside(&root, &root.join("link/a.py")), Ok(path) if path.ends_with("gauges/a.py")));
    }

    #[test]
    fn several_may_make_a_folder_at_once() {
        let folder = tempfile::tempdir().unwrap();
        let root = std::fs::canonicalize(folder.path()).unwrap();
        let inside: PathBuf = (0..200).map(|n| format!("tide{n}")).collect();
        let start = std::sync::Barrier::new(4);
        let make = || {
            start.wait();
            Folder::make(&root, &inside).map(|_| ())
        };
        let made: Vec<_> = std::thread::scope(|threads| {
            let runs: Vec<_> = (0..4).map(|_| threads.spawn(make)).collect();
            runs.into_iter().map(|run| run.join().unwrap()).collect()
        });
        assert!(made.iter().all(|made| made.is_ok()), "{made:?}");
    }
}
