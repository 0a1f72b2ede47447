//! What a journal is read against.

use super::said::Said;
use std::collections::HashMap;
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::Chart;
use zf_core::code::CodeKey;
use zf_core::former::{CodesThen, FormerCodes};
use zf_core::ids::AccountId;
use zf_core::money::Currency;
use zf_core::overlap::Overlap;

/// What a journal is read against.
pub struct JournalContext<'a> {
    /// The chart.
    pub chart: &'a Chart,
    /// Former codes, which stand for the accounts that hold their history now.
    pub former: &'a FormerCodes,
    /// The base currency.
    pub currency: Currency,
    /// The fiscal calendar.
    pub calendar: FiscalCalendar,
    /// The last locked period.
    pub locked: Option<Period>,
    /// What of the file the journal has already, as far as that is known.
    pub overlap: &'a Overlap,
    /// The codes of an earlier time, when the file follows those.
    pub then: Option<&'a CodesThen>,
    /// What a person said that codes of the file stand for.
    pub said: &'a HashMap<CodeKey, AccountId>,
    /// What a person said of lines dated after the day of their account.
    pub late: &'a Said,
}
