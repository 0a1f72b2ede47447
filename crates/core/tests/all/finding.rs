//! Accounts are found by what they are called: by code, by name and by path, today and before.

use crate::books::railway;
use proptest::prelude::*;
use zf_core::chart::{Account, Chart, Class, Kind};
use zf_core::code::Code;
use zf_core::former::{CodeUse, Finder, FormerCodes, Found};
use zf_core::ids::AccountId;
use zf_core::plan::typed::{NoSurvivor, survivor};
use zf_core::plan::{Change, Field, Plan, Staged};

fn code(text: &str) -> Code {
    Code::parse(text).unwrap()
}

fn account(id: i64, text: &str, name: &str, parent: Option<i64>) -> Account {
    Account {
        parent: parent.map(AccountId),
        ..Account::new(AccountId(id), code(text), name.to_owned(), Class::Asset)
    }
}

fn heading(id: i64, text: &str, name: &str, parent: Option<i64>) -> Account {
    Account { kind: Kind::Heading, ..account(id, text, name, parent) }
}

/// A past use of a code and a name.
fn past(id: i64, text: &str, name: &str) -> CodeUse {
    CodeUse {
        account: AccountId(id),
        code: code(text),
        name: name.to_owned(),
        from: None,
        to: Some(time::OffsetDateTime::UNIX_EPOCH),
    }
}

fn chart() -> Chart {
    Chart::new([
        heading(1, "1", "Assets", None),
        heading(2, "11", "Cash", Some(1)),
        account(3, "110", "Bank", Some(2)),
        account(4, "111", "Till", Some(2)),
        heading(5, "12", "Shop", Some(1)),
        account(6, "120", "Till", Some(5)),
        account(7, "121", "Cash", Some(5)),
    ])
}

/// What a name stands for, in words.
fn found(finder: &Finder<'_>, name: &str) -> String {
    match finder.by_name(name) {
        Found::Current(account) => account.code.to_string(),
        Found::Former(account) => format!("formerly {}", account.code),
        Found::Several(accounts) => {
            accounts.iter().map(|a| a.code.to_string()).collect::<Vec<_>>().join(" or ")
        }
        Found::Nobody => "nobody".to_owned(),
    }
}

#[test]
fn names_and_paths_find_accounts_however_they_are_written() {
    let (chart, former) = (chart(), FormerCodes::default());
    let finder = Finder::of(&chart, &former);
    for (name, must) in [
        ("Bank", "110"),
        (" bank ", "110"),
        ("Assets:Cash:Bank", "110"),
        ("ASSETS : cash > Bank", "110"),
        ("Cash|Till", "111"),
        ("Shop » Till", "120"),
        ("Till", "111 or 120"),
        // The account counts before the heading of the same name.
        ("Cash", "121"),
        ("Assets:Cash", "11"),
        ("Assets:Shop:Bank", "nobody"),
        ("", "nobody"),
    ] {
        assert_eq!(found(&finder, name), must, "{name}");
    }
}

#[test]
fn who_is_called_so_today_counts_before_who_was() {
    let chart = chart();
    let former: FormerCodes =
        [past(3, "100", "Current account"), past(4, "112", "Bank"), past(6, "113", "Old till")]
            .iter()
            .collect();
    let finder = Finder::of(&chart, &former);
    assert_eq!(found(&finder, "Bank"), "110");
    assert_eq!(found(&finder, "current ACCOUNT"), "formerly 110");
    assert_eq!(found(&finder, "Old till"), "formerly 120");
    assert_eq!(finder.by_code(&code("113").key()), Found::Former(chart.get(AccountId(6)).unwrap()));
}

#[test]
fn whom_to_merge_into_is_typed_as_a_code_of_today_of_the_plan_or_of_before() {
    let chart = chart();
    let former: FormerCodes =
        [past(4, "X-1", "Old"), past(4, "Y", "Old"), past(5, "Y", "Old")].iter().collect();
    let mut plan = Plan::default();
    let staged = Staged { base: None, change: Change::Code(Code::parse("NEW 1").unwrap()) };
    plan.targets.insert(AccountId(99), [(Field::Code, staged)].into());
    let typed = |code: &str| survivor(code, &chart, &former, &plan);
    let of = |id| chart.get(AccountId(id)).unwrap();
    let spaced: String = of(4).code.as_str().chars().flat_map(|c| [c, ' ']).collect();
    assert_eq!(typed(&spaced), Ok(AccountId(4)), "spaces tell no codes apart");
    assert_eq!(typed("new1"), Ok(AccountId(99)), "an account that the plan adds");
    assert_eq!(typed("x\u{2013}1"), Ok(AccountId(4)), "a former code, with another dash");
    assert!(matches!(typed("y"), Err(NoSurvivor::Several { accounts, .. }) if accounts.len() == 2));
    assert!(matches!(typed("4711"), Err(NoSurvivor::Nobody(_))));
    assert!(matches!(typed(" "), Err(NoSurvivor::NotACode(_))));
}

#[test]
fn a_former_name_finds_who_holds_the_history_now() {
    let mut chart = chart();
    let mut merged = chart.get(AccountId(4)).unwrap().clone();
    merged.status = zf_core::chart::Status::Merged;
    merged.merged_into = Some(AccountId(3));
    chart.put(merged);
    let former: FormerCodes = [past(4, "111", "Till of Cash")].iter().collect();
    let finder = Finder::of(&chart, &former);
    assert_eq!(found(&finder, "Till of Cash"), "formerly 110");
    // What was merged is no row of the chart any more: its name is the other's alone.
    assert_eq!(found(&finder, "Till"), "120");
}

proptest! {
    #[test]
    fn each_account_is_found_by_its_code_and_by_its_whole_path(at in any::<prop::sample::Index>()) {
        let chart = railway().chart;
        let former = FormerCodes::default();
        let finder = Finder::of(&chart, &former);
        let live: Vec<&Account> = chart.live().filter(|a| a.kind != Kind::Sum).collect();
        let own = live[at.index(live.len())];
        prop_assert_eq!(finder.by_code(&own.code.key()), Found::Current(own));
        let mut path: Vec<&str> = chart.above(own).map(|heading| heading.name.as_str()).collect();
        path.reverse();
        path.push(&own.name);
        match finder.by_name(&path.join(" > ")) {
            Found::Current(account) => prop_assert_eq!(account.id, own.id),
            Found::Several(accounts) => prop_assert!(accounts.iter().any(|a| a.id == own.id)),
            other => prop_assert!(false, "{:?}", other),
        }
    }

    #[test]
    fn no_text_makes_it_panic(text in "\\PC{0,24}") {
        let (chart, former) = (chart(), FormerCodes::default());
        let _ = Finder::of(&chart, &former).by_name(&text);
    }
}
