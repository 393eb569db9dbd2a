//! Files that are asked about again and again: those that an editor has open, or somebody watches.

use super::{Reach, Reader, Selection, WorkError, select};
use crate::git::{Repository, top_of};
use kanonix_core::languages::Language;
use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex};

/// Knows which repository a folder is in, and keeps a reader of its objects running. Canons are
/// read anew for every question, so that what changed in them counts at once.
#[derive(Default)]
pub struct Desk {
    /// By the top of a working tree: what git said of it.
    known: HashMap<PathBuf, Repository>,
    /// By the repository's root.
    readers: HashMap<PathBuf, Reader>,
}

impl Desk {
    /// As [`super::select_as`], without asking git twice for what cannot have changed. A text that
    /// is no file yet says itself what language it is in.
    ///
    /// # Errors
    /// As [`super::select_as`].
    pub fn select(
        &mut self,
        path: &Path,
        language: Option<&'static Language>,
        reach: &Reach,
    ) -> Result<Selection, WorkError> {
        let current = path.parent().unwrap_or(path).to_path_buf();
        select::for_text(&current, path, language, reach, |folder| {
            let repository = self.repository(folder)?;
            let reader = match &repository {
                Some(repository) => Some(self.reader(repository)?),
                None => None,
            };
            Ok((repository, reader))
        })
    }

    /// The repository that a folder is in.
    ///
    /// # Errors
    /// If git cannot be run, or refuses.
    pub fn repository(&mut self, folder: &Path) -> Result<Option<Repository>, WorkError> {
        let Some(top) = top_of(folder) else { return Ok(None) };
        if let Some(known) = self.known.get(&top)
            && !folder.starts_with(&known.git_dir)
        {
            return Ok(Some(known.clone()));
        }
        let found = Repository::find(folder)?;
        self.known.extend(found.clone().map(|found| (top, found)));
        Ok(found)
    }

    fn reader(&mut self, repository: &Repository) -> Result<Reader, WorkError> {
        if let Some(reader) = self.readers.get(&repository.root) {
            let runs = reader.lock().is_ok_and(|mut blobs| blobs.runs());
            if runs {
                return Ok(reader.clone());
            }
        }
        let reader = Arc::new(Mutex::new(repository.blobs()?));
        self.readers.insert(repository.root.clone(), reader.clone());
        Ok(reader)
    }
}
