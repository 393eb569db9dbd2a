//! Changing a canon in its place: one value at a time, comments and order left as they are.

use super::reading::TOP;
use kanonix_core::languages;
use kanonix_core::style::REGISTRY;
use thiserror::Error;
use toml_edit::{DocumentMut, InlineTable, Item, Table, TableLike, Value, value};

/// Why a value cannot be set.
#[derive(Debug, Error, PartialEq, Eq)]
pub enum EditError {
    /// It is not `NAME=VALUE`.
    #[error("`{0}` is no NAME=VALUE: write style.python.quotes=double")]
    NoPair(String),
    /// The name leads through something that is no table.
    #[error("`{0}` is no table in this canon")]
    NoTable(String),
    /// The canon is not TOML.
    #[error("{0}")]
    NotToml(String),
}

/// A value to be set, by the names that lead to it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Wish {
    /// `style`, `python`, `quotes`.
    pub path: Vec<String>,
    /// As it is written, without quotes.
    pub value: String,
}

impl Wish {
    /// Reads `style.python.quotes=double`; a setting or a language may stand without `style`.
    ///
    /// # Errors
    /// If it is no pair.
    pub fn read(text: &str) -> Result<Wish, EditError> {
        let wrong = || EditError::NoPair(text.into());
        let (name, value) = text.split_once('=').ok_or_else(wrong)?;
        let mut path: Vec<String> = name.split('.').map(|part| part.trim().into()).collect();
        if path.iter().any(String::is_empty) || value.trim().is_empty() {
            return Err(wrong());
        }
        if !TOP.contains(&path[0].as_str()) {
            path.insert(0, "style".into());
        }
        Ok(Wish { path, value: value.trim().trim_matches('"').into() })
    }

    /// The name, as somebody would write it.
    pub fn name(&self) -> String {
        self.path.join(".")
    }
}

/// The languages whose tables have a setting, too, that is wished for in all of them.
#[must_use]
pub fn with_their_own(text: &str, wish: &Wish) -> Vec<String> {
    let canon: DocumentMut = text.parse().unwrap_or_default();
    let style = canon.get("style").and_then(Item::as_table_like);
    let ([_, setting, key @ ..], Some(style)) = (&wish.path[..], style) else { return Vec::new() };
    let has_it = |table: &Item| match (table.get(setting.as_str()), key) {
        (Some(own), [key, ..]) if own.is_table_like() => own.get(key.as_str()).is_some(),
        (own, _) => own.is_some(),
    };
    let is_own = |name: &str| languages::by_name(name).is_some();
    let own = style.iter().filter(|(name, table)| is_own(name) && has_it(table));
    own.map(|(name, _)| name.to_string()).collect()
}

/// The text of a canon in which a wish is fulfilled. Whether it makes sense, reading it will tell.
/// A new line gets the comment; one that is there keeps its own.
///
/// # Errors
/// If the name leads nowhere.
pub fn set(text: &str, wish: &Wish, comment: Option<&str>) -> Result<String, EditError> {
    let mut document: DocumentMut =
        text.parse().map_err(|error: toml_edit::TomlError| EditError::NotToml(error.to_string()))?;
    let Some((last, way)) = wish.path.split_last() else { return Ok(text.into()) };
    let no_table = || EditError::NoTable(way.join("."));
    let is_key = |names: &[String]| {
        names.last().is_some_and(|name| REGISTRY.iter().any(|entry| entry.name == *name))
    };
    let mut table: &mut dyn TableLike = document.as_table_mut();
    for (depth, name) in way.iter().enumerate() {
        let inline = is_key(&way[..=depth]);
        let spread = table.get(name).and_then(Item::as_str).map(|word| spread(name, word));
        if let Some(spread) = spread.filter(|_| inline) {
            // One word stood for the whole table.
            table.insert(name, value(spread));
        }
        if !table.contains_key(name) {
            let mut new = Table::new();
            new.set_implicit(depth + 1 < way.len());
            let item = if inline { value(InlineTable::new()) } else { Item::Table(new) };
            table.insert(name, item);
        }
        table = table.get_mut(name).and_then(Item::as_table_like_mut).ok_or_else(no_table)?;
    }
    let mut new = written(&wish.value);
    match table.get_mut(last).and_then(Item::as_value_mut) {
        Some(old) => {
            *new.decor_mut() = old.decor().clone();
            *old = new;
        }
        None => {
            if let Some(comment) = comment.filter(|_| !is_key(way)) {
                new.decor_mut().set_suffix(format!(" # {comment}"));
            }
            // The blank before the closing brace goes with the last value.
            let before = table.iter_mut().last().and_then(|(_, item)| item.as_value_mut());
            if let Some(before) = before.filter(|_| is_key(way)) {
                let blank = before.decor_mut().suffix().cloned();
                new.decor_mut().set_suffix(blank.unwrap_or_default());
                before.decor_mut().set_suffix("");
            }
            table.insert(last, Item::Value(new));
        }
    }
    Ok(document.to_string())
}

