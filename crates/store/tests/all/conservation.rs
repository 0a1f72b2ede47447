//! Random plans on a real database: what the core predicted is what is read back, a recount from the
//! lines agrees, and undo gives everything back.

use proptest::prelude::*;
use proptest::strategy::ValueTree;
use proptest::test_runner::TestRunner;
use std::collections::BTreeMap;
use time::Date;
use zf_core::activity::{Shares, Slot, Strand, Totals};
use zf_core::chart::{Account, Class, Kind, Status};
use zf_core::code::Code;
use zf_core::history::{Part, Split, Which};
use zf_core::ids::{AccountId, ImportId};
use zf_core::plan::{Change, Fate, Field};
use zf_core::rehearsal::finding::Finding;
use zf_core::rehearsal::report::{ChangeKind, Report, counts};
use zf_core::rehearsal::rule::Rule;
use zf_store::plans::applying::NotApplied;
use zf_testing::{Books, account};

const CODES: [&str; 8] = ["1010", "1020", "5010", "5020", "5030", "5040", "6010", "6020"];

/// Cases tried; each is a handful of transactions.
const CASES: usize = 120;

fn day(n: i32) -> Date {
    Date::from_julian_day(2_460_000 + n).unwrap()
}

/// Everything that undo has to give back.
async fn state(books: &Books) -> (BTreeMap<AccountId, Account>, Vec<(Strand, Shares)>) {
    let today = books.store.snapshot(books.member).await.unwrap().today;
    let chart = today.chart.iter().map(|a| (a.id, a.clone())).collect();
    let strands = today.activity.strands().map(|(s, a, _)| (s.clone(), a.clone()));
    (chart, strands.collect())
}

/// What each account's lines add up to, whatever strands they are on.
fn by_account(strands: &[(Strand, Shares)]) -> BTreeMap<(AccountId, Slot), Totals> {
    let mut sums = BTreeMap::new();
    for (strand, activity) in strands {
        for (slot, share) in activity {
            *sums.entry((strand.account, *slot)).or_insert_with(Totals::default) += share.totals;
        }
    }
    sums
}

/// The lines up to a day to one account, and those of some amounts to another.
fn split_of(ids: &[AccountId], n: usize, value: usize) -> Split {
    let to = |by: usize| ids[if n < 2 { 1 - n } else { 2 + (n - 2 + by) % 6 }];
    let until = Which { until: Some(day(60 * value as i32)), ..Which::default() };
    let memo = Which { memo: "for 1".to_owned(), ..Which::default() };
    let parts = vec![Part { which: until, to: to(1) }, Part { which: memo, to: to(2) }];
    Split { parts, ranked: true }
}

/// Accounts in a yard of their own: a heading, one that another was merged into, one whose only file was
/// rolled back, and one that is archived.
struct Yard {
    heading: AccountId,
    holder: AccountId,
    rolled_back: AccountId,
    archived: AccountId,
}

impl Yard {
    async fn open(books: &Books) -> Self {
        let names = ["7000", "7010", "7020", "7030", "7040"];
        let ids = books.store.take_account_ids(names.len()).await.unwrap();
        let plan = books.store.create_plan(books.member, "Yard").await.unwrap();
        let mut changes = Vec::new();
        for (id, code) in ids.iter().zip(names) {
            let mut new = account(code, "Yard", Class::Expense);
            new.kind = if code == "7000" { Kind::Heading } else { Kind::Account };
            new.parent = (code != "7000").then_some(ids[0]);
            changes.extend(Change::adding(&new).into_iter().map(|change| (*id, change)));
        }
        books.stage_changes(plan, changes).await;
        books.apply(plan).await.unwrap();
        books.apply(books.stage("7020 fate merge 7010; 7040 fate archive").await).await.unwrap();
        let (heading, holder, rolled_back, archived) = (ids[0], ids[1], ids[3], ids[4]);
        Self { heading, holder, rolled_back, archived }
    }

