//! The table that a lead reads: what is proposed, what speaks for it, and what other values cost.

use super::aside::Aside;
use super::finding::Finding;
use crate::paint::Paint;
use crate::report::{count, number};
use kanonix_core::survey::{Answer, Part, Unlike};
use kanonix_core::text::visible;
use std::collections::{BTreeMap, BTreeSet};
use std::path::PathBuf;

/// Nobody disputes what so much of the code does.
const CLEAR: f64 = 0.95;

/// In fewer places than these, what the community expects is not disputed.
const FEWEST_TOLD: usize = 5;

/// The columns that what other values would change has at least, beside what the code does.
const LEAST_ROOM: usize = 24;

/// So many kinds of files, or files, are named.
const MOST_NAMED: usize = 8;

pub(super) fn percent(share: f64) -> String {
    // Never round up to all, nor down to nothing.
    let whole = (share * 100.0).round();
    match whole {
        whole if whole >= 100.0 && share < 1.0 => "over 99 %".into(),
        whole if whole < 1.0 && share > 0.0 => "under 1 %".into(),
        whole => format!("{whole} %"),
    }
}

pub(super) fn table(findings: &[Finding], paint: Paint, width: usize) -> String {
    let mut out = String::new();
    for finding in findings {
        if !out.is_empty() {
            out.push('\n');
        }
        let sampled = match finding.read < finding.files {
            true => format!(", the prices from {} of them", number(finding.read)),
            false => String::new(),
        };
        out.push_str(&format!(
            "{} · {}{sampled} · {}\n",
            paint.strong(finding.language.name),
            finding.counted(),
            count(finding.lines, "line"),
        ));
        let says = |answer: &&Answer| {
            !answer.usual || (answer.price > 0 && answer.places >= FEWEST_TOLD)
        };
        let answers = finding.answers.iter().filter(says);
        let (clear, disputed): (Vec<&Answer>, Vec<&Answer>) = answers.partition(is_clear);
        rows(&disputed, paint, width, &mut out);
        let told = finding.answers.len() - clear.len() - disputed.len();
        let said = undisputed(&clear, told + clear.iter().filter(|answer| answer.usual).count());
        out.push_str(&folded("  ", &said, width));
        for part in &finding.parts {
            out.push_str(&folded("  ", &of_part(part), width));
        }
        for part in &finding.foreign {
            let said = format!("{}, so it is proposed as skip", otherwise(part));
            out.push_str(&folded(
                "  ",
                &format!("{said}: its copyright notice is another one"),
                width,
            ));
        }
        // What its lines in pages come to, is counted there.
        if finding.files > 0 {
            out.push_str(&format!(
                "  the whole proposal would change {}; as the community has it: {}\n",
                finding.proposed.said(),
                count(finding.usual.lines, "line"),
            ));
        }
    }
    out
}

/// Whether nobody disputes an answer: nearly all of the code does just this.
fn is_clear(answer: &&Answer) -> bool {
    let share = answer.shares.iter().find(|(name, _)| *name == answer.proposed);
    share.is_some_and(|(_, share)| answer.places > 0 && *share >= CLEAR)
}

/// What nobody disputes: by name only what the community does otherwise.
fn undisputed(clear: &[&Answer], usual: usize) -> String {
    let own = clear.iter().filter(|answer| !answer.usual);
    let mut named: Vec<String> =
        own.map(|answer| format!("{} {}", answer.name, answer.proposed)).collect();
    if usual > 0 {
        let more = if named.is_empty() { "setting" } else { "more setting" };
        named.push(format!("{} as the community has it", count(usual, more)));
    }
    match named.is_empty() {
        true => String::new(),
        false => format!("undisputed: {}", named.join(", ")),
    }
}

/// What is proposed for a part of the tree.
fn of_part(part: &Part) -> String {
    let own = part.answers.iter().map(|answer| format!("{} {}", answer.name, answer.proposed));
    format!(
        "{}, {} as a [[part]] with {}",
        otherwise(&part.unlike),
        number(part.changed),
        own.collect::<Vec<_>>().join(", "),
    )
}

/// How a part of the tree is unlike the rest.
fn otherwise(part: &Unlike) -> String {
    format!(
        "{}{} is written otherwise, {} of its {} would change",
        visible(&part.path),
        if part.is_folder { "/" } else { "" },
        number(part.changed),
        count(part.lines, "line"),
    )
}

/// A text in lines of at most so many columns, the later ones further in.
fn folded(indent: &str, text: &str, width: usize) -> String {
    let mut out = String::new();
    let mut column = 0;
    for word in text.split_whitespace() {
        let length = word.chars().count();
        if column > 0 && column + 1 + length > width {
            out.push('\n');
            column = 0;
        }
        let before = match column {
            0 if out.is_empty() => indent.to_string(),
            0 => format!("{indent}{indent}"),
            _ => " ".to_string(),
        };
        column += before.len() + length;
        out.push_str(&before);
        out.push_str(word);
    }
    if !out.is_empty() {
        out.push('\n');
    }
    out
}

