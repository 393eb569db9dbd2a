//! What the editors' server offers to do about a place: actions and commands.

use crate::lsp::{OLD, repo, touched};
use crate::support::Repo;
use crate::support::client::{Client, uri};
use serde_json::{Value, json};

fn actions(client: &mut Client, uri: &str, line: u32, only: Value) -> Vec<Value> {
    let range = json!({
        "start": { "line": line, "character": 0 }, "end": { "line": line, "character": 0 },
    });
    let mut context = json!({ "diagnostics": [] });
    if !only.is_null() {
        context["only"] = only;
    }
    let asked = json!({ "textDocument": { "uri": uri }, "range": range, "context": context });
    client.ask("textDocument/codeAction", asked).unwrap().as_array().unwrap().clone()
}

/// What is offered on a touched line to a client that can do this.
fn offered(repo: &Repo, capabilities: Value) -> (Client, String, Vec<Value>) {
    let mut client = Client::with(repo, json!({ "capabilities": capabilities }));
    let uri = uri(repo, "a.py");
    client.open(&uri, "python", OLD);
    client.edit(&uri, "a = 'ebb'", "a='slack'");
    let all = actions(&mut client, &uri, 0, Value::Null);
    assert_eq!(all.len(), 7, "{all:?}");
    (client, uri, all)
}

#[test]
fn a_client_may_ask_for_an_actions_edits_once_it_is_chosen() {
    let repo = repo();
    let support = json!({ "codeAction": { "resolveSupport": { "properties": ["edit"] } } });
    let (mut client, uri, all) = offered(&repo, json!({ "textDocument": support }));
    let mut resolved = 0;
    for action in all.iter().filter(|action| action.get("command").is_none()) {
        assert!(action.get("edit").is_none(), "{action}");
        let whole = client.ask("codeAction/resolve", action.clone()).unwrap();
        assert!(whole["edit"]["changes"][&uri].is_array(), "{whole}");
        resolved += 1;
    }
    assert_eq!(resolved, 5);
    // An action of an older text does nothing to a newer one.
    client.edit(&uri, "slack", "ebb");
    let outdated = client.ask("codeAction/resolve", all[0].clone()).unwrap();
    assert!(outdated.get("edit").is_none(), "{outdated}");
    assert!(client.ask("codeAction/resolve", json!({ "title": "x" })).is_err());
}

#[test]
fn a_client_that_asks_for_no_edits_sends_the_action_back_as_a_command() {
    let repo = repo();
    let support = json!({ "workspace": { "applyEdit": true } });
    let (mut client, uri, all) = offered(&repo, support);
    assert!(all.iter().all(|action| action["command"].is_object() && action.get("edit").is_none()));
    let send = |action: &Value| {
        let (command, arguments) = (&action["command"]["command"], &action["command"]["arguments"]);
        json!({ "command": command, "arguments": arguments })
    };
    let mend = all.iter().find(|action| action["title"] == "Mend: use double quotes").unwrap();
    client.ask("workspace/executeCommand", send(mend)).unwrap();
    let applied = client.told("workspace/applyEdit");
    let edits = applied["edit"]["changes"][&uri].as_array().unwrap();
    assert!(edits.iter().all(|edit| edit["newText"].as_str().unwrap().contains('"')), "{edits:?}");
    // Sent back for a newer text, it does nothing.
    client.edit(&uri, "slack", "neap");
    client.ask("workspace/executeCommand", send(mend)).unwrap();
    let one = json!({ "command": "kanonix.act", "arguments": [uri, { "uri": 1 }] });
    assert!(client.ask("workspace/executeCommand", one).is_err());
}

#[test]
fn every_action_does_what_it_says() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    let all = actions(&mut client, &uri, 0, Value::Null);
    let titles: Vec<&str> = all.iter().map(|one| one["title"].as_str().unwrap()).collect();
    insta::assert_snapshot!(titles.join("\n"), @"
    Mend: one space on each side of `=`
    Mend: use double quotes
    Mend what is on line 1
    Mend the lines in reach
    Mend the whole file
    Explain line 1
    Keep this as it stands
    ");
    let after = |title: &str| {
        let mut text = OLD.replace("a = 'ebb'", "a='slack'");
        let action = all.iter().find(|one| one["title"] == title).unwrap();
        let edits = action["edit"]["changes"][&uri].as_array().unwrap();
        for edit in edits.iter().rev() {
            let (start, end) = (&edit["range"]["start"], &edit["range"]["end"]);
            assert_eq!((&start["line"], &end["line"]), (&json!(0), &json!(0)));
            let at = |place: &Value| place["character"].as_u64().unwrap() as usize;
            text.replace_range(at(start)..at(end), edit["newText"].as_str().unwrap());
        }
        text.lines().take(2).map(str::to_string).collect::<Vec<_>>().join("|")
    };
    assert_eq!(after(titles[0]), "a = 'slack'|b=1");
    assert_eq!(after(titles[1]), "a=\"slack\"|b=1");
    assert_eq!(after("Mend what is on line 1"), "a = \"slack\"|b=1");
    assert_eq!(after("Mend the lines in reach"), "a = \"slack\"|b=1");
    assert_eq!(after("Keep this as it stands"), "# kanonix: keep|a='slack'");
    let only = actions(&mut client, &uri, 0, json!(["source.fixAll"]));
    assert_eq!(only.len(), 1, "{only:?}");
}

#[test]
fn commands_mend_the_whole_file_and_explain_a_line() {
    let repo = repo();
    let (mut client, uri) = touched(&repo);
    let command = |command: &str, argument: Value| json!({
        "command": command, "arguments": [uri, argument],
    });
    client.ask("workspace/executeCommand", command("kanonix.mend", json!("whole"))).unwrap();
    let edits = client.told("workspace/applyEdit")["edit"]["changes"][&uri].clone();
    client.apply(&uri, &edits);
    assert!(client.text(&uri).contains("b = 1\n"));
    let asked = command("kanonix.explain", json!(2));
    let said = client.ask("workspace/executeCommand", asked).unwrap();
    let said = said.as_str().unwrap();
    assert!(
        said.contains("line 2 is laid out by") && said.contains("python, by its name"),
        "{said}"
    );
    assert_eq!(client.told("window/showMessage")["message"], said);
}
