//! Drawing up the statements: the lines of the structure that anybody has amounts on, under their headings, with what
//! they add up to.

use super::columns::Months;
use super::reading::{Place, Read, add_to};
use super::reckoning::reckon;
use super::statement::{Row, RowKind, Standing, Statement, StatementKind};
use crate::chart::Class;
use crate::code::{Code, CodeKey};
use crate::ids::LineId;
use crate::statement::{LineKind, StatementLine};
use std::collections::{BTreeMap, HashMap};

/// What the rows of the classes of a statement are called when they are on no line.
const ON_NO_LINE: &str = "On no line of the statements";

/// The balance sheet and the income statement of a history, as it is read.
pub fn draw(read: &Read<'_>) -> [Statement; 2] {
    let mut drawing = Drawing { read, on: standings(read) };
    let kinds = [StatementKind::BalanceSheet, StatementKind::IncomeStatement];
    let mut statements = kinds.map(|kind| drawing.statement(kind));
    reckon(&mut statements, read.chart().structure(), read.columns.len());
    statements
}

/// Who has amounts, by place, in the order in which a statement lists them.
fn standings(read: &Read<'_>) -> BTreeMap<Place, Vec<Standing>> {
    let mut on: BTreeMap<Place, Vec<Standing>> = BTreeMap::new();
    for bearer in &read.bearers {
        for place in bearer.places() {
            let amount = |(at, amount): (usize, &i128)| match bearer.place(at) == place {
                true => *amount,
                false => 0,
            };
            let amounts: Vec<i128> = bearer.amounts.iter().enumerate().map(amount).collect();
            if amounts.iter().any(|amount| *amount != 0) {
                let (code, name) = (bearer.code.to_owned(), bearer.name.to_owned());
                let standing = Standing { account: bearer.account, code, name, amounts };
                on.entry(place).or_default().push(standing);
            }
        }
    }
    for standings in on.values_mut() {
        standings.sort_by_cached_key(|standing| {
            (sort_key(&standing.code, &standing.name), standing.account)
        });
    }
    on
}

/// In which order accounts are listed: by code, as the chart has them.
pub(super) fn sort_key(code: &str, name: &str) -> (Option<CodeKey>, String, String) {
    let key = Code::parse(code).ok().map(|code| code.key());
    (key, code.to_owned(), name.to_owned())
}

struct Drawing<'a> {
    read: &'a Read<'a>,
    on: BTreeMap<Place, Vec<Standing>>,
}