fn rows(answers: &[&Answer], paint: Paint, width: usize, out: &mut String) {
    if answers.is_empty() {
        return;
    }
    let says: Vec<String> = answers.iter().map(|answer| evidence(answer)).collect();
    let longest = |head: &str, texts: &mut dyn Iterator<Item = usize>| {
        texts.chain([head.len()]).max().unwrap_or(0)
    };
    let names = longest("setting", &mut answers.iter().map(|answer| answer.name.len()));
    let values = longest("proposed", &mut answers.iter().map(|answer| answer.proposed.len()));
    let shares = longest("the code", &mut says.iter().map(|says| says.chars().count()));
    let before = names + values + shares + 8;
    // Where there is no room for the last column, it has a line of its own.
    let in_two = before + LEAST_ROOM > width;
    let room = if in_two { width.saturating_sub(4) } else { width - before };
    let row = |name: String, value: &str, says: &str, others: &str| {
        let first = format!("  {name}  {value:values$}  {says:shares$}");
        let apart = if in_two && !others.is_empty() { "\n    " } else { "  " };
        let line = match in_two {
            true => format!("{}{apart}{others}", first.trim_end()),
            false => format!("{first}{apart}{others}"),
        };
        format!("{}\n", line.trim_end())
    };
    let head = row(format!("{:names$}", "setting"), "proposed", "the code", "instead, in lines");
    out.push_str(&format!("{}\n", paint.faint(head.trim_end())));
    for (answer, says) in answers.iter().zip(&says) {
        let name = paint.name(&format!("{:names$}", answer.name));
        out.push_str(&row(name.to_string(), &answer.proposed, says, &others(answer, room)));
    }
}

/// What the code does: how much of it has the proposed value, or where that keeps what is there the
/// most frequent one, and the rest.
fn evidence(answer: &Answer) -> String {
    let proposed = answer.shares.iter().find(|(name, _)| *name == answer.proposed);
    let told = proposed.or(answer.shares.first()).filter(|_| answer.places > 0);
    let Some((name, share)) = told else { return String::new() };
    if answer.name == "max_line_length" {
        return format!("{} of {} fit", percent(*share), count(answer.places, "line"));
    }
    if answer.shares.len() == 1 && *share == 0.0 {
        return format!("{} not {name}", number(answer.places));
    }
    let (least, all) = (f64::from(*share > 0.0), 100.0 - f64::from(*share < 1.0));
    let most = (share * 100.0).round().clamp(least, all) as usize;
    let others = match &answer.shares[..] {
        [one, other] if one.0 == *name => other.0.as_str(),
        [other, _] => other.0.as_str(),
        _ => "others",
    };
    let rest = match 100 - most {
        0 => String::new(),
        rest => format!(", {others} {rest} %"),
    };
    format!("{name} {most} %{rest} of {}", number(answer.places))
}

/// What the other values would change beyond what the proposal does, as many as there is room for:
/// the cheapest first, and last the one that keeps what is there, which hardly ever changes more.
fn others(answer: &Answer, room: usize) -> String {
    let proposed = answer.costs.iter().find(|cost| cost.value == answer.proposed);
    let proposed = proposed.map_or(0, |cost| cost.lines) as i64;
    let mut others: Vec<(i64, &str)> = answer
        .costs
        .iter()
        .filter(|cost| cost.value != answer.proposed)
        .map(|cost| (cost.lines as i64 - proposed, cost.value.as_str()))
        .collect();
    others.sort_by_key(|(more, value)| (value.starts_with("keep"), *more));
    let mut out = String::new();
    for (more, value) in others {
        let sign = if more < 0 { '-' } else { '+' };
        let one = format!("{value} {sign}{}", number(more.unsigned_abs() as usize));
        let apart = if out.is_empty() { "" } else { " · " };
        let length = [&out, apart, &one].iter().map(|text| text.chars().count()).sum::<usize>();
        if length > room {
            break;
        }
        out.push_str(apart);
        out.push_str(&one);
    }
    out
}

/// What had no say: files that nobody of the team wrote, and kinds of files without a language.
pub(super) fn beside(aside: &[Aside], uncovered: &[PathBuf]) -> String {
    let mut out = String::new();
    if !aside.is_empty() || !uncovered.is_empty() {
        out.push('\n');
    }
    let (vendored, made): (Vec<&Aside>, Vec<&Aside>) =
        aside.iter().partition(|file| file.vendor.is_some());
    let mut tell = |files: usize, whose: &str, names: BTreeSet<String>| {
        if files == 0 {
            return;
        }
        out.push_str(&format!(
            "{} {whose} had no say, and {} proposed as skip:\n",
            count(files, "file"),
            if files == 1 { "is" } else { "are" },
        ));
        let more = rest(names.len(), "");
        for name in names.into_iter().take(MOST_NAMED).chain(more) {
            out.push_str(&format!("  {name}\n"));
        }
    };
    let folders = vendored.iter().filter_map(|file| file.vendor.as_deref());
    let folders = folders.map(|folder| visible(&format!("{}/", folder.display())).into_owned());
    tell(vendored.len(), "of other people's, by the name of their folder,", folders.collect());
    let names = made.iter().map(|file| visible(&file.shown).into_owned());
    tell(made.len(), "that no person wrote", names.collect());
    let mut kinds: BTreeMap<String, usize> = BTreeMap::new();
    for path in uncovered {
        let kind = match (path.extension(), path.file_name()) {
            (Some(ending), _) => format!(".{}", ending.to_string_lossy()),
            (None, Some(name)) => name.to_string_lossy().into_owned(),
            (None, None) => continue,
        };
        *kinds.entry(visible(&kind).into_owned()).or_default() += 1;
    }
    let mut kinds: Vec<(String, usize)> = kinds.into_iter().collect();
    kinds.sort_by_key(|(_, files)| std::cmp::Reverse(*files));
    if !kinds.is_empty() {
        let one = |(kind, files): &(String, usize)| format!("{} {kind}", number(*files));
        let mut said: Vec<String> = kinds.iter().take(MOST_NAMED).map(one).collect();
        said.extend(rest(kinds.len(), " kinds"));
        out.push_str(&format!(
            "in no language that is known, so not covered: {}\n",
            said.join(", ")
        ));
    }
    out
}

/// "and 3 more", or "and 3 more kinds", where not all are named.
fn rest(all: usize, what: &str) -> Option<String> {
    (all > MOST_NAMED).then(|| format!("and {} more{what}", number(all - MOST_NAMED)))
}
