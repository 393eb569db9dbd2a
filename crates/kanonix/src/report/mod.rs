//! How results are written: for a person at a terminal, as lines for other programs, as JSON.

mod json;
mod lines;
pub(crate) mod story;
mod terminal;

use crate::service::judging::Judgement;
use crate::options::{Color, ReportKind, ReportOption, Voice};
use crate::paint::Paint;
use crate::say::errln;
use anyhow::Context;
use kanonix_core::text::visible;
use kanonix_repo::canon::Idle;
use kanonix_repo::work::LeftAlone;
use std::io::{IsTerminal, Write};
use std::path::Path;
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
    for (path, reason) in &judgement.problems {
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
