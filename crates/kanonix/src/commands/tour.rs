//! `kanonix tour`: the whole job on a demo repository, step by step.

mod demo;

use crate::Status;
use crate::options::{BadOption, Color, Tour};
use crate::paint::Paint;
use crate::say::{outln, outpart};
use anyhow::{Context, bail};
use std::fs;
use std::io::Write;
use std::path::{Path, PathBuf};
use std::process::Command;

pub(crate) fn run(options: &Tour) -> anyhow::Result<Status> {
    let temporary;
    let folder = match &options.keep {
        Some(folder) => {
            let is_empty = folder.read_dir().map_or(true, |mut entries| entries.next().is_none());
            if !is_empty {
                let folder = folder.display();
                let message = format!("{folder} is not empty: the tour makes a folder of its own");
                bail!(BadOption(message));
            }
            folder.clone()
        }
        None => {
            temporary = tempfile::tempdir().context("no temporary folder can be made")?;
            temporary.path().join("tidewatch")
        }
    };
    fs::create_dir_all(&folder).with_context(|| format!("{} cannot be made", folder.display()))?;
    let folder = fs::canonicalize(&folder)?;
    let guide = Guide { folder, paint: Paint::new(Color::Auto), program: std::env::current_exe()? };
    guide.walk()?;
    if options.keep.is_some() {
        guide.say(&format!("The repository is yours now, in {}.", guide.folder.display()));
    }
    Ok(Status::Clean)
}

/// Shows each command and runs it for real.
struct Guide {
    folder: PathBuf,
    paint: Paint,
    program: PathBuf,
}

impl Guide {
    fn walk(&self) -> anyhow::Result<()> {
        self.title("1. A repository that is there already");
        self.say(
            "The tide office of Saltmarsh keeps its code in tidewatch: gauges, alarms, a dashboard \
             and reports, written by several people over the years.",
        );
        for (path, text) in demo::FILES {
            let path = self.folder.join(path);
            if let Some(folder) = path.parent() {
                fs::create_dir_all(folder)?;
            }
            fs::write(&path, text)?;
        }
        self.quietly(&["git", "init", "--quiet", "--initial-branch=main", "."])?;
        self.quietly(&["git", "add", "."])?;
        self.quietly(&["git", "commit", "--quiet", "-m", "What we have"])?;
        self.run(&["git", "ls-files"])?;

        self.title("2. The lead settles the canon");
        self.say("It proposes what the code mostly does already, so that it disturbs the least.");
        self.run(&["kanonix", "settle", "--write"])?;
        self.quietly(&["git", "add", "kanonix.toml"])?;
        self.run(&["git", "commit", "--quiet", "-m", "Agree on a canon"])?;

        self.title("3. A developer changes two lines of the oldest file");
        self.edit("gauges/calibrate.py", demo::OFFSET)?;
        self.edit("gauges/calibrate.py", demo::DRIFT)?;
        self.run(&["git", "diff", "--unified=0"])?;
        self.say("The file is full of older slips. Only the touched lines are judged:");
        self.run(&["kanonix", "check"])?;

        self.title("4. On save, only those lines are mended");
        self.say("They keep the two spaces of their neighbours: no touched line stands out.");
        self.run(&["kanonix", "mend", "gauges/calibrate.py"])?;
        self.run(&["git", "diff", "--unified=0"])?;
        self.quietly(&["git", "commit", "--quiet", "-am", "Round the offsets"])?;

        self.title("5. A commit is stopped, mended and accepted");
        self.run(&["kanonix", "gate", "install"])?;
        self.edit("alarms/siren.js", demo::WARN_EARLIER)?;
        self.run(&["git", "add", "alarms/siren.js"])?;
        self.run(&["git", "commit", "-m", "Warn earlier in a storm"])?;
        self.run(&["kanonix", "mend", "--staged"])?;
        self.run(&["git", "commit", "-m", "Warn earlier in a storm"])?;

        self.title("6. A page with a script and a style sheet in it");
        self.say(
            "Each is judged by its own language's part of the canon, and the page says where. White \
             space that shows is never added and never taken away.",
        );
        self.edit("site/tides.html", demo::NEXT_TIDE)?;
        self.edit("site/tides.html", demo::MARK_STORMS)?;
        self.run(&["kanonix", "check"])?;
        self.run(&["kanonix", "mend", "site/tides.html"])?;
        self.run(&["git", "diff", "--unified=0"])?;
        self.quietly(&["git", "commit", "--quiet", "-am", "Show the next tide"])?;

        self.title("7. A new method of the Java service, in a hurry");
        self.edit("service/TideService.java", demo::LOWEST)?;
        self.run(&["kanonix", "mend", "service/TideService.java"])?;
        self.run(&["git", "diff", "--unified=0"])?;
        self.quietly(&["git", "commit", "--quiet", "-am", "Say how low it was"])?;

        self.title("8. A branch from a clone without the gate is stopped on the build server");
        self.run(&["git", "switch", "--quiet", "-c", "quiet-hours"])?;
        self.edit("alarms/notify.js", demo::QUIET_HOURS)?;
        self.run(&["git", "commit", "--quiet", "--no-verify", "-am", "Let the keepers sleep"])?;
        self.run(&["kanonix", "gate", "merge", "--into", "main"])?;

        self.title("9. The same after mending");
        self.run(&["kanonix", "mend", "--since", "main"])?;
        self.run(&["git", "commit", "--quiet", "-am", "Follow the canon"])?;
        self.run(&["kanonix", "gate", "merge", "--into", "main"])?;
        self.run(&["git", "diff", "--unified=0", "main"])?;
        self.say("The rest of the file is as its author left it, and so is git blame.");
        self.say("A test script may ask as well: with nothing touched, that costs nothing.");
        self.run(&["kanonix", "check"])?;
        Ok(())
    }

