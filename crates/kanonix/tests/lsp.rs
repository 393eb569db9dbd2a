//! The editor's server, asked over pipes as an editor asks.

use serde_json::{Value, json};
use crate::support::Repo;
use crate::support::client::{Client, place, uri};

pub const OLD: &str = "a = 'ebb'\nb=1\n\n\ndef flood(level):\n    return level*2\n";

pub fn repo() -> Repo {
    Repo::with(&[("a.py", OLD)])
}

/// A server with the file open, after an edit of its first line.
pub fn touched(repo: &Repo) -> (Client, String) {
    let mut client = Client::of(repo);
    let uri = uri(repo, "a.py");
    client.open(&uri, "python", OLD);
    client.edit(&uri, "a = 'ebb'", "a='slack'");
    (client, uri)
}

fn of(uri: &str) -> Value {
    json!({ "textDocument": { "uri": uri } })
}

#[test]
fn a_save_mends_the_touched_lines_and_nothing_else() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    client.save(&uri);
    assert_eq!(client.text(&uri), OLD.replace("a = 'ebb'", "a = \"slack\""));
    assert_eq!(repo.read("a.py"), client.text(&uri));
    // What is saved again needs nothing.
    let again = json!({ "textDocument": { "uri": uri }, "reason": 1 });
    assert_eq!(client.ask("textDocument/willSaveWaitUntil", again), Ok(Value::Null));
    assert!(client.end().success());
}

#[test]
fn edits_leave_what_stands_between_them() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    client.edit(&uri, "a='slack'", "a=[1,2]");
    let asked = json!({ "textDocument": { "uri": uri }, "reason": 1 });
    let edits = client.ask("textDocument/willSaveWaitUntil", asked).unwrap();
    let new: Vec<&str> =
        edits.as_array().unwrap().iter().map(|edit| edit["newText"].as_str().unwrap()).collect();
    assert_eq!(new, [" ", " ", " "]);
}

/// Whether a client with these words about itself is offered to ask what a save should change.
fn is_offered(repo: &Repo, members: Value) -> bool {
    let mut client = Client::bare(repo);
    let mut params = json!({ "processId": null, "rootUri": null, "capabilities": {} });
    for (name, value) in members.as_object().unwrap() {
        params[name] = value.clone();
    }
    let answer = client.ask("initialize", params).unwrap();
    answer["capabilities"]["textDocumentSync"]["willSaveWaitUntil"].as_bool().unwrap()
}

#[test]
fn who_may_ask_before_it_has_told_everything_is_not_offered_to() {
    let repo = repo();
    let options = |on: bool| json!({ "initializationOptions": { "mendOnSave": on } });
    assert!(is_offered(&repo, json!({ "clientInfo": { "name": "lookout" } })));
    assert!(!is_offered(&repo, json!({})));
    assert!(!is_offered(&repo, json!({ "clientInfo": { "name": "Eglot" } })));
    assert!(is_offered(&repo, options(true)));
    let mut known = options(false);
    known["clientInfo"] = json!({ "name": "lookout" });
    assert!(!is_offered(&repo, known));
    // What is not offered is not answered either, and formatting goes as far.
    let mut client = Client::with(&repo, json!({ "clientInfo": null }));
    let uri = uri(&repo, "a.py");
    client.open(&uri, "python", OLD);
    client.edit(&uri, "a = 'ebb'", "a='slack'");
    let asked = json!({ "textDocument": { "uri": uri }, "reason": 1 });
    assert_eq!(client.ask("textDocument/willSaveWaitUntil", asked), Ok(Value::Null));
    let asked =
        json!({ "textDocument": { "uri": uri }, "options": { "tabSize": 4, "insertSpaces": true } });
    let edits = client.ask("textDocument/formatting", asked).unwrap();
    client.apply(&uri, &edits);
    assert_eq!(client.text(&uri), OLD.replace("a = 'ebb'", "a = \"slack\""));
}

