//! Dates as people write them. Where a file allows two readings, none is guessed.

use std::cmp::Ordering;
use std::collections::BTreeSet;
use time::{Date, Month};
use zf_core::keyed;

keyed! {
    /// In which order day, month and year stand when all three are numbers.
    DateOrder {
        /// 24/09/2026.
        DayFirst = "dmy", "day first";
        /// 09/24/2026.
        MonthFirst = "mdy", "month first";
        /// 2026/09/24, or 26/09/24.
        YearFirst = "ymd", "year first";
    }
}

/// Why a text is not a date.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotADate {
    /// No date that is known.
    #[error("“{0}” is not a date; write it as 2026-09-24")]
    Unreadable(String),
    /// Day and month could be either.
    #[error(
        "“{0}” can be read in two ways and nothing else in the file tells which; say which comes first, or write it as 2026-09-24"
    )]
    Ambiguous(String),
}

/// The first letters of the months, in the languages that spreadsheets are most often kept in, as
/// far as they differ from English.
const MONTHS: [&[&str]; 12] = [
    &["jan", "gen", "ene"],
    &["feb", "fév", "fev"],
    &["mar", "mär", "mrz", "maa"],
    &["apr", "avr", "abr"],
    &["may", "mai", "mei", "mag"],
    &["jun", "juin", "giu"],
    &["jul", "juil", "lug"],
    &["aug", "aoû", "aou", "ago"],
    &["sep", "set"],
    &["oct", "okt", "ott", "out"],
    &["nov"],
    &["dec", "dez", "déc", "dic"],
];

/// The days that spreadsheets count dates from, and the counts that are taken for dates: 1954 to
/// 2119.
const SERIAL_ORIGIN: i32 = 2_415_019;
const SERIALS: std::ops::RangeInclusive<i32> = 20_000..=80_000;

/// A date as far as it can be read without knowing the order.
enum Parts {
    Whole(Date),
    /// Three numbers, with the count of digits of the first and the last.
    Numbers([u32; 3], usize, usize),
}

/// What the dates of a file say about their order: one day above 12 is enough; of several that
/// contradict each other most count.
#[derive(Clone, Debug, Default)]
pub struct DatesSeen {
    /// How many speak for each order.
    votes: [usize; 3],
    /// With short years 24/09/26 could begin with either. Within one file days vary more.
    firsts: BTreeSet<u32>,
    lasts: BTreeSet<u32>,
}

impl DatesSeen {
    /// Takes note of one date.
    pub fn see(&mut self, text: &str) {
        let Some(Parts::Numbers([first, second, third], digits, _)) = parts(text) else {
            return;
        };
        let day = |n: u32| (13..=31).contains(&n);
        let fits = |n: u32| (1..=12).contains(&n);
        if digits == 4 {
            return;
        }
        // Where points part the numbers, the day comes first.
        let pointed = text.matches('.').count() == 2 && fits(second) && third > 31;
        if pointed && (day(first) || fits(first)) {
            self.votes[0] += 1;
        } else if day(first) && fits(second) && (1..=31).contains(&third) {
            self.firsts.insert(first);
            self.lasts.insert(third);
        } else if day(first) && fits(second) {
            self.votes[0] += 1;
        } else if fits(first) && day(second) {
            self.votes[1] += 1;
        } else if first > 31 && third < 100 {
            self.votes[2] += 1;
        }
    }

    /// The order; `None` when nothing tells.
    pub fn order(&self) -> Option<DateOrder> {
        let mut votes = self.votes;
        let (firsts, lasts) = (self.firsts.len(), self.lasts.len());
        match firsts.cmp(&lasts) {
            Ordering::Greater => votes[0] += firsts,
            Ordering::Less => votes[2] += lasts,
            Ordering::Equal => {}
        }
        let most = votes.iter().copied().max().filter(|most| *most > 0)?;
        DateOrder::ALL.iter().zip(votes).find(|(_, n)| *n == most).map(|(order, _)| *order)
    }
}

