//! A file as the rules see it: a compact tree over a flat row of tokens.
//!
//! One walk copies what the grammar's parser found, so that nothing else touches the parser's
//! interface, and a language could bring another parser.

mod grammar;
mod tree;

pub use grammar::{Grammar, KindEntry, Role};
pub use tree::{Node, NodeId, Token, TokenId, Tree};
pub(crate) use grammar::kinds;
