//! What each row of a ledger is.

use crate::RawRow;
use crate::codes::{looks_like_code, split};
use crate::columns::{Column, reduce};
use crate::dates::looks_like_date;
use crate::layout::Layout;
use crate::numbers::looks_like_amount;
use crate::period_text::looks_like_period;
use crate::periods::stand_for_days;
use crate::reading::Reading;
use crate::words::{self, Said};

/// The account that lines stand under.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub(super) struct Above {
    pub(super) code: String,
    pub(super) name: String,
}

/// What a row of a ledger is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) enum Is {
    /// It names the account of the lines below it.
    Account(Above),
    /// A line of an entry.
    Line,
    /// What the account stood at before its lines.
    Opening,
    /// A total, or what the account stands at after them.
    Total,
    /// The head of a page, or something else beside the ledger.
    Other,
}

/// Tells what rows are.
#[derive(Clone, Debug)]
pub(super) struct Kinds {
    /// The column of the day, or of the period where there is none.
    pub(super) when: Option<usize>,
    in_periods: bool,
    /// The column of the year beside a period.
    year: Option<usize>,
    entry: Option<usize>,
    code: Option<usize>,
    /// Columns of what a line comes to.
    amounts: Vec<usize>,
    /// The column of the running balance.
    balance: Option<usize>,
}

impl Kinds {
    pub(super) fn of(layout: &Layout) -> Self {
        let amounts = [Column::Debit, Column::Credit, Column::Amount];
        let amounts = amounts.iter().filter_map(|field| layout.place(*field)).collect();
        let running = |at: &&usize| {
            let heading = reduce(layout.heading(**at));
            heading.split(' ').any(|word| words::says(Said::Balance, word))
        };
        Self {
            when: layout.place(Column::Date).or(layout.place(Column::Period)),
            in_periods: stand_for_days(layout),
            year: layout.place(Column::Year),
            entry: layout.place(Column::Entry),
            code: layout.place(Column::Code).or(layout.place(Column::CodeAndName)),
            amounts,
            balance: layout.other_amounts().iter().find(running).copied(),
        }
    }

    /// Whether a line names its account itself.
    pub(super) fn names_account(&self, row: &RawRow) -> bool {
        self.code.is_some_and(|at| !text(row, at).is_empty())
    }

    pub(super) fn is(&self, row: &RawRow) -> Is {
        let timed =
            |text: &str| looks_like_date(text) || self.in_periods && looks_like_period(text);
        let dated = self.when.is_some_and(|at| timed(text(row, at)));
        let numbered = self.entry.is_some_and(|at| {
            let text = text(row, at);
            text.contains(|c: char| c.is_ascii_digit()) && split(text).is_none()
        });
        let has_amount = self.amounts.iter().any(|at| looks_like_amount(text(row, *at)));
        let words: Vec<&str> = row
            .filled()
            .filter(|(at, text)| {
                let reading = [self.balance, self.year].contains(&Some(*at));
                let time = looks_like_date(text) || Some(*at) == self.when && timed(text);
                !self.amounts.contains(at) && !reading && !time
            })
            .map(|(_, text)| text)
            .collect();
        let said = words.iter().find_map(|text| standing(text));
        match said {
            // A memo may begin with any word.
            Some(_) if dated && (numbered || has_amount && self.entry.is_some()) => Is::Line,
            Some(Is::Opening) => Is::Opening,
            Some(Is::Total) if !dated || !has_amount => Is::Total,
            _ if dated && has_amount => Is::Line,
            _ if dated => Is::Other,
            _ if has_amount && words.iter().any(|text| is_total(text)) => Is::Total,
            _ if has_amount => Is::Line,
            _ => match account(&words) {
                Some(above) => Is::Account(above),
                None => Is::Other,
            },
        }
    }

    /// The running balance beside a line.
    pub(super) fn balance(&self, row: &RawRow, reading: &Reading) -> Option<i64> {
        reading.figure(row, self.balance?)
    }

    /// What an opening row says, debits positive.
    pub(super) fn opening(&self, row: &RawRow, reading: &Reading) -> Option<i64> {
        let own = reading.signed(row, reading.currency).ok().filter(|amount| *amount != 0);
        own.or_else(|| self.balance(row, reading))
    }

    /// What a total says of debits and of credits.
    pub(super) fn sides(&self, row: &RawRow, reading: &Reading) -> [Option<i64>; 2] {
        let of = |field| reading.figure(row, reading.layout.place(field)?);
        [of(Column::Debit).or(of(Column::Amount)), of(Column::Credit)]
    }
}

fn text(row: &RawRow, at: usize) -> &str {
    row.cells.get(at).map_or("", |cell| cell.text.trim())
}

fn is_total(text: &str) -> bool {
    words::total_of(&reduce(text)).is_some()
}

