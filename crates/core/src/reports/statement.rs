//! The balance sheet and the income statement, line by line.

use super::columns::Months;
use super::pieces::{Piece, pieces};
use crate::chart::{Account, Chart, Class};
use crate::code::{Code, CodeKey};
use crate::ids::{AccountId, LineId};
use crate::keyed::keyed;
use crate::rehearsal::Rehearsal;
use crate::statement::{LineKind, StatementLine};
use crate::today::Today;
use std::collections::{BTreeMap, HashMap};

keyed! {
    /// Under what a history is read.
    Reading {
        /// The code, class and line that it was posted under.
        AsPosted = "as_posted", "as it was posted";
        /// Today's chart.
        AsItIs = "as_it_is", "as it is today";
        /// The chart that a plan would leave.
        AsPlanned = "as_planned", "as the plan would leave it";
    }
}

keyed! {
    /// A statement.
    StatementKind {
        /// What is owned, what is owed, and what is left.
        BalanceSheet = "balance_sheet", "Balance sheet";
        /// What was earned and spent.
        IncomeStatement = "income_statement", "Income statement";
    }
}

keyed! {
    /// What a row of a statement is.
    RowKind {
        /// What the rows below it, one level in, add up to.
        Heading = "heading", "heading";
        /// Accounts.
        Line = "line", "line";
        /// What was earned less what was spent, where no closing entry brought it into equity.
        Result = "result", "result";
        /// What a class, or all of the statement, adds up to.
        Total = "total", "total";
    }
}

/// The balance sheet or the income statement.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Statement {
    /// Which.
    pub kind: StatementKind,
    /// From top to bottom.
    pub rows: Vec<Row>,
}

/// A row of a statement.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Row {
    /// What it is.
    pub kind: RowKind,
    /// How far it stands in.
    pub level: usize,
    /// What it is called.
    pub label: String,
    /// The class it belongs to; `None` for what all classes of the statement add up to.
    pub class: Option<Class>,
    /// The line of the structure that it is.
    pub line: Option<LineId>,
    /// Minor units of the base currency in each column, debits less credits.
    pub amounts: Vec<i128>,
    /// What a person reads is the amount times this: 1 or -1.
    pub shown_as: i8,
    /// Who has amounts on it.
    pub accounts: Vec<Standing>,
}

/// An account with what it stands at in each column.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Standing {
    /// The account; of a history as it was posted, the one that presents it today.
    pub account: AccountId,
    /// Its code, or the one it was posted under.
    pub code: String,
    /// Its name, or the one it was posted under.
    pub name: String,
    /// Minor units of the base currency in each column, debits less credits.
    pub amounts: Vec<i128>,
}

/// How long a statement is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Length {
    /// How many lines accounts stand on.
    pub lines: usize,
    /// How many accounts stand on them.
    pub accounts: usize,
    /// About how many sheets of A4 it takes with all lines open.
    pub pages: usize,
}

/// About how many rows a printed page holds under its heads.
const ROWS_OF_A_PAGE: usize = 48;

/// How the latest column of a row differs from the one beside it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Difference {
    /// How much it is more, in minor units, debits less credits.
    pub amount: i128,
    /// The same in tenths of a per cent, as more of what the class usually holds, so that costs that grow are more;
    /// `None` when nothing stands beside it.
    pub tenths: Option<i64>,
}

impl Statement {
    /// How long it is.
    pub fn length(&self) -> Length {
        let lines = self.rows.iter().filter(|row| row.kind == RowKind::Line).count();
        let accounts = self.rows.iter().map(|row| row.accounts.len()).sum();
        Length { lines, accounts, pages: (self.rows.len() + accounts).div_ceil(ROWS_OF_A_PAGE) }
    }

    /// How the latest column of a row differs from the one beside it. `None` when there is none, or when what was earned
    /// and spent in more months would stand beside that of fewer.
    pub fn difference(&self, row: &Row, columns: &[Months]) -> Option<Difference> {
        let [first, second, ..] = columns else { return None };
        let of_time = self.kind == StatementKind::IncomeStatement;
        if of_time && first.count() != second.count() {
            return None;
        }
        let (latest, beside) = (*row.amounts.first()?, *row.amounts.get(1)?);
        let amount = latest - beside;
        let sign = match row.class {
            Some(class) if class.is_usually_debit() => 1.0,
            Some(_) => -1.0,
            None => f64::from(row.shown_as),
        };
        let share = || (amount as f64 * sign / beside.abs() as f64 * 1000.0).round() as i64;
        Some(Difference { amount, tenths: (beside != 0).then(share) })
    }
}

/// Where an amount stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Place {
    /// The class.
    pub class: Class,
    /// The line of the structure, if it is one of the class.
    pub line: Option<LineId>,
}

impl Place {
    /// What it is called on the statements of a chart: its line, or its class.
    pub fn words(&self, chart: &Chart) -> String {
        let line = chart.structure().lines().find(|line| Some(line.id) == self.line);
        line.map_or_else(|| self.class.title().to_owned(), |line| line.name.clone())
    }
}

