//! Single codes: which is free next, and where one would stand.

use crate::chart::{Account, Chart, Class, Section, Status};
use crate::code::{Code, CodeKey, Interval};
use crate::former::FormerCodes;
use crate::ids::ItemId;
use crate::policy::{Objection, Policy};
use std::collections::{BTreeMap, HashSet};

/// How far ahead a free code is looked for.
const FAR: u64 = 100_000;

/// A code taken apart: what stands before its last run of digits, and that run.
pub(crate) fn counted(code: &Code) -> Option<(&str, u64, usize)> {
    let text = code.as_str();
    let stem = text.trim_end_matches(|c: char| c.is_ascii_digit());
    let digits = &text[stem.len()..];
    Some((stem, digits.parse().ok()?, digits.len()))
}

/// A code with its last run of digits written with a number; `None` when it is too wide.
pub(crate) fn count_to(stem: &str, number: u64, width: usize) -> Option<Code> {
    let digits = format!("{number:0width$}");
    (digits.len() == width).then(|| Code::parse(&format!("{stem}{digits}")).ok())?
}

/// The next code from so many on after this one that is free, counting its last run of digits up at
/// equal width.
pub fn next_free(code: &Code, from: u64, taken: &HashSet<CodeKey>) -> Option<Code> {
    let (stem, number, width) = counted(code)?;
    (from..=FAR)
        .map_while(|by| count_to(stem, number.checked_add(by)?, width))
        .find(|next| !taken.contains(&next.key()))
}

/// The first free code where accounts of a class and section belong: after the last one of them
/// that is there, or else anywhere in their blocks.
pub fn free_in_block(
    chart: &Chart,
    policy: &Policy,
    class: Class,
    section: Option<Section>,
) -> Option<Code> {
    let taken: HashSet<CodeKey> = chart.live().map(|account| account.code.key()).collect();
    let blocks = policy.blocks_of(class, section);
    let kept = policy.kept_for_others(class, section);
    let fits = |code: &Code| {
        let inside = |block: &&Interval| block.contains(&code.key());
        (blocks.is_empty() || blocks.iter().any(inside))
            && !kept.iter().any(inside)
            && policy.format.objection(code).is_none()
    };
    let own = |account: &&Account| {
        account.is_posting() && account.class == class && account.standard() == section
    };
    let last =
        chart.live().filter(own).map(|a| &a.code).filter(|c| fits(c)).max_by_key(|c| c.key());
    let after_last = last.and_then(|last| next_free(last, 1, &taken)).filter(&fits);
    // From the start of a block, or from behind what it keeps for others.
    let starts = blocks.iter().map(|block| (block.first(), 0));
    let mut starts = starts.chain(kept.iter().map(|others| (others.last(), 1)));
    let in_block = || starts.find_map(|(from, step)| next_free(from, step, &taken).filter(&fits));
    after_last.or_else(in_block)
}

/// Where a code would stand.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Place<'a> {
    /// Who bears it, so that it is not free.
    pub bearer: Option<&'a Account>,
    /// The account that it would stand behind.
    pub before: Option<&'a Account>,
    /// The account that it would stand in front of.
    pub after: Option<&'a Account>,
    /// Who used to bear it, or holds the history of who did.
    pub former: Vec<&'a Account>,
    /// What is wrong with its form.
    pub objection: Option<Objection>,
    /// Where codes of its class and section lie, when it lies elsewhere.
    pub outside: Vec<Interval>,
}

/// Where a code would stand on a chart, for an account of a class and section.
pub fn place<'a>(
    code: &Code,
    chart: &'a Chart,
    former: &FormerCodes,
    policy: &Policy,
    (class, section): (Class, Option<Section>),
) -> Place<'a> {
    let key = code.key();
    let others = || chart.live().filter(|account| account.code.key() != key);
    let holders = former.holders(&key, chart);
    let blocks = policy.blocks_of(class, section);
    let outside = !blocks.is_empty() && !blocks.iter().any(|block| block.contains(&key));
    let blocks: Vec<Interval> = blocks.into_iter().cloned().collect();
    Place {
        bearer: chart.by_code(&key),
        before: others().filter(|a| a.code.key() < key).max_by_key(|a| a.code.key()),
        after: others().filter(|a| a.code.key() > key).min_by_key(|a| a.code.key()),
        former: holders.into_iter().filter(|holder| holder.code.key() != key).collect(),
        objection: policy.format.objection(code),
        outside: if outside { blocks } else { Vec::new() },
    }
}

/// The active accounts at a place on the statements, by code.
pub fn under_line(chart: &Chart, place: (Class, Option<ItemId>)) -> Vec<&Account> {
    let active = chart.live().filter(|a| a.is_posting() && a.status == Status::Active);
    let mut own: Vec<&Account> = active.filter(|a| a.place() == place).collect();
    own.sort_by_key(|account| account.code.key());
    own
}

/// How many accounts are shown as examples.
const EXAMPLES: usize = 6;

/// A few of some accounts, spread over all of them.
pub fn examples<'a>(accounts: &[&'a Account]) -> Vec<&'a Account> {
    accounts.iter().step_by(accounts.len().div_ceil(EXAMPLES).max(1)).copied().collect()
}

/// The tax code that most of some accounts start new lines with.
pub fn usual_tax(accounts: &[&Account]) -> Option<String> {
    let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
    for code in accounts.iter().filter_map(|account| account.tax_code.as_deref()) {
        *counts.entry(code).or_default() += 1;
    }
    let most = counts.into_iter().max_by_key(|(_, count)| *count)?;
    (most.1 * 2 > accounts.len()).then(|| most.0.to_owned())
}
