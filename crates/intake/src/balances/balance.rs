//! A balance as a file has it.

use zf_core::ids::AccountId;
use zf_core::money::Currency;

/// What one account stands at.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewBalance {
    /// The row of the file.
    pub row: u32,
    /// The account.
    pub account: AccountId,
    /// Signed minor units of the base currency; a debit balance is positive.
    pub amount: i64,
    /// Signed minor units of another currency.
    pub foreign: Option<(i64, Currency)>,
}
