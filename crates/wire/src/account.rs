//! One's own account: how one signs in, and how one likes dates and numbers.

use serde::{Deserialize, Serialize};
use zf_core::people::{DateForm, NumberForm};

/// One's own account.
#[derive(Serialize, utoipa::ToSchema)]
pub struct AccountView {
    pub name: String,
    pub email: String,
    pub dates: DateForm,
    pub numbers: NumberForm,
    /// Since when a second factor is asked for.
    pub factor_since: Option<String>,
    /// How many codes are left that stand in for it.
    pub recovery_codes: i64,
    pub sessions: Vec<SessionView>,
}

/// Where one is signed in.
#[derive(Serialize, utoipa::ToSchema)]
pub struct SessionView {
    pub id: i64,
    pub begun_at: String,
    pub used_at: String,
    pub client: String,
    pub agent: String,
    /// Whether it is this one.
    pub own: bool,
}

/// Another name.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct PersonName {
    pub name: String,
}

/// Another address.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct AddressForm {
    pub email: String,
    /// One's password.
    pub password: String,
    /// A code of one's second factor, when one has one.
    pub code: Option<String>,
}

/// Another password.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct PasswordForm {
    /// The one so far.
    pub password: String,
    /// A code of one's second factor, when one has one.
    pub code: Option<String>,
    /// The one from now on.
    pub new_password: String,
}

/// How one likes dates and numbers written.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct FormsForm {
    pub dates: DateForm,
    pub numbers: NumberForm,
}

/// A second factor that is proposed.
#[derive(Serialize, utoipa::ToSchema)]
pub struct FactorView {
    /// To be typed into a device.
    pub secret: String,
    /// To be photographed by it: an SVG drawing.
    pub drawing: String,
}

/// A code of a second factor.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct CodeForm {
    pub code: String,
}

/// The codes that stand in for a second factor, which are shown once.
#[derive(Serialize, utoipa::ToSchema)]
pub struct RecoveryView {
    pub recovery_codes: Vec<String>,
}

/// What somebody shows who is to be let change how they sign in.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct Credentials {
    /// Their password.
    pub password: String,
    /// A code of their second factor, or one that stands in for it, when they have one.
    pub code: Option<String>,
}
