//! What can go wrong below the rules, and what PostgreSQL's errors mean to a person.

use std::borrow::Cow;
use time::OffsetDateTime;
use zf_core::rollback::Blocker;

/// A failure of the store.
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// The database cannot be reached, or all connections to it are in use. Nothing was changed.
    #[error(
        "the database is away or too busy just now, and nothing was changed; try again in a moment"
    )]
    Away,
    /// The line to the database broke before it answered.
    #[error(
        "the line to the database broke before it answered; look whether this was done before you do it again"
    )]
    Broken,
    /// Somebody else holds the books or the plan: who, by name, as far as that is known.
    #[error("{} just now, so nothing of yours was stored; try again in a moment", who(.0))]
    Busy(Vec<String>),
    /// A row that the program itself wrote cannot be read back.
    #[error("stored data is damaged: {0}")]
    Damaged(String),
    /// PostgreSQL refused what the program should not have asked.
    #[error(transparent)]
    Database(sqlx::Error),
    /// A plan is no draft any more.
    #[error("{0}")]
    Ended(Box<EndedPlan>),
    /// The network failed.
    #[error(transparent)]
    Io(#[from] std::io::Error),
    /// A migration failed.
    #[error(transparent)]
    Migration(#[from] sqlx::migrate::MigrateError),
    /// There is no such thing, or not for this person.
    #[error("there is no such {0}")]
    NotFound(&'static str),
    /// The request cannot be carried out as things stand, with the reason.
    #[error("{0}")]
    Refused(Cow<'static, str>),
    /// Somebody stopped the work; nothing of it was stored.
    #[error("the work was stopped")]
    Stopped,
    /// Somebody else stored a file meanwhile, and this one cannot follow it as it is.
    #[error(
        "“{file_name}” was stored by {person} while this file was looked at, and nothing of this one was \
         stored; look at it again"
    )]
    StoredMeanwhile {
        /// The other file.
        file_name: String,
        /// Who stored it.
        person: String,
    },
    /// The line to the database broke in the very moment of storing, and it does not say what became of it.
    #[error(
        "the line to the database broke while this was being stored, and whether it was stored is not known; \
         look at the trail before you do it again"
    )]
    Unknown,
    /// A file that is to be taken back, on which something was built.
    #[error("something was built on what the file brought")]
    Stays(Blocker),
    /// Somebody else was first with something that there can be only one of.
    #[error("{0}")]
    Taken(&'static str),
    /// Others read as much, and one stood in line for too long.
    #[error("many long lists are read just now; try again in a minute")]
    Crowded,
    /// Something in the request cannot be kept in a database.
    #[error("{0}")]
    Unstorable(&'static str),
}

impl StoreError {
    /// The same for each of many who asked for one thing together.
    pub fn shared(error: std::sync::Arc<Self>) -> Self {
        std::sync::Arc::try_unwrap(error).unwrap_or_else(|error| match &*error {
            Self::Away => Self::Away,
            Self::Broken => Self::Broken,
            Self::Crowded => Self::Crowded,
            Self::Busy(who) => Self::Busy(who.clone()),
            Self::Ended(plan) => Self::Ended(plan.clone()),
            Self::NotFound(what) => Self::NotFound(what),
            other => Self::Damaged(other.to_string()),
        })
    }
}

/// A plan that somebody applied or discarded.
#[derive(Clone, Debug)]
pub struct EndedPlan {
    /// What it is called.
    pub name: String,
    /// Whether it was applied and not discarded.
    pub applied: bool,
    /// Who ended it, and when; not known of plans that were discarded long ago.
    pub ended: Option<(String, OffsetDateTime)>,
}

impl std::fmt::Display for EndedPlan {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let how = if self.applied { "applied" } else { "discarded" };
        write!(f, "“{}” was {how} already", self.name)?;
        if let Some((person, at)) = &self.ended {
            let (hour, minute, _) = at.to_hms();
            let day = zf_core::calendar::say_day(at.date());
            write!(f, ", by {person} on {day} at {hour:02}:{minute:02} UTC")?;
        }
        write!(f, "; nothing of this was stored")
    }
}

fn who(names: &[String]) -> String {
    match names {
        [] => "somebody else is changing these books".to_owned(),
        [name] => format!("{name} is changing these books"),
        names => format!("{} are changing these books", names.join(" and ")),
    }
}

impl StoreError {
    pub(crate) fn damaged(what: impl std::fmt::Display) -> Self {
        Self::Damaged(what.to_string())
    }

    /// The value that a stored key stands for, or that the key is not known.
    pub(crate) fn known<T>(found: Option<T>, key: &str) -> Result<T, Self> {
        found.ok_or_else(|| Self::damaged(format!("unknown key {key}")))
    }

    pub(crate) fn refused(why: impl Into<Cow<'static, str>>) -> Self {
        Self::Refused(why.into())
    }
}

impl From<serde_json::Error> for StoreError {
    fn from(error: serde_json::Error) -> Self {
        Self::damaged(error)
    }
}

/// What an error of PostgreSQL means: the one place where its codes are looked at.
/// <https://www.postgresql.org/docs/current/errcodes-appendix.html>
impl From<sqlx::Error> for StoreError {
    fn from(error: sqlx::Error) -> Self {
        let refusal = match &error {
            sqlx::Error::PoolTimedOut | sqlx::Error::PoolClosed => return Self::Away,
            sqlx::Error::Io(_) | sqlx::Error::WorkerCrashed => return Self::Broken,
            sqlx::Error::Database(refusal) => refusal,
            _ => return Self::Database(error),
        };
        match refusal.code().as_deref().unwrap_or_default() {
            "23503" => Self::refused("what this belongs to is not there any more; look again"),
            "23505" => Self::Taken(match refusal.constraint() {
                Some("account_code_is_unique") => {
                    "another account has the same code by now; look again"
                }
                Some("entry_books_id_number_key") => {
                    "an entry with the same number was stored meanwhile; look again"
                }
                _ => "somebody else stored the same meanwhile; look again",
            }),
            "22021" | "22P05" => Self::Unstorable("a text holds a character that cannot be stored"),
            "22001" | "54000" => Self::Unstorable("a text is too long to be stored"),
            "22003" | "22007" | "22008" => {
                Self::Unstorable("a number or a date is out of the range that can be stored")
            }
            "40001" | "40P01" | "55P03" => Self::Busy(Vec::new()),
            "53300" | "57P01" | "57P02" | "57P03" => Self::Away,
            _ => Self::Database(error),
        }
    }
}
