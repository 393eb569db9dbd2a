//! For a person: grouped by file, each slip with its line and a mark under the place.

use super::{Frame, count, left_alone};
use crate::judging::Judgement;
use crate::places::{Place, WITH_SOURCE};
use crate::paint::Paint;
use kanonix_core::text::visible;

/// Columns in which the message stands before the setting's name.
const MESSAGE: usize = 52;

/// Columns of a source line that are shown.
const SOURCE: usize = 110;

/// Lines of places that a gate says, so that its verdict stays on the screen.
const SCREENFUL: usize = 28;

/// Lines that an excerpt takes.
const LINES_OF_SOURCE: usize = 2;

pub(super) fn text(judgement: &Judgement, frame: &Frame, paint: Paint, quiet: bool) -> String {
    let mut out = String::new();
    if let Some(headline) = &frame.headline {
        out.push_str(&format!("{}\n", paint.bad(&visible(headline))));
    }
    let with_source = judgement.slips() <= WITH_SOURCE;
    let mut told = 0;
    for file in &judgement.files {
        let places = file.places();
        if places.is_empty() {
            continue;
        }
        if frame.rest.is_some() && told >= SCREENFUL {
            break;
        }
        out.push_str(&format!("{}\n", paint.strong(&visible(&file.shown))));
        for line in places.chunk_by(|a, b| a.line == b.line && a.cut == b.cut) {
            if frame.rest.is_none() || told < SCREENFUL {
                one_line(&mut out, line, paint, with_source);
                if frame.rest.is_some() {
                    told += line.len() + LINES_OF_SOURCE + wanted(&mut out, line, paint);
                }
            }
        }
    }
    if let Some(rest) = frame.rest
        && told >= SCREENFUL
    {
        out.push_str(&format!("{}\n", paint.faint(&format!("… all of them with: {rest}"))));
    }
    if !quiet {
        out.push_str(&summary(judgement, frame, paint));
    }
    out
}

/// What is said of one line.
fn one_line(out: &mut String, line: &[&Place], paint: Paint, with_source: bool) {
    for place in line {
        let at = format!("{}:{}", place.line, place.column);
        let message = visible(&place.message);
        let missing = MESSAGE.saturating_sub(message.chars().count());
        let padding = " ".repeat(missing.max(2));
        let name = match place.setting {
            "fault" | "long_line" => paint.bad(place.setting),
            setting => paint.name(setting),
        };
        out.push_str(&format!("{at:>10}  {message}{padding}{name}\n"));
    }
    if with_source {
        excerpt(out, line, paint);
    }
}

/// The line as it should be; says on how many lines.
fn wanted(out: &mut String, line: &[&Place], paint: Paint) -> usize {
    let Some(wanted) = line.iter().find_map(|place| place.wanted.as_deref()) else { return 0 };
    let blank = wanted.len() - wanted.trim_start().len();
    let mut lines = 0;
    for (number, line) in wanted.lines().enumerate() {
        let mark = if number == 0 { "wanted" } else { "" };
        let line = line.get(blank..).unwrap_or(line.trim_start());
        let line: String = shown(line).chars().take(SOURCE).collect();
        out.push_str(&format!("{mark:>10}  {}\n", paint.good(&line)));
        lines += 1;
    }
    lines
}

/// A stretch of code, in which tabs are blanks.
fn shown(code: &str) -> String {
    visible(&code.replace(['\t', '\r'], " ")).into_owned()
}

/// The line, and a mark under each of its places. A long line is shown from a little before the
/// first.
fn excerpt(out: &mut String, line: &[&Place], paint: Paint) {
    let Some(first) = line.first() else { return };
    let columns = |place: &Place| {
        let column = (place.column - 1 - place.cut) as usize;
        column..column + place.length.max(1) as usize
    };
    let Some(source) = &first.source else { return };
    let plain: Vec<char> = source.chars().collect();
    let blank = plain.iter().take_while(|c| matches!(c, ' ' | '\t')).count();
    let start = columns(first).start;
    let from = if start > SOURCE - 20 { start - 40 } else { blank.min(start) };
    let (mut code, mut marks) = (String::new(), String::new());
    for column in from..from + SOURCE {
        let seen = plain.get(column).map_or(" ".into(), |c| shown(&c.to_string()));
        if column > plain.len().max(start) {
            break;
        }
        let marked = line.iter().any(|place| columns(place).contains(&column));
        marks.extend(seen.chars().map(|_| if marked { '^' } else { ' ' }));
        code.push_str(&seen);
    }
    let indent = " ".repeat(12);
    out.push_str(&format!("{indent}{}\n", paint.faint(code.trim_end())));
    out.push_str(&format!("{indent}{}\n", paint.mark(marks.trim_end())));
}

pub(super) fn summary(judgement: &Judgement, frame: &Frame, paint: Paint) -> String {
    let mut out = String::new();
    let slips = judgement.slips();
    let files = judgement.files.len();
    let with_slips = judgement.files.iter().filter(|file| !file.slips.is_empty()).count();
    let older = match judgement.older() {
        0 => String::new(),
        older => format!(" · {} left alone", count(older, "older slip")),
    };
    if slips == 0 {
        let looked = count(files, "file");
        let line = format!("no slips in {looked}, {}{older}", frame.reach);
        out.push_str(&format!("{}\n", paint.good(&line)));
    } else {
        let of = count(files, "file");
        let slips = count(slips, "slip");
        let line = format!("{slips} in {with_slips} of {of}, {}{older}", frame.reach);
        out.push_str(&format!("{}\n", paint.strong(&line)));
    }
    let faults: usize = judgement.files.iter().map(|file| file.faults.len()).sum();
    if faults > 0 {
        out.push_str(&match faults {
            1 => "1 place does not parse and stays as it is\n".to_string(),
            _ => format!("{faults} places do not parse and stay as they are\n"),
        });
    }
    let long: usize = judgement.files.iter().map(|file| file.long_lines.len()).sum();
    if long > 0 {
        out.push_str(&match long {
            1 => "1 line is too long and cannot be broken\n".to_string(),
            _ => format!("{} are too long and cannot be broken\n", count(long, "line")),
        });
    }
    if let Some(left) = left_alone(&judgement.left_alone) {
        out.push_str(&format!("{}\n", paint.faint(&left)));
    }
    if slips > 0 {
        out.push_str(&format!("mend them with: {}\n", frame.mend));
    }
    out
}
