//! Signing in, and who is signed in.

use serde::{Deserialize, Serialize};
use zf_core::people::{DateForm, NumberForm};

/// What one signs in with.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct SignIn {
    pub email: String,
    pub password: String,
    /// What the device of a second factor shows, or a code that stands in for it.
    pub code: Option<String>,
}

/// Who is signed in.
#[derive(Serialize, utoipa::ToSchema)]
pub struct Me {
    pub id: i64,
    pub name: String,
    pub email: String,
    pub administrator: bool,
    pub dates: DateForm,
    pub numbers: NumberForm,
    /// Whether the letters that the server sends can be looked at.
    pub outbox: bool,
    /// Whose password was chosen in the last day by a link that somebody else had sent: one's own, or that
    /// of somebody in books that one owns.
    pub links_used: Vec<LinkUseView>,
}

/// That somebody's password was chosen by a link that somebody else had sent.
#[derive(Serialize, utoipa::ToSchema)]
pub struct LinkUseView {
    pub name: String,
    pub sent_by: String,
    pub at: String,
}
