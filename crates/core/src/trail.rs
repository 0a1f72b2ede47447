//! The trail: who did what. Each row is sealed over the one before it, so that a row that was changed,
//! taken out or put in afterwards is found by whoever kept the seal of a later one.

use crate::keyed::keyed;
use sha2::{Digest, Sha256};
use std::fmt::{self, Write};
use time::OffsetDateTime;

keyed! {
    /// What was done. The keys are sealed into the rows of trails, so they stay whatever a variant is called.
    TrailAction {
        /// A plan.
        Applied = "applied", "applied";
        /// An applied plan.
        Undid = "undid", "undid";
        /// A stop.
        Overrode = "overrode", "overrode a stop";
        /// A file, into the books.
        Imported = "imported", "imported";
        /// A file, into a plan.
        Staged = "staged", "staged";
        /// A file.
        RolledBack = "took_back", "rolled back";
        /// Something that was found.
        Dismissed = "dismissed", "dismissed";
        /// Accounts that look alike.
        MarkedNotDuplicates = "told_apart", "marked as no duplicates";
        /// The books.
        OpenedBooks = "opened_books", "opened the books";
        /// Books that were opened before the trail of the server named them by number.
        FoundBooks = "found_books", "found when the trail began to name books";
        /// The books' name.
        RenamedBooks = "renamed_books", "renamed the books";
        /// The books' currency.
        ChangedCurrency = "changed_currency", "changed the currency";
        /// The fiscal year.
        ChangedYear = "changed_year", "changed the fiscal year";
        /// The day up to which figures are shown.
        ChangedAsOf = "changed_as_of", "changed the as-of date";
        /// The numbering scheme.
        SetScheme = "laid_down_scheme", "set a numbering scheme";
        /// The statement items.
        ChangedItems = "changed_lines", "changed the statement items";
        /// How strict a rule is.
        ChangedPolicy = "changed_policy", "changed the policy";
        /// Whether the list of uses is complete.
        ChangedUsage = "changed_usage", "changed what is known of uses";
        /// From when the journal is complete.
        ChangedJournal = "changed_journal", "changed from when the journal is complete";
        /// Periods.
        Locked = "locked", "locked the books";
        /// Periods.
        Unlocked = "unlocked", "unlocked the books";
        /// The books.
        ArchivedBooks = "put_away", "archived the books";
        /// The books.
        RestoredBooks = "took_up", "restored the books";
        /// The books.
        DeletedBooks = "deleted_books", "deleted books";
        /// A member.
        AddedMember = "let_in", "added as a member";
        /// A member.
        ChangedRoles = "changed_roles", "changed the roles of";
        /// A member, of books that had no owner.
        MadeOwner = "gave_owner", "made owner of books without one";
        /// A member.
        RemovedMember = "let_out", "removed as a member";
        /// A person.
        Invited = "invited", "invited";
        /// A link.
        WithdrewInvitation = "withdrew_invitation", "withdrew the invitation of";
        /// By a link.
        Joined = "joined", "joined";
        /// A person.
        AddedPerson = "added_person", "added";
        /// A person.
        RemovedPerson = "removed_person", "removed";
        /// An administrator.
        MadeAdministrator = "made_administrator", "made an administrator of";
        /// An administrator.
        MadeOrdinary = "made_ordinary", "ended the administration by";
        /// Oneself.
        SignedIn = "signed_in", "signed in";
        /// Nobody who is known for sure.
        FailedSignIn = "failed_sign_in", "failed to sign in";
        /// Oneself.
        SignedOut = "signed_out", "signed out";
        /// A session, or several.
        EndedSessions = "ended_sessions", "ended sessions";
        /// A person's.
        ChangedName = "changed_name", "changed the name";
        /// One's own, by a letter to the new one.
        AskedForEmail = "asked_for_email", "asked to change the e-mail address";
        /// A person's.
        ChangedEmail = "changed_email", "changed the e-mail address";
        /// A person's.
        ChangedPassword = "changed_password", "changed the password";
        /// A link for a new password.
        AskedForPassword = "asked_for_password", "asked for a new password";
        /// A link for a new password of somebody else.
        MadePasswordLink = "made_password_link", "had a link for a new password sent to";
        /// A second factor.
        AddedFactor = "added_factor", "added a second factor";
        /// A second factor.
        RemovedFactor = "removed_factor", "removed the second factor";
        /// In place of a second factor.
        UsedRecoveryCode = "used_recovery_code", "used a recovery code";
    }
}

/// The SHA-256 of a row in its canonical form, which holds the seal of the row before it.
#[derive(Clone, Copy, PartialEq, Eq, Hash)]
pub struct Seal([u8; 32]);

impl Seal {
    /// What stands before the first row.
    pub const FIRST: Self = Self([0; 32]);

    /// A seal from its bytes.
    pub fn from_bytes(bytes: &[u8]) -> Option<Self> {
        bytes.try_into().ok().map(Self)
    }

    /// Its bytes.
    pub fn bytes(&self) -> &[u8] {
        &self.0
    }

    /// Reads 64 hexadecimal digits.
    pub fn parse(text: &str) -> Option<Self> {
        let sound = text.len() == 64 && text.bytes().all(|b| b.is_ascii_hexdigit());
        let byte = |at| u8::from_str_radix(text.get(at..at + 2)?, 16).ok();
        let bytes: Option<Vec<u8>> = sound.then(|| (0..64).step_by(2).map(byte).collect())?;
        Self::from_bytes(&bytes?)
    }
}

impl fmt::Display for Seal {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        self.0.iter().try_for_each(|byte| write!(f, "{byte:02x}"))
    }
}

