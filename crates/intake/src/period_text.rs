//! Months and periods of a fiscal year as texts write them: `2026-03`, `Mar 26`, `P3 2026`, or `3` beside a year.

use crate::dates::{DateOrder, month_of};
use std::fmt;
use time::{Date, Month};
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::keyed;

keyed! {
    /// What the periods of a file are, and which of their days counts.
    PeriodsAs {
        /// Calendar months.
        MonthEnd = "month_end";
        /// Calendar months.
        MonthStart = "month_start";
        /// Periods of the books' year, which is called by the year in which it ends.
        YearEnding = "year_ending";
        /// Periods of the books' year, which is called by the year in which it begins.
        YearStarting = "year_starting";
    }
}

/// The last number of a period: beyond the twelfth stand those of adjustments at the year's end.
const LAST: u32 = 16;

/// When something was, as a text says it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum When {
    /// A day after all.
    Day(Date),
    /// A month of the calendar, by its name.
    Month { year: i32, month: u32 },
    /// A number, of months or, as is likelier where it is marked so or stands beside its year, of periods.
    Number { year: i32, number: u32, fiscal: bool },
}

/// Whether a text looks like a period, with its year or without.
pub(crate) fn looks_like_period(text: &str) -> bool {
    matches!(said(text, "2000"), Some(When::Month { .. } | When::Number { .. }))
}

impl When {
    /// What is earlier is less.
    pub(crate) fn order(self) -> (i32, u32, u8) {
        match self {
            Self::Day(day) => (day.year(), u8::from(day.month()).into(), day.day()),
            Self::Month { year, month: number } | Self::Number { year, number, .. } => {
                (year, number, 0)
            }
        }
    }

    pub(crate) fn day(self, how: PeriodsAs, calendar: FiscalCalendar) -> Date {
        let (year, number) = match self {
            Self::Day(day) => return day,
            Self::Month { year, month } => {
                let how = if how == PeriodsAs::MonthStart { how } else { PeriodsAs::MonthEnd };
                return of_month(year, month, how);
            }
            Self::Number { year, number, .. } => (year, number),
        };
        if matches!(how, PeriodsAs::MonthEnd | PeriodsAs::MonthStart) {
            return of_month(year, number, how);
        }
        // The year that ends in a year begins in the one before, unless it is the calendar's.
        let begins =
            if how == PeriodsAs::YearEnding && calendar.month() > 1 { year - 1 } else { year };
        let first = Period(begins * 12);
        let within = i32::try_from(number.clamp(1, 12)).unwrap_or(1) - 1;
        match number {
            0 => calendar.first_day(first),
            _ => calendar.last_day(Period(first.0 + within)),
        }
    }
}

/// As a period of a file can be written, so that the same is read from it.
impl fmt::Display for When {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Day(day) => write!(f, "{day}"),
            Self::Month { year, month } => {
                let month = u8::try_from(*month).ok().and_then(|n| Month::try_from(n).ok());
                write!(f, "{} {year}", month.unwrap_or(Month::January))
            }
            Self::Number { year, number, fiscal: true } => write!(f, "P{number} {year}"),
            Self::Number { year, number, fiscal: false } => write!(f, "{year}-{number:02}"),
        }
    }
}

/// The first or the last day of a month; what is beyond December is the last of the year, and what is before
/// January the first.
fn of_month(year: i32, number: u32, how: PeriodsAs) -> Date {
    let month = u8::try_from(number.clamp(1, 12)).ok().and_then(|n| Month::try_from(n).ok());
    let month = month.unwrap_or(Month::January);
    let first = number == 0 || how == PeriodsAs::MonthStart && number <= 12;
    let day = if first { 1 } else { month.length(year) };
    Date::from_calendar_date(year, month, day).unwrap_or(Date::MIN)
}

/// What a period says, with the year of its own text or else of another cell.
pub(crate) fn said(text: &str, year: &str) -> Option<When> {
    if let Ok(day) = DateOrder::read(Some(DateOrder::YearFirst), text) {
        return Some(When::Day(day));
    }
    let (words, numbers) = taken_apart(text);
    if words.iter().any(|word| !is_mark(word) && month_of(word).is_none()) {
        return None;
    }
    let beside = || year_of(&taken_apart(year).1);
    if let Some(month) = words.iter().find_map(|word| month_of(word)) {
        let year = if numbers.is_empty() { beside() } else { year_of(&numbers) }?;
        return Some(When::Month { year, month });
    }
    let (year, number) = match numbers.as_slice() {
        // 202603
        [(all, 6)] if (1900..2200).contains(&(all / 100)) => (*all / 100, *all % 100),
        [(number, ..=2)] => (u32::try_from(beside()?).ok()?, *number),
        [(year, 4), (number, ..=3)] | [(number, ..=3), (year, 4)] => (*year, *number),
        // FY26 P3, and 3/26: the year is what no period can be.
        [(year, 2), (number, ..=3)] if *year > LAST => (2000 + *year, *number),
        [(number, ..=3), (year, 2)] if *year > LAST => (2000 + *year, *number),
        _ => return None,
    };
    let year = i32::try_from(year).ok().filter(|year| (1900..2200).contains(year))?;
    let fiscal = numbers.len() == 1 && numbers[0].1 < 3 || !words.is_empty();
    (number <= LAST).then_some(When::Number { year, number, fiscal })
}

