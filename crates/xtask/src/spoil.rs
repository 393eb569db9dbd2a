//! Spoil and judge: lines inside brackets broken and moved, blocks moved, a line of nonsense put in and
//! taken out again after a mend. A reader that is not ours says whether the program is still the same.

use crate::corpus::{files, styles};
use crate::judges::Judges;
use kanonix_core::languages::Language;
use kanonix_core::{judge, mend};
use kanonix_core::properties::{Chance, gaps};
use kanonix_core::style::Style;
use kanonix_core::text::LineSet;
use rayon::prelude::*;
use std::collections::{BTreeMap, HashSet};
use std::path::{Path, PathBuf};

/// One place in so many inside brackets is followed by a line break.
const ONE_IN: usize = 50;

/// So many lines of nonsense are put into a file, one after the other.
const NONSENSE_PER_FILE: usize = 3;

const NONSENSE: [&str; 14] = [
    "= = {}", "( {}", "{} )", "[ {}", "{} ]", "if {}", "class {} (", "{} '", "{} \"", "def {}(",
    "{} = = 1;", "function {}( {", "} {}", "{} ? :",
];

/// What is done to a text.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Debug)]
enum Way {
    Brackets,
    Blocks,
    Nonsense,
}

const WAYS: [Way; 3] = [Way::Brackets, Way::Blocks, Way::Nonsense];

/// What became of one text.
struct Tried {
    language: &'static str,
    way: Way,
    lines: usize,
    path: PathBuf,
    /// What should be one program: nothing where nothing was to be judged.
    texts: (String, String),
    said: String,
}

/// Spoils every file of a folder in every way; whether all that can be judged is the same program.
pub fn run(
    dir: &Path,
    canon: Option<&Path>,
    typescript: Option<&Path>,
    seed: u64,
    show: usize,
) -> anyhow::Result<bool> {
    let styles = styles(canon)?;
    let files = files(dir, None)?;
    std::panic::set_hook(Box::new(|_| {}));
    let mut tried: Vec<Tried> = files
        .par_iter()
        .enumerate()
        .flat_map_iter(|(index, (path, language))| {
            let text = std::fs::read_to_string(path).unwrap_or_default();
            let style = &styles[language.name];
            WAYS.iter()
                .flat_map(move |way| {
                    let mut chance = Chance(
                        seed ^ (index as u64 * 31 + *way as u64).wrapping_mul(0x9e37),
                    );
                    spoilt(*way, &text, path, language, style, &mut chance)
                })
                .collect::<Vec<_>>()
        })
        .collect();
    let mut judges = Judges::start(typescript)?;
    for one in tried.iter_mut().filter(|one| one.said.is_empty()) {
        let kind = one.path.extension().unwrap_or_default().to_string_lossy();
        one.said = judges.ask(one.language, &kind, [&one.texts.0, &one.texts.1])?;
    }
    let mut counts: BTreeMap<(&str, Way), [usize; 4]> = BTreeMap::new();
    for one in &tried {
        let row = counts.entry((one.language, one.way)).or_default();
        let column = match one.said.as_str() {
            "same" => 0,
            "unread" | "unjudged" => 1,
            _ => 2,
        };
        row[column] += 1;
        row[3] += one.lines;
    }
    println!(
        "{:12} {:>9} {:>6} {:>10} {:>8} {:>9}",
        "language",
        "",
        "same",
        "not judged",
        "differ",
        "lines"
    );
    for ((language, way), [same, unread, differ, lines]) in &counts {
        let way = format!("{way:?}").to_lowercase();
        println!("{language:12} {way:>9} {same:>6} {unread:>10} {differ:>8} {lines:>9}");
    }
    let differ: Vec<&Tried> = tried
        .iter()
        .filter(|one| !matches!(one.said.as_str(), "same" | "unread" | "unjudged"))
        .collect();
    for (number, one) in differ.iter().take(show).enumerate() {
        println!("\n{:?}: {}\n  {}", one.way, one.path.display(), one.said);
        let out = Path::new("target/spoilt").join(format!("{number}"));
        std::fs::create_dir_all(&out)?;
        std::fs::write(out.join("before"), &one.texts.0)?;
        std::fs::write(out.join("after"), &one.texts.1)?;
    }
    Ok(differ.is_empty())
}

