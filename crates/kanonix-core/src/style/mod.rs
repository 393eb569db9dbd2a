//! The settings: what can be agreed, in one registry, and one file's agreed values.
//!
//! [`REGISTRY`] holds one entry a setting; everything that reads, explains or documents a setting
//! reads that entry. A [`Style`] is a value for each of them.

mod basis;
mod entry;
mod family;
mod keys;
mod registry;
mod samples;
mod value;
mod member_order;
mod word_order;
mod words;

pub use basis::{BASES, Basis};
pub use family::Family;
pub use keys::Key;
pub use entry::{Entry, Setting, Slot, ValueKind};
pub use registry::{REGISTRY, entry, slots};
pub use samples::{SAMPLES, Sample, sample};
pub use value::{Style, StyleError, Value, keeps, nearest};
pub use member_order::MemberOrder;
pub use word_order::WordOrder;
