//! What each part of a split takes, added up line by line.

use super::{Line, Split};
use crate::activity::{Share, Shares, Slot, add_share};
use crate::calendar::{FiscalCalendar, Period};
use crate::ids::{AccountId, StrandId};
use crate::money::Currency;
use crate::today::Today;
use std::collections::{BTreeMap, BTreeSet};

/// What lines add up to, year by year.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Tally {
    /// How many lines, and their sum, by the first period of each fiscal year.
    pub years: BTreeMap<Period, (u64, i128)>,
    /// How many of the lines were cleared in a bank reconciliation.
    pub cleared: u64,
    /// The currencies of the lines.
    pub currencies: BTreeSet<Currency>,
}

impl Tally {
    /// Adds a strand, or a part of one.
    pub fn add(&mut self, shares: &Shares) {
        for (slot, share) in shares {
            let year = self.years.entry(slot.period.year_start()).or_default();
            year.0 += share.totals.lines;
            year.1 += share.totals.net();
            self.cleared += share.cleared;
            self.currencies.insert(slot.currency);
        }
    }

    /// What all lines of an account add up to.
    pub fn of_account(today: &Today, account: AccountId) -> Self {
        let mut tally = Self::default();
        let own = today.activity.strands().filter(|(strand, ..)| strand.account == account);
        own.for_each(|(_, shares, _)| tally.add(shares));
        tally
    }

    /// How many lines there are.
    pub fn lines(&self) -> u64 {
        self.years.values().map(|(lines, _)| lines).sum()
    }

    /// What they add up to.
    pub fn net(&self) -> i128 {
        self.years.values().map(|(_, net)| net).sum()
    }
}

/// How one strand is divided.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Cut {
    /// What each part takes, by its place in the split.
    pub parts: BTreeMap<usize, Shares>,
    /// What no part takes, of the periods that were gone through.
    pub left: Shares,
}

impl Cut {
    /// What no part takes of a strand. Of periods in which no part could take anything, that is all
    /// of it.
    pub fn left_of(&self, strand: &Shares) -> Shares {
        let seen = |slot: &Slot| {
            self.left.contains_key(slot) || self.parts.values().any(|part| part.contains_key(slot))
        };
        let others = strand.iter().filter(|(slot, _)| !seen(slot));
        others.chain(&self.left).map(|(slot, share)| (*slot, *share)).collect()
    }
}

/// How the strands of all split accounts are divided.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Cuts {
    strands: BTreeMap<StrandId, Cut>,
    overlaps: BTreeMap<(AccountId, usize, usize), u64>,
}

impl Cuts {
    /// How a strand is divided; `None` when no part asks about its lines.
    pub fn of(&self, strand: StrandId) -> Option<&Cut> {
        self.strands.get(&strand)
    }

    /// Parts of an account that would take the same lines, by their places, and how many.
    pub fn overlaps(&self) -> impl Iterator<Item = (AccountId, usize, usize, u64)> + '_ {
        self.overlaps.iter().map(|((account, a, b), lines)| (*account, *a, *b, *lines))
    }
}

/// Goes through the lines of an account and deals them out.
#[derive(Debug)]
pub struct Cutter<'a> {
    account: AccountId,
    split: &'a Split,
    calendar: FiscalCalendar,
    currency: Currency,
    cuts: &'a mut Cuts,
}

impl<'a> Cutter<'a> {
    /// Begins with an account. Lines without a currency of their own are of `currency`.
    pub fn new(
        account: AccountId,
        split: &'a Split,
        calendar: FiscalCalendar,
        currency: Currency,
        cuts: &'a mut Cuts,
    ) -> Self {
        Self { account, split, calendar, currency, cuts }
    }

    /// Deals a line out: the place of the part that takes it, or `None` when it is left.
    pub fn see(&mut self, line: &Line<'_>) -> Option<usize> {
        let mut takers =
            (0..self.split.parts.len()).filter(|at| self.split.parts[*at].which.takes(line));
        let taker = takers.next();
        if let Some(first) = taker {
            for other in takers {
                *self.cuts.overlaps.entry((self.account, first, other)).or_default() += 1;
            }
        }
        let slot = Slot {
            period: self.calendar.period_of(line.content.date),
            currency: line.content.foreign.map_or(self.currency, |(_, currency)| currency),
        };
        let cut = self.cuts.strands.entry(line.strand).or_default();
        let shares = match taker {
            Some(at) => cut.parts.entry(at).or_default(),
            None => &mut cut.left,
        };
        add_share(shares, slot, Share::of_line(&line.content, line.cleared));
        taker
    }
}
