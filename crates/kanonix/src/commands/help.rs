//! `kanonix` alone.

use crate::Status;
use crate::options::{BadOption, Options};
use crate::say::outpart;
use clap::CommandFactory;

const HELP: &str = "\
Kanonix: one agreed formatting style, mended only on the lines you touch

for the lead
    kanonix settle          survey the code, propose a canon; --write takes it
    kanonix gate install    stop commits whose lines depart from the canon

every day
    kanonix check           list the slips on the lines you touched
    kanonix mend            mend them, and nothing else
    kanonix undo            put back what the last mend changed
    kanonix explain         why a line is treated so; what a setting does
    kanonix watch           mend files as any program saves them
    kanonix lsp             the server that editors start

at the gate
    kanonix gate commit     judge what is staged; git calls this
    kanonix gate merge --into main
                            judge what a branch changed, on the build server

    kanonix tour            the whole job on a demo repository
    kanonix help COMMAND    every option of a command

words
    canon    what is agreed: kanonix.toml at the top of the repository
    settle   to agree on it
    slip     a place that departs from the canon
    reach    which lines are looked at: those touched since the last commit,
             unless you name others
    fault    a stretch that does not parse; it stays as it is
";

/// Prints a short help, or that of a command.
pub(crate) fn run(command: Option<&str>) -> anyhow::Result<Status> {
    let Some(name) = command else {
        outpart!("{HELP}");
        return Ok(Status::Clean);
    };
    let mut all = Options::command();
    all.build();
    let Some(found) = all.find_subcommand_mut(name) else {
        let message = format!("there is no command `{name}`; see them all with: kanonix help");
        return Err(BadOption(message).into());
    };
    outpart!("{}", found.render_help());
    Ok(Status::Clean)
}
