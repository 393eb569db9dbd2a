//! What writing commands replaced, so that it can be put back.
//!
//! Every run keeps one small journal. In a repository it stands in git's own folder, and the
//! contents are git objects; elsewhere both stand in the user's state folder. Entries expire before
//! git would sweep their objects away.

use crate::system::{bytes_of, path_of};
use crate::system::files::Folder;
use crate::git::{GitError, Repository, Staging};
use crate::write;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use std::collections::HashSet;
use std::ffi::OsStr;
use std::fs;
use std::io;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant, SystemTime, UNIX_EPOCH};
use thiserror::Error;

/// Entries older than this are gone; git sweeps unreferenced objects away after two weeks.
const EXPIRES: Duration = Duration::from_secs(10 * 24 * 60 * 60);

/// At most so many runs are kept.
const MOST_RUNS: usize = 50;

/// How long another run is waited for, and how often it is asked.
const LONGEST_WAIT: Duration = Duration::from_secs(5);
const WAIT: Duration = Duration::from_millis(20);

/// Why nothing can be kept or put back.
#[derive(Debug, Error)]
pub enum UndoError {
    /// The journal or a content cannot be written or read.
    #[error("what is replaced cannot be kept in {0}: {1}")]
    Store(PathBuf, io::Error),
    /// Another run is writing.
    #[error("another run of Kanonix is writing here: try again when it is done")]
    Busy,
    /// Git refused.
    #[error(transparent)]
    Git(#[from] GitError),
}

/// A file that a run is about to change.
#[derive(Clone, Debug)]
pub struct Changing {
    /// Its absolute path.
    pub path: PathBuf,
    /// What stands in the file, and what will; none where only the index changes.
    pub file: Option<(Vec<u8>, Vec<u8>)>,
    /// What stands in the index, and what will.
    pub index: Option<(Staging, Staging)>,
    /// How many lines change.
    pub lines: usize,
}

/// One run, as it is kept.
#[derive(Clone, Debug, Serialize, Deserialize)]
pub struct Run {
    /// When, in seconds since 1970.
    pub when: u64,
    /// The command.
    pub command: String,
    files: Vec<Kept>,
}

#[derive(Clone, Debug, Serialize, Deserialize)]
struct Kept {
    /// The path's bytes.
    path: Vec<u8>,
    lines: usize,
    /// Where the old content is kept, and the new one's sum.
    file: Option<(String, String)>,
    /// Path from the root, mode, the old blob and the new one.
    index: Option<(Vec<u8>, String, String, String)>,
    /// The name of the temporary file beside it while it is written: that we made it is known by
    /// this, and by nothing else.
    #[serde(default)]
    temporary: String,
}

impl Run {
    /// How many files it changed, and how many lines of them.
    pub fn size(&self) -> (usize, usize) {
        (self.files.len(), self.files.iter().map(|file| file.lines).sum())
    }

    /// The files that it changed.
    pub fn paths(&self) -> Vec<PathBuf> {
        self.files.iter().map(Kept::path).collect()
    }
}

impl Kept {
    fn path(&self) -> PathBuf {
        path_of(&self.path)
    }

    /// Takes the temporary file away that a run left that was cut short.
    fn clear_up(&self) {
        let path = self.path();
        let Some(folder) = path.parent().and_then(|folder| Folder::open(folder).ok()) else {
            return;
        };
        let name = OsStr::new(&self.temporary);
        if !name.is_empty() && folder.file(name).is_ok() {
            let _ = folder.remove(name);
        }
    }
}

/// What became of a run that was put back.
#[derive(Debug, Default)]
pub struct PutBack {
    /// Files that are as before.
    pub files: Vec<PathBuf>,
    /// Files that are left as they are, and why.
    pub refused: Vec<(PathBuf, String)>,
}

/// Where runs are kept.
pub struct Store {
    /// A folder of git's or of the user's own, and where in it the runs are.
    base: PathBuf,
    folder: PathBuf,
    repository: Option<Repository>,
}

/// A run that is writing. If it is cut short, the next one takes back what it has changed.
pub struct Writing<'a> {
    store: &'a Store,
    journal: PathBuf,
    names: Vec<String>,
}

impl Writing<'_> {
    /// The name of the temporary file for one of the changes.
    pub fn temporary(&self, change: usize) -> &str {
        self.names.get(change).map_or("", String::as_str)
    }

    /// All is written that could be.
    ///
    /// # Errors
    /// If that cannot be kept.
    pub fn done(self) -> Result<(), UndoError> {
        let done = self.store.done_name(&self.journal);
        fs::rename(&self.journal, done).map_err(|error| self.store.problem(error))
    }
}

