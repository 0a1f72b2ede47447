//! Codes as spreadsheets keep them: as numbers, with stray signs, or with the name in one cell.

/// What the codes of a file have in common.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct CodeStyle {
    /// Whether they were stored as numbers with a decimal, as 1000.0.
    decimals: bool,
}

/// Tells the style from all codes of a file: one with other decimals is enough to tell that the
/// point belongs to the codes.
#[derive(Clone, Copy, Debug, Default)]
pub struct CodesSeen {
    /// Whether a code has a point.
    pointed: bool,
    /// Whether a point parts more than a decimal.
    parted: bool,
}

impl CodesSeen {
    /// Takes note of one code.
    pub fn see(&mut self, code: &str) {
        if code.contains('.') {
            self.pointed = true;
            self.parted |= without_decimal(code).is_none();
        }
    }

    /// The style.
    pub fn style(self) -> CodeStyle {
        CodeStyle { decimals: self.pointed && !self.parted }
    }
}

impl CodeStyle {
    /// A code without what its file has added: an apostrophe that marks text, a decimal, invisible
    /// and no-break characters at its ends.
    pub fn clean(self, text: &str) -> &str {
        let odd = |c: char| c.is_whitespace() || matches!(c, '\u{200b}'..='\u{200f}' | '\u{feff}');
        let bare = text.trim_matches(odd);
        let bare = bare.strip_prefix('\'').unwrap_or(bare);
        without_decimal(bare).filter(|_| self.decimals).unwrap_or(bare)
    }
}

fn without_decimal(code: &str) -> Option<&str> {
    let whole = code.trim().strip_suffix(".0").or_else(|| code.trim().strip_suffix(".00"))?;
    (!whole.is_empty() && whole.bytes().all(|b| b.is_ascii_digit())).then_some(whole)
}

/// Whether a text could be a code: short, with a digit, without spaces, more digits than letters.
pub fn looks_like_code(text: &str) -> bool {
    let text = text.trim();
    let digits = text.chars().filter(char::is_ascii_digit).count();
    let letters = text.chars().filter(|c| c.is_alphabetic()).count();
    let marks = text.chars().all(|c| c.is_alphanumeric() || matches!(c, '-' | '.' | '/' | '_'));
    (1..=16).contains(&text.chars().count()) && digits >= letters.max(1) && marks
}

/// Parts a cell that holds both: `1000 Bank`, `1000 - Bank`, `1000: Bank`, `Bank (1000)`.
pub fn split(text: &str) -> Option<(&str, &str)> {
    let text = text.trim();
    if let Some((name, rest)) = text.rsplit_once('(')
        && let Some(code) = rest.strip_suffix(')').filter(|code| looks_like_code(code))
        && !name.trim().is_empty()
    {
        return Some((code, name.trim()));
    }
    let at = text.find(|c: char| c.is_whitespace() || matches!(c, ':' | '\u{b7}' | '\u{2013}'))?;
    let (code, rest) = text.split_at(at);
    let between = |c: char| {
        c.is_whitespace() || matches!(c, ':' | '-' | '\u{b7}' | '\u{2013}' | '\u{2014}' | '|')
    };
    let name = rest.trim_start_matches(between);
    (looks_like_code(code) && name.contains(char::is_alphabetic)).then_some((code, name))
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn codes_stored_as_numbers_lose_their_decimal() {
        let style = |codes: &[&str]| {
            let mut seen = CodesSeen::default();
            codes.iter().for_each(|code| seen.see(code));
            seen.style()
        };
        let numbers = style(&["1000.0", "0990", "2000.0"]);
        assert_eq!((numbers.clean("1000.0"), numbers.clean("0990")), ("1000", "0990"));
        let segments = style(&["1000.0", "1000.10"]);
        assert_eq!(segments.clean("1000.0"), "1000.0", "the point belongs to these codes");
        assert_eq!(CodeStyle::default().clean("\u{a0}'0100\u{200b} "), "0100");
    }

    #[test]
    fn code_and_name_in_one_cell_are_parted() {
        for text in
            ["1000 Bank", "1000 - Bank", "1000: Bank", "1000\u{a0}\u{2013} Bank", "Bank (1000)"]
        {
            assert_eq!(split(text), Some(("1000", "Bank")), "{text}");
        }
        assert_eq!(split("50-10 Coal, 2nd grade"), Some(("50-10", "Coal, 2nd grade")));
        for text in ["Bank", "1000", "1000 2000", "", "Coal and wood", "A & B (cash)"] {
            assert_eq!(split(text), None, "{text}");
        }
    }

    proptest! {
        #[test]
        fn no_text_makes_it_panic(text in "\\PC{0,20}") {
            let _ = (split(&text), looks_like_code(&text), CodeStyle::default().clean(&text));
        }
    }
}
