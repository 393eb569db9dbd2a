//! Reading the files of a selection, and finding their lines in play.

use super::{Base, InPlay, Item, Loaded, NotLoaded, Play, Selection, Source, UNMERGED, Was, Why};
use crate::git::{Blobs, GitError};
use crate::system::files::{self, Unread};
use kanonix_core::survey::is_minified;
use kanonix_core::text::{Bases, LineSet};
use std::collections::HashSet;
use std::path::Path;
use std::sync::{Mutex, MutexGuard, PoisonError};

impl Selection {
    /// Reads an item's text and finds its lines in play.
    ///
    /// # Errors
    /// Why there is nothing to judge.
    pub fn load(&self, item: &Item) -> Result<Loaded, NotLoaded> {
        self.read_ahead(item);
        let text = match &item.source {
            Source::File => read_file(item)?,
            Source::Staged { blob, .. } | Source::Committed { blob } => self.blob(blob)?,
        };
        self.take(item, as_text(text, item.largest)?)
    }

    /// As [`Selection::load`], of an item whose text is at hand.
    ///
    /// # Errors
    /// As [`Selection::load`].
    pub fn take(&self, item: &Item, text: String) -> Result<Loaded, NotLoaded> {
        if text.len() as u64 > item.largest {
            return Err(NotLoaded::LeftAlone(Why::TooLarge));
        }
        if text.contains('\0') {
            return Err(NotLoaded::LeftAlone(Why::Binary));
        }
        if item.skips_minified && is_minified(&text, item.language) {
            return Err(NotLoaded::LeftAlone(Why::Minified));
        }
        if has_conflict_marks(&text) && self.is_unmerged(&item.inside)? {
            return Err(NotLoaded::Problem(UNMERGED.into()));
        }
        let play = match self.in_play(item)? {
            InPlay::Since(bases) if self.turns_by_itself(item, &bases, &text)? => {
                InPlay::Since(bases.with_any_line_ends())
            }
            play => play,
        };
        Ok(Loaded { text, play })
    }

    /// Whether a blob is a text that could be judged as an item.
    fn was_readable(&self, item: &Item, blob: &str) -> Result<bool, NotLoaded> {
        let text = as_text(self.blob(blob)?, item.largest);
        Ok(text.is_ok_and(|text| !item.skips_minified || !is_minified(&text, item.language)))
    }

    /// Whether a working file's lines end in another way than before because git writes them so.
    fn turns_by_itself(&self, item: &Item, bases: &Bases, text: &str) -> Result<bool, NotLoaded> {
        match (&item.source, &self.repository) {
            (Source::File, Some(repository)) if bases.is_turned(text) => repository
                .converts_line_ends(&item.inside)
                .map_err(|error| NotLoaded::Problem(error.to_string())),
            _ => Ok(false),
        }
    }

    fn is_unmerged(&self, path: &Path) -> Result<bool, NotLoaded> {
        let unmerged = self.unmerged.get_or_init(|| match &self.repository {
            Some(repository) => repository.unmerged().map_err(|error| error.to_string()),
            None => Ok(Vec::new()),
        });
        match unmerged {
            Ok(paths) => Ok(paths.iter().any(|other| other == path)),
            Err(why) => Err(NotLoaded::Problem(why.clone())),
        }
    }

    /// The lines in play of an item.
    fn in_play(&self, item: &Item) -> Result<InPlay, NotLoaded> {
        let play = match &item.base {
            _ if item.play == Play::Whole => InPlay::Set(LineSet::whole()),
            Base::Whole | Base::New => InPlay::Set(LineSet::whole()),
            Base::Unknown => InPlay::Set(LineSet::default()),
            Base::Lines(set) => InPlay::Set(set.clone()),
            Base::Blob(blob) => self.since(blob, &item.way)?,
            Base::At(revision) => match self.blob_at(revision, &item.inside)? {
                Some(blob) => self.since(&blob, &item.way)?,
                None => match self.renamed_from(&item.inside)? {
                    Some(blob) => self.since(&blob, &[])?,
                    None => InPlay::Set(LineSet::whole()),
                },
            },
        };
        self.with_parents(item, play)
    }

