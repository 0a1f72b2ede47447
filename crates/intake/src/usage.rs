//! Intake of a where-used list: what names the accounts outside the journal.

use super::columns::Column;
use super::dates::DateOrder;
use super::reading::Reading;
use super::reason::Reason;
use super::{Intake, RawRow, Rejected};
use std::collections::HashMap;
use time::Date;
use zf_core::chart::{Account, Chart};
use zf_core::code::{Code, CodeKey, Interval};
use zf_core::former::{FormerCodes, Found, current_codes, find};
use zf_core::money::Currency;
use zf_core::usage::{Named, Use};

/// Reads the uses of a file.
pub fn read(
    reading: &Reading,
    rows: &[RawRow],
    chart: &Chart,
    former: &FormerCodes,
    currency: Currency,
) -> Intake<Use> {
    let current = current_codes(chart);
    let (mut ready, mut rejected, mut warnings) = (Vec::new(), Vec::new(), Vec::new());
    for row in reading.layout.body(rows, &mut warnings) {
        match read_row(reading, row, chart, &current, former, currency) {
            Ok(used) => ready.push(used),
            Err(why) => rejected.push(why),
        }
    }
    let rows = ready.len();
    Intake::of(ready, rows, rejected, warnings)
}

fn read_row(
    reading: &Reading,
    row: &RawRow,
    chart: &Chart,
    current: &HashMap<CodeKey, &Account>,
    former: &FormerCodes,
    currency: Currency,
) -> Result<Use, Rejected> {
    let layout = &reading.layout;
    layout.check_texts(row)?;
    let used_by = layout.cell(row, Column::UsedBy);
    if used_by.is_empty() {
        let message = "what uses the account is missing";
        return Err(layout.reject(row, Column::UsedBy, Reason::UseMissing, message));
    }
    let names = match stretches(reading, row)? {
        Some(intervals) => Named::Stretches(intervals),
        None => {
            let find = |key: &_| find(key, current, former, chart);
            Named::Account(account(reading, row, Column::Code, find)?.id)
        }
    };
    let label = layout.cell(row, Column::Label).to_owned();
    let budget = match (month(reading, row)?, reading.amount(row, Column::Amount, currency)?) {
        (None, None) => None,
        (Some(month), Some(amount)) => Some((month, amount)),
        (None, Some(_)) => {
            let message = "the month of the amount is missing";
            return Err(layout.reject(row, Column::Month, Reason::DateUnreadable, message));
        }
        (Some(_), None) => {
            let message = "the amount of the month is missing";
            return Err(layout.reject(row, Column::Amount, Reason::AmountMissing, message));
        }
    };
    Ok(Use { names, used_by: used_by.to_owned(), label, budget })
}

/// The stretches of codes that a row names, unless it names one account.
fn stretches(reading: &Reading, row: &RawRow) -> Result<Option<Vec<Interval>>, Rejected> {
    let text = reading.layout.cell(row, Column::Code);
    if !Interval::is_list(text) {
        return Ok(None);
    }
    let reject =
        |why| Err(reading.layout.reject(row, Column::Code, Reason::IntervalsMalformed, why));
    if !reading.layout.cell(row, Column::Amount).is_empty() {
        return reject(
            "an amount is budgeted for one account, not for a stretch of codes".to_owned(),
        );
    }
    Interval::parse_list(text).map(Some).or_else(|why| reject(why.to_string()))
}

/// The first day of a month written as 2026-03, or as any day of it.
fn month(reading: &Reading, row: &RawRow) -> Result<Option<Date>, Rejected> {
    let text = reading.layout.cell(row, Column::Month);
    if text.is_empty() {
        return Ok(None);
    }
    let whole = if text.len() == "2026-03".len() { format!("{text}-01") } else { text.to_owned() };
    let day = DateOrder::read(Some(DateOrder::YearFirst), &whole).ok();
    day.and_then(|day| day.replace_day(1).ok()).map(Some).ok_or_else(|| {
        let message = format!("“{text}” is not a month; write it as 2026-03");
        reading.layout.reject(row, Column::Month, Reason::DateUnreadable, message)
    })
}

/// The account that a code in a file stands for, today's bearer before those who bore it.
pub(super) fn account<'a>(
    reading: &Reading,
    row: &RawRow,
    field: Column,
    find: impl FnOnce(&CodeKey) -> Found<'a>,
) -> Result<&'a Account, Rejected> {
    let reject = |reason, message: String| Err(reading.layout.reject(row, field, reason, message));
    let code = match Code::parse(reading.code(row, field)) {
        Ok(code) => code,
        Err(why) => return reject(Reason::from(&why), why.to_string()),
    };
    match find(&code.key()) {
        Found::Current(account) | Found::Former(account) => Ok(account),
        Found::Several(accounts) => {
            let names = accounts.iter().map(|a| a.label()).collect::<Vec<_>>().join(", ");
            reject(
                Reason::AccountAmbiguous,
                format!("{code} is a former code of several accounts: {names}"),
            )
        }
        Found::Nobody => {
            reject(Reason::AccountUnknown, format!("no account has, or ever had, the code {code}"))
        }
    }
}
