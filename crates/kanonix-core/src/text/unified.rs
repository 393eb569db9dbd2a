use imara_diff::{Algorithm, Diff, InternedInput, Interner, Token, UnifiedDiffConfig};
use imara_diff::{UnifiedDiffPrinter, sources};
use std::fmt;

/// The change from `old` to `new` as the hunks of a unified diff with three lines of context,
/// without the two lines that name the files. Empty if nothing changes.
///
/// ```
/// use kanonix_core::text::unified_diff;
/// assert_eq!(unified_diff("ebb\n", "flood\n"), "@@ -1,1 +1,1 @@\n-ebb\n+flood\n");
/// ```
pub fn unified_diff(old: &str, new: &str) -> String {
    let input = InternedInput::new(sources::lines(old), sources::lines(new));
    let mut diff = Diff::compute(Algorithm::Histogram, &input);
    diff.postprocess_lines(&input);
    let printer = Printer(&input.interner);
    diff.unified_diff(&printer, UnifiedDiffConfig::default(), &input).to_string()
}

struct Printer<'a>(&'a Interner<&'a str>);

impl Printer<'_> {
    fn line(&self, mut f: impl fmt::Write, mark: char, token: Token) -> fmt::Result {
        let line = self.0[token];
        write!(f, "{mark}{line}")?;
        if !line.ends_with('\n') {
            write!(f, "\n\\ No newline at end of file\n")?;
        }
        Ok(())
    }
}

impl UnifiedDiffPrinter for Printer<'_> {
    fn display_header(
        &self,
        mut f: impl fmt::Write,
        start_before: u32,
        start_after: u32,
        len_before: u32,
        len_after: u32,
    ) -> fmt::Result {
        // An empty side is named by the line before it.
        let first = |start: u32, len: u32| if len == 0 { start } else { start + 1 };
        let (old, new) = (first(start_before, len_before), first(start_after, len_after));
        writeln!(f, "@@ -{old},{len_before} +{new},{len_after} @@")
    }

    fn display_context_token(&self, f: impl fmt::Write, token: Token) -> fmt::Result {
        self.line(f, ' ', token)
    }

    fn display_hunk(
        &self,
        mut f: impl fmt::Write,
        before: &[Token],
        after: &[Token],
    ) -> fmt::Result {
        for token in before {
            self.line(&mut f, '-', *token)?;
        }
        for token in after {
            self.line(&mut f, '+', *token)?;
        }
        Ok(())
    }
}
