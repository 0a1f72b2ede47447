//! What people did, in words: of each action its name and what is told of it, side by side.

use crate::policy;
use crate::review::title;
use crate::style::Style;
use time::{Date, Month};
use zf_core::access::Roles;
use zf_core::calendar::FiscalCalendar;
use zf_core::entry::JournalSince;
use zf_core::file_kind::FileKind;
use zf_core::items::{ItemChange, ItemName, NamedOperand, NamedTerm};
use zf_core::names::ArchivedName;
use zf_core::trail::{Admitted, Detail, Event, FailedTry, Scheme, TrailAction};

/// Declares the words of what is done, a row each: what an event says, the action as the row of a trail has it
/// beside the name of whoever did it, the action as a list offers it, and the sentence.
macro_rules! events {
    ($style:ident: $($event:ident $fields:tt, $action:literal, $listed:literal => $sentence:expr;)+) => {
        /// What was done, behind the name of whoever did it.
        pub const fn action(action: TrailAction) -> &'static str {
            match action { $(TrailAction::$event => $action,)+ }
        }

        /// What was done, on its own.
        pub const fn listed(action: TrailAction) -> &'static str {
            match action { $(TrailAction::$event => $listed,)+ }
        }

        /// To what it was done, with old and new.
        pub fn sentence(event: &Event, $style: Style) -> String {
            match event { $(Event::$event $fields => $sentence,)+ }
        }
    };
}

