//! Account codes: how they are written, compared and put in order.

use std::cmp::Ordering;
use std::fmt;

/// The longest code that is accepted, in characters.
pub const MAX_CODE: usize = 24;

/// An account code as a person writes it. Never empty, no white space at its ends, no control or
/// invisible characters, at most [`MAX_CODE`] characters.
#[derive(Clone, Debug, PartialEq, Eq, Hash)]
pub struct Code(String);

/// A code reduced to what tells it apart: case, spaces and look-alike dashes do not.
#[derive(Clone, Debug, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct CodeKey(String);

/// Why a text is not a code.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotACode {
    /// Nothing is left after trimming.
    #[error("the code is empty")]
    Empty,
    /// Longer than [`MAX_CODE`].
    #[error("“{0}” is longer than {MAX_CODE} characters")]
    TooLong(String),
    /// A tab, line break or other unprintable character.
    #[error("“{0}” has a character that cannot be printed")]
    Unprintable(String),
}

fn is_invisible(c: char) -> bool {
    matches!(c, '\u{200b}'..='\u{200f}' | '\u{2060}' | '\u{feff}' | '\u{ad}')
}

fn is_dash(c: char) -> bool {
    matches!(c, '\u{2010}'..='\u{2015}' | '\u{2212}' | '\u{fe58}' | '\u{fe63}' | '\u{ff0d}')
}

impl Code {
    /// Reads a code; trims white space and drops zero-width characters that spreadsheets leave.
    ///
    /// # Errors
    /// When nothing is left, it is too long, or a control character stands inside.
    pub fn parse(text: &str) -> Result<Self, NotACode> {
        let visible: String = text.chars().filter(|c| !is_invisible(*c)).collect();
        let trimmed = visible.trim();
        if trimmed.is_empty() {
            return Err(NotACode::Empty);
        }
        if trimmed.chars().count() > MAX_CODE {
            return Err(NotACode::TooLong(trimmed.to_owned()));
        }
        if trimmed.chars().any(char::is_control) {
            let shown = trimmed.escape_debug().to_string();
            return Err(NotACode::Unprintable(shown));
        }
        Ok(Self(trimmed.to_owned()))
    }

    /// The code as written.
    pub fn as_str(&self) -> &str {
        &self.0
    }

    /// What two codes are compared by: they clash exactly when their keys are equal.
    pub fn key(&self) -> CodeKey {
        CodeKey(
            self.0
                .chars()
                .filter(|c| !c.is_whitespace())
                .map(|c| if is_dash(c) { '-' } else { c })
                .flat_map(char::to_uppercase)
                .collect(),
        )
    }
}

impl fmt::Display for Code {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.0)
    }
}

impl CodeKey {
    /// The reduced text, as stored beside the code.
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

/// The order of codes on a chart: runs of digits by their value, all else by letter, so that 990
/// comes before 1000 and A-2 before A-10. Equal only when the keys are equal.
pub fn chart_order(a: &CodeKey, b: &CodeKey) -> Ordering {
    let (mut left, mut right) = (a.0.as_str(), b.0.as_str());
    loop {
        let (x, rest_x) = head(left);
        let (y, rest_y) = head(right);
        if x.is_empty() || y.is_empty() {
            return left.cmp(right).then_with(|| a.cmp(b));
        }
        let digits = |t: &str| t.starts_with(|c: char| c.is_ascii_digit());
        let order = if digits(x) && digits(y) {
            let (m, n) = (x.trim_start_matches('0'), y.trim_start_matches('0'));
            m.len().cmp(&n.len()).then_with(|| m.cmp(n))
        } else {
            x.cmp(y)
        };
        if order != Ordering::Equal {
            return order;
        }
        (left, right) = (rest_x, rest_y);
    }
}

/// Splits off the first run of digits, or of other characters.
fn head(text: &str) -> (&str, &str) {
    let digit = |c: char| c.is_ascii_digit();
    let first = text.starts_with(digit);
    let end = text.find(|c: char| digit(c) != first).unwrap_or(text.len());
    text.split_at(end)
}

/// A stretch of codes, both ends included. Its first code never comes after its last.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Interval {
    first: Code,
    last: Code,
}