#[test]
fn a_client_that_asks_too_early_is_answered_once_and_told_why() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    let saved = json!({ "textDocument": { "uri": uri } });
    let asked = json!({ "textDocument": { "uri": uri }, "reason": 1 });
    // An answer that is dropped, as it came late, does no harm.
    client.ask("textDocument/willSaveWaitUntil", asked.clone()).unwrap();
    client.tell("textDocument/didSave", saved.clone());
    // What was typed in the meantime is told behind the answer, together with its edits.
    let edits = client.ask("textDocument/willSaveWaitUntil", asked.clone()).unwrap();
    assert!(!edits.is_null());
    client.edit(&uri, "a='slack'", "b = 2\na='slack'");
    client.apply(&uri, &edits);
    client.tell("textDocument/didSave", saved.clone());
    let told = client.told("window/showMessage");
    assert!(told["message"].as_str().unwrap().contains("before it tells"), "{told}");
    client.edit(&uri, "slack", "ebb");
    for _ in 0..2 {
        assert_eq!(client.ask("textDocument/willSaveWaitUntil", asked.clone()), Ok(Value::Null));
        client.tell("textDocument/didSave", saved.clone());
    }
    let status = client.ask("kanonix/status", json!({})).unwrap();
    assert!(status["lastErrors"].to_string().contains("before it tells"), "{status}");
    assert_eq!(client.count_told("window/showMessage"), 0);
}

#[test]
fn only_the_saves_that_the_canon_lists_mend() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    let save = |client: &mut Client, reason: i64| {
        let asked = json!({ "textDocument": { "uri": uri }, "reason": reason });
        !client.ask("textDocument/willSaveWaitUntil", asked).unwrap().is_null()
    };
    assert_eq!([1, 2, 3].map(|reason| save(&mut client, reason)), [true, false, false]);
    let canon = format!(
        "{}[reach]\nsave_reasons = [\"manual\", \"focus_out\"]\n",
        crate::support::CANON
    );
    repo.write("kanonix.toml", canon);
    assert_eq!([1, 2, 3].map(|reason| save(&mut client, reason)), [true, false, true]);
    repo.write("kanonix.toml", format!("{}[reach]\nsave = \"off\"\n", crate::support::CANON));
    assert_eq!([1, 2, 3].map(|reason| save(&mut client, reason)), [false, false, false]);
    repo.write("kanonix.toml", format!("{}[reach]\nsave = \"whole\"\n", crate::support::CANON));
    client.save(&uri);
    assert!(client.text(&uri).contains("b = 1\n") && client.text(&uri).contains("level * 2"));
}

#[test]
fn formatting_goes_as_far_as_saving_unless_all_is_wanted() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    // The editor's own tab options never override the canon.
    let options = json!({ "tabSize": 8, "insertSpaces": false });
    let asked = json!({ "textDocument": { "uri": uri }, "options": options });
    let edits = client.ask("textDocument/formatting", asked.clone()).unwrap();
    client.apply(&uri, &edits);
    assert_eq!(client.text(&uri), OLD.replace("a = 'ebb'", "a = \"slack\""));
    client.tell(
        "workspace/didChangeConfiguration",
        json!({ "settings": { "kanonix": { "formatting": "whole" } } }),
    );
    let edits = client.ask("textDocument/formatting", asked).unwrap();
    client.apply(&uri, &edits);
    assert!(
        client.text(&uri).contains("b = 1\n") && client.text(&uri).contains("    return level * 2")
    );
}

#[test]
fn ranges_are_mended_whatever_is_touched() {
    let repo = repo();
    let mut client = Client::of(&repo);
    let uri = uri(&repo, "a.py");
    client.open(&uri, "python", OLD);
    let line = |line: u32| json!({
        "start": { "line": line, "character": 0 },
        "end": { "line": line + 1, "character": 0 },
    });
    let options = json!({ "tabSize": 2, "insertSpaces": true });
    let document = json!({ "uri": uri });
    let one = json!({ "textDocument": document, "range": line(1), "options": options });
    let edits = client.ask("textDocument/rangeFormatting", one).unwrap();
    client.apply(&uri, &edits);
    assert_eq!(client.text(&uri), OLD.replace("b=1", "b = 1"));
    let two = json!({ "textDocument": document, "ranges": [line(0), line(5)], "options": options });
    let edits = client.ask("textDocument/rangesFormatting", two).unwrap();
    client.apply(&uri, &edits);
    let expected = OLD.replace("b=1", "b = 1").replace('\'', "\"").replace("level*2", "level * 2");
    assert_eq!(client.text(&uri), expected);
}

