//! What the review finds odd by all that is seen of an account: classes, blocks inferred from codes, names, and control
//! accounts without a role.

use crate::books::{account, strand, today};
use time::macros::date;
use zf_core::activity::Activity;
use zf_core::chart::{Account, Chart, Class, ControlRole, Kind, Section};
use zf_core::code::Code;
use zf_core::ids::AccountId;
use zf_core::plan::{Change, Fate};
use zf_core::review::fixes::{Fix, ways};
use zf_core::review::remarks::{self, NameForm, Proposed, Remark, RemarkKind, Seen};
use zf_core::review::unused;
use zf_core::today::Today;

/// Income from 4000 on, expenses from 5000 on, each with lines on its side.
fn club() -> Vec<Account> {
    let income = [
        "Bar sales",
        "Raffle sales",
        "Ticket sales",
        "Programme sales",
        "Hall sales",
        "Stall sales",
    ];
    let expense = ["Hall rent", "Field rent", "Kiln rent", "Van rent", "Shed rent", "Desk rent"];
    let mut accounts = Vec::new();
    for (base, class, names) in [(4_000, Class::Income, income), (5_000, Class::Expense, expense)] {
        accounts.push(Account {
            kind: Kind::Heading,
            ..account(base, &base.to_string(), &format!("All {}", class.words()), class)
        });
        for (n, name) in (1..).zip(names) {
            let id = base + n * 10;
            let parent = Some(AccountId(base));
            accounts.push(Account { parent, ..account(id, &id.to_string(), name, class) });
        }
    }
    accounts
}

/// The books of the club after an account was changed; every account has ten lines on the side of its code.
fn books(id: i64, change: impl FnOnce(&mut Account)) -> Today {
    let mut accounts = club();
    let row = accounts.iter_mut().find(|row| row.id == AccountId(id)).unwrap();
    change(row);
    let posted = accounts.iter().filter(|row| row.kind == Kind::Account);
    let strands = posted.map(|row| {
        let amount = if row.id.0 < 5_000 { -40 } else { 40 };
        let lines: Vec<_> =
            (1..=10).map(|day| (date!(2026 - 03 - 01).replace_day(day).unwrap(), amount)).collect();
        strand(row.id.0, row.id.0, &lines)
    });
    let strands: Vec<_> = strands.collect();
    today(Chart::new(accounts), Activity::new(strands))
}

fn of(today: &Today, id: i64, kind: RemarkKind) -> Option<Remark> {
    let found = remarks::find(today).into_iter();
    found.filter(|remark| remark.kind == kind).find(|remark| remark.accounts == [AccountId(id)])
}

#[test]
fn a_class_is_contradicted_by_name_lines_and_place_together() {
    let plain = books(4_030, |_| ());
    for kind in [RemarkKind::ClassContradicted, RemarkKind::OutOfBlock, RemarkKind::NameForm] {
        assert!(!remarks::find(&plain).iter().any(|remark| remark.kind == kind), "{kind:?}");
    }
    for (id, wrong, right) in [
        (4_030, Class::Expense, Class::Income),
        (4_030, Class::Asset, Class::Income),
        (5_030, Class::Income, Class::Expense),
        (5_030, Class::Liability, Class::Expense),
    ] {
        let today = books(id, |row| row.class = wrong);
        let remark = of(&today, id, RemarkKind::ClassContradicted).unwrap();
        assert_eq!(remark.proposed, Some(Proposed::Class(right)), "{id} as {wrong:?}");
        assert!(remark.score.is_some_and(|score| (50..100).contains(&score)));
        let mend = ways(&today, &remark).remove(0);
        let Fix::Changes(changes) = mend else { unreachable!("a change") };
        assert!(changes.contains(&(AccountId(id), Change::Class(right))));
    }
}

#[test]
fn what_only_stands_among_others_is_out_of_its_block_and_not_of_a_wrong_class() {
    let today = books(4_030, |row| {
        row.code = Code::parse("5035").unwrap();
        row.parent = None;
    });
    assert_eq!(of(&today, 4_030, RemarkKind::ClassContradicted), None);
    let remark = of(&today, 4_030, RemarkKind::OutOfBlock).unwrap();
    let among = Seen::AmongOthers { class: Class::Income, others: Class::Expense };
    assert_eq!(remark.seen, among);
    // A code that was only proposed is evidence of nothing.
    let today = books(4_030, |row| {
        row.code = Code::parse("5035").unwrap();
        row.code_proposed = true;
        row.parent = None;
    });
    assert_eq!(of(&today, 4_030, RemarkKind::OutOfBlock), None);
}

