//! What is seen of two accounts that speaks for their being the same thing, or against it.

use crate::dimension::DimensionValue;
use crate::ids::AccountId;
use time::Date;

/// One thing that is seen of two accounts.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Observation {
    /// What their names have in common.
    Names(AccountId, AccountId, InCommon),
    /// The name of one says that it is to be given up, or is one of two.
    Marked(AccountId),
    /// Their codes are neighbours.
    NeighbouringCodes(AccountId, AccountId),
    /// Their codes are variants of one code.
    CodeVariants(AccountId, AccountId),
    /// They stand in two places of the statements.
    OtherPlace,
    /// They stand under the same heading.
    SameHeading,
    /// They are of the same statement item.
    SameItem,
    /// They have two tax codes.
    OtherTax,
    /// One was never posted to, and the other is.
    NeverPosted(AccountId, AccountId),
    /// Both are in use.
    BothInUse,
    /// One was last posted to on a day, and what the other does then.
    Stopped(AccountId, Date, AccountId, Then),
    /// Their lines are of quite other amounts.
    OtherAmounts,
    /// They are posted to in quite another rhythm.
    OtherRhythm,
    /// Their lines are with other people.
    OtherPeople,
    /// Both have lines with these people.
    SamePeople(Vec<String>),
    /// Lines of both say these words.
    SamePhrases(Vec<String>),
    /// Entries of both have these accounts on the other side.
    SameCounterAccounts(Vec<AccountId>),
    /// Their lines have other dimension values.
    OtherDimensions,
    /// Both have lines with these dimension values.
    SameDimensions(Vec<DimensionValue>),
}

/// What two names have in common.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum InCommon {
    /// No word.
    NoWord,
    /// Some words, and each says something else besides.
    EachSaysMore([String; 2]),
    /// Some words, and one says this besides.
    OneSaysMore(String),
    /// The words that tell most.
    TellingWords,
    /// All words.
    AllWords,
    /// What they say, in words of which some were read as others.
    Meaning(Vec<(String, String)>),
}

/// What an account does from the day on which another stopped.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Then {
    /// It starts later.
    StartsAfter,
    /// It goes on.
    GoesOn,
    /// It starts about there.
    StartsThere,
}