#[test]
fn a_finished_unit_settles_and_one_that_is_still_written_does_not() {
    let repo = repo();
    let mut client = Client::of(&repo);
    let uri = uri(&repo, "new.js");
    let typed = |client: &mut Client, text: &str, ch: &str| {
        client.open(&uri, "javascript", text);
        let position = place(text, text.len(), "utf-16");
        let options = json!({ "tabSize": 4, "insertSpaces": true });
        let asked = json!({
            "textDocument": { "uri": uri }, "position": position, "ch": ch, "options": options,
        });
        let edits = client.ask("textDocument/onTypeFormatting", asked).unwrap();
        client.apply(&uri, &edits);
        client.text(&uri).to_string()
    };
    assert_eq!(typed(&mut client, "x=1\n", "\n"), "x = 1\n");
    // The line that the cursor is on is left to its writer.
    assert_eq!(typed(&mut client, "if (a) {\n    b=1\n    ", "\n"), "if (a) {\n    b=1\n    ");
    assert_eq!(typed(&mut client, "a=1\nb=[\n", "\n"), "a=1\nb=[\n");
    assert_eq!(typed(&mut client, "x=[1,\n   2]\ny=(1,\n)", "\n"), "x=[1,\n   2]\ny=(1,\n)");
    assert_eq!(typed(&mut client, "x=1;", ";"), "x = 1;");
    assert_eq!(typed(&mut client, "if (a) {\n    b = 1;\n  }", "}"), "if (a) {\n    b = 1;\n}");
}

const PAGE: &str = "\
<body>
    <main>
        <p>Ebb</p>
0
    </main>
    <script>
        let a = 1;
1
    </script>
    <style>
        p {
            color: red;
2
        }
    </style>
</body>
";

/// A page with something in one of its three places, and the others empty.
fn page_with(place: usize, what: &str) -> String {
    (0..3).fold(PAGE.to_string(), |page, number| {
        page.replace(&format!("\n{number}\n"), &format!("\n{}", if number == place {
            what
        } else {
            ""
        }))
    })
}

/// What becomes of a text into which something was pasted, once the editor has asked for its lines.
fn pasted(client: &mut Client, (uri, language): (&str, &str), text: &str, what: &str) -> String {
    client.open(uri, language, text);
    let first = text[..text.find(what).unwrap()].matches('\n').count();
    let asked = json!({
        "textDocument": { "uri": uri },
        "range": {
            "start": { "line": first, "character": 0 },
            "end": { "line": first + what.matches('\n').count(), "character": 0 },
        },
        "options": { "tabSize": 4, "insertSpaces": true },
    });
    let edits = client.ask("textDocument/rangeFormatting", asked).unwrap();
    client.apply(uri, &edits);
    client.text(uri).to_string()
}

#[test]
fn what_is_pasted_into_a_page_is_laid_out_where_it_lands() {
    let repo = repo();
    let mut client = Client::of(&repo);
    let uri = uri(&repo, "a.html");
    let mut pasted = |place: usize, what: &str| {
        pasted(&mut client, (&uri, "html"), &page_with(place, what), what)
    };
    assert_eq!(
        pasted(0, "<ul ><li>low</li>\n<li>high</li></ul>\n"),
        page_with(
            0,
            "        <ul>\n            <li>low</li>\n            <li>high</li>\n        </ul>\n"
        )
    );
    assert_eq!(
        pasted(1, "if(a){\nwarn( )\n}\n"),
        page_with(1, "        if (a) {\n            warn()\n        }\n")
    );
    assert_eq!(
        pasted(2, "margin:0;\n&:hover{color:blue}\n"),
        page_with(
            2,
            "            margin: 0;\n\n            &:hover {\n                color: blue;\n            }\n"
        )
    );
}