/// Whether a text says that an account stands at something before its lines, or after them.
fn standing(text: &str) -> Option<Is> {
    let wording = reduce(text);
    let words: Vec<&str> = wording.split(' ').collect();
    let says = |said| {
        words::says(said, &wording)
            || words.iter().any(|word| words::says(said, word))
            || words.windows(2).any(|pair| words::says(said, &pair.join(" ")))
    };
    let balance = words.iter().any(|word| words::says(Said::Balance, word));
    let alone = |said| words::says(said, &wording);
    match () {
        () if words.len() > 6 => None,
        () if balance && says(Said::Opening) || alone(Said::Opening) => Some(Is::Opening),
        () if balance && says(Said::Closing) || alone(Said::Closing) => Some(Is::Total),
        () => None,
    }
}

/// The account that the words of a row name: code and name in one cell or in two, or a name alone.
fn account(words: &[&str]) -> Option<Above> {
    let above = |code: &str, name: &str| Above { code: code.to_owned(), name: name.to_owned() };
    let prefixed = |text: &str| {
        let wording = reduce(text);
        words::says(Said::Account, &wording)
    };
    let words: Vec<&str> = words.iter().copied().filter(|text| !prefixed(text)).collect();
    let bare = |text: &'_ str| -> String {
        // `Account: 1000 Bank`, `Konto 1200`.
        let end = text.find([':', ' ']).unwrap_or(0);
        let (first, rest) = text.split_at(end);
        let rest = rest.trim_start_matches([':', ' ', '-']);
        if prefixed(first) && !rest.is_empty() { rest.to_owned() } else { text.to_owned() }
    };
    let first = bare(words.first()?);
    if is_total(&first) || words.len() > 3 || is_page(&first) {
        return None;
    }
    if let Some((code, name)) = split(&first) {
        return Some(above(code, name));
    }
    match words.as_slice() {
        [_, name, ..] if looks_like_code(&first) => Some(above(&first, name)),
        [_] if looks_like_code(&first) => Some(above(&first, "")),
        [_] if first.contains(char::is_alphabetic) => Some(above("", &first)),
        _ => None,
    }
}

/// Whether a text stands at the head or foot of a page, or names a month.
fn is_page(text: &str) -> bool {
    let wording = reduce(text);
    let first = wording.split(' ').next().unwrap_or_default();
    let rest = wording[first.len()..].trim();
    let figures = !rest.is_empty() && rest.chars().all(|c| c.is_ascii_digit() || c == ' ');
    (words::says(Said::Page, first) || words::says(Said::Month, first))
        && (figures || rest.is_empty())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Cell;

    /// Rows of Date, Entry, Words, Debit, Credit and Balance.
    fn is(cells: [&str; 6]) -> Is {
        let kinds = Kinds {
            when: Some(0),
            in_periods: false,
            year: None,
            entry: Some(1),
            code: None,
            amounts: vec![3, 4],
            balance: Some(5),
        };
        kinds.is(&RawRow { number: 1, cells: cells.map(Cell::text).to_vec() })
    }

    fn named(code: &str, name: &str) -> Is {
        Is::Account(Above { code: code.to_owned(), name: name.to_owned() })
    }

    #[test]
    fn a_row_that_names_an_account_is_told_however_it_does() {
        for first in
            ["1000 Bank", "1000 - Bank", "Account: 1000 Bank", "Konto 1000 Bank", "Bank (1000)"]
        {
            assert_eq!(is([first, "", "", "", "", ""]), named("1000", "Bank"), "{first}");
        }
        assert_eq!(is(["1000", "", "Bank", "", "", ""]), named("1000", "Bank"));
        assert_eq!(is(["Account", "1000", "Bank", "", "", ""]), named("1000", "Bank"));
        assert_eq!(is(["Petty cash", "", "", "", "", ""]), named("", "Petty cash"));
        for none in ["Page 3", "January 2026", "Total", "Total for Bank"] {
            assert_ne!(is([none, "", "", "", "", ""]), named("", none), "{none}");
        }
    }

    #[test]
    fn opening_and_closing_rows_are_told_from_memos_that_sound_like_them() {
        for words in
            ["Opening balance", "Balance b/f", "Saldovortrag", "Solde initial", "Saldo inicial"]
        {
            assert_eq!(is(["", "", words, "5.00", "", ""]), Is::Opening, "{words}");
            assert_eq!(is(["2026-01-01", "", words, "", "", "5.00"]), Is::Opening, "{words}");
            assert_eq!(is(["2026-01-01", "J1", words, "5.00", "", "5.00"]), Is::Line, "{words}");
        }
        for words in ["Closing balance", "Balance c/f", "Endsaldo", "Saldo final"] {
            assert_eq!(is(["", "", words, "", "", "5.00"]), Is::Total, "{words}");
        }
        assert_eq!(is(["2026-01-01", "J1", "Total of the till", "5.00", "", ""]), Is::Line);
        assert_eq!(is(["Total 1000 Bank", "", "", "5.00", "5.00", ""]), Is::Total);
    }
}
