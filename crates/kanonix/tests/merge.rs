//! The merge gate: judged by the canon of what a branch is merged into, and never passed in
//! silence.

use crate::support::{CANON, Repo, Said, said_in_time};
use kanonix_repo::canon::followed::Followed;

const GAUGE: &str = "level = 1\nname = \"ebb\"\n";

/// A branch `work` that has left `main` by one line in single quotes, and by what `loosen` does.
fn loosened(repo: &Repo, loosen: impl Fn(&Repo)) {
    repo.git(&["switch", "--quiet", "-c", "work"]);
    repo.edit("gauges/a.py", "level = 1\n", "level = 1\nhigh = 'flood'  \n");
    loosen(repo);
    repo.commit("work");
}

fn merge(repo: &Repo) -> Said {
    repo.kanonix(&["gate", "merge", "--into", "main"])
}

/// What the canon of the case says, and this behind it.
fn canon(more: &str) -> String {
    format!("{CANON}{more}")
}

/// A copy of somebody's canon that wants these quotes.
fn copy(quotes: &str) -> String {
    let text = format!("edition = 1\n[style]\nquotes = \"{quotes}\"\n");
    let (from, commit) = ("../style".to_string(), "0".repeat(40));
    Followed { from, at: None, commit, text }.write()
}

/// A way to write oneself a softer canon.
struct Way {
    /// What is agreed in `main`: files and their texts.
    agreed: Vec<(&'static str, String)>,
    /// What the branch makes of it; a text of nothing takes the file away.
    loosened: (&'static str, Option<String>),
    /// What the verdict says of that.
    told: &'static str,
}

fn ways() -> Vec<Way> {
    let own = |more: &str, told: &'static str| Way {
        agreed: vec![("kanonix.toml", CANON.into())],
        loosened: ("kanonix.toml", Some(canon(more))),
        told,
    };
    let instead = |from: &str, to: &str, told: &'static str| Way {
        agreed: vec![("kanonix.toml", CANON.into())],
        loosened: ("kanonix.toml", Some(CANON.replacen(from, to, 1))),
        told,
    };
    let config = |trim: &str| format!("root = true\n[*.py]\ntrim_trailing_whitespace = {trim}\n");
    vec![
        instead("\"double\"", "\"keep\"", "style.quotes  \"double\" becomes \"keep\""),
        instead("third_party", "gauges", "files.skip  new: \"gauges/**\""),
        instead("[style]", "[style.python]\nquotes = \"single\"\n[style]", "style.python.quotes"),
        instead("skip", "largest = 9\nskip", "files.largest  new: 9"),
        instead("skip", "language = { \"*.py\" = \"json\" }\nskip", "files.language.*.py  new"),
        own("[reach]\nmerge = \"off\"\n", "reach.merge  new: \"off\""),
        own("[[part]]\npaths = [\"gauges\"]\nreach = \"off\"\n", "part [\"gauges\"].reach"),
        own(
            "[[part]]\npaths = [\"*.py\"]\nstyle.quotes = \"keep\"\n",
            "part [\"*.py\"].style.quotes"
        ),
        Way {
            agreed: vec![("kanonix.toml", CANON.into())],
            loosened: ("kanonix.toml", None),
            told: "kanonix.toml  style.quotes  gone: \"double\"",
        },
        Way {
            agreed: vec![("kanonix.toml", CANON.into())],
            loosened: ("gauges/kanonix.toml", Some("[style]\nquotes = \"keep\"\n".into())),
            told: "gauges/kanonix.toml  style.quotes  new: \"keep\"",
        },
        Way {
            agreed: vec![("gauges/kanonix.toml", CANON.into())],
            loosened: ("gauges/kanonix.toml", Some("[files]\nskip = [\"*\"]\n".into())),
            told: "gauges/kanonix.toml  files.skip",
        },
        Way {
            agreed: vec![(".editorconfig", config("true"))],
            loosened: (".editorconfig", Some(config("false"))),
            told: ".editorconfig  [*.py] trim_trailing_whitespace  true becomes false",
        },
        Way {
            agreed: vec![
                ("kanonix.toml", "[team]\nfollow = \"../style\"\n".into()),
                (".kanonix/followed.toml", copy("double")),
            ],
            loosened: (".kanonix/followed.toml", Some(copy("keep"))),
            told: ".kanonix/followed.toml  style.quotes  \"double\" becomes \"keep\"",
        },
    ]
}