/// Where in git's own folder, or in the user's, the runs are.
const INSIDE: &str = "kanonix/undo";

/// What the name of a run ends with that is not done.
const OPEN: &str = ".open.json";

impl Store {
    /// The store of a repository, or of everything outside of one.
    pub fn of(repository: Option<&Repository>) -> Store {
        let base = match repository {
            Some(repository) => repository.git_dir.clone(),
            None => crate::state_folder(),
        };
        Store { folder: base.join(INSIDE), base, repository: repository.cloned() }
    }

    fn problem(&self, error: io::Error) -> UndoError {
        UndoError::Store(self.folder.clone(), error)
    }

    /// Makes the folder, if no link is in the way.
    fn make(&self) -> Result<(), UndoError> {
        if self.repository.is_none() {
            fs::create_dir_all(&self.base).map_err(|error| self.problem(error))?;
        }
        let base = fs::canonicalize(&self.base).map_err(|error| self.problem(error))?;
        Folder::make(&base, Path::new(INSIDE)).map_err(|error| self.problem(error))?;
        Ok(())
    }

    /// Whether a run was cut short here, or is writing now.
    pub fn is_open(&self) -> bool {
        let Ok(entries) = fs::read_dir(&self.folder) else { return false };
        entries.flatten().any(|entry| entry.file_name().to_string_lossy().ends_with(OPEN))
    }

    /// Holds the store while a run writes, so that two of them do not write at once. Another one is
    /// waited for, shortly.
    ///
    /// # Errors
    /// If the other one takes long, or the folder cannot be made.
    pub fn hold(&self) -> Result<fs::File, UndoError> {
        self.make()?;
        let lock = fs::File::create(self.folder.join("lock"));
        let lock = lock.map_err(|error| self.problem(error))?;
        let begun = Instant::now();
        loop {
            match lock.try_lock() {
                Ok(()) => return Ok(lock),
                Err(fs::TryLockError::WouldBlock) if begun.elapsed() < LONGEST_WAIT => {
                    std::thread::sleep(WAIT);
                }
                Err(fs::TryLockError::WouldBlock) => return Err(UndoError::Busy),
                Err(fs::TryLockError::Error(error)) => return Err(self.problem(error)),
            }
        }
    }

    /// Takes back what a run has changed that was cut short; nothing if there is none.
    ///
    /// # Errors
    /// If another run is writing, or a journal cannot be written.
    pub fn take_back(&self) -> Result<Option<PutBack>, UndoError> {
        if !self.is_open() {
            return Ok(None);
        }
        let _held = self.hold()?;
        let mut all = PutBack::default();
        let open = self.journals().into_iter().filter(|(path, _)| is_open(path));
        let open: Vec<_> = open.collect();
        if open.is_empty() {
            // It was writing, and is done by now.
            return Ok(None);
        }
        for (journal, run) in open {
            let done = self.put_run_back(&journal, &run)?;
            all.files.extend(done.files);
            all.refused.extend(done.refused);
        }
        Ok(Some(all))
    }

