//! What would be mended, as `git apply` takes it: in the tree for files, with `--cached` for what
//! is staged.

use crate::service::judging::Judgement;

pub(super) fn text(judgement: &Judgement) -> String {
    judgement.files.iter().filter_map(|file| file.patch.as_deref()).collect()
}
