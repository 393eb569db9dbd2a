//! `kanonix watch`: mends files as any program saves them.

mod folders;
mod gits;

use super::mend::storing;
use crate::service::mending::{Done, mended_unless};
use crate::Status;
use crate::options::{BadOption, Watch};
use crate::paint::Paint;
use crate::report::count;
use crate::say::{errln, outln};
use anyhow::Context;
use folders::Folders;
use gits::Gits;
use kanonix_core::text::{LineSet, Lines, changed_lines, visible, visible_lines};
use kanonix_repo::canon::Canons;
use kanonix_repo::system::files;
use kanonix_repo::git::Repository;
use kanonix_repo::undo::Store;
use kanonix_repo::work::{Item, Reach, Selection, is_visible, select, shown_from};
use rayon::prelude::*;
use std::collections::{BTreeSet, HashMap};
use std::io::Write;
use std::path::{Path, PathBuf};
use std::sync::mpsc;
use std::time::{Duration, Instant};

/// A burst of saves has ended when nothing happens for so long, or goes on for longer.
const QUIET: Duration = Duration::from_millis(40);
const LONGEST_BURST: Duration = Duration::from_millis(500);

/// What is waited for.
enum Event {
    /// Something happened to these paths.
    Seen(Vec<PathBuf>),
    /// Somebody ends it.
    End,
}

pub(crate) fn run(options: &Watch) -> anyhow::Result<Status> {
    let here = super::here()?;
    let asked = match &options.path {
        Some(path) => here.join(path),
        None => match Repository::find(&here)? {
            Some(repository) => repository.root,
            None => here.clone(),
        },
    };
    let Ok(folder) = std::fs::canonicalize(&asked) else {
        let message = format!("{}: there is no such folder", asked.display());
        return Err(BadOption(message).into());
    };
    if !folder.is_dir() {
        let message = format!("{} is a file: watch takes a folder", asked.display());
        return Err(BadOption(message).into());
    }
    let (events, queue) = mpsc::channel();
    let end = events.clone();
    ctrlc::set_handler(move || {
        let _ = end.send(Event::End);
    })
    .context("signals cannot be waited for")?;
    let repository = Repository::find(&folder)?;
    super::take_back(&Store::of(repository.as_ref()), &here)?;
    let mut watching = Watching {
        folders: Folders::watch(&folder, move |paths| {
            let _ = events.send(Event::Seen(paths));
        })?,
        gits: repository.map(Gits::new),
        written: HashMap::new(),
        paint: Paint::new(options.voice.color),
        quiet: options.voice.quiet,
        here,
        waits: false,
        mended: (0, 0),
    };
    if let Some(gits) = &watching.gits {
        gits.folders().iter().for_each(|folder| watching.folders.add_one(folder));
    }
    watching.begin(&folder);
    while let Some(paths) = next_burst(&queue, watching.gits.as_ref()) {
        watching.burst(paths);
    }
    watching.end();
    Ok(Status::Clean)
}

/// Waits for the next burst of saves; nothing at the end. While git holds its index, what it writes
/// belongs to the same burst.
fn next_burst(queue: &mpsc::Receiver<Event>, gits: Option<&Gits>) -> Option<BTreeSet<PathBuf>> {
    let mut paths = BTreeSet::new();
    match queue.recv() {
        Ok(Event::Seen(seen)) => paths.extend(seen),
        Ok(Event::End) | Err(_) => return None,
    }
    let begun = Instant::now();
    loop {
        match queue.recv_timeout(QUIET) {
            Ok(Event::Seen(seen)) => paths.extend(seen),
            Ok(Event::End) | Err(mpsc::RecvTimeoutError::Disconnected) => return None,
            Err(mpsc::RecvTimeoutError::Timeout) => {
                if !gits.is_some_and(Gits::is_busy) {
                    return Some(paths);
                }
            }
        }
        if begun.elapsed() > LONGEST_BURST && !gits.is_some_and(Gits::is_busy) {
            return Some(paths);
        }
    }
}

struct Watching {
    folders: Folders,
    gits: Option<Gits>,
    /// What was written last, by path: seen again, it is nobody's save.
    written: HashMap<PathBuf, String>,
    paint: Paint,
    quiet: bool,
    here: PathBuf,
    /// Whether something is under way in git, and that has been said.
    waits: bool,
    /// How many lines and files were mended.
    mended: (usize, usize),
}

