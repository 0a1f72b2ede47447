//! Intake of a chart of accounts.

use super::columns::{Column, Layout, reduce};
use super::{Intake, RawRow, Rejected};
use crate::chart::{Account, Chart, Class, ControlRole, Kind, Section, Status};
use crate::code::{Code, CodeKey, Interval};
use crate::ids::AccountId;
use crate::money::Currency;
use crate::plan::{Change, Field};
use std::collections::{HashMap, HashSet};

/// Reads the accounts of a file. Their identities count up from `first_id`; their parents are
/// accounts of the file or of the chart.
pub fn read(
    layout: &Layout,
    rows: &[RawRow],
    chart: &Chart,
    first_id: AccountId,
) -> Intake<Account> {
    let mut rejected = Vec::new();
    let mut taken: HashMap<CodeKey, String> =
        chart.live().map(|a| (a.code.key(), "the chart".to_owned())).collect();
    let mut roles: HashMap<ControlRole, String> =
        chart.live().filter_map(|a| Some((a.role?, a.label()))).collect();
    let mut read = Vec::new();
    for row in layout.body(rows) {
        let id = AccountId(first_id.0 + read.len() as i64);
        let account = read_row(layout, row, id).and_then(|account| {
            let key = account.code.key();
            if let Some(by) = taken.get(&key) {
                let reason = format!("code {} is already in {by}", account.code);
                return Err(layout.reject(row, Column::Code, reason));
            }
            if let Some(role) = account.role.filter(|role| one_only(*role))
                && let Some(other) = roles.get(&role)
            {
                let reason = format!("{other} is already the {} account", role.words());
                return Err(layout.reject(row, Column::Role, reason));
            }
            taken.insert(key, format!("row {}", row.number));
            roles.extend(account.role.map(|role| (role, account.label())));
            Ok(account)
        });
        match account {
            Ok(account) => read.push((row, account)),
            Err(why) => rejected.push(why),
        }
    }
    let read = settle_parents(layout, read, chart, &mut rejected);
    let ready = read.len();
    Intake::of(read, ready, rejected)
}

/// Whether the books can have only one account of a role.
fn one_only(role: ControlRole) -> bool {
    matches!(role, ControlRole::RetainedEarnings | ControlRole::OpeningDifference)
}

fn read_row(layout: &Layout, row: &RawRow, id: AccountId) -> Result<Account, Rejected> {
    let cell = |column| layout.cell(row, column);
    let reject = |column, reason: String| layout.reject(row, column, reason);
    let code = Code::parse(cell(Column::Code)).map_err(|e| reject(Column::Code, e.to_string()))?;
    let name = match Change::parse(Field::Name, cell(Column::Name)) {
        Ok(change) => change.text(),
        Err(e) => return Err(reject(Column::Name, e.to_string())),
    };
    let kind = match reduce(cell(Column::Kind)).as_str() {
        "" | "account" | "posting" | "posting account" => Kind::Account,
        "heading" | "header" | "group" => Kind::Heading,
        "sum" | "sum line" | "total" => Kind::Sum,
        _ => {
            return Err(reject(Column::Kind, "it is not account, heading or sum line".to_owned()));
        }
    };
    let section = match cell(Column::Section) {
        "" => None,
        text => Some(section_of(text).ok_or_else(|| {
            reject(
                Column::Section,
                "no such section is known; leave it empty if in doubt".to_owned(),
            )
        })?),
    };
    let class = match (cell(Column::Class), section) {
        ("", Some(section)) => section.classes()[0],
        ("", None) => {
            return Err(reject(
                Column::Class,
                "the class is missing, and no section tells it".to_owned(),
            ));
        }
        (text, _) => class_of(text).ok_or_else(|| {
            let known = "asset, liability, equity, income or expense";
            reject(Column::Class, format!("it is not one of the classes {known}"))
        })?,
    };
    if let Some(section) = section.filter(|s| !s.classes().contains(&class)) {
        let reason = format!("{} is not a section of the class {}", section.words(), class.words());
        return Err(reject(Column::Section, reason));
    }
    let intervals = Interval::parse_list(cell(Column::Intervals))
        .map_err(|e| reject(Column::Intervals, e.to_string()))?;
    if kind == Kind::Sum && intervals.is_empty() {
        return Err(reject(Column::Intervals, "a sum line needs the codes it adds up".to_owned()));
    }
    let role =
        match reduce(cell(Column::Role)).as_str() {
            "" => None,
            text => {
                Some(ControlRole::ALL.iter().copied().find(|r| r.words() == text).ok_or_else(
                    || reject(Column::Role, "no such control role is known".to_owned()),
                )?)
            }
        };
    let currency = match cell(Column::Currency) {
        "" => None,
        text => Some(Currency::parse(text).map_err(|e| reject(Column::Currency, e.to_string()))?),
    };
    let optional = |column| Some(cell(column)).filter(|text| !text.is_empty()).map(str::to_owned);
    Ok(Account {
        id,
        code,
        name,
        kind,
        class,
        section,
        parent: None,
        status: Status::Active,
        contra: matches!(
            reduce(cell(Column::Contra)).as_str(),
            "yes" | "true" | "1" | "contra" | "x"
        ),
        role,
        currency,
        description: cell(Column::Description).to_owned(),
        tax_code: optional(Column::Tax),
        merged_into: None,
        intervals,
    })
}

