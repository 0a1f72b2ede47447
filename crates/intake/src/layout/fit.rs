//! How well a column fits a meaning: by its heading, and by what stands under it.

use crate::codes::{looks_like_code, split};
use crate::columns::{Column, reduce};
use crate::dates::looks_like_date;
use crate::numbers::is_sign;
use crate::period_text::looks_like_period;
use crate::words::{self, RowWord, Said};
use crate::{Cell, RawRow, numbers, wordings};
use std::cell::OnceCell;
use std::collections::HashSet;
use zf_core::code::Interval;
use zf_core::file_kind::FileKind;
use zf_core::money::Currency;

/// How well a heading and a meaning fit at least, for the heading to tell it.
pub(super) const TOLD: i64 = 40;

/// How well a plain heading fits.
const PLAIN: i64 = 80;

/// How many cells say something of a column.
const ENOUGH: usize = 3;

/// By how much less a heading of codes tells a column of codes with names.
const BESIDE: i64 = 20;

/// What little words add to a heading is nothing.
const LITTLE: [&str; 15] = [
    "of", "the", "de", "du", "la", "le", "des", "der", "die", "das", "von", "van", "del", "el", "s",
];

/// What stands under a heading.
pub(super) struct Cells<'a> {
    filled: Vec<&'a Cell>,
    distinct: usize,
    /// Whether some are empty.
    has_blanks: bool,
    /// The wordings of those that are filled, once they are asked for.
    wordings: OnceCell<Vec<String>>,
}

impl<'a> Cells<'a> {
    pub(super) fn of(cells: impl Iterator<Item = &'a Cell>) -> Self {
        let mut has_blanks = false;
        let is_filled = |cell: &&Cell| {
            has_blanks |= cell.text.trim().is_empty();
            !cell.text.trim().is_empty()
        };
        let filled: Vec<_> = cells.filter(is_filled).collect();
        let distinct = filled.iter().map(|cell| cell.text.trim()).collect::<HashSet<_>>().len();
        Self { filled, distinct, has_blanks, wordings: OnceCell::new() }
    }

    /// How many in a hundred are so.
    fn share(&self, is: impl Fn(&str) -> bool) -> usize {
        let fitting = self.filled.iter().filter(|cell| is(cell.text.trim())).count();
        fitting * 100 / self.filled.len().max(1)
    }

    /// How many in a hundred have a wording that is so.
    fn worded(&self, is: impl Fn(&str) -> bool) -> usize {
        let wordings = self
            .wordings
            .get_or_init(|| self.filled.iter().map(|cell| reduce(cell.text.trim())).collect());
        let fitting = wordings.iter().filter(|wording| is(wording)).count();
        fitting * 100 / wordings.len().max(1)
    }

    /// How many in a hundred are a code with a name. Where not all are, the codes are of one form: names
    /// may begin with figures as well.
    fn coded_names(&self) -> usize {
        let codes: Vec<&str> =
            self.filled.iter().filter_map(|cell| split(&cell.text)).map(|(code, _)| code).collect();
        let share = codes.len() * 100 / self.filled.len().max(1);
        let form = |code: &&&str| {
            let digits = code.chars().all(|c| c.is_ascii_digit() || "-./".contains(c));
            digits && code.len() > 2 && codes.first().is_some_and(|first| first.len() == code.len())
        };
        let alike = codes.iter().filter(form).count() * 10 >= codes.len() * 8;
        if share >= 80 || alike { share } else { 0 }
    }

    /// Whether hardly any stands there twice.
    fn vary(&self) -> bool {
        self.distinct * 10 >= self.filled.len() * 9
    }

    /// Whether most are amounts with two decimals, which codes hardly ever look like.
    fn have_decimals(&self) -> bool {
        let decimals = |text: &str| {
            let two = text.len() > 3 && text[text.len() - 2..].chars().all(|c| c.is_ascii_digit());
            two && text[..text.len() - 2].ends_with([',', '.'])
        };
        self.share(|text| text.is_ascii() && is_amount(text) && decimals(text)) >= 80
    }

    /// Whether kinds of rows are said of all, and none is an account.
    fn no_row_is_an_account(&self) -> bool {
        let is_account = |w: &str| matches!(words::row_word(w), None | Some(RowWord::Account));
        !self.has_blanks && self.worded(is_account) == 0
    }

    /// Whether most are words.
    pub(super) fn are_words(&self) -> bool {
        !self.filled.is_empty() && self.share(is_words) >= 80
    }