/// The place that a row of the chart has. One under a line of another class, as it can be while a class is staged,
/// stands on no line.
pub fn place_of(account: &Account) -> Place {
    let line = account.caption.as_ref().filter(|_| !account.is_under_foreign_caption());
    Place { class: account.class, line: line.map(|line| line.id) }
}

/// What the rows of the classes of a statement are called when they are on no line.
const ON_NO_LINE: &str = "On no line of the statements";

/// The balance sheet and the income statement of a history, read in one way.
pub fn draw(
    today: &Today,
    rehearsal: &Rehearsal,
    reading: Reading,
    columns: &[Months],
) -> [Statement; 2] {
    let mut books = Books::new(today, rehearsal, reading);
    for piece in pieces(&today.activity, &rehearsal.effects) {
        books.add(&piece, columns);
    }
    books.finish(columns.len())
}

/// Who has amounts, by place, and what is needed to name it.
struct Books<'a> {
    today: &'a Today,
    rehearsal: &'a Rehearsal,
    reading: Reading,
    lines: HashMap<LineId, Class>,
    on: BTreeMap<Place, BTreeMap<Bearer, Standing>>,
    /// Results that no closing entry brought into equity: of the fiscal year of each column up to its last day, and
    /// of the years before.
    this_year: Vec<i128>,
    earlier: Vec<i128>,
}

/// Who bears amounts, in the order in which a statement lists them.
type Bearer = (Option<CodeKey>, String, String, AccountId);

impl<'a> Books<'a> {
    fn new(today: &'a Today, rehearsal: &'a Rehearsal, reading: Reading) -> Self {
        let lines = chart_of(today, rehearsal, reading).structure().lines();
        let lines = lines.filter(|line| line.kind == LineKind::Line);
        Self {
            today,
            rehearsal,
            reading,
            lines: lines.map(|line| (line.id, line.class)).collect(),
            on: BTreeMap::new(),
            this_year: Vec::new(),
            earlier: Vec::new(),
        }
    }

    fn add(&mut self, piece: &Piece<'_>, columns: &[Months]) {
        let Some((place, account, code, name)) = self.bears(piece) else { return };
        let amounts = if place.class.on_balance_sheet() {
            piece.balances(columns)
        } else {
            let years: Vec<Months> = columns
                .iter()
                .map(|column| Months { first: column.last.year_start(), ..*column })
                .collect();
            let to_date = piece.balances(columns);
            let of_year = sum(&piece.results(&years), &piece.closed(&years), 1);
            add_to(&mut self.earlier, &sum(&to_date, &of_year, -1));
            add_to(&mut self.this_year, &of_year);
            piece.results(columns)
        };
        if amounts.iter().all(|amount| *amount == 0) {
            return;
        }
        let key = Code::parse(&code).ok().map(|code| code.key());
        let bearer = (key, code.clone(), name.clone(), account);
        let none = vec![0; columns.len()];
        let standing = self.on.entry(place).or_default().entry(bearer);
        let standing = standing.or_insert(Standing { account, code, name, amounts: none });
        add_to(&mut standing.amounts, &amounts);
    }

    /// Under which place, account, code and name a piece is read.
    fn bears(&self, piece: &Piece<'_>) -> Option<(Place, AccountId, String, String)> {
        // What stands on a line that these statements do not have stands on none.
        let fits = |class: Class, line: Option<LineId>| Place {
            class,
            line: line.filter(|line| self.lines.get(line) == Some(&class)),
        };
        let named = |account: &Account| {
            let (code, name) = (account.code.to_string(), account.name.clone());
            let Place { class, line } = place_of(account);
            (fits(class, line), account.id, code, name)
        };
        match self.reading {
            Reading::AsPosted => {
                let posted = &piece.strand.posted;
                let place = fits(posted.class, posted.caption);
                Some((place, piece.strand.account, posted.code.clone(), posted.name.clone()))
            }
            Reading::AsItIs => self.today.chart.get(piece.strand.account).map(named),
            Reading::AsPlanned => self.rehearsal.after.get(piece.after).map(named),
        }
    }

    fn finish(mut self, columns: usize) -> [Statement; 2] {
        self.this_year.resize(columns, 0);
        self.earlier.resize(columns, 0);
        [StatementKind::BalanceSheet, StatementKind::IncomeStatement].map(|kind| {
            let classes = Class::ALL.iter().copied().filter(|class| stands_on(*class, kind));
            let mut rows = Vec::new();
            let mut all = vec![0; columns];
            for class in classes {
                let mut of_class = self.class(class, kind, columns);
                if class == Class::Equity {
                    of_class.extend(self.results(kind));
                }
                let mut total = vec![0; columns];
                let adds = |row: &&Row| matches!(row.kind, RowKind::Line | RowKind::Result);
                of_class.iter().filter(adds).for_each(|row| add_to(&mut total, &row.amounts));
                add_to(&mut all, &total);
                rows.append(&mut of_class);
                let label = format!("Total {}", class.title().to_lowercase());
                rows.push(row(RowKind::Total, 0, label, Some(class), kind, total));
            }
            let label = match kind {
                StatementKind::BalanceSheet => "Assets less liabilities and equity",
                StatementKind::IncomeStatement => "Result",
            };
            rows.push(row(RowKind::Total, 0, label.to_owned(), None, kind, all));
            Statement { kind, rows }
        })
    }

