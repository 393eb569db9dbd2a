//! Reading objects: one running git serves many questions.

use super::{Answer, GitError, Repository};
use std::io::{BufRead, BufReader, Read, Write};
use std::process::{Child, ChildStdin, ChildStdout, Stdio};

impl Repository {
    /// A reader of blobs, which serves until it is dropped.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn blobs(&self) -> Answer<Blobs> {
        let mut command = self.git();
        command.args(["cat-file", "--batch"]);
        command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::null());
        let mut child = command.spawn().map_err(GitError::NotRun)?;
        let (Some(ask), Some(answers)) = (child.stdin.take(), child.stdout.take()) else {
            return Err(GitError::NotRun(std::io::ErrorKind::BrokenPipe.into()));
        };
        Ok(Blobs { child, ask: Some(ask), answers: BufReader::new(answers) })
    }
}

/// A running `cat-file --batch`.
#[derive(Debug)]
pub struct Blobs {
    child: Child,
    ask: Option<ChildStdin>,
    answers: BufReader<ChildStdout>,
}

impl Blobs {
    /// The contents of an object, named by its hash or as `REV:PATH`; `None` if there is none, or
    /// it is no blob.
    ///
    /// # Errors
    /// If git ends early.
    pub fn read(&mut self, name: &[u8]) -> Answer<Option<Vec<u8>>> {
        self.exchange(name).map_err(GitError::NotRun)
    }

    /// Whether the program still answers.
    pub fn runs(&mut self) -> bool {
        matches!(self.child.try_wait(), Ok(None))
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
        let ask = |blobs: &mut Blobs| -> std::io::Result<Vec<Option<Vec<u8>>>> {
            let Some(ask) = &mut blobs.ask else { return Ok(vec![None; names.len()]) };
            let mut input = others.join(&b'\n');
            input.extend_from_slice(if others.is_empty() { b"" } else { b"\n" });
            input.extend_from_slice(last);
            input.push(b'\n');
            ask.write_all(&input)?;
            ask.flush()?;
            names.iter().map(|_| blobs.answer()).collect()
        };
        ask(self).map_err(GitError::NotRun)
    }

    fn exchange(&mut self, name: &[u8]) -> std::io::Result<Option<Vec<u8>>> {
        if name.contains(&b'\n') {
            return Ok(None);
        }
        let Some(ask) = &mut self.ask else { return Ok(None) };
        ask.write_all(&[name, b"\n"].concat())?;
        ask.flush()?;
        self.answer()
    }

    fn answer(&mut self) -> std::io::Result<Option<Vec<u8>>> {
        let mut head = Vec::new();
        self.answers.read_until(b'\n', &mut head)?;
        let head = String::from_utf8_lossy(&head);
        let mut words = head.trim_end().rsplitn(3, ' ');
        let (Some(size), Some(kind)) = (words.next(), words.next()) else { return Ok(None) };
        let Ok(size) = size.parse::<usize>() else { return Ok(None) };
        let mut contents = vec![0; size + 1];
        self.answers.read_exact(&mut contents)?;
        contents.pop();
        Ok((kind == "blob").then_some(contents))
    }
}

impl Drop for Blobs {
    fn drop(&mut self) {
        // Without its input, git ends by itself.
        self.ask = None;
        let _ = self.child.wait();
    }
}
