//! What commands that work on files print with `--json`. The keys are a contract with scripts: docs/files.md lists
//! them.

pub mod inspect;
pub mod rehearse;
pub mod review;
pub mod statements;

use serde::Serialize;

/// Why a file cannot be read.
#[derive(Debug, Serialize)]
pub struct Failed {
    pub error: String,
}

/// Minor units as JSON has them; what no books hold is cut off at the ends.
pub fn minor(amount: i128) -> i64 {
    i64::try_from(amount).unwrap_or(if amount < 0 { i64::MIN } else { i64::MAX })
}
