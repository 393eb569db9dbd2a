//! A client of the Language Server Protocol that speaks with the built program over pipes.

use super::Repo;
use serde_json::{Value, json};
use std::collections::HashMap;
use std::io::{BufRead, BufReader, Read, Write};
use std::process::{Child, ChildStdin, ExitStatus, Stdio};
use std::sync::mpsc;
use std::time::Duration;

/// Nothing takes as long as this.
const LONGEST_WAIT: Duration = Duration::from_secs(20);

pub struct Client {
    child: Child,
    input: Option<ChildStdin>,
    messages: mpsc::Receiver<Value>,
    /// Messages that nobody has asked for yet.
    kept: Vec<Value>,
    asked: i64,
    /// By URI: version and text.
    pub texts: HashMap<String, (i64, String)>,
    /// How places on a line are counted.
    pub encoding: String,
}

impl Client {
    /// Starts a server that has heard nothing yet.
    pub fn bare(repo: &Repo) -> Client {
        let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
        command.arg("lsp").stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped());
        let mut child = command.spawn().unwrap();
        let mut output = BufReader::new(child.stdout.take().unwrap());
        let (tell, messages) = mpsc::channel();
        std::thread::spawn(move || {
            while let Some(message) = read(&mut output) {
                if tell.send(message).is_err() {
                    return;
                }
            }
        });
        let input = child.stdin.take();
        Client {
            child,
            input,
            messages,
            kept: Vec::new(),
            asked: 0,
            texts: HashMap::new(),
            encoding: "utf-16".into(),
        }
    }

    /// Starts a server for a repository, with these members of the first request.
    pub fn with(repo: &Repo, members: Value) -> Client {
        let mut client = Client::bare(repo);
        let mut params = json!({
            "processId": null,
            "clientInfo": { "name": "lookout" },
            "rootUri": uri(repo, ""),
            "capabilities": {},
        });
        for (name, value) in members.as_object().unwrap() {
            params[name] = value.clone();
        }
        let answer = client.ask("initialize", params).unwrap();
        client.encoding = answer["capabilities"]["positionEncoding"].as_str().unwrap().into();
        client.tell("initialized", json!({}));
        client
    }

    pub fn of(repo: &Repo) -> Client {
        Client::with(repo, json!({}))
    }

    pub fn send_bytes(&mut self, bytes: &[u8]) {
        let input = self.input.as_mut().unwrap();
        input.write_all(bytes).unwrap();
        input.flush().unwrap();
    }

    pub fn send(&mut self, message: &Value) {
        let body = message.to_string();
        self.send_bytes(format!("Content-Length: {}\r\n\r\n{body}", body.len()).as_bytes());
    }

    pub fn tell(&mut self, method: &str, params: Value) {
        self.send(&json!({ "jsonrpc": "2.0", "method": method, "params": params }));
    }

    /// Asks without waiting for the answer.
    pub fn begin(&mut self, method: &str, params: Value) -> i64 {
        self.asked += 1;
        let id = self.asked;
        self.send(&json!({ "jsonrpc": "2.0", "id": id, "method": method, "params": params }));
        id
    }

    /// The result, or the error.
    pub fn answer(&mut self, id: i64) -> Result<Value, Value> {
        let message = self.next(|message| message["id"] == id && message.get("method").is_none());
        match message.get("error") {
            Some(error) => Err(error.clone()),
            None => Ok(message["result"].clone()),
        }
    }

    pub fn ask(&mut self, method: &str, params: Value) -> Result<Value, Value> {
        let id = self.begin(method, params);
        self.answer(id)
    }

    /// The next message of this kind, as it came.
    pub fn next(&mut self, wanted: impl Fn(&Value) -> bool) -> Value {
        if let Some(at) = self.kept.iter().position(&wanted) {
            return self.kept.remove(at);
        }
        loop {
            let message = match self.messages.recv_timeout(LONGEST_WAIT) {
                Ok(message) => message,
                Err(error) => {
                    let _ = self.child.kill();
                    panic!("no message: {error}; the server said: {:?}", self.wait());
                }
            };
            if wanted(&message) {
                return message;
            }
            self.kept.push(message);
        }
    }

    /// The parameters of the next notification or request by this name.
    pub fn told(&mut self, method: &str) -> Value {
        self.next(|message| message["method"] == method)["params"].clone()
    }

    /// How many answers are there by now that nobody waits for.
    pub fn spare_answers(&mut self) -> usize {
        self.kept.extend(self.messages.try_iter());
        let is_answer = |one: &&Value| one["id"].is_i64() && one.get("method").is_none();
        self.kept.iter().filter(is_answer).count()
    }

    /// How often something was told by now.
    pub fn count_told(&mut self, method: &str) -> usize {
        self.kept.extend(self.messages.try_iter());
        self.kept.iter().filter(|message| message["method"] == method).count()
    }

    pub fn open(&mut self, uri: &str, language: &str, text: &str) {
        self.texts.insert(uri.into(), (1, text.into()));
        let item = json!({ "uri": uri, "languageId": language, "version": 1, "text": text });
        self.tell("textDocument/didOpen", json!({ "textDocument": item }));
    }

    /// Replaces a stretch of bytes, here and there.
    pub fn change(&mut self, uri: &str, range: std::ops::Range<usize>, new: &str) {
        let (version, text) = self.texts.get_mut(uri).unwrap();
        *version += 1;
        let places = json!({
            "start": place(text, range.start, &self.encoding),
            "end": place(text, range.end, &self.encoding),
        });
        text.replace_range(range, new);
        let params = json!({
            "textDocument": { "uri": uri, "version": *version },
            "contentChanges": [{ "range": places, "text": new }],
        });
        self.tell("textDocument/didChange", params);
    }

    /// Replaces a piece of text that occurs in it.
    pub fn edit(&mut self, uri: &str, old: &str, new: &str) {
        let at = self.text(uri).find(old).unwrap_or_else(|| panic!("{old:?} in {uri}"));
        self.change(uri, at..at + old.len(), new);
    }

    pub fn text(&self, uri: &str) -> &str {
        &self.texts[uri].1
    }

    /// Applies edits that came as an answer, as an editor does: to the text that is there, from the
    /// last to the first, each told as a change.
    pub fn apply(&mut self, uri: &str, edits: &Value) {
        let mut ranges: Vec<(std::ops::Range<usize>, String)> = Vec::new();
        for edit in edits.as_array().into_iter().flatten() {
            let text = self.text(uri);
            let offset = |end: &str| offset(text, &edit["range"][end], &self.encoding);
            ranges.push((offset("start")..offset("end"), edit["newText"].as_str().unwrap().into()));
        }
        let ends = ranges.windows(2).all(|pair| pair[0].0.end <= pair[1].0.start);
        assert!(ends, "edits in order and apart: {ranges:?}");
        for (range, new) in ranges.into_iter().rev() {
            self.change(uri, range, &new);
        }
    }

    /// What an editor does on a save: asks for edits, applies them, writes the file and says so.
    pub fn save(&mut self, uri: &str) {
        let asked = json!({ "textDocument": { "uri": uri }, "reason": 1 });
        let edits = self.ask("textDocument/willSaveWaitUntil", asked).unwrap();
        self.apply(uri, &edits);
        let path = uri.strip_prefix("file://").unwrap();
        std::fs::write(path, self.text(uri)).unwrap();
        self.tell("textDocument/didSave", json!({ "textDocument": { "uri": uri } }));
    }

    /// Ends the server as the protocol has it.
    pub fn end(mut self) -> ExitStatus {
        self.ask("shutdown", Value::Null).unwrap();
        self.tell("exit", Value::Null);
        self.wait().0
    }

    /// Closes the server's input.
    pub fn close(&mut self) {
        self.input = None;
    }

    /// Waits for the server's end; what it wrote on the standard error comes with it.
    pub fn wait(&mut self) -> (ExitStatus, String) {
        let status = self.child.wait().unwrap();
        let mut said = String::new();
        self.child.stderr.take().unwrap().read_to_string(&mut said).unwrap();
        (status, said)
    }

    pub fn process(&self) -> u32 {
        self.child.id()
    }
}

