//! `kanonix` alone.

use crate::Status;
use crate::say::outpart;

const HELP: &str = "\
Kanonix: one agreed formatting style, mended only on the lines you touch

for the lead
    kanonix settle          survey the code, propose a canon; --write puts it in place
    kanonix gate install    stop commits whose lines depart from the canon

every day
    kanonix check           list the slips on the lines you touched
    kanonix mend            mend them, and nothing else
    kanonix undo            put back what the last mend changed
    kanonix explain         why a file or a line is treated so; what a setting does
    kanonix watch           mend files as any program saves them
    kanonix lsp             the server that editors start

at the gate
    kanonix gate commit     judge what is staged; git calls this
    kanonix gate merge --into main
                            judge what a branch changed; the build server calls this

    kanonix tour            the whole job on a demo repository
    kanonix COMMAND --help  every option of a command
";

/// Prints a short help.
pub(crate) fn run() -> anyhow::Result<Status> {
    outpart!("{HELP}");
    Ok(Status::Clean)
}
