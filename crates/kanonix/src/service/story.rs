//! One file's story: why it, or a line of it, is treated as it is.

use kanonix_core::text::{LineSet, Lines};
use kanonix_core::{decided, judge};
use kanonix_repo::canon::{Because, SaidAt, Play, Said};
use kanonix_repo::work::{self, Explained};
use serde::Serialize;
use std::path::Path;

/// A value as it is told.
#[derive(Serialize)]
pub(crate) struct Value {
    pub setting: String,
    pub value: String,
    /// What the language's community expects.
    pub usual: String,
    /// `FILE:LINE`.
    pub said_at: String,
}

/// A place in the file and what is said of it.
#[derive(Serialize)]
pub(crate) struct Spot {
    pub line: usize,
    pub column: usize,
    /// With its key after a point, where that is known.
    pub setting: String,
    pub message: String,
    /// `FILE:LINE`, or nothing where the community is followed.
    pub said_at: Option<String>,
}

#[derive(Serialize)]
pub(crate) struct Decision {
    /// With its key after a point, where that is known.
    pub setting: String,
    pub value: Option<String>,
    pub columns: Vec<usize>,
    pub said_at: Option<String>,
}

#[derive(Serialize)]
pub(crate) struct Occasion {
    pub lines: &'static str,
    pub said_at: Option<String>,
}

/// What is known of a file.
#[derive(Serialize)]
pub(crate) struct Report {
    pub version: u32,
    pub path: String,
    pub language: Option<String>,
    pub language_because: String,
    pub formatted: bool,
    pub left_alone_because: Option<String>,
    pub ignored_by_git: Option<String>,
    pub governed_by: Vec<String>,
    /// Whether it has a history to compare with.
    pub has_history: bool,
    pub save: Occasion,
    pub commit: Occasion,
    pub merge: Occasion,
    pub settings: Vec<Value>,
    pub faults: Vec<Spot>,
    /// How many lines it has, if it is a text.
    #[serde(skip)]
    pub lines: Option<usize>,
    pub line: Option<usize>,
    pub decided_by: Vec<Decision>,
    pub slips: Vec<Spot>,
    /// Patterns of its canons that do nothing, in words.
    pub idle_patterns: Vec<String>,
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

    fn place(&self, place: &SaidAt) -> String {
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
            Some((_, Because::Beginning)) => "by what it begins with".into(),
            None => "no language is known for it".into(),
        };
        let manner = explained
            .language
            .as_ref()
            .zip(explained.text.as_ref())
            .and_then(|((language, _), text)| language.manner(text));
        let because = match manner {
            Some(manner) => format!("{because}; {manner}"),
            None => because,
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
            let (setting, message) = (
                "fault".into(),
                "this does not parse; it stays as it is".into(),
            );
            report.faults.push(Spot { line, column, setting, message, said_at: None });
        }
        let Some(asked) = line else { return };
        let decided = decided(text, language, &agreed.style, asked - 1);
        for one in &decided {
            let (_, column) = lines.place(text, one.offset);
            let name = one.name();
            match report.decided_by.iter_mut().find(|known| known.setting == name) {
                Some(known) if known.columns.contains(&column) => {}
                Some(known) => known.columns.push(column),
                None => report.decided_by.push(Decision {
                    said_at: self.said_at(one.language, &name),
                    setting: name,
                    value: one.key.as_ref().map(|(_, value)| value.to_string()),
                    columns: vec![column],
                }),
            }
        }
        let of_line = decided.first().map_or(language.name, |one| one.language);
        for slip in &outcome.slips {
            let (line, column) = lines.place(text, slip.offset);
            if line != asked {
                continue;
            }
            let name = slip.setting.name();
            let is_it = |one: &&Decision| {
                one.setting.split('.').next() == Some(name) && one.columns.contains(&column)
            };
            let (setting, said_at) = match report.decided_by.iter().find(is_it) {
                Some(decision) => (decision.setting.clone(), decision.said_at.clone()),
                None => (name.to_string(), self.said_at(of_line, name)),
            };
            let message = slip.message.clone();
            report.slips.push(Spot { line, column, setting, message, said_at });
        }
    }

    /// The lines that give a setting its values in a language, or one of its keys its own.
    fn said_at(&self, language: &str, name: &str) -> Option<String> {
        let inner = self.explained.inner.iter().find(|(own, _)| *own == language);
        let agreed = inner.map(|(_, agreed)| agreed).or(self.explained.agreed.as_ref())?;
        let of = |said: &&Said| said.name == name || said.name.split('.').next() == Some(name);
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
