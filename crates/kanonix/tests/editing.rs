//! A long session at an editor: random edits, after each of which the server's text is the client's,
//! and what it makes of it is what `mend` makes of the same text.
//!
//! `KANONIX_SAVES=100000 KANONIX_CODE=DIR cargo test --release --test editing` goes on for as long as
//! one likes, over any folder of code.

use kanonix_core::languages::Language;
use kanonix_core::mend_since;
use serde_json::{Value, json};
use crate::support::client::{Client, uri};
use crate::support::random::Random;
use crate::support::{Repo, code, demo, times};

/// What a person types and pastes.
const TYPED: [&str; 16] = [
    " ",
    "  ",
    "\n",
    "\n    ",
    "(",
    ")",
    "{",
    "}",
    "[1,2]",
    "x=1",
    "\"",
    "'",
    ", ",
    "é𝄞",
    "# note\n",
    "if a:\n",
];

/// No file of the session is longer, in bytes.
const LONGEST: usize = 12_000;

struct Open {
    uri: String,
    identifier: &'static str,
    language: &'static Language,
    committed: String,
}

/// A change of a few bytes somewhere in the text, or of a line.
fn change(random: &mut Random, text: &str) -> (std::ops::Range<usize>, String) {
    let at = random.place(text);
    let line_end = text[at..].find('\n').map_or(text.len(), |end| at + end);
    let line_start = text[..at].rfind('\n').map_or(0, |start| start + 1);
    let line = text[line_start..line_end].to_string();
    match random.below(8) {
        0..3 => (at..at, TYPED[random.below(TYPED.len())].into()),
        3 => {
            let end = line_start + random.place(&line).max(at - line_start);
            (at..end, String::new())
        }
        4 => (line_start..line_end, line.replace(" = ", "=").replace(", ", ",")),
        5 => (line_end..line_end, format!("\n{line}")),
        6 => (line_start..(line_end + 1).min(text.len()), String::new()),
        _ => (line_start..line_end, format!("  {line}  ")),
    }
}

#[test]
fn the_server_has_the_clients_text_and_mends_it_as_mend_does() {
    let folder = std::env::var("KANONIX_CODE").map_or_else(|_| demo(), Into::into);
    let mut files = code(&folder);
    files.retain(|(_, text, _)| text.len() < LONGEST && !text.contains('\r'));
    let repo = Repo::plain();
    repo.git(&["init", "--quiet", "--initial-branch=main", "."]);
    repo.write("kanonix.toml", "edition = 1\n");
    let mut random = Random::new(7);
    let mut texts: Vec<Open> = Vec::new();
    for number in 0..files.len().min(8) {
        let (path, text, language) = files.swap_remove(random.below(files.len()));
        let name = format!("{number}/{}", path.file_name().unwrap().to_str().unwrap());
        repo.write(&name, &text);
        let identifier = language.identifiers[0];
        texts.push(Open { uri: uri(&repo, &name), identifier, language, committed: text });
    }
    repo.commit("before");
    let mut client = Client::of(&repo);
    for open in &texts {
        client.open(&open.uri, open.identifier, &open.committed);
    }
    let (mut edited, mut mended_any) = (0, 0);
    for round in 0..times("KANONIX_SAVES", 2_600) {
        let open = &texts[random.below(texts.len())];
        // Now and then everything is as it was, so that not all is in ruins after a while.
        if random.below(3) == 0 {
            let version = client.texts[&open.uri].0 + 1;
            client.texts.insert(open.uri.clone(), (version, open.committed.clone()));
            let params = json!({
                "textDocument": { "uri": open.uri, "version": version },
                "contentChanges": [{ "text": open.committed }],
            });
            client.tell("textDocument/didChange", params);
        }
        for _ in 0..1 + random.below(7) {
            let (range, new) = change(&mut random, client.text(&open.uri));
            client.change(&open.uri, range, &new);
            edited += 1;
        }
        let before = client.text(&open.uri).to_string();
        let asked = json!({ "textDocument": { "uri": open.uri }, "reason": 1 });
        let edits = client.ask("textDocument/willSaveWaitUntil", asked).unwrap();
        client.apply(&open.uri, &edits);
        let fresh = mend_since(&open.committed, &before, open.language, &open.language.style());
        let fresh = fresh.map_or(before, |mended| mended.text);
        assert_eq!(client.text(&open.uri), fresh, "round {round}, {}", open.uri);
        mended_any += usize::from(!edits.is_null());
        // What is shown beside the text is found meanwhile.
        if random.below(2) == 0 {
            client.tell("textDocument/didSave", json!({ "textDocument": { "uri": open.uri } }));
        }
        if round % 50 == 0 {
            let status = client.ask(
                "kanonix/status",
                json!({ "textDocument": { "uri": open.uri } }),
            );
            assert_eq!(status.unwrap()["length"], client.text(&open.uri).len());
        }
    }
    assert!(edited > 10_000 && mended_any > 400, "{edited} edits, {mended_any} saves mended");
    let errors = client.ask("kanonix/status", Value::Object(Default::default())).unwrap();
    assert!(!errors.to_string().contains("panicked"), "{errors}");
    assert!(client.end().success());
}
