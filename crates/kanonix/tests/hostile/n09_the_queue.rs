//! An editor with very many open files, and canons of a size that nobody needs.

use super::Ground;
use crate::support::client::{Client, uri};
use serde_json::{Value, json};

const FILES: usize = 600;

/// Opens all files; no answer is waited for.
fn opened(ground: &Ground, client: &mut Client) {
    for number in 0..FILES {
        let path = format!("deep{}/a{number}.py", number % 20);
        let text = ground.repo.read(&path);
        let document = json!({
            "uri": uri(&ground.repo, &path), "languageId": "python", "version": 1, "text": text,
        });
        client.tell("textDocument/didOpen", json!({ "textDocument": document }));
    }
}

fn ground() -> Ground {
    let ground = Ground::with(&[]);
    let text: String = (0..40).map(|n| format!("level_{n} = [{n}, {n}, {n}]\n")).collect();
    for number in 0..FILES {
        ground.repo.write(&format!("deep{}/a{number}.py", number % 20), &text);
    }
    ground.repo.commit("many");
    ground
}

#[test]
fn a_save_overtakes_what_is_shown() {
    let ground = ground();
    let mut client = Client::of(&ground.repo);
    opened(&ground, &mut client);
    let last = uri(&ground.repo, "deep0/a0.py");
    let change = json!({
        "textDocument": { "uri": last, "version": 2 },
        "contentChanges": [{ "text": "level=1\n" }],
    });
    client.tell("textDocument/didChange", change);
    let asked = json!({ "textDocument": { "uri": last }, "reason": 1 });
    let edits = client.ask("textDocument/willSaveWaitUntil", asked).unwrap();
    assert!(edits.as_array().is_some_and(|edits| !edits.is_empty()), "{edits}");
    // All but a few of the others are still to come.
    let shown = client.count_told("textDocument/publishDiagnostics");
    assert!(shown < FILES / 2, "{shown} of {FILES} came first");
    client.ask("shutdown", Value::Null).unwrap();
}

#[test]
fn a_save_overtakes_what_a_client_pulls() {
    let ground = ground();
    let capabilities = json!({ "textDocument": { "diagnostic": {} } });
    let mut client = Client::with(&ground.repo, json!({ "capabilities": capabilities }));
    opened(&ground, &mut client);
    let pulled: Vec<i64> = (0..FILES)
        .map(|number| {
            let path = format!("deep{}/a{number}.py", number % 20);
            let of = json!({ "textDocument": { "uri": uri(&ground.repo, &path) } });
            client.begin("textDocument/diagnostic", of)
        })
        .collect();
    let last = uri(&ground.repo, "deep0/a0.py");
    let asked = json!({ "textDocument": { "uri": last }, "reason": 1 });
    client.ask("textDocument/willSaveWaitUntil", asked).unwrap();
    let answered = client.spare_answers();
    assert!(answered < FILES / 2, "{answered} of {FILES} came first");
    // Every one of them is answered in the end.
    for id in pulled {
        client.answer(id).unwrap();
    }
}

#[test]
fn a_canon_of_any_size_is_read_or_refused() {
    let ground = Ground::with(&[("a.py", "a = 1\n")]);
    let patterns: Vec<String> = (0..10_000).map(|n| format!("\"deep{n}/**/*.made.{n}\"")).collect();
    let many = format!("[files]\nskip = [{}]\n", patterns.join(", "));
    let parts: String = (0..1000).map(|n| format!("[[part]]\npaths = [\"p{n}/**\"]\n")).collect();
    let deep = format!("[files]\nskip = [\"{}a{}\"]\n", "{".repeat(5000), "}".repeat(5000));
    let long = format!("[files]\nskip = [\"{}\"]\n", "[a-z]*".repeat(2000));
    for canon in [many, parts, deep, long] {
        ground.repo.write("kanonix.toml", &canon);
        let said = ground.kanonix(&["check", "--whole"]);
        assert_eq!(said.status, 2, "{said:?}");
        assert!(said.err.contains("may have") || said.err.contains("may be"), "{said:?}");
        assert!(said.err.len() < 2000, "{said:?}");
    }
    let braces = format!("[{}a{}]\nindent_size = 3\n", "{".repeat(2000), "}".repeat(2000));
    ground.repo.write("kanonix.toml", "edition = 1\n");
    ground.repo.write(".editorconfig", braces);
    assert_eq!(ground.kanonix(&["check", "--whole"]).status, 0);
}