impl DateOrder {
    /// Reads a date: ISO 8601 with or without a time, eight digits, three numbers in this order, a
    /// named month, or the serial number of a spreadsheet. `None` as order reads whatever needs
    /// none. Years of two digits are of 1980 to 2079.
    ///
    /// # Errors
    /// When it is no date, or could be two.
    pub fn read(order: Option<Self>, text: &str) -> Result<Date, NotADate> {
        let unreadable = || NotADate::Unreadable(text.trim().to_owned());
        let (numbers, long_first, long_last) = match parts(text).ok_or_else(unreadable)? {
            Parts::Whole(date) => return Ok(date),
            Parts::Numbers(numbers, first, last) => (numbers, first, last),
        };
        let [a, b, c] = numbers;
        let order = match (long_first, long_last, order) {
            (4, ..) => Self::YearFirst,
            (_, 4, Some(Self::YearFirst)) => return Err(unreadable()),
            (_, _, Some(order)) => order,
            (_, 4, None) if a == b => Self::DayFirst,
            _ => return Err(NotADate::Ambiguous(text.trim().to_owned())),
        };
        let (year, month, day) = match order {
            Self::DayFirst => (c, b, a),
            Self::MonthFirst => (c, a, b),
            Self::YearFirst => (a, b, c),
        };
        date_of(year, month, day).ok_or_else(unreadable)
    }
}

/// Whether a text could be a date, in whichever order.
pub(crate) fn looks_like_date(text: &str) -> bool {
    let read = |order| DateOrder::read(Some(order), text).is_ok();
    text.len() > 5 && (read(DateOrder::DayFirst) || read(DateOrder::MonthFirst))
}

fn date_of(year: u32, month: u32, day: u32) -> Option<Date> {
    let year = match year {
        0..=79 => year + 2000,
        80..=99 => year + 1900,
        1900..=2199 => year,
        _ => return None,
    };
    let month = Month::try_from(u8::try_from(month).ok()?).ok()?;
    Date::from_calendar_date(i32::try_from(year).ok()?, month, u8::try_from(day).ok()?).ok()
}

fn parts(text: &str) -> Option<Parts> {
    let text = without_time(text.trim());
    if let Ok(serial) = text.parse::<i32>() {
        if SERIALS.contains(&serial) {
            return Date::from_julian_day(SERIAL_ORIGIN + serial).ok().map(Parts::Whole);
        }
        let digits = (text.len() == 8).then(|| serial.unsigned_abs())?;
        return date_of(digits / 10_000, digits / 100 % 100, digits % 100).map(Parts::Whole);
    }
    let pieces: Vec<&str> = text
        .split(|c: char| c.is_whitespace() || matches!(c, '/' | '.' | '-' | ',' | '\u{2013}'))
        .filter(|piece| !piece.is_empty())
        .collect();
    let [first, second, third] = pieces.as_slice() else { return None };
    if let Some(month) = month_of(second) {
        // 24 Sep 2026, and 2026 Sep 24.
        let (a, b) = (number(first)?, number(third)?);
        let (day, year) = if first.len() == 4 { (b, a) } else { (a, b) };
        return date_of(year, month, day).map(Parts::Whole);
    }
    if let Some(month) = month_of(first) {
        return date_of(number(third)?, month, number(second)?).map(Parts::Whole);
    }
    let numbers = [number(first)?, number(second)?, number(third)?];
    Some(Parts::Numbers(numbers, first.len(), third.len()))
}

/// Cuts a time of day off: `2026-09-24T00:00:00` and `24/09/2026 12:30`.
fn without_time(text: &str) -> &str {
    let Some(colon) = text.find(':') else { return text };
    let end = text[..colon].rfind(['T', ' ']).unwrap_or(0);
    text[..end].trim_end()
}

fn number(text: &str) -> Option<u32> {
    let digits = text.trim_end_matches(|c: char| c.is_alphabetic());
    // 1st, 2nd, 3rd and 4th.
    let ending = matches!(&text[digits.len()..], "" | "st" | "nd" | "rd" | "th");
    (ending && digits.len() <= 4).then(|| digits.parse().ok())?
}

