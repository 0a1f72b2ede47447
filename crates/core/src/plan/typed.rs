//! What a person types into a cell in place of a value: a code to merge into.

use super::{Change, Field, Plan};
use crate::chart::{Account, Chart};
use crate::code::{Code, NotACode};
use crate::former::FormerCodes;
use crate::ids::AccountId;

/// Why a text does not say which account to merge into.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NoSurvivor {
    /// It is no code.
    #[error(transparent)]
    NotACode(#[from] NotACode),
    /// Nobody has the code.
    #[error("no account has, or ever had, the code {0}")]
    Nobody(Code),
    /// It was a code of several.
    #[error("{code} was a code of {}: name one of them by its code of today", .accounts.join(" and "))]
    Several {
        /// The code.
        code: Code,
        /// Who holds history of it today.
        accounts: Vec<String>,
    },
}

/// The account that somebody means who types its code: of today, or of an account that the plan adds, or a former one.
///
/// # Errors
/// When it is no code, nobody has it, or several had it.
pub fn survivor(
    typed: &str,
    chart: &Chart,
    former: &FormerCodes,
    plan: &Plan,
) -> Result<AccountId, NoSurvivor> {
    let code = Code::parse(typed)?;
    let key = code.key();
    if let Some(account) = chart.live().find(|account| account.code.key() == key) {
        return Ok(account.id);
    }
    let added = plan.targets.keys().find(|id| {
        let staged = plan.staged(**id, Field::Code);
        chart.get(**id).is_none()
            && matches!(staged, Some(Change::Code(staged)) if staged.key() == key)
    });
    if let Some(id) = added {
        return Ok(*id);
    }
    match former.holders(&key, chart).as_slice() {
        [] => Err(NoSurvivor::Nobody(code)),
        [account] => Ok(account.id),
        several => {
            let accounts = several.iter().map(|account| Account::label(account)).collect();
            Err(NoSurvivor::Several { code, accounts })
        }
    }
}
