//! `docs/settings.md`, made from the registry.

use anyhow::{Context, Result};
use kanonix_core::languages;
use kanonix_core::style::{BASES, Entry, REGISTRY, Slot};
use std::path::Path;

/// Writes the page, or says whether it is current.
pub fn run(check: bool) -> Result<bool> {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/settings.md");
    let page = page();
    if check {
        let there = std::fs::read_to_string(&path).unwrap_or_default();
        if there != page {
            eprintln!("docs/settings.md is not current: run `cargo xtask docs`");
        }
        return Ok(there == page);
    }
    std::fs::write(&path, page).with_context(|| format!("{} cannot be written", path.display()))?;
    Ok(true)
}

fn page() -> String {
    let mut out = String::from(
        "# Settings\n\n\
         Made from the registry by `cargo xtask docs`; do not edit it by hand.\n\n\
         A setting stands in `kanonix.toml` under `[style]`, for every language, or under \
         `[style.LANGUAGE]`. What is not said there follows the language's own community guide, as \
         the tables show. `kanonix explain SETTING` shows the same lines under each value; what a \
         choice would cost in a repository, `kanonix settle --price NAME=VALUE` says.\n\n\
         ## `basis`\n\n\
         A canon may begin with a brace tradition of the trade (`basis = \"allman\"`, above all \
         tables). Its values are weaker than everything under `[style]`.\n\n\
         | basis | where it comes from | what it says |\n|---|---|---|\n",
    );
    for basis in BASES {
        let say = |(name, key, value): &(&str, &str, &str)| match *key {
            "" => format!("`{name} = {value}`"),
            key => format!("`{name}.{key} = {value}`"),
        };
        let values: Vec<String> = basis.values.iter().map(say).collect();
        out.push_str(&format!("| `{}` | {} | {} |\n", basis.name, basis.about, values.join(", ")));
    }
    for entry in &REGISTRY {
        out.push_str(&format!("\n## `{}`\n\n{}\n\n", entry.name, entry.about));
        let names: Vec<&str> = languages::ALL.iter().map(|language| language.name).collect();
        out.push_str(&format!("| | values | {} |\n", names.join(" | ")));
        out.push_str(&format!("|---|---|{}\n", "---|".repeat(names.len())));
        for slot in entry.slots {
            out.push_str(&row(entry, slot));
        }
        if entry.one_for_all {
            out.push_str("\nOne word may stand for the whole table.\n");
        }
    }
    out
}

fn row(entry: &Entry, slot: &Slot) -> String {
    let what = match (slot.key.name(), slot.about) {
        ("", _) => format!("`{}`", entry.name),
        (key, about) => format!("`{key}`: {about}"),
    };
    let defaults = languages::ALL.iter().map(|language| match language.has_slot(slot) {
        true => format!("`{}`", language.style().get(entry.setting, slot.key)),
        false => "–".to_string(),
    });
    let defaults: Vec<String> = defaults.collect();
    format!("| {what} | {} | {} |\n", slot.takes(), defaults.join(" | "))
}
