//! Sets of books, and new ones.

use serde::{Deserialize, Serialize};
use zf_core::access::Role;

/// A set of books in a list.
#[derive(Serialize, utoipa::ToSchema)]
pub struct BooksView {
    pub id: i64,
    pub name: String,
    pub currency: String,
    pub accounts: i64,
    pub lines: i64,
    /// What one is in them.
    pub roles: Vec<Role>,
    /// The one plan that a guest sees.
    pub plan: Option<i64>,
    pub archived: bool,
}

/// New books.
#[derive(Deserialize, utoipa::ToSchema)]
pub struct NewBooksForm {
    pub name: String,
    /// Three letters of ISO 4217.
    pub currency: String,
    /// The month in which fiscal years start, 1 to 12.
    pub year_month: u8,
    /// The day of that month, 1 to 28.
    pub year_day: u8,
}

/// The identity of something new.
#[derive(Serialize, utoipa::ToSchema)]
pub struct Created {
    pub id: i64,
}