#[test]
fn names_are_written_otherwise_in_many_ways() {
    let named = |name: &str| {
        let today = books(5_030, |row| name.clone_into(&mut row.name));
        let remark = of(&today, 5_030, RemarkKind::NameForm)?;
        let fixes = ways(&today, &remark);
        let Seen::NameForm(form) = remark.seen else { unreachable!("{remark:?}") };
        let Some(Fix::Changes(changes)) = fixes.into_iter().next() else {
            return Some((form, String::new()));
        };
        let name = changes.into_iter().find_map(|(_, change)| match change {
            Change::Name(name) => Some(name),
            _ => None,
        });
        Some((form, name.unwrap_or_default()))
    };
    for (name, how, right) in [
        ("Kiln  rent", NameForm::StraySpaces, "Kiln rent"),
        ("KILN RENT", NameForm::Capitals, "Kiln rent"),
        ("kiln rent", NameForm::SmallLetter, "Kiln rent"),
        ("Kiln rent,", NameForm::StraySigns, "Kiln rent"),
        ("* Kiln rent", NameForm::StraySigns, "Kiln rent"),
    ] {
        assert_eq!(named(name), Some((how, right.to_owned())), "{name}");
    }
    for name in ["Kiln rent etc.", "VAT", "Kiln rents", "Kiln rent (old)", "Kiln rental"] {
        assert_eq!(named(name), None, "{name}");
    }
}

#[test]
fn a_slip_is_one_where_the_chart_writes_it_right_elsewhere() {
    let today = books(4_030, |row| "Tiket sales".clone_into(&mut row.name));
    assert_eq!(of(&today, 4_030, RemarkKind::NameForm), None, "nobody writes ticket");
    let mut accounts = club();
    for (id, name) in [(4_020, "Ticket stubs"), (4_040, "Ticket rolls"), (4_030, "Tickt sales")] {
        accounts.iter_mut().find(|row| row.id == AccountId(id)).unwrap().name = name.to_owned();
    }
    let today = today_of(accounts);
    let remark = of(&today, 4_030, RemarkKind::NameForm).unwrap();
    let slip = NameForm::Slip("tickt".to_owned(), "ticket".to_owned());
    assert_eq!(remark.seen, Seen::NameForm(slip));
    assert_eq!(remark.proposed, Some(Proposed::Name("Ticket sales".to_owned())));
}

fn today_of(accounts: Vec<Account>) -> Today {
    today(Chart::new(accounts), Activity::default())
}

#[test]
fn a_control_account_known_by_its_name_is_kept_and_its_role_proposed() {
    let mut accounts = club();
    accounts.push(account(2_010, "2010", "Trade creditors", Class::Liability));
    accounts.push(account(2_020, "2020", "Wages control", Class::Liability));
    accounts.push(account(2_030, "2030", "Sundry loans", Class::Liability));
    let today = today_of(accounts.clone());
    let unused = unused::find(&today, date!(2026 - 01 - 01));
    let fate = |id: i64| unused.iter().find(|one| one.account == AccountId(id)).unwrap().fate;
    assert_eq!((fate(2_010), fate(2_020)), (None, None));
    assert_eq!(fate(2_030), Some(Fate::Delete));
    let remark = of(&today, 2_010, RemarkKind::ControlByName).unwrap();
    assert_eq!(remark.proposed, Some(Proposed::Role(ControlRole::Payables)));
    let mend = ways(&today, &remark).remove(0);
    let change = (AccountId(2_010), Change::Role(Some(ControlRole::Payables)));
    assert_eq!(mend, Fix::Changes(vec![change]));
    assert_eq!(of(&today, 2_020, RemarkKind::ControlByName), None, "the books know no such role");
    // Where another account has the role already, this one is a part that is kept apart.
    accounts.push(Account {
        role: Some(ControlRole::Payables),
        ..account(2_040, "2040", "Suppliers", Class::Liability)
    });
    assert_eq!(of(&today_of(accounts), 2_010, RemarkKind::ControlByName), None);
}

