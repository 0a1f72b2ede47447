//! What a split would do, shown before it is staged: each part, what is left, and every account
//! concerned today and after.

use super::Split;
use super::cut::{Cuts, Tally};
use crate::calendar::Period;
use crate::ids::AccountId;
use crate::today::Today;
use std::collections::BTreeMap;

/// What a split would do by itself, whatever else a plan does.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Preview {
    /// What each part takes.
    pub parts: Vec<Tally>,
    /// What no part takes.
    pub left: Tally,
    /// The account, and then those that its history goes to, each once.
    pub sides: Vec<Side>,
}

/// An account on both sides of a split.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Side {
    /// The account.
    pub account: AccountId,
    /// The sum of its lines today and after, by the first period of each fiscal year.
    pub years: BTreeMap<Period, (i128, i128)>,
}

/// Works out what a split would do.
pub fn preview(today: &Today, account: AccountId, split: &Split, cuts: &Cuts) -> Preview {
    let mut preview =
        Preview { parts: vec![Tally::default(); split.parts.len()], ..Preview::default() };
    for (strand, activity, _) in today.activity.strands().filter(|s| s.0.account == account) {
        match cuts.of(strand.id) {
            None => preview.left.add(activity),
            Some(cut) => {
                preview.left.add(&cut.left_of(activity));
                for (&at, shares) in &cut.parts {
                    if let Some(part) = preview.parts.get_mut(at) {
                        part.add(shares);
                    }
                }
            }
        }
    }
    let mut concerned = vec![account];
    for part in &split.parts {
        if !concerned.contains(&part.to) {
            concerned.push(part.to);
        }
    }
    preview.sides = concerned
        .into_iter()
        .map(|id| {
            let mut years: BTreeMap<Period, (i128, i128)> = BTreeMap::new();
            for (start, (_, net)) in &Tally::of_account(today, id).years {
                years.insert(*start, (*net, *net));
            }
            let parts = split.parts.iter().zip(&preview.parts);
            for (said, taken) in parts.filter(|(said, _)| said.to != account) {
                for (start, (_, net)) in &taken.years {
                    let after = &mut years.entry(*start).or_default().1;
                    *after += if said.to == id { *net } else { 0 };
                    *after -= if id == account { *net } else { 0 };
                }
            }
            // A year in which nothing stands on either side is not worth a line.
            years.retain(|_, (before, after)| *before != 0 || *after != 0);
            Side { account: id, years }
        })
        .collect();
    preview
}
