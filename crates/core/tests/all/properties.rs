//! What holds of every plan on every chart, tried on random ones. How often the interesting cases
//! really came up is counted, printed, and must not be zero.

use crate::books;
use crate::books::{account, by_id, carried_out, carved, strand, today};
use crate::statements::must_tie;
use proptest::prelude::*;
use proptest::test_runner::{Config, TestRunner};
use std::cell::RefCell;
use std::collections::BTreeMap;
use time::Date;
use zf_core::activity::{Activity, Totals};
use zf_core::chart::{Account, Chart, Class, Kind, Section, Status};
use zf_core::code::Code;
use zf_core::code::Interval;
use zf_core::history::{Part, Split, Which};
use zf_core::ids::{AccountId, ApplicationId};
use zf_core::plan::{Change, Fate, Field, Plan};
use zf_core::rehearsal::cause::Cause;
use zf_core::rehearsal::effects::RowChange;
use zf_core::rehearsal::finding::Finding;
use zf_core::rehearsal::proof::{compare_ledgers, is_presented_as_predicted, ledger_after};
use zf_core::rehearsal::report::{ChangeKind, Crossing, Detail, Report, counts};
use zf_core::rehearsal::rule::Rule;
use zf_core::rehearsal::undo::{Application, rehearse_undo};
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::statement::{ItemKind, StatementItem, Structure};
use zf_core::today::Today;

/// Posting accounts: two classes, so that most random merges are allowed.
const ACCOUNTS: i64 = 14;

/// An archived account, a deactivated one, and one whose history the first account holds.
const RETIRED: [i64; 3] = [15, 16, 17];

/// Two headings.
const HEADINGS: [i64; 2] = [101, 102];

/// The first of three accounts that plans may add.
const ADDED: i64 = 200;

/// One random change: which account, what kind of change, and a number to make it of.
type Raw = (i64, u8, i64);

/// Books with the lines of each strand; strands have the identities of their accounts.
pub(crate) type Posted = (Today, BTreeMap<i64, Vec<(Date, i64)>>);

pub(crate) fn books_strategy() -> impl Strategy<Value = Posted> {
    let amounts = proptest::collection::vec((0..ACCOUNTS, 0..1500i32, -900..900i64), 1..40);
    amounts.prop_map(|amounts| {
        let class = |n| if n % 2 == 0 { Class::Expense } else { Class::Asset };
        let mut rows: Vec<_> = (0..ACCOUNTS)
            .map(|n| {
                account(n + 1, &format!("{}", 1000 + n * 10), &format!("Account {n}"), class(n))
            })
            .collect();
        let mut sum = account(100, "1999", "In all", Class::Expense);
        sum.kind = Kind::Sum;
        sum.intervals = Interval::parse_list("1000 to 1060").unwrap();
        rows.push(sum);
        let retired =
            RETIRED.map(|id| account(id, &format!("{}", 1150 + id * 10), "Old", Class::Expense));
        let states = [Status::Archived, Status::Deactivated, Status::Merged];
        for (status, account) in states.into_iter().zip(retired) {
            let merged_into = (status == Status::Merged).then_some(AccountId(1));
            rows.push(Account { status, merged_into, ..account });
        }
        let heading = |id: i64| Account {
            kind: Kind::Heading,
            ..account(id, &format!("{}", 1900 + id), "Costs", Class::Expense)
        };
        rows.extend(HEADINGS.map(heading));
        let mut lines: BTreeMap<i64, Vec<(Date, i64)>> = BTreeMap::new();
        for (n, day, amount) in amounts {
            let date = Date::from_julian_day(2_459_600 + day).unwrap();
            lines.entry(n + 1).or_default().push((date, amount));
            // The other side of the entry.
            lines.entry(ACCOUNTS).or_default().push((date, -amount));
        }
        let strands = lines.iter().map(|(account, lines)| strand(*account, *account, lines));
        let mut strands: Vec<_> = strands.collect();
        // Every other set of books has a history that came with a merge.
        if lines.len().is_multiple_of(2) {
            let day = Date::from_julian_day(2_459_700).unwrap();
            strands.push(strand(RETIRED[2], 1, &[(day, 70), (day, -70)]));
            lines.insert(RETIRED[2], vec![(day, 70), (day, -70)]);
        }
        (today(Chart::under(named_for_the_other_side(), rows), Activity::new(strands)), lines)
    })
}