events! { style:
    Applied { plan, accounts }, "applied", "applied a plan" =>
        format!("“{plan}”, {}", style.counted(accounts, "account"));
    Undid { plan, accounts }, "undid", "undid a plan" =>
        format!("“{plan}”, {}", style.counted(accounts, "account"));
    Overrode { rule, accounts, reason, .. }, "overrode a stop", "overrode a stop" => format!(
        "{}: {}. Because: {reason}", crate::findings::title(*rule), labels(accounts));
    Imported { kind, file, rows, reactivated }, "imported", "imported a file" => format!(
        "{} from {file}, {}{}",
        kind.map_or("file", FileKind::words),
        style.counted(rows, "row"),
        match reactivated.as_slice() {
            [] => String::new(),
            accounts => format!("; active again: {}", labels(accounts)),
        },
    );
    Staged { file, rows, plan }, "staged", "staged a file" =>
        format!("{file}, {}, in “{plan}”", style.counted(rows, "row"));
    RolledBack { file, entries }, "rolled back", "rolled back a file" =>
        format!("{file}, with {}", style.counted(entries, "entry"));
    Dismissed { kind, all, reason }, "dismissed", "dismissed a remark" =>
        format!("{}{}: {reason}", if *all { "all of " } else { "" }, title(*kind));
    MarkedNotDuplicates { accounts, reason }, "marked as no duplicates", "marked accounts as no duplicates" =>
        format!("{}: {reason}", style.counted(accounts, "account"));
    OpenedBooks { name }, "opened the books", "opened books" => name.clone();
    FoundBooks { name }, "found when the trail began to name books", "found books" => name.clone();
    RenamedBooks { from, to }, "renamed the books", "renamed the books" => change(from, to);
    ChangedCurrency { from, to }, "changed the currency", "changed the currency" => change(from, to);
    ChangedYear { from, to }, "changed the fiscal year", "changed the fiscal year" =>
        change(years(*from), years(*to));
    ChangedAsOf { from, to }, "changed the as-of date", "changed the as-of date" =>
        change(as_of(*from, style), as_of(*to, style));
    SetScheme { from, to }, "set a numbering scheme", "set a numbering scheme" =>
        change(scheme(from, style), scheme(to, style));
    ChangedItems { change }, "changed the statement items", "changed statement items" => item(change);
    ChangedPolicy { rule, from, to }, "changed the policy", "changed the policy" =>
        format!("{}: {}", policy::holds(*rule), change(from.words(), to.words()));
    ChangedUsage { complete }, "changed what is known of uses", "changed what is known of uses" =>
        match complete {
            true => change("not complete", "complete"),
            false => change("complete", "not complete"),
        };
    ChangedJournal { from, to }, "changed from when the journal is complete",
        "changed from when the journal is complete" => change(since(*from, style), since(*to, style));
    Locked { from, until }, "locked the books", "locked" =>
        change(locked(*from, style), locked(*until, style));
    Unlocked { from, until, reason }, "unlocked the books", "unlocked" =>
        format!("{}. Because: {reason}", change(locked(*from, style), locked(*until, style)));
    ArchivedBooks {}, "archived the books", "archived the books" => String::new();
    RestoredBooks {}, "restored the books", "restored the books" => String::new();
    DeletedBooks { books, name, rows, seal }, "deleted books", "deleted books" =>
        format!("number {books}, “{name}”; its trail ended at row {rows} with the seal {seal}");
    AddedMember { person, roles, until, way }, "added as a member", "added a member" => format!(
        "{person} as {}{}{}", roles.words(), till(*until, style), by_way(*way));
    ChangedRoles { person, from, to, until, way }, "changed the roles of", "changed roles" => format!(
        "{person} {}{}{}", change(from.words(), to.words()), till(*until, style), by_way(*way));
    MadeOwner { person, books }, "made owner of books without one", "made an owner of books without one" =>
        match books {
            Some(books) => format!("{person}: “{books}”"),
            None => person.clone(),
        };
    RemovedMember { person, roles }, "removed as a member", "removed a member" =>
        format!("{person}, who was {}", roles.words());
    Invited { person, email, roles }, "invited", "invited somebody" => {
        let roles = roles.as_ref().map(Roles::words);
        format!("{person}, {email}{}", roles.map_or_else(String::new, |roles| format!(" as {roles}")))
    };
    WithdrewInvitation { email }, "withdrew the invitation of", "withdrew an invitation" => email.clone();
    Joined { email, invited_by, first }, "joined", "joined" => match (first, invited_by) {
        (true, _) => format!("as the first person and administrator, {email}"),
        (false, Some(by)) => format!("as invited by {by}, {email}"),
        (false, None) => format!("by an invitation, {email}"),
    };
    AddedPerson { person, email }, "added", "added somebody" => format!("{person}, {email}");
    RemovedPerson { person, email, links }, "removed", "removed somebody" => format!(
        "{person}, {email}{}",
        if *links { "; the links that they had sent or were sent lead nowhere any more" } else { "" },
    );
    MadeAdministrator { person }, "made an administrator of", "made an administrator" => person.clone();
    MadeOrdinary { person }, "ended the administration by", "ended an administration" => person.clone();
    SignedIn { client }, "signed in", "signed in" => format!("from {client}");
    FailedSignIn { client, why }, "failed to sign in", "failed to sign in" =>
        format!("from {client}: {}", failed(*why));
    SignedOut {}, "signed out", "signed out" => String::new();
    EndedSessions { client, others }, "ended sessions", "ended sessions" => match client {
        Some(client) => format!("one from {client}"),
        None => format!("{} of their own", style.counted(others, "other")),
    };
    ChangedName { from, to }, "changed the name", "changed a name" => change(from, to);
    AskedForEmail { from, to }, "asked to change the e-mail address", "asked for another e-mail address" =>
        change(from, to);
    ChangedEmail { from, to }, "changed the e-mail address", "changed an e-mail address" => change(from, to);
    ChangedPassword { person, link, link_by, sessions }, "changed the password", "changed a password" => {
        let ended = sessions.map(|sessions| format!("; {} ended", style.counted(sessions, "session")));
        let ended = ended.unwrap_or_default();
        match (link, link_by) {
            (_, Some(by)) => format!("by a link that {by} had sent{ended}"),
            (true, None) => format!("by a link{ended}"),
            (false, None) => match person {
                Some(person) => format!("of {person}{ended}"),
                None => ended,
            },
        }
    };
    AskedForPassword { person, email }, "asked for a new password", "asked for a new password" =>
        format!("{person}, {email}");
    MadePasswordLink { person, email }, "had a link for a new password sent to",
        "had a link for a new password sent" => format!("{person}, {email}");
    AddedFactor {}, "added a second factor", "added a second factor" => String::new();
    RemovedFactor { person }, "removed the second factor", "removed a second factor" => format!("of {person}");
    UsedRecoveryCode { left }, "used a recovery code", "used a recovery code" => format!("{left} are left");
}

