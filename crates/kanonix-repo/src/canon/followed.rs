//! A canon that is agreed elsewhere: `[team] follow` names it, and a copy of it stands beside the
//! repository's own, so that every clone and the build server judge alike and offline.
//!
//! The copy is the followed canon's own text behind a few lines of comment that say where it came
//! from and what it summed up to.

use sha2::{Digest, Sha256};
use std::path::{Path, PathBuf};

/// Where the copy stands, from the folder of the canon that follows.
pub const PATH: &str = ".kanonix/followed.toml";

/// What a canon follows.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Team {
    /// The folder or the address of the repository whose canon is followed.
    pub follow: String,
    /// The tag, branch or commit; without one, whatever its HEAD is.
    pub at: Option<String>,
    /// The bytes of the canon that say so.
    pub(super) span: std::ops::Range<usize>,
}

/// A copy, as it is kept.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Followed {
    /// As in [`Team::follow`].
    pub from: String,
    /// As in [`Team::at`].
    pub at: Option<String>,
    /// The commit that it was taken from.
    pub commit: String,
    /// The canon's own text.
    pub text: String,
}

const FIRST: &str = "# A copy: `kanonix settle --follow` made it. Do not edit it; change the canon \
                     that it is of.";

impl Followed {
    /// The copy's whole text.
    pub fn write(&self) -> String {
        let at = self.at.as_deref().unwrap_or("HEAD");
        format!(
            "{FIRST}\n# from: {}\n# at: {at}\n# commit: {}\n# sum: {}\n{}",
            self.from,
            self.commit,
            sum(&self.text),
            self.text
        )
    }

    /// Reads a copy; `None` if it is not as it was made.
    pub fn read(text: &str) -> Option<Followed> {
        let mut lines = text.splitn(6, '\n');
        let mut next = |name: &str| lines.next()?.trim_end_matches('\r').strip_prefix(name);
        next(FIRST)?;
        let (from, at) = (next("# from: ")?, next("# at: ")?);
        let (commit, written) = (next("# commit: ")?, next("# sum: ")?);
        let text = lines.next()?.to_string();
        (sum(&text) == written).then(|| Followed {
            from: from.into(),
            at: (at != "HEAD").then(|| at.into()),
            commit: commit.into(),
            text,
        })
    }

    /// Where the copy of a canon in this folder stands.
    pub fn path(folder: &Path) -> PathBuf {
        folder.join(PATH)
    }
}

/// The sum of a canon's text, line ends aside: git may convert them on the way.
fn sum(text: &str) -> String {
    let digest = Sha256::digest(text.replace("\r\n", "\n").as_bytes());
    digest.iter().map(|byte| format!("{byte:02x}")).collect()
}