    /// Whether most are numbers with decimals, or signs of amounts.
    pub(super) fn are_amounts(&self) -> bool {
        self.filled.len() >= ENOUGH && self.share(is_amount) >= 80
    }
}

/// How well a column fits a meaning: none when it cannot have it. What only the cells tell is less
/// than what a heading does.
pub(super) fn fit(
    kind: FileKind,
    means: Column,
    heading: &[String],
    cells: &Cells<'_>,
) -> Option<i64> {
    let score = score(kind, means, heading);
    // Where codes stand with their names in one cell, that is not a column of codes.
    let both = kind != FileKind::Chart && kind != FileKind::Usage;
    if means == Column::Code && both && cells.filled.len() >= ENOUGH && cells.coded_names() >= 80 {
        return None;
    }
    // Amounts of one side are no accounts of it.
    let of_side = matches!(means, Column::DebitCode | Column::CreditCode);
    if of_side && cells.have_decimals() {
        return None;
    }
    let (share, enough) = (looks(means, cells), cells.filled.len() >= ENOUGH);
    let shown = match share {
        _ if cells.filled.is_empty() => 0,
        Some(share) if share >= 80 => 30,
        Some(share) if share >= 50 => 10,
        // What stands in it says no louder than a heading that is plain, but for the columns that
        // everything hangs on.
        Some(share) if share < needed(means) && kind == FileKind::Chart => match means {
            Column::Code | Column::Name | Column::CodeAndName if enough || share == 0 => {
                return None;
            }
            // Words of a closed set are either there or not.
            Column::Class | Column::Kind | Column::Normal | Column::Statement | Column::Level
                if enough && share == 0 =>
            {
                return None;
            }
            _ if score < PLAIN && (enough || share == 0) => return None,
            _ => 0,
        },
        _ => 0,
    };
    if score >= TOLD {
        return Some(score + shown);
    }
    let plain = enough && share.is_some_and(|share| share >= 80);
    (plain && tells_itself(kind, means, cells)).then_some(30 + score / 4)
}

/// How many cells of a row are headings that are known. This is asked of every row at the top of a sheet,
/// before anything is asked of the cells below: what has no letter is not looked at.
pub(super) fn known_headings(kind: FileKind, fields: &[Column], row: &RawRow) -> usize {
    let lettered = |c: char| c.is_alphabetic() || "#№°".contains(c);
    let known = |text: &str| {
        let words = words::heading_words(text);
        fields.iter().any(|means| score(kind, *means, &words) >= TOLD)
    };
    row.filled().filter(|(_, text)| text.contains(lettered) && known(text)).count()
}

/// How well a heading fits a meaning, up to 100.
pub(super) fn score(kind: FileKind, means: Column, heading: &[String]) -> i64 {
    let heading: Vec<&str> = plain(heading).collect();
    let of = |known: &words::Heading| {
        let known_words: Vec<&str> = plain(&known.words).collect();
        let rank = i64::try_from(known.rank).unwrap_or(0).min(15);
        let inside = known_words.iter().all(|word| heading.contains(word));
        let within = heading.iter().all(|word| known_words.contains(word));
        match (inside, within) {
            _ if heading.is_empty() || known_words.is_empty() => 0,
            _ if known_words == heading => 100 - rank,
            (true, true) => 92 - rank,
            // A heading that says more than is known: the more of it is known the better.
            (true, false) => {
                let known = i64::try_from(known_words.len() * 100 / heading.len()).unwrap_or(0);
                match known_words.len() {
                    _ if known < 50 => 0,
                    1 => 25 + known * 4 / 10,
                    _ => 50 + known * 3 / 10,
                }
            }
            _ => 0,
        }
    };
    let known =
        |means: Column| words::headings(kind).iter().filter(move |known| known.means == means);
    let score = known(means).map(of).max().unwrap_or(0);
    // A column that is called as codes are may hold their names as well.
    let both = means == Column::CodeAndName && kind != FileKind::Chart;
    let as_code = known(Column::Code).map(of).max().filter(|_| both).unwrap_or(0);
    score.max(as_code - BESIDE)
}

fn plain(words: &[String]) -> impl Iterator<Item = &str> {
    words.iter().map(String::as_str).filter(|word| !LITTLE.contains(word))
}

/// How many in a hundred cells a meaning wants at least of those that look like it.
fn needed(means: Column) -> usize {
    match means {
        Column::Description | Column::Tax => 0,
        Column::Class | Column::Section => 1,
        Column::Code | Column::Name => 25,
        _ => 40,
    }
}

