//! What a person says of lines dated after the day of their account.

use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use zf_core::ids::AccountId;

/// What becomes of lines dated after the day of their account.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum LateMeans {
    /// They go to this account, which takes its place.
    Successor(i64),
    /// The account is active again.
    OpenAgain,
    /// Their entries are left out.
    LeftOut,
}

/// What was said of late lines, by account.
pub type Said = HashMap<AccountId, LateMeans>;
