//! What each part of a split takes, added up line by line.

use super::{Line, Split, Which};
use crate::activity::{Share, Shares, Slot, add_share};
use crate::calendar::{FiscalCalendar, Period};
use crate::dimension::{self, DimensionValue};
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

/// Goes through the lines of an account and deals them out: once, however many parts there are. What the
/// parts look for is made ready before, and what is asked of a line once for all of them.
#[derive(Debug)]
pub struct Cutter<'a> {
    account: AccountId,
    sought: Vec<Sought<'a>>,
    /// How many lines a part takes that another takes before it: by the place of the first, then the other.
    overlaps: Vec<u64>,
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
        let sought: Vec<_> = split.parts.iter().map(|part| Sought::by(&part.which)).collect();
        let overlaps = vec![0; sought.len() * sought.len()];
        Self { account, sought, overlaps, calendar, currency, cuts }
    }

    /// Deals a line out: the place of the part that takes it, or `None` when it is left.
    pub fn see(&mut self, line: &Line<'_>) -> Option<usize> {
        let seen = Seen::of(line, &self.sought);
        let parts = self.sought.len();
        let mut takers = (0..parts).filter(|at| self.sought[*at].takes(&seen));
        let taker = takers.next();
        if let Some(first) = taker {
            for other in takers {
                self.overlaps[first * parts + other] += 1;
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

    /// Ends: what parts have in common is told.
    pub fn finish(self) {
        let parts = self.sought.len().max(1);
        for (at, lines) in self.overlaps.into_iter().enumerate().filter(|(_, lines)| *lines > 0) {
            let both = (self.account, at / parts, at % parts);
            *self.cuts.overlaps.entry(both).or_default() += lines;
        }
    }
}

/// What a part looks for.
#[derive(Debug)]
struct Sought<'a> {
    which: &'a Which,
    payee: String,
    memo: String,
}

/// What parts ask of a line.
struct Seen<'a> {
    line: &'a Line<'a>,
    payee: String,
    memo: String,
    dimensions: Vec<DimensionValue>,
}

impl<'a> Sought<'a> {
    fn by(which: &'a Which) -> Self {
        Self { which, payee: folded(&which.payee), memo: folded(&which.memo) }
    }

    fn takes(&self, seen: &Seen<'_>) -> bool {
        let Which { from, until, dimension, entries, .. } = self.which;
        let date = seen.line.content.date;
        from.is_none_or(|from| from <= date)
            && until.is_none_or(|until| date <= until)
            && seen.payee.contains(&self.payee)
            && seen.memo.contains(&self.memo)
            && dimension.as_ref().is_none_or(|wanted| seen.dimensions.contains(wanted))
            && (entries.is_empty() || entries.contains(seen.line.entry))
    }
}

impl<'a> Seen<'a> {
    fn of(line: &'a Line<'a>, sought: &[Sought<'_>]) -> Self {
        let asked = |of: fn(&Sought<'_>) -> bool| sought.iter().any(of);
        let fold =
            |asked: bool, text: &str| if asked { text.to_lowercase() } else { String::new() };
        let dimensioned = asked(|sought| sought.which.dimension.is_some());
        Self {
            line,
            payee: fold(asked(|sought| !sought.payee.is_empty()), line.content.payee),
            memo: fold(asked(|sought| !sought.memo.is_empty()), line.content.memo),
            dimensions: if dimensioned {
                dimension::values(line.content.dimensions).into_iter().collect()
            } else {
                Vec::new()
            },
        }
    }
}

/// Texts are compared whatever the case, and nothing is contained in everything.
fn folded(sought: &str) -> String {
    sought.trim().to_lowercase()
}
