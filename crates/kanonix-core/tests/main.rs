//! The engine and its languages. One program, so that the grammars are linked once.

mod chance;
mod chains;
mod choices;
mod columns;
mod handkept;
mod hostile;
mod in_play;
mod indentation;
mod kept;
mod layout;
mod moved;
mod operators;
mod proof;
mod room;
mod rows;
mod samples;
mod settings;
mod support;
