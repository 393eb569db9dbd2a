//! What the pages show is what the program says: every step in them is run.
//!
//! `KANONIX_PAGES=write cargo test pages` writes what is said now into the pages.

use crate::support::{Repo, demo};
use std::path::Path;

/// The page for build servers, whose steps are run one after the other.
const BUILD_SERVER: &str = "docs/build-server.md";

/// The canon of the page's repository.
const CANON: &str = "\
edition = 1

[files]
skip = [\"third_party/**\"]

[style]
max_line_length = 100
statement_end = \"keep\"

[style.javascript]
indent_size = 4
quotes = \"double\"
";

/// A server that has `main` and a branch `quiet-hours`, which changes code and the canon.
fn server() -> Repo {
    let server = Repo::plain();
    let repo = Repo::new();
    for entry in ignore::Walk::new(demo()).flatten().filter(|entry| entry.path().is_file()) {
        let inside = entry.path().strip_prefix(demo()).unwrap().display().to_string();
        repo.write(&inside, std::fs::read(entry.path()).unwrap());
    }
    repo.write("kanonix.toml", CANON);
    repo.commit("Agree on a canon");
    for line in ["Gauges report each minute.", "Keepers are told by the siren."] {
        repo.edit("README.md", "\n", &format!("\n{line}\n"));
        repo.commit("Say more");
    }
    repo.git(&["switch", "--quiet", "-c", "quiet-hours"]);
    let header = "function notifyAll(keepers, message) {\n";
    let night = "function isNight(date) {\n    const hour = date.getHours()\n    \
                 return hour>=22||hour<6\n}\n\n";
    let asks = "    if(isNight(new Date())) return\n";
    repo.edit("alarms/notify.js", header, &format!("{night}{header}{asks}"));
    repo.commit("Let the keepers sleep");
    repo.edit("kanonix.toml", "third_party/**\"", "third_party/**\", \"alarms/**\"");
    repo.edit("alarms/siren.js", "\n", "\n// kanonix: keep\nconst LOUD=11\n");
    repo.commit("Leave the alarms alone");
    repo.git(&["switch", "--quiet", "main"]);
    let place = server.path("server/tidewatch.git");
    repo.git(&["clone", "--quiet", "--bare", ".", place.to_str().unwrap()]);
    server.git(&["-C", "server/tidewatch.git", "config", "uploadpack.allowFilter", "true"]);
    server
}

/// What a command says, its problems behind it, and how it ends where that is not well.
fn said(server: &Repo, folder: &Path, command: &str) -> String {
    let built = Path::new(env!("CARGO_BIN_EXE_kanonix")).parent().unwrap();
    let path = format!("{}:{}", built.display(), std::env::var("PATH").unwrap());
    let mut shell = server.command("sh");
    shell.current_dir(folder).env("PATH", path).env("SERVER", server.path("server"));
    shell.arg("-c").arg(format!("exec 2>&1\n{command}"));
    let output = shell.output().unwrap();
    let mut said = String::from_utf8_lossy(&output.stdout).into_owned();
    if !said.is_empty() && !said.ends_with('\n') {
        said.push('\n');
    }
    said
}

/// The page with what its commands say now.
fn run(page: &str, server: &Repo) -> (String, usize) {
    let (mut out, mut steps) = (String::new(), 0);
    // The fence of the block, and whether its commands are run.
    let mut block: Option<(&str, bool)> = None;
    let mut folder = server.root().to_path_buf();
    for line in page.split_inclusive('\n') {
        let marks = &line[..line.len() - line.trim_start_matches('`').len()];
        let shown = block.is_some_and(|(_, shown)| shown);
        if marks.len() > 2 && block.is_none_or(|(fence, _)| fence == line.trim_end()) {
            block = match block {
                None => Some((marks, line.ends_with("console\n"))),
                Some(_) => None,
            };
            out.push_str(line);
        } else if let (true, Some(command)) = (shown, line.strip_prefix("$ ")) {
            out.push_str(line);
            steps += 1;
            match command.trim_end().strip_prefix("cd ") {
                Some(to) => folder = std::fs::canonicalize(folder.join(to)).unwrap(),
                None => out.push_str(&said(server, &folder, command)),
            }
        } else if !shown {
            out.push_str(line);
        }
    }
    (out, steps)
}

#[test]
fn every_step_for_build_servers_says_what_the_page_shows() {
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").join(BUILD_SERVER);
    let page = std::fs::read_to_string(&file).unwrap();
    let (now, steps) = run(&page, &server());
    if std::env::var("KANONIX_PAGES").is_ok_and(|word| word == "write") {
        std::fs::write(&file, now).unwrap();
        return;
    }
    assert!(steps > 12, "{steps} steps");
    let differs = page.lines().zip(now.lines()).find(|(shown, said)| shown != said);
    assert_eq!(differs, None, "run `KANONIX_PAGES=write cargo test pages` and read what changed");
    assert_eq!(page.lines().count(), now.lines().count());
}