    /// The lines of an item's text that were not there before, whatever the canon's `[reach]` says;
    /// nothing where no earlier version was asked for.
    ///
    /// # Errors
    /// As [`Selection::load`].
    pub fn brought(&self, item: &Item, text: &str) -> Result<Option<LineSet>, NotLoaded> {
        if matches!(item.base, Base::Whole | Base::Lines(_) | Base::Unknown) {
            return Ok(None);
        }
        let touched = Item { play: Play::Touched, ..item.clone() };
        Ok(Some(self.in_play(&touched)?.lines(text)))
    }

    /// The text that an item is compared with, if there is one.
    ///
    /// # Errors
    /// As [`Selection::load`].
    pub fn before(&self, item: &Item) -> Result<Option<String>, NotLoaded> {
        let blob = self.base_blob(item)?;
        let text = blob.map(|blob| self.blob(&blob)).transpose()?;
        Ok(text.map(|text| String::from_utf8_lossy(&text).into_owned()))
    }

    /// The blob that an item is compared with.
    fn base_blob(&self, item: &Item) -> Result<Option<String>, NotLoaded> {
        match &item.base {
            Base::Whole | Base::Lines(_) | Base::Unknown | Base::New => Ok(None),
            Base::Blob(blob) => Ok(Some(blob.clone())),
            Base::At(revision) => match self.blob_at(revision, &item.inside)? {
                None => self.renamed_from(&item.inside),
                blob => Ok(blob),
            },
        }
    }

    /// What an item was in the version that it is compared with.
    ///
    /// # Errors
    /// As [`Selection::load`].
    pub fn was(&self, item: &Item) -> Result<Was, NotLoaded> {
        if matches!(item.base, Base::Whole | Base::Lines(_) | Base::Unknown) {
            return Ok(Was::Unknown);
        }
        Ok(match self.base_blob(item)? {
            None => Was::New,
            Some(blob) if self.was_readable(item, &blob)? => Was::Readable,
            Some(_) => Was::Unreadable,
        })
    }

    /// What the working file of a staged item holds.
    ///
    /// # Errors
    /// Why it cannot be read, if it is there.
    pub fn working_text(&self, item: &Item) -> Result<Option<Vec<u8>>, String> {
        match files::read(&item.path, item.largest) {
            Ok(bytes) => Ok(Some(bytes)),
            Err(Unread::Missing) => Ok(None),
            Err(why) => Err(format!("the working file cannot be read: {why}")),
        }
    }

    fn since(&self, blob: &str, way: &[String]) -> Result<InPlay, NotLoaded> {
        let text = |blob: &str| -> Result<String, NotLoaded> {
            Ok(String::from_utf8_lossy(&self.blob(blob)?).into_owned())
        };
        let way: Result<Vec<String>, NotLoaded> = way.iter().map(|blob| text(blob)).collect();
        Ok(InPlay::Since(Bases::of([text(blob)?]).by_way_of(way?)))
    }

    /// During a merge or the like, a line that comes in with it is none of one's own.
    fn with_parents(&self, item: &Item, play: InPlay) -> Result<InPlay, NotLoaded> {
        if self.parents.is_empty() || matches!(item.source, Source::Committed { .. }) {
            return Ok(play);
        }
        let is_new = matches!(item.base, Base::New | Base::At(_)) && item.play != Play::Whole;
        let mut bases = match play {
            InPlay::Since(bases) => bases,
            InPlay::Set(set) if is_new && set.is_whole() => Bases::default(),
            play => return Ok(play),
        };
        for parent in &self.parents {
            if let Some(blob) = self.blob_at(parent, &item.inside)? {
                bases.push(String::from_utf8_lossy(&self.blob(&blob)?).into_owned());
            }
        }
        Ok(InPlay::Since(bases))
    }

    /// A blob's contents, by its hash.
    fn blob(&self, hash: &str) -> Result<Vec<u8>, NotLoaded> {
        // Nobody holds this lock while he waits for the other one.
        let known = locked(&self.ahead).remove(hash);
        match known {
            Some(text) => Ok(text),
            None => self.ask(|blobs| blobs.read(hash)),
        }
    }