#[test]
fn a_branch_that_writes_itself_a_softer_canon_is_judged_by_the_targets() {
    for way in ways() {
        let repo = Repo::new();
        std::fs::remove_file(repo.path("kanonix.toml")).unwrap();
        repo.write("gauges/a.py", GAUGE);
        way.agreed.iter().for_each(|(path, text)| repo.write(path, text));
        repo.commit("agreed");
        loosened(&repo, |repo| match &way.loosened {
            (path, Some(text)) => repo.write(path, text),
            (path, None) => std::fs::remove_file(repo.path(path)).unwrap(),
        });
        let said = merge(&repo);
        assert_eq!(said.status, 1, "{}: {said:?}", way.told);
        assert!(said.out.contains("gauges/a.py:2:"), "{}: {said:?}", way.told);
        assert!(said.err.contains("judged by the canon of main\n"), "{said:?}");
        assert!(said.err.contains("the branch changes the canon"), "{said:?}");
        assert!(said.err.contains(way.told), "{}: {}", way.told, said.err);
        assert!(said.err.contains("under its own canon"), "{said:?}");
        // What mends goes by the branch's canon, so the gate's own patch is offered.
        let patch = ["gate", "merge", "--into", "main", "--report", "patch"];
        assert!(said.err.contains("--report patch | git apply"), "{said:?}");
        repo.write("wanted.patch", repo.kanonix(&patch).out);
        repo.git(&["apply", "wanted.patch"]);
        std::fs::remove_file(repo.path("wanted.patch")).unwrap();
        repo.commit("as the target wants it");
        assert_eq!(merge(&repo).status, 0, "{}", way.told);
    }
}

#[test]
fn whoever_keeps_the_build_server_may_decide_otherwise_in_the_call() {
    let repo = Repo::with(&[("gauges/a.py", GAUGE)]);
    loosened(&repo, |repo| {
        repo.write("kanonix.toml", canon("[reach]\nmerge = \"off\"\n"));
    });
    let said = repo.kanonix(&["gate", "merge", "--into", "main", "--canon-of", "branch"]);
    assert_eq!(said.status, 0, "{said:?}");
    assert!(said.err.contains("judged by the branch's own canon, not that of main"), "{said:?}");
    assert!(said.err.contains("reach.merge"), "{said:?}");
}

#[test]
fn where_nothing_has_been_agreed_the_branchs_own_canon_judges() {
    let repo = Repo::new();
    std::fs::remove_file(repo.path("kanonix.toml")).unwrap();
    repo.write("gauges/a.py", GAUGE);
    repo.commit("before");
    loosened(&repo, |repo| repo.write("kanonix.toml", CANON));
    let said = merge(&repo);
    assert!(said.status == 1 && said.out.contains("quotes"), "{said:?}");
    assert!(said.err.contains("nothing has been agreed in main yet"), "{said:?}");
    // A word about any folder is an agreement; of the others, each community has the last word.
    repo.git(&["switch", "--quiet", "main"]);
    repo.write("alarms/.editorconfig", "[*]\nindent_size = 3\n");
    repo.commit("agreed for the alarms");
    let said = repo.kanonix(&["gate", "merge", "--into", "main"]);
    assert_eq!(said.status, 0, "{said:?}");
    repo.git(&["switch", "--quiet", "work"]);
    let said = merge(&repo);
    assert!(said.err.contains("judged by the canon of main"), "{said:?}");
    assert!(said.status == 1 && !said.out.contains("quotes"), "{said:?}");
}

