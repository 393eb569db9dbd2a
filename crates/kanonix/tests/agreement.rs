//! Save, commit and merge agree: what the server mended on the saves before a commit, both gates
//! let pass. Where one side of a merge has another canon, the gate says under each what a check of
//! the same lines says under it.
//!
//! `KANONIX_ROUNDS=300 KANONIX_CODE=DIR cargo test --release --test agreement` goes on for as long
//! as one likes, over any folder of code.

use kanonix_core::judge;
use kanonix_core::languages::Language;
use kanonix_core::text::LineSet;
use serde_json::json;
use crate::support::client::{Client, uri};
use crate::support::random::Random;
use crate::support::{Repo, code, demo, times};

/// No file is longer, in bytes.
const LONGEST: usize = 60_000;

/// Of a shorter file, a few lines typed are so much that git calls it another one.
const LEAST_MOVED: usize = 1_500;

/// The text with a few of its lines as somebody types them in a hurry.
fn hurried(random: &mut Random, text: &str) -> Vec<(std::ops::Range<usize>, String)> {
    let mut changes = Vec::new();
    let mut at = 0;
    let lines: Vec<&str> = text.split_inclusive('\n').collect();
    let picks: Vec<usize> = (0..1 + random.below(4)).map(|_| random.below(lines.len())).collect();
    for (number, line) in lines.iter().enumerate() {
        let range = at..at + line.len();
        at = range.end;
        if !picks.contains(&number) {
            continue;
        }
        let solid = line.trim_end();
        let new = match random.below(8) {
            0 => line.replace(" = ", "=").replace(", ", ","),
            1 => line.replace(" = ", "  =  ").replace("(", "( "),
            2 => format!("{solid}   \n"),
            3 => format!("{line}{line}"),
            4 => String::new(),
            5 => format!("\n\n\n{line}"),
            6 => format!(" {line}"),
            _ => line.replace('"', "'"),
        };
        changes.push((range, new));
    }
    changes
}

/// Types some lines in a hurry, and saves.
fn save_in_a_hurry(random: &mut Random, client: &mut Client, uri: &str, language: &Language) {
    let before = client.text(uri).to_string();
    let changes = hurried(random, &before);
    let mut typed = before.clone();
    for (range, new) in changes.iter().rev() {
        typed.replace_range(range.clone(), new);
    }
    // Nobody commits what does not parse.
    let outcome = judge(&typed, language, &language.style(), &LineSet::default());
    if outcome.faults.is_empty() {
        for (range, new) in changes.into_iter().rev() {
            client.change(uri, range, &new);
        }
    }
    client.save(uri);
}

/// The text with some lines typed in a hurry, if it parses as well as before.
fn typed(random: &mut Random, text: &str, language: &Language) -> String {
    let mut typed = text.to_string();
    for (range, new) in hurried(random, text).into_iter().rev() {
        typed.replace_range(range, &new);
    }
    let outcome = judge(&typed, language, &language.style(), &LineSet::default());
    if outcome.faults.is_empty() { typed } else { text.to_string() }
}

/// Moves, copies or splits a file on disk, and gives the new one's name. Git is told nothing.
fn moved(random: &mut Random, repo: &Repo, name: &str, round: usize) -> String {
    let (folder, file) = name.rsplit_once('/').unwrap();
    let new = match random.below(2) {
        0 => format!("{folder}/moved_{round}_{file}"),
        _ => format!("new_{round}/{file}"),
    };
    let text = repo.read(name);
    repo.write(&new, text);
    if random.below(3) > 0 {
        std::fs::remove_file(repo.path(name)).unwrap();
    }
    new
}

/// Lines come into the file from `main`, unmended; the merge is left under way. Of a conflict, one
/// side stays each time, and git is not told that it is resolved.
fn merge_under_way(random: &mut Random, repo: &Repo, name: &str, language: &Language) {
    let theirs = typed(random, &repo.read(name), language);
    repo.git(&["switch", "--quiet", "main"]);
    repo.write(name, &theirs);
    repo.commit("theirs, from before anything was agreed");
    repo.git(&["switch", "--quiet", "work"]);
    // A commit of our own, so that there is something to merge into.
    repo.write("log", format!("{}\n", random.below(1_000_000)));
    let ours = typed(random, &repo.read(name), language);
    repo.write(name, ours);
    repo.kanonix(&["mend", name]);
    repo.commit("ours");
    repo.try_git(&["merge", "--quiet", "--no-commit", "--no-ff", "main"]);
    assert!(repo.path(".git/MERGE_HEAD").exists(), "nothing is under way");
    let (mut text, mut side, mut keeps) = (String::new(), 0, random.below(2));
    for line in repo.read(name).split_inclusive('\n') {
        match (side, line.get(..7)) {
            (0, Some("<<<<<<<")) => side = 1,
            (1, Some("=======")) => side = 2,
            (2, Some(">>>>>>>")) => (side, keeps) = (0, random.below(2)),
            (1, _) if keeps == 1 => {}
            (2, _) if keeps == 0 => {}
            _ => text.push_str(line),
        }
    }
    let outcome = judge(&text, language, &language.style(), &LineSet::default());
    let parses = outcome.faults.is_empty();
    repo.write(name, if parses { text } else { theirs });
}

/// The text of one of the workshop's canons.
fn canon_of(name: &str) -> Vec<u8> {
    let canons = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../xtask/canons");
    std::fs::read(canons.join(format!("{name}.toml"))).unwrap()
}

