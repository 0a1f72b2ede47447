//! Rows of the chart as they are kept: accounts, the statement items that they stand under, and what
//! names them elsewhere.

pub(crate) mod rows;
pub(crate) mod structure;
pub(crate) mod usage;
