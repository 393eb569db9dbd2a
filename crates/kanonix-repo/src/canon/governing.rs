//! All that the canons and the `.editorconfig` files of a tree say about one file, and where.

use super::editorconfig::{self, EditorConfig, Properties};
use super::followed::Followed;
use super::{Assignment, Canon, CanonError, FILE_NAME, LARGEST, ReachTable, Spoken};
use crate::system::files::{self, Unread};
use crate::git::GitError;
use kanonix_core::languages::{self, Language};
use kanonix_core::style::{Slot, Style, slots};
use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// A line that says something.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct SaidAt {
    /// The file.
    pub path: PathBuf,
    /// The line, counted from 1.
    pub line: usize,
}

/// A value of a setting that is not the community's, and where it comes from.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Said {
    /// The setting, with its key after a point.
    pub name: String,
    /// The value.
    pub value: String,
    /// What the language's community expects.
    pub usual: String,
    /// The line that says it.
    pub place: SaidAt,
}

/// A file's agreed style, and where each of its values comes from.
pub struct Agreed {
    /// The style.
    pub style: Style,
    /// Every value that somebody has given, in the order of the registry.
    pub said: Vec<Said>,
}

/// Why a file is in a language.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Because {
    /// A canon's `[files] language` says so, by this pattern.
    Canon(String, SaidAt),
    /// By its name.
    Name,
    /// By its first line.
    FirstLine,
    /// Its name leaves it open, and its text begins so.
    Beginning,
}

/// A pattern of a canon that does nothing, or perhaps not what was meant.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Idle {
    /// The pattern, as somebody wrote it.
    pub pattern: String,
    /// The line that it stands on.
    pub place: SaidAt,
    /// Whether there is a backslash in it, which separates no folders.
    pub backslash: bool,
}

/// Gives the text of a file at a path, or `None` where there is none.
pub type ReadCanon = Box<dyn FnMut(&Path) -> Result<Option<String>, NotRead> + Send>;

/// The largest file that may say something about others, in bytes.
pub const LARGEST_CANON: u64 = 1024 * 1024;

/// Why a file that may say something is not read. What stands in it is never shown.
#[derive(Debug)]
pub enum NotRead {
    /// It is a link out of the repository.
    LeadsOut,
    /// It is something else, as said.
    NotThis(String),
    /// Git cannot give it.
    Git(GitError),
}

/// The text of such a file on disk.
pub(super) fn text_on_disk(root: &Path, path: &Path) -> Result<Option<String>, NotRead> {
    let read = files::inside(root, path).and_then(|real| files::read(&real, LARGEST_CANON));
    match read {
        Ok(bytes) => text_of(bytes).map(Some),
        Err(Unread::Missing) => Ok(None),
        Err(Unread::Link) => Err(NotRead::LeadsOut),
        Err(why) => Err(NotRead::NotThis(why.to_string())),
    }
}

/// The text of such a file.
pub(crate) fn text_of(bytes: Vec<u8>) -> Result<String, NotRead> {
    if bytes.len() as u64 > LARGEST_CANON {
        return Err(NotRead::NotThis(format!("it is larger than {LARGEST_CANON} bytes")));
    }
    String::from_utf8(bytes).map_err(|_| NotRead::NotThis("it is not in UTF-8".into()))
}

/// Tells one source of a style from another, so that equal ones are put together once.
pub type LayerId = (usize, usize);

/// The canons and `.editorconfig` files of a tree, each read once.
pub struct Canons {
    /// Nothing is looked for above this folder.
    root: PathBuf,
    source: ReadCanon,
    /// What is read in place of what stands at a path.
    instead: HashMap<PathBuf, String>,
    /// By folder: the canon that it follows, and its own.
    known: HashMap<PathBuf, Vec<Arc<Canon>>>,
    editorconfigs: HashMap<PathBuf, Option<Arc<EditorConfig>>>,
}

/// All that is said about one file.
#[derive(Clone, Default)]
pub struct Governing {
    /// Outermost first; a followed canon right before the one that follows it.
    canons: Vec<Arc<Canon>>,
    /// Outermost first.
    editorconfigs: Vec<Arc<EditorConfig>>,
}

impl Canons {
    /// The canons at and below `root`, as they are on disk.
    pub fn on_disk(root: &Path) -> Canons {
        let top = root.to_path_buf();
        Canons::from(root, Box::new(move |path| text_on_disk(&top, path)))
    }

    /// The canons at and below `root`, read elsewhere: from the index, or from a commit.
    pub fn from(root: &Path, source: ReadCanon) -> Canons {
        Canons {
            root: root.to_path_buf(),
            source,
            instead: HashMap::new(),
            known: HashMap::new(),
            editorconfigs: HashMap::new(),
        }
    }

