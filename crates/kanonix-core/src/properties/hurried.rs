//! The same program as somebody types it in a hurry: lines that are joined, breaks by chance, blanks
//! where they fell, odd indentation.

use super::Chance;
use crate::languages::Language;
use crate::proof;
use crate::syntax::{Role, Tree};
use crate::text::{Edit, apply};

/// So many gaps are changed at once: those that would change what is said stay as they were.
const AT_ONCE: usize = 12;

/// A text without faults, hurried.
pub fn hurried(text: &str, language: &Language, chance: &mut Chance) -> Option<String> {
    let tree = Tree::parse(&language.grammar, text).filter(|tree| tree.faults.is_empty())?;
    let mut kept: Vec<Edit> = Vec::new();
    let all: Vec<Edit> = (1..tree.tokens.len())
        .filter_map(|index| {
            let range = tree.gap(index, text.len());
            let gap = hurried_gap(&tree, index, text, chance)?;
            (gap != text[range.clone()]).then_some(Edit { range, text: gap })
        })
        .collect();
    for some in all.chunks(AT_ONCE) {
        let before = kept.len();
        kept.extend(some.iter().cloned());
        if !proof::same(&language.grammar, text, &apply(text, &kept)) {
            kept.truncate(before);
        }
    }
    Some(apply(text, &kept))
}

/// What somebody may have typed in a gap; nothing where what stands there is more than blanks.
fn hurried_gap(tree: &Tree, index: usize, text: &str, chance: &mut Chance) -> Option<String> {
    let (before, token) = (&tree.tokens[index - 1], &tree.tokens[index]);
    let gap = &text[tree.gap(index, text.len())];
    let special = |role: Role| matches!(role, Role::Comment | Role::Join | Role::Text);
    if !gap.trim().is_empty() || special(before.role) || special(token.role) {
        return None;
    }
    let word = |c: char| c.is_alphanumeric() || "_$@#".contains(c);
    let ends = text[..before.end as usize].chars().next_back()?;
    let begins = text[token.start as usize..].chars().next()?;
    // Two words, and two marks that may be one together.
    let is_apart = word(ends) == word(begins) && !"()[]{},;".contains([ends, begins]);
    let blank = if is_apart { " " } else { "" };
    let odd = |chance: &mut Chance| " ".repeat(chance.below(14));
    let breaks = gap.matches('\n').count();
    Some(match (breaks, chance.below(20)) {
        (0, 0) => format!("\n{}", odd(chance)),
        (0, 1) => "  ".into(),
        (0, 2) => " ".into(),
        (0, 3..=13) => blank.into(),
        (1, 0..=5) => blank.into(),
        (1, 6) => " ".into(),
        (_, 7..=13) if breaks > 0 => format!("{}{}", "\n".repeat(breaks), odd(chance)),
        _ => gap.into(),
    })
}