#[test]
fn a_bank_account_without_lines_for_a_year_is_named_and_retired_when_it_stands_at_nothing() {
    let bank = |id: i64, name: &str| Account {
        role: Some(ControlRole::Bank),
        ..account(id, &id.to_string(), name, Class::Asset)
    };
    let accounts = [bank(1_010, "Bank"), bank(1_020, "Old bank"), bank(1_030, "Left at the mint")];
    let strands = [
        strand(1, 1_010, &[(date!(2022 - 01 - 10), 50), (date!(2026 - 03 - 10), 70)]),
        strand(2, 1_020, &[(date!(2022 - 01 - 10), 50), (date!(2022 - 03 - 10), -50)]),
        strand(3, 1_030, &[(date!(2022 - 01 - 10), 50)]),
    ];
    let today = today(Chart::new(accounts), Activity::new(strands));
    assert_eq!(of(&today, 1_010, RemarkKind::BankSilent), None);
    let closed = of(&today, 1_020, RemarkKind::BankSilent).unwrap();
    let seen = Seen::BankSilent { last: Some(date!(2022 - 03 - 10)), balance: 0 };
    assert_eq!(closed.seen, seen);
    let retire = Fix::Changes(vec![(AccountId(1_020), Change::Fate(Fate::deactivate()))]);
    assert_eq!(ways(&today, &closed), [retire]);
    let open = of(&today, 1_030, RemarkKind::BankSilent).unwrap();
    assert!(matches!(open.seen, Seen::BankSilent { balance: 50, .. }), "{open:?}");
    assert!(ways(&today, &open).is_empty(), "what it holds has to go somewhere first");
}

#[test]
fn a_heading_of_one_row_gives_way_to_it() {
    let mut accounts = club();
    let inner = Account {
        kind: Kind::Heading,
        parent: Some(AccountId(5_000)),
        ..account(5_900, "5900", "Boats", Class::Expense)
    };
    let boat =
        Account { parent: Some(inner.id), ..account(5_910, "5910", "Boat rent", Class::Expense) };
    accounts.extend([inner, boat]);
    let today = today_of(accounts);
    assert_eq!(of(&today, 5_000, RemarkKind::LoneChild), None);
    let remark = of(&today, 5_900, RemarkKind::LoneChild).unwrap();
    let Fix::Changes(changes) = ways(&today, &remark).remove(0) else { unreachable!() };
    assert_eq!(changes[0], (AccountId(5_910), Change::Parent(Some(AccountId(5_000)))));
}

#[test]
fn lines_of_the_statements_without_accounts_are_named_where_the_chart_stands_on_lines() {
    let empty = |today: &Today| {
        let found = remarks::find(today).into_iter();
        found.filter(|remark| remark.kind == RemarkKind::ItemEmpty).count()
    };
    assert_eq!(empty(&today_of(club())), 0, "no account stands on a line");
    let mut accounts = club();
    let structure = Chart::new([]).structure().clone();
    let staff = structure.of_standard(Class::Expense, Section::Staff).unwrap();
    accounts[8].caption = Some(staff);
    let lines = structure.captions().count();
    assert_eq!(empty(&today_of(accounts)), lines - 1);
}

#[test]
fn what_was_next_to_nothing_of_its_line_for_years_is_offered_to_the_sundry_account() {
    let books = |crumbs: i64, begins: i32| {
        let heading = Account {
            kind: Kind::Heading,
            ..account(5_000, "5000", "All expenses", Class::Expense)
        };
        let names = [(5_010, "Rent"), (5_020, "Wages"), (5_030, "Sundries"), (5_040, "Crumbs")];
        let rows = names.map(|(id, name)| Account {
            parent: Some(heading.id),
            ..account(id, &id.to_string(), name, Class::Expense)
        });
        let strands = rows.each_ref().map(|row| {
            let amount = if row.id.0 == 5_040 { crumbs } else { 10_000 };
            let lines: Vec<_> = (begins..=2026)
                .map(|year| (date!(2020 - 06 - 10).replace_year(year).unwrap(), amount))
                .collect();
            strand(row.id.0, row.id.0, &lines)
        });
        today(Chart::new(std::iter::once(heading).chain(rows)), Activity::new(strands))
    };
    let small = books(40, 2021);
    let remark = of(&small, 5_040, RemarkKind::SmallShare).unwrap();
    let Seen::SmallShare { years } = &remark.seen else { unreachable!("{remark:?}") };
    assert_eq!(years, &[(40, 30_040); 3]);
    let merge = Change::Fate(Fate::MergeInto { into: AccountId(5_030) });
    assert_eq!(ways(&small, &remark), [Fix::Changes(vec![(AccountId(5_040), merge)])]);
    assert_eq!(of(&books(400, 2021), 5_040, RemarkKind::SmallShare), None, "more than 1%");
    assert_eq!(of(&books(40, 2025), 5_040, RemarkKind::SmallShare), None, "not for years");
}
