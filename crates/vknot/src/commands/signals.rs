//! Passes signals on to a program that was started, and its end back.

use std::process::ExitStatus;

use crate::problem::Outcome;

/// Sends what would end this program to a child instead. What comes from the terminal the child gets by itself.
///
/// # Errors
/// When signals cannot be caught.
#[cfg(unix)]
pub fn pass_on(child: u32) -> anyhow::Result<()> {
    use rustix::process::{kill_process, Pid, Signal};
    use signal_hook::consts::{SIGHUP, SIGINT, SIGTERM};
    use signal_hook::iterator::SignalsInfo;
    use signal_hook::iterator::exfiltrator::WithOrigin;
    use signal_hook::low_level::siginfo::Cause;
    let mut signals = SignalsInfo::<WithOrigin>::new([SIGHUP, SIGINT, SIGTERM])?;
    let child = i32::try_from(child).ok().and_then(Pid::from_raw);
    std::thread::spawn(move || {
        for origin in signals.forever().filter(|origin| origin.cause != Cause::Kernel) {
            if let (Some(child), Some(signal)) = (child, Signal::from_named_raw(origin.signal)) {
                let _ = kill_process(child, signal);
            }
        }
    });
    Ok(())
}

#[cfg(not(unix))]
pub fn pass_on(_child: u32) -> anyhow::Result<()> {
    Ok(())
}

/// A child's exit code; where a signal ended it, the same signal ends this program.
pub fn outcome(status: ExitStatus) -> Outcome {
    #[cfg(unix)]
    if let Some(signal) = std::os::unix::process::ExitStatusExt::signal(&status) {
        let _ = signal_hook::low_level::emulate_default_handler(signal);
        return Outcome::Exit(u8::try_from(128 + signal).unwrap_or(u8::MAX));
    }
    Outcome::Exit(status.code().and_then(|code| u8::try_from(code).ok()).unwrap_or(u8::MAX))
}