#[test]
fn the_targets_newer_canon_counts_and_not_the_one_from_which_the_branch_left() {
    let repo = Repo::with(&[("gauges/a.py", GAUGE)]);
    loosened(&repo, |_| {});
    repo.git(&["switch", "--quiet", "main"]);
    repo.write("kanonix.toml", CANON.replace("double", "single"));
    repo.commit("another agreement");
    repo.git(&["switch", "--quiet", "work"]);
    let said = merge(&repo);
    assert!(said.status == 1 && !said.out.contains("quotes"), "{said:?}");
    // The branch has changed nothing of it.
    assert!(!said.err.contains("changes the canon"), "{said:?}");
}

#[test]
fn a_link_in_a_commit_leads_to_the_canon_as_it_does_on_disk() {
    let repo = Repo::with(&[("gauges/a.py", GAUGE)]);
    repo.write("team/style.toml", CANON);
    std::fs::remove_file(repo.path("kanonix.toml")).unwrap();
    std::os::unix::fs::symlink("team/./style.toml", repo.path("kanonix.toml")).unwrap();
    repo.commit("behind a link");
    loosened(&repo, |_| {});
    let said = merge(&repo);
    assert!(said.status == 1 && said.out.contains("quotes: use double quotes"), "{said:?}");
    repo.git(&["switch", "--quiet", "main"]);
    for (target, told) in [("../style.toml", "leads out"), ("kanonix.toml", "lead on and on")] {
        std::fs::remove_file(repo.path("kanonix.toml")).unwrap();
        std::os::unix::fs::symlink(target, repo.path("kanonix.toml")).unwrap();
        repo.commit("elsewhere");
        let said = repo.kanonix(&["gate", "merge", "--into", "main"]);
        assert!(said.status == 2 && said.err.contains(told), "{target}: {said:?}");
    }
}

#[test]
fn new_comments_that_keep_lines_are_named_and_stop_where_that_is_agreed() {
    let kept = "level = 2  # kanonix: keep\n# kanonix: keep on\nlow=1\n# kanonix: keep off\n";
    for (agreed, status) in [("", 0), ("[reach]\nnew_keeps = \"say\"\n", 0), (
        "[reach]\nnew_keeps = \"stop\"\n",
        3,
    )] {
        let repo = Repo::new();
        repo.write("kanonix.toml", canon(agreed));
        repo.write("gauges/a.py", "a = 1\n# kanonix: keep\nb=1\n");
        repo.commit("before");
        repo.git(&["switch", "--quiet", "-c", "work"]);
        repo.write("gauges/a.py", format!("a = 1\n# kanonix: keep\nb=1\n\n\n{kept}"));
        repo.write("gauges/new.py", "# kanonix: keep\nSURGES=[\"west\",\"north\"]\n");
        repo.write("gauges/plain.py", "b = 'kanonix: keep'.split()  # and no word of ours\n");
        repo.edit("gauges/plain.py", "'kanonix: keep'", "\"kanonix: keep\"");
        repo.commit("work");
        let said = merge(&repo);
        assert_eq!(said.status, status, "{agreed}: {said:?}");
        let named: Vec<&str> = said.out.lines().filter(|line| line.contains("new_keep")).collect();
        let places: Vec<&str> = named.iter().map(|line| line.split(": ").next().unwrap()).collect();
        assert_eq!(places, ["gauges/a.py:6:12", "gauges/a.py:7:1", "gauges/new.py:1:1"]);
        assert!(said.err.contains("3 new comments keep lines as they stand"), "{said:?}");
        // The same on a save and at a commit.
        repo.git(&["reset", "--quiet", "--soft", "main"]);
        for words in [&["check"][..], &["gate", "commit"]] {
            let said = repo.kanonix(words);
            assert_eq!(said.status, status, "{words:?}: {said:?}");
            assert!(said.err.contains("3 new comments"), "{words:?}: {said:?}");
        }
        let whole = repo.kanonix(&["check", "--whole"]);
        assert!(!whole.out.contains("new_keep"), "{whole:?}");
    }
}

