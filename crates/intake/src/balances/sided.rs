//! Balances in one column that are signed by the usual side of their accounts: as they stand they do not add up
//! to nothing, and turned to debits and credits they do.

use super::balance::NewBalance;
use crate::question::{Gives, Question};
use crate::reading::Reading;
use crate::signs::{self, Signs};
use zf_core::chart::{Account, Chart};
use zf_core::money::Currency;

/// Turns such balances to debits and credits, as was said or is likely, and asks where it was not said.
pub(crate) fn settle(
    reading: &Reading,
    read: &mut [NewBalance],
    chart: &Chart,
    currency: Currency,
) -> Option<Question> {
    if !Signs::may_be_either(reading) {
        return None;
    }
    let turned = |signs: Signs, balance: &NewBalance| {
        let turn = |account: &Account| signs.turn(balance.amount, account);
        chart.get(balance.account).map_or(balance.amount, turn)
    };
    let gap = |signs: Signs| -> i128 { read.iter().map(|b| i128::from(turned(signs, b))).sum() };
    let gaps = (gap(Signs::Sides), gap(Signs::Usual));
    let said = Signs::said(reading);
    let likely = if gaps.0 != 0 && gaps.1 == 0 { Signs::Usual } else { Signs::Sides };
    let signs = said.unwrap_or(likely);
    for balance in read.iter_mut() {
        balance.amount = turned(signs, balance);
        if let Some(account) = chart.get(balance.account) {
            let foreign = balance.foreign;
            balance.foreign = foreign.map(|(amount, of)| (signs.turn(amount, account), of));
        }
    }
    let asked = said.is_none() && signs == Signs::Usual;
    asked.then(|| {
        signs::question(|signs| match signs {
            Signs::Sides => Gives::DebitsDiffer(gaps.0.abs(), currency),
            Signs::Usual => Gives::DebitsSame,
        })
    })
}
