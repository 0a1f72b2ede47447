//! One file for each thing that can be asked for: parse, allow, do, answer.

use crate::Problem;

pub(crate) mod applications;
pub(crate) mod books;
pub(crate) mod cards;
pub(crate) mod chart;
pub(crate) mod files;
pub(crate) mod history;
pub(crate) mod imports;
pub(crate) mod merging;
pub(crate) mod numbering;
pub(crate) mod plans;
pub(crate) mod reports;
pub(crate) mod review;
pub(crate) mod trail;

/// A day of a form, written as 2026-09-24.
pub(crate) fn day(field: &str, text: Option<&str>) -> Result<Option<time::Date>, Problem> {
    let form = time::macros::format_description!("[year]-[month]-[day]");
    let wrong = |_| Problem::field(field, "write the date as 2026-09-24");
    text.map(|text| time::Date::parse(text, form).map_err(wrong)).transpose()
}

/// How instants are written in answers.
pub(crate) fn instant(at: time::OffsetDateTime) -> String {
    at.format(&time::format_description::well_known::Rfc3339).unwrap_or_default()
}
