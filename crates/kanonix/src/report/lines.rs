//! One slip a line, as compilers write: `path:line:column: setting: message`.

use crate::judging::Judgement;

pub(super) fn text(judgement: &Judgement) -> String {
    let mut out = String::new();
    for file in &judgement.files {
        for place in file.places() {
            let at = format!("{}:{}:{}", file.shown, place.line, place.column);
            out.push_str(&format!("{at}: {}: {}\n", place.setting, place.message));
        }
    }
    out
}
