//! Links by which somebody comes in, or chooses a new password.

use serde::{Deserialize, Serialize};
use zf_core::people::Purpose;

/// What a link shows.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct LinkForm {
    pub link: String,
}

/// What a link is for.
#[derive(Serialize, utoipa::ToSchema)]
pub struct LinkView {
    pub purpose: Purpose,
    pub email: Option<String>,
    pub name: Option<String>,
    /// Who invited.
    pub invited_by: Option<String>,
    pub expires_at: String,
}

/// What somebody gives who follows a link.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct FollowForm {
    pub link: String,
    /// The first person says who they are; who was invited has the address that was invited.
    pub email: Option<String>,
    /// Not asked of whoever only chooses a password.
    pub name: Option<String>,
    pub password: String,
}

/// Whose password is forgotten.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct ForgotForm {
    pub email: String,
}
