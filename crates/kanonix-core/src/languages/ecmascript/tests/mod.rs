//! How the languages of the standard are laid out, construct by construct.

mod javascript;
mod markup;
mod typescript;
