//! Dates as people write them. Where a file allows two readings, none is guessed.

use crate::columns::reduce;
use std::cmp::Ordering;
use std::collections::BTreeSet;
use time::{Date, Month};
use zf_core::keyed;

keyed! {
    /// In which order day, month and year stand when all three are numbers.
    DateOrder {
        /// 24/09/2026.
        DayFirst = "dmy";
        /// 09/24/2026.
        MonthFirst = "mdy";
        /// 2026/09/24, or 26/09/24.
        YearFirst = "ymd";
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

/// The months, without accents, in the languages that spreadsheets are most often kept in: English, German, French,
/// Spanish, Dutch, Italian and Portuguese. Of each the first letters will do, from three on.
const MONTHS: [&[&str]; 12] = [
    &["january", "januar", "janvier", "enero", "januari", "gennaio", "janeiro", "jaenner"],
    &["february", "februar", "fevrier", "febrero", "februari", "febbraio", "fevereiro"],
    &["march", "marz", "maerz", "mars", "marzo", "maart", "marco", "mrz", "mrt"],
    &["april", "avril", "abril", "aprile"],
    &["may", "mai", "mayo", "mei", "maggio", "maio"],
    &["june", "juni", "juin", "junio", "giugno", "junho"],
    &["july", "juli", "juillet", "julio", "luglio", "julho"],
    &["august", "aout", "agosto", "augustus"],
    &["september", "septembre", "septiembre", "setiembre", "settembre", "setembro"],
    &["october", "oktober", "octobre", "octubre", "ottobre", "outubro"],
    &["november", "novembre", "noviembre", "novembro"],
    &["december", "dezember", "decembre", "diciembre", "dicembre", "dezembro"],
];

/// The days of the week in five of them, likewise; of each the first two letters will do.
const WEEKDAYS: [&str; 35] = [
    "monday",
    "tuesday",
    "wednesday",
    "thursday",
    "friday",
    "saturday",
    "sunday",
    "montag",
    "dienstag",
    "mittwoch",
    "donnerstag",
    "freitag",
    "samstag",
    "sonntag",
    "lundi",
    "mardi",
    "mercredi",
    "jeudi",
    "vendredi",
    "samedi",
    "dimanche",
    "lunes",
    "martes",
    "miercoles",
    "jueves",
    "viernes",
    "sabado",
    "domingo",
    "maandag",
    "dinsdag",
    "woensdag",
    "donderdag",
    "vrijdag",
    "zaterdag",
    "zondag",
];

/// Words that stand between the parts of a date.
const BETWEEN: [&str; 10] = ["de", "del", "of", "the", "le", "den", "der", "am", "el", "op"];

/// What makes a number the first, the second …
const ORDINALS: [&str; 14] =
    ["", "st", "nd", "rd", "th", "er", "re", "e", "eme", "de", "ste", "º", "ª", "o"];

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
        .filter(|piece| !piece.is_empty() && !BETWEEN.contains(&&*piece.to_lowercase()))
        .collect();
    // A day of the week says nothing more, and may begin as a month does.
    let pieces = match pieces.as_slice() {
        [weekday, rest @ ..] if rest.len() == 3 && is_weekday(weekday) => rest.to_vec(),
        _ => pieces,
    };
    let [first, second, third] = pieces.as_slice() else { return None };
    if let Some(month) = month_of(second) {
        // 24 Sep 2026, and 2026 Sep 24.
        let (a, b) = (number(first)?, number(third)?);
        let (day, year) = if a > 31 { (b, a) } else { (a, b) };
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
    let digits = text.trim_end_matches(|c: char| !c.is_ascii_digit());
    let ending = text[digits.len()..].to_lowercase().replace('è', "e");
    let sound = ORDINALS.contains(&&*ending) && digits.len() <= 4;
    sound.then(|| digits.parse().ok())?
}

fn is_weekday(text: &str) -> bool {
    let word = reduce(text);
    word.chars().count() > 1 && WEEKDAYS.iter().any(|day| day.starts_with(&word))
}

pub(crate) fn month_of(text: &str) -> Option<u32> {
    let word = reduce(text);
    if word.len() < 3 || !word.bytes().all(|b| b.is_ascii_lowercase()) {
        return None;
    }
    let begins = |names: &&[&str]| names.iter().any(|name| name.starts_with(&word));
    let mut months = (1..).zip(&MONTHS).filter(|(_, names)| begins(names)).map(|(month, _)| month);
    // “Jui” could be either of two.
    months.next().filter(|_| months.next().is_none())
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
            "Friday, September 4, 2026",
            "the 4th of September 2026",
            "Freitag, den 4. September 2026",
            "Fr. 4. Sept. 2026",
            "vendredi 4 septembre 2026",
            "le 4 sept. 2026",
            "viernes, 4 de septiembre de 2026",
            "4º de setiembre del 2026",
            "vrijdag 4 september 2026",
            "4e sep. 2026",
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

    /// How five languages write a date in words: the months, an ordinal of the first, and the pattern.
    const WRITTEN: [(&str, [&str; 12], &[&str]); 5] = [
        (
            "en",
            [
                "January",
                "February",
                "March",
                "April",
                "May",
                "June",
                "July",
                "August",
                "September",
                "October",
                "November",
                "December",
            ],
            &["{d} {m} {y}", "{m} {d}, {y}", "{d}th {m} {y}", "{d}-{m}-{y}"],
        ),
        (
            "de",
            [
                "Januar",
                "Februar",
                "März",
                "April",
                "Mai",
                "Juni",
                "Juli",
                "August",
                "September",
                "Oktober",
                "November",
                "Dezember",
            ],
            &["{d}. {m} {y}", "den {d}. {m} {y}", "{d}.{m}.{y}"],
        ),
        (
            "fr",
            [
                "janvier",
                "février",
                "mars",
                "avril",
                "mai",
                "juin",
                "juillet",
                "août",
                "septembre",
                "octobre",
                "novembre",
                "décembre",
            ],
            &["{d} {m} {y}", "le {d} {m} {y}", "{d}er {m} {y}"],
        ),
        (
            "es",
            [
                "enero",
                "febrero",
                "marzo",
                "abril",
                "mayo",
                "junio",
                "julio",
                "agosto",
                "septiembre",
                "octubre",
                "noviembre",
                "diciembre",
            ],
            &["{d} de {m} de {y}", "{d} {m} {y}", "{d}º de {m} del {y}"],
        ),
        (
            "nl",
            [
                "januari",
                "februari",
                "maart",
                "april",
                "mei",
                "juni",
                "juli",
                "augustus",
                "september",
                "oktober",
                "november",
                "december",
            ],
            &["{d} {m} {y}", "{d}e {m} {y}", "{d}-{m}-{y}"],
        ),
    ];

    /// What is not the first letters of a month where it is cut.
    const ABBREVIATIONS: [(&str, usize, &str); 6] = [
        ("de", 2, "Mrz"),
        ("nl", 2, "mrt"),
        ("fr", 5, "juin"),
        ("fr", 6, "juil."),
        ("en", 8, "Sept."),
        ("fr", 0, "janv."),
    ];

    proptest! {
        #[test]
        fn every_day_in_words_reads_back_in_five_languages(day in 0..40_000i32, cut in 3..9usize) {
            let date = Date::from_julian_day(2_433_283 + day).unwrap();
            let month = usize::from(u8::from(date.month())) - 1;
            for (language, months, patterns) in WRITTEN {
                let whole = months[month];
                let short: String = whole.chars().take(cut).collect();
                // “Jui” is of two months, and nobody writes it.
                let short = if short == "jui" { whole.to_owned() } else { short };
                let own = ABBREVIATIONS.iter().filter(|(of, at, _)| *of == language && *at == month);
                for name in own.map(|(_, _, name)| *name).chain([whole, &short]) {
                    for pattern in patterns {
                        let text = pattern
                            .replace("{d}", &date.day().to_string())
                            .replace("{m}", name)
                            .replace("{y}", &date.year().to_string());
                        prop_assert_eq!(DateOrder::read(None, &text), Ok(date), "{}", text);
                    }
                }
            }
        }

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
