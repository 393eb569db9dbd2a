//! Reading objects: one running git serves many questions.
//!
//! Missing is never empty. What a commit has at a path is found through its trees, one after the
//! other: only a tree that has been read can say that there is nothing at a path.

use crate::system::bytes_of;
use crate::system::{LONGEST, Patient};
use super::{Answer, GitError, Repository};
use std::collections::VecDeque;
use std::io::{BufRead, BufReader, ErrorKind, Read, Write};
use std::path::Path;
use std::process::{Child, ChildStdin, ChildStdout, Stdio};
use std::sync::Arc;

/// An object larger than this is not read. In bytes.
const LARGEST: usize = 256 * 1024 * 1024;

/// So much is remembered, in bytes.
const MOST_REMEMBERED: usize = 16 * 1024 * 1024;

impl Repository {
    /// A reader of objects, which serves until it is dropped.
    ///
    /// # Errors
    /// If git cannot be run.
    pub fn blobs(&self) -> Answer<Blobs> {
        let process = Process::start(self)?;
        Ok(Blobs { process, repository: self.clone(), known: VecDeque::new() })
    }
}

/// A running `cat-file`.
#[derive(Debug)]
pub struct Blobs {
    process: Process,
    repository: Repository,
    /// What was read before, the last one last: an object never changes, only which one a name
    /// means.
    known: VecDeque<(String, Object)>,
}

#[derive(Debug)]
struct Process {
    child: Child,
    ask: Option<ChildStdin>,
    answers: BufReader<Patient<ChildStdout>>,
}

/// An object's kind and contents.
#[derive(Clone, Debug)]
struct Object {
    kind: ObjectKind,
    contents: Arc<Vec<u8>>,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum ObjectKind {
    Blob,
    Tree,
    Other,
}

impl Blobs {
    /// The contents of a blob, named by its hash.
    ///
    /// # Errors
    /// If it is missing or damaged, or git ends early.
    pub fn read(&mut self, hash: &str) -> Answer<Vec<u8>> {
        match self.object(hash)? {
            Some((_, Object { kind: ObjectKind::Blob, contents })) => Ok((*contents).clone()),
            _ => Err(damaged(hash)),
        }
    }

    /// The commit that a revision names, if it names one and is spelt in one line.
    ///
    /// # Errors
    /// If it is damaged, or git ends early.
    pub fn commit(&mut self, revision: &str) -> Answer<Option<String>> {
        if revision.contains(char::is_control) {
            return Ok(None);
        }
        Ok(self.object(&format!("{revision}^{{commit}}"))?.map(|(hash, _)| hash))
    }

    /// The hash of the blob that a commit has at a path; `None` if it has no file there.
    ///
    /// # Errors
    /// If the commit or a tree on the way is missing or damaged, or git ends early.
    pub fn at(&mut self, revision: &str, path: &Path) -> Answer<Option<String>> {
        Ok(match self.found_at(revision, path)? {
            Some(Found::File(hash)) => Some(hash),
            _ => None,
        })
    }

