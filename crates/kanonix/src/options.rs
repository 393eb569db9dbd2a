//! What can be written behind `kanonix`.

use clap::{Args, Parser, Subcommand, ValueEnum};
use kanonix_repo::work::Reach;
use std::ops::Range;
use std::path::PathBuf;
use std::str::FromStr;

#[derive(Parser)]
#[command(name = "kanonix", version, about, disable_help_subcommand = true)]
pub(crate) struct Options {
    #[command(subcommand)]
    pub command: Option<Command>,
}

#[derive(Subcommand)]
pub(crate) enum Command {
    /// Surveys the code that is there and proposes the canon that disturbs it least
    Settle(Settle),
    /// Lists the places that depart from the canon; changes nothing
    Check(Check),
    /// Rewrites the places that depart from the canon
    Mend(Mend),
    /// Puts back what the last mend changed
    Undo(Undo),
    /// Says why a file or a line is treated so, and what a setting does
    Explain(Explain),
    /// Mends files as they are saved, for editors without the protocol
    Watch(Watch),
    /// The Language Server Protocol on standard input and output, for editors
    Lsp(Lsp),
    /// The gates: where a commit or a merge is stopped
    Gate(Gate),
    /// The whole job on a demo repository, step by step
    Tour(Tour),
    /// Prints a short help, or all options of a command
    Help(Help),
}

impl Command {
    /// Whether a hook of git may call this, or a server that has no working tree: what git tells a
    /// hook counts then, and which repository the surroundings name.
    pub fn may_be_told(&self) -> bool {
        match self {
            Command::Check(options) => options.reach.staged || options.reach.since.is_some(),
            Command::Mend(options) => options.reach.staged,
            Command::Gate(options) => {
                matches!(options.gate, GateCommand::Commit(_) | GateCommand::Merge(_))
            }
            _ => false,
        }
    }
}

/// Which lines are in play.
#[derive(Args, Clone, Debug)]
#[group(multiple = false)]
pub(crate) struct ReachOptions {
    /// Lines staged for the next commit; the staged contents, not the files
    #[arg(long)]
    pub staged: bool,
    /// Lines touched since the branch left this revision
    #[arg(long, value_name = "REV")]
    pub since: Option<String>,
    /// These lines of the one named file
    #[arg(long, value_name = "A-B,…", value_delimiter = ',', value_parser = line_range)]
    pub lines: Vec<Range<usize>>,
    /// All lines
    #[arg(long)]
    pub whole: bool,
}

impl ReachOptions {
    pub fn reach(&self) -> Reach {
        if self.staged {
            Reach::Staged
        } else if let Some(revision) = &self.since {
            Reach::Since(revision.clone())
        } else if !self.lines.is_empty() {
            Reach::Lines(self.lines.clone())
        } else if self.whole {
            Reach::Whole
        } else {
            Reach::Save
        }
    }
}

/// `A-B` or `A`, one-based and both included, as a zero-based half-open range.
fn line_range(text: &str) -> Result<Range<usize>, String> {
    let (from, to) = text.split_once('-').unwrap_or((text, text));
    match (from.trim().parse::<usize>(), to.trim().parse::<usize>()) {
        (Ok(from), Ok(to)) if from >= 1 && from <= to => Ok(from - 1..to),
        _ => Err(format!("`{text}` is no range of lines: write 14-20, or 14; the first line is 1")),
    }
}

#[derive(Args, Clone, Debug)]
pub(crate) struct Voice {
    /// Says nothing that is not a problem
    #[arg(long)]
    pub quiet: bool,
    /// Whether to paint
    #[arg(long, value_enum, default_value_t = Color::Auto)]
    pub color: Color,
}

#[derive(Clone, Copy, Debug, PartialEq, Eq, ValueEnum)]
pub(crate) enum Color {
    Auto,
    Always,
    Never,
}

#[derive(Args)]
pub(crate) struct Check {
    /// Files or folders; without any, all that the reach can name
    pub paths: Vec<PathBuf>,
    #[command(flatten)]
    pub reach: ReachOptions,
    /// How the verdict is written, repeatable: lines, json, sarif, junit, markdown, patch, each
    /// with =FILE if not to the standard output
    #[arg(long, value_name = "KIND[=FILE]")]
    pub report: Vec<ReportOption>,
    #[command(flatten)]
    pub voice: Voice,
}