    /// Keeps what a run is about to replace. Nothing may be written before this.
    ///
    /// # Errors
    /// If it cannot be kept; nothing should be written then.
    pub fn keep(&self, command: &str, changes: &[Changing]) -> Result<Writing<'_>, UndoError> {
        self.make()?;
        write::may_end_here();
        let mut contents = self.keep_contents(changes)?.into_iter();
        let mut files = Vec::new();
        let names: Vec<String> = changes.iter().map(|_| write::temporary()).collect();
        for (change, name) in changes.iter().zip(&names) {
            let new = change.file.as_ref().map(|(_, new)| sum(new));
            let file = new.and_then(|new| Some((contents.next()?, new)));
            let index = change.index.as_ref().map(|(old, new)| {
                let path = bytes_of(&old.path).to_vec();
                (path, old.mode.clone(), old.blob.clone(), new.blob.clone())
            });
            let path = bytes_of(&change.path).to_vec();
            files.push(Kept { path, lines: change.lines, file, index, temporary: name.clone() });
        }
        let run = Run { when: now(), command: command.into(), files };
        let nanos = SystemTime::now().duration_since(UNIX_EPOCH).unwrap_or_default().as_nanos();
        let name = format!("{nanos:024}-{}{OPEN}", std::process::id());
        let journal = self.folder.join(name);
        self.write(&journal, &run)?;
        self.expire();
        Ok(Writing { store: self, journal, names })
    }

    fn write(&self, path: &Path, run: &Run) -> Result<(), UndoError> {
        let problem = |error| self.problem(error);
        let text = serde_json::to_vec(run).map_err(|error| problem(error.into()))?;
        let mut file = tempfile::NamedTempFile::new_in(&self.folder).map_err(problem)?;
        io::Write::write_all(&mut file, &text).map_err(problem)?;
        file.as_file().sync_data().map_err(problem)?;
        file.persist(path).map_err(|error| problem(error.error))?;
        Ok(())
    }

    /// The name of a journal once its run is done.
    fn done_name(&self, journal: &Path) -> PathBuf {
        let name = journal.file_name().unwrap_or_default().to_string_lossy();
        self.folder.join(name.replace(OPEN, ".json"))
    }

    /// Keeps what stands in the files that are to be written, and gives the names that it is kept
    /// under.
    fn keep_contents(&self, changes: &[Changing]) -> Result<Vec<String>, UndoError> {
        let files = changes.iter().filter(|change| change.file.is_some());
        if let Some(repository) = &self.repository {
            let paths: Vec<&Path> = files.map(|change| change.path.as_path()).collect();
            return Ok(match paths.is_empty() {
                true => Vec::new(),
                false => repository.store_files(&paths)?,
            });
        }
        let keep = |(old, _): &(Vec<u8>, Vec<u8>)| {
            let name = sum(old);
            fs::write(self.folder.join(&name), old)
                .map_err(|error| UndoError::Store(self.folder.clone(), error))?;
            Ok(name)
        };
        files.filter_map(|change| change.file.as_ref()).map(keep).collect()
    }

    fn content(&self, name: &str) -> Option<Vec<u8>> {
        match &self.repository {
            Some(repository) => repository.blobs().ok()?.read(name).ok(),
            None => fs::read(self.folder.join(name)).ok(),
        }
    }

    /// The runs that can be put back, the last one first.
    pub fn runs(&self) -> Vec<Run> {
        self.journals().into_iter().rev().map(|(_, run)| run).collect()
    }

    fn journals(&self) -> Vec<(PathBuf, Run)> {
        let Ok(entries) = fs::read_dir(&self.folder) else { return Vec::new() };
        let paths = entries.filter_map(|entry| Some(entry.ok()?.path()));
        let mut paths: Vec<PathBuf> =
            paths.filter(|path| is_journal(path)).collect();
        paths.sort();
        let read = |path: PathBuf| {
            let run: Run = serde_json::from_slice(&fs::read(&path).ok()?).ok()?;
            (now().saturating_sub(run.when) < EXPIRES.as_secs()).then_some((path, run))
        };
        paths.into_iter().filter_map(read).collect()
    }

    /// Forgets what is too old, and all but the last runs.
    fn expire(&self) {
        let Ok(entries) = fs::read_dir(&self.folder) else { return };
        let paths: Vec<PathBuf> = entries.filter_map(|entry| Some(entry.ok()?.path())).collect();
        let mut journals: Vec<&PathBuf> =
            paths.iter().filter(|path| is_journal(path) && !is_open(path)).collect();
        journals.sort();
        let spare = journals.len().saturating_sub(MOST_RUNS);
        let is_spare = |(number, path): &(usize, &&PathBuf)| *number < spare || is_old(path);
        let gone: Vec<&PathBuf> =
            journals.iter().enumerate().filter(is_spare).map(|(_, path)| *path).collect();
        if gone.is_empty() {
            return;
        }
        for path in gone {
            remove_ours(path);
        }
        self.sweep(&paths);
    }

    /// Takes contents away that no run has kept.
    fn sweep(&self, paths: &[PathBuf]) {
        if self.repository.is_some() {
            return;
        }
        let journals = self.journals();
        let files = journals.iter().flat_map(|(_, run)| &run.files);
        let kept: HashSet<&str> =
            files.filter_map(|file| Some(file.file.as_ref()?.0.as_str())).collect();
        let is_kept = |path: &&PathBuf| {
            path.file_name().is_some_and(|name| kept.contains(&*name.to_string_lossy()))
        };
        paths.iter().filter(|path| !is_journal(path) && !is_kept(path)).for_each(remove_ours);
    }

    /// Puts the last run back. A file that was changed since stays as it is.
    ///
    /// # Errors
    /// If the journal cannot be written.
    pub fn put_back(&self) -> Result<Option<(Run, PutBack)>, UndoError> {
        let Some((journal, run)) = self.journals().pop() else { return Ok(None) };
        let _held = self.hold()?;
        // Should this be cut short, it is gone on with.
        let open = self.folder.join(self.open_name(&journal));
        fs::rename(&journal, &open).map_err(|error| self.problem(error))?;
        let done = self.put_run_back(&open, &run)?;
        Ok(Some((run, done)))
    }

    fn open_name(&self, journal: &Path) -> String {
        let name = journal.file_name().unwrap_or_default().to_string_lossy().into_owned();
        if is_open(journal) { name } else { name.replace(".json", OPEN) }
    }

    /// Puts back what a run has changed, as far as it came.
    fn put_run_back(&self, journal: &Path, run: &Run) -> Result<PutBack, UndoError> {
        let mut done = PutBack::default();
        let mut left = Vec::new();
        for file in &run.files {
            file.clear_up();
            match self.put_file_back(file) {
                Ok(()) => done.files.push(file.path()),
                Err(reason) => {
                    done.refused.push((file.path(), reason));
                    left.push(file.clone());
                }
            }
        }
        if !left.is_empty() {
            self.write(&self.done_name(journal), &Run { files: left, ..run.clone() })?;
        }
        fs::remove_file(journal).map_err(|error| self.problem(error))?;
        Ok(done)
    }

    /// Puts one file back, and what is staged of it; either may be as before already, where a run
    /// was cut short.
    fn put_file_back(&self, kept: &Kept) -> Result<(), String> {
        const CHANGED: &str = "it was changed since, and stays as it is";
        const STAGED: &str = "what is staged of it was changed since, and stays as it is";
        let path = kept.path();
        let mut back = None;
        if let Some((content, after)) = &kept.file {
            let now = crate::system::files::read(&path, u64::MAX);
            let now = now.map_err(|error| format!("it cannot be read: {error}"))?;
            let old = self.content(content).ok_or("what it was before is gone")?;
            if now != old {
                if sum(&now) != *after {
                    return Err(CHANGED.into());
                }
                back = Some((now, old));
            }
        }
        if let (Some((inside, mode, before, after)), Some(repository)) =
            (&kept.index, &self.repository)
        {
            let inside = path_of(inside);
            let staged = repository.staged_blob(&inside).map_err(|error| error.to_string())?;
            if staged.as_ref() != Some(before) {
                if staged.as_ref() != Some(after) {
                    return Err(STAGED.into());
                }
                let old = Staging { path: inside, mode: mode.clone(), blob: before.clone() };
                repository.stage(&[old]).map_err(|error| error.to_string())?;
            }
        }
        match back {
            Some((now, old)) => write::replace(&path, &now, &old, &kept.temporary)
                .map_err(|error| error.to_string()),
            None => Ok(()),
        }
    }
}

