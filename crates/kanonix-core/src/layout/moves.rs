//! Lines that change places before a text is laid out, or go.

use super::compare::Slip;
use super::live::Live;
use super::members::Reordered;
use super::{Sheet, members, unused};
use crate::syntax::TokenId;
use crate::text::Edit;
use std::ops::Range;

/// A change to the tokens of a text that is none to any one of them.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Rearranged {
    /// Neighbouring members in another order.
    Order(Reordered),
    /// Constructs that go, in the order of the text. The program says something else without them: this
    /// is asked for, and not proved.
    Dropped(Vec<Range<TokenId>>),
}

impl Rearranged {
    /// How many tokens go.
    pub fn dropped(&self) -> usize {
        match self {
            Rearranged::Order(_) => 0,
            Rearranged::Dropped(tokens) => tokens.iter().map(ExactSizeIterator::len).sum(),
        }
    }
}

/// What has to change places in a text, or go.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Moves {
    /// The changes to the text, in whole lines.
    pub edits: Vec<Edit>,
    /// Of each line of the changed text: the line that it was, if it was one.
    pub was: Vec<Option<usize>>,
    /// The stretches of the text that go on being one: their bytes, and where they begin then.
    pub stretches: Vec<(Range<usize>, usize)>,
    /// The same as changes to the tree, each of them to what the ones before it have made.
    pub rearranged: Vec<Rearranged>,
    /// Why.
    pub slips: Vec<Slip>,
}

/// What has to go on live lines, or, where nothing has, change places.
pub(super) fn find(sheet: &Sheet, live: &Live) -> Moves {
    let unused = unused::moves(sheet, live);
    if unused.rearranged.is_empty() { members::moves(sheet, live) } else { unused }
}

impl Moves {
    /// Where a byte of the changed text was.
    pub fn before(&self, offset: usize) -> Option<usize> {
        let next = self.stretches.partition_point(|(_, start)| *start <= offset);
        let (old, start) = self.stretches.get(next.checked_sub(1)?)?;
        let was = old.start + (offset - start);
        // The end of the text is no byte of it, but a place.
        (was < old.end || (was == old.end && next == self.stretches.len())).then_some(was)
    }

    /// Writes the changes to the text, and what becomes of its lines and stretches.
    pub(super) fn write(&mut self, sheet: &Sheet, chunks: Vec<Chunk>) {
        let mut length = 0;
        // Up to where the text is as it was, and what comes behind that.
        let (mut done, mut pending) = (0, String::new());
        for chunk in &chunks {
            let text = match chunk {
                Chunk::Old { bytes, .. } => &sheet.text[bytes.clone()],
                Chunk::New(text) => text,
            };
            match chunk {
                Chunk::Old { bytes, .. } if bytes.is_empty() => continue,
                Chunk::Old { bytes, .. } => {
                    let first = sheet.lines.line_of(bytes.start);
                    let count = text.matches('\n').count() + usize::from(!text.ends_with('\n'));
                    self.was.extend((first..first + count).map(Some));
                    self.stretches.push((bytes.clone(), length));
                }
                Chunk::New(text) => self.was.extend(text.matches('\n').map(|_| None)),
            }
            length += text.len();
            match chunk {
                Chunk::Old { bytes, stays: true } => {
                    if bytes.start > done || !pending.is_empty() {
                        let text = std::mem::take(&mut pending);
                        self.edits.push(Edit { range: done..bytes.start, text });
                    }
                    done = bytes.end;
                }
                _ => pending.push_str(text),
            }
        }
    }
}

/// What stays, and what comes instead.
pub(super) enum Chunk {
    Old { bytes: Range<usize>, stays: bool },
    New(String),
}
