//! Why something is raised, as data: what a rule saw, without a word of how it is said.

use super::rule::Rule;
use crate::chart::{Class, ControlRole, Kind, Status};
use crate::code::{Code, Interval};
use crate::history::Which;
use crate::ids::{AccountId, ItemId};
use crate::money::Currency;
use crate::plan::{Change, Field};
use crate::policy::Objection;
use crate::statement::Section;
use serde::{Deserialize, Serialize};
use std::hash::{Hash, Hasher};
use time::Date;
use xxhash_rust::xxh3::Xxh3;

/// Declares the causes: one for each rule, by the rule's name.
macro_rules! causes {
    ($($(#[$doc:meta])* $rule:ident { $($field:ident: $type:ty),+ $(,)? })+) => {
        /// What a rule came upon: one kind of cause for each [`Rule`], which is told there. Accounts are
        /// given by identity, so that another name is no other cause.
        #[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
        #[serde(rename_all = "snake_case")]
        #[expect(missing_docs, reason = "a variant is told where its rule is, a field by its name and type")]
        pub enum Cause { $($(#[$doc])* $rule { $($field: $type),+ },)+ }

        impl Cause {
            /// The rule that it is a cause of.
            pub const fn rule(&self) -> Rule {
                match self { $(Self::$rule { .. } => Rule::$rule,)+ }
            }

            // The place of a rule among the others is no part of it, so that a new rule changes no digest.
            fn digest(&self) -> u64 {
                match self { $(Self::$rule { $($field),+ } => digest(&($($field,)+)),)+ }
            }
        }
    };
}

/// Why an account cannot take over history.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Unfit {
    /// It would be gone.
    Gone,
    /// It is where the history stands already.
    Same,
    /// Such rows take no lines.
    Kind(Kind),
    /// Accounts in such a state take no lines.
    Status(Status),
}

/// What the history of a merged account takes on from its survivor, when the two disagree.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Disagreement {
    /// Another line of the statements.
    Caption(Option<ItemId>, Option<ItemId>),
    /// Another heading.
    Parent(Option<AccountId>, Option<AccountId>),
    /// Another tax code.
    Tax(Option<String>, Option<String>),
    /// Another side; whether the merged account was contra.
    Contra(bool),
}

/// What adds up stretches of codes.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum SumOf {
    /// A sum line of the chart.
    Row(AccountId),
    /// A line of a report, by its name.
    Report(String),
}

/// What speaks against taking an added account away again.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Since {
    /// It has lines.
    Lines,
    /// Something names it.
    Named(String),
}

/// Where amounts stand on the statements.
pub type Place = (Class, Option<ItemId>);

causes! {
    /// Where its history stands now, if it was merged.
    AccountGone { account: AccountId, merged_into: Option<AccountId> }
    BaseChanged { account: AccountId, field: Field, base: Change, staged: Change, now: Change }
    AddedIncomplete { account: AccountId }
    /// The first of the accounts can give way.
    CodeTaken { code: Code, accounts: Vec<AccountId> }
    CodeFormat { account: AccountId, code: Code, objection: Objection }
    /// The form of the code of these, with a 9 for a run of digits and an A for one of letters.
    CodeUnlike { form: String, accounts: Vec<AccountId> }
    CodeOutsideBlock { account: AccountId, class: Class, standard: Option<Section>, blocks: Vec<Interval> }
    CodeReused { account: AccountId, code: Code, former: Vec<AccountId> }
    /// The first of the accounts is the one that the plan calls so.
    NameTaken { accounts: Vec<AccountId> }
    MergeCircle { accounts: Vec<AccountId> }
    MergeChain { account: AccountId, first: AccountId, end: AccountId }
    MergeIntoRetired { merged: AccountId, survivor: AccountId, why: Unfit }
    MergeKind { merged: AccountId, survivor: AccountId, kinds: (Kind, Kind) }
    MergeClass { merged: AccountId, survivor: AccountId, classes: (Class, Class) }
    MergeCurrency { merged: AccountId, survivor: AccountId, currencies: (Option<Currency>, Option<Currency>) }
    MergeRole { merged: AccountId, survivor: AccountId, role: ControlRole, other: Option<ControlRole> }
    MergeSettings { merged: AccountId, survivor: AccountId, differ: Vec<Disagreement> }
    MergeBankCleared { merged: AccountId, survivor: AccountId, cleared: u64 }
    ChildrenLeft { parent: AccountId, rows: Vec<AccountId> }
    DeleteUsed { account: AccountId, lines: u64 }
    DeleteMerged { account: AccountId, merged: AccountId }
    DeleteNamed { account: AccountId, uses: Vec<String> }
    DeleteControl { account: AccountId, role: ControlRole }
    /// Whether a where-used list is complete, so that only the journal may be short; and from when that is not.
    DeleteUnproven { account: AccountId, given: bool, since: Option<Date> }
    ArchiveBalance { account: AccountId }
    ArchiveRecent { account: AccountId, last: Date, prior_year: Date }
    ArchiveControl { account: AccountId, role: ControlRole }
    ArchiveNamed { account: AccountId, uses: Vec<String> }
    DeactivateControl { account: AccountId, role: ControlRole }
    /// The balance in minor units of the base currency; debits are positive.
    DeactivateBalance { account: AccountId, balance: i128 }
    /// Its lines in the fiscal year of the as-of date, in the one before, and the day of the latest.
    DeactivateRecent { account: AccountId, this_year: u64, last_year: u64, last: Date }
    RestoreNothing { account: AccountId, status: Status }
    ClassWithin { account: AccountId, from: Class, to: Class }
    /// How many lines are older than this year.
    ClassAcross { account: AccountId, from: Class, to: Class, older: u64 }
    KindUsed { account: AccountId, lines: u64, kind: Kind }
    SumEmpty { account: AccountId }
    RoleTaken { account: AccountId, other: AccountId, role: ControlRole }
    CurrencyNotAllowed { account: AccountId, currency: Currency }
    /// How many lines are in others.
    CurrencyMixed { account: AccountId, currency: Currency, lines: u64 }
    ContraChanges { account: AccountId, contra: bool }
    SectionForeign { account: AccountId, class: Class, caption: Option<ItemId> }
    SectionDropped { account: AccountId, from: ItemId }
    ParentUnfit { account: AccountId, parent: AccountId, found: Option<(Status, Kind)> }
    ParentCircle { accounts: Vec<AccountId> }
    ParentClass { account: AccountId, class: Class, parent: AccountId, of_parent: Class }
    MoveNowhere { from: AccountId, to: AccountId, why: Unfit }
    /// Which lines are for which account, of the two parts.
    MoveOverlap { from: AccountId, lines: u64, first: (AccountId, Which), second: (AccountId, Which) }
    MoveNothing { from: AccountId, to: AccountId, which: Which }
    MoveCurrency { from: AccountId, to: AccountId, lines: u64, currency: Currency }
    MoveControl { from: AccountId, to: AccountId, lines: u64, role: ControlRole }
    MoveBankCleared { from: AccountId, to: AccountId, lines: u64, cleared: u64 }
    /// The net in minor units of the base currency; debits are positive.
    MoveCaption { from: AccountId, to: AccountId, lines: u64, net: i128, places: (Place, Place) }
    MoveAcross { from: AccountId, to: AccountId, lines: u64, classes: (Class, Class) }
    LockedTotal { from: AccountId, to: AccountId, until: Date, places: (Place, Place) }
    SumLost { sum: AccountId, intervals: Vec<Interval> }
    ReportLineLost { name: String, intervals: Vec<Interval>, members: Vec<AccountId> }
    /// The sums in minor units of the base currency.
    SumEdge { sum: SumOf, before: i128, after: i128, crossing: Vec<AccountId> }
    UndoLater { plan: String, shared: Vec<AccountId> }
    UndoKept { account: AccountId, since: Since }
}

fn digest(what: &impl Hash) -> u64 {
    let mut hash = Xxh3::new();
    what.hash(&mut hash);
    hash.finish()
}

impl Cause {
    /// The accounts it is about; the first is the one whose row shows it.
    pub fn accounts(&self) -> Vec<AccountId> {
        match self {
            Self::AccountGone { account, .. }
            | Self::BaseChanged { account, .. }
            | Self::AddedIncomplete { account }
            | Self::CodeFormat { account, .. }
            | Self::CodeOutsideBlock { account, .. }
            | Self::DeleteUsed { account, .. }
            | Self::DeleteNamed { account, .. }
            | Self::DeleteControl { account, .. }
            | Self::DeleteUnproven { account, .. }
            | Self::ArchiveBalance { account }
            | Self::ArchiveRecent { account, .. }
            | Self::ArchiveControl { account, .. }
            | Self::ArchiveNamed { account, .. }
            | Self::DeactivateControl { account, .. }
            | Self::DeactivateBalance { account, .. }
            | Self::DeactivateRecent { account, .. }
            | Self::RestoreNothing { account, .. }
            | Self::ClassWithin { account, .. }
            | Self::ClassAcross { account, .. }
            | Self::KindUsed { account, .. }
            | Self::SumEmpty { account }
            | Self::CurrencyNotAllowed { account, .. }
            | Self::CurrencyMixed { account, .. }
            | Self::ContraChanges { account, .. }
            | Self::SectionForeign { account, .. }
            | Self::SectionDropped { account, .. }
            | Self::SumLost { sum: account, .. }
            | Self::UndoKept { account, .. } => vec![*account],
            Self::MergeIntoRetired { merged: one, survivor: other, .. }
            | Self::MergeKind { merged: one, survivor: other, .. }
            | Self::MergeClass { merged: one, survivor: other, .. }
            | Self::MergeCurrency { merged: one, survivor: other, .. }
            | Self::MergeRole { merged: one, survivor: other, .. }
            | Self::MergeSettings { merged: one, survivor: other, .. }
            | Self::MergeBankCleared { merged: one, survivor: other, .. }
            | Self::RoleTaken { account: one, other, .. }
            | Self::DeleteMerged { account: one, merged: other }
            | Self::ParentUnfit { account: one, parent: other, .. }
            | Self::ParentClass { account: one, parent: other, .. }
            | Self::MoveNowhere { from: one, to: other, .. }
            | Self::MoveNothing { from: one, to: other, .. }
            | Self::MoveCurrency { from: one, to: other, .. }
            | Self::MoveControl { from: one, to: other, .. }
            | Self::MoveBankCleared { from: one, to: other, .. }
            | Self::MoveCaption { from: one, to: other, .. }
            | Self::MoveAcross { from: one, to: other, .. }
            | Self::LockedTotal { from: one, to: other, .. } => vec![*one, *other],
            Self::MergeChain { account, first, end } => vec![*account, *first, *end],
            Self::MoveOverlap { from, first, second, .. } => vec![*from, first.0, second.0],
            Self::CodeTaken { accounts, .. }
            | Self::CodeUnlike { accounts, .. }
            | Self::NameTaken { accounts }
            | Self::MergeCircle { accounts }
            | Self::ParentCircle { accounts }
            | Self::ReportLineLost { members: accounts, .. }
            | Self::UndoLater { shared: accounts, .. } => accounts.clone(),
            Self::CodeReused { account: first, former: others, .. }
            | Self::ChildrenLeft { parent: first, rows: others }
            | Self::SumEdge { sum: SumOf::Row(first), crossing: others, .. } => {
                std::iter::once(*first).chain(others.iter().copied()).collect()
            }
            Self::SumEdge { sum: SumOf::Report(_), crossing, .. } => crossing.clone(),
        }
    }

    /// Tells it from all other causes: the rule, the accounts, and a digest of the rest.
    pub fn key(&self) -> String {
        self.key_with(self.digest())
    }

    /// The key that it had as long as digests took classes by their place among the others. Drafts of that time
    /// keep reasons by it.
    pub fn earlier_key(&self) -> Option<String> {
        let place = |class: &Class| {
            Class::ALL.iter().position(|one| one == class).unwrap_or_default() as isize
        };
        let at = |(class, line): &Place| (place(class), *line);
        let digest = match self {
            Self::ClassAcross { account, from, to, older } => {
                digest(&(account, place(from), place(to), older))
            }
            Self::MoveAcross { from, to, lines, classes: (before, after) } => {
                digest(&(from, to, lines, (place(before), place(after))))
            }
            Self::LockedTotal { from, to, until, places: (before, after) } => {
                digest(&(from, to, until, (at(before), at(after))))
            }
            _ => return None,
        };
        Some(self.key_with(digest))
    }

    fn key_with(&self, digest: u64) -> String {
        let ids = self.accounts().iter().map(ToString::to_string).collect::<Vec<_>>().join("-");
        format!("{}:{ids}:{digest:016x}", self.rule().key())
    }
}
