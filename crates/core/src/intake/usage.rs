//! Intake of a where-used list: what names the accounts outside the journal.

use super::columns::{Column, Layout};
use super::{Intake, RawRow};
use crate::chart::Chart;
use crate::code::Code;
use crate::former::{FormerCodes, Found, current_codes, find};
use crate::ids::AccountId;

/// One thing that names an account.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewUse {
    /// The account.
    pub account: AccountId,
    /// What kind of thing: a bank rule, a budget line, an item.
    pub used_by: String,
    /// What the thing is called.
    pub label: String,
}

/// Reads the uses of a file.
pub fn read(
    layout: &Layout,
    rows: &[RawRow],
    chart: &Chart,
    former: &FormerCodes,
) -> Intake<NewUse> {
    let current = current_codes(chart);
    let mut rejected = Vec::new();
    let mut ready = Vec::new();
    for row in layout.body(rows) {
        let used_by = layout.cell(row, Column::UsedBy);
        if used_by.is_empty() {
            rejected.push(layout.reject(row, Column::UsedBy, "what uses the account is missing"));
            continue;
        }
        let code = match Code::parse(layout.cell(row, Column::Code)) {
            Ok(code) => code,
            Err(why) => {
                rejected.push(layout.reject(row, Column::Code, why));
                continue;
            }
        };
        match find(&code.key(), &current, former, chart) {
            Found::Current(account) | Found::Former(account) => ready.push(NewUse {
                account: account.id,
                used_by: used_by.to_owned(),
                label: layout.cell(row, Column::Label).to_owned(),
            }),
            Found::Several(_) => {
                let reason = format!("{code} is a former code of several accounts");
                rejected.push(layout.reject(row, Column::Code, reason));
            }
            Found::Nobody => {
                let reason = format!("no account has, or ever had, the code {code}");
                rejected.push(layout.reject(row, Column::Code, reason));
            }
        }
    }
    let rows = ready.len();
    Intake::of(ready, rows, rejected)
}
