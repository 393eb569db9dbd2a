//! Every word of a canon that is no setting: what it takes and what it means.

use kanonix_core::style::BASES;

/// A word, by the whole path that leads to it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Word {
    /// `reach.save`.
    pub path: &'static str,
    /// What it takes.
    pub takes: &'static str,
    /// What it means.
    pub about: &'static str,
}

const fn word(path: &'static str, takes: &'static str, about: &'static str) -> Word {
    Word { path, takes, about }
}

/// All of them, in the order in which a canon is usually written.
pub const WORDS: [Word; 27] = [
    word("edition", "1", "The meaning of the settings that the canon was written for."),
    word("needs", "\">=0.1\"", "The oldest version of Kanonix that reads this canon rightly."),
    word(
        "editorconfig",
        "true, false",
        "Whether `.editorconfig` files are read, where this canon says nothing itself.",
    ),
    word("basis", "one name", "A well-known style that the canon starts from."),
    word("team", "a table", "The canon of other people that this one goes on from."),
    word(
        "team.follow",
        "a folder or the address of a git repository",
        "Where that canon is; a copy of it is kept beside this one.",
    ),
    word("team.at", "a tag or a commit", "Which version of it; without a word, its newest."),
    word("reach", "a table", "Which lines are looked at on which occasion."),
    word(
        "reach.save",
        "touched, whole, off",
        "On a save, and for `check` and `mend` without a word about it.",
    ),
    word(
        "reach.save_without_git",
        "off, whole",
        "On a save of a file that has no history to compare with.",
    ),
    word(
        "reach.save_reasons",
        "a list of manual, after_delay, focus_out",
        "Which saves mend, by what made the editor save.",
    ),
    word("reach.commit", "touched, whole, off", "At the commit gate."),
    word("reach.merge", "touched, whole, off", "At the merge gate."),
    word("reach.faults", "stop, pass", "Whether a touched stretch that does not parse stops."),
    word(
        "reach.long_lines",
        "stop, pass",
        "Whether a touched line stops that is too long and cannot be broken.",
    ),
    word(
        "reach.unreadable",
        "stop, pass",
        "Whether a touched file stops that cannot be read any more: it holds a zero byte, is not in \
         UTF-8, or is too large, and was not before. Without a word: at the merge gate it does.",
    ),
    word(
        "reach.new_keeps",
        "say, stop",
        "Whether a touched comment that asks for lines to be kept (`kanonix: keep`) is said, or \
         stops.",
    ),
    word("files", "a table", "Which files are looked at, and in which language."),
    word("files.skip", "a list of patterns", "Files and folders that are left alone."),
    word("files.largest", "a number of bytes", "Larger files are left alone."),
    word(
        "files.minified",
        "skip, format",
        "Whether files are laid out that hardly a person wrote: at least 1,000 bytes, four fifths of \
         them on lines longer than 400 bytes with a bracket or a separator in every 30. `skip` \
         leaves them alone, `format` does not.",
    ),
    word(
        "files.language",
        "a table of patterns, each with a language",
        "The language of files whose names do not say it.",
    ),
    word("style", "a table", "The settings, for every language and, in tables below, for one."),
    word("part", "a table for each part, as [[part]]", "Parts of the tree with their own word."),
    word("part.paths", "a list of patterns", "The files of the part."),
    word("part.reach", "as [reach], or one word", "Which of their lines are looked at."),
    word("part.style", "as [style]", "Their settings."),
];

/// The word at a path, if there is one: `save` and `[reach]` are understood as well.
pub fn word_at(asked: &str) -> Option<&'static Word> {
    let asked = asked.trim_matches(['[', ']']);
    let whole = WORDS.iter().find(|word| word.path == asked);
    whole.or_else(|| {
        WORDS.iter().find(|word| word.path.rsplit('.').next() == Some(asked))
    })
}

/// What a basis is, by its name.
pub fn bases() -> impl Iterator<Item = (&'static str, &'static str)> {
    BASES.iter().map(|basis| (basis.name, basis.about))
}

#[cfg(test)]
mod tests {
    use super::super::reading::{FILES, REACH, TOP};
    use super::*;

    #[test]
    fn every_word_that_is_read_is_explained() {
        let nested = |table: &'static str, keys: &'static [&'static str]| {
            keys.iter().map(move |key| format!("{table}.{key}"))
        };
        let top = TOP.iter().map(|key| key.to_string());
        for path in top.chain(nested("reach", &REACH)).chain(nested("files", &FILES)) {
            assert!(WORDS.iter().any(|word| word.path == path), "{path}");
        }
    }
}