/// A language, a file, what stands in it, what is pasted there in place of `0`, and what becomes of that.
const PASTED: [(&str, &str, &str, &str, &str); 4] = [
    (
        "powershell",
        "a.ps1",
        "function  Get-Ebb {\n    Get-Gauge|ForEach-Object {\n0    }\n}\n",
        "if($_.Low){\nWrite-Host  'ebb'\n}\nelse{ $n++ }\n",
        "        if ($_.Low) {\n            Write-Host 'ebb'\n        } else { $n++ }\n",
    ),
    (
        "ruby",
        "a.rb",
        "def  ebb\n  gauges.each do |gauge|\n0  end\nend\n",
        "if gauge.low?( )\nwarn  \"ebb\"\nend\n",
        "    if gauge.low?()\n      warn \"ebb\"\n    end\n",
    ),
    (
        "lua",
        "a.lua",
        "function  ebb( )\n  for _, gauge in ipairs(gauges) do\n0  end\nend\n",
        "if gauge.low then\nwarn( 'ebb' )\nend\n",
        "    if gauge.low then\n      warn(\"ebb\")\n    end\n",
    ),
    (
        "gdscript",
        "a.gd",
        "func  ebb( ):\n\tfor gauge in gauges:\n0\t\tpass\n",
        "\t\tif gauge.low :\n\t\t\twarn( \"ebb\" )\n",
        "\t\tif gauge.low:\n\t\t\twarn(\"ebb\")\n",
    ),
];

#[test]
fn a_pasted_block_is_laid_out_where_it_lands_and_nothing_around_it() {
    let repo = repo();
    let mut client = Client::of(&repo);
    for (language, name, around, what, wanted) in PASTED {
        let uri = uri(&repo, name);
        let mended = pasted(&mut client, (&uri, language), &around.replace('0', what), what);
        assert_eq!(mended, around.replace('0', wanted), "{language}");
    }
}

#[test]
fn the_value_of_a_finished_line_joins_those_above() {
    let repo = repo();
    let mut client = Client::of(&repo);
    let uri = uri(&repo, "a.ps1");
    let above = "$readers=@{\n    quay    = 1\n    harbour = 2\n";
    let text = format!("{above}    mole=3\n}}\n");
    client.open(&uri, "powershell", &text);
    let asked = json!({
        "textDocument": { "uri": uri }, "position": { "line": 4, "character": 0 }, "ch": "\n",
        "options": { "tabSize": 4, "insertSpaces": true },
    });
    let edits = client.ask("textDocument/onTypeFormatting", asked).unwrap();
    client.apply(&uri, &edits);
    assert_eq!(client.text(&uri), format!("{above}    mole    = 3\n}}\n"));
}

#[test]
fn what_is_typed_in_a_page_settles_as_it_is_finished() {
    let repo = repo();
    let mut client = Client::of(&repo);
    let uri = uri(&repo, "a.html");
    let mut typed = |place: usize, what: &str, ch: &str| {
        let text = page_with(place, what);
        client.open(&uri, "html", &text);
        let at = text.find(what).unwrap() + what.trim_end_matches('\n').len();
        let at = if ch == "\n" { at + 1 } else { at };
        let asked = json!({
            "textDocument": { "uri": uri }, "position": place_of(&text, at), "ch": ch,
            "options": { "tabSize": 4, "insertSpaces": true },
        });
        let edits = client.ask("textDocument/onTypeFormatting", asked).unwrap();
        client.apply(&uri, &edits);
        client.text(&uri).to_string()
    };
    assert_eq!(typed(0, "  <p >Flood</p>\n", "\n"), page_with(0, "        <p>Flood</p>\n"));
    assert_eq!(typed(1, "  b=2;\n", ";"), page_with(1, "        b = 2;\n"));
    assert_eq!(typed(2, "  margin:0;\n", ";"), page_with(2, "            margin: 0;\n"));
}

fn place_of(text: &str, at: usize) -> serde_json::Value {
    place(text, at, "utf-16")
}

