//! How days, amounts and counts are written in a sentence.

use time::Date;
use zf_core::calendar::say_day;
use zf_core::money::Currency;
use zf_core::people::{DateForm, Forms, NumberForm};

/// Writes in the forms that a person has chosen. Those that are usual write `27 Feb 2023` and `1,234.56`.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Style(pub Forms);

impl Style {
    /// A day. Names of months are shortened to three letters.
    pub fn day(self, day: Date) -> String {
        let month = day.month().to_string();
        let month = month.get(..3).unwrap_or(&month);
        let (number, year) = (day.day(), day.year());
        match self.0.dates {
            DateForm::DayMonth => say_day(day),
            DateForm::MonthDay => format!("{month} {number}, {year}"),
            DateForm::Points => format!("{number:02}.{:02}.{year}", u8::from(day.month())),
            DateForm::Iso => format!("{year:04}-{:02}-{number:02}", u8::from(day.month())),
        }
    }

    /// Minor units of a currency, with its decimal places.
    pub fn money(self, currency: Currency, minor: i128) -> String {
        let plain = currency.format(minor.abs());
        let (whole, fraction) = plain.split_once('.').unwrap_or((&plain, ""));
        let point = match self.0.numbers {
            _ if fraction.is_empty() => "",
            NumberForm::CommaPoint | NumberForm::ApostrophePoint => ".",
            NumberForm::PointComma | NumberForm::SpaceComma => ",",
        };
        let sign = if minor < 0 { "-" } else { "" };
        format!("{sign}{}{point}{fraction}", self.grouped(whole))
    }

    /// A whole number: `1234567` becomes `1,234,567`.
    pub fn number(self, number: impl ToString) -> String {
        self.grouped(&number.to_string())
    }

    /// So many of a kind: `1 line`, `2,583 entries`.
    pub fn counted(self, number: impl ToString, one: &str) -> String {
        let number = self.number(number);
        match one.strip_suffix('y') {
            _ if number == "1" => format!("1 {one}"),
            Some(stem) => format!("{number} {stem}ies"),
            None => format!("{number} {one}s"),
        }
    }

    fn grouped(self, digits: &str) -> String {
        let between = match self.0.numbers {
            NumberForm::CommaPoint => ',',
            NumberForm::PointComma => '.',
            // A narrow space that no line is broken at.
            NumberForm::SpaceComma => '\u{202F}',
            NumberForm::ApostrophePoint => '’',
        };
        let mut text = String::with_capacity(digits.len() + digits.len() / 3);
        for (at, digit) in digits.chars().enumerate() {
            if at > 0 && (digits.len() - at).is_multiple_of(3) {
                text.push(between);
            }
            text.push(digit);
        }
        text
    }
}

#[cfg(test)]
mod tests {
    #![allow(clippy::unwrap_used, reason = "what is not known fails the test")]

    use super::*;
    use time::macros::date;

    #[test]
    fn days_and_amounts_are_written_as_their_reader_has_chosen() {
        let (gbp, yen) = (Currency::parse("GBP").unwrap(), Currency::parse("JPY").unwrap());
        let written = |dates, numbers| {
            let style = Style(Forms { dates, numbers });
            let day = style.day(date!(2026 - 02 - 07));
            format!("{day}|{}|{}", style.money(gbp, -123_456_789), style.money(yen, 1_000))
        };
        assert_eq!(
            written(DateForm::DayMonth, NumberForm::CommaPoint),
            "7 Feb 2026|-1,234,567.89|1,000"
        );
        assert_eq!(
            written(DateForm::MonthDay, NumberForm::PointComma),
            "Feb 7, 2026|-1.234.567,89|1.000"
        );
        let spaces = "07.02.2026|-1\u{202F}234\u{202F}567,89|1\u{202F}000";
        assert_eq!(written(DateForm::Points, NumberForm::SpaceComma), spaces);
        assert_eq!(
            written(DateForm::Iso, NumberForm::ApostrophePoint),
            "2026-02-07|-1’234’567.89|1’000"
        );
    }

    #[test]
    fn one_is_said_otherwise_than_several() {
        let style = Style::default();
        let said = [(1, "line"), (2, "line"), (2_583, "entry"), (1, "entry")];
        let said = said.map(|(number, one)| style.counted(number, one));
        assert_eq!(said, ["1 line", "2 lines", "2,583 entries", "1 entry"]);
    }
}
