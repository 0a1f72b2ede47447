//! What the review sees, in words.

use crate::books::{account, railway, today};
use time::macros::date;
use zf_core::activity::Activity;
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Status};
use zf_core::ids::AccountId;
use zf_core::names::Charts;
use zf_core::plan::{Change, Fate};
use zf_core::review::fixes::{Fix, ways};
use zf_core::review::look_alikes::{InCommon, Observation, Then};
use zf_core::review::remarks::{self, NameForm, Remark, RemarkKind, Seen};
use zf_core::review::unused::{self, Reason};
use zf_core::today::Today;
use zf_phrases::Say;
use zf_phrases::review::{better, title};

fn plain(today: &Today) -> Charts<'_> {
    Charts { today: &today.chart, after: &today.chart }
}

fn about(account: i64, seen: Seen) -> Remark {
    let (kind, accounts) = (seen.kind(), vec![AccountId(account)]);
    Remark { kind, accounts, item: None, seen, proposed: None, score: None }
}

#[test]
fn remarks_say_what_is_seen_in_figures() {
    let today = railway();
    let names = plain(&today);
    let say = Say::plain(&names, today.currency);
    for (seen, said) in [
        (
            Seen::HeadingPosted { kind: Kind::Heading, lines: 1_204 },
            "5010 Coal is a heading and has 1,204 lines, which no total of it shows apart.",
        ),
        (
            Seen::InactiveBalance { status: Status::Archived, balance: -1_250 },
            "5010 Coal is archived and stands at 12.50 credit, which the statements still show; restore it, or \
             leave it, and nothing of it is lost.",
        ),
        (
            Seen::AmongOthers { class: Class::Income, others: Class::Expense },
            "5010 Coal is income among codes of expense.",
        ),
        (
            Seen::BankSilent { last: Some(date!(2022 - 03 - 10)), balance: 0 },
            "5010 Coal was last posted to on 10 Mar 2022 and stands at nothing: if it is closed, deactivate it.",
        ),
        (
            Seen::BankSilent { last: None, balance: 50 },
            "5010 Coal was never posted to and stands at 0.50 debit: ask the bank what it holds before it is closed.",
        ),
        (
            Seen::SmallShare { years: vec![(40, 30_040), (40, 30_040)] },
            "5010 Coal was less than 1% of its statement item in each of the last 2 whole years: 0.40 of 300.40, \
             0.40 of 300.40.",
        ),
        (
            Seen::NameForm(NameForm::Slip("tickt".to_owned(), "ticket".to_owned())),
            "The name of 5010 Coal has “tickt” where others have “ticket”.",
        ),
    ] {
        assert_eq!(say.remark(&about(5_010, seen)), said);
    }
    assert!(RemarkKind::ALL.iter().all(|kind| !title(*kind).is_empty()));
}

#[test]
fn evidence_names_accounts_and_days() {
    let today = railway();
    let names = plain(&today);
    let say = Say::plain(&names, today.currency);
    let (coal, wood) = (AccountId(5_010), AccountId(5_020));
    for (seen, said) in [
        (
            Observation::Names(coal, wood, InCommon::OneSaysMore("firewood".to_owned())),
            "“Coal” and “Coal and firewood”: only one of them says firewood.",
        ),
        (
            Observation::Names(
                coal,
                wood,
                InCommon::Meaning(vec![("coal".to_owned(), "fuel".to_owned())]),
            ),
            "“Coal” and “Coal and firewood” say the same: “coal” and “fuel”.",
        ),
        (
            Observation::Stopped(wood, date!(2024 - 10 - 31), coal, Then::StartsThere),
            "5020 was last posted to on 31 Oct 2024; 5010 starts there.",
        ),
        (Observation::NeighbouringCodes(coal, wood), "5010 and 5020 are neighbours."),
        (
            Observation::SameCounterAccounts(vec![AccountId(1_010)]),
            "Both have lines against 1010 Bank.",
        ),
        (
            Observation::SamePhrases(vec!["coal".to_owned(), "sacks".to_owned()]),
            "Lines of both say “coal” and “sacks”.",
        ),
    ] {
        assert_eq!(say.observation(&seen), said);
    }
}

#[test]
fn every_way_to_mend_has_a_label() {
    let heading = |id: i64, code: &str, name: &str, parent| Account {
        kind: Kind::Heading,
        parent,
        ..account(id, code, name, Class::Expense)
    };
    let rows = [
        heading(1, "5000", "All expenses", None),
        heading(2, "5900", "Boats", Some(AccountId(1))),
        heading(3, "5800", "Horses", Some(AccountId(1))),
        Account { parent: Some(AccountId(2)), ..account(4, "5910", "Boat rent", Class::Expense) },
        Account {
            parent: Some(AccountId(1)),
            ..account(5, "5010", "COAL AND COKE", Class::Expense)
        },
        Account { parent: Some(AccountId(1)), ..account(6, "5020", "Lamp oil", Class::Expense) },
        Account { parent: Some(AccountId(1)), ..account(7, "5030", "Grease", Class::Expense) },
    ];
    let books = today(Chart::new(rows), Activity::default());
    let names = plain(&books);
    let say = Say::plain(&names, books.currency);
    let labels: Vec<String> = remarks::find(&books)
        .iter()
        .flat_map(|remark| {
            let ways = ways(&books, remark);
            ways.iter().map(|way| say.fix(way, remark)).collect::<Vec<_>>()
        })
        .collect();
    for label in
        ["Put 5910 Boat rent in its place and delete it", "Delete it", "Write “Coal and coke”"]
    {
        assert!(labels.iter().any(|one| one == label), "{labels:?}");
    }
    let remark = about(5_010, Seen::ControlByName { role: ControlRole::Tax });
    let role = Fix::Changes(vec![(AccountId(5), Change::Role(Some(ControlRole::Tax)))]);
    assert_eq!(say.fix(&role, &remark), "Make it the books’ tax account");
    let merge = Change::Fate(Fate::MergeInto { into: AccountId(6) });
    let merge = Fix::Changes(vec![(AccountId(5), merge)]);
    assert_eq!(say.fix(&merge, &remark), "Merge it into 5020 Lamp oil");
}

#[test]
fn why_an_account_is_unused_is_said_with_what_stands_against_its_fates() {
    let mut books = railway();
    books.usage.by_account.insert(AccountId(5_040), vec!["bank rule “Kindling”".to_owned()]);
    let found = unused::find(&books, date!(2025 - 02 - 01));
    let names = plain(&books);
    let say = Say::plain(&names, books.currency);
    let never = found.iter().find(|unused| unused.account == AccountId(5_040)).unwrap();
    let said: Vec<_> = never.reasons.iter().map(|why| say.unused(why, never.account)).collect();
    assert_eq!(
        said,
        [
            "It was never posted to.",
            "5040 Never used can’t be deleted: bank rule “Kindling” still names it.",
        ]
    );
    let since = Reason::NotSince { last: date!(2024 - 10 - 31), since: date!(2025 - 02 - 01) };
    assert_eq!(
        say.unused(&since, AccountId(5_020)),
        "It was last posted to on 31 Oct 2024, and not since 1 Feb 2025."
    );
    assert_eq!(
        better(zf_core::review::Better::Role(ControlRole::Bank)),
        "it is the books’ bank account"
    );
}
