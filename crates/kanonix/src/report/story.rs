//! One file's story in words.

use super::count;
use crate::paint::Paint;
use crate::service::story::{Decision, Report, Spot};
use kanonix_core::text::visible;

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
    let names = report.decided_by.iter().map(|one| one.setting.len()).max().unwrap_or(0).max(18);
    let value = |one: &Decision| one.value.as_deref().unwrap_or_default().to_string();
    let values = report.decided_by.iter().map(|one| value(one).len()).max().unwrap_or(0);
    for decision in &report.decided_by {
        let columns: Vec<String> = decision.columns.iter().map(usize::to_string).collect();
        let word = if columns.len() == 1 { "column" } else { "columns" };
        out.push_str(&format!(
            "  {}  {:values$}  {:30}  {}\n",
            paint.name(&format!("{:names$}", decision.setting)),
            value(decision),
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
