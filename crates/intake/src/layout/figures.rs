//! Which of several columns of amounts a trial balance is read from: opening, movement and closing, this
//! year and others, a month a column. What is not certain is asked.

use super::Layout;
use crate::RawRow;
use crate::columns::{Column, reduce};
use crate::dates::DateOrder;
use crate::numbers::{DecimalMark, is_dash, looks_like_amount};
use crate::words::{self, Said, SideWord};
use zf_core::money::Currency;

/// What a heading may say of the figures below it, besides what they are called.
const SAID: [Said; 4] = [Said::Opening, Said::Closing, Said::Totals, Said::Aside];

/// Amounts of one kind: a column of them, one of debits beside one of credits, or several that are added up.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Figures {
    /// By which an answer names them: the letters of the columns.
    pub key: String,
    /// What they are called.
    pub called: String,
    /// Their columns, with whether credits stand there.
    pub columns: Vec<(usize, bool)>,
}

impl Figures {
    fn of(called: String, columns: Vec<(usize, bool)>) -> Self {
        let letters: Vec<String> = columns.iter().map(|(at, _)| letter(*at)).collect();
        let called =
            if called.is_empty() { format!("columns {}", letters.join(", ")) } else { called };
        Self { key: letters.join("+"), called, columns }
    }

    /// Whether debits and credits have columns of their own.
    pub(crate) fn is_sided(&self) -> bool {
        self.columns.iter().any(|(_, credit)| *credit)
    }

    /// What a row has of them, in minor units of two decimals; none where nothing stands there.
    pub(crate) fn amount(&self, row: &RawRow, read: impl Fn(usize) -> Option<i64>) -> Option<i128> {
        let filled = |at: usize| row.cells.get(at).is_some_and(|cell| !cell.text.trim().is_empty());
        let amounts =
            self.columns.iter().filter(|(at, _)| filled(*at)).filter_map(|(at, credit)| {
                let amount = i128::from(read(*at)?);
                Some(if *credit { -amount } else { amount })
            });
        amounts.reduce(|a, b| a + b)
    }
}

/// The letters that a spreadsheet has for a column.
pub(crate) fn letter(at: usize) -> String {
    let own = char::from(b'A' + u8::try_from(at % 26).unwrap_or(0));
    match (at / 26).checked_sub(1) {
        Some(first) => letter(first) + &own.to_string(),
        None => own.to_string(),
    }
}

/// A column of amounts.
struct Amounts {
    at: usize,
    /// Its heading without the word of a side.
    called: String,
    side: Option<SideWord>,
    of: Option<Said>,
}

impl Amounts {
    fn new(at: usize, heading: &str) -> Self {
        let wording = reduce(heading);
        let mut words: Vec<&str> = wording.split(' ').collect();
        // The side stands at either end: `Debit opening`, `Closing Dr`.
        let at_end = [words.len().saturating_sub(1), 0];
        let side = at_end.iter().find_map(|end| Some((*end, words::side(words.get(*end)?)?)));
        if let Some((end, _)) = side {
            words.remove(end);
        }
        let all = words::heading_words(heading);
        let says = |said: &Said| {
            all.iter().any(|word| words::says(*said, word)) || words::says(*said, &words.join(" "))
        };
        let of = SAID.iter().copied().find(says);
        let (side, called) = (side.map(|(_, side)| side), words.join(" "));
        let called = if side.is_none() { heading.to_owned() } else { called };
        Self { at, called, side, of }
    }

    /// The year that the heading names.
    fn year(&self) -> Option<u32> {
        let years = reduce(&self.called);
        let years = years.split(' ').filter_map(|word| word.parse().ok());
        years.filter(|year| (1900..2200).contains(year)).max()
    }
}

impl Layout {
    /// Finds the amounts of a trial balance among its columns of figures. `said` is what a person answered.
    pub(super) fn find_figures(&mut self, below: &[&RawRow], said: Option<&str>) {
        let heading = |at: usize| self.heading(at).to_owned();
        let read_as = |field: Option<Column>| {
            matches!(field, Some(Column::Debit | Column::Credit | Column::Amount | Column::Balance))
        };
        let figures = self.columns.iter().filter(|column| {
            read_as(column.field) || column.field.is_none() && are_figures(below, column.at)
        });
        let mut all: Vec<Amounts> =
            figures.map(|column| Amounts::new(column.at, &heading(column.at))).collect();
        all.retain(|amounts| amounts.of != Some(Said::Aside));
        let mut found = in_pairs(&all);
        // Two sides come before their net.
        found.sort_by_key(|(figures, ..)| std::cmp::Reverse(figures.columns.len()));
        // What is the same in every row is the same figure, as a net beside its two sides.
        let mut values: Vec<Vec<i128>> = Vec::new();
        found.retain(|(figures, ..)| {
            let own: Vec<i128> = below
                .iter()
                .map(|row| figures.amount(row, |at| rough(row, at)).unwrap_or(0))
                .collect();
            let new = !values.contains(&own);
            if new {
                values.push(own);
            }
            new
        });
        let mut order: Vec<usize> = (0..found.len()).collect();
        order.sort_by_key(|at| found[*at].0.columns[0].0);
        found = order.iter().map(|at| found[*at].clone()).collect();
        values = order.iter().map(|at| values[*at].clone()).collect();
        if let ([(only, ..)], None) = (&found[..], said) {
            let (only, several) = (only.clone(), only.columns.len() < all.len());
            let amounts = [Column::Debit, Column::Credit, Column::Amount];
            let untold = !amounts.iter().any(|field| self.has(*field));
            // Beside its two sides a net says nothing new.
            if several && only.columns.len() > 1 || untold {
                self.take_figures(&only);
            }
            return;
        }
        if found.is_empty() {
            return;
        }
        let months = found.len() > 2 && found.iter().all(|(f, ..)| is_month(&f.called));
        // Months may be balances or movements, and nothing tells.
        let likely = likely(&found, &values).filter(|_| !months);
        let mut choices: Vec<Figures> = found.into_iter().map(|(figures, ..)| figures).collect();
        if months {
            let columns = choices.iter().flat_map(|figures| figures.columns.clone()).collect();
            choices.push(Figures::of("all of them, added up".to_owned(), columns));
        }
        let of_key = |key: &str| choices.iter().position(|figures| figures.key == key);
        let answered = said.and_then(of_key);
        let at = answered.or(likely).unwrap_or(choices.len() - 1);
        self.take_figures(&choices[at]);
        self.likely = likely;
        self.choices = if answered.is_some() { Vec::new() } else { choices };
    }

