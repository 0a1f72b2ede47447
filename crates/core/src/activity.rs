//! What was posted: strands, their totals by period and currency, and the digest of their lines.

use crate::calendar::Period;
use crate::chart::Account;
use crate::ids::{AccountId, ById, ItemId, StrandId};
use crate::money::Currency;
use crate::statement::Class;
use std::collections::BTreeMap;
use std::collections::btree_map::Entry;
use std::ops::AddAssign;
use time::Date;
use xxhash_rust::xxh3::Xxh3;

/// What an account was when lines were posted to it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Posted {
    /// Its code.
    pub code: String,
    /// Its name.
    pub name: String,
    /// Its class.
    pub class: Class,
    /// The line of the statements that it stood under.
    pub caption: Option<ItemId>,
    /// The heading that it stood under.
    pub parent: Option<AccountId>,
    /// Whether it was a contra account.
    pub contra: bool,
}

impl Posted {
    /// What an account is now.
    pub fn to(account: &Account) -> Self {
        Self {
            code: account.code.to_string(),
            name: account.name.clone(),
            class: account.class,
            caption: account.place().1,
            parent: account.parent,
            contra: account.contra,
        }
    }
}

/// A run of journal lines that were posted to an account while it was one and the same.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Strand {
    /// Its identity.
    pub id: StrandId,
    /// The account that presents it now.
    pub account: AccountId,
    /// What the account that its lines were posted to was then.
    pub posted: Posted,
    /// The strand that it was carved from, when a part of a history was moved.
    pub carved_from: Option<StrandId>,
}

impl Strand {
    /// A strand that is opened for what is posted to an account from now on.
    pub fn opened(id: StrandId, account: &Account) -> Self {
        Self { id, account: account.id, posted: Posted::to(account), carved_from: None }
    }
}

/// The period and currency that totals are kept by. Lines in base currency carry that currency.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Slot {
    /// The fiscal period of the lines.
    pub period: Period,
    /// Their currency.
    pub currency: Currency,
}

/// What a set of lines adds up to. Amounts are minor units of the base currency, and of the line's
/// own currency for the foreign ones.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Totals {
    /// Sum of the debits.
    pub debit: i128,
    /// Sum of the credits, as a positive number.
    pub credit: i128,
    /// Sum of the foreign debits.
    pub foreign_debit: i128,
    /// Sum of the foreign credits, as a positive number.
    pub foreign_credit: i128,
    /// How many lines.
    pub lines: u64,
    /// Sum of the lines' [`LineContent::hash`]es: equal for equal sets of lines, however grouped.
    pub digest: u128,
}

impl Totals {
    /// Debits less credits.
    pub fn net(&self) -> i128 {
        self.debit - self.credit
    }

    /// The totals of one line.
    pub fn of_line(line: &LineContent<'_>) -> Self {
        let side = |amount: i64| (i128::from(amount.max(0)), i128::from(amount).min(0).abs());
        let (debit, credit) = side(line.amount);
        let (foreign_debit, foreign_credit) = side(line.foreign.map_or(0, |(amount, _)| amount));
        let digest = u128::from(line.hash());
        Self { debit, credit, foreign_debit, foreign_credit, lines: 1, digest }
    }
}

impl AddAssign for Totals {
    fn add_assign(&mut self, other: Self) {
        self.debit += other.debit;
        self.credit += other.credit;
        self.foreign_debit += other.foreign_debit;
        self.foreign_credit += other.foreign_credit;
        self.lines += other.lines;
        self.digest += other.digest;
    }
}

/// Everything about a line that never changes after posting.
#[derive(Clone, Copy, Debug)]
pub struct LineContent<'a> {
    /// The line's identity.
    pub id: i64,
    /// The entry's identity.
    pub entry: i64,
    /// The day it was posted for.
    pub date: Date,
    /// Signed minor units of the base currency; debits are positive.
    pub amount: i64,
    /// Signed minor units of another currency, if any.
    pub foreign: Option<(i64, Currency)>,
    /// Who was paid or paid.
    pub payee: &'a str,
    /// What it was for.
    pub memo: &'a str,
    /// The number of the document.
    pub reference: &'a str,
    /// Dimension values, as stored.
    pub dimensions: &'a str,
}

