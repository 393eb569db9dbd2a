//! For a person: a paragraph for each line of code that is not as agreed. The code comes first, as
//! it is and as it should be, and below it what each slip wants.

use super::{Frame, MergeStory, count, left_alone};
use crate::service::judging::Judgement;
use crate::service::places::{Place, WITH_SOURCE};
use crate::paint::Paint;
use kanonix_core::text::visible;

/// Columns before the code: two, the longer of the two words, and two.
const MARGIN: usize = 10;

/// Columns of code that are shown at least.
const LEAST_CODE: usize = 40;

/// Of a line whose first place is far to the right, so much is shown before that.
const BEFORE: usize = 30;

/// So many lines are shown of what one line should become.
const MOST_WANTED: usize = 8;

/// Lines of paragraphs that a gate says, so that its verdict stays on the screen.
const SCREENFUL: usize = 28;

pub(super) fn text(
    judgement: &Judgement,
    frame: &Frame,
    paint: Paint,
    quiet: bool,
    width: usize,
) -> String {
    let mut out = String::new();
    if let Some(headline) = &frame.headline {
        out.push_str(&format!("{}\n", paint.bad(&visible(headline))));
    }
    let room = width.saturating_sub(MARGIN).max(LEAST_CODE);
    let code = Code { room, with_source: judgement.slips() <= WITH_SOURCE };
    let mut told = 0;
    let mut is_cut = false;
    for file in &judgement.files {
        let places = file.places();
        for line in places.chunk_by(|a, b| a.line == b.line && a.cut == b.cut) {
            is_cut |= frame.rest.is_some() && told >= SCREENFUL;
            if is_cut {
                break;
            }
            let heading = format!("{}:{}", file.shown, line[0].line);
            let paragraph = format!(
                "{}\n{}{}",
                paint.strong(&visible(&heading)),
                code.shown(line, paint),
                rows(line, paint)
            );
            told += paragraph.lines().count() + usize::from(code.with_source);
            out.push_str(&paragraph);
            if code.with_source {
                out.push('\n');
            }
        }
    }
    if let Some(rest) = frame.rest
        && is_cut
    {
        out.push_str(&format!("{}\n", paint.faint(&format!("… all of them with: {rest}"))));
    }
    if !quiet {
        out.push_str(&summary(judgement, frame, paint));
    }
    out
}

/// What each slip of a line wants, the setting first; what is wanted in several places, once.
fn rows(line: &[&Place], paint: Paint) -> String {
    let mut wishes: Vec<(&str, &str, usize)> = Vec::new();
    for place in line {
        match wishes
            .iter_mut()
            .find(|(name, what, _)| (*name, *what) == (place.setting, &*place.message))
        {
            Some((_, _, times)) => *times += 1,
            None => wishes.push((place.setting, &place.message, 1)),
        }
    }
    let width = wishes.iter().map(|(name, ..)| name.len()).max().unwrap_or(0);
    let mut out = String::new();
    for (name, what, times) in wishes {
        let padded = format!("{name:width$}");
        let name = match name {
            "fault" | "long_line" => paint.bad(&padded),
            _ => paint.name(&padded),
        };
        let times = if times > 1 { format!(" ({times} times)") } else { String::new() };
        out.push_str(&format!("  {name}  {}{times}\n", visible(what)));
    }
    out
}

/// How code is shown.
struct Code {
    /// Columns that there are for it.
    room: usize,
    with_source: bool,
}

impl Code {
    /// The line as it is, with its marks, and as it should be.
    fn shown(&self, line: &[&Place], paint: Paint) -> String {
        let Some(now) = line.iter().find_map(|place| place.source.as_deref()) else {
            return String::new();
        };
        if !self.with_source {
            return String::new();
        }
        let wanted = line.iter().find_map(|place| place.wanted.as_deref());
        // What is wanted around a line is said below.
        let wanted = wanted.filter(|wanted| wanted.trim_end() != now.trim_end());
        let margin = common_blank(now, wanted);
        let (code, marks) = self.marked(now, line, margin);
        let mut out = format!("  {}     {code}\n", paint.faint("now"));
        out.push_str(&format!("{:MARGIN$}{}\n", "", paint.mark(&marks)));
        let lines = wanted.into_iter().flat_map(str::lines);
        let more = lines.clone().count() > MOST_WANTED;
        for (number, line) in lines.take(MOST_WANTED).enumerate() {
            let mark = if number == 0 { "wanted" } else { "      " };
            let line: String = line.chars().skip(margin).collect();
            let line = self.cut(shown(&line));
            out.push_str(&format!("  {}  {}\n", paint.faint(mark), paint.good(&line)));
        }
        if more {
            out.push_str(&format!("{:MARGIN$}{}\n", "", paint.faint("…")));
        }
        out
    }

