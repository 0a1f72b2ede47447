//! Edits of a plan by several people, each with what they saw.

use crate::books::{plan, railway, words};
use proptest::prelude::*;
use time::macros::date;
use zf_core::ids::AccountId;
use zf_core::plan::edit::{Edit, NotEdited, Wanted};
use zf_core::plan::{Change, Fate, Field, Plan};
use zf_core::statement::Structure;

/// Some values of some fields; the first of each field is as the railway has it today.
const VALUES: [(&str, Field, [&str; 3]); 4] = [
    ("5010", Field::Code, ["5010", "5110", "5120"]),
    ("5010", Field::Name, ["Coal", "Steam coal", "Fuel"]),
    ("6020", Field::Fate, ["deactivate", "archive 2026-10-31", "merge 6010"]),
    ("5020", Field::Parent, ["5000", "", "6000"]),
];

/// The day on which all of it is staged.
const DAY: time::Date = date!(2026 - 11 - 30);

fn number(words: &str) -> AccountId {
    AccountId(words.parse().unwrap())
}

fn change(of: usize, value: usize) -> (AccountId, Change) {
    let (account, field, values) = VALUES[of];
    (number(account), words::change(field, values[value], &Structure::default(), number))
}

fn wanted() -> impl Strategy<Value = (AccountId, Wanted)> {
    (0..VALUES.len(), 0..4usize).prop_map(|(of, value)| {
        let (account, change) = change(of, value.min(2));
        let unstage = Wanted::Unstage(change.field());
        (account, if value == 3 { unstage } else { Wanted::Stage(change) })
    })
}

#[test]
fn the_first_values_are_those_of_today() {
    let today = railway();
    for of in 0..VALUES.len() {
        let (account, change) = change(of, 0);
        let mut edited = Plan::default();
        let edit = Edit { account, seen: None, wanted: Wanted::Stage(change.clone()) };
        let done = edited.edit(&today.chart, &[edit], DAY).unwrap();
        assert_eq!((done[0].after.as_ref(), done[0].base.as_ref()), (None, Some(&change)));
        assert_eq!(edited, Plan::default(), "the same as today is no change");
    }
}

#[test]
fn the_same_field_is_not_edited_twice_at_once() {
    let (today, mut plan) = (railway(), Plan::default());
    let (account, first) = change(0, 1);
    let edits = [change(0, 1), change(0, 2)].map(|(account, change)| Edit {
        account,
        seen: None,
        wanted: Wanted::Stage(change),
    });
    let twice = Err(NotEdited::Twice(account, first.field()));
    assert_eq!(plan.edit(&today.chart, &edits, DAY), twice);
    assert_eq!(plan, Plan::default());
}

#[test]
fn whoever_is_retired_without_a_day_is_so_from_the_day_of_staging() {
    let mut today = railway();
    let after = |today: &zf_core::today::Today, account: &str, fate: Fate| {
        let wanted = Wanted::Stage(Change::Fate(fate));
        let edit = Edit { account: number(account), seen: None, wanted };
        Plan::default().edit(&today.chart, &[edit], DAY).unwrap().remove(0).after
    };
    let (from, other) = (Some(DAY), Some(date!(2025 - 01 - 31)));
    let staged = |fate| Some(Change::Fate(fate));
    assert_eq!(after(&today, "5030", Fate::archive()), staged(Fate::Archive { from }));
    let said = Fate::Deactivate { from: other };
    assert_eq!(after(&today, "5030", said), staged(said), "a day that is said holds");
    let mut telegraph = today.chart.get(number("6020")).unwrap().clone();
    telegraph.status_from = other;
    today.chart.put(telegraph);
    assert_eq!(after(&today, "6020", Fate::deactivate()), None, "it is so already");
    assert_eq!(after(&today, "6020", Fate::archive()), staged(Fate::Archive { from }));
    let later = Fate::Deactivate { from };
    assert_eq!(after(&today, "6020", later), staged(later), "the day alone can change");
}

#[test]
fn with_an_account_that_is_added_all_that_is_staged_of_it_is_taken_back() {
    let today = railway();
    let words = "777 fate add; 777 code 5045; 777 name Gas; 777 class expense; 5030 name Oil";
    let mut staged = plan(&today, words);
    let added = number("777");
    staged.stage(added, None, Change::Origin(Some(zf_core::ids::ImportId(7))));
    let whole = staged.clone();
    let back = Edit::over(&staged, added, Wanted::Unstage(Field::Fate));
    let done = staged.edit(&today.chart, &[back], DAY).unwrap();
    assert_eq!(done.len(), 5, "the file it came with, too");
    assert_eq!(staged, plan(&today, "5030 name Oil"));
    let again = done.iter().map(|one| Edit {
        account: one.account,
        seen: one.after.clone(),
        wanted: Wanted::Stage(one.before.clone().unwrap()),
    });
    staged.edit(&today.chart, &again.collect::<Vec<_>>(), DAY).unwrap();
    assert_eq!(staged, whole);
}

proptest! {
    #[test]
    fn what_was_not_seen_is_never_overwritten_and_what_was_done_can_be_taken_back(
        before in prop::collection::vec(wanted(), 0..6), stale in any::<bool>(), mine in wanted(),
    ) {
        let today = railway();
        let mut staged = plan(&today, "5030 code 5130");
        for (account, wanted) in before {
            let edit = Edit::over(&staged, account, wanted);
            prop_assert!(staged.edit(&today.chart, &[edit], DAY).is_ok(), "all of it was seen");
        }
        let (account, wanted) = mine;
        let there = staged.staged(account, wanted.field()).cloned();
        let seen = if stale { None } else { there.clone() };
        let today_has = Change::of(today.chart.get(account).unwrap(), wanted.field());
        let after = match &wanted {
            Wanted::Stage(change) if *change != today_has => Some(change.clone()),
            _ => None,
        };
        let was = staged.clone();
        let edit = Edit { account, seen: seen.clone(), wanted: wanted.clone() };
        match staged.edit(&today.chart, &[edit], DAY) {
            Ok(done) => {
                prop_assert!(seen == there || after == there);
                prop_assert_eq!((&done[0].before, &done[0].after), (&there, &after));
                prop_assert_eq!(staged.staged(account, wanted.field()), after.as_ref());
                let back = there.map_or(Wanted::Unstage(wanted.field()), Wanted::Stage);
                let back = Edit { account, seen: after, wanted: back };
                prop_assert!(staged.edit(&today.chart, &[back], DAY).is_ok());
            }
            Err(NotEdited::Conflicts(conflicts)) => {
                prop_assert!(seen != there && after != there);
                prop_assert_eq!((&conflicts[0].mine, &conflicts[0].theirs), (&after, &there));
                prop_assert_eq!(conflicts[0].today.as_ref(), Some(&today_has));
            }
            Err(twice) => prop_assert!(false, "{:?}", twice),
        }
        prop_assert_eq!(staged, was, "after a conflict, and after taking it back, all is as it was");
    }
}
