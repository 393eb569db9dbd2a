//! A file as the rules see it: a compact tree over a flat row of tokens.
//!
//! One walk copies what the grammar's parser found, so that nothing else touches the parser's
//! interface, and a language could bring another parser.

mod comments;
mod copying;
mod directives;
mod faults;
mod grammar;
mod kinds;
mod logical;
mod parsed;
mod put_back;
mod regrouping;
mod tree;
mod window;

pub use comments::Comments;
pub use directives::{Directives, Word};
pub use grammar::{Ending, Grammar, Indented, Last, Reading, Reserved, Role};
pub use kinds::{KindEntry, Kinds, Said};
pub use logical::{Lexis, LogicalLines};
pub use parsed::Parsed;
pub use regrouping::Regrouping;
pub use tree::{Node, NodeId, Token, TokenId, Tree};
pub use window::Window;