/// The standard lines, where what is owned and stands in credit is owed.
fn named_for_the_other_side() -> Structure {
    let standard = Structure::default();
    let owed = standard.of_standard(Class::Liability, Section::Payables).map(|line| line.id);
    Structure::new(standard.items().map(|line| {
        let other_side = owed.filter(|_| line.class == Class::Asset && line.kind == ItemKind::Item);
        StatementItem { other_side, ..line.clone() }
    }))
}

fn plan_of(today: &Today, raw: &[Raw]) -> Plan {
    let mut plan = Plan::default();
    for &(n, kind, value) in raw {
        // Now and then the one that another was merged into is to be deleted.
        let id = AccountId(if kind == 31 { 1 } else { n + 1 });
        let change = match kind {
            // Codes near by make swaps, chains and clashes likely.
            0..=4 | 26..=30 => {
                Change::Code(Code::parse(&format!("{}", 1000 + value % 30 * 10)).unwrap())
            }
            5 | 6 => Change::Name(format!("Renamed {value}")),
            // Of the same class.
            7..=9 => Change::Fate(Fate::MergeInto {
                into: AccountId((n + 2 * (1 + value)).rem_euclid(ACCOUNTS) + 1),
            }),
            10 => Change::Fate(Fate::deactivate()),
            12 => Change::Description(format!("About {value}")),
            13 => Change::Tax((value % 3 > 0).then(|| format!("T{value}"))),
            14 => Change::Contra(value % 2 == 0),
            15..=17 => Change::History(split_of(n, value)),
            18 => Change::Fate(Fate::archive()),
            19 => Change::Parent((value % 3 > 0).then(|| AccountId(HEADINGS[value as usize % 2]))),
            20 => Change::Class(match (n % 2, value % 2) {
                (0, 0) => Class::Income,
                (0, _) => Class::Expense,
                (_, 0) => Class::Liability,
                _ => Class::Asset,
            }),
            21 => Change::Caption(
                books::caption(Class::Expense, Section::CostOfSales)
                    .filter(|_| n % 2 == 0)
                    .map(|line| line.id),
            ),
            22 | 23 => Change::Fate(Fate::MergeInto { into: AccountId(ADDED + value % 3) }),
            _ => Change::Fate(Fate::Delete),
        };
        stage(today, &mut plan, id, change);
        match kind {
            // Something to merge into has to be there.
            22 | 23 => {
                add(today, &mut plan, value, if n % 2 == 0 { Class::Expense } else { Class::Asset })
            }
            24 => add(today, &mut plan, value, Class::Expense),
            25 => {
                let retired = AccountId(RETIRED[value as usize % 2]);
                stage(today, &mut plan, retired, Change::Fate(Fate::Restore));
            }
            _ => {}
        }
    }
    plan
}

fn stage(today: &Today, plan: &mut Plan, id: AccountId, change: Change) {
    let base = today.chart.get(id).map(|a| Change::of(a, change.field()));
    plan.stage(id, base, change);
}

/// Stages a new account, now and then below a heading.
fn add(today: &Today, plan: &mut Plan, value: i64, class: Class) {
    let id = AccountId(ADDED + value % 3);
    let code = format!("{}", 1005 + value % 30 * 10);
    let new = Account {
        parent: (value % 2 == 0 && class == Class::Expense).then_some(AccountId(HEADINGS[0])),
        ..account(id.0, &code, "New", class)
    };
    Change::adding(&new).into_iter().for_each(|change| stage(today, plan, id, change));
}

/// All lines to one account of the same class, or those up to a day to one and some entries to another.
fn split_of(n: i64, value: i64) -> Split {
    let to = |by: i64| AccountId((n + 2 * by).rem_euclid(ACCOUNTS) + 1);
    let days = i32::try_from(value).unwrap() * 50;
    let until =
        Which { until: Some(Date::from_julian_day(2_459_600 + days).unwrap()), ..Which::default() };
    let entries = (0..value).map(|n| (2 * n).to_string()).collect();
    let chosen = Which { entries, ..Which::default() };
    let part = |which, by| Part { which, to: to(by) };
    let parts = match value % 3 {
        0 => vec![part(Which::default(), 1 + value)],
        1 => vec![part(until, 1 + value)],
        _ => vec![part(until, 1 + value), part(chosen, 2 + value)],
    };
    Split { parts, ranked: value % 2 == 0 }
}

