//! The members of books.

use crate::people::{InvitationView, LetterSent};
use serde::{Deserialize, Serialize};
use zf_core::access::Role;

/// Who is in the books, and who was invited.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MembersView {
    pub members: Vec<MemberView>,
    pub invitations: Vec<InvitationView>,
}

/// A member of the books.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MemberView {
    pub person: i64,
    pub name: String,
    pub email: String,
    pub roles: Vec<Role>,
    /// The one plan that a guest sees.
    pub plan: Option<i64>,
    /// What it is called.
    pub plan_name: Option<String>,
    /// When their time ends.
    pub until: Option<String>,
    /// Whether it has.
    pub over: bool,
}

/// Whom to let in, and as what.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct MemberForm {
    pub email: String,
    /// Asked of somebody who cannot sign in yet, and is invited.
    pub name: Option<String>,
    pub roles: Vec<Role>,
    /// The one plan of a guest.
    pub plan: Option<i64>,
    /// The last day of their time; asked of a guest.
    pub until: Option<String>,
}

/// What became of it.
#[derive(Serialize, utoipa::ToSchema)]
pub struct MemberAdded {
    /// The letter that went to somebody who cannot sign in yet.
    pub invited: Option<LetterSent>,
}
