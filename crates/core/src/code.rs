//! Account codes: how they are written, compared and put in order.

use serde::{Deserialize, Serialize};
use std::cmp::Ordering;
use std::collections::BTreeMap;
use std::fmt;
use std::sync::Arc;

/// The longest code that is accepted, in characters.
pub const MAX_CODE: usize = 24;

/// An account code as a person writes it. Never empty, no white space at its ends, no control or
/// invisible characters, at most [`MAX_CODE`] characters.
#[derive(Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct Code {
    text: Arc<str>,
    key: CodeKey,
}

/// A code reduced to what tells it apart: case, spaces and look-alike dashes do not. Keys are in the
/// order of codes on a chart: runs of digits by their value, all else by letter, so that 990 comes
/// before 1000 and A-2 before A-10.
// A large chart is sorted and compared by keys all the time: the bytes order by themselves (see
// `sortable`) and end with the reduced text.
#[derive(Clone, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct CodeKey {
    bytes: Arc<[u8]>,
    text_at: u16,
}

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

pub(crate) fn is_invisible(c: char) -> bool {
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
        Ok(Self { text: trimmed.into(), key: CodeKey::of(trimmed) })
    }

    /// A number as a code.
    pub fn from_number(number: u64) -> Self {
        let text = number.to_string();
        Self { key: CodeKey::of(&text), text: text.into() }
    }

    /// The code counted on by so many: `5010` by 2 is `5012`, `A-09` by 1 is `A-10`. The digits at its end are
    /// counted; a code that ends otherwise stays.
    ///
    /// # Errors
    /// When it becomes too long.
    pub fn counted_on(&self, by: u16) -> Result<Self, NotACode> {
        let text = self.as_str();
        let (head, digits) =
            text.split_at(text.trim_end_matches(|c: char| c.is_ascii_digit()).len());
        let mut carried = u32::from(by);
        let mut counted: Vec<char> = Vec::with_capacity(digits.len());
        for digit in digits.chars().rev().filter_map(|c| c.to_digit(10)) {
            let sum = digit + carried;
            counted.extend(char::from_digit(sum % 10, 10));
            carried = sum / 10;
        }
        let more =
            if digits.is_empty() || carried == 0 { String::new() } else { carried.to_string() };
        let counted: String = counted.into_iter().rev().collect();
        Self::parse(&format!("{head}{more}{counted}"))
    }

    /// The code as written.
    pub fn as_str(&self) -> &str {
        &self.text
    }

    /// How many characters it has.
    pub fn width(&self) -> usize {
        self.as_str().chars().count()
    }

    /// What kinds of characters it is made of, in a row: `9` for a run of digits, `A` for one of letters, and all else
    /// as it stands. Spaces and look-alike dashes tell no forms apart.
    pub fn form(&self) -> String {
        let mut form = String::new();
        for c in self.key.as_str().chars() {
            let kind = match c {
                c if c.is_numeric() => '9',
                c if c.is_alphabetic() => 'A',
                c => c,
            };
            if !(matches!(kind, '9' | 'A') && form.ends_with(kind)) {
                form.push(kind);
            }
        }
        form
    }

    /// What two codes are compared by: they clash exactly when their keys are equal.
    pub fn key(&self) -> CodeKey {
        self.key.clone()
    }

    /// How two codes stand to each other on a chart: by their keys.
    pub fn chart_order(&self, other: &Self) -> Ordering {
        self.key.cmp(&other.key)
    }
}

crate::text::text_schema!(Code);

/// How many characters most codes have, and how many of them do; `None` of none.
pub(crate) fn usual_width<'a>(codes: impl Iterator<Item = &'a Code>) -> Option<(usize, usize)> {
    let mut widths: BTreeMap<usize, usize> = BTreeMap::new();
    for code in codes {
        *widths.entry(code.width()).or_default() += 1;
    }
    widths.into_iter().max_by_key(|(_, codes)| *codes)
}

impl TryFrom<String> for Code {
    type Error = NotACode;

    fn try_from(text: String) -> Result<Self, NotACode> {
        Self::parse(&text)
    }
}

impl From<Code> for String {
    fn from(code: Code) -> Self {
        code.to_string()
    }
}

impl fmt::Display for Code {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.text)
    }
}

impl fmt::Debug for Code {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Debug::fmt(&*self.text, f)
    }
}

impl CodeKey {
    fn of(code: &str) -> Self {
        let reduced: String = code
            .chars()
            .filter(|c| !c.is_whitespace())
            .map(|c| if is_dash(c) { '-' } else { c })
            .flat_map(char::to_uppercase)
            .collect();
        let mut bytes = sortable(&reduced);
        // No code is so long that this could be more.
        let text_at = u16::try_from(bytes.len()).unwrap_or(u16::MAX);
        bytes.extend_from_slice(reduced.as_bytes());
        Self { bytes: bytes.into(), text_at }
    }

