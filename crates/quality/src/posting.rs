//! What is posted to the accounts of made-up books, and the books that come of it.

use crate::lines::{Rhythm, Voice, Whereabouts};
use rand::Rng;
use rand::seq::IndexedRandom;
use rand_chacha::ChaCha8Rng;
use std::collections::BTreeMap;
use time::{Date, Month};
use zf_core::activity::{Activity, LineContent, Share, Shares, Slot, Strand, add_share};
use zf_core::calendar::FiscalCalendar;
use zf_core::chart::{Account, Chart, Class};
use zf_core::ids::{AccountId, StrandId};
use zf_core::money::Currency;
use zf_core::review::sketch::{Sketches, Sketching};
use zf_core::today::Today;

/// The currency of the books.
pub(crate) const CURRENCY: &str = "GBP";

/// An account, with what is posted to it.
pub(crate) struct Posted {
    pub(crate) account: Account,
    /// The class that it is posted to as, which it need not have.
    pub(crate) class: Class,
    pub(crate) voice: Voice,
    pub(crate) rhythm: Rhythm,
    pub(crate) whereabouts: Whereabouts,
    /// The place of its heading.
    pub(crate) heading: usize,
}

/// What is posted, and on what it depends.
pub(crate) struct Posting<'a> {
    pub(crate) accounts: &'a [Posted],
    /// Who turns up now and then in lines under each heading.
    pub(crate) around: &'a [Vec<String>],
    /// The accounts on the other side of lines of a class.
    pub(crate) against: &'a dyn Fn(Class) -> &'a [AccountId],
}

/// What was posted.
pub(crate) struct Lines {
    shares: BTreeMap<AccountId, Shares>,
    sketches: Sketches,
    currency: Currency,
    calendar: FiscalCalendar,
}

impl Posting<'_> {
    /// Posts; dimension values are drawn apart from the rest, so that books with and without them are else the same.
    pub(crate) fn post(
        &self,
        rng: &mut ChaCha8Rng,
        whereabouts_rng: &mut ChaCha8Rng,
    ) -> anyhow::Result<Lines> {
        let (currency, calendar) = (Currency::parse(CURRENCY)?, FiscalCalendar::starting(1, 1)?);
        let mut shares: BTreeMap<AccountId, Shares> = BTreeMap::new();
        let mut sketching = Sketching::default();
        let mut entry = 0;
        for posted in self.accounts {
            let Posted { account, class, voice, rhythm, whereabouts, heading } = posted;
            let around = self.around.get(*heading).filter(|_| !voice.people.is_empty());
            let around = around.map_or(&[][..], Vec::as_slice);
            let debit = account.grows_by_debits_as(*class);
            let lines = rhythm.lines(rng);
            let against = (self.against)(*class);
            let usual_against = against.choose(rng).copied();
            for (month, amount) in lines {
                let (payee, memo) = voice.says(around, rng);
                let dimensions = whereabouts.says(whereabouts_rng);
                let turned = rng.random_bool(if class.on_balance_sheet() { 0.4 } else { 0.05 });
                let amount = if debit == turned { -amount } else { amount };
                let other = match rng.random_range(0..10) {
                    0 | 1 => against.choose(rng).copied(),
                    _ => usual_against,
                };
                let Some(other) = other.filter(|other| *other != account.id) else { continue };
                let day = rng.random_range(1..28);
                let month_of = Month::try_from(u8::try_from(month % 12 + 1)?)?;
                let date =
                    Date::from_calendar_date(2021 + i32::try_from(month / 12)?, month_of, day)?;
                entry += 1;
                let both = [(account.id, amount), (other, -amount)];
                for (account, amount) in both {
                    let content = LineContent {
                        id: entry,
                        entry,
                        date,
                        amount,
                        foreign: None,
                        payee: &payee,
                        memo: &memo,
                        reference: "",
                        dimensions: &dimensions,
                    };
                    let slot = Slot { period: calendar.period_of(date), currency };
                    let of = shares.entry(account).or_default();
                    add_share(of, slot, Share::of_line(&content, false));
                }
                both.iter().for_each(|(on, _)| sketching.line(on.0, &payee, &memo, &dimensions));
                sketching.entry(&both.map(|(on, amount)| (on.0, amount >= 0)));
            }
        }
        let sketches = sketching.done().map(|(id, sketch)| (AccountId(id), sketch)).collect();
        Ok(Lines { shares, sketches, currency, calendar })
    }
}

impl Lines {
    /// The books of a chart with these lines.
    pub(crate) fn books(self, chart: Chart) -> (Today, Sketches) {
        let strands = self.shares.into_iter().filter_map(|(id, shares)| {
            Some((Strand::opened(StrandId(id.0), chart.get(id)?), shares))
        });
        let activity = Activity::new(strands);
        let unposted = Today::unposted(chart, self.currency, self.calendar);
        let today = Today { activity, ..unposted };
        (today, self.sketches)
    }
}