/// Whatever changes of an account that stays is in its row of the crosswalk.
fn whatever_changes_is_said(row: &RowChange, crossing: &Crossing) {
    let (Some(before), Some(after)) = (&row.before, &row.after) else { return };
    if after.status == Status::Merged {
        return;
    }
    for field in Field::ALL.iter().copied() {
        let (old, new) = (Change::of(before, field), Change::of(after, field));
        // A sum line that is none any more adds nothing up.
        let says_nothing = field == Field::Intervals && before.kind != Kind::Sum;
        if old == new || says_nothing {
            continue;
        }
        let kind = match field {
            Field::Code => ChangeKind::Renumbered,
            Field::Name => ChangeKind::Renamed,
            Field::Parent => ChangeKind::Regrouped,
            Field::Class | Field::Caption => ChangeKind::ClassChanged,
            Field::Intervals => ChangeKind::Rewritten,
            Field::Fate => {
                let fates = [ChangeKind::Restored, ChangeKind::Deactivated, ChangeKind::Archived];
                let day = crossing.details.contains(&Detail::State(new.clone()));
                assert!(
                    day || fates.iter().any(|kind| crossing.changes.contains(kind)),
                    "{crossing:?}"
                );
                continue;
            }
            _ => {
                let setting = Detail::Setting(old, new);
                assert!(crossing.details.contains(&setting), "{field:?} of {crossing:?}");
                ChangeKind::SettingsChanged
            }
        };
        assert!(crossing.changes.contains(&kind), "{field:?} of {crossing:?}");
    }
}

#[derive(Debug, Default)]
struct Seen {
    plans: u32,
    applicable: u32,
    swaps: u32,
    chains: u32,
    merges: u32,
    carved: u32,
    carved_and_merged: u32,
    split: u32,
    postings_before_undo: u32,
    changes: BTreeMap<ChangeKind, u32>,
    kept: u32,
    not_deleted_for_a_merge: u32,
}

impl Seen {
    fn note(&mut self, today: &Today, rehearsal: &Rehearsal) {
        self.applicable += 1;
        let rows: Vec<_> = rehearsal
            .effects
            .rows
            .iter()
            .filter_map(|r| Some((r.before.as_ref()?, r.after.as_ref()?)))
            .filter(|(before, after)| before.code != after.code)
            .collect();
        let takes = |a: usize, b: usize| rows[a].1.code == rows[b].0.code;
        let pairs = || (0..rows.len()).flat_map(|a| (0..rows.len()).map(move |b| (a, b)));
        self.swaps += u32::from(pairs().any(|(a, b)| a < b && takes(a, b) && takes(b, a)));
        self.chains += u32::from(pairs().any(|(a, b)| a != b && takes(a, b) && !takes(b, a)));
        let crosswalk = Report::of(today, rehearsal).crosswalk;
        rehearsal.effects.rows.iter().zip(&crosswalk).for_each(|(row, crossing)| {
            whatever_changes_is_said(row, crossing);
        });
        for kind in counts(crosswalk.iter().flat_map(|crossing| &crossing.changes)).into_keys() {
            *self.changes.entry(kind).or_default() += 1;
        }
        let carvings = &rehearsal.effects.carvings;
        self.carved += u32::from(!carvings.is_empty());
        self.split += u32::from(carvings.values().any(|carving| carving.parts.len() > 1));
        let moves = &rehearsal.effects.moves;
        self.carved_and_merged += u32::from(carvings.keys().any(|id| moves.contains_key(id)));
        self.merges += u32::from(rehearsal.effects.rows.iter().any(|row| {
            row.after
                .as_ref()
                .is_some_and(|a| a.merged_into.is_some() && today.chart.get(a.id).is_some())
        }));
    }
}