    /// The files in a folder that may say something.
    pub fn names_in(folder: &Path) -> [PathBuf; 2] {
        [folder.join(FILE_NAME), folder.join(editorconfig::FILE_NAME)]
    }

    /// Reads this text in place of what stands at a path, from now on.
    pub fn instead(&mut self, path: &Path, text: &str) {
        self.instead.insert(path.to_path_buf(), text.to_string());
        self.known.clear();
    }

    /// What governs a file (an absolute path), from the root down.
    ///
    /// # Errors
    /// The first canon on the way that is wrong.
    pub fn governing(&mut self, file: &Path) -> Result<Governing, CanonError> {
        let root = self.root.clone();
        let inside = |folder: &&Path| folder.starts_with(&root);
        let mut canons = Vec::new();
        for folder in file.ancestors().skip(1).take_while(inside) {
            canons.extend(self.of_folder(folder)?.into_iter().rev());
        }
        canons.reverse();
        let mut editorconfigs = Vec::new();
        // The nearest canon that speaks of it decides whether they are read.
        let read = canons.iter().rev().find_map(|canon| canon.editorconfig).unwrap_or(true);
        for folder in file.ancestors().skip(1).take_while(inside).filter(|_| read) {
            if let Some(found) = self.editorconfig(folder)? {
                let root = found.root;
                editorconfigs.push(found);
                if root {
                    break;
                }
            }
        }
        editorconfigs.reverse();
        Ok(Governing { canons, editorconfigs })
    }

    fn of_folder(&mut self, folder: &Path) -> Result<Vec<Arc<Canon>>, CanonError> {
        if let Some(known) = self.known.get(folder) {
            return Ok(known.clone());
        }
        let path = folder.join(FILE_NAME);
        let mut found = Vec::new();
        if let Some(text) = self.text(&path)? {
            let canon = Canon::read(&path, &text)?;
            if canon.team.is_some() {
                found.push(Arc::new(self.followed(&canon, &text, folder)?));
            }
            found.push(Arc::new(canon));
        }
        self.known.insert(folder.to_path_buf(), found.clone());
        Ok(found)
    }

    /// The copy of the canon that this one follows.
    fn followed(
        &mut self,
        canon: &Canon,
        text: &str,
        folder: &Path,
    ) -> Result<Canon, CanonError> {
        const NEXT: &str = "kanonix settle --follow";
        let Some(team) = &canon.team else { return Canon::read(&canon.path, text) };
        let wrong = |message: String| {
            CanonError::new(&canon.path, text, team.span.clone(), message)
        };
        let path = Followed::path(folder);
        let Some(copy) = self.text(&path)? else {
            let from = &team.follow;
            let message = format!("there is no copy of the canon of {from} yet: run {NEXT}");
            return Err(wrong(message));
        };
        let Some(followed) = Followed::read(&copy) else {
            let message = "this copy was edited by hand: change the canon that it is of, or put \
                           your own word into kanonix.toml, and take it anew with";
            return Err(CanonError::new(&path, &copy, 0..0, format!("{message} {NEXT}")));
        };
        if followed.from != team.follow || followed.at != team.at {
            let at = followed.at.as_deref().unwrap_or("HEAD");
            let message = format!(
                "the copy in {} is of {} at {at}: see what the other one would change with kanonix \
                 settle --refresh, and take it with kanonix settle --refresh --write",
                super::followed::PATH,
                followed.from
            );
            return Err(wrong(message));
        }
        let mut read = Canon::read(&path, &copy)?;
        if let Some(team) = read.team {
            let message = "a followed canon cannot follow another one";
            return Err(CanonError::new(&path, &copy, team.span, message.into()));
        }
        read.folder = folder.to_path_buf();
        Ok(read)
    }

    fn editorconfig(&mut self, folder: &Path) -> Result<Option<Arc<EditorConfig>>, CanonError> {
        if let Some(known) = self.editorconfigs.get(folder) {
            return Ok(known.clone());
        }
        let path = folder.join(editorconfig::FILE_NAME);
        let found = self.text(&path)?;
        let found = found.map(|text| Arc::new(EditorConfig::read(&path, &text)));
        self.editorconfigs.insert(folder.to_path_buf(), found.clone());
        Ok(found)
    }

    fn text(&mut self, path: &Path) -> Result<Option<String>, CanonError> {
        if let Some(text) = self.instead.get(path) {
            return Ok(Some(text.clone()));
        }
        (self.source)(path).map_err(|problem| CanonError::unreadable(path, &problem))
    }
}

impl Governing {
    /// Whether nobody has said anything.
    pub fn is_empty(&self) -> bool {
        self.canons.is_empty() && self.editorconfigs.is_empty()
    }

