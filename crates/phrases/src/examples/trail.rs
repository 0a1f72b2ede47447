//! An example of each row of a trail.

use super::{COAL, DAY, EARLIER, Example, chart};
use crate::Style;
use crate::trail::{action, item, sentence};
use zf_core::access::Roles;
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::Class;
use zf_core::entry::JournalSince;
use zf_core::file_kind::FileKind;
use zf_core::items::{ItemChange, ItemName, NamedOperand, NamedTerm};
use zf_core::money::Currency;
use zf_core::names::ArchivedName;
use zf_core::policy::{Level, Policy, RelaxableRule};
use zf_core::rehearsal::rule::Rule;
use zf_core::review::remarks::RemarkKind;
use zf_core::trail::{Admitted, Event, FailedTry, Scheme, TrailAction};

/// What a row of a trail says of each action, in the order in which they are declared.
pub fn of_trail() -> Vec<Example> {
    let example = |event: Event| Example {
        key: event.action().key(),
        title: action(event.action()),
        sentence: sentence(&event, Style::default()),
        advice: None,
    };
    events().into_iter().map(example).collect()
}

/// What is said of each change of a statement item.
pub fn of_items() -> Vec<String> {
    item_changes().iter().map(item).collect()
}

/// What can be done, each with something that is told of it.
pub fn events() -> Vec<Event> {
    TrailAction::ALL.iter().filter_map(|action| event(*action)).collect()
}

