//! What stands on the left of a crosswalk beyond one code: lists, ranges, and patterns with a part that is
//! kept on the right.

use zf_core::chart::Account;
use zf_core::code::{Code, Interval};
use zf_core::former::{Finder, Found};

use crate::cause::Cause;
use crate::codes::split;
use crate::ranges::{self, AddsUp};

/// The accounts that a cell names, with what a pattern found in the code of each.
#[derive(Debug, Default)]
pub(super) struct Named<'a> {
    pub(super) accounts: Vec<(&'a Account, Vec<String>)>,
    /// Whether it is more than one code: a list, a range or a pattern.
    pub(super) several: bool,
    /// The range, where it is one.
    pub(super) range: Option<Interval>,
    /// Codes of a list that nobody bears, or bore.
    pub(super) unknown: Vec<Code>,
}

impl<'a> Named<'a> {
    /// The accounts that a cell names by more than one code; none when it is one code or nobody bears any.
    pub(super) fn by_several(text: &str, finder: &Finder<'a>) -> Option<Self> {
        let code = Code::parse(text).ok()?;
        if finder.by_code(&code.key()) != Found::Nobody {
            return None;
        }
        let (mut range, mut unknown) = (None, Vec::new());
        let mut accounts = if is_pattern(text) {
            let fitting = finder.codes().filter_map(|(_, account)| {
                Some((account, fit(&parts(text), account.code.as_str())?))
            });
            fitting.collect::<Vec<_>>()
        } else {
            let stretches = match ranges::read(text).ok()? {
                AddsUp::These(intervals) => intervals,
                // Two codes by a mark of lists are a list.
                AddsUp::Two(first, last) => vec![
                    Interval::new(first.clone(), first).ok()?,
                    Interval::new(last.clone(), last).ok()?,
                ],
            };
            let only = |interval: &Interval| interval.first() == interval.last();
            if stretches.len() == 1 && stretches.iter().all(only) {
                return None;
            }
            range =
                Some(&stretches).filter(|all| all.len() == 1).and_then(|all| all.first().cloned());
            let (single, ranges): (Vec<_>, Vec<_>) = stretches.into_iter().partition(only);
            let inside = finder.codes().filter(|(key, account)| {
                account.is_posting() && ranges.iter().any(|stretch| stretch.contains(key))
            });
            let mut found: Vec<&Account> = inside.map(|(_, account)| account).collect();
            // Each code of a list is meant, and stands for an account of now or before.
            for code in single.iter().map(Interval::first) {
                match finder.by_code(&code.key()) {
                    Found::Current(account) | Found::Former(account) => found.push(account),
                    Found::Several(_) | Found::Nobody => unknown.push(code.clone()),
                }
            }
            found.sort_by_key(|account| account.id);
            found.dedup_by_key(|account| account.id);
            found.into_iter().map(|account| (account, Vec::new())).collect()
        };
        accounts.sort_by_key(|(account, _)| account.code.key());
        Some(Self { accounts, several: true, range, unknown })
    }
}

/// Whether a text has places where anything, or any figure, may stand.
pub(super) fn is_pattern(text: &str) -> bool {
    let spots = text.contains(['*', '?', '#', '…']);
    let figures = text.trim_end_matches(['x', 'X']);
    spots
        || figures.len() < text.len() && figures.ends_with(|c: char| c.is_ascii_digit() || c == '-')
}

/// A part of a pattern.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Part<'p> {
    Fixed(&'p str),
    /// Any number of signs.
    Any,
    /// So many signs.
    Signs(usize),
}

fn parts(pattern: &str) -> Vec<Part<'_>> {
    let kind = |c: char| match c {
        '*' | '…' => 1,
        '?' | '#' | 'x' | 'X' => 2,
        _ => 0,
    };
    let mut parts = Vec::new();
    let mut rest = pattern;
    while let Some(first) = rest.chars().next() {
        let end = rest.find(|c| kind(c) != kind(first)).unwrap_or(rest.len());
        let (run, behind) = rest.split_at(end);
        parts.push(match kind(first) {
            1 => Part::Any,
            2 => Part::Signs(run.chars().count()),
            _ => Part::Fixed(run),
        });
        rest = behind;
    }
    parts
}

/// What stands in the open parts of a pattern, if a code fits it.
fn fit(parts: &[Part<'_>], code: &str) -> Option<Vec<String>> {
    let Some((first, rest)) = parts.split_first() else {
        return code.is_empty().then(Vec::new);
    };
    let with = |taken: &str, behind: &str| {
        let mut found = fit(rest, behind)?;
        found.insert(0, taken.to_owned());
        Some(found)
    };
    match first {
        Part::Fixed(text) => fit(rest, code.strip_prefix(text)?),
        Part::Signs(count) => {
            let end = code.char_indices().nth(*count).map_or(code.len(), |(at, _)| at);
            (code.chars().count() >= *count).then(|| with(&code[..end], &code[end..]))?
        }
        Part::Any => {
            let ends = code.char_indices().map(|(at, _)| at).chain([code.len()]);
            ends.skip(1).find_map(|end| with(&code[..end], &code[end..]))
        }
    }
}

/// The code on the right, with what was kept put in its open parts; none when they are not as many.
pub(super) fn filled(pattern: &str, kept: &[String]) -> Option<String> {
    let parts = parts(pattern);
    let open = parts.iter().filter(|part| !matches!(part, Part::Fixed(_))).count();
    if open != kept.len() {
        return None;
    }
    let mut kept = kept.iter();
    let texts = parts.iter().map(|part| match part {
        Part::Fixed(text) => Some(*text),
        _ => kept.next().map(String::as_str),
    });
    texts.collect()
}

/// The code on the right for one of a range: as far from the beginning of the range there as it is here. One
/// code on the right is that of all.
pub(super) fn shifted(range: &Interval, code: &Code, new: &str) -> Result<String, Cause> {
    let Some(Ok(AddsUp::These(right))) = new.contains(char::is_numeric).then(|| ranges::read(new))
    else {
        return Ok(new.to_owned());
    };
    let [to] = right.as_slice() else { return Ok(new.to_owned()) };
    if to.first() == to.last() {
        return Ok(new.to_owned());
    }
    let number = |code: &Code| code.as_str().parse::<u64>().ok();
    let ends = [range.first(), range.last(), to.first(), to.last()].map(number);
    let ([Some(first), Some(last), Some(to_first), Some(to_last)], Some(own)) =
        (ends, number(code))
    else {
        return Err(Cause::RangesNotNumbers);
    };
    if to_last - to_first != last - first {
        return Err(Cause::RangesDiffer);
    }
    let width = to.first().as_str().len();
    Ok(format!("{:0width$}", to_first + (own - first)))
}

/// A code without the name that stands in the same cell, and the name.
pub(super) fn parted(text: &str) -> (&str, &str) {
    split(text).unwrap_or((text, ""))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_fits_a_pattern_is_kept_on_the_right() {
        let moved = |left: &str, right: &str, code: &str| {
            fit(&parts(left), code).and_then(|kept| filled(right, &kept))
        };
        assert_eq!(moved("*-100", "*-200", "40-10-100").as_deref(), Some("40-10-200"));
        assert_eq!(moved("50xx", "61xx", "5012").as_deref(), Some("6112"));
        assert_eq!(moved("4*0", "5*5", "4120").as_deref(), Some("5125"));
        assert_eq!(moved("50??", "6*", "5012").as_deref(), Some("612"));
        assert_eq!(moved("50xx", "61xx", "512"), None);
        assert_eq!(moved("*-100", "200", "1-100"), None, "nothing is kept on the right");
    }
}
