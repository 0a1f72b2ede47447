//! What can go wrong below the rules.

/// A failure of the store. None of these is something a caller can mend in its request, but for
/// [`StoreError::NotFound`] and [`StoreError::Refused`].
#[derive(Debug, thiserror::Error)]
pub enum StoreError {
    /// A row that the program itself wrote cannot be read back.
    #[error("stored data is damaged: {0}")]
    Damaged(String),
    /// PostgreSQL refused or could not be reached.
    #[error(transparent)]
    Database(#[from] sqlx::Error),
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
    Refused(String),
    /// Somebody stopped the work; nothing of it was stored.
    #[error("the work was stopped")]
    Stopped,
}

impl StoreError {
    pub(crate) fn damaged(what: impl std::fmt::Display) -> Self {
        Self::Damaged(what.to_string())
    }
}

impl From<serde_json::Error> for StoreError {
    fn from(error: serde_json::Error) -> Self {
        Self::damaged(error)
    }
}