    /// Gives columns of figures their meaning, and takes it from the others.
    fn take_figures(&mut self, taken: &Figures) {
        let amounts = [Column::Debit, Column::Credit, Column::Amount, Column::Balance];
        self.places.retain(|field, _| !amounts.contains(field));
        let sided = taken.columns.iter().any(|(_, credit)| *credit);
        for column in &mut self.columns {
            let own = taken.columns.iter().find(|(at, _)| *at == column.at);
            if own.is_some() || column.field.is_some_and(|field| amounts.contains(&field)) {
                column.field = own.map(|(_, credit)| match (sided, credit) {
                    (false, _) => Column::Amount,
                    (true, false) => Column::Debit,
                    (true, true) => Column::Credit,
                });
            }
            if let Some(field) = column.field {
                self.places.entry(field).or_insert(column.at);
            } else if !self.amounts.contains(&column.at) {
                self.amounts.push(column.at);
            }
        }
        self.figures = Some(taken.clone());
    }

    /// The amounts that are read of a trial balance with several columns of figures.
    pub(crate) fn figures(&self) -> Option<&Figures> {
        self.figures.as_ref()
    }

    /// What a trial balance may be read from, and which of them is more likely, where it is not certain.
    pub(crate) fn choices(&self) -> (&[Figures], Option<usize>) {
        (&self.choices, self.likely)
    }
}

/// Columns of debits with those of credits behind them, and columns of either sign.
fn in_pairs(all: &[Amounts]) -> Vec<(Figures, Option<Said>, Option<u32>)> {
    let mut found = Vec::new();
    let mut at = 0;
    while at < all.len() {
        let (one, next) = (&all[at], all.get(at + 1));
        let pair = next.filter(|next| {
            matches!((one.side, next.side), (Some(a), Some(b)) if a != b)
                && (one.called == next.called || one.called.is_empty() || next.called.is_empty())
        });
        let sides: Vec<&Amounts> = std::iter::once(one).chain(pair).collect();
        let called = sides.iter().map(|side| &side.called).max_by_key(|called| called.len());
        let columns = sides.iter().map(|s| (s.at, s.side == Some(SideWord::Credit))).collect();
        // Debits alone are no balance.
        if pair.is_some() || one.side.is_none() {
            let figures = Figures::of(called.cloned().unwrap_or_default(), columns);
            found.push((figures, one.of.or(pair.and_then(|pair| pair.of)), one.year()));
        }
        at += sides.len();
    }
    found
}

/// Which figures are more likely what accounts stand at: what is called so, what opening and movement come
/// to, or the latest year.
fn likely(found: &[(Figures, Option<Said>, Option<u32>)], values: &[Vec<i128>]) -> Option<usize> {
    let only = |of: Said| {
        let mut fitting = found.iter().enumerate().filter(|(_, (_, own, _))| *own == Some(of));
        let first = fitting.next().map(|(at, _)| at);
        first.filter(|_| fitting.next().is_none())
    };
    let adds_up = || {
        let [opening, movement, closing] = values else { return None };
        let rows = opening.iter().zip(movement).zip(closing);
        let all = rows.clone().all(|((a, b), c)| a + b == *c);
        (all && closing.iter().any(|amount| *amount != 0)).then_some(2)
    };
    let years = || {
        let last = found.iter().filter_map(|(.., year)| *year).max()?;
        let mut fitting = found.iter().enumerate().filter(|(_, (.., year))| *year == Some(last));
        let first = fitting.next().map(|(at, _)| at);
        first.filter(|_| fitting.next().is_none())
    };
    only(Said::Closing).or_else(adds_up).or_else(years).or_else(|| only(Said::Totals))
}

/// Whether most of what stands in a column are amounts. One that cannot be read is said of its row.
fn are_figures(below: &[&RawRow], at: usize) -> bool {
    let texts = below.iter().filter_map(|row| row.cells.get(at)).map(|cell| cell.text.trim());
    let texts: Vec<&str> = texts.filter(|text| !text.is_empty()).collect();
    let amount = |text: &&&str| looks_like_amount(text) || is_dash(text);
    texts.iter().filter(amount).count() * 2 > texts.len()
}

/// An amount in minor units, by whichever mark reads it.
fn rough(row: &RawRow, at: usize) -> Option<i64> {
    let text = &row.cells.get(at)?.text;
    let currency = Currency::parse("EUR").ok()?;
    let read = |mark: DecimalMark| mark.read(currency, text).ok();
    read(DecimalMark::Point).or_else(|| read(DecimalMark::Comma))
}

/// Whether a heading names a month or a period.
fn is_month(called: &str) -> bool {
    let wording = reduce(called);
    let month = |word: &str| words::says(Said::Month, word.trim_end_matches(char::is_numeric));
    let day = |text: &str| DateOrder::read(Some(DateOrder::DayFirst), text).is_ok();
    wording.split(' ').any(month) || day(called) || day(&format!("{}-01", called.trim()))
}
