//! Amounts as people write them. Which mark parts the decimals is told from all amounts of a file;
//! where they allow two readings, none is guessed.

use zf_core::keyed;
use zf_core::money::Currency;

keyed! {
    /// The mark between whole units and their decimals.
    DecimalMark {
        /// 1,234.56
        Point = "point";
        /// 1.234,56
        Comma = "comma";
    }
}

/// What the amounts of a file say about their decimal mark: how many speak for each.
#[derive(Clone, Copy, Debug, Default)]
pub struct AmountsSeen {
    point: usize,
    comma: usize,
}

impl AmountsSeen {
    /// Takes note of one amount.
    pub fn see(&mut self, currency: Currency, text: &str) {
        match said_by(text, currency.exponent()) {
            Some(DecimalMark::Point) => self.point += 1,
            Some(DecimalMark::Comma) => self.comma += 1,
            None => {}
        }
    }

    /// The mark that most speak for; `None` when they say nothing, or could all be read both ways.
    pub fn mark(self) -> Option<DecimalMark> {
        match (self.point, self.comma) {
            (0, 0) => None,
            (point, comma) if point >= comma => Some(DecimalMark::Point),
            _ => Some(DecimalMark::Comma),
        }
    }
}

impl DecimalMark {
    const fn sign(self) -> char {
        match self {
            Self::Point => '.',
            Self::Comma => ',',
        }
    }

    /// Marks that may stand between thousands, beside spaces and apostrophes.
    const fn other(self) -> char {
        match self {
            Self::Point => ',',
            Self::Comma => '.',
        }
    }

    /// Reads an amount: a currency sign or code may stand beside it, thousands be parted by the
    /// other mark, a space or an apostrophe; negative by a sign before or after, by parentheses,
    /// or by `Cr` behind it (and `Dr` for a debit).
    ///
    /// # Errors
    /// When the text is no such number, has more decimals than the currency, or is too large.
    pub fn read(self, currency: Currency, text: &str) -> Result<i64, NotAnAmount> {
        let wrong = |problem| NotAnAmount { text: text.trim().to_owned(), problem };
        let Bare { body, negative, named } =
            bare(text).ok_or_else(|| wrong(AmountProblem::NotANumber))?;
        if named.is_some_and(|named| !stands_for(&named, currency)) {
            return Err(wrong(AmountProblem::OtherCurrency { currency }));
        }
        let (whole, fraction) = body.split_once(self.sign()).unwrap_or((&body, ""));
        let groups: Vec<&str> = whole.split([self.other(), GROUP]).collect();
        let digits = |part: &str| part.bytes().all(|b| b.is_ascii_digit());
        let sound = groups.iter().all(|group| digits(group)) && digits(fraction);
        if !sound || !is_grouped(&groups) || whole.len() + fraction.len() == 0 {
            return Err(wrong(AmountProblem::NotANumber));
        }
        let places = currency.exponent() as usize;
        let (kept, up) = without_noise(fraction.trim_end_matches('0'), places);
        if kept.len() > places {
            return Err(wrong(AmountProblem::TooManyDecimals { places, currency }));
        }
        format!("{}{kept:0<places$}", groups.concat())
            .parse::<i64>()
            .map(|minor| minor + i64::from(up))
            .map(|minor| if negative { -minor } else { minor })
            .map_err(|_| wrong(AmountProblem::TooLarge))
    }
}

/// How many zeros or nines behind the last place that a currency has are noise.
const NOISE: usize = 6;

/// The decimals without what is left over where a spreadsheet adds up in binary, as in `1234.5600000000002`; and
/// whether the last of them is one more.
fn without_noise(fraction: &str, places: usize) -> (&str, bool) {
    let Some((kept, beyond)) = fraction.split_at_checked(places) else { return (fraction, false) };
    let noise = |digit: u8| beyond.len() > NOISE && beyond.bytes().take(NOISE).all(|b| b == digit);
    match (noise(b'0'), noise(b'9')) {
        (true, _) => (kept, false),
        (_, true) => (kept, true),
        _ => (fraction, false),
    }
}

/// Whether a text says by a dash that nothing stands there.
pub(crate) fn is_dash(text: &str) -> bool {
    matches!(text, "-" | "–" | "—")
}

/// Whether a cell holds a sign and nothing else: in a column of its own it is that of the amount beside it.
pub(crate) fn is_sign(text: &str) -> bool {
    matches!(text, "+" | "-" | "\u{2212}" | "\u{2013}")
}