impl fmt::Debug for Seal {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Display::fmt(self, f)
    }
}

/// One row of a trail.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Record {
    /// The books; `None` in the trail of the server itself.
    pub books: Option<i64>,
    /// Counts the rows of the trail from one.
    pub number: i64,
    /// When, to the microsecond.
    pub at: OffsetDateTime,
    /// Who; `None` when nobody was signed in.
    pub person: Option<i64>,
    /// Their name then, or the address that was given.
    pub by: String,
    /// The key of the [`TrailAction`]. A text, since a trail outlives the program that wrote it.
    pub what: String,
    /// To what, with old and new.
    pub detail: String,
    /// The application whose proof tells more.
    pub application: Option<i64>,
}

impl Record {
    /// The row in the one form that is sealed: JSON after RFC 8785 (keys in order, no white space), with
    /// the seal of the row before it.
    pub fn canonical(&self, before: Seal) -> String {
        let mut json = String::with_capacity(256);
        json.push('{');
        number(&mut json, "application", self.application);
        text(&mut json, "at", &moment(self.at));
        text(&mut json, "before", &before.to_string());
        number(&mut json, "books", self.books);
        text(&mut json, "by", &self.by);
        text(&mut json, "detail", &self.detail);
        number(&mut json, "number", Some(self.number));
        number(&mut json, "person", self.person);
        text(&mut json, "what", &self.what);
        json.pop();
        json.push('}');
        json
    }

    /// The row as a line of a file that is handed out: its canonical form with its own seal behind.
    pub fn line(&self, before: Seal, own: Seal) -> String {
        let canonical = self.canonical(before);
        format!("{},\"seal\":\"{own}\"}}\n", canonical.trim_end_matches('}'))
    }

    /// The seal of the row.
    pub fn seal(&self, before: Seal) -> Seal {
        Seal(Sha256::digest(self.canonical(before)).into())
    }
}

/// A moment as it is sealed: UTC with six decimals.
pub fn moment(at: OffsetDateTime) -> String {
    let at = at.to_offset(time::UtcOffset::UTC);
    let (hour, minute, second, micro) = at.to_hms_micro();
    format!("{}T{hour:02}:{minute:02}:{second:02}.{micro:06}Z", at.date())
}

fn number(json: &mut String, name: &str, value: Option<i64>) {
    // Writing to a text cannot fail.
    let _ = match value {
        Some(value) => write!(json, "\"{name}\":{value},"),
        None => write!(json, "\"{name}\":null,"),
    };
}

/// A text with what RFC 8785, section 3.2.2.2, escapes.
fn text(json: &mut String, name: &str, value: &str) {
    let _ = write!(json, "\"{name}\":\"");
    for c in value.chars() {
        match c {
            '"' => json.push_str("\\\""),
            '\\' => json.push_str("\\\\"),
            '\u{8}' => json.push_str("\\b"),
            '\t' => json.push_str("\\t"),
            '\n' => json.push_str("\\n"),
            '\u{c}' => json.push_str("\\f"),
            '\r' => json.push_str("\\r"),
            c if c < ' ' => {
                let _ = write!(json, "\\u{:04x}", u32::from(c));
            }
            c => json.push(c),
        }
    }
    json.push_str("\",");
}

/// Where a chain ends: how many rows it has, and the seal of the last one.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Head {
    /// How many rows.
    pub rows: i64,
    /// The seal of the last.
    pub seal: Seal,
}

impl Head {
    /// Of a chain without rows.
    pub const NONE: Self = Self { rows: 0, seal: Seal::FIRST };
}

/// What is wrong with a chain.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum Broken {
    /// A row is not the next one.
    #[error("row {expected} is not there: row {found} stands in its place")]
    Missing {
        /// The number that it should have.
        expected: i64,
        /// The number that it has.
        found: i64,
    },
    /// A row is not what was sealed.
    #[error("row {0} was changed since it was sealed, or a row before it was")]
    Changed(i64),
    /// The last rows are gone.
    #[error("the chain ends at row {found} and not at row {expected}, as its head says")]
    Ended {
        /// How many rows the head counts.
        expected: i64,
        /// How many there are.
        found: i64,
    },
    /// The head is another's.
    #[error("the seal of the last row is not that of the head")]
    OtherHead,
}

/// Follows a chain row by row.
#[derive(Clone, Copy, Debug)]
pub struct Following(Head);

impl Default for Following {
    fn default() -> Self {
        Self(Head::NONE)
    }
}

impl Following {
    /// Takes the next row with the seal that it was kept with.
    ///
    /// # Errors
    /// When it does not follow from the rows before it.
    pub fn take(&mut self, row: &Record, kept: Seal) -> Result<(), Broken> {
        let expected = self.0.rows + 1;
        if row.number != expected {
            return Err(Broken::Missing { expected, found: row.number });
        }
        let seal = row.seal(self.0.seal);
        if seal != kept {
            return Err(Broken::Changed(row.number));
        }
        self.0 = Head { rows: expected, seal };
        Ok(())
    }

    /// Where the chain ends as far as it was followed.
    pub fn head(&self) -> Head {
        self.0
    }

    /// Ends at the head that was kept.
    ///
    /// # Errors
    /// When rows are gone from the end, or the whole chain was written anew.
    pub fn ends_at(&self, kept: Head) -> Result<(), Broken> {
        let (expected, found) = (kept.rows, self.0.rows);
        if expected != found {
            return Err(Broken::Ended { expected, found });
        }
        if kept.seal == self.0.seal { Ok(()) } else { Err(Broken::OtherHead) }
    }
}
