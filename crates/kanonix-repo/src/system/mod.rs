//! What is Unix only, behind one door: names of any bytes, folders that are opened without following a
//! link, what a file is beside its contents, and how another process is waited for and ended. Nothing
//! outside of here knows the system.

pub mod files;
mod names;
mod ownership;
mod patience;
mod processes;

pub use names::{bytes_of, path_of};
pub use ownership::is_program;
pub(crate) use ownership::{give_attributes, give_owner, names_of, permissions};
pub(crate) use patience::{LONGEST, Patient};
pub(crate) use processes::Process;
