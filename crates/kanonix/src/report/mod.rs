//! How results are written: for a person at a terminal, as lines for other programs, as JSON.

mod json;
mod junit;
mod lines;
mod markdown;
mod patch;
mod sarif;
pub(crate) mod story;
mod terminal;

use crate::Status;
use crate::service::judging::Judgement;
use crate::options::{Color, ReportKind, ReportOption, Voice};
use crate::paint::Paint;
use crate::say::errln;
use anyhow::Context;
use kanonix_core::text::visible;
use kanonix_repo::canon::Idle;
use kanonix_repo::git::short_name;
use kanonix_repo::work::{JudgedBy, LeftAlone, Merging};
use std::io::{IsTerminal, Write};
use std::path::{Component, Path, PathBuf};
use std::time::{Duration, SystemTime, UNIX_EPOCH};

/// "3 minutes ago".
pub(crate) fn ago(when: u64) -> String {
    let then = UNIX_EPOCH + Duration::from_secs(when);
    let seconds = SystemTime::now().duration_since(then).unwrap_or_default().as_secs();
    match seconds {
        0..60 => "just now".into(),
        60..3600 => format!("{} ago", count(seconds as usize / 60, "minute")),
        3600..86_400 => format!("{} ago", count(seconds as usize / 3600, "hour")),
        _ => format!("{} ago", count(seconds as usize / 86_400, "day")),
    }
}

/// What a report says around the slips.
pub(crate) struct Frame<'a> {
    /// "on touched lines".
    pub reach: &'a str,
    /// Said before the slips if there are any: the gate's first line.
    pub headline: Option<String>,
    /// The command that mends them.
    pub mend: &'a str,
    /// The command that says the rest, where a reader gets a screenful and each line as it should
    /// be.
    pub rest: Option<&'a str>,
    /// What is known of the merge, at its gate.
    pub merge: Option<&'a MergeStory<'a>>,
}

/// A merge, and what became of the canon in it.
pub(crate) struct MergeStory<'a> {
    pub merging: &'a Merging,
    /// What named the target, if nobody did.
    pub because: Option<&'a str>,
    /// The verdict under the branch's own canon, where that is another one.
    pub own: Option<&'a Judgement>,
}

impl MergeStory<'_> {
    /// By whose canon the branch was judged, and into what.
    pub fn judged_by(&self) -> String {
        let into = short_name(&self.merging.into);
        let because = self.because.map_or(String::new(), |why| format!(" (named by {why})"));
        match self.merging.judged_by {
            JudgedBy::Target => format!("judged by the canon of {into}{because}"),
            JudgedBy::Branch => format!(
                "judged by the branch's own canon, not that of {into}{because}"
            ),
            JudgedBy::BranchAlone => format!(
                "nothing has been agreed in {into}{because} yet: judged by the branch's own canon"
            ),
        }
    }

    /// What the branch makes otherwise in the canon: path, what, and how.
    pub fn changes(&self) -> impl Iterator<Item = (String, String, String)> {
        self.merging.changes.iter().map(|change| {
            let how = match (&change.before, &change.after) {
                (None, Some(now)) => format!("new: {}", cut(now)),
                (Some(before), None) => format!("gone: {}", cut(before)),
                (before, now) => {
                    let word = |word: &Option<String>| cut(word.as_deref().unwrap_or_default());
                    format!("{} becomes {}", word(before), word(now))
                }
            };
            (change.path.display().to_string(), cut(&change.what), how)
        })
    }

    /// The verdict under the branch's own canon, in words.
    pub fn own_verdict(&self) -> Option<String> {
        let own = self.own?;
        Some(match own.lines() {
            _ if own.status() == Status::Incomplete => {
                "under its own canon it would be stopped, as something could not be judged".into()
            }
            0 => "under its own canon it would pass".into(),
            lines => format!("under its own canon, {} would stop it", count(lines, "line")),
        })
    }
}

/// A path from the repository's root, or as it was given outside of one.
fn inside(judgement: &Judgement, path: &Path) -> PathBuf {
    let inside = judgement.root.as_ref().and_then(|root| path.strip_prefix(root).ok());
    inside.unwrap_or(path).to_path_buf()
}

/// A path as it was shown, from the repository's root.
fn from_root(judgement: &Judgement, shown: &str) -> PathBuf {
    let Some(here) = judgement.root.as_ref().and_then(|_| std::env::current_dir().ok()) else {
        return shown.into();
    };
    let mut whole = PathBuf::new();
    for part in here.join(shown).components() {
        match part {
            Component::ParentDir => _ = whole.pop(),
            Component::CurDir => {}
            part => whole.push(part),
        }
    }
    inside(judgement, &whole)
}

/// So much of a stranger's word is shown, in characters.
const LONGEST_WORD: usize = 80;

/// A word, as far as there is room for it.
fn cut(word: &str) -> String {
    cut_at(word, LONGEST_WORD)
}