#[test]
fn slips_in_reach_are_hints_and_faults_are_warnings() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    client.edit(&uri, "b=1", "b = (1");
    let found = loop {
        let found = client.told("textDocument/publishDiagnostics");
        if found["version"] == 3 {
            break found["diagnostics"].clone();
        }
    };
    let said: Vec<(u64, &str, u64)> = found
        .as_array()
        .unwrap()
        .iter()
        .map(|one| {
            let code = one["code"].as_str().unwrap();
            let line = one["range"]["start"]["line"].as_u64().unwrap();
            (one["severity"].as_u64().unwrap(), code, line)
        })
        .collect();
    assert!(said.iter().any(|(severity, code, _)| (*severity, *code) == (2, "fault")), "{said:?}");
    client.edit(&uri, "b = (1", "b = 1");
    let found = client.ask("textDocument/diagnostic", of(&uri)).unwrap()["items"].clone();
    let first = &found[0];
    assert_eq!((&first["severity"], &first["code"]), (&json!(4), &json!("operator_gap")));
    let message = first["message"].as_str().unwrap();
    assert!(message.starts_with("one space on each side of `=`\noperator_gap: "), "{message}");
    let link = first["codeDescription"]["href"].as_str().unwrap();
    let (file, setting) = link.strip_prefix("file://").unwrap().split_once('#').unwrap();
    let settings = std::fs::read_to_string(file).unwrap();
    assert!(settings.contains(&format!("## `{setting}`")), "{link}");
    assert_eq!(found.as_array().unwrap().len(), 2, "{found}");
}

#[test]
fn older_slips_are_shown_to_those_who_ask() {
    let repo = repo();
    let mut client =
        Client::with(&repo, json!({ "initializationOptions": { "olderSlips": true } }));
    let uri = uri(&repo, "a.py");
    client.open(&uri, "python", OLD);
    let older = client.ask("textDocument/diagnostic", of(&uri)).unwrap()["items"].clone();
    let older = older.as_array().unwrap();
    assert!(older.len() >= 3, "{older:?}");
    assert!(older.iter().all(|one| one["message"].as_str().unwrap().contains("(older)")));
    client.tell("workspace/didChangeConfiguration", json!({ "settings": { "olderSlips": false } }));
    assert_eq!(client.ask("textDocument/diagnostic", of(&uri)).unwrap()["items"], json!([]));
}

#[test]
fn the_status_says_why_in_the_words_of_explain() {
    let repo = repo();
    repo.write("third_party/b.py", "a=1\n");
    let mut client = Client::of(&repo);
    let uri = uri(&repo, "third_party/b.py");
    client.open(&uri, "python", "a=1\n");
    let status = client.ask("kanonix/status", of(&uri)).unwrap();
    let explained = repo.kanonix(&["explain", "third_party/b.py"]).out;
    let why = explained.lines().find(|line| line.contains("left alone")).unwrap();
    let said = status["text"].as_str().unwrap();
    assert!(said.contains(why.split("(kanonix").next().unwrap().trim_end()), "{said}\n{explained}");
    assert_eq!(status["file"]["formatted"], false);
    let server = client.ask("kanonix/status", json!({})).unwrap();
    assert_eq!(server["roots"][0], repo.root().display().to_string());
    assert_eq!(server["process"], client.process());
}