impl LineContent<'_> {
    /// A 64-bit hash (XXH3) of identity and content; not of strand or cleared mark, which change.
    pub fn hash(&self) -> u64 {
        let mut hasher = Xxh3::new();
        for number in [self.id, self.entry, self.date.to_julian_day().into(), self.amount] {
            hasher.update(&number.to_le_bytes());
        }
        if let Some((amount, currency)) = self.foreign {
            hasher.update(&amount.to_le_bytes());
            hasher.update(currency.as_str().as_bytes());
        }
        for text in [self.payee, self.memo, self.reference, self.dimensions] {
            hasher.update(&(text.len() as u64).to_le_bytes());
            hasher.update(text.as_bytes());
        }
        hasher.digest()
    }
}

/// What some lines of one period and currency add up to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Share {
    /// Their totals.
    pub totals: Totals,
    /// The date of the latest.
    pub last: Date,
    /// How many of them were cleared in a bank reconciliation.
    pub cleared: u64,
}

impl Share {
    /// The share of one line.
    pub fn of_line(line: &LineContent<'_>, cleared: bool) -> Self {
        Self { totals: Totals::of_line(line), last: line.date, cleared: u64::from(cleared) }
    }
}

impl AddAssign for Share {
    fn add_assign(&mut self, other: Self) {
        self.totals += other.totals;
        self.last = self.last.max(other.last);
        self.cleared += other.cleared;
    }
}

/// What is known of the lines of a strand, or of a part of one, without reading them.
pub type Shares = BTreeMap<Slot, Share>;

/// Adds lines of one period and currency to what is known of others.
pub fn add_share(shares: &mut Shares, slot: Slot, share: Share) {
    match shares.entry(slot) {
        Entry::Vacant(vacant) => drop(vacant.insert(share)),
        Entry::Occupied(mut there) => *there.get_mut() += share,
    }
}

/// All strands of a set of books with their totals.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Activity {
    strands: BTreeMap<StrandId, (Strand, Shares, Figures)>,
    latest: Option<Period>,
    /// The last period that counts for balances.
    as_of: Option<Period>,
    figures: ById<Figures>,
    by_slot: BTreeMap<Slot, Totals>,
    closings: Closings,
    openings: Openings,
}

/// What opening entries put on each strand in each period, as debits and credits, in minor units of the base currency:
/// it stood there before the journal began, and is no movement.
pub type Openings = BTreeMap<StrandId, BTreeMap<Period, Totals>>;

/// What the closing entries of years put on each strand in each period, debits less credits, in minor units of the
/// base currency: it is part of what the strand adds up to, and no part of what was earned or spent.
pub type Closings = BTreeMap<StrandId, BTreeMap<Period, i128>>;

/// What a strand, or an account over all strands that it presents, adds up to.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Figures {
    /// Totals of all lines, also of those dated ahead.
    pub all: Totals,
    /// Totals up to the as-of date of the books.
    pub to_date: Totals,
    /// Totals of the fiscal year of the as-of date, up to it.
    pub this_year: Totals,
    /// How many lines the fiscal year before that one has.
    pub last_year: u64,
    /// The date of the latest line.
    pub last: Option<Date>,
    /// How many lines were cleared in a bank reconciliation.
    pub cleared: u64,
}

impl AddAssign for Figures {
    fn add_assign(&mut self, other: Self) {
        self.all += other.all;
        self.to_date += other.to_date;
        self.this_year += other.this_year;
        self.last_year += other.last_year;
        self.last = self.last.max(other.last);
        self.cleared += other.cleared;
    }
}