/// A text of so many characters at most.
fn cut_at(text: &str, most: usize) -> String {
    match text.chars().nth(most) {
        Some(_) => text.chars().take(most - 1).chain(['…']).collect(),
        None => text.into(),
    }
}

/// Writes what was asked for. Without a word, a person gets the grouped report and a pipe gets
/// lines, with the summary on standard error.
pub(crate) fn write(
    judgement: &Judgement,
    frame: &Frame,
    reports: &[ReportOption],
    voice: &Voice,
) -> anyhow::Result<()> {
    let paint = Paint::new(voice.color);
    let for_person = std::io::stdout().is_terminal();
    let mut out = std::io::stdout().lock();
    write_asked(&mut out, judgement, frame, reports)?;
    let takes_output = reports.iter().any(ReportOption::takes_output);
    if takes_output || (voice.quiet && judgement.slips() == 0) {
        return say_problems(judgement);
    }
    if for_person || voice.color == Color::Always {
        let width = width_of(&std::io::stdout());
        to(&mut out, &terminal::text(judgement, frame, paint, voice.quiet, width))?;
    } else {
        to(&mut out, &lines::text(judgement))?;
        if !voice.quiet {
            if let Some(headline) = &frame.headline {
                errln!("{}", visible(headline));
            }
            crate::say::err(format_args!(
                "{}",
                terminal::summary(judgement, frame, Paint::new(Color::Never))
            ));
        }
    }
    say_problems(judgement)
}

/// Writes the reports that were asked for by name, and nothing else.
pub(crate) fn write_asked(
    out: &mut impl Write,
    judgement: &Judgement,
    frame: &Frame,
    reports: &[ReportOption],
) -> anyhow::Result<()> {
    for report in reports {
        let text = match report.kind {
            ReportKind::Lines => lines::text(judgement),
            ReportKind::Json => json::text(judgement, frame)?,
            ReportKind::Sarif => sarif::text(judgement)?,
            ReportKind::Junit => junit::text(judgement)?,
            ReportKind::Markdown => markdown::text(judgement, frame),
            ReportKind::Patch => patch::text(judgement),
        };
        match &report.file {
            Some(file) => std::fs::write(file, text)
                .with_context(|| format!("the report {} cannot be written", file.display()))?,
            None => to(out, &text)?,
        }
    }
    Ok(())
}

/// A reader that went away (`| head`) is no problem of ours.
pub(crate) fn to(out: &mut impl Write, text: &str) -> anyhow::Result<()> {
    bytes_to(out, text.as_bytes())
}

/// As [`to`].
pub(crate) fn bytes_to(out: &mut impl Write, bytes: &[u8]) -> anyhow::Result<()> {
    match out.write_all(bytes).and_then(|()| out.flush()) {
        Err(error) if error.kind() != std::io::ErrorKind::BrokenPipe => Err(error.into()),
        _ => Ok(()),
    }
}

fn say_problems(judgement: &Judgement) -> anyhow::Result<()> {
    for (path, reason) in judgement.notes.iter().chain(&judgement.problems) {
        errln!("kanonix: {}: {}", visible(path), visible(reason));
    }
    Ok(())
}

/// "2 slips", "1 slip".
pub(crate) fn count(of: usize, what: &str) -> String {
    format!("{} {what}{}", number(of), if of == 1 { "" } else { "s" })
}

/// "12,345".
pub(crate) fn number(number: usize) -> String {
    let mut digits = number.to_string();
    let mut at = digits.len();
    while at > 3 {
        at -= 3;
        digits.insert(at, ',');
    }
    digits
}

/// The columns of what is no terminal.
const USUAL_WIDTH: usize = 100;

/// How many columns an output has.
pub(crate) fn width_of(output: &impl IsTerminal) -> usize {
    let size = output.is_terminal().then(|| terminal_size::terminal_size()).flatten();
    size.map_or(USUAL_WIDTH, |(width, _)| usize::from(width.0))
}

/// What is to be said of a pattern that does nothing; `shown` gives a path as a person reads it.
pub(crate) fn idle(idle: &Idle, shown: impl Fn(&Path) -> String) -> String {
    let place = format!("{}:{}", shown(&idle.place.path), idle.place.line);
    let what = match idle.backslash {
        true => "has a backslash: write `/` between folders",
        false => "matches no file here",
    };
    visible(&format!("{place}: the pattern `{}` {what}", idle.pattern)).into_owned()
}

/// "left alone: 2 binary, 1 too large", or nothing. Files in no known language are no news where a
/// whole repository was asked for, and are said in the count alone.
pub(crate) fn left_alone(left: &LeftAlone) -> Option<String> {
    let said: Vec<String> =
        left.iter().map(|(why, paths)| format!("{} {}", paths.len(), why.as_str())).collect();
    (!said.is_empty()).then(|| format!("files left alone: {}", said.join(", ")))
}