#[derive(Args)]
pub(crate) struct Mend {
    /// Files or folders; without any, all that the reach can name
    pub paths: Vec<PathBuf>,
    #[command(flatten)]
    pub reach: ReachOptions,
    /// Prints the change as a unified diff and writes nothing
    #[arg(long)]
    pub dry_run: bool,
    /// Refuses to write, with --whole, where files have changes that are not committed
    #[arg(long, requires = "whole")]
    pub committed: bool,
    /// Reads the text on standard input as if it were PATH, writes the result to standard output
    #[arg(long, value_name = "PATH", conflicts_with_all = ["paths", "dry_run", "staged"])]
    pub stdin: Option<PathBuf>,
    /// Also writes the slips that are mended: lines, json, sarif, junit, markdown, patch, each with
    /// =FILE if not to the standard output
    #[arg(long, value_name = "KIND[=FILE]", conflicts_with = "stdin")]
    pub report: Vec<ReportOption>,
    #[command(flatten)]
    pub voice: Voice,
}

impl Mend {
    /// `mend --staged`.
    pub fn staged(voice: Voice) -> Mend {
        Mend {
            paths: Vec::new(),
            reach: ReachOptions { staged: true, since: None, lines: Vec::new(), whole: false },
            dry_run: false,
            committed: false,
            stdin: None,
            report: Vec::new(),
            voice,
        }
    }
}

#[derive(Args)]
pub(crate) struct Settle {
    /// The folder that is surveyed; without one, the whole repository
    pub path: Option<PathBuf>,
    /// Writes: the proposal to kanonix.toml at the repository's root, or into the one that is there
    #[arg(long)]
    pub write: bool,
    /// What would this value change? Several at once make a table
    #[arg(long, value_name = "NAME=VALUE", conflicts_with_all = ["set", "follow", "refresh"])]
    pub price: Vec<String>,
    /// Changes a value in the canon that is there, with --write
    #[arg(long, value_name = "NAME=VALUE", conflicts_with_all = ["follow", "refresh"])]
    pub set: Vec<String>,
    /// Fetches the canon that [team] follows, and keeps a copy beside our own
    #[arg(long, conflicts_with = "refresh")]
    pub follow: bool,
    /// Fetches it again and says what would change; takes it with --write
    #[arg(long)]
    pub refresh: bool,
    /// Prints the JSON Schema of kanonix.toml
    #[arg(long)]
    pub schema: bool,
    #[command(flatten)]
    pub voice: Voice,
}

#[derive(Args)]
pub(crate) struct Undo {
    /// Lists what can be put back, the last run first
    #[arg(long)]
    pub list: bool,
    /// Whether to paint
    #[arg(long, value_enum, default_value_t = Color::Auto)]
    pub color: Color,
}

#[derive(Args)]
pub(crate) struct Explain {
    /// A file, PATH:LINE, a setting, or any other word of the canon; without it, all of them
    #[arg(value_name = "PATH[:LINE]|WORD")]
    pub what: Option<String>,
    /// What the editors' servers of this repository see: version, root, canon, git, last errors
    #[arg(long, conflicts_with = "what")]
    pub editor: bool,
    /// How it is written: text, json
    #[arg(long, value_name = "KIND", default_value = "text", value_parser = ["text", "json"])]
    pub report: String,
    /// Whether to paint
    #[arg(long, value_enum, default_value_t = Color::Auto)]
    pub color: Color,
}

impl Explain {
    /// Whether it is for a program.
    pub fn is_json(&self) -> bool {
        self.report == "json"
    }
}

#[derive(Args)]
pub(crate) struct Help {
    /// The command
    pub command: Option<String>,
}

#[derive(Args)]
pub(crate) struct Watch {
    /// The folder that is watched; without one, the whole repository
    pub path: Option<PathBuf>,
    #[command(flatten)]
    pub voice: Voice,
}

#[derive(Args)]
pub(crate) struct Lsp {
    /// Says that the standard input and output are used, as some clients do; it is so in any case
    #[arg(long)]
    pub stdio: bool,
}

