//! Git is waited for, but not for ever.

use rustix::event::{PollFd, PollFlags, Timespec, poll};
use std::io::{ErrorKind, Read};
use std::os::fd::AsFd;
use std::time::Duration;

/// No answer of git takes longer than this: the largest histories are walked, and a canon is fetched
/// over a slow line, in a fraction of it.
pub(crate) const LONGEST: Duration = Duration::from_secs(10 * 60);

/// An output that ends with [`ErrorKind::TimedOut`] where nothing comes for too long.
#[derive(Debug)]
pub(crate) struct Patient<T> {
    output: T,
    longest: Duration,
}

impl<T: Read + AsFd> Patient<T> {
    pub fn new(output: T, longest: Duration) -> Patient<T> {
        Patient { output, longest }
    }
}

impl<T: Read + AsFd> Read for Patient<T> {
    fn read(&mut self, buffer: &mut [u8]) -> std::io::Result<usize> {
        let limit = Timespec {
            tv_sec: self.longest.as_secs() as i64,
            tv_nsec: self.longest.subsec_nanos().into(),
        };
        loop {
            match poll(&mut [PollFd::new(&self.output, PollFlags::IN)], Some(&limit)) {
                Ok(0) => return Err(ErrorKind::TimedOut.into()),
                Ok(_) => return self.output.read(buffer),
                Err(rustix::io::Errno::INTR) => {}
                Err(error) => return Err(error.into()),
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::process::{Command, Stdio};

    #[test]
    fn what_does_not_come_is_not_waited_for() {
        let mut slow = Command::new("sh");
        let mut slow =
            slow.args(["-c", "echo ebb; exec sleep 60"]).stdout(Stdio::piped()).spawn().unwrap();
        let mut output = Patient::new(slow.stdout.take().unwrap(), Duration::from_millis(300));
        let mut buffer = [0; 8];
        assert_eq!(output.read(&mut buffer).unwrap(), 4);
        assert_eq!(output.read(&mut buffer).unwrap_err().kind(), ErrorKind::TimedOut);
        slow.kill().unwrap();
        slow.wait().unwrap();
    }
}
