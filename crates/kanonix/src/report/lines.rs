//! One slip a line, as compilers write: `path:line:column: setting: message`.

use crate::judging::Judgement;

pub(super) fn text(judgement: &Judgement) -> String {
    let mut out = String::new();
    for file in &judgement.files {
        let mut places: Vec<_> = file.slips.iter().chain(&file.faults).collect();
        places.sort_by_key(|place| (place.line, place.column));
        for place in places {
            let at = format!("{}:{}:{}", file.shown, place.line, place.column);
            out.push_str(&format!("{at}: {}: {}\n", place.setting, place.message));
        }
    }
    out
}
