//! Identities. Each is a number that the database hands out; the types keep them apart.

use rustc_hash::FxHashMap;
use std::fmt;

macro_rules! id {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        #[derive(
            Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize, serde::Deserialize,
        )]
        #[serde(transparent)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub struct $name(pub i64);

        impl From<i64> for $name {
            fn from(number: i64) -> Self {
                Self(number)
            }
        }

        impl fmt::Display for $name {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                self.0.fmt(f)
            }
        }
    };
}

id!(
    /// One company's ledger.
    BooksId
);
id!(
    /// An account, heading or sum line of a chart. An account that a plan adds has its identity
    /// from the moment it is staged, so that other changes can name it.
    AccountId
);
id!(
    /// A run of journal lines that were posted under one code.
    StrandId
);
id!(
    /// One plan that was carried out, or the undo of one.
    ApplicationId
);

id!(
    /// A file that waits or was imported.
    ImportId
);

id!(
    /// A plan of a set of books.
    PlanId
);

id!(
    /// A person who signs in, whatever books they are a member of.
    PersonId
);

id!(
    /// A session of a person, from signing in to its end.
    SessionId
);

id!(
    /// An item of the books' own statements.
    ItemId
);

id!(
    /// A line of a report that adds up stretches of codes.
    ReportLineId
);

/// Something for each of many accounts. A rehearsal looks accounts up all the time, and nobody
/// chooses identities, so the hash need not withstand attacks.
pub type ById<T> = FxHashMap<AccountId, T>;