/// What a row of a trail tells: a sentence as it was sealed, or facts in the forms of whoever reads them. Facts of
/// a later program are shown as they are.
pub fn words_of(detail: &Detail, event: Option<&Event>, style: Style) -> String {
    match (detail, event) {
        (_, Some(event)) => sentence(event, style),
        (Detail::Sentence(text) | Detail::Facts(text), None) => text.clone(),
    }
}

/// What was, or will be, done to a statement item.
pub fn item(change: &ItemChange) -> String {
    let named = |item: &ItemName| format!("{} ({})", item.name, item.class.title());
    match change {
        ItemChange::Added { item } => format!("added an item: {}", named(item)),
        ItemChange::Renamed { item, to } => format!("renamed an item: {} to {to}", named(item)),
        ItemChange::Moved { item } => format!("moved an item: {}", named(item)),
        ItemChange::Retired { item } => format!("retired an item: {}", named(item)),
        ItemChange::Restored { item } => format!("restored an item: {}", named(item)),
        ItemChange::AddedCalculated { item, terms } => {
            format!("added a calculated item: {}: {}", named(item), calculated_from(terms))
        }
        ItemChange::Calculated { item, terms } => {
            format!("calculated an item anew: {}: {}", named(item), calculated_from(terms))
        }
        ItemChange::OtherSide { item, other } => {
            let other = other.as_ref().map_or_else(|| "none, it stays".to_owned(), named);
            format!("named an item for the other side: {}: {other}", named(item))
        }
    }
}

fn calculated_from(terms: &[NamedTerm]) -> String {
    let term = |NamedTerm { taken_off, of }: &NamedTerm| {
        let name = match of {
            NamedOperand::Class(class) => class.title(),
            NamedOperand::Item(name) => name,
        };
        format!("{} {name}", if *taken_off { "less" } else { "and" })
    };
    terms.iter().map(term).collect::<Vec<_>>().join(", ")
}

fn change(from: impl std::fmt::Display, to: impl std::fmt::Display) -> String {
    format!("from {from} to {to}")
}

fn labels(accounts: &[ArchivedName]) -> String {
    let labels: Vec<_> = accounts.iter().map(|account| account.called().label()).collect();
    labels.join(", ")
}

fn years(calendar: FiscalCalendar) -> String {
    let month = Month::try_from(calendar.month()).map_or(String::new(), |m| m.to_string());
    format!("years from {} {month}", calendar.day())
}

fn as_of(day: Option<Date>, style: Style) -> String {
    day.map_or("the latest period with its usual lines".to_owned(), |day| style.day(day))
}

fn locked(day: Option<Date>, style: Style) -> String {
    day.map_or("no day".to_owned(), |day| style.day(day))
}

fn since(journal: JournalSince, style: Style) -> String {
    match journal {
        JournalSince::Beginning => "the beginning".to_owned(),
        JournalSince::Day(day) => style.day(day),
        JournalSince::Unknown => "nobody knows when".to_owned(),
    }
}

fn scheme(scheme: &Scheme, style: Style) -> String {
    format!("codes of {}, {}", scheme.format, style.counted(scheme.blocks, "block"))
}

fn till(until: Option<Date>, style: Style) -> String {
    until.map_or_else(String::new, |until| format!(" until {}", style.day(until)))
}

fn by_way(way: Admitted) -> &'static str {
    match way {
        Admitted::ByMember => "",
        Admitted::ByInvitation => ", as invited",
        Admitted::ByOperator => ", by who runs the server",
    }
}

fn failed(why: FailedTry) -> &'static str {
    match why {
        FailedTry::WrongPassword => "a wrong address or password",
        FailedTry::WrongCode => "a wrong code",
        FailedTry::WrongPasswordForChange => "a wrong password for a change",
        FailedTry::WrongCodeForChange => "a wrong code for a change",
        FailedTry::TooMany => "too many tries",
    }
}
