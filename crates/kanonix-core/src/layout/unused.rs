//! Imports of names that nothing mentions.
//!
//! Whether a name is used is asked of its letters alone: where a word of the code or of a comment is spelt
//! as the name is, the import stays. So does one that shares a line with something else, a comment included.

use super::Sheet;
use super::compare::{Slip, quoted};
use super::live::Live;
use super::members::lines_of;
use super::moves::{Chunk, Moves, Rearranged};
use super::plan::Import;
use crate::style::Setting;
use crate::syntax::Role;
use std::collections::HashSet;
use std::ops::Range;

/// What has to go on live lines.
pub(super) fn moves(sheet: &Sheet, live: &Live) -> Moves {
    let (tree, imports) = (sheet.tree, &sheet.plan.imports);
    let mut moves = Moves::default();
    let Some(last) = imports.last().filter(|_| tree.faults.is_empty()) else { return moves };
    // A text that does nothing with any of them is not done yet, or is there to import.
    let behind = &tree.tokens[last.end as usize..];
    if behind.iter().all(|token| token.role == Role::Comment) {
        return moves;
    }
    let mentioned = mentioned(sheet);
    let is_unused = |import: &&Import| {
        live.all(import.first, import.end)
            && !mentioned.contains(sheet.token_text(import.name as usize))
    };
    let with_lines = |import: &Import| {
        let (bytes, _) = lines_of(sheet, &(import.first..import.end))?;
        Some((bytes, import.clone()))
    };
    let (bytes, gone): (Vec<Range<usize>>, Vec<Import>) =
        imports.iter().filter(is_unused).filter_map(with_lines).unzip();
    if gone.is_empty() {
        return moves;
    }
    let mut done = 0;
    let mut chunks = Vec::new();
    for bytes in with_blank_lines(sheet, bytes) {
        chunks.push(Chunk::Old { bytes: done..bytes.start, stays: true });
        done = bytes.end;
    }
    chunks.push(Chunk::Old { bytes: done..sheet.text.len(), stays: true });
    moves.write(sheet, chunks);
    moves.slips = gone.iter().map(|import| slip(sheet, import)).collect();
    let tokens = gone.iter().map(|import| import.first..import.end).collect();
    moves.rearranged.push(Rearranged::Dropped(tokens));
    moves
}

/// All words outside the imports, those of comments and of texts among them.
fn mentioned<'a>(sheet: &Sheet<'a>) -> HashSet<&'a str> {
    let mut imports = sheet.plan.imports.iter().peekable();
    let mut words = HashSet::new();
    for (at, token) in (0..).zip(&sheet.tree.tokens) {
        while imports.next_if(|import| import.end <= at).is_some() {}
        let text = sheet.token_text(at as usize);
        let is_import = imports.peek().is_some_and(|import| import.first <= at);
        if !is_import || token.role == Role::Comment {
            words.insert(text);
            words.extend(text.split(|c: char| c != '_' && !c.is_alphanumeric()));
        }
    }
    words
}

/// These lines, each run of them with the blank lines below it if there are some above it, too, or it is
/// what the text begins with.
fn with_blank_lines(sheet: &Sheet, bytes: Vec<Range<usize>>) -> Vec<Range<usize>> {
    let mut runs: Vec<Range<usize>> = Vec::with_capacity(bytes.len());
    for mut own in bytes {
        if let Some(before) = runs.pop_if(|before| before.end == own.start) {
            own.start = before.start;
        }
        let above = &sheet.text[..own.start];
        let above = above.strip_suffix('\n').unwrap_or(above);
        let above = above.trim_end_matches([' ', '\t', '\r']);
        if above.is_empty() || above.ends_with('\n') {
            let below = &sheet.text[own.end..];
            let rest = below.trim_start();
            let blanks = below.len() - rest.len();
            own.end += below[..blanks].rfind('\n').map_or(0, |last| last + 1);
        }
        runs.push(own);
    }
    runs
}

fn slip(sheet: &Sheet, import: &Import) -> Slip {
    let tokens = &sheet.tree.tokens;
    let offset = tokens[import.first as usize].start as usize;
    let end = tokens[import.end as usize - 1].end as usize;
    let name = quoted(sheet.token_text(import.name as usize));
    let message = format!("drop this import: nothing here mentions {name}");
    Slip { offset, length: end - offset, setting: Setting::UnusedImports, message }
}
