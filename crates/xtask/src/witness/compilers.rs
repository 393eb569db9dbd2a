//! How compilers read a text, asked through their public interfaces for trees: each by a small
//! program that answers with the tree of each text.

use anyhow::{Context, Result, anyhow, bail};
use std::io::{BufRead, BufReader, Read, Write};
use std::path::Path;
use std::process::{Child, ChildStdin, ChildStdout, Command, Stdio};
use std::sync::{Mutex, PoisonError};

struct Compiler {
    _child: Child,
    texts: ChildStdin,
    trees: BufReader<ChildStdout>,
}

impl Compiler {
    /// Starts what `command` makes of a program in a folder of its own.
    fn start(name: &str, program: &str, command: Prepare) -> Result<Compiler> {
        let folder = std::env::temp_dir().join(format!("kanonix-trees-{}", std::process::id()));
        std::fs::create_dir_all(&folder)?;
        std::fs::write(folder.join(name), program)?;
        let mut child = command(&folder)?
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::null())
            .spawn()
            .with_context(|| format!("{name} cannot be run here"))?;
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
        Ok(String::from_utf8_lossy(&answer).into_owned())
    }
}

/// Makes a command of the program in a folder.
type Prepare = fn(&Path) -> Result<Command>;

static JAVA: Mutex<Option<Compiler>> = Mutex::new(None);
static CSHARP: Mutex<Option<Compiler>> = Mutex::new(None);
static RUBY: Mutex<Option<Compiler>> = Mutex::new(None);

/// Where a compiler of C# is a library, too.
const MONO: &str = "/usr/lib/mono/4.5";

/// The tree of a text in Java, one node a line.
pub fn java(text: &str) -> Result<String> {
    read(&JAVA, text, ("Trees.java", include_str!("Trees.java")), |folder| {
        let mut java = Command::new("java");
        java.arg(folder.join("Trees.java"));
        Ok(java)
    })
}

/// The same in C#.
pub fn csharp(text: &str) -> Result<String> {
    read(&CSHARP, text, ("Trees.cs", include_str!("Trees.cs")), |folder| {
        let compiled = Command::new("mcs")
            .arg(format!("-r:{MONO}/mcs.exe"))
            .arg("Trees.cs")
            .current_dir(folder)
            .status()?;
        if !compiled.success() {
            bail!("the program that asks a compiler of C# cannot be compiled");
        }
        let mut mono = Command::new("mono");
        mono.arg(folder.join("Trees.exe")).env("MONO_PATH", MONO);
        Ok(mono)
    })
}

/// The same in Ruby.
pub fn ruby(text: &str) -> Result<String> {
    read(&RUBY, text, ("Trees.rb", include_str!("Trees.rb")), |folder| {
        let mut ruby = Command::new("ruby");
        ruby.arg("--disable-gems").arg(folder.join("Trees.rb"));
        Ok(ruby)
    })
}

fn read(
    compiler: &Mutex<Option<Compiler>>,
    text: &str,
    (name, program): (&str, &str),
    command: Prepare,
) -> Result<String> {
    let mut compiler = compiler.lock().unwrap_or_else(PoisonError::into_inner);
    if compiler.is_none() {
        *compiler = Some(Compiler::start(name, program, command)?);
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

/// The listing of what a text in Lua is compiled to, without what names lines and places.
pub fn lua(text: &str) -> Result<String> {
    const COMPILERS: [&str; 2] = ["luac5.4", "luac5.1"];
    let mut said = anyhow!("no compiler of Lua");
    for compiler in COMPILERS {
        let child = Command::new(compiler)
            .args(["-l", "-l", "-p", "-"])
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn();
        let Ok(mut child) = child else { continue };
        let mut input = child.stdin.take().context("no input")?;
        let text = text.to_string();
        // It may answer before it has read everything.
        let writer = std::thread::spawn(move || input.write_all(text.as_bytes()));
        let output = child.wait_with_output()?;
        let _ = writer.join();
        if output.status.success() {
            let listing = String::from_utf8_lossy(&output.stdout);
            return Ok(listing.lines().map(without_places).collect::<Vec<_>>().join("\n"));
        }
        said = anyhow!("{}", String::from_utf8_lossy(&output.stderr));
    }
    Err(said)
}

/// A line of a listing without the number of its source line and without addresses.
fn without_places(line: &str) -> String {
    let words = line.split([' ', '\t']).filter(|word| {
        let is_line = word.starts_with('[') && word.ends_with(']');
        let is_place = word.starts_with('<') || word.contains("0x");
        !word.is_empty()
            && !(is_line && word[1..word.len() - 1].parse::<u32>().is_ok())
            && !is_place
    });
    words.collect::<Vec<_>>().join(" ")
}
