//! Why a file, or a line of it, is treated as it is.

use crate::Status;
use crate::options::{BadOption, Explain};
use crate::paint::Paint;
use crate::report::count;
use crate::say::{outln, outpart};
use kanonix_core::style::{Setting, entry};
use kanonix_core::text::{LineSet, Lines, visible};
use kanonix_core::{decided, judge};
use kanonix_repo::canon::{Agreed, Because, Place, Play, Said};
use kanonix_repo::work::{self, Explained};
use serde::Serialize;
use std::path::Path;

/// A value as it is told.
#[derive(Serialize)]
struct Value {
    setting: String,
    value: String,
    /// What the language's community expects.
    usual: String,
    /// `FILE:LINE`.
    said_at: String,
}

/// A place in the file and what is said of it.
#[derive(Serialize)]
struct Spot {
    line: usize,
    column: usize,
    setting: &'static str,
    message: String,
    /// `FILE:LINE`, or nothing where the community is followed.
    said_at: Option<String>,
}

#[derive(Serialize)]
struct Decision {
    setting: &'static str,
    columns: Vec<usize>,
    said_at: Option<String>,
}

#[derive(Serialize)]
struct Occasion {
    lines: &'static str,
    said_at: Option<String>,
}

/// What is known of a file.
#[derive(Serialize)]
pub(crate) struct Report {
    version: u32,
    path: String,
    language: Option<String>,
    language_because: String,
    formatted: bool,
    left_alone_because: Option<String>,
    ignored_by_git: Option<String>,
    governed_by: Vec<String>,
    /// Whether it has a history to compare with.
    has_history: bool,
    save: Occasion,
    commit: Occasion,
    merge: Occasion,
    settings: Vec<Value>,
    faults: Vec<Spot>,
    /// How many lines it has, if it is a text.
    #[serde(skip)]
    lines: Option<usize>,
    line: Option<usize>,
    decided_by: Vec<Decision>,
    slips: Vec<Spot>,
    /// Patterns of its canons that do nothing, in words.
    idle_patterns: Vec<String>,
}

pub(super) fn run(
    here: &Path,
    path: &Path,
    line: Option<usize>,
    options: &Explain,
) -> anyhow::Result<Status> {
    let mut report = told(here, path, line, None, false)?;
    let folder = std::fs::canonicalize(here).unwrap_or(here.to_path_buf());
    let idle = work::idle_patterns(&here.join(path))?;
    let said = |idle| crate::report::idle(idle, |path| work::shown_from(&folder, path));
    report.idle_patterns = idle.iter().map(said).collect();
    if let (Some(asked), Some(lines)) = (line, report.lines)
        && asked > lines
    {
        let lines = count(lines, "line");
        let message = format!("{} has {lines}: there is no line {asked}", visible(&report.path));
        return Err(BadOption(message).into());
    }
    if options.is_json() {
        outln!("{}", serde_json::to_string_pretty(&report)?);
    } else {
        outpart!("{}", text(&report, Paint::new(options.color)));
    }
    Ok(Status::Clean)
}

/// All that is known of a file; with `open`, as if it had this text. `without_canon` says whether
/// the client has a save mend where nothing is agreed.
pub(crate) fn told(
    here: &Path,
    path: &Path,
    line: Option<usize>,
    open: Option<String>,
    without_canon: bool,
) -> anyhow::Result<Report> {
    let explained = work::explain(here, path, open)?;
    let mut report = Explaining { here, explained: &explained }.report(line);
    if report.governed_by.is_empty() && !without_canon {
        report.save.lines = "off";
    }
    Ok(report)
}

struct Explaining<'a> {
    here: &'a Path,
    explained: &'a Explained,
}

