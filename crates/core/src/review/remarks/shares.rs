//! Accounts that are next to nothing of what they stand under, year after year.

use super::books::RemarkContext;
use super::remark::{Proposed, Remark, Seen};
use crate::calendar::Period;
use crate::chart::{Account, Status};
use crate::ids::{AccountId, ById, ItemId};
use crate::review::wording::Wording;
use crate::statement::Class;
use std::collections::BTreeMap;

/// For so many whole fiscal years.
const YEARS: usize = 3;

/// An account is next to nothing when its amount is less than one of so many of its line.
const ONE_OF: u128 = 100;

/// And less than one of so many of what the accounts of its line are on average: where there are hundreds, all are small.
const LESS: u128 = 2;

/// A line with fewer accounts is short anyway.
const SEVERAL: usize = 4;

/// What was posted to an account in each of the last whole years, the latest first.
type Years = [i128; YEARS];

/// What accounts stand under: a statement item, else a heading.
type Place = (Class, Option<ItemId>, Option<AccountId>);

/// Accounts of income and expenses of less than 1% of the line or heading they stand under in each of the last whole
/// years, though posted to. What is owned and owed is kept apart for other reasons than its size.
pub(super) fn small(books: &RemarkContext<'_>) -> Vec<Remark> {
    let Some(last) = books.today.activity.last() else { return Vec::new() };
    // The year of the as-of date may not be over.
    let first = Period(last.year_start().0 - 12 * YEARS as i32);
    if books.today.activity.first().is_none_or(|begin| begin > first) {
        return Vec::new();
    }
    let years = years(books, first);
    let mut under: BTreeMap<Place, Vec<(&Account, Years)>> = BTreeMap::new();
    let of_results = |row: &&&Account| row.is_posting() && !row.class.on_balance_sheet();
    for row in books.rows.iter().filter(of_results) {
        let (class, line) = row.place();
        let parent = row.parent.filter(|_| line.is_none());
        if let Some(years) = years.get(&row.id).filter(|_| line.is_some() || parent.is_some()) {
            under.entry((class, line, parent)).or_default().push((row, *years));
        }
    }
    let mut found = Vec::new();
    for rows in under.values().filter(|rows| rows.len() >= SEVERAL) {
        let sums: [u128; YEARS] =
            std::array::from_fn(|year| rows.iter().map(|(_, of)| of[year].unsigned_abs()).sum());
        let sundry = rows.iter().map(|(row, _)| *row).find(|row| is_sundry(row));
        for (row, of) in rows {
            let is_small = of.iter().zip(sums).all(|(own, sum)| {
                let own = own.unsigned_abs();
                own != 0 && own * ONE_OF.max(LESS * rows.len() as u128) < sum
            });
            let is_plain = row.role.is_none() && !row.contra && row.status == Status::Active;
            if is_small && is_plain && sundry.is_none_or(|sundry| sundry.id != row.id) {
                found.push(remark(row, of, &sums, sundry));
            }
        }
    }
    found
}

fn years(books: &RemarkContext<'_>, first: Period) -> ById<Years> {
    let mut years: ById<Years> = ById::default();
    for (strand, shares, _) in books.today.activity.strands() {
        let of = years.entry(strand.account).or_default();
        for (slot, share) in shares {
            let year = usize::try_from((slot.period.0 - first.0).div_euclid(12)).ok();
            // The latest year stands first.
            let place = year.and_then(|year| (YEARS - 1).checked_sub(year));
            if let Some(sum) = place.and_then(|place| of.get_mut(place)) {
                *sum += share.totals.net();
            }
        }
    }
    years
}

/// Whether an account is where a line keeps what is too little for a row of its own.
fn is_sundry(account: &Account) -> bool {
    let wording = Wording::of(&account.name);
    let first = wording.words.first().map(|word| word.stem.as_str());
    account.status == Status::Active
        && matches!(first, Some("sundry" | "miscellaneous" | "misc" | "various"))
}

fn remark(account: &Account, of: &Years, sums: &[u128; YEARS], sundry: Option<&Account>) -> Remark {
    let years = of.iter().zip(sums).map(|(own, sum)| {
        let sum = i128::try_from(*sum).unwrap_or(i128::MAX);
        (own.abs(), sum)
    });
    let remark = Remark::of(account, Seen::SmallShare { years: years.collect() });
    match sundry {
        Some(sundry) => remark.proposing(Proposed::Merged(sundry.id)),
        None => remark,
    }
}
