//! What an editor's server sees: for whoever asks why nothing happens on a save.

use crate::Status;
use crate::options::Explain;
use crate::paint::Paint;
use crate::say::{outln, outpart};
use crate::server::record::{Record, Wrong, records};
use kanonix_core::text::{visible, visible_lines};
use kanonix_repo::canon::{self, Canons};
use kanonix_repo::git::{Repository, program_version};
use serde::Serialize;
use std::path::{Path, PathBuf};

/// So many servers are told of.
const MOST_SERVERS: usize = 3;

#[derive(Serialize)]
struct Server {
    #[serde(flatten)]
    record: Record,
    running: bool,
}

#[derive(Serialize)]
struct Report {
    version: &'static str,
    program: PathBuf,
    root: PathBuf,
    in_repository: bool,
    /// The canons that are at the root.
    canon: Vec<PathBuf>,
    /// What is wrong with them.
    canon_problem: Option<String>,
    git: String,
    /// Those that serve this repository, or a folder that it is in.
    servers: Vec<Server>,
    /// How many others run.
    servers_elsewhere: usize,
}

pub(super) fn run(here: &Path, options: &Explain) -> anyhow::Result<Status> {
    let repository = Repository::find(here);
    let root = match &repository {
        Ok(Some(repository)) => repository.root.clone(),
        _ => here.to_path_buf(),
    };
    let (own, elsewhere): (Vec<Record>, Vec<Record>) = records().into_iter().partition(|record| {
        record.roots.iter().any(|served| served.starts_with(&root) || root.starts_with(served))
    });
    let governing = Canons::on_disk(&root).governing(&root.join("any"));
    let report = Report {
        version: env!("CARGO_PKG_VERSION"),
        program: std::env::current_exe().unwrap_or_default(),
        in_repository: matches!(repository, Ok(Some(_))),
        canon: governing.as_ref().map(canon::Governing::files).unwrap_or_default(),
        canon_problem: governing.err().map(|error| error.to_string()),
        git: match &repository {
            Err(error) => error.to_string(),
            Ok(_) => program_version().unwrap_or_else(|error| error.to_string()),
        },
        root,
        servers: own
            .into_iter()
            .take(MOST_SERVERS)
            .map(|record| Server { running: record.runs(), record })
            .collect(),
        servers_elsewhere: elsewhere.iter().filter(|record| record.runs()).count(),
    };
    if options.is_json() {
        outln!("{}", serde_json::to_string_pretty(&report)?);
    } else {
        outpart!("{}", text(&report, Paint::new(options.color)));
    }
    Ok(Status::Clean)
}

fn text(report: &Report, paint: Paint) -> String {
    let mut out = format!("{}\n", paint.strong("what an editor's server sees from here"));
    let mut row = |name: &str, value: &str| {
        out.push_str(&format!("  {}  {value}\n", paint.faint(&format!("{name:8}"))));
    };
    row("version", &format!("{} ({})", report.version, report.program.display()));
    let kind = match report.in_repository {
        true => "a git repository",
        false => "in no git repository: a save mends only where save_without_git says `whole`",
    };
    row("root", &format!("{}, {kind}", visible(&report.root.display().to_string())));
    let files: Vec<String> = report
        .canon
        .iter()
        .map(|path| visible(&path.display().to_string()).into_owned())
        .collect();
    match &report.canon_problem {
        Some(problem) => row(
            "canon",
            &format!("wrong, so nothing is mended: {}", visible_lines(problem)),
        ),
        None if files.is_empty() => row("canon", "none: what the language's community expects"),
        None => row("canon", &files.join(", ")),
    }
    row("git", &visible(&report.git));
    if report.servers.is_empty() {
        out.push_str("\nno editor has started `kanonix lsp` for this folder in the last week\n");
    }
    for Server { record, running } in &report.servers {
        let state = if *running { paint.good("runs") } else { paint.faint("has ended") };
        out.push_str(&format!(
            "\n{} for {}, process {}, started {}: {state}\n",
            paint.strong("kanonix lsp"),
            visible(&record.client),
            record.process,
            crate::report::ago(record.since),
        ));
        let roots: Vec<String> = record
            .roots
            .iter()
            .map(|root| visible(&root.display().to_string()).into_owned())
            .collect();
        let roots = if roots.is_empty() { "none".to_string() } else { roots.join(", ") };
        out.push_str(&format!("  {}  {roots}\n", paint.faint("roots   ")));
        let version = format!("{}, places in {}", record.version, record.position_encoding);
        out.push_str(&format!("  {}  {version}\n", paint.faint("version ")));
        match record.last_errors.as_slice() {
            [] => out.push_str(&format!("  {}  none\n", paint.faint("errors  "))),
            errors => {
                out.push_str(&format!("  {}\n", paint.faint("errors")));
                for Wrong { when, message } in errors {
                    let message = visible_lines(message).replace('\n', "\n      ");
                    out.push_str(&format!("    {}  {message}\n", crate::report::ago(*when)));
                }
            }
        }
    }
    match report.servers_elsewhere {
        0 => {}
        1 => out.push_str("\n1 more server runs for other folders\n"),
        more => out.push_str(&format!("\n{more} more servers run for other folders\n")),
    }
    out
}