impl Explaining<'_> {
    /// A path as a person in this folder writes it.
    fn path(&self, path: &Path) -> String {
        let here = std::fs::canonicalize(self.here).unwrap_or(self.here.to_path_buf());
        work::shown_from(&here, path)
    }

    fn place(&self, place: &Place) -> String {
        format!("{}:{}", self.path(&place.path), place.line)
    }

    fn report(&self, line: Option<usize>) -> Report {
        let explained = self.explained;
        let because = match &explained.language {
            Some((_, Because::Canon(pattern, place))) => {
                format!("`{pattern}` at {}", self.place(place))
            }
            Some((_, Because::Name)) => "by its name".into(),
            Some((_, Because::FirstLine)) => "by its first line".into(),
            None => "no language is known for it".into(),
        };
        let alone = explained.alone.as_ref().map(|alone| {
            let mut said = alone.why.as_str().to_string();
            if !alone.detail.is_empty() {
                said.push_str(&format!(": {}", alone.detail));
            }
            if let Some(place) = &alone.place {
                said.push_str(&format!(" ({})", self.place(place)));
            }
            said
        });
        let occasion = |name: &str| {
            let found = explained.reach.iter().find(|occasion| occasion.name == name);
            Occasion {
                lines: found.map_or("touched", |occasion| in_words(occasion.play)),
                said_at: found.and_then(|one| one.place.as_ref()).map(|place| self.place(place)),
            }
        };
        let said = explained.agreed.iter().flat_map(|agreed| &agreed.said);
        let said = said.filter(|said| said.value != said.usual);
        let mut report = Report {
            version: 1,
            path: explained.shown.clone(),
            language: explained.language.as_ref().map(|(language, _)| language.name.into()),
            language_because: because,
            formatted: alone.is_none(),
            left_alone_because: alone,
            ignored_by_git: explained.ignored.clone(),
            governed_by: explained.governed_by.iter().map(|path| self.path(path)).collect(),
            has_history: explained.has_history,
            save: occasion("save"),
            commit: occasion("commit"),
            merge: occasion("merge"),
            settings: said.map(|said| self.value(said)).collect(),
            faults: Vec::new(),
            lines: explained.text.as_ref().map(|text| text.lines().count()),
            line,
            decided_by: Vec::new(),
            slips: Vec::new(),
            idle_patterns: Vec::new(),
        };
        self.judge(&mut report, line);
        report
    }

    fn value(&self, said: &Said) -> Value {
        Value {
            setting: said.name.clone(),
            value: said.value.clone(),
            usual: said.usual.clone(),
            said_at: self.place(&said.place),
        }
    }

    /// Adds what only the text can say: faults, and what is wanted of a line.
    fn judge(&self, report: &mut Report, line: Option<usize>) {
        let explained = self.explained;
        let (Some(text), Some((language, _)), Some(agreed)) =
            (&explained.text, &explained.language, &explained.agreed)
        else {
            return;
        };
        if explained.alone.is_some() {
            return;
        }
        let lines = Lines::new(text);
        let outcome = judge(text, language, &agreed.style, &LineSet::whole());
        for fault in &outcome.faults {
            let (line, column) = lines.place(text, fault.start);
            let (setting, message) = ("fault", "this does not parse; it stays as it is".into());
            report.faults.push(Spot { line, column, setting, message, said_at: None });
        }
        let Some(asked) = line else { return };
        for slip in &outcome.slips {
            let (line, column) = lines.place(text, slip.offset);
            if line == asked {
                report.slips.push(Spot {
                    line,
                    column,
                    setting: slip.setting.name(),
                    message: slip.message.clone(),
                    said_at: self.said_at(agreed, slip.setting),
                });
            }
        }
        for (offset, setting) in decided(text, language, &agreed.style, asked - 1) {
            let (_, column) = lines.place(text, offset);
            let name = setting.name();
            match report.decided_by.iter_mut().find(|known| known.setting == name) {
                Some(known) if known.columns.contains(&column) => {}
                Some(known) => known.columns.push(column),
                None => report.decided_by.push(Decision {
                    setting: name,
                    columns: vec![column],
                    said_at: self.said_at(agreed, setting),
                }),
            }
        }
    }

    /// The line that gives a setting its value, if it has one value from one line.
    fn said_at(&self, agreed: &Agreed, setting: Setting) -> Option<String> {
        let name = entry(setting).name;
        let of = |said: &&Said| said.name.split('.').next() == Some(name);
        let mut places: Vec<String> =
            agreed.said.iter().filter(of).map(|said| self.place(&said.place)).collect();
        places.dedup();
        (!places.is_empty()).then(|| places.join(", "))
    }
}

fn in_words(play: Play) -> &'static str {
    match play {
        Play::Touched => "touched",
        Play::Whole => "whole",
        Play::Off => "off",
    }
}

