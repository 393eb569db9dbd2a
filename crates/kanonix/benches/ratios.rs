//! Speed, as ratios measured in one run: `cargo bench` on the demo, `cargo bench -- DIR` on any
//! folder of code, `cargo bench -- DIR merge` one part of it.

#[path = "../tests/support/mod.rs"]
mod support;

use kanonix_core::{Document, judge};
use kanonix_core::languages::{self, Language};
use kanonix_core::text::{Bases, Edit, LineSet};
use rayon::prelude::*;
use serde_json::json;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};
use support::Repo;
use support::client::{Client, uri};

/// How often everything is done; the fastest counts, so that what else the machine does tells as
/// little as it can.
const ROUNDS: usize = 5;

/// Lines of a long text in an editor, and how often it is saved.
const LINES: usize = 10_000;
const SAVES: usize = 200;

/// Files that a server has open.
const OPEN: usize = 200;

/// Files in the repository in which one of them is mended.
const FILES: usize = 1_000;

/// The files that a branch has changed, of so many.
const CHANGED: usize = 500;
const OF_A_BRANCH: usize = 50_000;

fn main() {
    let mut words = std::env::args().skip(1).filter(|word| !word.starts_with("--"));
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo");
    let folder = words.next().map_or(demo, PathBuf::from);
    let chosen: Vec<String> = words.collect();
    let parts: [(&str, fn(&Path)); 7] = [
        ("judge", in_the_process),
        ("check", whole_processes),
        ("mend", |_| one_file_of_many()),
        ("merge", a_branch_of_many),
        ("line", |_| one_line_of_many()),
        ("editor", beside_an_editor),
        ("hostile", |_| hostile()),
    ];
    for (name, part) in parts {
        if chosen.is_empty() || chosen.iter().any(|word| word == name) {
            part(&folder);
        }
    }
}

/// Judging whole files next to a bare parse of them, on one thread.
fn in_the_process(folder: &Path) {
    println!("{:12} {:>6} {:>9} {:>10} {:>10}", "language", "files", "bytes", "parse", "judge");
    for language in languages::ALL {
        let texts = texts(folder, language);
        if texts.is_empty() {
            continue;
        }
        let (parse, judged) = both(&texts, language);
        let bytes: usize = texts.iter().map(String::len).sum();
        println!(
            "{:12} {:>6} {bytes:>9} {parse:>10.1?} {judged:>10.1?}  {:.0} % of the parse's speed",
            language.name,
            texts.len(),
            percent(parse, judged)
        );
    }
}

/// The times of parsing and of judging, each text's fastest round counting.
fn both(texts: &[String], language: &Language) -> (Duration, Duration) {
    let style = language.style();
    let whole = LineSet::whole();
    let mut sums = (Duration::ZERO, Duration::ZERO);
    for text in texts {
        // Scripts in a page are parsed by their own grammars.
        let passages = Document::new(text.as_str(), language).passages();
        let parse = fastest(|| {
            let inside = passages.iter().map(|(language, said)| language.grammar.bare_parse(said));
            language.grammar.bare_parse(text) + inside.sum::<usize>()
        });
        let judged = fastest(|| judge(text, language, &style, &whole).slips.len());
        sums = (sums.0 + parse, sums.1 + judged);
    }
    sums
}

/// `check --whole` on one core, on two, and reading the same files.
fn whole_processes(folder: &Path) {
    let check = |threads: &str| {
        fastest(|| {
            let mut check = kanonix(folder);
            let check = check.args(["check", "--whole", "--quiet", "."]);
            run(check.env("RAYON_NUM_THREADS", threads))
        })
    };
    let read = || files(folder).iter().filter_map(|path| std::fs::read(path).ok()).count();
    let reading = fastest(read);
    let (one, two) = (check("1"), check("2"));
    let to_reading = times(one, reading);
    println!("\ncheck --whole, one core  {one:>10.1?}  {to_reading:.1} times reading the files");
    println!("check --whole, two cores {two:>10.1?}  {:.2} times as fast as one", times(one, two));
}