fn spoilt(
    way: Way,
    text: &str,
    path: &Path,
    language: &'static Language,
    style: &Style,
    chance: &mut Chance,
) -> Vec<Tried> {
    let tried = |before: String, after: String, said: &str| Tried {
        language: language.name,
        way,
        lines: text.lines().count(),
        path: path.to_path_buf(),
        texts: (before, after),
        said: said.into(),
    };
    let whole = |text: &str| {
        mend(text, language, style, &LineSet::whole())
            .map(|mended| mended.text)
            .unwrap_or(text.into())
    };
    let starts = gaps(text, language);
    match way {
        Way::Brackets => {
            let spoilt = in_brackets(text, &starts, language, chance);
            let after = whole(&spoilt);
            vec![tried(spoilt, after, "")]
        }
        Way::Blocks => {
            let spoilt = moved(text, &starts, language, chance);
            let after = whole(&spoilt);
            vec![tried(spoilt, after, "")]
        }
        Way::Nonsense => (0..NONSENSE_PER_FILE)
            .filter_map(|_| {
                let at = starts[..].get(chance.below(starts.len()))?;
                let line = text[..*at].rfind('\n').map_or(0, |end| end + 1);
                if !text[line..*at].trim().is_empty() {
                    return None;
                }
                let word = "put_in_by_chance";
                let nonsense = NONSENSE[chance.below(NONSENSE.len())].replace("{}", word);
                let with = format!(
                    "{}{}{nonsense}\n{}",
                    &text[..line],
                    &text[line..*at],
                    &text[line..]
                );
                // What happens to parse is laid out like all else.
                if judge(&with, language, style, &LineSet::default()).faults.is_empty() {
                    return None;
                }
                let after = whole(&with);
                let found = after.find(word)?;
                let from = after[..found].rfind('\n').map_or(0, |end| end + 1);
                let to = after[found..].find('\n').map_or(after.len(), |end| found + end + 1);
                let said = match after[from..to].trim_start_matches('\u{feff}').trim() == nonsense {
                    true => "",
                    false => "what does not parse did not stay on its line",
                };
                let out = format!("{}{}", &after[..from], &after[to..]);
                Some(tried(text.to_string(), out, said))
            })
            .collect(),
    }
}

/// Line breaks put into brackets, and lines in brackets moved.
fn in_brackets(text: &str, starts: &[usize], language: &Language, chance: &mut Chance) -> String {
    let opens = if language.name == "python" { "([{" } else { "([" };
    let closes = if language.name == "python" { ")]}" } else { ")]" };
    let (mut out, mut done, mut depth) = (String::with_capacity(text.len() * 2), 0, 0usize);
    for at in starts {
        let first = text[*at..].chars().next().unwrap_or(' ');
        if depth > 0 {
            let line = text[..*at].rfind('\n').map_or(0, |end| end + 1);
            let begins = text[line..*at].trim().is_empty() && line >= done;
            let blanks = " ".repeat(chance.below(9));
            if begins && chance.one_in(3) {
                out.push_str(&text[done..line]);
                out.push_str(&blanks);
                done = *at;
            } else if !begins && chance.one_in(ONE_IN) {
                out.push_str(&text[done..*at]);
                out.push('\n');
                out.push_str(&blanks);
                done = *at;
            }
        }
        if opens.contains(first) {
            depth += 1;
        } else if closes.contains(first) {
            depth = depth.saturating_sub(1);
        }
    }
    out.push_str(&text[done..]);
    out
}

/// Blocks of another depth; where indentation is no syntax, every line anywhere.
fn moved(text: &str, starts: &[usize], language: &Language, chance: &mut Chance) -> String {
    let starts: HashSet<usize> = starts.iter().copied().collect();
    let step = ["\t", " ", "  ", "   ", "        "][chance.below(5)];
    let lines = language.grammar.logical_lines(text).unwrap_or_default();
    let mut out = String::with_capacity(text.len() * 2);
    let mut at = 0;
    for line in text.split_inclusive('\n') {
        let solid = line.trim_start_matches([' ', '\t']);
        let start = at + line.len() - solid.len();
        at += line.len();
        let indent = match language.name {
            "python" => lines
                .lines
                .binary_search_by_key(&start, |line| line.start)
                .ok()
                .map(|found| step.repeat(lines.lines[found].depth as usize)),
            _ => starts.contains(&start).then(|| " ".repeat(chance.below(12))),
        };
        match indent {
            Some(indent) if !solid.trim().is_empty() => out.push_str(&format!("{indent}{solid}")),
            _ => out.push_str(line),
        }
    }
    out
}