impl Figures {
    /// What a strand, or a part of one, adds up to, with the last period that counts.
    pub fn of<'a>(
        shares: impl IntoIterator<Item = (&'a Slot, &'a Share)>,
        as_of: Option<Period>,
    ) -> Self {
        let mut figures = Self::default();
        for (slot, share) in shares {
            figures.all += share.totals;
            figures.last = figures.last.max(Some(share.last));
            figures.cleared += share.cleared;
            if as_of.is_none_or(|last| slot.period <= last) {
                figures.to_date += share.totals;
                let years_ago = as_of.map(|last| last.year_start().0 - slot.period.year_start().0);
                match years_ago {
                    Some(0) => figures.this_year += share.totals,
                    Some(12) => figures.last_year += share.totals.lines,
                    _ => {}
                }
            }
        }
        figures
    }

    /// What it stands at at the end of the last period that counts.
    pub fn net(&self) -> Net {
        Net { to_date: self.to_date.net(), this_year: self.this_year.net() }
    }

    /// The same at the end of a period, whose fiscal year counts as this year.
    pub fn until(shares: &Shares, last: Period) -> Self {
        Self::of(shares.iter().filter(|(slot, _)| slot.period <= last), Some(last))
    }
}

/// What an account stands at at the end of a period, debits less credits, in minor units of the base currency.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Net {
    /// Of all lines up to it.
    pub to_date: i128,
    /// Of those in its fiscal year.
    pub this_year: i128,
}

impl Net {
    /// Adds what some lines come to at the end of each of some periods.
    pub fn add_to(sums: &mut Vec<Self>, shares: &Shares, ends: &[Period]) {
        sums.resize(ends.len(), Self::default());
        for (slot, share) in shares {
            let net = share.totals.net();
            for (sum, end) in sums.iter_mut().zip(ends) {
                if slot.period <= *end {
                    sum.to_date += net;
                    sum.this_year += if slot.period >= end.year_start() { net } else { 0 };
                }
            }
        }
    }
}

/// The last period that counts when the books lay none down: the latest, not after today's, with at
/// least a tenth of the lines of the median period. A line that slipped into a year to come, by a slip
/// of the pen or for a standing order, does not make that year this one.
pub fn usual_as_of(lines: &BTreeMap<Period, u64>, now: Period) -> Option<Period> {
    let mut counts: Vec<u64> = lines.values().copied().filter(|count| *count > 0).collect();
    counts.sort_unstable();
    let median = counts.get(counts.len() / 2).copied().unwrap_or_default();
    let in_time = || lines.iter().rev().filter(|(period, _)| **period <= now);
    let usual = in_time().find(|(_, count)| **count * 10 >= median);
    usual
        .or_else(|| in_time().next())
        .or_else(|| lines.iter().next_back())
        .map(|(period, _)| *period)
}

impl Activity {
    /// The activity of these strands, up to the last period in which anything was posted.
    pub fn new(strands: impl IntoIterator<Item = (Strand, Shares)>) -> Self {
        let strands: Vec<_> = strands.into_iter().collect();
        let slots = strands.iter().filter_map(|(_, shares)| shares.last_key_value());
        let latest = slots.map(|(slot, _)| slot.period).max();
        let with_figures = |(strand, activity): (Strand, Shares)| {
            let figures = Figures::of(&activity, latest);
            (strand.id, (strand, activity, figures))
        };
        let strands: BTreeMap<_, _> = strands.into_iter().map(with_figures).collect();
        let mut by_slot: BTreeMap<Slot, Totals> = BTreeMap::new();
        for (_, activity, _) in strands.values() {
            for (slot, share) in activity {
                *by_slot.entry(*slot).or_default() += share.totals;
            }
        }
        let mut activity = Self {
            strands,
            latest,
            as_of: latest,
            figures: ById::default(),
            by_slot,
            closings: Closings::default(),
            openings: Openings::default(),
        };
        activity.figures = activity.by_account(|strand| strand.account);
        activity
    }

