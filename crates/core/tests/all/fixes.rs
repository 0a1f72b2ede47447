//! What can be staged about a remark fixes what it is about, and nothing stops it.

use crate::books;
use crate::books::{account, carried_out, railway, strand};
use proptest::prelude::*;
use time::macros::date;
use zf_core::activity::Activity;
use zf_core::chart::{Account, Class, ControlRole, Kind, Section, Status};
use zf_core::code::Interval;
use zf_core::ids::{AccountId, ReportLineId};
use zf_core::plan::{Change, Plan};
use zf_core::policy::Block;
use zf_core::rehearsal::rehearse;
use zf_core::review::Better;
use zf_core::review::fixes::{sentence_case, title_case, ways};
use zf_core::review::remarks::{self, Remark};
use zf_core::review::side_by_side::side_by_side;
use zf_core::today::Today;
use zf_core::usage::{Named, Use};

/// The railway with one of each thing that can be mended.
fn muddled() -> Today {
    let mut today = railway();
    let block = |class, codes| Block {
        class,
        section: None,
        codes: Interval::parse_list(codes).unwrap().remove(0),
    };
    today.policy.blocks = vec![
        block(Class::Asset, "1000 to 1999"),
        block(Class::Liability, "2000 to 2999"),
        block(Class::Income, "4000 to 4999"),
        block(Class::Expense, "5000 to 6999"),
    ];
    let cost = |id: i64, code: &str, name: &str| Account {
        parent: Some(AccountId(5000)),
        caption: books::caption(Class::Expense, Section::CostOfSales),
        ..account(id, code, name, Class::Expense)
    };
    today.chart.put(cost(7001, "5051", "WAGGON GREASE AND TALLOW"));
    today.chart.put(cost(7002, "5052", "ropes"));
    today.chart.put(cost(7003, "3333", "Sand"));
    today
        .chart
        .put(Account { parent: Some(AccountId(1000)), ..cost(7004, "5054", "Sponge cloths") });
    let heading = account(7005, "5900", "Left over", Class::Expense);
    today.chart.put(Account { kind: Kind::Heading, ..heading });
    today.chart.put(Account { status: Status::Archived, ..cost(7006, "5056", "Peat") });
    let posted = account(7008, "6500", "Workshops", Class::Expense);
    today.chart.put(Account { kind: Kind::Heading, ..posted });
    let child = account(7009, "6510", "Lathes", Class::Expense);
    today.chart.put(Account { parent: Some(AccountId(7008)), ..child });
    today.chart.put(Account {
        kind: Kind::Sum,
        intervals: Interval::parse_list("6510 to 6590").unwrap(),
        ..account(7010, "6599", "Workshops, in all", Class::Expense)
    });
    // Twelve credits on an account of costs.
    today.chart.put(Account { caption: None, ..cost(7007, "5057", "Sales of ash") });
    let day = date!(2026 - 09 - 01);
    let credits: Vec<_> = (0..12).map(|_| (day, -10)).collect();
    let strands = today.activity.strands().map(|(s, shares, _)| (s.clone(), shares.clone()));
    let own = [strand(91, 7006, &[(day, 250)]), strand(92, 7007, &credits)];
    let own = own.into_iter().chain([7008, 7010].map(|id| strand(id, id, &[(day, 40)])));
    today.activity = Activity::new(strands.chain(own).collect::<Vec<_>>());
    today
}

fn staged(today: &Today, changes: &[(AccountId, Change)]) -> Plan {
    let mut plan = Plan::default();
    for (id, change) in changes {
        let base = today.chart.get(*id).map(|account| Change::of(account, change.field()));
        plan.stage(*id, base, change.clone());
    }
    plan
}

