//! Small books for tests, and plans written in a line each.

#[path = "../../../../testing/src/words.rs"]
pub(crate) mod words;

use std::collections::BTreeMap;
use time::macros::date;
use zf_core::activity::{Activity, LineContent, Share, Shares, Slot, Strand, add_share};
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Section, Status};
use zf_core::code::{Code, Interval};
use zf_core::history::Line;
use zf_core::history::cut::{Cuts, Cutter};
use zf_core::ids::{AccountId, StrandId};
use zf_core::money::Currency;
use zf_core::plan::{Change, Field, Plan};
use zf_core::rehearsal::effects::Effects;
use zf_core::statement::{Caption, Structure};
use zf_core::today::Today;
use zf_core::usage::Usage;

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
        activity,
        usage: Usage { given: true, journal_complete: true, ..Usage::default() },
        ..Today::unposted(chart, gbp(), calendar())
    }
}

/// Lines of a strand by day and amount. Each is of an entry numbered by its place.
pub(crate) type Amounts = [(time::Date, i64)];

fn content(strand: i64, n: i64, date: time::Date, amount: i64) -> LineContent<'static> {
    LineContent {
        id: strand * 1000 + n,
        entry: n,
        date,
        amount,
        foreign: None,
        payee: "",
        memo: "",
        reference: "",
        dimensions: "",
    }
}

/// A strand of an account with amounts by day.
pub(crate) fn strand(id: i64, account: i64, lines: &Amounts) -> (Strand, Shares) {
    let mut activity = Shares::default();
    for (n, (date, amount)) in (0..).zip(lines) {
        let slot = Slot { period: calendar().period_of(*date), currency: gbp() };
        let line = content(id, n, *date, *amount);
        add_share(&mut activity, slot, Share::of_line(&line, false));
    }
    let account = self::account(account, &account.to_string(), "As it was", Class::Asset);
    (Strand::opened(StrandId(id), &account), activity)
}

/// A railway in a nutshell. Identities are the codes.
/// The line that a standard item is on statements that have no others.
pub(crate) fn caption(class: Class, standard: Section) -> Option<Caption> {
    Structure::default().of_standard(class, standard)
}

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
        caption: caption(Class::Asset, Section::Cash),
        ..row(code, name, Class::Asset, 1000)
    };
    let cost = |code, name| Account {
        caption: caption(Class::Expense, Section::CostOfSales),
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
    let mut strands: Vec<_> =
        RAILWAY.iter().map(|(id, account, lines)| strand(*id, *account, lines)).collect();
    strands[1].1.values_mut().for_each(|share| share.cleared = 1);
    today(chart, Activity::new(strands))
}

const NOW: time::Date = date!(2026 - 10 - 01);
const CLOSED: time::Date = date!(2024 - 05 - 01);

/// What was posted in the railway: strand, account, lines.
const RAILWAY: [(i64, i64, &Amounts); 5] = [
    (1, 1010, &[(NOW, -4_000), (CLOSED, -1_700)]),
    (2, 1020, &[(CLOSED, 700)]),
    (3, 5010, &[(NOW, 3_000), (CLOSED, 600)]),
    (4, 5020, &[(CLOSED, 400)]),
    (5, 5030, &[(NOW, 1_000)]),
];

/// The lines of a strand of the railway.
pub(crate) fn railway_lines(strand: StrandId) -> &'static Amounts {
    RAILWAY.iter().find(|(id, ..)| StrandId(*id) == strand).map_or(&[], |(_, _, lines)| lines)
}

/// A plan in words: `5010 code 5110; 5020 fate merge 5010`. Bases are those of today.
pub(crate) fn plan(today: &Today, words: &str) -> Plan {
    let mut plan = Plan::default();
    for change in words.split(';').map(str::trim).filter(|c| !c.is_empty()) {
        let mut parts = change.splitn(3, ' ');
        let id = AccountId(parts.next().unwrap().parse().unwrap());
        let field = Field::from_key(parts.next().unwrap()).unwrap();
        let base = today.chart.get(id).map(|account| Change::of(account, field));
        let number = |words: &str| AccountId(words.parse().unwrap());
        plan.stage(
            id,
            base,
            words::change(field, parts.next().unwrap_or_default(), today.chart.structure(), number),
        );
    }
    if today.chart.get(AccountId(5_099)).is_some() {
        allocate(today, &mut plan, railway_lines);
    }
    plan
}

/// Deals out the lines of the accounts that a plan splits.
pub(crate) fn allocate<'a>(
    today: &Today,
    plan: &mut Plan,
    lines: impl Fn(StrandId) -> &'a Amounts,
) {
    let mut cuts = Cuts::default();
    for (account, split) in plan.splits() {
        for (strand, ..) in today.activity.strands().filter(|s| s.0.account == account) {
            let mut cutter = Cutter::new(account, split, calendar(), gbp(), &mut cuts);
            for (n, (date, amount)) in (0..).zip(lines(strand.id)) {
                let content = content(strand.id.0, n, *date, *amount);
                let entry = n.to_string();
                cutter.see(&Line { content, strand: strand.id, entry: &entry, cleared: false });
            }
            cutter.finish();
        }
    }
    plan.cuts = cuts;
}

/// Gives every carved part a strand, as the store does.
pub(crate) fn carved(mut effects: Effects) -> Effects {
    let parts = effects.carvings.values_mut().flat_map(|carving| &mut carving.parts);
    (5_000..).zip(parts).for_each(|(id, part)| part.carved = Some(StrandId(id)));
    effects
}

/// The books as writing these effects would leave them.
pub(crate) fn carried_out(today: &Today, effects: &Effects) -> Today {
    let mut chart = today.chart.clone();
    for row in &effects.rows {
        match &row.after {
            Some(after) => chart.put(Account::clone(after)),
            None => chart.remove(row.account().unwrap()),
        }
    }
    let mut strands = Vec::new();
    for (strand, activity, _) in today.activity.strands() {
        let carving = effects.carvings.get(&strand.id);
        let left = carving.map_or(activity, |carving| &carving.left).clone();
        strands.push((Strand { account: effects.presenter(strand), ..strand.clone() }, left));
        for part in carving.iter().flat_map(|carving| &carving.parts) {
            let carved = Strand {
                id: part.carved.unwrap(),
                account: part.to,
                carved_from: Some(strand.id),
                ..strand.clone()
            };
            strands.push((carved, part.shares.clone()));
        }
    }
    let mut usage = today.usage.clone();
    for rewriting in &effects.rewritings {
        let line = usage.report_lines.iter_mut().find(|line| line.id == rewriting.line).unwrap();
        line.intervals.clone_from(&rewriting.to);
    }
    Today { activity: Activity::new(strands), chart, usage, ..today.clone() }
}

/// Accounts by identity, for comparing charts whatever their order.
pub(crate) fn by_id(chart: &Chart) -> BTreeMap<AccountId, Account> {
    chart.iter().map(|account| (account.id, account.clone())).collect()
}

pub(crate) fn period(date: time::Date) -> Period {
    calendar().period_of(date)
}