/// The year that numbers say: `2026`, `26`, or the first of `2025/26`.
fn year_of(numbers: &[(u32, usize)]) -> Option<i32> {
    let (number, digits) = numbers.first()?;
    let year = match digits {
        4 => *number,
        2 => 2000 + *number,
        _ => return None,
    };
    i32::try_from(year).ok().filter(|year| (1900..2200).contains(year))
}

/// Words that a period is marked by.
fn is_mark(word: &str) -> bool {
    let marks = [
        "p", "m", "fy", "y", "per", "period", "month", "periode", "monat", "periodo", "mes",
        "mois", "maand",
    ];
    marks.contains(&word)
}

/// The words and the numbers of a text, with how many digits each has.
pub(crate) fn taken_apart(text: &str) -> (Vec<String>, Vec<(u32, usize)>) {
    let text = text.to_lowercase();
    let (mut words, mut numbers) = (Vec::new(), Vec::new());
    let mut rest = text.as_str();
    while let Some(first) = rest.chars().next() {
        let of = |c: char| (c.is_ascii_digit(), c.is_alphabetic());
        let end = rest.find(|c: char| of(c) != of(first)).unwrap_or(rest.len());
        let (piece, more) = rest.split_at(end);
        match of(first) {
            (true, _) => numbers.extend(piece.parse().ok().map(|number| (number, piece.len()))),
            (_, true) => words.push(piece.to_owned()),
            _ => {}
        }
        rest = more;
    }
    (words, numbers)
}

#[cfg(test)]
mod tests {
    use super::*;
    use time::macros::date;

    #[test]
    fn periods_are_read_however_they_are_written() {
        for text in
            ["2026-03", "2026/3", "03/2026", "202603", "P3 2026", "FY26 P03", "3/26", "2026M03"]
        {
            let fiscal = text.contains(['P', 'M']);
            let must = When::Number { year: 2026, number: 3, fiscal };
            assert_eq!(said(text, ""), Some(must), "{text}");
            assert_eq!(said(&must.to_string(), ""), Some(must), "{must}");
        }
        for text in ["Mar 2026", "Mar-26", "März 2026", "mars 2026", "2026 Maart"] {
            assert_eq!(said(text, ""), Some(When::Month { year: 2026, month: 3 }), "{text}");
        }
        for (text, year) in [("3", "2026"), ("P3", "FY26"), ("Period 3", "2026/27")] {
            let must = When::Number { year: 2026, number: 3, fiscal: true };
            assert_eq!(said(text, year), Some(must), "{text}");
        }
        assert_eq!(said("2026-03-04", ""), Some(When::Day(date!(2026 - 03 - 04))));
        for text in ["", "3", "17/2026", "Rent 3 2026", "2026", "P3"] {
            assert_eq!(said(text, ""), None, "{text}");
        }
    }

    #[test]
    fn a_period_stands_for_a_day_of_the_books_year() {
        let april = FiscalCalendar::starting(4, 1).unwrap();
        let third = When::Number { year: 2026, number: 3, fiscal: true };
        for (how, day) in [
            (PeriodsAs::MonthEnd, date!(2026 - 03 - 31)),
            (PeriodsAs::MonthStart, date!(2026 - 03 - 01)),
            (PeriodsAs::YearEnding, date!(2025 - 06 - 30)),
            (PeriodsAs::YearStarting, date!(2026 - 06 - 30)),
        ] {
            assert_eq!(third.day(how, april), day, "{how:?}");
        }
        let number = |number| When::Number { year: 2026, number, fiscal: true };
        assert_eq!(number(13).day(PeriodsAs::YearEnding, april), date!(2026 - 03 - 31));
        assert_eq!(number(0).day(PeriodsAs::YearEnding, april), date!(2025 - 04 - 01));
        assert_eq!(number(14).day(PeriodsAs::MonthStart, april), date!(2026 - 12 - 31));
        let march = When::Month { year: 2026, month: 3 };
        assert_eq!(march.day(PeriodsAs::YearEnding, april), date!(2026 - 03 - 31));
    }
}
