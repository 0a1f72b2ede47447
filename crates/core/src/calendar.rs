//! The fiscal calendar: which of the twelve months of which year a date falls into.

use serde::{Deserialize, Serialize};
use std::ops::RangeInclusive;
use time::{Date, Month};

/// The first day of a fiscal year. Always a day that every year has in every month (1 to 28), so
/// that the twelve periods start on that day of each month.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(try_from = "YearStart")]
pub struct FiscalCalendar {
    month: u8,
    day: u8,
}

/// A month and a day of it, which may start a fiscal year or not.
#[derive(Deserialize)]
struct YearStart {
    month: u8,
    day: u8,
}

impl TryFrom<YearStart> for FiscalCalendar {
    type Error = NoSuchYearStart;

    fn try_from(start: YearStart) -> Result<Self, NoSuchYearStart> {
        Self::starting(start.month, start.day)
    }
}

/// One month of a fiscal year, counted from its first day: a year from 6 April has periods such
/// as 6 April to 5 May. Ordered as they follow each other; consecutive periods differ by one.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Period(pub i32);

impl Period {
    /// The numbers of periods of the years 1 to 9999.
    pub const NUMBERS: RangeInclusive<i32> = 12..=119_999;
}

/// Why a day cannot start a fiscal year.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("a fiscal year cannot start on day {day} of month {month}; choose a day from 1 to 28")]
pub struct NoSuchYearStart {
    month: u8,
    day: u8,
}

/// A day as sentences say it, `27 Feb 2023`.
pub fn say_day(day: Date) -> String {
    let month = day.month().to_string();
    format!("{} {} {}", day.day(), month.get(..3).unwrap_or(&month), day.year())
}

impl FiscalCalendar {
    /// A calendar whose years start on this day.
    ///
    /// # Errors
    /// When the month is not 1 to 12 or the day not 1 to 28.
    pub fn starting(month: u8, day: u8) -> Result<Self, NoSuchYearStart> {
        if (1..=12).contains(&month) && (1..=28).contains(&day) {
            Ok(Self { month, day })
        } else {
            Err(NoSuchYearStart { month, day })
        }
    }

    /// The month in which years start, 1 to 12.
    pub fn month(self) -> u8 {
        self.month
    }

    /// The day of that month.
    pub fn day(self) -> u8 {
        self.day
    }

    /// The period that a date falls into.
    pub fn period_of(self, date: Date) -> Period {
        let months = date.year() * 12 + i32::from(u8::from(date.month())) - i32::from(self.month);
        Period(if date.day() < self.day { months - 1 } else { months })
    }

    /// The first day of a period.
    pub fn first_day(self, period: Period) -> Date {
        let months = period.0 + i32::from(self.month) - 1;
        let month = Month::try_from(months.rem_euclid(12) as u8 + 1).unwrap_or(Month::January);
        Date::from_calendar_date(months.div_euclid(12), month, self.day).unwrap_or(Date::MIN)
    }

    /// The last day of a period.
    pub fn last_day(self, period: Period) -> Date {
        self.first_day(Period(period.0 + 1)).previous_day().unwrap_or(Date::MAX)
    }
}

impl Period {
    /// The first period of the fiscal year that this one belongs to.
    pub fn year_start(self) -> Period {
        Period(self.0.div_euclid(12) * 12)
    }

    /// The last period of the fiscal year that this one belongs to.
    pub fn year_end(self) -> Period {
        Period(self.year_start().0 + 11)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn every_date_lies_in_its_period(day in 700_000..760_000i32, m in 1..=12u8, d in 1..=28u8) {
            let date = Date::from_julian_day(day + 1_721_425).unwrap();
            let calendar = FiscalCalendar::starting(m, d).unwrap();
            let period = calendar.period_of(date);
            prop_assert!(calendar.first_day(period) <= date && date <= calendar.last_day(period));
            let start = calendar.first_day(period.year_start());
            prop_assert_eq!((u8::from(start.month()), start.day()), (m, d));
        }
    }

    #[test]
    fn a_year_cannot_start_on_a_day_that_some_months_lack() {
        assert!(FiscalCalendar::starting(1, 31).is_err());
    }
}
