//! Drawing up the statements: the items of the structure that anybody has amounts on, under their headings, with what
//! they add up to.

use super::calculation::calculate;
use super::columns::Months;
use super::reading::{Place, Read, add_to};
use super::statement::{Row, RowKind, RowName, Standing, Statement, StatementKind};
use crate::chart::Class;
use crate::code::{Code, CodeKey};
use crate::ids::ItemId;
use crate::statement::{ItemKind, StatementItem};
use std::collections::{BTreeMap, HashMap};

/// The balance sheet and the income statement of a history, as it is read.
pub fn draw(read: &Read<'_>) -> [Statement; 2] {
    let mut drawing = Drawing { read, on: standings(read) };
    let kinds = [StatementKind::BalanceSheet, StatementKind::IncomeStatement];
    let mut statements = kinds.map(|kind| drawing.statement(kind));
    calculate(&mut statements, read.chart().structure(), read.columns.len());
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
            let adds = |row: &&Row| matches!(row.kind, RowKind::Item | RowKind::Result);
            of_class.iter().filter(adds).for_each(|row| add_to(&mut total, &row.amounts));
            add_to(&mut all, &total);
            rows.append(&mut of_class);
            rows.push(row(RowKind::Total, RowName::Total(*class), *class, total));
            rows.append(&mut below);
        }
        // Of all classes together, whatever class stands here.
        let whole = row(RowKind::Total, RowName::Whole(kind), Class::Asset, all);
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
        let results = [(RowName::EarlierResults, earlier), (RowName::ResultOfYear, this_year)];
        let any = results.into_iter().filter(|(_, sums)| sums.iter().any(|sum| *sum != 0));
        any.map(|(name, sums)| row(RowKind::Result, name, Class::Equity, sums)).collect()
    }

    /// The items of a class that anybody has amounts on, under their headings; and what stands below its total: what
    /// is calculated behind the last of its items.
    fn class(&mut self, class: Class) -> (Vec<Row>, Vec<Row>) {
        let structure = self.read.chart().structure();
        let items: Vec<&StatementItem> =
            structure.items().filter(|item| item.class == class).collect();
        let above = Above::of(&items);
        let last = items.iter().rposition(|item| item.kind == ItemKind::Item).unwrap_or(0);
        let (mut rows, mut below) = (Vec::new(), Vec::new());
        for (at, item) in items.iter().enumerate() {
            let named = |kind| Row {
                level: above.of_item(item.id).count(),
                item: Some(item.id),
                ..row(kind, RowName::Own(item.name.clone()), class, self.none())
            };
            match item.kind {
                ItemKind::Heading => rows.push(named(RowKind::Heading)),
                ItemKind::Item => {
                    let place = Place { class, item: Some(item.id) };
                    let named = named(RowKind::Item);
                    rows.extend(self.on.remove(&place).map(|on| bear(named, on)));
                }
                ItemKind::Subtotal | ItemKind::Ratio if item.retired => {}
                ItemKind::Subtotal | ItemKind::Ratio => {
                    let is_ratio = item.kind == ItemKind::Ratio;
                    let kind = if is_ratio { RowKind::Ratio } else { RowKind::Subtotal };
                    match at > last {
                        true => below.push(Row { level: 0, ..named(kind) }),
                        false => rows.push(named(kind)),
                    }
                }
            }
        }
        if let Some(on) = self.on.remove(&Place { class, item: None }) {
            let of_none = row(RowKind::Item, RowName::WithoutItem, class, self.none());
            rows.push(bear(of_none, on));
        }
        above.add_up(&mut rows);
        (rows, below)
    }
}

/// The headings above the items of a class.
struct Above(HashMap<ItemId, Option<ItemId>>);

impl Above {
    fn of(items: &[&StatementItem]) -> Self {
        Self(items.iter().map(|item| (item.id, item.parent)).collect())
    }

    fn of_item(&self, item: ItemId) -> impl Iterator<Item = ItemId> {
        let parent = |id: &ItemId| self.0.get(id).copied().flatten();
        std::iter::successors(parent(&item), move |id| parent(id)).take(self.0.len())
    }

    /// Headings say what is under them; one within another under which nothing is goes.
    fn add_up(&self, rows: &mut Vec<Row>) {
        let mut sums: HashMap<ItemId, Vec<i128>> = HashMap::new();
        for row in rows.iter().filter(|row| row.kind == RowKind::Item) {
            for heading in row.item.into_iter().flat_map(|item| self.of_item(item)) {
                let none = || vec![0; row.amounts.len()];
                add_to(sums.entry(heading).or_insert_with(none), &row.amounts);
            }
        }
        rows.retain_mut(|row| {
            let sums = row.item.and_then(|item| sums.remove(&item));
            let stays = row.kind != RowKind::Heading || sums.is_some() || row.level == 0;
            if let Some(sums) = sums {
                row.amounts = sums;
            }
            stays
        });
    }
}

fn row(kind: RowKind, name: RowName, class: Class, amounts: Vec<i128>) -> Row {
    let (ratios, accounts) = (Vec::new(), Vec::new());
    let (level, item, shown_as) = (0, None, class.shown_as());
    Row { kind, level, name, class: Some(class), item, amounts, shown_as, ratios, accounts }
}

/// An item with who has amounts on it.
fn bear(mut item: Row, accounts: Vec<Standing>) -> Row {
    accounts.iter().for_each(|standing| add_to(&mut item.amounts, &standing.amounts));
    Row { accounts, ..item }
}
