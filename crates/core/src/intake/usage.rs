//! Intake of a where-used list: what names the accounts outside the journal.

use super::columns::Column;
use super::reading::Reading;
use super::reason::Reason;
use super::{Intake, RawRow, Rejected};
use crate::chart::{Account, Chart};
use crate::code::{Code, CodeKey};
use crate::former::{FormerCodes, Found, current_codes, find};
use crate::ids::AccountId;
use std::collections::HashMap;

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
    reading: &Reading,
    rows: &[RawRow],
    chart: &Chart,
    former: &FormerCodes,
) -> Intake<NewUse> {
    let current = current_codes(chart);
    let (mut ready, mut rejected, mut warnings) = (Vec::new(), Vec::new(), Vec::new());
    for row in reading.layout.body(rows, &mut warnings) {
        match read_row(reading, row, chart, &current, former) {
            Ok(used) => ready.push(used),
            Err(why) => rejected.push(why),
        }
    }
    let rows = ready.len();
    Intake::of(ready, rows, rejected, warnings)
}

fn read_row(
    reading: &Reading,
    row: &RawRow,
    chart: &Chart,
    current: &HashMap<CodeKey, &Account>,
    former: &FormerCodes,
) -> Result<NewUse, Rejected> {
    let layout = &reading.layout;
    let used_by = layout.cell(row, Column::UsedBy);
    if used_by.is_empty() {
        let message = "what uses the account is missing";
        return Err(layout.reject(row, Column::UsedBy, Reason::UseMissing, message));
    }
    let account = account(reading, row, Column::Code, |key| find(key, current, former, chart))?;
    let label = layout.cell(row, Column::Label).to_owned();
    Ok(NewUse { account: account.id, used_by: used_by.to_owned(), label })
}

/// The account that a code in a file stands for, today's bearer before those who bore it.
pub(super) fn account<'a>(
    reading: &Reading,
    row: &RawRow,
    field: Column,
    find: impl FnOnce(&CodeKey) -> Found<'a>,
) -> Result<&'a Account, Rejected> {
    let reject = |reason, message: String| Err(reading.layout.reject(row, field, reason, message));
    let code = match Code::parse(reading.code(row, field)) {
        Ok(code) => code,
        Err(why) => return reject(Reason::from(&why), why.to_string()),
    };
    match find(&code.key()) {
        Found::Current(account) | Found::Former(account) => Ok(account),
        Found::Several(accounts) => {
            let names = accounts.iter().map(|a| a.label()).collect::<Vec<_>>().join(", ");
            reject(
                Reason::AccountAmbiguous,
                format!("{code} is a former code of several accounts: {names}"),
            )
        }
        Found::Nobody => {
            reject(Reason::AccountUnknown, format!("no account has, or ever had, the code {code}"))
        }
    }
}
