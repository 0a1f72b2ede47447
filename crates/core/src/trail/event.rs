//! What people do, as the trails keep it: facts, put in words whenever they are read.

use crate::access::Roles;
use crate::calendar::FiscalCalendar;
use crate::entry::JournalSince;
use crate::file_kind::FileKind;
use crate::items::ItemChange;
use crate::keyed::keyed;
use crate::money::Currency;
use crate::names::ArchivedName;
use crate::policy::{CodeFormat, Level, RelaxableRule};
use crate::rehearsal::rule::Rule;
use crate::review::remarks::RemarkKind;
use serde::{Deserialize, Serialize};
use time::Date;

/// Declares what can be done, a row each: the key, which is sealed and so stays whatever the variant is called,
/// and what is told of it.
macro_rules! events {
    ($($(#[$doc:meta])* $event:ident = $key:literal { $($field:ident: $type:ty),* };)+) => {
        keyed! {
            /// What was done. The keys are sealed into the rows of trails, so they stay whatever a variant is called.
            TrailAction { $($(#[$doc])* $event = $key;)+ }
        }

        /// What was done, with what is told of it.
        #[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
        #[expect(missing_docs, reason = "a field is told by its name and type")]
        pub enum Event { $($(#[$doc])* #[serde(rename = $key)] $event { $($field: $type),* },)+ }

        impl Event {
            /// Which action it is.
            pub const fn action(&self) -> TrailAction {
                match self { $(Self::$event { .. } => TrailAction::$event,)+ }
            }
        }
    };
}

events! {
    /// A plan was applied.
    Applied = "applied" { plan: String, accounts: u64 };
    /// An applied plan was undone.
    Undid = "undid" { plan: String, accounts: u64 };
    /// A stop was overridden; the proof of the application has what was found, under this key.
    Overrode = "overrode" { finding: String, rule: Rule, accounts: Vec<ArchivedName>, reason: String };
    /// A file was imported into the books; accounts that its lines need are active again.
    Imported = "imported" { kind: Option<FileKind>, file: String, rows: i64, reactivated: Vec<ArchivedName> };
    /// A file was staged in a plan.
    Staged = "staged" { file: String, rows: u64, plan: String };
    /// The import of a file was rolled back.
    RolledBack = "took_back" { file: String, entries: u64 };
    /// A remark of the review was dismissed, or all of its kind.
    Dismissed = "dismissed" { kind: RemarkKind, all: bool, reason: String };
    /// Accounts that look alike were marked as no duplicates.
    MarkedNotDuplicates = "told_apart" { accounts: u64, reason: String };
    /// Books were opened.
    OpenedBooks = "opened_books" { name: String };
    /// Books that had been opened before the trail of the server named them by number.
    FoundBooks = "found_books" { name: String };
    /// The books have another name.
    RenamedBooks = "renamed_books" { from: String, to: String };
    /// The books have another currency.
    ChangedCurrency = "changed_currency" { from: Currency, to: Currency };
    /// The fiscal year starts on another day.
    ChangedYear = "changed_year" { from: FiscalCalendar, to: FiscalCalendar };
    /// Figures are shown up to another day; none is the latest period with its usual lines.
    ChangedAsOf = "changed_as_of" { from: Option<Date>, to: Option<Date> };
    /// The numbering scheme was set.
    SetScheme = "laid_down_scheme" { from: Scheme, to: Scheme };
    /// A statement item was changed.
    ChangedItems = "changed_lines" { change: ItemChange };
    /// A rule is as strict as another level says.
    ChangedPolicy = "changed_policy" { rule: RelaxableRule, from: Level, to: Level };
    /// The list of uses is known to be complete, or no longer.
    ChangedUsage = "changed_usage" { complete: bool };
    /// The journal is complete from another day on.
    ChangedJournal = "changed_journal" { from: JournalSince, to: JournalSince };
    /// Periods up to a day were locked.
    Locked = "locked" { from: Option<Date>, until: Option<Date> };
    /// Locked periods were unlocked.
    Unlocked = "unlocked" { from: Option<Date>, until: Option<Date>, reason: String };
    /// The books were archived.
    ArchivedBooks = "put_away" {};
    /// Archived books were restored.
    RestoredBooks = "took_up" {};
    /// Books were deleted; with them went a trail of so many rows, the last of which had this seal.
    DeletedBooks = "deleted_books" { books: i64, name: String, rows: i64, seal: String };
    /// A member was added.
    AddedMember = "let_in" { person: String, roles: Roles, until: Option<Date>, way: Admitted };
    /// A member has other roles.
    ChangedRoles = "changed_roles" { person: String, from: Roles, to: Roles, until: Option<Date>, way: Admitted };
    /// A member was made owner of books that had none.
    MadeOwner = "gave_owner" { person: String, books: Option<String> };
    /// A member was removed.
    RemovedMember = "let_out" { person: String, roles: Roles };
    /// Somebody was invited: into books with roles, or to the server.
    Invited = "invited" { person: String, email: String, roles: Option<Roles> };
    /// An invitation was withdrawn.
    WithdrewInvitation = "withdrew_invitation" { email: String };
    /// Somebody followed an invitation; nobody had invited the first person.
    Joined = "joined" { email: String, invited_by: Option<String>, first: bool };
    /// A person was added.
    AddedPerson = "added_person" { person: String, email: String };
    /// A person was removed, and with them the links that they had sent or were sent.
    RemovedPerson = "removed_person" { person: String, email: String, links: bool };
    /// Somebody was made an administrator.
    MadeAdministrator = "made_administrator" { person: String };
    /// Somebody is no administrator any more.
    MadeOrdinary = "made_ordinary" { person: String };
    /// Somebody signed in.
    SignedIn = "signed_in" { client: String };
    /// Somebody failed to sign in, or to show who they are.
    FailedSignIn = "failed_sign_in" { client: String, why: FailedTry };
    /// Somebody signed out.
    SignedOut = "signed_out" {};
    /// Sessions of one's own were ended: one from a client, or all others.
    EndedSessions = "ended_sessions" { client: Option<String>, others: u64 };
    /// A person has another name.
    ChangedName = "changed_name" { from: String, to: String };
    /// Somebody asked for another e-mail address.
    AskedForEmail = "asked_for_email" { from: String, to: String };
    /// A person has another e-mail address.
    ChangedEmail = "changed_email" { from: String, to: String };
    /// A person has another password.
    ChangedPassword = "changed_password" { person: Option<String>, link: bool, link_by: Option<String>, sessions: Option<u64> };
    /// Somebody asked for a link for a new password.
    AskedForPassword = "asked_for_password" { person: String, email: String };
    /// Somebody else was sent a link for a new password.
    MadePasswordLink = "made_password_link" { person: String, email: String };
    /// Somebody added a second factor.
    AddedFactor = "added_factor" {};
    /// A second factor was removed.
    RemovedFactor = "removed_factor" { person: String };
    /// A recovery code was used in place of the second factor; so many are left.
    UsedRecoveryCode = "used_recovery_code" { left: i64 };
}

impl TrailAction {
    /// What can have been done to a set of books, in the order in which one looks for it.
    pub const OF_BOOKS: &'static [Self] = &[
        Self::Applied,
        Self::Undid,
        Self::Overrode,
        Self::Imported,
        Self::Staged,
        Self::RolledBack,
        Self::Dismissed,
        Self::MarkedNotDuplicates,
        Self::Locked,
        Self::Unlocked,
        Self::ChangedItems,
        Self::SetScheme,
        Self::ChangedPolicy,
        Self::ChangedAsOf,
        Self::ChangedYear,
        Self::ChangedCurrency,
        Self::ChangedUsage,
        Self::ChangedJournal,
        Self::RenamedBooks,
        Self::AddedMember,
        Self::ChangedRoles,
        Self::MadeOwner,
        Self::RemovedMember,
        Self::Invited,
        Self::WithdrewInvitation,
        Self::ChangedPassword,
        Self::RemovedFactor,
        Self::OpenedBooks,
        Self::ArchivedBooks,
        Self::RestoredBooks,
    ];

    /// What can have been done to the server, in the order in which one looks for it.
    pub const OF_SERVER: &'static [Self] = &[
        Self::SignedIn,
        Self::FailedSignIn,
        Self::SignedOut,
        Self::EndedSessions,
        Self::ChangedPassword,
        Self::AskedForPassword,
        Self::MadePasswordLink,
        Self::AddedFactor,
        Self::RemovedFactor,
        Self::UsedRecoveryCode,
        Self::ChangedName,
        Self::AskedForEmail,
        Self::ChangedEmail,
        Self::Invited,
        Self::WithdrewInvitation,
        Self::Joined,
        Self::AddedPerson,
        Self::RemovedPerson,
        Self::MadeAdministrator,
        Self::MadeOrdinary,
        Self::AddedMember,
        Self::ChangedRoles,
        Self::MadeOwner,
        Self::OpenedBooks,
        Self::FoundBooks,
        Self::DeletedBooks,
    ];
}

/// How somebody became a member, or was given other roles.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Admitted {
    /// By a member who may.
    ByMember,
    /// By an invitation that was followed.
    ByInvitation,
    /// By whoever runs the server.
    ByOperator,
}

keyed! {
    /// Why somebody failed to show who they are.
    FailedTry {
        /// Nobody has this address with this password.
        WrongPassword = "wrong_password";
        /// The code of the second factor was wrong.
        WrongCode = "wrong_code";
        /// The password was wrong that a change of the account takes.
        WrongPasswordForChange = "wrong_password_for_change";
        /// The code was wrong that a change of the account takes.
        WrongCodeForChange = "wrong_code_for_change";
        /// There were too many tries.
        TooMany = "too_many";
    }
}

/// A numbering scheme, as far as the trail tells it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Scheme {
    /// The form of codes.
    pub format: CodeFormat,
    /// How many blocks there are.
    pub blocks: u64,
}
