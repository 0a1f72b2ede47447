//! The books as remarks see them.

use super::spelling::Names;
use crate::chart::Account;
use crate::review::classes::Judge;
use crate::today::Today;

/// How many of ten have to agree before the others are odd.
pub(super) const MOST: usize = 9;

/// The books as remarks see them.
pub(super) struct RemarkContext<'a> {
    pub(super) today: &'a Today,
    /// The rows of the chart, by code.
    pub(super) rows: Vec<&'a Account>,
    pub(super) judge: Judge<'a>,
    pub(super) names: Names,
}

impl<'a> RemarkContext<'a> {
    pub(super) fn of(today: &'a Today) -> Self {
        let mut rows: Vec<&Account> = today.chart.live().collect();
        rows.sort_by(|a, b| a.code.chart_order(&b.code));
        let names = Names::of(&rows);
        Self { today, rows, judge: Judge::of(today), names }
    }
}