    /// A line, and a mark under each of its places. A long line is shown from a little before the
    /// first.
    fn marked(&self, now: &str, line: &[&Place], margin: usize) -> (String, String) {
        let columns = |place: &Place| {
            let column = (place.column - 1 - place.cut) as usize;
            column..column + place.length.max(1) as usize
        };
        let plain: Vec<char> = now.chars().collect();
        let start = line.first().map_or(0, |place| columns(place).start);
        let from = if start + BEFORE > self.room {
            start - BEFORE.min(start)
        } else {
            margin.min(start)
        };
        let (mut code, mut marks) = (String::new(), String::new());
        for column in from..from + self.room {
            if column > plain.len().max(start) {
                break;
            }
            let seen = plain.get(column).map_or(" ".into(), |c| shown(&c.to_string()));
            let marked = line.iter().any(|place| columns(place).contains(&column));
            marks.extend(seen.chars().map(|_| if marked { '^' } else { ' ' }));
            code.push_str(&seen);
        }
        (code.trim_end().into(), marks.trim_end().into())
    }

    fn cut(&self, line: String) -> String {
        match line.chars().count() > self.room {
            true => line.chars().take(self.room - 1).chain(['…']).collect(),
            false => line,
        }
    }
}

/// How many blanks a line begins with, now and as it should be, so that what differs is seen.
fn common_blank(now: &str, wanted: Option<&str>) -> usize {
    let is_blank = |c: &char| matches!(c, ' ' | '\t');
    let blank = now.chars().take_while(is_blank);
    match wanted {
        Some(wanted) => blank.zip(wanted.chars()).take_while(|(a, b)| a == b).count(),
        None => blank.count(),
    }
}

/// A stretch of code, in which tabs are blanks.
fn shown(code: &str) -> String {
    visible(&code.replace(['\t', '\r'], " ")).into_owned()
}

/// So many changes of a canon are shown.
const MOST_CHANGES: usize = 10;

/// By whose canon a branch was judged, and what it makes of the canon.
fn merged(merge: &MergeStory, paint: Paint) -> String {
    let mut out = format!("{}\n", paint.faint(&visible(&merge.judged_by())));
    let changes: Vec<_> = merge.changes().collect();
    if changes.is_empty() {
        return out;
    }
    let judged = match merge.own {
        Some(_) => "the branch changes the canon; that counts once it is merged",
        None => "the branch changes the canon",
    };
    out.push_str(&format!("{}\n", paint.strong(judged)));
    for (path, what, how) in changes.iter().take(MOST_CHANGES) {
        let (path, what, how) = (visible(path), visible(what), visible(how));
        out.push_str(&format!("  {path}  {}  {how}\n", paint.name(&what)));
    }
    if changes.len() > MOST_CHANGES {
        out.push_str(&format!("  and {} more\n", changes.len() - MOST_CHANGES));
    }
    out.extend(merge.own_verdict().map(|own| format!("  {own}\n")));
    out
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
    let keeps = judgement.new_keeps().count();
    if keeps > 0 {
        let keeps = count(keeps, "new comment");
        let verb = if keeps.starts_with("1 ") { "keeps" } else { "keep" };
        out.push_str(&format!("{keeps} {verb} lines as they stand (kanonix: keep)\n"));
    }
    if let Some(left) = left_alone(&judgement.left_alone) {
        out.push_str(&format!("{}\n", paint.faint(&left)));
    }
    if let Some(merge) = frame.merge {
        out.push_str(&merged(merge, paint));
    }
    if slips > 0 {
        out.push_str(&format!("mend them with: {}\n", frame.mend));
    }
    out
}