/// Another canon on `main`, which the branch does not have.
fn agreed_on_main(repo: &Repo, canon: &str) {
    let is_clean = repo.git(&["status", "--porcelain"]).is_empty();
    if !is_clean {
        repo.git(&["stash", "--quiet", "--include-untracked"]);
    }
    repo.git(&["switch", "--quiet", "main"]);
    repo.write("kanonix.toml", canon_of(canon));
    repo.commit("another agreement");
    repo.git(&["switch", "--quiet", "work"]);
    if !is_clean {
        repo.git(&["stash", "pop", "--quiet"]);
    }
}

/// Under the canon of `main`, the merge gate says of a branch what a check says where that canon
/// stands in the tree.
fn gate_and_check_agree_under_the_targets_canon(repo: &Repo, at: impl Fn() -> String) -> usize {
    let gate = repo.kanonix(&["gate", "merge", "--into", "main"]);
    let own = repo.read("kanonix.toml");
    repo.write("kanonix.toml", repo.git(&["cat-file", "blob", "main:kanonix.toml"]));
    let check = repo.kanonix(&["check", "--since", "main"]);
    repo.write("kanonix.toml", own);
    assert_eq!((gate.status, &gate.out), (check.status, &check.out), "{}\n{}", gate.err, at());
    gate.out.lines().count()
}

#[test]
fn what_a_save_mended_the_gates_let_pass() {
    let folder = std::env::var("KANONIX_CODE").map_or_else(|_| demo(), Into::into);
    let mut files = code(&folder);
    files.retain(|(_, text, _)| text.len() < LONGEST);
    let canons = ["buoy", "quay", "mole", "lock"];
    // Moves and copies, merges under way, and another canon on either side.
    let mut tried = [0, 0, 0];
    // What the canon of the target says of lines that the branch's own has nothing against.
    let mut stopped = 0;
    for (seed, canon) in canons.into_iter().enumerate() {
        let mut random = Random::new(seed as u64 + 1);
        let repo = Repo::new();
        repo.write("kanonix.toml", canon_of(canon));
        let mut names = Vec::new();
        for number in 0..files.len().min(12) {
            let (path, text, language) = &files[random.below(files.len())];
            let name = format!("{number}/{}", path.file_name().unwrap().to_str().unwrap());
            repo.write(&name, text);
            names.push((name, *language));
        }
        repo.commit("before");
        repo.git(&["checkout", "--quiet", "-b", "work"]);
        let mut client = Client::of(&repo);
        for (name, language) in &names {
            client.open(&uri(&repo, name), language.identifiers[0], &repo.read(name));
        }
        for round in 0..times("KANONIX_ROUNDS", 12) {
            let what = random.below(5);
            let is_long = |(name, _): &(String, _)| repo.read(name).len() > LEAST_MOVED;
            let chosen = match names.iter().position(is_long) {
                Some(long) if what == 0 => long,
                _ => random.below(names.len()),
            };
            let language = names[chosen].1;
            match what {
                0 if is_long(&names[chosen]) => {
                    names[chosen].0 = moved(&mut random, &repo, &names[chosen].0, round);
                    tried[0] += 1;
                }
                1 => {
                    merge_under_way(&mut random, &repo, &names[chosen].0, language);
                    tried[1] += 1;
                }
                2 => {
                    let other = canons[random.below(canons.len())];
                    match random.below(2) {
                        0 => repo.write("kanonix.toml", canon_of(other)),
                        _ => agreed_on_main(&repo, other),
                    }
                    tried[2] += 1;
                }
                _ => {}
            }
            let name = names[chosen].0.as_str();
            let uri = uri(&repo, name);
            if what < 2 {
                client.tell("textDocument/didClose", json!({ "textDocument": { "uri": uri } }));
                client.open(&uri, language.identifiers[0], &repo.read(name));
            }
            let before = client.text(&uri).to_string();
            for _ in 0..1 + random.below(3) {
                save_in_a_hurry(&mut random, &mut client, &uri, language);
                assert_eq!(repo.read(name), client.text(&uri));
            }
            let saved = client.text(&uri).to_string();
            let at = || {
                format!("{canon}, round {round}, {name}\n--- before\n{before}\n--- saved\n{saved}")
            };
            let check = repo.kanonix(&["check", name]);
            assert_eq!(check.status, 0, "check: {}\n{}", check.out, at());
            repo.git(&["add", "--all"]);
            let commit = repo.kanonix(&["gate", "commit"]);
            assert_eq!(commit.status, 0, "commit: {}{}\n{}", commit.out, commit.err, at());
            repo.git(&["commit", "--quiet", "--allow-empty", "-m", "work"]);
            // A statement that both sides have touched is the branch's, too, for the merge gate.
            if what != 1 {
                let own = ["gate", "merge", "--into", "main", "--canon-of", "branch"];
                let merge = repo.kanonix(&own);
                assert_eq!(merge.status, 0, "merge: {}{}\n{}", merge.out, merge.err, at());
            }
            stopped += gate_and_check_agree_under_the_targets_canon(&repo, at);
            repo.git(&["branch", "--quiet", "--force", "main", "HEAD"]);
        }
        assert!(client.end().success());
    }
    assert!(tried.iter().all(|times| *times > 2), "moves, merges and canons: {tried:?}");
    assert!(stopped > 0, "no canon of a target had anything against a branch");
}
