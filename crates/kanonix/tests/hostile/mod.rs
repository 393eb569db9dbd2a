//! Hostile repositories, damaged ones, and machines in a hurry. Each test builds its hostile thing on
//! a real git in a temporary folder; after every command, and every request of the editors' server, a
//! file is looked for that an attacker's command would have made.

mod n01_embedded_repositories;
mod n02_missing_objects;
mod n03_writes_through_links;
mod n04_reads_through_links;
mod n05_another_program;
mod n06_beside_a_fault;
mod n07_refusals;
mod n08_injection;
mod n09_the_queue;
mod n10_the_rest;

use serde_json::{Value, json};
use std::fs;
use std::os::unix::fs::PermissionsExt;
use std::path::{Path, PathBuf};
use std::process::Command;
use crate::support::client::Client;
use crate::support::{Repo, Said};
use tempfile::TempDir;

/// A repository, and a folder outside of it that nothing may be written into.
pub struct Ground {
    /// The repository.
    pub repo: Repo,
    outside: TempDir,
    /// A folder of programs to be found before the system's own.
    tools: TempDir,
}

impl Ground {
    /// A repository in which these files are committed.
    pub fn with(files: &[(&str, &str)]) -> Ground {
        let ground = Ground {
            repo: Repo::with(files),
            outside: tempfile::tempdir().unwrap(),
            tools: tempfile::tempdir().unwrap(),
        };
        // A command as an attacker would name one.
        let attack = ground.attack();
        let marker = ground.marker();
        fs::write(&attack, format!("#!/bin/sh\ntouch '{}'\ncat\n", marker.display())).unwrap();
        fs::set_permissions(&attack, fs::Permissions::from_mode(0o755)).unwrap();
        ground
    }

    /// The attacker's program.
    pub fn attack(&self) -> PathBuf {
        self.tools.path().join("attack")
    }

    /// What it makes.
    pub fn marker(&self) -> PathBuf {
        self.tools.path().join("attacked")
    }

    /// A folder beside the repository.
    pub fn outside(&self, name: &str) -> PathBuf {
        fs::canonicalize(self.outside.path()).unwrap().join(name)
    }

    /// Nothing of the attacker's has run.
    pub fn is_safe(&self, after: &dyn std::fmt::Debug) {
        assert!(!self.marker().exists(), "the attacker's program has run: {after:?}");
    }

    /// Puts a program before the system's own.
    pub fn tool(&self, name: &str, text: &str) {
        let path = self.tools.path().join("bin").join(name);
        fs::create_dir_all(path.parent().unwrap()).unwrap();
        fs::write(&path, text).unwrap();
        fs::set_permissions(&path, fs::Permissions::from_mode(0o755)).unwrap();
    }

    /// A program in the repository, those of [`Ground::tool`] first.
    pub fn command(&self, program: &str) -> Command {
        let mut command = self.repo.command(program);
        let bin = self.tools.path().join("bin");
        if bin.exists() {
            let path = std::env::var("PATH").unwrap_or_default();
            command.env("PATH", format!("{}:{path}", bin.display()));
        }
        command
    }

    /// Runs the program in a folder of the repository.
    pub fn kanonix_in(&self, folder: &str, words: &[&str]) -> Said {
        let mut command = self.command(env!("CARGO_BIN_EXE_kanonix"));
        command.current_dir(self.repo.path(folder)).args(words);
        self.said(command, &words)
    }

    /// Runs the program at the repository's top.
    pub fn kanonix(&self, words: &[&str]) -> Said {
        self.kanonix_in("", words)
    }

    /// Runs a command to its end; one that waits for ever fails the test.
    pub fn said(&self, command: Command, what: &dyn std::fmt::Debug) -> Said {
        let said = crate::support::said_in_time(command);
        self.is_safe(&(what, &said));
        said
    }

    /// Asks the editors' server everything about a file that is open.
    pub fn serve(&self, path: &str) {
        let mut client = Client::of(&self.repo);
        self.is_safe(&"initialize");
        let uri = crate::support::client::uri(&self.repo, path);
        let text = fs::read_to_string(self.repo.path(path)).unwrap_or_default();
        let document = json!({ "uri": uri, "languageId": "python", "version": 1, "text": text });
        client.tell("textDocument/didOpen", json!({ "textDocument": document }));
        client.told("textDocument/publishDiagnostics");
        self.is_safe(&"didOpen");
        let place = json!({ "line": 0, "character": 0 });
        let here = json!({ "start": place, "end": place });
        let of = json!({ "uri": uri });
        let options = json!({ "tabSize": 4, "insertSpaces": true });
        let asked: [(&str, Value); 6] = [
            ("textDocument/willSaveWaitUntil", json!({ "textDocument": of, "reason": 1 })),
            ("textDocument/formatting", json!({ "textDocument": of, "options": options })),
            (
                "textDocument/rangeFormatting",
                json!({ "textDocument": of, "range": here, "options": options }),
            ),
            ("textDocument/diagnostic", json!({ "textDocument": of })),
            (
                "textDocument/codeAction",
                json!({ "textDocument": of, "range": here, "context": { "diagnostics": [] } }),
            ),
            ("kanonix/status", json!({ "textDocument": of, "line": 0 })),
        ];
        for (method, params) in asked {
            let _ = client.ask(method, params);
            self.is_safe(&method);
        }
        client.tell("textDocument/didSave", json!({ "textDocument": of }));
        let _ = client.ask("shutdown", Value::Null);
        self.is_safe(&"shutdown");
    }
}

/// Every command that looks at a tree, without its words for a path.
pub const LOOKS: &[&[&str]] = &[
    &["check"],
    &["check", "--whole"],
    &["check", "--staged"],
    &["check", "--since", "HEAD"],
    &["mend", "--dry-run"],
    &["mend"],
    &["mend", "--staged"],
    &["undo", "--list"],
    &["explain", "a.py"],
    &["explain", "--editor"],
    &["gate", "status"],
    &["gate", "commit"],
    &["gate", "commit", "--mend"],
    &["gate", "merge", "--into", "HEAD"],
    &["settle", "--price", "quotes=single"],
    &["settle"],
];

/// A symbolic link.
pub fn link(to: impl AsRef<Path>, at: impl AsRef<Path>) {
    fs::create_dir_all(at.as_ref().parent().unwrap()).unwrap();
    std::os::unix::fs::symlink(to, at).unwrap();
}

/// A pipe, which somebody who opens it waits for.
pub fn pipe(at: impl AsRef<Path>) {
    fs::create_dir_all(at.as_ref().parent().unwrap()).unwrap();
    assert!(Command::new("mkfifo").arg(at.as_ref()).status().unwrap().success());
}
