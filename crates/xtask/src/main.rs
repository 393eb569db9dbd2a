//! The workshop: what the people who build Kanonix run.

mod churn;
mod corpus;
mod docs;
mod fuzz;
mod git;
mod hurry;
mod judges;
mod moved;
mod mutate;
mod pairs;
mod pixels;
mod spoil;
mod touch;
mod witness;

use clap::{Parser, Subcommand};
use std::path::PathBuf;
use std::process::ExitCode;

#[derive(Parser)]
#[command(about = "The workshop: properties on real code, benches, documentation")]
struct Options {
    #[command(subcommand)]
    task: Task,
}

#[derive(Subcommand)]
enum Task {
    /// Runs the engine's properties over every file of a folder
    Corpus {
        /// The folder
        dir: PathBuf,
        /// Only files in this language
        #[arg(long)]
        language: Option<String>,
        /// A canon to judge by, in place of each language's defaults
        #[arg(long)]
        canon: Option<PathBuf>,
        /// Where the choices start from: another number tries other edits of the same files
        #[arg(long, default_value_t = 0)]
        seed: u64,
        /// How many failures of each property are shown
        #[arg(long, default_value_t = 3)]
        show: usize,
        /// Lists the constructs that no rule knows, by their first line
        #[arg(long)]
        kept: bool,
    },
    /// Tries changed texts under chosen canons, for a while
    Fuzz {
        /// The folder of code that is changed
        dir: PathBuf,
        /// For how long
        #[arg(long, default_value_t = 10)]
        seconds: u64,
        /// Where the choices start from; the same seed makes the same ones
        #[arg(long, default_value_t = 1)]
        seed: u64,
        /// The folder for the texts on which something does not hold
        #[arg(long, default_value = "target/finds")]
        finds: PathBuf,
        /// How many finds are shown
        #[arg(long, default_value_t = 5)]
        show: usize,
    },
    /// Moves and breaks lines where that means nothing, mends, and asks other readers
    Spoil {
        /// The folder of code
        dir: PathBuf,
        /// A canon to mend by, in place of each language's defaults
        #[arg(long)]
        canon: Option<PathBuf>,
        /// The folder in which node finds the TypeScript compiler
        #[arg(long)]
        typescript: Option<PathBuf>,
        /// Where the choices start from
        #[arg(long, default_value_t = 1)]
        seed: u64,
        /// How many differences are shown
        #[arg(long, default_value_t = 5)]
        show: usize,
    },
    /// Mends every line that may end a statement before every line that may begin one, and asks other
    /// readers
    Pairs {
        /// A canon to mend by, in place of each language's defaults
        #[arg(long)]
        canon: Option<PathBuf>,
        /// The folder in which node finds the TypeScript compiler
        #[arg(long)]
        typescript: Option<PathBuf>,
        /// How many differences are shown
        #[arg(long, default_value_t = 5)]
        show: usize,
    },
    /// Touches one element of one list in each file: in how many would other lines change?
    Touch {
        /// The folder of code
        dir: PathBuf,
        /// A canon to judge by, in place of each language's defaults
        #[arg(long)]
        canon: Option<PathBuf>,
        /// Where the choices start from
        #[arg(long, default_value_t = 1)]
        seed: u64,
        /// How many changes to other lines are shown
        #[arg(long, default_value_t = 5)]
        show: usize,
    },
    /// Types files in a hurry, mends them, and prints what their authors' breaks make otherwise
    Hurry {
        /// The folder of code
        dir: PathBuf,
        /// The language
        language: String,
        /// A canon to mend by, in place of the language's defaults
        #[arg(long)]
        canon: Option<PathBuf>,
        /// Where the choices start from
        #[arg(long, default_value_t = 1)]
        seed: u64,
        /// How many files
        #[arg(long, default_value_t = 8)]
        count: usize,
        /// Prints what was typed, too
        #[arg(long)]
        typed: bool,
    },
    /// Settles a canon for each package under a folder, and counts the lines that it would change
    Churn {
        /// The folder; its folders are the packages
        dir: PathBuf,
        /// Only this language
        #[arg(long)]
        language: Option<String>,
        /// Settles nothing: judges by what each language's community expects
        #[arg(long)]
        usual: bool,
        /// How many examples of each kind of change are shown
        #[arg(long, default_value_t = 2)]
        show: usize,
        /// Prints the whole change of every package as a diff
        #[arg(long)]
        diff: bool,
    },
    /// Lays the samples, and a folder, out with the program of a revision and with today's
    Moved {
        /// The revision
        revision: String,
        /// A folder of code
        dir: Option<PathBuf>,
        /// A canon to mend by, in place of each language's defaults
        #[arg(long)]
        canon: Option<PathBuf>,
        /// How many files that differ are shown
        #[arg(long, default_value_t = 5)]
        show: usize,
    },
    /// Draws pages in a browser before and after a mend: is a pixel drawn otherwise?
    Pixels {
        /// The folder of pages
        dir: PathBuf,
        /// A canon to mend by, in place of what the community expects
        #[arg(long)]
        canon: Option<PathBuf>,
        /// How many pages are drawn
        #[arg(long, default_value_t = 40)]
        count: usize,
        /// The browser's program
        #[arg(long, default_value = "chromium")]
        browser: String,
    },
    /// Makes small mistakes in the core, one at a time: does a test notice?
    Mutate {
        /// For how long
        #[arg(long, default_value_t = 600)]
        seconds: u64,
        /// Where the choices start from; the same seed makes the same ones
        #[arg(long, default_value_t = 1)]
        seed: u64,
        /// The folder that the tests are built in
        #[arg(long, default_value = "target/mutate")]
        target: PathBuf,
    },
    /// Writes docs/settings.md from the registry; with --check, only says whether it is current
    Docs {
        /// Changes nothing; fails if the page is not current
        #[arg(long)]
        check: bool,
    },
}

fn main() -> anyhow::Result<ExitCode> {
    let ok = match Options::parse().task {
        Task::Corpus { dir, language, canon, seed, show, kept } => {
            corpus::run(&dir, language.as_deref(), canon.as_deref(), seed, (show, kept))?
        }
        Task::Fuzz { dir, seconds, seed, finds, show } => {
            fuzz::run(&dir, seconds, seed, &finds, show)?
        }
        Task::Spoil { dir, canon, typescript, seed, show } => {
            spoil::run(&dir, canon.as_deref(), typescript.as_deref(), seed, show)?
        }
        Task::Pairs { canon, typescript, show } => {
            pairs::run(canon.as_deref(), typescript.as_deref(), show)?
        }
        Task::Touch { dir, canon, seed, show } => touch::run(&dir, canon.as_deref(), seed, show)?,
        Task::Hurry { dir, language, canon, seed, count, typed } => {
            hurry::run(&dir, &language, canon.as_deref(), seed, count, typed)?
        }
        Task::Churn { dir, language, usual, show, diff } => {
            churn::run(&dir, language.as_deref(), usual, show, diff)?
        }
        Task::Moved { revision, dir, canon, show } => {
            moved::run(&revision, dir.as_deref(), canon.as_deref(), show)?;
            true
        }
        Task::Pixels { dir, canon, count, browser } => {
            pixels::run(&dir, canon.as_deref(), count, &browser)?
        }
        Task::Mutate { seconds, seed, target } => {
            mutate::run(seconds, seed, &std::path::absolute(target)?)?
        }
        Task::Docs { check } => docs::run(check)?,
    };
    Ok(if ok { ExitCode::SUCCESS } else { ExitCode::FAILURE })
}