/// `gate merge` of a branch in a large repository, next to what git takes to say which files differ
/// and the parser to read those.
fn a_branch_of_many(folder: &Path) {
    let code = support::code(folder);
    if code.is_empty() {
        return;
    }
    let repo = Repo::with(&[]);
    let name = |number: usize, path: &Path| {
        let file = path.file_name().unwrap_or_default().to_string_lossy();
        format!("changed/{}/{number}_{file}", number % 20)
    };
    // Spread evenly, so that every language has its share.
    let step = (code.len() / CHANGED).max(1);
    let texts: Vec<_> = code.iter().step_by(step).cycle().take(CHANGED).enumerate().collect();
    for (number, (path, text, _)) in &texts {
        repo.write(&name(*number, path), text);
    }
    for number in 0..OF_A_BRANCH - CHANGED {
        repo.write(&format!("{}/gauge_{number}.py", number % 500), format!("level = {number}\n"));
    }
    // Git tidies up by itself, and at its own time.
    repo.git(&["config", "gc.auto", "0"]);
    repo.commit("levels");
    repo.git(&["switch", "--quiet", "-c", "work"]);
    for (number, (path, text, _)) in &texts {
        repo.write(&name(*number, path), format!("{text}\n"));
    }
    repo.commit("work");
    // As in a clone.
    repo.git(&["gc", "--quiet"]);
    let gate = fastest(|| {
        run(repo.command(env!("CARGO_BIN_EXE_kanonix")).args(["gate", "merge", "--into", "main"]))
    });
    let git = fastest(|| run(repo.command("git").args(["diff", "--raw", "main...HEAD"])));
    let parse = fastest(|| {
        let bytes = texts.par_iter().map(|(_, (_, text, language))| {
            language.grammar.bare_parse(text)
        });
        bytes.sum::<usize>()
    });
    let ratio = times(gate, git + parse);
    println!(
        "\ngate merge, {CHANGED} files of {OF_A_BRANCH}  {gate:>10.1?}  {ratio:.2} times git diff \
         --raw ({git:.1?}) and the bare parse ({parse:.1?})"
    );
}

/// `mend FILE` in a repository of many files, next to `git diff` of that file.
fn one_file_of_many() {
    let Ok(folder) = tempfile::tempdir() else { return };
    let root = folder.path();
    let body: String =
        (0..250).map(|n| format!("def level_{n}(a):\n    return a + {n}\n\n\n")).collect();
    for n in 0..FILES {
        std::fs::write(root.join(format!("gauge_{n}.py")), &body).expect("a temporary file");
    }
    let git = |words: &[&str]| {
        let mut git = Command::new("git");
        git.current_dir(root).args(["-c", "user.name=tide", "-c", "user.email=tide@example.org"]);
        run(git.args(words))
    };
    git(&["init", "-q"]);
    git(&["add", "."]);
    git(&["commit", "-q", "-m", "levels"]);
    let touched = body.replacen("return a + 7\n", "return a+7\n", 1);
    let file = root.join("gauge_1.py");
    let mend = fastest(|| {
        std::fs::write(&file, &touched).expect("a temporary file");
        run(kanonix(root).args(["mend", "--quiet", "gauge_1.py"]))
    });
    let diff = fastest(|| {
        std::fs::write(&file, &touched).expect("a temporary file");
        git(&["diff", "HEAD", "--", "gauge_1.py"])
    });
    let to_diff = times(mend, diff);
    println!("\nmend FILE, {FILES} files      {mend:>10.1?}  {to_diff:.2} times git diff");
}

/// Mending one touched line of a long text that an editor holds, and the same over the protocol,
/// next to parsing it from where it changed.
fn one_line_of_many() {
    println!();
    let python = |n| format!("def level_{n}(a):\n    b = a + {n}\n    return b * 2\n\n\n");
    let javascript =
        |n| format!("function level{n}(a) {{\n  const b = a + {n};\n  return b;\n}}\n\n");
    type Make<'a> = &'a dyn Fn(usize) -> String;
    for (name, make) in [("python", &python as Make), ("javascript", &javascript)] {
        let Some(language) = languages::by_name(name) else { continue };
        let text: String = (0..LINES / 5).map(make).collect();
        let style = language.style();
        let mut document = Document::in_steps(text.clone(), language);
        let bases = Bases::of([text.as_str()]);
        let file = format!("levels.{}", language.suffixes[0]);
        let repo = Repo::with(&[("kanonix.toml", ""), (&file, &text)]);
        let mut client = Client::of(&repo);
        let uri = uri(&repo, &file);
        client.open(&uri, language.identifiers[0], &text);
        let (mut parses, mut mends, mut saves) = (Vec::new(), Vec::new(), Vec::new());
        for round in 0..SAVES {
            let at = text.find(&format!(" a + {}", round * LINES / 5 / SAVES)).unwrap_or(0);
            let spoil = Edit { range: at..at + 4, text: "  a+".into() };
            parses.push(timed(|| document.change(std::slice::from_ref(&spoil))));
            mends.push(timed(|| {
                let mended = document.mend_since(&bases, &style);
                assert!(mended.is_ok_and(|mended| mended.text == text), "the line comes back");
            }));
            document.change(&[Edit { range: at..at + 4, text: " a +".into() }]);
            client.change(&uri, at..at + 4, "  a+");
            let asked = json!({ "textDocument": { "uri": uri }, "reason": 1 });
            let begun = Instant::now();
            let edits = client.ask("textDocument/willSaveWaitUntil", asked);
            saves.push(begun.elapsed());
            client.apply(&uri, &edits.unwrap_or_default());
            assert!(client.text(&uri) == text, "the line comes back");
        }
        let (parse, mend, save) = (median(parses), median(mends), median(saves));
        println!("one line of {LINES}, {name}: parsed from there {parse:.1?}, mended {mend:.1?}");
        println!("    over the protocol {save:.1?}, {:.1?} over two such parses", save - parse * 2);
    }
}

