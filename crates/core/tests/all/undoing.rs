//! What stands against an undo, and that a proof notices every difference.

use crate::books;
use crate::books::{account, carried_out, gbp, period, plan, railway, strand};
use time::macros::date;
use zf_core::activity::{Activity, Slot, Totals};
use zf_core::chart::{Class, Status};
use zf_core::code::Code;
use zf_core::former::{Finder, FormerCodes, Found};
use zf_core::ids::{AccountId, ApplicationId};
use zf_core::rehearsal::proof::{Ledger, compare_charts, compare_ledgers, ledger_after};
use zf_core::rehearsal::undo::{Application, rehearse_undo};
use zf_core::rehearsal::{Rehearsal, rehearse};
use zf_core::today::Today;

/// Carries a plan in words out, as it would be stored.
fn apply(today: &Today, words: &str) -> (Today, Application) {
    let rehearsal = rehearse(today, &plan(today, words));
    assert_eq!(rehearsal.stops().count(), 0, "{words}: {:?}", rehearsal.findings);
    let after = carried_out(today, &rehearsal.effects);
    let effects = rehearsal.effects;
    (after, Application { id: ApplicationId(1), name: words.to_owned(), effects })
}

fn rules(rehearsal: &Rehearsal) -> Vec<&'static str> {
    rehearsal.findings.iter().map(|f| f.rule().key()).collect()
}

/// The books with more strands.
fn posted(today: &Today, fresh: &[(i64, i64, i64)]) -> Today {
    let mut strands: Vec<_> =
        today.activity.strands().map(|(s, a, _)| (s.clone(), a.clone())).collect();
    let day = date!(2026 - 10 - 20);
    strands
        .extend(fresh.iter().map(|(id, account, amount)| strand(*id, *account, &[(day, *amount)])));
    Today { activity: Activity::new(strands), ..today.clone() }
}

#[test]
fn an_added_account_goes_again_unless_it_was_used() {
    let today = railway();
    let words = "777 fate add; 777 code 5050; 777 name Gas; 777 class expense; 777 parent 5000";
    let (after, applied) = apply(&today, words);
    assert!(after.chart.get(AccountId(777)).is_some());
    let undo = rehearse_undo(&after, &applied, &[]);
    assert_eq!(rules(&undo), [""; 0]);
    assert!(undo.after.get(AccountId(777)).is_none());
    let used = posted(&after, &[(90, 777, 100), (91, 1010, -100)]);
    let undo = rehearse_undo(&used, &applied, &[]);
    assert_eq!(rules(&undo), ["undo_kept"]);
    assert!(undo.after.get(AccountId(777)).is_some());
    assert_eq!(undo.proof.difference, 0);
}

#[test]
fn lines_posted_to_the_survivor_since_stay_with_it() {
    let today = railway();
    let (after, applied) = apply(&today, "5020 fate merge 5010");
    let used = posted(&after, &[(90, 5010, 77), (91, 1010, -77)]);
    let undo = rehearse_undo(&used, &applied, &[]);
    let back = carried_out(&used, &undo.effects);
    let owner = |id| back.activity.strand(zf_core::ids::StrandId(id)).unwrap().account;
    assert_eq!((owner(4), owner(90)), (AccountId(5020), AccountId(5010)));
    assert_eq!(back.chart.get(AccountId(5020)).unwrap().status, Status::Active);
}

#[test]
fn a_code_that_was_taken_since_stands_in_the_way() {
    let today = railway();
    let (mut after, applied) = apply(&today, "5010 code 5110");
    after.chart.put(account(900, "5010", "Bought in", Class::Expense));
    let undo = rehearse_undo(&after, &applied, &[]);
    assert_eq!(rules(&undo), ["code_taken"]);
    assert_eq!(undo.findings[0].accounts, [AccountId(5010), AccountId(900)]);
}

#[test]
fn a_heading_that_is_gone_stands_in_the_way() {
    let today = railway();
    let (mut after, applied) = apply(&today, "6010 parent 5000");
    after.chart.remove(AccountId(6000));
    after.chart.remove(AccountId(6020));
    let undo = rehearse_undo(&after, &applied, &[]);
    assert_eq!(undo.stops().count(), 1, "{:?}", rules(&undo));
}

#[test]
fn plans_on_other_accounts_do_not_stand_in_the_way() {
    let today = railway();
    let (between, first) = apply(&today, "5010 name Steam coal");
    let (after, other) = apply(&between, "6010 name Telephones");
    assert_eq!(rules(&rehearse_undo(&after, &first, std::slice::from_ref(&other))), [""; 0]);
    // Taking a code over from another account is building on it.
    let (between, first) = apply(&today, "5010 code 5110");
    let (after, taker) = apply(&between, "6010 code 5010");
    let undo = rehearse_undo(&after, &first, &[taker]);
    assert!(rules(&undo).contains(&"undo_later"), "{:?}", rules(&undo));
}