/// What lines posted after an application look like to the undo.
fn with_postings(books: &Today, fresh: &[(i64, i64)]) -> Today {
    let mut strands: Vec<_> =
        books.activity.strands().map(|(s, a, _)| (s.clone(), a.clone())).collect();
    let date = Date::from_julian_day(2_461_300).unwrap();
    for (n, (account, amount)) in (1000..).zip(fresh) {
        if books.chart.get(AccountId(*account)).is_some_and(|a| a.is_live()) {
            strands.push(strand(n, *account, &[(date, *amount)]));
        }
    }
    Today { activity: Activity::new(strands), ..books.clone() }
}

fn all_lines(today: &Today) -> Totals {
    let mut all = Totals::default();
    today.activity.strands().for_each(|(_, _, figures)| all += figures.all);
    all
}

#[test]
fn every_plan_conserves_and_can_be_undone() {
    let seen = RefCell::new(Seen::default());
    let raw = proptest::collection::vec((0..ACCOUNTS, 0..32u8, 0..30i64), 1..4);
    // One takes the code of another, which takes the first one’s, or a free one.
    let swap = (0..ACCOUNTS, 0..ACCOUNTS, proptest::bool::weighted(0.8));
    // An account of which a part goes one way, and all else is merged away.
    let both = (0..ACCOUNTS, 0..30i64);
    let account = prop_oneof![3 => 1..=ACCOUNTS, 1 => ADDED..ADDED + 3];
    let fresh = proptest::collection::vec((account, -50..50i64), 0..4);
    let mut runner =
        TestRunner::new(Config { cases: 2_000, failure_persistence: None, ..Config::default() });
    runner
        .run(
            &(
                books_strategy(),
                raw,
                proptest::option::of(swap),
                proptest::option::weighted(0.2, both),
                fresh,
            ),
            |((today, lines), mut raw, swap, both, fresh)| {
                if let Some((n, value)) = both {
                    raw.extend([(n, 7, value), (n, 15, value)]);
                }
                let mut plan = plan_of(&today, &raw);
                if let Some((a, b, back)) = swap.filter(|(a, b, _)| a != b) {
                    for (from, to) in [(a, b), (b, if back { a } else { 77 })] {
                        let code =
                            Change::Code(Code::parse(&format!("{}", 1000 + to * 10)).unwrap());
                        plan.stage(
                            AccountId(from + 1),
                            Some(Change::Code(
                                Code::parse(&format!("{}", 1000 + from * 10)).unwrap(),
                            )),
                            code,
                        );
                    }
                }
                books::allocate(&today, &mut plan, |strand| {
                    lines.get(&strand.0).map_or(&[], Vec::as_slice)
                });
                let rehearsal = rehearse(&today, &plan);
                let mut seen = seen.borrow_mut();
                seen.plans += 1;

                // Nothing that was staged first counts more than what was staged last.
                let mut backwards = Plan { cuts: plan.cuts.clone(), ..Plan::default() };
                for (id, target) in plan.targets.iter().rev() {
                    for staged in target.values().rev() {
                        backwards.stage(*id, staged.base.clone(), staged.change.clone());
                    }
                }
                prop_assert_eq!(
                    rehearse(&today, &backwards).fingerprint(),
                    rehearsal.fingerprint()
                );

                let merged = |f: &&Finding| f.rule() == Rule::DeleteMerged;
                seen.not_deleted_for_a_merge += u32::from(rehearsal.stops().find(merged).is_some());
                if rehearsal.stops().next().is_some() {
                    return Ok(());
                }
                seen.note(&today, &rehearsal);
                let effects = carved(rehearsal.effects.clone());
                let after = carried_out(&today, &effects);
                prop_assert_eq!(by_id(&after.chart), by_id(&rehearsal.after));
                prop_assert_eq!(all_lines(&after), all_lines(&today));
                prop_assert_eq!(rehearsal.proof.difference, 0);
                prop_assert_eq!(rehearsal.proof.after.total(), rehearsal.proof.today.total());
                must_tie(&today, &rehearsal);
                let predicted = ledger_after(&today.activity, &effects);
                let read = ledger_after(&after.activity, &Default::default());
                prop_assert_eq!(compare_ledgers(&predicted, &read), vec![]);
                // The quick way says the same, unless something was carved; and sees what was not done.
                let is = |read| is_presented_as_predicted(&today.activity, &effects, read);
                prop_assert_eq!(is(&after.activity), effects.carvings.is_empty());
                prop_assert_eq!(
                    is(&today.activity),
                    effects.carvings.is_empty() && effects.moves.is_empty()
                );
                let codes: Vec<_> = after.chart.live().map(|a| a.code.key()).collect();
                let unique: std::collections::HashSet<_> = codes.iter().collect();
                prop_assert_eq!(unique.len(), codes.len());

                // Undo gives every field and strand back, and leaves what was posted since alone.
                let posted = with_postings(&after, &fresh);
                seen.postings_before_undo +=
                    u32::from(all_lines(&posted).lines > all_lines(&after).lines);
                let applied =
                    Application { id: ApplicationId(1), name: "plan".to_owned(), effects };
                let undo = rehearse_undo(&posted, &applied, &[]);
                // An added account that was posted to since stays; only its code can be in the way.
                let kept: Vec<_> = after
                    .chart
                    .iter()
                    .filter(|a| a.id.0 >= ADDED && fresh.iter().any(|(to, _)| *to == a.id.0))
                    .collect();
                seen.kept += u32::from(!kept.is_empty());
                if undo.stops().next().is_some() {
                    prop_assert!(!kept.is_empty());
                    prop_assert!(undo.stops().all(|stop| stop.rule() == Rule::CodeTaken));
                    return Ok(());
                }
                let undone = carried_out(&posted, &undo.effects);
                let mut expected = by_id(&today.chart);
                expected.extend(kept.into_iter().map(|account| (account.id, account.clone())));
                prop_assert_eq!(by_id(&undone.chart), expected);
                for (strand, ..) in today.activity.strands() {
                    prop_assert_eq!(undone.activity.strand(strand.id), Some(strand));
                }
                // Whatever was carved adds up with what was left to what it was, account by account.
                let ours = |strand: &zf_core::activity::Strand| {
                    strand.id.0 < 1_000 || strand.id.0 >= 5_000
                };
                let kept = undone.activity.strands().filter(|s| ours(&s.0));
                let kept =
                    Activity::new(kept.map(|(s, a, _)| (s.clone(), a.clone())).collect::<Vec<_>>());
                let was = ledger_after(&today.activity, &Default::default());
                prop_assert_eq!(
                    compare_ledgers(&was, &ledger_after(&kept, &Default::default())),
                    vec![]
                );
                for (strand, ..) in
                    posted.activity.strands().filter(|s| (1_000..5_000).contains(&s.0.id.0))
                {
                    prop_assert_eq!(undone.activity.strand(strand.id), Some(strand));
                }

                // A later plan on one of the same accounts stands in the way, by name.
                if let Some(touched) = rehearsal.effects.rows.first().and_then(|row| row.account())
                {
                    let later = Application {
                        id: ApplicationId(2),
                        name: "later one".to_owned(),
                        effects: rehearse(
                            &after,
                            &books::plan(&after, &format!("{touched} name Later")),
                        )
                        .effects,
                    };
                    if !later.effects.is_empty() {
                        let stopped = rehearse_undo(&after, &applied, &[later]);
                        let is_later = |f: &Finding| matches!(&f.cause, Cause::UndoLater { plan, .. } if plan == "later one");
                        prop_assert!(stopped.stops().any(is_later));
                    }
                }
                Ok(())
            },
        )
        .unwrap();
    let seen = seen.into_inner();
    println!("{seen:?}");
    assert!(seen.applicable * 5 >= seen.plans * 2, "too few plans apply: {seen:?}");
    for change in ChangeKind::ALL {
        assert!(seen.changes.contains_key(change), "{change:?} never came up: {seen:?}");
    }
    let moved =
        [seen.carved, seen.split, seen.carved_and_merged, seen.kept, seen.not_deleted_for_a_merge];
    for count in
        [seen.swaps, seen.chains, seen.merges, seen.postings_before_undo].into_iter().chain(moved)
    {
        assert!(count > 0, "a case never came up: {seen:?}");
    }
}
