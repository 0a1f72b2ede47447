//! Intake of a where-used list: what names the accounts outside the journal.

use super::cause::Cause;
use super::columns::Column;
use super::dates::DateOrder;
use super::reading::Reading;
use super::{Intake, RawRow, Rejected};
use time::Date;
use zf_core::chart::{Account, Chart};
use zf_core::code::{Code, Interval};
use zf_core::former::{Finder, FormerCodes, Found};
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
    let finder = Finder::of(chart, former);
    let (mut ready, mut rejected, mut warnings) = (Vec::new(), Vec::new(), Vec::new());
    for row in reading.layout.body(rows, &mut warnings) {
        match read_row(reading, row, &finder, currency) {
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
    finder: &Finder<'_>,
    currency: Currency,
) -> Result<Use, Rejected> {
    let layout = &reading.layout;
    layout.check_texts(row)?;
    let used_by = layout.cell(row, Column::UsedBy);
    if used_by.is_empty() {
        return Err(layout.reject(row, Column::UsedBy, Cause::UseMissing));
    }
    let names = match stretches(reading, row)? {
        Some(intervals) => Named::Stretches(intervals),
        None => Named::Account(account(reading, row, finder)?.id),
    };
    let label = layout.cell(row, Column::Label).to_owned();
    let budget = match (month(reading, row)?, reading.amount(row, Column::Amount, currency)?) {
        (None, None) => None,
        (Some(month), Some(amount)) => Some((month, amount)),
        (None, Some(_)) => {
            return Err(layout.reject(row, Column::Month, Cause::MonthMissing));
        }
        (Some(_), None) => {
            return Err(layout.reject(row, Column::Amount, Cause::MonthWithoutAmount));
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
    let reject = |why: Cause| Err(reading.layout.reject(row, Column::Code, why));
    if !reading.layout.cell(row, Column::Amount).is_empty() {
        return reject(Cause::BudgetOfRange);
    }
    Interval::parse_list(text).map(Some).or_else(|why| reject(why.into()))
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
        let text = text.to_owned();
        reading.layout.reject(row, Column::Month, Cause::MonthUnreadable { text })
    })
}

/// The account that a row stands for: by its code, or by its name or path where it has none. Who is called
/// so today counts before who was.
pub(super) fn account<'a>(
    reading: &Reading,
    row: &RawRow,
    finder: &Finder<'a>,
) -> Result<&'a Account, Rejected> {
    let text = reading.code(row, Column::Code);
    found(text, reading.name(row), finder)
        .map_err(|why| reading.layout.reject(row, Column::Code, why))
}

/// The account of a code, or of a name or path where the code is none or nobody bears it.
pub(super) fn found<'a>(text: &str, name: &str, finder: &Finder<'a>) -> Result<&'a Account, Cause> {
    let code = Code::parse(text);
    let by_code = code.as_ref().map(|code| finder.by_code(&code.key()));
    let called = if text.is_empty() { name } else { text };
    let found = match by_code {
        Ok(Found::Nobody) | Err(_) if !called.is_empty() => finder.by_name(called),
        Ok(found) => found,
        Err(_) => Found::Nobody,
    };
    match (found, code) {
        (Found::Current(account) | Found::Former(account), _) => Ok(account),
        (Found::Several(accounts), _) => {
            let accounts = accounts.iter().map(|account| account.label()).collect();
            Err(Cause::AccountAmbiguous { called: called.to_owned(), accounts })
        }
        (Found::Nobody, Ok(code)) => Err(Cause::CodeUnknown { code }),
        (Found::Nobody, Err(_)) if !called.is_empty() => {
            Err(Cause::NameUnknown { called: called.to_owned() })
        }
        (Found::Nobody, Err(why)) => Err(why.into()),
    }
}
