//! Ways out lead out: whatever a stop offers as a button settles that stop.

use crate::books;
use crate::books::{plan, railway};
use time::macros::date;
use zf_core::chart::Account;
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Plan};
use zf_core::rehearsal::finding::{Finding, Remedy};
use zf_core::rehearsal::rehearse;
use zf_core::rehearsal::rule::Severity;
use zf_core::today::Today;

/// Plans that each raise something, of every rule that offers a button.
const PLANS: &[&str] = &[
    "6010 code 5010",
    "5010 code 5555; 6010 code 5555",
    "6010 code 60\u{2013}10; 5040 code 60-10",
    "1050 fate merge 2010",
    "5099 fate merge 5010",
    "5010 fate merge 6000",
    "6010 fate merge 6020",
    "1030 fate merge 1010",
    "1010 fate merge 1050",
    "1020 fate merge 1010",
    "5020 fate merge 5010; 5010 fate merge 5020",
    "6010 fate merge 5010",
    "5030 fate delete",
    "1030 fate delete",
    "5030 fate archive",
    "1030 fate archive",
    "6010 fate restore",
    "5030 parent 6010",
    "5000 parent 6000; 6000 parent 5000",
    "5030 parent 1000",
    "5010 class asset; 5010 caption ; 5010 parent 1000",
    "5030 caption cash",
    "5010 caption administration",
];

fn strict() -> Today {
    let mut today = railway();
    today.locked = Some(books::period(date!(2024 - 12 - 31)));
    today.usage.by_account.insert(AccountId(5040), vec!["bank rule “Coal”".to_owned()]);
    today
}

/// The plan with a way out taken; `None` for advice.
fn taken(today: &Today, plan: &Plan, way: &Remedy) -> Option<Plan> {
    let mut plan = plan.clone();
    match way {
        Remedy::Advice => return None,
        Remedy::Stage { account, change } => {
            let base = today.chart.get(*account).map(|a| Change::of(a, change.field()));
            plan.stage(*account, base, change.clone());
        }
        Remedy::Unstage { account, field } => {
            let target = plan.targets.get_mut(account).unwrap();
            target.remove(field).unwrap();
        }
    }
    Some(plan)
}

fn stands(found: &[Finding], other: &Finding) -> bool {
    found.iter().any(|f| f.rule() == other.rule() && f.accounts == other.accounts)
}

#[test]
fn every_button_settles_what_it_is_offered_for() {
    let today = strict();
    let mut buttons = 0;
    for words in PLANS {
        let plan = plan(&today, words);
        let findings = rehearse(&today, &plan).findings;
        assert!(!findings.is_empty(), "{words} raises nothing");
        for finding in &findings {
            for way in &finding.remedies {
                let Some(other) = taken(&today, &plan, way) else { continue };
                buttons += 1;
                let left = rehearse(&today, &other).findings;
                // Undoing one of three clashing codes may leave the other two to clash.
                assert!(!stands(&left, finding), "{words}: {way:?} leaves {:?}", finding.cause);
            }
        }
    }
    assert!(buttons > PLANS.len(), "most stops offer a button, {buttons} did");
}

#[test]
fn every_stop_offers_a_way_out() {
    let today = strict();
    for words in PLANS {
        for finding in rehearse(&today, &plan(&today, words)).findings {
            let names = finding.accounts.iter().filter(|id| today.chart.get(**id).is_some());
            assert!(names.count() > 0, "{:?} is about somebody", finding.cause);
            if finding.severity == Severity::Stop {
                assert!(!finding.remedies.is_empty(), "{:?}", finding.cause);
            }
        }
    }
}

#[test]
fn a_key_names_one_finding_and_changes_with_its_cause() {
    let today = strict();
    let of = |today: &Today, words: &str| {
        rehearse(today, &plan(today, words)).findings.into_iter().map(|f| f.key).collect::<Vec<_>>()
    };
    for words in PLANS {
        let keys = of(&today, words);
        assert_eq!(keys, of(&today, words));
        let mut renamed = today.clone();
        for account in today.chart.live() {
            let name = format!("{}, as it is called now", account.name);
            renamed.chart.put(Account { name, ..account.clone() });
        }
        assert_eq!(keys, of(&renamed, words), "{words}: it is the same of accounts by any name");
    }
    assert_ne!(of(&today, "6010 code 5010"), of(&today, "6010 code 5020"));
    assert_ne!(of(&today, "5030 fate delete"), of(&today, "5010 fate delete"));
    // Whoever went on in spite of it is asked again when this changes.
    assert_eq!(
        of(&today, "1020 fate merge 1010"),
        ["merge_bank_cleared:1020-1010:7e82eced0d1a81be"]
    );
}
