//! What is in a folder, and no ignore file keeps out.

use crate::canon::LARGEST_CANON;
use crate::system::files::{self, Unread};
use crate::git::top_of;
use ignore::WalkBuilder;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, PoisonError};

/// The files that say what is ignored.
const IGNORE_FILES: [&str; 2] = [".gitignore", ".ignore"];

/// What is met on the way.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Met {
    /// A folder, whose contents follow.
    Folder(PathBuf),
    /// A plain file.
    File(PathBuf),
    /// A link, which is not followed.
    Link(PathBuf),
    /// A pipe, a socket or a device.
    Special(PathBuf),
    /// A repository of its own.
    Module(PathBuf),
    /// What could not be looked into, and why.
    Unread(PathBuf, String),
}

/// Everything below a folder, the folder itself included.
pub fn walk(folder: &Path) -> impl Iterator<Item = Met> {
    let top = top_of(folder);
    // Outside of a repository, hidden folders are what programs keep for themselves.
    let in_repository = top.is_some();
    let root = top.unwrap_or(folder.to_path_buf());
    let around = folder.ancestors().take_while(|around| around.starts_with(&root));
    let unread = around.filter_map(|around| unreadable(&root, around)).next();
    let aside: Arc<Mutex<Vec<Met>>> = Arc::default();
    let noted = aside.clone();
    let walk = unread.is_none().then(|| {
        WalkBuilder::new(folder)
            .hidden(!in_repository)
            .require_git(false)
            .filter_entry(move |entry| {
                if entry.depth() == 0 {
                    return true;
                }
                if entry.file_name() == ".git" {
                    return false;
                }
                if !entry.file_type().is_some_and(|kind| kind.is_dir()) {
                    return true;
                }
                let path = entry.path();
                if is_installed(path) {
                    return false;
                }
                let left = match path.join(".git").exists() {
                    true => Some(Met::Module(path.to_path_buf())),
                    false => unreadable(&root, path),
                };
                let goes_on = left.is_none();
                noted.lock().unwrap_or_else(PoisonError::into_inner).extend(left);
                goes_on
            })
            .build()
    });
    let folder = folder.to_path_buf();
    let met = walk.into_iter().flatten().map(move |entry| match entry {
        Err(error) => Met::Unread(folder.clone(), error.to_string()),
        Ok(entry) => {
            let kind = entry.file_type();
            let path = entry.path().to_path_buf();
            match kind {
                _ if entry.path_is_symlink() => Met::Link(path),
                Some(kind) if kind.is_dir() => Met::Folder(path),
                Some(kind) if kind.is_file() => Met::File(path),
                _ => Met::Special(path),
            }
        }
    });
    // What was left aside is known once the walk is over.
    let left = std::iter::once_with(move || {
        std::mem::take(&mut *aside.lock().unwrap_or_else(PoisonError::into_inner))
    });
    unread.into_iter().chain(met).chain(left.flatten())
}

/// Names of folders that package managers install into.
const INSTALLED: [&str; 2] = ["node_modules", "site-packages"];

/// What a cache's folder holds, by the cache directory tagging standard, and how that begins.
const CACHE_TAG: (&str, &[u8]) = ("CACHEDIR.TAG", b"Signature: 8a477f597d28d172789f06886806bc55");

/// Whether a folder holds installed packages or what can be made again: nobody's own code.
fn is_installed(folder: &Path) -> bool {
    let name = folder.file_name().unwrap_or_default();
    if INSTALLED.iter().any(|known| name == *known) || folder.join("pyvenv.cfg").is_file() {
        return true;
    }
    let (name, signature) = CACHE_TAG;
    files::read(&folder.join(name), 4096).is_ok_and(|text| text.starts_with(signature))
}

/// Whether no ignore file keeps a path out.
pub fn is_visible(path: &Path) -> bool {
    let Some(folder) = path.parent() else { return true };
    let root = top_of(folder).unwrap_or(folder.to_path_buf());
    let mut around = folder.ancestors().take_while(|around| around.starts_with(&root));
    if around.any(|around| unreadable(&root, around).is_some()) {
        return false;
    }
    let mut walk = WalkBuilder::new(folder);
    let walk = walk.hidden(false).require_git(false).max_depth(Some(1)).build();
    walk.flatten().any(|entry| entry.path() == path)
}

/// A folder whose ignore file is none: a link out of the tree, a pipe, or very large.
fn unreadable(root: &Path, folder: &Path) -> Option<Met> {
    IGNORE_FILES.iter().find_map(|name| {
        let path = folder.join(name);
        path.symlink_metadata().ok()?;
        let read = files::inside(root, &path).and_then(|real| {
            let size = files::open(&real)?.metadata()?.len();
            if size > LARGEST_CANON { Err(Unread::TooLarge(LARGEST_CANON)) } else { Ok(()) }
        });
        let why = match read {
            Ok(()) | Err(Unread::Missing) => return None,
            Err(Unread::Link) => "it is a link that leads out of the repository".into(),
            Err(why) => why.to_string(),
        };
        let why = format!(
            "what is ignored is not known, and nothing in this folder is judged: {why}"
        );
        Some(Met::Unread(path, why))
    })
}
