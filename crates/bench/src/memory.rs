//! How much memory a process holds, as the system counts it.

use anyhow::Context;

/// A figure of a process in megabytes: `VmRSS` is what it holds, `VmHWM` the most it ever held.
pub(crate) fn of(process: u32, figure: &str) -> anyhow::Result<u64> {
    let status = std::fs::read_to_string(format!("/proc/{process}/status"))?;
    let line = status.lines().find_map(|line| line.strip_prefix(figure)?.strip_prefix(':'));
    let kilobytes = line.context("the system counts memory")?.trim().trim_end_matches(" kB");
    Ok(kilobytes.parse::<u64>()? / 1024)
}
