//! The JSON Schema of `kanonix.toml`, made from the registry.

use super::reading::{FILES, MINIFIED, PLAYS, REACH, SAID, SAVE_REASONS, STOPS, TOP, WITHOUT_GIT};
use kanonix_core::languages::{self, Language};
use kanonix_core::style::{BASES, Entry, ValueKind, REGISTRY, Slot};
use serde_json::{Map, Value, json};

/// The schema, in the dialect of 2020-12.
pub fn schema() -> Value {
    let mut styles = settings(None);
    for language in languages::ALL {
        let own = closed(settings(Some(language)));
        styles.insert(language.name.into(), own);
    }
    let style = described(closed(styles), "What is agreed of every language, and of single ones.");
    let reach: Map<String, Value> = REACH
        .iter()
        .map(|key| {
            let values = match *key {
                "save" | "commit" | "merge" => json!({ "enum": PLAYS }),
                "save_without_git" => json!({ "enum": WITHOUT_GIT }),
                "save_reasons" => json!({ "type": "array", "items": { "enum": SAVE_REASONS } }),
                "new_keeps" => json!({ "enum": SAID }),
                _ => json!({ "enum": STOPS }),
            };
            (key.to_string(), values)
        })
        .collect();
    let reach = closed(reach);
    let patterns = json!({ "type": "array", "items": { "type": "string" } });
    let mut some_patterns = patterns.clone();
    some_patterns["minItems"] = json!(1);
    let names: Vec<&str> = languages::ALL.iter().map(|language| language.name).collect();
    let files: Map<String, Value> = FILES
        .iter()
        .map(|key| {
            let values = match *key {
                "skip" => patterns.clone(),
                "largest" => json!({ "type": "integer", "minimum": 0 }),
                "minified" => json!({ "enum": MINIFIED }),
                _ => json!({ "type": "object", "additionalProperties": { "enum": names } }),
            };
            (key.to_string(), values)
        })
        .collect();
    let bases: Vec<&str> = BASES.iter().map(|basis| basis.name).collect();
    let top: Map<String, Value> = TOP
        .iter()
        .map(|key| {
            let values = match *key {
                "edition" => json!({ "const": super::EDITION }),
                "needs" => json!({ "type": "string", "pattern": r"^>=\s*\d+(\.\d+)*\s*$" }),
                "editorconfig" => json!({ "type": "boolean" }),
                "basis" => json!({ "enum": bases }),
                "team" => json!({
                    "type": "object",
                    "properties": {
                        "follow": { "type": "string", "minLength": 1 },
                        "at": { "type": "string", "minLength": 1 },
                    },
                    "required": ["follow"],
                    "additionalProperties": false,
                }),
                "reach" => reach.clone(),
                "files" => closed(files.clone()),
                "style" => style.clone(),
                _ => json!({
                    "type": "array",
                    "items": {
                        "type": "object",
                        "properties": {
                            "paths": some_patterns,
                            "reach": { "anyOf": [{ "enum": PLAYS }, reach.clone()] },
                            "style": style.clone(),
                        },
                        "required": ["paths"],
                        "additionalProperties": false,
                    },
                }),
            };
            (key.to_string(), values)
        })
        .collect();
    let mut schema = closed(top);
    schema["$schema"] = json!("https://json-schema.org/draft/2020-12/schema");
    schema["title"] = json!("kanonix.toml: a team's agreed style");
    schema
}

/// Every setting that a language has, or that any has.
fn settings(language: Option<&Language>) -> Map<String, Value> {
    let has = |slot: &Slot| language.is_none_or(|language| language.has_slot(slot));
    REGISTRY
        .iter()
        .filter(|entry| entry.slots.iter().any(has))
        .map(|entry| {
            let keys: Map<String, Value> = entry
                .slots
                .iter()
                .filter(|slot| has(slot))
                .map(|slot| (slot.key.name().to_string(), described(values(slot), slot.about)))
                .collect();
            (entry.name.to_string(), described(setting(entry, keys), entry.about))
        })
        .collect()
}

fn setting(entry: &Entry, mut keys: Map<String, Value>) -> Value {
    if let Some(one) = keys.remove("") {
        return one;
    }
    match entry.one_for_all {
        true => json!({ "anyOf": [values(&entry.slots[0]), closed(keys)] }),
        false => closed(keys),
    }
}

fn values(slot: &Slot) -> Value {
    let strings = || {
        let string = json!({ "type": "string", "pattern": r#"^[^"\\\n\r]*$"# });
        json!({ "type": "array", "items": string })
    };
    let number = |least: u32, most: u32| {
        json!({ "type": "integer", "minimum": least, "maximum": most })
    };
    match slot.kind {
        ValueKind::Word(words) => json!({ "enum": words }),
        ValueKind::Flag => json!({ "type": "boolean" }),
        ValueKind::FlagOrKeep => json!({ "enum": [true, false, "keep"] }),
        ValueKind::Number(least, most, []) => number(least, most),
        ValueKind::Number(least, most, words) => {
            json!({ "anyOf": [number(least, most), { "enum": words }] })
        }
        ValueKind::List([]) => strings(),
        ValueKind::Patterns(words, parts) => {
            let word = parts.join("|");
            let pattern = format!("^ *({word})( +({word}))* *$");
            let patterns = json!({ "type": "string", "pattern": pattern });
            let list = json!({ "type": "array", "items": patterns });
            json!({ "anyOf": [list, { "enum": words }] })
        }
        ValueKind::List(words) => json!({ "anyOf": [strings(), { "enum": words }] }),
    }
}

/// An object with these properties and no others.
fn closed(properties: Map<String, Value>) -> Value {
    json!({ "type": "object", "properties": properties, "additionalProperties": false })
}

fn described(mut schema: Value, about: &str) -> Value {
    if !about.is_empty() {
        schema["description"] = json!(about);
    }
    schema
}
