//! Days, numbers, accounts, pages and instants as they are written in requests and answers.

use crate::Problem;
use std::fmt::Display;
use std::ops::RangeInclusive;
use zf_core::chart::Chart;
use zf_core::ids::AccountId;
use zf_core::text;

/// How long a reason may be, in characters.
const MOST_SAID: usize = 500;

/// A day of a form, written as 2026-09-24.
pub(crate) fn day(field: &str, text: Option<&str>) -> Result<Option<time::Date>, Problem> {
    let form = time::macros::format_description!("[year]-[month]-[day]");
    let wrong = |_| Problem::field(field, "write the date as 2026-09-24");
    text.map(|text| time::Date::parse(text, form).map_err(wrong)).transpose()
}

/// A number of a form that must lie in a range.
///
/// # Errors
/// When it does not, with the field and the range.
pub(crate) fn within<T: PartialOrd + Display>(
    field: &str,
    number: T,
    range: RangeInclusive<T>,
) -> Result<T, Problem> {
    match text::outside(&number, &range) {
        None => Ok(number),
        Some(reason) => Err(Problem::field(field, reason)),
    }
}

/// Why somebody does something, as typed into a form: remembered and shown.
///
/// # Errors
/// When nothing is said or too much.
pub(crate) fn reason(typed: &str) -> Result<&str, Problem> {
    let reason = typed.trim();
    if reason.is_empty() || reason.chars().count() > MOST_SAID {
        let message = format!("say in at most {MOST_SAID} characters why");
        return Err(Problem::field("reason", message));
    }
    Ok(reason)
}

/// Accounts that a form names, which must be rows of the chart.
///
/// # Errors
/// When one is not, with the field.
pub(crate) fn accounts_of(
    chart: &Chart,
    field: &str,
    numbers: impl IntoIterator<Item = i64>,
) -> Result<Vec<AccountId>, Problem> {
    let known = |number| {
        let account = chart.get(AccountId(number)).map(|account| account.id);
        account.ok_or_else(|| Problem::field(field, format!("no account has the number {number}")))
    };
    numbers.into_iter().map(known).collect()
}

/// A text of a form that is no longer than what it becomes a part of.
///
/// # Errors
/// When it is.
pub(crate) fn short(field: &str, text: String, most: usize) -> Result<String, Problem> {
    match text.chars().nth(most) {
        Some(_) => Err(Problem::field(field, format!("this has more than {most} characters"))),
        None => Ok(text),
    }
}

/// The page of a query, counted from 0.
///
/// # Errors
/// When no list is so long.
pub(crate) fn checked_page(page: Option<u32>) -> Result<u32, Problem> {
    within("page", page.unwrap_or(0), 0..=1_000_000)
}
