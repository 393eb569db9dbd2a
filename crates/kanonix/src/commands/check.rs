//! `kanonix check`: lists slips, changes nothing.

use super::{as_arguments, here, reach_in_words, say_if_not_agreed, wishes};
use crate::Status;
use crate::service::judging::judge_items;
use crate::options::Check;
use crate::report::{self, Frame};
use kanonix_repo::work::select;

pub(crate) fn run(options: &Check) -> anyhow::Result<Status> {
    let reach = options.reach.reach();
    let selection = select(&here()?, &options.paths, &reach)?;
    say_if_not_agreed(&selection, &options.voice);
    let judgement = judge_items(&selection, wishes(&options.report, true));
    let (words, again) = reach_in_words(&reach, selection.repository.is_some());
    let mend = format!("kanonix mend{again}{}", as_arguments(&options.paths));
    let frame = Frame { reach: &words, headline: None, mend: &mend, rest: None, merge: None };
    report::write(&judgement, &frame, &options.report, &options.voice)?;
    Ok(judgement.status())
}
