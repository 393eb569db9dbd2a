//! Processes that are ended from outside.

use rustix::process::{Pid, Signal};
use std::process::Child;

/// A process that was started here.
#[derive(Clone, Copy)]
pub struct Process(Pid);

impl Process {
    pub fn of(child: &Child) -> Process {
        Process(Pid::from_child(child))
    }

    /// What ends it, and no other one that has its number by then.
    #[cfg(target_os = "linux")]
    pub fn ender(self) -> impl FnOnce() {
        use rustix::process::{PidfdFlags, pidfd_open, pidfd_send_signal};
        let handle = pidfd_open(self.0, PidfdFlags::empty());
        move || {
            let _ = handle.map(|handle| pidfd_send_signal(handle, Signal::KILL));
        }
    }

    /// What ends it.
    #[cfg(not(target_os = "linux"))]
    pub fn ender(self) -> impl FnOnce() {
        move || {
            let _ = rustix::process::kill_process(self.0, Signal::KILL);
        }
    }
}
