//! What has no say in a proposal, as nobody of the team wrote it, and the patterns that leave it
//! alone.

use crate::report::{count, number};
use kanonix_core::survey::{Unlike, is_made, is_vendor_folder, made_name};
use kanonix_repo::work::{Item, NotLoaded, Selection, Why};
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};

/// In a folder of so many files that no person wrote, and no other ones, the folder is named.
const MANY: usize = 3;

/// A file that is set aside.
pub(super) struct Aside {
    inside: PathBuf,
    /// Its path as a person reads it.
    pub shown: String,
    /// The folder of other people's code that it is in; without one, no person wrote it.
    pub vendor: Option<PathBuf>,
    /// What in its name says so.
    named: Option<String>,
}

/// A pattern of files to be left alone, with the reason.
pub(super) struct Skip {
    pub pattern: String,
    pub why: String,
}

impl Skip {
    /// Of what is written otherwise by somebody else.
    pub(super) fn foreign(part: &Unlike) -> Skip {
        let why = format!(
            "{} of its {} would change, and its copyright notice is another one",
            number(part.changed),
            count(part.lines, "line"),
        );
        Skip { pattern: of_part(part), why }
    }
}

/// The pattern of a part of the tree.
pub(super) fn of_part(part: &Unlike) -> String {
    let path = escaped(Path::new(&part.path));
    if part.is_folder { format!("{path}/**") } else { format!("/{path}") }
}

/// Takes the files that nobody of the team wrote out of what is surveyed.
pub(super) fn set_aside(selection: &mut Selection) -> Vec<Aside> {
    let look = |item: &Item| {
        let vendor = vendor_folder(&item.inside);
        let name = item.inside.file_name().unwrap_or_default().to_string_lossy();
        let named = made_name(&name, item.language).map(str::to_string);
        let is_made = || match selection.load(item) {
            Ok(loaded) => is_made(&loaded.text, item.language),
            Err(why) => matches!(why, NotLoaded::LeftAlone(Why::Minified)),
        };
        (vendor.is_some() || named.is_some() || is_made()).then(|| Aside {
            inside: item.inside.clone(),
            shown: item.shown.clone(),
            vendor,
            named,
        })
    };
    let aside: Vec<Option<Aside>> = selection.items.par_iter().map(look).collect();
    let mut marks = aside.iter().map(Option::is_some);
    selection.items.retain(|_| !marks.next().unwrap_or(false));
    aside.into_iter().flatten().collect()
}

/// The outermost folder of other people's code that a file is in.
fn vendor_folder(file: &Path) -> Option<PathBuf> {
    let folders: Vec<&Path> = file.ancestors().skip(1).collect();
    let is_vendors = |folder: &&&Path| {
        folder.file_name().is_some_and(|name| is_vendor_folder(&name.to_string_lossy()))
    };
    folders.iter().rev().find(is_vendors).map(|folder| folder.to_path_buf())
}

/// The patterns that leave these files alone, and none of the others.
pub(super) fn patterns(aside: &[Aside], others: &[Item]) -> Vec<Skip> {
    let mut vendors: BTreeMap<&Path, usize> = BTreeMap::new();
    let mut names: BTreeMap<&str, usize> = BTreeMap::new();
    let mut folders: BTreeMap<&Path, Vec<&Aside>> = BTreeMap::new();
    for file in aside {
        match (&file.vendor, &file.named) {
            (Some(folder), _) => *vendors.entry(folder).or_default() += 1,
            (None, Some(name)) => *names.entry(name).or_default() += 1,
            (None, None) => {
                let folder = file.inside.parent().unwrap_or(Path::new(""));
                folders.entry(folder).or_default().push(file);
            }
        }
    }
    let of_folder = |folder: &Path| format!("{}/**", escaped(folder));
    let mut patterns: Vec<Skip> = vendors
        .into_iter()
        .map(|(folder, files)| Skip {
            pattern: of_folder(folder),
            why: format!("{}, other people's by the folder's name", count(files, "file")),
        })
        .collect();
    patterns.extend(names.into_iter().map(|(name, files)| Skip {
        pattern: if name.starts_with('.') { format!("*{name}") } else { name.to_string() },
        why: match files {
            1 => "no person wrote it, as its name says".into(),
            _ => format!("{}, no person wrote them, as their names say", count(files, "file")),
        },
    }));
    for (folder, files) in folders {
        let is_below = |other: &Item| other.inside.starts_with(folder);
        let is_named = folder.as_os_str().is_empty() || others.iter().any(is_below);
        if files.len() < MANY || is_named {
            // From the root down, wherever else there is a file of the name.
            patterns.extend(files.iter().map(|file| Skip {
                pattern: format!("/{}", escaped(&file.inside)),
                why: "no person wrote it".into(),
            }));
        } else {
            patterns.push(Skip {
                pattern: of_folder(folder),
                why: format!("{}, no person wrote them", count(files.len(), "file")),
            });
        }
    }
    patterns
}

/// A path as a pattern for itself.
fn escaped(path: &Path) -> String {
    let special = |c: char| matches!(c, '*' | '?' | '[' | ']' | '{' | '}');
    let one = |c: char| if special(c) { format!("[{c}]") } else { c.to_string() };
    path.to_string_lossy().replace('\\', "/").chars().map(one).collect()
}
