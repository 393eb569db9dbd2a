//! One file: whether it is judged, in which language and by which style.

use super::{Asked, Selecting};
use crate::canon::{Governing, Play};
use crate::git::GitError;
use crate::system::files::{self, Unread};
use crate::work::paths::shown_from;
use crate::work::{Base, Item, Source, Why, WorkError};
use kanonix_core::languages::Language;
use std::io::Read;
use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError};

/// So much of a text is read to see what language it is in, in bytes.
const LONGEST_BEGINNING: u64 = 2048;

impl Selecting {
    /// A file of the working tree, as far as the canon's `save` goes.
    pub(super) fn saved(&mut self, path: &Path, base: Base) -> Result<(), WorkError> {
        self.add(path, Source::File, base, |reach| reach.save)
    }

    /// A file of the working tree, whatever the canon's `[reach]` says.
    pub(super) fn file(&mut self, path: &Path, base: Base) -> Result<(), WorkError> {
        self.add(path, Source::File, base, |_| None)
    }

    pub(super) fn add(
        &mut self,
        path: &Path,
        source: Source,
        base: Base,
        play: Asked,
    ) -> Result<(), WorkError> {
        let canon = self.canons.governing(path)?;
        let Some(language) = self.language(&canon, path, &source)? else {
            // Our own files are read, not judged.
            let name = path.file_name().unwrap_or_default();
            if !crate::canon::names().iter().any(|own| name == *own) {
                self.leave(Why::UnknownLanguage, path);
            }
            return Ok(());
        };
        if self.only_agreed && canon.is_empty() {
            self.leave(Why::NotAgreed, path);
            return Ok(());
        }
        let play = canon.reach(path, play).map(|(play, _)| play).unwrap_or_default();
        let whole = |(play, _)| play == Play::Whole;
        let base = match base {
            Base::Unknown if canon.reach(path, |r| r.save_without_git).is_some_and(whole) => {
                Base::Whole
            }
            base => base,
        };
        if canon.skips(path).is_some() || play == Play::Off {
            self.leave(if play == Play::Off { Why::Off } else { Why::Skipped }, path);
            return Ok(());
        }
        let folder = path.parent().unwrap_or(path).to_path_buf();
        let style = self.styles.entry((language.name, folder, canon.layers(path)));
        let style = style.or_insert_with(|| Arc::new(canon.style(path, language))).clone();
        let inside = path.strip_prefix(&self.root).unwrap_or(path).to_path_buf();
        self.items.push(Item {
            way: self.ways.remove(&inside).unwrap_or_default(),
            path: path.to_path_buf(),
            inside,
            shown: self.shown(path),
            language,
            style,
            source,
            faults_stop: canon.reach(path, |r| r.faults_stop).is_some_and(|(stop, _)| stop),
            long_lines_stop: canon
                .reach(path, |r| r.long_lines_stop)
                .is_some_and(|(stop, _)| stop),
            unreadable_stops: canon
                .reach(path, |r| r.unreadable_stops)
                .map_or(self.merging.is_some(), |(stop, _)| stop),
            new_keeps_stop: canon.reach(path, |r| r.new_keeps_stop).is_some_and(|(stop, _)| stop),
            is_agreed: !canon.is_empty(),
            save_reasons: canon
                .reach(path, |r| r.save_reasons)
                .map(|(reasons, _)| reasons)
                .unwrap_or_default(),
            base,
            play,
            largest: canon.largest().0,
            skips_minified: !canon.formats_minified().0,
        });
        Ok(())
    }

    /// The language of a file; only one whose name says nothing is opened for it.
    pub(super) fn language(
        &mut self,
        canon: &Governing,
        path: &Path,
        source: &Source,
    ) -> Result<Option<&'static Language>, WorkError> {
        if self.instead_of_name.is_some() {
            return Ok(self.instead_of_name);
        }
        let (repository, blobs) = (&self.repository, &mut self.blobs);
        let (mut problem, mut unread) = (None, None);
        let beginning = || match source {
            Source::File => match files::open(path) {
                Ok(file) => beginning_of(file),
                Err(Unread::Refused(error)) => {
                    unread = Some(format!("what language it is in cannot be read: {error}"));
                    None
                }
                Err(_) => None,
            },
            Source::Staged { blob, .. } | Source::Committed { blob } => {
                let mut read = || -> Result<Vec<u8>, GitError> {
                    let reader = match (&*blobs, repository) {
                        (Some(reader), _) => reader.clone(),
                        (None, Some(repository)) => Arc::new(Mutex::new(repository.blobs()?)),
                        (None, None) => return Ok(Vec::new()),
                    };
                    let reader = blobs.insert(reader);
                    reader.lock().unwrap_or_else(PoisonError::into_inner).read(blob)
                };
                match read() {
                    Ok(bytes) => beginning_of(&bytes[..]),
                    Err(error) => {
                        problem = Some(error);
                        None
                    }
                }
            }
        };
        let found = canon.language(path, beginning)?.map(|(language, _)| language);
        self.problems.extend(unread.map(|why| (shown_from(&self.current, path), why)));
        match problem {
            // A text whose beginning is not known is in no known language for no good reason.
            Some(error) => Err(error.into()),
            None => Ok(found),
        }
    }
}

/// The beginning of a text.
pub(in crate::work) fn beginning_of(text: impl Read) -> Option<String> {
    let mut bytes = Vec::new();
    text.take(LONGEST_BEGINNING).read_to_end(&mut bytes).ok()?;
    Some(String::from_utf8_lossy(&bytes).into_owned())
}