    /// The patterns of these canons that match none of the files, or have a backslash. A followed
    /// canon's are another repository's.
    pub fn idle(&self, files: &[PathBuf]) -> Vec<Idle> {
        let own = self.canons.iter().filter(|canon| canon.path.ends_with(FILE_NAME));
        let patterns = own.flat_map(|canon| canon.patterns().map(move |pattern| (canon, pattern)));
        patterns
            .filter_map(|(canon, pattern)| {
                let mut inside = files
                    .iter()
                    .filter_map(|file| file.strip_prefix(&canon.folder).ok());
                let backslash = pattern.text.contains('\\');
                (backslash || !inside.any(|inside| pattern.matches(inside))).then(|| Idle {
                    pattern: pattern.text.clone(),
                    place: SaidAt { path: canon.path.clone(), line: pattern.line },
                    backslash,
                })
            })
            .collect()
    }

    /// Every file that says something, in the order in which they are read.
    pub fn files(&self) -> Vec<PathBuf> {
        let editorconfigs = self.editorconfigs.iter().map(|config| config.path.clone());
        editorconfigs.chain(self.canons.iter().map(|canon| canon.path.clone())).collect()
    }

    /// The sections of `.editorconfig` files that speak of a file.
    fn sections(&self, file: &Path) -> Vec<Vec<usize>> {
        let inside = |config: &EditorConfig| {
            let folder = config.path.parent().unwrap_or(Path::new(""));
            config.sections_of(file.strip_prefix(folder).unwrap_or(file))
        };
        self.editorconfigs.iter().map(|config| inside(config)).collect()
    }

    /// The parts that a file is in: of which canon, and which of its parts.
    fn parts(&self, file: &Path) -> Vec<(usize, usize)> {
        let mut found = Vec::new();
        for (index, canon) in self.canons.iter().enumerate() {
            let Ok(inside) = file.strip_prefix(&canon.folder) else { continue };
            let covers = |part: &usize| canon.parts[*part].covers(inside);
            found.extend((0..canon.parts.len()).filter(covers).map(|part| (index, part)));
        }
        found
    }

    /// What tells this file's style from that of other files in its folder and language.
    pub fn layers(&self, file: &Path) -> Vec<LayerId> {
        let sections = self.sections(file).into_iter().enumerate();
        let sections = sections.flat_map(|(file, all)| all.into_iter().map(move |s| (file, s)));
        let mut layers: Vec<LayerId> = sections.collect();
        layers.push((usize::MAX, usize::MAX));
        layers.extend(self.parts(file));
        layers
    }

    /// Every assignment that holds for a file, the weakest first.
    fn assignments(&self, file: &Path, language: &Language) -> Vec<(PathBuf, Assignment)> {
        let mut properties = Properties::default();
        for (config, sections) in self.editorconfigs.iter().zip(self.sections(file)) {
            config.add(&sections, &mut properties);
        }
        let mut all = properties.assignments();
        for canon in &self.canons {
            all.extend(canon.said_of(language).map(|said| (canon.path.clone(), said.clone())));
        }
        for (canon, part) in self.parts(file) {
            let canon = &self.canons[canon];
            let said = canon.parts[part].style.of(language);
            all.extend(said.map(|said| (canon.path.clone(), said.clone())));
        }
        all
    }

    /// The style of a file in this language, and of what stands in it in others.
    pub fn style(&self, file: &Path, language: &Language) -> Style {
        let mut style = language.style();
        for (_, said) in self.assignments(file, language) {
            // Checked when it was read.
            let has = |slot: &Slot| language.has_slot(slot);
            let _ = style.set_where(has, &said.name, &said.key, &said.value);
        }
        self.embedding(file, language, style)
    }

    /// A style with that of each language that may stand in a file.
    fn embedding(&self, file: &Path, language: &Language, style: Style) -> Style {
        let inner = language.embedded();
        inner.fold(style, |style, inner| style.embedding(inner.name, self.style(file, inner)))
    }

    /// As [`Governing::style`], with the places that say so.
    pub fn agreed(&self, file: &Path, language: &Language) -> Agreed {
        let usual = language.style();
        let mut style = usual.clone();
        let mut places: Vec<Option<SaidAt>> = vec![None; slots().count()];
        for (path, said) in self.assignments(file, language) {
            let has = |slot: &Slot| language.has_slot(slot);
            if style.set_where(has, &said.name, &said.key, &said.value).is_ok() {
                for slot in Style::decided(&said.name, &said.key) {
                    places[slot] = Some(SaidAt { path: path.clone(), line: said.line });
                }
            }
        }
        let said = slots().zip(places).filter_map(|((entry, slot), place)| {
            let known = language.has_slot(slot);
            Some(Said {
                name: slot.path(entry),
                value: style.get(entry.setting, slot.key).to_string(),
                usual: usual.get(entry.setting, slot.key).to_string(),
                place: place.filter(|_| known)?,
            })
        });
        Agreed { said: said.collect(), style: self.embedding(file, language, style.clone()) }
    }

