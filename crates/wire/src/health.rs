//! Whether a server can do its work.

use serde::Serialize;

/// Whether the server can do its work, and what it takes.
#[derive(Serialize)]
pub struct Ready {
    /// Whether the database answers.
    pub database: bool,
    /// Whether its schema is the one that this program knows.
    pub migrations: bool,
    /// Whether somebody takes up jobs here.
    pub jobs: bool,
}
