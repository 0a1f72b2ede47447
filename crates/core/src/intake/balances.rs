//! Intake of balances: what accounts stand at on a day, as a trial balance lists them.

use super::columns::Column;
use super::reading::Reading;
use super::reason::Reason;
use super::usage::account;
use super::{Intake, RawRow};
use crate::chart::Chart;
use crate::former::{FormerCodes, current_codes, find};
use crate::ids::AccountId;
use crate::money::Currency;
use std::collections::HashMap;

/// What one account stands at.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewBalance {
    /// The row of the file.
    pub row: u32,
    /// The account.
    pub account: AccountId,
    /// Signed minor units of the base currency; a debit balance is positive.
    pub amount: i64,
}

/// Reads the balances of a file. An account that stands in two rows is refused in the second: which
/// of them counts, or whether they add up, only a person knows.
pub fn read(
    reading: &Reading,
    rows: &[RawRow],
    chart: &Chart,
    former: &FormerCodes,
    currency: Currency,
) -> Intake<NewBalance> {
    let current = current_codes(chart);
    let (mut ready, mut rejected, mut warnings) = (Vec::new(), Vec::new(), Vec::new());
    let mut seen: HashMap<AccountId, u32> = HashMap::new();
    for row in reading.layout.body(rows, &mut warnings) {
        let read = account(reading, row, Column::Code, |key| find(key, &current, former, chart))
            .and_then(|account| {
                let amount = match reading.signed(row, currency) {
                    // A trial balance leaves the amount of an account at zero blank.
                    Err(why) if why.reason == Reason::AmountMissing => 0,
                    amount => amount?,
                };
                match seen.insert(account.id, row.number) {
                    None => Ok(NewBalance { row: row.number, account: account.id, amount }),
                    Some(first) => Err(reading.layout.reject(
                        row,
                        Column::Code,
                        Reason::CodeTwice,
                        format!("{} stands in row {first} too", account.label()),
                    )),
                }
            });
        match read {
            Ok(balance) => ready.push(balance),
            Err(why) => rejected.push(why),
        }
    }
    let rows = ready.len();
    Intake::of(ready, rows, rejected, warnings)
}