    /// The language of a file and why: the nearest canon's word, else its name's, else what its
    /// text begins with.
    ///
    /// # Errors
    /// If one canon gives two answers.
    pub fn language(
        &self,
        path: &Path,
        beginning: impl FnOnce() -> Option<String>,
    ) -> Result<Option<(&'static Language, Because)>, CanonError> {
        for canon in self.canons.iter().rev() {
            let inside = path.strip_prefix(&canon.folder).unwrap_or(path);
            let mut answers = canon.languages.iter().filter_map(|naming| {
                let pattern = naming.pattern.as_ref().ok()?;
                pattern.glob.is_match(inside).then_some((pattern, naming.language))
            });
            let Some((pattern, language)) = answers.next() else { continue };
            if let Some((other, second)) = answers.find(|(_, other)| other.name != language.name) {
                let path = canon.path.display();
                return Err(CanonError::said(
                    format!("{path}:{}", other.line),
                    format!(
                        "{} is in two languages: `{}` says {} here, and `{}` says {} at \
                         {path}:{}. Make one of the patterns narrower",
                        inside.display(),
                        other.text,
                        second.name,
                        pattern.text,
                        language.name,
                        pattern.line
                    ),
                ));
            }
            let place = SaidAt { path: canon.path.clone(), line: pattern.line };
            return Ok(Some((language, Because::Canon(pattern.text.clone(), place))));
        }
        let name = path.file_name().unwrap_or_default().to_string_lossy();
        // What an agreement is written in is not what it is about, unless it says so.
        if super::is_canon(path) {
            return Ok(None);
        }
        if let Some(language) = languages::of_file(&name) {
            return Ok(Some((language, Because::Name)));
        }
        if languages::is_open(&name) {
            let found = beginning().and_then(|text| languages::of_beginning(&name, &text));
            return Ok(found.map(|language| (language, Because::Beginning)));
        }
        if name.contains('.') {
            return Ok(None);
        }
        let Some(text) = beginning() else { return Ok(None) };
        let Some(program) = languages::interpreter(&text) else { return Ok(None) };
        for canon in self.canons.iter().rev() {
            for naming in &canon.languages {
                if let Err((known, line)) = &naming.pattern
                    && known == program
                {
                    let place = SaidAt { path: canon.path.clone(), line: *line };
                    let because = Because::Canon(format!("#!{program}"), place);
                    return Ok(Some((naming.language, because)));
                }
            }
        }
        Ok(languages::of_interpreter(program).map(|language| (language, Because::FirstLine)))
    }

    /// The pattern by which a canon says that a file is left alone.
    pub fn skips(&self, path: &Path) -> Option<(String, SaidAt)> {
        self.canons.iter().find_map(|canon| {
            let pattern = canon.skips(path)?;
            let place = SaidAt { path: canon.path.clone(), line: pattern.line };
            Some((pattern.text.clone(), place))
        })
    }

    /// The largest file that is judged, in bytes, and where that is said.
    pub fn largest(&self) -> (u64, Option<SaidAt>) {
        let said = self.canons.iter().rev().find_map(|canon| Some((canon, canon.largest?)));
        match said {
            Some((canon, Spoken { value, line })) => {
                (value, Some(SaidAt { path: canon.path.clone(), line }))
            }
            None => (LARGEST, None),
        }
    }

    /// Whether minified files are laid out, and where that is said.
    pub fn formats_minified(&self) -> (bool, Option<SaidAt>) {
        let said = self.canons.iter().rev().find_map(|canon| Some((canon, canon.minified?)));
        match said {
            Some((canon, Spoken { value, line })) => {
                (value, Some(SaidAt { path: canon.path.clone(), line }))
            }
            None => (false, None),
        }
    }

    /// What is said of a file's reach, and where: by the last part that it is in, else by the
    /// nearest canon that speaks of it.
    pub fn reach<T: Copy>(
        &self,
        file: &Path,
        of: fn(&ReachTable) -> Option<Spoken<T>>,
    ) -> Option<(T, SaidAt)> {
        let place = |canon: &Canon, said: Spoken<T>| {
            (said.value, SaidAt { path: canon.path.clone(), line: said.line })
        };
        let parts = self.parts(file);
        let by_part = parts.iter().rev().find_map(|(canon, part)| {
            let canon = &self.canons[*canon];
            of(&canon.parts[*part].reach).map(|said| place(canon, said))
        });
        by_part.or_else(|| {
            let mut canons = self.canons.iter().rev();
            canons.find_map(|canon| of(&canon.reach).map(|said| place(canon, said)))
        })
    }
}
