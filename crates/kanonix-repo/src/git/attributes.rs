//! What the repository says of a path: whether git sees it, and how it writes it.

use super::runner::run;
use super::{Answer, GitError, Repository};
use std::ffi::OsString;
use std::path::Path;

impl Repository {
    /// The line of an ignore file that keeps git from seeing a path, as `FILE:LINE: PATTERN`.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn ignored(&self, path: &Path) -> Answer<Option<String>> {
        let mut command = self.git();
        command.args(["check-ignore", "-v", "--"]).arg(path);
        match run(&mut command, "check-ignore") {
            Ok(answer) => {
                let line = answer.split(|byte| *byte == b'\t').next().unwrap_or_default();
                let said = String::from_utf8_lossy(line).into_owned();
                // A pattern with `!` says that it is not ignored.
                let parts: Vec<&str> = said.splitn(3, ':').collect();
                let [file, number, pattern] = parts[..] else { return Ok(None) };
                let ignores = !pattern.starts_with('!');
                Ok(ignores.then(|| format!("{file}:{number}: {pattern}")))
            }
            Err(GitError::Failed { .. }) => Ok(None),
            Err(error) => Err(error),
        }
    }

    /// Whether git writes a file's line ends otherwise than it keeps them, or may.
    ///
    /// # Errors
    /// If git fails.
    pub fn converts_line_ends(&self, path: &Path) -> Answer<bool> {
        let mut command = self.git();
        command.args(["check-attr", "-z", "text", "eol", "--"]).arg(path);
        let answer = run(&mut command, "check-attr")?;
        let fields: Vec<&[u8]> = answer.split(|byte| *byte == 0).collect();
        let value = |name: &[u8]| {
            let found = fields.chunks(3).find(|field| field.get(1) == Some(&name));
            found.and_then(|field| field.get(2).copied()).unwrap_or(b"unspecified")
        };
        let unsaid = |value: &[u8]| value == b"unspecified";
        match value(b"text") {
            b"unset" => Ok(false),
            text if !unsaid(text) || !unsaid(value(b"eol")) => Ok(true),
            _ => {
                let mut command = self.git();
                command.args(["config", "--default=false", "--get", "core.autocrlf"]);
                Ok(run(&mut command, "config")?.trim_ascii() != b"false")
            }
        }
    }

    /// A blob as git writes it into the working file at a path: line ends, encodings and filters
    /// as the attributes have them.
    ///
    /// # Errors
    /// If git fails, or there are filters that are not run here.
    pub fn as_in_working_file(&self, blob: &str, path: &Path) -> Answer<Vec<u8>> {
        if !self.filters_off.is_empty() {
            return Err(GitError::Filtered(path.into(), self.root.clone()));
        }
        let mut command = self.git();
        let mut option = OsString::from("--path=");
        option.push(path);
        command.args(["cat-file", "--filters"]).arg(option).arg(blob);
        run(&mut command, "cat-file")
    }
}
