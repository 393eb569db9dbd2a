//! One slip a line, as compilers write: `path:line:column: setting: message`.

use crate::service::judging::{Judged, Judgement};
use kanonix_core::text::visible;

pub(super) fn text(judgement: &Judgement) -> String {
    judgement.files.iter().map(of).collect()
}

/// What is said of one file.
pub(super) fn of(file: &Judged) -> String {
    let line = |place: &crate::service::places::Place| {
        let at = format!("{}:{}:{}", visible(&file.shown), place.line, place.column);
        format!("{at}: {}: {}\n", place.setting, visible(&place.message))
    };
    file.places().into_iter().map(line).collect()
}
