//! The first minute with the program: no repository yet, no canon yet.

use serde_json::{Value, json};
use crate::support::Repo;
use crate::support::client::{Client, uri};

/// A repository in which nothing is agreed.
fn without_canon(files: &[(&str, &str)]) -> Repo {
    let repo = Repo::plain();
    repo.git(&["init", "--quiet", "--initial-branch=main", "."]);
    for (path, text) in files {
        repo.write(path, text);
    }
    repo.commit("before");
    repo
}

#[test]
fn outside_of_a_repository_only_what_is_named_is_mended() {
    let folder = Repo::plain();
    folder.write("a.py", "a=1\n");
    for command in ["mend", "check"] {
        for paths in [&[][..], &["."]] {
            let words: Vec<&str> = [command].into_iter().chain(paths.iter().copied()).collect();
            let said = folder.kanonix(&words);
            assert_eq!(said.status, 2, "{said:?}");
            assert!(said.err.contains("no line is known to be touched"), "{said:?}");
            assert!(said.err.contains("--whole"), "{said:?}");
        }
    }
    assert_eq!(folder.read("a.py"), "a=1\n");
    assert_eq!(folder.kanonix(&["mend", "a.py"]).status, 0);
    assert_eq!(folder.read("a.py"), "a = 1\n");
}

#[test]
fn installed_packages_and_hidden_folders_are_nobodys_code() {
    let folder = Repo::plain();
    let left = [
        "node_modules/gull/index.js",
        "env/pyvenv.cfg",
        "env/lib/site.py",
        "lib/python3/site-packages/ebb/a.py",
        "cache/CACHEDIR.TAG",
        "cache/a.py",
        ".hidden/a.py",
    ];
    for path in left {
        let text = if path.ends_with("TAG") {
            "Signature: 8a477f597d28d172789f06886806bc55\n"
        } else {
            "a=1\n"
        };
        folder.write(path, text);
    }
    folder.write("own/a.py", "a=1\n");
    let said = folder.kanonix(&["mend", "--whole"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert_eq!(folder.read("own/a.py"), "a = 1\n");
    for path in left.iter().filter(|path| path.ends_with(".py") || path.ends_with(".js")) {
        assert_eq!(folder.read(path), "a=1\n", "{path}");
    }
    // Named, they are mended.
    folder.kanonix(&["mend", "--whole", "node_modules/gull"]);
    assert_eq!(folder.read("node_modules/gull/index.js"), "a = 1\n");
}

#[test]
fn without_a_canon_what_is_asked_for_works_and_says_so_once() {
    let repo = without_canon(&[("a.py", "a=1\n"), ("b.py", "b=1\n")]);
    repo.write("a.py", "a=1\nc=2\n");
    repo.write("b.py", "b=1\nd=2\n");
    let said = repo.kanonix(&["check"]);
    assert_eq!(said.status, 1, "{said:?}");
    assert_eq!(said.err.matches("nothing has been agreed here yet").count(), 1, "{said:?}");
    let said = repo.kanonix(&["mend"]);
    assert_eq!(said.err.matches("nothing has been agreed here yet").count(), 1, "{said:?}");
    assert_eq!(repo.read("a.py"), "a=1\nc = 2\n");
    assert_eq!(repo.kanonix(&["check", "--quiet"]).err, "");
    // An `.editorconfig` is an agreement.
    repo.write(".editorconfig", "root = true\n");
    assert!(!repo.kanonix(&["check"]).err.contains("agreed"));
}

#[test]
fn without_a_canon_no_gate_is_put_in() {
    let repo = without_canon(&[("a.py", "a=1\n")]);
    let said = repo.kanonix(&["gate", "install"]);
    assert_eq!(said.status, 2, "{said:?}");
    assert!(said.err.contains("kanonix settle --write"), "{said:?}");
    assert!(!repo.path(".git/hooks/pre-commit").exists());
    repo.write("kanonix.toml", "edition = 1\n");
    assert_eq!(repo.kanonix(&["gate", "install"]).status, 0);
}

/// What a save in an editor makes of a touched line.
fn saved(repo: &Repo, options: Value) -> (String, String) {
    let mut client = Client::with(repo, json!({ "initializationOptions": options }));
    let uri = uri(repo, "a.py");
    client.open(&uri, "python", "a=1\n");
    client.edit(&uri, "a=1\n", "a=1\nb=2\n");
    client.save(&uri);
    let text = client.text(&uri).to_string();
    let of = json!({ "textDocument": { "uri": uri } });
    let said = client.ask("kanonix/status", of.clone()).unwrap()["text"].clone();
    if options == json!({}) {
        // By hand, it goes by the community's style.
        let mut asked = of;
        asked["options"] = json!({ "tabSize": 4, "insertSpaces": true });
        assert!(!client.ask("textDocument/formatting", asked).unwrap().is_null());
    }
    (text, said.as_str().unwrap().to_string())
}

#[test]
fn without_a_canon_a_save_mends_nothing_and_says_why() {
    let repo = without_canon(&[("a.py", "a=1\n")]);
    let (text, said) = saved(&repo, json!({}));
    assert_eq!(text, "a=1\nb=2\n");
    assert!(said.contains("saving") && said.contains("nothing has been agreed"), "{said}");
    let explained = repo.kanonix(&["explain", "a.py"]);
    assert!(explained.out.contains("nothing has been agreed"), "{explained:?}");
    let json = repo.kanonix(&["explain", "a.py", "--report", "json"]);
    assert!(json.out.contains("\"lines\": \"off\""), "{json:?}");
    let (text, said) = saved(&repo, json!({ "withoutCanon": "mend" }));
    assert_eq!(text, "a=1\nb = 2\n");
    assert!(!said.contains("nothing has been agreed"), "{said}");
}
