//! For a person: grouped by file, each slip with its line and a mark under the place.

use super::{Frame, count, left_alone};
use crate::judging::{Judged, Judgement, Place, WITH_SOURCE};
use crate::paint::Paint;

/// Columns in which the message stands before the setting's name.
const MESSAGE: usize = 52;

/// Columns of a source line that are shown.
const SOURCE: usize = 110;

pub(super) fn text(judgement: &Judgement, frame: &Frame, paint: Paint, quiet: bool) -> String {
    let mut out = String::new();
    if let Some(headline) = &frame.headline {
        out.push_str(&format!("{}\n", paint.bad(headline)));
    }
    let with_source = judgement.slips() <= WITH_SOURCE;
    for file in &judgement.files {
        if !file.slips.is_empty() || !file.faults.is_empty() {
            one_file(&mut out, file, paint, with_source);
        }
    }
    if !quiet {
        out.push_str(&summary(judgement, frame, paint));
    }
    out
}

fn one_file(out: &mut String, file: &Judged, paint: Paint, with_source: bool) {
    out.push_str(&format!("{}\n", paint.strong(&file.shown)));
    let mut places: Vec<&Place> = file.slips.iter().chain(&file.faults).collect();
    places.sort_by_key(|place| (place.line, place.column));
    for place in places {
        let at = format!("{}:{}", place.line, place.column);
        let padding = " ".repeat(MESSAGE.saturating_sub(place.message.chars().count()).max(2));
        let name = match place.setting {
            "fault" => paint.bad("fault"),
            setting => paint.name(setting),
        };
        out.push_str(&format!("{at:>10}  {}{padding}{name}\n", place.message));
        if with_source {
            excerpt(out, place, paint);
        }
    }
}

/// The line, and a mark under the place. A long line is shown from a little before the place.
fn excerpt(out: &mut String, place: &Place, paint: Paint) {
    let column = place.column - 1 - place.cut;
    let plain: Vec<char> =
        place.source.chars().map(|c| if c.is_control() { ' ' } else { c }).collect();
    let blank = plain.iter().take_while(|c| **c == ' ').count();
    let from = if column > SOURCE - 20 { column - 40 } else { blank.min(column) };
    let shown: String = plain.iter().skip(from).take(SOURCE).collect();
    let room = shown.chars().count().saturating_sub(column - from).max(1);
    let mark = "^".repeat(place.length.clamp(1, room));
    let indent = " ".repeat(12);
    out.push_str(&format!("{indent}{}\n", paint.faint(shown.trim_end())));
    out.push_str(&format!("{indent}{}{}\n", " ".repeat(column - from), paint.mark(&mark)));
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
        let line = format!("{} in {with_slips} of {of}, {}{older}", count(slips, "slip"), frame.reach);
        out.push_str(&format!("{}\n", paint.strong(&line)));
    }
    let faults: usize = judgement.files.iter().map(|file| file.faults.len()).sum();
    if faults > 0 {
        let places = if faults == 1 { "place does" } else { "places do" };
        out.push_str(&format!("{faults} {places} not parse and stay as they are\n"));
    }
    if let Some(left) = left_alone(&judgement.left_alone) {
        out.push_str(&format!("{}\n", paint.faint(&left)));
    }
    if slips > 0 {
        out.push_str(&format!("mend them with: {}\n", frame.mend));
    }
    out
}
