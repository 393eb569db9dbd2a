//! Reading objects: one running git serves many questions.

use super::{Answer, GitError, Repository};
use std::collections::VecDeque;
use std::io::{BufRead, BufReader, Read, Write};
use std::process::{Child, ChildStdin, ChildStdout, Stdio};

impl Repository {
    /// A reader of blobs, which serves until it is dropped.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn blobs(&self) -> Answer<Blobs> {
        self.reader("--batch")
    }

    /// As [`Repository::blobs`], for somebody who asks for the same ones again and again.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn remembering_blobs(&self) -> Answer<Blobs> {
        let names = Box::new(self.reader("--batch-check")?);
        let memory = Memory { names, known: VecDeque::new() };
        Ok(Blobs { memory: Some(memory), ..self.blobs()? })
    }

    fn reader(&self, how: &str) -> Answer<Blobs> {
        let mut command = self.git();
        command.args(["cat-file", how]);
        command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::null());
        let mut child = command.spawn().map_err(GitError::NotRun)?;
        let (Some(ask), Some(answers)) = (child.stdin.take(), child.stdout.take()) else {
            return Err(GitError::NotRun(std::io::ErrorKind::BrokenPipe.into()));
        };
        let process = Process { child, ask: Some(ask), answers: BufReader::new(answers) };
        Ok(Blobs { process, memory: None })
    }
}

/// A running `cat-file`.
#[derive(Debug)]
pub struct Blobs {
    process: Process,
    memory: Option<Memory>,
}

#[derive(Debug)]
struct Process {
    child: Child,
    ask: Option<ChildStdin>,
    answers: BufReader<ChildStdout>,
}

/// What was read before: an object never changes, only which one a name means.
#[derive(Debug)]
struct Memory {
    /// Says which object a name means.
    names: Box<Blobs>,
    /// By hash, the last one read last.
    known: VecDeque<(String, Vec<u8>)>,
}

/// So much is remembered, in bytes.
const MOST_REMEMBERED: usize = 16 * 1024 * 1024;

impl Memory {
    /// The hash of the blob that a name means now.
    fn hash(&mut self, name: &[u8]) -> std::io::Result<Option<String>> {
        let head = self.names.process.question(name)?;
        Ok(head.and_then(|head| head.split(' ').next().map(str::to_string)))
    }

    fn keep(&mut self, hash: String, contents: Vec<u8>) {
        self.known.push_back((hash, contents));
        let size = |known: &VecDeque<(String, Vec<u8>)>| -> usize {
            known.iter().map(|(_, contents)| contents.len()).sum()
        };
        while self.known.len() > 1 && size(&self.known) > MOST_REMEMBERED {
            self.known.pop_front();
        }
    }
}

impl Blobs {
    /// The contents of an object, named by its hash or as `REV:PATH`; `None` if there is none, or
    /// it is no blob.
    ///
    /// # Errors
    /// If git ends early.
    pub fn read(&mut self, name: &[u8]) -> Answer<Option<Vec<u8>>> {
        let Some(memory) = &mut self.memory else {
            return self.process.exchange(name).map_err(GitError::NotRun);
        };
        let Some(hash) = memory.hash(name).map_err(GitError::NotRun)? else { return Ok(None) };
        if let Some((_, contents)) = memory.known.iter().find(|(known, _)| *known == hash) {
            return Ok(Some(contents.clone()));
        }
        let contents = self.process.exchange(hash.as_bytes()).map_err(GitError::NotRun)?;
        if let Some(contents) = &contents {
            memory.keep(hash, contents.clone());
        }
        Ok(contents)
    }

    /// Whether the program still answers.
    pub fn runs(&mut self) -> bool {
        matches!(self.process.child.try_wait(), Ok(None))
    }

    /// As [`Blobs::read`] for several objects, asked for at once. Not for more than fit into a
    /// pipe's buffer by their names: a thousand are fine.
    ///
    /// # Errors
    /// As [`Blobs::read`].
    pub fn read_all(&mut self, names: &[&[u8]]) -> Answer<Vec<Option<Vec<u8>>>> {
        let Some((last, others)) = names.split_last() else { return Ok(Vec::new()) };
        if names.iter().any(|name| name.contains(&b'\n')) {
            return names.iter().map(|name| self.read(name)).collect();
        }
        let ask = |process: &mut Process| -> std::io::Result<Vec<Option<Vec<u8>>>> {
            let Some(ask) = &mut process.ask else { return Ok(vec![None; names.len()]) };
            let mut input = others.join(&b'\n');
            input.extend_from_slice(if others.is_empty() { b"" } else { b"\n" });
            input.extend_from_slice(last);
            input.push(b'\n');
            ask.write_all(&input)?;
            ask.flush()?;
            names.iter().map(|_| process.answer()).collect()
        };
        ask(&mut self.process).map_err(GitError::NotRun)
    }
}

impl Process {
    /// The head of the answer to a name; nothing if there is no such object.
    fn question(&mut self, name: &[u8]) -> std::io::Result<Option<String>> {
        if name.contains(&b'\n') {
            return Ok(None);
        }
        let Some(ask) = &mut self.ask else { return Ok(None) };
        ask.write_all(&[name, b"\n"].concat())?;
        ask.flush()?;
        self.head()
    }

    fn exchange(&mut self, name: &[u8]) -> std::io::Result<Option<Vec<u8>>> {
        match self.question(name)? {
            Some(head) => self.contents(&head),
            None => Ok(None),
        }
    }

    fn answer(&mut self) -> std::io::Result<Option<Vec<u8>>> {
        match self.head()? {
            Some(head) => self.contents(&head),
            None => Ok(None),
        }
    }

    /// Hash, kind and size of what is answered; nothing if it is missing.
    fn head(&mut self) -> std::io::Result<Option<String>> {
        let mut head = Vec::new();
        if self.answers.read_until(b'\n', &mut head)? == 0 {
            // Without an answer, nothing is known: that is not the same as no such object.
            return Err(std::io::ErrorKind::UnexpectedEof.into());
        }
        let head = String::from_utf8_lossy(&head).trim_end().to_string();
        let has_size = head.rsplit(' ').next().is_some_and(|size| size.parse::<usize>().is_ok());
        Ok(has_size.then_some(head))
    }

    fn contents(&mut self, head: &str) -> std::io::Result<Option<Vec<u8>>> {
        let mut words = head.rsplitn(3, ' ');
        let (Some(size), Some(kind)) = (words.next(), words.next()) else { return Ok(None) };
        let Ok(size) = size.parse::<usize>() else { return Ok(None) };
        let mut contents = vec![0; size + 1];
        self.answers.read_exact(&mut contents)?;
        contents.pop();
        Ok((kind == "blob").then_some(contents))
    }
}

impl Drop for Process {
    fn drop(&mut self) {
        // Without its input, git ends by itself.
        self.ask = None;
        let _ = self.child.wait();
    }
}
