//! Sum lines and lines of reports keep their members, whatever happens to the codes around them.

use crate::books::{account, carried_out, plan, strand, today};
use proptest::prelude::*;
use std::collections::BTreeSet;
use time::macros::date;
use zf_core::activity::Activity;
use zf_core::chart::{Account, Chart, Class, Kind};
use zf_core::code::Interval;
use zf_core::ids::{AccountId, ApplicationId, ReportLineId};
use zf_core::plan::Override;
use zf_core::rehearsal::cause::Cause;
use zf_core::rehearsal::rehearse;
use zf_core::rehearsal::rule::Rule;
use zf_core::rehearsal::undo::{Application, rehearse_undo};
use zf_core::row_figures::RowFigures;
use zf_core::today::Today;
use zf_core::usage::ReportLine;

const ACCOUNTS: i64 = 12;
const SUM: AccountId = AccountId(100);

/// Accounts 1010, 1020, …, and a sum line and a line of a report over some stretches of them.
fn charts() -> impl Strategy<Value = Today> {
    let stretches = prop::collection::vec((1..=ACCOUNTS, 0..5i64), 1..4);
    stretches.prop_map(|stretches| {
        let code = |n: i64| 1000 + n * 10;
        let rows = (1..=ACCOUNTS).map(|n| account(n, &code(n).to_string(), "Row", Class::Expense));
        let mut sum = account(SUM.0, "9999", "In all", Class::Expense);
        sum.kind = Kind::Sum;
        let list: Vec<String> = stretches
            .iter()
            .map(|(from, more)| format!("{} to {}", code(*from), code(from + more)))
            .collect();
        sum.intervals = Interval::parse_list(&list.join(", ")).unwrap();
        let lines = (1..=ACCOUNTS).map(|n| strand(n, n, &[(date!(2026 - 03 - 01), n * 100)]));
        let line = report_line(&sum.intervals);
        let chart = Chart::new(rows.chain([sum]));
        let mut today = today(chart, Activity::new(lines.collect::<Vec<_>>()));
        today.usage.report_lines.push(line);
        today
    })
}

fn report_line(intervals: &[Interval]) -> ReportLine {
    let name = "report layout “Board”".to_owned();
    ReportLine { id: ReportLineId(7), name, intervals: intervals.to_vec() }
}

/// The accounts that the sum line adds up.
fn members(chart: &Chart) -> BTreeSet<AccountId> {
    inside(chart, &chart.get(SUM).unwrap().intervals)
}

/// The accounts that the line of a report adds up.
fn reported(today: &Today) -> BTreeSet<AccountId> {
    inside(&today.chart, &today.usage.report_lines[0].intervals)
}

fn inside(chart: &Chart, intervals: &[Interval]) -> BTreeSet<AccountId> {
    let inside = |a: &&Account| {
        a.is_posting() && intervals.iter().any(|interval| interval.contains(&a.code.key()))
    };
    chart.live().filter(inside).map(|account| account.id).collect()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 600, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn renumbering_never_changes_who_is_added_up(
        today in charts(),
        codes in prop::collection::btree_map(1..=ACCOUNTS, 1000..1400u32, 0..12),
    ) {
        let words: Vec<_> = codes.iter().map(|(id, code)| format!("{id} code {code}")).collect();
        let rehearsal = rehearse(&today, &plan(&today, &words.join("; ")));
        if rehearsal.stops().next().is_none() {
            prop_assert_eq!(members(&rehearsal.after), members(&today.chart));
            prop_assert_eq!(reported(&carried_out(&today, &rehearsal.effects)), reported(&today));
        }
    }

    #[test]
    fn an_undo_gives_every_line_what_was_written_there_or_lets_it_follow(
        today in charts(),
        codes in prop::collection::btree_map(1..=ACCOUNTS, 1000..1400u32, 1..12),
        came_later in any::<bool>(),
    ) {
        let words: Vec<_> = codes.iter().map(|(id, code)| format!("{id} code {code}")).collect();
        let rehearsal = rehearse(&today, &plan(&today, &words.join("; ")));
        if rehearsal.stops().next().is_some() {
            return Ok(());
        }
        let mut after = carried_out(&today, &rehearsal.effects);
        if came_later {
            after.usage.report_lines = vec![report_line(&Interval::parse_list("1000 to 1150").unwrap())];
            after.usage.report_lines[0].id = ReportLineId(8);
        }
        let effects = rehearsal.effects;
        let applied = Application { id: ApplicationId(1), name: "Renumber".to_owned(), effects };
        let undo = rehearse_undo(&after, &applied, &[]);
        prop_assert_eq!(undo.stops().count(), 0);
        let back = carried_out(&after, &undo.effects);
        prop_assert_eq!(&back.chart.get(SUM).unwrap().intervals, &today.chart.get(SUM).unwrap().intervals);
        prop_assert_eq!(reported(&back), reported(&after));
        if !came_later {
            prop_assert_eq!(&back.usage, &today.usage, "to the letter");
        }
    }

    #[test]
    fn a_merge_moves_a_sum_by_exactly_what_it_carries_across_the_edge(
        today in charts(),
        pairs in prop::collection::btree_map(1..=ACCOUNTS, 1..=ACCOUNTS, 0..4),
    ) {
        let words: Vec<_> = pairs.iter().filter(|(a, b)| a != b).map(|(a, b)| format!("{a} fate merge {b}")).collect();
        let rehearsal = rehearse(&today, &plan(&today, &words.join("; ")));
        if rehearsal.stops().next().is_some() {
            return Ok(());
        }
        let total = |chart: &Chart, figures: &dyn Fn(AccountId) -> i128| -> i128 {
            members(chart).into_iter().map(figures).sum()
        };
        let before = total(&today.chart, &|id| today.figures().get(&id).map_or(0, |f| f.all.net()));
        let after = total(&rehearsal.after, &|id| {
            rehearsal.figures_after.get(&id).map_or(0, |f| f.all.net())
        });
        let within = members(&today.chart);
        let crosses = today.chart.iter().any(|account| {
            let holder = rehearsal.after.holder(account.id).map(|holder| holder.id);
            holder.is_some_and(|h| within.contains(&account.id) != within.contains(&h))
        });
        prop_assert!(before == after || crosses);
        // Merges in and out are told even when what they carry cancels out.
        let mut said = rehearsal.findings.iter().filter(|f| f.rule().key() == "sum_edge");
        prop_assert_eq!(said.clone().count(), if crosses { 2 } else { 0 }, "sum line and report line");
        let said = said.next();
        prop_assert_eq!(said.is_some(), crosses);
        if let Some(finding) = said {
            let Cause::SumEdge { before: was, after: is, .. } = &finding.cause else { panic!("{finding:?}") };
            prop_assert_eq!((*was, *is), (before, after));
        }
        // Those who stay are added up as before.
        let merged: BTreeSet<AccountId> = today.chart.iter().map(|a| a.id)
            .filter(|id| rehearsal.after.get(*id).is_some_and(|a| !a.is_live())).collect();
        let stay: BTreeSet<_> = members(&today.chart).difference(&merged).copied().collect();
        prop_assert_eq!(members(&rehearsal.after), stay);
    }

    #[test]
    fn a_sum_line_is_rewritten_with_as_few_intervals_as_will_do(today in charts(), shift in 1..400u32) {
        // All accounts move on together: the shape of the intervals stays.
        let words: Vec<_> = (1..=ACCOUNTS).map(|n| format!("{n} code {}", 1000 + n as u32 * 10 + shift)).collect();
        let rehearsal = rehearse(&today, &plan(&today, &words.join("; ")));
        prop_assert_eq!(rehearsal.stops().count(), 0);
        let count = |chart: &Chart| {
            let inside = members(chart);
            let row: Vec<bool> = (1..=ACCOUNTS).map(|n| inside.contains(&AccountId(n))).collect();
            row.iter().enumerate().filter(|(at, on)| **on && (*at == 0 || !row[at - 1])).count()
        };
        let after = rehearsal.after.get(SUM).unwrap();
        if after.intervals != today.chart.get(SUM).unwrap().intervals {
            prop_assert_eq!(after.intervals.len(), count(&rehearsal.after));
        }
    }
}

