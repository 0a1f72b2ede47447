//! What debits and credits of a trial balance differ by, and what could explain it: the slips that
//! bookkeepers look for first.

use super::balance::NewBalance;
use crate::question::{About, Answer, Asks, Explained, Gives, Means, Question};
use crate::reading::Reading;
use crate::rows::Place;
use zf_core::chart::{Account, Chart};
use zf_core::money::Currency;

/// How many rows are named as what could explain a difference.
const NAMED: usize = 3;

/// Asks what becomes of a difference, unless somebody has said so.
pub(crate) fn question(
    reading: &Reading,
    read: &[NewBalance],
    chart: &Chart,
    currency: Currency,
) -> Option<Question> {
    let gap: i128 = read.iter().map(|balance| i128::from(balance.amount)).sum();
    if gap == 0 || read.is_empty() || reading.answers.contains_key(&About::Difference) {
        return None;
    }
    let explained = explained(reading, read, chart, gap);
    Some(Question {
        about: About::Difference,
        asks: Asks::Difference { gap, currency, explained },
        readings: vec![
            Answer::new("as_it_is", Means::AsItIs, Gives::DifferenceStays),
            Answer::new("mend", Means::Correct, Gives::NothingTaken),
        ],
        default: None,
    })
}

/// What could explain a difference.
fn explained(reading: &Reading, read: &[NewBalance], chart: &Chart, gap: i128) -> Vec<Explained> {
    let named = |fits: &dyn Fn(i128) -> bool| -> Option<Vec<(Place, String)>> {
        let rows = read.iter().filter(|balance| fits(balance.amount.into())).map(|balance| {
            let account = chart.get(balance.account).map_or_else(String::new, Account::label);
            (reading.place(balance.row), account)
        });
        Some(rows.take(NAMED).collect::<Vec<_>>()).filter(|rows| !rows.is_empty())
    };
    let by_rows = [
        named(&|amount| amount == gap).map(Explained::Twice),
        named(&|amount| amount == -gap).map(Explained::Missing),
        named(&|amount| amount * 2 == gap).map(Explained::WrongSide),
    ];
    let swapped = (gap % 9 == 0 && gap.abs() >= 9).then_some(Explained::Swapped);
    let rounding = (gap.unsigned_abs() <= read.len() as u128).then_some(Explained::Rounding);
    by_rows.into_iter().flatten().chain(swapped).chain(rounding).collect()
}
