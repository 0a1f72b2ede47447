//! What books lay down for themselves, and what a change of it does and does not do.

use crate::properties::books_strategy;
use proptest::prelude::*;
use time::Date;
use zf_core::calendar::FiscalCalendar;
use zf_core::entry::JournalSince;
use zf_core::money::Currency;
use zf_core::policy::{Level, Policy, RelaxableRule};
use zf_core::settings::{CannotChange, SettingChange, Settings, effect};
use zf_core::today::Today;

fn settings(today: &Today) -> Settings {
    Settings {
        name: "Small books".to_owned(),
        currency: today.currency,
        calendar: today.calendar,
        as_of: None,
        locked: today.activity.first(),
        journal: JournalSince::Unknown,
        uses_complete: false,
        policy: Policy::default(),
    }
}

fn change() -> impl Strategy<Value = SettingChange> {
    let year = (1..=12_u8, 1..=28_u8);
    prop_oneof![
        "[a-z]{1,9}".prop_map(SettingChange::Name),
        year.prop_map(|(m, d)| SettingChange::Year(FiscalCalendar::starting(m, d).unwrap())),
        any::<bool>().prop_map(SettingChange::UsesComplete),
        prop::sample::select(RelaxableRule::ALL.to_vec())
            .prop_flat_map(|rule| prop::sample::select(Level::ALL.to_vec())
                .prop_map(move |level| SettingChange::Rule(rule, level))),
        Just(SettingChange::Journal(JournalSince::Beginning)),
        Just(SettingChange::Currency(Currency::parse("JPY").unwrap())),
    ]
}

proptest! {
    #[test]
    fn a_change_changes_one_thing_once_and_says_from_what_to_what((today, _) in books_strategy(), change in change()) {
        let before = settings(&today);
        if let Ok(Some(changed)) = before.change(&change, 0) {
            prop_assert_ne!(&changed.settings, &before);
            prop_assert_eq!(before.change(&change, 0).unwrap().unwrap().event, changed.event);
            prop_assert_eq!(changed.settings.change(&change, 0), Ok(None), "it is so by now");
        }
        match before.change(&change, 1) {
            Err(CannotChange::Currency) => prop_assert!(matches!(change, SettingChange::Currency(_))),
            Err(CannotChange::Day) => prop_assert!(matches!(change, SettingChange::Year(_))),
            Ok(Some(changed)) => prop_assert_eq!(changed.settings.currency, before.currency),
            Ok(None) => {}
        }
    }

    #[test]
    fn another_year_moves_no_line_and_no_balance_of_the_balance_sheet(
        (today, _) in books_strategy(),
        month in 1..=12_u8,
        day in 700_000..760_000_i32,
    ) {
        let calendar = FiscalCalendar::starting(month, today.calendar.day()).unwrap();
        let Some(changed) = settings(&today).change(&SettingChange::Year(calendar), 9).unwrap() else {
            return Ok(());
        };
        // A period is the same days under another number, so that locks stay where they are.
        let date = Date::from_julian_day(day + 1_721_425).unwrap();
        let (old, new) = (today.calendar.period_of(date), calendar.period_of(date));
        prop_assert_eq!(new.0, old.0 + changed.shift);
        prop_assert_eq!(today.calendar.last_day(old), calendar.last_day(new));
        let locked = |settings: &Settings| settings.locked.map(|p| settings.calendar.last_day(p));
        prop_assert_eq!(locked(&settings(&today)), locked(&changed.settings));

        let effect = effect(&today, &changed, today.activity.last());
        let days = (effect.before.map(|y| y.last), effect.after.map(|y| y.last));
        prop_assert_eq!(days.0, days.1, "figures end on the same day");
        let of_results = today.chart.iter().filter(|a| !a.class.on_balance_sheet()).count();
        prop_assert!(effect.accounts <= of_results, "only income and expenses count from a year's start");
        // There and back again is as before.
        let back = SettingChange::Year(today.calendar);
        let back = changed.settings.change(&back, 9).unwrap().unwrap();
        prop_assert_eq!(back.shift, -changed.shift);
        prop_assert_eq!(back.settings, settings(&today));
    }
}

proptest! {
    #[test]
    fn policies_that_mean_the_same_are_the_same(
        taken in prop::collection::vec(
            (
                prop::sample::select(RelaxableRule::ALL.to_vec()),
                prop::sample::select(Level::ALL.to_vec()),
            ),
            0..9,
        )
    ) {
        let mut policy = Policy::default();
        for (rule, level) in &taken {
            policy.take(*rule, *level);
            prop_assert_eq!(policy.level(*rule), *level);
        }
        // As it is stored and read again: every rule with its level, whatever came before.
        let mut again = Policy::default();
        for (rule, level) in policy.levels() {
            again.take(rule, level);
        }
        prop_assert_eq!(again, policy.clone());
        for (rule, level) in Policy::default().levels() {
            policy.take(rule, level);
        }
        prop_assert_eq!(policy, Policy::default(), "what is as usual again is as if never said");
    }
}