/// How many in a hundred cells look like a meaning; none when anything does.
pub(super) fn looks(means: Column, cells: &Cells<'_>) -> Option<usize> {
    Some(match means {
        Column::Code | Column::NewCode => cells.share(is_code),
        Column::DebitCode | Column::CreditCode | Column::Counter => {
            cells.share(|text| is_code(text) || split(text).is_some() || is_words(text))
        }
        Column::Name => {
            cells.share(|text| text.contains(char::is_alphabetic) && split(text).is_none())
        }
        Column::CodeAndName => cells.coded_names(),
        Column::Date | Column::StatusFrom => cells.share(looks_like_date),
        Column::Period => cells.share(|text| looks_like_period(text) || looks_like_date(text)),
        Column::Year => cells.share(|text| text.chars().filter(char::is_ascii_digit).count() > 1),
        Column::Class => {
            let known = cells.share(|text| {
                let wording = reduce(wordings::bare(text));
                words::class(&wording).is_some() || words::line(&wording).is_some()
            });
            let other = |w: &str| words::row_word(w).is_some() || words::side(w).is_some();
            let kinds = cells.worded(other);
            // In words of one's own a class stands for many rows.
            let vary = cells.filled.len() > 5 && cells.distinct * 2 > cells.filled.len();
            if known == 0 && vary || known < 50 && kinds >= 80 { 0 } else { known.max(1) }
        }
        Column::Section if cells.filled.len() > 7 && cells.vary() => 0,
        Column::Section => {
            cells.share(|text| is_words(text) || words::line(&reduce(text)).is_some()).max(1)
        }
        // Where every row were a heading or a total, there would be no account: that is no column of kinds.
        Column::Kind if cells.no_row_is_an_account() => 0,
        Column::Kind => cells.worded(|w| words::row_word(w).is_some()),
        Column::Action => cells.worded(|w| words::action(w).is_some()),
        Column::Statement => cells.worded(|w| words::statement(w).is_some()),
        Column::Side => cells.share(is_sign).max(cells.worded(|w| words::side(w).is_some())),
        Column::Normal => cells.worded(|w| words::side(w).is_some()),
        Column::Contra | Column::Cleared => {
            cells.worded(|w| words::says(Said::Yes, w) || words::says(Said::No, w))
        }
        Column::Status => cells.worded(|w| {
            let known = [Said::Active, Said::Deactivated, Said::Archived, Said::Yes, Said::No];
            known.iter().any(|said| words::says(*said, w))
        }),
        Column::Level => cells.share(|text| text.parse::<u8>().is_ok_and(|level| level < 16)),
        Column::Currency => cells.share(|text| Currency::parse(text).is_ok()),
        Column::Intervals => cells
            .share(|text| Interval::parse_list(text).is_ok() || text.contains(char::is_numeric)),
        Column::Balance | Column::Debit | Column::Credit | Column::Amount => cells.share(is_amount),
        _ => return None,
    })
}

/// Whether cells alone tell a meaning.
fn tells_itself(kind: FileKind, means: Column, cells: &Cells<'_>) -> bool {
    match means {
        Column::Code => (kind != FileKind::Journal || !cells.vary()) && !cells.have_decimals(),
        Column::NewCode => kind == FileKind::Crosswalk,
        Column::Name => kind == FileKind::Chart && cells.vary(),
        Column::CodeAndName => kind != FileKind::Crosswalk && kind != FileKind::Usage,
        Column::Class | Column::Kind | Column::Normal | Column::Statement => {
            kind == FileKind::Chart
        }
        Column::Action => kind == FileKind::Crosswalk,
        // Signs in a column of their own.
        Column::Side => cells.share(is_sign) == 100,
        Column::Date => true,
        _ => false,
    }
}

/// Codes have digits, or are short signs of capitals; amounts have decimals.
fn is_code(text: &str) -> bool {
    let sign = text.chars().count() <= 12
        && text.chars().all(|c| c.is_ascii_uppercase() || c.is_ascii_digit() || "-./_".contains(c));
    let spaced =
        split(text).is_none() && text.chars().filter(char::is_ascii_digit).count() * 2 > text.len();
    (looks_like_code(text) || sign || spaced) && !looks_like_date(text) && !text.starts_with('-')
}

fn is_words(text: &str) -> bool {
    text.chars().filter(|c| c.is_alphabetic()).count() > 2
}

fn is_amount(text: &str) -> bool {
    numbers::looks_like_amount(text) || numbers::is_dash(text)
}