/// Why a text is not a list of intervals.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotIntervals {
    /// One of the codes cannot be read.
    #[error(transparent)]
    Code(#[from] NotACode),
    /// The ends are the wrong way round.
    #[error("the interval {0} to {1} runs backwards")]
    Backwards(Code, Code),
}

impl Interval {
    /// The stretch from one code to another.
    ///
    /// # Errors
    /// When it would run backwards.
    pub fn new(first: Code, last: Code) -> Result<Self, NotIntervals> {
        if chart_order(&first.key(), &last.key()) == Ordering::Greater {
            return Err(NotIntervals::Backwards(first, last));
        }
        Ok(Self { first, last })
    }

    /// Whether a code lies in the stretch.
    pub fn contains(&self, key: &CodeKey) -> bool {
        chart_order(&self.first.key(), key).is_le() && chart_order(key, &self.last.key()).is_le()
    }

    /// Reads a list such as `1000 to 1999, 2500`.
    ///
    /// # Errors
    /// When a part is not a code or runs backwards.
    pub fn parse_list(text: &str) -> Result<Vec<Self>, NotIntervals> {
        text.split([',', ';'])
            .filter(|part| !part.trim().is_empty())
            .map(|part| match part.split_once(" to ") {
                Some((first, last)) => Self::new(Code::parse(first)?, Code::parse(last)?),
                None => {
                    let only = Code::parse(part)?;
                    Ok(Self { first: only.clone(), last: only })
                }
            })
            .collect()
    }

    /// Writes a list the way [`Interval::parse_list`] reads it.
    pub fn format_list(intervals: &[Self]) -> String {
        intervals.iter().map(ToString::to_string).collect::<Vec<_>>().join(", ")
    }
}

impl fmt::Display for Interval {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        if self.first == self.last {
            return self.first.fmt(f);
        }
        write!(f, "{} to {}", self.first, self.last)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn key(text: &str) -> CodeKey {
        Code::parse(text).unwrap().key()
    }

    #[test]
    fn case_spaces_and_dashes_do_not_tell_codes_apart() {
        assert_eq!(key("ab 10\u{2013}2"), key(" AB10-2\u{200b}"));
        assert_ne!(key("0100"), key("100"));
    }

    #[test]
    fn digits_order_by_value() {
        let mut codes = ["1000", "990", "A-10", "A-2", "0990"].map(key);
        codes.sort_by(chart_order);
        assert_eq!(codes, ["0990", "990", "1000", "A-2", "A-10"].map(key));
    }

    #[test]
    fn intervals_are_written_in_words() {
        let list = Interval::parse_list("1000 to 1999; 2500").unwrap();
        assert_eq!(Interval::format_list(&list), "1000 to 1999, 2500");
        assert!(list[0].contains(&key("1999")) && !list[0].contains(&key("19990")));
        let says = Interval::parse_list("20 to 10").unwrap_err().to_string();
        assert_eq!(says, "the interval 20 to 10 runs backwards");
    }

    proptest! {
        #[test]
        fn chart_order_is_an_order(a in "[0-9A-C-]{1,6}", b in "[0-9A-C-]{1,6}", c in "[0-9A-C-]{1,6}") {
            let [a, b, c] = [a, b, c].map(|t| key(&t));
            prop_assert_eq!(chart_order(&a, &b), chart_order(&b, &a).reverse());
            prop_assert_eq!(chart_order(&a, &b).is_eq(), a == b);
            if chart_order(&a, &b).is_le() && chart_order(&b, &c).is_le() {
                prop_assert!(chart_order(&a, &c).is_le());
            }
        }

        #[test]
        fn any_text_is_a_code_or_says_why(text in ".{0,40}") {
            if let Ok(code) = Code::parse(&text) {
                prop_assert_eq!(Code::parse(code.as_str()), Ok(code));
            }
        }
    }
}