    /// The same up to the end of a period, whose fiscal year counts as this year.
    pub fn as_of(mut self, last: Period) -> Self {
        if self.as_of != Some(last) {
            self.as_of = Some(last);
            for (_, shares, figures) in self.strands.values_mut() {
                *figures = Figures::of(&*shares, Some(last));
            }
            self.figures = self.by_account(|strand| strand.account);
        }
        self
    }

    /// The same, of whose lines these are from closing entries.
    pub fn with_closings(self, closings: Closings) -> Self {
        Self { closings, ..self }
    }

    /// The same, of whose lines these are from opening entries.
    pub fn with_openings(self, openings: Openings) -> Self {
        Self { openings, ..self }
    }

    /// What opening entries put on a strand, by period.
    pub fn openings(&self, strand: StrandId) -> Option<&BTreeMap<Period, Totals>> {
        self.openings.get(&strand)
    }

    /// What closing entries put on a strand, by period.
    pub fn closings(&self, strand: StrandId) -> Option<&BTreeMap<Period, i128>> {
        self.closings.get(&strand)
    }

    /// The last period that counts for balances.
    pub fn last(&self) -> Option<Period> {
        self.as_of
    }

    /// How many lines are dated behind a period.
    pub fn lines_after(&self, last: Period) -> u64 {
        let ahead = self.by_slot.iter().filter(|(slot, _)| slot.period > last);
        ahead.map(|(_, totals)| totals.lines).sum()
    }

    /// How many lines each period has.
    pub fn lines_by_period(&self) -> BTreeMap<Period, u64> {
        let mut lines = BTreeMap::new();
        for (slot, totals) in &self.by_slot {
            *lines.entry(slot.period).or_default() += totals.lines;
        }
        lines
    }

    /// What each account adds up to today.
    pub fn figures(&self) -> &ById<Figures> {
        &self.figures
    }

    /// What each account adds up to at the end of a period, whose fiscal year counts as this year.
    pub fn figures_to(&self, last: Period) -> ById<Figures> {
        let mut figures: ById<Figures> = ById::default();
        for (strand, activity, _) in self.strands.values() {
            *figures.entry(strand.account).or_default() += Figures::until(activity, last);
        }
        figures
    }

    /// What each account stands at at the end of each of some periods.
    pub fn nets_at(&self, ends: &[Period]) -> ById<Vec<Net>> {
        let mut nets: ById<Vec<Net>> = ById::default();
        for (strand, shares, _) in self.strands.values() {
            Net::add_to(nets.entry(strand.account).or_default(), shares, ends);
        }
        nets
    }

    /// Every strand with its totals and what they add up to.
    pub fn strands(&self) -> impl Iterator<Item = &(Strand, Shares, Figures)> {
        self.strands.values()
    }

    /// One strand.
    pub fn strand(&self, id: StrandId) -> Option<&Strand> {
        self.strands.get(&id).map(|(strand, ..)| strand)
    }

    /// The first period in which anything was posted.
    pub fn first(&self) -> Option<Period> {
        self.by_slot.keys().next().map(|slot| slot.period)
    }

    /// The last period in which anything was posted.
    pub fn latest(&self) -> Option<Period> {
        self.latest
    }

    /// What each account adds up to, if each strand were presented by the account given for it.
    pub fn by_account(&self, presenter: impl Fn(&Strand) -> AccountId) -> ById<Figures> {
        let mut accounts =
            ById::<Figures>::with_capacity_and_hasher(self.figures.len(), Default::default());
        for (strand, _, figures) in self.strands() {
            *accounts.entry(presenter(strand)).or_default() += *figures;
        }
        accounts
    }

    /// What all lines add up to by period and currency, over all strands.
    pub fn by_slot(&self) -> &BTreeMap<Slot, Totals> {
        &self.by_slot
    }
}