/// What a server holds that has many files open, and how soon the watcher mends a save.
fn beside_an_editor(folder: &Path) {
    let mut files = support::code(folder);
    files.truncate(OPEN);
    let repo = Repo::with(&[("kanonix.toml", "")]);
    let mut client = Client::of(&repo);
    let mut bytes = 0;
    for (number, (path, text, language)) in files.iter().cycle().take(OPEN).enumerate() {
        let name = path.file_name().unwrap_or_default().to_string_lossy();
        let name = format!("{number}/{name}");
        repo.write(&name, text);
        bytes += text.len();
        let uri = uri(&repo, &name);
        client.open(&uri, language.identifiers[0], text);
        client.edit(&uri, "\n", "\n\n");
        let asked = json!({ "textDocument": { "uri": uri }, "reason": 1 });
        let _ = client.ask("textDocument/willSaveWaitUntil", asked);
    }
    let status = std::fs::read_to_string(format!("/proc/{}/status", client.process()));
    let held = status.unwrap_or_default();
    let held = held.lines().find(|line| line.starts_with("VmHWM")).unwrap_or("VmHWM: unknown");
    println!("\n{OPEN} open files of {bytes} bytes: {held}");

    let mut watch = repo.command(env!("CARGO_BIN_EXE_kanonix"));
    let Ok(mut watcher) = watch.arg("watch").stdout(Stdio::null()).spawn() else { return };
    repo.write("a.py", "a = 1\n");
    std::thread::sleep(Duration::from_secs(1));
    let mut waits = Vec::new();
    for round in 0..ROUNDS * 4 {
        let begun = Instant::now();
        repo.write("a.py", format!("a={round}\n"));
        while !repo.read("a.py").contains(" = ") && begun.elapsed() < Duration::from_secs(5) {
            std::thread::sleep(Duration::from_millis(1));
        }
        waits.push(begun.elapsed());
    }
    println!("watch: from the save to the mended file {:.1?}, 40 ms of it waiting", median(waits));
    let _ = watcher.kill().and_then(|()| watcher.wait());
}

fn timed(work: impl FnOnce()) -> Duration {
    let begun = Instant::now();
    work();
    begun.elapsed()
}

fn median(mut times: Vec<Duration>) -> Duration {
    times.sort_unstable();
    times[times.len() / 2]
}

/// Inputs that nobody writes by hand, at two sizes: time should grow as the size does.
fn hostile() {
    println!();
    let brackets = |n: usize| format!("{}{}", "[".repeat(n), "]".repeat(n));
    let line = |n: usize| format!("[{}0]", "1234567, ".repeat(n / 9));
    let lines = |n: usize| "level = read(1, 2)\n".repeat(n);
    type Make<'a> = &'a dyn Fn(usize) -> String;
    let cases: [(&str, &str, Make, usize); 3] = [
        ("nested brackets", "javascript", &brackets, 100_000),
        ("bytes on one line", "json", &line, 10_000_000),
        ("lines", "python", &lines, 200_000),
    ];
    for (what, name, make, size) in cases {
        let language = languages::by_name(name).expect("a language that there is");
        let style = language.style();
        let time = |text: &str| {
            let start = Instant::now();
            std::hint::black_box(judge(text, language, &style, &LineSet::whole()).slips.len());
            start.elapsed()
        };
        let (half, full) = (time(&make(size / 2)), time(&make(size)));
        println!("{size:>10} {what:18} {full:>10.1?}  {:.1} times half as many", times(full, half));
    }
}

fn kanonix(folder: &Path) -> Command {
    let mut command = Command::new(env!("CARGO_BIN_EXE_kanonix"));
    command.current_dir(folder);
    command
}

fn run(command: &mut Command) -> usize {
    let done = command.stdout(Stdio::null()).stderr(Stdio::null()).status();
    done.map_or(0, |status| status.code().unwrap_or(0) as usize)
}

fn fastest<T>(work: impl Fn() -> T) -> Duration {
    let round = || {
        let start = Instant::now();
        std::hint::black_box(work());
        start.elapsed()
    };
    (0..ROUNDS).map(|_| round()).min().unwrap_or_default()
}

fn times(a: Duration, b: Duration) -> f64 {
    a.as_secs_f64() / b.as_secs_f64().max(1e-9)
}

fn percent(a: Duration, b: Duration) -> f64 {
    100.0 * times(a, b)
}

fn files(folder: &Path) -> Vec<PathBuf> {
    let walk = ignore::WalkBuilder::new(folder).standard_filters(false).hidden(true).build();
    walk.filter_map(|entry| Some(entry.ok()?.into_path())).filter(|path| path.is_file()).collect()
}

fn texts(folder: &Path, language: &Language) -> Vec<String> {
    let is_its = |path: &PathBuf| {
        let name = path.file_name().unwrap_or_default().to_string_lossy();
        languages::of_file(&name).is_some_and(|found| found.name == language.name)
    };
    let files = files(folder).into_iter().filter(is_its);
    files.filter_map(|path| std::fs::read_to_string(path).ok()).collect()
}
