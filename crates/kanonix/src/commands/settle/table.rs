//! The table that a lead reads: what is proposed, what speaks for it, and what other values cost.

use super::proposal::Finding;
use crate::paint::Paint;
use crate::report::{count, number};
use kanonix_core::survey::Answer;
use kanonix_core::text::visible;
use kanonix_repo::work::Item;
use std::collections::BTreeMap;
use std::path::PathBuf;

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
            count(finding.files, "file"),
            count(finding.lines, "line"),
        ));
        let (told, silent): (Vec<&Answer>, Vec<&Answer>) =
            finding.answers.iter().partition(|answer| !answer.usual || answer.price > 0);
        rows(&told, paint, width, &mut out);
        out.push_str(&format!(
            "  the whole proposal would change {}\n  as the community has it: {}",
            finding.proposed.said(),
            count(finding.usual.lines, "line"),
        ));
        out.push_str(&match silent.len() {
            0 => "\n".to_string(),
            others => format!("; {} as usual\n", count(others, "more setting")),
        });
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
    let room = width.saturating_sub(names + values + shares + 8);
    let row = |name: String, value: &str, says: &str, others: &str| {
        let line = format!("  {name}  {value:values$}  {says:shares$}  {others}");
        format!("{}\n", line.trim_end())
    };
    let head = row(format!("{:names$}", "setting"), "proposed", "the code", "instead, in lines");
    out.push_str(&format!("{}\n", paint.faint(head.trim_end())));
    for (answer, says) in answers.iter().zip(&says) {
        let name = paint.name(&format!("{:names$}", answer.name));
        out.push_str(&row(name.to_string(), &answer.proposed, says, &others(answer, room)));
    }
}

/// How much of the code agrees: with what is proposed, or where that keeps what is there, with what
/// most of it does.
fn evidence(answer: &Answer) -> String {
    if answer.places == 0 {
        return String::new();
    }
    let of = number(answer.places);
    match answer.shares.iter().find(|(name, _)| *name == answer.proposed) {
        Some((_, share)) => format!("{} of {of}", percent(*share)),
        None => match answer.shares.first() {
            Some((name, share)) => format!("{name} {} of {of}", percent(*share)),
            None => String::new(),
        },
    }
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

/// What had no say: files that no person wrote, and kinds of files without a language.
pub(super) fn beside(made: &[Item], uncovered: &[PathBuf]) -> String {
    let mut out = String::new();
    if !made.is_empty() || !uncovered.is_empty() {
        out.push('\n');
    }
    if !made.is_empty() {
        out.push_str(&format!(
            "{} that no person wrote had no say, and {} proposed as skip:\n",
            count(made.len(), "file"),
            if made.len() == 1 { "is" } else { "are" },
        ));
        let named = made.iter().take(MOST_NAMED).map(|item| visible(&item.shown).into_owned());
        for name in named.chain(rest(made.len(), "")) {
            out.push_str(&format!("  {name}\n"));
        }
    }
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