/// Whether a text could be an amount, by whichever mark.
pub(crate) fn looks_like_amount(text: &str) -> bool {
    let marks = |c: char| c.is_ascii_digit() || matches!(c, '.' | ',' | GROUP);
    bare(text).is_some_and(|Bare { body, .. }| {
        body.contains(|c: char| c.is_ascii_digit()) && body.chars().all(marks)
    })
}

/// How much of one currency is worth one of another.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Rate {
    mantissa: i128,
    places: u32,
}

/// The most decimals of a rate; central banks publish four to six.
const RATE_PLACES: usize = 12;

impl Rate {
    /// Reads a positive rate.
    ///
    /// # Errors
    /// When the text is no positive number.
    pub fn read(mark: DecimalMark, text: &str) -> Result<Self, NotAnAmount> {
        let wrong =
            || NotAnAmount { text: text.trim().to_owned(), problem: AmountProblem::NotARate };
        let Bare { body, negative, .. } = bare(text).ok_or_else(wrong)?;
        let (whole, fraction) = body.split_once(mark.sign()).unwrap_or((&body, ""));
        let mantissa = format!("{whole}{fraction}").parse::<i128>().map_err(|_| wrong())?;
        if negative || mantissa <= 0 || fraction.len() > RATE_PLACES {
            return Err(wrong());
        }
        Ok(Self { mantissa, places: u32::try_from(fraction.len()).map_err(|_| wrong())? })
    }

