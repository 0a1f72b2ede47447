//! Small books for tests, and plans written in a line each.
#![allow(dead_code, reason = "each test file uses its part")]
#![allow(clippy::unwrap_used, reason = "what cannot be built fails the test")]

use std::collections::BTreeMap;
use time::macros::date;
use zf_core::activity::{Activity, LineContent, Slot, Strand, StrandActivity, Totals};
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Section, Status};
use zf_core::code::{Code, Interval};
use zf_core::former::FormerCodes;
use zf_core::ids::{AccountId, StrandId};
use zf_core::intake::journal::{self, Entries, FileEntries, JournalIntake, NewEntry};
use zf_core::intake::reading::Reading;
use zf_core::intake::rows::Rows;
use zf_core::money::Currency;
use zf_core::plan::{Change, Field, Plan};
use zf_core::policy::Policy;
use zf_core::rehearsal::effects::Effects;
use zf_core::rehearsal::{Today, Usage};

pub(crate) fn gbp() -> Currency {
    Currency::parse("GBP").unwrap()
}

/// The fiscal year begins on 1 February; the latest lines are of October 2026.
pub(crate) fn calendar() -> FiscalCalendar {
    FiscalCalendar::starting(2, 1).unwrap()
}

pub(crate) fn account(id: i64, code: &str, name: &str, class: Class) -> Account {
    Account::new(AccountId(id), Code::parse(code).unwrap(), name.to_owned(), class)
}

pub(crate) fn today(chart: Chart, activity: Activity) -> Today {
    Today {
        chart,
        activity,
        usage: Usage { given: true, journal_complete: true, ..Usage::default() },
        former: FormerCodes::default(),
        policy: Policy::default(),
        currency: gbp(),
        calendar: calendar(),
        locked: None,
    }
}

/// A strand of an account with amounts by day.
pub(crate) fn strand(
    id: i64,
    account: i64,
    lines: &[(time::Date, i64)],
) -> (Strand, StrandActivity) {
    let mut activity = StrandActivity::default();
    for (n, (date, amount)) in (0..).zip(lines) {
        let slot = Slot { period: calendar().period_of(*date), currency: gbp() };
        *activity.totals.entry(slot).or_default() += Totals::of_line(&LineContent {
            id: id * 1000 + n,
            entry: n,
            date: *date,
            amount: *amount,
            foreign: None,
            payee: "",
            memo: "",
            reference: "",
            dimensions: "",
        });
        activity.last = activity.last.max(Some(*date));
    }
    let strand = Strand {
        id: StrandId(id),
        account: AccountId(account),
        posted_code: String::new(),
        posted_name: String::new(),
    };
    (strand, activity)
}

/// A railway in a nutshell. Identities are the codes.
pub(crate) fn railway() -> Today {
    let heading = |code: i64, name: &str, class| Account {
        kind: Kind::Heading,
        ..account(code, &code.to_string(), name, class)
    };
    let row = |code: i64, name: &str, class, parent: i64| Account {
        parent: Some(AccountId(parent)),
        ..account(code, &code.to_string(), name, class)
    };
    let bank = |code, name| Account {
        role: Some(ControlRole::Bank),
        section: Some(Section::Cash),
        ..row(code, name, Class::Asset, 1000)
    };
    let cost = |code, name| Account {
        section: Some(Section::CostOfSales),
        ..row(code, name, Class::Expense, 5000)
    };
    let chart = Chart::new([
        heading(1000, "Assets", Class::Asset),
        bank(1010, "Bank"),
        bank(1020, "Old bank"),
        Account { currency: Some(Currency::parse("EUR").unwrap()), ..bank(1030, "Euro bank") },
        row(1050, "Stock", Class::Asset, 1000),
        row(2010, "Creditors", Class::Liability, 1000),
        heading(5000, "Running costs", Class::Expense),
        cost(5010, "Coal"),
        cost(5020, "Coal and firewood"),
        cost(5030, "Diesel"),
        cost(5040, "Never used"),
        Account {
            kind: Kind::Sum,
            intervals: Interval::parse_list("5000 to 5098").unwrap(),
            ..row(5099, "Running costs, in all", Class::Expense, 5000)
        },
        heading(6000, "Office", Class::Expense),
        row(6010, "Telephone", Class::Expense, 6000),
        Account { status: Status::Deactivated, ..row(6020, "Telegraph", Class::Expense, 6000) },
    ]);
    let now = date!(2026 - 10 - 01);
    let closed = date!(2024 - 05 - 01);
    let mut cleared = strand(2, 1020, &[(closed, 700)]);
    cleared.1.cleared = 1;
    let activity = Activity::new([
        strand(1, 1010, &[(now, -4_000), (closed, -1_700)]),
        cleared,
        strand(3, 5010, &[(now, 3_000), (closed, 600)]),
        strand(4, 5020, &[(closed, 400)]),
        strand(5, 5030, &[(now, 1_000)]),
    ]);
    today(chart, activity)
}

/// A plan in words: `5010 code 5110; 5020 fate merge:5010`. Bases are those of today.
pub(crate) fn plan(today: &Today, words: &str) -> Plan {
    let mut plan = Plan::default();
    for change in words.split(';').map(str::trim).filter(|c| !c.is_empty()) {
        let mut parts = change.splitn(3, ' ');
        let id = AccountId(parts.next().unwrap().parse().unwrap());
        let field = Field::from_key(parts.next().unwrap()).unwrap();
        let value = parts.next().unwrap_or_default();
        let base = today.chart.get(id).map(|account| Change::today(account, field));
        plan.stage(id, base, Change::parse(field, value).unwrap());
    }
    plan
}

/// The books as writing these effects would leave them.
pub(crate) fn carried_out(today: &Today, effects: &Effects) -> Today {
    let mut chart = today.chart.clone();
    for row in &effects.rows {
        match &row.after {
            Some(after) => chart.put(after.clone()),
            None => chart.remove(row.account().unwrap()),
        }
    }
    let strands = today.activity.strands().map(|(strand, activity, _)| {
        (Strand { account: effects.presenter(strand), ..strand.clone() }, activity.clone())
    });
    Today { activity: Activity::new(strands.collect::<Vec<_>>()), chart, ..today.clone() }
}

/// Accounts by identity, for comparing charts whatever their order.
pub(crate) fn by_id(chart: &Chart) -> BTreeMap<AccountId, Account> {
    chart.iter().map(|account| (account.id, account.clone())).collect()
}

pub(crate) fn period(date: time::Date) -> Period {
    calendar().period_of(date)
}

/// Reads a journal, with the lines of the entries that are ready.
pub(crate) fn read_journal(
    reading: &Reading,
    rows: &dyn Rows,
    books: &journal::Books<'_>,
) -> (JournalIntake, Vec<NewEntry>) {
    let read = journal::read(reading, rows, books);
    let file = FileEntries { read: &read, reading, rows, books };
    let heads = file.heads().map(|head| NewEntry {
        number: head.number.to_owned(),
        date: head.date,
        kind: head.kind,
        lines: Vec::new(),
    });
    let mut entries: Vec<NewEntry> = heads.collect();
    file.lines().for_each(|(at, line)| entries[at].lines.push(line.into_owned()));
    (read, entries)
}