#[test]
fn every_difference_of_a_ledger_is_a_miss() {
    let today = railway();
    let want = ledger_after(&today.activity, &Default::default());
    assert_eq!(compare_ledgers(&want, &want), []);
    let (key, totals) = want.iter().next().map(|(k, t)| (*k, *t)).unwrap();
    let but = |change: fn(&mut Totals)| {
        let mut got = want.clone();
        change(got.get_mut(&key).unwrap());
        compare_ledgers(&want, &got)
    };
    for change in [
        |t: &mut Totals| t.debit += 1,
        |t: &mut Totals| t.credit += 1,
        |t: &mut Totals| t.foreign_debit += 1,
        |t: &mut Totals| t.foreign_credit += 1,
        |t: &mut Totals| t.lines += 1,
        |t: &mut Totals| t.digest += 1,
        // A debit and a credit more leave the net amount alone.
        |t: &mut Totals| {
            t.debit += 1;
            t.credit += 1;
        },
    ] {
        let misses = but(change);
        assert_eq!(misses.iter().map(|m| m.account).collect::<Vec<_>>(), [key.0]);
    }
    let lost: Ledger = want.iter().skip(1).map(|(k, t)| (*k, *t)).collect();
    assert_eq!(compare_ledgers(&want, &lost).len(), 1, "lost");
    let mut strange = want.clone();
    let slot = Slot { period: period(date!(1999 - 01 - 01)), currency: gbp() };
    strange.insert((AccountId(5010), slot), totals);
    assert_eq!(compare_ledgers(&want, &strange).len(), 1, "from nowhere");
}

#[test]
fn every_difference_of_a_chart_is_a_miss() {
    let chart = railway().chart;
    assert_eq!(compare_charts(&chart, &chart), []);
    let coal = chart.get(AccountId(5010)).unwrap();
    let mut renamed = chart.clone();
    renamed.put(zf_core::chart::Account { name: "Cole".to_owned(), ..coal.clone() });
    assert_eq!(compare_charts(&chart, &renamed)[0].account, coal.id);
    let mut lost = chart.clone();
    lost.remove(coal.id);
    assert_eq!((compare_charts(&chart, &lost).len(), compare_charts(&lost, &chart).len()), (1, 1));
}

#[test]
fn a_code_stands_for_its_bearer_then_for_who_holds_its_history() {
    let (today, _) = apply(&railway(), "5020 fate merge 5010");
    let key = |text: &str| Code::parse(text).unwrap().key();
    let past = [("5020", 5020), ("5500", 5020), ("5500", 5010), ("5600", 5030), ("5600", 5010)];
    let former = FormerCodes::from_iter(past.map(|(code, id)| (key(code), AccountId(id))));
    let finder = Finder::of(&today.chart, &former);
    let found = |text: &str| match finder.by_code(&key(text)) {
        Found::Current(account) => format!("bears {}", account.code),
        Found::Former(account) => format!("bore {}", account.code),
        Found::Several(accounts) => {
            accounts.iter().map(|a| a.code.to_string()).collect::<Vec<_>>().join(" or ")
        }
        Found::Nobody => "nobody".to_owned(),
    };
    assert_eq!(found("50 10"), "bears 5010");
    assert_eq!(found("5020"), "bore 5010");
    assert_eq!(found("5500"), "bore 5010", "both of its bearers ended in one account");
    assert_eq!(found("5600"), "5010 or 5030", "latest bearer first");
    assert_eq!(found("4711"), "nobody");
}

#[test]
fn what_was_carved_from_a_moved_strand_and_given_back_goes_home_with_it() {
    let start = railway();
    let (merged, merge) = apply(&start, "5010 fate merge 5030");
    // 5030 presents the strand of 5010 now, and gives a part of it away.
    let split = plan(&merged, "5030 history to 5040, until 2025-01-31");
    let effects = books::carved(rehearse(&merged, &split).effects);
    assert_eq!(effects.carves().count(), 1);
    let after = carried_out(&merged, &effects);
    let split = Application { id: ApplicationId(2), name: "split".to_owned(), effects };
    let stopped = rehearse_undo(&after, &merge, std::slice::from_ref(&split));
    assert_eq!(rules(&stopped), ["undo_later"]);
    let undone = carried_out(&after, &rehearse_undo(&after, &split, &[]).effects);
    let back = carried_out(&undone, &rehearse_undo(&undone, &merge, &[]).effects);
    let ledger = |today: &Today| ledger_after(&today.activity, &Default::default());
    assert_eq!(compare_ledgers(&ledger(&start), &ledger(&back)), []);
}