#[derive(Args)]
pub(crate) struct Gate {
    #[command(subcommand)]
    pub gate: GateCommand,
}

#[derive(Subcommand)]
pub(crate) enum GateCommand {
    /// Puts the commit gate into this repository's hooks
    Install(GateInstall),
    /// Takes it out again
    Remove,
    /// Says what is installed where, and whether a commit would be stopped now; 0 if the gate is
    /// current here, 1 if not
    Status(GateStatus),
    /// Judges what is staged; git calls this
    Commit(GateCommit),
    /// Judges what the branch changed since it left a revision
    Merge(GateMerge),
}

#[derive(Args)]
pub(crate) struct GateInstall {
    /// Mends what is staged, and stops only what is left
    #[arg(long)]
    pub mend: bool,
    /// Into a folder of the tree, for every clone to use
    #[arg(long)]
    pub shared: bool,
    /// Lets commits through, unjudged, where the program is missing
    #[arg(long)]
    pub pass_without: bool,
}

#[derive(Args)]
pub(crate) struct GateStatus {
    /// How it is written: text, json
    #[arg(long, value_name = "KIND", default_value = "text", value_parser = ["text", "json"])]
    pub report: String,
}

#[derive(Args)]
pub(crate) struct GateCommit {
    /// Mends what is staged first
    #[arg(long)]
    pub mend: bool,
    #[command(flatten)]
    pub rest: GateReport,
}

#[derive(Args)]
pub(crate) struct GateReport {
    /// How the verdict is written, repeatable: lines, json, sarif, junit, markdown, patch, each
    /// with =FILE if not to the standard output
    #[arg(long, value_name = "KIND[=FILE]")]
    pub report: Vec<ReportOption>,
    #[command(flatten)]
    pub voice: Voice,
}

#[derive(Args)]
pub(crate) struct GateMerge {
    /// The revision that the branch is to be merged into; without one, what the build server names
    /// in the environment, or the remote's default branch
    #[arg(long, value_name = "REV")]
    pub into: Option<String>,
    /// Whose canon judges: that of what the branch is merged into, or the branch's own
    #[arg(long, value_name = "SIDE", default_value = "target", value_parser = ["target", "branch"])]
    pub canon_of: String,
    #[command(flatten)]
    pub rest: GateReport,
}

#[derive(Args)]
pub(crate) struct Tour {
    /// Leaves the demo repository in this folder, which must be new or empty
    #[arg(long, value_name = "DIR")]
    pub keep: Option<PathBuf>,
}

/// An option that is wrong for a reason that only shows in the work.
#[derive(Debug)]
pub(crate) struct BadOption(pub String);

impl std::fmt::Display for BadOption {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.0)
    }
}

impl std::error::Error for BadOption {}

/// What a report is written as.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum ReportKind {
    Lines,
    Json,
    Sarif,
    Junit,
    Markdown,
    Patch,
}

impl ReportKind {
    /// Each with the word that asks for it.
    const ALL: [(&'static str, ReportKind); 6] = [
        ("lines", ReportKind::Lines),
        ("json", ReportKind::Json),
        ("sarif", ReportKind::Sarif),
        ("junit", ReportKind::Junit),
        ("markdown", ReportKind::Markdown),
        ("patch", ReportKind::Patch),
    ];
}

/// `KIND` or `KIND=FILE`.
#[derive(Clone, Debug)]
pub(crate) struct ReportOption {
    pub kind: ReportKind,
    pub file: Option<PathBuf>,
}

impl FromStr for ReportOption {
    type Err = BadOption;

    fn from_str(text: &str) -> Result<ReportOption, BadOption> {
        let (kind, file) = match text.split_once('=') {
            Some((kind, file)) => (kind, Some(PathBuf::from(file))),
            None => (text, None),
        };
        match ReportKind::ALL.iter().find(|(word, _)| *word == kind) {
            Some((_, kind)) => Ok(ReportOption { kind: *kind, file }),
            None => {
                let words = ReportKind::ALL.map(|(word, _)| word).join(", ");
                Err(BadOption(format!("there is no report `{kind}`: write one of {words}")))
            }
        }
    }
}

impl ReportOption {
    /// Whether it is written to the standard output.
    pub fn takes_output(&self) -> bool {
        self.file.is_none()
    }
}
