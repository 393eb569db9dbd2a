//! How a language writes comments.

/// The marks of a language's comments.
#[derive(Debug, PartialEq, Eq)]
pub struct Comments {
    /// What begins a comment that ends with its line.
    pub line: &'static [&'static str],
    /// What opens a comment and what closes it.
    pub blocks: &'static [(&'static str, &'static str)],
    /// What begins a comment that is one at the very beginning of a line alone: it stays there.
    pub at_margin: Option<&'static str>,
    /// Words right behind the mark of a line that a program reads, in either case: it is no comment's text.
    pub told: &'static [&'static str],
    /// What each later line of such a comment may begin with; its lines move together then.
    pub gutter: Option<&'static str>,
    /// Whether a comment with an end of its own that touches what it stands behind does so by choice.
    pub touching: bool,
}

impl Comments {
    /// None at all.
    pub const NONE: Comments = Comments {
        line: &[],
        blocks: &[],
        at_margin: None,
        told: &[],
        gutter: None,
        touching: false,
    };

    /// `// why` and `/* why */`, the lines of which may begin with a star.
    pub const SLASHES: Comments =
        Comments { line: &["//"], blocks: &[("/*", "*/")], gutter: Some("*"), ..Comments::NONE };

    /// `# why`.
    pub const HASH: Comments = Comments { line: &["#"], ..Comments::NONE };

    /// Whether what stands behind a line's mark is read by a program.
    pub fn is_told(&self, rest: &str) -> bool {
        let word = rest.split(|c: char| !c.is_alphanumeric()).next().unwrap_or_default();
        self.told.iter().any(|told| told.eq_ignore_ascii_case(word))
    }

    /// What closes a comment that begins like this, if anything but the end of its line does.
    pub fn closer(&self, comment: &str) -> Option<&'static str> {
        let opens = |(open, _): &&(&str, &str)| comment.starts_with(open);
        self.blocks.iter().find(opens).map(|(_, close)| *close)
    }

    /// Whether such a comment has no end: a grammar may read it up to the end of the text.
    pub fn is_open(&self, comment: &str) -> bool {
        let open = self.blocks.iter().find(|(open, _)| comment.starts_with(open));
        open.is_some_and(|(open, close)| {
            comment.len() < open.len() + close.len() || !comment.ends_with(close)
        })
    }

    /// Whether every later line of a comment begins with the gutter's mark.
    pub fn has_gutter(&self, comment: &str) -> bool {
        let Some(gutter) = self.gutter.filter(|_| self.closer(comment).is_some()) else {
            return false;
        };
        let mut later = comment.lines().skip(1);
        later.all(|line| line.trim_start_matches([' ', '\t']).starts_with(gutter))
    }

    /// Whether a line that begins like this may be one of a comment.
    pub fn may_be_in(&self, line: &str) -> bool {
        let line = line.trim_start();
        let opens = self.blocks.iter().map(|(open, _)| open);
        self.line.iter().chain(opens).chain(&self.gutter).any(|mark| line.starts_with(mark))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Of a language of words, with comments that no other one has.
    const WORDS: Comments = Comments {
        line: &["REM ", "''"],
        blocks: &[("(*", "*)")],
        gutter: Some("|"),
        ..Comments::NONE
    };

    #[test]
    fn marks_are_the_languages() {
        assert_eq!(WORDS.closer("(* ebb"), Some("*)"));
        assert_eq!((WORDS.closer("/* ebb"), WORDS.closer("REM ebb")), (None, None));
        assert!(WORDS.is_open("(* ebb") && WORDS.is_open("(*)") && !WORDS.is_open("(**)"));
        assert!(WORDS.has_gutter("(* ebb\n | flood\n | *)") && !WORDS.has_gutter("(* ebb\n * *)"));
        assert!(
            WORDS.may_be_in("  REM ebb") && WORDS.may_be_in(" | ebb") && !WORDS.may_be_in("// ebb")
        );
        assert!(!Comments::HASH.is_open("# /* ebb") && !Comments::HASH.has_gutter("# ebb"));
    }
}
