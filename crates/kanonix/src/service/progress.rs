//! How far a run is that takes long.

use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use std::io::IsTerminal;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::time::{Duration, Instant};

/// A bar on the standard error, once a run takes long and a person is watching.
pub(crate) struct Progress {
    bar: ProgressBar,
    begun: Instant,
    /// Steps that are done, so many of them a file.
    done: AtomicUsize,
    each: usize,
}

/// A run that takes no longer needs no bar.
const LONG: Duration = Duration::from_millis(500);

impl Progress {
    /// So many files are to come, each of them in so many steps.
    pub fn new(files: usize, each: usize) -> Progress {
        let bar = ProgressBar::with_draw_target(Some(files as u64), ProgressDrawTarget::hidden());
        let style = ProgressStyle::with_template("{bar:40} {pos} of {len} files, {eta} to go");
        let bar = match style {
            Ok(style) => bar.with_style(style),
            Err(_) => bar,
        };
        Progress { bar, begun: Instant::now(), done: AtomicUsize::new(0), each }
    }

    /// So many more steps are done.
    pub fn advance(&self, steps: usize) {
        let done = self.done.fetch_add(steps, Ordering::Relaxed) + steps;
        if self.begun.elapsed() >= LONG {
            if self.bar.is_hidden() && std::io::stderr().is_terminal() {
                self.bar.set_draw_target(ProgressDrawTarget::stderr());
            }
            self.bar.set_position((done / self.each) as u64);
        }
    }

    /// Takes the bar away.
    pub fn end(&self) {
        self.bar.finish_and_clear();
    }
}
