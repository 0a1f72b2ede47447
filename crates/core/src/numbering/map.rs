//! The number map: where every code lies on the line of codes, today and after.

use crate::chart::{Account, Chart, Class, Section};
use crate::code::{Code, Interval};
use crate::free_codes::{count_to, counted};
use crate::ids::AccountId;
use crate::numbering::inferred_blocks::inferred_blocks;
use crate::policy::{Block, Policy};
use std::collections::{BTreeMap, BTreeSet};

/// A stretch of the line. All are drawn equally wide.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Band {
    /// The class it is for; `None` where the books have no numbering scheme.
    pub class: Option<Class>,
    /// The section it is for.
    pub section: Option<Section>,
    /// The codes.
    pub codes: Interval,
    /// How many codes there are, and how many are taken today and after.
    pub room: u64,
    /// Taken today.
    pub today: usize,
    /// Taken after.
    pub after: usize,
    /// The longest stretch of codes that are free after.
    pub free: Option<Interval>,
}

/// A row of the chart on the line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tick {
    /// The row.
    pub account: AccountId,
    /// Where it lies today, from 0 to 1; `None` when it is not there.
    pub today: Option<f64>,
    /// Where it lies after.
    pub after: Option<f64>,
    /// Whether it lies outside its block today.
    pub stray: bool,
    /// Whether it does after.
    pub strays: bool,
}

/// A picture of the line of codes.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Map {
    /// The bands, in the order of their codes.
    pub bands: Vec<Band>,
    /// The rows.
    pub ticks: Vec<Tick>,
    /// Whether no numbering scheme sets the bands: they are inferred from the codes that there are.
    pub inferred: bool,
}

/// Draws the line: the bands are the blocks of the classes, or of the sections where only these have
/// any; without a numbering scheme, the blocks inferred from its codes, else the codes that begin
/// alike.
pub fn map(today: &Chart, after: &Chart, policy: &Policy) -> Map {
    let inferred = if policy.blocks.is_empty() { inferred_blocks(today) } else { Vec::new() };
    if inferred.is_empty() {
        return drawn(today, after, policy);
    }
    let mut policy = policy.clone();
    policy.blocks = inferred;
    Map { inferred: true, ..drawn(today, after, &policy) }
}

fn drawn(today: &Chart, after: &Chart, policy: &Policy) -> Map {
    let mut bands = bands(today, policy);
    bands.sort_by_key(|band| band.codes.first().key());
    let ids: BTreeSet<AccountId> = today.live().chain(after.live()).map(|row| row.id).collect();
    let ticks = ids.into_iter().map(|account| {
        let of = |chart: &Chart| {
            let row = chart.get(account).filter(|row| row.is_live())?;
            Some((place(&bands, &row.code), policy.missed_blocks(row).is_some()))
        };
        let (now, then) = (of(today), of(after));
        Tick {
            account,
            today: now.map(|(at, _)| at),
            after: then.map(|(at, _)| at),
            stray: now.is_some_and(|(_, stray)| stray),
            strays: then.is_some_and(|(_, stray)| stray),
        }
    });
    let ticks = ticks.collect();
    let inside = |codes: &Interval, chart: &Chart| {
        chart.live().filter(|row| codes.contains(&row.code.key())).count()
    };
    for band in &mut bands {
        (band.today, band.after) = (inside(&band.codes, today), inside(&band.codes, after));
        band.free = longest_gap(&band.codes, after);
    }
    Map { bands, ticks, inferred: false }
}

fn bands(today: &Chart, policy: &Policy) -> Vec<Band> {
    let general = policy.blocks.iter().any(|block| block.section.is_none());
    let shown = policy.blocks.iter().filter(|block| !general || block.section.is_none());
    let of_block = |block: &Block| band(Some(block.class), block.section, block.codes.clone());
    let fixed: Vec<Band> = shown.map(of_block).collect();
    if fixed.is_empty() { alike(today) } else { fixed }
}

fn band(class: Option<Class>, section: Option<Section>, codes: Interval) -> Band {
    let room = number(codes.last()).saturating_sub(number(codes.first())).saturating_add(1);
    let room = u64::try_from(room).unwrap_or(u64::MAX);
    Band { class, section, codes, room, today: 0, after: 0, free: None }
}

/// Codes that begin with the same character, from the first to the last of them.
fn alike(today: &Chart) -> Vec<Band> {
    let mut stretches: BTreeMap<char, Vec<&Account>> = BTreeMap::new();
    for row in today.live() {
        if let Some(first) = row.code.as_str().chars().next() {
            stretches.entry(first).or_default().push(row);
        }
    }
    let ends = stretches.into_values().filter_map(|rows| {
        let first = rows.iter().min_by_key(|row| row.code.key())?;
        let last = rows.iter().max_by_key(|row| row.code.key())?;
        Some(band(None, None, Interval::new(first.code.clone(), last.code.clone()).ok()?))
    });
    ends.collect()
}

/// The longest stretch of free codes of the form that the band's own ends have.
fn longest_gap(codes: &Interval, chart: &Chart) -> Option<Interval> {
    let (stem, first, width) = counted(codes.first())?;
    let (_, last, _) = counted(codes.last())?;
    let same = |code: &Code| {
        let (own, number, digits) = counted(code)?;
        (own == stem && digits == width && (first..=last).contains(&number)).then_some(number)
    };
    let taken: BTreeSet<u64> = chart.live().filter_map(|row| same(&row.code)).collect();
    let ends = taken.iter().copied().chain([last.checked_add(1)?]);
    let mut next = first;
    let mut longest: Option<(u64, u64)> = None;
    for end in ends {
        let better = longest.is_none_or(|(from, to)| end.saturating_sub(next) > to - from + 1);
        if end > next && better {
            longest = Some((next, end - 1));
        }
        next = end + 1;
    }
    let (from, to) = longest?;
    Interval::new(count_to(stem, from, width)?, count_to(stem, to, width)?).ok()
}

/// The digits of a code as a number, for drawing only.
fn number(code: &Code) -> u128 {
    let digits = code.as_str().bytes().filter(u8::is_ascii_digit);
    digits.fold(0, |n: u128, digit| n.saturating_mul(10).saturating_add(u128::from(digit - b'0')))
}

/// Where a code lies on the line. One between two bands lies at the end of the first.
fn place(bands: &[Band], code: &Code) -> f64 {
    let key = code.key();
    let Some(at) = bands.iter().rposition(|band| band.codes.first().key() <= key) else {
        return 0.0;
    };
    let (first, last) = (number(bands[at].codes.first()), number(bands[at].codes.last()));
    let within = number(code).clamp(first, last.max(first)) - first;
    let fraction = within as f64 / (last.saturating_sub(first) + 1) as f64;
    (at as f64 + fraction) / bands.len() as f64
}
