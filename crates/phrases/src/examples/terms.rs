//! An example of what is said of rights, rules, codes, statements and files that are taken back.

use super::{COAL, DAY, chart};
use crate::intake::cannot_open;
use crate::numbering::{no_new_code, scheme};
use crate::rollback::blocker;
use crate::{Style, policy, reports, terms};
use zf_core::access::Capability;
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Account, Class, Section};
use zf_core::code::{Code, Interval};
use zf_core::money::Currency;
use zf_core::numbering::pieces::NoSuchPiece;
use zf_core::numbering::rules::NoNewCode;
use zf_core::numbering::schemes::SchemeKind;
use zf_core::policy::RelaxableRule;
use zf_core::reports::columns::Months;
use zf_core::reports::statement::{RowName, StatementKind};
use zf_core::rollback::Blocker;
use zf_intake::balances::CannotOpen;

/// What is said of rights, of rules that books can relax, and of what belongs into classes and sections.
pub fn of_terms() -> Vec<String> {
    let rights = Capability::ALL.iter().map(|of| terms::capability(*of));
    let rules = RelaxableRule::ALL.iter().flat_map(|of| [policy::holds(*of), policy::reason(*of)]);
    let classes = Class::ALL.iter().map(|of| terms::class(*of));
    let sections = Section::ALL.iter().map(|of| terms::section(*of));
    let schemes = [SchemeKind::AsKept, SchemeKind::FourDigits, SchemeKind::SixDigits];
    let schemes = schemes.into_iter().flat_map(|of| <[_; 2]>::from(scheme(of)));
    let all = rights.chain(rules).chain(classes).chain(sections).chain(schemes);
    all.map(str::to_owned).collect()
}

/// What is said where something cannot be done: a code be found, books be opened, a file be taken back.
pub fn of_refusals() -> Vec<String> {
    let style = Style::default();
    let chart = chart();
    let account = || chart.get(COAL).map_or_else(String::new, Account::label);
    let (Ok(code), Ok(euro)) = (Code::parse("5010"), Currency::parse("EUR")) else {
        return Vec::new();
    };
    let blocks = Interval::new(code.clone(), code.clone()).into_iter().collect();
    let codes = [
        NoNewCode::NotCounted(code.clone()),
        NoNewCode::RunsOut(code),
        NoNewCode::NoBlock(Class::Expense),
        NoNewCode::NoRoom(blocks),
        NoNewCode::NoPiece(NoSuchPiece::Segment(3)),
        NoNewCode::NoPiece(NoSuchPiece::Characters(4, 2)),
    ];
    let openings = [
        CannotOpen::Gap(900),
        CannotOpen::NoDifferenceAccount,
        CannotOpen::Locked,
        CannotOpen::Opened(DAY),
        CannotOpen::NotPosting(account()),
        CannotOpen::Nothing,
        CannotOpen::TooLarge,
    ];
    let blockers = [
        Blocker::Locked,
        Blocker::Applied { plan: "Fuel".to_owned(), account: account() },
        Blocker::OtherLines { account: account(), lines: 2_583 },
        Blocker::UsedElsewhere { account: account() },
        Blocker::StandsUnder { account: account(), heading: "5000 Running costs".to_owned() },
    ];
    let codes = codes.iter().map(no_new_code);
    let openings = openings.iter().map(|why| cannot_open(why, euro, style));
    codes.chain(openings).chain(blockers.iter().map(|of| blocker(of, style))).collect()
}

/// What rows and columns of statements are called.
pub fn of_statements() -> Vec<String> {
    let rows = [
        RowName::Own("Fuel".to_owned()),
        RowName::WithoutItem,
        RowName::Total(Class::Expense),
        RowName::Whole(StatementKind::BalanceSheet),
        RowName::Whole(StatementKind::IncomeStatement),
        RowName::EarlierResults,
        RowName::ResultOfYear,
    ];
    let columns = FiscalCalendar::starting(2, 1).ok().map(|calendar| {
        let last = calendar.period_of(DAY);
        let months = [Months { first: last, last }, Months { first: Period(last.0 - 11), last }];
        months.map(|months| reports::column(&months, calendar, Style::default()))
    });
    let ties = rows.iter().map(|row| reports::tie(row, DAY, Style::default()));
    rows.iter().map(reports::row).chain(ties).chain(columns.into_iter().flatten()).collect()
}
