//! Look-alikes of 10,000 accounts, against comparing every pair.

use crate::Measured;
use std::collections::BTreeSet;
use std::time::Instant;
use zf_core::activity::{Activity, Share, Shares, Slot, Strand, Totals};
use zf_core::calendar::{FiscalCalendar, Period};
use zf_core::chart::{Account, Chart, Class};
use zf_core::code::Code;
use zf_core::ids::{AccountId, StrandId};
use zf_core::money::Currency;
use zf_core::review::NotDuplicates;
use zf_core::review::look_alikes::{Found, LookAlike, find, find_slowly};
use zf_core::review::sketch::Sketches;
use zf_core::today::Today;

/// Accounts by the place they are for, what it is, and what is done with it.
const PLACES: usize = 33;
const THINGS: usize = 30;
const DOINGS: usize = 10;

/// One account in so many has a twin that was given up.
const TWINNED: usize = 97;

/// Syllables that made-up words are put together from.
const SYLLABLES: [&str; 12] =
    ["bar", "den", "fol", "gim", "hul", "kor", "lan", "mer", "nos", "pil", "rud", "tev"];

pub(crate) fn measure() -> anyhow::Result<Measured> {
    let (today, twins) = today()?;
    let sketches = Sketches::default();
    let began = Instant::now();
    let found = pairs(&find(&today, &sketches, &NotDuplicates::default()));
    let ours = began.elapsed();
    let began = Instant::now();
    let all = pairs(&find_slowly(&today, &sketches));
    let slowly = began.elapsed();
    anyhow::ensure!(twins.is_subset(&all) && twins.is_subset(&found), "a planted pair was lost");
    let name = "look-alikes of 10,000 accounts, no planted pair lost";
    Ok(Measured::new(name, ours, "comparing every pair", slowly, 100.0))
}

fn pairs(found: &Found) -> BTreeSet<(i64, i64)> {
    let of = |group: &LookAlike| {
        let ids = group.accounts.clone();
        let pair = move |a: AccountId| {
            let others = ids.clone().into_iter().filter(move |b| a < *b);
            others.map(move |b| (a.0, b.0))
        };
        group.accounts.clone().into_iter().flat_map(pair)
    };
    found.sure.iter().chain(&found.worth_a_look).flat_map(of).collect()
}

/// A word of three syllables, another for each number.
fn word(kind: usize, n: usize) -> String {
    let at = |place: usize| SYLLABLES[(n / 12_usize.pow(place as u32) + kind * 5 + place * 7) % 12];
    format!("{}{}{}", at(0), at(1), ["a", "e", "o"][kind])
}

fn today() -> anyhow::Result<(Today, BTreeSet<(i64, i64)>)> {
    let currency = Currency::parse("GBP")?;
    let (mut accounts, mut strands, mut twins) = (Vec::new(), Vec::new(), BTreeSet::new());
    let mut add = |id: usize, name: String, last: i32| -> anyhow::Result<()> {
        let class = Class::ALL[id / 7 % Class::ALL.len()];
        let code = Code::parse(&format!("{}", 100_000 + id * 3))?;
        let account = Account::new(AccountId(id as i64), code, name, class);
        let slot = Slot { period: Period(24_300 + last), currency };
        let totals = Totals { debit: 100, credit: 100, lines: 2, digest: 1, ..Totals::default() };
        let calendar = FiscalCalendar::starting(1, 1)?;
        let last = calendar.first_day(slot.period);
        let activity = Shares::from([(slot, Share { totals, last, cleared: 0 })]);
        strands.push((Strand::opened(StrandId(id as i64), &account), activity));
        accounts.push(account);
        Ok(())
    };
    let mut id = 0;
    for n in 0..PLACES * THINGS * DOINGS {
        let (place, thing) = (word(0, n / DOINGS / THINGS), word(1, n / DOINGS % THINGS));
        let doing = word(2, n % DOINGS);
        add(id, format!("{place} {thing} {doing}"), 36)?;
        if n % TWINNED == 0 {
            // In another order, and with a letter too many.
            add(id + 1, format!("{doing}s {place}, {thing}e"), 3)?;
            twins.insert((id as i64, id as i64 + 1));
            id += 1;
        }
        id += 1;
    }
    // A twin lies in the class of the account it stands for.
    for (a, b) in &twins {
        let class = accounts[*a as usize].class;
        accounts[*b as usize].class = class;
    }
    let today = Today {
        activity: Activity::new(strands),
        ..Today::unposted(Chart::new(accounts), currency, FiscalCalendar::starting(1, 1)?)
    };
    Ok((today, twins))
}
