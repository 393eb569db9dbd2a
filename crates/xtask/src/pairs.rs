//! Pairs of lines: every line that may end a statement before every line that may begin one. Whether that
//! is one statement or two nothing says but the language, and grammars get it wrong.

use crate::corpus::styles;
use crate::judges::Judges;
use anyhow::Context;
use kanonix_core::{languages, mend};
use kanonix_core::text::LineSet;
use serde::Deserialize;
use std::path::Path;

/// The lines, by language.
const LANGUAGES: [(&str, &str); 3] = [
    ("javascript", include_str!("pairs/javascript.toml")),
    ("typescript", include_str!("pairs/typescript.toml")),
    ("ruby", include_str!("pairs/ruby.toml")),
];

#[derive(Deserialize)]
struct Pairs {
    group: Vec<Group>,
}

/// Lines of one place in a program.
#[derive(Deserialize)]
struct Group {
    /// What stands around them, which stand where `{}` does.
    around: Vec<String>,
    ends: Vec<String>,
    begins: Vec<String>,
}

/// Mends every pair; whether all that can be judged is the same program.
pub fn run(canon: Option<&Path>, typescript: Option<&Path>, show: usize) -> anyhow::Result<bool> {
    let styles = styles(canon)?;
    let mut judges = Judges::start(typescript)?;
    let mut all_same = true;
    println!("{:12} {:>7} {:>10} {:>7}", "language", "same", "not judged", "differ");
    for (name, lines) in LANGUAGES {
        let language = languages::by_name(name).context("no such language")?;
        let pairs: Pairs = toml::from_str(lines)?;
        let [mut same, mut unread, mut differ] = [0usize; 3];
        for group in &pairs.group {
            for text in group.texts() {
                let mended = mend(&text, language, &styles[name], &LineSet::whole());
                let after = mended.map_or(text.clone(), |mended| mended.text);
                match judges.ask(name, language.suffixes[0], [&text, &after])?.as_str() {
                    "same" => same += 1,
                    "unread" | "unjudged" => unread += 1,
                    said => {
                        differ += 1;
                        if differ <= show {
                            println!("{said}\n{text}became\n{after}");
                        }
                    }
                }
            }
        }
        println!("{name:12} {same:>7} {unread:>10} {differ:>7}");
        all_same &= differ == 0;
    }
    Ok(all_same)
}

impl Group {
    fn texts(&self) -> impl Iterator<Item = String> {
        self.around.iter().flat_map(move |around| {
            self.ends.iter().flat_map(move |end| {
                let pair = move |begin| around.replace("{}", &format!("{end}\n{begin}"));
                self.begins.iter().map(pair)
            })
        })
    }
}