    /// Posts a file, and rolls it back.
    async fn roll_back(&self, books: &Books) {
        let bank = books.id("1010").await;
        books.post(&[books.entry(day(3), self.rolled_back, bank, 70)]).await;
        let file = books.ask("SELECT max(id) FROM import").await;
        books.store.roll_back(books.member, ImportId(file)).await.unwrap();
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_predicted_is_read_back_and_can_be_undone() {
    let books = Books::railway().await;
    let mut ids = Vec::new();
    for code in CODES {
        ids.push(books.id(code).await);
    }
    let yard = Yard::open(&books).await;
    let changes = proptest::collection::vec((0..8usize, 0..20u8, 0..12usize), 1..4);
    let entries = proptest::collection::vec((0..8usize, 0..8usize, 0..700i32, 1..5000i64), 0..6);
    let cases = (changes, entries, 0..5u8);
    let mut runner = TestRunner::deterministic();
    let (mut applied, mut swaps, mut merges, mut chains, mut posted_between) = (0, 0, 0, 0, 0);
    let (mut carved, mut not_deleted) = (0, 0);
    let mut kinds: BTreeMap<ChangeKind, usize> = BTreeMap::new();
    for _ in 0..CASES {
        let (raw, entries, shape) = cases.new_tree(&mut runner).unwrap().current();
        let journal: Vec<_> = entries
            .iter()
            .map(|(a, b, n, amount)| books.entry(day(*n), ids[*a], ids[*b], *amount))
            .collect();
        books.post(&journal).await;
        if shape == 3 {
            yard.roll_back(&books).await;
        }
        let before = state(&books).await;
        let plan = books.store.create_plan(books.member, "Random").await.unwrap();
        let fresh = books.store.take_account_id().await.unwrap();
        let account_of = |code: &str| account(code, "New", Class::Expense);
        let mut changes = BTreeMap::new();
        for (n, kind, value) in raw {
            let change = match kind {
                0..=2 => Change::Code(Code::parse(&format!("{}", 5010 + value * 10)).unwrap()),
                3 => Change::Name(format!("Named {value}")),
                9..=11 => Change::History(split_of(&ids, n, value)),
                4..=7 if n > 1 => Change::Fate(Fate::MergeInto { into: ids[2 + value % 6] }),
                12 => Change::Parent(Some(yard.heading)),
                13 if n > 1 => Change::Class(Class::Income),
                13 => Change::Class(Class::Liability),
                14 => Change::Tax(Some(format!("T{value}"))),
                15 if n > 1 => Change::Fate(Fate::MergeInto { into: fresh }),
                _ => Change::Fate(Fate::deactivate()),
            };
            let (account, change) = match kind {
                16 => (yard.rolled_back, Change::Fate(Fate::archive())),
                17 => (yard.archived, Change::Fate(Fate::Restore)),
                18 => (yard.rolled_back, Change::Fate(Fate::Delete)),
                19 => (yard.holder, Change::Fate(Fate::Delete)),
                _ => (ids[n], change),
            };
            changes.insert((account, change.field()), change);
            if kind == 15 {
                let new = account_of(&format!("{}", 5015 + value * 10));
                let adding = Change::adding(&new).into_iter();
                changes.extend(adding.map(|change| ((fresh, change.field()), change)));
            }
        }
        let codes: &[(usize, &str)] = match shape {
            0 => &[(2, "5020"), (3, "5010")],
            1 => &[(2, "5020"), (3, "5030"), (4, "5999")],
            _ => &[],
        };
        for (n, code) in codes {
            changes.insert((ids[*n], Field::Code), Change::Code(Code::parse(code).unwrap()));
        }
        let staged = changes.into_iter().map(|((account, _), change)| (account, change)).collect();
        books.stage_changes(plan, staged).await;
        let rehearsal = books.rehearse(plan).await;
        let today = books.store.snapshot(books.member).await.unwrap().today;
        let merged_into = |stop: &&Finding| stop.rule() == Rule::DeleteMerged;
        not_deleted += usize::from(rehearsal.stops().find(merged_into).is_some());
        let application = match books.apply(plan).await {
            Ok(application) => application,
            Err(NotApplied::Stopped(_) | NotApplied::Nothing) => {
                assert_eq!(state(&books).await, before, "a refused plan changes nothing");
                continue;
            }
            Err(other) => panic!("{other}"),
        };
        applied += 1;
        let report = Report::of(&today, &rehearsal);
        for kind in counts(report.crosswalk.iter().flat_map(|c| &c.changes)).into_keys() {
            *kinds.entry(kind).or_default() += 1;
        }
        merges += usize::from(!rehearsal.effects.moves.is_empty());
        carved += usize::from(!rehearsal.effects.carvings.is_empty());
        let codes: Vec<_> = rehearsal
            .effects
            .rows
            .iter()
            .filter_map(|r| Some((r.before.as_ref()?.code.clone(), r.after.as_ref()?.code.clone())))
            .filter(|(old, new)| old != new)
            .collect();
        let taken_back = |(old, new): &(_, _)| codes.iter().any(|(o, n)| o == new && n == old);
        swaps += usize::from(codes.iter().any(taken_back));
        chains +=
            usize::from(codes.iter().any(|c| codes.iter().any(|d| d.0 == c.1) && !taken_back(c)));
        books.must_recount().await;
        // Lines posted in between stay with the account they were posted to.
        let after = books.store.snapshot(books.member).await.unwrap().today.chart;
        let open: Vec<_> = after.live().filter(|a| a.is_posting()).collect();
        let open: Vec<_> = open.iter().filter(|a| a.status == Status::Active).collect();
        let between = applied % 2 == 0 && open.len() > 1;
        if between {
            posted_between += 1;
            books.post(&[books.entry(day(720), open[0].id, open[1].id, 99)]).await;
        }
        books.undo(application).await.unwrap();
        books.must_recount().await;
        let (chart, strands) = state(&books).await;
        assert_eq!(chart, before.0);
        // What was carved stays a strand of its own; its account has everything back.
        if !between {
            assert_eq!(by_account(&strands), by_account(&before.1));
        }
        for (strand, _) in &before.1 {
            assert!(strands.iter().any(|(s, _)| s == strand), "{strand:?} is not back");
        }
    }
    println!(
        "{applied} of {CASES} applied; {swaps} swaps, {chains} chains, {merges} merges, {carved} carved, {posted_between} with postings before the undo; {kinds:?}"
    );
    assert!(applied * 2 >= CASES);
    assert_eq!(kinds.len(), ChangeKind::ALL.len(), "a kind of change never came up");
    assert!(not_deleted > 0);
    assert!(swaps > 0 && chains > 0 && merges > 0 && carved > 0 && posted_between > 0);
}