    /// As [`Blobs::at`], links told from files.
    ///
    /// # Errors
    /// As [`Blobs::at`].
    pub fn found_at(&mut self, revision: &str, path: &Path) -> Answer<Option<Found>> {
        let repository = self.repository.clone();
        let of_tree = |error: GitError| match error {
            // What is damaged is the tree, by its own name.
            GitError::Damaged { message, .. } => {
                let object = repository.commit(revision).unwrap_or(revision.to_string());
                repository.by_its_tree(GitError::Damaged { object, message })
            }
            error => error,
        };
        let found = self.object(&format!("{revision}^{{tree}}")).map_err(of_tree)?;
        let Some((hash, root)) = found else {
            // A branch without a commit has nothing anywhere; any other one should have a tree.
            return match revision == "HEAD" && self.repository.head()?.is_none() {
                true => Ok(None),
                false => Err(of_tree(damaged(revision))),
            };
        };
        let (mut tree, hash_length) = (root, hash.len() / 2);
        let mut parts = path.components().peekable();
        while let Some(part) = parts.next() {
            let name = bytes_of(part.as_ref());
            let Some((mode, hash)) = entry(&tree.contents, name, hash_length) else {
                return Ok(None);
            };
            match (mode, parts.peek().is_some()) {
                (Mode::Tree, true) => match self.object(&hash)? {
                    Some((_, found)) if found.kind == ObjectKind::Tree => tree = found,
                    _ => return Err(damaged(&hash)),
                },
                (Mode::File, false) => return Ok(Some(Found::File(hash))),
                (Mode::Link, false) => return Ok(Some(Found::Link(hash))),
                _ => return Ok(None),
            }
        }
        Ok(None)
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
    pub fn read_all(&mut self, hashes: &[&str]) -> Answer<Vec<Vec<u8>>> {
        let input: String = hashes.iter().map(|hash| format!("{hash}\n")).collect();
        let ask = |process: &mut Process| -> std::io::Result<Vec<Option<(String, Object)>>> {
            let Some(ask) = &mut process.ask else { return Ok(Vec::new()) };
            ask.write_all(input.as_bytes())?;
            ask.flush()?;
            hashes.iter().map(|_| process.answer()).collect()
        };
        let found = ask(&mut self.process).map_err(|error| self.died(hashes.first(), &error))?;
        let of_blob = |(found, hash): (Option<(String, Object)>, &&str)| match found {
            Some((_, Object { kind: ObjectKind::Blob, contents })) => {
                Ok(Arc::try_unwrap(contents).unwrap_or_else(|shared| (*shared).clone()))
            }
            _ => Err(damaged(hash)),
        };
        found.into_iter().zip(hashes).map(of_blob).collect()
    }

    /// An object and its hash, named by the hash or by what leads to a tree.
    fn object(&mut self, name: &str) -> Answer<Option<(String, Object)>> {
        if let Some((hash, object)) = self.known.iter().find(|(known, _)| *known == name) {
            return Ok(Some((hash.clone(), object.clone())));
        }
        let found = self.process.exchange(name).map_err(|error| self.died(Some(&name), &error))?;
        if let Some((hash, object)) = &found {
            self.known.retain(|(known, _)| known != hash);
            self.known.push_back((hash.clone(), object.clone()));
            let size = |known: &VecDeque<(String, Object)>| -> usize {
                known.iter().map(|(_, object)| object.contents.len()).sum()
            };
            while self.known.len() > 1 && size(&self.known) > MOST_REMEMBERED {
                self.known.pop_front();
            }
        }
        Ok(found)
    }

    /// Git ends where an object's contents are not what they should be. Without an answer, nothing
    /// is known: that is not the same as no such object. The next question is for another git.
    fn died(&mut self, name: Option<&&str>, why: &std::io::Error) -> GitError {
        // One that says nothing more would be waited for.
        let _ = self.process.child.kill();
        match Process::start(&self.repository) {
            Ok(process) => self.process = process,
            Err(error) => return error,
        }
        match name {
            _ if why.kind() == ErrorKind::TimedOut => GitError::TooLong("cat-file".into()),
            Some(name) => damaged(name),
            None => GitError::NotRun(std::io::ErrorKind::UnexpectedEof.into()),
        }
    }
}

fn damaged(object: &str) -> GitError {
    GitError::Damaged { object: object.into(), message: String::new() }
}

/// What a commit has at a path, by its blob's hash.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Found {
    /// A plain file.
    File(String),
    /// A symbolic link, whose target is the blob's contents.
    Link(String),
}

#[derive(Clone, Copy, PartialEq, Eq)]
enum Mode {
    Tree,
    File,
    Link,
    Other,
}

/// A tree's entry: its mode and hash. Git writes an entry as its mode in octal, a space, the name,
/// a zero byte, and the hash in binary.
fn entry(tree: &[u8], name: &[u8], hash_length: usize) -> Option<(Mode, String)> {
    let mut rest = tree;
    while !rest.is_empty() {
        let space = rest.iter().position(|byte| *byte == b' ')?;
        let end = rest.iter().position(|byte| *byte == 0)?;
        let hash = rest.get(end + 1..end + 1 + hash_length)?;
        if rest.get(space + 1..end)? == name {
            let mode = match &rest[..space] {
                b"40000" => Mode::Tree,
                b"120000" => Mode::Link,
                mode if mode.starts_with(b"100") => Mode::File,
                _ => Mode::Other,
            };
            return Some((mode, hash.iter().map(|byte| format!("{byte:02x}")).collect()));
        }
        rest = &rest[end + 1 + hash_length..];
    }
    None
}

impl Process {
    fn start(repository: &Repository) -> Answer<Process> {
        let mut command = repository.git();
        command.args(["cat-file", "--batch"]);
        command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::null());
        let mut child = command.spawn().map_err(GitError::NotRun)?;
        let (Some(ask), Some(answers)) = (child.stdin.take(), child.stdout.take()) else {
            return Err(GitError::NotRun(std::io::ErrorKind::BrokenPipe.into()));
        };
        Ok(Process {
            child,
            ask: Some(ask),
            answers: BufReader::new(Patient::new(answers, LONGEST)),
        })
    }

    fn exchange(&mut self, name: &str) -> std::io::Result<Option<(String, Object)>> {
        let Some(ask) = &mut self.ask else { return Ok(None) };
        ask.write_all(format!("{name}\n").as_bytes())?;
        ask.flush()?;
        self.answer()
    }

    /// Hash, kind and contents of what is answered; nothing if it is missing, or too large.
    fn answer(&mut self) -> std::io::Result<Option<(String, Object)>> {
        let mut head = Vec::new();
        if self.answers.read_until(b'\n', &mut head)? == 0 {
            return Err(std::io::ErrorKind::UnexpectedEof.into());
        }
        let head = String::from_utf8_lossy(&head).trim_end().to_string();
        let mut words = head.split(' ');
        let (Some(hash), Some(kind), Some(size)) = (words.next(), words.next(), words.next()) else {
            return Ok(None);
        };
        let Ok(size) = size.parse::<usize>() else { return Ok(None) };
        let kind = match kind {
            "blob" => ObjectKind::Blob,
            "tree" => ObjectKind::Tree,
            _ => ObjectKind::Other,
        };
        if size > LARGEST {
            std::io::copy(&mut (&mut self.answers).take(size as u64 + 1), &mut std::io::sink())?;
            return Ok(None);
        }
        let mut contents = vec![0; size + 1];
        self.answers.read_exact(&mut contents)?;
        contents.pop();
        Ok(Some((hash.to_string(), Object { kind, contents: Arc::new(contents) })))
    }
}

impl Drop for Process {
    fn drop(&mut self) {
        // Without its input, git ends by itself.
        self.ask = None;
        let _ = self.child.wait();
    }
}
