//! What the trails tell, read over: each action as a person reads it, in the forms that they have chosen.

use time::macros::date;
use zf_core::access::{Role, Roles};
use zf_core::people::{DateForm, Forms, NumberForm};
use zf_core::trail::{Admitted, Detail, Event, FailedTry, TrailAction};
use zf_phrases::Style;
use zf_phrases::examples::of_trail;
use zf_phrases::trail::{action, listed, sentence, words_of};

#[test]
fn each_row_reads_as_one_sentence_behind_the_name_of_whoever_did_it() {
    let said: Vec<String> = of_trail()
        .into_iter()
        .map(|row| format!("{} {}", row.title, row.sentence).trim_end().to_owned())
        .collect();
    let reason = "it was agreed with the auditor";
    let expected = [
        "applied “Fuel”, 3 accounts",
        "undid “Fuel”, 3 accounts",
        &format!("overrode a stop total of a locked year moves: 5010 Coal. Because: {reason}"),
        "imported journal from may.csv, 1,234 rows; active again: 5010 Coal",
        "staged crosswalk.ods, 57 rows, in “Fuel”",
        "rolled back may.csv, with 412 entries",
    ];
    for (said, expected) in said.iter().zip(expected) {
        if expected.contains("locked year") {
            assert!(said.starts_with("overrode a stop ") && said.ends_with(reason), "{said}");
            assert!(said.contains(": 5010 Coal. Because: "), "{said}");
        } else {
            assert_eq!(said, expected);
        }
    }
    for expected in [
        &*format!("marked as no duplicates 2 accounts: {reason}"),
        "opened the books Larkfell Railway",
        "renamed the books from Larkfell to Larkfell Railway",
        "changed the currency from GBP to EUR",
        "changed the fiscal year from years from 1 January to years from 6 April",
        "changed the as-of date from the latest period with its usual lines to 31 May 2026",
        "changed the statement items renamed an item: Fuel (Expenses) to Coal and wood",
        "changed what is known of uses from not complete to complete",
        "changed from when the journal is complete from nobody knows when to 7 Oct 2024",
        "locked the books from no day to 31 May 2026",
        &*format!("unlocked the books from 31 May 2026 to 7 Oct 2024. Because: {reason}"),
        "archived the books",
        "restored the books",
        "added as a member Hazel Ashdown as owner, reviewer, preparer until 31 May 2026, as invited",
        "removed as a member Hazel Ashdown, who was owner, reviewer, preparer",
        "invited Hazel Ashdown, hazel@larkfell.example as owner, reviewer, preparer",
        "withdrew the invitation of hazel@larkfell.example",
        "joined as invited by Hazel Ashdown, hazel@larkfell.example",
        "made an administrator of Hazel Ashdown",
        "signed in from 192.0.2.7",
        "failed to sign in from 192.0.2.7: a wrong address or password",
        "signed out",
        "ended sessions 2 others of their own",
        "changed the password by a link that Hazel Ashdown had sent; 2 sessions ended",
        "removed the second factor of Hazel Ashdown",
        "used a recovery code 7 are left",
    ] {
        assert!(said.iter().any(|said| said == expected), "{expected} is none of {said:#?}");
    }
}

#[test]
fn days_and_counts_follow_the_forms_of_whoever_reads() {
    let style = Style(Forms { dates: DateForm::Iso, numbers: NumberForm::PointComma });
    let locked = Event::Locked { from: None, until: Some(date!(2026 - 05 - 31)) };
    assert_eq!(sentence(&locked, style), "from no day to 2026-05-31");
    let staged = Event::Staged { file: "x.csv".to_owned(), rows: 12_345, plan: "Fuel".to_owned() };
    assert_eq!(sentence(&staged, style), "x.csv, 12.345 rows, in “Fuel”");
}

#[test]
fn who_came_in_by_which_way_is_told() {
    let style = Style::default();
    let roles = || Roles::of([Role::Reader]).unwrap();
    let added =
        |way| Event::AddedMember { person: "Bob".to_owned(), roles: roles(), until: None, way };
    let said = [Admitted::ByMember, Admitted::ByInvitation, Admitted::ByOperator]
        .map(|way| sentence(&added(way), style));
    let expected =
        ["Bob as reader", "Bob as reader, as invited", "Bob as reader, by who runs the server"];
    assert_eq!(said, expected);
    let first = Event::Joined { email: "a@b.example".to_owned(), invited_by: None, first: true };
    assert_eq!(sentence(&first, style), "as the first person and administrator, a@b.example");
}

#[test]
fn each_failed_try_says_something_else() {
    let tries = FailedTry::ALL.iter().map(|why| {
        sentence(&Event::FailedSignIn { client: "here".to_owned(), why: *why }, Style::default())
    });
    let mut said: Vec<String> = tries.collect();
    said.sort();
    said.dedup();
    assert_eq!(said.len(), FailedTry::ALL.len());
}

#[test]
fn what_was_sealed_as_a_sentence_or_by_a_later_program_is_shown_as_it_is() {
    let style = Style::default();
    let old = Detail::Sentence("renamed a line: Löhne to Wages".to_owned());
    assert_eq!(words_of(&old, None, style), "renamed a line: Löhne to Wages");
    let later = Detail::Facts(r#"{"shelf":3}"#.to_owned());
    assert_eq!(words_of(&later, None, style), r#"{"shelf":3}"#);
    let undone = Event::Undid { plan: "Fuel".to_owned(), accounts: 1 };
    assert_eq!(words_of(&later, Some(&undone), style), "“Fuel”, 1 account");
}

#[test]
fn no_two_actions_of_a_list_have_the_same_words() {
    for list in [TrailAction::OF_BOOKS, TrailAction::OF_SERVER] {
        let mut words: Vec<&str> = list.iter().map(|action| listed(*action)).collect();
        words.sort_unstable();
        words.dedup();
        assert_eq!(words.len(), list.len(), "{words:?}");
    }
    assert!(TrailAction::ALL.iter().all(|done| !action(*done).ends_with(['.', ' '])));
}
