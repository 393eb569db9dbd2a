//! SARIF 2.1.0, the open standard in which analysers tell build servers and reviews what they
//! found: <https://docs.oasis-open.org/sarif/sarif/v2.1.0/sarif-v2.1.0.html>.
//!
//! The types are the part of the standard that is written here. A slip is a result of the rule that
//! its setting is; what does not parse, or could not be judged, is a notification of the run.

use crate::Status;
use crate::service::judging::{Judged, Judgement};
use crate::service::places::{Place, in_address};
use kanonix_core::style::REGISTRY;
use kanonix_repo::canon::words::word_at;
use kanonix_repo::system::bytes_of;
use serde::Serialize;
use sha2::{Digest, Sha256};
use std::collections::{BTreeMap, HashMap};
use std::path::Path;

const SCHEMA: &str =
    "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json";

/// The name under which the top of the repository stands in every address.
const ROOT: &str = "SRCROOT";

#[derive(Serialize)]
struct Log {
    #[serde(rename = "$schema")]
    schema: &'static str,
    version: &'static str,
    runs: [Run; 1],
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Run {
    tool: Tool,
    invocations: [Invocation; 1],
    column_kind: &'static str,
    original_uri_base_ids: BTreeMap<&'static str, Base>,
    results: Vec<Finding>,
}

#[derive(Serialize)]
struct Base {
    description: Text,
}

#[derive(Serialize)]
struct Tool {
    driver: Driver,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Driver {
    name: &'static str,
    version: &'static str,
    semantic_version: &'static str,
    #[serde(skip_serializing_if = "Option::is_none")]
    information_uri: Option<&'static str>,
    rules: Vec<Rule>,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Rule {
    id: &'static str,
    short_description: Text,
    full_description: Text,
    help: Help,
    #[serde(skip_serializing_if = "Option::is_none")]
    help_uri: Option<String>,
    default_configuration: Configuration,
}

#[derive(Serialize)]
struct Configuration {
    level: &'static str,
}

#[derive(Serialize)]
struct Text {
    text: String,
}

#[derive(Serialize)]
struct Help {
    text: String,
    markdown: String,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Invocation {
    execution_successful: bool,
    exit_code: u8,
    tool_execution_notifications: Vec<Notification>,
}

#[derive(Serialize)]
struct Notification {
    level: &'static str,
    message: Text,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    locations: Vec<Location>,
}

/// A result, in the standard's word.
#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Finding {
    rule_id: &'static str,
    rule_index: usize,
    level: &'static str,
    message: Text,
    locations: [Location; 1],
    partial_fingerprints: BTreeMap<&'static str, String>,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    fixes: Vec<Fix>,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Location {
    physical_location: Physical,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Physical {
    artifact_location: Artifact,
    #[serde(skip_serializing_if = "Option::is_none")]
    region: Option<Region>,
}

#[derive(Clone, Serialize)]
#[serde(rename_all = "camelCase")]
struct Artifact {
    uri: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    uri_base_id: Option<&'static str>,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Region {
    start_line: u32,
    start_column: u32,
    end_line: u32,
    end_column: u32,
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Fix {
    description: Text,
    artifact_changes: [Change; 1],
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Change {
    artifact_location: Artifact,
    replacements: [Replacement; 1],
}

#[derive(Serialize)]
#[serde(rename_all = "camelCase")]
struct Replacement {
    deleted_region: Region,
    inserted_content: Text,
}

/// A file's address: from the top of the repository, or as it was named outside of one.
fn artifact(judgement: &Judgement, path: &Path) -> Artifact {
    let inside = judgement.root.as_deref().and_then(|root| path.strip_prefix(root).ok());
    let uri = in_address(bytes_of(inside.unwrap_or(path)));
    let is_inside = judgement.root.is_some() && (inside.is_some() || path.is_relative());
    Artifact { uri, uri_base_id: is_inside.then_some(ROOT) }
}

/// Between two places as the editors' protocol counts them; here both count from 1.
fn region(start: (u32, u32), end: (u32, u32)) -> Region {
    Region {
        start_line: start.0 + 1,
        start_column: start.1 + 1,
        end_line: end.0 + 1,
        end_column: end.1 + 1,
    }
}

fn location(artifact: &Artifact, place: &Place) -> Location {
    let region = Some(region(place.start, place.end.max(place.start)));
    let artifact_location = artifact.clone();
    Location { physical_location: Physical { artifact_location, region } }
}

fn text_of(text: impl Into<String>) -> Text {
    Text { text: text.into() }
}

/// The rules by which something was found, each with its place among them.
#[derive(Default)]
struct Rules {
    rules: Vec<Rule>,
    known: HashMap<&'static str, usize>,
}

impl Rules {
    fn index(&mut self, id: &'static str, level: &'static str) -> usize {
        *self.known.entry(id).or_insert_with(|| {
            self.rules.push(rule(id, level));
            self.rules.len() - 1
        })
    }
}

fn rule(id: &'static str, level: &'static str) -> Rule {
    let setting = match id {
        "doubled_word" => "word_order",
        "hidden_branch" => "directive_indent",
        id => id,
    };
    let (about, ask) = match REGISTRY.iter().find(|entry| entry.name == setting) {
        Some(entry) => (entry.about, setting),
        None => {
            let word = match id {
                "long_line" => "reach.long_lines",
                _ => "reach.new_keeps",
            };
            (word_at(word).map_or("", |word| word.about), word)
        }
    };
    let first = about.split_inclusive(". ").next().unwrap_or(about).trim_end();
    let explain = format!("kanonix explain {ask}");
    let home = Some(env!("CARGO_PKG_HOMEPAGE")).filter(|home| !home.is_empty());
    Rule {
        id,
        short_description: text_of(first),
        full_description: text_of(about),
        help: Help {
            text: format!("{about} What it is set to here, and what each value does: {explain}"),
            markdown: format!(
                "{about}\n\nWhat it is set to here, and what each value does: `{explain}`"
            ),
        },
        help_uri: home.map(|home| format!("{home}/docs/settings.md#{ask}")),
        default_configuration: Configuration { level },
    }
}

/// What tells a result from others wherever its line goes: the rule, the line without the blanks
/// around it, and how many like it come before in the file.
fn fingerprint(file: &Judged, place: &Place, seen: &mut HashMap<[u8; 32], u32>) -> String {
    let mut hash = Sha256::new();
    let line = place.source.as_deref().unwrap_or_default().trim();
    for part in [place.setting.as_bytes(), bytes_of(&file.inside), line.as_bytes()] {
        hash.update((part.len() as u64).to_le_bytes());
        hash.update(part);
    }
    let sum: [u8; 32] = hash.finalize().into();
    let times = seen.entry(sum).or_default();
    *times += 1;
    let hex: String = sum[..16].iter().map(|byte| format!("{byte:02x}")).collect();
    format!("{hex}:{times}")
}

fn findings(judgement: &Judgement, rules: &mut Rules) -> Vec<Finding> {
    let mut findings = Vec::new();
    for file in &judgement.files {
        let artifact = artifact(judgement, &file.inside);
        let mut seen = HashMap::new();
        for place in file.places().into_iter().filter(|place| place.setting != "fault") {
            let level = match place.setting {
                "long_line" | "new_keep" if file.stops => "error",
                "long_line" => "warning",
                "new_keep" | "doubled_word" | "hidden_branch" => "note",
                _ => "error",
            };
            let fix = place.fix.as_ref().map(|fix| Fix {
                description: text_of(place.message.as_ref()),
                artifact_changes: [Change {
                    artifact_location: artifact.clone(),
                    replacements: [Replacement {
                        deleted_region: region(fix.start, fix.end),
                        inserted_content: text_of(fix.text.as_str()),
                    }],
                }],
            });
            findings.push(Finding {
                rule_id: place.setting,
                rule_index: rules.index(place.setting, level),
                level,
                message: text_of(place.message.as_ref()),
                locations: [location(&artifact, place)],
                partial_fingerprints: BTreeMap::from([(
                    "kanonix/v1",
                    fingerprint(file, place, &mut seen),
                )]),
                fixes: fix.into_iter().collect(),
            });
        }
    }
    findings
}

/// What does not parse, and what could not be judged.
fn notifications(judgement: &Judgement) -> Vec<Notification> {
    let faults = judgement.files.iter().flat_map(|file| {
        let artifact = artifact(judgement, &file.inside);
        let level = if file.stops { "error" } else { "warning" };
        file.faults.iter().map(move |fault| Notification {
            level,
            message: text_of(fault.message.as_ref()),
            locations: vec![location(&artifact, fault)],
        })
    });
    let of_file = |level, (path, words): &(String, String)| {
        let artifact_location = artifact(judgement, &super::from_root(judgement, path));
        let physical_location = Physical { artifact_location, region: None };
        let locations = vec![Location { physical_location }];
        Notification { level, message: text_of(words.as_str()), locations }
    };
    let problems = judgement.problems.iter().map(|problem| of_file("error", problem));
    let notes = judgement.notes.iter().map(|note| of_file("note", note));
    faults.chain(problems).chain(notes).collect()
}

pub(super) fn text(judgement: &Judgement) -> anyhow::Result<String> {
    let mut rules = Rules::default();
    let results = findings(judgement, &mut rules);
    let status = judgement.status();
    let home = Some(env!("CARGO_PKG_HOMEPAGE")).filter(|home| !home.is_empty());
    let log = Log {
        schema: SCHEMA,
        version: "2.1.0",
        runs: [Run {
            tool: Tool {
                driver: Driver {
                    name: "Kanonix",
                    version: env!("CARGO_PKG_VERSION"),
                    semantic_version: env!("CARGO_PKG_VERSION"),
                    information_uri: home,
                    rules: rules.rules,
                },
            },
            invocations: [Invocation {
                execution_successful: status != Status::Incomplete,
                exit_code: status as u8,
                tool_execution_notifications: notifications(judgement),
            }],
            column_kind: "utf16CodeUnits",
            original_uri_base_ids: BTreeMap::from([(
                ROOT,
                Base { description: text_of("The top of the repository") },
            )]),
            results,
        }],
    };
    Ok(serde_json::to_string_pretty(&log)? + "\n")
}