#[test]
fn a_canon_that_changes_counts_at_once_and_a_broken_one_is_said_once() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    let diagnosed = |client: &mut Client| {
        let found = client.ask("textDocument/diagnostic", of(&uri)).unwrap()["items"].clone();
        found.as_array().unwrap().len()
    };
    assert_eq!(diagnosed(&mut client), 2);
    repo.write("kanonix.toml", "[style]\nqutoes = \"double\"\n");
    assert_eq!((diagnosed(&mut client), diagnosed(&mut client)), (0, 0));
    let message = client.told("window/showMessage")["message"].as_str().unwrap().to_string();
    assert!(message.contains("kanonix.toml:2:1") && message.contains("`quotes`"), "{message}");
    client.save(&uri);
    assert_eq!(client.count_told("window/showMessage"), 0);
    assert!(client.text(&uri).starts_with("a='slack'"));
    repo.write("kanonix.toml", "[style]\nquotes = \"keep\"\n");
    client.save(&uri);
    assert!(client.text(&uri).starts_with("a = 'slack'"));
    // Wrong again in the same way, it is said again.
    repo.write("kanonix.toml", "[style]\nqutoes = \"double\"\n");
    client.save(&uri);
    assert_eq!(client.told("window/showMessage")["message"], message.as_str());
    let editor = repo.kanonix(&["explain", "--editor"]).out;
    assert!(editor.contains("for lookout") && editor.contains("kanonix.toml:2:1"), "{editor}");
    // Of another repository's server, only that there is one.
    let elsewhere = Repo::plain();
    let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
    command.current_dir(elsewhere.root()).args(["explain", "--editor"]);
    let other = crate::support::said_in_time(command).out;
    assert!(!other.contains("lookout") && other.contains("1 more server runs"), "{other}");
}

/// The next diagnostics that are pushed and of which this is true.
fn pushed(client: &mut Client, wanted: impl Fn(usize) -> bool) {
    loop {
        let found = client.told("textDocument/publishDiagnostics");
        if wanted(found["diagnostics"].as_array().unwrap().len()) {
            return;
        }
    }
}

#[test]
fn what_is_shown_follows_the_last_commit_and_the_canon() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    pushed(&mut client, |count| count == 2);
    repo.write("kanonix.toml", "[style]\nquotes = \"keep\"\n");
    pushed(&mut client, |count| count == 1);
    repo.write("a.py", client.text(&uri));
    repo.commit("as it is");
    pushed(&mut client, |count| count == 0);
    repo.git(&["reset", "--quiet", "--soft", "HEAD~1"]);
    pushed(&mut client, |count| count == 1);
}

#[test]
fn a_client_that_pulls_is_told_when_to_pull_again() {
    let repo = repo();
    let capabilities = json!({
        "textDocument": { "diagnostic": {} },
        "workspace": { "diagnostics": { "refreshSupport": true } },
    });
    let mut client = Client::with(&repo, json!({ "capabilities": capabilities }));
    let uri = uri(&repo, "a.py");
    client.open(&uri, "python", OLD);
    client.edit(&uri, "a = 'ebb'", "a='slack'");
    let found = client.ask("textDocument/diagnostic", of(&uri)).unwrap();
    assert_eq!(found["items"].as_array().unwrap().len(), 2);
    repo.write("kanonix.toml", "[style]\nquotes = \"keep\"\n");
    client.told("workspace/diagnostic/refresh");
    let found = client.ask("textDocument/diagnostic", of(&uri)).unwrap();
    assert_eq!(found["items"].as_array().unwrap().len(), 1);
    assert_eq!(client.count_told("textDocument/publishDiagnostics"), 0);
}

#[test]
fn files_outside_a_repository_and_texts_without_a_file() {
    let plain = Repo::plain();
    plain.write("a.py", "a=1\n");
    let mut client = Client::of(&plain);
    let file = uri(&plain, "a.py");
    client.open(&file, "python", "a=1\n");
    client.save(&file);
    assert_eq!(client.text(&file), "a=1\n", "nobody knows what is touched");
    plain.write("kanonix.toml", "[reach]\nsave_without_git = \"whole\"\n");
    client.save(&file);
    assert_eq!(client.text(&file), "a = 1\n");

    let repo = repo();
    let mut client = Client::of(&repo);
    let untitled = "untitled:Untitled-1";
    client.open(untitled, "python", "a='ebb'\n");
    let options = json!({ "tabSize": 4, "insertSpaces": true });
    let asked = json!({ "textDocument": { "uri": untitled }, "options": options });
    let edits = client.ask("textDocument/formatting", asked).unwrap();
    client.apply(untitled, &edits);
    assert_eq!(client.text(untitled), "a = \"ebb\"\n");
}

