//! `zerofold statements`.

use serde::Serialize;
use zf_core::reports::statement::RowKind;

/// The statements, or with a crosswalk those of both sides.
#[derive(Debug, Serialize)]
#[serde(untagged)]
pub enum Stated {
    Today(Drawn),
    Both {
        today: Drawn,
        after: Drawn,
        /// What goes from one row to another.
        moved: Vec<Moved>,
    },
}

/// The statements of one side.
#[derive(Debug, Serialize)]
pub struct Drawn {
    pub columns: Vec<String>,
    pub statements: Vec<Statement>,
    pub ties: Vec<Tie>,
    pub coverage: Coverage,
}

/// One statement.
#[derive(Debug, Serialize)]
pub struct Statement {
    pub name: &'static str,
    pub lines: Vec<Row>,
}

/// A row of a statement.
#[derive(Debug, Serialize)]
pub struct Row {
    pub label: String,
    pub level: usize,
    pub kind: RowKind,
    /// A column each, in minor units, debits positive.
    pub amounts: Vec<i64>,
    /// 1, or -1 where credits are shown without a sign.
    pub shown_as: i8,
    /// The codes of the accounts under it.
    pub accounts: Vec<String>,
}

/// Two sums that must be one.
#[derive(Debug, Serialize)]
pub struct Tie {
    pub name: String,
    pub difference: i64,
}

/// Which accounts the statements do not have.
#[derive(Debug, Serialize)]
pub struct Coverage {
    /// The codes of accounts under no statement item.
    pub unmapped: Vec<String>,
}

/// What goes from one row to another.
#[derive(Debug, Serialize)]
pub struct Moved {
    pub account: String,
    pub into: String,
    pub from: String,
    pub to: String,
    pub amounts: Vec<i64>,
    pub lines: u64,
}
