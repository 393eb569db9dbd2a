//! Readers that are not ours, which say whether two texts are the same program.

use crate::witness;
use anyhow::{Context, bail};
use kanonix_core::languages;
use std::io::{BufRead, BufReader, Write};
use std::path::Path;
use std::process::{Child, ChildStdin, ChildStdout, Command, Stdio};

/// Those that are processes of their own, as far as they are there.
pub struct Judges {
    python: Option<Judge>,
    ecmascript: Option<Judge>,
}

struct Judge {
    _child: Child,
    ask: ChildStdin,
    answers: BufReader<ChildStdout>,
}

impl Judges {
    /// Starts them; with `typescript`, the folder in which node finds that compiler.
    pub fn start(typescript: Option<&Path>) -> anyhow::Result<Judges> {
        let python = Judge::start(
            Command::new("python3").args(["-c", include_str!("judges/python.py")]),
        );
        let ecmascript = match typescript {
            Some(folder) => {
                let mut node = Command::new("node");
                node.args(["-e", include_str!("judges/ecmascript.cjs")]).env("NODE_PATH", folder);
                Some(Judge::start(&mut node).context("node cannot be run")?)
            }
            None => None,
        };
        Ok(Judges { python: python.ok(), ecmascript })
    }

    /// What the reader of a language says of two texts in files of this kind: "same", "unread" where it
    /// does not read the first one, "unjudged" where there is no reader, or what differs.
    pub fn ask(
        &mut self,
        language: &str,
        kind: &str,
        texts: [&str; 2],
    ) -> anyhow::Result<String> {
        let judge = match language {
            "python" => &mut self.python,
            "javascript" | "typescript" | "tsx" => &mut self.ecmascript,
            "json" => {
                let read = |text: &str| serde_json::from_str::<serde_json::Value>(text).ok();
                let [before, after] = texts.map(read);
                return Ok(match before {
                    None => "unread".into(),
                    before if before == after => "same".into(),
                    _ => "other values".into(),
                });
            }
            _ => {
                let language = languages::by_name(language).context("no such language")?;
                return Ok(match witness::same(language, &language.style(), texts[0], texts[1]) {
                    None => "unread".into(),
                    Some(Ok(())) => "same".into(),
                    Some(Err(error)) => error.to_string(),
                });
            }
        };
        match judge {
            Some(judge) => judge.ask(kind, texts),
            None => Ok("unjudged".into()),
        }
    }
}

impl Judge {
    fn start(command: &mut Command) -> anyhow::Result<Judge> {
        let mut child = command.stdin(Stdio::piped()).stdout(Stdio::piped()).spawn()?;
        let (Some(ask), Some(answers)) = (child.stdin.take(), child.stdout.take()) else {
            bail!("no pipe to a judge");
        };
        Ok(Judge { _child: child, ask, answers: BufReader::new(answers) })
    }

    fn ask(&mut self, kind: &str, texts: [&str; 2]) -> anyhow::Result<String> {
        let question = serde_json::json!({ "kind": kind, "texts": texts });
        writeln!(self.ask, "{question}")?;
        let mut answer = String::new();
        if self.answers.read_line(&mut answer)? == 0 {
            bail!("a judge has ended");
        }
        Ok(answer.trim_end().to_string())
    }
}
