//! What both the commands and the editors' server stand on: judging a selection of files, mending
//! them, and one file's story. It knows neither of the two.

pub(crate) mod judging;
pub(crate) mod mending;
pub(crate) mod places;
mod progress;
pub(crate) mod story;

pub(crate) use progress::Progress;
