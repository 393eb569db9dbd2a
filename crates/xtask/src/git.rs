//! The checkouts that the workshop makes.

use anyhow::{Result, bail};
use std::path::Path;
use std::process::Command;

/// Runs git in a folder.
pub fn git(folder: &Path, words: &[&str]) -> Result<()> {
    let output = Command::new("git").current_dir(folder).args(words).output()?;
    match output.status.success() {
        true => Ok(()),
        false => bail!("git: {}", String::from_utf8_lossy(&output.stderr).trim()),
    }
}