#[test]
fn several_roots_keep_their_own_canons() {
    let (one, other) = (repo(), Repo::with(&[("a.py", OLD)]));
    other.write("kanonix.toml", "[style.python]\nquotes = \"single\"\n");
    let folders = json!([
        { "uri": uri(&one, ""), "name": "one" }, { "uri": uri(&other, ""), "name": "other" },
    ]);
    let mut client = Client::with(&one, json!({ "workspaceFolders": folders }));
    for (repo, wanted) in [(&one, "a = \"x\"\n"), (&other, "a = 'x'\n")] {
        let file = uri(repo, "a.py");
        client.open(&file, "python", OLD);
        client.edit(&file, "a = 'ebb'", "a=\"x\"");
        client.save(&file);
        assert!(client.text(&file).starts_with(wanted), "{}", client.text(&file));
    }
}

#[test]
fn places_are_counted_as_was_agreed() {
    for encoding in ["utf-8", "utf-16", "utf-32"] {
        let repo = Repo::with(&[("a.py", "ebb = '𝄞é'\n")]);
        let capabilities = json!({ "general": { "positionEncodings": [encoding] } });
        let mut client = Client::with(&repo, json!({ "capabilities": capabilities }));
        assert_eq!(client.encoding, encoding);
        let file = uri(&repo, "a.py");
        client.open(&file, "python", "ebb = '𝄞é'\n");
        client.edit(&file, "'\n", "'+'𝄞𝄞'+ß\n");
        client.save(&file);
        assert_eq!(client.text(&file), "ebb = \"𝄞é\" + \"𝄞𝄞\" + ß\n");
    }
}

#[test]
fn conflicts_and_unknown_languages_are_left_alone() {
    let repo = repo();
    let mut client = Client::of(&repo);
    let notes = uri(&repo, "notes.tide");
    client.open(&notes, "plaintext", "a=1\n");
    client.save(&notes);
    assert_eq!(client.text(&notes), "a=1\n");
    repo.git(&["checkout", "--quiet", "-b", "other"]);
    repo.edit("a.py", "b=1", "b=2");
    repo.commit("two");
    repo.git(&["checkout", "--quiet", "main"]);
    repo.edit("a.py", "b=1", "b=3");
    repo.commit("three");
    assert_ne!(repo.try_git(&["merge", "other"]).status, 0);
    let file = uri(&repo, "a.py");
    let text = repo.read("a.py");
    client.open(&file, "python", &text);
    client.save(&file);
    assert_eq!(client.text(&file), text);
}

#[test]
fn long_work_tells_its_progress_and_can_be_cancelled() {
    let long: String = (0..5_000).map(|n| format!("level_{n}=[{n},1]\n")).collect();
    let repo = repo();
    let mut client = Client::of(&repo);
    let file = uri(&repo, "long.py");
    client.open(&file, "python", &long);
    let options = json!({ "tabSize": 4, "insertSpaces": true });
    let document = json!({ "uri": file });
    let asked = json!({ "textDocument": document, "options": options, "workDoneToken": "w" });
    let id = client.begin("textDocument/formatting", asked.clone());
    client.tell("$/cancelRequest", json!({ "id": id }));
    assert_eq!(client.answer(id).unwrap_err()["code"], -32800);
    // The next keystroke is taken while there is work going on, and what is old by then is said so.
    let id = client.begin("textDocument/formatting", asked);
    client.edit(&file, "level_0=", "level__0=");
    assert_eq!(client.answer(id).unwrap_err()["code"], -32801);
    let kinds: Vec<Value> = (0..4)
        .map(|_| client.told("$/progress")["value"]["kind"].take())
        .collect();
    assert_eq!(kinds, ["begin", "end", "begin", "end"]);
}