#[test]
fn every_way_mends_what_the_remark_is_about_and_nothing_stops_it() {
    let today = muddled();
    let found = remarks::find(&today);
    let same = |a: &Remark, b: &Remark| a.kind == b.kind && a.accounts == b.accounts;
    let mut kinds = std::collections::BTreeSet::new();
    for remark in &found {
        for mend in ways(&today, remark) {
            let changes = mend.changes(AccountId(9_999));
            let rehearsal = rehearse(&today, &staged(&today, &changes));
            assert_eq!(rehearsal.stops().count(), 0, "{mend:?}: {:?}", rehearsal.findings);
            let after = carried_out(&today, &rehearsal.effects);
            let left = remarks::find(&after);
            assert!(!left.iter().any(|other| same(other, remark)), "{mend:?}: {remark:?}");
            kinds.insert(remark.kind.key());
        }
    }
    let expected = [
        "class_contradicted",
        "heading_empty",
        "heading_posted",
        "inactive_balance",
        "name_form",
        "out_of_block",
        "parent_class",
    ];
    assert!(expected.iter().all(|kind| kinds.contains(kind)), "{kinds:?}");
}

#[test]
fn names_can_be_mended_in_either_way() {
    let today = muddled();
    let names = |id: i64| -> Vec<String> {
        let found = remarks::find(&today);
        let of =
            found.iter().find(|r| r.kind.key() == "name_form" && r.accounts == [AccountId(id)]);
        let ways = ways(&today, of.unwrap());
        let changes = ways.iter().flat_map(|mend| mend.changes(AccountId(9_999)));
        let names = changes.filter_map(|(_, change)| match change {
            Change::Name(name) => Some(name),
            _ => None,
        });
        names.collect()
    };
    assert_eq!(names(7001), ["Waggon grease and tallow", "Waggon Grease and Tallow"]);
    assert_eq!(names(7002), ["Ropes"]);
}

#[test]
fn accounts_side_by_side_show_what_differs_and_add_up_by_year_and_month() {
    let mut today = railway();
    let (coal, wood) = (AccountId(5010), AccountId(5020));
    let march = date!(2026 - 03 - 01);
    for (account, label, amount) in [(coal, "Coal", 1_500), (wood, "Wood", 300)] {
        let budget = Some((march, amount));
        let (names, label) = (Named::Account(account), label.to_owned());
        let line = Use { names, used_by: "budget line".to_owned(), label, budget };
        today.usage.note(ReportLineId(0), line, |account| account);
    }
    let beside = side_by_side(&today, &[wood, coal]).unwrap();
    assert_eq!((beside.survivor, beside.why), (coal, Some(Better::InUse)));
    let differing: Vec<_> =
        beside.settings.iter().filter(|s| s.differs).map(|s| s.field.key()).collect();
    assert_eq!(differing, ["code", "name"]);
    assert_eq!(beside.budgets.values().collect::<Vec<_>>(), [&vec![300, 1_500]]);
    let years = beside.years();
    let nets = |at: usize| -> Vec<i128> {
        years.iter().map(|year| beside.tallies[at].years.get(year).map_or(0, |y| y.1)).collect()
    };
    assert_eq!((nets(0), nets(1)), (vec![0, 400], vec![3_000, 600]));
    let bank = side_by_side(&today, &[AccountId(1050), AccountId(1010)]).unwrap();
    assert_eq!((bank.survivor.0, bank.why), (1010, Some(Better::Role(ControlRole::Bank))));
    assert!(side_by_side(&today, &[AccountId(4711)]).is_none());
}

proptest! {
    #[test]
    fn writing_a_name_twice_changes_nothing_more(name in "[A-Za-zé ,.-]{1,30}") {
        for write in [sentence_case, title_case] {
            let once = write(&name);
            // A name all in capitals shouts, and is written otherwise.
            if once.chars().any(char::is_lowercase) {
                prop_assert_eq!(&write(&once), &once);
            }
            let letters = |text: &str| -> String {
                text.to_lowercase().chars().filter(|c| !c.is_whitespace()).collect()
            };
            prop_assert_eq!(letters(&once), letters(&name));
        }
    }
}