fn event(action: TrailAction) -> Option<Event> {
    let accounts: Vec<_> =
        chart().get(COAL).map(|row| ArchivedName::of(row.called())).into_iter().collect();
    let (from, to) = (DAY, EARLIER);
    let reason = || "it was agreed with the auditor".to_owned();
    let (plan, name, person) = ("Fuel", "Larkfell Railway", "Hazel Ashdown");
    let email = || "hazel@larkfell.example".to_owned();
    let [plan, name, person] = [plan, name, person].map(str::to_owned);
    let client = "192.0.2.7".to_owned();
    let scheme = |blocks| Scheme { format: Policy::default().format, blocks };
    let owner = Roles::alone;
    Some(match action {
        TrailAction::Applied => Event::Applied { plan, accounts: 3 },
        TrailAction::Undid => Event::Undid { plan, accounts: 3 },
        TrailAction::Overrode => Event::Overrode {
            finding: "locked_total-1".to_owned(),
            rule: Rule::LockedTotal,
            accounts,
            reason: reason(),
        },
        TrailAction::Imported => Event::Imported {
            kind: Some(FileKind::Journal),
            file: "may.csv".to_owned(),
            rows: 1_234,
            reactivated: accounts,
        },
        TrailAction::Staged => Event::Staged { file: "crosswalk.ods".to_owned(), rows: 57, plan },
        TrailAction::RolledBack => Event::RolledBack { file: "may.csv".to_owned(), entries: 412 },
        TrailAction::Dismissed => {
            Event::Dismissed { kind: RemarkKind::UnusualSide, all: true, reason: reason() }
        }
        TrailAction::MarkedNotDuplicates => {
            Event::MarkedNotDuplicates { accounts: 2, reason: reason() }
        }
        TrailAction::OpenedBooks => Event::OpenedBooks { name },
        TrailAction::FoundBooks => Event::FoundBooks { name },
        TrailAction::RenamedBooks => Event::RenamedBooks { from: "Larkfell".to_owned(), to: name },
        TrailAction::ChangedCurrency => {
            let [from, to] = ["GBP", "EUR"].map(Currency::parse);
            Event::ChangedCurrency { from: from.ok()?, to: to.ok()? }
        }
        TrailAction::ChangedYear => Event::ChangedYear {
            from: FiscalCalendar::starting(1, 1).ok()?,
            to: FiscalCalendar::starting(4, 6).ok()?,
        },
        TrailAction::ChangedAsOf => Event::ChangedAsOf { from: None, to: Some(DAY) },
        TrailAction::SetScheme => Event::SetScheme { from: scheme(0), to: scheme(7) },
        TrailAction::ChangedItems => {
            Event::ChangedItems { change: item_changes().into_iter().next()? }
        }
        TrailAction::ChangedPolicy => Event::ChangedPolicy {
            rule: *RelaxableRule::ALL.first()?,
            from: Level::Caution,
            to: Level::Stop,
        },
        TrailAction::ChangedUsage => Event::ChangedUsage { complete: true },
        TrailAction::ChangedJournal => {
            Event::ChangedJournal { from: JournalSince::Unknown, to: JournalSince::Day(EARLIER) }
        }
        TrailAction::Locked => Event::Locked { from: None, until: Some(DAY) },
        TrailAction::Unlocked => {
            Event::Unlocked { from: Some(from), until: Some(to), reason: reason() }
        }
        TrailAction::ArchivedBooks => Event::ArchivedBooks {},
        TrailAction::RestoredBooks => Event::RestoredBooks {},
        TrailAction::DeletedBooks => {
            Event::DeletedBooks { books: 3, name, rows: 88, seal: "00".repeat(32) }
        }
        TrailAction::AddedMember => Event::AddedMember {
            person,
            roles: owner(),
            until: Some(DAY),
            way: Admitted::ByInvitation,
        },
        TrailAction::ChangedRoles => Event::ChangedRoles {
            person,
            from: owner(),
            to: owner(),
            until: None,
            way: Admitted::ByOperator,
        },
        TrailAction::MadeOwner => Event::MadeOwner { person, books: Some(name) },
        TrailAction::RemovedMember => Event::RemovedMember { person, roles: owner() },
        TrailAction::Invited => Event::Invited { person, email: email(), roles: Some(owner()) },
        TrailAction::WithdrewInvitation => Event::WithdrewInvitation { email: email() },
        TrailAction::Joined => {
            Event::Joined { email: email(), invited_by: Some(person), first: false }
        }
        TrailAction::AddedPerson => Event::AddedPerson { person, email: email() },
        TrailAction::RemovedPerson => Event::RemovedPerson { person, email: email(), links: true },
        TrailAction::MadeAdministrator => Event::MadeAdministrator { person },
        TrailAction::MadeOrdinary => Event::MadeOrdinary { person },
        TrailAction::SignedIn => Event::SignedIn { client },
        TrailAction::FailedSignIn => Event::FailedSignIn { client, why: FailedTry::WrongPassword },
        TrailAction::SignedOut => Event::SignedOut {},
        TrailAction::EndedSessions => Event::EndedSessions { client: None, others: 2 },
        TrailAction::ChangedName => Event::ChangedName { from: "Hazel".to_owned(), to: person },
        TrailAction::AskedForEmail => {
            Event::AskedForEmail { from: "h@larkfell.example".to_owned(), to: email() }
        }
        TrailAction::ChangedEmail => {
            Event::ChangedEmail { from: "h@larkfell.example".to_owned(), to: email() }
        }
        TrailAction::ChangedPassword => Event::ChangedPassword {
            person: None,
            link: true,
            link_by: Some(person),
            sessions: Some(2),
        },
        TrailAction::AskedForPassword => Event::AskedForPassword { person, email: email() },
        TrailAction::MadePasswordLink => Event::MadePasswordLink { person, email: email() },
        TrailAction::AddedFactor => Event::AddedFactor {},
        TrailAction::RemovedFactor => Event::RemovedFactor { person },
        TrailAction::UsedRecoveryCode => Event::UsedRecoveryCode { left: 7 },
    })
}

fn item_changes() -> Vec<ItemChange> {
    let item = || ItemName { name: "Fuel".to_owned(), class: Class::Expense };
    let terms = || {
        vec![
            NamedTerm { taken_off: false, of: NamedOperand::Class(Class::Income) },
            NamedTerm { taken_off: true, of: NamedOperand::Item("Fuel".to_owned()) },
        ]
    };
    vec![
        ItemChange::Renamed { item: item(), to: "Coal and wood".to_owned() },
        ItemChange::Added { item: item() },
        ItemChange::Moved { item: item() },
        ItemChange::Retired { item: item() },
        ItemChange::Restored { item: item() },
        ItemChange::AddedCalculated { item: item(), terms: terms() },
        ItemChange::Calculated { item: item(), terms: terms() },
        ItemChange::OtherSide { item: item(), other: None },
    ]
}