    /// The reduced text, as stored beside the code.
    pub fn as_str(&self) -> &str {
        let text = self.bytes.get(usize::from(self.text_at)..).unwrap_or_default();
        std::str::from_utf8(text).unwrap_or_default()
    }
}

impl fmt::Debug for CodeKey {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        fmt::Debug::fmt(self.as_str(), f)
    }
}

/// Bytes that stand in the order of a chart: before each run of digits a one and the count of its
/// digits without leading zeros, and at the end a zero, so that a code comes before those that it
/// begins.
fn sortable(text: &str) -> Vec<u8> {
    let mut bytes = Vec::with_capacity(2 * text.len() + 4);
    let mut rest = text;
    while !rest.is_empty() {
        let (run, after) = head(rest);
        if run.starts_with(|c: char| c.is_ascii_digit()) {
            let value = run.trim_start_matches('0');
            bytes.extend([1, u8::try_from(value.len()).unwrap_or(u8::MAX)]);
            bytes.extend_from_slice(value.as_bytes());
        } else {
            bytes.extend_from_slice(run.as_bytes());
        }
        rest = after;
    }
    bytes.push(0);
    bytes
}

/// Splits off the first run of digits, or of other characters.
fn head(text: &str) -> (&str, &str) {
    let digit = |c: char| c.is_ascii_digit();
    let first = text.starts_with(digit);
    let end = text.find(|c: char| digit(c) != first).unwrap_or(text.len());
    text.split_at(end)
}

/// A stretch of codes, both ends included. Its first code never comes after its last.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(try_from = "Ends")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Interval {
    first: Code,
    last: Code,
}

/// A stretch as it is written down, before it is known that it does not run backwards.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Ends {
    first: Code,
    last: Code,
}

impl TryFrom<Ends> for Interval {
    type Error = NotIntervals;

    fn try_from(Ends { first, last }: Ends) -> Result<Self, NotIntervals> {
        Self::new(first, last)
    }
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
        if first.key > last.key {
            return Err(NotIntervals::Backwards(first, last));
        }
        Ok(Self { first, last })
    }

    /// The first code of it.
    pub fn first(&self) -> &Code {
        &self.first
    }

    /// The last code of it.
    pub fn last(&self) -> &Code {
        &self.last
    }

    /// Whether a code lies in the stretch.
    pub fn contains(&self, key: &CodeKey) -> bool {
        self.first.key <= *key && *key <= self.last.key
    }

    /// Whether two stretches have codes in common.
    pub fn overlaps(&self, other: &Self) -> bool {
        self.first.key <= other.last.key && other.first.key <= self.last.key
    }

    /// Whether a text is meant as more than one code.
    pub fn is_list(text: &str) -> bool {
        text.contains(" to ") || text.contains([',', ';'])
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
    fn codes_count_on_by_the_digits_at_their_end() {
        for (code, by, counted) in [
            ("5010", 2, "5012"),
            ("A-09", 1, "A-10"),
            ("0099", 1, "0100"),
            ("99", 1, "100"),
            ("9", 9_999, "10008"),
            ("TILL", 3, "TILL"),
            ("5010", 0, "5010"),
            ("12345678901234567899", 1, "12345678901234567900"),
        ] {
            let counted_on = Code::parse(code).unwrap().counted_on(by).unwrap();
            assert_eq!(counted_on.as_str(), counted, "{code} by {by}");
        }
        assert!(Code::parse(&"9".repeat(MAX_CODE)).unwrap().counted_on(1).is_err());
    }

    #[test]
    fn case_spaces_and_dashes_do_not_tell_codes_apart() {
        assert_eq!(key("ab 10\u{2013}2"), key(" AB10-2\u{200b}"));
        assert_ne!(key("0100"), key("100"));
    }

    #[test]
    fn digits_order_by_value() {
        let mut codes = ["1000", "990", "A-10", "A-2", "0990"].map(key);
        codes.sort();
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
        fn keys_order_run_by_run(a in "[0-9A-C.-]{1,6}", b in "[0-9A-C.-]{1,6}") {
            // Said plainly: runs of digits by value, before anything else; all else by letter.
            fn runs(text: &str) -> Vec<(bool, u64, &str)> {
                let (mut runs, mut rest) = (Vec::<(bool, u64, &str)>::new(), text);
                while !rest.is_empty() {
                    let (run, after) = head(rest);
                    runs.push(match run.parse() {
                        Ok(value) => (false, value, ""),
                        Err(_) => (true, 0, run),
                    });
                    rest = after;
                }
                runs
            }
            let order = key(&a).cmp(&key(&b));
            prop_assert_eq!(order, runs(&a).cmp(&runs(&b)).then_with(|| a.cmp(&b)));
            prop_assert_eq!(order.is_eq(), a == b);
        }

        #[test]
        fn any_text_is_a_code_or_says_why(text in ".{0,40}") {
            if let Ok(code) = Code::parse(&text) {
                prop_assert_eq!(Code::parse(code.as_str()), Ok(code));
            }
        }
    }
}
