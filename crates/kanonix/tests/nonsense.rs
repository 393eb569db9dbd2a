//! An editor's server that is told nonsense: every request has one answer, and the end is clean.

use serde_json::{Map, Value, json};
use crate::support::Repo;
use crate::support::client::{Client, uri};
use crate::support::random::Random;

const METHODS: [&str; 18] = [
    "textDocument/willSaveWaitUntil",
    "textDocument/formatting",
    "textDocument/rangeFormatting",
    "textDocument/rangesFormatting",
    "textDocument/onTypeFormatting",
    "textDocument/diagnostic",
    "textDocument/codeAction",
    "workspace/executeCommand",
    "kanonix/status",
    "tide/rise",
    "textDocument/didOpen",
    "textDocument/didChange",
    "textDocument/didSave",
    "textDocument/didClose",
    "workspace/didChangeConfiguration",
    "workspace/didChangeWorkspaceFolders",
    "$/cancelRequest",
    "initialized",
];

const PIECES: [&str; 16] = [
    "a=1\n", "if x:\n", "  ", "(", ")", "é", "𝄞", "\r", "\r\n", "\"", "\0", "[1,2]", "<<<<<<< a\n",
    "# kanonix: keep on\n", "\u{2028}", "def f(a,b):\n  return a\n",
];

struct Nonsense {
    random: Random,
    uris: Vec<String>,
}

impl Nonsense {
    fn one<T: Clone>(&mut self, of: &[T]) -> T {
        of[self.random.below(of.len())].clone()
    }

    fn text(&mut self) -> String {
        (0..self.random.below(12)).map(|_| self.one(&PIECES)).collect()
    }

    fn number(&mut self) -> Value {
        let odd = [
            json!(-1),
            json!(u32::MAX),
            json!(u64::MAX),
            json!(1e300),
            json!(3.5),
            Value::Null,
        ];
        match self.random.below(4) {
            0 => self.one(&odd),
            _ => json!(self.random.below(9)),
        }
    }

    fn range(&mut self) -> Value {
        let mut place = || json!({ "line": self.number(), "character": self.number() });
        json!({ "start": place(), "end": place() })
    }

    /// The members that any request or notification has, some of them odd or missing.
    fn params(&mut self) -> Value {
        let uris = self.uris.clone();
        let known = &uris[..2];
        let changes: Vec<Value> = (0..self.random.below(3))
            .map(|_| match self.random.below(4) {
                0 => json!({ "text": self.text() }),
                _ => json!({ "range": self.range(), "text": self.text() }),
            })
            .collect();
        let uri = if self.random.below(6) == 0 { self.one(&uris) } else { self.one(known) };
        let mut params: Map<String, Value> = Map::new();
        let members = [
            ("textDocument", json!({
                "uri": uri,
                "version": self.random.below(9),
                "languageId": self.one(&["python", "json", "tide"]),
                "text": self.text(),
            })),
            ("position", json!({ "line": self.number(), "character": self.number() })),
            ("range", self.range()),
            ("ranges", json!([self.range(), self.range()])),
            ("ch", json!(self.one(&["\n", ";", "}", "x", ""]))),
            ("options", json!({ "tabSize": self.random.below(9), "insertSpaces": true })),
            (
                "context",
                json!({ "diagnostics": [], "only": [self.one(&["quickfix", "source", ""])] }),
            ),
            ("reason", json!(self.random.below(5))),
            ("contentChanges", json!(changes)),
            ("command", json!(self.one(&["kanonix.mend", "kanonix.explain", "tide"]))),
            ("arguments", json!([self.one(known), self.number()])),
            ("line", self.number()),
            ("settings", json!({ "kanonix": { "olderSlips": self.random.below(2) == 0 } })),
            ("event", json!({ "added": [], "removed": [] })),
            ("id", json!(self.random.below(300))),
            ("workDoneToken", self.number()),
        ];
        for (name, value) in members {
            match self.random.below(40) {
                0 => {}
                1 => drop(params.insert(name.into(), json!({ "tide": self.text() }))),
                _ => drop(params.insert(name.into(), value)),
            }
        }
        Value::Object(params)
    }
}

#[test]
fn every_request_has_one_answer_and_the_end_is_clean() {
    let repo = Repo::with(&[("a.py", "a=1\n")]);
    let uris = ["a.py", "none/b.js", "%FF.py"].map(|path| uri(&repo, path));
    let odd = ["untitled:x", "", "http://tide.example/b.py", "file://host/a.py", "file:///"];
    let uris: Vec<String> = [uris[0].clone(), odd[0].into()]
        .into_iter()
        .chain(uris)
        .chain(odd.map(Into::into))
        .collect();
    let mut nonsense = Nonsense { random: Random::new(11), uris };
    let mut client = Client::of(&repo);
    let mut asked = Vec::new();
    for round in 0..2_000 {
        let method = nonsense.one(&METHODS);
        let params = nonsense.params();
        if METHODS[..10].contains(&method) {
            asked.push(client.begin(method, params));
        } else {
            client.tell(method, params);
        }
        if round % 100 == 0 {
            let bodies: [&[u8]; 4] = [b"{}", b"null", b"\xff\xfe", b"{\"id\":{}}"];
            let body = nonsense.one(&bodies);
            let head = format!("Content-Length: {}\r\n\r\n", body.len());
            client.send_bytes(&[head.as_bytes(), body].concat());
        }
    }
    for id in &asked {
        let _ = client.answer(*id);
    }
    client.ask("kanonix/status", json!({})).unwrap();
    assert_eq!(client.spare_answers(), 0);
    assert!(asked.len() > 500);
    assert!(client.end().success());
}
