//! The card of an account: what is set, what it was called, and its lines.

use serde::Serialize;
use zf_core::chart::Status;
use zf_core::plan::Field;

/// The card of an account.
#[derive(Serialize, utoipa::ToSchema)]
pub struct CardView {
    pub id: i64,
    pub code: String,
    pub name: String,
    pub class: &'static str,
    pub caption: Option<String>,
    pub status: Status,
    /// Its other settings, as far as it has any.
    pub settings: Vec<CardSetting>,
    pub heading: Option<String>,
    /// The file that brought it in; none when it was added here.
    pub import: Option<i64>,
    pub lines: u64,
    pub years: Vec<YearView>,
    pub former: Vec<FormerView>,
    pub uses: Vec<String>,
}

/// A setting of an account.
#[derive(Serialize, utoipa::ToSchema)]
pub struct CardSetting {
    pub field: Field,
    /// What it is called.
    pub title: &'static str,
    /// What the account has, in words.
    pub value: String,
}

/// A fiscal year of an account.
#[derive(Serialize, utoipa::ToSchema)]
pub struct YearView {
    /// The first day of the year.
    pub start: String,
    /// The last day.
    pub end: String,
    pub debit: String,
    pub credit: String,
    pub net: String,
    pub lines: u64,
    /// Lines by month, in the order of the year.
    pub months: Vec<u64>,
}

/// A code under which an account's history was once found.
#[derive(Serialize, utoipa::ToSchema)]
pub struct FormerView {
    pub code: String,
    pub name: String,
    pub from: Option<String>,
    pub to: Option<String>,
}

/// A journal line.
#[derive(Clone, Serialize, utoipa::ToSchema)]
pub struct LineView {
    pub id: i64,
    pub date: String,
    pub entry: String,
    pub posted_code: String,
    pub amount: String,
    pub foreign: Option<String>,
    pub payee: String,
    pub memo: String,
    pub reference: String,
    pub dimensions: String,
    /// Whether it was cleared in a bank reconciliation.
    pub cleared: bool,
}
