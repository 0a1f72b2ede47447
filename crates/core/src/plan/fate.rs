//! What becomes of an account beyond its settings.

use crate::chart::{Account, Status};
use crate::ids::AccountId;
use serde::{Deserialize, Serialize};
use time::Date;

/// What a plan has in store for an account beyond its fields.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(tag = "fate", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Fate {
    /// It does not exist yet; the plan adds it.
    Add,
    /// Its history is to stand under another account.
    MergeInto {
        /// The account that stays.
        into: AccountId,
    },
    /// No new postings; still on reports.
    Deactivate {
        /// Lines dated after this day are asked; it is the day of staging when it is missing.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
        from: Option<Date>,
    },
    /// No new postings and out of sight.
    Archive {
        /// Lines dated after this day are asked; it is the day of staging when it is missing.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
        from: Option<Date>,
    },
    /// Active again.
    Restore,
    /// Gone; only for what was never used.
    Delete,
}

impl Fate {
    /// To be deactivated, from the day on which that is staged.
    pub const fn deactivate() -> Self {
        Self::Deactivate { from: None }
    }

    /// To be archived, from the day on which that is staged.
    pub const fn archive() -> Self {
        Self::Archive { from: None }
    }

    /// What an account is already, as the fate that would make another one the same.
    pub(super) fn of(account: &Account) -> Self {
        match (account.status, account.merged_into) {
            (Status::Deactivated, _) => Self::Deactivate { from: account.status_from },
            (Status::Archived, _) => Self::Archive { from: account.status_from },
            (Status::Merged, Some(survivor)) => Self::MergeInto { into: survivor },
            (Status::Active | Status::Merged, _) => Self::Restore,
        }
    }

    /// Makes an account what it says; one that is added or deleted is there, or is not.
    pub(super) fn meet(self, account: &mut Account) {
        let (status, merged_into, from) = match self {
            Self::MergeInto { into } => (Status::Merged, Some(into), None),
            Self::Deactivate { from } => (Status::Deactivated, account.merged_into, from),
            Self::Archive { from } => (Status::Archived, account.merged_into, from),
            Self::Restore => (Status::Active, account.merged_into, None),
            Self::Add | Self::Delete => return,
        };
        (account.status, account.merged_into, account.status_from) = (status, merged_into, from);
    }

    /// The same, from a day if it says none. What an account is already it stays from the day that is known.
    #[must_use]
    pub fn dated(self, today: Option<Self>, day: Date) -> Self {
        match (self, today) {
            (Self::Deactivate { from: None }, Some(Self::Deactivate { from })) => {
                Self::Deactivate { from }
            }
            (Self::Archive { from: None }, Some(Self::Archive { from })) => Self::Archive { from },
            (Self::Deactivate { from }, _) => Self::Deactivate { from: from.or(Some(day)) },
            (Self::Archive { from }, _) => Self::Archive { from: from.or(Some(day)) },
            (other, _) => other,
        }
    }
}
