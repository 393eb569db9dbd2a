//! How the compiler of Java reads a text, asked through its public interface for trees.

use anyhow::{Context, Result, anyhow};
use std::io::{BufRead, BufReader, Read, Write};
use std::process::{Child, ChildStdin, ChildStdout, Command, Stdio};
use std::sync::{Mutex, PoisonError};

/// A program that answers with the tree of each text.
const TREES: &str = include_str!("Trees.java");

struct Compiler {
    _child: Child,
    texts: ChildStdin,
    trees: BufReader<ChildStdout>,
}

impl Compiler {
    fn start() -> Result<Compiler> {
        let folder = std::env::temp_dir().join(format!("kanonix-trees-{}", std::process::id()));
        std::fs::create_dir_all(&folder)?;
        let program = folder.join("Trees.java");
        std::fs::write(&program, TREES)?;
        let mut java = Command::new("java");
        java.arg(program).stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::null());
        let mut child = java.spawn().context("no Java here")?;
        let texts = child.stdin.take().context("no input")?;
        let trees = BufReader::new(child.stdout.take().context("no output")?);
        Ok(Compiler { _child: child, texts, trees })
    }

    fn ask(&mut self, text: &str) -> Result<String> {
        write!(self.texts, "{}\n{text}", text.len())?;
        self.texts.flush()?;
        let mut length = String::new();
        self.trees.read_line(&mut length)?;
        let mut answer = vec![0; length.trim().parse()?];
        self.trees.read_exact(&mut answer)?;
        Ok(String::from_utf8(answer)?)
    }
}

static COMPILER: Mutex<Option<Compiler>> = Mutex::new(None);

/// The tree of a text, one node a line.
pub fn read(text: &str) -> Result<String> {
    let mut compiler = COMPILER.lock().unwrap_or_else(PoisonError::into_inner);
    if compiler.is_none() {
        *compiler = Some(Compiler::start()?);
    }
    let answer = match compiler.as_mut() {
        Some(compiler) => compiler.ask(text)?,
        None => return Err(anyhow!("no compiler")),
    };
    match answer.split_once('\n') {
        Some(("read", tree)) => Ok(tree.to_string()),
        _ => Err(anyhow!("{answer}")),
    }
}
