//! The history of a merge or a move before it is made.

use crate::cards::LineView;
use crate::rehearsal::MovedYear;
use serde::Serialize;
use zf_core::dimension::DimensionValue;
use zf_core::history::Split;
use zf_core::history::preview::Side;
use zf_core::today::Today;

/// What a split would do.
#[derive(Serialize, utoipa::ToSchema)]
pub struct HistoryView {
    /// How it would be staged.
    pub split: Split,
    pub parts: Vec<TallyView>,
    /// What no part takes, and stays.
    pub left: TallyView,
    /// Parts that would take the same lines.
    pub overlaps: Vec<OverlapView>,
    /// The account, and those that its history goes to.
    pub sides: Vec<SideView>,
    /// Whom the lines of the account are with, most lines first.
    pub payees: Vec<String>,
    /// The dimension values of its lines.
    pub dimensions: Vec<DimensionValue>,
}

/// What lines add up to, with the latest of them.
#[derive(Serialize, utoipa::ToSchema)]
pub struct TallyView {
    /// Which lines, in words.
    pub which: String,
    pub lines: u64,
    pub net: String,
    /// How many were cleared in a bank reconciliation.
    pub cleared: u64,
    pub years: Vec<MovedYear>,
    pub sample: Vec<LineView>,
}

/// Two parts, by their places, that would take the same lines.
#[derive(Serialize, utoipa::ToSchema)]
pub struct OverlapView {
    pub first: usize,
    pub second: usize,
    pub lines: u64,
}

/// An account on both sides.
#[derive(Serialize, utoipa::ToSchema)]
pub struct SideView {
    pub account: i64,
    pub years: Vec<SideYear>,
}

/// A fiscal year of an account on both sides.
#[derive(Serialize, utoipa::ToSchema)]
pub struct SideYear {
    /// The last day of the year.
    pub end: String,
    pub today: String,
    pub after: String,
}

impl SideView {
    pub fn of(side: Side, today: &Today) -> Self {
        let years = side.years.into_iter().map(|(start, (before, after))| SideYear {
            end: today.calendar.last_day(start.year_end()).to_string(),
            today: today.currency.format(before),
            after: today.currency.format(after),
        });
        Self { account: side.account.0, years: years.collect() }
    }
}
