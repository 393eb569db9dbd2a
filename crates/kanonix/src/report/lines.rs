//! One slip a line, as compilers write: `path:line:column: setting: message`.

use crate::service::judging::Judgement;
use kanonix_core::text::visible;

pub(super) fn text(judgement: &Judgement) -> String {
    let mut out = String::new();
    for file in &judgement.files {
        for place in file.places() {
            let at = format!("{}:{}:{}", visible(&file.shown), place.line, place.column);
            let message = visible(&place.message);
            out.push_str(&format!("{at}: {}: {message}\n", place.setting));
        }
    }
    out
}
