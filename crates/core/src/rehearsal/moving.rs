//! Where each strand goes: with its account's merge, or, as far as a part of a split takes it, to the
//! account of that part. A strand of which only some lines go is carved.

use super::draft::{Draft, Moved};
use super::effects::{Carve, Carving, StrandMove};
use crate::activity::{Shares, Strand};
use crate::history::Split;
use crate::history::cut::{Cut, Tally};
use crate::ids::{AccountId, ById};
use crate::plan::Plan;
use crate::today::Today;
use std::collections::BTreeMap;

/// Says where every strand goes.
pub(super) fn allocate(today: &Today, plan: &Plan, draft: &mut Draft) {
    let splits: ById<&Split> = plan.splits().collect();
    let mut dealer = Dealer { draft, moved: BTreeMap::new() };
    for (&from, split) in &splits {
        for (part, said) in split.parts.iter().enumerate() {
            let to = dealer.end(said.to);
            let which = said.which.clone();
            let moved = Moved { from, to, part, which, tally: Tally::default() };
            dealer.moved.insert((from, part), moved);
        }
    }
    for (strand, activity, _) in today.activity.strands() {
        match splits.get(&strand.account) {
            None => dealer.whole(strand, dealer.end(strand.account)),
            Some(split) => match (split.moves_all(), plan.cuts.of(strand.id)) {
                (Some(to), _) => {
                    dealer.note(strand.account, 0, activity);
                    dealer.whole(strand, dealer.end(to));
                }
                (None, Some(cut)) => dealer.divide(strand, activity, cut),
                (None, None) => dealer.whole(strand, dealer.end(strand.account)),
            },
        }
    }
    let moved = dealer.moved;
    draft.moved = moved.into_values().collect();
}

struct Dealer<'a> {
    draft: &'a mut Draft,
    moved: BTreeMap<(AccountId, usize), Moved>,
}

impl Dealer<'_> {
    /// Where the history of an account goes by the plan's merges.
    fn end(&self, account: AccountId) -> AccountId {
        self.draft.merges.get(&account).copied().unwrap_or(account)
    }

    fn note(&mut self, from: AccountId, part: usize, activity: &Shares) {
        if let Some(moved) = self.moved.get_mut(&(from, part)) {
            moved.tally.add(activity);
        }
    }

    fn whole(&mut self, strand: &Strand, to: AccountId) {
        if to != strand.account {
            let moved = StrandMove { strand: strand.id, from: strand.account, to };
            self.draft.moves.insert(strand.id, moved);
        }
    }

    fn divide(&mut self, strand: &Strand, activity: &Shares, cut: &Cut) {
        let from = strand.account;
        let mut parts = Vec::new();
        for (&part, shares) in &cut.parts {
            self.note(from, part, shares);
            let Some(to) = self.moved.get(&(from, part)).map(|moved| moved.to) else {
                continue;
            };
            parts.push(Carve { from, to, part, shares: shares.clone(), carved: None });
        }
        let left = cut.left_of(activity);
        let rest = self.end(from);
        match parts.as_slice() {
            [only] if left.is_empty() => self.whole(strand, only.to),
            [] => self.whole(strand, rest),
            _ => {
                self.whole(strand, rest);
                let carving = Carving { parts, left };
                self.draft.carvings.insert(strand.id, carving);
            }
        }
    }
}
