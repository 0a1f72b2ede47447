//! The lines of the result: times with their baselines, memory, and sizes of answers.

use serde::Serialize;
use std::fmt::{Display, Formatter, Result};
use std::time::Duration;

/// A time beside its baseline.
#[derive(Serialize)]
pub(crate) struct Measured {
    name: &'static str,
    ours_ms: f64,
    baseline: &'static str,
    baseline_ms: f64,
    /// Baseline over ours: how many times faster we are.
    ratio: f64,
    target: f64,
    met: bool,
}

impl Measured {
    /// At least `target` times faster than the baseline.
    pub(crate) fn new(
        name: &'static str,
        ours: Duration,
        baseline: &'static str,
        against: Duration,
        target: f64,
    ) -> Self {
        let ms = |d: Duration| d.as_secs_f64() * 1000.0;
        let (ours_ms, baseline_ms) = (ms(ours), ms(against));
        let ratio = baseline_ms / ours_ms.max(0.001);
        Self { name, ours_ms, baseline, baseline_ms, ratio, target, met: ratio >= target }
    }

    /// No longer than a limit.
    pub(crate) fn within(name: &'static str, ours: Duration, limit: Duration) -> Self {
        Self::new(name, ours, "the limit of", limit, 1.0)
    }
}

fn verdict(met: bool) -> &'static str {
    if met { "met" } else { "short" }
}

impl Display for Measured {
    fn fmt(&self, f: &mut Formatter<'_>) -> Result {
        let Self { name, ours_ms, baseline, baseline_ms, ratio, target, met } = self;
        write!(
            f,
            "{name}: ours {ours_ms:.1} ms, {baseline} {baseline_ms:.1} ms, ratio {ratio:.2}, target {target:.2}, {}",
            verdict(*met)
        )
    }
}

/// The most memory that something took.
#[derive(Serialize)]
pub(crate) struct Peak {
    name: &'static str,
    ours_mb: u64,
    target_mb: u64,
    met: bool,
}

impl Peak {
    pub(crate) fn new(name: &'static str, ours_mb: u64, target_mb: u64) -> Self {
        Self { name, ours_mb, target_mb, met: ours_mb <= target_mb }
    }
}

impl Display for Peak {
    fn fmt(&self, f: &mut Formatter<'_>) -> Result {
        let Self { name, ours_mb, target_mb, met } = self;
        write!(f, "{name}: {ours_mb} MB, target {target_mb} MB, {}", verdict(*met))
    }
}

/// How large an answer is.
#[derive(Serialize)]
pub(crate) struct Size {
    name: &'static str,
    ours_kb: f64,
    target_kb: u32,
    met: bool,
}

impl Size {
    pub(crate) fn new(name: &'static str, bytes: usize, target_kb: u32) -> Self {
        let ours_kb = bytes as f64 / 1000.0;
        Self { name, ours_kb, target_kb, met: ours_kb <= f64::from(target_kb) }
    }
}

impl Display for Size {
    fn fmt(&self, f: &mut Formatter<'_>) -> Result {
        let Self { name, ours_kb, target_kb, met } = self;
        write!(f, "{name}: {ours_kb:.1} KB, target {target_kb} KB, {}", verdict(*met))
    }
}