#[test]
fn a_new_account_between_members_is_added_up_and_no_stop() {
    let rows =
        ["1010", "1020"].iter().zip(1..).map(|(code, id)| account(id, code, "Row", Class::Expense));
    let mut sum = account(100, "1999", "In all", Class::Expense);
    sum.kind = Kind::Sum;
    sum.intervals = Interval::parse_list("1010 to 1020").unwrap();
    let books = today(Chart::new(rows.chain([sum])), Activity::default());
    let words = "77 fate add; 77 code 1015; 77 name New; 77 class expense; 1 code 1011";
    let rehearsal = rehearse(&books, &plan(&books, words));
    assert_eq!(rehearsal.stops().count(), 0);
    let intervals = &rehearsal.after.get(AccountId(100)).unwrap().intervals;
    assert_eq!(Interval::format_list(intervals), "1010 to 1020", "it still holds them all");
    assert_eq!(members(&rehearsal.after).len(), 3);
}

#[test]
fn a_line_of_a_report_that_loses_all_it_had_stops_until_a_reviewer_goes_on() {
    let rows =
        ["1010", "1020"].iter().zip(1..).map(|(code, id)| account(id, code, "Row", Class::Expense));
    let mut books = today(Chart::new(rows), Activity::default());
    books.usage.report_lines.push(report_line(&Interval::parse_list("1010").unwrap()));
    let mut plan = plan(&books, "1 fate delete");
    let rehearsal = rehearse(&books, &plan);
    let stop = rehearsal.stops().next().unwrap();
    assert_eq!(stop.rule(), Rule::ReportLineLost);
    assert_eq!(stop.accounts, [AccountId(1)]);
    plan.overrides.insert(
        stop.key.clone(),
        Override { reason: "the report is being rewritten".to_owned(), by: "Ann".to_owned() },
    );
    let rehearsal = rehearse(&books, &plan);
    assert_eq!(rehearsal.stops().count(), 0);
    assert!(rehearsal.effects.rewritings.is_empty(), "it is left as written");
}

proptest! {
    /// What a row of the chart shows of a sum line is what its members show, each once, however its
    /// stretches overlap.
    #[test]
    fn a_sum_line_stands_at_what_its_members_stand_at(today in charts()) {
        let changes = (1..=ACCOUNTS).map(|n| (AccountId(n), i128::from(n))).collect();
        let rows = RowFigures::all(&today.chart, today.figures(), &changes);
        let mut sum = RowFigures::default();
        members(&today.chart).iter().for_each(|member| sum += rows[member]);
        prop_assert_eq!(rows[&SUM], sum);
        prop_assert!(sum.lines > 0 && sum.balance != 0 && sum.net_change != 0);
    }
}
