//! One path whose text is somewhere else: an editor's, or the standard input.

use super::Selecting;
use crate::git::Repository;
use crate::work::{Base, Reach, Reader, Selection, WorkError};
use kanonix_core::languages::Language;
use kanonix_core::text::LineSet;
use std::path::Path;

/// One path whose text is somewhere else. `find` gives the repository of a folder, and a reader of
/// its objects if one is there already.
pub(in crate::work) fn for_text(
    current: &Path,
    path: &Path,
    language: Option<&'static Language>,
    reach: &Reach,
    find: impl FnOnce(&Path) -> Result<(Option<Repository>, Option<Reader>), WorkError>,
) -> Result<Selection, WorkError> {
    let missing = |path: &Path| WorkError::NoSuchPath(path.display().to_string());
    let current = std::fs::canonicalize(current).map_err(|_| missing(current))?;
    let whole = current.join(path);
    let (Some(folder), Some(name)) = (whole.parent(), whole.file_name()) else {
        return Err(missing(path));
    };
    let folder = std::fs::canonicalize(folder).map_err(|_| missing(folder))?;
    let (repository, blobs) = match find(&folder) {
        Ok(found) => found,
        // Without a repository to ask, whole files need no git at all.
        Err(_) if matches!(reach, Reach::Whole | Reach::Lines(_)) => (None, None),
        Err(error) => return Err(error),
    };
    let mut selecting = Selecting::beside(current, repository, blobs);
    selecting.instead_of_name = language;
    selecting.only_agreed = *reach == Reach::Saved { without_canon: false };
    let whole = folder.join(name);
    match reach {
        Reach::Whole => selecting.file(&whole, Base::Whole)?,
        Reach::Lines(ranges) => {
            selecting.file(&whole, Base::Lines(LineSet::of(ranges.clone())))?;
        }
        Reach::Since(revision) => {
            let repository = selecting.repository("--since")?;
            let base = repository.merge_base(revision)?;
            let ways = repository.ways(&base)?;
            selecting.ways = ways;
            selecting.saved(&whole, Base::At(base))?;
        }
        Reach::Saved { .. } if selecting.repository.is_none() => {
            selecting.saved(&whole, Base::Unknown)?;
        }
        _ if selecting.repository.is_none() => selecting.file(&whole, Base::Whole)?,
        _ => {
            selecting.saved(&whole, Base::At("HEAD".into()))?;
        }
    }
    selecting.end()
}