#[test]
fn a_keep_whose_end_is_taken_away_is_named_too() {
    let kept = "# kanonix: keep on\nlow=1\n# kanonix: keep off\nhigh = 2\n";
    let repo = Repo::with(&[("gauges/a.py", &format!("{kept}{kept}last = 3\n"))]);
    repo.git(&["switch", "--quiet", "-c", "work"]);
    repo.edit("gauges/a.py", "# kanonix: keep off\nhigh = 2\n", "high=2\n");
    repo.commit("work");
    let said = merge(&repo);
    assert!(said.out.starts_with("gauges/a.py:1:1: new_keep: the end of what this"), "{said:?}");
    assert_eq!(said.out.lines().count(), 1, "{said:?}");
    // What was open before is nobody's news.
    repo.git(&["branch", "--quiet", "--force", "main", "HEAD"]);
    repo.edit("gauges/a.py", "last = 3", "last = 4");
    repo.commit("more");
    assert_eq!(merge(&repo).out, "");
}

#[test]
fn what_cannot_be_read_any_more_stops_a_merge_and_is_said_elsewhere() {
    let bytes: [(&[u8], &str); 2] =
        [(b"level = 2\n\0", "a zero byte"), (b"level = 2  # h\xf6he\n", "not UTF-8")];
    for (bytes, told) in bytes {
        let repo = Repo::with(&[("gauges/a.py", GAUGE)]);
        repo.write("old.py", bytes);
        repo.commit("one that never could");
        repo.git(&["switch", "--quiet", "-c", "work"]);
        repo.write("gauges/a.py", bytes);
        repo.write("gauges/new.py", [b"from tides import surges, gauges\n\n", bytes].concat());
        repo.write("old.py", [bytes, b"\n"].concat());
        let said = repo.kanonix(&["check"]);
        assert!(said.status == 0 && said.err.contains(told), "{said:?}");
        repo.git(&["add", "--all"]);
        let said = repo.kanonix(&["gate", "commit"]);
        assert!(said.status == 0 && said.err.contains(told), "{said:?}");
        repo.commit("work");
        let said = merge(&repo);
        assert_eq!(said.status, 3, "{said:?}");
        assert!(said.err.starts_with("kanonix: stopped, 2 files cannot be judged"), "{said:?}");
        for file in ["gauges/a.py", "gauges/new.py"] {
            assert!(said.err.contains(&format!("kanonix: {file}: ")), "{said:?}");
        }
        assert!(!said.err.contains("old.py") && said.err.contains(told), "{said:?}");
        // The target's word about it counts.
        repo.write("kanonix.toml", canon("[reach]\nunreadable = \"pass\"\n"));
        repo.commit("a softer word");
        assert_eq!(merge(&repo).status, 3);
        repo.git(&["branch", "--force", "main", "HEAD~2"]);
        repo.git(&["switch", "--quiet", "main"]);
        repo.write("kanonix.toml", canon("[reach]\nunreadable = \"pass\"\n"));
        repo.commit("agreed");
        repo.git(&["switch", "--quiet", "work"]);
        let said = merge(&repo);
        assert!(said.status == 0 && said.err.contains(told), "{said:?}");
    }
}

#[test]
fn a_file_does_not_grow_out_of_the_gates_sight() {
    let repo = Repo::new();
    repo.write("kanonix.toml", CANON.replace("skip", "largest = 60\nskip"));
    repo.write("gauges/a.py", GAUGE);
    repo.commit("before");
    repo.git(&["switch", "--quiet", "-c", "work"]);
    repo.write("gauges/a.py", format!("{GAUGE}high=2\n# {}\n", "-".repeat(60)));
    repo.write("gauges/data.json", format!("[\"{}\"]\n", "-".repeat(60)));
    repo.commit("work");
    let said = merge(&repo);
    assert!(said.status == 3 && said.err.contains("gauges/a.py: it has become larger"), "{said:?}");
    assert!(said.err.contains("1 too large") && !said.err.contains("data.json"), "{said:?}");
}