#[test]
fn nonsense_is_answered_as_the_protocol_says() {
    let repo = repo();
    let mut client = Client::bare(&repo);
    assert_eq!(client.ask("textDocument/formatting", json!({})).unwrap_err()["code"], -32002);
    client.tell("textDocument/didOpen", json!({}));
    client.send_bytes(b"Content-Length: 9\r\n\r\n{\"id\": 1,");
    let answer = client.next(|message| message["error"]["code"] == -32700);
    assert_eq!(answer["id"], Value::Null);
    assert_eq!(client.ask("initialize", json!({ "capabilities": 3 })).unwrap_err()["code"], -32602);
    let known = json!({ "capabilities": {}, "clientInfo": { "name": "lookout" } });
    client.ask("initialize", known).unwrap();
    assert_eq!(
        client.ask("initialize", json!({ "capabilities": {} })).unwrap_err()["code"],
        -32600
    );
    assert_eq!(client.ask("tide/rise", json!({})).unwrap_err()["code"], -32601);
    assert_eq!(client.ask("textDocument/formatting", json!({})).unwrap_err()["code"], -32602);
    let closed = uri(&repo, "a.py");
    let asked = json!({ "textDocument": { "uri": closed }, "reason": 1 });
    assert_eq!(client.ask("textDocument/willSaveWaitUntil", asked).unwrap_err()["code"], -32602);
    // Places out of range are brought back; what does not fit in any way is said and left.
    let file = uri(&repo, "a.py");
    client.open(&file, "python", "a = 1\n");
    client.tell("textDocument/didChange", json!({
        "textDocument": { "uri": file, "version": 2 },
        "contentChanges": [{
            "range": {
                "start": { "line": 7, "character": 9 }, "end": { "line": 0, "character": 99 },
            },
            "text": "\nb = 2",
        }],
    }));
    client.tell("textDocument/didChange", json!({ "textDocument": 1 }));
    client.tell("textDocument/didClose", json!({ "textDocument": { "uri": "no uri" } }));
    let status = client.ask("kanonix/status", of(&file)).unwrap();
    assert_eq!(status["file"]["formatted"], true);
    client.ask("shutdown", Value::Null).unwrap();
    assert_eq!(client.ask("kanonix/status", json!({})).unwrap_err()["code"], -32600);
    client.tell("exit", Value::Null);
    assert!(client.wait().0.success());
}

#[test]
fn what_cannot_be_understood_any_more_ends_it_cleanly() {
    let endings: [&[u8]; 6] = [
        b"",
        b"Content-Length: 100\r\n\r\n{}",
        b"Content-Length: 18446744073709551615\r\n\r\n{}",
        b"Content-Length: many\r\n\r\n{}",
        b"tide tables\r\n\r\n",
        &[0xff; 20_000],
    ];
    for ending in endings {
        let repo = repo();
        let mut client = Client::of(&repo);
        client.open(&uri(&repo, "a.py"), "python", OLD);
        client.send_bytes(ending);
        client.close();
        let (status, said) = client.wait();
        assert_eq!(status.code(), Some(1), "{said}");
        assert!(!said.contains("panicked"), "{said}");
    }
}

#[test]
fn it_ends_when_nobody_listens_any_more_and_leaves_no_process_behind() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    client.save(&uri);
    let children = format!("/proc/{0}/task/{0}/children", client.process());
    let children = std::fs::read_to_string(children).unwrap_or_default();
    client.close();
    assert_eq!(client.wait().0.code(), Some(1));
    for child in children.split_whitespace() {
        let begun = std::time::Instant::now();
        while std::path::Path::new(&format!("/proc/{child}/stat")).exists() {
            assert!(begun.elapsed().as_secs() < 20, "process {child} is still there");
            std::thread::sleep(std::time::Duration::from_millis(5));
        }
    }

    // A client that has closed its end of the pipe.
    let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
    let (input, output) = (std::process::Stdio::piped(), std::process::Stdio::piped());
    let mut server = command.arg("lsp").stdin(input).stdout(output).spawn().unwrap();
    drop(server.stdout.take());
    let body = json!({ "jsonrpc": "2.0", "id": 1, "method": "initialize", "params": {} })
        .to_string();
    let message = format!("Content-Length: {}\r\n\r\n{body}", body.len());
    std::io::Write::write_all(server.stdin.as_mut().unwrap(), message.as_bytes()).unwrap();
    assert_eq!(server.wait().unwrap().code(), Some(1));
}
