//! Stretches that somebody asked to keep as they stand, in a comment: `kanonix: keep` for what
//! comes next, `kanonix: keep on` and `kanonix: keep off` for all that lies between.

use super::plan::{GroupId, Plan, Want};
use crate::syntax::{Role, Tree};
use std::ops::Range;

const MARK: &str = "kanonix:";

/// Asks for what comes next.
pub(super) const KEEP: &str = "kanonix: keep";

/// What a comment asks for.
enum Word {
    Next,
    On,
    Off,
}

fn word(comment: &str) -> Option<Word> {
    let (_, asked) = comment.split_once(MARK)?;
    let mut words = asked.split(|c: char| !c.is_ascii_alphabetic()).filter(|word| !word.is_empty());
    match (words.next()?, words.next()) {
        ("keep", Some("on")) => Some(Word::On),
        ("keep", Some("off")) => Some(Word::Off),
        ("keep", _) => Some(Word::Next),
        _ => None,
    }
}

/// Whether a text may hold such a comment.
pub(super) fn may_ask(text: &str) -> bool {
    memchr::memmem::find(text.as_bytes(), MARK.as_bytes()).is_some()
}

/// A comment that asks for something to be kept.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Keep {
    /// The comment, in bytes.
    pub comment: Range<usize>,
    /// Whether what it keeps ends with something of its own: a construct, or a comment that says
    /// so.
    pub is_ended: bool,
}

/// The comments that ask for something to be kept.
pub(super) fn asked(tree: &Tree, text: &str) -> Vec<Keep> {
    let mut keeps: Vec<Keep> = Vec::new();
    // The last one that waits for its end.
    let mut on: Option<usize> = None;
    for token in tree.tokens.iter().filter(|token| token.role == Role::Comment) {
        let comment = token.start as usize..token.end as usize;
        match word(&text[comment.clone()]) {
            Some(Word::Next) => keeps.push(Keep { comment, is_ended: true }),
            Some(Word::On) => {
                on = Some(keeps.len());
                keeps.push(Keep { comment, is_ended: false });
            }
            Some(Word::Off) => {
                if let Some(on) = on.take() {
                    keeps[on].is_ended = true;
                }
            }
            None => {}
        }
    }
    keeps
}

/// The tokens that are kept.
pub(super) fn ranges(plan: &Plan, tree: &Tree, text: &str) -> Vec<Range<usize>> {
    let fixed = plan.fixed.iter().map(|tokens| tokens.start as usize..tokens.end as usize);
    let mut ranges: Vec<Range<usize>> = fixed.collect();
    ranges.extend(tree.kept.iter().cloned());
    if !may_ask(text) {
        return ranges;
    }
    let mut on = None;
    for (index, token) in tree.tokens.iter().enumerate() {
        if token.role != Role::Comment {
            continue;
        }
        match word(&text[token.start as usize..token.end as usize]) {
            Some(Word::On) => on = on.or(Some(index + 1)),
            Some(Word::Off) => ranges.extend(on.take().map(|from| from..index)),
            Some(Word::Next) if on.is_none() => ranges.push(next(plan, tree, index)),
            _ => {}
        }
    }
    ranges.extend(on.map(|from| from..tree.tokens.len()));
    ranges
}

/// The construct after a comment: from its first token to the next one that starts a line beside
/// it, or to the end of what it is in.
fn next(plan: &Plan, tree: &Tree, comment: usize) -> Range<usize> {
    let count = tree.tokens.len();
    let solid = |index: &usize| tree.tokens[*index].role != Role::Comment;
    let Some(first) = (comment + 1..count).find(solid) else { return count..count };
    let gap = &plan.gaps[first];
    let end = match gap.group {
        Some(GroupId::ROOT) => count,
        Some(group) => plan.groups[group].end as usize,
        None => first + 1,
    };
    let beside = |index: &usize| {
        let other = &plan.gaps[*index];
        other.group == gap.group && matches!(other.want, Want::Line | Want::Break)
    };
    first..(first + 1..end.max(first + 1)).find(beside).unwrap_or(end.max(first + 1))
}