/// The class that a wording of the trade means.
fn class_of(text: &str) -> Option<Class> {
    Some(match reduce(text).as_str() {
        "asset" | "assets" => Class::Asset,
        "liability" | "liabilities" => Class::Liability,
        "equity" | "capital" | "net assets" | "funds" => Class::Equity,
        "income" | "revenue" | "revenues" | "sales" => Class::Income,
        "expense" | "expenses" | "cost" | "costs" => Class::Expense,
        _ => return None,
    })
}

/// The section that a wording of the trade means.
fn section_of(text: &str) -> Option<Section> {
    let wording = reduce(text);
    let same =
        |section: &&Section| reduce(section.words()) == wording || reduce(section.key()) == wording;
    Section::ALL.iter().find(same).copied()
}

/// Finds the heading of each row by its code. A row whose heading cannot be taken is rejected too,
/// and so on down the outline.
fn settle_parents(
    layout: &Layout,
    mut read: Vec<(&RawRow, Account)>,
    chart: &Chart,
    rejected: &mut Vec<Rejected>,
) -> Vec<Account> {
    loop {
        let headings: HashMap<CodeKey, (AccountId, Kind)> = chart
            .live()
            .chain(read.iter().map(|(_, account)| account))
            .map(|account| (account.code.key(), (account.id, account.kind)))
            .collect();
        let before = read.len();
        read.retain_mut(|(row, account)| {
            let text = layout.cell(row, Column::Parent);
            if text.is_empty() {
                return true;
            }
            let heading = Code::parse(text).ok().and_then(|code| headings.get(&code.key()));
            let reason = match heading {
                Some((id, Kind::Heading)) if *id != account.id => {
                    account.parent = Some(*id);
                    return true;
                }
                Some((id, _)) if *id == account.id => "a row cannot stand under itself",
                Some(_) => "the row it should stand under is not a heading",
                None => "no heading with this code is in the file or the chart",
            };
            rejected.push(layout.reject(row, Column::Parent, reason));
            false
        });
        if read.len() == before {
            break;
        }
    }
    reject_circles(layout, read, rejected)
}

fn reject_circles(
    layout: &Layout,
    read: Vec<(&RawRow, Account)>,
    rejected: &mut Vec<Rejected>,
) -> Vec<Account> {
    let parents: HashMap<AccountId, Option<AccountId>> =
        read.iter().map(|(_, account)| (account.id, account.parent)).collect();
    let in_circle = |start: AccountId| {
        let mut seen = HashSet::new();
        let mut at = Some(start);
        while let Some(id) = at {
            if !seen.insert(id) {
                return true;
            }
            at = parents.get(&id).copied().flatten();
        }
        false
    };
    let mut kept = Vec::with_capacity(read.len());
    for (row, account) in read {
        if in_circle(account.id) {
            let reason = "the headings above this row stand under each other in a circle";
            rejected.push(layout.reject(row, Column::Parent, reason));
        } else {
            kept.push(account);
        }
    }
    kept
}

/// The columns of a chart, in the order in which they are written out.
pub const COLUMNS: &[Column] = &[
    Column::Code,
    Column::Name,
    Column::Kind,
    Column::Class,
    Column::Section,
    Column::Parent,
    Column::Role,
    Column::Contra,
    Column::Currency,
    Column::Description,
    Column::Tax,
    Column::Intervals,
];

/// The row that describes an account in a file, so that [`read`] reads the same account back.
pub fn write_row(account: &Account, parent_code: &str) -> Vec<String> {
    let text = |t: &str| t.to_owned();
    vec![
        account.code.to_string(),
        account.name.clone(),
        text(account.kind.words()),
        text(account.class.words()),
        account.section.map_or(String::new(), |s| text(s.words())),
        text(parent_code),
        account.role.map_or(String::new(), |r| text(r.words())),
        text(if account.contra { "yes" } else { "" }),
        account.currency.map_or(String::new(), |c| c.to_string()),
        account.description.clone(),
        account.tax_code.clone().unwrap_or_default(),
        Interval::format_list(&account.intervals),
    ]
}