/// A text as a canon writes it.
pub fn in_quotes(text: &str) -> String {
    Value::from(text).to_string()
}

/// A table in which every key of a setting has this word.
fn spread(name: &str, word: &str) -> InlineTable {
    let entry = REGISTRY.iter().find(|entry| entry.name == name);
    let slots = entry.into_iter().flat_map(|entry| entry.slots);
    slots.map(|slot| (slot.key.name(), word)).collect()
}

fn written(text: &str) -> Value {
    if let Ok(number) = text.parse::<i64>() {
        number.into()
    } else if let Ok(flag) = text.parse::<bool>() {
        flag.into()
    } else if let Some(inner) = text.strip_prefix('[').and_then(|rest| rest.strip_suffix(']')) {
        // A list as TOML has it, or its words without their quotes.
        text.parse().unwrap_or_else(|_| {
            let words = inner.split(',').map(|word| word.trim().trim_matches(['"', '\'']));
            words.filter(|word| !word.is_empty()).collect()
        })
    } else {
        text.into()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const CANON: &str = "\
# Agreed in March.
edition = 1

[style]
max_line_length = 100 # as wide as the screen in the tower
open_brace = \"same_line\"

[style.python] # the gauges
quotes = \"double\"
";

    fn after(wish: &str) -> String {
        set(CANON, &Wish::read(wish).unwrap(), Some("94 % of 1,204 places")).unwrap()
    }

    #[test]
    fn values_change_in_their_place() {
        let groups = Wish::read("word_order.groups=[\"flex grid\"]").unwrap();
        insta::assert_snapshot!(
            after("style.max_line_length=120")
                + &after("python.quotes=single")
                + &after("open_brace.lambda=next_line")
                + &after("style.json.indent_size=4")
                + &after("python.blank_lines.most=1")
                + &set("style.word_order = { inside = \"listed\" }\n", &groups, None).unwrap(),
            @r#"
        # Agreed in March.
        edition = 1

        [style]
        max_line_length = 120 # as wide as the screen in the tower
        open_brace = "same_line"

        [style.python] # the gauges
        quotes = "double"
        # Agreed in March.
        edition = 1

        [style]
        max_line_length = 100 # as wide as the screen in the tower
        open_brace = "same_line"

        [style.python] # the gauges
        quotes = "single"
        # Agreed in March.
        edition = 1

        [style]
        max_line_length = 100 # as wide as the screen in the tower
        open_brace = { type = "same_line", function = "same_line", control = "same_line", lambda = "next_line", accessor = "same_line", collection = "same_line", namespace = "same_line", other = "same_line" }

        [style.python] # the gauges
        quotes = "double"
        # Agreed in March.
        edition = 1

        [style]
        max_line_length = 100 # as wide as the screen in the tower
        open_brace = "same_line"

        [style.python] # the gauges
        quotes = "double"

        [style.json]
        indent_size = 4 # 94 % of 1,204 places
        # Agreed in March.
        edition = 1

        [style]
        max_line_length = 100 # as wide as the screen in the tower
        open_brace = "same_line"

        [style.python] # the gauges
        quotes = "double"
        blank_lines = { most = 1 }
        style.word_order = { inside = "listed", groups = ["flex grid"] }
        "#
        );
    }

    #[test]
    fn what_is_no_pair_is_refused() {
        assert!(Wish::read("quotes").is_err() && Wish::read("=a").is_err());
        let wish = Wish::read("edition.a=1").unwrap();
        assert_eq!(set(CANON, &wish, None), Err(EditError::NoTable("edition".into())));
    }
}
