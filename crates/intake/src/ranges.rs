//! Several codes in one cell, as a sum line adds them up or a crosswalk moves them: lists, and ranges by any
//! usual mark.

use zf_core::code::{Code, Interval, NotIntervals};

/// What a cell says.
pub(crate) enum AddsUp {
    /// Without doubt.
    These(Vec<Interval>),
    /// Two codes, joined by a mark that stands between the ends of a range as well as in a list.
    Two(Code, Code),
}

/// Marks that stand between the ends of a range only.
const RANGES: [&str; 9] = ["...", "..", "…", "–", "—", ":", " - ", "-", "~"];

/// Marks that may stand between the ends of a range, and in a list.
const EITHER: [char; 4] = [',', ';', '/', '|'];

/// Reads what a sum line adds up.
pub(crate) fn read(text: &str) -> Result<AddsUp, NotIntervals> {
    let code = |text: &str| {
        let text = text.trim();
        let digit = text.contains(|c: char| c.is_ascii_digit());
        Code::parse(text).ok().filter(|_| digit && !text.contains(' '))
    };
    let two = |mark: char| {
        let (first, last) = text.split_once(mark)?;
        let (first, last) = (code(first)?, code(last)?);
        (first.key() < last.key()).then_some(AddsUp::Two(first, last))
    };
    // A comma with a space stands in a list.
    let certain = text.contains(" to ") || text.contains(", ") || text.contains(['+', '&']);
    if let Some(two) = EITHER.iter().filter(|_| !certain).find_map(|mark| two(*mark)) {
        return Ok(two);
    }
    let joined = |mark: &str| -> Option<Vec<Interval>> {
        let parts = text.split(EITHER).map(|part| {
            let (first, last) = part.split_once(mark).unwrap_or((part, part));
            Interval::new(code(first)?, code(last)?).ok()
        });
        parts.collect()
    };
    let list = text.replace(['+', '&', '/', '|'], ",");
    let usual = Interval::parse_list(&list);
    let ranges = RANGES.iter().filter(|mark| text.contains(*mark)).find_map(|mark| joined(mark));
    let found = match usual {
        Ok(list) if ranges.is_none() || text.contains(" to ") => Ok(list),
        usual => ranges.map_or(usual, Ok),
    };
    found.map(AddsUp::These)
}
