//! The engine and its languages. One program, so that the grammars are linked once.

mod hostile;
mod javascript;
mod json;
mod layout;
mod markup;
mod moved;
mod proof;
mod python;
mod rust;
mod samples;
mod settings;
mod support;
mod typescript;