pub(crate) fn month_of(text: &str) -> Option<u32> {
    let word = text.to_lowercase();
    let at = MONTHS.iter().position(|names| names.iter().any(|name| word.starts_with(name)))?;
    u32::try_from(at + 1).ok()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;
    use time::macros::date;

    const DAY: Date = date!(2026 - 09 - 04);

    #[test]
    fn dates_that_need_no_order() {
        for text in [
            "2026-09-04",
            "2026/9/4",
            "2026-09-04T00:00:00",
            "2026-09-04 12:30",
            "20260904",
            "4 Sep 2026",
            "04-Sep-26",
            "4th September 2026",
            "Sept. 4, 2026",
            "2026 Sep 4",
            "4 septembre 2026",
            "46269",
        ] {
            assert_eq!(DateOrder::read(None, text), Ok(DAY), "{text}");
        }
    }

    #[test]
    fn one_clear_day_tells_the_order_of_the_file() {
        let of = |texts: &[&str]| {
            let mut seen = DatesSeen::default();
            texts.iter().for_each(|text| seen.see(text));
            seen.order()
        };
        assert_eq!(of(&["03/04/2026", "24/09/2026"]), Some(DateOrder::DayFirst));
        assert_eq!(of(&["03/04/2026", "09/24/26"]), Some(DateOrder::MonthFirst));
        assert_eq!(of(&["26/03/04", "99/12/31"]), Some(DateOrder::YearFirst));
        assert_eq!(of(&["03/04/2026", "2026-09-24", "24 Sep 2026"]), None);
        assert_eq!(of(&["24/09/2026", "25/09/2026", "09/26/2026"]), Some(DateOrder::DayFirst));
        assert_eq!(of(&["24/09/26", "25/09/26", "26/09/26"]), Some(DateOrder::DayFirst));
        assert_eq!(of(&["24/09/26"]), None, "2024 or 2026");
        let read = |text| DateOrder::read(Some(DateOrder::DayFirst), text);
        assert_eq!(read("04/09/2026"), Ok(DAY));
        assert_eq!(read("4.9.26"), Ok(DAY));
        assert!(read("09/26/2026").is_err(), "the one that contradicts is refused");
    }

    #[test]
    fn two_readings_are_not_guessed() {
        let says = |t: &str| DateOrder::read(None, t).unwrap_err().to_string();
        assert!(says("03/04/2026").contains("two ways"));
        assert!(says("03/04/05").contains("two ways"));
        assert_eq!(DateOrder::read(None, "04/04/2026"), Ok(date!(2026 - 04 - 04)));
    }

    #[test]
    fn what_is_no_date_says_so() {
        for text in ["2026-02-30", "soon", "", "1/2", "1/2/3/4", "12345678", "100", "31 Foo 2026"] {
            let says = DateOrder::read(Some(DateOrder::DayFirst), text).unwrap_err().to_string();
            assert!(says.contains("is not a date"), "{text}: {says}");
        }
    }

    proptest! {
        #[test]
        fn every_day_reads_back_in_every_order(day in 0..50_000i32) {
            let date = Date::from_julian_day(2_433_283 + day).unwrap();
            let (y, m, d) = (date.year(), u8::from(date.month()), date.day());
            for (order, text) in [
                (DateOrder::DayFirst, format!("{d}/{m:02}/{y}")),
                (DateOrder::MonthFirst, format!("{m}.{d:02}.{y}")),
                (DateOrder::YearFirst, format!("{y}-{m:02}-{d:02}")),
                (DateOrder::DayFirst, format!("{d} {} {y}", date.month())),
            ] {
                prop_assert_eq!(DateOrder::read(Some(order), &text), Ok(date));
            }
        }

        #[test]
        fn no_text_makes_it_panic(text in "\\PC{0,20}") {
            let _ = DateOrder::read(None, &text);
            DatesSeen::default().see(&text);
        }
    }
}
