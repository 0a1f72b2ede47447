//! Letters of the outbox that the demo shows.

use serde::Serialize;

/// A letter that was sent.
#[derive(Serialize, utoipa::ToSchema)]
pub struct LetterView {
    pub at: String,
    pub to: String,
    pub subject: String,
    pub text: String,
}
