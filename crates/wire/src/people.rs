//! The people of a server, and who is invited.

use serde::{Deserialize, Serialize};
use zf_core::access::Role;

/// Everybody who can sign in, or was invited to.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PeopleView {
    pub people: Vec<PersonView>,
    pub invitations: Vec<InvitationView>,
    /// Books that nobody owns any more.
    pub without_owner: Vec<BooksWithoutOwnerView>,
}

/// Books that nobody owns any more.
#[derive(Serialize, utoipa::ToSchema)]
pub struct BooksWithoutOwnerView {
    pub id: i64,
    pub name: String,
}

/// Somebody who can sign in.
#[derive(Serialize, utoipa::ToSchema)]
pub struct PersonView {
    pub id: i64,
    pub name: String,
    pub email: String,
    pub administrator: bool,
    /// Whether a second factor is asked of them.
    pub factor: bool,
    /// How many sets of books they are a member of.
    pub books: i64,
    /// When they were last seen.
    pub seen_at: Option<String>,
}

/// An invitation that nobody followed yet.
#[derive(Serialize, utoipa::ToSchema)]
pub struct InvitationView {
    pub name: String,
    pub email: String,
    pub invited_by: Option<String>,
    pub made_at: String,
    pub expires_at: String,
    /// Whether they are to administer the server.
    pub administrator: bool,
    /// What they are let in to the books as.
    pub roles: Vec<Role>,
    /// What the one plan of a guest is called.
    pub plan: Option<String>,
    /// When their time ends.
    pub until: Option<String>,
}

/// Whom to invite.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct InvitationForm {
    pub email: String,
    pub name: String,
    pub administrator: bool,
}

/// A letter with a link, which nobody but its reader is shown.
#[derive(Serialize, utoipa::ToSchema)]
pub struct LetterSent {
    pub to: String,
    /// Until when the link can be followed.
    pub expires_at: String,
    /// Whether it lies in the folder for letters on the server, since there is no mail: to be printed and
    /// handed over closed.
    pub in_folder: bool,
}

/// Whose invitation is withdrawn.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct Withdrawn {
    pub email: String,
}

/// Whether somebody administers the server.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct AdministratorForm {
    pub administrator: bool,
}

/// Which books somebody is to own.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct OwnershipForm {
    pub books: i64,
}
