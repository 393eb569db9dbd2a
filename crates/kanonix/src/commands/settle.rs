//! `kanonix settle`: the lead's command. It surveys the code and proposes a canon, prices single
//! choices, changes the canon that is there, and follows another team's.

mod aside;
mod finding;
mod proposal;
mod questions;
mod table;
mod team;
mod written;

use super::here;
use crate::Status;
use crate::service::judging::{Wishes, judge_items};
use crate::options::Settle;
use crate::say::outln;
use kanonix_repo::canon::{FILE_NAME, schema, text_at};
use kanonix_repo::work::{Selection, WorkError, select_under};
use std::path::{Path, PathBuf};

pub(crate) fn run(options: &Settle) -> anyhow::Result<Status> {
    if options.schema {
        outln!("{}", serde_json::to_string_pretty(&schema::schema())?);
        return Ok(Status::Clean);
    }
    let tree = Tree::find(options)?;
    if options.follow {
        team::follow(&tree, options)
    } else if options.refresh {
        team::refresh(&tree, options)
    } else if !options.price.is_empty() {
        questions::price(&tree, options)
    } else if !options.set.is_empty() {
        questions::set_values(&tree, options)
    } else {
        proposal::run(&tree, options)
    }
}

/// The tree that is settled.
struct Tree {
    here: PathBuf,
    /// The repository's root, or the current folder.
    root: PathBuf,
    /// What is surveyed.
    place: PathBuf,
    /// The root's canon.
    canon: PathBuf,
}

/// What a check of all lines counts.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
struct Total {
    lines: usize,
    files: usize,
}

impl Tree {
    fn find(options: &Settle) -> anyhow::Result<Tree> {
        let here = here()?;
        let repository = kanonix_repo::git::Repository::find(&here).unwrap_or(None);
        let root = match repository {
            Some(repository) => repository.root,
            None => std::fs::canonicalize(&here)?,
        };
        let place = options.path.clone().unwrap_or_else(|| root.clone());
        let canon = root.join(FILE_NAME);
        Ok(Tree { here, root, place, canon })
    }

    /// The root's canon, if there is one.
    fn text(&self) -> anyhow::Result<Option<String>> {
        Ok(text_at(&self.root, &self.canon).map_err(WorkError::from)?)
    }

    /// All files, as if these texts stood at these paths.
    fn under(&self, texts: &[(PathBuf, String)]) -> anyhow::Result<Selection> {
        Ok(select_under(&self.here, std::slice::from_ref(&self.place), texts)?)
    }

    /// What a check of all lines counts, as if these texts stood at these paths.
    fn total(&self, texts: &[(PathBuf, String)]) -> anyhow::Result<Total> {
        let judgement = judge_items(
            &self.under(texts)?,
            Wishes { older: true, ..Wishes::default() },
        );
        let files = judgement.files.iter().filter(|file| !file.slips.is_empty()).count();
        Ok(Total { lines: judgement.lines(), files })
    }

    /// A path of the tree as a person reads it.
    fn shown(&self, path: &Path) -> String {
        kanonix_repo::work::shown_from(&self.here, path)
    }
}

impl Total {
    /// "57 lines in 31 files".
    fn said(self) -> String {
        use crate::report::count;
        format!("{} in {}", count(self.lines, "line"), count(self.files, "file"))
    }
}