impl Drop for Client {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

pub fn uri(repo: &Repo, path: &str) -> String {
    format!("file://{}", repo.path(path).display())
}

fn read(output: &mut impl BufRead) -> Option<Value> {
    let mut length = 0;
    loop {
        let mut line = String::new();
        if output.read_line(&mut line).ok()? == 0 {
            return None;
        }
        match line.trim_end().split_once(": ") {
            Some((name, value)) if name == "Content-Length" => length = value.parse().ok()?,
            Some(_) => {}
            None => break,
        }
    }
    let mut body = vec![0; length];
    output.read_exact(&mut body).ok()?;
    serde_json::from_slice(&body).ok()
}

fn width(c: char, encoding: &str) -> usize {
    match encoding {
        "utf-8" => c.len_utf8(),
        "utf-16" => c.len_utf16(),
        _ => 1,
    }
}

/// Lines end behind `\n`; no text of these tests has a lone `\r`.
pub fn place(text: &str, offset: usize, encoding: &str) -> Value {
    let before = &text[..offset];
    let start = before.rfind('\n').map_or(0, |at| at + 1);
    let character: usize = before[start..].chars().map(|c| width(c, encoding)).sum();
    json!({ "line": before.matches('\n').count(), "character": character })
}

fn offset(text: &str, place: &Value, encoding: &str) -> usize {
    let line = place["line"].as_u64().unwrap() as usize;
    let start: usize = text.split_inclusive('\n').take(line).map(str::len).sum();
    let mut left = place["character"].as_u64().unwrap() as usize;
    let mut at = start;
    for c in text[start..].chars() {
        if left == 0 {
            break;
        }
        left -= width(c, encoding);
        at += c.len_utf8();
    }
    at
}
