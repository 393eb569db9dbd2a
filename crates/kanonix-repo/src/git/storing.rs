//! Contents as git objects.

use super::runner::run_with;
use super::{Answer, GitError, Repository};
use crate::system::bytes_of;
use std::path::Path;

impl Repository {
    /// Stores a text as a blob, as it is.
    ///
    /// # Errors
    /// If git fails.
    pub fn store(&self, text: &[u8]) -> Answer<String> {
        let mut command = self.git();
        command.args(["hash-object", "-w", "--stdin", "--no-filters"]);
        let answer = run_with(&mut command, "hash-object", text)?;
        Ok(String::from_utf8_lossy(&answer).trim().to_string())
    }

    /// Stores files as blobs, as they are on disk, in the order of their paths.
    ///
    /// # Errors
    /// If git fails, or one of them cannot be read.
    pub fn store_files(&self, paths: &[&Path]) -> Answer<Vec<String>> {
        if paths.iter().any(|path| bytes_of(path).contains(&b'\n')) {
            let read = |path: &Path| {
                std::fs::read(path).map_err(|error| GitError::Unreadable(path.into(), error))
            };
            return paths.iter().map(|path| self.store(&read(path)?)).collect();
        }
        let mut input = Vec::new();
        for path in paths {
            input.extend_from_slice(bytes_of(path));
            input.push(b'\n');
        }
        let mut command = self.git();
        command.args(["hash-object", "-w", "--no-filters", "--stdin-paths"]);
        let answer = run_with(&mut command, "hash-object", &input)?;
        Ok(String::from_utf8_lossy(&answer).lines().map(str::to_string).collect())
    }
}
