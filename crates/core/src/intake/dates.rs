//! Dates as people write them. Where a file allows two readings, none is guessed.

use time::{Date, Month};

/// Which of two short numbers is the day.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum DateOrder {
    /// 24/09/2026.
    DayFirst,
    /// 09/24/2026.
    MonthFirst,
    /// Nothing in the file tells.
    Unknown,
}

/// Why a text is not a date.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotADate {
    /// No date that is known.
    #[error("“{0}” is not a date; write it as 2026-09-24")]
    Unreadable(String),
    /// Day and month could be either.
    #[error(
        "“{0}” can be read in two ways and nothing else in the file tells which; write it as 2026-09-24"
    )]
    Ambiguous(String),
}

fn numbers(text: &str) -> Option<[u32; 3]> {
    let mut parts = text.trim().split(['/', '.', '-']).map(|part| part.parse().ok());
    let found = [parts.next()??, parts.next()??, parts.next()??];
    parts.next().is_none().then_some(found)
}

impl DateOrder {
    /// Finds the order from all dates of a file: one day above 12 is enough to tell.
    pub fn detect<'a>(texts: impl Iterator<Item = &'a str>) -> Self {
        for [first, second, _] in texts.filter_map(numbers).filter(|n| n[0] < 100) {
            match (first > 12, second > 12) {
                (true, false) => return Self::DayFirst,
                (false, true) => return Self::MonthFirst,
                _ => {}
            }
        }
        Self::Unknown
    }

    /// Reads a date: ISO 8601, or three numbers in this order with a four-digit year last.
    ///
    /// # Errors
    /// When it is no date, or could be two.
    pub fn read(self, text: &str) -> Result<Date, NotADate> {
        let unreadable = || NotADate::Unreadable(text.to_owned());
        let [a, b, c] = numbers(text).ok_or_else(unreadable)?;
        let (year, month, day) = match (a, self) {
            (1000.., _) => (a, b, c),
            (_, Self::DayFirst) => (c, b, a),
            (_, Self::MonthFirst) => (c, a, b),
            (_, Self::Unknown) if a == b => (c, a, b),
            (_, Self::Unknown) if a.max(b) <= 12 => {
                return Err(NotADate::Ambiguous(text.to_owned()));
            }
            _ => return Err(unreadable()),
        };
        let month = u8::try_from(month).ok().and_then(|m| Month::try_from(m).ok());
        let day = u8::try_from(day).ok();
        match (i32::try_from(year), month, day) {
            (Ok(year @ 1900..=2199), Some(month), Some(day)) => {
                Date::from_calendar_date(year, month, day).map_err(|_| unreadable())
            }
            _ => Err(unreadable()),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use time::macros::date;

    #[test]
    fn one_clear_day_tells_the_order_of_the_file() {
        let texts = ["03/04/2026", "24/09/2026"];
        let order = DateOrder::detect(texts.into_iter());
        assert_eq!(order.read("03/04/2026"), Ok(date!(2026 - 04 - 03)));
        assert_eq!(DateOrder::Unknown.read("2026-02-28"), Ok(date!(2026 - 02 - 28)));
    }

    #[test]
    fn two_readings_are_not_guessed() {
        let says = |t: &str| DateOrder::Unknown.read(t).unwrap_err().to_string();
        assert!(says("03/04/2026").contains("two ways"));
        assert!(says("2026-02-30").contains("not a date"));
        assert!(says("soon").contains("not a date"));
    }
}
