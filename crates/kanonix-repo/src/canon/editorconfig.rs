//! `.editorconfig` files, as the open standard at editorconfig.org has them (specification 0.17.2).
//!
//! Lines are read here, so that every property keeps its place; a line that the standard calls
//! invalid is passed over, as other programs do. Section names are matched by a package.

use super::Assignment;
use super::reading::{DEEPEST_PATTERN, nesting};
use ec4rs_glob::Glob;
use std::path::{Path, PathBuf};

/// The file's name.
pub const FILE_NAME: &str = ".editorconfig";

/// The standard's longest section name, property name and value, in bytes.
const LONGEST: (usize, usize, usize) = (4096, 1024, 4096);

/// So many sections of a file are read.
const MOST_SECTIONS: usize = 2000;

/// One file.
pub struct EditorConfig {
    /// The file.
    pub path: PathBuf,
    /// Whether no other one is looked for further up.
    pub root: bool,
    sections: Vec<Section>,
}

/// A section's name and lines.
struct Section {
    glob: Glob,
    /// Whether the name holds nothing beyond ASCII.
    is_ascii: bool,
    properties: Vec<Property>,
}

/// One line of a section.
#[derive(Clone, Debug, PartialEq, Eq)]
struct Property {
    name: String,
    value: String,
    line: usize,
}

/// The eight properties that a setting stands for, with their last values for one file.
#[derive(Clone, Debug, Default)]
pub struct Properties {
    /// Name, value, and the place that says so.
    found: Vec<(String, String, PathBuf, usize)>,
}

impl EditorConfig {
    /// Reads a file's text. There is nothing that it cannot read.
    pub fn read(path: &Path, text: &str) -> EditorConfig {
        let mut file = EditorConfig { path: path.to_path_buf(), root: false, sections: Vec::new() };
        let text = text.strip_prefix('\u{feff}').unwrap_or(text);
        let mut in_section = true;
        let mut is_preamble = true;
        for (number, line) in text.lines().enumerate() {
            let line = line.trim();
            if line.is_empty() || line.starts_with(['#', ';']) {
                continue;
            }
            if let Some(name) = section_name(line) {
                is_preamble = false;
                // Braces are matched by recursion; a name that no person would write names nothing.
                in_section = name.len() <= LONGEST.0
                    && nesting(name) <= DEEPEST_PATTERN
                    && file.sections.len() < MOST_SECTIONS;
                if in_section {
                    file.sections.push(Section {
                        glob: Glob::new(name),
                        is_ascii: name.is_ascii(),
                        properties: Vec::new(),
                    });
                }
                continue;
            }
            let Some((name, value)) = line.split_once('=') else { continue };
            let (name, value) = (name.trim().to_ascii_lowercase(), value.trim());
            if name.is_empty() || name.len() > LONGEST.1 || value.len() > LONGEST.2 {
                continue;
            }
            if is_preamble {
                file.root = match name == "root" {
                    true => value.eq_ignore_ascii_case("true"),
                    false => file.root,
                };
            } else if in_section && let Some(section) = file.sections.last_mut() {
                let value = value.to_string();
                section.properties.push(Property { name, value, line: number + 1 });
            }
        }
        file
    }

    /// The sections that speak of a path, relative to the file's folder.
    pub fn sections_of(&self, inside: &Path) -> Vec<usize> {
        // The package's `?` stands for a byte: a pattern that names no other character than ASCII's
        // is shown a path in which every character is one byte.
        let byte = |c: char| if c.is_ascii() { c } else { '\u{1}' };
        let plain: String = inside.to_string_lossy().chars().map(byte).collect();
        let applies = |index: &usize| {
            let section = &self.sections[*index];
            section.glob.matches(if section.is_ascii { Path::new(&plain) } else { inside })
        };
        (0..self.sections.len()).filter(applies).collect()
    }

    /// Adds what these sections say, later ones over earlier ones.
    pub fn add(&self, sections: &[usize], properties: &mut Properties) {
        for section in sections {
            for property in &self.sections[*section].properties {
                properties.put(&property.name, &property.value, &self.path, property.line);
            }
        }
    }
}

/// The name of a section whose header this line is.
pub(super) fn section_name(line: &str) -> Option<&str> {
    let inner = line.strip_prefix('[')?;
    let end = inner.rfind(']')?;
    let behind = inner[end + 1..].trim_start();
    let name = &inner[..end];
    (!name.is_empty() && (behind.is_empty() || behind.starts_with(['#', ';']))).then_some(name)
}

impl Properties {
    fn put(&mut self, name: &str, value: &str, path: &Path, line: usize) {
        self.found.retain(|(known, ..)| known != name);
        self.found.push((name.into(), value.into(), path.to_path_buf(), line));
    }

    /// The value that a property has in the end; `None` also where it is `unset` again.
    pub fn get(&self, name: &str) -> Option<&str> {
        self.place(name).map(|(value, ..)| value)
    }

    fn place(&self, name: &str) -> Option<(&str, &Path, usize)> {
        let found = self.found.iter().find(|(known, ..)| known == name)?;
        let (_, value, path, line) = found;
        (!value.eq_ignore_ascii_case("unset") && !value.is_empty())
            .then_some((value.as_str(), path.as_path(), *line))
    }

    /// What the properties mean for our settings, in the order in which they apply. A value that
    /// the standard knows and no setting has (`end_of_line = cr`, an encoding other than UTF-8) is
    /// passed over, as the standard asks.
    pub(super) fn assignments(&self) -> Vec<(PathBuf, Assignment)> {
        let mut out = Vec::new();
        let mut say = |name: &str, value: String, path: &Path, line: usize| {
            let said = Assignment { name: name.into(), key: String::new(), value, line };
            if kanonix_core::style::Style::default().set(name, "", &said.value).is_ok() {
                out.push((path.to_path_buf(), said));
            }
        };
        let tabs = self.get("indent_style").is_some_and(|style| style.eq_ignore_ascii_case("tab"));
        if self.get("indent_size").is_none()
            && tabs
            && let Some((_, path, line)) = self.place("indent_style")
        {
            say("indent_size", "tab".into(), path, line);
        }
        if self.get("tab_width").is_none()
            && let Some((size, path, line)) = self.place("indent_size")
        {
            say("tab_width", size.to_ascii_lowercase(), path, line);
        }
        for name in [
            "indent_style",
            "indent_size",
            "tab_width",
            "end_of_line",
            "charset",
            "trim_trailing_whitespace",
            "insert_final_newline",
            "max_line_length",
        ] {
            if let Some((value, path, line)) = self.place(name) {
                say(name, value.to_ascii_lowercase(), path, line);
            }
        }
        out
    }
}