    /// What minor units of one currency are worth in those of another, rounded half away from zero.
    /// `None` when it is too large to be kept.
    pub fn convert(self, amount: i64, from: Currency, to: Currency) -> Option<i64> {
        let up = 10_i128.checked_pow(to.exponent())?;
        let down = 10_i128.checked_pow(self.places + from.exponent())?;
        let exact = i128::from(amount).checked_mul(self.mantissa)?.checked_mul(up)?;
        let rounded = (exact.abs() + down / 2) / down * exact.signum();
        i64::try_from(rounded).ok()
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
    /// The currency that stands beside it is another one.
    #[error("is not in {currency}")]
    OtherCurrency {
        /// The currency that was looked for.
        currency: Currency,
    },
    /// It does not fit 64 bits of minor units.
    #[error("is too large")]
    TooLarge,
    /// A rate has to be a positive number.
    #[error("is not a rate of exchange")]
    NotARate,
}

/// Stands for any mark between thousands that is neither point nor comma.
const GROUP: char = '\'';

/// An amount without what stands beside it.
struct Bare {
    /// Its digits and marks.
    body: String,
    negative: bool,
    /// The sign or the code of a currency.
    named: Option<String>,
}

/// Signs that stand for one currency, or for those of one name.
const SIGNS: [(char, &[&str]); 8] = [
    ('£', &["GBP", "EGP", "GIP", "FKP", "SHP", "SYP", "LBP"]),
    ('€', &["EUR"]),
    (
        '$',
        &[
            "USD", "CAD", "AUD", "NZD", "SGD", "HKD", "MXN", "TWD", "JMD", "BBD", "TTD", "FJD",
            "BSD", "BMD", "BZD", "NAD", "GYD", "LRD", "XCD", "ARS", "CLP", "COP", "UYU", "DOP",
        ],
    ),
    ('¥', &["JPY", "CNY"]),
    ('₹', &["INR"]),
    ('₩', &["KRW"]),
    ('₺', &["TRY"]),
    ('₽', &["RUB"]),
];

/// Whether a sign or a code beside an amount may stand for a currency.
fn stands_for(named: &str, currency: Currency) -> bool {
    let code = currency.to_string();
    let sign = SIGNS.iter().find(|(sign, _)| named.starts_with(*sign));
    sign.map_or(named == code, |(_, codes)| codes.contains(&code.as_str()))
}

/// The digits and marks of an amount, without currency, sign and side.
fn bare(text: &str) -> Option<Bare> {
    let mut body: String = text
        .trim()
        .chars()
        .filter(|c| !matches!(c, '\u{200b}'..='\u{200f}' | '\u{feff}'))
        .map(|c| match c {
            '\u{2212}' | '\u{2013}' => '-',
            '’' | '\u{a0}' | '\u{202f}' | '\u{2009}' | ' ' => GROUP,
            other => other,
        })
        .collect();
    let mut negative = false;
    let (mut sided, mut named) = (false, None);
    loop {
        let trimmed = body.trim_matches(GROUP);
        if trimmed.len() < body.len() {
            body = trimmed.to_owned();
        }
        let upper = body.to_uppercase();
        if let Some(inner) = body.strip_prefix('(').and_then(|b| b.strip_suffix(')')) {
            (body, negative) = (inner.to_owned(), !negative);
        } else if let Some(rest) = body.strip_suffix('-').or_else(|| body.strip_prefix('-')) {
            (body, negative) = (rest.to_owned(), !negative);
        } else if let Some(rest) = body.strip_prefix('+') {
            body = rest.to_owned();
        } else if let Some((rest, credit)) = without_side(&upper).filter(|_| !sided) {
            sided = true;
            negative ^= credit;
            body = rest.to_owned();
        } else if let Some((rest, currency)) = without_currency(&body).filter(|_| named.is_none()) {
            named = Some(currency);
            body = rest;
        } else {
            // A sign that was taken twice is no sign: `--5`, `((5))`.
            let signs = text.matches(['-', '\u{2212}', '\u{2013}', '(']).count();
            return (signs <= 1).then_some(Bare { body, negative, named });
        }
    }
}

/// The marks of debits and credits beside an amount, in the languages that have one.
const SIDES: [(&str, bool); 12] = [
    ("DEBIT", false),
    ("CREDIT", true),
    ("SOLL", false),
    ("HABEN", true),
    ("DB", false),
    ("DR", false),
    ("CR", true),
    ("KR", true),
    ("D", false),
    ("C", true),
    ("S", false),
    ("H", true),
];

/// An amount in capitals without the mark of its side, behind it or before it, and whether that is credit.
fn without_side(text: &str) -> Option<(&str, bool)> {
    let amount = |c: Option<char>| c.is_some_and(|c| c.is_ascii_digit() || ".)-'".contains(c));
    SIDES.iter().find_map(|(side, credit)| {
        let behind = text.strip_suffix(side).or_else(|| text.strip_suffix('.')?.strip_suffix(side));
        let behind = behind.filter(|rest| amount(rest.chars().next_back()));
        let before = || text.strip_prefix(side).filter(|rest| amount(rest.chars().next()));
        Some((behind.or_else(before)?, *credit))
    })
}

/// An amount without the sign or code of its currency, and that.
fn without_currency(text: &str) -> Option<(String, String)> {
    for (sign, _) in SIGNS {
        if let Some(rest) = text.strip_prefix(sign).or_else(|| text.strip_suffix(sign)) {
            return Some((rest.to_owned(), sign.to_string()));
        }
    }
    let code = |part: &str| part.bytes().all(|b| b.is_ascii_uppercase());
    let ends = |at: usize| text.is_char_boundary(at) && text.len() > 3;
    if ends(3) && code(&text[..3]) {
        return Some((text[3..].to_owned(), text[..3].to_owned()));
    }
    let from = text.len().checked_sub(3)?;
    (ends(from) && code(&text[from..])).then(|| (text[..from].to_owned(), text[from..].to_owned()))
}

/// Whether runs of digits are parted as thousands are: three digits in each but the first; two in
/// those between, as in 12,34,567, will do.
fn is_grouped(groups: &[&str]) -> bool {
    match groups {
        [] | [_] => true,
        [first, between @ .., last] => {
            let fits = |group: &&str| matches!(group.len(), 2 | 3);
            (1..=3).contains(&first.len()) && last.len() == 3 && between.iter().all(fits)
        }
    }
}

/// What one amount says about the decimal mark of its file.
fn said_by(text: &str, places: u32) -> Option<DecimalMark> {
    use DecimalMark::{Comma, Point};
    let Bare { body, .. } = bare(text)?;
    let (points, commas) = (body.matches('.').count(), body.matches(',').count());
    let (single, thousands) = match (points, commas) {
        (0, 0) => return None,
        (_, 0) => (Point, Comma),
        (0, _) => (Comma, Point),
        _ => return if body.rfind('.') > body.rfind(',') { Some(Point) } else { Some(Comma) },
    };
    let (whole, rest) = body.split_once(single.sign())?;
    if points + commas > 1 {
        return Some(thousands);
    }
    match rest.len() {
        // No amount of the currency has three decimals, so the mark parts thousands.
        3 if places < 3 && (1..=3).contains(&whole.len()) && whole != "0" => Some(thousands),
        3 if (1..=3).contains(&whole.len()) && whole != "0" => None,
        _ => Some(single),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_side_in_any_usual_mark_tells_the_sign() {
        let gbp = Currency::parse("GBP").unwrap();
        let read = |text: &str| DecimalMark::Point.read(gbp, text).ok();
        for debit in
            ["12.00 Dr", "Dr 12.00", "12.00D", "12.00 S", "12.00 DR.", "12.00 Soll", "£12.00 Dr"]
        {
            assert_eq!(read(debit), Some(1_200), "{debit}");
        }
        for credit in [
            "12.00 Cr",
            "CR 12.00",
            "12.00C",
            "12.00 H",
            "12.00 credit",
            "12.00 Haben",
            "12.00 GBP Cr",
        ] {
            assert_eq!(read(credit), Some(-1_200), "{credit}");
        }
        for none in ["Dr", "12.00 Dr Cr", "X 12.00", "12.00 Z"] {
            assert_eq!(read(none), None, "{none}");
        }
    }

    #[test]
    fn an_amount_in_another_currency_is_not_one_of_this() {
        let read = |code: &str, text: &str| {
            DecimalMark::Point.read(Currency::parse(code).unwrap(), text).map_err(|e| e.problem)
        };
        assert_eq!(read("EUR", "12.00 EUR"), Ok(1_200));
        assert_eq!(read("EUR", "€12.00"), Ok(1_200));
        assert_eq!(read("AUD", "$12.00"), Ok(1_200));
        for text in ["12.00 EUR", "€ 12.00", "$12.00", "USD 12.00"] {
            let problem = read("GBP", text).unwrap_err();
            assert!(matches!(problem, AmountProblem::OtherCurrency { .. }), "{text}");
        }
    }
    use proptest::prelude::*;

    fn currency(code: &str) -> Currency {
        Currency::parse(code).unwrap()
    }

    fn read(mark: DecimalMark, text: &str) -> Option<i64> {
        mark.read(currency("GBP"), text).ok()
    }

    #[test]
    fn amounts_are_read_as_accountants_write_them() {
        for (text, minor) in [
            ("1,234.56", 123_456),
            ("(1,234.5)", -123_450),
            ("12-", -1_200),
            ("\u{2212}0.01", -1),
            ("1 000", 100_000),
            ("1\u{a0}000.00", 100_000),
            ("1'234.00", 123_400),
            ("12,34,567.00", 123_456_700),
            ("+.5", 50),
            ("7.100", 710),
            ("£ 12.00", 1_200),
            ("-£12.00", -1_200),
            ("GBP 12", 1_200),
            ("12.00 GBP", 1_200),
            ("12.00 Cr", -1_200),
            ("12.00DR", 1_200),
            ("(£1,000)", -100_000),
        ] {
            assert_eq!(read(DecimalMark::Point, text), Some(minor), "{text}");
        }
        assert_eq!(read(DecimalMark::Comma, "1.234,56"), Some(123_456));
        assert_eq!(read(DecimalMark::Comma, "-1 234,5 £"), Some(-123_450));
    }

    #[test]
    fn what_is_no_amount_is_not_guessed() {
        for text in ["", "abc", "1.2.3", "--5", "1,23", "1,2345.00", "£", "Cr", "12 x", "((5))"] {
            assert_eq!(read(DecimalMark::Point, text), None, "{text}");
        }
        let says = |text: &str| DecimalMark::Point.read(currency("JPY"), text).unwrap_err().problem;
        let places = AmountProblem::TooManyDecimals { places: 0, currency: currency("JPY") };
        assert_eq!(says("1.5"), places);
        assert_eq!(says("99999999999999999999"), AmountProblem::TooLarge);
    }

    #[test]
    fn one_clear_amount_tells_the_mark_of_the_file() {
        let of = |code: &str, texts: &[&str]| {
            let mut seen = AmountsSeen::default();
            texts.iter().for_each(|text| seen.see(currency(code), text));
            seen.mark()
        };
        assert_eq!(of("GBP", &["12", "1.234,56"]), Some(DecimalMark::Comma));
        assert_eq!(of("GBP", &["12", "0,5"]), Some(DecimalMark::Comma));
        assert_eq!(of("GBP", &["1,234"]), Some(DecimalMark::Point), "pounds have two decimals");
        assert_eq!(of("GBP", &["1.234.567"]), Some(DecimalMark::Comma));
        assert_eq!(of("BHD", &["1,234"]), None, "dinars have three");
        assert_eq!(of("GBP", &["12", "x", ""]), None);
    }

    proptest! {
        #[test]
        fn no_text_makes_it_panic(text in "\\PC{0,24}") {
            let _ = DecimalMark::Point.read(currency("GBP"), &text);
            let _ = said_by(&text, 2);
        }
    }
}