    /// What stands in equity without a closing entry.
    fn results(&self, kind: StatementKind) -> Vec<Row> {
        let results =
            [("Results of earlier years", &self.earlier), ("Result of the year", &self.this_year)];
        let any = results.into_iter().filter(|(_, sums)| sums.iter().any(|sum| *sum != 0));
        let class = Some(Class::Equity);
        any.map(|(label, sums)| {
            row(RowKind::Result, 0, label.to_owned(), class, kind, sums.clone())
        })
        .collect()
    }

    /// The lines of a class that anybody has amounts on, under their headings.
    fn class(&mut self, class: Class, kind: StatementKind, columns: usize) -> Vec<Row> {
        let chart = chart_of(self.today, self.rehearsal, self.reading);
        let lines: Vec<&StatementLine> =
            chart.structure().lines().filter(|line| line.class == class).collect();
        let parents: HashMap<LineId, Option<LineId>> =
            lines.iter().map(|line| (line.id, line.parent)).collect();
        let above = |id: LineId| {
            std::iter::successors(parents.get(&id).copied().flatten(), |id| {
                parents.get(id).copied().flatten()
            })
            .take(parents.len())
        };
        let mut rows = Vec::new();
        for line in &lines {
            let level = above(line.id).count();
            let name = line.name.clone();
            match line.kind {
                // Every class ends in its total; within it headings say what is under them.
                LineKind::Total => {}
                LineKind::Heading => {
                    let none = vec![0; columns];
                    let heading = row(RowKind::Heading, level, name, Some(class), kind, none);
                    rows.push(Row { line: Some(line.id), ..heading });
                }
                LineKind::Line => {
                    let place = Place { class, line: Some(line.id) };
                    let Some(on) = self.on.remove(&place) else { continue };
                    rows.push(line_of(on, level, name, place, kind, columns));
                }
            }
        }
        if let Some(on) = self.on.remove(&Place { class, line: None }) {
            let place = Place { class, line: None };
            rows.push(line_of(on, 0, ON_NO_LINE.to_owned(), place, kind, columns));
        }
        let sums: Vec<(LineId, Vec<i128>)> = rows
            .iter()
            .filter_map(|row| {
                Some((row.line.filter(|_| row.kind == RowKind::Line)?, row.amounts.clone()))
            })
            .collect();
        let mut of_headings: HashMap<LineId, Vec<i128>> = HashMap::new();
        for (line, amounts) in &sums {
            above(*line)
                .for_each(|heading| add_to(of_headings.entry(heading).or_default(), amounts));
        }
        let is_top = |row: &Row| row.level == 0 && row.kind == RowKind::Heading;
        rows.retain_mut(|row| {
            let sums = row.line.and_then(|line| of_headings.remove(&line));
            let is_empty = row.kind == RowKind::Heading && sums.is_none() && !is_top(row);
            if let Some(sums) = sums {
                row.amounts = sums;
            }
            !is_empty
        });
        rows
    }
}

/// The chart that a history is read under: that of today for one as it was posted, whose lines are its lines.
pub fn chart_of<'a>(today: &'a Today, rehearsal: &'a Rehearsal, reading: Reading) -> &'a Chart {
    match reading {
        Reading::AsPlanned => &rehearsal.after,
        Reading::AsPosted | Reading::AsItIs => &today.chart,
    }
}

fn stands_on(class: Class, kind: StatementKind) -> bool {
    class.on_balance_sheet() == (kind == StatementKind::BalanceSheet)
}

fn row(
    kind: RowKind,
    level: usize,
    label: String,
    class: Option<Class>,
    of: StatementKind,
    amounts: Vec<i128>,
) -> Row {
    let is_asset =
        of == StatementKind::BalanceSheet && class.is_none_or(|class| class == Class::Asset);
    let shown_as = if is_asset { 1 } else { -1 };
    Row { kind, level, label, class, line: None, amounts, shown_as, accounts: Vec::new() }
}

fn line_of(
    on: BTreeMap<Bearer, Standing>,
    level: usize,
    label: String,
    place: Place,
    kind: StatementKind,
    columns: usize,
) -> Row {
    let mut amounts = vec![0; columns];
    on.values().for_each(|standing| add_to(&mut amounts, &standing.amounts));
    let accounts = on.into_values().collect();
    let class = Some(place.class);
    Row { line: place.line, accounts, ..row(RowKind::Line, level, label, class, kind, amounts) }
}

fn add_to(sums: &mut Vec<i128>, amounts: &[i128]) {
    sums.resize(sums.len().max(amounts.len()), 0);
    sums.iter_mut().zip(amounts).for_each(|(sum, amount)| *sum += amount);
}

fn sum(a: &[i128], b: &[i128], sign: i128) -> Vec<i128> {
    a.iter().zip(b).map(|(a, b)| a + sign * b).collect()
}
