//! `zerofold review`.

use serde::Serialize;

/// What the review finds.
#[derive(Debug, Serialize)]
pub struct Reviewed {
    pub look_alikes: Vec<Group>,
    pub worth_a_look: Vec<Group>,
    pub unused: Vec<Unused>,
    pub others: Vec<Remark>,
}

/// Accounts that may be one.
#[derive(Debug, Serialize)]
pub struct Group {
    pub codes: Vec<String>,
    /// The code of the account that would take the others in.
    pub survivor: String,
    /// How sure it is, from 0 to 1, in thousandths.
    pub score: f64,
    pub evidence: Vec<String>,
    pub against: Vec<String>,
}

/// An account that is not used.
#[derive(Debug, Serialize)]
pub struct Unused {
    pub code: String,
    pub last_posted: Option<String>,
    /// In minor units, debits positive.
    pub balance: i64,
    /// `delete`, `archive`, `deactivate` or `none`.
    pub fate: &'static str,
    pub reasons: Vec<String>,
}

/// Something else that was noticed.
#[derive(Debug, Serialize)]
pub struct Remark {
    pub rule: &'static str,
    pub codes: Vec<String>,
    pub message: String,
    /// What would be right, where that is known: a class, a role, a name or a code.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub proposed: Option<String>,
}