#[test]
fn a_gate_that_cannot_judge_says_what_to_do_next_and_does_not_pass() {
    let repo = Repo::with(&[("gauges/a.py", GAUGE)]);
    loosened(&repo, |_| {});
    let none = repo.kanonix(&["gate", "merge", "--into", "mian"]);
    assert!(none.status == 2 && none.err.contains("did you mean `main`?"), "{none:?}");
    // A broken canon on either side.
    repo.write("kanonix.toml", "[stile]\n");
    repo.commit("broken");
    let said = merge(&repo);
    assert!(said.status == 2 && said.err.contains("in the branch: kanonix.toml:1:2"), "{said:?}");
    repo.git(&["branch", "--quiet", "--force", "main", "HEAD"]);
    repo.write("kanonix.toml", CANON);
    repo.edit("gauges/a.py", "ebb", "flood");
    repo.commit("mended");
    let said = merge(&repo);
    assert!(said.status == 2 && said.err.contains("in main: kanonix.toml:1:2"), "{said:?}");
    let own = repo.kanonix(&["gate", "merge", "--into", "main", "--canon-of", "branch"]);
    assert_eq!(own.status, 0, "{own:?}");
    // Without git, and with one from long ago.
    let with_path = |folder: &str| {
        let mut command = repo.command(env!("CARGO_BIN_EXE_kanonix"));
        command.args(["gate", "merge", "--into", "main"]).env("PATH", repo.path(folder));
        said_in_time(command)
    };
    let said = with_path("nothing");
    assert!(said.status == 2 && said.err.contains("install git"), "{said:?}");
    let old = "#!/bin/sh\ncase \"$*\" in *--version) echo 'git version 1.7.1';;\n\
               *) echo 'Unknown option: -C' >&2; exit 129;; esac\n";
    repo.write("old/git", old);
    let executable = std::os::unix::fs::PermissionsExt::from_mode(0o755);
    std::fs::set_permissions(repo.path("old/git"), executable).unwrap();
    let said = with_path("old");
    assert!(said.status == 2 && said.err.contains("git version 1.7.1 is too old"), "{said:?}");
}

/// A repository that is served, with a branch `work` that brings one slip into `main`.
fn served() -> (Repo, String) {
    let repo = Repo::with(&[("gauges/a.py", GAUGE), ("gauges/b.py", GAUGE)]);
    for level in 2..8 {
        repo.edit("gauges/b.py", &format!("level = {}", level - 1), &format!("level = {level}"));
        repo.commit("on main");
    }
    loosened(&repo, |_| {});
    repo.git(&["switch", "--quiet", "main"]);
    repo.edit("gauges/b.py", "ebb", "neap");
    repo.commit("main goes on");
    repo.git(&["config", "uploadpack.allowFilter", "true"]);
    repo.git(&["config", "uploadpack.allowAnySHA1InWant", "true"]);
    let from = format!("file://{}", repo.root().display());
    (repo, from)
}

/// One clone of it, with what it takes to be made and the target there.
fn judged_in(from: &str, clone: &[&str], then: &[&[&str]], into: &str) -> Said {
    let clone_of = Repo::plain();
    clone_of.git(&[&["clone", "--quiet"], clone, &[from, "."]].concat());
    for words in then {
        clone_of.git(words);
    }
    clone_of.kanonix(&["gate", "merge", "--into", into])
}

#[test]
fn every_kind_of_clone_is_judged_alike() {
    let (_repo, from) = served();
    let work: &[&str] = &["switch", "--quiet", "work"];
    let detached: &[&str] = &["checkout", "--quiet", "--detach", "origin/work"];
    let fetch: &[&str] = &[
        "fetch",
        "--quiet",
        "--depth=3",
        "origin",
        "main:refs/remotes/origin/main",
    ];
    let join: &[&str] = &[
        "merge",
        "--quiet",
        "--no-ff",
        "-m",
        "as the build server does",
        "origin/work",
    ];
    let head: &[&str] = &["symbolic-ref", "HEAD", "refs/heads/work"];
    let name: &[&str] = &["config", "user.name", "Keeper"];
    for (kind, clone, then, into) in [
        ("whole", &[][..], &[work][..], "origin/main"),
        ("detached", &[], &[detached], "origin/main"),
        ("shallow", &["--depth=3", "--branch=work"], &[fetch], "origin/main"),
        ("partial", &["--filter=blob:none", "--no-checkout"], &[detached], "origin/main"),
        ("bare", &["--bare"], &[head], "main"),
        ("merged", &[], &[name, join], "origin/main"),
        ("merged, by its first parent", &[], &[name, join], "HEAD^1"),
        (
            "merged, without its target",
            &["--depth=9", "--no-single-branch"],
            &[name, join],
            "HEAD^1",
        ),
    ] {
        let said = judged_in(&from, clone, then, into);
        assert_eq!(said.status, 1, "{kind}: {said:?}");
        assert!(said.out.contains("gauges/a.py:2:8: quotes"), "{kind}: {said:?}");
        assert!(!said.out.contains("b.py"), "{kind}: {said:?}");
    }
}