impl Watching {
    fn begin(&self, folder: &Path) {
        if !self.quiet {
            let name = match shown_from(&self.here, folder) {
                name if name.is_empty() => folder.display().to_string(),
                name => name,
            };
            let folders = count(self.folders.count(), "folder");
            outln!("watching {name}, {folders} · end it with Ctrl-C");
            if !self.is_agreed(folder) {
                errln!(
                    "kanonix: nothing has been agreed here yet (there is no kanonix.toml and no \
                     .editorconfig), so nothing is mended on save. Propose a canon with: kanonix settle"
                );
            }
        }
    }

    /// Whether a canon or an `.editorconfig` governs the folder, or a wrong one that is said later.
    fn is_agreed(&self, folder: &Path) -> bool {
        let root = self.gits.as_ref().map_or(folder, |gits| gits.root());
        let governing = Canons::on_disk(root).governing(&folder.join("any"));
        governing.map_or(true, |governing| !governing.is_empty())
    }

    fn end(&self) {
        if !self.quiet {
            let (lines, files) = self.mended;
            outln!("{} in {} mended", count(lines, "line"), count(files, "file"));
        }
    }

    /// Mends what somebody saved.
    fn burst(&mut self, paths: BTreeSet<PathBuf>) {
        let by_git = self.gits.as_mut().is_some_and(|gits| gits.has_written(&paths));
        let mut files = BTreeSet::new();
        for path in paths {
            if self.gits.as_ref().is_some_and(|gits| gits.is_inside(&path)) {
                continue;
            }
            if path.is_dir() {
                files.extend(self.folders.add(&path));
            } else if path.is_file() {
                files.insert(path);
            }
        }
        if by_git {
            return;
        }
        if let Some(what) = self.gits.as_ref().and_then(Gits::under_way) {
            if !std::mem::replace(&mut self.waits, true) {
                errln!(
                    "kanonix: {} is under way: nothing is mended until it is done",
                    what.as_str()
                );
            }
            return;
        }
        self.waits = false;
        let own = |path: &PathBuf| {
            let written = self.written.get(path);
            written.is_some_and(|written| {
                files::read(path, written.len() as u64).is_ok_and(|now| now == written.as_bytes())
            })
        };
        let files: Vec<PathBuf> = files.into_iter().filter(|path| !own(path)).collect();
        let files = match &self.gits {
            Some(gits) => gits.saved(&files),
            None => files.into_iter().filter(|path| is_visible(path)).collect(),
        };
        if files.is_empty() {
            return;
        }
        if let Err(error) = self.mend(&files) {
            errln!("kanonix: {}", visible_lines(&crate::from_here(&format!("{error:#}"))));
        }
    }

    fn mend(&mut self, files: &[PathBuf]) -> anyhow::Result<()> {
        let selection = select(&self.here, files, &Reach::Saved { without_canon: false })?;
        let items = selection.items.par_iter();
        let mut done: Vec<(&Item, Done)> =
            items.map(|item| (item, mended(&selection, item))).collect();
        storing::store(&selection, &mut done)?;
        let mut out = String::new();
        for (item, done) in done {
            match done {
                Done::Mended { old, new, notes, .. } => {
                    let lines = changed_lines(&old, &new);
                    self.mended = (self.mended.0 + lines, self.mended.1 + 1);
                    let name = self.paint.strong(&visible(&item.shown));
                    out.push_str(&format!("{name}  {}\n", count(lines, "line")));
                    out.extend(notes.iter().map(|note| format!("    {note}\n")));
                    self.written.insert(item.path.clone(), new);
                }
                Done::Problem(reason) => {
                    errln!("kanonix: {}: {}", visible(&item.shown), visible(&reason));
                }
                Done::Clean { .. } | Done::LeftAlone(_) => {}
            }
        }
        if !self.quiet {
            let mut output = std::io::stdout().lock();
            let _ = output.write_all(out.as_bytes()).and_then(|()| output.flush());
        }
        Ok(())
    }
}

/// A saved file once it is mended. One that does not parse is still being written.
fn mended(selection: &Selection, item: &Item) -> Done {
    mended_unless(selection, item, |document| {
        let faults = document.judge(&item.style, &LineSet::default()).faults;
        let (line, _) = Lines::new(document.text()).place(document.text(), faults.first()?.start);
        Some(format!("line {line} does not parse: it is left as it is"))
    })
}
