//! What the review remarks, kind by kind, and which fate an unused account qualifies for.

use crate::books::{account, railway, strand, today};
use proptest::prelude::*;
use time::macros::date;
use zf_core::activity::Activity;
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Status};
use zf_core::code::Code;
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Fate, Field, Plan};
use zf_core::rehearsal::cause::Cause;
use zf_core::rehearsal::rehearse;
use zf_core::rehearsal::rule::Severity;
use zf_core::review::remarks;
use zf_core::review::unused::{self, Reason, Unused};
use zf_core::today::Today;

/// The kinds of remark about an account, after it was changed.
fn remarked(id: i64, change: impl FnOnce(&mut Account)) -> Vec<&'static str> {
    let mut today = railway();
    let mut account = today.chart.get(AccountId(id)).unwrap().clone();
    change(&mut account);
    today.chart.put(account);
    of(&today, id)
}

fn of(today: &Today, id: i64) -> Vec<&'static str> {
    let about = remarks::find(today).into_iter();
    about.filter(|r| r.accounts.contains(&AccountId(id))).map(|r| r.kind.key()).collect()
}

#[test]
fn each_kind_of_remark_is_made_where_it_belongs() {
    let none: [&str; 0] = [];
    assert_eq!(remarked(5030, |_| ()), none, "nothing is odd about an ordinary account");
    assert_eq!(remarked(5030, |a| a.kind = Kind::Heading), ["heading_posted", "heading_empty"]);
    assert_eq!(remarked(1020, |a| a.role = Some(ControlRole::Suspense)), ["suspense_balance"]);
    assert_eq!(remarked(5030, |a| a.status = Status::Deactivated), ["inactive_balance"]);
    assert_eq!(remarked(1020, |a| a.status = Status::Archived), ["inactive_balance"]);
    assert_eq!(remarked(1010, |_| ()), ["unusual_side"], "a bank that is overdrawn");
    assert_eq!(remarked(1010, |a| a.contra = true), none);
    assert_eq!(remarked(5040, |a| a.parent = Some(AccountId(1000))), ["parent_class"]);
    assert_eq!(remarked(5040, |a| a.code = Code::parse("50400").unwrap()), ["code_width"]);
    for name in ["NEVER USED", "never used", "Never  used"] {
        assert_eq!(remarked(5040, |a| name.clone_into(&mut a.name)), ["name_form"], "{name}");
    }
    assert_eq!(remarked(5040, |a| "VAT".clone_into(&mut a.name)), none, "an abbreviation");
}

#[test]
fn an_account_that_is_used_like_the_opposite_of_its_class_is_remarked() {
    let lines: Vec<_> =
        (1..=8).map(|day| (date!(2026 - 03 - 01).replace_day(day).unwrap(), -10)).collect();
    let of_class = |class, contra| {
        let chart = Chart::new([Account { contra, ..account(5890, "5890", "Grant", class) }]);
        of(&today(chart, Activity::new([strand(1, 5890, &lines)])), 5890)
    };
    assert!(of_class(Class::Expense, false).contains(&"class_contradicted"));
    assert!(of_class(Class::Asset, false).contains(&"class_contradicted"));
    assert!(!of_class(Class::Income, false).contains(&"class_contradicted"));
    assert!(!of_class(Class::Expense, true).contains(&"class_contradicted"));
}

#[test]
fn codes_among_those_of_another_class_are_strays_unless_the_books_have_blocks() {
    let costs =
        (0..12).map(|n| account(5000 + n, &format!("{}", 5000 + n), "Cost", Class::Expense));
    let stray = account(5999, "5999", "Fees", Class::Income);
    let chart = Chart::new(costs.chain([stray]));
    let mut books = today(chart, Activity::default());
    assert_eq!(of(&books, 5999), ["out_of_block"]);
    let codes = zf_core::code::Interval::parse_list("5900 to 5999").unwrap().remove(0);
    books.policy.blocks =
        vec![zf_core::policy::Block { class: Class::Income, section: None, codes }];
    assert!(of(&books, 5999).is_empty(), "laid down so");
}

fn unused_of(today: &Today, id: i64) -> Option<Unused> {
    let all = unused::find(today, unused::usual_since(today, date!(2026 - 11 - 01)));
    all.into_iter().find(|unused| unused.account == AccountId(id))
}

#[test]
fn an_unused_account_qualifies_for_the_furthest_fate_that_nothing_stops() {
    let mut today = railway();
    let fate = |today: &Today, id| unused_of(today, id).map(|unused| unused.fate);
    assert_eq!(fate(&today, 5040), Some(Some(Fate::Delete)), "never posted to");
    assert_eq!(fate(&today, 5020), Some(Some(Fate::archive())), "not since 2024");
    assert_eq!(fate(&today, 5030), None, "in use");
    assert_eq!(fate(&today, 6020), None, "retired already");
    assert_eq!(fate(&today, 1020), Some(None), "a bank account");
    let uses = vec!["bank rule “Kindling”".to_owned()];
    let account = AccountId(5040);
    today.usage.by_account.insert(account, uses.clone());
    let kept = unused_of(&today, 5040).unwrap();
    assert_eq!(kept.fate, Some(Fate::deactivate()));
    let named = Reason::Against(Box::new(Cause::DeleteNamed { account, uses }), Severity::Stop);
    assert_eq!(kept.reasons, [Reason::NeverPosted, named]);
    let mut marked = today.chart.get(AccountId(5030)).unwrap().clone();
    marked.name = "Diesel (old, do not use)".to_owned();
    today.chart.put(marked);
    assert_eq!(fate(&today, 5030), Some(Some(Fate::deactivate())), "marked, but used this year");
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::default() })]

    /// A fate that the review proposes is one that the rehearsal has nothing against.
    #[test]
    fn a_proposed_fate_is_never_stopped(
        days in prop::collection::vec((0i64..2_000, -50i64..50), 0..4),
        named in any::<bool>(),
        given in any::<bool>(),
        marked in any::<bool>(),
    ) {
        let mut today = railway();
        let posted: Vec<_> =
            days.iter().map(|(n, amount)| (date!(2021 - 06 - 01) + time::Duration::days(*n), *amount)).collect();
        let strands = today.activity.strands().map(|(s, a, _)| (s.clone(), a.clone()));
        let own = (!posted.is_empty()).then(|| strand(9, 5040, &posted));
        today.activity = Activity::new(strands.chain(own).collect::<Vec<_>>());
        today.usage.given = given;
        if named {
            today.usage.by_account.insert(AccountId(5040), vec!["item".to_owned()]);
        }
        if marked {
            let mut account = today.chart.get(AccountId(5040)).unwrap().clone();
            account.name = "ZZ Never used".to_owned();
            today.chart.put(account);
        }
        if let Some(fate) = unused_of(&today, 5040).and_then(|unused| unused.fate) {
            let mut plan = Plan::default();
            let base = today.chart.get(AccountId(5040)).map(|a| Change::of(a, Field::Fate));
            plan.stage(AccountId(5040), base, Change::Fate(fate));
            let rehearsal = rehearse(&today, &plan);
            prop_assert!(rehearsal.stops().next().is_none(), "{fate:?} {:?}", rehearsal.findings);
        }
    }
}