    fn title(&self, text: &str) {
        outln!("\n{}\n", self.paint.strong(text));
    }

    fn say(&self, text: &str) {
        let mut column = 0;
        for word in text.split_whitespace() {
            if column + word.len() > 90 {
                outln!();
                column = 0;
            }
            let gap = if column > 0 { " " } else { "" };
            outpart!("{gap}{word}");
            column += gap.len() + word.len();
        }
        outln!("\n");
    }

    /// Replaces one stretch of a demo file, as somebody at an editor would.
    fn edit(&self, path: &str, (old, new): (&str, &str)) -> anyhow::Result<()> {
        let whole = self.folder.join(path);
        let text = fs::read_to_string(&whole)?;
        if !text.contains(old) {
            bail!("the demo file {path} has changed: {old:?} is not in it");
        }
        fs::write(&whole, text.replacen(old, new, 1))?;
        outln!("{}\n", self.paint.faint(&format!("({path} is edited)")));
        Ok(())
    }

    /// Shows a command, and lets it speak for itself.
    fn run(&self, words: &[&str]) -> anyhow::Result<()> {
        let shown: Vec<String> = words
            .iter()
            .map(|word| if word.contains(' ') { format!("\"{word}\"") } else { word.to_string() })
            .collect();
        outln!("{} {}", self.paint.good("$"), self.paint.strong(&shown.join(" ")));
        std::io::stdout().flush()?;
        let status = self.command(words).status();
        let status = status.with_context(|| format!("{} cannot be run", words[0]))?;
        if let Some(code) = status.code().filter(|code| *code != 0) {
            outln!("{}", self.paint.faint(&format!("(exit status {code})")));
        }
        outln!();
        Ok(())
    }

    fn quietly(&self, words: &[&str]) -> anyhow::Result<()> {
        let output = self.command(words).output();
        let output = output.with_context(|| format!("{} cannot be run", words[0]))?;
        if !output.status.success() {
            bail!("{}: {}", words.join(" "), String::from_utf8_lossy(&output.stderr).trim());
        }
        Ok(())
    }

    /// A command in the demo repository, away from anybody's own settings of git.
    fn command(&self, words: &[&str]) -> Command {
        let program = match words[0] {
            "kanonix" => self.program.as_path(),
            other => Path::new(other),
        };
        let mut command = Command::new(program);
        command.args(&words[1..]).current_dir(&self.folder);
        for (name, _) in std::env::vars_os() {
            if name.to_string_lossy().starts_with("GIT_") {
                command.env_remove(name);
            }
        }
        command
            .env("GIT_CONFIG_GLOBAL", "/dev/null")
            .env("GIT_CONFIG_NOSYSTEM", "1")
            .env("GIT_PAGER", "cat")
            .env("GIT_AUTHOR_NAME", "Tide Office")
            .env("GIT_AUTHOR_EMAIL", "office@saltmarsh.example")
            .env("GIT_COMMITTER_NAME", "Tide Office")
            .env("GIT_COMMITTER_EMAIL", "office@saltmarsh.example");
        command
    }
}