#[test]
fn a_clone_that_is_too_shallow_says_how_to_deepen_it() {
    let (_repo, from) = served();
    let fetch: &[&str] = &[
        "fetch",
        "--quiet",
        "--depth=1",
        "origin",
        "main:refs/remotes/origin/main",
    ];
    let said = judged_in(&from, &["--depth=1", "--branch=work"], &[fetch], "origin/main");
    assert!(said.status == 2 && said.err.contains("`git fetch --deepen=100`"), "{said:?}");
    let said = judged_in(&from, &["--depth=1", "--branch=work"], &[], "origin/main");
    assert!(said.status == 2 && said.err.contains("git fetch --unshallow"), "{said:?}");
    // Once it is deep enough, it judges.
    let deepen: &[&str] = &["fetch", "--quiet", "--deepen=100"];
    let said = judged_in(&from, &["--depth=1", "--branch=work"], &[fetch, deepen], "origin/main");
    assert_eq!(said.status, 1, "{said:?}");
}

#[test]
fn without_a_word_the_target_is_the_build_servers_or_the_remotes() {
    let (_repo, from) = served();
    let clone = Repo::plain();
    clone.git(&["clone", "--quiet", &from, "."]);
    clone.git(&["checkout", "--quiet", "--detach", "origin/work"]);
    let run = |surroundings: &[(&str, &str)]| {
        let mut command = clone.command(env!("CARGO_BIN_EXE_kanonix"));
        for (name, _) in std::env::vars_os() {
            if name.to_string_lossy().ends_with("_REF") {
                command.env_remove(name);
            }
        }
        command.args(["gate", "merge"]).envs(surroundings.iter().copied());
        said_in_time(command)
    };
    let said = run(&[]);
    assert_eq!(said.status, 1, "{said:?}");
    let by = "judged by the canon of origin/main (named by";
    assert!(said.err.contains(&format!("{by} the remote's default branch)")), "{said:?}");
    // Each row of the page's table: a variable, and what has to be there beside it.
    let page = include_str!("../../../docs/build-server.md");
    let rows = page.lines().filter_map(|line| line.strip_prefix("| `")?.strip_suffix(" |"));
    let mut tried = 0;
    for row in rows.filter(|row| row.contains("` | ")) {
        let (variable, beside) = row.split_once("` | ").unwrap();
        if variable.chars().any(|letter| !letter.is_ascii_uppercase() && letter != '_') {
            continue;
        }
        let words: Vec<&str> = beside.split('`').skip(1).step_by(2).collect();
        let mut surroundings = vec![(variable, "main")];
        surroundings.extend(words.first().map(|other| (*other, "17")));
        let said = run(&surroundings);
        assert_eq!(said.status, 1, "{row}: {said:?}");
        assert!(said.err.contains(&format!("{by} {variable})")), "{row}: {said:?}");
        if let Some(other) = words.first() {
            let without = run(&[(variable, "main"), (*other, words.get(1).unwrap_or(&""))]);
            assert!(without.err.contains("the remote's default branch"), "{row}: {without:?}");
        }
        tried += 1;
    }
    assert!(tried >= 15, "{tried} variables");
    let said = run(&[("GITHUB_BASE_REF", "release")]);
    let next = "git fetch origin release:refs/remotes/origin/release";
    assert!(said.status == 2 && said.err.contains(next), "{said:?}");
    clone.git(&["remote", "set-head", "origin", "--delete"]);
    let said = run(&[]);
    assert!(said.status == 2 && said.err.contains("--into origin/main"), "{said:?}");
}