/// The report in words.
pub(crate) fn text(report: &Report, paint: Paint) -> String {
    let mut out = format!("{}\n", paint.strong(&visible(&report.path)));
    let mut row = |name: &str, value: &str| {
        out.push_str(&format!("  {}  {value}\n", paint.faint(&format!("{name:10}"))));
    };
    let language = report.language.as_deref().unwrap_or("unknown");
    row("language", &format!("{language}, {}", visible(&report.language_because)));
    match &report.left_alone_because {
        Some(why) => row("left alone", &format!("it is {}", visible(why))),
        None if report.faults.is_empty() => row("formatted", "yes"),
        None => row("formatted", "yes, but for what does not parse (see below)"),
    }
    if let Some(ignored) = &report.ignored_by_git {
        row("ignored", &format!("{} (only --whole and its own name reach it)", visible(ignored)));
    }
    for (name, occasion) in [
        ("saving", &report.save),
        ("commit", &report.commit),
        ("merge", &report.merge),
    ] {
        let place = match &occasion.said_at {
            Some(place) => format!("  {}", paint.faint(&visible(place))),
            None => String::new(),
        };
        let lines = match occasion.lines {
            "off" if report.governed_by.is_empty() => {
                "off: nothing has been agreed here yet (kanonix settle proposes a canon)".into()
            }
            "off" if name == "saving" && !report.has_history => {
                "off: there is no history to say what is touched (save_without_git)".into()
            }
            "off" => "off".to_string(),
            "whole" => "all lines".into(),
            _ => "touched lines".into(),
        };
        row(name, &format!("{lines}{place}"));
    }
    if report.governed_by.is_empty() {
        row("canon", "none: by hand, what the language's community expects");
    } else {
        row("canon", &visible(&report.governed_by.join(", ")));
    }
    for idle in &report.idle_patterns {
        row("", idle);
    }
    if !report.settings.is_empty() {
        out.push_str("\nsettings that are not the community's\n");
        let width = report.settings.iter().map(|v| v.setting.len()).max().unwrap_or(0);
        let values = report.settings.iter().map(|v| v.value.len()).max().unwrap_or(0);
        let places = report.settings.iter().map(|v| v.said_at.len()).max().unwrap_or(0);
        for value in &report.settings {
            out.push_str(&format!(
                "  {}  {:values$}  {:places$}  {}\n",
                paint.name(&format!("{:width$}", value.setting)),
                value.value,
                visible(&value.said_at),
                paint.faint(&format!("otherwise {}", value.usual)),
            ));
        }
    } else if report.language.is_some() {
        out.push_str("\nevery setting is as the language's community has it\n");
    }
    if !report.faults.is_empty() {
        out.push_str(&format!("\n{}\n", count(report.faults.len(), "fault")));
        for fault in &report.faults {
            let at = format!("{}:{}", fault.line, fault.column);
            out.push_str(&format!("  {at:>8}  {}\n", visible(&fault.message)));
        }
    }
    if let Some(line) = report.line {
        out.push_str(&line_text(report, line, paint));
    }
    out
}

fn line_text(report: &Report, line: usize, paint: Paint) -> String {
    let by = |said_at: &Option<String>| match said_at {
        Some(place) => visible(place).into_owned(),
        None => "the community's".into(),
    };
    let mut out = format!("\nline {line} is laid out by\n");
    if report.decided_by.is_empty() {
        out = format!("\nline {line}: nothing on it is laid out\n");
    }
    for decision in &report.decided_by {
        let columns: Vec<String> = decision.columns.iter().map(usize::to_string).collect();
        let word = if columns.len() == 1 { "column" } else { "columns" };
        out.push_str(&format!(
            "  {}  {:30}  {}\n",
            paint.name(&format!("{:18}", decision.setting)),
            format!("{word} {}", columns.join(", ")),
            paint.faint(&by(&decision.said_at)),
        ));
    }
    if report.slips.is_empty() && report.formatted {
        out.push_str("it follows the canon\n");
    }
    if !report.slips.is_empty() {
        out.push_str("what is wanted on it\n");
    }
    let width = |of: fn(&Spot) -> usize| report.slips.iter().map(of).max().unwrap_or(0);
    let messages = width(|slip| slip.message.chars().count());
    let names = width(|slip| slip.setting.len());
    for slip in &report.slips {
        out.push_str(&format!(
            "  column {:<4} {:messages$}  {}  {}\n",
            slip.column,
            visible(&slip.message),
            paint.name(&format!("{:names$}", slip.setting)),
            paint.faint(&by(&slip.said_at))
        ));
    }
    out
}
