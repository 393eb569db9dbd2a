//! Writing to the standard output and the standard error.
//!
//! A reader that went away (`| head`) is no problem of ours; a full disk is one, and what was to be
//! written is then not called written. The standard library's own macros would panic.

use crate::Status;
use std::fmt::Arguments;
use std::io::{ErrorKind, Write};

/// Writes to the standard output.
pub(crate) fn out(text: Arguments) {
    let mut output = std::io::stdout().lock();
    match output.write_fmt(text).and_then(|()| output.flush()) {
        Err(error) if error.kind() != ErrorKind::BrokenPipe => {
            err(format_args!("kanonix: the standard output cannot be written: {error}\n"));
            std::process::exit(Status::Incomplete as i32);
        }
        _ => {}
    }
}

/// Writes to the standard error; where that is closed, there is nobody to tell.
pub(crate) fn err(text: Arguments) {
    let _ = std::io::stderr().lock().write_fmt(text);
}

/// A line on the standard output.
macro_rules! outln {
    () => { $crate::say::out(format_args!("\n")) };
    ($($text:tt)*) => { $crate::say::out(format_args!("{}\n", format_args!($($text)*))) };
}

/// Text on the standard output.
macro_rules! outpart {
    ($($text:tt)*) => { $crate::say::out(format_args!($($text)*)) };
}

/// A line on the standard error.
macro_rules! errln {
    ($($text:tt)*) => { $crate::say::err(format_args!("{}\n", format_args!($($text)*))) };
}

pub(crate) use {errln, outln, outpart};
