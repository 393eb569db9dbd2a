//! The plain words of the trade that people try first, each with ours.

/// A word as somebody may write it (in lower case, with `_` between its parts), and what we call
/// it.
const WORDS: &[(&str, &str)] = &[
    // Settings.
    ("brace", "open_brace"),
    ("braces", "open_brace"),
    ("brace_style", "open_brace"),
    ("curly_braces", "open_brace"),
    ("bom", "charset"),
    ("encoding", "charset"),
    ("comma", "last_comma"),
    ("trailing_comma", "last_comma"),
    ("trailing_commas", "last_comma"),
    ("comment_space", "comment_gap"),
    ("comments", "comment_gap"),
    ("else", "else_line"),
    ("empty_lines", "blank_lines"),
    ("final_newline", "insert_final_newline"),
    ("newline_at_end", "insert_final_newline"),
    ("indent", "indent_size"),
    ("indentation", "indent_size"),
    ("tab_size", "indent_size"),
    ("spaces", "indent_style"),
    ("tabs", "indent_style"),
    ("line_length", "max_line_length"),
    ("width", "max_line_length"),
    ("eol", "end_of_line"),
    ("line_ending", "end_of_line"),
    ("line_endings", "end_of_line"),
    ("newline", "end_of_line"),
    ("newlines", "end_of_line"),
    ("paren_space", "paren_gap"),
    ("parentheses", "paren_gap"),
    ("space_in_brackets", "inner_gap"),
    ("quote", "quotes"),
    ("attribute_quotes", "markup_quotes"),
    ("class_order", "word_order"),
    ("classes", "word_order"),
    ("semicolon", "statement_end"),
    ("semicolons", "statement_end"),
    ("single_line_blocks", "flat_block"),
    ("one_line_blocks", "flat_block"),
    ("switch_indent", "case_indent"),
    ("space", "word_gap"),
    ("spacing", "word_gap"),
    ("trailing_space", "trim_trailing_whitespace"),
    ("trailing_spaces", "trim_trailing_whitespace"),
    ("trailing_whitespace", "trim_trailing_whitespace"),
    ("wrap", "list_wrap"),
    ("wrapping", "list_wrap"),
    // Languages.
    ("js", "javascript"),
    ("jsx", "javascript"),
    ("node", "javascript"),
    ("py", "python"),
    ("python3", "python"),
    ("rs", "rust"),
    ("ts", "typescript"),
    // The canon's other words.
    ("ignore", "skip"),
    ("languages", "language"),
    ("paths", "part"),
    ("version", "edition"),
];

/// What we call a plain word, if that is one of the candidates.
pub(super) fn ours<'a>(word: &str, candidates: &[&'a str]) -> Option<&'a str> {
    let plain = word.to_lowercase().replace(['-', ' '], "_");
    let mut known = WORDS.iter().filter(|(theirs, _)| *theirs == plain);
    known.find_map(|(_, ours)| candidates.iter().find(|candidate| *candidate == ours).copied())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::languages;
    use crate::style::REGISTRY;

    #[test]
    fn every_word_of_ours_is_one_and_none_is_in_the_way() {
        let is_setting = |word: &str| REGISTRY.iter().any(|entry| entry.name == word);
        let others = ["skip", "language", "part", "edition"];
        for (plain, ours) in WORDS {
            let known = is_setting(ours) || languages::by_name(ours).is_some();
            assert!(known || others.contains(ours), "{ours}");
            assert!(!is_setting(plain), "{plain} is a setting");
        }
    }
}
