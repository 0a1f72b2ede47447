//! Money as whole minor units. Floating point never touches an amount.

use std::fmt;

/// An ISO 4217 currency code: always three upper-case ASCII letters.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Currency([u8; 3]);

/// Why a text is not a currency code.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("“{0}” is not a currency code; write the three letters of ISO 4217, such as GBP")]
pub struct NotACurrency(pub String);

impl Currency {
    /// Reads a code, in any case.
    ///
    /// # Errors
    /// When the text is not exactly three letters.
    pub fn parse(text: &str) -> Result<Self, NotACurrency> {
        let upper = text.trim().to_ascii_uppercase();
        match <[u8; 3]>::try_from(upper.as_bytes()) {
            Ok(bytes) if bytes.iter().all(u8::is_ascii_uppercase) => Ok(Self(bytes)),
            _ => Err(NotACurrency(text.to_owned())),
        }
    }

    /// The three letters.
    pub fn as_str(&self) -> &str {
        std::str::from_utf8(&self.0).unwrap_or("XXX")
    }

    /// How many decimal places the minor unit stands for (ISO 4217, column "minor unit").
    pub fn exponent(self) -> u32 {
        match self.as_str() {
            "BIF" | "CLP" | "DJF" | "GNF" | "ISK" | "JPY" | "KMF" | "KRW" | "PYG" | "RWF"
            | "UGX" | "VND" | "VUV" | "XAF" | "XOF" | "XPF" => 0,
            "BHD" | "IQD" | "JOD" | "KWD" | "LYD" | "OMR" | "TND" => 3,
            _ => 2,
        }
    }

    /// Writes minor units with the currency's decimal places: `-1234` in GBP is `-12.34`.
    pub fn format(self, minor: i128) -> String {
        let places = self.exponent() as usize;
        let digits = format!("{:0>width$}", minor.unsigned_abs(), width = places + 1);
        let (whole, fraction) = digits.split_at(digits.len() - places);
        let sign = if minor < 0 { "-" } else { "" };
        match fraction {
            "" => format!("{sign}{whole}"),
            _ => format!("{sign}{whole}.{fraction}"),
        }
    }

    /// Writes minor units for a sentence, with commas between thousands.
    pub fn say(self, minor: i128) -> String {
        let text = self.format(minor);
        let (whole, fraction) = text.split_once('.').unwrap_or((&text, ""));
        let (sign, digits) = whole.strip_prefix('-').map_or(("", whole), |digits| ("-", digits));
        let point = if fraction.is_empty() { "" } else { "." };
        format!("{sign}{}{point}{fraction}", grouped(digits))
    }

    /// Reads an amount as accountants write it: thousands by comma, apostrophe or space, decimals
    /// by point, negative by a sign before or after, or by parentheses.
    ///
    /// # Errors
    /// When the text is no such number, has more decimals than the currency, or is too large.
    pub fn parse_amount(self, text: &str) -> Result<i64, NotAnAmount> {
        let wrong = |problem| NotAnAmount { text: text.trim().to_owned(), problem };
        let mut body: String =
            text.chars().filter(|c| !c.is_whitespace() && !matches!(c, ',' | '\'' | '’')).collect();
        let mut negative = false;
        if let Some(inner) = body.strip_prefix('(').and_then(|b| b.strip_suffix(')')) {
            (body, negative) = (inner.to_owned(), true);
        }
        body = body.replace('\u{2212}', "-");
        if let Some(rest) = body.strip_suffix('-').or_else(|| body.strip_prefix('-')) {
            (body, negative) = (rest.to_owned(), !negative);
        }
        let body = body.strip_prefix('+').unwrap_or(&body);
        let (whole, fraction) = body.split_once('.').unwrap_or((body, ""));
        let digits = |part: &str| part.bytes().all(|b| b.is_ascii_digit());
        if whole.len() + fraction.len() == 0 || !digits(whole) || !digits(fraction) {
            return Err(wrong(AmountProblem::NotANumber));
        }
        let places = self.exponent() as usize;
        let kept = fraction.trim_end_matches('0');
        if kept.len() > places {
            return Err(wrong(AmountProblem::TooManyDecimals { places, currency: self }));
        }
        format!("{whole}{kept:0<places$}")
            .parse::<i64>()
            .map(|minor| if negative { -minor } else { minor })
            .map_err(|_| wrong(AmountProblem::TooLarge))
    }
}

/// Puts commas between thousands: `1234567` becomes `1,234,567`.
pub fn grouped(digits: &str) -> String {
    let mut text = String::with_capacity(digits.len() + digits.len() / 3);
    for (at, digit) in digits.chars().enumerate() {
        if at > 0 && (digits.len() - at).is_multiple_of(3) {
            text.push(',');
        }
        text.push(digit);
    }
    text
}

impl fmt::Display for Currency {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.as_str())
    }
}

impl fmt::Debug for Currency {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.as_str())
    }
}

/// Why a text is not an amount, with the text.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("“{text}” {problem}")]
pub struct NotAnAmount {
    /// What stood there.
    pub text: String,
    /// What is wrong with it.
    pub problem: AmountProblem,
}

/// What can be wrong with an amount.
#[derive(Clone, Copy, Debug, PartialEq, Eq, thiserror::Error)]
pub enum AmountProblem {
    /// It has letters, two decimal points, or nothing at all.
    #[error("is not a number")]
    NotANumber,
    /// Minor units would have to be split.
    #[error("has more than the {places} decimals of {currency}")]
    TooManyDecimals {
        /// Decimals the currency has.
        places: usize,
        /// The currency.
        currency: Currency,
    },
    /// It does not fit 64 bits of minor units.
    #[error("is too large")]
    TooLarge,
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn gbp() -> Currency {
        Currency::parse("gbp").unwrap()
    }

    #[test]
    fn amounts_are_read_as_accountants_write_them() {
        for (text, minor) in [
            ("1,234.56", 123_456),
            ("(1,234.5)", -123_450),
            ("12-", -1_200),
            ("\u{2212}0.01", -1),
            ("1 000", 100_000),
            ("+.5", 50),
            ("7.100", 710),
        ] {
            assert_eq!(gbp().parse_amount(text), Ok(minor), "{text}");
        }
    }

    #[test]
    fn sentences_have_commas_between_thousands() {
        assert_eq!(gbp().say(-123_456_789), "-1,234,567.89");
        assert_eq!(Currency::parse("JPY").unwrap().say(999), "999");
    }

    #[test]
    fn what_is_no_amount_says_why() {
        let says = |text: &str| gbp().parse_amount(text).unwrap_err().to_string();
        assert_eq!(says("abc"), "“abc” is not a number");
        assert_eq!(says("1.005"), "“1.005” has more than the 2 decimals of GBP");
        assert_eq!(says("99999999999999999999"), "“99999999999999999999” is too large");
        assert_eq!(says("--5"), "“--5” is not a number");
    }

    proptest! {
        #[test]
        fn written_amounts_read_back(minor in -i64::MAX..i64::MAX, code in "(GBP|JPY|BHD)") {
            let currency = Currency::parse(&code).unwrap();
            prop_assert_eq!(currency.parse_amount(&currency.format(minor.into())), Ok(minor));
        }
    }
}