/// Takes a file in the store away, if it is what we have put there: its name alone says nothing.
fn remove_ours(path: &PathBuf) {
    let Ok(bytes) = fs::read(path) else { return };
    let is_ours = match is_journal(path) {
        true => serde_json::from_slice::<Run>(&bytes).is_ok(),
        false => path.file_name().is_some_and(|name| *name == *sum(&bytes)),
    };
    if is_ours {
        let _ = fs::remove_file(path);
    }
}

fn is_journal(path: &Path) -> bool {
    path.extension().is_some_and(|end| end == "json")
}

/// Whether a journal's run is too long ago, by its name.
fn is_old(journal: &Path) -> bool {
    let name = journal.file_name().unwrap_or_default().to_string_lossy();
    let nanos: Option<u128> = name.split('-').next().and_then(|nanos| nanos.parse().ok());
    let age = nanos.map(|nanos| u128::from(now()).saturating_sub(nanos / 1_000_000_000));
    age.is_none_or(|age| age >= u128::from(EXPIRES.as_secs()))
}

/// Whether a journal's run was cut short.
fn is_open(journal: &Path) -> bool {
    journal.file_name().is_some_and(|name| name.to_string_lossy().ends_with(OPEN))
}

fn sum(text: &[u8]) -> String {
    Sha256::digest(text).iter().map(|byte| format!("{byte:02x}")).collect()
}

fn now() -> u64 {
    SystemTime::now().duration_since(UNIX_EPOCH).unwrap_or_default().as_secs()
}
