//! Rehearsing 5,000 targets on 10,000 accounts with two years of activity, against 50 ms.

use crate::{Measured, RUNS, median};
use std::time::{Duration, Instant};
use zf_core::activity::{Activity, Share, Slot, Strand, Totals};
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Chart, Class};
use zf_core::code::Code;
use zf_core::ids::{AccountId, StrandId};
use zf_core::money::Currency;
use zf_core::plan::{Change, Fate, Plan};
use zf_core::rehearsal::rehearse;
use zf_core::today::Today;
use zf_core::usage::Usage;

const ACCOUNTS: i64 = 10_000;
const TARGETS: i64 = 5_000;
const PERIODS: i32 = 24;
const WITHIN: Duration = Duration::from_millis(50);

pub(crate) fn measure() -> anyhow::Result<Measured> {
    let today = today()?;
    let plan = plan(&today)?;
    let mut times = Vec::new();
    for _ in 0..RUNS {
        let began = Instant::now();
        let rehearsal = rehearse(&today, &plan);
        times.push(began.elapsed());
        anyhow::ensure!(rehearsal.stops().next().is_none() && rehearsal.proof.difference == 0);
        anyhow::ensure!(rehearsal.effects.rows.len() == TARGETS as usize);
    }
    let name = "rehearse 5,000 targets on 10,000 accounts";
    Ok(Measured::new(name, median(times), "the limit of", WITHIN, 1.0))
}

/// A third each is merged, renumbered and renamed.
fn plan(today: &Today) -> anyhow::Result<Plan> {
    let mut plan = Plan::default();
    for n in 0..TARGETS {
        let id = AccountId(n);
        let change = match n % 3 {
            0 => Change::Fate(Fate::MergeInto { into: AccountId(n + TARGETS) }),
            1 => Change::Code(Code::parse(&format!("{}", 900_000 + n))?),
            _ => Change::Name(format!("Renamed {n}")),
        };
        let base = today.chart.get(id).map(|a| Change::of(a, change.field()));
        plan.stage(id, base, change);
    }
    Ok(plan)
}

fn today() -> anyhow::Result<Today> {
    let currency = Currency::parse("GBP")?;
    let accounts = (0..ACCOUNTS).map(|n| {
        let code = format!("{}", 100_000 + n);
        let mut account = zf_testing::account(&code, &format!("Account {n}"), Class::Expense);
        account.id = AccountId(n);
        account
    });
    let accounts: Vec<_> = accounts.collect();
    let calendar = FiscalCalendar::starting(2, 1)?;
    let strands = (0..).zip(&accounts).map(|(n, account)| {
        let shares = (0..PERIODS).map(|period| {
            let amount = if n % 2 == 0 { (100, 0) } else { (0, 100) };
            let slot = Slot { period: Period(24_300 + period), currency };
            let totals =
                Totals { debit: amount.0, credit: amount.1, lines: 1, ..Totals::default() };
            (slot, Share { totals, last: calendar.first_day(slot.period), cleared: 0 })
        });
        (Strand::opened(StrandId(n), account), shares.collect())
    });
    Ok(Today {
        activity: Activity::new(strands),
        usage: Usage { given: true, journal_complete: true, ..Usage::default() },
        ..Today::unposted(Chart::new(accounts), currency, calendar)
    })
}
