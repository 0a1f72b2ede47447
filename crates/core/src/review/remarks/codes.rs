//! Codes that are not where those of their class are, or not as long as the others.

use super::books::{MOST, RemarkContext};
use super::remark::{Remark, Seen};
use crate::chart::{Account, Class, Kind};
use crate::code::usual_width;
use std::collections::{BTreeMap, HashMap};

/// What the accounts beside one have to say at least for it to be out of its block.
const OUT_OF_PLACE: f64 = 2.5;

/// The rows whose code somebody gave: one that was only proposed is evidence of nothing.
fn given<'a>(books: &'a RemarkContext<'_>) -> impl Iterator<Item = &'a &'a Account> {
    books.rows.iter().filter(|account| !account.code_proposed)
}

/// Codes outside the blocks that the books lay down; where they lay down none, those among codes
/// that nearly all belong to another class.
pub(super) fn strays(books: &RemarkContext<'_>) -> Vec<Remark> {
    let fixed = !books.today.policy.blocks.is_empty();
    let mut first_signs: HashMap<char, BTreeMap<Class, usize>> = HashMap::new();
    for account in given(books) {
        if let Some(sign) = account.code.as_str().chars().next() {
            *first_signs.entry(sign).or_default().entry(account.class).or_default() += 1;
        }
    }
    let among = |account: &Account| {
        let classes = first_signs.get(&account.code.as_str().chars().next()?)?;
        let (class, most) = classes.iter().max_by_key(|(_, count)| **count)?;
        let all: usize = classes.values().sum();
        let is_among = *class != account.class && all > 10 && most * 10 >= all * MOST;
        is_among.then_some(Seen::AmongOthers { class: account.class, others: *class })
    };
    let outside = |account: &Account| {
        let blocks = books.today.policy.missed_blocks(account)?;
        let blocks = blocks.into_iter().cloned().collect();
        Some(Seen::OutsideBlocks { class: account.class, blocks })
    };
    let stray = |account: &&Account| {
        let seen = if fixed {
            outside(account)
        } else {
            among(account).or_else(|| beside(books, account))
        }?;
        Some(Remark::of(account, seen))
    };
    given(books).filter_map(stray).collect()
}

/// An account whose name and lines are of its class, among accounts of another.
fn beside(books: &RemarkContext<'_>, account: &Account) -> Option<Seen> {
    let judged =
        (account.kind == Kind::Account).then(|| books.judge.by_place_alone(account)).flatten()?;
    let is_stray = judged.by_place >= OUT_OF_PLACE && judged.by_use < 0.0;
    is_stray.then_some(Seen::AmongOthers { class: account.class, others: judged.class })
}

/// Codes of another length than nearly all others.
pub(super) fn odd_widths(books: &RemarkContext<'_>) -> Vec<Remark> {
    let Some((usual, count)) = usual_width(given(books).map(|account| &account.code)) else {
        return Vec::new();
    };
    if count * 10 < given(books).count() * MOST {
        return Vec::new();
    }
    let odd = given(books).filter(|account| account.code.width() != usual);
    let remark = |account: &&Account| {
        let width = account.code.width();
        Remark::of(account, Seen::CodeWidth { width, usual, others: count })
    };
    odd.map(remark).collect()
}
