//! Plain text, before any language: lines, sets of lines, and edits.
//!
//! Nothing here knows a syntax. Offsets are bytes, ranges are half-open, lines count from zero.

mod bases;
mod common;
mod differences;
mod edits;
mod line_set;
mod lines;
mod three_way;
mod unified;
mod visible;

pub use bases::Bases;
pub use differences::{changed_lines, differences};
pub use edits::{Edit, apply, become_of, compose, place_before};
pub use line_set::LineSet;
pub use lines::{LineEnd, Lines};
pub use three_way::{Carried, carry};
pub use unified::unified_diff;
pub use visible::{visible, visible_lines};