impl Drawing<'_> {
    fn statement(&mut self, kind: StatementKind) -> Statement {
        let mut rows = Vec::new();
        let mut all = self.none();
        let classes = Class::ALL.iter().filter(|class| StatementKind::of(**class) == kind);
        for class in classes {
            let (mut of_class, mut below) = self.class(*class);
            if *class == Class::Equity {
                of_class.extend(self.results());
            }
            let mut total = self.none();
            let adds = |row: &&Row| matches!(row.kind, RowKind::Line | RowKind::Result);
            of_class.iter().filter(adds).for_each(|row| add_to(&mut total, &row.amounts));
            add_to(&mut all, &total);
            rows.append(&mut of_class);
            let label = format!("Total {}", class.title().to_lowercase());
            rows.push(row(RowKind::Total, label, *class, total));
            rows.append(&mut below);
        }
        let label = match kind {
            StatementKind::BalanceSheet => "Assets less liabilities and equity",
            StatementKind::IncomeStatement => "Result",
        };
        // Of all classes together, whatever class stands here.
        let whole = row(RowKind::Total, label.to_owned(), Class::Asset, all);
        rows.push(Row { class: None, shown_as: kind.shown_as(), ..whole });
        Statement { kind, rows }
    }

    fn none(&self) -> Vec<i128> {
        vec![0; self.read.columns.len()]
    }

    /// What was earned less what was spent, where no closing entry brought it into equity: in the fiscal year of each
    /// column up to its last day, and in the years before.
    fn results(&self) -> Vec<Row> {
        let columns = self.read.columns.iter();
        let years: Vec<Months> =
            columns.map(|column| Months { first: column.last.year_start(), ..*column }).collect();
        let (mut earlier, mut this_year) = (self.none(), self.none());
        for (piece, at) in &self.read.pieces {
            if self.read.bearers[*at].class().on_balance_sheet() {
                continue;
            }
            let of_year = piece.movements(&years);
            add_to(&mut earlier, &piece.balances(self.read.columns));
            earlier.iter_mut().zip(&of_year).for_each(|(sum, of_year)| *sum -= of_year);
            add_to(&mut this_year, &of_year);
        }
        let results = [("Results of earlier years", earlier), ("Result of the year", this_year)];
        let any = results.into_iter().filter(|(_, sums)| sums.iter().any(|sum| *sum != 0));
        any.map(|(label, sums)| row(RowKind::Result, label.to_owned(), Class::Equity, sums))
            .collect()
    }

    /// The lines of a class that anybody has amounts on, under their headings; and what stands below its total: what
    /// is reckoned behind the last of its lines.
    fn class(&mut self, class: Class) -> (Vec<Row>, Vec<Row>) {
        let structure = self.read.chart().structure();
        let lines: Vec<&StatementLine> =
            structure.lines().filter(|line| line.class == class).collect();
        let above = Above::of(&lines);
        let last = lines.iter().rposition(|line| line.kind == LineKind::Line).unwrap_or(0);
        let (mut rows, mut below) = (Vec::new(), Vec::new());
        for (at, line) in lines.iter().enumerate() {
            let named = |kind| Row {
                level: above.of_line(line.id).count(),
                line: Some(line.id),
                ..row(kind, line.name.clone(), class, self.none())
            };
            match line.kind {
                LineKind::Heading => rows.push(named(RowKind::Heading)),
                LineKind::Line => {
                    let place = Place { class, line: Some(line.id) };
                    let named = named(RowKind::Line);
                    rows.extend(self.on.remove(&place).map(|on| bear(named, on)));
                }
                LineKind::Subtotal | LineKind::Ratio if line.retired => {}
                LineKind::Subtotal | LineKind::Ratio => {
                    let is_ratio = line.kind == LineKind::Ratio;
                    let kind = if is_ratio { RowKind::Ratio } else { RowKind::Subtotal };
                    match at > last {
                        true => below.push(Row { level: 0, ..named(kind) }),
                        false => rows.push(named(kind)),
                    }
                }
            }
        }
        if let Some(on) = self.on.remove(&Place { class, line: None }) {
            let of_none = row(RowKind::Line, ON_NO_LINE.to_owned(), class, self.none());
            rows.push(bear(of_none, on));
        }
        above.add_up(&mut rows);
        (rows, below)
    }
}

/// The headings above the lines of a class.
struct Above(HashMap<LineId, Option<LineId>>);

impl Above {
    fn of(lines: &[&StatementLine]) -> Self {
        Self(lines.iter().map(|line| (line.id, line.parent)).collect())
    }

    fn of_line(&self, line: LineId) -> impl Iterator<Item = LineId> {
        let parent = |id: &LineId| self.0.get(id).copied().flatten();
        std::iter::successors(parent(&line), move |id| parent(id)).take(self.0.len())
    }

    /// Headings say what is under them; one within another under which nothing is goes.
    fn add_up(&self, rows: &mut Vec<Row>) {
        let mut sums: HashMap<LineId, Vec<i128>> = HashMap::new();
        for row in rows.iter().filter(|row| row.kind == RowKind::Line) {
            for heading in row.line.into_iter().flat_map(|line| self.of_line(line)) {
                let none = || vec![0; row.amounts.len()];
                add_to(sums.entry(heading).or_insert_with(none), &row.amounts);
            }
        }
        rows.retain_mut(|row| {
            let sums = row.line.and_then(|line| sums.remove(&line));
            let stays = row.kind != RowKind::Heading || sums.is_some() || row.level == 0;
            if let Some(sums) = sums {
                row.amounts = sums;
            }
            stays
        });
    }
}

fn row(kind: RowKind, label: String, class: Class, amounts: Vec<i128>) -> Row {
    let (ratios, accounts) = (Vec::new(), Vec::new());
    let (level, line, shown_as) = (0, None, class.shown_as());
    Row { kind, level, label, class: Some(class), line, amounts, shown_as, ratios, accounts }
}

/// A line with who has amounts on it.
fn bear(mut line: Row, accounts: Vec<Standing>) -> Row {
    accounts.iter().for_each(|standing| add_to(&mut line.amounts, &standing.amounts));
    Row { accounts, ..line }
}
