//! How one file is treated, and where that is said.

use super::paths::{led_out, present, root_of, shown_from};
use super::select::beginning_of;
use super::loading::as_text;
use super::{NotLoaded, Why, WorkError};
use crate::canon::{self, Agreed, Because, Canons, Play, SaidAt};
use crate::git::Repository;
use crate::system::files;
use kanonix_core::languages::Language;
use kanonix_core::survey::is_minified;
use std::path::{Path, PathBuf};

/// Why a file is left alone, and what says so.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Alone {
    /// Why.
    pub why: Why,
    /// The pattern, the size or the limit; empty where `why` says it all.
    pub detail: String,
    /// The line that says so, if one does.
    pub place: Option<SaidAt>,
}

/// Which lines are in play on one occasion, and the line that says so, if one does.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Occasion {
    /// `save`, `commit` or `merge`.
    pub name: &'static str,
    /// The lines in play.
    pub play: Play,
    /// Where that is said.
    pub place: Option<SaidAt>,
}

/// All that decides how one file is treated.
pub struct Explained {
    /// Its path from the current folder.
    pub shown: String,
    /// Every file that governs it: canons, copies of followed ones, `.editorconfig` files.
    pub governed_by: Vec<PathBuf>,
    /// Its language and why.
    pub language: Option<(&'static Language, Because)>,
    /// What git's ignore files say of it (`.gitignore:3: *.log`).
    pub ignored: Option<String>,
    /// Why it is left alone, if it is.
    pub alone: Option<Alone>,
    /// Which lines are in play, on each occasion.
    pub reach: Vec<Occasion>,
    /// Whether it is in a repository, so that it has a history to compare with.
    pub has_history: bool,
    /// Its style and where the values come from, if it has a language.
    pub agreed: Option<Agreed>,
    /// The same of what stands in it in other languages, by their names.
    pub inner: Vec<(&'static str, Agreed)>,
    /// Its text, if it is one.
    pub text: Option<String>,
}

/// Says how a file is treated; with `open`, as if it had this text.
///
/// # Errors
/// If there is no such file, git refuses, or a canon is wrong.
pub fn explain(
    current: &Path,
    path: &Path,
    open: Option<String>,
) -> Result<Explained, WorkError> {
    let current = std::fs::canonicalize(current)
        .map_err(|_| WorkError::NoSuchPath(current.display().to_string()))?;
    let link = current.join(path);
    let is_link = link.is_symlink() || led_out(&current, path).is_some();
    let named_in_folder = is_link || (open.is_some() && !link.exists());
    let whole = match named_in_folder {
        true => present(&current, path.parent().unwrap_or(Path::new("")))?
            .join(path.file_name().unwrap_or_default()),
        false => present(&current, path)?,
    };
    let folder = whole.parent().unwrap_or(&whole);
    let repository = Repository::find(folder)?;
    let root = root_of(repository.as_ref());
    let governing = Canons::on_disk(&root).governing(&whole)?;
    let beginning = || match &open {
        Some(text) => beginning_of(text.as_bytes()),
        None => beginning_of(files::open(&whole).ok()?),
    };
    let language = governing.language(&whole, beginning)?;
    let ignored = match &repository {
        Some(repository) => repository.ignored(whole.strip_prefix(&root).unwrap_or(&whole))?,
        None => None,
    };
    let occasion = |name, said: Option<(Play, SaidAt)>| {
        let (play, place) = said.map_or((Play::Touched, None), |(play, at)| (play, Some(at)));
        Occasion { name, play, place }
    };
    let mut save = occasion("save", governing.reach(&whole, |reach| reach.save));
    if repository.is_none() && save.play == Play::Touched {
        let said = governing.reach(&whole, |reach| reach.save_without_git);
        let (play, place) = said.map_or((Play::Off, None), |(play, at)| (play, Some(at)));
        save = Occasion { name: "save", play, place };
    }
    let reach = vec![
        save,
        occasion("commit", governing.reach(&whole, |reach| reach.commit)),
        occasion("merge", governing.reach(&whole, |reach| reach.merge)),
    ];
    let (largest, largest_place) = governing.largest();
    let size = match &open {
        Some(text) => text.len() as u64,
        None => std::fs::metadata(&whole).map_or(0, |file| file.len()),
    };
    let bytes = match open {
        _ if size > largest => None,
        Some(text) => Some(text.into_bytes()),
        None => files::read(&whole, largest).ok(),
    };
    let text = bytes.map(|bytes| as_text(bytes, largest));
    let because = |why, detail: String, place| Some(Alone { why, detail, place });
    let leads_out = || {
        let target = std::fs::canonicalize(&whole);
        repository.is_none() || !target.is_ok_and(|target| target.starts_with(&root))
    };
    let all_off = reach.iter().all(|occasion| occasion.play == Play::Off);
    let alone = if is_link && leads_out() {
        because(Why::Link, String::new(), None)
    } else if language.is_none() {
        let is_canon = canon::is_canon(&whole);
        let detail = if is_canon { "a canon is not judged by itself" } else { "" };
        because(Why::UnknownLanguage, detail.into(), None)
    } else if let Some((pattern, place)) = governing.skips(&whole) {
        because(Why::Skipped, pattern, Some(place))
    } else if all_off {
        because(Why::Off, String::new(), reach[0].place.clone())
    } else if size > largest {
        because(Why::TooLarge, format!("{size} bytes, at most {largest}"), largest_place)
    } else {
        match &text {
            Some(Err(NotLoaded::LeftAlone(why))) => because(*why, String::new(), None),
            Some(Ok(text)) if language.as_ref().is_some_and(|of| is_minified(text, of.0)) => {
                let (formats, place) = governing.formats_minified();
                match formats {
                    true => None,
                    false => because(Why::Minified, String::new(), place),
                }
            }
            _ => None,
        }
    };
    let inner = language.iter().flat_map(|(language, _)| language.embedded());
    Ok(Explained {
        shown: shown_from(&current, &whole),
        inner: inner.map(|inner| (inner.name, governing.agreed(&whole, inner))).collect(),
        governed_by: governing.files(),
        agreed: language.as_ref().map(|(language, _)| governing.agreed(&whole, language)),
        language,
        ignored,
        alone,
        reach,
        has_history: repository.is_some(),
        text: text.and_then(Result::ok),
    })
}
