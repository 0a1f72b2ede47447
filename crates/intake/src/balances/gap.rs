//! What debits and credits of a trial balance differ by, and what could explain it: the slips that
//! bookkeepers look for first.

use super::balance::NewBalance;
use crate::question::{About, Answer, Question};
use crate::reading::Reading;
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
    let side = if gap > 0 { "debits" } else { "credits" };
    let reasons = explained(reading, read, chart, gap);
    let why = match reasons.as_slice() {
        [] => "Nothing in the file explains it by itself.".to_owned(),
        reasons => reasons.join(" "),
    };
    Some(Question {
        about: About::Difference,
        say: format!("The {side} are {} too much. {why}", currency.say(gap.abs())),
        readings: vec![
            Answer::new("as_it_is", "take the balances as they are", "the difference stays"),
            Answer::new("mend", "mend the file first", "nothing is taken as right"),
        ],
        default: None,
    })
}

/// What could explain a difference, a sentence each.
fn explained(reading: &Reading, read: &[NewBalance], chart: &Chart, gap: i128) -> Vec<String> {
    let named = |fits: &dyn Fn(i128) -> bool| {
        let rows = read.iter().filter(|balance| fits(balance.amount.into())).map(|balance| {
            let account = chart.get(balance.account).map_or_else(String::new, Account::label);
            format!("{} ({account})", reading.place(balance.row))
        });
        rows.take(NAMED).collect::<Vec<_>>()
    };
    let mut reasons = Vec::new();
    let mut say = |rows: Vec<String>, why: &str| {
        if !rows.is_empty() {
            reasons.push(format!("{} {why}.", rows.join(", ")));
        }
    };
    say(named(&|amount| amount == gap), "has just that amount, and may be there once too often");
    say(
        named(&|amount| amount == -gap),
        "has just that amount on the other side, where another is missing",
    );
    say(named(&|amount| amount * 2 == gap), "has half of it, and may stand on the wrong side");
    if gap % 9 == 0 && gap.abs() >= 9 {
        reasons
            .push("It can be divided by nine, as after two digits that were swapped.".to_owned());
    }
    if gap.unsigned_abs() <= read.len() as u128 {
        reasons.push("It is as small as what rounding leaves over.".to_owned());
    }
    reasons
}