    /// Reads what an item needs from git at once with what the next ones do, so that git is not
    /// waited for once for each. Where one of them cannot be read, each is asked for by itself, and
    /// says so.
    fn read_ahead(&self, item: &Item) {
        let Some(blobs) = &self.blobs else { return };
        let Ok(first) = self.items.binary_search_by(|other| other.path.cmp(&item.path)) else {
            return;
        };
        let is_read = || {
            let ahead = locked(&self.ahead);
            names(item).all(|name| ahead.contains_key(name))
        };
        if is_read() {
            return;
        }
        let mut blobs = locked(blobs);
        if is_read() {
            return;
        }
        let next = self.items[first..].iter().take(AHEAD).flat_map(names);
        let asked: Vec<&str> = {
            let ahead = locked(&self.ahead);
            let mut known: HashSet<&str> = HashSet::new();
            next.filter(|name| !ahead.contains_key(*name) && known.insert(name)).collect()
        };
        if let Ok(texts) = blobs.read_all(&asked) {
            let names = asked.into_iter().map(str::to_string);
            locked(&self.ahead).extend(names.zip(texts));
        }
    }

    /// The blob that a revision has at a path.
    fn blob_at(&self, revision: &str, path: &Path) -> Result<Option<String>, NotLoaded> {
        self.ask(|blobs| blobs.at(revision, path))
    }

    fn ask<T>(
        &self,
        question: impl FnOnce(&mut Blobs) -> Result<T, GitError>,
    ) -> Result<T, NotLoaded> {
        let Some(blobs) = &self.blobs else {
            return Err(NotLoaded::Problem("there is no repository to ask".into()));
        };
        question(&mut locked(blobs)).map_err(|error| NotLoaded::Problem(error.to_string()))
    }

    /// The blob in the last commit that a renamed or moved file had.
    fn renamed_from(&self, path: &Path) -> Result<Option<String>, NotLoaded> {
        let find = || -> Result<Option<String>, GitError> {
            let Some(repository) = &self.repository else { return Ok(None) };
            let Some(head) = repository.head()? else { return Ok(None) };
            let new = match repository.staged_blob(path)? {
                Some(_) => Vec::new(),
                None => vec![path.to_path_buf()],
            };
            let changes = repository.changed_files(&head, &new)?;
            Ok(changes.into_iter().find(|change| change.path == path).and_then(|one| one.base))
        };
        find().map_err(|error| NotLoaded::Problem(error.to_string()))
    }
}

/// Whether git may have written both sides of a conflict into a text. Git itself has to say whether
/// it did: the marks are legal in many a file.
fn has_conflict_marks(text: &str) -> bool {
    text.starts_with("<<<<<<< ") || text.contains("\n<<<<<<< ")
}

fn read_file(item: &Item) -> Result<Vec<u8>, NotLoaded> {
    files::read(&item.path, item.largest).map_err(|why| match why {
        Unread::TooLarge(_) => NotLoaded::LeftAlone(Why::TooLarge),
        Unread::Special(_) => NotLoaded::LeftAlone(Why::Special),
        Unread::Link => NotLoaded::LeftAlone(Why::Link),
        why => NotLoaded::Problem(format!("it cannot be read: {why}")),
    })
}

pub(super) fn as_text(bytes: Vec<u8>, largest: u64) -> Result<String, NotLoaded> {
    if bytes.len() as u64 > largest {
        return Err(NotLoaded::LeftAlone(Why::TooLarge));
    }
    if bytes.contains(&0) {
        return Err(NotLoaded::LeftAlone(Why::Binary));
    }
    String::from_utf8(bytes).map_err(|_| NotLoaded::LeftAlone(Why::NotUtf8))
}

/// So many files are read from git at once.
const AHEAD: usize = 32;

/// The blobs that an item is read from and compared with.
fn names(item: &Item) -> impl Iterator<Item = &str> {
    let own = match &item.source {
        Source::Staged { blob, .. } | Source::Committed { blob } => Some(blob.as_str()),
        Source::File => None,
    };
    let base = match &item.base {
        Base::Blob(blob) => Some(blob.as_str()),
        _ => None,
    };
    own.into_iter().chain(base)
}

fn locked<T>(mutex: &Mutex<T>) -> MutexGuard<'_, T> {
    mutex.lock().unwrap_or_else(PoisonError::into_inner)
}
