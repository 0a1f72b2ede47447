//! What stands in the way of taking a file back, and what does not.

use crate::books::{period, plan, railway};
use std::collections::{BTreeMap, BTreeSet};
use time::macros::date;
use zf_core::ids::{AccountId, ApplicationId, StrandId};
use zf_core::rehearsal::rehearse;
use zf_core::rehearsal::undo::Application;
use zf_core::rollback::{self, Brought};
use zf_core::today::Today;
use zf_phrases::Style;
use zf_phrases::rollback::blocker;

/// A plan as it would have been applied.
fn applied(today: &Today, words: &str) -> Application {
    let effects = rehearse(today, &plan(today, words)).effects;
    Application { id: ApplicationId(1), name: "Autumn".to_owned(), effects }
}

/// What stands in the way, as it is said.
fn blockers(brought: &Brought, since: &[Application], today: &Today) -> Vec<String> {
    let found = rollback::blockers(brought, since, today);
    found.iter().map(|found| blocker(found, Style::default())).collect()
}

/// Lines on the strand of 5030, and nothing else.
fn lines_on_diesel() -> Brought {
    Brought { entries: 1, lines: BTreeMap::from([(StrandId(5), 1)]), ..Brought::default() }
}

#[test]
fn a_plan_that_touches_nothing_of_it_does_not_stand_in_the_way() {
    let today = railway();
    let brought = lines_on_diesel();
    assert!(blockers(&brought, &[], &today).is_empty());
    let elsewhere = applied(&today, "6010 name Telephones; 5040 fate delete");
    assert!(blockers(&brought, &[elsewhere], &today).is_empty());
    // A new name of the account that holds its lines moves none of them.
    let renamed = applied(&today, "5030 name Fuel");
    assert!(blockers(&brought, &[renamed], &today).is_empty());
}

#[test]
fn a_plan_that_moved_its_lines_is_named() {
    let today = railway();
    let merged = applied(&today, "5030 fate merge 5010");
    let says = blockers(&lines_on_diesel(), std::slice::from_ref(&merged), &today);
    assert_eq!(says, ["“Autumn” was applied since and changed 5030 Diesel; undo it first."]);
    let others = Brought { lines: BTreeMap::from([(StrandId(3), 1)]), ..Brought::default() };
    assert!(blockers(&others, &[merged], &today).is_empty(), "5010 only took others in");
}

#[test]
fn accounts_that_others_lean_on_stay() {
    let today = railway();
    let ids = |ids: &[i64]| ids.iter().map(|id| AccountId(*id)).collect::<BTreeSet<_>>();
    let brought = Brought {
        accounts: ids(&[5000, 5030, 5040]),
        used_elsewhere: ids(&[5040, 6010]),
        ..Brought::default()
    };
    let says = blockers(&brought, &[applied(&today, "5040 name Gas")], &today);
    assert_eq!(says[0], "“Autumn” was applied since and changed 5040 Never used; undo it first.");
    assert_eq!(says[1], "5030 Diesel has 1 line of other files.");
    assert_eq!(says[2], "5040 Never used is named in the where-used list of another file.");
    let children = &says[3..];
    assert!(children.iter().all(|reason| reason.ends_with("stands under 5000 Running costs.")));
    assert_eq!(children.len(), 3, "5010, 5020 and the sum line: {children:?}");
    // With its own lines gone, and all that stands under the heading, nothing is left.
    let whole = Brought {
        accounts: ids(&[5000, 5010, 5020, 5030, 5040, 5099]),
        lines: BTreeMap::from([(StrandId(3), 2), (StrandId(4), 1), (StrandId(5), 1)]),
        ..Brought::default()
    };
    assert!(blockers(&whole, &[], &today).is_empty());
}

#[test]
fn a_locked_period_stays_as_it_is() {
    let mut today = railway();
    let brought = Brought { first: Some(period(date!(2024 - 05 - 01))), ..lines_on_diesel() };
    assert!(blockers(&brought, &[], &today).is_empty());
    today.locked = Some(period(date!(2024 - 05 - 01)));
    assert_eq!(blockers(&brought, &[], &today), ["Some of its lines lie in a locked period."]);
    today.locked = Some(period(date!(2024 - 04 - 01)));
    assert!(blockers(&brought, &[], &today).is_empty());
}
