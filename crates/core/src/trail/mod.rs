//! The trail: who did what. Each row is sealed over the one before it, so that a row that was changed,
//! taken out or put in afterwards is found by whoever kept the seal of a later one.

mod event;

pub use event::{Admitted, Event, FailedTry, Scheme, TrailAction};

use crate::ids::{ApplicationId, BooksId, PersonId};
use sha2::{Digest, Sha256};
use std::fmt::{self, Write};
use time::OffsetDateTime;

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

/// What a row tells beside its action.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Detail {
    /// A sentence, as the first rows were sealed.
    Sentence(String),
    /// The fields of an [`Event`]: a JSON object after RFC 8785, put in words whenever it is read.
    Facts(String),
}

/// One row of a trail.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Record {
    /// The books; `None` in the trail of the server itself.
    pub books: Option<BooksId>,
    /// Counts the rows of the trail from one.
    pub number: i64,
    /// When, to the microsecond.
    pub at: OffsetDateTime,
    /// Who; `None` when nobody was signed in.
    pub person: Option<PersonId>,
    /// Their name then, or the address that was given.
    pub by: String,
    /// The key of the [`TrailAction`]. A text, since a trail outlives the program that wrote it.
    pub what: String,
    /// To what, with old and new.
    pub detail: Detail,
    /// The application whose proof tells more.
    pub application: Option<ApplicationId>,
}

impl Record {
    /// The row in the one form that is sealed: JSON after RFC 8785 (keys in order, no white space), with
    /// the seal of the row before it.
    pub fn canonical(&self, before: Seal) -> String {
        let mut json = String::with_capacity(256);
        json.push('{');
        number(&mut json, "application", self.application.map(|id| id.0));
        text(&mut json, "at", &moment(self.at));
        text(&mut json, "before", &before.to_string());
        number(&mut json, "books", self.books.map(|id| id.0));
        text(&mut json, "by", &self.by);
        match &self.detail {
            Detail::Sentence(sentence) => text(&mut json, "detail", sentence),
            // Writing to a text cannot fail.
            Detail::Facts(facts) => drop(write!(json, "\"detail\":{facts},")),
        }
        number(&mut json, "number", Some(self.number));
        number(&mut json, "person", self.person.map(|id| id.0));
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
